"""Lining up by hand, without Qt: which ties are unsure, where a note could go instead, what a dragged call says of the clock."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from mirkle.core.lineup.road import LEAST_TURN_DEG
from mirkle.core.messages import gettext_noop
from mirkle.core.motion.bends import Bend
from mirkle.session.reviewed_pass import ReviewedPass

# A tie that is less sure than this is shown for a second look.
SURE = 0.9


@dataclass(frozen=True)
class PairingRow:
    """One corner note as the list shows it: how sure its place is, and in which words (``{0}`` is how sure)."""

    note: int
    sure: float
    words: str
    pinned: bool


def ties_of(stage: ReviewedPass) -> list[PairingRow]:
    """Every corner note, the least sure first; what was pinned by hand is sure."""
    pinned = {p.note for p in stage.overrides.pins}
    out = []
    for tie in stage.review.lineup.ties:
        if tie.note in pinned:
            out.append(
                PairingRow(
                    tie.note, 1.0, gettext_noop("put there by you") if tie.bend is not None else gettext_noop("no bend (by you)"), True
                )
            )
        elif tie.bend is None:
            lost = _may_be_unmeasured(stage, tie.note)
            out.append(PairingRow(tie.note, 0.0, gettext_noop("its road was not measured") if lost else gettext_noop("no bend"), False))
        else:
            words = gettext_noop("sure") if tie.sure >= SURE else gettext_noop("{0:.0%} sure")
            out.append(PairingRow(tie.note, tie.sure, words, False))
    return sorted(out, key=lambda t: (t.sure, t.note))


def unsure(stage: ReviewedPass) -> list[PairingRow]:
    """The ties that deserve a second look, the least sure first."""
    return [t for t in ties_of(stage) if t.sure < SURE]


def places(stage: ReviewedPass) -> list[Bend]:
    """Every bend that a note could be put on, called or not, in the order of the road."""
    lineup = stage.review.lineup
    bends = [t.bend for t in lineup.ties if t.bend is not None] + [u.bend for u in lineup.uncalled]
    return sorted((b for b in bends if b.turn_deg >= LEAST_TURN_DEG), key=lambda b: b.apex_m)


def place_beside(stage: ReviewedPass, note: int, by: int) -> float | None:
    """Metres to the bend before (-1) or behind (1) where a note lies now; ``None`` at the ends of the stage."""
    bend = stage.review.lineup.bend_of(note)
    here = bend.apex_m if bend is not None else _between_neighbours(stage, note)
    apexes = np.array([b.apex_m for b in places(stage)])
    beyond = apexes[apexes > here + 1.0] if by > 0 else apexes[apexes < here - 1.0]
    if not len(beyond):
        return None
    return float(beyond.min() if by > 0 else beyond.max())


def nearest_place(stage: ReviewedPass, metres: float) -> float | None:
    """Metres to the middle of the bend nearest to a place."""
    bends = places(stage)
    if not bends:
        return None
    beside = [max(b.from_m - metres, metres - b.to_m, 0.0) + 0.01 * abs(b.apex_m - metres) for b in bends]
    return bends[int(np.argmin(beside))].apex_m


def turns_other_way(stage: ReviewedPass, note: int, metres: float) -> bool:
    """Whether the bend at a place turns to the other side than a note says."""
    direction = stage.review.notes[note].direction
    bend = min(places(stage), key=lambda b: abs(b.apex_m - metres), default=None)
    return direction is not None and bend is not None and bend.side != direction.sign


def clock_by_dragging(stage: ReviewedPass, note: int, corner_m: float) -> float | None:
    """What the words' clock reads more than the recording's, if a note's call belongs to the corner at a place.

    The crew's habitual lead is kept: the call was said so much before the car came there.
    """
    time, clock = stage.review.calls[note].time, stage.review.clock
    if time is None or clock is None:
        return None
    wanted_s = stage.review.profile.seconds_at(corner_m) - stage.review.usual_lead.seconds
    return clock.calls_minus_run_s + time.from_s - clock.calls_s(wanted_s)


def said_at_m(stage: ReviewedPass, note: int) -> float | None:
    """Where the car was when a note was called; ``None`` where it was not, or before the start."""
    review = stage.review
    time = review.calls[note].time
    if time is None or review.clock is None:
        return None
    at_s = review.clock.run_s(time.from_s)
    return review.profile.metres_at(at_s) if at_s >= review.profile.time_s[0] else None


def _between_neighbours(stage: ReviewedPass, note: int) -> float:
    """Where a note without a bend would lie: half-way between its neighbours' bends."""
    return 0.5 * sum(_neighbours_m(stage, note))


def _neighbours_m(stage: ReviewedPass, note: int) -> tuple[float, float]:
    """Metres to the nearest bends that a note before and a note behind have; to the start and the finish where none has."""
    bends = {t.note: t.bend.apex_m for t in stage.review.lineup.ties if t.bend is not None}
    before = [m for n, m in bends.items() if n < note]
    behind = [m for n, m in bends.items() if n > note]
    return max(before, default=0.0), min(behind, default=stage.review.finish_m)


def _may_be_unmeasured(stage: ReviewedPass, note: int) -> bool:
    """Whether a note without a bend may belong to a stretch where nothing was measured."""
    return any(u.touches(*_neighbours_m(stage, note)) for u in stage.review.measured.unmeasured)
