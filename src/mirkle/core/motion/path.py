"""The driven line: speed, heading and position of the car on one even time grid, and how sure they are.

Three banded least-squares problems, one after the other, because each is linear given the one before:

1. *Speed* from Doppler speed, wheel speed and forward acceleration (whose slope and mounting error drifts slowly).
2. *Heading* of the path from Doppler course (error: lateral speed noise over speed), yaw rate (which is the body's:
   the path's rate plus the rate of a sideslip that dies out) and lateral acceleration = speed x heading rate, plus a
   slow camber error. The prior is that the steering moves smoothly: white third difference of heading.
3. *Position*: dead reckoning from 1 and 2 plus a slow correction that ties it to the positions, which drift. The
   part of the correction that lies along the path goes into the distance, so that an outage in the speed does not
   shift what follows.

Where there is neither course nor yaw rate, positions alone give both coordinates by a smoother whose prior is
white jerk, with the positions' slow drift as a state of its own.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from mirkle.core.motion.banded import BandedProblem, Indices, between, difference_weights
from mirkle.core.motion.geodesy import local_metres, map_middle
from mirkle.core.motion.recording import OUTAGE_S, Channel, Floats, Recording

GRAVITY_MPS2 = 9.80665
DRAWS = 16
# White third difference of heading: a quick driver turns the wheel so that the heading rate's rate changes by
# several rad/s3 within a tenth of a second; the figure is the square root of its spectral density.
HEADING_JERK = 1.5
# White jerk of a car on loose roads, m/s3 per root hertz, where only positions are known.
POSITION_JERK = 7.0
# Positions by themselves: their white error where it can't be told from the car's own motion, how their common error
# wanders in a second, and how smoothly a car is steered and driven as far as positions can show it.
POSITION_WHITE_M, POSITION_DRIFT_M = 0.15, 0.15
POSITIONS_HEADING_JERK, SPEED_JERK = 0.4, 3.0
GAUSS_NEWTON_ROUNDS = 4
# Farther apart than this, positions leave so much open that the linearisation finds no hold in a hairpin.
CLOSE_S = 0.6
# Slower than this, positions a few tenths of a metre out say nothing about which way the car points.
CRAWL_MPS = 4.0
# Chords between positions so far apart stand in for a course; each end is out by so much against the other.
CHORD_S, CHORD_END_M = 1.0, 0.3


# Time, east, north and standard deviation of each position, all (m,).
Positions = tuple[Floats, Floats, Floats, Floats]


@dataclass(frozen=True)
class Path:
    """The driven line on a time grid of ``n`` nodes; all arrays (n,).

    ``distance_m`` grows from 0 at the first node; ``heading_rad`` is anticlockwise from east and unwrapped;
    ``curvature_per_m`` is positive to the left, with its standard deviation in ``curvature_sd_per_m``.
    ``forward_mps2`` and ``lateral_mps2`` (left) are of the path, from the smoothed speed and heading. ``slip_rad`` is how
    far the body points to the left of the path, nan where no yaw rate was recorded. ``middle_deg`` is the latitude and
    longitude that east and north are measured from, ``None`` where no position was recorded.
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
    doubts: tuple[str, ...] = ()
    middle_deg: tuple[float, float] | None = None

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


@dataclass(frozen=True)
class _Motion:
    """What the sub-problems hand on: heading draws give the curvature's spread; (n,) and (n, draws)."""

    speed_mps: Floats
    heading_rad: Floats
    heading_draws: Floats
    slip_rad: Floats


def smooth_path(recording: Recording) -> Path:
    """The driven line of a mended recording (see :func:`mirkle.core.motion.recording.mended`)."""
    grid_s = _grid(recording)
    positions = _positions(recording)
    directed = recording.has("course_rad", "speed_mps") or recording.has("yaw_rate_radps", "speed_mps")
    if directed:
        speed = _smooth_speed(recording, grid_s)
        motion = _smooth_heading(recording, grid_s, speed, positions)
    else:
        assert positions is not None  # mended() lets nothing else through
        motion = _smooth_positions(positions, grid_s)
    step_s = grid_s[1] - grid_s[0]
    east, north, speed = _place(motion, positions, grid_s)
    distance = np.concatenate([[0.0], np.cumsum(0.5 * (speed[1:] + speed[:-1]) * step_s)])
    rate = np.gradient(motion.heading_rad, step_s)
    safe = np.maximum(speed, 1.0)
    rate_sd = (
        np.gradient(motion.heading_draws, step_s, axis=0).std(axis=1)
        if motion.heading_draws.shape[1]
        else np.zeros_like(rate)
    )
    moving = speed > 1.0
    return Path(
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
    )


