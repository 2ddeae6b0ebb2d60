"""Bends as driven: stretches grown to where the curvature says, their arcs, the gaps between, the road behind."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mirkle.core.motion.profile import STEP_M, Profile
from mirkle.core.motion.spans import EDGE_SHARE, EVERY_METRE, Ints, Spans, measure
from mirkle.core.recording.model import Floats

# An arc whose ends a driver eases begins and ends where half of its curvature is there: easing moves as much of the
# turn out of the arc as it leaves inside. The ends may lie a little outside the stretch, down to the lesser share.
ARC_SHARE, EASED_SHARE = 0.5, 0.3
# Share of the turn next to each end whose curvature decides where that end is.
OWN_PART = 0.4
# Two bends of one side are parted only where the line eases to this share of the lesser of them.
PARTED_SHARE = 0.3
# What the line may turn between two bends and the road there still be called straight.
STRAIGHT_TURNS_DEG, WANDERS_DEG_PER_M = 15.0, 0.03
# How far the line moves across the road within a bend: a car's width less than half of the road, used twice, and less
# than all of that. # common practice; halves the error of the driven radius on worlds not our own
LINE_WIDTH_M, LINE_WIDTH_SD_M = 0.8, 0.4
# However much the line opens a bend, the road is not tighter than this share of it.
LEAST_ROAD_SHARE = 0.35
# What a radius and a length are out by that the path's own uncertainty doesn't hold.
UNMODELLED_RADIUS, UNMODELLED_LENGTH_M = 0.015, 0.8
# Where curvature has fallen to this share of the peak the bend is over.
DIED_AWAY = 0.06
# Curvature that noise may add on the way there and is no other bend, as a share; curvature below which there is no arc (1/m).
HARDLY_MORE, NO_ARC_PER_M = 1.02, 1e-4
# The road's radius follows from the driven one between these angles (°); its spread is at most this share of the driven radius.
# common practice
TOLD_DEG, MOST_SPREAD = (4.0, 170.0), 0.4


# First and last sample of a stretch, and the room about it.
Stretch = tuple[int, int, tuple[int, int]]


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

    def at(self, which: int) -> Stretch:
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
        edge = EDGE_SHARE * max(s * bent[apex], NO_ARC_PER_M)
        lowest = apexes[i - 1] if i else 0
        highest = apexes[i + 1] if i + 1 < len(apexes) else len(bent) - 1
        before, after = s * bent[lowest : apex + 1], s * bent[apex : highest + 1]
        under = np.flatnonzero(before < edge)
        out_first[i] = lowest + (under[-1] + 1 if len(under) else int(np.argmin(before)) + (i > 0))
        under = np.flatnonzero(after < edge)
        out_last[i] = apex + (under[0] - 1 if len(under) else int(np.argmin(after)))
    out_first, out_last = np.minimum(out_first, apexes), np.maximum(out_last, apexes)
    ends = np.array([len(bent) - 1], dtype=np.intp)
    before = np.concatenate([ends * 0, out_last[:-1] + 1])[: len(out_first)]
    after = np.concatenate([out_first[1:] - 1, ends])[: len(out_first)]
    return Stretches(out_first, out_last, np.minimum(before, out_first), np.maximum(after, out_last))


def arc_ends(profile: Profile, side: int, first: int, last: int, room: tuple[int, int]) -> tuple[int, int]:
    """Samples where the arc in a stretch begins and where it has ended, whatever eased it; within ``room``.

    Each end is where half of the greatest curvature in its own part of the turn is reached, so that a bend of two radii
    is measured from the beginning of its gentle part.
    """
    bent = np.maximum(side * profile.curvature_per_m[room[0] : room[1] + 1], 0.0)
    first, last = first - room[0], last - room[0]
    eased = EASED_SHARE * float(bent[first : last + 1].max())
    # No further than where the line is straightest: behind that it turns into the next bend already.
    least, most = first - int(np.argmin(bent[first::-1])), last + int(np.argmin(bent[last:]))
    while first > least and bent[first - 1] > eased:
        first -= 1
    while last < most and bent[last + 1] > eased:
        last += 1
    held = bent[first : last + 1]
    turned = np.cumsum(held)
    early = int(np.searchsorted(turned, OWN_PART * turned[-1]))
    late = min(int(np.searchsorted(turned, (1 - OWN_PART) * turned[-1])), len(held) - 1)
    begins = np.argmax(held >= ARC_SHARE * held[: early + 1].max())
    ends = len(held) - np.argmax(held[::-1] >= ARC_SHARE * held[late:].max())
    return room[0] + first + int(begins), room[0] + first + int(ends)


Arcs = list[tuple[int, int]]


def gaps_before(profile: Profile, side: Ints, stretches: Stretches, arcs: Arcs) -> Floats:
    """Metres between the arcs of neighbouring stretches, (m,); the first is nan.

    A driver links bends of one side that lie near each other, and the line then never straightens between them:
    nothing in it shows where the road did. Nor is it a gap where the line turns as a bend does. Both are nan.
    """
    bent, first, last = profile.curvature_per_m, stretches.first, stretches.last
    gap_m = np.full(len(first), np.nan)
    for k in range(1, len(first)):
        metres = (arcs[k][0] - arcs[k - 1][1]) * STEP_M
        turned_deg = float(np.degrees(np.abs(bent[last[k - 1] + 1 : first[k]]).sum() * STEP_M))
        wanders = turned_deg > STRAIGHT_TURNS_DEG + WANDERS_DEG_PER_M * metres
        if not wanders and _straightens(bent, int(side[k - 1]), int(side[k]), (first[k - 1 : k + 1], last[k - 1 : k + 1])):
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
    """One bend as driven. ``side`` is +1 to the left; ``radius_sd_m``, ``turn_sd_deg`` and ``length_sd_m`` are the spreads of
    the measures they are named after (see :func:`_spreads`).

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
    turn_sd_deg: float = 0.0
    length_sd_m: float = 0.0

    @property
    def direction(self) -> str:
        """``left`` or ``right``."""
        return "left" if self.side > 0 else "right"


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
    half = float(np.radians(np.clip(turn_deg, *TOLD_DEG))) / 2
    opened = float(np.cos(half) / (1.0 - np.cos(half)))
    radius = max(driven_radius_m - LINE_WIDTH_M * opened, LEAST_ROAD_SHARE * driven_radius_m)
    spread = min(LINE_WIDTH_SD_M * opened, MOST_SPREAD * driven_radius_m)
    return radius, spread


