"""A pass with a book and a video, and no recording: opened, watched, answered by eye, and joined by a recording later."""

import json
from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from mirkle.core.errors import MirkleError, UnusableNotes
from mirkle.core.notebook.passes import Pass
from mirkle.core.progress import silent
from mirkle.core.speech.delivery import Spoken
from mirkle.files import demo_files
from mirkle.files.audio.media import shipped_reference
from mirkle.files.project.project import Project, SourceFile
from mirkle.files.speech.heard_json import parse_heard
from mirkle.files.speech.timed_text import parse_calls
from mirkle.session import demo
from mirkle.session.assign_files import NEW, intake_of, take_in_all
from mirkle.session.decision_book import BOTH
from mirkle.session.described_files import ImportedFile, described
from mirkle.session.export import write_export
from mirkle.session.import_files import take_in
from mirkle.session.listening import can_listen, heard_of, keep_heard
from mirkle.session.open_files import ImportResult, open_pass, opened, taken
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.shelf import shelved
from mirkle.session.stage_summary import NOT_MEASURED, keep_summary
from mirkle.session.video_pass import BookAlone, VideoPass, in_one_breath
from mirkle.session.video_watching import answered, moments_of, next_unanswered
from mirkle.synthetic import slatehook
from tests.conftest import CALLS, MORNING

VIDEO = shipped_reference(demo_files.VIDEO)
BOOK = SourceFile("notes", demo_files.CORRECTED, demo_files.demo_file(demo_files.CORRECTED))
HEARD = SourceFile("heard", demo_files.HEARD, demo_files.demo_file(demo_files.HEARD))


@pytest.fixture
def filmed(tmp_path: Path) -> VideoPass:
    """Book and video, nothing else."""
    project = Project.create(tmp_path / "filmed.mirkle", [BOOK, VIDEO], name="Slatehook")
    found = open_pass(project)
    assert isinstance(found, VideoPass)
    return found


def with_calls(tmp_path: Path, calls: SourceFile) -> VideoPass:
    found = open_pass(Project.create(tmp_path / "called.mirkle", [BOOK, VIDEO, calls], name="Slatehook"))
    assert isinstance(found, VideoPass)
    return found


def test_book_and_video_dropped_are_a_stage_and_open_as_one_again(tmp_path: Path) -> None:
    notes, video = tmp_path / "book.txt", tmp_path / "in-car.mkv"
    notes.write_bytes(BOOK.content)
    video.write_bytes(demo_files.demo_file(demo_files.VIDEO))
    found = taken([notes, video], [], None, None, silent)
    assert isinstance(found.stage, VideoPass)
    assert len(found.stage.notes) == 142
    assert found.stage.findings == ()
    path = found.stage.project.path
    found.stage.project.close()
    again = opened(path, silent)
    assert isinstance(again, VideoPass)
    again.project.close()


def test_a_book_with_nothing_but_its_sound_waits_for_more(tmp_path: Path) -> None:
    """There is nothing to see, and without a road nothing to hear that would judge anything."""
    project = Project.create(tmp_path / "s.mirkle", [BOOK, shipped_reference(demo_files.SOUND)], name="s")
    project.close()
    assert isinstance(opened(tmp_path / "s.mirkle", silent), ImportResult)


def test_what_was_seen_makes_the_book_and_outlives_the_program(filmed: VideoPass) -> None:
    before = filmed.reading.source.splitlines()
    filmed.book.see("as-called", 6)
    filmed.book.see("tighter", 8, "R4 20")
    filmed.book.see("longer", 9)
    filmed.book.see("hazard", 10, "stone inside")
    filmed.book.see("hazard", 10, "water behind it")
    after = filmed.book.edition.text.splitlines()
    assert [(a, b) for a, b in zip(before, after, strict=True) if a != b] == [("R5 20", "R4 20")]
    path = filmed.project.path
    filmed.project.close()
    again = opened(path, silent)
    assert isinstance(again, VideoPass)
    seen = {n: d for n in range(len(again.notes)) if (d := again.book.seen(n)) is not None}
    assert {n: (d.answer, d.seen) for n, d in seen.items()} == {6: ("keep", "as-called"), 8: ("mark", "tighter"), 9: ("talk", "longer")}
    assert [(a.notes.first, a.words) for a in again.book.road.additions] == [(10, "stone inside"), (10, "water behind it")]
    again.book.see("as-called", 8)
    assert again.book.edition.text.splitlines() == before, "a later answer takes the place of an earlier one"
    again.undo()
    assert again.book.edition.text.splitlines() == after
    assert again.note == 8, "undo goes to what it took back"


