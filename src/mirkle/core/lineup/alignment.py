"""The best alignment of notes with runs of road, by dynamic programming.

The cost of a whole alignment is the sum of

* how badly each claimed run fits its note (grade on the crew's yardstick, direction, length, any turn at all),
* how badly each distance between two claimed runs fits the distance called,
* each note left without a road, and each bend left without a note, by how much of a bend it is.

The costs are negative log-likelihoods with heavy tails, so one wrong note costs a bounded amount and does not drag
its neighbours. The best alignment is found exactly, note by note, with NumPy over all runs at once. The same programme with
sums in place of minima (:func:`swept`) gives the likelihood of all alignments together, and with it how sure each part of the
best one is (:mod:`mirkle.core.lineup.marginals`).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mirkle.core.lineup.called_notes import CalledNotes, call_cost, distance_cost, expected_gaps, grade_cost, length_cost, turn_cost
from mirkle.core.lineup.crew_scale import CREW_SCATTER, GapYardstick, GradeYardstick
from mirkle.core.lineup.road import Road
from mirkle.core.motion.spans import Pieces, Spans
from mirkle.core.recording.model import Floats

# How far before its first piece a note's predecessor may end: this share of the called metres, plus this many scatters, at least these
# metres. Notes left without a road add to it.
LOOK_BACK_SHARE, LOOK_BACK_SCATTERS, LEAST_LOOK_BACK_M = 1.3, 5.0, 450.0
# A predecessor further back (after a missing page) costs as much as the last one in reach, and this much a metre (nats), like a
# distance that nobody called.
UNASKED, UNASKED_PER_M = 0.3, 0.004
# No page is longer.
MOST_MISSING_M = 3000.0
# -ln of how seldom each happens in a book of notes. # common practice: a slip or two in a hundred notes
# A note without a road saves the two to three that a rightly paired one pays for its usual misfit: that comes on top.
COST_OF_NOTE_WITHOUT_ROAD = 7.5
COST_OF_WRONG_SIDE = 5.0
# How long the bend is that a note without a road stands for, and how little that is known. # common practice
LENGTH_OF_A_BEND_M, LENGTH_UNKNOWN_M = 25.0, 20.0
# A page that stands in the book twice is on the road once: its second copy is free to be nowhere, and pays for each note that is put
# somewhere.
COST_OF_NOTE_WRITTEN_AGAIN, COST_OF_ROAD_AGAIN = 0.1, 3.0
# What a grade costs that is not known: as one that is a scatter off.
UNKNOWN_GRADE = float(grade_cost(np.ones(1))[0])
# What a hand has put in its place stays there, whatever else it costs.
COST_OF_PULLING_A_PIN, COST_BESIDE_PIN_PER_M = 1000.0, 5.0
FAR = 1e9
# The scatters at which a density counts nothing for its width: of a grade, and of a distance in metres.
USUAL_SCATTER, USUAL_SPREAD_M = 0.5, 12.0
# Costs (nats) of a run that hardly turns, falling off over these degrees; of a straight inside a run, falling off over these metres of
# easing; and of a run that cuts a bend.
COST_OF_STRAIGHT, HARDLY_TURNED_DEG, COST_OF_EASING, EASING_M, COST_OF_CUTTING = 3.0, 4.0, 1.5, 10.0, 1.0
# An easing shallower than the first is noise of the line; one deeper than the second parts two bends.
SHALLOW_DIP, DEEP_DIP, COST_OF_DIP = 0.1, 0.4, 3.0


@dataclass(frozen=True)
class Fit:
    """How well runs fit notes under one yardstick; everything that depends on the run alone is worked out once."""

    calls: CalledNotes
    runs: Spans
    position: Floats
    scatter: float
    log_length: Floats
    log_turn: Floats
    alone: Floats
    begins_m: Floats

    def cost(self, note: int, which: slice) -> Floats:
        """Cost of putting a note on each of some runs, (m,)."""
        calls, runs = self.calls, self.runs
        cost = self.side_cost(note, which) + self.grade_cost(note, which) + UNKNOWN_GRADE
        cost = cost + length_cost(self.log_length[which] - np.log(calls.length_m[note]))
        if np.isfinite(calls.heard_m[note]):
            cost = cost + call_cost((self.begins_m[which] - calls.heard_m[note]) / calls.heard_sigma_m[note])
        if np.isfinite(calls.pinned_m[note]):
            beside_m = np.maximum(runs.from_m[which] - calls.pinned_m[note], calls.pinned_m[note] - runs.to_m[which])
            cost = cost + COST_BESIDE_PIN_PER_M * np.maximum(beside_m, 0.0)
        elif np.isinf(calls.pinned_m[note]):
            cost = cost + COST_OF_PULLING_A_PIN
        if calls.again[note]:
            cost = cost + COST_OF_ROAD_AGAIN
        return np.asarray(cost + self.alone[which])

    def side_cost(self, note: int, which: slice) -> Floats:
        """What a note's own side costs on each of some runs, (m,)."""
        return np.asarray(COST_OF_WRONG_SIDE * (self.runs.side[which] != self.calls.side[note]))

    def grade_cost(self, note: int, which: slice) -> Floats:
        """What a note's own grade costs beyond a grade that is not known, on each of some runs, (m,)."""
        calls = self.calls
        called = calls.position[note]
        if np.isnan(called):
            return np.zeros(len(self.position[which]))
        # Both tails are Student's. A density is the higher the narrower it is: a yardstick that fits closely is worth that to each note.
        z = (self.position[which] - called) / self.scatter
        cost = grade_cost(z) - UNKNOWN_GRADE + np.log(self.scatter / USUAL_SCATTER)
        return np.asarray(cost + turn_cost(np.log(calls.least_turn_deg[note]) - self.log_turn[which]))


