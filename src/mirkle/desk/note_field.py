"""A field for a note as it shall stand: as high as its words are long, so that a correction is seen whole."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QPlainTextEdit, QWidget

from mirkle.desk.theme import font

# The most lines of a correction that are shown at once, and how many of a longer one, which is scrolled.
MOST_LINES, OF_A_LONGER = 3, 2


class NoteField(QPlainTextEdit):
    """The crew's own hand, in pencil."""

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName(name)
        self.setFont(font(22, family="hand", bold=True))
        self.setTabChangesFocus(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.textChanged.connect(self.fit)

    @property
    def text(self) -> str:
        """What stands in it."""
        return self.toPlainText().strip()

    def fit(self) -> None:
        """Makes it as high as its text is long."""
        # A plain text's document counts its height in lines, wrapped ones too.
        lines = max(1, round(self.document().size().height()))
        more = lines > MOST_LINES
        shown = Qt.ScrollBarPolicy.ScrollBarAlwaysOn if more else Qt.ScrollBarPolicy.ScrollBarAlwaysOff
        self.setVerticalScrollBarPolicy(shown)
        self.setFixedHeight(14 + (self.fontMetrics().lineSpacing() + 1) * (OF_A_LONGER if more else lines))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.fit()
