"""What a crew's profile is worth: seasons of eight stages by crews that no fit opened, with and without habits.

    python bench/seasons.py [--crews 12] [--fit] [--habits] [--rough]

Without ``--fit`` seasons from :data:`KEPT_FROM` on, which no fit opens: of the generator ``third``, or with ``--rough`` of ``rough``. ``--fit``
prints the mean and the covariance of crews at large from training seasons of both. ``--habits`` looks for planted habits instead.
"""

from __future__ import annotations

import argparse
import sys
from collections import Counter, defaultdict
from collections.abc import Callable, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from functools import cache

import numpy as np

from mirkle.core.habits.evidence import SCALE_COLUMNS, PassEvidence, evidence_of, shows_its_crew
from mirkle.core.habits.findings import habits_of
from mirkle.core.habits.pooled import at_large, pooled
from mirkle.core.lineup.called_notes import calls_of
from mirkle.core.lineup.crew_scale import TELLS_SCATTER
from mirkle.core.lineup.scale_prior import LEAST_TO_TELL, PairedRows, ScalePrior, fit_stage, is_another_driver, paired_rows
from mirkle.core.review import Review
from mirkle.files.project.project import SourceFile
from mirkle.session.reviewing import Inputs, Measurements, review_material
from rough.crews import Book, Corner, no_habit, plant, position_written, spoken
from rough.crews import write_book as rough_book
from rough.driving import drive as rough_drive
from rough.recorders import BOXES, Recorded
from rough.recorders import record as rough_record
from rough.roads import held_out_road, training_road
from rough.worlds import CLOCK_S, drawn_manner
from rough.worlds import drawn_crew as rough_crew
from third.crews import drawn_crew as third_crew
from third.crews import write_book as third_book
from third.driving import Hand
from third.driving import drive as third_drive
from third.receivers import RECEIVERS
from third.receivers import record as third_record
from third.roads import third_road

# Seasons from here on are kept from fits; those of the generator "rough" count from a thousand.
KEPT_FROM, ROUGH_FROM, STAGES, LENGTH_M = 100, 1000, 8, 3000.0
# The profile is gathered on the first stages of a season, this many; the others are judged with it.
GATHERED = 5
SLIPS = 3
# A grade finding is false where what is written is nearer to the road than this (grades).
FALSE_WITHIN = 0.6
# A grade is rare where a stage has fewer notes of it.
RARE = 3
COUNTED = ("right", "false", "right of rare grades", "false of rare grades", "dangers", "pairs")
HABITS: dict[str, Callable[[Corner], float]] = {
    "none": no_habit,
    "side .3": lambda c: 0.15 * c.side,
    "side .5": lambda c: 0.25 * c.side,
    "late .3": lambda c: 0.3 * c.from_m / LENGTH_M,
    "late .5": lambda c: 0.5 * c.from_m / LENGTH_M,
    "one grade": lambda c: 0.5 if 3.5 < c.position < 4.5 else 0.0,
}
KIND_OF = {"side .3": "side", "side .5": "side", "late .3": "late", "late .5": "late"}


@dataclass(frozen=True)
class Driven:
    """One stage of a season as it was reviewed, with what is true of it."""

    review: Review
    book: Book
    inputs: Inputs
    evidence: PassEvidence


@dataclass(frozen=True)
class Stage:
    """A stage of a season as it was driven: its honest book with slips in it, what the receiver recorded, and the calls."""

    book: Book
    seen: Recorded
    calls: str


def is_kept(season: int) -> bool:
    """Whether no fit opens a season."""
    return season % ROUGH_FROM >= KEPT_FROM


