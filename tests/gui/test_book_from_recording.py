"""A book begun from a slow pass: blanks to fill, and only what is filled is a note."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from pytestqt.qtbot import QtBot

from mirkle.core.errors import UnusableNotes
from mirkle.core.lineup.blanks import BLANK, bends_of, blank_book
from mirkle.core.review import Review
from mirkle.files.notes.languages import shipped_languages
from mirkle.gui.window import Window
from mirkle.session.crew_records import scale_now
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
    book = blank_book(measured.road, measured.vertical, language, scale_now()).text
    remarks = [line.partition("//")[2] for line in book.split("\n") if BLANK in line]
    said = [part.strip().split()[0] for remark in remarks for part in remark.split(",")[4:]]
    words = {t.key: t.said[0] for t in language.terms if t.kind == "feature"}
    assert sorted(said) == sorted(words[f.kind].split()[0] for f in measured.vertical if f.at_m < measured.road.profile.length_m)
    bends = bends_of(measured.road)
    for feature in measured.vertical:
        if all(abs(feature.at_m - b.apex_m) > b.length_m for b in bends):
            assert any(f"{words[feature.kind]} {feature.at_m / 1000:.2f} km" in remark for remark in remarks)


def test_the_rest_is_graded_by_the_scale_of_what_was_filled_in(demo_review: Review) -> None:
    """Eight bends graded as this crew grades them; the others come nearer to what it writes than on the scale of crews at large."""
    measured = demo_review.measured
    language = next(la for la in shipped_languages() if la.code == "en")
    book = blank_book(measured.road, measured.vertical, language, scale_now())
    written = {}
    for number, bend in enumerate(book.bends):
        near = [t for t in demo_review.lineup.ties if t.bend is not None and t.sure > 0.9 and abs(t.bend.apex_m - bend.apex_m) < 5.0]
        grade = demo_review.notes[near[0].note].grade if near else None
        if grade is not None and grade.isdigit():
            written[number] = int(grade)

    def off(text: str, skipped: set[int]) -> float:
        lines = [line for line in text.split("\n") if "//" in line]
        said = {n: int(lines[n].partition("~")[2].split(",")[0]) for n in written if n not in skipped}
        return float(np.mean([abs(said[n] - written[n]) for n in said]))

    filled = set(list(written)[3:60:7])
    lines = [line for line in book.text.split("\n") if "//" in line]
    text = "\n".join(line.replace(BLANK, str(written[n]), 1) if n in filled else line for n, line in enumerate(lines))
    assert book.known_in(text).keys() == filled
    graded = book.graded_by(text)
    assert off(graded, filled) <= 0.5
    assert off(graded, filled) < off(text, filled)
    # Nothing but what a blank would be called is changed.
    assert [line.partition("~")[0] for line in graded.split("\n")] == [line.partition("~")[0] for line in text.split("\n")]
    with pytest.raises(UnusableNotes, match="0 bends are graded"):
        book.graded_by(book.text)
    # A crew whose grades are one easier all over.
    easier = "\n".join(line.replace(BLANK, str(min(written[n] + 1, 6)), 1) if n in filled else line for n, line in enumerate(lines))
    less = off(book.graded_by(easier), filled)
    assert less > off(graded, filled) + 0.3


def test_blanks_are_filled_by_keys(window: Window, qtbot: QtBot, demo_review: Review) -> None:
    window.type_notes()
    typing = window.pages.typing
    assert typing is not None
    measured = demo_review.measured
    language = next(la for la in shipped_languages() if la.code == "en")
    typing.add_blanks(blank_book(measured.road, measured.vertical, language, scale_now()))
    lines = typing.text.split("\n")
    for grade in "43512":
        qtbot.keyClicks(typing.page, grade)
        qtbot.keyClick(typing.page, Qt.Key.Key_B, Qt.KeyboardModifier.ControlModifier)
    now = typing.text.split("\n")
    changed = [(a, b) for a, b in zip(lines, now, strict=True) if a != b]
    assert [b for _, b in changed] == [a.replace(BLANK, grade, 1) for (a, _), grade in zip(changed, "43512", strict=True)]
    assert [line.is_blank for line in typing.lines[1:6]] == [False] * 5
    qtbot.keyClick(typing.page, Qt.Key.Key_G, Qt.KeyboardModifier.ControlModifier)
    assert typing.said.text() == ""
    assert typing.text.split("\n")[1:6] == now[1:6], "what is written stays"
    # Beginning again goes on with what is there, whatever the rest might be called by now.
    graded = typing.text
    typing.add_blanks(blank_book(measured.road, measured.vertical, language, scale_now()))
    assert typing.text == graded
