"""What the crew said behind the finish and remembers: placed by itself where it names a note, else waiting for a hand."""

from __future__ import annotations

from pathlib import Path

import pytest

from mirkle.core.errors import MirkleError, UnusableNotes
from mirkle.files.project.project import Project, SourceFile
from mirkle.session.debrief import add_words, crew_words, memo_lines, put_on_note
from mirkle.session.reviewed_pass import ReviewedPass
from tests.conftest import CALLS, MORNING, NOTES
from tests.session.test_said_by_crew import DEBRIEF

TALK = "that was brilliant the tyres are gone"


@pytest.fixture
def stage(tmp_path: Path) -> ReviewedPass:
    words = SourceFile("calls", "calls.vtt", CALLS.content.rstrip() + b"\n" + DEBRIEF.encode())
    return ReviewedPass.of_project(Project.create(tmp_path / "said.mirkle", [MORNING, NOTES, words], name="Slatehook"))


def said_on(stage: ReviewedPass) -> dict[int, str]:
    return {f.note: f.why for f in stage.findings if f.kind == "said-by-you"}


def test_what_names_no_note_waits_until_a_hand_puts_it_there(stage: ReviewedPass) -> None:
    waiting, *placed = crew_words(stage)
    assert (waiting.text, waiting.note, waiting.by_hand) == (TALK, None, False)
    assert all(w.note is not None for w in placed)
    before = said_on(stage)
    note = next(n.index for n in stage.notes if n.is_corner and n.index not in before)
    put_on_note(stage, waiting, note)
    assert said_on(stage).keys() == before.keys() | {note}
    assert TALK in said_on(stage)[note]
    finding = next(f for f in stage.findings if f.note == note and f.kind == "said-by-you")
    assert (finding.severity, finding.proposal) == ("remark", None), "talk asks for no grade"
    # It is in the file, and undo takes it back.
    again = ReviewedPass.of_project(Project.open(stage.project.path))
    assert said_on(again) == said_on(stage)
    again.project.close()
    assert stage.book.undo() is not None
    assert crew_words(ReviewedPass.of_project(stage.project))[0].note is None


def test_a_hand_moves_what_was_placed_by_itself_and_takes_it_off(stage: ReviewedPass) -> None:
    wish = next(w for w in crew_words(stage) if "page two line one" in w.text)
    other = next(n for n in stage.notes if n.is_corner and n.grade == "4" and n.index not in said_on(stage))
    put_on_note(stage, wish, other.index)
    assert wish.note not in said_on(stage)
    moved = next(f for f in stage.findings if f.kind == "said-by-you" and f.note == other.index)
    assert moved.met == "6"
    assert moved.proposal is not None
    assert "6" in moved.proposal.text
    (now,) = [w for w in crew_words(stage) if w.text == wish.text]
    put_on_note(stage, now, None)
    assert other.index not in said_on(stage)
    assert wish.note not in said_on(stage), "a hand said that it is about no note"


def test_what_is_typed_or_came_as_a_memo_finds_its_note_or_waits(stage: ReviewedPass, tmp_path: Path) -> None:
    note = next(n for n in stage.notes if n.is_corner and (n.page, n.line) not in ((2, 1),) and n.grade == "5")
    assert add_words(stage, [f"page {note.page} line {note.line} wants a 3", "  the light was bad  "]) == 2
    assert f"page {note.page} line {note.line} wants a 3" in said_on(stage)[note.index]
    assert crew_words(stage)[0].text in (TALK, "the light was bad")
    assert add_words(stage, ["the light was bad"]) == 0, "once is enough"
    with pytest.raises(UnusableNotes, match="there are no words"):
        add_words(stage, ["  "])
    memo = tmp_path / "memo.srt"
    memo.write_text("1\n00:00:01,000 --> 00:00:03,000\nwe were late at the bridge\n\n2\n00:00:04,000 --> 00:00:06,000\nthe box held\n")
    assert add_words(stage, memo_lines(memo)) == 2
    assert {"we were late at the bridge", "the box held"} <= {w.text for w in crew_words(stage) if w.note is None}
    sound = tmp_path / "memo.wav"
    sound.write_bytes(b"RIFF\x24\x00\x00\x00WAVEfmt " + bytes(60))
    with pytest.raises(MirkleError, match=r"^memo\.wav: "):
        memo_lines(sound)


def test_words_on_a_note_that_is_not_in_the_book_now_wait_again(stage: ReviewedPass) -> None:
    waiting = crew_words(stage)[0]
    note = next(n for n in stage.notes if n.is_corner and sum(m.text == n.text for m in stage.notes) == 1)
    put_on_note(stage, waiting, note.index)
    path = stage.project.path
    overrides = next(p for p in stage.project.passes()).overrides
    assert overrides is not None
    other_book = SourceFile("notes", "notes.txt", NOTES.content.replace(note.text.encode(), b"R6 70", 1))
    stage.project.close()
    project = Project.open(path)
    made = project.passes()[0]
    project.set_pass(made, {"notes": other_book})
    again = ReviewedPass.of_project(project)
    (now,) = [w for w in crew_words(again) if w.text == waiting.text]
    assert now.note is None
    assert now.by_hand
