"""A stand-in for the car and its driver: a line on the road and a speed along it, then the recorder's channels."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from mirkle.core.constants import GRAVITY_MPS2
from mirkle.core.recording.model import Floats
from mirkle.synthetic.road import TrueRoad

# A shorter hop is no jump to anybody. # common practice
LEAST_AIR_S = 0.12
# What slows a car on gravel whose driver lifts. # common practice
LIFTED_MPS2 = 1.5


@dataclass(frozen=True)
class Jump:
    """A flight: take-off and landing by distance, seconds in the air."""

    from_m: float
    to_m: float
    air_s: float
    speed_mps: float


@dataclass(frozen=True)
class Driver:
    """``room_m`` is how far to either side of the road's middle he goes to open the bends; with none his line is the road's,
    eased. ``lifts``: whether he lifts at the finish board, or brakes as late as he can.
    """

    room_m: float = 0.0
    lifts: bool = False


PLAIN_DRIVER = Driver()


@dataclass(frozen=True)
class Drive:
    """What the car did, on a grid of 100 Hz; all arrays (n,), times from the recorder's start."""

    time_s: Floats
    distance_m: Floats
    speed_mps: Floats
    heading_rad: Floats
    curvature_per_m: Floats
    vertical_g: Floats
    east_m: Floats
    north_m: Floats
    height_m: Floats
    start_s: float
    finish_s: float
    jumps: tuple[Jump, ...]


def drive(
    rng: np.random.Generator,
    road: TrueRoad,
    *,
    pace: float,
    stands_s: float,
    slow_part: tuple[float, float] | None = None,
    driver: Driver = PLAIN_DRIVER,
) -> Drive:
    """One pass at a pace (1 is the grip of good gravel used to nine tenths).

    ``slow_part`` (metres from, to) is driven at two thirds of the speed: a flat tyre.
    """
    line = _line(road)
    if driver.room_m > 0.0:
        line = line + np.gradient(np.gradient(_aside(rng, line, driver.room_m)))
    speed = _speed(rng, road, line, pace=pace, slow_part=slow_part, lifts=driver.lifts)
    heading_by_m = np.cumsum(line) + 0.4
    seconds_by_m = np.concatenate([[0.0], np.cumsum(2.0 / (speed[1:] + speed[:-1]))])
    time = np.arange(0.0, stands_s + seconds_by_m[-1] + 12.0, 0.01)
    rolling = np.clip(time - stands_s, 0.0, seconds_by_m[-1])
    distance = np.interp(rolling, seconds_by_m, np.arange(len(speed), dtype=float))
    moving = (time > stands_s) & (time < stands_s + seconds_by_m[-1])
    at_speed = np.where(moving, np.interp(distance, np.arange(len(speed)), speed), 0.0)
    heading = np.interp(distance, np.arange(len(line)), heading_by_m)
    curvature = np.interp(distance, np.arange(len(line)), line)
    vertical, jumps = _vertical(road, distance, at_speed)
    east = np.concatenate([[0.0], np.cumsum(at_speed * np.cos(heading))[:-1] * 0.01])
    north = np.concatenate([[0.0], np.cumsum(at_speed * np.sin(heading))[:-1] * 0.01])
    height = 180.0 + np.interp(distance, np.arange(len(road.slope)), np.cumsum(road.slope))
    return Drive(
        time_s=time,
        distance_m=distance,
        speed_mps=at_speed,
        heading_rad=heading,
        curvature_per_m=curvature,
        vertical_g=vertical,
        east_m=east,
        north_m=north,
        height_m=height,
        start_s=stands_s,
        finish_s=float(stands_s + np.interp(road.finish_m, np.arange(len(seconds_by_m)), seconds_by_m)),
        jumps=jumps,
    )


def _line(road: TrueRoad) -> Floats:
    """Curvature of the driven line: the road's, opened over the room that a car's width leaves."""
    half = 18
    kernel = np.exp(-0.5 * (np.arange(-half, half + 1) / 5.5) ** 2)
    return np.convolve(road.curvature_per_m, kernel / kernel.sum(), mode="same")


# How hard the edge of the road pushes back, against curvature squared; and how far a driver strays from the line he means.
EDGE, EDGE_POWER, STRAYS_M, STRAYS_OVER_M = 2e-6, 6, 0.12, 25.0


