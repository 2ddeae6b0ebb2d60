"""Wheel, drags and keys on the drawn parts of the window, and a window that holds still while findings change."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from pypdf import PdfReader
from PyQt6.QtCore import QEvent, QObject, QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtWidgets import QApplication, QLabel, QWidget
from pytestqt.qtbot import QtBot

from mirkle.core.lineup.remarks import Remark
from mirkle.gui.dialogs.add import AddDialog
from mirkle.gui.pages.compare import Compare
from mirkle.gui.printing import book, card
from mirkle.gui.window import Window
from tests.gui.test_whole_texts import sizes_of


def compare_of(window: Window) -> Compare:
    assert window.pages.compare is not None
    return window.pages.compare


def wheel(widget: QWidget, notches: int) -> None:
    """Turns the wheel over the middle of a widget; up is positive."""
    middle = QPointF(widget.rect().center())
    event = QWheelEvent(
        middle,
        QPointF(widget.mapToGlobal(middle.toPoint())),
        QPoint(0, 0),
        QPoint(0, 120 * notches),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(widget, event)


def test_the_wheel_on_the_road_takes_the_page_along_and_stops_at_the_ends(open_window: Window) -> None:
    compare, stage = compare_of(open_window), open_window.stage
    assert stage is not None
    began, page = compare.road.middle_m, compare.page.verticalScrollBar().value()
    wheel(compare.road, -4)
    assert compare.road.middle_m > began + 50
    assert compare.page.verticalScrollBar().value() > page
    wheel(compare.road, 4)
    assert compare.road.middle_m == pytest.approx(began)
    wheel(compare.road, 10_000)
    assert compare.road.middle_m == 0.0
    wheel(compare.road, -10_000)
    assert compare.road.middle_m == pytest.approx(stage.review.finish_m)


def test_the_page_scrolled_by_itself_takes_the_road_along(open_window: Window) -> None:
    compare = compare_of(open_window)
    bar = compare.page.verticalScrollBar()
    bar.setValue(0)
    start = compare.road.middle_m
    bar.setValue(bar.maximum())
    assert compare.road.middle_m > start + 5_000


def test_pages_are_turned_by_keys(open_window: Window, qtbot: QtBot) -> None:
    compare, stage = compare_of(open_window), open_window.stage
    assert stage is not None
    stage.choose_note(30)
    for key, note in ((Qt.Key.Key_Down, 31), (Qt.Key.Key_PageDown, 43), (Qt.Key.Key_Up, 42), (Qt.Key.Key_PageUp, 30)):
        qtbot.keyClick(compare.page, key)
        assert stage.note == note
    stage.choose_note(2)
    qtbot.keyClick(compare.page, Qt.Key.Key_PageUp)
    assert stage.note == 0
    last = len(stage.review.notes) - 1
    stage.choose_note(last)
    qtbot.keyClick(compare.page, Qt.Key.Key_Down)
    assert stage.note == last


def test_a_part_of_the_strip_is_dragged_with_shift(open_window: Window, qtbot: QtBot) -> None:
    """A few pixels are a slip of the hand; a stretch is a part that shall not count."""
    compare, stage = compare_of(open_window), open_window.stage
    assert stage is not None
    wanted = []
    compare.parts_wanted.disconnect()
    compare.parts_wanted.connect(wanted.append)
    strip = compare.strip
    y = strip.height() // 2

    def drag(first: int, last: int) -> None:
        qtbot.mousePress(strip, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.ShiftModifier, QPoint(first, y))
        qtbot.mouseMove(strip, QPoint(last, y))
        QApplication.processEvents()
        qtbot.mouseRelease(strip, Qt.MouseButton.LeftButton, pos=QPoint(last, y))

    drag(600, 601)
    assert wanted == []
    drag(700, 500)
    (part,) = wanted
    metres = stage.review.finish_m / strip.width()
    assert part.from_m == pytest.approx(500 * metres, abs=400)
    assert part.to_m - part.from_m == pytest.approx(200 * metres, rel=0.1)


def test_the_notes_ends_are_the_ends_of_lining_up(open_window: Window) -> None:
    open_window.go_to("Line up")
    ties, stage = open_window.pages.line_up.ties, open_window.stage
    assert stage is not None
    began = ties.middle_m
    wheel(ties, -3)
    assert ties.middle_m > began
    wheel(ties, 10_000)
    assert ties.middle_m == 0.0


def test_dragging_that_ends_on_the_page_moves_nothing(open_window: Window, qtbot: QtBot) -> None:
    open_window.go_to("Line up")
    ties, stage = open_window.pages.line_up.ties, open_window.stage
    assert stage is not None
    QApplication.processEvents()
    before = stage.review.lineup.ties
    rows = ties.row_y()
    note = sorted(rows, key=rows.__getitem__)[len(rows) // 2]
    x = int(0.5 * (ties.called_right + ties.notes_right))
    qtbot.mousePress(ties, Qt.MouseButton.LeftButton, pos=QPoint(x, int(rows[note])))
    assert stage.note == note
    qtbot.mouseMove(ties, QPoint(x, int(rows[note]) + 80))
    qtbot.mouseRelease(ties, Qt.MouseButton.LeftButton, pos=QPoint(x, int(rows[note]) + 80))
    assert stage.review.lineup.ties is before
    assert stage.overrides.pins == ()


def test_what_was_said_about_a_place_stands_beside_its_finding_and_its_note(open_window: Window) -> None:
    compare, stage = compare_of(open_window), open_window.stage
    assert stage is not None
    finding = stage.findings[0]
    quiet = next(
        t
        for t in stage.review.lineup.ties
        if t.bend is not None and not stage.findings_on(t.note) and abs(t.bend.apex_m - finding.from_m) > 500
    )
    assert quiet.bend is not None
    remarks = (Remark(finding.to_m + 20.0, "that was close", False), Remark(quiet.bend.to_m + 30.0, "lovely", False))
    stage.book.rebase(replace(stage.review, remarks=remarks))
    stage.choose(finding)
    assert "said here: “that was close”" in compare.evidence.facts.text()
    assert "lovely" not in compare.evidence.facts.text()
    stage.choose_note(quiet.note)
    assert compare.evidence.why.text().endswith("said here: “lovely”")
    before = compare.road.grab().toImage()
    stage.book.rebase(replace(stage.review, remarks=()))
    assert compare.road.grab().toImage() != before


class _Resized(QObject):
    """Counts how often widgets are given another place or size."""

    def __init__(self) -> None:
        super().__init__()
        self.count = 0

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:  # noqa: ARG002
        self.count += event is not None and event.type() in (QEvent.Type.Resize, QEvent.Type.Move)
        return False


def test_the_window_holds_still_while_findings_change(open_window: Window, qtbot: QtBot) -> None:
    """Sentences of one line and of three: the columns beside them keep their places, and the window its size."""
    compare, stage = compare_of(open_window), open_window.stage
    assert stage is not None
    QApplication.processEvents()
    seen = _Resized()
    for part in (open_window, compare.page, compare.road, compare.evidence, compare.strip, compare.bar):
        part.installEventFilter(seen)
    lengths = set()
    for _ in stage.listed:
        qtbot.keyClick(compare, Qt.Key.Key_N)
        QApplication.processEvents()
        lengths.add(len(compare.evidence.why.text()) // 60)
    assert len(lengths) > 1
    assert seen.count == 0


def test_no_sentence_of_any_finding_is_cut_off(open_window: Window) -> None:
    compare, stage = compare_of(open_window), open_window.stage
    assert stage is not None
    for finding in stage.listed:
        stage.choose(finding)
        QApplication.processEvents()
        for label in compare.evidence.findChildren(QLabel):
            if label.isVisible() and label.wordWrap():
                assert label.heightForWidth(label.width()) <= label.height() + 1, (finding.id, label.text())


def test_reports_of_those_ahead_are_read_as_they_are_typed(open_window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    stage = open_window.reviewed
    assert stage is not None
    dialog = AddDialog(stage, 4000.0, open_window)
    qtbot.addWidget(dialog)
    dialog.show()
    dialog.reports.setPlainText("km 4.2 to 5, ice, more than this morning\nfog somewhere")
    assert "4.20–5.00 km: ice, bad" in dialog.reads.text()
    assert "where?" in dialog.reads.text()
    dialog.add()
    assert stage.book.road.additions == [], "all of a sheet or nothing"
    dialog.reports.setPlainText("km 4.2 to 5, ice, more than this morning\npage 2 mud")
    dialog.add()
    assert [a.what for a in stage.book.road.additions] == ["mud", "ice"]
    assert dialog.reports.toPlainText() == ""
    # In the margin of the page, and first and larger on the card.
    page = open_window.pages.compare.page
    ties = [t for t in stage.review.lineup.ties if t.bend is not None and 4300 < t.bend.apex_m < 4900]
    assert ties
    assert all("condition" in page.marks_of(t.note, {}) for t in ties)
    card(stage).write(tmp_path / "card.pdf")
    words = " ".join(" ".join(p.extract_text() for p in PdfReader(tmp_path / "card.pdf").pages).split())
    assert words.index("Reported ahead, and bad") < words.index("For the next pass only")
    assert "more than this morning" in words
    # A second sheet is laid over the first: what has changed is said first, and takes the other's place.
    dialog.reports.setPlainText("km 1 to 1.2, stones\npage 2 mud\nkm 4.2 to 5, ice, a little")
    read = dialog.reads.text().split("\n")
    assert read[0].startswith("4.20–5.00 km: ice, a little (was: bad)")
    assert any("mud" in line and line.endswith("(as before)") for line in read)
    assert any(line.endswith("stones, as it is") for line in read)
    dialog.add()
    assert sorted((a.what, a.level) for a in stage.book.road.additions) == [("ice", 1), ("mud", 2), ("stones", 2)]
    stage.undo()
    assert ("ice", 3) in [(a.what, a.level) for a in stage.book.road.additions]
    # In the printed book it stands in front of the first note where it lies, larger than a note where it is bad.
    book(stage).write(tmp_path / "book.pdf")
    sizes = {text.strip(): size for text, size in sizes_of(tmp_path / "book.pdf")}
    bad = next(size for text, size in sizes.items() if "ice," in text)
    assert bad > max(size for text, size in sizes.items() if text in {n.text.split()[0] for n in stage.notes})
    whole = " ".join(" ".join(p.extract_text() for p in PdfReader(tmp_path / "book.pdf").pages).split())
    assert whole.count("ice, more than this morning") == 1
    assert whole.index("ice, more than this morning") < whole.index(stage.notes[ties[0].note].text)
