"""The crew's scale as a picture: every corner a dot on the axis that the grades go by, a row for each grade."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from mirkle.core.motion.bends import Bend
from mirkle.core.verdict.findings import Finding
from mirkle.desk.shapes import draw_mark, mark_name
from mirkle.desk.speak import say
from mirkle.desk.theme import Theme, font
from mirkle.session.stage import Stage

LEFT_PX, RIGHT_PX, TOP_PX, BOTTOM_PX = 34, 14, 8, 24
# The axes: smallest, largest, ticks, whether in equal steps of the logarithm, and the unit.
AXES = {
    "radius": (7.0, 700.0, (10, 20, 50, 100, 200, 500), True, "m"),
    "speed": (20.0, 180.0, (40, 60, 80, 100, 120, 140, 160), False, "km/h"),
    "angle": (180.0, 4.0, (160, 120, 90, 60, 40, 20, 10, 5), True, "°"),
}
GRADE_KINDS = ("grade-tighter", "grade-easier")


class ScaleView(QWidget):
    """Emits ``picked`` with the number of the note whose dot was clicked. Corners with a finding on their grade stand out."""

    picked = pyqtSignal(int)

    def __init__(self, stage: Stage, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage, self.theme = stage, theme
        self.axis = stage.review.yardsticks[0].name if stage.review.yardsticks else "radius"
        self.setMinimumHeight(150)
        self.setToolTip(say("Each dot is a corner of yours. Click one to look at it."))
        self.setAccessibleName(say("Your scale: each grade's corners"))
        self.show_review()

    def show_review(self) -> None:
        """Takes in what the review says by now."""
        review = self.stage.review
        notes = review.notes
        self._rows = [b.grade for b in review.bands]
        odd = {f.note: f for f in reversed(review.findings) if f.kind in GRADE_KINDS}
        self._dots: list[tuple[int, str, Bend, Finding | None]] = []
        for tie in review.lineup.ties:
            grade = (notes[tie.note].grade or "").rstrip("+-")
            if tie.bend is not None and grade in self._rows and tie.sure > 0.5:
                self._dots.append((tie.note, grade, tie.bend, odd.get(tie.note)))
        self.setAccessibleDescription(
            "; ".join(
                say("{0}: {1:.0f} to {2:.0f} metres", b.grade, b.radius_low_m, b.radius_high_m) for b in review.bands
            )
        )
        self.update()

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self.theme = theme
        self.update()

    def show_axis(self, axis: str) -> None:
        """Lays the dots out by another measure."""
        self.axis = axis
        self.update()

    def _measure(self, bend: Bend) -> float:
        return {"radius": bend.radius_m, "speed": bend.speed_min_mps * 3.6, "angle": bend.turn_deg}[self.axis]

    def _x(self, value: float) -> float:
        low, high, _, logarithmic, _ = AXES[self.axis]
        value = float(np.clip(value, min(low, high), max(low, high)))
        share = np.log(value / low) / np.log(high / low) if logarithmic else (value - low) / (high - low)
        return LEFT_PX + 12 + float(share) * (self.width() - LEFT_PX - RIGHT_PX - 12)

    def _row_px(self) -> float:
        return (self.height() - TOP_PX - BOTTOM_PX) / max(1, len(self._rows))

    def _centre(self, note: int, grade: str, bend: Bend) -> QPointF:
        # Tightest at the bottom; dots of a row lie a little apart, each always at its own height.
        row = len(self._rows) - 1 - self._rows.index(grade)
        apart = ((note * 0.618) % 1.0 - 0.5) * 0.6
        return QPointF(self._x(self._measure(bend)), TOP_PX + (row + 0.5 + apart) * self._row_px())

    def mousePressEvent(self, event: QMouseEvent) -> None:
        near = [((self._centre(n, g, b) - event.position()).manhattanLength(), n) for n, g, b, _ in self._dots]
        if near and min(near)[0] < 14:
            self.picked.emit(min(near)[1])

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: ARG002
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(font(13))
        self._paint_axis(painter)
        self._paint_rows(painter)
        for note, grade, bend, finding in sorted(self._dots, key=lambda d: d[3] is not None):
            centre = self._centre(note, grade, bend)
            if finding is not None:
                decision = self.stage.book.decisions.get(finding.id)
                draw_mark(painter, self.theme, mark_name(finding, decision.answer if decision else None), centre, 13)
            else:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(self.theme.colour("ink", 150))
                painter.drawEllipse(centre, 2.6, 2.6)
            if note == self.stage.note:
                painter.setPen(QPen(self.theme.colour("pencil"), 2))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawEllipse(centre, 9, 9)
        painter.end()

    def _paint_axis(self, painter: QPainter) -> None:
        _, _, ticks, _, unit = AXES[self.axis]
        bottom = self.height() - BOTTOM_PX
        for tick in ticks:
            x = self._x(tick)
            painter.setPen(QPen(self.theme.colour("rule"), 1))
            painter.drawLine(QPointF(x, TOP_PX), QPointF(x, bottom))
            painter.setPen(self.theme.colour("faint"))
            last = tick == ticks[-1]
            words = f"{tick} {unit}" if last else f"{tick}"
            painter.drawText(QRectF(x - 30, bottom + 3, 60, 18), Qt.AlignmentFlag.AlignCenter, words)

    def _paint_rows(self, painter: QPainter) -> None:
        height = self._row_px()
        names = {"hairpin": "hp", "square": "sq", "flat": "flat"}
        bands = {b.grade: b for b in self.stage.review.bands}
        for at, grade in enumerate(self._rows):
            top = TOP_PX + (len(self._rows) - 1 - at) * height
            if self.axis == "radius":
                band = bands[grade]
                left, right = self._x(band.radius_low_m), self._x(band.radius_high_m)
                painter.fillRect(
                    QRectF(left, top + 2, max(2.0, right - left), height - 4), self.theme.colour("road", 95)
                )
            painter.setPen(self.theme.colour("ink"))
            box = QRectF(0, top, LEFT_PX, height)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, names.get(grade, grade))
