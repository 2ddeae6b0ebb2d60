"""A telephone's recording: an archive or a folder packed as one, with a table for each of its sensors."""

from __future__ import annotations

import io
import zipfile

import numpy as np

from mirkle.core.messages import message
from mirkle.core.recording.model import Channel, Floats, Recording
from mirkle.files.archive import members
from mirkle.files.detect import UnusableFile
from mirkle.files.recordings.csv_table import channel_known
from mirkle.files.recordings.quantities import column_of, units_of
from mirkle.files.recordings.table import OddRow, Table, numbers, table_of
from mirkle.files.recordings.timestamps import since_begin

# Fewer rows are no recording.
LEAST_ROWS = 4
# Words of a table's name, the channel of each of its axes, and its unit.
_Sensor = tuple[tuple[str, ...], str, str]
# What a table of x, y and z holds, by its name, and the unit in which telephones give it. # common practice
_SENSORS: tuple[_Sensor, ...] = (
    (("accelerometer", "acceleration", "beschleunigung", "aceler"), "acc_{0}", "mps2"),
    (("gyro", "rotation", "drehrate", "giro"), "gyro_{0}", "radps"),
)
# A telephone's location gives its speed in metres a second and its course in degrees. # common practice
_LOCATION_UNITS = {"speed_mps": "mps", "course_rad": "deg"}


def is_packed(content: bytes) -> bool:
    """Whether the bytes are an archive that holds tables."""
    if not content.startswith(b"PK"):
        return False
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as archive:
            return any(n.lower().endswith(".csv") for n in archive.namelist())
    except (zipfile.BadZipFile, OSError, ValueError):
        return False


def parse_phone_run(content: bytes, *, name: str) -> Recording:
    """The tables of an archive put together on one clock.

    Raises
    ------
    UnusableFile
    """
    channels: dict[str, Channel] = {}
    unused: list[str] = []
    for inside, body in _tables(content, name=name):
        found = _channels_of(inside, body)
        fresh = {k: v for k, v in found.items() if k not in channels}
        channels |= fresh
        if not fresh:
            unused.append(inside)
    if not {"lat_rad", "lon_rad"} <= set(channels):
        raise UnusableFile(
            "there is no table with positions in this archive", mend="record the location as well, or choose the run's own file", where=name
        )
    first = min(float(c.time_s[0]) for c in channels.values())
    shifted = {k: Channel(c.time_s - first, c.value) for k, c in channels.items()}
    doubts = (message("Tables not used: {0}.", ", ".join(unused[:6])),) if unused else ()
    return Recording(name=name, channels=shifted, doubts=doubts)


def _tables(content: bytes, *, name: str) -> list[tuple[str, bytes]]:
    found = members(content, lambda path: path.lower().endswith(".csv") and "/." not in f"/{path}", name=name)
    return [(path.rpartition("/")[2], body) for path, body in found]


def _channels_of(inside: str, body: bytes) -> dict[str, Channel]:
    """The channels in one table; nothing where it is none that is known."""
    table = table_of(body, channel_known, "time_s")
    try:
        cells = numbers(table) if table is not None else None
    except OddRow:
        cells = None
    if table is None or cells is None or len(cells) < LEAST_ROWS:
        return {}
    lower = inside.lower()
    sensor = next((s for s in _SENSORS if any(w in lower for w in s[0])), None)
    # Linear accelerations lack the weight that tells how the telephone lies.
    if sensor is not None and "linear" in lower:
        return {}
    time_s, values = _values(table, cells, sensor)
    if time_s is None:
        return {}
    clock = since_begin(time_s)
    return {
        channel: Channel(clock[there], value[there])
        for channel, value in values.items()
        if (there := np.isfinite(value) & np.isfinite(clock)).sum() >= LEAST_ROWS
    }


def _values(table: Table, cells: Floats, sensor: _Sensor | None) -> tuple[Floats | None, dict[str, Floats]]:
    """The times of a table and the values of each channel that is known, by its column's name or, for an axis, by the table's sensor; (n,)
    each."""
    values: dict[str, Floats] = {}
    time_s = None
    for at, header in enumerate(table.header):
        bare = header.strip().lower().split(" ")[0]
        axis = bare if bare in ("x", "y", "z") else None
        asked, unit = (sensor[1].format(axis), sensor[2]) if sensor is not None and axis else (header, table.units[at])
        column = column_of(asked, unit)
        if column is None:
            continue
        factor = column.factor or units_of(column.channel).get(_LOCATION_UNITS.get(column.channel, ""), 0.0)
        if column.channel == "time_s":
            time_s = cells[:, at] * factor if time_s is None else time_s
        elif factor and column.channel not in values:
            values[column.channel] = cells[:, at] * factor
    return time_s, values
