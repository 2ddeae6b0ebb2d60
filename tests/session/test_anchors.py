"""What a crew decided stays where it was decided, whatever becomes of the start, the clock, the notes and the program."""

import json
import random
import sqlite3
from collections.abc import Iterator
from contextlib import closing
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from geographiclib.geodesic import Geodesic

from mirkle.core.judging.parts import Part
from mirkle.core.motion.geodesy import degrees_of
from mirkle.core.notebook.decisions import (
    Addition,
    CallTap,
    ChangeAnswer,
    FindingAnswer,
    NoteChange,
    NotePlace,
    Observation,
    PassChange,
    Removal,
    RoadPlace,
)
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.overrides import hand_parts
from mirkle.files.project.project import Project, SourceFile
from mirkle.session.decision_book import BOTH, DecisionBook
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.reviewing import Measurements


@pytest.fixture(scope="module")
def measurements() -> Measurements:
    """What was measured once is not measured again."""
    return Measurements()


def opened_again(stage: ReviewedPass, measurements: Measurements) -> ReviewedPass:
    return ReviewedPass.of_project(stage.project, measurements=measurements)


def with_start(stage: ReviewedPass, later_s: float, measurements: Measurements) -> ReviewedPass:
    """The stage with its start set later, as by hand."""
    start_s = stage.review.measured.drive.start_s + later_s
    stage.set_overrides(replace(stage.overrides, start_s=start_s))
    return opened_again(stage, measurements)


def clock_of(stage: ReviewedPass, metres: float) -> float:
    return stage.review.profile.seconds_at(metres)


def where(stage: ReviewedPass) -> dict[str, tuple[str, float]]:
    """For each decision on a finding the kind of the finding, and when the car was at its middle."""
    found = {f.id: f for f in stage.findings}
    return {
        d.key: (found[name].kind, clock_of(stage, 0.5 * (found[name].from_m + found[name].to_m)))
        for name, d in stage.book.decisions.items()
    }


def speed_at(stage: ReviewedPass, time_s: float) -> float:
    return float(stage.review.profile.speed_mps[int(stage.review.profile.metres_at(time_s))])


def test_decisions_and_hazards_stay_where_they_are_when_the_start_is_set(stage: ReviewedPass, measurements: Measurements) -> None:
    for finding in stage.findings[:8]:
        stage.book.answer(finding, "talk")
    stage.book.road.add("hazard", 1500.0, 1500.0, "stones inside")
    stage.book.road.add("condition", 3000.0, 3200.0, "ice in the shade")
    seconds, before = [clock_of(stage, m) for m in (1500.0, 3000.0, 3200.0)], where(stage)
    again = stage
    for _ in range(2):
        again = with_start(again, 1.5, measurements)
        assert len(again.book.decisions) == 8
        after = where(again)
        assert {name: kind for name, (kind, _) in after.items()} == {name: kind for name, (kind, _) in before.items()}
        for name, (_, at_s) in after.items():
            # Within what a bend's own ends move by.
            assert abs(at_s - before[name][1]) * speed_at(again, at_s) < 20.0
        (_, hazard), (_, ice) = again.book.road.additions_on_road
        there = [clock_of(again, m) for m in (hazard.from_m, ice.from_m, ice.to_m)]
        assert there == pytest.approx(seconds, abs=0.02)
        assert hazard.from_m < 1495.0
        assert again.book.without_place == []


def test_parts_and_pins_stay_where_they_are_when_the_start_is_set(stage: ReviewedPass, measurements: Measurements) -> None:
    profile = stage.review.profile
    stage.set_overrides(replace(stage.overrides, parts=hand_parts([Part(2000.0, 2600.0, "dust")], profile)))
    tie = next(t for t in stage.review.lineup.ties if t.bend is not None and t.bend.from_m > 4000.0)
    assert tie.bend is not None
    stage.pin(tie.note, tie.bend.apex_m)
    seconds = [clock_of(stage, m) for m in (2000.0, 2600.0, tie.bend.apex_m)]
    again = with_start(stage, 3.0, measurements)
    (part,) = again.review.parts
    there = again.review.lineup.bend_of(tie.note)
    assert there is not None
    assert [clock_of(again, m) for m in (part.from_m, part.to_m)] == pytest.approx(seconds[:2], abs=0.02)
    assert clock_of(again, there.apex_m) == pytest.approx(seconds[2], abs=0.2)


