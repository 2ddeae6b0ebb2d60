"""The itinerary of a rally, typed, pasted or read from a file, and read back as it is typed."""

from __future__ import annotations

from datetime import date
from pathlib import Path

from PyQt6.QtWidgets import QDialog, QFileDialog, QHBoxLayout, QLineEdit, QListWidget, QPlainTextEdit, QVBoxLayout, QWidget

from mirkle.core.errors import MirkleError
from mirkle.core.rally.itinerary import KIND_WORDS, Item
from mirkle.core.rally.written_itinerary import ReadLine, read_itinerary
from mirkle.files.itinerary_files import itinerary_text
from mirkle.gui.controls import button, label, wrap_items, wrapped
from mirkle.gui.pages.rally import day_words, name_words
from mirkle.gui.theme import font
from mirkle.gui.translation import tr, tr_counted, tr_fault, tr_message
from mirkle.session.rally import Rally, typed, with_what_stood

EXAMPLE = "2026-12-04\n08:40  Service A  20 min\n09:12  SS1  Slatehook  12.4 km\n10:05  SS2  Tarn Moor  7.9 km"


class ItineraryDialog(QDialog):
    """The text at the left, at the right how each line is read."""

    def __init__(self, rally: Rally, today: date, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.rally, self._today = rally, today
        self.setWindowTitle(tr("Itinerary"))
        self.resize(1040, 620)
        self.name, self.text, self.read = QLineEdit(rally.name), QPlainTextEdit(typed(rally.itinerary)), QListWidget()
        self.name.setAccessibleName(tr("The rally's name"))
        self.text.setAccessibleName(tr("The itinerary, a line for each item"))
        self.text.setPlaceholderText(EXAMPLE)
        self.text.setFont(font(15))
        self.text.setTabChangesFocus(True)
        self.text.textChanged.connect(self._read)
        self.read.setAccessibleName(tr("How each line is read"))
        wrap_items(self.read)
        self.fault = wrapped(style="fault")
        from_file, back = button(tr("From a file…"), tr("Text, CSV, a spreadsheet or a calendar")), button(tr("Back"))
        self.keep_button = button(tr("Use this itinerary"), name="primary")
        from_file.clicked.connect(self._choose_file)
        back.clicked.connect(self.reject)
        self.keep_button.clicked.connect(self.keep)
        top, both, row, column = QHBoxLayout(), QHBoxLayout(), QHBoxLayout(), QVBoxLayout(self)
        top.addWidget(label(tr("Rally")))
        top.addWidget(self.name, 1)
        both.addWidget(self.text, 1)
        both.addWidget(self.read, 1)
        row.addWidget(from_file)
        row.addStretch(1)
        row.addWidget(back)
        row.addWidget(self.keep_button)
        column.setContentsMargins(28, 22, 28, 20)
        column.addLayout(top)
        words = tr("A line for each stage, service and control: its time and its name, and km or min if you like. A date begins a day.")
        column.addWidget(wrapped(words, "faint"))
        column.addLayout(both, 1)
        column.addWidget(self.fault)
        column.addLayout(row)
        self._read()
        self.text.setFocus()

    def _lines(self) -> list[ReadLine]:
        return read_itinerary(self.text.toPlainText(), self._today)

    def _read(self) -> None:
        """Says how each line is read."""
        lines = self._lines()
        self.read.clear()
        for line in lines:
            self.read.addItem(_read_words(line))
        missing = sum(line.fault is not None for line in lines)
        self.fault.setText(tr_counted("1 line is not understood", "{0} lines are not understood", missing) if missing else "")
        self.keep_button.setEnabled(not missing)

    def take_file(self, path: Path) -> None:
        """Puts the itinerary of a file into the text; what was typed stays above it."""
        try:
            found = itinerary_text(path)
        except MirkleError as fault:
            self.fault.setText(tr_fault(fault))
            return
        before = self.text.toPlainText().strip()
        self.text.setPlainText(f"{before}\n{found}".strip())

    def _choose_file(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, tr("Itinerary"), filter="(*.txt *.csv *.ods *.xlsx *.ics *.docx *.odt);;(*)")
        if name:
            self.take_file(Path(name))

    def keep(self) -> None:
        """Puts this itinerary in place of the one that was there."""
        try:
            self.rally.rename(self.name.text())
            self.rally.set_itinerary(with_what_stood(self._lines(), self.rally.itinerary))
        except MirkleError as fault:
            self.fault.setText(tr_fault(fault))
        else:
            self.accept()


def _read_words(line: ReadLine) -> str:
    if line.day is not None:
        return day_words(line.day)
    if line.item is None:
        return tr("? {0}: {1}", line.text, tr_message(line.fault) if line.fault is not None else "")
    return "   ".join(p for p in _parts(line.item) if p)


def _parts(item: Item) -> list[str]:
    return [
        f"{item.start:%H:%M}",
        tr(KIND_WORDS[item.kind]),
        *name_words(item),
        tr("{0:.1f} km", item.length_m / 1000) if item.length_m else "",
        tr("{0:.0f} min", item.minutes) if item.minutes else "",
    ]
