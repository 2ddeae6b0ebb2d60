"""The places of what is open: each is made when it is first gone to, so that a stage stands on the screen the sooner, and all are taken
away together when another is opened."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from PyQt6.QtWidgets import QStackedWidget, QWidget


class MadePlaces:
    """Widgets by their places' names, in a stack of which one is shown."""

    def __init__(self, stack: QStackedWidget) -> None:
        self._stack = stack
        self._made: dict[str, QWidget] = {}

    def get(self, name: str, make: Callable[[], Any]) -> Any:
        """The widget of a place, made if it is not there yet."""
        if name not in self._made:
            self._made[name] = make()
            self._stack.addWidget(self._made[name])
        return self._made[name]

    def __iter__(self) -> Iterator[QWidget]:
        """Every widget that was made."""
        return iter(self._made.values())

    def leave(self, *names: str) -> None:
        """Takes the widgets of some places away, or of all."""
        for name in names or tuple(self._made):
            widget = self._made.pop(name, None)
            if widget is not None:
                self._stack.removeWidget(widget)
                widget.deleteLater()
