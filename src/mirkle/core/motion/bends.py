"""From the driven line to pieces of bends, and from runs of pieces to bends.

The line is cut finely, at every change of side and at every easing between two tighter places, because where one
bend ends and the next begins is the notes' affair: one crew calls a long left with two apexes as one note, another
as two. So nothing here decides how many bends there are. :mod:`mirkle.core.lineup.pairing` lets each note claim a
run of pieces, and this module measures any run.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from mirkle.core.motion.path import Path
from mirkle.core.motion.recording import Floats

Ints = NDArray[np.intp]

STEP_M = 1.0
# The tightest radius is the mean over this length: shorter follows the wheel's twitches (a car is 4 m long and
# 0.1 s at 100 km/h is 3 m), longer flattens hairpins, whose whole arc at 10 m radius and 90 degrees is 16 m.
TIGHTEST_OVER_M = 9
CARRIED_OVER_M = 25
# Straighter than this is no bend for anybody. # common practice: "flat" begins at about 300-400 m
STRAIGHT_PER_M = 1 / 900.0
# Two peaks of one side are two pieces when the curvature between them falls by this share of the lesser.
DIP_BETWEEN_PEAKS = 0.05
# Long pieces are sliced, so that two notes may share one unbroken bend; gentle ones more coarsely than tight ones.
SLICE_PER_RADIUS, SHORTEST_SLICE_M, LONGEST_SLICE_M = 0.12, 8.0, 25.0
# A bend's stretch reaches to where its curvature passes this share of its peak, so that the gentler part of a
# bend that tightens or opens still belongs to it.
EDGE_SHARE = 0.4
# An arc whose ends a driver eases begins and ends where half of its curvature is there: easing moves as much of the
# turn out of the arc as it leaves inside. The ends may lie a little outside the stretch, down to the lesser share.
ARC_SHARE, EASED_SHARE = 0.5, 0.3
SAMPLES = 48
EVERY_METRE = 640


@dataclass(frozen=True)
class Profile:
    """The stage by distance, one value a metre from the start line; all arrays (n,).

    ``curvature_per_m`` is the mean over :data:`TIGHTEST_OVER_M`, positive to the left; ``heading_rad`` is unwrapped.
    """

    distance_m: Floats
    heading_rad: Floats
    curvature_per_m: Floats
    carried_per_m: Floats
    curvature_sd_per_m: Floats
    speed_mps: Floats
    time_s: Floats

    @cached_property
    def turned_rad(self) -> tuple[Floats, Floats]:
        """Turned to the left and to the right from the start line to each sample, both (n + 1,)."""
        bent_rad = self.curvature_per_m * STEP_M
        return (
            np.concatenate([[0.0], np.cumsum(np.maximum(bent_rad, 0.0))]),
            np.concatenate([[0.0], np.cumsum(np.maximum(-bent_rad, 0.0))]),
        )

    @property
    def length_m(self) -> float:
        """Metres from the start line to the end of the profile."""
        return float(self.distance_m[-1])


def profile_of(path: Path, start_m: float, end_m: float) -> Profile:
    """The stage from ``start_m`` to ``end_m`` on the path, by distance from its start."""
    distance = np.arange(0.0, end_m - start_m, STEP_M)
    at = distance + start_m
    heading = path.at_distance(path.heading_rad, at)
    rate = np.gradient(heading, STEP_M)
    return Profile(
        distance_m=distance,
        heading_rad=heading,
        curvature_per_m=_mean_over(rate, TIGHTEST_OVER_M),
        carried_per_m=_mean_over(rate, CARRIED_OVER_M),
        curvature_sd_per_m=path.at_distance(path.curvature_sd_per_m, at),
        speed_mps=path.at_distance(path.speed_mps, at),
        time_s=path.at_distance(path.time_s, at),
    )


def _mean_over(values: Floats, metres: int) -> Floats:
    half = int(metres / STEP_M) // 2
    padded = np.pad(values, half, mode="edge")
    return np.convolve(padded, np.ones(2 * half + 1) / (2 * half + 1), mode="valid")


@dataclass(frozen=True)
class Pieces:
    """The profile cut up; piece ``i`` reaches over profile samples ``first[i]`` to ``last[i]`` (inclusive).

    ``turn_rad`` is signed, ``side`` is +1, -1 or 0 for a straight; ``from_m`` and ``to_m`` are where the piece's
    curvature passes half of its peak, which for an arc with eased ends is where the arc begins and ends.
    ``bend_turn_rad`` is the turn of the whole uncut bend that a slice belongs to, ``bend`` numbers those bends and
    ``bend_apex`` is the sample of its greatest curvature. ``dip[j]`` is by what share the curvature eases between bend
    ``j - 1`` and bend ``j``, against the lesser peak.
    """

    first: Ints
    last: Ints
    side: Ints
    turn_rad: Floats
    from_m: Floats
    to_m: Floats
    bend_turn_rad: Floats
    bend: Ints
    bend_apex: Ints
    dip: Floats

    def __len__(self) -> int:
        return len(self.first)


def cut_in_pieces(profile: Profile) -> Pieces:
    """The profile cut at changes of side, at straights, and at easings between two peaks of one side."""
    bent = profile.curvature_per_m
    threshold = np.maximum(STRAIGHT_PER_M, 1.0 * np.minimum(profile.curvature_sd_per_m, 1 / 300.0))
    side = np.where(np.abs(bent) > threshold, np.sign(bent), 0.0).astype(np.intp)
    edges = np.flatnonzero(np.diff(side)) + 1
    whole = np.unique(np.concatenate([[0], edges, _easings(np.abs(bent), side), [len(bent)]])).astype(np.intp)
    edges = _sliced(np.abs(bent), side, whole)
    first, last = edges[:-1], edges[1:] - 1
    turn = np.add.reduceat(bent, first) * STEP_M
    whole_turn = np.add.reduceat(bent, whole[:-1]) * STEP_M
    peak = np.maximum.reduceat(np.abs(bent), first)
    from_m, to_m = _half_peak_extents(np.abs(bent), first, last, peak)
    bend = np.searchsorted(whole, first, side="right") - 1
    apexes = np.array([a + int(np.argmax(np.abs(bent[a:b]))) for a, b in pairwise(whole)], dtype=np.intp)
    return Pieces(
        first,
        last,
        side[first],
        turn,
        from_m,
        to_m,
        whole_turn[bend],
        bend,
        apexes[bend],
        _dips(np.abs(bent), whole, apexes),
    )


def _dips(size: Floats, whole: Ints, apexes: Ints) -> Floats:
    border = np.minimum(size[whole[1:-1]], size[whole[1:-1] - 1])
    lesser = np.minimum(size[apexes[1:]], size[apexes[:-1]])
    return np.concatenate([[0.0], 1.0 - border / np.maximum(lesser, 1e-9)])


def _sliced(size: Floats, side: Ints, edges: Ints) -> Ints:
    """The edges with more between them where a bend is long, (m,)."""
    out = []
    for first, end in pairwise(edges):
        length_m = (end - first) * STEP_M
        slices = 1
        if side[first]:
            slice_m = np.clip(SLICE_PER_RADIUS / size[first:end].max(), SHORTEST_SLICE_M, LONGEST_SLICE_M)
            slices = max(1, round(length_m / slice_m))
        out.append(first + (np.arange(slices) * (end - first)) // slices)
    return np.concatenate([*out, edges[-1:]]).astype(np.intp)


def _easings(size: Floats, side: Ints) -> Ints:
    """Samples where one side's curvature dips between two peaks by enough to count, (m,)."""
    found: list[int] = []
    peaks = np.flatnonzero((size[1:-1] > size[:-2]) & (size[1:-1] >= size[2:])) + 1
    previous: int | None = None
    for peak in peaks:
        if side[peak] == 0:
            continue
        if previous is not None and np.all(side[previous:peak] == side[peak]):
            low = previous + int(np.argmin(size[previous:peak]))
            if size[low] < (1 - DIP_BETWEEN_PEAKS) * min(size[previous], size[peak]):
                found.append(low)
                previous = int(peak)
            elif size[peak] > size[previous]:
                previous = int(peak)
        else:
            previous = int(peak)
    return np.array(found, dtype=np.intp)


