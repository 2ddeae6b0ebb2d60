"""By eye: the real window on a pass that nothing recorded but the camera."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from mirkle.files import demo_files
from mirkle.files.audio.media import reference, shipped_reference
from mirkle.files.project.project import Project, SourceFile
from mirkle.gui import theme as themes
from mirkle.gui.commands import COMMANDS
from mirkle.gui.pages.by_eye import WatchView
from mirkle.gui.shapes import mark_name
from mirkle.gui.window import Window
from mirkle.session.video_pass import VideoPass
from mirkle.session.video_watching import BEFORE_S

BOOK = SourceFile("notes", demo_files.CORRECTED, demo_files.demo_file(demo_files.CORRECTED))
HEARD = SourceFile("heard", demo_files.HEARD, demo_files.demo_file(demo_files.HEARD))


def opened(window: Window, qtbot: QtBot, path: Path, *more: SourceFile) -> WatchView:
    Project.create(path, [BOOK, shipped_reference(demo_files.VIDEO), *more], name="Slatehook").close()
    window.workspace.opening.open_project(path)
    qtbot.waitUntil(lambda: window.stage is not None and not window.workspace.work.busy, timeout=15_000)
    view = window.stack.currentWidget()
    assert isinstance(view, WatchView)
    return view


@pytest.fixture
def watch(window: Window, qtbot: QtBot, tmp_path: Path) -> WatchView:
    return opened(window, qtbot, tmp_path / "s.mirkle", HEARD)


def press(qtbot: QtBot, view: WatchView, *keys: Qt.Key) -> None:
    for key in keys:
        qtbot.keyClick(QApplication.focusWidget() if view.field.hasFocus() else view, key)


def test_one_key_a_note_and_on_to_the_next(watch: WatchView, qtbot: QtBot, window: Window) -> None:
    book = watch.stage.book
    watch.stage.choose_note(8)
    press(qtbot, watch, Qt.Key.Key_K)
    assert (book.seen(8).seen, watch.stage.note) == ("as-called", 9)
    watch.stage.choose_note(8)
    press(qtbot, watch, Qt.Key.Key_I, Qt.Key.Key_I)
    assert watch.field.text == "R3 20", "each press is a grade"
    press(qtbot, watch, Qt.Key.Key_2)
    assert watch.field.text == "R2 20", "a figure is the grade"
    assert book.seen(8).seen == "as-called", "nothing is written before Enter"
    press(qtbot, watch, Qt.Key.Key_Return)
    assert (book.seen(8).answer, book.seen(8).text, book.seen(8).seen) == ("mark", "R2 20", "tighter")
    watch.stage.choose_note(9)
    press(qtbot, watch, Qt.Key.Key_L, Qt.Key.Key_Escape)
    assert (book.seen(9), watch.pending) == (None, None), "Esc leaves, and decides nothing"
    press(qtbot, watch, Qt.Key.Key_L, Qt.Key.Key_T)
    assert (book.seen(9).answer, book.seen(9).seen) == ("talk", "longer")
    qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert book.seen(9) is None
    assert watch.stage.note == 9


def test_the_moment_of_the_note_is_shown_before_anything_is_played(watch: WatchView, qtbot: QtBot) -> None:
    """The picture of the call, paused; another note's when that is chosen, and nothing plays by itself."""
    qtbot.waitUntil(lambda: watch.video.picture is not None and not watch.video.picture.image.isNull(), timeout=20_000)
    assert watch.video.picture is not None
    assert watch.video.playback is not None
    first = watch.video.picture.image.copy()
    assert watch.video.playback.shown_s == pytest.approx(watch.moments[watch.stage.note].from_s)
    watch.stage.choose_note(watch.stage.note + 6)
    qtbot.waitUntil(lambda: watch.video.picture.image != first, timeout=20_000)
    assert watch.video.playback.shown_s == pytest.approx(watch.moments[watch.stage.note].from_s)
    assert not watch.video.playback.playing
    qtbot.keyClick(watch, Qt.Key.Key_K)
    assert not watch.video.playback.playing, "what was never played does not begin by itself"


