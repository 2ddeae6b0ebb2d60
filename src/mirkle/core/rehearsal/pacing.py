"""The coming pace: when the car will be where, and from that when each line is due and how much later it would be too late.

From a recorded pass the speed is its own; in parts that did not count it is what the grip used elsewhere allows, with the car's braking and
pull from the speeds on either side. Without a recording it is a set average over the distances of the book.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from mirkle.core.judging.call_timing import BRAKES_AHEAD_M, LATE_FOR_HABIT_S, SLOWS_MPS2
from mirkle.core.judging.pace import PULL_MPS2, Pace
from mirkle.core.judging.parameters import PARAMETERS
from mirkle.core.judging.parts import Part
from mirkle.core.notes.book_metres import CORNER_M, laid_out_m
from mirkle.core.notes.model import Note
from mirkle.core.recording.model import Floats
from mirkle.core.rehearsal.lines import Line, places_of
from mirkle.core.review import Review

# Seconds from the first word to the corner where no recording tells a crew's own. # common practice
USUAL_LEAD_S = 3.1
# A call is as liked up to this much later than liked (s): a breath. # common practice
ROOM_S = 0.5
SLOWEST_MPS = 3.0
# Where in a corner its least speed is looked for (m); two calls in one breath are so far apart (s, m); the pace that a twentieth exceed.
INTO_CORNER_M, APART, FAST_PERCENT = (0.0, 10.0, 20.0, 30.0), 1e-3, 95


@dataclass(frozen=True)
class Pacing:
    """The stage at full pace. ``distance_m`` and ``seconds`` are the drive, both (n,), from the start line; ``at_m``, ``corner_s`` and
    ``braking_s`` are each line's place, when the car is there, and how long before it the braking begins, (lines,).

    ``habit_s`` is how long before its corner this crew likes a call.
    """

    lines: tuple[Line, ...]
    distance_m: Floats
    seconds: Floats
    at_m: Floats
    corner_s: Floats
    braking_s: Floats
    habit_s: float = USUAL_LEAD_S

    def length_s(self, pace: float = 1.0) -> float:
        """How long the stage takes at a share of the pace."""
        return float(self.seconds[-1]) / pace

    def place_m(self, at_s: float, pace: float = 1.0) -> float:
        """Where the car is."""
        return float(np.interp(at_s * pace, self.seconds, self.distance_m))

    def seconds_at(self, metres: float, pace: float = 1.0) -> float:
        """When the car is at a place."""
        return float(np.interp(metres, self.distance_m, self.seconds)) / pace

    def due_s(self, pace: float = 1.0) -> Floats:
        """When each line is due, (lines,): a driver needs the same seconds at any pace. What is due before the start is called there."""
        return self.corner_s / pace - self.habit_s

    def needed_s(self, line: int, pace: float = 1.0) -> float:
        """How long before its corner a line has to be begun at the latest: what braking takes, and no less than a recorded call is held
        to; but what comes when this crew likes it is never late: before the heaviest braking a driver sees the corner himself."""
        # Slowing from a share of the speed to the same share takes that share of the seconds.
        needed = max(float(self.braking_s[line]) * pace, min(PARAMETERS.late_s, self.habit_s - LATE_FOR_HABIT_S))
        return min(needed, self.habit_s - ROOM_S)


def paced(lines: Sequence[Line], note_m: Floats, distance_m: Floats, seconds: Floats, habit_s: float = USUAL_LEAD_S) -> Pacing:
    """A pacing from where the notes are and when the car is where.

    Parameters
    ----------
    note_m : where each note's corner begins, (notes,) metres
    distance_m, seconds : the drive from the start line, both (n,), rising
    """
    at_m = places_of(lines, note_m)
    corner_s = np.interp(at_m, distance_m, seconds)
    speed = np.gradient(distance_m, seconds) if len(seconds) > 1 else np.ones(len(seconds))
    # What the corner is taken at is the least speed on its first stretch.
    before = np.interp(at_m - BRAKES_AHEAD_M, distance_m, speed)
    inside = np.min([np.interp(at_m + m, distance_m, speed) for m in INTO_CORNER_M], axis=0)
    braking_s = np.maximum(before - inside, 0.0) / SLOWS_MPS2
    return Pacing(tuple(lines), distance_m, seconds, at_m, corner_s, braking_s, habit_s)


def from_review(review: Review, lines: Sequence[Line]) -> Pacing:
    """The pace of a recorded pass; ``lines`` are those of an edition of the book that was read on it."""
    profile = review.profile
    count = max(2, min(len(profile.distance_m), round(review.finish_m) + 1))
    distance_m = profile.distance_m[:count]
    speed = counted_speed(profile.speed_mps[:count], profile.curvature_per_m[:count], review.pace, review.parts)
    legs = np.diff(distance_m) * 2.0 / (speed[1:] + speed[:-1])
    seconds = np.concatenate([[0.0], np.cumsum(legs)])
    return paced(lines, review.positions.note_m, distance_m, seconds, review.usual_lead.seconds)


def counted_speed(speed_mps: Floats, curvature_per_m: Floats, pace: Pace, parts: Sequence[Part]) -> Floats:
    """A pass's speed by the metre with the parts that don't count driven as the rest suggests, (n,)."""
    out = np.maximum(speed_mps, SLOWEST_MPS)
    inside = np.zeros(len(out), bool)
    for part in parts:
        inside[max(0, int(part.from_m)) : int(part.to_m) + 1] = True
    if not inside.any() or inside.all():
        return out
    at = np.arange(len(out), dtype=float)
    grip = np.interp(at, pace.at_m, pace.grip_mps2) if len(pace.at_m) else np.full(len(out), pace.grip(0.0))
    fastest = float(np.percentile(out[~inside], FAST_PERCENT))
    allowed = np.minimum(np.sqrt(grip / np.maximum(np.abs(curvature_per_m), 1e-5)), fastest)
    out = np.where(inside, np.maximum(allowed, SLOWEST_MPS), out)
    for i in np.flatnonzero(inside):
        if i:
            out[i] = min(out[i], np.sqrt(out[i - 1] ** 2 + 2 * PULL_MPS2))
    for i in np.flatnonzero(inside)[::-1]:
        if i + 1 < len(out):
            out[i] = min(out[i], np.sqrt(out[i + 1] ** 2 + 2 * pace.braking_mps2))
    return np.maximum(out, SLOWEST_MPS)


def from_calls(notes: Sequence[Note], lines: Sequence[Line], called_s: Floats) -> Pacing:
    """The pace of a pass of which only the calls are known, (notes,) seconds of its sound: each corner comes a usual lead behind its call,
    and metres are those of the book."""
    note_m = laid_out_m(notes)[:-1, 0]
    corner_s = np.maximum.accumulate(called_s - called_s[0]) + USUAL_LEAD_S
    # Two notes in one breath are two moments: a drive has to go on.
    corner_s = corner_s + APART * np.arange(len(corner_s))
    distance_m = np.concatenate([[0.0], np.maximum.accumulate(note_m + APART * (1 + np.arange(len(note_m))))])
    seconds = np.concatenate([[0.0], corner_s])
    return paced(lines, distance_m[1:], distance_m, seconds)


def from_book(notes: Sequence[Note], lines: Sequence[Line], average_mps: float) -> Pacing:
    """A set average over the distances of the book."""
    note_m = laid_out_m(notes)[:-1, 0]
    distance_m = np.arange(0.0, float(note_m[-1]) + CORNER_M + 1.0, 1.0)
    return paced(lines, note_m, distance_m, distance_m / average_mps)
