"""The whole job in the real window: from the first start to the written card, by keys and by mouse."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from pypdf import PdfReader
from PyQt6.QtCore import QMimeData, QPointF, Qt, QTimer, QUrl
from PyQt6.QtGui import QDropEvent, QImage
from PyQt6.QtWidgets import QApplication, QLabel, QMenu, QMessageBox, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from mirkle.core.cautions import CAUTIONS
from mirkle.files import demo_files
from mirkle.files.export.by_ending import BY_ENDING
from mirkle.gui.app import _say_and_go_on
from mirkle.gui.commands import A_RALLY, A_VIDEO, COMMANDS, NOTHING
from mirkle.gui.dialogs.add import AddDialog
from mirkle.gui.dialogs.cautions_and_keys import MARKS, About, Cautions, Keys, Marks
from mirkle.gui.pages.editions import EditionsDialog, HistoryDialog
from mirkle.gui.pages.find import FindDialog
from mirkle.gui.printing import BookStyle, card
from mirkle.gui.printing import book as printed_book
from mirkle.gui.shapes import mark_name
from mirkle.gui.sheets import PaperFormat
from mirkle.gui.views.evidence import Evidence
from mirkle.gui.views.notes_page import MARGIN_PX
from mirkle.gui.window import Window
from mirkle.session import settings
from mirkle.session.paths import data_folder
from mirkle.synthetic import slatehook
from tests.conftest import MORNING
from tests.gui.conftest import settled
from tests.session.test_material import LETTERS

NUMBER = re.compile(r"\d+")


def picture(widget) -> QImage:  # type: ignore[no-untyped-def]
    return widget.grab().toImage()


def drop(window: Window, *paths: Path) -> None:
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(p)) for p in paths])
    event = QDropEvent(QPointF(300, 300), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier)
    window.dropEvent(event)


def test_cautions_are_shown_at_the_first_start_only(window: Window, qtbot: QtBot) -> None:
    seen: list[str] = []

    def read() -> None:
        dialog = QApplication.activeModalWidget()
        assert isinstance(dialog, Cautions)
        seen.append("cautions")
        qtbot.mouseClick(dialog.findChild(QPushButton), Qt.MouseButton.LeftButton)

    QTimer.singleShot(100, read)
    window.show_cautions_once()
    window.show_cautions_once()
    assert seen == ["cautions"]


def test_own_files_are_dropped_reviewed_and_saved(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    slatehook.write_demo(tmp_path)
    drop(window, tmp_path / demo_files.NOTES)
    qtbot.waitUntil(lambda: not window.workspace.work.busy)
    assert window.stage is None
    assert "recording is still missing" in " ".join(_labels(window.gather))
    with qtbot.waitSignal(window.opened, timeout=30_000):
        drop(window, tmp_path / demo_files.MORNING)
    assert window.stage is not None
    assert window.stage.findings
    assert window.stage.project.path.parent == data_folder()


def _labels(widget) -> list[str]:  # type: ignore[no-untyped-def]
    from PyQt6.QtWidgets import QLabel

    return [label.text() for label in widget.findChildren(QLabel)]


def test_bad_input_is_said_and_leaves_the_open_stage_alone(open_window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    stage = open_window.stage
    bad = tmp_path / "holiday.csv"
    bad.write_bytes(b"\x89PNG\r\n\x1a\n" + bytes(100))
    drop(open_window, bad)
    qtbot.waitUntil(lambda: not open_window.workspace.work.busy)
    assert open_window.gather.fault.text().startswith("holiday.csv: this is a PNG picture")
    assert open_window.stage is stage
    open_window.go_to("Compare")
    qtbot.keyClick(open_window.pages.compare, Qt.Key.Key_K)
    assert stage is not None
    assert len(stage.book.decisions) == 1


def test_every_decision_is_one_key_and_goes_on_to_the_next(open_window: Window, qtbot: QtBot) -> None:
    stage, compare = open_window.stage, open_window.pages.compare
    assert stage is not None
    order = [f.id for f in stage.findings]
    for key in (Qt.Key.Key_Return, Qt.Key.Key_K, Qt.Key.Key_T):
        qtbot.keyClick(compare, key)
    assert [stage.book.decisions[i].answer for i in order[:3]] == ["mark", "keep", "talk"]
    assert stage.finding is stage.findings[3]
    assert "3 of" in open_window.status.doing.text()
    qtbot.keyClick(open_window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert order[2] not in stage.book.decisions
    qtbot.keyClick(open_window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    assert stage.book.decisions[order[2]].answer == "talk"


def test_a_faster_note_takes_the_word_of_both(open_window: Window, qtbot: QtBot) -> None:
    stage, compare = open_window.stage, open_window.pages.compare
    assert stage is not None
    easier = next(f for f in stage.findings if f.kind == "grade-easier")
    stage.choose(easier)
    qtbot.keyClick(compare, Qt.Key.Key_Return)
    assert easier.id not in stage.book.decisions
    assert "the other presses Enter too" in compare.evidence.read_back.text()
    # Looking elsewhere in between takes the first word back.
    qtbot.keyClick(compare, Qt.Key.Key_N)
    qtbot.keyClick(compare, Qt.Key.Key_K)
    stage.choose(easier)
    qtbot.keyClick(compare, Qt.Key.Key_Return)
    assert easier.id not in stage.book.decisions
    qtbot.keyClick(compare, Qt.Key.Key_Return)
    assert stage.book.decisions[easier.id].answer == "mark"


def test_a_replacement_is_read_back_and_refused_where_it_is_typed(open_window: Window, qtbot: QtBot) -> None:
    stage, evidence = open_window.stage, open_window.pages.compare.evidence
    assert stage is not None
    stage.choose(next(f for f in stage.findings if f.kind == "grade-tighter"))
    qtbot.keyClick(open_window.pages.compare, Qt.Key.Key_E)
    qtbot.waitUntil(evidence.field.hasFocus)
    qtbot.keyClick(evidence.field, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    qtbot.keyClicks(evidence.field, "L3 4 70")
    assert "“4” is neither the grade nor the distance" in evidence.read_back.text()
    assert not evidence.buttons["mark"].isEnabled()
    qtbot.keyClick(evidence.field, Qt.Key.Key_Return)
    assert not stage.book.decisions
    qtbot.keyClick(evidence.field, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    qtbot.keyClicks(evidence.field, "L3 zebra 70")
    # It may be a word of the crew's own.
    assert evidence.read_back.text() == "Reads: left 3, then 70 metres; “zebra” is not understood"
    assert evidence.buttons["mark"].isEnabled()
    qtbot.keyClick(evidence.field, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    qtbot.keyClicks(evidence.field, "caut L3 70")
    assert evidence.read_back.text() == "Reads: caution, left 3, then 70 metres"
    qtbot.keyClick(evidence.field, Qt.Key.Key_Return)
    (decision,) = stage.book.decisions.values()
    assert decision.text == "caut L3 70"
    assert open_window.pages.compare.hasFocus()


def test_page_road_evidence_and_strip_move_together(open_window: Window, qtbot: QtBot) -> None:
    stage, compare = open_window.stage, open_window.pages.compare
    assert stage is not None
    parts = (compare.page, compare.road, compare.evidence, compare.strip)
    before = [picture(p) for p in parts]
    qtbot.keyClick(compare, Qt.Key.Key_N)
    after = [picture(p) for p in parts]
    assert all(a != b for a, b in zip(before, after, strict=True))
    finding = stage.finding
    assert finding is not None
    assert abs(compare.road.middle_m - 0.5 * (finding.from_m + finding.to_m)) < 1
    first, last = compare.strip.window_m
    assert first < finding.from_m < last
    assert " ".join(map(str, finding.because)) == compare.evidence.why.text()
    qtbot.keyClick(compare, Qt.Key.Key_P)
    # The page stays where it is while the note is in sight; the others are as they were.
    assert [picture(p) for p in parts[1:]] == before[1:]


def test_one_key_shows_everything_that_is_known_and_hides_it_again(open_window: Window, qtbot: QtBot) -> None:
    """The answer stands alone at first; what was asked for once stays for the next findings and the next start."""
    stage, evidence = open_window.stage, open_window.pages.compare.evidence
    assert stage is not None
    finding = next(f for f in stage.findings if f.kind == "grade-tighter")
    stage.choose(finding)
    settled()
    answer = " ".join(map(str, finding.because))
    assert len(NUMBER.findall(answer)) <= 5, "called, met, radius, angle, speed"
    assert evidence.why.text() == answer
    rest = (evidence.drawings[1], evidence.facts)
    assert not any(widget.isVisible() for widget in rest)
    qtbot.keyClick(open_window.pages.compare, Qt.Key.Key_F)
    settled()
    assert evidence.why.text() == finding.why
    assert "usually" in finding.why or "A bend like this is your" in finding.why
    assert all(widget.isVisible() for widget in rest)
    qtbot.keyClick(open_window.pages.compare, Qt.Key.Key_N)
    assert rest[1].isVisible()
    assert Evidence(stage, evidence.drawings[0].theme).in_full
    qtbot.mouseClick(evidence.more_button, Qt.MouseButton.LeftButton)
    assert not any(widget.isVisible() for widget in rest)


def test_mouse_on_page_road_and_strip_chooses_what_was_pointed_at(open_window: Window, qtbot: QtBot) -> None:
    stage, compare = open_window.stage, open_window.pages.compare
    assert stage is not None
    y = compare.page.middle_on_screen(stage.note + 1)
    wanted = stage.note + 1
    qtbot.mouseClick(compare.page.viewport(), Qt.MouseButton.LeftButton, pos=QPointF(MARGIN_PX + 40, y).toPoint())
    assert stage.note == wanted
    finding = stage.findings[4]
    compare.road.middle_m = 0.5 * (finding.from_m + finding.to_m)
    middle = QPointF(compare.road.width() / 2, compare.road.y_of(compare.road.middle_m))
    qtbot.mouseClick(compare.road, Qt.MouseButton.LeftButton, pos=middle.toPoint())
    assert stage.finding is finding
    other = stage.findings[0]
    x = compare.strip.x_of(0.5 * (other.from_m + other.to_m))
    qtbot.mouseClick(compare.strip, Qt.MouseButton.LeftButton, pos=QPointF(x, 17).toPoint())
    assert stage.finding is other


def test_closed_and_opened_again_everything_is_there(open_window: Window, qtbot: QtBot, reopen) -> None:  # type: ignore[no-untyped-def]
    for key in (Qt.Key.Key_Return, Qt.Key.Key_T, Qt.Key.Key_Return):
        qtbot.keyClick(open_window.pages.compare, key)
    assert open_window.stage is not None
    decisions, text = open_window.stage.book.decisions, open_window.stage.book.edition.text
    path = open_window.stage.project.path
    open_window.close()
    again = reopen(path)
    assert again.stage.book.decisions == decisions
    assert again.stage.book.edition.text == text
    assert again.stage.finding is again.stage.findings[3]


def test_opened_twice_the_second_window_says_so_and_marks_nothing(open_window: Window, qtbot: QtBot, reopen) -> None:  # type: ignore[no-untyped-def]
    assert open_window.stage is not None
    other = reopen(open_window.stage.project.path)
    qtbot.keyClick(other.pages.compare, Qt.Key.Key_K)
    assert "open in another window" in other.pages.compare.evidence.read_back.text()
    assert not other.stage.book.decisions
    other.close()


def test_each_edition_has_its_own_decisions(open_window: Window, qtbot: QtBot) -> None:
    """The afternoon read another book: what was decided about the morning's is there again on going back, and not before."""
    stage = open_window.stage
    assert stage is not None
    qtbot.keyClick(open_window.pages.compare, Qt.Key.Key_Return)
    marked = stage.book.edition.text
    with qtbot.waitSignal(open_window.opened, timeout=30_000):
        open_window.workspace.change_pass(stage.project.passes()[1].id)
    qtbot.waitUntil(lambda: not open_window.workspace.work.busy)
    assert open_window.stage is not None
    assert open_window.stage.run.name == demo_files.AFTERNOON
    assert open_window.stage.review.reading.source == demo_files.demo_file(demo_files.CORRECTED).decode()
    assert open_window.stage.book.history == []
    with qtbot.waitSignal(open_window.opened, timeout=30_000):
        open_window.workspace.change_pass(stage.project.passes()[0].id)
    assert open_window.stage.book.edition.text == marked


