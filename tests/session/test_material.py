"""Files sorted out, proofs, typed books and parts, without a window."""

import json
import re
from dataclasses import replace
from pathlib import Path

import pytest

from mirkle.core.errors import MirkleError
from mirkle.core.judging.parts import Part
from mirkle.core.lineup.called_notes import Pin
from mirkle.core.notes.called import CalledChange, CalledFeature
from mirkle.core.overrides import HandPart, HandPin, HandPlace, ManualOverrides
from mirkle.core.review import Review
from mirkle.files.notes.text import parse_notes
from mirkle.files.project.overrides import overrides_json, parse_overrides
from mirkle.files.project.project import SourceFile
from mirkle.files.speech.timed_text import parse_calls
from mirkle.session.described_files import channels_in_words
from mirkle.session.import_files import UnlikeNotes, load, take_in
from mirkle.session.parsed_files import crew_of
from mirkle.session.proof import overruled, proofs_in, proofs_of, taught, undone
from mirkle.session.reviewing import Inputs, inputs_of, review_material
from mirkle.session.typing import read_typed
from tests.conftest import AFTERNOON, CALLS, MORNING, NOTES


@pytest.mark.parametrize(
    ("name", "content", "kind", "words"),
    [
        ("notes.txt", b"page 1\nL4 80\nR3 zorbl 60", "notes", "2 notes, 2 corners, pages: 1, direction first. Not understood: zorbl"),
        (
            "said.vtt",
            b"WEBVTT\n\n00:01.000 --> 00:03.000\nleft 4 80\n\n00:05.000 --> 00:06.000\nwrite 3 60\n",
            "calls",
            "What was said: 2 calls, 2 corners, no “go” heard; words repaired by sound: 1.",
        ),
        ("said.txt", b"[0:01] five four three two one go left 4 80 right 3 60", "calls", "“go” at 0:03"),
        ("crew.toml", b'order = "grade-first"', "crew", "grade first"),
    ],
)
def test_each_file_is_told_apart_and_said_to_be_what_it_is(tmp_path: Path, name: str, content: bytes, kind: str, words: str) -> None:
    (tmp_path / name).write_bytes(content)
    taken = take_in(tmp_path / name)
    assert taken.material == SourceFile(kind, name, content)
    assert words in str(taken.sentence)


def test_a_file_given_as_another_kind_is_refused(tmp_path: Path) -> None:
    (tmp_path / "notes.txt").write_text("L4 80\nR3 60")
    for kind, words in (("run", "not a run"), ("calls", "not timed text"), ("crew", "not a crew's file")):
        with pytest.raises(MirkleError, match=words):
            load(tmp_path / "notes.txt", kind=kind)


def test_the_newest_book_counts_and_the_first_run_is_judged() -> None:
    old, new = SourceFile("notes", "old", b"x"), SourceFile("notes", "new", b"y")
    first = inputs_of([old, MORNING, AFTERNOON, CALLS, new])
    assert (first.run, first.notes, first.calls, first.others) == (MORNING, new, CALLS, (AFTERNOON,))
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
    review = review_material(Inputs(MORNING, NOTES, SourceFile("calls", "c.vtt", without)))
    assert review.clock is not None
    assert review.clock.by == "lead"
    assert abs(review.clock.calls_minus_run_s - planted["calls_minus_run_s"]) < 2 * review.clock.uncertainty_s


