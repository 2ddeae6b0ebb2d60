"""The sense of a recording as a whole: nobody drives 3 km/h or 900. Where its times, places and speeds make no drive together, and one
unit that was taken for another explains it, that unit is put right and said.

Each quantity may be in another unit than its column says: times in minutes, hours, days or hundredths of a second, places in ten millionths
of a degree or in radians, speeds ten times too large. A recording has sense where the distance from place to place over the time between
goes at a car's pace for a stage's length of time, and goes with the recorded speed. Only where it has none as it stands, and with one
change alone it has, that change is made.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from mirkle.core.constants import EARTH_M
from mirkle.core.messages import Message, message
from mirkle.core.recording.model import Channel, Floats

# The pace of what is reviewed, from the slowest reconnaissance to the fastest car, by the fastest twentieth of the way, m/s; how long it
# may
# take, s; and how far it goes. # common practice
PACES_MPS, LASTS_S, GOES_M = (5.0, 85.0), (20.0, 6 * 3600.0), 150.0
# Speeds that differ by no more go together.
TOGETHER = 0.15
# A recording is cut into this many parts at most to measure its pace: a receiver's noise from sample to sample is no pace.
PARTS = 400
# Fewer positions tell no unit.
LEAST_POSITIONS = 20
# So much of the places has to be on earth; the pace that a twentieth of the parts exceed; parts that tell a speed go by this share of it.
ON_EARTH, FAST_PERCENT, MOVES = 0.9, 95, 0.3


@dataclass(frozen=True)
class Unit:
    """What a channel may be in instead, and the factor that puts it right."""

    words: Message
    factor: float


TIMES = (
    Unit(message("minutes"), 60.0),
    Unit(message("hours"), 3600.0),
    Unit(message("days"), 86_400.0),
    Unit(message("hundredths of a second"), 0.01),
    Unit(message("milliseconds"), 1e-3),
    Unit(message("microseconds"), 1e-6),
    Unit(message("nanoseconds"), 1e-9),
)
PLACES = (
    Unit(message("ten millionths of a degree"), 1e-7),
    Unit(message("millionths of a degree"), 1e-6),
    Unit(message("hundred thousandths of a degree"), 1e-5),
    Unit(message("radians"), 180.0 / np.pi),
)
SPEEDS = (Unit(message("tenths"), 0.1), Unit(message("hundredths"), 0.01), Unit(message("thousandths"), 1e-3))

Channels = dict[str, Channel]


def in_sense(channels: Channels, doubts: list[Message], _name: str) -> Channels:
    """The channels with one unit put right where that alone makes a drive of them; else as they are."""
    lat, lon = channels.get("lat_rad"), channels.get("lon_rad")
    if lat is None or lon is None or len(lat.time_s) != len(lon.time_s) or len(lat.time_s) < LEAST_POSITIONS:
        return channels
    if _has_sense(channels):
        return channels
    made = [(changed, words) for changed, words in _in_other_units(channels) if _has_sense(changed)]
    if len(made) != 1:
        return channels
    doubts.append(made[0][1])
    return made[0][0]


def _in_other_units(channels: Channels) -> Iterator[tuple[Channels, Message]]:
    """The channels with times, places or speeds taken for another unit, and the sentence that says so."""
    for unit in TIMES:
        changed = {n: Channel(c.time_s * unit.factor, c.value) for n, c in channels.items()}
        yield changed, message("Its times make sense as {0}, which the column does not say.", unit.words)
    for unit in PLACES:
        changed = channels | {n: _scaled(channels[n], unit.factor) for n in ("lat_rad", "lon_rad")}
        yield changed, message("Latitude and longitude make sense as {0}, which their columns don't say.", unit.words)
    for unit in SPEEDS if "speed_mps" in channels else ():
        changed = channels | {"speed_mps": _scaled(channels["speed_mps"], unit.factor)}
        yield changed, message("Its speeds make sense as {0} of what the column says.", unit.words)


def _scaled(channel: Channel, factor: float) -> Channel:
    return Channel(channel.time_s, channel.value * factor)


def _has_sense(channels: Channels) -> bool:
    """Whether places, times and speeds make a drive together."""
    lat, lon = channels["lat_rad"], channels["lon_rad"]
    on_earth = (np.abs(lat.value) <= np.pi / 2) & (np.abs(lon.value) <= 2 * np.pi)
    if on_earth.mean() < ON_EARTH:
        return False
    time_s, lat_rad, lon_rad = lat.time_s[on_earth], lat.value[on_earth], lon.value[on_earth]
    lasts_s = float(np.ptp(time_s))
    # The speed that a twentieth of the parts exceed: a wild place is in no more than two of them.
    every = max(1, len(time_s) // PARTS)
    seconds = np.diff(time_s[::every])
    metres = _metres(lat_rad[::every], lon_rad[::every])
    paces = metres[seconds > 0] / seconds[seconds > 0]
    if not len(paces) or not LASTS_S[0] <= lasts_s <= LASTS_S[1]:
        return False
    extent_m = float(np.hypot(np.ptp(lat_rad), np.ptp(lon_rad) * np.cos(np.median(lat_rad)))) * EARTH_M
    if extent_m < GOES_M or not PACES_MPS[0] <= float(np.percentile(paces, FAST_PERCENT)) <= PACES_MPS[1]:
        return False
    return _goes_with_speed(channels.get("speed_mps"), time_s[::every], metres, seconds)


def _metres(lat: Floats, lon: Floats) -> Floats:
    return np.asarray(np.hypot(np.diff(lat), np.diff(lon) * np.cos(0.5 * (lat[1:] + lat[:-1])))) * EARTH_M


def _goes_with_speed(speed: Channel | None, time_s: Floats, metres: Floats, seconds: Floats) -> bool:
    """Whether recorded speeds are those of the way between places; where they were not recorded, nothing speaks against it."""
    if speed is None or len(speed.time_s) < 20:
        return True
    said = np.interp(0.5 * (time_s[1:] + time_s[:-1]), speed.time_s, np.abs(speed.value))
    moving = (seconds > 0) & (metres > MOVES * np.percentile(metres, FAST_PERCENT)) & (said > 0)
    if moving.sum() < 10:
        return True
    ratio = float(np.median(said[moving] * seconds[moving] / metres[moving]))
    return bool(abs(np.log(ratio)) < np.log1p(TOGETHER))
