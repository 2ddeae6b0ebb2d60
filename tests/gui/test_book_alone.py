"""A book without a recording: changed, undone, printed, written out, and still there when the recording comes."""

from __future__ import annotations

from itertools import pairwise
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from mirkle.gui.pages.notebook import NotebookPage
from mirkle.gui.pages.preview import PreviewDialog
from mirkle.gui.window import Window
from tests.conftest import MORNING
from tests.gui.conftest import settled

BOOK = "page 1\nL4 60\nR3 40\nL hp 30\npage 2\nR2 50\nL5 100\nR4 60\nL3 80\nR6 into\nL2 40\nR5 70\n"


@pytest.fixture
def page(window: Window, tmp_path: Path, qtbot: QtBot) -> NotebookPage:
    notes = tmp_path / "evening.txt"
    notes.write_text(BOOK)
    window.workspace.opening.take_files([notes])
    qtbot.waitUntil(lambda: window.workspace.has_book and not window.workspace.work.busy, timeout=10_000)
    window.go_to("Book")
    made = window.pages.book
    assert made is not None
    assert window.stack.currentWidget() is made
    return made


def typed(page: NotebookPage, note: int, text: str) -> None:
    page.stage.choose_note(note)
    page.setFocus()
    settled()
    QTest.keyClick(page, Qt.Key.Key_E)
    assert page.field.isVisible()
    QTest.keyClicks(page.field, text)
    QTest.keyClick(page.field, Qt.Key.Key_Return)


def test_a_note_is_changed_undone_and_split(page: NotebookPage, window: Window) -> None:
    typed(page, 1, "R2 40")
    assert page.stage.book.edition.text_of(page.stage.notes[1]) == "R2 40"
    assert not page.field.isVisible()
    assert "1 change" in page.heading.text()
    QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert page.stage.book.edition.text_of(page.stage.notes[1]) == "R3 40"
    typed(page, 2, "L hp 10")
    page.stage.book.mark(None, 4, "L5 30\nR6 60", by="both")
    assert page.stage.book.edition.text_of(page.stage.notes[4]) == "L5 30\nR6 60"


def test_a_faster_note_takes_both_and_escape_leaves_it(page: NotebookPage) -> None:
    typed(page, 1, "R5 40")
    assert "the other presses Enter" in page.reads.text()
    assert not page.stage.book.edition.changes
    QTest.keyClick(page.field, Qt.Key.Key_Escape)
    assert not page.field.isVisible()
    assert not page.stage.book.edition.changes
    typed(page, 1, "R5 40")
    QTest.keyClick(page.field, Qt.Key.Key_Return)
    assert [c.new for c in page.stage.book.edition.changes] == ["R5 40"]


def test_notes_are_joined_and_moved_by_keys_and_undone(page: NotebookPage, window: Window) -> None:
    book = page.stage.book
    before = book.edition.text
    page.stage.choose_note(3)
    page.setFocus()
    settled()
    QTest.keyClick(page, Qt.Key.Key_J, Qt.KeyboardModifier.ControlModifier)
    assert "R2 50 L5 100\nR4 60" in book.edition.text
    assert [c.new for c in book.edition.changes] == ["R2 50 L5 100"]
    QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert book.edition.text == before
    # A note that is more open comes first now: no note of the book is faster for it.
    QTest.keyClick(page, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    assert "page 2\nL5 100\nR2 50\nR4 60" in book.edition.text
    assert page.said.text() == ""
    QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    page.stage.choose_note(5)
    QTest.keyClick(page, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    assert "R2 50\nR4 60\nL5 100\nL3 80" in book.edition.text
    QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    # Not over the edge of a page, and not behind the end.
    page.stage.choose_note(2)
    QTest.keyClick(page, Qt.Key.Key_J, Qt.KeyboardModifier.ControlModifier)
    assert page.said.text().startswith("the next note stands on another page")
    page.stage.choose_note(len(page.stage.notes) - 1)
    QTest.keyClick(page, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    assert page.said.text().startswith("this is the last note")
    assert book.edition.text == before
    # What was changed before goes along.
    typed(page, 4, "L4 100")
    page.stage.choose_note(3)
    QTest.keyClick(page, Qt.Key.Key_J, Qt.KeyboardModifier.ControlModifier)
    assert "R2 50 L4 100" in book.edition.text


def test_what_says_the_same_or_is_no_note_changes_nothing(page: NotebookPage) -> None:
    typed(page, 1, "R3 40")
    assert page.field.isVisible()
    assert "what the book says already" in page.reads.text()
    QTest.keyClick(page.field, Qt.Key.Key_Escape)
    typed(page, 1, "(look again)")
    assert page.field.isVisible()
    assert not page.stage.book.edition.changes


def test_pages_turn_on_straights_by_a_key(page: NotebookPage) -> None:
    QTest.keyClick(page, Qt.Key.Key_G, Qt.KeyboardModifier.ShiftModifier)
    turns = [a for a, b in pairwise(page.stage.notes) if a.page != b.page]
    assert turns
    assert all(n.link is None for n in turns)


def test_it_prints_writes_out_and_joins_its_recording(page: NotebookPage, window: Window, tmp_path: Path, qtbot: QtBot) -> None:
    typed(page, 1, "R2 40")
    dialog = PreviewDialog(page.stage, "book", window)
    qtbot.addWidget(dialog)
    assert dialog.printed.pdf().startswith(b"%PDF")
    page.take_away(tmp_path / "new.txt")
    assert "R2 40" in (tmp_path / "new.txt").read_text()
    page.stage.choose_note(4)
    QTest.keyClick(page, Qt.Key.Key_G)
    QApplication.processEvents()
    assert page.stage.notes[4].page != page.stage.notes[3].page
    run = tmp_path / MORNING.name
    run.write_bytes(MORNING.content)
    window.workspace.opening.take_files([run])
    qtbot.waitUntil(lambda: window.stage is not None and not window.workspace.work.busy, timeout=30_000)
    assert window.stage is not None
    assert window.stage.book.edition.text_of(window.stage.notes[1]) == "R2 40"
