"""Panes side by side, whose dividers can be dragged; where they were left is kept."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QSplitter, QVBoxLayout, QWidget

from mirkle.gui.translation import tr
from mirkle.session import settings


def panes(parent: QWidget, name: str, *parts: tuple[QWidget, int]) -> QVBoxLayout:
    """Fills a widget with panes that have shares of its width, and returns its layout; the shares of ``name`` are kept."""
    split = split_of(name, *parts)
    column = QVBoxLayout(parent)
    column.addWidget(split)
    return column


def split_of(name: str, *parts: tuple[QWidget, int]) -> _Panes:
    """The panes of a name side by side. None can be dragged away; a double click on a divider does nothing to any note."""
    kept = settings.setting(f"panes-{name}", None)
    shares = [share for _, share in parts]
    if isinstance(kept, list) and len(kept) == len(parts) and all(isinstance(n, int) and n > 0 for n in kept):
        shares = kept
    split = _Panes(shares)
    split.setObjectName("panes")
    split.setChildrenCollapsible(False)
    split.setHandleWidth(8)
    for part, _ in parts:
        split.addWidget(part)
    for at in range(1, split.count()):
        handle = split.handle(at)
        if handle is not None:
            handle.setAccessibleName(tr("Divider: drag it to give a pane more room"))
            handle.setToolTip(tr("Drag it to give a pane more room"))
    split.splitterMoved.connect(lambda *_: settings.keep_setting(f"panes-{name}", split.remembered()))
    return split


class _Panes(QSplitter):
    """Panes that keep their shares when the window becomes wider or narrower."""

    def __init__(self, shares: list[int]) -> None:
        super().__init__(Qt.Orientation.Horizontal)
        self._shares = shares

    def remembered(self) -> list[int]:
        """The shares as they were dragged."""
        self._shares = self.sizes()
        return self._shares

    def resizeEvent(self, event: QResizeEvent) -> None:
        room = self.width() - self.handleWidth() * (self.count() - 1)
        self.setSizes([room * share // sum(self._shares) for share in self._shares])
        super().resizeEvent(event)
