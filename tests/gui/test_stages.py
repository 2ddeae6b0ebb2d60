"""A second stage, decisions without a place, files that stop nothing, and fonts that stay as they are."""

from __future__ import annotations

import shutil
import sqlite3
from contextlib import closing
from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QDrag
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QCheckBox, QDialog, QFileDialog, QLabel, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from mirkle.gui.dialogs import show
from mirkle.gui.pages.lost_decisions import LostDecisionsDialog
from mirkle.gui.pages.preview import PreviewDialog
from mirkle.gui.pages.season import SeasonDialog
from mirkle.gui.pages.shelf import ShelfDialog, ShelfView
from mirkle.gui.theme import font
from mirkle.gui.window import Window
from mirkle.session import season
from tests.conftest import MORNING, NOTES


def test_a_font_is_its_callers_own(open_window: Window) -> None:
    """After a decision nothing is struck out but what was struck out."""
    mine = font(20, family="hand")
    mine.setStrikeOut(True)
    assert not font(20, family="hand").strikeOut()
    stage = open_window.stage
    assert stage is not None
    proposal = stage.book.proposal(stage.findings[0])
    assert proposal is not None
    stage.mark(proposal.text, by="both")
    for place in ("Compare", "Book", "Rehearse"):
        open_window.go_to(place)
        open_window.grab()
    assert [w.text() for w in open_window.findChildren(QLabel) if w.font().strikeOut()] == []
    assert not any(font(px, family=f).strikeOut() for px in range(10, 40) for f in ("plain", "hand"))


def begun(window: Window) -> None:
    """Nothing of the stage that was open shines through, and new files make another."""
    assert window.stage is None
    assert window.stack.currentWidget() is window.gather
    assert window.header.stage_name.text() == "Mirkle"
    assert window.header.dangers.isHidden()
    assert window.header.passes.isHidden()
    assert [n for n, b in window.header.place_buttons.items() if b.isEnabled()] == ["Rally", "Gather"]


def files(folder: Path) -> list[Path]:
    for one in (NOTES, MORNING):
        (folder / one.name).write_bytes(one.content)
    return [folder / NOTES.name, folder / MORNING.name]


