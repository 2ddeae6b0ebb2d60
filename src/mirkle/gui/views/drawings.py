"""The drawings of the evidence: the crew's scale with this corner on it, the traces, and the place from above."""

from __future__ import annotations

import math
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from mirkle.core.constants import GRAVITY_MPS2, kmh
from mirkle.core.judging.corners import A_BEND_DEG
from mirkle.core.judging.finding_kinds import KINDS
from mirkle.core.judging.findings import Finding
from mirkle.core.judging.scale import Ruler
from mirkle.core.messages import gettext_noop
from mirkle.core.motion.bends import Bend
from mirkle.core.notes.grading import whole_grade
from mirkle.core.review import Review
from mirkle.gui.labels import short_grade
from mirkle.gui.shapes import colour_of, polygon
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr
from mirkle.session.reviewed_pass import ReviewedPass

AROUND_M = 90.0


def bend_of(review: Review, finding: Finding) -> tuple[Bend | None, float | None]:
    """The bend that a finding is about and where it lies on the crew's scale, where there is one."""
    drawing = KINDS[finding.kind].drawing
    if drawing == "uncalled":
        return next(iter(uncalled_in(review, finding)), (None, None))
    tie = review.lineup.tie_of.get(finding.note)
    if tie is None or drawing in ("unmet", "vertical"):
        return None, None
    return tie.bend, tie.position


def uncalled_in(review: Review, finding: Finding) -> list[tuple[Bend, float]]:
    """The bends without a note that a finding is about, with their places on the crew's scale."""
    first, last = finding.from_m - 1, finding.to_m + 1
    left = [(u.bend, u.position) for u in review.lineup.uncalled if u.bend.turn_deg > A_BEND_DEG]
    return [(bend, position) for bend, position in left if first < bend.from_m and bend.to_m < last]


def corners_between(review: Review, finding: Finding) -> list[tuple[Bend, float]]:
    """The bends of a finding's stretch with their places on the crew's scale, in the order of the road, called or not."""
    called = [(t.bend, t.position) for t in review.lineup.ties if t.bend is not None and t.position is not None]
    inside = [(b, p) for b, p in called if finding.from_m - 1 <= b.apex_m <= finding.to_m + 1]
    return sorted([*inside, *uncalled_in(review, finding)], key=lambda corner: corner[0].apex_m)


# One place, or an array of them.
Place = TypeVar("Place", float, NDArray[np.float64])


class Drawing(QWidget):
    """A drawing of the chosen finding; ``about`` is what a screen reader says of it."""

    about = ""

    def __init__(self, stage: ReviewedPass, theme: Theme, height: int) -> None:
        super().__init__()
        self.stage, self.theme = stage, theme
        self.setMinimumHeight(height)
        self.setAccessibleName(tr(self.about))
        self.car_m: float | None = None

    def show_car(self, at_m: float | None) -> None:
        """Shows where the car was at the moment that is heard, or nothing."""
        self.car_m = at_m
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: ARG002
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.stage.finding is not None:
            self.draw(painter, self.stage.finding)
        painter.end()

    def draw(self, painter: QPainter, finding: Finding) -> None:
        """Draws the finding."""
        raise NotImplementedError

    def write(self, painter: QPainter, at: QPointF, text: str, colour: str = "faint") -> None:
        """A line of small text."""
        painter.setFont(font(13))
        painter.setPen(self.theme.colour(colour))
        painter.drawText(at, text)

    def write_up_to(self, painter: QPainter, at: QPointF, text: str) -> None:
        """A line of small text that ends at a point."""
        painter.setFont(font(13))
        self.write(painter, at - QPointF(painter.fontMetrics().horizontalAdvance(text), 0.0), text)


