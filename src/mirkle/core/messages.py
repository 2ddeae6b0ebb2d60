"""Sentences that can be said in any language: a text with places, and the values that go there.

Places are numbered (``{0}``) or named. A named number is a fact in SI units, its unit in its name; the sentence says how people read it:
``{speed_mps:kmh} km/h``, ``{from_m:km} km``, ``{braking_mps2:gees} g``, ``{at_s:clock}``, or as :func:`format` does.
"""

from __future__ import annotations

import string
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from numbers import Real
from typing import TypeVar

from mirkle.core.constants import GRAVITY_MPS2, km, kmh


@dataclass(frozen=True)
class Called:
    """Words of a note by the contract's own names, one by one (``over``, ``crest``); in another language they are looked up in the words
    that its co-drivers use."""

    terms: tuple[str, ...]

    def __str__(self) -> str:
        return " ".join(self.terms)


def clock(seconds: float) -> str:
    """A time in minutes and seconds, ``3:07``."""
    return f"{int(seconds) // 60}:{int(seconds) % 60:02d}"


# How people read a fact, by the name of the unit behind its colon.
READ_AS: Mapping[str, Callable[[float], str]] = {
    "kmh": lambda mps: f"{kmh(mps):.0f}",
    "km": lambda metres: f"{km(metres):.2f}",
    "gees": lambda mps2: f"{mps2 / GRAVITY_MPS2:.1f}",
    "clock": clock,
}


class FactFormatter(string.Formatter):
    """Formats a message's text, with :data:`READ_AS` for facts."""

    def format_field(self, value: object, format_spec: str) -> str:
        """As :meth:`string.Formatter.format_field`."""
        read = READ_AS.get(format_spec)
        return read(value) if read is not None and isinstance(value, float | int) else str(super().format_field(value, format_spec))


_FORMATTER = FactFormatter()


@dataclass(frozen=True)
class Message:
    """A sentence or a part of one in English, with the values of its numbered places and those of its ``named`` ones.

    A value is a number, a word of the trade, a piece of the notes, or another message. What says it in another language looks up the
    text and puts the same values in: nobody ever reads a value back from a printed sentence.
    """

    text: str
    values: tuple[float | str | Message | Called, ...] = ()
    named: tuple[tuple[str, float | str | Message | Called], ...] = ()
    # What is said instead where the first value is one; see :func:`counted`.
    one: str = ""

    def __str__(self) -> str:
        return _FORMATTER.vformat(self.one if self.one and self.values[0] == 1 else self.text, self.values, dict(self.named))

    def facts(self) -> Iterator[tuple[str, float]]:
        """The named numbers of the sentence and of the messages in it."""
        for name, value in self.named:
            if isinstance(value, Message):
                yield from value.facts()
            elif isinstance(value, float | int):
                yield name, value


def message(text: str, *values: object, **named: object) -> Message:
    """A message with its values; what is no number, text or message goes in as its words."""
    return Message(text, tuple(map(_value, values)), tuple((name, _value(v)) for name, v in named.items()))


def counted(one: str, many: str, count: int, *values: object) -> Message:
    """A message about a number of things: ``one`` where there is one of them, else ``many`` with the count as its place ``{0}``.

    Other languages have their own plural forms: both texts are one entry of the translations, as gettext has them.
    """
    return Message(many, (count, *map(_value, values)), one=one)


def _value(value: object) -> float | str | Message | Called:
    return value if isinstance(value, Real | str | Message | Called) else str(value)  # type: ignore[return-value]


Text = TypeVar("Text", bound=str)


def gettext_noop(text: Text) -> Text:
    """Marks a text for translation where it stands in a table; it is looked up where it is shown."""
    return text


def in_a_row(parts: Sequence[str | Message | Called], between: str = " ") -> Message:
    """Sentences after each other, or words in a list where ``between`` is ``", "``."""
    return Message(between.join(f"{{{i}}}" for i in range(len(parts))), tuple(parts))