def _aside(rng: np.random.Generator, curvature: Floats, room_m: float) -> Floats:
    """Metres to the left of the road's middle of the line with the least curvature squared that keeps to the road, (n,).

    Aside by ``n`` a line bends by the road's curvature and ``n''``. The edges are a steep penalty, ``(n / room)^6``, and the
    minimum is found by Newton's steps. The driver then strays from that by a hand's breadth or so.
    """
    # Here, so that a window that only shows the demo need not wait for it.
    from scipy.sparse import csc_array, diags_array
    from scipy.sparse.linalg import spsolve

    count = len(curvature)
    bends = diags_array([1.0, -2.0, 1.0], offsets=[0, 1, 2], shape=(count - 2, count)).tocsr()
    square, inner = csc_array(bends.T @ bends), curvature[1:-1]

    def cost(aside: Floats) -> float:
        return float(((inner + bends @ aside) ** 2).sum() / 2 + EDGE * ((aside / room_m) ** EDGE_POWER).sum())

    aside = np.zeros(count)
    for _ in range(60):
        slope = bends.T @ (inner + bends @ aside) + EDGE * EDGE_POWER * (aside / room_m) ** (EDGE_POWER - 1) / room_m
        steep = EDGE * EDGE_POWER * (EDGE_POWER - 1) * (aside / room_m) ** (EDGE_POWER - 2) / room_m**2
        step = spsolve(square + diags_array(steep + 1e-9), -slope)
        share = 1.0
        while cost(aside + share * step) > cost(aside) and share > 1e-3:
            share /= 2
        aside = aside + share * step
        if float(np.abs(step).max()) < 0.01:
            break
    kernel = np.exp(-0.5 * (np.arange(-80, 81) / STRAYS_OVER_M) ** 2)
    strays = np.convolve(rng.normal(0, 1, count), kernel / np.sqrt((kernel**2).sum()), mode="same")
    return np.asarray(aside + STRAYS_M * strays)


def _speed(
    rng: np.random.Generator, road: TrueRoad, line: Floats, *, pace: float, slow_part: tuple[float, float] | None, lifts: bool
) -> Floats:
    at = np.arange(len(line), dtype=float)
    grip = np.full(len(line), 6.6 * pace)
    for first, last in road.tarmac:
        grip[(at >= first) & (at < last)] *= 1.3
    # Nobody uses all of it everywhere: a share that wanders over some hundred metres.
    wander = np.convolve(rng.normal(0, 1, len(line)), np.ones(150) / 150, mode="same") * np.sqrt(150)
    grip *= 0.9 + 0.035 * wander
    speed = np.minimum(np.sqrt(np.maximum(grip, 1.0) / np.maximum(np.abs(line), 1e-5)), 40.0 * pace**0.5)
    if slow_part is not None:
        speed[(at >= slow_part[0]) & (at < slow_part[1])] *= 0.66
    finish = int(road.finish_m)
    speed[-1] = 0.3
    speed[0] = 0.6
    for i in range(1, len(speed)):
        pull = max(5.2 * (1 - (speed[i - 1] / 52.0) ** 1.5), 0.3) if i < finish or not lifts else -LIFTED_MPS2
        speed[i] = min(speed[i], np.sqrt(max(speed[i - 1] ** 2 + 2 * pull, 0.09)))
    for i in range(len(speed) - 2, -1, -1):
        brake = 6.2 * pace if i < finish else 4.5
        speed[i] = min(speed[i], np.sqrt(speed[i + 1] ** 2 + 2 * brake))
    return np.asarray(np.maximum(speed, 0.3))


def _vertical(road: TrueRoad, distance: Floats, speed: Floats) -> tuple[Floats, tuple[Jump, ...]]:
    """The vertical accelerometer in g (1 standing still), and the flights."""
    bend = np.gradient(road.slope)
    felt = 1.0 + speed**2 * np.interp(distance, np.arange(len(bend)), bend) / GRAVITY_MPS2
    jumps = []
    for f in road.features:
        lip_m = f.at_m - f.length_m / 2
        here = int(np.searchsorted(distance, lip_m))
        if here >= len(speed) or f.kind not in ("jump", "crest"):
            continue
        v = float(speed[here])
        if v * v / f.radius_m <= GRAVITY_MPS2:
            continue
        air = flight_s(road.slope, lip_m, v)
        if air < LEAST_AIR_S:
            continue
        end = int(np.searchsorted(distance, lip_m + v * air))
        felt[here:end] = 0.02
        felt[end : end + 14] = 2.1
        jumps.append(Jump(lip_m, float(distance[min(end, len(distance) - 1)]), air, v))
    return np.clip(felt, 0.0, 3.5), tuple(jumps)


def flight_s(slope: Floats, from_m: float, speed_mps: float) -> float:
    """Seconds in the air of a car that leaves the ground at ``from_m``: a thrown stone, until the ground meets it.

    ``slope`` is rise over run, one value a metre.
    """
    along = np.arange(0.0, 120.0, 0.05)
    there = np.interp(from_m + along, np.arange(len(slope)), slope)
    ground = np.concatenate([[0.0], np.cumsum(0.5 * (there[1:] + there[:-1]) * 0.05)])
    stone = there[0] * along - GRAVITY_MPS2 * along**2 / (2 * speed_mps**2)
    under = np.flatnonzero((stone <= ground) & (along > 0.5))
    return float(along[under[0]] / speed_mps) if len(under) else 0.0
