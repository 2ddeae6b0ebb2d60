"""How far long work has come: who does it is given a callable that is told what is being done and the share done, and that may raise
to cancel."""

from __future__ import annotations

from collections.abc import Callable

from mirkle.core.messages import Message

Progress = Callable[[Message, float], None]


def silent(_doing: Message, _share: float) -> None:
    """Tells nobody."""
