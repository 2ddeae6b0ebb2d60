"""The line cut finely, and any run of neighbouring pieces measured.

It is cut at every change of side and at every easing between two tighter places, because where one bend ends and the
next begins is the notes' affair: one crew calls a long left with two apexes as one note, another as two. So nothing here
decides how many bends there are; :mod:`mirkle.core.lineup.pairing` lets each note claim a run of pieces.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from mirkle.core.motion.profile import STEP_M, Profile
from mirkle.core.recording.model import Floats

Ints = NDArray[np.intp]

# Straighter than this is no bend for anybody. # common practice: "flat" begins at about 300-400 m
STRAIGHT_PER_M = 1 / 900.0
# Two peaks of one side are two pieces when the curvature between them falls by this share of the lesser.
DIP_BETWEEN_PEAKS = 0.05
# Long pieces are sliced, so that two notes may share one unbroken bend; gentle ones more coarsely than tight ones.
SLICE_PER_RADIUS, SHORTEST_SLICE_M, LONGEST_SLICE_M = 0.12, 8.0, 25.0
# A bend's stretch reaches to where its curvature passes this share of its peak, so that the gentler part of a
# bend that tightens or opens still belongs to it.
EDGE_SHARE = 0.4
SAMPLES = 48
EVERY_METRE = 640


@dataclass(frozen=True)
class Pieces:
    """The profile cut up; piece ``i`` reaches over profile samples ``first[i]`` to ``last[i]`` (inclusive).

    ``turn_rad`` is signed, ``side`` is +1, -1 or 0 for a straight; ``from_m`` and ``to_m`` are where the piece's
    curvature passes half of its peak, which for an arc with eased ends is where the arc begins and ends.
    ``bend_turn_rad`` is the turn of the whole uncut bend that a slice belongs to, ``bend`` numbers those bends and
    ``bend_apex`` is the sample of its greatest curvature. ``dip[j]`` is by what share the curvature eases between bend
    ``j - 1`` and bend ``j``, against the lesser peak.
    """

    first: Ints
    last: Ints
    side: Ints
    turn_rad: Floats
    from_m: Floats
    to_m: Floats
    bend_turn_rad: Floats
    bend: Ints
    bend_apex: Ints
    dip: Floats

    def __len__(self) -> int:
        return len(self.first)

    def turned_deg(self, first: int, last: int) -> float:
        """How far the line turns over the pieces ``first`` to ``last`` (inclusive), to one side or the other."""
        return abs(self._turned_deg[last + 1] - self._turned_deg[first])

    @cached_property
    def _turned_deg(self) -> list[float]:
        return [0.0, *np.degrees(np.cumsum(self.turn_rad)).tolist()]

    def between(self, first: int, end: int) -> Pieces:
        """The pieces from ``first`` up to ``end``; bends keep their numbers, so ``dip`` stays whole."""
        kept = {name: getattr(self, name)[first:end] for name in Pieces.__dataclass_fields__ if name != "dip"}
        return Pieces(**kept, dip=self.dip)


def cut_in_pieces(profile: Profile) -> Pieces:
    """The profile cut at changes of side, at straights, and at easings between two peaks of one side."""
    bent = profile.curvature_per_m
    threshold = np.maximum(STRAIGHT_PER_M, 1.0 * np.minimum(profile.curvature_sd_per_m, 1 / 300.0))
    side = np.where(np.abs(bent) > threshold, np.sign(bent), 0.0).astype(np.intp)
    edges = np.flatnonzero(np.diff(side)) + 1
    whole = np.unique(np.concatenate([[0], edges, _easings(np.abs(bent), side), [len(bent)]])).astype(np.intp)
    edges = _sliced(np.abs(bent), side, whole)
    first, last = edges[:-1], edges[1:] - 1
    turn = np.add.reduceat(bent, first) * STEP_M
    whole_turn = np.add.reduceat(bent, whole[:-1]) * STEP_M
    peak = np.maximum.reduceat(np.abs(bent), first)
    from_m, to_m = _half_peak_extents(np.abs(bent), first, last, peak)
    bend = np.searchsorted(whole, first, side="right") - 1
    apexes = np.array([a + int(np.argmax(np.abs(bent[a:b]))) for a, b in pairwise(whole)], dtype=np.intp)
    return Pieces(first, last, side[first], turn, from_m, to_m, whole_turn[bend], bend, apexes[bend], _dips(np.abs(bent), whole, apexes))


def _dips(size: Floats, whole: Ints, apexes: Ints) -> Floats:
    border = np.minimum(size[whole[1:-1]], size[whole[1:-1] - 1])
    lesser = np.minimum(size[apexes[1:]], size[apexes[:-1]])
    return np.concatenate([[0.0], 1.0 - border / np.maximum(lesser, 1e-9)])


def _sliced(size: Floats, side: Ints, edges: Ints) -> Ints:
    """The edges with more between them where a bend is long, (m,)."""
    out = []
    for first, end in pairwise(edges):
        length_m = (end - first) * STEP_M
        slices = 1
        if side[first]:
            slice_m = np.clip(SLICE_PER_RADIUS / size[first:end].max(), SHORTEST_SLICE_M, LONGEST_SLICE_M)
            slices = max(1, round(length_m / slice_m))
        out.append(first + (np.arange(slices) * (end - first)) // slices)
    return np.concatenate([*out, edges[-1:]]).astype(np.intp)


def _easings(size: Floats, side: Ints) -> Ints:
    """Samples where one side's curvature dips between two peaks by enough to count, (m,)."""
    found: list[int] = []
    peaks = np.flatnonzero((size[1:-1] > size[:-2]) & (size[1:-1] >= size[2:])) + 1
    previous: int | None = None
    for peak in peaks:
        if side[peak] == 0:
            continue
        if previous is not None and np.all(side[previous:peak] == side[peak]):
            low = previous + int(np.argmin(size[previous:peak]))
            if size[low] < (1 - DIP_BETWEEN_PEAKS) * min(size[previous], size[peak]):
                found.append(low)
                previous = int(peak)
            elif size[peak] > size[previous]:
                previous = int(peak)
        else:
            previous = int(peak)
    return np.array(found, dtype=np.intp)