def fit_of(calls: CalledNotes, road: Road, grades: GradeYardstick) -> Fit:
    runs = road.runs
    hardly_turned = COST_OF_STRAIGHT * np.exp(-runs.turn_deg / HARDLY_TURNED_DEG)
    # A straight inside a bend makes it two; a few metres of easing do not.
    two_in_one = COST_OF_EASING * np.log1p((runs.easing_m / EASING_M) ** 2) + COST_OF_DIP * np.clip(
        (road.dip - SHALLOW_DIP) / (DEEP_DIP - SHALLOW_DIP), 0.0, 1.0
    )
    return Fit(
        calls=calls,
        runs=runs,
        position=grades.position(runs),
        scatter=max(grades.scatter, CREW_SCATTER),
        log_length=np.log(runs.length_m),
        log_turn=np.log(np.maximum(runs.turn_deg, 1.0)),
        begins_m=runs.from_m,
        alone=hardly_turned + two_in_one + COST_OF_CUTTING * road.cuts,
    )


Windows = list[tuple[int, int]]


@dataclass(frozen=True)
class Search:
    """Where an alignment is looked for: each note begins with one of the pieces of its window (the first, and the one behind the last), as
    far behind the note before as the crew's ``distances`` between eased ends say. With ``free_ends`` the notes may begin and end anywhere
    on the road, and bends before and behind them cost nothing.
    """

    distances: GapYardstick
    windows: Windows
    free_ends: bool = False


@dataclass(frozen=True)
class Table:
    """Cost of the best alignment that ends with note ``i`` on run ``first[i] + k``: ``cost[i][k]``; ``whole`` of the best of all."""

    first: list[int]
    cost: list[Floats]
    whole: float