def _middle_deg(recording: Recording) -> tuple[float, float] | None:
    if not recording.has("lat_rad", "lon_rad"):
        return None
    return map_middle(recording.channels["lat_rad"].value, recording.channels["lon_rad"].value)


def _sources(recording: Recording, *, directed: bool) -> tuple[str, ...]:
    used = [
        ("position", recording.has("lat_rad", "lon_rad")),
        ("Doppler speed", directed and recording.has("speed_mps")),
        ("course", directed and recording.has("course_rad")),
        ("yaw rate", directed and recording.has("yaw_rate_radps")),
        ("acceleration", directed and recording.has("acc_y_mps2")),
    ]
    return tuple(name for name, there in used if there)


def _doubts(recording: Recording) -> tuple[str, ...]:
    doubts = list(recording.doubts)
    if recording.has("lat_rad"):
        time_s = recording.channels["lat_rad"].time_s
        gaps = np.diff(time_s)
        usual = float(np.median(gaps))
        longest = gaps[gaps > max(OUTAGE_S, 3 * usual)]
        if len(longest):
            often = "once" if len(longest) == 1 else f"{len(longest)} times"
            doubts.append(
                f"Positions are missing {often}, for up to {longest.max():.0f} s; the path was bridged there."
            )
        if not recording.has("speed_mps") and usual > 0.5:
            doubts.append(
                "Only positions, about one a second: bends are blurred, so most findings can be no more than a check."
            )
    return tuple(doubts)


def _grid(recording: Recording) -> Floats:
    main = recording.channels["lat_rad" if recording.has("lat_rad") else "speed_mps"]
    first, last = float(main.time_s[0]), float(main.time_s[-1])
    fine = recording.has("yaw_rate_radps", "speed_mps") or (recording.has("course_rad") and main.rate_hz > 7.0)
    step_s = 0.05 if fine else 0.1
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
        sigma = np.clip(np.interp(lat.time_s, hacc.time_s, hacc.value), 0.5, 30.0)
    else:
        sigma = np.full(len(east), 2.0)
    return lat.time_s, east, north, sigma


def _binned(channel: Channel, grid_s: Floats) -> tuple[Floats, Floats]:
    """Mean of a channel in each grid interval and how many samples it rests on, both (n - 1,)."""
    step_s = grid_s[1] - grid_s[0]
    at = np.floor((channel.time_s - grid_s[0]) / step_s).astype(np.intp)
    inside = (at >= 0) & (at < len(grid_s) - 1)
    count = np.bincount(at[inside], minlength=len(grid_s) - 1).astype(float)
    total = np.bincount(at[inside], weights=channel.value[inside], minlength=len(grid_s) - 1)
    return total / np.maximum(count, 1.0), count


def _smooth_speed(recording: Recording, grid_s: Floats) -> Floats:
    n, step_s = len(grid_s), grid_s[1] - grid_s[0]
    problem = BandedProblem(2 * n)  # speed, error of the forward acceleration
    nodes = 2 * np.arange(n)
    doppler = recording.channels["speed_mps"]
    node, share = between(doppler.time_s, grid_s)
    problem.add(2 * node, (0, 2), share, doppler.value, sigma=0.12, robust=True)
    if recording.has("acc_x_mps2"):
        mean, count = _binned(recording.channels["acc_x_mps2"], grid_s)
        there = np.flatnonzero(count)
        problem.add(
            2 * there,
            (0, 1, 2),
            [-1 / step_s, 1.0, 1 / step_s],
            mean[there],
            sigma=1.2 / np.sqrt(count[there]),
            robust=True,
        )
    # Slope, mounting and the filter's lag: the forward error wanders by about 1 m/s2 in a few seconds.
    problem.add(nodes[:-1] + 1, (0, 2), difference_weights(1), 0.0, sigma=0.8 * np.sqrt(step_s))
    problem.add(nodes + 1, (0,), [1.0], 0.0, sigma=2.0)
    problem.add(nodes[:-2], (0, 2, 4), difference_weights(2), 0.0, sigma=8.0 * step_s**1.5)
    best, _ = problem.solve(robust_rounds=2)
    return np.maximum(best[0::2], 0.0)


