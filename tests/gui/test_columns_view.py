"""A table nobody knows is asked about on a page that keys alone can fill, and the next like it is taken in without a word."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from mirkle.gui.dialogs.columns import ColumnsDialog
from mirkle.gui.window import Window
from tests.files.test_columns import written


def when_asked(then: Callable[[ColumnsDialog], None]) -> None:
    """Does something to the page as soon as it is there."""
    dialog = QApplication.activeModalWidget()
    if isinstance(dialog, ColumnsDialog):
        then(dialog)
    else:
        QTimer.singleShot(30, lambda: when_asked(then))


def test_columns_are_said_once_by_keys(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    path, like_it = tmp_path / "run.csv", tmp_path / "like-it.csv"
    for one in (path, like_it):
        one.write_bytes(written(";", ["a;b;c;v;k"], ","))
    asked: list[str] = []

    def fill(dialog: ColumnsDialog) -> None:
        asked.append(dialog.hint.text())
        assert not dialog.take.isEnabled()
        for (holds, unit), keys, wanted in zip(
            dialog.boxes, ("time", "lati", "long", "spee", "cour"), ("s", "deg", "deg", "kmh", "deg"), strict=True
        ):
            holds.setFocus()
            qtbot.keyClicks(holds, keys)
            while unit.currentData() != wanted:
                before = unit.currentIndex()
                qtbot.keyClick(unit, Qt.Key.Key_Down)
                assert unit.currentIndex() > before
        asked.append(dialog.hint.text())
        qtbot.keyClick(dialog.take, Qt.Key.Key_Space)

    when_asked(fill)
    window.workspace.opening.take_files([path])
    qtbot.waitUntil(lambda: len(window.workspace.opening.waiting) == 1, timeout=10_000)
    assert asked == ["Still missing: the time; latitude and longitude, or speed and yaw rate.", "That is enough for a run."]
    qtbot.waitUntil(lambda: not window.workspace.work.busy)
    window.workspace.opening.take_files([like_it])
    qtbot.waitUntil(lambda: len(window.workspace.opening.waiting) == 2, timeout=10_000)
    qtbot.waitUntil(lambda: not window.workspace.work.busy)


def test_left_out_it_is_a_fault_like_any_other(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    path = tmp_path / "run.csv"
    path.write_bytes(written(",", []))
    when_asked(lambda dialog: qtbot.keyClick(dialog, Qt.Key.Key_Escape))
    window.workspace.opening.take_files([path])
    qtbot.waitUntil(lambda: "run.csv" in window.gather.fault.text(), timeout=10_000)
    assert window.workspace.opening.waiting == []
