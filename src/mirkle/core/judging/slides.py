"""Where the car slid: the body pointed farther off the path than it usually does at that lateral acceleration."""

from __future__ import annotations

import numpy as np

from mirkle.core.lineup.result import Lineup
from mirkle.core.motion.bends import Bend
from mirkle.core.motion.profile import Profile
from mirkle.core.motion.slip import beyond_usual
from mirkle.core.stats import robust_sd

# A slide: sideslip beyond the crew's usual by this much (rad) and by this many of its scatters.
LEAST_RAD, OF_SCATTER = 0.12, 2.5
LEAST_TURN_DEG, LEAST_BENDS = 20.0, 12


def slides_of(lineup: Lineup, profile: Profile) -> dict[int, float]:
    """For each note whose bend the car slid in, by how many degrees beyond the usual it did."""
    beyond, bends = beyond_usual(profile), _bends(lineup)
    if beyond is None or len(bends) < LEAST_BENDS:
        return {}
    # What the sideslip itself is out by is no slide.
    sure = np.abs(beyond) if profile.slip_sd_rad is None else np.maximum(np.abs(beyond) - 2.0 * profile.slip_sd_rad, 0.0)
    off = np.array([float(sure[_inside(b)].max()) for _, b in bends])
    limit = max(LEAST_RAD, OF_SCATTER * robust_sd(off, 0.0))
    return {note: float(np.degrees(value)) for (note, _), value in zip(bends, off, strict=True) if value > limit}


def _bends(lineup: Lineup) -> list[tuple[int, Bend]]:
    return [(t.note, t.bend) for t in lineup.ties if t.bend is not None and t.bend.turn_deg > LEAST_TURN_DEG]


def _inside(bend: Bend) -> slice:
    return slice(int(bend.from_m), max(int(bend.from_m) + 1, int(bend.to_m)))
