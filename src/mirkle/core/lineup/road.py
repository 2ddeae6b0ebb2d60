"""The road as an alignment sees it: pieces of bends, and every run of neighbouring pieces that a note may claim."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from mirkle.core.motion.bends import KnownBends
from mirkle.core.motion.profile import STEP_M, Profile
from mirkle.core.motion.spans import Pieces, Spans, cut_in_pieces, measure
from mirkle.core.recording.model import Floats

LONGEST_BEND_M = 320.0
MOST_PIECES = 24
# -ln of how seldom it happens in a book of notes: three in a hundred, tried on worlds not our own (docs/pairing.md).
COST_OF_BEND_WITHOUT_NOTE = 3.5
BEND_FOR_SURE_DEG = 14.0
# A bend that turns less is no place for a note. # common practice
LEAST_TURN_DEG = 4.0
# What no note claims beside a claimed bend of its side is the rest of it, unless it is parted from it or turns too far.
PARTING_DIP, TOO_MUCH_FOR_A_REST_DEG = 0.3, 60.0


@dataclass(frozen=True)
class Road:
    """The road as an alignment sees it: pieces, and every run of pieces ``a`` to ``b`` with its measures, (runs,).

    ``cuts`` counts the ends of a run that lie inside an unbroken bend; ``dip`` is the deepest easing inside the run.
    """

    pieces: Pieces
    a: NDArray[np.intp]
    b: NDArray[np.intp]
    runs: Spans
    cuts: Floats
    dip: Floats
    profile: Profile

    @property
    def turns(self) -> bool:
        """Whether there is anything on it that a corner note could call."""
        turned_deg = np.degrees(np.abs(self.pieces.bend_turn_rad))
        return bool(len(self.a)) and float(turned_deg.max(initial=0.0)) >= LEAST_TURN_DEG

    @cached_property
    def left_over(self) -> Floats:
        """What the pieces before each cost, and all of them, if no note claims them, nats, (pieces + 1,)."""
        pieces = self.pieces
        # A slice left over costs its share of the curvature squared of the bend that it was cut from.
        bent = pieces.turn_rad**2 / (pieces.last - pieces.first + 1)
        number = pieces.bend - pieces.bend.min()
        share = bent / np.maximum(np.bincount(number, bent)[number], 1e-12)
        alone = COST_OF_BEND_WITHOUT_NOTE * bendness(np.degrees(np.abs(pieces.bend_turn_rad))) * share
        return np.concatenate([[0.0], np.cumsum(alone)])

    @cached_property
    def run_of_start(self) -> NDArray[np.intp]:
        """The first run that begins with each piece or behind it, and how many runs there are, (pieces + 1,)."""
        return np.asarray(np.searchsorted(self.a, np.arange(len(self.pieces) + 1)))

    @cached_property
    def known(self) -> KnownBends:
        """The bends of this road as far as they were looked at."""
        return KnownBends(self.profile)

    def part(self, first: int, end: int) -> tuple[Road, NDArray[np.intp]]:
        """The pieces from ``first`` up to ``end`` with the runs that lie whole in them, and the numbers of those runs."""
        kept = np.flatnonzero((self.a >= first) & (self.b < end))
        return Road(
            self.pieces.between(first, end),
            self.a[kept] - first,
            self.b[kept] - first,
            self.runs.picked(kept),
            self.cuts[kept],
            self.dip[kept],
            self.profile,
        ), kept

    def holds(self, at_m: float | None) -> bool:
        """Whether a place lies on this road; no place does."""
        return at_m is None or bool(self.pieces.from_m[0] <= at_m <= self.pieces.to_m[-1])


def road_of(profile: Profile) -> Road:
    """The road of a profile, with every run that could be one note's."""
    pieces = cut_in_pieces(profile)
    count = len(pieces)
    a = np.repeat(np.arange(count), MOST_PIECES)
    b = a + np.tile(np.arange(MOST_PIECES), count)
    inside = b < count
    a, b = a[inside], b[inside]
    sensible = (pieces.last[b] - pieces.first[a]) * STEP_M < LONGEST_BEND_M
    # A run that begins or ends with a straight, or with two sides, belongs to its neighbours.
    sensible &= (pieces.side[a] != 0) & (pieces.side[a] == pieces.side[b])
    # Nor is the flank of one bend a part of the next: a run over several bends holds the apex of each.
    holds_first = pieces.bend_apex[a] >= pieces.first[a]
    holds_last = pieces.bend_apex[b] <= pieces.last[b]
    sensible &= (pieces.bend[a] == pieces.bend[b]) | (holds_first & holds_last)
    a, b = a[sensible], b[sensible]
    runs = measure(profile, pieces.first[a], pieces.last[b])
    # Nor does one with a bend the other way inside it.
    own = (pieces.side[a] == runs.side) & (runs.against_deg < 3.0 + 0.15 * runs.turn_deg)
    # Nor one whose first or last piece is but the line on its way into the bend or out of it.
    own &= (runs.from_m <= (pieces.last[a] + 1) * STEP_M) & (runs.to_m >= pieces.first[b] * STEP_M)
    a, b = a[own], b[own]
    starts_new = np.concatenate([[True], np.diff(pieces.bend) > 0])
    ends_old = np.concatenate([starts_new[1:], [True]])
    cuts = (~starts_new[a]).astype(float) + ~ends_old[b]
    return Road(pieces, a, b, runs.picked(np.flatnonzero(own)), cuts, _deepest_dips(pieces, a, b), profile)


