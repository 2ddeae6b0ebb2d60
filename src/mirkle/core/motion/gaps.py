"""Where nothing was measured: holes in the positions, what is still known there, and what is not.

How far bridging can be trusted goes by the hole's length and by what else was recorded meanwhile. Measured on simulated drives
with known roads: from positions alone the curvature is worth a check up to 3 s and the length up to 10 s; with a speed and a
yaw rate that go on, the curvature up to 15 s and the length up to 20 s. Beyond that there is no road, only a length between
the chord and what the speeds at both ends allow.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from mirkle.core.constants import km
from mirkle.core.messages import Message, message
from mirkle.core.motion.geodesy import local_metres
from mirkle.core.motion.states import Motion, Positions
from mirkle.core.recording.model import OUTAGE_S, Channel, Floats, Recording

SHAPE_S, LENGTH_S = 3.0, 10.0
SHAPE_BY_MOTION_S, LENGTH_BY_MOTION_S = 15.0, 20.0
# The true length of a hole lies between its chord and this many times the mean of the speeds at its ends times its time.
MOST_OF_MEAN = 1.4
# A channel covers a hole from this share of its samples on.
GOES_ON = 0.6
# What is smoothed beside a hole is not measured either.
BESIDE_S = 1.0
# Time over which the speed at a hole's ends is measured (s).
BY_CHORD_S = 3.0


@dataclass(frozen=True)
class PositionGap:
    """A stretch of time without positions, on the recording's clock; ``length_known`` where its length was measured.

    ``entry_mps`` and ``leaving_mps`` are the speeds with which the car went into it and came out of it.
    """

    from_s: float
    to_s: float
    length_known: bool
    entry_mps: float
    leaving_mps: float

    @property
    def seconds(self) -> float:
        """How long it is."""
        return self.to_s - self.from_s


@dataclass(frozen=True)
class UnmeasuredStretch:
    """A stretch of the stage whose shape was not measured, metres from the start line.

    Its true length lies between ``least_m`` and ``most_m``; both are the drawn length where that was measured.
    """

    from_m: float
    to_m: float
    seconds: float
    least_m: float
    most_m: float

    @property
    def sentence(self) -> Message:
        """Where it lies, why, and how long it may be."""
        return message(
            "{0:.2f} to {1:.2f} km was not measured: no positions for {2:.0f} s; it is between {3:.0f} and {4:.0f} m long.",
            km(self.from_m),
            km(self.to_m),
            self.seconds,
            self.least_m,
            self.most_m,
        )

    def touches(self, from_m: float, to_m: float) -> bool:
        """Whether a stretch lies on it in part."""
        return from_m < self.to_m and to_m > self.from_m


def outages_of(recording: Recording) -> list[tuple[float, float]]:
    """From when to when positions are missing for longer than they ever should be, in seconds of the recording's clock."""
    time_s = recording.channels["lat_rad"].time_s if recording.has("lat_rad", "lon_rad") else np.zeros(0)
    if len(time_s) < 2:
        return []
    gaps = np.diff(time_s)
    long = np.flatnonzero(gaps > max(OUTAGE_S, 2.5 * float(np.median(gaps))))
    return [(float(time_s[at]), float(time_s[at + 1])) for at in long]


def holes_of(recording: Recording) -> tuple[PositionGap, ...]:
    """The holes whose shape is not known, in the order of time; none where there are no positions at all."""
    out = []
    for first, last in outages_of(recording):
        # The speed is known at both ends; what it does between, a speed or an acceleration tells.
        measures = ("speed_mps", "wheel_speed_mps", "acc_x_mps2", "acc_y_mps2")
        speed = any(_goes_on(recording.channels.get(n), first, last) for n in measures)
        turned = speed and _goes_on(recording.channels.get("yaw_rate_radps"), first, last)
        seconds = last - first
        if seconds > (SHAPE_BY_MOTION_S if turned else SHAPE_S):
            known = seconds <= (LENGTH_BY_MOTION_S if speed else LENGTH_S)
            beside = ((first - BY_CHORD_S, first), (last, last + BY_CHORD_S))
            out.append(PositionGap(first, last, known, *(_speed_in(recording, *ends) for ends in beside)))
    return tuple(out)


def _speed_in(recording: Recording, from_s: float, to_s: float) -> float:
    """The speed in a few seconds, by the recorder's own or by the chord of the positions, m/s."""
    if recording.has("speed_mps"):
        speed = recording.channels["speed_mps"]
        there = (speed.time_s >= from_s) & (speed.time_s <= to_s)
        if there.any():
            return float(np.median(speed.value[there]))
    lat, lon = recording.channels["lat_rad"], recording.channels["lon_rad"]
    near = np.flatnonzero((lat.time_s >= from_s) & (lat.time_s <= to_s))
    if len(near) < 2 or len(lon.time_s) != len(lat.time_s):
        return 0.0
    east, north = local_metres(lat.value[near], lon.value[near])
    return float(np.hypot(np.diff(east), np.diff(north)).sum() / np.ptp(lat.time_s[near]))


