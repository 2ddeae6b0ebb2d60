"""A book held against itself, before any car has driven it: what can be read in two ways, and what hardly any book says.

Nothing here is changed or guessed. Each doubt names its note and asks; a recording is not needed.
"""

from __future__ import annotations

import re
from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise

from mirkle.core.messages import Message, message
from mirkle.core.notes.book_metres import corner_length_m, gap_m
from mirkle.core.notes.grading import HALF_MARKS, SENSE_KNOWN, GradingScheme, school_of, stray_number, whole_grade
from mirkle.core.notes.model import Note, Reading

# From this length on, a distance that is this many times the next largest was probably meant ten times shorter. # common practice: crews
# call a few hundred metres
FAR_BEYOND, SURELY_FAR_M = 3.0, 1000
# A note that says as much as this twice running was copied twice; a page of as many notes likewise.
SAYS_MUCH, FULL_PAGE = 3, 4
# How many words a second a co-driver says, and how many seconds he may fall behind what there is to say. # common practice
WORDS_A_SECOND, AHEAD_S = 3.5, 4.0
# How fast a car comes through linked corners at most. # common practice
LINKED_MPS = 22.0
_FIGURE = re.compile(rf"\d{{1,2}}[{HALF_MARKS}]?")


@dataclass(frozen=True)
class Doubt:
    """What a book says against itself on a note; ``kind`` names the check."""

    kind: str
    note: int
    sentence: Message


def doubts_of(reading: Reading, school: GradingScheme | None = None, meant: frozenset[str] = frozenset()) -> list[Doubt]:
    """Every doubt about a written book, in its order, without the notes that the crew ``meant`` so (in lower case)."""
    notes = reading.notes
    school = school or school_of(notes)
    found = [
        *_two_readings(notes),
        *_half_corners(notes),
        *_changes(notes, school),
        *_distances(notes),
        *_grades(notes),
        *_twice(notes),
        *_pages(notes),
        *_alerts(notes),
        *_words(notes),
        *_crowded(notes),
    ]
    found = [d for d in found if _said(notes[d.note]).lower() not in meant]
    return sorted(found, key=lambda d: d.note)


def _said(note: Note) -> str:
    return " ".join(note.text.split())


def _two_readings(notes: Sequence[Note]) -> Iterator[Doubt]:
    """A figure that stands in a note beside its grade: the one at its side was taken."""
    for note in notes:
        figures = [w for w in note.unread if _FIGURE.fullmatch(w)]
        if figures and note.grade is not None:
            yield Doubt(
                "two-readings",
                note.index,
                message("“{0}”: {1} or {2}? The {1} next to the side was used.", _said(note), note.grade, figures[0]),
            )


def _half_corners(notes: Sequence[Note]) -> Iterator[Doubt]:
    for note in notes:
        if note.direction is not None and note.grade is None:
            yield Doubt("half-corner", note.index, message("“{0}” has a side and no grade.", _said(note)))
        elif note.grade is not None and note.direction is None:
            yield Doubt("half-corner", note.index, message("“{0}” has a grade and no side.", _said(note)))


def _changes(notes: Sequence[Note], school: GradingScheme) -> Iterator[Doubt]:
    """A tightening that leads to a wider grade, or an opening that leads to a tighter one."""
    if school.sense_sure < SENSE_KNOWN:
        return
    for note in notes:
        for change in note.changes:
            wider = _wider(note.grade, change.to, school)
            if wider is not None and change.tightens and wider >= 0:
                yield Doubt(
                    "change",
                    note.index,
                    message("“{0}” tightens to a {1}, but {1} is not tighter than {2}.", _said(note), change.to, note.grade),
                )
            elif wider is not None and change.opens and wider <= 0:
                yield Doubt(
                    "change",
                    note.index,
                    message("“{0}” opens to a {1}, but {1} is not wider than {2}.", _said(note), change.to, note.grade),
                )


def _wider(grade: str | None, to: str, school: GradingScheme) -> float | None:
    """How many grades wider the grade is that a change leads to; ``None`` where one of the two is none of this school."""
    if grade is None or not (school.has(grade) and school.has(to)):
        return None
    return school.position(to) - school.position(grade)


