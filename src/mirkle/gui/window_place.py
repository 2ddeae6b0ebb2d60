"""The size and the place that the window had last, fitted into the screens that are there now."""

from __future__ import annotations

from PyQt6.QtCore import QPoint
from PyQt6.QtWidgets import QApplication, QWidget

from mirkle.session import settings

# What a window's frame takes of the screen's height.
FRAME_PX = 36


def put_back(window: QWidget) -> None:
    """Gives a window the size and place that were kept."""
    window.resize(*_kept_size())
    at = _kept_place()
    if at is not None:
        window.move(at)


def keep(window: QWidget) -> None:
    """Keeps a window's size and place; those of a full or maximized one say nothing about the next."""
    if not window.isFullScreen() and not window.isMaximized():
        settings.keep_setting("window", [window.width(), window.height()])
        settings.keep_setting("window-at", [window.x(), window.y()])


def _kept_size() -> tuple[int, int]:
    """The size that the window had last, on this screen with its frame around it."""
    kept = settings.setting("window", [1280, 800])
    wide, high = kept if isinstance(kept, list) and len(kept) == 2 and all(isinstance(n, int) for n in kept) else (1280, 800)
    screen = QApplication.primaryScreen()
    if screen is not None:
        room = screen.availableGeometry()
        wide, high = min(wide, room.width()), min(high, room.height() - FRAME_PX)
    return max(wide, 640), max(high, 480)


def _kept_place() -> QPoint | None:
    """Where the window stood last, as long as a screen is still there."""
    kept = settings.setting("window-at", None)
    if not (isinstance(kept, list) and len(kept) == 2 and all(isinstance(n, int) for n in kept)):
        return None
    at = QPoint(*kept)
    return at if any(s.availableGeometry().contains(at) for s in QApplication.screens()) else None
