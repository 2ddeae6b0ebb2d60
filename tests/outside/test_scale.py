"""The crew's scale against a reference implementation of the same idea."""

import numpy as np
import pytest

from mirkle.core.stats import monotone


def test_pooling_gives_the_textbook_example() -> None:
    """scikit-learn's isotonic regression turns [1, 3, 2, 4] into [1, 2.5, 2.5, 4]."""
    assert monotone(np.array([1.0, 3.0, 2.0, 4.0]), np.ones(4)) == pytest.approx([1.0, 2.5, 2.5, 4.0])


@pytest.mark.parametrize("seed", range(20))
def test_pooling_is_the_least_squares_monotone_fit(seed: int) -> None:
    """SciPy's isotonic regression, weighted."""
    from scipy.optimize import isotonic_regression

    rng = np.random.default_rng(seed)
    values, weights = rng.normal(0, 1, 9).cumsum(), rng.uniform(0.1, 5, 9)
    assert monotone(values, weights) == pytest.approx(isotonic_regression(values, weights=weights).x)
