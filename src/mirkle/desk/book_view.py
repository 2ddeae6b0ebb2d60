"""Book: the new edition with its pencil marks, what changed by page and line, and what to take away."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFileDialog, QHBoxLayout, QLabel, QListWidget, QPushButton, QVBoxLayout, QWidget

from mirkle.core.errors import MirkleError
from mirkle.desk.card import write_card
from mirkle.desk.other_hand_view import OtherHandDialog
from mirkle.desk.page_view import PageView
from mirkle.desk.theme import Theme
from mirkle.session.stage import Stage


class Book(QWidget):
    """The page on the left, the changes and the two things to write on the right."""

    def __init__(self, stage: Stage, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage = stage
        self.page = PageView(stage, theme)
        self.heading, self.said = QLabel(), QLabel()
        self.heading.setObjectName("title")
        self.said.setObjectName("readBack")
        self.said.setWordWrap(True)
        self.said.setTextFormat(Qt.TextFormat.PlainText)
        self.list = QListWidget()
        self.list.setAccessibleName("Changes by page and line")
        self.list.setWordWrap(True)
        self.notes_button = QPushButton("New notes as text…")
        self.card_button = QPushButton("Change card as PDF…")
        self.notes_button.clicked.connect(self._ask_notes)
        self.card_button.clicked.connect(self._ask_card)
        self.other_button = QPushButton("For another co-driver…")
        self.other_button.clicked.connect(lambda: OtherHandDialog(self.stage, self).exec())
        self.list.currentRowChanged.connect(self._pick)
        self.page.picked.connect(stage.choose_note)
        stage.decided.connect(self.refresh)
        stage.chosen.connect(self.page.show_chosen)
        self._lay_out()
        self.refresh()

    def _lay_out(self) -> None:
        right = QWidget()
        right.setObjectName("card")
        column = QVBoxLayout(right)
        column.setContentsMargins(24, 20, 24, 20)
        column.setSpacing(10)
        column.addWidget(self.heading)
        column.addWidget(self.list, 1)
        column.addWidget(self.said)
        row = QHBoxLayout()
        row.addWidget(self.notes_button)
        row.addWidget(self.card_button)
        row.addWidget(self.other_button)
        row.addStretch(1)
        column.addLayout(row)
        both = QHBoxLayout(self)
        both.setContentsMargins(10, 10, 10, 10)
        both.setSpacing(8)
        both.addWidget(self.page, 4)
        both.addWidget(right, 5)

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self.page.set_theme(theme)

    def refresh(self) -> None:
        """Shows the edition as it stands."""
        changes = self.stage.edition.changes
        words = (
            f"{len(changes)} change{'s' * (len(changes) != 1)} to copy into the book"
            if changes
            else "Nothing marked yet"
        )
        self.heading.setText(words)
        self.list.blockSignals(True)
        self.list.clear()
        for c in changes:
            old, new = c.old.replace("\n", " / "), c.new.replace("\n", " / ")
            self.list.addItem(f"page {c.page}, line {c.line}     {old}   →   {new or 'struck out'}")
        self.list.blockSignals(False)
        self.page.viewport().update()

    def _pick(self, row: int) -> None:
        changes = self.stage.edition.changes
        if 0 <= row < len(changes):
            self.stage.choose_note(changes[row].first_note)

    def _ask_notes(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, "The new notes", f"{self.stage.project.name}-notes.txt", "Text (*.txt)"
        )
        if name:
            self.write_notes(Path(name))

    def _ask_card(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, "The change card", f"{self.stage.project.name}-changes.pdf", "PDF (*.pdf)"
        )
        if name:
            self.write_card(Path(name))

    def write_notes(self, path: Path) -> None:
        """Writes the new edition as text and says so, or says why not."""
        self._write(lambda: self.stage.write_edition(path), path)

    def write_card(self, path: Path) -> None:
        """Writes the change card and says so, or says why not."""
        self._write(lambda: write_card(self.stage, path), path)

    def _write(self, work, path: Path) -> None:  # type: ignore[no-untyped-def]
        try:
            work()
        except MirkleError as fault:
            self.said.setText(fault.sentence)
        else:
            self.said.setText(f"Written: {path}")
