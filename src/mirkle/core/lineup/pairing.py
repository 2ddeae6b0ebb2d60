"""Which note belongs to which stretch of road: a segmental alignment by dynamic programming.

Each corner note claims a run of neighbouring pieces of the road (see :mod:`mirkle.core.motion.bends`), in order,
or none; pieces that no note claims stay over. The cost of a whole alignment is the sum of

* how badly each claimed run fits its note (grade on the crew's yardstick, direction, any turn at all),
* how badly each distance between two claimed runs fits the distance called,
* each note left without a road, and each bend left without a note, by how much of a bend it is.

The costs are negative log-likelihoods with heavy tails, so one wrong note costs a bounded amount and does not drag
its neighbours. The best alignment is found exactly, note by note, with NumPy over all runs at once; the yardsticks
are then fitted from it and it is found again. Running the same programme from the far end gives, for each note, the
cost of the best alignment that puts it elsewhere: the difference is how sure the pairing is.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from mirkle.core.lineup.yardstick import (
    CREW_SCATTER,
    PLAIN_GAPS,
    PLAIN_LINK_M,
    GapYardstick,
    GradeYardstick,
    fit_gaps,
    fit_yardstick,
    plain_yardstick,
)
from mirkle.core.motion.bends import (
    EVERY_METRE,
    STEP_M,
    Bend,
    Pieces,
    Profile,
    Runs,
    Stretches,
    bend_between,
    cut_in_pieces,
    gaps_before,
    grown,
    measure,
)
from mirkle.core.motion.recording import Floats
from mirkle.core.notes.model import Note
from mirkle.core.notes.school import School

LONGEST_BEND_M = 320.0
MOST_PIECES = 24
LOOK_BACK = 60
ROUNDS = 3
# -ln of how seldom each happens in a book of notes. # common practice: a slip or two in a hundred notes
COST_OF_NOTE_WITHOUT_ROAD = 6.5
COST_OF_WRONG_SIDE = 5.0
COST_OF_BEND_WITHOUT_NOTE = 5.5
BEND_FOR_SURE_DEG = 14.0
FAR = 1e9
EASING_M = 10.0
# Eased ends wander, and a distance written wrong must not tear an alignment apart: more scatter than the crew's own.
FORGIVING = 1.5
COST_OF_CUTTING = 1.0
# An easing shallower than the first is noise of the line; one deeper than the second parts two bends.
SHALLOW_DIP, DEEP_DIP, COST_OF_DIP = 0.1, 0.4, 3.0
# What no note claims beside a claimed bend of its side is the rest of it, unless it is parted from it or turns too far.
PARTING_DIP, TOO_MUCH_FOR_A_REST_DEG = 0.3, 60.0


@dataclass(frozen=True)
class Tie:
    """A corner note and the bend it was paired with, or ``None``; ``sure`` is from 0 to 1."""

    note: int
    bend: Bend | None
    sure: float
    position: float | None


@dataclass(frozen=True)
class GapMet:
    """The distance after a note, as called (with the notes of features between) and as met.

    ``called_m`` is ``None`` for a link word or where nothing was called; ``met_m`` is measured between the paired
    bends, whose extents come from curvature alone, never from the note; it is ``None`` where the line led from one
    bend into the next of the same side without straightening, so that nothing shows where the road did.
    """

    note: int
    next_note: int
    called_m: float | None
    word: str | None
    met_m: float | None
    usable: bool


@dataclass(frozen=True)
class Lineup:
    """Notes on the road. ``uncalled`` are bends that no note claims, each with where it lies on the crew's scale.

    ``distances`` are the crew's metres between arcs; ``eased_distances`` the same between eased ends, which is how an
    alignment sees them.
    """

    ties: tuple[Tie, ...]
    gaps: tuple[GapMet, ...]
    uncalled: tuple[tuple[Bend, float], ...]
    grades: GradeYardstick
    distances: GapYardstick
    eased_distances: GapYardstick


@dataclass(frozen=True)
class _Calls:
    """The corner notes as numbers: side, position (nan: unknown), called distance before each; all (n,)."""

    notes: tuple[Note, ...]
    side: Floats
    position: Floats
    length_m: Floats
    gap_m: Floats
    gap_word: NDArray[np.str_]
    gap_parts: NDArray[np.intp]
    heard_m: Floats
    heard_sigma_m: Floats


@dataclass(frozen=True)
class Heard:
    """Where the calls put each corner note: metres from the start line and their spread, nan where unsaid; (corners,)."""

    place_m: Floats
    sigma_m: Floats


def line_up(
    notes: tuple[Note, ...],
    school: School,
    profile: Profile,
    *,
    heard: Heard | None = None,
    before: Lineup | None = None,
    progress: Callable[[float], None] = lambda _: None,
) -> Lineup:
    """Pairs the corner notes with the road, fits the crew's yardsticks, and measures the gaps.

    Parameters
    ----------
    profile : the road from the start line to somewhere past the finish
    heard : where the calls put the notes, once the clocks are tied
    before : a line-up to begin from, so that fewer rounds are needed
    progress : is told the share done, 0 to 1; it may raise to cancel
    """
    calls = _calls(notes, school)
    if heard is not None:
        calls = replace(calls, heard_m=heard.place_m, heard_sigma_m=heard.sigma_m)
    road = _road_of(profile)
    plain = plain_yardstick(school)
    rounds = ROUNDS if before is None else 1
    if before is None:
        grades, distances = plain, PLAIN_GAPS
        windows = _first_windows(calls, road, distances)
    else:
        grades, distances = before.grades, before.eased_distances
        windows = _windows_before(calls, road, before)
    for turn in range(rounds):
        progress(turn / (rounds + 1))
        chosen, _ = _align(calls, road, _fit_of(calls, road, grades), distances, windows)
        paired, met = _met(profile, road, chosen)
        grades = _grades(calls, paired, met.runs, plain)
        distances = _eased_distances(calls, paired, met.runs)
        windows = _next_windows(chosen, road)
    fit = _fit_of(calls, road, grades)
    chosen, forward = _align(calls, road, fit, distances, windows)
    progress(rounds / (rounds + 1))
    sure = _sureness(calls, road, fit, distances, windows, forward, chosen)
    return _lineup(calls, profile, road, chosen, sure, plain)


def sense_on_the_road(notes: tuple[Note, ...], school: School, profile: Profile) -> School:
    """The school with the sense that the road shows: notes are lined up without their grades, then ranked by radius.

    A crew whose higher numbers fall on wider bends counts upwards. Where the road does not say so clearly, the school
    stays as it was.
    """
    calls = _calls(notes, school)
    blind = replace(calls, position=np.full(len(calls.notes), np.nan))
    road = _road_of(profile)
    fit = _fit_of(blind, road, plain_yardstick(school))
    chosen, _ = _align(blind, road, fit, PLAIN_GAPS, _first_windows(blind, road, PLAIN_GAPS))
    numbered = [(i, int(n.grade[0])) for i, n in enumerate(calls.notes) if n.grade and n.grade[0].isdigit()]
    pairs = [(number, road.runs.radius_m[chosen[i]]) for i, number in numbered if chosen[i] >= 0]
    if len(pairs) < 12:
        return school
    numbers, radii = (np.argsort(np.argsort(column)) for column in np.array(pairs).T)
    # Fisher's z of the rank correlation, in standard deviations.
    z = float(np.arctanh(np.clip(np.corrcoef(numbers, radii)[0, 1], -0.99, 0.99)) * np.sqrt(len(pairs) - 3))
    if abs(z) < 3.0:
        return school
    return replace(school, sense="ascending" if z > 0 else "descending", sense_sure=0.99)


def _calls(notes: tuple[Note, ...], school: School) -> _Calls:
    corners = tuple(n for n in notes if n.is_corner)
    position = [school.tightest_position(n) for n in corners]
    metres, words, parts = [], [], []
    before: list[Note] = []
    for note in notes:
        if note.is_corner:
            m, w, k = _called_gap(before)
            metres.append(m)
            words.append(w)
            parts.append(k)
            before = [note]
        else:
            before.append(note)
    return _Calls(
        notes=corners,
        side=np.array([n.direction.sign if n.direction else 0 for n in corners], dtype=float),
        position=np.array(position),
        length_m=np.array([_usual_length_m(n, p) for n, p in zip(corners, position, strict=True)]),
        gap_m=np.array(metres),
        gap_word=np.array(words, dtype=np.str_),
        gap_parts=np.array(parts, dtype=np.intp),
        heard_m=np.full(len(corners), np.nan),
        heard_sigma_m=np.ones(len(corners)),
    )


# Metres of a bend with no word of length, and how the words stretch it. # common practice
PLAIN_LENGTH_M, LENGTHENS_BY_GRADE = 30.0, 0.13
LENGTH_SCATTER = 0.55
LENGTH_WORDS = {
    "short": 0.6,
    "medium": 1.2,
    "half long": 1.3,
    "long": 1.6,
    "very long": 2.3,
    "extra long": 3.2,
    "extra extra long": 4.2,
}


def _usual_length_m(note: Note, position: float) -> float:
    grade = position if np.isfinite(position) else 4.0
    plain = PLAIN_LENGTH_M * np.exp(LENGTHENS_BY_GRADE * max(grade, 0.0))
    return float(plain * LENGTH_WORDS.get(note.length or "", 1.0))


def _called_gap(before: list[Note]) -> tuple[float, str, int]:
    """Metres called over the given notes, or nan and the link word; and how many notes the metres add up over."""
    numbers = [n.distance_m for n in before if n.distance_m is not None]
    links = [n.link for n in before if n.link]
    if not before or len(numbers) + len(links) < len(before):
        return np.nan, "", len(before)
    if not numbers:
        return np.nan, links[0] or "", len(before)
    return float(sum(numbers)) + 8.0 * len(links), "", len(before)


@dataclass(frozen=True)
class _Road:
    """The road as the programme sees it: pieces, and every run of pieces ``a`` to ``b`` with its measures, (runs,).

    ``cuts`` counts the ends of a run that lie inside an unbroken bend; ``dip`` is the deepest easing inside the run.
    """

    pieces: Pieces
    a: NDArray[np.intp]
    b: NDArray[np.intp]
    runs: Runs
    cuts: Floats
    dip: Floats
    left_over: Floats
    run_of_start: NDArray[np.intp]
    length_m: float


def _road(
    pieces: Pieces, a: NDArray[np.intp], b: NDArray[np.intp], runs: Runs, cuts: Floats, dip: Floats, length_m: float
) -> _Road:
    # A slice left over costs its share of the bend that it was cut from.
    share = pieces.turn_rad / np.where(pieces.bend_turn_rad == 0, np.inf, pieces.bend_turn_rad)
    alone = COST_OF_BEND_WITHOUT_NOTE * _bendness(np.degrees(np.abs(pieces.bend_turn_rad))) * share
    return _Road(
        pieces=pieces,
        a=a,
        b=b,
        runs=runs,
        cuts=cuts,
        dip=dip,
        left_over=np.concatenate([[0.0], np.cumsum(alone)]),
        run_of_start=np.searchsorted(a, np.arange(len(pieces) + 1)),
        length_m=length_m,
    )


def _road_of(profile: Profile) -> _Road:
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
    a, b = a[own], b[own]
    starts_new = np.concatenate([[True], np.diff(pieces.bend) > 0])
    ends_old = np.concatenate([starts_new[1:], [True]])
    cuts = (~starts_new[a]).astype(float) + ~ends_old[b]
    return _road(pieces, a, b, runs.picked(np.flatnonzero(own)), cuts, _deepest_dips(pieces, a, b), profile.length_m)


def _deepest_dips(pieces: Pieces, a: NDArray[np.intp], b: NDArray[np.intp]) -> Floats:
    first, last = pieces.bend[a], pieces.bend[b]
    deepest = np.zeros(len(a))
    for step in range(1, int((last - first).max(initial=0)) + 1):
        border = np.minimum(first + step, last)
        deepest = np.maximum(deepest, np.where(first + step <= last, pieces.dip[border], 0.0))
    return deepest


def _bendness(turn_deg: Floats) -> Floats:
    """From 0 to 1: how much of a bend a turn is, so that a weave of the line on a straight counts for little."""
    return np.asarray(1.0 - np.exp(-((turn_deg / BEND_FOR_SURE_DEG) ** 2)))


@dataclass(frozen=True)
class _Fit:
    """How well runs fit notes under one yardstick; everything that depends on the run alone is worked out once."""

    calls: _Calls
    runs: Runs
    position: Floats
    scatter: float
    log_length: Floats
    alone: Floats
    begins_m: Floats

    def cost(self, note: int, which: slice) -> Floats:
        """Cost of putting a note on each of some runs, (m,)."""
        calls, runs = self.calls, self.runs
        called = calls.position[note]
        z = (self.position[which] - called) / self.scatter if np.isfinite(called) else np.ones(1)
        stretch = (self.log_length[which] - np.log(calls.length_m[note])) / LENGTH_SCATTER
        # Both tails are Student's: 2.5 ln(1 + z^2/4) and 1.5 ln(1 + z^2/3).
        cost = 2.5 * np.log1p(z * z * 0.25) + 1.5 * np.log1p(stretch * stretch / 3.0)
        if np.isfinite(calls.heard_m[note]):
            off = (self.begins_m[which] - calls.heard_m[note]) / calls.heard_sigma_m[note]
            cost = cost + 1.5 * np.log1p(off * off / 3.0)
        return np.asarray(cost + COST_OF_WRONG_SIDE * (runs.side[which] != calls.side[note]) + self.alone[which])


def _fit_of(calls: _Calls, road: _Road, grades: GradeYardstick) -> _Fit:
    runs = road.runs
    hardly_turned = 3.0 * np.exp(-runs.turn_deg / 4.0)
    # A straight inside a bend makes it two; a few metres of easing do not.
    two_in_one = 1.5 * np.log1p((runs.easing_m / EASING_M) ** 2) + COST_OF_DIP * np.clip(
        (road.dip - SHALLOW_DIP) / (DEEP_DIP - SHALLOW_DIP), 0.0, 1.0
    )
    return _Fit(
        calls=calls,
        runs=runs,
        position=grades.position(runs),
        scatter=max(grades.scatter, CREW_SCATTER),
        log_length=np.log(runs.length_m),
        begins_m=runs.from_m,
        alone=hardly_turned + two_in_one + COST_OF_CUTTING * road.cuts,
    )


def _gap_cost(difference: Floats, scatter: Floats) -> Floats:
    return np.asarray(2.0 * np.log1p((difference / scatter) ** 2 / 3.0) + np.log(scatter / 8.0) * 0.5)


def _expected_gaps(calls: _Calls, distances: GapYardstick) -> tuple[Floats, Floats]:
    """Metres expected before each note and their scatter, (n,); nan where nothing was called."""
    expected = distances.expected_m(calls.gap_m)
    scatter = FORGIVING * distances.scatter_m(calls.gap_m) + 5.0 * np.maximum(calls.gap_parts - 1, 0)
    for at, word in enumerate(calls.gap_word):
        if word:
            low, middle, high, _ = distances.links.get(str(word), (*PLAIN_LINK_M, 0))
            expected[at], scatter[at] = middle, max(6.0, 0.5 * (high - low))
    return expected, scatter


@dataclass(frozen=True)
class _Table:
    """Cost of the best alignment that ends with note ``i`` on run ``first[i] + k``: ``cost[i][k]``."""

    first: list[int]
    cost: list[Floats]


Windows = list[tuple[int, int]]


def _align(
    calls: _Calls, road: _Road, fit: _Fit, distances: GapYardstick, windows: Windows
) -> tuple[NDArray[np.intp], _Table]:
    """The best run for each note, -1 where it has none, (notes,), and the table."""
    pieces, runs, left_over = road.pieces, road.runs, road.left_over
    notes, count = len(calls.notes), len(pieces)
    expected, scatter = _expected_gaps(calls, distances)
    # One entry for each piece after which a note may have ended, and one (index 0) for the start line.
    value = np.full(count + 1, FAR)
    value[0] = 0.0
    ended = np.concatenate([[0.0], pieces.to_m])
    owed = np.zeros(count + 1)  # metres called since, over notes left without a road
    loose = np.zeros(count + 1)  # and their scatter
    table = _Table([], [])
    came_from, best_run = [], np.full((notes, count + 1), -1, dtype=np.int32)
    for i, (low, high) in enumerate(windows):
        reach, origin = _reach(i, low, high, road, value, ended, owed, loose, expected, scatter)
        first, last = int(road.run_of_start[low]), int(road.run_of_start[high])
        row = road.a[first:last] - low
        cost = reach[row] + fit.cost(i, slice(first, last))
        table.first.append(first)
        table.cost.append(cost)
        came_from.append(origin[row])
        # Skipping this note: everything stays, but the road it stood for is owed.
        value = value + COST_OF_NOTE_WITHOUT_ROAD
        owed = owed + (expected[i] if np.isfinite(expected[i]) else 30.0) + 25.0
        loose = loose + 20.0
        dearest_first = np.argsort(-cost, kind="stable")
        here = np.full(count + 1, -1, dtype=np.intp)
        here[road.b[first:last][dearest_first] + 1] = dearest_first  # the last write is the cheapest
        better = np.flatnonzero(here >= 0)
        better = better[cost[here[better]] < value[better]]
        value[better] = cost[here[better]]
        owed[better] = loose[better] = 0.0
        ended[better] = runs.to_m[first + here[better]]
        best_run[i, better] = first + here[better]
    chosen = np.full(notes, -1, dtype=np.intp)
    at = int(np.argmin(value + left_over[-1] - left_over))
    for i in range(notes - 1, -1, -1):
        run = best_run[i, at]
        if run >= 0:
            chosen[i] = run
            at = int(came_from[i][run - table.first[i]])
    return chosen, table


def _reach(
    note: int,
    low: int,
    high: int,
    road: _Road,
    value: Floats,
    ended: Floats,
    owed: Floats,
    loose: Floats,
    expected: Floats,
    scatter: Floats,
) -> tuple[Floats, NDArray[np.intp]]:
    """Least cost of coming to each piece from ``low`` to ``high`` as the note's first, and where from, (m,)."""
    starts = np.arange(low, high)
    back = starts[:, None] - np.arange(min(LOOK_BACK, high))[None, :]
    at = np.maximum(back, 0)
    met = road.pieces.from_m[starts][:, None] - (ended + owed)[at]
    if np.isnan(expected[note]):
        gap = 0.3 + 0.004 * np.abs(met)
    else:
        gap = _gap_cost(met - expected[note], scatter[note] + loose[at])
    total = np.where(back >= 0, (value - road.left_over)[at] + gap, FAR)
    pick = total.argmin(axis=1)
    rows = np.arange(len(starts))
    return total[rows, pick] + road.left_over[starts], at[rows, pick]


