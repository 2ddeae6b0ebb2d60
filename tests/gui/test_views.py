"""The plan, the zoom of the road, the video, what is dragged over the window, the shelf, the settings and the preview: in the real window."""

from __future__ import annotations

import struct
from contextlib import closing
from io import BytesIO
from pathlib import Path

import numpy as np
import pytest
from pypdf import PdfReader
from PyQt6.QtCore import QBuffer, QEvent, QIODevice, QMimeData, QPoint, QPointF, Qt, QUrl
from PyQt6.QtGui import QColor, QDragEnterEvent, QDragLeaveEvent, QImage, QMouseEvent, QWheelEvent
from PyQt6.QtWidgets import QApplication, QDialog, QLabel
from pytestqt.qtbot import QtBot

from mirkle.files.audio.media import reference
from mirkle.files.project.project import Project
from mirkle.gui import printing, theme
from mirkle.gui.app import Shown
from mirkle.gui.dialogs import show
from mirkle.gui.pages import shelf as shelf_page
from mirkle.gui.pages import typing as typing_page
from mirkle.gui.pages.preview import PreviewDialog
from mirkle.gui.pages.settings import SettingsDialog, fitting_sizes
from mirkle.gui.pages.shelf import ShelfView
from mirkle.gui.playback import INTO_PICTURE
from mirkle.gui.translation import tr, tr_message
from mirkle.gui.window import Window
from mirkle.session import draft, recent_stages, settings, shelf
from mirkle.session.change_review import proven_notes
from mirkle.session.pairing_edits import place_beside, turns_other_way, unsure
from mirkle.session.pass_list import driven
from mirkle.session.playback_clock import begin_s, place_m
from mirkle.session.reviewed_pass import ReviewedPass
from tests.gui.conftest import press, settled

PICTURES_A_SECOND = 10