def test_whatever_is_moved_every_decision_is_where_it_was_made_or_is_listed(stage: ReviewedPass, measurements: Measurements) -> None:
    """Start, finish, clock, parts, pins and the notes' reading are moved at random; nothing is lost and nothing lands elsewhere."""
    chance = random.Random(2711)
    for finding in stage.findings:
        proposal = stage.book.proposal(finding)
        if proposal is not None and chance.random() < 0.5:
            stage.choose(finding)
            stage.mark(proposal.text, by=BOTH)
        else:
            stage.book.answer(finding, chance.choice(["keep", "talk", "video"]))
    for i in range(6):
        metres = chance.uniform(300.0, 13000.0)
        stage.book.road.add("hazard", metres, metres + chance.choice([0.0, 150.0]), f"hazard {i}")
    made, marked = where(stage), stage.book.edition.text
    hazards = {a.words: clock_of(stage, a.from_m) for a in stage.book.road.additions}
    names = {d.key for d in stage.book.decisions.values()}
    marks = {d.key for d in stage.book.decisions.values() if d.answer == "mark"}
    for _ in range(5):
        profile, overrides = stage.review.profile, stage.overrides
        move = chance.choice(["start", "finish", "clock", "part", "pin"])
        if move == "start":
            overrides = replace(overrides, start_s=profile.time_s[0] + chance.uniform(-1.0, 4.0))
        elif move == "finish":
            overrides = replace(overrides, finish_s=stage.review.finish_s + chance.uniform(-8.0, 2.0))
        elif move == "clock":
            clock = stage.review.clock
            assert clock is not None
            overrides = replace(overrides, calls_minus_run_s=clock.calls_minus_run_s + chance.uniform(-0.5, 0.5))
        elif move == "part":
            first = chance.uniform(0.0, 12000.0)
            overrides = replace(overrides, parts=hand_parts([Part(first, first + 400.0, "dust")], profile))
        else:
            tie = chance.choice([t for t in stage.review.lineup.ties if t.bend is not None])
            assert tie.bend is not None
            stage.pin(tie.note, tie.bend.apex_m + chance.uniform(-3.0, 3.0))
            overrides = stage.overrides
        stage.set_overrides(overrides)
        stage = opened_again(stage, measurements)
        after = where(stage)
        for name, (kind, at_s) in after.items():
            assert kind == made[name][0]
            assert abs(at_s - made[name][1]) * speed_at(stage, at_s) < 60.0, (move, name)
        listed = {d.key for d in stage.book.without_place}
        assert names == set(after) | listed | (marks & names), move
        assert not listed & set(after)
        assert stage.book.edition.text == marked
        for addition in stage.book.road.additions:
            start_s = stage.review.profile.time_s[0]
            assert clock_of(stage, addition.from_m) == pytest.approx(max(hazards[addition.words], start_s), abs=0.05)


def test_what_is_said_about_a_place_is_one_for_one_and_of_its_kind(stage: ReviewedPass) -> None:
    """Of two alike findings near each other the nearer one has the answer; another kind at the same place has none."""
    jump = next(f for f in stage.findings if f.kind == "jump-uncalled")
    stage.book.answer(jump, "keep")

    def beside(metres: float, kind: str = "jump-uncalled") -> object:
        made = replace(jump, id=f"{kind}@{metres}", kind=kind, from_m=jump.from_m + metres, to_m=jump.to_m + metres)
        return replace(made, note=jump.note + 1)

    book = stage.book
    review = stage.review

    def answered(*findings: object) -> list[str]:
        book.rebase(replace(review, findings=findings))
        return list(book.decisions)

    assert answered(beside(30.0), beside(-12.0), beside(90.0)) == ["jump-uncalled@-12.0"]
    assert book.without_place == []
    assert answered(beside(90.0), beside(0.0, "crest-uncalled")) == []
    assert [d.answer for d in book.without_place] == ["keep"]
    # A finding about a note is about that note, however near the next one's is.
    book.rebase(review)
    tighter = next(f for f in stage.findings if f.kind == "grade-tighter")
    book.answer(tighter, "keep")
    assert answered(replace(tighter, note=tighter.note + 1, id="next")) == []
    assert answered(replace(tighter, from_m=tighter.from_m + 5.0, id="same")) == ["same"]


