"""What will be printed, sheet by sheet, before any paper is used; from here to a printer or into a PDF."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property
from pathlib import Path
from tempfile import TemporaryDirectory

from PyQt6.QtCore import QBuffer, QIODevice, QMimeData, QPoint, QSize, Qt, QUrl
from PyQt6.QtGui import QDrag, QMouseEvent, QPixmap
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtPrintSupport import QPrintDialog, QPrinter
from PyQt6.QtWidgets import QApplication, QCheckBox, QDialog, QFileDialog, QHBoxLayout, QLabel, QScrollArea, QVBoxLayout, QWidget

from mirkle.core.errors import MirkleError
from mirkle.core.messages import gettext_noop
from mirkle.gui.controls import ChoiceBox, button, label, wrapped
from mirkle.gui.printing import BOOK_MARKS, CARD_ORDERS, BookStyle, book, card, findings
from mirkle.gui.sheets import SIZES, THUMBS, PaperFormat, Printed
from mirkle.gui.translation import tr, tr_counted, tr_fault
from mirkle.session import settings
from mirkle.session.change_review import proven_notes
from mirkle.session.open_pass import OpenPass
from mirkle.session.reviewed_pass import ReviewedPass

WIDE_PX = 560
# Settings that are kept for the next time.
PAPER, THUMB, TWO_UP, PROVEN = "paper", "thumb margin", "two pages on a sheet", "proven marked"

TITLES = {"card": gettext_noop("The change card"), "book": gettext_noop("The new book"), "findings": gettext_noop("All findings")}
FILE_NAMES = {"card": gettext_noop("changes"), "book": gettext_noop("notes"), "findings": gettext_noop("findings")}


class _Sheet(QLabel):
    """A sheet as it will be printed, which can be dragged out of the window as the PDF."""

    def __init__(self, dragged: Callable[[], None], style: str) -> None:
        super().__init__()
        self.setTextFormat(Qt.TextFormat.PlainText)
        self._dragged, self._pressed = dragged, QPoint()
        self.setObjectName(style)
        self.setCursor(Qt.CursorShape.OpenHandCursor)
        self.setToolTip(tr("Drag it into a mail or a folder: it goes there as a PDF"))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._pressed = event.position().toPoint()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if (event.position().toPoint() - self._pressed).manhattanLength() > QApplication.startDragDistance():
            self._dragged()


class PreviewDialog(QDialog):
    """The ``card``, the ``book`` or the ``findings`` as they will be printed. ``written`` is where it was written to, if it was."""

    def __init__(self, stage: OpenPass, what: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage, self.what, self.written = stage, what, ""
        # What is dragged out lies there as long as the preview is open: whoever takes it may copy it later.
        self._folder = TemporaryDirectory()
        self.setWindowTitle(tr(TITLES[what]))
        self.resize(760, 720)
        self.paper, self.order, self.ink, self.marks, self.thumb = (ChoiceBox() for _ in range(5))
        self.two_up, self.proven = QCheckBox(tr("two on a sheet")), QCheckBox(tr("mark what is proven"))
        for size in SIZES:
            self.paper.addItem(f"{size}  ▾", size)
        self.paper.setCurrentIndex(max(self.paper.findData(settings.setting(PAPER, "A5")), 0))
        for key, words in CARD_ORDERS.items():
            self.order.addItem(f"{tr(words)}  ▾", key)
        for key, words in BOOK_MARKS.items():
            self.marks.addItem(f"{tr(words)}  ▾", key)
        for side, words in THUMBS.items():
            self.thumb.addItem(f"{tr(words)}  ▾", side)
        self.thumb.setCurrentIndex(max(self.thumb.findData(settings.setting(THUMB, "")), 0))
        self.two_up.setChecked(settings.setting(TWO_UP, False) is True)
        self.two_up.setToolTip(tr("Two pages beside each other on a sheet of twice the size, to be cut in the middle"))
        self.proven.setChecked(settings.setting(PROVEN, False) is True)
        self.proven.setToolTip(tr("A thin line beside the notes that were right on two passes and more, and never called late"))
        self.ink.addItem(tr("type for daylight") + "  ▾", False)
        self.ink.addItem(tr("larger type for the night") + "  ▾", True)
        boxes = (
            (self.paper, tr("Paper")),
            (self.order, tr("The order of the card")),
            (self.ink, tr("Size of type")),
            (self.marks, tr("How changes are shown")),
            (self.thumb, tr("Where the thumb holds the book")),
        )
        for box, name in boxes:
            box.setAccessibleName(name)
            box.activated.connect(lambda _: self.refresh())
        self.order.setVisible(what == "card")
        for of_the_book in (self.ink, self.marks):
            of_the_book.setVisible(what == "book")
        # Only passes that were measured prove a note.
        self.proven.setVisible(what == "book" and isinstance(stage, ReviewedPass))
        for tick in (self.two_up, self.proven):
            tick.toggled.connect(lambda _: self.refresh())
        self.sheets, self.count, self.said = QScrollArea(), label(style="faint"), wrapped(style="readBack")
        self.sheets.setWidgetResizable(True)
        self.sheets.setAccessibleName(tr("The sheets as they will be printed"))
        self.print_button = button(tr("Print…"), tr("Choose a printer of this computer and print"), "primary")
        self.save_button, back = button(tr("Save as PDF…")), button(tr("Back"))
        self.print_button.clicked.connect(self._print)
        self.save_button.clicked.connect(self._save)
        back.clicked.connect(self.reject)
        foot = QHBoxLayout()
        foot.addWidget(back)
        foot.addStretch(1)
        foot.addWidget(self.save_button)
        foot.addWidget(self.print_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 16, 20, 16)
        for widgets in ((self.paper, self.order, self.ink, self.marks), (self.thumb, self.two_up, self.proven, self.count)):
            row = QHBoxLayout()
            row.setSpacing(12)
            for widget in widgets:
                row.addWidget(widget)
            row.addStretch(1)
            column.addLayout(row)
        column.addWidget(self.sheets, 1)
        column.addWidget(self.said)
        column.addLayout(foot)
        self.refresh()

    @property
    def printed(self) -> Printed:
        """What would be printed, as it is chosen here."""
        paper = PaperFormat(self.paper.currentData(), thumb=self.thumb.currentData(), two_up=self.two_up.isChecked())
        if self.what == "card":
            return card(self.stage, paper, order=self.order.currentData())
        if self.what == "findings" and isinstance(self.stage, ReviewedPass):
            return findings(self.stage, paper)
        return book(self.stage, paper, BookStyle(self.ink.currentData(), self.marks.currentData(), self._proven))

    @cached_property
    def _all_proven(self) -> frozenset[int]:
        """The proven notes of this stage, from every kept review: read once, since nothing changes them while this is open."""
        return proven_notes(self.stage) if isinstance(self.stage, ReviewedPass) else frozenset()

    @property
    def _proven(self) -> frozenset[int]:
        """The notes that are marked as proven."""
        return self._all_proven if self.proven.isChecked() else frozenset()

    def refresh(self) -> None:
        """Shows the sheets."""
        none_yet = self.proven.isVisibleTo(self) and self.proven.isChecked() and not self._proven
        self.said.setText(tr("No note is proven yet: that takes two passes that were reviewed.") if none_yet else "")
        chosen = (
            (PAPER, self.paper.currentData()),
            (THUMB, self.thumb.currentData()),
            (TWO_UP, self.two_up.isChecked()),
            (PROVEN, self.proven.isChecked()),
        )
        for name, value in chosen:
            settings.keep_setting(name, value)
        buffer, document = QBuffer(), QPdfDocument(self)
        buffer.setData(self.printed.pdf())
        buffer.open(QIODevice.OpenModeFlag.ReadOnly)
        document.load(buffer)
        inside = QWidget()
        column = QVBoxLayout(inside)
        column.setSpacing(14)
        for number in range(document.pageCount()):
            points = document.pagePointSize(number)
            ratio = self.devicePixelRatioF()
            high = WIDE_PX * points.height() / points.width()
            picture = QPixmap.fromImage(document.render(number, QSize(int(WIDE_PX * ratio), int(high * ratio))))
            picture.setDevicePixelRatio(ratio)
            # Paper is white, whatever the theme.
            sheet = _Sheet(self._dragged, style="sheet")
            sheet.setPixmap(picture)
            sheet.setAccessibleName(tr("sheet {0} of {1}", number + 1, document.pageCount()))
            column.addWidget(sheet, alignment=Qt.AlignmentFlag.AlignHCenter)
        inside.setAutoFillBackground(False)
        column.addStretch(1)
        self.sheets.setWidget(inside)
        count = document.pageCount()
        self.count.setText(tr_counted("1 sheet", "{0} sheets", count))
        document.close()

    def _dragged(self) -> None:
        """Hands the PDF to wherever a sheet is dropped: a mail, a folder, another window."""
        path = Path(self._folder.name) / self._file_name
        self._tell(lambda: self.printed.write(path), str(path))
        data, drag = QMimeData(), QDrag(self)
        data.setUrls([QUrl.fromLocalFile(str(path))])
        drag.setMimeData(data)
        done = drag.exec(Qt.DropAction.CopyAction)
        self.said.setText(tr("Handed over: {0}", path.name) if done is Qt.DropAction.CopyAction else "")

    @property
    def _file_name(self) -> str:
        return f"{self.stage.project.name}-{tr(FILE_NAMES[self.what])}.pdf"

    def _print(self) -> None:
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setPageLayout(self.printed.layout)
        printer.setDocName(self.printed.title)
        if QPrintDialog(printer, self).exec():
            self.printed.print_on(printer)
            self.said.setText(tr("Sent to {0}", printer.printerName() or printer.outputFileName()))

    def _save(self) -> None:
        name, _ = QFileDialog.getSaveFileName(self, tr("Save as PDF…"), self._file_name, "PDF (*.pdf)")
        if name:
            self._tell(lambda: self.printed.write(Path(name)), name)

    def _tell(self, work: Callable[[], None], name: str) -> None:
        try:
            work()
        except MirkleError as fault:
            self.said.setText(tr_fault(fault))
        else:
            self.written = name
            self.said.setText(tr("Written: {0}", name))
