"""Where each note lies on the road. Every part that asks asks here, so that no two of them answer otherwise.

A corner note lies where its bend begins: where its arc does, or where the line bends in as in a corner of its kind if that comes later. A
note without a bend lies where the book puts it between the bends on both sides: the called distances and corners of a usual length are laid
out in a row, and that row is stretched so that each bend that was met lies where it was met (linear interpolation).
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property

import numpy as np

from mirkle.core.lineup.result import Lineup
from mirkle.core.motion.bends import Bend
from mirkle.core.notes.book_metres import laid_out_m
from mirkle.core.notes.model import Note
from mirkle.core.recording.model import Floats

# How far before its corner and behind its end a feature may come and still be called there (m); how far when it stands behind the
# distance ("100 over crest"); at least how far behind; how far into the next bend, and, without a corner, into the bends on both sides.
# # common practice
BEFORE_M, BEHIND_M, CARRIED_M, LEAST_BEHIND_M, INTO_NEXT_M, INTO_BENDS_M = 30.0, 45.0, 60.0, 20.0, 10.0, 25.0


def bend_begins_m(bend: Bend) -> float:
    """Where a bend begins: its arc, or where the line bends in if that comes later, metres from the start."""
    return max(bend.from_m, bend.eased_from_m)


def eased_m(notes: Sequence[Note], lineup: Lineup) -> Floats:
    """Where the line begins to bend for each note, metres from the start line, nan where it has no bend, (notes,).

    Clocks are tied here and not where the corner begins: many calls are laid over many places, and this place does not jump from arc to
    easing from one corner to the next.
    """
    bends = (lineup.bend_of(note.index) for note in notes)
    return np.array([bend.eased_from_m if bend is not None else np.nan for bend in bends])


class NotePositions:
    """Where the notes of a pass lie, metres from the start line, from how they are paired."""

    def __init__(self, notes: Sequence[Note], lineup: Lineup, finish_m: float) -> None:
        self._notes, self._lineup, self._finish_m = notes, lineup, finish_m
        self._bends = {t.note: t.bend for t in lineup.ties if t.bend is not None}

    @cached_property
    def corner_m(self) -> Floats:
        """Where the bend of each note begins, nan where it has none, (notes,)."""
        found = (self._bends.get(note.index) for note in self._notes)
        return np.array([bend_begins_m(bend) if bend is not None else np.nan for bend in found])

    @cached_property
    def note_m(self) -> Floats:
        """Where each note lies, (notes,); never back."""
        lengths = {note: max(bend.to_m - bend_begins_m(bend), 0.0) for note, bend in self._bends.items()}
        row = laid_out_m(self._notes, self._lineup.distances.factor, lengths)
        known = np.flatnonzero(np.isfinite(self.corner_m))
        ends = np.array([self._bends[self._notes[int(i)].index].to_m for i in known])
        # A corner that eases in late may begin behind the one after it: in the book it comes first.
        metres = np.maximum.accumulate(np.r_[0.0, np.column_stack([self.corner_m[known], ends]).ravel()])
        places = np.r_[0.0, row[known].ravel()]
        # Behind the last bend the book is pressed together where it is longer than the road, and never stretched.
        left_m = max(self._finish_m - metres[-1], 0.0)
        places, metres = np.r_[places, max(row[-1, 0], places[-1] + left_m)], np.r_[metres, metres[-1] + left_m]
        return np.interp(row[:-1, 0], places, metres)

    def shown_m(self, note: int) -> float:
        """Where a note is drawn: at the apex of its bend, else where it lies."""
        bend = self._bends.get(note)
        return bend.apex_m if bend is not None else float(self.note_m[note])

    def behind_m(self, note: int) -> float:
        """Where the last bend up to a note ends: what was met behind that note lies there. 0 before the first."""
        return next((self._bends[n].to_m for n in range(note, -1, -1) if n in self._bends), 0.0)

    def last_before(self, metres: float) -> Note | None:
        """The last note whose bend begins before a place; ``None`` ahead of the first."""
        begun = [note for note in self._notes if (b := self._bends.get(note.index)) is not None and b.from_m <= metres]
        return begun[-1] if begun else None

    def bend_behind(self, note: int) -> Bend | None:
        """The next bend behind a note that a note calls."""
        return next((self._bends[n.index] for n in self._notes[note + 1 :] if n.index in self._bends), None)

    def range_m(self, note: Note) -> tuple[float, float] | None:
        """From where to where the road could hold a feature that a note calls; ``None`` where its corner has no bend."""
        own, behind = self._bends.get(note.index), self.bend_behind(note.index)
        if own is not None:
            last = own.to_m + BEHIND_M + (CARRIED_M if _carries(note) else 0.0)
            last = min(last, behind.from_m + INTO_NEXT_M) if behind is not None else last
            last = max(own.to_m + LEAST_BEHIND_M, last, own.eased_to_m)
            return min(own.from_m - BEFORE_M, own.eased_from_m), last
        if note.is_corner:
            return None
        before = next((self._bends[n] for n in range(note.index - 1, -1, -1) if n in self._bends), None)
        first = before.to_m - INTO_BENDS_M if before is not None else 0.0
        last = behind.from_m + INTO_BENDS_M if behind is not None else self._finish_m
        return (first, last) if last > first else None

    def call_leads_to_m(self, note: int) -> float:
        """Where the corner of a note begins for whom calls it, nan where it has no bend.

        Where the line led into it without straightening, its arc is too early: there the truth lies between the arc and what the notes
        say, and neither is better than the other.
        """
        bend = self._bends.get(note)
        if bend is None:
            return float("nan")
        begins = bend_begins_m(bend)
        gap = next((g for g in self._lineup.gaps if g.next_note == note), None)
        before = self._bends.get(gap.note) if gap is not None else None
        if gap is None or gap.met_m is not None or gap.called_m is None or before is None:
            return begins
        noted = before.to_m + float(self._lineup.distances.expected_m(np.array([gap.called_m]))[0])
        return 0.5 * (begins + float(np.clip(noted, begins, max(begins, bend.apex_m))))


def _carries(note: Note) -> bool:
    """Whether a feature stands behind the distance: "100 over crest"."""
    return note.distance_m is not None and note.gap_span is not None and note.gap_span.end < note.span.end
