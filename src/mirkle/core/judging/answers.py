"""Which finding of a review was answered by which decision.

A review may be made again with another start, clock, pairing or program, and its findings are other objects each time. The same finding
is the nearest one of its kind, within :data:`NEAR_M`, one finding for one decision. What is said about a note is about that note alone;
what is said about a place (a corner that nobody calls) may stand at another note today.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from mirkle.core.judging.finding_kinds import KINDS
from mirkle.core.judging.findings import Finding

# The same finding of two reviews lies no further apart, metres between their ends. # common practice: as for two passes
NEAR_M = 40.0

Stretch = tuple[float, float]


@dataclass(frozen=True)
class Answer:
    """A decision on a finding where it belongs today: its kind, its stretch of road and its notes; ``None`` where that can't be told."""

    kind: str
    stretch: Stretch | None
    notes: tuple[int, int] | None


def attached(findings: Sequence[Finding], answers: Sequence[Answer]) -> dict[str, int]:
    """Which answer belongs to which finding.

    Parameters
    ----------
    findings : of one review
    answers : to findings, of this review or an earlier one

    Returns
    -------
    For the id of each finding that was answered, the place of its answer in ``answers``; the nearest pairs first, one to one.
    """
    by_kind: dict[str, list[Finding]] = {}
    for finding in findings:
        by_kind.setdefault(finding.kind, []).append(finding)
    pairs = [
        (apart, i, finding.id)
        for i, answer in enumerate(answers)
        for finding in by_kind.get(answer.kind, ())
        if (apart := _apart(finding, answer)) is not None
    ]
    out: dict[str, int] = {}
    used: set[int] = set()
    for _, i, name in sorted(pairs):
        if i not in used and name not in out:
            out[name] = i
            used.add(i)
    return out


def _apart(finding: Finding, answer: Answer) -> float | None:
    """How far a finding of its kind lies from an answer, metres between their middles; ``None`` where it is another one."""
    notes = answer.notes
    same_note = notes is not None and notes[0] <= finding.note <= notes[1]
    if notes is not None and not same_note and not KINDS[finding.kind].of_a_place:
        return None
    if answer.stretch is None:
        # Without a road only the note can tell.
        return 0.0 if same_note else None
    from_m, to_m = answer.stretch
    if max(from_m - finding.to_m, finding.from_m - to_m) > NEAR_M:
        return None
    return 0.5 * abs(from_m + to_m - finding.from_m - finding.to_m)
