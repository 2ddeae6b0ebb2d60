"""Parts of a pass that don't count: where the pace says nothing about the notes."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.lib.stride_tricks import sliding_window_view

from mirkle.core.judging.pace import Pace
from mirkle.core.lineup.remarks import Remark
from mirkle.core.lineup.result import Lineup
from mirkle.core.messages import gettext_noop
from mirkle.core.motion.bends import Bend
from mirkle.core.motion.profile import Profile
from mirkle.core.motion.slip import beyond_usual

# Pace is lost from this share of the usual grip down, and found again from the second up, in this many bends in a row.
LOST, FOUND_AGAIN, BENDS_IN_A_ROW = 0.62, 0.75, 7
# The least turn of a bend that shows pace (°); a slow part reaches this far beyond its bends (m).
TURNS_DEG, BESIDE_M = 12.0, 30.0
LEAST_M, STOPPED_MPS, STOPPED_S = 300.0, 1.0, 2.0
# An incident: sideslip beyond the usual by this much (rad), outside corners turned by the handbrake (radius under, m), until it is
# caught again (m).
LOST_TAIL_RAD, BY_HANDBRAKE_M, CAUGHT_M = 0.35, 22.0, 60.0
# A handbrake corner is that tight over half of this window (m); the tail begins to slide this far ahead of it (m).
HANDBRAKE_WITHIN_M, GOES_AHEAD_M = 41, 10.0
# Lengths that are left out: the launch, ahead of the finish, before and after a stop (m).
LAUNCH_M, AT_FINISH_M, BEFORE_STOP_M, BEHIND_STOP_M = 60, 30.0, 80.0, 120.0
# A stage of fewer such rows of bends has no usual pace.
LEAST_ROWS = 3
# Bends in a row that are slow, or quick again, behind an incident that was said aloud.
PACE_IS_BACK = 2


@dataclass(frozen=True)
class Part:
    """From where to where, and why it does not count; ``proposed`` where nobody has confirmed it."""

    from_m: float
    to_m: float
    reason: str
    proposed: bool = False

    def holds(self, at_m: float) -> bool:
        """Whether a place lies in it."""
        return self.from_m <= at_m <= self.to_m


def lies_in(at_m: float, parts: Iterable[Part]) -> bool:
    """Whether a place lies in one of some parts."""
    return any(part.holds(at_m) for part in parts)


def propose_parts(lineup: Lineup, profile: Profile, pace: Pace, finish_m: float, remarks: Sequence[Remark] = ()) -> tuple[Part, ...]:
    """Where the pace was lost for a while, where the car stopped on the stage, where its tail got away, and what follows an incident that
    was said aloud."""
    found = [*_stops(profile, finish_m), *_lost_tails(profile, finish_m), *_slow_parts(lineup, pace, finish_m)]
    said = [p for p in _after_incidents(remarks, lineup, pace, finish_m) if not any(f.holds(p.from_m) for f in found)]
    return tuple(sorted([*found, *said], key=lambda p: p.from_m))


def _turned(lineup: Lineup, finish_m: float) -> list[Bend]:
    """The bends that show a pace."""
    return [t.bend for t in lineup.ties if t.bend is not None and t.bend.turn_deg > TURNS_DEG and t.bend.to_m < finish_m]


def _used(bend: Bend, pace: Pace) -> float:
    """The share of the usual grip that was used in a bend."""
    return bend.speed_min_mps**2 / bend.radius_m / pace.grip(bend.apex_m)


def _after_incidents(remarks: Sequence[Remark], lineup: Lineup, pace: Pace, finish_m: float) -> Iterator[Part]:
    """From each incident that was said until the pace is back, where it was lost at all: a lamp that comes on costs nothing."""
    bends, until_m = _turned(lineup, finish_m), 0.0
    for remark in (r for r in remarks if r.incident and not r.debrief):
        back_m = _pace_back_m([b for b in bends if b.from_m > remark.at_m], pace, finish_m)
        if back_m is not None and remark.at_m >= until_m:
            until_m = back_m
            yield Part(remark.at_m, until_m, remark.text, proposed=True)


def _pace_back_m(behind: Sequence[Bend], pace: Pace, finish_m: float) -> float | None:
    """Where the pace is back in the bends behind a place, metres; ``None`` where it was not lost."""
    slow = [_used(b, pace) < FOUND_AGAIN for b in behind]
    if slow[:PACE_IS_BACK].count(True) < PACE_IS_BACK:
        return None
    back = next((i for i in range(len(slow)) if not any(slow[i : i + PACE_IS_BACK])), None)
    return behind[back].from_m if back is not None else finish_m


def _slow_parts(lineup: Lineup, pace: Pace, finish_m: float) -> Iterator[Part]:
    """Bends in a row that were driven with much less grip than the rest: from below :data:`LOST` until above :data:`FOUND_AGAIN`, of a
    running median."""
    bends = _turned(lineup, finish_m)
    if len(bends) < LEAST_ROWS * BENDS_IN_A_ROW:
        return
    used = np.array([_used(b, pace) for b in bends])
    half = BENDS_IN_A_ROW // 2
    level = np.median(sliding_window_view(np.pad(used, half, mode="reflect"), BENDS_IN_A_ROW), axis=1)
    for first, end in _below(level.tolist()):
        from_m, to_m = bends[first].from_m - BESIDE_M, bends[end - 1].to_m + BESIDE_M
        if to_m - from_m > LEAST_M and end - first >= half:
            yield Part(from_m, to_m, gettext_noop("pace lost"), proposed=True)


def _below(level: Sequence[float]) -> Iterator[tuple[int, int]]:
    """The stretches from where a level falls below :data:`LOST` to where it rises above :data:`FOUND_AGAIN`."""
    first: int | None = None
    for i, value in enumerate([*level, 1.0]):
        if first is None and value < LOST:
            first = i
        elif first is not None and value > FOUND_AGAIN:
            yield first, i
            first = None


def _stops(profile: Profile, finish_m: float) -> list[Part]:
    """Stops after the launch and before the finish."""
    slow = profile.speed_mps < STOPPED_MPS
    slow[:LAUNCH_M] = False
    seconds = np.diff(profile.time_s, append=profile.time_s[-1])
    out: list[Part] = []
    for at in np.flatnonzero(slow | (seconds > STOPPED_S)):
        place = float(profile.distance_m[at])
        if LAUNCH_M < place < finish_m - AT_FINISH_M and (not out or place > out[-1].to_m):
            out.append(Part(max(0.0, place - BEFORE_STOP_M), place + BEHIND_STOP_M, gettext_noop("the car stopped"), proposed=True))
    return out


def _lost_tails(profile: Profile, finish_m: float) -> list[Part]:
    """Where the tail came round, to where the car was straight again: the swerve behind a slide is no road."""
    beyond = beyond_usual(profile)
    if beyond is None:
        return []
    tight = np.abs(profile.curvature_per_m) > 1 / BY_HANDBRAKE_M
    near_tight = np.convolve(tight, np.ones(HANDBRAKE_WITHIN_M), mode="same") > 0.5
    out: list[Part] = []
    for at in np.flatnonzero((np.abs(beyond) > LOST_TAIL_RAD) & ~near_tight):
        place = float(profile.distance_m[at])
        if place >= finish_m - AT_FINISH_M:
            break
        if out and place <= out[-1].to_m:
            out[-1] = replace(out[-1], to_m=place + CAUGHT_M)
        else:
            out.append(Part(max(0.0, place - GOES_AHEAD_M), place + CAUGHT_M, gettext_noop("the tail got away"), proposed=True))
    return out
