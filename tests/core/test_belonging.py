"""Whether a book describes this road: right ones are believed, every kind of wrong one is told and named."""

from collections.abc import Callable
from dataclasses import replace

import numpy as np
import pytest
from scipy.stats import spearmanr

from mirkle.core.lineup.book_fit import BookFit, belonging_of
from mirkle.core.lineup.called_notes import calls_of
from mirkle.core.lineup.pairing import line_up, sense_from_road
from mirkle.core.lineup.road import Road, road_of
from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.model import Note
from mirkle.core.stats import rank_correlation
from tests.core.test_pairing import SCHOOL, numbered, world

COUNT = 44


@pytest.fixture(scope="module")
def stage() -> tuple[Road, list[Note]]:
    profile, notes, _ = world(3, COUNT)
    return road_of(profile), notes


def belongs(road: Road, notes: list[Note], school: GradingScheme = SCHOOL) -> BookFit:
    calls = calls_of(numbered(notes), school)
    return belonging_of(calls, road, line_up(calls, road))


def swapped(notes: list[Note]) -> list[Note]:
    return [replace(n, direction=n.direction.other if n.direction else None) for n in notes]


def backwards(notes: list[Note]) -> list[Note]:
    """The book of the road driven from its end: sides swap, and a distance stands behind the note that it stood before."""
    gaps = [n.distance_m for n in notes]
    return [replace(n, distance_m=g) for n, g in zip(swapped(notes)[::-1], [*gaps[:-1][::-1], None], strict=True)]


def test_a_right_book_is_believed_with_slips_and_sloppiness_too(stage: tuple[Road, list[Note]]) -> None:
    road, notes = stage
    assert belongs(road, notes).why is None
    rng = np.random.default_rng(8)
    sloppy = [replace(n, grade=str(int(np.clip(int(n.grade or 3) + rng.integers(-1, 2), 1, 6)))) for n in notes]
    slips = [n for i, n in enumerate(sloppy) if i % 9 != 4]
    found = belongs(road, slips)
    assert found.why is None
    assert found.probability > 0.5
    assert found.sentence is None
    assert found.holds(0.0, road.profile.length_m + 50.0)


WRONG: dict[str, Callable[[list[Note]], list[Note]]] = {
    "another-stage": lambda _: world(9, COUNT)[1],
    "sides-swapped": swapped,
    "opposite-way": backwards,
    "pasted-twice": lambda notes: [*notes, *notes],
}


@pytest.mark.parametrize("why", WRONG)
def test_a_wrong_book_is_refused_and_named(stage: tuple[Road, list[Note]], why: str) -> None:
    road, notes = stage
    found = belongs(road, WRONG[why](notes))
    assert found.why == why
    assert found.probability < 0.5
    assert not found.belongs
    assert not found.holds(500.0, 600.0)
    assert "nothing is judged" in str(found.sentence)


@pytest.mark.parametrize("span", [(0, 22), (22, 44), (10, 32)])
def test_a_part_of_a_book_is_judged_on_its_part_of_the_road(stage: tuple[Road, list[Note]], span: tuple[int, int]) -> None:
    road, notes = stage
    _, _, middles = world(3, COUNT)
    found = belongs(road, notes[slice(*span)])
    assert found.why == "part"
    assert found.from_m == pytest.approx(middles[span[0]], abs=90.0)
    assert found.to_m == pytest.approx(middles[span[1] - 1], abs=90.0)
    assert f"only {found.from_m / 1000:.2f} to {found.to_m / 1000:.2f} km" in str(found.sentence)
    assert found.holds(found.from_m + 5.0, found.to_m - 5.0)
    assert not found.holds(found.to_m + 50.0, found.to_m + 80.0)
    lineup = line_up(calls_of(numbered(notes[slice(*span)]), SCHOOL), road, anywhere=True)
    right = [t.bend is not None and abs(t.bend.apex_m - m) < 25.0 for t, m in zip(lineup.ties, middles[slice(*span)], strict=True)]
    assert np.mean(right) > 0.9


def test_a_handful_of_notes_is_believed(stage: tuple[Road, list[Note]]) -> None:
    handful = belongs(stage[0], world(9, COUNT)[1][:6])
    assert (handful.why, handful.probability, handful.from_m, handful.to_m) == (None, 1.0, 0.0, stage[0].profile.length_m)


def test_the_road_tells_which_way_the_grades_run(stage: tuple[Road, list[Note]]) -> None:
    road, notes = stage
    turned = [replace(n, grade=str(7 - int(n.grade or 1))) for n in notes]
    open_ = replace(SCHOOL, sense_sure=0.6)
    assert sense_from_road(numbered(notes), open_, road).sense == "ascending"
    assert sense_from_road(numbered(turned), open_, road).sense == "descending"
    rng = np.random.default_rng(2)
    thrown = [replace(n, grade=str(int(rng.integers(1, 7)))) for n in notes]
    assert sense_from_road(numbered(thrown), open_, road).sense_sure == 0.6


def test_ties_share_their_rank() -> None:
    """With ranks broken by place, a column of two values would follow any order that it stands in."""
    assert rank_correlation(np.array([1.0, 1, 1, 1, 2]), np.array([4.0, 3, 2, 1, 5])) == pytest.approx(0.7071, abs=1e-3)
    a, b = np.array([3.0, 1, 2, 2, 5, 5, 5, 0]), np.array([2.0, 2, 1, 4, 4, 6, 8, 0])
    # scipy.stats.spearmanr (SciPy) with ties.
    assert rank_correlation(a, b) == pytest.approx(float(spearmanr(a, b)[0]))
    assert rank_correlation(np.ones(5), np.arange(5.0)) == 0.0


def test_a_book_of_which_less_than_half_has_a_bend_is_not_believed_as_a_whole(stage: tuple[Road, list[Note]]) -> None:
    road, notes = stage
    calls = calls_of(numbered(notes), SCHOOL)
    found = line_up(calls, road)
    # So dear that it has to be held against what it is not.
    dear = replace(found, cost=4.0 * len(notes), grades=replace(found.grades, scatter=0.9))
    few = tuple(t if i < 0.4 * len(notes) else replace(t, bend=None) for i, t in enumerate(found.ties))
    assert belonging_of(calls, road, dear).why is None
    assert belonging_of(calls, road, replace(dear, ties=few)).why is not None
