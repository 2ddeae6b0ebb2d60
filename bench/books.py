"""How much of a written book is read right: books of our own invention, short-hand and wordy, with remarks, headings and habits.

``python bench/books.py [--books 60] [--seed 1]``. Each book has an order, a school, a language, its own forms, alerts and lengths in front or
behind, commas or none, and remarks of words that nobody calls. Every element that was put in is held against what was read: the corner, its
length, changes, alerts, features, line, objects, and the gap. No list of readings was fitted to these books.
"""

from __future__ import annotations

import argparse
import random
import sys
from collections import Counter
from dataclasses import dataclass, field

from mirkle.core.notebook.decisions import NoteChange, NotePlace
from mirkle.core.notebook.edition import Edition
from mirkle.core.notes import rewording as written
from mirkle.core.notes.language import Language, Term
from mirkle.core.notes.model import Note, Reading
from mirkle.core.notes.reading import read_notes
from mirkle.files.notes.languages import shipped_languages

KINDS = ("direction", "grade", "length", "changes", "cautions", "features", "line", "objects", "gap")
# No more than this share of elements may be read wrongly or not at all.
WANTED = 0.995
TALK = {
    "en": [
        "look at this one again",
        "was 3 last year",
        "one more look on Friday",
        "house 27",
        "he lifted at 80",
        "not sure about the 2",
        "new stones here",
    ],
    "pt": ["ver outra vez", "era 3 no ano passado", "casa 27", "levantou aos 80", "não sei se é 2", "pedras novas aqui"],
}
HEADINGS = {"en": ["Slatehook", "Slatehook, first pass", "Quarry end"], "pt": ["Slatehook", "Pedreira, primeira passagem"]}


@dataclass
class Called:
    """What a note was made to call."""

    direction: str
    grade: str
    length: str | None = None
    changes: list[str] = field(default_factory=list)
    cautions: list[str] = field(default_factory=list)
    features: list[str] = field(default_factory=list)
    line: list[str] = field(default_factory=list)
    objects: list[str] = field(default_factory=list)
    gap: str = ""


