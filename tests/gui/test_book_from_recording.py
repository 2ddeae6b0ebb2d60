"""A book begun from a slow pass: blanks to fill, and only what is filled is a note."""

from __future__ import annotations

from pathlib import Path

from pytestqt.qtbot import QtBot

from mirkle.core.lineup.blanks import BLANK, bends_of, blank_book
from mirkle.core.review import Review
from mirkle.files.notes.languages import shipped_languages
from mirkle.gui.window import Window
from tests.conftest import MORNING


def test_blanks_are_filled_and_become_a_reviewed_book(window: Window, tmp_path: Path, qtbot: QtBot, demo_review: Review) -> None:
    assert not window.gather.blanks_button.isVisible()
    run = tmp_path / MORNING.name
    run.write_bytes(MORNING.content)
    window.workspace.opening.take_files([run])
    qtbot.waitUntil(lambda: window.gather.blanks_button.isVisible() and not window.workspace.work.busy, timeout=20_000)
    window.gather.blanks_button.click()
    qtbot.waitUntil(lambda: window.pages.typing is not None and BLANK in window.pages.typing.text, timeout=20_000)
    typing = window.pages.typing
    assert typing is not None
    lines = [line for line in typing.text.split("\n") if BLANK in line]
    assert len(lines) == len(bends_of(demo_review.measured.road))
    assert f"{len(lines)} blanks left" in typing.count.text(), "a blank is no note"
    assert "not understood" not in typing.count.text()
    # Whoever goes back and begins again goes on with what is there.
    typing.page.setPlainText(typing.text.replace(BLANK, "3", 1))
    begun = typing.text
    typing.keep()
    typing.given_up.emit()
    window.gather.blanks_button.click()
    qtbot.waitUntil(lambda: window.stack.currentWidget() is window.pages.typing and not window.workspace.work.busy, timeout=20_000)
    assert window.pages.typing is not None
    typing = window.pages.typing
    assert typing.text == begun
    typing.page.setPlainText(begun.replace(" 3 ", f" {BLANK} ", 1))
    # The crew writes its own grades for the first forty, and leaves the rest.
    filled, count = [], 0
    for line in typing.text.split("\n"):
        if BLANK in line and count < 40:
            count += 1
            line = line.replace(BLANK, line.rpartition("~")[2][0], 1)
        filled.append(line)
    typing.page.setPlainText("\n".join(filled))
    typing.finish()
    qtbot.waitUntil(lambda: window.stage is not None and not window.workspace.work.busy, timeout=40_000)
    assert window.reviewed is not None
    corners = [n for n in window.reviewed.notes if n.is_corner]
    assert len(corners) == 40
    assert all(n.grade is not None for n in corners)
    # They are where the recording has them.
    paired = [t for t in window.reviewed.review.lineup.ties if t.bend is not None]
    assert len(paired) >= 38


def test_the_blanks_say_what_the_road_is_like(demo_review: Review) -> None:
    """Side and place of nearly every corner of the demo's book, its grade within one for most, though nothing is known of the crew."""
    bends = bends_of(demo_review.measured.road)
    near = off = 0
    for tie in demo_review.lineup.ties:
        if tie.bend is None or tie.sure < 0.9 or tie.bend.turn_deg < 20:
            continue
        off += 1
        near += any(b.side == tie.bend.side and abs(b.apex_m - tie.bend.apex_m) < 15.0 for b in bends)
    assert near >= 0.9 * off


def test_every_crest_and_dip_is_said_once_where_it_is(demo_review: Review) -> None:
    measured = demo_review.measured
    assert measured.vertical
    language = next(la for la in shipped_languages() if la.code == "en")
    book = blank_book(measured.road, measured.vertical, language)
    remarks = [line.partition("//")[2] for line in book.split("\n") if BLANK in line]
    said = [part.strip().split()[0] for remark in remarks for part in remark.split(",")[4:]]
    words = {t.key: t.said[0] for t in language.terms if t.kind == "feature"}
    assert sorted(said) == sorted(words[f.kind].split()[0] for f in measured.vertical if f.at_m < measured.road.profile.length_m)
    bends = bends_of(measured.road)
    for feature in measured.vertical:
        if all(abs(feature.at_m - b.apex_m) > b.length_m for b in bends):
            assert any(f"{words[feature.kind]} {feature.at_m / 1000:.2f} km" in remark for remark in remarks)
