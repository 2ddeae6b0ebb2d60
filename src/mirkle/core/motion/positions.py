"""The motion behind positions alone: the car goes where it points, and it is steered smoothly.

Far apart, without a speed, each coordinate is smoothed by itself with white jerk and a drifting error; closer positions,
or such with a speed, are taken together (Gauss-Newton), with priors that know what a car can do.
"""

from __future__ import annotations

import numpy as np

from mirkle.core.motion.banded import BandedProblem, Indices, between, difference_weights
from mirkle.core.motion.states import DOPPLER_SD_MPS, DRAWS, Motion, Positions
from mirkle.core.recording.model import Channel, Floats, Recording, samples_in
from mirkle.core.stats import robust_sd

# White jerk of a car on loose roads, m/s3 per root hertz, where each coordinate is smoothed by itself.
POSITION_JERK = 4.5
# There the error of a coordinate, m: white, and more with each second between positions; how it drifts in a second. # from memory
AXIS_WHITE_M, AXIS_WHITE_M_PER_S, AXIS_DRIFT_M = 0.10, 0.1, 0.08
# Positions by themselves: their white error where it can't be told from the car's own motion, how their common error
# wanders in a second, and how smoothly a car is steered and driven as far as positions can show it.
POSITION_WHITE_M, POSITION_DRIFT_M = 0.15, 0.3
# Range of the estimated white error, m; it is estimated only where positions are at most this far apart, s.
WHITE_M, TELLS_S = (0.03, 1.0), 0.35
# Standard deviation of the drifting error, m, counted once in this many seconds: an uncorrected receiver. # from memory
BOUND_M, BOUND_S = 2.0, 20.0
# Positions closer than this share their error, s.
SHARED_S = 0.2
POSITIONS_HEADING_JERK, SPEED_JERK = 0.5, 3.0
# How fast a car turns (rad/s) and changes its pace (m/s²), looked at once in this time (s): keeps the line from wandering where
# positions are missing, and from turning with their noise.
TURNING_RADPS, PACING_MPS2, HABIT_S = 0.08, 3.0, 2.0
GAUSS_NEWTON_ROUNDS = 4
# Rounds of reweighting in which a step of the positions' error comes to stand in one place.
STEP_ROUNDS = 4
# Positions further apart than this (s), without a speed, leave the linearisation without hold in a hairpin.
CLOSE_S = 0.6
# The car goes where it points, to this in a step (m); while it stands (under the speed, m/s) it turns by no more than this (rad).
OFF_COURSE_M, STANDS_RAD, STANDS_MPS = 0.003, 0.01, 0.5
# The unknowns of a moment, in this order; east and north stand first, their drifts behind them.
STATES, DRIFT, HEADING, SPEED = 6, 2, 4, 5
# Slower than this, positions a few tenths of a metre out say nothing about which way the car points.
CRAWL_MPS = 4.0


def motion_from_positions(recording: Recording, positions: Positions, grid_s: Floats) -> Motion:
    """Speed and heading behind positions alone, and behind positions with a Doppler speed but no course."""
    doppler = recording.channels["speed_mps"] if recording.has("speed_mps") else None
    if doppler is None and float(np.median(np.diff(positions[0]))) > CLOSE_S:
        return _by_axis(positions, grid_s, draws=DRAWS)
    return _steered(_by_axis(positions, grid_s, draws=0), positions, doppler, grid_s)


def _steered(guess: Motion, positions: Positions, doppler: Channel | None, grid_s: Floats) -> Motion:
    """Gauss-Newton from a plain smoothing of each axis: the car goes where it points, and is steered as cars are.

    Position follows from heading and speed, linearised about the last round's. Smoothness is that of the other paths
    (white third difference of heading, smooth speed), which knows more of cars than a smooth track does.
    """
    time_s, east, north = _thinned(positions)
    n, step_s = len(grid_s), grid_s[1] - grid_s[0]
    heading, speed, white_m = guess.heading_rad, guess.speed_mps, _white_m(time_s, east, north)
    nodes = STATES * np.arange(n)
    node, share = between(time_s, grid_s)
    at, part = between(doppler.time_s, grid_s) if doppler is not None else (node[:0], share[:0])
    seen_by = np.stack([share[:, 0], share[:, 0], share[:, 1], share[:, 1]], axis=1)
    # Under trees the error steps by metres and stays: Student's tails let it, where positions are close enough to show a step.
    close = float(np.median(np.diff(time_s))) < CLOSE_S
    draws: Floats = np.zeros((n, 0))
    for turn in range(GAUSS_NEWTON_ROUNDS):
        problem = BandedProblem(STATES * n)
        for axis, seen in ((0, east), (1, north)):
            drift = axis + DRIFT
            problem.add(STATES * node, (axis, drift, axis + STATES, drift + STATES), seen_by, seen, sigma=white_m, robust=True)
            problem.add_white(nodes + drift, 1, POSITION_DRIFT_M, step_s, robust=close)
            problem.add_bound(nodes + drift, BOUND_M * np.sqrt(BOUND_S / step_s))
        if doppler is not None:
            problem.add(STATES * at + SPEED, (0, STATES), part, doppler.value, sigma=DOPPLER_SD_MPS, robust=True)
        _add_steering(problem, nodes, heading, speed, step_s)
        last = turn == GAUSS_NEWTON_ROUNDS - 1
        best, drawn = problem.solve(robust_rounds=STEP_ROUNDS if close else 1, draws=DRAWS if last else 0)
        heading, speed = best[HEADING::STATES], np.maximum(best[SPEED::STATES], 0.0)
        draws = drawn[HEADING::STATES]
    crawling = speed < CRAWL_MPS
    heading = _held_where_still(heading, speed)
    draws = np.where(crawling[:, None], heading[:, None], draws)
    return Motion(speed, heading, draws, np.full(n, np.nan))


