"""What was said against what is written, and one clock for words and recording."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from mirkle.core.motion.profile import Profile
from mirkle.core.motion.segments import Segment
from mirkle.core.recording.model import Floats
from mirkle.core.speech.reading import CallTime, Speech
from mirkle.core.stats import median_slope, robust_sd

# A co-driver calls a corner about 3.4 s before it; crews differ by 0.14 s or so. # common practice
USUAL_LEAD_S, LEAD_DIFFERS_S = 3.4, 0.25
# A call is never meant to come so late or so early.
NO_LEAD_S = (-2.0, 9.0)
# A bend begins for its curvature a few metres before a crew would say that it does.
EDGE_BEFORE_S = 0.15
# "Go" and the car's first movement are this far apart, give or take. # common practice
REACTION_S, REACTION_DIFFERS_S = 0.35, 0.25
# A call dragged to its corner by hand and eye. # common practice
SET_BY_HAND_S = 0.15
# How many notes may be read before the start. # common practice
AT_LEISURE = 3
# A block of words that is less sure than the first says "go" no better than the second, and begins late by this share of what it is unsure.
COARSE_S, COARSE_GO_S, BEGINS_LATE = 1.0, 0.8, 0.25
# A call puts its note no nearer than this: metres, seconds of the lead's scatter, and at a speed of at least.
PLACE_SD_M, LEAST_LEAD_SD_S, LEAST_MPS = 8.0, 0.6, 5.0
# The fewest calls that tell a clock; a drift is real from this many of its standard errors on; bounds of a wrong sampling rate: 44.1
# against 48 kHz is the largest that occurs.
LEAST_CALLS, DRIFT_SURE, LEAST_GAIN, MOST_GAIN = 8, 5.0, 0.002, 0.12


@dataclass(frozen=True)
class Clock:
    """What the words' clock reads more than the recording's when the car left the start line, at ``start_s`` on the
    recording's, and how uncertain that is; ``by`` says from what.

    ``gains`` is what the words' clock gains on the recording's in a second: sound that was converted at the wrong rate, or
    video at another number of frames, runs at another pace.
    """

    calls_minus_run_s: float
    uncertainty_s: float
    by: str
    gains: float = 0.0
    start_s: float = 0.0

    def run_s(self, calls_s: float) -> float:
        """A moment of the words' clock on the recording's."""
        return self.start_s + (calls_s - self.calls_minus_run_s - self.start_s) / (1.0 + self.gains)

    def calls_s(self, run_s: float) -> float:
        """A moment of the recording's clock on the words'."""
        return run_s + self.calls_minus_run_s + self.gains * (run_s - self.start_s)


def clock_of(
    speech: Speech, said: Sequence[CallTime | None], place_s: Floats, drive: Segment, *, set_offset_s: float | None = None
) -> Clock | None:
    """The offset between the clocks, and the drift where the calls show one.

    Parameters
    ----------
    said : for each note when it was said, on the words' clock
    place_s : for each note when the car came to its place, on the recording's clock, nan where unknown, (notes,)
    set_offset_s : the offset, where a hand set it

    ``go`` gives it to a few tenths of a second. Without it only the offset plus the crew's habitual lead can be seen,
    so the usual lead is taken off and its spread between crews goes into the uncertainty. Where both are there, ``go`` is believed, and
    half of what they differ by is the least that it may be out.
    """
    early = np.array([s.from_s if s is not None else np.nan for s in said]) - place_s
    known = np.isfinite(early)
    known[:AT_LEISURE] = False
    early, driven_s = early[known], place_s[known] - drive.start_s
    gains = gains_of(early, driven_s)
    if set_offset_s is not None:
        return Clock(set_offset_s, SET_BY_HAND_S, "hand", gains, drive.start_s)
    if speech.tied is not None:
        return Clock(*speech.tied, "sound", gains, drive.start_s)
    by_lead = _by_lead(early - gains * driven_s, [s.uncertainty_s for s in said if s is not None])
    if speech.go_s is not None:
        coarse = speech.words[0].uncertainty_s > COARSE_S
        offset = speech.go_s + REACTION_S - drive.start_s
        error = COARSE_GO_S if coarse else REACTION_DIFFERS_S
        if by_lead is not None:
            # Two measures of one offset that differ: neither is right, or one is a start that was taken for another.
            error = max(error, 0.5 * abs(offset - by_lead[0]))
        return Clock(offset, error, "go", gains, drive.start_s)
    if by_lead is None:
        return None
    return Clock(*by_lead, "lead", gains, drive.start_s)


def _by_lead(early_s: Floats, blurs_s: Sequence[float]) -> tuple[float, float] | None:
    """The offset by the crew's habitual lead, and its standard deviation; ``None`` where too few calls are known.

    ``early_s`` is how much more the words' clock read at each call than the recording's at the call's place, (n,).
    """
    if len(early_s) < LEAST_CALLS:
        return None
    middle = float(np.median(early_s))
    spread = robust_sd(early_s, middle)
    # Coarse blocks also begin late by the silence ahead of their first word.
    error = np.sqrt(LEAD_DIFFERS_S**2 + spread**2 / len(early_s) + (BEGINS_LATE * float(np.median(blurs_s))) ** 2)
    return middle + USUAL_LEAD_S + EDGE_BEFORE_S, float(error)


def gains_of(early_s: Floats, driven_s: Floats) -> float:
    """Seconds that the words' clock gains on the recording's in a second; 0 where the calls show none for sure.

    The median of the slopes between all pairs of calls (Theil-Sen), each said ``early_s`` before its place, ``driven_s``
    after the start; both (n,). No crew keeps its lead to a tenth of a second, so less than a few parts in a thousand can't
    be seen in a stage: what a clock itself drifts stays hidden, a wrong rate does not.
    """
    if len(early_s) < 2 * LEAST_CALLS:
        return 0.0
    slope = median_slope(driven_s, early_s, least_apart=1.0)
    if slope is None:
        return 0.0
    rest = early_s - slope * driven_s
    spread = robust_sd(rest)
    error = spread / (np.sqrt(len(early_s)) * float(driven_s.std()))
    return slope if max(DRIFT_SURE * error, LEAST_GAIN) < abs(slope) < MOST_GAIN else 0.0


def heard_places(said: Sequence[CallTime | None], clock: Clock, place_s: Floats, profile: Profile) -> tuple[Floats, Floats]:
    """Where the calls put each note, by this crew's habitual lead, and how far that is out; both (notes,) metres."""
    at_s = np.array([clock.run_s(s.from_s) if s is not None else np.nan for s in said])
    blur_s = np.array([s.uncertainty_s if s is not None else np.nan for s in said])
    habit, scatter, _ = usual_lead(place_s - at_s)
    place_m = np.interp(at_s + habit, profile.time_s, profile.distance_m)
    speed = np.interp(place_m, profile.distance_m, profile.speed_mps)
    sigma_m = PLACE_SD_M + np.hypot(max(scatter, LEAST_LEAD_SD_S), blur_s) * np.maximum(speed, LEAST_MPS)
    # What was said before the car moved says nothing of a place.
    place_m = np.where(at_s > profile.time_s[0], place_m, np.nan)
    return place_m, sigma_m


def usual_lead(lead_s: Floats) -> tuple[float, float, int]:
    """A crew's habitual lead in seconds, its spread, and from how many calls; what no crew does is left aside, (n,)."""
    known = lead_s[np.isfinite(lead_s) & (lead_s > NO_LEAD_S[0]) & (lead_s < NO_LEAD_S[1])]
    if not len(known):
        return USUAL_LEAD_S, 1.0, 0
    habit = float(np.median(known))
    return habit, robust_sd(known, habit), len(known)


def places_s(places_m: Floats, profile: Profile) -> Floats:
    """When the car came to each place, nan where that is nan, (n,)."""
    return np.interp(places_m, profile.distance_m, profile.time_s)
