"""Settling doubtful words, typing a book in, and writing it for another co-driver, in the real window."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from mirkle.desk.other_hand_view import OtherHandDialog
from mirkle.desk.proof_view import ProofView
from mirkle.desk.typing_view import TypingView
from mirkle.desk.window import Window
from mirkle.files.notes_text import parse_notes
from mirkle.standins import slatehook


def said(window: Window) -> ProofView:
    window.go_to("Gather")
    # The last of them: those taken away are still being deleted.
    return [v for v in window.gather.findChildren(ProofView) if v.proof.title == "What was said"][-1]


def settle(window: Window, qtbot: QtBot, act) -> ProofView:  # type: ignore[no-untyped-def]
    with qtbot.waitSignal(window.opened, timeout=30_000):
        act()
    qtbot.waitUntil(lambda: window._job is None)
    QApplication.processEvents()
    return said(window)


def test_repairs_are_accepted_left_and_explained(open_window: Window, qtbot: QtBot) -> None:
    view = said(open_window)
    before = [d.text for d in view.proof.doubts]
    assert len(before) > 6
    first = view.doubt
    assert first is not None
    assert view.page.toPlainText()[first.start : first.end] == first.text
    view = settle(open_window, qtbot, lambda: qtbot.keyClick(view, Qt.Key.Key_Return))
    assert first.text not in [d.text for d in view.proof.doubts]
    second = view.doubt
    assert second is not None
    view = settle(open_window, qtbot, lambda: qtbot.keyClick(view, Qt.Key.Key_L))
    left = [d for d in view.proof.doubts if d.text == second.text]
    assert all(not d.read_as for d in left)
    assert left
    view.list.setCurrentRow(view.proof.doubts.index(left[0]))
    qtbot.mouseClick(view.teach, Qt.MouseButton.LeftButton)
    assert "Choose what the word means" in view.why.text()
    meaning = next(i for i in range(view.meaning.count()) if view.meaning.itemText(i).startswith("right "))
    view.meaning.setCurrentIndex(meaning)
    view = settle(open_window, qtbot, lambda: qtbot.mouseClick(view.teach, Qt.MouseButton.LeftButton))
    assert second.text not in [d.text for d in view.proof.doubts]
    assert open_window.stage is not None
    assert open_window.stage.inputs.crew is not None
    assert second.text in open_window.stage.inputs.crew.content.decode()


def test_a_crew_overrules_what_was_found(open_window: Window, qtbot: QtBot) -> None:
    box = open_window.gather.habit_boxes["sense"]
    assert box.itemText(0) == "found: 1 is tight"

    def overrule() -> None:
        box.setCurrentIndex(box.findData("descending"))
        box.activated.emit(box.currentIndex())

    open_window.go_to("Gather")
    settle(open_window, qtbot, overrule)
    assert open_window.stage is not None
    assert open_window.stage.review.school.sense == "descending"


def test_a_paper_book_is_typed_in_and_reviewed(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    window.type_notes()
    typing = window.stack.currentWidget()
    assert isinstance(typing, TypingView)
    assert not typing.use.isEnabled()
    qtbot.keyClicks(typing.page, "start 80")
    qtbot.keyClick(typing.page, Qt.Key.Key_Return)
    qtbot.keyClicks(typing.page, "L4 lnog 60")
    assert "1 line not understood" in typing.count.text()
    assert "lnog" in typing.lines[1].fault
    qtbot.keyClick(typing.page, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    typing.page.setPlainText("start 80\nL4 long 60")
    typing.page.moveCursor(typing.page.textCursor().MoveOperation.End)
    qtbot.keyClick(typing.page, Qt.Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
    qtbot.keyClicks(typing.page, "R3 >2 into")
    assert [line.words for line in typing.lines] == [
        "start, then 80 metres", "left 4, long, then 60 metres", "page 2", "right 3, tightens 2, into"
    ]  # fmt: skip
    assert typing.count.text() == "3 notes on 2 pages"
    typing.page.setPlainText(slatehook.demo_file(slatehook.NOTES).decode())
    qtbot.keyClick(typing.page, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    qtbot.waitUntil(lambda: window._job is None and bool(window._waiting))
    run = tmp_path / slatehook.MORNING
    run.write_bytes(slatehook.demo_file(slatehook.MORNING))
    with qtbot.waitSignal(window.opened, timeout=30_000):
        window.take_files([run])
    assert window.stage is not None
    assert window.stage.review.reading.source.encode() == slatehook.demo_file(slatehook.NOTES)


def test_the_book_is_written_for_another_co_driver(open_window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    assert open_window.stage is not None
    dialog = OtherHandDialog(open_window.stage)
    qtbot.addWidget(dialog)
    assert dialog.lost.text() == "Everything was carried over."
    dialog.language.setCurrentIndex(dialog.language.findData("pt"))
    dialog.sense.setCurrentIndex(dialog.sense.findData("descending"))
    assert "esquerda" in dialog.page.toPlainText()
    dialog.write(tmp_path / "other.txt")
    theirs = parse_notes((tmp_path / "other.txt").read_bytes(), name="other")
    ours = open_window.stage.review.reading
    assert theirs.language == "pt"
    assert [n.direction for n in theirs.notes] == [n.direction for n in ours.notes]
    assert [n.distance_m for n in theirs.notes] == [n.distance_m for n in ours.notes]
    numbered = [
        (a.grade, b.grade) for a, b in zip(ours.corners, theirs.corners, strict=True) if a.grade and a.grade.isdigit()
    ]
    assert all(int(a) + int(b) == 7 for a, b in numbered)


def test_what_was_said_is_added_to_the_open_stage(open_window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    stage = open_window.stage
    assert stage is not None
    words = tmp_path / "words.txt"
    words.write_text(
        "[0:30] start 80 left 5 very long 30 right 2 long tightens 1 30 left hairpin 20 right 2 long 40 left 2 120"
    )
    with qtbot.waitSignal(open_window.opened, timeout=30_000):
        open_window.take_files([words])
    assert open_window.stage is not None
    assert open_window.stage.project is stage.project
    assert open_window.stage.inputs.calls is not None
    assert open_window.stage.inputs.calls.name == "words.txt"