def _add_steering(problem: BandedProblem, nodes: Indices, heading: Floats, speed: Floats, step_s: float) -> None:
    """That the car goes where it points, about the given heading and speed, and how it is steered and driven."""
    middle, mean = 0.5 * (heading[1:] + heading[:-1]), 0.5 * (speed[1:] + speed[:-1])
    for axis, ahead, turned in ((0, np.cos(middle), -np.sin(middle)), (1, np.sin(middle), np.cos(middle))):
        by_heading, by_speed = 0.5 * step_s * mean * turned, 0.5 * step_s * ahead
        one = np.ones(len(middle))
        here = (0, HEADING - axis, SPEED - axis)
        problem.add(
            nodes[:-1] + axis,
            (*here, *(STATES + of for of in here)),
            np.stack([-one, -by_heading, -by_speed, one, -by_heading, -by_speed], axis=1),
            -step_s * mean * turned * middle,
            sigma=OFF_COURSE_M,
        )
    still = np.flatnonzero(np.maximum(speed[:-1], speed[1:]) < STANDS_MPS)
    problem.add(nodes[still] + HEADING, (0, STATES), difference_weights(1), 0.0, sigma=STANDS_RAD)
    problem.add_white(nodes + HEADING, 3, POSITIONS_HEADING_JERK, step_s)
    problem.add_white(nodes + SPEED, 2, SPEED_JERK, step_s)
    problem.add_white(nodes + HEADING, 1, TURNING_RADPS * np.sqrt(HABIT_S), step_s)
    problem.add_white(nodes + SPEED, 1, PACING_MPS2 * np.sqrt(HABIT_S), step_s)


def _thinned(positions: Positions) -> tuple[Floats, Floats, Floats]:
    """Times, east and north of means over a fifth of a second: closer ones share their error, and say no more."""
    time_s = positions[0]
    each = samples_in(time_s, SHARED_S)
    whole = len(time_s) // each * each
    means = [column[:whole].reshape(-1, each).mean(axis=1) for column in positions[:3]]
    return means[0], means[1], means[2]


def _white_m(time_s: Floats, east: Floats, north: Floats) -> float:
    """The standard deviation of the positions' white error, from their third differences, which hardly see the motion.

    Farther apart than a third of a second they see mostly the motion, and the usual error is taken.
    """
    if float(np.median(np.diff(time_s))) > TELLS_S:
        return POSITION_WHITE_M
    thirds = np.concatenate([np.diff(axis, 3) for axis in (east, north)])
    # The third difference of white noise has the squares of its weights, 1 + 9 + 9 + 1, times the noise's variance.
    gain = float(np.linalg.norm(difference_weights(3)))
    return float(np.clip(robust_sd(thirds, 0.0) / gain, *WHITE_M))


def _by_axis(positions: Positions, grid_s: Floats, *, draws: int) -> Motion:
    """Each axis smoothed by itself, with white jerk and a drifting error."""
    time_s, east, north, _ = positions
    n, step_s = len(grid_s), grid_s[1] - grid_s[0]
    interval_s = float(np.median(np.diff(time_s)))
    node, share = between(time_s, grid_s)
    weights = np.stack([share[:, 0], share[:, 0], share[:, 1], share[:, 1]], axis=1)
    solved, samples = [], []
    for axis, seed in ((east, 1), (north, 2)):
        problem = BandedProblem(2 * n)  # coordinate, its drifting error
        white_m = AXIS_WHITE_M + AXIS_WHITE_M_PER_S * min(interval_s, 1.0)
        problem.add(2 * node, tuple(range(4)), weights, axis, sigma=white_m, robust=True)
        nodes = 2 * np.arange(n)
        problem.add_white(nodes, 3, POSITION_JERK, step_s)
        problem.add_white(nodes + 1, 1, AXIS_DRIFT_M, step_s)
        problem.add_bound(nodes + 1, BOUND_M * np.sqrt(BOUND_S / step_s))
        best, drawn_best = problem.solve(robust_rounds=2, draws=draws, seed=seed)
        solved.append(best[0::2])
        samples.append(drawn_best[0::2])
    velocity = [np.gradient(axis, step_s) for axis in solved]
    speed = np.hypot(*velocity)
    heading = _held_where_still(np.arctan2(velocity[1], velocity[0]), speed)
    drawn = [np.gradient(axis, step_s, axis=0) for axis in samples]
    heading_draws = heading[:, None] + _angle_between(drawn, velocity)
    drawn_heading = np.where(speed[:, None] > CRAWL_MPS, heading_draws, heading[:, None])
    return Motion(speed, heading, drawn_heading, np.full(n, np.nan))


def _angle_between(drawn: list[Floats], velocity: list[Floats]) -> Floats:
    cross = velocity[0][:, None] * drawn[1] - velocity[1][:, None] * drawn[0]
    dot = velocity[0][:, None] * drawn[0] + velocity[1][:, None] * drawn[1]
    return np.arctan2(cross, dot)


def _held_where_still(heading: Floats, speed: Floats) -> Floats:
    moving = np.flatnonzero(speed > CRAWL_MPS)
    if not len(moving):
        return np.zeros_like(heading)
    return np.interp(np.arange(len(heading)), moving, np.unwrap(heading[moving]))