class ScaleBar(Drawing):
    """The crew's grades side by side: which was called, and where this corner lies."""

    about = gettext_noop("Your grades, with the one called and where this corner lies")

    def __init__(self, stage: ReviewedPass, theme: Theme, height: int) -> None:
        super().__init__(stage, theme, height)
        self.setToolTip(tr("The bar: how far your notes usually scatter. Wider after a slide or with a coarse recording."))

    def draw(self, painter: QPainter, finding: Finding) -> None:
        """Boxes for the grades, a frame on the called one, a triangle at the met one."""
        drawing = KINDS[finding.kind].drawing
        if drawing == "distance":
            called_m, met_m = finding.facts.get("called_m", 0.0), finding.facts.get("met_m", 0.0)
            self._draw_lengths(
                painter, tr("the distance, called and met"), ((tr("called"), called_m, "ink"), (tr("met"), met_m, "span")), ""
            )
            return
        if drawing == "call":
            lead, habit = finding.facts.get("lead_s", 0.0), finding.facts.get("habit_s", 0.0)
            rows = ((tr("you need"), habit, "ink"), (tr("here"), max(lead, 0.0), "span"))
            self._draw_lengths(painter, tr("from the call to the corner, in seconds"), rows, " s")
            return
        if drawing == "vertical":
            self._draw_load(painter, finding)
            return
        review = self.stage.review
        if finding.cause:
            self._draw_corners(painter, finding)
            return
        bend, position = bend_of(review, finding)
        note = review.notes[finding.note]
        called = review.school.tightest_grade(note) if drawing != "uncalled" else None
        ruler = review.ruler(bend, position) if bend is not None and position is not None else None
        grades = [g for g in review.school.grades if g != "flat"]
        self.write(painter, QPointF(0, 14), self._heading(ruler.measure, bend) if ruler and bend else tr("your grades"))
        width = self._box_px()
        top, height = 34.0, 26.0
        for i, grade in enumerate(grades):
            box = QRectF(i * width, top, width, height)
            painter.fillRect(box, self.theme.colour("chosen" if i % 2 else "rule"))
            painter.setFont(font(14))
            painter.setPen(self.theme.colour("ink"))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, short_grade(grade))
            if i and ruler is not None and not math.isnan(ruler.borders[i - 1]):
                painter.setFont(font(13))
                painter.setPen(self.theme.colour("faint"))
                border = QRectF(i * width - 24, top - 18, 48, 16)
                painter.drawText(border, Qt.AlignmentFlag.AlignCenter, _shown(ruler.measure, ruler.borders[i - 1]))
        both = False
        met_x = self._place(position) * width if position is not None else -100.0
        if called is not None and (name := whole_grade(called)) in grades:
            at = grades.index(name)
            painter.setPen(QPen(self.theme.colour("ink"), 2.5))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(at * width + 1, top - 1, width - 2, height + 2))
            # Under its own grade and no other: where the triangle stands there, one line says both.
            both = abs(met_x - (at + 0.5) * width) < 34
            if not both:
                self._centred(painter, (at + 0.5) * width, top + height + 19, tr("called"), "ink")
        if ruler is not None and bend is not None:
            words = _met_words(ruler, bend)
            words = tr("called, and {0}", words) if both else words
            self._draw_met(painter, finding, words, met_x, top + height)

    def _draw_corners(self, painter: QPainter, finding: Finding) -> None:
        """Every corner of a stretch in a row, by what it turned like: what explains a heap of findings is about all of them."""
        review = self.stage.review
        corners = corners_between(review, finding)
        self.write(painter, QPointF(0, 14), tr("the corners of the road here; left above the line, right below"))
        middle, half = 0.5 * (22.0 + self.height()), 0.5 * (self.height() - 24.0)
        painter.setPen(QPen(self.theme.colour("ink"), 2))
        painter.drawLine(QPointF(0, middle), QPointF(self.width(), middle))
        room = self.width() / max(len(corners), 1)
        wide = min(room - 6, 44.0)
        for i, (bend, position) in enumerate(corners):
            left = (i + 0.5) * room - 0.5 * wide
            box = QRectF(left, middle - half if bend.side > 0 else middle + 2, wide, half - 2)
            painter.fillRect(box, self.theme.colour("chosen"))
            painter.setFont(font(14))
            painter.setPen(self.theme.colour("ink"))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, review.ruler(bend, position).grade)

    def _heading(self, measure: str, bend: Bend) -> str:
        """What the numbers are, and what else of this bend counts in the crew's grades."""
        if measure == "angle":
            return tr("your grades at {0:.0f} m radius, in degrees turned", bend.radius_m)
        if measure == "speed":
            return tr("your grades for a bend of {0:.0f}°, in km/h", bend.turn_deg)
        return tr("your grades for a bend of {0:.0f}°, radius in metres", bend.turn_deg)

    def _draw_met(self, painter: QPainter, finding: Finding, words: str, x: float, y: float) -> None:
        colour = colour_of(finding)
        scatter = finding.facts.get("scatter_grades")
        if scatter is not None:
            half = scatter * self._box_px()
            painter.fillRect(QRectF(x - half, y + 2, 2 * half, 5), self.theme.colour(colour, 90))
        x = min(max(x, 6.0), self.width() - 6.0)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(self.theme.colour(colour))
        painter.drawPolygon(QPolygonF([QPointF(x - 8, y + 13), QPointF(x + 8, y + 13), QPointF(x, y + 2)]))
        self._centred(painter, x, y + 35, words, colour)

    def _draw_lengths(self, painter: QPainter, title: str, rows: tuple[tuple[str, float, str], ...], unit: str) -> None:
        """Two lengths under each other."""
        self.write(painter, QPointF(0, 14), title)
        most = max(*(value for _, value, _ in rows), 1.0)
        room = self.width() - 110
        for row, (words, value, colour) in enumerate(rows):
            y = 40.0 + 26 * row
            painter.setPen(QPen(self.theme.colour(colour), 4))
            painter.drawLine(QPointF(0, y), QPointF(room * value / most, y))
            shown = tr("{0:.1f}{1}", value, unit) if unit else f"{value:.0f}"
            self.write(painter, QPointF(room * value / most + 8, y + 5), f"{words} {shown}", colour)

    def _draw_load(self, painter: QPainter, finding: Finding) -> None:
        """The load felt through the place, from nothing in the air to twice the car's weight."""
        load = self.stage.review.measured.load_g
        self.write(painter, QPointF(0, 14), tr("load; at the lower line the car is weightless"))
        if load is None or not len(load):
            return
        first = max(0, int(finding.from_m - 40))
        last = min(len(load) - 1, int(finding.to_m + 40))
        top, bottom = 22.0, self.height() - 8.0
        at = np.arange(first, last + 1)
        x = (at - first) / max(last - first, 1) * self.width()
        y = bottom - (bottom - top) * np.clip(load[first : last + 1], -0.1, 2.2) / 2.2
        for weight, colour in ((0.0, "span"), (1.0, "rule")):
            height = bottom - (bottom - top) * weight / 2.2
            painter.setPen(QPen(self.theme.colour(colour), 1))
            painter.drawLine(QPointF(0, height), QPointF(self.width(), height))
        painter.setPen(QPen(self.theme.colour("ink"), 2))
        painter.drawPolyline(polygon(x, y))

    def _centred(self, painter: QPainter, x: float, y: float, text: str, colour: str) -> None:
        painter.setFont(font(13))
        painter.setPen(self.theme.colour(colour))
        half = painter.fontMetrics().horizontalAdvance(text) / 2
        painter.drawText(QPointF(min(max(x - half, 0.0), self.width() - 2 * half), y), text)

    def _box_px(self) -> float:
        """How wide the box of a grade is."""
        return self.width() / sum(g != "flat" for g in self.stage.review.school.grades)

    def _place(self, position: float) -> float:
        """Boxes from the left for a position: hairpin is the first box, square the second, then the numbers."""
        return position - self.stage.review.school.position(self.stage.review.school.grades[0]) + 0.5


