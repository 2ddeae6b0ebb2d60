"""Which of a crew's own residuals are slips: two groups, of which one has this crew's own tails.

A crew that measures writes distances that scatter like a normal distribution; one that guesses by eye has far tails, and what would be a
slip of the first is usual for the second. Each residual is one of an honest group, Student's t with this crew's own degrees of freedom and
scale, or of a group of slips, a few in a hundred and spread far wider (a Cauchy distribution). Freedom, scale and share are not chosen: the
probability is averaged over a grid of them by how likely each makes all residuals. It is one less the local false discovery rate (Efron,
Large-scale simultaneous hypothesis testing, 2004; from memory).
"""

from __future__ import annotations

from math import lgamma, log, pi

import numpy as np

from mirkle.core.recording.model import Floats

# Degrees of freedom, from tails that hold anything to nearly normal ones, and scales in the standard deviations that came in.
FREEDOMS = (3.0, 5.0, 9.0, 30.0)
SCALES = (0.5, 0.7, 0.9, 1.1, 1.4, 1.8)
# Shares of slips, from a careful crew's to a careless one's. # common practice
SHARES = (0.01, 0.02, 0.04, 0.08)
# A slip is out by this many standard deviations as often as by more.
SLIPS_SPREAD = 4.0


def slips_among(z: Floats) -> Floats:
    """The probability that each residual is a slip, (n,), from residuals in standard deviations, (n,).

    Each side is fitted separately: a driver who cuts makes bends shorter, never longer.
    """
    out = np.zeros(len(z))
    for side in (z > 0, z <= 0):
        out[side] = _on_one_side(z[side])
    return out


def _on_one_side(z: Floats) -> Floats:
    slip = 1.0 / (pi * SLIPS_SPREAD * (1.0 + (z / SLIPS_SPREAD) ** 2))
    honest = np.array([_student(z / scale, nu) / scale for nu in FREEDOMS for scale in SCALES])
    # Crews (tails and scales) by shares of slips by residuals; the densities of one side are twice these, all of them alike.
    share = np.array(SHARES)[:, None]
    both = share * slip + (1.0 - share) * honest[:, None, :]
    likelihood = np.log(both).sum(axis=2)
    weights = np.exp(likelihood - likelihood.max())
    return np.asarray(np.einsum("cs,csn->n", weights, share * slip / both) / weights.sum())


def _student(z: Floats, freedom: float) -> Floats:
    """Density of Student's t distribution, (n,)."""
    constant = lgamma(0.5 * (freedom + 1.0)) - lgamma(0.5 * freedom) - 0.5 * log(freedom * pi)
    return np.asarray(np.exp(constant - 0.5 * (freedom + 1.0) * np.log1p(z**2 / freedom)))
