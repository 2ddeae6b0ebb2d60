"""The use cases of a workspace without a window: what is open, what waits, what is asked, what is refused."""

from __future__ import annotations

import shutil
from collections.abc import Callable, Iterator
from contextlib import closing
from dataclasses import dataclass, field, replace
from datetime import datetime
from pathlib import Path

import numpy as np
import pytest

from mirkle.core.errors import Cancelled, MirkleError
from mirkle.core.judging.parts import Part
from mirkle.core.rally.itinerary import Item
from mirkle.core.recording.model import Channel
from mirkle.files.project.project import Project
from mirkle.session import draft
from mirkle.session.assign_files import Intake
from mirkle.session.kept_reviews import keep_review
from mirkle.session.open_pass import OpenPass
from mirkle.session.paths import fresh_project_path
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.reviewing import Inputs, review_material
from mirkle.session.work import Listener, Task
from mirkle.session.workspace import HERE, Workspace
from tests.conftest import AFTERNOON, CALLS, MORNING, NOTES
from tests.worlds import csv_of, recording_of_curvature


@dataclass
class Held:
    """A task that runs when it is let go."""

    task: Task
    listener: Listener
    stopped: bool = False

    def cancel(self) -> None:
        self.stopped = True

    def abandon(self) -> None:
        self.stopped = True

    def go(self) -> None:
        try:
            if self.stopped:
                raise Cancelled("stopped")
            result = self.task(self.listener.progressed)
        except MirkleError as fault:
            self.listener.failed(fault)
        else:
            self.listener.done(result)
        self.listener.ended()


@dataclass
class Crew:
    """Answers what is asked, and keeps what it was shown."""

    columns_are: list[str] | None = None
    book: bool = True
    merges: bool | None = True
    same_stage: bool = False
    choose: Callable[[Intake], Intake | None] = lambda intake: intake
    asked: list[str] = field(default_factory=list)

    def columns(self, fault: object) -> list[str] | None:
        self.asked.append(type(fault).__name__)
        return self.columns_are

    def is_the_book(self, fault: object) -> bool:
        self.asked.append(type(fault).__name__)
        return self.book

    def files(self, intake: Intake) -> Intake | None:
        self.asked.append("files")
        return self.choose(intake)

    def joins(self, stage: str) -> bool:
        self.asked.append(f"is it {stage}")
        return self.same_stage

    def was_due(self, stage: str) -> bool:
        self.asked.append(f"was {stage} due")
        return self.same_stage

    def has_this_book(self, stage: str) -> bool:
        self.asked.append(f"is it the book of {stage}")
        return self.same_stage

    def merge(self, copy: str, stage: str) -> bool | None:
        self.asked.append(f"{copy} into {stage}")
        return self.merges


class Desk:
    """A workspace whose tasks run at once, or when they are let go (``hold``)."""

    def __init__(self) -> None:
        self.crew, self.hold, self.held = Crew(), False, []
        self.workspace = Workspace(self._run, self.crew)
        self.seen: list[tuple[str, str]] = []
        self.faults: list[str] = []
        self.told: list[str] = []
        self.queued: list[str] = []
        w = self.workspace
        w.shown.connect(lambda stage, place: self.seen.append((stage.project.name, place)))
        w.cleared.connect(lambda: self.seen.append(("", "cleared")))
        w.gathered.connect(lambda _, missing: self.seen.append(("", "gathered" if missing else "whole")))
        w.failed.connect(lambda fault: self.faults.append(fault.sentence if fault else ""))
        w.notice.connect(lambda words: self.told.append(str(words)))
        w.work.queued.connect(lambda names: self.queued.extend(map(str, names)))

    def _run(self, task: Task, listener: Listener) -> Held:
        held = Held(task, listener)
        if self.hold:
            self.held.append(held)
        else:
            held.go()
        return held

    def let_go(self) -> None:
        """Runs what is held, and what waits for it."""
        self.hold = False
        self.held.pop(0).go()


@pytest.fixture
def desk() -> Iterator[Desk]:
    made = Desk()
    yield made
    made.workspace.close()


