"""The best alignment and the crew's yardsticks, found from each other in turn, and the windows in which notes are looked for."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from mirkle.core.lineup.alignment import Fit, Search, Table, Windows, align, fit_of, windows_about
from mirkle.core.lineup.called_notes import CalledNotes, expected_gaps
from mirkle.core.lineup.crew_scale import PLAIN_GAPS, GapYardstick, GradeYardstick, fit_gaps, fit_yardstick, plain_yardstick
from mirkle.core.lineup.merged_bends import met_of
from mirkle.core.lineup.road import Road
from mirkle.core.motion.spans import Spans
from mirkle.core.recording.model import Floats

ROUNDS = 3
# How far from where it is thought to be a note is looked for: at first, for each root of a note, and later.
FIRST_WINDOW_M, WALK_M, WINDOW_M = 700.0, 60.0, 250.0
# A book as long as its road but for this share (its logarithm) lies along it as it was called. # common practice: odometers
AS_CALLED = 0.05
# What is missing is hardly longer.
A_PAGE_M = 1200.0
# A distance beyond 500 m was hardly meant if it is also 2.5 times what nine in ten distances stay under.
FAR_M, FAR_SHARE = 500.0, 2.5


def reached_m(calls: CalledNotes, distances: GapYardstick) -> Floats:
    """How far each note's bend is from the start by what was called, (n,)."""
    expected, _ = expected_gaps(calls, distances)
    steps = np.where(np.isfinite(expected), expected, 60.0) + calls.length_m
    return np.cumsum(np.where(calls.again, 0.0, steps))


def called_m(calls: CalledNotes) -> float:
    """How long the road is by what was called, from the start to what was called behind the last corner."""
    return float(reached_m(calls, PLAIN_GAPS)[-1]) + (calls.notes[-1].distance_m or 0)


def first_windows(calls: CalledNotes, road: Road, distances: GapYardstick) -> Windows:
    """For each note the pieces it may begin at: near where the called distances, stretched to the stage, put it.

    A distance far beyond all others is likely a slip of the pen (1500 for 150): all notes behind it are looked for as well where they would
    be without it.
    """
    windows = _windows_by(calls, road, distances)
    known = calls.gap_m[np.isfinite(calls.gap_m)]
    if not len(known):
        return windows
    far = calls.gap_m > max(FAR_M, FAR_SHARE * float(np.percentile(known, 90)))
    if not far.any():
        return windows
    without = _windows_by(replace(calls, gap_m=np.where(far, np.median(known), calls.gap_m)), road, distances)
    return _union(windows, without)


def _union(one: Windows, other: Windows) -> Windows:
    return [(min(a, c), max(b, d)) for (a, b), (c, d) in zip(one, other, strict=True)]


def _windows_by(calls: CalledNotes, road: Road, distances: GapYardstick) -> Windows:
    reached = reached_m(calls, distances)
    # Behind the last corner lies what was called behind it.
    behind_m = calls.notes[-1].distance_m or 0 if calls.notes else 0
    length_m = road.profile.length_m
    stretch = length_m / max(reached[-1] + behind_m, 1.0)
    # Notes and road are tied at both ends; between, the errors of the distances add up as a random walk does.
    width_m = max(FIRST_WINDOW_M, WALK_M * float(np.sqrt(len(calls.notes))))

    def about(place_m: Floats) -> Windows:
        return windows_about(led_by_pins(calls, place_m), road.pieces, width_m)

    windows = about(reached * stretch)
    if abs(float(np.log(stretch))) > AS_CALLED:
        # More road than was called, or less: a page may be missing at either end, and the rest lies as it was called.
        windows = _union(windows, about(np.maximum(reached, reached * stretch - A_PAGE_M)))
        from_end = length_m - (reached[-1] + behind_m - reached)
        windows = _union(windows, about(np.minimum(from_end, reached * stretch + A_PAGE_M)))
    return windows


# Where a part of a book may lie: its called metres are good to this share, plus these metres.
SHARE_OF_CALLED, SLACK_M = 0.85, 150.0


def anywhere_windows(calls: CalledNotes, road: Road) -> Windows:
    """For each note the pieces it may begin at when the book may be of any part of the road."""
    reached = reached_m(calls, PLAIN_GAPS)
    length_m, pieces = road.profile.length_m, road.pieces
    earliest = np.clip(SHARE_OF_CALLED * reached - SLACK_M, 0.0, length_m - SLACK_M)
    latest = np.minimum(length_m - SHARE_OF_CALLED * (reached[-1] - reached) + SLACK_M, length_m)
    middle, half = 0.5 * (earliest + latest), np.maximum(0.5 * (latest - earliest), SLACK_M)
    lows = np.searchsorted(pieces.to_m, middle - half)
    highs = np.searchsorted(pieces.from_m, middle + half)
    lows = np.minimum(np.minimum.accumulate(lows[::-1])[::-1], len(pieces) - 1)
    return [(int(a), max(int(a) + 1, int(b))) for a, b in zip(lows, highs, strict=True)]


