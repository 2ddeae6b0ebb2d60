"""Renews the pictures in docs/screenshots from the demo: ``python -m mirkle.gui.screens FOLDER``."""

from __future__ import annotations

import os
import sys
import tempfile
from collections.abc import Callable
from datetime import datetime, timedelta
from pathlib import Path
from typing import TYPE_CHECKING, Literal

from mirkle.session.demo import demo_rally

if TYPE_CHECKING:
    from PyQt6.QtWidgets import QApplication, QWidget

    from mirkle.core.notebook.observed import Seen
    from mirkle.gui.window import Window

Grab = Callable[[str], None]
# The guide's pictures, smaller, go with the application.
IN_THE_GUIDE = ("first-start", "gather", "line-up", "compare-danger", "by-eye", "book", "rehearse", "passes", "rally")
GUIDE, GUIDE_PX = Path(__file__).parent.parent / "share" / "guide", 600
KINDS = ("grade-tighter", "grade-easier")
RALLY_DAY = datetime(2026, 12, 4, 8, 30)
TYPED = "page 1\nstart 80\nL4 long 60\nR3 >2 dc into\nL hp 40\nR5 /cr 120\nL4 brow 60\ncaut R2 30"


def main() -> int:
    """Drives the real window through the demo and grabs each main view at 1280x800."""
    folder = Path(sys.argv[1])
    folder.mkdir(parents=True, exist_ok=True)
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    os.environ.setdefault("LANGUAGE", "en")
    with tempfile.TemporaryDirectory() as home:
        os.environ["XDG_DATA_HOME"] = os.environ["XDG_CONFIG_HOME"] = home
        _shoot(folder)
    return 0


def _wait(milliseconds: int) -> None:
    """Lets the window work for a while."""
    from PyQt6.QtCore import QEventLoop, QTimer

    loop = QEventLoop()
    QTimer.singleShot(milliseconds, loop.quit)
    loop.exec()


def _shoot(folder: Path) -> None:
    from PyQt6.QtCore import Qt
    from PyQt6.QtGui import QImage

    from mirkle.gui.app import make_app
    from mirkle.gui.window import Window

    GUIDE.mkdir(exist_ok=True)
    app = make_app()
    window = Window()
    window.resize(1280, 800)
    window.show()

    def grab(name: str, widget: QWidget | None = None) -> None:
        app.processEvents()
        picture = (widget or window).grab()
        picture.save(str(folder / f"{name}.png"))
        if name in IN_THE_GUIDE:
            small = picture.toImage().scaledToWidth(GUIDE_PX, Qt.TransformationMode.SmoothTransformation)
            small.convertToFormat(QImage.Format.Format_RGB888).save(str(GUIDE / f"{name}.png"), quality=0)

    grab("first-start")
    window.workspace.opening.open_demo()
    while window.stage is None:
        _wait(20)
    _wait(50)
    _compare(window, grab)
    _line_up(window, grab)
    _gather(window, grab)
    window.go_to("Book")
    grab("book")
    _rehearse(window, grab)
    window.go_to("Passes")
    assert window.pages.followed is not None
    while not window.pages.followed.steps:
        _wait(20)
    window.pages.followed.list.setCurrentRow(3)
    grab("passes")
    _dialogs(window, folder)
    _by_eye(window, grab)
    _rally(window, grab)
    window.close()
    _words(app, folder)


def _compare(window: Window, grab: Grab) -> None:
    stage, compare = window.reviewed, window.pages.compare
    assert stage is not None
    assert compare is not None
    grab("compare-danger")
    by_kind = {f.kind: f for f in reversed(stage.findings)}
    for kind in KINDS:
        if kind in by_kind:
            stage.choose(by_kind[kind])
            grab(f"compare-{kind}")
    stage.book.road.add("hazard", stage.findings[2].from_m - 70.0, stage.findings[2].from_m - 70.0, "stones inside", by="both")
    stage.book.road.add("condition", stage.findings[2].from_m + 90.0, stage.findings[2].from_m + 220.0, "ice in the shade")
    for finding in stage.findings[:8]:
        stage.choose(finding)
        compare.answer("mark")
        if stage.finding is finding:  # a faster note takes the other's word too
            compare.answer("mark")
    answers: tuple[Literal["talk", "keep", "video"], ...] = ("talk", "keep", "video")
    for finding, answer in zip(stage.findings[8:11], answers, strict=True):
        stage.choose(finding)
        compare.answer(answer)
    stage.choose(stage.findings[2])
    grab("compare-marked")
    compare.middle.show_view("plan")
    compare.plan.zoom(9)
    compare.plan.show_chosen()
    grab("compare-plan")
    compare.middle.show_view("road")
    window.change_theme()
    grab("compare-night")
    window.change_theme()


