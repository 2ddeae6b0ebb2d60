"""Judging corners: the grade, the direction, corners that no note calls and notes that no corner answers."""

from __future__ import annotations

from collections.abc import Iterator

from mirkle.core.judging.compounds import calls_too
from mirkle.core.judging.finding_kinds import Severity
from mirkle.core.judging.findings import SAME_PLACE_M, Finding, GradedCorner, JudgingContext, Proposal, surely_off
from mirkle.core.judging.parameters import PARAMETERS, Parameters
from mirkle.core.lineup.result import Pairing, Uncalled
from mirkle.core.messages import Message, message
from mirkle.core.motion.bends import Bend
from mirkle.core.notes.grading import whole_grade
from mirkle.core.notes.model import Direction, Note
from mirkle.core.notes.rewording import Rewording
from mirkle.core.speech.delivery import corner_words
from mirkle.core.stats import normal_cdf

# The approach speed is read this far before a bend (m); it weighs as a share of this speed (km/h).
APPROACH_M, APPROACH_KMH = 60.0, 100.0
# How sure another side is where the bend hardly turns, and what it costs a car.
HARDLY_TURNS_SURE, OTHER_SIDE_RISK = 0.6, 4.0
# Length of road that a corner note without a corner takes from the distances around it (m).
A_CORNER_M = 15.0
# What a crew would rewrite: a grade. # common practice
A_GRADE = 1.0
# A bend that turns less than this hardly shows in a driven line.
HARDLY_A_BEND_DEG = 5.0
A_BEND_DEG = 15.0
# A bend that turns little still shows from this many scatters on.
BEYOND_DOUBT = 2.8
# Where the radius is known no better than this, nothing is more than a check.
BLURRED = 0.35
# A driver can straighten out the bends of notes beyond this share of the scale.
GENTLE_SHARE = 0.58
# So likely the road goes the other way that it is asked about: nothing costs a car more.
PERHAPS_THE_OTHER_WAY = 0.25
# That a note has no corner is not said where it is as good as sure that this is wrong.
HARDLY_SURE = 0.1
# A slice of a neighbour's bend that is no longer than this is no bend of its own; the two touch.
A_SLIVER_M, TOUCHING_M = 10.0, 3.0
# How many of a bend a missing corner has to turn to be more than a check, clearly and where the recording is coarse; and how many grades
# below flat out it has to be for a danger. # from training worlds
CLEARLY_A_BEND, COARSELY_A_BEND, NEARLY_FLAT = 1.4, 2.5, 0.9
# What a coarse recording leaves of how sure a grade is; from how sure neighbours on a note without a bend is surely none, and how sure that
# is then, and else. # from training worlds
BLURRED_SURE, SURELY_NONE, CLEARLY_NONE, PERHAPS_NONE = 0.7, 0.9, 0.92, 0.8


def judge_corners(case: JudgingContext) -> Iterator[Finding]:
    """Findings on every corner note and on every bend without a note."""
    for note in case.notes:
        tie = case.lineup.tie_of.get(note.index)
        if tie is None or note.direction is None:
            continue
        if tie.bend is None or tie.bend.turn_deg < HARDLY_A_BEND_DEG or _is_leftover_slice(case, note, tie):
            finding = _unmet(case, note, tie)
        elif tie.bend.side != note.direction.sign:
            finding = _direction(case, note, tie, tie.bend)
        else:
            corner = case.graded.get(note.index)
            finding = _grade(case, corner) if corner is not None else None
        if finding is not None:
            yield finding
    yield from _uncalled(case)


def _grade(case: JudgingContext, corner: GradedCorner) -> Finding | None:
    """A corner that turned like another grade than its note has."""
    note, bend, tie = corner.note, corner.bend, corner.tie
    shift, scatter = corner.shift, case.scatter_of(tie)
    met, tighter = case.met_grade(corner.position), shift < 0
    words = _graded_words(case, note, met, tighter=tighter) if abs(shift) >= _least_shift(case, shift, scatter) else None
    if words is None or (not tighter and not_to_be_cut(note)):
        return None  # a car that cuts drives a wider line: that is said as a cut, and never as an easier corner
    said, seen, rewording = words
    ruler = case.ruler(bend, corner.position)
    low, high = ruler.range_of(said)
    slid = case.slides_deg.get(note.index)
    because = [
        message(
            "Called {called}, but it turned like your {met}: radius {radius_m:.0f} m, {turn_deg:.0f}°, {speed_mps:kmh} km/h at the "
            "slowest.",
            called=said,
            met=met,
            **_measured(bend),
        )
    ]
    if slid:
        because.append(message("The car slid here, {slid_deg:.0f}° more than usual, so the radius is less sure.", slid_deg=slid))
    return Finding(
        id=f"grade@{note.index}",
        kind="grade-tighter" if tighter else "grade-easier",
        note=note.index,
        from_m=bend.from_m,
        to_m=bend.to_m,
        called=corner_called(note),
        met=seen,
        severity=_grade_severity(case, note, shift, scatter, tie, bend) if tighter else "check",
        confidence=surely_off(shift, scatter, case.parameters) * (BLURRED_SURE if case.coarse else 1.0) * tie.sure,
        risk=max(0.0, -shift) * _approach_speed(case, bend) * case.hazard_weight(note),
        because=tuple(because),
        background=_usual_range(said, ruler.measure, low, high),
        proposal=case.proposed(note, rewording) if rewording else None,
        figures={"grades_off": shift, "scatter_grades": scatter, "length_m": bend.length_m},
    )


