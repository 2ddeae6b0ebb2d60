"""The real window on the demo, with the review made once and kept, so that each test opens in a moment."""

from __future__ import annotations

import shutil
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from PyQt6.QtCore import QCoreApplication, Qt
from PyQt6.QtWidgets import (
    QAbstractButton,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QDoubleSpinBox,
    QLabel,
    QListWidget,
    QSlider,
    QSpinBox,
    QWidget,
)
from pytestqt.qtbot import QtBot

from mirkle.core.review import Review
from mirkle.gui.app import make_app
from mirkle.gui.controls import Wrapped
from mirkle.gui.dialogs.questions import DialogQuestions
from mirkle.gui.pages.proof import ProofView
from mirkle.gui.window import Window
from mirkle.session import demo
from mirkle.session.kept_reviews import keep_review
from mirkle.session.paths import data_folder
from mirkle.session.reviewing import Inputs, review_material
from tests.conftest import AFTERNOON, HEARD, MORNING, NOTES

DEMO = Inputs(MORNING, NOTES, HEARD, others=(AFTERNOON,))
SIZES = ((1280, 800), (1920, 1080))


@pytest.fixture(scope="session")
def qapp() -> object:
    """The application as the program makes it, fonts and theme and all, in English on any desktop."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setenv("LANGUAGE", "en")
        return make_app()


@pytest.fixture(scope="session")
def demo_review() -> Review:
    """The morning pass as the demo opens with it: the words' times are those of the sound."""
    return review_material(DEMO)


@pytest.fixture(scope="session")
def reviewed_demo(demo_review: Review, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The demo's file with its review in it."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setenv("XDG_DATA_HOME", str(tmp_path_factory.mktemp("demo")))
        project = demo.demo_project()
        keep_review(project, DEMO, demo_review)
        project.close()
    return project.path


@pytest.fixture
def kept_demo(reviewed_demo: Path) -> Path:
    """The demo as it is when it was opened before."""
    folder = data_folder()
    folder.mkdir(parents=True)
    return Path(shutil.copy(reviewed_demo, folder))


def press(widget: QWidget, words: str) -> None:
    """Presses the button of a widget or a dialog that is called so."""
    (one,) = (b for b in widget.findChildren(QAbstractButton) if b.text().startswith(words))
    one.click()


def settled() -> None:
    """Lets the window lay itself out and paint, however busy the machine is."""
    for _ in range(4):
        QCoreApplication.sendPostedEvents()
        QApplication.processEvents()


@pytest.fixture(autouse=True)
def _a_stage_of_its_own(monkeypatch: pytest.MonkeyPatch) -> None:
    """Files of the demo's road make a new stage, without a question, whatever lies on the shelf."""
    monkeypatch.setattr(DialogQuestions, "joins", lambda *_: False)
    monkeypatch.setattr(DialogQuestions, "was_due", lambda *_: False)
    monkeypatch.setattr(DialogQuestions, "has_this_book", lambda *_: False)


@pytest.fixture
def window(qtbot: QtBot) -> Iterator[Window]:
    """A window at the size of the screens in the guide; a fault in a slot fails the test."""
    faults: list[BaseException] = []
    before, sys.excepthook = sys.excepthook, lambda _kind, error, _trace: faults.append(error)
    made = Window()
    made.resize(*SIZES[0])
    qtbot.addWidget(made)
    made.show()
    qtbot.waitExposed(made)
    # With no window manager nobody else gives the window the keyboard.
    QApplication.setActiveWindow(made)
    yield made
    made.close()
    sys.excepthook = before
    assert not faults


@pytest.fixture
def open_window(window: Window, kept_demo: Path, qtbot: QtBot) -> Window:  # noqa: ARG001
    """The window with the demo stage on it."""
    with qtbot.waitSignal(window.opened, timeout=10_000):
        window.workspace.opening.open_demo()
    # The job's thread ends after it has handed its result over.
    qtbot.waitUntil(lambda: not window.workspace.work.busy)
    return window


@pytest.fixture
def reopen(qtbot: QtBot):  # type: ignore[no-untyped-def]
    """Opens a saved stage in a second window."""

    def opened(path: Path) -> Window:
        other = Window()
        qtbot.addWidget(other)
        with qtbot.waitSignal(other.opened, timeout=10_000):
            other.workspace.opening.open_project(path)
        qtbot.waitUntil(lambda: not other.workspace.work.busy)
        return other

    return opened


TURNED_BY_THE_WHEEL = (
    QComboBox.wheelEvent,
    QAbstractSpinBox.wheelEvent,
    QSpinBox.wheelEvent,
    QDoubleSpinBox.wheelEvent,
    QSlider.wheelEvent,
)


def odd_widgets() -> list[str]:
    """Widgets that would take a crew's text for markup, that the wheel would turn, or whose items are cut."""
    # Qt's own dialogs are left aside, and windows of earlier tests that are on their way out.
    widgets = [widget for widget in QApplication.allWidgets() if type(widget.window()).__module__.startswith("mirkle.")]
    # A doubtful word stands bold among its neighbours, whose words are escaped.
    escaped = {widget.around for widget in widgets if isinstance(widget, ProofView)}
    odd = [
        widget
        for widget in widgets
        if (isinstance(widget, QLabel) and widget.textFormat() != Qt.TextFormat.PlainText and widget not in escaped)
        or (isinstance(widget, QComboBox | QAbstractSpinBox | QSlider) and type(widget).wheelEvent in TURNED_BY_THE_WHEEL)
        or (isinstance(widget, QListWidget) and widget.wordWrap() and not isinstance(widget.itemDelegate(), Wrapped))
    ]
    return [f"{type(widget).__name__} in {type(widget.parentWidget()).__name__}" for widget in odd]


@pytest.fixture(autouse=True)
def _widgets_come_from_one_place() -> Iterator[None]:
    """Whatever screens a test opens, they hold the labels, boxes and lists of :mod:`mirkle.gui.controls`."""
    yield
    assert odd_widgets() == []
