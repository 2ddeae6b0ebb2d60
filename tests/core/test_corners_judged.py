"""Corners, called against met: one note of an honest book is changed, and what is said of it is known beforehand."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from mirkle.core.judging.corners import judge_corners
from mirkle.core.judging.findings import Finding, JudgingContext
from mirkle.core.judging.gaps import judge_gaps
from mirkle.core.lineup.pairing import sense_from_road
from mirkle.core.lineup.road import road_of
from mirkle.core.notes.grading import SENSE_KNOWN, GradingScheme, known_school, school_of
from mirkle.core.notes.reading import read_notes
from mirkle.core.review import SENSE_SURE
from tests.core.test_verdict import ENGLISH, stage

HONEST = stage()
GRADE = {i: HONEST.notes[i].grade or "" for i in range(len(HONEST.notes))}
NUMBERS = [i for i in range(8, 40) if GRADE[i] in ("2", "3")]


def changed(note: int, text: str, *, before: str | None = None) -> JudgingContext:
    """The honest book with another text for one note, and perhaps for the one before it."""
    return stage(texts={note: text} | ({note - 1: before} if before is not None else {}))


def regraded(note: int, by: int) -> str:
    text, grade = HONEST.notes[note].text, GRADE[note]
    return text.replace(f" {grade} ", f" {int(grade) + by} ", 1)


def found(case: JudgingContext) -> list[Finding]:
    return list(judge_corners(case))


def test_an_honest_book_is_left_alone() -> None:
    assert found(HONEST) == []
    assert list(judge_gaps(HONEST, frozenset())) == []


@pytest.mark.parametrize("note", NUMBERS[:4])
@pytest.mark.parametrize("by", [2, 3])
def test_a_note_that_is_too_fast_is_a_danger_and_gets_its_own_grade_back(note: int, by: int) -> None:
    (finding,) = found(changed(note, regraded(note, by)))
    assert (finding.kind, finding.note) == ("grade-tighter", note)
    assert finding.severity == "danger"
    assert finding.proposal is not None
    assert finding.proposal.text == HONEST.notes[note].text
    assert finding.confidence > 0.8


@pytest.mark.parametrize("note", NUMBERS[:4])
def test_where_a_note_tightens_too_little_its_target_is_what_changes(note: int) -> None:
    """The first grade stays: it is what the corner begins like."""
    text, grade = HONEST.notes[note].text, GRADE[note]
    side = text.split()[0]
    (finding,) = found(changed(note, f"{side} 6 tightens to {int(grade) + 2} 60"))
    assert (finding.kind, finding.called, finding.met) == ("grade-tighter", f"6 tightens {int(grade) + 2}", f"6 tightens {grade}")
    assert f"Called {int(grade) + 2}, but it turned like your {grade}" in finding.why
    assert finding.proposal is not None
    assert finding.proposal.text == f"{side} 6 tightens to {grade} 60"


def test_nothing_is_proposed_that_would_contradict_itself() -> None:
    note = next(i for i in NUMBERS if GRADE[i] == "3")
    side = HONEST.notes[note].text.split()[0]
    (finding,) = found(changed(note, f"{side} 1 opens 3 60"))
    assert (finding.kind, finding.severity, finding.proposal) == ("grade-easier", "check", None)


@pytest.mark.parametrize(
    ("off", "scatter", "overspeed", "turn_deg", "severity"),
    [
        # Two grades off are likely one or more; what is lost decides: 8 per cent of the speed, or any.
        (-2.0, 0.5, 1.09, 40.0, "danger"),
        (-2.0, 0.5, 1.07, 40.0, "change"),
        (-2.0, 0.5, 1.01, 40.0, "change"),
        (-2.0, 0.5, 0.99, 40.0, "check"),
        # One grade off is as likely more as less; 0.65 take 0.385 of 0.6 scatters more: 1.116, or 1.208 with a wider one.
        (-1.13, 0.5, 1.5, 40.0, "danger"),
        (-1.10, 0.5, 1.5, 40.0, "check"),
        (-1.23, 0.9, 1.5, 40.0, "danger"),
        (-1.19, 0.9, 1.5, 40.0, "check"),
        (-1.13, 0.5, 1.1, 40.0, "change"),
        # What turns little shows little.
        (-2.0, 0.5, 1.5, 20.0, "change"),
        (-1.3, 0.5, 1.5, 20.0, "check"),
        (-2.0, 0.5, 1.5, 14.0, "check"),
    ],
)
def test_a_tighter_corner_is_as_grave_as_likely_times_lost(
    off: float, scatter: float, overspeed: float, turn_deg: float, severity: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    note = next(i for i in range(8, 40) if GRADE[i] == "5")
    tie = HONEST.lineup.tie_of[note]
    assert tie.bend is not None
    called = HONEST.called_position(HONEST.notes[note])
    assert called is not None
    bend = replace(tie.bend, turn_deg=turn_deg, radius_sd_m=0.0)
    tie = replace(tie, bend=bend, sure=1.0, position=called + off)
    grades = replace(HONEST.lineup.grades, scatter=scatter)
    ties = tuple(tie if t.note == note else t for t in HONEST.lineup.ties)
    case = replace(HONEST, lineup=replace(HONEST.lineup, ties=ties, grades=grades))
    monkeypatch.setattr(JudgingContext, "overspeed", lambda *_: overspeed)
    (finding,) = (f for f in found(case) if f.note == note)
    assert (finding.kind, finding.severity) == ("grade-tighter", severity)


def test_the_farther_off_the_greater_the_risk() -> None:
    note = next(i for i in NUMBERS if GRADE[i] == "2")
    risks = [max((f.risk for f in found(changed(note, regraded(note, by)))), default=0.0) for by in (0, 1, 2, 3, 4)]
    assert risks == sorted(risks)
    assert risks[0] == 0.0
    assert risks[4] > risks[2] > 0.0


@pytest.mark.parametrize("by", [-1, -2, -3])
def test_a_note_that_is_too_slow_is_never_more_than_a_check(by: int) -> None:
    note = next(i for i in range(8, 40) if GRADE[i] == "5")
    findings = found(changed(note, regraded(note, by)))
    assert {f.severity for f in findings} <= {"check"}
    assert {f.kind for f in findings} <= {"grade-easier"}
    if by <= -2:
        assert findings
        assert findings[0].proposal is not None
        assert findings[0].proposal.text == HONEST.notes[note].text


def test_a_corner_that_is_cut_for_its_line_is_not_called_easier() -> None:
    """Who cuts where the note says not to drives a wider line: that tells nothing of the road."""
    note = next(i for i in range(8, 40) if GRADE[i] == "5")
    head, _, gap = regraded(note, -2).rpartition(" ")
    assert found(changed(note, f"{head} don't cut {gap}")) == []


@pytest.mark.parametrize("note", [10, 17, 24, 31])
def test_a_corner_called_the_other_way_is_a_danger(note: int) -> None:
    text = HONEST.notes[note].text
    other = text.replace("left", "right") if "left" in text else text.replace("right", "left")
    findings = [f for f in found(changed(note, other)) if f.note == note]
    assert [(f.kind, f.severity) for f in findings] == [("direction", "danger")]
    assert findings[0].proposal is not None
    assert findings[0].proposal.text == text


@pytest.mark.parametrize("note", [11, 20, 29])
def test_a_corner_that_was_left_out_is_put_in_where_it_belongs(note: int) -> None:
    head, _, gap = HONEST.notes[note - 1].text.rpartition(" ")
    bend, own = HONEST.lineup.tie_of[note].bend, HONEST.notes[note]
    assert bend is not None
    whole = int(gap) + round(bend.length_m) + (own.distance_m or 0)
    case = stage(texts={note - 1: f"{head} {whole}", note: ""})
    (finding,) = found(case)
    assert finding.kind == "corner-uncalled"
    assert finding.severity in ("danger", "change")
    assert finding.from_m == pytest.approx(bend.from_m, abs=6.0)
    assert finding.proposal is not None
    before, inserted = case.hand.read_back(finding.proposal.text)
    assert before.grade == GRADE[note - 1]
    assert inserted.direction == own.direction
    assert abs(int(inserted.grade or 0) - int(GRADE[note])) <= 1
    assert before.distance_m == pytest.approx(int(gap), abs=15)
    assert inserted.distance_m == pytest.approx(own.distance_m, abs=15)


@pytest.mark.parametrize("note", [12, 26])
def test_a_note_that_no_corner_answers_can_be_struck_out(note: int) -> None:
    """The distance before and the one behind it become one."""
    head, _, gap = HONEST.notes[note].text.rpartition(" ")
    other = "left" if head.startswith("right") else "right"
    case = changed(note, f"{head} {int(gap) // 2}\n{other} 2 {int(gap) // 2}")
    (finding,) = [f for f in found(case) if f.kind == "corner-unmet"]
    assert finding.note == note + 1
    assert finding.severity in ("change", "check")
    assert finding.proposal is not None
    assert (finding.proposal.first_note, finding.proposal.last_note) == (note, note + 1)
    (kept,) = case.hand.read_back(finding.proposal.text)
    assert kept.grade == GRADE[note]
    assert kept.distance_m == pytest.approx(int(gap), abs=20)


def test_a_fast_note_that_no_corner_answers_is_only_a_question() -> None:
    """A driver straightens out what is called five or six: that it can't be seen says little."""
    note = 12
    head, _, gap = HONEST.notes[note].text.rpartition(" ")
    other = "left" if head.startswith("right") else "right"
    severities = {}
    for grade in (2, 6):
        case = changed(note, f"{head} {int(gap) // 2}\n{other} {grade} {int(gap) // 2}")
        nowhere = tuple(replace(t, bend=None, sure=0.98) if t.note == note + 1 else t for t in case.lineup.ties)
        unmet = [f for f in found(replace(case, lineup=replace(case.lineup, ties=nowhere))) if f.kind == "corner-unmet"]
        severities[grade] = [f.severity for f in unmet if f.note == note + 1]
    assert severities == {2: ["change"], 6: ["check"]}