def _first_windows(calls: _Calls, road: _Road, distances: GapYardstick) -> Windows:
    """For each note the pieces it may begin at: near where the called distances, stretched to the stage, put it."""
    expected, _ = _expected_gaps(calls, distances)
    advance = np.where(np.isfinite(expected), expected, 60.0) + calls.length_m
    reached = np.cumsum(advance)
    reached *= road.length_m / max(reached[-1], 1.0)
    return _windows_about(reached, road.pieces, max(700.0, 0.06 * road.length_m))


def _next_windows(chosen: NDArray[np.intp], road: _Road) -> Windows:
    """Narrower windows about where the notes lie by now."""
    paired = np.flatnonzero(chosen >= 0)
    if not len(paired):
        return _windows_about(np.zeros(len(chosen)), road.pieces, np.inf)
    place = np.interp(np.arange(len(chosen)), paired, road.runs.from_m[chosen[paired]])
    return _windows_about(place, road.pieces, 350.0)


def _windows_before(calls: _Calls, road: _Road, before: Lineup) -> Windows:
    """Windows about where an earlier line-up put the notes, and the calls where it put none."""
    place = np.array([t.bend.from_m if t.bend is not None else np.nan for t in before.ties])
    place = np.where(np.isfinite(place), place, calls.heard_m)
    known = np.flatnonzero(np.isfinite(place))
    if not len(known):
        return _first_windows(calls, road, before.eased_distances)
    return _windows_about(np.interp(np.arange(len(place)), known, place[known]), road.pieces, 350.0)


