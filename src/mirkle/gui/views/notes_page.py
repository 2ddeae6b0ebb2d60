"""The page: the crew's own notes, in their own hand and order, with pencil marks."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QFont, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QAbstractScrollArea, QWidget

from mirkle.core.notebook.decisions import FindingAnswer, NoteChange
from mirkle.core.notes.model import Note
from mirkle.gui.shapes import ANSWER_MARKS, draw_mark, mark_name
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr
from mirkle.session.open_pass import OpenPass

ROW_PX, HEAD_PX, MARGIN_PX = 40, 34, 48
HAND_PX, LINE_PX, REMARK_PX = 22, 32, 14
_WRAP = int(Qt.TextFlag.TextWordWrap)


@dataclass(frozen=True)
class _Row:
    """A row of the page: its distance from the top of the first and its height, in pixels; ``note`` is ``None`` for a page's heading."""

    top: int
    height: int
    note: int | None
    page: int


class PageView(QAbstractScrollArea):
    """All pages, one under the other. Emits ``picked`` with a note's number and ``looked_at`` while it scrolls."""

    picked = pyqtSignal(int)
    looked_at = pyqtSignal(int)

    def __init__(self, stage: OpenPass, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage, self.theme = stage, theme
        self.setObjectName("card")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setAccessibleName(tr("The page of notes"))
        self.viewport().setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self._hand, self._pencil = font(HAND_PX, family="hand"), font(HAND_PX, family="hand", bold=True)
        # Rows are as high as their notes are long: nothing is cut and nothing made smaller.
        self.rows: list[_Row] = []
        self._row_of: dict[int, _Row] = {}
        self._quiet = False
        # What is said of a page beside its number, by the page: in full, and shorter for where there is less room.
        self.page_words: dict[int, tuple[str, ...]] = {}
        self.lay_out_rows()
        stage.book.changed.connect(self.lay_out_rows)
        self.verticalScrollBar().valueChanged.connect(self._scrolled)
        self.verticalScrollBar().setSingleStep(ROW_PX)
        self.show_chosen()

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self.theme = theme
        self.viewport().update()

    def show_review(self) -> None:
        """Takes in what the review says by now, such as where pages begin."""
        self.lay_out_rows()
        self.show_chosen()

    def show_chosen(self) -> None:
        """Scrolls so that the chosen note stands in the middle third, and says it to screen readers."""
        note = self.stage.notes[self.stage.note]
        self.setAccessibleDescription(
            tr("page {0}, line {1}: {2}", note.page, note.line, self.stage.book.edition.text_of(note) or tr("struck out"))
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
        return self._row_of[note].top if note in self._row_of else 0

    def middle_on_screen(self, note: int) -> int:
        """Pixels from the top of the widget to the middle of a note's row."""
        half = self._row_of[note].height // 2 if note in self._row_of else ROW_PX // 2
        return self.top_of(note) - self.verticalScrollBar().value() + half

    def center_on(self, note: int) -> None:
        """Scrolls a note to the middle without telling anybody."""
        self._quiet = True
        self.verticalScrollBar().setValue(self.top_of(note) - self.viewport().height() // 2)
        self._quiet = False

    def _scrolled(self, value: int) -> None:
        self.viewport().update()
        if not self._quiet:
            middle = value + self.viewport().height() // 2
            row = min((r for r in self.rows if r.note is not None), key=lambda r: abs(r.top - middle))
            self.looked_at.emit(row.note)

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.lay_out_rows()
        super().resizeEvent(event)
        self.show_chosen()

    def lay_out_rows(self) -> None:
        """Gives each note the height that its text takes at this width."""
        rows: list[_Row] = []
        top, page = 0, None
        for note in self.stage.notes:
            if note.page != page:
                page = note.page
                rows.append(_Row(top, HEAD_PX, None, page))
                top += HEAD_PX
            height = max(ROW_PX, int(sum(part.height() for _, part, *_ in self.parts_of(note))) + ROW_PX - LINE_PX)
            rows.append(_Row(top, height, note.index, page))
            top += height
        self.rows, self._row_of = rows, {r.note: r for r in rows if r.note is not None}
        bar = self.verticalScrollBar()
        bar.setPageStep(self.viewport().height())
        bar.setRange(0, max(0, top + 20 - self.viewport().height()))
        self.viewport().update()

    def parts_of(self, note: Note) -> list[tuple[str, QRectF, QFont, str]]:
        """The texts of a note's row under each other, whole and wrapped: words, place from the row's top left, type, and colour; what
        is crossed out has a line through it and is smaller than what stands instead."""
        width = max(self.viewport().width() - MARGIN_PX - 28.0, 60.0)
        mark = self.stage.book.edition.mark_on(note.index)
        body, gap = split_gap(note)
        if mark is None:
            room = width - (QFontMetricsF(self._hand).horizontalAdvance(gap) + 8.0 if gap else 0.0)
            called = (body, _place(body, self._hand, room, 0.0), self._hand, "ink")
            return [called, *self._remarks_of(note, body, room, called[1].height())]
        struck = font(HAND_PX - 3, family="hand")
        struck.setStrikeOut(True)
        old = f"{body} {gap}".strip()
        first = _place(old, struck, width, 0.0)
        new = "  /  ".join(mark.text.split("\n")) if mark.first_note == note.index else ""
        if not new:
            return [(old, first, struck, "faint")]
        taken = QFontMetricsF(struck).horizontalAdvance(old)
        beside = QFontMetricsF(self._pencil).horizontalAdvance(new)
        if taken + 14 + beside <= width:
            right = QRectF(taken + 14, 0.0, beside + 2, LINE_PX)
            return [(old, QRectF(0.0, 0.0, taken + 2, 0.0), struck, "faint"), (new, right, self._pencil, "pencil")]
        return [(old, first, struck, "faint"), (new, _place(new, self._pencil, width, first.height()), self._pencil, "pencil")]

    def _remarks_of(self, note: Note, body: str, room: float, below: float) -> list[tuple[str, QRectF, QFont, str]]:
        """A note's remarks, smaller and lighter: behind what is called where there is room, else under it."""
        if not note.remarks:
            return []
        words, face = "  ".join(note.remarks), font(REMARK_PX, family="hand")
        taken, wide = (QFontMetricsF(self._hand).horizontalAdvance(body) + 18.0, QFontMetricsF(face).horizontalAdvance(words))
        if below <= LINE_PX and taken + wide <= room:
            return [(words, QRectF(taken, LINE_PX - 1.4 * REMARK_PX, wide + 2, 0.0), face, "faint")]
        high = QFontMetricsF(face).boundingRect(QRectF(0, 0, room, 4000), _WRAP, words).height()
        return [(words, QRectF(0.0, below, room, high), face, "faint")]

    def note_at(self, y: float) -> int | None:
        """The note at a height of the widget, pixels; ``None`` where there is none."""
        at = y + self.verticalScrollBar().value()
        return next((r.note for r in self.rows if r.note is not None and r.top <= at < r.top + r.height), None)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        note = self.note_at(event.position().y())
        if note is not None:
            self.picked.emit(note)

    def step(self, by: int) -> None:
        """Picks the note that lies that many further on."""
        self.picked.emit(max(0, min(self.stage.note + by, len(self.stage.notes) - 1)))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        # Its keys are the page's commands: it would scroll with them.
        event.ignore()

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: ARG002
        painter = QPainter(self.viewport())
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        width, height = self.viewport().width(), self.viewport().height()
        painter.fillRect(self.viewport().rect(), self.theme.colour("paper"))
        offset = self.verticalScrollBar().value()
        decisions = self.stage.book.decisions
        for row in self.rows:
            top = row.top - offset
            if top > height or top + row.height < 0:
                continue
            if row.note is None:
                self._paint_head(painter, row, top, width)
            else:
                self._paint_note(painter, self.stage.notes[row.note], row, top, width, decisions)
        painter.setPen(QPen(self.theme.colour("margin"), 1.5))
        painter.drawLine(MARGIN_PX, 0, MARGIN_PX, height)
        painter.end()

    def marks_of(self, note: int, decisions: dict[str, NoteChange | FindingAnswer]) -> list[str]:
        """The marks beside a note, two at most: what was measured, and an eye with its answer for what was seen on the video."""
        found = [mark_name(f, decisions[f.id].answer if f.id in decisions else None) for f in self.stage.findings_on(note)]
        if any(a.seen and a.notes is not None and a.notes.first == note for a in self.stage.book.road.additions):
            found = ["hazard", *found]
        if self.stage.condition_on_note(note) is not None:
            found = ["condition", *found]
        seen = self.stage.book.seen(note)
        if seen is None:
            return found[:2]
        return [found[0], "eye"] if found else ["eye", ANSWER_MARKS[seen.answer]]

    def _paint_head(self, painter: QPainter, row: _Row, top: int, width: int) -> None:
        painter.setFont(font(13))
        painter.setPen(self.theme.colour("faint"))
        words, room = tr("page {0}", row.page), width - MARGIN_PX - 22
        said = (f"{words}  ·  {more}" for more in self.page_words.get(row.page, ()))
        shown = next((w for w in said if painter.fontMetrics().horizontalAdvance(w) <= room), words)
        painter.drawText(QRectF(MARGIN_PX + 14, top, width, HEAD_PX), Qt.AlignmentFlag.AlignVCenter, shown)

    def _paint_note(
        self, painter: QPainter, note: Note, row: _Row, top: int, width: int, decisions: dict[str, NoteChange | FindingAnswer]
    ) -> None:
        if note.index == self.stage.note:
            painter.fillRect(QRectF(MARGIN_PX, top, width, row.height), self.theme.colour("chosen"))
        painter.setPen(QPen(self.theme.colour("rule"), 1))
        painter.drawLine(0, top + row.height, width, top + row.height)
        names = self.marks_of(note.index, decisions)
        for place, name in enumerate(names):
            x = MARGIN_PX / 2 if len(names) == 1 else MARGIN_PX * (0.28 + 0.44 * place)
            draw_mark(painter, self.theme, name, QPointF(x, top + ROW_PX / 2), 17 if len(names) == 1 else 14)
        left, above = MARGIN_PX + 14.0, top + 0.5 * (ROW_PX - LINE_PX)
        for words, where, face, colour in self.parts_of(note):
            painter.setFont(face)
            painter.setPen(self.theme.colour(colour))
            painter.drawText(where.translated(left, above).adjusted(0, 0, 0, LINE_PX), _WRAP, words)
        _, gap = split_gap(note)
        if gap and self.stage.book.edition.mark_on(note.index) is None:
            painter.setFont(self._hand)
            painter.setPen(self.theme.colour("ink"))
            wide = QFontMetricsF(self._hand).horizontalAdvance(gap)
            painter.drawText(QRectF(width - 14.0 - wide, above, wide + 2, LINE_PX + 6), Qt.AlignmentFlag.AlignLeft, gap)


def _place(words: str, face: QFont, width: float, top: float) -> QRectF:
    """Where a text stands that is wrapped to a width."""
    bounds = QFontMetricsF(face).boundingRect(QRectF(0, 0, width, 4000), _WRAP, words)
    return QRectF(0.0, top, width, max(bounds.height(), LINE_PX))


def split_gap(note: Note) -> tuple[str, str]:
    """A note's text without its distance or link word, and that, if it stands at the end."""
    span = note.gap_span
    if span is None or span.end != note.span.end or span.start <= note.span.start:
        return note.called_text, ""
    gap = note.text[span.start - note.span.start :]
    return note.called_text.removesuffix(gap).rstrip(), gap
