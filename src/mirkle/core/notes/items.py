"""What a reading makes of each stretch of a text: a term or a number in its place."""

from __future__ import annotations

from dataclasses import dataclass

from mirkle.core.messages import Message
from mirkle.core.notes.model import Offer, Span


@dataclass(slots=True)
class Item:
    """A term or a number in its place; ``read_as`` is set where it was repaired, ``sure`` says how sure, ``offer`` what a
    word that stays as it is might have been.

    A plus or minus is ``joined_to`` the grade that it belongs to. ``role`` says what it is where it is no part of a note: said ``before``
    or ``after`` the calls, a ``remark``, an ``incident``, a ``repeat``, or ``unread``.
    """

    kind: str
    key: str
    span: Span
    line: int
    first_on_line: bool
    text: str
    read_as: str | None = None
    sure: float = 1.0
    why: str | Message = ""
    offer: Offer | None = None
    how: str = ""
    role: str = ""
    note: int | None = None
    joined_to: Item | None = None
