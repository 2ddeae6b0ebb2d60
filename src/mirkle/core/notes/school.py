"""A crew's way of counting grades, and where each grade lies between tightest and most open."""

from __future__ import annotations

import re
from dataclasses import dataclass

from mirkle.core.notes.model import Note

# How far a plus or a minus moves a note, in grades. # common practice
HALF = 1 / 3
_NUMBER = re.compile(r"(\d+)([+-]?)$")


@dataclass(frozen=True)
class School:
    """``sense`` is ``ascending`` (1 is tight) or ``descending``; grades count from 1 to ``top``."""

    sense: str = "ascending"
    top: int = 6
    half_grades: bool = False

    def position(self, grade: str) -> float:
        """Where a grade lies, in grades from the tightest: hairpin -1, square 0, then the numbers, then flat.

        Raises
        ------
        ValueError
            The grade is not one of this school.
        """
        words = {"acute hairpin": -1.5, "hairpin": -1.0, "open hairpin": -0.5, "square": 0.0, "flat": self.top + 1.0}
        if grade in words:
            return words[grade]
        found = _NUMBER.match(grade)
        if not found or not 1 <= int(found[1]) <= self.top:
            raise ValueError(f"{grade} is no grade from 1 to {self.top}")
        number = int(found[1])
        base = number if self.sense == "ascending" else self.top + 1 - number
        return base + {"": 0.0, "+": HALF, "-": -HALF}[found[2]]

    def tightest_position(self, note: Note) -> float:
        """Where the tightest part of a called corner lies: the grade, or what the note says it tightens to; nan if unknown."""
        if note.grade is None:
            return float("nan")
        try:
            called = self.position(note.grade)
            for change in note.changes:
                word, _, to = change.rpartition(" ")
                if to[:1].isdigit() and "tightens" in word:
                    called = min(called, self.position(to))
                elif "tightens" in change:
                    called -= 1.0
        except ValueError:
            return float("nan")
        return called

    def grade_at(self, position: float) -> str:
        """The numbered grade nearest to a position; halves only where the crew uses them."""
        steps = [-HALF, 0.0, HALF] if self.half_grades else [0.0]
        candidates = [(n, s) for n in range(1, self.top + 1) for s in steps]
        number, step = min(candidates, key=lambda c: abs(c[0] + c[1] - position))
        shown = number if self.sense == "ascending" else self.top + 1 - number
        return f"{shown}{'+' if step > 0 else '-' if step < 0 else ''}"

    @property
    def grades(self) -> tuple[str, ...]:
        """The numbered grades and words from the tightest to the most open, without halves."""
        numbers = [str(n) for n in range(1, self.top + 1)]
        return ("hairpin", "square", *(numbers if self.sense == "ascending" else numbers[::-1]), "flat")


def school_of(grades: list[str]) -> School:
    """The school that a list of called grades speaks for: the highest number, and whether halves are used."""
    numbers = [int(m[1]) for g in grades if (m := _NUMBER.match(g))]
    top = max([6, *numbers])
    return School(top=top, half_grades=any(g.endswith(("+", "-")) for g in grades))