def test_notes_and_change_card_are_written(open_window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    stage, book = open_window.stage, open_window.pages.book
    assert stage is not None
    for key in (Qt.Key.Key_Return, Qt.Key.Key_Return, Qt.Key.Key_T):
        qtbot.keyClick(open_window.pages.compare, key)
    book.take_away(tmp_path / "new.txt")
    assert (tmp_path / "new.txt").read_text() == stage.book.edition.text
    card(stage).write(tmp_path / "card.pdf")
    pages = PdfReader(tmp_path / "card.pdf").pages
    words = re.sub(r"\s+", " ", " ".join(p.extract_text() for p in pages))
    for change in stage.book.edition.changes:
        assert f"p {change.page} line {change.line}" in words
        assert change.new.split("\n")[0] in words
    assert "To talk about" in words
    assert "Agree on each change together, and check the recording first" in words
    printed_book(stage).write(tmp_path / "book.pdf")
    whole = re.sub(r"\s+", " ", " ".join(p.extract_text() for p in PdfReader(tmp_path / "book.pdf").pages))
    for caution in CAUTIONS:
        assert whole.count(caution) == 1
    fonts = {str(f.get_object()["/BaseFont"]) for p in pages for f in p["/Resources"]["/Font"].values()}
    assert any("Andika" in f for f in fonts)
    assert not list(tmp_path.glob("*.part"))
    book.take_away(tmp_path / "no such folder" / "new.txt")
    assert "can't be written" in book.said.text()


def test_the_whole_job_from_dropped_files_to_the_printed_card(window: Window, qtbot: QtBot, tmp_path: Path, reopen) -> None:  # type: ignore[no-untyped-def]
    """As a crew does it in service: drop, look at the unsure, hear, decide by keys, add what was seen, print."""
    slatehook.write_demo(tmp_path)
    with qtbot.waitSignal(window.opened, timeout=60_000):
        drop(window, tmp_path / demo_files.NOTES, tmp_path / demo_files.MORNING, tmp_path / demo_files.CALLS)
    qtbot.waitUntil(lambda: not window.workspace.work.busy)
    stage = window.stage
    assert stage is not None
    control = Qt.KeyboardModifier.ControlModifier
    qtbot.keyClick(window, Qt.Key.Key_2, control)
    qtbot.keyClick(window.pages.line_up, Qt.Key.Key_U)
    qtbot.keyClick(window.pages.line_up, Qt.Key.Key_0)
    assert len(stage.overrides.pins) == 1
    qtbot.keyClick(window, Qt.Key.Key_3, control)
    compare = window.pages.compare
    stage.choose(stage.findings[0])
    dangers = stage.book.dangers_left
    assert dangers >= 5
    while stage.book.dangers_left:
        assert stage.finding.severity == "danger"
        qtbot.keyClick(compare, Qt.Key.Key_Return)
    assert len(stage.book.decisions) == dangers
    qtbot.keyClick(compare, Qt.Key.Key_T)
    # A note of their own: a stone that the driver saw, written into the book on a note without a finding.
    plain = next(n for n in stage.review.notes if n.is_corner and not stage.findings_on(n.index) and n.distance_m)
    stage.choose_note(plain.index)
    qtbot.keyClick(compare, Qt.Key.Key_E)
    compare.evidence.field.setPlainText(plain.text.replace(f" {plain.distance_m}", f" rocks inside {plain.distance_m}"))
    qtbot.keyClick(compare.evidence.field, Qt.Key.Key_Return)
    assert "rocks inside" in stage.book.edition.text
    assert not compare.evidence.buttons["mark"].isVisible() or stage.finding is not None
    qtbot.keyClick(window, Qt.Key.Key_4, control)
    card(stage).write(tmp_path / "card.pdf")
    words = re.sub(r"\s+", " ", " ".join(p.extract_text() for p in PdfReader(tmp_path / "card.pdf").pages))
    for change in stage.book.edition.changes:
        assert change.new.split("\n")[0] in words
    first = stage.book.edition.changes[0]
    riskiest = next(c for c in stage.book.edition.changes if stage.book.finding_of(c.decision) is stage.findings[0])
    assert words.index(f"p {riskiest.page} line {riskiest.line}") >= words.index(f"p {first.page} line {first.line}")
    card(stage, order="risk").write(tmp_path / "card.pdf")
    by_risk = re.sub(r"\s+", " ", " ".join(p.extract_text() for p in PdfReader(tmp_path / "card.pdf").pages))
    place = by_risk.index(f"p {riskiest.page} line {riskiest.line}")
    assert place <= by_risk.index(f"p {first.page} line {first.line}")
    assert "To talk about" in words
    # And all of it is there the next time.
    path, text = stage.project.path, stage.book.edition.text
    window.close()
    there_again = reopen(path).stage
    assert there_again.book.edition.text == text
    assert len(there_again.overrides.pins) == 1


def test_the_book_is_printed_on_either_paper_for_sun_and_night(open_window: Window, tmp_path: Path) -> None:
    stage, book = open_window.stage, open_window.pages.book
    assert stage is not None
    for finding in stage.findings[:3]:
        stage.choose(finding)
        stage.mark(stage.book.proposal(finding).text, by="both")
    changed = {n for c in stage.book.edition.changes for n in range(c.first_note, c.last_note + 1)}
    for paper, night, lines, marks in (("A5", False, 0, "clean"), ("A4", True, 20, "pencil"), ("A4", False, 20, "margin")):
        book.lines.setValue(lines)
        printed_book(stage, PaperFormat(paper), BookStyle(night, marks)).write(tmp_path / f"{paper}.pdf")
        pages = PdfReader(tmp_path / f"{paper}.pdf").pages
        assert round(float(pages[0].mediabox.width)) == {"A5": 420, "A4": 595}[paper]
        words = re.sub(r"\s+", " ", " ".join(p.extract_text() for p in pages))
        for note in stage.review.notes[:40]:
            assert (note.text in words) is (note.index not in changed or marks == "pencil"), note
        for change in stage.book.edition.changes:
            assert change.new.split("\n")[0] in words
        for caution in CAUTIONS:
            assert caution in words
        asked = max(n.page for n in stage.review.notes) if not lines else -(-len(stage.review.notes) // lines)
        assert f"page {asked}" in words
    for ending in (*BY_ENDING, ".json"):
        book.take_away(tmp_path / f"out{ending}")
        assert (tmp_path / f"out{ending}").stat().st_size > 1000


def test_two_editions_and_the_history_are_shown(open_window: Window, qtbot: QtBot) -> None:
    stage = open_window.stage
    assert stage is not None
    for finding in stage.findings[:2]:
        stage.choose(finding)
        stage.mark(stage.book.proposal(finding).text, by="both", remark="seen on the video")
    two = EditionsDialog(stage, open_window)
    qtbot.addWidget(two)
    assert two.heading.text() == "2 places differ"
    two.boxes[1].setCurrentIndex(two.boxes[1].findText("after 1 change", Qt.MatchFlag.MatchStartsWith))
    assert two.heading.text() == "1 place differs"
    assert (
        stage.book.edition.changes[0].new.split("\n")[0] in " ".join(two.list.item(i).text() for i in range(two.list.count()))
        or stage.book.edition.changes[1].new.split("\n")[0] in two.list.item(0).text()
    )
    history = HistoryDialog(stage, open_window)
    qtbot.addWidget(history)
    assert history.list.count() == 2
    assert "marked, both" in history.list.item(0).text()
    assert "seen on the video" in history.list.item(0).text()
    qtbot.mouseClick(history.undo_button, Qt.MouseButton.LeftButton)
    assert history.list.count() == 1
    assert len(stage.book.edition.changes) == 1


def test_a_hazard_is_added_by_keyboard_and_stands_on_the_road(open_window: Window, qtbot: QtBot) -> None:
    stage = open_window.stage
    assert stage is not None
    before = picture(open_window.pages.compare.road)

    def fill() -> None:
        dialog = QApplication.activeModalWidget()
        assert isinstance(dialog, AddDialog)
        qtbot.mouseClick(dialog.add_button, Qt.MouseButton.LeftButton)
        assert "no words" in dialog.said.text()
        qtbot.keyClicks(dialog.words, "stones inside")
        qtbot.keyClick(dialog.words, Qt.Key.Key_Return)
        dialog.accept()

    QTimer.singleShot(100, fill)
    qtbot.keyClick(open_window.pages.compare, Qt.Key.Key_H)
    assert [a.words for a in stage.book.road.additions] == ["stones inside"]
    assert picture(open_window.pages.compare.road) != before
    # No window manager gives the keyboard back after a dialog.
    QApplication.setActiveWindow(open_window)
    qtbot.keyClick(open_window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert stage.book.road.additions == []


def test_filters_and_the_time_control_by_the_bar(open_window: Window, qtbot: QtBot) -> None:
    stage, bar = open_window.stage, open_window.pages.compare.bar
    assert stage is not None
    bar.shown.setCurrentIndex(bar.shown.findData("vertical"))
    bar.shown.activated.emit(bar.shown.currentIndex())
    assert stage.finding in stage.listed
    assert {f.kind.split("-")[0] for f in stage.listed} <= {"jump", "crest", "bump", "dip", "maybe"}
    bar.minutes.setValue(5)
    qtbot.mouseClick(bar.start, Qt.MouseButton.LeftButton)
    assert "min left: time for" in bar.hint.text()
    assert 290 < bar.seconds_left <= 300
    qtbot.mouseClick(bar.start, Qt.MouseButton.LeftButton)
    assert bar.hint.text() == ""


def test_night_theme_repaints_everything(open_window: Window, qtbot: QtBot) -> None:
    def brightness() -> float:
        image = picture(open_window).scaled(16, 16)
        return sum(image.pixelColor(x, y).lightness() for x in range(16) for y in range(16)) / 256

    assert brightness() > 200
    qtbot.keyClick(open_window, Qt.Key.Key_L, Qt.KeyboardModifier.ControlModifier)
    assert brightness() < 70
    assert settings.setting("theme", "paper") == "night"
    qtbot.keyClick(open_window, Qt.Key.Key_L, Qt.KeyboardModifier.ControlModifier)


@pytest.mark.parametrize("size", [(1280, 800), (1920, 1080)])
def test_no_label_or_button_is_cut_off(open_window: Window, size: tuple[int, int]) -> None:
    from PyQt6.QtWidgets import QLabel

    open_window.resize(*size)
    stage = open_window.stage
    assert stage is not None
    for place in ("Gather", "Line up", "Compare", "Book"):
        open_window.go_to(place)
        for finding in stage.findings if place == "Compare" else stage.findings[:1]:
            stage.choose(finding)
            settled()
            assert (open_window.width(), open_window.height()) == size, (place, finding.id)
            for label in open_window.findChildren(QLabel):
                if label.isVisible() and label.text():
                    needed = label.heightForWidth(label.width()) if label.wordWrap() else label.sizeHint().height()
                    assert label.height() >= needed, (place, label.text())
                    assert label.wordWrap() or label.width() >= label.sizeHint().width(), (place, label.text())
            for button in open_window.findChildren(QPushButton):
                if button.isVisible():
                    assert button.width() >= button.fontMetrics().horizontalAdvance(button.text()), button.text()


def test_everything_that_can_be_used_has_a_name_for_screen_readers(open_window: Window) -> None:
    compare = open_window.pages.compare
    for part in (compare.page, compare.road, compare.strip, compare.evidence.field, *compare.evidence.drawings):
        assert part.accessibleName()
    assert compare.page.accessibleDescription()
    assert compare.road.accessibleDescription()


def test_keys_page_lists_what_the_window_answers_to(open_window: Window, qtbot: QtBot) -> None:
    dialog = Keys(open_window.theme, open_window)
    qtbot.addWidget(dialog)
    words = " ".join(_labels(dialog))
    for keys in ("Enter", "Ctrl+Z", "Ctrl+L", "F1", "Esc"):
        assert keys in words
    listed = set(_labels(dialog))
    assert {c.name for c in COMMANDS if c.keys and c.in_menu} <= listed, "a group that stands in no column"
    shortcuts = {a.shortcut().toString() for a in open_window.actions()}
    assert {"Ctrl+Z", "Ctrl+Shift+Z", "Ctrl+L", "F1", "Ctrl+1", "Ctrl+O"} <= shortcuts


def test_a_long_correction_is_seen_whole(open_window: Window) -> None:
    """Fourteen words, as most crews write; the field is as high as they are long, and the window as large as before."""
    assert open_window.pages.compare is not None
    evidence, size = open_window.pages.compare.evidence, open_window.size()
    evidence.field.setPlainText("left 3 minus long tightens 2 don't cut stones inside over small crest keep out 40 into")
    QApplication.processEvents()
    block = evidence.field.document().lastBlock()
    last = evidence.field.blockBoundingGeometry(block).translated(evidence.field.contentOffset())
    assert block.layout().lineCount() > 1
    assert last.bottom() <= evidence.field.viewport().height() + 1
    assert open_window.size() == size


def test_all_findings_are_a_list_to_go_from(open_window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    stage = open_window.stage
    assert stage is not None
    open_window.go_to("Book")
    note = next(n for n in stage.review.notes if n.index > 60 and not stage.findings_on(n.index))

    def looked(dialog: FindDialog) -> None:
        assert dialog.list.count() == len(stage.findings)
        dialog.state.setCurrentIndex(dialog.state.findData("talk"))
        dialog.refresh()
        assert dialog.list.count() == 0
        dialog.state.setCurrentIndex(0)
        qtbot.keyClicks(dialog.field, f"{note.page}.{note.line}")
        qtbot.keyClick(dialog.field, Qt.Key.Key_Return)

    monkeypatch.setattr(FindDialog, "exec", looked)
    qtbot.keyClick(open_window, Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
    assert (stage.note, stage.finding) == (note.index, None)
    assert open_window.stack.currentWidget() is open_window.pages.compare


def test_dangers_left_lead_to_the_next_one_and_home_to_the_first(open_window: Window, qtbot: QtBot) -> None:
    stage, compare = open_window.stage, open_window.pages.compare
    assert stage is not None
    dangers = [f for f in stage.findings if f.severity == "danger"]
    qtbot.keyClick(compare, Qt.Key.Key_End)
    assert stage.finding is stage.listed[-1]
    open_window.go_to("Book")
    open_window.header.dangers.click()
    assert open_window.stack.currentWidget() is compare
    assert stage.finding is dangers[0]
    qtbot.keyClick(compare, Qt.Key.Key_T)
    stage.choose(dangers[0])
    qtbot.keyClick(compare, Qt.Key.Key_D)
    assert stage.finding is dangers[1]
    qtbot.keyClick(compare, Qt.Key.Key_End)
    qtbot.keyClick(compare, Qt.Key.Key_Home)
    assert stage.finding is stage.listed[0]


@pytest.mark.parametrize("size", [(1024, 700), (1280, 764)])
def test_the_window_works_on_a_small_screen_and_does_not_grow(open_window: Window, size: tuple[int, int]) -> None:
    """1280x764 is what a desktop's frame leaves of a 1280x800 screen."""
    open_window.resize(*size)
    stage = open_window.stage
    assert stage is not None
    for place in ("Gather", "Line up", "Book", "Compare"):
        open_window.go_to(place)
        settled()
        assert (open_window.width(), open_window.height()) == size
    for finding in stage.findings[:12]:
        stage.choose(finding)
        settled()
        assert (open_window.width(), open_window.height()) == size
        evidence = open_window.pages.compare.evidence
        parts = [w for w in evidence.findChildren(QWidget) if w.parent() is evidence and w.isVisible()]
        boxes = [w.geometry() for w in parts]
        assert not [(a, b) for i, a in enumerate(boxes) for b in boxes[i + 1 :] if a.intersects(b)]


def test_the_size_of_the_window_is_kept(window: Window, qtbot: QtBot) -> None:
    window.resize(1100, 720)
    window.close()
    again = Window()
    qtbot.addWidget(again)
    screen = QApplication.primaryScreen().availableGeometry()
    assert (again.width(), again.height()) == (min(1100, screen.width()), min(720, screen.height() - 36))


def test_every_command_is_in_the_menu_with_its_key_and_does_it(open_window: Window) -> None:
    """Menu, keys and what happens come from one table."""
    stage = open_window.stage
    assert stage is not None
    offered = [c for c in COMMANDS if c.in_menu]
    assert list(open_window.menu.actions_by_name) == [c.name for c in offered]
    assert [m.title() for m in open_window.menu.findChildren(QMenu)] == list(dict.fromkeys(c.group for c in offered))
    for command in offered:
        action = open_window.menu.actions_by_name[command.name]
        needs_video = command.need is A_VIDEO or command.place == "By eye"
        needs_rally = command.need is A_RALLY or (command.place == "Rally" and command.need is None)
        lacks = needs_video or needs_rally or command.name in ("Undo", "Redo")
        assert action.isEnabled() is not lacks, "the morning has no video, nothing is decided, and no rally is open"
        assert not needs_video or action.toolTip() == "This needs a video of the pass."
        assert not command.keys or command.shown_keys in (action.shortcut().toString(), action.text().rpartition("\t")[2])
    # A key of a place is pressed there, wherever the menu is opened.
    open_window.go_to("Book")
    at = stage.listed.index(stage.finding)
    open_window.menu.actions_by_name["Next finding"].trigger()
    assert open_window.stack.currentWidget() is open_window.pages.compare
    assert stage.listed.index(stage.finding) == at + 1
    decided = stage.finding.id
    open_window.menu.actions_by_name["Talk about it later"].trigger()
    assert stage.book.decisions[decided].answer == "talk"
    assert not open_window.menu.actions_by_name["Redo"].isEnabled()
    open_window.menu.actions_by_name["Undo"].trigger()
    assert decided not in stage.book.decisions
    assert open_window.status.said.startswith("Undone: page ")
    assert open_window.menu.actions_by_name["Undo"].toolTip() == "There is nothing to undo."
    open_window.menu.actions_by_name["Redo"].trigger()
    assert decided in stage.book.decisions
    assert open_window.status.said.startswith("Done again: page ")


def test_without_a_stage_only_what_can_be_done_is_offered(window: Window) -> None:
    able = {name for name, action in window.menu.actions_by_name.items() if action.isEnabled()}
    assert able == {c.name for c in COMMANDS if c.in_menu and c.need is NOTHING}
    window.use(next(c for c in COMMANDS if c.name == "Next finding"))
    assert window.stage is None
    assert window.status.said == "This needs a recording of the pass."


def test_the_pages_of_help_fit_a_small_screen_and_name_every_mark(open_window: Window, qtbot: QtBot) -> None:
    for dialog in (Keys(open_window.theme, open_window), Marks(open_window.theme, open_window), About(open_window)):
        qtbot.addWidget(dialog)
        dialog.show()
        settled()
        cut = [w.text() for w in dialog.findChildren(QLabel) if w.wordWrap() and w.height() < w.heightForWidth(w.width())]
        assert cut == []
        assert dialog.width() <= 1280
        assert dialog.height() <= 764
    stage = open_window.stage
    assert stage is not None
    answers = (None, "mark", "keep", "talk", "video")
    assert {mark_name(f, a) for f in stage.findings for a in answers} | {"hazard", "condition"} <= set(MARKS)


def test_as_soon_as_it_is_open_nothing_stands_on_anything(window: Window, kept_demo: Path, qtbot: QtBot) -> None:
    """The first picture that a crew sees is laid out already."""
    seen: list[bool] = []

    def look() -> None:
        window.grab()
        evidence = window.pages.compare.evidence
        boxes = [w.geometry() for w in evidence.findChildren(QWidget) if w.parent() is evidence and w.isVisible()]
        seen.append(len(boxes) > 8 and not any(a.intersects(b) for i, a in enumerate(boxes) for b in boxes[i + 1 :]))

    window.opened.connect(look)
    with qtbot.waitSignal(window.opened, timeout=10_000):
        window.workspace.opening.open_project(kept_demo)
    qtbot.waitUntil(lambda: not window.workspace.work.busy)
    assert seen == [True]


def test_what_broke_is_written_down_and_the_place_is_named(window: Window, monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path))
    told: list[str] = []
    monkeypatch.setattr(QMessageBox, "warning", lambda _parent, _title, words: told.append(words))
    for _ in range(2):
        try:
            window.no_such_thing()  # type: ignore[attr-defined]
        except AttributeError as error:
            _say_and_go_on(type(error), error, error.__traceback__)
    log = tmp_path / "mirkle" / "mirkle.log"
    assert log.read_text().count("no_such_thing()") == 2
    assert str(log) in told[0]
    assert "Your decisions are kept" in told[0]
    # Where it can't be written there is no place to name, and the crew is told all the same.
    monkeypatch.setenv("XDG_STATE_HOME", "/dev/null")
    _say_and_go_on(ValueError, ValueError("x"), None)
    assert "written down" not in told[-1]


@pytest.mark.parametrize("answer", ["yes", "no"])
def test_a_letter_is_asked_about_before_it_is_taken_for_the_book(
    answer: str, window: Window, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    asked: list[str] = []
    monkeypatch.setattr("mirkle.gui.dialogs.questions.ask", lambda _parent, question, _answers: asked.append(question) or answer)
    letter, run = tmp_path / "letter.txt", tmp_path / MORNING.name
    letter.write_text(LETTERS[0])
    run.write_bytes(MORNING.content)
    window.workspace.opening.take_files([letter, run])
    wanted = {"yes": {"letter.txt", MORNING.name}, "no": {MORNING.name}}[answer]
    if answer == "no":
        qtbot.waitUntil(
            lambda: {s.material.name for s in window.workspace.opening.waiting} == wanted and not window.workspace.work.busy, timeout=20_000
        )
    else:
        qtbot.waitUntil(lambda: window.stage is not None and not window.workspace.work.busy, timeout=40_000)
    assert len(asked) == 1
    assert asked[0].startswith("letter.txt: 42% of the words")
