"""Where the pages of a written book begin: lines such as "page 2", "SLATEHOOK  Page 2/6" or "- 2 -", and what of such a line is a note."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby, pairwise

from mirkle.core.notes.items import Item

# Kinds that make a line one of notes.
_CALLED = frozenset(("direction", "feature", "line", "object", "caution", "change", "change to", "length", "surface", "state"))
# A book of paper has no page of more digits than this. # common practice
MOST_DIGITS = 4
# A book has page numbers alone on their lines where at least this many lines hold a number and nothing else, each one more than the last.
LEAST_NUMBERS = 2


@dataclass(frozen=True)
class PageHead:
    """A line, or the head of one, that begins a page. ``number`` is the page's, ``None`` where the line has none. ``items`` are the places
    of the items that belong to no note."""

    number: int | None
    items: range


def page_heads(items: Sequence[Item]) -> list[PageHead]:
    """What begins a page in a text."""
    lines = list(_lines(items))
    return [*_with_a_word(items, lines), *_numbers_alone(items, lines)]


def _lines(items: Sequence[Item]) -> Iterator[range]:
    at = 0
    for _, group in groupby(items, key=lambda item: item.line):
        count = sum(1 for _ in group)
        yield range(at, at + count)
        at += count


def _with_a_word(items: Sequence[Item], lines: Sequence[range]) -> Iterator[PageHead]:
    """Lines with the word "page" ahead of all that is called."""
    for line in lines:
        called = next((at for at in line if items[at].kind in _CALLED), line.stop)
        mark = next((at for at in range(line.start, called) if items[at].kind == "mark" and items[at].key == "page"), None)
        if mark is not None:
            number = _number_of(items[mark + 1]) if mark + 1 < line.stop else None
            # What is called on the same line is a note.
            end = line.stop if called == line.stop else mark + 1 + (number is not None)
            yield PageHead(number, range(line.start, end))


def _numbers_alone(items: Sequence[Item], lines: Sequence[range]) -> Iterator[PageHead]:
    """Lines with nothing but a number that count up by one, as at the head or the foot of printed pages."""
    alone = [(line, number) for line in lines if (number := _only_number(items, line)) is not None]
    if len(alone) < LEAST_NUMBERS or any(b - a != 1 for (_, a), (_, b) in pairwise(alone)):
        return
    at_the_foot = alone[0][0].start > 0
    for line, number in alone:
        # A number at the foot of a page is followed by the next page.
        yield PageHead(number + at_the_foot, line)


def _only_number(items: Sequence[Item], line: range) -> int | None:
    words = [items[at] for at in line if items[at].kind != "blank"]
    # What was said has no lines.
    written = items[line.start].first_on_line
    return _number_of(words[0]) if written and len(words) == 1 else None


def _number_of(item: Item) -> int | None:
    return int(item.text) if item.text.isdecimal() and len(item.text) <= MOST_DIGITS else None
