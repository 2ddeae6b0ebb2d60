"""Rehearse: the real window, the page that turns, calls by key, what comes of it."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import QEvent, QPointF, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from mirkle.files.audio.voice import RATE_HZ
from mirkle.gui import theme as themes
from mirkle.gui.microphone import Microphone
from mirkle.gui.pages.rehearse import RehearseView
from mirkle.gui.text_to_speech import ReadingVoice
from mirkle.gui.window import Window
from mirkle.session.decision_book import BOTH
from mirkle.session.rehearsal import LEAD_IN_S, history
from mirkle.session.reviewed_pass import ReviewedPass


class HandClock:
    """A clock that a hand moves: nothing of what the machine does meanwhile is in it."""

    def __init__(self) -> None:
        self.now_s = 1000.0

    def __call__(self) -> float:
        return self.now_s


@pytest.fixture
def clock(monkeypatch: pytest.MonkeyPatch) -> HandClock:
    """The clock of the window's Rehearse."""
    made = HandClock()
    monkeypatch.setattr("mirkle.gui.pages.rehearse.monotonic", made)
    return made


@pytest.fixture
def rehearse(open_window: Window, clock: HandClock) -> RehearseView:  # noqa: ARG001
    """Rehearse, with two changes; its voice says nothing into the room."""
    stage = open_window.stage
    assert stage is not None
    stage.book.mark(None, 20, "L3 20", by=BOTH)
    stage.book.mark(None, 60, "R2 40", by=BOTH)
    open_window.go_to("Rehearse")
    view = open_window.pages.rehearse
    assert isinstance(view, RehearseView)
    view.voice = ReadingVoice("en", programs=())
    return view


def go_to(view: RehearseView, stage_s: float) -> None:
    """Puts the stage's clock to a moment."""
    view.rehearsal.pacer.go(stage_s)
    view.step()


def test_the_page_turns_by_itself_and_the_road_goes_with_it(rehearse: RehearseView, qtbot: QtBot, clock: HandClock) -> None:
    r = rehearse.rehearsal
    assert r.only_changes
    assert r.line == 17, "it waits at the first changed place"
    due = r.pacing.due_s()
    qtbot.keyClick(rehearse, Qt.Key.Key_Return)
    assert r.running
    assert r.pacer.now_s == pytest.approx(due[17] - LEAD_IN_S)
    go_to(rehearse, due[20] - 0.2)
    assert r.line == 20
    assert rehearse.page.accessibleDescription() == "L3 20"
    assert rehearse.road is not None
    clock.now_s += 0.5
    road = rehearse.road
    # The next picture, which comes sixty times a second, finds the road where the clock is.
    qtbot.waitUntil(lambda: abs(road.middle_m - r.place_m) < 0.5, timeout=10_000)
    assert r.pacer.now_s == pytest.approx(due[20] + 0.3)
    qtbot.keyClick(rehearse, Qt.Key.Key_Return)
    stood = r.pacer.now_s
    clock.now_s += 5.0
    assert r.pacer.now_s == stood
    qtbot.keyClick(rehearse, Qt.Key.Key_Return)
    assert r.running, "it goes on where it stood"
    assert r.pacer.now_s == pytest.approx(stood)
    rehearse.window().go_to("Book")  # type: ignore[union-attr]
    assert not r.running, "nobody rehearses what he does not see"


def test_keys_set_way_pace_and_whole(rehearse: RehearseView, qtbot: QtBot) -> None:
    r = rehearse.rehearsal
    for key, way in ((Qt.Key.Key_C, "call"), (Qt.Key.Key_L, "listen"), (Qt.Key.Key_R, "read")):
        qtbot.keyClick(rehearse, key)
        assert (r.way, rehearse.way_buttons[way].isChecked()) == (way, True)
    qtbot.keyClick(rehearse, Qt.Key.Key_Minus)
    assert r.pace == 0.95
    qtbot.keyClick(rehearse, Qt.Key.Key_S)
    assert r.pace == 0.5
    qtbot.keyClick(rehearse, Qt.Key.Key_S)
    assert r.pace == 1.0
    rehearse.slider.setValue(110)
    assert r.pace == 1.1
    qtbot.keyClick(rehearse, Qt.Key.Key_X)
    assert not r.only_changes
    assert r.line == 0
    qtbot.keyClick(rehearse, Qt.Key.Key_B)
    assert r.both


def press(view: RehearseView, key: Qt.Key, stamp_ms: int) -> None:
    """A key as the system gives it, with its own time."""

    class Stamped(QKeyEvent):
        def timestamp(self) -> int:
            return stamp_ms

    QApplication.sendEvent(view, Stamped(QEvent.Type.KeyPress, key, Qt.KeyboardModifier.NoModifier, " "))