def _windows_about(place_m: Floats, pieces: Pieces, width_m: float) -> Windows:
    lows = np.searchsorted(pieces.to_m, place_m - width_m)
    highs = np.searchsorted(pieces.from_m, place_m + width_m)
    lows = np.minimum(np.minimum.accumulate(lows[::-1])[::-1], len(pieces) - 1)
    return [(int(a), max(int(a) + 1, int(b))) for a, b in zip(lows, highs, strict=True)]


def _mirrored(calls: _Calls, road: _Road) -> tuple[_Calls, _Road, NDArray[np.intp]]:
    """The same problem seen from the far end, and for each mirrored run its own number."""
    pieces, runs, length_m, count = road.pieces, road.runs, road.length_m, len(road.pieces)
    back = Pieces(
        first=pieces.first[::-1],
        last=pieces.last[::-1],
        side=pieces.side[::-1],
        turn_rad=pieces.turn_rad[::-1],
        bend_turn_rad=pieces.bend_turn_rad[::-1],
        bend=pieces.bend[::-1],
        bend_apex=pieces.bend_apex[::-1],
        dip=pieces.dip,
        from_m=length_m - pieces.to_m[::-1],
        to_m=length_m - pieces.from_m[::-1],
    )
    a, b = count - 1 - road.b, count - 1 - road.a
    order = np.lexsort((b, a))
    turned = runs.picked(order)
    turned = replace(turned, from_m=length_m - turned.to_m, to_m=length_m - turned.from_m)
    # Seen from the end, the gap before a note is the one that stood after it.
    after = np.concatenate([calls.gap_m[1:], [np.nan]])[::-1]
    words = np.concatenate([calls.gap_word[1:], [""]])[::-1]
    parts = np.concatenate([calls.gap_parts[1:], [1]])[::-1]
    seen = _Calls(
        notes=calls.notes[::-1],
        side=calls.side[::-1],
        position=calls.position[::-1],
        length_m=calls.length_m[::-1],
        gap_m=after,
        gap_word=words,
        gap_parts=parts,
        heard_m=calls.heard_m[::-1],
        heard_sigma_m=calls.heard_sigma_m[::-1],
    )
    return seen, _road(back, a[order], b[order], turned, road.cuts[order], road.dip[order], length_m), order