class Hand:
    """One crew's way of writing: which form it uses for each word, and what stands where."""

    def __init__(self, rng: random.Random, language: Language) -> None:
        self.rng, self.language = rng, language
        self.wordy = rng.random() < 0.5
        self.grade_first = rng.random() < 0.35
        self.commas = self.wordy and rng.random() < 0.4
        self.remarks = rng.choice([0.0, 0.15, 0.35])
        self.halves = rng.random() < 0.4
        # Whoever writes several notes a line writes some alone as well.
        self.per_line = rng.choice([1, 1, 2, 3])
        self.stop = rng.choice([" ", ". ", "  "])
        self.alerts_behind, self.lengths_in_front = rng.random() < 0.2, rng.random() < 0.2
        self.forms: dict[tuple[str, str], str] = {}

    def terms(self, kind: str) -> list[Term]:
        """The terms of a kind."""
        return [t for t in self.language.terms if t.kind == kind]

    def form(self, term: Term) -> str:
        """How this crew writes a term, always in the same way."""
        key = term.kind, term.key
        if key not in self.forms:
            written = [w for w in term.written if w.isalnum()]
            self.forms[key] = self.rng.choice(written) if written and not self.wordy else term.said[0]
        return self.forms[key]

    def note(self) -> tuple[Called, str]:
        """A note, as what it calls and as it is written."""
        rng = self.rng
        side = rng.choice(self.terms("direction"))
        named = [t for t in self.terms("grade") if t.key in ("hairpin", "square")]
        called = Called(side.key, str(rng.randint(1, 6)))
        if rng.random() < 0.08:
            called.grade = rng.choice(named).key
        elif self.halves and rng.random() < 0.3:
            called.grade += rng.choice("+-")
        parts = [self._corner(self.corner_words(called))]
        if rng.random() < 0.25:
            length = rng.choice([t for t in self.terms("length") if t.key in ("short", "long", "very long")])
            called.length = length.key
            parts = [self.form(length), *parts] if self.lengths_in_front else [*parts, self.form(length)]
        if rng.random() < 0.25 and called.grade[0].isdigit():
            self._change(called, parts)
        if rng.random() < 0.2:
            alert = rng.choice([t for t in self.terms("caution") if t.key not in ("early", "late", "turn")])
            called.cautions.append(alert.key)
            parts = [*parts, self.form(alert)] if self.alerts_behind else [self.form(alert), *parts]
        over = next(t for t in self.terms("over") if t.key == "over")
        if rng.random() < 0.2:
            feature = rng.choice([t for t in self.terms("feature") if t.key not in ("line", "down", "up", "jump maybe")])
            with_over = rng.random() < 0.5
            called.features.append(f"over {feature.key}" if with_over else feature.key)
            parts.append(f"{over.said[0]} {self.form(feature)}" if with_over else self.form(feature))
        if rng.random() < 0.2:
            line = rng.choice([t for t in self.terms("line") if t.key not in ("flat", "keep into", "cut maybe")])
            called.line.append(line.key)
            parts.append(self.form(line))
        if rng.random() < 0.2:
            what = rng.choice([t for t in self.terms("object") if t.key not in ("entry", "neck")])
            where = rng.choice([t for t in self.terms("side") if t.key in ("inside", "outside")])
            called.objects.append(f"{what.key} {where.key}")
            parts.append(f"{self.form(what)} {where.said[0]}")
        if rng.random() < 0.8:
            metres = rng.choice([20, 30, 40, 50, 60, 80, 100, 120, 150, 200])
            called.gap = str(metres)
            parts.append(called.gap)
        elif rng.random() < 0.8 and not (called.changes and parts[-1].isalpha()):
            # "Tightens into" could be the change or the link.
            link = next(t for t in self.terms("link") if t.key == "into")
            called.gap = "into"
            parts.append(link.said[0])
        text = (", " if self.commas else " ").join(parts)
        if rng.random() < self.remarks:
            text = self._with_remark(text)
        return called, text

    def corner_words(self, called: Called) -> list[str]:
        """A corner's side and grade as this crew writes them, in its order."""
        side = self.form(next(t for t in self.terms("direction") if t.key == called.direction))
        grade = called.grade
        if not grade[0].isdigit():
            grade = self.form(next(t for t in self.terms("grade") if t.key == grade))
        elif grade[-1] in "+-" and self.wordy:
            half = next(t for t in self.terms("half") if t.key == {"+": "plus", "-": "minus"}[grade[-1]])
            grade = f"{grade[:-1]} {half.said[0]}"
        return [grade, side] if self.grade_first else [side, grade]

    def _corner(self, corner: list[str]) -> str:
        # "Lhp" would be asked about: no crew is guessed at.
        joined = not self.wordy and not self.grade_first and len(corner[0]) == 1 and corner[1][0].isdigit()
        return ("" if joined else " ").join(corner)

    def _change(self, called: Called, parts: list[str]) -> None:
        number = int(called.grade[0])
        tighter, wider = list(range(1, number)), list(range(number + 1, 7))
        kind, to = ("tightens", tighter) if tighter and (not wider or self.rng.random() < 0.7) else ("opens", wider)
        term = next(t for t in self.terms("change") if t.key == kind)
        if to and self.rng.random() < 0.7:
            grade = self.rng.choice(to)
            called.changes.append(f"{kind} {grade}")
            parts.append(f"{term.said[0]} {grade}")
        else:
            called.changes.append(kind)
            parts.append(term.said[0])

    def _with_remark(self, text: str) -> str:
        words = self.rng.choice(TALK[self.language.code])
        form = self.rng.choice(["({0})", "[{0}]", '"{0}"', "“{0}”", "// {0}", "# {0}"])
        remark = form.format(words)
        return f"{text} {remark}" if form[0] in "/#" or self.rng.random() < 0.7 else f"{remark} {text}"


def put_together(rng: random.Random, hand: Hand, texts: list[str], code: str) -> tuple[str, list[tuple[int, int]]]:
    """A book with a heading and pages, and where in it each note stands."""
    source, places, on_line = rng.choice(HEADINGS[code]) + "\n", [], hand.per_line
    for number, text in enumerate(texts):
        ends_line = texts[number - 1].rpartition(" ")[2] if number else ""
        several_drives = on_line < hand.per_line and rng.random() < 0.8 and not ("//" in texts[number - 1] or "#" in texts[number - 1])
        if number and number % 12 == 0:
            source += "\n" + {"en": "page", "pt": "página"}[code] + f" {number // 12 + 1}\n"
            on_line = 1
        elif several_drives and ends_line:
            source += hand.stop
            on_line += 1
        else:
            source += "\n"
            on_line = 1
        places.append((len(source), len(source) + len(text)))
        source += text
    return source + "\n", places


def found(note: Note) -> dict[str, object]:
    """What was read of a note, by the names of :class:`Called`."""
    gap = str(note.distance_m) if note.distance_m is not None else note.link or ""
    return {
        "direction": note.direction.value if note.direction else None,
        "grade": note.grade,
        "length": note.length,
        "changes": list(map(str, note.changes)),
        "cautions": list(note.cautions),
        "features": list(map(str, note.features)),
        "line": list(map(str, note.line_on_road)),
        "objects": list(map(str, note.objects)),
        "gap": gap,
    }


