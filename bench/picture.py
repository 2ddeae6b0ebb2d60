"""What the picture would add as a gyroscope: radius errors of tracks of one position a second, with and without its yaw rate.

    python bench/picture.py [--worlds 7601 7602 …]

The drives are of worlds that no fit has opened, rendered with shake, changing light, noise and a bonnet in the picture. See
docs/decisions/0015-picture.md.
"""

from __future__ import annotations

import argparse
import itertools
import sys
import time
from collections import defaultdict
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np

sys.path.insert(0, str(Path(__file__).parent))

from mirkle.core.errors import MirkleError
from mirkle.core.recording.model import Floats
from mirkle.core.review import measure_run
from mirkle.files.recordings import readers
from mirkle.synthetic import camera
from mirkle.synthetic.camera import FOCAL_PX, HIGH, WIDE, Scene, View, picture_of
from rough.worlds import World, recorded, world

A_SECOND, LENGTH_M, SHAKE_RAD = 15.0, 3000.0, 0.002
# The far half lies about the horizon; a block of so many columns is matched, and the next begins so many on.
FAR, BLOCK, HOP = slice(int(HIGH * 0.28), int(HIGH * 0.56)), 64, 24
MOST_PX, MOST_DOWN_PX = 32, 10


def filmed(w: World, scene: Scene, rng: np.random.Generator) -> Iterator[tuple[float, Floats]]:
    """Each picture of a drive in grey, with its time; the camera looks where the body points."""
    run = w.run
    for when in np.arange(0.0, run.time_s[-1], 1.0 / A_SECOND):
        i = min(int(when / (run.time_s[1] - run.time_s[0])), len(run.time_s) - 1)
        yaw = float(run.heading_rad[i] + run.slip_rad[i]) + SHAKE_RAD * rng.normal()
        view = View(float(run.east_m[i]), float(run.north_m[i]), float(run.height_m[i]), yaw, SHAKE_RAD * rng.normal())
        grey = picture_of(scene, view, float(run.distance_m[i])).mean(axis=2)
        grey *= 1.0 + 0.35 * np.sin(0.7 * when) + 0.2 * (np.sin(5.1 * when) > 0.8)
        grey[int(HIGH * 0.82) :] = 40.0
        yield when, np.clip(grey + rng.normal(0, 3.0, grey.shape), 0, 255)


def yaw_rates(pictures: Iterator[tuple[float, Floats]]) -> tuple[Floats, Floats]:
    """Times and yaw rates, radians a second to the left: how far the far half moved across between two pictures, by phase correlation of
    blocks, with what grows from the middle outwards (the drive ahead) taken out."""
    times, rates, before, window = [], [], None, np.hanning(BLOCK)
    begins = np.arange(0, WIDE - BLOCK, HOP)
    across = np.stack([np.ones(len(begins)), begins + BLOCK / 2 - WIDE / 2], axis=1)
    for when, grey in pictures:
        edges = np.diff(grey[FAR], axis=1)
        edges = np.clip(edges / (np.abs(edges).mean() + 1e-6), -6, 6)
        if before is not None:
            moved = np.array([_moved(before[:, b : b + BLOCK] * window, edges[:, b : b + BLOCK] * window) for b in begins])
            fit = np.array([np.median(moved[:, 0]), 0.0])
            for _ in range(8):
                weight = moved[:, 1] / (1.0 + ((moved[:, 0] - across @ fit) / 0.7) ** 2)
                root = np.sqrt(weight)
                fit = np.linalg.lstsq(across * root[:, None], moved[:, 0] * root, rcond=None)[0]
            times.append(when - 0.5 / A_SECOND)
            rates.append(fit[0] / FOCAL_PX * A_SECOND)
        before = edges
    return np.array(times), np.array(rates)


def _moved(a: Floats, b: Floats) -> tuple[float, float]:
    """How many pixels to the right a block moved, and how clearly."""
    size = (64, 128)
    cross = np.fft.rfft2(a, s=size).conj() * np.fft.rfft2(b, s=size)
    peaks = np.fft.irfft2(cross / (np.abs(cross) + 1e-3 * np.abs(cross).max()), s=size)
    peaks = np.roll(peaks, (MOST_DOWN_PX, MOST_PX), (0, 1))[: 2 * MOST_DOWN_PX + 1, : 2 * MOST_PX + 1]
    row, column = np.unravel_index(np.argmax(peaks), peaks.shape)
    between = 0.0
    if 0 < column < 2 * MOST_PX:
        left, top, right = peaks[row, column - 1 : column + 2]
        bend = left - 2 * top + right
        between = 0.5 * (left - right) / bend if abs(bend) > 1e-9 else 0.0
    clear = float(peaks[row, column] / (peaks.std() + 1e-9))
    return float(column) - MOST_PX + between, max(clear - 4.0, 0.01)


