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

from dataclasses import dataclass, replace

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
# A place that is worth less than its neighbours by twice these nats is no way to anywhere: nothing overflows.
UNREACHED = 300.0
UNREACHED_WAY = float(np.exp(UNREACHED))
# What is less likely by these nats adds nothing to a sum, in double precision; no likelihood is taken for less.
NOTHING_NATS, UNLIKELIEST = 45.0, 1e-300
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

    def costs(self, first: NDArray[np.intp], last: NDArray[np.intp]) -> tuple[list[Floats], list[Floats]]:
        """Cost of putting each note on each of the runs from ``first`` up to ``last``, both (notes,), and what the note's own grade has in
        it beyond a grade that is not known; a list of arrays, one for each note.

        All pairs of a note and a run lie in one row, so that NumPy is asked once for all notes.
        """
        calls, runs = self.calls, self.runs
        count = last - first
        note = np.repeat(np.arange(len(count)), count)
        run = np.arange(len(note)) + np.repeat(first - (np.cumsum(count) - count), count)
        grade = self._grade_cost(note, run)
        cost = COST_OF_WRONG_SIDE * (runs.side[run] != calls.side[note]) + grade + UNKNOWN_GRADE + self.alone[run]
        cost += length_cost(self.log_length[run] - np.log(calls.length_m)[note])
        heard = call_cost((self.begins_m[run] - calls.heard_m[note]) / calls.heard_sigma_m[note])
        cost += np.where(np.isfinite(calls.heard_m)[note], heard, 0.0)
        pinned_m = np.where(np.isfinite(calls.pinned_m), calls.pinned_m, np.nan)[note]
        beside_m = np.maximum(runs.from_m[run] - pinned_m, pinned_m - runs.to_m[run])
        cost += np.where(np.isnan(pinned_m), 0.0, COST_BESIDE_PIN_PER_M * np.maximum(beside_m, 0.0))
        cost += (COST_OF_PULLING_A_PIN * np.isinf(calls.pinned_m) + COST_OF_ROAD_AGAIN * calls.again)[note]
        ends = np.cumsum(count)[:-1]
        return np.split(cost, ends), np.split(grade, ends)

    def _grade_cost(self, note: NDArray[np.intp], run: NDArray[np.intp]) -> Floats:
        """What a note's own grade costs on a run beyond a grade that is not known, for pairs of a note and a run, (m,)."""
        # Both tails are Student's. A density is the higher the narrower it is: a yardstick that fits closely is worth that to each note.
        z = (self.position[run] - self.calls.position[note]) / self.scatter
        cost = grade_cost(z) - UNKNOWN_GRADE + np.log(self.scatter / USUAL_SCATTER)
        cost += turn_cost(np.log(self.calls.least_turn_deg)[note] - self.log_turn[run])
        return np.where(np.isnan(self.calls.position)[note], 0.0, cost)


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
    """Cost of the best alignment that ends with note ``i`` on run ``first[i] + k``: ``cost[i][k]``; ``whole`` of the best of all.

    ``own`` is what the run costs the note by itself, and ``grade`` what the note's own grade has in that.
    """

    first: list[int]
    cost: list[Floats]
    own: list[Floats]
    grade: list[Floats]
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

    def reached(self, road: Road, steps: _Steps) -> tuple[Floats, NDArray[np.intp]]:
        """The least cost of coming to each piece that a note may begin with, and from which place, both (m,)."""
        base, ways = self._ways(road, steps)
        nearest = ways.argmin(axis=1)
        rows = np.arange(len(ways))
        reach, origin = _cost_of(base, ways[rows, nearest]), np.maximum(rows + steps.low - steps.look_back + 1 + nearest, 0)
        reach += road.left_over[steps.low : steps.high]
        beyond = self._beyond(road, steps)
        if beyond is None or (beyond.least_cost >= reach).all():
            return reach, origin
        least = np.minimum.accumulate(beyond.value)
        newly = np.where(beyond.value <= least, np.arange(len(least)), 0)
        far = beyond.cost(least)
        return np.minimum(reach, far), np.where(far < reach, np.maximum.accumulate(newly)[beyond.at] + beyond.first, origin)

    def summed(self, road: Road, steps: _Steps) -> Floats:
        """-ln of the likelihood of all ways to each piece that a note may begin with together, (m,)."""
        base, ways = self._ways(road, steps)
        reach = _cost_of(base, (1.0 / (ways * ways)).sum(axis=1) ** -0.5)
        reach += road.left_over[steps.low : steps.high]
        beyond = self._beyond(road, steps)
        if beyond is None or (beyond.least_cost >= reach + NOTHING_NATS).all():
            return reach
        least = float(beyond.value.min())
        together = np.cumsum(np.exp(least - beyond.value))
        return -np.logaddexp(-reach, -beyond.cost(least - np.log(np.maximum(together, UNLIKELIEST))))

    def _ways(self, road: Road, steps: _Steps) -> tuple[float, Floats]:
        """How seldom each way is to each piece that a note may begin with from each of the places before it, (m, look_back), the nearest
        place last: the way costs ``base`` + 2 ln of it, and what is left over up to the piece.

        A distance costs 2 ln(1 + z²) (:func:`distance_cost`), so that the table is worked out without a logarithm, whether its least is
        wanted or its sum.
        """
        low, high, look_back, expected_m, scatter_m = steps.low, steps.high, steps.look_back, steps.expected_m, steps.scatter_m
        near = slice(max(0, low - look_back + 1), high)
        begins = road.pieces.from_m[low:high, None]
        value, end_m = self.value[near] - road.left_over[near], self.ended_m[near] + self.owed_m[near]
        loose_m2 = self.loose_m2[near]
        unasked = np.isinf(loose_m2) | np.isnan(expected_m)
        spread = np.sqrt(np.where(unasked, USUAL_SPREAD_M**2, scatter_m**2 + loose_m2))
        value += np.where(unasked, UNASKED, np.log(spread / USUAL_SPREAD_M))
        base = float(value.min())
        seldom = np.exp(np.minimum(0.5 * (value - base), UNREACHED))
        so_far = _behind(seldom, low, look_back, UNREACHED_WAY)
        if not unasked.all():
            wide = 1.0 / (np.sqrt(3.0) * spread)
            known = (begins - expected_m) * _behind(wide, low, look_back, 1.0)
            known -= _behind(end_m * wide, low, look_back, 0.0)
            known *= known
            known += 1.0
            known *= so_far
            if not unasked.any():
                return base, known
        # A distance of which a part was not called says nothing: it counts the same from either end.
        middle_m = float(begins[0, 0])
        onward, back = np.exp(0.5 * UNASKED_PER_M * (begins - middle_m)), np.exp(0.5 * UNASKED_PER_M * (end_m - middle_m))
        unlikely = np.maximum(
            onward * _behind(seldom / back, low, look_back, UNREACHED_WAY), _behind(seldom * back, low, look_back, 0.0) / onward
        )
        if unasked.all():
            return base, unlikely
        return base, np.where(_behind(unasked.astype(float), low, look_back, 0.0) > 0.0, unlikely, known)

    def _beyond(self, road: Road, steps: _Steps) -> _Beyond | None:
        """The places that lie further back than those, ``None`` where there is none."""
        low, high, expected_m, scatter_m = steps.low, steps.high, steps.expected_m, steps.scatter_m
        last = np.arange(low, high) - steps.look_back
        first = int(np.searchsorted(road.pieces.to_m, road.pieces.from_m[low] - MOST_MISSING_M))
        if last[-1] < first:
            return None
        places = slice(first, int(last[-1]) + 1)
        value = self.value[places] - road.left_over[places] - UNASKED_PER_M * (self.ended_m[places] + self.owed_m[places])
        way = UNASKED
        if not np.isnan(expected_m):
            reach_m = _reach_m(expected_m, scatter_m)
            way = float(distance_cost(np.array([(reach_m - expected_m) / scatter_m]))[0]) - UNASKED_PER_M * reach_m
            way += float(np.log(scatter_m / USUAL_SPREAD_M))
        return _Beyond(first, last - first, value, way + UNASKED_PER_M * road.pieces.from_m[low:high] + road.left_over[low:high])

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