def test_what_was_begun_is_there_again_after_looking_elsewhere(watch: WatchView, qtbot: QtBot) -> None:
    watch.stage.choose_note(8)
    press(qtbot, watch, Qt.Key.Key_I, Qt.Key.Key_E)
    qtbot.keyClicks(watch.field, "L3 rocks 20")
    watch.stage.choose_note(9)
    assert watch.pending is None
    assert not watch.field.isVisible()
    watch.stage.choose_note(8)
    assert watch.pending == ("tighter", 1)
    assert watch.field.text == "L3 rocks 20"
    assert "Reads" in watch.said.text()
    watch.field.setFocus()
    press(qtbot, watch, Qt.Key.Key_Return)
    assert watch.stage.book.seen(8).text == "L3 rocks 20"
    watch.stage.choose_note(8)
    assert watch.pending is None, "what is written is no draft"


def test_faster_takes_a_second_enter(watch: WatchView, qtbot: QtBot) -> None:
    watch.stage.choose_note(8)
    press(qtbot, watch, Qt.Key.Key_O, Qt.Key.Key_Return)
    assert watch.stage.book.seen(8) is None
    assert "faster" in watch.said.text()
    press(qtbot, watch, Qt.Key.Key_Return)
    assert (watch.stage.book.seen(8).text, watch.stage.book.seen(8).by) == ("R6 20", "both")


def test_a_missing_note_and_a_hazard_are_typed(watch: WatchView, qtbot: QtBot) -> None:
    watch.stage.choose_note(8)
    press(qtbot, watch, Qt.Key.Key_M)
    assert watch.field.hasFocus()
    qtbot.keyClicks(watch.field, "L")
    press(qtbot, watch, Qt.Key.Key_Return)
    assert watch.stage.book.seen(8) is None, "it is no note, and says so"
    assert watch.said.text()
    watch.field.clear()
    qtbot.keyClicks(watch.field, "L3 30")
    press(qtbot, watch, Qt.Key.Key_Return)
    assert watch.stage.book.edition.text.splitlines()[9:11] == ["R5 20", "L3 30"]
    watch.stage.choose_note(10)
    press(qtbot, watch, Qt.Key.Key_H)
    qtbot.keyClicks(watch.field, "stone inside")
    press(qtbot, watch, Qt.Key.Key_Return)
    assert [(a.notes.first, a.words) for a in watch.stage.book.road.additions] == [(10, "stone inside")]
    assert watch.stage.note == 10, "a hazard is beside the answer, and does not take its place"
    assert "hazard" in watch.page.marks_of(10, {})


def test_it_plays_from_before_the_call_to_behind_the_next(watch: WatchView, qtbot: QtBot) -> None:
    watch.stage.choose_note(6)
    moment = watch.moments[6]
    assert moment is not None
    press(qtbot, watch, Qt.Key.Key_Space)
    player = watch.video.playback
    assert player is not None
    assert player.shown_s == pytest.approx(moment.from_s - BEFORE_S)
    qtbot.waitUntil(lambda: player.playing, timeout=15_000)
    # Near its end: it stops by itself, and shows that moment however late the machine noticed.
    player.play_from(moment.until_s - 0.5)
    qtbot.waitUntil(lambda: not player.playing, timeout=15_000)
    assert player.seconds == pytest.approx(moment.until_s)
    qtbot.waitUntil(lambda: watch.video.picture is not None and not watch.video.picture.image.isNull(), timeout=15_000)
    watch.stage.choose_note(20)
    press(qtbot, watch, Qt.Key.Key_Space, Qt.Key.Key_Down)
    next_note = watch.moments[21]
    assert watch.stage.note == 21
    assert next_note is not None
    assert player.shown_s == pytest.approx(next_note.from_s - BEFORE_S), "a note that is gone to is shown"
    qtbot.waitUntil(lambda: player.playing, timeout=15_000)
    press(qtbot, watch, Qt.Key.Key_S, Qt.Key.Key_S)
    assert player.player.playbackRate() == 2.0


