"""Judging the vertical: crests, jumps, bumps and dips, called against met, and a "maybe" settled."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import chain

import numpy as np

from mirkle.core.judging.crew_habits import calling
from mirkle.core.judging.finding_kinds import KINDS, Severity
from mirkle.core.judging.findings import SAME_PLACE_M, Finding, JudgingContext, Proposal
from mirkle.core.messages import Message, message
from mirkle.core.motion.vertical import Feature
from mirkle.core.notes.model import Note
from mirkle.core.notes.rewording import Rewording
from mirkle.core.stats import normal_cdf

# A called feature belongs to what the car met from a little before its corner to a little behind it.
# From here on a flight moves the car about; less is a light moment. # common practice
A_JUMP_S, LONG_JUMP_S = 0.2, 0.25
# What a pass five per cent faster would do is worth a word.
FASTER = 1.05
# A feature up to this far behind a bend belongs to the bend's note (m); length of an inserted note on a straight (m).
STILL_AT_A_BEND_M, PUT_IN_M = 8.0, 5.0
# How sure it is that a maybe is settled, that a called feature was not there, and that a flight was one; and what each costs a car: a
# flight by its seconds over the last.
SETTLED_SURE, UNMET_SURE, FLEW_SURE = 0.85, 0.6, 0.95
SETTLED_RISK, UNMET_RISK, WOULD_FLY_RISK, FELT_RISK, FLIGHT_RISK, FLIGHT_S = 0.5, 0.2, 1.0, 0.3, 3.0, 0.4
# How far after the start of its corner a feature may be felt, and how far before a corner it still belongs to it (m).
JUST_BEHIND_M, NEAR_A_CORNER_M = 15.0, 60.0
# Margin that is shown on both sides of a feature (m).
BESIDE_M = 12.0
CONVEX = ("jump", "crest")
# Costs (nats) of assigning calls to features: a call without one, a feature without a call, one kind called by another's name (bumps and
# dips often are), and one nat for each of these metres from the corner, up to a bound. # common practice
CALL_ALONE, FEATURE_ALONE, OTHER_CONVEX, OTHER_BUMP, FAR_M, MOST_OFF = 4.0, 5.0, 2.5, 2.0, 80.0, 2.0
# Windows overlap by a few notes: of more ways than this none but the best is ever needed.
MOST_WAYS = 64
# A turn of the road that half of all crews call (rad), and the slope of their log odds over its logarithm. # common practice
USUAL_RAD, MOSTLY_CALLED = 0.06, 1.0
# What turns the road by less than this over sixteen metres nobody calls. # common practice
LEAST_CALLED_RAD, CLEARLY_THERE = 0.04, 0.9
FELT, WORTH_A_REMARK = (8.0, 2.0), 0.15


def judge_vertical(case: JudgingContext) -> Iterator[Finding]:
    """Findings on everything in the vertical; none where the recording can't show it."""
    if case.vertical is None:
        return
    called = _calls(case)
    met = _matched(case, called, case.vertical)
    yield from _judged(case, called, [case.vertical[number] if number >= 0 else None for number in met])
    sure = _left_out(case.vertical, met)
    for number, feature in enumerate(case.vertical):
        if number not in met and feature.at_m < case.finish_m:
            yield from _uncalled(case, feature, sure[number])


def _judged(case: JudgingContext, calls: Sequence[_Call], answers: Sequence[Feature | None]) -> list[Finding]:
    """What is said of every call and what answers it; what was not felt only where this pass feels most of what is called."""
    found = chain.from_iterable(_of_call(case, call, feature) for call, feature in zip(calls, answers, strict=True))
    felt: list[Finding] = []
    unfelt: list[Finding] = []
    for finding in found:
        (unfelt if KINDS[finding.kind].not_felt else felt).append(finding)
    to_be_felt = sum(not call.maybe and call.kind != "jump" for call in calls)
    slip = _unfelt_is_a_slip(len(unfelt), to_be_felt, case.parameters.slip_share)
    return felt + [replace(f, confidence=slip) for f in unfelt] if slip > WORTH_A_REMARK else felt


def _calls(case: JudgingContext) -> list[_Call]:
    """Every feature in the vertical that a note calls, where the road could hold it."""
    out = []
    for note in case.notes:
        features = [f for f in note.features if f.vertical is not None]
        window = case.positions.range_m(note) if features else None
        if window is not None:
            out += [_Call(note, f.vertical or "", f.maybe, window) for f in features]
    return out


