"""Weighted least squares whose normal matrix is banded: the engine under every smoother here.

Unknowns lie in a row (states of neighbouring times next to each other), and each equation touches only a few
neighbours, so the normal matrix is banded and its Cholesky factor costs time linear in the recording's length.
The spread of the answer comes from draws: with the normal matrix A = L L^T, the best unknowns plus L^-T times white noise
are samples of the posterior N(best, A^-1) exactly (Rue, 2001), for one triangular solve and with no dense inverse.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from mirkle.core.recording.model import Floats
from mirkle.core.stats import student_weights

Indices = NDArray[np.intp]
# White noise is drawn for this many unknowns at a time.
NOISE_ROWS = 4096


@dataclass
class Equations:
    """Equations of one kind: ``coefficients @ unknowns[first + offsets] = right``, standard deviation ``sigma``.

    ``first`` (m,), ``offsets`` (k,), ``coefficients`` (m, k), ``right`` and ``sigma`` (m,). ``weight`` (m,)
    multiplies the inverse variance; it is 1 unless a robust loop lowers it. ``stride`` is how far apart the equations' first unknowns are
    where that is even, and 0 elsewhere.
    """

    first: Indices
    offsets: tuple[int, ...]
    coefficients: Floats
    right: Floats
    sigma: Floats
    robust: bool
    weight: Floats = field(init=False)
    stride: int = field(init=False)

    def __post_init__(self) -> None:
        self.weight = np.ones(len(self.first))
        apart = np.diff(self.first)
        even = len(apart) > 0 and apart[0] > 0 and bool((apart == apart[0]).all())
        self.stride = int(apart[0]) if even else 0

    def residual(self, unknowns: Floats) -> Floats:
        """Right side less left side in standard deviations, (m,)."""
        left = sum(self.coefficients[:, k] * unknowns[self.first + o] for k, o in enumerate(self.offsets))
        return np.asarray((self.right - left) / self.sigma)


class BandedProblem:
    """Collects equations over ``count`` unknowns and solves them."""

    def __init__(self, count: int) -> None:
        self.count = count
        self.equations: list[Equations] = []

    def add(
        self,
        first: Indices,
        offsets: tuple[int, ...],
        coefficients: Floats | list[float],
        right: Floats | float,
        *,
        sigma: Floats | float,
        robust: bool = False,
    ) -> None:
        """Adds one equation for each entry of ``first``; see :class:`Equations` for the shapes."""
        m = len(first)
        self.equations.append(
            Equations(
                first=np.asarray(first, dtype=np.intp),
                offsets=offsets,
                coefficients=np.broadcast_to(np.asarray(coefficients, dtype=float), (m, len(offsets))),
                right=np.broadcast_to(np.asarray(right, dtype=float), (m,)),
                sigma=np.broadcast_to(np.asarray(sigma, dtype=float), (m,)),
                robust=robust,
            )
        )

    def add_white(self, nodes: Indices, order: int, density: float, step: float, *, robust: bool = False) -> None:
        """That the ``order``-th derivative of evenly spaced unknowns is white noise: a random walk for 1, a smoothing spline above it
        (Wahba, 1978).

        Parameters
        ----------
        nodes : the unknowns, in order, ``step`` apart
        density : the root of the noise's spectral density, so that the unknown's k-th difference is out by ``density`` · ``step``^(k - 1/2)
        """
        stride = int(nodes[1] - nodes[0])
        offsets = tuple(stride * k for k in range(order + 1))
        self.add(nodes[:-order], offsets, difference_weights(order), 0.0, sigma=density * step ** (order - 0.5), robust=robust)

    def add_bound(self, nodes: Indices, sigma: float) -> None:
        """That each of some unknowns lies about nought, give or take ``sigma``."""
        self.add(nodes, (0,), [1.0], 0.0, sigma=sigma)

    def solve(self, *, robust_rounds: int = 0, draws: int = 0, seed: int = 1) -> tuple[Floats, Floats]:
        """The best unknowns, and ``draws`` samples of what they may be.

        Equations added as robust are weighted as if their errors followed Student's t with 4 degrees of freedom.

        Returns
        -------
        best : (count,)
        samples : (count, draws)
        """
        best = np.zeros(self.count)
        robust = [e for e in self.equations if e.robust]
        width = max(max(e.offsets) - min(e.offsets) for e in self.equations)
        plain, plain_right = np.zeros((width + 1, self.count)), np.zeros(self.count)
        self._add_to(plain, plain_right, [e for e in self.equations if not e.robust])
        for turn in range(robust_rounds + 1):
            if turn:
                for e in robust:
                    e.weight = student_weights(e.residual(best))
            # Only what is robust changes from round to round.
            band, right = np.asfortranarray(plain), plain_right.copy()
            self._add_to(band, right, robust)
            factor = _factor(band)
            best = _back(factor, right)
        if not draws:
            return best, np.empty((self.count, 0))
        # The samples are the larger part of what is held at a time.
        del plain, band, right
        return best, _samples(factor, best, draws, seed)

    def _add_to(self, band: Floats, right: Floats, equations: list[Equations]) -> None:
        """Adds some equations to the lower bands of the normal matrix, (width + 1, count), and to its right side, (count,)."""
        for e in equations:
            inverse_variance = e.weight / e.sigma**2
            weighted = inverse_variance[:, None] * e.coefficients
            for a, row in enumerate(e.offsets):
                self._add_at(right, e, row, weighted[:, a] * e.right)
                for b, column in enumerate(e.offsets):
                    if row >= column:
                        self._add_at(band[row - column], e, column, weighted[:, a] * e.coefficients[:, b])

    def _add_at(self, total: Floats, equations: Equations, offset: int, value: Floats) -> None:
        """Adds a value for each equation at its unknown; several may meet in one."""
        first = equations.first
        if equations.stride:
            total[first[0] + offset : first[-1] + offset + 1 : equations.stride] += value
        else:
            total += np.bincount(first + offset, weights=value, minlength=self.count)


def _factor(band: Floats) -> Floats:
    """The Cholesky factor of a normal matrix, in its bands."""
    from scipy.linalg import cholesky_banded

    band[0] += 1e-12 * band[0].max()
    return np.asarray(cholesky_banded(band, lower=True, overwrite_ab=True, check_finite=False))


def _samples(factor: Floats, best: Floats, draws: int, seed: int) -> Floats:
    """Samples about the best unknowns, (count, draws), by the factor L of their normal matrix L L^T: L^-T times white noise has its inverse
    as covariance.

    One array holds all of it: it is filled part by part in the order of its columns, solved in its place, and moved to the best.
    """
    from scipy.linalg import lapack

    rng = np.random.default_rng(seed)
    out = np.empty((len(best), draws), order="F")
    for first in range(0, len(best), NOISE_ROWS):
        part = out[first : first + NOISE_ROWS]
        part[:] = rng.standard_normal(part.shape)
    out, _ = lapack.dtbtrs(factor, out, uplo="L", trans="T", overwrite_b=True)
    out += best[:, None]
    return np.asarray(out)


def _back(factor: Floats, right: Floats) -> Floats:
    from scipy.linalg import cho_solve_banded

    return np.asarray(cho_solve_banded((factor, True), right, overwrite_b=True, check_finite=False))


def between(time_s: Floats, grid_s: Floats) -> tuple[Indices, Floats]:
    """Where times lie on an even grid: the node before each, (m,), and the shares of it and the next, (m, 2)."""
    step = (grid_s[-1] - grid_s[0]) / (len(grid_s) - 1)
    place = np.clip((time_s - grid_s[0]) / step, 0, len(grid_s) - 1 - 1e-9)
    node = place.astype(np.intp)
    share = place - node
    return node, np.stack([1.0 - share, share], axis=1)


def difference_weights(order: int) -> list[float]:
    """Coefficients of the ``order``-th forward difference, such as [1, -2, 1] for the second."""
    weights = np.array([1.0])
    for _ in range(order):
        weights = np.convolve(weights, [-1.0, 1.0])
    return [float(w) for w in weights]
