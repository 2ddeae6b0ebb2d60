"""What the car did: slides, cuts, the lift at the finish, and calls where the line hides a corner's beginning."""

from dataclasses import replace

import numpy as np
import pytest

from mirkle.core.judging.corners import judge_corners
from mirkle.core.judging.driving import judge_driving
from mirkle.core.judging.findings import JudgingContext
from mirkle.core.judging.parts import propose_parts
from mirkle.core.judging.slides import slides_of
from mirkle.core.lineup.call_clock import Clock
from mirkle.core.lineup.finish import finish_m
from mirkle.core.lineup.remarks import Remark
from mirkle.core.lineup.result import Uncalled
from mirkle.core.lineup.unclaimed import UnclaimedOdds
from tests.core.test_verdict import case_of, kinds, said_notes, stage, timed

SLIP_PER_MPS2 = 0.025


def with_slip(case: JudgingContext, extra_deg: dict[int, float]) -> JudgingContext:
    """The stage with slip in proportion to lateral acceleration, and more of it in some bends."""
    road = case.profile
    slip = SLIP_PER_MPS2 * road.curvature_per_m * road.speed_mps**2
    for note, degrees in extra_deg.items():
        bend = case.lineup.tie_of[note].bend
        assert bend is not None
        slip[int(bend.from_m) : int(bend.to_m)] += bend.side * np.radians(degrees)
    return case_of("\n".join(n.text for n in case.notes), replace(road, slip_rad=slip))


def test_a_slide_is_slip_beyond_what_the_car_usually_shows() -> None:
    case = stage()
    assert slides_of(case.lineup, case.profile) == {}
    assert with_slip(case, {}).slides_deg == {}
    slid = with_slip(case, {9: 14.0, 21: -11.0}).slides_deg
    assert sorted(slid) == [9, 21]
    assert slid[9] == pytest.approx(14.0, abs=2.0)
    assert slid[21] == pytest.approx(11.0, abs=2.0)


def test_without_a_yaw_rate_no_slide_is_said() -> None:
    case = stage()
    blind = replace(case.profile, slip_rad=np.full(len(case.profile.distance_m), np.nan))
    assert slides_of(case.lineup, blind) == {}


def test_a_slide_widens_what_a_line_leaves_open_and_takes_no_danger_back() -> None:
    """A note that is far too fast makes the car slide; one that is a grade off may be off by the slide alone."""
    honest = stage()
    tight = next(n.index for n in honest.notes if n.grade == "2" and n.index > 10)
    texts = {tight: honest.notes[tight].text.replace("2", "5", 1)}
    case = stage(texts=texts)
    (plain,) = [f for f in judge_corners(case) if f.note == tight and f.kind == "grade-tighter"]
    assert plain.severity in ("danger", "change")
    (slid,) = [f for f in judge_corners(with_slip(case, {tight: 15.0})) if f.note == tight]
    assert slid.severity == plain.severity
    assert "slid" in slid.why
    assert slid.confidence < plain.confidence
    case = stage(texts={tight: honest.notes[tight].text.replace("2", "3", 1)})
    (plain,) = [f for f in judge_corners(case) if f.note == tight and f.kind == "grade-tighter"]
    slid_findings = [f for f in judge_corners(with_slip(case, {tight: 15.0})) if f.note == tight]
    assert all(f.confidence < plain.confidence for f in slid_findings)


def test_a_tail_that_got_away_is_proposed_as_a_part_that_does_not_count() -> None:
    case = with_slip(stage(), {9: 26.0})
    bend = case.lineup.tie_of[9].bend
    assert bend is not None
    (part,) = propose_parts(case.lineup, case.profile, case.pace, case.finish_m)
    assert part.reason == "the tail got away"
    assert part.proposed
    assert part.holds(bend.apex_m)
    assert part.holds(bend.to_m + 40.0)
    assert propose_parts(stage().lineup, with_slip(stage(), {9: 12.0}).profile, case.pace, case.finish_m) == ()


