"""What a finding is, and what all judges look at."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import chain, pairwise
from math import isnan

import numpy as np
from numpy.typing import NDArray

from mirkle.core.constants import kmh
from mirkle.core.judging.finding_kinds import KINDS, Severity
from mirkle.core.judging.pace import Pace
from mirkle.core.judging.parameters import PARAMETERS, Parameters
from mirkle.core.judging.parts import Part, lies_in
from mirkle.core.judging.scale import Ruler, ruler_of
from mirkle.core.judging.slides import slides_of
from mirkle.core.lineup.call_clock import Clock
from mirkle.core.lineup.call_records import CallRecord, UsualLead
from mirkle.core.lineup.note_positions import NotePositions
from mirkle.core.lineup.remarks import HandRemark, Remark
from mirkle.core.lineup.result import Lineup, Pairing
from mirkle.core.messages import Message
from mirkle.core.motion.bends import Bend
from mirkle.core.motion.profile import Profile
from mirkle.core.motion.vertical import Feature
from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.model import Note
from mirkle.core.notes.rewording import NoteWriter, Rewording
from mirkle.core.stats import logistic

# How objects that wait for a car that runs wide end, as the readings name them, and what they weigh. # common practice
HAZARD_OUTSIDE, WARNED = 1.4, 0.8
# Words for the tightest corners have no edge: beyond this place on the scale nothing is tighter than another.
TIGHTEST = 0.6
# No crew grades better than this, in grades. # common practice
LEAST_SCATTER = 0.4


@dataclass(frozen=True)
class Proposal:
    """What to write: ``text`` stands instead of the notes ``first_note`` to ``last_note``.

    ``rewording`` is the same as a change to one note, so that it can be made to a note that was already changed;
    ``None`` where notes are put in or taken out.
    """

    first_note: int
    last_note: int
    text: str
    rewording: Rewording | None


@dataclass(frozen=True)
class Finding:
    """One thing worth a crew's minute. Places are metres from the start line; ``note`` is where the page shows it. ``cause`` heads it where
    it stands for more than its kind does.

    ``because`` says what was called and what was met, with the numbers that count and every doubt about them; ``background`` is what it
    rests on besides, for those who ask. ``called`` and ``met`` are words of the book, or messages like these sentences. The named numbers
    of them all are the finding's facts; ``figures`` are those that pictures and exports need and no sentence says:

    - ``radius_m``, ``first_radius_m``, ``second_radius_m``: the tightest driven of the bend and of its halves, or of a crest
    - ``grades_off``, ``scatter_grades``: how much wider than called, and how far notes of this crew lie from such a bend without a slip,
      as one standard deviation
    - ``from_m``, ``to_m``: where something was looked for; ``low_`` to ``high_``: what the crew usually means by what it called
    """

    id: str
    kind: str
    note: int
    from_m: float
    to_m: float
    called: str | Message | None
    met: str | Message | None
    severity: Severity
    confidence: float
    risk: float
    because: tuple[Message, ...]
    proposal: Proposal | None
    seconds: float | None = None
    figures: Mapping[str, float | None] = field(default_factory=dict, hash=False)
    cause: str = ""
    background: tuple[Message, ...] = ()

    def __post_init__(self) -> None:
        if self.kind not in KINDS:
            raise ValueError(f"{self.kind} is no kind of finding: it has no row in mirkle.core.judging.finding_kinds")

    @cached_property
    def facts(self) -> dict[str, float]:
        """Every number behind it, by its name: those of its sentences and its figures.

        Raises
        ------
        ValueError
            One name stands for two numbers.
        """
        said = (m for m in (self.called, self.met, *self.because, *self.background) if isinstance(m, Message))
        out: dict[str, float] = {name: value for name, value in self.figures.items() if value is not None}
        for name, value in chain.from_iterable(m.facts() for m in said):
            if out.setdefault(name, value) != value:
                raise ValueError(f"{name} of {self.id} is both {out[name]} and {value}")
        return out

    def __repr__(self) -> str:
        return f"<Finding {self.id}: {self.severity}, {self.confidence:.0%}, {self.from_m:.0f} to {self.to_m:.0f} m>"

    @property
    def title(self) -> str:
        """What heads it."""
        return self.cause or KINDS[self.kind].title

    @property
    def why(self) -> str:
        """Everything that is said of it, in English sentences."""
        return " ".join(map(str, (*self.because, *self.background)))


@dataclass(frozen=True)
class GradedCorner:
    """A note with a grade, the bend that it was paired with, and where both lie on the crew's scale: ``called`` and ``position``."""

    note: Note
    tie: Pairing
    bend: Bend
    position: float
    called: float

    @property
    def sure(self) -> float:
        """How sure the pair is."""
        return self.tie.sure

    @property
    def shift(self) -> float:
        """By how many grades the bend is more open than called; nothing is tighter than the tightest grades."""
        return max(self.position, TIGHTEST) - self.called