@dataclass(frozen=True)
class _Beyond:
    """Places from ``first`` on and the cost to come from each, less the ``way``, (k,); for each piece that a note may begin with the last
    of them that lies behind it, negative for none, and the way to it, both (m,)."""

    first: int
    last: NDArray[np.intp]
    value: Floats
    way: Floats

    @property
    def at(self) -> NDArray[np.intp]:
        return np.maximum(self.last, 0)

    @property
    def least_cost(self) -> Floats:
        """No piece is reached from any of them for less, (m,)."""
        return float(self.value.min()) + self.way

    def cost(self, up_to: Floats) -> Floats:
        """What it costs to come to each piece from all that lie behind it, by what all ``up_to`` each of the places come to, (m,)."""
        return np.where(self.last < 0, FAR, up_to[self.at] + self.way)


def _cost_of(base: float, seldom: Floats) -> Floats:
    """The costs of ways that are ``seldom``, as :meth:`_Front._ways` has them."""
    return np.where(seldom < UNREACHED_WAY, base + 2.0 * np.log(seldom), FAR)


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
    table = _empty_table(road, fit, search)
    came_from, best_run = [], np.full((notes, places), -1, dtype=np.int32)
    for i, steps in enumerate(_steps_to_each(road, fit, search)):
        reach, origin = front.reached(road, steps)
        runs = slice(table.first[i], table.first[i] + len(table.own[i]))
        row = road.a[runs] - steps.low
        cost = reach[row] + table.own[i]
        table.cost.append(cost)
        came_from.append(origin[row])
        front.skip_note(*_skipped(fit.calls, i, steps))
        ends = road.b[runs] + 1
        least = np.full(places, FAR)
        np.minimum.at(least, ends, cost)
        better = np.flatnonzero((cost <= least[ends]) & (cost < front.value[ends]))
        front.end_with(ends[better], cost[better], road.runs.to_m[runs][better])
        best_run[i, ends[better]] = runs.start + better
    chosen = np.full(notes, -1, dtype=np.intp)
    total = front.value if search.free_ends else front.value + road.left_over[-1] - road.left_over
    at = int(np.argmin(total))
    whole = float(total[at])
    for i in range(notes - 1, -1, -1):
        run = best_run[i, at]
        if run >= 0:
            chosen[i] = run
            at = int(came_from[i][run - table.first[i]])
    return chosen, replace(table, whole=whole)


