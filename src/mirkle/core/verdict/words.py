"""Judging words: where what was said in the car differs from what is written. In favour of neither."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from mirkle.core.clauses import clause
from mirkle.core.lineup.calls import SaidNote
from mirkle.core.notes.said import Spoken, differing
from mirkle.core.verdict.findings import Case, Facts, Finding


def judge_words(case: Case, said: Sequence[SaidNote | None], spoken: Sequence[Spoken]) -> Iterator[Finding]:
    """A finding for each note that was said otherwise than it is written; ``spoken`` is empty without words."""
    for note, heard, how in zip(case.notes, said, spoken, strict=False):
        bend = case.lineup.bend_of(note.index)
        if how.said_as != "otherwise" or bend is None:
            continue
        written, voiced = differing(note, heard.note if heard is not None else None, how)
        yield Finding(
            id=f"said@{note.index}",
            kind="said-otherwise",
            note=note.index,
            from_m=bend.from_m,
            to_m=bend.to_m,
            called=written,
            met=voiced,
            severity="check",
            confidence=how.probability,
            risk=0.4,
            because=(
                clause(
                    "Written {0}, but what was said sounds like {1}, at {2} of the recorded words. One of the two is wrong: "
                    "listen, and decide which.",
                    written,
                    voiced,
                    clock_words(how.from_s),
                ),
            ),
            proposal=None,
            facts=Facts(at_s=how.from_s),
        )


def clock_words(seconds: float) -> str:
    """Minutes and seconds, such as 4:07."""
    return f"{int(seconds) // 60}:{int(seconds) % 60:02d}"
