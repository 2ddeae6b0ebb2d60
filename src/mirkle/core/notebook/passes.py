"""What a pass of the stage is made of."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any


@dataclass(frozen=True)
class Pass:
    """One drive of the stage: what was recorded of it, and which edition of the book was read; all are numbers of material, ``None``
    where there is none.

    ``kind`` is ``reconnaissance``, ``first`` or ``later``; ``day`` is free text, such as a date. ``extra`` holds keys that a newer program
    wrote: they are written back as they came.
    """

    id: int
    run: int | None
    notes: int | None
    calls: int | None = None
    media: int | None = None
    by_hand: int | None = None
    kind: str = "first"
    day: str = ""
    extra: Mapping[str, Any] = field(default_factory=dict, hash=False)