def test_a_wider_line_at_dont_cut_is_a_cut_to_look_at_and_never_an_easier_corner() -> None:
    honest = stage()
    wide = next(n.index for n in honest.notes if n.grade == "4" and n.index > 10 and not n.length)
    head, _, gap = honest.notes[wide].text.rpartition(" ")
    tighter = head.replace("4", "3", 1)
    plain = stage(texts={wide: f"{tighter} {gap}"})
    assert ("grade-easier", wide) in kinds(judge_corners(plain))
    dont = stage(texts={wide: f"{tighter} don't cut {gap}"})
    assert ("grade-easier", wide) not in kinds(judge_corners(dont))
    (cut,) = [f for f in judge_driving(dont, frozenset()) if f.kind == "cut-at-dont-cut"]
    assert (cut.note, cut.severity, cut.proposal) == (wide, "check", None)
    # An honest don't-cut note, and a slide, say nothing of a cut.
    right = stage(texts={wide: f"{head} don't cut {gap}"})
    assert not [f for f in judge_driving(right, frozenset()) if f.kind == "cut-at-dont-cut"]
    slid = with_slip(dont, {wide: 15.0})
    assert not [f for f in judge_driving(slid, frozenset()) if f.kind == "cut-at-dont-cut"]


def with_speed(case: JudgingContext, note: int, share: float, from_m: float) -> JudgingContext:
    """The stage with a bend driven at a share of its speed, from a place ahead of its apex on."""
    road, bend = case.profile, case.lineup.tie_of[note].bend
    assert bend is not None
    slower = np.interp(road.distance_m, [from_m - 1.0, from_m + 12.0, bend.to_m, bend.to_m + 60.0], [1.0, share, share, 1.0])
    return case_of("\n".join(n.text for n in case.notes), replace(road, speed_mps=road.speed_mps * slower))


def test_a_bend_that_used_half_the_grip_has_time_in_it_and_a_linked_one_has_not() -> None:
    case = stage()
    free = next(t for t in case.lineup.ties[6:] if t.bend is not None and case.notes[t.note].grade == "3" and t.bend.turn_deg > 30)
    assert free.bend is not None
    assert not list(judge_driving(case, frozenset()))
    slow = with_speed(case, free.note, 0.6, free.bend.from_m - 80.0)
    (spare,) = [f for f in judge_driving(slow, frozenset()) if f.kind == "spare" and f.note == free.note]
    assert (spare.note, spare.severity, spare.proposal) == (free.note, "check", None)
    bend = slow.lineup.tie_of[free.note].bend
    assert bend is not None
    # Seconds of the bend's own length at the speed that was driven, less what it takes at the usual grip.
    allowed = min(slow.pace.allowed_mps(bend), slow.pace.reachable_mps(slow.profile, bend))
    assert spare.seconds == pytest.approx(bend.length_m / bend.speed_min_mps - bend.length_m / allowed)
    taken = judge_driving(slow, frozenset((free.note,)))
    assert free.note not in {f.note for f in taken if f.kind == "spare"}, "its grade is a finding already"
    slid = judge_driving(with_slip(slow, {free.note: 15.0}), frozenset())
    assert free.note not in {f.note for f in slid if f.kind == "spare"}


def test_hard_braking_inside_a_corner_that_was_called_fast_is_a_surprise() -> None:
    case = stage()
    fast = next(t for t in case.lineup.ties[6:] if t.bend is not None and case.notes[t.note].grade == "5" and t.bend.length_m > 40)
    assert fast.bend is not None
    inside = with_speed(case, fast.note, 0.6, fast.bend.from_m + 2.0)
    (surprise,) = [f for f in judge_driving(inside, frozenset()) if f.kind == "surprise"]
    assert (surprise.note, surprise.severity) == (fast.note, "check")
    assert surprise.proposal is not None
    assert inside.hand.read_back(surprise.proposal.text)[0].cautions, "a warning ahead of it"
    # Slowed on the straight ahead of it, it was no surprise.
    ahead = with_speed(case, fast.note, 0.6, fast.bend.from_m - 60.0)
    assert not [f for f in judge_driving(ahead, frozenset()) if f.kind == "surprise"]