def test_words_at_the_rate_of_another_film_tell_the_same(demo_review) -> None:  # type: ignore[no-untyped-def]
    """Video at 24 pictures a second that was played as 25: every call comes a twenty-fifth late, 26 s at the end."""

    def slower(stamp: re.Match[str]) -> str:
        hours, minutes, seconds = (float(part) for part in stamp[0].split(":"))
        at = (3600 * hours + 60 * minutes + seconds) * 25 / 24
        return f"{int(at) // 3600:02d}:{int(at) // 60 % 60:02d}:{at % 60:06.3f}"

    words = re.sub(r"\d\d:\d\d:\d\d\.\d{3}", slower, CALLS.content.decode())
    review = review_material(Inputs(MORNING, NOTES, SourceFile("calls", "c.vtt", words.encode())))
    assert review.clock is not None
    assert review.clock.gains == pytest.approx(1 / 24, abs=0.001)
    for said, before in zip(review.calls, demo_review.calls, strict=True):
        if said.time is not None and before.time is not None:
            there = demo_review.clock.run_s(before.time.from_s)
            assert review.clock.run_s(said.time.from_s) == pytest.approx(there, abs=0.6)
    alone = [f.id for f in review_material(Inputs(MORNING, NOTES, CALLS)).findings]
    assert len({f.id for f in review.findings} ^ set(alone)) <= 1


BOOK = Inputs(MORNING, SourceFile("notes", "n", b"L4 80\nR3 zorbl 60\nL5 kressst 40\nR2 into"))


def test_a_typed_book_is_not_repaired_but_asked_about() -> None:
    (proof,) = proofs_of(BOOK)
    assert proof.text == "L4 80\nR3 zorbl 60\nL5 kressst 40\nR2 into"
    places = [p for d in proof.doubts for p in d.places]
    assert [proof.text[p.start : p.end] for p in places] == ["zorbl", "kressst"]
    assert places[1].around == "L5 kressst 40"
    assert all(d.kind == "unknown" and not d.read_as for d in proof.doubts)
    assert "crest" in [m.said for m in proof.doubts[1].meanings]
    assert any(kind == "feature" and key == "crest" for *_, kind, key in proof.meanings())


def test_settling_a_word_is_an_edit_of_the_crews_file() -> None:
    first, second = proofs_of(BOOK)[0].doubts
    crew = taught(BOOK, first, "object", "ditch")
    (after,) = proofs_of(Inputs(MORNING, BOOK.notes, crew=crew))
    assert [d.text for d in after.doubts] == ["kressst"]
    crew = taught(Inputs(MORNING, BOOK.notes, crew=crew), second, "feature", "crest")
    (after,) = proofs_of(Inputs(MORNING, BOOK.notes, crew=crew))
    assert after.doubts == ()
    left = undone(BOOK, second)
    (after,) = proofs_of(Inputs(MORNING, BOOK.notes, crew=left))
    assert [d.text for d in after.doubts] == ["zorbl"]
    told = overruled(Inputs(MORNING, BOOK.notes, crew=crew), "sense", "descending")
    assert b'sense = "descending"' in told.content
    assert b"zorbl" in told.content
    assert b"sense" not in overruled(Inputs(MORNING, crew=told), "sense", None).content


SHORT = b"R90 60\nL4 K 80\nHL 40\nL90 into\nR3 K 50\nR5 !! 30\nL3 K brk 30"


def test_each_unknown_form_is_asked_once_with_its_likeliest_meanings() -> None:
    inputs = Inputs(MORNING, SourceFile("notes", "n", SHORT))
    (proof,) = proofs_of(inputs)
    asked = {d.text: (d.count, [m.said for m in d.meanings]) for d in proof.doubts}
    assert {form: count for form, (count, _) in asked.items()} == {"k": 3, "90": 2, "hl": 1, "!!": 1, "brk": 1}
    assert asked["90"][1][0] == "square"
    assert asked["hl"][1] == ["left hairpin"]
    assert asked["brk"][1][0] == "brake"
    assert asked["!!"][1] == ["double caution", "caution"]
    for text, kind, key in (("90", "grade", "square"), ("hl", "corner", "left hairpin"), ("k", "feature", "kinks")):
        doubt = next(d for d in proof.doubts if d.text == text)
        inputs = Inputs(MORNING, inputs.notes, crew=taught(inputs, doubt, kind, key))
    (after,) = proofs_of(inputs)
    assert {d.text for d in after.doubts} == {"!!", "brk"}
    notes = review_material(inputs).notes
    assert [(n.direction.value if n.direction else None, n.grade) for n in notes[:4]] == [
        ("right", "square"),
        ("left", "4"),
        ("left", "hairpin"),
        ("left", "square"),
    ]
    assert notes[1].features == (CalledFeature("kinks"),)
    assert (notes[0].distance_m, notes[3].link) == (60, "into")