def _shown(measure: str, value: float) -> str:
    return f"{kmh(value) if measure == 'speed' else value:.0f}"


def _met_words(ruler: Ruler, bend: Bend) -> str:
    """The bend's own value of the measure that the crew grades by."""
    if ruler.measure == "angle":
        return tr("met {0:.0f} ± {1:.0f}°", bend.turn_deg, max(1.0, bend.turn_sd_deg))
    if ruler.measure == "speed":
        return tr("met {0:.0f} km/h", kmh(bend.speed_min_mps))
    return tr("met {0:.0f} ± {1:.0f} m", bend.radius_m, max(1.0, bend.radius_sd_m))


class Traces(Drawing):
    """Speed, braking and how tight, through the place and a little before and after."""

    about = gettext_noop("Speed, braking and how tight it was, through this place")

    def draw(self, painter: QPainter, finding: Finding) -> None:
        """Three lines under each other over the same stretch of road."""
        profile = self.stage.review.profile
        first = max(0, int(finding.from_m - AROUND_M))
        last = min(len(profile.distance_m) - 1, int(finding.to_m + AROUND_M))
        at = np.linspace(first, last, 100)
        speed = np.interp(at, profile.distance_m, profile.speed_mps)
        slowing = np.maximum(-np.gradient(0.5 * speed**2, at), 0.0) / GRAVITY_MPS2
        bent = np.interp(at, profile.distance_m, np.abs(profile.curvature_per_m))

        def x(metres: Place) -> Place:
            return (metres - first) / (last - first) * self.width()

        painter.fillRect(
            QRectF(x(finding.from_m), 0, max(3.0, x(finding.to_m) - x(finding.from_m)), self.height() - 18), self.theme.colour("chosen")
        )
        lane = (self.height() - 22) / 3
        lanes = (
            (tr("speed, {0:.0f} to {1:.0f} km/h", kmh(speed.max()), kmh(speed.min())), speed, 1.0, "ink"),
            (tr("braking, up to {0:.1f} g", slowing.max()), slowing, 0.5, "span"),
            (tr("how tight"), bent, 0.01, "faint"),
        )
        for row, (words, values, least_top, colour) in enumerate(lanes):
            top, bottom = row * lane + 18, (row + 1) * lane - 3
            y = bottom - (bottom - top) * values / max(float(values.max()), least_top)
            painter.setPen(QPen(self.theme.colour("rule"), 1))
            painter.drawLine(QPointF(0, bottom + 2), QPointF(self.width(), bottom + 2))
            painter.setPen(QPen(self.theme.colour(colour), 2))
            painter.drawPolyline(polygon(x(at), y))
            self.write(painter, QPointF(0, row * lane + 13), words)
        if self.car_m is not None and first <= self.car_m <= last:
            painter.setPen(QPen(self.theme.colour("pencil"), 2))
            painter.drawLine(QPointF(x(self.car_m), 0), QPointF(x(self.car_m), self.height() - 18.0))
        self.write(painter, QPointF(0, self.height() - 3), tr("{0:.2f} km", first / 1000))
        self.write_up_to(painter, QPointF(self.width(), self.height() - 3), tr("{0:.2f} km", last / 1000))