def test_the_same_answer_twice_is_one(filmed: VideoPass) -> None:
    filmed.book.see("as-called", 6)
    filmed.book.see("as-called", 6)
    assert len(filmed.book.history) == 1


def test_faster_takes_both_and_nonsense_is_refused(filmed: VideoPass) -> None:
    for seen, note, text in (("opener", 8, "R6 20"), ("tighter", 8, "R6 20"), ("shorter", 9, "L4 350")):
        with pytest.raises(UnusableNotes, match="faster"):
            filmed.book.see(seen, note, text)
    filmed.book.see("opener", 8, "R6 20", by=BOTH)
    for seen, text in (("tighter", "R2 3"), ("hazard", "  ")):
        with pytest.raises(UnusableNotes):
            filmed.book.see(seen, 11, text)
    assert len(filmed.book.history) == 1


def test_without_calls_there_are_no_moments_and_taps_make_them(filmed: VideoPass) -> None:
    assert set(moments_of(filmed)) == {None}
    filmed.book.tap(2, 20.0)
    filmed.book.tap(6, 40.0)
    moments = moments_of(filmed)
    assert all(m is not None for m in moments)
    by_note = {n: (m.from_s, m.known) for n, m in enumerate(moments) if m is not None}
    assert by_note[2] == (20.0, "tap")
    assert by_note[4] == (30.0, "between"), "half-way between two that are known"
    filmed.book.tap(2, 21.0)
    assert filmed.book.taps == {2: 21.0, 6: 40.0}
    filmed.undo()
    assert filmed.book.taps == {2: 20.0, 6: 40.0}


def test_taps_are_of_their_own_pass(filmed: VideoPass) -> None:
    """Another pass that read the same book has another clock; what was seen of a note stands on both."""
    filmed.book.tap(2, 20.0)
    filmed.book.see("as-called", 2)
    other = filmed.project.add_pass(Pass(0, None, filmed.this_pass.notes), {"media": VIDEO})
    beside = open_pass(filmed.project, other.id)
    assert isinstance(beside, VideoPass)
    assert beside.book.taps == {}
    assert beside.book.seen(2) is not None


def test_moments_come_from_the_sound_and_are_right_in_the_demo(tmp_path: Path) -> None:
    filmed = with_calls(tmp_path, HEARD)
    _, _, text = slatehook.third_pass()
    truth = with_calls(tmp_path / "t", SourceFile("calls", "truth.vtt", text.encode()))
    moments, true = moments_of(filmed), moments_of(truth)
    assert {m.known for m in moments if m is not None} == {"sound"}
    apart = [abs(m.from_s - t.from_s) for m, t in zip(moments, true, strict=True) if m is not None and t is not None]
    assert np.mean(np.array(apart) < 0.3) > 0.95
    assert all(m.until_s > m.from_s + 5.0 for m in moments if m is not None)
    # By their order alone: each is shown, none is rested on.
    assert {s.said_as for s in filmed.spoken} == {"perhaps"}


def test_one_goes_through_the_notes_that_are_open(filmed: VideoPass) -> None:
    filmed.choose_note(140)
    filmed.book.see("as-called", 141)
    assert next_unanswered(filmed) == 0, "round from the end to the first"
    for note in range(142):
        filmed.book.see("as-called", note)
    assert next_unanswered(filmed) is None
    assert answered(filmed) == 142


def said(from_s: float, to_s: float, **more: object) -> Spoken:
    return replace(Spoken("written", 1.0, 0, "words", from_s, to_s, 0.1), **more)  # type: ignore[arg-type]


BREATHLESS = [said(2.0 * k, 2.0 * k + 1.9) for k in range(5)]


