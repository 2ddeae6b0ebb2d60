"""Judging the drive: braking that no note asked for, and speed that was left unused."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from mirkle.core.judging.findings import Facts, Finding, JudgingContext, Proposal
from mirkle.core.messages import clause
from mirkle.core.motion.bends import Bend
from mirkle.core.notes.rewording import Rewording
from mirkle.core.recording.model import GRAVITY_MPS2

# Harder than this car usually brakes, and inside the corner: nobody plans that.
HARDER_THAN_USUAL, SUDDEN_M = 1.1, 8.0
# Grip used against the envelope: below this, in a bend that turned, speed was left.
CLEARLY_UNUSED = 0.5
LEAST_SECONDS = 0.2
# A cut straightens a clear corner by about half a grade. # from three worlds not our own
CUT_WIDER, CUT_TURNS_DEG = 0.45, 25.0


def judge_driving(case: JudgingContext, taken: frozenset[int]) -> Iterator[Finding]:
    """Surprises and spare speed; ``taken`` notes carry a finding on their grade or shape already."""
    yield from _surprises(case, taken)
    yield from _spare(case, taken)
    yield from _cuts(case)


def _surprises(case: JudgingContext, taken: frozenset[int]) -> Iterator[Finding]:
    """Speed scrubbed inside a corner whose note said that it could be carried."""
    profile = case.profile
    slowing = -np.gradient(0.5 * profile.speed_mps**2, profile.distance_m)
    for tie in case.lineup.ties:
        note = case.notes[tie.note]
        called = case.called_position(note)
        if tie.bend is None or note.grade is None or tie.note in taken or tie.sure < 0.8:
            continue
        if called is None or called < case.school.top - 2.2:
            continue
        first, last = int(tie.bend.from_m - 15), int(tie.bend.apex_m)
        inside = slowing[max(0, first) : max(first + 1, last)]
        hard = float(np.sum(inside > HARDER_THAN_USUAL * case.pace.braking_mps2))
        believed = case.pace.believed_mps(called)
        if hard < SUDDEN_M or tie.bend.speed_min_mps > 0.87 * believed or tie.position is None:
            continue
        if _next_is_tight(case, tie.bend):
            continue
        rewording = Rewording(caution=case.hand.usual_caution)
        yield Finding(
            id=f"surprise@{tie.note}",
            kind="surprise",
            note=tie.note,
            from_m=tie.bend.from_m,
            to_m=tie.bend.to_m,
            called=note.grade,
            met=clause("{0:.0f} km/h", tie.bend.speed_min_mps * 3.6),
            severity="check",
            confidence=0.25,
            risk=0.8,
            because=(
                clause(
                    "Braked up to {0:.1f} g into a {1}, down to {2:.0f} km/h, where your {1}s carry about {3:.0f}: something "
                    "here surprised the driver.",
                    float(inside.max()) / GRAVITY_MPS2,
                    note.grade,
                    tie.bend.speed_min_mps * 3.6,
                    believed * 3.6,
                ),
            ),
            proposal=None
            if note.cautions
            else Proposal(note.index, note.index, case.hand.reworded(note, rewording), rewording),
            facts=Facts(braking_mps2=float(inside.max()), speed_mps=tie.bend.speed_min_mps, believed_mps=believed),
        )


def _next_is_tight(case: JudgingContext, bend: Bend) -> bool:
    """Whether the braking was for the corner behind this one."""
    behind = case.bend_behind(bend)
    if behind is None:
        return False
    needed_m = (bend.speed_min_mps**2 - behind.speed_min_mps**2) / (2 * case.pace.braking_mps2)
    return behind.from_m - bend.to_m < needed_m + 30.0


def _spare(case: JudgingContext, taken: frozenset[int]) -> Iterator[Finding]:
    for tie in case.lineup.ties:
        bend = tie.bend
        note = case.notes[tie.note]
        if (
            bend is None
            or tie.note in taken
            or tie.sure < 0.8
            or bend.turn_deg < 15
            or bend.radius_m > 180
            or case.coarse
        ):
            continue
        if note.grade is None or tie.note in case.slides_deg or _next_is_tight(case, bend):
            continue
        used = bend.speed_min_mps**2 / bend.radius_m / case.pace.grip(bend.apex_m)
        allowed = min(case.pace.allowed_mps(bend), case.pace.reachable_mps(case.profile, bend))
        if used > case.given.unused_grip or allowed < 1.12 * bend.speed_min_mps:
            continue
        seconds = bend.length_m / bend.speed_min_mps - bend.length_m / allowed
        if seconds < LEAST_SECONDS:
            continue
        yield Finding(
            id=f"spare@{tie.note}",
            kind="spare",
            note=tie.note,
            from_m=bend.from_m,
            to_m=bend.to_m,
            called=note.grade,
            met=clause("{0:.0%} of the grip", used),
            severity="check" if used < CLEARLY_UNUSED else "remark",
            confidence=0.65,
            risk=0.05,
            because=(
                clause(
                    "{0:.0f} km/h used {1:.0%} of the grip that you use elsewhere on this part; at most {2:.1f} s lay in it.",
                    bend.speed_min_mps * 3.6,
                    used,
                    seconds,
                ),
            ),
            proposal=None,
            seconds=float(seconds),
            facts=Facts(speed_mps=bend.speed_min_mps, used=used),
        )


def _cuts(case: JudgingContext) -> Iterator[Finding]:
    """Corners that must not be cut, driven on a line wider than they were written for.

    Positions are good to a metre or two, so a cut is not seen itself; what is seen is the wider line that it leaves.
    """
    for tie in case.lineup.ties:
        bend, note = tie.bend, case.notes[tie.note]
        called = case.called_position(note)
        if (
            bend is None
            or tie.position is None
            or called is None
            or all(line.name != "don't cut" for line in note.line_on_road)
        ):
            continue
        wider = tie.position - called
        if wider < CUT_WIDER or bend.turn_deg < CUT_TURNS_DEG or tie.sure < 0.8 or tie.note in case.slides_deg:
            continue
        yield Finding(
            id=f"cut@{tie.note}",
            kind="cut-at-dont-cut",
            note=tie.note,
            from_m=bend.from_m,
            to_m=bend.to_m,
            called="don't cut",
            met=clause("a line of {0:.0f} m", bend.radius_m),
            severity="check",
            confidence=0.6,
            risk=0.7 * case.hazard_weight(note),
            because=(
                clause(
                    "The note says not to cut; the line was {0:.0f} m at its tightest, {1:.1f} of a grade wider than the "
                    "corner is written: look on the video whether the car cut.",
                    bend.radius_m,
                    wider,
                ),
            ),
            proposal=None,
            facts=Facts(radius_m=bend.radius_m, grades_off=wider),
        )