def film(path: Path, seconds: float) -> Path:
    """A film of plain pictures whose red counts them, as RIFF/AVI with a JPEG in each chunk."""
    count = int(seconds * PICTURES_A_SECOND)
    pictures = []
    for n in range(count):
        image = QImage(64, 48, QImage.Format.Format_RGB32)
        image.fill(QColor(n * 8 % 256, 0, 128))
        buffer = QBuffer()
        buffer.open(QIODevice.OpenModeFlag.WriteOnly)
        image.save(buffer, "JPEG", 95)
        pictures.append(bytes(buffer.data()))

    def chunk(name: bytes, body: bytes) -> bytes:
        return name + struct.pack("<I", len(body)) + body + b"\0" * (len(body) % 2)

    head = struct.pack("<14I", 1_000_000 // PICTURES_A_SECOND, 0, 0, 0x10, count, 0, 1, 0, 64, 48, 0, 0, 0, 0)
    stream = b"vidsMJPG" + struct.pack("<IHHIIIIIIIIHHHH", 0, 0, 0, 0, 1, PICTURES_A_SECOND, 0, count, 0, 0, 0, 0, 0, 64, 48)
    form = struct.pack("<IiiHH4sIiiII", 40, 64, 48, 1, 24, b"MJPG", 64 * 48 * 3, 0, 0, 0, 0)
    streams = b"strl" + chunk(b"strh", stream) + chunk(b"strf", form)
    heads = chunk(b"LIST", b"hdrl" + chunk(b"avih", head) + chunk(b"LIST", streams))
    movie, index = b"movi", b""
    for picture in pictures:
        index += struct.pack("<4sIII", b"00dc", 0x10, len(movie), len(picture))
        movie += chunk(b"00dc", picture)
    body = b"AVI " + heads + chunk(b"LIST", movie) + chunk(b"idx1", index)
    path.write_bytes(chunk(b"RIFF", body))
    return path


def with_video(window: Window, qtbot: QtBot, path: Path) -> ReviewedPass:
    """The open stage with another sound on its pass: the film."""
    stage = window.stage
    assert stage is not None
    project, number = stage.project, stage.this_pass.id
    project.set_pass(stage.pass_now(), {"media": reference(path)})
    with qtbot.waitSignal(window.opened, timeout=10_000):
        window.workspace.work.start(
            lambda progress: ReviewedPass.of_project(project, pass_id=number, progress=progress), window.workspace.show
        )
    qtbot.waitUntil(lambda: not window.workspace.work.busy)
    assert window.stage is not None
    return window.stage


# Road and plan


def test_road_and_plan_move_with_the_page(open_window: Window, qtbot: QtBot) -> None:
    stage, compare = open_window.stage, open_window.pages.compare
    assert stage is not None
    qtbot.keyClick(compare, Qt.Key.Key_M)
    plan = compare.plan
    assert plan.isVisible()
    assert not compare.road.isVisible()
    for _ in range(14):
        qtbot.keyClick(compare, Qt.Key.Key_Plus)
    for finding in stage.findings[:6]:
        stage.choose(finding)
        metres = 0.5 * (finding.from_m + finding.to_m)
        assert plan.rect().contains(plan.on_screen(plan.place_of(metres)).toPoint())
    # A click on the line leads page and road there; a mark beside it chooses its finding.
    at = plan.on_screen(plan.place_of(stage.findings[5].from_m + 60.0)).toPoint()
    qtbot.mouseClick(plan, Qt.MouseButton.LeftButton, pos=at)
    assert compare.road.middle_m == pytest.approx(stage.findings[5].from_m + 60.0, abs=60)
    other = stage.findings[6]
    stage.choose(other)
    mark = plan.mark_at(0.5 * (other.from_m + other.to_m)).toPoint()
    stage.choose_note(0)
    plan.look_at(other.from_m)
    mark = plan.mark_at(0.5 * (other.from_m + other.to_m)).toPoint()
    qtbot.mouseClick(plan, Qt.MouseButton.LeftButton, pos=mark)
    assert stage.finding is other


def test_the_place_under_the_mouse_stays_where_it_is(open_window: Window, qtbot: QtBot) -> None:
    compare = open_window.pages.compare
    compare.middle.show_view("plan")
    plan = compare.plan
    plan.zoom(6)
    at = QPointF(120.0, 200.0)
    before = plan.drawn_at(at)
    down = QWheelEvent(
        at,
        plan.mapToGlobal(at),
        QPoint(),
        QPoint(0, 240),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(plan, down)
    assert (plan.drawn_at(at) - before).manhattanLength() < 1e-6
    start, middle = QPoint(200, 200), QPointF(plan.middle)
    qtbot.mousePress(plan, Qt.MouseButton.LeftButton, pos=start)
    to = QPointF(start + QPoint(50, -20))
    left, none = Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    QApplication.sendEvent(plan, QMouseEvent(QEvent.Type.MouseMove, to, plan.mapToGlobal(to), left, left, none))
    qtbot.mouseRelease(plan, Qt.MouseButton.LeftButton, pos=start + QPoint(50, -20))
    moved = (middle - plan.middle) * plan.px_per_m
    assert (moved.x(), moved.y()) == pytest.approx((50.0, -20.0))
    plan.zoom(-40)
    corners = [plan.on_screen(plan.place_of(m)) for m in np.linspace(0, open_window.stage.review.finish_m, 60)]
    assert all(plan.rect().contains(c.toPoint()) for c in corners), "as far out as the whole stage, and no farther"


def test_the_line_is_drawn_whole_at_every_distance(open_window: Window) -> None:
    """What is left out of the picture is outside it: the ink of the pieces is the ink of the whole line."""
    compare = open_window.pages.compare
    compare.middle.show_view("plan")
    plan = compare.plan
    plan.resize(400, 500)
    finding = open_window.stage.findings[0]
    for steps in (0, 4, 9, 14):
        plan.show_whole()
        plan.zoom(steps)
        plan.middle = plan.place_of(finding.from_m)
        image = plan.grab().toImage()
        for metres in np.arange(finding.from_m - 200, finding.from_m + 200, 7.0):
            at = plan.on_screen(plan.place_of(metres)).toPoint()
            if QPoint(4, 4).x() < at.x() < 396 and 4 < at.y() < 496 and plan.metres_near(QPointF(at)) is not None:
                assert image.pixelColor(at) != plan.theme.colour("desk"), metres


def test_the_road_shows_more_or_less_and_the_middle_stays(open_window: Window, qtbot: QtBot) -> None:
    compare = open_window.pages.compare
    road, middle = compare.road, compare.road.middle_m
    before = road.in_sight_m
    qtbot.keyClick(compare, Qt.Key.Key_Minus)
    assert road.in_sight_m == pytest.approx(1.25 * before)
    assert f"{road.in_sight_m:.0f} m" in compare.middle.measure.text()
    assert compare.strip.window_m[1] - compare.strip.window_m[0] == pytest.approx(road.in_sight_m, rel=0.3)
    for _ in range(30):
        qtbot.keyClick(compare, Qt.Key.Key_Plus)
    assert 60.0 < road.in_sight_m < 200.0
    assert road.middle_m == middle
    road.grab()
    for _ in range(60):
        qtbot.keyClick(compare, Qt.Key.Key_Minus)
    road.grab()
    assert road.in_sight_m < 4000.0


# The video


def test_v_plays_the_video_where_there_is_one(open_window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    stage = with_video(open_window, qtbot, film(tmp_path / "run.avi", 3.0))
    compare = open_window.pages.compare
    open_window.go_to("Compare")
    qtbot.keyClick(compare, Qt.Key.Key_V)
    assert compare.middle.view == "video"
    assert stage.book.decisions == {}, "it is looked at, and nothing is decided"
    player, pane = compare.playback, compare.middle.video
    assert player is not None
    assert pane is not None
    player.stop()
    qtbot.waitUntil(lambda: player.length_s > 2.5, timeout=15_000)
    end_m = place_m(stage, player.length_s)
    assert tr("The sound ends at {0:.1f} km, before the finish.", end_m / 1000) == compare.bar.hint.text()
    # Picture by picture: the next one is the next one, and back is the one before.
    player.play_from(0.0)
    qtbot.waitUntil(lambda: player.seconds > 0.4, timeout=15_000)
    player.stop()
    settled()
    seen = []
    for step in (1, 1, 1, -1):
        before = player.shown_s
        qtbot.keyClick(compare, Qt.Key.Key_Period if step > 0 else Qt.Key.Key_Comma)
        wanted = int(before * PICTURES_A_SECOND + 1e-6) + step
        assert player.shown_s == pytest.approx((wanted + INTO_PICTURE) / PICTURES_A_SECOND)
        qtbot.waitUntil(
            lambda n=wanted: not pane.picture.image.isNull() and abs(pane.picture.image.pixelColor(30, 20).red() - n * 8 % 256) < 5,
            timeout=15_000,
        )
        seen.append(wanted)
    assert seen == [seen[0], seen[0] + 1, seen[0] + 2, seen[0] + 1]
    # A window of its own, and back; its keys are the desk's.
    qtbot.keyClick(compare, Qt.Key.Key_W)
    own = compare.own_window
    assert own is not None
    assert pane.window() is own
    chosen = stage.finding
    qtbot.keyClick(own, Qt.Key.Key_N)
    assert stage.finding is not chosen
    qtbot.keyClick(own, Qt.Key.Key_Escape)
    assert pane.window() is open_window
    assert compare.middle.view == "video"
    assert begin_s(stage) < stage.review.finish_s


def test_without_a_picture_v_puts_it_on_the_list(open_window: Window, qtbot: QtBot) -> None:
    stage = open_window.stage
    first = stage.finding
    assert open_window.pages.compare.middle.buttons["video"].isHidden()
    qtbot.keyClick(open_window.pages.compare, Qt.Key.Key_V)
    assert stage.book.decisions[first.id].answer == "video"


# Dragging, typing, lining up


def test_dragged_files_are_welcomed_over_the_whole_window(open_window: Window, tmp_path: Path) -> None:
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(tmp_path / n)) for n in ("a.csv", "b.vtt")])
    args = (Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier)
    enter = QDragEnterEvent(QPoint(5, 5), *args)
    open_window.dragEnterEvent(enter)
    assert enter.isAccepted()
    assert open_window.overlay.isVisible()
    assert open_window.overlay.size() == open_window.size()
    assert "2" in open_window.overlay.words
    open_window.dragLeaveEvent(QDragLeaveEvent())
    assert not open_window.overlay.isVisible()
    words = QMimeData()
    words.setText("no files")
    enter = QDragEnterEvent(QPoint(5, 5), args[0], words, *args[2:])
    enter.setAccepted(False)
    open_window.dragEnterEvent(enter)
    assert not enter.isAccepted()


