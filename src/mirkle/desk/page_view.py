"""The page: the crew's own notes, in their own hand and order, with pencil marks."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QAbstractScrollArea, QWidget

from mirkle.core.notes.model import Note
from mirkle.desk.shapes import draw_mark, mark_name
from mirkle.desk.speak import say
from mirkle.desk.theme import Theme, font
from mirkle.session.stage import Stage

ROW_PX, HEAD_PX, MARGIN_PX = 40, 34, 48
HAND_PX = 22


@dataclass(frozen=True)
class _Row:
    top: int
    note: int | None
    page: int


class PageView(QAbstractScrollArea):
    """All pages, one under the other. Emits ``picked`` with a note's number and ``looked_at`` while it scrolls."""

    picked = pyqtSignal(int)
    looked_at = pyqtSignal(int)

    def __init__(self, stage: Stage, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage, self.theme = stage, theme
        self.setObjectName("card")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName(say("The page of notes"))
        self.viewport().setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self._hand, self._pencil = font(HAND_PX, family="hand"), font(HAND_PX, family="hand", bold=True)
        self._rows = _rows(stage.review.notes)
        self._quiet = False
        self.verticalScrollBar().valueChanged.connect(self._scrolled)
        self.verticalScrollBar().setSingleStep(ROW_PX)
        self.show_chosen()

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self.theme = theme
        self.viewport().update()

    def show_chosen(self) -> None:
        """Scrolls so that the chosen note stands in the middle third, and says it to screen readers."""
        note = self.stage.review.notes[self.stage.note]
        self.setAccessibleDescription(
            say(
                "page {0}, line {1}: {2}",
                note.page,
                note.line,
                self.stage.book.edition.text_of(note) or say("struck out"),
            )
        )
        top = self.top_of(self.stage.note)
        bar, height = self.verticalScrollBar(), self.viewport().height()
        if not bar.value() + height / 4 <= top <= bar.value() + height * 0.7:
            self._quiet = True
            bar.setValue(int(top - height * 0.42))
            self._quiet = False
        self.viewport().update()

    def top_of(self, note: int) -> int:
        """Pixels from the top of the first page to a note's row."""
        return next((r.top for r in self._rows if r.note == note), 0)

    def middle_on_screen(self, note: int) -> int:
        """Pixels from the top of the widget to the middle of a note's row."""
        return self.top_of(note) - self.verticalScrollBar().value() + ROW_PX // 2

    def center_on(self, note: int) -> None:
        """Scrolls a note to the middle without telling anybody."""
        self._quiet = True
        self.verticalScrollBar().setValue(self.top_of(note) - self.viewport().height() // 2)
        self._quiet = False

    def _scrolled(self, value: int) -> None:
        self.viewport().update()
        if not self._quiet:
            middle = value + self.viewport().height() // 2
            row = min((r for r in self._rows if r.note is not None), key=lambda r: abs(r.top - middle))
            self.looked_at.emit(row.note)

    def resizeEvent(self, event: QResizeEvent) -> None:
        bar = self.verticalScrollBar()
        bar.setPageStep(self.viewport().height())
        bar.setRange(0, max(0, self._rows[-1].top + ROW_PX + 20 - self.viewport().height()))
        super().resizeEvent(event)
        self.show_chosen()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        at = event.position().y() + self.verticalScrollBar().value()
        for row in self._rows:
            if row.note is not None and row.top <= at < row.top + ROW_PX:
                self.picked.emit(row.note)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1, Qt.Key.Key_PageDown: 12, Qt.Key.Key_PageUp: -12}.get(event.key())
        if step is None:
            event.ignore()
        else:
            self.picked.emit(max(0, min(self.stage.note + step, len(self.stage.review.notes) - 1)))

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: ARG002
        painter = QPainter(self.viewport())
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        width, height = self.viewport().width(), self.viewport().height()
        painter.fillRect(self.viewport().rect(), self.theme.colour("paper"))
        offset = self.verticalScrollBar().value()
        decisions = self.stage.book.decisions
        for row in self._rows:
            top = row.top - offset
            if top > height or top + ROW_PX < 0:
                continue
            if row.note is None:
                self._paint_head(painter, row, top, width)
            else:
                self._paint_note(painter, self.stage.review.notes[row.note], top, width, decisions)
        painter.setPen(QPen(self.theme.colour("margin"), 1.5))
        painter.drawLine(MARGIN_PX, 0, MARGIN_PX, height)
        painter.end()

    def _paint_head(self, painter: QPainter, row: _Row, top: int, width: int) -> None:
        painter.setFont(font(13))
        painter.setPen(self.theme.colour("faint"))
        painter.drawText(
            QRectF(MARGIN_PX + 14, top, width, HEAD_PX), Qt.AlignmentFlag.AlignVCenter, say("page {0}", row.page)
        )

    def _paint_note(self, painter: QPainter, note: Note, top: int, width: int, decisions: dict) -> None:  # type: ignore[type-arg]
        if note.index == self.stage.note:
            painter.fillRect(QRectF(MARGIN_PX, top, width, ROW_PX), self.theme.colour("chosen"))
        painter.setPen(QPen(self.theme.colour("rule"), 1))
        painter.drawLine(0, top + ROW_PX, width, top + ROW_PX)
        found = self.stage.findings_on(note.index)
        for place, finding in enumerate(found[:2]):
            decision = decisions.get(finding.id)
            name = mark_name(finding, decision.answer if decision else None)
            x = MARGIN_PX / 2 if len(found) == 1 else MARGIN_PX * (0.28 + 0.44 * place)
            draw_mark(painter, self.theme, name, QPointF(x, top + ROW_PX / 2), 17 if len(found) == 1 else 14)
        self._paint_text(painter, note, top, width)

    def _paint_text(self, painter: QPainter, note: Note, top: int, width: int) -> None:
        left, right = MARGIN_PX + 14.0, width - 14.0
        baseline = top + ROW_PX * 0.68
        mark = self.stage.book.edition.mark_on(note.index)
        body, gap = split_gap(note)
        painter.setFont(self._hand)
        metrics = QFontMetricsF(self._hand)
        if mark is None:
            painter.setPen(self.theme.colour("ink"))
            gap_width = metrics.horizontalAdvance(gap)
            painter.drawText(
                QPointF(left, baseline),
                metrics.elidedText(body, Qt.TextElideMode.ElideRight, right - left - gap_width - 8),
            )
            painter.drawText(QPointF(right - gap_width, baseline), gap)
            return
        new = mark.text if mark.first_note == note.index else ""
        self._paint_struck(painter, f"{body} {gap}".strip(), new, left, right, baseline)

    def _paint_struck(self, painter: QPainter, old: str, new: str, left: float, right: float, baseline: float) -> None:
        bold = QFontMetricsF(self._pencil)
        new = new.replace("\n", "  /  ")
        size = HAND_PX
        old_font = font(size - 3, family="hand")
        old_width = QFontMetricsF(old_font).horizontalAdvance(old)
        pencil = self._pencil
        while size > 14 and old_width + 14 + bold.horizontalAdvance(new) > right - left:
            size -= 1
            old_font, pencil = font(size - 3, family="hand"), font(size, family="hand", bold=True)
            old_width, bold = QFontMetricsF(old_font).horizontalAdvance(old), QFontMetricsF(pencil)
        painter.setFont(old_font)
        painter.setPen(self.theme.colour("faint"))
        painter.drawText(QPointF(left, baseline), old)
        painter.setPen(QPen(self.theme.colour("pencil"), 2))
        painter.drawLine(
            QPointF(left - 2, baseline - size * 0.3), QPointF(left + old_width + 2, baseline - size * 0.36)
        )
        painter.setFont(pencil)
        painter.drawText(QPointF(left + old_width + 14, baseline), new)


def split_gap(note: Note) -> tuple[str, str]:
    """A note's text without its distance or link word, and that, if it stands at the end."""
    span = note.gap_span
    if span is None or span.end != note.span.end or span.start <= note.span.start:
        return note.text, ""
    cut = span.start - note.span.start
    return note.text[:cut].rstrip(), note.text[cut:]


def _rows(notes: tuple[Note, ...]) -> list[_Row]:
    rows: list[_Row] = []
    top, page = 0, None
    for note in notes:
        if note.page != page:
            page = note.page
            rows.append(_Row(top, None, page))
            top += HEAD_PX
        rows.append(_Row(top, note.index, page))
        top += ROW_PX
    return rows
