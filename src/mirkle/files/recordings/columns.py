"""A table whose names don't tell what its columns hold: its head to be looked at, and what a crew says of it.

What was said stands as a comment in front of the table from then on, so that the file carries it wherever it is read:
``# mirkle columns {"rows_from": 4, "delimiter": ";", "names": ["time (s)", "", "lat (deg)", "lon (deg)"]}``
"""

from __future__ import annotations

import hashlib
import json
from collections.abc import Sequence
from dataclasses import dataclass

from mirkle.core.errors import MirkleError
from mirkle.core.messages import gettext_noop
from mirkle.files.recordings.cells import number_of
from mirkle.files.recordings.quantities import column_of, quantity_of
from mirkle.files.recordings.table import DELIMITERS, HEAD_LINES, SAID, as_utf8, cells_of
from mirkle.files.recordings.timestamps import looks_like_moment

# Fewer rows with as many numbers each are no recording.
LEAST_ROWS = 20
LEAST_COLUMNS = 3
# How many of a table's cells may be words, such as a day or a kind of fix.
MOST_WORDS = 0.4
SHOWN_ROWS = 3


@dataclass(frozen=True)
class Look:
    """The head of a table that holds numbers: its ``names``, empty where it has none, the ``units`` under them, and its first ``rows``.

    ``rows_from`` is the line, counted from 1, on which the numbers begin.
    """

    names: tuple[str, ...]
    units: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    delimiter: str
    rows_from: int

    @property
    def shape(self) -> str:
        """What tables of the same shape have in common: the names and how they are divided.

        One without names is like no other: only its own first rows tell it.
        """
        data = self.names if any(self.names) else tuple(c for row in self.rows for c in row)
        return hashlib.sha256("\0".join((self.delimiter, *data)).encode()).hexdigest()

    def known(self) -> list[str]:
        """The columns as far as their names tell them, as names that are understood; empty for the others."""
        return [
            f"{name} ({unit})" if unit and column_of(name, unit) else name if column_of(name) else ""
            for name, unit in zip(self.names, self.units, strict=True)
        ]


class UnknownColumns(MirkleError):
    """A table of numbers that can't be read as it is; whoever knows its columns can say what they hold.

    ``names`` is what they are taken for so far, by their own names or because it was said before; ``file`` what it is called.
    """

    def __init__(self, look: Look, names: Sequence[str], fault: MirkleError, *, file: str) -> None:
        super().__init__(fault.what, mend=fault.mend, where=fault.where)
        self.look, self.names, self.file = look, tuple(names), file


def look_at(content: bytes) -> Look | None:
    """The head of a table that holds numbers, whatever its columns are called; ``None`` where there is none."""
    text = as_utf8(content[:400_000]).decode("utf-8", "replace").replace("\r\n", "\n").replace("\r", "\n")
    lines = text.split("\n")[: HEAD_LINES + LEAST_ROWS]
    found = _most_even(lines)
    if found is None:
        return None
    columns, delimiter, first = found
    # A head is of as many cells as the rows, and of words; under it there may be a row of units.
    above: list[list[str]] = []
    for line in reversed(lines[max(first - 4, 0) : first]):
        row = cells_of(line.lstrip("#% "), delimiter)
        if len(row) == columns and not any(map(_is_value, row)):
            above.insert(0, row)
        elif any(row) or len(above) > 1:
            break
    names = tuple(above[-2] if len(above) > 1 else above[-1] if above else [""] * columns)
    units = tuple(c.strip("[]() ") for c in above[-1]) if len(above) > 1 else ("",) * columns
    shown = tuple(tuple(cells_of(line, delimiter)) for line in lines[first : first + SHOWN_ROWS])
    return Look(names, units, shown, delimiter, first + 1)


def _most_even(lines: Sequence[str]) -> tuple[int, str, int] | None:
    """How many columns of numbers some lines have, what parts them, and the first line that has them; ``None`` where they have none."""
    best: tuple[float, int, str, int] | None = None
    for delimiter in DELIMITERS:
        rows = [cells_of(line, delimiter) for line in lines]
        first, last = _longest_even(rows)
        if last - first < LEAST_ROWS:
            continue
        cells = [c for row in rows[first:last] for c in row if c]
        columns = len(rows[first])
        share = sum(map(_is_value, cells)) / max(len(cells), 1)
        if columns >= LEAST_COLUMNS and share >= 1 - MOST_WORDS and (best is None or (share, columns) > best[:2]):
            best = (share, columns, delimiter, first)
    return best[1:] if best is not None else None


def _longest_even(rows: Sequence[Sequence[str]]) -> tuple[int, int]:
    """The longest run of rows with as many cells, most of them values: its first and the one behind its last."""
    best, first = (0, 0), 0
    for at in range(1, len(rows) + 1):
        even = at < len(rows) and len(rows[at]) == len(rows[first]) and _mostly_values(rows[at]) and _mostly_values(rows[first])
        if not even:
            if at - first > best[1] - best[0]:
                best = (first, at)
            first = at
    return best


def _mostly_values(row: Sequence[str]) -> bool:
    filled = [c for c in row if c]
    return len(filled) > 0 and sum(map(_is_value, filled)) >= (1 - MOST_WORDS) * len(filled)


def _is_value(cell: str) -> bool:
    if looks_like_moment(cell):
        return True
    try:
        number_of(cell, ".")
    except ValueError:
        return False
    return True


def missing_of(names: Sequence[str]) -> list[str]:
    """What columns that are called so still lack to be a run, in words; nothing where they are one."""
    channels = {c.channel for n in names if n and (c := column_of(n)) is not None}
    place = {"lat_rad", "lon_rad"} <= channels or "position" in channels
    turning = {"speed_mps", "yaw_rate_radps"} <= channels
    return ([] if channels & {"time_s", "date_s"} else [gettext_noop("the time")]) + (
        [] if place or turning else [gettext_noop("latitude and longitude, or speed and yaw rate")]
    )


def twice_in(names: Sequence[str]) -> str | None:
    """A quantity that two columns are said to hold; ``None`` where there is none."""
    seen: set[str] = set()
    for name in filter(None, names):
        column = column_of(name)
        if column is not None and column.channel in seen:
            return quantity_of(column.channel)
        if column is not None:
            seen.add(column.channel)
    return None


def with_columns(content: bytes, look: Look, names: Sequence[str]) -> bytes:
    """The file with what was said of its columns in front, in UTF-8; nothing else of it is changed."""
    data = {"rows_from": look.rows_from, "delimiter": look.delimiter, "names": list(names)}
    return SAID + json.dumps(data, ensure_ascii=False).encode() + b"\n" + as_utf8(without_columns(content))


def without_columns(content: bytes) -> bytes:
    """The file without what was said of its columns."""
    return content[content.find(b"\n") + 1 :] if content.startswith(SAID) else content