def _whole_turn_deg(profile: Profile, side: int, first: int, last: int, room: tuple[int, int]) -> float:
    """The angle turned from where the curvature rises to where it has died away, within the given samples."""
    bent = side * profile.curvature_per_m[room[0] : room[1] + 1]
    first, last = first - room[0], last - room[0]
    least = DIED_AWAY * float(bent[first : last + 1].max())
    while first > 0 and least < bent[first - 1] <= bent[first] * HARDLY_MORE:
        first -= 1
    while last + 1 < len(bent) and least < bent[last + 1] <= bent[last] * HARDLY_MORE:
        last += 1
    return float(np.degrees(bent[first : last + 1].sum() * STEP_M))


class KnownBends:
    """The arcs and the bends of a profile's stretches, each worked out once: a note moved by hand changes few of them."""

    def __init__(self, profile: Profile) -> None:
        self.profile = profile
        self._arcs: dict[Stretch, tuple[int, int]] = {}
        self._bends: dict[Stretch, Bend] = {}

    def arcs(self, side: Ints, stretches: Stretches) -> Arcs:
        """The arc of each stretch (see :func:`arc_ends`)."""
        at = [stretches.at(k) for k in range(len(side))]
        for stretch, s in zip(at, side.tolist(), strict=True):
            if stretch not in self._arcs:
                self._arcs[stretch] = arc_ends(self.profile, s, *stretch)
        return [self._arcs[stretch] for stretch in at]

    def bends(self, stretches: Stretches, runs: Spans, arcs: Arcs) -> list[Bend]:
        """The bend of each stretch, from its measures and its arc."""
        at = [stretches.at(k) for k in range(len(arcs))]
        for k, (stretch, arc) in enumerate(zip(at, arcs, strict=True)):
            if stretch not in self._bends:
                self._bends[stretch] = _bend(self.profile, stretch, runs, k, arc)
        return [self._bends[stretch] for stretch in at]


