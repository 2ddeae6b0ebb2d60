"""What stands in a book and nobody calls: set apart before anything is read, so that no figure in it becomes a grade or a distance.

A remark is what stands in brackets or quotes, behind ``//`` or a free ``#``, behind a name or "note" with a colon, what is struck out, the
number of a house, kilometres with decimals, a speed, and what a corner was graded before. Words for some of these stand in the language's
``[remark]``. A bracket that is never closed is no remark: some crews draw bends with them.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Iterator, Sequence

from mirkle.core.notes.language import Language, pieces
from mirkle.core.notes.model import Span

_CLOSES = {"(": ")", "[": "]", "{": "}", "“": "”", "„": "“”", "«": "»", "‹": "›", "‘": "’"}
_OPENS = {sign: [o for o, closes in _CLOSES.items() if sign in closes] for closes in _CLOSES.values() for sign in closes}
_MARKED = re.compile(
    r"""
    (?<![\w"])"(?=\S)[^"\n]*"(?!\w)                          # in quotes: a closing one stands behind what it closes
    | (?<![\w'’])'(?=\S)[^'\n]*(?:\w'\w[^'\n]*)*'(?!\w)      # in single ones, which words have inside as well
    | ~~[^~\n]+~~ | (?:[^\s\u0336]\u0336[^\S\n]*)+           # struck out
    | (?:(?<=\s)|^)//[^\n]* | //(?=\s)[^\n]*                 # to the end of the line
    | (?:(?<=\s)|^)\#(?!\d)[^\n]* | (?:(?<=\s)|^)\#\d+\w?    # a free #, or a number
    | (?:@[^\S\n]*)?(?<!^)(?<=[\s@])\d+(?:[.,]\d+[^\S\n]*km|[^\S\n]*(?:km/h|kmh|kph))\b    # where on the stage, or how fast
    """,
    re.VERBOSE | re.MULTILINE,
)
_NAMED = re.compile(r"(?:(?<=\s)|^)([^\W\d_](?:[^\W\d_]|[’'-]){0,20}):(?=\s)[^\n]*", re.MULTILINE)
_CALLED, _CALLED_ALONE = frozenset(("caution", "feature", "line", "change")), frozenset(("length", "half"))
# "3(-)": a half of the grade that it touches.
HALF_IN_BRACKETS = re.compile(r"(?<=\d)[(\[]\s*([-−+])\s*[)\]]")
_DISTANCE = re.compile(r"[(\[{]\s*\d{2,4}\s*m?\s*[)\]}]")
# How many lines show a habit; and which share of them begins with a name where a text is messages.
LEAST_LINES, MESSAGES = 4, 0.6
# A house's number is no distance where it is none that anybody calls.
LEAST_DISTANCE_M, ROUND_M = 20, 10


def remarks_in(source: str, language: Language, *, gaps_in_brackets: bool = False) -> list[Span]:
    """Where the remarks of a written text stand, in order; none overlaps another. ``gaps_in_brackets`` where distances and links stand in
    brackets here."""
    bracketed = [span for span in _bracketed(source) if not HALF_IN_BRACKETS.fullmatch(source, span.start, span.end)]
    if gaps_in_brackets:
        bracketed = [span for span in bracketed if not _is_gap(source[span.start : span.end], language)]
    marked = (Span(*m.span()) for m in _MARKED.finditer(source))
    return _joined([*bracketed, *marked, *_named(source, language), *_graded_before(source, language), *_houses(source, language)])


def _is_gap(bracket: str, language: Language) -> bool:
    """Whether a bracket holds a distance or a link."""
    return _DISTANCE.fullmatch(bracket) is not None or language.kinds_in([bracket[1:-1].strip().lower()]) == {"link"}


def _joined(spans: Iterable[Span]) -> list[Span]:
    """Stretches in order, those that overlap made one."""
    out: list[Span] = []
    for span in sorted(spans, key=lambda s: (s.start, -s.end)):
        if out and span.start < out[-1].end:
            out[-1] = Span(out[-1].start, max(span.end, out[-1].end))
        else:
            out.append(span)
    return out


def _named(source: str, language: Language) -> Iterator[Span]:
    """What stands behind a word that begins a remark, or behind somebody's name. Where most lines begin with a name, as messages do that
    two wrote to each other, only the names are no notes."""
    names = [m for m in _NAMED.finditer(source) if m[1][0].isupper() and not language.knows(m[1].lower())]
    messages = len(names) >= max(LEAST_LINES, MESSAGES * sum(bool(line.strip()) for line in source.split("\n")))
    yield from (Span(m.start(), m.end(1) + 1) if messages else Span(*m.span()) for m in names)
    yield from (Span(*m.span()) for m in _NAMED.finditer(source) if m[1].lower() in language.remark_heads)


def calls_set_apart(source: str, remarks: Sequence[Span], language: Language) -> list[str]:
    """The remarks all of whose words are called elsewhere, such as "(don't cut)": somebody should say whether they are."""
    found = []
    for span in remarks:
        if _is_called(pieces(source[span.start : span.end]), language):
            found.append(source[span.start : span.end].strip())
    return found


def _is_called(words: Sequence[str], language: Language) -> bool:
    """Whether all of these words are known and some are called; a figure is more than a call set apart."""
    letters = [w for w in words if w[0].isalpha()]
    if any(w[0].isdigit() for w in words) or not all(map(language.knows, letters)):
        return False
    kinds = {m.term.kind for at in range(len(words)) for m in language.matches(words, at) if m.way == "said"}
    return bool(kinds & (_CALLED | _CALLED_ALONE if len(letters) == 1 else _CALLED))


def puts_gaps_in_brackets(source: str) -> bool:
    """Whether a crew puts its distances in brackets: half of its lines have one."""
    lines = [line for line in source.split("\n") if line.strip()]
    inside = sum(_DISTANCE.fullmatch(source, span.start, span.end) is not None for span in _bracketed(source))
    return inside >= LEAST_LINES and 2 * inside >= len(lines)


def _bracketed(source: str) -> Iterator[Span]:
    """What stands in brackets, or in quotes that open and close in different ways, each on its line; linear in the text."""
    open_at: list[tuple[str, int]] = []
    waiting: Counter[str] = Counter()
    for at, sign in enumerate(source):
        if sign == "\n":
            open_at, waiting = [], Counter()
        elif _opens(source, at):
            open_at.append((sign, at))
            waiting[sign] += 1
        elif _closes(source, at) and any(waiting[opens] for opens in _OPENS[sign]):
            opened = ""
            while opened not in _OPENS[sign]:
                opened, start = open_at.pop()
                waiting[opened] -= 1
            yield Span(start, at + 1)


def _opens(source: str, at: int) -> bool:
    """Whether a sign opens something; a single quote within a word is an apostrophe."""
    sign = source[at]
    return sign in _CLOSES and not (sign == "‘" and at and source[at - 1].isalnum())


def _closes(source: str, at: int) -> bool:
    sign = source[at]
    return sign in _OPENS and not (sign == "’" and source[at + 1 : at + 2].isalnum())


def _graded_before(source: str, language: Language) -> Iterator[Span]:
    """ "Was 3 last year": what a corner was graded before."""
    if language.graded_before_pattern is not None:
        for found in language.graded_before_pattern.finditer(source):
            if "\n" not in found[0]:
                yield Span(*found.span())


def _houses(source: str, language: Language) -> Iterator[Span]:
    """The number of a house, or one that a word such as "no." makes a number."""
    if language.number_pattern is not None:
        yield from (Span(*m.span()) for m in language.number_pattern.finditer(source))
    if language.house_pattern is None:
        return
    for found in language.house_pattern.finditer(source):
        number = int(found[1])
        called = number >= LEAST_DISTANCE_M and number % ROUND_M == 0
        goes_on = language.gap_pattern.search(found[3])
        if found[2] or not called or goes_on:
            yield Span(found.start(1), found.end(2))
