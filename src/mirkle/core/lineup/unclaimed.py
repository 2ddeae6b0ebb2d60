"""Whose is a bend that no note claimed: a corner that nobody called, a part of a noted one, the driver's, or left out by habit.

Five hypotheses compete for each such bend, each with what speaks for it as a sum of evidence times weight; the probabilities are
their softmax (a conditional logit). A driver has two kinds of bends of his own: he wanders a little on a straight (``swerve``), or catches
the car behind a corner that he took too fast (``catch``); they are weighed apart and reported together. The evidence of the first three
are differences of the costs with which the alignment works, so they are in nats; the weights are fitted by ``bench/fit.py`` on worlds
whose truth is known. See docs/pairing.md.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from mirkle.core.lineup.called_notes import CalledNotes, call_cost, distance_cost, expected_gaps, length_cost
from mirkle.core.lineup.crew_scale import GapYardstick
from mirkle.core.motion.bends import Bend
from mirkle.core.motion.profile import Profile
from mirkle.core.motion.slip import beyond_usual

WHOSE = ("missing", "before", "behind", "swerve", "habit")
CATCH = "catch"
HYPOTHESES = (*WHOSE, CATCH)
# A slide is looked for over this length before a bend (m).
SLID_BEFORE_M = 35.0
# Two bends are alike to a crew within this distance (grades).
ALIKE = 0.7
# A bend that begins further from the end of another is no part of it. # common practice
MOST_APART_M = 100.0
# Evidence is capped at this size (nats).
MOST_NATS = 6.0
# A bend from this turn on shows how a driver slows for his corners (°).
CLEAR_DEG = 20.0
# Units of evidence: the turn that ln counts from (°), a step of distance (m), a step of sideslip (°).
TURN_DEG, APART_STEP_M, SLID_STEP_DEG = 30.0, 20.0, 10.0
# Where each is cut off: degrees of turn below, metres apart, other bends beside it, grades beyond the top.
LEAST_TURN_DEG, APART_M, MOST_OTHERS, OPEN = 5.0, (-10.0, 150.0), 3, (-3.0, 2.0)
# And: seconds below, the share of the speed that was lost inside, degrees of slide, metres of length below.
LEAST_S, SLOWED, MOST_SLID_DEG, LEAST_M = 0.2, (-0.2, 0.8), 30.0, 3.0
# A bend is tighter than a noted one by this much (grades); pseudo-count of a kind that was never left out, or never called.
TIGHTER_BY, OF_NONE = 0.3, 0.3
# No bend is straighter, 1/m.
STRAIGHT_PER_M = 1e-4

# What each piece of evidence weighs, by hypothesis; from bench/fit.py.
WEIGHTS: dict[str, dict[str, float]] = {
    "missing": {"turn": 1.48, "others": -0.47},
    "before": {"always": 4.94, "apart": -1.47, "distance": -1.0, "length": -1.47, "dip": -2.24, "said": 0.58, "turn": 0.0},
    "behind": {"always": 5.35, "apart": -2.08, "distance": -1.0, "length": -2.23, "dip": -2.81, "said": 1.69, "call": -1.0, "turn": -1.03},
    "swerve": {"always": -11.1, "turn": -15.8, "slowed": -4.4},
    "catch": {"always": -5.68, "turn": -5.96, "seconds": 2.7, "slowed": -11.5, "slid": 1.13},
    "habit": {"always": 0.89, "alike": 1.0, "open": 1.08},
}


@dataclass(frozen=True)
class UnclaimedOdds:
    """The probabilities that a bend without a note is a corner that nobody called, the rest of the note before, the beginning of
    the note behind, the driver's own swerve, or one of those that this crew leaves out; they add up to 1.
    """

    missing: float
    before: float
    behind: float
    swerve: float
    habit: float


Evidence = dict[str, dict[str, float]]


def weighed(evidence: Evidence, weights: dict[str, dict[str, float]] = WEIGHTS) -> UnclaimedOdds:
    """The probabilities under some weights; a hypothesis without evidence is out of the question."""
    score = {name: sum(weights[name][k] * v for k, v in values.items()) for name, values in evidence.items()}
    most = max(score.values())
    odds = {name: float(np.exp(s - most)) for name, s in score.items()}
    total = sum(odds.values())
    odds["swerve"] = odds.get("swerve", 0.0) + odds.get(CATCH, 0.0)
    return UnclaimedOdds(**{name: odds.get(name, 0.0) / total for name in WHOSE})


@dataclass(frozen=True)
class Claimed:
    """A paired note and its bend: ``corner`` is its number among the corner notes."""

    corner: int
    bend: Bend
    position: float


def evidence_of(
    left: Sequence[tuple[Bend, float]], paired: Sequence[Claimed], calls: CalledNotes, profile: Profile, distances: GapYardstick
) -> list[Evidence]:
    """What speaks for each hypothesis about each left-over bend.

    Parameters
    ----------
    left : each bend that no note answers for, and where it lies on the crew's scale
    paired : the notes that have a bend, in the order of the road
    distances : the crew's metres between eased ends
    """
    asked = _Asked(left, paired, calls, profile, distances)
    return [asked.evidence(k) for k in range(len(left))]


class _Asked:
    """All that is asked about the left-over bends of one stage."""

    def __init__(
        self, left: Sequence[tuple[Bend, float]], paired: Sequence[Claimed], calls: CalledNotes, profile: Profile, distances: GapYardstick
    ) -> None:
        self.left, self.paired, self.calls, self.profile = left, paired, calls, profile
        self.expected, self.scatter = expected_gaps(calls, distances)
        self.apexes = np.array([c.bend.apex_m for c in paired])
        self.between = [int(np.searchsorted(self.apexes, bend.apex_m)) for bend, _ in left]
        self.slid = beyond_usual(profile)
        self.called_positions = np.array([c.position for c in paired])
        self.left_positions = np.array([position for _, position in left])
        # What this pass loses in its own corners: who never slows for one doesn't slow for another.
        clear = [self._lost_in(c.bend) for c in paired if c.bend.turn_deg > CLEAR_DEG]
        self.usually_lost = float(np.median(clear)) if clear else 0.0

    def evidence(self, which: int) -> Evidence:
        """What speaks for each hypothesis about one bend."""
        bend, position = self.left[which]
        at = self.between[which]
        before = self.paired[at - 1] if at else None
        behind = self.paired[at] if at < len(self.paired) else None
        others = sum(n == at for n in self.between) - 1
        open_by = position - self.calls.school.top + 1.0
        out: Evidence = {
            "missing": {"turn": _turn(bend), "others": float(min(others, MOST_OTHERS))},
            **self._of_the_driver(bend),
            "habit": {"always": 1.0, "alike": self._alike(position), "open": float(np.clip(open_by, *OPEN))},
        }
        if before is not None and self._beside(before, bend):
            out["before"] = self._part_of(before, bend, position, before, behind)
        if behind is not None and self._beside(behind, bend):
            out["behind"] = self._part_of(behind, bend, position, before, behind)
        return out

    def _beside(self, owner: Claimed, bend: Bend) -> bool:
        """Whether a bend may be a part of a noted one: the same way, not far off, and with no bend the other way between."""
        own = owner.bend
        first, last = sorted((own.apex_m, bend.apex_m))
        between = any(b.side != own.side and first < b.apex_m < last for b, _ in self.left)
        apart = max(bend.from_m - own.to_m, own.from_m - bend.to_m)
        return own.side == bend.side and not between and apart < MOST_APART_M

    def _part_of(self, owner: Claimed, bend: Bend, position: float, before: Claimed | None, behind: Claimed | None) -> dict[str, float]:
        """What changes when a note takes a bend beside its own in."""
        is_before = owner is before
        own = owner.bend
        apart = bend.from_m - own.to_m if is_before else own.from_m - bend.to_m
        with_it = self._distance(before, behind, bend if is_before else None, None if is_before else bend)
        whole = (min(own.eased_from_m, bend.eased_from_m), max(own.eased_to_m, bend.eased_to_m))
        changes = self.calls.notes[owner.corner].changes
        tighter = position < owner.position - TIGHTER_BY
        tightens, opens = any(c.tightens for c in changes), any(c.opens for c in changes)
        said = (tightens and tighter == is_before) or (opens and tighter != is_before)
        out = {
            "always": 1.0,
            "apart": float(np.clip(apart, *APART_M)) / APART_STEP_M,
            "distance": _bounded(with_it - self._distance(before, behind, None, None)),
            "length": _bounded(self._length(owner, whole[1] - whole[0]) - self._length(owner, own.eased_to_m - own.eased_from_m)),
            "dip": self._dip(own, bend),
            "said": float(said),
            "turn": _turn(bend),
        }
        if not is_before:
            out["call"] = self._call(owner, bend)
        return out

    def _distance(self, before: Claimed | None, behind: Claimed | None, taken_before: Bend | None, taken_behind: Bend | None) -> float:
        """What the distance called between two notes costs, with a bend taken in by one of them; 0 where none was called."""
        if before is None or behind is None or behind.corner != before.corner + 1:
            return 0.0
        expected, scatter = float(self.expected[behind.corner]), float(self.scatter[behind.corner])
        if not np.isfinite(expected):
            return 0.0
        first = (taken_before or before.bend).eased_to_m
        last = (taken_behind or behind.bend).eased_from_m
        return float(distance_cost(np.array([(last - first - expected) / scatter]))[0])

    def _length(self, owner: Claimed, length_m: float) -> float:
        """What a length costs for what the note says of it."""
        return float(length_cost(np.log([max(length_m, LEAST_M) / self.calls.length_m[owner.corner]]))[0])

    def _call(self, owner: Claimed, bend: Bend) -> float:
        """How much less likely the call becomes when the note begins with the bend before its own."""
        heard, sigma = float(self.calls.heard_m[owner.corner]), float(self.calls.heard_sigma_m[owner.corner])
        if not np.isfinite(heard):
            return 0.0
        begins = np.array([bend.eased_from_m, owner.bend.eased_from_m])
        cost = call_cost((begins - heard) / sigma)
        return _bounded(float(cost[0] - cost[1]))

    def _dip(self, own: Bend, bend: Bend) -> float:
        """How far the line eases between two bends of one side, 0 not at all to 1 straight."""
        first, last = sorted((own.apex_m, bend.apex_m))
        bent = own.side * self.profile.curvature_per_m[int(first) : int(last) + 1]
        lesser = min(float(bent[0]), float(bent[-1]), 1.0 / own.radius_m, 1.0 / bend.radius_m)
        return float(np.clip(1.0 - float(bent.min()) / max(lesser, STRAIGHT_PER_M), 0.0, 1.0))

    def _of_the_driver(self, bend: Bend) -> Evidence:
        """What speaks for the driver: how little it turned, how quick it was, whether he slid before it, and whether he still slowed in it
        as in his corners.

        Whoever comes into a corner is still slowing for it; whoever catches a car gains speed. What was lost before its beginning says
        nothing: behind a corner that was taken too fast it was lost for that one.
        """
        first_s, last_s = np.interp([bend.from_m, bend.to_m], self.profile.distance_m, self.profile.time_s)
        slid = 0.0
        if self.slid is not None:
            near = self.slid[int(max(0.0, bend.from_m - SLID_BEFORE_M)) : int(bend.from_m) + 1]
            slid = float(np.degrees(np.abs(near).max())) if len(near) else 0.0
        slowed = self._lost_in(bend) - self.usually_lost
        seconds = float(np.log(max(last_s - first_s, LEAST_S)))
        return {
            "swerve": {"always": 1.0, "turn": _turn(bend), "slowed": slowed},
            CATCH: {
                "always": 1.0,
                "turn": _turn(bend),
                "seconds": seconds,
                "slowed": slowed,
                "slid": min(slid, MOST_SLID_DEG) / SLID_STEP_DEG,
            },
        }

    def _lost_in(self, bend: Bend) -> float:
        """The share of the speed at its beginning that is lost inside a bend."""
        came = float(np.interp(bend.from_m, self.profile.distance_m, self.profile.speed_mps))
        return float(np.clip((came - bend.speed_min_mps) / max(came, 1.0), *SLOWED))

    def _alike(self, position: float) -> float:
        """The log odds with which this crew leaves such bends out, this one aside."""
        left = float(np.sum(np.abs(self.left_positions - position) < ALIKE)) - 1.0
        called = float(np.sum(np.abs(self.called_positions - position) < ALIKE))
        return float(np.log((left + OF_NONE) / (called + OF_NONE)))


def _turn(bend: Bend) -> float:
    """How much of a bend it is, in logarithms of its turn."""
    return float(np.log(max(bend.turn_deg, LEAST_TURN_DEG) / TURN_DEG))


def _bounded(nats: float) -> float:
    return float(np.clip(nats, -MOST_NATS, MOST_NATS))
