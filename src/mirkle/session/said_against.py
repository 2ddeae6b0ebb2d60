"""What was said held against what is written, without a recording: what a crew can check in the car already."""

from __future__ import annotations

from dataclasses import dataclass

from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.speech.delivery import Spoken
from mirkle.files.project.project import SourceFile
from mirkle.session.parsed_files import reading_of, speech_of

# A note that was said behind this many words of later notes came late.
LATE_WORDS = 3


@dataclass(frozen=True)
class SaidRow:
    """One note with how it was said."""

    page: int
    line: int
    written: str
    spoken: Spoken

    @property
    def differs(self) -> bool:
        """Whether there is anything to look at."""
        return self.spoken.said_as not in ("written", "heard") or self.spoken.late_words >= LATE_WORDS


@dataclass(frozen=True)
class SaidAgainst:
    """Every note of the book in order."""

    rows: tuple[SaidRow, ...]

    def count(self, said_as: str) -> int:
        """How many notes were said so."""
        return sum(r.spoken.said_as == said_as for r in self.rows)

    @property
    def late(self) -> int:
        """How many came late in the order of the words."""
        return sum(r.spoken.late_words >= LATE_WORDS for r in self.rows)


def said_against(notes: SourceFile, calls: SourceFile, crew: CrewProfile) -> SaidAgainst:
    """The book and the words beside each other.

    Raises
    ------
    MirkleError
    """
    book = reading_of(notes, crew)
    speech = speech_of(calls, crew, book)
    return SaidAgainst(
        tuple(
            SaidRow(note.page, note.line, " ".join(note.text.split()), spoken)
            for note, spoken in zip(book.notes, speech.spoken, strict=True)
        )
    )
