"""Settling doubtful words, typing a book in, and writing it for another co-driver, in the real window."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from mirkle.files import demo_files
from mirkle.files.notes.text import parse_notes
from mirkle.gui.dialogs.convert_notes import OtherHandDialog
from mirkle.gui.pages.proof import ProofView
from mirkle.gui.pages.typing import TypingView
from mirkle.gui.views.said_against import AgainstView
from mirkle.gui.window import Window
from mirkle.session.proof import MANY


def proof(window: Window, title: str) -> ProofView:
    window.go_to("Gather")
    # The last of them: those taken away are still being deleted.
    return [v for v in window.gather.findChildren(ProofView) if v.proof.title == title][-1]


def settle(window: Window, qtbot: QtBot, act) -> None:  # type: ignore[no-untyped-def]
    with qtbot.waitSignal(window.opened, timeout=30_000):
        act()
    qtbot.waitUntil(lambda: not window.workspace.work.busy)
    QApplication.processEvents()


@pytest.fixture
def from_files(window: Window, qtbot: QtBot, tmp_path: Path):  # type: ignore[no-untyped-def]
    """Opens a stage from files of given contents."""

    def opened(files: dict[str, bytes]) -> Window:
        for name, content in files.items():
            (tmp_path / name).write_bytes(content)
        settle(window, qtbot, lambda: window.workspace.opening.take_files([tmp_path / name for name in files]))
        return window

    return opened


RUN, WORDS = demo_files.demo_file(demo_files.MORNING), demo_files.demo_file(demo_files.CALLS)


def test_unknown_words_of_a_book_are_asked_once_each_and_settled_by_one_key(from_files, qtbot: QtBot) -> None:  # type: ignore[no-untyped-def]
    lines = demo_files.demo_file(demo_files.NOTES).decode().splitlines()
    strange = [f"K {x}" if n in (3, 5, 8) else f"{x} brk" if n == 10 else x for n, x in enumerate(lines)]
    window = from_files({"notes.txt": "\n".join(strange).encode(), "run.csv.gz": RUN})
    view = proof(window, "The notes")
    assert [(d.text, d.count) for d in view.proof.doubts] == [("k", 3), ("brk", 1)]
    first = view.doubt
    assert first is not None
    place = first.places[0]
    assert view.page.toPlainText()[place.start : place.end] == "K"
    assert view.around.text().count("<u>K</u>") == 3
    settle(window, qtbot, lambda: qtbot.keyClick(view, Qt.Key.Key_1))
    assert window.stage is not None
    kinks = [n for n in window.stage.review.notes if any(f.name == "kinks" for f in n.features)]
    assert len(kinks) == 3
    view = proof(window, "The notes")
    assert [d.text for d in view.proof.doubts] == ["brk"]
    settle(window, qtbot, lambda: qtbot.keyClick(view, Qt.Key.Key_L))
    assert not proof(window, "The notes").proof.doubts
    assert window.stage.inputs.crew is not None
    assert b"brk" in window.stage.inputs.crew.content


def test_offers_stand_apart_from_repairs_and_each_can_be_explained(from_files, qtbot: QtBot) -> None:  # type: ignore[no-untyped-def]
    window = from_files({"run.csv.gz": RUN, "said.vtt": WORDS})
    view = proof(window, "What was said")
    kinds = [d.kind for d in view.proof.doubts]
    assert kinds == sorted(kinds, key=("offered", "repaired").index)
    assert set(kinds) == {"offered", "repaired"}
    for kind in ("offered", "repaired"):
        of_kind = [(-d.count if d.count >= MANY else 0, not d.steers, d.sure) for d in view.proof.doubts if d.kind == kind]
        assert of_kind == sorted(of_kind)
    offered = view.proof.doubts[0]
    heard: list[float] = []
    view.hear_wanted.connect(heard.append)
    qtbot.keyClick(view, Qt.Key.Key_Space)
    assert not heard
    view.offer_sound(there=True)
    qtbot.keyClick(view, Qt.Key.Key_Space)
    assert heard == [offered.places[0].at_s]
    qtbot.mouseClick(view.teach, Qt.MouseButton.LeftButton)
    assert "Choose what the word means" in view.why.text()
    meaning = next(i for i in range(view.meaning.count()) if view.meaning.itemText(i).startswith("right "))
    view.meaning.setCurrentIndex(meaning)
    settle(window, qtbot, lambda: qtbot.mouseClick(view.teach, Qt.MouseButton.LeftButton))
    assert offered.text not in [d.text for d in proof(window, "What was said").proof.doubts]
    assert window.stage is not None
    assert window.stage.inputs.crew is not None
    assert offered.text in window.stage.inputs.crew.content.decode()


def test_words_are_held_against_the_notes_before_there_is_a_recording(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    (tmp_path / "notes.txt").write_text("start 80\nL4 long 60\nR3 keep right over crest don't cut rocks inside into\nL5 80\nR2 40")
    (tmp_path / "said.txt").write_text(
        "[0:05] three two one go\n[0:10] start 80 left 4 long 60\n[0:14] right 4 keep right over chest don't cut rocks inside into "
        "\n[0:20] right 2 forty"
    )
    window.workspace.opening.take_files([tmp_path / "notes.txt", tmp_path / "said.txt"])
    qtbot.waitUntil(lambda: not window.workspace.work.busy and bool(window.workspace.opening.waiting))
    view = window.gather.findChildren(AgainstView)[-1]
    shown = [view.list.item(i).text() for i in range(view.list.count())]
    assert len(shown) == 2
    assert shown[0].startswith("R3 keep right over crest don't cut rocks inside into\n")
    assert "right 4 keep right" in shown[0]
    assert "called differently" in shown[0]
    assert "not called" in shown[1]


def test_a_crew_overrules_what_was_found(open_window: Window, qtbot: QtBot) -> None:
    open_window.go_to("Gather")
    box = open_window.gather.habits.boxes["sense"]
    assert box.itemText(0) == "found: 1 is tight"

    def overrule() -> None:
        box.setCurrentIndex(box.findData("descending"))
        box.activated.emit(box.currentIndex())

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
    assert "lnog" in str(typing.lines[1].fault)
    qtbot.keyClick(typing.page, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    typing.page.setPlainText("start 80\nL4 long 60")
    typing.page.moveCursor(typing.page.textCursor().MoveOperation.End)
    qtbot.keyClick(typing.page, Qt.Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
    qtbot.keyClicks(typing.page, "R3 >2 into")
    assert [str(line.words) for line in typing.lines] == [
        "start, then 80 metres",
        "left 4, long, then 60 metres",
        "page 2",
        "right 3, tightens 2, into",
    ]
    assert typing.count.text() == "notes: 3, pages: 2"
    typing.page.setPlainText(demo_files.demo_file(demo_files.NOTES).decode())
    qtbot.keyClick(typing.page, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    qtbot.waitUntil(lambda: not window.workspace.work.busy and bool(window.workspace.opening.waiting))
    run = tmp_path / demo_files.MORNING
    run.write_bytes(demo_files.demo_file(demo_files.MORNING))
    with qtbot.waitSignal(window.opened, timeout=30_000):
        window.workspace.opening.take_files([run])
    assert window.stage is not None
    assert window.stage.review.reading.source.encode() == demo_files.demo_file(demo_files.NOTES)


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
    numbered = [(a.grade, b.grade) for a, b in zip(ours.corners, theirs.corners, strict=True) if a.grade and a.grade.isdigit()]
    assert all(int(a) + int(b) == 7 for a, b in numbered)


def test_what_a_book_says_against_itself_is_settled_by_a_key(from_files, qtbot: QtBot) -> None:  # type: ignore[no-untyped-def]
    book = demo_files.demo_file(demo_files.NOTES).decode().replace("R3 30", "R10 30", 1)
    window = from_files({"run.csv.gz": RUN, "n.txt": book.encode()})
    view = proof(window, "The notes")
    (doubt,) = view.proof.doubts
    assert "no other note has a grade above 6" in str(doubt.why)
    assert view.page.toPlainText()[doubt.places[0].start : doubt.places[0].end] == "R10 30"
    qtbot.keyClick(view, Qt.Key.Key_E)
    assert window.stack.currentWidget() is window.pages.compare
    assert window.stage is not None
    assert window.stage.notes[window.stage.note].grade == "10"
    assert window.pages.compare is not None
    assert window.pages.compare.evidence.field.hasFocus() or window.pages.compare.evidence.field.isVisible()
    window.go_to("Gather")
    view = proof(window, "The notes")
    settle(window, qtbot, lambda: qtbot.keyClick(view, Qt.Key.Key_L))
    assert not proof(window, "The notes").proof.doubts
    assert window.stage.inputs.crew is not None
    assert b'meant = ["r10 30"]' in window.stage.inputs.crew.content
