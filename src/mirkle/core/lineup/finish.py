"""Where the finish line lies: what the notes say of it, and where the driver lifted."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from mirkle.core.lineup.crew_scale import PLAIN_LINK_M
from mirkle.core.lineup.result import Lineup
from mirkle.core.motion.bends import Bend
from mirkle.core.motion.profile import STEP_M, Profile
from mirkle.core.notes.model import Note, Reading

# A driver holds the throttle to the finish board and lifts just behind it. # common practice
LIFTS_BEHIND_M, LIFT_SPREAD_M, AS_GOOD_AS_MPS = 13.0, 8.0, 0.3
# A lift further from the noted finish than this many standard deviations was for something else.
SAME_PLACE = 3.0
SURE, LEAST_LIKELY = 0.5, 0.02


def finish_m(reading: Reading, lineup: Lineup, profile: Profile, *, coarse: bool) -> float:
    """The finish by distance: the noted one and the lift, each by its own spread; else where the car stopped.

    Coarse positions smear the lift, so that it says nothing there.
    """
    at = next((n.index for n in reading.notes if "finish" in n.marks), None)
    last = next(((t, t.bend) for t in reversed(lineup.ties) if t.bend is not None), None)
    noted = _noted_behind(reading.notes[last[0].note : at], lineup) if last is not None and at is not None else None
    if last is None or noted is None:
        return profile.length_m
    tie, bend = last
    lift_m = _lift_m(profile, bend.to_m, coarse=coarse)
    if tie.sure < SURE and lift_m is not None:
        # A last corner that is likelier another one says nothing of the finish.
        return lift_m
    ends = _ends(bend, lineup)
    found = [_weighed(to_m + noted[0], noted[1], _lift_m(profile, to_m, coarse=coarse), likely) for to_m, likely in ends]
    return min(profile.length_m, min(found)[1])


def _noted_behind(before: Sequence[Note], lineup: Lineup) -> tuple[float, float] | None:
    """How far behind the last corner the finish is noted and how far that is out, metres; ``None`` where nothing is called between."""
    between = [n.distance_m for n in before if n.distance_m is not None]
    links = [lineup.distances.links.get(n.link, (*PLAIN_LINK_M, 0)) for n in before if n.link]
    if not between and not links:
        return None
    # Into the finish is the flying finish, not the stop behind it.
    behind_m = sum(middle for _, middle, _, _ in links)
    spread = 0.5 * sum(high - low for low, _, high, _ in links)
    if between:
        called = np.array([float(sum(between))])
        behind_m += float(lineup.distances.expected_m(called)[0])
        spread = float(np.hypot(spread, lineup.distances.scatter_m(called)[0]))
    return behind_m, spread


def _weighed(noted_m: float, spread_m: float, lift_m: float | None, likely: float) -> tuple[float, float]:
    """The cost of one end of the last corner, and the finish behind it: the noted place and the lift by the inverse of their variances."""
    if lift_m is None:
        return 0.5 * SAME_PLACE**2 - float(np.log(likely)), noted_m
    z = abs(lift_m - noted_m) / float(np.hypot(spread_m, LIFT_SPREAD_M))
    if z < SAME_PLACE:
        noted_m += spread_m**2 / (spread_m**2 + LIFT_SPREAD_M**2) * (lift_m - noted_m)
    return 0.5 * min(z, SAME_PLACE) ** 2 - float(np.log(likely)), noted_m


def _ends(last: Bend, lineup: Lineup) -> list[tuple[float, float]]:
    """Where the last corner may have ended, and how likely: what lies behind it without a note may be its rest."""
    rests = [(u.bend.to_m, u.whose.before) for u in lineup.uncalled if u.bend.from_m > last.apex_m]
    own = max(1.0 - sum(likely for _, likely in rests), LEAST_LIKELY)
    return [(last.to_m, own), *((to_m, likely) for to_m, likely in rests if likely > LEAST_LIKELY)]


def _lift_m(profile: Profile, after_m: float, *, coarse: bool) -> float | None:
    """The last place at which the car was as good as at its fastest behind the last corner, less the way it takes to lift; ``None`` where
    positions are too coarse to show it."""
    if coarse:
        return None
    first = int(after_m / STEP_M)
    speed = profile.speed_mps[first:]
    if len(speed) < 3:
        return None
    last = int(np.flatnonzero(speed > speed.max() - AS_GOOD_AS_MPS)[-1])
    return (first + last) * STEP_M - LIFTS_BEHIND_M
