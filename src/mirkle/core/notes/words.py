"""A text cut into words, numbers and marks, each with its place."""

from __future__ import annotations

from typing import NamedTuple

from mirkle.core.notes.language import PIECE
from mirkle.core.notes.model import Span


class Word(NamedTuple):
    """A word, number or mark of the source in lower case; ``touches`` the one before where no space is between."""

    text: str
    span: Span
    line: int
    touches: bool


def split_words(source: str) -> list[Word]:
    """The words of a text with their places."""
    words: list[Word] = []
    begins = 0
    for number, line in enumerate(source.split("\n"), start=1):
        at = -1
        for match in PIECE.finditer(line):
            start, end = match.span()
            words.append(
                Word(match.group().lower().replace("’", "'"), Span(begins + start, begins + end), number, start == at)
            )
            at = end
        begins += len(line) + 1
    return words
