"""The demo of a first book: a short stage from a slow pass to a corrected book, with what was reported and said on the way."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from mirkle.core.notebook.conditions import parse_conditions
from mirkle.core.notebook.passes import Pass
from mirkle.core.progress import Progress, silent
from mirkle.files import demo_files
from mirkle.files.project.project import SUFFIX, Project
from mirkle.session.demo import demo_source
from mirkle.session.paths import data_folder
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.stage_summary import keep_summary

NAME, STEM = "Kiln Lane", "kiln-lane"


def first_book_demo(progress: Progress = silent) -> Path:
    """The stage's file, its three passes reviewed; made on the first call.

    Raises
    ------
    MirkleError
        It can't be written.
    """
    path = data_folder() / f"{STEM}{SUFFIX}"
    if path.exists():
        return path
    project = Project.create(
        path, [demo_source("notes", demo_files.FIRST_BOOK), demo_source("run", demo_files.FIRST_BOOK_SLOW)], name=NAME, first=_add_passes
    )
    try:
        slow, first, second = (ReviewedPass.of_project(project, pass_id=p.id, progress=progress) for p in project.passes())
        reported, _ = parse_conditions(demo_files.demo_file(demo_files.FIRST_BOOK_REPORTS).decode(), slow.review.finish_m)
        slow.book.road.add_reported(reported, by="co-driver")
        first.book.reload()
        # What both said behind the finish, and the car met: they agreed on it over lunch.
        for finding in (f for f in first.findings if f.kind == "said-by-you" and f.proposal is not None):
            assert finding.proposal is not None
            first.book.mark(finding, finding.note, finding.proposal.text, by="both")
        keep_summary(second)
    finally:
        project.close()
    return path


def _add_passes(project: Project) -> None:
    """The slow pass, the first with its words and debrief, and the second with the corrected book."""
    project.set_info("car", "27")
    slow = project.set_pass(replace(project.passes()[0], kind="reconnaissance"))
    first = {"run": demo_source("run", demo_files.FIRST_BOOK_RUN), "calls": demo_source("calls", demo_files.FIRST_BOOK_CALLS)}
    project.add_pass(Pass(0, None, slow.notes, kind="first"), first)
    second = {
        "run": demo_source("run", demo_files.FIRST_BOOK_SECOND),
        "notes": demo_source("notes", demo_files.FIRST_BOOK_CORRECTED),
        "calls": demo_source("calls", demo_files.FIRST_BOOK_SECOND_CALLS),
    }
    project.add_pass(Pass(0, None, None, kind="later"), second)
