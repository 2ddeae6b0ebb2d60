"""A field for a note as it shall stand: as high as its words are long, so that a correction is seen whole."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QPlainTextEdit, QWidget

from mirkle.gui.theme import font

# The most lines of a correction that are shown at once. A wordy note is seen whole; of more notes than three the first two are, and the
# rest is
# scrolled to.
MOST_LINES, MOST_NOTES, OF_MORE = 4, 3, 2
# The size of the writing, and that of a note of more letters than this.
SIZE_PX, WORDY_PX, WORDY = 22, 18, 90


class NoteField(QPlainTextEdit):
    """The crew's own hand, in pencil."""

    def __init__(self, name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName(name)
        self.setFont(font(SIZE_PX, family="hand", bold=True))
        self.setTabChangesFocus(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.textChanged.connect(self.fit)

    @property
    def text(self) -> str:
        """What stands in it."""
        return self.toPlainText().strip()

    def fit(self) -> None:
        """Makes it as high as its text is long."""
        size = WORDY_PX if len(self.text) > WORDY else SIZE_PX
        if size != self.font().pixelSize():
            self.setFont(font(size, family="hand", bold=True))
        # A plain text's document counts its height in lines, wrapped ones too.
        lines = max(1, round(self.document().size().height()))
        seen = OF_MORE if self.document().blockCount() > MOST_NOTES else min(lines, MOST_LINES)
        scrolled = Qt.ScrollBarPolicy.ScrollBarAlwaysOn if lines > seen else Qt.ScrollBarPolicy.ScrollBarAlwaysOff
        self.setVerticalScrollBarPolicy(scrolled)
        self.setFixedHeight(14 + (self.fontMetrics().lineSpacing() + 1) * seen)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self.fit()
