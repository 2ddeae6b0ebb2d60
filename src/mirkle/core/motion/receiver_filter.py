"""Undoing a receiver's smoothing: many give positions and a course that went through a filter, which draws every bend tighter or wider
and later than it was driven.

The filters that are looked for are the two usual ones: a constant velocity with white acceleration, and a constant acceleration with white
jerk (Kalman, 1960; as in Bar-Shalom, Li and Kirubarajan, *Estimation with Applications to Tracking and Navigation*, 2001, from memory). The
one unknown of each is the ratio of that noise's power to the variance of the positions it was fed. For a ratio the gains follow, and from
what came out what went in: with the state carried on over a step, x = F x, and the gains k, the innovation is what the given position is
off the carried one, over k's first; the position that was fed is the carried one and the innovation, and the state moves on by k times it.
The recorder's course is the direction of that state's velocity: the filter and the ratio under which the two agree best are the receiver's,
if they agree far better than the course agrees with the line through the given positions.
"""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from math import factorial

import numpy as np
from numpy.typing import NDArray

from mirkle.core.constants import LEAST_STEP_S
from mirkle.core.messages import message
from mirkle.core.motion.geodesy import degrees_of, local_metres, map_middle
from mirkle.core.recording.model import Channel, Floats, Recording

# The ratios that are tried, by how many of place, velocity and acceleration the filter holds: in m²/s³ or m²/s⁵ over m².
RATIOS = {2: np.geomspace(0.05, 2000.0, 28), 3: np.geomspace(0.05, 20_000.0, 34)}
# How little is known of a velocity and an acceleration at first, in variances of a position.
UNKNOWN = 100.0
# A course tells where the car moves and turns.
MOVING_MPS, TURNING_RADPS = 6.0, 0.08
# The error of the course that the filter explains has to be under this share of the error of chords; the fewest samples; the largest lag
# of a chord (samples).
FAR_BETTER, LEAST_SAMPLES, MOST_LAG = 0.5, 100, 5
LOOKED_AT, IN_COMMON = 800, 0.95
# A receiver that lost its satellites for this long begins anew (s).
ANEW_S = 2.0
# At one position a second nothing tells a filter from a corner that was cut.
SLOWEST_HZ, FASTEST_HZ = 2.0, 12.0


def unsmoothed(recording: Recording) -> Recording:
    """The recording with the positions that its receiver was fed and without the course that it made of them; as it is where nothing was
    smoothed."""
    if not recording.has("lat_rad", "lon_rad", "course_rad"):
        return recording
    lat, lon, course = (recording.channels[name] for name in ("lat_rad", "lon_rad", "course_rad"))
    time_s, at, also = np.intersect1d(lat.time_s, course.time_s, return_indices=True)
    if not SLOWEST_HZ <= lat.rate_hz <= FASTEST_HZ or len(time_s) < IN_COMMON * len(lat.time_s):
        return recording
    lat_rad, lon_rad = lat.value[at], lon.value[at]
    given = np.stack(local_metres(lat_rad, lon_rad), axis=1)
    found = _filter(time_s, given, np.pi / 2 - course.value[also])
    if found is None:
        return recording
    order, ratio = found
    fed, _ = _undone(time_s, given, np.array([ratio]), order)
    north, east = degrees_of(fed[:, 0, 0], fed[:, 1, 0], map_middle(lat_rad, lon_rad))
    channels = {name: channel for name, channel in recording.channels.items() if name != "course_rad"}
    channels["lat_rad"], channels["lon_rad"] = Channel(time_s, np.radians(north)), Channel(time_s, np.radians(east))
    said = message("The receiver smoothed its positions, which makes bends look wider. Mirkle has undone that.")
    return replace(recording, channels=channels, doubts=(*recording.doubts, said))


