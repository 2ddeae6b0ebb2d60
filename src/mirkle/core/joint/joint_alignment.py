"""Passes paired together: one road, several lines over it.

Each pass is paired by itself first. Then each shows the others where it found a note, as a call does: a place with a spread. What one
pass has and another has not tells a corner from the driver's own swerve: the road turns under every line.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from mirkle.core.joint.same_road import SameRoad
from mirkle.core.lineup.called_notes import CallPlaces
from mirkle.core.lineup.result import Lineup, Uncalled
from mirkle.core.lineup.unclaimed import UnclaimedOdds
from mirkle.core.motion.bends import Bend
from mirkle.core.motion.profile import Profile
from mirkle.core.recording.model import Floats

# A place that another pass shows is good to this: two lines begin a bend apart, and two counts of metres are out by a few.
SHOWN_SD_M, SURELY_SHOWN = 8.0, 0.9
# A bend of another pass is looked for within this distance (m); it is the same bend from this share of the turn on.
ABOUT_M, TURNS_AS_MUCH = 12.0, 0.5
# How often another pass shows a corner of the road, and how often what was one driver's swerve. # common practice
CORNER_SHOWN, SWERVE_SHOWN = 0.97, 0.1


@dataclass(frozen=True)
class AlignedPass:
    """Another pass of the stage as this one sees it: its line, where its notes lie, and which metres are the same."""

    profile: Profile
    lineup: Lineup
    road: SameRoad


def places_from_passes(corners: Sequence[int], passes: Sequence[AlignedPass], heard: CallPlaces | None) -> CallPlaces | None:
    """Where calls and other passes put each corner note, on this pass's metres; each by its spread.

    ``corners`` are the notes' numbers in the book. A pass that contradicts the call by more than three spreads says nothing.
    """
    if not passes:
        return heard
    place = np.full(len(corners), np.nan) if heard is None else heard.place_m.copy()
    sigma = np.ones(len(corners)) if heard is None else heard.sigma_m.copy()
    for other in passes:
        for i, shown in _shown(other, corners):
            if not np.isfinite(place[i]):
                place[i], sigma[i] = shown, SHOWN_SD_M
            elif abs(shown - place[i]) < 3.0 * np.hypot(SHOWN_SD_M, sigma[i]):
                place[i], sigma[i] = _both(place[i], sigma[i], shown)
    return CallPlaces(place, sigma)


def _shown(other: AlignedPass, corners: Sequence[int]) -> Iterator[tuple[int, float]]:
    """Where another pass surely has corner notes, on this pass's metres, by their place among the corners."""
    for i, note in enumerate(corners):
        tie = other.lineup.tie_of.get(note)
        if tie is not None and tie.bend is not None and tie.sure >= SURELY_SHOWN:
            yield i, other.road.here(tie.bend.eased_from_m)


def _both(place_m: float, sigma_m: float, shown_m: float) -> tuple[float, float]:
    """A place known twice, each time with a spread: the mean by precision, and its spread."""
    precision = 1.0 / sigma_m**2, 1.0 / SHOWN_SD_M**2
    total = sum(precision)
    return (place_m * precision[0] + shown_m * precision[1]) / total, total**-0.5


def weigh_by_passes(lineup: Lineup, passes: Sequence[AlignedPass]) -> Lineup:
    """The line-up with what other lines show of the bends without a note."""
    return replace(lineup, uncalled=tuple(_seen(left, passes) for left in lineup.uncalled)) if passes else lineup


def keep_pass_weights(lineup: Lineup, before: Lineup) -> Lineup:
    """The line-up with what other lines showed of bends that were without a note before, too."""
    known = {round(u.bend.apex_m): u.whose for u in before.uncalled}
    return replace(lineup, uncalled=tuple(replace(u, whose=known.get(round(u.bend.apex_m), u.whose)) for u in lineup.uncalled))


def _seen(left: Uncalled, passes: Sequence[AlignedPass]) -> Uncalled:
    """By Bayes' rule: a corner, or a part of one, is shown by every line; a swerve by chance."""
    odds = 1.0
    for other in passes:
        shown = _turns(left.bend, other) > TURNS_AS_MUCH * left.bend.turn_deg
        odds *= SWERVE_SHOWN / CORNER_SHOWN if shown else (1.0 - SWERVE_SHOWN) / (1.0 - CORNER_SHOWN)
    whose = left.whose
    swerve = whose.swerve * odds
    total = swerve + (1.0 - whose.swerve)
    rest = {n: getattr(whose, n) / total for n in ("missing", "before", "behind", "habit")}
    return replace(left, whose=UnclaimedOdds(**rest, swerve=swerve / total))


def _turns(bend: Bend, other: AlignedPass) -> float:
    """How far another line turns to a bend's side about its place, in degrees."""
    first, last = (other.road.there(m) for m in (bend.from_m - ABOUT_M, bend.to_m + ABOUT_M))
    bent: Floats = bend.side * other.profile.curvature_per_m[max(0, int(first)) : int(last) + 1]
    return float(np.degrees(np.maximum(bent, 0.0).sum()))
