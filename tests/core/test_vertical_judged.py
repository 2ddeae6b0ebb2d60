"""The vertical, called against met: a table of what was called, what the car felt, and what a crew is told."""

from __future__ import annotations

from dataclasses import replace

import pytest

from mirkle.core.judging.findings import Finding, JudgingContext
from mirkle.core.judging.vertical import judge_vertical
from mirkle.core.motion.vertical import Feature
from tests.core.test_verdict import stage

# The note whose bend everything lies behind, and one on whose way out is room.
NOTE = 20


def felt(kind: str, at_m: float, *, air_s: float | None = None, takeoff_mps: float | None = None) -> Feature:
    """Something in the vertical, met at 25 m/s."""
    to_m = at_m + 25.0 * air_s if air_s is not None else at_m + 5.0
    least_g = -0.05 if kind == "jump" else 0.6
    return Feature(kind, at_m, to_m, at_m, 25.0, air_s, 80.0 if kind in ("crest", "dip") else None, least_g, takeoff_mps)


PLAIN = stage()


def with_words(words: str) -> JudgingContext:
    """The stage with some words on :data:`NOTE`, ahead of its distance."""
    head, _, gap = PLAIN.notes[NOTE].text.rpartition(" ")
    return stage(texts={NOTE: f"{head} {words} {gap}"}) if words else PLAIN


def judge(words: str, *features: tuple[str, float, float | None, float | None]) -> list[Finding]:
    """What is said where ``words`` are called and features (kind, metres behind the bend, air, take-off) are felt."""
    case = with_words(words)
    bend = case.lineup.tie_of[NOTE].bend
    assert bend is not None
    met = tuple(felt(k, bend.to_m + off, air_s=air, takeoff_mps=t) for k, off, air, t in features)
    return list(judge_vertical(replace(case, vertical=met)))


def told(findings: list[Finding]) -> list[tuple[str, str]]:
    return [(f.kind, f.severity) for f in findings]


@pytest.mark.parametrize(
    ("words", "features", "expected"),
    [
        # What was called is there: nothing to say.
        ("over jump", [("jump", 5.0, 0.4, None)], []),
        ("over crest", [("crest", 5.0, None, None)], []),
        ("over bump", [("bump", 5.0, None, None)], []),
        ("dip", [("dip", 5.0, None, None)], []),
        # Crews call bumps and dips for each other, and a crest for a light jump.
        ("dip", [("bump", 5.0, None, None)], []),
        ("over crest", [("jump", 5.0, 0.16, None)], []),
        # A crest that threw the car is a jump that nobody called.
        ("over crest", [("jump", 5.0, 0.22, None)], [("jump-uncalled", "change")]),
        ("over crest", [("jump", 5.0, 0.40, None)], [("jump-uncalled", "danger")]),
        # A jump that did not fly: never more than a question, since a faster pass may.
        ("over jump", [], [("jump-unmet", "check")]),
        ("over jump", [("crest", 5.0, None, 27.0)], [("jump-unmet", "check")]),
        # The rest that is called and not felt says little, where little else was called.
        ("over crest", [], []),
        ("over bump", [], []),
        # Nobody called it: by what it does to a car.
        ("", [("jump", 5.0, 0.40, None)], [("jump-uncalled", "danger")]),
        ("", [("jump", 5.0, 0.22, None)], [("jump-uncalled", "change")]),
        ("", [("jump", 5.0, 0.16, None)], [("jump-uncalled", "check")]),
        ("", [("crest", 5.0, None, None)], [("crest-uncalled", "check")]),
        # A maybe is settled either way.
        ("jump maybe", [("jump", 5.0, 0.30, None)], [("maybe-settled", "check")]),
        ("jump maybe", [("crest", 5.0, None, 28.0)], [("maybe-settled", "check")]),
        ("jump maybe", [], [("maybe-settled", "check")]),
        # One call answers for one thing.
        ("over bump", [("bump", 3.0, None, None), ("bump", 12.0, None, None)], [("bump-uncalled", "remark")]),
        ("over bumps", [("bump", 3.0, None, None)], []),
    ],
)
def test_called_against_felt(words: str, features: list, expected: list[tuple[str, str]]) -> None:
    found = judge(words, *features)
    assert told(found) == expected
    assert all(f.note == NOTE for f in found)


def test_without_a_vertical_accelerometer_nothing_is_judged() -> None:
    assert list(judge_vertical(with_words("over jump"))) == []


def test_a_maybe_says_at_what_speed_it_holds() -> None:
    (flew,) = judge("jump maybe", ("jump", 5.0, 0.30, None))
    assert "It flew for 0.3 s at 90 km/h" in flew.why
    assert flew.seconds == pytest.approx(0.30)
    (stayed,) = judge("jump maybe", ("crest", 5.0, None, 28.0))
    assert "At 90 km/h it did not fly" in stayed.why
    assert "above 101 km/h" in stayed.why
    (nothing,) = judge("jump maybe")
    assert "stayed on the ground" in nothing.why


