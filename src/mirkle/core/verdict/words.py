"""Judging words: where what was said in the car differs from what is written. In favour of neither."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from mirkle.core.lineup.calls import SaidNote
from mirkle.core.notes.model import Note
from mirkle.core.verdict.clauses import clause
from mirkle.core.verdict.findings import Case, Finding


def judge_words(case: Case, said: Sequence[SaidNote | None]) -> Iterator[Finding]:
    """A finding for each note whose direction, grade or change of radius was said otherwise than it is written."""
    for note, spoken in zip(case.notes, said, strict=True):
        if spoken is None or note.direction is None or spoken.note.direction is None:
            continue
        written, heard = _differing(note, spoken.note)
        bend = case.lineup.bend_of(note.index)
        if not written or bend is None:
            continue
        yield Finding(
            id=f"said@{note.index}",
            kind="said-otherwise",
            note=note.index,
            from_m=bend.from_m,
            to_m=bend.to_m,
            called=written,
            met=heard,
            severity="check",
            confidence=0.9,
            risk=0.4,
            because=(
                clause(
                    "Written {0}, but what was said sounds like {1}, at {2} of the recorded words. One of the two is wrong: "
                    "listen, and decide which.",
                    written,
                    heard,
                    _clock(spoken.time.from_s),
                ),
            ),
            proposal=None,
        )


def _differing(written: Note, said: Note) -> tuple[str, str]:
    """What is written and what was said, where they differ; empty where they agree as far as can be told."""
    if written.direction != said.direction or (said.grade is not None and written.grade != said.grade):
        return _head(written), _head(said)
    for change in said.changes:
        if change[-1].isdigit() and any(c[-1].isdigit() and c != change for c in written.changes):
            return ", ".join(written.changes), ", ".join(said.changes)
    return "", ""


def _head(note: Note) -> str:
    return f"{note.direction.value if note.direction else ''} {note.grade or ''}".strip()


def _clock(seconds: float) -> str:
    return f"{int(seconds) // 60}:{int(seconds) % 60:02d}"
