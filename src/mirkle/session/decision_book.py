"""The crew's book: what was decided about each finding, and the edition that these decisions add up to."""

from __future__ import annotations

import secrets
from collections.abc import Callable, Iterable, Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal, TypeVar

from mirkle.core.errors import UnusableNotes
from mirkle.core.judging.finding_kinds import KINDS
from mirkle.core.judging.findings import Finding, Proposal
from mirkle.core.messages import Message, in_a_row, message
from mirkle.core.notebook.anchors import note_place
from mirkle.core.notebook.conditions import Reported
from mirkle.core.notebook.decisions import (
    Addition,
    CallTap,
    ChangeAnswer,
    CopyTick,
    Decision,
    Entry,
    FindingAnswer,
    Ledger,
    NoteChange,
    NotePlace,
    Observation,
    OnNotes,
    PassChange,
    Removal,
    RoadPlace,
    UnknownDecision,
)
from mirkle.core.notebook.edition import Change, Edition
from mirkle.core.notebook.observed import SEEN, Seen
from mirkle.core.notebook.passes import Pass
from mirkle.core.notes.language import Language
from mirkle.core.notes.rewording import NoteWriter
from mirkle.files.project.project import Project, SourceFile, UnusableProject
from mirkle.session.decision_places import DecisionPlaces, DecisionSubject, Elsewhere, Placed, nowhere_else
from mirkle.session.pass_list import same_edition
from mirkle.session.signal import Signal

# Findings whose proposal lets the car go faster take the word of both.
BOTH = "both"
# A report is about the stretch of an earlier one that it covers by this share.
SAME_STRETCH = 0.5

# What answers a finding.
FindingDecision = NoteChange | FindingAnswer
Kind = TypeVar("Kind", bound=Decision)


@dataclass(frozen=True)
class Conflict:
    """Two decisions about one thing that were made in two copies of the stage. The ``later`` one stands until somebody settles it."""

    earlier: Decision
    later: Decision


