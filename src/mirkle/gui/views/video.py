"""The video of a run: beside the page, or in a window of its own, and frame by frame."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QImage, QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import QDialog, QHBoxLayout, QVBoxLayout, QWidget

from mirkle.gui.controls import button, label
from mirkle.gui.keys import CommandWidget, press
from mirkle.gui.playback import Playback
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr
from mirkle.gui.views.status_line import clock


class Picture(QWidget):
    """The picture that is shown now, as large as it fits; words where there is none."""

    def __init__(self, playback: Playback, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme = theme
        self.image = QImage()
        self.setMinimumSize(QSize(240, 150))
        self.setAccessibleName(tr("The video"))
        playback.sink.videoFrameChanged.connect(self._show)

    def _show(self, frame) -> None:  # type: ignore[no-untyped-def]
        image = frame.toImage()
        if not image.isNull():
            self.image = image
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: ARG002
        painter = QPainter(self)
        if self.image.isNull():
            painter.setFont(font(14))
            painter.setPen(self.theme.colour("faint"))
            words = tr("No picture yet. Space plays from before the call.")
            painter.drawText(self.rect(), int(Qt.AlignmentFlag.AlignCenter) | int(Qt.TextFlag.TextWordWrap), words)
        else:
            size = self.image.size()
            scale = min(self.width() / size.width(), self.height() / size.height())
            across, down = (self.width() - size.width() * scale) / 2, (self.height() - size.height() * scale) / 2
            painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
            painter.drawImage(QRectF(across, down, size.width() * scale, size.height() * scale), self.image)
        painter.end()


class VideoPane(QWidget):
    """The picture with what moves it. ``own_window_wanted`` asks for a window of its own, or back."""

    own_window_wanted = pyqtSignal()

    def __init__(self, playback: Playback, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.playback = playback
        self.picture = Picture(playback, theme)
        self.at = label(style="faint")
        self.play_button = button(tr("Play  Space"), tr("Play from before the call, or stop (Space)"), "small")
        self.back_button = button("◂  ,", tr("One frame back (comma)"), "small")
        self.on_button = button("▸  .", tr("One frame forward (full stop)"), "small")
        self.window_button = button(tr("Separate window  W"), tr("Video in a separate window, or here (W)"), "small")
        self.back_button.clicked.connect(lambda: playback.step(-1))
        self.on_button.clicked.connect(lambda: playback.step(1))
        self.window_button.clicked.connect(self.own_window_wanted)
        playback.moved.connect(self._tell)
        column, row = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.picture, 1)
        for widget in (self.play_button, self.back_button, self.on_button):
            row.addWidget(widget)
        row.addWidget(self.at, 1)
        row.addWidget(self.window_button)
        column.addLayout(row)

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self.picture.theme = theme

    def _tell(self, seconds: float) -> None:
        self.at.setText(clock(seconds))


class OwnWindow(QDialog):
    """A window for a widget that has left its place; closed, it lets it go back. Keys are passed on to where it came from."""

    left = pyqtSignal()

    def __init__(self, inside: QWidget, title: str, keys: CommandWidget, parent: QWidget) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setWindowFlag(Qt.WindowType.WindowMaximizeButtonHint)
        self.resize(900, 620)
        self._keys = keys
        column = QVBoxLayout(self)
        column.setContentsMargins(6, 6, 6, 6)
        column.addWidget(inside)
        inside.show()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if not press("Video window", self, event):
            press(self._keys.place, self._keys, event)

    def turn_full_screen(self) -> None:
        """On the whole screen, or back."""
        self.setWindowState(self.windowState() ^ Qt.WindowState.WindowFullScreen)

    def done(self, result: int) -> None:
        super().done(result)
        self.left.emit()
