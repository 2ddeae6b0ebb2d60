"""How and when each note of the book was called, and how long before its corner: the lead, worked out here and nowhere else."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from mirkle.core.lineup.call_clock import Clock, usual_lead
from mirkle.core.lineup.note_positions import NotePositions
from mirkle.core.lineup.result import Lineup
from mirkle.core.motion.profile import Profile
from mirkle.core.notes.model import Note
from mirkle.core.speech.delivery import Spoken
from mirkle.core.speech.reading import CallTime, Speech

# Fewer calls than this show no habit, and a note less sure of its bend teaches none.
LEAST_LEADS, TEACHES = 10, 0.6


@dataclass(frozen=True)
class CallRecord:
    """How a note of the book was called: ``how`` it was said, ``None`` where no words were recorded; the note that was ``said``, ``None``
    where it was not; and the seconds from its first word to its corner, ``None`` where one of the two is not known, or it was said before
    the launch."""

    how: Spoken | None = None
    said: Note | None = None
    lead_s: float | None = None

    @property
    def time(self) -> CallTime | None:
        """When it was said, on the words' clock."""
        if self.how is None or self.said is None:
            return None
        return CallTime(self.how.from_s, self.how.to_s, self.how.uncertainty_s)


@dataclass(frozen=True)
class UsualLead:
    """How long before a corner this crew likes its call, in ``seconds``, and how much that varies, ``None`` where too few were heard to
    tell."""

    seconds: float
    spread_s: float | None


def call_records(count: int, speech: Speech | None) -> tuple[CallRecord, ...]:
    """How each of some notes was said."""
    if speech is None:
        return (CallRecord(),) * count
    notes = speech.reading.notes
    return tuple(CallRecord(how, notes[how.note] if how.note is not None else None) for how in speech.spoken)


def with_leads(
    calls: Sequence[CallRecord], lineup: Lineup, positions: NotePositions, profile: Profile, clock: Clock | None
) -> tuple[tuple[CallRecord, ...], UsualLead]:
    """The calls with the leads of the notes that have a bend and were said after the launch, and this crew's usual one."""
    out = [replace(call, lead_s=None) for call in calls]
    trusted: list[float] = []
    for tie in lineup.ties if clock is not None else ():
        time = calls[tie.note].time
        if time is None or tie.bend is None or clock is None:
            continue
        said_s = clock.run_s(time.from_s)
        if said_s > profile.time_s[0]:
            lead = profile.seconds_at(positions.call_leads_to_m(tie.note)) - said_s
            out[tie.note] = replace(out[tie.note], lead_s=lead)
            trusted += [lead] if tie.sure >= TEACHES else []
    seconds, spread_s, count = usual_lead(np.array(trusted))
    return tuple(out), UsualLead(seconds, spread_s if count >= LEAST_LEADS else None)
