"""Which note belongs to which stretch of road.

Each corner note claims a run of neighbouring pieces of the road, in order, or none; pieces that no note claims stay
over (see :mod:`mirkle.core.lineup.alignment`). The yardsticks are fitted from the best alignment and it is found again.
A place that was pinned by hand holds, and the rest follows.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from mirkle.core.lineup.alignment import Search, Windows, align, fit_of, windows_about
from mirkle.core.lineup.called_notes import CalledNotes, Pin, calls_of
from mirkle.core.lineup.crew_scale import PLAIN_GAPS, GapYardstick, GradeYardstick, plain_yardstick
from mirkle.core.lineup.iterated_fit import (
    ROUNDS,
    WINDOW_M,
    anywhere_windows,
    first_windows,
    fitted_distances,
    fitted_eased_distances,
    fitted_grades,
    follows,
    led_by_pins,
    settled,
)
from mirkle.core.lineup.marginals import Marginals, marginals
from mirkle.core.lineup.merged_bends import Alone, met_of
from mirkle.core.lineup.result import GapMet, Lineup, Pairing, Turned, Uncalled
from mirkle.core.lineup.road import Road, claimed
from mirkle.core.lineup.turned import EVERYWHERE, turned_pairs
from mirkle.core.lineup.unclaimed import Claimed, evidence_of, weighed
from mirkle.core.motion.bends import Bend, Stretches, bend_between, gaps_before
from mirkle.core.motion.spans import EVERY_METRE, measure
from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.model import Note
from mirkle.core.recording.model import Floats
from mirkle.core.stats import rank_correlation


def line_up(
    calls: CalledNotes,
    road: Road,
    *,
    before: Lineup | None = None,
    anywhere: bool = False,
    progress: Callable[[float], None] = lambda _: None,
) -> Lineup:
    """Pairs the corner notes with the road, fits the crew's yardsticks, and measures the gaps.

    Parameters
    ----------
    road : from the start line to somewhere past the finish
    before : a line-up to begin from, so that fewer rounds are needed
    anywhere : whether the notes may be of a part of the road only
    progress : is told the share done, 0 to 1; it may raise to cancel
    """
    if anywhere:
        search = Search(PLAIN_GAPS, anywhere_windows(calls, road), free_ends=True)
    elif before is None:
        search = Search(PLAIN_GAPS, first_windows(calls, road, PLAIN_GAPS))
    else:
        search = Search(before.eased_distances, _windows_before(calls, road, before))
    again = before is not None and not anywhere
    grades = before.grades if before is not None and again else plain_yardstick(calls.school)
    found = settled(calls, road, grades, search, rounds=1 if again else ROUNDS, progress=progress)
    sums = marginals(road, found.fit, found.search, found.chosen)
    return _lineup(calls, road, _Aligned(found.chosen, found.search.distances, sums, found.table.whole))


def pin_down(calls: CalledNotes, road: Road, before: Lineup, moved: Pin) -> Lineup:
    """The line-up with one note moved by hand: only what lies about it is aligned again, with the yardsticks as they are.

    ``calls`` hold all pins, ``moved`` among them; ``before`` is the line-up without it.
    """
    place = next(i for i, n in enumerate(calls.notes) if n.index == moved.note)
    first, last = _sure_before(before, place), _sure_behind(before, place)
    claims = np.array(before.claims, dtype=np.intp)
    end_piece = int(road.b[claims[last]]) + 1 if last is not None else len(road.pieces)
    first_piece = int(road.a[claims[first]]) if first is not None else 0
    near, numbers = road.part(first_piece, end_piece)
    if not near.holds(moved.at_m):
        return line_up(calls, road, before=before)
    span = slice(first or 0, (last if last is not None else len(calls.notes) - 1) + 1)
    some = _held_at(calls, before, (first, last)).between(span.start, span.stop)
    fit = fit_of(some, near, before.grades)
    search = Search(before.eased_distances, [(0, len(near.pieces))] * len(some.notes))
    chosen, _ = align(near, fit, search)
    sums = marginals(near, fit, search, chosen)
    sure, free = np.array([t.sure for t in before.ties]), before.free.copy()
    sure[span], free[first_piece:end_piece] = sums.sure, sums.free
    claims[span] = np.where(chosen >= 0, numbers[chosen], -1)
    found = _lineup(calls, road, _Aligned(claims, before.eased_distances, Marginals(sure, free), before.cost), among=span)
    return replace(found, turned=_with_turned_elsewhere(found.turned, before.turned, {n.index for n in calls.notes[span]}))


def _with_turned_elsewhere(found: Sequence[Turned], before: Sequence[Turned], looked_at: set[int]) -> tuple[Turned, ...]:
    """The turned pairs among the notes that were looked at again, with those that were known elsewhere."""
    elsewhere = [t for t in before if not {t.note, t.next_note} & looked_at]
    return tuple(sorted((*found, *elsewhere), key=lambda t: t.note))


def _held_at(calls: CalledNotes, before: Lineup, ends: tuple[int | None, int | None]) -> CalledNotes:
    """The notes, the ends held where an earlier line-up has them unless a hand has placed them."""
    held = calls.pinned_m.copy()
    for end in ends:
        if end is None:
            continue
        bend = before.ties[end].bend
        if bend is not None and np.isnan(held[end]):
            held[end] = bend.apex_m
    return replace(calls, pinned_m=held)


# How far about a note that was moved by hand its neighbours are looked at again.
NEIGHBOURS = 12
SURE_ENOUGH = 0.9


def _sure_before(before: Lineup, place: int) -> int | None:
    """The nearest surely paired corner at least :data:`NEIGHBOURS` before one, or ``None``: from the start."""
    return next((i for i in range(place - NEIGHBOURS, -1, -1) if _surely_on_a_bend(before.ties[i])), None)


def _sure_behind(before: Lineup, place: int) -> int | None:
    ties = before.ties
    return next((i for i in range(place + NEIGHBOURS, len(ties)) if _surely_on_a_bend(ties[i])), None)


def _surely_on_a_bend(tie: Pairing) -> bool:
    """Whether a note holds its neighbours' place on the road: one that surely has no bend is nowhere on it."""
    return tie.bend is not None and tie.sure > SURE_ENOUGH


