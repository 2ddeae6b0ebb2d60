"""The motion behind positions alone: the car goes where it points, and it is steered smoothly.

Far apart, without a speed, each coordinate is smoothed by itself with white jerk and a drifting error; closer positions,
or such with a speed, are taken together (Gauss-Newton), with priors that know what a car can do.
"""

from __future__ import annotations

import numpy as np

from mirkle.core.motion.banded import BandedProblem, Indices, between, difference_weights
from mirkle.core.motion.states import DOPPLER_SD_MPS, DRAWS, Motion, Positions
from mirkle.core.recording.model import Channel, Floats, Recording
from mirkle.core.stats import robust_sd

# White jerk of a car on loose roads, m/s3 per root hertz, where each coordinate is smoothed by itself.
POSITION_JERK = 4.5
# Positions by themselves: their white error where it can't be told from the car's own motion, how their common error
# wanders in a second, and how smoothly a car is steered and driven as far as positions can show it.
POSITION_WHITE_M, POSITION_DRIFT_M = 0.15, 0.3
POSITIONS_HEADING_JERK, SPEED_JERK = 0.5, 3.0
# A car turns and changes its pace by so much, looked at once in so many seconds: what keeps the line from wandering off
# where positions are missing, and from turning with their noise.
TURNING_RADPS, PACING_MPS2, HABIT_S = 0.08, 3.0, 2.0
GAUSS_NEWTON_ROUNDS = 4
# Rounds of reweighting in which a step of the positions' error comes to stand in one place.
STEP_ROUNDS = 4
# Farther apart than this, and without a speed, positions leave so much open that the linearisation finds no hold in a
# hairpin.
CLOSE_S = 0.6
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
    n, step_s, states = len(grid_s), grid_s[1] - grid_s[0], 6  # east, north, their drifts, heading, speed
    heading, speed, white_m = guess.heading_rad, guess.speed_mps, _white_m(time_s, east, north)
    nodes = states * np.arange(n)
    node, share = between(time_s, grid_s)
    at, part = between(doppler.time_s, grid_s) if doppler is not None else (node[:0], share[:0])
    seen_by = np.stack([share[:, 0], share[:, 0], share[:, 1], share[:, 1]], axis=1)
    wander_m, bound_m = POSITION_DRIFT_M * np.sqrt(step_s), 2.0 * np.sqrt(20.0 / step_s)
    # Under trees the error steps by metres and stays: Student's tails let it, where positions are close enough to show a step.
    close = float(np.median(np.diff(time_s))) < CLOSE_S
    draws: Floats = np.zeros((n, 0))
    for turn in range(GAUSS_NEWTON_ROUNDS):
        problem = BandedProblem(states * n)
        for axis, seen in ((0, east), (1, north)):
            offsets = (axis, axis + 2, axis + states, axis + 2 + states)
            problem.add(states * node, offsets, seen_by, seen, sigma=white_m, robust=True)
            problem.add(nodes[:-1] + axis + 2, (0, states), difference_weights(1), 0.0, sigma=wander_m, robust=close)
            problem.add(nodes + axis + 2, (0,), [1.0], 0.0, sigma=bound_m)
        if doppler is not None:
            problem.add(states * at + 5, (0, states), part, doppler.value, sigma=DOPPLER_SD_MPS, robust=True)
        _add_steering(problem, nodes, heading, speed, step_s)
        last = turn == GAUSS_NEWTON_ROUNDS - 1
        best, drawn = problem.solve(robust_rounds=STEP_ROUNDS if close else 1, draws=DRAWS if last else 0)
        heading, speed = best[4::states], np.maximum(best[5::states], 0.0)
        draws = drawn[4::states]
    crawling = speed < CRAWL_MPS
    heading = _held_where_still(heading, speed)
    draws = np.where(crawling[:, None], heading[:, None], draws)
    return Motion(speed, heading, draws, np.full(n, np.nan))


def _add_steering(problem: BandedProblem, nodes: Indices, heading: Floats, speed: Floats, step_s: float) -> None:
    """That the car goes where it points, about the given heading and speed, and how it is steered and driven."""
    middle, mean = 0.5 * (heading[1:] + heading[:-1]), 0.5 * (speed[1:] + speed[:-1])
    states = int(nodes[1] - nodes[0])
    for axis, ahead, turned in ((0, np.cos(middle), -np.sin(middle)), (1, np.sin(middle), np.cos(middle))):
        by_heading, by_speed = 0.5 * step_s * mean * turned, 0.5 * step_s * ahead
        one = np.ones(len(middle))
        problem.add(
            nodes[:-1] + axis,
            (0, 4 - axis, 5 - axis, states, states + 4 - axis, states + 5 - axis),
            np.stack([-one, -by_heading, -by_speed, one, -by_heading, -by_speed], axis=1),
            -step_s * mean * turned * middle,
            sigma=0.003,
        )
    still = np.flatnonzero(np.maximum(speed[:-1], speed[1:]) < 0.5)
    problem.add(nodes[still] + 4, (0, states), difference_weights(1), 0.0, sigma=0.01)
    thirds = (0, states, 2 * states, 3 * states)
    problem.add(nodes[:-3] + 4, thirds, difference_weights(3), 0.0, sigma=POSITIONS_HEADING_JERK * step_s**2.5)
    problem.add(nodes[:-2] + 5, thirds[:3], difference_weights(2), 0.0, sigma=SPEED_JERK * step_s**1.5)
    once = np.sqrt(HABIT_S * step_s)
    problem.add(nodes[:-1] + 4, (0, states), difference_weights(1), 0.0, sigma=TURNING_RADPS * once)
    problem.add(nodes[:-1] + 5, (0, states), difference_weights(1), 0.0, sigma=PACING_MPS2 * once)


def _thinned(positions: Positions) -> tuple[Floats, Floats, Floats]:
    """Times, east and north of means over a fifth of a second: closer ones share their error, and say no more."""
    time_s = positions[0]
    each = max(1, round(0.2 / max(float(np.median(np.diff(time_s))), 1e-3)))
    whole = len(time_s) // each * each
    means = [column[:whole].reshape(-1, each).mean(axis=1) for column in positions[:3]]
    return means[0], means[1], means[2]


def _white_m(time_s: Floats, east: Floats, north: Floats) -> float:
    """The standard deviation of the positions' white error, from their third differences, which hardly see the motion.

    Farther apart than a third of a second they see mostly the motion, and the usual error is taken.
    """
    if float(np.median(np.diff(time_s))) > 0.35:
        return POSITION_WHITE_M
    thirds = np.concatenate([np.diff(axis, 3) for axis in (east, north)])
    return float(np.clip(robust_sd(thirds, 0.0) / np.sqrt(20.0), 0.03, 1.0))


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
        problem.add(2 * node, (0, 1, 2, 3), weights, axis, sigma=0.10 + 0.1 * min(interval_s, 1.0), robust=True)
        nodes = 2 * np.arange(n)
        problem.add(nodes[:-3], (0, 2, 4, 6), difference_weights(3), 0.0, sigma=POSITION_JERK * step_s**2.5)
        problem.add(nodes[:-1] + 1, (0, 2), difference_weights(1), 0.0, sigma=0.08 * np.sqrt(step_s))
        problem.add(nodes + 1, (0,), [1.0], 0.0, sigma=2.0 * np.sqrt(20.0 / step_s))
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
