"""A crew's scale and its habits over all stages: one model of all pairs, with a deviation for each stage.

called = x (w + u_j) + h b + e, with the scale's columns x, the habits' columns h, a stage's own deviation u_j ~ N(0, V), the errors e with
Student's tails (weights by iteration), and w ~ N(m, C₀) for crews at large. A stage's deviation is summed over: its pairs have the
covariance s² R⁻¹ + x V xᵀ, whose inverse is that of six by six numbers (Woodbury's identity), so the cost grows with the pairs alone. One
strange stage counts less: its weight follows how far its own fit lies from the others' (Student's weights again, with six degrees).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from mirkle.core.habits.evidence import COLUMNS, CREST, LATE, LINKED, LONG, SCALE_COLUMNS, TIGHTENS, PassEvidence
from mirkle.core.lineup.crew_scale import FIRST_SCATTER, SCATTERS, TELLS_SCATTER
from mirkle.core.lineup.scale_prior import STAGE_INTERCEPT_SD, STAGE_SIDE_SD, STAGE_SLOPE_SD, ScalePrior
from mirkle.core.notes.grading import KnownSchool, known_school, same_school
from mirkle.core.recording.model import Floats
from mirkle.core.stats import robust_sd, student_weights

ROUNDS = 14
# Half of what was learnt is forgotten in so many days: a season and a winter. # common practice
FADES_DAYS = 540.0
# The scale of crews at large, in grades of six: mean, spread and correlation of the weights. Radius, angle and length grow together: what
# one of them carries in a crew, another does not. # fitted: bench/seasons.py --fit, training seasons of both generators
AT_LARGE_MEAN = np.array([3.6, 1.2, 0.8, 0.1, 0.2, 0.0])
AT_LARGE_SD = np.array([0.4, 0.9, 0.45, 0.5, 0.5, 0.2])
AT_LARGE_CORRELATION = np.array(
    [
        [1.0, 0.0, 0.0, 0.0, 0.0, 0.0],
        [0.0, 1.0, -0.75, 0.8, -0.85, 0.0],
        [0.0, -0.75, 1.0, -0.45, 0.45, 0.0],
        [0.0, 0.8, -0.45, 1.0, -0.92, 0.0],
        [0.0, -0.85, 0.45, -0.92, 1.0, 0.0],
        [0.0, 0.0, 0.0, 0.0, 0.0, 1.0],
    ]
)
AT_LARGE_SCATTER = 0.46
# A habit may be as large as this (grades, standard deviation) where there is one.
HABIT_SD = 0.6
# Habits that the pairs are asked for, by their columns.
SIDE = 5
ASKED = {"side": SIDE, "late": LATE, "crest": CREST, "linked": LINKED, "tightens": TIGHTENS, "long": LONG}


def at_large() -> ScalePrior:
    """What is known of a crew of which nothing is known: what crews have in common."""
    return ScalePrior(AT_LARGE_MEAN, AT_LARGE_SD[:, None] * AT_LARGE_CORRELATION * AT_LARGE_SD, AT_LARGE_SCATTER, 6)


@dataclass(frozen=True)
class Effect:
    """By how many grades notes differ with a column, and how well that is known (standard deviation); ``stages`` have such notes, ``rows``
    of them are there."""

    grades: float
    sd: float
    stages: int
    rows: int


@dataclass(frozen=True)
class Pooled:
    """What all passes of a crew say: its ``prior`` for the next stage, and the effect of each column that is asked for."""

    prior: ScalePrior
    effects: dict[str, Effect]


def books_once(evidence: Sequence[PassEvidence]) -> list[PassEvidence]:
    """One pass for each edition that was read on a stage, the first: a second one has the same notes, and teaches hardly anything new."""
    first: dict[tuple[str, str], PassEvidence] = {}
    for one in sorted(evidence, key=lambda e: (e.day, e.pass_id)):
        first.setdefault((one.stage, one.book), one)
    return list(first.values())


def pooled(evidence: Sequence[PassEvidence], today: float, start: ScalePrior | None = None) -> Pooled:
    """The crew's scale and habits from its passes, ``today`` in days as theirs."""
    passes = of_one_school(evidence)
    start = start or at_large()
    start = start.for_school(passes[-1].top if passes else start.top)
    if not passes:
        return Pooled(start, {})
    mean, covariance, scatter = _solve(passes, today, start)
    pairs = sum(len(one.called) for one in passes)
    prior = ScalePrior(
        mean[:SCALE_COLUMNS], covariance[:SCALE_COLUMNS, :SCALE_COLUMNS], scatter, start.top, pairs, len(passes), school_shown(passes)
    )
    # A habit of one side is looked for without leaning on crews at large, of which few have one.
    mean, covariance, _ = _solve(passes, today, _with_any_side(start))
    effects = {name: _effect(passes, column, mean, covariance) for name, column in ASKED.items()}
    return Pooled(prior, {name: effect for name, effect in effects.items() if effect.rows})


# The conditions that a scale may differ with, and by how much it does (of the difference between stages). # from memory
ROADS, ROAD_WIDENS = frozenset(("gravel", "tarmac", "snow", "wet")), 1.0
# On fewer stages of a kind of road nothing is known of it by itself.
LEAST_OF_ROAD = 3


