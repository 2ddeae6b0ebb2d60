"""Sheets of paper: what is printed is drawn on them from the top, as PDF or on a printer, one page on each or two beside each other.

Every text stands whole, wrapped where it is long and never made smaller; no sheet says anything by a colour alone, so that red light
at night takes nothing away.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Literal

from PyQt6.QtCore import QBuffer, QIODevice, QMarginsF, QPointF, QRectF, Qt
from PyQt6.QtGui import QFont, QPagedPaintDevice, QPageLayout, QPageSize, QPainter, QPdfWriter, QPen
from PyQt6.QtPrintSupport import QPrinter

from mirkle.core.cautions import CAUTIONS
from mirkle.core.messages import gettext_noop
from mirkle.files.atomic_write import write_whole
from mirkle.gui.theme import PAPER, Theme, font
from mirkle.gui.translation import tr

DPI = 96
# A larger sheet has larger type, and so has one for the night; a smaller one has fewer lines, and no smaller type.
SIZES = {"A6": (QPageSize.PageSizeId.A6, 1.0), "A5": (QPageSize.PageSizeId.A5, 1.0), "A4": (QPageSize.PageSizeId.A4, 1.4)}
# Two pages beside each other fill a sheet of the next size, lying; it is cut in the middle.
TWICE = {"A6": QPageSize.PageSizeId.A5, "A5": QPageSize.PageSizeId.A4, "A4": QPageSize.PageSizeId.A3}
AT_NIGHT = 1.15
# Where the thumb holds the book nothing is printed (96ths of an inch; 19 mm, # common practice).
THUMB_PX = 72.0
Thumb = Literal["", "right", "left"]
THUMBS: dict[Thumb, str] = {
    "": gettext_noop("no thumb margin"),
    "right": gettext_noop("thumb at the right"),
    "left": gettext_noop("thumb at the left"),
}
# A pencil's work: 14 points are 19 pixels here; what replaces a note is never smaller than it.
NOTE_PX, NEW_PX, WORDS_PX, SMALL_PX = 19, 22, 13, 11
_WRAP = int(Qt.TextFlag.TextWordWrap)
# Black on white is read in full sun and under red light.
INK = Theme(**{**PAPER.__dict__, "paper": "#ffffff", "ink": "#000000", "faint": "#444444", "pencil": "#000000", "rule": "#bbbbbb"})


@dataclass(frozen=True)
class PaperFormat:
    """The ``size`` of a page (:data:`SIZES`), how much ``larger`` its type is, on which side the ``thumb`` holds it, and whether it is
    printed ``two_up``."""

    size: str = "A5"
    larger: float = 1.0
    thumb: Thumb = ""
    two_up: bool = False


@dataclass(frozen=True)
class LaidOut:
    """A text with its type, laid out to a width."""

    words: str
    font: QFont
    height: float


class Sheet:
    """A page being filled from the top; a new one begins where there is no more room. ``of`` is how many there are, 0 while that is
    counted."""

    MARGIN, FOOT, EDGE = 36.0, 20.0, 8.0

    def __init__(self, painter: QPainter, writer: QPagedPaintDevice, scale: float, paper: PaperFormat, foot: str, of: int) -> None:
        self.painter, self.writer, self._foot, self._of = painter, writer, foot, of
        # How far the page beside the first begins from its left edge; 0 where there is one page on a sheet.
        self._beside = 0.5 * writer.width() / scale if paper.two_up else 0.0
        self._whole = QRectF(0, 0, self._beside or writer.width() / scale, writer.height() / scale)
        thumb = THUMB_PX if paper.thumb else 0.0
        self.left = self.MARGIN + (thumb if paper.thumb == "left" else 0.0)
        self.width = self._whole.width() - 2 * self.MARGIN - thumb
        self.bottom = self._whole.height() - self.MARGIN - self.FOOT
        self.number = 1
        self.y = self.MARGIN

    def new_page(self) -> None:
        """Goes on at the top of a new page."""
        self.finish()
        is_right = self._beside > 0 and self.number % 2 == 1
        if is_right:
            self._draw_cut()
        else:
            self.writer.newPage()
        self.painter.translate(self._beside if is_right else -self._beside, 0.0)
        self.number += 1
        self.y = self.MARGIN

    def _draw_cut(self) -> None:
        """A thin broken line where a sheet with two pages is cut."""
        self.painter.setPen(QPen(INK.colour("rule"), 1.0, Qt.PenStyle.DashLine))
        self.painter.drawLine(QPointF(self._beside, 0.0), QPointF(self._beside, self._whole.height()))

    def finish(self) -> None:
        """Says at the foot of the page which one it is."""
        said = tr("{0} · sheet {1} of {2}", self._foot, self.number, self._of)
        foot = self.laid_out(said, SMALL_PX, self.width)
        # On a narrow sheet it takes several lines: they all stand on it.
        top = self._whole.height() - max(self.MARGIN, foot.height + self.EDGE)
        self._draw(foot, 0.0, top, self.width, "faint")

    def room(self, needed: float) -> None:
        """Starts a new page where less than this height is left, unless no page has it."""
        if self.y + needed > self.bottom and self.y > self.MARGIN:
            self.new_page()

    def laid_out(self, words: str, size: int, width: float, *, bold: bool = False, struck: bool = False) -> LaidOut:
        """A text as it stands in a width, with every word of it."""
        face = font(size, family="hand", bold=bold)
        face.setStrikeOut(struck)
        self.painter.setFont(face)
        bounds = self.painter.boundingRect(QRectF(0, 0, width, 4000), _WRAP, words)
        return LaidOut(words, face, bounds.height())

    def _draw(self, text: LaidOut, left: float, top: float, width: float, colour: str) -> None:
        self.painter.setFont(text.font)
        self.painter.setPen(QPen(INK.colour(colour)))
        self.painter.drawText(QRectF(self.left + left, top, width, text.height + 2), _WRAP, text.words)

    def text(self, words: str, size: int, *, bold: bool = False, colour: str = "ink", behind: float = 0.0) -> None:
        """A paragraph over the whole width; ``behind``: height that has to be left after it on its page, below a heading."""
        laid = self.laid_out(words, size, self.width, bold=bold)
        self.room(laid.height + behind)
        self._draw(laid, 0.0, self.y, self.width, colour)
        self.y += laid.height + 2

    def columns(self, parts: list[tuple[LaidOut, float, float, str]], *, rule: bool = True) -> None:
        """Texts side by side at (left, width), in colours; the tallest tells how high they are."""
        height = max(part.height for part, *_ in parts)
        self.room(height + 6)
        for part, left, width, colour in parts:
            self._draw(part, left, self.y, width, colour)
        self.y += height + 5
        if rule:
            self.rule()

    def box(self, left: float, size: float) -> None:
        """An empty box to tick at the present height."""
        self.painter.setPen(QPen(INK.colour("ink"), 1.2))
        self.painter.setBrush(Qt.BrushStyle.NoBrush)
        self.painter.drawRect(QRectF(self.left + left, self.y + 4, size, size))

    def bar(self, height: float, wide: float = 4.0) -> None:
        """A bar in the margin at the present height."""
        self.painter.fillRect(QRectF(self.left - 12.0, self.y, wide, height), INK.colour("ink"))

    def rule(self) -> None:
        """A thin line across at the present height."""
        self.painter.setPen(QPen(INK.colour("rule")))
        self.painter.drawLine(QPointF(self.left, self.y), QPointF(self.left + self.width, self.y))
        self.y += 3

    def cautions(self) -> None:
        """The cautions in full, where a whole book is taken along."""
        self.y += 4
        self.text(tr("Before you trust this"), SMALL_PX, bold=True, behind=30.0)
        for caution in CAUTIONS:
            self.text(f"–  {tr(caution)}", SMALL_PX)


@dataclass(frozen=True)
class Printed:
    """Something that can be printed: its title, what stands at the foot of every page, and what draws it."""

    title: str
    foot: str
    paper: PaperFormat
    draw: Callable[[Sheet], None]

    def pdf(self) -> bytes:
        """As PDF: drawn twice, first to count the pages."""
        return self._drawn(self.pages)[1]

    @property
    def layout(self) -> QPageLayout:
        """The sheet of paper."""
        if self.paper.two_up:
            return QPageLayout(QPageSize(TWICE[self.paper.size]), QPageLayout.Orientation.Landscape, QMarginsF(0, 0, 0, 0))
        return QPageLayout(QPageSize(SIZES[self.paper.size][0]), QPageLayout.Orientation.Portrait, QMarginsF(0, 0, 0, 0))

    def write(self, path: Path) -> None:
        """Writes it as PDF.

        Raises
        ------
        MirkleError
            The file can't be written; what stood there before is untouched.
        """
        write_whole(path, self.pdf())

    def print_on(self, printer: QPrinter) -> None:
        """Prints it."""
        # How many pages there are is the same on any device: text is laid out at one size.
        self._draw_on(printer, printer.resolution() / DPI, self.pages)

    @property
    def pages(self) -> int:
        """How many pages it takes."""
        return self._drawn(0)[0]

    def _drawn(self, pages: int) -> tuple[int, bytes]:
        """Draws once, as if there were this many pages; returns how many it took, and the PDF."""
        buffer = QBuffer()
        buffer.open(QIODevice.OpenModeFlag.WriteOnly)
        writer = QPdfWriter(buffer)
        writer.setResolution(DPI)
        writer.setPageLayout(self.layout)
        writer.setTitle(self.title)
        writer.setCreator("Mirkle")
        count = self._draw_on(writer, 1.0, pages)
        return count, buffer.data().data()

    def _draw_on(self, device: QPagedPaintDevice, dots: float, pages: int) -> int:
        """Draws on a device with a number of dots for each of ours; returns how many pages it took."""
        scale = dots * SIZES[self.paper.size][1] * self.paper.larger
        painter = QPainter(device)
        painter.scale(scale, scale)
        sheet = Sheet(painter, device, scale, self.paper, self.foot, pages)
        self.draw(sheet)
        sheet.finish()
        painter.end()
        return sheet.number
