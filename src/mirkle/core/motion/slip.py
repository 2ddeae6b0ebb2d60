"""How far the body points off the path beyond what it usually does."""

from __future__ import annotations

import numpy as np

from mirkle.core.motion.profile import Profile
from mirkle.core.recording.model import Floats

# Slip is estimated from lateral acceleration where the car corners at least this hard (m/s²), on at least this much road (m).
LEAST_LATERAL_MPS2, LEAST_M = 1.5, 200


def beyond_usual(profile: Profile) -> Floats | None:
    """The sideslip in radians beyond the usual at each metre, (n,); ``None`` where no yaw rate was recorded.

    Slip grows in proportion to lateral acceleration on one surface; the factor is this pass's own median.
    """
    if not np.isfinite(profile.slip_rad).any():
        return None
    lateral = profile.curvature_per_m * profile.speed_mps**2
    hard = np.abs(lateral) > LEAST_LATERAL_MPS2
    if np.count_nonzero(hard) < LEAST_M:
        return None
    usual = float(np.median(profile.slip_rad[hard] / lateral[hard]))
    return profile.slip_rad - usual * lateral