def _left_out(features: Sequence[Feature], met: Sequence[int]) -> list[float]:
    """For each feature how likely it is there and this crew would call its like: what was left out by habit is not forgotten."""
    out = [1.0] * len(features)
    for kind in sorted({f.kind for f in features}):
        like = [i for i, f in enumerate(features) if f.kind == kind]
        sizes = [features[i].turned_rad or USUAL_RAD for i in like]
        likely = calling(sizes, [i in met for i in like], usual=USUAL_RAD, at_large=MOSTLY_CALLED)
        for i, called in zip(like, likely, strict=True):
            out[i] = called * _there(features[i])
    return out


def _there(feature: Feature) -> float:
    """How likely the road has it, by its size and that size's spread; what shows no size was as clear as most."""
    if feature.turned_rad is None or feature.turned_sd_rad <= 0.0:
        return CLEARLY_THERE
    return normal_cdf((feature.turned_rad - LEAST_CALLED_RAD) / feature.turned_sd_rad)


def _unfelt_is_a_slip(unfelt: int, calls: int, slips: float) -> float:
    """How likely it is that what was called and not felt is not there: against how seldom this pass feels what is called."""
    felt = (calls - unfelt + FELT[0]) / (calls + sum(FELT))
    return slips / (slips + 1.0 - felt)


@dataclass(frozen=True)
class _Call:
    """One feature that a note calls, and from where to where the road could hold it; with a ``maybe`` it settles nothing."""

    note: Note
    kind: str
    maybe: bool
    window: tuple[float, float]


_Ways = dict[frozenset[int], tuple[float, tuple[int, ...]]]


def _matched(case: JudgingContext, calls: Sequence[_Call], features: Sequence[Feature]) -> list[int]:
    """For each call the feature that answers it, each answering one at most; -1 where none does.

    The cheapest pairs of all (the assignment problem), so that two calls near to one another don't take each other's. Call after call, the
    best way to each set of features that are taken and that a later call could still have reached.
    """
    reach = [call.window[0] for call in calls]
    ways: _Ways = {frozenset(): (0.0, ())}
    for i, call in enumerate(calls):
        costs = [(-1, CALL_ALONE + FEATURE_ALONE)]
        costs += [(k, c) for k, feature in enumerate(features) if (c := _pair_cost(case, call, feature)) is not None]
        later_m = min(reach[i + 1 :], default=np.inf)
        within_reach = frozenset(k for k, feature in enumerate(features) if feature.at_m >= later_m)
        ways = dict(sorted(_ahead(ways, costs, within_reach).items(), key=lambda way: way[1][0])[:MOST_WAYS])
    return list(min(ways.values())[1])


def _ahead(ways: _Ways, costs: Sequence[tuple[int, float]], within_reach: frozenset[int]) -> _Ways:
    """The best way to each set of taken features behind one more call, which is answered at one of the ``costs``."""
    out: _Ways = {}
    for taken, (so_far, chosen) in ways.items():
        for k, cost in costs:
            if k in taken:
                continue
            still, whole = (taken | {k}) & within_reach, so_far + cost
            if still not in out or whole < out[still][0]:
                out[still] = whole, (*chosen, k)
    return out


def _pair_cost(case: JudgingContext, call: _Call, feature: Feature) -> float | None:
    """What it costs that a feature is what was called; ``None`` where it can't be."""
    other = _other_kind(call.kind, feature.kind)
    if other is None or not call.window[0] <= feature.at_m <= call.window[1]:
        return None
    bend = case.lineup.bend_of(call.note.index)
    off = max(bend.from_m - feature.at_m, feature.at_m - bend.to_m, 0.0) if bend is not None else 0.0
    return other + min(off / FAR_M, MOST_OFF)


def _other_kind(called: str, met: str) -> float | None:
    """What it costs that something was called by another name; ``None`` where it can't have been meant."""
    if called == met:
        return 0.0
    if (called in CONVEX) != (met in CONVEX):
        return None
    return OTHER_CONVEX if called in CONVEX else OTHER_BUMP


