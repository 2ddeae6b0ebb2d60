"""A text cut into words, numbers and marks, each with its place."""

from __future__ import annotations

import re
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


# What stands behind the figure in "3.5", "3,5" or "3 1/2".
_DECIMALS = re.compile(r"(?<!\d)[1-9](?:(?=[.,])|\s+(?=1/))([.,]5|1/2)(?!\d)")


def decimals_as_halves(source: str, words: Sequence[Word], language: Language) -> list[Word]:
    """The words, with what makes a half of a "3.5", "3,5" or "3 1/2" beside a side or a change as one word: "3½" is half way between two
    grades."""
    points = {found.start(1): found.end(1) for found in _DECIMALS.finditer(source)}
    halves = {
        w.span.start: points[w.span.start] for at, w in enumerate(words) if w.span.start in points and _of_a_grade(words, at, language)
    }
    inside = {at for start, end in halves.items() for at in range(start + 1, end)}
    return [
        w._replace(text=BETWEEN, span=Span(w.span.start, halves[w.span.start])) if w.span.start in halves else w
        for w in words
        if w.span.start not in inside
    ]


def _of_a_grade(words: Sequence[Word], at: int, language: Language) -> bool:
    """Whether the point at a place stands in a grade: behind a side, a change or a link; ahead of its side as in "3.5L", or at the head of
    a line as in "3.5 L"."""
    line = words[at].line
    ahead, behind = (words[n] if 0 <= n < len(words) and words[n].line == line else None for n in (at - 2, at + 2))
    if ahead is not None and (ahead.text in language.directions or language.kinds_in([ahead.text]) & {"change", "link"}):
        return True
    return behind is not None and behind.text in language.directions and (behind.touches or ahead is None)


# "3(-)": a half of the grade that it touches.
HALF_IN_BRACKETS = re.compile(r"(?<=\d)[(\[]\s*([-−+])\s*[)\]]")
_MINUS = "-−"
# Dashes that part words show a habit from this number on.
LEAST_DASHES = 3


def halves_out_of_brackets(source: str, words: Sequence[Word]) -> list[Word]:
    """The words, with each half in brackets that touches its grade as one word."""
    halves = {found.start(): found for found in HALF_IN_BRACKETS.finditer(source)}
    out: list[Word] = []
    end = 0
    for word in words:
        found = halves.get(word.span.start)
        if found is not None:
            end = found.end()
            out.append(Word(found[1], Span(found.start(), end), word.line, touches=True))
        elif word.span.start >= end:
            out.append(word)
    return out


def spaced_halves_joined(words: Sequence[Word], language: Language) -> list[Word]:
    """The words, with a "-" that stands behind a grade made one with it where this crew writes its halves with a space: "L 4 +", "R 3 -".

    Elsewhere a free dash parts what stands on its sides. A crew writes so where more of its pluses stand free behind a grade than touch it.
    """
    behind = [at for at, word in enumerate(words) if word.text == "+" or word.text in _MINUS if _behind_a_grade(words, at, language)]
    free = sum(not words[at].touches and not _side_follows(words, at, language) for at in behind if words[at].text == "+")
    if free <= sum(words[at].touches for at in behind):
        return list(words)
    halves = {at for at in behind if not _leads(words, at)}
    return [word._replace(touches=True) if at in halves else word for at, word in enumerate(words)]


def dashes_between_words(words: Sequence[Word], language: Language) -> list[Word]:
    """Each "-" behind a grade of "L4-80-R3-50", which only parts what it touches on both sides; none where this crew has as many that end a
    word there, as half of the grade."""
    behind = [at for at, word in enumerate(words) if word.text in _MINUS and word.touches and _behind_a_grade(words, at, language)]
    parting = [words[at] for at in behind if _leads(words, at)]
    return parting if len(parting) >= LEAST_DASHES and 2 * len(parting) > len(behind) else []


def pluses_between_corners(words: Sequence[Word], language: Language) -> list[Word]:
    """Each "+" of "R4 + L3", free between a grade and the next side, which only parts the two; none where this crew has a free one
    elsewhere behind a grade, as half of it."""
    free = [at for at, word in enumerate(words) if word.text == "+" and not word.touches and _behind_a_grade(words, at, language)]
    return [words[at] for at in free] if all(_side_follows(words, at, language) for at in free) else []


# Arrows that are sides where both stand ahead of grades; one that points right alone may as well lead on.
_ARROWS = {"left": "←⇐⬅↰", "right": "→⇒➡↱"}


def arrows_as_sides(words: Sequence[Word], language: Language) -> list[Word]:
    """The words, with arrows read as sides where some point left: "←4 50 →3"."""
    sides = {arrow: language.term(side, "direction").said[0].lower() for side, arrows in _ARROWS.items() for arrow in arrows}
    if not any(word.text in _ARROWS["left"] for word in words):
        return list(words)
    return [word._replace(text=sides.get(word.text, word.text)) for word in words]


def _behind_a_grade(words: Sequence[Word], at: int, language: Language) -> bool:
    """Whether a side and a figure of one line end before a word, in either order, with a half behind them or without."""
    at -= at > 0 and words[at].text in _MINUS and words[at - 1].text == "+"
    own = [w for w in words[max(at - 2, 0) : at] if w.line == words[at].line]
    figures = [w.text for w in own if w.text.isdecimal() and len(w.text) == 1]
    return len(own) == 2 and len(figures) == 1 and any(w.text in language.directions for w in own)


def _side_follows(words: Sequence[Word], at: int, language: Language) -> bool:
    """Whether a side follows a mark on its line, in a corner of its own."""
    following = [w.text for w in words[at + 1 : at + 3] if w.line == words[at].line]
    return bool(following) and following[following[0].isdecimal() and len(following) == 2] in language.directions


def _leads(words: Sequence[Word], at: int) -> bool:
    """Whether a mark touches what stands behind it, as a bullet may."""
    return at + 1 < len(words) and words[at + 1].touches and words[at + 1].line == words[at].line
