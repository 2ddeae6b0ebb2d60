"""A book from the first evening to the second pass, every step in the real window: a title, a slow pass, blanks, a print, reports, a debrief
with two corrections, and Passes, which finds both right."""

from __future__ import annotations

import gzip
from pathlib import Path

import pytest
from pypdf import PdfReader
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from mirkle.core.lineup.blanks import BLANK
from mirkle.files import demo_files
from mirkle.gui.dialogs.add import AddDialog
from mirkle.gui.pages.debrief import DebriefDialog
from mirkle.gui.printing import BookStyle, book
from mirkle.gui.sheets import PaperFormat
from mirkle.gui.window import Window
from mirkle.session.demo_first_book import NAME, first_book_demo
from mirkle.session.reviewed_pass import ReviewedPass
from tests.gui.test_passes import ANSWERS, asked, dropped, take  # noqa: F401


def given(tmp_path: Path, name: str) -> Path:
    """One of the demo's files, as a crew has it in its folder."""
    path = tmp_path / name.removesuffix(".gz")
    content = demo_files.demo_file(name)
    path.write_bytes(gzip.decompress(content) if name.endswith(".gz") else content)
    return path


@pytest.mark.usefixtures("asked")
def test_from_a_title_to_corrections_that_the_next_pass_finds_right(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    # Thursday evening in the hotel: a title, the slow pass, and the road as blanks to fill.
    window.begin_titled(NAME)
    window.workspace.opening.take_files([given(tmp_path, demo_files.FIRST_BOOK_SLOW)])
    qtbot.waitUntil(lambda: not window.workspace.work.busy and window.gather.blanks_button.isVisibleTo(window.gather), timeout=20_000)
    window.gather.blanks_button.click()
    qtbot.waitUntil(lambda: window.pages.typing is not None and BLANK in window.pages.typing.text, timeout=20_000)
    typing = window.pages.typing
    assert typing is not None
    written = demo_files.demo_file(demo_files.FIRST_BOOK).decode()
    corners = sum(line[:1] in "LR" for line in written.splitlines())
    assert abs(sum(line.is_blank for line in typing.lines) - corners) <= 3, "the road has about as many bends as the crew writes"
    # The crew writes its own book over them; two of its grades are too fast.
    typing.page.setPlainText(written)
    with qtbot.waitSignal(window.opened, timeout=40_000):
        qtbot.keyClick(typing.page, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    assert window.reviewed is not None
    assert window.reviewed.project.name == NAME
    # It is printed, small enough for a pocket, two on a sheet, with room for the thumb.
    book(window.reviewed, PaperFormat("A6", thumb="left", two_up=True), BookStyle(night=True)).write(tmp_path / "book.pdf")
    printed = " ".join(" ".join(p.extract_text() for p in PdfReader(tmp_path / "book.pdf").pages).split())
    assert all(note.text in printed for note in window.reviewed.notes)
    # Friday in the tent: those ahead report.
    adding = AddDialog(window.reviewed, 0.0, window)
    qtbot.addWidget(adding)
    adding.reports.setPlainText(demo_files.demo_file(demo_files.FIRST_BOOK_REPORTS).decode())
    adding.add()
    assert [(a.what, a.level) for a in window.reviewed.book.road.additions] == [("mud", 1), ("ice", 3)]
    # The first pass, with what was called and said behind the finish.
    ANSWERS.append(take())
    first = dropped(window, qtbot, given(tmp_path, demo_files.FIRST_BOOK_RUN), given(tmp_path, demo_files.FIRST_BOOK_CALLS))
    window.go_to("Compare")
    assert first.book.road.driven_with(2400.0, 2500.0) is not None, "the ice was reported for this pass"
    debrief = DebriefDialog(first, window.theme, window)
    qtbot.addWidget(debrief)
    assert debrief.heading.text() == "1 remark has no note yet"
    assert "tyres were cold" in debrief.list.item(0).text()
    debrief.close()
    wishes = [f for f in first.findings if f.kind == "said-by-you"]
    assert len(wishes) == 2
    compare = window.pages.compare
    assert compare is not None
    for finding in wishes:
        first.choose(finding)
        qtbot.keyClick(compare, Qt.Key.Key_Return)
        assert first.book.decisions[finding.id].answer == "mark"
    corrected = demo_files.demo_file(demo_files.FIRST_BOOK_CORRECTED).decode()
    assert first.book.edition.text == corrected
    # The second pass reads the corrected book.
    ANSWERS.append(take())
    second = dropped(window, qtbot, given(tmp_path, demo_files.FIRST_BOOK_SECOND), given(tmp_path, demo_files.FIRST_BOOK_SECOND_CALLS))
    assert [n.text for n in second.notes] == [n.text for n in first.notes] or second.reading.source == corrected
    window.go_to("Passes")
    passes = window.pages.followed
    qtbot.waitUntil(lambda: not window.workspace.work.busy and bool(passes.steps), timeout=30_000)
    found = passes.steps[-1].found
    assert {c.verdict for c in found.changes} == {"fits"}
    assert len(found.changes) == 2
    # What was reported for the first pass was for that pass alone.
    assert second.book.road.driven_with(2400.0, 2500.0) is None
    assert second.book.road.condition_on(2400.0, 2500.0) is None


def test_the_shipped_demo_ends_where_that_does(window: Window, qtbot: QtBot) -> None:
    path = first_book_demo()
    assert first_book_demo() == path
    with qtbot.waitSignal(window.opened, timeout=20_000):
        window.workspace.open_first_book()
    assert isinstance(window.stage, ReviewedPass)
    assert window.stage.project.name == NAME
    window.go_to("Passes")
    passes = window.pages.followed
    qtbot.waitUntil(lambda: not window.workspace.work.busy and len(passes.steps) == 2, timeout=30_000)
    assert [c.verdict for c in passes.steps[-1].found.changes] == ["fits", "fits"]