def test_a_call_has_the_time_of_its_key_and_not_of_the_window(rehearse: RehearseView, qtbot: QtBot, clock: HandClock) -> None:
    r = rehearse.rehearsal
    qtbot.keyClick(rehearse, Qt.Key.Key_C)
    qtbot.keyClick(rehearse, Qt.Key.Key_Return)
    due = r.pacing.due_s()
    base = int(clock.now_s * 1000) - 77_000
    # A key that means nothing tells how the two clocks go.
    press(rehearse, Qt.Key.Key_F8, base)
    zero = clock.now_s - base / 1000
    go_to(rehearse, float(due[17]))
    pressed = clock.now_s
    clock.now_s += 0.25  # The window is busy.
    press(rehearse, Qt.Key.Key_Space, int((pressed - zero) * 1000))
    (one,) = r.results
    assert one.verdict == "in-time"
    assert one.late_s == pytest.approx(0.0, abs=0.002)
    assert r.line == 18
    assert "L" in rehearse.hint.text() or "R" in rehearse.hint.text()


def call_all(view: RehearseView, qtbot: QtBot) -> None:
    """Calls every line of every part in time, by the key."""
    r = view.rehearsal
    qtbot.keyClick(view, Qt.Key.Key_C)
    qtbot.keyClick(view, Qt.Key.Key_Return)
    while r.running:
        due = r.pacing.due_s(r.pace)
        if r.line < r.part_now.stop:
            go_to(view, float(due[r.line]))
            qtbot.keyClick(view, Qt.Key.Key_Space)
        else:
            go_to(view, float(r.pacing.corner_s[r.part_now.stop - 1]) / r.pace + 2.0)


def test_what_comes_of_it_is_told_and_ticked_in_book_and_card(rehearse: RehearseView, qtbot: QtBot, open_window: Window) -> None:
    stage = open_window.stage
    assert isinstance(stage, ReviewedPass)
    assert "2 changes are not rehearsed" in rehearse.results.warning.text()
    call_all(rehearse, qtbot)
    assert rehearse.results.heading.text() == "12 in time"
    assert "2 changes" in rehearse.results.warning.text(), "once is not enough"
    call_all(rehearse, qtbot)
    assert rehearse.results.warning.text() == "With both of you, 2 are left."
    assert [run.count("in-time") for run in history(stage)] == [12, 12]
    open_window.go_to("Book")
    assert open_window.pages.book is not None
    rows = [open_window.pages.book.list.item(n).text() for n in range(open_window.pages.book.list.count())]
    assert len(rows) == 2
    assert all("✓ rehearsed" in row for row in rows)
    stage.book.mark(None, 60, "R1 40", by=BOTH)
    assert "1 change is not rehearsed" in open_window.pages.book.warning.text()
    open_window.go_to("Rehearse")
    assert "1 change is not rehearsed" in rehearse.results.warning.text()


def test_the_worst_places_are_done_again_by_one_key(rehearse: RehearseView, qtbot: QtBot) -> None:
    r = rehearse.rehearsal
    qtbot.keyClick(rehearse, Qt.Key.Key_C)
    r.begin(range(30, 40))
    rehearse.frames.start()
    corner = r.pacing.corner_s
    for line in range(30, 40):
        late = {34: 2.9, 38: 2.3}.get(line, 0.0)
        r.pacer.go(float(corner[line]) - r.pacing.habit_s + late)
        r.call()
    go_to(rehearse, float(corner[39]) + 2.0)
    assert not r.running
    first = rehearse.results.list.item(0).text()
    assert first.startswith("1  again:")
    assert r.lines[34].text in first
    qtbot.keyClick(rehearse, Qt.Key.Key_1)
    assert r.running
    assert r.line == 31
    assert r.results == []


