"""Writing notes back in the crew's own hand: its words, its order, its spacing."""

from __future__ import annotations

import math
import re
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice, pairwise

from mirkle.core.errors import UnusableNotes
from mirkle.core.messages import message
from mirkle.core.notes.grading import half_of, whole_grade
from mirkle.core.notes.language import HALF_NAMES, HALF_SIGNS, Language
from mirkle.core.notes.model import Direction, Note, Reading, Span, Token
from mirkle.core.notes.reading import read_notes

# From this many different distances on a crew is taken to call from a fixed list.
A_LIST = 8
# Beyond its longest by this the list says no more; of two distances, one of the crew's own may be further off by this share.
BEYOND_THE_LIST, OWN_MAY_BE_OFF = 1.2, 0.02
# Round numbers of metres: to tens up to the first length, to twenties up to the second, to fifties beyond. # common practice
ROUND_M = ((100, 10), (200, 20), (math.inf, 50))
# A grade with its half: "4-", "4 -", "four minus".
_JOINED_HALF = re.compile(r"(?:\d+|[^\W\d]+)(\s*)([^\d\s]+|[.,]5)")
_OTHER_HALF = {"plus": "minus", "minus": "plus", "wide": "tight", "tight": "wide", "between": "between"}


@dataclass(frozen=True)
class Rewording:
    """What shall stand instead in a note; ``None`` leaves it as it is.

    ``length`` is a word of length, empty to strike it out; ``tightens`` is the grade that a tightening leads to; ``opens`` adds that
    it opens; ``target`` stands instead of the grade ``target_was`` that a change leads to; ``feature`` stands instead of the crest that was
    called, or of a maybe; ``caution`` is put ahead of the corner. An empty ``tightens`` says that it does and not to what.
    """

    direction: Direction | None = None
    grade: str | None = None
    distance_m: int | None = None
    length: str | None = None
    tightens: str | None = None
    opens: bool = False
    feature: str | None = None
    caution: str | None = None
    target_was: str | None = None
    target: str | None = None

    @property
    def changes_radius(self) -> bool:
        """Whether it adds that the corner tightens or opens."""
        return self.tightens is not None or self.opens


# What stands instead of a stretch of the source.
_Edit = tuple[Span, str]


# How many texts that were read back are remembered.
MOST_READ_BACK = 64


