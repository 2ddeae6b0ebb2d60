"""The coming pace, when each line is due, and how a practised call compares: on roads whose answers are known by hand."""

from itertools import pairwise

import numpy as np
import pytest

from mirkle.core.audio.lengths import Rate
from mirkle.core.judging.pace import PULL_MPS2, Pace
from mirkle.core.judging.parts import Part
from mirkle.core.judging.wording import LeftOut
from mirkle.core.notebook.decisions import NoteChange, NotePlace
from mirkle.core.notebook.edition import Edition
from mirkle.core.notebook.paging import Pages, paged
from mirkle.core.notes.book_metres import CORNER_M, laid_out_m
from mirkle.core.notes.reading import read_notes
from mirkle.core.rehearsal.breath import crowded, dense, page_times, rate_of
from mirkle.core.rehearsal.lines import lines_of, places_of, stretches
from mirkle.core.rehearsal.pacing import counted_speed, from_book, from_calls, from_review, paced
from mirkle.core.rehearsal.timing import Practised, judged, rehearsed, worst
from mirkle.core.review import Review
from mirkle.core.speech.delivery import Spoken
from mirkle.files.notes.languages import shipped_languages

BOOK = "start 80\nL4 60\nR2 40\nL3 stones inside post outside 50\nR5 100\nL6 60\nR6 100\nL4 40\nR3 80\nL2 60\nfinish"


def reading():  # type: ignore[no-untyped-def]
    return read_notes(BOOK, tuple(la for la in shipped_languages() if la.code == "en"))


def change(first: int, last: int, text: str) -> NoteChange:
    return NoteChange(key=f"{first}", notes=NotePlace(first, last), text=text)


def marked(first: int, last: int, text: str, *more: NoteChange) -> Edition:
    return Edition(reading(), [change(first, last, text), *more])


# Lines


def test_a_change_a_note_put_in_and_one_struck_out() -> None:
    edition = marked(2, 2, "R1 40", change(4, 4, "R5 50\nL3 50"), change(6, 6, ""))
    lines = lines_of(edition)
    assert [(x.text, x.old) for x in lines if x.changed] == [("R1 40", "R2 40"), ("R5 50", "R5 100"), ("L3 50", "")]
    assert [x.text for x in lines].count("R6 100") == 0, "what was struck out is not called"
    at = places_of(lines, np.arange(11) * 100.0)
    assert at[4:6].tolist() == [400.0, 450.0], "what was put in lies between its note and the next"


def test_where_a_note_was_put_in_the_one_before_it_may_stand() -> None:
    lines = lines_of(marked(4, 4, "R5 100\nL3 50"))
    assert [(x.text, x.changed, x.old) for x in lines[4:6]] == [("R5 100", False, ""), ("L3 50", True, "")]


def test_changed_places_have_three_lines_before_and_two_behind() -> None:
    def parts(*notes: int) -> list[range]:
        return stretches(lines_of(Edition(reading(), [change(n, n, "R1 10") for n in notes])))

    assert parts(5) == [range(2, 8)]
    assert parts(0) == [range(3)]
    assert parts(2, 10) == [range(5), range(7, 11)]
    assert parts(2, 5) == [range(8)], "what touches is gone through at once"
    assert parts() == []


# The pace


def steady(speed: float, slow_at: float | None = None):  # type: ignore[no-untyped-def]
    at = np.arange(0.0, 1001.0)
    v = np.full(len(at), speed)
    if slow_at is not None:
        v[np.abs(at - slow_at) < 31] = 10.0
    return at, np.concatenate([[0.0], np.cumsum(2.0 / (v[1:] + v[:-1]))])


def test_a_driver_needs_the_same_seconds_at_any_pace() -> None:
    lines = lines_of(Edition(reading(), []))
    at, seconds = steady(20.0)
    pacing = paced(lines, np.arange(11) * 90.0, at, seconds, habit_s=3.0)
    assert pacing.corner_s[4] == pytest.approx(18.0)
    for pace in (0.5, 0.8, 1.0, 1.1):
        assert pacing.due_s(pace)[4] == pytest.approx(18.0 / pace - 3.0)
        assert pacing.place_m(pacing.seconds_at(360.0, pace), pace) == pytest.approx(360.0)
    assert pacing.length_s(0.5) == pytest.approx(100.0)


