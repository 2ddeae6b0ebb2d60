"""What a word processor puts around notes: list numbers, bullets, a title; and cells that were pasted one below the other.

They are no notes, so they are set aside before anything is read, and said.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby, pairwise

from mirkle.core.messages import Clause, clause
from mirkle.core.notes.language import Language
from mirkle.core.notes.lattice import LARGEST_GRADE
from mirkle.core.notes.model import Span
from mirkle.core.notes.tokens import Word, split_words

# Lines are numbered, or have bullets, where so much of the text is.
SHARE, LEAST_LINES = 0.6, 3
BULLETS = frozenset("-–—•·*►▪‣◦○●■□✓➢>")


@dataclass(frozen=True)
class Aside:
    """A word, or a remark of several, that nobody calls; ``kind`` is ``list number``, ``bullet``, ``title`` or ``remark``."""

    word: Word
    kind: str


@dataclass(frozen=True)
class Layout:
    """The words to be read, those set aside, and a sentence for each kind of the latter."""

    words: list[Word]
    aside: list[Aside]
    doubts: tuple[Clause, ...]


def laid_out(source: str, words: Sequence[Word], language: Language, remarks: Sequence[Span] = ()) -> Layout:
    """Parts the words of a written text into notes and what stands around and among them; ``remarks`` are where nothing is called."""
    words, apart = _without(remarks, words, source)
    lines = [list(line) for _, line in groupby(words, key=lambda w: w.line)]
    first = lines[0][0].line if lines else 0
    # What stands above all else names the stage, as a title does.
    aside = [Aside(w, "title" if w.line < first else "remark") for w in apart]
    doubts: list[Clause] = []
    title = _title(lines, language)
    if title:
        said = " / ".join(source[line[0].span.start : line[-1].span.end] for line in title)
        doubts.append(clause("“{0}” at the top was taken for a title.", said))
        aside += [Aside(w, "title") for line in title for w in line]
    below = lines[len(title) :]
    enough = max(LEAST_LINES, SHARE * len(below))
    numbers = [head for line in below if (head := _list_number(line))]
    if len(numbers) >= enough and _is_list(numbers):
        doubts.append(clause("The numbers of a list at {0} lines were left out.", len(numbers)))
        aside += [Aside(w, "list number") for head in numbers for w in head]
    bullets = [head for line in below if (head := _bullet(line))]
    if len(bullets) >= enough:
        doubts.append(clause("The bullets at {0} lines were left out.", len(bullets)))
        aside += [Aside(w, "bullet") for head in bullets for w in head]
    gone = {a.word.span.start for a in aside}
    return Layout([w for w in words if w.span.start not in gone], aside, tuple(doubts))


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


def _title(lines: Sequence[list[Word]], language: Language) -> list[list[Word]]:
    """The lines at the top that say nothing of a road: none of their words is a note's, or fewer than half are the trade's."""
    out: list[list[Word]] = []
    for line in lines:
        letters = [w.text for w in line if w.text[0].isalpha()]
        known = {
            m.term.kind
            for at in range(len(letters))
            for m in language.matches(letters, at)
            if m.way != "heard" and m.term.kind not in ("filler", "link", "over", "chat", "half", "number", "go")
        }
        strange = [w for w in letters if not language.knows(w)]
        of_a_note = bool(known) and 2 * len(strange) < len(letters)
        if not strange or known & {"direction", "grade", "mark", "caution"} or of_a_note:
            break
        out.append(line)
    # A text of nothing else has no title.
    return out if len(out) < len(lines) else []


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


def _bullet(line: Sequence[Word]) -> list[Word]:
    apart = len(line) > 1 and not line[1].touches
    return [line[0]] if apart and line[0].text in BULLETS else []


def cells_joined(source: str, language: Language) -> tuple[str, tuple[Clause, ...]]:
    """A text whose notes and distances were pasted as a line each, put together again; and a sentence that says so.

    The text keeps its length: the line break between a note and its distance becomes a space. There is no sentence where
    the text is no such.
    """
    lines = source.split("\n")
    bare = [_is_gap(line, language) for line in lines]
    filled = [n for n, line in enumerate(lines) if line.strip()]
    cells = [n for n in filled if bare[n]]
    notes = [n for n in filled if not bare[n]]
    behind = {n for a, n in pairwise(filled) if bare[n] and not bare[a] and not _ends_in_gap(lines[a], language)}
    if len(cells) < LEAST_LINES or len(behind) < max(0.8 * len(cells), SHARE * len(notes)):
        return source, ()
    taken = clause("{0} distances that stood on lines of their own were taken to the notes above them.", len(behind))
    return "".join([lines[0], *((" " if n in behind else "\n") + line for n, line in enumerate(lines) if n)]), (taken,)


def torn_lines_joined(words: Sequence[Word], language: Language) -> tuple[list[Word], tuple[Clause, ...]]:
    """The words with lines that end between a side and its grade made one with the next, and a sentence that says so."""
    numbers, sides = language.small_numbers, language.directions
    named = {f for t in language.terms if t.kind == "grade" for f in (*t.said, *t.written)}

    def grade(word: str) -> bool:
        return word in named or word in numbers or (word.isdecimal() and 1 <= int(word[:3]) <= LARGEST_GRADE)

    lines = [list(line) for _, line in groupby(words, key=lambda w: w.line)]
    torn = 0
    out = list(lines[0]) if lines else []
    for above, line in pairwise(lines):
        last, before = above[-1].text, [w.text for w in above[-2:-1]]
        first, second = line[0].text, [w.text for w in line[1:2]]
        waits = last in sides and not any(map(grade, before)) and grade(first) and not sides & set(second)
        leads = grade(last) and last not in named and not before and first in sides and not any(map(grade, second))
        if line[0].line == above[-1].line + 1 and (waits or leads):
            torn += 1
            line[:] = [w._replace(line=above[-1].line) for w in line]
        out += line
    if not torn:
        return out, ()
    if torn == 1:
        return out, (clause("A line that ended between a side and its grade was put together with the next."),)
    return out, (clause("{0} lines that ended between a side and its grade were put together with the next.", torn),)


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
