"""A text cut into words, numbers and marks, each with its place."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from mirkle.core.errors import UnusableNotes
from mirkle.core.messages import message
from mirkle.core.notes.language import PIECE, Language
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


def shorthand_parted(words: Sequence[Word], language: Language) -> list[Word]:
    """The words, those that are a side and a short form in one parted: "HPL" and "LHP" are a hairpin and its side, "Rdc" of "4Rdc" a side
    and "don't cut"."""
    out: list[Word] = []
    for word in words:
        behind_a_grade = word.touches and bool(out) and out[-1].text.isdecimal()
        at = language.parted(word.text, behind_a_grade=behind_a_grade)
        if at:
            middle = word.span.start + at
            out.append(word._replace(text=word.text[:at], span=Span(word.span.start, middle)))
            word = Word(word.text[at:], Span(middle, word.span.end), word.line, touches=True)
        out.append(word)
    return out
