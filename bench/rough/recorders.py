"""Recorders with real faults, as CSV text: turned boxes, late positions, folded shake, warm gyros, trees, lost positions."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from mirkle.synthetic.recorder import _degrees
from rough.driving import GRAVITY_MPS2, Drive
from rough.roads import Floats

COLUMNS = "time_s,lat_deg,lon_deg,alt_m,speed_kmh,course_deg,hacc_m,acc_x_g,acc_y_g,acc_z_g,yaw_rate_dps"


@dataclass(frozen=True)
class Box:
    """A kind of recorder: rates (inertial 0: none), how far it may sit turned (degrees), lag (s), and its shake on gravel (g)."""

    name: str
    position_hz: float
    inertial_hz: float
    turned_deg: float
    late_s: tuple[float, float]
    shake_g: float
    stands_still_hz: float = 40.0


BOXES = {
    "logger 100 Hz": Box("logger 100 Hz", 20.0, 100.0, 3.0, (0.02, 0.12), 1.0),
    "usual logger": Box("usual logger", 10.0, 50.0, 15.0, (0.1, 0.4), 0.55),
    "telephone": Box("telephone", 1.0, 100.0, 28.0, (0.1, 0.4), 0.6),
    "10 Hz alone": Box("10 Hz alone", 10.0, 0.0, 0.0, (0.1, 0.4), 0.0),
}


@dataclass(frozen=True)
class Recorded:
    """The text, and what is true of the box: its lag and its upright axis as the car's axes see it, (3,)."""

    csv: str
    late_s: float
    up: Floats


def record(rng: np.random.Generator, run: Drive, box: Box, *, gravel: bool) -> Recorded:
    """The recording of a drive."""
    late = float(rng.uniform(*box.late_s))
    turn = recorded_rotation(np.radians(rng.uniform(-box.turned_deg, box.turned_deg, 3)))
    rows = _positions(rng, run, box, late)
    if box.inertial_hz:
        rows += inertial_rows(rng, run, box, turn, gravel=gravel)
    rows.sort(key=lambda r: r[0])
    return Recorded(COLUMNS + "\n" + "\n".join(text for _, text in rows) + "\n", late, turn[:, 2])


def recorded_rotation(angles: Floats) -> Floats:
    """Roll, pitch and yaw in that order, (3, 3): what turns the car's vectors into the box's."""
    out = np.eye(3)
    for axis, angle in enumerate(angles):
        c, s = np.cos(angle), np.sin(angle)
        a, b = (axis + 1) % 3, (axis + 2) % 3
        one = np.eye(3)
        one[a, a] = one[b, b] = c
        one[a, b], one[b, a] = -s, s
        out = one @ out
    return out


def _band(rng: np.random.Generator, count: int, low_hz: float, high_hz: float, rate_hz: float) -> Floats:
    """Noise of unit power between two frequencies, (count,)."""
    spectrum = np.fft.rfft(rng.normal(0, 1, count))
    frequency = np.fft.rfftfreq(count, 1 / rate_hz)
    spectrum[(frequency < low_hz) | (frequency > high_hz)] = 0.0
    out = np.fft.irfft(spectrum, count)
    return out / max(float(out.std()), 1e-9)


