"""How a practised call compares with when it was due, what of a change is rehearsed, and which places to do again."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from mirkle.core.judging.call_timing import EARLY_FOR_HABIT_S
from mirkle.core.rehearsal.pacing import Pacing

Verdict = Literal["early", "in-time", "late", "not-called"]
# A change is rehearsed when it was called in time this often.
OFTEN_ENOUGH = 2
WORST = 3


@dataclass(frozen=True)
class Practised:
    """A line as it was called: how much later than it was due, in seconds and metres at that pace, both nan where it was not called."""

    line: int
    change: str
    verdict: Verdict
    late_s: float
    late_m: float

    @property
    def trouble(self) -> float:
        """How much there is to do again: not called before late before early."""
        if self.verdict == "not-called":
            return 100.0
        return 10.0 + self.late_s if self.verdict == "late" else -self.late_s if self.verdict == "early" else 0.0


def judged(pacing: Pacing, line: int, at_s: float, pace: float) -> Practised:
    """A line that was begun at a moment of the stage's clock at that pace; nan where its corner came and it was not called."""
    name = pacing.lines[line].change
    if not np.isfinite(at_s):
        return Practised(line, name, "not-called", float("nan"), float("nan"))
    lead_s = float(pacing.corner_s[line]) / pace - at_s
    late_s = pacing.habit_s - lead_s
    late_m = pacing.place_m(at_s, pace) - pacing.place_m(at_s - late_s, pace)
    verdict: Verdict = "in-time"
    if lead_s < pacing.needed_s(line, pace):
        verdict = "late"
    elif lead_s > pacing.habit_s + EARLY_FOR_HABIT_S and at_s > 0.0:
        verdict = "early"
    return Practised(line, name, verdict, late_s, late_m)


def rehearsed(practised: Iterable[tuple[str, Verdict]]) -> frozenset[str]:
    """The changes that were called in time often enough, from every call of a change that was practised."""
    counts = Counter(change for change, verdict in practised if verdict == "in-time")
    return frozenset(change for change, count in counts.items() if count >= OFTEN_ENOUGH)


def worst(practised: Sequence[Practised]) -> list[Practised]:
    """The places to do again, the worst first, :data:`WORST` at most; none of them beside another."""
    out: list[Practised] = []
    for one in sorted(practised, key=lambda p: -p.trouble):
        if one.trouble > 0.0 and all(abs(one.line - other.line) > 2 for other in out):
            out.append(one)
    return out[:WORST]