def swept(road: Road, fit: Fit, search: Search) -> Table:
    """What :func:`align` finds with sums in place of minima: -ln of the likelihood of all alignments that end with each run.

    Where alignments come together that owe different metres, the likelier one's stand for both.
    """
    front = _front(road, free_ends=search.free_ends)
    table = _empty_table(road, fit, search)
    for i, steps in enumerate(_steps_to_each(road, fit, search)):
        reach = front.summed(road, steps)
        runs = slice(table.first[i], table.first[i] + len(table.own[i]))
        cost = reach[road.a[runs] - steps.low] + table.own[i]
        table.cost.append(cost)
        front.skip_note(*_skipped(fit.calls, i, steps))
        if not len(cost):
            continue
        ends = road.b[runs] + 1
        least = float(cost.min())
        ending = np.bincount(ends, np.exp(least - cost), minlength=len(front.value))
        at = np.flatnonzero(ending)
        value = least - np.log(ending[at])
        likelier = value < front.value[at]
        both = -np.logaddexp(-value, -front.value[at])
        front.value[at] = both
        front.end_with(at[likelier], both[likelier], road.pieces.to_m[at[likelier] - 1])
    return replace(table, whole=front.closed(road, free_ends=search.free_ends))


def _empty_table(road: Road, fit: Fit, search: Search) -> Table:
    """The runs that each note may be on, and what each costs by itself."""
    first, last = road.run_of_start[np.array(search.windows, dtype=np.intp).reshape(-1, 2)].T
    own, grade = fit.costs(first, last)
    return Table([int(n) for n in first], [], own, grade, np.inf)


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