def third_stage(season: int, stage: int, habit: str) -> Stage:
    """A stage of the generator ``third``; each season has one crew, each stage a receiver and a day's hand."""
    crew, eye = third_crew(np.random.default_rng([season, 38, 991]), other=is_kept(season), kept=False)
    rng = np.random.default_rng([season, stage, 77])
    road = third_road(rng, LENGTH_M)
    book = slipped(rng, third_book(rng, road, crew, eye, HABITS[habit]))
    loose = road.surface == "gravel"
    hand = Hand(
        looks_s=float(rng.uniform(0.8, 1.2)), late_s=float(rng.uniform(0.12, 0.26)), unsteady=0.001, slip_rad=0.1 if loose else 0.04
    )
    hand = replace(hand, uses=float(rng.uniform(0.4, 0.9)), pace=float(rng.uniform(0.7, 0.88)), misjudges=0.05)
    run = third_drive(rng, road, hand, believed=book.believed())
    while run.distance_m[-1] > 1.1 * run.road_m[-1] or run.finish_s - run.start_s > LENGTH_M / 12.0:
        hand = replace(hand, pace=0.92 * hand.pace)
        run = third_drive(rng, road, hand, believed=book.believed())
    receiver = RECEIVERS[(season + stage) % len(RECEIVERS)]
    seen = third_record(rng, run, receiver, gravel=loose, other=is_kept(season), kept=False)
    return Stage(book, seen, spoken(rng, book, run, clock_s=CLOCK_S))


def rough_stage(season: int, stage: int, habit: str) -> Stage:
    """A stage of the generator ``rough``; its crews have no side of their own here."""
    crew = replace(rough_crew(np.random.default_rng([season, 39, 992])), one_side=0.0)
    rng = np.random.default_rng([season, stage, 78])
    road = (held_out_road if is_kept(season) else training_road)(rng, LENGTH_M)
    book = slipped(rng, rough_book(rng, road, crew, HABITS[habit]))
    run = rough_drive(rng, road, drawn_manner(rng, road, held_out=is_kept(season)), believed=book.believed())
    box = list(BOXES.values())[(season + stage) % len(BOXES)]
    seen = rough_record(rng, run, box, gravel=road.surface == "gravel")
    return Stage(book, seen, spoken(rng, book, run, clock_s=CLOCK_S))


def slipped(rng: np.random.Generator, honest: Book) -> Book:
    """A book with a few slips, where it has room for them."""
    try:
        return plant(rng, honest, SLIPS)
    except ValueError:
        return honest


@cache
def driven(season: int, stage: int, habit: str = "none") -> Driven:
    """One stage of a season, reviewed."""
    made = (rough_stage if season >= ROUGH_FROM else third_stage)(season, stage, habit)
    inputs = Inputs(
        SourceFile("run", "run.csv", made.seen.csv.encode()),
        SourceFile("notes", "notes.txt", made.book.text().encode()),
        SourceFile("calls", "calls.vtt", made.calls.encode()),
    )
    review = review_material(inputs)
    evidence = evidence_of(review, stage=f"{season}-{stage}", pass_id="1", day=float(9800 + stage), book=f"{season}-{stage}")
    return Driven(review, made.book, inputs, evidence)


def truth_of(book: Book, note: int) -> tuple[float, float] | None:
    """Where a note's corner truly lies on the crew's scale, and what is written; ``None`` for a note of no corner."""
    written = book.notes[note] if note < len(book.notes) else None
    if written is None or written.corner is None:
        return None
    return written.corner.position, position_written(book.crew, written.grade)


def reviewed(one: Driven, prior: ScalePrior | None) -> Review:
    """A stage's review by what is known of its crew."""
    return review_material(replace(one.inputs, scale=prior), measurements=known(one)) if prior is not None else one.review


def rows_of(review: Review) -> PairedRows:
    """The pairs of a review that tell of the scale."""
    return paired_rows(review.lineup, calls_of(review.notes, review.school))


