"""Where the car slid: the body pointed farther off the path than it usually does at that lateral acceleration."""

from __future__ import annotations

import numpy as np

from mirkle.core.lineup.pairing import Lineup
from mirkle.core.motion.profile import Profile

# Off the crew's own usual slip by more than this, in radians, and by so many of its usual scatter.
LEAST_RAD, OF_SCATTER = 0.12, 3.5
LEAST_TURN_DEG, LEAST_BENDS = 20.0, 12


def slides_of(lineup: Lineup, profile: Profile) -> dict[int, float]:
    """For each note whose bend the car slid in, by how many degrees beyond the usual it did.

    Slip grows in proportion to lateral acceleration on one surface; the factor is this pass's own median. Without a yaw
    rate nothing is known of slip, and nothing is said.
    """
    bends = [(t.note, t.bend) for t in lineup.ties if t.bend is not None and t.bend.turn_deg > LEAST_TURN_DEG]
    if len(bends) < LEAST_BENDS or not np.isfinite(profile.slip_rad).any():
        return {}
    lateral = profile.curvature_per_m * profile.speed_mps**2
    slip, used = np.empty(len(bends)), np.empty(len(bends))
    for i, (_, bend) in enumerate(bends):
        inside = slice(int(bend.from_m), max(int(bend.from_m) + 1, int(bend.to_m)))
        most = int(np.abs(profile.slip_rad[inside]).argmax())
        slip[i] = bend.side * profile.slip_rad[inside][most]
        used[i] = max(float(np.abs(lateral[inside]).max()), 0.5)
    off = slip - float(np.median(slip / used)) * used
    scatter = 1.483 * float(np.median(np.abs(off - np.median(off))))
    beyond = np.abs(off) > max(LEAST_RAD, OF_SCATTER * scatter)
    return {bends[i][0]: float(np.degrees(np.abs(off[i]))) for i in np.flatnonzero(beyond)}
