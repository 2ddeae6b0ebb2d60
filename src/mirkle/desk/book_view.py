"""Book: the new edition with its pencil marks, what changed by page and line, and what to take away."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QShowEvent
from PyQt6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QMenu,
    QPushButton,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from mirkle.core.errors import MirkleError
from mirkle.desk.editions_view import EditionsDialog, HistoryDialog
from mirkle.desk.other_hand_view import OtherHandDialog
from mirkle.desk.page_view import PageView
from mirkle.desk.printing import CARD_ORDERS, write_book, write_card
from mirkle.desk.speak import say, say_fault
from mirkle.desk.theme import Theme
from mirkle.session.stage import Stage
from mirkle.session.takeaway import write_export

# What can be taken away: how it is called, how its file ends, and the kind of file.
TAKE_AWAY = {
    "card": ("The change card as PDF…", "changes.pdf", "PDF (*.pdf)"),
    "book": ("The new book as PDF…", "book.pdf", "PDF (*.pdf)"),
    "notes": ("The new notes as text…", "notes.txt", "Text (*.txt)"),
    "csv": ("The findings as a table…", "findings.csv", "Table (*.csv)"),
    "html": ("The review to read in a browser…", "review.html", "Page (*.html)"),
    "gpx": ("Way-points and the driven line…", "places.gpx", "GPX (*.gpx)"),
    "json": ("The review for other programs…", "review.json", "JSON (*.json)"),
}


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
        self.list.setAccessibleName(say("Changes by page and line"))
        self.list.setWordWrap(True)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.card_button = QPushButton(say("Change card as PDF…"))
        self.book_button = QPushButton(say("Book as PDF…"))
        self.more_button = QPushButton(say("More to take away  ▾"))
        self.compare_button = QPushButton(say("Compare editions…"))
        self.history_button = QPushButton(say("What was decided…"))
        self.card_button.clicked.connect(lambda: self._ask("card"))
        self.book_button.clicked.connect(lambda: self._ask("book"))
        self.compare_button.clicked.connect(lambda: EditionsDialog(self.stage, self).exec())
        self.history_button.clicked.connect(lambda: HistoryDialog(self.stage, self).exec())
        self.menu = QMenu(self)
        for what, (words, _, _) in TAKE_AWAY.items():
            if what not in ("card", "book"):
                self.menu.addAction(say(words), lambda w=what: self._ask(w))
        self.menu.addAction(say("The notes for another co-driver…"), lambda: OtherHandDialog(self.stage, self).exec())
        self.more_button.setMenu(self.menu)
        self.paper, self.ink, self.lines, self.order = QComboBox(), QComboBox(), QSpinBox(), QComboBox()
        for key, words in CARD_ORDERS.items():
            self.order.addItem(f"{say(words)}  ▾", key)
        self.order.setAccessibleName(say("The order of the card"))
        self.paper.addItem("A5  ▾", "A5")
        self.paper.addItem("A4  ▾", "A4")
        self.paper.setAccessibleName(say("Paper"))
        self.ink.addItem(say("for sunlight  ▾"), False)
        self.ink.addItem(say("for the night  ▾"), True)
        self.ink.setAccessibleName(say("Ink"))
        self.lines.setRange(0, 60)
        self.lines.setSpecialValueText(say("pages as in the notes"))
        self.lines.setSuffix(say(" lines a page"))
        self.lines.setButtonSymbols(QSpinBox.ButtonSymbols.NoButtons)
        self.lines.setAccessibleName(say("Lines a page of the paper book, 0 for the pages of the notes"))
        self.list.currentRowChanged.connect(self._pick)
        self.page.picked.connect(stage.choose_note)
        stage.book.changed.connect(self.refresh)
        stage.chosen.connect(self._show_chosen)
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
        looks, prints, takes = QHBoxLayout(), QHBoxLayout(), QHBoxLayout()
        for widget in (self.compare_button, self.history_button):
            looks.addWidget(widget)
        for widget in (QLabel(say("on")), self.paper, self.ink, self.lines, self.order):
            prints.addWidget(widget)
        for widget in (self.card_button, self.book_button, self.more_button):
            takes.addWidget(widget)
        for row in (looks, prints, takes):
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
        changes = self.stage.book.edition.changes
        words = (
            say("Nothing marked yet")
            if not changes
            else say("1 change to copy into the book")
            if len(changes) == 1
            else say("{0} changes to copy into the book", len(changes))
        )
        self.heading.setText(words)
        self.list.blockSignals(True)
        self.list.clear()
        for c in changes:
            old, new = c.old.replace("\n", " / "), c.new.replace("\n", " / ")
            self.list.addItem(
                say("page {0}, line {1}     {2}   →   {3}", c.page, c.line, old, new or say("struck out"))
            )
        self.list.blockSignals(False)
        self.page.viewport().update()

    def _show_chosen(self) -> None:
        if self.isVisible():
            self.page.show_chosen()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self.page.show_chosen()

    def _pick(self, row: int) -> None:
        changes = self.stage.book.edition.changes
        if 0 <= row < len(changes):
            self.stage.choose_note(changes[row].first_note)

    def _ask(self, what: str) -> None:
        words, ending, kind = TAKE_AWAY[what]
        name, _ = QFileDialog.getSaveFileName(self, say(words), f"{self.stage.project.name}-{ending}", kind)
        if name:
            self.take_away(what, Path(name))

    def take_away(self, what: str, path: Path) -> None:
        """Writes one of :data:`TAKE_AWAY` and says so, or says why not."""
        size = self.paper.currentData()
        works = {
            "card": lambda: write_card(self.stage, path, size=size, order=self.order.currentData()),
            "book": lambda: write_book(
                self.stage, path, size=size, night=self.ink.currentData(), lines_a_page=self.lines.value() or None
            ),
        }
        self._write(works.get(what) or (lambda: write_export(self.stage, what, path)), path)

    def _write(self, work, path: Path) -> None:  # type: ignore[no-untyped-def]
        try:
            work()
        except MirkleError as fault:
            self.said.setText(say_fault(fault))
        else:
            self.said.setText(say("Written: {0}", path))
