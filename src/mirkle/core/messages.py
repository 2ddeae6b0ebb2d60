"""Sentences that can be said in any language: a text with places, and the values that go there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from numbers import Real
from typing import TypeVar


@dataclass(frozen=True)
class Called:
    """Words of a note by the contract's own names, one by one (``over``, ``crest``); in another language they are looked up in the words
    that its co-drivers use."""

    terms: tuple[str, ...]

    def __str__(self) -> str:
        return " ".join(self.terms)


@dataclass(frozen=True)
class Message:
    """A sentence or a part of one; in English as it stands, ``{0:.0f}`` and so on take the values.

    A value is a number, a word of the trade, a piece of the notes, or another message. What says it in another language looks up the
    text and puts the same values in: nobody ever reads a value back from a printed sentence.
    """

    text: str
    values: tuple[float | str | Message | Called, ...] = ()

    def __str__(self) -> str:
        return self.text.format(*self.values)


def message(text: str, *values: object) -> Message:
    """A message with its values; what is no number, text or message goes in as its words."""
    return Message(text, tuple(v if isinstance(v, Real | str | Message | Called) else str(v) for v in values))  # type: ignore[misc]


Text = TypeVar("Text", bound=str)


def gettext_noop(text: Text) -> Text:
    """Marks a text for translation where it stands in a table; it is looked up where it is shown."""
    return text


def in_a_row(parts: Sequence[str | Message | Called], between: str = " ") -> Message:
    """Sentences after each other, or words in a list where ``between`` is ``", "``."""
    return Message(between.join(f"{{{i}}}" for i in range(len(parts))), tuple(parts))
