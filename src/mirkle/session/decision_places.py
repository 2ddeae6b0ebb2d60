"""Where the decisions of a book belong in the review that is open: on its notes, its stretch of road, its findings of today."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Protocol

from mirkle.core.judging.answers import Answer, Stretch, attached
from mirkle.core.judging.findings import Finding
from mirkle.core.notebook.anchors import NotePlaces, with_notes
from mirkle.core.notebook.decisions import ANSWERS, Decision, Ledger
from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.model import Reading

MOMENT, SEEN_ON, NOTE, CHANGED, KEPT = "moment", "seen", "note", "change", "kept"
# A tick in the list of changes: it stands in the paper book.
COPIED, NOT_COPIED = "copied", "not-copied"
# Decisions about notes by themselves; those about findings are named by the finding's kind.
ABOUT_NOTES = (NOTE, SEEN_ON, CHANGED, KEPT, COPIED, MOMENT)
_SECONDS = re.compile(r"\d{1,6}\.\d\d$")
# An older program named a finding by what was found and its note, or by its place in twenties of metres.
_OLD_NAME = re.compile(r"[a-z]+@\d+$")


class Judged(Protocol):
    """What a book's decisions are about: a review, or the book alone where nothing was measured."""

    @property
    def reading(self) -> Reading: ...
    @property
    def school(self) -> GradingScheme: ...
    @property
    def findings(self) -> tuple[Finding, ...]: ...
    def place_m(self, note: int) -> float:
        """Where a note's bend ends, metres from the start; -1 where nobody knows."""
        ...

    def metres_at(self, time_s: float) -> float | None:
        """Where the car was at a moment of the recording's clock, metres from the start; ``None`` without a recording."""
        ...

    def seconds_at(self, metres: float) -> float | None:
        """When the car came to a place, on the recording's clock; ``None`` without a recording."""
        ...


# Where a moment of another pass's recording lies on the pass that is open, metres from its start; ``None`` where that can't be told.
Elsewhere = Callable[[int, float], float | None]


def nowhere_else(_of_pass: int, _time_s: float) -> None:
    """Nothing is known of other passes."""


@dataclass(frozen=True)
class Placed:
    """The standing decisions where they belong in the review of today: by the numbers of their entries, with the notes and metres of
    today; ``answers`` by the findings' ids; ``lost`` are the numbers of those that have no place any more."""

    decisions: Mapping[int, Decision]
    answers: Mapping[str, int]
    lost: tuple[int, ...]


