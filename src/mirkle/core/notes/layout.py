"""What stands around notes and is none: list numbers, places by the odometer, bullets, a title; and cells that were pasted one below the
other.

They are no notes, so they are set aside before anything is read, and said.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import chain, groupby, pairwise, takewhile
from typing import NamedTuple

import numpy as np

from mirkle.core.messages import Message, counted, message
from mirkle.core.notes.language import Language
from mirkle.core.notes.model import Signs, Span
from mirkle.core.notes.shorthand import LARGEST_GRADE
from mirkle.core.notes.signs import dashes_between, pluses_between
from mirkle.core.notes.tokens import Word, split_words

# Lines are numbered, or have bullets, from this share and this number of lines on.
SHARE, LEAST_LINES = 0.6, 3
# Cells that were pasted one below the other are nearly all behind a note.
NEARLY_ALL = 0.8
# Numbers that rise from line to line are distances from the start, from this number of lines on and up to these metres at least: distances
# between notes never do.
LEAST_PLACES, LEAST_LAST_M = 7, 1000.0
BULLETS = frozenset("-–—•·*►▪‣◦○●■□✓➢>")


@dataclass(frozen=True)
class Aside:
    """A word, or a remark of several, that nobody calls; ``kind`` is ``list number``, ``place``, ``time``, ``bullet``, ``title``,
    ``remark`` or, for a sign that nobody calls, ``blank``."""

    word: Word
    kind: str


@dataclass(frozen=True)
class Layout:
    """The words to be read, those set aside, and a sentence for each kind of the latter."""

    words: list[Word]
    aside: list[Aside]
    doubts: tuple[Message, ...]


def laid_out(source: str, words: Sequence[Word], language: Language, remarks: Sequence[Span], signs: Signs) -> Layout:
    """Parts the words of a written text into notes and what stands around and among them; ``remarks`` are where nothing is called, and
    ``signs`` how the book uses its signs."""
    words, apart = _without(remarks, words, source)
    lines = [list(line) for _, line in groupby(words, key=lambda w: w.line)]
    first = lines[0][0].line if lines else 0
    # What stands above all else names the stage, as a title does.
    title = _title(lines, language)
    below = lines[len(title) :]
    numbers, bullets = _list_heads(below)
    groups = {
        "title": title,
        "list number": numbers,
        "place": [] if numbers else _places(source, below),
        "time": _times(source, below),
        "bullet": bullets,
    }
    pluses = pluses_between(words, language) if signs.pluses_part else []
    dashes = dashes_between(words) if signs.dashes_part else []
    aside = [Aside(w, "title" if w.line < first else "remark") for w in apart]
    aside += [Aside(w, kind) for kind, found in groups.items() for w in chain.from_iterable(found)]
    aside += [Aside(w, "blank") for w in chain(*map(_silent, below), pluses, dashes)]
    # A dash may part two words for more than one reason.
    gone = {a.word.span.start: a for a in aside}
    doubts = tuple(_layout_doubts(source, groups, len(pluses), len(dashes)))
    return Layout([w for w in words if w.span.start not in gone], list(gone.values()), doubts)


def _layout_doubts(source: str, groups: Mapping[str, Sequence[list[Word]]], pluses: int, dashes: int) -> Iterator[Message]:
    """What was set aside, in a sentence each."""
    counts = {kind: len(found) for kind, found in groups.items()}
    if counts["title"]:
        said = " / ".join(source[line[0].span.start : line[-1].span.end] for line in groups["title"])
        yield message("“{0}” at the top was read as the title.", said)
    if counts["list number"]:
        yield counted("The list number of 1 line was left out.", "The list numbers of {0} lines were left out.", counts["list number"])
    if counts["place"]:
        yield message("The numbers at the head of {0} lines are distances from the start. They were left out.", counts["place"])
    if counts["time"]:
        yield message("The times at the head of {0} lines were left out.", counts["time"])
    if counts["bullet"]:
        yield counted("The bullet at 1 line was left out.", "The bullets at {0} lines were left out.", counts["bullet"])
    if pluses:
        yield counted(
            "1 “+” between two corners, with a space on both sides, was read as “and”. Write 4+ for half a grade.",
            "{0} “+” between two corners, with a space on both sides, were read as “and”. Write 4+ for half a grade.",
            pluses,
        )
    if dashes:
        yield message("{0} “-” that touch what stands on both sides, as in L4-80, part it. Write “4- 80” for half a grade.", dashes)


def _list_heads(lines: Sequence[list[Word]]) -> tuple[list[list[Word]], list[list[Word]]]:
    """The numbers and the bullets of a list at the heads of lines, each empty where too few lines have them."""
    enough = max(LEAST_LINES, SHARE * len(lines))
    numbers, bullets = (list(filter(None, map(head_of, lines))) for head_of in (_list_number, _bullet))
    is_list = len(numbers) >= enough and _is_list(numbers)
    if len(bullets) < enough:
        return numbers if is_list else [], []
    # One that stands alone has nothing behind it.
    return numbers if is_list else [], bullets + [line for line in lines if len(line) == 1 and line[0].text == bullets[0][0].text]


def _without(remarks: Sequence[Span], words: Sequence[Word], source: str) -> tuple[list[Word], list[Word]]:
    """The words outside of remarks, and each remark as one word."""
    kept: list[Word] = []
    apart: dict[Span, Word] = {}
    at = 0
    for word in words:
        while at < len(remarks) and remarks[at].end <= word.span.start:
            at += 1
        if at < len(remarks) and word.span.end > remarks[at].start:
            span = remarks[at]
            apart.setdefault(span, Word(source[span.start : span.end].strip(), span, word.line, touches=False))
        else:
            kept.append(word)
    return kept, list(apart.values())


# Terms that other texts are full of, too.
_COMMON_TERMS = ("filler", "link", "over", "chat", "half", "number", "go")


def _title(lines: Sequence[list[Word]], language: Language) -> list[list[Word]]:
    """The lines at the top that say nothing of a road."""
    out = list(takewhile(lambda line: _says_nothing_of_a_road(line, language), lines))
    # A text of nothing else has no title.
    return out if len(out) < len(lines) else []


def _says_nothing_of_a_road(line: Sequence[Word], language: Language) -> bool:
    """Whether none of a line's words is a note's, or fewer than half are the trade's."""
    letters = [w.text for w in line if w.text[0].isalpha()]
    known = language.kinds_in(letters) - set(_COMMON_TERMS)
    strange = [w for w in letters if not language.knows(w)]
    if not strange or known & {"direction", "grade", "mark", "caution"}:
        return False
    return not known or 2 * len(strange) >= len(letters)


