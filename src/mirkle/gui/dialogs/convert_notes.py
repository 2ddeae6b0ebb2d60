"""Writing the notes for another co-driver: language, order and school, a look at the result, and what is lost."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from PyQt6.QtWidgets import QDialog, QFileDialog, QFormLayout, QHBoxLayout, QPlainTextEdit, QPushButton, QVBoxLayout, QWidget

from mirkle.core.errors import MirkleError
from mirkle.core.messages import gettext_noop
from mirkle.core.notes.crew_profile import ORDER_WORDS
from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.reading import read_notes
from mirkle.files.atomic_write import write_whole
from mirkle.files.notes.languages import shipped_languages
from mirkle.gui.controls import ChoiceBox, label
from mirkle.gui.theme import font
from mirkle.gui.translation import tr, tr_fault
from mirkle.session.convert_notes import OtherHand, in_another_hand
from mirkle.session.open_pass import OpenPass


class OtherHandDialog(QDialog):
    """Shows the new edition in another hand as the choices change, and writes it."""

    def __init__(self, stage: OpenPass, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage = stage
        self.setWindowTitle(tr("For another co-driver"))
        self.resize(760, 640)
        reading, school = stage.reading, stage.school
        self.language, self.order, self.sense, self.top = ChoiceBox(), ChoiceBox(), ChoiceBox(), ChoiceBox()
        for language in shipped_languages():
            self.language.addItem(language.name, language.code)
        for order in ("direction-first", "grade-first"):
            self.order.addItem(tr(ORDER_WORDS[order]), order)
        for sense, words in (("ascending", "1 is tight"), ("descending", "1 is nearly flat out")):
            self.sense.addItem(tr(words), sense)
        for top in (6, 8, 9, 10):
            self.top.addItem(tr("1 to {0}", top), top)
        for box, value in (
            (self.language, reading.language),
            (self.order, reading.order),
            (self.sense, school.sense),
            (self.top, school.top),
        ):
            box.setCurrentIndex(max(0, box.findData(value)))
            box.currentIndexChanged.connect(self.refresh)
        self.page = QPlainTextEdit()
        self.page.setObjectName("proofPage")
        self.page.setReadOnly(True)
        self.page.setFont(font(20, family="hand"))
        self.page.setAccessibleName(tr("The notes in the other hand"))
        self.lost = label()
        self.lost.setObjectName("why")
        self.lost.setWordWrap(True)
        self.converted = OtherHand("", ())
        self._lay_out()
        self.refresh()

    def _lay_out(self) -> None:
        form = QFormLayout()
        for words, box in (
            (gettext_noop("Language"), self.language),
            (gettext_noop("What comes first"), self.order),
            (gettext_noop("Grades"), self.sense),
            (gettext_noop("They run"), self.top),
        ):
            form.addRow(tr(words), box)
        write = QPushButton(tr("Write it as text…"))
        write.setObjectName("primary")
        write.clicked.connect(self._ask)
        close = QPushButton(tr("Close"))
        close.clicked.connect(self.reject)
        row = QHBoxLayout()
        row.addStretch(1)
        row.addWidget(close)
        row.addWidget(write)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 20, 24, 18)
        column.addLayout(form)
        column.addWidget(self.page, 1)
        column.addWidget(self.lost)
        column.addLayout(row)

    def refresh(self) -> None:
        """Writes the book again as the choices stand."""
        school = self.stage.school
        edition = read_notes(self.stage.book.edition.text, (self.stage.language,), like=self.stage.reading)
        other: GradingScheme = replace(school, sense=self.sense.currentData(), top=self.top.currentData())
        self.converted = in_another_hand(edition, school, language=self.language.currentData(), order=self.order.currentData(), other=other)
        self.page.setPlainText(self.converted.text)
        lost = self.converted.lost
        shown = "; ".join(tr("page {0}, line {1}: {2}", p, n, what) for p, n, what in lost[:6])
        more = tr("; and {0} more", len(lost) - 6) if len(lost) > 6 else ""
        self.lost.setText(tr("Not carried over: {0}{1}.", shown, more) if lost else tr("Everything was carried over."))

    def _ask(self) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, tr("The notes in the other hand"), f"{self.stage.project.name}-other-hand.txt", "Text (*.txt)"
        )
        if name:
            self.write(Path(name))

    def write(self, path: Path) -> None:
        """Writes the notes and closes, or says why not."""
        try:
            write_whole(path, self.converted.text.encode())
        except MirkleError as fault:
            self.lost.setText(tr_fault(fault))
        else:
            self.accept()
