"""Dictating a book in the real window: recognised words become lines, a sound is written down call by call."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from mirkle.gui.pages.typing import TypingView
from mirkle.gui.window import Window
from mirkle.session.dictation import Utterance
from tests.gui.test_sound import beep

CONTROL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture
def typing(window: Window) -> TypingView:
    window.type_notes()
    view = window.pages.typing
    assert view is not None
    return view


def test_recognised_words_stand_behind_what_is_typed(typing: TypingView, qtbot: QtBot, tmp_path: Path) -> None:
    (tmp_path / "recce.srt").write_text("1\n00:00:03,000 --> 00:00:05,000\nleft four long eighty\n")
    qtbot.keyClicks(typing.page, "R5 20")
    typing.take_dictation(tmp_path / "recce.srt")
    assert typing.text.split("\n")[:2] == ["R5 20", "left 4 long 80"]
    assert typing.count.text() == "notes: 2, pages: 1"
    (tmp_path / "empty.srt").write_text("")
    typing.take_dictation(tmp_path / "empty.srt")
    assert typing.said.text().startswith("empty.srt: the file is empty")
    assert typing.text.startswith("R5 20\nleft 4 long 80")


def test_a_table_that_is_pasted_stands_there_a_note_a_line(typing: TypingView, qtbot: QtBot) -> None:
    qtbot.keyClicks(typing.page, "R5 20")
    qtbot.keyClick(typing.page, Qt.Key.Key_Return)
    rows = ["No\tNote\tWords\tNext", "1\tL4\tlong\t50", "2\tR3-\twas L2\t30", "3\tL5\t\tinto", "4\tR2\tdon't cut\t80"]
    QApplication.clipboard().setText("\n".join(rows))  # type: ignore[union-attr]
    qtbot.keyClick(typing.page, Qt.Key.Key_V, CONTROL)
    assert typing.text == "R5 20\nL4 long 50\nR3- (was L2) 30\nL5 into\nR2 don't cut 80"
    assert "No / Note / Words / Next" in typing.said.text()
    QApplication.clipboard().setText(" plain")  # type: ignore[union-attr]
    qtbot.keyClick(typing.page, Qt.Key.Key_V, CONTROL)
    assert typing.text.endswith("80 plain")
    assert typing.said.text() == ""


def test_each_line_that_is_written_down_plays_the_next_call(window: Window, typing: TypingView, qtbot: QtBot, tmp_path: Path) -> None:
    calls = [Utterance(0.5, 0.9), Utterance(1.4, 2.0), Utterance(2.5, 2.9)]
    typing.show_calls(beep(tmp_path / "recce.wav", at_s=1.0, seconds=4.0), calls)
    bar = typing.dictation
    assert bar is not None
    assert bar.which.text() == "call 1 of 3, 0:00"
    qtbot.waitUntil(lambda: bar.playback.playing or bar.playback.seconds > 0.5, timeout=10_000)
    qtbot.keyClicks(typing.page, "L4 80")
    qtbot.keyClick(typing.page, Qt.Key.Key_Return)
    assert bar.at == 1
    assert bar.playback.shown_s == pytest.approx(1.25)
    # A call ends by itself.
    qtbot.waitUntil(lambda: not bar.playback.playing, timeout=10_000)
    qtbot.keyClick(typing.page, Qt.Key.Key_Space, CONTROL)
    assert bar.at == 1
    qtbot.keyClick(typing.page, Qt.Key.Key_Up, CONTROL)
    assert bar.at == 0
    for _ in range(5):
        qtbot.keyClick(typing.page, Qt.Key.Key_Down, CONTROL)
    assert bar.at == 2
    assert typing.text == "L4 80\n"
    # Whoever goes to another page hears no more of it.
    window.go_to("Gather")
    qtbot.waitUntil(lambda: not bar.playback.playing)


def test_a_sound_in_which_nobody_speaks_says_so(typing: TypingView, qtbot: QtBot, tmp_path: Path) -> None:
    typing.take_dictation(beep(tmp_path / "recce.wav", at_s=1.0, seconds=3.0))
    qtbot.waitUntil(lambda: typing.dictation is not None, timeout=20_000)
    assert typing.dictation is not None
    assert typing.dictation.which.text() == "Nobody speaks in this sound."
    qtbot.keyClick(typing.page, Qt.Key.Key_Return)
    assert typing.text == "\n"
