"""The time until the next control: which findings fit in it, and when there are more changes than a crew can rehearse."""

from __future__ import annotations

from dataclasses import dataclass

from mirkle.core.judging.findings import Finding
from mirkle.core.messages import Message, message
from mirkle.session.reviewed_pass import ReviewedPass

# What a crew needs to look at a finding and decide, and to copy a change into a paper book. # common practice
SECONDS = {"danger": 60.0, "change": 45.0, "check": 40.0, "remark": 15.0}
COPYING_S = 20.0
# Who changes more at one service drives a stage that he has not rehearsed. # common practice
MOST_CHANGES = 12


@dataclass(frozen=True)
class TimeBudget:
    """What fits into ``seconds_left``: how many of the ``waiting`` findings, in the order chosen, after the copying."""

    seconds_left: float
    fitting: int
    waiting: int

    @property
    def words(self) -> Message:
        """One sentence for the crew."""
        minutes = int(self.seconds_left // 60)
        left = message("{0} min left", minutes) if minutes else message("under a minute left")
        if not self.waiting:
            return message("{0}; all is decided", left)
        if self.fitting >= self.waiting:
            return message("{0}: time for all {1}", left, self.waiting)
        return message("{0}: time for {1} of {2}", left, self.fitting, self.waiting)


def plan_for(stage: ReviewedPass, seconds_left: float) -> TimeBudget:
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
    return TimeBudget(max(0.0, seconds_left), fitting, len(waiting))


def _seconds(finding: Finding) -> float:
    # Most of what is looked at is marked, and has to be copied.
    return SECONDS[finding.severity] + (COPYING_S if finding.proposal is not None else 0.0)


def too_many(stage: ReviewedPass) -> Message | None:
    """A warning where there are more changes than can be rehearsed."""
    count = len(stage.book.edition.changes)
    if count <= MOST_CHANGES:
        return None
    return message("{0} changes: too many to rehearse", count)
