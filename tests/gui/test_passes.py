"""Passes in the real window: what comes to an open stage is asked about, and a change is held against the later pass."""

from __future__ import annotations

import gzip
import shutil
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from mirkle.core.followup.changes import Changed
from mirkle.core.judging.parts import Part
from mirkle.core.overrides import ManualOverrides, hand_parts
from mirkle.files import demo_files
from mirkle.files.project.project import Project
from mirkle.gui.dialogs.assign_files import IntakeDialog
from mirkle.gui.pages.followup import Passes
from mirkle.gui.window import Window
from mirkle.session import season
from mirkle.session.change_review import follow
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.synthetic import slatehook
from tests.gui.conftest import press

OTHER_WORDS = "[0:30] start 80 left 5 very long 30 right 2 long tightens 1 30 left hairpin 20 right 2 long 40 left 2 120"


@pytest.fixture(scope="module")
def reviewed_demo(reviewed_demo: Path, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """As it is when its passes were held against each other before."""
    path = Path(shutil.copy(reviewed_demo, tmp_path_factory.mktemp("followed")))
    project = Project.open(path)
    assert len(follow(project)) == 1
    project.close()
    return path


@pytest.fixture
def asked(monkeypatch: pytest.MonkeyPatch) -> list[IntakeDialog]:
    """The pages that were shown; each is answered by :func:`answer`, or left with Back."""
    shown: list[IntakeDialog] = []

    def shown_now(self: IntakeDialog) -> bool:
        shown.append(self)
        return ANSWERS.pop(0)(self) if ANSWERS else False

    monkeypatch.setattr(IntakeDialog, "exec", shown_now)
    ANSWERS.clear()
    return shown


ANSWERS: list[Callable[[IntakeDialog], bool]] = []


def take(*choices: tuple[int, str]) -> Callable[[IntakeDialog], bool]:
    """Chooses, as a user would in the boxes, and takes the files in."""

    def answered(dialog: IntakeDialog) -> bool:
        for at, key in choices:
            box = dialog.boxes[at] if at >= 0 else dialog.read_box
            box.setCurrentIndex(box.findData(key))
            box.activated.emit(box.currentIndex())
        press(dialog, "Take them in")
        return True

    return answered


def dropped(window: Window, qtbot: QtBot, *paths: Path) -> ReviewedPass:
    with qtbot.waitSignal(window.opened, timeout=60_000):
        window.workspace.opening.take_files(list(paths))
    qtbot.waitUntil(lambda: not window.workspace.work.busy, timeout=30_000)
    assert window.stage is not None
    return window.stage


def test_words_of_another_stage_are_asked_about_and_undo_brings_the_old_ones_back(
    open_window: Window, qtbot: QtBot, tmp_path: Path, asked: list[IntakeDialog]
) -> None:
    words = tmp_path / "words.txt"
    words.write_text(OTHER_WORDS)
    before = open_window.stage
    assert before is not None
    passes = before.project.passes()
    open_window.workspace.opening.take_files([words])
    qtbot.waitUntil(lambda: bool(asked), timeout=30_000)
    qtbot.waitUntil(lambda: not open_window.workspace.work.busy, timeout=30_000)
    (row,) = asked[0].intake.rows
    assert row.warning is not None
    assert "don't fit the book" in str(row.warning)
    # Left with Back: nothing was changed.
    assert open_window.stage is before
    assert before.project.passes() == passes
    ANSWERS.append(take((0, str(passes[0].id))))
    stage = dropped(open_window, qtbot, words)
    assert stage.inputs.calls is not None
    assert stage.inputs.calls.name == "words.txt"
    with qtbot.waitSignal(open_window.opened, timeout=60_000):
        stage.undo()
    assert open_window.stage is not None
    assert open_window.stage.inputs.calls is not None
    assert open_window.stage.inputs.calls.name == demo_files.MORNING_HEARD
    assert open_window.stage.project.passes() == passes


def test_a_new_pass_reads_the_book_with_the_marks_and_keeps_its_pages(
    open_window: Window, qtbot: QtBot, tmp_path: Path, asked: list[IntakeDialog]
) -> None:
    stage = open_window.stage
    assert stage is not None
    qtbot.keyClick(open_window.pages.compare, Qt.Key.Key_Return)
    marked, places = stage.book.edition, [(n.page, n.line) for n in stage.review.notes]
    run = tmp_path / "evening.csv"
    run.write_bytes(gzip.decompress(demo_files.demo_file(demo_files.AFTERNOON)) + b"\n")
    ANSWERS.append(take((-1, "next")))
    later = dropped(open_window, qtbot, run)
    assert len(asked) == 1
    assert later.this_pass.id == 4
    assert later.inputs.run.name == "evening.csv"
    words = " ".join(marked.text_of(n) for n in stage.review.notes).split()
    assert [w for n in later.review.notes for w in n.text.split()] == words
    # The first finding put a note in: it stands on the line of the one before it, and no other line moved.
    assert len(later.review.notes) == len(places) + 1
    assert list(dict.fromkeys((n.page, n.line) for n in later.review.notes)) == places
    # What was decided about the morning's book stays with it.
    assert later.book.history == []
    assert later.project.entries({1})


def test_a_file_that_is_in_the_stage_is_said_to_be(open_window: Window, qtbot: QtBot, tmp_path: Path, asked: list[IntakeDialog]) -> None:
    again = tmp_path / demo_files.MORNING_HEARD
    again.write_bytes(demo_files.demo_file(demo_files.MORNING_HEARD))
    said: list[str] = []
    open_window.workspace.notice.connect(lambda words: said.append(str(words)))
    open_window.workspace.opening.take_files([again])
    qtbot.waitUntil(lambda: bool(said), timeout=30_000)
    assert said == [f"The stage has this already: {demo_files.MORNING_HEARD}."]
    # With another file it is a row of the question.
    words = tmp_path / "more.txt"
    words.write_bytes(demo_files.demo_file(demo_files.CALLS))
    open_window.workspace.opening.take_files([again, words])
    qtbot.waitUntil(lambda: bool(asked), timeout=30_000)
    qtbot.waitUntil(lambda: not open_window.workspace.work.busy, timeout=30_000)
    row = next(r for r in asked[0].intake.rows if r.material.name == demo_files.MORNING_HEARD)
    assert (row.chosen, str(row.warning)) == ("not-in", "This file is in the stage already.")


def test_parts_that_do_not_count_are_undone_by_undo(open_window: Window, qtbot: QtBot) -> None:
    stage = open_window.stage
    assert stage is not None
    found = stage.review.parts
    with qtbot.waitSignal(open_window.opened, timeout=60_000):
        open_window.workspace.set_overrides(
            lambda _: ManualOverrides(parts=hand_parts([Part(1000.0, 2000.0, "dust")], stage.review.profile))
        )
    qtbot.waitUntil(lambda: not open_window.workspace.work.busy, timeout=30_000)
    assert open_window.stage is not None
    assert [p.reason for p in open_window.stage.review.parts] == ["dust"]
    with qtbot.waitSignal(open_window.opened, timeout=60_000):
        open_window.stage.undo()
    qtbot.waitUntil(lambda: not open_window.workspace.work.busy, timeout=30_000)
    assert open_window.stage.review.parts == found


def test_what_was_decided_while_a_pass_was_reviewed_again_is_there(open_window: Window, qtbot: QtBot) -> None:
    stage = open_window.stage
    assert stage is not None
    with qtbot.waitSignal(open_window.opened, timeout=60_000):
        open_window.workspace.set_overrides(lambda _: ManualOverrides(parts=()))
        stage.answer("talk")
        decided = stage.finding.id  # type: ignore[union-attr]
    assert open_window.stage is not stage
    assert open_window.stage is not None
    assert open_window.stage.book.decisions[decided].answer == "talk"


@pytest.fixture
def passes(open_window: Window, qtbot: QtBot) -> Passes:
    open_window.go_to("Passes")
    assert open_window.pages.followed is not None
    qtbot.waitUntil(lambda: bool(open_window.pages.followed.steps), timeout=60_000)  # type: ignore[union-attr]
    qtbot.waitUntil(lambda: not open_window.workspace.work.busy, timeout=30_000)
    return open_window.pages.followed


def test_each_change_of_lunch_has_its_verdict(passes: Passes) -> None:
    """Two grades were put right, one went too far, one not far enough; two directions were put right."""
    step = passes.step
    assert step is not None
    verdicts = {c.new: c.verdict for c in step.found.changes}
    assert verdicts["L4 long dc stones inside keep in 350"] == verdicts["R3 long 30"] == "fits"
    assert verdicts["L1 long 30"] == "too-slow"
    assert verdicts["L5 caut logs outside dc keep in 120"] == "too-fast"
    assert verdicts["L5 caut 60"] == verdicts["R5 very long dc 40"] == "fits"
    assert all(c.said == "new" for c in step.found.changes)
    assert passes.list.count() == len(step.rows)
    assert "7 changes" in passes.counts.text()
    assert "s quicker" in passes.counts.text()
    assert f"New on this pass, in Compare: {step.new_differences}." in passes.counts.text()
    untold = [f for f in step.later_review.findings if f.severity in ("danger", "change")]
    assert 0 < step.new_differences < len(untold)


def choose(passes: Passes, new: str) -> Changed:
    for at in range(passes.list.count()):
        passes.list.setCurrentRow(at)
        if isinstance(passes.row, Changed) and passes.row.new == new:
            return passes.row
    raise AssertionError(new)


def test_follow_up_by_one_key(passes: Passes, open_window: Window, qtbot: QtBot) -> None:
    step = passes.step
    assert step is not None
    assert open_window.stage is not None
    row = choose(passes, "L4 long dc stones inside keep in 350")
    # The list has the keyboard, and leaves the letter to the page.
    qtbot.keyClick(passes.list, Qt.Key.Key_K)
    assert step.answered(row) == "keep"
    # What stood before is put back; that is faster here, and takes the word of both.
    row = choose(passes, "L1 long 30")
    qtbot.keyClick(passes, Qt.Key.Key_O)
    assert "makes the note faster" in passes.hint.text()
    assert step.answered(row) is None
    passes.by.setCurrentIndex(passes.by.findData("both"))
    choose(passes, "L1 long 30")
    qtbot.keyClick(passes, Qt.Key.Key_O)
    assert step.answered(row) == "mark"
    assert step.book.edition.mark_on(row.notes_now[0]).text == "L3 long 30"  # type: ignore[union-attr]
    row = choose(passes, "L5 caut logs outside dc keep in 120")
    qtbot.keyClick(passes, Qt.Key.Key_E)
    assert passes.field.text() == "L5 caut logs outside dc keep in 120"
    passes.field.setText("L4 120")
    qtbot.keyClick(passes.field, Qt.Key.Key_Return)
    assert not passes.field.isVisible()
    assert [c.new for c in step.book.edition.changes] == ["L3 long 30", "L4 120"]
    # It is in the file, as a decision on the book of the afternoon.
    later = open_window.stage.project.entries({step.later.made.id})
    assert [e.decision.answer for e in later if e.decision] == ["keep", "mark", "mark"]
    assert open_window.stage.project.entries({step.earlier.made.id}) == []


def test_a_row_is_seen_in_compare_on_its_pass(passes: Passes, open_window: Window, qtbot: QtBot) -> None:
    row = choose(passes, "L5 caut logs outside dc keep in 120")
    with qtbot.waitSignal(open_window.opened, timeout=60_000):
        qtbot.keyClick(passes, Qt.Key.Key_C)
    stage = open_window.stage
    assert stage is not None
    assert stage.run.name == demo_files.AFTERNOON
    assert stage.note == row.notes_now[0]


def test_what_kind_of_pass_it_was_is_kept_and_undone(open_window: Window, qtbot: QtBot) -> None:
    gather, stage = open_window.gather, open_window.stage
    assert stage is not None
    open_window.go_to("Gather")
    gather.about_pass.day_field.setText("14 May, wet")
    qtbot.keyClick(gather.about_pass.day_field, Qt.Key.Key_Return)
    assert stage.project.passes()[0].day == "14 May, wet"
    with qtbot.waitSignal(open_window.opened, timeout=60_000):
        stage.undo()
    assert open_window.stage is not None
    assert open_window.stage.project.passes()[0].day == ""


def test_what_the_car_was_like_is_kept_and_said_where_passes_are_compared(open_window: Window, qtbot: QtBot) -> None:
    gather = open_window.gather
    open_window.go_to("Gather")
    gather.about_pass.car_fields["tyres"].setText("soft")
    qtbot.keyClick(gather.about_pass.car_fields["tyres"], Qt.Key.Key_Return)
    stage = open_window.stage
    assert stage is not None
    first, second = stage.project.passes()[:2]
    assert first.tyres == "soft"
    stage.project.set_pass(replace(second, tyres="hard", fuel="30 l"))
    open_window.go_to("Passes")
    followed = open_window.pages.followed
    assert followed is not None
    qtbot.waitUntil(lambda: bool(followed.steps), timeout=60_000)
    assert "Other tyres (soft, now hard)" in followed.counts.text()
    assert "fuel" not in followed.counts.text(), "nobody knows what the first pass had"


def test_the_stage_that_is_open_is_not_opened_in_its_own_way(open_window: Window) -> None:
    stage = open_window.stage
    assert stage is not None
    open_window.workspace.opening.open_project(stage.project.path)
    assert not open_window.workspace.work.busy
    assert open_window.stage is stage
    assert not stage.project.read_only


def test_a_stage_without_a_recording_is_kept_and_gets_it_later(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    slatehook.write_demo(tmp_path)
    window.workspace.opening.take_files([tmp_path / demo_files.NOTES, tmp_path / demo_files.CALLS])
    qtbot.waitUntil(lambda: window.workspace.opening.beginning is not None, timeout=30_000)
    qtbot.waitUntil(lambda: not window.workspace.work.busy, timeout=30_000)
    path = window.workspace.opening.beginning.path  # type: ignore[union-attr]
    window.close()
    again = Window()
    qtbot.addWidget(again)
    again.workspace.opening.open_project(path)
    qtbot.waitUntil(lambda: again.workspace.opening.beginning is not None and not again.workspace.work.busy, timeout=30_000)
    assert sorted(s.material.kind for s in again.workspace.opening.waiting) == ["calls", "notes"]
    with qtbot.waitSignal(again.opened, timeout=60_000):
        again.workspace.opening.take_files([tmp_path / demo_files.MORNING])
    qtbot.waitUntil(lambda: not again.workspace.work.busy, timeout=30_000)
    stage = again.stage
    assert stage is not None
    assert stage.project.path == path
    assert stage.inputs.calls is not None
    assert len(stage.project.passes()) == 1
    again.close()


def test_verdicts_are_counted_over_all_stages(passes: Passes, open_window: Window, tmp_path: Path) -> None:
    assert "In all your stages" not in passes.counts.text()
    season.count_verdicts(tmp_path / "other.mirkle", {"fits": 30, "too-slow": 4})
    assert open_window.stage is not None
    in_all = season.count_verdicts(open_window.stage.project.path, passes.step.counts())  # type: ignore[union-attr]
    passes.show_steps(passes.steps, in_all)
    assert "of 41 changes 34 were right, 1 not far enough, 5 too far" in passes.counts.text()