def _half_peak_extents(size: Floats, first: Ints, last: Ints, peak: Floats) -> tuple[Floats, Floats]:
    steps = np.linspace(0.0, 1.0, SAMPLES)
    at = first[:, None] + np.rint(steps[None, :] * (last - first)[:, None]).astype(np.intp)
    high = size[at] >= 0.5 * peak[:, None]
    before = at[np.arange(len(first)), high.argmax(axis=1)]
    after = at[np.arange(len(first)), SAMPLES - 1 - high[:, ::-1].argmax(axis=1)]
    return before * STEP_M, (after + 1) * STEP_M


@dataclass(frozen=True)
class Runs:
    """Measures of many stretches of one bend each; all arrays (m,).

    Radii are of the tightest :data:`TIGHTEST_OVER_M` and :data:`CARRIED_OVER_M` metres; ``against_deg`` is the turn
    to the other side inside the stretch, ``turn_deg`` what is left after it; ``easing_m`` are the metres inside it that
    are straighter than its ends; ``from_m`` to ``to_m`` is where the
    curvature is over :data:`EDGE_SHARE` of its peak.
    """

    side: Ints
    turn_deg: Floats
    length_m: Floats
    radius_m: Floats
    carried_radius_m: Floats
    against_deg: Floats
    easing_m: Floats
    from_m: Floats
    to_m: Floats

    def picked(self, which: Ints) -> Runs:
        """The chosen rows."""
        return Runs(**{name: getattr(self, name)[which] for name in Runs.__dataclass_fields__})


