"""A crew's way of counting grades, and where each grade lies between tightest and most open."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from mirkle.core.notes.model import Note

# How far a plus or a minus moves a note, in grades. # common practice
HALF = 1 / 3
# What a half is written with: "4+" is a little more open than 4, "4-" tighter, and "4½" half way to the next number. In this order they
# may stand between the brackets of a pattern.
BETWEEN = "½"
HALF_MARKS = f"{BETWEEN}+-"
# Grades that are words, tighter than any number. # common practice
NAMED = {"acute hairpin": -1.5, "hairpin": -1.0, "open hairpin": -0.5, "square": 0.0}
# The grades of crews that count by words, from the tightest.
WORDS = ("very slow", "slow", "medium", "fast", "very fast")
# Less sure than this, nobody knows which way the grades run.
SENSE_KNOWN = 0.9
_NUMBER = re.compile(rf"(\d+)([{HALF_MARKS}]?)$")


def whole_grade(grade: str) -> str:
    """A grade without its half: "4" for "4+"."""
    return grade.rstrip(HALF_MARKS)


def half_of(grade: str) -> str:
    """The sign of a grade's half, empty where it has none."""
    return grade[-1] if grade and grade[-1] in HALF_MARKS else ""


@dataclass(frozen=True)
class GradingScheme:
    """``sense`` is ``ascending`` (1 is tight) or ``descending``; grades count from 1 to ``top``.

    ``sense_sure`` says how sure the sense is, 0.5 to 1. ``words`` are the names of the grades where a crew counts by words
    instead of numbers, from the tightest; ``top`` is how many there are. ``stray`` is a number that was written once and lies far above the
    scale (0 where none is): whoever reads it believes the most open corner there is, or the tightest where grades descend. ``between``:
    the half grades are "3½" rather than "3+" and "4-".
    """

    sense: str = "ascending"
    top: int = 6
    half_grades: bool = False
    sense_sure: float = 1.0
    words: tuple[str, ...] = ()
    stray: int = 0
    between: bool = False

    def position(self, grade: str) -> float:
        """Where a grade lies, in grades from the tightest: hairpin -1, square 0, then the numbers, then flat.

        Raises
        ------
        ValueError
            The grade is not one of this school.
        """
        if grade in NAMED:
            return NAMED[grade]
        if grade == "flat":
            return self.top + 1.0
        if grade in self.words:
            return self.words.index(grade) + 1.0
        found = _NUMBER.match(grade)
        number = int(found[1]) if found else 0
        if number and number == self.stray:
            return self.top + 1.0 if self.sense == "ascending" else 0.0
        if found is None or not 1 <= number <= self.top:
            raise ValueError(f"{grade} is no grade from 1 to {self.top}")
        there = number + 0.5 * (found[2] == BETWEEN)
        base = there if self.sense == "ascending" else self.top + 1 - there
        return base + {"+": HALF, "-": -HALF}.get(found[2], 0.0)

    def has(self, grade: str) -> bool:
        """Whether a grade is one of this school."""
        try:
            self.position(grade)
        except ValueError:
            return False
        return True

    def counts(self, grade: str) -> bool:
        """Whether a grade is one of those that this school counts: a number or one of its words, and not a hairpin or flat."""
        return (grade[:1].isdigit() or grade in self.words) and self.has(grade)

    def tightest_position(self, note: Note) -> float:
        """Where the tightest part of a called corner lies: the grade, or what the note says it tightens to; nan if unknown."""
        if note.grade is None:
            return float("nan")
        try:
            called = self.position(note.grade)
            for change in note.changes:
                if change.tightens and change.to:
                    called = min(called, self.position(change.to))
                elif change.tightens:
                    called -= 1.0
        except ValueError:
            return float("nan")
        return called

    def tightest_target(self, note: Note) -> str | None:
        """The grade that a note tightens to, where that is its tightest part; ``None`` where the grade itself is."""
        tightest, found = (self.position(note.grade) if note.grade is not None and self.has(note.grade) else float("nan"), None)
        for change in note.changes:
            if change.tightens and self.has(change.to) and self.position(change.to) < tightest:
                tightest, found = self.position(change.to), change.to
        return found

    def tightest_grade(self, note: Note) -> str | None:
        """The name of the grade of a note's tightest part; ``None`` where it has none."""
        return self.tightest_target(note) or note.grade

    def grade_at(self, position: float) -> str:
        """The numbered grade nearest to a position, or its word; halves only where the crew uses them."""
        if self.words:
            return self.words[min(max(round(position), 1), self.top) - 1]
        marks = ["", BETWEEN] if self.between else ["", *"+-"] if self.half_grades else [""]
        # No number follows the last one. Of two that are as near, the tighter one is taken.
        grades = [grade for n in range(1, self.top + 1) for mark in marks if (grade := f"{n}{mark}") != f"{self.top}{BETWEEN}"]
        return min(sorted(grades, key=self.position), key=lambda grade: abs(self.position(grade) - position))

    @property
    def grades(self) -> tuple[str, ...]:
        """The numbered grades and words from the tightest to the most open, without halves."""
        if self.words:
            return ("hairpin", "square", *self.words, "flat")
        numbers = [str(n) for n in range(1, self.top + 1)]
        return ("hairpin", "square", *(numbers if self.sense == "ascending" else numbers[::-1]), "flat")


