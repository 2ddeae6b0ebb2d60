"""Where the car slid: the body pointed farther off the path than it usually does at that lateral acceleration."""

from __future__ import annotations

import numpy as np

from mirkle.core.lineup.pairing import Lineup
from mirkle.core.motion.profile import Profile

# Off the crew's own usual slip by more than this, in radians, and by so many of its usual scatter.
LEAST_RAD, OF_SCATTER = 0.12, 2.5
LEAST_TURN_DEG, LEAST_BENDS, LEAST_LATERAL_MPS2 = 20.0, 12, 1.5


def slides_of(lineup: Lineup, profile: Profile) -> dict[int, float]:
    """For each note whose bend the car slid in, by how many degrees beyond the usual it did.

    Slip grows in proportion to lateral acceleration on one surface; the factor is this pass's own median. Without a yaw
    rate nothing is known of slip, and nothing is said.
    """
    bends = [(t.note, t.bend) for t in lineup.ties if t.bend is not None and t.bend.turn_deg > LEAST_TURN_DEG]
    if len(bends) < LEAST_BENDS or not np.isfinite(profile.slip_rad).any():
        return {}
    lateral = profile.curvature_per_m * profile.speed_mps**2
    inside = [slice(int(b.from_m), max(int(b.from_m) + 1, int(b.to_m))) for _, b in bends]
    most = [int(np.abs(lateral[i]).argmax()) + i.start for i in inside]
    usual = float(np.median([profile.slip_rad[m] / lateral[m] for m in most if abs(lateral[m]) > LEAST_LATERAL_MPS2]))
    beyond = profile.slip_rad - usual * lateral
    off = np.array([float(np.abs(beyond[i]).max()) for i in inside])
    limit = max(LEAST_RAD, OF_SCATTER * 1.483 * float(np.median(off)))
    return {note: float(np.degrees(value)) for (note, _), value in zip(bends, off, strict=True) if value > limit}
