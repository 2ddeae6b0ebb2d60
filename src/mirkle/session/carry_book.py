"""A book of another crew, to be filled in on the scale of this one."""

from __future__ import annotations

from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.core.habits.carry_over import book_to_check, carried_over
from mirkle.core.habits.pooled import pooled
from mirkle.core.notes.grading import GradingScheme
from mirkle.files.crew_record import CrewRecord
from mirkle.files.detect import read_bytes
from mirkle.files.notes.text import parse_notes
from mirkle.session.crew_records import today

LARGEST_BYTES = 5_000_000


def book_of(path: Path, theirs: CrewRecord, mine: CrewRecord) -> str:
    """The text of another crew's book with a blank for each grade, and behind it what that is about on this crew's scale.

    Raises
    ------
    MirkleError
        One of the crews has no reviewed pass, or the file is no book.
    """
    if not theirs.passes or not mine.passes:
        raise MirkleError("both crews have to have reviewed passes first", mend="review a stage of each with its profile chosen")
    reading = parse_notes(read_bytes(path, largest=LARGEST_BYTES, wanted="notes"), name=path.name)
    last, own = theirs.passes[-1], mine.passes[-1]
    school = GradingScheme("descending" if last.descending else "ascending", top=last.top)
    carried = carried_over(pooled(theirs.passes, today()).prior, pooled(mine.passes, today()).prior)
    return book_to_check(reading, school, carried, top=own.top, descending=own.descending)
