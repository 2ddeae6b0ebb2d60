"""What fits before the starts of a day: the work on all stages, most risk first, and what will not fit.

Each piece of work has minutes, the risk that it takes away, and a deadline: the start of its stage. Work is taken in by risk a minute, as
long as everything taken in still fits when it is done in the order of deadlines; earliest deadline first is feasible whenever any order
is (Jackson 1955). What is driven meanwhile is no time for work.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from mirkle.core.rally.itinerary import Item

WorkKind = Literal["danger", "change", "copy", "rehearse", "check"]
# In this order the work on a stage is done: what is decided is copied, and then rehearsed.
ORDER: tuple[WorkKind, ...] = ("danger", "change", "copy", "rehearse", "check")
# What a crew needs for one of each (min): as the time control counts; a changed place is rehearsed twice. # common practice
MINUTES: dict[WorkKind, float] = {"danger": 1.33, "change": 1.08, "copy": 0.33, "rehearse": 0.5, "check": 0.67}
# What one of each is worth before another. A danger that nobody looked at stands in the book; a change that was not copied is called as
# before; what was changed and not rehearsed surprises. # common practice
RISK: dict[WorkKind, float] = {"danger": 20.0, "copy": 6.0, "change": 4.0, "rehearse": 2.5, "check": 1.0}
# Before a start belts, helmet and radio are seen to. # common practice
READY_MIN = 10.0


@dataclass(frozen=True)
class Work:
    """``count`` pieces of one kind of work on a stage, to be done before ``due``."""

    stage: str
    kind: WorkKind
    count: int
    due: datetime

    @property
    def minutes(self) -> float:
        """How long all of it takes."""
        return self.count * MINUTES[self.kind]


@dataclass(frozen=True)
class Plan:
    """``doing`` is the work that fits, in the order in which it is best done; ``left`` what does not fit, the gravest first. Work of one
    kind may be in both, in part."""

    doing: tuple[Work, ...]
    left: tuple[Work, ...]


def free_minutes(items: Iterable[Item], now: datetime, until: datetime) -> float:
    """The minutes from ``now`` to ``until`` in which nobody drives, less what getting ready takes."""
    driving = sorted((max(now, i.start), min(until, i.end)) for i in items if i.kind in ("stage", "liaison") and not i.cancelled)
    taken, reached = 0.0, now
    for begins, ends in driving:
        begins = max(begins, reached)
        if ends > begins:
            taken += (ends - begins).total_seconds() / 60.0
            reached = ends
    return max(0.0, (until - now).total_seconds() / 60.0 - taken - READY_MIN)


def plan_work(works: Sequence[Work], items: Sequence[Item], now: datetime) -> Plan:
    """What of the work fits before its deadlines."""
    room = {due: free_minutes(items, now, due) for due in sorted({w.due for w in works})}
    taken: dict[datetime, float] = dict.fromkeys(room, 0.0)

    def spare(due: datetime) -> float:
        """How many more minutes of work that is due then fit: no deadline from there on may be passed."""
        used = 0.0
        best = float("inf")
        for at, minutes in room.items():
            used += taken[at]
            if at >= due:
                best = min(best, minutes - used)
        return best

    doing: list[Work] = []
    left: list[Work] = []
    for work in sorted(works, key=lambda w: (-RISK[w.kind] / MINUTES[w.kind], w.due, w.stage)):
        fits = max(0, min(work.count, int((spare(work.due) + 1e-9) / MINUTES[work.kind])))
        taken[work.due] += fits * MINUTES[work.kind]
        for count, of in ((fits, doing), (work.count - fits, left)):
            if count:
                of.append(Work(work.stage, work.kind, count, work.due))
    doing.sort(key=lambda w: (w.due, ORDER.index(w.kind)))
    left.sort(key=lambda w: (-RISK[w.kind], w.due))
    return Plan(tuple(doing), tuple(left))
