"""The stage from above, and its heights along the way."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QFontMetricsF, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from mirkle.core.review import Review
from mirkle.desk.shapes import polygon
from mirkle.desk.speak import say
from mirkle.desk.theme import Theme, font

HEIGHTS_PX = 58


class PlanView(QWidget):
    """Paints the plan with north up, start and finish on it, the parts that don't count faint, what was not measured
    dashed, and the heights below."""

    def __init__(self, review: Review, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.review, self.theme = review, theme
        self.setMinimumHeight(150)
        self.setAccessibleName(say("The stage from above and its heights"))
        self.setAccessibleDescription(self._described())

    def _described(self) -> str:
        height = self.review.measured.plan.height_m
        if not np.isfinite(height).any():
            return say("No heights were recorded.")
        return say("From {0:.0f} to {1:.0f} m above the sea.", np.nanmin(height), np.nanmax(height))

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: ARG002
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        high = bool(np.isfinite(self.review.measured.plan.height_m).any())
        below = HEIGHTS_PX if high else 0
        self._paint_plan(painter, QRectF(0, 4, self.width(), self.height() - below - 12))
        if high:
            self._paint_heights(painter, QRectF(0, self.height() - below, self.width(), below - 4))
        painter.end()

    def _paint_plan(self, painter: QPainter, box: QRectF) -> None:
        plan = self.review.measured.plan
        last = min(len(plan.east_m), int(self.review.finish_m) + 1)
        east, north = plan.east_m[:last:4], plan.north_m[:last:4]
        wide, tall = max(float(np.ptp(east)), 1.0), max(float(np.ptp(north)), 1.0)
        scale = min((box.width() - 90) / wide, (box.height() - 24) / tall)
        x = box.center().x() + scale * (east - 0.5 * (east.max() + east.min()))
        y = box.center().y() - scale * (north - 0.5 * (north.max() + north.min()))
        painter.setPen(QPen(self.theme.colour("ink"), 2.2))
        painter.drawPolyline(polygon(x, y))
        for stretch in self.review.measured.unmeasured:
            first, end = int(max(0.0, stretch.from_m) / 4), int(stretch.to_m / 4) + 1
            painter.setPen(QPen(self.theme.colour("paper"), 4))
            painter.drawPolyline(polygon(x[first:end], y[first:end]))
            painter.setPen(QPen(self.theme.colour("faint"), 1.4, Qt.PenStyle.DashLine))
            painter.drawPolyline(polygon(x[first:end], y[first:end]))
        for part in self.review.parts:
            first, end = int(part.from_m / 4), int(part.to_m / 4) + 1
            painter.setPen(QPen(self.theme.colour("road"), 5, Qt.PenStyle.DotLine))
            painter.drawPolyline(polygon(x[first:end], y[first:end]))
        painter.setFont(font(13))
        before = QFontMetricsF(font(13)).horizontalAdvance(say("start")) + 8.0
        for words, at, aside in (("start", 0, -before), ("finish", -1, 8.0)):
            place = QPointF(float(x[at]), float(y[at]))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(self.theme.colour("ink"))
            painter.drawEllipse(place, 4, 4)
            painter.setPen(self.theme.colour("ink"))
            painter.drawText(place + QPointF(aside, 5), say(words))

    def _paint_heights(self, painter: QPainter, box: QRectF) -> None:
        height = self.review.measured.plan.height_m
        last = min(len(height), int(self.review.finish_m) + 1)
        height = height[:last:8]
        low, top = float(np.nanmin(height)), float(np.nanmax(height))
        x = box.left() + np.linspace(0, box.width(), len(height))
        y = box.bottom() - 4 - (box.height() - 22) * (height - low) / max(top - low, 10.0)
        painter.setPen(QPen(self.theme.colour("faint"), 1.6))
        painter.drawPolyline(polygon(x, y))
        painter.setFont(font(13))
        painter.setPen(self.theme.colour("faint"))
        painter.drawText(QPointF(box.left(), box.top() + 12), say("heights, {0:.0f} to {1:.0f} m", low, top))