class DecisionBook:
    """The decisions on a review, ``taken_on`` a pass. Every one is in the project file before anybody is told of it.

    They are about the edition that was read on that pass: what was decided on another pass that read the same stands here, too.
    ``elsewhere`` tells where places of such a pass lie on this one.

    Signal: ``changed`` (the decisions did).
    """

    def __init__(
        self, project: Project, judged: DecisionSubject, language: Language, taken_on: int = 1, elsewhere: Elsewhere = nowhere_else
    ) -> None:
        self._project, self._taken_on, self._elsewhere = project, taken_on, elsewhere
        self.changed = Signal()
        self._about = same_edition(project, taken_on)
        self._hand = NoteWriter(judged.reading, language)
        self._edition: Edition | None = None
        self._now: Placed | None = None
        self._places = DecisionPlaces(judged, taken_on, elsewhere)
        # Where each decision belongs in this review, by its entry's number.
        self._here_now: dict[int, Decision | None] = {}
        self._ledger = Ledger.of(project.entries(self._about))
        self._pass_order = [p.id for p in project.passes()]
        self._bring_over()

    @property
    def judged(self) -> DecisionSubject:
        """What the decisions are about."""
        return self._places.judged

    def rebase(self, judged: DecisionSubject) -> None:
        """Goes on with a review in which a note was moved by hand; what was decided stands where its finding does."""
        self._places = DecisionPlaces(judged, self._taken_on, self._elsewhere)
        self._here_now, self._now, self._edition = {}, None, None
        self.__dict__.pop("_reported_before", None)

    def _bring_over(self) -> None:
        """Gives the decisions of an older program their places, once: it kept metres and numbers of notes, which this review still has."""
        by_name = {f.id: f for f in self.judged.findings}
        entries = []
        for number, decision in self._ledger.decisions.items():
            now = self._places.in_todays_form(decision, by_name)
            if now != decision:
                entries.append(Entry("anchor", now, of=number))
        if not entries:
            return
        # In a file that can't be written they have their places here all the same.
        with suppress(UnusableProject):
            self._project.append_all(entries, self._taken_on)
        for entry in entries:
            self._ledger.apply(entry)

    # Where decisions belong today

    @property
    def _placed(self) -> Placed:
        if self._now is None:
            placed = self._places.all(self._ledger, self._here)
            self._now = replace(placed, lost=tuple(n for n in placed.lost if self._is_shown(n)))
        return self._now

    def _here(self, number: int) -> Decision | None:
        if number not in self._here_now:
            self._here_now[number] = self._places.here(self._ledger.decisions[number])
        return self._here_now[number]

    # What stands

    @property
    def decisions(self) -> dict[str, FindingDecision]:
        """The standing decision on each finding by its id."""
        placed = self._placed
        numbers = {f.id: placed.answers[f.id] for f in self.judged.findings if f.id in placed.answers}
        found = {name: placed.decisions[number] for name, number in numbers.items()}
        return {name: d for name, d in found.items() if isinstance(d, NoteChange | FindingAnswer)}

    @property
    def without_place(self) -> list[Decision]:
        """What was decided and has no place any more, the latest first: its finding is not there now, or its note reads otherwise."""
        return [self._ledger.decisions[n] for n in reversed(self._placed.lost)]

    @property
    def conflicts(self) -> list[Conflict]:
        """Decisions of two copies of the stage that were merged and disagree, which nobody has settled yet."""
        pairs = self._ledger.open_conflicts
        return [Conflict(self._shown(a), self._shown(b)) for a, b in pairs if self._is_shown(a) and self._is_shown(b)]

    def settle(self, conflict: Conflict, keep: Decision) -> None:
        """Keeps one of two decisions that disagree; undo takes that back.

        Raises
        ------
        UnusableProject
            It can't be kept.
        """
        other = conflict.later if keep is conflict.earlier else conflict.earlier
        if keep.key == other.key:
            self._decide(keep)
        else:
            self.take_away(other)

    def finding_of(self, decision: Decision) -> Finding | None:
        """The finding that a decision answers, or would answer if it still stood."""
        standing = next((f for f in self.judged.findings if (d := self.decisions.get(f.id)) and d.key == decision.key), None)
        return standing if standing is not None else self._places.finding_for(decision)

    @property
    def edition(self) -> Edition:
        """The book as it stands after the decisions."""
        if self._edition is None:
            self._edition = Edition(self.judged.reading, self._placed.decisions.values())
        return self._edition

    def _on_note(self, kind: type[Kind], note: int) -> list[Kind]:
        """The standing decisions of a kind on the notes from ``note`` on, in the order in which they were made."""
        return [d for d in self._standing(kind) if d.notes is not None and d.notes.first == note]

    def _standing(self, kind: type[Kind]) -> list[Kind]:
        return [d for d in self._placed.decisions.values() if isinstance(d, kind)]

    @property
    def additions(self) -> list[Addition]:
        """Hazards and conditions that the crew added, in the order of the road."""
        found = [self._behind_note(d) for d in self._standing(Addition)]
        return sorted(found, key=lambda d: (-1.0 if d.from_m is None else d.from_m, d.notes.first if d.notes is not None else -1))

    @property
    def additions_on_road(self) -> list[tuple[Addition, RoadPlace]]:
        """As :attr:`additions`, those that have a place on the road, with it."""
        return [(a, a.road) for a in self.additions if a.road is not None]

    def _behind_note(self, addition: Addition) -> Addition:
        """What was seen behind a note on a video, at that note's place where a recording knows it by now."""
        if addition.road is not None or addition.notes is None:
            return addition
        at_m = self.judged.place_m(addition.notes.first)
        return replace(addition, road=RoadPlace(self._taken_on, at_m, at_m)) if at_m >= 0 else addition

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
        if isinstance(decided, NoteChange):
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

    def read_back(self, text: str) -> Message:
        """A replacement in plain words, as it was understood.

        Raises
        ------
        UnusableNotes
            It is no note; the sentence says why.
        """
        notes = self._hand.read_back(text)
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
            new = [n for n in self._hand.read_back(text) if n.is_corner]
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
        if finding is None:
            same = [d for d in self._on_note(NoteChange, replaced.first_note) if not d.finding_kind and not d.seen]
            self._mark(self._change(replaced, text, key=_key(same), by=by, remark=remark))
            return
        made = self._change(replaced, text, key=self._key_of(finding), by=by, remark=remark)
        self._mark(self._places.on(made, finding), faster=KINDS[finding.kind].faster)

    def _change(self, replaced: Proposal, text: str, *, key: str, by: str, remark: str, seen: str = "") -> NoteChange:
        notes = self._notes(replaced.first_note, replaced.last_note)
        return NoteChange(key=key, notes=notes, text=text.strip(), by=by, remark=remark, seen=seen)

    def _mark(self, made: NoteChange, *, faster: bool = False) -> None:
        self._hand.read_back(made.text)
        if made.text == self.edition.old_text(made.first_note, made.last_note):
            raise UnusableNotes("this is what the book says already", mend="edit it, or keep the note")
        if made.by != BOTH and (faster or self._opens(made.first_note, made.last_note, made.text)):
            raise UnusableNotes("this makes the note faster", mend="both of you have to agree")
        self.edition.check_can_take(made)
        self._decide(made)

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
        self._hand.read_back(text)
        same = [d for d in self._on_note(NoteChange, first) if not d.finding_kind and not d.seen]
        made = self._change(Proposal(first, last, text, None), text, key=_key(same), by="", remark="")
        edition.check_can_take(made)
        self._decide(made)

    def _notes(self, first: int, last: int) -> NotePlace:
        return note_place(self.judged.reading, first, last)

    def answer(self, finding: Finding, answer: Literal["keep", "talk", "video"], *, by: str = "", remark: str = "") -> None:
        """Answers a finding without a change: ``keep`` the note, ``talk`` it over, look at the ``video``."""
        before = self.decisions.get(finding.id)
        # A key pressed twice is no second decision.
        if before is None or (before.answer, before.by, before.remark) != (answer, by, remark):
            made = FindingAnswer(key=self._key_of(finding), answer=answer, by=by, remark=remark)
            self._decide(self._places.on(made, finding))

    def answer_change(self, about: Literal["change", "kept"], note: int, answer: Literal["keep", "talk"]) -> None:
        """Answers what this pass says of a note that was changed, or kept against a finding, after an earlier one."""
        before = self.change_answer(about, note)
        if before is None or before.answer != answer:
            key = before.key if before is not None else new_key()
            self._decide(ChangeAnswer(key=key, about=about, answer=answer, notes=self._notes(note, note)))

    def change_answer(self, about: Literal["change", "kept"], note: int) -> ChangeAnswer | None:
        """What was answered to a change, or to a note that was kept."""
        return _last(d for d in self._on_note(ChangeAnswer, note) if d.about == about)

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
            self._decide(self._places.on(replace(lost, notes=None), finding))
            return
        replaced = self._replaced(finding, finding.note, lost.text)
        there = replace(lost, notes=self._notes(replaced.first_note, replaced.last_note))
        self._mark(self._places.on(there, finding))

    def take_away(self, decision: Decision) -> None:
        """Takes a hazard or condition away again, or a decision that has no place any more out of their list; undo brings it back."""
        words = decision.words if isinstance(decision, Addition) else decision.text if isinstance(decision, NoteChange) else ""
        of = decision
        self._decide(Removal(key=of.key, notes=of.notes, road=of.road, by=of.by, remark=of.remark, words=words, extra=of.extra))

    def add(self, kind: Literal["hazard", "condition"], from_m: float, to_m: float, words: str, *, by: str = "") -> None:
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
        self._decide(Addition(key=new_key(), kind=kind, words=words.strip(), by=by, road=self._places.road_place(low, high)))

    def add_reported(self, reported: Sequence[Reported], *, by: str = "") -> None:
        """Adds conditions that others reported for the next pass, all of them or none. A later report takes the place of an earlier one
        of the same thing on the same stretch.

        Raises
        ------
        UnusableProject
            They can't be kept.
        """
        with self._project.together():
            for one in reported:
                place, before = self._places.road_place(one.from_m, one.to_m), self.reported_before(one)
                key = before.key if before is not None else new_key()
                self._decide(Addition(key=key, kind="condition", words=one.words, by=by, road=place, what=one.what, level=one.level))

    def reported_before(self, one: Reported) -> Addition | None:
        """The condition that still holds and was reported of the same thing on the same stretch, by half of it and more."""
        return next(
            (
                a
                for a, road in reversed(self.additions_on_road)
                if a.what == one.what
                and not self.is_over(a)
                and min(one.to_m, road.to_m) - max(one.from_m, road.from_m) >= SAME_STRETCH * max(road.to_m - road.from_m, 1.0)
            ),
            None,
        )

    def _passes_since(self, addition: Addition) -> int | None:
        """How many passes after the one on which it was reported this one was driven; ``None`` for what is no condition."""
        order = self._pass_order
        if addition.kind != "condition" or addition.road is None or not {addition.road.of_pass, self._taken_on} <= set(order):
            return None
        return order.index(self._taken_on) - order.index(addition.road.of_pass)

    def is_over(self, addition: Addition) -> bool:
        """Whether a condition was for a pass that has been driven: it was reported two passes before this one, or earlier."""
        since = self._passes_since(addition)
        return since is not None and since > 1

    def condition_on(self, from_m: float, to_m: float) -> Addition | None:
        """The worst condition on a stretch of road that still holds; ``None`` where there is none."""
        return max((a for a in self._conditions_on(from_m, to_m) if not self.is_over(a)), key=lambda a: a.level, default=None)

    def driven_with(self, from_m: float, to_m: float) -> Addition | None:
        """The worst condition on a stretch of road that was reported for this very pass; ``None`` where there is none."""
        here = (a for a in self._conditions_on(from_m, to_m) if self._passes_since(a) == 1)
        return max(here, key=lambda a: a.level, default=None)

    def _conditions_on(self, from_m: float, to_m: float) -> list[Addition]:
        found = [*self.additions, *self._reported_before]
        return [a for a in found if a.kind == "condition" and a.road is not None and a.road.from_m <= to_m and a.road.to_m >= from_m]

    @cached_property
    def _reported_before(self) -> list[Addition]:
        """What was reported while another edition was read: the road is the same, whatever became of the notes."""
        others = {p.id for p in self._project.passes()} - self._about
        ledger = Ledger.of(self._project.entries(others)) if others else Ledger()
        placed = (self._places.here(ledger.decisions[number]) for number in ledger.standing.values())
        return [one for one in placed if isinstance(one, Addition)]

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
            self._decide(Addition(key=new_key(), kind="hazard", words=words, notes=at, by=by, remark=remark, seen=seen))
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
            self._decide(Observation(key=key, notes=made_of, seen=seen, answer=answer, by=by, remark=remark))

    def seen(self, note: int) -> NoteChange | Observation | None:
        """What was seen of a note on the video, but for hazards."""
        return _last(d for d in self._on_note(OnNotes, note) if isinstance(d, NoteChange | Observation) and d.seen)

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
        self._decide(CallTap(key=key, notes=self._notes(note, note), of_pass=self._taken_on, sound_s=round(sound_s, 2)))

    @property
    def _tapped(self) -> list[CallTap]:
        return [d for d in self._standing(CallTap) if d.of_pass == self._taken_on]

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
        ticked = _last(self._on_note(CopyTick, change.first_note))
        return ticked if ticked is not None and ticked.last_note == change.last_note else None

    def tick_copied(self, change: Change, *, copied: bool = True) -> None:
        """Ticks a change as copied into the paper book, or takes the tick away."""
        if copied is not self.is_copied(change):
            before = self._tick_of(change)
            key, notes = _key([before] if before is not None else []), self._notes(change.first_note, change.last_note)
            self._decide(CopyTick(key=key, notes=notes, copied=copied, text=change.new))

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
        made, entry = change_pass(self._project, now, files, self._taken_on)
        self._take(entry)
        return made

    # Taking back

    @property
    def history(self) -> list[Decision]:
        """Every decision that stands or was taken over by a later one, the latest first: what undo will take back."""
        return [self._shown(n) for n in reversed(self._ledger.done) if self._is_shown(n)]

    @property
    def undone(self) -> list[Decision]:
        """Every decision that was taken back, the latest first: what redo will make again."""
        return [self._shown(n) for n in reversed(self._ledger.undone) if self._is_shown(n)]

    def _is_shown(self, number: int) -> bool:
        """Whether the crew can see a decision: not where a newer program made it, or where it is about no note of this book."""
        decision = self._ledger.decisions[number]
        if isinstance(decision, NoteChange | CallTap) and not decision.notes.text:
            return self._here(number) is not None
        return not isinstance(decision, UnknownDecision)

    def _shown(self, number: int) -> Decision:
        return self._here(number) or self._ledger.decisions[number]

    def undo(self) -> Decision | None:
        """Takes the last decision back, and says which; ``None`` where there is none."""
        return self._step("undo", self._ledger.done)

    def redo(self) -> Decision | None:
        """Makes the decision that was last taken back again, and says which; ``None`` where there is none."""
        return self._step("redo", self._ledger.undone)

    def _step(self, action: str, numbers: list[int]) -> Decision | None:
        # By its number: what was decided elsewhere since, and isn't on the screen yet, is not touched.
        number = next((n for n in reversed(numbers) if self._is_shown(n)), None)
        if number is None:
            return None
        decision = self._shown(number)
        with self._project.together():
            entry = self._project.append(Entry(action, of=number), self._taken_on)
            if isinstance(decision, PassChange):
                self._project.set_pass(decision.before if action == "undo" else decision.after)
        self._take(entry)
        return decision

    def reload(self) -> None:
        """Reads the decisions anew: another hand on the same stage may have taken some."""
        self._ledger, self._edition, self._now = Ledger.of(self._project.entries(self._about)), None, None
        self._here_now, self._pass_order = {}, [p.id for p in self._project.passes()]
        self.__dict__.pop("_reported_before", None)
        self.changed.emit()

    def _decide(self, decision: Decision) -> None:
        self._take(self._project.append(Entry("decide", decision), self._taken_on))

    def _take(self, entry: Entry) -> None:
        self._ledger.apply(entry)
        self._edition = self._now = None
        self.changed.emit()


def new_key() -> str:
    """A new key for a decision; no two programs that work on copies of a stage make the same."""
    return secrets.token_hex(6)


def _key(before: Sequence[Decision]) -> str:
    """The key of the last of some decisions, which a new one replaces; a new key where there is none."""
    return before[-1].key if before else new_key()


def _last(found: Iterable[Kind]) -> Kind | None:
    return next(reversed(list(found)), None)


def change_pass(project: Project, now: Pass, files: Mapping[str, SourceFile] | None, on_pass: int) -> tuple[Pass, Entry]:
    """Puts a pass as it is now, with files that came for it, and notes it in the log of ``on_pass``: both, or neither.

    Raises
    ------
    UnusableProject
        It can't be kept; nothing was changed.
    """
    with project.together():
        before = next((p for p in project.passes() if p.id == now.id), now)
        made = project.set_pass(now, files)
        decision = PassChange(key=f"pass-{made.id}", before=before, after=made)
        entry = project.append(Entry("decide", decision), on_pass)
    return made, entry
