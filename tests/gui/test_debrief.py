"""What you said: words dragged to their note in the real window, put there by keys, typed, and found again in Compare."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QDropEvent
from pytestqt.qtbot import QtBot

from mirkle.files.project.project import Project, SourceFile
from mirkle.gui.pages.debrief import DebriefDialog
from mirkle.gui.window import Window
from mirkle.session.reviewed_pass import ReviewedPass
from tests.conftest import CALLS, MORNING, NOTES
from tests.gui.conftest import settled
from tests.session.test_said_by_crew import DEBRIEF


@pytest.fixture
def debrief(window: Window, tmp_path: Path, qtbot: QtBot) -> Iterator[DebriefDialog]:
    words = SourceFile("calls", "calls.vtt", CALLS.content.rstrip() + b"\n" + DEBRIEF.encode())
    project = Project.create(tmp_path / "said.mirkle", [MORNING, NOTES, words], name="Slatehook")
    project.close()
    with qtbot.waitSignal(window.opened, timeout=20_000):
        window.workspace.opening.open_project(project.path)
    assert isinstance(window.stage, ReviewedPass)
    window.go_to("Compare")
    dialog = DebriefDialog(window.stage, window.theme, window)
    qtbot.addWidget(dialog)
    dialog.show()
    settled()
    yield dialog
    dialog.close()


def said_on(dialog: DebriefDialog) -> set[int]:
    return {f.note for f in dialog.stage.findings if f.kind == "said-by-you"}


def drop_on(dialog: DebriefDialog, row: int, note: int) -> None:
    data = dialog.list.mimeData([dialog.list.item(row)])
    dialog.page.show_chosen()
    dialog.page.center_on(note)
    at = QPointF(80.0, dialog.page.middle_on_screen(note))
    event = QDropEvent(at, Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier)
    dialog.page.dropEvent(event)
    assert event.isAccepted()


def test_words_are_dragged_to_their_note_and_stand_there_in_compare(debrief: DebriefDialog) -> None:
    assert debrief.heading.text() == "1 remark has no note yet"
    assert "no note yet" in debrief.list.item(0).text()
    note = next(n.index for n in debrief.stage.notes if n.is_corner and n.index > 20 and n.index not in said_on(debrief))
    before = said_on(debrief)
    drop_on(debrief, 0, note)
    assert said_on(debrief) == before | {note}
    assert debrief.heading.text() == "Every remark has its note"
    # It is the crew's own word: one key talks about it, as on every finding.
    finding = next(f for f in debrief.stage.findings if f.kind == "said-by-you" and f.note == note)
    debrief.stage.choose(finding)
    debrief.stage.answer("talk")
    assert debrief.stage.book.decisions[finding.id].answer == "talk"


def test_every_step_has_a_key(debrief: DebriefDialog, qtbot: QtBot) -> None:
    before = said_on(debrief)
    debrief.list.setCurrentRow(0)
    qtbot.keyClick(debrief.list, Qt.Key.Key_Right)
    qtbot.keyClick(debrief.list, Qt.Key.Key_Right)
    note = debrief.stage.note
    assert note == debrief.page.stage.note
    qtbot.keyClick(debrief.list, Qt.Key.Key_Return)
    assert said_on(debrief) == before | {note}
    row = next(i for i, w in enumerate(debrief.words) if w.note == note and w.by_hand)
    debrief.list.setCurrentRow(row)
    qtbot.keyClick(debrief.list, Qt.Key.Key_0)
    assert said_on(debrief) == before
    debrief.field.setFocus()
    qtbot.keyClicks(debrief.field, "page 2 line 5 wants a 2")
    qtbot.keyClick(debrief.field, Qt.Key.Key_Return)
    there = next(n for n in debrief.stage.notes if (n.page, n.line) == (2, 5))
    assert said_on(debrief) == before | {there.index}
    assert debrief.field.text() == ""
    qtbot.keyClick(debrief.field, Qt.Key.Key_Return)
    assert debrief.fault.text().startswith("there are no words")
    qtbot.keyClick(debrief.field, Qt.Key.Key_Escape)
    assert debrief.isVisible()
