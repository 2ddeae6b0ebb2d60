"""A recording from fixes: a time, a place, and what else a receiver says of each."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from mirkle.core.messages import Message, message
from mirkle.core.recording.model import Channel, Recording
from mirkle.files.detect import UnusableFile

LEAST_FIXES = 20
# Six hours at 25 a second are fewer.
MOST_FIXES = 1_000_000
NONE = float("nan")
# What a fix may carry beside its place, in the order of its fields, with the factor to SI.
_CHANNELS = {"alt_m": 1.0, "speed_mps": 1.0, "course_rad": np.pi / 180.0, "hacc_m": 1.0}


@dataclass(frozen=True)
class Fix:
    """One fix; ``nan`` where the receiver said nothing."""

    time_s: float
    lat_deg: float
    lon_deg: float
    alt_m: float = NONE
    speed_mps: float = NONE
    course_deg: float = NONE
    hacc_m: float = NONE


def recording_of(fixes: Sequence[Fix], *, name: str, what: str, placeless: int = 0, untimed: int = 0) -> Recording:
    """The recording that fixes make; times are seconds from the first.

    Parameters
    ----------
    what : what the file is, in words, for the sentence
    placeless, untimed : records that carry no place, or no time; they were left out

    Raises
    ------
    UnusableFile
        There are too few.
    """
    if len(fixes) < LEAST_FIXES:
        raise UnusableFile(_why_none(len(fixes), what, placeless, untimed), mend="choose the recording of the run", where=name)
    doubts: list[Message] = []
    if untimed:
        doubts.append(message("{0} track points carry no time and were left out.", untimed))
    if placeless:
        doubts.append(message("{0} track points carry no place and were left out.", placeless))
    table = np.array([(f.time_s, f.lat_deg, f.lon_deg, f.alt_m, f.speed_mps, f.course_deg, f.hacc_m) for f in fixes])
    time_s = table[:, 0] - table[0, 0]
    channels = {"lat_rad": Channel(time_s, np.radians(table[:, 1])), "lon_rad": Channel(time_s, np.radians(table[:, 2]))}
    for (channel, factor), values in zip(_CHANNELS.items(), table[:, 3:].T, strict=True):
        there = np.isfinite(values)
        if there.sum() >= LEAST_FIXES:
            channels[channel] = Channel(time_s[there], values[there] * factor)
    return Recording(name=name, channels=channels, doubts=tuple(doubts))


def _why_none(count: int, what: str, placeless: int, untimed: int) -> Message:
    """What such a file is in its own terms, and why it is no recording of a run."""
    if placeless > max(count, untimed):
        return message("this is {0} without positions", Message(what))
    if untimed > count:
        return message("this is {0} without times", Message(what))
    return message("this is {0} with only {1} fixes", Message(what), count)


def number(text: str | None) -> float:
    """A number as it is written, ``nan`` where there is none or it is too long to be one."""
    try:
        return float((text or "")[:60])
    except ValueError:
        return NONE
