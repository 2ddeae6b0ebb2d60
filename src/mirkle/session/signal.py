"""A signal without Qt: the model emits, whoever listens is told; listeners are held weakly."""

from __future__ import annotations

import weakref
from collections.abc import Callable
from typing import Any


class Signal:
    """Bound methods are held weakly, so that a closed window is not kept alive by the model."""

    def __init__(self) -> None:
        self._listeners: list[Callable[[], Callable[..., None] | None]] = []

    def connect(self, listener: Callable[..., None]) -> None:
        """Calls ``listener`` at each :meth:`emit` from now on."""
        if hasattr(listener, "__self__"):
            self._listeners.append(weakref.WeakMethod(listener))
        else:
            self._listeners.append(lambda: listener)

    def emit(self, *values: Any) -> None:
        """Tells everybody who still listens."""
        alive = []
        for reference in self._listeners:
            listener = reference()
            if listener is not None:
                alive.append(reference)
                listener(*values)
        self._listeners = alive