def finished(
    lift_behind_m: float, called: int | str, *, flat_out_m: float = 0.0, astray_m: float = 0.0, sure: float = 1.0, rest: float = 0.0
) -> tuple[float, float]:
    """Where the finish was found, and where it truly lies: 150 m behind the last corner.

    ``flat_out_m`` is how long the car had been as fast as it goes when its driver lifted; the last note is put ``astray_m``
    before its corner, ``sure`` of it, and a bend there is its rest with a probability of ``rest``.
    """
    honest = stage()
    lines = [n.text for n in honest.notes]
    lines[-1] = f"{lines[-1].rpartition(' ')[0]} {called}"
    road = honest.profile
    last = honest.lineup.tie_of[honest.notes[-1].index].bend
    assert last is not None
    true_m = last.to_m + 150.0
    longer = int(true_m + 300 - road.length_m)
    at = np.arange(road.length_m + longer + 1)
    pad = np.zeros(longer)
    peak = true_m + lift_behind_m
    speed = np.where(
        at > last.to_m,
        np.interp(at, [last.to_m, peak - flat_out_m, peak, at[-1]], [20.0, 38.01, 38.0, 5.0]),
        np.interp(at, road.distance_m, road.speed_mps),
    )
    columns = {name: np.concatenate([getattr(road, name), pad])[: len(at)] for name in ("curvature_per_m", "carried_per_m", "slip_rad")}
    heading = np.interp(at, road.distance_m, road.heading_rad)
    long_road = replace(
        road,
        distance_m=at,
        heading_rad=heading,
        speed_mps=speed,
        curvature_sd_per_m=np.full(len(at), 2e-4),
        time_s=np.concatenate([[0.0], np.cumsum(2 / (speed[1:] + speed[:-1]))]),
        **columns,
    )
    case = case_of("\n".join([*lines, "finish"]), long_road)
    from mirkle.core.notes.reading import read_notes
    from tests.core.test_verdict import ENGLISH

    reading = read_notes("\n".join([*lines, "finish"]), (ENGLISH,))
    last = case.lineup.ties[-1]
    assert last.bend is not None
    left = Uncalled(last.bend, 4.0, False, UnclaimedOdds(1.0 - rest, rest, 0.0, 0.0, 0.0))
    astray = replace(last.bend, to_m=last.bend.to_m - astray_m, apex_m=last.bend.apex_m - astray_m)
    elsewhere = replace(case.lineup, uncalled=(left,), ties=(*case.lineup.ties[:-1], replace(last, bend=astray, sure=sure)))
    return finish_m(reading, elsewhere, long_road, coarse=False), true_m


def test_the_lift_behind_the_board_sharpens_the_noted_finish() -> None:
    """A driver holds the throttle to the board (common practice): a finish noted 20 m out is drawn towards it."""
    for called, within in ((130, 15), (150, 6), (170, 15)):
        found, true = finished(11.0, called)
        assert found == pytest.approx(true, abs=within)
        found, true = finished(11.0, called, flat_out_m=70.0)
        assert found == pytest.approx(true, abs=within), "at its top speed long before it lifted"
    # A last corner that may be another one says nothing: the lift does.
    found, true = finished(11.0, 150, astray_m=90.0, sure=0.4)
    assert found == pytest.approx(true, abs=6)
    # Nor does its end, where a bend behind it is rather its rest.
    found, true = finished(11.0, 150, astray_m=90.0, rest=0.7)
    assert found == pytest.approx(true, abs=6)
    # A lift for something else, far from the noted finish, is not taken for it.
    found, true = finished(140.0, 150)
    assert found == pytest.approx(true, abs=14)


