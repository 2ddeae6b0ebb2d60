"""The road, straightened and drawn top to bottom; its width is the crew's own scale.

From the middle line outwards lie the grades, open ones near it, tight ones far out. The fill reaches as far as the
road really was, the bracket stands where the note said. Fill beyond the bracket: the note is too fast. Empty space
inside it: the note is too slow.
"""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QFontMetricsF, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen, QPixmap, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import QWidget

from mirkle.core.lineup.result import Pairing
from mirkle.core.messages import gettext_noop
from mirkle.core.motion.bends import Bend
from mirkle.core.notes.model import Note
from mirkle.gui.shapes import colour_of, draw_mark, polygon
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr, tr_why
from mirkle.gui.views.down_the_road import DownTheRoad
from mirkle.gui.views.road_scale import RoadScale, painted_ground
from mirkle.gui.views.road_signs import RoadSigns, SideLabels
from mirkle.session.reviewed_pass import ReviewedPass

METRES_PER_PIXEL = 0.95
# How far it zooms, in metres a pixel, and by how much at each step.
FINEST, COARSEST, ZOOM = 0.2, 6.0, 1.25
# With more metres in a pixel than this a label stands only where it has room; all others are seen by going nearer.
ALL_LABELS = 1.3
# How far a bracket reaches beyond its bend.
BRACKET_BEYOND_M = 4


