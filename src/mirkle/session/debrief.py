"""What the crew said that is no note, behind the finish or on the stage, and what it types from memory: each on its note, or waiting."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from mirkle.core.errors import UnusableNotes
from mirkle.core.judging.said_by_crew import wish_of
from mirkle.core.lineup.remarks import HandRemark
from mirkle.core.messages import gettext_noop
from mirkle.core.speech.debrief import wish_in
from mirkle.files.detect import read_bytes
from mirkle.files.speech.timed_text import looks_like_calls, timed_blocks
from mirkle.session.reviewed_pass import ReviewedPass

# A memo's words, not a day's (bytes).
LARGEST_MEMO = 1_000_000


@dataclass(frozen=True)
class CrewWords:
    """Words of the crew, on a ``note`` or waiting for one; ``by_hand`` where somebody put them there or typed them."""

    text: str
    note: int | None
    by_hand: bool


def crew_words(stage: ReviewedPass) -> list[CrewWords]:
    """Everything that the crew said behind the finish, what it said of a corner on the stage, and what it typed: what waits for its place
    first."""
    review, by_hand = stage.review, {r.text: r for r in stage.overrides.remarks}
    found: dict[str, CrewWords] = {}
    for remark in review.remarks:
        placed = by_hand.get(remark.text)
        if placed is not None:
            found[remark.text] = CrewWords(remark.text, placed.note, True)
            continue
        wish = wish_of(remark, stage.notes, stage.language, review.positions)
        if wish is not None or (remark.debrief and not remark.incident):
            found[remark.text] = CrewWords(remark.text, wish.note if wish is not None else None, False)
    for text, placed in by_hand.items():
        found.setdefault(text, CrewWords(text, placed.note, True))
    return sorted(found.values(), key=lambda w: w.note is not None)


def put_on_note(stage: ReviewedPass, words: CrewWords, note: int | None) -> None:
    """Puts words of the crew on a note, or takes them off theirs.

    Raises
    ------
    UnusableProject
        It can't be kept.
    """
    others = [r for r in stage.overrides.remarks if r.text != words.text]
    stage.set_remarks([*others, HandRemark(words.text, note)])


def add_words(stage: ReviewedPass, lines: Sequence[str]) -> int:
    """Adds what the crew remembers, a sentence each: on the note that it names, where it names one; how many were new.

    Raises
    ------
    UnusableNotes
        There are no words.
    UnusableProject
        It can't be kept.
    """
    known = {w.text for w in crew_words(stage)}
    new = [text for line in lines if (text := " ".join(line.split())) and text not in known]
    if not any(line.strip() for line in lines):
        raise UnusableNotes("there are no words", mend="say which note, and what is wrong with it, such as: page 2 line 5 wants a 3")
    wishes = [wish_in(text, stage.notes, stage.language) for text in new]
    added = [HandRemark(text, wish.note if wish is not None else None) for text, wish in zip(new, wishes, strict=True)]
    if added:
        stage.set_remarks([*stage.overrides.remarks, *added])
    return len(added)


def memo_lines(path: Path) -> list[str]:
    """The sentences of a spoken memo whose words were recognised elsewhere: a timed text, or a text with a sentence a line.

    Raises
    ------
    MirkleError
        It can't be read, or it is no text.
    """
    content = read_bytes(path, largest=LARGEST_MEMO, wanted=gettext_noop("the words of a memo, as timed text or a sentence a line"))
    text = content.decode("utf-8-sig", errors="replace")
    if not looks_like_calls(text):
        return text.splitlines()
    whole, blocks = timed_blocks(text, name=path.name)
    return [whole[block.span.start : block.span.end] for block in blocks]
