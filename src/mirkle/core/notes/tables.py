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
from functools import partial
from itertools import pairwise

from mirkle.core.messages import Message, counted, message
from mirkle.core.notes.language import Language
from mirkle.core.notes.layout import LEAST_LAST_M, from_start_m, is_in_km
from mirkle.core.notes.reading import best_language
from mirkle.core.notes.shorthand import LARGEST_GRADE
from mirkle.core.notes.tokens import split_words

# A table has this many rows and more, they are most of the lines, and nearly all have the same number of cells.
LEAST_ROWS, MOST_LINES, NEARLY_ALL = 4, 0.6, 0.8
# Columns that no note needs, and those that are its corner.
LEFT_OUT, CORNER = frozenset(("count", "place")), frozenset(("side", "grade"))
# What parts the cells of a row, the surest first; a comma parts words as well, so there all rows have to be alike.
SEPARATORS = ("\t", "|", ";", ",")
_NUMBER = re.compile(r"(\d+(?:[.,]\d+)?)\s*(km|m)?", re.IGNORECASE)
_COUNT = re.compile(r"#?(\d{1,3})[.):]?")
_GRADE = re.compile(r"(\d)\s*[-+½]*")
_IN_BRACKETS = re.compile(r"\([^)]*\)|\[[^\]]*\]")
_NO_BRACKETS = str.maketrans("", "", "()[]")
# What stands between commas in a cell.
_PARTS = re.compile(r"[^\s,;][^,;]*")
# A line of a table that only draws its rules.
_RULE = re.compile(r"(?=.*\|)[\s:|+=-]*-[\s:|+=-]*")

Row = list[str]


def written_in_lines(source: str, languages: Sequence[Language]) -> tuple[str, tuple[Message, ...]]:
    """The text of a table with a note a line, and a sentence for each thing that was left out or set apart; any other text as it is.

    ``languages`` are those that it may be in.

    Rows of one cell, such as "page 2", and lines that are no rows stay where they are.
    """
    rows = _rows(source)
    if rows is None:
        return source, ()
    language = best_language(split_words(source), languages)
    heading = _heading(_of_several(rows), language)
    body = _of_several(rows, heading)
    kinds = [_kind_of(body, column, language) for column in range(max(map(len, body)))]
    if "side" not in kinds or not (heading or LEFT_OUT & set(kinds)):
        return source, ()
    lines, remarks = zip(*(_line(row, kinds, language) for row in rows if row != heading), strict=True)
    return "\n".join(lines), tuple(_sentences(heading, kinds, len(body), sum(remarks)))


def _sentences(heading: Row | None, kinds: Sequence[str], rows: int, remarks: int) -> Iterator[Message]:
    if heading is not None:
        yield message("The heading of the table was left out: {0}.", " / ".join(filter(None, heading)))
    if "count" in kinds:
        yield counted("The list number of 1 line was left out.", "The list numbers of {0} lines were left out.", rows)
    if "place" in kinds:
        yield message("A column of the table has distances from the start. They were left out.")
    if remarks:
        yield counted(
            "1 comment in the table names a side or a number beside its corner. It was kept as a remark.",
            "{0} comments in the table name a side or a number beside their corner. They were kept as remarks.",
            remarks,
        )


def _rows(source: str) -> list[Row] | None:
    """The cells of every line but those that draw a table's rules; ``None`` where the text is no table."""
    lines = [line for line in source.split("\n") if not _RULE.fullmatch(line)]
    least = max(LEAST_ROWS, MOST_LINES * sum(bool(line.strip()) for line in lines))
    for separator in SEPARATORS:
        rows = _parted(lines, separator)
        width = _width(rows, separator, least)
        if width:
            return [row + [""] * (width - len(row)) if any(row) else row for row in rows]
    return None


def _width(rows: Sequence[Row], separator: str, least: float) -> int:
    """How many cells the rows of a table have, nought where they are none: ``least`` have several, and of these nearly all as many."""
    widths = Counter(len(row) for row in rows if len(row) > 1)
    parted = widths.total()
    if parted < least:
        return 0
    if separator == "\t":
        # Spreadsheets leave out what is empty at the end of a row.
        return max(widths)
    width, often = widths.most_common(1)[0]
    return width if often >= parted * (1.0 if separator == "," else NEARLY_ALL) else 0


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


def _of_several(rows: Sequence[Row], heading: Row | None = None) -> list[Row]:
    """The rows with several cells, but for the heading."""
    return [row for row in rows if _filled(row) > 1 and row != heading]


def _filled(row: Row) -> int:
    return sum(map(bool, row))


