"""Judging distances: a gap is a finding only outside what the crew's own habit explains."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from mirkle.core.judging.findings import SURELY_PAIRED, Finding, JudgingContext, Proposal
from mirkle.core.judging.outliers import slips_among
from mirkle.core.lineup.crew_scale import GapYardstick
from mirkle.core.lineup.result import GapMet
from mirkle.core.messages import Message, message
from mirkle.core.motion.bends import Bend
from mirkle.core.notes.model import Note
from mirkle.core.notes.rewording import Rewording

# A bend that turns less has uncertain ends: the 90th percentile of their error is 14 m instead of 8, and 20 to 30 m with positions
# alone. Distances next to one are divided by the last number before they are judged.
GENTLE_DEG, COARSELY_GENTLE_DEG, BESIDE_A_GENTLE_ONE = 15.0, 25.0, 1.75
SMALLEST_DIFFERENCE_M = 15.0
# A distance that is off by more of what was called is more than a question, between bends that turn by more than hardly.
FAR_OFF, HARDLY_TURNS_DEG = 0.4, 12.0
# A distance that may have a zero too many is longer by more scatters than this; a single one is asked about between notes that are
# paired at least this surely.
FAR_TOO_LONG, PERHAPS_PAIRED = 3.0, 0.5
# A distance is a usual one within this many standard deviations.
USUAL_SPREADS = 2.0
# What is surely wrong by itself has a zero too many where a tenth of it comes about right.
ABOUT = 2.0
# How sure that is where dividing by ten makes a sum of distances right.
ZERO_SURE = 0.9
# Nothing is said of a distance that is off by less than this share of what was called.
LEAST_SHARE = 0.25
# What a wrong distance costs a car: this much for each of these metres, times the last number where there is less road than called.
RISK, RISK_OVER_M, SHORTER_COSTS = 0.3, 50.0, 1.5


def judge_gaps(case: JudgingContext, troubled: frozenset[int]) -> Iterator[Finding]:
    """Findings on the distances between corners; ``troubled`` notes have a corner missing or too many beside them."""
    called = [(g, g.called_m) for g in case.lineup.gaps if g.called_m is not None]
    measured = [(g, c, g.met_m) for g, c in called if g.met_m is not None and _shows(g, troubled)]
    odd = slips_among(np.array([_oddness(case, *gap) for gap in measured]))
    found = {g.note: _distance(case, g, c, m, sure) for (g, c, m), sure in zip(measured, odd.tolist(), strict=True)}
    for gap, called_m in called:
        finding = found.get(gap.note) or _zero_too_many(case, gap, called_m)
        if finding is not None:
            yield finding


def _shows(gap: GapMet, troubled: frozenset[int]) -> bool:
    """Whether a gap lies between two neighbouring notes of which nothing else is wrong."""
    return gap.usable and gap.next_note == gap.note + 1 and troubled.isdisjoint((gap.note, gap.next_note))


def _distance(case: JudgingContext, gap: GapMet, called_m: float, met_m: float, sure: float) -> Finding | None:
    """A distance that is so surely a slip, if that is worth a finding."""
    before, after = _ends(case, gap)
    yardstick = case.lineup.distances
    expected, scatter = _usual(yardstick, called_m)
    off = met_m - expected
    metres = case.hand.nearest_distance((met_m - yardstick.offset_m) / yardstick.factor)
    if sure < case.parameters.asked or abs(off) < max(SMALLEST_DIFFERENCE_M, LEAST_SHARE * called_m) or metres == called_m:
        return None
    # Only between two corners that are surely the ones called is a distance more than a question.
    strong = sure > case.parameters.change_likely and abs(off) > FAR_OFF * called_m and not case.coarse
    strong = strong and all(_is_the_one_called(case, n) for n in (gap.note, gap.next_note))
    note, following = case.notes[gap.note], case.notes[gap.next_note]
    low_m, high_m = max(0.0, expected - USUAL_SPREADS * scatter), expected + USUAL_SPREADS * scatter
    because = message(
        "Called {called_m:.0f}, but it was {met_m:.0f} m from the end of {note} to {next_note}.",
        called_m=called_m,
        met_m=met_m,
        note=note.text,
        next_note=following.text,
    )
    usual = message("Your {called_m:.0f} usually means {low_m:.0f} to {high_m:.0f} m.", called_m=called_m, low_m=low_m, high_m=high_m)
    return Finding(
        id=f"distance@{gap.note}",
        kind="distance-longer" if off > 0 else "distance-shorter",
        note=gap.note,
        from_m=before.to_m,
        to_m=max(after.from_m, before.to_m + 1.0),
        called=message("{called_m:.0f}", called_m=called_m),
        met=message("{met_m:.0f} m", met_m=met_m),
        severity="change" if strong else "check",
        confidence=sure,
        risk=_risk(off),
        because=(because, *_ten_times(case, called_m, met_m)),
        background=(usual,),
        proposal=_rewritten(case, note, metres),
    )


def _is_the_one_called(case: JudgingContext, note: int) -> bool:
    """Whether a note's bend turns, and lies within a grade of what is called."""
    corner = case.graded.get(note)
    return corner is not None and abs(corner.shift) < 1.0 and corner.bend.turn_deg > HARDLY_TURNS_DEG


