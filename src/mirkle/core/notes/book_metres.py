"""How long a road is by the book alone: its distances, and corners of a usual length."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from mirkle.core.notes.model import Note

# How long a corner is by its word of length, and without one; how far it is to the next corner where a word links them, metres. # from
# memory
LENGTHS_M = {"short": 20.0, "long": 60.0, "very long": 90.0, "extra long": 120.0}
CORNER_M, LINKED_M = 35.0, 10.0


def corner_length_m(note: Note) -> float:
    """How long a note's corner is; 0 where it calls none."""
    return LENGTHS_M.get(note.length or "", CORNER_M) if note.is_corner else 0.0


def gap_m(note: Note, factor: float = 1.0) -> float:
    """How far it is from the end of a note's corner to the next note; ``factor`` is how many metres one of the book's is."""
    return factor * note.distance_m if note.distance_m is not None else LINKED_M


def laid_out_m(notes: Sequence[Note], factor: float = 1.0, met_m: Mapping[int, float] | None = None) -> NDArray[np.float64]:
    """Where notes begin and where their corners end in a row, by the book alone, metres from the first, (notes + 1, 2).

    ``factor`` is how many metres one of the book's is; ``met_m`` how long the bends are that were met, by note. The last row is the end of
    the book.
    """
    met_m = met_m or {}
    out, at = np.zeros((len(notes) + 1, 2)), 0.0
    for i, note in enumerate(notes):
        out[i] = at, at + met_m.get(note.index, corner_length_m(note))
        at = out[i, 1] + gap_m(note, factor)
    out[-1] = at
    return out
