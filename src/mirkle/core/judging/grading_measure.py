"""What a crew's grades go by: the radius of a corner, the speed it takes, or the angle that it turns through.

Crews differ, and one crew is consistent with itself at best. Each measure is held against the called grades: how well it
ranks them, and how well a rising curve through it tells the grade.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from mirkle.core.lineup.result import Lineup
from mirkle.core.motion.bends import Bend
from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.model import Note
from mirkle.core.recording.model import Floats
from mirkle.core.stats import monotone, quadratic_kappa, rank_correlation, robust_sd

# Fewer corners say nothing about a crew; a lead by less is chance.
LEAST_CORNERS, CLEAR_LEAD = 15, 0.02
# Less sure pairs tell nothing of what a crew grades by.
PAIRED = 0.5


@dataclass(frozen=True)
class Yardstick:
    """One measure against the called grades of ``count`` corners.

    ``rank_correlation`` is Spearman's, 1 where wider, faster or gentler corners always have the more open grade; ``kappa`` is
    Cohen's with quadratic weights, of called grades against those that the measure alone tells; ``scatter`` is the
    spread of the difference in grades.
    """

    name: str
    rank_correlation: float
    kappa: float
    scatter: float
    count: int


def _each(bends: Sequence[Bend], name: str) -> Floats:
    return np.array([getattr(b, name) for b in bends], dtype=float)


def yardsticks_of(lineup: Lineup, notes: dict[int, Note], school: GradingScheme) -> tuple[Yardstick, ...]:
    """The measures, the one that fits this crew best first; empty where there are too few corners.

    The radius leads unless another is clearly better, since it is the corner's own.
    """
    sure = [(notes[t.note].grade or "", t.bend) for t in lineup.ties if t.bend is not None and t.sure > PAIRED]
    graded = [(school.position(grade), bend) for grade, bend in sure if school.counts(grade)]
    if len(graded) < LEAST_CORNERS:
        return ()
    positions, bends = zip(*graded, strict=True)
    called = np.array(positions)
    # The more a corner turns, the lower its grade.
    measures = {"radius": _each(bends, "radius_m"), "speed": _each(bends, "speed_min_mps"), "angle": -_each(bends, "turn_deg")}
    found = [_fit(name, measure, called) for name, measure in measures.items()]
    return tuple(sorted(found, key=lambda y: -y.rank_correlation - CLEAR_LEAD * (y.name == "radius")))


def measure_of(yardsticks: Sequence[Yardstick]) -> str:
    """What the grades go by best: ``radius``, ``speed`` or ``angle``; the radius where there are too few corners to tell."""
    return yardsticks[0].name if yardsticks else "radius"


def _fit(name: str, measure: Floats, called: Floats) -> Yardstick:
    order = np.argsort(measure, kind="stable")
    fitted = np.empty(len(called))
    fitted[order] = monotone(called[order], np.ones(len(called)))
    off = called - fitted
    return Yardstick(
        name=name,
        rank_correlation=rank_correlation(measure, called),
        kappa=quadratic_kappa(np.rint(called), np.rint(fitted)),
        scatter=robust_sd(off, 0.0),
        count=len(called),
    )
