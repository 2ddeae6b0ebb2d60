"""Sentences about a finding that can be said in any language: a text with places, and the values that go there."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Clause:
    """A sentence or a part of one; in English as it stands, ``{0:.0f}`` and so on take the values.

    A value is a number, a word of the trade, a piece of the notes, or another clause.
    """

    text: str
    values: tuple[float | str | Clause, ...] = ()

    def __str__(self) -> str:
        return self.text.format(*self.values)


def clause(text: str, *values: float | str | Clause) -> Clause:
    """A clause with its values."""
    return Clause(text, values)
