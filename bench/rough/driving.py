"""A car that slides and a driver who errs, on a grid of 100 Hz.

The path of the middle of the car is a line beside the road's middle; the body points off it by a sideslip that follows the
share of the grip that is used, leads it, and overshoots where he loses the tail. What the notes promise he believes: a note
that is too fast brings him in too fast, he runs wide and the tail comes round.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from mirkle.synthetic.car import _aside as line_of_least_curvature
from mirkle.synthetic.car import flight_s
from rough.roads import Floats, Road, even, noise

GRAVITY_MPS2 = 9.80665


@dataclass(frozen=True)
class Manner:
    """How this driver and car are: slip at the limit (rad), how far ahead it comes (s), swerves and wide runs a kilometre."""

    slip_rad: float
    ahead_s: float
    loses_a_km: float
    wide_a_km: float
    late_m: float
    handbrake: bool
    pace: float = 1.0
    least_curvature: bool = False


@dataclass(frozen=True)
class Flight:
    """One flight: take-off and landing (m from the start line) and seconds in the air."""

    from_m: float
    to_m: float
    air_s: float


@dataclass(frozen=True)
class Drive:
    """What the car did; all arrays (n,) at 100 Hz. Accelerations are of the body's axes, in m/s2, gravity in the upright."""

    time_s: Floats
    distance_m: Floats
    road_m: Floats
    speed_mps: Floats
    heading_rad: Floats
    curvature_per_m: Floats
    slip_rad: Floats
    slope_rad: Floats
    up_mps2: Floats
    east_m: Floats
    north_m: Floats
    height_m: Floats
    airborne: Floats
    start_s: float
    finish_s: float
    stop_s: float
    flights: tuple[Flight, ...]
    swerves: tuple[tuple[float, float], ...]


def drive(
    rng: np.random.Generator,
    road: Road,
    manner: Manner,
    *,
    believed: tuple[tuple[float, float, float], ...] = (),
    steady_mps: float | None = None,
) -> Drive:
    """One pass. ``believed``: (from, to, factor on the radius he expects); ``steady_mps``: a reconnaissance at that speed."""
    total = len(road.curvature_per_m)
    aside, swerves = _aside(rng, road, manner, believed, calm=steady_mps is not None)
    line_east, line_north, line_heading, step = _beside(road, aside)
    line = np.gradient(line_heading) / step
    speed = _speed(rng, road, line, manner, believed, steady_mps)
    # The line is longer or shorter than the road's middle.
    driven = np.concatenate([[0.0], np.cumsum(0.5 * (step[1:] + step[:-1]))])
    clock = np.concatenate([[0.0], np.cumsum(np.diff(driven) * 2 / (speed[1:] + speed[:-1]))])
    stands = float(rng.uniform(25, 60))
    time = np.arange(0.0, stands + clock[-1] + 15.0, 0.01)
    rolling = np.clip(time - stands, 0.0, clock[-1])
    at = np.interp(rolling, clock, np.arange(total, dtype=float))
    moving = (time > stands) & (time < stands + clock[-1])
    v = np.where(moving, np.interp(at, np.arange(total), speed), 0.0)
    v = np.convolve(np.pad(v, 12, mode="edge"), np.hanning(27)[1:-1] / np.hanning(27)[1:-1].sum(), mode="valid")
    v[time < stands - 0.1] = 0.0
    distance = np.concatenate([[0.0], np.cumsum(0.5 * (v[1:] + v[:-1]) * 0.01)])
    curvature = np.interp(at, np.arange(total), line)
    heading, east, north = (np.interp(at, np.arange(total), c) for c in (line_heading, line_east, line_north))
    slip = _slip(rng, road, manner, time, at, v, curvature, swerves, calm=steady_mps is not None)
    slope = np.interp(at, np.arange(total), road.slope)
    bend = np.interp(at, np.arange(total), np.gradient(even(road.slope, 1.2)))
    up, airborne, flights = _upright(road, at, v, bend)
    height = 240.0 + np.interp(at, np.arange(total), np.cumsum(road.slope))
    finish = float(time[np.searchsorted(at, road.finish_m)])
    return Drive(
        time,
        distance,
        at,
        v,
        heading,
        curvature,
        slip,
        np.arctan(slope),
        up,
        east,
        north,
        height,
        airborne,
        stands,
        finish,
        stands + float(clock[-1]),
        flights,
        tuple((a, b) for a, b, _ in swerves),
    )