def test_before_heavy_braking_a_call_is_needed_sooner_but_as_it_is_liked_is_in_time() -> None:
    lines = lines_of(Edition(reading(), []))
    at, seconds = steady(20.0, slow_at=450.0)
    pacing = paced(lines, np.arange(11) * 90.0, at, seconds, habit_s=3.0)
    assert pacing.needed_s(2) == pytest.approx(1.25), "no braking: as on a recording"
    assert pacing.needed_s(5) == pytest.approx(2.0, abs=0.1), "from 20 to 10 m/s at 5 m/s2"
    at, seconds = steady(40.0, slow_at=450.0)
    pacing = paced(lines, np.arange(11) * 90.0, at, seconds, habit_s=3.0)
    assert pacing.needed_s(5) == pytest.approx(2.5), "six seconds of braking, and still it is not late when he likes it"


def test_parts_that_do_not_count_are_driven_as_the_rest_suggests() -> None:
    speed, bent = np.full(1000, 30.0), np.zeros(1000)
    speed[400:700] = 8.0
    bent[550:580] = 1 / 40.0
    pace = Pace(np.array([0.0, 1000.0]), np.array([6.4, 6.4]), 6.0, ((0.0, 8.0), (6.0, 30.0)))
    out = counted_speed(speed, bent, pace, [Part(400.0, 699.0, "puncture")])
    assert np.array_equal(out[:400], speed[:400])
    assert np.array_equal(out[700:], speed[700:])
    assert out[560] == pytest.approx(np.sqrt(6.4 * 40.0), rel=0.01), "the grip used elsewhere"
    assert out[450] == pytest.approx(30.0), "the straight as the others"
    for a, b in pairwise(out[400:700]):
        assert b * b - a * a <= 2 * PULL_MPS2 + 1e-6, "it can't pull harder"
        assert a * a - b * b <= 2 * 6.0 + 1e-6, "nor brake harder"
    assert np.array_equal(counted_speed(speed, bent, pace, []), speed)


def test_the_demos_pace_is_that_of_its_morning(demo_review: Review) -> None:
    lines = lines_of(Edition(demo_review.reading, []))
    pacing = from_review(demo_review, lines)
    drive_s = demo_review.finish_s - demo_review.measured.drive.start_s
    # A flat tyre cost a good ten seconds.
    assert drive_s - 25.0 < pacing.length_s() < drive_s - 5.0
    assert np.all(np.diff(pacing.corner_s) >= 0.0)
    before = pacing.seconds_at(10_000.0)
    assert before == pytest.approx(demo_review.profile.seconds_at(10_000.0) - demo_review.measured.drive.start_s, abs=0.5)


def test_without_a_recording_the_book_and_an_average_do() -> None:
    notes = reading().notes
    lines = lines_of(Edition(reading(), []))
    pacing = from_book(notes, lines, 20.0)
    at = laid_out_m(notes)[:-1, 0]
    assert at[1] == 80.0
    assert at[2] == 80.0 + CORNER_M + 60.0
    assert pacing.corner_s[2] == pytest.approx(at[2] / 20.0)


def test_by_the_calls_of_a_video_each_corner_comes_a_usual_lead_behind() -> None:
    called = 12.0 + np.arange(11) * 4.0
    pacing = from_calls(reading().notes, lines_of(Edition(reading(), [])), called)
    assert np.diff(pacing.due_s()) == pytest.approx(np.full(10, 4.0), abs=0.01)
    assert pacing.due_s()[0] == pytest.approx(0.0, abs=3.2)


# A call


@pytest.mark.parametrize(
    ("lead", "verdict", "late"),
    [(3.0, "in-time", 0.0), (6.0, "in-time", -3.0), (7.0, "early", -4.0), (1.3, "in-time", 1.7), (1.1, "late", 1.9), (-0.4, "late", 3.4)],
)
def test_a_call_is_held_against_its_corner(lead: float, verdict: str, late: float) -> None:
    at, seconds = steady(20.0)
    pacing = paced(lines_of(Edition(reading(), [])), np.arange(11) * 90.0, at, seconds, habit_s=3.0)
    for pace in (1.0, 0.8):
        one = judged(pacing, 5, pacing.corner_s[5] / pace - lead, pace)
        assert one.verdict == verdict
        assert one.late_s == pytest.approx(late)
        assert one.late_m == pytest.approx(late * 20.0 * pace, abs=0.5)


def test_what_was_not_called_has_no_time() -> None:
    at, seconds = steady(20.0)
    one = judged(paced(lines_of(Edition(reading(), [])), np.arange(11) * 90.0, at, seconds), 5, float("nan"), 1.0)
    assert one.verdict == "not-called"
    assert np.isnan([one.late_s, one.late_m]).all()