def led_by_pins(calls: CalledNotes, place_m: Floats) -> Floats:
    """Places moved along with the pins among them, as straight lines between pins say, (n,)."""
    pinned = np.flatnonzero(np.isfinite(calls.pinned_m))
    if not len(pinned):
        return place_m
    moved = np.interp(np.arange(len(place_m)), pinned, calls.pinned_m[pinned] - place_m[pinned])
    return place_m + moved


def next_windows(calls: CalledNotes, chosen: NDArray[np.intp], road: Road) -> Windows:
    """Narrower windows about where the notes lie by now."""
    paired = np.flatnonzero(chosen >= 0)
    if not len(paired):
        return windows_about(np.zeros(len(chosen)), road.pieces, np.inf)
    place = np.interp(np.arange(len(chosen)), paired, road.runs.from_m[chosen[paired]])
    return windows_about(led_by_pins(calls, place), road.pieces, WINDOW_M)


@dataclass(frozen=True)
class Settled:
    """The best alignment, with the yardstick and the search that it was found by."""

    grades: GradeYardstick
    search: Search
    fit: Fit
    chosen: NDArray[np.intp]
    table: Table


def settled(
    calls: CalledNotes,
    road: Road,
    grades: GradeYardstick,
    search: Search,
    *,
    rounds: int = ROUNDS,
    progress: Callable[[float], None] = lambda _: None,
) -> Settled:
    """The best alignment and the yardsticks fitted from it, found in turn until neither moves or the rounds are over.

    Parameters
    ----------
    grades, search : what the first alignment goes by
    rounds : how often the yardsticks are fitted at most
    progress : is told the share done, 0 to 1
    """
    before: NDArray[np.intp] | None = None
    for turn in range(rounds + 1):
        progress(turn / (rounds + 1))
        fit = fit_of(calls, road, grades)
        chosen, table = align(road, fit, search)
        if turn == rounds or (before is not None and np.array_equal(chosen, before)):
            break
        before = chosen
        paired, _, met = met_of(calls, road, chosen, search.distances)
        grades = fitted_grades(calls, paired, met)
        windows = search.windows if search.free_ends else next_windows(calls, chosen, road)
        search = replace(search, distances=fitted_eased_distances(calls, road, chosen), windows=windows)
    return Settled(grades, search, fit, chosen, table)


def follows(paired: NDArray[np.intp]) -> NDArray[np.intp]:
    """Which of the paired notes follow a paired note, so that there is a gap before them."""
    return np.asarray(np.flatnonzero(np.diff(paired) == 1) + 1)


def fitted_grades(calls: CalledNotes, paired: NDArray[np.intp], runs: Spans) -> GradeYardstick:
    """The crew's yardstick from the bends of the paired notes, (paired,)."""
    known = np.isfinite(calls.position[paired])
    runs, notes = runs.picked(np.flatnonzero(known)), paired[known]
    # A bend the other way teaches nothing; words for the tightest corners go by angle as much as by radius.
    trust = ((runs.side == calls.side[notes]) & (calls.position[notes] >= 1.0)).astype(float)
    return fit_yardstick(runs, calls.position[notes], trust, plain_yardstick(calls.school))


def fitted_distances(calls: CalledNotes, note: NDArray[np.intp], met_m: Floats) -> GapYardstick:
    """The crew's distances from the gaps met before some notes; both (m,), nan where a gap was not measured."""
    called = np.isfinite(calls.gap_m[note]) | (calls.gap_word[note] != "")
    usable = np.isfinite(met_m) & called & (calls.gap_parts[note] == 1)
    note, met_m = note[usable], met_m[usable]
    return fit_gaps(calls.gap_m[note], met_m, calls.gap_word[note]) if len(note) else PLAIN_GAPS


def fitted_eased_distances(calls: CalledNotes, road: Road, chosen: NDArray[np.intp]) -> GapYardstick:
    """The crew's distances as an alignment sees them: between eased ends, whether the line straightened or not."""
    paired = np.flatnonzero(chosen >= 0)
    at = follows(paired)
    run, before = chosen[paired[at]], chosen[paired[at] - 1]
    return fitted_distances(calls, paired[at], road.pieces.from_m[road.a[run]] - road.runs.to_m[before])
