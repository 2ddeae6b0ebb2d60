"""Writing what a crew takes away in open formats, without a window."""

from __future__ import annotations

from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.files.exports import Tell, findings_csv, report_html, waypoints_gpx
from mirkle.files.review_json import review_json
from mirkle.files.whole import write_whole
from mirkle.session.open_book import OpenBook
from mirkle.session.stage import Stage


def write_export(stage: OpenBook, what: str, path: Path, tell: Tell = str, language: str = "en") -> None:
    """Writes the ``notes`` of the new edition, ``csv``, ``html``, ``gpx`` or ``json``; ``tell`` says what is in them in
    another language, but for the JSON, which is for programs.

    An existing file is replaced only once the new one is whole.

    Raises
    ------
    MirkleError
        It can't be written, or nothing in the recording says where on earth the stage is.
    """
    if what == "notes":
        write_whole(path, stage.book.edition.text.encode())
        return
    if not isinstance(stage, Stage):
        raise MirkleError("this pass has no recording", mend="take the new notes or the card")
    review, decisions, additions = stage.review, stage.book.decisions, stage.book.additions
    if what == "csv":
        content = findings_csv(review, decisions, additions, tell, stage.book.all_seen).encode("utf-8-sig")
    elif what == "html":
        changes, seen = stage.book.edition.changes, stage.book.all_seen
        page = report_html(stage.project.name, review, changes, decisions, additions, tell, language, seen)
        content = page.encode()
    elif what == "gpx":
        points = waypoints_gpx(review, additions, name=stage.project.name, tell=tell)
        if points is None:
            raise MirkleError("this recording holds no positions", mend="take the findings as a table instead")
        content = points
    else:
        content = review_json(review, stage.inputs.files).encode()
    write_whole(path, content)
