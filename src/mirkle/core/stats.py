"""Robust statistics, in one place: median deviation, slopes, Student's weights and cost, rank correlation, isotonic regression.

SciPy has most of them (``median_abs_deviation``, ``theilslopes``, ``spearmanr``, ``isotonic_regression``, ``expit``, ``ndtr``). Importing
``scipy.stats`` takes as long as reviewing a stage, ``scipy.special`` a quarter of a second of every start, so they are written out here,
and tests/outside/ holds each against SciPy's.
"""

from __future__ import annotations

import math
from typing import overload

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

# The standard deviation of a normal distribution over its median absolute deviation, 1 / Φ⁻¹(3/4). # exact
NORMAL_MAD = 1.4826
# Degrees of freedom of the Student distribution that the fits take for their errors: tails that let one value in ten be a slip. # from
# memory
FREEDOM = 4.0


@overload
def logistic(odds: float) -> float: ...
@overload
def logistic(odds: Floats) -> Floats: ...
def logistic(odds: float | Floats) -> float | Floats:
    """The probability of log odds, 1 / (1 + exp(-odds)), by the hyperbolic tangent, which never overflows."""
    likely = 0.5 * (1.0 + np.tanh(0.5 * np.asarray(odds)))
    return float(likely) if likely.ndim == 0 else likely


def normal_cdf(z: float) -> float:
    """The probability that a standard normal value is below ``z``, by the complementary error function."""
    return 0.5 * math.erfc(-z / math.sqrt(2.0))


def robust_sd(values: Floats, about: float | None = None) -> float:
    """The standard deviation of normal values by their median deviation ``about`` a middle, their median unless given; slips don't move
    it."""
    middle = float(np.median(values)) if about is None else about
    return NORMAL_MAD * float(np.median(np.abs(values - middle)))


def student_weights(z: Floats) -> Floats:
    """What each value weighs in a fit whose errors are Student's, of residuals in standard deviations, (n,): the expectation step of its
    maximum likelihood (Lange, Little and Taylor, 1989)."""
    return np.asarray((FREEDOM + 1.0) / (FREEDOM + z**2))


def student_cost(z: Floats, freedom: float = FREEDOM) -> Floats:
    """-ln of Student's density over its greatest value, of ``z`` scales off, nats, (n,): (ν + 1) / 2 · ln(1 + z² / ν).

    (``np.log`` is several times quicker than ``np.log1p``, and nothing here is near nought.)
    """
    return np.asarray(0.5 * (freedom + 1.0) * np.log(1.0 + z * z / freedom))


def median_slope(x: Floats, y: Floats, *, least_apart: float) -> float | None:
    """The median of the slopes between all pairs of points at least ``least_apart`` apart in x (Theil, 1950; Sen, 1968); ``None`` where
    there is no such pair."""
    first, second = np.triu_indices(len(x), 1)
    apart = x[second] - x[first]
    far = np.abs(apart) >= least_apart
    return float(np.median((y[second] - y[first])[far] / apart[far])) if far.any() else None


def rank_correlation(a: Floats, b: Floats) -> float:
    """Spearman's rank correlation, ties sharing their mean rank; 0 where one of them never changes."""
    ranks = [_ranks(v) for v in (a, b)]
    if any(float(np.ptp(r)) == 0.0 for r in ranks):
        return 0.0
    return float(np.corrcoef(ranks[0], ranks[1])[0, 1])


def _ranks(values: Floats) -> Floats:
    _, inverse, count = np.unique(values, return_inverse=True, return_counts=True)
    last = np.cumsum(count)
    return np.asarray((last - 0.5 * (count - 1))[inverse], dtype=float)


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


def quadratic_kappa(a: Floats, b: Floats) -> float:
    """Cohen's kappa with quadratic weights between two gradings: 1 the same, 0 as chance would have it (Cohen, 1968)."""
    observed = float(np.mean((a - b) ** 2))
    by_chance = float(np.mean((a[:, None] - b[None, :]) ** 2))
    return 1.0 - observed / by_chance if by_chance else 1.0
