"""Speed and heading of the car where a course or a yaw rate was recorded: two linear banded problems."""

from __future__ import annotations

import numpy as np

from mirkle.core.constants import LEAST_STEP_S
from mirkle.core.motion.banded import BandedProblem, between, difference_weights
from mirkle.core.motion.positions import CRAWL_MPS
from mirkle.core.motion.states import DOPPLER_SD_MPS, DRAWS, Motion, Positions
from mirkle.core.recording.model import Channel, Floats, Recording
from mirkle.core.stats import robust_sd

# White third difference of heading: a quick driver turns the wheel so that the heading rate's rate changes by
# several rad/s3 within a tenth of a second; the figure is the square root of its spectral density.
HEADING_JERK = 1.5
# Chords between positions this far apart (s) stand in for a course; standard deviation of each end (m).
CHORD_S, CHORD_END_M = 1.0, 0.45
# What a wheel's speed is out by on a loose road. # common practice
WHEEL_SD_MPS = 0.8
# What a sample is out by at least: of the forward and the lateral acceleration, m/s2, and of the yaw rate, rad/s. # from memory
FORWARD_SD_MPS2, LATERAL_SD_MPS2, YAW_SD_RADPS = 1.2, 1.0, 0.06
# Slope, mounting and the filter's lag: how fast the forward error wanders (m/s² in a second), and its standard deviation (m/s²).
FORWARD_WANDERS_MPS2, FORWARD_WITHIN_MPS2 = 0.8, 2.0
# White second difference of the speed, m/s2 per root second: brakes and grip come and go within a few tenths.
SPEED_ROUGHNESS = 8.0
# The unknowns of a moment in their order: heading, sideslip, error of the yaw rate, and of the lateral acceleration by the camber.
STATES, SLIP, YAW_BIAS, CAMBER = 4, 1, 2, 3
# Sideslip dies out within a second or so; a fifth of a radian happens on gravel. # common practice
SLIP_LASTS_S, SLIP_SD_RAD, SLIP_WITHIN = 1.0, 0.2, 10
# How the errors wander in a second and where they stay: a yaw rate's, rad/s, and a camber's, m/s2. # from memory
YAW_WANDERS, YAW_WITHIN, CAMBER_WANDERS, CAMBER_WITHIN = 8e-4, 0.05, 0.7, 2.0
# Under this speed (m/s) the car stands, and its heading is constant to this (rad): that fixes the bias of the yaw rate.
STANDS_MPS, STANDS_RAD = 0.3, 1e-4
# Where nothing tells the heading it begins with nought, give or take this, rad.
BEGINS_RAD = 0.01
# A Doppler course counts above this speed (m/s); its error is the speed error across (m/s) over the speed, plus a constant (rad).
COURSE_ABOVE_MPS, COURSE_SD_MPS, COURSE_SD_RAD = 3.0, 0.12, 0.003
# A chord spans no missing position where it lasts at most this many times its own length; its error besides the ends (rad).
WHOLE, CHORD_SD_RAD = 1.5, 0.02
# Fewer samples tell no noise and no bias.
LEAST_SAMPLES = 20


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
            sigma=_noise(mean[there], count[there], least=FORWARD_SD_MPS2),
            robust=True,
        )
    problem.add_white(nodes + 1, 1, FORWARD_WANDERS_MPS2, step_s)
    problem.add_bound(nodes + 1, FORWARD_WITHIN_MPS2)
    problem.add_white(nodes, 2, SPEED_ROUGHNESS, step_s)
    best, _ = problem.solve(robust_rounds=2)
    return np.maximum(best[0::2], 0.0)


