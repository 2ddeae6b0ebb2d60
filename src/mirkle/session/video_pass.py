"""A pass of which there is a book and a video, and no recording: nothing is measured, the crew looks.

What can be said without a road is said: from timed text what was left out, said otherwise or late in the order of the words, from any
calls where so many came in one breath that nobody could take them in.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from mirkle.core.errors import MirkleError
from mirkle.core.judging.findings import Finding
from mirkle.core.messages import Message, message
from mirkle.core.notebook.passes import Pass
from mirkle.core.notes.grading import GradingScheme, school_of
from mirkle.core.notes.model import Reading
from mirkle.core.speech.delivery import Spoken
from mirkle.core.speech.reading import CallTime
from mirkle.files.project.project import Project, SourceFile
from mirkle.session.crew_records import school_now
from mirkle.session.open_pass import OpenPass
from mirkle.session.paging import on_paper
from mirkle.session.parsed_files import crew_of, speech_of
from mirkle.session.playback_clock import has_video
from mirkle.session.reviewing import Measurements, book_in
from mirkle.session.said_against import LATE_WORDS

# Calls with less between them (s) are one breath; this many notes, or this long (s), are more than a driver keeps. # common practice
A_BREATH_S, NOTES_KEPT, LONG_BREATH_S = 0.35, 4, 7.0
# Nothing is said of breath where times are less certain than this.
CERTAIN_S = 0.4
# Less sure than this, nobody is told that he said something else.
SAID_SURE = 0.7


@dataclass(frozen=True)
class BookAlone:
    """A book of which no road is known."""

    reading: Reading
    school: GradingScheme
    findings: tuple[Finding, ...] = ()

    def place_m(self, _note: int) -> float:
        """Nobody knows where a note lies."""
        return -1.0

    def metres_at(self, _time_s: float) -> None:
        """Without a recording there are no metres."""

    def seconds_at(self, _metres: float) -> None:
        """Without a recording there is no clock."""


class VideoPass(OpenPass):
    """A pass with a book and a video. ``spoken`` is how each note was said, empty where nothing tells; its times are on the video's
    clock."""

    def __init__(
        self,
        project: Project,
        book: BookAlone,
        this_pass: Pass,
        crew: SourceFile | None,
        *,
        spoken: Sequence[Spoken] = (),
        measurements: Measurements | None = None,
    ) -> None:
        # As it was read, before it was laid on the pages of the paper book.
        self._read, self.spoken, self._calls = book.reading, tuple(spoken), project.material(this_pass.calls)
        on_pages = replace(book, reading=on_paper(project, book.reading))
        super().__init__(project, on_pages, this_pass, crew, measurements)

    @classmethod
    def of_project(cls, project: Project, made: Pass, measurements: Measurements | None = None) -> VideoPass:
        """Opens a pass that has a video and no recording.

        Raises
        ------
        MirkleError
            It has no book, or that or its words can't be read.
        """
        notes, calls, crew_file = project.material(made.notes), project.material(made.calls), project.newest("crew")
        if notes is None:
            raise MirkleError("the notes are still missing", mend="add the notes as text")
        crew = crew_of(crew_file)
        reading = book_in(notes, None, crew)
        spoken = speech_of(calls, crew, reading).spoken if calls else ()
        book = BookAlone(reading, school_of(reading.notes, sense=crew.sense, known=school_now()))
        return cls(project, book, made, crew_file, spoken=spoken, measurements=measurements)

    @property
    def calls(self) -> SourceFile | None:
        return self._calls

    @property
    def said(self) -> Sequence[CallTime]:
        return [CallTime(s.from_s, s.to_s, s.uncertainty_s) for s in self.spoken if math.isfinite(s.from_s)]

    def _laid_out(self) -> BookAlone:
        return BookAlone(on_paper(self.project, self._read), self.school)

    def remarks_on(self, note: int) -> list[Message]:
        """What can be said of a note without a road."""
        if not self.spoken:
            return []
        spoken = self.spoken[note]
        out = []
        if spoken.said_as == "not-said":
            out.append(message("It was not called."))
        elif spoken.said_as == "otherwise" and spoken.probability >= SAID_SURE:
            out.append(message("It was called differently: “{0}”.", spoken.words))
        if spoken.late_words >= LATE_WORDS:
            out.append(message("It was called late: {0} words of later notes came before it.", spoken.late_words))
        breath = next((b for b in in_one_breath(self.spoken) if note in b.notes), None)
        if breath is not None:
            words = message("{0} notes in one go, {1:.0f} s: too many words for that time.", len(breath.notes), breath.seconds)
            out.append(words)
        return out


@dataclass(frozen=True)
class Breath:
    """Notes that were said without a pause between them, and how long that took."""

    notes: range
    seconds: float


def in_one_breath(spoken: Sequence[Spoken]) -> list[Breath]:
    """The stretches in which more notes came without a pause than a driver can keep: :data:`NOTES_KEPT` and more, in
    :data:`LONG_BREATH_S` and more."""
    out, first = [], 0
    for note in range(1, len(spoken) + 1):
        if note < len(spoken) and _joined(spoken[note - 1], spoken[note]):
            continue
        seconds = spoken[note - 1].to_s - spoken[first].from_s
        if note - first >= NOTES_KEPT and seconds >= LONG_BREATH_S:
            out.append(Breath(range(first, note), seconds))
        first = note
    return out


def _joined(a: Spoken, b: Spoken) -> bool:
    known = a.was_said and b.was_said and max(a.uncertainty_s, b.uncertainty_s) <= CERTAIN_S
    return known and 0.0 <= b.from_s - a.to_s <= A_BREATH_S


def filmed_in(project: Project, wanted: int | None = None) -> Pass | None:
    """The pass of a number, else the first, if it has a book and a video and no recording."""
    alone = [p for p in project.passes() if p.run is None and p.notes is not None and has_video(project, p)]
    return next((p for p in alone if wanted is None or p.id == wanted), None)
