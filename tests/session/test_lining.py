"""Lining up by hand: pins that hold and are kept, unsure notes first, a clock from a dragged call."""

import pytest

from mirkle.core.review import Review
from mirkle.files.project.project import Project
from mirkle.session.pairing_edits import clock_by_dragging, nearest_place, place_beside, said_at_m, ties_of, unsure
from mirkle.session.reviewed_pass import ReviewedPass


def tie(stage: ReviewedPass, note: int):  # type: ignore[no-untyped-def]
    return next(t for t in stage.review.lineup.ties if t.note == note)


def test_the_unsure_come_first_and_a_pin_makes_a_note_sure(stage: ReviewedPass) -> None:
    shown = ties_of(stage)
    assert [t.sure for t in shown] == sorted(t.sure for t in shown)
    without = unsure(stage)[0]
    assert without.words == "no bend"
    stage.pin(without.note, None)
    assert without.note not in [t.note for t in unsure(stage)]
    assert tie(stage, without.note).bend is None


def test_a_note_is_moved_to_the_next_bend_and_finds_back(stage: ReviewedPass) -> None:
    told: list[str] = []
    stage.reviewed.connect(lambda: told.append("reviewed"))
    before = stage.review
    note = before.lineup.ties[40].note
    place = place_beside(stage, note, 1)
    here = tie(stage, note).bend.apex_m
    assert place is not None
    assert place > here
    stage.pin(note, place)
    assert tie(stage, note).bend.apex_m == pytest.approx(place, abs=8)
    assert place_beside(stage, note, -1) < place
    stage.unpin(note)
    assert [t.bend for t in stage.review.lineup.ties] == [t.bend for t in before.lineup.ties]
    # The alignment about the pin is found from its neighbours, so how sure it is differs in the ninth place.
    assert [(f.id, f.severity, f.why) for f in stage.review.findings] == [(f.id, f.severity, f.why) for f in before.findings]
    assert told == ["reviewed", "reviewed"]


def test_pins_outlive_the_program_and_give_way_to_later_ones(stage: ReviewedPass) -> None:
    ties = [t for t in stage.review.lineup.ties if t.bend is not None]
    first, second = ties[50], ties[51]
    stage.pin(second.note, second.bend.apex_m)
    # Put beyond the pinned one: a book is read in order, so that pin has to go.
    stage.pin(first.note, ties[52].bend.apex_m)
    assert [p.note for p in stage.overrides.pins] == [first.note]
    stage.keep_review()
    where = tie(stage, first.note).bend
    project = stage.project
    project.close()
    again = ReviewedPass.of_project(Project.open(project.path))
    assert [p.note for p in again.overrides.pins] == [first.note]
    assert tie(again, first.note).bend == where


def test_a_pass_set_by_hand_is_reviewed_anew_with_it(stage: ReviewedPass) -> None:
    from dataclasses import replace

    finish_s = stage.review.finish_s - 20.0
    stage.set_overrides(replace(stage.overrides, finish_s=finish_s, calls_minus_run_s=12.5))
    again = ReviewedPass.of_project(stage.project, measurements=stage.measurements)
    assert again.review.finish_s == pytest.approx(finish_s, abs=0.1)
    assert again.review.clock is not None
    assert (again.review.clock.calls_minus_run_s, again.review.clock.by) == (12.5, "hand")
    assert again.review.measured is stage.review.measured
    assert max(f.from_m for f in again.findings) <= again.review.finish_m


def test_a_call_dragged_to_its_own_corner_leaves_the_clock_and_elsewhere_moves_it(stage: ReviewedPass, demo_review: Review) -> None:
    clock = demo_review.clock
    assert clock is not None
    assert stage.review.usual_lead.seconds == pytest.approx(3.1, abs=0.6)
    usual = [t for t in demo_review.lineup.ties[30:60] if t.bend is not None and demo_review.calls[t.note].time is not None]
    offsets = [clock_by_dragging(stage, t.note, t.bend.from_m) for t in usual]
    assert sorted(o for o in offsets if o is not None)[len(usual) // 2] == pytest.approx(clock.calls_minus_run_s, abs=0.3)
    heard = usual[5]
    assert said_at_m(stage, heard.note) < heard.bend.from_m
    later = clock_by_dragging(stage, heard.note, heard.bend.from_m + 300.0)
    assert later < clock.calls_minus_run_s - 5.0
    assert nearest_place(stage, heard.bend.apex_m + 1.0) == pytest.approx(heard.bend.apex_m)
