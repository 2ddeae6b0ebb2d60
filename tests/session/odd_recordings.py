"""Recordings of roads and receivers that are hardly any: few bends, none, a car that stands, positions that jump. # made up after what loggers
leave behind"""

from __future__ import annotations

import random
import time
import traceback
from collections.abc import Callable

import numpy as np

from mirkle.core.errors import MirkleError
from mirkle.files.project.project import SourceFile
from mirkle.session.reviewing import Inputs, review_material
from tests.worlds import recording_of_curvature

NOTES = SourceFile(
    "notes", "notes.txt", b"L4 80\nR3 60\nL6 150\nR1 20\nL5 into\nR2 40\nhp L 30\nL3 >2 60\nR4 70\nL2 50\nR5 100\nL4 to finish\n"
)
MOST_CPU_S = 20.0


def _csv(time_s: np.ndarray, lat: np.ndarray, lon: np.ndarray, speed: np.ndarray | None) -> bytes:
    columns = [time_s, lat, lon] if speed is None else [time_s, lat, lon, speed]
    head = "time_s,lat_deg,lon_deg" + (",speed_mps" if speed is not None else "")
    rows = ("{:.3f},{:.7f},{:.7f}".format(*row[:3]) + (f",{row[3]:.2f}" if speed is not None else "") for row in zip(*columns, strict=True))
    return "\n".join([head, *rows]).encode()


def _few_bends(chance: random.Random) -> bytes:
    """A straight with nought to four bends."""
    parts = [np.zeros(chance.randint(100, 1500))]
    for _ in range(chance.randint(0, 4)):
        radius = chance.choice((8.0, 20.0, 60.0, 200.0, 1000.0)) * chance.choice((1, -1))
        parts += [np.full(chance.randint(5, 150), 1 / radius), np.zeros(chance.randint(5, 800))]
    run = recording_of_curvature(np.concatenate(parts), seed=chance.randrange(99), noise=chance.choice((0.0, 1.0, 3.0)))
    lat, lon = (np.degrees(run.channels[n].value) for n in ("lat_rad", "lon_rad"))
    speed = run.channels["speed_mps"].value if chance.random() < 0.6 else None
    return _csv(run.channels["lat_rad"].time_s, lat, lon, speed)


def _stands(chance: random.Random) -> bytes:
    """A receiver that stands, whose place wanders and jumps."""
    rng, count = np.random.default_rng(chance.randrange(10**6)), chance.randint(25, 1500)
    step = chance.choice((0.0, 1e-7, 1e-6, 1e-5, 1e-4))
    lat, lon = (np.cumsum(rng.normal(0, step, count)) + rng.normal(0, 1e-6, count) for _ in range(2))
    for at in rng.integers(0, count, chance.randint(0, 5)):
        lat[at:] += rng.normal(0, chance.choice((1e-4, 1e-2, 1.0)))
    speed = np.abs(rng.normal(0, 0.3, count)) if chance.random() < 0.5 else None
    return _csv(np.arange(count) * chance.choice((0.1, 1.0, 2.0)), 44.0 + lat, -33.5 + lon, speed)


def _straight(chance: random.Random) -> bytes:
    """A ruler's line, without noise or with it."""
    rng, count = np.random.default_rng(chance.randrange(10**6)), chance.randint(25, 2000)
    metres = np.arange(count) * chance.choice((0.0, 0.5, 2.0, 20.0))
    bearing = chance.choice((0.0, 90.0, 45.0, 180.0))
    noise = chance.choice((0.0, 1e-7, 1e-6))
    lat = 44.0 + metres * np.cos(np.radians(bearing)) / 111_000 + rng.normal(0, noise, count)
    lon = -33.5 + metres * np.sin(np.radians(bearing)) / 80_000 + rng.normal(0, noise, count)
    return _csv(np.arange(count) * chance.choice((1e-6, 0.1, 1.0)), lat, lon, None)


def _walk(chance: random.Random) -> bytes:
    """A way that turns at random, here and there the same place twice."""
    rng, count = np.random.default_rng(chance.randrange(10**6)), chance.randint(40, 2500)
    heading = np.cumsum(rng.normal(0, chance.choice((0.02, 0.3, 2.0)), count))
    speed = np.abs(rng.normal(chance.choice((1.0, 10.0, 30.0)), 2.0, count))
    speed[rng.random(count) < 0.1] = 0.0
    step_s = chance.choice((0.2, 1.0))
    lat = 44.0 + np.cumsum(speed * np.cos(heading)) * step_s / 111_000
    lon = -33.5 + np.cumsum(speed * np.sin(heading)) * step_s / 80_000
    return _csv(np.arange(count) * step_s, lat, lon, speed if chance.random() < 0.5 else None)


def _turns(chance: random.Random) -> bytes:
    """Speed and yaw rate alone."""
    rng, count = np.random.default_rng(chance.randrange(10**6)), chance.randint(25, 3000)
    speed = np.abs(rng.normal(chance.choice((0.0, 5.0, 25.0)), 1.0, count))
    yaw = rng.normal(0, chance.choice((0.0, 0.01, 0.4)), count)
    step_s = chance.choice((1e-6, 0.05, 0.5))
    rows = (f"{i * step_s:.6f},{v:.2f},{w:.4f}" for i, (v, w) in enumerate(zip(speed, yaw, strict=True)))
    return "\n".join(["time_s,speed_mps,yaw_rate_radps", *rows]).encode()


KINDS: tuple[Callable[[random.Random], bytes], ...] = (_few_bends, _few_bends, _stands, _straight, _walk, _walk, _turns)


def tried(seed: int) -> str | None:
    """Reviews one odd recording; returns what went wrong, ``None`` where it was reviewed or refused in a sentence."""
    chance = random.Random(seed)
    kind = chance.choice(KINDS)
    content, began = kind(chance), time.process_time()
    try:
        review_material(Inputs(SourceFile("run", "odd.csv", content), NOTES))
    except MirkleError:
        pass
    except Exception:
        return f"{seed}, {kind.__name__}:\n{traceback.format_exc(limit=-4)}"
    took_s = time.process_time() - began
    return f"{seed}, {kind.__name__}: {took_s:.1f} s" if took_s > MOST_CPU_S else None
