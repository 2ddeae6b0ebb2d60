"""Call times from a real sound: the demo's, whose truth is the timed text that it was spoken from."""

from __future__ import annotations

import json
import math
from dataclasses import replace
from importlib import resources
from pathlib import Path

import jsonschema
import numpy as np
import pytest

from mirkle.core.errors import MirkleError
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.review import Review
from mirkle.files import demo_files
from mirkle.files.audio.media import media_path, shipped_reference
from mirkle.files.audio.voice import FRAME_S, RATE_HZ, Samples, Voice, samples_of, voice_of
from mirkle.files.export.review_json import review_json
from mirkle.files.notes.text import parse_notes
from mirkle.files.project.project import Project, SourceFile
from mirkle.files.speech.call_files import speech_in
from mirkle.files.speech.heard_json import HeardCalls, heard_json, looks_like_heard, parse_heard, speech_of
from mirkle.files.speech.listen_json import listen_json
from mirkle.session.described_files import described
from mirkle.session.listening import accepted, believable, can_listen, heard_in, heard_of, keep_heard, listened, to_hear
from mirkle.session.parsed_files import crew_of
from mirkle.session.proof import proofs_of
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.reviewing import Inputs, review_material
from tests.conftest import CALLS, MORNING, NOTES


@pytest.fixture(scope="module")
def sound() -> Path:
    return media_path(shipped_reference(demo_files.SOUND))


@pytest.fixture(scope="module")
def crew() -> CrewProfile:
    return crew_of(None)


@pytest.fixture(scope="module")
def pieces(sound: Path) -> list[Samples]:
    return list(samples_of(sound))


@pytest.fixture(scope="module")
def voice(pieces: list[Samples]) -> Voice:
    return voice_of(iter(pieces))


@pytest.fixture
def listened_before(voice: Voice, monkeypatch: pytest.MonkeyPatch) -> None:
    """The network has gone through the demo's sound already: it does so once."""
    monkeypatch.setattr("mirkle.session.listening.voice_in", lambda _path, **_: voice)


@pytest.fixture(scope="module")
def heard(sound: Path, voice: Voice, crew: CrewProfile, demo_review: Review) -> HeardCalls:
    """By the book and the road; what was said is not looked at."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr("mirkle.session.listening.voice_in", lambda _path, **_: voice)
        return heard_in(sound, demo_review.reading, crew, demo_review)


def test_the_demos_calls_are_found_where_they_were_spoken(heard: HeardCalls, demo_review: Review) -> None:
    off = [abs(c.from_s - s.time.from_s) for c, s in zip(heard.listening.calls, demo_review.calls, strict=True) if s.time is not None]
    assert len(off) > 130
    assert np.mean(np.array(off) < 0.3) > 0.97
    assert demo_review.clock is not None
    assert heard.clock is not None
    assert heard.clock.sound_minus_run_s == pytest.approx(demo_review.clock.calls_minus_run_s, abs=2 * heard.clock.uncertainty_s)


def test_a_review_by_the_sound_finds_the_same_late_calls_and_accuses_nobody(heard: HeardCalls, demo_review: Review) -> None:
    by_sound = review_material(Inputs(MORNING, NOTES, SourceFile("heard", "heard.json", heard_json(heard))))
    late = [{f.note for f in r.findings if f.kind == "call-late"} for r in (by_sound, demo_review)]
    assert late[0] == late[1] != set()
    # A crest lies somewhere between its corners: nobody is sent to listen to how late it was called.
    assert {i.note for i in to_hear(heard) if i.kind == "late"} == late[0]
    assert not [f for f in by_sound.findings if f.kind == "said-otherwise"], "a sound tells when and not what"
    assert {s.said_as for s in by_sound.spoken} <= {"heard", "perhaps", "not-heard"}
    schema = json.loads((resources.files("mirkle") / "share" / "review.schema.json").read_text())
    faults = jsonschema.Draft202012Validator(schema).iter_errors(json.loads(review_json(by_sound, (MORNING, NOTES))))
    assert not [f.message for f in faults]


def test_without_a_road_the_order_of_the_notes_is_enough(
    sound: Path, voice: Voice, crew: CrewProfile, demo_review: Review, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The first forty notes, and the sound of them."""
    lines = NOTES.content.decode().splitlines()
    book = parse_notes("\n".join(lines[:44]).encode(), name="book")
    said = [c for c in demo_review.calls[: len(book.notes)] if c.time is not None]
    until = int((said[-1].time.to_s + 3.0) / FRAME_S)
    short = Voice(voice.sure[:until], voice.loud_db[:until], voice.cepstra[: 2 * until])
    monkeypatch.setattr("mirkle.session.listening.voice_in", lambda _path, **_: short)
    found = heard_in(sound, book, crew, None)
    assert found.clock is None
    pairs = [(c.from_s, s.time.from_s) for c, s in zip(found.listening.calls, demo_review.calls, strict=False) if s.time]
    assert len(pairs) >= 35
    assert np.mean([abs(a - b) < 0.3 for a, b in pairs]) > 0.9