def bend_between(profile: Profile, first: int, last: int) -> Bend:
    """The bend from sample ``first`` to sample ``last`` (inclusive), with nothing of it beyond them."""
    ends = np.array([first], dtype=np.intp), np.array([last], dtype=np.intp)
    alone, runs = Stretches(*ends, *ends), measure(profile, *ends, samples=EVERY_METRE)
    return _bend(profile, alone.at(0), runs, 0, arc_ends(profile, int(runs.side[0]), *alone.at(0)))


def _bend(profile: Profile, stretch: Stretch, runs: Spans, which: int, arc: tuple[int, int]) -> Bend:
    first, last, room = stretch
    side, radius_m = int(runs.side[which]), float(runs.radius_m[which])
    from_m, to_m = arc[0] * STEP_M, arc[1] * STEP_M
    tightest = first + int(np.argmax(side * profile.curvature_per_m[first : last + 1]))
    inside = slice(arc[0], max(arc[0] + 1, arc[1]))
    # Where the bend is held: on a steady arc the tightest sample is an accident, this is its middle.
    held = np.maximum(side * profile.curvature_per_m[inside], 1e-6) ** 2
    apex_m = from_m + float(held @ np.arange(len(held))) / float(held.sum()) * STEP_M
    turn_deg = max(float(runs.turn_deg[which]), _whole_turn_deg(profile, side, first, last, room))
    radius_sd_m = float(profile.curvature_sd_per_m[tightest]) * radius_m**2
    turn_sd_deg = length_sd_m = 0.0
    if profile.curvature_draws is not None:
        radius_sd_m, turn_sd_deg, length_sd_m = _spreads(side * profile.curvature_draws[first : last + 1], radius_m)
    road, road_sd = road_radius(radius_m, turn_deg)
    return Bend(
        from_m=from_m,
        to_m=to_m,
        apex_m=apex_m,
        side=side,
        radius_m=radius_m,
        radius_sd_m=radius_sd_m,
        carried_radius_m=float(runs.carried_radius_m[which]),
        turn_deg=turn_deg,
        length_m=max(to_m - from_m, STEP_M),
        speed_min_mps=float(profile.speed_mps[inside].min()),
        road_radius_m=road,
        road_radius_sd_m=float(np.hypot(road_sd, radius_sd_m)),
        eased_from_m=float(runs.from_m[which]),
        eased_to_m=float(runs.to_m[which]),
        turn_sd_deg=turn_sd_deg,
        length_sd_m=length_sd_m,
    )


def _spreads(draws: NDArray[np.float32], radius_m: float) -> tuple[float, float, float]:
    """Standard deviations of a bend's radius (m), turn (degrees) and length (m), from samples of its curvature (m, draws).

    Each sample of the path is measured as the bend is: its tightest mean, its turn, and where half of its peak is reached.
    What no sample knows (that nine metres even a peak, that a body's slip follows the model) is added.
    """
    if len(draws) < 2:
        return 0.0, 0.0, 0.0
    peak = np.maximum(draws.max(axis=0), NO_ARC_PER_M)
    high = draws >= ARC_SHARE * peak
    length = len(draws) - high[::-1].argmax(axis=0) - high.argmax(axis=0)
    turn = np.degrees(draws.sum(axis=0) * STEP_M)
    return (
        radius_m * float(np.hypot(np.log(peak).std(), UNMODELLED_RADIUS)),
        float(turn.std()),
        float(np.hypot(length.std() * STEP_M, UNMODELLED_LENGTH_M)),
    )
