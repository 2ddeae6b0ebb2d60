"""Starts the window."""

from __future__ import annotations

import os
import sys
import traceback
from collections.abc import Sequence
from datetime import datetime
from importlib import resources
from pathlib import Path
from types import TracebackType

from PyQt6.QtCore import QCoreApplication, QEvent, QLocale, QTimer
from PyQt6.QtGui import QIcon
from PyQt6.QtWidgets import QApplication, QMessageBox

from mirkle import __version__
from mirkle.gui import theme as themes
from mirkle.gui.pages.settings import SIZE, SIZES_PERCENT, number
from mirkle.gui.translation import speak, tr, wanted_language
from mirkle.gui.window import Window
from mirkle.session import crash_log, recent_stages


def make_app() -> QApplication:
    """The one application object, with the shipped fonts and the theme on it."""
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        _set_size()
        app = QApplication(sys.argv[:1])
        app.setApplicationName("mirkle")
        app.setDesktopFileName("mirkle")
        app.setWindowIcon(QIcon(str(resources.files("mirkle") / "share" / "mirkle.svg")))
    _speak()
    themes.load_fonts()
    themes.apply(app, themes.PAPER)
    return app


def _set_size() -> None:
    """The size of everything, as set; Qt takes it before its application is made, and only then."""
    percent = number(SIZE, SIZES_PERCENT[0])
    if percent in SIZES_PERCENT[1:]:
        os.environ.setdefault("QT_SCALE_FACTOR", str(percent / 100))


def _speak() -> None:
    """The language of the user's choice or desktop, from now on."""
    code = wanted_language()
    QLocale.setDefault(QLocale(code))
    speak(code)


def run_window(files: Sequence[Path] = (), *, demo: bool = False) -> int:
    """Opens the window, on a saved stage, on files to be taken in, or on the demo, and returns when it is closed."""
    recent_stages.clear_up()
    app = make_app()
    shown = Shown(app)
    sys.excepthook = _say_and_go_on
    QTimer.singleShot(0, shown.window.show_cautions_once)
    if files:
        shown.window.workspace.opening.take_files(list(files))
    elif demo:
        shown.window.workspace.opening.open_demo()
    code = app.exec()
    shown.end()
    return code


class Shown:
    """The window that is shown; where language or size are set otherwise it is made anew, on the same stage."""

    def __init__(self, app: QApplication) -> None:
        self._app = app
        self.window = self._made()

    def _made(self) -> Window:
        window = Window()
        themes.apply(self._app, window.theme)
        window.again_wanted.connect(self.again)
        window.show()
        return window

    def end(self) -> None:
        """Takes the window away while the application is still there: the other way round, their order is chance."""
        self.window.deleteLater()
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)

    def again(self) -> None:
        """Closes the window and opens another, in the language that is set now."""
        stage = self.window.stage
        path = stage.project.path if stage is not None else None
        old, ends = self.window, self._app.quitOnLastWindowClosed()
        self._app.setQuitOnLastWindowClosed(False)
        old.close()
        _speak()
        self.window = self._made()
        old.deleteLater()
        self._app.setQuitOnLastWindowClosed(ends)
        if path is not None:
            self.window.workspace.opening.open_project(path)


def _say_and_go_on(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
    """A fault of ours must not take the crew's work with it: every decision is on the disk already."""
    traceback.print_exception(kind, error, trace)
    report = "".join(traceback.format_exception(kind, error, trace))
    log = crash_log.write_down(f"{datetime.now().isoformat(timespec='seconds')}  Mirkle {__version__}\n{report}")
    words = tr(
        "Something in Mirkle broke ({0}). Your decisions are kept. If the window looks wrong, close it and open the stage again.",
        kind.__name__,
    )
    QMessageBox.warning(None, "Mirkle", words + (" " + tr("It is written down in {0}.", log) if log is not None else ""))
