"""Pages and lines as the crew's paper book has them, where the text's own page lines don't say so."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import accumulate

from mirkle.core.notes.model import Note, Reading

# Turning a page and finding its first line takes this long (s). # common practice
TURN_S = 2.0
# A page begins between two linked corners only where no page holds the whole chain: costs more than any row of pages without.
LINKED_COST = 1e6
# What one more page costs, against a turn in a straight that is just long enough.
PAGE_COST = 1.0


@dataclass(frozen=True)
class Pages:
    """``lines_a_page`` of the paper book; or the lines of the text, counted from 0, on which its pages begin. Neither: as the text
    says."""

    lines_a_page: int = 0
    begins: tuple[int, ...] = ()


def paged(reading: Reading, pages: Pages) -> Reading:
    """A reading whose notes stand on the pages and lines of the paper book; nothing else of it is changed."""
    if not pages.lines_a_page and not pages.begins:
        return reading
    lines = lines_of(reading)
    # A row of the paper book is a line of the text on which something stands, however many notes that is.
    rows = {line: row for row, line in enumerate(dict.fromkeys(lines))}
    if pages.begins:
        begins = sorted({rows[line] for line in rows if line in pages.begins} | {0})
    else:
        begins = list(range(0, len(rows), pages.lines_a_page))

    def placed(note: Note, line: int) -> Note:
        row = rows[line]
        page = bisect_right(begins, row)
        return replace(note, page=page, line=row - begins[page - 1] + 1)

    return replace(reading, notes=tuple(placed(n, line) for n, line in zip(reading.notes, lines, strict=True)))


def lines_of(reading: Reading) -> list[int]:
    """The line of the text, counted from 0, on which each note begins."""
    ends = list(accumulate(len(line) for line in reading.source.splitlines(keepends=True)))
    return [bisect_right(ends, note.span.start) for note in reading.notes]


def with_breath(reading: Reading, lines_a_page: int, breath_s: Sequence[float]) -> Pages:
    """The pages of at most ``lines_a_page`` lines that turn where there is most time, and never between two linked corners.

    Dynamic programming over the rows of the book: a page costs :data:`PAGE_COST`, and its turn the square of the time that it takes over
    the time that there is.

    Parameters
    ----------
    breath_s : seconds between each note's end and the beginning of the next note's corner, (notes,)

    Raises
    ------
    ValueError
        A page has no line.
    """
    if lines_a_page < 1:
        raise ValueError("a page has one line at least")
    lines = lines_of(reading)
    rows = list(dict.fromkeys(lines))
    last_in_row = {line: number for number, line in enumerate(lines)}
    turn = [0.0] + [_turn_cost(reading.notes[last_in_row[before]], breath_s[last_in_row[before]]) for before in rows[:-1]]
    # The least cost of all pages that end before a row, and the row on which the last of them begins.
    best: list[tuple[float, int]] = [(0.0, 0)]
    for end in range(1, len(rows) + 1):
        starts = range(max(0, end - lines_a_page), end)
        best.append(min((best[first][0] + turn[first] + PAGE_COST, first) for first in starts))
    begins, at = set[int](), len(rows)
    while at > 0:
        at = best[at][1]
        begins.add(rows[at])
    return Pages(begins=tuple(sorted(begins)))


def _turn_cost(note: Note, breath_s: float) -> float:
    """What it costs to turn the page behind a note."""
    return LINKED_COST if note.link is not None else float((TURN_S / max(breath_s, 0.1)) ** 2)


def turned(reading: Reading, note: int) -> Pages:
    """The pages with another one that begins at a note's line, or, where one does, without it. ``reading`` is paged as it is now."""
    lines = lines_of(reading)
    begins = {lines[0]}
    for before, after, line in zip(reading.notes, reading.notes[1:], lines[1:], strict=False):
        if after.page != before.page:
            begins.add(line)
    begins ^= {lines[note]} - {lines[0]}
    return Pages(begins=tuple(sorted(begins)))
