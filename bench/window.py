"""Opens the saved demo, steps through its findings, and prints when it was painted and what a step costs."""

from __future__ import annotations

import json
import resource
import statistics
import time

from PyQt6.QtCore import QEvent, QEventLoop, QObject
from PyQt6.QtWidgets import QWidget

from mirkle.desk.app import make_app
from mirkle.desk.window import Window

app = make_app()
window = Window()
window.show()
loop = QEventLoop()
window.opened.connect(loop.quit)
window.open_demo()
loop.exec()
app.processEvents()
window.compare.repaint()
painted_at = time.time()


class Painted(QObject):
    """Counts the paintings of one widget."""

    count = 0

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:  # noqa: ARG002
        """Counts and lets everything through."""
        self.count += event is not None and event.type() == QEvent.Type.Paint
        return False


painted = Painted()
window.compare.road.installEventFilter(painted)
steps = []
for n in range(60):
    began = time.perf_counter()
    window.stage.step(1)
    while painted.count <= n:
        app.processEvents()
    app.processEvents()
    steps.append(time.perf_counter() - began)

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
memory_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
print(
    json.dumps(
        {
            "painted_at": painted_at,
            "next_s": statistics.median(steps),
            "empty_s": statistics.median(bare),
            "memory_mb": memory_mb,
        }
    )
)
window.close()