@pytest.mark.parametrize(
    ("spoken", "found"),
    [
        (BREATHLESS, [range(5)]),
        (BREATHLESS[:3], []),
        ([said(k, k + 0.9) for k in range(4)], []),
        ([*BREATHLESS[:2], said(9.0, 10.0), *(said(20 + 2 * k, 21.9 + 2 * k) for k in range(4))], [range(3, 7)]),
        ([replace(s, uncertainty_s=2.0) for s in BREATHLESS], []),
        ([*BREATHLESS[:2], Spoken("not-said", 1.0), *BREATHLESS[2:]], []),
    ],
    ids=["nine seconds", "three notes", "short ones", "a pause", "nobody knows when", "one left out"],
)
def test_too_many_words_for_the_seconds_there_were(spoken: Sequence[Spoken], found: list[range]) -> None:
    assert [b.notes for b in in_one_breath(spoken)] == found


def test_what_needs_no_road_is_said_and_nothing_else(filmed: VideoPass) -> None:
    spoken = [said(10.0 * k, 10.0 * k + 1) for k in range(len(filmed.notes))]
    spoken[3] = Spoken("not-said", 0.97)
    spoken[4] = replace(spoken[4], said_as="otherwise", words="left five", probability=0.9)
    spoken[5] = replace(spoken[5], said_as="otherwise", words="left five", probability=0.4)
    spoken[7] = replace(spoken[7], late_words=6)
    spoken[8] = Spoken("not-heard", 0.9)
    told = VideoPass(filmed.project, BookAlone(filmed.reading, filmed.school), filmed.this_pass, None, spoken=spoken)
    said_of = {n: " ".join(map(str, told.remarks_on(n))) for n in range(len(filmed.notes)) if told.remarks_on(n)}
    assert set(said_of) == {3, 4, 7}
    assert "not called" in said_of[3]
    assert "left five" in said_of[4]
    assert "late" in said_of[7]


# With a recording


def files(*materials: SourceFile) -> list[ImportedFile]:
    return [described(m) for m in materials]


def test_a_recording_that_comes_later_joins_the_video_with_what_was_tapped(filmed: VideoPass) -> None:
    truth = parse_calls(CALLS.content, name="calls", book=filmed.reading).spoken
    tapped = [n for n in range(0, 120, 3) if truth[n].was_said]
    for note in tapped:
        # A key is pressed a little after the voice begins.
        filmed.book.tap(note, truth[note].from_s + 0.2)
    filmed.book.see("hazard", 10, "stone inside")
    intake = intake_of(filmed, files(MORNING))
    assert not intake.has_to_ask, "it can belong to nothing else"
    shown = take_in_all(filmed, intake)
    assert shown == filmed.this_pass.id
    now = filmed.pass_now()
    assert (now.run is not None, now.media) == (True, filmed.this_pass.media)
    calls = filmed.project.material(now.calls)
    assert calls is not None
    assert calls.kind == "tapped"
    assert len(json.loads(calls.content)["calls"]) == len(tapped)
    stage = open_pass(filmed.project, shown)
    assert isinstance(stage, ReviewedPass)
    assert stage.review.clock is not None
    assert stage.review.clock.calls_minus_run_s == pytest.approx(11.6, abs=0.8), "so far apart are the clocks, and a finger"
    (hazard,) = stage.book.road.additions
    assert hazard.from_m == pytest.approx(stage.review.place_m(10)), "by now its place is known"
    assert hazard.from_m > 0


def test_a_video_to_a_stage_may_be_a_pass_of_its_own(stage: ReviewedPass, tmp_path: Path) -> None:
    video = tmp_path / "third.mkv"
    video.write_bytes(demo_files.demo_file(demo_files.VIDEO))
    intake = intake_of(stage, [take_in(video)])
    (row,) = intake.rows
    assert NEW in [c.key for c in row.choices]
    shown = take_in_all(stage, intake.with_choice(0, NEW).reading(str(stage.this_pass.notes)))
    made = next(p for p in stage.project.passes() if p.id == shown)
    assert (made.run, made.notes) == (None, stage.this_pass.notes)
    assert isinstance(open_pass(stage.project, shown), VideoPass)
    assert isinstance(open_pass(stage.project), ReviewedPass), "a pass that was recorded is shown first"