def test_without_call_times_one_run_through_makes_them(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    view = opened(window, qtbot, tmp_path / "bare.mirkle")
    assert "no call known" in view.when.text()
    press(qtbot, view, Qt.Key.Key_Space)
    player = view.video.playback
    assert player is not None
    qtbot.waitUntil(lambda: player.playing and player.seconds > 0.5, timeout=15_000)
    press(qtbot, view, Qt.Key.Key_C)
    assert view.stage.note == 1, "on to the next while it runs"
    qtbot.waitUntil(lambda: player.seconds > 2.0, timeout=15_000)
    press(qtbot, view, Qt.Key.Key_C, Qt.Key.Key_Space)
    taps = view.stage.book.taps
    assert set(taps) == {0, 1}
    assert 0.5 <= taps[0] < taps[1]
    assert view.moments[0] is not None
    assert "your key" in (view.stage.choose_note(0) or view.when.text())


def test_the_rest_of_the_house_goes_with_it(watch: WatchView, qtbot: QtBot, window: Window) -> None:
    assert isinstance(window.stage, VideoPass)
    assert window.reviewed is None
    watch.stage.choose_note(8)
    press(qtbot, watch, Qt.Key.Key_I, Qt.Key.Key_Return)
    window.go_to("Book")
    assert window.pages.book is not None
    assert "R5 20   →   R4 20" in window.pages.book.list.item(0).text()
    assert [a.text() for a in window.pages.book.menu.actions()].count("The review for other programs…") == 0
    window.go_to("Line up")
    assert window.header.place == "Book", "there is nothing to line up"
    window.go_to("Gather")
    assert "nothing is measured" in window.gather.lead.text()
    qtbot.keyClick(window.gather, Qt.Key.Key_Return)
    assert window.stack.currentWidget() is watch
    window.change_theme()
    assert watch.page.theme is themes.NIGHT
    window.change_theme()
    # What needs a recording can't be used.
    usable = {c.name for c in COMMANDS if c.in_menu and window.menu.actions_by_name[c.name].isEnabled()}
    assert "Keep the note" not in usable
    assert "As called" in usable


def test_a_pass_with_a_recording_is_answered_by_eye_as_well(open_window: Window, qtbot: QtBot) -> None:
    """The demo's morning has a sound and no picture: there is nothing to watch. Its third pass has."""
    assert open_window.pages.watch is None
    open_window.workspace.change_pass(3)
    qtbot.waitUntil(lambda: isinstance(open_window.stage, VideoPass) and not open_window.workspace.work.busy, timeout=15_000)
    assert open_window.pages.watch is open_window.stack.currentWidget()
    open_window.workspace.change_pass(1)
    qtbot.waitUntil(lambda: open_window.reviewed is not None and not open_window.workspace.work.busy, timeout=15_000)
    assert open_window.stack.currentWidget() is open_window.pages.compare


def test_beside_a_recording_it_ends_behind_the_corner_and_joins_the_findings(window: Window, qtbot: QtBot, kept_demo: Path) -> None:
    project = Project.open(kept_demo)
    morning = project.passes()[0]
    project.set_pass(morning, {"media": shipped_reference(demo_files.VIDEO)})
    project.close()
    window.workspace.opening.open_project(kept_demo)
    qtbot.waitUntil(lambda: window.reviewed is not None and not window.workspace.work.busy, timeout=30_000)
    stage = window.reviewed
    assert stage is not None
    found = next(f for f in stage.findings if f.kind == "grade-tighter")
    stage.choose(found)
    qtbot.keyClick(window, Qt.Key.Key_E, Qt.KeyboardModifier.ControlModifier)
    view = window.pages.watch
    assert view is not None
    assert window.stack.currentWidget() is view
    assert view.stage is stage
    moment, bend = view.moments[found.note], stage.review.lineup.bend_of(found.note)
    assert moment is not None
    assert bend is not None
    assert stage.review.clock is not None
    assert stage.review.profile.metres_at(stage.review.clock.run_s(moment.until_s)) > bend.to_m
    qtbot.keyClick(view, Qt.Key.Key_K)
    assert stage.book.seen(found.note).seen == "as-called"
    assert found.id not in stage.book.decisions, "what is seen settles nothing that was measured"
    # Beside it, both marks.
    assert view.page.marks_of(found.note, {}) == [mark_name(found, None), "eye"]
    window.go_to("Compare")
    assert window.stack.currentWidget() is window.pages.compare


def test_a_video_that_is_gone_is_said_and_the_notes_are_answered_all_the_same(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    video, path = tmp_path / "run.mkv", tmp_path / "s.mirkle"
    video.write_bytes(demo_files.demo_file(demo_files.VIDEO))
    Project.create(path, [BOOK, reference(video), HEARD], name="Slatehook").close()
    video.unlink()
    window.workspace.opening.open_project(path)
    qtbot.waitUntil(lambda: window.stage is not None and not window.workspace.work.busy, timeout=15_000)
    view = window.stack.currentWidget()
    assert isinstance(view, WatchView)
    assert "no longer there" in view.said.text()
    press(qtbot, view, Qt.Key.Key_Space, Qt.Key.Key_K)
    assert view.video.playback is None
    assert view.stage.book.seen(0).seen == "as-called"
