"""The demo's road graded anew by crews who go by another measure, with some of their notes two grades off."""

from __future__ import annotations

from functools import cache

import numpy as np

from mirkle.core.notes.grading import WORDS
from mirkle.core.review import Review
from mirkle.files import demo_files
from mirkle.files.project.project import SourceFile
from mirkle.session.reviewing import Inputs, review_material

# How a crew grades: what it goes by, and the names of its grades from the tightest.
SIX = ("1", "2", "3", "4", "5", "6")
CREWS = {
    "radius": (lambda b: np.log(b.radius_m), SIX),
    "speed": (lambda b: np.log(b.speed_min_mps), SIX),
    "angle": (lambda b: -np.log(b.turn_deg), SIX),
    "wheel": (lambda b: -1.0 / b.carried_radius_m, SIX[::-1]),
    "words": (lambda b: np.log(b.radius_m), WORDS),
}
SCATTER, SLIP_EVERY, SLIP = 0.2, 9, 2


def book_of(review: Review, crew: str) -> bytes:
    """The notes of a review with each corner graded by a crew; every ninth is written two grades off."""
    measure, names = CREWS[crew]
    bends = {t.note: t.bend for t in review.lineup.ties if t.bend is not None and t.sure > 0.5}
    values = np.array([measure(b) for b in bends.values()])
    low, high = np.percentile(values, [4, 96])
    rng = np.random.default_rng(27)
    lines = []
    for note in review.notes:
        bend = bends.get(note.index)
        if bend is None:
            lines.append(note.text)
            continue
        at = (measure(bend) - low) / (high - low) * (len(names) - 1) + rng.normal(0.0, SCATTER)
        slip = SLIP * rng.choice([-1, 1]) if note.index % SLIP_EVERY == 0 else 0
        grade = names[int(np.clip(round(at) + slip, 0, len(names) - 1))]
        lines.append(f"{'left' if bend.side > 0 else 'right'} {grade} {note.distance_m or 'into'}")
    return "\n".join(lines).encode()


@cache
def as_written() -> Review:
    """The review of the demo's morning by its own notes."""
    return _reviewed(demo_files.demo_file(demo_files.NOTES))


@cache
def regraded(crew: str) -> Review:
    """The review of the demo's morning by a crew's own grades."""
    return _reviewed(book_of(as_written(), crew))


def _reviewed(book: bytes) -> Review:
    run = SourceFile("run", demo_files.MORNING, demo_files.demo_file(demo_files.MORNING))
    return review_material(Inputs(run, SourceFile("notes", "notes.txt", book)))
