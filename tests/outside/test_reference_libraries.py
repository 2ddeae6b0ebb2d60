"""Numbers that well-known libraries give for the same thing."""

import numpy as np
import pytest

from mirkle.core.motion.banded import BandedProblem, difference_weights
from mirkle.core.stats import (
    FREEDOM,
    logistic,
    median_slope,
    monotone,
    normal_cdf,
    quadratic_kappa,
    rank_correlation,
    robust_sd,
    student_cost,
    student_weights,
)


def test_the_banded_smoother_is_the_kalman_smoother_on_a_linear_case() -> None:
    """filterpy's Rauch-Tung-Striebel smoother: a random walk of speed, places measured now and then."""
    kalman_filter = pytest.importorskip("filterpy.kalman").KalmanFilter

    rng = np.random.default_rng(4)
    n, step, walk, sigma = 80, 0.1, 0.7, 0.5
    speed = np.cumsum(rng.normal(0, walk * np.sqrt(step), n))
    place = np.concatenate([[0.0], np.cumsum(speed[:-1] * step)])
    seen = place + rng.normal(0, sigma, n)
    measured = rng.random(n) < 0.6

    kalman = kalman_filter(dim_x=2, dim_z=1)
    kalman.F, kalman.H = np.array([[1.0, step], [0.0, 1.0]]), np.array([[1.0, 0.0]])
    # The place follows the speed exactly but for a hair, so that both are well posed.
    kalman.Q, kalman.R = np.diag([1e-6, walk**2 * step]), np.array([[sigma**2]])
    kalman.x, kalman.P = np.zeros((2, 1)), np.diag([100.0, 100.0])
    means, covariances = [], []
    for k in range(n):
        if k:
            kalman.predict()
        kalman.update(np.array([[seen[k]]]) if measured[k] else None)
        means.append(kalman.x.copy())
        covariances.append(kalman.P.copy())
    smoothed, spread, _, _ = kalman.rts_smoother(np.array(means), np.array(covariances))

    problem = BandedProblem(2 * n)
    nodes = 2 * np.arange(n)
    problem.add(nodes[:1], (0,), [1.0], 0.0, sigma=10.0)
    problem.add(nodes[:1] + 1, (0,), [1.0], 0.0, sigma=10.0)
    problem.add(nodes[:-1], (0, 1, 2), [-1.0, -step, 1.0], 0.0, sigma=1e-3)
    problem.add(nodes[:-1] + 1, (0, 2), difference_weights(1), 0.0, sigma=walk * np.sqrt(step))
    problem.add(nodes[measured], (0,), [1.0], seen[measured], sigma=sigma)
    best, draws = problem.solve(draws=4000)
    np.testing.assert_allclose(best[0::2], smoothed[:, 0, 0], atol=2e-5)
    np.testing.assert_allclose(best[1::2], smoothed[:, 1, 0], atol=2e-5)
    np.testing.assert_allclose((draws[1::2] - best[1::2, None]).std(axis=1), np.sqrt(spread[:, 1, 1]), rtol=0.06)


@pytest.mark.parametrize("seed", range(8))
def test_agreement_between_gradings_is_that_of_scikit_learn_and_scipy(seed: int) -> None:
    from scipy.stats import spearmanr

    isotonic = pytest.importorskip("sklearn.isotonic").IsotonicRegression
    cohen_kappa_score = pytest.importorskip("sklearn.metrics").cohen_kappa_score

    rng = np.random.default_rng(seed)
    called = rng.integers(1, 7, 60).astype(float)
    told = np.clip(called + rng.integers(-1, 2, 60), 1, 6)
    assert quadratic_kappa(called, told) == pytest.approx(cohen_kappa_score(called, told, weights="quadratic"))
    measure = called + rng.normal(0, 1, 60)
    assert rank_correlation(measure, called) == pytest.approx(spearmanr(measure, called).statistic)
    order = np.argsort(measure)
    isotonic = isotonic().fit_transform(measure[order], called[order])
    np.testing.assert_allclose(monotone(called[order], np.ones(60)), isotonic, atol=1e-9)


@pytest.mark.parametrize("seed", range(4))
def test_robust_statistics_are_those_of_scipy(seed: int) -> None:
    from scipy.stats import median_abs_deviation, theilslopes

    rng = np.random.default_rng(seed)
    x, slips = rng.uniform(0.0, 50.0, 60), rng.random(60) < 0.2
    y = 3.0 + 0.7 * x + rng.normal(0.0, 0.3, 60) + 40.0 * slips
    assert robust_sd(y) == pytest.approx(median_abs_deviation(y, scale="normal"), rel=1e-4)
    assert median_slope(x, y, least_apart=1e-9) == pytest.approx(theilslopes(y, x).slope, rel=1e-9)
    assert median_slope(x, y, least_apart=1000.0) is None


@pytest.mark.parametrize("freedom", [2.0, 3.0, 4.0])
def test_students_cost_is_that_of_the_density(freedom: float) -> None:
    from scipy.stats import t

    z = np.linspace(-9.0, 9.0, 37)
    np.testing.assert_allclose(student_cost(z, freedom), t.logpdf(0.0, freedom) - t.logpdf(z, freedom), rtol=1e-9, atol=1e-12)


def test_student_weights_are_the_ratio_of_the_densities_slopes() -> None:
    """For errors of density f a residual z weighs -f'(z) / (z f(z)): by finite differences of SciPy's Student density."""
    from scipy.stats import t

    z = np.linspace(0.1, 6.0, 50)
    slope = (t.logpdf(z + 1e-5, FREEDOM) - t.logpdf(z - 1e-5, FREEDOM)) / 2e-5
    np.testing.assert_allclose(student_weights(z), -slope / z, rtol=1e-6)


def test_logistic_and_normal_distribution_against_scipy() -> None:
    from scipy.special import expit, ndtr

    odds = np.array([-800.0, -30.0, -1.5, 0.0, 0.3, 8.0, 800.0])
    assert logistic(odds) == pytest.approx(expit(odds), abs=1e-15)
    assert logistic(-1.5) == pytest.approx(float(expit(-1.5)), rel=1e-14)
    for z in (-8.0, -2.0, -0.1, 0.0, 1.3, 6.0):
        assert normal_cdf(z) == pytest.approx(float(ndtr(z)), rel=1e-13)
