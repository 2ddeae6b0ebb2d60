"""Pages and lines as the crew's paper book has them, where the text's own page lines don't say so."""

from __future__ import annotations

from bisect import bisect_right
from dataclasses import dataclass, replace
from itertools import accumulate

from mirkle.core.notes.model import Note, Reading


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


def turned(reading: Reading, note: int) -> Pages:
    """The pages with another one that begins at a note's line, or, where one does, without it. ``reading`` is paged as it is now."""
    lines = lines_of(reading)
    begins = {lines[0]}
    for before, after, line in zip(reading.notes, reading.notes[1:], lines[1:], strict=False):
        if after.page != before.page:
            begins.add(line)
    begins ^= {lines[note]} - {lines[0]}
    return Pages(begins=tuple(sorted(begins)))
