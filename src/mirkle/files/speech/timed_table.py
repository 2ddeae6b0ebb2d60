"""What was said as a table: a row for each stretch or word, with when it began, when it ended where that is known, and the words."""

from __future__ import annotations

import csv
import statistics
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from mirkle.files.recordings.timestamps import moment_s

# What recognisers and programs for captions call their columns. # common practice
_START = frozenset(("start", "begin", "time", "timestamp", "offset", "from", "start_time", "begin_time", "start_s", "start_ms"))
_END = frozenset(("end", "stop", "to", "end_time", "stop_time", "end_s", "end_ms"))
_WORDS = frozenset(("text", "word", "words", "transcript", "transcription", "caption", "said", "sentence", "utterance"))
_SEPARATORS = "\t;,|"
# Whole numbers are milliseconds where the words follow each other by more than this, as nobody pauses for so many seconds.
LONGEST_PAUSE = 120
# A last word lasts so long, in seconds.
LAST_S = 0.5


@dataclass(frozen=True)
class _Columns:
    """What divides the cells, and which cells hold the start, the end (``None`` where none does) and the words."""

    separator: str
    start: int
    end: int | None
    words: int


def looks_like_a_table_of_words(text: str) -> bool:
    """Whether the first line names columns with times and words."""
    return _columns_of(text) is not None


def words_in_table(text: str) -> list[tuple[float, float, str]]:
    """The rows whose times can be read: start and end in seconds, and the words."""
    columns = _columns_of(text)
    assert columns is not None
    rows = list(csv.reader(text.splitlines()[1:], delimiter=columns.separator))
    rows = [row for row in rows if len(row) > max(columns.start, columns.words, columns.end or 0)]
    starts = [_seconds(row[columns.start]) for row in rows]
    ends = [_seconds(row[columns.end]) for row in rows] if columns.end is not None else [None] * len(rows)
    known = [(s, e, row[columns.words]) for s, e, row in zip(starts, ends, rows, strict=True) if s is not None]
    unit = 1e-3 if _in_milliseconds([s for s, _, _ in known]) else 1.0
    behind = [s for s, _, _ in known[1:]] + [known[-1][0] + LAST_S / unit if known else 0.0]
    return [(unit * s, unit * (e if e is not None else later), words) for (s, e, words), later in zip(known, behind, strict=True)]


def _columns_of(text: str) -> _Columns | None:
    head = text.lstrip("\ufeff").split("\n", 1)[0]
    for separator in _SEPARATORS:
        names = [cell.strip().strip('"').lower().replace(" ", "_") for cell in head.split(separator)]
        start, end, words = (_first(names, known) for known in (_START, _END, _WORDS))
        if start is not None and words is not None:
            return _Columns(separator, start, end, words)
    return None


def _first(names: Sequence[str], known: frozenset[str]) -> int | None:
    return next((i for i, name in enumerate(names) if name in known), None)


def _seconds(cell: str) -> float | None:
    """A time as a number, or with colons; ``None`` where it is none."""
    try:
        return float(cell.strip().replace(",", "."))
    except ValueError:
        return moment_s(cell) if ":" in cell else None


def _in_milliseconds(starts: Sequence[float]) -> bool:
    apart = [b - a for a, b in pairwise(starts)]
    return len(apart) > 0 and all(s == int(s) for s in starts) and statistics.median(apart) > LONGEST_PAUSE
