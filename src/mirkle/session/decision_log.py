"""The log of a stage's decisions: what stands, where it belongs in the review of today, and taking back."""

from __future__ import annotations

import secrets
from collections.abc import Mapping
from contextlib import suppress
from dataclasses import dataclass, replace
from typing import TypeVar

from mirkle.core.judging.findings import Finding
from mirkle.core.notebook.decisions import (
    Addition,
    CallTap,
    Decision,
    Entry,
    FindingAnswer,
    Ledger,
    NoteChange,
    PassChange,
    Removal,
    UnknownDecision,
)
from mirkle.core.notebook.edition import Edition
from mirkle.core.notebook.passes import Pass
from mirkle.files.project.project import Project, SourceFile, UnusableProject
from mirkle.session.decision_places import DecisionPlaces, DecisionSubject, Elsewhere, Placed, nowhere_else
from mirkle.session.pass_list import same_edition
from mirkle.session.signal import Signal

# What answers a finding.
FindingDecision = NoteChange | FindingAnswer
Kind = TypeVar("Kind", bound=Decision)


@dataclass(frozen=True)
class Conflict:
    """Two decisions about one thing that were made in two copies of the stage. The ``later`` one stands until somebody settles it."""

    earlier: Decision
    later: Decision


class DecisionLog:
    """The decisions on a review, ``taken_on`` a pass, as the log in the project file has them. Every one is there before anybody is told.

    They are about the edition that was read on that pass: what was decided on another pass that read the same stands here, too.
    ``elsewhere`` tells where places of such a pass lie on this one.

    Signal: ``changed`` (the decisions did).
    """

    def __init__(self, project: Project, judged: DecisionSubject, taken_on: int = 1, elsewhere: Elsewhere = nowhere_else) -> None:
        self.project, self.taken_on, self._elsewhere = project, taken_on, elsewhere
        self.changed = Signal()
        self.about = same_edition(project, taken_on)
        self._edition: Edition | None = None
        self._now: Placed | None = None
        self.places = DecisionPlaces(judged, taken_on, elsewhere)
        # Where each decision belongs in this review, by its entry's number.
        self._here_now: dict[int, Decision | None] = {}
        self._ledger = Ledger.of(project.entries(self.about))
        self.pass_order = [p.id for p in project.passes()]
        self._bring_over()

    @property
    def judged(self) -> DecisionSubject:
        """What the decisions are about."""
        return self.places.judged

    def rebase(self, judged: DecisionSubject) -> None:
        """Goes on with a review in which a note was moved by hand; what was decided stands where its finding does."""
        self.places = DecisionPlaces(judged, self.taken_on, self._elsewhere)
        self._here_now, self._now, self._edition = {}, None, None

    def _bring_over(self) -> None:
        """Gives the decisions of an older program their places, once: it kept metres and numbers of notes, which this review still has."""
        by_name = {f.id: f for f in self.judged.findings}
        entries = []
        for number, decision in self._ledger.decisions.items():
            now = self.places.in_todays_form(decision, by_name)
            if now != decision:
                entries.append(Entry("anchor", now, of=number))
        if not entries:
            return
        # In a file that can't be written they have their places here all the same.
        with suppress(UnusableProject):
            self.project.append_all(entries, self.taken_on)
        for entry in entries:
            self._ledger.apply(entry)

    # Where decisions belong today

    @property
    def _placed(self) -> Placed:
        if self._now is None:
            placed = self.places.all(self._ledger, self._here)
            self._now = replace(placed, lost=tuple(n for n in placed.lost if self._is_shown(n)))
        return self._now

    def _here(self, number: int) -> Decision | None:
        if number not in self._here_now:
            self._here_now[number] = self.places.here(self._ledger.decisions[number])
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
            self.decide(keep)
        else:
            self.take_away(other)

    def finding_of(self, decision: Decision) -> Finding | None:
        """The finding that a decision answers, or would answer if it still stood."""
        standing = next((f for f in self.judged.findings if (d := self.decisions.get(f.id)) and d.key == decision.key), None)
        return standing if standing is not None else self.places.finding_for(decision)

    @property
    def edition(self) -> Edition:
        """The book as it stands after the decisions."""
        if self._edition is None:
            self._edition = Edition(self.judged.reading, self._placed.decisions.values())
        return self._edition

    def on_note(self, kind: type[Kind], note: int) -> list[Kind]:
        """The standing decisions of a kind on the notes from ``note`` on, in the order in which they were made."""
        return [d for d in self.standing(kind) if d.notes is not None and d.notes.first == note]

    def standing(self, kind: type[Kind]) -> list[Kind]:
        """The standing decisions of a kind, in the order in which they were made."""
        return [d for d in self._placed.decisions.values() if isinstance(d, kind)]

    @property
    def dangers_left(self) -> int:
        """Findings called danger that nobody has decided on."""
        decided = self.decisions
        return sum(f.severity == "danger" and f.id not in decided for f in self.judged.findings)

    def take_away(self, decision: Decision) -> None:
        """Takes a hazard or condition away again, or a decision that has no place any more out of their list; undo brings it back."""
        words = decision.words if isinstance(decision, Addition) else decision.text if isinstance(decision, NoteChange) else ""
        of = decision
        self.decide(Removal(key=of.key, notes=of.notes, road=of.road, by=of.by, remark=of.remark, words=words, extra=of.extra))

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
        with self.project.together():
            entry = self.project.append(Entry(action, of=number), self.taken_on)
            if isinstance(decision, PassChange):
                self.project.set_pass(decision.before if action == "undo" else decision.after)
        self.take(entry)
        return decision

    def reload(self) -> None:
        """Reads the decisions anew: another hand on the same stage may have taken some."""
        self._ledger, self._edition, self._now = Ledger.of(self.project.entries(self.about)), None, None
        self._here_now, self.pass_order = {}, [p.id for p in self.project.passes()]
        self.changed.emit()

    def decide(self, decision: Decision) -> None:
        """Keeps a decision, and tells of it.

        Raises
        ------
        UnusableProject
            It can't be kept.
        """
        self.take(self.project.append(Entry("decide", decision), self.taken_on))

    def take(self, entry: Entry) -> None:
        """Takes in an entry that the file holds by now, and tells of it."""
        self._ledger.apply(entry)
        self._edition = self._now = None
        self.changed.emit()


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


def new_key() -> str:
    """A new key for a decision; no two programs that work on copies of a stage make the same."""
    return secrets.token_hex(6)