def _deepest_dips(pieces: Pieces, a: NDArray[np.intp], b: NDArray[np.intp]) -> Floats:
    first, last = pieces.bend[a], pieces.bend[b]
    deepest = np.zeros(len(a))
    for step in range(1, int((last - first).max(initial=0)) + 1):
        border = np.minimum(first + step, last)
        deepest = np.maximum(deepest, np.where(first + step <= last, pieces.dip[border], 0.0))
    return deepest


def bendness(turn_deg: Floats) -> Floats:
    """From 0 to 1: how much of a bend a turn is, so that a weave of the line on a straight counts for little."""
    return np.asarray(1.0 - np.exp(-((turn_deg / BEND_FOR_SURE_DEG) ** 2)))


def claimed(pieces: Pieces, a: NDArray[np.intp], b: NDArray[np.intp]) -> NDArray[np.bool_]:
    """Which pieces the runs from ``a`` to ``b`` take, (pieces,)."""
    taken = np.zeros(len(pieces), dtype=bool)
    for i, j in zip(a, b, strict=True):
        taken[i : j + 1] = True
    return taken


def unclaimed(pieces: Pieces, taken: NDArray[np.bool_]) -> list[tuple[int, int]]:
    """First and last piece of each stretch of one side that no note claims."""
    side = np.where(taken, 0, pieces.side)
    edges = np.flatnonzero(np.diff(side)) + 1
    firsts = np.concatenate([[0], edges]).astype(np.intp)
    lasts = np.concatenate([edges, [len(side)]]).astype(np.intp) - 1
    free = side[firsts] != 0
    return list(zip(firsts[free].tolist(), lasts[free].tolist(), strict=True))


def holds_a_bend(pieces: Pieces, first: int, last: int) -> bool:
    """Whether a stretch has an apex and turns as a bend does."""
    if pieces.turned_deg(first, last) < BEND_FOR_SURE_DEG:
        return False
    apex = pieces.bend_apex[first : last + 1]
    return bool(((apex >= pieces.first[first]) & (apex <= pieces.last[last])).any())


def stands_alone(pieces: Pieces, first: int, last: int) -> bool:
    """Whether an unclaimed stretch is a bend of its own, not the rest of a claimed one beside it on the same side."""
    if not holds_a_bend(pieces, first, last):
        return False
    sides = ((first - 1, first), (last, last + 1))
    joined = [j for i, j in sides if i >= 0 and j < len(pieces) and pieces.side[i] == pieces.side[j]]
    parted = all(pieces.dip[pieces.bend[j]] > PARTING_DIP for j in joined)
    return parted or pieces.turned_deg(first, last) > TOO_MUCH_FOR_A_REST_DEG
