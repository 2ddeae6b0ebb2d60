"""What both said behind the finish stands among the findings at its note, with the note it asks for; what is of no note stands nowhere."""

from __future__ import annotations

import pytest

from mirkle.core.review import Review
from mirkle.files.project.project import SourceFile
from mirkle.session.reviewing import Inputs, review_material
from tests.conftest import CALLS, MORNING, NOTES

DEBRIEF = """
00:11:02.000 --> 00:11:04.500
the second right wants a three

00:11:07.000 --> 00:11:09.000
page two line one should be a six

00:11:12.000 --> 00:11:14.000
that was brilliant the tyres are gone

00:11:17.000 --> 00:11:19.500
no the second right should be a two
"""


@pytest.fixture(scope="module")
def review() -> Review:
    words = SourceFile("calls", "calls.vtt", CALLS.content.rstrip() + b"\n" + DEBRIEF.encode())
    return review_material(Inputs(MORNING, NOTES, words))


def test_the_debrief_is_found_at_its_notes(review: Review) -> None:
    second = [n for n in review.notes if n.direction is not None and n.direction.value == "right"][1]
    found = {f.note: f for f in review.findings if f.kind == "said-by-you"}
    assert second.index in found
    one = found[second.index]
    # The last word on a note holds, and it is never more than a question.
    assert (one.met, one.severity) == ("2", "check")
    assert "should be a two" in one.why
    assert one.proposal is not None
    assert review.reading.notes[one.proposal.first_note] == second
    assert "2" in one.proposal.text
    on_page = next(n for n in review.notes if (n.page, n.line) == (2, 1))
    assert found.keys() == {second.index, on_page.index}, "talk is of no note"
    assert "Measured, it turned like your 4" in one.why


def test_without_words_nobody_said_anything(review: Review) -> None:
    silent = review_material(Inputs(MORNING, NOTES, CALLS))
    assert [f for f in silent.findings if f.kind == "said-by-you"] == []
    assert next(r.text for r in review.remarks if r.debrief).startswith("the second right")
