"""Two neighbouring notes that stand the wrong way round in the book.

An alignment keeps the order of the book, so such a pair takes each other's bends, or one of them takes its own and the other none. Where
something is odd about a pair the few notes about it are aligned once more with the two exchanged; the distances, and where the calls put
the first and the second, stay where they are. What the exchange gains, in nats, is the log of how much likelier it makes the road.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from mirkle.core.lineup.alignment import Search, align, fit_of, windows_about
from mirkle.core.lineup.called_notes import CalledNotes
from mirkle.core.lineup.result import Lineup, Turned
from mirkle.core.lineup.road import Road

# How many notes each way are aligned with a pair, and how far from its place each is looked for.
ABOUT, NEAR_M = 2, 300.0
# A pair is looked at where a note is less sure of its bend than the first, or off its grade by more scatters than the second.
SURE, OFF_SCATTERS = 0.8, 2.5
# A pair is turned where the exchange gains more nats than this: a slip or two in a hundred notes, and one sort of several. # common
# practice
TURNED_NATS = 5.5
# So likely missing, a bend makes one look whether the notes beside it are turned.
SEEMS_MISSING = 0.3
EVERYWHERE = slice(None)


def turned_pairs(calls: CalledNotes, road: Road, lineup: Lineup, among: slice = EVERYWHERE) -> tuple[Turned, ...]:
    """The pairs of a line-up that are turned, none sharing a note; ``among`` are the corner notes that are looked at."""
    chosen = np.array(lineup.claims, dtype=np.intp)
    odd = _odd(calls, road, lineup, chosen)
    odd_pair = odd[:-1] | odd[1:]
    firsts = [i for i in range(*among.indices(len(odd_pair))) if odd_pair[i] and _may_be_turned(calls, i)]
    exchanged = (_exchanged(calls, road, lineup, chosen, i) for i in firsts)
    found = [turned for turned in exchanged if turned is not None and turned.nats > TURNED_NATS]
    best: dict[int, Turned] = {}
    for turned in sorted(found, key=lambda t: -t.nats):
        if turned.note not in best and turned.next_note not in best:
            best |= {turned.note: turned, turned.next_note: turned}
    return tuple(sorted(set(best.values()), key=lambda t: t.note))


def _odd(calls: CalledNotes, road: Road, lineup: Lineup, chosen: NDArray[np.intp]) -> NDArray[np.bool_]:
    """Where something is odd about a corner note: no bend or one the other way, unsure, off its grade, or beside a bend that seems to be
    missing in the book, (notes,)."""
    position = np.array([np.nan if tie.position is None else tie.position for tie in lineup.ties])
    sure = np.array([tie.sure for tie in lineup.ties])
    missing_m = [left.bend.apex_m for left in lineup.uncalled if left.missing > SEEMS_MISSING]
    off = np.abs(position - calls.position) > OFF_SCATTERS * lineup.grades.scatter
    odd = (chosen < 0) | (sure < SURE) | (road.runs.side[chosen] != calls.side) | off
    paired = np.flatnonzero(chosen >= 0)
    for apex_m in missing_m:
        # A note that is turned may have left its bend and taken one that is as good.
        k = int(np.searchsorted(road.runs.from_m[chosen[paired]], apex_m))
        odd[paired[max(k - 1, 0) : k + 1]] = True
    return np.asarray(odd)


def _may_be_turned(calls: CalledNotes, first: int) -> bool:
    """Whether exchanging a corner note and the next would change anything: not where both call the same, or a hand has placed one."""
    same = calls.side[first] == calls.side[first + 1] and calls.position[first] == calls.position[first + 1]
    placed = not np.isnan(calls.pinned_m[first : first + 2]).all()
    return not (same or placed or calls.again[first : first + 2].any())


def _exchanged(calls: CalledNotes, road: Road, lineup: Lineup, chosen: NDArray[np.intp], first: int) -> Turned | None:
    """What it gains to exchange a note with the one behind it, and where both then lie; ``None`` where one has no bend then."""
    paired = np.flatnonzero(chosen >= 0)
    before, behind = paired[paired < first - ABOUT], paired[paired > first + 1 + ABOUT]
    low = int(before[-1]) if len(before) else 0
    high = int(behind[0]) + 1 if len(behind) else len(chosen)
    near, _ = road.part(
        int(road.a[chosen[low]]) if len(before) else 0, int(road.b[chosen[high - 1]]) + 1 if len(behind) else len(road.pieces)
    )
    held = calls.pinned_m.copy()
    for end in (*before[-1:], *behind[:1]):
        if np.isnan(held[end]):
            held[end] = road.runs.from_m[chosen[end]]
    some = replace(calls, pinned_m=held).between(low, high)
    at = first - low
    order = np.arange(len(some.notes))
    order[at], order[at + 1] = at + 1, at
    changed = replace(
        some, side=some.side[order], position=some.position[order], length_m=some.length_m[order], least_turn_deg=some.least_turn_deg[order]
    )
    there = paired[(paired >= low) & (paired < high)]
    place_m = np.interp(np.arange(low, high), there, road.runs.from_m[chosen[there]])
    search = Search(lineup.eased_distances, windows_about(place_m, near.pieces, NEAR_M))
    fit = fit_of(some, near, lineup.grades)
    runs, table = align(near, replace(fit, calls=changed), search)
    if (runs[at : at + 2] < 0).any():
        return None
    as_written = align(near, fit, search)[1]
    lie = [(float(near.runs.from_m[r]), float(near.runs.to_m[r])) for r in runs[at : at + 2]]
    nats = as_written.whole - table.whole
    return Turned(calls.notes[first].index, calls.notes[first + 1].index, nats, lie[0], lie[1])