def test_what_was_heard_is_kept_whole(heard: HeardCalls) -> None:
    content = heard_json(heard.solved_with(5, heard.listening.calls[5].from_s))
    assert looks_like_heard(content.decode())
    again = parse_heard(content, name="h")
    assert heard_json(again) == content
    assert again.by_hand.keys() == {5}
    with pytest.raises(MirkleError, match="call times"):
        parse_heard(b'{"heard": 1}', name="h")


def test_another_edition_keeps_the_notes_that_did_not_change(heard: HeardCalls, crew: CrewProfile) -> None:
    lines = NOTES.content.decode().splitlines()
    changed = lines.index(heard.texts[10])
    lines[changed] = lines[changed].replace("L", "left ").replace("R", "right ")
    book = parse_notes("\n".join(lines).encode(), name="b", crew=crew)
    spoken = speech_of(heard, book).spoken
    assert [i for i, s in enumerate(spoken) if s.said_as == "not-heard"] == [10]
    assert spoken[11].from_s == heard.listening.calls[11].from_s


def test_without_its_book_a_sound_says_nothing(heard: HeardCalls) -> None:
    with pytest.raises(MirkleError, match="when and not what"):
        speech_in(SourceFile("heard", "h.json", heard_json(heard)))
    assert "of 14" in str(described(SourceFile("heard", "h.json", heard_json(heard))).sentence)


def test_doubtful_calls_say_nothing_against_the_co_driver(heard: HeardCalls, crew: CrewProfile) -> None:
    book = parse_notes(NOTES.content, name="b", crew=crew)
    doubted = replace(
        heard, listening=replace(heard.listening, calls=tuple(replace(c, sure=0.6 if c.note % 2 else 1.0) for c in heard.listening.calls))
    )
    speech = speech_of(doubted, book)
    doubtful = [s for s in speech.spoken if s.said_as == "perhaps"]
    assert len(doubtful) == len(speech.spoken) // 2
    assert all(s.uncertainty_s > 1.5 for s in doubtful)
    nothing = tuple(replace(c, sure=0.6) for c in heard.listening.calls)
    none = speech_of(replace(heard, listening=replace(heard.listening, calls=nothing)), book)
    assert {s.said_as for s in none.spoken} == {"not-heard"}, "where hardly a note is sure nothing is believed"
    missing = replace(heard.listening.calls[3], from_s=math.nan)
    calls = (*heard.listening.calls[:3], missing, *heard.listening.calls[4:])
    speech = speech_of(replace(heard, listening=replace(heard.listening, calls=calls)), book)
    assert speech.spoken[3].said_as == "not-heard"
    assert not speech.spoken[3].was_said


def test_what_is_worth_most_is_listened_to_first(heard: HeardCalls) -> None:
    calls = list(heard.listening.calls)
    calls[20] = replace(calls[20], from_s=math.nan)
    calls[30] = replace(calls[30], from_s=calls[30].due_s + 1.8)
    calls[40] = replace(calls[40], sure=0.6)
    apart = next(c.note for c in calls[45:] if abs(c.from_s - c.due_s) < 0.5)
    calls[apart] = replace(calls[apart], other_s=calls[apart].from_s + 2.0)
    found = replace(heard, listening=replace(heard.listening, calls=tuple(calls), others=((93.0, 93.6),)))
    kinds = [i.kind for i in to_hear(found)]
    assert kinds == sorted(kinds, key=["late", "not-heard", "other", "apart", "unsure", "again"].index)
    at = {i.note: i for i in to_hear(found)}
    assert at[20].kind == "not-heard"
    assert at[20].from_s == pytest.approx(calls[20].due_s)
    assert at[30].kind == "late"
    assert at[40].kind == "unsure"
    assert at[apart].kind == "apart"
    done = accepted(found, at[40])
    assert done.by_hand == {40: calls[40].from_s}
    assert 40 not in {i.note for i in to_hear(done)}
    book = parse_notes(NOTES.content, name="b", crew=crew_of(None))
    assert speech_of(found, book).spoken[20].said_as == "not-heard"
    gone = accepted(found, at[20])
    assert speech_of(gone, book).spoken[20].said_as == "not-said", "somebody has listened by now"
    assert 20 not in {i.note for i in to_hear(gone)}
    (other,) = [i for i in to_hear(found) if i.kind == "other"]
    assert not [i for i in to_hear(accepted(found, other)) if i.kind == "other"]


def test_a_remark_that_is_written_down_stands_at_its_place(heard: HeardCalls) -> None:
    at_s = heard.listening.calls[60].to_s + 1.0
    noted = heard.with_remark(at_s, "that  opened more")
    review = review_material(Inputs(MORNING, NOTES, SourceFile("heard", "h.json", heard_json(noted))))
    (remark,) = review.remarks
    assert remark.text == "that opened more"
    assert review.clock is not None
    assert review.profile.seconds_at(remark.at_m) == pytest.approx(review.clock.run_s(at_s), abs=0.3)
    assert noted.with_remark(at_s + 0.2, "").remarks == ((at_s + 0.2, ""),)