class NoteWriter:
    """How one crew writes: which form it uses for each direction, grade and link, and which numbers it calls."""

    def __init__(self, reading: Reading, language: Language) -> None:
        self.reading, self.language = reading, language
        self._forms = _forms(reading)
        self._half = _half_habit(reading)
        # What was read back already: shown, checked and marked, a text is asked for again and again.
        self._read_back: dict[str, tuple[Note, ...]] = {}
        self.distances = sorted({n.distance_m for n in reading.notes if n.distance_m is not None})

    def form(self, kind: str, key: str) -> str:
        """The crew's own form of a term, or the language's shortest habit where it was never used."""
        if (kind, key) in self._forms:
            return self._forms[kind, key]
        if kind in ("grade", "distance") and key[:1].isdigit():
            return self._number(kind, key)
        term = self.language.term(key, kind)
        # A crew that writes L and R writes short-hand throughout. A grade's figures say nothing of how it writes words.
        like = kind if kind != "grade" and any(k == kind for k, _ in self._forms) else "direction"
        other = next((t for (k, _), t in self._forms.items() if k == like), "")
        short = len(other) <= 2 and bool(term.written)
        return term.written[0] if short else term.said[0]

    def _number(self, kind: str, key: str) -> str:
        """A number that this crew has not written yet: in words where it writes all others so."""
        said = self.language.number_forms.get(key, ())
        written = [text for (k, other), text in self._forms.items() if k == kind and other[:1].isdigit()]
        return said[0] if said and written and all(text[:1].isalpha() for text in written) else key

    @property
    def names_targets(self) -> bool:
        """Whether this crew says what a corner tightens to; one that never wrote either does."""
        changes = [c for n in self.reading.notes for c in n.changes if c.tightens or c.opens]
        return 2 * sum(bool(c.to) for c in changes) >= len(changes)

    def writes(self, kind: str, key: str) -> bool:
        """Whether this crew has a word in its book."""
        return (kind, key) in self._forms

    def nearest_distance(self, metres: float) -> int:
        """The number this crew would call for a distance: the nearest it uses; where it uses few, a round one, coarser with length."""
        if len(self.distances) >= A_LIST and metres <= BEYOND_THE_LIST * self.distances[-1]:
            return min(self.distances, key=lambda d: abs(d - metres))
        step = next(step for below_m, step in ROUND_M if metres < below_m)
        usual = max(ROUND_M[0][1], round(metres / step) * step)
        near = [d for d in self.distances if abs(d - metres) <= abs(usual - metres) + OWN_MAY_BE_OFF * metres]
        return min(near, key=lambda d: abs(d - metres)) if near else usual

    def reworded(self, note: Note, rewording: Rewording) -> str:
        """The note's text with the rewording in it and everything else to the letter as it was.

        A distance is only put in where the note's own text holds one.
        """
        if rewording == Rewording():
            return note.text
        if note.borrows:
            return self._alone(note, rewording)
        edits = [
            *self._plain_edits(note, rewording),
            *(self._grade_edits(note, note.grade_span, rewording.grade) if note.grade_span and rewording.grade else ()),
            *self._caution_edits(note, rewording.caution),
            *self._target_edits(note, rewording),
            *self._shape_edits(note, rewording),
        ]
        text, start = note.text, note.span.start
        for span, new in sorted(edits, key=lambda e: e[0].start, reverse=True):
            if start <= span.start and span.end <= note.span.end:
                text = text[: span.start - start] + new + text[span.end - start :]
        return text

    def _plain_edits(self, note: Note, rewording: Rewording) -> Iterator[_Edit]:
        """A side or a distance put in the place of another."""
        if rewording.direction is not None and note.direction_span is not None:
            yield note.direction_span, self.form("direction", rewording.direction.value)
        if rewording.distance_m is not None and note.gap_span is not None:
            yield note.gap_span, self.form("distance", str(rewording.distance_m))

    def _caution_edits(self, note: Note, caution: str | None) -> Iterator[_Edit]:
        """A warning ahead of the corner."""
        if caution is not None and note.direction_span is not None and note.grade_span is not None:
            at = min(s.start for s in self._corner_spans(note))
            yield Span(at, at), f"{self.form('caution', caution)} "

    def _target_edits(self, note: Note, rewording: Rewording) -> Iterator[_Edit]:
        """Another grade for a change to lead to; the half ahead of the old one goes."""
        target = rewording.target
        led = self._target_span(note, rewording.target_was) if target is not None else None
        if target is not None and led is not None:
            yield from ((half, "") for half in self._halves_ahead(note, led))
            yield led, self._forms.get(("change grade", target)) or self.form("grade", target)

    def _alone(self, note: Note, rewording: Rewording) -> str:
        """A note that borrows from the next one, written out and reworded: "double right 2" is a right 2 and another."""
        alone = read_notes(self.reading.written_alone(note), (self.language,), like=self.reading)
        hand = NoteWriter(alone, self.language)
        hand._forms, hand._half = hand._forms | self._forms, self._half
        return hand.reworded(alone.notes[0], rewording)

    def _grade_edits(self, note: Note, span: Span, grade: str) -> list[_Edit]:
        """The edits that give a note another grade: its half stands where this crew puts halves."""
        edits: list[_Edit] = [(apart, "") for apart in self._halves_apart(note)]
        sign, half = half_of(grade), self._half
        if not sign or half is None or ("grade", grade) in self._forms:
            return [*edits, (span, self.form("grade", grade))]
        word, words = self._half_word(half, sign), self.form("grade", whole_grade(grade))
        if half.place == "ahead":
            return [*edits, (span, f"{word} {words}")]
        if half.place == "joined":
            return [*edits, (span, f"{words}{half.space}{word}")]
        end = max(s.end for s in (note.direction_span, note.grade_span) if s is not None)
        return [*edits, (span, words), (Span(end, end), f" {word}")]

    def _half_word(self, habit: _Half, sign: str) -> str:
        """A half as this crew writes it: a sign, or its own word for it."""
        if not habit.text[:1].isalpha():
            return habit.text if HALF_SIGNS[habit.name] == sign else sign
        name = next((n for n in (habit.name, _OTHER_HALF[habit.name]) if HALF_SIGNS[n] == sign), "")
        return habit.text if name == habit.name else self.form("half", name)

    def _corner_spans(self, note: Note) -> list[Span]:
        """Where a note's side, its grade and the halves apart from it stand."""
        return [s for s in (note.direction_span, note.grade_span, *self._halves_apart(note)) if s is not None]

    def _target_span(self, note: Note, target: str | None) -> Span | None:
        """Where the grade stands that a change of a note leads to."""
        own = (p for p in self.reading.pieces if p.note == note.index and p.kind == "change grade")
        return next((p.span for p in own if p.key == target), None)

    def _halves_apart(self, note: Note) -> list[Span]:
        """Halves that stand apart from their grade, as in "5 right plus" and "tight 4 left", with the space that parts them from it."""
        corner = (note.direction_span, note.grade_span)
        behind = [
            Span(half.span.start - 1, half.span.end)
            for before, half in pairwise(self.reading.pieces)
            if half.note == note.index and half.kind == "filler" and half.key in HALF_SIGNS and before.span in corner
        ]
        return behind + (self._halves_ahead(note, note.grade_span) if note.grade_span is not None else [])

    def _halves_ahead(self, note: Note, grade: Span) -> list[Span]:
        """The half that stands ahead of a grade of a note, with the space between."""
        return [
            Span(half.span.start, half.span.end + 1)
            for half, behind in pairwise(self.reading.pieces)
            if half.note == note.index and half.kind == "blank" and half.key in HALF_SIGNS and behind.span == grade
        ]

    def _length_and_change_edits(self, own: list[Token], rewording: Rewording, end: int) -> Iterator[_Edit]:
        if rewording.length is not None:
            yield from self._length_edits(own, rewording.length, end)
        if rewording.changes_radius:
            behind = max([end, *(t.span.end for t in own if t.kind == "length")])
            yield Span(behind, behind), f" {self._change(rewording)}"

    def _shape_edits(self, note: Note, rewording: Rewording) -> Iterator[_Edit]:
        """Edits of length, change of radius and feature, at the words they replace or behind the corner."""
        own = [t for t in self.reading.pieces if note.span.holds(t.span)]
        end = max((s.end for s in self._corner_spans(note)), default=None)
        if end is not None:
            yield from self._length_and_change_edits(own, rewording, end)
        if rewording.feature is not None:
            yield from self._feature_edits(own, rewording.feature)

    def _feature_edits(self, own: list[Token], feature: str) -> Iterator[_Edit]:
        """Another feature in the place of a crest that was a jump, or of a maybe that is settled."""
        old = (t.span for t in own if t.kind == "feature" and ("crest" in t.key or t.key.endswith(" maybe")))
        yield from ((span, self.form("feature", feature)) for span in islice(old, 1))

    def _length_edits(self, own: list[Token], length: str, head: int) -> list[_Edit]:
        old = next((t.span for t in own if t.kind == "length"), None)
        word = self.form("length", length) if length else ""
        if old is not None:
            # Striking the word out takes the space before it along.
            return [(Span(old.start - (not word), old.end), word)]
        return [(Span(head, head), f" {word}")] if word else []

    def _change(self, rewording: Rewording) -> str:
        """ "tightens 3", "tightens to three", ">3": a change and its target as this crew writes it, and without a target where it names
        none."""
        key, to = "opens" if rewording.opens else "tightens", rewording.tightens
        if not to or not self.names_targets:
            return self.form("change", key)
        sign = self._forms.get(("change to", key)) or self.form("change", key)
        target = self._forms.get(("change grade", to)) or self.form("grade", to)
        return f"{sign}{'' if not sign[-1].isalnum() else ' '}{target}"

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
        if text not in self._read_back:
            if len(self._read_back) >= MOST_READ_BACK:
                self._read_back.clear()
            self._read_back[text] = checked_replacement(text, self.language, like=self.reading)
        return self._read_back[text]