def motion_from_headings(recording: Recording, grid_s: Floats, speed: Floats, positions: Positions | None) -> Motion:
    n, step_s = len(grid_s), grid_s[1] - grid_s[0]
    problem = BandedProblem(STATES * n)
    nodes = STATES * np.arange(n)
    turned = np.zeros(n)
    if recording.has("yaw_rate_radps"):
        rate, count = _binned(recording.channels["yaw_rate_radps"], grid_s)
        there = np.flatnonzero(count)
        problem.add(
            nodes[there],
            (0, SLIP, YAW_BIAS, STATES, STATES + SLIP),
            [-1 / step_s, -1 / step_s, 1.0, 1 / step_s, 1 / step_s],
            rate[there],
            sigma=_noise(rate[there], count[there], least=YAW_SD_RADPS),
            robust=True,
        )
        filled = np.interp(np.arange(n - 1), there, rate[there]) if len(there) else rate
        turned = np.concatenate([[0.0], np.cumsum(filled - _standing_bias(filled, speed)) * step_s])
    course = _course(recording, positions, grid_s, speed)
    if course is not None:
        time_s, heading, sigma = course
        node, share = between(time_s, grid_s)
        heading = _unwrapped(heading, np.interp(time_s, grid_s, turned))
        problem.add(STATES * node, (0, STATES), share, heading, sigma=sigma, robust=True)
    else:
        problem.add_bound(nodes[:1], BEGINS_RAD)
    if recording.has("acc_y_mps2"):
        lateral, count = _binned(recording.channels["acc_y_mps2"], grid_s)
        there = np.flatnonzero(count)
        middle = 0.5 * (speed[:-1] + speed[1:])[there] / step_s
        problem.add(
            nodes[there],
            (0, CAMBER, STATES),
            np.stack([-middle, np.ones(len(there)), middle], axis=1),
            lateral[there],
            sigma=_noise(lateral[there], count[there], least=LATERAL_SD_MPS2),
            robust=True,
        )
    still = np.flatnonzero(np.maximum(speed[:-1], speed[1:]) < STANDS_MPS)
    problem.add(nodes[still], (0, STATES), difference_weights(1), 0.0, sigma=STANDS_RAD)
    problem.add_white(nodes, 3, HEADING_JERK, step_s)
    # Sideslip is a first-order Gauss-Markov process: what is kept of it in a step, and what comes to it so that its spread stays.
    keep = float(np.exp(-step_s / SLIP_LASTS_S))
    problem.add(nodes[:-1] + SLIP, (0, STATES), [-keep, 1.0], 0.0, sigma=SLIP_SD_RAD * np.sqrt(1 - keep**2))
    problem.add_bound(nodes + SLIP, SLIP_SD_RAD * SLIP_WITHIN)
    problem.add_white(nodes + YAW_BIAS, 1, YAW_WANDERS, step_s)
    problem.add_bound(nodes[:1] + YAW_BIAS, YAW_WITHIN)
    problem.add_white(nodes + CAMBER, 1, CAMBER_WANDERS, step_s)
    problem.add_bound(nodes + CAMBER, CAMBER_WITHIN)
    best, draws = problem.solve(robust_rounds=2, draws=DRAWS)
    slip = best[SLIP::STATES] if recording.has("yaw_rate_radps") else np.full(n, np.nan)
    slip_sd = draws[SLIP::STATES].std(axis=1) if recording.has("yaw_rate_radps") else None
    # A copy, so that the samples of the other unknowns are not held with these.
    return Motion(speed, best[::STATES], draws[::STATES].copy(), slip, slip_sd)


def _course(recording: Recording, positions: Positions | None, grid_s: Floats, speed: Floats) -> tuple[Floats, Floats, Floats] | None:
    """Times, headings and their standard deviations where the car moves, each (m,); ``None`` with nothing to go by.

    From the recorder's course, which rests on Doppler; without one from the chords between positions.
    """
    if recording.has("course_rad"):
        course = recording.channels["course_rad"]
        moving = np.interp(course.time_s, grid_s, speed) > COURSE_ABOVE_MPS
        time_s = course.time_s[moving]
        sigma = np.hypot(COURSE_SD_MPS / np.interp(time_s, grid_s, speed), COURSE_SD_RAD)
        return time_s, np.pi / 2 - course.value[moving], sigma
    if positions is None:
        return None
    at, east, north, _ = positions
    interval_s = max(float(np.median(np.diff(at))), LEAST_STEP_S)
    apart = max(1, round(CHORD_S / interval_s))
    first, last = np.arange(len(at) - apart), np.arange(apart, len(at))
    along_east, along_north = east[last] - east[first], north[last] - north[first]
    chord_m = np.hypot(along_east, along_north)
    whole = (chord_m > CRAWL_MPS * CHORD_S) & (at[last] - at[first] < WHOLE * apart * interval_s)
    # Neighbouring chords share their ends, so each of them counts for less.
    sigma = np.sqrt(apart) * np.hypot(CHORD_END_M / np.maximum(chord_m, 1.0), CHORD_SD_RAD)
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
    if len(mean) < LEAST_SAMPLES:
        return np.asarray(least / np.sqrt(count), dtype=float)
    shaken = robust_sd(np.diff(mean), 0.0) / np.sqrt(2.0) * np.sqrt(float(np.median(count)))
    return np.asarray(max(least, shaken) / np.sqrt(count), dtype=float)


def _standing_bias(rate: Floats, speed: Floats) -> float:
    still = speed[:-1] < STANDS_MPS
    return float(np.median(rate[still])) if np.count_nonzero(still) > LEAST_SAMPLES else 0.0


def _unwrapped(heading: Floats, turned: Floats) -> Floats:
    """Headings with whole turns added so that each step is the one nearest to what the yaw rate turned meanwhile."""
    step = np.diff(heading) - np.diff(turned)
    step = (step + np.pi) % (2 * np.pi) - np.pi + np.diff(turned)
    return np.asarray(heading[0] + np.concatenate([[0.0], np.cumsum(step)]))
