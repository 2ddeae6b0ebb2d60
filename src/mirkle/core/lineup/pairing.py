"""Which note belongs to which stretch of road.

Each corner note claims a run of neighbouring pieces of the road, in order, or none; pieces that no note claims stay
over (see :mod:`mirkle.core.lineup.alignment`). The yardsticks are fitted from the best alignment and it is found again.
A place that was pinned by hand holds, and the rest follows.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from mirkle.core.lineup.alignment import Windows, align, fit_of, windows_about
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
from mirkle.core.lineup.road import Road, claimed
from mirkle.core.lineup.turned import EVERYWHERE, Turned, turned_pairs
from mirkle.core.lineup.unclaimed import Claimed, UnclaimedOdds, evidence_of, weighed
from mirkle.core.motion.bends import Bend, Stretches, bend_between, gaps_before
from mirkle.core.motion.spans import EVERY_METRE, measure
from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.model import Note
from mirkle.core.recording.model import Floats
from mirkle.core.stats import rank_correlation


@dataclass(frozen=True)
class Pairing:
    """A corner note and the bend it was paired with, or ``None``; ``sure`` is the probability that it is that one, or none.

    ``parts`` counts the bends beside it that were taken in as parts of it.
    """

    note: int
    bend: Bend | None
    sure: float
    position: float | None
    parts: int = 0


@dataclass(frozen=True)
class GapMet:
    """The distance after a note, as called (with the notes of features between) and as met.

    ``called_m`` is ``None`` for a link word or where nothing was called; ``met_m`` is measured between the paired
    bends, whose extents come from curvature alone, never from the note; it is ``None`` where the line led from one
    bend into the next of the same side without straightening, so that nothing shows where the road did.
    """

    note: int
    next_note: int
    called_m: float | None
    word: str | None
    met_m: float | None
    usable: bool


@dataclass(frozen=True)
class Uncalled:
    """A bend that no note answers for, and where it lies on the crew's scale.

    ``joined`` where a note reached over it together with another: it may be a part of that note's bend to the crew. ``whose``
    says how likely it is a corner that nobody called, and what else it may be, if no note claims it; ``free`` is how likely that is.
    """

    bend: Bend
    position: float
    joined: bool
    whose: UnclaimedOdds
    free: float = 1.0

    @property
    def missing(self) -> float:
        """The probability that it is a corner that nobody called."""
        return self.free * self.whose.missing


@dataclass(frozen=True)
class Lineup:
    """Notes on the road. ``uncalled`` are bends that no note answers for.

    ``distances`` are the crew's metres between arcs; ``eased_distances`` the same between eased ends, which is how an
    alignment sees them; ``claims`` is the run that each corner note took, -1 for none; ``free`` for each piece of road how likely it
    is that no note claims it, (pieces,); ``cost`` is that of the whole alignment, in nats. ``turned`` are pairs that fit the other way
    round.
    """

    ties: tuple[Pairing, ...]
    gaps: tuple[GapMet, ...]
    uncalled: tuple[Uncalled, ...]
    grades: GradeYardstick
    distances: GapYardstick
    eased_distances: GapYardstick
    claims: tuple[int, ...]
    free: Floats
    cost: float
    turned: tuple[Turned, ...] = ()

    @cached_property
    def tie_of(self) -> dict[int, Pairing]:
        """The tie of each corner note, by the note's number in the book."""
        return {t.note: t for t in self.ties}

    @property
    def paired(self) -> int:
        """How many corner notes have a bend."""
        return sum(t.bend is not None for t in self.ties)

    def bends_of(self, notes: Iterable[int]) -> list[Bend]:
        """The bends of those of some notes that have one, in their order."""
        return [bend for note in notes if (bend := self.bend_of(note)) is not None]

    def bend_of(self, note: int) -> Bend | None:
        """The bend that answers a note, if it is a corner's and has one."""
        tie = self.tie_of.get(note)
        return tie.bend if tie is not None else None