def test_what_might_be_a_harmed_word_is_offered_with_its_moment() -> None:
    words = b"[0:10] start 80 left 5 over crest 40\n[0:20] right 3 zest 80 left 5 long 60 right 2 into left 4 happen 100"
    (proof,) = proofs_in(None, SourceFile("calls", "c.txt", words), crew_of(None))
    offered = {d.text: d for d in proof.doubts if d.kind == "offered"}
    assert "zest" in offered
    (place,) = offered["zest"].places
    assert "3 zest 80" in place.around
    assert place.at_s == pytest.approx(21, abs=2)
    assert 0 < offered["zest"].sure < 0.8


def test_typed_lines_are_read_back_one_by_one() -> None:
    lines = read_typed("page 1\nL4 80\n\nR 60\nL4 zorbl\nL3 60 R2 40")
    assert [line.is_page for line in lines] == [True, False, False, False, False, False]
    assert str(lines[1].words) == "left 4, then 80 metres"
    assert str(lines[3].fault) == "the corner has no grade"
    assert "zorbl" in str(lines[4].fault)
    assert lines[5].notes == 2
    assert read_typed("  \n") == []


def test_what_was_set_by_hand_comes_back() -> None:
    notes = parse_notes(b"L4 80\nR3 60\nL2 40", name="n").notes
    parts = (
        HandPart(HandPlace(10.00004), HandPlace(50.0), "dust"),
        HandPart(HandPlace(None, 900.0), HandPlace(None, 1200.0), "Furo à direita"),
    )
    pins = (HandPin(1, HandPlace(64.0)), HandPin(2, None))
    told = ManualOverrides(parts=parts, finish_s=301.2344, calls_minus_run_s=-12.5, pins=pins, extra={"later": [1]})
    content = overrides_json(told, notes)
    again = parse_overrides(content, notes, name="h")
    assert (again.start_s, again.finish_s, again.calls_minus_run_s) == (None, 301.234, -12.5)
    assert again.pins == pins
    assert again.parts == (HandPart(HandPlace(10.0), HandPlace(50.0), "dust"), parts[1])
    assert again.extra == {"later": [1]}
    # A pin belongs to its words, wherever they stand now; one whose words are gone is kept for when they come back.
    other = parse_notes(b"R5 30\nL4 80\nR3 70\nL2 40", name="n").notes
    elsewhere = parse_overrides(content, other, name="h")
    assert elsewhere.pins == (HandPin(3, None),)
    assert parse_overrides(overrides_json(elsewhere, other), notes, name="h") == again
    for broken in (b"{", b"[]", b'{"parts": [{"from_s": 1}]}', b'{"pins": [{"note": "x"}]}', b"3", b'{"start_s": Infinity}'):
        with pytest.raises(MirkleError, match="set by hand"):
            parse_overrides(broken, notes, name="h")


def test_places_that_an_older_program_kept_in_metres_are_kept_by_the_clock(demo_review: Review) -> None:
    profile, notes = demo_review.profile, demo_review.notes
    old = {"parts": [{"from_m": 900.0, "to_m": 1200.0, "reason": "dust"}], "pins": [{"note": 5, "text": notes[5].text, "at_m": 640.0}]}
    told = parse_overrides(json.dumps(old).encode(), notes, name="h")
    assert told.parts_on(profile) == (Part(900.0, 1200.0, "dust"),)
    assert told.pins_on(profile) == (Pin(5, 640.0),)
    kept = parse_overrides(overrides_json(told.by_clock(profile), notes), notes, name="h")
    moved = replace(profile, distance_m=profile.distance_m - 25.0)
    assert [(round(p.from_m), round(p.to_m)) for p in kept.parts_on(moved) or ()] == [(875, 1175)]
    assert [round(p.at_m or 0.0) for p in kept.pins_on(moved)] == [615]


