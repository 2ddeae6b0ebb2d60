"""Rehearses the whole demo stage in the real window on the real clock, and prints how late each step was: eleven minutes.

``python bench/rehearsing.py [MINUTES]``. How late a line is spoken or a page turned is measured against the pace's own clock, the moment it was
asked for; the pictures are those that were painted.
"""

from __future__ import annotations

import sys
import time

import numpy as np
from PyQt6.QtCore import QEvent, QEventLoop, QObject, QTimer

from mirkle.gui.app import make_app
from mirkle.gui.window import Window
from mirkle.session.rehearsal import READ_AHEAD_S


class Painted(QObject):
    """How old the place is that a widget is painted with, seconds."""

    def __init__(self) -> None:
        super().__init__()
        self.placed = 0.0
        self.old_s: list[float] = []

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:  # noqa: ARG002
        """Looks at the clock and lets everything through."""
        if event is not None and event.type() == QEvent.Type.Paint and self.placed:
            self.old_s.append(time.monotonic() - self.placed)
        return False


def main() -> int:
    """Opens, starts, waits, prints."""
    minutes = float(sys.argv[1]) if len(sys.argv) > 1 else 11.0
    app = make_app()
    window = Window()
    window.resize(1280, 800)
    window.show()
    loop = QEventLoop()
    window.opened.connect(loop.quit)
    window.workspace.opening.open_demo()
    loop.exec()
    window.go_to("Rehearse")
    view = window.pages.rehearse
    rehearsal = view.rehearsal
    rehearsal.choose_parts(only_changes=False)
    view.choose_way("listen")
    due = rehearsal.pacing.due_s()
    spoken, turned, pictures, painted = [], [], [], Painted()
    view.road.installEventFilter(painted)
    rehearsal.spoken.connect(lambda line: spoken.append(rehearsal.pacer.now_s - due[line]))
    rehearsal.turned.connect(lambda line: turned.append(rehearsal.pacer.now_s - due[line] + READ_AHEAD_S) if line else None)

    def stepped(_at_m: float) -> None:
        painted.placed = time.monotonic()
        pictures.append(painted.placed)

    view.moved.connect(stepped)
    rehearsal.ended.connect(lambda: loop.quit())
    QTimer.singleShot(round(60_000 * minutes), loop.quit)
    began = time.monotonic()
    view.go_or_stop()
    loop.exec()
    took = time.monotonic() - began
    app.processEvents()
    print(f"{took:.0f} s, {len(pictures) / took:.1f} pictures a second, the longest wait for one {1000 * np.max(np.diff(pictures)):.0f} ms")
    for name, late in (("lines spoken", spoken), ("pages turned", turned)):
        ms = 1000 * np.array(late)
        print(f"{name}: {len(ms)}, late by {np.median(ms):.1f} ms in the middle, 95 % {np.percentile(ms, 95):.1f}, at worst {ms.max():.1f}")
    old = 1000 * np.array(painted.old_s)
    print(
        f"road: painted where the car was {np.median(old):.1f} ms before in the middle, 95 % {np.percentile(old, 95):.1f}, at worst {old.max():.1f}"
    )
    return 0


if __name__ == "__main__":
    sys.exit(main())
