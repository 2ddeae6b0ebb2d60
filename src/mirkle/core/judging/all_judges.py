"""All judges in a row, and what their findings mean together: which of two says it, what one cause explains, and what is left to doubt."""

from __future__ import annotations

from collections.abc import Sequence, Set
from dataclasses import replace

from mirkle.core.judging.call_timing import judge_timing
from mirkle.core.judging.common_causes import with_causes
from mirkle.core.judging.compounds import call_nothing, with_compounds
from mirkle.core.judging.corners import judge_corners
from mirkle.core.judging.crew_habits import merge_crew_habits
from mirkle.core.judging.driving import judge_driving
from mirkle.core.judging.finding_kinds import KINDS, SEVERITIES
from mirkle.core.judging.findings import DANGER_SURE, Finding, JudgingContext
from mirkle.core.judging.gaps import judge_gaps
from mirkle.core.judging.said_by_crew import judge_debrief
from mirkle.core.judging.shape import begins_tighter, judge_lengths, judge_shapes
from mirkle.core.judging.vertical import judge_vertical
from mirkle.core.judging.wording import judge_words
from mirkle.core.lineup.book_fit import BookFit
from mirkle.core.messages import message
from mirkle.core.motion.gaps import UnmeasuredStretch
from mirkle.core.motion.segments import BridgedGap
from mirkle.core.notes.grading import SENSE_KNOWN
from mirkle.core.notes.model import Note


def findings_of(
    case: JudgingContext, unmeasured: Sequence[UnmeasuredStretch], bridged: Sequence[BridgedGap], fit: BookFit
) -> tuple[Finding, ...]:
    """What all judges say of a pass, the gravest first; nothing of a stretch that was not measured, or that the notes do not describe."""
    found = _all_found(case)
    harmless = call_nothing(case, found)
    together = merge_crew_habits(with_causes(case, with_compounds(case, found)), case.notes)
    counted = [f for f in together if f.from_m <= case.finish_m and _counts(case, f)]
    shown = [f for f in counted if fit.holds(f.from_m, f.to_m) and _was_measured(f, unmeasured)]
    doubted = [perhaps(with_doubt(beside_unknown(_capped(case, f), case.notes, harmless), bridged)) for f in shown]
    grave = {f.id for f in found if f.severity == "danger"}
    return tuple(sorted(doubted, key=lambda f: (SEVERITIES.index(f.severity), f.id not in grave, -f.risk, f.from_m)))


def _all_found(case: JudgingContext) -> list[Finding]:
    """What each judge says by itself, with one finding for a corner that is tighter than its note."""
    corners, shapes = _one_for_each(case, list(judge_corners(case)), list(judge_shapes(case)))
    missing = {f.note for f in corners if f.kind in ("corner-uncalled", "corner-unmet")}
    troubled = frozenset(missing | {n + 1 for n in missing} | {n - 1 for n in missing})
    graded = frozenset(f.note for f in (*corners, *shapes) if f in corners or f.kind == "tightens-uncalled")
    return [
        *corners,
        *shapes,
        *(f for f in judge_lengths(case) if f.note not in graded),
        *judge_gaps(case, troubled),
        *judge_vertical(case),
        *judge_words(case),
        *judge_timing(case),
        *judge_debrief(case),
        *judge_driving(case, graded),
    ]


def _counts(case: JudgingContext, finding: Finding) -> bool:
    """Whether the pass counts where a finding rests on its pace."""
    middle = 0.5 * (finding.from_m + finding.to_m)
    return not KINDS[finding.kind].by_pace or not any(p.holds(middle) for p in case.parts)


def _capped(case: JudgingContext, finding: Finding) -> Finding:
    """The finding as a question where it rests on the grades and nobody knows which way they run."""
    known = case.school.sense_sure >= SENSE_KNOWN or not KINDS[finding.kind].by_sense
    return finding if known or finding.severity == "remark" else replace(finding, severity="check")


def _was_measured(finding: Finding, unmeasured: Sequence[UnmeasuredStretch]) -> bool:
    return not any(u.touches(finding.from_m, finding.to_m) for u in unmeasured)


def _one_for_each(case: JudgingContext, corners: list[Finding], shapes: list[Finding]) -> tuple[list[Finding], list[Finding]]:
    """The findings with one for a corner that is tighter than its note: that it tightens, or its grade.

    It is the grade where that would be graver, or where the corner is tighter than its note from its first half on.
    """
    tighter = {f.note: f for f in corners if f.kind == "grade-tighter"}
    shaped = {f.note: f for f in shapes if f.kind == "tightens-uncalled" and f.note in tighter}

    def by_grade(note: int) -> bool:
        graver = SEVERITIES.index(tighter[note].severity) < SEVERITIES.index(shaped[note].severity)
        return graver or begins_tighter(case, shaped[note])

    as_grade = {note for note in shaped if by_grade(note)}
    return _without("grade-tighter", shaped.keys() - as_grade, corners), _without("tightens-uncalled", as_grade, shapes)


def _without(kind: str, notes: Set[int], findings: list[Finding]) -> list[Finding]:
    """The findings but those of a kind on some notes."""
    return [f for f in findings if f.kind != kind or f.note not in notes]


def perhaps(finding: Finding) -> Finding:
    """A danger that is not sure enough to be one: a check that says so."""
    if finding.severity != "danger" or finding.confidence >= DANGER_SURE:
        return finding
    doubt = message("This may be a danger. The recording is not clear enough to be sure.")
    return replace(finding, severity="check", because=(*finding.because, doubt))


def beside_unknown(finding: Finding, notes: Sequence[Note], harmless: frozenset[str] = frozenset()) -> Finding:
    """The finding, to be looked at where it says that nothing calls something beside a word that is not understood: that may call it.

    ``harmless`` words, in lower case, stand at enough places where there is nothing to call.
    """
    if not KINDS[finding.kind].uncalled or finding.severity not in ("danger", "change"):
        return finding
    words = [w for note in notes[finding.note : finding.note + 2] for w in note.unknown_words if w.lower() not in harmless]
    if not words:
        return finding
    said = message("“{word}” is not understood here. It may call this.", word=words[0])
    return replace(finding, severity="check", because=(*finding.because, said))


def with_doubt(finding: Finding, bridged: Sequence[BridgedGap]) -> Finding:
    """The finding with a sentence where it lies on a stretch that was bridged."""
    longest = max((b.seconds for b in bridged if b.touches(finding.from_m, finding.to_m)), default=0.0)
    if not longest:
        return finding
    said = message("Positions are missing here for {missing_s:.0f} s. The line there is a guess.", missing_s=longest)
    return replace(finding, because=(*finding.because, said))
