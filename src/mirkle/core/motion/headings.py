"""Speed and heading of the car where a course or a yaw rate was recorded: two linear banded problems."""

from __future__ import annotations

import numpy as np

from mirkle.core.motion.banded import BandedProblem, between, difference_weights
from mirkle.core.motion.positions import CRAWL_MPS
from mirkle.core.motion.states import DOPPLER_SD_MPS, DRAWS, Motion, Positions
from mirkle.core.recording.model import Channel, Floats, Recording
from mirkle.core.stats import robust_sd

# White third difference of heading: a quick driver turns the wheel so that the heading rate's rate changes by
# several rad/s3 within a tenth of a second; the figure is the square root of its spectral density.
HEADING_JERK = 1.5
# Chords between positions so far apart stand in for a course; each end is out by so much against the other.
CHORD_S, CHORD_END_M = 1.0, 0.3
# What a wheel's speed is out by on a loose road. # common practice
WHEEL_SD_MPS = 0.8


def smooth_speed(recording: Recording, grid_s: Floats) -> Floats:
    n, step_s = len(grid_s), grid_s[1] - grid_s[0]
    problem = BandedProblem(2 * n)  # speed, error of the forward acceleration
    nodes = 2 * np.arange(n)
    doppler = recording.channels["speed_mps"]
    node, share = between(doppler.time_s, grid_s)
    problem.add(2 * node, (0, 2), share, doppler.value, sigma=DOPPLER_SD_MPS, robust=True)
    if recording.has("wheel_speed_mps"):
        # Wheels spin and lock: next to a Doppler speed they say little, and where there is none they are what there is.
        mean, count = _binned(recording.channels["wheel_speed_mps"], grid_s)
        there = np.flatnonzero(count)
        problem.add(2 * there, (0, 2), [0.5, 0.5], mean[there], sigma=WHEEL_SD_MPS, robust=True)
    if recording.has("acc_x_mps2"):
        mean, count = _binned(recording.channels["acc_x_mps2"], grid_s)
        there = np.flatnonzero(count)
        problem.add(
            2 * there,
            (0, 1, 2),
            [-1 / step_s, 1.0, 1 / step_s],
            mean[there],
            sigma=_noise(mean[there], count[there], least=1.2),
            robust=True,
        )
    # Slope, mounting and the filter's lag: the forward error wanders by about 1 m/s2 in a few seconds.
    problem.add(nodes[:-1] + 1, (0, 2), difference_weights(1), 0.0, sigma=0.8 * np.sqrt(step_s))
    problem.add(nodes + 1, (0,), [1.0], 0.0, sigma=2.0)
    problem.add(nodes[:-2], (0, 2, 4), difference_weights(2), 0.0, sigma=8.0 * step_s**1.5)
    best, _ = problem.solve(robust_rounds=2)
    return np.maximum(best[0::2], 0.0)


def motion_from_headings(recording: Recording, grid_s: Floats, speed: Floats, positions: Positions | None) -> Motion:
    n, step_s = len(grid_s), grid_s[1] - grid_s[0]
    states = 4  # heading, sideslip, yaw rate bias, camber error of the lateral acceleration
    problem = BandedProblem(states * n)
    nodes = states * np.arange(n)
    turned = np.zeros(n)
    if recording.has("yaw_rate_radps"):
        rate, count = _binned(recording.channels["yaw_rate_radps"], grid_s)
        there = np.flatnonzero(count)
        problem.add(
            nodes[there],
            (0, 1, 2, states, states + 1),
            [-1 / step_s, -1 / step_s, 1.0, 1 / step_s, 1 / step_s],
            rate[there],
            sigma=_noise(rate[there], count[there], least=0.06),
            robust=True,
        )
        filled = np.interp(np.arange(n - 1), there, rate[there]) if len(there) else rate
        turned = np.concatenate([[0.0], np.cumsum(filled - _standing_bias(filled, speed)) * step_s])
    course = _course(recording, positions, grid_s, speed)
    if course is not None:
        time_s, heading, sigma = course
        node, share = between(time_s, grid_s)
        heading = _unwrapped(heading, np.interp(time_s, grid_s, turned))
        problem.add(states * node, (0, states), share, heading, sigma=sigma, robust=True)
    else:
        problem.add(nodes[:1], (0,), [1.0], 0.0, sigma=0.01)
    if recording.has("acc_y_mps2"):
        lateral, count = _binned(recording.channels["acc_y_mps2"], grid_s)
        there = np.flatnonzero(count)
        middle = 0.5 * (speed[:-1] + speed[1:])[there] / step_s
        problem.add(
            nodes[there],
            (0, 3, states),
            np.stack([-middle, np.ones(len(there)), middle], axis=1),
            lateral[there],
            sigma=_noise(lateral[there], count[there], least=1.0),
            robust=True,
        )
    # Standing still, the heading does not move: that fixes the bias of the yaw rate.
    still = np.flatnonzero(np.maximum(speed[:-1], speed[1:]) < 0.3)
    problem.add(nodes[still], (0, states), difference_weights(1), 0.0, sigma=1e-4)
    problem.add(nodes[:-3], (0, states, 2 * states, 3 * states), difference_weights(3), 0.0, sigma=HEADING_JERK * step_s**2.5)
    # Sideslip dies out within a second or so; a fifth of a radian happens on gravel. # common practice
    keep = float(np.exp(-step_s / 1.0))
    problem.add(nodes[:-1] + 1, (0, states), [-keep, 1.0], 0.0, sigma=0.2 * np.sqrt(1 - keep**2))
    problem.add(nodes + 1, (0,), [1.0], 0.0, sigma=0.2 * 10)
    problem.add(nodes[:-1] + 2, (0, states), difference_weights(1), 0.0, sigma=8e-4 * np.sqrt(step_s))
    problem.add(nodes[:1] + 2, (0,), [1.0], 0.0, sigma=0.05)
    problem.add(nodes[:-1] + 3, (0, states), difference_weights(1), 0.0, sigma=0.7 * np.sqrt(step_s))
    problem.add(nodes + 3, (0,), [1.0], 0.0, sigma=2.0)
    best, draws = problem.solve(robust_rounds=2, draws=DRAWS)
    slip = best[1::states] if recording.has("yaw_rate_radps") else np.full(n, np.nan)
    slip_sd = draws[1::states].std(axis=1) if recording.has("yaw_rate_radps") else None
    return Motion(speed, best[0::states], draws[0::states], slip, slip_sd)