def _rehearse(window: Window, grab: Grab) -> None:
    """In the midst of a changed place, with the line to be called half a second away."""
    window.go_to("Rehearse")
    view = window.pages.rehearse
    assert view is not None
    r = view.rehearsal
    line = next(n for n, one in enumerate(r.lines) if one.old)
    view.go_or_stop()
    r.pacer.go(float(r.pacing.due_s()[line]) - 0.5)
    view.step()
    grab("rehearse")
    view.halt()


def _by_eye(window: Window, grab: Grab) -> None:
    """The third pass, which has a camera and nothing else."""
    window.workspace.change_pass(3)
    while window.reviewed is not None or window.workspace.work.busy:
        _wait(20)
    view = window.pages.watch
    assert view is not None
    answers: tuple[tuple[int, Seen], ...] = ((6, "as-called"), (8, "as-called"), (9, "tighter"))
    for note, seen in answers:
        view.stage.choose_note(note)
        view.answer(seen)
    view.write()
    view.stage.choose_note(10)
    view.play_or_stop()
    while view.video.picture is None or view.video.picture.image.isNull():
        _wait(20)
    _wait(600)
    view.play_or_stop()
    view.answer("tighter")
    grab("by-eye")


def _rally(window: Window, grab: Grab) -> None:
    """The demo rally, as late as its picture always shows."""
    from mirkle.gui.pages.rally import RallyPage

    window.workspace.opening.new_stage()
    window.workspace.rallies.open(demo_rally(RALLY_DAY))
    assert window.workspace.rally is not None
    page = RallyPage(window.workspace.rally, window.theme, lambda: RALLY_DAY + timedelta(minutes=4))
    window.stack.addWidget(page)
    window.stack.setCurrentWidget(page)
    window.header.place_buttons["Rally"].setChecked(True)
    grab("rally")


def _line_up(window: Window, grab: Grab) -> None:
    view = window.pages.line_up
    assert view is not None
    window.go_to("Line up")
    view.next_unsure()
    grab("line-up")


def _gather(window: Window, grab: Grab) -> None:
    from mirkle.gui.pages.typing import TypingView

    window.go_to("Gather")
    grab("gather")
    window.type_notes()
    typing = window.stack.currentWidget()
    assert isinstance(typing, TypingView)
    typing.page.setPlainText(TYPED)
    grab("typing")


def _words(app: QApplication, folder: Path) -> None:
    """The demo's run and words without its book: there every repair has to stand by itself."""

    from mirkle.files import demo_files
    from mirkle.gui.window import Window

    with tempfile.TemporaryDirectory() as place:
        # A shelf of its own: on the demo's, its road would be known, and asked about.
        os.environ["XDG_DATA_HOME"] = os.environ["XDG_CONFIG_HOME"] = place
        window = Window()
        window.resize(1280, 800)
        window.show()
        files = [Path(place) / name for name in (demo_files.MORNING, demo_files.CALLS)]
        for file in files:
            file.write_bytes(demo_files.demo_file(file.name))
        window.workspace.opening.take_files(files)
        while window.stage is None:
            _wait(20)
        _wait(50)
    window.go_to("Gather")
    app.processEvents()
    window.grab().save(str(folder / "words.png"))
    window.close()


def _dialogs(window: Window, folder: Path) -> None:
    from mirkle.gui.dialogs.cautions_and_keys import Cautions, Keys
    from mirkle.gui.pages.preview import PreviewDialog

    assert window.stage is not None
    dialogs = {"cautions": Cautions(window), "keys": Keys(window.theme, window), "preview": PreviewDialog(window.stage, "card", window)}
    for name, dialog in dialogs.items():
        dialog.show()
        dialog.repaint()
        dialog.grab().save(str(folder / f"{name}.png"))
        dialog.close()


if __name__ == "__main__":
    sys.exit(main())
