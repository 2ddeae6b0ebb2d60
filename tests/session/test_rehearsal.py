"""Rehearsing without a window, on a clock that is told how late it is."""

import json
import subprocess
import sys
import time
from pathlib import Path

import numpy as np
import pytest

from mirkle.core.rehearsal.timing import Practised
from mirkle.files import demo_files
from mirkle.files.audio.media import shipped_reference
from mirkle.files.project.project import Project, SourceFile
from mirkle.session.decision_book import BOTH
from mirkle.session.open_files import open_pass
from mirkle.session.rehearsal import GONE_S, LEAD_IN_S, READ_AHEAD_S, Pacer, Practice, Rehearsal, history, pacing_of
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.video_pass import VideoPass
from mirkle.synthetic import slatehook

BOOK = SourceFile("notes", demo_files.CORRECTED, demo_files.demo_file(demo_files.CORRECTED))


class Clock:
    """A clock that goes on when it is told to."""

    def __init__(self) -> None:
        self.s = 1000.0

    def __call__(self) -> float:
        return self.s


def changed(stage: ReviewedPass) -> ReviewedPass:
    stage.book.mark(None, 20, "L3 20", by=BOTH)
    stage.book.mark(None, 60, "R2 40", by=BOTH)
    return stage


def run_to(rehearsal: Rehearsal, clock: Clock, stage_s: float, step: float = 0.016) -> None:
    while rehearsal.running and rehearsal.pacer.now_s < stage_s:
        clock.s += step
        rehearsal.tick()


def test_ten_minutes_of_page_road_and_voice_are_in_step_with_the_clock(stage: ReviewedPass) -> None:
    """At sixty pictures a second nothing is more than one of them behind, and nothing adds up."""
    clock = Clock()
    r = Rehearsal(stage, clock=clock)
    r.way, turned, spoken = "listen", {}, {}
    r.turned.connect(lambda line: turned.setdefault(line, r.pacer.now_s))
    r.spoken.connect(lambda line: spoken.setdefault(line, r.pacer.now_s))
    due = r.pacing.due_s()
    r.begin()
    begun = clock.s
    assert r.pacer.now_s == pytest.approx(due[0] - LEAD_IN_S)
    ended: list[bool] = []
    r.ended.connect(lambda: ended.append(True))
    rng = np.random.default_rng(1)
    while r.running:
        clock.s += float(rng.uniform(0.001, 0.019))
        r.tick()
        if r.running and r.pacer.now_s > 0:
            assert r.place_m == pytest.approx(r.pacing.place_m(clock.s - begun + due[0] - LEAD_IN_S), abs=0.01)
    assert ended == [True]
    assert clock.s - begun > 600.0
    late = np.array([spoken[n] - due[n] for n in range(len(due))])
    assert late.min() >= -1e-9
    assert late.max() < 0.020
    # Notes in one breath turn together, to the last of them.
    turns = np.array([turned[n] - (due[n] - READ_AHEAD_S) for n in turned if n])
    assert turns.max() < 0.020
    assert turns.min() >= -1e-9


def test_it_is_known_how_long_it_is_to_what_is_due_next(stage: ReviewedPass) -> None:
    """A timer that waits as long as it is told finds each line and page due, one after the other, and nothing in between."""
    clock = Clock()
    r = Rehearsal(stage, clock=clock)
    r.way, moments = "listen", []
    assert r.next_due_s == np.inf, "it does not run"
    r.turned.connect(lambda line: moments.append(r.pacer.now_s - due[line] + READ_AHEAD_S) if line else None)
    r.spoken.connect(lambda line: moments.append(r.pacer.now_s - due[line]))
    due = r.pacing.due_s()
    r.begin()
    while np.isfinite(r.next_due_s):
        before = len(moments)
        clock.s += max(r.next_due_s, 0.0) + 1e-6
        r.tick()
        assert len(moments) > before
    assert len(moments) == 2 * len(due) - 1
    assert max(moments) < 1e-4
    r.way = "call"
    r.begin()
    assert r.next_due_s == pytest.approx(LEAD_IN_S), "a page does not turn before its call"


def test_on_the_real_clock_as_well() -> None:
    """A tenth of a second of it, many times over: the share of a machine that does other things is in the clock, not beside it."""
    pacer = Pacer()
    pacer.go(5.0)
    for _ in range(20):
        before = time.monotonic()
        at = pacer.now_s
        after = time.monotonic()
        time.sleep(0.005)
        assert pacer.at(before) <= at <= pacer.at(after)
    pacer.stop()
    stood = pacer.now_s
    time.sleep(0.01)
    assert pacer.now_s == stood


def test_calls_are_taken_in_order_and_what_was_not_called_is_said(stage: ReviewedPass) -> None:
    clock = Clock()
    r = Rehearsal(changed(stage), clock=clock)
    r.way = "call"
    assert [list(p) for p in r.parts] == [list(range(17, 23)), list(range(57, 63))]
    heard: list[Practised] = []
    r.practised.connect(lambda one: heard.append(one))
    r.begin()
    due, corner = r.pacing.due_s(), r.pacing.corner_s
    run_to(r, clock, due[17])
    r.call()
    run_to(r, clock, due[18] + 0.3)
    # The key was pressed 0.2 s ago; the window was busy.
    r.call(clock.s - 0.2)
    assert [(p.line, p.verdict) for p in heard] == [(17, "in-time"), (18, "in-time")]
    assert heard[1].late_s == pytest.approx(0.1, abs=0.02)
    run_to(r, clock, corner[19] + GONE_S + 0.05)
    assert heard[2].verdict == "not-called"
    assert r.line >= 20
    run_to(r, clock, 1e9)
    assert not r.running
    assert {p.line for p in heard} == {*range(17, 23), *range(57, 63)}, "both places, one behind the other"


