"""A sheet of conditions is kept whole, shown where it holds, and over when its pass is driven."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest

from mirkle.core.notebook.conditions import BAD, parse_conditions
from mirkle.core.notebook.passes import Pass
from mirkle.core.review import Review
from mirkle.files.project.project import Project, SourceFile
from mirkle.session.rehearsal import Rehearsal
from mirkle.session.reviewed_pass import ReviewedPass
from tests.conftest import AFTERNOON, MORNING, NOTES


@pytest.fixture
def stage(tmp_path: Path) -> ReviewedPass:
    return ReviewedPass.of_project(Project.create(tmp_path / "slatehook.mirkle", [NOTES, MORNING], name="Slatehook"))


def test_a_sheet_is_one_step_of_the_log_each_and_comes_back(stage: ReviewedPass, tmp_path: Path) -> None:
    review: Review = stage.review
    reported, _ = parse_conditions("km 2 to 2.4 ice, bad\n2.2 to 3 dust", review.finish_m)
    stage.book.road.add_reported(reported, by="both")
    stage.project.close()
    again = ReviewedPass.of_project(Project.open(tmp_path / "slatehook.mirkle"))
    kept = [(a.what, a.level, a.words, a.kind, a.by) for a in again.book.road.additions]
    assert kept == [("ice", BAD, "ice, bad", "condition", "both"), ("dust", 2, "dust", "condition", "both")]
    # The worst that holds on a stretch, and nothing beside it.
    worst = again.book.road.condition_on(2_250.0, 2_300.0)
    assert worst is not None
    assert worst.what == "ice"
    assert again.book.road.condition_on(2_600.0, 2_700.0) is not None
    assert again.book.road.condition_on(3_100.0, 3_200.0) is None


def test_a_condition_is_over_when_its_pass_is_driven(stage: ReviewedPass) -> None:
    reported, _ = parse_conditions("km 2 to 2.4 ice", stage.review.finish_m)
    stage.book.road.add_reported(reported)
    (made,) = stage.book.road.additions
    assert not stage.book.road.is_over(made)
    first = stage.pass_now()
    for _ in range(2):
        stage.project.add_pass(replace(first, id=0, kind="later"))
    stage.book.reload()
    assert not stage.book.road.is_over(made), "it was reported for the pass behind this one"
    assert stage.book.road.driven_with(2_100.0, 2_200.0) is None
    second = ReviewedPass.of_project(stage.project, pass_id=stage.project.passes()[1].id)
    driven_with = second.book.road.driven_with(2_100.0, 2_200.0)
    assert driven_with is not None
    assert driven_with.words == "ice"
    assert second.book.road.driven_with(2_600.0, 2_700.0) is None
    third = ReviewedPass.of_project(stage.project, pass_id=stage.project.passes()[-1].id)
    assert [third.book.road.is_over(a) for a in third.book.road.additions] == [True]
    assert third.book.road.condition_on(2_100.0, 2_200.0) is None
    assert third.book.road.driven_with(2_100.0, 2_200.0) is None


def test_rehearsing_says_what_lies_on_the_road_of_the_coming_pass(stage: ReviewedPass) -> None:
    bend = next(t.bend for t in stage.review.lineup.ties[20:] if t.bend is not None)
    note = next(t.note for t in stage.review.lineup.ties if t.bend is bend)
    place = f"km {(bend.from_m - 20) / 1000:.3f} to {(bend.to_m + 5) / 1000:.3f}"
    reported, _ = parse_conditions(f"{place} ice, bad\n{place} dust", stage.review.finish_m)
    stage.book.road.add_reported(reported)
    rehearsal = Rehearsal(stage)
    said = {line: found.words for line in range(len(rehearsal.lines)) if (found := rehearsal.condition_of(line)) is not None}
    at = next(i for i, line in enumerate(rehearsal.lines) if line.notes[0] <= note < line.notes[1])
    assert said[at] == "ice, bad"
    assert len(said) <= 3


def test_what_was_reported_holds_for_the_next_pass_whatever_book_is_read_on_it(stage: ReviewedPass) -> None:
    """The notes are corrected between two passes as a rule; the ice lies on the road all the same."""
    reported, _ = parse_conditions("km 2 to 2.4 ice", stage.review.finish_m)
    stage.book.road.add_reported(reported)
    run = SourceFile("run", AFTERNOON.name, AFTERNOON.content)
    book = SourceFile("notes", "corrected.txt", NOTES.content.replace(b"L5 into", b"L4 into", 1))
    made = stage.project.add_pass(Pass(0, None, None, kind="later"), {"run": run, "notes": book})
    later = ReviewedPass.of_project(stage.project, pass_id=made.id)
    found = later.book.road.driven_with(2_100.0, 2_200.0)
    assert found is not None
    assert found.words == "ice"
    assert later.book.road.additions == [], "the sheet itself stays with the book that was read when it was reported"
    # Taken back there, it is gone here as well.
    stage.book.undo()
    later.book.reload()
    assert later.book.road.driven_with(2_100.0, 2_200.0) is None
