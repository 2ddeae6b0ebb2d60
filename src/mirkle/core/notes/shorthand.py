"""Short forms that are not what they look like, told by what stands beside them in a written text."""

from __future__ import annotations

from collections.abc import Sequence

from mirkle.core.notes.language import Language

LARGEST_GRADE = 10
# A figure of more digits is no number that anybody calls.
MOST_DIGITS = 9


def is_grade_figure(word: str) -> bool:
    """Whether a word is the figure of a grade."""
    return word.isdecimal() and len(word) <= MOST_DIGITS and 1 <= int(word) <= LARGEST_GRADE


def is_figure_of_no_grade(words: Sequence[str], at: int, language: Language) -> bool:
    """Whether this is the figure of a "R90", which no grade is and no distance either, where it touches its side."""
    word = words[at]
    if at == 0 or not word.isdecimal() or words[at - 1] not in language.directions:
        return False
    return len(word) <= MOST_DIGITS and int(word) > LARGEST_GRADE and not language.matches(words, at)


def is_no_side(words: Sequence[str], at: int, touching: bool, language: Language) -> bool:
    """Whether this is the second L of a "L4L 50", or of a "R4 L" at the end of its line, which stands for "long" or something else, but not
    for the side of a corner: its grade would stand behind it."""
    if at == 0 or words[at] not in language.directions or not is_grade_figure(words[at - 1]):
        return False
    last = len(words[at]) == 1 and at + 1 == len(words)
    return (touching or last) and not _begins_a_grade(words, at + 1, language)


def _begins_a_grade(words: Sequence[str], at: int, language: Language) -> bool:
    """Whether a grade may begin at a place: a small number, or a word such as "hairpin"."""
    if at == len(words):
        return False
    named = any(m.term.kind == "grade" for m in language.matches(words, at))
    return named or words[at] in language.small_numbers or is_grade_figure(words[at])


def joins_a_number(words: Sequence[str], at: int, language: Language) -> bool:
    """Whether this is the "e" of "vinte e cinco", which is no short form of a side."""
    if words[at] not in language.joiners or not 0 < at < len(words) - 1:
        return False
    return words[at - 1].isalpha() and language.tens_of(words[at - 1]) > 0 and words[at + 1] in language.number_words
