"""Other passes of the same stage: they strengthen a finding or speak against it, and the sentence says so."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace

from mirkle.core.judging.finding_kinds import KINDS, SEVERITIES
from mirkle.core.judging.findings import Finding
from mirkle.core.judging.other_pass import Witness
from mirkle.core.messages import Message, message

# The same place on another pass: distances drift by a few metres in a kilometre.
NEAR_M = 40.0


def with_other_passes(findings: Sequence[Finding], others: Iterable[Witness]) -> tuple[Finding, ...]:
    """The findings with what other passes say of each, in the order of risk.

    A pass that shows the same makes it surer; one that does not makes it less sure, and what would have been a change
    rests on one pass against another, so it becomes a check. A danger stays a danger: two passes that disagree about one
    are a reason to look, not to rest. But what a pass can't show it says nothing against.
    """
    others = list(others)
    out = [_held_against(f, others) if KINDS[f.kind].passes != "none" else f for f in findings]
    return tuple(sorted(out, key=lambda f: (SEVERITIES.index(f.severity), -f.risk, f.from_m)))


def _held_against(finding: Finding, others: Sequence[Witness]) -> Finding:
    """A finding with how many passes show the same, and how many could and don't."""
    shown = [any(_same(finding, f) for f in other.findings) for other in others]
    silent = [not s and other.speaks_to(finding.kind) for s, other in zip(shown, others, strict=True)]
    agree, against = sum(shown), sum(silent)
    if not agree and not against:
        return finding
    # That others show it as well is good to know; that one does not is a doubt.
    said = _words(agree, against)
    weighed = replace(finding, because=(*finding.because, said)) if against else replace(finding, background=(*finding.background, said))
    if finding.kind == "corner-uncalled":
        # What other lines show of that is in it already (mirkle.core.joint.joint_alignment).
        return weighed
    confidence = (1 - (1 - finding.confidence) * 0.5**agree) * 0.75**against
    one_against_another = finding.severity == "change" and against > agree
    return replace(weighed, confidence=confidence, severity="check" if one_against_another else finding.severity)


def _same(a: Finding, b: Finding) -> bool:
    near = a.from_m - NEAR_M < b.to_m and a.to_m + NEAR_M > b.from_m
    return near and b.kind in (a.kind, *KINDS[a.kind].akin)


def _words(agree: int, against: int) -> Message:
    others = agree + against
    if others == 1:
        return message("The other pass agrees.") if agree else message("The other pass does not show it.")
    if not against:
        return message("{0} other passes agree.", others)
    if not agree:
        return message("{0} other passes do not show it.", others)
    return message("Of {0} other passes, {1} agree with it.", others, agree)