def test_on_a_blurred_recording_a_grade_is_a_question() -> None:
    note = NUMBERS[0]
    case = changed(note, regraded(note, 3))
    (sharp,), (blurred,) = found(case), found(replace(case, coarse=True))
    assert (sharp.severity, blurred.severity) == ("danger", "check")
    assert blurred.confidence < sharp.confidence


def test_the_gentler_a_bend_the_less_is_said_for_sure() -> None:
    """What a driver draws out hardly shows."""
    note = NUMBERS[0]
    case = changed(note, regraded(note, 3))

    def severity(turn_deg: float) -> str:
        ties = tuple(
            replace(t, bend=replace(t.bend, turn_deg=turn_deg)) if t.note == note and t.bend is not None else t for t in case.lineup.ties
        )
        (finding,) = [f for f in found(replace(case, lineup=replace(case.lineup, ties=ties))) if f.note == note]
        return finding.severity

    assert [severity(d) for d in (40.0, 18.0, 12.0)] == ["danger", "change", "check"]


def test_a_blurred_bend_that_looks_a_grade_easier_is_not_asked_about() -> None:
    """Blur makes every bend look easier; two grades are still more than that."""
    note = next(i for i in range(8, 40) if GRADE[i] == "5")
    asked = [bool(found(replace(changed(note, regraded(note, by)), coarse=coarse))) for by in (-1, -2) for coarse in (False, True)]
    assert asked == [True, False, True, True]


