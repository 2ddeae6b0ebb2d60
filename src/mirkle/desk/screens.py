"""Renews the pictures in docs/screenshots from the demo: ``python -m mirkle.desk.screens FOLDER``."""

from __future__ import annotations

import os
import sys
import tempfile
from pathlib import Path


def main() -> int:
    """Drives the real window through the demo and grabs each main view at 1280x800."""
    folder = Path(sys.argv[1])
    folder.mkdir(parents=True, exist_ok=True)
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    with tempfile.TemporaryDirectory() as home:
        os.environ["XDG_DATA_HOME"] = os.environ["XDG_CONFIG_HOME"] = home
        _shoot(folder)
    return 0


def _shoot(folder: Path) -> None:
    from PyQt6.QtTest import QTest

    from mirkle.desk.app import make_app
    from mirkle.desk.dialogs import Cautions, Keys
    from mirkle.desk.window import Window

    app = make_app()
    window = Window()
    window.show()

    def grab(name: str) -> None:
        app.processEvents()
        window.grab().save(str(folder / f"{name}.png"))

    grab("first-start")
    window.open_demo()
    while window.stage is None:
        QTest.qWait(20)
    QTest.qWait(50)
    stage, compare = window.stage, window.compare
    assert compare is not None
    grab("compare-danger")
    by_kind = {f.kind: f for f in reversed(stage.findings)}
    for kind in (
        "grade-tighter",
        "corner-uncalled",
        "grade-easier",
        "distance-shorter",
        "corner-unmet",
        "jump-uncalled",
        "call-late",
    ):
        if kind in by_kind:
            stage.choose(by_kind[kind])
            grab(f"compare-{kind}")
    for finding in stage.findings[:8]:
        stage.choose(finding)
        compare.answer("mark")
        if stage.finding is finding:  # a faster note takes the other's word too
            compare.answer("mark")
    for finding in stage.findings[8:10]:
        stage.choose(finding)
        compare.answer("talk" if finding is stage.findings[8] else "keep")
    stage.choose(stage.findings[2])
    grab("compare-marked")
    window.change_theme()
    grab("compare-night")
    window.change_theme()
    window.go_to("Gather")
    grab("gather")
    window.type_notes()
    typing = window.stack.currentWidget()
    typing.page.setPlainText("page 1\nstart 80\nL4 long 60\nR3 >2 dc into\nL hp 40\nR5 /cr 120\nL4 brow 60\ncaut R2 30")
    grab("typing")
    window.go_to("Book")
    grab("book")
    for name, dialog in (("cautions", Cautions(window)), ("keys", Keys(window))):
        dialog.show()
        app.processEvents()
        dialog.grab().save(str(folder / f"{name}.png"))
        dialog.close()
    window.close()


if __name__ == "__main__":
    sys.exit(main())
