"""The road shared out among the notes once each has claimed a run: where each bend ends, and which bends answer to no note."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from itertools import chain

import numpy as np
from numpy.typing import NDArray

from mirkle.core.lineup.called_notes import CalledNotes, call_cost, distance_cost, expected_gaps
from mirkle.core.lineup.crew_scale import GapYardstick
from mirkle.core.lineup.road import Road, claimed, holds_a_bend, stands_alone, unclaimed
from mirkle.core.motion.bends import Stretches, grown
from mirkle.core.motion.spans import EVERY_METRE, Pieces, Spans, measure
from mirkle.core.recording.model import Floats

# First and last piece of stretches of road that are bends of their own and answer to no note.
Alone = list[tuple[int, int]]
# By how much the distances called have to speak against it that a stretch belongs to the bend beside it, in nats.
SPEAKS_AGAINST = 2.0


def met_of(
    calls: CalledNotes, road: Road, chosen: NDArray[np.intp], distances: GapYardstick
) -> tuple[NDArray[np.intp], tuple[Stretches, Alone], Spans]:
    """Which notes are paired, their bends and those beside them, and the bends' measures, without what was called."""
    paired = np.flatnonzero(chosen >= 0)
    shared = _shared_out(road, chosen[paired], _Spacing(calls, road, chosen, distances))
    return paired, shared, measure(road.profile, shared[0].first, shared[0].last, samples=EVERY_METRE)


def _shared_out(road: Road, run: NDArray[np.intp], spacing: _Spacing) -> tuple[Stretches, Alone]:
    """The claimed runs grown to where their bends end, and the stretches of pieces beside them that are bends of their own.

    A note may have claimed two bends because that was cheaper than to leave one without a note; growing, it keeps the one
    that holds its apex, and the other stands alone.
    """
    pieces, a, b = road.pieces, road.a[run], road.b[run]
    free = unclaimed(pieces, claimed(pieces, a, b))
    apart = [s for s in free if spacing.sets_apart(*s)]

    def alone_among(stretches: Alone) -> Alone:
        def holds_one_apart(i: int, j: int) -> bool:
            return holds_a_bend(pieces, i, j) and any(i <= last and first <= j for first, last in apart)

        return [s for s in stretches if stands_alone(pieces, *s) or holds_one_apart(*s)]

    alone = alone_among(free)
    stretches, alone = _grown_beside(road, a, b, alone)
    left = alone_among(unclaimed(pieces, _mostly_in(pieces, stretches)))
    return (stretches, left) if left == alone else _grown_beside(road, a, b, left)


@dataclass(frozen=True)
class _Spacing:
    """What the distances and the calls say of a bend that the line leads into without straightening.

    Nothing shows there where one bend ends and the next begins, but a note whose distance ends behind such a stretch, and
    whose call came for the place behind it, does not answer for it.
    """

    calls: CalledNotes
    road: Road
    chosen: NDArray[np.intp]
    distances: GapYardstick

    def sets_apart(self, i: int, j: int) -> bool:
        """Whether the stretch of pieces ``i`` to ``j`` belongs to none of the claimed runs that it leads into."""
        if not holds_a_bend(self.road.pieces, i, j):
            return False
        against = [self._against_begin(i, j), self._against_end(i, j)]
        known = [a for a in against if a is not None]
        return bool(known) and min(known) > SPEAKS_AGAINST

    @cached_property
    def _expected(self) -> tuple[Floats, Floats]:
        return expected_gaps(self.calls, self.distances)

    def _against_begin(self, i: int, j: int) -> float | None:
        """How much less likely the run behind the stretch becomes when it begins with it; ``None`` where it is not joined."""
        road, pieces, chosen = self.road, self.road.pieces, self.chosen
        behind = np.flatnonzero((chosen >= 0) & (road.a[chosen] == j + 1))
        if not len(behind) or pieces.side[j + 1] != pieces.side[i]:
            return None
        k = int(behind[0])
        begins = np.array([pieces.from_m[i], pieces.from_m[j + 1]])
        heard = (begins - self.calls.heard_m[k]) / self.calls.heard_sigma_m[k]
        cost = call_cost(heard) if np.isfinite(heard).all() else np.zeros(2)
        if k and chosen[k - 1] >= 0:
            cost = cost + self._gap_cost(k, begins - road.runs.to_m[chosen[k - 1]])
        return float(cost[0] - cost[1])

    def _against_end(self, i: int, j: int) -> float | None:
        road, pieces, chosen = self.road, self.road.pieces, self.chosen
        before = np.flatnonzero((chosen >= 0) & (road.b[chosen] == i - 1))
        if not len(before) or pieces.side[i - 1] != pieces.side[i]:
            return None
        k = int(before[0])
        if k + 1 == len(chosen) or chosen[k + 1] < 0:
            return 0.0
        ends = np.array([pieces.to_m[j], road.runs.to_m[chosen[k]]])
        cost = self._gap_cost(k + 1, pieces.from_m[road.a[chosen[k + 1]]] - ends)
        return float(cost[0] - cost[1])

    def _gap_cost(self, note: int, gap_m: Floats) -> Floats:
        expected, scatter = (float(column[note]) for column in self._expected)
        if np.isnan(expected):
            return np.zeros(len(gap_m))
        return distance_cost((gap_m - expected) / scatter)


def _mostly_in(pieces: Pieces, stretches: Stretches) -> NDArray[np.bool_]:
    """Which pieces have their middle in one of some stretches, (pieces,)."""
    if not len(stretches.first):
        return np.zeros(len(pieces), dtype=bool)
    middle = (pieces.first + pieces.last) // 2
    at = np.searchsorted(stretches.first, middle, side="right") - 1
    return np.asarray((at >= 0) & (middle <= stretches.last[at]))


def _grown_beside(road: Road, a: NDArray[np.intp], b: NDArray[np.intp], alone: Alone) -> tuple[Stretches, Alone]:
    """Runs from ``a`` to ``b`` grown, but not over what stands alone, and what then does stand alone."""
    pieces = road.pieces
    kept, left = _given_up(road, a, b, alone)
    first = np.concatenate([[pieces.first[i] for i, _ in kept], [pieces.first[i] for i, _ in left]]).astype(np.intp)
    last = np.concatenate([[pieces.last[j] for _, j in kept], [pieces.last[j] for _, j in left]]).astype(np.intp)
    order = np.argsort(first)
    return grown(road.profile, first[order], last[order]).picked(np.argsort(order)[: len(a)]), left


def _given_up(road: Road, a: NDArray[np.intp], b: NDArray[np.intp], alone: Alone) -> tuple[list[tuple[int, int]], Alone]:
    """The pieces of each run that it keeps where bends inside it stand alone, and those that do.

    A run keeps the part that turns most. One that would keep nothing keeps the bend in it that turns most: that one answers to
    its note, then, and does not stand alone.
    """
    pieces, left, kept = road.pieces, list(alone), []
    for first, last in zip(a.tolist(), b.tolist(), strict=True):
        inside = sorted(s for s in left if first <= s[0] and s[1] <= last)
        edges = [first - 1, *chain.from_iterable(inside), last + 1]
        parts = [(behind + 1, ahead - 1) for behind, ahead in zip(edges[::2], edges[1::2], strict=True) if behind + 1 < ahead]
        if not parts:
            parts = [max(inside, key=lambda s: pieces.turned_deg(*s))]
            left.remove(parts[0])
        kept.append(max(parts, key=lambda p: pieces.turned_deg(*p)))
    return kept, left
