"""What a crew sees of a note when it watches the video: what it can answer, and what would then be written.

An answer by eye is a finding of its own. It is kept apart from what was measured, and it measures nothing: how much tighter the road is
than it was called is for the crew to say, one grade unless it says otherwise.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from mirkle.core.notes.grading import GradingScheme, whole_grade
from mirkle.core.notes.model import Note
from mirkle.core.notes.rewording import NoteWriter, Rewording

Seen = Literal["as-called", "tighter", "opener", "longer", "shorter", "other-side", "missing", "hazard"]


@dataclass(frozen=True)
class SeenKind:
    """An answer: how it is called, and whether it lets the car go faster, which takes the word of both."""

    words: str
    faster: bool = False


SEEN: dict[Seen, SeenKind] = {
    "as-called": SeenKind("as it was called"),
    "tighter": SeenKind("tighter than it was called"),
    "opener": SeenKind("more open than it was called", faster=True),
    "longer": SeenKind("longer than it was called"),
    "shorter": SeenKind("shorter than it was called", faster=True),
    "other-side": SeenKind("it goes the other way"),
    "missing": SeenKind("a note is missing behind it"),
    "hazard": SeenKind("a hazard there"),
}
assert set(SEEN) == set(get_args(Seen))


def seen_words(seen: str) -> str:
    """How an answer is called; one that a later version gave by its own name."""
    return next((kind.words for name, kind in SEEN.items() if name == seen), seen)


# From no word of length to the longest; a crew goes along it by one.
LENGTHS = ("short", "", "long", "very long", "extra long")


def to_write(seen: Seen, note: Note, hand: NoteWriter, school: GradingScheme, steps: int = 1) -> str:
    """What would stand instead of a note, in the crew's own hand; empty where the crew has to say it itself.

    ``steps`` are grades for ``tighter`` and ``opener``, words of length for ``longer`` and ``shorter``.
    """
    rewording = _rewording(seen, note, hand, school, steps)
    return hand.reworded(note, rewording) if rewording is not None else ""


def _rewording(seen: Seen, note: Note, hand: NoteWriter, school: GradingScheme, steps: int) -> Rewording | None:
    if seen == "other-side" and note.direction is not None:
        return Rewording(direction=note.direction.other)
    if seen in ("tighter", "opener"):
        grade = _grade_beside(note, hand, school, -steps if seen == "tighter" else steps)
        return Rewording(grade=grade) if grade is not None else None
    if seen in ("longer", "shorter") and note.is_corner:
        length = _length_beside(note.length or "", steps if seen == "longer" else -steps)
        return Rewording(length=length) if length is not None else None
    return None


def _length_beside(length: str, steps: int) -> str | None:
    """The word of length some steps longer; ``None`` where there is none."""
    at = LENGTHS.index(length) + steps if length in LENGTHS else -1
    return LENGTHS[at] if 0 <= at < len(LENGTHS) else None


def _fits_change(note: Note, grade: str, school: GradingScheme) -> bool:
    """Whether a grade goes with what the note says it tightens or opens to: "3 tightens 3" is no note."""
    for change in note.changes:
        if (change.tightens or change.opens) and school.has(change.to):
            more_open = school.position(change.to) > school.position(grade)
            if more_open is not change.opens or change.to == grade:
                return False
    return True


def with_grade(note: Note, hand: NoteWriter, school: GradingScheme, grade: str) -> str:
    """The note with a grade that the crew names; empty where it is none of its numbers, or the note has none."""
    if note.grade is None or grade not in school.grades:
        return ""
    return hand.reworded(note, Rewording(grade=grade))


def _grade_beside(note: Note, hand: NoteWriter, school: GradingScheme, steps: int) -> str | None:
    """The grade some steps more open than a note's, of those that are numbers or that this crew writes; a half counts as its grade.
    ``None`` where there is none."""
    if note.grade is None:
        return None
    written = {n.grade for n in hand.reading.notes}
    ladder = [g for g in school.grades if g.isdigit() or g in school.words or g in written]
    grade = whole_grade(note.grade)
    if grade not in ladder:
        return None
    at = ladder.index(grade) + steps
    return ladder[at] if 0 <= at < len(ladder) and _fits_change(note, ladder[at], school) else None
