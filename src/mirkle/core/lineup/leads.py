"""How long before its corner each note was called: the lead, worked out here and nowhere else."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from mirkle.core.lineup.call_clock import Clock, SpokenNote, usual_lead
from mirkle.core.lineup.note_positions import NotePositions
from mirkle.core.lineup.result import Lineup
from mirkle.core.motion.profile import Profile

# Fewer calls than this show no habit.
LEAST_LEADS = 10


@dataclass(frozen=True)
class Leads:
    """Seconds from the first word of each corner's call to the corner, by note; ``habit_s`` is the crew's usual one and ``spread_s``
    how much it varies, the latter ``None`` where too few were heard to tell."""

    by_note: Mapping[int, float]
    habit_s: float
    spread_s: float | None


def leads_of(lineup: Lineup, positions: NotePositions, profile: Profile, said: Sequence[SpokenNote | None], clock: Clock | None) -> Leads:
    """The leads of the notes that have a bend and were said after the launch."""
    by_note: dict[int, float] = {}
    trusted: list[float] = []
    for tie in lineup.ties if clock is not None else ():
        spoken = said[tie.note]
        if spoken is None or tie.bend is None or clock is None:
            continue
        said_s = clock.run_s(spoken.time.from_s)
        if said_s > profile.time_s[0]:
            lead = profile.seconds_at(positions.call_leads_to_m(tie.note)) - said_s
            by_note[tie.note] = lead
            trusted += [lead] if tie.sure >= 0.6 else []
    habit_s, spread_s, count = usual_lead(np.array(trusted))
    return Leads(by_note, habit_s, spread_s if count >= LEAST_LEADS else None)