def measure(profile: Profile, first: Ints, last: Ints, *, samples: int = SAMPLES) -> Runs:
    """Measures of the stretches from sample ``first`` to sample ``last`` (inclusive), both (m,).

    Each stretch is looked at in ``samples`` places, so its ends are good to its length over that number.
    """
    left, right = profile.turned_rad
    to_left, to_right = left[last + 1] - left[first], right[last + 1] - right[first]
    side = np.where(to_left >= to_right, 1, -1).astype(np.intp)
    steps = np.linspace(0.0, 1.0, samples)
    at = first[:, None] + np.rint(steps[None, :] * (last - first)[:, None]).astype(np.intp)
    bent = side[:, None] * profile.curvature_per_m[at]
    peak = np.maximum(bent.max(axis=1), 1e-4)
    carried = np.maximum((side[:, None] * profile.carried_per_m[at]).max(axis=1), 1e-4)
    high = bent >= EDGE_SHARE * peak[:, None]
    rows = np.arange(len(first))
    from_m = at[rows, high.argmax(axis=1)] * STEP_M
    to_m = (at[rows, samples - 1 - high[:, ::-1].argmax(axis=1)] + 1) * STEP_M
    inside = (at * STEP_M >= from_m[:, None]) & (at * STEP_M < to_m[:, None])
    easing = (inside & ~high).sum(axis=1) * (last - first + 1) * STEP_M / samples
    turned, against = np.maximum(to_left, to_right), np.minimum(to_left, to_right)
    return Runs(
        side=side,
        turn_deg=np.degrees(turned - against),
        length_m=np.maximum(to_m - from_m, STEP_M),
        radius_m=1 / peak,
        carried_radius_m=1 / carried,
        against_deg=np.degrees(against),
        easing_m=easing,
        from_m=from_m,
        to_m=to_m,
    )


