"""What stands on the drawn road beside the bends: called and met crests and dips, findings, and what the crew added by hand."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen, QPolygonF

from mirkle.core.constants import kmh
from mirkle.core.judging.finding_kinds import KINDS
from mirkle.core.judging.findings import Finding
from mirkle.core.motion.vertical import Feature
from mirkle.core.notebook.decisions import Addition, RoadPlace
from mirkle.core.notes.model import Note
from mirkle.gui.shapes import colour_of, draw_mark, mark_name
from mirkle.gui.theme import font
from mirkle.gui.translation import tr, tr_message
from mirkle.gui.views.down_the_road import HEAD_PX
from mirkle.gui.views.drawings import uncalled_in

if TYPE_CHECKING:
    from mirkle.gui.views.road import RoadView


class SideLabels:
    """Labels on either side of a line that step aside downwards: each at its place, or at the first below it where it touches no other."""

    def __init__(self) -> None:
        # Pixels down to which the labels reach; those on the left by True.
        self.free_below = {True: -1e9, False: -1e9}
        self._boxes: dict[bool, list[QRectF]] = {True: [], False: []}

    def placed(self, label: QRectF, *, left: bool) -> QRectF:
        """Where a label goes."""
        top = label.top()
        for other in sorted(self._boxes[left], key=QRectF.top):
            if other.top() < top + label.height() and other.bottom() > top:
                top = other.bottom()
        moved = label.translated(0.0, top - label.top())
        self._boxes[left].append(moved)
        self.free_below[left] = max(self.free_below[left], moved.bottom())
        return moved


class RoadSigns:
    """Paints them with a road's own measures and labels."""

    def __init__(self, road: RoadView) -> None:
        self._road = road

    def feature(self, painter: QPainter, note: Note) -> None:
        """Called features on the straights as small signs on the middle line, where the distances put them."""
        x, y = self._road.width() / 2, self._road.y_of(self._road.place_of(note.index))
        words = " ".join(f.vertical or "" for f in note.features)
        painter.setPen(QPen(self._road.theme.colour("ink"), 2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        turn = -1 if ("dip" in words) else 1
        rises = 2 if "jump" in words else 1 if words else 0
        for k in range(rises):
            tip = y - 5 * turn + 6 * k
            painter.drawPolyline(QPolygonF([QPointF(x - 13, tip + 9 * turn), QPointF(x, tip), QPointF(x + 13, tip + 9 * turn)]))
        chosen = note.index == self._road.stage.note
        face = font(14, family="hand", bold=chosen)
        # Seen from far only what has room is written; the rest comes when one goes nearer.
        wrap = Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap
        painter.setFont(face)
        whole = painter.boundingRect(QRectF(x + 20, y - 60, self._road.width() / 2 - 66, 120), wrap, note.text)
        crowded = self._road.is_far and whole.top() < self._road.labels.free_below[False]
        if words and (chosen or not crowded):
            painter.setPen(self._road.theme.colour("ink" if chosen else "faint"))
            painter.drawText(self._road.labels.placed(whole, left=False), wrap, note.text)

    def met(self, painter: QPainter, feature: Feature) -> None:
        """What the car met in the vertical: solid signs on the middle line, a flight with its time and speed."""
        x, y = self._road.width() / 2, self._road.y_of(feature.at_m)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self._road.theme.colour("ink"))
        if feature.kind == "bump":
            painter.drawEllipse(QPointF(x, y), 5, 5)
            return
        turn = -1 if feature.kind == "dip" else 1
        for k in range(2 if feature.kind == "jump" else 1):
            tip = y - 6 * turn + 9 * k
            painter.drawPolygon(QPolygonF([QPointF(x - 9, tip + 10 * turn), QPointF(x, tip), QPointF(x + 9, tip + 10 * turn)]))
        if feature.kind == "jump":
            painter.setFont(font(13))
            painter.setPen(self._road.theme.colour("ink"))
            words = tr("flew {0:.1f} s at {1:.0f} km/h", feature.air_s, kmh(feature.speed_mps))
            box = QRectF(QPointF(x + 20, y + 9), painter.fontMetrics().size(0, words).toSizeF())
            painter.drawText(self._road.labels.placed(box, left=False), Qt.AlignmentFlag.AlignLeft, words)

    def finding(self, painter: QPainter, finding: Finding) -> None:
        decision = self._road.stage.book.decisions.get(finding.id)
        chosen = finding is self._road.stage.finding
        top, bottom = self._road.y_of(finding.from_m), self._road.y_of(finding.to_m)
        x = self._road.width() / 2
        drawing = KINDS[finding.kind].drawing
        if drawing == "uncalled":
            painter.setPen(QPen(self._road.theme.colour(colour_of(finding)), 2, Qt.PenStyle.DashLine))
            painter.setBrush(self._road.theme.colour(colour_of(finding), 150))
            for bend, position in uncalled_in(self._road.stage.review, finding):
                painter.drawPath(self._road.shape_of(bend, position))
        elif drawing == "unmet":
            note = self._road.stage.review.notes[finding.note]
            called = self._road.scale.called(note)
            side = note.direction.sign if note.direction else 1
            if called is not None:
                out = self._road.x_of(called, side)
                middle = 0.5 * (top + bottom)
                painter.setPen(QPen(self._road.theme.colour("ink"), 2, Qt.PenStyle.DashLine))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(QRectF(QPointF(min(x, out), middle - 16), QPointF(max(x, out), middle + 16)))
                self._unmet_label(painter, note, middle, -side)
        elif drawing == "distance":
            painter.setPen(QPen(self._road.theme.colour("span"), 3 if chosen else 2))
            for y in (top, bottom):
                painter.drawLine(QPointF(x - 12, y), QPointF(x + 12, y))
            painter.drawLine(QPointF(x, top), QPointF(x, bottom))
            painter.setFont(font(13))
            painter.drawText(
                QPointF(x + 16, 0.5 * (top + bottom) + 5),
                tr("called {0}, was {1}", tr_message(finding.called or ""), tr_message(finding.met or "")),
            )
        if chosen or decision is not None or finding.severity == "danger":
            name = mark_name(finding, decision.answer if decision else None)
            draw_mark(painter, self._road.theme, name, QPointF(self._road.width() - 14, 0.5 * (top + bottom)), 16)

    def addition(self, painter: QPainter, addition: Addition, place: RoadPlace) -> None:
        """What the crew added by hand, along the right border with its words."""
        top, bottom = self._road.y_of(place.from_m), self._road.y_of(place.to_m)
        colour = self._road.theme.colour("faint" if self._road.stage.book.road.is_over(addition) else "span")
        x = self._road.width() - 40.0
        painter.setPen(QPen(colour, 3, Qt.PenStyle.DotLine))
        painter.drawLine(QPointF(x, top), QPointF(x, max(bottom, top + 2)))
        draw_mark(painter, self._road.theme, addition.kind, QPointF(x, top), 14)
        painter.setFont(font(14, family="hand", bold=True))
        painter.setPen(colour)
        # Beside the middle line and below what stands there already, like a note.
        wrap = Qt.AlignmentFlag.AlignRight | Qt.TextFlag.TextWordWrap
        room = QRectF(self._road.width() / 2 + 12, max(top, HEAD_PX) - 11, x - self._road.width() / 2 - 24, 200)
        words = self._road.labels.placed(painter.boundingRect(room, wrap, addition.words), left=False)
        painter.fillRect(words.adjusted(-3, 0, 3, 0), self._road.theme.colour("desk", 190))
        painter.drawText(words, wrap, addition.words)

    def _unmet_label(self, painter: QPainter, note: Note, y: float, side: int) -> None:
        painter.setFont(font(14, family="hand"))
        painter.setPen(self._road.theme.colour("ink"))
        x = self._road.width() / 2
        wide = x - 66
        box = QRectF(x - 12 - wide, y - 60, wide, 120) if side > 0 else QRectF(x + 12, y - 60, wide, 120)
        align = Qt.AlignmentFlag.AlignRight if side > 0 else Qt.AlignmentFlag.AlignLeft
        wrap = align | Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap
        words = tr("{0}: no corner", note.text)
        whole = self._road.labels.placed(painter.boundingRect(box, wrap, words), left=side > 0)
        painter.drawText(whole, wrap, words)