def _beside(road: Road, aside: Floats) -> tuple[Floats, Floats, Floats, Floats]:
    """East, north, heading and metres a metre of road of a line so far to the left of the road's middle, each (n,).

    All passes of a road lie on it: its middle is drawn first.
    """
    turned = np.cumsum(road.curvature_per_m)
    middle = [np.cumsum(axis) for axis in (np.cos(turned), np.sin(turned))]
    along, across = np.maximum(1.0 - aside * road.curvature_per_m, 0.5), np.gradient(aside)
    heading = turned + np.arctan2(across, along)
    return middle[0] - aside * np.sin(turned), middle[1] + aside * np.cos(turned), heading, np.hypot(along, across)


def _aside(
    rng: np.random.Generator, road: Road, manner: Manner, believed: tuple[tuple[float, float, float], ...], *, calm: bool
) -> tuple[Floats, list[tuple[float, float, float]]]:
    """Metres to the left of the middle, (n,), and the swerves as (from, to, size in rad)."""
    total = len(road.curvature_per_m)
    if manner.least_curvature:
        return _opened(rng, road, calm=calm), []
    # He cuts towards the inside where the road bends over some thirty metres, and is wide before and behind.
    pull = even(road.curvature_per_m, 9.0) - even(road.curvature_per_m, 32.0)
    aside = road.room_m * np.tanh(pull * 45.0) * (0.35 if calm else 0.9)
    aside = even(aside, 8.0)
    strays = noise(rng, total, 22.0)
    aside += strays * (0.1 if calm else 0.2)
    if not calm and manner.late_m:
        aside = np.interp(np.arange(total) - manner.late_m, np.arange(total), aside)
    swerves: list[tuple[float, float, float]] = []
    if calm:
        return aside, swerves
    bends = np.flatnonzero(np.abs(even(road.curvature_per_m, 4.0)) > 1 / 110)
    places = [float(p) for p in rng.choice(bends, int(manner.loses_a_km * total / 1000))] if len(bends) else []
    for at in places:
        if 150 < at < road.finish_m - 120 and all(abs(at - s[0]) > 70 for s in swerves):
            side = float(np.sign(road.curvature_per_m[int(at)]))
            swerves.append((at, at + float(rng.uniform(18, 38)), side * float(np.radians(rng.uniform(10, 24)))))
    for at, end, size in swerves:
        # The tail comes round, he catches it: out, back across, and settled.
        along = np.clip((np.arange(total) - at) / (end - at + 18), 0, 1)
        aside -= np.sign(size) * abs(size) * 4.2 * np.sin(2 * np.pi * along) * np.sin(np.pi * along) ** 2
    for at in rng.uniform(200, road.finish_m - 150, int(manner.wide_a_km * total / 1000)):
        # Run wide, or kept clear of a stone.
        aside += rng.choice([-1, 1]) * rng.uniform(0.8, 2.0) * np.exp(-0.5 * ((np.arange(total) - at) / rng.uniform(8, 14)) ** 2)
    for first, last, factor in believed:
        if factor > 1.2:
            side = float(np.sign(road.curvature_per_m[int(0.5 * (first + last))]))
            mid, wide = 0.4 * first + 0.6 * last, 0.5 * (last - first) + 8
            aside -= side * min(1.6, 0.8 * (factor - 1)) * np.exp(-0.5 * ((np.arange(total) - mid) / wide) ** 2)
            swerves.append((mid, mid + 25.0, side * float(np.radians(min(22.0, 12.0 * (factor - 0.6))))))
    return aside, swerves


def _opened(rng: np.random.Generator, road: Road, *, calm: bool) -> Floats:
    """The line of the least curvature squared that keeps to the road, as another driver goes; (n,)."""
    return line_of_least_curvature(rng, road.curvature_per_m, 0.3 if calm else float(np.median(road.room_m)))


