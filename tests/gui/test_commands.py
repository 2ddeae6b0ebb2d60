"""Every key is a command's and every command does something: in the real window, on each page."""

from __future__ import annotations

import importlib
import inspect
import pkgutil
from collections import Counter
from collections.abc import Iterator
from dataclasses import replace
from datetime import datetime
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QApplication, QDialog, QFileDialog, QInputDialog, QListWidget, QWidget
from pytestqt.qtbot import QtBot

import mirkle.gui
from mirkle.core.rally.itinerary import Item
from mirkle.gui import keys
from mirkle.gui.commands import COMMANDS, PAGES, Command
from mirkle.gui.dialogs import show
from mirkle.gui.keys import CommandWidget, FieldKeys
from mirkle.gui.window import Window
from mirkle.session import recent_stages
from tests.gui.conftest import settled

# What only hands its keys on to a page.
HANDS_ON = {"PageView", "OwnWindow", "CommandWidget"}


def test_no_key_means_two_things_in_one_place() -> None:
    used = Counter((c.place, key) for c in COMMANDS for key in c.keys)
    assert [key for key, count in used.items() if count > 1] == []
    assert all(QKeySequence(key).toString(QKeySequence.SequenceFormat.PortableText) == key for _, key in used)
    # A key of the whole window never reaches a page.
    window = {key for place, key in used if place == "window"}
    assert not window & {key for place, key in used if place != "window"}
    shown = Counter(c.name for c in COMMANDS if c.in_menu)
    assert [name for name, count in shown.items() if count > 1] == []


# What a key does wherever it does anything: the first words of the commands.
THE_SAME = {
    "K": ("Keep", "As called"),
    "T": ("Talk",),
    "E": ("Edit", "Change", "Correct"),
    "H": ("Add a hazard", "A hazard"),
    "S": ("Half speed", "Playback speed"),
    "Space": ("Play", "Hear", "Call now"),
    "Esc": ("Leave", "Close"),
}


def test_a_key_means_the_same_on_every_page() -> None:
    for key, words in THE_SAME.items():
        of_it = [c.name for c in COMMANDS if key in c.keys]
        assert of_it
        assert [name for name in of_it if not name.startswith(words)] == []


def test_keys_are_looked_at_in_one_module_only() -> None:
    widgets = [
        cls
        for module in pkgutil.walk_packages(mirkle.gui.__path__, "mirkle.gui.")
        if not module.name.endswith("microphone")
        for cls in vars(importlib.import_module(module.name)).values()
        if isinstance(cls, type) and issubclass(cls, QWidget) and cls.__module__.startswith("mirkle.gui")
    ]
    assert len(widgets) > 40
    assert {cls.__name__ for cls in widgets if "keyPressEvent" in vars(cls)} == HANDS_ON
    assert {cls.__name__ for cls in widgets if "eventFilter" in vars(cls)} == set()


def run_them_all(commands: list[Command], page: QWidget) -> list[str]:
    ran = []
    for command in commands:
        if command.ready(page):
            command.run(page)
            ran.append(command.name)
    return ran