def test_they_are_the_words_of_the_pass_until_undone(heard: HeardCalls, tmp_path: Path) -> None:
    project = Project.create(tmp_path / "s.mirkle", [MORNING, NOTES, shipped_reference(demo_files.SOUND)], name="Slatehook")
    stage = ReviewedPass.of_project(project)
    assert can_listen(stage)
    assert heard_of(stage) is None
    keep_heard(stage, heard)
    again = ReviewedPass.of_project(project, measurements=stage.measurements)
    assert heard_of(again) is not None
    assert sum(c.time is not None for c in again.review.calls) > 130
    assert [p.title for p in proofs_of(again.inputs)] == ["The notes"], "nobody read words in it"
    again.undo()
    assert ReviewedPass.of_project(project, measurements=stage.measurements).inputs.calls is None
    project.close()


@pytest.mark.usefixtures("listened_before")
def test_coarse_words_say_what_and_the_sound_says_when(demo_review: Review, tmp_path: Path) -> None:
    coarse = SourceFile("calls", "coarse.vtt", demo_files.demo_file(demo_files.BLOCKS))
    alone = review_material(Inputs(MORNING, NOTES, coarse))
    files = [MORNING, NOTES, coarse, shipped_reference(demo_files.SOUND)]
    stage = ReviewedPass.of_project(Project.create(tmp_path / "s.mirkle", files, name="Slatehook"))
    assert can_listen(stage)
    keep_heard(stage, listened(stage))
    again = ReviewedPass.of_project(stage.project, measurements=stage.measurements)

    def within(review: Review) -> float:
        pairs = [(a.time.from_s, b.time.from_s) for a, b in zip(review.calls, demo_review.calls, strict=True) if a.time and b.time]
        return float(np.mean([abs(a - b) < 0.3 for a, b in pairs]))

    assert within(alone) < 0.4
    assert within(again.review) > 0.92
    # What was said is still the words' to say.
    assert {f.note for f in again.review.findings if f.kind == "said-otherwise"} == {
        f.note for f in alone.findings if f.kind == "said-otherwise"
    }
    assert can_listen(again), "and they can be listened for again, with the same words"
    kept = heard_of(again)
    assert kept is not None
    assert kept.timed_text == coarse.content
    stage.project.close()


def test_timed_text_wins(tmp_path: Path) -> None:
    files = [MORNING, NOTES, CALLS, shipped_reference(demo_files.SOUND)]
    project = Project.create(tmp_path / "s.mirkle", files, name="Slatehook")
    assert not can_listen(ReviewedPass.of_project(project))
    project.close()


def test_sound_is_decoded_at_its_rate_and_what_is_none_is_said(pieces: list[Samples], tmp_path: Path) -> None:
    assert sum(map(len, pieces)) / RATE_HZ == pytest.approx(660.2, abs=1.0)
    voice = voice_of(iter(pieces[:4]))
    one = voice_of(iter([np.concatenate(pieces[:4])]))
    np.testing.assert_array_equal(voice.sure, one.sure)
    broken = tmp_path / "broken.mp4"
    broken.write_bytes(b"\0\0\0\x18ftypmp42" + bytes(400))
    with pytest.raises(MirkleError, match=r"broken\.mp4"):
        list(samples_of(broken))


@pytest.mark.usefixtures("listened_before")
def test_where_sound_and_recording_cant_be_tied_nobody_is_judged(
    sound: Path, crew: CrewProfile, demo_review: Review, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("mirkle.session.listening.sound_clock", lambda *_: None)
    with pytest.raises(MirkleError, match="tied to this recording"):
        heard_in(sound, demo_review.reading, crew, demo_review)


def test_a_sound_without_a_voice_is_refused(tmp_path: Path, crew: CrewProfile) -> None:
    import wave

    path = tmp_path / "noise.wav"
    with wave.open(str(path), "wb") as file:
        file.setparams((1, 2, RATE_HZ, 0, "NONE", ""))
        file.writeframes((np.random.default_rng(1).normal(0, 3000, 60 * RATE_HZ)).astype("<i2").tobytes())
    book = parse_notes("\n".join(f"L{i % 6 + 1} 60" for i in range(12)).encode(), name="b", crew=crew)
    heard = heard_in(path, book, crew, None)
    with pytest.raises(MirkleError, match="hides the voice"):
        believable(heard)
    assert '"usable": false' in listen_json(heard)


def test_how_much_louder_the_voice_is_leaves_the_car_out() -> None:
    """A car of 20 dB, later of 40, and a voice 10 dB above it: while somebody speaks both are heard."""
    speaks = np.arange(400) % 4 == 0
    car_db = np.where(np.arange(400) < 200, 20.0, 40.0)
    heard_db = 10 * np.log10(10 ** (car_db / 10) + speaks * 10 ** (car_db / 10 + 1))
    made = Voice(np.where(speaks, 0.9, 0.02), heard_db, np.zeros((0, 12)))
    assert made.signal_to_noise_db == pytest.approx(10.0, abs=0.1)
    assert math.isnan(replace(made, sure=np.full(400, 0.02)).signal_to_noise_db)
