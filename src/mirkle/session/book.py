"""The crew's book: what was decided about each finding, and the edition that these decisions add up to."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace
from typing import Protocol

from mirkle.core.book.decisions import Decision, Entry, Ledger
from mirkle.core.book.edition import Change, Edition
from mirkle.core.book.seen import SEEN, Seen
from mirkle.core.clauses import Clause, in_a_row
from mirkle.core.errors import UnusableNotes
from mirkle.core.notes.language import Language
from mirkle.core.notes.model import Reading
from mirkle.core.notes.school import School
from mirkle.core.notes.writing import Hand
from mirkle.core.verdict.findings import Finding, Proposal
from mirkle.core.verdict.kinds import KINDS
from mirkle.files.project import Pass, Project, pass_text
from mirkle.session.passes import same_edition
from mirkle.session.signal import Signal

# Findings whose proposal lets the car go faster take the word of both.
BOTH, ADDITIONS = "both", ("hazard", "condition")
# An entry for what became of a pass itself (its book, its words, what was set by hand): how it is now, and in the remark how it was.
ON_PASS = "pass"
MOMENT, SEEN_ON = "moment", "seen@"
# A tick in the list of changes: it stands in the paper book.
COPIED, NOT_COPIED = "copied", "not-copied"
_SECONDS = re.compile(r"\d{1,6}\.\d\d$")


class Judged(Protocol):
    """What a book's decisions are about: a review, or the book alone where nothing was measured."""

    @property
    def reading(self) -> Reading: ...
    @property
    def school(self) -> School: ...
    @property
    def findings(self) -> tuple[Finding, ...]: ...
    def place_m(self, note: int) -> float:
        """Where a note's bend ends, metres from the start; -1 where nobody knows."""
        ...


