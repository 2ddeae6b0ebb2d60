"""How long before its corner a crew calls: at night against by day, in the wet against in the dry, on later passes against the first.

What the pass was like is what the crew wrote about it. Its usual lead is the median of its calls; two kinds of pass are held against each
other by the medians of their passes. What a grade means does not change with the light: the book is the same.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from mirkle.core.habits.evidence import PassEvidence
from mirkle.core.habits.findings import LEAST_CALLS, MEDIAN_WORSE, MOST_EXAMPLES, SAID, Habit, sure_of
from mirkle.core.messages import gettext_noop, message
from mirkle.core.recording.model import Floats

# What a difference of leads comes to without a habit and with one (s), and how many crews have one. # from memory
NULL_S, SLAB_S, SHARE = 0.15, 0.6, 0.25
# The least that is said (s), from this many passes of each kind on.
LEAST_S, LEAST_PASSES = 0.3, 3
# How far the medians of two passes of one crew differ by themselves (s). # from memory
PASS_SD_S = 0.25
# Each kind of pass by its word, with what is said where calls come later on it, where they come earlier, and what to try.
WORDS = {
    "night": (
        gettext_noop("At night you call {0:.1f} s later than by day."),
        gettext_noop("At night you call {0:.1f} s earlier than by day."),
        gettext_noop("Agree before a night stage how early the driver wants each call."),
    ),
    "wet": (
        gettext_noop("In the wet you call {0:.1f} s later than in the dry."),
        gettext_noop("In the wet you call {0:.1f} s earlier than in the dry."),
        gettext_noop("The car is slower in the wet, and brakes for longer: agree what the driver wants."),
    ),
    "later": (
        gettext_noop("On later passes you call {0:.1f} s later than on the first."),
        gettext_noop("On later passes you call {0:.1f} s earlier than on the first."),
        gettext_noop("A pass that is known is driven faster: the same lead takes an earlier call."),
    ),
}


def lead_habits(evidence: Sequence[PassEvidence]) -> list[Habit]:
    """The differences that are sure enough to be said."""
    heard = [(one, float(np.nanmedian(one.lead_s))) for one in evidence if np.isfinite(one.lead_s).sum() >= LEAST_CALLS]
    found = [_habit(kind, heard) for kind in WORDS]
    return [habit for habit in found if habit is not None]


def _habit(kind: str, heard: Sequence[tuple[PassEvidence, float]]) -> Habit | None:
    """The difference of one kind of pass, where it is sure and large enough."""
    of_it, others = ([pair for pair in heard if (kind in pair[0].conditions) is there] for there in (True, False))
    if min(len(of_it), len(others)) < LEAST_PASSES:
        return None
    leads, other_leads = (np.array([lead for _, lead in pairs]) for pairs in (of_it, others))
    usual = float(np.median(other_leads))
    size, sd = float(np.median(leads)) - usual, float(np.hypot(_sd(leads), _sd(other_leads)))
    sure = sure_of(size, sd, NULL_S, SLAB_S, SHARE)
    if sure < SAID or abs(size) < LEAST_S:
        return None
    later, earlier, advice = WORDS[kind]
    said = message(later if size < 0 else earlier, abs(size))
    examples = tuple((one, one.notes[int(np.nanargmin(one.lead_s))]) for one, _ in of_it[:MOST_EXAMPLES])
    stages = len({one.stage for one, _ in of_it})
    return Habit(f"lead-{kind}", size, sure, stages, said, message(advice), examples, tuple((leads - usual).tolist()))


def _sd(leads: Floats) -> float:
    """The standard deviation of a median of passes; few passes say little of how they differ."""
    spread = np.hypot(PASS_SD_S, np.std(leads)) / np.sqrt(2.0) if len(leads) > 1 else PASS_SD_S
    return float(MEDIAN_WORSE * spread / np.sqrt(len(leads)))
