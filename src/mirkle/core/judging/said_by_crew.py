"""What the crew itself says of a note, behind the finish or right behind the corner: its word beside what was measured, and never more
than a question."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from mirkle.core.judging.findings import Finding, JudgingContext
from mirkle.core.lineup.note_positions import NotePositions
from mirkle.core.lineup.remarks import Remark
from mirkle.core.messages import message
from mirkle.core.notes.language import Language
from mirkle.core.notes.model import Note
from mirkle.core.notes.rewording import Rewording
from mirkle.core.speech.debrief import Wish, wanted_in, wish_in

# What a crew says of a corner is right about as often as not, and worth more when it names a grade. # common practice
SAID_SURE, NAMED_RISK, TALKED_RISK = 0.5, 0.9, 0.3


def judge_debrief(case: JudgingContext) -> Iterator[Finding]:
    """A finding for each note that the crew spoke of; the last word on a note holds, and what was put on a note by hand before all."""
    last: dict[int, tuple[Wish, str]] = {}
    by_hand = {remark.text for remark in case.by_hand}
    for remark in case.remarks:
        wish = wish_of(remark, case.notes, case.hand.language, case.positions) if remark.text not in by_hand else None
        if wish is not None:
            last[wish.note] = (wish, remark.text)
    for placed in case.by_hand:
        if placed.note is not None:
            last[placed.note] = (Wish(placed.note, wanted_in(placed.text, case.hand.language)), placed.text)
    for wish, words in last.values():
        if not wish.grade or wish.grade != case.notes[wish.note].grade:
            yield _finding(case, case.notes[wish.note], wish, words)


def wish_of(remark: Remark, notes: Sequence[Note], language: Language, positions: NotePositions) -> Wish | None:
    """The note that words said on the stage or behind its finish are about, where one and no other is meant."""
    if remark.incident:
        return None
    before = None if remark.debrief else positions.last_before(remark.at_m)
    return wish_in(remark.text, notes, language, before.index if before is not None and before.is_corner else None)


def _finding(case: JudgingContext, note: Note, wish: Wish, words: str) -> Finding:
    bend = case.lineup.bend_of(note.index)
    at_m = case.positions.shown_m(note.index)
    regraded = bool(wish.grade) and note.grade is not None
    because = [message("You said: “{words}”.", words=words)]
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