def inertial_rows(rng: np.random.Generator, run: Drive, box: Box, turn: Floats, *, gravel: bool) -> list[tuple[float, str]]:
    rate_hz = 400.0
    fine = np.arange(0.0, run.time_s[-1], 1 / rate_hz)

    def read(values: Floats) -> Floats:
        return np.interp(fine, run.time_s, values)

    slip = read(run.slip_rad)
    ahead, left = read(np.gradient(run.speed_mps, 0.01)), read(run.speed_mps**2 * run.curvature_per_m)
    air = read(run.airborne) > 0.5
    along, across = ahead + GRAVITY_MPS2 * np.sin(read(run.slope_rad)), left
    body = np.stack([along * np.cos(slip) + across * np.sin(slip), across * np.cos(slip) - along * np.sin(slip), read(run.up_mps2)])
    # The body rolls outwards by some three degrees a g, and dives under the brakes.
    body[1] += 0.05 * left
    body[0] += 0.03 * ahead
    body[:, air] *= 0.04
    rms = box.shake_g * (1.0 if gravel else 0.35) * np.clip(read(run.speed_mps) / 22.0, 0, 1.4)
    rms = np.where(air, 0.05 * rms, rms)
    for axis, share in enumerate((0.55, 0.6, 1.0)):
        body[axis] += GRAVITY_MPS2 * rms * share * _band(rng, len(fine), 20.0, 60.0, rate_hz)
    yaw = read(np.gradient(run.heading_rad + run.slip_rad, 0.01)) + 0.03 * rms * _band(rng, len(fine), 20.0, 60.0, rate_hz)
    box_axes = turn @ body
    # A gyro drifts as it warms; a jittery clock, now and then a sample lost.
    bias = np.radians(rng.normal(0, 0.5)) + np.radians(rng.normal(0, 0.8)) * (1 - np.exp(-fine / 240.0))
    yaw = turn[2, 2] * yaw + bias
    stamps = np.arange(0.0, run.time_s[-1] - 0.1, 1 / box.inertial_hz)
    true = stamps + np.clip(rng.normal(0, 0.0012, len(stamps)), -0.004, 0.004)
    # A telephone's low-pass is a mean over some milliseconds.
    readings = [np.interp(true, fine, axis) / GRAVITY_MPS2 for axis in box_axes] + [np.degrees(np.interp(true, fine, yaw))]
    for axis in readings[:3]:
        axis += rng.normal(0, 0.006, len(axis))
        np.clip(axis, -4.0, 4.0, out=axis)
    readings[3] += rng.normal(0, 0.15, len(true))
    kept = rng.random(len(stamps)) > 0.001
    return [
        (t, f"{t:.4f},,,,,,,{x:.4f},{y:.4f},{z:.4f},{r:.3f}")
        for t, x, y, z, r in zip(stamps[kept], *(axis[kept] for axis in readings), strict=True)
    ]


def _positions(rng: np.random.Generator, run: Drive, box: Box, late_s: float) -> list[tuple[float, str]]:
    stamps = np.arange(float(rng.uniform(0, 0.2)), run.time_s[-1], 1 / box.position_hz)
    true = stamps - late_s

    def read(values: Floats) -> Floats:
        return np.interp(true, run.time_s, values)

    count, step = len(stamps), 1 / box.position_hz
    v = read(run.speed_mps)
    errors = [wandering(rng, count, step, 1.2, 40.0) + rng.normal(0, 0.06, count) for _ in range(2)]
    hacc = np.clip(rng.normal(1.8, 0.2, count), 0.9, 4.0)
    for begin in rng.uniform(run.start_s + 20, run.finish_s, int(run.finish_s / 110)):
        # Under trees: a step of some metres that holds, and goes.
        inside = (stamps > begin) & (stamps < begin + rng.uniform(10, 28))
        for axis in errors:
            axis[inside] += rng.normal(0, 4.0) + wandering(rng, int(inside.sum()), step, 1.0, 6.0)
        hacc[inside] *= rng.uniform(1.2, 2.5)
    east, north = read(run.east_m) + errors[0], read(run.north_m) + errors[1]
    height = read(run.height_m) + wandering(rng, count, step, 2.5, 60.0)
    speed = np.maximum(v + rng.normal(0, 0.1, count), 0.0)
    noise = np.clip(0.12 / np.maximum(v, 0.05), 0, 3) * rng.normal(0, 1, count)
    course = np.degrees(np.pi / 2 - read(run.heading_rad) + noise) % 360
    lat, lon = _degrees((43.7, -34.1), east, north)
    lost = [(b, b + float(rng.uniform(2, 6))) for b in rng.uniform(run.start_s + 30, run.finish_s - 20, int(rng.integers(0, 3)))]
    return [
        position_row(t, lat[i], lon[i], height[i], speed[i], course[i], hacc[i])
        for i, t in enumerate(stamps)
        if not any(a <= true[i] < b for a, b in lost)
    ]


def position_row(
    time_s: float, lat: float, lon: float, height_m: float, speed_mps: float, course_deg: float, hacc_m: float
) -> tuple[float, str]:
    """A row of :data:`COLUMNS` that holds a position, behind its time."""
    text = f"{time_s:.3f},{lat:.7f},{lon:.7f},{height_m:.1f},{speed_mps * 3.6:.2f},{course_deg:.1f},{hacc_m:.1f},,,,"
    return time_s, text


def wandering(rng: np.random.Generator, count: int, step_s: float, sigma: float, over_s: float) -> Floats:
    """A wandering error of so much with so long a memory, (count,)."""
    from scipy.signal import lfilter

    keep = np.exp(-step_s / over_s)
    kicks = rng.normal(0, sigma * np.sqrt(1 - keep**2), count)
    if count:
        kicks[0] = rng.normal(0, sigma)
    return np.asarray(lfilter([1.0], [1.0, -keep], kicks))