# A rank correlation beyond this many standard deviations tells the sense of the grades; otherwise one sense has to be likelier by these
# nats.
CLEARLY_RANKED, CLEARLY_LIKELIER_NATS = 3.0, 30.0
LEAST_NUMBERED = 12
# No correlation is taken for closer than this; and how sure a sense is that the road shows.
MOST_CORRELATED, SHOWN_SURE = 0.99, 0.99


def sense_from_road(notes: tuple[Note, ...], school: GradingScheme, road: Road) -> GradingScheme:
    """The school with the sense that the road shows: notes are lined up without their grades, then ranked by radius.

    A crew whose higher numbers fall on wider bends counts upwards. Where the ranks do not say so clearly, the notes are lined up
    under both senses on plain yardsticks, and the clearly likelier one is taken; else the school stays as it was.
    """
    calls = calls_of(notes, school)
    plain = plain_yardstick(school)
    search = Search(PLAIN_GAPS, first_windows(calls, road, PLAIN_GAPS))
    blind = replace(calls, position=np.full(len(calls.notes), np.nan))
    chosen, _ = align(road, fit_of(blind, road, plain), search)
    numbered = [(int(n.grade[0]), run) for n, run in zip(calls.notes, chosen, strict=True) if n.grade and n.grade[0].isdigit()]
    pairs = np.array([(number, road.runs.radius_m[run]) for number, run in numbered if run >= 0])
    if len(pairs) < LEAST_NUMBERED:
        return school
    # Fisher's z of the rank correlation, in standard deviations.
    upward = float(np.arctanh(np.clip(rank_correlation(*pairs.T), -MOST_CORRELATED, MOST_CORRELATED)) * np.sqrt(len(pairs) - 3))
    if abs(upward) < CLEARLY_RANKED:
        senses = [calls_of(notes, replace(school, sense=sense)) for sense in ("ascending", "descending")]
        up, down = (align(road, fit_of(seen, road, plain), search)[1].whole for seen in senses)
        upward = down - up
        if abs(upward) < CLEARLY_LIKELIER_NATS:
            return school
    return replace(school, sense="ascending" if upward > 0 else "descending", sense_sure=SHOWN_SURE)


def _windows_before(calls: CalledNotes, road: Road, before: Lineup) -> Windows:
    """Windows about where an earlier line-up put the notes, and the calls where it put none."""
    place = np.array([t.bend.from_m if t.bend is not None else np.nan for t in before.ties])
    place = np.where(np.isfinite(place), place, calls.heard_m)
    known = np.flatnonzero(np.isfinite(place))
    if not len(known):
        return first_windows(calls, road, before.eased_distances)
    place = np.interp(np.arange(len(place)), known, place[known])
    return windows_about(led_by_pins(calls, place), road.pieces, WINDOW_M)


@dataclass(frozen=True)
class _Aligned:
    """An alignment: the run of each corner note, -1 for none, (notes,), the distances that it was found by, how sure it is of each part,
    and its cost, nats."""

    chosen: NDArray[np.intp]
    distances: GapYardstick
    sums: Marginals
    cost: float


