"""What a grade of one crew is in the hand of another: both scales, at bends as they come.

A bend of the middle angle grows with its radius, and its length with it: along these bends either scale is a straight line in ln radius.
Where the one crew calls a grade, the other's scale says what it would call, with the spread of both.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from mirkle.core.lineup.scale_prior import ScalePrior

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
