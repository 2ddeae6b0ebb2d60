"""The report of a pass as values: what stands on the page, in the table and on paper, in the words of the reader's language."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from mirkle.core.cautions import CAUTIONS
from mirkle.core.judging.findings import Finding
from mirkle.core.messages import Message, message
from mirkle.core.notebook.decisions import ANSWER_WORDS, Addition, Decision, NoteChange, Observation
from mirkle.core.notebook.edition import Change
from mirkle.core.notebook.observed import seen_words
from mirkle.files.export.content import Content

Group = Literal["finding", "unmeasured", "added", "seen"]
ADDED_AS = {"condition": message("next pass only"), "hazard": message("hazard")}


@dataclass(frozen=True)
class Entry:
    """Something that is reported; ``None`` where there is nothing to say.

    ``title`` says what it is, ``place`` where and ``reasons`` why, in words; ``finding`` is what it was made of. Places are metres from the
    start line, ``seconds`` those that were lost or could be won. ``decision`` is the key of what was ``answered``.
    """

    group: Group
    title: str
    place: str
    kind: str
    severity: str | None = None
    page: int | None = None
    line: int | None = None
    note: str | None = None
    from_m: float | None = None
    to_m: float | None = None
    called: str | None = None
    met: str | None = None
    confidence: float | None = None
    seconds: float | None = None
    reasons: tuple[str, ...] = ()
    proposal: str | None = None
    decision: str | None = None
    answered: str = ""
    by: str | None = None
    remark: str | None = None
    written: str | None = None
    finding: Finding | None = None

    @property
    def why(self) -> str | None:
        """The reasons, one behind the other."""
        return " ".join(self.reasons) or None

    @property
    def decided(self) -> str:
        """What was decided, by whom, and the remark on it, in words."""
        return ", ".join(part for part in (self.answered, self.by, self.remark) if part)


@dataclass(frozen=True)
class Report:
    """A report with its ``summary`` in a sentence, the ``cautions``, what is to be doubted, the ``changes`` to copy, everything that is
    reported, and what was said behind the finish."""

    summary: str
    cautions: tuple[str, ...]
    doubts: tuple[str, ...]
    changes: Sequence[Change]
    entries: tuple[Entry, ...]
    debrief: tuple[str, ...]

    def of(self, group: Group) -> list[Entry]:
        """The entries of a group."""
        return [entry for entry in self.entries if entry.group == group]


def report_of(content: Content) -> Report:
    """The report of a review: the findings, what was not measured, what was added by hand, and what was seen on the video."""
    review, tell = content.review, content.tell
    nothing = tell(message("unmeasured"))
    unmeasured = [
        Entry("unmeasured", nothing, "", nothing, from_m=u.from_m, to_m=u.to_m, reasons=(tell(u.sentence),))
        for u in review.measured.unmeasured
    ]
    findings = [_finding(content, f) for f in review.findings]
    counted = message(
        "{0:.1f} km; {1} findings, {2} decided, {3} changes.",
        review.finish_m / 1000,
        len(review.findings),
        len(content.decisions),
        len(content.changes),
    )
    return Report(
        tell(counted),
        tuple(tell(Message(caution)) for caution in CAUTIONS),
        tuple(tell(sentence) for sentence in (*(u.sentence for u in review.measured.unmeasured), *review.doubts)),
        content.changes,
        (*findings, *unmeasured, *(_added(content, a) for a in content.additions), *(_seen(content, d) for d in content.seen)),
        tuple(r.text for r in review.remarks if r.debrief),
    )


def _finding(content: Content, finding: Finding) -> Entry:
    tell, note, decision = content.tell, content.review.notes[finding.note], content.decisions.get(finding.id)
    called, met = (part if type(part) is str else tell(part) if part is not None else None for part in (finding.called, finding.met))
    entry = Entry(
        group="finding",
        title=tell(Message(finding.title)),
        place=tell(message("page {0}, line {1}: {2}", note.page, note.line, message("{0}", note.text))),
        kind=finding.kind,
        severity=tell(Message(finding.severity)),
        page=note.page,
        line=note.line,
        note=note.text,
        from_m=finding.from_m,
        to_m=finding.to_m,
        called=called,
        met=met,
        confidence=finding.confidence,
        seconds=finding.seconds,
        reasons=content.reasons(finding),
        proposal=finding.proposal.text if finding.proposal else None,
        finding=finding,
    )
    if decision is None:
        return entry
    return replace(
        entry,
        decision=tell(Message(decision.answer)),
        answered=tell(Message(ANSWER_WORDS[decision.answer])),
        by=_by(content, decision),
        remark=decision.remark,
        written=_written(decision),
    )


def _added(content: Content, addition: Addition) -> Entry:
    """What was added by hand: on the road, or behind a note of which nobody knows where it lies."""
    place = message("{0:.2f} km", (addition.from_m or 0.0) / 1000)
    if addition.from_m is None and addition.notes is not None:
        note = content.review.notes[addition.notes.first]
        place = message("behind “{0}”, page {1}, line {2}", note.text, note.page, note.line)
    return Entry(
        group="added",
        title=content.tell(ADDED_AS[addition.kind]),
        place=content.tell(place),
        kind=content.tell(Message(addition.kind)),
        from_m=addition.from_m,
        to_m=addition.road.to_m if addition.road else None,
        reasons=(addition.words,),
        by=_by(content, addition),
    )


def _seen(content: Content, decision: NoteChange | Observation) -> Entry:
    tell, note = content.tell, content.review.notes[decision.first_note]
    seen = tell(message("seen on the video"))
    return Entry(
        group="seen",
        title=seen,
        place=tell(message("page {0}, line {1}", note.page, note.line)),
        kind=seen,
        page=note.page,
        line=note.line,
        note=note.text,
        met=tell(message(seen_words(decision.seen))),
        decision=tell(Message(decision.answer)),
        by=_by(content, decision),
        remark=decision.remark,
        written=_written(decision),
    )


def _written(decision: Decision) -> str | None:
    """What was written instead; empty where the note was struck out."""
    return decision.text if isinstance(decision, NoteChange) else None


def _by(content: Content, decision: Decision) -> str | None:
    return content.tell(Message(decision.by)) if decision.by else None
