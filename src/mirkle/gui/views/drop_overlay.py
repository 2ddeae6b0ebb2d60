"""What lies over the window while files are dragged over it: that they can be let go here, and how many they are."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QMimeData, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QDragEnterEvent, QDragLeaveEvent, QDropEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QMainWindow, QWidget

from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr


class DropOverlay(QWidget):
    """Covers its parent while it is shown; the mouse goes through it."""

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme, self.words = theme, ""
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.hide()

    def show_files(self, files: list[Path]) -> None:
        """Says what would be taken in."""
        self.words = tr("Let go to take in {0}", files[0].name) if len(files) == 1 else tr("Let go to take in {0} files", len(files))
        parent = self.parentWidget()
        assert parent is not None
        self.setGeometry(parent.rect())
        self.raise_()
        self.show()
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: ARG002
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.theme.colour("paper", 215))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self.theme.colour("pencil"), 4, Qt.PenStyle.DashLine))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(16, 16, -16, -16), 10, 10)
        painter.setPen(self.theme.colour("ink"))
        painter.setFont(font(26, bold=True))
        box = QRectF(self.rect()).adjusted(60, 60, -60, -60)
        painter.drawText(box, int(Qt.AlignmentFlag.AlignCenter) | int(Qt.TextFlag.TextWordWrap), self.words)
        painter.end()


def local_files(data: QMimeData | None) -> list[Path]:
    """The files that are dragged."""
    return [] if data is None else [Path(u.toLocalFile()) for u in data.urls() if u.isLocalFile()]


class DropWindow(QMainWindow):
    """A window that takes files anywhere on it; ``files_dropped`` carries them."""

    files_dropped = pyqtSignal(list)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setAcceptDrops(True)
        self.overlay = DropOverlay(theme, self)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        files = local_files(event.mimeData())
        if files:
            event.acceptProposedAction()
            self.overlay.show_files(files)

    def dragLeaveEvent(self, event: QDragLeaveEvent) -> None:
        self.overlay.hide()
        super().dragLeaveEvent(event)

    def dropEvent(self, event: QDropEvent) -> None:
        self.overlay.hide()
        event.acceptProposedAction()
        self.files_dropped.emit(local_files(event.mimeData()))
