"""A view along the road from the top down: which metres are where, which are in sight, and the kilometres at the side."""

from __future__ import annotations

from typing import TypeVar

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QPainter, QWheelEvent
from PyQt6.QtWidgets import QWidget

from mirkle.gui.shapes import draw_unmeasured
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr
from mirkle.session.reviewed_pass import ReviewedPass

# What stands over the road, and by how many pixels a step of the wheel moves it.
HEAD_PX, STEP_PX = 30, 62
# Kilometres are written at one of these distances (m), no nearer to each other than this (pixels).
STEPS_M, APART_PX = (100, 200, 500, 1000), 50

# One place, or an array of them.
Place = TypeVar("Place", float, NDArray[np.float64])


class DownTheRoad(QWidget):
    """A widget that shows a stage with its start at the top; ``middle_m`` is in the middle, ``metres_per_pixel`` how far it is away."""

    def __init__(self, stage: ReviewedPass, theme: Theme, metres_per_pixel: float, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage, self.theme = stage, theme
        self.middle_m, self.metres_per_pixel = 0.0, metres_per_pixel
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)

    def y_of(self, metres: Place) -> Place:
        """Pixels from the top of the widget, for one place or an array of them."""
        return HEAD_PX + (self.height() - HEAD_PX) / 2 + (metres - self.middle_m) / self.metres_per_pixel

    def metres_at(self, y: float) -> float:
        """The place at some pixels from the top."""
        return self.middle_m + (y - self.y_of(self.middle_m)) * self.metres_per_pixel

    @property
    def in_sight_m(self) -> float:
        """How many metres of road are in sight."""
        return (self.height() - HEAD_PX) * self.metres_per_pixel

    @property
    def shown_m(self) -> tuple[float, float]:
        """The first and the last place in sight."""
        return self.metres_at(HEAD_PX), self.metres_at(self.height())

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.middle_m -= event.angleDelta().y() / 120.0 * STEP_PX * self.metres_per_pixel
        self.middle_m = float(np.clip(self.middle_m, 0.0, self.stage.review.finish_m))
        self.update()

    def paint_kilometres(self, painter: QPainter, left: float) -> None:
        """The kilometres at the side, as many as have room."""
        painter.setFont(font(13))
        painter.setPen(self.theme.colour("faint"))
        first, last = self.shown_m
        step = next((s for s in STEPS_M if s / self.metres_per_pixel >= APART_PX), STEPS_M[-1])
        for metres in range(int(max(0.0, first - step) // step) * step, int(last) + step, step):
            y = self.y_of(metres)
            painter.drawText(QRectF(left, y - 9, 44, 18), Qt.AlignmentFlag.AlignVCenter, tr("{0:.1f}", metres / 1000))

    def paint_unmeasured(self, painter: QPainter, left: float) -> None:
        """Hatched from some pixels on: there is no road to show."""
        first, last = self.shown_m
        for stretch in self.stage.review.measured.unmeasured:
            if stretch.touches(first, last):
                top, bottom = self.y_of(max(first, stretch.from_m)), self.y_of(min(last, stretch.to_m))
                draw_unmeasured(painter, self.theme, QRectF(left, top, self.width() - left - 4, bottom - top))
