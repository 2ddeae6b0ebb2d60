"""What will be printed, sheet by sheet, before any paper is used; from here to a printer or into a PDF."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QBuffer, QIODevice, QSize, Qt
from PyQt6.QtGui import QPixmap
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtPrintSupport import QPrintDialog, QPrinter
from PyQt6.QtWidgets import QDialog, QFileDialog, QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from mirkle.core.errors import MirkleError
from mirkle.gui.controls import ChoiceBox, button, label, wrapped
from mirkle.gui.printing import CARD_ORDERS, SIZES, Printed, book, card
from mirkle.gui.translation import tr, tr_fault
from mirkle.session import settings
from mirkle.session.open_pass import OpenPass

WIDE_PX = 560
PAPER = "paper"


class PreviewDialog(QDialog):
    """The ``card`` or the ``book`` as it will be printed. ``written`` is where it was written to, if it was."""

    def __init__(self, stage: OpenPass, what: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage, self.what, self.written = stage, what, ""
        self.setWindowTitle(tr("The change card") if what == "card" else tr("The new book"))
        self.resize(760, 720)
        self.paper, self.order, self.ink = ChoiceBox(), ChoiceBox(), ChoiceBox()
        for size in SIZES:
            self.paper.addItem(f"{size}  ▾", size)
        self.paper.setCurrentIndex(max(self.paper.findData(settings.setting(PAPER, "A5")), 0))
        for key, words in CARD_ORDERS.items():
            self.order.addItem(f"{tr(words)}  ▾", key)
        self.ink.addItem(tr("type for daylight") + "  ▾", False)
        self.ink.addItem(tr("larger type for the night") + "  ▾", True)
        for box, name in ((self.paper, tr("Paper")), (self.order, tr("The order of the card")), (self.ink, tr("Size of type"))):
            box.setAccessibleName(name)
            box.activated.connect(lambda _: self.refresh())
        self.order.setVisible(what == "card")
        self.ink.setVisible(what == "book")
        self.sheets, self.count, self.said = QScrollArea(), label(style="faint"), wrapped(style="readBack")
        self.sheets.setWidgetResizable(True)
        self.sheets.setAccessibleName(tr("The sheets as they will be printed"))
        self.print_button = button(tr("Print…"), tr("Choose a printer of this computer and print"), "primary")
        self.save_button, back = button(tr("Save as PDF…")), button(tr("Back"))
        self.print_button.clicked.connect(self._print)
        self.save_button.clicked.connect(self._save)
        back.clicked.connect(self.reject)
        head, foot = QHBoxLayout(), QHBoxLayout()
        for widget in (self.paper, self.order, self.ink, self.count):
            head.addWidget(widget)
        head.addStretch(1)
        foot.addWidget(back)
        foot.addStretch(1)
        foot.addWidget(self.save_button)
        foot.addWidget(self.print_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 16, 20, 16)
        column.addLayout(head)
        column.addWidget(self.sheets, 1)
        column.addWidget(self.said)
        column.addLayout(foot)
        self.refresh()

    @property
    def printed(self) -> Printed:
        """What would be printed, as it is chosen here."""
        size = self.paper.currentData()
        if self.what == "card":
            return card(self.stage, size=size, order=self.order.currentData())
        return book(self.stage, size=size, night=self.ink.currentData())

    def refresh(self) -> None:
        """Shows the sheets."""
        settings.keep_setting(PAPER, self.paper.currentData())
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
            sheet = label(style="sheet")
            sheet.setPixmap(picture)
            sheet.setAccessibleName(tr("sheet {0} of {1}", number + 1, document.pageCount()))
            column.addWidget(sheet, alignment=Qt.AlignmentFlag.AlignHCenter)
        inside.setAutoFillBackground(False)
        column.addStretch(1)
        self.sheets.setWidget(inside)
        count = document.pageCount()
        self.count.setText(tr("1 sheet") if count == 1 else tr("{0} sheets", count))
        document.close()

    def _print(self) -> None:
        printer = QPrinter(QPrinter.PrinterMode.HighResolution)
        printer.setPageLayout(self.printed.layout)
        printer.setDocName(self.printed.title)
        if QPrintDialog(printer, self).exec():
            self.printed.print_on(printer)
            self.said.setText(tr("Sent to {0}", printer.printerName() or printer.outputFileName()))

    def _save(self) -> None:
        ending = tr("changes") if self.what == "card" else tr("notes")
        name, _ = QFileDialog.getSaveFileName(self, tr("Save as PDF…"), f"{self.stage.project.name}-{ending}.pdf", "PDF (*.pdf)")
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
