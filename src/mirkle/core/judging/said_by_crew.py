"""What the crew itself says of a note, behind the finish or right behind the corner: its word beside what was measured, and never more
than a question."""

from __future__ import annotations

from collections.abc import Iterator

from mirkle.core.judging.findings import Finding, JudgingContext
from mirkle.core.lineup.remarks import Remark
from mirkle.core.messages import message
from mirkle.core.notes.model import Note
from mirkle.core.notes.rewording import Rewording
from mirkle.core.speech.debrief import Wish, wish_in

# What a crew says of a corner is right about as often as not, and worth more when it names a grade. # common practice
SAID_SURE, NAMED_RISK, TALKED_RISK = 0.5, 0.9, 0.3


def judge_debrief(case: JudgingContext) -> Iterator[Finding]:
    """A finding for each note that the crew spoke of; the last word on a note holds."""
    last: dict[int, tuple[Wish, Remark]] = {}
    for remark in case.remarks:
        driven = None if remark.debrief else _driven_before(case, remark.at_m)
        wish = None if remark.incident else wish_in(remark.text, case.notes, case.hand.language, driven)
        if wish is not None and wish.grade != case.notes[wish.note].grade:
            last[wish.note] = (wish, remark)
    for wish, remark in last.values():
        yield _finding(case, case.notes[wish.note], wish, remark)


def _driven_before(case: JudgingContext, at_m: float) -> int | None:
    """The corner note that was driven last before a place."""
    before = case.positions.last_before(at_m)
    return before.index if before is not None and before.is_corner else None


def _finding(case: JudgingContext, note: Note, wish: Wish, remark: Remark) -> Finding:
    bend = case.lineup.bend_of(note.index)
    at_m = case.positions.shown_m(note.index)
    regraded = bool(wish.grade) and note.grade is not None
    because = [message("You said: “{words}”.", words=remark.text)]
    corner = case.graded.get(note.index)
    if regraded and corner is not None:
        because.append(message("Measured, it turned like your {met}.", met=case.ruler(corner.bend, corner.position).grade))
    return Finding(
        id=f"crew@{note.index}",
        kind="said-by-you",
        note=note.index,
        from_m=bend.from_m if bend is not None else at_m,
        to_m=bend.to_m if bend is not None else at_m + 1.0,
        called=note.grade,
        met=wish.grade or None,
        severity="check" if regraded else "remark",
        confidence=SAID_SURE,
        risk=NAMED_RISK if regraded else TALKED_RISK,
        because=tuple(because),
        proposal=case.proposed(note, Rewording(grade=wish.grade)) if regraded else None,
    )
