"""Writing notes back in the crew's own hand: its words, its order, its spacing."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from mirkle.core.errors import UnusableNotes
from mirkle.core.notes.language import Language
from mirkle.core.notes.model import Direction, Note, Reading, Span
from mirkle.core.notes.reading import read_notes


@dataclass(frozen=True)
class Rewording:
    """What shall stand instead in a note; ``None`` leaves it as it is. ``link`` and ``distance_m`` exclude each other."""

    direction: Direction | None = None
    grade: str | None = None
    distance_m: int | None = None


class Hand:
    """How one crew writes: which form it uses for each direction, grade and link, and which numbers it calls."""

    def __init__(self, reading: Reading, language: Language) -> None:
        self.reading, self.language = reading, language
        forms: dict[tuple[str, str], Counter[str]] = {}
        for token in reading.tokens:
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
        other = next((t for (k, _), t in self._forms.items() if k == kind), "")
        short = len(other) <= 2 and bool(term.written)
        return term.written[0] if short else term.said[0]

    def nearest_distance(self, metres: float) -> int:
        """The number this crew would call for a distance: the nearest it uses, finer or coarser with the length."""
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
        if rewording.distance_m is not None and note.gap_span is not None:
            edits.append((note.gap_span, str(rewording.distance_m)))
        text, start = note.text, note.span.start
        for span, new in sorted(edits, key=lambda e: e[0].start, reverse=True):
            if start <= span.start and span.end <= note.span.end:
                text = text[: span.start - start] + new + text[span.end - start :]
        return text

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


def checked_replacement(text: str, language: Language, *, order: str) -> tuple[Note, ...]:
    """The notes in a replacement text.

    Raises
    ------
    UnusableNotes
        It is empty, holds words that can't be read, or holds a corner without direction or grade.
    """
    if not text.strip():
        raise UnusableNotes("there is nothing written", mend="write the note as it shall stand, or keep the old one")
    reading = read_notes(text, (language,), order=order, corners_needed=False, repair=False)
    unread = [w for n in reading.notes for w in n.unread]
    if unread:
        raise UnusableNotes(f"“{unread[0]}” is no word of your notes", mend="write it as you write the others")
    if not reading.notes:
        raise UnusableNotes("this is no note", mend="write a corner, a feature or a distance")
    for note in reading.notes:
        if note.is_corner and note.grade is None:
            side = note.direction.value if note.direction else ""
            raise UnusableNotes(f"the {side} has no grade", mend="write its grade beside it")
        if note.grade is not None and not note.is_corner:
            raise UnusableNotes(f"the {note.grade} has no direction", mend="write left or right beside it")
    return reading.notes
