"""Two passes laid on each other: which metre of one is which of the other, by where they went and how they turned.

Each pass counts its own metres, and over a stage two counts part by a tenth of a per cent and by what their lines differ. The
difference is a slow random walk, seen by two things: the other pass's nearest point that points the same way (receivers are out by
a few metres, which along the road is as much), and the headings, which have to agree where the road turns (a line leads or lags
there by so much of a turn). Both are equations of a banded least-squares problem, solved anew about each answer, since the
second is linear only about a guess.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.lib.stride_tricks import sliding_window_view

from mirkle.core.motion.banded import BandedProblem
from mirkle.core.motion.geodesy import degrees_of, local_metres_about
from mirkle.core.motion.profile import Profile
from mirkle.core.motion.stage_map import StageMap
from mirkle.core.recording.model import Floats

STEP_M = 10.0
# What two lines through one bend differ by in heading, and two receivers in place; neighbouring places share their error, so that each
# counts for less than it says.
HEADING_SD_RAD, PLACE_SD_M = 0.08, 8.0
# How fast two counts of metres part, each metre.
PARTS_M = 0.25
ROUNDS = 3
# How far around its expected place a nearest point is looked for, and how far at the start; how many metres a radian of turn counts for.
NEAR_M, AT_FIRST_M, A_TURN_IS_M = 40, 400, 12.0
# Less bent than this, a heading says nothing of the place.
BENT_PER_M = 1.0 / 200.0
# Without positions, pieces of the road are compared: how long a piece is, how far it may be moved in metres and as a share of the way to
# it, how many pieces are needed, and from which correlation on the road is the same. Over fourteen passes of eight roads, two passes of one
# road came to .97 and more, of two roads to .16 to .44.
PIECE_M, MOVED_M, MOVED_SHARE, LEAST_PIECES, ALIKE = 600, 60, 0.02, 3, 0.65

# A pass as it was measured: by the metre, and from above.
Pass = tuple[Profile, StageMap]
Road = Literal["same", "another", "unknown"]


@dataclass(frozen=True)
class SameRoad:
    """Places of one pass and the same places of another, both rising, metres from their start lines, (n,)."""

    here_m: Floats
    there_m: Floats

    def there(self, here_m: float) -> float:
        """The other pass's metre for one of this."""
        return float(np.interp(here_m, self.here_m, self.there_m))

    def here(self, there_m: float) -> float:
        """This pass's metre for one of the other."""
        return float(np.interp(there_m, self.there_m, self.here_m))


def same_road(here: tuple[Profile, StageMap], there: tuple[Profile, StageMap]) -> SameRoad | None:
    """Which metres of two passes are the same places; ``None`` where they are not of one road, or it can't be told."""
    profile, other = here[0], there[0]
    near_m = _nearest(here, there)
    if near_m is None:
        return None
    at_m = np.arange(0.0, profile.length_m, STEP_M)
    seen = np.isfinite(near_m)
    offset = np.interp(at_m, at_m[seen], (near_m - at_m)[seen])
    nodes = np.arange(len(at_m))
    heading, bent = _at(profile, profile.heading_rad, at_m), _at(profile, profile.curvature_per_m, at_m)
    for _ in range(ROUNDS):
        problem = BandedProblem(len(at_m))
        problem.add(nodes[seen], (0,), [1.0], (near_m - at_m)[seen], sigma=PLACE_SD_M, robust=True)
        turned = heading - _at(other, other.heading_rad, at_m + offset)
        turned = (turned + np.pi) % (2 * np.pi) - np.pi
        bent_there = _at(other, other.curvature_per_m, at_m + offset)
        bend = np.flatnonzero((np.minimum(np.abs(bent), np.abs(bent_there)) > BENT_PER_M) & (bent * bent_there > 0))
        mean = 0.5 * (bent + bent_there)[bend]
        problem.add(bend, (0,), mean[:, None], turned[bend] + mean * offset[bend], sigma=HEADING_SD_RAD, robust=True)
        problem.add_white(nodes, 1, PARTS_M, STEP_M)
        offset, _ = problem.solve(robust_rounds=2)
    return SameRoad(at_m, np.maximum.accumulate(np.clip(at_m + offset, 0.0, other.length_m)))


