"""How far long work has come: who does it is given a callable that is told what is being done and the share done, and that may raise
to cancel."""

from __future__ import annotations

from collections.abc import Callable

from mirkle.core.messages import Clause

Progress = Callable[[Clause, float], None]


def silent(_doing: Clause, _share: float) -> None:
    """Tells nobody."""
