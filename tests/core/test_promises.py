"""What is promised of every finding, whatever the world: looked for on made-up stages of every sensor level."""

from __future__ import annotations

import json
import re
from contextlib import suppress
from dataclasses import dataclass, replace
from functools import cache
from numbers import Real

import numpy as np
import pytest

from mirkle.core.errors import UnusableNotes
from mirkle.core.judging.finding_kinds import SEVERITIES
from mirkle.core.judging.findings import Finding
from mirkle.core.messages import Message
from mirkle.core.notebook.decisions import NoteChange, NotePlace
from mirkle.core.notebook.edition import Edition
from mirkle.core.notes.model import Note
from mirkle.core.notes.rewording import NoteWriter
from mirkle.core.review import Review
from mirkle.files.export.review_json import review_json
from mirkle.files.notes.languages import shipped_languages
from mirkle.files.project.project import SourceFile
from mirkle.session.reviewing import Inputs, review_material
from mirkle.synthetic.car import Drive, drive
from mirkle.synthetic.crew import SyntheticNotes, plant_slips, spoken, write_book
from mirkle.synthetic.recorder import Recorder, record
from mirkle.synthetic.road import make_road

LEVELS = {"good": (20.0, 100.0), "usual": (10.0, 50.0), "poor": (1.0, None)}
FIRST = (4_030, 8_152)


@dataclass(frozen=True)
class DecisionSubject:
    """A review with the hand that its proposals are written in."""

    review: Review
    hand: NoteWriter
    level: str
    inputs: Inputs

    @property
    def hard(self) -> list[Finding]:
        """The findings that ask for a change."""
        return [f for f in self.review.findings if f.severity in ("danger", "change")]


@cache
def written(which: int) -> tuple[Drive, SyntheticNotes]:
    """A pass over a made-up stage of fourteen kilometres, and a book with a slip of every kind in it."""
    # The search for a road with room for every slip begins where the last one ended.
    seed = FIRST[which]
    while True:
        rng = np.random.default_rng(seed)
        road = make_road(rng, length_m=14_000.0)
        run = drive(rng, road, pace=1.0, stands_s=15.0)
        # On some roads there is no room for every slip.
        with suppress(ValueError):
            return run, plant_slips(rng, write_book(rng, road), run.jumps)
        seed += 1


def judged(which: int, level: str) -> DecisionSubject:
    """A stage as a recorder of that level saw it."""
    run, book = written(which)
    rng = np.random.default_rng(which)
    position_hz, inertial_hz = LEVELS[level]
    csv = record(rng, run, Recorder(position_hz=position_hz, inertial_hz=inertial_hz or 10.0))
    if inertial_hz is None:
        lines = [line.split(",") for line in csv.splitlines()]
        csv = "\n".join(",".join(cells[:4]) for cells in lines if cells[1]) + "\n"
    inputs = Inputs(
        SourceFile("run", "run.csv", csv.encode()),
        SourceFile("notes", "notes.txt", book.lines().encode()),
        SourceFile("calls", "calls.vtt", spoken(rng, book, run, clock_s=4.0, damage=0.02).encode()),
    )
    review = review_material(inputs)
    return DecisionSubject(review, NoteWriter(review.reading, shipped_languages()[0]), level, inputs)


@pytest.fixture(scope="module", params=[(i % len(FIRST), level) for i, level in enumerate(LEVELS)], ids=str)
def world(request: pytest.FixtureRequest) -> DecisionSubject:
    return judged(*request.param)


def corners_of(notes: tuple[Note, ...]) -> list[Note]:
    return [n for n in notes if n.is_corner]


def test_there_is_something_to_look_at(world: DecisionSubject) -> None:
    assert len(world.review.findings) > 5
    assert len({f.kind for f in world.review.findings}) > 3


def test_nothing_faster_is_more_than_a_check(world: DecisionSubject) -> None:
    """Found from the words alone: a more open grade, a word of warning gone, or a corner's change for the tighter gone."""
    position = world.review.school.tightest_position
    for finding in world.hard:
        proposal = finding.proposal
        if proposal is None:
            continue
        old = world.review.notes[proposal.first_note : proposal.last_note + 1]
        new = world.hand.read_back(proposal.text)
        if finding.kind == "corner-unmet":
            assert len(corners_of(new)) == len(corners_of(old)) - 1
            continue
        tightest = {n.direction: position(n) for n in corners_of(old)}
        for note in corners_of(new):
            if note.direction in tightest:
                assert position(note) <= tightest[note.direction] + 0.01, finding
        for name in ("cautions", "objects"):
            assert sum(len(getattr(n, name)) for n in new) >= sum(len(getattr(n, name)) for n in old), finding
        assert sum(c.tightens for n in new for c in n.changes) >= sum(c.tightens for n in old for c in n.changes)


def test_every_proposal_can_be_read_written_and_taken_back(world: DecisionSubject) -> None:
    reading = world.review.reading
    for finding in world.review.findings:
        if finding.proposal is None:
            continue
        proposal = finding.proposal
        mark = NoteChange(key=finding.id, notes=NotePlace(proposal.first_note, proposal.last_note), text=proposal.text)
        Edition(reading, []).check_can_take(mark)
        edition = Edition(reading, [mark])
        (change,) = edition.changes
        assert change.new == proposal.text != change.old
        assert edition.text.replace(proposal.text, "", 1) != edition.text
        assert not any(n.unread for n in world.hand.read_back(proposal.text))


