"""From text to notes: the language and the hand's own order, then words to terms, then terms to notes.

The grammar is that of the trade: ``[alert] corner-or-feature [shape] [features] [line] [objects] [distance | link]``.
Three habits are found from the text itself: which language it is, whether the direction or the grade stands first, and
whether the distance closes a note or opens the next line. Nothing is dropped: what is not understood stays in its note
as ``unread``, and every character of the source belongs to one token.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import groupby
from typing import NamedTuple

from mirkle.core.errors import UnusableNotes
from mirkle.core.notes.building import Item, build_notes
from mirkle.core.notes.language import PIECE, Language
from mirkle.core.notes.lattice import HEARD, LARGEST_GRADE, Choice, Reader
from mirkle.core.notes.model import Reading, Span, Token


class Word(NamedTuple):
    """A word, number or mark of the source in lower case; ``touches`` the one before where no space is between."""

    text: str
    span: Span
    line: int
    touches: bool


def read_notes(
    source: str,
    languages: Sequence[Language],
    *,
    order: str | None = None,
    corners_needed: bool = True,
    repair: bool = True,
    leave: frozenset[str] = frozenset(),
) -> Reading:
    """The notes in a written text, a line or several notes a line, in the language that fits it best.

    Parameters
    ----------
    source : the notes as written; ``\\n`` ends a line; a line with only "page N" or a form feed begins a page
    order : ``direction-first`` or ``grade-first``; found from the text if left out
    corners_needed : whether a text without a single corner is refused
    repair : whether words that are none may be read as others that sound alike; those in ``leave`` never are

    Raises
    ------
    UnusableNotes
        Not one corner could be read in it.
    """
    words = split_words(source)
    language = best_language(words, languages)
    order = order or order_of(words, language)
    items = _written_items(words, Reader(language, order == "grade-first", spoken=False, leave=leave), repair=repair)
    reading = assemble(source, items, language, order)
    if corners_needed and not reading.corners:
        raise UnusableNotes(
            "no corner could be read in this text",
            mend="write one note a line, such as “left 4 long 80” or “4 left long 80”",
        )
    return reading


def assemble(source: str, items: list[Item], language: Language, order: str) -> Reading:
    """The reading that a list of items makes; the items must lie in the order of the source."""
    _join_halves(items)
    distance_first = _distance_opens_the_line(items)
    notes = build_notes(items, source)
    return Reading(
        source=source,
        notes=notes,
        pieces=tuple(
            Token(i.span, source[i.span.start : i.span.end], i.kind, i.key, i.note, i.read_as, i.sure, i.why)
            for i in items
        ),
        language=language.code,
        order=order,
        distance_first=distance_first,
    )


def split_words(source: str) -> list[Word]:
    """The words of a text with their places."""
    words: list[Word] = []
    begins = 0
    for number, line in enumerate(source.split("\n"), start=1):
        at = -1
        for match in PIECE.finditer(line):
            start, end = match.span()
            words.append(Word(match.group().lower(), Span(begins + start, begins + end), number, start == at))
            at = end
        begins += len(line) + 1
    return words


def best_language(words: Sequence[Word], languages: Sequence[Language]) -> Language:
    """The language that knows most of the words."""

    def known(language: Language) -> int:
        said = language.own_words
        return sum(w.text in said for w in words)

    return max(languages, key=known)


def order_of(words: Sequence[Word], language: Language) -> str:
    """``direction-first`` or ``grade-first``, by which side of the directions the small numbers stand on."""
    directions, numbers = language.directions, language.small_numbers

    def grade(text: str) -> bool:
        return text in numbers or (text.isdecimal() and len(text) < 3 and 1 <= int(text) <= LARGEST_GRADE)

    after = before = 0
    for at, word in enumerate(words):
        if word.text in directions:
            following, last = words[at + 1 : at + 2], words[at - 1 : at]
            after += any(w.line == word.line and grade(w.text) for w in following)
            before += any(w.line == word.line and grade(w.text) for w in last)
    return "grade-first" if before > after else "direction-first"


def _written_items(words: list[Word], reader: Reader, *, repair: bool) -> list[Item]:
    items: list[Item] = []
    read: dict[tuple[tuple[str, bool], ...], list[Choice]] = {}
    for _, group in groupby(words, key=lambda w: w.line):
        line = list(group)
        # Books repeat themselves; each line is read once.
        key = tuple((w.text, w.touches) for w in line)
        if key not in read:
            read[key] = reader.best([w.text for w in line], [w.touches for w in line])
        items += items_of(line, read[key], repair=repair)
    return items


def items_of(
    words: Sequence[Word], choices: Sequence[Choice], *, repair: bool = True, spoken: bool = False
) -> list[Item]:
    """The items that a reading of the words makes, in order."""
    items: list[Item] = []
    at, line = 0, -1
    for choice in choices:
        first, last = words[at], words[at + choice.taken - 1]
        at += choice.taken
        first_on_line, line = not spoken and first.line != line, first.line
        text = first.text if choice.taken == 1 else " ".join(w.text for w in words[at - choice.taken : at])
        parts = choice.parts if repair or not choice.why else (("unread", text),)
        start = first.span.start
        for number, (kind, key) in enumerate(parts, start=1):
            if len(parts) == choice.taken > 1:
                start, end = words[at - choice.taken + number - 1].span
            else:
                end = last.span.end if number == len(parts) else start + len(key)
            if kind == "unread word of theirs" or (kind in ("chat", "incident", "go") and not spoken):
                kind = "unread"
            if kind == "lead":
                kind = "filler"
            item = Item(kind, key, Span(start, end), line, first_on_line, text)
            if choice.why and repair:
                item.read_as, item.why = choice.read_as if len(parts) == 1 else key, choice.why
                item.sure = _sureness(choice.cost)
            items.append(item)
            first_on_line, start = False, end
    return items


def _sureness(cost: float) -> float:
    """From the cost of a repair to how sure it is: a form often heard 0.9, the oddest likeness about a half."""
    return max(0.4, 0.9 - 0.3 * max(0.0, cost - HEARD))


def _join_halves(items: list[Item]) -> None:
    """Gives plus and minus to the grade beside them; in place."""
    joined: list[Item] = []
    before: Item | None = None
    for item in items:
        last = joined[-1] if joined else None
        if (
            item.kind == "half"
            and last is not None
            and last.kind in ("grade", "change grade")
            and last.line == item.line
        ):
            last.key += _SIGNS[item.key]
            last.span = Span(last.span.start, item.span.end)
            item.joined_to = last
            continue
        beyond = joined[-2] if len(joined) > 1 else None
        behind_a_pair = last is not None and beyond is not None and (beyond.kind, last.kind) == ("grade", "direction")
        if item.kind == "half" and behind_a_pair and beyond is not None and beyond.line == item.line:
            # "5 right plus": the half stands behind the pair, and stays a word of its own in the text.
            beyond.key += _SIGNS[item.key]
            item.kind, item.joined_to = "filler", beyond
            joined.append(item)
            continue
        if item.kind == "half":
            before = item
            item.kind = "blank"
        elif item.kind == "grade" and before is not None:
            item.key += _SIGNS[before.key]
            before.joined_to = item
        if item.kind not in ("blank", "direction"):
            before = None
        joined.append(item)
    items[:] = joined


_SIGNS = {"plus": "+", "wide": "+", "minus": "-", "tight": "-"}


def _distance_opens_the_line(items: list[Item]) -> bool:
    """Whether this hand writes the distance ahead of the note: "80 left 4" rather than "left 4 80"."""
    opens = closes = 0
    for at, item in enumerate(items):
        gap = item.kind in ("distance", "link")
        last_on_line = at + 1 == len(items) or items[at + 1].line != item.line
        opens += gap and item.first_on_line and not last_on_line
        closes += gap and last_on_line and not item.first_on_line
    return opens > closes