class RoadView(DownTheRoad):
    """Emits ``picked`` with a note's number, ``looked_at`` with the metres in the middle while it scrolls, ``zoomed`` when it
    shows more or less of the road."""

    picked = pyqtSignal(int)
    looked_at = pyqtSignal(float)
    zoomed = pyqtSignal()

    def __init__(self, stage: ReviewedPass, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(stage, theme, METRES_PER_PIXEL, parent)
        self.setAccessibleName(tr("The straightened road"))
        self.setMinimumWidth(330)
        self.scale, self.labels = RoadScale(stage), SideLabels()
        self._signs = RoadSigns(self)
        self._car_m: float | None = None
        # What looks the same wherever the road is: worked out once for a size and theme.
        self._ground: tuple[QPixmap, QPixmap] | None = None
        self._shapes: dict[tuple[Bend, float | None], QPainterPath] = {}
        self.show_review()

    def show_car(self, at_m: float | None) -> None:
        """Shows where the car was at the moment that is heard, or nothing."""
        self._car_m = at_m
        self.update()

    def look_at(self, metres: float) -> None:
        """Brings a place to the middle without telling anybody."""
        self.middle_m = metres
        self.update()

    def show_review(self) -> None:
        """Takes in what the review says by now."""
        self._places = {n.index: self.stage.review.positions.shown_m(n.index) for n in self.stage.review.notes}
        self._shapes.clear()
        self.show_chosen()

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self.theme, self._ground = theme, None
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        self._ground = None
        self._shapes.clear()
        super().resizeEvent(event)
        self.zoomed.emit()

    # Where things are

    def show_chosen(self) -> None:
        """Brings the chosen finding or note to the middle."""
        finding = self.stage.finding
        self.middle_m = 0.5 * (finding.from_m + finding.to_m) if finding else self._places[self.stage.note]
        self.setAccessibleDescription(tr_why(finding.because) if finding else "")
        self.update()

    def center_on(self, note: int) -> None:
        """Brings a note to the middle without telling anybody."""
        self.middle_m = self._places[note]
        self.update()

    def note_near(self, metres: float) -> int:
        """The note whose place is nearest."""
        return min(self._places, key=lambda n: abs(self._places[n] - metres))

    def place_of(self, note: int) -> float:
        """Metres from the start line to where a note lies."""
        return self._places[note]

    def label_px(self, note: int) -> float:
        """How far a note's label reaches to the left of the middle line; 0 where it stands to the right of it."""
        tie = self.stage.review.lineup.tie_of.get(note)
        if tie is None or tie.bend is None or tie.bend.side > 0 or self.scale.called(self.stage.review.notes[note]) is None:
            return 0.0
        text = self.stage.book.edition.text_of(self.stage.review.notes[note]).split("\n")[0]
        return QFontMetricsF(font(14, family="hand", bold=True)).horizontalAdvance(text) + 16.0

    @property
    def is_far(self) -> bool:
        """Whether so much of the road is in sight that a label stands only where it has room."""
        return self.metres_per_pixel > ALL_LABELS

    def zoom(self, steps: float) -> None:
        """Zooms in by some steps, out by negative ones; the middle stays where it is."""
        self.metres_per_pixel = float(np.clip(self.metres_per_pixel / ZOOM**steps, FINEST, COARSEST))
        self._shapes.clear()
        self.update()
        self.zoomed.emit()

    def wheelEvent(self, event: QWheelEvent) -> None:
        if event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.zoom(event.angleDelta().y() / 120.0)
            return
        super().wheelEvent(event)
        self.looked_at.emit(self.middle_m)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        metres = self.metres_at(event.position().y())
        inside = [f for f in self.stage.listed if f.from_m - 8 <= metres <= f.to_m + 8]
        if inside:
            self.stage.choose(inside[0])
        else:
            self.picked.emit(self.note_near(metres))

    # Painting

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: ARG002
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._ground = self._ground or painted_ground(self, self.theme, self.columns())
        painter.drawPixmap(0, 0, self._ground[0])
        half_m = self.in_sight_m / 2 + 40
        first, last = self.middle_m - half_m, self.middle_m + half_m
        self.paint_unmeasured(painter, 48.0)
        self.paint_kilometres(painter, 4.0)
        self.labels = SideLabels()
        ties, notes = self.stage.review.lineup.tie_of, self.stage.review.notes
        for note in notes:
            tie = ties.get(note.index)
            if tie is not None and tie.bend is not None and tie.bend.to_m > first and tie.bend.from_m < last:
                self._paint_bend(painter, note, tie, tie.bend)
            elif not note.is_corner and first < self._places[note.index] < last:
                self._signs.feature(painter, note)
        self._paint_middle_line(painter, first, last)
        for feature in self.stage.review.measured.vertical or ():
            if first < feature.at_m < last:
                self._signs.met(painter, feature)
        for finding in self.stage.listed:
            if finding.to_m > first and finding.from_m < last:
                self._signs.finding(painter, finding)
        for remark in self.stage.review.remarks:
            if first < remark.at_m < last:
                draw_mark(painter, self.theme, "speech", QPointF(62.0, self.y_of(remark.at_m)), 12)
        for addition, place in self.stage.book.road.additions_on_road:
            if place.to_m > first and place.from_m < last:
                self._signs.addition(painter, addition, place)
        if self._car_m is not None:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(self.theme.colour("pencil"))
            painter.drawEllipse(QPointF(self.width() / 2, self.y_of(self._car_m)), 8, 8)
        painter.drawPixmap(0, 0, self._ground[1])
        painter.end()

    def x_of(self, position: float, side: int) -> float:
        """Pixels across for a position on the crew's scale, to the left (+1) or right (-1) of the middle line."""
        reach = self.width() / 2 - 26
        return self.width() / 2 - side * reach * self.scale.share(position)

    def columns(self) -> list[tuple[float, str]]:
        """Pixels across and names of the grades on both sides."""
        return [(self.x_of(position, side), name) for name, position in self.scale.columns for side in (1, -1)]

    def _paint_middle_line(self, painter: QPainter, first: float, last: float) -> None:
        painter.setPen(QPen(self.theme.colour("ink"), 3))
        at = max(0.0, first)
        for from_m, to_m in [*((u.from_m, u.to_m) for u in self.stage.review.measured.unmeasured), (np.inf, np.inf)]:
            end = min(last, self.stage.review.finish_m, from_m)
            if end > at:
                painter.drawLine(QPointF(self.width() / 2, self.y_of(at)), QPointF(self.width() / 2, self.y_of(end)))
            at = max(at, to_m)
        for name, metres in ((gettext_noop("start"), 0.0), (gettext_noop("finish"), self.stage.review.finish_m)):
            if first < metres < last:
                y = self.y_of(metres)
                painter.drawLine(QPointF(self.width() / 2 - 40, y), QPointF(self.width() / 2 + 40, y))
                painter.setFont(font(13))
                painter.drawText(QPointF(self.width() / 2 + 46, y + 5), tr(name))

    def _paint_bend(self, painter: QPainter, note: Note, tie: Pairing, bend: Bend) -> None:
        shape = self.shape_of(bend, tie.position)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self.theme.colour("road"))
        painter.drawPath(shape)
        called = self.scale.called(note)
        if called is None or note.direction is None:
            return
        side = note.direction.sign
        bracket = self.x_of(called, side)
        top, bottom = self._bracket_y(bend)
        self._paint_difference(painter, note, bend, shape, bracket)
        painter.setPen(QPen(self.theme.colour("ink"), 2))
        inward = 9 * side
        for y in (top, bottom):
            painter.drawLine(QPointF(bracket, y), QPointF(bracket + inward, y))
        painter.drawLine(QPointF(bracket, top), QPointF(bracket, bottom))
        # Where the road went the other way the bracket stands on the label's side.
        clear_px = abs(bracket - self.width() / 2) - 4 if side != bend.side else 0.0
        self._paint_label(painter, note, bend, -bend.side, clear_px)

    def _paint_label(self, painter: QPainter, note: Note, bend: Bend, side: int, clear_px: float) -> None:
        painter.setPen(self.theme.colour("ink" if note.index == self.stage.note else "faint"))
        text = self.stage.book.edition.text_of(note).split("\n")[0] or note.text
        y = self.y_of(0.5 * (bend.from_m + bend.to_m))
        middle = self.width() / 2
        # On the right the findings' marks stand at the edge.
        width = middle - (66 if side > 0 else 50) - clear_px
        chosen = note.index == self.stage.note
        painter.setFont(font(14, family="hand", bold=chosen))
        left = middle - 12 - clear_px - width if side > 0 else middle + 12 + clear_px
        align = Qt.AlignmentFlag.AlignRight if side > 0 else Qt.AlignmentFlag.AlignLeft
        wrap = align | Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap
        whole = painter.boundingRect(QRectF(left, y - 150, width, 300), wrap, text)
        # A long note moves out of the way of the one before it on its side, and stands whole.
        if self.is_far and whole.top() < self.labels.free_below[side > 0] and not chosen:
            return
        whole = self.labels.placed(whole, left=side > 0)
        if chosen or self.is_far:
            painter.fillRect(whole.adjusted(-3, -1, 3, 1), self.theme.colour("desk", 255 if chosen else 190))
        painter.drawText(whole, wrap, text)

    def _bracket_y(self, bend: Bend) -> tuple[float, float]:
        """Where a bend's bracket begins and ends: a little beyond the bend."""
        return self.y_of(bend.from_m - BRACKET_BEYOND_M), self.y_of(bend.to_m + BRACKET_BEYOND_M)

    def _paint_difference(self, painter: QPainter, note: Note, bend: Bend, shape: QPainterPath, bracket: float) -> None:
        """The part of the fill beyond the bracket, or the room left inside it, where that is a finding."""
        finding = next((f for f in self.stage.findings_on(note.index) if f.kind in ("grade-tighter", "grade-easier", "direction")), None)
        if finding is None:
            return
        middle, outer = self.width() / 2, 0.0 if bend.side > 0 else float(self.width())
        top, bottom = self._bracket_y(bend)
        painter.setPen(Qt.PenStyle.NoPen)
        if finding.kind == "grade-easier":
            room = QPainterPath()
            room.addRect(QRectF(QPointF(min(middle, bracket), top + 2), QPointF(max(middle, bracket), bottom - 2)))
            painter.setBrush(QBrush(self.theme.colour("open"), Qt.BrushStyle.BDiagPattern))
            painter.drawPath(room.subtracted(shape))
        else:
            beyond = QPainterPath()
            start = bracket if finding.kind == "grade-tighter" else middle
            beyond.addRect(QRectF(QPointF(min(start, outer), top - 40), QPointF(max(start, outer), bottom + 40)))
            painter.setBrush(self.theme.colour(colour_of(finding)))
            painter.drawPath(shape.intersected(beyond))

    def shape_of(self, bend: Bend, position: float | None) -> QPainterPath:
        """The bend's own curvature along its length, out to where its grade lies on the scale."""
        shape = self._shapes.get((bend, position))
        if shape is None:
            shape = self._shapes[bend, position] = self._shape_at_start(bend, position)
        return shape.translated(0.0, self.y_of(bend.from_m))

    def _shape_at_start(self, bend: Bend, position: float | None) -> QPainterPath:
        """As :meth:`shape_of`, with the bend's beginning at the top."""
        profile = self.stage.review.profile
        first, last = max(0, int(bend.from_m) - 8), min(len(profile.distance_m) - 1, int(bend.to_m) + 8)
        bent = np.maximum(bend.side * profile.curvature_per_m[first : last + 1], 0.0)
        step = max(1, len(bent) // 60)
        share = self.scale.share(position) if position is not None else 0.5
        out = share * (bent / max(float(bent.max()), 1e-6)) ** 0.6
        reach = (self.width() / 2 - 26) * bend.side
        middle = self.width() / 2
        metres = np.arange(first, last + 1, step)
        across = middle - reach * out[::step]
        x = np.concatenate([[middle], across, [middle]])
        path = QPainterPath()
        path.addPolygon(polygon(x, (np.concatenate([[first], metres, [last]]) - bend.from_m) / self.metres_per_pixel))
        path.closeSubpath()
        return path
