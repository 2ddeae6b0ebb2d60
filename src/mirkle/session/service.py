"""The time until the next control: which findings fit in it, and when there are more changes than a crew can rehearse."""

from __future__ import annotations

from dataclasses import dataclass

from mirkle.core.verdict.findings import Finding
from mirkle.session.stage import Stage

# What a crew needs to look at a finding and decide, and to copy a change into a paper book. # common practice
SECONDS = {"danger": 60.0, "change": 45.0, "check": 40.0, "remark": 15.0}
COPYING_S = 20.0
# Who changes more at one service drives a stage that he has not rehearsed. # common practice
MOST_CHANGES = 12


@dataclass(frozen=True)
class Plan:
    """What fits into ``seconds_left``: so many of the ``waiting`` findings, in the order chosen, after the copying."""

    seconds_left: float
    fitting: int
    waiting: int

    @property
    def words(self) -> str:
        """One sentence for the crew."""
        minutes = int(self.seconds_left // 60)
        left = f"{minutes} min left" if self.seconds_left >= 60 else "under a minute left"
        if not self.waiting:
            return f"{left}; all is decided"
        if self.fitting >= self.waiting:
            return f"{left}: time for all {self.waiting}"
        return f"{left}: time for {self.fitting} of {self.waiting}"


def plan_for(stage: Stage, seconds_left: float) -> Plan:
    """What fits, with the time to copy what is marked already taken off."""
    decided = stage.book.decisions
    waiting = [f for f in stage.listed if f.id not in decided]
    room = seconds_left - COPYING_S * len(stage.book.edition.changes)
    fitting = 0
    for finding in waiting:
        room -= _seconds(finding)
        if room < 0:
            break
        fitting += 1
    return Plan(max(0.0, seconds_left), fitting, len(waiting))


def _seconds(finding: Finding) -> float:
    # Most of what is looked at is marked, and has to be copied.
    return SECONDS[finding.severity] + (COPYING_S if finding.proposal is not None else 0.0)


def too_many(stage: Stage) -> str:
    """A warning where there are more changes than can be rehearsed; else empty."""
    count = len(stage.book.edition.changes)
    if count <= MOST_CHANGES:
        return ""
    return f"{count} changes: too many to rehearse"
