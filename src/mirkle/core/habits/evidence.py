"""What one reviewed pass shows of its crew: a row for each pair of a note and its bend, and what was said of the whole pass."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from mirkle.core.habits.misheard import Misheard
from mirkle.core.lineup.called_notes import calls_of
from mirkle.core.lineup.scale_prior import paired_rows
from mirkle.core.notes.grading import SENSE_KNOWN
from mirkle.core.notes.model import Note
from mirkle.core.recording.model import Floats
from mirkle.core.review import Review

# A corner is behind a crest where one lies so near before it, and linked where the bend before ends so near (m).
CREST_BEFORE_M, LINKED_M = 60.0, 25.0
# The columns of a row: those of the scale, and what a habit may go by.
SCALE_COLUMNS = 6
LATE, CREST, LINKED, TIGHTENS, LONG, DENSE = range(SCALE_COLUMNS, SCALE_COLUMNS + 6)
COLUMNS = SCALE_COLUMNS + 6
# A note of as many words as this has many.
MANY_WORDS = 7
# Lengths that are asked for their metres, of pairs that are as sure as this.
MEASURED_LENGTHS, SURELY_PAIRED = ("short", "long", "very long", "extra long"), 0.9


@dataclass(frozen=True)
class PassEvidence:
    """A pass of a ``stage``, both by their identities, on a ``day`` (days from 1 January 2000), with the edition of the ``book`` by its
    hash.

    ``rows`` (m, 12) are the columns of :func:`mirkle.core.lineup.scale_prior.columns_of`; where on the stage the corner is (−0.5 to 0.5);
    whether it is behind a crest, linked to the bend before, called to tighten, called long, or called with many words, each 0 or 1.
    ``called`` (m,) are the positions called, ``trust`` (m,) how sure each pair is, ``lead_s`` (m,) how long before its corner each was
    called, nan where it is not known; ``notes`` the numbers of the notes. ``odometer`` is metres met for a metre called, 0 where too few
    distances tell; ``usual_lead_s`` 0 where too few calls were heard; ``descending`` where
    1 is nearly flat out. ``conditions`` are those of the pass (:attr:`mirkle.core.notebook.passes.Pass.conditions`); ``meant`` are link
    words and lengths, by their terms, with the metres that were met; ``misheard`` is what a recogniser made of what was called.
    """

    stage: str
    pass_id: str
    day: float
    book: str
    top: int
    notes: tuple[int, ...]
    rows: Floats
    called: Floats
    trust: Floats
    lead_s: Floats
    odometer: float = 0.0
    usual_lead_s: float = 0.0
    descending: bool = False
    conditions: frozenset[str] = frozenset()
    meant: tuple[tuple[str, float], ...] = ()
    misheard: tuple[Misheard, ...] = ()


def shows_its_crew(review: Review) -> bool:
    """Whether a review can be taken as evidence of its crew: the notes are of this road, and it is known which way their numbers count."""
    return review.fit.belongs and review.school.sense_sure >= SENSE_KNOWN


def evidence_of(
    review: Review, *, stage: str, pass_id: str, day: float, book: str, conditions: frozenset[str] = frozenset()
) -> PassEvidence:
    """What a review shows of its crew; ``conditions`` are those of its pass."""
    pairs = paired_rows(review.lineup, calls_of(review.notes, review.school))
    crests = _crests(review)
    ends = [bend.to_m for bend in review.lineup.bends_of(t.note for t in review.lineup.ties)]
    rows = np.zeros((len(pairs.notes), COLUMNS))
    rows[:, :SCALE_COLUMNS] = pairs.x
    for row, number in zip(rows, pairs.notes, strict=True):
        bend = review.lineup.bend_of(number)
        assert bend is not None, "a pair has a bend"
        row[LATE] = bend.from_m / max(review.finish_m, 1.0) - 0.5
        row[CREST] = _is_behind(bend.from_m, crests, CREST_BEFORE_M)
        row[LINKED] = _is_behind(bend.from_m, ends, LINKED_M)
        row[[TIGHTENS, LONG, DENSE]] = _called(review.notes[number])
    leads = np.array([_lead(review, number) for number in pairs.notes])
    distances = review.lineup.distances
    shown = (rows, pairs.called, pairs.trust, leads)
    odometer = distances.factor if distances.factor != 1.0 else 0.0
    lead_s = review.usual_lead.seconds if review.usual_lead.spread_s is not None else 0.0
    school = review.school
    told = PassEvidence(stage, pass_id, day, book, school.top, pairs.notes, *shown, odometer, usual_lead_s=lead_s)
    return replace(told, descending=school.sense == "descending", conditions=conditions, meant=tuple(_meant(review)))


def _meant(review: Review) -> Iterator[tuple[str, float]]:
    """The link words and lengths that were called, by their terms, with the metres that were met; only of surely paired notes."""
    for gap in review.lineup.gaps:
        if gap.word is not None and gap.met_m is not None and gap.usable:
            yield gap.word, max(gap.met_m, 0.0)
    for tie in review.lineup.ties:
        length = review.notes[tie.note].length
        if tie.bend is not None and tie.sure >= SURELY_PAIRED and length in MEASURED_LENGTHS:
            yield length, tie.bend.length_m


def _crests(review: Review) -> list[float]:
    """Where the car met a crest or a jump, metres from the start."""
    return [f.at_m for f in review.measured.vertical or () if f.kind in ("crest", "jump")]


def _is_behind(from_m: float, places: Sequence[float], within_m: float) -> bool:
    return any(0.0 <= from_m - place <= within_m for place in places)


def _called(note: Note) -> tuple[bool, bool, bool]:
    """Whether a note is called to tighten, called long, and called with many words."""
    tightens = any(change.tightens for change in note.changes)
    return tightens, note.length in ("long", "very long", "extra long"), len(note.text.split()) >= MANY_WORDS


def _lead(review: Review, note: int) -> float:
    lead = review.calls[note].lead_s if note < len(review.calls) else None
    return float(lead) if lead is not None else np.nan
