"""The crew's book: what was decided about each finding, and the edition that these decisions add up to."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import replace
from typing import Literal

from mirkle.core.errors import UnusableNotes
from mirkle.core.judging.finding_kinds import KINDS
from mirkle.core.judging.findings import Finding, Proposal
from mirkle.core.messages import Message, in_a_row, message
from mirkle.core.notebook.anchors import note_place
from mirkle.core.notebook.decisions import (
    Addition,
    CallTap,
    ChangeAnswer,
    CopyTick,
    Decision,
    FindingAnswer,
    NoteChange,
    NotePlace,
    Observation,
    OnNotes,
)
from mirkle.core.notebook.edition import Change
from mirkle.core.notebook.observed import SEEN, Seen
from mirkle.core.notebook.passes import Pass
from mirkle.core.notes.language import Language
from mirkle.core.notes.rewording import NoteWriter
from mirkle.files.project.project import Project, SourceFile
from mirkle.session.decision_log import DecisionLog, FindingDecision, Kind, change_pass, new_key
from mirkle.session.decision_places import DecisionSubject, Elsewhere, nowhere_else
from mirkle.session.road_additions import RoadAdditions

# Findings whose proposal lets the car go faster take the word of both.
BOTH = "both"


class DecisionBook(DecisionLog):
    """What is decided about findings and notes, and the edition that it adds up to; ``road`` is what was added to the road.

    As :class:`DecisionLog`; ``language`` is that of the notes.
    """

    def __init__(
        self, project: Project, judged: DecisionSubject, language: Language, taken_on: int = 1, elsewhere: Elsewhere = nowhere_else
    ) -> None:
        super().__init__(project, judged, taken_on, elsewhere)
        self.hand = NoteWriter(judged.reading, language)
        self.road = RoadAdditions(self)

    def rebase(self, judged: DecisionSubject) -> None:
        super().rebase(judged)
        self.road = RoadAdditions(self)

    def reload(self) -> None:
        # What was reported while another edition was read may be new as well.
        self.road = RoadAdditions(self)
        super().reload()

    # What could be written

    def proposal(self, finding: Finding) -> Proposal | None:
        """What to write for a finding, taking in what was already marked on the same note."""
        proposed = finding.proposal
        decided = self.decisions.get(finding.id)
        if isinstance(decided, NoteChange):
            return Proposal(decided.first_note, decided.last_note, decided.text, None)
        if proposed is None or proposed.rewording is None:
            return proposed
        mark = self.edition.mark_on(proposed.first_note)
        if mark is None:
            return proposed
        first = self.hand.read_back(mark.text)[0]
        reworded = self.hand.reworded(first, proposed.rewording)
        text = mark.text[: first.span.start] + reworded + mark.text[first.span.end :]
        return Proposal(mark.first_note, mark.last_note, text, None)

    def read_back(self, text: str) -> Message:
        """A replacement in plain words, as it was understood.

        Raises
        ------
        UnusableNotes
            It is no note; the sentence says why.
        """
        notes = self.hand.read_back(text)
        unknown = [message("“{0}” is not understood", word) for n in notes for word in n.unread]
        return in_a_row([*(n.read_back for n in notes), *unknown], "; ")

    def wants_both(self, finding: Finding | None, note: int, text: str) -> bool:
        """Whether marking ``text`` makes the note faster, which takes the word of driver and co-driver.

        By what was found, or because a corner in it is given a more open grade than it had.
        """
        if finding is not None and KINDS[finding.kind].faster:
            return True
        replaced = self._replaced(finding, note, text)
        return self._opens(replaced.first_note, replaced.last_note, text)

    def _opens(self, first: int, last: int, text: str) -> bool:
        """Whether a corner is given a more open grade than it had."""
        try:
            new = [n for n in self.hand.read_back(text) if n.is_corner]
        except UnusableNotes:
            return False
        old = [n for n in self.judged.reading.notes[first : last + 1] if n.is_corner]
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
            self.hand.read_back(text)
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
        if finding is None:
            same = [d for d in self.on_note(NoteChange, replaced.first_note) if not d.finding_kind and not d.seen]
            self._mark(self._change(replaced, text, key=_key(same), by=by, remark=remark))
            return
        made = self._change(replaced, text, key=self._key_of(finding), by=by, remark=remark)
        self._mark(self.places.on(made, finding), faster=KINDS[finding.kind].faster)

    def _change(self, replaced: Proposal, text: str, *, key: str, by: str, remark: str, seen: str = "") -> NoteChange:
        notes = self._notes(replaced.first_note, replaced.last_note)
        return NoteChange(key=key, notes=notes, text=text.strip(), by=by, remark=remark, seen=seen)

    def _mark(self, made: NoteChange, *, faster: bool = False) -> None:
        self.hand.read_back(made.text)
        if made.text == self.edition.old_text(made.first_note, made.last_note):
            raise UnusableNotes("this is what the book says already", mend="edit it, or keep the note")
        if made.by != BOTH and (faster or self._opens(made.first_note, made.last_note, made.text)):
            raise UnusableNotes("this makes the note faster", mend="both of you have to agree")
        self.edition.check_can_take(made)
        self.decide(made)

    def join(self, note: int) -> None:
        """Writes a note and the next one on one line.

        Raises
        ------
        UnusableNotes
            There is no next one, it stands on another page, or it is joined already.
        UnusableProject
            It can't be kept.
        """
        self._arrange(note, lambda here, following: f"{here} {following}")

    def swap(self, note: int) -> None:
        """Lets a note and the next one change places. As :meth:`join`."""
        self._arrange(note, lambda here, following: f"{following}\n{here}")

    def _arrange(self, note: int, put: Callable[[str, str], str]) -> None:
        """Writes two notes that follow each other in another way; neither of them is changed, so it makes nothing faster."""
        notes, edition = self.judged.reading.notes, self.edition
        mark = edition.mark_on(note)
        first, at = (mark.first_note, mark.last_note) if mark is not None else (note, note)
        if at + 1 >= len(notes):
            raise UnusableNotes("this is the last note", mend="choose one before it")
        if notes[at + 1].page != notes[first].page:
            raise UnusableNotes("the next note stands on another page", mend="let the page begin elsewhere first")
        other = edition.mark_on(at + 1)
        last = other.last_note if other is not None else at + 1
        text = put(edition.text_of(notes[first]), edition.text_of(notes[at + 1])).strip()
        if text == edition.old_text(first, last):
            raise UnusableNotes("this is what the book says already", mend="edit it, or keep the note")
        self.hand.read_back(text)
        same = [d for d in self.on_note(NoteChange, first) if not d.finding_kind and not d.seen]
        made = self._change(Proposal(first, last, text, None), text, key=_key(same), by="", remark="")
        edition.check_can_take(made)
        self.decide(made)

    def _notes(self, first: int, last: int) -> NotePlace:
        return note_place(self.judged.reading, first, last)

    def answer(self, finding: Finding, answer: Literal["keep", "talk", "video"], *, by: str = "", remark: str = "") -> None:
        """Answers a finding without a change: ``keep`` the note, ``talk`` it over, look at the ``video``."""
        before = self.decisions.get(finding.id)
        # A key pressed twice is no second decision.
        if before is None or (before.answer, before.by, before.remark) != (answer, by, remark):
            made = FindingAnswer(key=self._key_of(finding), answer=answer, by=by, remark=remark)
            self.decide(self.places.on(made, finding))

    def answer_change(self, about: Literal["change", "kept"], note: int, answer: Literal["keep", "talk"]) -> None:
        """Answers what this pass says of a note that was changed, or kept against a finding, after an earlier one."""
        before = self.change_answer(about, note)
        if before is None or before.answer != answer:
            key = before.key if before is not None else new_key()
            self.decide(ChangeAnswer(key=key, about=about, answer=answer, notes=self._notes(note, note)))

    def change_answer(self, about: Literal["change", "kept"], note: int) -> ChangeAnswer | None:
        """What was answered to a change, or to a note that was kept."""
        return _last(d for d in self.on_note(ChangeAnswer, note) if d.about == about)

    def _key_of(self, finding: Finding) -> str:
        """The key that a finding was decided on under before, or a new one."""
        before = self.decisions.get(finding.id)
        return before.key if before is not None else new_key()

    def put_back(self, lost: FindingDecision, finding: Finding) -> None:
        """Puts a decision that has no place any more on a finding; a note that was written otherwise is marked there.

        Raises
        ------
        UnusableNotes
            It is a mark, and its text can't stand for the finding's note.
        UnusableProject
            It can't be kept.
        """
        if isinstance(lost, FindingAnswer):
            self.decide(self.places.on(replace(lost, notes=None), finding))
            return
        replaced = self._replaced(finding, finding.note, lost.text)
        there = replace(lost, notes=self._notes(replaced.first_note, replaced.last_note))
        self._mark(self.places.on(there, finding))

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
            at, words = self._notes(note, note), text.strip()
            self.decide(Addition(key=new_key(), kind="hazard", words=words, notes=at, by=by, remark=remark, seen=seen))
            return
        before = self.seen(note)
        key = _key([before] if before is not None else [])
        if text:
            made = self._change(self._replaced(None, note, text), text, key=key, by=by, remark=remark, seen=seen)
            self._mark(made, faster=SEEN[seen].faster)
            return
        answer: Literal["keep", "talk"] = "keep" if seen == "as-called" else "talk"
        now = (seen, answer, by, remark)
        if before is None or (before.seen, before.answer, before.by, before.remark) != now:
            made_of = self._notes(note, note)
            self.decide(Observation(key=key, notes=made_of, seen=seen, answer=answer, by=by, remark=remark))

    def seen(self, note: int) -> NoteChange | Observation | None:
        """What was seen of a note on the video, but for hazards."""
        return _last(d for d in self.on_note(OnNotes, note) if isinstance(d, NoteChange | Observation) and d.seen)

    @property
    def all_seen(self) -> list[NoteChange | Observation]:
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
        key = _key([d for d in self._tapped if d.first_note == note])
        self.decide(CallTap(key=key, notes=self._notes(note, note), of_pass=self.taken_on, sound_s=round(sound_s, 2)))

    @property
    def _tapped(self) -> list[CallTap]:
        return [d for d in self.standing(CallTap) if d.of_pass == self.taken_on]

    @property
    def taps(self) -> dict[int, float]:
        """When notes were called on this pass, by key, seconds of its sound."""
        return {d.first_note: d.sound_s for d in self._tapped}

    # Copying into the paper book

    def is_copied(self, change: Change) -> bool:
        """Whether somebody has ticked that a change stands in the paper book as it is now."""
        ticked = self._tick_of(change)
        return ticked is not None and ticked.copied and ticked.text == change.new

    def _tick_of(self, change: Change) -> CopyTick | None:
        ticked = _last(self.on_note(CopyTick, change.first_note))
        return ticked if ticked is not None and ticked.last_note == change.last_note else None

    def tick_copied(self, change: Change, *, copied: bool = True) -> None:
        """Ticks a change as copied into the paper book, or takes the tick away."""
        if copied is not self.is_copied(change):
            before = self._tick_of(change)
            key, notes = _key([before] if before is not None else []), self._notes(change.first_note, change.last_note)
            self.decide(CopyTick(key=key, notes=notes, copied=copied, text=change.new))

    @property
    def to_copy(self) -> list[Change]:
        """The changes that nobody has ticked as copied."""
        return [c for c in self.edition.changes if not self.is_copied(c)]

    def set_pass(self, now: Pass, files: Mapping[str, SourceFile] | None = None) -> Pass:
        """Puts a pass as it is now, with files that came for it, and notes it, so that undo takes it back; returns it as it is kept.

        Raises
        ------
        UnusableProject
            It can't be kept; nothing was changed.
        """
        made, entry = change_pass(self.project, now, files, self.taken_on)
        self.take(entry)
        return made


def _key(before: Sequence[Decision]) -> str:
    """The key of the last of some decisions, which a new one replaces; a new key where there is none."""
    return before[-1].key if before else new_key()


def _last(found: Iterable[Kind]) -> Kind | None:
    return next(reversed(list(found)), None)
