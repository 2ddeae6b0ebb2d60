"""The open stage without a window: deciding, undoing, coming back, and the edition that results."""

from pathlib import Path

import pytest

from mirkle.core.errors import MirkleError, UnusableNotes
from mirkle.files.notes_text import parse_notes
from mirkle.files.project import Project
from mirkle.session import places
from mirkle.session.stage import Stage
from tests.conftest import MORNING


def choose(stage: Stage, kind: str) -> None:
    stage.choose(next(f for f in stage.findings if f.kind == kind))


def test_it_begins_with_the_greatest_risk(stage: Stage) -> None:
    assert stage.finding is stage.findings[0]
    assert stage.finding.severity == "danger"
    assert [f.severity for f in stage.findings] == sorted(
        (f.severity for f in stage.findings), key=["danger", "change", "check", "remark"].index
    )


def test_a_mark_changes_one_note_of_the_book_and_undo_takes_it_back(stage: Stage) -> None:
    before = stage.edition.text
    choose(stage, "grade-tighter")
    finding = stage.finding
    assert finding is not None
    proposal = stage.proposal(finding)
    assert proposal is not None
    stage.mark(proposal.text)
    after = stage.edition.text
    changed = [(a, b) for a, b in zip(before.splitlines(), after.splitlines(), strict=True) if a != b]
    assert changed == [(stage.review.notes[finding.note].text, proposal.text)]
    stage.undo()
    assert stage.edition.text == before
    stage.redo()
    assert stage.edition.text == after


def test_all_proposals_together_still_make_a_book_that_can_be_read(stage: Stage) -> None:
    for finding in stage.findings:
        stage.choose(finding)
        proposal = stage.proposal(finding)
        if proposal is not None:
            stage.mark(proposal.text)
    reading = parse_notes(stage.edition.text.encode(), name="new")
    assert all(not n.unread for n in reading.notes)
    missing = sum(f.kind == "corner-uncalled" for f in stage.findings)
    extra = sum(f.kind == "corner-unmet" for f in stage.findings)
    assert len(reading.corners) == len(stage.review.reading.corners) + missing - extra


def test_a_new_edition_no_longer_shows_what_was_mended(stage: Stage) -> None:
    """The check on the next pass: the marked book against the same road leaves none of the marked findings."""
    from mirkle.files.project import Material
    from mirkle.session.material import Inputs, review_material

    for finding in stage.findings:
        if finding.severity in ("danger", "change"):
            stage.choose(finding)
            proposal = stage.proposal(finding)
            assert proposal is not None
            stage.mark(proposal.text)
    again = review_material(Inputs(MORNING, Material("notes", "new", stage.edition.text.encode())))
    assert [f.why for f in again.findings if f.severity in ("danger", "change")] == []


def test_what_is_no_note_is_refused_and_changes_nothing(stage: Stage) -> None:
    for text in ("", "L", "zebra 4", "4 4 4"):
        with pytest.raises(UnusableNotes) as fault:
            stage.mark(text)
        assert fault.value.mend
    assert not stage.decisions
    assert not stage.project.entries()


def test_closed_and_opened_again_everything_is_there(stage: Stage) -> None:
    answers = {}
    for finding, answer in zip(stage.findings, ("keep", "talk", "mark", "keep", "mark"), strict=False):
        stage.choose(finding)
        proposal = stage.proposal(finding)
        if answer == "mark":
            assert proposal is not None
            stage.mark(proposal.text)
        else:
            getattr(stage, answer)()
        answers[finding.id] = answer
    stage.undo()
    answers.popitem()
    text, path = stage.edition.text, stage.project.path
    stage.project.close()
    again = Stage.of_project(Project.open(path))
    assert {k: d.answer for k, d in again.decisions.items()} == answers
    assert again.edition.text == text
    again.redo()
    assert len(again.decisions) == 5


def test_listeners_hear_of_choices_and_decisions_and_are_not_kept_alive(stage: Stage) -> None:
    class Listener:
        heard: list[str]

        def __init__(self) -> None:
            self.heard = []

        def note(self) -> None:
            self.heard.append("decided")

    listener = Listener()
    stage.decided.connect(listener.note)
    stage.keep()
    assert listener.heard == ["decided"]
    heard = listener.heard
    del listener
    stage.keep()
    assert heard == ["decided"]


def test_an_edition_is_written_whole_or_not_at_all(stage: Stage, tmp_path: Path) -> None:
    target = tmp_path / "notes.txt"
    target.write_text("what stood here before")
    blocked = tmp_path / "notes.txt.part"
    blocked.mkdir()
    with pytest.raises(MirkleError, match="can't be written"):
        stage.write_edition(target)
    assert target.read_text() == "what stood here before"
    blocked.rmdir()
    stage.write_edition(target)
    assert target.read_text() == stage.edition.text


def test_a_file_of_the_same_name_is_never_taken(tmp_path: Path) -> None:
    first = places.fresh_project_path("../my stage!")
    assert first.parent == tmp_path / "data" / "mirkle"
    first.parent.mkdir(parents=True)
    first.touch()
    assert places.fresh_project_path("../my stage!") != first


def test_settings_survive_a_broken_file() -> None:
    places.keep_setting("theme", "night")
    assert places.setting("theme", "paper") == "night"
    places.settings_file().write_text("{ broken")
    assert places.setting("theme", "paper") == "paper"
    places.keep_setting("theme", "night")
    assert places.setting("theme", "paper") == "night"