def test_a_decision_without_a_place_is_put_back_by_hand(stage: ReviewedPass) -> None:
    first, second = [f for f in stage.findings if f.kind == "grade-tighter"][:2]
    stage.book.answer(first, "talk", remark="wet there")
    review = stage.review
    left = tuple(f for f in review.findings if f is not first)
    stage.book.rebase(replace(review, findings=left))
    (lost,) = stage.book.without_place
    assert (lost.answer, lost.remark) == ("talk", "wet there")
    stage.book.put_back(lost, second)
    assert stage.book.decisions[second.id].remark == "wet there"
    assert stage.book.without_place == []
    stage.book.undo()
    stage.book.take_away(stage.book.without_place[0])
    assert stage.book.without_place == []
    stage.book.undo()
    stage.book.rebase(review)
    assert stage.book.decisions[first.id].remark == "wet there"


def test_marks_follow_their_notes_when_words_are_learnt(stage: ReviewedPass) -> None:
    """Another reading of the same text cuts it into other notes; a mark stays on its words."""
    chosen = next(f for f in stage.findings if f.kind == "grade-tighter" and f.note > 20)
    proposal = stage.book.proposal(chosen)
    assert proposal is not None
    stage.choose(chosen)
    stage.mark(proposal.text, by=BOTH)
    marked = stage.book.edition.text
    review, first = stage.review, stage.review.reading.notes[0]
    # The first note is read as two from now on.
    middle = first.span.start + 2
    halves = (replace(first, span=first.span._replace(end=middle)), replace(first, span=first.span._replace(start=middle)))
    notes = tuple(replace(n, index=i) for i, n in enumerate([*halves, *review.reading.notes[1:]]))
    stage.book.rebase(replace(review, reading=replace(review.reading, notes=notes)))
    assert stage.book.edition.text == marked
    (change,) = stage.book.edition.changes
    assert change.first_note == chosen.note + 1


@pytest.fixture
def old_stage(stage: ReviewedPass) -> Iterator[tuple[ReviewedPass, dict[str, str], str]]:
    """The demo as the program before this one kept it: findings known by notes and metres, hazards in metres."""
    answers = {}
    project, path = stage.project, stage.project.path
    rows = []
    for i, finding in enumerate(stage.findings[:12]):
        proposal = stage.book.proposal(finding)
        if i % 3 == 0 and proposal is not None and proposal.first_note >= 0:
            told = {
                "finding": finding.id,
                "answer": "mark",
                "first_note": proposal.first_note,
                "last_note": proposal.last_note,
                "text": proposal.text,
                "by": BOTH,
            }
        else:
            told = {"finding": finding.id, "answer": "keep", "first_note": -1, "last_note": -1, "text": "", "by": ""}
        answers[finding.id] = str(told["answer"])
        rows.append(told | {"remark": "", "from_m": -1.0, "to_m": -1.0, "seen": ""})
    rows.append({"finding": "hazard@1500-12", "answer": "hazard", "text": "stones", "from_m": 1500.0, "to_m": 1500.0})
    rows.append({"finding": "seen@30", "answer": "talk", "first_note": 30, "last_note": 30, "seen": "tighter"})
    rows.append({"finding": "moment@1-7", "answer": "moment", "first_note": 7, "last_note": 7, "text": "61.25"})
    rows.append({"finding": "change@40", "answer": "keep"})
    project.close()
    with closing(sqlite3.connect(path)) as connection:
        for told in rows:
            connection.execute("INSERT INTO log (pass, kind, body) VALUES (1, 'decide', ?)", (json.dumps(told),))
        connection.execute("PRAGMA user_version = 3")
        connection.commit()
    again = ReviewedPass.of_project(Project.open(path))
    yield again, answers, again.book.edition.text
    again.project.close()


