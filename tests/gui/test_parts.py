"""Parts that don't count, by mouse and by keyboard."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, Qt, QTimer
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from mirkle.gui.dialogs.add import AddDialog
from mirkle.gui.dialogs.excluded_parts import PartsDialog
from mirkle.gui.window import Window
from tests.gui.conftest import press


def _answer(act) -> None:  # type: ignore[no-untyped-def]
    def at_once() -> None:
        dialog = QApplication.activeModalWidget()
        assert isinstance(dialog, PartsDialog)
        act(dialog)
        dialog.accept()

    QTimer.singleShot(200, at_once)


def test_a_part_is_dragged_over_the_stage(open_window: Window, qtbot: QtBot) -> None:
    stage, strip = open_window.stage, open_window.pages.compare.strip
    assert stage is not None
    assert [p.proposed for p in stage.review.parts] == [True]
    first, last = (QPoint(int(strip.x_of(m)), 60) for m in (4000.0, 5000.0))
    _answer(lambda dialog: dialog.rows[-1][3].setText("dust"))
    with qtbot.waitSignal(open_window.opened, timeout=30_000):
        qtbot.mousePress(strip, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier, first)
        qtbot.mouseMove(strip, last)
        qtbot.mouseRelease(strip, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier, last)
    assert open_window.stage is not None
    parts = open_window.stage.review.parts
    assert [p.reason for p in parts] == ["dust", "pace lost"]
    assert not any(p.proposed for p in parts)
    assert abs(parts[0].from_m - 4000) < 30
    assert abs(parts[0].to_m - 5000) < 30


def test_a_condition_is_dragged_over_the_stage(open_window: Window, qtbot: QtBot) -> None:
    stage, strip = open_window.reviewed, open_window.pages.compare.strip
    assert stage is not None
    first, last = (QPoint(int(strip.x_of(m)), 60) for m in (4000.0, 5000.0))

    def add() -> None:
        dialog = QApplication.activeModalWidget()
        assert isinstance(dialog, AddDialog)
        dialog.words.setText("standing water")
        dialog.add()
        dialog.accept()

    QTimer.singleShot(200, add)
    qtbot.mousePress(strip, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ControlModifier, first)
    qtbot.mouseMove(strip, last)
    qtbot.mouseRelease(strip, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ControlModifier, last)
    (made,) = stage.book.road.additions
    assert (made.kind, made.words) == ("condition", "standing water")
    assert made.road is not None
    assert abs(made.road.from_m - 4000) < 30
    assert abs(made.road.to_m - 5000) < 30


def test_parts_are_typed_and_taken_away_by_keyboard(open_window: Window, qtbot: QtBot) -> None:
    def change(dialog: PartsDialog) -> None:
        press(dialog.rows[0][0], "Take away")
        dialog.rows.clear()

    before = open_window.stage
    _answer(change)
    with qtbot.waitSignal(open_window.opened, timeout=30_000):
        qtbot.keyClick(open_window.pages.compare, Qt.Key.Key_X)
    assert open_window.stage is not None
    assert open_window.stage.review.parts == ()
    assert before is not None
    kinds = {f.kind for f in open_window.stage.findings} - {f.kind for f in before.findings}
    assert kinds <= {"grade-easier", "spare", "surprise", "call-late", "call-early"}
    assert len(open_window.stage.findings) > len(before.findings)