class Book:
    """The decisions on a review, ``taken_on`` a pass. Every one is in the project file before anybody is told of it.

    They are about the edition that was read on that pass: what was decided on another pass that read the same stands here, too.

    Signal: ``changed`` (the decisions did).
    """

    def __init__(self, project: Project, judged: Judged, language: Language, taken_on: int = 1) -> None:
        self._project, self._judged, self._taken_on = project, judged, taken_on
        self.changed = Signal()
        self._about = same_edition(project, taken_on)
        self._ledger = Ledger.of(fitting(project.entries(self._about), len(judged.reading.notes)))
        self._hand = Hand(judged.reading, language)
        self._edition: Edition | None = None
        self._decisions: dict[str, Decision] | None = None

    @property
    def judged(self) -> Judged:
        """What the decisions are about."""
        return self._judged

    def over(self, judged: Judged) -> None:
        """Goes on with a review in which a note was moved by hand; what was decided stands where its finding does."""
        self._judged, self._decisions, self._edition = judged, None, None

    # What stands

    @property
    def decisions(self) -> dict[str, Decision]:
        """The standing decision on each finding by its id."""
        if self._decisions is None:
            standing = self._ledger.standing
            self._decisions = {f.id: standing[f.id] for f in self.judged.findings if f.id in standing}
        return self._decisions

    @property
    def edition(self) -> Edition:
        """The book as it stands after the decisions."""
        if self._edition is None:
            self._edition = Edition(self.judged.reading, self._ledger.standing.values())
        return self._edition

    @property
    def standing(self) -> dict[str, Decision]:
        """The last decision on each thing that was decided about, findings or not."""
        return self._ledger.standing

    @property
    def additions(self) -> list[Decision]:
        """Hazards and conditions that the crew added, in the order of the road."""
        found = [self._placed(d) for d in self._ledger.standing.values() if d.answer in ADDITIONS]
        return sorted(found, key=lambda d: (d.from_m, d.first_note))

    def _placed(self, addition: Decision) -> Decision:
        """What was seen behind a note on a video, at that note's place where a recording knows it by now."""
        if addition.from_m >= 0:
            return addition
        at_m = self.judged.place_m(addition.first_note)
        return replace(addition, from_m=at_m, to_m=at_m)

    @property
    def dangers_left(self) -> int:
        """Findings called danger that nobody has decided on."""
        decided = self.decisions
        return sum(f.severity == "danger" and f.id not in decided for f in self.judged.findings)

    # What could be written

    def proposal(self, finding: Finding) -> Proposal | None:
        """What to write for a finding, taking in what was already marked on the same note."""
        proposed = finding.proposal
        decided = self.decisions.get(finding.id)
        if decided is not None and decided.answer == "mark":
            return Proposal(decided.first_note, decided.last_note, decided.text, None)
        if proposed is None or proposed.rewording is None:
            return proposed
        mark = self.edition.mark_on(proposed.first_note)
        if mark is None:
            return proposed
        first = self._hand.read_back(mark.text)[0]
        reworded = self._hand.reworded(first, proposed.rewording)
        text = mark.text[: first.span.start] + reworded + mark.text[first.span.end :]
        return Proposal(mark.first_note, mark.last_note, text, None)

    def read_back(self, text: str) -> Clause:
        """A replacement in plain words, as it was understood.

        Raises
        ------
        UnusableNotes
            It is no note; the sentence says why.
        """
        return in_a_row([n.read_back for n in self._hand.read_back(text)], "; ")

    def wants_both(self, finding: Finding | None, note: int, text: str) -> bool:
        """Whether marking ``text`` makes the note faster, which takes the word of driver and co-driver.

        By what was found, or because a corner in it is given a more open grade than it had.
        """
        if finding is not None and KINDS[finding.kind].faster:
            return True
        return self._opens(self._replaced(finding, note, text), text)

    def _opens(self, replaced: Proposal, text: str) -> bool:
        """Whether a corner is given a more open grade than it had."""
        try:
            new = [n for n in self._hand.read_back(text) if n.is_corner]
        except UnusableNotes:
            return False
        old = [n for n in self.judged.reading.notes[replaced.first_note : replaced.last_note + 1] if n.is_corner]
        position = self.judged.school.tightest_position
        return any(position(b) > position(a) + 0.1 for a, b in zip(old, new, strict=False))

    def _replaced(self, finding: Finding | None, note: int, text: str) -> Proposal:
        proposal = self.proposal(finding) if finding is not None else None
        if proposal is not None:
            return proposal
        mark = self.edition.mark_on(note)
        first, last = (mark.first_note, mark.last_note) if mark is not None else (note, note)
        return Proposal(first, last, text, None)

    def can_be_marked(self, finding: Finding | None, note: int, text: str) -> bool:
        """Whether a text is a note, and another than stands there already."""
        try:
            self._hand.read_back(text)
        except UnusableNotes:
            return False
        replaced = self._replaced(finding, note, text)
        return text.strip() != self.edition.old_text(replaced.first_note, replaced.last_note)

    # Deciding

    def mark(self, finding: Finding | None, note: int, text: str, *, by: str = "", remark: str = "") -> None:
        """Marks a finding, or a note where there is none: ``text`` shall stand instead.

        Raises
        ------
        UnusableNotes
            It is no note, or a faster one without the word of both.
        UnusableProject
            It can't be kept.
        """
        subject = finding.id if finding is not None else f"note@{note}"
        both = finding is not None and KINDS[finding.kind].faster
        self._mark(subject, self._replaced(finding, note, text), text, by=by, remark=remark, faster=both)

    def _mark(
        self, subject: str, replaced: Proposal, text: str, *, by: str, remark: str, seen: str = "", faster: bool = False
    ) -> None:
        self._hand.read_back(text)
        first, last = replaced.first_note, replaced.last_note
        if text.strip() == self.edition.old_text(first, last):
            raise UnusableNotes("this is what is written already", mend="edit it, or keep the note")
        if by != BOTH and (faster or self._opens(replaced, text)):
            raise UnusableNotes("this makes the note faster", mend="let both of you say yes to it")
        decision = Decision(subject, "mark", first, last, text.strip(), by=by, remark=remark, seen=seen)
        self.edition.check_can_take(decision)
        self._append(Entry("decide", decision))

    def answer(self, finding: Finding, answer: str, *, by: str = "", remark: str = "") -> None:
        """Answers a finding without a change: ``keep`` the note, ``talk`` it over, look at the ``video``."""
        self.answer_on(finding.id, answer, by=by, remark=remark)

    def answer_on(self, subject: str, answer: str, *, by: str = "", remark: str = "") -> None:
        """Answers something that is no finding of this review, such as a change, by the name that it is filed under."""
        standing = self._ledger.standing.get(subject)
        if standing is not None and (standing.answer, standing.by, standing.remark) == (answer, by, remark):
            return  # it is so already: a key pressed twice is no second decision
        self._append(Entry("decide", Decision(subject, answer, by=by, remark=remark)))

    def add(self, kind: str, from_m: float, to_m: float, words: str, *, by: str = "") -> None:
        """Adds a ``hazard`` that no sensor saw, or a ``condition`` for the next pass only, at a place.

        Raises
        ------
        UnusableNotes
            There are no words.
        UnusableProject
            It can't be kept.
        """
        if not words.strip():
            raise UnusableNotes("there are no words for it", mend="say what it is, such as: stones inside")
        low, high = sorted((from_m, to_m))
        name = f"{kind}@{low:.0f}-{len(self._ledger.done)}"
        self._append(Entry("decide", Decision(name, kind, text=words.strip(), by=by, from_m=low, to_m=high)))

    def see(self, seen: Seen, note: int, text: str = "", *, by: str = "", remark: str = "") -> None:
        """Answers a note by what was seen on the video: ``text`` shall stand instead of it, or be the words of a hazard. Without a text
        it is right as it was called, or to be talked over.

        A later answer on the same note takes the place of an earlier one; hazards stand beside it.

        Raises
        ------
        UnusableNotes
            The text is no note, or a faster one without the word of both; a hazard has no words.
        UnusableProject
            It can't be kept.
        """
        if seen == "hazard":
            if not text.strip():
                raise UnusableNotes("there are no words for it", mend="say what it is, such as: stones inside")
            name, answer, text = f"hazard@n{note}-{len(self._ledger.done)}", "hazard", text.strip()
            self._append(Entry("decide", Decision(name, answer, note, note, text, by, remark, seen=seen)))
        elif text:
            faster, there = SEEN[seen].faster, self._replaced(None, note, text)
            self._mark(seen_on(note), there, text, by=by, remark=remark, seen=seen, faster=faster)
        else:
            answer = "keep" if seen == "as-called" else "talk"
            decision = Decision(seen_on(note), answer, note, note, by=by, remark=remark, seen=seen)
            if self._ledger.standing.get(decision.finding) != decision:
                self._append(Entry("decide", decision))

    def seen(self, note: int) -> Decision | None:
        """What was seen of a note on the video, but for hazards."""
        return self._ledger.standing.get(seen_on(note))

    @property
    def all_seen(self) -> list[Decision]:
        """Everything that was seen on the video but hazards, in the order of the book."""
        found = (self.seen(note.index) for note in self.judged.reading.notes)
        return [d for d in found if d is not None]

    # When a note was called, as somebody pressed a key for it

    def tap(self, note: int, sound_s: float) -> None:
        """Keeps that a note was called at a moment of this pass's sound.

        Raises
        ------
        UnusableProject
            It can't be kept.
        """
        subject = f"{MOMENT}@{self._taken_on}-{note}"
        self._append(Entry("decide", Decision(subject, MOMENT, note, note, text=f"{sound_s:.2f}")))

    @property
    def taps(self) -> dict[int, float]:
        """When notes were called on this pass, by key, seconds of its sound."""
        standing, of_pass = self._ledger.standing.values(), f"{MOMENT}@{self._taken_on}-"
        return {d.first_note: float(d.text) for d in standing if d.answer == MOMENT and d.finding.startswith(of_pass)}

    def take_away(self, addition: Decision) -> None:
        """Takes a hazard or condition away again."""
        self._append(Entry("decide", replace(addition, answer="gone")))

    # Copying into the paper book

    def is_copied(self, change: Change) -> bool:
        """Whether somebody has ticked that a change stands in the paper book as it is now."""
        ticked = self._ledger.standing.get(_copy_of(change))
        return ticked is not None and ticked.answer == COPIED and ticked.text == change.new

    def tick_copied(self, change: Change, *, copied: bool = True) -> None:
        """Ticks a change as copied into the paper book, or takes the tick away."""
        if copied is not self.is_copied(change):
            answer = COPIED if copied else NOT_COPIED
            self._append(Entry("decide", Decision(_copy_of(change), answer, text=change.new)))

    @property
    def to_copy(self) -> list[Change]:
        """The changes that nobody has ticked as copied."""
        return [c for c in self.edition.changes if not self.is_copied(c)]

    def note_pass(self, before: Pass, now: Pass) -> None:
        """Notes what became of a pass, so that undo takes that back, too."""
        self._append(pass_entry(before, now))

    # Taking back

    @property
    def history(self) -> list[Decision]:
        """Every decision that stands or was taken over by a later one, the latest first: what undo will take back."""
        return self._ledger.done[::-1]

    @property
    def undone(self) -> list[Decision]:
        """Every decision that was taken back, the latest first: what redo will make again."""
        return self._ledger.undone[::-1]

    def undo(self) -> Decision | None:
        """Takes the last decision back, and says which; ``None`` where there is none."""
        return self._step("undo", self.history)

    def redo(self) -> Decision | None:
        """Makes the decision that was last taken back again, and says which; ``None`` where there is none."""
        return self._step("redo", self.undone)

    def _step(self, action: str, decisions: list[Decision]) -> Decision | None:
        if not decisions:
            return None
        self._append(Entry(action))
        return decisions[0]

    def again(self) -> None:
        """Reads the decisions anew: another hand on the same stage may have taken some."""
        entries = fitting(self._project.entries(self._about), len(self.judged.reading.notes))
        self._ledger, self._edition, self._decisions = Ledger.of(entries), None, None
        self.changed.emit()

    def _append(self, entry: Entry) -> None:
        self._project.append(entry, self._taken_on)
        self._ledger.apply(entry)
        self._edition = self._decisions = None
        self.changed.emit()


def seen_on(note: int) -> str:
    """The name under which what was seen of a note is filed."""
    return f"{SEEN_ON}{note}"


def _copy_of(change: Change) -> str:
    """The name under which the tick on a change is filed."""
    return f"{COPIED}@{change.first_note}-{change.last_note}"


def pass_entry(before: Pass, now: Pass) -> Entry:
    """The entry of the log for what became of a pass."""
    return Entry("decide", Decision(f"{ON_PASS}@{now.id}", ON_PASS, text=pass_text(now), remark=pass_text(before)))


def fitting(entries: Sequence[Entry], count: int) -> list[Entry]:
    """The entries whose decisions are about notes of a book of so many; a number that it has not comes from a damaged file."""

    def fits(decision: Decision) -> bool:
        on_a_note = decision.answer in ("mark", MOMENT)
        if decision.answer == MOMENT and not _SECONDS.match(decision.text):
            return False
        return -1 <= decision.first_note <= decision.last_note < count and (not on_a_note or decision.first_note >= 0)

    return [e for e in entries if e.decision is None or fits(e.decision)]
