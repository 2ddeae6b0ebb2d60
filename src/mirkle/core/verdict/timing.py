"""Judging when the calls came: the lead against the crew's own habit and what braking needs."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from mirkle.core.lineup.calls import Clock, SaidNote
from mirkle.core.motion.bends import Bend
from mirkle.core.verdict.clauses import Clause, clause
from mirkle.core.verdict.findings import Case, Finding

# A call that ends less than this before its corner can't be acted on. # common practice
TOO_LATE_S, LATE_FOR_HABIT_S = 1.25, 2.0
# One that comes so near that, and so many of the crew's own spreads later than it likes, is a slip as well.
NEARLY_TOO_LATE_S, LATE_SPREADS = 2.0, 4.0
EARLY_S, EARLY_FOR_HABIT_S = 7.0, 3.5
WORDS_A_SECOND = 4.5


def judge_timing(case: Case, said: Sequence[SaidNote | None], clock: Clock | None) -> Iterator[Finding]:
    """Findings on calls that came too late or much too early."""
    if clock is None:
        return
    leads = _leads(case, said, clock)
    known = np.array([lead for lead in leads.values() if -2.0 < lead < 9.0])
    if len(known) < 10:
        return
    habit = float(np.median(known))
    spread = 1.483 * float(np.median(np.abs(known - habit)))
    unusual = min(NEARLY_TOO_LATE_S, habit - LATE_SPREADS * spread)
    for note in case.notes:
        lead = leads.get(note.index)
        spoken = said[note.index]
        if lead is None or spoken is None or spoken.time.uncertainty_s > 1.5:
            continue
        tie = case.lineup.tie_of[note.index]
        assert tie.bend is not None
        late = -3.0 < lead < max(min(TOO_LATE_S, habit - 0.5 * LATE_FOR_HABIT_S), unusual)
        early = lead > max(EARLY_S, habit + EARLY_FOR_HABIT_S) and tie.bend.from_m > 200
        if not late and not early:
            continue
        speed = case.speed_kmh(tie.bend.from_m - 10.0) / 3.6
        braked_s = max(0.0, (case.speed_kmh(max(0.0, tie.bend.from_m - 80.0)) / 3.6 - tie.bend.speed_min_mps)) / 5.0
        urgent = late and lead < braked_s and lead + 2 * clock.uncertainty_s < TOO_LATE_S
        yield Finding(
            id=f"call@{note.index}",
            kind="call-late" if late else "call-early",
            note=note.index,
            from_m=tie.bend.from_m,
            to_m=tie.bend.to_m,
            called=f"{lead:.1f} s before",
            met=f"you like {habit:.1f} s",
            severity="change" if urgent else "check" if late else "remark",
            confidence=float(np.clip(0.5 + 0.5 * (TOO_LATE_S - lead) / max(2 * clock.uncertainty_s, 0.3), 0.5, 0.95)),
            risk=(1.0 + case.speed_kmh(tie.bend.from_m) / 100.0) if late else 0.1,
            because=(
                clause(
                    "Said {0:.1f} s before the corner, {1:.0f} m at that speed; you like {2:.1f} s.",
                    lead,
                    max(0.0, lead) * speed,
                    habit,
                ),
                *(_bunched(said, note.index) if late else ()),
            ),
            proposal=None,
        )


def _leads(case: Case, said: Sequence[SaidNote | None], clock: Clock) -> dict[int, float]:
    """Seconds from the first word of each corner's call to the corner."""
    out = {}
    for tie in case.lineup.ties:
        spoken = said[tie.note]
        if spoken is None or tie.bend is None or tie.sure < 0.6:
            continue
        at_s = case.profile.seconds_at(_begins_m(case, tie.note, tie.bend))
        said_s = clock.run_s(spoken.time.from_s)
        if said_s > case.profile.time_s[0]:
            out[tie.note] = at_s - said_s
    return out


def _begins_m(case: Case, note: int, bend: Bend) -> float:
    """Where the corner of a call begins: its arc, or where the line bends as in a corner of its kind if that comes later.

    Where the line led into it without straightening the arc is too early: there the truth lies between it and what the
    notes say, and neither is better than the other.
    """
    begins = max(bend.from_m, bend.eased_from_m)
    gap = next((g for g in case.lineup.gaps if g.next_note == note), None)
    before = case.lineup.bend_of(gap.note) if gap is not None else None
    if gap is None or gap.met_m is not None or gap.called_m is None or before is None:
        return begins
    noted = before.to_m + float(case.lineup.distances.expected_m(np.array([gap.called_m]))[0])
    return 0.5 * (begins + float(np.clip(noted, begins, max(begins, bend.apex_m))))


def _bunched(said: Sequence[SaidNote | None], note: int) -> tuple[Clause, ...]:
    """Which words could go, where more had to be said before than there was time for."""
    before = said[note - 1] if note else None
    own = said[note]
    if before is None or own is None:
        return ()
    words = len(before.note.text.split())
    spare = [*before.note.objects, *before.note.line_on_road]
    if own.time.from_s - before.time.from_s < words / WORDS_A_SECOND + 0.3 and spare:
        return (clause("The call before has {0} words; “{1}” could go.", words, spare[-1]),)
    return ()
