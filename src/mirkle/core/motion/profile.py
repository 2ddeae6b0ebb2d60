"""The stage laid out by distance, from standing at the start line to the stop."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from mirkle.core.motion.driven_line import DrivenLine
from mirkle.core.motion.gaps import inside
from mirkle.core.recording.model import Floats

STEP_M = 1.0
# The tightest radius is the mean over this length: shorter follows the wheel's twitches (a car is 4 m long and
# 0.1 s at 100 km/h is 3 m), longer flattens hairpins, whose whole arc at 10 m radius and 90 degrees is 16 m.
TIGHTEST_OVER_M = 9
CARRIED_OVER_M = 25


@dataclass(frozen=True)
class Profile:
    """The stage by distance, one value a metre from the start line; all arrays (n,).

    ``curvature_per_m`` is the mean over :data:`TIGHTEST_OVER_M`, positive to the left; ``heading_rad`` is unwrapped;
    ``slip_rad`` is how far the body points to the left of the path, nan where no yaw rate was recorded. ``curvature_draws``
    (n, draws) are samples of what ``curvature_per_m`` may be, ``None`` where there are none. ``slip_sd_rad`` is the spread of the sideslip.
    """

    distance_m: Floats
    heading_rad: Floats
    curvature_per_m: Floats
    carried_per_m: Floats
    curvature_sd_per_m: Floats
    speed_mps: Floats
    time_s: Floats
    slip_rad: Floats
    curvature_draws: NDArray[np.float32] | None = None
    slip_sd_rad: Floats | None = None

    @cached_property
    def turned_rad(self) -> tuple[Floats, Floats]:
        """Turned to the left and to the right from the start line to each sample, both (n + 1,)."""
        bent_rad = self.curvature_per_m * STEP_M
        return (
            np.concatenate([[0.0], np.cumsum(np.maximum(bent_rad, 0.0))]),
            np.concatenate([[0.0], np.cumsum(np.maximum(-bent_rad, 0.0))]),
        )

    @property
    def length_m(self) -> float:
        """Metres from the start line to the end of the profile."""
        return float(self.distance_m[-1])

    def metres_at(self, time_s: float) -> float:
        """Where the car was at a moment of the recording's clock; the start line before it left, the end after it stopped."""
        return float(np.interp(time_s, self.time_s, self.distance_m))

    def seconds_at(self, metres: float) -> float:
        """When the car came to a place, on the recording's clock."""
        return float(np.interp(metres, self.distance_m, self.time_s))


def profile_of(path: DrivenLine, start_m: float, end_m: float) -> Profile:
    """The stage from ``start_m`` to ``end_m`` on the path, by distance from its start."""
    distance = np.arange(0.0, end_m - start_m, STEP_M)
    at = distance + start_m
    heading = path.at_distance(path.heading_rad, at)
    rate = np.gradient(heading, STEP_M)
    # Where nothing was measured there is no bend.
    unmeasured = inside(path.holes, path.at_distance(path.time_s, at))
    rate[unmeasured] = 0.0
    draws = None
    if path.heading_draws is not None:
        drawn = np.stack([path.at_distance(column, at) for column in path.heading_draws.T])
        rates = np.gradient(drawn, STEP_M, axis=1)
        rates[:, unmeasured] = 0.0
        draws = np.stack([_mean_over(np.asarray(r), TIGHTEST_OVER_M) for r in rates], axis=1).astype(np.float32)
    return Profile(
        distance_m=distance,
        heading_rad=heading,
        curvature_per_m=_mean_over(rate, TIGHTEST_OVER_M),
        carried_per_m=_mean_over(rate, CARRIED_OVER_M),
        curvature_sd_per_m=path.at_distance(path.curvature_sd_per_m, at),
        speed_mps=path.at_distance(path.speed_mps, at),
        time_s=path.at_distance(path.time_s, at),
        slip_rad=path.at_distance(path.slip_rad, at),
        curvature_draws=draws,
        slip_sd_rad=None if path.slip_sd_rad is None else path.at_distance(path.slip_sd_rad, at),
    )


def _mean_over(values: Floats, metres: int) -> Floats:
    half = int(metres / STEP_M) // 2
    padded = np.pad(values, half, mode="edge")
    return np.convolve(padded, np.ones(2 * half + 1) / (2 * half + 1), mode="valid")
