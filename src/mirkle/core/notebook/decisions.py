"""What the crew decided, as a log that only grows: deciding, undoing and doing again are all entries in it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from mirkle.core.messages import gettext_noop

# Answers to a finding or a note, and everything else that can be decided; the kinds of entry in the log. A newer program may know more:
# what is not here is kept in the log, counted, and shown nowhere.
ANSWERS = (
    gettext_noop("mark"), gettext_noop("keep"), gettext_noop("talk"), gettext_noop("video"), gettext_noop("hazard"),
    gettext_noop("condition"), "gone", "moment", "pass", "copied", "not-copied",
)  # fmt: skip

# Who said so.
BY = (gettext_noop("driver"), gettext_noop("co-driver"), gettext_noop("both"))
ENTRIES = ("decide", "undo", "redo", "anchor")


@dataclass(frozen=True)
class Decision:
    """The answer to one finding, or something that the crew added itself.

    ``finding`` is the name that it is filed under: a later decision of the same name replaces it. The part before the ``@`` says what it
    is about (:attr:`topic`). ``mark`` puts ``text`` in place of the notes ``first_note`` to ``last_note``; ``keep``, ``talk`` and
    ``video`` change nothing. A ``hazard`` is what the car met and no sensor saw, a ``condition`` holds for the next pass only; both are
    words at a place and never enter the book's own text. ``gone`` takes either away. ``by`` is who said so. ``seen`` says what was seen
    on the video (see :mod:`mirkle.core.notebook.observed`), where the decision rests on that. A ``moment`` is when a note was called, as somebody
    pressed a key for it: seconds of the sound in ``text``.

    Its place is kept in two ways that no review can move (see :mod:`mirkle.core.notebook.anchors`):

    - on the road: ``from_s`` to ``to_s``, seconds on the clock of the recording of pass ``of_pass``; ``from_m`` to ``to_m`` are the metres
      from the start at the time, for when that recording can't be asked;
    - in the book: ``old`` is what the notes read, ``at`` where they begin in the book's text (characters from its start).

    ``kind`` is the kind of finding that was answered, empty where there was none. ``extra`` holds keys that a newer program wrote: they
    are written back as they came.
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
    kind: str = ""
    of_pass: int = 0
    from_s: float | None = None
    to_s: float | None = None
    old: str = ""
    at: int = -1
    extra: Mapping[str, Any] = field(default_factory=dict, hash=False)

    @property
    def topic(self) -> str:
        """What it is about: a kind of finding, ``note``, ``seen``, ``copied``, ``moment``, ``change``, ``kept``, ``pass``, …"""
        return self.finding.partition("@")[0]


@dataclass(frozen=True)
class Entry:
    """One line of the log: ``decide`` with its decision, ``undo`` or ``redo`` of the entry number ``of`` (0: the last one), or
    ``anchor``, which gives the decision of entry ``of`` its place in the form of today. ``number`` is the entry's own, 0 before it is
    kept. Any other kind was written by a newer program."""

    kind: str
    decision: Decision | None = None
    of: int = 0
    number: int = field(default=0, compare=False)

    @property
    def is_unknown(self) -> bool:
        """Whether it was written by a newer program, as something that this one doesn't know."""
        return self.kind not in ENTRIES or (self.decision is not None and self.decision.answer not in ANSWERS)


@dataclass
class Ledger:
    """The state that a log adds up to: ``decisions`` by the numbers of their entries; ``done`` and ``undone`` are such numbers in the order
    in which the decisions were made, or taken back."""

    decisions: dict[int, Decision] = field(default_factory=dict)
    done: list[int] = field(default_factory=list)
    undone: list[int] = field(default_factory=list)

    @classmethod
    def of(cls, entries: Iterable[Entry]) -> Ledger:
        """The state after all entries."""
        ledger = cls()
        for entry in entries:
            ledger.apply(entry)
        return ledger

    def apply(self, entry: Entry) -> None:
        """Takes one entry in; an undo or redo that finds nothing to work on changes nothing."""
        if entry.kind == "decide" and entry.decision is not None:
            # An entry that was never kept has no number: it gets one that no kept entry has.
            number = entry.number or -1 - len(self.decisions)
            self.decisions[number] = entry.decision
            self.done.append(number)
            self.undone.clear()
        elif entry.kind == "undo":
            _move(entry.of, self.done, self.undone)
        elif entry.kind == "redo":
            if entry.of in self.decisions and entry.of not in self.done and entry.of not in self.undone:
                # Something was decided elsewhere meanwhile, of which whoever pressed redo did not know.
                self.undone.append(entry.of)
            _move(entry.of, self.undone, self.done)
        elif entry.kind == "anchor" and entry.decision is not None and entry.of in self.decisions:
            self.decisions[entry.of] = entry.decision

    @property
    def standing(self) -> dict[str, int]:
        """The number of the last decision of each name, in the order in which they were made."""
        latest: dict[str, int] = {}
        for number in self.done:
            name = self.decisions[number].finding
            latest.pop(name, None)
            latest[name] = number
        return latest


def _move(number: int, source: list[int], target: list[int]) -> None:
    """Moves an entry's number, or the last one where no entry is named, from one list to the end of another."""
    at = next((i for i in reversed(range(len(source))) if number in (0, source[i])), None)
    if at is not None:
        target.append(source.pop(at))


def in_todays_form(decision: Decision) -> Decision:
    """A decision of an older program with what its name says in its fields: which notes it is about, and of which pass it is."""
    topic, _, rest = decision.finding.partition("@")
    if topic == "copied" and decision.first_note < 0:
        first, _, last = rest.partition("-")
        if first.isdecimal() and last.isdecimal():
            return replace(decision, first_note=int(first), last_note=int(last))
    if topic in ("change", "kept") and decision.first_note < 0 and rest.isdecimal():
        return replace(decision, first_note=int(rest), last_note=int(rest))
    if topic in ("moment", "pass") and not decision.of_pass:
        number = rest.partition("-")[0]
        return replace(decision, of_pass=int(number)) if number.isdecimal() else decision
    return decision
