"""What is known of a crew's scale from its other stages, and what it makes of the scale of this one.

The weights of a stage's yardstick are those of the crew and a deviation of this stage: w ~ N(m, C + V), with m and C from the crew's other
stages (or from crews at large) and V the variance from stage to stage. With the stage's pairs, robustly weighted (R) and with scatter s,
w = (XᵀRX / s² + P)⁻¹ (XᵀRy / s² + P m), P = (C + V)⁻¹. The notes are paired without it: what is wrongly paired for being wrongly graded
would else confirm itself.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from mirkle.core.lineup.called_notes import CalledNotes
from mirkle.core.lineup.crew_scale import FIT_ROUNDS, LENGTHS_M, RADII_M, SCATTERS, TELLS_SCATTER, TURNS_DEG, GradeYardstick
from mirkle.core.lineup.result import Lineup
from mirkle.core.motion.bends import Bend
from mirkle.core.notes.grading import KnownSchool, same_school
from mirkle.core.recording.model import Floats
from mirkle.core.stats import robust_sd, student_cost, student_weights

# A bend about which the columns are counted, so that the intercept is a grade that crews call (m, degrees).
MIDDLE_RADIUS_M, MIDDLE_TURN_DEG, MIDDLE_LENGTH_M = 55.0, 45.0, 45.0
MIDDLE = np.array([0.0, np.log(MIDDLE_RADIUS_M), np.log(MIDDLE_RADIUS_M), np.log(MIDDLE_TURN_DEG), np.log(MIDDLE_LENGTH_M), 0.0])
# By how much a stage's own scale differs from its crew's, standard deviations in grades of six: the intercept, each slope, and the side.
# # fitted: training seasons (bench/seasons.py)
STAGE_INTERCEPT_SD, STAGE_SLOPE_SD, STAGE_SIDE_SD = 0.3, 0.15, 0.05
# How many pairs the crew's scatter counts as, and how much of one a stage's pair tells of the stage's own. # fitted: as above
CREW_SCATTER_PAIRS, OWN_SHARE = 25.0, 0.4
# How far another driver's scale may lie from this one, how far the same driver's does (grades), and the log odds that tell them apart.
# # fitted: as above
ANOTHER_SD, SAME_SD, ANOTHER_ODDS = 0.8, 0.15, 3.0
# The fewest pairs that tell.
LEAST_TO_TELL = 20
# Zero shifts that are tried (grades).
SHIFTS = np.linspace(-2.4, 2.4, 97)


@dataclass(frozen=True)
class ScalePrior:
    """A crew's scale before this stage: the mean (6,) and covariance (6, 6) of its weights on the columns of :func:`columns_of`, and its
    scatter, in grades of a school of ``top`` numbers; from ``pairs`` pairs on ``stages`` stages. ``school`` is what its other books say
    of how it grades."""

    mean: Floats
    covariance: Floats
    scatter: float
    top: int
    pairs: int = 0
    stages: int = 0
    school: KnownSchool | None = None

    def for_school(self, top: int) -> ScalePrior:
        """The same in the grades of another school: grades are as many steps as there are numbers.

        A crew whose highest number is one more or one less than was known counts as it did (:func:`same_school`).
        """
        if self.school is not None and same_school(top, self.top):
            further = (top - self.top) * (self.school.ascending < 0.5)
            return replace(self, mean=self.mean + further * np.eye(len(self.mean))[0], top=top)
        by = (top - 1) / (self.top - 1)
        moved = self.mean * by
        # The tightest number is 1 in every school.
        moved[0] = 1.0 + (self.mean[0] - 1.0) * by
        return replace(self, mean=moved, covariance=self.covariance * by**2, scatter=self.scatter * by, top=top)

    @property
    def precision(self) -> Floats:
        """The inverse of the covariance of a stage's weights, (6, 6)."""
        by = (self.top - 1) / 5.0
        stage_sd = by * np.array([STAGE_INTERCEPT_SD, *[STAGE_SLOPE_SD] * 4, STAGE_SIDE_SD])
        return np.asarray(np.linalg.inv(self.covariance + np.diag(stage_sd**2)))


def columns_of(bends: list[Bend]) -> Floats:
    """Columns 1, ln radius, ln carried radius, ln angle, ln length about :data:`MIDDLE`, and half the side, of each bend, (m, 6)."""
    measures = np.array([(1.0, b.radius_m, b.carried_radius_m, b.turn_deg, b.length_m, 0.5 * b.side) for b in bends]).reshape(-1, 6)
    for column, ends in ((1, RADII_M), (2, RADII_M), (3, TURNS_DEG), (4, LENGTHS_M)):
        measures[:, column] = np.log(np.clip(measures[:, column], *ends))
    return np.asarray(measures - MIDDLE)