def _sureness(
    calls: _Calls,
    road: _Road,
    fit: _Fit,
    distances: GapYardstick,
    windows: Windows,
    forward: _Table,
    chosen: NDArray[np.intp],
) -> Floats:
    """For each note how sure its pairing is, 0 to 1, (notes,): against the best alignment that puts it elsewhere."""
    runs, count, notes = road.runs, len(road.pieces), len(calls.notes)
    seen, mirrored, order = _mirrored(calls, road)
    mirrored_fit = replace(
        fit,
        calls=seen,
        runs=mirrored.runs,
        position=fit.position[order],
        log_length=fit.log_length[order],
        alone=fit.alone[order],
        begins_m=fit.begins_m[order],
    )
    # A run begins, seen from the end, where it ends: reach further by the longest run.
    widened = [(max(0, count - high - MOST_PIECES), min(count, count - low)) for low, high in windows[::-1]]
    _, backward = _align(seen, mirrored, mirrored_fit, distances, widened)
    own_number = np.empty(len(order), dtype=np.intp)
    own_number[order] = np.arange(len(order))
    sure = np.zeros(notes)
    for i, run in enumerate(chosen):
        if run < 0:
            continue
        first, cost = forward.first[i], forward.cost[i]
        numbers = np.arange(first, first + len(cost))
        other_first, other_cost = backward.first[notes - 1 - i], backward.cost[notes - 1 - i]
        at = own_number[numbers] - other_first
        known = (at >= 0) & (at < len(other_cost))
        through = np.full(len(cost), FAR)
        through[known] = cost[known] + other_cost[at[known]] - fit.cost(i, slice(first, first + len(cost)))[known]
        elsewhere = (runs.to_m[numbers] <= runs.from_m[run]) | (runs.from_m[numbers] >= runs.to_m[run])
        other = through[elsewhere].min() if elsewhere.any() else FAR
        sure[i] = 1.0 / (1.0 + np.exp(-np.clip(other - through[run - first], -30.0, 30.0)))
    return sure


