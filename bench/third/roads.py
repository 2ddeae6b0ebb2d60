"""Roads whose plan was recorded on real forest tracks, over hills from a random surface.

``tracks.csv`` holds the densely recorded stretches of two bicycle rides: the test files ``korita-zbevnica.gpx`` and
``cerknicko-jezero.gpx`` of gpxpy 1.6.2, copyright Tomo Krajina and contributors, Apache License 2.0 (``tests/outside/tracks``), as metres
from each stretch's first point. There is no arc and no spiral in them. A road is a row of pieces of them, mirrored, reversed and
stretched; only their curvature is joined.
"""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path
from typing import Any

import numpy as np
from scipy.interpolate import splev, splprep

from rough.roads import Floats, Road, Thing, even, noise

# A recorded point is off by about this much; the spline may be.
POINT_OFF_M = 1.2
TIGHTEST_M = 8.5
# The ground's change of slope within 16 m that a crew would call. # common practice
CALLED_RAD = 0.06


@lru_cache(maxsize=1)
def pieces() -> tuple[Floats, ...]:
    """The curvature of each stretch by the metre."""
    table = np.loadtxt(Path(__file__).with_name("tracks.csv"), delimiter=",", skiprows=1)
    out = []
    for piece in np.unique(table[:, 0]):
        east, north = table[table[:, 0] == piece, 1:].T
        spline: Any = splprep([east, north], s=len(east) * POINT_OFF_M**2, k=5)[0]
        fine = np.linspace(0, 1, 20 * len(east))
        x, y = splev(fine, spline)
        along = np.concatenate([[0.0], np.cumsum(np.hypot(np.diff(x), np.diff(y)))])
        at = np.interp(np.arange(0.0, along[-1]), along, fine)
        (dx, dy), (ddx, ddy) = splev(at, spline, 1), splev(at, spline, 2)
        bent = (dx * ddy - dy * ddx) / np.hypot(dx, dy) ** 3
        out.append(even(np.tanh(bent * TIGHTEST_M) / TIGHTEST_M, 3.0))
    return tuple(out)


def third_road(rng: np.random.Generator, length_m: float) -> Road:
    """A road of about that length."""
    parts = [np.zeros(90)]
    while sum(map(len, parts)) < length_m - 60:
        piece = pieces()[int(rng.integers(len(pieces())))]
        size = int(min(len(piece), rng.uniform(120, 600)))
        first = int(rng.integers(0, len(piece) - size + 1))
        cut = piece[first : first + size] * rng.choice([-1, 1])
        cut = cut[::-1] if rng.random() < 0.5 else cut
        wider = float(rng.uniform(1.0, 2.1))
        grown = np.interp(np.arange(int(size * wider)) / wider, np.arange(size), cut) / wider
        fade = np.clip(np.minimum(np.arange(len(grown)), np.arange(len(grown))[::-1]) / 12.0, 0, 1)
        parts += [grown * fade, np.zeros(int(rng.exponential(55.0)) + 6)]
    curvature = np.concatenate([*parts, np.zeros(330)])
    finish = float(len(curvature) - 300)
    curvature[int(finish) - 60 :] = 0.0
    slope = _hills(rng, curvature)
    total = len(curvature)
    surface = str(rng.choice(["gravel", "gravel", "tarmac"]))
    grip = {"gravel": 6.0, "tarmac": 9.2}[surface] * (1 + 0.07 * noise(rng, total, 90.0))
    room = np.clip(1.2 + 0.5 * noise(rng, total, 70.0), 0.4, 2.4)
    return Road(curvature, slope, room, np.clip(grip, 3.8, 11.0), _things(slope, finish), finish, surface)


def _hills(rng: np.random.Generator, curvature: Floats) -> Floats:
    """The slope of the road over a surface of waves from 30 m to 2 km that grow with their length, the ground levelled as a road is."""
    heading = np.cumsum(curvature)
    east, north = np.cumsum(np.cos(heading)), np.cumsum(np.sin(heading))
    height = np.zeros(len(curvature))
    for wave in np.geomspace(32.0, 2000.0, 90):
        way, phase = rng.uniform(0, 2 * np.pi, 2)
        size = 0.0011 * wave ** rng.uniform(1.0, 1.2)
        height += size * np.sin(2 * np.pi * (east * np.cos(way) + north * np.sin(way)) / wave + phase)
    slope = even(np.gradient(height), 7.0)
    slope = 0.11 * np.tanh(slope / 0.11)
    # A track goes over the edge of each terrace where somebody once built it.
    for at in rng.uniform(250, len(slope) - 500, int(len(slope) / 420)):
        over, rise = float(rng.uniform(2.5, 7.0)), float(rng.uniform(-0.13, 0.09))
        away = np.arange(len(slope)) - at
        slope += rise * (0.5 + 0.5 * np.tanh(away / over)) * np.exp(-np.maximum(away, 0) / 40.0)
    return slope


def _things(slope: Floats, finish_m: float) -> tuple[Thing, ...]:
    """The brows and hollows that one feels, from the slope itself."""
    turned = np.zeros(len(slope))
    turned[8:-8] = slope[16:] - slope[:-16]
    out: list[Thing] = []
    for at in np.argsort(-np.abs(turned)):
        if abs(turned[at]) < CALLED_RAD:
            break
        if 120 < at < finish_m - 120 and all(abs(t.at_m - at) > 45 for t in out):
            out.append(Thing("crest" if turned[at] < 0 else "dip", float(at), 16.0, float(abs(turned[at]))))
    return tuple(sorted(out, key=lambda t: t.at_m))