def _heading(body: Sequence[Row], language: Language) -> Row | None:
    """The first row, where neither a figure nor a side alone stands in it, and figures stand below one of its cells."""
    first, below = body[0], body[1:]
    if any(_has_figure(cell) or cell.lower() in language.directions for cell in first):
        return None
    return first if any(_nearly_all(_cells(below, c), _has_figure) for c, cell in enumerate(first) if cell) else None


def _nearly_all(cells: Row, holds: Callable[[str], bool]) -> bool:
    """Whether something holds of nearly all cells of a column that has any."""
    return bool(cells) and sum(map(holds, cells)) >= NEARLY_ALL * len(cells)


def _cells(body: Sequence[Row], column: int) -> Row:
    return [row[column] for row in body if column < len(row) and row[column]]


def _has_figure(cell: str) -> bool:
    return any(ch.isdigit() for ch in cell)


def _kind_of(body: Sequence[Row], column: int, language: Language) -> str:
    """What a column holds: ``count``, ``place``, ``side`` (with its grade or without), ``grade``, ``gap``, or ``words``."""
    cells = _cells(body, column)
    if _counts_up(cells):
        return "count"
    if _rises(cells):
        return "place"
    holds: tuple[tuple[str, Callable[[Language, str], bool]], ...] = (("side", _has_side), ("grade", _is_grade), ("gap", _is_gap))
    if 2 * len(cells) < len(body):
        return "words"
    return next((kind for kind, holds_in in holds if _nearly_all(cells, partial(holds_in, language))), "words")


def _counts_up(cells: Row) -> bool:
    found = [int(match[1]) for cell in cells if (match := _COUNT.fullmatch(cell))]
    steps = [b - a for a, b in pairwise(found)]
    return len(found) == len(cells) >= LEAST_ROWS and steps.count(1) >= NEARLY_ALL * len(steps)


def _rises(cells: Row) -> bool:
    """Whether the cells are distances from the start: they never fall, and go far or have decimals, as those to the next note do not."""
    places = list(filter(None, map(_NUMBER.fullmatch, cells)))
    if len(places) < len(cells) or len(cells) < LEAST_ROWS:
        return False
    written = [(match[1], match[2]) for match in places]
    metres = [from_start_m(*place) for place in written]
    steps = [b - a for a, b in pairwise(metres)]
    far = metres[-1] >= LEAST_LAST_M or 2 * sum(is_in_km(*place) for place in written) >= len(cells)
    return far and min(steps) >= 0.0 and sum(step > 0.0 for step in steps) >= NEARLY_ALL * len(steps)


def _has_side(language: Language, cell: str) -> bool:
    """Whether a cell names a side, by itself or in one with its grade."""
    return not language.directions.isdisjoint(_words(cell))


def _is_grade(language: Language, cell: str) -> bool:
    figure = _GRADE.fullmatch(cell)
    return int(figure[1]) <= LARGEST_GRADE if figure else "grade" in language.kinds_in(_words(cell))


def _is_gap(language: Language, cell: str) -> bool:
    return _NUMBER.fullmatch(cell) is not None or "link" in language.kinds_in(_words(cell))


def _words(cell: str) -> list[str]:
    return [word.text for word in split_words(cell)]


def _line(row: Row, kinds: Sequence[str], language: Language) -> tuple[str, int]:
    """A row as a note has it, the distance to the next behind all that stands in its words; and how much in these was made remarks."""
    if _filled(row) < 2:
        return " ".join(filter(None, row)), 0
    kept = [(kind, cell) for kind, cell in zip(kinds, row, strict=False) if _is_kept(kind, cell)]
    corner = next((at for at, (kind, _) in enumerate(kept) if kind in CORNER), len(kept))
    # False sorts ahead of True, and the rest stays in its order.
    ordered = sorted(enumerate(kept), key=lambda part: part[0] > corner and part[1][0] == "gap")
    cells = [_with_remarks(cell, language) if kind == "words" else (cell, 0) for _, (kind, cell) in ordered]
    return " ".join(cell for cell, _ in cells), sum(remarks for _, remarks in cells)


def _is_kept(kind: str, cell: str) -> bool:
    """Whether a cell is a part of the note; a distance of nought is none."""
    return bool(cell) and kind not in LEFT_OUT and (kind, cell) != ("gap", "0")


def _with_remarks(cell: str, language: Language) -> tuple[str, int]:
    """A cell of words with those of its parts in brackets that name a side or a figure, and how many they are."""
    parts = [part for part in _PARTS.findall(cell) if _names_another(part, language)]
    for part in parts:
        cell = cell.replace(part, f"({part.translate(_NO_BRACKETS).strip()})")
    return cell, len(parts)


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