@dataclass(frozen=True)
class CallPlaces:
    """Where the calls put each corner note: metres from the start line and their spread, nan where unsaid; (corners,)."""

    place_m: Floats
    sigma_m: Floats


def line_up(
    notes: tuple[Note, ...],
    school: GradingScheme,
    road: Road,
    *,
    heard: CallPlaces | None = None,
    pins: Sequence[Pin] = (),
    before: Lineup | None = None,
    anywhere: bool = False,
    progress: Callable[[float], None] = lambda _: None,
) -> Lineup:
    """Pairs the corner notes with the road, fits the crew's yardsticks, and measures the gaps.

    Parameters
    ----------
    road : from the start line to somewhere past the finish
    heard : where the calls put the notes, once the clocks are tied
    pins : what was put in its place by hand
    before : a line-up to begin from, so that fewer rounds are needed
    anywhere : whether the notes may be of a part of the road only
    progress : is told the share done, 0 to 1; it may raise to cancel
    """
    calls = _heard_too(calls_of(notes, school, pins), heard)
    plain = plain_yardstick(school)
    if anywhere:
        begin = plain, PLAIN_GAPS, anywhere_windows(calls, road)
    elif before is None:
        begin = plain, PLAIN_GAPS, first_windows(calls, road, PLAIN_GAPS)
    else:
        begin = before.grades, before.eased_distances, _windows_before(calls, road, before)
    rounds = ROUNDS if anywhere or before is None else 1
    found = settled(calls, road, *begin, plain, rounds=rounds, free_ends=anywhere, progress=progress)
    sums = marginals(calls, road, found.fit, found.distances, found.windows, found.chosen, free_ends=anywhere)
    return _lineup(calls, road, found.chosen, found.distances, sums, plain, school.top, found.table.whole)


def pin_down(
    notes: tuple[Note, ...],
    school: GradingScheme,
    road: Road,
    before: Lineup,
    moved: Pin,
    *,
    heard: CallPlaces | None = None,
    pins: Sequence[Pin] = (),
) -> Lineup:
    """The line-up with one note moved by hand: only what lies about it is aligned again, with the yardsticks as they are.

    ``pins`` hold all pins, ``moved`` among them; ``before`` is the line-up without it.
    """
    calls = _heard_too(calls_of(notes, school, pins), heard)
    place = next(i for i, n in enumerate(calls.notes) if n.index == moved.note)
    first, last = _sure_before(before, place), _sure_behind(before, place)
    claims = np.array(before.claims, dtype=np.intp)
    end_piece = int(road.b[claims[last]]) + 1 if last is not None else len(road.pieces)
    first_piece = int(road.a[claims[first]]) if first is not None else 0
    near, numbers = road.part(first_piece, end_piece)
    if moved.at_m is not None and not near.pieces.from_m[0] <= moved.at_m <= near.pieces.to_m[-1]:
        return line_up(notes, school, road, heard=heard, pins=pins, before=before)
    span = slice(first or 0, (last if last is not None else len(calls.notes) - 1) + 1)
    some = _held_at(calls, before, [end for end in (first, last) if end is not None]).between(span.start, span.stop)
    fit = fit_of(some, near, before.grades)
    windows = [(0, len(near.pieces))] * len(some.notes)
    chosen, _ = align(some, near, fit, before.eased_distances, windows)
    sums = marginals(some, near, fit, before.eased_distances, windows, chosen)
    sure, free = np.array([t.sure for t in before.ties]), before.free.copy()
    sure[span], free[first_piece:end_piece] = sums.sure, sums.free
    claims[span] = np.where(chosen >= 0, numbers[chosen], -1)
    both = Marginals(sure, free)
    plain = plain_yardstick(school)
    found = _lineup(calls, road, claims, before.eased_distances, both, plain, school.top, before.cost, among=span)
    inside = {n.index for n in calls.notes[span]}
    elsewhere = tuple(t for t in before.turned if not {t.note, t.next_note} & inside)
    return replace(found, turned=tuple(sorted((*found.turned, *elsewhere), key=lambda t: t.note)))


