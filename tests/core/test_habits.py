"""A crew's scale over its stages, as the prior of the next one; its habits; and another driver's scale, which is noticed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

import numpy as np
import pytest

from mirkle.core.habits.carry_over import carried_over, named
from mirkle.core.habits.evidence import COLUMNS, DENSE, LATE, PassEvidence
from mirkle.core.habits.findings import SAID, habits_of, sure_of
from mirkle.core.habits.lead_times import lead_habits
from mirkle.core.habits.meanings import meanings_of
from mirkle.core.habits.misheard import Misheard, misheard_in, said_word, usual_mishearings, with_mishearings
from mirkle.core.habits.pooled import SIDE, at_large, books_once, pooled, scale_on, without
from mirkle.core.habits.shares import elsewhere
from mirkle.core.lineup.scale_prior import ScalePrior, fit_stage, is_another_driver
from mirkle.core.notebook.passes import Pass
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.notes.grading import known_school
from mirkle.core.notes.reading import read_notes
from mirkle.files.notes.languages import shipped_languages
from mirkle.files.speech.timed_text import parse_calls

TODAY = 9_900.0


def stage(
    number: int, *, corners: int = 40, side: float = 0.0, late: float = 0.0, zero: float = 0.0, off: float = 0.0, day: float = 9_890.0
) -> PassEvidence:
    """A made-up stage: grades by a known scale with rounding and scatter, and habits on top; one note in twelve a slip."""
    chance = np.random.default_rng([number, 11])
    rows = np.zeros((corners, COLUMNS))
    rows[:, 0] = 1.0
    radius = chance.normal(0, 0.55, corners)
    rows[:, 1] = radius
    rows[:, 2] = radius + chance.normal(0, 0.15, corners)
    rows[:, 3] = -0.5 * radius + chance.normal(0, 0.4, corners)
    rows[:, 4] = rows[:, 1] + rows[:, 3] + chance.normal(0, 0.2, corners)
    rows[:, SIDE] = chance.choice([-0.5, 0.5], corners)
    rows[:, LATE] = np.linspace(-0.5, 0.5, corners)
    true = 3.4 + zero + 1.3 * rows[:, 1] + 0.7 * rows[:, 2] + off + side * rows[:, SIDE] + late * rows[:, LATE]
    called = np.clip(np.round(true + chance.normal(0, 0.25, corners)), 1, 6)
    slips = chance.random(corners) < 1 / 12
    called[slips] = np.clip(called[slips] + chance.choice([-2, 2], slips.sum()), 1, 6)
    lead_s = chance.normal(3.0, 0.3, corners)
    notes = tuple(range(corners))
    return PassEvidence(f"stage {number}", "1", day, f"book {number}", 6, notes, rows, called, np.ones(corners), lead_s)


def weights_error(prior: ScalePrior) -> float:
    """By how much a scale is out over bends as they come, root mean square."""
    test = stage(999, corners=400)
    true = 3.4 + 1.3 * test.rows[:, 1] + 0.7 * test.rows[:, 2]
    return float(np.sqrt(np.mean((test.rows[:, :6] @ prior.mean - true) ** 2)))


def test_the_scale_gets_nearer_with_every_stage_and_says_how_near() -> None:
    errors = [weights_error(pooled([stage(k) for k in range(n)], TODAY).prior) for n in (1, 3, 8)]
    assert errors[2] < errors[1] < weights_error(at_large())
    assert errors[2] < 0.12
    spreads = [np.trace(pooled([stage(k) for k in range(n)], TODAY).prior.covariance) for n in (0, 1, 3, 8)]
    assert sorted(spreads, reverse=True) == spreads


def test_which_way_a_crew_counts_and_how_far_is_gathered() -> None:
    stages = [replace(stage(k), descending=True, top=8) for k in range(3)]
    # A second pass of a stage is no second stage.
    known = pooled([*stages, replace(stages[0], pass_id="2", book="another")], TODAY).prior.school
    assert known == known_school(0, 3, 8)
    assert known.ascending < 0.1
    assert pooled([stage(k) for k in range(3)], TODAY).prior.school == known_school(3, 0, 6)
    assert at_large().school is None
    assert pooled([], TODAY).prior.school is None


@pytest.mark.parametrize("descending", [False, True])
def test_books_without_the_highest_number_are_of_the_same_scale(descending: bool) -> None:
    """A crew of nine numbers whose short books go to eight, the last of them too: where it counts downwards, 1 is one number nearer."""
    whole = [replace(stage(k), top=9, descending=descending) for k in range(6)]
    short = [replace(one, top=8, called=one.called - descending) if k % 2 else one for k, one in enumerate(whole)]
    known, wanted = pooled(short, TODAY), pooled(whole, TODAY)
    assert known.prior.top == 9
    assert known.prior.mean == pytest.approx(wanted.prior.mean)
    assert known.effects == wanted.effects
    assert habits_of([replace(one, called=one.called + 0.8 * one.rows[:, SIDE]) for one in short], TODAY)[0].stages == 6
    # Nor is the profile of such books another crew's where the next has the nine in it.
    later = pooled(short[1::2], TODAY).prior
    assert later.top == 8
    assert later.for_school(9).mean == pytest.approx(later.mean + np.array([descending, 0, 0, 0, 0, 0]))
    six = pooled([*whole, replace(stage(7), day=TODAY)], TODAY).prior
    assert (six.top, six.stages) == (6, 1), "a scale of six is another"


def test_a_kind_of_road_has_a_scale_of_its_own_once_there_is_enough_of_it() -> None:
    """On tarmac this crew writes everything 0.6 of a grade more open; the wet is another road."""
    gravel = [replace(stage(k), conditions=frozenset(("gravel",))) for k in range(5)]
    tarmac = [replace(stage(20 + k, zero=0.6), conditions=frozenset(("tarmac", "night"))) for k in range(4)]
    on_gravel, on_tarmac, anywhere = (scale_on([*gravel, *tarmac], TODAY, frozenset(c)) for c in (("gravel",), ("tarmac",), ()))
    assert on_gravel.mean[0] == pytest.approx(3.4, abs=0.12)
    assert on_tarmac.mean[0] == pytest.approx(4.0, abs=0.18), "four stages, and what the others say"
    assert on_gravel.mean[0] + 0.15 < anywhere.mean[0] < on_tarmac.mean[0] - 0.15
    assert on_tarmac.stages == 4
    few = scale_on([*gravel, *tarmac[:2]], TODAY, frozenset(("tarmac",)))
    assert few.mean == pytest.approx(pooled([*gravel, *tarmac[:2]], TODAY).prior.mean), "two stages are too few"
    assert scale_on(gravel, TODAY, frozenset(("gravel", "wet"))).mean == pytest.approx(pooled(gravel, TODAY).prior.mean)


def test_one_strange_stage_and_old_seasons_hardly_move_it() -> None:
    plain = pooled([stage(k) for k in range(6)], TODAY).prior
    strange = pooled([*(stage(k) for k in range(6)), stage(50, zero=2.5)], TODAY).prior
    assert abs(strange.mean[0] - plain.mean[0]) < 0.25
    old = [stage(60 + k, zero=1.0, day=TODAY - 4 * 365) for k in range(3)]
    fresh = pooled([*(stage(k) for k in range(3)), *old], TODAY).prior.mean[0]
    alike = pooled([*(stage(k) for k in range(3)), *(replace(o, day=TODAY) for o in old)], TODAY).prior.mean[0]
    assert abs(fresh - 3.4) < abs(alike - 3.4)


def test_a_second_pass_of_the_same_book_is_no_new_evidence() -> None:
    first = stage(1)
    again = replace(first, pass_id="2", day=first.day + 1)
    assert books_once([again, first]) == [first]
    assert np.allclose(pooled([first, again], TODAY).prior.covariance, pooled([first], TODAY).prior.covariance)
    assert without([first, again, stage(2)], "stage 1")[0].stage == "stage 2"


def test_a_short_stage_is_judged_better_with_what_is_known_and_may_say_otherwise() -> None:
    prior = pooled([stage(k) for k in range(5)], TODAY).prior
    gained = []
    for k in range(20, 40):
        short = stage(k, corners=12)
        true = 3.4 + 1.3 * short.rows[:, 1] + 0.7 * short.rows[:, 2]
        errors = []
        for known in (at_large(), prior):
            weights, _ = fit_stage(short.rows[:, :6], short.called, short.trust, known)
            errors.append(float(np.mean((short.rows[:, :6] @ weights - true) ** 2)))
        gained.append(errors)
    without_crew, with_crew = np.sqrt(np.mean(gained, axis=0))
    assert with_crew < 0.85 * without_crew
    # A stage that is graded half a grade easier throughout is believed.
    other = stage(70, corners=60, zero=0.6)
    weights, _ = fit_stage(other.rows[:, :6], other.called, other.trust, prior)
    assert weights[0] - prior.mean[0] > 0.4


def test_another_drivers_scale_is_noticed_and_the_crews_own_is_not() -> None:
    prior = pooled([stage(k) for k in range(5)], TODAY).prior

    def noticed(zero: float) -> float:
        shown = [stage(100 + k, corners=24, zero=zero) for k in range(40)]
        return float(np.mean([is_another_driver(s.rows[:, :6], s.called, s.trust, prior) for s in shown]))

    assert noticed(0.0) <= 0.03
    assert noticed(0.7) >= 0.65
    assert noticed(-0.7) >= 0.65
    few = stage(200, corners=10, zero=2.0)
    assert not is_another_driver(few.rows[:, :6], few.called, few.trust, prior), "too few to tell"


def test_a_scale_of_six_numbers_is_one_of_nine_as_well() -> None:
    six = at_large()
    nine = six.for_school(9)
    assert nine.mean[1] == pytest.approx(six.mean[1] * 8 / 5)
    assert nine.mean[0] - 1.0 == pytest.approx((six.mean[0] - 1.0) * 8 / 5)
    back = nine.for_school(6)
    assert np.allclose(back.mean, six.mean)
    assert np.allclose(back.covariance, six.covariance)


@pytest.mark.parametrize(("kind", "size", "words"), [("side", 0.5, "lefts are written"), ("late", 0.8, "Late in a stage")])
def test_a_planted_habit_is_said_with_its_size_and_its_notes(kind: str, size: float, words: str) -> None:
    shown = [stage(k, **{kind: size}) for k in range(6)]
    (habit,) = habits_of(shown, TODAY)
    assert habit.kind == kind
    assert words in str(habit.sentence)
    assert habit.size == pytest.approx(size, abs=0.2)
    assert habit.sure >= SAID
    assert habit.stages == 6
    assert len(habit.by_stage) == 6
    column = SIDE if kind == "side" else LATE
    assert all(one.rows[note, column] > 0 for one, note in habit.examples)


def test_the_other_direction_is_said_as_such() -> None:
    (habit,) = habits_of([stage(k, side=-0.5) for k in range(6)], TODAY)
    assert "rights are written" in str(habit.sentence)


def test_what_no_crew_does_is_hardly_ever_said() -> None:
    said = [h.kind for season in range(30) for h in habits_of([stage(1000 + 10 * season + k) for k in range(6)], TODAY)]
    assert len(said) <= 1


def test_little_evidence_says_nothing() -> None:
    assert habits_of([], TODAY) == []
    assert habits_of([stage(1, side=0.5)], TODAY) == []
    assert sure_of(0.3, 0.3, 0.05, 0.45, 0.5) < SAID < sure_of(0.5, 0.1, 0.05, 0.45, 0.5)


def test_calls_that_come_late_where_words_are_many() -> None:
    def wordy(number: int, later_s: float) -> PassEvidence:
        one = stage(number)
        rows, lead_s = one.rows.copy(), one.lead_s.copy()
        rows[::4, DENSE] = 1.0
        lead_s[::4] -= later_s
        lead_s[5::9] = np.nan
        return replace(one, rows=rows, lead_s=lead_s)

    (habit,) = [h for h in habits_of([wordy(k, 0.9) for k in range(5)], TODAY) if h.kind == "late-calls"]
    assert habit.size == pytest.approx(-0.9, abs=0.2)
    assert str(habit.sentence) == f"Where a note has many words you call it {-habit.size:.1f} s later than others."
    assert [h for h in habits_of([wordy(k, 0.0) for k in range(5)], TODAY) if h.kind == "late-calls"] == []


def called(number: int, *conditions: str, lead_s: float = 3.0) -> PassEvidence:
    """A pass of 25 calls about a lead, which differs from pass to pass as leads do."""
    chance = np.random.default_rng([number, 31])
    usual = lead_s + chance.normal(0, 0.2)
    one = stage(number, corners=25)
    return replace(one, pass_id=str(number), conditions=frozenset(conditions), lead_s=chance.normal(usual, 0.4, 25))


@pytest.mark.parametrize(("condition", "by_s", "words"), [("night", -0.9, "later than by day"), ("wet", 0.8, "earlier than in the dry")])
def test_calls_that_come_otherwise_at_night_or_in_the_wet(condition: str, by_s: float, words: str) -> None:
    passes = [called(k) for k in range(8)] + [called(100 + k, condition, lead_s=3.0 + by_s) for k in range(5)]
    (habit,) = lead_habits(passes)
    assert habit.kind == f"lead-{condition}"
    assert habit.size == pytest.approx(by_s, abs=0.35)
    assert words in str(habit.sentence)
    assert habit.sure >= SAID
    assert {one.stage for one, _ in habit.examples} <= {one.stage for one in passes[8:]}
    assert lead_habits(passes[:10]) == [], "two nights are too few"


def test_leads_that_are_alike_are_hardly_ever_said_to_differ() -> None:
    said = sum(bool(lead_habits([called(13 * s + k, *(["night"] if k % 3 == 0 else [])) for k in range(12)])) for s in range(100))
    assert said <= 5


def test_words_come_to_the_metres_that_were_met_each_book_once() -> None:
    first = replace(stage(1), meant=(*(("into", m) for m in (2.0, 8.0, 10.0, 12.0, 14.0, 40.0)), ("long", 70.0)))
    again = replace(first, pass_id="2", meant=(("into", 900.0),) * 9)
    (into,) = meanings_of([first, again])
    assert (into.word, into.places) == ("into", 6)
    assert (into.from_m, into.to_m) == pytest.approx((8.5, 13.5))
    both = meanings_of([first, *(replace(stage(k), meant=(("long", 60.0 + k),)) for k in range(2, 8))])
    assert [meaning.word for meaning in both] == ["into", "long"]


def recognised_stage(number: int, table: Mapping[str, str], *, corners: int = 40) -> tuple[str, str]:
    """A book, and what a recogniser made of it that always mishears some words alike; ``table`` says how."""
    rng = np.random.default_rng([number, 38])
    book, said = ["start 50"], ["[0:01] five four three two one go", "[0:07] start 50"]
    for k in range(corners):
        words = f"{rng.choice(['left', 'right'])} {rng.integers(1, 7)} {rng.choice(['long', 'tightens', 'over crest', 'caution', ''])}"
        line = " ".join([*words.split(), str(rng.choice([40, 60, 80, 120]))])
        book.append(line)
        harmed = [table.get(w, w) if rng.random() < 0.7 else w for w in line.split()]
        said.append(f"[{(12 + 3 * k) // 60}:{(12 + 3 * k) % 60:02d}] {' '.join(harmed)}")
    return "\n".join(book), "\n".join(said)


def test_what_a_recogniser_makes_of_words_is_learnt_from_books_and_used_where_there_is_none() -> None:
    """Two words are always harmed alike, one comes out as a side, and one stood for another word once: the first two are learnt."""
    table = {"tightens": "torments", "caution": "kushan", "crest": "left", "long": "lung"}
    seen = []
    for number in range(3):
        book, said = recognised_stage(number, table)
        written = read_notes(book, shipped_languages())
        seen += misheard_in(parse_calls(said.encode(), name="s", crew=CrewProfile(shipped_languages()), book=written), written)
    usual = usual_mishearings([*seen, Misheard("en", "lung", "length", "short", 1)])
    learnt = {one.heard: said_word(one, shipped_languages()) for one in usual}
    assert {"torments": "tightens", "kushan": "caution"}.items() <= learnt.items()
    assert not {"left", "lung"} & learnt.keys(), "a side means something, and what stands for two words stands for none"
    book, said = recognised_stage(9, {"tightens": "torments", "caution": "kushan"}, corners=80)
    read = []
    for languages in (shipped_languages(), with_mishearings(shipped_languages(), usual)):
        notes = parse_calls(said.encode(), name="s", crew=CrewProfile(languages)).reading.notes
        read.append(sum(bool(n.changes if "torments" in n.text else "kushan" in n.text and n.cautions) for n in notes))
    harmed = said.count("torments") + said.count("kushan")
    assert harmed >= 20
    assert read[0] < harmed / 2
    assert read[1] >= harmed - 1
    assert with_mishearings(shipped_languages(), []) == shipped_languages()


def test_whose_a_habit_is() -> None:
    """The co-driver wrote lefts easy with another driver, too; the driver's books with another co-driver have none of it."""
    mine = [stage(k, side=0.5) for k in range(6)]
    (habit,) = [h for h in habits_of(mine, TODAY) if h.kind == "side"]
    with_it = elsewhere(habit, [stage(40 + k, side=0.5) for k in range(6)], TODAY)
    without_it = elsewhere(habit, [stage(60 + k) for k in range(8)], TODAY)
    the_other_way = elsewhere(habit, [stage(80 + k, side=-0.5) for k in range(6)], TODAY)
    assert with_it is not None
    assert without_it is not None
    assert the_other_way is not None
    assert (with_it.is_there, without_it.is_there, the_other_way.is_there) == (True, False, False)
    assert elsewhere(habit, [stage(90), stage(91)], TODAY) is None, "two stages say nothing"
    assert elsewhere(habit, [], TODAY) is None


