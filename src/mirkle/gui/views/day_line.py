"""One day of a rally as a line: stages, services and controls by their time, and now."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QFontMetricsF, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from mirkle.core.rally.itinerary import Item, next_start
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr

SIDE_PX, TOP_PX, BAR_PX, ROW_PX = 18, 58, 16, 19
# Rows for names above the line; a name that fits in none stands in the list below.
ROWS = 3
# Hours are named as far apart as this at least (px).
HOUR_PX = 64
# So much of the day is shown before its first item and behind its last.
MARGIN = timedelta(minutes=30)


class DayLine(QWidget):
    """Emits ``picked`` with the identity of the item that is clicked."""

    picked = pyqtSignal(str)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.theme = theme
        self.setFixedHeight(TOP_PX + BAR_PX + 34)
        self.setAccessibleName(tr("The day as a line"))
        self._items: list[Item] = []
        self._now, self._chosen = datetime.min, ""

    def set_theme(self, theme: Theme) -> None:
        """Paints in another theme from now on."""
        self.theme = theme
        self.update()

    def show_day(self, items: Sequence[Item], now: datetime, chosen: str) -> None:
        """Shows the items of one day, one of them chosen by its identity."""
        self._items, self._now, self._chosen = list(items), now, chosen
        self.setVisible(bool(self._items))
        self.update()

    @property
    def _ends(self) -> tuple[datetime, datetime]:
        first, last = min(i.start for i in self._items), max(i.end for i in self._items)
        if self._now.date() == first.date():
            # Now is on the line all day.
            first, last = min(first, self._now), max(last, self._now)
        return first - MARGIN, last + MARGIN

    def x_of(self, moment: datetime) -> float:
        """Where a moment lies, pixels from the left."""
        first, last = self._ends
        return SIDE_PX + (self.width() - 2 * SIDE_PX) * ((moment - first) / (last - first))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._items:
            at = event.position().x()
            self.picked.emit(min(self._items, key=lambda item: abs(self.x_of(item.start + (item.end - item.start) / 2) - at)).uid)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        if not self._items:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._hours(painter)
        coming = next_start(self._items, self._now)
        for item in self._items:
            self._box(painter, item, is_next=coming is not None and item.uid == coming.uid)
        self._names(painter)
        self._now_mark(painter)
        painter.end()

    def _hours(self, painter: QPainter) -> None:
        first, last = self._ends
        base = TOP_PX + BAR_PX + 4
        painter.setPen(QPen(self.theme.colour("rule"), 2))
        painter.drawLine(QPointF(SIDE_PX, TOP_PX + BAR_PX / 2), QPointF(self.width() - SIDE_PX, TOP_PX + BAR_PX / 2))
        painter.setFont(font(12))
        hour = first.replace(minute=0) + timedelta(hours=1)
        hour_px = self.x_of(hour + timedelta(hours=1)) - self.x_of(hour)
        step = max(1, round(HOUR_PX / max(hour_px, 1.0) + 0.49))
        while hour <= last:
            if hour.hour % step == 0:
                x = self.x_of(hour)
                painter.setPen(self.theme.colour("faint"))
                painter.drawText(QRectF(x - 30, base, 60, 18), Qt.AlignmentFlag.AlignCenter, f"{hour:%H:%M}")
            hour += timedelta(hours=1)

    def _box(self, painter: QPainter, item: Item, *, is_next: bool) -> None:
        x, width = self.x_of(item.start), max(4.0, self.x_of(item.end) - self.x_of(item.start))
        box = QRectF(x, TOP_PX, width, BAR_PX)
        painter.setPen(QPen(self.theme.colour("pencil" if item.uid == self._chosen else "ink"), 2 if item.uid == self._chosen else 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if item.kind == "stage" and item.cancelled:
            painter.setBrush(QBrush(self.theme.colour("road"), Qt.BrushStyle.BDiagPattern))
        elif item.kind == "stage":
            painter.setBrush(self.theme.colour("ink" if is_next else "road"))
        elif item.kind == "liaison":
            box = QRectF(x, TOP_PX + BAR_PX / 2 - 2, width, 4)
        elif item.kind == "control":
            painter.drawLine(QPointF(x, TOP_PX - 2), QPointF(x, TOP_PX + BAR_PX + 2))
            return
        else:
            painter.setBrush(self.theme.colour("paper"))
        painter.drawRect(box)

    def _names(self, painter: QPainter) -> None:
        """Names above their boxes, each in the lowest row that has room; those that are driven first."""
        rows: list[list[tuple[float, float]]] = [[] for _ in range(ROWS)]
        order = {"stage": 0, "service": 1, "control": 2, "liaison": 3, "other": 4}
        for item in sorted(self._items, key=lambda i: (order[i.kind], i.start)):
            style = font(13, bold=item.kind == "stage")
            style.setStrikeOut(item.cancelled)
            width = QFontMetricsF(style).horizontalAdvance(item.name) + 4
            x = min(self.x_of(item.start), self.width() - SIDE_PX - width)
            row = next((r for r in range(ROWS) if all(x > b + 8 or x + width < a - 8 for a, b in rows[r])), None)
            if row is None:
                continue
            rows[row].append((x, x + width))
            painter.setFont(style)
            painter.setPen(self.theme.colour("faint" if item.cancelled or item.kind != "stage" else "ink"))
            top = TOP_PX - 2 - (row + 1) * ROW_PX + (ROW_PX - 18)
            painter.drawText(QRectF(x, top, width, 18), Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, item.name)

    def _now_mark(self, painter: QPainter) -> None:
        first, last = self._ends
        if not first <= self._now <= last:
            return
        x = self.x_of(self._now)
        painter.setPen(QPen(self.theme.colour("pencil"), 2))
        painter.drawLine(QPointF(x, TOP_PX - 4), QPointF(x, TOP_PX + BAR_PX + 4))
        painter.setBrush(self.theme.colour("pencil"))
        base = TOP_PX + BAR_PX
        painter.drawPolygon(QPolygonF([QPointF(x, base + 2), QPointF(x - 5, base + 9), QPointF(x + 5, base + 9)]))
        clock = f"{self._now:%H:%M}"
        words = tr("now {0}", clock)
        painter.setFont(font(12, bold=True))
        width = QFontMetricsF(painter.font()).horizontalAdvance(words) + 4
        left = min(max(x - width / 2, 2.0), self.width() - width - 2)
        painter.fillRect(QRectF(left, TOP_PX + BAR_PX + 10, width, 17), self.theme.colour("desk"))
        painter.setPen(self.theme.colour("pencil"))
        painter.drawText(QRectF(left, TOP_PX + BAR_PX + 10, width, 17), Qt.AlignmentFlag.AlignCenter, words)
