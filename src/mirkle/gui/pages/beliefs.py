"""Which notes can be believed, over all passes: a list by page and line, the proven ones apart from the doubtful."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

from PyQt6.QtWidgets import QDialog, QHBoxLayout, QListWidget, QVBoxLayout, QWidget

from mirkle.core.followup.belief import STATE_WORDS, Belief, State
from mirkle.gui.controls import ChoiceBox, button, label, wrap_items, wrapped
from mirkle.gui.translation import tr, tr_message


class BeliefsDialog(QDialog):
    """The notes with their state; one state at a time, the doubtful ones first."""

    def __init__(self, beliefs: Sequence[Belief], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.beliefs = list(beliefs)
        self.setWindowTitle(tr("Which notes can be believed?"))
        self.resize(680, 620)
        self.shown, self.list = ChoiceBox(), QListWidget()
        counts = Counter(b.state for b in self.beliefs)
        order: tuple[State, ...] = ("doubtful", "proven", "not-enough")
        for state in order:
            self.shown.addItem(f"{tr(STATE_WORDS[state])}: {counts[state]}  ▾", state)
        self.shown.setAccessibleName(tr("Which notes are shown"))
        self.shown.activated.connect(lambda _: self._fill())
        self.list.setAccessibleName(tr("Notes by page and line, with what the passes say of each"))
        wrap_items(self.list)
        back = button(tr("Back"))
        back.clicked.connect(self.accept)
        column, foot = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(28, 22, 28, 20)
        column.addWidget(label(tr("Which notes can be believed?"), "title"))
        words = tr("Proven: right for the road on two passes and more, never wrong, never called late. That makes no note faster.")
        column.addWidget(wrapped(words, "faint"))
        column.addWidget(self.shown)
        column.addWidget(self.list, 1)
        foot.addStretch(1)
        foot.addWidget(back)
        column.addLayout(foot)
        self._fill()

    def _fill(self) -> None:
        self.list.clear()
        for one in self.beliefs:
            if one.state == self.shown.currentData():
                place = tr("page {0}, line {1}", one.note.page, one.note.line)
                self.list.addItem(f"{place}     {' '.join(one.note.text.split())}\n{tr_message(one.sentence)}")
