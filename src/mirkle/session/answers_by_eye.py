"""What is written of a note for what was seen of it on the video: the words that are proposed, and whether they let the car go faster."""

from __future__ import annotations

from mirkle.core.notebook.observed import SEEN, Seen, to_write, with_grade
from mirkle.core.notes.rewording import NoteWriter
from mirkle.session.open_pass import OpenPass


def as_it_stands(stage: OpenPass) -> str:
    """The chosen note in the book as it stands."""
    return stage.book.edition.text_of(stage.notes[stage.note])


def proposed(stage: OpenPass, seen: Seen, presses: int) -> str:
    """What is proposed for the chosen note after so many presses of one key; empty where only the crew can say it."""
    return to_write(seen, stage.notes[stage.note], NoteWriter(stage.reading, stage.language), stage.school, presses)


def graded(stage: OpenPass, grade: str) -> str:
    """The chosen note with a grade that was typed; empty where it has none."""
    return with_grade(stage.notes[stage.note], NoteWriter(stage.reading, stage.language), stage.school, grade)


def to_be_written(stage: OpenPass, seen: Seen, words: str) -> str:
    """What would be written: a missing note stands behind the chosen one."""
    return f"{as_it_stands(stage)}\n{words}" if seen == "missing" and words else words


def takes_both(stage: OpenPass, seen: Seen, text: str) -> bool:
    """Whether both of the crew have to agree: it is a note by which the car goes faster."""
    faster = seen != "hazard" and (SEEN[seen].faster or stage.book.wants_both(None, stage.note, text))
    return faster and stage.book.can_be_marked(None, stage.note, text)
