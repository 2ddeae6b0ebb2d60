"""The drives in a recording: which is the stage, when the car left the start line, and what of it was not measured."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from mirkle.core.errors import UnusableRecording
from mirkle.core.motion.driven_line import DrivenLine
from mirkle.core.motion.gaps import UnmeasuredStretch, length_bounds, outages_of
from mirkle.core.recording.model import Recording

# Shorter than this is no stage: the way to the start, or from the stop.
A_DRIVE_M = 1000.0
# What is shorter is a receiver's wandering.
SHORTEST_M = 50.0
# A hole this long (s) between two parts that end and begin standing (m/s) separates two drives.
LIAISON_S, STOOD_MPS = 30.0, 1.0
# The car moves above this speed (m/s). A stop shorter than this (s), after at least this distance (m), is an incident of the stage and
# not its end. # common practice
MOVES_MPS, INCIDENT_S, INCIDENT_AFTER_M = 0.5, 30.0, 150
# Bound of a standing receiver's noise, in median deviations.
NOISE_DEVIATIONS = 4.0
# The car is away from this speed on (m/s), after at most this time (s). What stood at least this long before (s) tells the receiver's
# noise, between these bounds (m/s).
AWAY_MPS, LAUNCH_S, STOOD_AT_LEAST_S, QUIET_MPS, NOISIEST_MPS = 5.0, 4.0, 5.0, 0.5, 3.5
# The launch is looked for within this time of when the speed shows it (s); the car stands before it (s), and gains this much after it
# (m/s²).
LAUNCH_WITHIN_S, STANDS_S, LEAST_LAUNCH_MPS2 = 0.6, 2.0, 1.0
# The acceleration is smoothed over this time (s); a launch stands out by this many deviations; the fewest samples before and behind it.
LAUNCH_EVENED_S, LAUNCH_DEVIATIONS, LEAST_SAMPLES = 0.05, 8.0, 10
# The rise of a speed gains no less than this, m/s.
LEAST_GAIN_MPS = 0.1


@dataclass(frozen=True)
class Segment:
    """The part of the path that is the stage: from standing at the start line to the stop; metres on the path."""

    start_m: float
    start_s: float
    stop_m: float
    stop_s: float

    @property
    def length_m(self) -> float:
        """How long it is."""
        return self.stop_m - self.start_m


def unmeasured_in(path: DrivenLine, drive: Segment) -> tuple[UnmeasuredStretch, ...]:
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
        out.append(UnmeasuredStretch(max(from_m, 0.0), to_m, hole.seconds, least, most))
    return tuple(out)


@dataclass(frozen=True)
class BridgedGap:
    """A stretch without positions that was bridged by what else was recorded, metres from the start line."""

    from_m: float
    to_m: float
    seconds: float

    def touches(self, from_m: float, to_m: float) -> bool:
        """Whether a stretch lies on it in part."""
        return from_m < self.to_m and to_m > self.from_m


def bridged_in(path: DrivenLine, recording: Recording, drive: Segment) -> tuple[BridgedGap, ...]:
    """The stretches of the stage over which positions were missing and the line was bridged, in order."""
    out = []
    for from_s, to_s in outages_of(recording):
        if any(hole.from_s == from_s for hole in path.holes):
            continue
        from_m, to_m = (float(np.interp(t, path.time_s, path.distance_m)) - drive.start_m for t in (from_s, to_s))
        if to_m > 0.0 and from_m < drive.length_m:
            out.append(BridgedGap(from_m, to_m, to_s - from_s))
    return tuple(out)


def drives_of(path: DrivenLine) -> list[Segment]:
    """Every drive in the recording, with short stops inside it (a spin, a stall) not ending it.

    The car stands at the start line and is away when its speed leaves zero for good; a recording that begins or
    ends while moving is taken from its first or to its last sample.
    """
    moving = path.speed_mps > MOVES_MPS
    for hole in path.holes:
        if hole.seconds > LIAISON_S and max(hole.entry_mps, hole.leaving_mps) < STOOD_MPS:
            # The car stood when the positions went and when they came back: what lies between is the way to another drive.
            moving[(path.time_s > hole.from_s) & (path.time_s < hole.to_s)] = False
    step_s = float(path.time_s[1] - path.time_s[0])
    edges = np.flatnonzero(np.diff(np.concatenate([[0], moving.astype(np.int8), [0]])))
    starts, ends = edges[0::2], edges[1::2] - 1
    legs: list[list[int]] = []
    for start, end in zip(starts, ends, strict=True):
        gone_m = path.distance_m[legs[-1][1]] - path.distance_m[legs[-1][0]] if legs else 0.0
        if legs and (start - legs[-1][1]) * step_s < INCIDENT_S and gone_m > INCIDENT_AFTER_M:
            legs[-1][1] = int(end)
        else:
            legs.append([int(start), int(end)])
    legs = [[_out_of_noise(path, start, end), end] for start, end in legs]
    return [
        Segment(
            start_m=float(path.distance_m[start]),
            start_s=float(path.time_s[start]),
            stop_m=float(path.distance_m[end]),
            stop_s=float(path.time_s[end]),
        )
        for start, end in legs
    ]


def _out_of_noise(path: DrivenLine, start: int, end: int) -> int:
    """The sample at which the speed leaves the receiver's noise for good: some receivers wander by metres a second while the car stands.

    The noise is the median and four median deviations of what was recorded until the car was away; the launch is the last rise through it.
    """
    away = start + int(np.argmax(path.speed_mps[start : end + 1] > AWAY_MPS))
    step_s = float(path.time_s[1] - path.time_s[0])
    until = max(away - round(LAUNCH_S / step_s), 0)
    rolled = np.flatnonzero(path.speed_mps[:until] > NOISIEST_MPS)
    stood = path.speed_mps[rolled[-1] + 1 if len(rolled) else 0 : until]
    if len(stood) * step_s < STOOD_AT_LEAST_S:
        return start
    middle = float(np.median(stood))
    noise = float(np.clip(middle + NOISE_DEVIATIONS * np.median(np.abs(stood - middle)), QUIET_MPS, NOISIEST_MPS))
    below = np.flatnonzero(path.speed_mps[start : away + 1] <= noise)
    if noise <= QUIET_MPS or not len(below):
        return start
    rises = start + int(below[-1])
    # The line of the rise, back to standing.
    gained = float(path.speed_mps[away] - path.speed_mps[rises])
    back = (away - rises) * float(path.speed_mps[rises]) / max(gained, LEAST_GAIN_MPS)
    return max(start, rises - round(back))


def longest_segment(path: DrivenLine) -> Segment:
    """The longest drive in the recording.

    Raises
    ------
    UnusableRecording
        The car stands all the time, or all but.
    """
    drives = [d for d in drives_of(path) if d.length_m > SHORTEST_M]
    if not drives:
        raise UnusableRecording("the car never drives in it", mend="choose the recording of the stage")
    return max(drives, key=lambda d: d.length_m)


def trimmed_to_start(drive: Segment, path: DrivenLine, start_s: float | None) -> Segment:
    """The drive begun when a hand said so, if one did: of several, the one that goes on at that moment or next."""
    if start_s is None:
        return drive
    drive = next((d for d in drives_of(path) if d.length_m > A_DRIVE_M and d.stop_s > start_s + 1.0), drive)
    start_s = float(np.clip(start_s, path.time_s[0], drive.stop_s - 1.0))
    return replace(drive, start_s=start_s, start_m=float(np.interp(start_s, path.time_s, path.distance_m)))


def trimmed_to_launch(drive: Segment, path: DrivenLine, recording: Recording) -> Segment:
    """The drive begun when the car began to be pushed, where a forward acceleration was recorded and it stood before.

    A speed shows a launch a quarter of a second late, since it has to rise out of its noise; the push is felt at once. The
    launch is where the acceleration, evened over a twentieth of a second, first reaches half of the most that it becomes.
    """
    if not recording.has("acc_x_mps2"):
        return drive
    push = recording.channels["acc_x_mps2"]
    about = (push.time_s > drive.start_s - LAUNCH_WITHIN_S - STANDS_S) & (push.time_s < drive.start_s + 2 * LAUNCH_WITHIN_S)
    time_s, value = push.time_s[about], push.value[about]
    stood = time_s < drive.start_s - LAUNCH_WITHIN_S
    before = np.interp(time_s[stood], path.time_s, path.speed_mps)
    if min(np.count_nonzero(stood), np.count_nonzero(~stood)) < LEAST_SAMPLES or float(before.max()) > MOVES_MPS:
        return drive
    even = max(1, round(LAUNCH_EVENED_S * push.rate_hz))
    value = np.convolve(np.pad(value, even, mode="edge"), np.ones(even) / even, mode="same")[even:-even]
    value = value - float(np.median(value[stood]))
    most = float(value[~stood].max())
    if most < max(LEAST_LAUNCH_MPS2, LAUNCH_DEVIATIONS * float(value[stood].std())):
        return drive
    start_s = float(time_s[np.flatnonzero(~stood & (value > 0.5 * most))[0]])
    if abs(start_s - drive.start_s) > LAUNCH_WITHIN_S:
        return drive
    return replace(drive, start_s=start_s, start_m=float(np.interp(start_s, path.time_s, path.distance_m)))
