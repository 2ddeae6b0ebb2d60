"""Whole worlds with their truth, by number. Numbers below 1000 of the training generator may be opened by a fit; the
held-out generator, and training numbers from 5000 on, are for reporting only."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from mirkle.core.review import Review
from mirkle.files.project.project import SourceFile
from mirkle.session.reviewing import Inputs, review_material
from rough.crews import Book, Crew, plant, spoken, write_book
from rough.driving import Drive, Manner, drive
from rough.recorders import BOXES, Recorded, record
from rough.roads import Road, held_out_road, training_road

CLOCK_S = 6.4
REPORTED_FROM = 5000


@dataclass(frozen=True)
class World:
    """One stage: its road, book, pass, a reconnaissance at a steady pace, and the calls."""

    number: int
    held_out: bool
    road: Road
    book: Book
    honest: Book
    run: Drive
    calls: str


def drawn_crew(rng: np.random.Generator) -> Crew:
    """A crew with habits."""
    crew = Crew(
        tightest_m=float(rng.uniform(12, 18)),
        per_grade=float(rng.uniform(1.5, 1.72)),
        angle=float(rng.choice([0.0, 0.0, 0.5, 0.9])),
        scatter=float(rng.uniform(0.15, 0.35)),
        halves=bool(rng.random() < 0.3),
        descending=bool(rng.random() < 0.2),
        odometer=float(rng.uniform(0.94, 1.05)),
        omits=float(rng.uniform(5.3, 7.8)),
        omits_share=float(rng.uniform(0.25, 1.0)),
        extras=float(rng.choice([0.1, 0.3, 0.9])),
        grade_first=bool(rng.random() < 0.3),
        lead_s=float(rng.uniform(2.6, 4.2)),
        one_side=float(rng.choice([0.0, 0.0, 0.35])),
    )
    return crew if rng.random() > 0.15 else replace(crew, top=9, per_grade=1.36, omits=crew.omits + 3.0)


@lru_cache(maxsize=64)
def world(number: int, *, held_out: bool = False, length_m: float = 7000.0) -> World:
    """The world of that number."""
    rng = np.random.default_rng([number, int(held_out), 4117])
    road = (held_out_road if held_out else training_road)(rng, length_m)
    crew = drawn_crew(rng)
    honest = write_book(rng, road, crew)
    book = plant(rng, honest, 12)
    run = drive(rng, road, drawn_manner(rng, road, held_out=held_out), believed=book.believed())
    return World(number, held_out, road, book, honest, run, spoken(rng, book, run, clock_s=CLOCK_S))


def drawn_manner(rng: np.random.Generator, road: Road, *, held_out: bool) -> Manner:
    """How somebody drives a road."""
    loose = road.surface == "gravel"
    return Manner(
        slip_rad=float(np.radians(rng.uniform(7, 14) if loose else rng.uniform(1, 4))),
        ahead_s=float(rng.uniform(0.1, 0.4)),
        loses_a_km=float(rng.uniform(0.5, 2.0) if loose else 0.2),
        wide_a_km=float(rng.uniform(0.3, 1.0)),
        late_m=float(rng.choice([0.0, 4.0])),
        handbrake=bool(loose and rng.random() < 0.6),
        pace=float(rng.uniform(0.85, 1.0)),
        least_curvature=held_out and bool(rng.random() < 0.5),
    )


def reconnaissance(w: World) -> Drive:
    """The same road at a steady pace."""
    rng = np.random.default_rng([w.number, 7])
    return drive(rng, w.road, Manner(0.1, 0.2, 0, 0, 0, handbrake=False), steady_mps=16.0)


def recorded(w: World, box: str, run: Drive | None = None) -> Recorded:
    """A pass as that box saw it."""
    rng = np.random.default_rng([w.number, list(BOXES).index(box), 99])
    return record(rng, run or w.run, BOXES[box], gravel=w.road.surface == "gravel")


def reviewed(w: World, box: str, *, book: Book | None = None, recce: bool = False) -> tuple[Review, Recorded]:
    """The review of a world's pass, with the reconnaissance beside it if wanted, and the recording with its truth."""
    seen = recorded(w, box)
    slow = (SourceFile("run", "recce.csv", recorded(w, box, reconnaissance(w)).csv.encode()),) if recce else ()
    return review_of(w, seen, book or w.book, others=slow), seen


def review_of(w: World, seen: Recorded, book: Book, *, others: tuple[SourceFile, ...] = ()) -> Review:
    """The review of a world's pass as a box saw it, with a book, and other passes beside it."""
    return review_material(
        Inputs(
            SourceFile("run", "run.csv", seen.csv.encode()),
            SourceFile("notes", "notes.txt", book.text().encode()),
            SourceFile("calls", "calls.vtt", w.calls.encode()),
            others=others,
        )
    )
