"""What a column or a measured signal holds, told by its name and its unit, however loosely either is written."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

_DEGREE = math.pi / 180.0
_G = 9.80665

# quantity -> (channel, unit -> factor to SI, the unit that goes without saying)
_ANGLE = {"deg": _DEGREE, "rad": 1.0}
_LENGTH = {"m": 1.0, "ft": 0.3048}
_SPEED = {"mps": 1.0, "kmh": 1 / 3.6, "mph": 0.44704, "kn": 1852 / 3600}
_ACCELERATION = {"mps2": 1.0, "g": _G}
_QUANTITIES: dict[str, tuple[str, dict[str, float], str]] = {
    "time": ("time_s", {"s": 1.0, "ms": 1e-3, "us": 1e-6, "ns": 1e-9}, "s"),
    "lat": ("lat_rad", _ANGLE, "deg"),
    "lon": ("lon_rad", _ANGLE, "deg"),
    "alt": ("alt_m", _LENGTH, "m"),
    "speed": ("speed_mps", _SPEED, ""),
    "course": ("course_rad", _ANGLE, "deg"),
    "hacc": ("hacc_m", _LENGTH, "m"),
    "acc_x": ("acc_x_mps2", _ACCELERATION, ""),
    "acc_y": ("acc_y_mps2", _ACCELERATION, ""),
    "acc_z": ("acc_z_mps2", _ACCELERATION, ""),
    "yaw_rate": ("yaw_rate_radps", {"dps": _DEGREE, "radps": 1.0}, ""),
    "brake": ("brake", {"1": 1.0}, "1"),
    "throttle": ("throttle", {"1": 1.0}, "1"),
    "steer": ("steer_rad", _ANGLE, ""),
    "wheel_speed": ("wheel_speed_mps", _SPEED, ""),
}
# Other words for the same, in plain English. # common practice
_ALSO = {
    "latitude": "lat", "longitude": "lon", "lng": "lon", "altitude": "alt", "height": "alt", "elevation": "alt",
    "heading": "course", "bearing": "course", "accuracy": "hacc", "timestamp": "time", "t": "time",
    "velocity": "speed", "ground_speed": "speed", "yawrate": "yaw_rate", "steering": "steer",
    "steering_angle": "steer", "wheelspeed": "wheel_speed", "accx": "acc_x", "accy": "acc_y", "accz": "acc_z",
}  # fmt: skip
_UNITS = {
    "°": "deg", "degree": "deg", "degrees": "deg", "km/h": "kmh", "kph": "kmh", "m/s": "mps", "m/s²": "mps2",
    "m/s^2": "mps2", "m/s2": "mps2", "°/s": "dps", "deg/s": "dps", "rad/s": "radps", "knots": "kn", "kt": "kn",
    "sec": "s", "seconds": "s", "metres": "m", "meters": "m",
}  # fmt: skip


@dataclass(frozen=True)
class Column:
    """A column's name as it stands, the channel it fills, and the factor to SI."""

    header: str
    channel: str
    factor: float


def column_of(header: str, unit: str = "") -> Column | None:
    """What a column holds: ``speed_kmh``, ``Speed (km/h)`` and ``Speed`` with its unit beside it are one; else ``None``."""
    name = header.strip().lower()
    if bracketed := re.fullmatch(r"(.*?)\s*[\[(]([^\])]*)[\])]", name):
        name, unit = bracketed[1], bracketed[2]
    name = re.sub(r"[\s\-.]+", "_", name).strip("_")
    unit = unit.strip().lower()
    unit = _UNITS.get(unit, unit)
    for quantity in (name, _ALSO.get(name, "")):
        if quantity in _QUANTITIES:
            channel, units, assumed = _QUANTITIES[quantity]
            factor = units.get(unit or assumed)
            return Column(header, channel, factor) if factor is not None else None
    head, _, suffix = name.rpartition("_")
    quantity = head if head in _QUANTITIES else _ALSO.get(head, "")
    if quantity in _QUANTITIES:
        channel, units, _ = _QUANTITIES[quantity]
        factor = units.get(_UNITS.get(suffix, suffix))
        return Column(header, channel, factor) if factor is not None else None
    return None
