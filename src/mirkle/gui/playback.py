"""Playing the sound or video of a run, in step with road, page and traces; silently where there is no sound device."""

from __future__ import annotations

import math
from pathlib import Path

from PyQt6.QtCore import QElapsedTimer, QObject, QTimer, QUrl, pyqtSignal
from PyQt6.QtMultimedia import QAudioOutput, QMediaDevices, QMediaMetaData, QMediaPlayer, QVideoSink

FRAME_MS = 16
USUAL_PICTURES_A_SECOND, INTO_PICTURE = 25.0, 0.2


class Playback(QObject):
    """One medium. ``moved`` carries seconds into it, about sixty times each, while it plays; ``stopped`` ends that."""

    moved = pyqtSignal(float)
    stopped = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, path: Path, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.player = QMediaPlayer(self)
        if not QMediaDevices.defaultAudioOutput().isNull():
            self.player.setAudioOutput(QAudioOutput(self))
        self.sink = QVideoSink(self)
        self.player.setVideoSink(self.sink)
        self.player.setSource(QUrl.fromLocalFile(str(path)))
        # What is wanted of a medium that is still being opened: that it plays, or that it shows a picture.
        self._wanted = self._wanted_still = False
        self.player.mediaStatusChanged.connect(self._loaded)
        self.player.positionChanged.connect(self._told)
        self.player.playbackStateChanged.connect(self._changed)
        # Methods, no lambdas: what is connected to a method ends with this object, even while it plays.
        self.player.errorOccurred.connect(self._failed)
        self._since, self.shown_s = QElapsedTimer(), 0.0
        self._frames = QTimer(self)
        self._frames.setInterval(FRAME_MS)
        self._frames.timeout.connect(self._tell_place)

    @property
    def playing(self) -> bool:
        """Whether it is running now."""
        return self.player.playbackState() == QMediaPlayer.PlaybackState.PlayingState

    @property
    def seconds(self) -> float:
        """Where it is, carried on between the few times a second that the player says so."""
        if not self.playing or not self._since.isValid():
            return self.shown_s
        return self.shown_s + self._since.elapsed() / 1000.0 * self.player.playbackRate()

    def play_from(self, seconds: float) -> None:
        """Plays from a moment on; before the beginning is the beginning."""
        if self._goes_to(seconds):
            self.player.play()
        else:
            self._wanted = True

    def show_at(self, seconds: float) -> None:
        """Shows the picture of a moment, and stays there."""
        if self._goes_to(seconds):
            self.player.pause()
            self.moved.emit(self.shown_s)
        else:
            self._wanted_still = True

    def _goes_to(self, seconds: float) -> bool:
        """Goes to a moment; whether it could, or the medium is still being opened."""
        self.shown_s = max(0.0, seconds)
        self._since.invalidate()
        if self.player.mediaStatus() == QMediaPlayer.MediaStatus.LoadingMedia:
            return False
        self.player.setPosition(int(1000 * self.shown_s))
        return True

    def stop(self) -> None:
        """Stops where it is."""
        self.player.pause()

    def step(self, pictures: int) -> None:
        """Goes some pictures on, or back, and stops there."""
        self.player.pause()
        rate = self.player.metaData().value(QMediaMetaData.Key.VideoFrameRate) or USUAL_PICTURES_A_SECOND
        # A little into the picture: from its middle on the player shows the next one.
        whole = math.floor(self.shown_s * rate + 1e-6) + pictures
        self.shown_s = max(0.0, (whole + INTO_PICTURE) / rate)
        self._since.invalidate()
        self.player.setPosition(int(1000 * self.shown_s))
        self.moved.emit(self.shown_s)

    @property
    def length_s(self) -> float:
        """How long it is; 0 while that is not known."""
        return self.player.duration() / 1000.0

    def set_speed(self, times: float) -> None:
        """Sets the speed, as a multiple of the recorded one."""
        self.shown_s = self.seconds
        self._since.restart()
        self.player.setPlaybackRate(times)

    def _loaded(self, status: QMediaPlayer.MediaStatus) -> None:
        # A position that is set while the medium is still being opened is forgotten.
        if status in (QMediaPlayer.MediaStatus.LoadedMedia, QMediaPlayer.MediaStatus.BufferedMedia):
            plays, still = self._wanted, self._wanted_still
            self._wanted = self._wanted_still = False
            if plays:
                self.play_from(self.shown_s)
            elif still:
                self.show_at(self.shown_s)

    def _failed(self, _error: QMediaPlayer.Error, words: str) -> None:
        self.failed.emit(words)

    def _tell_place(self) -> None:
        self.moved.emit(self.seconds)

    def _told(self, position_ms: int) -> None:
        if not self._wanted and self.playing:
            self.shown_s = position_ms / 1000.0
            self._since.restart()

    def _changed(self) -> None:
        if self.playing:
            self._frames.start()
        else:
            self._frames.stop()
            self.stopped.emit()