def _ends(case: JudgingContext, gap: GapMet) -> tuple[Bend, Bend]:
    """The bends before and behind a measured gap."""
    before, after = case.lineup.bend_of(gap.note), case.lineup.bend_of(gap.next_note)
    assert before is not None, "a measured gap lies between two paired bends"
    assert after is not None
    return before, after


def _oddness(case: JudgingContext, gap: GapMet, called_m: float, met_m: float) -> float:
    """By how many of the crew's standard deviations a distance is off: between the arcs and between the eased ends, the lesser of both.

    Where a long tail is an end of the bend to some and a part of it to others, both ways of measuring have to say so.
    """
    before, after = _ends(case, gap)
    expected, scatter = _usual(case.lineup.distances, called_m)
    eased, eased_scatter = _usual(case.lineup.eased_distances, called_m)
    way = float(np.sign(met_m - expected))
    eased_z = way * (after.eased_from_m - before.eased_to_m - eased) / eased_scatter
    gentle = min(before.turn_deg, after.turn_deg) < (COARSELY_GENTLE_DEG if case.coarse else GENTLE_DEG)
    return way * max(0.0, min(abs(met_m - expected) / scatter, eased_z)) / (BESIDE_A_GENTLE_ONE if gentle else 1.0)


def _rewritten(case: JudgingContext, note: Note, metres: int) -> Proposal:
    """The distance behind a note written otherwise, where the book has it: in its own text, or at the head of the next."""
    rewording = Rewording(distance_m=metres)
    following = case.notes[note.index + 1]
    if note.gap_span is None or note.gap_span.start < following.span.start:
        return case.proposed(note, rewording)
    first, last = note.gap_span.start - following.span.start, note.gap_span.end - following.span.start
    return Proposal(following.index, following.index, f"{following.text[:first]}{metres}{following.text[last:]}", None)


def _without_a_zero(note: Note) -> int | None:
    """A tenth of a note's distance, metres, where that is one that is called."""
    return note.distance_m // 10 if note.distance_m and note.distance_m % 100 == 0 else None


def _zero_too_many(case: JudgingContext, gap: GapMet, called_m: float) -> Finding | None:
    """Where nothing shows a bend's end, or other notes (a crest, a dip) stand between two corners, only this is said of a distance: that it
    has a zero too many, and with several which one.
    """
    before, after = case.lineup.tie_of[gap.note], case.lineup.tie_of[gap.next_note]
    note = max(case.notes[gap.note : gap.next_note], key=lambda n: n.distance_m or 0)
    # A sum of several distances scatters widely: it has to come out right, between two sure notes. A tenth of a single one is so far from
    # the rest of it that the exact bend hardly matters.
    alone, sure = called_m == note.distance_m, min(before.sure, after.sure)
    if before.bend is None or after.bend is None or sure < (PERHAPS_PAIRED if alone else SURELY_PAIRED):
        return None
    # The more road of both ways to measure speaks less for it.
    met_m = max(after.bend.from_m - before.bend.to_m, 0.0)
    expected, scatter = _usual(case.lineup.distances, called_m)
    metres = _without_a_zero(note)
    if note.distance_m is None or metres is None or (expected - met_m) / scatter < FAR_TOO_LONG:
        return None
    if not _fits(case, called_m - note.distance_m + metres, met_m, ABOUT if alone else 1.0):
        return None
    return Finding(
        id=f"distance@{note.index}",
        kind="distance-shorter",
        note=note.index,
        from_m=before.bend.to_m,
        to_m=max(after.bend.from_m, before.bend.to_m + 1.0),
        called=message("{written_m:.0f}", written_m=note.distance_m),
        met=message("{met_m:.0f} m", met_m=met_m),
        severity="check" if case.coarse or sure < SURELY_PAIRED else "change",
        confidence=ZERO_SURE * sure,
        risk=_risk(metres - note.distance_m),
        because=(
            message(
                "Called {called_m:.0f} in all from {note} to {next_note}, but it was {met_m:.0f} m.",
                called_m=called_m,
                note=case.notes[gap.note].text,
                next_note=case.notes[gap.next_note].text,
                met_m=met_m,
            ),
            message("It seems to have a zero too many."),
        ),
        proposal=_rewritten(case, note, metres),
    )


def _risk(off_m: float) -> float:
    """What it costs a car that a distance is off by some metres: less road than was called costs more."""
    return RISK * abs(off_m) / RISK_OVER_M * (SHORTER_COSTS if off_m < 0 else 1.0)


def _fits(case: JudgingContext, called_m: float, met_m: float, spreads: float = 1.0) -> bool:
    """Whether a distance as met is a usual one for what was called, or within a multiple of what is."""
    expected, scatter = _usual(case.lineup.distances, called_m)
    return abs(met_m - expected) < spreads * USUAL_SPREADS * scatter


def _usual(yardstick: GapYardstick, called_m: float) -> tuple[float, float]:
    """What this crew means by a distance, and the standard deviation of that, in metres."""
    called = np.array([called_m])
    return float(yardstick.expected_m(called)[0]), float(yardstick.scatter_m(called)[0])


def _ten_times(case: JudgingContext, called_m: float, met_m: float) -> tuple[Message, ...]:
    """Where a zero too many or too few explains a distance."""
    if called_m % 100 == 0 and _fits(case, called_m / 10.0, met_m, ABOUT):
        return (message("It seems to have a zero too many."),)
    return (message("It seems to lack a zero."),) if _fits(case, called_m * 10.0, met_m, ABOUT) else ()