@dataclass
class _Front:
    """The best alignments so far, one for each piece that the last note may have ended with; the first is the start line.

    ``value`` is their cost, ``ended_m`` where that note's bend ends, ``owed_m`` the metres called since over notes left
    without a road and ``loose_m2`` their variance, infinite where one of them called no distance; all (pieces + 1,).
    """

    value: Floats
    ended_m: Floats
    owed_m: Floats
    loose_m2: Floats

    def skip_note(self, cost: float, metres: float, loose_m: float) -> None:
        """Everything stays, but the road that the note stood for is owed, and with it what is not known of that."""
        self.value += cost
        self.owed_m += metres
        self.loose_m2 += loose_m**2

    def coming(self, road: Road, steps: _Steps) -> Floats:
        """Cost of coming to each piece that a note may begin with from each of those before it, (m, look_back).

        The last column is the nearest place behind.
        """
        low, high, look_back, expected_m, scatter_m = steps.low, steps.high, steps.look_back, steps.expected_m, steps.scatter_m
        first = max(0, low - look_back + 1)
        near = slice(first, high)
        begins = road.pieces.from_m[low:high, None]
        value, end_m = self.value[near] - road.left_over[near], self.ended_m[near] + self.owed_m[near]
        loose_m2 = self.loose_m2[near]
        unasked = np.isinf(loose_m2) | np.isnan(expected_m)
        some_unasked = bool(unasked.any())
        if some_unasked:
            # A distance of which a part was not called says nothing: it counts the same from either end.
            unlikely = unasked_cost(begins - _behind(end_m, low, look_back, 0.0))
            unlikely += _behind(value, low, look_back, FAR) + road.left_over[low:high, None]
            if unasked.all():
                return unlikely
            loose_m2 = np.where(unasked, 0.0, loose_m2)
        spread = np.sqrt(scatter_m**2 + loose_m2)
        # ``distance_cost`` with its division drawn out of the table, and the width of the density.
        wide = _behind(1.0 / (np.sqrt(3.0) * spread), low, look_back, 1.0)
        z = ((begins - expected_m) - _behind(end_m, low, look_back, 0.0)) * wide
        so_far = _behind(value + np.log(spread / USUAL_SPREAD_M), low, look_back, FAR)
        known = 2.0 * np.log(1.0 + z * z) + so_far + road.left_over[low:high, None]
        if not some_unasked:
            return known
        return np.where(_behind(unasked.astype(float), low, look_back, 0.0) > 0.0, unlikely, known)

    def beyond(self, road: Road, steps: _Steps, *, summed: bool = False) -> tuple[Floats, NDArray[np.intp]]:
        """The same from the places that lie further back than those: the least cost and from which place, each (m,).

        With ``summed`` all of them together, and the places mean nothing.
        """
        low, high, expected_m, scatter_m = steps.low, steps.high, steps.expected_m, steps.scatter_m
        last = np.arange(low, high) - steps.look_back
        first = int(np.searchsorted(road.pieces.to_m, road.pieces.from_m[low] - MOST_MISSING_M))
        if last[-1] < first:
            return np.full(high - low, FAR), np.zeros(high - low, dtype=np.intp)
        places, last = slice(first, int(last[-1]) + 1), np.maximum(last - first, -1)
        from_there = self.value[places] - road.left_over[places]
        from_there -= UNASKED_PER_M * (self.ended_m[places] + self.owed_m[places])
        at = np.maximum(last, 0)
        if summed:
            least, origin = -np.logaddexp.accumulate(-from_there)[at], at
        else:
            least = np.minimum.accumulate(from_there)
            newly = np.where(from_there <= least, np.arange(len(least)), 0)
            least, origin = least[at], np.maximum.accumulate(newly)[at] + first
        way = UNASKED
        if not np.isnan(expected_m):
            reach_m = _reach_m(expected_m, scatter_m)
            way = float(distance_cost(np.array([(reach_m - expected_m) / scatter_m]))[0]) - UNASKED_PER_M * reach_m
            way += float(np.log(scatter_m / USUAL_SPREAD_M))
        cost = least + way + UNASKED_PER_M * road.pieces.from_m[low:high] + road.left_over[low:high]
        return np.where(last < 0, FAR, cost), origin

    def closed(self, road: Road, *, free_ends: bool) -> float:
        """-ln of the likelihood of all alignments up to the end of the road, or to anywhere on it.

        The way to the end costs what that from the start does, so that it is the same seen from either end.
        """
        ended_m, left_over = self.ended_m + self.owed_m, road.left_over
        ends_m, left = np.array([road.profile.length_m]), left_over[-1:]
        if free_ends:
            ends_m, left = np.append(road.pieces.from_m, ends_m), left_over
        left_between = left[None, :] - left_over[:, None]
        way = np.where(left_between < 0.0, FAR, unasked_cost(ends_m[None, :] - ended_m[:, None]) + left_between)
        return float(added((self.value + added(way))[None, :])[0])

    def end_with(self, at: NDArray[np.intp], cost: Floats, to_m: Floats) -> None:
        """The note ends with some pieces at some cost, its bends at ``to_m``."""
        self.value[at] = cost
        self.owed_m[at] = self.loose_m2[at] = 0.0
        self.ended_m[at] = to_m


