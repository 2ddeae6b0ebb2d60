"""Undoing a receiver's smoothing: many give positions and a course that went through a filter, which draws every bend tighter or wider
and later than it was driven.

The filter that is looked for is the usual one: a constant velocity with white acceleration (Kalman, 1960; as in Bar-Shalom, Li and Kirubarajan,
*Estimation with Applications to Tracking and Navigation*, 2001, from memory). Its one unknown is the ratio of the acceleration's power to the variance of the
positions it was fed. For a ratio the gains follow, and from what came out what went in: with a prediction p + v·dt, the gains a and b, and
the position that was given, the innovation is what the given position is off the prediction, over a; the position that was fed is the
prediction and the innovation, and the velocity moves on by b times it. The recorder's course is that velocity's direction: the ratio under which the two agree best is
the receiver's, if they agree far better than the course agrees with the line through the given positions.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from mirkle.core.clauses import clause
from mirkle.core.motion.geodesy import degrees_of, local_metres, map_middle
from mirkle.core.motion.recording import Channel, Floats, Recording

# The ratios that are tried, in m²/s³ over m².
RATIOS = np.geomspace(0.05, 2000.0, 28)
# A course tells where the car moves and turns.
MOVING_MPS, TURNING_RADPS = 6.0, 0.08
# The course of a filter agrees with its velocity at least so much better than with the line through its positions.
FAR_BETTER, LEAST_SAMPLES, MOST_LAG = 0.5, 100, 5
LOOKED_AT, IN_COMMON = 800, 0.95
# A receiver that lost its satellites for so long begins anew.
ANEW_S = 2.0
# At one position a second nothing tells a filter from a corner that was cut.
SLOWEST_HZ, FASTEST_HZ = 2.0, 12.0


def unsmoothed(recording: Recording) -> Recording:
    """The recording with the positions that its receiver was fed and without the course that it made of them; as it is where nothing was smoothed."""
    if not recording.has("lat_rad", "lon_rad", "course_rad"):
        return recording
    lat, lon, course = (recording.channels[name] for name in ("lat_rad", "lon_rad", "course_rad"))
    time_s, at, also = np.intersect1d(lat.time_s, course.time_s, return_indices=True)
    if not SLOWEST_HZ <= lat.rate_hz <= FASTEST_HZ or len(time_s) < IN_COMMON * len(lat.time_s):
        return recording
    lat_rad, lon_rad = lat.value[at], lon.value[at]
    given = np.stack(local_metres(lat_rad, lon_rad), axis=1)
    ratio = _ratio(time_s, given, np.pi / 2 - course.value[also])
    if ratio is None:
        return recording
    fed, _ = _undone(time_s, given, np.array([ratio]))
    north, east = degrees_of(fed[:, 0, 0], fed[:, 1, 0], map_middle(lat_rad, lon_rad))
    channels = {name: channel for name, channel in recording.channels.items() if name != "course_rad"}
    channels["lat_rad"], channels["lon_rad"] = Channel(time_s, np.radians(north)), Channel(time_s, np.radians(east))
    said = clause("The receiver smoothed its positions, which draws bends out: that was undone.")
    return replace(recording, channels=channels, doubts=(*recording.doubts, said))


def _ratio(time_s: Floats, given: Floats, heading: Floats) -> float | None:
    """The receiver's ratio; ``None`` where its course does not come of such a filter."""
    step_s = np.diff(time_s)
    speed = np.hypot(*np.diff(given, axis=0).T) / np.maximum(step_s, 1e-3)
    turn = np.abs(_wrapped(np.diff(heading))) / np.maximum(step_s, 1e-3)
    tells = np.concatenate([[False], (speed > MOVING_MPS) & (turn > TURNING_RADPS)])
    if np.count_nonzero(tells) < LEAST_SAMPLES:
        return None
    # The part that tells most is enough.
    told = np.convolve(tells, np.ones(min(LOOKED_AT, len(tells))), mode="valid")
    part = slice(int(np.argmax(told)), int(np.argmax(told)) + LOOKED_AT)
    time_s, given, heading, tells = time_s[part], given[part], heading[part], tells[part]
    _, velocity = _undone(time_s, given, RATIOS)
    off = np.abs(_wrapped(np.arctan2(velocity[:, 1], velocity[:, 0]) - heading[:, None]))[tells]
    apart = np.median(off, axis=0)
    best = int(np.argmin(apart))
    chord = np.gradient(given, axis=0)
    along = np.arctan2(chord[:, 1], chord[:, 0])
    rival = min(
        float(np.median(np.abs(_wrapped(along[: len(along) - lag] - heading[lag:]))[tells[lag:]]))
        for lag in range(MOST_LAG + 1)
    )
    if apart[best] > FAR_BETTER * rival:
        return None
    if not 0 < best < len(RATIOS) - 1:
        return float(RATIOS[best])
    # The lowest point of the parabola through the three best.
    low, middle, high = apart[best - 1 : best + 2]
    shift = 0.5 * (low - high) / max(low - 2.0 * middle + high, 1e-12)
    return float(RATIOS[best] * (RATIOS[1] / RATIOS[0]) ** np.clip(shift, -0.5, 0.5))


def _undone(time_s: Floats, given: Floats, ratio: Floats) -> tuple[Floats, Floats]:
    """The positions that were fed and the velocities of the filter, for each ratio; both (n, 2, ratios)."""
    steps = np.maximum(np.diff(time_s), 1e-3)
    fed = np.repeat(given[:, :, None], len(ratio), axis=2)
    velocity = np.zeros_like(fed)
    velocity[0] = ((given[1] - given[0]) / steps[0])[:, None]
    # The covariance over the variance of a position: of place, of place with velocity, of velocity.
    place, both, speed = np.ones_like(ratio), np.zeros_like(ratio), np.full_like(ratio, 100.0)
    for k, dt in enumerate(steps, start=1):
        if dt > ANEW_S:
            place, both, speed = np.ones_like(ratio), np.zeros_like(ratio), np.full_like(ratio, 100.0)
            velocity[k] = ((given[k] - given[k - 1]) / dt)[:, None]
            continue
        place, both, speed = (
            place + 2.0 * dt * both + dt * dt * speed + ratio * dt**3 / 3.0,
            both + dt * speed + ratio * dt * dt / 2.0,
            speed + ratio * dt,
        )
        a, b = place / (place + 1.0), both / (place + 1.0)
        place, both, speed = (1.0 - a) * place, (1.0 - a) * both, speed - b * both
        predicted = given[k - 1][:, None] + velocity[k - 1] * dt
        innovation = (given[k][:, None] - predicted) / a
        fed[k] = predicted + innovation
        velocity[k] = velocity[k - 1] + b * innovation
    return fed, velocity


def _wrapped(angle: Floats) -> Floats:
    return np.asarray((angle + np.pi) % (2.0 * np.pi) - np.pi)