@dataclass(frozen=True)
class _Met:
    """The bends of the paired notes, measured without what was called about them; all (paired,).

    ``gap_m`` is the metres from the arc before to this one, nan where the line never straightened between them.
    """

    stretches: Stretches
    runs: Runs
    gap_m: Floats


def _met(profile: Profile, road: _Road, chosen: NDArray[np.intp]) -> tuple[NDArray[np.intp], _Met]:
    """Which notes are paired, and their bends."""
    paired = np.flatnonzero(chosen >= 0)
    stretches = _grown(profile, road, chosen[paired])
    runs = measure(profile, stretches.first, stretches.last, samples=EVERY_METRE)
    return paired, _Met(stretches, runs, gaps_before(profile, runs.side, stretches))


def _grown(profile: Profile, road: _Road, run: NDArray[np.intp]) -> Stretches:
    """The claimed runs grown to where their bends end, but not over what beside them is a bend in its own right."""
    pieces, a, b = road.pieces, road.a[run], road.b[run]
    own = [
        (pieces.first[i], pieces.last[j])
        for i, j in _unclaimed(pieces, _claimed(pieces, a, b))
        if _stands_alone(pieces, i, j)
    ]
    first = np.concatenate([pieces.first[a], [i for i, _ in own]]).astype(np.intp)
    last = np.concatenate([pieces.last[b], [j for _, j in own]]).astype(np.intp)
    order = np.argsort(first)
    return grown(profile, first[order], last[order]).picked(np.argsort(order)[: len(run)])


