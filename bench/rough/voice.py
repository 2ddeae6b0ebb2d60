"""What a network makes of a voice over a car, without any sound: stretches of sureness where notes are said."""

from __future__ import annotations

import numpy as np

# The length of a frame of sureness (s).
STEP = 0.032


def stretch(
    seed: int, *, late: dict[int, float] | None = None, left_out: tuple[int, ...] = (), count: int = 30
) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray]:
    """Notes of several lengths, when the car came to their places, when they were said, and a network's sureness."""
    rng = np.random.default_rng(seed)
    syllables = rng.integers(3, 10, count).astype(float)
    place_s = 12.0 + np.cumsum(rng.uniform(2.6, 6.0, count))
    seconds = 0.15 + syllables / 5.8
    said = np.full(count, np.nan)
    free = 0.0
    for i in range(count):
        if i in left_out:
            continue
        said[i] = max(place_s[i] - 3.3 + rng.normal(0, 0.3) + (late or {}).get(i, 0.0), free)
        free = said[i] + seconds[i] + 0.1
    frames = int((place_s[-1] + 5) / STEP)
    logit = rng.normal(-6.0, 2.5, frames)
    for begin, lasts in zip(said, seconds, strict=True):
        if np.isfinite(begin):
            logit[int(begin / STEP) : int((begin + lasts) / STEP)] += 10.5
    return syllables, place_s, said, 1 / (1 + np.exp(-logit))
