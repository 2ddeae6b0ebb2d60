"""What a widget writes, and where: its painting goes to a device that keeps each text with its place instead of showing it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from PyQt6.QtCore import QPoint, QPointF, QRectF
from PyQt6.QtGui import QPaintDevice, QPaintEngine, QPaintEngineState, QRegion, QTextItem, QTransform
from PyQt6.QtWidgets import QWidget

Metric = QPaintDevice.PaintDeviceMetric
Dirty = QPaintEngine.DirtyFlag
# A text reaches this much beyond its letters without touching anything (points).
SLACK_PX = 1.5


@dataclass(frozen=True)
class Painted:
    """A text, the widget that painted it, where it is in the window, and the part of the window in which it shows."""

    text: str
    widget: QWidget
    place: QRectF
    shown: QRectF

    @property
    def is_cut(self) -> bool:
        """Whether letters at its beginning or end don't show: what is scrolled up or down is not cut."""
        if not self.text.strip() or self.shown.isEmpty():
            return False
        left, right = self.shown.left() - SLACK_PX, self.shown.right() + SLACK_PX
        return self.place.left() < left or self.place.right() > right

    def covers(self, other: Painted) -> bool:
        """Whether its letters lie on those of another text."""
        both = self.letters.intersected(other.letters)
        return both.width() > SLACK_PX and both.height() > SLACK_PX

    @property
    def letters(self) -> QRectF:
        """About where the letters themselves are: accents and descenders of two lines may share their room."""
        high = self.place.height()
        return self.place.adjusted(0, 0.22 * high, 0, -0.22 * high).intersected(self.shown)


class _Keeper(QPaintEngine):
    """Keeps each text with its place and the clip, in the device's points."""

    def __init__(self) -> None:
        super().__init__(QPaintEngine.PaintEngineFeature.AllFeatures)
        self.texts: list[tuple[str, QRectF, QRectF | None]] = []
        self._transform, self._clip = QTransform(), None

    def begin(self, _device: QPaintDevice | None) -> bool:
        self.setActive(True)
        return True

    def end(self) -> bool:
        self.setActive(False)
        return True

    def type(self) -> QPaintEngine.Type:
        return QPaintEngine.Type.User

    def updateState(self, state: QPaintEngineState) -> None:
        changed = state.state()
        if changed & Dirty.DirtyTransform:
            self._transform = state.transform()
        if changed & (Dirty.DirtyClipRegion | Dirty.DirtyClipPath | Dirty.DirtyClipEnabled):
            region = state.clipPath().boundingRect() if changed & Dirty.DirtyClipPath else QRectF(state.clipRegion().boundingRect())
            self._clip = self._transform.mapRect(region) if state.isClipEnabled() else None

    def drawTextItem(self, at: QPointF, item: QTextItem) -> None:
        place = QRectF(at.x(), at.y() - item.ascent(), item.width(), item.ascent() + item.descent())
        self.texts.append((item.text(), self._transform.mapRect(place), self._clip))

    def _nothing(self, *_: object) -> None:
        pass

    drawPath = drawPixmap = drawImage = drawPolygon = drawRects = drawLines = drawEllipse = drawPoints = drawTiledPixmap = _nothing


class _Device(QPaintDevice):
    def __init__(self, widget: QWidget) -> None:
        super().__init__()
        self.keeper, self._widget = _Keeper(), widget

    def paintEngine(self) -> QPaintEngine:
        return self.keeper

    def metric(self, metric: Metric) -> int:
        sizes = {Metric.PdmWidth: self._widget.width(), Metric.PdmHeight: self._widget.height()}
        sizes |= {Metric.PdmWidthMM: self._widget.widthMM(), Metric.PdmHeightMM: self._widget.heightMM(), Metric.PdmDepth: 32}
        dots = (Metric.PdmDpiX, Metric.PdmDpiY, Metric.PdmPhysicalDpiX, Metric.PdmPhysicalDpiY)
        sizes |= dict.fromkeys(dots, 96) | {Metric.PdmDevicePixelRatio: 1, Metric.PdmDevicePixelRatioScaled: 65536}
        return int(sizes.get(metric, 0))


def texts_of(window: QWidget) -> Iterator[Painted]:
    """Every text that a window and the widgets in it paint now."""
    for widget in (window, *window.findChildren(QWidget)):
        # A window of its own is another's affair.
        if not widget.isVisible() or widget.window() is not window or widget.visibleRegion().isEmpty():
            continue
        device = _Device(widget)
        widget.render(device, QPoint(), QRegion(), QWidget.RenderFlag(0))
        corner = QPointF(widget.mapTo(window, QPoint()))
        shows = QRectF(widget.visibleRegion().boundingRect())
        for text, place, clip in device.keeper.texts:
            shown = shows if clip is None else shows.intersected(clip)
            yield Painted(text, widget, place.translated(corner), shown.translated(corner))