def not_to_be_cut(note: Note) -> bool:
    """Whether a note says that its corner must not be cut."""
    return any(line.name == "don't cut" for line in note.line_on_road)


def _least_shift(case: JudgingContext, shift: float, scatter: float) -> float:
    """How many grades a corner has to be off to be worth a finding; positions alone blur bends, and a blurred bend looks easier than it
    is."""
    least = max(case.parameters.least_shift, case.parameters.least_scatters * scatter)
    return case.parameters.coarse_widens * least if case.coarse and shift > 0 else least


def corner_called(note: Note) -> str:
    """A note's grade, and what it tightens to."""
    target = next((c for c in note.changes if c.way == "tightens" and c.to), None)
    return f"{note.grade} {target}" if target else f"{note.grade}"


def _graded_words(case: JudgingContext, note: Note, met: str, *, tighter: bool) -> tuple[str, str, Rewording | None] | None:
    """The grade of a note that what was met is held against, what the note should say, and the rewording that says it.

    Where a note tightens to a grade, that grade is what its tightest part was called: it is replaced, and the first stays. What would
    contradict itself ("5 opens 5", "4 tightens 5") is not proposed. ``None`` where the note says so already.
    """
    assert note.grade is not None
    target = case.school.tightest_target(note)
    if target is not None:
        # That it does not tighten to what was called is said by its shape.
        if met in (target, note.grade):
            return None
        if not tighter and case.school.position(met) >= case.school.position(note.grade):
            return target, f"{note.grade}", None
        return target, f"{note.grade} tightens {met}", Rewording(target_was=target, target=met)
    if met == note.grade:
        return None
    opened = [c.to for c in note.changes if c.opens and case.school.has(c.to)]
    contradicts = any(case.school.position(to) <= case.school.position(met) for to in opened)
    return note.grade, met, None if contradicts else Rewording(grade=met)


def _measured(bend: Bend) -> dict[str, float]:
    """What the car met in a bend, by the names of the facts."""
    return {"radius_m": bend.radius_m, "turn_deg": bend.turn_deg, "length_m": bend.length_m, "speed_mps": bend.speed_min_mps}


def _usual_range(grade: str, measure: str, low: float | None, high: float | None) -> tuple[Message, ...]:
    """From what to what a bend like this one is a grade to this crew, in the measure that it grades by."""
    name = whole_grade(grade)
    if low is not None and high is not None:
        lowest, highest = _lowest(measure, low), _highest(measure, high)
        return (message("A bend like this is your {grade} from {low} to {high}.", grade=name, low=lowest, high=highest),)
    if low is not None:
        return (message("A bend like this is your {grade} from {low} up.", grade=name, low=_lowest(measure, low)),)
    if high is not None:
        return (message("A bend like this is your {grade} up to {high}.", grade=name, high=_highest(measure, high)),)
    return ()


def _lowest(measure: str, low: float) -> Message:
    if measure == "speed":
        return message("{low_mps:kmh} km/h", low_mps=low)
    return message("{low_deg:.0f}°", low_deg=low) if measure == "angle" else message("{low_m:.0f} m", low_m=low)


def _highest(measure: str, high: float) -> Message:
    if measure == "speed":
        return message("{high_mps:kmh} km/h", high_mps=high)
    return message("{high_deg:.0f}°", high_deg=high) if measure == "angle" else message("{high_m:.0f} m", high_m=high)


