"""A text cut into words, numbers and marks, each with its place."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from mirkle.core.errors import UnusableNotes
from mirkle.core.messages import message
from mirkle.core.notes.grading import BETWEEN
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


def decimals_as_halves(words: Sequence[Word], language: Language) -> list[Word]:
    """The words, with the decimals of a "3.5" or "3,5" beside a side or a change made a half: "3½" is half way between two grades."""
    out: list[Word] = []
    for at, word in enumerate(words):
        if len(out) and out[-1].span.end > word.span.start:
            continue
        if _is_half(words, at, language):
            word = word._replace(text=BETWEEN, span=Span(word.span.start, words[at + 1].span.end))
        out.append(word)
    return out


def _is_half(words: Sequence[Word], at: int, language: Language) -> bool:
    """Whether the point of a grade such as "3.5" stands at a place."""
    before, here = words[max(0, at - 2) : at], words[at : at + 3]
    if not before or len(here) < 2 or here[0].text not in (".", ",") or here[1].text != "5" or not (here[0].touches and here[1].touches):
        return False
    number, ahead = before[-1], before[0] if len(before) == 2 and before[0].line == before[1].line else None
    if not number.text.isdecimal() or len(number.text) > 1 or number.text == "0":
        return False
    if ahead is not None and (ahead.text in language.directions or language.kinds_in([ahead.text]) & {"change", "link"}):
        return True
    # Grade first: "3.5L", or at the head of a line "3.5 L".
    behind = here[2] if len(here) == 3 and here[2].text in language.directions else None
    return behind is not None and behind.line == number.line and (behind.touches or ahead is None)
