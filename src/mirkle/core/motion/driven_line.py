"""The driven line: speed, heading and position of the car on one even time grid, and how sure they are.

Three banded least-squares problems, one after the other, because each is linear given the one before:

1. *Speed* from Doppler speed, wheel speed and forward acceleration (whose slope and mounting error drifts slowly).
2. *Heading* of the path from Doppler course (error: lateral speed noise over speed), yaw rate (which is the body's:
   the path's rate plus the rate of a sideslip that dies out) and lateral acceleration = speed x heading rate, plus a
   slow camber error. The prior is that the steering moves smoothly: white third difference of heading.
3. *Position*: dead reckoning from 1 and 2 plus a slow correction that ties it to the positions, which drift. The
   part of the correction that lies along the path goes into the distance, so that an outage in the speed does not
   shift what follows.

1 and 2 are :mod:`mirkle.core.motion.headings`. Where there is neither course nor yaw rate,
:mod:`mirkle.core.motion.positions` gives both from positions, and from a speed if there is one.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mirkle.core.messages import Message, counted, message
from mirkle.core.motion.banded import BandedProblem, between, difference_weights
from mirkle.core.motion.gaps import PositionGap, bounded, filled, holes_of, outages_of, straightened
from mirkle.core.motion.geodesy import local_metres, map_middle
from mirkle.core.motion.headings import motion_from_headings, smooth_speed
from mirkle.core.motion.positions import STEP_ROUNDS, motion_from_positions
from mirkle.core.motion.states import Motion, Positions
from mirkle.core.recording.model import Channel, Floats, Recording

# The tie of dead reckoning to the positions: its step; what a receiver is out by from fix to fix, how that wanders in a
# second (Student's tails: under trees it steps by metres and stays), and how long it remembers.
TIE_STEP_S = 0.5
# Positions that come less often are about one a second.
ABOUT_ONE_HZ = 2.0
# The grid (s): fine where something was measured so often (Hz), coarse elsewhere.
FINE_S, COARSE_S, OFTEN_HZ = 0.05, 0.1, 7.0
# How far a receiver is believed to be out by what it says of itself (m), and where it says nothing. # common practice
SAID_OUT_M, OUT_M = (0.5, 30.0), 2.0
# Below this speed positions say nothing of it (m/s); a channel that was read so near to a moment was read there (s).
TELLS_SPEED_MPS, JUST_THERE_S = 2.0, 1.5
WHITE_M, DRIFT_M, DRIFT_OVER_S = 0.3, 0.25, 40.0
# How far the reckoning goes astray in a second: with Doppler speed and course, without one of them, without any speed.
ASTRAY_M, ASTRAY_ROUGH_M, ASTRAY_BLIND_M = 0.15, 0.6, 2.0


@dataclass(frozen=True)
class DrivenLine:
    """The driven line on a time grid of ``n`` nodes; all arrays (n,).

    ``distance_m`` grows from 0 at the first node; ``heading_rad`` is anticlockwise from east and unwrapped;
    ``curvature_per_m`` is positive to the left, with its standard deviation in ``curvature_sd_per_m``.
    ``forward_mps2`` and ``lateral_mps2`` (left) are of the path, from the smoothed speed and heading. ``slip_rad`` is how
    far the body points to the left of the path, nan where no yaw rate was recorded. ``middle_deg`` is the latitude and
    longitude that east and north are measured from, ``None`` where no position was recorded. In ``holes`` the line is drawn
    straight and nothing is known of its shape. ``heading_draws`` (n, draws) are samples of what the heading may have been,
    about the best; ``None`` where there are none. ``slip_sd_rad`` is the standard deviation of the sideslip.
    """

    time_s: Floats
    distance_m: Floats
    east_m: Floats
    north_m: Floats
    height_m: Floats
    speed_mps: Floats
    heading_rad: Floats
    curvature_per_m: Floats
    curvature_sd_per_m: Floats
    forward_mps2: Floats
    lateral_mps2: Floats
    slip_rad: Floats
    sources: tuple[str, ...]
    doubts: tuple[Message, ...] = ()
    middle_deg: tuple[float, float] | None = None
    holes: tuple[PositionGap, ...] = ()
    heading_draws: Floats | None = None
    slip_sd_rad: Floats | None = None

    def at_distance(self, values: Floats, distance_m: Floats) -> Floats:
        """``values`` (n,) read at the given distances (m,) by straight lines."""
        return np.interp(distance_m, self.distance_m, values)

    def time_at(self, distance_m: float) -> float:
        """Seconds on the recording's clock at a distance; where the car stood there, when it left."""
        after = int(np.searchsorted(self.distance_m, distance_m, side="right"))
        a, b = max(0, after - 1), min(after, len(self.distance_m) - 1)
        span = self.distance_m[b] - self.distance_m[a]
        share = (distance_m - self.distance_m[a]) / span if span > 0 else 0.0
        return float(self.time_s[a] + np.clip(share, 0, 1) * (self.time_s[b] - self.time_s[a]))


