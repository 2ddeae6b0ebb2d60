"""Long work: the window answers while a long recording comes in, stops when asked, and fits a doubled screen."""

from __future__ import annotations

import gc
import os
import shutil
import subprocess
import sys
import threading
from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import Qt, QTimer
from PyQt6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot

from mirkle.files.project.project import Project
from mirkle.gui.pages import gather
from mirkle.gui.window import Window
from mirkle.gui.worker import Job
from mirkle.session import recent_stages
from mirkle.session.paths import data_folder
from mirkle.session.proof import proofs_of
from mirkle.synthetic.car import drive
from mirkle.synthetic.crew import write_book
from mirkle.synthetic.recorder import Recorder, record
from mirkle.synthetic.road import make_road

# So often has the event loop its turn while a long recording comes in, at least; some hundred times where nothing else runs.
LEAST_TURNS = 40


@pytest.fixture(scope="module")
def long_stage(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """20 km at 100 Hz with its notes."""
    folder = tmp_path_factory.mktemp("long")
    rng = np.random.default_rng(38)
    road = make_road(rng, length_m=20_000.0)
    run = drive(rng, road, pace=1.0, stands_s=20.0)
    (folder / "notes.txt").write_text(write_book(rng, road).lines())
    (folder / "run.csv").write_text(record(rng, run, Recorder(position_hz=20.0, inertial_hz=100.0)))
    return folder


def test_what_belongs_to_the_interface_is_never_taken_away_beside_it(qtbot: QtBot) -> None:
    """A widget in a cycle of references that is collected by the working thread would end the program."""
    taken_by: list[threading.Thread] = []

    class Widget(QWidget):
        def __del__(self) -> None:
            taken_by.append(threading.current_thread())

    def in_a_cycle() -> None:
        widget = Widget()
        widget.itself = widget  # type: ignore[attr-defined]

    def work(_progress: object) -> int:
        gc.set_threshold(50, 2, 2)
        return sum(len([[] for _ in range(100)]) for _ in range(300))

    gc.collect()
    before = gc.get_threshold()
    job = Job(work)
    in_a_cycle()
    try:
        with qtbot.waitSignal(job.finished):
            job.begin()
        qtbot.waitUntil(gc.isenabled)
        gc.collect()
    finally:
        gc.set_threshold(*before)
    assert taken_by == [threading.main_thread()]


def test_the_window_answers_while_a_long_recording_comes_in(window: Window, qtbot: QtBot, long_stage: Path) -> None:
    turns, beat = [0], QTimer()
    beat.setInterval(10)
    beat.timeout.connect(lambda: turns.append(len(turns)))
    beat.start()
    told: list[str] = []
    with qtbot.waitSignal(window.opened, timeout=60_000):
        window.workspace.opening.take_files([long_stage / "notes.txt", long_stage / "run.csv"])
        assert window.workspace.work.busy
        window.workspace.work.progressed.connect(lambda words, _share: told.append(words))
    beat.stop()
    assert len(set(told)) >= 3, "it says in words what it does"
    # However busy the machine: it would have a handful of turns if any of the work were the window's, or held the interpreter.
    assert len(turns) > LEAST_TURNS
    assert window.stage is not None
    assert window.stage.review.profile.length_m > 20_000


def test_stopped_half_way_nothing_is_left_behind(window: Window, qtbot: QtBot, long_stage: Path) -> None:
    window.workspace.opening.take_files([long_stage / "notes.txt", long_stage / "run.csv"])
    qtbot.waitUntil(lambda: window.status.busy and "Finding" in window.status.doing.text(), timeout=30_000)
    window.status.stop.click()
    qtbot.waitUntil(lambda: not window.workspace.work.busy, timeout=30_000)
    assert window.stage is None
    assert not list(data_folder().glob("*.mirkle"))


def test_gather_is_filled_when_it_is_looked_at(
    window: Window, kept_demo: Path, tmp_path: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """It stands on the screen when a stage opens, and hides behind Compare in the same moment; when another one opens, the same."""
    read: list[object] = []
    monkeypatch.setattr(gather, "proofs_of", lambda inputs: read.append(inputs) or proofs_of(inputs))
    assert window.gather.isVisible()
    for path in (kept_demo, Path(shutil.copy(kept_demo, tmp_path / "other.mirkle"))):
        with qtbot.waitSignal(window.opened):
            window.workspace.opening.open_project(path)
        qtbot.waitUntil(lambda: not window.workspace.work.busy)
        assert not window.gather.isVisible()
        assert read == []
    for _ in range(2):
        window.go_to("Gather")
        window.go_to("Compare")
    assert len(read) == 1


def test_a_stage_of_the_shelf_is_opened_by_enter(window: Window, kept_demo: Path, qtbot: QtBot) -> None:
    recent_stages.remember(kept_demo)
    window.gather.show_empty([])
    assert window.gather.shelf.list.count() == 1
    with qtbot.waitSignal(window.opened, timeout=10_000):
        qtbot.keyClick(window.gather.shelf.list, Qt.Key.Key_Return)
    assert window.stage is not None
    assert window.stage.project.path == kept_demo


DOUBLED = """
import sys
from pathlib import Path
from PyQt6.QtCore import QTimer
from PyQt6.QtTest import QTest
from mirkle.gui.app import make_app
from mirkle.gui.window import Window
from mirkle.gui.worker import Job
app = make_app()
window = Window()
window.resize(1280, 800)
window.show()
window.workspace.opening.open_project(Path(sys.argv[1]))
while window.stage is None:
    QTest.qWait(20)
for place in ("Gather", "Line up", "Compare", "Book"):
    window.go_to(place)
    QTest.qWait(20)
    picture = window.grab().toImage()
    print(place, picture.devicePixelRatio(), picture.width(), picture.height(), window.minimumSizeHint().width())
window.close()
"""


def test_every_view_is_painted_at_twice_the_scale(kept_demo: Path) -> None:
    """A 2560x1600 screen at 200 % is 1280x800 to the window; pictures come out at twice the pixels."""
    assert Project.open(kept_demo).name == "Slatehook"
    environment = os.environ | {"QT_SCALE_FACTOR": "2", "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run([sys.executable, "-c", DOUBLED, str(kept_demo)], capture_output=True, text=True, env=environment, check=True)
    rows = [line.rsplit(" ", 4) for line in done.stdout.splitlines() if line.count(" ") >= 4]
    assert [r[0] for r in rows] == ["Gather", "Line up", "Compare", "Book"]
    for _, ratio, width, height, least in rows:
        assert float(ratio) == 2.0
        assert (int(width), int(height)) == (2560, 1600)
        assert int(least) <= 1280
