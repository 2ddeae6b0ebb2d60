"""The open stage: its material, the review of the chosen pass, the chosen finding, and the crew's decisions."""

from __future__ import annotations

import contextlib
import os
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from mirkle.core.book.decisions import Decision, Entry, Ledger
from mirkle.core.book.edition import Edition
from mirkle.core.by_hand import ByHand
from mirkle.core.errors import MirkleError, UnusableNotes
from mirkle.core.lineup.called import Pin
from mirkle.core.notes.model import Note
from mirkle.core.notes.writing import Hand
from mirkle.core.review import Review, review_again
from mirkle.core.verdict.findings import Finding, Proposal
from mirkle.files.by_hand import by_hand_json
from mirkle.files.notes_text import language_of
from mirkle.files.project import Material, Project
from mirkle.files.review_cache import cache_key, pack_review, unpack_review
from mirkle.session.material import (
    Inputs,
    Measurements,
    Progress,
    _silent,
    agreed,
    by_hand_name,
    by_hand_of,
    crew_of,
    inputs_of,
    review_material,
)
from mirkle.session.signal import Signal

# Which findings a crew may want to see alone.
SHOWN: dict[str, Callable[[Finding], bool]] = {
    "all": lambda _: True,
    "danger": lambda f: f.severity == "danger",
    "change": lambda f: f.severity in ("danger", "change"),
    "corners": lambda f: f.kind.startswith(("grade", "direction", "corner", "cut")),
    "shape": lambda f: f.kind.startswith(("tightens", "opens", "length", "distance")),
    "vertical": lambda f: f.kind.startswith(("jump", "crest", "bump", "dip", "maybe")),
    "words": lambda f: f.kind.startswith(("call", "said")),
    "pace": lambda f: f.kind in ("spare", "surprise"),
}
# Findings whose proposal lets the car go faster take the word of both.
BOTH, ADDITIONS = "both", ("hazard", "condition")
FASTER = ("grade-easier", "tightens-unmet", "opens-uncalled", "corner-unmet", "length-shorter")