def _smooth_heading(recording: Recording, grid_s: Floats, speed: Floats, positions: Positions | None) -> _Motion:
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
            sigma=0.06 / np.sqrt(count[there]),
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
            sigma=1.0 / np.sqrt(count[there]),
            robust=True,
        )
    # Standing still, the heading does not move: that fixes the bias of the yaw rate.
    still = np.flatnonzero(np.maximum(speed[:-1], speed[1:]) < 0.3)
    problem.add(nodes[still], (0, states), difference_weights(1), 0.0, sigma=1e-4)
    problem.add(
        nodes[:-3], (0, states, 2 * states, 3 * states), difference_weights(3), 0.0, sigma=HEADING_JERK * step_s**2.5
    )
    # Sideslip dies out within a second or so; a tenth of a radian is common on gravel. # common practice
    keep = float(np.exp(-step_s / 1.0))
    problem.add(nodes[:-1] + 1, (0, states), [-keep, 1.0], 0.0, sigma=0.12 * np.sqrt(1 - keep**2))
    problem.add(nodes + 1, (0,), [1.0], 0.0, sigma=0.12 * 10)
    problem.add(nodes[:-1] + 2, (0, states), difference_weights(1), 0.0, sigma=2e-4 * np.sqrt(step_s))
    problem.add(nodes[:1] + 2, (0,), [1.0], 0.0, sigma=0.05)
    problem.add(nodes[:-1] + 3, (0, states), difference_weights(1), 0.0, sigma=0.7 * np.sqrt(step_s))
    problem.add(nodes + 3, (0,), [1.0], 0.0, sigma=2.0)
    best, draws = problem.solve(robust_rounds=2, draws=DRAWS)
    slip = best[1::states] if recording.has("yaw_rate_radps") else np.full(n, np.nan)
    return _Motion(speed, best[0::states], draws[0::states], slip)


def _course(
    recording: Recording, positions: Positions | None, grid_s: Floats, speed: Floats
) -> tuple[Floats, Floats, Floats] | None:
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


def _standing_bias(rate: Floats, speed: Floats) -> float:
    still = speed[:-1] < 0.3
    return float(np.median(rate[still])) if np.count_nonzero(still) > 20 else 0.0


def _unwrapped(heading: Floats, turned: Floats) -> Floats:
    """Headings with whole turns added so that each step is the one nearest to what the yaw rate turned meanwhile."""
    step = np.diff(heading) - np.diff(turned)
    step = (step + np.pi) % (2 * np.pi) - np.pi + np.diff(turned)
    return np.asarray(heading[0] + np.concatenate([[0.0], np.cumsum(step)]))


def _smooth_positions(positions: Positions, grid_s: Floats) -> _Motion:
    """Speed and heading behind positions alone: the car goes where it points, and it is steered smoothly.

    Gauss-Newton from a plain smoothing of each axis: position follows from heading and speed, linearised about the last
    round's. The priors are those of the other paths (white third difference of heading, smooth speed), which know more of
    cars than a smooth track does.
    """
    time_s, east, north = _thinned(positions)
    n, step_s, states = len(grid_s), grid_s[1] - grid_s[0], 6  # east, north, their drifts, heading, speed
    guess = _by_axis(positions, grid_s)
    if float(np.median(np.diff(time_s))) > CLOSE_S:
        return guess
    heading, speed, white_m = guess.heading_rad, guess.speed_mps, _white_m(time_s, east, north)
    nodes = states * np.arange(n)
    node, share = between(time_s, grid_s)
    draws: Floats = np.zeros((n, 0))
    for turn in range(GAUSS_NEWTON_ROUNDS):
        problem = BandedProblem(states * n)
        for axis, seen in ((0, east), (1, north)):
            offsets = (axis, axis + 2, axis + states, axis + 2 + states)
            weights = np.stack([share[:, 0], share[:, 0], share[:, 1], share[:, 1]], axis=1)
            problem.add(states * node, offsets, weights, seen, sigma=white_m, robust=True)
            problem.add(
                nodes[:-1] + axis + 2, (0, states), difference_weights(1), 0.0, sigma=POSITION_DRIFT_M * np.sqrt(step_s)
            )
            problem.add(nodes + axis + 2, (0,), [1.0], 0.0, sigma=2.0 * np.sqrt(20.0 / step_s))
        _add_steering(problem, nodes, heading, speed, step_s)
        last = turn == GAUSS_NEWTON_ROUNDS - 1
        best, drawn = problem.solve(robust_rounds=1, draws=DRAWS if last else 0)
        heading, speed = best[4::states], np.maximum(best[5::states], 0.0)
        draws = drawn[4::states]
    crawling = speed < CRAWL_MPS
    heading = _held_where_still(heading, speed)
    draws = np.where(crawling[:, None], heading[:, None], draws)
    return _Motion(speed, heading, draws, np.full(n, np.nan))


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
    return float(np.clip(1.483 * np.median(np.abs(thirds)) / np.sqrt(20.0), 0.03, 1.0))


