"""A stand-in for the road: corners, straights and things in the vertical, from a fixed seed."""

from __future__ import annotations

import itertools
from dataclasses import dataclass

import numpy as np

from mirkle.core.recording.model import Floats

# Radius of the middle of each grade from 1 to 6, about a factor of 1.6 a grade. # common practice
TIGHTEST_M, PER_GRADE = 18.0, 1.62
BUMP_HEIGHT_M = 0.13


@dataclass(frozen=True)
class TrueCorner:
    """One corner of the road; ``end_radius_m`` differs from ``radius_m`` where it tightens or opens half-way."""

    from_m: float
    to_m: float
    side: int
    radius_m: float
    end_radius_m: float
    turn_deg: float
    word: str  # "hairpin", "square" or ""


@dataclass(frozen=True)
class TrueFeature:
    """Something in the vertical: ``crest``, ``jump``, ``bump`` or ``dip`` with its vertical radius and length."""

    kind: str
    at_m: float
    radius_m: float
    length_m: float


@dataclass(frozen=True)
class TrueRoad:
    """The road, one value a metre; curvature positive to the left, slope as rise over run; (n,)."""

    curvature_per_m: Floats
    slope: Floats
    corners: tuple[TrueCorner, ...]
    features: tuple[TrueFeature, ...]
    finish_m: float
    tarmac: tuple[tuple[float, float], ...]


def radius_of(position: float) -> float:
    """Road radius in metres at a position on the plain 1 to 6 scale."""
    return float(TIGHTEST_M * PER_GRADE ** (position - 1.0))


def make_road(rng: np.random.Generator, *, length_m: float, run_out_m: float = 320.0) -> TrueRoad:
    """A road of about the given length from start to finish, and a run-out to the stop line behind it."""
    corners: list[TrueCorner] = []
    at, heading, last_side = float(rng.uniform(70, 110)), 0.0, 1
    while True:
        corner = _corner(rng, at, heading, last_side)
        if corner.to_m > length_m - 60:
            break
        corners.append(corner)
        heading += corner.side * corner.turn_deg
        last_side = corner.side
        at = corner.to_m + _gap(rng)
    features = _features(rng, corners, length_m)
    total = int(length_m + run_out_m)
    return TrueRoad(
        curvature_per_m=_curvature(corners, total),
        slope=_slope(rng, features, total),
        corners=tuple(corners),
        features=features,
        finish_m=float(length_m),
        tarmac=((0.31 * length_m, 0.38 * length_m), (0.72 * length_m, 0.76 * length_m)),
    )


def _corner(rng: np.random.Generator, at: float, heading: float, last_side: int) -> TrueCorner:
    # The road wanders about one main direction, and mostly from one side to the other.
    pull = np.tanh(heading / 110.0)
    side = 1 if rng.random() < 0.5 - 0.30 * last_side - 0.35 * pull else -1
    draw = rng.random()
    if draw < 0.035:
        radius, turn, word = rng.uniform(9.5, 12.5), rng.uniform(125, 165), "hairpin"
        side = -1 if heading > 0 else 1
    elif draw < 0.065:
        radius, turn, word = rng.uniform(12.5, 15.0), rng.uniform(82, 96), "square"
    else:
        position = rng.choice([1, 2, 3, 4, 5, 6], p=[0.03, 0.09, 0.18, 0.27, 0.26, 0.17]) + rng.normal(0, 0.12)
        radius, word = radius_of(position), ""
        turn = float(np.clip(rng.lognormal(np.log(78.0 - 9.0 * position), 0.4), 15.0, 150.0))
        if position > 4.5:
            turn = min(turn, 60.0)
    end_radius = radius
    shape = rng.random()
    if not word and turn > 34 and shape < 0.24 and 26 < radius < 160:
        end_radius = radius / PER_GRADE**1.1 if shape < 0.15 else radius * PER_GRADE**1.1
    mean_radius = 2.0 / (1.0 / radius + 1.0 / end_radius)
    length = float(np.radians(turn) * mean_radius)
    return TrueCorner(at, at + length, side, float(radius), float(end_radius), float(turn), word)


def _gap(rng: np.random.Generator) -> float:
    draw = rng.random()
    if draw < 0.16:
        return float(rng.uniform(5, 12))
    if draw < 0.90:
        return float(np.clip(rng.lognormal(np.log(42.0), 0.5), 18.0, 140.0))
    return float(rng.uniform(150, 380))


def _features(rng: np.random.Generator, corners: list[TrueCorner], length_m: float) -> tuple[TrueFeature, ...]:
    """Crests, jumps, bumps and dips on the straighter parts, never near each other."""
    features: list[TrueFeature] = []
    kinds = ["crest"] * 6 + ["jump"] * 4 + ["bump"] * 4 + ["dip"] * 4
    places = [0.5 * (a.to_m + b.from_m) for a, b in itertools.pairwise(corners) if 45 < b.from_m - a.to_m < 145]
    places = [p for p in places if 300 < p < length_m - 300]
    rng.shuffle(places)
    for kind in kinds:
        for place in places:
            if all(abs(place - f.at_m) > 250 for f in features):
                radius = {"crest": rng.uniform(140, 220), "jump": rng.uniform(42, 60), "bump": 30.0, "dip": rng.uniform(90, 140)}
                length = {"crest": 16.0, "jump": 7.0, "bump": 6.0, "dip": 14.0}
                features.append(TrueFeature(kind, float(place), float(radius[kind]), length[kind]))
                break
    return tuple(sorted(features, key=lambda f: f.at_m))


def _curvature(corners: list[TrueCorner], total: int) -> Floats:
    curvature = np.zeros(total)
    for c in corners:
        first, last = int(c.from_m), max(int(c.from_m) + 2, int(c.to_m))
        half = first + int((last - first) * c.end_radius_m / (c.radius_m + c.end_radius_m) if c.radius_m != c.end_radius_m else 0)
        if c.radius_m == c.end_radius_m:
            curvature[first:last] = c.side / c.radius_m
        else:
            half = (first + last) // 2
            curvature[first:half] = c.side / c.radius_m
            curvature[half:last] = c.side / c.end_radius_m
    return curvature


def _slope(rng: np.random.Generator, features: tuple[TrueFeature, ...], total: int) -> Floats:
    at = np.arange(total, dtype=float)
    slope = np.zeros(total)
    for wave in (900.0, 420.0, 260.0):
        slope += rng.normal(0, 0.012) * np.sin(2 * np.pi * at / wave + rng.uniform(0, 6.28))
    for f in features:
        if f.kind == "bump":
            # Up and down again within its length, a good hand high.
            across = np.clip((at - f.at_m) / f.length_m, -0.5, 0.5)
            slope -= 0.5 * BUMP_HEIGHT_M * 2 * np.pi / f.length_m * np.sin(2 * np.pi * across)
            continue
        sign = -1.0 if f.kind in ("crest", "jump") else 1.0
        inside = np.abs(at - f.at_m) <= f.length_m / 2
        # The ground bends over by length / radius inside the feature and comes back gently behind it.
        bend = np.cumsum(np.where(inside, sign / f.radius_m, 0.0))
        slope += (bend - 0.5 * sign * f.length_m / f.radius_m) * np.exp(-np.abs(at - f.at_m) / 45.0)
    return slope
