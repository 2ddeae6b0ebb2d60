"""Nothing is dropped in silence: what is pressed while something is being worked out has its effect, or says that it has none."""

from __future__ import annotations

import random
import shutil
import threading
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from mirkle.core.judging.parts import Part
from mirkle.core.notebook.decisions import PassChange
from mirkle.core.overrides import ManualOverrides
from mirkle.files.project.overrides import parse_overrides
from mirkle.files.project.project import Project, UnusableProject
from mirkle.gui.dialogs.excluded_parts import PartsDialog
from mirkle.gui.window import Window
from mirkle.session import draft, opening
from mirkle.session.paths import data_folder
from mirkle.session.reviewed_pass import ReviewedPass


class Held:
    """A long piece of work that ends when it is let go."""

    def __init__(self, window: Window) -> None:
        self.go, self._window = threading.Event(), window
        window.workspace.work.start(lambda _progress: self.go.wait(30.0), lambda _: None)

    def let_go(self, qtbot: QtBot) -> None:
        """Ends it, and waits until all that waited for it is done."""
        self.go.set()
        qtbot.waitUntil(lambda: not self._window.workspace.work.busy, timeout=60_000)


def reviewed(window: Window) -> ReviewedPass:
    stage = window.reviewed
    assert stage is not None
    return stage


def overrides_of(window: Window) -> ManualOverrides:
    """What is set by hand by now, as the file has it."""
    stage = reviewed(window)
    kept = stage.project.material(stage.pass_now().overrides)
    return parse_overrides(kept.content, stage.notes, name="kept") if kept is not None else ManualOverrides()


