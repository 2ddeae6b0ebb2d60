"""What the crew decided, as a log that only grows: deciding, undoing and doing again are all entries in it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any, Literal

from mirkle.core.messages import gettext_noop
from mirkle.core.notebook.passes import Pass

# What each answer is called, on every screen and in every report.
ANSWER_WORDS = {
    "mark": gettext_noop("marked"),
    "keep": gettext_noop("kept as written"),
    "talk": gettext_noop("to talk about"),
    "video": gettext_noop("to look at on the video"),
}

# Who said so.
BY = (gettext_noop("driver"), gettext_noop("co-driver"), gettext_noop("both"))
# The kinds of entry in the log.
ENTRIES = ("decide", "undo", "redo", "anchor", "conflict")


@dataclass(frozen=True)
class NotePlace:
    """The notes ``first`` to ``last`` of a book. Their numbers change with every better reading; what they read (``text``) and where that
    begins in the book's text (``at``, characters from its start) does not. Both are empty in a file of an old format until it is opened."""

    first: int
    last: int
    text: str = ""
    at: int = -1


@dataclass(frozen=True)
class RoadPlace:
    """A stretch of road: ``from_s`` to ``to_s`` on the clock of the recording of pass ``of_pass``, which no review moves; ``from_m`` to
    ``to_m`` are the metres from the start at the time, for when that recording can't be asked."""

    of_pass: int
    from_m: float
    to_m: float
    from_s: float | None = None
    to_s: float | None = None


@dataclass(frozen=True, kw_only=True)
class Decision:
    """Something that the crew decided, of one of the kinds below.

    A later decision with the same ``key`` replaces it. Its place is kept in two ways that no review can move: in the book (``notes``) and
    on the road (``road``). ``by`` is who said so. ``extra`` holds keys that a newer program wrote: they are written back as they came.
    """

    key: str
    notes: NotePlace | None = None
    road: RoadPlace | None = None
    by: str = ""
    remark: str = ""
    extra: Mapping[str, Any] = field(default_factory=dict, hash=False)

    @property
    def from_m(self) -> float | None:
        """Where it begins, metres from the start."""
        return self.road.from_m if self.road is not None else None


@dataclass(frozen=True, kw_only=True)
class OnNotes(Decision):
    """A decision that is nothing without its notes."""

    notes: NotePlace

    @property
    def first_note(self) -> int:
        """The first of its notes."""
        return self.notes.first

    @property
    def last_note(self) -> int:
        """The last of its notes."""
        return self.notes.last


@dataclass(frozen=True, kw_only=True)
class NoteChange(OnNotes):
    """``text`` shall stand instead of the notes. ``finding_kind`` is the kind of finding that it answers, empty where there was none;
    ``seen`` what was seen on the video, where it rests on that (see :mod:`mirkle.core.notebook.observed`)."""

    text: str
    finding_kind: str = ""
    seen: str = ""

    @property
    def answer(self) -> str:
        """What it is among the answers to a finding."""
        return gettext_noop("mark")


@dataclass(frozen=True, kw_only=True)
class FindingAnswer(Decision):
    """The note of a finding is kept, to be talked over, or to be looked at on the video. ``finding_kind`` is empty in a file of an old
    format until it is opened."""

    answer: Literal["keep", "talk", "video"]
    finding_kind: str = ""


@dataclass(frozen=True, kw_only=True)
class Observation(OnNotes):
    """What was ``seen`` of a note on the video, where nothing was written for it: it is right, or to be talked over."""

    seen: str
    answer: Literal["keep", "talk"]


@dataclass(frozen=True, kw_only=True)
class ChangeAnswer(OnNotes):
    """An answer to what a later pass says of a note that was changed (``change``), or kept against a finding (``kept``)."""

    about: Literal["change", "kept"]
    answer: Literal["keep", "talk"]


@dataclass(frozen=True, kw_only=True)
class Addition(Decision):
    """A ``hazard`` that the car met and no sensor saw, or a ``condition`` that holds for the next pass only: words at a place, which never
    enter the book's own text. Where it was seen on a video, its place is behind a note until a recording knows that note's. A condition
    that was reported says ``what`` it is and how bad (``level`` 1 to 3, 0 unknown; :mod:`mirkle.core.notebook.conditions`)."""

    kind: Literal["hazard", "condition"]
    words: str
    seen: str = ""
    what: str = ""
    level: int = 0


@dataclass(frozen=True, kw_only=True)
class CallTap(OnNotes):
    """When a note was called, as somebody pressed a key for it: seconds of the sound of a pass."""

    of_pass: int
    sound_s: float