def _of_call(case: JudgingContext, call: _Call, feature: Feature | None) -> Iterator[Finding]:
    """What is said of one called feature and what answers it."""
    note, window = call.note, call.window
    if call.maybe:
        yield _settled(case, note, feature, window)
    elif feature is not None and feature.kind == "jump":
        if call.kind == "crest" and (feature.air_s or 0) >= A_JUMP_S:
            yield _jump(case, note, feature)
    elif call.kind == "jump" or (feature is None and not case.hidden_by_shake(*window)):
        yield _unmet(case, note, call.kind, feature, window)


def _settled(case: JudgingContext, note: Note, feature: Feature | None, window: tuple[float, float]) -> Finding:
    at_m = feature.at_m if feature is not None else 0.5 * (window[0] + window[1])
    speed = feature.speed_mps if feature is not None else case.speed_mps(at_m)
    met: str | Message = "no jump"
    proposal = seconds = None
    if feature is not None and feature.kind == "jump":
        seconds = feature.air_s or 0.0
        met = message("jump, {air_s:.2f} s in the air", air_s=seconds)
        why = message("Called jump maybe. It flew for {air_s:.1f} s at {speed_mps:kmh} km/h.", air_s=seconds, speed_mps=speed)
        # What flew once will fly again; what did not may, at another speed: that maybe stays.
        proposal = case.proposed(note, Rewording(feature="jump"))
    elif feature is not None and feature.takeoff_mps is not None:
        why = message(
            "Called jump maybe. At {speed_mps:kmh} km/h it did not fly. By the load it would fly above {takeoff_mps:kmh} km/h.",
            speed_mps=speed,
            takeoff_mps=feature.takeoff_mps,
        )
    else:
        why = message("Called jump maybe. At {speed_mps:kmh} km/h the car stayed on the ground.", speed_mps=speed)
    saying = _Saying("maybe-settled", "maybe", "jump maybe", met, "check", SETTLED_SURE, SETTLED_RISK, why, seconds, proposal)
    return _finding(case, note, saying, at_m, feature)


def _unmet(case: JudgingContext, note: Note, kind: str, feature: Feature | None, window: tuple[float, float]) -> Finding:
    at_m = feature.at_m if feature is not None else 0.5 * (window[0] + window[1])
    words = message("no {kind} was felt from {from_m:km} to {to_m:km} km", kind=kind, from_m=window[0], to_m=window[1])
    if feature is not None and feature.takeoff_mps is not None:
        words = message(
            "the car stayed on the ground at {speed_mps:kmh} km/h (by the load it would fly above {takeoff_mps:kmh} km/h)",
            speed_mps=feature.speed_mps,
            takeoff_mps=feature.takeoff_mps,
        )
    severity: Severity = "check" if kind == "jump" else "remark"
    why = message("Called {kind}, but {seen}.", kind=kind, seen=words)
    return _finding(case, note, _Saying(f"{kind}-unmet", kind, kind, None, severity, UNMET_SURE, UNMET_RISK, why), at_m, feature, window)


def _jump(case: JudgingContext, note: Note, feature: Feature) -> Finding:
    """A crest that was called, and the car flew."""
    assert feature.air_s is not None
    severity: Severity = "danger" if feature.air_s >= LONG_JUMP_S else "change"
    why = message(
        "Called a crest, but the car flew for {air_s:.1f} s at {speed_mps:kmh} km/h and landed after {met_m:.0f} m.",
        air_s=feature.air_s,
        speed_mps=feature.speed_mps,
        met_m=feature.to_m - feature.from_m,
    )
    saying = _saying_jump(feature, "crest", severity, why, case.proposed(note, Rewording(feature="jump")))
    return _finding(case, note, saying, feature.at_m, feature)


def _saying_jump(feature: Feature, called: str | None, severity: Severity, why: Message, proposal: Proposal | None) -> _Saying:
    air_s = feature.air_s or 0.0
    met, risk = message("jump, {air_s:.2f} s in the air", air_s=air_s), FLIGHT_RISK * air_s / FLIGHT_S
    return _Saying("jump-uncalled", "jump", called, met, severity, FLEW_SURE, risk, why, air_s, proposal)


def _uncalled(case: JudgingContext, feature: Feature, sure: float) -> Iterator[Finding]:
    """Something in the vertical that no note calls."""
    note = case.positions.last_before(feature.at_m + JUST_BEHIND_M) or next(iter(case.notes), None)
    if note is not None:
        judged = _jump_uncalled if feature.kind == "jump" else _felt_uncalled
        yield judged(case, note, feature, sure)


