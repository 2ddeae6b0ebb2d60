"""Opens a saved stage, steps through its findings, scrolls, and prints when it was painted and what each costs.

The stage is the file named on the command line, or the demo.
"""

from __future__ import annotations

import json
import statistics
import sys
import time
from pathlib import Path

from PyQt6.QtCore import QCoreApplication, QEvent, QEventLoop, QObject
from PyQt6.QtWidgets import QWidget

from memory import peak_mb
from mirkle.gui.app import make_app
from mirkle.gui.window import Window

app = make_app()
window = Window()
window.resize(1280, 800)
window.show()
loop = QEventLoop()
window.opened.connect(loop.quit)
if len(sys.argv) > 1:
    window.workspace.opening.open_project(Path(sys.argv[1]))
else:
    window.workspace.opening.open_demo()
loop.exec()
app.processEvents()
# A stage opens where it was left.
window.go_to("Compare")
window.pages.compare.repaint()
painted_at = time.time()


class Painted(QObject):
    """Counts the paintings of one widget."""

    count = 0

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:  # noqa: ARG002
        """Counts and lets everything through."""
        self.count += event is not None and event.type() == QEvent.Type.Paint
        return False


painted = Painted()
window.pages.compare.road.installEventFilter(painted)
steps = []
for n in range(60):
    began = time.perf_counter()
    window.stage.step(1)
    while painted.count <= n:
        app.processEvents()
    app.processEvents()
    steps.append(time.perf_counter() - began)

# As a wheel or the sound moves the road: a few metres a frame, road and page and strip together.
frames = []
for _ in range(120):
    began = time.perf_counter()
    window.pages.compare.road.look_at(window.pages.compare.road.middle_m + 2.0)
    window.pages.compare._looked_at(window.pages.compare.road.middle_m)
    app.processEvents()
    frames.append(time.perf_counter() - began)


def zoomed(view: QWidget, name: str) -> float:
    """Seconds a frame while a view is zoomed out to the end and in again."""
    window.pages.compare.middle.show_view(name)
    app.processEvents()
    taken = []
    for step in (-0.25,) * 40 + (0.25,) * 60:
        began = time.perf_counter()
        view.zoom(step)  # type: ignore[attr-defined]
        view.repaint()
        taken.append(time.perf_counter() - began)
    # The slowest of a hundred but two: a frame that is late is seen.
    return sorted(taken)[-3]


zoom_s, plan_s = zoomed(window.pages.compare.road, "road"), zoomed(window.pages.compare.plan, "plan")

# The stage at its pace: page, bar and road, a picture every sixtieth of a second; the slowest of six hundred but six.
window.go_to("Rehearse")
rehearse = window.pages.rehearse
rehearse.rehearsal.choose_parts(only_changes=False)
rehearse.go_or_stop()
rehearse.frames.stop()
paced = []
for n in range(600):
    rehearse.rehearsal.pacer.go(20.0 + n / 15.0)
    began = time.perf_counter()
    rehearse.step()
    app.processEvents()
    paced.append(time.perf_counter() - began)
rehearse.go_or_stop()
rehearse_s = sorted(paced)[-7]

empty = QWidget()
empty.resize(window.size())
empty.show()
app.processEvents()
bare = []
for _ in range(60):
    began = time.perf_counter()
    empty.repaint()
    app.processEvents()
    bare.append(time.perf_counter() - began)
print(
    json.dumps(
        {
            "painted_at": painted_at,
            "next_s": statistics.median(steps),
            "zoom_s": zoom_s,
            "plan_s": plan_s,
            "rehearse_s": rehearse_s,
            "frame_s": statistics.median(frames),
            "empty_s": statistics.median(bare),
            "memory_mb": peak_mb(),
        }
    )
)
sys.stdout.flush()
window.go_to("Compare")
window.close()
window.deleteLater()
QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete.value)
