"""Files sorted out, proofs, typed books and parts, without a window."""

from pathlib import Path

import pytest

from mirkle.core.errors import MirkleError
from mirkle.core.verdict.parts import Part
from mirkle.files.parts import parse_parts, parts_json
from mirkle.files.project import Material
from mirkle.session.material import Inputs, channels_in_words, inputs_of, load, parts_name, review_material, take_in
from mirkle.session.proof import accepted, overruled, proofs_of, taught, undone
from mirkle.session.typing import read_typed
from tests.conftest import AFTERNOON, CALLS, MORNING, NOTES


@pytest.mark.parametrize(
    ("name", "content", "kind", "words"),
    [
        ("notes.txt", b"page 1\nL4 80\nR3 zorbl 60", "notes", "2 notes, 2 corners, on 1 page, direction first. Not understood: zorbl"),
        ("said.vtt", b"WEBVTT\n\n00:01.000 --> 00:03.000\nleft 4 80\n\n00:05.000 --> 00:06.000\nwrite 3 60\n", "calls",
         "What was said: 2 calls, 2 corners, no “go” heard; 1 word repaired by sound."),
        ("said.txt", b"[0:01] five four three two one go left 4 80 right 3 60", "calls", "“go” at 0:03"),
        ("crew.toml", b'order = "grade-first"', "crew", "grade first"),
    ],
)  # fmt: skip
def test_each_file_is_told_apart_and_said_to_be_what_it_is(
    tmp_path: Path, name: str, content: bytes, kind: str, words: str
) -> None:
    (tmp_path / name).write_bytes(content)
    taken = take_in(tmp_path / name)
    assert taken.material == Material(kind, name, content)
    assert words in taken.sentence


def test_a_file_given_as_another_kind_is_refused(tmp_path: Path) -> None:
    (tmp_path / "notes.txt").write_text("L4 80\nR3 60")
    for kind, words in (("run", "not a run"), ("calls", "not timed text"), ("crew", "not a crew's file")):
        with pytest.raises(MirkleError, match=words):
            load(tmp_path / "notes.txt", kind=kind)


def test_the_newest_book_counts_and_words_belong_to_the_first_pass() -> None:
    old, new = Material("notes", "old", b"x"), Material("notes", "new", b"y")
    parts = Material("parts", parts_name(AFTERNOON), b"[]")
    materials = [old, MORNING, AFTERNOON, CALLS, new, parts]
    first = inputs_of(materials)
    assert (first.run, first.notes, first.calls, first.parts, first.others) == (MORNING, new, CALLS, None, (AFTERNOON,))
    second = inputs_of(materials, run_name=AFTERNOON.name)
    assert (second.run, second.calls, second.parts, second.others) == (AFTERNOON, None, parts, (MORNING,))
    with pytest.raises(MirkleError, match="recording is still missing"):
        inputs_of([NOTES])
    with pytest.raises(MirkleError, match="notes are still missing"):
        inputs_of([MORNING])


def test_what_was_said_stands_for_notes_that_are_missing(demo_review) -> None:  # type: ignore[no-untyped-def]
    review = review_material(Inputs(MORNING, None, CALLS))
    assert len(review.reading.corners) == pytest.approx(len(demo_review.reading.corners), abs=1)
    written = [n.direction for n in demo_review.reading.corners]
    said = [n.direction for n in review.reading.corners]
    assert sum(a == b for a, b in zip(written, said, strict=False)) > 0.95 * len(written)
    assert review.clock is not None
    assert not [f for f in review.findings if f.kind == "said-otherwise"]


def test_the_clocks_differ_by_what_they_were_made_to_differ(demo_review, planted: dict) -> None:  # type: ignore[no-untyped-def]
    clock = demo_review.clock
    assert clock.by == "go"
    assert abs(clock.calls_minus_run_s - planted["calls_minus_run_s"]) < 0.3 + clock.uncertainty_s
    # Without "go" the lead of the calls gives it within its own uncertainty.
    without = CALLS.content.replace(b"\ngo\n", b"\n\n").replace(b"five\n", b"\n").replace(b"\nthree\n", b"\n\n")
    review = review_material(Inputs(MORNING, NOTES, Material("calls", "c.vtt", without)))
    assert review.clock is not None
    assert review.clock.by == "lead"
    assert abs(review.clock.calls_minus_run_s - planted["calls_minus_run_s"]) < 2 * review.clock.uncertainty_s


BOOK = Inputs(MORNING, Material("notes", "n", b"L4 80\nR3 zorbl 60\nL5 kressst 40\nR2 into"))


def test_a_proof_marks_each_doubtful_word_at_its_place() -> None:
    (proof,) = proofs_of(BOOK)
    assert proof.text == "L4 80\nR3 zorbl 60\nL5 kressst 40\nR2 into"
    assert [proof.text[d.start : d.end] for d in proof.doubts] == ["zorbl", "kressst"]
    assert [d.read_as for d in proof.doubts] == ["", "crest"]
    assert any(kind == "feature" and key == "crest" for _, kind, key in proof.meanings())


def test_settling_a_word_is_an_edit_of_the_crews_file() -> None:
    unread, repaired = proofs_of(BOOK)[0].doubts
    crew = taught(BOOK, unread, "object", "ditch")
    (after,) = proofs_of(Inputs(MORNING, BOOK.notes, crew=crew))
    assert [d.text for d in after.doubts] == ["kressst"]
    crew = accepted(Inputs(MORNING, BOOK.notes, crew=crew), repaired)
    (after,) = proofs_of(Inputs(MORNING, BOOK.notes, crew=crew))
    assert after.doubts == ()
    left = undone(BOOK, repaired)
    (after,) = proofs_of(Inputs(MORNING, BOOK.notes, crew=left))
    assert [d.read_as for d in after.doubts] == ["", ""]
    told = overruled(Inputs(MORNING, BOOK.notes, crew=crew), "sense", "descending")
    assert b'sense = "descending"' in told.content
    assert b"zorbl" in told.content
    assert b"sense" not in overruled(Inputs(MORNING, crew=told), "sense", None).content


def test_typed_lines_are_read_back_one_by_one() -> None:
    lines = read_typed("page 1\nL4 80\n\nR 60\nL4 zorbl\nL3 60 R2 40")
    assert [line.is_page for line in lines] == [True, False, False, False, False, False]
    assert lines[1].words == "left 4, then 80 metres"
    assert lines[3].fault == "the corner has no grade"
    assert "zorbl" in lines[4].fault
    assert lines[5].notes == 2
    assert read_typed("  \n") == []


def test_parts_come_back_as_set_by_hand() -> None:
    parts = (Part(100.04, 500.0, "dust"), Part(900.0, 1200.0, "Furo à direita", proposed=True))
    again = parse_parts(parts_json(parts), name="p")
    assert [(p.from_m, p.reason, p.proposed) for p in again] == [
        (100.0, "dust", False),
        (900.0, "Furo à direita", False),
    ]
    for broken in (b"{", b'[{"from_m": 1}]', b'[{"from_m": "x", "to_m": 2, "reason": ""}]', b"3"):
        with pytest.raises(MirkleError, match="no parts"):
            parse_parts(broken, name="p")


def test_channels_are_named_with_their_rates() -> None:
    words = channels_in_words([("lat_rad", 10.0), ("lon_rad", 10.0), ("acc_z_mps2", 99.8), ("yaw_rate_radps", 100.0)])
    assert words == "position 10; accelerations, yaw rate 100 times a second"