def smooth_path(recording: Recording) -> DrivenLine:
    """The driven line of a mended recording (see :func:`mirkle.core.recording.model.repair_times`)."""
    grid_s = _grid(recording)
    holes = holes_of(recording)
    positions = _positions(recording)
    if positions is not None:
        positions = filled(positions, holes)
    directed = recording.has("course_rad", "speed_mps") or recording.has("yaw_rate_radps", "speed_mps")
    if directed:
        speed = smooth_speed(recording, grid_s)
        motion = motion_from_headings(recording, grid_s, speed, positions)
    else:
        assert positions is not None  # mended() lets nothing else through
        motion = motion_from_positions(recording, positions, grid_s)
    if positions is not None:
        motion = straightened(motion, positions, holes, grid_s)
    step_s = grid_s[1] - grid_s[0]
    east, north, speed = bounded(holes, grid_s, *_place(motion, positions, grid_s, recording))
    distance = np.concatenate([[0.0], np.cumsum(0.5 * (speed[1:] + speed[:-1]) * step_s)])
    rate = np.gradient(motion.heading_rad, step_s)
    safe = np.maximum(speed, 1.0)
    rate_sd = np.gradient(motion.heading_draws, step_s, axis=0).std(axis=1) if motion.heading_draws.shape[1] else np.zeros_like(rate)
    moving = speed > 1.0
    return DrivenLine(
        time_s=grid_s,
        distance_m=distance,
        east_m=east,
        north_m=north,
        height_m=_height(recording, grid_s),
        speed_mps=speed,
        heading_rad=motion.heading_rad,
        curvature_per_m=np.where(moving, rate / safe, 0.0),
        curvature_sd_per_m=_evened(rate_sd, 5) / safe,
        forward_mps2=np.gradient(speed, step_s),
        lateral_mps2=speed * rate,
        slip_rad=motion.slip_rad,
        sources=_sources(recording, directed=directed),
        doubts=_doubts(recording),
        middle_deg=_middle_deg(recording),
        holes=holes,
        heading_draws=motion.heading_draws if motion.heading_draws.shape[1] else None,
        slip_sd_rad=motion.slip_sd_rad,
    )


def _middle_deg(recording: Recording) -> tuple[float, float] | None:
    if not recording.has("lat_rad", "lon_rad"):
        return None
    return map_middle(recording.channels["lat_rad"].value, recording.channels["lon_rad"].value)


def _sources(recording: Recording, *, directed: bool) -> tuple[str, ...]:
    used = [
        ("position", recording.has("lat_rad", "lon_rad")),
        ("Doppler speed", recording.has("speed_mps")),
        ("wheel speed", directed and recording.has("wheel_speed_mps")),
        ("course", directed and recording.has("course_rad")),
        ("yaw rate", directed and recording.has("yaw_rate_radps")),
        ("acceleration", directed and recording.has("acc_y_mps2")),
    ]
    return tuple(name for name, there in used if there)


def _doubts(recording: Recording) -> tuple[Message, ...]:
    """What was already doubted of a recording, and where its positions leave a gap."""
    if not recording.has("lat_rad"):
        return recording.doubts
    unknown = holes_of(recording)
    lost = {hole.from_s for hole in unknown}
    bridged = [to_s - from_s for from_s, to_s in outages_of(recording) if from_s not in lost]
    doubts = [*recording.doubts, *_bridged_words(bridged), *_unknown_words([hole.seconds for hole in unknown])]
    if not recording.has("speed_mps") and recording.channels["lat_rad"].rate_hz < ABOUT_ONE_HZ:
        doubts.append(message("Only positions, about one a second: bends are blurred, so most findings are checks only."))
    return tuple(doubts)


def _bridged_words(seconds: Sequence[float]) -> Iterator[Message]:
    if seconds:
        yield counted(
            "Positions are missing once, for {1:.0f} s. The line there is a guess.",
            "Positions are missing {0} times, for up to {1:.0f} s. The line there is a guess.",
            len(seconds),
            max(seconds),
        )


def _unknown_words(seconds: Sequence[float]) -> Iterator[Message]:
    if seconds:
        yield counted(
            "Positions are missing for {1:.0f} s. That part was not measured, and nothing is said about it.",
            "Positions are missing {0} times, for up to {1:.0f} s. Those parts were not measured, and nothing is said about them.",
            len(seconds),
            max(seconds),
        )


def _grid(recording: Recording) -> Floats:
    main = recording.channels["lat_rad" if recording.has("lat_rad") else "speed_mps"]
    first, last = float(main.time_s[0]), float(main.time_s[-1])
    fine = recording.has("yaw_rate_radps", "speed_mps") or (recording.has("course_rad") and main.rate_hz > OFTEN_HZ)
    step_s = FINE_S if fine else COARSE_S
    return np.asarray(first + step_s * np.arange(int((last - first) / step_s) + 1), dtype=float)


