"""The crew's scale: what each grade means for this crew, from its own pairs, in general and at one bend."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from mirkle.core.lineup.crew_scale import OPEN_GRADE_RADIUS_M, TIGHTEST_GRADE_RADIUS_M, GradeYardstick
from mirkle.core.lineup.result import Lineup
from mirkle.core.motion.bends import Bend
from mirkle.core.notes.grading import GradingScheme, whole_grade
from mirkle.core.notes.model import Note
from mirkle.core.recording.model import Floats
from mirkle.core.stats import monotone

# How many pairs' worth of belief a grade borrows from the straight line through all grades.
BORROWED_PAIRS = 2.0
# Less sure pairs tell nothing of a crew's scale.
PAIRED = 0.5
# A measure of which a bend needs more than this many times as much to be a grade wider or tighter says little about the grade.
MOST_TIMES_A_GRADE = 4.0
# Grades from which a line through them is drawn, and how much a grade is wider at least, in logarithms of the radius.
LEAST_GRADES, LEAST_SLOPE = 3, 0.05
# Least distance between the borders of two grades (ln), and least value of a measure: both only avoid a division by zero.
APART, LEAST_MEASURE = 1e-3, 1e-3
# The least and the greatest value of each measure that a bend on a stage has: metres, metres a second, degrees. # common practice
BETWEEN = {"radius": (4.0, 900.0), "speed": (2.0, 70.0), "angle": (3.0, 220.0)}


@dataclass(frozen=True)
class Band:
    """Driven radii that this crew calls by one grade; bands of a scale follow each other without a gap."""

    grade: str
    radius_low_m: float
    radius_middle_m: float
    radius_high_m: float
    count: int


def bands_of(lineup: Lineup, notes: dict[int, Note], school: GradingScheme) -> tuple[Band, ...]:
    """The crew's bands from tightest to most open; they never cross.

    Each grade's middle is the median log radius of its bends, drawn towards the line through all grades where it has
    few, then made monotone by pooling adjacent violators; borders lie halfway between middles.
    """
    radii = _log_radii(lineup, notes)
    grades = [g for g in school.grades if g in radii or g[:1].isdigit() or g in school.words]
    position = np.array([school.position(g) for g in grades])
    count = np.array([len(radii.get(g, [])) for g in grades], dtype=float)
    middle = np.array([float(np.median(radii[g])) if g in radii else 0.0 for g in grades])
    line = _line_through(position, middle, count, school)
    drawn = (count * middle + BORROWED_PAIRS * line) / (count + BORROWED_PAIRS)
    centre = monotone(drawn, count + BORROWED_PAIRS)
    # Equal middles would leave a band without width.
    centre = np.maximum.accumulate(centre + APART * np.arange(len(centre)))
    inner = 0.5 * (centre[1:] + centre[:-1])
    border = np.concatenate([[2 * centre[0] - inner[0]], inner, [2 * centre[-1] - inner[-1]]])
    return tuple(
        Band(g, float(np.exp(border[i])), float(np.exp(centre[i])), float(np.exp(border[i + 1])), int(count[i]))
        for i, g in enumerate(grades)
    )


def _log_radii(lineup: Lineup, notes: dict[int, Note]) -> dict[str, list[float]]:
    """The logarithms of the radii that were met under each grade, halves with their grade."""
    out: dict[str, list[float]] = {}
    for tie in lineup.ties:
        grade = notes[tie.note].grade
        if tie.bend is not None and grade is not None and tie.sure > PAIRED:
            out.setdefault(whole_grade(grade), []).append(float(np.log(tie.bend.radius_m)))
    return out


def _line_through(position: Floats, middle: Floats, count: Floats, school: GradingScheme) -> Floats:
    known = count > 0
    slope, at = np.log(OPEN_GRADE_RADIUS_M / TIGHTEST_GRADE_RADIUS_M) / (school.top - 1), np.log(TIGHTEST_GRADE_RADIUS_M)
    if np.count_nonzero(known & (position >= 1)) >= LEAST_GRADES:
        use = known & (position >= 1)
        slope, at_zero = np.polyfit(position[use], middle[use], 1, w=np.sqrt(count[use]))
        at = at_zero + slope
        slope = max(slope, LEAST_SLOPE)
    return np.asarray(at + slope * (position - 1.0))


@dataclass(frozen=True)
class Ruler:
    """The crew's grades along one measure of one bend: what the measure would be at each border between two grades.

    A crew's grade is a function of more than one measure (:class:`mirkle.core.lineup.crew_scale.GradeYardstick`). A bend of the same angle
    on a greater radius is longer, and so is one of the same radius that turns more. With that, ``position = at + slope * ln(value / met)``,
    and each border has one value. The bend's own value therefore lies between the borders of the grade that it turned like, whatever the
    crew grades by.

    ``measure`` is ``radius`` (metres), ``speed`` (metres a second at the slowest) or ``angle`` (degrees); ``grades`` (n,) run from the
    tightest; ``borders`` (n - 1,) stand between neighbours, nan where no bend on a stage has such a value. ``met`` is this bend's own
    value, ``position`` its place in grades, and ``places`` (n,) are those of the grades.
    """

    measure: str
    grades: tuple[str, ...]
    places: tuple[float, ...]
    borders: tuple[float, ...]
    met: float
    position: float

    @property
    def grade(self) -> str:
        """The grade between whose borders the bend lies."""
        return self.grades[int(np.searchsorted(_halfway(self.places), self.position))]

    def range_of(self, grade: str | None) -> tuple[float | None, float | None]:
        """Least and greatest value that a bend like this has as one of a grade, halves left aside; ``None`` where it is open."""
        name = whole_grade(grade or "")
        if name not in self.grades:
            return None, None
        at = self.grades.index(name)
        ends = ((self.borders[at - 1] if at else np.nan), (self.borders[at] if at < len(self.borders) else np.nan))
        low, high = (None if np.isnan(v) else float(v) for v in (ends[::-1] if self.measure == "angle" else ends))
        return low, high


def ruler_of(yardstick: GradeYardstick, bend: Bend, position: float, school: GradingScheme, measure: str) -> Ruler:
    """A bend's ruler by a measure, or by one that says more where that one alone hardly tells this crew's grades apart.

    Parameters
    ----------
    position : where the bend lies on the crew's scale, as the pairing has it
    measure : what the crew's grades go by best (:func:`mirkle.core.judging.grading_measure.yardsticks_of`)
    """
    # Speed goes with the root of the radius.
    slopes = {"radius": yardstick.by_radius, "speed": 2.0 * yardstick.by_radius, "angle": yardstick.by_angle}
    values = {"radius": bend.radius_m, "speed": bend.speed_min_mps, "angle": bend.turn_deg}
    rising = {name: -slope if name == "angle" else slope for name, slope in slopes.items()}
    tells = [m for m in (measure, "radius", "angle") if rising[m] > 1.0 / np.log(MOST_TIMES_A_GRADE)]
    name = tells[0] if tells else measure
    grades = school.grades
    places = np.array([school.position(g) for g in grades])
    borders = np.full(len(grades) - 1, np.nan)
    if tells:
        borders = max(values[name], LEAST_MEASURE) * np.exp((_halfway(places) - position) / slopes[name])
    low, high = BETWEEN[name]
    borders = np.where((borders >= low) & (borders <= high), borders, np.nan)
    return Ruler(name, grades, tuple(places.tolist()), tuple(borders.tolist()), values[name], position)


def _halfway(places: Floats | tuple[float, ...]) -> Floats:
    """The borders between neighbouring places, (n - 1,)."""
    at = np.asarray(places)
    return np.asarray(0.5 * (at[1:] + at[:-1]))
