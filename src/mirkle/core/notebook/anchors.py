"""Where decisions belong in the book of today.

Numbers of notes change with every better reading; the text of the book does not. So a decision keeps what its notes read and where they
begin, and belongs to the notes that read the same: at the same place of the text where they still do, else the nearest ones. Its place on
the road is kept by the recording's clock (:class:`mirkle.core.notebook.decisions.RoadPlace`), and its finding is found by both
(:mod:`mirkle.core.judging.answers`).
"""

from __future__ import annotations

from mirkle.core.notebook.decisions import NotePlace
from mirkle.core.notes.model import Reading


class NotePlaces:
    """Where notes begin and end in a book's text, to find those that a decision is about."""

    def __init__(self, reading: Reading) -> None:
        self._source, self._count = reading.source, len(reading.notes)
        self._starts = {n.span.start: n.index for n in reading.notes}
        self._ends = {n.span.end: n.index for n in reading.notes}

    def of(self, kept: NotePlace) -> tuple[int, int] | None:
        """The first and last note that a decision is about, as the book reads now; ``None`` where no notes read so."""
        if not kept.text:
            # An older program kept no more than the numbers.
            return (kept.first, kept.last) if 0 <= kept.first <= kept.last < self._count else None
        at_its_place = self._read_at(kept.at, kept.text)
        if at_its_place is not None:
            return at_its_place
        nearest = sorted(self._starts, key=lambda start: abs(self._starts[start] - kept.first))
        return next((found for start in nearest if (found := self._read_at(start, kept.text)) is not None), None)

    def _read_at(self, start: int, text: str) -> tuple[int, int] | None:
        """The notes that begin at a place of the text and read so."""
        begins, ends = self._starts.get(start), self._ends.get(start + len(text))
        if begins is None or ends is None or not self._source.startswith(text, start):
            return None
        return begins, ends


def note_place(reading: Reading, first: int, last: int) -> NotePlace:
    """Where notes stand in a book: by their numbers, with what they read and where in the book's text that begins. Numbers that the book
    has not are kept alone."""
    if not 0 <= first <= last < len(reading.notes):
        return NotePlace(first, last)
    start, end = reading.notes[first].span.start, reading.notes[last].span.end
    return NotePlace(first, last, reading.source[start:end], start)