def test_a_hazard_outside_raises_the_stakes_and_a_caution_lowers_them() -> None:
    """The trade: what waits where a car runs wide ends makes the same mistake worse; a crew that was warned lifts."""
    note = NUMBERS[0]
    head, _, gap = regraded(note, 2).rpartition(" ")
    plain, drop, warned = (
        next(f for f in found(changed(note, text)) if f.note == note).risk
        for text in (f"{head} {gap}", f"{head} rocks outside {gap}", f"caution {head} {gap}")
    )
    assert drop > plain > warned > 0.0


@pytest.mark.parametrize(("factor", "kind"), [(0.35, "distance-longer"), (2.4, "distance-shorter")])
def test_a_distance_written_wrong_is_put_right(factor: float, kind: str) -> None:
    note = next(i for i in range(10, 40) if HONEST.notes[i].distance_m == 80)
    head, _, gap = HONEST.notes[note].text.rpartition(" ")
    wrong = round(int(gap) * factor / 10) * 10
    case = changed(note, f"{head} {wrong}")
    (finding,) = judge_gaps(case, frozenset())
    assert (finding.kind, finding.note) == (kind, note)
    assert finding.proposal is not None
    (read,) = case.hand.read_back(finding.proposal.text)
    assert read.distance_m == pytest.approx(int(gap), abs=10)
    assert f"Called {wrong}, but it was" in finding.why


