"""A run recording: named channels, each at its own rate, all in SI units."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from mirkle.core.constants import EARTH_M, LEAST_STEP_S
from mirkle.core.errors import UnusableRecording
from mirkle.core.messages import Message, counted, message

Floats = NDArray[np.float64]

# A gap in the positions longer than this is an outage that something else has to bridge.
OUTAGE_S = 2.5
# Positions this far apart show no bend; they are good for distances only.
SPARSE_S = 3.0
# No drive that can be reviewed takes less.
SHORTEST_S, SHORTEST_M = 5.0, 200.0


def samples_in(time_s: Floats, seconds: float) -> int:
    """How many samples a time holds, at least one, by the usual time between them."""
    return max(1, round(seconds / max(float(np.median(np.diff(time_s))), LEAST_STEP_S)))


@dataclass(frozen=True)
class Channel:
    """Samples of one quantity: ``time_s`` and ``value``, both of shape (n,), float64, finite."""

    time_s: Floats
    value: Floats

    @property
    def rate_hz(self) -> float:
        """Median sample rate, 0 with fewer than two samples."""
        if len(self.time_s) < 2:
            return 0.0
        return float(1.0 / np.median(np.diff(self.time_s)))


@dataclass(frozen=True)
class Recording:
    """Channels by name; ``doubts`` are sentences about what was mended while reading.

    Known channels are those of :data:`mirkle.core.recording.channels.CHANNELS`.
    """

    name: str
    channels: Mapping[str, Channel]
    doubts: tuple[Message, ...] = field(default=())

    def has(self, *names: str) -> bool:
        """Whether all the named channels hold enough samples to be used."""
        return all(n in self.channels and len(self.channels[n].time_s) >= 4 for n in names)


def repair_times(recording: Recording) -> Recording:
    """The recording with times in order and no repeats, and a sentence for each thing that was mended.

    Raises
    ------
    UnusableRecording
        Too little is there, time runs backwards for good, or the car never moves.
    """
    doubts = list(recording.doubts)
    channels: dict[str, Channel] = {}
    repeats = backwards = 0
    for name, channel in recording.channels.items():
        kept, back, twice = _in_order(channel, recording.name)
        backwards, repeats = max(backwards, back), max(repeats, twice)
        if len(kept.time_s):
            channels[name] = kept
    if backwards:
        doubts.append(
            counted(
                "Time stepped back once; the samples were put in order.",
                "Time stepped back {0} times; the samples were put in order.",
                backwards,
            )
        )
    if repeats:
        doubts.append(
            counted("1 sample repeats a time; the first was kept.", "{0} samples repeat a time; the first of each was kept.", repeats)
        )
    result = replace(recording, channels=channels, doubts=tuple(doubts))
    check_it_can_be_reviewed(result)
    return result


def _in_order(channel: Channel, name: str) -> tuple[Channel, int, int]:
    step = np.diff(channel.time_s)
    back = step < 0
    steps_back = int(np.count_nonzero(back))
    if not steps_back and not np.any(step == 0):
        return channel, 0, 0
    # A logger that buffers may swap neighbours; a clock that was set back is another matter.
    if steps_back and (steps_back > 0.2 * len(step) or float(-step[back].min()) > 5.0):
        raise UnusableRecording(
            message("time goes back by up to {0:.0f} s", -step[back].min()),
            mend="export the run again with one clock that only goes forward",
            where=name,
        )
    order = np.argsort(channel.time_s, kind="stable")
    time_s, value = channel.time_s[order], channel.value[order]
    first = np.concatenate([[True], np.diff(time_s) > 0])
    return Channel(time_s[first], value[first]), steps_back, int(np.count_nonzero(~first))


def check_it_can_be_reviewed(recording: Recording) -> None:
    """Looks whether a recording shows where and how a car went.

    Raises
    ------
    UnusableRecording
        Too little is there, or the car never moves.
    """
    _check_channels(recording)
    moved_m = _moved_m(recording)
    if moved_m < SHORTEST_M:
        raise UnusableRecording(
            message("the car moves only {0:.0f} m in it", moved_m), mend="choose the recording of the whole stage", where=recording.name
        )
    lasts_s = max(float(np.ptp(c.time_s)) for c in recording.channels.values())
    if lasts_s < SHORTEST_S:
        raise UnusableRecording(message("it lasts only {0:.1f} s", lasts_s), mend="check the unit of its times", where=recording.name)


def _check_channels(recording: Recording) -> None:
    """Looks whether there is what a line can be made of."""
    if recording.has("lat_rad", "lon_rad"):
        rate_hz = recording.channels["lat_rad"].rate_hz
        if not recording.has("speed_mps") and rate_hz < 1.0 / SPARSE_S:
            raise UnusableRecording(
                message("its positions are {0:.0f} s apart, too far to show a bend", 1.0 / rate_hz),
                mend="record a position every second or more often",
                where=recording.name,
            )
    elif not recording.has("speed_mps", "yaw_rate_radps"):
        raise UnusableRecording(
            "there is neither a position nor a speed with a yaw rate",
            mend="export it with time, lat_deg and lon_deg, or with time, speed_mps and yaw_rate_dps",
            where=recording.name,
        )


def _moved_m(recording: Recording) -> float:
    """How far apart the ends of the drive lie on the map, or how far it went without positions, metres."""
    if not recording.has("lat_rad", "lon_rad"):
        speed = recording.channels["speed_mps"]
        return float(np.trapezoid(np.abs(speed.value), speed.time_s))
    lat, lon = recording.channels["lat_rad"], recording.channels["lon_rad"]
    if np.any(np.abs(lat.value) > np.pi / 2) or np.any(np.abs(lon.value) > 2 * np.pi):
        raise UnusableRecording(
            "there are latitudes beyond 90 or longitudes beyond 360 degrees",
            mend="check the unit of lat and lon, which is degrees unless the column says _rad",
            where=recording.name,
        )
    north_m, east_m = np.ptp(lat.value) * EARTH_M, np.ptp(lon.value) * EARTH_M * float(np.cos(np.median(lat.value)))
    return float(np.hypot(north_m, east_m))
