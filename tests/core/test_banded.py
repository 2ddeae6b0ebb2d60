"""The banded solver against dense linear algebra."""

import numpy as np
import pytest

from mirkle.core.motion.banded import BandedProblem, between, difference_weights


def _problem(rng: np.random.Generator, n: int) -> tuple[BandedProblem, np.ndarray, np.ndarray]:
    """A problem and the same as dense, whitened rows."""
    problem = BandedProblem(n)
    rows, right = [], []
    for offsets in ((0,), (0, 1), (0, 2, 3)):
        first = np.arange(n - max(offsets))
        coefficients = rng.normal(size=(len(first), len(offsets)))
        b, sigma = rng.normal(size=len(first)), rng.uniform(0.5, 2.0, len(first))
        problem.add(first, offsets, coefficients, b, sigma=sigma)
        for i, f in enumerate(first):
            row = np.zeros(n)
            row[[f + o for o in offsets]] = coefficients[i]
            rows.append(row / sigma[i])
            right.append(b[i] / sigma[i])
    return problem, np.array(rows), np.array(right)


@pytest.mark.parametrize("n", [8, 40, 131])
def test_solution_is_the_dense_least_squares_solution(n: int) -> None:
    problem, rows, right = _problem(np.random.default_rng(n), n)
    best, _ = problem.solve()
    dense, *_ = np.linalg.lstsq(rows, right, rcond=None)
    np.testing.assert_allclose(best, dense, atol=1e-8)


def test_draws_have_the_spread_of_the_inverse_normal_matrix() -> None:
    problem, rows, _ = _problem(np.random.default_rng(5), 25)
    _, draws = problem.solve(draws=4000)
    expected = np.sqrt(np.diag(np.linalg.inv(rows.T @ rows)))
    np.testing.assert_allclose(draws.std(axis=1), expected, rtol=0.08)


def test_robust_equations_shrug_off_a_tenth_of_wild_values() -> None:
    rng = np.random.default_rng(2)
    truth = np.cumsum(rng.normal(0, 0.05, 300))
    seen = truth + rng.normal(0, 0.1, 300)
    wild = rng.choice(300, 30, replace=False)
    seen[wild] += rng.choice([-8.0, 8.0], 30)
    errors = {}
    for robust in (False, True):
        problem = BandedProblem(300)
        problem.add(np.arange(300), (0,), [1.0], seen, sigma=0.1, robust=robust)
        problem.add(np.arange(299), (0, 1), difference_weights(1), 0.0, sigma=0.05)
        best, _ = problem.solve(robust_rounds=5)
        errors[robust] = np.abs(best - truth).max()
    assert errors[True] < 0.35 < errors[False]


def test_between_reads_straight_lines_exactly() -> None:
    grid = np.arange(10.0, 30.0, 0.5)
    at = np.array([10.0, 12.3, 29.5])
    node, share = between(at, grid)
    line = 3.0 * grid - 7.0
    np.testing.assert_allclose(share[:, 0] * line[node] + share[:, 1] * line[node + 1], 3.0 * at - 7.0)


@pytest.mark.parametrize("order", [1, 2, 3])
def test_difference_weights_are_those_of_numpy_diff(order: int) -> None:
    values = np.random.default_rng(order).normal(size=order + 1)
    assert np.dot(difference_weights(order), values) == pytest.approx(np.diff(values, order)[0])
