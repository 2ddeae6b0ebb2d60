"""The video of By eye: its picture, what plays it, and stretches of it that end by themselves."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QHideEvent
from PyQt6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from mirkle.gui.controls import button, label, wrapped
from mirkle.gui.theme import Theme
from mirkle.gui.translation import tr
from mirkle.gui.views.status_line import clock

if TYPE_CHECKING:
    from mirkle.gui.playback import Playback
    from mirkle.gui.views.video import Picture

SPEEDS = (1.0, 1.5, 2.0, 0.5)
LEAST_PX = 150


class WatchedVideo(QWidget):
    """A picture over a row of buttons. What plays is made when it is first wanted; ``fault`` carries a sentence where this machine can't.

    ``row`` takes more buttons behind those that play. ``play_wanted`` asks for what the play button and Space do.
    """

    fault = pyqtSignal(str)
    play_wanted = pyqtSignal()

    def __init__(self, video: Path | None, theme: Theme) -> None:
        super().__init__()
        self._video, self._theme = video, theme
        self.playback: Playback | None = None
        self.picture: Picture | None = None
        # Whether anything was played yet, and where what plays now ends by itself.
        self.has_run = False
        self._until_s: float | None = None
        self._speed = 0
        self.at = label(style="faint")
        self.speed_button = button(tr("× {0:g}  S", SPEEDS[0]), tr("Playback speed (S)"), "small")
        play_button = button(tr("Play  Space"), tr("Play from before the call, or stop (Space)"), "small")
        back_button = button("◂  ,", tr("One frame back (comma)"), "small")
        on_button = button("▸  .", tr("One frame forward (full stop)"), "small")
        play_button.clicked.connect(self.play_wanted)
        back_button.clicked.connect(lambda: self.step(-1))
        on_button.clicked.connect(lambda: self.step(1))
        self.speed_button.clicked.connect(self.next_speed)
        self._empty = wrapped(tr("No picture yet. Space plays from before the call."), "faint")
        self._empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self._empty.setMinimumHeight(LEAST_PX)
        self._column, self.row = QVBoxLayout(self), QHBoxLayout()
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.addWidget(self._empty, 1)
        for widget in (play_button, back_button, on_button, self.speed_button, self.at):
            self.row.addWidget(widget)
        self._column.addLayout(self.row)

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self._theme = theme
        if self.picture is not None:
            self.picture.theme = theme

    @property
    def playing(self) -> bool:
        """Whether it is running now."""
        return self.playback is not None and self.playback.playing

    def player(self) -> Playback | None:
        """What plays the video, where this machine can."""
        if self.playback is None and self._video is not None:
            try:
                from mirkle.gui.playback import Playback
                from mirkle.gui.views.video import Picture
            except ImportError:
                self.fault.emit(tr("The sound can't be played here: a system library is missing"))
                return None
            self.playback = Playback(self._video, self)
            self.picture = Picture(self.playback, self._theme)
            self._column.replaceWidget(self._empty, self.picture)
            self._column.setStretchFactor(self.picture, 1)
            self._empty.hide()
            self.playback.moved.connect(self._moved)
            self.playback.failed.connect(lambda words: self.fault.emit(tr("The sound can't be played: {0}", words)))
        return self.playback

    def play(self, from_s: float | None = None, until_s: float | None = None) -> None:
        """Plays from a moment, or from where it is; to another moment, or on and on."""
        player = self.player()
        if player is not None:
            self._until_s, self.has_run = until_s, True
            player.play_from(player.seconds if from_s is None else from_s)

    def show_at(self, seconds: float) -> bool:
        """Shows the picture of a moment, where nothing plays; whether it does."""
        player = self.player()
        if player is None or player.playing:
            return False
        self._until_s = None
        player.show_at(seconds)
        return True

    def stop(self) -> None:
        """Stops where it is."""
        if self.playback is not None:
            self.playback.stop()

    def step(self, pictures: int) -> None:
        """Some pictures on, or back."""
        player = self.player()
        if player is not None:
            player.step(pictures)

    def next_speed(self) -> None:
        """As recorded, half as fast again, twice as fast, half as fast."""
        self._speed = (self._speed + 1) % len(SPEEDS)
        self.speed_button.setText(tr("× {0:g}  S", SPEEDS[self._speed]))
        player = self.player()
        if player is not None:
            player.set_speed(SPEEDS[self._speed])

    def now_s(self) -> float | None:
        """Where it is, for somebody who marks that moment: from then on it plays on and on. ``None`` where nothing can be played."""
        player = self.player()
        if player is None:
            return None
        self._until_s = None
        return player.seconds

    def _moved(self, seconds: float) -> None:
        self.at.setText(clock(seconds))
        if self._until_s is not None and seconds >= self._until_s and self.playback is not None:
            # A busy machine says late where it is: the picture that stays is the one at the end of the stretch.
            until_s, self._until_s = self._until_s, None
            self.playback.show_at(until_s)

    def hideEvent(self, event: QHideEvent | None) -> None:
        self.stop()
        super().hideEvent(event)
