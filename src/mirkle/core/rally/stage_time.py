"""How long the coming drive of a stage will take, from its earlier drives and what is reported of the road, with an interval.

The logarithm of the time is what is estimated: log T = log T_last - gain + slower. ``gain`` is what a crew gains from one drive of a stage
to the next, learnt from this rally's own pairs of drives by a normal prior; ``slower`` is what reported conditions cost over their share
of the road.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, log, sqrt

# What a crew gains from drive to drive, as a share of the time, and by how much that differs between crews and from stage to stage
# (standard deviations). # common practice
GAIN, GAIN_SD, STAGE_SD = 0.02, 0.02, 0.02
# How much slower a stretch is driven by how bad it is (1 to 3), and by how much that may be out, as a share of it. # common practice
SLOWER: dict[int, float] = {0: 0.05, 1: 0.03, 2: 0.08, 3: 0.2}
SLOWER_SD_SHARE = 0.6
# A standard normal lies between these with a probability of 0.8.
Z_80 = 1.2816


@dataclass(frozen=True)
class StageTime:
    """The time that is expected (s), and between which two it lies with a probability of 0.8."""

    expected_s: float
    low_s: float
    high_s: float


def expected_time(
    times_s: Sequence[float], pairs: Sequence[tuple[float, float]], conditions: Sequence[tuple[float, int]]
) -> StageTime | None:
    """The time of the coming drive; ``None`` where the stage was not driven.

    Parameters
    ----------
    times_s : the times of its earlier drives (s), in their order
    pairs : the times (s) of two drives of one stage that came one after the other, of all stages of the rally
    conditions : the share of the road that each reported condition covers (0 to 1), and how bad it is (1 to 3, 0 where nobody says)
    """
    if not times_s:
        return None
    gains = [-log(later / earlier) for earlier, later in pairs if earlier > 0 and later > 0]
    weight = 1.0 / GAIN_SD**2
    precision = weight + len(gains) / STAGE_SD**2
    gain = (GAIN * weight + sum(gains) / STAGE_SD**2) / precision
    slower = sum(min(share, 1.0) * SLOWER[level] for share, level in conditions)
    sd = sqrt(1.0 / precision + STAGE_SD**2 + (SLOWER_SD_SHARE * slower) ** 2)
    middle = log(times_s[-1]) - gain + slower
    return StageTime(exp(middle), exp(middle - Z_80 * sd), exp(middle + Z_80 * sd))