# What most schools count to. # common practice
USUAL_TOP = 6
# How often a stray number is written at most, how far it lies above all others, and of how many.
ALONE, ABOVE, ENOUGH = 1, 3, 8
# One change in twelve says the opposite of what it means: a slip of the pen, or of hearing.
_SLIP = 1 / 12
# Schools that count to 8 or more count upwards, nearly always; of the others about four in five. # common practice
_ASCENDING_TO_SIX, _ASCENDING_BEYOND = 0.8, 0.98
# How many stages the share of schools weighs against a crew's own, and how sure its own ever are. # common practice
_CHANGES, _KNOWN_SURE = 0.1, 0.96


@dataclass(frozen=True)
class KnownSchool:
    """What a crew's other books say of how it grades: how probably its numbers count upwards, and how far they go."""

    ascending: float
    top: int


def same_school(top: int, other: int) -> bool:
    """Whether books of one crew with these highest numbers count alike: a short book seldom has the highest number in it."""
    return abs(top - other) <= 1


def known_school(ascending: int, descending: int, top: int) -> KnownSchool:
    """What is known of a crew: from how many of its stages count upwards and how many downwards, and from its highest number.

    The rule of succession with the share of schools that count upwards and little weight, since crews hardly ever change. It is never so
    sure that the road isn't asked: the book may be somebody else's.
    """
    share = (ascending + _CHANGES * _usually_ascending(top)) / (ascending + descending + _CHANGES)
    return KnownSchool(min(max(share, 1.0 - _KNOWN_SURE), _KNOWN_SURE), top)


def _usually_ascending(top: int) -> float:
    """How many schools of ``top`` numbers count upwards, as a share."""
    return _ASCENDING_BEYOND if top > USUAL_TOP else _ASCENDING_TO_SIX


def school_of(notes: Iterable[Note], *, sense: str | None = None, known: KnownSchool | None = None) -> GradingScheme:
    """The school that notes speak for: the highest number, whether halves are used, and which way it counts.

    ``sense`` is what the crew said itself, ``known`` what its other books say.
    """
    notes = list(notes)
    grades = [n.grade for n in notes if n.grade]
    numbers = [int(m[1]) for g in grades if (m := _NUMBER.match(g))]
    if sum(g in WORDS for g in grades) > len(numbers):
        return GradingScheme(top=len(WORDS), words=WORDS)
    stray = stray_number(numbers) or 0
    top = max([USUAL_TOP, known.top if known else 0, *(set(numbers) - {stray})])
    found, sure = (sense, 1.0) if sense else sense_of(notes, known.ascending if known else _usually_ascending(top))
    return GradingScheme(
        sense=found, top=top, stray=stray, half_grades=_uses_halves(grades), sense_sure=sure, between=_writes_between(grades)
    )


def stray_number(numbers: Iterable[int]) -> int | None:
    """A number that is written so seldom and lies so far above all others that it is a slip of the pen, not a longer scale; else
    ``None``."""
    count = Counter(numbers)
    grades = sorted(count)
    if len(grades) > 1 and count.total() >= ENOUGH and count[grades[-1]] <= ALONE and grades[-1] - grades[-2] >= ABOVE:
        return grades[-1]
    return None


def _uses_halves(grades: list[str]) -> bool:
    """Whether halves are this crew's habit rather than a slip of hearing."""
    return sum(bool(half_of(g)) for g in grades) >= max(1, len(grades) // 50)


def _writes_between(grades: list[str]) -> bool:
    """Whether most of this crew's halves lie between two grades."""
    halves = [half for g in grades if (half := half_of(g))]
    return 2 * halves.count(BETWEEN) > len(halves)


def sense_of(notes: Iterable[Note], prior: float) -> tuple[str, float]:
    """``ascending`` or ``descending``, and how sure that is, from the changes of radius that the notes call; ``prior`` is how probably
    the numbers count upwards before any is read.

    "Four tightens three" is ascending, "four opens to two" descending: Bayes' rule over all of them.
    """
    falls = list(_steps_of_changes(notes))
    up, down = sum(falls), len(falls) - sum(falls)
    odds = prior / (1 - prior) * ((1 - _SLIP) / _SLIP) ** (up - down)
    ascending = odds / (1 + odds)
    return ("ascending", ascending) if ascending >= 0.5 else ("descending", 1 - ascending)


def _steps_of_changes(notes: Iterable[Note]) -> Iterator[bool]:
    """For each change of radius between two numbers whether it speaks for a scale that counts upwards."""
    for note in notes:
        base = _NUMBER.match(note.grade or "")
        for change in note.changes if base is not None else ():
            to = _NUMBER.match(change.to)
            if base is None or to is None or to[1] == base[1] or not (change.tightens or change.opens):
                continue
            yield (int(to[1]) < int(base[1])) is change.tightens
