"""The lines of an edition in the order in which they are called, each with what stood before where it was changed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from mirkle.core.notebook.edition import Edition
from mirkle.core.recording.model import Floats

# How many lines are rehearsed before a change and behind it.
BEFORE, BEHIND = 3, 2


@dataclass(frozen=True)
class Line:
    """What is called: ``text`` as the edition has it; where that was ``changed``, ``old`` is what stood before, empty where it was put in.
    ``notes`` are the notes of the book that was read from the first to behind the last; ``share`` is how far between them and the next
    one the line belongs."""

    text: str
    notes: tuple[int, int]
    changed: bool = False
    old: str = ""
    share: float = 0.0

    @property
    def note(self) -> int:
        """The first of its notes."""
        return self.notes[0]

    @property
    def change(self) -> str:
        """The name of the change that it belongs to; the same line written otherwise is another change."""
        return f"{self.notes[0]}-{self.notes[1]}:{self.text}"


def lines_of(edition: Edition) -> list[Line]:
    """The lines as they will be called; what was struck out is not called."""
    out: list[Line] = []
    for note in edition.reading.notes:
        mark = edition.mark_on(note.index)
        if mark is None:
            out.append(Line(" ".join(note.text.split()), (note.index, note.index + 1)))
        elif mark.first_note == note.index:
            texts = [" ".join(t.split()) for t in mark.text.split("\n") if t.strip()]
            old = " / ".join(" ".join(t.split()) for t in edition.old_text(mark.first_note, mark.last_note).split("\n"))
            both = mark.first_note, mark.last_note + 1
            # Where a note was put in, the one that it came to may stand as it was.
            out += [Line(t, both, t != old, old if k == 0 and t != old else "", k / len(texts)) for k, t in enumerate(texts)]
    return out


def places_of(lines: Sequence[Line], note_places: Floats) -> Floats:
    """Where each line belongs, from where each note does (notes,), in the same units, (lines,): what was put in lies between its note and
    the next."""
    ends = np.append(note_places, note_places[-1] if len(note_places) else 0.0)
    return np.array([ends[x.notes[0]] + x.share * (ends[x.notes[1]] - ends[x.notes[0]]) for x in lines])


def stretches(lines: Sequence[Line]) -> list[range]:
    """The lines about the changes: from :data:`BEFORE` before each to :data:`BEHIND` behind it; what touches is one stretch."""
    out: list[range] = []
    for at, line in enumerate(lines):
        if not line.changed:
            continue
        first, last = max(0, at - BEFORE), min(len(lines), at + BEHIND + 1)
        if out and first <= out[-1].stop:
            out[-1] = range(out[-1].start, last)
        else:
            out.append(range(first, last))
    return out
