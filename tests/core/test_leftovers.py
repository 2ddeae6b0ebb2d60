"""Whose is a bend that no note claimed: one planted case for each way in which a bend can be left over."""

from dataclasses import replace

import numpy as np
import pytest

from mirkle.core.lineup.called_notes import calls_of
from mirkle.core.lineup.crew_scale import PLAIN_GAPS
from mirkle.core.lineup.pairing import line_up
from mirkle.core.lineup.result import Uncalled
from mirkle.core.lineup.road import road_of
from mirkle.core.lineup.unclaimed import WEIGHTS, WHOSE, Claimed, UnclaimedOdds, evidence_of, weighed
from mirkle.core.motion.bends import bend_between
from mirkle.core.motion.profile import Profile
from mirkle.core.motion.slip import beyond_usual
from mirkle.core.notes.model import Note
from tests.core.test_bends import profile
from tests.core.test_pairing import SCHOOL, corner, numbered, world


def whose_at(profile_: Profile, notes: list[Note], at_m: float) -> UnclaimedOdds:
    """Whose the bend left over at a place is."""
    return left_at(profile_, notes, at_m).whose


def left_at(profile_: Profile, notes: list[Note], at_m: float) -> Uncalled:
    lineup = line_up(calls_of(numbered(notes), SCHOOL), road_of(profile_))
    (left,) = [u for u in lineup.uncalled if u.bend.from_m - 12 < at_m < u.bend.to_m + 12]
    return left


@pytest.mark.parametrize("seed", [1, 2, 5])
def test_a_corner_taken_out_of_the_book_is_missing(seed: int) -> None:
    """Alone between its neighbours, with the distance called over it: nobody's but the road's."""
    profile_, notes, middles = world(seed, 24)
    alone = [
        i for i in range(4, 20) if int(notes[i].grade or 6) <= 3 and notes[i - 1].direction != notes[i].direction != notes[i + 1].direction
    ]
    at = alone[0]
    before = replace(notes[at - 1], distance_m=round(middles[at + 1] - middles[at - 1]) - 30)
    found = whose_at(profile_, [*notes[: at - 1], before, *notes[at + 1 :]], middles[at])
    assert found.missing > 0.6
    assert found.missing > 2 * max(found.before, found.behind, found.swerve, found.habit)


def spliced(extra: np.ndarray, *, gap_m: int = 60) -> tuple[Profile, list[Note], float]:
    """A road of honest corners with one stretch put in behind the twelfth's arc and before the straight; where it lies."""
    rng = np.random.default_rng(11)
    parts, notes, at, place = [np.zeros(100)], [], 100, 0.0
    for i in range(24):
        side, grade = (-1) ** i, int(rng.integers(2, 6))
        radius = 18.0 * 1.62 ** (grade - 1)
        length = int(radius * np.radians(70 - 8 * grade)) + 12
        parts.append(np.full(length, side / radius))
        at += length
        if i == 12:
            place = at + len(extra) / 2
            parts.append(extra * side)
            at += len(extra)
        parts.append(np.zeros(gap_m))
        at += gap_m
        notes.append(corner(i, side, grade, gap_m))
    curvature = np.convolve(np.concatenate([*parts, np.zeros(150)]), np.ones(7) / 7, mode="same")
    return profile(curvature + rng.normal(0, 3e-4, len(curvature))), notes, place


def test_what_follows_a_corner_on_its_side_within_the_distance_called_is_the_rest_of_it() -> None:
    """An easing of a few metres, then more of the same corner; the distance is called from behind it."""
    extra = np.concatenate([np.zeros(6), np.full(26, 1 / 60.0)])
    profile_, notes, place = spliced(extra)
    lineup = line_up(calls_of(numbered(notes), SCHOOL), road_of(profile_))
    assert not [u for u in lineup.uncalled if u.bend.from_m - 12 < place < u.bend.to_m + 12]
    whole = lineup.ties[12].bend
    assert whole is not None
    assert whole.from_m < place - 13 - 6 - 10
    assert whole.to_m > place + 5


def test_the_same_behind_the_distance_called_is_a_corner_that_nobody_called() -> None:
    """Forty metres on, on a straight for which the distance to the corner behind was called."""
    extra = np.concatenate([np.zeros(45), np.full(30, 1 / 40.0)])
    profile_, notes, place = spliced(extra)
    notes[12] = replace(notes[12], distance_m=45 + 30 + 60)
    assert whose_at(profile_, notes, place + 20).missing > 0.5


def test_a_gentle_bend_of_a_kind_that_this_crew_never_writes_is_its_habit() -> None:
    profile_, notes, middles = world(4, 30)
    gentle = [i for i, n in enumerate(notes) if n.grade == "6"]
    kept = [n for i, n in enumerate(notes) if i not in gentle]
    assert len(gentle) >= 3
    lineup = line_up(calls_of(numbered(kept), SCHOOL), road_of(profile_))
    near = [u for u in lineup.uncalled if any(abs(u.bend.apex_m - middles[i]) < 30 for i in gentle)]
    assert near
    assert np.mean([u.whose.habit for u in near]) > np.mean([u.whose.missing for u in near])


