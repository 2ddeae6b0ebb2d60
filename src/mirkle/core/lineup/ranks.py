"""Orders held against each other."""

from __future__ import annotations

import numpy as np

from mirkle.core.recording.model import Floats


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
