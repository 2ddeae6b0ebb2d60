"""Said against written, where there is no recording: each note that was said otherwise, left out, said twice or late."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from mirkle.gui.controls import label, wrap_items
from mirkle.gui.translation import tr
from mirkle.session.said_against import LATE_WORDS, SaidAgainst, SaidRow


class AgainstView(QWidget):
    """The notes that differ, in the order of the book, each whole with what was said of it."""

    def __init__(self, against: SaidAgainst, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        heading = label(tr("Calls compared with the notes"))
        heading.setObjectName("title")
        counts = label(_counts(against))
        counts.setObjectName("why")
        counts.setWordWrap(True)
        self.list = QListWidget()
        self.list.setAccessibleName(heading.text())
        wrap_items(self.list)
        self.list.setObjectName("handList")
        for row in against.rows:
            if row.differs:
                self.list.addItem(QListWidgetItem(_words(row)))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(heading)
        column.addWidget(counts)
        column.addWidget(self.list, 1)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setFocusProxy(self.list)


def _counts(against: SaidAgainst) -> str:
    return tr(
        "Of {0} notes: {1} called as written, {2} differently, {3} not called, {4} twice, {5} after a later note.",
        len(against.rows),
        against.count("written"),
        against.count("otherwise"),
        against.count("not-said"),
        against.count("twice"),
        against.late,
    )


def _words(row: SaidRow) -> str:
    """One note: where it stands, what is written, and below it what was said."""
    spoken = row.spoken
    how = {
        "otherwise": tr("called differently, {0:.0%} sure", spoken.probability),
        "not-said": tr("not called, {0:.0%} sure", spoken.probability),
        "twice": tr("called twice"),
        "written": tr("called as written"),
        "heard": tr("heard"),
        "perhaps": tr("perhaps heard, {0:.0%} sure when", spoken.probability),
        "not-heard": tr("not heard"),
    }[spoken.said_as]
    late = tr(", late by {0} words", spoken.late_words) if spoken.late_words >= LATE_WORDS else ""
    said = f"\n      “{spoken.words}”" if spoken.said_as == "otherwise" else ""
    place = tr("Page {0}, line {1}", row.page, row.line)
    return f"{row.written}{said}\n      {place}: {how}{late}"