def _positions(recording: Recording) -> Positions | None:
    """Time, east, north and standard deviation, each (m,); None where there is no position."""
    if not recording.has("lat_rad", "lon_rad"):
        return None
    lat, lon = recording.channels["lat_rad"], recording.channels["lon_rad"]
    lon_rad = lon.value if len(lon.time_s) == len(lat.time_s) else np.interp(lat.time_s, lon.time_s, lon.value)
    east, north = local_metres(lat.value, lon_rad)
    if recording.has("hacc_m"):
        hacc = recording.channels["hacc_m"]
        sigma = np.clip(np.interp(lat.time_s, hacc.time_s, hacc.value), *SAID_OUT_M)
    else:
        sigma = np.full(len(east), OUT_M)
    return lat.time_s, east, north, sigma


def _place(motion: Motion, positions: Positions | None, grid_s: Floats, recording: Recording) -> tuple[Floats, Floats, Floats]:
    """East and north tied to the positions, and the speed with the tie's part along the path in it; each (n,)."""
    step_s = grid_s[1] - grid_s[0]
    ahead = np.cos(motion.heading_rad), np.sin(motion.heading_rad)
    reckoned = [
        np.concatenate([[0.0], np.cumsum(0.5 * ((motion.speed_mps * a)[1:] + (motion.speed_mps * a)[:-1]))]) * step_s for a in ahead
    ]
    if positions is None:
        return reckoned[0], reckoned[1], motion.speed_mps
    time_s, east, north, sigma = positions
    tie_s = np.arange(grid_s[0], grid_s[-1] + TIE_STEP_S, TIE_STEP_S)
    nodes = 2 * np.arange(len(tie_s))
    astray = _astray(recording, tie_s[:-1] + 0.5 * TIE_STEP_S) * np.sqrt(TIE_STEP_S)
    ties = []
    for axis, track in ((east, reckoned[0]), (north, reckoned[1])):
        problem = BandedProblem(2 * len(tie_s))  # what the reckoning is out by, and what the receiver is
        node, share = between(time_s, tie_s)
        seen_by = np.stack([share[:, 0], share[:, 0], share[:, 1], share[:, 1]], axis=1)
        met = axis - np.interp(time_s, grid_s, track)
        problem.add(2 * node, (0, 1, 2, 3), seen_by, met, sigma=WHITE_M, robust=True)
        problem.add(nodes[:-1], (0, 2), difference_weights(1), 0.0, sigma=astray)
        problem.add_white(nodes + 1, 1, DRIFT_M, TIE_STEP_S, robust=True)
        spread = np.interp(tie_s, time_s, sigma) * np.sqrt(DRIFT_OVER_S / TIE_STEP_S)
        problem.add(nodes + 1, (0,), [1.0], 0.0, sigma=spread, robust=True)
        ties.append(np.interp(grid_s, tie_s, problem.solve(robust_rounds=STEP_ROUNDS)[0][0::2]))
    along = sum(np.gradient(tie, step_s) * a for tie, a in zip(ties, ahead, strict=True))
    speed = motion.speed_mps + np.where(motion.speed_mps > TELLS_SPEED_MPS, along, 0.0)
    return reckoned[0] + ties[0], reckoned[1] + ties[1], np.maximum(speed, 0.0)


def _astray(recording: Recording, at_s: Floats) -> Floats:
    """How far the reckoning may go astray in a second (m) at each moment, (n,): by what was measured just there."""
    out = np.full(len(at_s), ASTRAY_BLIND_M)
    main = recording.channels["speed_mps" if recording.has("speed_mps") else "lat_rad"]
    out[_near(main, at_s)] = ASTRAY_ROUGH_M
    wheels = recording.channels.get("wheel_speed_mps")
    if wheels is not None:
        out[_near(wheels, at_s)] = ASTRAY_ROUGH_M
    if recording.has("speed_mps", "course_rad") and main is not wheels:
        out[_near(main, at_s) & _near(recording.channels["course_rad"], at_s)] = ASTRAY_M
    return out


def _near(channel: Channel, at_s: Floats) -> NDArray[np.bool_]:
    """Whether the channel was read within a second and a half of each moment, (n,)."""
    next_one = np.searchsorted(channel.time_s, at_s).clip(1, len(channel.time_s) - 1)
    apart_s = np.minimum(np.abs(channel.time_s[next_one] - at_s), np.abs(channel.time_s[next_one - 1] - at_s))
    return np.asarray(apart_s < JUST_THERE_S)


def _height(recording: Recording, grid_s: Floats) -> Floats:
    if not recording.has("alt_m"):
        return np.full(len(grid_s), np.nan)
    alt = recording.channels["alt_m"]
    return np.interp(grid_s, alt.time_s, alt.value)


def _evened(values: Floats, half: int) -> Floats:
    """Running root mean square over ``2 * half + 1`` nodes, (n,)."""
    padded = np.pad(values**2, half, mode="edge")
    return np.asarray(np.sqrt(np.convolve(padded, np.ones(2 * half + 1) / (2 * half + 1), mode="valid")))