def _grade_severity(case: JudgingContext, note: Note, shift: float, scatter: float, tie: Pairing, bend: Bend) -> Severity:
    blurred = case.coarse or bend.radius_sd_m > BLURRED * bend.radius_m
    # What a driver draws out hardly shows, so a gentle bend has to be off by more.
    clear = bend.turn_deg > case.parameters.clear_bend_deg
    shows = clear or (bend.turn_deg > A_BEND_DEG and shift < -BEYOND_DOUBT * scatter)
    if blurred or not shows:
        return "check"
    parameters = case.parameters
    likely = tie.sure * a_grade_tighter(shift, scatter, parameters)
    loss = likely * (case.overspeed(note, tie) - 1.0)
    if likely <= parameters.change_likely or loss <= 0.0:
        return "check"
    # A gentle bend that is a grade tighter still goes at the speed that the car can have there.
    return "danger" if clear and loss > parameters.danger_loss else "change"


def a_grade_tighter(shift: float, scatter: float, parameters: Parameters = PARAMETERS) -> float:
    """The probability that a corner is tighter than called by a grade or more, from the measured shift and the crew's scatter.

    The scatter is shared between the note, which is judged, and the measurement, whose part is a normal spread.
    """
    return normal_cdf((-shift - A_GRADE) / (parameters.shared_scatter * scatter))


def _approach_speed(case: JudgingContext, bend: Bend) -> float:
    """How fast a car comes at a bend, as a share of 100 km/h: where a surprise is worst."""
    return case.speed_kmh(max(0.0, bend.from_m - APPROACH_M)) / APPROACH_KMH


def _direction(case: JudgingContext, note: Note, tie: Pairing, bend: Bend) -> Finding | None:
    assert note.direction is not None
    if tie.sure < PERHAPS_THE_OTHER_WAY:
        return None
    other = note.direction.other
    rewording = Rewording(direction=other)
    # Less sure than a danger is, it leads the checks.
    danger = bend.turn_deg > A_BEND_DEG
    return Finding(
        id=f"direction@{note.index}",
        kind="direction",
        note=note.index,
        from_m=bend.from_m,
        to_m=bend.to_m,
        called=note.direction.value,
        met=other.value,
        severity="danger" if danger else "check",
        confidence=tie.sure * (1.0 if bend.turn_deg > A_BEND_DEG else HARDLY_TURNS_SURE),
        risk=OTHER_SIDE_RISK * _approach_speed(case, bend) * case.hazard_weight(note),
        because=(
            message(
                "Called {called}, but the road went {met}: {turn_deg:.0f}°, radius {radius_m:.0f} m, {speed_mps:kmh} km/h.",
                called=note.direction.value,
                met=other.value,
                **_measured(bend),
            ),
        ),
        proposal=case.proposed(note, rewording),
    )


def _is_leftover_slice(case: JudgingContext, note: Note, tie: Pairing) -> bool:
    """Whether a note was left with a thin slice of the bend that its neighbour answers for."""
    bend = tie.bend
    if bend is None or bend.length_m > A_SLIVER_M:
        return False
    return any(
        t is not None
        and t.bend is not None
        and t.bend.side == bend.side
        and t.bend.turn_deg > case.parameters.clear_bend_deg
        and min(abs(t.bend.eased_from_m - bend.eased_to_m), abs(bend.eased_from_m - t.bend.eased_to_m)) < TOUCHING_M
        for t in _neighbours(case, note)
    )


def _unmet(case: JudgingContext, note: Note, tie: Pairing) -> Finding | None:
    """A note of which no corner was met between its neighbours'."""
    called, between = case.called_position(note), _between_neighbours(case, note)
    if called is None or between is None:
        return None
    # A gentle bend can vanish in the driven line; that says little about the note.
    gentle = called > GENTLE_SHARE * case.school.top
    from_m, to_m, neighbours_sure = between
    if tie.bend is not None:
        shows = neighbours_sure >= HARDLY_SURE and not gentle
        turn = abs(tie.bend.turn_deg)
        return _no_corner(case, note, (from_m, to_m), turn, neighbours_sure, clear=False) if shows else None
    sure = min(neighbours_sure, tie.sure)
    clear = sure > SURELY_NONE and not case.coarse and not gentle
    return _no_corner(case, note, (from_m, to_m), 0.0, sure, clear=clear) if sure >= HARDLY_SURE else None


def _no_corner(case: JudgingContext, note: Note, between: tuple[float, float], turn: float, sure: float, *, clear: bool) -> Finding:
    """The finding that no corner answers a note between two places, where the car turned by an angle."""
    from_m, to_m = between
    seen = message("the car turned only {turn_deg:.0f}°", turn_deg=turn) if turn >= 1 else message("the car drove straight on")
    because = message(
        "Called {called}, but {seen}: no corner from {from_m:km} to {to_m:km} km fits this note.",
        called=note.text,
        seen=seen,
        from_m=from_m,
        to_m=to_m,
    )
    return Finding(
        id=f"unmet@{note.index}",
        kind="corner-unmet",
        note=note.index,
        from_m=from_m,
        to_m=to_m,
        called=corner_words(note),
        met=None,
        severity="change" if clear else "check",
        confidence=sure * (CLEARLY_NONE if clear else PERHAPS_NONE),
        risk=0.5,
        because=(because,),
        proposal=_without(case, note),
        figures={"turn_deg": turn},
    )


