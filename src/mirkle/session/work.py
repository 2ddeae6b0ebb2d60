"""Long work, one piece at a time: what comes meanwhile waits for its turn, and who waits is said."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Protocol

from mirkle.core.errors import MirkleError
from mirkle.core.messages import Message
from mirkle.core.progress import Progress
from mirkle.session.command_queue import Command, Turns
from mirkle.session.signal import Signal

Task = Callable[[Progress], Any]


class RunningTask(Protocol):
    """A task in the background."""

    def cancel(self) -> None:
        """Asks it to stop at its next step."""

    def abandon(self) -> None:
        """Stops it and waits until it has ended; nobody hears of what it found."""


@dataclass(frozen=True)
class Listener:
    """Who is told of a task: of its progress, its result or its fault, and its end."""

    progressed: Progress
    done: Callable[[Any], object]
    failed: Callable[[MirkleError], object]
    ended: Callable[[], object]


class Runner(Protocol):
    """Runs a task, in the background or at once; tells the listener in the thread in which it was called."""

    def __call__(self, task: Task, listener: Listener) -> RunningTask:
        """Begins the task."""


class Work:
    """What is being worked out, and what waits for it. ``began`` and ``ended`` frame each task, ``progressed`` says how far it has come,
    ``failed`` carries a fault, ``queued`` the names of what waits, ``refused`` the name of what no longer fits when its turn comes."""

    def __init__(self, run: Runner) -> None:
        self.began, self.ended, self.progressed, self.failed = Signal(), Signal(), Signal(), Signal()
        self.queued, self.refused = Signal(), Signal()
        self._run = run
        self._turns = Turns(self.refused.emit)
        self._task: RunningTask | None = None

    @property
    def busy(self) -> bool:
        """Whether something is being worked out."""
        return self._turns.busy

    def start(self, task: Task, then: Callable[[Any], object]) -> None:
        """Works something out; ``then`` gets the result."""
        self._turns.begin()
        self.began.emit()
        self._task = self._run(task, Listener(self.progressed.emit, then, self.failed.emit, self._ended))

    def _ended(self) -> None:
        self._task = None
        self.ended.emit()
        self._turns.end()

    def when_free(
        self, name: Message | str, run: Callable[[], object], *, fits: Callable[[], bool] = lambda: True, key: str = "", first: bool = False
    ) -> None:
        """Does something now, or when its turn comes (see :class:`Command`); ``first`` where it belongs to what is being done."""
        if not self._turns.ask(Command(name, run, fits, key), first=first):
            self.queued.emit(self._turns.waiting)

    def cancel(self) -> None:
        """Asks what is being worked out to stop."""
        if self._task is not None:
            self._task.cancel()

    def give_up(self) -> None:
        """Ends everything: the task is stopped, what waits is forgotten."""
        task, self._task = self._task, None
        if task is not None:
            task.abandon()
        self._turns.give_up()
