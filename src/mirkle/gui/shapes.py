"""The marks: a shape for each meaning, so that none rests on colour alone."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QBrush, QPainter, QPainterPath, QPen, QPixmap, QPolygonF
from PyQt6.QtWidgets import QWidget

from mirkle.core.judging.finding_kinds import KINDS
from mirkle.core.judging.findings import Finding
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr


def polygon(x: NDArray[np.float64], y: NDArray[np.float64]) -> QPolygonF:
    """Points for the painter, written into its memory at once; ``x`` and ``y`` are (n,) pixels."""
    points = QPolygonF([QPointF()] * len(x))
    memory: Any = points.data()
    memory.setsize(16 * len(x))
    np.frombuffer(memory, float).reshape(-1, 2)[:] = np.stack([x, y], axis=1)
    return points


def pixmap_for(widget: QWidget, height: int) -> QPixmap:
    """A picture as wide as a widget and of a given height, as sharp as the widget's screen."""
    ratio = widget.devicePixelRatioF()
    pixmap = QPixmap(int(widget.width() * ratio), int(height * ratio))
    pixmap.setDevicePixelRatio(ratio)
    return pixmap


ANSWER_MARKS = {"mark": "tick", "keep": "dash", "talk": "speech", "video": "eye"}


def mark_name(finding: Finding, answer: str | None) -> str:
    """Which shape stands for a finding: what was decided comes before what was found."""
    if answer in ANSWER_MARKS:
        return ANSWER_MARKS[answer]
    if finding.severity == "danger":
        return "triangle"
    if KINDS[finding.kind].drawing == "distance":
        return "span"
    if finding.severity == "change":
        return "diamond"
    if KINDS[finding.kind].time:
        return "ring"
    return "square" if finding.severity == "check" else "dot"


def colour_of(finding: Finding) -> str:
    """The theme's colour for what a finding shows: red for a danger alone, teal for what is more open."""
    if finding.severity == "danger":
        return "danger"
    return "open" if finding.kind == "grade-easier" else "span"


_COLOURS = {
    "tick": "pencil",
    "dash": "faint",
    "speech": "pencil",
    "eye": "pencil",
    "hazard": "span",
    "condition": "span",
    "triangle": "danger",
    "span": "span",
    "diamond": "ink",
    "ring": "ink",
    "square": "faint",
    "dot": "faint",
}


def draw_mark(painter: QPainter, theme: Theme, name: str, centre: QPointF, size: float) -> None:
    """Draws a mark of about ``size`` pixels about its centre."""
    colour = theme.colour(_COLOURS[name])
    pen = QPen(colour, max(1.8, size / 8.0))
    pen.setCapStyle(Qt.PenCapStyle.RoundCap)
    painter.setPen(pen)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    half, x, y = size / 2, centre.x(), centre.y()
    if name == "triangle":
        painter.setBrush(colour)
        painter.drawPolygon(QPolygonF([QPointF(x - half, y - half * 0.8), QPointF(x + half, y - half * 0.8), QPointF(x, y + half * 0.9)]))
    elif name == "diamond":
        points = [QPointF(x, y - half), QPointF(x + half, y), QPointF(x, y + half), QPointF(x - half, y)]
        painter.drawPolygon(QPolygonF(points))
    elif name == "square":
        painter.drawRect(QRectF(x - half * 0.75, y - half * 0.75, size * 0.75, size * 0.75))
    elif name == "dot":
        painter.setBrush(colour)
        painter.drawEllipse(centre, half * 0.35, half * 0.35)
    elif name == "ring":
        painter.drawEllipse(centre, half * 0.85, half * 0.85)
    elif name == "span":
        painter.drawLine(QPointF(x - half, y), QPointF(x + half, y))
        for end in (x - half, x + half):
            painter.drawLine(QPointF(end, y - half * 0.6), QPointF(end, y + half * 0.6))
    elif name == "tick":
        path = QPainterPath(QPointF(x - half * 0.8, y))
        path.lineTo(x - half * 0.2, y + half * 0.7)
        path.lineTo(x + half * 0.9, y - half * 0.8)
        painter.drawPath(path)
    elif name == "dash":
        painter.drawLine(QPointF(x - half * 0.7, y), QPointF(x + half * 0.7, y))
    elif name == "eye":
        path = QPainterPath(QPointF(x - half, y))
        path.quadTo(QPointF(x, y - half * 1.3), QPointF(x + half, y))
        path.quadTo(QPointF(x, y + half * 1.3), QPointF(x - half, y))
        painter.drawPath(path)
        painter.drawEllipse(centre, half * 0.25, half * 0.25)
    elif name in ("hazard", "condition"):
        # A cross for what stays, three waves for what passes.
        if name == "hazard":
            painter.drawLine(QPointF(x - half * 0.7, y - half * 0.7), QPointF(x + half * 0.7, y + half * 0.7))
            painter.drawLine(QPointF(x - half * 0.7, y + half * 0.7), QPointF(x + half * 0.7, y - half * 0.7))
        else:
            for row in (-0.55, 0.0, 0.55):
                path = QPainterPath(QPointF(x - half, y + row * size))
                path.cubicTo(
                    x - half * 0.3, y + row * size - half * 0.5, x + half * 0.3, y + row * size + half * 0.5, x + half, y + row * size
                )
                painter.drawPath(path)
    elif name == "speech":
        box = QRectF(x - half, y - half * 0.8, size, size * 0.6)
        painter.drawRoundedRect(box, 3, 3)
        painter.drawLine(QPointF(x - half * 0.3, box.bottom()), QPointF(x - half * 0.5, y + half))


def draw_unmeasured(painter: QPainter, theme: Theme, box: QRectF) -> None:
    """Hatching over a box in which there is no road to show, with words that say so."""
    painter.fillRect(box, QBrush(theme.colour("faint", 150), Qt.BrushStyle.BDiagPattern))
    words = tr("not measured")
    painter.setFont(font(13))
    label = QRectF(0, 0, painter.fontMetrics().horizontalAdvance(words) + 12, 20)
    label.moveCenter(box.center())
    painter.fillRect(label, theme.colour("paper"))
    painter.setPen(theme.colour("ink"))
    painter.drawText(label, Qt.AlignmentFlag.AlignCenter, words)