def _by_axis(positions: Positions, grid_s: Floats) -> _Motion:
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
        best, draws = problem.solve(robust_rounds=2, draws=DRAWS, seed=seed)
        solved.append(best[0::2])
        samples.append(draws[0::2])
    velocity = [np.gradient(axis, step_s) for axis in solved]
    speed = np.hypot(*velocity)
    heading = _held_where_still(np.arctan2(velocity[1], velocity[0]), speed)
    drawn = [np.gradient(axis, step_s, axis=0) for axis in samples]
    heading_draws = heading[:, None] + _angle_between(drawn, velocity)
    drawn_heading = np.where(speed[:, None] > CRAWL_MPS, heading_draws, heading[:, None])
    return _Motion(speed, heading, drawn_heading, np.full(n, np.nan))


def _angle_between(drawn: list[Floats], velocity: list[Floats]) -> Floats:
    cross = velocity[0][:, None] * drawn[1] - velocity[1][:, None] * drawn[0]
    dot = velocity[0][:, None] * drawn[0] + velocity[1][:, None] * drawn[1]
    return np.arctan2(cross, dot)


def _held_where_still(heading: Floats, speed: Floats) -> Floats:
    moving = np.flatnonzero(speed > CRAWL_MPS)
    if not len(moving):
        return np.zeros_like(heading)
    return np.interp(np.arange(len(heading)), moving, np.unwrap(heading[moving]))


def _place(motion: _Motion, positions: Positions | None, grid_s: Floats) -> tuple[Floats, Floats, Floats]:
    """East and north tied to the positions, and the speed with the tie's part along the path in it; each (n,)."""
    step_s = grid_s[1] - grid_s[0]
    ahead = np.cos(motion.heading_rad), np.sin(motion.heading_rad)
    reckoned = [
        np.concatenate([[0.0], np.cumsum(0.5 * ((motion.speed_mps * a)[1:] + (motion.speed_mps * a)[:-1]))]) * step_s
        for a in ahead
    ]
    if positions is None:
        return reckoned[0], reckoned[1], motion.speed_mps
    time_s, east, north, sigma = positions
    tie_s = np.arange(grid_s[0], grid_s[-1] + 0.5, 0.5)
    ties = []
    for axis, track in ((east, reckoned[0]), (north, reckoned[1])):
        problem = BandedProblem(len(tie_s))
        node, share = between(time_s, tie_s)
        # Neighbouring positions share their error, so each counts for less than it says.
        problem.add(node, (0, 1), share, axis - np.interp(time_s, grid_s, track), sigma=2.0 * sigma, robust=True)
        problem.add(np.arange(len(tie_s) - 1), (0, 1), difference_weights(1), 0.0, sigma=0.6 * np.sqrt(0.5))
        ties.append(np.interp(grid_s, tie_s, problem.solve(robust_rounds=1)[0]))
    along = sum(np.gradient(tie, step_s) * a for tie, a in zip(ties, ahead, strict=True))
    speed = motion.speed_mps + np.where(motion.speed_mps > 2.0, along, 0.0)
    return reckoned[0] + ties[0], reckoned[1] + ties[1], np.maximum(speed, 0.0)


def _height(recording: Recording, grid_s: Floats) -> Floats:
    if not recording.has("alt_m"):
        return np.full(len(grid_s), np.nan)
    alt = recording.channels["alt_m"]
    return np.interp(grid_s, alt.time_s, alt.value)


def _evened(values: Floats, half: int) -> Floats:
    """Running root mean square over ``2 * half + 1`` nodes, (n,)."""
    padded = np.pad(values**2, half, mode="edge")
    return np.asarray(np.sqrt(np.convolve(padded, np.ones(2 * half + 1) / (2 * half + 1), mode="valid")))