def _claimed(pieces: Pieces, a: NDArray[np.intp], b: NDArray[np.intp]) -> NDArray[np.bool_]:
    claimed = np.zeros(len(pieces), dtype=bool)
    for i, j in zip(a, b, strict=True):
        claimed[i : j + 1] = True
    return claimed


def _unclaimed(pieces: Pieces, claimed: NDArray[np.bool_]) -> list[tuple[int, int]]:
    """First and last piece of each stretch of one side that no note claims."""
    found = []
    at = 0
    while at < len(pieces):
        if claimed[at] or pieces.side[at] == 0:
            at += 1
            continue
        end = at
        while end + 1 < len(pieces) and not claimed[end + 1] and pieces.side[end + 1] == pieces.side[at]:
            end += 1
        found.append((at, end))
        at = end + 1
    return found


def _stands_alone(pieces: Pieces, first: int, last: int) -> bool:
    """Whether an unclaimed stretch is a bend of its own, not the rest of a claimed one beside it on the same side."""
    turn_deg = float(np.degrees(np.abs(pieces.turn_rad[first : last + 1].sum())))
    apex = pieces.bend_apex[first : last + 1]
    if not np.any((apex >= pieces.first[first]) & (apex <= pieces.last[last])) or turn_deg < BEND_FOR_SURE_DEG:
        return False
    sides = ((first - 1, first), (last, last + 1))
    joined = [j for i, j in sides if i >= 0 and j < len(pieces) and pieces.side[i] == pieces.side[j]]
    return turn_deg > TOO_MUCH_FOR_A_REST_DEG or all(pieces.dip[pieces.bend[j]] > PARTING_DIP for j in joined)


