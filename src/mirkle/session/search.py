"""Looking for findings and notes: by words, by page and line, by number, by what was decided."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from mirkle.core.judging.findings import Finding
from mirkle.session.reviewed_pass import SHOWN, ReviewedPass

# Which findings by what became of them.
STATES = ("every", "undecided", "mark", "keep", "talk", "video")
ORDERS = ("risk", "stage", "page")
_PLACE = re.compile(r"(?:p(?:age)?|página)?\s*(\d+)\s*(?:[.,:/ ]|l(?:ine)?|linha)+\s*(\d+)")
_NUMBER = re.compile(r"#\s*(\d+)")


@dataclass(frozen=True)
class Hit:
    """A finding, or a note without one, that answers what was looked for."""

    note: int
    finding: Finding | None


def found(
    stage: ReviewedPass,
    text: str,
    *,
    state: str = "every",
    shown: str = "all",
    order: str = "risk",
    said: Callable[[Finding], str] = lambda f: f.why,
) -> list[Hit]:
    """The findings that hold a text, or stand at a page and line (``3.7``) or a note's number (``#45``); then the notes that do.

    ``state`` is one of :data:`STATES`, ``shown`` a key of :data:`SHOWN`, ``order`` one of :data:`ORDERS`; ``said`` is what is read of a
    finding, in the user's language.
    """
    notes = _notes(stage, text)
    decided = stage.book.decisions
    hits = [
        f
        for f in stage.findings
        if SHOWN[shown](f)
        and _in_state(state, decided[f.id].answer if f.id in decided else None)
        and (f.note in notes or _holds(said(f), text))
    ]
    if order == "stage":
        hits.sort(key=lambda f: f.from_m)
    elif order == "page":
        hits.sort(key=lambda f: f.note)
    listed = {f.note for f in hits}
    plain = [Hit(n, None) for n in notes if n not in listed] if text.strip() and state == "every" and shown == "all" else []
    return [*(Hit(f.note, f) for f in hits), *plain]


def _in_state(state: str, answer: str | None) -> bool:
    return state == "every" or (answer is None if state == "undecided" else answer == state)


def _holds(words: str, text: str) -> bool:
    return text.strip().casefold() in words.casefold()


def _notes(stage: ReviewedPass, text: str) -> Sequence[int]:
    """The notes that a text means, in the order of the book."""
    wanted, notes = text.strip(), stage.review.notes
    number, place = _NUMBER.fullmatch(wanted), _PLACE.fullmatch(wanted.casefold())
    if number is not None:
        return [n.index for n in notes if n.index + 1 == int(number[1])]
    if place is not None:
        at = [n.index for n in notes if (n.page, n.line) == (int(place[1]), int(place[2]))]
        if at:
            return at
    edition = stage.book.edition
    return [n.index for n in notes if _holds(n.text, wanted) or _holds(edition.text_of(n), wanted)]
