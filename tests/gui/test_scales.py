"""The pictures of a finding on a grade agree with its sentence, whatever a crew grades by: drawing, road and the dots of Line up."""

from __future__ import annotations

from pathlib import Path

import pytest
from PyQt6.QtGui import QColor, QImage
from PyQt6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot

from mirkle.files import demo_files
from mirkle.gui.theme import Theme
from mirkle.gui.views.scale import OWN_SCALE
from mirkle.gui.window import Window
from tests.gui.conftest import settled
from tests.regraded import as_written, book_of


def image_of(widget: QWidget) -> QImage:
    return widget.grab().toImage()


def middle_of(image: QImage, colour: QColor, rows: range) -> float:
    """Pixels across of the middle of what is painted in a colour in some rows."""
    found = [x for y in rows for x in range(image.width()) if image.pixelColor(x, y) == colour]
    assert found
    return 0.5 * (min(found) + max(found))


def edge_of_road(image: QImage, y: int, step: int, theme: Theme) -> int:
    """Pixels across from the middle line outwards to where nothing but the ground is painted."""
    ground = {theme.colour("desk").rgb(), theme.colour("rule").rgb()}
    x = image.width() // 2 + 4 * step
    while image.pixel(x, y) not in ground:
        x += step
    return x


@pytest.mark.parametrize("crew", ["angle", "wheel", "speed"])
def test_drawing_road_and_dots_show_the_grade_that_the_sentence_names(window: Window, qtbot: QtBot, tmp_path: Path, crew: str) -> None:
    notes, run = tmp_path / "notes.txt", tmp_path / demo_files.MORNING
    notes.write_bytes(book_of(as_written(), crew))
    run.write_bytes(demo_files.demo_file(demo_files.MORNING))
    with qtbot.waitSignal(window.opened, timeout=30_000):
        window.workspace.opening.take_files([run, notes])
    stage = window.stage
    assert stage is not None
    window.go_to("Line up")
    settled()
    scale = window.pages.line_up.scale
    assert scale.axis == OWN_SCALE
    window.go_to("Compare")
    grades = [g for g in stage.review.school.grades if g != "flat"]
    checked = 0
    for finding in [f for f in stage.review.findings if f.kind == "grade-tighter"][:6]:
        stage.choose(finding)
        settled()
        named = grades.index(str(dict(finding.because[0].named)["met"]))
        bar = window.pages.compare.evidence.drawings[0]
        image = image_of(bar)
        colour = bar.theme.colour("danger" if finding.severity == "danger" else "span")
        # The triangle under the boxes, between their lower edge and its words.
        at = middle_of(image, colour, range(65, 72))
        assert int(at / image.width() * len(grades)) == named
        # The dot stands nearest to the column of that grade.
        ticks = {name: scale.x_of(place) for name, place in zip(grades, range(-1, len(grades)), strict=False)}
        dot = scale.place_of(finding.note).x()
        assert min(ticks, key=lambda name: abs(ticks[name] - dot)) == grades[named]
        # The road reaches out to it, and no further.
        road = window.pages.compare.road
        bend = stage.review.lineup.bend_of(finding.note)
        assert bend is not None
        edge = edge_of_road(image_of(road), int(road.y_of(bend.apex_m)), -bend.side, road.theme)
        own_side = [(x, name) for x, name in road.columns() if (x - road.width() / 2) * -bend.side > 0]
        nearest = min(own_side, key=lambda column: abs(column[0] - edge))[1]
        assert {"hp": "hairpin", "sq": "square"}.get(nearest, nearest) == grades[named]
        checked += 1
    assert checked >= 2