def _follows(paired: NDArray[np.intp]) -> NDArray[np.intp]:
    """Which of the paired notes follow a paired note, so that there is a gap before them."""
    return np.asarray(np.flatnonzero(np.diff(paired) == 1) + 1)


def _grades(calls: _Calls, paired: NDArray[np.intp], runs: Runs, plain: GradeYardstick) -> GradeYardstick:
    known = np.isfinite(calls.position[paired])
    runs, notes = runs.picked(np.flatnonzero(known)), paired[known]
    # A bend the other way teaches nothing; words for the tightest corners go by angle as much as by radius.
    trust = ((runs.side == calls.side[notes]) & (calls.position[notes] >= 1.0)).astype(float)
    return fit_yardstick(runs, calls.position[notes], trust, plain)


def _distances(calls: _Calls, note: NDArray[np.intp], met_m: Floats) -> GapYardstick:
    """The crew's distances from the gaps met before some notes; both (m,), nan where a gap was not measured."""
    called = np.isfinite(calls.gap_m[note]) | (calls.gap_word[note] != "")
    usable = np.isfinite(met_m) & called & (calls.gap_parts[note] == 1)
    note, met_m = note[usable], met_m[usable]
    return fit_gaps(calls.gap_m[note], met_m, calls.gap_word[note]) if len(note) else PLAIN_GAPS


