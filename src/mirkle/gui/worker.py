"""Tasks in a background thread: what runs the work of a :class:`mirkle.session.workspace.Workspace` beside the interface."""

from __future__ import annotations

import gc
import threading
from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import QCoreApplication, QObject, QThread, pyqtSignal

from mirkle.core.errors import Cancelled, MirkleError
from mirkle.core.messages import Message, message
from mirkle.core.progress import Progress
from mirkle.session.work import Listener, Task


class Job(QThread):
    """Runs ``work(progress)`` in a thread of its own. Exactly one of ``done`` (with the result) and ``failed``
    (with a :class:`MirkleError`, which is :class:`Cancelled` where it was stopped) is emitted.

    Python collects cycles in whichever thread asks for memory at the time. A widget in such a cycle, taken away beside
    the interface, takes the program down with it: so nothing is collected while the work runs.
    """

    progressed = pyqtSignal(object, float)
    done = pyqtSignal(object)
    failed = pyqtSignal(object)

    def __init__(self, work: Callable[[Progress], Any], parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._work, self._stop = work, threading.Event()
        self.finished.connect(_collect_again)

    def begin(self) -> None:
        """Starts the work."""
        gc.disable()
        self.start()

    def cancel(self) -> None:
        """Asks the work to stop at its next step."""
        self._stop.set()

    def abandon(self) -> None:
        """Stops the work and waits for its end; what it found is for a window that is gone."""
        self.cancel()
        self.wait()
        for signal in (self.progressed, self.done, self.failed, self.finished):
            signal.disconnect()

    def run(self) -> None:
        """The thread's own work."""
        try:
            result = self._work(self._progress)
        except MirkleError as fault:
            self.failed.emit(fault)
        except Exception as error:
            what = message("Something in Mirkle broke ({0}: {1})", type(error).__name__, str(error))
            self.failed.emit(MirkleError(what, mend="nothing of yours was changed"))
        else:
            self.done.emit(result)

    def _progress(self, words: Message, share: float) -> None:
        if self._stop.is_set():
            raise Cancelled("stopped")
        self.progressed.emit(words, share)


def _collect_again() -> None:
    gc.enable()


def run_in_background(task: Task, listener: Listener) -> Job:
    """Runs a task beside the interface; the listener is told in the interface's thread."""
    job = Job(task, QCoreApplication.instance())
    job.progressed.connect(listener.progressed)
    job.done.connect(listener.done)
    job.failed.connect(listener.failed)
    job.finished.connect(listener.ended)
    job.finished.connect(job.deleteLater)
    job.begin()
    return job