def _list_number(line: Sequence[Word]) -> list[Word]:
    """The number at the head of a line with the mark behind it: "33.", "33)", or a bare one ahead of a note."""
    if len(line) < 2 or not line[0].text.isdecimal() or len(line[0].text) > 3:
        return []
    marked = line[1].text in (".", ")", ":") and line[1].touches
    return list(line[: 1 + marked]) if len(line) > 1 + marked else []


def _is_list(heads: Sequence[list[Word]]) -> bool:
    """Whether the numbers count up; bare ones must go beyond what a grade can be."""
    numbers = [int(head[0].text) for head in heads]
    steps = [b - a for a, b in pairwise(numbers)]
    marked = sum(len(head) > 1 for head in heads) >= SHARE * len(heads)
    return sum(step == 1 for step in steps) >= 0.8 * len(steps) and (marked or max(numbers) > LARGEST_GRADE)


def _silent(line: Sequence[Word]) -> list[Word]:
    """The signs that nobody calls: hyphens between two words, since "flat-out" is called as "flat out" is, and a free "+" at the head of a
    line, which is half of no grade."""
    plus = list(line[:1]) if len(line) > 1 and line[0].text == "+" and not line[1].touches else []
    return plus + [word for before, word, behind in zip(line, line[1:], line[2:], strict=False) if _is_hyphen(before, word, behind)]


def _is_hyphen(before: Word, word: Word, behind: Word) -> bool:
    return word.text == "-" and word.touches and behind.touches and before.text[-1].isalpha() and behind.text[0].isalpha()


# A distance from the start at the head of a line, with its unit; and a time there, in minutes and seconds or with hours.
_PLACE = re.compile(r"(\d+([.,]\d+)?)(?![\d.,:])(?:\s*(km|m)\b)?(?=.*\w)")
_TIME = re.compile(r"(?:(\d{1,2}):)?(\d{1,2}):(\d{2}(?:[.,]\d+)?)(?!\d)(?=.*\w)")


def _places(source: str, lines: Sequence[list[Word]]) -> list[list[Word]]:
    """The distances from the start at the heads of lines, "1.35", "1,35 km" or "1350"; none where they do not rise along the book."""
    found = [place for line in lines if (place := _place(source, line)) is not None]
    if len(found) < max(LEAST_PLACES, NEARLY_ALL * len(lines)) or found[-1].metres < LEAST_LAST_M:
        return []
    steps = np.diff([place.metres for place in found])
    return [place.head for place in found] if (steps >= 0.0).all() and np.mean(steps > 0.0) >= NEARLY_ALL else []


def _times(source: str, lines: Sequence[list[Word]]) -> list[list[Word]]:
    """The times at the heads of lines, "0:35" or "1:02:35.5"; none where few lines have one or they do not rise along the book."""
    found = [(line, match) for line in lines if (match := _TIME.match(source, line[0].span.start, line[-1].span.end))]
    seconds = [3600.0 * float(m[1] or 0) + 60.0 * float(m[2]) + float(m[3].replace(",", ".")) for _, m in found]
    if len(found) < max(LEAST_LINES, NEARLY_ALL * len(lines)) or (np.diff(seconds) < 0.0).any():
        return []
    return [[w for w in line if w.span.end <= match.end()] for line, match in found]


