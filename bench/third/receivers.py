"""Receivers that smooth: what they print has gone through a filter of their own, and their course is that filter's."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from scipy.signal import lfilter

from mirkle.synthetic.recorder import _degrees
from rough.driving import Drive
from rough.recorders import COLUMNS, Box, Recorded, inertial_rows, position_row, recorded_rotation, wandering
from rough.roads import Floats


@dataclass(frozen=True)
class Receiver:
    """A kind of recorder: how often it prints and how often it works (Hz), its filter, its raw noise (m), inertial channels (Hz), shake (g)."""

    name: str
    prints_hz: float
    works_hz: float
    filter: str
    noise_m: float
    inertial_hz: float
    shake_g: float = 0.6


RECEIVERS = (
    Receiver("25 Hz, plain", 25.0, 25.0, "none", 0.08, 100.0),
    Receiver("10 Hz, smooths", 10.0, 10.0, "speed", 0.25, 50.0),
    Receiver("telephone, smooths", 1.0, 10.0, "speed", 0.8, 100.0),
    Receiver("5 Hz, smooths, alone", 5.0, 5.0, "speed", 0.3, 0.0),
)


def record(rng: np.random.Generator, run: Drive, receiver: Receiver, *, gravel: bool, other: bool, kept: bool) -> Recorded:
    """The recording of a drive. A filter is one of constant speed or of constant acceleration; of the ``other`` worlds it is a moving mean,
    of the ``kept`` ones an exponential one."""
    late = float(rng.uniform(0.03, 0.35))
    turn = recorded_rotation(np.radians(rng.uniform(-12, 12, 3)))
    rows = _positions(rng, run, receiver, late, order=1 if kept else 0 if other else int(rng.choice([2, 3])))
    if receiver.inertial_hz:
        box = Box(receiver.name, receiver.prints_hz, receiver.inertial_hz, 12.0, (late, late), receiver.shake_g)
        rows += inertial_rows(rng, run, box, turn, gravel=gravel)
    rows.sort(key=lambda r: r[0])
    return Recorded(COLUMNS + "\n" + "\n".join(text for _, text in rows) + "\n", late, turn[:, 2])


def _positions(rng: np.random.Generator, run: Drive, receiver: Receiver, late_s: float, *, order: int) -> list[tuple[float, str]]:
    step = 1 / receiver.works_hz
    stamps = np.arange(float(rng.uniform(0.05, 0.2)), run.time_s[-1], step)
    true = stamps - late_s
    read = [np.interp(true, run.time_s, axis) for axis in (run.east_m, run.north_m)]
    raw = np.array([axis + rng.normal(0, receiver.noise_m, len(stamps)) + wandering(rng, len(stamps), step, 0.8, 50.0) for axis in read])
    if receiver.filter == "none":
        place, going = (raw, np.array([np.interp(true, run.time_s, np.gradient(a, 0.01)) for a in (run.east_m, run.north_m)]))
        going = going + rng.normal(0, 0.06, going.shape)
    elif order < 2:
        over_s = float(rng.uniform(0.3, 0.8))
        place, going = _eased(raw, step, 0.5 * over_s) if order else _meant(raw, step, over_s)
        # Its speed is measured by itself, as most do it.
        true_speed = np.interp(true, run.time_s, run.speed_mps) + rng.normal(0, 0.1, len(true))
        going = going * (np.abs(true_speed) / np.maximum(np.hypot(*going), 1e-3))
    else:
        ratio = float(np.exp(rng.uniform(np.log(1.0), np.log(60.0))))
        place, going = _filtered(raw, step, ratio * (6.0 if order == 3 else 1.0), order)
    course = np.degrees(np.arctan2(going[0], going[1])) % 360
    speed = np.hypot(*going)
    height = np.interp(true, run.time_s, run.height_m) + wandering(rng, len(stamps), step, 2.0, 60.0)
    lat, lon = _degrees((43.7, -34.1), place[0], place[1])
    every = round(receiver.works_hz / receiver.prints_hz)
    hacc = 0.6 + 2.0 * receiver.noise_m
    return [position_row(stamps[i], lat[i], lon[i], height[i], speed[i], course[i], hacc) for i in range(0, len(stamps), every)]


def _meant(raw: Floats, step_s: float, over_s: float) -> tuple[Floats, Floats]:
    """The mean of the places of the last ``over_s`` seconds, and the speed with which it moves; each (2, n)."""
    count = max(2, round(over_s / step_s))
    padded = np.pad(raw, ((0, 0), (count - 1, 0)), mode="edge")
    place = np.array([np.convolve(axis, np.ones(count) / count, mode="valid") for axis in padded])
    return place, np.gradient(place, step_s, axis=1)


def _eased(raw: Floats, step_s: float, time_s: float) -> tuple[Floats, Floats]:
    """An exponential mean of the places with that time constant, and the chord from the place before; each (2, n)."""
    share = 1.0 - np.exp(-step_s / time_s)
    place = lfilter([share], [1.0, share - 1.0], raw, axis=1, zi=(1.0 - share) * raw[:, :1])[0]
    return place, np.diff(place, axis=1, prepend=place[:, :1]) / step_s


def _filtered(raw: Floats, step_s: float, ratio: float, order: int) -> tuple[Floats, Floats]:
    """A Kalman filter of constant speed (``order`` 2) or acceleration (3), ``ratio`` its process over its measurement noise; places and
    speeds, each (2, n)."""
    f = np.eye(order)
    for i, j in pairwise(range(order)):
        f[i, j] = step_s
    if order == 3:
        f[0, 2] = 0.5 * step_s**2
    load = np.array([step_s**3 / 6, step_s**2 / 2, step_s]) if order == 3 else np.array([step_s**2 / 2, step_s])
    q = ratio * np.outer(load, load) / step_s
    p = np.eye(order) * 100.0
    for _ in range(400):
        p = f @ p @ f.T + q
        gain = p[:, 0] / (p[0, 0] + 1.0)
        p = p - np.outer(gain, p[0])
    state = np.zeros((order, 2))
    state[0] = raw[:, 0]
    place, going = np.zeros(raw.shape), np.zeros(raw.shape)
    for i in range(raw.shape[1]):
        state = f @ state
        state += gain[:, None] * (raw[:, i] - state[0])
        place[:, i], going[:, i] = state[0], state[1]
    return place, going