def test_decisions_of_an_older_program_are_brought_over_once(
    old_stage: tuple[ReviewedPass, dict[str, str], str], measurements: Measurements
) -> None:
    stage, answers, text = old_stage
    assert {name: d.answer for name, d in stage.book.decisions.items()} == answers
    assert text != stage.reading.source
    assert stage.book.seen(30) is not None
    assert stage.book.taps == {7: 61.25}
    assert stage.book.change_answer("change", 40) is not None
    (hazard,) = stage.book.road.additions
    assert hazard.from_m == pytest.approx(1500.0, abs=0.1)
    entries = len(stage.project.entries())
    stage = opened_again(stage, measurements)
    assert len(stage.project.entries()) == entries, "once"
    seconds, before = clock_of(stage, hazard.from_m), where(stage)
    stage = with_start(stage, 3.0, measurements)
    after = where(stage)
    assert after.keys() == before.keys()
    assert clock_of(stage, stage.book.road.additions[0].from_m) == pytest.approx(seconds, abs=0.02)
    assert stage.book.edition.text == text
    # The stack of undo is what it was.
    *on_findings, _, seen, tap, kept = stage.book.history[::-1][:16]
    assert [d.answer for d in on_findings if isinstance(d, NoteChange | FindingAnswer)] == list(answers.values())
    assert (type(seen), type(tap), type(kept)) == (Observation, CallTap, ChangeAnswer)


def test_a_hazard_of_another_pass_lies_at_the_same_place_on_this_one(stage: ReviewedPass, measurements: Measurements) -> None:
    stage.book.road.add("hazard", 9000.0, 9000.0, "stones")
    other = ReviewedPass.of_project(stage.project, pass_id=2, measurements=measurements)
    (there,) = other.book.road.additions

    def on_the_map(one: ReviewedPass, metres: float) -> tuple[float, float]:
        plan, at = one.review.measured.plan, int(metres)
        assert plan.middle_deg is not None
        lat, lon = degrees_of(
            np.array([plan.east_m[at] + plan.start_m[0]]), np.array([plan.north_m[at] + plan.start_m[1]]), plan.middle_deg
        )
        return float(lat[0]), float(lon[0])

    apart = Geodesic.WGS84.Inverse(*on_the_map(stage, 9000.0), *on_the_map(other, there.from_m))["s12"]
    assert apart < 12.0, "two receivers and two lines"
    # Setting this pass's start moves the other's view by nothing.
    moved = with_start(stage, 3.0, measurements)
    assert moved.book.road.additions[0].from_m < 8990.0
    again = ReviewedPass.of_project(stage.project, pass_id=2, measurements=measurements)
    assert again.book.road.additions[0].from_m == pytest.approx(there.from_m, abs=1.0)


