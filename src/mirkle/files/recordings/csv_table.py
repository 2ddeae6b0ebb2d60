"""A run recording as a table of text: columns by name, units by bracket, suffix or a row of their own, rates mixed by empty cells."""

from __future__ import annotations

from collections.abc import Container
from dataclasses import dataclass, replace

import numpy as np

from mirkle.core.constants import GRAVITY_MPS2
from mirkle.core.errors import at_line
from mirkle.core.messages import Message, counted, message
from mirkle.core.motion.geodesy import local_metres
from mirkle.core.recording.model import Channel, Floats, Recording
from mirkle.files.detect import UnusableFile
from mirkle.files.recordings.cells import (
    EMPTY,
    NoNumber,
    angle_of,
    hemisphere_of,
    is_angle,
    numbers_of,
    out_of_ddmm,
    out_of_ddmm_at_any_size,
    two_of,
)
from mirkle.files.recordings.quantities import Column, column_of, plain_name, shown_unit, units_of
from mirkle.files.recordings.table import OddRow, Table, cells_of, numbers, table_of, words
from mirkle.files.recordings.timestamps import looks_like_moment, moment_s, out_of_hhmmss, since_begin

LEAST_ROWS = 20
# How many lines at the end of a table, and bytes, are checked for text that is no data.
FOOTER_LINES, FOOTER_BYTES = 40, 20_000
# A speed without a unit has the unit in which it agrees with the positions to this share.
SPEEDS_AGREE = 0.12
# The weight of the car itself: an accelerometer's values lie about one g, whatever they are written in.
ABOUT_ONE_G = (0.7, 1.4)
# A car turns at most so fast, in radians a second; in degrees it is soon beyond that.
MOST_TURNING_RADPS = 3.0


@dataclass(frozen=True)
class _Read:
    """The cells of the known columns as numbers, nan where one is empty, and where the file breaks off."""

    values: dict[str, Floats]
    cut_short: bool


def parse_csv_run(content: bytes, *, name: str) -> Recording:
    """The recording in a table's bytes.

    Raises
    ------
    UnusableFile
        With the line, what is wrong and what would mend it.
    """
    _refuse_endless_line(content, name)
    table = table_of(content, channel_known, "time_s")
    if table is None:
        raise UnusableFile(
            "there is no time column", mend="name the columns in the first line, such as time_s, lat_deg, lon_deg", where=at_line(name, 1)
        )
    doubts: list[Message] = [message("What its columns hold is as you said.")] if table.said else []
    table = _without_footer(table, doubts)
    columns = _known_columns(table, name, doubts)
    read = _read(table, columns, name)
    columns = _placed(columns, read.values)
    if read.cut_short:
        doubts.append(message("The file ends in the middle of a line; that line was left out."))
    time_s = _evened(since_begin(out_of_hhmmss(read.values["time_s"])), doubts)
    if len(time_s) < LEAST_ROWS:
        raise UnusableFile(message("it holds only {0} lines of data", len(time_s)), mend="export the whole run", where=name)
    columns = _with_units(columns, read.values, time_s, at_line(name, table.head_line), doubts)
    channels = {}
    timed = np.isfinite(time_s)
    for column in columns:
        if column.channel != "time_s":
            value = read.values[column.channel] * column.factor
            there = timed & np.isfinite(value)
            if there.any():
                channels[column.channel] = Channel(time_s[there], value[there])
    unknown = [h for h in table.header if h and not column_of(h)]
    if unknown:
        doubts.append(message("Columns not used: {0}.", ", ".join(unknown[:6])))
    return Recording(name=name, channels=channels, doubts=tuple(doubts))


# No row of a table is longer.
LONGEST_LINE_BYTES = 1_000_000


def _refuse_endless_line(content: bytes, name: str) -> None:
    """Raises :class:`UnusableFile` for a table one of whose lines never ends, before anything is made of it."""
    at = 0
    while len(content) - at > LONGEST_LINE_BYTES:
        ends = max(content.rfind(end, at, at + LONGEST_LINE_BYTES) for end in (b"\n", b"\r"))
        if ends < 0:
            raise UnusableFile(
                "one of its lines never ends",
                mend="export it again, a line for each sample",
                where=at_line(name, content.count(b"\n", 0, at) + 1),
            )
        at = ends + 1


def channel_known(header: str, unit: str = "") -> str | None:
    """The channel that a head's cell stands for; a day may stand for the time."""
    column = column_of(header, unit)
    if column is None:
        return None
    return "time_s" if column.channel == "date_s" else column.channel


