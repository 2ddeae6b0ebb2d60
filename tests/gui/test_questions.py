"""What a newcomer asks of each screen is answered on it; every control can be reached by keyboard, and says what it is."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, QPointF, Qt
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtWidgets import QAbstractButton, QApplication, QComboBox, QLabel, QLineEdit, QListWidget, QPlainTextEdit, QSpinBox, QWidget
from pytestqt.qtbot import QtBot

from mirkle.core.judging.findings import Finding
from mirkle.files.project.project import Project
from mirkle.gui.labels import sure_words
from mirkle.gui.translation import tr, tr_counted, tr_why
from mirkle.gui.views.status_line import clock
from mirkle.gui.window import Window
from mirkle.session import recent_stages
from mirkle.session.playback_clock import recording_s
from mirkle.session.reviewed_pass import ReviewedPass
from tests.gui.conftest import settled
from tests.gui.test_language import spoken

DOC = Path(__file__).parents[2] / "docs" / "questions.md"


def seen(widget: QWidget) -> str:
    """Everything that can be read on a screen, as a user would: what is painted says it to screen readers."""
    words = []
    for part in (widget, *widget.findChildren(QWidget)):
        if not part.isVisible():
            continue
        if isinstance(part, QLabel | QAbstractButton | QLineEdit):
            words.append(part.text())
        elif isinstance(part, QPlainTextEdit):
            words.append(part.toPlainText())
        elif isinstance(part, QComboBox):
            words.append(part.currentText())
        elif isinstance(part, QListWidget):
            words += [part.item(i).text() for i in range(part.count())]
    return "\n".join(words)


@pytest.mark.parametrize("code", ["en", "pt"])
def test_forty_questions_are_answered_on_the_screens(kept_demo: Path, qtbot: QtBot, code: str) -> None:
    assert re.findall(r"^(\d+)\. ", DOC.read_text(), re.MULTILINE) == [str(n) for n in range(1, 41)]
    with spoken(code):
        recent_stages.remember(kept_demo)
        with_summary(kept_demo)
        window = Window()
        qtbot.addWidget(window)
        window.resize(1280, 800)
        window.show()
        first = seen(window)
        for words in (
            "Drop your notes and the recording of the run here",
            "Show me the demo stage",
            "Type in your notes…",
            "Your stages",
            "then Compare",
        ):
            assert tr(words) in first
        assert "Slatehook" in first
        assert re.search(tr_counted("▼ 1 danger left", "▼ {0} dangers left", 9).replace("9", r"\d+"), first)
        with qtbot.waitSignal(window.opened, timeout=10_000):
            window.workspace.opening.open_project(kept_demo)
        qtbot.waitUntil(lambda: not window.workspace.work.busy)
        stage = window.stage
        assert stage is not None
        finding = stage.finding
        assert isinstance(finding, Finding)
        compare = seen(window)
        note = stage.review.notes[finding.note]
        for words in (
            tr_why(finding.because),
            sure_words(finding),
            str(note.page),
            str(note.line),
            tr("Mark it  ⏎"),
            tr("Keep  K"),
            tr("Talk  T"),
            tr("Video  V"),
            tr("Hear it  Space"),
            tr("Add  H"),
            tr_counted("▼ 1 danger left", "▼ {0} dangers left", stage.book.dangers_left),
            tr("time control in"),
            "−",
            "+",
            tr("{0:.0f} m shown", window.pages.compare.road.in_sight_m),
            stage.book.proposal(finding).text,
            window.status.place.text(),
        ):
            assert words in compare, words
        assert tr("Reads: {0}", "").strip() in compare
        at = [recording_s(stage, m) for m in (finding.from_m - 30, finding.to_m + 30)]
        minutes, seconds = re.search(r"(\d+):(\d+)", window.status.place.text()).groups()
        assert at[0] < int(minutes) * 60 + int(seconds) < at[1]
        window.go_to("Gather")
        settled()
        gather = seen(window)
        for words in ("The notes", "The recording", "The words", "The sound", "On the road", "Note", "Go on to Compare  ⏎"):
            assert tr(words) in gather
        assert tr("{0}: {1:.1f} km from start to finish", "Slatehook", stage.review.finish_m / 1000) in gather
        window.go_to("Line up")
        settled()
        line_up = seen(window)
        for words in ("right  ⏎", "←  to the bend before", "to the next bend  →"):
            assert tr(words) in line_up
        assert tr("{0:.0%} sure", 0.5)[-4:] in line_up
        window.pages.compare.answer("mark")
        window.go_to("Book")
        book = seen(window)
        change = stage.book.edition.changes[0]
        place = tr("page {0}, line {1}     {2}   →   {3}", change.page, change.line, "", "").split("   ")[0].strip()
        for words in (place, "Change card…", "New book…", "Tick each change when it is in your paper book (Space)."):
            assert tr(words) in book
        window.go_to("Rehearse")
        qtbot.keyClick(window.pages.rehearse, Qt.Key.Key_C)
        rehearse = seen(window)
        line = next(x for x in window.pages.rehearse.rehearsal.lines if x.changed)
        for words in (
            tr("Start  ⏎"),
            f"{tr('Call it')}  C",
            "100 %",
            tr("1 change is not rehearsed yet"),
            line.text,
            tr("Press Space at each call. Mirkle compares it with when the driver needs it."),
        ):
            assert words in rehearse, words
        window.pages.rehearse.rehearsal.line = window.pages.rehearse.rehearsal.lines.index(line)
        window.pages.rehearse.page.show_line()
        assert window.pages.rehearse.page.accessibleDescription() == line.text
        window.go_to("Passes")
        qtbot.waitUntil(lambda: bool(window.pages.followed.steps) and not window.workspace.work.busy, timeout=60_000)
        assert any(tr(v) in seen(window.pages.followed) for v in ("fits", "still too fast", "now too slow"))
        window.workspace.change_pass(3)
        qtbot.waitUntil(lambda: window.reviewed is None and not window.workspace.work.busy, timeout=15_000)
        window.stage.choose_note(8)
        qtbot.keyClick(window.pages.watch, Qt.Key.Key_I)
        by_eye = seen(window)
        for words in (
            tr("called at {0} (sound)", clock(window.pages.watch.moments[8].from_s)),
            f"{tr('as called')}  K",
            f"{tr('hazard here')}  H",
            "R4 20",
            tr("{0} of {1} answered", 0, 142),
            tr("Nothing was measured on this pass. This is what you saw."),
        ):
            assert words in by_eye, words
        assert tr("Reads: {0}", "").strip() in by_eye


def with_summary(path: Path) -> None:
    """The shelf knows of a stage what was kept when it was last open."""
    from mirkle.session.stage_summary import keep_summary

    project = Project.open(path)
    keep_summary(ReviewedPass.of_project(project))
    project.close()


def test_every_control_is_reached_by_tab_and_says_what_it_is(open_window: Window, qtbot: QtBot) -> None:
    """Round each place with Tab: what has the keyboard has a name, shows that it has it, and nothing is left out."""
    window = open_window
    for place in ("Gather", "Line up", "Compare", "Book", "Rehearse", "Passes", "By eye"):
        if place == "By eye":
            window.workspace.change_pass(3)
            qtbot.waitUntil(lambda: window.reviewed is None and not window.workspace.work.busy, timeout=15_000)
        window.go_to(place)
        settled()
        if place == "Passes":
            qtbot.waitUntil(lambda: bool(window.pages.followed.steps) and not window.workspace.work.busy, timeout=60_000)
            settled()
        stops: list[QWidget] = []
        for _ in range(120):
            qtbot.keyClick(QApplication.focusWidget() or window, Qt.Key.Key_Tab)
            here = QApplication.focusWidget()
            if here is None or (stops and here is stops[0]):
                break
            stops.append(here)
        assert len(stops) > 5, place
        nameless = [type(w).__name__ for w in stops if not (w.accessibleName() or getattr(w, "text", str)())]
        assert nameless == [], place
        wanted = {
            w for w in window.findChildren(QAbstractButton) if w.isVisible() and w.isEnabled() and w.focusPolicy() & Qt.FocusPolicy.TabFocus
        }
        # Of buttons that shut each other out Tab finds the one that is on; arrows lead to the rest.
        missed = [b.text() for b in wanted - set(stops) if not (b.group() and not b.isChecked())]
        assert missed == [], place


def test_focus_is_seen_at_every_kind_of_stop(open_window: Window) -> None:
    """With the keyboard on it a control looks otherwise than without."""
    window = open_window
    window.go_to("Book")
    settled()
    for widget in (window.pages.book.card_button, window.pages.book.lines, window.header.passes, window.pages.book.list):
        window.setFocus()
        settled()
        before = widget.grab().toImage()
        widget.setFocus(Qt.FocusReason.TabFocusReason)
        settled()
        assert widget.grab().toImage() != before, widget.accessibleName()


def test_the_wheel_scrolls_the_page_and_changes_no_box(open_window: Window) -> None:
    """Whoever scrolls over a box on the way sets nothing."""
    compare = open_window.pages.compare

    def turn(widget: QWidget) -> None:
        at = QPointF(widget.rect().center())
        event = QWheelEvent(
            at,
            QPointF(widget.mapToGlobal(at)),
            QPoint(),
            QPoint(0, -240),
            Qt.MouseButton.NoButton,
            Qt.KeyboardModifier.NoModifier,
            Qt.ScrollPhase.NoScrollPhase,
            False,
        )
        QApplication.sendEvent(widget, event)

    before = compare.page.verticalScrollBar().value()
    turn(compare.page.viewport())
    assert compare.page.verticalScrollBar().value() > before
    boxes = (compare.bar.order, compare.bar.minutes, compare.evidence.who, open_window.header.passes)
    turn(open_window.pages.rehearse.slider)
    assert open_window.pages.rehearse.rehearsal.pace == 1.0
    values = [b.text() if isinstance(b, QSpinBox) else b.currentIndex() for b in boxes]
    for box in boxes:
        turn(box)
    assert [b.text() if isinstance(b, QSpinBox) else b.currentIndex() for b in boxes] == values


def test_all_findings_are_decided_in_hardly_more_than_a_key_each(open_window: Window, qtbot: QtBot) -> None:
    """A crew that takes what is proposed, and keeps the rest: keys counted as they are pressed."""
    stage, compare = open_window.stage, open_window.pages.compare
    keys = 0
    while len(stage.book.decisions) < len(stage.findings):
        assert stage.finding is not None
        takes = compare.evidence.buttons["mark"].isEnabled()
        qtbot.keyClick(compare, Qt.Key.Key_Return if takes else Qt.Key.Key_K)
        keys += 1
        assert keys < 200
    assert len(stage.findings) >= 31
    assert keys <= 1.3 * len(stage.findings), (keys, len(stage.findings))
