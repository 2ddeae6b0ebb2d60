"""Where the decisions of a book belong in the review that is open: on its notes, its stretch of road, its findings of today."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Protocol, TypeVar

from mirkle.core.judging.answers import Answer, Stretch, attached
from mirkle.core.judging.findings import Finding
from mirkle.core.notebook.anchors import NotePlaces, note_place
from mirkle.core.notebook.decisions import (
    Addition,
    Decision,
    FindingAnswer,
    Ledger,
    NoteChange,
    OnNotes,
    Removal,
    RoadPlace,
    UnknownDecision,
)
from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.model import Reading

# An older program named a finding by what was found and its note, or by its place in twenties of metres.
_OLD_NAME = re.compile(r"[a-z]+@\d+$")


A = TypeVar("A", bound=NoteChange | FindingAnswer)


class DecisionSubject(Protocol):
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

    def __init__(self, judged: DecisionSubject, of_pass: int, elsewhere: Elsewhere) -> None:
        self.judged, self._of_pass, self._elsewhere = judged, of_pass, elsewhere
        self._notes = NotePlaces(judged.reading)

    def in_todays_form(self, decision: Decision, by_name: Mapping[str, Finding]) -> Decision:
        """A decision of an older program, which kept metres and numbers of notes only, with the place that these have in this review."""
        notes, road = decision.notes, decision.road
        if (notes is not None and notes.text) or (road is not None and road.from_s is not None):
            return decision
        if road is not None:
            return replace(decision, road=self.road_place(road.from_m, road.to_m))
        finding = by_name.get(decision.key)
        if isinstance(decision, NoteChange | FindingAnswer) and not decision.finding_kind and _OLD_NAME.match(decision.key) and finding:
            return self.on(decision, finding)
        return replace(decision, notes=note_place(self.judged.reading, notes.first, notes.last)) if notes is not None else decision

    def road_place(self, from_m: float, to_m: float) -> RoadPlace:
        """A stretch of road of this pass."""
        return RoadPlace(self._of_pass, from_m, to_m, self.judged.seconds_at(from_m), self.judged.seconds_at(to_m))

    def on(self, decision: A, finding: Finding) -> A:
        """An answer to a finding: its kind, its note unless the answer has notes already, and its stretch of road."""
        first, last = (decision.notes.first, decision.notes.last) if decision.notes is not None else (finding.note, finding.note)
        notes, road = note_place(self.judged.reading, first, last), self.road_place(finding.from_m, finding.to_m)
        return replace(decision, finding_kind=finding.kind, notes=notes, road=road)

    def all(self, ledger: Ledger, here: Callable[[int], Decision | None]) -> Placed:
        """Where every standing decision of a ledger belongs; ``here`` gives the place of one by its entry's number."""
        placed, lost, answers = {}, [], []
        for number in ledger.standing.values():
            decision = ledger.decisions[number]
            if isinstance(decision, UnknownDecision | Removal):
                continue
            now = here(number)
            if now is not None:
                placed[number] = now
            if isinstance(now, NoteChange | FindingAnswer) and now.finding_kind:
                answers.append(number)
            elif now is None or _of_an_old_finding(decision):
                lost.append(number)
        found = self._attached(placed[n] for n in answers)
        attached_to = {name: answers[at] for name, at in found.items()}
        # A note that is written otherwise has its place in the book, whatever becomes of its finding; and what was found on another pass
        # need not be found on this one.
        without = set(answers) - set(attached_to.values())
        lost += [n for n in without if isinstance(placed[n], FindingAnswer) and self._is_of_this_pass(placed[n])]
        return Placed(placed, attached_to, tuple(sorted(lost)))

    def finding_for(self, decision: Decision) -> Finding | None:
        """The finding of today that a decision would answer if it stood alone."""
        here = self.here(decision)
        would = self._attached([here]) if here is not None else {}
        return next((f for f in self.judged.findings if f.id in would), None)

    def _attached(self, answers: Iterable[Decision]) -> dict[str, int]:
        return attached(self.judged.findings, [self._answer(d) for d in answers])

    def _is_of_this_pass(self, decision: Decision) -> bool:
        """Whether the place of a decision on the road is one of the recording that is open."""
        of_pass = decision.road.of_pass if decision.road is not None else 0
        return of_pass == self._of_pass and self.judged.metres_at(0.0) is not None

    def _answer(self, decision: Decision) -> Answer:
        """A decision on a finding as it belongs today."""
        kind = decision.finding_kind if isinstance(decision, NoteChange | FindingAnswer) else ""
        notes = (decision.notes.first, decision.notes.last) if decision.notes is not None else None
        return Answer(kind, self._stretch(decision), notes)

    def here(self, decision: Decision) -> Decision | None:
        """A decision with the notes and metres of today; ``None`` where it has no place."""
        stretch = self._stretch(decision)
        if stretch is not None and decision.road is not None:
            decision = replace(decision, road=replace(decision.road, from_m=stretch[0], to_m=stretch[1]))
        if decision.notes is None:
            return decision
        notes = self._notes.of(decision.notes)
        if notes is not None:
            return replace(decision, notes=replace(decision.notes, first=notes[0], last=notes[1]))
        # What is known by its place on the road needs no note.
        return replace(decision, notes=None) if stretch and not isinstance(decision, OnNotes) else None

    def _stretch(self, decision: Decision) -> Stretch | None:
        """Where a decision's stretch of road lies on this pass."""
        road = decision.road
        if road is None:
            return None
        if road.from_s is None or road.to_s is None:
            return road.from_m, road.to_m
        ends = [self._metres(road.of_pass, s) for s in (road.from_s, road.to_s)]
        if ends[0] is None or ends[1] is None:
            of_another = road.of_pass != self._of_pass and isinstance(decision, Addition)
            return (road.from_m, road.to_m) if of_another else None
        return ends[0], ends[1]

    def _metres(self, of_pass: int, time_s: float) -> float | None:
        here = self.judged.metres_at(time_s) if of_pass == self._of_pass else self._elsewhere(of_pass, time_s)
        return round(here, 2) if here is not None else None


def _of_an_old_finding(decision: Decision) -> bool:
    """Whether a decision is on a finding that an older program named, and that was not there when it got its place."""
    return isinstance(decision, FindingAnswer) and not decision.finding_kind and bool(_OLD_NAME.match(decision.key))
