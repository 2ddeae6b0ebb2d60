"""A stand-in for the recorder in the car: real rates and real faults, as the text of a CSV file."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from mirkle.core.constants import GRAVITY_MPS2
from mirkle.core.recording.model import Floats
from mirkle.synthetic.car import Drive

HEADER = "time_s,lat_deg,lon_deg,alt_m,speed_kmh,course_deg,hacc_m,acc_x_g,acc_y_g,acc_z_g,yaw_rate_dps"


@dataclass(frozen=True)
class Recorder:
    """Rates and faults. ``outages_s`` are (from, to) without a position; ``origin`` is latitude and longitude."""

    position_hz: float = 10.0
    inertial_hz: float = 50.0
    outages_s: tuple[tuple[float, float], ...] = ()
    origin: tuple[float, float] = (44.2, -33.5)
    yaw_bias_dps: float = 0.35
    tilt_g: tuple[float, float] = (-0.06, 0.03)


def record(rng: np.random.Generator, run: Drive, recorder: Recorder) -> str:
    """The recording of a drive as CSV text, positions and inertial channels in one table."""
    rows = _inertial_rows(rng, run, recorder) + _position_rows(rng, run, recorder)
    rows.sort(key=lambda r: r[0])
    return HEADER + "\n" + "\n".join(text for _, text in rows) + "\n"


def _sampled(rng: np.random.Generator, run: Drive, rate_hz: float) -> tuple[Floats, Floats]:
    """Times of the samples as stamped (with jitter) and as they truly were."""
    true = np.arange(0.0, run.time_s[-1], 1.0 / rate_hz)
    return true + rng.normal(0, 0.0008, len(true)), true


def _inertial_rows(rng: np.random.Generator, run: Drive, recorder: Recorder) -> list[tuple[float, str]]:
    stamp, time = _sampled(rng, run, recorder.inertial_hz)

    def read(values: Floats) -> Floats:
        return np.interp(time, run.time_s, values)

    speed, curvature = read(run.speed_mps), read(run.curvature_per_m)
    shake = np.where(speed > 1, 0.02 + 0.0018 * speed, 0.004)
    forward = read(np.gradient(run.speed_mps, 0.01)) / GRAVITY_MPS2 + recorder.tilt_g[0] + rng.normal(0, 1, len(time)) * shake
    lateral = speed**2 * curvature / GRAVITY_MPS2
    # The body rolls outwards and takes gravity with it; the road has its camber.
    camber = np.convolve(rng.normal(0, 1, len(time)), np.ones(200) / 200, mode="same") * 0.4
    sideways = lateral * 1.04 + recorder.tilt_g[1] + 0.02 * camber + rng.normal(0, 1, len(time)) * shake
    # In the air nothing pushes the car: all three axes read the sensor's own noise.
    airborne = read(run.vertical_g) < 0.1
    forward, sideways = (np.where(airborne, 0.05 * axis, axis) for axis in (forward, sideways))
    upward = read(run.vertical_g) + rng.normal(0, 1, len(time)) * np.where(airborne, 0.01, 1.6 * shake)
    # On loose ground the body yaws more than the path turns, and earlier.
    slip = 0.11 * np.clip(read(np.roll(run.curvature_per_m * run.speed_mps**2, -25)) / 7.0, -1, 1)
    yaw = np.degrees(speed * curvature + np.gradient(slip, time) * (speed > 3)) + recorder.yaw_bias_dps
    yaw += rng.normal(0, 0.5, len(time))
    return [
        (t, f"{t:.3f},,,,,,,{x:.3f},{y:.3f},{z:.3f},{r:.2f}") for t, x, y, z, r in zip(stamp, forward, sideways, upward, yaw, strict=True)
    ]


def _position_rows(rng: np.random.Generator, run: Drive, recorder: Recorder) -> list[tuple[float, str]]:
    stamp, time = _sampled(rng, run, recorder.position_hz)

    def read(values: Floats) -> Floats:
        return np.interp(time, run.time_s, values)

    step = 1.0 / recorder.position_hz
    east = read(run.east_m) + _drift(rng, len(time), step, 1.3)
    north = read(run.north_m) + _drift(rng, len(time), step, 1.3)
    height = read(run.height_m) + _drift(rng, len(time), step, 2.0)
    speed = np.maximum(read(run.speed_mps) + rng.normal(0, 0.08, len(time)), 0.0)
    wander = 0.09 / np.maximum(read(run.speed_mps), 0.05)
    course = np.degrees(np.pi / 2 - read(run.heading_rad) + np.clip(wander, 0, 3) * rng.normal(0, 1, len(time))) % 360
    lat, lon = _degrees(recorder.origin, east, north)
    hacc = np.clip(rng.normal(1.6, 0.2, len(time)), 0.8, 4.0)
    rows = []
    for i, t in enumerate(stamp):
        if any(first <= time[i] < last for first, last in recorder.outages_s):
            continue
        rows.append((t, f"{t:.3f},{lat[i]:.7f},{lon[i]:.7f},{height[i]:.1f},{speed[i] * 3.6:.2f},{course[i]:.1f},{hacc[i]:.1f},,,,"))
    return rows


def _drift(rng: np.random.Generator, count: int, step_s: float, sigma_m: float) -> Floats:
    """An error that wanders with a time constant of 40 s, plus a little white noise."""
    keep = np.exp(-step_s / 40.0)
    kick = rng.normal(0, sigma_m * np.sqrt(1 - keep**2), count)
    out = np.empty(count)
    value = rng.normal(0, sigma_m)
    for i in range(count):
        value = keep * value + kick[i]
        out[i] = value
    return out + rng.normal(0, 0.05, count)


def _degrees(origin: tuple[float, float], east: Floats, north: Floats) -> tuple[Floats, Floats]:
    from pyproj import Transformer

    here = f"+proj=aeqd +lat_0={origin[0]} +lon_0={origin[1]} +ellps=WGS84"
    lon, lat = Transformer.from_crs(here, "+proj=longlat +ellps=WGS84", always_xy=True).transform(east, north)
    return np.asarray(lat), np.asarray(lon)
