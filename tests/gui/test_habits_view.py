"""Habits in the window: which crew, what it gathered, what it always does, and the notes that show it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtWidgets import QDialog
from pytestqt.qtbot import QtBot

from mirkle.files.crew_record import read_crew_record
from mirkle.gui.pages.habits import CrewNames, HabitsDialog
from mirkle.gui.translation import speak
from mirkle.gui.window import Window
from mirkle.session import crew_records, season
from tests.gui.conftest import press
from tests.gui.test_every_screen import faults_of


@pytest.fixture
def dialog(rally_home: Path, window: Window) -> Iterator[HabitsDialog]:  # noqa: ARG001
    dialog = HabitsDialog(window.theme, window)
    dialog.show()
    yield dialog
    speak("en")


def test_a_crew_is_chosen_and_its_habit_leads_to_its_notes(dialog: HabitsDialog, window: Window, qtbot: QtBot) -> None:
    assert dialog.list.count() == 0
    assert not dialog.used.isEnabled()
    dialog.crew.setCurrentIndex(1)
    dialog.crew.activated.emit(1)
    assert dialog.crew.currentText().startswith("Isle / Slate (27)")
    assert dialog.summary.text().startswith("94 corners on 3 stages")
    season.count_verdicts(Path("driven-again.mirkle"), {"fits": 3, "too-slow": 2})
    dialog.refresh()
    assert dialog.summary.text().endswith("Of 5 changes that were driven again 3 were right, 2 went too far.")
    assert dialog.list.item(0).text().startswith("Your lefts are written 0.4 of a grade easier")
    assert dialog.picture.isVisible()
    dialog.place_wanted.connect(window.workspace.look_at_note)
    wanted = dialog.places.currentItem().text()
    press(dialog, "See the note")
    qtbot.waitUntil(lambda: window.stage is not None, timeout=30_000)
    assert wanted == f"{window.stage.project.name}, note {window.stage.note + 1}"
    assert window.header.place == "Compare"


def test_another_crews_grades_are_told_in_this_ones_hand(dialog: HabitsDialog, window: Window, tmp_path: Path) -> None:
    (path,) = crew_records.known_crews()
    record = read_crew_record(path)
    eased = tuple(replace(one, called=one.called - 0.5) for one in record.passes)
    second = crew_records.begin_crew(replace(record, driver="North", passes=eased))
    crew_records.choose_crew(path)
    dialog.refresh()
    assert dialog.other.isVisible()
    dialog.other.setCurrentIndex(dialog.other.findData(str(second)))
    dialog.other.activated.emit(1)
    assert dialog.carried.text().startswith("Grades of North / Slate (27): ")
    assert "3 is your 3+" in dialog.carried.text() or "3 is your 4−" in dialog.carried.text()
    assert "Slate shows it with others as well" in dialog.why.text(), "the same co-driver's other crew has it, too"
    # Their book is one to be filled in: no grade of theirs is a note of ours before somebody writes it.
    dialog.book_wanted.connect(window.fill_in_book)
    dialog.begin_from(tmp_path / "nowhere.txt")
    assert "nowhere.txt" in dialog.fault.text()
    (tmp_path / "theirs.txt").write_text("start 80\nR5 80\nL4 >3 into\nR hairpin 40\n")
    dialog.begin_from(tmp_path / "theirs.txt")
    typing = window.pages.typing
    assert typing is not None
    assert window.stack.currentWidget() is typing
    text = typing.text.splitlines()
    assert (text[0], text[3]) == ("start 80", "R hairpin 40")
    assert text[1].startswith("R _ 80  // R5 80: 5 ~")
    assert text[2].startswith("L _ > _ into  // L4 >3 into: 4 ~")
    assert [line.is_blank for line in typing.lines][:4] == [False, True, True, False]


@pytest.mark.parametrize("language", ["en", "pt"])
def test_nothing_is_cut(dialog: HabitsDialog, language: str) -> None:
    crew_records.choose_crew(crew_records.known_crews()[0])
    speak(language)
    again = HabitsDialog(dialog.picture.theme)
    again.show()
    assert faults_of(again) == []
    again.close()


def test_a_crew_is_begun_switched_off_and_deleted(dialog: HabitsDialog, monkeypatch: pytest.MonkeyPatch) -> None:
    def name_it(asked: QDialog) -> int:
        if isinstance(asked, CrewNames):
            asked.driver.setText("North")
            asked.car.setText("27")
        else:
            press(asked, "Delete it")
        return 1

    monkeypatch.setattr(QDialog, "exec", name_it)
    press(dialog, "New crew")
    record = crew_records.chosen_crew()
    assert record is not None
    assert (record.name, record.gathers, record.used) == ("North (27)", True, True)
    assert dialog.summary.text().startswith("Nothing was gathered yet")
    dialog.used.click()
    assert crew_records.chosen_crew().used is False
    press(dialog, "Delete this profile")
    assert crew_records.chosen_crew() is None
    assert len(crew_records.known_crews()) == 1


def test_switching_the_profile_on_reviews_the_open_stage_again(rally_home: Path, window: Window, qtbot: QtBot) -> None:
    window.workspace.opening.open_project(rally_home / "harbour-road.mirkle")
    qtbot.waitUntil(lambda: window.reviewed is not None, timeout=30_000)
    assert window.reviewed.review.scale is None
    crew_records.choose_crew(crew_records.known_crews()[0])
    window.workspace.crew_chosen(None)
    qtbot.waitUntil(lambda: window.reviewed.review.scale is not None, timeout=30_000)
    told = window.status.said
    window.workspace.judge_by_profile()
    qtbot.waitUntil(lambda: window.status.said.startswith("Judged by your profile of now: "), timeout=30_000)
    assert window.status.said != told
