"""Two copies of a stage that were worked on apart: which of their decisions are about the same thing, and which of these disagree.

A log is united by the identities of its entries, whatever the order (a set that only grows: Shapiro et al. 2011, "Conflict-free replicated
data types"). What the entries of both copies add up to is then the same in both. This module says what people have to look at.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from mirkle.core.notebook.decisions import (
    CallTap,
    ChangeAnswer,
    Decision,
    Entry,
    FindingAnswer,
    NoteChange,
    NotePlace,
    Observation,
    PassChange,
    RoadPlace,
)
from mirkle.core.notebook.passes import Pass

# What people decide about a note or a finding. Ticks, call times and additions of two copies stand next to each other.
Answering = NoteChange | FindingAnswer | Observation | ChangeAnswer


@dataclass(frozen=True)
class Numbers:
    """The numbers that passes, files and entries of the log of another copy have in this one."""

    passes: Mapping[int, int]
    files: Mapping[int, int]
    entries: Mapping[int, int]

    def entry(self, entry: Entry) -> Entry:
        """An entry of the other copy with the numbers of this one, and without a number."""
        decision = self._decision(entry.decision) if entry.decision is not None else None
        return replace(entry, decision=decision, of=self._of(entry.of), against=self._of(entry.against), number=0)

    def _of(self, number: int) -> int:
        # -1 is no entry's number, where 0 would mean the last one.
        return self.entries.get(number, -1) if number else 0

    def _decision(self, decision: Decision) -> Decision:
        if decision.road is not None:
            decision = replace(decision, road=replace(decision.road, of_pass=self._pass(decision.road.of_pass)))
        if isinstance(decision, CallTap):
            return replace(decision, of_pass=self._pass(decision.of_pass))
        if isinstance(decision, PassChange):
            before, after = self.made(decision.before), self.made(decision.after)
            return replace(decision, key=f"pass-{after.id}", before=before, after=after)
        return decision

    def _pass(self, number: int) -> int:
        return self.passes.get(number, 0)

    def made(self, made: Pass) -> Pass:
        """A pass of the other copy with the numbers of this one."""
        run, notes, calls = self._file(made.run), self._file(made.notes), self._file(made.calls)
        media, overrides = self._file(made.media), self._file(made.overrides)
        return replace(made, id=self._pass(made.id), run=run, notes=notes, calls=calls, media=media, overrides=overrides)

    def _file(self, number: int | None) -> int | None:
        return self.files.get(number) if number is not None else None


def are_about_the_same(one: Decision, other: Decision) -> bool:
    """Whether two decisions on one edition of the book answer the same question: about the same finding, or the same note."""
    if not isinstance(one, Answering) or not isinstance(other, Answering):
        return False
    if one.key == other.key:
        return True
    if _question(one) != _question(other):
        return False
    if one.notes is not None and other.notes is not None:
        return _span(one.notes) == _span(other.notes)
    return one.road is not None and other.road is not None and _overlap_on_road(one.road, other.road)


def _question(decision: Answering) -> tuple[str, str]:
    """What kind of question a decision answers."""
    if isinstance(decision, ChangeAnswer):
        return "change", decision.about
    if isinstance(decision, Observation) or (isinstance(decision, NoteChange) and decision.seen):
        return "seen", ""
    return "finding", decision.finding_kind


def _span(notes: NotePlace) -> tuple[int, int]:
    """A place in the book, in characters of its text, in numbers of notes where an old file has no more."""
    return (notes.at, notes.at + len(notes.text)) if notes.text else (notes.first, notes.last + 1)


def _overlap_on_road(one: RoadPlace, other: RoadPlace) -> bool:
    return one.of_pass == other.of_pass and one.from_m <= other.to_m and other.from_m <= one.to_m


def _write_over_each_other(one: Decision, other: Decision) -> bool:
    """Whether two changes of notes can't both stand in the book."""
    if not isinstance(one, NoteChange) or not isinstance(other, NoteChange):
        return False
    a, b = _span(one.notes), _span(other.notes)
    return a[0] < b[1] and b[0] < a[1]


def _say_the_same(one: Decision, other: Decision) -> bool:
    """Whether two answers come to the same, whoever gave them."""
    return _said(one) == _said(other)


def _said(decision: Decision) -> tuple[str, ...]:
    text = decision.text if isinstance(decision, NoteChange) else ""
    return type(decision).__name__, text, getattr(decision, "answer", ""), getattr(decision, "seen", "")


@dataclass(frozen=True)
class Meeting:
    """Two decisions, of the entries ``one`` and ``other``, that two copies made about the same thing: under ``key`` from now on, where that
    is one question, and whether they ``disagree``."""

    one: int
    other: int
    key: str | None
    disagree: bool


def meetings(
    decisions: Mapping[int, Decision], editions: Mapping[int, int | None], ours: Iterable[int], theirs: Iterable[int]
) -> list[Meeting]:
    """Where decisions that only one copy knew meet decisions that only the other knew.

    Parameters
    ----------
    decisions, editions : by the numbers of their entries: what was decided, and the edition of the book that it is about
    ours, theirs : the entries that only this copy, or only the other copy, had, of those that nobody took back
    """
    found = []
    theirs = list(theirs)
    for one in ours:
        for other in theirs:
            a, b = decisions[one], decisions[other]
            if editions[one] != editions[other]:
                continue
            if are_about_the_same(a, b):
                found.append(Meeting(one, other, min(a.key, b.key), not _say_the_same(a, b)))
            elif _write_over_each_other(a, b):
                found.append(Meeting(one, other, None, disagree=True))
    return found
