"""What the smoothers of a path are given and hand on."""

from __future__ import annotations

from dataclasses import dataclass

from mirkle.core.recording.model import Floats

# How many draws of the posterior give the spread of the curvature.
DRAWS = 16

# What a Doppler speed is out by. # common practice
DOPPLER_SD_MPS = 0.12

# Time, east, north and standard deviation of each position, all (m,).
Positions = tuple[Floats, Floats, Floats, Floats]


@dataclass(frozen=True)
class Motion:
    """What the sub-problems hand on: heading draws give the curvature's spread; (n,) and (n, draws). ``slip_sd_rad`` is the spread
    of the sideslip, ``None`` where nothing is known of it.
    """

    speed_mps: Floats
    heading_rad: Floats
    heading_draws: Floats
    slip_rad: Floats
    slip_sd_rad: Floats | None = None