@dataclass(frozen=True)
class _Half:
    """How a crew writes halves: by which word (``plus``, ``minus``, ``tight`` or ``wide``) and its ``text``, ``joined`` to the grade with
    ``space`` between, ``ahead`` of the grade or ``apart`` behind the pair of side and grade."""

    name: str
    text: str
    place: str
    space: str = ""


def _forms(reading: Reading) -> dict[tuple[str, str], str]:
    """The text that a crew writes most often for each term, by its kind and key."""
    forms: dict[tuple[str, str], Counter[str]] = {}
    halves = {t.note for t in reading.pieces if t.kind in ("filler", "blank") and t.key in HALF_SIGNS}
    for token in reading.pieces:
        key = token.key
        if token.kind == "grade" and half_of(key) and token.note in halves:
            # The half stands apart: this is the form of the number.
            key = key[:-1]
        if key:
            forms.setdefault((token.kind, key), Counter())[token.text] += 1
    return {key: counter.most_common(1)[0][0] for key, counter in forms.items()}


def _half_habit(reading: Reading) -> _Half | None:
    """How a crew writes halves most often; ``None`` where it writes none."""
    found: Counter[_Half] = Counter()
    for token in reading.pieces:
        if token.kind in ("filler", "blank") and token.key in HALF_SIGNS:
            found[_Half(token.key, token.text, "apart" if token.kind == "filler" else "ahead")] += 1
        elif token.kind == "grade" and half_of(token.key) and (joined := _JOINED_HALF.fullmatch(token.text)):
            found[_Half(HALF_NAMES[half_of(token.key)], joined[2], "joined", joined[1])] += 1
    return found.most_common(1)[0][0] if found else None


def checked_replacement(text: str, language: Language, *, like: Reading) -> tuple[Note, ...]:
    """The notes in a text that replaces one in a book.

    Raises
    ------
    UnusableNotes
        It is empty, or holds a figure without a place, or a corner without direction or grade.
    """
    if not text.strip():
        raise UnusableNotes("there is nothing written", mend="write the new note, or keep the old one")
    reading = read_notes(text, (language,), like=like, corners_needed=False)
    # A word that is not known may be the crew's own; a figure without a place could be a second grade.
    stray = [w for n in reading.notes for w in n.unread if any(map(str.isdigit, w))]
    if stray:
        raise UnusableNotes(message("“{0}” is neither the grade nor the distance", stray[0]), mend="write one grade next to each side")
    if not reading.notes:
        raise UnusableNotes("this is not a note", mend="write a corner, a feature or a distance")
    for note in reading.notes:
        _check_corner(note)
    return reading.notes


def _check_corner(note: Note) -> None:
    """Refuses a side without its grade, and a grade without its side."""
    if note.direction is not None and note.grade is None:
        raise UnusableNotes(message("the {0} has no grade", note.direction.value), mend="write its grade next to it")
    if note.grade is not None and not note.is_corner:
        raise UnusableNotes(message("the {0} has no direction", note.grade), mend="write left or right next to it")
