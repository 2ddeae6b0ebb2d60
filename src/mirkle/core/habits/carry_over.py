"""What a grade of one crew is in the hand of another: both scales, at bends as they come.

A bend of the middle angle grows with its radius, and its length with it: along these bends either scale is a straight line in ln radius.
Where the one crew calls a grade, the other's scale says what it would call, with the spread of both.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import accumulate

import numpy as np

from mirkle.core.lineup.blanks import BLANK
from mirkle.core.lineup.scale_prior import ScalePrior
from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.model import Reading, Token

# The columns that grow with the radius: ln radius, ln carried radius, ln length.
ALONG = np.array([0.0, 1.0, 1.0, 0.0, 1.0, 0.0])
# A grade is a plain one within this of its number, else one with a plus or minus.
PLAIN_WITHIN = 0.2


@dataclass(frozen=True)
class CarriedGrade:
    """A grade of one crew, as a position from the tightest, and the ``position`` of the same bend on another's scale, with its spread
    (standard deviation)."""

    grade: int
    position: float
    sd: float


def carried_over(theirs: ScalePrior, mine: ScalePrior) -> list[CarriedGrade]:
    """What each grade of one crew is on the scale of another; positions count from 1, the tightest, in either's own school."""
    grows = float(ALONG @ theirs.mean)
    if grows <= 0.0:
        return []
    found = []
    for grade in range(1, theirs.top + 1):
        bend = np.eye(6)[0] + ALONG * (grade - theirs.mean[0]) / grows
        variance = float(bend @ mine.covariance @ bend) + float(bend @ theirs.covariance @ bend) * (float(ALONG @ mine.mean) / grows) ** 2
        found.append(CarriedGrade(grade, float(bend @ mine.mean), float(np.sqrt(variance))))
    return found


def named(position: float, top: int, *, descending: bool) -> str:
    """A position as a grade with a plus (more open) or minus (tighter); at the ends of the scale the last number."""
    whole = int(np.clip(round(position), 1, top))
    off = position - whole
    sign = "" if abs(off) <= PLAIN_WITHIN or not 1 <= position <= top else "+" if off > 0 else "−"
    return f"{top + 1 - whole if descending else whole}{sign}"


def book_to_check(reading: Reading, theirs: GradingScheme, carried: Sequence[CarriedGrade], *, top: int, descending: bool) -> str:
    """Another crew's book with a blank for each of its grades. Behind each line, as a remark that nobody calls, stands the note as it was
    written, and about what its grades are on this crew's scale: what is written there is the crew's own decision, note by note.

    ``theirs`` is the school of the book; ``top`` and ``descending`` are this crew's. Grades that are words stay: a hairpin is one for all.
    """
    lines = reading.source.split("\n")
    starts = list(accumulate((len(line) + 1 for line in lines), initial=0))
    found: dict[int, list[Token]] = {}
    for piece in reading.pieces:
        if piece.kind in ("grade", "change grade") and piece.key[:1].isdigit():
            found.setdefault(bisect_right(starts, piece.span.start) - 1, []).append(piece)
    for row, grades in found.items():
        line = lines[row]
        told = dict.fromkeys(g.key for g in grades)
        for grade in reversed(grades):
            begin, end = grade.span.start - starts[row], grade.span.end - starts[row]
            line = f"{line[:begin].rstrip()} {BLANK} {line[end:].lstrip()}".strip()
        about = ", ".join(f"{key} ~{_on_scale(theirs.position(key), carried, top, descending)}" for key in told)
        lines[row] = f"{line}  // {' '.join(lines[row].split())}: {about}"
    return "\n".join(lines)


def _on_scale(position: float, carried: Sequence[CarriedGrade], top: int, descending: bool) -> str:
    """About what a position of another crew is called on this one's scale."""
    mine = np.interp(position, [g.grade for g in carried], [g.position for g in carried])
    return named(float(mine), top, descending=descending)
