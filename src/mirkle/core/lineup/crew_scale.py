"""What this crew's grades and distances look like on the road: the yardsticks that pairing and judging share.

A grade is written from how tight a bend feels, and that is mostly, not only, its radius: the driven line opens a
short bend more than a long one, so the angle turned and the length say how much of the radius is the line's.
A robust linear model of the grade's position over the logarithms of radius, carried radius, angle and length takes
all that in, with which side it goes to; it is fitted from the crew's own pairs and held near a plain radius scale where pairs are few.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mirkle.core.motion.bends import Bend
from mirkle.core.motion.spans import Spans
from mirkle.core.notes.grading import GradingScheme
from mirkle.core.recording.model import Floats
from mirkle.core.stats import robust_sd, student_cost, student_weights

# Where a scale of grades begins and ends before anything is known of the crew. # common practice
TIGHTEST_GRADE_RADIUS_M = 18.0
OPEN_GRADE_RADIUS_M = 220.0
# A crew's grades scatter by a quarter to a third of a grade, and rounding adds as much. # common practice
CREW_SCATTER = 0.4
# Belief that lefts and rights are graded alike, in pairs (of a quarter each, since the column is half the side).
SIDES_ALIKE = 2.5


# Measures of a bend are clipped to these ranges. # common practice
RADII_M, TURNS_DEG, LENGTHS_M = (5.0, 900.0), (2.0, 240.0), (5.0, 400.0)
# Standard deviation of grades: on a plain scale, at the start of a fit, and the range for a fitted one, in grades.
PLAIN_SCATTER, FIRST_SCATTER, SCATTERS = 0.9, 0.6, (0.25, 1.2)
# Weight of the prior, counted in pairs: on the intercept (nearly none), on the slopes of both radii, and on those of angle and length,
# which are 0 in the plain scale.
BEGINS_BELIEF, RADIUS_BELIEF, ANGLE_BELIEF = 0.05, 2.0, 6.0
# The fewest pairs that fit a scale; rounds of the robust fit; the least trust of a pair that counts for the scatter.
LEAST_PAIRS, FIT_ROUNDS, TELLS_SCATTER = 6, 12, 0.3


def features_of(runs: Spans) -> Floats:
    """Columns 1, ln radius, ln carried radius, ln angle, ln length, and half the side (left positive) of each run, (m, 6)."""
    return np.stack(
        [
            np.ones(len(runs.radius_m)),
            np.log(np.clip(runs.radius_m, *RADII_M)),
            np.log(np.clip(runs.carried_radius_m, *RADII_M)),
            np.log(np.clip(runs.turn_deg, *TURNS_DEG)),
            np.log(np.clip(runs.length_m, *LENGTHS_M)),
            0.5 * runs.side,
        ],
        axis=1,
    )


@dataclass(frozen=True)
class GradeYardstick:
    """``position = features @ weights`` (6,), with standard deviation ``scatter`` in grades, from ``count`` pairs."""

    weights: Floats
    scatter: float
    count: int

    def position(self, runs: Spans) -> Floats:
        """Predicted grade positions, (m,)."""
        return features_of(runs) @ self.weights

    @property
    def by_radius(self) -> float:
        """Grades by which a bend of the same angle is wider for each step of the logarithm of its radius; its length grows with that."""
        _, tightest, carried, _, length, _ = self.weights
        return float(tightest + carried + length)

    @property
    def by_angle(self) -> float:
        """Grades by which a bend of the same radius is wider for each step of the logarithm of its angle; mostly negative."""
        _, _, _, angle, length, _ = self.weights
        return float(angle + length)

    def spread_of(self, bend: Bend) -> float:
        """By how many grades a bend's place may be out for what its radius, angle and length may be out (one standard deviation).

        To first order: radius and carried radius move together, the others apart from them.
        """
        _, tightest, carried, angle, length, _ = self.weights
        parts = (
            (tightest + carried) * bend.radius_sd_m / bend.radius_m,
            angle * bend.turn_sd_deg / max(bend.turn_deg, TURNS_DEG[0]),
            length * bend.length_sd_m / max(bend.length_m, LENGTHS_M[0]),
        )
        return float(np.sqrt(sum(p**2 for p in parts)))


def plain_yardstick(school: GradingScheme) -> GradeYardstick:
    """The scale before anything is known of the crew: even steps of log radius over the school's grades."""
    slope = (school.top - 1) / np.log(OPEN_GRADE_RADIUS_M / TIGHTEST_GRADE_RADIUS_M)
    weights = np.array([1.0 - slope * np.log(TIGHTEST_GRADE_RADIUS_M), slope / 2, slope / 2, 0.0, 0.0, 0.0])
    return GradeYardstick(weights=weights, scatter=PLAIN_SCATTER, count=0)