@dataclass(frozen=True, kw_only=True)
class CopyTick(OnNotes):
    """Whether somebody ticked that a change stands in the paper book, and what it read then."""

    copied: bool
    text: str


@dataclass(frozen=True, kw_only=True)
class PassChange(Decision):
    """What became of a pass itself: its files, or what was set by hand about it."""

    before: Pass
    after: Pass


@dataclass(frozen=True, kw_only=True)
class Removal(Decision):
    """The decision of the same key was taken away; ``words`` are what it said."""

    words: str = ""


@dataclass(frozen=True, kw_only=True)
class UnknownDecision(Decision):
    """A decision of a ``type`` that only a newer program knows: kept in the log, counted, and shown nowhere."""

    type: str


@dataclass(frozen=True)
class Entry:
    """One line of the log: ``decide`` with its decision, ``undo`` or ``redo`` of the entry number ``of`` (0: the last one),
    ``anchor``, which gives the decision of entry ``of`` its place in the form of today, or ``conflict``: the decisions of the entries
    ``of`` and ``against`` were made in two copies of the stage, neither of which knew the other. ``number`` is the entry's own, 0 before
    it is kept. Any other kind was written by a newer program."""

    kind: str
    decision: Decision | None = None
    of: int = 0
    against: int = 0
    number: int = field(default=0, compare=False)

    @property
    def is_unknown(self) -> bool:
        """Whether it was written by a newer program, as something that this one doesn't know."""
        return self.kind not in ENTRIES or isinstance(self.decision, UnknownDecision)


@dataclass
class Ledger:
    """The state that a log adds up to: ``decisions`` by the numbers of their entries; ``done`` and ``undone`` are such numbers in the order
    in which the decisions were made, or taken back; ``conflicts`` are pairs of such numbers."""

    decisions: dict[int, Decision] = field(default_factory=dict)
    done: list[int] = field(default_factory=list)
    undone: list[int] = field(default_factory=list)
    conflicts: list[tuple[int, int]] = field(default_factory=list)

    @classmethod
    def of(cls, entries: Iterable[Entry]) -> Ledger:
        """The state after all entries."""
        ledger = cls()
        for entry in entries:
            ledger.apply(entry)
        return ledger

    def apply(self, entry: Entry) -> None:
        """Takes one entry in; an undo or redo that finds nothing to work on changes nothing."""
        if entry.decision is not None:
            self._take(entry, entry.decision)
        elif entry.kind == "undo":
            _move(entry.of, self.done, self.undone)
        elif entry.kind == "redo":
            if entry.of in self.decisions and entry.of not in (*self.done, *self.undone):
                # Something was decided elsewhere meanwhile, of which whoever pressed redo did not know.
                self.undone.append(entry.of)
            _move(entry.of, self.undone, self.done)
        elif entry.kind == "conflict":
            self.conflicts.append((entry.of, entry.against))

    def _take(self, entry: Entry, decision: Decision) -> None:
        if entry.kind == "decide":
            # An entry that was never kept has no number: it gets one that no kept entry has.
            number = entry.number or -1 - len(self.decisions)
            self.decisions[number] = decision
            self.done.append(number)
            self.undone.clear()
        elif entry.kind == "anchor" and entry.of in self.decisions:
            self.decisions[entry.of] = decision

    @property
    def open_conflicts(self) -> list[tuple[int, int]]:
        """The pairs that nobody has settled: neither was taken back, and nothing was decided since in the place of either."""
        standing = self.standing
        place = {number: i for i, number in enumerate(self.done)}
        found = []
        for one, other in self.conflicts:
            if one in place and other in place:
                earlier, later = sorted((one, other), key=place.__getitem__)
                keys = {self.decisions[number].key for number in (one, other)}
                # Two decisions under one key: the later stands. Under two keys: both do.
                if {standing[key] for key in keys} == ({later} if len(keys) == 1 else {earlier, later}):
                    found.append((earlier, later))
        return found

    @property
    def standing(self) -> dict[str, int]:
        """The number of the last decision of each key, in the order in which they were made."""
        latest: dict[str, int] = {}
        for number in self.done:
            key = self.decisions[number].key
            latest.pop(key, None)
            latest[key] = number
        return latest


def _move(number: int, source: list[int], target: list[int]) -> None:
    """Moves an entry's number, or the last one where no entry is named, from one list to the end of another."""
    at = next((i for i in reversed(range(len(source))) if number in (0, source[i])), None)
    if at is not None:
        target.append(source.pop(at))