def test_what_is_typed_survives_leaving_and_closing(window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    window.type_notes()
    qtbot.keyClicks(window.pages.typing.page, "L4 long 60")
    window.close()
    again = Window()
    qtbot.addWidget(again)
    again.type_notes()
    assert again.pages.typing.page.toPlainText() == "L4 long 60"
    assert "left 4, long, then 60 metres" in again.pages.typing.hint.text()
    answers = iter(["stay", "keep", "drop"])
    monkeypatch.setattr(typing_page, "ask", lambda *_: next(answers))
    press(again.pages.typing, "Back")
    assert again.stack.currentWidget() is again.pages.typing
    press(again.pages.typing, "Back")
    assert again.stack.currentWidget() is again.gather
    assert draft.typed_draft() == "L4 long 60"
    again.type_notes()
    press(again.pages.typing, "Back")
    assert draft.typed_draft() == ""


def test_a_correction_half_typed_is_there_on_coming_back(open_window: Window, qtbot: QtBot) -> None:
    stage, compare = open_window.stage, open_window.pages.compare
    first = stage.finding
    proposed = compare.evidence.text
    qtbot.keyClick(compare, Qt.Key.Key_E)
    qtbot.keyClicks(compare.evidence.field, "L1 stones 40")
    compare.setFocus()
    stage.step(1)
    assert compare.evidence.text != "L1 stones 40"
    stage.choose(first)
    assert compare.evidence.text == "L1 stones 40"
    assert "what you typed before" in compare.evidence.severity.text()
    compare.evidence.field.setFocus()
    qtbot.keyClick(compare.evidence.field, Qt.Key.Key_Escape)
    assert compare.evidence.text == proposed, "Esc gives it up"


def test_enter_never_goes_round_between_two_refusals(open_window: Window, qtbot: QtBot) -> None:
    """Each finding of the demo: Enter once or twice decides it, or says one and the same thing for good."""
    stage, compare = open_window.stage, open_window.pages.compare
    for finding in stage.findings:
        stage.choose(finding)
        told = []
        for _ in range(3):
            if finding.id not in stage.book.decisions:
                stage.choose(finding)
                qtbot.keyClick(compare, Qt.Key.Key_Return)
                told.append(compare.evidence.read_back.text())
        decided = finding.id in stage.book.decisions
        assert decided or len(set(told)) == 1, (finding.kind, told)
        if finding.kind.endswith("-uncalled") or finding.kind in ("maybe-settled", "surprise"):
            assert decided, finding.kind


def test_enter_says_it_is_right_and_goes_to_the_next_unsure_one(open_window: Window, qtbot: QtBot) -> None:
    stage, view = open_window.stage, open_window.pages.line_up
    open_window.go_to("Line up")
    view.next_unsure()
    before, first = len(unsure(stage)), stage.note
    where = stage.review.lineup.bend_of(first)
    qtbot.keyClick(view, Qt.Key.Key_Return)
    assert [p.note for p in stage.overrides.pins] == [first]
    assert stage.review.lineup.bend_of(first) == where
    assert stage.note != first
    assert len(unsure(stage)) == before - 1
    assert view.ties.words_of(first).startswith("◉ "), "the pin shows"


def test_a_bend_of_the_other_side_is_questioned(open_window: Window, qtbot: QtBot) -> None:
    stage, view = open_window.stage, open_window.pages.line_up
    open_window.go_to("Line up")
    note = next(
        t.note
        for t in stage.review.lineup.ties[5:]
        if t.bend is not None and turns_other_way(stage, t.note, place_beside(stage, t.note, 1))
    )
    stage.choose_note(note)
    qtbot.keyClick(view, Qt.Key.Key_Right)
    assert stage.overrides.pins == ()
    assert "goes the other way" in view.hint.text()
    qtbot.keyClick(view, Qt.Key.Key_Right)
    assert [p.note for p in stage.overrides.pins] == [note]


# The shelf, the settings, paper


def test_stages_are_renamed_copied_and_binned(window: Window, kept_demo: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    recent_stages.remember(kept_demo)
    view = ShelfView()
    qtbot.addWidget(view)
    assert view.chosen.path == kept_demo
    monkeypatch.setattr(
        shelf_page._NameDialog, "exec", lambda d: (d.name.setText("<b>Upper</b>"), d.event_name.setText("Island"), d.car.setText("27"))
    )
    view.rename_button.click()
    assert (shelf.shelved(kept_demo).event, shelf.shelved(kept_demo).car) == ("Island", "27")
    assert "<b>Upper</b>  ·  Island" in view.list.item(0).text()
    view.copy_button.click()
    assert view.list.count() == 2
    monkeypatch.setattr(shelf_page, "ask", lambda *_: "stay")
    view.bin_button.click()
    assert view.list.count() == 2
    monkeypatch.setattr(shelf_page, "ask", lambda *_: "bin")
    view.list.setCurrentRow(1)
    gone = view.chosen.path
    view.bin_button.click()
    assert not gone.exists()
    assert view.list.count() == 1
    with closing(Project.open(kept_demo)) as other, other.together():  # somebody else writes
        other.set_info("car", "27")
        view.rename_button.click()
        assert "open in another window" in view.fault.text()
    assert window.isVisible()


def test_a_name_is_shown_as_it_is_and_no_label_takes_markup(open_window: Window) -> None:
    """Every text of every place: what a crew calls its stage is never markup."""
    stage = open_window.stage
    stage.project.set_info("name", "<h1>Slate</h1>")
    open_window.workspace.show(stage)
    assert open_window.header.stage_name.text() == "<h1>Slate</h1>"
    # Qt's own forms have labels without words.
    labels = [w for w in open_window.findChildren(QLabel) if w.text()]
    assert len(labels) > 20
    rich = [w.text() for w in labels if w.textFormat() != Qt.TextFormat.PlainText]
    assert rich == []


def test_settings_are_kept_and_hold(open_window: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    def choose(dialog: QDialog) -> bool:
        dialog.theme.setCurrentIndex(dialog.theme.findData("night"))
        dialog.lines.setValue(12)
        dialog.minutes.setValue(40)
        press(dialog, "Keep these settings")
        return True

    monkeypatch.setattr(SettingsDialog, "exec", choose)
    show.change_settings(open_window)
    assert open_window.theme is theme.NIGHT
    assert open_window.pages.compare.bar.minutes.value() == 40
    assert SettingsDialog(open_window).lines.value() == 12
    open_window.change_theme()
    assert fitting_sizes()[0] == 100
    settled()


def test_another_language_makes_the_window_anew_on_the_same_stage(
    qapp: QApplication, kept_demo: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    shown = Shown(qapp)
    with qtbot.waitSignal(shown.window.opened, timeout=10_000):
        shown.window.workspace.opening.open_project(kept_demo)
    qtbot.waitUntil(lambda: not shown.window.workspace.work.busy)

    def choose(dialog: QDialog) -> bool:
        dialog.language.setCurrentIndex(dialog.language.findData("pt"))
        press(dialog, "Keep these settings")
        return True

    monkeypatch.setattr(SettingsDialog, "exec", choose)
    old = shown.window
    try:
        show.change_settings(old)
        assert shown.window is not old
        qtbot.waitUntil(lambda: shown.window.stage is not None and not shown.window.workspace.work.busy, timeout=10_000)
        assert shown.window.header.place_buttons["Compare"].text() == "Comparar"
        note = shown.window.stage.review.notes[2]
        assert tr_message(note.read_back).startswith("esquerda" if note.direction.value == "left" else "direita")
        assert tr("{0:.1f} km", 7.4) == "7,4 km"
    finally:
        settings.keep_setting("language", "en")
        monkeypatch.setenv("LANGUAGE", "en")
        shown.again()
        qtbot.waitUntil(lambda: not shown.window.workspace.work.busy, timeout=10_000)
        shown.window.close()
    assert tr("Compare") == "Compare"


def test_the_preview_shows_every_sheet_on_the_paper_chosen(open_window: Window, qtbot: QtBot) -> None:
    stage = open_window.stage
    for finding in stage.findings[:9]:
        stage.choose(finding)
        proposal = stage.book.proposal(finding)
        if proposal is not None:
            stage.mark(proposal.text, by="both")
    for what in ("card", "book"):
        dialog = PreviewDialog(stage, what, open_window)
        qtbot.addWidget(dialog)
        sheets = [w for w in dialog.findChildren(QLabel) if w.objectName() == "sheet"]
        assert len(sheets) == dialog.printed.pages
        wide, high = sheets[0].pixmap().width(), sheets[0].pixmap().height()
        assert high / wide == pytest.approx(210 / 148, rel=0.01)
        ink = sheets[0].pixmap().toImage().convertToFormat(QImage.Format.Format_Grayscale8)
        dark = sum(ink.pixelColor(x, y).value() < 100 for x in range(0, wide, 3) for y in range(0, high, 3))
        assert dark > 200
        before = len(sheets)
        dialog.paper.setCurrentIndex(dialog.paper.findData("A4"))
        dialog.paper.activated.emit(dialog.paper.currentIndex())
        assert settings.setting("paper", "") == "A4"
        assert dialog.printed.pages <= before + 1
        settings.keep_setting("paper", "A5")
        # Two on a sheet are fewer sheets, and the choice is there the next time.
        dialog.two_up.click()
        assert len([w for w in dialog.sheets.widget().findChildren(QLabel) if w.objectName() == "sheet"]) == -(-dialog.printed.pages // 2)
        again = PreviewDialog(stage, what, open_window)
        qtbot.addWidget(again)
        assert again.printed.paper.two_up
        again.two_up.click()


def test_what_is_proven_is_marked_in_the_book_only_where_that_is_wanted(open_window: Window) -> None:
    stage = open_window.stage
    assert proven_notes(stage) == frozenset(), "one pass proves nothing"
    other = next(d.made for d in driven(stage.project) if d.made.run is not None and d.made.id != stage.this_pass.id)
    later = ReviewedPass.of_project(stage.project, pass_id=other.id)
    proven = proven_notes(later)
    doubtful = {f.note for f in later.findings if f.kind in ("grade-tighter", "direction")}
    assert doubtful
    assert len(proven) > 20
    assert not proven & doubtful
    plain, marked = (printing.book(later, style=printing.BookStyle(proven=p)).pdf() for p in (frozenset(), proven))
    words = [" ".join(" ".join(page.extract_text() for page in PdfReader(BytesIO(pdf)).pages).split()) for pdf in (plain, marked)]
    assert [w.count("A thin line at the side") for w in words] == [0, 1]


def test_pages_of_the_paper_book_are_set_by_a_key(open_window: Window, qtbot: QtBot) -> None:
    stage, book = open_window.stage, open_window.pages.book
    open_window.go_to("Book")
    stage.choose_note(4)
    qtbot.keyClick(book, Qt.Key.Key_G)
    assert (stage.review.notes[4].page, stage.review.notes[4].line) == (2, 1)
    assert "page 2, line 1" in book.page.accessibleDescription()
    book.lines.setValue(7)
    assert stage.review.notes[7].page == 2
    assert stage.review.notes[6].page == 1
    book.lines.setValue(0)


def test_changes_are_ticked_as_copied(open_window: Window, qtbot: QtBot) -> None:
    stage, book = open_window.stage, open_window.pages.book
    for finding in stage.findings[:2]:
        stage.choose(finding)
        stage.mark(stage.book.proposal(finding).text, by="both")
    open_window.go_to("Book")
    book.list.setFocus()
    book.list.setCurrentRow(0)
    qtbot.keyClick(book.list, Qt.Key.Key_Space)
    assert len(stage.book.to_copy) == 1
    assert book.heading.text() == "1 change to copy into the book"
    qtbot.keyClick(open_window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert len(stage.book.to_copy) == 2


def test_dividers_are_where_they_were_left(open_window: Window, kept_demo: Path, qtbot: QtBot, reopen) -> None:  # type: ignore[no-untyped-def]
    split = open_window.pages.compare.page.parent()
    sizes = split.sizes()
    split.moveSplitter(sizes[0] + 60, 1)
    dragged = split.sizes()
    assert dragged[0] > sizes[0] + 30
    open_window.close()
    other = reopen(kept_demo)
    other.resize(1280, 800)
    other.show()
    qtbot.waitExposed(other)
    assert other.pages.compare.page.parent().sizes() == pytest.approx(dragged, abs=6)