def test_a_call_is_not_late_only_because_the_line_led_into_the_corner_early() -> None:
    """Two bends of one side with no straight between: the second's beginning is hidden, and the notes have a word in it."""
    honest = stage()
    said = said_notes(honest, {})
    clock = Clock(100.0, 0.2, "go")
    assert not [f for f in timed(honest, said, clock) if f.kind == "call-late"]
    note = next(g.next_note for g in honest.lineup.gaps if g.called_m is not None and g.next_note > 10)
    hidden = replace(
        honest.lineup,
        gaps=tuple(replace(g, met_m=None, usable=False, called_m=60.0) if g.next_note == note else g for g in honest.lineup.gaps),
    )
    case = replace(honest, lineup=hidden)
    late = said_notes(honest, {note: 1.0})
    leads = {f.note: f.facts["lead_s"] for f in timed(honest, late, clock) if f.kind == "call-late"}
    assert note in leads
    again = {f.note: f.facts["lead_s"] for f in timed(case, late, clock) if f.kind == "call-late"}
    assert note not in again or again[note] >= leads[note]
    # Nor because a gentle shoulder was counted to the arc: late is what is late for the bend itself, too.
    bend = honest.lineup.bend_of(note)
    assert bend is not None
    early = replace(bend, from_m=bend.from_m - 45.0)
    ties = tuple(replace(t, bend=early) if t.note == note else t for t in honest.lineup.ties)
    drawn_out = replace(honest, lineup=replace(honest.lineup, ties=ties))
    assert note not in {f.note for f in timed(drawn_out, said, clock) if f.kind == "call-late"}
    assert note in {f.note for f in timed(drawn_out, late, clock) if f.kind == "call-late"}


@pytest.mark.parametrize(("lead", "late"), [(1.2, True), (1.7, True), (1.9, False), (2.1, False), (2.6, False)])
def test_a_call_is_late_by_what_can_be_acted_on_and_by_the_crews_own_habit(lead: float, late: bool) -> None:
    """Under 1.25 s for everybody; under 1.8 s for a crew that keeps its lead to a few tenths and was out by three of its spreads."""
    honest = stage()
    note = honest.lineup.ties[12].note
    clock = Clock(100.0, 0.2, "go")
    found = {f.note: f for f in timed(honest, said_notes(honest, {note: lead}), clock) if f.kind == "call-late"}
    assert (note in found) is late
    if late and lead > 1.3:
        assert found[note].severity == "check"


def test_into_finish_is_the_flying_finish_and_not_the_stop() -> None:
    """The board stands right behind the last corner, and the car rolls on for three hundred metres (common practice)."""
    found, far_m = finished(-138.0, "into")
    assert found == pytest.approx(far_m - 140.0, abs=15.0)


def test_a_slip_that_is_not_known_well_is_no_slide() -> None:
    case = with_slip(stage(), {9: 14.0})
    sure = replace(case.profile, slip_sd_rad=np.full(len(case.profile.distance_m), np.radians(0.5)))
    assert slides_of(case.lineup, sure)[9] == pytest.approx(13.0, abs=2.0)
    unsure = replace(case.profile, slip_sd_rad=np.full(len(case.profile.distance_m), np.radians(6.0)))
    assert slides_of(case.lineup, unsure) == {}


def test_an_incident_that_was_said_counts_until_pace_is_back() -> None:
    """Three slow bends are too few to be noticed by themselves; said aloud they are a part that does not count."""
    case = stage(slow=(20, 23))
    first, behind = case.lineup.tie_of[20].bend, case.lineup.tie_of[23].bend
    assert first is not None
    assert behind is not None
    assert propose_parts(case.lineup, case.profile, case.pace, case.finish_m) == ()
    said = Remark(first.from_m - 20.0, "we have a flat", incident=True)
    (part,) = propose_parts(case.lineup, case.profile, case.pace, case.finish_m, [said, replace(said, at_m=said.at_m + 5.0)])
    assert (part.from_m, part.reason, part.proposed) == (said.at_m, "we have a flat", True)
    # It ends where the next corner or the one behind it is quick again.
    after = case.lineup.tie_of[25].bend
    assert after is not None
    assert behind.from_m - 1.0 <= part.to_m <= after.from_m
    # Talk, the debrief, and a lamp that cost nothing take no part away.
    for other in (replace(said, incident=False), replace(said, debrief=True), replace(said, at_m=behind.to_m + 200.0)):
        assert propose_parts(case.lineup, case.profile, case.pace, case.finish_m, [other]) == ()
