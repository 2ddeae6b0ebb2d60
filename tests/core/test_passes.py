"""Passes of one road: laid on each other, and what one line shows of another's bends."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from mirkle.core.joint.joint_alignment import AlignedPass, keep_pass_weights, places_from_passes, weigh_by_passes
from mirkle.core.joint.same_road import SameRoad, same_road
from mirkle.core.lineup.called_notes import CallPlaces
from mirkle.core.lineup.result import Uncalled
from mirkle.core.lineup.unclaimed import UnclaimedOdds
from mirkle.core.motion.bends import bend_between
from mirkle.core.motion.profile import Profile
from mirkle.core.review import Measured, measure_run
from tests.core.test_bends import profile
from tests.core.test_verdict import stage
from tests.worlds import recording_of_curvature

SAME = SameRoad(np.array([0.0, 5000.0]), np.array([0.0, 5000.0]))
ARCS = ((60.0, 80), (-30.0, 100), (150.0, 45), (-12.0, 150), (45.0, 60), (-80.0, 70))


def winding(*radii_deg: tuple[float, float]) -> np.ndarray:
    """Curvature each metre: straights of 150 m between arcs of (radius, degrees), eased over 8 m."""
    parts = [np.zeros(150)]
    for radius, degrees in radii_deg:
        parts += [np.full(int(abs(radius) * np.radians(degrees)), 1 / radius), np.zeros(150)]
    return np.convolve(np.concatenate(parts), np.ones(8) / 8, mode="same")


def driven(curvature: np.ndarray, **how: float) -> Measured:
    return measure_run(recording_of_curvature(curvature, **how))  # type: ignore[arg-type]


def test_two_passes_are_laid_on_each_other() -> None:
    """A quick one and a slow one, whose receivers know nothing of each other."""
    road = winding(*ARCS, *ARCS)
    quick, slow = driven(road, speed_mps=24.0, seed=4), driven(road, speed_mps=12.0, seed=5)
    same = same_road((quick.profile, quick.plan), (slow.profile, slow.plan))
    assert same is not None
    at = np.arange(30.0, quick.profile.length_m - 30.0, 25.0)
    there = np.array([same.there(m) for m in at])
    assert np.abs(there - at).max() < 2.5
    assert np.all(np.diff(same.there_m) >= 0.0)
    assert [same.here(same.there(m)) for m in at] == pytest.approx(at, abs=0.01)


def test_where_receivers_are_out_the_bends_tell_the_place() -> None:
    """One receiver is out by 6 m along the first straight: as much nearer the truth as the bends are trusted."""
    road = winding(*ARCS)
    here, there = driven(road, seed=4), driven(road, seed=5)
    pushed = replace(there.plan, east_m=there.plan.east_m + 6.0)
    same = same_road((here.profile, here.plan), (there.profile, pushed))
    assert same is not None
    in_a_bend = 150.0 + 0.5 * 60.0 * np.radians(80)
    assert same.there(in_a_bend) == pytest.approx(in_a_bend, abs=3.0)


def test_another_road_is_not_laid_on_this_one() -> None:
    here, there = driven(winding(*ARCS)), driven(winding(*((-r, d) for r, d in ARCS)))
    assert same_road((here.profile, here.plan), (there.profile, there.plan)) is None
    nowhere = replace(here.plan, middle_deg=None)
    assert same_road((here.profile, here.plan), (here.profile, nowhere)) is None


def _left(lineup_profile: Profile) -> Uncalled:
    return Uncalled(bend_between(lineup_profile, 300, 350), 3.0, False, UnclaimedOdds(0.5, 0.1, 0.0, 0.3, 0.1))


def test_what_only_one_line_shows_is_the_drivers_own() -> None:
    bent = np.zeros(800)
    bent[300:351] = 1 / 60.0
    with_it, without = profile(bent), profile(np.zeros(800))
    lineup = replace(stage().lineup, uncalled=(_left(with_it),))
    seen = {
        name: weigh_by_passes(lineup, [AlignedPass(other, lineup, SAME) for other in others]).uncalled[0]
        for name, others in {"one": [with_it], "none": [without], "two": [without, without], "mixed": [with_it, without]}.items()
    }
    assert seen["one"].whose.swerve < 0.06
    assert seen["none"].whose.swerve > 0.9
    assert seen["two"].whose.swerve > seen["none"].whose.swerve > seen["mixed"].whose.swerve > seen["one"].whose.swerve
    for left in seen.values():
        whose = left.whose
        assert whose.missing + whose.before + whose.behind + whose.swerve + whose.habit == pytest.approx(1.0)
        assert whose.missing / whose.before == pytest.approx(5.0)
    # It turns the other way on the other line: that is not this bend.
    assert weigh_by_passes(lineup, [AlignedPass(profile(-bent), lineup, SAME)]).uncalled[0].whose.swerve > 0.9
    # A note moved by hand leaves what was seen of the bends that stay.
    again = keep_pass_weights(lineup, weigh_by_passes(lineup, [AlignedPass(without, lineup, SAME)]))
    assert again.uncalled[0].whose == seen["none"].whose


def test_another_pass_shows_where_a_note_is_as_a_call_does() -> None:
    honest = stage()
    tie = next(t for t in honest.lineup.ties if t.bend is not None and t.sure > 0.95)
    assert tie.bend is not None
    other = AlignedPass(honest.profile, honest.lineup, SameRoad(np.array([0.0, 5000.0]), np.array([10.0, 5010.0])))
    place_m = tie.bend.eased_from_m - 10.0
    alone = places_from_passes([tie.note], [other], None)
    assert alone is not None
    assert alone.place_m[0] == pytest.approx(place_m)
    called = CallPlaces(np.array([place_m + 16.0]), np.array([16.0]))
    both = places_from_passes([tie.note], [other], called)
    assert both is not None
    # Four fifths of the way to what is known twice as well.
    assert both.place_m[0] == pytest.approx(place_m + 3.2)
    assert both.sigma_m[0] < alone.sigma_m[0] < 16.0
    far = CallPlaces(np.array([place_m + 90.0]), np.array([16.0]))
    against = places_from_passes([tie.note], [other], far)
    assert against is not None
    assert against.place_m[0] == far.place_m[0]
    unsure = replace(honest.lineup, ties=tuple(replace(t, sure=0.5) for t in honest.lineup.ties))
    nothing = places_from_passes([tie.note], [replace(other, lineup=unsure)], None)
    assert nothing is not None
    assert np.isnan(nothing.place_m[0])
    assert places_from_passes([tie.note], [], called) is called
