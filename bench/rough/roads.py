"""Roads by the metre: two generators that share nothing but the units."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
# A vertical crest or dip that a crew would call turns the road by this much within some 16 m. # common practice
CALLED_RAD = 0.045


@dataclass(frozen=True)
class Thing:
    """Something in the vertical: ``crest``, ``jump``, ``dip`` or ``bump``, its middle, and by how much the road turns there."""

    kind: str
    at_m: float
    length_m: float
    turns_rad: float


@dataclass(frozen=True)
class Road:
    """One value a metre, (n,): curvature to the left, rise over run, half of the free width, and grip in m/s2."""

    curvature_per_m: Floats
    slope: Floats
    room_m: Floats
    grip_mps2: Floats
    things: tuple[Thing, ...]
    finish_m: float
    surface: str


def even(values: Floats, sigma_m: float) -> Floats:
    """Values by the metre evened by a Gaussian, (n,)."""
    half = int(4 * sigma_m) + 1
    kernel = np.exp(-0.5 * (np.arange(-half, half + 1) / sigma_m) ** 2)
    return np.convolve(np.pad(values, half, mode="edge"), kernel / kernel.sum(), mode="valid")


def noise(rng: np.random.Generator, count: int, sigma_m: float) -> Floats:
    """Smooth noise of unit power over so many metres, as steady at its ends as anywhere, (count,)."""
    margin = int(4 * sigma_m) + 1
    white = rng.normal(0, 1, count + 2 * margin)
    return np.asarray(even(white, sigma_m)[margin:-margin] * np.sqrt(2 * sigma_m * np.sqrt(np.pi)), dtype=np.float64)


def training_road(rng: np.random.Generator, length_m: float) -> Road:
    """Stretches of one manner each (chicanes, hairpin ladders, sweeps, compounds, mixed), corners as spirals."""
    total = int(length_m + 300)
    curvature, slope = np.zeros(total), np.zeros(total)
    at, side, heading = 90.0, 1, 0.0
    while at < length_m - 120:
        manner = rng.choice(["chicane", "ladder", "sweeps", "compound", "mixed"], p=[0.15, 0.12, 0.18, 0.2, 0.35])
        until = at + rng.uniform(350, 900)
        first = at
        while at < min(until, length_m - 120):
            side = -side if rng.random() < 0.72 or (abs(heading) > 130 and heading * side > 0) else side
            radius, turn, gap = _manner(rng, manner)
            parts = [radius]
            if manner == "compound" or (rng.random() < 0.18 and radius < 150):
                shapes = ((1.0, 0.55), (0.6, 1.0), (1.0, 0.6, 1.1), (0.65, 1.2, 0.7))
                parts = [radius * f for f in shapes[int(rng.integers(4))]]
            for part in parts:
                length = np.radians(turn) * part / len(parts)
                a, b = int(at), min(int(at + max(length, 8)), total - 1)
                curvature[a:b] = side / part
                at = float(b)
                heading += side * np.degrees((b - a) / part)
            at += gap
        if manner == "ladder":
            slope[int(first) : int(at)] += rng.choice([-1, 1]) * 0.09
    ramps = 2.5 + 6.0 * rng.random()
    curvature = even(curvature, ramps)
    curvature += noise(rng, total, 35.0) / 1500.0
    things = _things(rng, curvature, length_m)
    for wave in (1100.0, 530.0, 210.0):
        slope += rng.normal(0, 0.014) * np.sin(2 * np.pi * np.arange(total) / wave + rng.uniform(0, 6.28))
    slope = even(slope, 12.0)
    surface = str(rng.choice(["gravel", "gravel", "tarmac"]))
    base = {"gravel": 5.8, "tarmac": 9.0}[surface]
    grip = base * (1 + 0.06 * noise(rng, total, 120.0))
    room = 0.9 + 0.6 * rng.random() + 0.3 * noise(rng, total, 80.0)
    return Road(curvature, slope + _rises(things, total), np.clip(room, 0.4, 2.5), np.clip(grip, 3.5, 11), things, length_m, surface)


def _manner(rng: np.random.Generator, manner: str) -> tuple[float, float, float]:
    """Radius (m), turn (degrees) and the straight behind (m) of one corner of a stretch."""
    if manner == "chicane":
        return float(rng.uniform(18, 60)), float(rng.uniform(25, 60)), float(rng.uniform(2, 22))
    if manner == "ladder":
        return float(rng.uniform(8, 14)), float(rng.uniform(120, 175)), float(rng.uniform(30, 110))
    if manner == "sweeps":
        return float(rng.lognormal(np.log(130), 0.35)), float(rng.uniform(18, 75)), float(rng.uniform(5, 120))
    draw = rng.random()
    gap = float(rng.uniform(3, 14) if draw < 0.3 else np.clip(rng.lognormal(np.log(55), 0.6), 15, 330))
    radius = float(np.clip(rng.lognormal(np.log(48), 0.65), 9, 260))
    turn = float(np.clip(rng.lognormal(np.log(62 - 8 * np.log(radius / 20)), 0.5), 12, 165))
    return radius, turn, gap


def held_out_road(rng: np.random.Generator, length_m: float) -> Road:
    """A road from smooth noise: a slow and a quick process are added and bent by a power, with quiet stretches between."""
    total = int(length_m + 300)
    at = np.arange(total)

    def process(sigma_m: float) -> Floats:
        return noise(rng, total, sigma_m)

    wild = np.exp(0.45 * process(300.0))
    quick, slow = process(rng.uniform(13, 18)), process(rng.uniform(28, 40))
    x = (0.75 * quick + 0.65 * slow) * wild
    # The power makes gentle bends gentler and leaves straights; the cap is a hairpin.
    curvature = np.sign(x) * np.abs(x) ** rng.uniform(1.7, 2.1) / rng.uniform(42.0, 60.0)
    curvature = 0.1 * np.tanh(curvature / 0.1)
    curvature[:80] = 0.0
    curvature[int(length_m) - 70 :] = 0.0
    curvature = even(curvature, 3.0)
    things = _things(rng, curvature, length_m)
    slope = 0.03 * process(180.0) + 0.012 * process(45.0)
    slope = even(slope, 10.0)
    surface = str(rng.choice(["gravel", "gravel", "tarmac"]))
    grip = {"gravel": 6.3, "tarmac": 8.6}[surface] * (1 + 0.05 * np.sin(2 * np.pi * at / rng.uniform(500, 1500)))
    room = np.clip(1.3 + 0.4 * process(60.0), 0.4, 2.8)
    return Road(curvature, slope + _rises(things, total), room, grip, things, length_m, surface)


def _things(rng: np.random.Generator, curvature: Floats, length_m: float) -> tuple[Thing, ...]:
    out: list[Thing] = []
    for _ in range(int(length_m / 130)):
        at = float(rng.uniform(200, length_m - 200))
        if any(abs(t.at_m - at) < 110 for t in out):
            continue
        kind = str(rng.choice(["crest", "jump", "dip", "bump"], p=[0.4, 0.2, 0.25, 0.15]))
        if kind == "jump" and np.abs(curvature[int(at) - 15 : int(at) + 30]).max() > 1 / 90:
            continue
        turns = {"crest": rng.uniform(0.055, 0.12), "jump": rng.uniform(0.075, 0.17), "dip": rng.uniform(0.06, 0.13), "bump": 0.07}
        length = {"crest": rng.uniform(10, 22), "jump": rng.uniform(5, 9), "dip": rng.uniform(10, 20), "bump": 6.0}
        out.append(Thing(kind, at, float(length[kind]), float(turns[kind])))
    return tuple(sorted(out, key=lambda t: t.at_m))


def _rises(things: tuple[Thing, ...], total: int) -> Floats:
    at = np.arange(total, dtype=float)
    slope = np.zeros(total)
    for t in things:
        away = (at - t.at_m) / t.length_m
        if t.kind == "bump":
            slope -= t.turns_rad * np.sin(2 * np.pi * np.clip(away, -0.5, 0.5))
            continue
        sign = 1.0 if t.kind == "dip" else -1.0
        step = np.clip(away, -0.5, 0.5)
        slope += sign * t.turns_rad * (step + np.sin(2 * np.pi * step) / (2 * np.pi)) * np.exp(-np.abs(at - t.at_m) / 55.0)
    return slope
