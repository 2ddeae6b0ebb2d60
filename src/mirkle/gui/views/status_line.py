"""The line at the bottom of the window: what is going on, or what was done last; and where on the stage one is."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QProgressBar, QPushButton, QSizePolicy, QWidget

from mirkle.gui.controls import label
from mirkle.gui.translation import tr


class StatusLine(QWidget):
    """``stopped`` asks for the work that is going on to be given up."""

    stopped = pyqtSignal()

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("status")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedHeight(24)
        self.doing, self.place = label(style="faint"), label(style="faint")
        # However long its words are, the window doesn't grow with them.
        self.doing.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        self.doing.setAccessibleName(tr("What is going on"))
        self.bar, self.stop = QProgressBar(), QPushButton(tr("Stop"))
        self.bar.setFixedWidth(180)
        self.bar.setRange(0, 100)
        self.bar.setTextVisible(False)
        self.stop.setObjectName("small")
        self.stop.clicked.connect(self.stopped)
        row = QHBoxLayout(self)
        row.setContentsMargins(18, 0, 18, 0)
        row.setSpacing(12)
        row.addWidget(self.bar)
        row.addWidget(self.stop)
        row.addWidget(self.doing, 1)
        row.addWidget(self.place)
        self._next = ""
        self.end()

    @property
    def said(self) -> str:
        """What the line says now."""
        return self.doing.text()

    def show_progress(self, words: str, share: float) -> None:
        """Something is being done, and how far it has come."""
        self.tell(" · ".join(part for part in (f"{words} …", self._next) if part))
        self.bar.setValue(int(100 * share))
        self.bar.show()
        self.stop.show()

    def end(self) -> None:
        """Nothing is being done any more."""
        self.bar.hide()
        self.stop.hide()
        self._next = ""
        self.tell("")

    def tell_next(self, words: str) -> None:
        """What comes when this is done."""
        self._next = words
        self.tell(words)

    def tell(self, words: str) -> None:
        """What was done last."""
        self.doing.setText(words)
        self.doing.setToolTip(words)

    @property
    def busy(self) -> bool:
        """Whether something is being done."""
        return not self.stop.isHidden()


def place_words(at_m: float, recording_s: float, sound_s: float | None) -> str:
    """Where one is on the stage: kilometres, the recording's time there, and the sound's where it has a clock of its own."""
    words = tr("{0:.2f} km · recording {1}", at_m / 1000, clock(recording_s))
    return words if sound_s is None else words + " · " + tr("sound {0}", clock(sound_s))


def clock(seconds: float) -> str:
    """Minutes and seconds, such as 10:57.2."""
    minutes, rest = divmod(round(max(seconds, 0.0), 1), 60.0)
    return tr("{0}:{1:04.1f}", int(minutes), rest)
