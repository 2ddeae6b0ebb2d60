"""The change card as PDF: what to copy into the paper book, by page and line."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QMarginsF, QRectF, Qt
from PyQt6.QtGui import QPageLayout, QPageSize, QPainter, QPdfWriter, QPen

from mirkle.core.errors import MirkleError
from mirkle.desk.theme import PAPER, font
from mirkle.desk.words import CAUTIONS
from mirkle.session.stage import Stage

DPI = 96
_WRAP = int(Qt.TextFlag.TextWordWrap)


def write_card(stage: Stage, path: Path) -> None:
    """Writes the card on A5 pages; an existing file is replaced only once the new one is whole.

    Raises
    ------
    MirkleError
        The file can't be written.
    """
    fresh = path.with_name(path.name + ".part")
    try:
        fresh.touch()
    except OSError as error:
        raise MirkleError(
            f"it can't be written ({error.strerror})", mend="choose another folder", where=str(path)
        ) from None
    writer = QPdfWriter(str(fresh))
    writer.setResolution(DPI)
    writer.setPageLayout(
        QPageLayout(QPageSize(QPageSize.PageSizeId.A5), QPageLayout.Orientation.Portrait, QMarginsF(12, 12, 12, 12))
    )
    writer.setPageMargins(QMarginsF(12, 12, 12, 12), QPageLayout.Unit.Millimeter)
    writer.setTitle(f"{stage.project.name}: changes")
    writer.setCreator("Mirkle")
    painter = QPainter(writer)
    _Card(stage, painter, writer).draw()
    painter.end()
    fresh.replace(path)


class _Card:
    def __init__(self, stage: Stage, painter: QPainter, writer: QPdfWriter) -> None:
        self.stage, self.painter, self.writer = stage, painter, writer
        self.width, self.height = float(writer.width()), float(writer.height())
        self.y = 0.0

    def draw(self) -> None:
        changes = self.stage.edition.changes
        self._text(f"{self.stage.project.name}: changes to the notes", 20, bold=True)
        count = f"{len(changes)} change{'s' * (len(changes) != 1)}" if changes else "No changes"
        self._text(f"{count}. Copy them into the book by page and line, then read them aloud once.", 12)
        self.y += 8
        for change in changes:
            self._change(change.page, change.line, change.old, change.new)
        talk = [f for f in self.stage.findings if (d := self.stage.decisions.get(f.id)) and d.answer == "talk"]
        if talk:
            self.y += 8
            self._text("To talk over before the next pass", 14, bold=True)
            for finding in talk:
                note = self.stage.review.notes[finding.note]
                self._text(f"page {note.page}, line {note.line}: {finding.why}", 12)
        self._cautions()

    def _change(self, page: int, line: int, old: str, new: str) -> None:
        old, new = old.replace("\n", "  /  "), new.replace("\n", "  /  ")
        self._room(54)
        painter, top = self.painter, self.y
        painter.setPen(QPen(PAPER.colour("faint")))
        painter.setFont(font(12, family="hand"))
        painter.drawText(QRectF(0, top, 76, 22), int(Qt.AlignmentFlag.AlignVCenter), f"p {page}  line {line}")
        painter.setFont(font(15, family="hand"))
        box = QRectF(80, top, self.width - 80, 22)
        painter.drawText(box, int(Qt.AlignmentFlag.AlignVCenter), old)
        struck = min(painter.fontMetrics().horizontalAdvance(old), box.width())
        painter.drawLine(80, int(top + 12), int(80 + struck), int(top + 12))
        painter.setPen(QPen(PAPER.colour("ink")))
        painter.setFont(font(20, family="hand", bold=True))
        painter.drawText(
            QRectF(80, top + 21, self.width - 80, 28), int(Qt.AlignmentFlag.AlignVCenter), new or "strike it out"
        )
        painter.setPen(QPen(PAPER.colour("rule")))
        painter.drawLine(0, int(top + 52), int(self.width), int(top + 52))
        self.y += 54

    def _cautions(self) -> None:
        self.y += 10
        self._text("Before you trust this card", 13, bold=True)
        for caution in CAUTIONS:
            self._text(f"–  {caution}", 11)

    def _text(self, text: str, size: int, *, bold: bool = False) -> None:
        self.painter.setFont(font(size, family="hand", bold=bold))
        self.painter.setPen(QPen(PAPER.colour("ink")))
        bounds = self.painter.boundingRect(QRectF(0, 0, self.width, 2000), _WRAP, text)
        self._room(bounds.height())
        self.painter.drawText(QRectF(0, self.y, self.width, bounds.height()), _WRAP, text)
        self.y += bounds.height() + 4

    def _room(self, needed: float) -> None:
        if self.y + needed > self.height:
            self.writer.newPage()
            self.y = 0.0
