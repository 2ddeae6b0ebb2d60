"""A signal without Qt: the model emits, whoever listens is told; listeners are held weakly."""

from __future__ import annotations

import threading
import weakref
from collections.abc import Callable
from typing import Any


class Signal:
    """Bound methods are held weakly, so that a closed window is not kept alive by the model.

    Who listens is told in the thread in which it began to listen, and in no other: a window that is painted beside the interface takes
    the program down, now or some other day.
    """

    def __init__(self) -> None:
        self._listeners: list[Callable[[], Callable[..., None] | None]] = []
        self._thread = 0

    def connect(self, listener: Callable[..., None]) -> None:
        """Calls ``listener`` at each :meth:`emit` from now on."""
        self._thread = threading.get_ident()
        if hasattr(listener, "__self__"):
            self._listeners.append(weakref.WeakMethod(listener))
        else:
            self._listeners.append(lambda: listener)

    def emit(self, *values: Any) -> None:
        """Tells everybody who still listens.

        Raises
        ------
        RuntimeError
            Somebody listens in another thread.
        """
        if self._listeners and threading.get_ident() != self._thread:
            raise RuntimeError("a signal was sent from another thread than its listeners'")
        alive = []
        for reference in self._listeners:
            listener = reference()
            if listener is not None:
                alive.append(reference)
                listener(*values)
        self._listeners = alive
