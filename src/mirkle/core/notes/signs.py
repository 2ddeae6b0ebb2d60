"""Signs that one crew uses in one way and the next in another: dashes, pluses and arrows, and what makes half a grade.

Most are told by the whole book, so that a note that is read alone needs to know what its book shows (:class:`Signs`).
"""

from __future__ import annotations

import re
from collections.abc import Sequence

from mirkle.core.notes.grading import BETWEEN
from mirkle.core.notes.language import Language
from mirkle.core.notes.model import Signs, Span
from mirkle.core.notes.remarks import HALF_IN_BRACKETS, puts_gaps_in_brackets
from mirkle.core.notes.tokens import Word

_MINUS = "-−"
# Dashes that part words show a habit from this number on.
LEAST_DASHES = 3
# Arrows that are sides where some point left; one that points right alone may as well lead on.
_ARROWS = {"left": "←⇐⬅↰", "right": "→⇒➡↱"}


def signs_of(source: str, words: Sequence[Word], language: Language, *, arrows_are_sides: bool) -> Signs:
    """How a text uses its signs, by its words with their sides."""
    return Signs(
        dashes_part=_dashes_part(words, language),
        pluses_part=all(_side_follows(words, at, language) for at in _free_pluses(words, language)),
        spaced_halves=_has_spaced_halves(words, language),
        arrows_are_sides=arrows_are_sides,
        gaps_in_brackets=puts_gaps_in_brackets(source),
    )


def _dashes_part(words: Sequence[Word], language: Language) -> bool:
    """Whether three dashes behind a grade and more, and more than end a word there as half of the grade, touch what stands behind them."""
    ends = [_leads(words, at) for at in _dashes_at_grades(words, language)]
    return ends.count(True) >= LEAST_DASHES and 2 * ends.count(True) > len(ends)


def dashes_between(words: Sequence[Word]) -> list[Word]:
    """Each "-" of "L4-80-R3-50": it only parts what it touches on both sides."""
    return [word for at, word in enumerate(words) if word.text in _MINUS and word.touches and _leads(words, at)]


def _dashes_at_grades(words: Sequence[Word], language: Language) -> list[int]:
    return [at for at, word in enumerate(words) if word.text in _MINUS and word.touches and _behind_a_grade(words, at, language)]


def pluses_between(words: Sequence[Word], language: Language) -> list[Word]:
    """Each "+" of "R4 + L3", free between a grade and the next side, which only parts the two."""
    return [words[at] for at in _free_pluses(words, language) if _side_follows(words, at, language)]


def _free_pluses(words: Sequence[Word], language: Language) -> list[int]:
    return [at for at, word in enumerate(words) if word.text == "+" and not word.touches and _behind_a_grade(words, at, language)]


def _has_spaced_halves(words: Sequence[Word], language: Language) -> bool:
    """Whether more pluses stand free behind a grade, as half of it, than halves touch theirs."""
    touching = sum(w.touches for at, w in enumerate(words) if (w.text == "+" or w.text in _MINUS) and _behind_a_grade(words, at, language))
    return sum(not _side_follows(words, at, language) for at in _free_pluses(words, language)) > touching


def _spaced_halves_joined(words: Sequence[Word], language: Language) -> list[Word]:
    """The words, with each "-" that stands behind a grade made one with it, "R 3 -"; a free one elsewhere parts what is on its sides."""
    halves = {at for at, word in enumerate(words) if word.text in _MINUS and _behind_a_grade(words, at, language) and not _leads(words, at)}
    return [word._replace(touches=True) if at in halves else word for at, word in enumerate(words)]


def halves_joined(source: str, words: Sequence[Word], language: Language, signs: Signs) -> list[Word]:
    """The words, with all that makes half a grade as one word that touches it: "3(-)", "3.5", "3 -"."""
    words = _decimals_as_halves(source, _halves_out_of_brackets(source, words), language)
    return _spaced_halves_joined(words, language) if signs.spaced_halves else words


def points_left(words: Sequence[Word]) -> bool:
    """Whether an arrow points left, so that arrows are sides here."""
    return any(word.text in _ARROWS["left"] for word in words)


def arrows_as_sides(words: Sequence[Word], language: Language, are_sides: bool) -> list[Word]:
    """The words, with arrows read as sides where they are: "←4 50 →3"."""
    if not are_sides:
        return list(words)
    sides = {arrow: language.term(side, "direction").said[0].lower() for side, arrows in _ARROWS.items() for arrow in arrows}
    return [word._replace(text=sides.get(word.text, word.text)) for word in words]


def _behind_a_grade(words: Sequence[Word], at: int, language: Language) -> bool:
    """Whether a side and a figure of one line end before a word, in either order, with a half behind them or without."""
    at -= words[at].text in _MINUS and words[at - 1].text == "+"
    own = [w.text for w in words[max(at - 2, 0) : at] if w.line == words[at].line]
    figures = [text for text in own if text.isdecimal() and len(text) == 1]
    return len(own) == 2 and len(figures) == 1 and not language.directions.isdisjoint(own)


def _side_follows(words: Sequence[Word], at: int, language: Language) -> bool:
    """Whether the next corner begins behind a mark, on the same line."""
    following = [w.text for w in words[at + 1 : at + 3] if w.line == words[at].line]
    return bool(following) and following[following[0].isdecimal() and len(following) == 2] in language.directions


def _leads(words: Sequence[Word], at: int) -> bool:
    """Whether a mark touches what stands behind it, as a bullet may."""
    return at + 1 < len(words) and words[at + 1].touches and words[at + 1].line == words[at].line


# What stands behind the figure in "3.5", "3,5" or "3 1/2".
_DECIMALS = re.compile(r"(?<!\d)[1-9](?:(?=[.,])|\s+(?=1/))([.,]5|1/2)(?!\d)")


def _decimals_as_halves(source: str, words: Sequence[Word], language: Language) -> list[Word]:
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


def _halves_out_of_brackets(source: str, words: Sequence[Word]) -> list[Word]:
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
