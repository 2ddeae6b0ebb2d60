"""Every screen in both languages, at three sizes and three factors: no text is cut, and none lies on another."""

from __future__ import annotations

import os
import subprocess
import sys
from collections.abc import Iterator
from itertools import combinations
from pathlib import Path

import pytest
from PyQt6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot

from mirkle.gui.dialogs.cautions_and_keys import Cautions, Keys
from mirkle.gui.pages.settings import SettingsDialog
from mirkle.gui.translation import speak
from mirkle.gui.window import Window
from tests.conftest import MORNING, NOTES
from tests.gui.conftest import settled
from tests.gui.painted_text import texts_of
from tests.gui.test_whole_texts import wordy  # noqa: F401

SIZES = [(1024, 700), (1280, 800), (1920, 1080)]
PLACES = ("Gather", "Line up", "Book", "Rehearse")


def faults_of(window: QWidget) -> list[str]:
    """What is cut on a window, and what lies on something else."""
    settled()
    texts = [t for t in texts_of(window) if t.text.strip()]
    cut = [f"{t.text!r} is cut in {type(t.widget).__name__}" for t in texts if t.is_cut]
    return cut + [f"{a.text!r} lies on {b.text!r} in {type(a.widget).__name__}" for a, b in combinations(texts, 2) if a.covers(b)]


def screens(window: Window) -> Iterator[str]:
    """Goes through every place of an open stage, and says where it is."""
    stage, compare = window.reviewed, window.pages.compare
    assert stage is not None
    assert compare is not None
    stage.book.road.add("hazard", stage.findings[0].from_m - 60.0, stage.findings[0].from_m - 60.0, "stones inside on the exit")
    stage.book.road.add(
        "condition", stage.findings[1].from_m - 90.0, stage.findings[1].to_m + 40.0, "ice in the shade, more than this morning"
    )
    # One of each kind: what is painted of two of a kind differs in its figures.
    for finding in {f.kind: f for f in reversed(stage.findings)}.values():
        stage.choose(finding)
        yield f"Compare, {finding.id}"
    for finding in stage.findings[:6]:
        stage.choose(finding)
        compare.answer("mark")
        compare.answer("mark")
    yield "Compare, marked"
    compare.middle.show_view("plan")
    yield "the map"
    compare.plan.zoom(9)
    compare.plan.show_chosen()
    yield "the map, near"
    compare.middle.show_view("road")
    for place in PLACES:
        window.go_to(place)
        yield place


def walked(window: Window) -> dict[str, list[str]]:
    return {name: found for name in screens(window) if (found := faults_of(window))}


@pytest.fixture(params=["en", "pt"])
def language(request: pytest.FixtureRequest) -> Iterator[str]:
    speak(request.param)
    yield request.param
    speak("en")


@pytest.mark.parametrize("size", SIZES, ids=str)
def test_nothing_is_cut_and_nothing_lies_on_anything(language: str, size: tuple[int, int], request: pytest.FixtureRequest) -> None:  # noqa: ARG001
    window = request.getfixturevalue("open_window")
    window.resize(*size)
    assert walked(window) == {}
    assert (window.width(), window.height()) == size, "no page makes the window outgrow its screen"


def test_files_that_come_make_no_window_wider(language: str, window: Window, qtbot: QtBot, tmp_path: Path) -> None:  # noqa: ARG001
    """Buttons come and go on the first page while the files are read."""
    window.resize(*SIZES[0])
    paths = [tmp_path / MORNING.name, tmp_path / NOTES.name]
    for path, material in zip(paths, (MORNING, NOTES), strict=True):
        path.write_bytes(material.content)
    for path in paths:
        window.workspace.opening.take_files([path])
        qtbot.waitUntil(lambda: not window.workspace.work.busy, timeout=30_000)
    assert window.reviewed is not None
    assert walked(window) == {}
    assert (window.width(), window.height()) == SIZES[0]


def test_the_passes_are_laid_out_as_well(language: str, open_window: Window, qtbot: QtBot) -> None:  # noqa: ARG001
    open_window.resize(*SIZES[0])
    open_window.go_to("Passes")
    followed = open_window.pages.followed
    assert followed is not None
    qtbot.waitUntil(lambda: bool(followed.steps), timeout=30_000)
    for row in range(followed.list.count()):
        followed.list.setCurrentRow(row)
        assert faults_of(open_window) == []


def test_first_start_and_dialogs(language: str, window: Window) -> None:  # noqa: ARG001
    window.resize(*SIZES[0])
    assert faults_of(window) == []
    for dialog in (Cautions(window), Keys(window.theme, window), SettingsDialog(window)):
        dialog.show()
        assert faults_of(dialog) == []
        dialog.close()


def test_wordy_notes_are_whole_on_every_screen(wordy, qtbot: QtBot) -> None:  # type: ignore[no-untyped-def]  # noqa: F811
    window = Window()
    qtbot.addWidget(window)
    window.resize(*SIZES[0])
    window.show()
    wordy.project.close()
    with qtbot.waitSignal(window.opened, timeout=20_000):
        window.workspace.opening.open_project(wordy.project.path)
    qtbot.waitUntil(lambda: not window.workspace.work.busy)
    assert walked(window) == {}


@pytest.mark.parametrize("factor", ["1.5", "2"])
def test_a_screen_with_larger_points_shows_the_same(factor: str, tmp_path: Path) -> None:
    """A factor holds for a whole program: the walk runs in one of its own."""
    places = {"XDG_DATA_HOME": str(tmp_path), "XDG_CONFIG_HOME": str(tmp_path), "QT_QPA_PLATFORM": "offscreen"}
    ran = subprocess.run(
        [sys.executable, "-m", "tests.gui.test_every_screen"],
        env=os.environ | places | {"QT_SCALE_FACTOR": factor, "LANGUAGE": "pt"},
        cwd=Path(__file__).parents[2],
        capture_output=True,
        text=True,
        check=False,
    )
    assert (ran.returncode, ran.stdout) == (0, "{}\n"), ran.stderr[-2000:]


if __name__ == "__main__":
    from mirkle.gui.app import make_app
    from mirkle.gui.screens import _wait

    app = make_app()
    shown = Window()
    shown.resize(*SIZES[0])
    shown.show()
    shown.workspace.opening.open_demo()
    while shown.stage is None or shown.workspace.work.busy:
        _wait(20)
    print(walked(shown))
    shown.close()
