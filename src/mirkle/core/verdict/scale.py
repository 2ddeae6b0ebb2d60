"""The crew's scale as bands of radius: what each grade means for this crew, from its own pairs."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from mirkle.core.lineup.pairing import Lineup
from mirkle.core.motion.recording import Floats
from mirkle.core.notes.model import Note
from mirkle.core.notes.school import School

# How many pairs' worth of belief a grade borrows from the straight line through all grades.
BORROWED_PAIRS = 2.0


@dataclass(frozen=True)
class Band:
    """Driven radii that this crew calls by one grade; bands of a scale follow each other without a gap."""

    grade: str
    radius_low_m: float
    radius_middle_m: float
    radius_high_m: float
    count: int


def bands_of(lineup: Lineup, notes: dict[int, Note], school: School) -> tuple[Band, ...]:
    """The crew's bands from tightest to most open; they never cross.

    Each grade's middle is the median log radius of its bends, drawn towards the line through all grades where it has
    few, then made monotone by pooling adjacent violators; borders lie halfway between middles.
    """
    radii: dict[str, list[float]] = {}
    for tie in lineup.ties:
        grade = notes[tie.note].grade
        if tie.bend is not None and grade is not None and tie.sure > 0.5:
            radii.setdefault(grade.rstrip("+-"), []).append(float(np.log(tie.bend.radius_m)))
    grades = [g for g in school.grades if g in radii or g[:1].isdigit() or g in school.words]
    position = np.array([school.position(g) for g in grades])
    count = np.array([len(radii.get(g, [])) for g in grades], dtype=float)
    middle = np.array([float(np.median(radii[g])) if g in radii else 0.0 for g in grades])
    line = _line_through(position, middle, count, school)
    drawn = (count * middle + BORROWED_PAIRS * line) / (count + BORROWED_PAIRS)
    centre = monotone(drawn, count + BORROWED_PAIRS)
    # Equal middles would leave a band without width.
    centre = np.maximum.accumulate(centre + 1e-3 * np.arange(len(centre)))
    inner = 0.5 * (centre[1:] + centre[:-1])
    border = np.concatenate([[2 * centre[0] - inner[0]], inner, [2 * centre[-1] - inner[-1]]])
    return tuple(
        Band(g, float(np.exp(border[i])), float(np.exp(centre[i])), float(np.exp(border[i + 1])), int(count[i]))
        for i, g in enumerate(grades)
    )


def _line_through(position: Floats, middle: Floats, count: Floats, school: School) -> Floats:
    known = count > 0
    slope, at = np.log(220.0 / 18.0) / (school.top - 1), np.log(18.0)
    if np.count_nonzero(known & (position >= 1)) >= 3:
        use = known & (position >= 1)
        slope, at_zero = np.polyfit(position[use], middle[use], 1, w=np.sqrt(count[use]))
        at = at_zero + slope
        slope = max(slope, 0.05)
    return np.asarray(at + slope * (position - 1.0))


def monotone(values: Floats, weights: Floats) -> Floats:
    """The nearest non-decreasing sequence in weighted least squares (pool adjacent violators), (n,)."""
    blocks: list[list[float]] = []
    for value, weight in zip(values, weights, strict=True):
        blocks.append([float(value), float(weight), 1.0])
        while len(blocks) > 1 and blocks[-2][0] > blocks[-1][0]:
            b, a = blocks.pop(), blocks.pop()
            total = a[1] + b[1]
            blocks.append([(a[0] * a[1] + b[0] * b[1]) / total, total, a[2] + b[2]])
    return np.concatenate([np.full(int(n), v) for v, _, n in blocks])
