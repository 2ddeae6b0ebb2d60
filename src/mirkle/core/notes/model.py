"""A stage note as structure: what was called, and where in the source it stands."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import Enum
from functools import cached_property
from typing import NamedTuple

from mirkle.core.messages import Called, Message, gettext_noop, in_a_row, message
from mirkle.core.notes.called import CalledChange, CalledFeature, CalledThing


class Direction(Enum):
    """Which way a corner goes; ``sign`` is that of its curvature."""

    LEFT = gettext_noop("left")
    RIGHT = gettext_noop("right")

    @property
    def sign(self) -> int:
        """+1 to the left, -1 to the right."""
        return 1 if self is Direction.LEFT else -1

    @property
    def other(self) -> Direction:
        """The other way."""
        return Direction.RIGHT if self is Direction.LEFT else Direction.LEFT


class Span(NamedTuple):
    """A stretch of the source text: characters ``start`` to ``end``."""

    start: int
    end: int

    def holds(self, other: Span) -> bool:
        """Whether another stretch lies inside this one."""
        return self.start <= other.start and other.end <= self.end


class Offer(NamedTuple):
    """A repair that is too unsure to be made: ``said``, in ``words`` words, is perhaps ``read_as``.

    ``kind`` and ``key`` name the term that it would be, both empty where it would be two numbers.
    """

    said: str
    words: int
    kind: str
    key: str
    read_as: str
    sure: float
    why: str | Message


class Token(NamedTuple):
    """One piece of the source. Every character of it belongs to exactly one token.

    ``kind`` is a term's kind (such as ``length`` or ``caution``), ``direction``, ``grade``, ``distance``, ``blank``
    (white space and punctuation between) or ``unread``. ``key`` is the term's own name. ``read_as`` is set where the
    word was repaired, with how sure that is, why, and in ``how`` by what (``book`` where the book has it there); ``offer`` is
    set where it only might be. ``note`` is the note it went into.
    """

    span: Span
    text: str
    kind: str
    key: str = ""
    note: int | None = None
    read_as: str | None = None
    sure: float = 1.0
    why: str | Message = ""
    offer: Offer | None = None
    how: str = ""


@dataclass(frozen=True, slots=True)
class Note:
    """One note. Words of the contract stand in the tuples in the order in which they were called.

    ``continues_for`` is the number behind "continues", where there is one.
    ``grade`` is the grade as the contract spells it: ``"4"``, ``"4+"``, ``"hairpin"``, ``"square"``, ``"flat"``.
    ``borrows`` says what it has from the note behind it: its ``grade`` ("into right left 3") or its whole ``corner`` (the "double" of
    "double right 2"). ``remarks`` stand with the note, and nobody calls them; ``first_called`` is what was said before the co-driver
    corrected it aloud. ``distance_m`` or ``link`` say how far it is to the next note; ``span`` is the note in the source and ``gap_span``
    its distance or link word, which in some hands stands on the next note's line.
    Of the ``unread`` words those are ``named`` that say which place something is at ("by the white gate").
    """

    index: int
    page: int
    line: int
    text: str
    span: Span
    direction: Direction | None = None
    grade: str | None = None
    length: str | None = None
    continues_for: str = ""
    changes: tuple[CalledChange, ...] = ()
    cautions: tuple[str, ...] = ()
    features: tuple[CalledFeature, ...] = ()
    line_on_road: tuple[CalledThing, ...] = ()
    objects: tuple[CalledThing, ...] = ()
    link: str | None = None
    distance_m: int | None = None
    marks: tuple[str, ...] = ()
    unread: tuple[str, ...] = ()
    named: tuple[str, ...] = ()
    remarks: tuple[str, ...] = ()
    first_called: str = ""
    borrows: str = ""
    direction_span: Span | None = None
    grade_span: Span | None = None
    gap_span: Span | None = None

    def __repr__(self) -> str:
        return f"<Note {self.index}: {' '.join(self.text.split())}>"

    @property
    def called_text(self) -> str:
        """The note as written, without the remarks that stand inside it, on one line."""
        text = self.text
        for remark in self.remarks:
            text = text.replace(remark, "", 1)
        if not self.remarks and "\n" not in text:
            return text
        return re.sub(r"(?<=\S)\s{2,}(?=\S)|\n", " ", text).strip()

    @property
    def unknown_words(self) -> tuple[str, ...]:
        """What was not understood; figures, marks and the names of places aside."""
        return tuple(w for w in self.unread if any(map(str.isalpha, w)) and w not in self.named)

    @property
    def is_corner(self) -> bool:
        """Whether the note calls a corner."""
        return self.direction is not None

    @property
    def length_terms(self) -> tuple[str, ...]:
        """The words for how long it is, one by one: "very long", or "continues" and a number."""
        return tuple(filter(None, (self.length, self.continues_for)))

    @property
    def called_values(self) -> tuple[CalledChange | CalledFeature | CalledThing, ...]:
        """Changes, features, lines and things in the order in which they are read back."""
        return (*self.changes, *self.features, *self.line_on_road, *self.objects)

    @property
    def in_words(self) -> str:
        """The note in plain English words."""
        return str(self.read_back)

    @property
    def read_back(self) -> Message:
        """The note in plain words, to be read back in any language."""
        head = (self.direction.value, str(self.grade)) if self.direction else ()
        plain = [(mark,) for mark in (*self.marks, *self.cautions)]
        parts = [*plain, head, self.length_terms, *(value.terms for value in self.called_values)]
        called = [Called(terms) for terms in parts if terms]
        words = in_a_row(called, ", ") if called else message("a distance")
        if self.distance_m is not None:
            return message("{0}, then {1} metres", words, self.distance_m)
        return in_a_row([words, Called((self.link,))], ", ") if self.link else words


@dataclass(frozen=True)
class Signs:
    """How a book uses signs that others use otherwise (:mod:`mirkle.core.notes.signs`).

    ``dashes_part``: "L4-80-R3"; ``pluses_part``: "R4 + L3"; ``spaced_halves``: "R 3 -"; ``arrows_are_sides``: "←4";
    ``gaps_in_brackets``: "L4 (80)".
    """

    dashes_part: bool = False
    pluses_part: bool = False
    spaced_halves: bool = False
    arrows_are_sides: bool = False
    gaps_in_brackets: bool = False


@dataclass(frozen=True)
class Reading:
    """What was read from a text of notes. ``pieces`` are its words in order, ``tokens`` those with the blanks between.

    ``doubts`` say in a sentence each what was set aside or put together before anything was read.
    """

    source: str
    notes: tuple[Note, ...]
    pieces: tuple[Token, ...]
    language: str
    order: str
    distance_first: bool
    doubts: tuple[Message, ...] = ()
    signs: Signs = Signs()

    def __repr__(self) -> str:
        return f"<Reading: {len(self.notes)} notes, {len(self.corners)} corners, {self.language}, {self.order}>"

    @cached_property
    def tokens(self) -> tuple[Token, ...]:
        """The whole source from end to end: the pieces, and what stands between them as ``blank``."""
        out: list[Token] = []
        at = 0
        for piece in self.pieces:
            if piece.span.start > at:
                out.append(Token(Span(at, piece.span.start), self.source[at : piece.span.start], "blank"))
            out.append(piece)
            at = piece.span.end
        if at < len(self.source):
            out.append(Token(Span(at, len(self.source)), self.source[at:], "blank"))
        return tuple(out)

    def corner_text(self, note: Note) -> str:
        """A corner's side and grade as they stand in the source, with what stands between them."""
        spans = [s for s in (note.direction_span, note.grade_span) if s is not None]
        return self.source[min(s.start for s in spans) : max(s.end for s in spans)]

    def written_alone(self, note: Note) -> str:
        """A note's text with what it borrows from the note behind it written out."""
        if not note.borrows:
            return note.text
        lender = self.notes[note.index + 1]
        if note.borrows == "corner":
            corner = self.corner_text(lender)
            double = next(p.span for p in self.pieces if p.note == note.index and p.kind == "double")
            return self.source[note.span.start : double.start] + corner + self.source[double.end : note.span.end]
        grade = self.source[slice(*lender.grade_span)] if lender.grade_span is not None else note.grade
        return f"{note.text} {grade}" if self.order == "direction-first" else f"{grade} {note.text}"

    @property
    def title(self) -> str:
        """What stands above the notes and is none of them, on one line; empty where nothing does."""
        found = [p.span for p in self.pieces if p.kind == "title"]
        return " ".join(self.source[found[0].start : found[-1].end].split()) if found else ""

    @property
    def corners(self) -> tuple[Note, ...]:
        """The notes that call a corner."""
        return tuple(n for n in self.notes if n.is_corner)

    @property
    def repairs(self) -> tuple[Token, ...]:
        """The words that were read as something else than they stand there."""
        return tuple(t for t in self.pieces if t.read_as is not None)

    @property
    def offers(self) -> tuple[Token, ...]:
        """The words that stay as they are although they may be harmed ones."""
        return tuple(t for t in self.pieces if t.offer is not None)