def _held_at(calls: CalledNotes, before: Lineup, ends: Sequence[int]) -> CalledNotes:
    """The notes, of which some are held where an earlier line-up has them unless a hand has placed them."""
    held = calls.pinned_m.copy()
    for end in ends:
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


def _heard_too(calls: CalledNotes, heard: CallPlaces | None) -> CalledNotes:
    return calls if heard is None else replace(calls, heard_m=heard.place_m, heard_sigma_m=heard.sigma_m)


# A rank correlation so many of its standard deviations off nought tells the sense; else one sense has to be likelier by so many nats.
CLEARLY_RANKED, CLEARLY_LIKELIER_NATS = 3.0, 30.0
LEAST_NUMBERED = 12


def sense_from_road(notes: tuple[Note, ...], school: GradingScheme, road: Road) -> GradingScheme:
    """The school with the sense that the road shows: notes are lined up without their grades, then ranked by radius.

    A crew whose higher numbers fall on wider bends counts upwards. Where the ranks do not say so clearly, the notes are lined up
    under both senses on plain yardsticks, and the clearly likelier one is taken; else the school stays as it was.
    """
    calls = calls_of(notes, school)
    plain = plain_yardstick(school)
    windows = first_windows(calls, road, PLAIN_GAPS)
    blind = replace(calls, position=np.full(len(calls.notes), np.nan))
    chosen, _ = align(blind, road, fit_of(blind, road, plain), PLAIN_GAPS, windows)
    numbered = [(i, int(n.grade[0])) for i, n in enumerate(calls.notes) if n.grade and n.grade[0].isdigit()]
    pairs = np.array([(number, road.runs.radius_m[chosen[i]]) for i, number in numbered if chosen[i] >= 0])
    if len(pairs) < LEAST_NUMBERED:
        return school
    # Fisher's z of the rank correlation, in standard deviations.
    z = float(np.arctanh(np.clip(rank_correlation(*pairs.T), -0.99, 0.99)) * np.sqrt(len(pairs) - 3))
    if abs(z) < CLEARLY_RANKED:
        costs = []
        for sense in ("ascending", "descending"):
            seen = calls_of(notes, replace(school, sense=sense))
            costs.append(align(seen, road, fit_of(seen, road, plain), PLAIN_GAPS, windows)[1].whole)
        z = costs[1] - costs[0]
        if abs(z) < CLEARLY_LIKELIER_NATS:
            return school
    return replace(school, sense="ascending" if z > 0 else "descending", sense_sure=0.99)


def _windows_before(calls: CalledNotes, road: Road, before: Lineup) -> Windows:
    """Windows about where an earlier line-up put the notes, and the calls where it put none."""
    place = np.array([t.bend.from_m if t.bend is not None else np.nan for t in before.ties])
    place = np.where(np.isfinite(place), place, calls.heard_m)
    known = np.flatnonzero(np.isfinite(place))
    if not len(known):
        return first_windows(calls, road, before.eased_distances)
    place = np.interp(np.arange(len(place)), known, place[known])
    return windows_about(led_by_pins(calls, place), road.pieces, WINDOW_M)