def test_what_a_pass_was_like_is_read_from_the_crews_own_words() -> None:
    words = {
        "Friday night, wet": {"night", "wet"},
        "noite, molhado": {"night", "wet"},
        "dry": set(),
        "wetter than before": set(),
        "asfalto": {"tarmac"},
    }
    for day, wanted in words.items():
        assert Pass(1, None, None, day=day).conditions == wanted, day
    assert Pass(1, None, None, kind="later", day="dry").conditions == {"later"}


def test_a_grade_of_one_crew_in_the_hand_of_another() -> None:
    """Two crews whose scales lie half a grade apart, and one that counts to nine the other way."""
    here = pooled([stage(k) for k in range(8)], TODAY).prior
    there = pooled([stage(300 + k, zero=-0.5) for k in range(8)], TODAY).prior
    carried = {g.grade: g for g in carried_over(there, here)}
    assert sorted(carried) == [1, 2, 3, 4, 5, 6]
    assert carried[4].position == pytest.approx(4.5, abs=0.2)
    assert carried[4].sd < 0.3
    assert carried[4].sd < carried[1].sd
    back = {g.grade: g.position for g in carried_over(here, here)}
    assert back == pytest.approx({g: float(g) for g in range(1, 7)})
    nine = carried_over(here, here.for_school(9))
    assert [g.position for g in nine] == pytest.approx([1 + (g.grade - 1) * 8 / 5 for g in nine])


@pytest.mark.parametrize(
    ("position", "top", "descending", "name"),
    [(4.1, 6, False, "4"), (3.7, 6, False, "4−"), (4.4, 6, False, "4+"), (4.1, 6, True, "3"), (7.2, 6, False, "6"), (0.3, 6, True, "6")],
)
def test_a_position_is_named_as_a_grade(position: float, top: int, descending: bool, name: str) -> None:
    assert named(position, top, descending=descending) == name
