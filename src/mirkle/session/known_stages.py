"""The stage on the shelf that new files belong to: one whose road was driven before, that was due when a recording was made, or that has
the book which was written or read aloud."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta

from mirkle.core.joint.same_road import apart_m
from mirkle.core.notes.same_book import nearest_book, sketch_of
from mirkle.core.recording.model import Recording
from mirkle.files.project.project import SourceFile
from mirkle.session.parsed_files import crew_of, reading_of, recording_of, speech_of
from mirkle.session.rally import Rally
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.shelf import Shelved, shelf
from mirkle.session.stage_summary import course_of

# Two drives of one stage: start and finish may be set otherwise by some tens of metres, and receivers are out by some.
SAME_STAGE_M = 60.0


def driven_before(stage: ReviewedPass) -> Shelved | None:
    """Another stage on the shelf whose road this one is, the nearest; ``None`` where there is none."""
    course = course_of(stage)
    if not course:
        return None
    mine = stage.project.info("id")
    others = [(apart_m(course, one.course), one) for one in shelf() if one.course and one.identity != mine]
    near = min(others, key=lambda found: found[0], default=None)
    return near[1] if near is not None and near[0] < SAME_STAGE_M else None


# A recording holds the start of its stage: it begins at most so long before it, and a stage may start so late. # common practice
BEFORE, LATE = timedelta(minutes=30), timedelta(minutes=45)
# Times above this count from 1970, with the day; those of a clock alone are below.
WITH_A_DAY_S = 1e9


def moments_of(recording: Recording) -> tuple[datetime, datetime] | None:
    """When a recording begins and ends, in this computer's time; ``None`` where its times have no day."""
    begin = min(float(channel.time_s[0]) for channel in recording.channels.values() if len(channel.time_s))
    end = max(float(channel.time_s[-1]) for channel in recording.channels.values() if len(channel.time_s))
    if begin < WITH_A_DAY_S:
        return None
    return datetime.fromtimestamp(begin), datetime.fromtimestamp(end)


def due_then(rally: Rally, runs: Sequence[SourceFile]) -> Shelved | None:
    """The stage of a rally that was due while recordings were made; ``None`` where none was, or more than one, or it has no file."""
    on_shelf = shelf()
    due = {found.path: found for run in runs if (found := _due_at(rally, moments_of(recording_of(run)), on_shelf)) is not None}
    return next(iter(due.values())) if len(due) == 1 else None


def _due_at(rally: Rally, moments: tuple[datetime, datetime] | None, on_shelf: Sequence[Shelved]) -> Shelved | None:
    if moments is None:
        return None
    begin, end = moments
    starts = [(stage, d.start) for stage in rally.stages(begin, on_shelf) for d in stage.drives if not d.cancelled]
    near = [stage for stage, start in starts if begin - LATE <= start <= min(end, begin + BEFORE)]
    # Of two the one that starts while it runs: the other would be late.
    inside = [stage for stage, start in starts if begin <= start <= min(end, begin + BEFORE)]
    return (inside or near)[0].shelf if len({stage.name for stage in inside or near}) == 1 else None


def with_this_book(files: Sequence[SourceFile], beginning: str = "") -> Shelved | None:
    """The stage on the shelf whose book new notes are, or was read in words without notes; ``None`` where there is none, or two may be.
    ``beginning`` is the identity of the stage that the files begin, which is none of them.

    Raises
    ------
    MirkleError
        The words can't be read.
    """
    newest = {f.role: f for f in files}
    crew = crew_of(newest.get("crew"))
    if "notes" in newest:
        notes = reading_of(newest["notes"], crew).notes
    elif "calls" in newest and newest["calls"].kind == "calls":
        notes = speech_of(newest["calls"], crew, None).reading.notes
    else:
        return None
    others = [one for one in shelf() if one.book and one.identity != beginning]
    found = nearest_book(sketch_of(notes), [one.book for one in others])
    return others[found] if found is not None else None
