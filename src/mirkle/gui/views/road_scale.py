"""The crew's own scale as the width of the drawn road."""

from __future__ import annotations

import math

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen, QPixmap
from PyQt6.QtWidgets import QWidget

from mirkle.core.notes.model import Note
from mirkle.gui.labels import short_grade
from mirkle.gui.shapes import pixmap_for
from mirkle.gui.theme import Theme, font
from mirkle.gui.views.down_the_road import HEAD_PX
from mirkle.session.reviewed_pass import ReviewedPass

# Names of grades nearer to each other than this would touch.
CLOSE_PX = 21


class RoadScale:
    """Positions on the crew's scale as shares of the width, 0 at the middle line, 1 at the tightest."""

    def __init__(self, stage: ReviewedPass) -> None:
        school = stage.review.school
        self._school = school
        self._tightest, self._open = -1.2, school.top + 1.5
        self.columns = [(short_grade(g), school.position(g)) for g in school.grades if g != "flat"]

    def share(self, position: float) -> float:
        """0 to 1."""
        return min(max((self._open - position) / (self._open - self._tightest), 0.03), 1.0)

    def called(self, note: Note) -> float | None:
        """Where the bracket of a note stands."""
        position = self._school.tightest_position(note)
        return None if math.isnan(position) else position


def painted_ground(view: QWidget, theme: Theme, columns: list[tuple[float, str]]) -> tuple[QPixmap, QPixmap]:
    """The columns of the grades under the road, and their names over it."""
    ground, head = (pixmap_for(view, height) for height in (view.height(), HEAD_PX))
    for pixmap in (ground, head):
        pixmap.fill(theme.colour("desk"))
    painter = QPainter(ground)
    painter.setPen(QPen(theme.colour("rule"), 1))
    for x, _ in columns:
        painter.drawLine(QPointF(x, HEAD_PX), QPointF(x, view.height()))
    painter.end()
    painter = QPainter(head)
    painter.setFont(font(13))
    painter.setPen(theme.colour("faint"))
    # Where names would touch they stand in turn a little higher and lower.
    close = abs(columns[0][0] - columns[2][0]) < CLOSE_PX if len(columns) > 2 else False
    for n, (x, name) in enumerate(columns):
        down = (-7 if n // 2 % 2 else 7) if close else 0
        painter.drawText(QRectF(x - 20, 4 + down, 40, 20), Qt.AlignmentFlag.AlignCenter, name)
    painter.end()
    return ground, head
