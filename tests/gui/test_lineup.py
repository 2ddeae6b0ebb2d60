"""Line up in the real window, by keys and by mouse."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QPoint, Qt
from pytestqt.qtbot import QtBot

from mirkle.gui.window import Window


def bend(window: Window, note: int):  # type: ignore[no-untyped-def]
    assert window.stage is not None
    return next(t.bend for t in window.stage.review.lineup.ties if t.note == note)


def test_the_unsure_ones_are_mended_by_keys(open_window: Window, qtbot: QtBot) -> None:
    stage, view = open_window.stage, open_window.pages.line_up
    assert stage is not None
    assert view is not None
    qtbot.keyClick(open_window, Qt.Key.Key_2, Qt.KeyboardModifier.ControlModifier)
    assert open_window.stack.currentWidget() is view
    unsure = view.list.count()
    assert unsure > 0
    qtbot.keyClick(view, Qt.Key.Key_U)
    note = stage.note
    assert "No bend" in view.hint.text()
    qtbot.keyClick(view, Qt.Key.Key_0)
    assert "no bend (by you)" in view.list.item(view.list.count() - 1).text()
    qtbot.keyClick(view, Qt.Key.Key_Right)
    assert bend(open_window, note) is not None
    assert "Put there by you" in view.hint.text()
    qtbot.keyClick(view, Qt.Key.Key_Backspace)
    assert stage.overrides.pins == ()
    assert view.list.count() == unsure
    qtbot.keyClick(view, Qt.Key.Key_C)
    assert open_window.stack.currentWidget() is open_window.pages.compare
    assert stage.note == note


def test_a_note_is_dragged_onto_another_bend_and_compare_follows(open_window: Window, qtbot: QtBot) -> None:
    stage, view = open_window.stage, open_window.pages.line_up
    assert stage is not None
    open_window.go_to("Line up")
    first, second = (t for t in stage.review.lineup.ties[40:42])
    stage.choose_note(first.note)
    ties = view.ties
    start = QPoint(int(ties.notes_right - 30), int(ties.row_y()[first.note]))
    end = QPoint(int(ties.road_middle), int(ties.y_of(second.bend.apex_m)))
    qtbot.mousePress(ties, Qt.MouseButton.LeftButton, pos=start)
    qtbot.mouseMove(ties, end)
    qtbot.mouseRelease(ties, Qt.MouseButton.LeftButton, pos=end)
    assert bend(open_window, first.note).apex_m == pytest.approx(second.bend.apex_m, abs=8)
    assert [p.note for p in stage.overrides.pins] == [first.note]
    assert open_window.pages.compare.road.place_of(first.note) == pytest.approx(second.bend.apex_m, abs=8)


def test_a_call_dragged_to_a_corner_sets_the_clock(open_window: Window, qtbot: QtBot) -> None:
    stage, view = open_window.stage, open_window.pages.line_up
    assert stage is not None
    open_window.go_to("Line up")
    first, second = stage.review.lineup.ties[40], stage.review.lineup.ties[42]
    stage.choose_note(first.note)
    before = stage.review.clock.calls_minus_run_s
    ties = view.ties
    start = QPoint(70, int(ties.y_of(ties.called_m[first.note])))
    end = QPoint(int(ties.road_middle), int(ties.y_of(second.bend.apex_m)))
    with qtbot.waitSignal(open_window.opened, timeout=30_000):
        qtbot.mousePress(ties, Qt.MouseButton.LeftButton, pos=start)
        qtbot.mouseMove(ties, end)
        qtbot.mouseRelease(ties, Qt.MouseButton.LeftButton, pos=end)
    qtbot.waitUntil(lambda: not open_window.workspace.work.busy)
    assert open_window.stack.currentWidget() is open_window.pages.line_up
    clock = open_window.stage.review.clock
    assert clock.by == "hand"
    assert clock.calls_minus_run_s < before - 1.0
    # And found again by a click.
    with qtbot.waitSignal(open_window.opened, timeout=30_000):
        qtbot.mouseClick(open_window.pages.line_up.found_again, Qt.MouseButton.LeftButton)
    assert open_window.stage.review.clock.calls_minus_run_s == pytest.approx(before)


def test_a_dot_of_the_scale_opens_its_note(open_window: Window, qtbot: QtBot) -> None:
    stage, view = open_window.stage, open_window.pages.line_up
    assert stage is not None
    open_window.go_to("Line up")
    odd = next(f.note for f in stage.review.findings if f.kind == "grade-tighter")
    qtbot.mouseClick(view.scale, Qt.MouseButton.LeftButton, pos=view.scale.place_of(odd).toPoint())
    assert stage.note == odd
    assert open_window.stack.currentWidget() is open_window.pages.compare
    for axis in ("speed", "angle", "radius"):
        view.axis.setCurrentIndex(view.axis.findData(axis))
        view.axis.activated.emit(view.axis.currentIndex())
        at = view.scale.place_of(odd)
        assert 0 < at.x() < view.scale.width()
        assert not view.scale.grab().isNull()


def test_start_and_finish_are_set_right_by_hand(open_window: Window, qtbot: QtBot) -> None:
    open_window.go_to("Gather")
    gather = open_window.gather
    found = gather.limits.finish_field.text()
    gather.limits.finish_field.setText("noon")
    qtbot.keyClick(gather.limits.finish_field, Qt.Key.Key_Return)
    assert "is not a time" in gather.fault.text()
    gather.limits.finish_field.setText("10:30")
    with qtbot.waitSignal(open_window.opened, timeout=30_000):
        qtbot.keyClick(gather.limits.finish_field, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: not open_window.workspace.work.busy)
    assert open_window.stage.review.finish_s == pytest.approx(630.0, abs=0.1)
    gather.limits.finish_field.setText("")
    with qtbot.waitSignal(open_window.opened, timeout=30_000):
        qtbot.keyClick(gather.limits.finish_field, Qt.Key.Key_Return)
    open_window.go_to("Gather")
    assert gather.limits.finish_field.text() == found
