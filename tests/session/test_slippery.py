"""A road that was reported to be slippery: the pass is judged as one on it, and a note isn't wrong because of the ice."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

import pytest

from mirkle.core.judging.parts import Part
from mirkle.core.notebook.conditions import parse_conditions
from mirkle.core.notebook.passes import Pass
from mirkle.core.review import Review
from mirkle.files.project.project import Project, SourceFile
from mirkle.session.pass_list import slippery_for
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.reviewing import Inputs, review_material
from tests.conftest import AFTERNOON, MORNING, NOTES


def reviewed(*parts: tuple[float, float]) -> Review:
    return review_material(Inputs(MORNING, NOTES, reported=tuple(Part(a, b, "ice") for a, b in parts)))


def of_kind(review: Review, *kinds: str) -> dict[str, float]:
    return {f.id: f.confidence for f in review.findings if f.kind in kinds}


@pytest.fixture(scope="module")
def dry() -> Review:
    return reviewed()


def test_ice_makes_a_grade_less_sure_there_and_nowhere_else(dry: Review) -> None:
    by_place = sorted((f for f in dry.findings if f.kind == "grade-tighter"), key=lambda f: f.from_m)
    middle = by_place[len(by_place) // 2]
    icy = reviewed((middle.from_m - 50.0, middle.to_m + 50.0))
    before, now = of_kind(dry, "grade-tighter"), of_kind(icy, "grade-tighter")
    assert middle.figures["scatter_grades"] < next(f for f in icy.findings if f.id == middle.id).figures["scatter_grades"]
    assert now[middle.id] < before[middle.id]
    # Two grades too fast stay what they are: the road is as tight as it was.
    assert now.keys() == before.keys()
    elsewhere = [name for name in before if name != middle.id]
    assert all(abs(now[name] - before[name]) < 0.02 for name in elsewhere)


def test_nobody_has_speed_to_spare_on_ice_and_its_surprises_are_the_ices(dry: Review) -> None:
    paced: Sequence[str] = [*of_kind(dry, "spare"), *of_kind(dry, "surprise")]
    assert paced
    everywhere = reviewed((0.0, 20_000.0))
    assert of_kind(everywhere, "spare", "surprise") == {}
    assert of_kind(everywhere, "direction", "corner-uncalled").keys() == of_kind(dry, "direction", "corner-uncalled").keys()


def test_what_was_reported_on_the_pass_before_is_known_to_the_next_ones_judge(tmp_path: Path) -> None:
    stage = ReviewedPass.of_project(Project.create(tmp_path / "slatehook.mirkle", [NOTES, MORNING], name="Slatehook"))
    made = stage.project.add_pass(
        Pass(0, None, stage.this_pass.notes, kind="later"), {"run": SourceFile("run", "later.csv", AFTERNOON.content)}
    )
    assert slippery_for(stage.project, made.id) == ()
    before = ReviewedPass.of_project(stage.project, pass_id=made.id)
    reported, _ = parse_conditions("km 2 to 2.4 ice\nkm 3 to 3.1 mud, a little\nkm 5 to 6 dust", stage.review.finish_m)
    stage.book.road.add_reported(reported)
    parts = slippery_for(stage.project, made.id)
    assert [(round(p.from_m), round(p.to_m), p.reason) for p in parts] == [(2000, 2400, "ice")], "a little mud and dust are not slippery"
    assert slippery_for(stage.project, stage.this_pass.id) == (), "it was for the pass behind this one"
    # A review that was kept before is made again with it.
    again = ReviewedPass.of_project(stage.project, pass_id=made.id)
    assert before.review.reported == ()
    assert again.review.reported == parts
    stage.book.undo()
    stage.book.undo()
    stage.book.undo()
    assert slippery_for(stage.project, made.id) == ()
