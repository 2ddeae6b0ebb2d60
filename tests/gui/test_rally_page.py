"""The rally in the window: the day, what is left, what fits, and the same by key; decisions of two copies next to each other."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, datetime
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QDialog
from pytestqt.qtbot import QtBot

from mirkle.core.rally.written_itinerary import read_itinerary
from mirkle.files.project.project import Project
from mirkle.gui.dialogs.choose import ChooseDialog
from mirkle.gui.dialogs.itinerary import ItineraryDialog
from mirkle.gui.pages.conflicts import ConflictsDialog
from mirkle.gui.pages.rally import RallyPage
from mirkle.gui.pages.typing import TypingView
from mirkle.gui.translation import speak
from mirkle.gui.window import Window
from mirkle.session.copies import merge_copy
from mirkle.session.rally import Rally, with_what_stood
from mirkle.session.reviewed_pass import ReviewedPass
from tests.gui.conftest import settled
from tests.gui.test_every_screen import faults_of

NOW = datetime(2026, 12, 4, 8, 31)
LONG = """2026-12-04
08:00 Service A in the old quarry behind the slate works 20 min
08:40 liaison to the first stage 20 min
09:12 SS1 Tarn Moor 4.6 km
09:40 TC1 before the long road to the second stage
10:05 SS2 Cray Bank 5.2 km
11:00 SS3 Upper Cray Bank and the Long Incline over the Old Harbour Road 22.6 km
11:50 Service B 40 min
13:04 SS4 Tarn Moor 2
13:57 SS5 Cray Bank 2
2026-12-05
09:00 SS6 Harbour Road 4.2 km"""


@pytest.fixture
def page(rally_home: Path, qtbot: QtBot, window: Window) -> Iterator[RallyPage]:
    rally = Rally.open(rally_home / "isle.mirkle-rally")
    rally.set_itinerary(with_what_stood(read_itinerary(LONG, date(2026, 12, 1)), []))
    page = RallyPage(rally, window.theme, lambda: NOW)
    page.resize(1280, 760)
    qtbot.addWidget(page)
    page.show()
    yield page
    speak("en")


def rows(page: RallyPage) -> list[str]:
    return [page.list.item(i).text() for i in range(page.list.count())]


def test_the_next_start_is_chosen_and_everything_left_is_said(page: RallyPage) -> None:
    assert page.when.text() == "Next: Tarn Moor, 09:12, in 41 minutes"
    assert page.chosen is not None
    assert page.chosen.name == "Tarn Moor"
    cray = next(row for row in rows(page) if "SS2" in row)
    assert "▼ 2 dangers left" in cray
    assert "expected 3:" in cray
    assert "Before 10:05:\nCray Bank: 2 dangers" in page.plan.text()
    assert next(row for row in rows(page) if "SS3" in row).endswith("no notes and no recording yet")


def test_a_late_start_and_a_cancelled_stage_by_key(page: RallyPage) -> None:
    def key(which: Qt.Key) -> None:
        QTest.keyClick(page.list, which)

    key(Qt.Key.Key_Plus)
    assert [row.split()[0] for row in rows(page)][2:5] == ["09:17", "09:45", "10:10"]
    assert "Sat 5 Dec 09:00" in rows(page)[-1]
    key(Qt.Key.Key_Minus)
    key(Qt.Key.Key_X)
    assert "cancelled" in rows(page)[2]
    assert page.when.text().startswith("Next: Cray Bank, 10:05, in 1 h 34 min")
    assert "Before 09:12" not in page.plan.text()
    key(Qt.Key.Key_X)
    assert "cancelled" not in rows(page)[2]
    key(Qt.Key.Key_N)
    assert page.chosen is not None
    assert page.chosen.kind == "control"
    page.list.setCurrentRow(0)
    key(Qt.Key.Key_J)
    assert [row.split("   ")[0] for row in rows(page)][:3] == ["08:00", "08:35", "09:07"]
    assert rows(page)[0].endswith("15 min")
    key(Qt.Key.Key_L)
    assert [row.split("   ")[0] for row in rows(page)][:3] == ["08:00", "08:40", "09:12"]


def test_a_stage_is_opened_by_enter_and_one_without_files_is_asked_about(page: RallyPage) -> None:
    opened: list[Path] = []
    asked: list[str] = []
    page.stage_wanted.connect(opened.append)
    page.begin_wanted.connect(asked.append)
    page.list.setCurrentRow(4)
    QTest.keyClick(page.list, Qt.Key.Key_Return)
    page.list.setCurrentRow(5)
    QTest.keyClick(page.list, Qt.Key.Key_Return)
    assert ([p.name for p in opened], len(asked)) == (["cray-bank.mirkle"], 1)
    assert asked[0].startswith("Upper Cray Bank")


def test_the_line_of_the_day_is_clicked(page: RallyPage) -> None:
    at = page.line.x_of(datetime(2026, 12, 4, 10, 7))
    QTest.mouseClick(page.line, Qt.MouseButton.LeftButton, pos=QPoint(int(at), 66))
    assert page.chosen is not None
    assert page.chosen.name == "Cray Bank"


@pytest.mark.parametrize("language", ["en", "pt"])
@pytest.mark.parametrize("size", [(1024, 620), (1280, 720)], ids=str)
def test_nothing_is_cut_on_the_page(page: RallyPage, language: str, size: tuple[int, int]) -> None:
    speak(language)
    again = RallyPage(page.rally, page.theme, lambda: NOW)
    again.resize(*size)
    again.show()
    assert faults_of(again) == []
    again.close()


def test_an_itinerary_is_read_back_as_it_is_typed(page: RallyPage, tmp_path: Path) -> None:
    dialog = ItineraryDialog(page.rally, date(2026, 12, 1))
    assert dialog.keep_button.isEnabled()
    dialog.text.appendPlainText("see you there")
    assert dialog.fault.text() == "1 line is not understood"
    assert not dialog.keep_button.isEnabled()
    file = tmp_path / "new.csv"
    file.write_text("2026-12-06\n09:00;SS1;Slatehook;14.2 km\n")
    dialog.text.setPlainText("")
    dialog.take_file(file)
    assert [dialog.read.item(i).text() for i in range(dialog.read.count())] == ["Sun 6 Dec", "09:00   stage   SS1   Slatehook   14.2 km"]
    dialog.name.setText("Isle Sprint")
    dialog.keep()
    assert (page.heading.text(), rows(page)[0].split("\n")[0]) == ("Isle Sprint", "Sun 6 Dec 09:00   SS1   Slatehook   14.2 km")


@pytest.mark.usefixtures("rally_home")
def test_the_demo_rally_stands_on_its_page_and_its_stages_open_from_it(window: Window, qtbot: QtBot) -> None:
    window.workspace.rallies.open_demo()
    qtbot.waitUntil(lambda: isinstance(window.stack.currentWidget(), RallyPage), timeout=30_000)
    window.pages.rally.open_stage()
    qtbot.waitUntil(lambda: window.stage is not None, timeout=30_000)
    assert window.stage.project.name == "Tarn Moor"
    QTest.keyClick(window, Qt.Key.Key_PageDown, Qt.KeyboardModifier.ControlModifier)
    qtbot.waitUntil(lambda: window.stage.project.name == "Cray Bank", timeout=30_000)
    window.go_to("Rally")
    assert isinstance(window.stack.currentWidget(), RallyPage)


def test_a_stage_is_begun_with_a_title_only_and_its_book_follows(window: Window, rally_home: Path, qtbot: QtBot) -> None:
    """From the itinerary: what is typed is the book of that stage, by its name."""
    window.workspace.rallies.open(rally_home / "isle.mirkle-rally")
    rally = window.workspace.rally
    assert rally is not None
    rally.set_itinerary(with_what_stood(read_itinerary("2040-01-02\n09:00 SS1 Kirk Fell 3 km", date(2040, 1, 1)), []))
    window.begin_titled("Kirk Fell")
    typing = window.stack.currentWidget()
    assert isinstance(typing, TypingView)
    typing.page.setPlainText("page 1\nstart 80\nL4 long 60\nR3 50\nL5 80\nR2 40\nL4 60\nR5 100")
    typing.finish()
    qtbot.waitUntil(lambda: window.workspace.opening.beginning is not None, timeout=30_000)
    assert window.workspace.opening.beginning.name == "Kirk Fell"
    window.go_to("Rally")
    (stage,) = rally.stages(NOW)
    assert stage.shelf is not None
    assert window.workspace.with_book is not None
    assert [n.text for n in window.workspace.with_book.notes][1:3] == ["L4 long 60", "R3 50"]


def test_a_rally_is_begun_by_its_name(window: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    def name_it(dialog: QDialog) -> int:
        if isinstance(dialog, ChooseDialog):
            dialog.field.setText("Slate Isle")
        else:
            # What comes next is its itinerary.
            assert isinstance(dialog, ItineraryDialog)
            dialog.text.setPlainText("2040-01-02\n09:00 SS1 Tarn Moor")
            dialog.keep()
        return 1

    monkeypatch.setattr(QDialog, "exec", name_it)
    window.go_to("Rally")
    assert window.workspace.rally is not None
    assert window.workspace.rally.name == "Slate Isle"
    assert [item.name for item in window.workspace.rally.itinerary] == ["Tarn Moor"]
    assert isinstance(window.stack.currentWidget(), RallyPage)


def test_two_decisions_that_disagree_are_chosen_between_by_key(open_window: Window, tmp_path: Path) -> None:
    stage = open_window.reviewed
    assert stage is not None
    copy = tmp_path / "copy.mirkle"
    stage.project.copy_to(copy)
    elsewhere = ReviewedPass.of_project(Project.open(copy))
    here = {f.id: f for f in stage.findings}
    finding = next(f for f in elsewhere.findings if f.id in here)
    elsewhere.book.answer(finding, "keep", by="driver", remark="we were slow there")
    elsewhere.project.close()
    stage.book.answer(here[finding.id], "talk")
    merge_copy(stage.project, copy)
    stage.book.reload()
    assert open_window.header.conflicts.text() == "1 to choose"
    dialog = ConflictsDialog(stage, open_window)
    dialog.show()
    assert faults_of(dialog) == []
    words = [side.text() for side in dialog.sides]
    QTest.keyClick(dialog.list, Qt.Key.Key_1 if "we were slow there" in words[0] else Qt.Key.Key_2)
    settled()
    assert stage.book.decisions[finding.id].remark == "we were slow there"
    assert dialog.list.count() == 0
    assert not open_window.header.conflicts.isVisible()