def test_lines_are_heard_when_they_are_due_and_without_a_voice_nothing_is_said(
    rehearse: RehearseView, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    r = rehearse.rehearsal
    said: list[str] = []
    monkeypatch.setattr(rehearse.voice, "say", said.append)
    qtbot.keyClick(rehearse, Qt.Key.Key_L)
    qtbot.keyClick(rehearse, Qt.Key.Key_Return)
    go_to(rehearse, float(r.pacing.due_s()[17]) + 0.001)
    qtbot.keyClick(rehearse, Qt.Key.Key_Return)
    assert said == [r.in_full(17)]
    assert all(word.isalpha() or word.isdecimal() for word in said[0].split()), "in full words, as a voice reads it"
    silent = ReadingVoice("en", programs=("there-is-no-such-program",))
    assert not silent.there
    silent.say("left four")


def test_what_is_due_does_not_wait_for_the_next_picture(rehearse: RehearseView, qtbot: QtBot, clock: HandClock) -> None:
    r = rehearse.rehearsal
    spoken: list[int] = []
    r.spoken.connect(lambda line: spoken.append(line))
    qtbot.keyClick(rehearse, Qt.Key.Key_L)
    qtbot.keyClick(rehearse, Qt.Key.Key_Return)
    go_to(rehearse, float(r.pacing.due_s()[17]) - 0.02)
    # No picture is painted any more: only its own timer is left.
    rehearse.frames.stop()
    assert spoken == []
    clock.now_s += 0.03
    qtbot.waitUntil(lambda: bool(spoken), timeout=10_000)
    assert spoken == [17]


def test_a_voice_that_begins_is_a_call(rehearse: RehearseView, qtbot: QtBot, clock: HandClock) -> None:
    r = rehearse.rehearsal
    microphone = Microphone(rehearse)
    rehearse.hear_calls(microphone)
    qtbot.keyClick(rehearse, Qt.Key.Key_C)
    assert not rehearse.voice_box.isVisible(), "there is no microphone here"
    qtbot.keyClick(rehearse, Qt.Key.Key_Return)
    go_to(rehearse, float(r.pacing.due_s()[17]))
    microphone.begun.emit(clock.now_s - 0.15)
    (one,) = r.results
    assert one.late_s == pytest.approx(-0.15)


def test_a_voice_s_time_is_that_of_its_samples(qtbot: QtBot) -> None:  # noqa: ARG001
    """Pieces may come late: when the first sample was is the earliest that any of them tells."""
    microphone = Microphone()
    microphone.onsets.feed = lambda _: []  # type: ignore[method-assign]
    half = np.zeros(RATE_HZ // 2, np.int16).tobytes()
    heard: list[float] = []
    microphone.begun.connect(heard.append)
    microphone.take(half, 100.9)
    microphone.take(half, 101.0)
    microphone.onsets.feed = lambda _: [1.2]  # type: ignore[method-assign]
    microphone.take(half, 101.8)
    assert heard == [pytest.approx(101.2)]


@pytest.mark.parametrize("night", [False, True])
def test_the_line_to_be_called_is_the_largest_and_is_never_cut(rehearse: RehearseView, open_window: Window, night: bool) -> None:
    stage = open_window.stage
    assert stage is not None
    wordy = "caution late left four long tightens to three over crest don't cut stones inside keep in ditch outside 20"
    stage.book.mark(None, 20, wordy, by=BOTH)
    if night:
        open_window.change_theme()
    rehearse.rehearsal.line = 20
    drawn: list[tuple[str, float, float]] = []
    text = rehearse.page.draw_text

    def noted(painter, words, face, colour, top, width):  # type: ignore[no-untyped-def]
        end = text(painter, words, face, colour, top, width)
        drawn.append((words, face.pixelSize(), end))
        return end

    rehearse.page.draw_text = noted  # type: ignore[method-assign]
    rehearse.page.show_line()
    picture = rehearse.page.grab().toImage()
    sizes = {words: size for words, size, _ in drawn}
    assert max(sizes, key=lambda w: sizes[w]) == wordy
    assert sizes[rehearse.rehearsal.lines[20].old] < sizes[wordy]
    assert next(end for words, _, end in drawn if words == wordy) < rehearse.page.height()
    theme = themes.NIGHT if night else themes.PAPER
    assert picture.pixelColor(QPointF(3, 3).toPoint()).name() == theme.colour("paper").name()
    if night:
        open_window.change_theme()


def test_a_book_alone_is_rehearsed_at_a_set_average(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    book = tmp_path / "book.txt"
    book.write_text("start 80\nL4 60\nR2 into\nL3 dc 50\nR5 long 100\nL6 60\nR6 100\nL4 40\nR3 80\nL2 60\nfinish\n")
    window.workspace.opening.take_files([book])
    qtbot.waitUntil(lambda: window.workspace.opening.beginning is not None and not window.workspace.work.busy, timeout=15_000)
    assert window.stage is None
    assert window.header.place_buttons["Rehearse"].isEnabled()
    assert not window.header.place_buttons["Compare"].isEnabled()
    window.go_to("Rehearse")
    view = window.pages.rehearse
    assert view is not None
    assert view.kmh.isVisible()
    slow = view.rehearsal.pacing.length_s()
    view.kmh.setValue(160)
    assert view.rehearsal.pacing.length_s() == pytest.approx(slow / 2)
    qtbot.keyClick(view, Qt.Key.Key_Return)
    assert view.rehearsal.running
    assert view.page.accessibleDescription() == "start 80"
    window.workspace.opening.open_demo()
    qtbot.waitUntil(lambda: window.stage is not None and not window.workspace.work.busy, timeout=60_000)
    assert not view.rehearsal.running
    assert window.pages.rehearse is not view