def test_what_is_set_while_passes_are_worked_out_is_kept_and_reviewed(
    open_window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    window, stage = open_window, reviewed(open_window)
    start_s = stage.review.measured.drive.start_s + 2.0
    held = Held(window)
    window.gather.limits_wanted.emit(start_s, None)
    assert overrides_of(window).start_s == pytest.approx(start_s, abs=0.001), "kept at once"
    assert "next" in window.status.doing.text()
    monkeypatch.setattr(PartsDialog, "exec", lambda _: 1)
    window.pages.compare.parts_wanted.emit(Part(2000.0, 2600.0, "dust"))
    assert "dust" in [p.reason for p in overrides_of(window).parts or ()]
    held.let_go(qtbot)
    again = reviewed(window)
    assert again is not stage
    assert again.review.measured.drive.start_s == pytest.approx(start_s, abs=0.01)
    assert "dust" in [p.reason for p in again.review.parts]


def test_a_note_pinned_while_its_pass_is_reviewed_stays_pinned(open_window: Window, qtbot: QtBot) -> None:
    """The review that comes was made without it: it is made again before it is shown."""
    window, stage = open_window, reviewed(open_window)
    tie = next(t for t in stage.review.lineup.ties if t.bend is not None and t.note > 20)
    assert tie.bend is not None
    window.gather.limits_wanted.emit(stage.review.measured.drive.start_s + 1.0, None)
    assert window.workspace.work.busy
    stage.pin(tie.note, tie.bend.apex_m)
    qtbot.waitUntil(lambda: not window.workspace.work.busy, timeout=60_000)
    again = reviewed(window)
    assert again is not stage
    assert [p.note for p in again.overrides.pins] == [tie.note]
    assert again.overrides.start_s is not None


def test_undo_while_files_are_taken_in_takes_back_what_is_seen(
    open_window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    window, stage = open_window, reviewed(open_window)
    stage.book.road.add("hazard", 1500.0, 1500.0, "stones")
    reached, go = threading.Event(), threading.Event()
    real = opening.open_pass

    def slow(*args: object) -> object:
        # The files are in the project by now; the pass is about to be reviewed.
        reached.set()
        go.wait(30.0)
        return real(*args)

    monkeypatch.setattr(opening, "open_pass", slow)
    words = tmp_path / "words.vtt"
    words.write_text("WEBVTT\n\n00:20.000 --> 00:22.000\nright 5 80\n")
    monkeypatch.setattr("mirkle.gui.dialogs.assign_files.IntakeDialog.exec", lambda _: 1)
    choose = opening.take_in_all
    monkeypatch.setattr(opening, "take_in_all", lambda s, intake: choose(s, intake.with_choice(0, "1")))
    window.workspace.opening.take_files([words])
    qtbot.waitUntil(reached.is_set, timeout=30_000)
    taken = stage.pass_now().calls
    window.undo()
    go.set()
    qtbot.waitUntil(lambda: not window.workspace.work.busy, timeout=60_000)
    again = reviewed(window)
    assert again.book.road.additions == []
    assert again.pass_now().calls == taken
    assert [type(d) for d in again.book.history] == [PassChange]


def test_two_words_settled_in_a_row_are_both_settled(open_window: Window, qtbot: QtBot) -> None:
    window = open_window
    window.go_to("Gather")
    held = Held(window)
    box = window.gather.habits.boxes["order"]
    box.setCurrentIndex(box.findData("direction-first"))
    box.activated.emit(box.currentIndex())
    box = window.gather.habits.boxes["sense"]
    box.setCurrentIndex(box.findData("ascending"))
    box.activated.emit(box.currentIndex())
    held.let_go(qtbot)
    crew = reviewed(window).crew
    assert (crew.order, crew.sense) == ("direction-first", "ascending")


def test_another_stage_waits_its_turn_and_what_was_meant_for_the_first_says_so(open_window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    window, stage = open_window, reviewed(open_window)
    other = Path(shutil.copy(stage.project.path, tmp_path / "other.mirkle"))
    held = Held(window)
    window.workspace.opening.open_project(other)
    window.header.pass_wanted.emit(2)
    held.let_go(qtbot)
    assert reviewed(window).project.path == other
    assert "Another pass" in window.gather.fault.text()
    assert "was not done" in window.gather.fault.text()


TYPED = "R5 80\nL5 very long into\nR4 30\n"


def typed(window: Window, qtbot: QtBot) -> None:
    window.type_notes()
    assert window.pages.typing is not None
    window.pages.typing.page.setPlainText(TYPED)
    qtbot.keyClick(window.pages.typing, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)


def test_a_typed_book_is_kept_until_a_stage_holds_it(window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    held = Held(window)
    typed(window, qtbot)
    assert draft.typed_draft() == TYPED, "while it waits"

    def full(*_args: object, **_how: object) -> Project:
        raise UnusableProject("the disk is full", mend="make room")

    with monkeypatch.context() as patch:
        patch.setattr(Project, "create", full)
        held.let_go(qtbot)
    assert "the disk is full" in window.gather.fault.text()
    assert draft.typed_draft() == TYPED
    window.type_notes()
    assert window.pages.typing is not None
    assert window.pages.typing.text == TYPED
    qtbot.keyClick(window.pages.typing, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    qtbot.waitUntil(lambda: not window.workspace.work.busy, timeout=30_000)
    (path,) = data_folder().glob("*.mirkle")
    assert draft.typed_draft() == ""
    assert window.pages.typing is None
    window.close()
    kept = Project.open(path)
    assert [m.content.decode() for m in kept.materials()] == [TYPED]
    kept.close()


def test_a_typed_book_survives_the_window_that_is_closed_before_it_is_used(window: Window, qtbot: QtBot) -> None:
    Held(window).go.set()
    typed(window, qtbot)
    window.close()
    again = Window()
    qtbot.addWidget(again)
    again.type_notes()
    assert again.pages.typing is not None
    assert again.pages.typing.text == TYPED or list(data_folder().glob("*.mirkle"))


def test_commands_at_any_moment_have_an_effect_or_say_why_not(open_window: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    """Whatever is being worked out, and whatever is pressed meanwhile in whatever order."""
    window, chance = open_window, random.Random(4)
    monkeypatch.setattr(PartsDialog, "exec", lambda _: 1)
    said: list[str] = []
    monkeypatch.setattr(window.gather, "tr_fault", said.append)

    def limits() -> Callable[[], bool]:
        start_s = reviewed(window).review.measured.drive.start_s + chance.uniform(0.1, 1.0)
        window.gather.limits_wanted.emit(start_s, None)
        return lambda: overrides_of(window).start_s is not None

    def part() -> Callable[[], bool]:
        first = chance.uniform(0.0, 12000.0)
        window.pages.compare.parts_wanted.emit(Part(first, first + 300.0, f"dust {first:.0f}"))
        return lambda: any(p.reason == f"dust {first:.0f}" for p in overrides_of(window).parts or ())

    def clock() -> Callable[[], bool]:
        window.pages.line_up.clock_wanted.emit(1.25)
        return lambda: overrides_of(window).calls_minus_run_s == 1.25

    def pin() -> Callable[[], bool]:
        stage = reviewed(window)
        tie = chance.choice([t for t in stage.review.lineup.ties if t.bend is not None])
        assert tie.bend is not None
        stage.pin(tie.note, tie.bend.apex_m)
        return lambda: tie.note in {p.note for p in overrides_of(window).pins}

    def decide() -> Callable[[], bool]:
        stage = reviewed(window)
        left = [f for f in stage.findings if f.id not in stage.book.decisions]
        finding = chance.choice(left)
        stage.book.answer(finding, "talk", remark=f"{finding.id}")
        return lambda: any(e.decision and e.decision.remark == finding.id for e in stage.project.entries())

    def hazard() -> Callable[[], bool]:
        words = f"stones {chance.random():.4f}"
        reviewed(window).book.road.add("hazard", 900.0, 900.0, words)
        return lambda: words in {a.words for a in reviewed(window).book.road.additions}

    def day() -> Callable[[], bool]:
        words = f"day {chance.random():.4f}"
        window.gather.about_pass_typed.emit({"kind": "first", "day": words})
        return lambda: any(isinstance(e.decision, PassChange) and e.decision.after.day == words for e in reviewed(window).project.entries())

    def passes() -> Callable[[], bool]:
        window.go_to("Passes")
        return lambda: True

    commands = [limits, part, clock, pin, decide, hazard, day, passes]
    for _ in range(4):
        held = Held(window) if chance.random() < 0.5 else None
        checks = []
        for _ in range(5):
            command = chance.choice(commands)
            checks.append((command.__name__, command()))
            for _ in range(chance.randrange(3)):
                qtbot.wait(1)
        if held is not None:
            held.let_go(qtbot)
        qtbot.waitUntil(lambda: not window.workspace.work.busy, timeout=60_000)
        assert reviewed(window).is_of_today
        assert [name for name, happened in checks if not happened()] == [], said
    assert replace(reviewed(window).overrides) == overrides_of(window)
