"""Which pages the crew's paper book has: as somebody set them for this stage, else as the settings say, else as the text does."""

from __future__ import annotations

import json
from dataclasses import asdict

from mirkle.core.notebook.paging import Pages, paged
from mirkle.core.notes.model import Reading
from mirkle.files.project.project import Project
from mirkle.session import settings

_KEY = "pages"
LINES_A_PAGE = "lines_a_page"
# No paper has more lines on a page.
MOST_LINES = 1000


def pages_of(project: Project, reading: Reading) -> Pages:
    """The pages of a stage's book. The settings' lines a page hold where the text has no page lines."""
    try:
        kept = json.loads(project.info(_KEY) or "null")
        if kept is not None:
            lines_a_page, begins = int(kept["lines_a_page"]), tuple(int(n) for n in kept["begins"])
            if 0 <= lines_a_page <= MOST_LINES:
                return Pages(lines_a_page, begins)
    except (ValueError, KeyError, TypeError, OverflowError, RecursionError):
        pass  # damaged: as if nobody had set them
    usual = settings.setting(LINES_A_PAGE, 0)
    one_page = len({n.page for n in reading.notes}) < 2
    return Pages(usual) if one_page and isinstance(usual, int) and usual > 0 else Pages()


def set_pages(project: Project, pages: Pages) -> None:
    """Keeps the pages of a stage's book.

    Raises
    ------
    UnusableProject
        They can't be kept.
    """
    try:
        before = json.loads(project.info(_KEY) or "{}")
    except (ValueError, RecursionError):
        before = {}
    # What a newer program keeps there besides stays.
    project.set_info(_KEY, json.dumps((before if isinstance(before, dict) else {}) | asdict(pages)))


def on_paper(project: Project, reading: Reading) -> Reading:
    """A reading on the pages and lines of the stage's paper book."""
    return paged(reading, pages_of(project, reading))