def road_of(here: Pass, there: Pass) -> Road:
    """Whether another pass is of this one's road, or of a good part of it.

    By where both went, if both know that; else by how they turned. The road driven the other way is another one.
    """
    if here[1].middle_deg is not None and there[1].middle_deg is not None:
        return "same" if _nearest(here, there) is not None or _nearest(there, here) is not None else "another"
    likeness = _turned_alike(here[0], there[0])
    return "unknown" if likeness is None else "same" if likeness > ALIKE else "another"


def apart_m(one: Sequence[tuple[float, float]], other: Sequence[tuple[float, float]]) -> float:
    """How far two courses lie from each other, metres, in the middle of what they are apart: latitudes and longitudes (degrees) of as many
    places, which part each evenly. A course that runs the other way is far from this one."""
    here, there = (np.radians(np.array(course)) for course in (one, other))
    middle = float(np.degrees(here[:, 0].mean())), float(np.degrees(here[:, 1].mean()))
    a, b = (np.stack(local_metres_about(lat, lon, middle)) for lat, lon in (here.T, there.T))
    return float(np.median(np.hypot(*(a - b))))


def _turned_alike(here: Profile, there: Profile) -> float | None:
    """How alike two passes turn, 0 to 1: the median over pieces of the shorter one of the best correlation of their curvature, a piece
    being moved along the other by what two counts of metres may part until there. ``None`` where they are too short to tell."""
    short, long = sorted((here, there), key=lambda p: p.length_m)
    found = []
    for first in range(0, int(short.length_m) - PIECE_M, PIECE_M):
        piece = short.carried_per_m[first : first + PIECE_M]
        reach = MOVED_M + int(MOVED_SHARE * first)
        begin = max(first - reach, 0)
        other = long.carried_per_m[begin : first + PIECE_M + reach]
        if len(other) < PIECE_M or not piece.any():
            continue
        windows = sliding_window_view(other, PIECE_M)[::5]
        norms = np.linalg.norm(windows, axis=1) * np.linalg.norm(piece)
        found.append(float(np.max(windows @ piece / np.maximum(norms, 1e-12))))
    return float(np.median(found)) if len(found) >= LEAST_PIECES else None


def _at(profile: Profile, values: Floats, metres: Floats) -> Floats:
    return np.asarray(np.interp(metres, profile.distance_m, values))


def _nearest(here: tuple[Profile, StageMap], there: tuple[Profile, StageMap]) -> Floats | None:
    """For every :data:`STEP_M` of this pass the metre of the other's nearest point that points the same way, nan where none does;
    ``None`` where most have none."""
    (profile, plan), (other, map_) = here, there
    if plan.middle_deg is None or map_.middle_deg is None:
        return None
    # The other pass on this one's map.
    lat, lon = degrees_of(map_.east_m + map_.start_m[0], map_.north_m + map_.start_m[1], map_.middle_deg)
    east, north = local_metres_about(np.radians(lat), np.radians(lon), plan.middle_deg)
    east, north = east - plan.start_m[0], north - plan.start_m[1]
    count = len(np.arange(0.0, profile.length_m, STEP_M))
    out, at, reach = np.full(count, np.nan), 0.0, AT_FIRST_M
    for k in range(count):
        i = min(int(k * STEP_M), len(plan.east_m) - 1)
        first, last = max(0, int(at) - reach), min(len(east), int(at) + reach)
        if first >= last:
            break
        near = slice(first, last)
        off = np.hypot(east[near] - plan.east_m[i], north[near] - plan.north_m[i])
        turned = np.abs((other.heading_rad[near] - profile.heading_rad[i] + np.pi) % (2 * np.pi) - np.pi)
        best = int(np.argmin(np.hypot(off, A_TURN_IS_M * turned)))
        if off[best] < NEAR_M and turned[best] < 1.0:
            at, reach = float(first + best), NEAR_M
            out[k] = at
        at += STEP_M
    return out if np.isfinite(out).mean() > 0.5 else None