def _filter(time_s: Floats, given: Floats, heading: Floats) -> tuple[int, float] | None:
    """How many of place, velocity and acceleration the receiver's filter holds, and its ratio; ``None`` where its course comes of
    neither."""
    step_s = np.diff(time_s)
    speed = np.hypot(*np.diff(given, axis=0).T) / np.maximum(step_s, LEAST_STEP_S)
    turn = np.abs(_wrapped(np.diff(heading))) / np.maximum(step_s, LEAST_STEP_S)
    tells = np.concatenate([[False], (speed > MOVING_MPS) & (turn > TURNING_RADPS)])
    if np.count_nonzero(tells) < LEAST_SAMPLES:
        return None
    # The part that tells most is enough.
    telling = np.convolve(tells, np.ones(min(LOOKED_AT, len(tells))), mode="valid")
    part = slice(int(np.argmax(telling)), int(np.argmax(telling)) + LOOKED_AT)
    time_s, given, heading, tells = time_s[part], given[part], heading[part], tells[part]
    apart = {order: _apart(time_s, given, heading, tells, order) for order in RATIOS}
    order = min(apart, key=lambda of: float(apart[of].min()))
    best = int(np.argmin(apart[order]))
    chord = np.gradient(given, axis=0)
    along = np.arctan2(chord[:, 1], chord[:, 0])
    rival = min(float(np.median(np.abs(_wrapped(along[: len(along) - lag] - heading[lag:]))[tells[lag:]])) for lag in range(MOST_LAG + 1))
    if apart[order][best] > FAR_BETTER * rival:
        return None
    ratios = RATIOS[order]
    if not 0 < best < len(ratios) - 1:
        return order, float(ratios[best])
    # The lowest point of the parabola through the three best.
    low, middle, high = apart[order][best - 1 : best + 2]
    shift = 0.5 * (low - high) / max(low - 2.0 * middle + high, 1e-12)
    return order, float(ratios[best] * (ratios[1] / ratios[0]) ** np.clip(shift, -0.5, 0.5))


def _apart(time_s: Floats, given: Floats, heading: Floats, tells: NDArray[np.bool_], order: int) -> Floats:
    """By how much the course is off the velocity of each filter of one kind, half of the time, (ratios,)."""
    _, velocity = _undone(time_s, given, RATIOS[order], order)
    off = np.abs(_wrapped(np.arctan2(velocity[:, 1], velocity[:, 0]) - heading[:, None]))[tells]
    return np.asarray(np.median(off, axis=0))


def _undone(time_s: Floats, given: Floats, ratio: Floats, order: int) -> tuple[Floats, Floats]:
    """The positions that were fed and the velocities of the filter, for each ratio; both (n, 2, ratios)."""
    steps = np.maximum(np.diff(time_s), LEAST_STEP_S)
    fed = np.repeat(given[:, :, None], len(ratio), axis=2)
    velocity = np.zeros_like(fed)

    def begun(k: int) -> tuple[Floats, Floats]:
        """The state (order, 2, ratios) and its covariance over the variance of a position, (ratios, order, order)."""
        state = np.zeros((order, 2, len(ratio)))
        state[0], state[1] = given[k][:, None], ((given[k] - given[k - 1]) / steps[k - 1])[:, None]
        velocity[k] = state[1]
        return state, np.repeat(np.diag([1.0, *[UNKNOWN] * (order - 1)])[None], len(ratio), axis=0)

    state, spread = begun(1)
    velocity[0] = velocity[1]
    for k, dt in enumerate(steps[1:], start=2):
        if dt > ANEW_S:
            state, spread = begun(k)
            continue
        carries, noise = _carried(dt, order)
        state = np.tensordot(carries, state, axes=1)
        spread = carries @ spread @ carries.T + ratio[:, None, None] * noise
        gain = spread[:, :, 0] / (spread[:, :1, 0] + 1.0)
        spread = spread - gain[:, :, None] * spread[:, :1, :]
        innovation = (given[k][:, None] - state[0]) / gain[:, 0]
        fed[k] = state[0] + innovation
        state = state + gain.T[:, None, :] * innovation
        velocity[k] = state[1]
    return fed, velocity


@lru_cache(maxsize=64)
def _carried(dt: float, order: int) -> tuple[Floats, Floats]:
    """What carries a state on over a step of ``dt`` seconds, and the covariance that white noise of unit power adds, both (order,
    order)."""
    powers = dt ** np.arange(order)
    carries = np.array([[powers[j - i] / factorial(j - i) if j >= i else 0.0 for j in range(order)] for i in range(order)])
    # The last state is the integral of the noise: each column of what carries it on, integrated with the others over the step.
    rest = order - 1 - np.arange(order)
    scale = np.array([1.0 / factorial(int(n)) for n in rest])
    together = rest[:, None] + rest[None, :] + 1
    return carries, np.outer(scale, scale) * dt**together / together


def _wrapped(angle: Floats) -> Floats:
    return np.asarray((angle + np.pi) % (2.0 * np.pi) - np.pi)
