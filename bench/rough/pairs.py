"""Two passes of one stage: the first with a book that is wrong here and there, the second with that book corrected rightly, too far,
not enough, or not at all, and at another pace. Numbers below 1000 of the training generator may be opened by a fit."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from mirkle.core.review import Review
from mirkle.files.project.project import SourceFile
from mirkle.session.reviewing import Inputs, review_material
from rough.crews import Book, Crew, Note, position_written, spoken, write_book
from rough.driving import Drive, Manner, drive
from rough.recorders import BOXES, record
from rough.roads import Road, held_out_road, training_road
from rough.worlds import CLOCK_S, drawn_crew

# What stood and what stands, in grades off the honest note (more is faster), and how often.
CHANGES = (
    ((2, 0), 4),
    ((1, 0), 4),
    ((-2, 0), 2),
    ((-1, 0), 1),
    ((2, -1), 2),
    ((1, -1), 2),
    ((0, -1), 1),
    ((2, 1), 3),
    ((-2, 1), 1),
    ((-2, -1), 1),
    ((0, 1), 1),
    ((2, 2), 3),
    ((1, 1), 2),
    ((0, -2), 1),
)
APART_M, OFF = 160.0, 0.6
# The paces of the second pass as shares of the first's grip: quicker, slower, and wet after dry.
SECOND = (1.04, 0.97, 0.86)


@dataclass(frozen=True)
class Changed:
    """A note that was wrong: by how many grades it promises too much on the first and on the second pass, and where it lies."""

    before: float
    after: float
    from_m: float
    to_m: float
    old: str
    new: str

    @property
    def verdict(self) -> str:
        """What is true of the note that the second pass read."""
        return "too-fast" if self.after > OFF else "too-slow" if self.after < -OFF else "fits"


@dataclass(frozen=True)
class Pair:
    """Two passes of a road, the book read on each, and what was changed between them."""

    road: Road
    books: tuple[Book, Book]
    runs: tuple[Drive, Drive]
    calls: tuple[str, str]
    changed: tuple[Changed, ...]
    wet: bool


@lru_cache(maxsize=16)
def pair(number: int, *, held_out: bool = False, length_m: float = 9000.0) -> Pair:
    """The pair of that number."""
    rng = np.random.default_rng([number, int(held_out), 90210])
    road = (held_out_road if held_out else training_road)(rng, length_m)
    crew = drawn_crew(rng)
    honest = write_book(rng, road, crew)
    first, second, changed = _changed(rng, honest)
    loose = road.surface == "gravel"
    pace = SECOND[number % 3]
    wet = pace < 0.9
    manners = [
        Manner(
            slip_rad=float(np.radians(rng.uniform(7, 14) if loose else rng.uniform(1, 4))),
            ahead_s=float(rng.uniform(0.1, 0.4)),
            loses_a_km=float(rng.uniform(0.5, 1.5) if loose else 0.2),
            wide_a_km=float(rng.uniform(0.3, 1.0)),
            late_m=0.0,
            handbrake=loose and number % 2 == 0,
            pace=0.93 * share,
            least_curvature=held_out and number % 4 == 1,
        )
        for share in (1.0, pace)
    ]
    runs = tuple(drive(rng, road, m, believed=_believed(b)) for m, b in zip(manners, (first, second), strict=True))
    calls = tuple(spoken(rng, b, r, clock_s=CLOCK_S) for b, r in zip((first, second), runs, strict=True))
    return Pair(road, (first, second), runs, calls, changed, wet)  # type: ignore[arg-type]


def _changed(rng: np.random.Generator, honest: Book) -> tuple[Book, Book, tuple[Changed, ...]]:
    crew = honest.crew
    first, second = ([replace(n) for n in honest.notes] for _ in range(2))
    kinds, weights = zip(*CHANGES, strict=True)
    out: list[Changed] = []
    for i in rng.permutation(len(honest.notes)):
        n = honest.notes[i]
        plain = n.corner is not None and n.grade.rstrip("+-").isdigit() and not n.change and n.corner.turn_deg > 25
        if not plain or not 4 < i < len(honest.notes) - 4 or any(abs(n.place_from_m - c.from_m) < APART_M for c in out):
            continue
        before, after = kinds[int(rng.choice(len(kinds), p=np.array(weights) / sum(weights)))]
        old, new = _off(crew, n, before), _off(crew, n, after)
        if old is None or new is None:
            continue
        first[i].grade, second[i].grade = old, new
        stood = position_written(crew, n.grade)
        out.append(
            Changed(position_written(crew, old) - stood, position_written(crew, new) - stood, n.place_from_m, n.place_to_m, old, new)
        )
    books = [replace(honest, notes=notes) for notes in (first, second)]
    return books[0], books[1], tuple(sorted(out, key=lambda c: c.from_m))


def _off(crew: Crew, note: Note, by: int) -> str | None:
    """The grade so many steps faster than a note's; ``None`` where the scale ends."""
    digits = note.grade.rstrip("+-")
    number = int(digits) + (-by if crew.descending else by)
    return f"{number}{note.grade[len(digits) :]}" if 1 <= number <= crew.top else None


def _believed(book: Book) -> tuple[tuple[float, float, float], ...]:
    """What the driver expects where a note is clearly off, either way."""
    out = []
    for n in book.notes:
        if n.corner is not None and n.grade.rstrip("+-").isdigit():
            over = position_written(book.crew, n.grade) - n.corner.position
            if abs(over) > 0.8:
                out.append((n.corner.from_m, n.corner.to_m, book.crew.per_grade ** (over * 0.8)))
    return tuple(out)


def inputs_of(p: Pair, number: int, box: str, which: int) -> Inputs:
    """One of the passes as that box saw it, with the book that was read on it."""
    rng = np.random.default_rng([number, list(BOXES).index(box), 17 + which])
    seen = record(rng, p.runs[which], BOXES[box], gravel=p.road.surface == "gravel")
    return Inputs(
        SourceFile("run", f"pass-{which + 1}.csv", seen.csv.encode()),
        SourceFile("notes", "notes.txt", p.books[which].text().encode()),
        SourceFile("calls", "calls.vtt", p.calls[which].encode()),
    )


def reviews_of(p: Pair, number: int, box: str) -> tuple[Review, Review]:
    """The reviews of both passes."""
    return tuple(review_material(inputs_of(p, number, box, which)) for which in (0, 1))  # type: ignore[return-value]
