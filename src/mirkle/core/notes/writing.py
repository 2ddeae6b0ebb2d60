"""Writing notes back in the crew's own hand: its words, its order, its spacing."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, replace

from mirkle.core.clauses import clause
from mirkle.core.errors import UnusableNotes
from mirkle.core.notes.language import Language
from mirkle.core.notes.model import Direction, Note, Reading, Span
from mirkle.core.notes.reading import read_notes
from mirkle.core.notes.school import School
from mirkle.core.notes.speech import Speech

# A crew that calls so many numbers has a list of its own.
A_LIST = 8


@dataclass(frozen=True)
class Rewording:
    """What shall stand instead in a note; ``None`` leaves it as it is.

    ``length`` is a word of length, empty to strike it out; ``tightens`` is the grade that a tightening leads to; ``opens`` adds that
    it opens; ``feature`` stands instead of the crest that was called, or of a maybe; ``caution`` is put ahead of the corner. An
    empty ``tightens`` says that it does and not to what.
    """

    direction: Direction | None = None
    grade: str | None = None
    distance_m: int | None = None
    length: str | None = None
    tightens: str | None = None
    opens: bool = False
    feature: str | None = None
    caution: str | None = None


class Hand:
    """How one crew writes: which form it uses for each direction, grade and link, and which numbers it calls."""

    def __init__(self, reading: Reading, language: Language) -> None:
        self.reading, self.language = reading, language
        forms: dict[tuple[str, str], Counter[str]] = {}
        for token in reading.pieces:
            if token.key:
                forms.setdefault((token.kind, token.key), Counter())[token.text] += 1
        self._forms = {key: counter.most_common(1)[0][0] for key, counter in forms.items()}
        self.distances = sorted({n.distance_m for n in reading.notes if n.distance_m is not None})

    def form(self, kind: str, key: str) -> str:
        """The crew's own form of a term, or the language's shortest habit where it was never used."""
        if (kind, key) in self._forms:
            return self._forms[kind, key]
        if kind in ("grade", "distance") and key[:1].isdigit():
            return key
        term = self.language.term(key, kind)
        # A crew that writes L and R writes short-hand throughout. A grade's figures say nothing of how it writes words.
        like = kind if kind != "grade" and any(k == kind for k, _ in self._forms) else "direction"
        other = next((t for (k, _), t in self._forms.items() if k == like), "")
        short = len(other) <= 2 and bool(term.written)
        return term.written[0] if short else term.said[0]

    def nearest_distance(self, metres: float) -> int:
        """The number this crew would call for a distance: the nearest it uses; where it uses few, a round one, coarser with length."""
        if len(self.distances) >= A_LIST and metres <= 1.2 * self.distances[-1]:
            return min(self.distances, key=lambda d: abs(d - metres))
        step = 10 if metres < 100 else 20 if metres < 200 else 50
        usual = max(10, round(metres / step) * step)
        near = [d for d in self.distances if abs(d - metres) <= abs(usual - metres) + 0.02 * metres]
        return min(near, key=lambda d: abs(d - metres)) if near else usual

    def reworded(self, note: Note, rewording: Rewording) -> str:
        """The note's text with the rewording in it and everything else to the letter as it was.

        A distance is only put in where the note's own text holds one.
        """
        edits: list[tuple[Span, str]] = []
        if rewording.direction is not None and note.direction_span is not None:
            edits.append((note.direction_span, self.form("direction", rewording.direction.value)))
        if rewording.grade is not None and note.grade_span is not None:
            edits.append((note.grade_span, self.form("grade", rewording.grade)))
            edits += [(span, "") for span in self._halves_apart(note)]
        elif rewording.grade is not None and note.direction_span is not None:
            # "Right left 3": the side shares the grade behind it, and gets its own.
            at = note.direction_span.end if self.reading.order == "direction-first" else note.direction_span.start
            grade = self.form("grade", rewording.grade)
            edits.append((Span(at, at), f" {grade}" if at == note.direction_span.end else f"{grade} "))
        if rewording.distance_m is not None and note.gap_span is not None:
            edits.append((note.gap_span, str(rewording.distance_m)))
        if rewording.caution is not None and note.direction_span is not None and note.grade_span is not None:
            at = min(note.direction_span.start, note.grade_span.start)
            edits.append((Span(at, at), f"{self.form('caution', rewording.caution)} "))
        edits += self._shape_edits(note, rewording)
        text, start = note.text, note.span.start
        for span, new in sorted(edits, key=lambda e: e[0].start, reverse=True):
            if start <= span.start and span.end <= note.span.end:
                text = text[: span.start - start] + new + text[span.end - start :]
        return text

    def _halves_apart(self, note: Note) -> list[Span]:
        """Halves that stand apart from their grade, as in "5 right plus", with the space before them."""
        return [
            Span(t.span.start - 1, t.span.end)
            for t in self.reading.pieces
            if t.note == note.index and t.kind == "filler" and t.key in ("plus", "minus", "wide", "tight")
        ]

    def _shape_edits(self, note: Note, rewording: Rewording) -> list[tuple[Span, str]]:
        """Edits of length, change of radius and feature, at the words they replace or behind the corner."""
        if rewording == Rewording():
            return []
        own = [t for t in self.reading.pieces if note.span.start <= t.span.start and t.span.end <= note.span.end]
        corner = [s for s in (note.direction_span, note.grade_span, *self._halves_apart(note)) if s is not None]
        head = max((s.end for s in corner), default=None)
        edits: list[tuple[Span, str]] = []
        if rewording.length is not None and head is not None:
            old = next((t.span for t in own if t.kind == "length"), None)
            word = self.form("length", rewording.length) if rewording.length else ""
            if old is not None:
                # Striking the word out takes the space before it along.
                edits.append((Span(old.start - (not word), old.end), word))
            elif word:
                edits.append((Span(head, head), f" {word}"))
        if (rewording.tightens is not None or rewording.opens) and head is not None:
            behind = max([head, *(t.span.end for t in own if t.kind == "length")])
            sign = self.form("change", "opens" if rewording.opens else "tightens")
            joint = "" if not rewording.tightens or not sign[-1].isalnum() else " "
            edits.append((Span(behind, behind), f" {sign}{joint}{rewording.tightens or ''}"))
        if rewording.feature is not None:
            old = next(
                (t.span for t in own if t.kind == "feature" and ("crest" in t.key or t.key.endswith(" maybe"))), None
            )
            if old is not None:
                edits.append((old, self.form("feature", rewording.feature)))
        return edits

    @property
    def usual_caution(self) -> str:
        """The word that this crew warns with most often, of those that may stand ahead of any corner."""
        used = Counter(t.key for t in self.reading.pieces if t.kind == "caution")
        return max(("caution", "care"), key=lambda key: used[key])

    def with_feature(self, note: Note, key: str) -> str:
        """The note with something in the vertical on it, ahead of its distance: ``R5 /jump 30``, ``right 5 over jump 30``; a dip is not
        driven over: ``right 5 dip 30``."""
        over, feature = self.form("over", "over"), self.form("feature", key)
        words = over + feature if not over[-1].isalnum() else f"{over} {feature}"
        words = feature if key == "dip" else words
        span = note.gap_span
        if span is None or not note.span.start < span.start < note.span.end:
            return f"{note.text} {words}"
        cut = span.start - note.span.start
        return f"{note.text[:cut].rstrip()} {words} {note.text[cut:]}"

    def feature(self, key: str, *, distance_m: int | None) -> str:
        """A note of its own for something in the vertical: ``jump 40`` or ``40 jump``."""
        word = self.form("feature", key)
        if distance_m is None:
            return word
        return f"{distance_m} {word}" if self.reading.distance_first else f"{word} {distance_m}"

    def corner(self, direction: Direction, grade: str, *, distance_m: int | None) -> str:
        """A plain corner note, such as ``L4 60`` or ``4 left 60`` or ``60 left 4``."""
        side, number = self.form("direction", direction.value), self.form("grade", grade)
        tight = len(side) == 1 and grade[:1].isdigit()
        pair = [side, number] if self.reading.order == "direction-first" else [number, side]
        note = ("" if tight and self.reading.order == "direction-first" else " ").join(pair)
        if distance_m is None:
            return note
        return f"{distance_m} {note}" if self.reading.distance_first else f"{note} {distance_m}"

    def read_back(self, text: str) -> tuple[Note, ...]:
        """The notes in a replacement, read in this crew's language and order.

        Raises
        ------
        UnusableNotes
            It is no note, or holds words that can't be read.
        """
        return checked_replacement(text, self.language, order=self.reading.order)


@dataclass(frozen=True)
class Written:
    """A note written in some school and language; ``lost`` are the words that could not be carried over."""

    text: str
    lost: tuple[str, ...]


def written_out(note: Note, language: Language, *, order: str) -> Written:
    """A note in full words of a language, in the order of the trade: alerts, corner, shape, features, line, gap."""
    lost: list[str] = []

    def spoken(kind: str, key: str) -> str:
        head, _, rest = key.partition(" ")
        try:
            return language.term(key, kind).said[0]
        except KeyError:
            pass
        try:
            if kind == "change" and rest:
                return _change_words(key, language)
            if kind == "change" and _is_term(language, "half", key):
                return language.term(key, "half").said[0]
            if key.endswith(" maybe"):
                return f"{spoken(kind, key.removesuffix(' maybe'))} {language.term('maybe', 'maybe').said[0]}"
            if kind == "feature" and head.isdecimal():
                return f"{head} {_plural(rest, language)}"
            if kind in ("feature", "object") and _is_term(language, "over", head):
                return f"{language.term(head, 'over').said[0]} {spoken(kind, rest)}"
            if kind == "object":
                return _object_words(key, language)
        except KeyError:
            pass
        lost.append(key)
        return ""

    side = language.term(note.direction.value, "direction").said[0] if note.direction else ""
    grade = _grade_words(note.grade, language) if note.grade else ""
    pair = [side, grade] if order == "direction-first" else [grade, side]
    continues = (note.length or "").startswith("continues ")
    length = f"{spoken('length', 'continues')} {note.length.split()[-1]}" if note.length and continues else ""
    parts = [
        *(spoken("mark", m) for m in note.marks),
        *(spoken("caution", c) for c in note.cautions),
        *pair,
        length if continues else spoken("length", note.length) if note.length else "",
        *(spoken("change", c) for c in note.changes),
        *(spoken("feature", f) for f in note.features),
        *(spoken("line", x) for x in note.line_on_road),
        *(spoken("object", o) for o in note.objects),
        spoken("link", note.link) if note.link else "",
        str(note.distance_m) if note.distance_m is not None else "",
    ]
    lost += note.unread
    return Written(" ".join(p for p in parts if p), tuple(lost))


def book_of(speech: Speech, language: Language) -> str:
    """The notes that were said as a text of notes, one a line: what stands for the book where there is none."""
    order = speech.reading.order
    return "\n".join(written_out(n, language, order=order).text for n in speech.reading.notes) + "\n"


def _plural(feature: str, language: Language) -> str:
    """The counted form of a feature, such as "crests"."""
    names = (feature, feature.removesuffix("s"))
    term = next((t for t in language.terms if t.kind == "feature" and t.key in names), None)
    if term is None:
        raise KeyError(feature)
    return next((f for f in term.said if f in language.plurals), term.said[0])


def _is_term(language: Language, kind: str, key: str) -> bool:
    return any(t.kind == kind and t.key == key for t in language.terms)


def _change_words(key: str, language: Language) -> str:
    """A change with what follows it: "tightens 3", "opens long 6", "tightens very long". The length is said last.

    Raises
    ------
    KeyError
        The language has no words for it.
    """
    words = key.split()
    for count in range(len(words), 0, -1):
        if not _is_term(language, "change", head := " ".join(words[:count])):
            continue
        said, left = language.term(head, "change").said[0], words[count:]
        length = " ".join(left)
        if left and not _is_term(language, "length", length):
            said, length = f"{said} {_grade_words(left[-1], language)}", " ".join(left[:-1])
        return f"{said} {language.term(length, 'length').said[0]}" if length else said
    raise KeyError(key)


def _grade_words(grade: str, language: Language) -> str:
    for half, name in (("+", "plus"), ("-", "minus")):
        if grade.endswith(half):
            return f"{_grade_words(grade[:-1], language)} {language.term(name, 'half').said[0]}"
    return grade if grade.isdecimal() else language.term(grade, "grade").said[0]


def _object_words(key: str, language: Language) -> str:
    """An object with its side or place, such as "rocks inside", or a surface or state, in the language's words."""
    words, out = key.split(), []
    while words:
        for taken in range(len(words), 0, -1):
            name = " ".join(words[:taken])
            kind = next(
                (k for k in ("object", "side", "surface", "state", "over") if _is_term(language, k, name)), None
            )
            if kind is not None:
                out.append(language.term(name, kind).said[0])
                words = words[taken:]
                break
        else:
            raise KeyError(key)
    return " ".join(out)


