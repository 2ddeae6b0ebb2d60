"""Whole third worlds with their truth, by number: those below :data:`KEPT_FROM` may be opened, the others are kept.

From 7000 on crews also grade by how fast a bend looks, receivers take moving means, and drivers misjudge more (these were kept once);
from 8000 on crews may grade by how far a bend turns, and receivers smooth exponentially, their course the chord between their places.
"""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

import numpy as np

from mirkle.core.review import Review
from rough.crews import spoken
from rough.recorders import Recorded
from rough.worlds import CLOCK_S, World, review_of
from third.crews import STRUCTURAL, drawn_crew, with_slips, write_book
from third.driving import Hand, drive
from third.receivers import RECEIVERS, record
from third.roads import third_road

OTHER_FROM, KEPT_FROM = 7000, 8000
# Whoever is slower than this on the whole was stuck off the road.
SLOWEST_MPS = 13.0


@lru_cache(maxsize=8)
def world(number: int, *, length_m: float = 7000.0, structural: str | None = None) -> World:
    """The world of that number. ``structural``: which slip of a page or a pair, instead of one by its number."""
    other, kept = number >= OTHER_FROM, number >= KEPT_FROM
    rng = np.random.default_rng([number, 33, 60417])
    road = third_road(rng, length_m)
    crew, eye = drawn_crew(rng, other=other, kept=kept)
    honest = write_book(rng, road, crew, eye)
    slip = structural if structural is not None else STRUCTURAL[number % len(STRUCTURAL)]
    book = with_slips(rng, honest, 11, slip)
    hand = Hand(
        looks_s=float(rng.uniform(0.8, 1.2)),
        late_s=float(rng.uniform(0.12, 0.26)),
        unsteady=float(rng.uniform(0.0006, 0.0018)),
        uses=float(rng.uniform(0.3, 0.95)),
        pace=float(rng.uniform(0.68, 0.9)),
        misjudges=float(rng.uniform(0.06, 0.11) if other else rng.uniform(0.02, 0.07)),
        slip_rad=float(rng.uniform(0.06, 0.2) if road.surface == "gravel" else rng.uniform(0.02, 0.06)),
    )
    run = drive(rng, road, hand, believed=book.believed())
    while run.distance_m[-1] > 1.1 * run.road_m[-1] or run.finish_s - run.start_s > length_m / SLOWEST_MPS:
        # He left the road: the same again, a little slower.
        hand = replace(hand, pace=0.92 * hand.pace)
        run = drive(rng, road, hand, believed=book.believed())
    return World(number, kept, road, book, honest, run, spoken(rng, book, run, clock_s=CLOCK_S))


def reviewed(w: World) -> tuple[Review, Recorded]:
    """The review of a world's pass, and the recording with its truth."""
    seen = recorded(w)
    return review_of(w, seen, w.book), seen


def recorded(w: World) -> Recorded:
    """What a world's receiver records; each world has one."""
    rng = np.random.default_rng([w.number, 5])
    receiver = RECEIVERS[w.number % len(RECEIVERS)]
    return record(rng, w.run, receiver, gravel=w.road.surface == "gravel", other=w.number >= OTHER_FROM, kept=w.held_out)