def scale_on(evidence: Sequence[PassEvidence], today: float, conditions: frozenset[str] = frozenset()) -> ScalePrior:
    """The crew's scale on a kind of road, by what was written of its passes: what the others say is the prior of it, wider by what kinds
    of road differ. Of a road of which nothing was written, or too few stages, it is that of all."""
    road = conditions & ROADS
    alike = [one for one in evidence if one.conditions & ROADS == road]
    if not road or len({one.stage for one in alike}) < LEAST_OF_ROAD:
        return pooled(evidence, today).prior
    others = pooled([one for one in evidence if one.conditions & ROADS != road], today).prior
    wider = replace(others, covariance=others.covariance + ROAD_WIDENS * np.diag(_stage_variance(others.top)))
    return pooled(alike, today, wider).prior


def school_shown(evidence: Sequence[PassEvidence]) -> KnownSchool | None:
    """How a crew grades, by its stages; ``None`` where it has none."""
    passes = of_one_school(evidence)
    down = len({one.stage for one in passes if one.descending})
    return known_school(len({one.stage for one in passes}) - down, down, passes[-1].top) if passes else None


def of_one_school(evidence: Sequence[PassEvidence]) -> list[PassEvidence]:
    """Each book once, of those that count as the last one does, on one scale: a crew that counts otherwise now has another."""
    passes = [one for one in books_once(evidence) if len(one.called)]
    top = max((one.top for one in passes if same_school(one.top, passes[-1].top)), default=0)
    return [_on_scale(one, top) for one in passes if same_school(one.top, top) and one.top <= top]


def _on_scale(one: PassEvidence, top: int) -> PassEvidence:
    """A pass on the scale up to ``top``: numbers stay what they are, and where they count downwards they are so much further from 1."""
    return replace(one, top=top, called=one.called + (top - one.top) * one.descending)


def _with_any_side(start: ScalePrior) -> ScalePrior:
    covariance = start.covariance.copy()
    covariance[SIDE, :] = covariance[:, SIDE] = 0.0
    covariance[SIDE, SIDE] = (HABIT_SD * (start.top - 1) / 5.0) ** 2
    return replace(start, covariance=covariance)


def _effect(passes: Sequence[PassEvidence], column: int, mean: Floats, covariance: Floats) -> Effect:
    # Each side is an example of its habit, and so is each place early or late.
    has = [model_columns(one)[:, column] != 0.0 for one in passes]
    return Effect(
        float(mean[column]), float(np.sqrt(covariance[column, column])), sum(bool(h.any()) for h in has), int(sum(h.sum() for h in has))
    )


def model_columns(one: PassEvidence) -> Floats:
    """The columns of the model, without the one that only tells how calls come."""
    return one.rows[:, : COLUMNS - 1]


def _stage_variance(top: int) -> Floats:
    by = (top - 1) / 5.0
    return (by * np.array([STAGE_INTERCEPT_SD, *[STAGE_SLOPE_SD] * 4, STAGE_SIDE_SD])) ** 2


def _solve(passes: Sequence[PassEvidence], today: float, start: ScalePrior) -> tuple[Floats, Floats, float]:
    """Mean and covariance of the crew's weights and habits, (11,) and (11, 11), and the scatter."""
    habits = COLUMNS - 1 - SCALE_COLUMNS
    by = (start.top - 1) / 5.0
    precision = np.zeros((COLUMNS - 1, COLUMNS - 1))
    precision[:SCALE_COLUMNS, :SCALE_COLUMNS] = np.linalg.inv(start.covariance)
    precision[SCALE_COLUMNS:, SCALE_COLUMNS:] = np.eye(habits) / (by * HABIT_SD) ** 2
    middle = np.concatenate([start.mean, np.zeros(habits)])
    deviation = np.diag(1.0 / _stage_variance(start.top))
    faded = [0.5 ** (max(0.0, today - one.day) / FADES_DAYS) for one in passes]
    weights, scatter = middle, FIRST_SCATTER * by
    own = [np.zeros(SCALE_COLUMNS) for _ in passes]
    covariance = np.linalg.inv(precision)
    for _ in range(ROUNDS):
        normal, right = precision.copy(), precision @ middle
        parts = []
        for one, share, off in zip(passes, faded, own, strict=True):
            x, z = model_columns(one), model_columns(one)[:, :SCALE_COLUMNS]
            robust = one.trust * student_weights((one.called - x @ weights - z @ off) / scatter) / scatter**2
            strange = (SCALE_COLUMNS + 4.0) / (4.0 + float(off @ deviation @ off))
            share *= min(1.0, strange)
            inner = np.linalg.inv((z * robust[:, None]).T @ z + deviation)
            cross = (x * robust[:, None]).T @ z
            pull = (x * robust[:, None]).T @ one.called
            normal += share * ((x * robust[:, None]).T @ x - cross @ inner @ cross.T)
            right += share * (pull - cross @ inner @ ((z * robust[:, None]).T @ one.called))
            parts.append((x, z, robust, inner))
        covariance = np.linalg.inv(normal)
        weights = covariance @ right
        rest = []
        for k, (one, (x, z, robust, inner)) in enumerate(zip(passes, parts, strict=True)):
            own[k] = inner @ ((z * robust[:, None]).T @ (one.called - x @ weights))
            clear = one.trust > TELLS_SCATTER
            rest.append(np.abs(one.called - x @ weights - z @ own[k])[clear])
        told = np.concatenate(rest)
        if len(told):
            scatter = float(np.clip(robust_sd(told, 0.0), *SCATTERS))
    return weights, np.asarray(covariance), scatter


def without(evidence: Sequence[PassEvidence], stage: str) -> list[PassEvidence]:
    """The passes of other stages: a stage is no evidence for itself."""
    return [one for one in evidence if one.stage != stage]
