"""A text cut into words, numbers and marks, each with its place."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from mirkle.core.errors import UnusableNotes
from mirkle.core.messages import message
from mirkle.core.notes.language import PIECE
from mirkle.core.notes.model import Span


class Word(NamedTuple):
    """A word, number or mark of the source in lower case; ``touches`` the one before where no space is between."""

    text: str
    span: Span
    line: int
    touches: bool


# A stage is called in 5,000 words, and a season of books has fewer than this.
MOST_WORDS = 50_000


def check_length(words: Sequence[Word]) -> None:
    """Refuses a text that no crew could have written or said, before it costs minutes.

    Raises
    ------
    UnusableNotes
    """
    if len(words) > MOST_WORDS:
        raise UnusableNotes(
            message("it has over {0} words: more than a season of notes", MOST_WORDS), mend="choose the notes or the words of one stage"
        )


def split_words(source: str) -> list[Word]:
    """The words of a text with their places."""
    words: list[Word] = []
    begins = 0
    for number, line in enumerate(source.split("\n"), start=1):
        at = -1
        for match in PIECE.finditer(line):
            start, end = match.span()
            words.append(Word(match.group().lower().replace("’", "'"), Span(begins + start, begins + end), number, start == at))
            at = end
        begins += len(line) + 1
    return words
