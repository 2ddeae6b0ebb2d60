"""What was said in the car that is no note, at the place where the car was."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from mirkle.core.lineup.call_clock import Clock
from mirkle.core.motion.profile import Profile
from mirkle.core.speech.reading import SpokenWord

ROLES = ("remark", "incident", "after")
# A longer silence ends what was said in one breath.
BREATH_S = 1.5


@dataclass(frozen=True)
class Remark:
    """Words said in one breath at ``at_m`` from the start line, from ``at_s`` on by the words' clock.

    ``incident`` where they tell of something that happened; ``debrief`` where they were said behind the finish.
    """

    at_m: float
    text: str
    incident: bool
    at_s: float = math.nan
    debrief: bool = False


@dataclass(frozen=True)
class HandRemark:
    """What the crew said or remembered, as somebody put it on a note; ``None``: it waits for its place, or is about no note."""

    text: str
    note: int | None = None


def remarks_of(words: Sequence[SpokenWord], clock: Clock, profile: Profile) -> tuple[Remark, ...]:
    """Remarks and incidents in the order of the road, and the debrief behind the finish, at the end of what was driven; what was said
    before the start is left out.

    ``clock`` ties the words to the recording.
    """
    stop_s = float(profile.time_s[-1])
    found = []
    for breath in _breaths(words):
        first, at_s = breath[0], clock.run_s(breath[0].at_s)
        if at_s >= profile.time_s[0]:
            text = " ".join(w.text for w in breath)
            debrief = first.role == "after" or at_s > stop_s
            place_m = profile.metres_at(min(at_s, stop_s))
            found.append(Remark(place_m, text, first.role == "incident", first.at_s, debrief))
    return tuple(found)


def _breaths(words: Sequence[SpokenWord]) -> Iterator[list[SpokenWord]]:
    """The words of remarks, those of one role that were said in one breath together."""
    breath: list[SpokenWord] = []
    for word in words:
        if breath and (word.role != breath[0].role or word.at_s - breath[-1].at_s > BREATH_S):
            yield breath
            breath = []
        if word.role in ROLES:
            breath.append(word)
    if breath:
        yield breath
