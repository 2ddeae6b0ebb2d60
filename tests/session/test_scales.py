"""Crews that grade by another measure: one scale and one unit in sentence, facts and picture, and the finding on its right side."""

from __future__ import annotations

import re

import numpy as np
import pytest

from mirkle.core.judging.scale import ruler_of
from mirkle.core.lineup.crew_scale import GradeYardstick
from tests.regraded import CREWS, SLIP_EVERY, regraded

UNITS = {"radius": ("m", 1.0), "speed": ("mps", 3.6), "angle": ("deg", 1.0)}
GOES_BY = {"radius": "radius", "speed": "speed", "angle": "angle", "wheel": "radius", "words": "radius"}


@pytest.mark.parametrize("crew", CREWS)
def test_sentence_facts_and_ruler_are_one_scale_whatever_a_crew_grades_by(crew: str) -> None:
    review = regraded(crew)
    assert review.measure == GOES_BY[crew]
    graded = [f for f in review.findings if f.kind in ("grade-tighter", "grade-easier")]
    ranged = 0
    for finding in graded:
        tie = review.lineup.tie_of[finding.note]
        assert tie.bend is not None
        assert tie.position is not None
        ruler = review.ruler(tie.bend, tie.position)
        said = dict(finding.because[0].named)
        assert said["met"] == finding.met == ruler.grade
        low, high = ruler.range_of(str(said["called"]))
        unit, printed = UNITS[ruler.measure]
        facts = finding.facts
        assert (facts.get(f"low_{unit}"), facts.get(f"high_{unit}")) == (low, high)
        # What was met lies beyond the range that the sentence names, on the side that its heading says.
        narrower = (finding.kind == "grade-tighter") != (ruler.measure == "angle")
        if narrower:
            assert low is None or ruler.met < low
        else:
            assert high is None or ruler.met > high
        figures = [v for v in (low, high) if v is not None]
        if figures:
            ranged += 1
            printed_figures = [int(digits) for digits in re.findall(r"(\d+)(?: m| km/h|°)", str(finding.background[0]))]
            assert printed_figures == pytest.approx([v * printed for v in figures], abs=0.51)
    slipped = {n.index for n in review.notes if n.index % SLIP_EVERY == 0 and n.direction is not None}
    assert len(slipped & {f.note for f in graded}) >= 8
    assert ranged >= 8


def test_the_borders_are_where_the_yardstick_itself_changes_its_grade() -> None:
    """A bend put together anew with each border's radius, at the same angle, is half-way between two grades to the yardstick."""
    review = regraded("radius")
    yardstick = GradeYardstick(weights=np.array([-5.0, 1.0, 0.6, -0.4, 0.5, 0.0]), scatter=0.3, count=99)
    bend = next(t.bend for t in review.lineup.ties if t.bend is not None and 40 < t.bend.turn_deg < 90)

    def position(times: float, turns: float = 1.0) -> float:
        measures = bend.radius_m * times, bend.carried_radius_m * times, bend.turn_deg * turns
        return float(yardstick.weights[:5] @ [1.0, *np.log([*measures, bend.length_m * times * turns])])

    at = position(1.0)
    by_radius = ruler_of(yardstick, bend, at, review.school, "radius")
    by_speed = ruler_of(yardstick, bend, at, review.school, "speed")
    halfway = [0.5 * (a + b) for a, b in zip(by_radius.places, by_radius.places[1:], strict=False)]
    for border, radius, speed in zip(halfway, by_radius.borders, by_speed.borders, strict=True):
        if not np.isnan(radius):
            assert position(radius / bend.radius_m) == pytest.approx(border)
        if not np.isnan(speed):
            assert position((speed / bend.speed_min_mps) ** 2) == pytest.approx(border)
    assert np.isfinite(by_radius.borders).sum() >= 4
    turning = GradeYardstick(weights=np.array([9.0, 0.1, 0.1, -1.1, -0.6, 0.0]), scatter=0.3, count=99)
    by_angle = ruler_of(turning, bend, 3.0, review.school, "angle")
    yardstick = turning
    assert by_angle.measure == "angle"
    for border, turn in zip(halfway, by_angle.borders, strict=True):
        if not np.isnan(turn):
            assert position(1.0, turn / bend.turn_deg) - position(1.0) == pytest.approx(border - 3.0)
    # A crew whose grades fall as bends widen has no ruler of radii.
    assert ruler_of(turning, bend, 3.0, review.school, "radius").measure == "angle"
