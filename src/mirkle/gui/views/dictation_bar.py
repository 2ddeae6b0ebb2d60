"""The calls of a sound, played one by one while somebody writes them down."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QHideEvent
from PyQt6.QtWidgets import QHBoxLayout, QWidget

from mirkle.core.messages import clock
from mirkle.gui.commands import key_of
from mirkle.gui.controls import button, label
from mirkle.gui.playback import Playback
from mirkle.gui.translation import tr
from mirkle.session.dictation import AROUND_S, Utterance


class DictationBar(QWidget):
    """Which call it is, and what plays it."""

    def __init__(self, path: Path, calls: list[Utterance], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.calls, self.at = calls, 0
        self.playback = Playback(path, self)
        self._end = QTimer(self)
        self._end.setSingleShot(True)
        self._end.timeout.connect(self.playback.stop)
        self.which = label(style="faint")
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(self.which, 1)
        steps = (("Play the call again", 0, tr("Again")), ("Play the next call", 1, tr("Next")), ("Play the call before", -1, tr("Before")))
        for name, by, words in steps:
            pressed = button(f"{words}  {key_of('Typing', name)}")
            pressed.clicked.connect(lambda _=False, step=by: self.play(step))
            row.addWidget(pressed)
        self._show()

    def play(self, by: int = 0) -> None:
        """Plays the call that lies that many further on."""
        if self.calls:
            self.at = max(0, min(self.at + by, len(self.calls) - 1))
            call = self.calls[self.at]
            self.playback.play_from(call.from_s - AROUND_S)
            self._end.start(int(1000 * (call.to_s - call.from_s + 2 * AROUND_S)))
            self._show()

    def hideEvent(self, event: QHideEvent) -> None:
        # Whoever goes elsewhere hears no more of it.
        self._end.stop()
        self.playback.stop()
        super().hideEvent(event)

    def _show(self) -> None:
        if self.calls:
            self.which.setText(tr("call {0} of {1}, {2}", self.at + 1, len(self.calls), clock(self.calls[self.at].from_s)))
        else:
            self.which.setText(tr("Nobody speaks in this sound."))