class _Place(NamedTuple):
    """The words of a distance from the start, and its metres."""

    head: list[Word]
    metres: float


def _place(source: str, line: Sequence[Word]) -> _Place | None:
    found = _PLACE.match(source, line[0].span.start, line[-1].span.end)
    if found is None:
        return None
    number, _, unit = found.groups()
    return _Place([w for w in line if w.span.end <= found.end()], from_start_m(number, unit))


def from_start_m(number: str, unit: str | None) -> float:
    """A distance from the start as it is written, in metres."""
    return float(number.replace(",", ".")) * (1000.0 if is_in_km(number, unit) else 1.0)


def is_in_km(number: str, unit: str | None) -> bool:
    """Whether a distance from the start says so, or has decimals and no unit."""
    return unit.lower() == "km" if unit else not number.isdecimal()


def _bullet(line: Sequence[Word]) -> list[Word]:
    apart = len(line) > 1 and not line[1].touches
    return [line[0]] if apart and line[0].text in BULLETS else []


def cells_joined(source: str, language: Language) -> tuple[str, tuple[Message, ...]]:
    """A text whose notes and distances were pasted as a line each, put together again; and a sentence that says so.

    The text keeps its length: the line break between a note and its distance becomes a space. There is no sentence where
    the text is no such.
    """
    lines = source.split("\n")
    behind = _distances_below_their_notes(lines, language)
    if not behind:
        return source, ()
    taken = message("Distances on separate lines that were joined to the notes above: {0}.", len(behind))
    return "".join([lines[0], *((" " if n in behind else "\n") + line for n, line in enumerate(lines) if n)]), (taken,)


def _distances_below_their_notes(lines: Sequence[str], language: Language) -> set[int]:
    """The lines that are the distance of the note above; none unless nearly all lines with a distance only are."""
    filled = [n for n, line in enumerate(lines) if line.strip()]
    cells = {n for n in filled if _is_gap(lines[n], language)}
    below = [n for above, n in pairwise(filled) if n in cells and above not in cells and not _ends_in_gap(lines[above], language)]
    written_so = len(cells) >= LEAST_LINES and len(below) >= max(NEARLY_ALL * len(cells), SHARE * (len(filled) - len(cells)))
    return set(below) if written_so else set()


def torn_lines_joined(words: Sequence[Word], language: Language) -> tuple[list[Word], tuple[Message, ...]]:
    """The words with lines that end between a side and its grade made one with the next, and a sentence that says so."""
    lines = [list(line) for _, line in groupby(words, key=lambda w: w.line)]
    grades = _Grades(language)
    torn = 0
    out = list(lines[0]) if lines else []
    for above, line in pairwise(lines):
        if line[0].line == above[-1].line + 1 and grades.torn(above, line):
            torn += 1
            line[:] = [w._replace(line=above[-1].line) for w in line]
        out += line
    if not torn:
        return out, ()
    joined = counted(
        "1 line that ended between a side and its grade was joined with the next.",
        "{0} lines that ended between a side and its grade were joined with the next.",
        torn,
    )
    return out, (joined,)


class _Grades:
    """Which words of a language are sides and grades."""

    def __init__(self, language: Language) -> None:
        self.sides, self.numbers = language.directions, language.small_numbers
        self.named = {f for t in language.terms if t.kind == "grade" for f in (*t.said, *t.written)}

    def grade(self, word: str) -> bool:
        """Whether a word may be a grade."""
        return word in self.named or word in self.numbers or (word.isdecimal() and 1 <= int(word[:3]) <= LARGEST_GRADE)

    def torn(self, above: Sequence[Word], line: Sequence[Word]) -> bool:
        """Whether a line ends between a side and its grade: one of them ends it and the other begins the next, and neither has another
        beside it."""
        last, before = above[-1].text, [w.text for w in above[-2:-1]]
        first, second = line[0].text, [w.text for w in line[1:2]]
        if last in self.sides:
            return not any(map(self.grade, before)) and self.grade(first) and not self.sides & set(second)
        bare = self.grade(last) and last not in self.named and not before
        return bare and first in self.sides and not any(map(self.grade, second))


def _is_gap(line: str, language: Language) -> bool:
    words = [w.text for w in split_words(line)]
    return len(words) == 1 and words[0] in _gap_words(words, language)


def _ends_in_gap(line: str, language: Language) -> bool:
    words = [w.text for w in split_words(line)]
    return bool(words) and len(words) > 2 and words[-1] in _gap_words(words[-1:], language)


def _gap_words(words: Sequence[str], language: Language) -> Iterator[str]:
    for word in words:
        links = any(m.term.kind == "link" and m.way != "heard" for m in language.matches([word], 0))
        if links or (word.isdecimal() and len(word) < 5 and 10 <= int(word) <= 3000):
            yield word
