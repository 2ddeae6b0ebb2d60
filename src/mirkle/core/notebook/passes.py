"""What a pass of the stage is made of."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

# The key of a field's metadata that says what the field is called in project files, where that is not its name.
NAME_IN_FILES = "name in files"
# What crews write of a pass and its road, in the languages of the window.
SAID_AS = {
    "wet": frozenset(("wet", "rain", "rainy", "raining", "damp", "molhado", "molhada", "chuva", "húmido", "húmida")),
    "night": frozenset(("night", "dark", "noite", "noturno", "noturna", "nocturno", "nocturna")),
    "gravel": frozenset(("gravel", "terra")),
    "tarmac": frozenset(("tarmac", "asphalt", "asfalto")),
    "snow": frozenset(("snow", "ice", "neve", "gelo")),
}


@dataclass(frozen=True)
class Pass:
    """One drive of the stage: what was recorded of it, and which edition of the book was read; all are numbers of material, ``None``
    where there is none.

    ``kind`` is ``reconnaissance``, ``first`` or ``later``; ``day`` is free text, such as a date, and so are ``tyres``, ``fuel`` and
    ``setup``, which say what the car was like. ``extra`` holds keys that a newer program
    wrote: they are written back as they came.
    """

    id: int
    run: int | None
    notes: int | None
    calls: int | None = None
    media: int | None = None
    overrides: int | None = field(default=None, metadata={NAME_IN_FILES: "by_hand"})
    kind: str = "first"
    day: str = ""
    tyres: str = ""
    fuel: str = ""
    setup: str = ""
    extra: Mapping[str, Any] = field(default_factory=dict, hash=False)

    @property
    def conditions(self) -> frozenset[str]:
        """What the pass was like by what the crew wrote of it: ``wet``, ``night``, ``gravel``, ``tarmac`` or ``snow``, and ``later`` where
        the stage was driven before."""
        words = set(re.findall(r"\w+", self.day.casefold()))
        found = {condition for condition, said in SAID_AS.items() if words & said}
        return frozenset(found | ({"later"} if self.kind == "later" else set()))
