"""Line up with call times from the sound: what is worth listening to, the keys, and a call dragged to another moment."""

from __future__ import annotations

import shutil
from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QInputDialog
from pytestqt.qtbot import QtBot

from mirkle.core.review import Review
from mirkle.files import demo_files
from mirkle.files.audio.media import shipped_reference
from mirkle.files.project.project import Project, SourceFile
from mirkle.files.speech.heard_json import heard_json
from mirkle.gui.window import Window
from mirkle.session.listening import heard_of
from mirkle.session.reviewed_pass import ReviewedPass
from tests.conftest import MORNING, NOTES
from tests.heard import heard_by


@pytest.fixture(scope="module")
def heard_demo(demo_review: Review, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A stage with the demo's sound, and calls that were found in it, reviewed."""
    calls = SourceFile("heard", "slatehook-morning-heard.json", heard_json(heard_by(demo_review)))
    files = [MORNING, NOTES, calls, shipped_reference(demo_files.SOUND)]
    project = Project.create(tmp_path_factory.mktemp("heard") / "heard.mirkle", files, name="Slatehook")
    ReviewedPass.of_project(project)
    project.close()
    return project.path


@pytest.fixture
def listening(window: Window, heard_demo: Path, tmp_path: Path, qtbot: QtBot) -> Window:
    """That stage in Line up."""
    path = Path(shutil.copy(heard_demo, tmp_path))
    with qtbot.waitSignal(window.opened, timeout=20_000):
        window.workspace.opening.open_project(path)
    qtbot.waitUntil(lambda: not window.workspace.work.busy)
    window.go_to("Line up")
    return window


def test_moments_stand_in_order_and_keys_go_through_them(listening: Window, qtbot: QtBot) -> None:
    line_up = listening.pages.line_up
    assert line_up is not None
    view = line_up.listen
    assert view.isVisible()
    assert [i.kind for i in view.items] == ["late", "not-heard", "other", "unsure"]
    assert "perhaps late, by 1.7 s" in view.list.item(0).text()
    assert "141 of 142 calls found, 140 for sure (solid" in view.hint.text()
    with qtbot.waitSignal(view.hear_wanted) as asked:
        qtbot.keyClick(line_up, Qt.Key.Key_Space)
    assert asked.args[0] == pytest.approx(view.items[0].from_s - 2.0)
    for _ in range(3):
        qtbot.keyClick(line_up, Qt.Key.Key_L)
    assert view.item is not None
    assert (view.item.note, view.item.kind) == (50, "unsure")
    qtbot.keyClick(line_up, Qt.Key.Key_L)
    assert view.item.kind == "late", "round and round"


def test_a_call_taken_for_right_is_sure_and_undone(listening: Window, qtbot: QtBot) -> None:
    line_up, stage = listening.pages.line_up, listening.stage
    assert line_up is not None
    assert stage is not None
    for _ in range(3):
        qtbot.keyClick(line_up, Qt.Key.Key_L)
    qtbot.keyClick(line_up, Qt.Key.Key_A)

    def settled() -> bool:
        heard = heard_of(listening.stage) if listening.stage is not None else None
        return not listening.workspace.work.busy and heard is not None and 50 in heard.by_hand

    qtbot.waitUntil(settled, timeout=30_000)
    assert listening.header.place == "Line up"
    assert listening.pages.line_up is not None
    assert 50 not in {i.note for i in listening.pages.line_up.listen.items if i.kind == "unsure"}
    listening.undo()
    qtbot.waitUntil(lambda: not listening.workspace.work.busy and not (heard_of(listening.stage) or heard_by).by_hand, timeout=30_000)  # type: ignore[union-attr,arg-type]


def test_what_is_said_there_is_written_down(listening: Window, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(QInputDialog, "getText", lambda *_: ("that opened", True))
    assert listening.pages.line_up is not None
    for _ in range(2):
        qtbot.keyClick(listening.pages.line_up, Qt.Key.Key_L)
    qtbot.keyClick(listening.pages.line_up, Qt.Key.Key_R)
    qtbot.waitUntil(
        lambda: not listening.workspace.work.busy and listening.stage is not None and len(listening.stage.review.remarks) == 1,
        timeout=30_000,
    )
    assert listening.pages.line_up is not None
    assert "other" not in {i.kind for i in listening.pages.line_up.listen.items}


def test_a_call_is_dragged_to_another_moment(listening: Window, qtbot: QtBot) -> None:
    line_up, stage = listening.pages.line_up, listening.stage
    assert line_up is not None
    assert stage is not None
    stage.choose_note(20)
    ties = line_up.ties
    qtbot.waitUntil(lambda: ties.isVisible())
    at_m = ties.called_m[20]
    assert at_m is not None
    begin = QPoint(70, round(ties.y_of(at_m)))
    wanted_m = at_m + 20.0
    with qtbot.waitSignal(line_up.heard_wanted) as asked:
        qtbot.mousePress(ties, Qt.MouseButton.LeftButton, pos=begin)
        end = QPoint(70, round(ties.y_of(wanted_m)))
        qtbot.mouseMove(ties, end)
        qtbot.mouseRelease(ties, Qt.MouseButton.LeftButton, pos=end)
    assert asked.args
    profile, clock = stage.review.profile, stage.review.clock
    assert clock is not None
    expected = clock.calls_s(profile.seconds_at(wanted_m))
    qtbot.waitUntil(
        lambda: not listening.workspace.work.busy and 20 in (heard_of(listening.stage).by_hand if heard_of(listening.stage) else {}),
        timeout=30_000,
    )  # type: ignore[arg-type,union-attr]
    assert heard_of(listening.stage).by_hand[20] == pytest.approx(expected, abs=0.3)  # type: ignore[arg-type,union-attr]


def test_where_there_is_nothing_to_listen_to_it_says_so(open_window: Window, qtbot: QtBot) -> None:
    """The afternoon has timed text that knows its times, and no sound."""
    with qtbot.waitSignal(open_window.opened, timeout=60_000):
        open_window.workspace.change_pass(2)
    qtbot.waitUntil(lambda: not open_window.workspace.work.busy)
    assert open_window.pages.line_up is not None
    assert open_window.pages.line_up.listen.isHidden(), "its calls come from no sound"
    open_window.workspace.listen()
    assert "timed text that knows its times" in open_window.gather.fault.text()
