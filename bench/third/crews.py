"""Crews that grade by hand on a slow reconnaissance: by how far the wheel is turned, or on the kept side by how fast it looks.

They join bends of one side that hardly ease between, guess distances by eye, and slip as crews do: a note, a page, two notes turned, a
nought too many.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from rough.crews import Book, Corner, Crew, Note, Slip, grade_of, no_habit, plant
from rough.roads import Floats, Road, even

EXTRAS = ["don't cut", "keep in", "caution", "slippery", "by the white gate", "(long look)", "narrows", "stone inside", "stay tidy"]
# Distances that are said when they are guessed.
ROUND = (20, 30, 50, 70, 100, 150, 200, 250, 300, 400, 500, 600, 800)
PAGE = 7
STRUCTURAL = ("page-out", "page-twice", "turned", "tenfold", "none")


@dataclass(frozen=True)
class Eye:
    """How this crew looks at a road: over how many metres the hand evens a bend, what it joins (m), how wrong its distances are (log),
    and whether it goes by how fast a bend looks, or half by how far it turns."""

    evens_m: float = 5.0
    joins_m: float = 14.0
    guesses: float = 0.14
    by_speed: bool = False
    by_angle: bool = False


def drawn_crew(rng: np.random.Generator, *, other: bool, kept: bool) -> tuple[Crew, Eye]:
    """A crew and its eye."""
    school = rng.choice(["six", "six", "six", "down", "nine", "halves"])
    crew = Crew(
        top=9 if school == "nine" else 6,
        tightest_m=float(rng.uniform(13, 19)),
        per_grade=float(rng.uniform(1.3, 1.4) if school == "nine" else rng.uniform(1.5, 1.75)),
        scatter=float(rng.uniform(0.2, 0.38)),
        halves=school == "halves",
        descending=school == "down",
        odometer=float(rng.uniform(0.9, 1.1)),
        omits=float(rng.uniform(5.6, 7.2)) + (3.0 if school == "nine" else 0.0),
        omits_share=float(rng.uniform(0.5, 1.0)),
        extras=float(rng.choice([0.15, 0.4])),
        grade_first=bool(rng.random() < 0.3),
        lead_s=float(rng.uniform(2.4, 4.0)),
        words_for_tight=bool(rng.random() < 0.7),
    )
    eye = Eye(
        evens_m=float(rng.uniform(3.5, 7.0)),
        joins_m=float(rng.uniform(6, 22)),
        guesses=float(rng.uniform(0.1, 0.2)),
        by_speed=other and bool(rng.random() < 0.6),
        by_angle=kept and bool(rng.random() < 0.5),
    )
    return crew, eye


def corners_of(road: Road, crew: Crew, eye: Eye) -> list[Corner]:
    """The corners as the hand feels them."""
    felt = even(road.curvature_per_m, eye.evens_m)
    wheel = np.where(np.abs(felt) > 1 / 280.0, felt, 0.0)
    runs: list[list[int]] = []
    edges = np.flatnonzero(np.diff(np.concatenate([[0], np.sign(wheel), [0]])))
    for a, b in pairwise(edges.tolist()):
        if wheel[a] == 0 or float(np.degrees(np.abs(felt[a:b]).sum())) < 6.0:
            continue
        # The corner is where the wheel is clearly turned.
        clear = np.flatnonzero(np.abs(felt[a:b]) > 0.3 * np.abs(felt[a:b]).max())
        a, b = a + int(clear[0]), a + int(clear[-1]) + 1
        joins = runs and np.sign(felt[a]) == np.sign(felt[runs[-1][0]]) and a - runs[-1][1] < eye.joins_m
        if joins:
            runs[-1][1] = b
        else:
            runs.append([a, b])
    out = []
    for a, b in runs:
        turn = float(np.degrees(np.abs(felt[a:b]).sum()))
        if turn < 10.0 or a < 20 or b > road.finish_m - 10:
            continue
        bent = np.abs(felt[a:b])
        tight = np.abs(even(road.curvature_per_m, 2.0)[a:b])
        position, later = _position(crew, eye, bent, turn), None
        half = len(bent) // 2
        if len(bent) > 40:
            first, second = (_position(crew, eye, part, 0.5 * turn) for part in (bent[:half], bent[half:]))
            if abs(second - first) > 0.9:
                position, later = first, second
        out.append(Corner(float(a), float(b), int(np.sign(felt[a:b].sum())), float(1 / tight.max()), turn, position, later))
    return out


def _position(crew: Crew, eye: Eye, bent: Floats, turn_deg: float) -> float:
    radius = 1.0 / max(float(bent.max()), 1e-4)
    if eye.by_angle:
        # A bend that turns far counts as a tighter one, one that hardly turns as a wider one: half of the grade is the angle's.
        radius *= (60.0 / min(max(turn_deg, 12.0), 180.0)) ** 0.5
    if eye.by_speed:
        # A bend that turns little lets a car go straighter than its middle does.
        half = np.radians(min(max(turn_deg, 8.0), 120.0)) / 2
        radius = min(radius + 1.2 * np.cos(half / 2) / (1 - np.cos(half / 2)) * 0.35, 2.2 * radius)
        return float(1.0 + np.log(radius / (1.15 * crew.tightest_m)) / np.log(crew.per_grade))
    return float(1.0 + np.log(radius / crew.tightest_m) / np.log(crew.per_grade))


def write_book(rng: np.random.Generator, road: Road, crew: Crew, eye: Eye, habit: Callable[[Corner], float] = no_habit) -> Book:
    """An honest book by this crew's hand and eye. ``habit`` is by how many grades it writes a corner easier than it feels."""
    corners = corners_of(road, crew, eye)
    notes: list[Note] = []
    for c in corners:
        off = c.position + habit(c) + rng.normal(0, crew.scatter)
        if off > crew.omits + rng.normal(0, 0.5) and rng.random() < crew.omits_share:
            c.written = False
            continue
        note = Note(c.side, grade_of(crew, off), place_from_m=c.from_m, place_to_m=c.to_m, corner=c)
        if c.later is not None and note.grade.rstrip("+-").isdigit():
            number = int(np.clip(round(c.later + rng.normal(0, crew.scatter)), 1, crew.top))
            named = crew.top + 1 - number if crew.descending else number
            if c.later < off - 0.8 and number < round(off):
                note.change = f"tightens {named}" if rng.random() < 0.6 else "tightens"
            elif c.later > off + 0.8 and rng.random() < 0.7:
                note.change = "opens"
        size = (c.to_m - c.from_m) / (26.0 * crew.per_grade ** (0.3 * c.position))
        note.length = "very long" if size > 2.8 else "long" if size > 1.8 else "short" if size < 0.5 else ""
        if rng.random() < crew.extras:
            note.extra = str(rng.choice(EXTRAS))
        notes.append(note)
    for t in road.things:
        inside = next((n for n in notes if n.corner and n.place_from_m - 8 <= t.at_m <= n.place_to_m + 8), None)
        name = "jump" if t.kind == "crest" and t.turns_rad > 0.13 else t.kind
        if rng.random() < 0.1:
            continue
        if inside is not None:
            inside.feature, inside.thing = f"over {name}" if name in ("crest", "jump") else name, t
        else:
            notes.append(Note(feature=name, place_from_m=t.at_m - 5, place_to_m=t.at_m + 5, thing=t))
    notes.sort(key=lambda n: n.place_from_m)
    start, finish = Note(feature="start"), Note(feature="finish", place_from_m=road.finish_m, place_to_m=road.finish_m)
    book = Book(crew, [start, *notes, finish], corners=corners)
    for note, following in pairwise(book.notes):
        metres = following.place_from_m - note.place_to_m
        guessed = max(metres, 1.0) * crew.odometer * rng.lognormal(0.0, eye.guesses)
        note.gap = "into" if guessed < 14 else str(min(ROUND, key=lambda g: abs(np.log(g / guessed))))
    return book