@pytest.fixture
def no_dialogs(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """Dialogs are closed at once; the names of those that were opened."""
    opened: list[str] = []

    def closed(dialog: QDialog) -> int:
        opened.append(type(dialog).__name__)
        return 0

    monkeypatch.setattr(QDialog, "exec", closed)
    monkeypatch.setattr(QFileDialog, "exec", closed)
    monkeypatch.setattr(QInputDialog, "getText", lambda *_: ("", False))
    return opened


def test_every_command_of_a_page_can_be_done_there(open_window: Window, no_dialogs: list[str]) -> None:
    open_window.workspace.rallies.begin("Isle Rally")
    assert open_window.workspace.rally is not None
    open_window.workspace.rally.set_itinerary([Item("stage", "Tarn Moor", datetime(2026, 12, 4, 9))])
    window, left = open_window, {"Compare": {"One frame forward", "One frame back"}, "Line up": set()}
    for place in PAGES:
        if place == "By eye":
            continue
        window.go_to(place)
        page = window.stack.currentWidget()
        assert isinstance(page, CommandWidget)
        assert page.place == place
        mine = [c for c in COMMANDS if c.place == place]
        ran = run_them_all(mine, page)
        ready_now = {c.name for c in mine if c.ready(page)}
        assert set(ran) >= ready_now - left.get(place, set())
        assert ran
    assert "AddDialog" in no_dialogs
    assert "PartsDialog" in no_dialogs


class Untouched:
    """Something of the window of which every part is there and nothing is done: a call only has to find what it calls."""

    def __init__(self, real: object, called: list[str]) -> None:
        self._real, self._called = real, called

    def __getattr__(self, name: str) -> object:
        return Untouched(getattr(self._real, name), self._called)

    def __call__(self, *_: object, **__: object) -> None:
        assert callable(self._real), self._real
        self._called.append(getattr(self._real, "__name__", ""))


def test_every_command_of_the_window_finds_what_it_does(open_window: Window, monkeypatch: pytest.MonkeyPatch) -> None:
    """A handler that was renamed or never written would be found by whoever presses the key."""
    called: list[str] = []
    for name, function in inspect.getmembers(show, inspect.isfunction):
        monkeypatch.setattr(show, name, Untouched(function, called))
    of_the_window = [command for command in COMMANDS if command.place == "window"]
    for command in of_the_window:
        before = len(called)
        command.run(Untouched(open_window, called))
        assert len(called) > before, command.name
    assert len(of_the_window) > 30


def test_a_key_that_can_do_nothing_now_changes_nothing(open_window: Window) -> None:
    stage = open_window.reviewed
    assert stage is not None
    open_window.go_to("Compare")
    compare = open_window.pages.compare
    stage.choose_note(next(n.index for n in stage.notes if not stage.findings_on(n.index)))
    assert stage.finding is None
    before = dict(stage.book.decisions)
    for key in (Qt.Key.Key_Return, Qt.Key.Key_K, Qt.Key.Key_T, Qt.Key.Key_R, Qt.Key.Key_B):
        QTest.keyClick(compare, key)
    assert stage.book.decisions == before
    open_window.use(next(c for c in COMMANDS if c.name == "Keep the note"))
    assert open_window.status.said == "No finding is chosen."


def test_the_number_pad_and_shift_are_no_other_keys(open_window: Window) -> None:
    stage = open_window.reviewed
    assert stage is not None
    open_window.go_to("Compare")
    compare, seen = open_window.pages.compare, []
    compare.middle.zoom = seen.append
    QTest.keyClick(compare, Qt.Key.Key_Plus, Qt.KeyboardModifier.KeypadModifier)
    QTest.keyClick(compare, Qt.Key.Key_Plus, Qt.KeyboardModifier.ShiftModifier)
    QTest.keyClick(compare, Qt.Key.Key_Minus)
    assert seen == [1, 1, -1]
    at = stage.listed.index(stage.finding)
    QTest.keyClick(compare, Qt.Key.Key_N, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier)
    assert stage.listed.index(stage.finding) == at


def test_enter_in_a_field_is_the_fields(open_window: Window) -> None:
    """Enter with Shift begins another note, Enter writes the change, Esc leaves both as they were."""
    stage = open_window.reviewed
    assert stage is not None
    open_window.go_to("Compare")
    evidence = open_window.pages.compare.evidence
    assert evidence.findChildren(FieldKeys)
    stage.choose(stage.listed[0])
    QTest.keyClick(open_window.pages.compare, Qt.Key.Key_E)
    before = evidence.field.toPlainText()
    QTest.keyClicks(evidence.field, "L4 60")
    QTest.keyClick(evidence.field, Qt.Key.Key_Return, Qt.KeyboardModifier.ShiftModifier)
    assert not stage.book.decisions, "with Shift it is typed"
    QTest.keyClick(evidence.field, Qt.Key.Key_Escape)
    assert evidence.field.toPlainText() == before
    assert not stage.book.decisions


def test_a_list_with_the_keyboard_leaves_the_pages_letters_to_the_page(open_window: Window, qtbot: QtBot) -> None:
    """Letters are the page's commands and not the beginning of a row; arrows stay the list's."""
    window = open_window
    window.go_to("Passes")
    passes = window.pages.followed
    qtbot.waitUntil(lambda: bool(passes.steps) and not window.workspace.work.busy, timeout=60_000)
    passes.list.setFocus()
    passes.list.setCurrentRow(0)
    QTest.keyClick(passes.list, Qt.Key.Key_Down)
    assert passes.list.currentRow() == 1
    asked: list[tuple[int, int]] = []
    passes.looked_at.disconnect()
    passes.looked_at.connect(lambda *where: asked.append(where))
    QTest.keyClick(passes.list, Qt.Key.Key_C)
    assert len(asked) == 1
    assert passes.list.currentRow() == 1


def test_enter_presses_the_button_that_has_the_keyboard(open_window: Window) -> None:
    stage = open_window.reviewed
    assert stage is not None
    open_window.go_to("Compare")
    compare = open_window.pages.compare
    stage.choose(stage.listed[0])
    chosen = stage.finding
    assert chosen is not None
    keep = compare.evidence.buttons["keep"]
    keep.setFocus(Qt.FocusReason.TabFocusReason)
    assert keep.hasFocus()
    QTest.keyClick(keep, Qt.Key.Key_Return)
    assert stage.book.decisions[chosen.id].answer == "keep"


def test_enter_on_the_first_page_opens_the_chosen_stage(kept_demo: Path, window: Window, qtbot: QtBot) -> None:
    recent_stages.remember(kept_demo)
    window.gather.shelf.refresh()
    window.gather.setFocus()
    with qtbot.waitSignal(window.opened, timeout=10_000):
        QTest.keyClick(window.gather, Qt.Key.Key_Return)
    assert window.stage is not None


PRINTED = {"⏎": "Return", "−": "-", "↑": "Up", "↓": "Down", "←": "Left", "→": "Right"}


def printed_keys(page: QWidget) -> Iterator[tuple[QAbstractButton, str]]:
    """The buttons of a page that can be pressed, each with the key that is printed on it."""
    known = {PRINTED.get(c.shown_keys, c.shown_keys) for c in COMMANDS} | set(PRINTED)
    for one in page.findChildren(QAbstractButton):
        for part in one.text().split("  "):
            if one.isVisible() and one.isEnabled() and "  " in one.text() and part.strip() in known:
                yield one, PRINTED.get(part.strip(), part.strip())


def test_every_printed_key_works_where_it_is_printed(open_window: Window, monkeypatch: pytest.MonkeyPatch, qtbot: QtBot) -> None:
    ran: list[str] = []
    heard = {at: replace(c, run=lambda _page, name=c.name: ran.append(name)) for at, c in keys._BY_KEY.items()}
    monkeypatch.setattr(keys, "_BY_KEY", heard)
    counted = 0
    for place in ("Gather", "Line up", "Compare", "Book", "Rehearse", "Passes"):
        open_window.go_to(place)
        page = open_window.stack.currentWidget()
        assert page is not None
        if place == "Passes":
            qtbot.waitUntil(lambda: bool(open_window.pages.followed.steps), timeout=30_000)  # type: ignore[union-attr]
            open_window.pages.followed.list.setCurrentRow(3)  # type: ignore[union-attr]
        settled()
        # From the page, and from each list that may have the keyboard.
        for holder in (
            page,
            *(one for one in page.findChildren(QListWidget) if one.isVisible() and one.focusPolicy() != Qt.FocusPolicy.NoFocus),
        ):
            for one, key in list(printed_keys(page)):
                if key.startswith("Ctrl"):
                    continue
                holder.setFocus()
                ran.clear()
                pressed = QKeySequence(key)[0]
                QTest.keyClick(QApplication.focusWidget() or holder, pressed.key(), pressed.keyboardModifiers())
                counted += 1
                assert len(ran) == 1, f"{key!r} of {one.text()!r} on {place}, from {type(holder).__name__}, ran {ran}"
    assert counted > 25
