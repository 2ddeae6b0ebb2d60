"""Whether these notes describe this road, which part of it, and if not, what they are.

The same notes are lined up as books that they are not: with their sides swapped, and read from the end. Each finds its own best
yardsticks, so whatever a chance alignment can gain is gained by all; what the true book gains beyond the best of those,
in nats a note, is how much the road speaks for it. Books of other roads gain next to nothing.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from mirkle.core.constants import km
from mirkle.core.lineup.alignment import Search
from mirkle.core.lineup.called_notes import CalledNotes
from mirkle.core.lineup.crew_scale import PLAIN_GAPS, plain_yardstick
from mirkle.core.lineup.iterated_fit import Settled, anywhere_windows, called_m, first_windows, settled
from mirkle.core.lineup.result import Lineup
from mirkle.core.lineup.road import Road
from mirkle.core.messages import Message, message
from mirkle.core.stats import logistic

# Nats a note by which a book is better than what it is not, where belonging is even, and how quickly it becomes sure. On
# training worlds right books gain 1.1 to 2.1, others -2.5 to 0.7.
EVEN_NATS, SLOPE_NATS = 0.9, 0.06
# A book that fits this closely, in nats a note and in grades, need not be held against others: on training worlds half of the
# right ones do, and no other came nearer than 4.0 and 0.74.
BEYOND_DOUBT_NATS, BEYOND_DOUBT_SCATTER = 3.2, 0.65
# A part of the road answers the book where its notes gain this much more than the others (nats a note), at least this share of them
# have a bend, and the scatter of their grades is at most this.
PART_NATS, PART_PAIRED, PART_SCATTER = 0.4, 0.9, 0.9
# Another reading of the notes is named where it gains as much as this on what stands.
OTHERWISE_NATS = 0.6
# Where fewer of them have a bend nothing of the book can be believed, however well those fit. # common practice
LEAST_PAIRED = 0.5
# Half of a book is the other half again from this share of equal notes on.
SAME_AGAIN = 0.9
LEAST_NOTES = 8
# A book whose distances and bends add up to less of the road is of a part at most: whole ones reach over 0.8 to 1.25 of it.
LEAST_REACH, TWICE_REACHES = 0.7, 1.5
# A part of a book describes the road up to this far beyond its first and last bend (m).
AT_ITS_ENDS_M = 30.0
ROUNDS_FOR_OTHERS = 2


MISFITS = {
    "opposite-way": message("These notes fit this road when it is driven the opposite way: nothing is judged."),
    "sides-swapped": message("These notes fit this road with left and right swapped: nothing is judged."),
    "pasted-twice": message("These notes are in the file twice: nothing is judged until one of the two is removed."),
    "another-stage": message("These notes do not describe this road; they look like another stage's: nothing is judged."),
    "other-words": message("What was said does not fit these notes; it looks like another stage's. The words are not used."),
}


@dataclass(frozen=True)
class BookFit:
    """How likely the notes describe the road from ``from_m`` to ``to_m``; ``why`` they hardly do, ``None`` where they do.

    ``why`` is ``another-stage``, ``opposite-way``, ``sides-swapped``, ``part`` (they describe only that part), or ``pasted-twice``;
    ``other-words`` where the notes fit and what was said does not.
    """

    probability: float
    from_m: float
    to_m: float
    why: str | None = None

    @property
    def sentence(self) -> Message | None:
        """What is wrong with the book, in a sentence; ``None`` where nothing is."""
        if self.why == "part":
            return message(
                "These notes describe only {0:.2f} to {1:.2f} km of this road: nothing is judged outside.", km(self.from_m), km(self.to_m)
            )
        return MISFITS[self.why] if self.why else None

    @property
    def belongs(self) -> bool:
        """Whether the notes can be judged by this road, or by a part of it."""
        return self.why in (None, "part", "other-words")

    def holds(self, from_m: float, to_m: float) -> bool:
        """Whether a stretch lies where the notes describe the road."""
        return self.belongs and (self.why != "part" or (from_m > self.from_m - AT_ITS_ENDS_M and to_m < self.to_m + AT_ITS_ENDS_M))


def belonging_of(calls: CalledNotes, road: Road, lineup: Lineup) -> BookFit:
    """Whether notes belong to a road with the whole of which they were lined up; a handful of notes can't be told and is believed."""
    length_m, cost, scatter = road.profile.length_m, lineup.cost, lineup.grades.scatter
    whole = BookFit(1.0, 0.0, length_m)
    if len(calls.notes) < LEAST_NOTES:
        return whole
    reach = called_m(calls) / length_m
    if reach > TWICE_REACHES and _twice(calls):
        return BookFit(0.0, 0.0, length_m, "pasted-twice")
    short = reach < LEAST_REACH
    beyond_doubt = cost < BEYOND_DOUBT_NATS * len(calls.notes) and scatter < BEYOND_DOUBT_SCATTER
    return whole if beyond_doubt and not short else _against_others(calls, road, lineup, short=short)


