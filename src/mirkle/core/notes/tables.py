"""A book that is a table: a heading, a note a row, its parts in columns. It becomes a text with a note a line.

Columns are told apart by what stands in them, not by their headings, which every crew names its own way: rows that are counted, distances
from the start, distances to the next note, the corner (in one column or in several), and words beside it. The first two are left out. The
distances stay in front of the corner, or come last; words that stand behind them in the table belong to their note. What stands in a column
of words and names a side or a figure of its own ("was R5") is a remark, and set in brackets.
"""

from __future__ import annotations

import csv
import re
from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

from mirkle.core.messages import Message, counted, message
from mirkle.core.notes.language import Language, pieces
from mirkle.core.notes.lattice import LARGEST_GRADE
from mirkle.core.notes.reading import best_language
from mirkle.core.notes.tokens import split_words

# A table has this many rows and more, they are most of the lines, and nearly all have the same number of cells.
LEAST_ROWS, MOST_LINES, NEARLY_ALL = 4, 0.6, 0.8
# What parts the cells of a row, the surest first; a comma parts words as well, so there all rows have to be alike.
SEPARATORS = ("\t", "|", ";", ",")
# Distances from the start go up to these metres at least, or have decimals; a distance to the next note never does.
LEAST_LAST_M = 1000.0
_NUMBER = re.compile(r"(\d+(?:[.,](\d+))?)\s*(km|m)?", re.IGNORECASE)
_COUNT = re.compile(r"#?(\d{1,3})[.):]?")
_GRADE = re.compile(r"(\d)\s*[-+½]*")
_IN_BRACKETS = re.compile(r"\([^)]*\)|\[[^\]]*\]")
_NO_BRACKETS = str.maketrans("", "", "()[]")
# What stands between commas in a cell.
_PARTS = re.compile(r"[^\s,;][^,;]*")
# A line of a table that only draws its rules.
_RULE = re.compile(r"(?=.*\|)[\s:|+=-]*-[\s:|+=-]*")

Row = list[str]


@dataclass(frozen=True)
class _Columns:
    """What the columns of a table are, by their numbers; all others are words."""

    counts: frozenset[int]
    places: frozenset[int]
    corner: frozenset[int]
    distances: frozenset[int]


def written_in_lines(source: str, languages: Sequence[Language]) -> tuple[str, tuple[Message, ...]]:
    """The text of a table with a note a line, and a sentence for each thing that was left out or set apart; any other text as it is.

    ``languages`` are those that it may be in.

    Rows of one cell, such as "page 2", and lines that are no rows stay where they are.
    """
    rows = _rows(source)
    if rows is None:
        return source, ()
    language = best_language(split_words(source), languages)
    body = [row for row in rows if _filled(row) > 1]
    heading = _heading(body, language)
    body = [row for row in body if row != heading]
    columns = _columns(body, language)
    if not columns.corner or not (heading or columns.counts or columns.places):
        return source, ()
    lines, apart = [], 0
    for row in rows:
        if row != heading:
            cells, remarks = _in_order(row, columns, language) if _filled(row) > 1 else (row, 0)
            lines.append(" ".join(filter(None, cells)))
            apart += remarks
    return "\n".join(lines), tuple(_sentences(heading, columns, apart, len(body)))


def _sentences(heading: Row | None, columns: _Columns, apart: int, rows: int) -> Iterator[Message]:
    if heading is not None:
        yield message("The heading of the table was left out: {0}.", " / ".join(filter(None, heading)))
    if columns.counts:
        yield counted("The list number of 1 line was left out.", "The list numbers of {0} lines were left out.", rows)
    if columns.places:
        yield message("A column of the table has distances from the start. They were left out.")
    if apart:
        yield counted(
            "1 comment in the table names a side or a number beside its corner. It was kept as a remark.",
            "{0} comments in the table name a side or a number beside their corner. They were kept as remarks.",
            apart,
        )


def _rows(source: str) -> list[Row] | None:
    """The cells of every line but those that draw a table's rules; ``None`` where the text is no table."""
    lines = [line for line in source.split("\n") if not _RULE.fullmatch(line)]
    least = max(LEAST_ROWS, MOST_LINES * sum(bool(line.strip()) for line in lines))
    for separator in SEPARATORS:
        rows = _parted(lines, separator)
        widths = Counter(len(row) for row in rows if len(row) > 1)
        if widths.total() < least:
            continue
        width, often = widths.most_common(1)[0]
        if separator == "\t":
            # Spreadsheets leave out what is empty at the end of a row.
            width, often = max(widths), widths.total()
        if often >= widths.total() * (1.0 if separator == "," else NEARLY_ALL):
            return [row + [""] * (width - len(row)) if any(row) else row for row in rows]
    return None


def _parted(lines: Sequence[str], separator: str) -> list[Row]:
    """The cells of lines; those that a comma or a semicolon parts may be in quotes (RFC 4180)."""
    if separator in ",;":
        try:
            return [[" ".join(cell.split()) for cell in row] for row in csv.reader(lines, delimiter=separator)]
        except csv.Error:
            return []
    # A table's own edges are no cells.
    own = (line.strip().strip("|") if separator == "|" else line for line in lines)
    return [[cell.strip() for cell in line.split(separator)] for line in own]