@dataclass(frozen=True)
class Stretches:
    """Stretches of one bend each, samples ``first`` to ``last`` (inclusive); all arrays (m,).

    ``room_first`` to ``room_last`` is what lies free about each: up to its neighbours, or to the ends of the profile.
    """

    first: Ints
    last: Ints
    room_first: Ints
    room_last: Ints

    def picked(self, which: Ints) -> Stretches:
        """The chosen ones."""
        return Stretches(self.first[which], self.last[which], self.room_first[which], self.room_last[which])

    def at(self, which: int) -> tuple[int, int, tuple[int, int]]:
        """First and last sample of one, and the room about it."""
        room = int(self.room_first[which]), int(self.room_last[which])
        return int(self.first[which]), int(self.last[which]), room


def grown(profile: Profile, first: Ints, last: Ints) -> Stretches:
    """Neighbouring stretches with their borders put where the curvature says, whatever was called.

    A note may have claimed a part of its bend only, because that suited the distance it called. Each stretch keeps
    its apex and grows or shrinks to where the curvature falls below :data:`EDGE_SHARE` of the apex, but never beyond
    the straightest point between its apex and its neighbour's.
    """
    bent = profile.curvature_per_m
    side = measure(profile, first, last).side
    apexes = [int(a + np.argmax(s * bent[a : b + 1])) for a, b, s in zip(first, last, side, strict=True)]
    out_first, out_last = np.empty_like(first), np.empty_like(last)
    for i, (apex, s) in enumerate(zip(apexes, side, strict=True)):
        edge = EDGE_SHARE * max(s * bent[apex], 1e-4)
        lowest = apexes[i - 1] if i else 0
        highest = apexes[i + 1] if i + 1 < len(apexes) else len(bent) - 1
        before, after = s * bent[lowest : apex + 1], s * bent[apex : highest + 1]
        under = np.flatnonzero(before < edge)
        out_first[i] = lowest + (under[-1] + 1 if len(under) else int(np.argmin(before)) + (i > 0))
        under = np.flatnonzero(after < edge)
        out_last[i] = apex + (under[0] - 1 if len(under) else int(np.argmin(after)))
    out_first, out_last = np.minimum(out_first, apexes), np.maximum(out_last, apexes)
    ends = np.array([len(bent) - 1], dtype=np.intp)
    return Stretches(
        out_first,
        out_last,
        room_first=np.concatenate([ends * 0, out_last[:-1] + 1])[: len(out_first)],
        room_last=np.concatenate([out_first[1:] - 1, ends])[: len(out_first)],
    )


def arc_ends(profile: Profile, side: int, first: int, last: int, room: tuple[int, int]) -> tuple[int, int]:
    """Samples where the arc in a stretch begins and where it has ended, whatever eased it; within ``room``.

    Each end is where half of the greatest curvature on its own side of the middle of the turn is reached, so that a
    bend of two radii is measured from the beginning of its gentle part.
    """
    bent = np.maximum(side * profile.curvature_per_m, 0.0)
    eased = EASED_SHARE * float(bent[first : last + 1].max())
    while first > room[0] and bent[first - 1] > eased:
        first -= 1
    while last < room[1] and bent[last + 1] > eased:
        last += 1
    held = bent[first : last + 1]
    turned = np.cumsum(held)
    middle = min(int(np.searchsorted(turned, 0.5 * turned[-1])), len(held) - 1)
    begins = np.flatnonzero(held >= ARC_SHARE * held[: middle + 1].max())[0]
    ends = np.flatnonzero(held >= ARC_SHARE * held[middle:].max())[-1]
    return first + int(begins), first + int(ends) + 1


# Two bends of one side are parted only where the line eases to this share of the lesser of them.
PARTED_SHARE = 0.3
# What the line may turn between two bends and the road there still be called straight.
STRAIGHT_TURNS_DEG, WANDERS_DEG_PER_M = 15.0, 0.03