def test_a_change_is_rehearsed_when_it_was_called_in_time_twice() -> None:
    calls = [("a", "in-time"), ("b", "in-time"), ("a", "late"), ("b", "in-time"), ("c", "early"), ("c", "in-time")]
    assert rehearsed(calls) == {"b"}  # type: ignore[arg-type]


def test_the_worst_places_are_those_and_not_beside_each_other() -> None:
    def one(line: int, verdict: str, late: float) -> Practised:
        return Practised(line, "", verdict, late, 0.0)  # type: ignore[arg-type]

    found = worst(
        [
            one(3, "late", 2.0),
            one(4, "late", 3.0),
            one(9, "not-called", float("nan")),
            one(15, "early", -5.0),
            one(20, "in-time", 0.1),
            one(30, "early", -4.0),
        ]
    )
    assert [p.line for p in found] == [9, 4, 15]


# Breath


def test_the_rate_is_the_crews_own_where_enough_is_known() -> None:
    said = [Spoken("written", 1.0, 0, "", 10.0 * k, 10.0 * k + 0.12 + 6 / 7.5, 0.1) for k in range(20)]
    assert rate_of(said, np.full(20, 6.0)).syl_s == pytest.approx(7.5)
    assert rate_of(said[:5], np.full(5, 6.0)) == Rate()
    blurred = [Spoken("written", 1.0, 0, "", s.from_s, s.to_s, 3.0) for s in said]
    assert rate_of(blurred, np.full(20, 6.0)) == Rate()


def test_what_can_t_be_said_is_named_with_what_could_go() -> None:
    at, seconds = steady(20.0)
    lines = lines_of(Edition(reading(), []))
    places = np.arange(11) * 90.0
    pacing = paced(lines, places, at, seconds, habit_s=3.0)
    takes = np.full(11, 1.0)
    assert crowded(pacing, takes, [[n] for n in reading().notes], 1.0) == []
    takes[3] = 6.5
    (one,) = crowded(pacing, takes, [[n] for n in reading().notes], 1.0)
    assert (one.line, one.takes_s) == (3, 6.5)
    assert one.there_is_s == pytest.approx(90.0 / 20.0 + 3.0 - 1.25)
    assert one.could_go == ("rocks inside",) or one.could_go == ("stones inside",), "what lies outside stays"
    assert len(crowded(pacing, takes, [[n] for n in reading().notes], 0.8)) == 0, "slower there is time"


def test_a_page_is_full_where_its_words_take_its_seconds() -> None:
    """Two pages of five and six lines, 90 m a line at 20 m/s: 22.5 s on the first. What could go is what the crew never calls anyway."""
    at, seconds = steady(20.0)
    whole = paged(reading(), Pages(5))
    lines = lines_of(Edition(whole, []))
    pacing = paced(lines, np.arange(11) * 90.0, at, seconds, habit_s=3.0)
    takes, words, read = np.full(11, 1.0), np.full(11, 3.0), [[n] for n in whole.notes]
    left_out = [LeftOut(("distance",), (1, 2, 3), 3), LeftOut(("crest",), (), 9)]
    first, second, third = page_times(pacing, takes, words, read, left_out)
    assert (first.page, first.words, first.takes_s) == (1, 15, 5.0)
    assert (second.page, third.page, third.words) == (2, 3, 3)
    assert first.there_is_s == pytest.approx(5 * 90.0 / 20.0)
    assert not first.is_full
    assert first.could_go == ()
    takes[3] = 16.0
    first, second, _ = page_times(pacing, takes, words, read, left_out)
    assert first.is_full
    assert not second.is_full
    assert [str(words) for words in first.could_go] == ["distances", "rocks inside"], "no crest is on it, and a post outside stays"


def test_dense_stretches_are_told_in_words_a_second() -> None:
    at, seconds = steady(20.0)
    lines = lines_of(Edition(reading(), []))
    pacing = paced(lines, np.arange(11) * 45.0, at, seconds)
    takes, words = np.full(11, 0.8), np.full(11, 4.0)
    assert dense(pacing, takes, words, 1.0) == []
    takes[3:8], words[3:8] = 2.2, 9.0
    (one,) = dense(pacing, takes, words, 1.0)
    assert one.from_m <= 3 * 45.0 <= one.to_m
    assert one.words_a_second == pytest.approx(9.0 / 2.25, rel=0.25)