def test_a_newer_programs_keys_and_kinds_are_kept_and_written_back(stage: ReviewedPass) -> None:
    """One more key in every row: nothing is lost, and what is written again still has it."""
    stage.book.answer(stage.findings[0], "keep")
    stage.book.road.add("hazard", 900.0, 900.0, "stones")
    stage.set_overrides(replace(stage.overrides, finish_s=stage.review.finish_s - 1.0))
    stage.tell_of_pass("first", "Friday")
    path = stage.project.path
    stage.project.close()
    with closing(sqlite3.connect(path)) as connection:
        for table, key in (("log", "seq"), ("pass", "id")):
            for number, body in connection.execute(f"SELECT {key}, body FROM {table}").fetchall():
                if body:
                    told = json.dumps(json.loads(body) | {"mood": ["new", 1]})
                    connection.execute(f"UPDATE {table} SET body = ? WHERE {key} = ?", (told, number))
        connection.execute("INSERT INTO log (pass, kind, body) VALUES (1, 'weather', '{\"rain\": true}')")
        connection.execute(
            "INSERT INTO log (pass, kind, body) VALUES (1, 'decide', ?)", (json.dumps({"type": "postponed", "key": "x", "until": "noon"}),)
        )
        # An answer that only a newer program knows.
        unknown = {"type": "finding-answer", "key": "y", "answer": "sleep-on-it"}
        connection.execute("INSERT INTO log (pass, kind, body) VALUES (1, 'decide', ?)", (json.dumps(unknown),))
        connection.execute("ALTER TABLE about ADD COLUMN since TEXT")
        connection.commit()
    again = ReviewedPass.of_project(Project.open(path))
    assert len(again.project.passes()) == 2
    assert again.pass_now().day == "Friday"
    assert again.overrides.finish_s is not None
    assert [d.answer for d in again.book.decisions.values()] == ["keep"]
    assert again.project.unknown_entries == 3
    again.tell_of_pass("later", "Saturday")
    assert again.pass_now().extra == {"mood": ["new", 1]}
    assert all(d.extra == {"mood": ["new", 1]} for d in again.book.road.additions)
    again.book.take_away(again.book.road.additions[0])
    gone = [e.decision for e in again.project.entries() if isinstance(e.decision, Removal)]
    assert [d.extra for d in gone] == [{"mood": ["new", 1]}]
    # Undo takes back what the crew sees, not what it can't.
    assert again.book.undo() is not None
    assert [d.words for d in again.book.road.additions] == ["stones"]
    again.project.set_info("event", "Quarry days")
    assert again.project.info("event") == "Quarry days"


def test_what_was_set_by_hand_and_is_damaged_keeps_the_rest_from_nothing(stage: ReviewedPass) -> None:
    stage.book.answer(stage.findings[0], "keep")
    broken = SourceFile("by-hand", "by-hand.json", b'{"parts": [{"from_s": 1}]}')
    stage.project.set_pass(stage.pass_now(), {"overrides": broken})
    again = ReviewedPass.of_project(stage.project)
    assert again.overrides.damaged
    assert len(again.book.decisions) == 1
    again.set_overrides(replace(again.overrides, finish_s=again.review.finish_s - 2.0, damaged=False))
    assert not ReviewedPass.of_project(stage.project).overrides.damaged


def test_an_undo_in_the_window_leaves_what_came_meanwhile(stage: ReviewedPass) -> None:
    """A hazard is added, files are taken in beside the window, undo is pressed: the hazard goes, the pass keeps its files."""
    stage.book.road.add("hazard", 900.0, 900.0, "stones")
    elsewhere = DecisionBook(stage.project, stage.review, stage.language, stage.this_pass.id)
    words = SourceFile("calls", "other.vtt", b"WEBVTT\n")
    made = elsewhere.set_pass(stage.pass_now(), {"calls": words})
    undone = stage.book.undo()
    assert isinstance(undone, Addition)
    assert undone.words == "stones"
    assert stage.pass_now().calls == made.calls
    stage.book.reload()
    assert stage.book.road.additions == []
    assert [type(d) for d in stage.book.history] == [PassChange]
    back = stage.book.undo()
    assert back is not None
    assert stage.pass_now().calls != made.calls


def test_a_decision_says_all_that_it_was(stage: ReviewedPass) -> None:
    stage.book.answer(stage.findings[3], "video", by="driver", remark="at the gate")
    (kept,) = [e.decision for e in stage.project.entries()]
    finding = stage.findings[3]
    note = stage.notes[finding.note]
    assert isinstance(kept, FindingAnswer)
    assert kept.road is not None
    assert kept == FindingAnswer(
        key=kept.key,
        answer="video",
        finding_kind=finding.kind,
        by="driver",
        remark="at the gate",
        notes=NotePlace(finding.note, finding.note, note.text, note.span.start),
        road=RoadPlace(1, finding.from_m, finding.to_m, kept.road.from_s, kept.road.to_s),
    )
    assert isinstance(stage.crew, CrewProfile)
    assert Path(stage.project.path).is_file()
