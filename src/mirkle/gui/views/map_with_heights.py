"""The heights along the stage, under its plan."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from mirkle.core.review import Review
from mirkle.gui.shapes import polygon
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr
from mirkle.gui.views.stage_map import StagePlan
from mirkle.session.reviewed_pass import ReviewedPass


class PlanView(QWidget):
    """The whole stage from above, its heights below where they were recorded."""

    def __init__(self, stage: ReviewedPass, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAccessibleName(tr("The stage from above and its heights"))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(StagePlan(stage, theme, whole=True), 1)
        if np.isfinite(stage.review.measured.plan.height_m).any():
            column.addWidget(Heights(stage.review, theme))


class Heights(QWidget):
    """The heights from start to finish."""

    def __init__(self, review: Review, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.review, self.theme = review, theme
        self.setFixedHeight(58)
        self.setAccessibleName(tr("The heights along the stage"))
        height = review.measured.plan.height_m
        self.setAccessibleDescription(tr("From {0:.0f} to {1:.0f} m above the sea.", np.nanmin(height), np.nanmax(height)))

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: ARG002
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(0, 0, 0, -4)
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
        painter.drawText(QPointF(box.left(), box.top() + 12), tr("heights, {0:.0f} to {1:.0f} m", low, top))
        painter.end()
