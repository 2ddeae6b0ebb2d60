"""What is judged by words: a call corrected aloud is the freshest evidence that its note is wrong; no danger rests on a word nobody knows."""

from __future__ import annotations

import re

import numpy as np
import pytest

from mirkle.core.notes.reading import read_notes
from mirkle.core.review import Review
from mirkle.files.notes.languages import shipped_languages
from mirkle.files.project.project import SourceFile
from mirkle.session.reviewing import Inputs, review_material
from tests.conftest import CALLS, MORNING, NOTES

WORDS = ["no", "sorry", "actually", "I mean", "correction", "no no"]
CUE = re.compile(r"^(left|right) ([1-6])(.*)$", re.M)


def corrected(text: str, rng: np.random.Generator, share: float) -> tuple[str, dict[str, str]]:
    """The calls with some of their corners corrected in the same breath, and what each such cue says first and then."""
    meant: dict[str, str] = {}

    def change(found: re.Match[str]) -> str:
        side, grade, rest = found[1], int(found[2]), found[3]
        if rng.random() > share:
            return found[0]
        other = grade - 1 if grade > 1 and rng.random() < 0.7 else grade + 1 if grade < 6 else grade - 1
        turned = rng.random() < 0.3
        new = f"{'right' if side == 'left' else 'left'} {grade}" if turned else f"{side} {other}"
        word = WORDS[int(rng.integers(len(WORDS)))]
        gap = re.search(r" (\d+)$", rest)
        if gap and rng.random() < 0.4:
            said = f"{side} {grade}{rest}, {word}, {new}{rest}"
        elif turned or rng.random() < 0.5:
            said = f"{side} {grade}, {word}, {new}{rest}"
        else:
            said = f"{side} {grade}, {word}, {new.split()[1]}{rest}"
        meant[said] = new
        return said

    return CUE.sub(change, text), meant


@pytest.fixture(scope="module")
def told() -> tuple[Review, dict[str, str]]:
    text, meant = corrected(CALLS.content.decode(), np.random.default_rng(7), 0.25)
    return review_material(Inputs(MORNING, NOTES, SourceFile("calls", "said.vtt", text.encode()))), meant


def test_what_was_corrected_is_found_and_can_be_marked(told: tuple[Review, dict[str, str]]) -> None:
    review, meant = told
    found = {f.note: f for f in review.findings if f.kind == "said-otherwise" and "Corrected in the car" in f.why}
    assert len(meant) > 20
    right = 0
    for finding in found.values():
        note = review.notes[finding.note]
        assert finding.severity == "check"
        assert finding.proposal is not None
        (new,) = read_notes(finding.proposal.text, shipped_languages()).notes
        # The proposal changes what was corrected, and nothing else.
        assert new.direction is not None
        assert f"{new.direction.value} {new.grade}" == finding.met
        assert (new.length, new.changes, new.features, new.distance_m) == (note.length, note.changes, note.features, note.distance_m)
        right += finding.met in meant.values()
    assert right == len(found), "none is invented"
    assert right >= 0.95 * len(meant)


def test_nothing_is_corrected_where_nobody_did(demo_review: Review) -> None:
    assert not any("Corrected in the car" in f.why for f in demo_review.findings)


def test_what_comes_back_to_the_book_is_no_finding() -> None:
    text = CALLS.content.decode()
    said = "\nleft 5 80, no, right 5 80\n"
    assert "\nright 5 80\n" in text
    review = review_material(Inputs(MORNING, NOTES, SourceFile("calls", "said.vtt", text.replace("\nright 5 80\n", said, 1).encode())))
    assert not any(f.kind == "said-otherwise" and f.note == 1 for f in review.findings)


def test_no_danger_rests_beside_a_word_that_is_not_understood() -> None:
    """What nothing calls may be called by the word: it is to be looked at, and the review names the word."""
    plain = review_material(Inputs(MORNING, NOTES))
    danger = next(f for f in plain.findings if f.kind == "corner-uncalled" and f.severity == "danger")
    book, at = NOTES.content.decode(), plain.notes[danger.note].span.end
    review = review_material(Inputs(MORNING, SourceFile("notes", "n.txt", f"{book[:at]} zorbl{book[at:]}".encode())))
    (same,) = [f for f in review.findings if f.kind == "corner-uncalled" and abs(f.from_m - danger.from_m) < 5.0]
    assert same.severity == "check"
    assert "“zorbl” is not understood here" in same.why
    assert any("Not understood in the notes: zorbl." in str(d) for d in review.doubts)
    others = {f.id for f in plain.findings if f.severity == "danger"} - {danger.id}
    assert others <= {f.id for f in review.findings if f.severity == "danger"}


def test_what_was_read_over_otherwise_before_the_start_is_found() -> None:
    """Its words count, its time does not: the call itself came as written."""
    text = CALLS.content.decode()
    over = "WEBVTT\n\n00:00:01.000 --> 00:00:04.000\nstart 80 right 3 80 left 5 very long into right 4 very long opens 5 40\n"
    said = text.replace("WEBVTT\n", over, 1)
    plain = review_material(Inputs(MORNING, NOTES, CALLS))
    review = review_material(Inputs(MORNING, NOTES, SourceFile("calls", "said.vtt", said.encode())))
    new = {f.id: f for f in review.findings if f.id not in {p.id for p in plain.findings}}
    assert all("read before the start as" in f.why for f in new.values())
    (read,) = new.values()
    assert (str(read.called), str(read.met)) == ("right 5", "right 3")
    assert [c.time for c in review.calls] == [c.time for c in plain.calls]


def test_what_a_crew_writes_and_never_calls_is_said_once() -> None:
    text = re.sub(r"^((?:left|right) .*) \d+$", r"\1", CALLS.content.decode(), flags=re.M)
    review = review_material(Inputs(MORNING, NOTES, SourceFile("calls", "said.vtt", text.encode())))
    (habit,) = [f for f in review.findings if f.id.startswith("habit@said")]
    assert (habit.severity, habit.proposal) == ("remark", None)
    assert re.match(r"Written but not called at \d+ of \d+ notes: distances.", habit.why)
    assert not [f for f in review.findings if f.kind == "said-otherwise" and f.called and str(f.called).endswith(" m")]