@pytest.fixture(scope="module")
def kept_stage(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A stage with two passes whose reviews are kept."""
    path = tmp_path_factory.mktemp("kept") / "slatehook.mirkle"
    project = Project.create(path, [NOTES, MORNING], name="Slatehook")
    inputs = Inputs(MORNING, NOTES)
    keep_review(project, inputs, review_material(inputs))
    project.close()
    return path


@pytest.fixture
def stage_file(kept_stage: Path, tmp_path: Path) -> Path:
    return Path(shutil.copy(kept_stage, tmp_path / "slatehook.mirkle"))


def opened(desk: Desk, path: Path) -> OpenPass:
    desk.workspace.opening.open_project(path)
    assert desk.workspace.stage is not None, desk.faults
    return desk.workspace.stage


def opened_from_the_shelf(desk: Desk, kept_stage: Path) -> Path:
    """Puts the demo stage on the shelf and opens it there."""
    mine = fresh_project_path("slatehook")
    mine.parent.mkdir(parents=True, exist_ok=True)
    shutil.copy(kept_stage, mine)
    opened(desk, mine)
    return mine


def test_a_stage_is_opened_and_its_second_opening_only_shows_it(desk: Desk, stage_file: Path) -> None:
    stage = opened(desk, stage_file)
    assert desk.seen == [("Slatehook", "")]
    assert desk.workspace.reviewed is stage
    assert desk.workspace.has_book
    desk.workspace.opening.open_project(stage_file)
    assert desk.workspace.stage is stage
    assert desk.seen[-1] == ("Slatehook", "Compare")
    desk.workspace.opening.new_stage()
    assert (desk.workspace.stage, desk.workspace.reviewed, desk.workspace.has_book) == (None, None, False)
    assert desk.seen[-1] == ("", "cleared")


def test_notes_wait_for_their_recording_and_are_kept_meanwhile(desk: Desk, tmp_path: Path) -> None:
    notes, run = tmp_path / "notes.txt", tmp_path / "run.csv"
    notes.write_bytes(NOTES.content)
    run.write_bytes(MORNING.content)
    opening = desk.workspace.opening
    opening.take_files([notes])
    assert desk.seen == [("", "gathered")]
    assert opening.beginning is not None
    assert desk.workspace.has_book
    assert desk.workspace.stage is None
    begun = opening.beginning.path
    opening.take_files([run])
    assert desk.workspace.reviewed is not None
    assert desk.workspace.stage.project.path == begun
    assert desk.seen[-1][1] == "Gather"
    assert opening.waiting == []


def test_what_comes_meanwhile_waits_its_turn_and_is_done_in_order(desk: Desk, stage_file: Path) -> None:
    stage = opened(desk, stage_file)
    start_s = stage.review.measured.drive.start_s  # type: ignore[attr-defined]
    desk.hold = True
    desk.workspace.set_limits(start_s + 2.0, None)
    assert desk.workspace.work.busy
    desk.workspace.set_parts([Part(1000.0, 1500.0, "dust")])
    assert desk.queued == ["Review again"]
    assert desk.workspace.reviewed is stage, "not before it is done"
    desk.let_go()
    again = desk.workspace.reviewed
    assert again is not None
    assert again is not stage
    assert again.overrides.start_s == start_s + 2.0
    assert [p.reason for p in desk.workspace.parts()] == ["dust"]
    assert desk.seen[-1] == ("Slatehook", HERE)
    assert not desk.workspace.work.busy


def test_what_no_longer_fits_is_refused_with_a_sentence(desk: Desk, stage_file: Path, tmp_path: Path) -> None:
    stage = opened(desk, stage_file)
    other = Path(shutil.copy(stage_file, tmp_path / "other.mirkle"))
    desk.hold = True
    desk.workspace.opening.open_project(other)
    desk.workspace.redo_review(stage)
    desk.let_go()
    assert desk.workspace.stage is not None
    assert desk.workspace.stage.project.path == other
    assert desk.told == ["“Review again” was not done: another stage or pass was opened meanwhile. Do it again there."]


def test_a_fault_leaves_what_is_open_and_a_stop_says_nothing(desk: Desk, stage_file: Path, tmp_path: Path) -> None:
    stage = opened(desk, stage_file)
    broken = tmp_path / "broken.csv"
    broken.write_text("nothing in it")
    desk.workspace.opening.take_files([broken])
    assert desk.workspace.stage is stage
    assert "broken.csv" in desk.faults[-1]
    desk.hold = True
    desk.workspace.opening.take_files([broken])
    desk.workspace.work.cancel()
    desk.let_go()
    assert desk.faults[-1] == ""
    assert desk.workspace.stage is stage


def test_where_a_file_belongs_is_asked_and_no_answer_takes_nothing_in(desk: Desk, stage_file: Path, tmp_path: Path) -> None:
    stage = opened(desk, stage_file)
    words = tmp_path / "words.vtt"
    words.write_text("WEBVTT\n\n00:20.000 --> 00:22.000\nright 5 80\n")
    before = len(stage.project.materials())
    desk.crew.choose = lambda _: None
    desk.workspace.opening.take_files([words])
    assert desk.crew.asked == ["files"]
    assert desk.workspace.stage is stage
    assert len(stage.project.materials()) == before
    desk.crew.choose = lambda intake: intake.with_choice(0, str(stage.this_pass.id))
    desk.workspace.opening.take_files([words])
    assert desk.workspace.stage is not None
    assert desk.workspace.stage.this_pass.calls is not None


def test_passes_are_compared_once_and_again_when_forgotten(desk: Desk, stage_file: Path, tmp_path: Path) -> None:
    opened(desk, stage_file)
    run = tmp_path / "afternoon.csv"
    run.write_bytes(AFTERNOON.content)
    desk.workspace.opening.take_files([run])
    steps: list[int] = []
    listener = lambda found, _season: steps.append(len(found))  # noqa: E731
    desk.workspace.followed.connect(listener)
    desk.workspace.follow()
    desk.workspace.follow()
    assert steps == [1]
    desk.workspace.forget_passes()
    desk.workspace.follow()
    assert steps == [1, 1]


def test_a_typed_book_is_a_draft_until_a_file_holds_it(desk: Desk) -> None:
    text = "R5 80\nL5 very long into\nR4 30\n"
    draft.keep_typed_draft(text)
    done: list[bool] = []
    desk.hold = True
    desk.workspace.opening.take_typed(text, lambda: done.append(True))
    assert (draft.typed_draft(), done) == (text, [])
    desk.let_go()
    assert (draft.typed_draft(), done) == ("", [True])
    assert desk.workspace.opening.beginning is not None
    assert [m.content.decode() for m in desk.workspace.opening.beginning.materials()] == [text]
    # Whoever closes forgets no file.
    path = desk.workspace.opening.beginning.path
    desk.workspace.close()
    again = Project.open(path)
    again.close()


def test_a_change_that_can_not_be_made_is_a_fault_and_undo_takes_the_last_one_back(desk: Desk, stage_file: Path) -> None:
    stage = opened(desk, stage_file)

    def full(_: OpenPass) -> None:
        raise MirkleError("the disk is full", mend="make room")

    fault = desk.workspace.on_stage(full)
    assert fault is not None
    assert fault.sentence.startswith("the disk is full")
    stage.book.road.add("hazard", 900.0, 900.0, "stones")
    assert desk.workspace.on_stage(lambda s: s.undo()) is None
    assert stage.book.road.additions == []


@pytest.mark.parametrize("is_open", [True, False])
def test_a_copy_of_a_stage_is_merged_into_it(desk: Desk, kept_stage: Path, tmp_path: Path, is_open: bool) -> None:
    """What was decided on another computer stands beside what was decided here; where both decided, people choose."""
    mine, copy = fresh_project_path("slatehook"), tmp_path / "from-the-other-laptop.mirkle"
    mine.parent.mkdir(parents=True, exist_ok=True)
    for path in (mine, copy):
        shutil.copy(kept_stage, path)
    elsewhere = opened(desk, copy)
    assert isinstance(elsewhere, ReviewedPass)
    first, second = elsewhere.findings[:2]
    elsewhere.book.answer(first, "keep")
    elsewhere.book.answer(second, "keep", by="driver")
    desk.workspace.opening.new_stage()
    stage = opened(desk, mine)
    stage.book.answer(next(f for f in stage.findings if f.id == first.id), "talk")
    if not is_open:
        desk.workspace.opening.new_stage()
    desk.workspace.opening.take_files([copy])
    merged = desk.workspace.stage
    assert isinstance(merged, ReviewedPass)
    assert (desk.crew.asked, merged.project.path) == ([f"{copy.name} into {mine.stem}"], mine)
    assert desk.told == ["From the copy: 2 decisions. Decided differently in both: 1. Choose in ☰, Decide."]
    assert merged.book.decisions[second.id].by == "driver"
    (conflict,) = merged.book.conflicts
    assert {conflict.earlier.answer, conflict.later.answer} == {"keep", "talk"}
    assert merged.book.without_place == []
    merged.book.settle(conflict, next(d for d in (conflict.earlier, conflict.later) if d.answer == "keep"))
    assert (merged.book.decisions[first.id].answer, merged.book.conflicts) == ("keep", [])
    merged.book.undo()
    assert len(merged.book.conflicts) == 1


def test_a_copy_that_is_not_to_be_merged_is_opened_or_left(desk: Desk, kept_stage: Path, tmp_path: Path) -> None:
    mine, copy = fresh_project_path("slatehook"), tmp_path / "copy.mirkle"
    mine.parent.mkdir(parents=True, exist_ok=True)
    for path in (mine, copy):
        shutil.copy(kept_stage, path)
    opened(desk, mine)
    desk.crew.merges = None
    desk.workspace.opening.take_files([copy])
    assert desk.workspace.stage.project.path == mine
    desk.crew.merges = False
    desk.workspace.opening.take_files([copy])
    assert desk.workspace.stage.project.path == copy


def test_a_road_that_was_driven_before_is_known_by_its_shape(desk: Desk, kept_stage: Path, tmp_path: Path) -> None:
    """A year later, with another book: the drive is added to the stage on the shelf, or begins a new one, as the crew says."""
    mine = opened_from_the_shelf(desk, kept_stage)
    desk.workspace.opening.new_stage()
    notes, run = (tmp_path / name for name in ("next-year.txt", "next-year.csv.gz"))
    notes.write_bytes(NOTES.content)
    run.write_bytes(AFTERNOON.content)
    desk.workspace.opening.take_files([notes, run])
    assert desk.crew.asked == ["is it Slatehook"]
    assert desk.workspace.stage is not None
    assert desk.workspace.stage.project.path != mine
    second = desk.workspace.stage.project.path
    desk.workspace.opening.new_stage()
    second.unlink()
    desk.crew.same_stage = True
    desk.workspace.opening.take_files([notes, run])
    assert desk.workspace.stage.project.path == mine
    assert len(desk.workspace.stage.project.passes()) == 2
    assert not second.exists()


def test_a_recording_finds_the_stage_that_was_due_when_it_was_made(desk: Desk, tmp_path: Path) -> None:
    """Two stages with their books only; a recording alone, which begins six minutes before the start of the second."""
    workspace, begins_s = desk.workspace, datetime(2026, 12, 4, 10, 24).timestamp()
    for name in ("Harbour Road", "Tarn Moor"):
        workspace.opening.begin_titled(name)
        workspace.opening.take_typed("start 50\nR4 80\nL3 60\nR5 40\n", lambda: None)
        workspace.opening.new_stage()
    workspace.rallies.begin("Isle Rally")
    assert workspace.rally is not None
    starts = {"Harbour Road": datetime(2026, 12, 4, 9, 0), "Tarn Moor": datetime(2026, 12, 4, 10, 30)}
    workspace.rally.set_itinerary([Item("stage", name, start) for name, start in starts.items()])
    driven = recording_of_curvature(np.repeat([0.0, -1 / 40, 0.0, 1 / 30, 0.0, -1 / 60, 0.0], 60), seed=3)
    moved = {name: Channel(channel.time_s + begins_s, channel.value) for name, channel in driven.channels.items()}
    run = tmp_path / "run.csv"
    run.write_text(csv_of(replace(driven, channels=moved)))
    workspace.opening.take_files([run])
    # It ends before the start: six minutes are no stage.
    assert desk.crew.asked == []
    workspace.opening.new_stage()
    late = {name: Channel(channel.time_s + begins_s + 330.0, channel.value) for name, channel in driven.channels.items()}
    run.write_text(csv_of(replace(driven, channels=late)))
    workspace.opening.take_files([run])
    assert desk.crew.asked == ["was Tarn Moor due"]
    assert workspace.stage is None, "nobody said yes"
    workspace.opening.new_stage()
    desk.crew.same_stage = True
    workspace.opening.take_files([run])
    assert workspace.with_book is not None
    assert workspace.with_book.project.name == "Tarn Moor"
    assert workspace.reviewed is not None
    workspace.rally.set_itinerary([Item("stage", "Harbour Road", starts["Harbour Road"])])
    workspace.opening.new_stage()
    desk.crew.asked.clear()
    workspace.opening.take_files([run])
    assert desk.crew.asked == []


def test_a_book_and_words_read_from_it_find_the_stage_that_has_the_book(desk: Desk, kept_stage: Path, tmp_path: Path) -> None:
    """Nothing is joined, moved or thrown away before somebody says so; what is begun with other things in it stays."""
    mine = opened_from_the_shelf(desk, kept_stage)
    passes = len(desk.workspace.stage.project.passes()) if desk.workspace.stage is not None else 0
    desk.workspace.opening.new_stage()
    notes, calls = tmp_path / "again.txt", tmp_path / "said.vtt"
    # The same book with a note changed, as it is read at the next rally.
    notes.write_bytes(NOTES.content.replace(b"L4", b"L5", 1))
    desk.workspace.opening.take_files([notes])
    assert desk.crew.asked == ["is it the book of Slatehook"]
    begun = desk.workspace.opening.beginning
    assert begun is not None, "nobody said yes"
    desk.workspace.opening.new_stage()
    assert begun.path.exists()
    begun.path.unlink()
    calls.write_bytes(CALLS.content)
    desk.crew.asked.clear()
    desk.workspace.opening.take_files([calls])
    assert desk.crew.asked == ["is it the book of Slatehook"]
    desk.workspace.opening.new_stage()
    desk.crew.same_stage = True
    before = set(mine.parent.iterdir())
    desk.crew.asked.clear()
    desk.workspace.opening.take_files([calls])
    assert desk.workspace.stage is not None
    assert desk.workspace.stage.project.path == mine
    assert len(desk.workspace.stage.project.passes()) == passes
    assert set(mine.parent.iterdir()) - before <= {mine.with_name(mine.name + "-journal"), mine.with_name(mine.name + ".lock")}
    # A book of another road asks nothing.
    desk.workspace.opening.new_stage()
    desk.crew.asked.clear()
    notes.write_text("start 50\nR4 80\nL3 60\nR5 40\nL6 100\nR2 50\nL4 90\nR6 120\nL5 70\n")
    desk.workspace.opening.take_files([notes])
    assert desk.crew.asked == []


def test_a_begun_stage_stays_where_its_drive_joins_another(desk: Desk, kept_stage: Path, tmp_path: Path) -> None:
    """A book was typed for it: that is in no file that could be taken in again."""
    mine = opened_from_the_shelf(desk, kept_stage)
    desk.workspace.opening.begin_titled("Next year")
    desk.workspace.opening.take_typed(NOTES.content.decode(), lambda: None)
    begun = desk.workspace.opening.beginning
    assert begun is not None
    assert desk.crew.asked == [], "what is typed is asked nothing"
    run = tmp_path / "next-year.csv.gz"
    run.write_bytes(AFTERNOON.content)
    desk.crew.same_stage = True
    desk.workspace.opening.take_files([run])
    assert desk.crew.asked == ["is it Slatehook"]
    assert desk.workspace.stage is not None
    assert desk.workspace.stage.project.path == mine
    assert begun.path.exists()
    with closing(Project.open(begun.path)) as kept:
        assert kept.name == "Next year"
        assert kept.newest("notes").content == NOTES.content
