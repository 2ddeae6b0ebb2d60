"""The sound of the run in step with the road, heard as samples where there is no sound device."""

from __future__ import annotations

import json
import wave
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import Qt, QUrl
from PyQt6.QtMultimedia import QAudioBufferOutput, QMediaPlayer
from pytestqt.qtbot import QtBot

from mirkle.files.audio.media import media_path, reference
from mirkle.gui.pages.compare import Compare
from mirkle.gui.theme import PAPER
from mirkle.gui.window import Window
from mirkle.session.import_files import take_in
from mirkle.session.playback_clock import BEFORE_CALL_S, begin_s, place_m


def beep(path: Path, *, at_s: float, seconds: float) -> Path:
    """A WAV that is silent but for a second of tone."""
    t = np.arange(0, seconds, 1 / 8000)
    tone = np.where((t >= at_s) & (t < at_s + 1.0), 0.5 * np.sin(2 * np.pi * 440 * t), 0.0)
    with wave.open(str(path), "wb") as wav:
        wav.setnchannels(1)
        wav.setsampwidth(2)
        wav.setframerate(8000)
        wav.writeframes((tone * 32767).astype("<i2").tobytes())
    return path


def test_it_plays_from_before_the_call_and_the_road_goes_with_it(open_window: Window, qtbot: QtBot) -> None:
    stage, compare = open_window.stage, open_window.pages.compare
    assert stage is not None
    assert compare.playback is None, "what plays is made when it is wanted"
    assert compare.bar.play_button.isVisible()
    said = stage.review.calls[stage.note]
    assert begin_s(stage) == pytest.approx(said.time.from_s - BEFORE_CALL_S)
    called_from = place_m(stage, begin_s(stage))
    qtbot.keyClick(compare, Qt.Key.Key_S)
    playback = compare.playback
    assert playback is not None
    assert playback.player.playbackRate() == 0.5
    qtbot.keyClick(compare, Qt.Key.Key_S)
    qtbot.keyClick(compare, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: playback.playing and playback.seconds > begin_s(stage) + 0.6, timeout=15_000)
    assert compare.road.middle_m == pytest.approx(place_m(stage, playback.seconds), abs=12)
    assert compare.road.middle_m > called_from
    assert compare.strip.car_m == pytest.approx(compare.road.middle_m, abs=12)
    qtbot.keyClick(compare, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: not playback.playing)
    assert compare.strip.car_m is None


def test_samples_come_out_where_the_tone_is(qtbot: QtBot, tmp_path: Path) -> None:
    """What is heard, without a device: silence, and the tone from its own moment on."""
    heard: list[tuple[float, float]] = []
    player, output = QMediaPlayer(), QAudioBufferOutput()

    def take(buffer) -> None:  # type: ignore[no-untyped-def]
        data = buffer.constData()
        data.setsize(buffer.byteCount())
        kind = {1: np.uint8, 2: np.int16, 3: np.int32, 4: np.float32}[buffer.format().sampleFormat().value]
        heard.append((buffer.startTime() / 1e6, float(np.abs(np.frombuffer(data, kind).astype(float)).max())))

    output.audioBufferReceived.connect(take)
    player.setAudioBufferOutput(output)
    player.setSource(QUrl.fromLocalFile(str(beep(tmp_path / "b.wav", at_s=1.0, seconds=3.0))))
    player.play()
    qtbot.waitUntil(lambda: bool(heard) and heard[-1][0] > 1.5, timeout=15_000)
    player.stop()
    before = [loud for at, loud in heard if at < 0.8]
    inside = [loud for at, loud in heard if 1.1 < at < 1.6]
    assert max(before) < 0.02 * max(inside)


def test_a_sound_is_taken_in_by_reference_and_missed_when_it_is_gone(open_window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    taken = take_in(beep(tmp_path / "lap.wav", at_s=1.0, seconds=2.0))
    assert taken.material.kind == "media"
    assert "stays where it is" in str(taken.sentence)
    assert len(taken.material.content) < 400
    assert json.loads(taken.material.content)["bytes"] == (tmp_path / "lap.wav").stat().st_size
    stage = open_window.stage
    assert stage is not None
    stage.project.set_pass(stage.this_pass, {"media": taken.material})
    assert media_path(reference(tmp_path / "lap.wav")) == (tmp_path / "lap.wav").resolve()
    (tmp_path / "lap.wav").unlink()
    again = Compare(stage, PAPER)
    qtbot.addWidget(again)
    qtbot.keyClick(again, Qt.Key.Key_Space)
    assert again.playback is None
    assert "no longer there" in again.bar.hint.text()
