"""A line-up: which note was paired with which bend, what lies between them, and what no note answers for."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property

from mirkle.core.lineup.crew_scale import GapYardstick, GradeYardstick
from mirkle.core.lineup.unclaimed import UnclaimedOdds
from mirkle.core.motion.bends import Bend
from mirkle.core.recording.model import Floats


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
class Turned:
    """A pair of corner notes, by the number of the first in the book, what their exchange gains, and from where to where the bends lie (m)
    that then answer the second and the first."""

    note: int
    next_note: int
    nats: float
    ahead: tuple[float, float]
    behind: tuple[float, float]


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