def gaps_before(profile: Profile, side: Ints, stretches: Stretches) -> Floats:
    """Metres between the arcs of neighbouring stretches, (m,); the first is nan.

    A driver links bends of one side that lie near each other, and the line then never straightens between them:
    nothing in it shows where the road did. Nor is it a gap where the line turns as a bend does. Both are nan.
    """
    bent, first, last = profile.curvature_per_m, stretches.first, stretches.last
    arcs = [arc_ends(profile, int(s), *stretches.at(k)) for k, s in enumerate(side)]
    gap_m = np.full(len(first), np.nan)
    for k in range(1, len(first)):
        metres = (arcs[k][0] - arcs[k - 1][1]) * STEP_M
        turned_deg = float(np.degrees(np.abs(bent[last[k - 1] + 1 : first[k]]).sum() * STEP_M))
        wanders = turned_deg > STRAIGHT_TURNS_DEG + WANDERS_DEG_PER_M * metres
        if not wanders and _straightens(
            bent, int(side[k - 1]), int(side[k]), (first[k - 1 : k + 1], last[k - 1 : k + 1])
        ):
            gap_m[k] = metres
    return gap_m


def _straightens(bent: Floats, side: int, other_side: int, stretches: tuple[Ints, Ints]) -> bool:
    if side != other_side:
        return True
    apexes = [int(a + np.argmax(side * bent[a : b + 1])) for a, b in zip(*stretches, strict=True)]
    least = float((side * bent[apexes[0] : apexes[1] + 1]).min())
    return least <= PARTED_SHARE * min(side * float(bent[a]) for a in apexes)


@dataclass(frozen=True)
class Bend:
    """One bend as driven. ``side`` is +1 to the left; ``radius_sd_m`` is the spread of ``radius_m``.

    ``from_m`` to ``to_m`` is the arc (see :func:`arc_ends`); ``eased_from_m`` to ``eased_to_m`` has its eased ends too,
    to :data:`EDGE_SHARE` of the peak.

    ``turn_deg`` counts from where the curvature rises to where it has died away, which is more than ``from_m`` to
    ``to_m``. ``road_radius_m`` is an estimate of the road's own radius behind the driven line (see :func:`road_radius`).
    """

    from_m: float
    to_m: float
    apex_m: float
    side: int
    radius_m: float
    radius_sd_m: float
    carried_radius_m: float
    turn_deg: float
    length_m: float
    speed_min_mps: float
    road_radius_m: float
    road_radius_sd_m: float
    eased_from_m: float
    eased_to_m: float

    @property
    def direction(self) -> str:
        """``left`` or ``right``."""
        return "left" if self.side > 0 else "right"


# How far the line moves across the road within a bend: a car's width less than half of the road, used twice, and less
# than all of that. # common practice; halves the error of the driven radius on worlds not our own
LINE_WIDTH_M, LINE_WIDTH_SD_M = 0.8, 0.4
# However much the line opens a bend, the road is not tighter than this share of it.
LEAST_ROAD_SHARE = 0.35
# Where curvature has fallen to this share of the peak the bend is over.
DIED_AWAY = 0.06


def road_radius(driven_radius_m: float, turn_deg: float) -> tuple[float, float]:
    """The road's own radius behind a driven line, and its standard deviation.

    An arc that touches the outside at both ends and the inside in its middle, on a road with room ``w`` for the line, is
    wider than the road by w cos(θ/2) / (1 - cos(θ/2)), θ the angle turned (plane geometry: the sagitta of the arc). A
    gentle bend is opened much, a hairpin hardly. The uncertainty is that of ``w``, which nobody measured.

    Examples
    --------
    >>> road_radius(50.0, 90.0)[0]
    48.06...
    """
    half = float(np.radians(np.clip(turn_deg, 4.0, 170.0))) / 2
    opened = float(np.cos(half) / (1.0 - np.cos(half)))
    radius = max(driven_radius_m - LINE_WIDTH_M * opened, LEAST_ROAD_SHARE * driven_radius_m)
    spread = min(LINE_WIDTH_SD_M * opened, 0.4 * driven_radius_m)
    return radius, spread