def _known_columns(table: Table, name: str, doubts: list[Message]) -> list[Column]:
    """The columns that are used, one for each channel: the first of those that hold the same."""
    found: dict[str, Column] = {}
    where = at_line(name, table.head_line)
    for header, unit in zip(table.header, table.units, strict=True):
        column = column_of(header, unit)
        if column is None:
            continue
        before = found.get(column.channel)
        if before is None:
            found[column.channel] = column
        elif plain_name(before.header) == plain_name(header) or column.channel in ("lat_rad", "lon_rad"):
            raise UnusableFile(message("{0} stands there twice", header), mend="keep one column for each quantity", where=where)
        elif column.channel != "time_s":
            doubts.append(message("{0} is not used: {1} holds the same.", header, before.header))
    date = found.pop("date_s", None)
    if date is not None and "time_s" not in found:
        found["time_s"] = replace(date, channel="time_s")
    if {"lat_rad", "lon_rad"} <= set(found):
        found.pop("position", None)
    has_place = {"lat_rad", "lon_rad"} <= set(found) or "position" in found
    if not has_place and not {"speed_mps", "yaw_rate_radps"} <= set(found):
        raise UnusableFile(
            "there is neither a position nor a speed with a yaw rate",
            mend="add lat_deg and lon_deg, or speed_mps and yaw_rate_dps",
            where=where,
        )
    return list(found.values())


def _read(table: Table, columns: list[Column], name: str) -> _Read:
    """The cells of the known columns, at once where the table holds nothing but numbers, else cell by cell."""
    cut_short = False
    wanted = [table.header.index(c.header) for c in columns]
    try:
        try:
            cells = numbers(table, wanted)
        except OddRow as odd:
            if not odd.last:
                raise
            # The file breaks off in its last line.
            cut_short = True
            table = table.without_last_line()
            cells = numbers(table, wanted)
        if cells is not None:
            values = {c.channel: cells[:, at] for at, c in enumerate(columns)}
            factor = next(c.factor for c in columns if c.channel == "time_s")
            return _Read(values | {"time_s": values["time_s"] * factor}, cut_short)
        rows = _rows(table, frozenset(wanted))
    except OddRow as odd:
        raise UnusableFile(
            message("this line has not as many cells as the first line has names ({0})", len(table.header)),
            mend="give each line one cell for each column, empty where nothing was measured",
            where=at_line(name, odd.line),
        ) from None
    cut_short |= len(rows) > 0 and len(rows[-1]) != len(table.header)
    rows = rows[:-1] if rows and len(rows[-1]) != len(table.header) else rows
    return _Read(_values_in(rows, columns, table, name), cut_short)


def _values_in(rows: list[list[str]], columns: list[Column], table: Table, name: str) -> dict[str, Floats]:
    """The values of each channel, cell by cell; a unit that stands in the cells goes to its column, in place."""
    values: dict[str, Floats] = {}
    for column in list(columns):
        at = table.header.index(column.header)
        texts = [row[at] for row in rows]
        written = column.channel == "time_s" and any(looks_like_moment(t) for t in texts[:3])
        if written:
            values[column.channel] = _moments(texts, column, table, name)
        elif column.channel == "position":
            values["lat_rad"], values["lon_rad"] = _both(texts, column, table, name)
        elif column.channel in ("lat_rad", "lon_rad") and any(map(is_angle, texts[:LEAST_ROWS])):
            values[column.channel] = _angles(texts, column, table, name)
        else:
            values[column.channel], unit = _numbers(texts, column, table, name)
            if unit and not column.factor and (known := column_of(column.header, unit)) is not None:
                columns[columns.index(column)] = replace(known, header=column.header)
    _turned_by_letters(table, rows, values)
    return values


def _rows(table: Table, wanted: Container[int]) -> list[list[str]]:
    """All rows in words, those of ``wanted`` columns whole; the last is left as it is where the file ends in the middle of it."""
    try:
        return words(table, wanted)
    except OddRow as odd:
        if not odd.last:
            raise
    return [*words(table.without_last_line(), wanted), []]


def _moments(texts: list[str], column: Column, table: Table, name: str) -> Floats:
    out = np.full(len(texts), np.nan)
    for i, text in enumerate(texts):
        if text:
            moment = moment_s(text)
            if moment is None:
                raise UnusableFile(
                    message("{0} holds “{1}”, which is not a time like those before it", column.header, text[:30]),
                    mend="write it as 10:15:30.25, with or without the date",
                    where=at_line(name, table.first_line + i),
                )
            out[i] = moment
    return out


