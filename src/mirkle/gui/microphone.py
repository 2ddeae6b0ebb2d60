"""The microphone, where there is one: when somebody began to speak, on the clock of the computer."""

from __future__ import annotations

import math
import time

import numpy as np
from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtMultimedia import QAudioFormat, QAudioSource, QMediaDevices

from mirkle.files.audio.onset import VoiceOnsets
from mirkle.files.audio.voice import RATE_HZ


def there_is_one() -> bool:
    """Whether this machine has a microphone."""
    return not QMediaDevices.defaultAudioInput().isNull()


class Microphone(QObject):
    """``begun`` carries the moment at which a voice began, on :func:`time.monotonic`."""

    begun = pyqtSignal(float)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._source: QAudioSource | None = None
        self._clear()

    def _clear(self) -> None:
        self.onsets, self._count, self._first_s = VoiceOnsets(), 0, math.inf

    def listen(self) -> None:
        """Begins to listen; nothing where there is no microphone."""
        self.stop()
        if not there_is_one():
            return
        kind = QAudioFormat()
        kind.setSampleRate(RATE_HZ)
        kind.setChannelCount(1)
        kind.setSampleFormat(QAudioFormat.SampleFormat.Int16)
        self._clear()
        self._source = QAudioSource(QMediaDevices.defaultAudioInput(), kind, self)
        stream = self._source.start()
        if stream is not None:
            stream.readyRead.connect(lambda: self.take(stream.readAll().data(), time.monotonic()))

    def stop(self) -> None:
        """Listens no more."""
        if self._source is not None:
            self._source.stop()
            self._source.deleteLater()
            self._source = None

    def take(self, content: bytes, now_s: float) -> None:
        """Takes what was recorded until now. When the first sample was is the earliest that any piece tells: pieces come late, never
        early."""
        samples = np.frombuffer(content[: len(content) // 2 * 2], np.int16)
        self._count += len(samples)
        self._first_s = min(self._first_s, now_s - self._count / RATE_HZ)
        for at_s in self.onsets.feed(samples):
            self.begun.emit(self._first_s + at_s)
