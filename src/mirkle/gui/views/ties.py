"""Words, notes and road side by side along the stage, with the ties between them."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from mirkle.core.motion.bends import Bend
from mirkle.gui.shapes import polygon
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr
from mirkle.gui.views.down_the_road import HEAD_PX, DownTheRoad
from mirkle.gui.views.voice_lane import VOICE_PX, VoiceLane
from mirkle.session.pairing_edits import SURE, said_at_m
from mirkle.session.reviewed_pass import ReviewedPass

METRES_PER_PIXEL = 1.1
ROW_PX = 24
_WRAP, _MIDDLE = int(Qt.TextFlag.TextWordWrap), int(Qt.AlignmentFlag.AlignVCenter)
# A bend of this radius fills the road's column; gentler ones less, by the square root of their curvature.
FULL_RADIUS_M = 12.0


class TiesView(DownTheRoad):
    """A note dragged onto a bend emits ``moved`` with note and metres; a call dragged there ``call_moved``.

    ``picked`` carries a note that was clicked.
    """

    picked = pyqtSignal(int)
    moved = pyqtSignal(int, float)
    call_moved = pyqtSignal(int, float)
    call_put = pyqtSignal(int, float)

    def __init__(self, stage: ReviewedPass, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(stage, theme, METRES_PER_PIXEL, parent)
        self._heights: dict[tuple[str, int], float] = {}
        self._drag: tuple[str, int, QPointF] | None = None
        self.setMinimumWidth(440)
        self.setMouseTracking(True)
        self.setAccessibleName(tr("Words, notes and road with their ties"))
        self.show_review()

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self.theme = theme
        self.update()

    def show_review(self) -> None:
        """Takes in what the review says by now."""
        review = self.stage.review
        self._voice = VoiceLane(self.stage)
        self._ties = {t.note: t for t in review.lineup.ties}
        self._pins = {p.note for p in self.stage.overrides.pins}
        self.called_m = {n.index: said_at_m(self.stage, n.index) for n in review.notes if n.is_corner}
        self._places = {t.note: self.stage.review.positions.shown_m(t.note) for t in self.stage.review.lineup.ties}
        self.show_chosen()

    def show_chosen(self) -> None:
        """Brings the chosen note, or the corner before it, to the middle."""
        note = max((n for n in self._places if n <= self.stage.note), default=min(self._places, default=0))
        if self._places:
            self.middle_m = self._places[note]
        tie = self._ties.get(note)
        on = tr("on the bend at {0:.2f} km", tie.bend.apex_m / 1000) if tie and tie.bend else tr("on no bend")
        self.setAccessibleDescription(f"{self.stage.review.notes[note].text}, {on}")
        self.update()

    # Three columns

    @property
    def called_right(self) -> float:
        return self.width() * 0.30

    @property
    def _notes_left(self) -> float:
        # Where nothing was said, its column is the notes'.
        return self.width() * 0.37 if any(m is not None for m in self.called_m.values()) else 56.0

    @property
    def notes_right(self) -> float:
        return self.width() * 0.66

    @property
    def road_middle(self) -> float:
        return self.width() * 0.84

    def row_y(self) -> dict[int, float]:
        """Pixels down to the middle of each visible note's row: at its place, pushed apart where notes are close."""
        rows: dict[int, float] = {}
        shown = [n for n, m in self._places.items() if -60 < self.y_of(m) < self.height() + 60]
        wanted = np.array([self.y_of(self._places[n]) for n in shown])
        if not len(wanted):
            return rows
        # The nearest rows that don't touch: pooling of neighbours that would overlap, each as high as its text.
        high = np.array([self.height_of(note) for note in shown])
        shift = np.concatenate([[0.0], np.cumsum(0.5 * (high[1:] + high[:-1]))])
        for note, y in zip(shown, _evened(wanted - shift) + shift, strict=True):
            rows[note] = float(y)
        return rows

    def height_of(self, note: int) -> float:
        """Pixels that a note takes, whole and wrapped; as bold as when it is chosen, so that nothing jumps."""
        key = self.words_of(note), int(self.notes_right - self._notes_left - 12)
        if key not in self._heights:
            metrics = QFontMetrics(font(16, family="hand", bold=True))
            bounds = metrics.boundingRect(0, 0, key[1], 1000, _WRAP, key[0])
            self._heights[key] = max(float(ROW_PX), bounds.height() + 2.0)
        return self._heights[key]

    def words_of(self, note: int) -> str:
        """A note with its mark: pinned, or unsure."""
        tie = self._ties[note]
        mark = "◉ " if note in self._pins else "? " if tie.bend is None or tie.sure < SURE else ""
        return mark + self.stage.review.notes[note].text

    def mousePressEvent(self, event: QMouseEvent) -> None:
        at = event.position()
        rows = self.row_y()
        near = min(rows, key=lambda n: abs(rows[n] - at.y()), default=None)
        if near is None:
            return
        if at.x() < self.called_right:
            heard = {n: m for n, m in self.called_m.items() if m is not None and n in rows}
            near = min(heard, key=lambda n: abs(self.y_of(heard[n]) - at.y()), default=None)
            if near is not None and abs(self.y_of(heard[near]) - at.y()) < ROW_PX:
                self._drag = ("call", near, at)
        elif abs(rows[near] - at.y()) < ROW_PX:
            self._drag = ("note", near, at)
        if self._drag is not None:
            self.picked.emit(self._drag[1])
            self._drag = (self._drag[0], self._drag[1], at)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._drag is not None:
            self._drag = (*self._drag[:2], event.position())
            self.update()
        over_road = event.position().x() > self.notes_right
        self.setCursor(Qt.CursorShape.ArrowCursor if over_road else Qt.CursorShape.OpenHandCursor)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        drag, self._drag = self._drag, None
        self.update()
        if drag is None:
            return
        metres = self.metres_at(event.position().y())
        if drag[0] == "call" and self._voice.is_there and event.position().x() < self.called_right:
            if abs(event.position().y() - drag[2].y()) > 3 or abs(metres - (self.called_m.get(drag[1]) or metres)) > 8:
                self.call_put.emit(drag[1], metres)
            return
        if event.position().x() < self.notes_right:
            return
        (self.moved if drag[0] == "note" else self.call_moved).emit(drag[1], metres)

    # Painting

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: ARG002
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), self.theme.colour("paper"))
        self._paint_head(painter)
        painter.setClipRect(QRectF(0, HEAD_PX, self.width(), self.height() - HEAD_PX))
        self.paint_kilometres(painter, 6.0)
        self._paint_road(painter)
        self._voice.paint(painter, self.theme, self.y_of, self.shown_m)
        rows = self.row_y()
        for note, y in rows.items():
            self._paint_tie(painter, note, y)
        for note, y in rows.items():
            self._paint_note(painter, note, y)
            self._paint_call(painter, note, y)
        if self._drag is not None:
            self._paint_drag(painter, rows)
        painter.end()

    def _paint_head(self, painter: QPainter) -> None:
        painter.setFont(font(13))
        painter.setPen(self.theme.colour("faint"))
        painter.drawText(QPointF(52.0, 20), tr("said, and where the car was"))
        box = QRectF(self._notes_left, 0, self.notes_right - self._notes_left - 12, HEAD_PX)
        painter.drawText(box, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, tr("written"))
        painter.drawText(QRectF(self.road_middle - 40, 0, 80, HEAD_PX), Qt.AlignmentFlag.AlignCenter, tr("met"))

    def _paint_road(self, painter: QPainter) -> None:
        """The road as its curvature: to the left where it turns left, as wide as it is tight."""
        profile = self.stage.review.profile
        first = int(np.clip(self.metres_at(HEAD_PX), 0, len(profile.distance_m) - 2))
        last = int(np.clip(self.metres_at(self.height()), first + 1, len(profile.distance_m) - 1))
        at = np.arange(first, last + 1)
        bent = profile.curvature_per_m[at]
        reach = (self.width() - self.road_middle - 10) * np.sqrt(np.minimum(np.abs(bent) * FULL_RADIUS_M, 1.0))
        x = self.road_middle - np.sign(bent) * reach
        y = self.y_of(at.astype(float))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self.theme.colour("road"))
        ends = np.full(1, self.road_middle)
        painter.drawPolygon(polygon(np.concatenate([ends, x, ends]), np.concatenate([y[:1], y, y[-1:]])))
        painter.setPen(QPen(self.theme.colour("ink"), 2))
        painter.drawLine(QPointF(self.road_middle, y[0]), QPointF(self.road_middle, y[-1]))
        self.paint_unmeasured(painter, self.notes_right + 8)
        for bend in (u.bend for u in self.stage.review.lineup.uncalled):
            if bend.to_m > first and bend.from_m < last and bend.turn_deg > 14.0:
                self._paint_uncalled(painter, bend)

    def _paint_uncalled(self, painter: QPainter, bend: Bend) -> None:
        """A bend that no note claims: bracketed on the free side, and said so."""
        top, bottom = self.y_of(bend.from_m), self.y_of(bend.to_m)
        side = -1 if bend.side > 0 else 1
        x = self.road_middle - side * 10
        painter.setPen(QPen(self.theme.colour("span"), 2, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(x, top), QPointF(x, bottom))
        painter.setFont(font(13))
        painter.setPen(self.theme.colour("span"))
        box = QRectF(x - 76, top, 70, bottom - top) if side > 0 else QRectF(x + 6, top, 70, bottom - top)
        align = Qt.AlignmentFlag.AlignRight if side > 0 else Qt.AlignmentFlag.AlignLeft
        painter.drawText(box, align | Qt.AlignmentFlag.AlignVCenter, tr("no note"))

    def _paint_tie(self, painter: QPainter, note: int, y: float) -> None:
        tie = self._ties[note]
        if tie.bend is None:
            return
        chosen = note == self.stage.note
        unsure = tie.sure < SURE and note not in self._pins
        pen = QPen(self.theme.colour("span" if unsure else "pencil" if chosen else "road"), 2.4 if chosen else 1.4)
        if unsure:
            pen.setStyle(Qt.PenStyle.DashLine)
        painter.setPen(pen)
        end = QPointF(self.road_middle - tie.bend.side * 10, self.y_of(tie.bend.apex_m))
        self._curve(painter, QPointF(self.notes_right - 6, y), end)

    def _curve(self, painter: QPainter, start: QPointF, end: QPointF) -> None:
        path = QPainterPath(start)
        reach = QPointF((end.x() - start.x()) * 0.5, 0)
        path.cubicTo(start + reach, end - reach, end)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(path)

    def _paint_note(self, painter: QPainter, note: int, y: float) -> None:
        tie, high = self._ties[note], self.height_of(note)
        box = QRectF(self._notes_left, y - high / 2 + 1, self.notes_right - self._notes_left - 8, high - 2)
        chosen = note == self.stage.note
        if chosen:
            painter.fillRect(box.adjusted(-6, 0, 0, 0), self.theme.colour("chosen"))
        painter.setFont(font(16, family="hand", bold=chosen))
        painter.setPen(self.theme.colour("ink" if tie.bend is not None else "span"))
        painter.drawText(box, _WRAP | _MIDDLE | int(Qt.AlignmentFlag.AlignRight), self.words_of(note))

    def _paint_call(self, painter: QPainter, note: int, y: float) -> None:
        heard, said = self.called_m.get(note), self.stage.review.calls[note].said
        if heard is None or said is None:
            return
        at = self.y_of(heard)
        if not HEAD_PX - 20 < at < self.height() + 20:
            return
        chosen = note == self.stage.note
        painter.setFont(font(13, bold=chosen))
        painter.setPen(self.theme.colour("ink" if chosen else "faint"))
        left = VOICE_PX + 12 if self._voice.is_there else 50
        words, room = said.text, QRectF(left, at - 60, self.called_right - left - 8, 120)
        whole = painter.boundingRect(room, _WRAP | _MIDDLE, words)
        painter.drawText(whole, _WRAP | _MIDDLE, words)
        painter.setPen(QPen(self.theme.colour("pencil" if chosen else "rule"), 2 if chosen else 1.2))
        width = whole.width()
        self._curve(painter, QPointF(left + 4 + width + 4, at), QPointF(self._notes_left - 8, y))

    def _paint_drag(self, painter: QPainter, rows: dict[int, float]) -> None:
        assert self._drag is not None
        kind, note, at = self._drag
        painter.setPen(QPen(self.theme.colour("pencil"), 2.4, Qt.PenStyle.DotLine))
        heard = self.called_m.get(note)
        start = (
            QPointF(self.notes_right - 6, rows.get(note, at.y()))
            if kind == "note"
            else QPointF(self.called_right, self.y_of(heard if heard is not None else 0.0))
        )
        self._curve(painter, start, at)
        if at.x() > self.notes_right:
            painter.drawLine(QPointF(self.notes_right, at.y()), QPointF(self.width() - 8.0, at.y()))


def _evened(wanted: np.ndarray) -> np.ndarray:
    """The nearest sequence that never falls, in least squares, (n,)."""
    from mirkle.core.stats import monotone

    return monotone(wanted, np.ones(len(wanted)))