def _whole_turn_deg(profile: Profile, side: int, first: int, last: int, room: tuple[int, int]) -> float:
    """The angle turned from where the curvature rises to where it has died away, within the given samples."""
    bent = side * profile.curvature_per_m
    least = DIED_AWAY * float(bent[first : last + 1].max())
    while first > room[0] and least < bent[first - 1] <= bent[first] * 1.02:
        first -= 1
    while last < room[1] and least < bent[last + 1] <= bent[last] * 1.02:
        last += 1
    return float(np.degrees(bent[first : last + 1].sum() * STEP_M))


def bend_between(profile: Profile, first: int, last: int, room: tuple[int, int]) -> Bend:
    """The bend from sample ``first`` to sample ``last`` (inclusive); its ends may ease off within ``room``."""
    run = measure(profile, np.array([first]), np.array([last]), samples=EVERY_METRE)
    side = int(run.side[0])
    begin, end = arc_ends(profile, side, first, last, room)
    from_m, to_m = begin * STEP_M, end * STEP_M
    bent = side * profile.curvature_per_m[first : last + 1]
    tightest = first + int(np.argmax(bent))
    peak = max(float(bent.max()), 1e-4)
    inside = slice(int(from_m), max(int(from_m) + 1, int(to_m)))
    # Where the bend is held: on a steady arc the tightest sample is an accident, this is its middle.
    held = np.maximum(side * profile.curvature_per_m[inside], 1e-6) ** 2
    apex_m = from_m + float(held @ np.arange(len(held))) / float(held.sum()) * STEP_M
    turn_deg = max(float(run.turn_deg[0]), _whole_turn_deg(profile, side, first, last, room))
    road, road_sd = road_radius(1 / peak, turn_deg)
    return Bend(
        from_m=from_m,
        to_m=to_m,
        apex_m=apex_m,
        side=side,
        radius_m=1 / peak,
        radius_sd_m=float(profile.curvature_sd_per_m[tightest]) / peak**2,
        carried_radius_m=float(run.carried_radius_m[0]),
        turn_deg=turn_deg,
        length_m=max(to_m - from_m, STEP_M),
        speed_min_mps=float(profile.speed_mps[inside].min()),
        road_radius_m=road,
        eased_from_m=float(run.from_m[0]),
        eased_to_m=float(run.to_m[0]),
        road_radius_sd_m=float(np.hypot(road_sd, float(profile.curvature_sd_per_m[tightest]) / peak**2)),
    )


@dataclass(frozen=True)
class Drive:
    """The part of the path that is the stage: from standing at the start line to the stop; metres on the path."""

    start_m: float
    start_s: float
    stop_m: float
    stop_s: float


def find_drive(path: Path) -> Drive:
    """The longest drive in the recording, with short stops inside it (a spin, a stall) not ending it.

    The car stands at the start line and is away when its speed leaves zero for good; a recording that begins or
    ends while moving is taken from its first or to its last sample.
    """
    moving = path.speed_mps > 0.5
    step_s = float(path.time_s[1] - path.time_s[0])
    edges = np.flatnonzero(np.diff(np.concatenate([[0], moving.astype(np.int8), [0]])))
    starts, ends = edges[0::2], edges[1::2] - 1
    legs: list[list[int]] = []
    for start, end in zip(starts, ends, strict=True):
        # A stop of under half a minute after some way is an incident of the stage, not its end.
        if (
            legs
            and (start - legs[-1][1]) * step_s < 30.0
            and path.distance_m[legs[-1][1]] - path.distance_m[legs[-1][0]] > 150
        ):
            legs[-1][1] = int(end)
        else:
            legs.append([int(start), int(end)])
    start, end = max(legs, key=lambda leg: path.distance_m[leg[1]] - path.distance_m[leg[0]])
    return Drive(
        start_m=float(path.distance_m[start]),
        start_s=float(path.time_s[start]),
        stop_m=float(path.distance_m[end]),
        stop_s=float(path.time_s[end]),
    )
