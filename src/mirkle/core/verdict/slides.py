"""Where the car slid: the body pointed farther off the path than it usually does at that lateral acceleration."""

from __future__ import annotations

import numpy as np

from mirkle.core.lineup.pairing import Lineup
from mirkle.core.motion.bends import Bend
from mirkle.core.motion.profile import Profile
from mirkle.core.motion.recording import Floats

# Off the crew's own usual slip by more than this, in radians, and by so many of its usual scatter.
LEAST_RAD, OF_SCATTER = 0.12, 2.5
LEAST_TURN_DEG, LEAST_BENDS, LEAST_LATERAL_MPS2 = 20.0, 12, 1.5


def beyond_usual(lineup: Lineup, profile: Profile) -> Floats | None:
    """How far the body pointed off the path beyond what it usually does at that lateral acceleration, in radians, (n,).

    Slip grows in proportion to lateral acceleration on one surface; the factor is this pass's own median. Without a yaw
    rate nothing is known of slip: ``None``.
    """
    bends = _bends(lineup)
    if len(bends) < LEAST_BENDS or not np.isfinite(profile.slip_rad).any():
        return None
    lateral = profile.curvature_per_m * profile.speed_mps**2
    most = [int(np.abs(lateral[i]).argmax()) + i.start for i in (_inside(b) for _, b in bends)]
    shares = [profile.slip_rad[m] / lateral[m] for m in most if abs(lateral[m]) > LEAST_LATERAL_MPS2]
    return profile.slip_rad - (float(np.median(shares)) if shares else 0.0) * lateral


def slides_of(lineup: Lineup, profile: Profile) -> dict[int, float]:
    """For each note whose bend the car slid in, by how many degrees beyond the usual it did."""
    beyond = beyond_usual(lineup, profile)
    if beyond is None:
        return {}
    bends = _bends(lineup)
    off = np.array([float(np.abs(beyond[_inside(b)]).max()) for _, b in bends])
    limit = max(LEAST_RAD, OF_SCATTER * 1.483 * float(np.median(off)))
    return {note: float(np.degrees(value)) for (note, _), value in zip(bends, off, strict=True) if value > limit}


def _bends(lineup: Lineup) -> list[tuple[int, Bend]]:
    return [(t.note, t.bend) for t in lineup.ties if t.bend is not None and t.bend.turn_deg > LEAST_TURN_DEG]


def _inside(bend: Bend) -> slice:
    return slice(int(bend.from_m), max(int(bend.from_m) + 1, int(bend.to_m)))
