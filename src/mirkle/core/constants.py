"""Constants of nature and of measure, and the units that people read."""

from __future__ import annotations

# Standard acceleration of free fall, m/s² (CGPM, 1901).
GRAVITY_MPS2 = 9.80665
# The mean radius of the earth, m (IUGG).
EARTH_M = 6.371e6
# Kilometres an hour in a metre a second; a knot (a nautical mile of 1852 m an hour) and a mile an hour (1609.344 m) in m/s. # exact
KMH_PER_MPS, KNOT_MPS, MPH_MPS = 3.6, 1852 / 3600, 0.44704
# No two samples are taken to be closer than this, s, where something is divided by their distance.
LEAST_STEP_S = 1e-3


def kmh(mps: float) -> float:
    """Kilometres an hour of metres a second."""
    return mps * KMH_PER_MPS


def km(metres: float) -> float:
    """Kilometres of metres."""
    return metres / 1000
