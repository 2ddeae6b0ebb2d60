"""A run recording as an MDF4 measurement file, read with asammdf where that is installed."""

from __future__ import annotations

import io
from typing import Any

import numpy as np

from mirkle.core.messages import message
from mirkle.core.recording.model import Channel, Recording
from mirkle.files.detect import UnusableFile
from mirkle.files.recordings.quantities import column_of


def looks_like_mdf(content: bytes) -> bool:
    """Whether the bytes begin as measurement files of ASAM MDF do."""
    return content.startswith(b"MDF     ")


def parse_mdf_run(content: bytes, *, name: str) -> Recording:
    """The recording in a measurement file: signals are told by name and unit as columns of a table are.

    Raises
    ------
    UnusableFile
        What reads such files is not installed, it is damaged, or nothing in it is known.
    """
    try:
        from asammdf import MDF
    except ImportError:
        raise UnusableFile(
            "this is an MDF4 file, and what reads those is not installed", mend="run “make mdf” once, or export the run as CSV", where=name
        ) from None
    try:
        with MDF(io.BytesIO(content)) as file:
            channels, unknown = _channels(file)
    except Exception as error:  # the library raises whatever its parsers raise
        raise UnusableFile(
            message("the measurement file can't be read ({0})", type(error).__name__), mend="export it again", where=name
        ) from None
    if not {"lat_rad", "lon_rad"} <= set(channels) and not {"speed_mps", "yaw_rate_radps"} <= set(channels):
        raise UnusableFile(
            "there is neither a position nor a speed with a yaw rate among its signals",
            mend="name them lat, lon, speed, yaw_rate, with their units",
            where=name,
        )
    doubts = (message("Signals not used: {0}.", ", ".join(sorted(unknown)[:6])),) if unknown else ()
    return Recording(name=name, channels=channels, doubts=doubts)


def _channels(file: Any) -> tuple[dict[str, Channel], set[str]]:
    channels: dict[str, Channel] = {}
    unknown: set[str] = set()
    for signal in file.iter_channels(skip_master=True):
        column = column_of(signal.name, signal.unit or "")
        column = column if column is not None and column.factor else None
        samples = np.asarray(signal.samples)
        if column is None or column.channel == "time_s" or samples.dtype.kind not in "fiu":
            unknown.add(signal.name)
        elif column.channel not in channels and len(samples):
            value, time_s = samples.astype(float) * column.factor, np.asarray(signal.timestamps, dtype=float)
            there = np.isfinite(value) & np.isfinite(time_s)
            channels[column.channel] = Channel(time_s[there], value[there])
    return channels, unknown
