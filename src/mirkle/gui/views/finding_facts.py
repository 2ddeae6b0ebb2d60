"""What else is known about the place of a finding, in short lines."""

from __future__ import annotations

from mirkle.core.judging.findings import Finding
from mirkle.core.review import Review
from mirkle.gui.labels import title_of
from mirkle.gui.translation import tr
from mirkle.gui.views.drawings import bend_of
from mirkle.session.reviewed_pass import ReviewedPass

# Who speaks of a place does so there, or in the seconds after it.
REMARK_BEFORE_M, REMARK_BEHIND_M = 20.0, 90.0


def facts_of(stage: ReviewedPass, finding: Finding) -> str:
    """What else is known about the place, in short lines."""
    review = stage.review
    lines = []
    bend, _ = bend_of(review, finding)
    if bend is not None:
        lines.append(tr("turned {0:.0f}° over {1:.0f} m", bend.turn_deg, bend.length_m))
    said = _said(review, finding.note)
    if said:
        lines.append(said)
    gap = next((g for g in review.lineup.gaps if g.note == finding.note), None)
    if gap is not None and gap.met_m is not None:
        called = f"{gap.called_m:.0f}" if gap.called_m is not None else gap.word or tr("nothing")
        lines.append(tr("to the next: called {0}, was {1:.0f} m", called, gap.met_m))
    before = next((g for g in review.lineup.gaps if g.next_note == finding.note), None)
    if before is not None and before.met_m is not None:
        called = f"{before.called_m:.0f}" if before.called_m is not None else before.word or tr("nothing")
        lines.append(tr("before it: called {0}, was {1:.0f} m", called, before.met_m))
    lines += remarks_near(review, finding.from_m, finding.to_m)
    others = [f for f in stage.findings_on(finding.note) if f is not finding]
    lines += [tr("also here: {0}", title_of(f).lower()) for f in others]
    return "\n".join(lines)


def remarks_near(review: Review, from_m: float, to_m: float) -> list[str]:
    """What else was said in the car about a place: there, or just behind it."""
    near = [r for r in review.remarks if from_m - REMARK_BEFORE_M < r.at_m < to_m + REMARK_BEHIND_M]
    return [tr("said here: “{0}”", r.text) for r in near]


def _said(review: Review, note: int) -> str:
    """When a corner's note was said, before its place."""
    lead_s = review.calls[note].lead_s
    return tr("called {0:.1f} s before", lead_s) if lead_s is not None else ""
