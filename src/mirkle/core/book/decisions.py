"""What the crew decided, as a log that only grows: deciding, undoing and doing again are all entries in it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field


@dataclass(frozen=True)
class Decision:
    """The answer to one finding, or something that the crew added by itself.

    For ``mark``, ``text`` stands instead of the notes ``first_note`` to ``last_note``; ``keep``, ``talk`` and ``video`` change
    nothing. A ``hazard`` is what the car met and no sensor saw, a ``condition`` holds for the next pass only; both are words
    at a place and never enter the book's own text; without a recording the place is behind ``first_note``. ``gone`` takes either away.
    ``by`` is who said so, ``remark`` a word on it. ``seen`` says what was seen on the video (see :mod:`mirkle.core.book.seen`), where
    that is what it rests on. A ``moment`` is when a note was called, as somebody pressed a key for it: seconds of the sound in ``text``.
    """

    finding: str
    answer: str
    first_note: int = -1
    last_note: int = -1
    text: str = ""
    by: str = ""
    remark: str = ""
    from_m: float = -1.0
    to_m: float = -1.0
    seen: str = ""


@dataclass(frozen=True)
class Entry:
    """One line of the log: ``decide`` with its decision, ``undo`` or ``redo``."""

    kind: str
    decision: Decision | None = None


@dataclass
class Ledger:
    """The state that a log adds up to."""

    done: list[Decision] = field(default_factory=list)
    undone: list[Decision] = field(default_factory=list)

    @classmethod
    def of(cls, entries: Iterable[Entry]) -> Ledger:
        """The state after all entries."""
        ledger = cls()
        for entry in entries:
            ledger.apply(entry)
        return ledger

    def apply(self, entry: Entry) -> None:
        """Takes one entry in; an undo or redo with nothing to work on changes nothing."""
        if entry.kind == "decide" and entry.decision is not None:
            self.done.append(entry.decision)
            self.undone.clear()
        elif entry.kind == "undo" and self.done:
            self.undone.append(self.done.pop())
        elif entry.kind == "redo" and self.undone:
            self.done.append(self.undone.pop())

    @property
    def standing(self) -> dict[str, Decision]:
        """The last decision on each finding, in the order in which they were taken."""
        latest: dict[str, Decision] = {}
        for decision in self.done:
            latest.pop(decision.finding, None)
            latest[decision.finding] = decision
        return latest
