"""The open stage without a window: deciding, undoing, coming back, and the edition that results."""

import threading
from pathlib import Path

import pytest

from mirkle.core.errors import MirkleError, UnusableNotes
from mirkle.core.notebook.decisions import Entry, NoteChange, NotePlace
from mirkle.files.notes.text import parse_notes
from mirkle.files.project.project import Project
from mirkle.session import settings
from mirkle.session.decision_book import BOTH
from mirkle.session.export import write_export
from mirkle.session.paths import fresh_project_path, settings_file
from mirkle.session.reviewed_pass import SHOWN, ReviewedPass
from tests.conftest import MORNING


def choose(stage: ReviewedPass, kind: str) -> None:
    stage.choose(next(f for f in stage.findings if f.kind == kind))


def test_it_begins_with_the_greatest_risk(stage: ReviewedPass) -> None:
    assert stage.finding is stage.findings[0]
    assert stage.finding.severity == "danger"
    assert [f.severity for f in stage.findings] == sorted(
        (f.severity for f in stage.findings), key=["danger", "change", "check", "remark"].index
    )


def test_a_mark_changes_one_note_of_the_book_and_undo_takes_it_back(stage: ReviewedPass) -> None:
    before = stage.book.edition.text
    choose(stage, "grade-tighter")
    finding = stage.finding
    assert finding is not None
    proposal = stage.book.proposal(finding)
    assert proposal is not None
    stage.mark(proposal.text, by=BOTH)
    after = stage.book.edition.text
    changed = [(a, b) for a, b in zip(before.splitlines(), after.splitlines(), strict=True) if a != b]
    assert changed == [(stage.review.notes[finding.note].text, proposal.text)]
    stage.undo()
    assert stage.book.edition.text == before
    stage.redo()
    assert stage.book.edition.text == after


def test_all_proposals_together_still_make_a_book_that_can_be_read(stage: ReviewedPass) -> None:
    for finding in stage.findings:
        stage.choose(finding)
        proposal = stage.book.proposal(finding)
        if proposal is not None:
            stage.mark(proposal.text, by=BOTH)
    reading = parse_notes(stage.book.edition.text.encode(), name="new")
    assert all(not n.unread for n in reading.notes)
    missing = sum(f.kind == "corner-uncalled" for f in stage.findings)
    extra = sum(f.kind == "corner-unmet" for f in stage.findings)
    assert len(reading.corners) == len(stage.review.reading.corners) + missing - extra


def test_a_new_edition_no_longer_shows_what_was_mended(stage: ReviewedPass) -> None:
    """The check on the next pass: the marked book against the same road leaves none of the marked findings."""
    from mirkle.files.project.project import SourceFile
    from mirkle.session.reviewing import Inputs, review_material

    for finding in stage.findings:
        if finding.severity in ("danger", "change"):
            stage.choose(finding)
            proposal = stage.book.proposal(finding)
            assert proposal is not None
            stage.mark(proposal.text, by=BOTH)
    again = review_material(Inputs(MORNING, SourceFile("notes", "new", stage.book.edition.text.encode())))
    assert [f.why for f in again.findings if f.severity in ("danger", "change")] == []


def test_what_is_no_note_is_refused_and_changes_nothing(stage: ReviewedPass) -> None:
    for text in ("", "L", "zebra 4", "4 4 4"):
        with pytest.raises(UnusableNotes) as fault:
            stage.mark(text)
        assert fault.value.mend
    assert not stage.book.decisions
    assert not stage.project.entries()


def test_closed_and_opened_again_everything_is_there(stage: ReviewedPass) -> None:
    answers = {}
    for finding, answer in zip(stage.findings, ("keep", "talk", "mark", "keep", "mark"), strict=False):
        stage.choose(finding)
        proposal = stage.book.proposal(finding)
        if answer == "mark":
            assert proposal is not None
            stage.mark(proposal.text, by=BOTH)
        else:
            stage.answer(answer)
        answers[finding.id] = answer
    stage.undo()
    answers.popitem()
    text, path = stage.book.edition.text, stage.project.path
    stage.project.close()
    again = ReviewedPass.of_project(Project.open(path))
    assert {k: d.answer for k, d in again.book.decisions.items()} == answers
    assert again.book.edition.text == text
    again.redo()
    assert len(again.book.decisions) == 5


def test_listeners_hear_of_choices_and_decisions_and_are_not_kept_alive(stage: ReviewedPass) -> None:
    class Listener:
        heard: list[str]

        def __init__(self) -> None:
            self.heard = []

        def note(self) -> None:
            self.heard.append("decided")

    listener = Listener()
    stage.book.changed.connect(listener.note)
    stage.answer("keep")
    assert listener.heard == ["decided"]
    heard = listener.heard
    del listener
    stage.answer("keep")
    assert heard == ["decided"]