def test_beside_a_gentle_bend_a_distance_has_to_be_farther_out() -> None:
    """Where a bend that hardly turns begins and ends is anybody's guess."""
    note = next(i for i in range(10, 40) if HONEST.notes[i].distance_m == 60)
    head, _, _ = HONEST.notes[note].text.rpartition(" ")

    def judged(called: int, turn_deg: float) -> list[Finding]:
        case = changed(note, f"{head} {called}")
        ties = tuple(
            replace(t, bend=replace(t.bend, turn_deg=turn_deg)) if t.note == note + 1 and t.bend is not None else t
            for t in case.lineup.ties
        )
        crew = replace(case.lineup.distances, base_m=5.0, share=0.1)
        return list(judge_gaps(replace(case, lineup=replace(case.lineup, ties=ties, distances=crew)), frozenset()))

    said_beside_a_clear_one = [c for c in range(60, 200, 20) if judged(c, 40.0)]
    said_beside_a_gentle_one = [c for c in range(60, 200, 20) if judged(c, 8.0)]
    assert min(said_beside_a_clear_one) < min(said_beside_a_gentle_one) < 200


def test_beside_a_missing_corner_no_distance_is_judged() -> None:
    note = next(i for i in range(10, 40) if HONEST.notes[i].distance_m == 80)
    head, _, _ = HONEST.notes[note].text.rpartition(" ")
    assert list(judge_gaps(changed(note, f"{head} 200"), frozenset({note}))) == []


# Which way the numbers run


def book(sense: str, count: int = 48) -> tuple:
    """The honest book as a crew writes it that counts in that sense, with no word that would give it away."""
    school = GradingScheme(sense=sense)
    lines = [
        f"{n.direction.value} {school.grade_at(float(n.grade or 0))} {n.distance_m}"
        for n in HONEST.notes[:count]
        if n.direction is not None
    ]
    reading = read_notes("\n".join(lines), (ENGLISH,))
    return reading.notes, school_of(reading.notes)


@pytest.mark.parametrize("sense", ["ascending", "descending"])
@pytest.mark.parametrize("thought", ["ascending", "descending"])
def test_the_road_shows_which_way_a_crew_counts(sense: str, thought: str) -> None:
    notes, school = book(sense)
    assert school.sense_sure < 0.95, "nothing in the words says it"
    seen = sense_from_road(notes, replace(school, sense=thought), road_of(HONEST.profile))
    assert seen.sense == sense
    assert seen.sense_sure > 0.95


def test_a_handful_of_corners_shows_nothing() -> None:
    notes, school = book("descending", count=10)
    assert sense_from_road(notes, school, road_of(HONEST.profile)) == school


def test_a_crew_that_is_known_is_believed_where_nothing_tells_and_the_road_is_believed_first() -> None:
    """Three stages of a crew that counts downwards, or one; then a short stage, and somebody else's long one."""
    for stages in (1, 3, 40):
        short, _ = book("descending", count=10)
        known = school_of(short, known=known_school(0, stages, 6))
        assert known.sense == "descending"
        assert SENSE_KNOWN <= known.sense_sure < SENSE_SURE
        assert sense_from_road(short, known, road_of(HONEST.profile)) == known
        notes, _ = book("ascending")
        wrong = school_of(notes, known=known_school(0, stages, 6))
        assert wrong.sense_sure < SENSE_SURE, "so that the road is asked"
        assert sense_from_road(notes, wrong, road_of(HONEST.profile)).sense == "ascending"
    mixed = school_of(short, known=known_school(2, 3, 6))
    assert mixed.sense_sure < SENSE_KNOWN
    # What the notes themselves call counts as well: twice "two tightens three" against one stage.
    reading = read_notes("left 2 tightens 3 80\nright 2 tightens 4 60\nleft 3 opens 1 90", (ENGLISH,))
    assert school_of(reading.notes, known=known_school(1, 0, 6)).sense == "descending"
    assert school_of(short, sense="ascending", known=known_school(0, 40, 6)).sense_sure == 1.0


def test_the_highest_number_of_a_crew_is_known_where_a_short_book_lacks_it() -> None:
    notes, school = book("descending", count=10)
    known = school_of(notes, known=known_school(0, 4, 9))
    assert (school.top, known.top) == (6, 9)
    assert (school.position("6"), known.position("6")) == (6.0, 4.0)


def test_grades_strewn_at_random_leave_the_school_as_it_was() -> None:
    rng = np.random.default_rng(4)
    lines = [f"{n.direction.value} {rng.integers(1, 7)} {n.distance_m}" for n in HONEST.notes if n.direction is not None]
    reading = read_notes("\n".join(lines), (ENGLISH,))
    school = school_of(reading.notes)
    assert sense_from_road(reading.notes, school, road_of(HONEST.profile)) == school
