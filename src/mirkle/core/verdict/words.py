"""Judging words: where what was said in the car differs from what is written. In favour of neither."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from mirkle.core.clauses import Clause, clause
from mirkle.core.lineup.calls import SaidNote
from mirkle.core.notes.hand import Rewording
from mirkle.core.notes.model import Note
from mirkle.core.notes.said import Spoken, corner_words, differing, merely_shorter
from mirkle.core.verdict.findings import Case, Facts, Finding, Proposal

# It is the freshest evidence there is, and ready to be marked: ahead of what only sounds otherwise.
CORRECTED_RISK = 1.0


def judge_words(case: Case, said: Sequence[SaidNote | None], spoken: Sequence[Spoken]) -> Iterator[Finding]:
    """A finding for each note that was corrected aloud, or said otherwise than it is written; ``spoken`` is empty without words."""
    for note, heard, how in zip(case.notes, said, spoken, strict=False):
        bend = case.lineup.bend_of(note.index)
        if bend is None:
            continue
        found = _corrected(case, note, heard.note, how) if heard is not None and heard.note.first_called else None
        if (
            found is None
            and how.said_as == "otherwise"
            and not (heard is not None and merely_shorter(note, heard.note))
        ):
            found = _otherwise(note, heard, how)
        if found is not None:
            called, met, because, proposal = found
            yield Finding(
                id=f"said@{note.index}", kind="said-otherwise", note=note.index, from_m=bend.from_m, to_m=bend.to_m, called=called, met=met,
                severity="check", confidence=how.probability, risk=0.4 if proposal is None else CORRECTED_RISK, because=(because,),
                proposal=proposal, facts=Facts(at_s=how.from_s),
            )  # fmt: skip


_Found = tuple[str, str, Clause, Proposal | None]


def _otherwise(note: Note, heard: SaidNote | None, how: Spoken) -> _Found:
    written, voiced = differing(note, heard.note if heard is not None else None, how)
    because = clause(
        "Written {0}, but what was said sounds like {1}, at {2} of the recorded words. One of the two is wrong: listen, and decide which.",
        written, voiced, clock_words(how.from_s),
    )  # fmt: skip
    return written, voiced, because, None


def _corrected(case: Case, note: Note, said: Note, how: Spoken) -> _Found | None:
    """What the co-driver put in a note's place in the same breath; nothing where he came back to what is written."""
    grade = said.grade if said.grade is not None and said.grade != note.grade else None
    direction = said.direction if said.direction is not None and said.direction != note.direction else None
    metres = said.distance_m if note.distance_m is not None and said.distance_m not in (None, note.distance_m) else None
    if grade is None and direction is None and metres is None:
        return None
    rewording = Rewording(direction=direction, grade=grade, distance_m=metres)
    written, voiced = corner_words(note), corner_words(said)
    if grade is None and direction is None:
        written, voiced = f"{note.distance_m} m", f"{said.distance_m} m"
    because = clause(
        "Corrected in the car: “{0}”, then {1}, at {2} of the recorded words. Written is {3}. Either the note is wrong or it was misread.",
        said.first_called, voiced, clock_words(how.from_s), written,
    )  # fmt: skip
    return written, voiced, because, Proposal(note.index, note.index, case.hand.reworded(note, rewording), rewording)


def clock_words(seconds: float) -> str:
    """Minutes and seconds, such as 4:07."""
    return f"{int(seconds) // 60}:{int(seconds) % 60:02d}"
