"""Judging the drive: braking that no note asked for, and speed that was left unused."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from mirkle.core.judging.corners import not_to_be_cut
from mirkle.core.judging.findings import SURELY_PAIRED, Finding, JudgingContext
from mirkle.core.messages import message
from mirkle.core.motion.bends import Bend
from mirkle.core.notes.model import Note
from mirkle.core.notes.rewording import Rewording

# Harder than this car usually brakes, and inside the corner: nobody plans that.
HARDER_THAN_USUAL, SUDDEN_M = 1.1, 8.0
# Grip used against the envelope: below this, in a bend that turned, speed was left.
CLEARLY_UNUSED = 0.5
LEAST_SECONDS, FASTER_BY = 0.2, 1.12
# Bends that turn less, or are wider, limit no speed.
SPARE_TURNS_DEG, SPARE_RADIUS_M = 15.0, 180.0
# A note calls a fast corner from this far below flat out on (grades); the driver was surprised where he slowed to this share of the
# usual corner speed; braking that begins less far ahead of a corner belongs to it (m).
CALLED_FAST, SLOWED_TO, BRAKED_AHEAD_M = 2.2, 0.87, 15.0
# A cut straightens a clear corner by about half a grade. # from three worlds not our own
CUT_WIDER, CUT_TURNS_DEG = 0.45, 25.0
# A driver brakes this much before he needs to (m). # common practice
BRAKES_EARLY_M = 30.0
# How sure a surprise, spare grip and a cut are, and what each costs a car.
SURPRISE_SURE, SPARE_SURE, CUT_SURE = 0.25, 0.65, 0.6
SURPRISE_RISK, SPARE_RISK, CUT_RISK = 0.8, 0.05, 0.7


def judge_driving(case: JudgingContext, taken: frozenset[int]) -> Iterator[Finding]:
    """Surprises and spare speed; ``taken`` notes carry a finding on their grade or shape already."""
    yield from _surprises(case, taken)
    yield from _spare(case, taken)
    yield from _cuts(case)


def _surprises(case: JudgingContext, taken: frozenset[int]) -> Iterator[Finding]:
    """Speed scrubbed inside a corner whose note said that it could be carried."""
    slowing = -np.gradient(0.5 * case.profile.speed_mps**2, case.profile.distance_m)
    for corner in case.graded.values():
        note, bend, believed = corner.note, corner.bend, case.pace.believed_mps(corner.called)
        fast = corner.called >= case.school.top - CALLED_FAST and bend.speed_min_mps <= SLOWED_TO * believed
        if note.index in taken or corner.sure < SURELY_PAIRED or not fast or case.was_slippery(bend) or _next_is_tight(case, bend):
            continue
        first, last = max(0, int(bend.from_m - BRAKED_AHEAD_M)), int(bend.apex_m)
        inside = slowing[first : max(first + 1, last)]
        if float(np.sum(inside > HARDER_THAN_USUAL * case.pace.braking_mps2)) < SUDDEN_M:
            continue
        because = message(
            "Braked with up to {braking_mps2:gees} g into a {grade}, down to {speed_mps:kmh} km/h. Your {grade}s carry about "
            "{believed_mps:kmh}. Something here surprised the driver.",
            braking_mps2=float(inside.max()),
            grade=note.grade,
            speed_mps=bend.speed_min_mps,
            believed_mps=believed,
        )
        yield Finding(
            id=f"surprise@{note.index}",
            kind="surprise",
            note=note.index,
            from_m=bend.from_m,
            to_m=bend.to_m,
            called=note.grade,
            met=message("{speed_mps:kmh} km/h", speed_mps=bend.speed_min_mps),
            severity="check",
            confidence=SURPRISE_SURE,
            risk=SURPRISE_RISK,
            because=(because,),
            proposal=None if note.cautions else case.proposed(note, Rewording(caution=case.hand.usual_caution)),
        )


def _next_is_tight(case: JudgingContext, bend: Bend) -> bool:
    """Whether the braking was for the corner behind this one."""
    behind = case.bend_behind(bend)
    if behind is None:
        return False
    needed_m = (bend.speed_min_mps**2 - behind.speed_min_mps**2) / (2 * case.pace.braking_mps2)
    return behind.from_m - bend.to_m < needed_m + BRAKES_EARLY_M


def _spare(case: JudgingContext, taken: frozenset[int]) -> Iterator[Finding]:
    """Bends that were driven with much less grip than others on the same part of the stage."""
    for corner in case.graded.values() if not case.coarse else ():
        note, bend = corner.note, corner.bend
        shows = corner.sure >= SURELY_PAIRED and bend.turn_deg >= SPARE_TURNS_DEG and bend.radius_m <= SPARE_RADIUS_M
        if not shows or note.index in taken or case.lacked_grip(note.index, bend) or _next_is_tight(case, bend):
            continue
        used = bend.speed_min_mps**2 / bend.radius_m / case.pace.grip(bend.apex_m)
        allowed = min(case.pace.allowed_mps(bend), case.pace.reachable_mps(case.profile, bend))
        seconds = bend.length_m / bend.speed_min_mps - bend.length_m / allowed
        if used <= case.parameters.unused_grip and allowed >= FASTER_BY * bend.speed_min_mps and seconds >= LEAST_SECONDS:
            yield _unused_grip(note, bend, used, seconds)


def _unused_grip(note: Note, bend: Bend, used: float, seconds: float) -> Finding:
    because = message(
        "Room for more speed, up to {spare_s:.1f} s: {speed_mps:kmh} km/h used {used:.0%} of the grip that you use elsewhere on this part.",
        spare_s=seconds,
        speed_mps=bend.speed_min_mps,
        used=used,
    )
    return Finding(
        id=f"spare@{note.index}",
        kind="spare",
        note=note.index,
        from_m=bend.from_m,
        to_m=bend.to_m,
        called=note.grade,
        met=message("{used:.0%} of the grip", used=used),
        severity="check" if used < CLEARLY_UNUSED else "remark",
        confidence=SPARE_SURE,
        risk=SPARE_RISK,
        because=(because,),
        proposal=None,
        seconds=float(seconds),
    )


def _cuts(case: JudgingContext) -> Iterator[Finding]:
    """Corners that must not be cut, driven on a line wider than they were written for.

    Positions are good to a metre or two, so a cut is not seen itself; what is seen is the wider line that it leaves.
    """
    for corner in case.graded.values():
        note, bend, wider = corner.note, corner.bend, corner.shift
        shows = wider >= CUT_WIDER and bend.turn_deg >= CUT_TURNS_DEG and corner.sure >= SURELY_PAIRED
        if not shows or not not_to_be_cut(note) or note.index in case.slides_deg:
            continue
        because = message(
            "The note says don't cut. The line had a radius of {radius_m:.0f} m, {grades_off:.1f} grades wider than the note. Look at the "
            "video: did the car cut?",
            radius_m=bend.radius_m,
            grades_off=wider,
        )
        yield Finding(
            id=f"cut@{note.index}",
            kind="cut-at-dont-cut",
            note=note.index,
            from_m=bend.from_m,
            to_m=bend.to_m,
            called="don't cut",
            met=message("a line of {radius_m:.0f} m", radius_m=bend.radius_m),
            severity="check",
            confidence=CUT_SURE,
            risk=CUT_RISK * case.hazard_weight(note),
            because=(because,),
            proposal=None,
        )
