"""Starts the window."""

from __future__ import annotations

import sys
import traceback
from datetime import datetime
from importlib import resources
from pathlib import Path
from types import TracebackType

from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QIcon
from PyQt6.QtWidgets import QApplication, QMessageBox

from mirkle import __version__
from mirkle.desk import theme as themes
from mirkle.desk.speak import Texts, say, wanted_language
from mirkle.desk.window import Window
from mirkle.session import places


def make_app() -> QApplication:
    """The one application object, with the shipped fonts and the theme on it."""
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        app = QApplication(sys.argv[:1])
        app.setApplicationName("mirkle")
        app.setDesktopFileName("mirkle")
        app.setWindowIcon(QIcon(str(resources.files("mirkle") / "share" / "mirkle.svg")))
    _speak(app)
    themes.load_fonts()
    themes.apply(app, themes.PAPER)
    return app


def _speak(app: QApplication) -> None:
    """The language of the user's choice or desktop, from now on."""
    code = wanted_language()
    if code != "en":
        texts = Texts(code)
        texts.setParent(app)
        app.installTranslator(texts)


def run_window(stage: Path | None, *, demo: bool) -> int:
    """Opens the window, on a saved stage or the demo if asked, and returns when it is closed."""
    app = make_app()
    window = Window()
    themes.apply(app, window.theme)
    sys.excepthook = _say_and_go_on
    window.show()
    QTimer.singleShot(0, window.show_cautions_once)
    if stage is not None:
        window.open_project(stage)
    elif demo:
        window.open_demo()
    return app.exec()


def _say_and_go_on(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
    """A fault of ours must not take the crew's work with it: every decision is on the disk already."""
    traceback.print_exception(kind, error, trace)
    told = "".join(traceback.format_exception(kind, error, trace))
    log = places.write_down(f"{datetime.now().isoformat(timespec='seconds')}  Mirkle {__version__}\n{told}")
    words = say(
        "Something in Mirkle broke ({0}). Your decisions are kept. If the window looks wrong, close it and open the stage again.",
        kind.__name__,
    )
    QMessageBox.warning(
        None, "Mirkle", words + (" " + say("It is written down in {0}.", log) if log is not None else "")
    )
