"""A run recording as CSV: columns by name, units by suffix, rates mixed by empty cells."""

from __future__ import annotations

import io
import math
import re
from dataclasses import dataclass
from typing import Any

import numpy as np

from mirkle.core.motion.recording import Channel, Recording
from mirkle.files.sniff import UnusableFile

_DEGREE = math.pi / 180.0
_G = 9.80665

# quantity -> (channel, unit suffix -> factor to SI, unit assumed without a suffix)
_ANGLE = {"deg": _DEGREE, "rad": 1.0}
_LENGTH = {"m": 1.0}
_SPEED = {"mps": 1.0, "kmh": 1 / 3.6}
_ACCELERATION = {"mps2": 1.0, "g": _G}
_QUANTITIES: dict[str, tuple[str, dict[str, float], str]] = {
    "time": ("time_s", {"s": 1.0, "ms": 1e-3}, "s"),
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
    "brake": ("brake", {}, "1"),
    "throttle": ("throttle", {}, "1"),
    "steer": ("steer_rad", _ANGLE, ""),
    "wheel_speed": ("wheel_speed_mps", _SPEED, ""),
}


@dataclass(frozen=True)
class _Column:
    header: str
    channel: str
    factor: float


def parse_csv_run(content: bytes, *, name: str) -> Recording:
    """The recording in a CSV file's bytes.

    Raises
    ------
    UnusableFile
        With the line, what is wrong and what would mend it.
    """
    if content.startswith(b"\xef\xbb\xbf"):
        content = content[3:]
    if not content.isascii():
        # Only names and units can hold other letters; bytes that are no UTF-8 would stop the reader.
        content = content.decode("utf-8", "replace").encode()
    head = content[: content.find(b"\n")] if b"\n" in content else content
    delimiter = max(",;\t", key=lambda d: head.count(d.encode()))
    header = [h.strip().strip('"') for h in head.decode().strip().split(delimiter)]
    columns = _known_columns(header, name=name)
    doubts: list[str] = []
    table = _table(content, header, columns, delimiter=delimiter, name=name, doubts=doubts)
    time_s = _floats(table, "time_s", columns)
    channels = {}
    timed = np.isfinite(time_s)
    for column in columns:
        if column.channel == "time_s":
            continue
        value = _floats(table, column.channel, columns)
        there = timed & np.isfinite(value)
        if there.any():
            channels[column.channel] = Channel(time_s[there], value[there])
    unknown = [h for h in header if h and not _column(h)]
    if unknown:
        doubts.append(f"Columns not used: {', '.join(unknown[:6])}.")
    return Recording(name=name, channels=channels, doubts=tuple(doubts))


def _column(header: str) -> _Column | None:
    name = header.strip().lower()
    for quantity, (channel, units, assumed) in _QUANTITIES.items():
        if name == quantity and assumed:
            return _Column(header, channel, units.get(assumed, 1.0))
        if name.startswith(quantity + "_") and name[len(quantity) + 1 :] in units:
            return _Column(header, channel, units[name[len(quantity) + 1 :]])
    return None


def _known_columns(header: list[str], *, name: str) -> list[_Column]:
    found = [c for h in header if (c := _column(h))]
    names = [c.channel for c in found]
    where = f"{name}, line 1"
    if len(set(names)) < len(names):
        twice = next(c.header for c in found if names.count(c.channel) > 1)
        raise UnusableFile(f"{twice} stands there twice", mend="keep one column for each quantity", where=where)
    if "time_s" not in names:
        raise UnusableFile(
            "there is no time column",
            mend="name the columns in the first line, such as time_s, lat_deg, lon_deg",
            where=where,
        )
    if not {"lat_rad", "lon_rad"} <= set(names) and not {"speed_mps", "yaw_rate_radps"} <= set(names):
        bare = [h for h in header if h.lower() in ("speed", "yaw_rate")]
        mend = (
            f"give {bare[0]} its unit, such as {bare[0]}_{'mps' if bare[0].lower() == 'speed' else 'dps'}"
            if bare
            else "add lat_deg and lon_deg, or speed_mps and yaw_rate_dps"
        )
        raise UnusableFile("there is neither a position nor a speed with a yaw rate", mend=mend, where=where)
    return found


def _table(
    content: bytes, header: list[str], columns: list[_Column], *, delimiter: str, name: str, doubts: list[str]
) -> Any:
    import pyarrow as pa
    from pyarrow import csv

    cut_short: list[int] = []

    def odd_row(row: Any) -> str:
        cut_short.append(row.number or 0)
        return "skip"

    decimal = "," if delimiter != "," and re.search(rb"\d,\d", content[:20_000]) else "."
    unique = [h or f"column {i}" for i, h in enumerate(header)]
    try:
        table = csv.read_csv(
            io.BytesIO(content),
            read_options=csv.ReadOptions(use_threads=False, column_names=unique, skip_rows=1, block_size=1 << 22),
            parse_options=csv.ParseOptions(delimiter=delimiter, invalid_row_handler=odd_row),
            convert_options=csv.ConvertOptions(
                column_types={c.header: pa.float64() for c in columns},
                include_columns=[c.header for c in columns],
                null_values=["", "NaN", "nan", "NA", "null", "-"],
                decimal_point=decimal,
            ),
        )
    except pa.ArrowInvalid as error:
        raise _arrow_fault(str(error), header, content, name=name) from None
    lines = content.count(b"\n") + (not content.endswith(b"\n"))
    odd = [line for line in cut_short if line < lines]
    if odd:
        raise UnusableFile(
            f"this line has not as many cells as the first line has names ({len(header)})",
            mend="give each line one cell for each column, empty where nothing was measured",
            where=f"{name}, line {odd[0]}",
        )
    if cut_short:
        doubts.append("The file ends in the middle of a line; that line was left out.")
    if table.num_rows < 20:
        raise UnusableFile(f"it holds only {table.num_rows} lines of data", mend="export the whole run", where=name)
    return table


def _arrow_fault(message: str, header: list[str], content: bytes, *, name: str) -> UnusableFile:
    found = re.search(
        r"CSV column #(\d+): (?:Row #(\d+): )?CSV conversion error to double: invalid value '(.*?)'", message
    )
    if found:
        column = header[int(found[1])] if int(found[1]) < len(header) else "?"
        line = int(found[2]) if found[2] else _line_of(content, found[3])
        return UnusableFile(
            f"{column} holds “{found[3][:30]}”, which is not a number",
            mend="write a number there, or leave the cell empty",
            where=f"{name}, line {line}",
        )
    return UnusableFile("it can't be read as CSV", mend="export it as plain comma-separated text", where=name)


def _line_of(content: bytes, value: str) -> int:
    at = content.find(value.encode(), content.find(b"\n"))
    return content.count(b"\n", 0, at) + 1


def _floats(table: Any, channel: str, columns: list[_Column]) -> np.ndarray[Any, np.dtype[np.float64]]:
    column = next(c for c in columns if c.channel == channel)
    values = table.column(column.header).to_numpy(zero_copy_only=False)
    return np.asarray(values, dtype=float) * column.factor