def _behind(values: Floats, low: int, look_back: int, fill: float) -> Floats:
    """For each start from ``low`` on the values of the last places behind it, the start last; (m, look_back).

    A view without copies: ``values`` end with the last start and begin ``look_back`` before the first, or with the
    start line.
    """
    missing = look_back - 1 - low
    if missing > 0:
        values = np.concatenate([np.full(missing, fill), values])
    return np.ndarray((len(values) - look_back + 1, look_back), buffer=values, strides=(8, 8))


def _look_back(road: Road, low: int, high: int, expected_m: float, scatter_m: float) -> int:
    """How many pieces before a note's first its predecessor may have ended."""
    begins = road.pieces.from_m[low:high]
    ended = np.searchsorted(road.pieces.to_m, begins - _reach_m(expected_m, scatter_m))
    return int((np.arange(low, high) - ended).max(initial=0)) + 2


def _reach_m(expected_m: float, scatter_m: float) -> float:
    """Within how many metres before a note's first piece each place is looked at by itself."""
    metres = LOOK_BACK_SHARE * expected_m + LOOK_BACK_SCATTERS * scatter_m if np.isfinite(expected_m) else 0.0
    return max(metres, LEAST_LOOK_BACK_M)


@dataclass(frozen=True)
class _Steps:
    """The way from the notes before to one note: the pieces that it may begin with, ``low`` to before ``high``, how many places each may be
    come to from, and the metres expected between, nan where none was called, and their scatter."""

    low: int
    high: int
    look_back: int
    expected_m: float
    scatter_m: float


def _steps_to_each(road: Road, fit: Fit, search: Search) -> list[_Steps]:
    """The way to each of the notes."""
    expected, scatter = expected_gaps(fit.calls, search.distances)
    return [
        _Steps(low, high, _look_back(road, low, high, e, s), e, s)
        for (low, high), e, s in zip(search.windows, map(float, expected), map(float, scatter), strict=True)
    ]


def align(road: Road, fit: Fit, search: Search) -> tuple[NDArray[np.intp], Table]:
    """The best run for each note, -1 where it has none, (notes,), and the table."""
    notes, places = len(fit.calls.notes), len(road.pieces) + 1
    front = _front(road, free_ends=search.free_ends)
    first_runs: list[int] = []
    costs: list[Floats] = []
    came_from, best_run = [], np.full((notes, places), -1, dtype=np.int32)
    for i, steps in enumerate(_steps_to_each(road, fit, search)):
        total = front.coming(road, steps)
        nearest = total.argmin(axis=1)
        rows = np.arange(steps.high - steps.low)
        reach, origin = total[rows, nearest], np.maximum(rows + steps.low - steps.look_back + 1 + nearest, 0)
        far, far_origin = front.beyond(road, steps)
        reach, origin = np.minimum(reach, far), np.where(far < reach, far_origin, origin)
        first, last = int(road.run_of_start[steps.low]), int(road.run_of_start[steps.high])
        row = road.a[first:last] - steps.low
        cost = reach[row] + fit.cost(i, slice(first, last))
        first_runs.append(first)
        costs.append(cost)
        came_from.append(origin[row])
        front.skip_note(*_skipped(fit.calls, i, steps))
        dearest_first = np.argsort(-cost)
        here = np.full(places, -1, dtype=np.intp)
        here[road.b[first:last][dearest_first] + 1] = dearest_first  # the last write is the cheapest
        better = np.flatnonzero(here >= 0)
        better = better[cost[here[better]] < front.value[better]]
        run = first + here[better]
        front.end_with(better, cost[here[better]], road.runs.to_m[run])
        best_run[i, better] = run
    chosen = np.full(notes, -1, dtype=np.intp)
    total = front.value if search.free_ends else front.value + road.left_over[-1] - road.left_over
    at = int(np.argmin(total))
    table = Table(first_runs, costs, float(total[at]))
    for i in range(notes - 1, -1, -1):
        run = best_run[i, at]
        if run >= 0:
            chosen[i] = run
            at = int(came_from[i][run - first_runs[i]])
    return chosen, table