def _filled(row: Row) -> int:
    return sum(map(bool, row))


def _heading(body: Sequence[Row], language: Language) -> Row | None:
    """The first row, where neither a figure nor a side alone stands in it, and figures stand below one of its cells."""
    first, below = body[0], body[1:]
    if any(_has_figure(cell) or cell.lower() in language.directions for cell in first):
        return None
    over_figures = (_most(below, c, _has_figure) for c, cell in enumerate(first) if cell)
    return first if any(over_figures) else None


def _has_figure(cell: str) -> bool:
    return any(ch.isdigit() for ch in cell)


def _columns(body: Sequence[Row], language: Language) -> _Columns:
    numbers = range(max(map(len, body)))
    counts = frozenset(c for c in numbers if _counts_up(_cells(body, c)))
    places = frozenset(c for c in numbers if c not in counts and _rises(_cells(body, c)))
    left = [c for c in numbers if c not in counts | places]
    sides = [c for c in left if _most(body, c, lambda cell: _has_side(cell, language))]
    grades = [c for c in left if c not in sides and sides and _most(body, c, lambda cell: _is_grade(cell, language))]
    corner = frozenset(sides + grades)
    distances = frozenset(c for c in left if c not in corner and _most(body, c, lambda cell: _is_gap(cell, language)))
    return _Columns(counts, places, corner, distances)


def _cells(body: Sequence[Row], column: int) -> Row:
    return [row[column] for row in body if column < len(row) and row[column]]


def _most(body: Sequence[Row], column: int, holds: Callable[[str], bool]) -> bool:
    """Whether something holds of nearly all filled cells of a column, and those are half of its rows and more."""
    cells = _cells(body, column)
    return 2 * len(cells) >= len(body) and sum(map(holds, cells)) >= NEARLY_ALL * len(cells)


def _counts_up(cells: Row) -> bool:
    found = [int(match[1]) for cell in cells if (match := _COUNT.fullmatch(cell))]
    steps = [b - a for a, b in pairwise(found)]
    return len(found) == len(cells) >= LEAST_ROWS and steps.count(1) >= NEARLY_ALL * len(steps)


def _rises(cells: Row) -> bool:
    """Whether the cells are distances from the start."""
    found = [match for cell in cells if (match := _NUMBER.fullmatch(cell))]
    if len(found) < len(cells) or len(cells) < LEAST_ROWS:
        return False
    in_km = [(m[3] or "").lower() == "km" or (m[2] is not None and not m[3]) for m in found]
    metres = [float(m[1].replace(",", ".")) * (1000.0 if km else 1.0) for m, km in zip(found, in_km, strict=True)]
    steps = [b - a for a, b in pairwise(metres)]
    far = metres[-1] >= LEAST_LAST_M or 2 * sum(in_km) >= len(found)
    return far and min(steps) >= 0.0 and sum(step > 0.0 for step in steps) >= NEARLY_ALL * len(steps)


def _has_side(cell: str, language: Language) -> bool:
    """Whether a cell names a side, by itself or in one with its grade."""
    return any(word.lower() in language.directions for word in pieces(cell))


def _is_grade(cell: str, language: Language) -> bool:
    figure = _GRADE.fullmatch(cell)
    return int(figure[1]) <= LARGEST_GRADE if figure else "grade" in language.kinds_in(_words(cell))


def _is_gap(cell: str, language: Language) -> bool:
    return _NUMBER.fullmatch(cell) is not None or "link" in language.kinds_in(_words(cell))


def _words(cell: str) -> list[str]:
    return [piece.lower() for piece in pieces(cell)]


def _in_order(row: Row, columns: _Columns, language: Language) -> tuple[Row, int]:
    """The cells of a row as a note has them, and how much in them was made remarks."""
    left_out = columns.counts | columns.places
    # A distance of nought is none.
    kept = [c for c, cell in enumerate(row) if cell and c not in left_out and not (c in columns.distances and cell == "0")]
    behind = [c for c in kept if c in columns.distances and c > min(columns.corner)]
    out, remarks = [], 0
    for c in (*(c for c in kept if c not in behind), *behind):
        apart = [] if c in columns.corner | columns.distances else [p for p in _PARTS.findall(row[c]) if _names_another(p, language)]
        cell = row[c]
        for part in apart:
            cell = cell.replace(part, f"({part.translate(_NO_BRACKETS).strip()})")
        out.append(cell)
        remarks += len(apart)
    return out, remarks


def _names_another(cell: str, language: Language) -> bool:
    """Whether a cell beside a corner names a side or a figure of its own; "keep left" and "tightens 2" do not."""
    words, at, changes = _words(_IN_BRACKETS.sub("", cell)), 0, False
    while at < len(words):
        longest = max(language.matches(words, at), key=lambda match: match.taken, default=None)
        kind = longest.term.kind if longest is not None else ""
        if kind == "direction" or (words[at].isdecimal() and not changes):
            return True
        changes = kind == "change"
        at += longest.taken if longest is not None else 1
    return False
