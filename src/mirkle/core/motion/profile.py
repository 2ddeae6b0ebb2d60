"""The stage laid out by distance, from standing at the start line to the stop."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from mirkle.core.motion.holes import Unmeasured, inside, length_bounds
from mirkle.core.motion.path import Path
from mirkle.core.motion.recording import Floats

STEP_M = 1.0
# The tightest radius is the mean over this length: shorter follows the wheel's twitches (a car is 4 m long and
# 0.1 s at 100 km/h is 3 m), longer flattens hairpins, whose whole arc at 10 m radius and 90 degrees is 16 m.
TIGHTEST_OVER_M = 9
CARRIED_OVER_M = 25
# Shorter than this is no stage: the way to the start, or from the stop.
A_DRIVE_M = 1000.0


@dataclass(frozen=True)
class Profile:
    """The stage by distance, one value a metre from the start line; all arrays (n,).

    ``curvature_per_m`` is the mean over :data:`TIGHTEST_OVER_M`, positive to the left; ``heading_rad`` is unwrapped;
    ``slip_rad`` is how far the body points to the left of the path, nan where no yaw rate was recorded.
    """

    distance_m: Floats
    heading_rad: Floats
    curvature_per_m: Floats
    carried_per_m: Floats
    curvature_sd_per_m: Floats
    speed_mps: Floats
    time_s: Floats
    slip_rad: Floats

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

    def metres_at(self, time_s: float) -> float:
        """Where the car was at a moment of the recording's clock; the start line before it left, the end after it stopped."""
        return float(np.interp(time_s, self.time_s, self.distance_m))

    def seconds_at(self, metres: float) -> float:
        """When the car came to a place, on the recording's clock."""
        return float(np.interp(metres, self.distance_m, self.time_s))


def profile_of(path: Path, start_m: float, end_m: float) -> Profile:
    """The stage from ``start_m`` to ``end_m`` on the path, by distance from its start."""
    distance = np.arange(0.0, end_m - start_m, STEP_M)
    at = distance + start_m
    heading = path.at_distance(path.heading_rad, at)
    rate = np.gradient(heading, STEP_M)
    # Where nothing was measured there is no bend.
    rate[inside(path.holes, path.at_distance(path.time_s, at))] = 0.0
    return Profile(
        distance_m=distance,
        heading_rad=heading,
        curvature_per_m=_mean_over(rate, TIGHTEST_OVER_M),
        carried_per_m=_mean_over(rate, CARRIED_OVER_M),
        curvature_sd_per_m=path.at_distance(path.curvature_sd_per_m, at),
        speed_mps=path.at_distance(path.speed_mps, at),
        time_s=path.at_distance(path.time_s, at),
        slip_rad=path.at_distance(path.slip_rad, at),
    )


def _mean_over(values: Floats, metres: int) -> Floats:
    half = int(metres / STEP_M) // 2
    padded = np.pad(values, half, mode="edge")
    return np.convolve(padded, np.ones(2 * half + 1) / (2 * half + 1), mode="valid")


@dataclass(frozen=True)
class Drive:
    """The part of the path that is the stage: from standing at the start line to the stop; metres on the path."""

    start_m: float
    start_s: float
    stop_m: float
    stop_s: float

    @property
    def length_m(self) -> float:
        """How long it is."""
        return self.stop_m - self.start_m


def unmeasured_in(path: Path, drive: Drive) -> tuple[Unmeasured, ...]:
    """The stretches of the stage whose shape was not measured, in order."""
    out = []
    for hole in path.holes:
        first, last = (int(np.searchsorted(path.time_s, t)) for t in (hole.from_s, hole.to_s))
        first, last = max(0, first - 1), min(last, len(path.time_s) - 1)
        from_m, to_m = (float(path.distance_m[n]) - drive.start_m for n in (first, last))
        if to_m <= 0.0 or from_m >= drive.stop_m - drive.start_m:
            continue
        drawn = to_m - from_m
        chord = float(np.hypot(path.east_m[last] - path.east_m[first], path.north_m[last] - path.north_m[first]))
        bounds = length_bounds(hole, chord)
        least, most = (drawn, drawn) if hole.length_known else bounds
        out.append(Unmeasured(max(from_m, 0.0), to_m, hole.seconds, least, most))
    return tuple(out)


def drives_of(path: Path) -> list[Drive]:
    """Every drive in the recording, with short stops inside it (a spin, a stall) not ending it.

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
    return [
        Drive(
            start_m=float(path.distance_m[start]),
            start_s=float(path.time_s[start]),
            stop_m=float(path.distance_m[end]),
            stop_s=float(path.time_s[end]),
        )
        for start, end in legs
    ]


def find_drive(path: Path) -> Drive:
    """The longest drive in the recording."""
    return max(drives_of(path), key=lambda d: d.length_m)


def started_at(drive: Drive, path: Path, start_s: float | None) -> Drive:
    """The drive begun when a hand said so, if one did: of several, the one that goes on at that moment or next."""
    if start_s is None:
        return drive
    drive = next((d for d in drives_of(path) if d.length_m > A_DRIVE_M and d.stop_s > start_s + 1.0), drive)
    start_s = float(np.clip(start_s, path.time_s[0], drive.stop_s - 1.0))
    return replace(drive, start_s=start_s, start_m=float(np.interp(start_s, path.time_s, path.distance_m)))
