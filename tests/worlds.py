"""Small worlds for tests: lines whose curvature is known exactly, recorded without the stand-ins."""

from __future__ import annotations

import numpy as np
from geographiclib.geodesic import Geodesic

from mirkle.core.recording.model import Channel, Recording

ORIGIN = (44.2, -33.5)


def degrees_of(east_m: np.ndarray, north_m: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Latitude and longitude by geodesics from the origin: not the projection that is under test."""
    lat, lon = [], []
    for east, north in zip(east_m, north_m, strict=True):
        end = Geodesic.WGS84.Direct(*ORIGIN, float(np.degrees(np.arctan2(east, north))), float(np.hypot(east, north)))
        lat.append(end["lat2"])
        lon.append(end["lon2"])
    return np.array(lat), np.array(lon)


def recording_of_curvature(
    curvature_per_m: np.ndarray,
    *,
    speed_mps: float = 20.0,
    rate_hz: float = 10.0,
    noise: float = 1.0,
    inertial: bool = True,
    seed: int = 3,
    lever: dict[str, float] | None = None,
    stands_s: float = 5.0,
) -> Recording:
    """A recording of a car that stands ``stands_s``, gets away at 4 m/s2, follows a curvature given each metre
    with up to 7 m/s2 sideways, and stops.

    ``noise`` scales every sensor's noise; ``lever`` shifts channels by name, such as a biased gyro.
    """
    rng = np.random.default_rng(seed)
    length = len(curvature_per_m) - 1
    s = np.arange(length + 1.0)
    v = np.minimum(speed_mps, np.sqrt(7.0 / np.maximum(np.abs(curvature_per_m), 1e-6)))
    v[0] = v[-1] = 0.6
    for i in range(1, length + 1):
        v[i] = min(v[i], np.sqrt(v[i - 1] ** 2 + 8.0))
    for i in range(length - 1, -1, -1):
        v[i] = min(v[i], np.sqrt(v[i + 1] ** 2 + 10.0))
    t_of_s = np.concatenate([[0.0], np.cumsum(2.0 / (v[1:] + v[:-1]))])
    t = np.arange(0.0, t_of_s[-1] + stands_s + 5.0, 0.01)
    moving = np.clip(t - stands_s, 0.0, t_of_s[-1])
    at = np.interp(moving, t_of_s, s)
    speed = np.where((t > stands_s) & (t < stands_s + t_of_s[-1]), np.interp(at, s, v), 0.0)
    heading = np.interp(at, s, np.concatenate([[0.0], np.cumsum(0.5 * (curvature_per_m[1:] + curvature_per_m[:-1]))]))
    rate = np.interp(at, s, curvature_per_m) * speed
    east, north = np.cumsum(speed * np.cos(heading)) * 0.01, np.cumsum(speed * np.sin(heading)) * 0.01
    every = round(100 / rate_hz)
    fix = slice(None, None, every)
    lat, lon = degrees_of(east[fix], north[fix])
    n = len(lat)
    lat += np.degrees(rng.normal(0, 0.3 * noise, n) / 6.37e6)
    shifts = lever or {}
    channels = {
        "lat_rad": Channel(t[fix], np.radians(lat)),
        "lon_rad": Channel(t[fix], np.radians(lon)),
        "speed_mps": Channel(t[fix], np.maximum(speed[fix] + rng.normal(0, 0.08 * noise, n), 0)),
        "course_rad": Channel(
            t[fix], (np.pi / 2 - heading[fix] + 0.09 * noise / np.maximum(speed[fix], 1) * rng.normal(0, 1, n)) % (2 * np.pi)
        ),
    }
    if inertial:
        slow = slice(None, None, 2)
        channels["yaw_rate_radps"] = Channel(
            t[slow], rate[slow] + rng.normal(0, 0.008 * noise, len(t[slow])) + shifts.get("yaw_rate_radps", 0.0)
        )
        channels["acc_y_mps2"] = Channel(
            t[slow], (speed * rate)[slow] + rng.normal(0, 0.6 * noise, len(t[slow])) + shifts.get("acc_y_mps2", 0.0)
        )
    return Recording("test", channels)


def csv_of(recording: Recording) -> str:
    """A recording with positions, speed and course as CSV text."""
    c = recording.channels
    rows = zip(
        c["lat_rad"].time_s,
        np.degrees(c["lat_rad"].value),
        np.degrees(c["lon_rad"].value),
        c["speed_mps"].value,
        np.degrees(c["course_rad"].value),
        strict=True,
    )
    lines = [f"{t:.2f},{lat:.8f},{lon:.8f},{v:.2f},{h:.2f}" for t, lat, lon, v, h in rows]
    return "time_s,lat_deg,lon_deg,speed_mps,course_deg\n" + "\n".join(lines) + "\n"
