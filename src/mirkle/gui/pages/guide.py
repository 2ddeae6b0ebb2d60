"""The guide on a page of the window: the same words as in the documents, with the keys from the one table of commands."""

from __future__ import annotations

import re
from importlib import resources

from PyQt6.QtWidgets import QDialog, QHBoxLayout, QTextBrowser, QVBoxLayout, QWidget

from mirkle.gui.commands import COMMANDS
from mirkle.gui.controls import button
from mirkle.gui.translation import spoken, tr

KEYS = "<!-- keys -->"


class Guide(QDialog):
    """The guide in the window's language, English where it is not written in it."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("The job in order"))
        self.resize(860, 680)
        self.page = QTextBrowser()
        self.page.setAccessibleName(tr("The guide"))
        self.page.setOpenLinks(False)
        self.page.setMarkdown(guide_text(spoken()))
        back, row, column = button(tr("Back to work")), QHBoxLayout(), QVBoxLayout(self)
        back.clicked.connect(self.accept)
        row.addStretch(1)
        row.addWidget(back)
        column.setContentsMargins(20, 16, 20, 16)
        column.addWidget(self.page, 1)
        column.addLayout(row)


def guide_text(code: str) -> str:
    """The guide as Markdown without its pictures, the table of keys put in."""
    folder = resources.files("mirkle") / "share"
    file = folder / f"guide_{code}.md"
    text = (file if file.is_file() else folder / "guide_en.md").read_text(encoding="utf-8")
    return re.sub(r"^ *!\[.*\n", "", text, flags=re.MULTILINE).replace(KEYS, keys_table())


def keys_table() -> str:
    """Every key with its command, as a table in Markdown."""
    rows = [f"| {c.shown_keys} | {tr(c.group)} | {tr(c.name)} |" for c in COMMANDS if c.keys and c.in_menu]
    return "\n".join(["| " + " | ".join((tr("key"), tr("where"), tr("does"))) + " |", "|---|---|---|", *rows])
