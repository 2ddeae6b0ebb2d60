"""The stage from above, north up: zoomed with the wheel, moved with the mouse, and with everything on it that has a place."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetricsF, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent, QShowEvent, QWheelEvent
from PyQt6.QtWidgets import QWidget

from mirkle.core.messages import gettext_noop
from mirkle.core.recording.model import Floats
from mirkle.gui.shapes import draw_mark, mark_name, polygon
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr
from mirkle.session.pairing_edits import said_at_m
from mirkle.session.reviewed_pass import ReviewedPass

# The line is kept at these steps, in metres along it; of those, the coarsest is drawn that no eye can tell from the finest.
STEPS_M = (1, 4, 16, 64)
# The line is drawn in pieces of this many points, so that what lies outside the picture is left out.
PIECE = 64
ZOOM, MOST_PX_PER_M = 1.25, 12.0
# Road that is shown on both sides of a finding at the first look (m).
AROUND_M = 150.0
# Notes are shown from this scale on (pixels a metre).
ROOM_FOR_NOTES = 0.55
MARGIN_PX = 34.0
# Above and below: the names of start and finish stand at the sides.
ABOVE_PX = 22.0
NEAR_PX = 14.0


@dataclass(frozen=True)
class _Line:
    """The driven line at one step: (n,) metres to the right and down from the plan's middle, and each piece's box, (pieces, 4)."""

    step: int
    right: Floats
    down: Floats
    boxes: Floats

    @classmethod
    def of(cls, right: Floats, down: Floats, step: int) -> _Line:
        x, y = right[::step], down[::step]
        starts = range(0, max(len(x) - 1, 1), PIECE)
        parts = [(x[s : s + PIECE + 1], y[s : s + PIECE + 1]) for s in starts]
        boxes = np.array([[a.min(), b.min(), a.max(), b.max()] for a, b in parts])
        return cls(step, x, y, boxes)

    def in_picture(self, low: QPointF, high: QPointF) -> Iterator[tuple[int, int]]:
        """The points between two corners of the picture, as stretches of whole pieces: the first, and the one behind the last."""
        boxes = self.boxes
        seen = (boxes[:, 2] >= low.x()) & (boxes[:, 0] <= high.x()) & (boxes[:, 3] >= low.y()) & (boxes[:, 1] <= high.y())
        edges = np.flatnonzero(np.diff(np.concatenate([[False], seen, [False]]).astype(np.int8)))
        for begin, end in zip(edges[::2], edges[1::2], strict=True):
            yield int(begin) * PIECE, int(end) * PIECE + 1


class StagePlan(QWidget):
    """Emits ``looked_at`` with metres where somebody clicks on the line. With ``whole`` it always shows the whole stage."""

    looked_at = pyqtSignal(float)

    def __init__(self, stage: ReviewedPass, theme: Theme, parent: QWidget | None = None, *, whole: bool = False) -> None:
        super().__init__(parent)
        self.stage, self.theme, self.whole = stage, theme, whole
        self.setMinimumHeight(120)
        self.setAccessibleName(tr("The stage from above"))
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setToolTip("" if whole else tr("Wheel: nearer or farther. Drag: move. Click on the line: go there."))
        self.px_per_m = 0.0
        self.middle = QPointF(0.0, 0.0)
        self.setMouseTracking(not whole)
        self._grabbed: QPointF | None = None
        self._moved = False
        self._car_m: float | None = None
        self._was_near = False
        self.show_review()

    # What it shows

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self.theme = theme
        self.update()

    def show_review(self) -> None:
        """Takes in what the review says by now."""
        review = self.stage.review
        plan = review.measured.plan
        last = max(2, min(len(plan.east_m), int(review.finish_m) + 1))
        east, north = plan.east_m[:last], plan.north_m[:last]
        right, down = east - 0.5 * (east.max() + east.min()), -(north - 0.5 * (north.max() + north.min()))
        self._lines = [_Line.of(right, down, step) for step in STEPS_M if step == 1 or last > 20 * step]
        self._called = [m for n in review.notes if n.is_corner and (m := said_at_m(self.stage, n.index)) is not None]
        self.update()

    def show_chosen(self) -> None:
        """Brings what is chosen into the picture."""
        finding, review = self.stage.finding, self.stage.review
        bend = review.lineup.bend_of(self.stage.note)
        if finding is not None:
            self.look_at(0.5 * (finding.from_m + finding.to_m))
        elif bend is not None:
            self.look_at(bend.apex_m)
        self.update()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        if not self.whole and not self._was_near:
            # The first look is at the finding; how near one is then is one's own affair.
            self._was_near = True
            self.go_near()

    def go_near(self) -> None:
        """Shows what is chosen as near as it fits with the road around it."""
        finding = self.stage.finding
        if finding is not None:
            across = finding.to_m - finding.from_m + 2 * AROUND_M
            self.px_per_m = float(np.clip(min(self.width(), self.height()) / across, self._whole_px_per_m, MOST_PX_PER_M))
            self.show_chosen()

    def show_car(self, at_m: float | None) -> None:
        """Shows where the car was at the moment that is heard, or nothing."""
        self._car_m = at_m
        if at_m is not None:
            self.look_at(at_m)
        self.update()

    def look_at(self, metres: float) -> None:
        """Moves the picture only where a place would lie outside it, or near its border."""
        at = self.place_of(metres)
        inside = QRectF(self.rect()).adjusted(*(self._border(sign) for sign in (1, 1, -1, -1)))
        if not self.whole and not inside.contains(self.on_screen(at)):
            self.middle = at
        self.update()

    def _border(self, sign: int) -> float:
        return sign * min(0.2 * min(self.width(), self.height()), 80.0)

    # From metres to pixels and back

    def place_of(self, metres: float) -> QPointF:
        """Metres to the right and down from the plan's middle, for metres from the start."""
        line = self._lines[0]
        at = float(np.clip(metres, 0.0, len(line.right) - 1.0))
        k, share = int(at), at - int(at)
        j = min(k + 1, len(line.right) - 1)
        return QPointF(float((1 - share) * line.right[k] + share * line.right[j]), float((1 - share) * line.down[k] + share * line.down[j]))

    def on_screen(self, at: QPointF) -> QPointF:
        return (at - self.middle) * self.px_per_m + QPointF(self.width() / 2, self.height() / 2)

    def drawn_at(self, pixel: QPointF) -> QPointF:
        return (pixel - QPointF(self.width() / 2, self.height() / 2)) / self.px_per_m + self.middle

    def metres_near(self, pixel: QPointF) -> float | None:
        """Metres from the start to the place of the line nearest to a pixel; ``None`` where the line is not near it."""
        line, at = self._lines[0], self.drawn_at(pixel)
        far = np.hypot(line.right - at.x(), line.down - at.y())
        best = int(np.argmin(far))
        return float(best) if far[best] * self.px_per_m < NEAR_PX else None

    # Zoom

    @property
    def _whole_px_per_m(self) -> float:
        line = self._lines[-1]
        wide, high = max(float(np.ptp(line.right)), 1.0), max(float(np.ptp(line.down)), 1.0)
        return max(min((self.width() - 3 * MARGIN_PX) / wide, (self.height() - 2 * ABOVE_PX) / high), 1e-3)

    def show_whole(self) -> None:
        """The whole stage in the picture."""
        self.px_per_m, self.middle = self._whole_px_per_m, QPointF(0.0, 0.0)
        self.update()

    def zoom(self, steps: float, about: QPointF | None = None) -> None:
        """Zooms in by some steps, out by negative ones; the place under ``about`` stays where it is."""
        fixed = about if about is not None else QPointF(self.width() / 2, self.height() / 2)
        before = self.drawn_at(fixed)
        least = self._whole_px_per_m
        self.px_per_m = float(np.clip(self.px_per_m * ZOOM**steps, least, max(MOST_PX_PER_M, least)))
        if self.px_per_m == least:
            self.middle = QPointF(0.0, 0.0)
        else:
            self.middle = self.middle + before - self.drawn_at(fixed)
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if self.whole or self.px_per_m < self._whole_px_per_m:
            self.show_whole()

    def wheelEvent(self, event: QWheelEvent) -> None:
        if self.whole:
            event.ignore()
        else:
            self.zoom(event.angleDelta().y() / 120.0, event.position())

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._grabbed, self._moved = event.position(), False

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._grabbed is not None and not self.whole:
            by = event.position() - self._grabbed
            if self._moved or by.manhattanLength() > 4:
                self._moved = True
                self.middle = self.middle - by / self.px_per_m
                self._grabbed = event.position()
                self.update()
        elif not self.whole:
            on_line = self.metres_near(event.position()) is not None
            self.setCursor(Qt.CursorShape.PointingHandCursor if on_line else Qt.CursorShape.OpenHandCursor)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        grabbed, self._grabbed = self._grabbed, None
        if grabbed is None or self._moved:
            return
        for finding in self.stage.listed:
            if (self.mark_at(0.5 * (finding.from_m + finding.to_m)) - event.position()).manhattanLength() < NEAR_PX:
                self.stage.choose(finding)
                return
        if (metres := self.metres_near(event.position())) is not None:
            self.looked_at.emit(metres)

    # Painting

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: ARG002
        painter = QPainter(self)
        painter.fillRect(self.rect(), self.theme.colour("desk" if not self.whole else "paper"))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        review = self.stage.review
        self._draw(painter, 0.0, review.finish_m, QPen(self.theme.colour("ink"), 2.4))
        for stretch in review.measured.unmeasured:
            self._draw(painter, stretch.from_m, stretch.to_m, QPen(self.theme.colour("desk"), 5))
            self._draw(painter, stretch.from_m, stretch.to_m, QPen(self.theme.colour("faint"), 1.6, Qt.PenStyle.DashLine))
        for part in review.parts:
            self._draw(painter, part.from_m, part.to_m, QPen(self.theme.colour("road"), 6, Qt.PenStyle.DotLine))
        self._paint_scale(painter)
        if not self.whole:
            self._paint_calls(painter)
            if self.px_per_m >= ROOM_FOR_NOTES:
                self._paint_notes(painter)
            self._paint_findings(painter)
        self._paint_ends(painter)
        if self._car_m is not None:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(self.theme.colour("pencil"))
            painter.drawEllipse(self.on_screen(self.place_of(self._car_m)), 7, 7)
        painter.end()

    def _draw(self, painter: QPainter, from_m: float, to_m: float, pen: QPen) -> None:
        """The line from one place to another, as fine as can be seen and no more of it than is in the picture."""
        line = next((one for one in reversed(self._lines) if one.step * self.px_per_m <= 1.5), self._lines[0])
        first, end = int(max(from_m, 0.0) / line.step), min(int(np.ceil(to_m / line.step)) + 1, len(line.right))
        low, high = self.drawn_at(QPointF(-8, -8)), self.drawn_at(QPointF(self.width() + 8, self.height() + 8))
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        x = (line.right - self.middle.x()) * self.px_per_m + self.width() / 2
        y = (line.down - self.middle.y()) * self.px_per_m + self.height() / 2
        for a, b in line.in_picture(low, high):
            if min(b, end) - max(a, first) > 1:
                painter.drawPolyline(polygon(x[max(a, first) : min(b, end)], y[max(a, first) : min(b, end)]))

    def _visible(self, metres: float) -> QPointF | None:
        """A place's pixel, where it is in the picture."""
        at = self.on_screen(self.place_of(metres))
        return at if QRectF(self.rect()).adjusted(-20, -20, 20, 20).contains(at) else None

    def _aside(self, metres: float, by: float, side: int) -> QPointF:
        """A pixel beside the line: to its right (``side`` 1) or its left (-1)."""
        a, b = self.place_of(metres - 3.0), self.place_of(metres + 3.0)
        along = np.hypot(b.x() - a.x(), b.y() - a.y()) or 1.0
        across = QPointF(-(b.y() - a.y()) / along, (b.x() - a.x()) / along)
        return self.on_screen(self.place_of(metres)) + across * (by * side)

    def mark_at(self, metres: float) -> QPointF:
        return self._aside(metres, 15.0, 1)

    def _paint_calls(self, painter: QPainter) -> None:
        """A short stroke across the line where the car was at each call."""
        painter.setPen(QPen(self.theme.colour("pencil"), 1.6))
        for metres in self._called:
            if self._visible(metres) is not None:
                painter.drawLine(self._aside(metres, 3.0, -1), self._aside(metres, 9.0, -1))

    def _paint_notes(self, painter: QPainter) -> None:
        """The corner notes on the outside of their bends, as far as they have room."""
        taken = [self._scale_box()]
        chosen_first = sorted(self.stage.review.lineup.ties, key=lambda t: t.note != self.stage.note)
        for tie in chosen_first:
            if tie.bend is None or self._visible(tie.bend.apex_m) is None:
                continue
            chosen = tie.note == self.stage.note
            face = font(14, family="hand", bold=chosen)
            text = self.stage.book.edition.text_of(self.stage.review.notes[tie.note]).replace("\n", " / ")
            size = QFontMetricsF(face).boundingRect(text)
            side = 1 if tie.bend.side > 0 else -1
            at = self._aside(tie.bend.apex_m, 18.0, side)
            outward = at.x() >= self.on_screen(self.place_of(tie.bend.apex_m)).x()
            left = at.x() if outward else at.x() - size.width() - 4
            box = QRectF(min(max(left, 4.0), max(self.width() - size.width() - 8.0, 4.0)), at.y() - 10, size.width() + 4, 20)
            if any(box.intersects(other) for other in taken):
                continue
            taken.append(box)
            painter.fillRect(box, self.theme.colour("desk", 190))
            painter.setFont(face)
            painter.setPen(self.theme.colour("ink" if chosen else "faint"))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)

    def _paint_findings(self, painter: QPainter) -> None:
        decisions = self.stage.book.decisions
        for finding in sorted(self.stage.listed, key=lambda f: f.severity == "danger"):
            metres = 0.5 * (finding.from_m + finding.to_m)
            if self._visible(metres) is None:
                continue
            at = self.mark_at(metres)
            if finding is self.stage.finding:
                painter.setPen(QPen(self.theme.colour("ink"), 1.5))
                painter.setBrush(self.theme.colour("chosen"))
                painter.drawEllipse(at, 13, 13)
            decision = decisions.get(finding.id)
            draw_mark(painter, self.theme, mark_name(finding, decision.answer if decision else None), at, 14)
        for addition, place in self.stage.book.road.additions_on_road:
            if self._visible(place.from_m) is not None:
                draw_mark(painter, self.theme, addition.kind, self._aside(place.from_m, 15.0, -1), 13)
        for remark in self.stage.review.remarks:
            if self._visible(remark.at_m) is not None and self.px_per_m >= ROOM_FOR_NOTES:
                draw_mark(painter, self.theme, "speech", self._aside(remark.at_m, 15.0, -1), 11)

    def _paint_ends(self, painter: QPainter) -> None:
        painter.setFont(font(13))
        before = QFontMetricsF(font(13)).horizontalAdvance(tr("start")) + 8.0
        for words, metres, aside in ((gettext_noop("start"), 0.0, -before), (gettext_noop("finish"), self.stage.review.finish_m, 8.0)):
            at = self._visible(metres)
            if at is not None:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(self.theme.colour("ink"))
                painter.drawEllipse(at, 4, 4)
                painter.setPen(self.theme.colour("ink"))
                wide = painter.fontMetrics().horizontalAdvance(tr(words))
                painter.drawText(QPointF(min(max(at.x() + aside, 4.0), self.width() - wide - 4.0), at.y() + 5), tr(words))

    def _scale_box(self) -> QRectF:
        """Where the scale bar and its words stand; no note is written there."""
        return QRectF(0.0, self.height() - 36.0, 190.0, 36.0)

    def _paint_scale(self, painter: QPainter) -> None:
        """Draws a scale bar of some metres at the bottom, and which way north is."""
        metres = next((m for m in (5000, 2000, 1000, 500, 200, 100, 50, 20) if m * self.px_per_m < 160), 10)
        # Where the whole stage is shown its ends lie low as often as not.
        wide, y = metres * self.px_per_m, 24.0 if self.whole else self.height() - 12.0
        painter.setPen(QPen(self.theme.colour("faint"), 1.6))
        painter.drawLine(QPointF(12, y), QPointF(12 + wide, y))
        for x in (12.0, 12.0 + wide):
            painter.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))
        painter.setFont(font(13))
        painter.drawText(QPointF(12, y - 7), tr("{0} m, north up", metres))