def _numbers(texts: list[str], column: Column, table: Table, name: str) -> tuple[Floats, str]:
    """A column as numbers, and the unit that stands in its cells."""
    try:
        out, unit = numbers_of(texts, table.decimal)
    except NoNumber as odd:
        raise _no_number(texts, odd.row, column, table, name) from None
    return (out * column.factor if column.channel == "time_s" else out), unit


def _no_number(texts: list[str], row: int, column: Column, table: Table, name: str) -> UnusableFile:
    return UnusableFile(
        message("{0} holds “{1}”, which is not a number", column.header, texts[row][:30]),
        mend="write a number there, or leave the cell empty",
        where=at_line(name, table.first_line + row),
    )


def _angles(texts: list[str], column: Column, table: Table, name: str) -> Floats:
    """A column of latitudes or longitudes with letters, minutes and seconds, in degrees."""
    out = np.full(len(texts), np.nan)
    for i, text in enumerate(texts):
        if text.strip().lower() in EMPTY:
            continue
        angle = angle_of(text)
        if angle is None:
            raise _no_number(texts, i, column, table, name)
        out[i] = angle
    return out


def _both(texts: list[str], column: Column, table: Table, name: str) -> tuple[Floats, Floats]:
    """A column with latitude and longitude in each cell, in degrees."""
    lat, lon = np.full(len(texts), np.nan), np.full(len(texts), np.nan)
    for i, text in enumerate(texts):
        if text.strip().lower() in EMPTY:
            continue
        two = two_of(text)
        if two is None:
            raise UnusableFile(
                message("{0} has “{1}”, which is not a latitude with a longitude", column.header, text[:30]),
                mend="write both in degrees with a comma between, or give each a column",
                where=at_line(name, table.first_line + i),
            )
        lat[i], lon[i] = two
    return lat, lon


def _turned_by_letters(table: Table, rows: list[list[str]], values: dict[str, Floats]) -> None:
    """Gives latitudes and longitudes the signs that stand beside them in columns of letters: N or S, E or W."""
    for at, header in enumerate(table.header):
        if column_of(header) is not None:
            continue
        known = hemisphere_of([row[at] for row in rows])
        if known is not None and (channel := f"{known[0]}_rad") in values:
            values[channel] = np.abs(values[channel]) * known[1]


def _placed(columns: list[Column], values: dict[str, Floats]) -> list[Column]:
    """The columns with latitude and longitude as two where they stood in one; and both in degrees where they were degrees and minutes in
    one number."""
    both = next((c for c in columns if c.channel == "position"), None)
    if both is not None:
        factor = both.factor
        columns = [c for c in columns if c is not both]
        columns += [Column(both.header, channel, factor) for channel in ("lat_rad", "lon_rad") if channel in values]
    there = {"lat_rad": 90.0, "lon_rad": 180.0}
    if all(channel in values for channel in there):
        known = {channel: out_of_ddmm(values[channel], most) for channel, most in there.items()}
        # A longitude of less than two degrees looks like one in degrees: what the latitude is, it is as well.
        if (lat := known["lat_rad"]) is not None:
            lon = known["lon_rad"]
            values["lat_rad"] = lat
            values["lon_rad"] = lon if lon is not None else out_of_ddmm_at_any_size(values["lon_rad"])
    return columns


def _without_footer(table: Table, doubts: list[Message]) -> Table:
    """The table without lines at its end that are no data: totals, names, remarks."""
    body = table.body.rstrip(b"\n")
    lines = body[-FOOTER_BYTES:].split(b"\n")[-FOOTER_LINES:]
    count = 0
    time_at = next((i for i, h in enumerate(table.header) if channel_known(h, table.units[i]) == "time_s"), None)
    for line in reversed(lines):
        cells = cells_of(line.decode("utf-8", "replace"), table.delimiter)
        remark = line.lstrip().startswith((b"#", b"//", b"%"))
        first = cells[time_at].strip() if time_at is not None and time_at < len(cells) else ""
        words = any(c.isalpha() for cell in cells for c in cell)
        if not (remark or not line.strip() or (words and not _is_value(first)) or (words and len(cells) < len(table.header) - 1)):
            break
        count += 1
    if not count or count >= len(lines):
        return table
    kept = body.rsplit(b"\n", count)[0]
    said = sum(bool(line.strip(b" ,;\t")) for line in lines[-count:])
    if said:
        doubts.append(
            counted("1 line at the end is no data and was left out.", "{0} lines at the end are no data and were left out.", said)
        )
    return replace(table, body=kept + b"\n")


def _is_value(text: str) -> bool:
    """Whether a cell of the time column holds a time or a number."""
    return looks_like_moment(text) or any(c.isdigit() for c in text)