def _half_peak_extents(size: Floats, first: Ints, last: Ints, peak: Floats) -> tuple[Floats, Floats]:
    steps = np.linspace(0.0, 1.0, SAMPLES)
    at = first[:, None] + np.rint(steps[None, :] * (last - first)[:, None]).astype(np.intp)
    high = size[at] >= 0.5 * peak[:, None]
    before = at[np.arange(len(first)), high.argmax(axis=1)]
    after = at[np.arange(len(first)), SAMPLES - 1 - high[:, ::-1].argmax(axis=1)]
    return before * STEP_M, (after + 1) * STEP_M


@dataclass(frozen=True)
class Spans:
    """Measures of many stretches of one bend each; all arrays (m,).

    Radii are of the tightest :data:`~mirkle.core.motion.profile.TIGHTEST_OVER_M` and :data:`~mirkle.core.motion.profile.CARRIED_OVER_M`
    metres; ``against_deg`` is the turn to the other side inside the stretch, ``turn_deg`` what is left after it; ``easing_m`` are the
    metres inside it that are straighter than its ends; ``from_m`` to ``to_m`` is where the curvature is over :data:`EDGE_SHARE` of its
    peak.
    """

    side: Ints
    turn_deg: Floats
    length_m: Floats
    radius_m: Floats
    carried_radius_m: Floats
    against_deg: Floats
    easing_m: Floats
    from_m: Floats
    to_m: Floats

    def picked(self, which: Ints) -> Spans:
        """The chosen rows."""
        return Spans(**{name: getattr(self, name)[which] for name in Spans.__dataclass_fields__})


def measure(profile: Profile, first: Ints, last: Ints, *, samples: int = SAMPLES) -> Spans:
    """Measures of the stretches from sample ``first`` to sample ``last`` (inclusive), both (m,).

    Each stretch is looked at in ``samples`` places, so its ends are good to its length over that number.
    """
    # None at all come without a type.
    first, last = np.asarray(first, dtype=np.intp), np.asarray(last, dtype=np.intp)
    left, right = profile.turned_rad
    to_left, to_right = left[last + 1] - left[first], right[last + 1] - right[first]
    side = np.where(to_left >= to_right, 1, -1).astype(np.intp)
    steps = np.linspace(0.0, 1.0, samples)
    at = first[:, None] + np.rint(steps[None, :] * (last - first)[:, None]).astype(np.intp)
    bent = side[:, None] * profile.curvature_per_m[at]
    peak = np.maximum(bent.max(axis=1), 1e-4)
    carried = np.maximum((side[:, None] * profile.carried_per_m[at]).max(axis=1), 1e-4)
    high = bent >= EDGE_SHARE * peak[:, None]
    rows = np.arange(len(first))
    from_m = at[rows, high.argmax(axis=1)] * STEP_M
    to_m = (at[rows, samples - 1 - high[:, ::-1].argmax(axis=1)] + 1) * STEP_M
    inside = (at * STEP_M >= from_m[:, None]) & (at * STEP_M < to_m[:, None])
    easing = (inside & ~high).sum(axis=1) * (last - first + 1) * STEP_M / samples
    turned, against = np.maximum(to_left, to_right), np.minimum(to_left, to_right)
    return Spans(
        side=side,
        turn_deg=np.degrees(turned - against),
        length_m=np.maximum(to_m - from_m, STEP_M),
        radius_m=1 / peak,
        carried_radius_m=1 / carried,
        against_deg=np.degrees(against),
        easing_m=easing,
        from_m=from_m,
        to_m=to_m,
    )