def proposals(rng: random.Random, reading: Reading, language: Language) -> tuple[int, list[str]]:
    """One correction on every second corner, written in the crew's hand into the book and read again: how many, and those that changed more
    than their subject or not that."""
    hand, marks, wanted = written.NoteWriter(reading, language), [], {}
    for note in reading.corners[::2]:
        subject = rng.choice(["grade", "direction", "distance", "length"])
        if subject == "distance" and (note.distance_m is None or note.gap_span is None):
            subject = "direction"
        if subject == "grade" and note.grade_span is None:
            continue
        value: object = None
        if subject == "grade":
            value = rng.choice([g for g in "123456" if g != note.grade])
            rewording = written.Rewording(grade=str(value))
        elif subject == "direction" and note.direction is not None:
            value = note.direction.other
            rewording = written.Rewording(direction=note.direction.other)
        elif subject == "distance":
            value = rng.choice([m for m in (30, 60, 90, 170) if m != note.distance_m])
            rewording = written.Rewording(distance_m=value)
        else:
            value = rng.choice([w for w in ("short", "long", "very long") if w != note.length])
            rewording = written.Rewording(length=str(value))
        text = hand.reworded(note, rewording)
        marks.append(NoteChange(key=f"f{note.index}", notes=NotePlace(note.index, note.index), text=text))
        wanted[note.index] = {**parts(note), subject: value}, text
    again = read_notes(Edition(reading, marks).text, shipped_languages(), order=reading.order)
    strayed = []
    for before, after in zip(reading.notes, again.notes, strict=False):
        meant, text = wanted.get(before.index, (parts(before), before.text))
        if parts(after) != meant:
            strayed.append(f"{before.text!r} -> {text!r}: {parts(after)} for {meant}")
    return len(marks), strayed + ["notes were lost or won"] * (len(again.notes) != len(reading.notes))


def parts(note: Note) -> dict[str, object]:
    """All that a note calls."""
    return {
        "grade": note.grade,
        "direction": note.direction,
        "distance": note.distance_m,
        "length": note.length,
        "changes": note.changes,
        "cautions": note.cautions,
        "features": note.features,
        "line": note.line_on_road,
        "objects": note.objects,
        "link": note.link,
        "remarks": note.remarks,
    }


def main() -> int:
    """Reads the books; returns 1 where fewer elements are right than wanted, or a side or grade stands there that nobody wrote."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--books", type=int, default=60)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--show", type=int, default=8, help="how many wrongly read notes to print")
    asked = parser.parse_args()
    rng = random.Random(asked.seed)
    right: Counter[str] = Counter()
    every: Counter[str] = Counter()
    lost = invented = notes_read = shown = corrected = differing = 0
    for _ in range(asked.books):
        language = rng.choice(shipped_languages())
        hand = Hand(rng, language)
        made = [hand.note() for _ in range(60)]
        source, places = put_together(rng, hand, [text for _, text in made], language.code)
        reading = read_notes(source, shipped_languages())
        corners = [n for n in reading.notes if n.direction is not None or n.grade is not None]
        changed, strayed = proposals(rng, reading, language)
        corrected, differing = corrected + changed, differing + len(strayed)
        for words in strayed[: max(0, asked.show - shown)]:
            shown += 1
            print(words)
        lost += max(0, len(made) - len(corners))
        invented += max(0, len(corners) - len(made))
        for (called, text), (begin, end) in zip(made, places, strict=True):
            within = [n for n in corners if n.direction_span is not None and begin <= n.direction_span.start < end]
            note = within[0] if len(within) == 1 else None
            told = found(note) if note is not None else {}
            wrong = []
            for kind in KINDS:
                wanted = getattr(called, kind)
                if wanted in (None, "", []) and told.get(kind) in (None, "", []):
                    continue
                every[kind] += 1
                if told.get(kind) == wanted:
                    right[kind] += 1
                else:
                    wrong.append(kind)
            notes_read += 1
            if wrong and shown < asked.show:
                shown += 1
                print(f"{text!r}: " + "; ".join(f"{k} {getattr(called, k)!r} read as {told.get(k)!r}" for k in wrong))
    print(f"{notes_read} notes in {asked.books} books; corners lost {lost}, invented {invented}")
    for kind in KINDS:
        print(f"  {kind:10} {right[kind] / max(every[kind], 1):7.2%} of {every[kind]}")
    share = sum(right.values()) / sum(every.values())
    print(f"elements right: {share:.2%}")
    print(f"corrections written: {corrected}, of which differ from their note in more than their subject: {differing}")
    return int(share < WANTED or invented > 0 or differing > 0)


if __name__ == "__main__":
    sys.exit(main())
