"""A run recording as a table of text: columns by name, units by bracket, suffix or a row of their own, rates mixed by empty cells."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from mirkle.core.clauses import Clause, clause
from mirkle.core.errors import at_line
from mirkle.core.motion.geodesy import local_metres
from mirkle.core.motion.recording import Channel, Floats, Recording
from mirkle.files.moments import looks_like_moment, moment_s, since_begin
from mirkle.files.quantities import Column, column_of, plain_name, shown_unit, units_of
from mirkle.files.sniff import UnusableFile
from mirkle.files.table import OddRow, Table, number_of, numbers, table_of, words

LEAST_ROWS = 20
# A speed without a unit is taken for the one in which it goes with the positions to within so much.
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
    table = table_of(content, channel_known, "time_s")
    if table is None:
        raise UnusableFile(
            "there is no time column",
            mend="name the columns in the first line, such as time_s, lat_deg, lon_deg",
            where=at_line(name, 1),
        )
    doubts: list[Clause] = [clause("What its columns hold is as you said.")] if table.said else []
    columns = _known_columns(table, name, doubts)
    read = _read(table, columns, name)
    if read.cut_short:
        doubts.append(clause("The file ends in the middle of a line; that line was left out."))
    time_s = since_begin(read.values["time_s"])
    if len(time_s) < LEAST_ROWS:
        raise UnusableFile(
            clause("it holds only {0} lines of data", len(time_s)), mend="export the whole run", where=name
        )
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
        doubts.append(clause("Columns not used: {0}.", ", ".join(unknown[:6])))
    return Recording(name=name, channels=channels, doubts=tuple(doubts))


def channel_known(header: str, unit: str = "") -> str | None:
    """The channel that a head's cell stands for."""
    column = column_of(header, unit)
    return column.channel if column is not None else None


def _known_columns(table: Table, name: str, doubts: list[Clause]) -> list[Column]:
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
            raise UnusableFile(
                clause("{0} stands there twice", header), mend="keep one column for each quantity", where=where
            )
        elif column.channel != "time_s":
            doubts.append(clause("{0} is not used: {1} holds the same.", header, before.header))
    if not {"lat_rad", "lon_rad"} <= set(found) and not {"speed_mps", "yaw_rate_radps"} <= set(found):
        raise UnusableFile(
            "there is neither a position nor a speed with a yaw rate",
            mend="add lat_deg and lon_deg, or speed_mps and yaw_rate_dps",
            where=where,
        )
    return list(found.values())


def _read(table: Table, columns: list[Column], name: str) -> _Read:
    """The cells of the known columns, at once where the table holds nothing but numbers, else cell by cell."""
    cut_short = False
    try:
        try:
            cells = numbers(table)
        except OddRow as odd:
            if not odd.last:
                raise
            # The file breaks off in its last line.
            cut_short = True
            table = table.without_last_line()
            cells = numbers(table)
        if cells is not None:
            return _Read({c.channel: cells[:, table.header.index(c.header)] for c in columns}, cut_short)
        rows = _rows(table)
    except OddRow as odd:
        raise UnusableFile(
            clause("this line has not as many cells as the first line has names ({0})", len(table.header)),
            mend="give each line one cell for each column, empty where nothing was measured",
            where=at_line(name, odd.line),
        ) from None
    cut_short |= len(rows) > 0 and len(rows[-1]) != len(table.header)
    rows = rows[:-1] if rows and len(rows[-1]) != len(table.header) else rows
    values = {}
    for column in columns:
        at = table.header.index(column.header)
        texts = [row[at] for row in rows]
        written = column.channel == "time_s" and any(looks_like_moment(t) for t in texts[:3])
        values[column.channel] = (
            _moments(texts, column, table, name) if written else _numbers(texts, column, table, name)
        )
    return _Read(values, cut_short)


def _rows(table: Table) -> list[list[str]]:
    """All rows in words; the last is left as it is where the file ends in the middle of it."""
    try:
        return words(table)
    except OddRow as odd:
        if not odd.last:
            raise
    return [*words(table.without_last_line()), []]


def _moments(texts: list[str], column: Column, table: Table, name: str) -> Floats:
    out = np.full(len(texts), np.nan)
    for i, text in enumerate(texts):
        if text:
            moment = moment_s(text)
            if moment is None:
                raise UnusableFile(
                    clause("{0} holds “{1}”, which is not a time like those before it", column.header, text[:30]),
                    mend="write it as 10:15:30.25, with or without the date",
                    where=at_line(name, table.first_line + i),
                )
            out[i] = moment
    return out


def _numbers(texts: list[str], column: Column, table: Table, name: str) -> Floats:
    out = np.full(len(texts), np.nan)
    for i, text in enumerate(texts):
        try:
            out[i] = number_of(text, table.decimal)
        except ValueError:
            raise UnusableFile(
                clause("{0} holds “{1}”, which is not a number", column.header, text[:30]),
                mend="write a number there, or leave the cell empty",
                where=at_line(name, table.first_line + i),
            ) from None
    return out * column.factor if column.channel == "time_s" else out


def _with_units(
    columns: list[Column], values: dict[str, Floats], time_s: Floats, where: str | Clause, doubts: list[Clause]
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
                    clause("{0} has no unit", column.header),
                    mend=clause("write it behind the name, such as {0} ({1})", column.header, _usual(column.channel)),
                    where=where,
                )
            doubts.append(clause("{0} is not used: it has no unit, and its values don't tell it.", column.header))
            continue
        doubts.append(clause("{0} has no unit; by its values it is {1}.", column.header, shown_unit(unit)))
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
        fits = [u for u, f in units_of(channel).items() if ABOUT_ONE_G[0] < most * f / 9.80665 < ABOUT_ONE_G[1]]
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
