"""Which notes can be believed: over all passes, how often each was right for the road and called in time.

A pass speaks of a note where it is surely paired with a bend and the pass counts there. It speaks against it with a finding on the note
itself (a danger, a change or a check), and not with how the pass was driven or called. Nothing here makes a note faster.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from mirkle.core.followup.changes import unchanged_notes
from mirkle.core.judging.finding_kinds import KINDS
from mirkle.core.judging.findings import SURELY_PAIRED
from mirkle.core.messages import Message, counted, gettext_noop, in_a_row, message
from mirkle.core.notes.model import Note
from mirkle.core.review import Review

State = Literal["proven", "doubtful", "not-enough"]
STATE_WORDS: dict[State, str] = {
    "proven": gettext_noop("proven"),
    "doubtful": gettext_noop("doubtful"),
    "not-enough": gettext_noop("not enough passes"),
}
# A note holds when it was right on this many passes. # common practice
OFTEN_ENOUGH = 2


@dataclass(frozen=True)
class Belief:
    """A note of the last pass with its passes: on how many it was ``right`` and ``wrong``, and called ``in_time`` and ``late``."""

    note: Note
    right: int
    wrong: int
    in_time: int
    late: int

    @property
    def state(self) -> State:
        """Proven where it was right often enough and never wrong or late."""
        if self.wrong:
            return "doubtful"
        return "proven" if self.right >= OFTEN_ENOUGH and not self.late else "not-enough"

    @property
    def sentence(self) -> Message:
        """What the passes say of it, in a line."""
        parts = []
        if self.right:
            parts.append(counted("right once", "right {0} times", self.right))
        if self.wrong:
            parts.append(counted("wrong once", "wrong {0} times", self.wrong))
        if self.in_time:
            parts.append(counted("in time once", "in time {0} times", self.in_time))
        if self.late:
            parts.append(counted("late once", "late {0} times", self.late))
        return in_a_row(parts, ", ") if parts else message("no pass shows it")


def beliefs(reviews: Sequence[Review]) -> list[Belief]:
    """The corner notes of the last review, each with what all passes say of it; a note that was changed begins anew with its edition.

    Parameters
    ----------
    reviews : the passes in the order driven, each with the edition that was read on it
    """
    last = reviews[-1].notes
    same = [unchanged_notes(last, review.notes) for review in reviews]
    out = []
    for note in (n for n in last if n.is_corner):
        spoken = [_verdict(review, of[note.index]) for review, of in zip(reviews, same, strict=True) if note.index in of]
        right, in_time = ([s[k] for s in spoken if s[k] is not None] for k in (0, 1))
        out.append(Belief(note, sum(map(bool, right)), right.count(False), sum(map(bool, in_time)), in_time.count(False)))
    return out


def _verdict(review: Review, note: int) -> tuple[bool | None, bool | None]:
    """Whether a pass found a note right, and its call in time; ``None`` where it shows neither."""
    tie = review.lineup.tie_of.get(note)
    if tie is None or tie.bend is None or tie.sure < SURELY_PAIRED or any(p.holds(tie.bend.apex_m) for p in review.parts):
        return None, None
    found = {f.kind for f in review.findings if f.note == note and f.severity != "remark"}
    in_time = None if review.calls[note].lead_s is None else "call-late" not in found
    return not any(map(_is_against_the_note, found)), in_time


def _is_against_the_note(kind: str) -> bool:
    """Whether a kind of finding is measured, and says that the note itself is wrong for the road."""
    return not (KINDS[kind].of_the_pass or KINDS[kind].of_a_place or kind == "said-by-you")
