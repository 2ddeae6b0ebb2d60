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
# Numbers that stand alone on their lines are those of pages where so many and more count up by one.
LEAST_NUMBERS = 2


@dataclass(frozen=True)
class PageHead:
    """Where a page begins: before the first item that is no part of this line, or behind it where the line stands at the foot of the page
    before. ``number`` is the page's, ``None`` where none stands there; ``silent`` are the places of the items that are no note's."""

    at: int
    number: int | None
    silent: range


def page_heads(items: Sequence[Item]) -> list[PageHead]:
    """The lines that begin a page, in order."""
    lines = list(_lines(items))
    return sorted([*_with_a_word(items, lines), *_numbers_alone(items, lines)], key=lambda head: head.at)


def _lines(items: Sequence[Item]) -> Iterator[range]:
    at = 0
    for _, group in groupby(items, key=lambda item: item.line):
        count = sum(1 for _ in group)
        yield range(at, at + count)
        at += count


def _with_a_word(items: Sequence[Item], lines: Sequence[range]) -> Iterator[PageHead]:
    """Lines with the word "page" ahead of all that is called."""
    for line in lines:
        mark = next((at for at in line if items[at].kind == "mark" and items[at].key == "page"), None)
        if mark is None or any(items[at].kind in _CALLED for at in range(line.start, mark)):
            continue
        behind = range(mark + 1, line.stop)
        number = _number_of(items[mark + 1]) if behind else None
        if not any(items[at].kind in _CALLED for at in behind):
            yield PageHead(line.start, number, line)
        else:
            yield PageHead(line.start, number, range(line.start, mark + 1 + (number is not None)))


def _numbers_alone(items: Sequence[Item], lines: Sequence[range]) -> Iterator[PageHead]:
    """Lines with nothing but a number that count up by one, as at the head or the foot of printed pages."""
    alone = [(line, number) for line in lines if (number := _only_number(items, line)) is not None]
    if len(alone) < LEAST_NUMBERS or any(b - a != 1 for (_, a), (_, b) in pairwise(alone)):
        return
    at_the_foot = alone[0][0].start > 0
    for line, number in alone:
        yield PageHead(line.start, number + at_the_foot, line)


def _only_number(items: Sequence[Item], line: range) -> int | None:
    words = [items[at] for at in line if items[at].kind != "blank"]
    # What was said has no lines.
    written = items[line.start].first_on_line
    return _number_of(words[0]) if written and len(words) == 1 else None


def _number_of(item: Item) -> int | None:
    return int(item.text) if item.text.isdecimal() and len(item.text) <= MOST_DIGITS else None
