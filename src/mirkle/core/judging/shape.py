"""Judging the shape of corners: tightening and opening, and length, called against met."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from mirkle.core.judging.corners import a_grade_tighter
from mirkle.core.judging.crew_habits import calling
from mirkle.core.judging.finding_kinds import Severity
from mirkle.core.judging.findings import SURELY_PAIRED, Finding, JudgingContext, Proposal, surely_off
from mirkle.core.judging.outliers import slips_among
from mirkle.core.lineup.result import Pairing
from mirkle.core.messages import Message, message
from mirkle.core.motion.bends import Bend
from mirkle.core.notes.called import NARROWING
from mirkle.core.notes.model import Note
from mirkle.core.notes.rewording import Rewording
from mirkle.core.recording.model import Floats
from mirkle.core.stats import robust_sd, student_weights

# Logs of mean curvatures, the last third of a bend over its first: what usual steady bends lie about, since a driver lets the car run out,
# how
# far they spread, and for how many bends this counts.
STEADY_SHAPE, BORROWED_BENDS = (-0.07, 0.15), 10
# The second half's tightest over the first half's, of a bend that tightens.
TIGHTER_HALF = 0.12
# The easing at either end, in this share of the turn, is left out up to where most of its peak is reached.
ENDS, OF_PEAK = 0.3, 0.7
# The tightest part has to be tighter than the note promises by this much (grades) to be more than a check.
HALF_A_GRADE = 0.5
# A change of radius that was called and does not show is mostly there: what nobody planted came up thirty times on training worlds.
HARDLY = 0.25
# Against this stage's steady bends: what no longer tightens, what opens, and what surely does not.
NO_TIGHTER, OPENS, SURELY_NOT_OPENING = 0.07, -0.38, 0.12
HELD = -0.23
# The halves of a bend that tightens no more, and of one that opens; and how far that one has to turn. # from training worlds
EVEN_HALVES, OPENER_HALF, OPENS_TURNING_DEG = 0.05, -0.3, 34.0
# Less sure pairs show nothing of a shape.
SHOWS_SHAPE = 0.6
# The least that counts as a size of opening, and the log odds that crews at large call one that opens clearly. # common practice
LEAST_OPENING, SELDOM_CALLED = 0.1, -0.5
# Shorter or gentler bends have no shape that a driven line would show.
LEAST_TURN_DEG, LEAST_LENGTH_M = 31.0, 38.0
# Nothing is said of a length that is nearer to this crew's own than by this factor. The least standard deviation of their logarithms.
LEAST_LENGTH_RATIO, LEAST_SCATTER = 1.4, 0.15
CLEAR_DEG, REPORTED_DEG, LEAST_BENDS = 20.0, 25.0, 18
# Rounds of weighing again; no bend is taken for shorter; a crew whose words for length grow by less a step does not go by metres.
ROUNDS, SHORTEST_BEND_M, LEAST_STEP = 8, 5.0, 0.15
LENGTHS = ("short", "", "long", "very long", "extra long", "extra extra long")
# The longest word that is proposed.
LONGEST = LENGTHS.index("extra long")
# No line is straighter, 1/m.
STRAIGHT_PER_M = 1e-4
# A tightening is a third sure at the least that counts, more with each step of the logarithm beyond, and no more than the last. # from
# training worlds: of those at the least two in five are right, of those far beyond three in five
TIGHTENS_SURE, SURER_BEYOND, MOST_SURE = 0.35, 0.8, 0.6
# What a bend costs a car that tightens, and for each share of speed that is lost by it; one that does not do what its note says; and one
# that is longer or shorter.
TIGHTENS_RISK, RISK_OF_SPEED, UNMET_RISK, LONGER_RISK, SHORTER_RISK = 1.5, 20.0, 0.3, 0.4, 0.2


@dataclass(frozen=True)
class Shape:
    """Log of the last third's mean curvature over the first third's, and of the halves' tightest."""

    thirds: float
    halves: float

    @property
    def opens(self) -> bool:
        """Whether a bend of this shape opens."""
        return self.thirds < OPENS and self.halves < OPENER_HALF