def with_slips(rng: np.random.Generator, book: Book, count: int, structural: str) -> Book:
    """The book with slips of single notes, and one of a page or a pair; then there are fewer of the others, to leave it room."""
    out = plant(rng, book, count if structural == "none" else count // 2)
    # That the road goes the other way is as well said by "no note calls this right".
    slips = [replace(s, finds=(*s.finds, "corner-uncalled")) if s.kind == "direction" else s for s in out.slips]
    notes, out = out.notes, Book(out.crew, out.notes, slips, out.corners)
    away = [
        i
        for i in range(8, len(notes) - 14)
        if sum(n.corner is not None and n.corner.turn_deg > 20 for n in notes[i : i + PAGE]) >= PAGE - 3
        and all(s.to_m < notes[i].place_from_m - 120 or s.from_m > notes[i + PAGE].place_to_m + 120 for s in slips)
    ]
    if structural == "none" or not away:
        return out
    at = int(rng.choice(away))
    span = (notes[at].place_from_m, notes[at + PAGE - 1].place_to_m)
    if structural == "page-out":
        slips.append(Slip("page-out", ("A page seems to be missing", "corner-uncalled"), *span))
        notes = notes[:at] + notes[at + PAGE :]
    elif structural == "page-twice":
        slips.append(Slip("page-twice", ("A page is in the book twice",), *span))
        notes = notes[: at + PAGE] + [replace(n) for n in notes[at : at + PAGE]] + notes[at + PAGE :]
    elif structural == "turned":
        pairs = [
            i
            for i in range(at, at + 6)
            if notes[i].corner
            and notes[i + 1].corner
            and notes[i].side != notes[i + 1].side
            and min(n.corner.turn_deg for n in notes[i : i + 2] if n.corner) > 25
        ]
        if not pairs:
            return out
        i = pairs[0]
        first, second = notes[i], notes[i + 1]
        slips.append(Slip("turned", ("Two notes the wrong way round", "direction", "grade-tighter"), first.place_from_m, second.place_to_m))
        # Each is called for the corner that comes, whatever it says.
        notes[i] = replace(second, gap=first.gap, place_from_m=first.place_from_m, place_to_m=first.place_to_m)
        notes[i + 1] = replace(first, gap=second.gap, place_from_m=second.place_from_m, place_to_m=second.place_to_m)
    else:
        tens = next((i for i in range(at, at + 6) if notes[i].gap.isdigit() and int(notes[i].gap) in (30, 50, 70, 100)), None)
        if tens is None:
            return out
        n = notes[tens]
        n.gap = f"{n.gap}0"
        slips.append(Slip("tenfold", ("distance-shorter",), n.place_to_m, notes[tens + 1].place_from_m))
    return Book(book.crew, notes, sorted(slips, key=lambda s: s.from_m), book.corners)
