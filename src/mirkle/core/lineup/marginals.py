"""How sure an alignment is in each of its parts: the programme of :mod:`mirkle.core.lineup.alignment` with sums, from both ends.

With F the -ln likelihood of all alignments of the notes up to one that end with it on a run, and B that of all from the far end, the
probability that the note is on the run is exp(W - (F + B - c)), c what the run costs the note and W the -ln likelihood of all
alignments (forward and backward sums, as with hidden Markov models: Rabiner, 1989).
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.lib.stride_tricks import sliding_window_view
from numpy.typing import NDArray

from mirkle.core.lineup.alignment import Fit, Search, swept
from mirkle.core.lineup.called_notes import CalledNotes
from mirkle.core.lineup.road import MOST_PIECES, Road
from mirkle.core.motion.spans import Pieces
from mirkle.core.recording.model import Floats

# How many notes each way the likelihood of all alignments together is read from.
NEIGHBOURS = 6


@dataclass(frozen=True)
class Marginals:
    """``sure`` is for each note the probability that it belongs to the bend it was put on, or to none where it has none, (notes,): with its
    own words, or without the grade where that is more, so that a slip in it does not hide itself. (A side is judged with it: who puts a
    note on a bend the other way has to rule out that no bend is the note's.) ``free`` for each piece of road that no note claims it,
    (pieces,).
    """

    sure: Floats
    free: Floats


def marginals(road: Road, fit: Fit, search: Search, chosen: NDArray[np.intp]) -> Marginals:
    """The marginal probabilities of an alignment: each note's on all runs that share road with its own, and each piece's."""
    calls, runs, count = fit.calls, road.runs, len(road.pieces)
    notes = len(calls.notes)
    forward = swept(road, fit, search)
    seen, mirrored, order = _mirrored(calls, road)
    # A run begins, seen from the end, where it ends: reach further by the longest run.
    widened = [(max(0, count - high - MOST_PIECES), min(count, count - low)) for low, high in search.windows[::-1]]
    backward = swept(mirrored, _turned(fit, seen, mirrored, order), replace(search, windows=widened))
    own_number = np.empty(len(order), dtype=np.intp)
    own_number[order] = np.arange(len(order))
    parts = []
    for i in range(notes):
        first, cost = forward.first[i], forward.cost[i]
        numbers = np.arange(first, first + len(cost))
        other_first, other_cost = backward.first[notes - 1 - i], backward.cost[notes - 1 - i]
        at = own_number[numbers] - other_first
        known = np.flatnonzero((at >= 0) & (at < len(other_cost)))
        through = cost[known] + other_cost[at[known]] - forward.own[i][known]
        own = forward.grade[i][known]
        parts.append((numbers[known], np.exp(np.clip(forward.whole - through, -700.0, 700.0)), np.exp(np.minimum(own, 700.0))))
    # The metres that a note without a road leaves owing differ a little seen from either end, and the whole with them: it is
    # taken as it is seen about each note. Of so many neighbours one is surely on some road.
    sums = np.pad(np.array([likely.sum() for _, likely, _ in parts]), NEIGHBOURS, mode="edge")
    whole = sliding_window_view(sums, 2 * NEIGHBOURS + 1).max(axis=1)
    sure, changes = np.ones(notes), np.zeros(count + 1)
    for i, (run, (numbers, likely, called)) in enumerate(zip(chosen, parts, strict=True)):
        likely = likely / max(float(whole[i]), 1e-300)
        shared = (runs.to_m[numbers] > runs.from_m[run]) & (runs.from_m[numbers] < runs.to_m[run])
        nowhere = max(0.0, 1.0 - float(likely.sum()))
        if run >= 0 and runs.side[run] == calls.side[i]:
            blind = likely * called
            without = blind[shared].sum() / max(float(blind.sum()) + nowhere, 1e-300)
            sure[i] = max(float(likely[shared].sum()), float(without))
        else:
            sure[i] = likely[shared].sum() if run >= 0 else nowhere
        np.add.at(changes, road.a[numbers], likely)
        np.add.at(changes, road.b[numbers] + 1, -likely)
    return Marginals(np.clip(sure, 0.0, 1.0), np.clip(1.0 - np.cumsum(changes)[:-1], 0.0, 1.0))


def _turned(fit: Fit, seen: CalledNotes, mirrored: Road, order: NDArray[np.intp]) -> Fit:
    """The fit of the mirrored runs."""
    return replace(
        fit,
        calls=seen,
        runs=mirrored.runs,
        position=fit.position[order],
        log_length=fit.log_length[order],
        log_turn=fit.log_turn[order],
        alone=fit.alone[order],
        begins_m=fit.begins_m[order],
    )


def _mirrored(calls: CalledNotes, road: Road) -> tuple[CalledNotes, Road, NDArray[np.intp]]:
    """The same problem seen from the far end, and for each mirrored run its own number."""
    pieces, runs, length_m, count = road.pieces, road.runs, road.profile.length_m, len(road.pieces)
    back = Pieces(
        first=pieces.first[::-1],
        last=pieces.last[::-1],
        side=pieces.side[::-1],
        turn_rad=pieces.turn_rad[::-1],
        bend_turn_rad=pieces.bend_turn_rad[::-1],
        bend=pieces.bend[::-1],
        bend_apex=pieces.bend_apex[::-1],
        dip=pieces.dip,
        from_m=length_m - pieces.to_m[::-1],
        to_m=length_m - pieces.from_m[::-1],
    )
    a, b = count - 1 - road.b, count - 1 - road.a
    order = np.lexsort((b, a))
    turned = runs.picked(order)
    turned = replace(turned, from_m=length_m - turned.to_m, to_m=length_m - turned.from_m)
    seen = replace(calls.reversed(), pinned_m=length_m - calls.pinned_m[::-1])
    return seen, Road(back, a[order], b[order], turned, road.cuts[order], road.dip[order], road.profile), order