def practised_once(r: Rehearsal, clock: Clock) -> None:
    r.way = "call"
    r.begin()
    due = r.pacing.due_s(r.pace)
    while r.running:
        clock.s += 0.016
        r.tick()
        if r.running and r.pacer.now_s >= due[r.line]:
            r.call()


def test_a_change_is_rehearsed_after_the_second_time_and_forgotten_when_it_is_written_otherwise(stage: ReviewedPass) -> None:
    clock = Clock()
    r = Rehearsal(changed(stage), clock=clock)
    assert Practice(stage).left() == 2
    practised_once(r, clock)
    assert Practice(stage).left() == 2
    r.both = True
    practised_once(r, clock)
    assert Practice(stage).left() == 0
    assert Practice(stage).left(both=True) == 2, "the driver heard it once"
    assert Practice(stage).notes_done == {20, 60}
    stage.book.mark(None, 60, "R1 40", by=BOTH)
    assert Practice(stage).left() == 1
    assert Practice(stage).notes_done == {20}
    stage.undo()
    assert Practice(stage).left() == 0, "what was practised is no decision: undo leaves it"


def test_what_was_practised_survives_a_kill_between_two_calls(stage: ReviewedPass) -> None:
    path = stage.project.path
    stage.book.mark(None, 20, "L3 20", by=BOTH)
    stage.project.close()
    code = f"""
import os, signal
from pathlib import Path
from mirkle.files.project.project import Project
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.rehearsal import Rehearsal
stage = ReviewedPass.of_project(Project.open(Path({str(path)!r})))
now = [0.0]
r = Rehearsal(stage, clock=lambda: now[0])
r.way, r.pace, r.both = "call", 0.8, True
r.begin()
for _ in range(4):
    now[0] += 1.0
    r.call()
os.kill(os.getpid(), signal.SIGKILL)
"""
    done = subprocess.run([sys.executable, "-c", code], check=False, timeout=60)
    assert done.returncode == -9
    again = ReviewedPass.of_project(Project.open(path))
    (run,) = history(again)
    assert (run.way, run.pace, run.both, len(run.calls)) == ("call", 0.8, True, 4)
    assert run.notes == again.this_pass.notes


def test_damaged_practice_is_left_out(stage: ReviewedPass) -> None:
    stage.project.add_practice(None, "no json")
    stage.project.add_practice(None, json.dumps({"when": "2026-05-02T10:00:00+01:00", "way": 7, "pace": "x", "notes": []}))
    stage.project.add_practice(7, json.dumps({"change": "a", "verdict": "in-time"}))
    stage.project.add_practice(None, json.dumps([1, 2]))
    (run,) = history(stage)
    assert (run.pace, run.both, run.calls) == (1.0, False, ())
    assert Practice(stage).rehearsed() == frozenset()


def test_another_pace_goes_on_from_the_same_place(stage: ReviewedPass) -> None:
    clock = Clock()
    r = Rehearsal(stage, clock=clock)
    r.begin()
    run_to(r, clock, 100.0)
    at = r.place_m
    r.set_pace(0.8)
    assert r.place_m == pytest.approx(at, abs=0.5)
    # Ten seconds at a pace are so many of the whole one.
    for pace in (0.8, 1.1, 0.5):
        r.set_pace(pace)
        at = r.pacing.seconds_at(r.place_m)
        clock.s += 10.0
        assert r.pacing.seconds_at(r.place_m) - at == pytest.approx(10.0 * pace, abs=0.01)


def test_one_place_again(stage: ReviewedPass) -> None:
    clock = Clock()
    r = Rehearsal(stage, clock=clock)
    r.way = "call"
    r.begin(range(30, 36))
    assert r.line == 30
    assert r.pacer.now_s == pytest.approx(r.pacing.due_s()[30] - LEAD_IN_S)
    run_to(r, clock, 1e9)
    assert [p.line for p in r.results] == list(range(30, 36))


def test_without_a_recording_by_the_video_or_by_the_book(tmp_path: Path) -> None:
    bare = open_pass(Project.create(tmp_path / "a.mirkle", [BOOK, shipped_reference(demo_files.VIDEO)], name="a"))
    assert isinstance(bare, VideoPass)
    slow, fast = pacing_of(bare, 50.0), pacing_of(bare, 100.0)
    assert slow.length_s() == pytest.approx(2 * fast.length_s(), rel=1e-6)
    _, run, text = slatehook.third_pass()
    calls = SourceFile("calls", "t.vtt", text.encode())
    called = open_pass(Project.create(tmp_path / "b.mirkle", [BOOK, shipped_reference(demo_files.VIDEO), calls], name="b"))
    pacing = pacing_of(called)
    assert pacing.length_s() == pytest.approx(run.finish_s - run.start_s, abs=8.0), "as long as the drive was"
    r = Rehearsal(called, clock=Clock())
    r.begin(range(40, 45))
    # Three seconds before the fortieth call is three seconds before it on the video.
    assert isinstance(called, VideoPass)
    assert r.video_s == pytest.approx(called.spoken[40].from_s - LEAD_IN_S, abs=0.1)


def test_the_quickest_pass_of_this_book_gives_the_pace(stage: ReviewedPass) -> None:
    """The afternoon was quicker; it read the same book here."""
    other = next(p for p in stage.project.passes() if p.id != stage.this_pass.id)
    assert other.notes == stage.this_pass.notes
    before = pacing_of(stage).length_s()
    quicker = ReviewedPass.of_project(stage.project, pass_id=other.id)
    assert pacing_of(stage).length_s() == pytest.approx(pacing_of(quicker).length_s())
    assert pacing_of(stage).length_s() < before - 10.0