def _jump_uncalled(case: JudgingContext, note: Note, feature: Feature, _sure: float) -> Finding:
    assert feature.air_s is not None
    severity: Severity = "danger" if feature.air_s >= LONG_JUMP_S else "change" if feature.air_s >= A_JUMP_S else "check"
    why = message(
        "No note calls this jump: {air_s:.1f} s in the air at {speed_mps:kmh} km/h, landing after {met_m:.0f} m.",
        air_s=feature.air_s,
        speed_mps=feature.speed_mps,
        met_m=feature.to_m - feature.from_m,
    )
    saying = _saying_jump(feature, None, severity, why, _put_in(case, note, feature))
    return _finding(case, note, saying, feature.at_m, feature)


def _felt_uncalled(case: JudgingContext, note: Note, feature: Feature, sure: float) -> Finding:
    """A crest, dip or bump: to be looked at where a car that is a little faster would fly, or where it lies at a corner."""
    faster = feature.takeoff_mps is not None and feature.takeoff_mps < FASTER * feature.speed_mps
    words = {
        "crest": message("a crest of about {radius_m:.0f} m radius", radius_m=feature.radius_m or 0.0),
        "dip": message("a dip"),
        "bump": message("a bump"),
    }[feature.kind]
    more: Message | str = ""
    if feature.takeoff_mps is not None:
        more = message(" (by the load it would fly above {takeoff_mps:kmh} km/h)", takeoff_mps=feature.takeoff_mps)
    near = any(b.from_m - NEAR_A_CORNER_M < feature.at_m < b.to_m for b in case.bends)
    severity: Severity = "check" if faster or near or feature.kind == "crest" else "remark"
    why = message("No note calls {seen} here, met at {speed_mps:kmh} km/h{more}.", seen=words, speed_mps=feature.speed_mps, more=more)
    risk, proposal = WOULD_FLY_RISK if faster else FELT_RISK, _put_in(case, note, feature)
    saying = _Saying(f"{feature.kind}-uncalled", feature.kind, None, feature.kind, severity, sure, risk, why, None, proposal)
    return _finding(case, note, saying, feature.at_m, feature)


def _put_in(case: JudgingContext, note: Note, feature: Feature) -> Proposal | None:
    """What was met on its corner's note, or as a note of its own where it lies on a straight: to add a warning is safe."""
    bend = case.lineup.bend_of(note.index)
    if bend is not None and feature.at_m < bend.to_m + STILL_AT_A_BEND_M:
        return Proposal(note.index, note.index, case.hand.with_feature(note, feature.kind), None)
    return case.propose_insertion(
        note, lambda metres: case.hand.feature(feature.kind, distance_m=metres), feature.from_m, feature.from_m + PUT_IN_M
    )


@dataclass(frozen=True)
class _Saying:
    """What is said of something in the vertical; its place and figures are those of what was felt. ``about`` names it in the finding."""

    kind: str
    about: str
    called: str | None
    met: str | Message | None
    severity: Severity
    confidence: float
    risk: float
    why: Message
    seconds: float | None = None
    proposal: Proposal | None = None


def _finding(
    case: JudgingContext, note: Note, saying: _Saying, at_m: float, feature: Feature | None, window: tuple[float, float] | None = None
) -> Finding:
    """The finding about a place; ``window`` is where something was looked for."""
    from_m, to_m = window if window is not None else (None, None)
    figures = {"speed_mps": case.speed_mps(at_m), "from_m": from_m, "to_m": to_m}
    if feature is not None:
        figures |= {"speed_mps": feature.speed_mps, "air_s": feature.air_s, "takeoff_mps": feature.takeoff_mps}
        figures |= {"radius_m": feature.radius_m, "met_m": feature.to_m - feature.from_m}
    return Finding(
        id=f"{saying.about}@{round(at_m / SAME_PLACE_M)}",
        kind=saying.kind,
        note=note.index,
        from_m=max(0.0, at_m - BESIDE_M),
        to_m=min(at_m + BESIDE_M, case.profile.length_m),
        called=saying.called,
        met=saying.met,
        severity=saying.severity,
        confidence=saying.confidence,
        risk=saying.risk,
        because=(saying.why,),
        proposal=saying.proposal,
        seconds=saying.seconds,
        figures=figures,
    )
