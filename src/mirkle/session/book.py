"""The crew's book: what was decided about each finding, and the edition that these decisions add up to."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from mirkle.core.book.decisions import Decision, Entry, Ledger
from mirkle.core.book.edition import Change, Edition
from mirkle.core.clauses import Clause, in_a_row
from mirkle.core.errors import UnusableNotes
from mirkle.core.notes.language import Language
from mirkle.core.notes.writing import Hand
from mirkle.core.review import Review
from mirkle.core.verdict.findings import Finding, Proposal
from mirkle.core.verdict.kinds import KINDS
from mirkle.files.project import Pass, Project, pass_text
from mirkle.session.passes import same_edition
from mirkle.session.signal import Signal

# Findings whose proposal lets the car go faster take the word of both.
BOTH, ADDITIONS = "both", ("hazard", "condition")
# An entry for what became of a pass itself (its book, its words, what was set by hand): how it is now, and in the remark how it was.
ON_PASS = "pass"
# A tick in the list of changes: it stands in the paper book.
COPIED, NOT_COPIED = "copied", "not-copied"


class Book:
    """The decisions on a review, ``taken_on`` a pass. Every one is in the project file before anybody is told of it.

    They are about the edition that was read on that pass: what was decided on another pass that read the same stands here, too.

    Signal: ``changed`` (the decisions did).
    """

    def __init__(self, project: Project, review: Review, language: Language, taken_on: int = 1) -> None:
        self._project, self._review, self._taken_on = project, review, taken_on
        self.changed = Signal()
        self._about = same_edition(project, taken_on)
        self._ledger = Ledger.of(fitting(project.entries(self._about), len(review.notes)))
        self._hand = Hand(review.reading, language)
        self._edition: Edition | None = None
        self._decisions: dict[str, Decision] | None = None

    @property
    def review(self) -> Review:
        """What the decisions are about."""
        return self._review

    def over(self, review: Review) -> None:
        """Goes on with a review in which a note was moved by hand; what was decided stands where its finding does."""
        self._review, self._decisions, self._edition = review, None, None

    # What stands

    @property
    def decisions(self) -> dict[str, Decision]:
        """The standing decision on each finding by its id."""
        if self._decisions is None:
            standing = self._ledger.standing
            self._decisions = {f.id: standing[f.id] for f in self.review.findings if f.id in standing}
        return self._decisions

    @property
    def edition(self) -> Edition:
        """The book as it stands after the decisions."""
        if self._edition is None:
            self._edition = Edition(self.review.reading, self._ledger.standing.values())
        return self._edition

    @property
    def standing(self) -> dict[str, Decision]:
        """The last decision on each thing that was decided about, findings or not."""
        return self._ledger.standing

    @property
    def additions(self) -> list[Decision]:
        """Hazards and conditions that the crew added, in the order of the road."""
        standing = self._ledger.standing.values()
        return sorted((d for d in standing if d.answer in ADDITIONS), key=lambda d: d.from_m)

    @property
    def dangers_left(self) -> int:
        """Findings called danger that nobody has decided on."""
        decided = self.decisions
        return sum(f.severity == "danger" and f.id not in decided for f in self.review.findings)

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
        replaced = self._replaced(finding, note, text)
        try:
            new = [n for n in self._hand.read_back(text) if n.is_corner]
        except UnusableNotes:
            return False
        old = [n for n in self.review.notes[replaced.first_note : replaced.last_note + 1] if n.is_corner]
        position = self.review.school.tightest_position
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
        replaced = self._replaced(finding, note, text)
        self._hand.read_back(text)
        if text.strip() == self.edition.old_text(replaced.first_note, replaced.last_note):
            raise UnusableNotes("this is what is written already", mend="edit it, or keep the note")
        if by != BOTH and self.wants_both(finding, note, text):
            raise UnusableNotes("this makes the note faster", mend="let both of you say yes to it")
        subject = finding.id if finding is not None else f"note@{note}"
        decision = Decision(
            subject, "mark", replaced.first_note, replaced.last_note, text.strip(), by=by, remark=remark
        )
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
        entries = fitting(self._project.entries(self._about), len(self.review.notes))
        self._ledger, self._edition, self._decisions = Ledger.of(entries), None, None
        self.changed.emit()

    def _append(self, entry: Entry) -> None:
        self._project.append(entry, self._taken_on)
        self._ledger.apply(entry)
        self._edition = self._decisions = None
        self.changed.emit()


def _copy_of(change: Change) -> str:
    """The name under which the tick on a change is filed."""
    return f"{COPIED}@{change.first_note}-{change.last_note}"


def pass_entry(before: Pass, now: Pass) -> Entry:
    """The entry of the log for what became of a pass."""
    return Entry("decide", Decision(f"{ON_PASS}@{now.id}", ON_PASS, text=pass_text(now), remark=pass_text(before)))


def fitting(entries: Sequence[Entry], count: int) -> list[Entry]:
    """The entries whose decisions are about notes of a book of so many; a number that it has not comes from a damaged file."""

    def fits(decision: Decision) -> bool:
        marks = decision.answer == "mark"
        return -1 <= decision.first_note <= decision.last_note < count and (not marks or decision.first_note >= 0)

    return [e for e in entries if e.decision is None or fits(e.decision)]