class FromAbove(Drawing):
    """The driven line from above, the way in at the bottom."""

    about = gettext_noop("The place from above")

    def draw(self, painter: QPainter, finding: Finding) -> None:
        """The line turned so that the car comes in from below."""
        plan, profile = self.stage.review.measured.plan, self.stage.review.profile
        first = max(0, int(finding.from_m - 45))
        last = min(len(plan.east_m) - 1, int(finding.to_m + 45))
        heading = float(profile.heading_rad[first])
        east, north = (plan.east_m[first : last + 1] - plan.east_m[first], plan.north_m[first : last + 1] - plan.north_m[first])
        turn = math.pi / 2 - heading
        right = np.cos(turn) * east - np.sin(turn) * north
        up = np.sin(turn) * east + np.cos(turn) * north
        span = max(float(np.ptp(right)), float(np.ptp(up)) * self.width() / self.height(), 30.0)
        scale = (self.width() - 36) / span
        scale = min(scale, (self.height() - 30) / max(float(np.ptp(up)), 1.0))
        x0 = self.width() / 2 - scale * 0.5 * float(right.max() + right.min())
        y0 = self.height() / 2 + scale * 0.5 * float(up.max() + up.min())
        points = polygon(x0 + scale * right[::2], y0 - scale * up[::2])
        painter.fillRect(self.rect(), self.theme.colour("desk"))
        pen = QPen(self.theme.colour("road"), max(6.0, 6.0 * scale))
        pen.setCapStyle(Qt.PenCapStyle.FlatCap)
        pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
        painter.setPen(pen)
        painter.drawPolyline(points)
        inside = points.mid(int((finding.from_m - first) // 2), int((finding.to_m - finding.from_m) // 2) + 1)
        painter.setPen(QPen(self.theme.colour("ink"), 1.5))
        painter.drawPolyline(points)
        painter.setPen(QPen(self.theme.colour("danger" if finding.severity == "danger" else "ink"), 3.5))
        painter.drawPolyline(inside)
        painter.setBrush(self.theme.colour("ink"))
        painter.setPen(Qt.PenStyle.NoPen)
        tip = points[0]
        painter.drawPolygon(QPolygonF([tip + QPointF(-5, 4), tip + QPointF(5, 4), tip + QPointF(0, -7)]))
        if self.car_m is not None and first <= self.car_m <= last:
            painter.setBrush(self.theme.colour("pencil"))
            at = min(int(self.car_m) - first, len(right) - 1)
            painter.drawEllipse(QPointF(x0 + scale * right[at], y0 - scale * up[at]), 6, 6)
        # Beside the way in, on the side with more room.
        if tip.x() < self.width() / 2:
            self.write_up_to(painter, QPointF(self.width() - 6.0, self.height() - 7), tr("from above"))
        else:
            self.write(painter, QPointF(6.0, self.height() - 7), tr("from above"))