class Stage:
    """One stage under review. Every decision is in the project file before anybody is told of it.

    Signals: ``chosen`` (a finding or note was chosen), ``decided`` (the decisions changed), ``reviewed`` (a note was moved
    by hand, and what was found changed with it).
    """

    def __init__(
        self, project: Project, review: Review, inputs: Inputs, measurements: Measurements | None = None
    ) -> None:
        self.project, self.review, self.inputs, self.run = project, review, inputs, inputs.run
        self.measurements = measurements or Measurements()
        self.chosen, self.decided, self.reviewed = Signal(), Signal(), Signal()
        self._ledger = Ledger.of(project.entries())
        self._crew = crew_of(inputs.crew)
        self.language = language_of(review.reading, self._crew)
        self._hand = Hand(review.reading, self.language)
        self.by_hand = by_hand_of(inputs, review.reading)
        self.measurements.know(self.run, self.by_hand.start_s, review.measured)
        self._by_id = {f.id: f for f in review.findings}
        self.order, self.shown = "risk", "all"
        self.finding: Finding | None = self._first_open()
        self.note: int = self.finding.note if self.finding else 0
        self._edition: Edition | None = None

    @classmethod
    def of_project(
        cls,
        project: Project,
        *,
        run_name: str | None = None,
        measurements: Measurements | None = None,
        progress: Progress = _silent,
    ) -> Stage:
        """Opens the stage in a project; a review that was made before is taken from there.

        ``measurements`` are passes that need not be measured again.

        Raises
        ------
        MirkleError
        """
        inputs = inputs_of(project.materials(), run_name=run_name)
        measurements = measurements or Measurements()
        kept = project.cached(_key_of(inputs))
        if kept is not None:
            try:
                return cls(project, unpack_review(kept), inputs, measurements)
            except ValueError:
                pass  # kept by another build: made again below
        review = review_material(inputs, measurements=measurements, progress=progress)
        progress("Keeping the review", 0.98)
        stage = cls(project, review, inputs, measurements)
        stage.keep_review()
        return stage

    def keep_review(self) -> None:
        """Keeps the review in the project, so that the stage opens at once the next time."""
        self.project.keep(_key_of(self.inputs), pack_review(self.review))

    # What was found, and what was decided about it

    @property
    def findings(self) -> tuple[Finding, ...]:
        """Most risk first."""
        return self.review.findings

    @property
    def listed(self) -> tuple[Finding, ...]:
        """The findings that are looked at now: those shown, in the order chosen."""
        shown = [f for f in self.findings if SHOWN[self.shown](f)]
        return tuple(sorted(shown, key=lambda f: f.from_m) if self.order == "stage" else shown)

    def arrange(self, *, order: str | None = None, shown: str | None = None) -> None:
        """Chooses the order (``risk`` or ``stage``) and which findings are shown (a key of :data:`SHOWN`)."""
        self.order, self.shown = order or self.order, shown or self.shown
        listed = self.listed
        if listed and self.finding not in listed:
            self.choose(listed[0])
        self.decided.emit()

    @property
    def decisions(self) -> dict[str, Decision]:
        """The standing decision on each finding by its id."""
        return {k: d for k, d in self._ledger.standing.items() if k in self._by_id}

    @property
    def edition(self) -> Edition:
        """The book as it stands after the decisions."""
        if self._edition is None:
            self._edition = Edition(self.review.reading, self._ledger.standing.values())
        return self._edition

    @property
    def dangers_left(self) -> int:
        """Findings called danger that nobody has decided on."""
        return sum(f.severity == "danger" and f.id not in self.decisions for f in self.findings)

    def findings_on(self, note: int) -> list[Finding]:
        """What was found on a note and is shown, most risk first."""
        return [f for f in self.findings if f.note == note and SHOWN[self.shown](f)]

    # Choosing

    def choose(self, finding: Finding) -> None:
        """Makes a finding the one that is looked at."""
        self.finding, self.note = finding, finding.note
        self.chosen.emit()

    def choose_note(self, note: int) -> None:
        """Makes a note the one that is looked at, with its first finding if it has one."""
        self.note = max(0, min(note, len(self.review.notes) - 1))
        on_it = self.findings_on(self.note)
        self.finding = on_it[0] if on_it else None
        self.chosen.emit()

    def step(self, by: int) -> None:
        """Goes to the next (1) or the one before (-1) of those listed; from a note without one to the nearest behind it."""
        listed = self.listed
        if not listed:
            return
        if self.finding not in listed:
            behind = next((f for f in listed if self.order == "stage" and f.note >= self.note), listed[0])
            self.choose(behind)
            return
        at = listed.index(self.finding)
        self.choose(listed[(at + by) % len(listed)])

    def _first_open(self) -> Finding | None:
        decided = self.decisions
        return next((f for f in self.findings if f.id not in decided), self.findings[0] if self.findings else None)

    def next_open(self) -> None:
        """Goes to the next finding that nobody has decided on, if there is one."""
        decided = self.decisions
        listed = self.listed
        at = listed.index(self.finding) if self.finding in listed else -1
        order = [*listed[at + 1 :], *listed[: at + 1]]
        following = next((f for f in order if f.id not in decided), None)
        if following is not None:
            self.choose(following)

    # Setting right by hand

    def set_by_hand(self, by_hand: ByHand) -> None:
        """Keeps what was set by hand in the project; opening the pass again takes it in.

        Raises
        ------
        UnusableProject
            It can't be kept.
        """
        material = Material("by-hand", by_hand_name(self.run), by_hand_json(by_hand, self.review.notes))
        self.project.add(material)
        self.by_hand, self.inputs = by_hand, replace(self.inputs, by_hand=material)

    def pin(self, note: int, at_m: float | None) -> None:
        """Puts a corner note on the bend at a place, or on none; its neighbours follow.

        Pins that it would have to jump over are taken out: a book is read in order.

        Raises
        ------
        UnusableProject
            It can't be kept.
        """
        moved = Pin(note, at_m)
        others = [p for p in self.by_hand.pins if p.note != note and not _crossed(p, moved)]
        self._mend(moved, tuple(sorted([*others, moved], key=lambda p: p.note)))

    def unpin(self, note: int) -> None:
        """Lets a pinned note find its own place again.

        Raises
        ------
        UnusableProject
            It can't be kept.
        """
        left = tuple(p for p in self.by_hand.pins if p.note != note)
        tie = next((t for t in self.review.lineup.ties if t.note == note), None)
        if tie is not None and len(left) < len(self.by_hand.pins):
            self._mend(Pin(note, tie.bend.apex_m if tie.bend is not None else None), left)

    def _mend(self, moved: Pin, pins: tuple[Pin, ...]) -> None:
        self.set_by_hand(replace(self.by_hand, pins=pins))
        self.review = agreed(review_again(self.review, self._crew, moved, self.by_hand))
        self._by_id = {f.id: f for f in self.review.findings}
        if self.finding is not None:
            self.finding = self._by_id.get(self.finding.id) or next(iter(self.findings_on(self.finding.note)), None)
        self.reviewed.emit()

    # Deciding

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
        notes = self._hand.read_back(mark.text)
        return Proposal(mark.first_note, mark.last_note, self._reworded(mark.text, notes, proposed), None)

    def _reworded(self, text: str, notes: tuple[Note, ...], proposed: Proposal) -> str:
        assert proposed.rewording is not None
        first = notes[0]
        return text[: first.span.start] + self._hand.reworded(first, proposed.rewording) + text[first.span.end :]

    def read_back(self, text: str) -> str:
        """A replacement in plain words, as it was understood.

        Raises
        ------
        UnusableNotes
            It is no note; the sentence says why.
        """
        return "; ".join(in_words(n) for n in self._hand.read_back(text))

    def wants_both(self, text: str) -> bool:
        """Whether marking ``text`` makes the note faster, which takes the word of driver and co-driver.

        By what was found, or because a corner in it is given a more open grade than it had.
        """
        if self.finding is not None and self.finding.kind in FASTER:
            return True
        proposal = self._replaced(text)
        try:
            new = [n for n in self._hand.read_back(text) if n.is_corner]
        except UnusableNotes:
            return False
        old = [n for n in self.review.notes[proposal.first_note : proposal.last_note + 1] if n.is_corner]
        position = self.review.school.tightest_position
        return any(position(b) > position(a) + 0.1 for a, b in zip(old, new, strict=False))

    def mark(self, text: str, *, by: str = "", remark: str = "") -> None:
        """Marks the chosen finding, or the chosen note where it has none: ``text`` shall stand instead.

        Raises
        ------
        UnusableNotes
            It is no note, or a faster one without the word of both.
        UnusableProject
            It can't be kept.
        """
        proposal = self._replaced(text)
        self._hand.read_back(text)
        if text.strip() == self.edition.old_text(proposal.first_note, proposal.last_note):
            raise UnusableNotes("this is what is written already", mend="edit it, or keep the note")
        if by != BOTH and self.wants_both(text):
            raise UnusableNotes("this makes the note faster", mend="let both of you say yes to it")
        decision = Decision(
            self._subject, "mark", proposal.first_note, proposal.last_note, text.strip(), by=by, remark=remark
        )
        self.edition.check_can_take(decision)
        self._append(Entry("decide", decision))

    def answer(self, answer: str, *, by: str = "", remark: str = "") -> None:
        """Answers the chosen finding without a change: ``keep`` the note, ``talk`` it over, look at the ``video``."""
        self._append(Entry("decide", Decision(self._chosen().id, answer, by=by, remark=remark)))

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

    @property
    def additions(self) -> list[Decision]:
        """Hazards and conditions that the crew added, in the order of the road."""
        standing = self._ledger.standing.values()
        return sorted((d for d in standing if d.answer in ADDITIONS), key=lambda d: d.from_m)

    @property
    def _subject(self) -> str:
        return self.finding.id if self.finding is not None else f"note@{self.note}"

    def _replaced(self, text: str) -> Proposal:
        proposal = self.proposal(self.finding) if self.finding is not None else None
        if proposal is not None:
            return proposal
        mark = self.edition.mark_on(self.note)
        first, last = (mark.first_note, mark.last_note) if mark is not None else (self.note, self.note)
        return Proposal(first, last, text, None)

    @property
    def history(self) -> list[Decision]:
        """Every decision that stands or was taken over by a later one, the latest first: what undo will take back."""
        return self._ledger.done[::-1]

    def _chosen(self) -> Finding:
        if self.finding is None:
            raise MirkleError("there is no finding on this note", mend="choose a note with a mark beside it")
        return self.finding

    @property
    def can_undo(self) -> bool:
        """Whether there is a decision to take back."""
        return bool(self._ledger.done)

    @property
    def can_redo(self) -> bool:
        """Whether there is a decision that was taken back."""
        return bool(self._ledger.undone)

    def undo(self) -> None:
        """Takes the last decision back and goes to its finding."""
        if self.can_undo:
            last = self._ledger.done[-1]
            self._append(Entry("undo"))
            self._show(last)

    def redo(self) -> None:
        """Takes the decision that was last taken back again."""
        if self.can_redo:
            last = self._ledger.undone[-1]
            self._append(Entry("redo"))
            self._show(last)

    def _append(self, entry: Entry) -> None:
        self.project.append(entry)
        self._ledger.apply(entry)
        self._edition = None
        self.decided.emit()

    def _show(self, decision: Decision) -> None:
        finding = self._by_id.get(decision.finding)
        if finding is not None:
            self.choose(finding)
        elif decision.finding.startswith("note@"):
            self.choose_note(decision.first_note)

    # The new edition

    def write_edition(self, path: Path) -> None:
        """Writes the new edition as text; an existing file is replaced only once the new one is whole.

        Raises
        ------
        MirkleError
        """
        write_whole(path, self.edition.text.encode("utf-8"))


