"""What happens to a car that believes a note: the speed it would carry in against the speed the road allows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from mirkle.core.lineup.result import Lineup
from mirkle.core.motion.bends import Bend
from mirkle.core.motion.profile import Profile
from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.model import Note
from mirkle.core.recording.model import Floats

# Where nothing is known of the car: good gravel. # common practice
PLAIN_GRIP_MPS2, PLAIN_BRAKING_MPS2 = 6.0, 5.0
# The grip that a crew uses in its quicker corners, not its single best moment.
GRIP_PERCENTILE = 80.0
AROUND_M, EVERY_M = 1500.0, 500.0
# Bends that show the grip that was used: how sure their pair is, the least turn (°), the widest radius (m), how few show nothing; and
# how many bends the whole stage counts for where few are near.
PAIRED, TURNS_DEG, WIDEST_M, LEAST_BENDS, BORROWED_BENDS = 0.5, 15.0, 220.0, 8, 6.0
# Deceleration above which a driver brakes and does not only lift (m/s²), the percentile that stands for his hard braking, and the least
# road with braking (m). # from training worlds
LIFTING_MPS2, BRAKING_PERCENTILE, LEAST_BRAKED_M = 1.5, 70.0, 30
PULL_MPS2 = 3.0


@dataclass(frozen=True)
class Pace:
    """The car's grip envelope on this pass: lateral by place, braking, and the speed each grade is taken at."""

    at_m: Floats
    grip_mps2: Floats
    braking_mps2: float
    grade_speed: tuple[tuple[float, float], ...]

    def grip(self, at_m: float) -> float:
        """The lateral acceleration that this car used in its quicker bends about here."""
        return float(np.interp(at_m, self.at_m, self.grip_mps2)) if len(self.at_m) else PLAIN_GRIP_MPS2

    def allowed_mps(self, bend: Bend) -> float:
        """The speed that the tightest of a bend allows at that grip: v^2 = a R."""
        return float(np.sqrt(self.grip(bend.apex_m) * bend.radius_m))

    def believed_mps(self, position: float) -> float:
        """The speed at which this crew takes bends of a position on its scale."""
        positions, speeds = np.array(self.grade_speed).T
        return float(np.interp(position, positions, speeds))

    def reachable_mps(self, profile: Profile, bend: Bend) -> float:
        """The speed with which the car could arrive: what it had at its fastest before, and pulled on from there."""
        first, last = max(0, int(bend.from_m - 150)), max(1, int(bend.from_m))
        speed = profile.speed_mps[first:last]
        if not len(speed):
            return 0.0
        at = first + int(np.argmax(speed))
        return float(np.sqrt(speed.max() ** 2 + 2 * PULL_MPS2 * 0.5 * (last - at)))


def pace_of(lineup: Lineup, profile: Profile, notes: dict[int, Note], school: GradingScheme) -> Pace:
    """The envelope from the bends that notes were paired with."""
    bends = [t.bend for t in lineup.ties if t.bend is not None and t.sure > PAIRED]
    bends = [b for b in bends if b.turn_deg > TURNS_DEG and b.radius_m < WIDEST_M]
    places = np.arange(0.0, profile.length_m + AROUND_M, EVERY_M)
    grip = _grip_at(places, bends)
    return Pace(places, grip, _braking_mps2(profile), _grade_speeds(lineup, notes, school, grip))


def _grip_at(places: Floats, bends: Sequence[Bend]) -> Floats:
    """The lateral acceleration that was used about each place, m/s², (places,): a high percentile of the bends near by, drawn towards that
    of the whole stage where there are few."""
    if len(bends) < LEAST_BENDS:
        return np.full(len(places), PLAIN_GRIP_MPS2)
    at = np.array([b.apex_m for b in bends])
    used = np.array([b.speed_min_mps**2 / b.radius_m for b in bends])
    out = np.full(len(places), np.percentile(used, GRIP_PERCENTILE))
    for i, place in enumerate(places):
        near = used[np.abs(at - place) < AROUND_M]
        if len(near):
            share = len(near) / (len(near) + BORROWED_BENDS)
            out[i] = share * np.percentile(near, GRIP_PERCENTILE) + (1 - share) * out[i]
    return out


def _braking_mps2(profile: Profile) -> float:
    """How hard this car usually brakes, m/s²: a percentile of all that is braking and not lifting."""
    if len(profile.speed_mps) < 3:
        return PLAIN_BRAKING_MPS2
    slowing = -np.gradient(0.5 * profile.speed_mps**2, profile.distance_m)
    hard = slowing[slowing > LIFTING_MPS2]
    return float(np.percentile(hard, BRAKING_PERCENTILE)) if len(hard) > LEAST_BRAKED_M else PLAIN_BRAKING_MPS2


def _grade_speeds(lineup: Lineup, notes: dict[int, Note], school: GradingScheme, grip: Floats) -> tuple[tuple[float, float], ...]:
    """Positions and the speeds they are taken at, never falling from tight to open; ends filled from the radius scale."""
    speeds = _speeds_by_position(lineup, notes, school, float(np.median(grip)))
    found = sorted((p, float(np.median(v))) for p, v in speeds.items() if len(v) >= 2)
    if len(found) < 2:
        return ((0.0, 8.0), (float(school.top), 40.0))
    rising = np.maximum.accumulate([v for _, v in found])
    return tuple((p, float(v)) for (p, _), v in zip(found, rising, strict=True))


def _speeds_by_position(lineup: Lineup, notes: dict[int, Note], school: GradingScheme, grip: float) -> dict[float, list[float]]:
    """The speeds of the paired bends (m/s) by the position of their grades, to a whole one."""
    speeds: dict[float, list[float]] = {}
    paired = ((notes[tie.note].grade or "", tie.bend) for tie in lineup.ties if tie.sure >= PAIRED and tie.bend is not None)
    for grade, bend in paired:
        if school.has(grade):
            allowed = float(np.sqrt(grip * bend.radius_m))
            # A bend may be slow for its neighbour's sake: what its own radius allowed counts for half.
            speeds.setdefault(float(round(school.position(grade))), []).append(0.5 * (bend.speed_min_mps + allowed))
    return speeds