def _course(recording: Recording, positions: Positions | None, grid_s: Floats, speed: Floats) -> tuple[Floats, Floats, Floats] | None:
    """Times, headings and their standard deviations where the car moves, each (m,); ``None`` with nothing to go by.

    From the recorder's course, which rests on Doppler; without one from the chords between positions.
    """
    if recording.has("course_rad"):
        course = recording.channels["course_rad"]
        moving = np.interp(course.time_s, grid_s, speed) > 3.0
        time_s = course.time_s[moving]
        sigma = np.hypot(0.12 / np.interp(time_s, grid_s, speed), 0.003)
        return time_s, np.pi / 2 - course.value[moving], sigma
    if positions is None:
        return None
    at, east, north, _ = positions
    interval_s = max(float(np.median(np.diff(at))), 1e-3)
    apart = max(1, round(CHORD_S / interval_s))
    first, last = np.arange(len(at) - apart), np.arange(apart, len(at))
    along_east, along_north = east[last] - east[first], north[last] - north[first]
    chord_m = np.hypot(along_east, along_north)
    whole = (chord_m > CRAWL_MPS * CHORD_S) & (at[last] - at[first] < 1.5 * apart * interval_s)
    # Neighbouring chords share their ends, so each of them counts for less.
    sigma = np.sqrt(apart) * np.hypot(CHORD_END_M * 1.5 / np.maximum(chord_m, 1.0), 0.02)
    middle_s = 0.5 * (at[first] + at[last])
    return middle_s[whole], np.arctan2(along_north, along_east)[whole], sigma[whole]


def _binned(channel: Channel, grid_s: Floats) -> tuple[Floats, Floats]:
    """Mean of a channel in each grid interval and how many samples it rests on, both (n - 1,)."""
    step_s = grid_s[1] - grid_s[0]
    at = np.floor((channel.time_s - grid_s[0]) / step_s).astype(np.intp)
    inside = (at >= 0) & (at < len(grid_s) - 1)
    count = np.bincount(at[inside], minlength=len(grid_s) - 1).astype(float)
    total = np.bincount(at[inside], weights=channel.value[inside], minlength=len(grid_s) - 1)
    return total / np.maximum(count, 1.0), count


def _noise(mean: Floats, count: Floats, *, least: float) -> Floats:
    """The standard deviation of each interval's mean: a sample's own noise, by how the means differ from one to the next.

    From one interval to the next a car's motion hardly changes; what differs is shake. ``least`` is what the sensor
    itself is out by, for one sample. (n,)
    """
    if len(mean) < 20:
        return np.asarray(least / np.sqrt(count), dtype=float)
    shaken = robust_sd(np.diff(mean), 0.0) / np.sqrt(2.0) * np.sqrt(float(np.median(count)))
    return np.asarray(max(least, shaken) / np.sqrt(count), dtype=float)


def _standing_bias(rate: Floats, speed: Floats) -> float:
    still = speed[:-1] < 0.3
    return float(np.median(rate[still])) if np.count_nonzero(still) > 20 else 0.0


def _unwrapped(heading: Floats, turned: Floats) -> Floats:
    """Headings with whole turns added so that each step is the one nearest to what the yaw rate turned meanwhile."""
    step = np.diff(heading) - np.diff(turned)
    step = (step + np.pi) % (2 * np.pi) - np.pi + np.diff(turned)
    return np.asarray(heading[0] + np.concatenate([[0.0], np.cumsum(step)]))
