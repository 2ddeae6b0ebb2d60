"""What a written text leaves unread, though a word or a sign of the language stands there: it may mean two things, or nothing at all.

What may mean two things is asked about; what says nothing is left out.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Sequence
from itertools import pairwise, zip_longest

from mirkle.core.notes.items import Item
from mirkle.core.notes.language import Language

# Behind a slash that means "over".
_DRIVEN_OVER = ("feature", "object", "surface", "count", "maybe", "mark", "line")
# Behind a slash that only parts two things.
_PARTED = ("direction", "grade", "distance", "link")


def leave_unread(items: Sequence[Item], languages: Collection[Language]) -> None:
    """Goes over all items of a text; in place."""
    _leave_slashes(items)
    _leave_arrows(items, languages)
    _leave_what_changes_nothing(items, languages)
    _leave_exclamations(items)
    _leave_sides_of_chicanes(items)


def _leave_slashes(items: Sequence[Item]) -> None:
    """A slash ahead of nothing that a car could drive over is no "over": ahead of the next corner or the distance it only parts the two,
    else it is left unread and asked about; in place."""
    telling = [i for i in items if i.kind != "blank"]
    for item, after in zip_longest(telling, telling[1:]):
        if item.kind != "over" or item.text[0].isalnum():
            continue
        kind = after.kind if after is not None and after.line == item.line else ""
        if kind in _PARTED:
            item.kind, item.key = "blank", ""
        elif kind not in _DRIVEN_OVER:
            item.kind, item.key = "unread", item.text


def _leave_arrows(items: Sequence[Item], languages: Iterable[Language]) -> None:
    """ "R4 > L3": a sign for "tightens" with space about it and a side behind it may as well lead on to the next corner, and so may an
    arrow, "->". Where a book has one of these, all that stand apart and have no grade behind them are left unread and asked about, unless
    the crew has said what the sign means; in place.
    """
    signs = list(_signs_alone([i for i in items if i.kind != "blank"], languages))
    shafts = {i.span.end for i in items if i.kind == "blank" and i.text[-1] in "-–—="}
    if any(item.span.start in shafts or _is_side_behind(item, after) for item, after in signs):
        for item, _ in signs:
            item.kind, item.key = "unread", item.text


def _signs_alone(telling: Sequence[Item], languages: Iterable[Language]) -> Iterator[tuple[Item, Item | None]]:
    """The signs for a change that stand alone, each with what stands behind it; none that the crew has said the meaning of."""
    for before, item, after in zip([None, *telling], telling, [*telling[1:], None], strict=False):
        if _stands_alone(before, item, after) and not _is_taught(item.text, languages):
            yield item, after


def _leave_what_changes_nothing(items: Sequence[Item], languages: Iterable[Language]) -> None:
    """A sign for a change with no corner ahead of it on its line changes none: it is left unread, unless the crew has said what it
    means; in place."""
    telling = [i for i in items if i.kind != "blank"]
    nothing = [item for before, item in zip([None, *telling], telling, strict=False) if _changes_nothing(before, item)]
    for item in nothing:
        if not _is_taught(item.text, languages):
            item.kind, item.key = "unread", item.text


def _changes_nothing(before: Item | None, item: Item) -> bool:
    """Whether an item is a sign for a change at the head of a line, or behind a distance or a link: ">80<", "into < L5"."""
    ahead = before is not None and before.line == item.line and before.kind not in ("distance", "link")
    return item.kind == "change" and not item.text[0].isalnum() and not ahead


def _is_taught(sign: str, languages: Iterable[Language]) -> bool:
    """Whether the crew has said what a sign means: the languages have none among what is said."""
    return any(sign in term.said for language in languages for term in language.terms)


def _stands_alone(before: Item | None, item: Item, after: Item | None) -> bool:
    """Whether an item is a sign for a change with space about it and no grade behind."""
    touched = (before is not None and before.span.end == item.span.start) or (after is not None and after.span.start == item.span.end)
    leads = after is not None and after.kind == "change grade"
    return item.kind == "change" and not item.text[0].isalnum() and not touched and not leads


def _is_side_behind(item: Item, after: Item | None) -> bool:
    return after is not None and after.kind == "direction" and after.line == item.line


def _leave_exclamations(items: Sequence[Item]) -> None:
    """The mark of "Caution!" is no second alert; in place."""
    for item, mark in pairwise(items):
        if item.kind == mark.kind == "caution" and mark.span.start == item.span.end and not mark.text[0].isalnum():
            mark.kind, mark.key = "blank", ""


def _leave_sides_of_chicanes(items: Sequence[Item]) -> None:
    """ "Chicane left right left": the sides without a grade are its ways and no corners; in place."""
    telling = [i for i in items if i.kind not in ("blank", "filler")]
    inside = False
    for item, after in zip_longest(telling, telling[1:]):
        if item.kind == "direction" and inside and (after is None or after.kind != "grade" or after.line != item.line):
            item.kind, item.key = "filler", ""
        else:
            inside = item.kind == "object" and item.key == "chicane"