def test_a_quick_turn_that_nobody_slowed_for_behind_a_slide_is_the_drivers() -> None:
    base = {
        "missing": {"turn": np.log(15 / 30), "others": 0.0},
        "swerve": {"always": 1.0, "turn": np.log(15 / 30), "slowed": -0.1},
        "catch": {"always": 1.0, "turn": np.log(15 / 30), "seconds": np.log(0.8), "slowed": -0.1, "slid": 1.5},
        "habit": {"always": 1.0, "alike": -2.5, "open": -1.0},
    }
    assert weighed(base).swerve > 0.5
    slowly = {
        **base,
        "missing": {"turn": np.log(20 / 30), "others": 0.0},
        "swerve": {"always": 1.0, "turn": np.log(20 / 30), "slowed": 0.1},
        "catch": {"always": 1.0, "turn": np.log(20 / 30), "seconds": np.log(2.7), "slowed": 0.1, "slid": 0.3},
    }
    assert weighed(slowly).missing > 0.5
    assert weighed(slowly).missing > 2 * weighed(slowly).swerve
    further = {
        **base,
        "missing": {"turn": np.log(90 / 30), "others": 0.0},
        "swerve": {"always": 1.0, "turn": np.log(90 / 30), "slowed": -0.1},
        "catch": {"always": 1.0, "turn": np.log(90 / 30), "seconds": np.log(2.7), "slowed": -0.1, "slid": 1.5},
    }
    assert weighed(further).missing > 0.9, "nobody catches a car through a right angle"


def test_probabilities_add_up_and_what_has_no_evidence_is_out_of_the_question() -> None:
    evidence = {"missing": {"turn": 0.5, "others": 0.0}, "habit": {"always": 1.0, "alike": 0.0, "open": 0.0}}
    found = weighed(evidence)
    assert sum(getattr(found, name) for name in WHOSE) == pytest.approx(1.0)
    assert found.before == found.behind == found.swerve == 0.0
    odds = np.exp(WEIGHTS["missing"]["turn"] * 0.5 - WEIGHTS["habit"]["always"])
    assert found.missing / found.habit == pytest.approx(odds)
    others = weighed({**evidence, "missing": {"turn": 0.5, "others": 2.0}})
    assert others.missing < found.missing


def test_slip_beyond_the_usual_is_what_grip_does_not_explain() -> None:
    road, _, _ = world(2, 20)
    lateral = road.curvature_per_m * road.speed_mps**2
    slip = 0.02 * lateral
    slip[600:640] += 0.2
    beyond = beyond_usual(replace(road, slip_rad=slip))
    assert beyond is not None
    assert np.abs(beyond[600:640] - 0.2).max() < 0.02
    assert np.abs(np.delete(beyond, np.s_[600:640])).max() < 0.02
    assert beyond_usual(replace(road, slip_rad=np.full(len(slip), np.nan))) is None


def test_a_part_that_was_taken_in_is_counted_and_what_tightens_by_it_is_a_question() -> None:
    """A tighter bend right behind, within the distance called, makes the corner one that tightens: likely, and to be looked at."""
    profile_, notes, _ = spliced(np.concatenate([np.zeros(6), np.full(26, 1 / 60.0)]))
    lineup = line_up(calls_of(numbered(notes), SCHOOL), road_of(profile_))
    assert lineup.ties[12].parts == 1
    assert sum(t.parts for t in lineup.ties) == 1


def test_the_evidence_is_what_the_curvature_says() -> None:
    """Two corners 260 m apart with three bends between them, worked out by hand: the metres, the ease, the others, the scale."""
    bent = np.zeros(800)
    for first, last, radius in ((100, 140, 40), (170, 200, 60), (230, 250, -80), (340, 370, 60), (400, 440, 40)):
        bent[first:last] = 1 / radius
    road = profile(bent)
    left = [(bend_between(road, 170, 199), 3.0), (bend_between(road, 230, 249), 4.0), (bend_between(road, 340, 369), 4.4)]
    paired = [Claimed(0, bend_between(road, 100, 139), 2.0), Claimed(1, bend_between(road, 400, 439), 2.0)]
    calls = calls_of(numbered([corner(0, 1, 2, 200), corner(1, 1, 2, None)]), SCHOOL)
    first, second, third = evidence_of(left, paired, calls, road, PLAIN_GAPS)
    assert first["missing"]["others"] == second["missing"]["others"] == 2.0
    assert first["missing"]["turn"] == pytest.approx(np.log(left[0][0].turn_deg / 30.0))
    assert set(second) == {"missing", "swerve", "catch", "habit"}, "of the other side: no part of either"
    # Where a bend the other way lies between, it is no part of that one.
    assert "behind" not in first
    assert "before" not in third
    apart = left[0][0].from_m - paired[0].bend.to_m, paired[1].bend.from_m - left[2][0].to_m
    assert first["before"]["apart"] == pytest.approx(apart[0] / 20.0)
    assert third["behind"]["apart"] == pytest.approx(apart[1] / 20.0)
    assert first["before"]["dip"] == third["behind"]["dip"] == pytest.approx(1.0)
    assert first["before"]["said"] == 0.0
    # With it the distance called is nearer: from 200 m behind the first corner to 200 behind what follows it.
    assert first["before"]["distance"] < 0.0
    assert first["habit"]["open"] == pytest.approx(3.0 - 6.0 + 1.0)
    # No others alike, called ones a grade away: even odds of nought against nought.
    assert first["habit"]["alike"] == pytest.approx(0.0)
