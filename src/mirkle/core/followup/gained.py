"""Where a later pass was quicker or slower than an earlier one, by the metre, and how much of it a place is to thank for.

What a pass gained as a whole (tyres, courage, a drier road) it gained everywhere; only what was gained at a place beyond that is the
place's. The stage's other parts are the control: stretches of the same length, as many as there are.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from mirkle.core.joint.same_road import SameRoad
from mirkle.core.motion.profile import Profile
from mirkle.core.recording.model import Floats
from mirkle.core.stats import robust_sd

# A change shows from where a car brakes for it to where it has pulled out of it. # common practice
AHEAD_M, BEHIND_M = 80.0, 70.0
# Fewer stretches are no control.
LEAST_CONTROLS = 6


@dataclass(frozen=True)
class Gain:
    """Seconds that the later pass gained from ``from_m`` to ``to_m``, and how many beyond what it gained elsewhere, with the standard
    deviation of that; the latter two are ``None`` where there is no control."""

    from_m: float
    to_m: float
    seconds: float
    beyond: float | None
    beyond_sd: float | None


@dataclass(frozen=True)
class Gained:
    """The later pass against the earlier one: ``seconds`` gained from the start line to each of ``at_m`` of the earlier pass, (n,).

    ``took_s`` is when the earlier one came by, ``share`` what the later one gained where both count, as a share of the earlier one's
    time, and ``ahead`` what it is ahead at each place beyond that share; parts that don't count add nothing to it, (n,).
    """

    at_m: Floats
    took_s: Floats
    seconds: Floats
    share: float
    ahead: Floats

    def between(self, from_m: float, to_m: float) -> float:
        """Seconds gained from one place to another."""
        first, last = np.interp([from_m, to_m], self.at_m, self.seconds)
        return float(last - first)

    def at(self, from_m: float, to_m: float, spoilt: Sequence[tuple[float, float]] = ()) -> Gain:
        """What was gained at a place from before it to behind it; ``spoilt`` are stretches that are no control, other changes among
        them."""
        first, last = max(from_m - AHEAD_M, 0.0), min(to_m + BEHIND_M, float(self.at_m[-1]))
        seconds = self.between(first, last)
        took = float(np.diff(np.interp([first, last], self.at_m, self.took_s))[0])
        rest = np.array(
            [
                g / t
                for a, b in self._controls(last - first, (*spoilt, (first, last)))
                if (t := float(np.diff(np.interp([a, b], self.at_m, self.took_s))[0])) > 0.0
                for g in (self.between(a, b),)
            ]
        )
        if len(rest) < LEAST_CONTROLS:
            return Gain(first, last, seconds, None, None)
        usual = float(np.median(rest))
        spread = robust_sd(rest, usual)
        sd = took * spread * np.sqrt(1.0 + 1.0 / len(rest))
        return Gain(first, last, seconds, seconds - usual * took, float(sd))

    def _controls(self, length_m: float, spoilt: Sequence[tuple[float, float]]) -> list[tuple[float, float]]:
        """Stretches of a length, side by side, that touch nothing spoilt."""
        out, at = [], 0.0
        while at + length_m < self.at_m[-1]:
            blocking = [b for a, b in spoilt if a < at + length_m and b > at]
            if blocking:
                at = max(blocking)
            else:
                out.append((at, at + length_m))
                at += length_m
        return out


def gained(earlier: Profile, later: Profile, road: SameRoad, finish_m: float, spoilt: Sequence[tuple[float, float]] = ()) -> Gained:
    """The later pass against the earlier one, to the finish, both over the same places; ``spoilt`` are the parts of either that don't
    count, along the earlier one."""
    at_m = road.here_m[road.here_m <= finish_m]
    took = np.interp(at_m, earlier.distance_m, earlier.time_s)
    there = np.interp(np.interp(at_m, road.here_m, road.there_m), later.distance_m, later.time_s)
    seconds = (took - took[0]) - (there - there[0])
    counts = np.ones(len(at_m) - 1, dtype=bool)
    for first, last in spoilt:
        counts &= (at_m[1:] < first) | (at_m[:-1] > last)
    steps, steps_took = np.diff(seconds), np.diff(took)
    share = float(steps[counts].sum() / max(float(steps_took[counts].sum()), 1.0))
    ahead = np.concatenate([[0.0], np.cumsum(np.where(counts, steps - share * steps_took, 0.0))])
    return Gained(at_m, took - took[0], seconds, share, ahead)