def _between_neighbours(case: JudgingContext, note: Note) -> tuple[float, float, float] | None:
    """From the end of the bend before a note's to the beginning of the one behind, metres, and how sure both are; ``None`` where one is
    missing."""
    before, after = _neighbours(case, note)
    if before is None or after is None or before.bend is None or after.bend is None:
        return None
    from_m = before.bend.to_m
    return from_m, max(after.bend.from_m, from_m + 1.0), min(before.sure, after.sure)


def _neighbours(case: JudgingContext, note: Note) -> tuple[Pairing | None, Pairing | None]:
    ties = case.lineup.ties
    at = next(i for i, t in enumerate(ties) if t.note == note.index)
    return (ties[at - 1] if at else None), (ties[at + 1] if at + 1 < len(ties) else None)


def _without(case: JudgingContext, note: Note) -> Proposal | None:
    """The page without a note: its distance is added to the one before it, as this crew writes distances."""
    kept_at, other_at = (note.index - 1, note.index) if not case.hand.reading.distance_first else (note.index + 1, note.index)
    if not 0 <= kept_at < len(case.notes):
        return None
    before = case.notes[note.index - 1] if note.index else None
    if before is None or before.distance_m is None:
        return None
    metres = case.hand.nearest_distance(before.distance_m + (note.distance_m or 0) + A_CORNER_M)
    rewording = Rewording(distance_m=metres)
    if case.hand.reading.distance_first:
        # In this hand the gap before a note stands at the head of its own line, and the one after on the next.
        following = case.notes[kept_at]
        text = following.text if note.gap_span is None else str(metres) + following.text[note.gap_span.end - following.span.start :]
    else:
        text = case.hand.reworded(before, rewording)
    return Proposal(min(kept_at, other_at), max(kept_at, other_at), text, None)


def _uncalled(case: JudgingContext) -> Iterator[Finding]:
    """Bends that no note calls."""
    for uncalled in case.lineup.uncalled:
        bend, position = uncalled.bend, uncalled.position
        before = case.positions.last_before(bend.apex_m)
        hardly = bend.turn_deg < A_BEND_DEG or position > case.school.top + 0.5 or uncalled.missing < case.parameters.asked
        if hardly or bend.from_m > case.finish_m or before is None or calls_too(case, before, bend):
            continue
        grade = case.met_grade(position)
        because = message(
            "No note calls this {side}. It turned like your {met}: {turn_deg:.0f}°, radius {radius_m:.0f} m, {speed_mps:kmh} km/h at the "
            "slowest.",
            side=bend.direction,
            met=grade,
            **_measured(bend),
        )
        yield Finding(
            id=f"uncalled@{round(bend.apex_m / SAME_PLACE_M)}",
            kind="corner-uncalled",
            note=before.index,
            from_m=bend.from_m,
            to_m=bend.to_m,
            called=None,
            met=f"{bend.direction} {grade}",
            severity=_missing_severity(case, uncalled),
            confidence=uncalled.missing,
            risk=(case.school.top + 1 - position) * _approach_speed(case, bend),
            because=(because,),
            proposal=_inserted(case, before, bend, grade),
        )


def _missing_severity(case: JudgingContext, uncalled: Uncalled) -> Severity:
    """A missing corner is a danger unless it is nearly flat out; a check where it may be none."""
    bend = uncalled.bend
    least_deg = (COARSELY_A_BEND if case.coarse else CLEARLY_A_BEND) * A_BEND_DEG
    blurred = bend.radius_sd_m > BLURRED * bend.radius_m
    if uncalled.missing < case.parameters.said_missing or bend.turn_deg < least_deg or blurred:
        return "check"
    return "danger" if uncalled.position < case.school.top - NEARLY_FLAT else "change"


def _inserted(case: JudgingContext, before: Note, bend: Bend, grade: str) -> Proposal | None:
    """The note before with the distance to the missing corner, then the missing corner with the rest."""
    direction = Direction.LEFT if bend.side > 0 else Direction.RIGHT

    def new(distance_m: int | None) -> str:
        return case.hand.corner(direction, grade, distance_m=distance_m)

    return case.propose_insertion(before, new, bend.from_m, bend.to_m)