class DecisionPlaces:
    """The places of decisions in one review, ``judged``, of the pass ``of_pass``; ``elsewhere`` tells where other passes' places lie."""

    def __init__(self, judged: Judged, of_pass: int, elsewhere: Elsewhere) -> None:
        self.judged, self._of_pass, self._elsewhere = judged, of_pass, elsewhere
        self._notes = NotePlaces(judged.reading)

    def in_todays_form(self, decision: Decision, by_name: Mapping[str, Finding]) -> Decision:
        """A decision of an older program, which kept metres and numbers of notes only, with the place that these have in this review."""
        if decision.old or decision.from_s is not None or decision.answer not in ANSWERS:
            return decision
        if decision.from_m >= 0:
            return self.at(decision, decision.from_m, decision.to_m)
        finding = by_name.get(decision.finding)
        if not decision.kind and finding is not None and _OLD_NAME.match(decision.finding):
            return self.on(decision, finding)
        return with_notes(decision, self.judged.reading) if decision.topic in (*ABOUT_NOTES, "hazard") else decision

    def at(self, decision: Decision, from_m: float, to_m: float) -> Decision:
        """A decision with a stretch of road of this pass."""
        from_s, to_s = self.judged.seconds_at(from_m), self.judged.seconds_at(to_m)
        return replace(decision, of_pass=self._of_pass, from_m=from_m, to_m=to_m, from_s=from_s, to_s=to_s)

    def on(self, decision: Decision, finding: Finding) -> Decision:
        """A decision about a finding: its kind, its note, and its stretch of road."""
        first, last = decision.first_note, decision.last_note
        if first < 0:
            first = last = finding.note
        made = replace(decision, kind=finding.kind, first_note=first, last_note=last)
        return with_notes(self.at(made, finding.from_m, finding.to_m), self.judged.reading)

    def all(self, ledger: Ledger, here: Callable[[int], Decision | None]) -> Placed:
        """Where every standing decision of a ledger belongs; ``here`` gives the place of one by its entry's number."""
        placed, lost, answers = {}, [], []
        for number in ledger.standing.values():
            decision = ledger.decisions[number]
            if decision.answer not in ANSWERS or decision.answer == "gone":
                continue
            now = here(number)
            if now is not None:
                placed[number] = now
            if now is not None and now.kind:
                answers.append(number)
            elif now is None or _of_an_old_finding(decision):
                lost.append(number)
        found = self._attached(placed[n] for n in answers)
        attached_to = {name: answers[at] for name, at in found.items()}
        # A note that is written otherwise has its place in the book, whatever becomes of its finding; and what was found on another pass
        # need not be found on this one.
        without = set(answers) - set(attached_to.values())
        lost += [n for n in answers if n in without and placed[n].answer != "mark" and self._is_of_this_pass(placed[n])]
        return Placed(placed, attached_to, tuple(sorted(lost)))

    def finding_for(self, decision: Decision) -> Finding | None:
        """The finding of today that a decision would answer if it stood alone."""
        here = self.here(decision)
        would = self._attached([here]) if here is not None and here.kind else {}
        return next((f for f in self.judged.findings if f.id in would), None)

    def _attached(self, answers: Iterable[Decision]) -> dict[str, int]:
        return attached(self.judged.findings, [self._answer(d) for d in answers])

    def _is_of_this_pass(self, decision: Decision) -> bool:
        return decision.of_pass == self._of_pass and self.judged.metres_at(0.0) is not None

    def _answer(self, decision: Decision) -> Answer:
        """A decision on a finding as it belongs today."""
        notes = (decision.first_note, decision.last_note) if decision.first_note >= 0 else None
        return Answer(decision.kind, self._stretch(decision), notes)

    def here(self, decision: Decision) -> Decision | None:
        """A decision with the notes and metres of today; ``None`` where it has no place."""
        stretch = self._stretch(decision)
        if stretch is not None:
            decision = replace(decision, from_m=stretch[0], to_m=stretch[1])
        if decision.first_note < 0:
            return decision if decision.answer not in ("mark", MOMENT) else None
        notes = self._notes.of(decision)
        if notes is None or (decision.answer == MOMENT and not _SECONDS.match(decision.text)):
            # What is known by its place on the road needs no note.
            return replace(decision, first_note=-1, last_note=-1) if stretch and decision.answer != "mark" else None
        return replace(decision, first_note=notes[0], last_note=notes[1])

    def _stretch(self, decision: Decision) -> Stretch | None:
        """Where a decision's stretch of road lies on this pass."""
        if decision.from_s is None or decision.to_s is None:
            return (decision.from_m, decision.to_m) if decision.from_m >= 0 else None
        ends = [self._metres(decision.of_pass, s) for s in (decision.from_s, decision.to_s)]
        if ends[0] is None or ends[1] is None:
            return (decision.from_m, decision.to_m) if decision.of_pass != self._of_pass and not decision.kind else None
        return ends[0], ends[1]

    def _metres(self, of_pass: int, time_s: float) -> float | None:
        here = self.judged.metres_at(time_s) if of_pass == self._of_pass else self._elsewhere(of_pass, time_s)
        return round(here, 2) if here is not None else None


def _of_an_old_finding(decision: Decision) -> bool:
    """Whether a decision is on a finding that an older program named, and that was not there when it got its place."""
    of_a_finding = decision.answer in ("keep", "talk", "video") and decision.topic not in ABOUT_NOTES
    return of_a_finding and bool(_OLD_NAME.match(decision.finding))
