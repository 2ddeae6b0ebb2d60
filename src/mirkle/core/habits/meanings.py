"""What a crew's words come to in metres: its link words, and its lengths of a corner, over all its stages."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from mirkle.core.habits.evidence import PassEvidence
from mirkle.core.habits.pooled import books_once

# Of fewer places nothing is said; of the others the middle half is.
LEAST_PLACES = 6
LOW, HIGH = 25.0, 75.0


@dataclass(frozen=True)
class Meaning:
    """A word by its term, from and to how many metres half of its places come, and how many ``places`` that is."""

    word: str
    from_m: float
    to_m: float
    places: int


def meanings_of(evidence: Sequence[PassEvidence]) -> list[Meaning]:
    """The words of which enough places were measured, the shortest first."""
    metres: dict[str, list[float]] = {}
    for one in books_once(evidence):
        for word, length_m in one.meant:
            metres.setdefault(word, []).append(length_m)
    found = [
        Meaning(word, float(np.percentile(lengths, LOW)), float(np.percentile(lengths, HIGH)), len(lengths))
        for word, lengths in metres.items()
        if len(lengths) >= LEAST_PLACES
    ]
    return sorted(found, key=lambda meaning: meaning.from_m + meaning.to_m)