def test_channels_are_named_with_their_rates() -> None:
    words = channels_in_words([("lat_rad", 10.0), ("lon_rad", 10.0), ("acc_z_mps2", 99.8), ("yaw_rate_radps", 100.0)])
    assert words == "position 10; accelerations, yaw rate 100 times a second"
    assert channels_in_words([("lat_rad", 1.0), ("lon_rad", 1.0)]) == "position once a second"
    assert channels_in_words([("alt_m", 1.0), ("lat_rad", 21.0)]) == "height 1; position 21 times a second"


LETTERS = [
    "Dear crew,\nwe left the hotel at nine and took the right turn by the quarry. Nobody was left on the road.\nThe park is on the "
    "left hand side, 300 m behind the weighbridge. Keep right when you enter.\nTwo tyres were left in the van; bring them to the right "
    "place before 6.",
    "\n".join(f"2026-11-30 12:0{i % 10}:11 INFO left queue {i} right 3 opened" for i in range(40)),
    "Cara equipa, saímos da esquerda às 9 e virámos à direita na pedreira. O parque fica a 300 metros à esquerda. Tragam 2 pneus até às 6.",
]


@pytest.mark.parametrize("text", LETTERS)
def test_a_text_that_is_hardly_a_book_is_asked_about_and_says_so(text: str, tmp_path: Path) -> None:
    path = tmp_path / "letter.txt"
    path.write_text(text)
    with pytest.raises(UnlikeNotes, match="perhaps this is not the book"):
        take_in(path)
    assert "perhaps this is not the book" in str(take_in(path, agreed=True).sentence)
    assert any("not the book" in str(d) for d in parse_notes(text.encode(), name="letter").doubts)


def test_a_wordy_book_is_not_asked_about(tmp_path: Path) -> None:
    path = tmp_path / "book.txt"
    path.write_text("L4 long 60 (look again, gravel on it)\nR3 into\nL hp don't cut 40 // was a 3 before\n! R5 over crest 80\n" * 8)
    assert take_in(path).doubt is None
    assert take_in(path).material.kind == "notes"


@pytest.mark.parametrize(("called", "heard"), [("tightens late", "tie tens plate"), ("caution", "kushan")])
def test_what_a_recogniser_always_makes_of_a_word_is_kept_for_the_next_text(called: str, heard: str) -> None:
    """Found while reading against the book, however it sounds, asked about once for all places, and then read without a book as well."""
    lines = [f"{'left' if n % 2 else 'right'} {1 + n % 6} {called} over crest {40 + 10 * (n % 5)}" for n in range(12)]
    said = "[0:10] five four three two one go " + " ".join(lines).replace(called, heard)
    notes, words = SourceFile("notes", "n.txt", "\n".join(lines).encode()), SourceFile("calls", "c.txt", said.encode())
    _, proof = proofs_in(notes, words, crew_of(None))
    (habit,) = [d for d in proof.doubts if d.kind == "habit"]
    assert proof.doubts[0] is habit
    assert (habit.text, habit.count, habit.meanings[0].key) == (heard, 12, called)
    inputs = Inputs(MORNING, notes, words)
    crew = taught(inputs, habit, habit.meanings[0].kind, habit.meanings[0].key)
    _, after = proofs_in(notes, words, crew_of(crew))
    assert not [d for d in after.doubts if d.kind == "habit"]
    alone = parse_calls(words.content, name="c.txt", crew=crew_of(crew))
    assert sum(CalledChange(called) in n.changes or called in n.cautions for n in alone.reading.notes) == 12
