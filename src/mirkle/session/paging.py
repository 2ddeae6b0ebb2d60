"""Which pages the crew's paper book has: as somebody set them for this stage, else as the settings say, else as the text does."""

from __future__ import annotations

import json
from dataclasses import asdict

from mirkle.core.book.paging import Pages, paged
from mirkle.core.notes.model import Reading
from mirkle.files.project import Project
from mirkle.session import places

_KEY = "pages"
LINES_A_PAGE = "lines_a_page"


def pages_of(project: Project, reading: Reading) -> Pages:
    """The pages of a stage's book. The settings' lines a page hold where the text has no page lines."""
    try:
        kept = json.loads(project.told(_KEY) or "null")
        if kept is not None:
            return Pages(int(kept["lines_a_page"]), tuple(int(n) for n in kept["begins"]))
    except (ValueError, KeyError, TypeError):
        pass  # damaged: as if nobody had set them
    usual = places.setting(LINES_A_PAGE, 0)
    one_page = len({n.page for n in reading.notes}) < 2
    return Pages(usual) if one_page and isinstance(usual, int) and usual > 0 else Pages()


def set_pages(project: Project, pages: Pages) -> None:
    """Keeps the pages of a stage's book.

    Raises
    ------
    UnusableProject
        They can't be kept.
    """
    project.tell(_KEY, json.dumps(asdict(pages)))


def on_paper(project: Project, reading: Reading) -> Reading:
    """A reading on the pages and lines of the stage's paper book."""
    return paged(reading, pages_of(project, reading))