def _goes_on(channel: Channel | None, from_s: float, to_s: float) -> bool:
    if channel is None or channel.rate_hz <= 0.0:
        return False
    inside = np.count_nonzero((channel.time_s > from_s) & (channel.time_s < to_s))
    return bool(inside >= GOES_ON * (to_s - from_s) * channel.rate_hz)


def filled(positions: Positions, holes: Sequence[PositionGap]) -> Positions:
    """The positions with a point a second on the straight line through each hole whose length can't be told.

    They say nothing of the road; they keep the smoothing from inventing one, since with nothing to hold it the smoothest line
    through a long hole is a loop.
    """
    time_s, east, north, sigma = positions
    more = [np.arange(hole.from_s + 1.0, hole.to_s - 0.5, 1.0) for hole in holes if not hole.length_known]
    added = np.concatenate(more) if more else np.zeros(0)
    if not len(added):
        return positions
    order = np.argsort(np.concatenate([time_s, added]), kind="stable")

    def with_added(values: Floats) -> Floats:
        return np.concatenate([values, np.interp(added, time_s, values)])[order]

    return with_added(time_s), with_added(east), with_added(north), with_added(sigma)


def straightened(motion: Motion, positions: Positions, holes: Sequence[PositionGap], grid_s: Floats) -> Motion:
    """The motion with the straight line, evenly driven, in each hole whose length can't be told.

    What would be reckoned there from interpolated speeds and headings ends somewhere else than the positions begin again.
    """
    speed, heading = motion.speed_mps.copy(), motion.heading_rad.copy()
    time_s, east, north, _ = positions
    for hole in holes:
        within = (grid_s > hole.from_s) & (grid_s < hole.to_s)
        if hole.length_known or not within.any():
            continue
        ends = [np.interp([hole.from_s, hole.to_s], time_s, axis) for axis in (east, north)]
        across, up = (float(np.diff(e)[0]) for e in ends)
        speed[within] = np.hypot(across, up) / hole.seconds
        before = heading[max(0, int(np.flatnonzero(within)[0]) - 1)]
        turn = np.arctan2(up, across) - before
        heading[within] = before + (turn + np.pi) % (2 * np.pi) - np.pi
    return replace(motion, speed_mps=speed, heading_rad=heading)


def bounded(holes: Sequence[PositionGap], grid_s: Floats, east: Floats, north: Floats, speed: Floats) -> tuple[Floats, Floats, Floats]:
    """East, north and speed with a straight line through each hole, as fast as its ends allow; all (n,).

    The line between both ends is drawn straight, since nothing tells its shape, and the distance through it is the mean of
    the speeds beside it times the time, but no shorter than the chord.
    """
    east, north, speed = east.copy(), north.copy(), speed.copy()
    for hole in holes:
        inside = np.flatnonzero((grid_s > hole.from_s) & (grid_s < hole.to_s))
        if len(inside) < 2 or inside[0] == 0 or inside[-1] + 1 >= len(grid_s):
            continue
        first, last = int(inside[0]) - 1, int(inside[-1]) + 1
        share = (grid_s[inside] - grid_s[first]) / (grid_s[last] - grid_s[first])
        for axis in (east, north):
            axis[inside] = axis[first] + share * (axis[last] - axis[first])
        entry, leaving = hole.entry_mps, hole.leaving_mps
        chord = float(np.hypot(east[last] - east[first], north[last] - north[first]))
        _, most = length_bounds(hole, chord)
        if hole.length_known and float(speed[inside].mean()) * hole.seconds <= most:
            continue
        plain = entry + share * (leaving - entry)
        wanted = max(chord, 0.5 * (entry + leaving) * hole.seconds)
        travelled = max(float(plain.mean()) * hole.seconds, 1e-6)
        speed[inside] = plain * wanted / travelled if plain.any() else wanted / hole.seconds
    return east, north, speed


def length_bounds(hole: PositionGap, chord_m: float) -> tuple[float, float]:
    """Between what the true length of a hole lies, metres."""
    return chord_m, max(chord_m, MOST_OF_MEAN * 0.5 * (hole.entry_mps + hole.leaving_mps) * hole.seconds)


def inside(holes: Sequence[PositionGap], time_s: Floats) -> NDArray[np.bool_]:
    """Which moments lie in a hole or close beside it, (n,)."""
    out = np.zeros(len(time_s), dtype=bool)
    for hole in holes:
        out |= (time_s > hole.from_s - BESIDE_S) & (time_s < hole.to_s + BESIDE_S)
    return out