def test_an_edition_is_written_whole_or_not_at_all(stage: ReviewedPass, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A disk that is full when the file is put there, after all of it was written beside its place."""
    target = tmp_path / "notes.txt"
    target.write_text("what stood here before")
    target.chmod(0o640)

    def full(_: int) -> None:
        raise OSError(28, "No space left on device")

    with monkeypatch.context() as patch:
        patch.setattr("os.fsync", full)
        with pytest.raises(MirkleError, match="No space left on device"):
            write_export(stage, target)
    assert target.read_text() == "what stood here before"
    assert [p.name for p in tmp_path.iterdir() if p.suffix != ".mirkle" and p.is_file()] == ["notes.txt"]
    write_export(stage, target)
    assert target.read_text() == stage.book.edition.text
    assert target.stat().st_mode & 0o777 == 0o640


def test_a_file_of_the_same_name_is_never_taken(tmp_path: Path) -> None:
    first = fresh_project_path("../my stage!")
    assert first.parent == tmp_path / "data" / "mirkle"
    first.parent.mkdir(parents=True)
    first.touch()
    assert fresh_project_path("../my stage!") != first


def test_settings_survive_a_broken_file() -> None:
    settings.keep_setting("theme", "night")
    assert settings.setting("theme", "paper") == "night"
    settings_file().write_text("{ broken")
    assert settings.setting("theme", "paper") == "paper"
    settings.keep_setting("theme", "night")
    assert settings.setting("theme", "paper") == "night"


def test_a_faster_note_takes_the_word_of_both_however_it_comes_about(stage: ReviewedPass) -> None:
    choose(stage, "grade-easier")
    easier = stage.book.proposal(stage.finding)
    assert easier is not None
    with pytest.raises(UnusableNotes, match="makes the note faster"):
        stage.mark(easier.text, by="driver")
    # Typed into a finding that would make it slower, or on a note on which nothing was found.
    tighter = next(f for f in stage.findings if f.kind == "grade-tighter" and f.called in ("3", "4", "5"))
    stage.choose(tighter)
    faster = stage.review.notes[stage.note].text.replace(tighter.called, "6", 1)
    with pytest.raises(UnusableNotes, match="makes the note faster"):
        stage.mark(faster)
    plain = next(n for n in stage.review.notes if n.grade == "3" and not stage.findings_on(n.index))
    stage.choose_note(plain.index)
    assert stage.wants_both(plain.text.replace("3", "5", 1))
    assert not stage.wants_both(plain.text.replace("3", "2", 1))
    assert not stage.book.decisions
    stage.mark(plain.text.replace("3", "5", 1), by=BOTH, remark="dry now")
    (change,) = stage.book.edition.changes
    assert change.old == plain.text
    assert stage.book.history[0].remark == "dry now"


def test_findings_are_shown_by_kind_and_in_the_order_of_the_road(stage: ReviewedPass) -> None:
    assert stage.listed == stage.findings
    shown = [f for f in stage.findings for name in SHOWN if name in ("corners", "shape", "vertical", "words", "pace") and SHOWN[name](f)]
    assert len(shown) == len(stage.findings), "every finding belongs to one of the kinds"
    stage.arrange(order="stage", shown="change")
    assert [f.from_m for f in stage.listed] == sorted(f.from_m for f in stage.listed)
    assert {f.severity for f in stage.listed} == {"danger", "change"}
    stage.choose(stage.listed[0])
    seen = []
    for _ in stage.listed:
        seen.append(stage.finding)
        stage.step(1)
    assert seen == list(stage.listed)
    stage.arrange(shown="words")
    assert stage.finding in stage.listed


def test_what_no_sensor_saw_is_kept_beside_the_book(stage: ReviewedPass) -> None:
    text = stage.book.edition.text
    with pytest.raises(UnusableNotes, match="no words"):
        stage.book.road.add("hazard", 900.0, 900.0, "  ")
    stage.book.road.add("condition", 3200.0, 3000.0, "ice in the shade", by="driver")
    stage.book.road.add("hazard", 900.0, 900.0, "stones inside")
    assert [(a.kind, a.road.from_m, a.road.to_m) for a in stage.book.road.additions] == [
        ("hazard", 900.0, 900.0),
        ("condition", 3000.0, 3200.0),
    ]
    assert stage.book.edition.text == text
    assert stage.book.decisions == {}
    path = stage.project.path
    stage.project.close()
    again = ReviewedPass.of_project(Project.open(path))
    assert [a.words for a in again.book.road.additions] == ["stones inside", "ice in the shade"]
    again.book.take_away(again.book.road.additions[0])
    assert [a.words for a in again.book.road.additions] == ["ice in the shade"]
    again.undo()
    assert len(again.book.road.additions) == 2


def test_a_decision_about_a_note_that_the_book_has_not_is_left_out(stage: ReviewedPass) -> None:
    """It comes from a damaged or forged file: what can be saved is opened."""
    forged = [
        NoteChange(key="far", notes=NotePlace(9999, 9999), text="L4 80"),
        NoteChange(key="before", notes=NotePlace(-1, -1), text="L4"),
        NoteChange(key="turned", notes=NotePlace(5, 3), text="L4"),
    ]
    for decision in forged:
        stage.project.append(Entry("decide", decision), stage.this_pass.id)
    again = ReviewedPass.of_project(stage.project)
    assert again.book.history == []
    assert again.book.edition.text == stage.review.reading.source


def test_nobody_is_told_in_another_thread_than_its_own(stage: ReviewedPass) -> None:
    """What listens may be a window: told beside the interface it takes the program down."""
    heard: list[str] = []
    stage.book.changed.connect(lambda: heard.append("decided"))
    faults: list[BaseException] = []

    def decide() -> None:
        try:
            stage.answer("talk")
        except RuntimeError as fault:
            faults.append(fault)

    beside = threading.Thread(target=decide)
    beside.start()
    beside.join()
    assert (heard, len(faults)) == ([], 1)
    stage.answer("keep")
    assert heard == ["decided"]