def _lineup(calls: CalledNotes, road: Road, aligned: _Aligned, *, among: slice = EVERYWHERE) -> Lineup:
    """What an alignment comes to: bends grown to where they end, yardsticks, gaps, what no note claims, and the turned pairs ``among`` some
    notes."""
    chosen, sums = aligned.chosen, aligned.sums
    paired, (stretches, alone), met = met_of(calls, road, chosen, aligned.distances)
    at, eased = follows(paired), fitted_eased_distances(calls, road, chosen)
    arcs = road.known.arcs(met.side, stretches)
    bends = road.known.bends(stretches, met, arcs)
    grades = fitted_grades(calls, paired, met)
    claims = [Claimed(int(i), b, float(p)) for i, b, p in zip(paired, bends, grades.position(met), strict=True)]
    uncalled = _uncalled(calls, road, aligned, alone, (grades, eased), claims)
    # What is most likely a part of a noted corner belongs to it: the corner is measured whole.
    owners = [_owner(left, claims, calls) for left in uncalled]
    owned = [(owner, stretch) for owner, stretch in zip(owners, alone, strict=True) if owner is not None]
    if owned:
        stretches = _with_parts(road, stretches, owned)
        met = measure(road.profile, stretches.first, stretches.last, samples=EVERY_METRE)
        arcs = road.known.arcs(met.side, stretches)
        bends = road.known.bends(stretches, met, arcs)
        grades = fitted_grades(calls, paired, met)
        uncalled = tuple(left for left, owner in zip(uncalled, owners, strict=True) if owner is None)
    gap_m = gaps_before(road.profile, met.side, stretches, arcs)
    distances = fitted_distances(calls, paired[at], gap_m[at])
    parts = Counter(owner for owner, _ in owned)
    ties = [Pairing(note.index, None, float(sure), None) for note, sure in zip(calls.notes, sums.sure, strict=True)]
    for k, (i, position) in enumerate(zip(paired, grades.position(met), strict=True)):
        ties[i] = replace(ties[i], bend=bends[k], position=float(position), parts=parts[k])
    lineup = Lineup(
        ties=tuple(ties),
        gaps=_gaps_met(calls, paired[at], gap_m[at], sums.sure),
        uncalled=uncalled,
        grades=grades,
        distances=distances,
        eased_distances=eased,
        claims=tuple(int(run) for run in chosen),
        free=sums.free,
        cost=aligned.cost,
    )
    return replace(lineup, turned=turned_pairs(calls, road, lineup, among))


def _gaps_met(calls: CalledNotes, behind: NDArray[np.intp], gap_m: Floats, sure: Floats) -> tuple[GapMet, ...]:
    """The distance before each of the notes ``behind``, as called and as met, (m,)."""
    gaps = []
    for i, metres in zip(behind, gap_m, strict=True):
        called, word = calls.gap_m[i], str(calls.gap_word[i])
        gaps.append(
            GapMet(
                note=calls.notes[i - 1].index,
                next_note=calls.notes[i].index,
                called_m=float(called) if np.isfinite(called) else None,
                word=word or None,
                met_m=float(metres) if np.isfinite(metres) else None,
                usable=bool(np.isfinite(metres) and min(sure[i], sure[i - 1]) > MEASURES_A_GAP),
            )
        )
    return tuple(gaps)


# Pairs surer than this measure the distance between them.
MEASURES_A_GAP = 0.8
# What is likelier than this to be a part of a noted corner is taken into it.
A_PART = 0.9


def _owner(left: Uncalled, claims: Sequence[Claimed], calls: CalledNotes) -> int | None:
    """Which of the paired notes a left-over bend is a part of, by its place among them; ``None`` where it is of none.

    What a hand has put on a bend has that bend and no more.
    """
    behind = sum(c.bend.apex_m < left.bend.apex_m for c in claims)
    owner = behind - 1 if left.whose.before > A_PART else behind if left.whose.behind > A_PART else None
    return None if owner is None or np.isfinite(calls.pinned_m[claims[owner].corner]) else owner


def _with_parts(road: Road, stretches: Stretches, parts: Sequence[tuple[int, tuple[int, int]]]) -> Stretches:
    """The stretches drawn out over the pieces that are parts of them."""
    first, last = stretches.first.copy(), stretches.last.copy()
    for owner, (i, j) in parts:
        first[owner] = min(first[owner], road.pieces.first[i])
        last[owner] = max(last[owner], road.pieces.last[j])
    return Stretches(first, last, np.minimum(stretches.room_first, first), np.maximum(stretches.room_last, last))


def _uncalled(
    calls: CalledNotes,
    road: Road,
    aligned: _Aligned,
    alone: Alone,
    yardsticks: tuple[GradeYardstick, GapYardstick],
    paired: Sequence[Claimed],
) -> tuple[Uncalled, ...]:
    """The bends beside the claimed ones, and whose they are."""
    pieces, profile, run = road.pieces, road.profile, aligned.chosen[aligned.chosen >= 0]
    taken = claimed(pieces, road.a[run], road.b[run])
    left: list[tuple[Bend, float]] = []
    for i, j in alone:
        first, last = int(pieces.first[i]), int(pieces.last[j])
        position = yardsticks[0].position(measure(profile, np.array([first]), np.array([last])))
        left.append((bend_between(profile, first, last), float(position[0])))
    evidence = evidence_of(left, paired, calls, profile, yardsticks[1])
    out: list[Uncalled] = []
    for (bend, place), (i, j), seen in zip(left, alone, evidence, strict=True):
        # What the claimed run holds besides its apex is left over by what was made of it, not by the alignment.
        joined = bool(taken[i : j + 1].all())
        turned = np.abs(pieces.turn_rad[i : j + 1])
        free_of_notes = 1.0 if joined else float(np.average(aligned.sums.free[i : j + 1], weights=turned))
        out.append(Uncalled(bend, place, joined, weighed(seen), free_of_notes))
    return tuple(out)
