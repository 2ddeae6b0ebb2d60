"""The cautions at first start, and the page of keys."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QDialog, QGridLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from mirkle.core.cautions import CAUTIONS
from mirkle.desk.speak import say
from mirkle.desk.words import KEYS


class Cautions(QDialog):
    """What the crew must have read once."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(say("Before you trust a number"))
        self.setMinimumWidth(620)
        column = QVBoxLayout(self)
        column.setContentsMargins(32, 26, 32, 22)
        column.setSpacing(14)
        column.addWidget(_text(say("Before you trust a number"), "title"))
        for caution in CAUTIONS:
            column.addWidget(_text(say(caution), "why"))
        button = QPushButton(say("We have read this"))
        button.setObjectName("primary")
        button.clicked.connect(self.accept)
        column.addWidget(button, alignment=Qt.AlignmentFlag.AlignRight)


class Keys(QDialog):
    """Every key, and the cautions again below."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(say("Keys"))
        self.setMinimumWidth(820)
        column = QVBoxLayout(self)
        column.setContentsMargins(32, 26, 32, 22)
        column.addWidget(_text(say("Keys"), "title"))
        grid = QGridLayout()
        grid.setHorizontalSpacing(28)
        for row, (key, words) in enumerate(KEYS.items()):
            # Wrapped text further down would take its height from these rows.
            grid.setRowMinimumHeight(row, 22)
            for column_at, text in enumerate((key, say(words))):
                label = _text(text, "why")
                label.setWordWrap(False)
                grid.addWidget(label, row, column_at)
        grid.setColumnStretch(1, 1)
        column.addLayout(grid)
        column.addSpacing(12)
        for caution in CAUTIONS:
            column.addWidget(_text(say(caution), "faint"))
        button = QPushButton(say("Back to work"))
        button.clicked.connect(self.accept)
        column.addWidget(button, alignment=Qt.AlignmentFlag.AlignRight)


def _text(words: str, name: str) -> QLabel:
    label = QLabel(words)
    label.setObjectName(name)
    label.setWordWrap(True)
    label.setTextFormat(Qt.TextFormat.PlainText)
    return label