def _key_of(inputs: Inputs) -> str:
    return cache_key((inputs.run, inputs.notes, inputs.calls, inputs.crew, inputs.by_hand, *inputs.others))


def _crossed(pin: Pin, moved: Pin) -> bool:
    """Whether two pins put their notes on the road the wrong way round."""
    if pin.at_m is None or moved.at_m is None:
        return False
    return (pin.note < moved.note) != (pin.at_m < moved.at_m)


def write_whole(path: Path, content: bytes) -> None:
    """Writes a file beside its place and moves it there, so that there is never half a file.

    Raises
    ------
    MirkleError
    """
    fresh = path.with_name(path.name + ".part")
    try:
        with fresh.open("wb") as file:
            file.write(content)
            file.flush()
            os.fsync(file.fileno())
        fresh.replace(path)
    except OSError as error:
        with contextlib.suppress(OSError):
            fresh.unlink()
        raise MirkleError(
            f"it can't be written ({error.strerror})", mend="choose another folder", where=str(path)
        ) from None


def in_words(note: Note) -> str:
    """A note in plain words, to be read back."""
    head = f"{note.direction.value} {note.grade}" if note.direction else ""
    parts = [*note.marks, *note.cautions, head, note.length or "", *note.changes, *note.features, *note.line_on_road]
    parts += note.objects
    words = ", ".join(p for p in parts if p) or "a distance"
    if note.distance_m is not None:
        return f"{words}, then {note.distance_m} metres"
    return f"{words}, {note.link}" if note.link else words


__all__ = ["Stage", "UnusableNotes", "in_words", "write_whole"]