def carried_over(note: Note, old: School, new: School) -> tuple[Note, tuple[str, ...]]:
    """A note in another school: the same place on the scale under the new school's name, and what that loses.

    Ascending 6 becomes descending 1; a plus stays the faster half; on a scale of another size the nearest grade stands.
    """
    lost: list[str] = []

    def named(grade: str) -> str:
        try:
            position = old.position(grade)
        except ValueError:
            lost.append(grade)
            return grade
        if not grade[0].isdigit():
            return grade
        if new.top != old.top:
            position = 1.0 + (position - 1.0) * (new.top - 1) / (old.top - 1)
        carried = new.grade_at(position)
        if abs(new.position(carried) - position) > 0.1:
            lost.append(f"{grade} lies between two of the new grades; {carried} is the nearest")
        return carried

    changes = []
    for change in note.changes:
        word, _, to = change.rpartition(" ")
        changes.append(f"{word} {named(to)}" if to[:1].isdigit() else change)
    grade = named(note.grade) if note.grade else None
    return replace(note, grade=grade, changes=tuple(changes)), tuple(lost)


def checked_replacement(text: str, language: Language, *, order: str) -> tuple[Note, ...]:
    """The notes in a replacement text.

    Raises
    ------
    UnusableNotes
        It is empty, or holds a figure without a place, or a corner without direction or grade.
    """
    if not text.strip():
        raise UnusableNotes("there is nothing written", mend="write the note as it shall stand, or keep the old one")
    reading = read_notes(text, (language,), order=order, corners_needed=False)
    # A word that is not known may be the crew's own; a figure without a place could be a second grade.
    stray = [w for n in reading.notes for w in n.unread if any(map(str.isdigit, w))]
    if stray:
        raise UnusableNotes(
            clause("“{0}” is neither the grade nor the distance", stray[0]), mend="write one grade beside each side"
        )
    if not reading.notes:
        raise UnusableNotes("this is no note", mend="write a corner, a feature or a distance")
    for note in reading.notes:
        if note.is_corner and note.grade is None:
            side = note.direction.value if note.direction else ""
            raise UnusableNotes(clause("the {0} has no grade", side), mend="write its grade beside it")
        if note.grade is not None and not note.is_corner:
            raise UnusableNotes(clause("the {0} has no direction", note.grade), mend="write left or right beside it")
    return reading.notes