def _evened(time_s: Floats, doubts: list[Message]) -> Floats:
    """Times in whole seconds, several samples each: those of a second are spread evenly over it."""
    known = np.isfinite(time_s)
    seconds = time_s[known]
    if len(seconds) < LEAST_ROWS or np.any(seconds != np.floor(seconds)) or np.any(np.diff(seconds) < 0):
        return time_s
    begins = np.flatnonzero(np.concatenate([[True], np.diff(seconds) > 0]))
    counts = np.diff(np.concatenate([begins, [len(seconds)]]))
    usual = int(np.median(counts))
    if usual < 2:
        return time_s
    out = seconds.copy()
    for n, (begin, count) in enumerate(zip(begins, counts, strict=True)):
        place = np.arange(count, dtype=float)
        # The first second may have begun before the recording did.
        late = usual - count if n == 0 and count < usual else 0
        out[begin : begin + count] += (place + late) / max(usual, count)
    doubts.append(message("Times are whole seconds, {0} samples in each: they were spread evenly over it.", usual))
    spread = time_s.copy()
    spread[known] = out
    return spread


def _with_units(
    columns: list[Column], values: dict[str, Floats], time_s: Floats, where: str | Message, doubts: list[Message]
) -> list[Column]:
    """The columns with a factor each: a unit that nobody wrote is told by what the values can only be, and said; else it is asked for."""
    out = []
    places = [values[c.channel] * c.factor for name in ("lat_rad", "lon_rad") for c in columns if c.channel == name]
    for column in columns:
        if column.factor:
            out.append(column)
            continue
        unit = _unit_by_values(column.channel, values, places, time_s)
        if unit is None:
            if column.channel in ("lat_rad", "lon_rad", "speed_mps", "yaw_rate_radps") and "lat_rad" not in values:
                raise UnusableFile(
                    message("{0} has no unit", column.header),
                    mend=message("write it behind the name, such as {0} ({1})", column.header, _usual(column.channel)),
                    where=where,
                )
            doubts.append(message("{0} is not used: it has no unit, and its values don't tell it.", column.header))
            continue
        doubts.append(message("{0} has no unit; by its values it is {1}.", column.header, shown_unit(unit)))
        out.append(Column(column.header, column.channel, units_of(column.channel)[unit]))
    return out


def _unit_by_values(channel: str, values: dict[str, Floats], places: list[Floats], time_s: Floats) -> str | None:
    value = values[channel]
    known = value[np.isfinite(value)]
    if len(known) < LEAST_ROWS:
        return None
    if channel == "speed_mps" and len(places) == 2:
        return _speed_unit(value, places, time_s)
    if channel.startswith("acc_"):
        axes = [values[c][np.isfinite(values[c])] for c in ("acc_x_mps2", "acc_y_mps2", "acc_z_mps2") if c in values]
        most = max(float(np.median(np.abs(a))) for a in axes if len(a))
        fits = [u for u, f in units_of(channel).items() if ABOUT_ONE_G[0] < most * f / GRAVITY_MPS2 < ABOUT_ONE_G[1]]
        return fits[0] if len(fits) == 1 and len(axes) == 3 else None
    if channel == "yaw_rate_radps":
        fast = float(np.percentile(np.abs(known), 99))
        return "dps" if fast > MOST_TURNING_RADPS else "radps" if fast > 0.05 else None
    return None


def _speed_unit(speed: Floats, places: list[Floats], time_s: Floats) -> str | None:
    """The unit in which a speed goes with the way between the positions."""
    lat, lon = places
    there = np.isfinite(lat) & np.isfinite(lon) & np.isfinite(speed) & np.isfinite(time_s)
    if there.sum() < LEAST_ROWS:
        return None
    east, north = local_metres(lat[there], lon[there])
    with np.errstate(divide="ignore", invalid="ignore"):
        by_way = np.hypot(np.diff(east), np.diff(north)) / np.diff(time_s[there])
    moving = np.isfinite(by_way) & (by_way > 4.0) & (speed[there][1:] > 0)
    if moving.sum() < LEAST_ROWS:
        return None
    ratio = float(np.median(by_way[moving] / np.maximum(speed[there][1:][moving], 1e-6)))
    unit, factor = min(units_of("speed_mps").items(), key=lambda u: abs(np.log(ratio / u[1])))
    return unit if abs(ratio / factor - 1.0) < SPEEDS_AGREE else None


def _usual(channel: str) -> str:
    return {"speed_mps": "m/s", "yaw_rate_radps": "deg/s"}.get(channel, "deg")