def track(w: World, kept: str, times: Floats, rates: Floats | None) -> bytes:
    """One position a second as a telephone gives it: ``course`` with its Doppler speed and course, ``speed`` with the speed from
    position to position, ``alone`` with neither; with a yaw rate beside it if wanted."""
    rows = [line.split(",") for line in recorded(w, "telephone").csv.splitlines()[1:]]
    rows = [r for r in rows if r[1]]
    at, lat, lon = (np.array([float(r[k]) for r in rows]) for k in range(3))
    north = np.radians(lat) * 6_371_000.0
    east = np.radians(lon) * 6_371_000.0 * np.cos(np.radians(lat[0]))
    legs = np.hypot(np.diff(north), np.diff(east)) / np.diff(at)
    speed = np.concatenate([legs[:1], 0.5 * (legs[1:] + legs[:-1]), legs[-1:]]) * 3.6
    middle: dict[str, Any] = {
        "course": lambda k: rows[k][3:7],
        "speed": lambda k: ["", f"{speed[k]:.2f}", "", ""],
        "alone": lambda _: [""] * 4,
    }
    lines = [(float(r[0]), ",".join([*r[:3], *middle[kept](k), ""])) for k, r in enumerate(rows)]
    if rates is not None:
        lines += [(t, f"{t:.3f},,,,,,,{np.degrees(v):.3f}") for t, v in zip(times, rates, strict=True)]
    head = "time_s,lat_deg,lon_deg,alt_m,speed_kmh,course_deg,hacc_m,yaw_rate_dps"
    return "\n".join([head, *(line for _, line in sorted(lines))]).encode()


def radius_errors(w: World, csv: bytes) -> list[float]:
    """How far off the tightest radius of each bend of 15 degrees and more is, as a natural logarithm."""
    run, window = w.run, np.ones(9) / 9
    found = measure_run(readers.parse_run(csv, name="track.csv")).profile
    along = np.flatnonzero(np.diff(run.distance_m, prepend=-1.0) > 1e-6)
    at = np.arange(0.0, run.distance_m[-1])
    bent = np.convolve(np.interp(at, run.distance_m[along], run.curvature_per_m[along]), window, "same")
    when = np.interp(at, run.distance_m[along], run.time_s[along])
    seen = np.convolve(found.curvature_per_m, window, "same")
    side = np.where(np.abs(bent) > 1 / 150, np.sign(bent), 0.0)
    out = []
    edges = np.flatnonzero(np.diff(side, prepend=0.0))
    for a, b in itertools.pairwise(edges):
        counts = side[a] and b - a >= 10 and abs(bent[a:b].sum()) > np.radians(15) and run.start_s + 5 < when[a] < run.finish_s
        if not counts:
            continue
        first, last = int(found.metres_at(when[a] - 0.3)) - 6, int(found.metres_at(when[b - 1] + 0.3)) + 16
        tightest = max(float((seen[max(first, 0) : last] * side[a]).max()), 1e-4)
        out.append(abs(np.log(tightest / np.abs(bent[a:b]).max())))
    return out


def main() -> int:
    """Prints the table."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--worlds", type=int, nargs="+", default=[7601, 7602, 7603, 7604])
    errors: dict[tuple[str, str], list[float]] = defaultdict(list)
    for number in parser.parse_args().worlds:
        w = world(number, held_out=number >= 5000, length_m=LENGTH_M)
        rng = np.random.default_rng(number)
        # A camera's surroundings: the driven line is taken for the road's middle.
        scene = camera.scene_of(rng, w.road, w.run)  # type: ignore[arg-type]
        begun = time.process_time()
        times, rates = yaw_rates(filmed(w, scene, rng))
        cost = (time.process_time() - begun) / (w.run.time_s[-1] / 60)
        body = np.interp(times, w.run.time_s, np.gradient(w.run.heading_rad + w.run.slip_rad, w.run.time_s))
        off = np.degrees(np.std(rates - body))
        print(
            f"world {number}: video yaw off by {off:.1f} deg/s, correlation {np.corrcoef(rates, body)[0, 1]:.3f}; {cost:.0f} CPU s a minute"
        )
        for kept in ("course", "speed", "alone"):
            for name, yaw in (("without", None), ("with the picture's", rates), ("with a perfect gyroscope's", body)):
                try:
                    errors[kept, name] += radius_errors(w, track(w, kept, times, yaw))
                except MirkleError as fault:
                    print(kept, name, fault)
    for (kept, name), found in errors.items():
        print(f"{kept:7} {name:28} {len(found):4} bends: median {np.median(found):.1%}, 90th {np.quantile(found, 0.9):.1%}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