def _distances(notes: Sequence[Note]) -> Iterator[Doubt]:
    """A distance far beyond all others, as ten times what was meant would be."""
    metres = sorted(n.distance_m for n in notes if n.distance_m is not None)
    for note in notes:
        if note.distance_m is None or len(metres) < 5:
            continue
        others = metres.copy()
        others.remove(note.distance_m)
        if note.distance_m >= SURELY_FAR_M and note.distance_m > FAR_BEYOND * others[-1]:
            yield Doubt(
                "distance",
                note.index,
                message(
                    "“{0}”: {1} m is far more than any other distance here, of which {2} m is the longest.",
                    _said(note),
                    note.distance_m,
                    others[-1],
                ),
            )


def _grades(notes: Sequence[Note]) -> Iterator[Doubt]:
    """One number far above all others: a slip of the pen must not make a scale of ten."""
    numbered = [(n, int(whole_grade(n.grade))) for n in notes if n.grade and whole_grade(n.grade).isdecimal()]
    stray = stray_number(number for _, number in numbered)
    highest = max((number for _, number in numbered if number != stray), default=0)
    for note, number in numbered:
        if number == stray:
            yield Doubt("grade", note.index, message("“{0}”: no other note has a grade above {1}.", _said(note), highest))


def _twice(notes: Sequence[Note]) -> Iterator[Doubt]:
    """The same line or the same page twice running."""
    for first, second in pairwise(notes):
        parts = (
            first.direction,
            first.length,
            *first.changes,
            *first.features,
            *first.cautions,
            *first.line_on_road,
            *first.objects,
            first.distance_m,
        )
        if _same(first, second) and sum(p is not None for p in parts) >= SAYS_MUCH:
            yield Doubt("twice", second.index, message("“{0}” is there twice in a row.", _said(second)))
    pages: defaultdict[int, list[Note]] = defaultdict(list)
    for note in notes:
        pages[note.page].append(note)
    for (_, first_page), (number, page) in pairwise(pages.items()):
        if len(page) >= FULL_PAGE and len(page) == len(first_page) and all(map(_same, first_page, page)):
            yield Doubt("page-twice", page[0].index, message("Page {0} says the same as the page before it.", number))


def _same(a: Note, b: Note) -> bool:
    return _said(a).lower() == _said(b).lower()


def _pages(notes: Sequence[Note]) -> Iterator[Doubt]:
    """Page numbers that jump: a page may be missing between them."""
    for first, second in pairwise(notes):
        if second.page not in (first.page, first.page + 1):
            yield Doubt("page-missing", second.index, message("Page {0} follows page {1}: is one missing?", second.page, first.page))


def _alerts(notes: Sequence[Note]) -> Iterator[Doubt]:
    """An alert with nothing to warn of: neither a corner nor a feature beside it."""
    for note in notes:
        bare = note.direction is None and not (note.features or note.objects or note.marks or note.line_on_road)
        if note.cautions and bare:
            yield Doubt("alert", note.index, message("“{0}” is a warning with nothing behind it.", _said(note)))


def _words(notes: Sequence[Note]) -> Iterator[Doubt]:
    """A word that nobody knows and that the book has once: a slip of the pen more likely than a habit."""
    count = Counter(w.lower() for n in notes for w in n.unread)
    for note in notes:
        for word in note.unread:
            if count[word.lower()] == 1 and not _FIGURE.fullmatch(word):
                yield Doubt("word", note.index, message("“{0}”: “{1}” is not understood, and is in the book only once.", _said(note), word))


def _crowded(notes: Sequence[Note]) -> Iterator[Doubt]:
    """Notes that follow each other faster than they can be said: what is not said yet grows from note to note."""
    behind_s, begun, said_s, road_s = 0.0, 0, 0.0, 0.0
    reported = False
    for before, note in pairwise(notes):
        there_is = (gap_m(before) + corner_length_m(before)) / LINKED_MPS
        takes = _words_in(note) / WORDS_A_SECOND
        if behind_s <= 0.0:
            begun, said_s, road_s, reported = note.index, 0.0, 0.0, False
        behind_s = max(0.0, behind_s + takes - there_is)
        said_s, road_s = said_s + takes, road_s + there_is
        if behind_s > AHEAD_S and not reported:
            reported = True
            yield Doubt(
                "crowded",
                note.index,
                message("“{0}” to “{1}”: about {2:.0f} s of words in {3:.0f} s of road.", _said(notes[begun]), _said(note), said_s, road_s),
            )


def _words_in(note: Note) -> int:
    """How many words a note is called with."""
    plain = (note.grade or "", *note.length_terms, note.link or "", *note.cautions, *note.marks)
    words = (*plain, *(term for value in note.called_values for term in value.terms))
    return note.is_corner + 2 * (note.distance_m is not None) + sum(len(w.split()) for w in words)