def _eased_distances(calls: _Calls, paired: NDArray[np.intp], runs: Runs) -> GapYardstick:
    """The crew's distances as an alignment sees them: between eased ends, whether the line straightened or not."""
    at = _follows(paired)
    return _distances(calls, paired[at], runs.from_m[at] - runs.to_m[at - 1])


def _lineup(
    calls: _Calls, profile: Profile, road: _Road, chosen: NDArray[np.intp], sure: Floats, plain: GradeYardstick
) -> Lineup:
    paired, met = _met(profile, road, chosen)
    at = _follows(paired)
    grades, distances = _grades(calls, paired, met.runs, plain), _distances(calls, paired[at], met.gap_m[at])
    position = grades.position(met.runs)
    place = {int(note): k for k, note in enumerate(paired)}
    claimed = _claimed(road.pieces, road.a[chosen[paired]], road.b[chosen[paired]])
    ties = []
    for i, note in enumerate(calls.notes):
        k = place.get(i)
        if k is None:
            ties.append(Tie(note.index, None, 0.0, None))
            continue
        bend = bend_between(profile, *met.stretches.at(k))
        ties.append(Tie(note.index, bend, float(sure[i]), float(position[k])))
    gaps = []
    for i, metres in zip(paired[at], met.gap_m[at], strict=True):
        called, word = calls.gap_m[i], str(calls.gap_word[i])
        gaps.append(
            GapMet(
                note=calls.notes[i - 1].index,
                next_note=calls.notes[i].index,
                called_m=float(called) if np.isfinite(called) else None,
                word=word or None,
                met_m=float(metres) if np.isfinite(metres) else None,
                usable=bool(np.isfinite(metres) and sure[i] > 0.8 and sure[i - 1] > 0.8),
            )
        )
    return Lineup(
        ties=tuple(ties),
        gaps=tuple(gaps),
        uncalled=_uncalled(profile, road.pieces, claimed, grades),
        grades=grades,
        distances=distances,
        eased_distances=_eased_distances(calls, paired, met.runs),
    )


def _uncalled(
    profile: Profile, pieces: Pieces, claimed: NDArray[np.bool_], grades: GradeYardstick
) -> tuple[tuple[Bend, float], ...]:
    """Bends made of neighbouring unclaimed pieces of one side, each with its position on the crew's scale."""
    found = []
    for i, j in _unclaimed(pieces, claimed):
        if not _stands_alone(pieces, i, j):
            continue
        first, last = int(pieces.first[i]), int(pieces.last[j])
        position = grades.position(measure(profile, np.array([first]), np.array([last])))
        found.append((bend_between(profile, first, last, (first, last)), float(position[0])))
    return tuple(found)
