"""Judging when the calls came: the lead against the crew's own habit and what braking needs."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from mirkle.core.judging.finding_kinds import Severity
from mirkle.core.judging.findings import Finding, JudgingContext
from mirkle.core.lineup.call_records import CallRecord
from mirkle.core.lineup.result import Pairing
from mirkle.core.messages import Called, Message, message
from mirkle.core.motion.bends import Bend
from mirkle.core.notes.rewording import Rewording
from mirkle.core.stats import normal_cdf

# A crew that calls late by habit is held to a call a second later still. # common practice
LATE_FOR_HABIT_S = 1.0
# A call this close to its corner (s), and later than this crew's habit by `late_spreads`, is late as well.
NEARLY_TOO_LATE_S = 1.8
EARLY_S, EARLY_FOR_HABIT_S = 7.0, 3.5
WORDS_A_SECOND = 4.5
# No timing is judged where the note's corner is less sure (probability) or its time less well known (s). A call that came longer ago is
# another note's (s), and the first calls come while the car stands (m).
PLACED, COARSELY_KNOWN_S, LONG_BEHIND_S, AT_THE_START_M = 0.9, 1.5, -3.0, 200.0
# How sure a late call is. Crews have their corner begin before its arc does: a lead that is measured from the arc is too little below the
# first (s), with the second as its standard deviation (s). # from training worlds
TOO_LITTLE_S, OF_PLACE_S = 1.9, 0.36
# No timing is surer than this, and an early call is a matter of taste.
MOST_SURE, EARLY_SURE = 0.95, 0.5
# Braking begins this far before a corner (m), with this deceleration (m/s²). # common practice
BRAKES_AHEAD_M, SLOWS_MPS2 = 80.0, 5.0


def judge_timing(case: JudgingContext) -> Iterator[Finding]:
    """Findings on calls that came too late or much too early."""
    usual = case.usual_lead
    if case.clock is None or usual is None or usual.spread_s is None:
        return
    latest = max(
        min(case.parameters.late_s, usual.seconds - LATE_FOR_HABIT_S),
        min(NEARLY_TOO_LATE_S, usual.seconds - case.parameters.late_spreads * usual.spread_s),
    )
    earliest = max(EARLY_S, usual.seconds + EARLY_FOR_HABIT_S)
    for tie in case.lineup.ties:
        call = case.calls[tie.note]
        lead = call.lead_s if _is_well_known(tie, call) else None
        if lead is None or tie.bend is None:
            continue
        late = LONG_BEHIND_S < lead < latest
        if late or (lead > earliest and tie.bend.from_m > AT_THE_START_M):
            yield _finding(case, tie, tie.bend, lead, late=late)


def _is_well_known(tie: Pairing, call: CallRecord) -> bool:
    """Whether both the corner of a note and the moment of its call are known."""
    return tie.sure >= PLACED and call.time is not None and call.time.uncertainty_s <= COARSELY_KNOWN_S


def _severity(late: bool, urgent: bool) -> Severity:
    if not late:
        return "remark"
    return "change" if urgent else "check"


def _finding(case: JudgingContext, tie: Pairing, bend: Bend, lead: float, *, late: bool) -> Finding:
    assert case.clock is not None
    assert case.usual_lead is not None
    note, habit, clock_sd_s = case.notes[tie.note], case.usual_lead.seconds, case.clock.uncertainty_s
    speed = case.speed_mps(bend.from_m - 10.0)
    braked_s = max(0.0, case.speed_mps(bend.from_m - BRAKES_AHEAD_M) - bend.speed_min_mps) / SLOWS_MPS2
    urgent = late and lead < braked_s and lead + 2 * clock_sd_s < case.parameters.late_s
    because = [_lead_against_habit(lead, habit, max(0.0, lead) * speed)]
    because += _sooner(case, bend, habit) if late else ()
    # Only a crew that writes the word knows what it asks for.
    asks = late and case.hand.writes("caution", "early")
    surely = normal_cdf((TOO_LITTLE_S - lead) / float(np.hypot(OF_PLACE_S, clock_sd_s))) if late else EARLY_SURE
    return Finding(
        id=f"call@{note.index}",
        kind="call-late" if late else "call-early",
        note=note.index,
        from_m=bend.from_m,
        to_m=bend.to_m,
        called=message("{lead_s:.1f} s before", lead_s=lead) if lead >= 0 else message("{late_s:.1f} s too late", late_s=-lead),
        met=message("you need {habit_s:.1f} s", habit_s=habit),
        severity=_severity(late, urgent),
        confidence=tie.sure * min(float(surely), MOST_SURE),
        risk=(1.0 + case.speed_kmh(bend.from_m) / 100.0) if late else 0.1,
        because=tuple(because),
        background=_bunched(case.calls, tie.note) if late else (),
        proposal=case.proposed(note, Rewording(caution="early")) if asks else None,
        figures={"lead_s": lead},
    )


def _lead_against_habit(lead: float, habit: float, met_m: float) -> Message:
    """How long before its corner a note was called, and how long before this crew likes it."""
    if lead < 0:
        return message(
            "Called {late_s:.1f} s too late, already in the corner. You need {habit_s:.1f} s before it.", late_s=-lead, habit_s=habit
        )
    return message(
        "Called {lead_s:.1f} s before the corner, {met_m:.0f} m at that speed. You need {habit_s:.1f} s.",
        lead_s=lead,
        met_m=met_m,
        habit_s=habit,
    )


def _sooner(case: JudgingContext, bend: Bend, habit_s: float) -> tuple[Message, ...]:
    """Where a call has to come so that it has its usual lead: how far back, and after which note's corner begins."""
    at_m = case.profile.metres_at(case.profile.seconds_at(bend.from_m) - habit_s)
    there = case.positions.last_before(at_m)
    if there is None or not 0.0 < at_m < bend.from_m:
        return ()
    return (message("To be in time, call it {ahead_m:.0f} m before the corner, at “{note}”.", ahead_m=bend.from_m - at_m, note=there.text),)


def _bunched(calls: Sequence[CallRecord], note: int) -> tuple[Message, ...]:
    """Which words could go, where more had to be said before than there was time for."""
    before, own = calls[note - 1] if note else CallRecord(), calls[note]
    if before.said is None or before.time is None or own.time is None:
        return ()
    words = len(before.said.text.split())
    spare = [thing for thing in before.said.objects if not thing.is_outside]
    if own.time.from_s - before.time.from_s < words / WORDS_A_SECOND + 0.3 and spare:
        return (message("The call before has {words} words. “{spare}” could be left out.", words=words, spare=Called(spare[-1].terms)),)
    return ()