def _against_others(calls: CalledNotes, road: Road, lineup: Lineup, *, short: bool) -> BookFit:
    """Whether notes belong to a road, held against the same notes seen otherwise, which can't belong to it."""
    length_m, cost, paired = road.profile.length_m, lineup.cost, lineup.paired / len(lineup.ties)
    _, *seen_otherwise = _seen_otherwise(calls)
    others = [_gain(seen, road).table.whole for seen in seen_otherwise]
    margin = (min(others) - cost) / len(calls.notes)
    sure = logistic((margin - EVEN_NATS) / SLOPE_NATS)
    fits = sure >= 0.5 and paired >= LEAST_PAIRED
    # Where it is short and of no one part, pages are missing between notes that fit.
    part = _part(calls, road) if short or not fits else None
    if part is not None:
        return part
    if fits:
        return BookFit(sure, 0.0, length_m)
    why = "another-stage"
    if -margin > OTHERWISE_NATS:
        why = "sides-swapped" if others[0] == min(others) else "opposite-way"
    return BookFit(sure, 0.0, length_m, why)


def _seen_otherwise(calls: CalledNotes) -> tuple[CalledNotes, CalledNotes, CalledNotes]:
    """The notes as they are, with their sides swapped, and driven from the end, where sides swap, too."""
    back = calls.reversed()
    return calls, replace(calls, side=-calls.side), replace(back, side=-back.side)


def _gain(calls: CalledNotes, road: Road) -> Settled:
    search = Search(PLAIN_GAPS, first_windows(calls, road, PLAIN_GAPS))
    return settled(calls, road, plain_yardstick(calls.school), search, rounds=ROUNDS_FOR_OTHERS)


def _part(calls: CalledNotes, road: Road) -> BookFit | None:
    """The part of the road that the notes describe, if they clearly describe one."""
    found = []
    for seen in _seen_otherwise(calls):
        search = Search(PLAIN_GAPS, anywhere_windows(seen, road), free_ends=True)
        found.append(settled(seen, road, plain_yardstick(calls.school), search, rounds=ROUNDS_FOR_OTHERS))
    own, *others = found
    paired = own.chosen[own.chosen >= 0]
    margin = (min(o.table.whole for o in others) - own.table.whole) / len(calls.notes)
    if margin < PART_NATS or len(paired) < PART_PAIRED * len(own.chosen) or own.grades.scatter > PART_SCATTER:
        return None
    sure = logistic((margin - PART_NATS) / SLOPE_NATS)
    return BookFit(sure, float(road.runs.from_m[paired[0]]), float(road.runs.to_m[paired[-1]]), "part")


def _twice(calls: CalledNotes) -> bool:
    """Whether the second half of the notes is the first once more."""
    half = len(calls.notes) // 2
    said = [(n.direction, n.grade) for n in calls.notes]
    return half >= LEAST_NOTES and float(np.mean([a == b for a, b in zip(said[:half], said[-half:], strict=True)])) > SAME_AGAIN
