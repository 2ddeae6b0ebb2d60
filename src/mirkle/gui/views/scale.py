"""The crew's scale as a picture: every corner a dot, in the row of its called grade, over what it turned like or over one measure.

What it turned like is the place that sentence, drawing and road give it; a single measure is only a part of that.
"""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from mirkle.core.constants import kmh
from mirkle.core.judging.findings import Finding
from mirkle.core.motion.bends import Bend
from mirkle.core.notes.grading import whole_grade
from mirkle.gui.labels import short_grade
from mirkle.gui.shapes import draw_mark, mark_name
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr
from mirkle.session.reviewed_pass import ReviewedPass

LEFT_PX, RIGHT_PX, TOP_PX, BOTTOM_PX = 34, 14, 8, 24
# The axes: smallest, largest, ticks, whether in equal steps of the logarithm, and the unit.
AXES = {
    "radius": (7.0, 700.0, (10, 20, 50, 100, 200, 500), True, "m"),
    "speed": (20.0, 180.0, (40, 60, 80, 100, 120, 140, 160), False, "km/h"),
    "angle": (180.0, 4.0, (160, 120, 90, 60, 40, 20, 10, 5), True, "°"),
}
OWN_SCALE = "scale"
# What lies beyond the last grade is shown this far, in grades.
BEYOND = 0.6
GRADE_KINDS = ("grade-tighter", "grade-easier")


class ScaleView(QWidget):
    """Emits ``picked`` with the number of the note whose dot was clicked. Corners with a finding on their grade stand out."""

    picked = pyqtSignal(int)

    def __init__(self, stage: ReviewedPass, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage, self.theme = stage, theme
        self.axis = OWN_SCALE
        self.setMinimumHeight(150)
        self.setToolTip(tr("Each dot is a corner of yours. Click one to look at it."))
        self.setAccessibleName(tr("Your scale: each grade's corners"))
        self.show_review()

    def show_review(self) -> None:
        """Takes in what the review says by now."""
        review = self.stage.review
        notes = review.notes
        self._rows = [b.grade for b in review.bands]
        odd = {f.note: f for f in reversed(review.findings) if f.kind in GRADE_KINDS}
        places = [review.school.position(g) for g in self._rows] or [0.0, 1.0]
        self._columns = dict(zip(self._rows, places, strict=False))
        self._ends = (places[0] - BEYOND, places[-1] + BEYOND)
        self._dots: list[tuple[int, str, Bend, float, Finding | None]] = []
        for tie in review.lineup.ties:
            grade = whole_grade(notes[tie.note].grade or "")
            if tie.bend is not None and tie.position is not None and grade in self._rows and tie.sure > 0.5:
                self._dots.append((tie.note, grade, tie.bend, tie.position, odd.get(tie.note)))
        self.setAccessibleDescription(
            "; ".join(tr("{0}: {1:.0f} to {2:.0f} metres", b.grade, b.radius_low_m, b.radius_high_m) for b in review.bands)
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

    def _measure(self, bend: Bend, position: float) -> float:
        measures = {"radius": bend.radius_m, "speed": kmh(bend.speed_min_mps), "angle": bend.turn_deg}
        return position if self.axis == OWN_SCALE else measures[self.axis]

    def x_of(self, value: float) -> float:
        """Pixels across for a value on the axis."""
        low, high, _, logarithmic, _ = (*self._ends, (), False, "") if self.axis == OWN_SCALE else AXES[self.axis]
        value = float(np.clip(value, min(low, high), max(low, high)))
        share = np.log(value / low) / np.log(high / low) if logarithmic else (value - low) / (high - low)
        return LEFT_PX + 12 + float(share) * (self.width() - LEFT_PX - RIGHT_PX - 12)

    def _row_px(self) -> float:
        return (self.height() - TOP_PX - BOTTOM_PX) / max(1, len(self._rows))

    def _centre(self, note: int, grade: str, bend: Bend, position: float) -> QPointF:
        # Tightest at the bottom; dots of a row lie a little apart, each always at its own height.
        row = len(self._rows) - 1 - self._rows.index(grade)
        apart = ((note * 0.618) % 1.0 - 0.5) * 0.6
        return QPointF(self.x_of(self._measure(bend, position)), TOP_PX + (row + 0.5 + apart) * self._row_px())

    def place_of(self, note: int) -> QPointF:
        """Where the dot of a note stands; raises ``StopIteration`` where it has none."""
        return next(self._centre(*dot[:4]) for dot in self._dots if dot[0] == note)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        near = [((self._centre(*dot[:4]) - event.position()).manhattanLength(), dot[0]) for dot in self._dots]
        if near and min(near)[0] < 14:
            self.picked.emit(min(near)[1])

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: ARG002
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(font(13))
        self._paint_axis(painter)
        self._paint_rows(painter)
        for note, grade, bend, position, finding in sorted(self._dots, key=lambda d: d[4] is not None):
            centre = self._centre(note, grade, bend, position)
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

    def _ticks(self) -> list[tuple[float, str]]:
        """Values along the axis and what stands under them."""
        if self.axis == OWN_SCALE:
            return [(place, short_grade(g)) for g, place in self._columns.items()]
        *_, ticks, _, unit = AXES[self.axis]
        return [(tick, f"{tick} {unit}" if tick == ticks[-1] else f"{tick}") for tick in ticks]

    def _paint_axis(self, painter: QPainter) -> None:
        bottom = self.height() - BOTTOM_PX
        for tick, words in self._ticks():
            x = self.x_of(tick)
            painter.setPen(QPen(self.theme.colour("rule"), 1))
            painter.drawLine(QPointF(x, TOP_PX), QPointF(x, bottom))
            painter.setPen(self.theme.colour("faint"))
            painter.drawText(QRectF(x - 30, bottom + 3, 60, 18), Qt.AlignmentFlag.AlignCenter, words)

    def _paint_rows(self, painter: QPainter) -> None:
        height = self._row_px()
        for at, grade in enumerate(self._rows):
            top = TOP_PX + (len(self._rows) - 1 - at) * height
            if self.axis == OWN_SCALE:
                # Where a corner turned like its note.
                left, right = self.x_of(self._columns[grade] - 0.5), self.x_of(self._columns[grade] + 0.5)
                painter.fillRect(QRectF(left, top + 2, right - left, height - 4), self.theme.colour("road", 95))
            painter.setPen(self.theme.colour("ink"))
            box = QRectF(0, top, LEFT_PX, height)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, short_grade(grade))
