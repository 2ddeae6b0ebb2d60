"""A run recording as GPX 1.1 (and 1.0): track points with time, and speed and course where a logger adds them."""

from __future__ import annotations

import io
import math
from typing import Any

import numpy as np

from mirkle.core.errors import at_line
from mirkle.core.messages import Message, message
from mirkle.core.recording.model import Channel, Recording
from mirkle.files.detect import UnusableFile
from mirkle.files.recordings.position_fixes import MOST_FIXES
from mirkle.files.recordings.timestamps import moment_s

# Extension elements of loggers carry the same names in many name spaces; the unit is SI, degrees for courses.
_EXTRAS = {"speed": ("speed_mps", 1.0), "course": ("course_rad", np.pi / 180.0)}


def parse_gpx_run(content: bytes, *, name: str) -> Recording:
    """The track in a GPX file's bytes; times are seconds from its first point.

    Raises
    ------
    UnusableFile
        With the line, what is wrong and what would mend it.
    """
    from lxml import etree

    _refuse_no_track(content, name)
    rows: list[tuple[float, float, float, float]] = []
    extras: dict[str, list[tuple[float, float]]] = {}
    doubts: list[Message] = []
    untimed = placeless = 0
    try:
        events = etree.iterparse(
            io.BytesIO(content), events=("end",), tag="{*}trkpt", resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False
        )
        for _, point in events:
            time_s = moment_s(point.findtext("{*}time") or "")
            place = _place(point, name=name)
            if time_s is None:
                untimed += 1
            elif place is None:
                placeless += 1
            else:
                rows.append((time_s, *place))
                _take_extras(point, time_s, extras)
            point.clear()
            # What was read is let go of, or the empty elements would stay until the end.
            if (before := point.getprevious()) is not None:
                point.getparent().remove(before)
    except etree.XMLSyntaxError as error:
        if len(rows) < 20:
            raise UnusableFile(
                "it can't be read as GPX", mend="export the track again as GPX 1.1", where=at_line(name, error.lineno or 1)
            ) from None
        doubts.append(message("The file breaks off at line {0}; what stands before was read.", error.lineno))
    if len(rows) < 20:
        raise UnusableFile(
            "its track points carry no time" if untimed else message("it holds only {0} track points", len(rows)),
            mend="export the recorded track, with times",
            where=name,
        )
    if untimed:
        doubts.append(message("{0} track points carry no time and were left out.", untimed))
    if placeless:
        doubts.append(message("{0} track points carry no place and were left out.", placeless))
    return Recording(name=name, channels=_channels(rows, extras), doubts=tuple(doubts))


def _refuse_no_track(content: bytes, name: str) -> None:
    """Refuses what can be told to be no run's track before it is read."""
    # A GPX file needs no document type; entities that expand without end live there, so it is refused outright.
    if b"<!DOCTYPE" in content[:100_000] or b"<!ENTITY" in content[:100_000]:
        raise UnusableFile(
            "it carries a document type, which a GPX file does not have", mend="export the track again from the logger", where=name
        )
    points = content.count(b"trkpt ") + content.count(b"trkpt/")
    if points > MOST_FIXES:
        raise UnusableFile(message("it holds {0:,} track points, more than any run has", points), mend="export the run alone", where=name)


def _channels(rows: list[tuple[float, float, float, float]], extras: dict[str, list[tuple[float, float]]]) -> dict[str, Channel]:
    """Channels from rows of time, latitude, longitude and height, and from extras of time and value."""
    table = np.array(rows)
    first = table[0, 0]
    time_s = table[:, 0] - first
    channels = {"lat_rad": Channel(time_s, np.radians(table[:, 1])), "lon_rad": Channel(time_s, np.radians(table[:, 2]))}
    high = np.isfinite(table[:, 3])
    if high.any():
        channels["alt_m"] = Channel(time_s[high], table[high, 3])
    for channel, pairs in extras.items():
        values = np.array(pairs)
        channels[channel] = Channel(values[:, 0] - first, values[:, 1])
    return channels


def _place(point: Any, *, name: str) -> tuple[float, float, float] | None:
    """Latitude, longitude and height of a point; ``None`` where the receiver knew no place."""
    try:
        height = point.findtext("{*}ele")
        lat, lon = float(point.get("lat")), float(point.get("lon"))
        if not (math.isfinite(lat) and math.isfinite(lon)):
            return None
        return lat, lon, float(height) if height else float("nan")
    except (TypeError, ValueError):
        raise UnusableFile(
            "a track point's latitude, longitude or height is not a number",
            mend="mend or remove that point",
            where=at_line(name, point.sourceline),
        ) from None


def _take_extras(point: Any, time_s: float, extras: dict[str, list[tuple[float, float]]]) -> None:
    for child in point.iter():
        if not isinstance(child.tag, str):
            continue
        known = _EXTRAS.get(child.tag.rpartition("}")[2])
        if known and child.text:
            try:
                extras.setdefault(known[0], []).append((time_s, float(child.text) * known[1]))
            except ValueError:
                continue
