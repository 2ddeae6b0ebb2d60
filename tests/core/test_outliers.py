"""Which residuals are slips: held against mixtures whose slips are known, and against a computation by SciPy's distributions."""

from __future__ import annotations

import numpy as np
import pytest
from scipy import stats

from mirkle.core.judging.outliers import FREEDOMS, SCALES, SHARES, SLIPS_SPREAD, slips_among


def book(rng: np.random.Generator, freedom: float, share: float, count: int = 90) -> tuple[np.ndarray, np.ndarray]:
    """Residuals of a crew with tails of its own, and which of them are slips."""
    slipped = rng.random(count) < share
    honest = rng.standard_t(freedom, count)
    return np.where(slipped, rng.choice([-1, 1], count) * rng.uniform(2.0, 12.0, count), honest), slipped


@pytest.mark.parametrize("freedom", [2.5, 6.0, 40.0])
def test_a_slip_is_at_least_as_likely_as_said_whatever_a_crews_tails(freedom: float) -> None:
    """These slips are not Cauchy's and these shares not the grid's, so it says less than it could of a crew that measures, never more."""
    rng = np.random.default_rng(5)
    books = [book(rng, freedom, 0.04) for _ in range(400)]
    said = np.concatenate([slips_among(z) for z, _ in books])
    true = np.concatenate([slipped for _, slipped in books])
    for low, high in ((0.0, 0.2), (0.2, 0.5), (0.5, 0.8)):
        part = (said >= low) & (said < high)
        assert part.sum() > 200
        assert said[part].mean() - 0.05 < true[part].mean() < said[part].mean() + 0.35
    sure = true[said > 0.8].mean()
    assert sure > (0.5 if freedom < 3 else 0.97)


def test_the_same_distance_is_a_slip_of_a_crew_that_measures_and_usual_for_one_that_guesses() -> None:
    even = np.linspace(0.01, 0.99, 90)
    for crew, least, most in ((stats.norm, 0.7, 1.0), (stats.t(2), 0.0, 0.35)):
        z = np.append(crew.ppf(even), 6.0)
        assert least <= slips_among(z)[-1] <= most


def test_far_tails_on_one_side_say_nothing_of_the_other() -> None:
    near = stats.norm.ppf(np.linspace(0.01, 0.99, 90))
    far_below = np.where(near < 0, 2.0 * near, near)
    for z in (near, far_below):
        assert slips_among(np.append(z, 6.0))[-1] > 0.7
    assert slips_among(np.append(far_below, -6.0))[-1] < 0.4 < slips_among(np.append(near, -6.0))[-1]


def test_the_average_over_crews_is_the_textbooks() -> None:
    """Bayes' rule over every crew of the grid, one at a time, with SciPy's own distributions."""
    z = np.array([0.2, 0.5, 0.9, 1.4, 3.0, 8.0])
    slip = stats.cauchy(scale=SLIPS_SPREAD).pdf(z)
    total, weight = np.zeros(len(z)), 0.0
    for freedom in FREEDOMS:
        for scale in SCALES:
            for share in SHARES:
                both = (1 - share) * stats.t(freedom, scale=scale).pdf(z) + share * slip
                likely = float(np.prod(both))
                total, weight = total + likely * share * slip / both, weight + likely
    assert slips_among(z) == pytest.approx(total / weight)
    assert len(slips_among(np.array([]))) == 0