def swept(road: Road, fit: Fit, search: Search) -> Table:
    """What :func:`align` finds with sums in place of minima: -ln of the likelihood of all alignments that end with each run.

    Where alignments come together that owe different metres, the likelier one's stand for both.
    """
    front = _front(road, free_ends=search.free_ends)
    first_runs: list[int] = []
    costs: list[Floats] = []
    for i, steps in enumerate(_steps_to_each(road, fit, search)):
        near = added(front.coming(road, steps))
        reach = -np.logaddexp(-near, -front.beyond(road, steps, summed=True)[0])
        first, last = int(road.run_of_start[steps.low]), int(road.run_of_start[steps.high])
        cost = reach[road.a[first:last] - steps.low] + fit.cost(i, slice(first, last))
        first_runs.append(first)
        costs.append(cost)
        front.skip_note(*_skipped(fit.calls, i, steps))
        if not len(cost):
            continue
        ends = road.b[first:last] + 1
        least = float(cost.min())
        ending = np.bincount(ends, np.exp(least - cost), minlength=len(front.value))
        at = np.flatnonzero(ending)
        value = least - np.log(ending[at])
        likelier = value < front.value[at]
        both = -np.logaddexp(-value, -front.value[at])
        front.value[at] = both
        front.end_with(at[likelier], both[likelier], road.pieces.to_m[at[likelier] - 1])
    return Table(first_runs, costs, front.closed(road, free_ends=search.free_ends))


def unasked_cost(metres: Floats) -> Floats:
    """-ln of how likely a distance is that nobody called."""
    return np.asarray(UNASKED + UNASKED_PER_M * np.abs(metres))


def added(cost: Floats) -> Floats:
    """-ln of the sum of the likelihoods in each row, of their -ln, (m, n) to (m,)."""
    least = cost.min(axis=1)
    return np.asarray(least - np.log(np.exp(least[:, None] - cost).sum(axis=1)))


def _front(road: Road, *, free_ends: bool) -> _Front:
    """Before the first note: at the start line, or anywhere."""
    places = len(road.pieces) + 1
    return _Front(
        value=np.zeros(places) if free_ends else np.concatenate([[0.0], np.full(places - 1, FAR)]),
        ended_m=np.concatenate([[0.0], road.pieces.to_m]),
        owed_m=np.zeros(places),
        loose_m2=np.zeros(places),
    )


def _skipped(calls: CalledNotes, note: int, steps: _Steps) -> tuple[float, float, float]:
    """What it costs that a note has no road, how many metres it owes, and their standard deviation."""
    if calls.again[note]:
        return COST_OF_NOTE_WRITTEN_AGAIN, 0.0, 0.0
    cost = COST_OF_PULLING_A_PIN if np.isfinite(calls.pinned_m[note]) else COST_OF_NOTE_WITHOUT_ROAD
    if np.isnan(steps.expected_m):
        return cost, LENGTH_OF_A_BEND_M, np.inf
    return cost, steps.expected_m + LENGTH_OF_A_BEND_M, float(np.hypot(steps.scatter_m, LENGTH_UNKNOWN_M))


def windows_about(place_m: Floats, pieces: Pieces, width_m: float) -> Windows:
    lows = np.searchsorted(pieces.to_m, place_m - width_m)
    highs = np.searchsorted(pieces.from_m, place_m + width_m)
    lows = np.minimum(np.minimum.accumulate(lows[::-1])[::-1], len(pieces) - 1)
    return [(int(a), max(int(a) + 1, int(b))) for a, b in zip(lows, highs, strict=True)]