@pytest.mark.parametrize(("takeoff_mps", "more"), [(25.8, True), (27.0, False)])
def test_a_jump_to_expect_on_a_faster_pass_is_worth_a_look(takeoff_mps: float, more: bool) -> None:
    """Five per cent faster than 90 km/h is 94.5: a crest that flies from 93 is one to know of before the next pass."""
    (found,) = judge("", ("crest", 30.0, None, takeoff_mps))
    assert f"it would fly above {takeoff_mps * 3.6:.0f} km/h" in found.why
    (plain,) = judge("", ("crest", 30.0, None, None))
    assert (found.risk > plain.risk) is more


@pytest.mark.parametrize(("kind", "air_s"), [("jump", 0.40), ("crest", None), ("dip", None), ("bump", None)])
def test_what_was_met_is_written_where_it_lies(kind: str, air_s: float | None) -> None:
    """On the bend it belongs to the corner's note; behind it, it is a note of its own with what is left of the distance."""
    (on_it,) = judge("", (kind, -4.0, air_s, None))
    assert on_it.proposal is not None
    assert (on_it.proposal.first_note, on_it.proposal.last_note) == (NOTE, NOTE)
    (read,) = PLAIN.hand.read_back(on_it.proposal.text)
    assert any(f.vertical == kind for f in read.features)
    assert read.distance_m == PLAIN.notes[NOTE].distance_m
    (behind,) = judge("", (kind, 25.0, air_s, None))
    assert behind.proposal is not None
    corner, alone = PLAIN.hand.read_back(behind.proposal.text)
    assert corner.is_corner
    assert not corner.features
    assert [f.name for f in alone.features] == [kind]
    assert corner.distance_m is not None
    assert corner.distance_m < (PLAIN.notes[NOTE].distance_m or 0)


def test_a_crest_that_flew_is_rewritten_as_a_jump() -> None:
    (found,) = judge("over crest", ("jump", 5.0, 0.40, None))
    assert found.proposal is not None
    assert "jump" in found.proposal.text
    assert "crest" not in found.proposal.text
    assert f"landed after {25.0 * 0.4:.0f} m" in found.why


def test_what_lies_behind_the_finish_is_nobodys_business() -> None:
    case = replace(PLAIN, vertical=(felt("jump", PLAIN.profile.length_m - 20.0, air_s=0.4),))
    assert told(list(judge_vertical(case)))
    assert list(judge_vertical(replace(case, finish_m=case.finish_m - 60.0))) == []


def test_a_feature_note_on_a_straight_answers_for_the_straight() -> None:
    """A note of its own ("crest 40") is looked for anywhere between the bends before and behind it."""
    head, _, gap = PLAIN.notes[NOTE].text.rpartition(" ")
    case = stage(texts={NOTE: f"{head} {int(gap) // 2}\ncrest {int(gap) - int(gap) // 2}"})
    bend = case.lineup.tie_of[NOTE].bend
    assert bend is not None
    middle = bend.to_m + int(gap) / 2
    assert list(judge_vertical(replace(case, vertical=(felt("crest", middle),)))) == []
    (unmet,) = judge_vertical(replace(case, vertical=(felt("crest", middle + 400.0),)))
    assert unmet.kind == "crest-uncalled"


@pytest.mark.parametrize(("missed", "said"), [(0, 0), (1, 1), (2, 0), (4, 0)])
def test_what_was_not_felt_is_said_only_of_a_pass_that_feels_what_is_called(missed: int, said: int) -> None:
    """Of two dozen crests called: two slips in a hundred against what else this pass did not feel, a tenth to a quarter of it."""
    notes = [n.index for n in PLAIN.notes if n.is_corner and n.distance_m][2:26]
    texts = {}
    for note in notes:
        head, _, gap = PLAIN.notes[note].text.rpartition(" ")
        texts[note] = f"{head} over crest {gap}"
    case = stage(texts=texts)
    bends = [case.lineup.tie_of[note].bend for note in notes]
    met = tuple(felt("crest", b.to_m + 5.0) for b in bends[missed:] if b is not None)
    found = [f for f in judge_vertical(replace(case, vertical=met)) if f.kind == "crest-unmet"]
    assert len(found) == said
    assert all(f.note == notes[0] and 0.1 < f.confidence < 0.3 for f in found)


def test_two_calls_near_to_one_another_do_not_take_each_others_feature() -> None:
    """A jump at the next note's bend is that note's, though this one calls a jump as well and reaches it first."""
    near = next(i for i in range(10, 40) if PLAIN.notes[i].distance_m == 40)
    texts = {}
    for note in (near, near + 1):
        head, _, gap = PLAIN.notes[note].text.rpartition(" ")
        texts[note] = f"{head} over jump {gap}"
    case = stage(texts=texts)
    own, following = case.lineup.bend_of(near), case.lineup.bend_of(near + 1)
    assert own is not None
    assert following is not None
    met = (felt("crest", own.to_m + 5.0), felt("jump", following.from_m + 2.0, air_s=0.4))
    found = list(judge_vertical(replace(case, vertical=met)))
    assert [(f.kind, f.note) for f in found] == [("jump-unmet", near)]