def places(review: Review, book: Book, prior: ScalePrior | None) -> list[float]:
    """By how many grades of six the place of each paired note is out, with or without what is known of the crew."""
    rows = rows_of(review)
    position = [review.lineup.tie_of[n].position for n in rows.notes]
    if prior is not None:
        weights, _ = fit_stage(rows.x, rows.called, rows.trust, prior.for_school(review.school.top))
        position = list(rows.x @ weights)
    by = 5.0 / (review.school.top - 1)
    out = []
    for note, here in zip(rows.notes, position, strict=True):
        truth = truth_of(book, note)
        if truth is not None and here is not None and 1.0 <= truth[0] <= book.crew.top:
            out.append(by * (float(here) - truth[0]))
    return out


def grades_judged(review: Review, book: Book) -> dict[str, int]:
    """Grade findings of a review that are right and false, the same of grades that are hardly there, dangers that are right, and pairs."""
    found = Counter(pairs=review.lineup.paired)
    calls = calls_of(review.notes, review.school)
    grade_of = {note.index: round(float(at)) for note, at in zip(calls.notes, calls.position, strict=True)}
    often = Counter(grade_of.values())
    for finding in review.findings:
        if finding.kind in ("grade-tighter", "grade-easier") and (truth := truth_of(book, finding.note)) is not None:
            is_right = abs(truth[0] - truth[1]) >= FALSE_WITHIN
            name = "right" if is_right else "false"
            found[name] += 1
            found[f"{name} of rare grades"] += often[grade_of.get(finding.note, 0)] < RARE
            found["dangers"] += is_right and finding.severity == "danger"
    return dict(found)


def known(one: Driven) -> Measurements:
    """Its pass is not measured again."""
    measured = Measurements()
    measured.know(one.inputs.run, None, one.review.measured)
    return measured


def season_values(season: int) -> dict[str, list[float]]:
    """What one season says: errors of places by what was known, and the judging with and without."""
    stages = [driven(season, k) for k in range(STAGES)]
    prior = pooled([one.evidence for one in stages[:GATHERED] if shows_its_crew(one.review)], 9900.0).prior
    others = [driven(season + 1, k) for k in range(GATHERED)]
    other = pooled([one.evidence for one in others if shows_its_crew(one.review)], 9900.0).prior
    values: dict[str, list[float]] = defaultdict(list)
    for one in stages[GATHERED:]:
        with_crew = reviewed(one, prior)
        values["crews at large"] += places(one.review, one.book, at_large())
        for name, review, known_of in (("without", one.review, None), ("the crew's", with_crew, prior)):
            values[name] += places(review, one.book, known_of)
            for what, count in grades_judged(review, one.book).items():
                values[f"{what} {name}"].append(count)
        rows, top = rows_of(with_crew), with_crew.school.top
        values["taken for another"].append(_is_another(rows, prior.for_school(top)))
        values["another crew's noticed"].append(_is_another(rows_of(reviewed(one, other)), other.for_school(top)))
        first = np.flatnonzero(rows.trust > TELLS_SCATTER)[:LEAST_TO_TELL]
        for off in (0.7, 1.0) if len(first) == LEAST_TO_TELL else ():
            shifted = prior.for_school(top)
            shifted = replace(shifted, mean=shifted.mean + off * (top - 1) / 5 * np.eye(SCALE_COLUMNS)[0])
            values[f"noticed {off}"].append(is_another_driver(rows.x[first], rows.called[first], rows.trust[first], shifted))
    return dict(values)


def _is_another(rows: PairedRows, prior: ScalePrior) -> bool:
    return is_another_driver(rows.x, rows.called, rows.trust, prior)


def habit_values(task: tuple[int, str]) -> list[tuple[str, int, str, float]]:
    """The habits that are said of a season with one planted: planted, from how many stages, said, how sure."""
    season, habit = task
    out = []
    for count in (GATHERED, STAGES):
        stages = [driven(season, k, habit) for k in range(count)]
        said = habits_of([one.evidence for one in stages if shows_its_crew(one.review)], 9900.0)
        out += [(habit, count, h.kind, h.sure) for h in said] or [(habit, count, "", 0.0)]
    return out


