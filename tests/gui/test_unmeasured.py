"""A stretch that was not measured is hatched wherever the road is drawn, in the real window."""

from __future__ import annotations

import gzip
from pathlib import Path

import numpy as np
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from mirkle.files import demo_files
from mirkle.files.recordings.readers import parse_run
from mirkle.gui.window import Window
from mirkle.session.pairing_edits import ties_of


def holed_run() -> bytes:
    """The demo's run as positions once a second, half a minute of them missing."""
    whole = parse_run(demo_files.demo_file(demo_files.MORNING), name="run")
    lat, lon = whole.channels["lat_rad"], whole.channels["lon_rad"]
    at = np.arange(lat.time_s[0], lat.time_s[-1], 1.0)
    at = at[(at < 200.0) | (at > 230.0)]
    places = (np.degrees(np.interp(at, c.time_s, c.value)) for c in (lat, lon))
    rows = "".join(f"{t:.1f},{a:.7f},{b:.7f}\n" for t, a, b in zip(at, *places, strict=True))
    return f"time_s,lat_deg,lon_deg\n{rows}".encode()


def ink(widget: QWidget, x: int) -> int:
    """How many pixels of a column are dark."""
    image = widget.grab().toImage()
    return sum(image.pixelColor(x, y).lightness() < 60 for y in range(60, image.height() - 10))


def test_it_is_hatched_and_the_road_ends_there(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    (tmp_path / "run.csv").write_bytes(holed_run())
    (tmp_path / "notes.txt").write_bytes(demo_files.demo_file(demo_files.NOTES))
    with qtbot.waitSignal(window.opened, timeout=30_000):
        window.workspace.opening.take_files([tmp_path / "run.csv", tmp_path / "notes.txt"])
    assert window.stage is not None
    (stretch,) = window.stage.review.measured.unmeasured
    middle_m = 0.5 * (stretch.from_m + stretch.to_m)
    assert window.pages.compare is not None
    road = window.pages.compare.road
    dark = {}
    for place_m in (middle_m, middle_m + 3000.0):
        road.look_at(place_m)
        QApplication.processEvents()
        dark[place_m] = ink(road, road.width() // 2)
    # The line in the middle of the road is drawn where there is a road.
    assert dark[middle_m] < 0.3 * dark[middle_m + 3000.0]
    hatched = road.grab().toImage()
    road.look_at(middle_m)
    QApplication.processEvents()
    assert road.grab().toImage() != hatched
    window.go_to("Gather")
    QApplication.processEvents()
    lost = [t.note for t in ties_of(window.stage) if t.words == "its road was not measured"]
    places = {t.note: t.bend.apex_m for t in window.stage.review.lineup.ties if t.bend is not None}
    assert lost
    assert all(max(m for n, m in places.items() if n < note) < stretch.to_m for note in lost)
    assert all(min(m for n, m in places.items() if n > note) > stretch.from_m for note in lost)
    assert any("was not measured" in label.text() for label in window.gather.findChildren(type(window.gather.heading)))


def test_which_of_several_drives_is_the_stage_is_asked_before_anything_is_judged(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    """A recording of a whole morning: the stage, a stop, and a part of it once more."""
    head, *lines = gzip.decompress(demo_files.demo_file(demo_files.MORNING)).decode().splitlines()
    stamped = [(float(line.split(",", 1)[0]), line.split(",", 1)[1]) for line in lines]
    again = [f"{t + 1000.0:.3f},{rest}" for t, rest in stamped if t < 260.0]
    (tmp_path / "run.csv").write_text("\n".join([head, *lines, *again]) + "\n")
    (tmp_path / "notes.txt").write_bytes(demo_files.demo_file(demo_files.NOTES))
    with qtbot.waitSignal(window.opened, timeout=30_000):
        window.workspace.opening.take_files([tmp_path / "run.csv", tmp_path / "notes.txt"])
    assert window.stack.currentWidget() is window.gather
    qtbot.waitUntil(lambda: not window.workspace.work.busy)
    first, second = window.gather.drives.findChildren(QPushButton)
    assert first.isChecked()
    assert not second.isChecked()
    with qtbot.waitSignal(window.opened, timeout=30_000):
        qtbot.mouseClick(second, Qt.MouseButton.LeftButton)
    assert window.stage is not None
    assert window.stage.review.measured.drive.start_s > 1000.0
    assert [b.isChecked() for b in window.gather.drives.findChildren(QPushButton)][-2:] == [False, True]


def test_a_book_of_another_stage_is_said_large_and_nothing_is_judged(window: Window, qtbot: QtBot, tmp_path: Path) -> None:
    """The demo's notes with left and right swapped: the sentence stands over every view, the pairing is there to look at."""
    swapped = str.maketrans("LR", "RL")
    (tmp_path / "run.csv.gz").write_bytes(demo_files.demo_file(demo_files.MORNING))
    (tmp_path / "notes.txt").write_text(demo_files.demo_file(demo_files.NOTES).decode().translate(swapped))
    with qtbot.waitSignal(window.opened, timeout=30_000):
        window.workspace.opening.take_files([tmp_path / "run.csv.gz", tmp_path / "notes.txt"])
    assert window.stage is not None
    assert window.stack.currentWidget() is window.pages.line_up
    for place in ("Gather", "Compare", "Book"):
        window.go_to(place)
        assert window.misfit.isVisible()
    assert "left and right swapped" in window.misfit.text()
    assert not window.stage.findings
    assert window.header.dangers.text() == ""
    qtbot.waitUntil(lambda: not window.workspace.work.busy)
    with qtbot.waitSignal(window.opened, timeout=30_000):
        window.workspace.opening.open_demo()
    assert not window.misfit.isVisible()
