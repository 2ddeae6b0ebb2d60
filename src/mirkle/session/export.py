"""Writing what a crew takes away in open formats, without a window."""

from __future__ import annotations

from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.core.speech.reading import CallTime
from mirkle.files.atomic_write import write_whole
from mirkle.files.export.by_ending import exported
from mirkle.files.export.calls import calls_vtt
from mirkle.files.export.content import Content, Tell
from mirkle.session.open_pass import OpenPass
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.video_pass import VideoPass


def write_export(stage: OpenPass, path: Path, tell: Tell = str, language: str = "en") -> None:
    """Writes the notes of the new edition to a file that ends in ``.txt``, else the review in one of
    :data:`mirkle.files.export.by_ending.BY_ENDING` or as the contract's ``.json``; ``tell`` says what is in it in another language, but
    for what is for programs.

    An existing file is replaced only once the new one is whole.

    Raises
    ------
    MirkleError
        It can't be written, another ending, or what it needs was not recorded.
    """
    if path.suffix.lower() == ".txt":
        write_whole(path, stage.book.edition.text.encode())
    elif isinstance(stage, ReviewedPass):
        write_whole(path, exported(content_of(stage, tell, language), path, stage.inputs.files))
    elif isinstance(stage, VideoPass) and path.suffix.lower() == ".vtt":
        calls = [(n, CallTime(s.from_s, s.to_s, s.uncertainty_s), s.words or stage.said_out(n)) for n, s in enumerate(stage.spoken)]
        write_whole(path, calls_vtt(calls))
    else:
        raise MirkleError("this pass has no recording", mend="take the new notes or the card")


def content_of(stage: ReviewedPass, tell: Tell = str, language: str = "en") -> Content:
    """What is exported of a pass by now; ``tell`` says it in a language."""
    book = stage.book
    return Content(
        stage.project.name, stage.review, book.decisions, book.road.additions, book.all_seen, book.edition.changes, tell, language
    )