def test_a_second_stage_is_begun_by_the_menu(open_window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    window, first = open_window, open_window.stage
    assert first is not None
    first.book.road.add("hazard", 900.0, 900.0, "stones")
    window.menu.actions_by_name["New stage"].trigger()
    begun(window)
    with qtbot.waitSignal(window.opened, timeout=60_000):
        window.workspace.opening.take_files(files(tmp_path))
    qtbot.waitUntil(lambda: not window.workspace.work.busy, timeout=30_000)
    assert window.stage is not None
    assert window.stage.project.path != first.project.path
    with qtbot.waitSignal(window.opened, timeout=30_000):
        window.workspace.opening.open_project(first.project.path)
    assert [a.words for a in window.stage.book.road.additions] == ["stones"], "the first is as it was left"


def test_a_second_stage_is_begun_from_the_shelf(open_window: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    def choose(dialog: ShelfDialog) -> int:
        dialog.view.new_button.click()
        return dialog.result()

    monkeypatch.setattr(ShelfDialog, "exec", choose)
    show.show_shelf(open_window)
    begun(open_window)


def test_a_second_stage_is_begun_in_the_file_dialog(
    open_window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    window = open_window
    first = window.stage
    paths = files(tmp_path)

    def choose(dialog: QFileDialog) -> int:
        (new,) = (b for b in dialog.findChildren(QCheckBox) if "new stage" in b.text())
        new.setChecked(True)
        return 1

    monkeypatch.setattr(QFileDialog, "exec", choose)
    monkeypatch.setattr(QFileDialog, "selectedFiles", lambda _: [str(p) for p in paths])
    with qtbot.waitSignal(window.opened, timeout=60_000):
        window.gather.choose_files()
    assert window.stage is not first
    assert window.stage is not None
    assert first is not None
    assert window.stage.project.path != first.project.path


HOSTILE = (
    "DROP TABLE about; CREATE VIEW about (key, value) AS WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n) "
    "SELECT 'name', i FROM n",
    "UPDATE about SET value = '{\"length_m\": Infinity, \"passes\": 1}' WHERE key = 'summary'",
    f"UPDATE about SET value = '{{\"length_m\": {'9' * 400}}}' WHERE key = 'summary'",
    f"UPDATE about SET value = '{'[' * 50_000}' WHERE key = 'summary'",
    "UPDATE about SET value = '{\"dangers_left\": \"x\"}' WHERE key = 'summary'",
)


def test_no_file_on_the_shelf_stops_the_start(kept_demo: Path, qtbot: QtBot) -> None:
    for number, statement in enumerate(HOSTILE):
        path = Path(shutil.copy(kept_demo, kept_demo.with_name(f"hostile-{number}.mirkle")))
        with closing(sqlite3.connect(path)) as connection:
            connection.execute("INSERT OR REPLACE INTO about (key, value) VALUES ('summary', '{}')")
            connection.executescript(statement)
    kept_demo.with_name("none.mirkle").write_bytes(b"\x00" * 5000)
    shelf = ShelfView()
    qtbot.addWidget(shelf)
    rows = [shelf.list.item(i).text() for i in range(shelf.list.count())]
    assert len(rows) == len(HOSTILE) + 2
    unread = [row.split("\n")[0] for row in rows if "can't be read" in row]
    assert sorted(unread) == [*(f"hostile-{n}" for n in range(len(HOSTILE))), "none"]
    assert any(row.startswith("Slatehook") for row in rows)


def test_decisions_without_a_place_are_listed_and_put_back_by_hand(open_window: Window, qtbot: QtBot) -> None:
    window = open_window
    stage = window.reviewed
    assert stage is not None
    first, second = [f for f in stage.findings if f.kind == "grade-tighter"][:2]
    stage.choose(first)
    stage.answer("talk", remark="wet there")
    assert window.header.lost.isHidden()
    stage.book.rebase(replace(stage.review, findings=tuple(f for f in stage.findings if f is not first)))
    stage.book.changed.emit()
    assert window.header.lost.text() == "1 decision lost its place"
    assert not window.header.lost.isHidden()
    dialog = LostDecisionsDialog(stage, window)
    qtbot.addWidget(dialog)
    assert "wet there" in dialog.lost.item(0).text()
    assert first.called is not None
    at = next(i for i in range(dialog.findings.count()) if dialog.findings.item(i).data(Qt.ItemDataRole.UserRole) is second)
    dialog.findings.setCurrentRow(at)
    qtbot.mouseClick(dialog.put_button, Qt.MouseButton.LeftButton)
    assert stage.book.decisions[second.id].remark == "wet there"
    assert dialog.heading.text() == "Every decision has its place"
    assert not dialog.put_button.isEnabled()
    assert window.header.lost.isHidden()
    window.undo()
    assert window.header.lost.text() == "1 decision lost its place"
    dialog.refresh()
    qtbot.mouseClick(dialog.aside_button, Qt.MouseButton.LeftButton)
    assert window.header.lost.isHidden()


def test_a_stage_is_left_out_of_the_seasons_counts_by_its_tick(qtbot: QtBot) -> None:
    season.count_verdicts(Path("gone.mirkle"), {"fits": 3})
    dialog = SeasonDialog()
    qtbot.addWidget(dialog)
    assert dialog.list.item(0).text() == "gone: 3 right, 0 not far enough, 0 too far"
    dialog.list.item(0).setCheckState(Qt.CheckState.Unchecked)
    assert [s.counts for s in season.counted_stages()] == [False]


def buttons(widget: QWidget) -> list[str]:
    return [b.text() for b in widget.findChildren(QPushButton)]


def test_a_recording_of_another_road_is_asked_about_with_both_on_a_map(
    open_window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    from mirkle.gui.dialogs.assign_files import IntakeDialog, TwoRoads
    from tests.session.test_another_stage import elsewhere

    window, seen = open_window, []
    first = window.stage

    def look(dialog: IntakeDialog) -> int:
        dialog.show()
        seen.append((dialog.boxes[0].currentText(), len(dialog.findChildren(TwoRoads)), dialog.grab().toImage().width()))
        dialog.close()
        return int(QDialog.DialogCode.Accepted)

    monkeypatch.setattr(IntakeDialog, "exec", look)
    window.workspace.opening.take_files([elsewhere(tmp_path)])
    qtbot.waitUntil(lambda: bool(seen) and not window.workspace.work.busy, timeout=60_000)
    assert seen[0][0].startswith("of another stage")
    assert seen[0][1] == 1
    # Without notes it is no stage yet: it waits for them, and the first stage is as it was.
    assert window.stage is None
    assert first is not None
    assert [f.material.name for f in window.workspace.opening.waiting] == ["elsewhere.csv"]


def test_a_stage_opens_where_it_was_left(kept_demo: Path, reopen) -> None:  # type: ignore[no-untyped-def]
    first = reopen(kept_demo)
    finding = first.reviewed.findings[4]
    first.reviewed.choose(finding)
    first.go_to("Line up")
    first.close()
    again = reopen(kept_demo)
    assert again.header.place == "Line up"
    assert again.reviewed.finding.id == finding.id
    again.go_to("Compare")
    again.close()
    assert reopen(kept_demo).header.place == "Compare"


def test_a_sheet_is_dragged_out_as_a_pdf(open_window: Window, monkeypatch: pytest.MonkeyPatch, qtbot: QtBot) -> None:
    handed: list[bytes] = []

    def taken(drag: QDrag, _action: Qt.DropAction) -> Qt.DropAction:
        data = drag.mimeData()
        assert data is not None
        handed.append(Path(data.urls()[0].toLocalFile()).read_bytes())
        return Qt.DropAction.CopyAction

    monkeypatch.setattr(QDrag, "exec", taken)
    dialog = PreviewDialog(open_window.stage, "card", open_window)
    qtbot.addWidget(dialog)
    dialog.show()
    sheet = next(w for w in dialog.sheets.findChildren(QLabel) if w.objectName() == "sheet")
    QTest.mousePress(sheet, Qt.MouseButton.LeftButton, pos=QPoint(40, 40))
    QTest.mouseMove(sheet, QPoint(140, 90))
    assert handed
    assert handed[0].startswith(b"%PDF")
    assert "Slatehook" in dialog.said.text()