def fit(crews: int) -> None:
    """Prints what crews at large have in common, from training seasons of both schools."""
    wide = ScalePrior(at_large().mean, np.diag(np.full(SCALE_COLUMNS, 1.5) ** 2), 0.45, 6)
    with ProcessPoolExecutor() as pool:
        evidence = list(pool.map(season_evidence, [*range(crews), *range(ROUGH_FROM, ROUGH_FROM + crews)]))
    means, scatters = [], []
    for season in evidence:
        found = pooled(season, 9900.0, wide).prior.for_school(6)
        means.append(found.mean)
        scatters.append(found.scatter)
    print("mean", np.round(np.mean(means, axis=0), 2).tolist())
    print("sd", np.round(np.std(means, axis=0), 2).tolist())
    print("correlation\n", np.round(np.corrcoef(np.array(means).T), 2))
    print("scatter", np.round(np.median(scatters), 2))


def season_evidence(season: int) -> list[PassEvidence]:
    """All stages of a season."""
    return [driven(season, k).evidence for k in range(STAGES)]


def rms(values: Sequence[float]) -> float:
    """Root mean square, values beyond two grades aside: those are wrong pairs."""
    kept = np.array([v for v in values if abs(v) < 2.0])
    return float(np.sqrt(np.mean(kept**2)))


def worth(crews: int, first: int) -> None:
    """Prints what the profile is worth on kept seasons."""
    pooled_values: dict[str, list[float]] = defaultdict(list)
    with ProcessPoolExecutor() as pool:
        for values in pool.map(season_values, range(first, first + crews)):
            for name, found in values.items():
                pooled_values[name] += found
    for name in ("without", "crews at large", "the crew's"):
        print(f"place of a note, {name}: rms {rms(pooled_values[name]):.3f} of a grade ({len(pooled_values[name])} notes)")
    for name in ("without", "the crew's"):
        counts = {what: int(sum(pooled_values[f"{what} {name}"])) for what in COUNTED}
        print(f"judged {name}: {counts}")
    for name in ("taken for another", "noticed 0.7", "noticed 1.0", "another crew's noticed"):
        print(f"{name}: {np.mean(pooled_values[name]):.2f} of {len(pooled_values[name])}")


def habits(crews: int, first: int) -> None:
    """Prints which habits are said, by what was planted."""
    tasks = [(season, habit) for habit in HABITS for season in range(first, first + crews)]
    found: dict[tuple[str, int], list[str]] = defaultdict(list)
    with ProcessPoolExecutor() as pool:
        for rows in pool.map(habit_values, tasks):
            for habit, count, kind, _ in rows:
                found[habit, count].append(kind)
    said = false = 0
    for (habit, count), kinds in sorted(found.items()):
        wanted = KIND_OF.get(habit, "")
        right, wrong = sum(k == wanted and k != "" for k in kinds), sum(k not in ("", wanted) for k in kinds)
        said, false = said + right + wrong, false + wrong
        print(f"{habit}, {count} stages: {right} of {crews} said, {wrong} others said")
    print(f"said {said}, false {false} = {false / max(said, 1):.2f}")


def main() -> int:
    arguments = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    arguments.add_argument("--crews", type=int, default=12)
    arguments.add_argument("--fit", action="store_true")
    arguments.add_argument("--habits", action="store_true")
    arguments.add_argument("--rough", action="store_true")
    arguments.add_argument("--first", type=int, default=KEPT_FROM, help="the first season")
    asked = arguments.parse_args()
    first = asked.first + (ROUGH_FROM if asked.rough else 0)
    if asked.fit:
        fit(asked.crews)
    elif asked.habits:
        habits(asked.crews, first)
    else:
        worth(asked.crews, first)
    return 0


if __name__ == "__main__":
    sys.exit(main())
