"""A run recording as CSV: columns by name, units by suffix, rates mixed by empty cells."""

from __future__ import annotations

import io
import re
from datetime import UTC, datetime
from typing import Any

import numpy as np

from mirkle.core.clauses import Clause, clause
from mirkle.core.errors import at_line
from mirkle.core.motion.recording import Channel, Recording
from mirkle.files.quantities import Column, column_of
from mirkle.files.sniff import UnusableFile

_CLOCK_TIME = re.compile(r"\s*(\d{4}-\d\d-\d\d[T ])?\d{1,2}:\d\d:\d\d")
_DAY_S = 86_400.0


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
    doubts: list[Clause] = []
    table = _table(content, header, columns, delimiter=delimiter, name=name, doubts=doubts)
    time_s = _times(table, columns, name=name)
    channels = {}
    timed = np.isfinite(time_s)
    for column in columns:
        if column.channel == "time_s":
            continue
        value = _floats(table, column.channel, columns)
        there = timed & np.isfinite(value)
        if there.any():
            channels[column.channel] = Channel(time_s[there], value[there])
    unknown = [h for h in header if h and not column_of(h)]
    if unknown:
        doubts.append(clause("Columns not used: {0}.", ", ".join(unknown[:6])))
    return Recording(name=name, channels=channels, doubts=tuple(doubts))


def _known_columns(header: list[str], *, name: str) -> list[Column]:
    found = [c for h in header if (c := column_of(h))]
    names = [c.channel for c in found]
    where = at_line(name, 1)
    if len(set(names)) < len(names):
        twice = next(c.header for c in found if names.count(c.channel) > 1)
        raise UnusableFile(
            clause("{0} stands there twice", twice), mend="keep one column for each quantity", where=where
        )
    if "time_s" not in names:
        raise UnusableFile(
            "there is no time column",
            mend="name the columns in the first line, such as time_s, lat_deg, lon_deg",
            where=where,
        )
    if not {"lat_rad", "lon_rad"} <= set(names) and not {"speed_mps", "yaw_rate_radps"} <= set(names):
        bare = [h for h in header if h.lower() in ("speed", "yaw_rate")]
        raise UnusableFile(
            "there is neither a position nor a speed with a yaw rate",
            mend=clause(
                "give {0} its unit, such as {1}_{2}", bare[0], bare[0], "mps" if bare[0].lower() == "speed" else "dps"
            )
            if bare
            else "add lat_deg and lon_deg, or speed_mps and yaw_rate_dps",
            where=where,
        )
    return found


def _table(
    content: bytes, header: list[str], columns: list[Column], *, delimiter: str, name: str, doubts: list[Clause]
) -> Any:
    import pyarrow as pa
    from pyarrow import csv

    cut_short: list[int] = []

    def odd_row(row: Any) -> str:
        cut_short.append(row.number or 0)
        return "skip"

    decimal = "," if delimiter != "," and re.search(rb"\d,\d", content[:20_000]) else "."
    unique = [h or f"column {i}" for i, h in enumerate(header)]
    texts = _times_of_day(content, header, columns, delimiter=delimiter)
    try:
        table = csv.read_csv(
            io.BytesIO(content),
            read_options=csv.ReadOptions(use_threads=False, column_names=unique, skip_rows=1, block_size=1 << 22),
            parse_options=csv.ParseOptions(delimiter=delimiter, invalid_row_handler=odd_row),
            convert_options=csv.ConvertOptions(
                column_types={c.header: pa.string() if c.header in texts else pa.float64() for c in columns},
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
            clause("this line has not as many cells as the first line has names ({0})", len(header)),
            mend="give each line one cell for each column, empty where nothing was measured",
            where=at_line(name, odd[0]),
        )
    if cut_short:
        doubts.append(clause("The file ends in the middle of a line; that line was left out."))
    if table.num_rows < 20:
        raise UnusableFile(
            clause("it holds only {0} lines of data", table.num_rows), mend="export the whole run", where=name
        )
    return table


def _times_of_day(content: bytes, header: list[str], columns: list[Column], *, delimiter: str) -> set[str]:
    """The time column, if its first cell is a time of day, with a date or without."""
    time = next(c.header for c in columns if c.channel == "time_s")
    first = content.split(b"\n", 2)[1].decode().split(delimiter) if content.count(b"\n") > 1 else []
    at = header.index(time)
    return {time} if at < len(first) and _CLOCK_TIME.match(first[at].strip(' "')) else set()


def _times(table: Any, columns: list[Column], *, name: str) -> np.ndarray[Any, np.dtype[np.float64]]:
    """Seconds on the file's own clock, whatever that began with; nan where a cell is empty."""
    import pyarrow as pa

    column = next(c for c in columns if c.channel == "time_s")
    cells = table.column(column.header)
    if not pa.types.is_string(cells.type):
        return _floats(table, "time_s", columns)
    out = np.full(len(cells), np.nan)
    for i, cell in enumerate(cells.to_pylist()):
        text = (cell or "").strip()
        if not text:
            continue
        dated = text if "-" in text[:5] else f"1970-01-01T{text if text[1:2] != ':' else '0' + text}"
        try:
            moment = datetime.fromisoformat(dated)
            out[i] = (moment if moment.tzinfo else moment.replace(tzinfo=UTC)).timestamp()
        except ValueError:
            raise UnusableFile(
                clause("{0} holds “{1}”, which is not a time like those before it", column.header, text[:30]),
                mend="write it as 10:15:30.25, with or without the date",
                where=at_line(name, i + 2),
            ) from None
    known = np.flatnonzero(np.isfinite(out))
    # A clock without a date leaps back by a day at midnight.
    out[known] += _DAY_S * np.concatenate([[0.0], np.cumsum(np.diff(out[known]) < -_DAY_S / 2)])
    return out


def _arrow_fault(message: str, header: list[str], content: bytes, *, name: str) -> UnusableFile:
    found = re.search(
        r"CSV column #(\d+): (?:Row #(\d+): )?CSV conversion error to double: invalid value '(.*?)'", message
    )
    if found:
        column = header[int(found[1])] if int(found[1]) < len(header) else "?"
        line = int(found[2]) if found[2] else _line_of(content, found[3])
        return UnusableFile(
            clause("{0} holds “{1}”, which is not a number", column, found[3][:30]),
            mend="write a number there, or leave the cell empty",
            where=at_line(name, line),
        )
    return UnusableFile("it can't be read as CSV", mend="export it as plain comma-separated text", where=name)


def _line_of(content: bytes, value: str) -> int:
    at = content.find(value.encode(), content.find(b"\n"))
    return content.count(b"\n", 0, at) + 1


def _floats(table: Any, channel: str, columns: list[Column]) -> np.ndarray[Any, np.dtype[np.float64]]:
    column = next(c for c in columns if c.channel == channel)
    # Read from the buffers, since the table's own way to NumPy first brings in a whole other library where there is one.
    parts = [_read(chunk) for chunk in table.column(column.header).chunks]
    return np.concatenate(parts or [np.empty(0)]) * column.factor


def _read(chunk: Any) -> np.ndarray[Any, np.dtype[np.float64]]:
    """One part of a column of numbers, nan where a cell is empty."""
    there, numbers = chunk.buffers()
    span = slice(chunk.offset, chunk.offset + len(chunk))
    values = np.frombuffer(numbers, dtype=np.float64)[span].copy()
    if chunk.null_count:
        values[np.unpackbits(np.frombuffer(there, dtype=np.uint8), bitorder="little")[span] == 0] = np.nan
    return values
