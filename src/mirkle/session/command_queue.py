"""Commands that come while something long is being worked out: each waits for its turn, none is dropped."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable
from dataclasses import dataclass

from mirkle.core.messages import Message


@dataclass(frozen=True)
class Command:
    """A command that waits. ``name`` is what the user knows it by: a file's, or a message. ``fits`` tells, when its turn comes, whether
    what it was meant for is still there. Of two with the same ``key`` the later one is enough."""

    name: Message | str
    run: Callable[[], object]
    fits: Callable[[], bool]
    key: str = ""


class Turns:
    """One long piece of work at a time. Whoever does it calls :meth:`begin` and :meth:`end`."""

    def __init__(self, refused: Callable[[Message | str], None]) -> None:
        self._waiting: deque[Command] = deque()
        self._busy = False
        self._refused = refused

    @property
    def busy(self) -> bool:
        """Whether something is being worked out."""
        return self._busy

    @property
    def waiting(self) -> list[Message | str]:
        """The names of the commands that wait, in their order."""
        return [command.name for command in self._waiting]

    def ask(self, command: Command, *, first: bool = False) -> bool:
        """Runs a command now, or when its turn comes; ``first`` where it belongs to what is being done. Returns whether it ran."""
        if not self._busy:
            command.run()
            return True
        if command.key:
            self._waiting = deque(c for c in self._waiting if c.key != command.key)
        if first:
            self._waiting.appendleft(command)
        else:
            self._waiting.append(command)
        return False

    def give_up(self) -> None:
        """Nobody is there any more who waits."""
        self._waiting.clear()

    def begin(self) -> None:
        """Something long begins."""
        assert not self._busy, "one at a time"
        self._busy = True

    def end(self) -> None:
        """It is over: whoever waits comes next, until somebody begins something long. What no longer fits is said to be refused."""
        self._busy = False
        while self._waiting and not self._busy:
            command = self._waiting.popleft()
            if command.fits():
                command.run()
            else:
                self._refused(command.name)