def fit_stage(x: Floats, called: Floats, trust: Floats, prior: ScalePrior) -> tuple[Floats, float]:
    """The weights (6,) and the scatter of a stage from its pairs and what is known of its crew.

    Parameters
    ----------
    x, called : columns (m, 6) and called positions (m,) of the pairs
    trust : how sure each pair is, (m,), 0 to 1
    """
    weights, scatter = prior.mean, prior.scatter
    clear = trust > TELLS_SCATTER
    for _ in range(FIT_ROUNDS):
        robust = trust * student_weights((called - x @ weights) / scatter) / scatter**2
        normal = (x * robust[:, None]).T @ x + prior.precision
        weights = np.asarray(np.linalg.solve(normal, (x * robust[:, None]).T @ called + prior.precision @ prior.mean))
        own = robust_sd(np.abs(called - x @ weights)[clear], 0.0) if clear.any() else prior.scatter
        count = OWN_SHARE * float(clear.sum())
        squared = (count * own**2 + CREW_SCATTER_PAIRS * prior.scatter**2) / (count + CREW_SCATTER_PAIRS)
        scatter = float(np.clip(np.sqrt(squared), *SCATTERS))
    return weights, scatter


def is_another_driver(x: Floats, called: Floats, trust: Floats, prior: ScalePrior) -> bool:
    """Whether these grades are more likely those of somebody else than of the crew that is known: with a zero that may lie anywhere, rather
    than with the crew's own.

    Student's errors; the zero is summed over: N(0, :data:`ANOTHER_SD`²) for somebody else, N(0, :data:`SAME_SD`²) for the crew on
    another stage.
    """
    told = trust > TELLS_SCATTER
    if int(told.sum()) < LEAST_TO_TELL:
        return False
    spread = np.sqrt(prior.scatter**2 + np.einsum("ij,jk,ik->i", x[told], prior.covariance, x[told]))
    off = (called - x @ prior.mean)[told]
    cost = student_cost((off[:, None] - SHIFTS) / spread[:, None]).sum(axis=0)
    return bool(_evidence(cost, ANOTHER_SD) - _evidence(cost, SAME_SD) > ANOTHER_ODDS)


def _evidence(cost: Floats, sd: float) -> float:
    """The logarithm of the likelihood over all shifts, up to a constant."""
    log = -cost - 0.5 * (SHIFTS / sd) ** 2 - np.log(sd)
    return float(np.logaddexp.reduce(log))


@dataclass(frozen=True)
class PairedRows:
    """The pairs that tell of a crew's scale: their ``notes``, columns ``x`` (m, 6), ``called`` positions and ``trust``, (m,)."""

    notes: tuple[int, ...]
    x: Floats
    called: Floats
    trust: Floats


def paired_rows(lineup: Lineup, calls: CalledNotes) -> PairedRows:
    """The pairs of a line-up: those of the called side, with a number for a grade, each as sure as its pair is."""
    called = {note.index: (float(at), int(side)) for note, at, side in zip(calls.notes, calls.position, calls.side, strict=True)}
    told = [(tie, tie.bend) for tie in lineup.ties if tie.bend is not None and _tells(tie.bend, *called[tie.note])]
    ties, bends = [tie for tie, _ in told], [bend for _, bend in told]
    position = np.array([called[tie.note][0] for tie in ties])
    return PairedRows(tuple(tie.note for tie in ties), columns_of(bends), position, np.array([tie.sure for tie in ties]))


def _tells(bend: Bend, position: float, side: int) -> bool:
    """Whether a pair tells of the scale: not a word for the tightest corners, which go by angle as much as by radius."""
    return position >= 1.0 and bend.side == side


def with_prior(lineup: Lineup, calls: CalledNotes, prior: ScalePrior) -> Lineup:
    """A line-up whose scale leans on what is known of the crew; the pairs stay. Another driver's grades are left as they are."""
    prior = prior.for_school(calls.school.top)
    rows = paired_rows(lineup, calls)
    if prior.stages and is_another_driver(rows.x, rows.called, rows.trust, prior):
        return lineup
    weights, scatter = fit_stage(rows.x, rows.called, rows.trust, prior)
    out = weights.copy()
    out[0] -= float(MIDDLE @ weights)
    # What this stage scatters by stays: its line may be worse known than the crew's others.
    return regraded(lineup, GradeYardstick(out, max(scatter, lineup.grades.scatter), len(rows.notes)))


def regraded(lineup: Lineup, grades: GradeYardstick) -> Lineup:
    """A line-up with another scale: where each bend lies on it."""
    bends = [t.bend for t in lineup.ties if t.bend is not None] + [u.bend for u in lineup.uncalled]
    positions = iter(((columns_of(bends) + MIDDLE) @ grades.weights).tolist() if bends else ())
    ties = tuple(replace(t, position=next(positions)) if t.bend is not None else t for t in lineup.ties)
    uncalled = tuple(replace(u, position=next(positions)) for u in lineup.uncalled)
    return replace(lineup, ties=ties, uncalled=uncalled, grades=grades)
