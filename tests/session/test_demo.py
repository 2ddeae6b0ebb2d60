"""The whole way through on the demo: what was planted is found, and nothing is called a danger that is none."""

from pathlib import Path

import numpy as np
import pytest

from mirkle.core.judging.finding_kinds import KINDS
from mirkle.core.review import Review
from mirkle.files import demo_files
from mirkle.files.project.project import SourceFile
from mirkle.session.reviewing import Inputs, review_material
from tests.conftest import NOTES

JUDGED = {
    "grade-tighter",
    "grade-easier",
    "direction",
    "corner-uncalled",
    "corner-unmet",
    "distance-longer",
    "distance-shorter",
    "tightens-unmet",
    "opens-uncalled",
    "length-longer",
    "length-shorter",
    "jump-uncalled",
    "crest-uncalled",
    "bump-uncalled",
    "dip-uncalled",
    "maybe-settled",
    "call-late",
    "call-early",
    "said-otherwise",
}
# Kinds that the demo's crew makes no slip of, with what tests them.
NOT_PLANTED = {
    "bump-unmet": "tests/core/test_vertical_judged.py",
    "dip-unmet": "tests/core/test_vertical_judged.py",
    "crest-unmet": "tests/core/test_vertical_judged.py",
    "jump-unmet": "tests/core/test_vertical_judged.py",
    "opens-unmet": "tests/core/test_verdict.py",
    "cut-at-dont-cut": "tests/core/test_driving.py",
    "spare": "tests/core/test_driving.py",
    "surprise": "tests/core/test_driving.py",
    "said-by-you": "tests/session/test_said_by_crew.py",
}
# What only the words can show.
BY_WORDS = {"call-late", "call-early", "said-otherwise"}
NEAR_M = 40.0


@pytest.fixture(scope="module", params=["morning", "afternoon"])
def review(request: pytest.FixtureRequest, demo_review: Review) -> Review:
    if request.param == "morning":
        return demo_review
    return review_material(Inputs(SourceFile("run", demo_files.AFTERNOON, demo_files.demo_file(demo_files.AFTERNOON)), NOTES))


def slips(planted: dict) -> list[dict]:
    return [s for s in planted["slips"] if JUDGED & set(s["kinds"])]


def test_every_kind_is_planted_or_tested_elsewhere(planted: dict) -> None:
    in_the_demo = {k for s in planted["slips"] for k in s["kinds"]}
    assert set(KINDS) - in_the_demo == set(NOT_PLANTED)
    for kind, test in NOT_PLANTED.items():
        assert kind in (Path(__file__).parents[2] / test).read_text() or KINDS[kind].not_felt, kind


def test_every_planted_slip_is_found_at_its_place(review: Review, planted: dict) -> None:
    assert {k for s in slips(planted) for k in s["kinds"]} >= JUDGED
    heard = review.clock is not None
    for slip in slips(planted):
        if BY_WORDS & set(slip["kinds"]) and not heard:
            continue
        if all(KINDS[k].by_pace for k in slip["kinds"]) and any(p.holds(slip["from_m"]) for p in review.parts):
            continue
        found = [f for f in review.findings if f.kind in slip["kinds"]]
        assert any(f.from_m - NEAR_M < slip["to_m"] and f.to_m + NEAR_M > slip["from_m"] for f in found), slip


def test_nothing_is_called_a_danger_or_a_change_that_is_none(review: Review, planted: dict) -> None:
    for finding in review.findings:
        if finding.severity in ("danger", "change"):
            assert any(
                finding.kind in s["kinds"] and finding.from_m - NEAR_M < s["to_m"] and finding.to_m + NEAR_M > s["from_m"]
                for s in planted["slips"]
            ), finding.why


def test_two_grades_too_fast_the_wrong_way_missing_corners_and_jumps_are_dangers(review: Review, planted: dict) -> None:
    for slip in slips(planted):
        if slip["slip"] in ("grade-two-too-fast", "wrong-direction", "corner-left-out", "jump-left-out"):
            near = [f for f in review.findings if f.from_m - NEAR_M < slip["to_m"] and f.to_m + NEAR_M > slip["from_m"]]
            assert any(f.severity == "danger" for f in near), slip


def test_nothing_is_proposed_faster_above_check(review: Review) -> None:
    for finding in review.findings:
        if finding.kind == "grade-easier":
            assert finding.severity == "check"
        if finding.kind == "grade-tighter":
            assert finding.proposal is not None
            assert finding.proposal.rewording is not None
            met = review.school.position(finding.proposal.rewording.grade or "")
            called = review.school.position(review.notes[finding.note].grade or "")
            assert met < called


def test_the_part_with_a_flat_tyre_is_proposed_not_to_count(demo_review: Review, planted: dict) -> None:
    (true,) = planted["does_not_count"]
    (part,) = demo_review.parts
    assert part.proposed
    assert part.from_m == pytest.approx(true["from_m"], abs=120)
    assert part.to_m == pytest.approx(true["to_m"], abs=120)
    inside = [f for f in demo_review.findings if part.holds(0.5 * (f.from_m + f.to_m))]
    assert not any(KINDS[f.kind].by_pace for f in inside)


def test_start_and_finish_are_where_they_were(demo_review: Review, planted: dict) -> None:
    assert demo_review.measured.drive.start_s == pytest.approx(planted["stage"]["start_s"], abs=0.3)
    assert demo_review.finish_s == pytest.approx(planted["stage"]["finish_s"], abs=0.6)
    assert demo_review.finish_m == pytest.approx(planted["stage"]["finish_m"], rel=2e-3)


def test_the_crews_bands_never_cross(review: Review) -> None:
    for tighter, wider in zip(review.bands, review.bands[1:], strict=False):
        assert tighter.radius_low_m < tighter.radius_middle_m < tighter.radius_high_m
        assert tighter.radius_high_m == pytest.approx(wider.radius_low_m)


def test_every_sentence_carries_its_numbers(review: Review) -> None:
    for finding in review.findings:
        assert any(c.isdigit() for c in finding.why), finding.why
        assert finding.why.endswith(".")
        assert 0.0 < finding.confidence <= 1.0
        assert np.isfinite(finding.risk)