def _lineup(
    calls: CalledNotes,
    road: Road,
    chosen: NDArray[np.intp],
    spaced: GapYardstick,
    sums: Marginals,
    plain: GradeYardstick,
    top: int,
    cost: float,
    *,
    among: slice = EVERYWHERE,
) -> Lineup:
    paired, (stretches, alone), met = met_of(calls, road, chosen, spaced)
    at, eased = follows(paired), fitted_eased_distances(calls, road, chosen)
    arcs = road.known.arcs(met.side, stretches)
    bends = road.known.bends(stretches, met, arcs)
    grades = fitted_grades(calls, paired, met, plain)
    claims = [Claimed(int(i), b, float(p)) for i, b, p in zip(paired, bends, grades.position(met), strict=True)]
    uncalled = _uncalled(calls, road, chosen[paired], alone, (grades, eased), claims, top, sums.free)
    # What is most likely a part of a noted corner belongs to it: the corner is measured whole.
    taken = {k: _owner(left, claims, calls) for k, left in enumerate(uncalled)}
    if any(owner is not None for owner in taken.values()):
        stretches = _with_parts(road, stretches, [(owner, alone[k]) for k, owner in taken.items() if owner is not None])
        met = measure(road.profile, stretches.first, stretches.last, samples=EVERY_METRE)
        arcs = road.known.arcs(met.side, stretches)
        bends = road.known.bends(stretches, met, arcs)
        grades = fitted_grades(calls, paired, met, plain)
        uncalled = tuple(left for k, left in enumerate(uncalled) if taken[k] is None)
    gap_m = gaps_before(road.profile, met.side, stretches, arcs)
    distances = fitted_distances(calls, paired[at], gap_m[at])
    position = grades.position(met)
    place = {int(note): k for k, note in enumerate(paired)}
    on_scale = np.full(len(calls.notes), np.nan)
    on_scale[paired] = position
    ties = []
    for i, note in enumerate(calls.notes):
        k = place.get(i)
        if k is None:
            ties.append(Pairing(note.index, None, float(sums.sure[i]), None))
            continue
        parts = sum(owner == k for owner in taken.values())
        ties.append(Pairing(note.index, bends[k], float(sums.sure[i]), float(position[k]), parts))
    missing_m = [left.bend.apex_m for left in uncalled if left.missing > SEEMS_MISSING]
    return Lineup(
        ties=tuple(ties),
        gaps=_gaps_met(calls, paired[at], gap_m[at], sums.sure),
        uncalled=uncalled,
        grades=grades,
        distances=distances,
        eased_distances=eased,
        claims=tuple(int(run) for run in chosen),
        free=sums.free,
        cost=cost,
        turned=turned_pairs(calls, road, grades, eased, chosen, sums.sure, on_scale, missing_m, among),
    )


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
                usable=bool(np.isfinite(metres) and sure[i] > 0.8 and sure[i - 1] > 0.8),
            )
        )
    return tuple(gaps)


# So likely missing, a bend makes one look whether the notes beside it are turned.
SEEMS_MISSING = 0.3
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
    run: NDArray[np.intp],
    alone: Alone,
    yardsticks: tuple[GradeYardstick, GapYardstick],
    paired: Sequence[Claimed],
    top: int,
    free: Floats,
) -> tuple[Uncalled, ...]:
    """The bends beside the claimed ones, and whose they are."""
    pieces, profile = road.pieces, road.profile
    taken = claimed(pieces, road.a[run], road.b[run])
    left: list[tuple[Bend, float]] = []
    for i, j in alone:
        first, last = int(pieces.first[i]), int(pieces.last[j])
        position = yardsticks[0].position(measure(profile, np.array([first]), np.array([last])))
        left.append((bend_between(profile, first, last), float(position[0])))
    evidence = evidence_of(left, paired, calls, profile, yardsticks[1], float(top))
    out: list[Uncalled] = []
    for (bend, place), (i, j), seen in zip(left, alone, evidence, strict=True):
        # What the claimed run holds besides its apex is left over by what was made of it, not by the alignment.
        joined = bool(taken[i : j + 1].all())
        turned = np.abs(pieces.turn_rad[i : j + 1])
        free_of_notes = 1.0 if joined else float(np.average(free[i : j + 1], weights=turned))
        out.append(Uncalled(bend, place, joined, weighed(seen), free_of_notes))
    return tuple(out)