def _speed(
    rng: np.random.Generator,
    road: Road,
    line: Floats,
    manner: Manner,
    believed: tuple[tuple[float, float, float], ...],
    steady_mps: float | None,
) -> Floats:
    total = len(line)
    bent = np.maximum(np.abs(even(line, 3.0)), 1e-5)
    if steady_mps is not None:
        wanted = np.minimum(np.sqrt(3.2 / bent), steady_mps * (1 + 0.05 * np.sin(np.arange(total) / 140.0)))
        most_pull, most_brake = 2.0, 2.5
    else:
        share = 0.9 + 0.05 * noise(rng, total, 60.0)
        wanted = np.sqrt(np.clip(share, 0.7, 1.02) * manner.pace * road.grip_mps2 / bent)
        for first, last, factor in believed:
            a, mid = int(first), int(0.6 * first + 0.4 * last)
            wanted[a:mid] *= min(np.sqrt(factor), 1.3)
        wanted = np.minimum(wanted, 46.0)
        most_pull, most_brake = 5.0, 0.85 * float(np.median(road.grip_mps2))
    speed = wanted.copy()
    speed[0], speed[-1] = 0.5, 0.4
    for i in range(1, total):
        over = i > road.finish_m
        pull = -1.5 if over else max(most_pull * (1 - (speed[i - 1] / 54.0) ** 1.5), 0.3)
        speed[i] = min(speed[i], np.sqrt(max(speed[i - 1] ** 2 + 2 * pull, 0.16)))
    for i in range(total - 2, -1, -1):
        speed[i] = min(speed[i], np.sqrt(speed[i + 1] ** 2 + 2 * most_brake))
    return np.maximum(speed, 0.4)


def _slip(
    rng: np.random.Generator,
    road: Road,
    manner: Manner,
    time: Floats,
    at: Floats,
    v: Floats,
    curvature: Floats,
    swerves: list[tuple[float, float, float]],
    *,
    calm: bool,
) -> Floats:
    """The angle from the path to where the body points, positive into a left-hander, (n,)."""
    grip = np.interp(at, np.arange(len(road.grip_mps2)), road.grip_mps2)
    used = np.clip(v**2 * curvature / grip, -1.1, 1.1)
    lead = int(manner.ahead_s * 100)
    slip = manner.slip_rad * (0.15 if calm else 1.0) * np.sign(used) * used**2
    slip = np.roll(slip, -lead)
    if manner.handbrake and not calm:
        tight = np.abs(curvature) > 1 / 16
        spot = np.convolve(tight.astype(float) * np.sign(curvature), np.hanning(120) / np.hanning(120).sum(), mode="same")
        slip = slip + np.radians(28.0) * np.roll(spot, -90)
    for first, last, size in swerves:
        along = np.clip((at - first) / (last - first), 0, 1)
        slip = slip + size * np.sin(np.pi * along) * (1 - 1.3 * along)
    kernel = np.hanning(41) / np.hanning(41).sum()
    slip = np.convolve(slip, kernel, mode="same")
    wobble = np.convolve(rng.normal(0, 1, len(time)), np.hanning(60) / np.sqrt((np.hanning(60) ** 2).sum()), mode="same")
    return np.where(v > 3.0, slip + np.radians(0.5 if calm else 1.2) * wobble, 0.0)


def _upright(road: Road, at: Floats, v: Floats, bend: Floats) -> tuple[Floats, Floats, tuple[Flight, ...]]:
    """The upright push in m/s2, whether the car flies, and the flights."""
    up = np.maximum(GRAVITY_MPS2 + v**2 * bend, 0.25 * GRAVITY_MPS2)
    airborne = np.zeros(len(v))
    flights = []
    for t in road.things:
        if t.kind not in ("jump", "crest"):
            continue
        lip = t.at_m - 0.15 * t.length_m
        here = int(np.searchsorted(at, lip))
        if here >= len(v) - 10 or v[here] < 8:
            continue
        if v[here] ** 2 * t.turns_rad * 2 / t.length_m < GRAVITY_MPS2:
            continue
        air = flight_s(road.slope, lip, float(v[here]))
        if air < 0.12:
            continue
        end = min(here + round(air * 100), len(v) - 30)
        airborne[here:end] = 1.0
        up[here:end] = 0.0
        up[end : end + 16] = GRAVITY_MPS2 * (1.0 + (1.2 + 1.5 * min(air, 0.5)) * np.exp(-np.arange(16) / 7.0))
        flights.append(Flight(lip, float(at[end]), air))
    return up, airborne, tuple(flights)