def shape_of(case: JudgingContext, bend: Bend) -> Shape | None:
    """A bend's shape, or ``None`` where it is too short or too gentle to have one."""
    first, last = int(bend.eased_from_m), int(bend.eased_to_m)
    if bend.turn_deg < LEAST_TURN_DEG or last - first < LEAST_LENGTH_M or case.coarse:
        return None
    bent = _trimmed(np.maximum(bend.side * case.profile.curvature_per_m[first : last + 1], STRAIGHT_PER_M))
    third = max(len(bent) // 3, 1)
    early, late = _halves(bent)
    return Shape(thirds=float(np.log(bent[-third:].mean() / bent[:third].mean())), halves=float(np.log(late.max() / early.max())))


def _halves(bent: Floats) -> tuple[Floats, Floats]:
    """The first and the last of a bend's curvature, without the fifth in its middle, where a change of radius may still be going on."""
    half = max(2 * len(bent) // 5, 1)
    return bent[:half], bent[-half:]


def _trimmed(bent: Floats) -> Floats:
    """The curvature of a bend without the easing at either end: from where it first reaches most of the peak in the first part of the
    turn."""
    turned = np.cumsum(bent)
    head = int(np.searchsorted(turned, ENDS * turned[-1])) + 1
    tail = int(np.searchsorted(turned, (1.0 - ENDS) * turned[-1]))
    first = int(np.argmax(bent[:head] >= OF_PEAK * bent[:head].max()))
    last = len(bent) - int(np.argmax(bent[tail:][::-1] >= OF_PEAK * bent[tail:].max()))
    return bent[first:last]


def steady_of(case: JudgingContext) -> tuple[float, float]:
    """Median and standard deviation of the shape of this stage's bends whose notes call no change of radius.

    What a driver does with every bend (a lazy entry, a car that runs out) is no tightening. Few bends borrow from what is usual.
    """
    shapes = [
        shape.thirds
        for tie in case.lineup.ties
        if tie.bend is not None
        and tie.sure > SURELY_PAIRED
        and not case.notes[tie.note].changes
        and not tie.parts
        and (shape := shape_of(case, tie.bend)) is not None
    ]
    middle, spread = STEADY_SHAPE
    if not shapes:
        return middle, spread
    own = float(np.median(shapes))
    # A tightening that was left out is one of them: the spread comes from the middle half.
    deviation = robust_sd(np.array(shapes), own)
    share = len(shapes) / (len(shapes) + BORROWED_BENDS)
    return share * own + (1.0 - share) * middle, float(np.hypot(np.sqrt(share) * deviation, np.sqrt(1.0 - share) * spread))


def judge_shapes(case: JudgingContext) -> Iterator[Finding]:
    """Findings on changes of radius inside corners."""
    middle, spread = steady_of(case)
    least = middle + case.parameters.tightens_spreads * spread
    shapes = [(note, tie, replace(shape, thirds=shape.thirds - middle)) for note, tie, shape in _shown(case)]
    # How likely this crew calls a bend that opens so far, from those it called.
    opening = calling(
        [max(-shape.thirds, LEAST_OPENING) for _, _, shape in shapes],
        [_opens(note) for note, _, _ in shapes],
        usual=-OPENS,
        at_large=SELDOM_CALLED,
    )
    for (note, tie, shape), called in zip(shapes, opening, strict=True):
        finding = _change(case, note, tie, shape, least - middle, called)
        if finding is not None:
            yield finding


def _shown(case: JudgingContext) -> Iterator[tuple[Note, Pairing, Shape]]:
    """The notes whose bend goes their way and shows a shape."""
    for tie in case.lineup.ties:
        note, bend = case.notes[tie.note], tie.bend
        if bend is None or tie.sure < SHOWS_SHAPE or note.direction is None or bend.side != note.direction.sign:
            continue
        shape = shape_of(case, bend)
        if shape is not None:
            yield note, tie, shape


def _opens(note: Note) -> bool:
    return any(change.opens for change in note.changes)


def _tightens(note: Note) -> bool:
    return any(change.tightens or change.way in NARROWING for change in note.changes)


def _change(case: JudgingContext, note: Note, tie: Pairing, shape: Shape, least: float, opening: float) -> Finding | None:
    """What is said of a bend's change of radius against what its note says of it; nothing where the note says both ways."""
    bend = tie.bend
    assert bend is not None
    if _tightens(note):
        return None if _opens(note) else _tightens_unmet(note, bend, shape)
    if _opens(note):
        not_there = shape.thirds > SURELY_NOT_OPENING
        words = message("it did not open")
        return _shape_finding(note, bend, "opens-unmet", words, confidence=HARDLY) if not_there else None
    if shape.thirds > least and shape.halves > TIGHTER_HALF:
        return _tightens_uncalled(case, note, tie, bend, _tightens_surely(shape.thirds - least))
    if shape.opens and bend.turn_deg > OPENS_TURNING_DEG:
        proposal = case.proposed(note, Rewording(opens=True))
        words = message("it opened towards its end")
        return _shape_finding(note, bend, "opens-uncalled", words, confidence=opening, proposal=proposal)
    return None


def _tightens_unmet(note: Note, bend: Bend, shape: Shape) -> Finding | None:
    if shape.thirds >= NO_TIGHTER or shape.halves >= EVEN_HALVES:
        return None
    words = message("it held its radius") if shape.thirds > HELD else message("it opened")
    return _shape_finding(note, bend, "tightens-unmet", words, confidence=HARDLY)


def _tightens_surely(beyond: float) -> float:
    """How sure a tightening is by how far its shape lies beyond the least."""
    return float(np.clip(TIGHTENS_SURE + SURER_BEYOND * beyond, 0.0, MOST_SURE))


def _tightens_uncalled(case: JudgingContext, note: Note, tie: Pairing, bend: Bend, shows: float) -> Finding:
    bent = np.maximum(bend.side * case.profile.curvature_per_m[int(bend.eased_from_m) : int(bend.eased_to_m) + 1], STRAIGHT_PER_M)
    first, last = (1 / float(part.max()) for part in _halves(bent))
    lost = case.overspeed(note, tie) - 1.0
    severity, sure = _tightens_severity(case, tie, shows, lost)
    grade, leads = _tightens_to(case, note, tie)
    rewording = Rewording(tightens=grade if leads else "")
    because = message(
        "It tightens, and the note does not say so: radius {first_radius_m:.0f} m in the first half, {second_radius_m:.0f} m in the "
        "second.",
        first_radius_m=first,
        second_radius_m=last,
    )
    background = message(
        "It went on for {length_m:.0f} m, at {speed_mps:kmh} km/h at the slowest.", length_m=bend.length_m, speed_mps=bend.speed_min_mps
    )
    return Finding(
        id=f"tightens@{note.index}",
        kind="tightens-uncalled",
        note=note.index,
        from_m=bend.from_m,
        to_m=bend.to_m,
        called=note.grade,
        met=message("tightens {grade}", grade=grade) if leads else "tightens",
        severity=severity,
        confidence=sure * tie.sure,
        risk=(TIGHTENS_RISK + RISK_OF_SPEED * max(0.0, lost)) * case.hazard_weight(note),
        because=(because,),
        background=(background,),
        proposal=case.proposed(note, rewording),
    )


def _tightens_severity(case: JudgingContext, tie: Pairing, shows: float, lost: float) -> tuple[Severity, float]:
    """How grave a tightening is that was left out, and how sure it is that the note is wrong; ``lost`` is the share of speed that a car has
    too much there.

    A grade that holds for the tightest part promises nothing that the road does not keep, whatever it begins like. And what tightens may
    be another bend that was taken for a part of this one: likely so, and to be looked at.
    """
    corner = case.graded.get(tie.note)
    shift = corner.shift if corner is not None else 0.0
    if shift >= -HALF_A_GRADE:
        return "check", shows
    scatter = case.scatter_of(tie)
    sure = max(shows, surely_off(shift, scatter, case.parameters))
    if tie.parts:
        return "check", sure
    likely = max(shows, a_grade_tighter(shift, scatter, case.parameters))
    return "danger" if likely * lost > case.parameters.danger_loss and tie.sure > SURELY_PAIRED else "change", sure


def _tightens_to(case: JudgingContext, note: Note, tie: Pairing) -> tuple[str | None, bool]:
    """The grade that a bend tightens to, and whether it says so: a tightening leads to a tighter grade, or the word stands alone."""
    grade = case.met_grade(tie.position) if tie.position is not None else note.grade
    called = case.called_position(note)
    if grade is None or grade == "flat" or called is None:
        return grade, False
    return grade, case.school.position(grade) < called


def begins_tighter(case: JudgingContext, finding: Finding) -> bool:
    """Whether a corner that tightens is tighter than its note by half a grade and more from its first half on."""
    tie = case.lineup.tie_of[finding.note]
    called = case.called_position(case.notes[finding.note])
    if tie.bend is None or tie.position is None or called is None:
        return False
    wider = case.lineup.grades.by_radius * float(np.log(finding.facts["first_radius_m"] / tie.bend.radius_m))
    return tie.position + wider < called - HALF_A_GRADE


def _shape_finding(note: Note, bend: Bend, kind: str, words: Message, *, confidence: float, proposal: Proposal | None = None) -> Finding:
    called = ", ".join(map(str, note.changes)) or None
    return Finding(
        id=f"shape@{note.index}",
        kind=kind,
        note=note.index,
        from_m=bend.from_m,
        to_m=bend.to_m,
        called=called,
        met=words,
        severity="check",
        confidence=confidence,
        risk=UNMET_RISK,
        because=(
            message(
                "Called {called}, but {seen}: {turn_deg:.0f}° over {length_m:.0f} m.",
                called=note.text,
                seen=words,
                turn_deg=bend.turn_deg,
                length_m=bend.length_m,
            ),
        ),
        proposal=proposal,
    )


@dataclass(frozen=True)
class _Measured:
    """A note whose length can be held against the crew's own metres: its bend, its place on the scale, its word."""

    note: Note
    bend: Bend
    position: float
    word: int


def judge_lengths(case: JudgingContext) -> Iterator[Finding]:
    """Findings on corners that go on for clearly longer or less than this crew's own words for length mean.

    Only clear bends that stand free count: where the line leads from one bend into the next nothing shows their ends.
    """
    rows = list(_with_lengths(case))
    if len(rows) < LEAST_BENDS:
        return
    fit, off, scatter = _length_of_words(rows)
    if fit[2] < LEAST_STEP:
        return  # this crew's words for length do not go by metres
    for row, beyond, sure in zip(rows, off.tolist(), slips_among(off / scatter).tolist(), strict=True):
        if sure < case.parameters.asked or abs(beyond) < np.log(LEAST_LENGTH_RATIO) or row.bend.turn_deg < REPORTED_DEG:
            continue
        usual = float(np.exp(fit @ [1.0, row.position, row.word]))
        better = int(np.clip(round(row.word + beyond / fit[2]), 0, LONGEST))
        if better != row.word:
            yield _length(case, row, usual, LENGTHS[better], sure)


def _length_of_words(rows: Sequence[_Measured]) -> tuple[Floats, Floats, float]:
    """What a crew's words for length mean: the logarithm of metres by one slope for the grade and one for each step of the words, (3,); how
    far each corner is off that, (rows,), and the scatter. Errors are Student's, weighed again round by round."""
    length = np.log([max(r.bend.length_m, SHORTEST_BEND_M) for r in rows])
    columns = np.array([[1.0, r.position, r.word] for r in rows])
    weights = np.ones(len(rows))
    for _ in range(ROUNDS):
        fit = np.asarray(np.linalg.lstsq(columns * weights[:, None], length * weights, rcond=None)[0])
        off = length - columns @ fit
        scatter = max(robust_sd(off, 0.0), LEAST_SCATTER)
        weights = np.sqrt(student_weights(off / scatter))
    return fit, off, scatter


def _with_lengths(case: JudgingContext) -> Iterator[_Measured]:
    unmet = [g for g in case.lineup.gaps if g.met_m is None]
    led_into = {g.note for g in unmet} | {g.next_note for g in unmet}
    for corner in case.graded.values():
        note, bend = corner.note, corner.bend
        clear = corner.sure >= SURELY_PAIRED and note.index not in led_into and bend.turn_deg >= CLEAR_DEG
        if clear and _has_a_length(note):
            # Between what was called and what was met, so that a slip of the grade is not one of the length too.
            yield _Measured(note, bend, 0.5 * (corner.called + corner.position), LENGTHS.index(note.length or ""))


def _has_a_length(note: Note) -> bool:
    """Whether a note's length is one of the steps of words, and its grade says nothing of it."""
    return (note.length or "") in LENGTHS and note.grade not in ("hairpin", "square")


def _length(case: JudgingContext, row: _Measured, usual: float, better: str, sure: float) -> Finding:
    note, bend = row.note, row.bend
    longer = bend.length_m > usual
    rewording = Rewording(length=better)
    return Finding(
        id=f"length@{note.index}",
        kind="length-longer" if longer else "length-shorter",
        note=note.index,
        from_m=bend.from_m,
        to_m=bend.to_m,
        called=note.length or "no word of length",
        met=better or "plain",
        severity="check",
        confidence=sure,
        risk=LONGER_RISK if longer else SHORTER_RISK,
        because=(
            message(
                "Called {called}, but it went on for {met_m:.0f} m. Notes like this of yours go on for about {usual_m:.0f} m.",
                called=note.length or message("without a word of length"),
                met_m=bend.length_m,
                usual_m=usual,
            ),
        ),
        proposal=case.proposed(note, rewording),
    )