def test_with_a_recording_each_moment_ends_behind_its_corner(stage: ReviewedPass) -> None:
    moments = moments_of(stage)
    review = stage.review
    clock = review.clock
    assert clock is not None
    for tie in review.lineup.ties[5:60]:
        moment, said_there = moments[tie.note], review.calls[tie.note].time
        if tie.bend is None or said_there is None or moment is None or moment.known != "text":
            continue
        assert moment.from_s == pytest.approx(said_there.from_s)
        left_s = moment.until_s - clock.calls_minus_run_s
        assert review.profile.metres_at(left_s) > tie.bend.to_m


def test_what_rests_on_a_recording_is_not_written_without_one(filmed: VideoPass, tmp_path: Path) -> None:
    write_export(filmed, tmp_path / "n.txt")
    assert (tmp_path / "n.txt").read_text() == filmed.book.edition.text
    for ending in ("csv", "html", "gpx", "json"):
        with pytest.raises(MirkleError, match="no recording"):
            write_export(filmed, tmp_path / f"out.{ending}")
    with pytest.raises(MirkleError, match="no call has a time"):
        write_export(filmed, tmp_path / "out.vtt")


def test_the_calls_of_a_pass_without_a_recording_are_written_with_their_times(tmp_path: Path) -> None:
    project = demo.demo_project()
    filmed = open_pass(project, project.passes()[2].id)
    assert isinstance(filmed, VideoPass)
    write_export(filmed, tmp_path / "out.vtt")
    again = parse_calls((tmp_path / "out.vtt").read_bytes(), name="out.vtt", book=filmed.reading)
    both = [(a.from_s, b.from_s) for a, b in zip(again.spoken, filmed.spoken, strict=True) if np.isfinite(a.from_s + b.from_s)]
    assert len(both) > 0.9 * len(filmed.notes)
    assert np.median(np.abs(np.diff(both))) < 2e-3


def test_the_demos_third_pass_had_nothing_but_a_camera() -> None:
    project = demo.demo_project()
    third = project.passes()[2]
    assert third.run is None
    assert third.notes == project.passes()[1].notes, "the book that was corrected over lunch"
    found = open_pass(project, third.id)
    assert isinstance(found, VideoPass)
    assert len(demo_files.demo_file(demo_files.VIDEO)) < 4_000_000
    project.close()


def test_what_the_sound_tells_is_kept_as_the_words_of_the_pass_until_undone(filmed: VideoPass) -> None:
    assert can_listen(filmed)
    keep_heard(filmed, parse_heard(HEARD.content, name="heard"))
    again = open_pass(filmed.project, filmed.this_pass.id)
    assert isinstance(again, VideoPass)
    assert heard_of(again) is not None
    assert moments_of(again)[20] is not None
    again.undo()
    bare = open_pass(filmed.project, filmed.this_pass.id)
    assert isinstance(bare, VideoPass)
    assert bare.calls is None
    assert set(moments_of(bare)) == {None}


def test_words_that_know_their_times_are_not_listened_for(tmp_path: Path) -> None:
    _, _, text = slatehook.third_pass()
    assert not can_listen(with_calls(tmp_path, SourceFile("calls", "t.vtt", text.encode())))


def test_the_shelf_says_of_a_filmed_stage_that_nothing_was_measured(filmed: VideoPass) -> None:
    """No danger left would be a promise that nobody can make."""
    keep_summary(filmed)
    one = shelved(filmed.project.path)
    assert (one.length_m, one.dangers_left, one.passes, one.opened) == (0.0, NOT_MEASURED, 1, True)


def test_a_filmed_pass_takes_nothing_from_what_the_recorded_ones_found(stage: ReviewedPass) -> None:
    keep_summary(stage)
    before = shelved(stage.project.path)
    assert before.dangers_left > 0
    made = stage.project.add_pass(Pass(0, None, stage.this_pass.notes), {"media": VIDEO})
    beside = open_pass(stage.project, made.id)
    assert isinstance(beside, VideoPass)
    keep_summary(beside)
    after = shelved(stage.project.path)
    assert (after.length_m, after.dangers_left) == (before.length_m, before.dangers_left)
    assert after.passes == before.passes + 1