def fit_yardstick(runs: Spans, position: Floats, trust: Floats, plain: GradeYardstick) -> GradeYardstick:
    """The crew's own yardstick from pairs, by ridge regression towards ``plain`` with Student-t weights.

    Parameters
    ----------
    runs, position : the paired runs and the called positions, (m,)
    trust : (m,) from 0 to 1, how sure each pair is
    """
    x = features_of(runs)
    if len(position) < LEAST_PAIRS:
        return plain
    middle = x[:, 1:].mean(axis=0)
    x = x.copy()
    x[:, 1:] -= middle
    start = plain.weights.copy()
    start[0] += float(middle @ plain.weights[1:])
    # Lefts and rights are the same until ten pairs say otherwise (a co-driver sits on one side: common practice).
    prior = np.diag([BEGINS_BELIEF, RADIUS_BELIEF, RADIUS_BELIEF, ANGLE_BELIEF, ANGLE_BELIEF, SIDES_ALIKE])
    weights: Floats = start
    scatter = FIRST_SCATTER
    clear = trust > TELLS_SCATTER if (trust > TELLS_SCATTER).any() else np.ones(len(trust), dtype=bool)
    for _ in range(FIT_ROUNDS):
        z = (position - x @ weights) / scatter
        robust = trust * student_weights(z)
        normal = (x * robust[:, None]).T @ x + prior
        weights = np.asarray(np.linalg.solve(normal, (x * robust[:, None]).T @ position + prior @ start), dtype=float)
        rest = np.abs(position - x @ weights)
        scatter = float(np.clip(robust_sd(rest[clear], 0.0), *SCATTERS))
    out = weights.copy()
    out[0] -= float(middle @ weights[1:])
    return GradeYardstick(weights=out, scatter=scatter, count=len(position))


@dataclass(frozen=True)
class GapYardstick:
    """Metres met for metres called: ``offset_m + factor * called``, scatter ``base_m + share * called``.

    ``links`` gives for each link word its low, middle and high metres and how many pairs they rest on.
    """

    offset_m: float
    factor: float
    base_m: float
    share: float
    links: dict[str, tuple[float, float, float, int]]

    def expected_m(self, called_m: Floats) -> Floats:
        """Metres that this crew's called distance stands for, (m,)."""
        return self.offset_m + self.factor * called_m

    def scatter_m(self, called_m: Floats) -> Floats:
        """Standard deviation of the metres met, (m,)."""
        return self.base_m + self.share * called_m


# A link word says "nearer than the smallest number". # common practice
PLAIN_LINK_M = (0.0, 8.0, 22.0)
PLAIN_GAPS = GapYardstick(offset_m=0.0, factor=1.0, base_m=8.0, share=0.15, links={})


# Where bends begin for a crew, give or take metres, and how good its odometer is, as a share. # common practice
OFFSET_SD_M, FACTOR_SD = 8.0, 0.04
# The fewest distances and link words that are fitted; rounds of the fit, and how often among them the scatter is renewed; the
# percentiles that stand for a link word's low, middle and high metres.
LEAST_DISTANCES, LEAST_LINKS, DISTANCE_ROUNDS, SCATTER_EACH, OF_LINKS = 8, 4, 3, 4, (10, 50, 90)
# Scatters of a distance that are tried: metres, and shares of the distance called.
BASES_M, SHARES = (a.ravel() for a in np.meshgrid(np.linspace(2.5, 12.0, 20), np.linspace(0.02, 0.14, 7)))


def _likeliest_scatter(called_m: Floats, rest_m: Floats) -> tuple[float, float]:
    """The metres and the share of the distance under which the residuals are likeliest, with Student's tails."""
    scatter = BASES_M[:, None] + SHARES[:, None] * called_m
    unlikely = (student_cost(rest_m / scatter) + np.log(scatter)).sum(axis=1)
    best = int(np.argmin(unlikely))
    return float(BASES_M[best]), float(SHARES[best])


def fit_gaps(called_m: Floats, met_m: Floats, words: NDArray[np.str_]) -> GapYardstick:
    """The crew's distances from pairs; ``called_m`` is nan where a link word stands in ``words``; all (m,)."""
    numbered = np.isfinite(called_m)
    offset, factor, base, share = 0.0, 1.0, PLAIN_GAPS.base_m, PLAIN_GAPS.share
    x, y = called_m[numbered], met_m[numbered]
    if len(x) >= LEAST_DISTANCES:
        rows = np.stack([np.ones_like(x), x], axis=1)
        prior = np.diag([1 / OFFSET_SD_M**2, 1 / FACTOR_SD**2])
        for _ in range(DISTANCE_ROUNDS):
            for _ in range(SCATTER_EACH):
                scatter = base + share * x
                w = student_weights((y - offset - factor * x) / scatter) / scatter**2
                normal = (rows * w[:, None]).T @ rows + prior
                right = (rows * w[:, None]).T @ y + prior @ (0.0, 1.0)
                offset, factor = (float(v) for v in np.linalg.solve(normal, right))
            base, share = _likeliest_scatter(x, y - offset - factor * x)
    links = {}
    for word in np.unique(words[~numbered]):
        metres = met_m[(words == word) & ~numbered]
        low, middle, high = PLAIN_LINK_M
        if len(metres) >= LEAST_LINKS:
            low, middle, high = (float(q) for q in np.percentile(metres, OF_LINKS))
        links[str(word)] = (low, middle, high, len(metres))
    return GapYardstick(offset_m=offset, factor=factor, base_m=base, share=share, links=links)
