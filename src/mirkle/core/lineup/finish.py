"""Where the finish line lies: what the notes say of it, and where the driver lifted."""

from __future__ import annotations

import numpy as np

from mirkle.core.lineup.pairing import Lineup
from mirkle.core.lineup.yardstick import PLAIN_LINK_M
from mirkle.core.motion.profile import STEP_M, Profile
from mirkle.core.notes.model import Reading

# A driver holds the throttle to the finish board and lifts just behind it. # common practice
LIFTS_BEHIND_M, LIFT_SPREAD_M, AS_GOOD_AS_MPS = 13.0, 8.0, 0.3
# Farther from the noted finish than so many of its standard deviations, the lift was for something else.
SAME_PLACE = 3.0
SURE, RATHER = 0.5, 0.5


def finish_m(reading: Reading, lineup: Lineup, profile: Profile, *, coarse: bool) -> float:
    """The finish by distance: the noted one and the lift, each by its own spread; else where the car stopped.

    Coarse positions smear the lift, so that it says nothing there.
    """
    at = next((n.index for n in reading.notes if "finish" in n.marks), None)
    last = next((t for t in reversed(lineup.ties) if t.bend is not None), None)
    if at is None or last is None or last.bend is None or last.note > at:
        return profile.length_m
    before = reading.notes[last.note : at]
    between = [n.distance_m for n in before if n.distance_m is not None]
    links = [lineup.distances.links.get(n.link, (*PLAIN_LINK_M, 0)) for n in before if n.link]
    if not between and not links:
        return profile.length_m
    # Into the finish is the flying finish, not the stop behind it.
    # What is rather the rest of the last corner than a corner of its own belongs to it here.
    rests = [u.bend.to_m for u in lineup.uncalled if u.bend.from_m > last.bend.apex_m and u.whose.before > RATHER]
    ended_m = max([last.bend.to_m, *rests])
    noted = ended_m + sum(middle for _, middle, _, _ in links)
    spread = 0.5 * sum(high - low for low, _, high, _ in links)
    if between:
        called = np.array([float(sum(between))])
        noted += float(lineup.distances.expected_m(called)[0])
        spread = float(np.hypot(spread, lineup.distances.scatter_m(called)[0]))
    lift = None if coarse else _lift_m(profile, ended_m)
    if lift is not None and last.sure < SURE:
        # A last corner that may lie elsewhere says nothing of the finish.
        return lift
    if lift is not None and abs(lift - noted) < SAME_PLACE * float(np.hypot(spread, LIFT_SPREAD_M)):
        trust = spread**2 / (spread**2 + LIFT_SPREAD_M**2)
        noted += trust * (lift - noted)
    return min(profile.length_m, noted)


def _lift_m(profile: Profile, after_m: float) -> float | None:
    """The last place at which the car was as good as at its fastest behind the last corner, less the way it takes to lift."""
    first = int(after_m / STEP_M)
    speed = profile.speed_mps[first:]
    if len(speed) < 3:
        return None
    last = int(np.flatnonzero(speed > speed.max() - AS_GOOD_AS_MPS)[-1])
    return (first + last) * STEP_M - LIFTS_BEHIND_M
