"""The guide on a page of the window: a page a screen with its picture and five steps, opened at the screen one is on; the keys from the one
table of commands."""

from __future__ import annotations

import re
from importlib import resources
from pathlib import Path

from PyQt6.QtWidgets import QDialog, QHBoxLayout, QListWidget, QTextBrowser, QVBoxLayout, QWidget

from mirkle.gui.commands import COMMANDS
from mirkle.gui.controls import button
from mirkle.gui.translation import spoken, tr

KEYS = "<!-- keys -->"
# The guide's sections in their order, by the page of the window that each is about; the last two are about none.
SECTIONS = ("", "Gather", "Line up", "Compare", "By eye", "Book", "Rehearse", "Passes", "Rally", "keys", "cautions")
LIST_PX = 220


class Guide(QDialog):
    """The guide in the window's language, English where it is not written in it; ``place`` is the page of the window to begin with."""

    def __init__(self, place: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Guide"))
        self.resize(980, 720)
        self.sections = sections_of(guide_text(spoken()))
        self.list, self.page = QListWidget(), QTextBrowser()
        self.list.addItems([heading for heading, _ in self.sections])
        self.list.setFixedWidth(LIST_PX)
        self.list.setAccessibleName(tr("The pages of the guide"))
        self.list.currentRowChanged.connect(self._show)
        self.page.setAccessibleName(tr("The guide"))
        self.page.setOpenLinks(False)
        self.page.setSearchPaths([str(resources.files("mirkle") / "share")])
        back, row, column, both = button(tr("Back to work")), QHBoxLayout(), QVBoxLayout(self), QHBoxLayout()
        back.clicked.connect(self.accept)
        row.addStretch(1)
        row.addWidget(back)
        both.addWidget(self.list)
        both.addWidget(self.page, 1)
        column.setContentsMargins(20, 16, 20, 16)
        column.addLayout(both, 1)
        column.addLayout(row)
        self.list.setCurrentRow(SECTIONS.index(place) if place in SECTIONS else 0)

    def _show(self, at: int) -> None:
        heading, text = self.sections[at]
        self.page.setMarkdown(f"## {heading}\n\n{text}")


def sections_of(text: str) -> list[tuple[str, str]]:
    """The sections of a guide: each heading with what stands below it."""
    parts = re.split(r"^## (.*)$", text, flags=re.MULTILINE)[1:]
    return list(zip(parts[::2], parts[1::2], strict=True))


def guide_text(code: str) -> str:
    """The guide as Markdown, the table of keys put in; pictures that were not installed are left out."""
    folder = Path(str(resources.files("mirkle") / "share"))
    file = folder / f"guide_{code}.md"
    text = (file if file.is_file() else folder / "guide_en.md").read_text(encoding="utf-8")
    return _with_pictures(text, folder).replace(KEYS, keys_table())


def _with_pictures(text: str, folder: Path) -> str:
    def kept(picture: re.Match[str]) -> str:
        return picture[0] if (folder / picture[1]).is_file() else ""

    return re.sub(r"!\[[^\]]*\]\(([^)]+)\)", kept, text)


def keys_table() -> str:
    """Every key with its command, as a table in Markdown."""
    rows = [f"| {c.shown_keys} | {tr(c.group)} | {tr(c.name)} |" for c in COMMANDS if c.keys and c.in_menu]
    return "\n".join(["| " + " | ".join((tr("key"), tr("where"), tr("does"))) + " |", "|---|---|---|", *rows])