@dataclass(frozen=True)
class JudgingContext:
    """All that the judges look at; ``coarse`` is true where the recording blurs bends, so that most is a check.

    ``vertical`` is ``None`` where the recording can't show what is in the vertical; ``slides_deg`` are the notes in whose
    bend the car slid, with the degrees beyond its usual slip; ``parameters`` are what the judges weigh by; ``measure`` is what the crew's
    grades go by best. ``calls`` are how each note was called and when, ``clock`` ties that to the recording; ``usual_lead`` is how long
    before a corner this crew likes its call; ``parts`` do not count; ``remarks`` are what else was said, ``by_hand`` words of the
    crew that somebody put on a note, ``reported`` where the road was said to be slippery.
    """

    notes: tuple[Note, ...]
    lineup: Lineup
    school: GradingScheme
    profile: Profile
    hand: NoteWriter
    finish_m: float
    coarse: bool
    pace: Pace
    vertical: tuple[Feature, ...] | None
    shaken: NDArray[np.bool_] | None = None
    parameters: Parameters = PARAMETERS
    measure: str = "radius"
    calls: tuple[CallRecord, ...] = ()
    clock: Clock | None = None
    usual_lead: UsualLead | None = None
    parts: tuple[Part, ...] = ()
    remarks: tuple[Remark, ...] = ()
    by_hand: tuple[HandRemark, ...] = ()
    reported: tuple[Part, ...] = ()
    slides_deg: dict[int, float] = field(init=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "slides_deg", slides_of(self.lineup, self.profile))

    def hidden_by_shake(self, from_m: float, to_m: float) -> bool:
        """Whether shake hides crests and dips on a good part of a stretch."""
        if self.shaken is None:
            return False
        part = self.shaken[max(0, int(from_m)) : int(to_m) + 1]
        return bool(len(part)) and float(part.mean()) > 0.3

    def ruler(self, bend: Bend, position: float) -> Ruler:
        """The crew's grades along the measure that it goes by, for one bend."""
        return ruler_of(self.lineup.grades, bend, position, self.school, self.measure)

    def speed_kmh(self, at_m: float) -> float:
        """The car's speed at a place in this pass."""
        return kmh(self.speed_mps(at_m))

    def speed_mps(self, at_m: float) -> float:
        """The car's speed at a place in this pass, in metres a second."""
        return float(np.interp(at_m, self.profile.distance_m, self.profile.speed_mps))

    def called_position(self, note: Note) -> float | None:
        """Where the called grade lies; the words beyond the numbers have no edge, so they lie just beyond them."""
        position = self.school.tightest_position(note)
        return None if isnan(position) else min(max(position, TIGHTEST), self.school.top + 0.5)

    @cached_property
    def graded(self) -> dict[int, GradedCorner]:
        """The notes whose grade can be held against the bend that they were paired with, by their numbers, in the order of the book."""
        out = {}
        for tie in self.lineup.ties:
            note = self.notes[tie.note]
            called = self.called_position(note)
            if tie.bend is not None and tie.position is not None and called is not None:
                out[tie.note] = GradedCorner(note, tie, tie.bend, tie.position, called)
        return out

    def proposed(self, note: Note, rewording: Rewording) -> Proposal:
        """A note written otherwise in the crew's own hand."""
        return Proposal(note.index, note.index, self.hand.reworded(note, rewording), rewording)

    def overspeed(self, note: Note, tie: Pairing) -> float:
        """The speed with which a crew that believes the note arrives, over what the road allows at its usual grip."""
        called = self.called_position(note)
        if called is None or tie.bend is None:
            return 1.0
        carried = min(self.pace.believed_mps(called), self.pace.reachable_mps(self.profile, tie.bend))
        return carried / max(self.pace.allowed_mps(tie.bend), 1.0)

    def scatter_of(self, tie: Pairing) -> float:
        """The standard deviation of a corner's measured place on the scale against the called one, in grades.

        The crew's own scatter holds what bends are usually out by; where this one's curvature is known less well than most, its draws
        (:func:`mirkle.core.motion.bends._spreads`) widen it, and so does a slide or a road that was said to be slippery.
        """
        crew = max(self.lineup.grades.scatter, LEAST_SCATTER)
        if tie.bend is None:
            return crew
        beyond = max(0.0, self.lineup.grades.spread_of(tie.bend) ** 2 - self._usual_spread**2)
        return float(np.hypot(crew, np.sqrt(beyond))) * (self.parameters.slid_widens if self.lacked_grip(tie.note, tie.bend) else 1.0)

    def lacked_grip(self, note: int, bend: Bend) -> bool:
        """Whether the car slid in a note's bend, or the road was reported to be slippery there."""
        return note in self.slides_deg or self.was_slippery(bend)

    def was_slippery(self, bend: Bend) -> bool:
        """Whether those ahead reported for this pass that the road is slippery at a bend."""
        return lies_in(bend.apex_m, self.reported)

    @cached_property
    def _usual_spread(self) -> float:
        spreads = [self.lineup.grades.spread_of(b) for b in self.bends]
        return float(np.median(spreads)) if spreads else 0.0

    def bend_behind(self, bend: Bend) -> Bend | None:
        """The next called bend behind one."""
        at = bisect_right(self._begins, bend.to_m - 1.0)
        return self.bends[at] if at < len(self.bends) else None

    @cached_property
    def bends(self) -> list[Bend]:
        """The bends that notes were paired with, in the order of the road."""
        return sorted((t.bend for t in self.lineup.ties if t.bend is not None), key=lambda b: b.from_m)

    @cached_property
    def _begins(self) -> list[float]:
        return [b.from_m for b in self.bends]

    def hazard_weight(self, note: Note) -> float:
        """What a slip on a note costs besides speed: more with a hazard outside, less where the crew is warned anyway."""
        outside = any(thing.is_outside for thing in note.objects)
        return (HAZARD_OUTSIDE if outside else 1.0) * (WARNED if note.cautions else 1.0)

    @cached_property
    def positions(self) -> NotePositions:
        """Where each note lies."""
        return NotePositions(self.notes, self.lineup, self.finish_m)

    def called_metres(self, met_m: float) -> int:
        """What this crew would call for metres met, by its own odometer and numbers."""
        yardstick = self.lineup.distances
        return self.hand.nearest_distance((met_m - yardstick.offset_m) / yardstick.factor)

    def one_note_a_line(self) -> bool:
        """Whether this hand gives each note a line of its own."""
        return all(a.line != b.line or a.page != b.page for a, b in pairwise(self.notes))

    def with_gap(self, note: Note, metres: int) -> str:
        """A note's text with another distance behind it, or with one where it has none."""
        if note.gap_span is None:
            return f"{note.text} {metres}"
        return self.hand.reworded(note, Rewording(distance_m=metres))

    def in_lines(self, texts: Sequence[str]) -> str:
        """Notes as this hand puts them behind each other."""
        return ("\n" if self.one_note_a_line() else " ").join(texts)

    def propose_insertion(self, before: Note, new: Callable[[int | None], str], from_m: float, to_m: float) -> Proposal | None:
        """The page with a new note behind another: the distances on both sides of it are those that were met.

        ``new`` writes the new note with the distance that belongs to it in this hand.
        """
        here = self.lineup.bend_of(before.index)
        if here is None:
            return None
        after = next((t.bend for t in self.lineup.ties if t.bend is not None and t.bend.apex_m > to_m), None)
        ahead = self.called_metres(from_m - here.to_m)
        behind = self.called_metres(after.from_m - to_m) if after is not None else None
        if self.hand.reading.distance_first:
            return Proposal(before.index, before.index, f"{before.text}\n{new(ahead)}", None)
        return Proposal(before.index, before.index, self.in_lines((self.with_gap(before, ahead), new(behind))), None)

    def met_grade(self, position: float) -> str:
        """The crew's own name for a position on its scale."""
        if position > self.school.top + 0.7:
            return "flat"
        return self.school.grade_at(position)


# A note surer of its bend than this surely has that bend.
SURELY_PAIRED = 0.8
# Two findings about a place are the same within this distance (m).
SAME_PLACE_M = 20
# A danger is said from here on; what is less sure and as grave is a check.
DANGER_SURE = 0.6


def surely_off(shift: float, scatter: float, parameters: Parameters = PARAMETERS) -> float:
    """How sure it is that a corner lies clearly off the called one, 0 to 1: by three quarters of a grade it is as likely as not.

    The logistic of the distance over the spread that is left when a crew's own scatter is shared out between note and
    measurement; held against what is right on worlds not our own by the table in ``bench/accuracy.py``.
    """
    return logistic((abs(shift) - parameters.half_sure_shift) / (parameters.shared_scatter * scatter))