def test_places_names_and_figures_hold(world: DecisionSubject) -> None:
    review = world.review
    assert len({f.id for f in review.findings}) == len(review.findings)
    for finding in review.findings:
        assert 0 <= finding.note < len(review.notes)
        assert 0.0 <= finding.from_m <= finding.to_m <= review.profile.length_m
        assert finding.from_m <= review.finish_m
        assert 0.0 < finding.confidence <= 1.0
        assert finding.risk >= 0.0
        assert np.isfinite(finding.risk)
    order = [(SEVERITIES.index(f.severity), -f.risk) for f in review.findings]
    assert order == sorted(order)


def test_each_reason_is_whole_sentences_with_figures(world: DecisionSubject) -> None:
    for finding in world.review.findings:
        assert finding.why[0].isupper() or finding.why[0].isdigit()
        assert finding.why.endswith(".")
        assert re.search(r"\d", finding.why), finding.why
        assert not re.search(r"nan|inf\b|None|[{}]|-0\b|\s\s", finding.why), finding.why


# How the name of a fact ends: its unit in SI, or none for a count or a share.
UNIT = re.compile(r"_(m|s|mps|mps2|deg|grades)$")
COUNTS = {"of", "called", "left_out", "words", "used", "grades_off"}


def test_a_sentence_has_no_figures_but_the_facts(world: DecisionSubject) -> None:
    for finding in world.review.findings:
        sentences = [m for m in (*finding.because, finding.called, finding.met) if isinstance(m, Message)]
        assert not [m for m in sentences if any(isinstance(v, Real) for v in m.values)]
        said = [fact for m in sentences for fact in m.facts()]
        assert all(finding.facts[name] == value for name, value in said)
        assert all(UNIT.search(name) or name in COUNTS for name in finding.facts), finding.facts


# What a finding is about, by the first word of its kind.
SUBJECTS = {"grade": "radius", "tightens": "radius", "opens": "radius", "direction": "side", "length": "length", "distance": "distance"}


def test_no_proposal_is_refused_by_the_judge_that_made_it(world: DecisionSubject) -> None:
    """All of them written into the book and reviewed again: none of its notes is found wrong in the same respect."""
    review, made, marks = world.review, [], []
    for finding in review.findings:
        proposal, subject = finding.proposal, SUBJECTS.get(finding.kind.split("-")[0])
        if proposal is None or proposal.rewording is None or subject is None:
            continue
        if proposal.first_note not in {m.first_note for m in marks}:
            marks.append(NoteChange(key=finding.id, notes=NotePlace(proposal.first_note, proposal.last_note), text=proposal.text))
            made.append((finding.note, subject))
    assert len(made) > 5 or world.level == "poor"
    text = Edition(review.reading, marks).text
    again = review_material(replace(world.inputs, notes=SourceFile("notes", "notes.txt", text.encode())))
    assert len(again.notes) == len(review.notes)
    refused = [f for f in again.findings if (f.note, SUBJECTS.get(f.kind.split("-")[0])) in made]
    assert not refused


def test_a_blurred_recording_asks_and_does_not_tell(world: DecisionSubject) -> None:
    """One position a second shows which way a road went and that there was a corner; the rest is a question."""
    if world.level != "poor":
        assert any(f.severity == "danger" for f in world.review.findings)
        return
    assert world.review.measured.vertical is None
    allowed = {"direction", "corner-uncalled", "call-late", "call-early", "said-otherwise"}
    assert {f.kind for f in world.hard} <= allowed
    assert not [f for f in world.review.findings if f.kind.startswith(("jump", "crest", "bump", "dip", "maybe"))]


def test_a_danger_is_said_with_confidence_and_tells_what_to_write(world: DecisionSubject) -> None:
    for finding in world.review.findings:
        if finding.severity == "danger":
            assert finding.confidence > 0.5
            assert finding.proposal is not None
            assert finding.risk > 0.0


def test_the_contract_holds_the_same(world: DecisionSubject) -> None:
    out = json.loads(review_json(world.review))
    assert [f["kind"] for f in out["findings"]] == [f.kind for f in world.review.findings]
    assert {f["severity"] for f in out["findings"]} <= set(SEVERITIES)
    assert len(out["notes"]) == len(world.review.notes)


def test_what_is_no_note_is_refused_in_the_hand_of_any_crew(world: DecisionSubject) -> None:
    for text, words in (("", "nothing written"), ("zebra 4", "neither the grade nor the distance"), ("left 80", "no grade")):
        with pytest.raises(UnusableNotes, match=words):
            world.hand.read_back(text)


def test_a_tightening_leads_to_a_tighter_grade(world: DecisionSubject) -> None:
    """Never “3 tightens 3” or “6 tightens 7”; and what shape says without such a grade proposes nothing."""
    review = world.review
    position = {n.index: review.school.position(n.grade) for n in review.notes if n.grade and n.grade[0].isdigit()}
    for finding in review.findings:
        if finding.kind != "tightens-uncalled" or finding.note not in position:
            continue
        if finding.proposal is None:
            assert finding.severity == "check"
        else:
            assert finding.proposal.rewording is not None
            assert finding.proposal.rewording.tightens is not None
            assert review.school.position(finding.proposal.rewording.tightens) < position[finding.note]


def test_a_warning_to_add_comes_with_its_words(world: DecisionSubject) -> None:
    for finding in world.review.findings:
        if finding.kind in ("jump-uncalled", "crest-uncalled", "dip-uncalled", "bump-uncalled", "opens-uncalled"):
            assert finding.proposal is not None
            read = world.hand.read_back(finding.proposal.text)
            word = finding.kind.partition("-")[0]
            assert any(word in v.terms for n in read for v in (*n.features, *n.changes))
