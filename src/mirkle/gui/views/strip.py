"""The whole stage at the bottom: pace, findings, and what of it the road view shows."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap, QResizeEvent
from PyQt6.QtWidgets import QWidget

from mirkle.core.constants import KMH_PER_MPS
from mirkle.core.judging.findings import Finding
from mirkle.gui.shapes import draw_mark, mark_name, pixmap_for, polygon
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr
from mirkle.session.reviewed_pass import ReviewedPass

SIDE_PX = 16


class StageStrip(QWidget):
    """Emits ``looked_at`` with metres where the user clicks beside every finding; ``part_dragged`` and ``condition_dragged`` with two."""

    looked_at = pyqtSignal(float)
    part_dragged = pyqtSignal(float, float)
    condition_dragged = pyqtSignal(float, float)

    def __init__(self, stage: ReviewedPass, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage, self.theme = stage, theme
        self.window_m = (0.0, 0.0)
        self._drag_m: tuple[float, float] | None = None
        self._drags_condition = False
        self.setToolTip(
            tr("Click to go there. Drag with Shift: a part that does not count (X). With Ctrl: a condition for the next pass (H).")
        )
        self.setFixedHeight(86)
        self.setAccessibleName(tr("The whole stage"))
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self._trace: QPixmap | None = None
        self._marks: QPixmap | None = None
        self.car_m: float | None = None

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self.theme, self._trace, self._marks = theme, None, None
        self.update()

    def show_car(self, at_m: float | None) -> None:
        """Shows where the car was at the moment that is heard, or nothing."""
        self.car_m = at_m
        self.update()

    def show_review(self) -> None:
        """Takes in what the review says by now."""
        self._trace = self._marks = None
        self.update()

    def show_decided(self) -> None:
        """Takes in what was decided, and which findings are shown."""
        self._marks = None
        self.update()

    def show_window(self, first_m: float, last_m: float) -> None:
        """Shades the part of the stage that the road view shows."""
        self.window_m = (first_m, last_m)
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._trace = self._marks = None
        super().resizeEvent(event)

    def _metres(self, event: QMouseEvent) -> float:
        metres = (event.position().x() - SIDE_PX) / self._width() * self.stage.review.finish_m
        return float(np.clip(metres, 0.0, self.stage.review.finish_m))

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._drag_m is not None:
            self._drag_m = (self._drag_m[0], self._metres(event))
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._drag_m is not None:
            first, last = sorted((self._drag_m[0], self._metres(event)))
            self._drag_m = None
            self.update()
            if last - first > 20.0:
                (self.condition_dragged if self._drags_condition else self.part_dragged).emit(first, last)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        metres = self._metres(event)
        held = event.modifiers() & (Qt.KeyboardModifier.ShiftModifier | Qt.KeyboardModifier.ControlModifier)
        if held:
            self._drag_m, self._drags_condition = (metres, metres), bool(held & Qt.KeyboardModifier.ControlModifier)
            return
        if self.stage.listed:
            nearest = min(self.stage.listed, key=lambda f: abs(0.5 * (f.from_m + f.to_m) - metres))
            if abs(self.x_of(0.5 * (nearest.from_m + nearest.to_m)) - event.position().x()) < 12:
                self.stage.choose(nearest)
                return
        self.looked_at.emit(metres)

    def _width(self) -> float:
        return max(1.0, self.width() - 2.0 * SIDE_PX)

    def x_of(self, metres: float) -> float:
        return SIDE_PX + metres / max(self.stage.review.finish_m, 1.0) * self._width()

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: ARG002
        if self._trace is None:
            self._trace = self._painted_trace()
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.drawPixmap(0, 0, self._trace)
        first, last = (self.x_of(m) for m in self.window_m)
        painter.fillRect(QRectF(first, 2, max(3.0, last - first), self.height() - 4), self.theme.colour("road", 90))
        if self._drag_m is not None:
            self._hatch(painter, min(self._drag_m), max(self._drag_m), "")
        if self._marks is None:
            self._marks = self._painted_marks()
        painter.drawPixmap(0, 0, self._marks)
        chosen = self.stage.finding
        if chosen is not None:
            centre = self._centre(chosen)
            painter.setPen(QPen(self.theme.colour("ink"), 1.5))
            painter.setBrush(self.theme.colour("chosen"))
            painter.drawRoundedRect(QRectF(centre.x() - 10, 5, 20, 24), 4, 4)
            self._draw_mark(painter, chosen)
        if self.car_m is not None:
            painter.setPen(QPen(self.theme.colour("pencil"), 2))
            painter.drawLine(QPointF(self.x_of(self.car_m), 4), QPointF(self.x_of(self.car_m), self.height() - 20.0))
        for addition, place in self.stage.book.road.additions_on_road:
            draw_mark(painter, self.theme, addition.kind, QPointF(self.x_of(place.from_m), 38), 11)
        painter.end()

    def _centre(self, finding: Finding) -> QPointF:
        return QPointF(self.x_of(0.5 * (finding.from_m + finding.to_m)), 17)

    def _draw_mark(self, painter: QPainter, finding: Finding) -> None:
        decision = self.stage.book.decisions.get(finding.id)
        name = mark_name(finding, decision.answer if decision else None)
        draw_mark(painter, self.theme, name, self._centre(finding), 12)

    def _painted_marks(self) -> QPixmap:
        """All marks, dangers on top: they change only with a decision."""
        pixmap = pixmap_for(self, self.height())
        pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(pixmap)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for finding in sorted(self.stage.listed, key=lambda f: f.severity == "danger"):
            self._draw_mark(painter, finding)
        painter.end()
        return pixmap

    def _hatch(self, painter: QPainter, first_m: float, last_m: float, words: str) -> None:
        """A part that does not count, with why; a question mark where it is only proposed."""
        box = QRectF(self.x_of(first_m), 30, max(3.0, self.x_of(last_m) - self.x_of(first_m)), self.height() - 50)
        painter.fillRect(box, QBrush(self.theme.colour("faint"), Qt.BrushStyle.BDiagPattern))
        if not words:
            return
        painter.setFont(font(13))
        width = painter.fontMetrics().horizontalAdvance(words) + 8
        left = min(max(box.center().x() - width / 2, 4.0), self.width() - width - 4.0)
        label = QRectF(left, box.center().y() - 9, width, 18)
        painter.fillRect(label, self.theme.colour("paper"))
        painter.setPen(self.theme.colour("ink"))
        painter.drawText(label, Qt.AlignmentFlag.AlignCenter, words)

    def _painted_trace(self) -> QPixmap:
        pixmap = pixmap_for(self, self.height())
        pixmap.fill(self.theme.colour("paper"))
        painter = QPainter(pixmap)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        profile, finish = self.stage.review.profile, self.stage.review.finish_m
        at = np.linspace(0.0, finish, max(2, int(self._width())))
        speed = np.interp(at, profile.distance_m, profile.speed_mps) * KMH_PER_MPS
        top, bottom, most = 36.0, self.height() - 20.0, max(60.0, float(speed.max()))
        painter.setPen(QPen(self.theme.colour("ink"), 1.2))
        painter.drawPolyline(polygon(SIDE_PX + at / max(finish, 1.0) * self._width(), bottom - (bottom - top) * speed / most))
        for stretch in self.stage.review.measured.unmeasured:
            self._hatch(painter, stretch.from_m, stretch.to_m, tr("not measured"))
        for part in self.stage.review.parts:
            self._hatch(painter, part.from_m, part.to_m, f"{tr(part.reason)}{'?' if part.proposed else ''}")
        painter.setFont(font(13))
        painter.setPen(self.theme.colour("faint"))
        kilometres = max(1, round(finish / 1000 / 14))
        for km in range(0, int(finish / 1000) + 1, kilometres):
            box = QRectF(self.x_of(km * 1000.0) - 20, self.height() - 18, 40, 16)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, f"{km}" if km else "km")
        painter.end()
        return pixmap
