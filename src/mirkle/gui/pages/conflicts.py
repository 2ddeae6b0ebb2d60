"""Decisions of two copies of a stage that disagree, side by side: one key keeps either."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QDialog, QHBoxLayout, QListWidget, QVBoxLayout, QWidget

from mirkle.gui.commands import key_of
from mirkle.gui.controls import button, done, label, wrap_items, wrapped
from mirkle.gui.keys import FieldKeys
from mirkle.gui.pages.editions import decision_words
from mirkle.gui.translation import tr, tr_counted
from mirkle.session.decision_log import Conflict
from mirkle.session.open_pass import OpenPass

# Room for a decision of three lines.
SIDE_PX = 64


class ConflictsDialog(QDialog):
    """The conflicts in a list, and the two decisions of the chosen one next to each other."""

    def __init__(self, stage: OpenPass, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage = stage
        self.setWindowTitle(tr("Decided differently in two copies"))
        self.resize(900, 520)
        self.heading, self.list, self.fault = label("", "title"), QListWidget(), wrapped(style="fault")
        self.list.setAccessibleName(tr("Places where the copies differ"))
        wrap_items(self.list)
        self.list.currentRowChanged.connect(lambda _: self._show_both())
        self.sides = (wrapped(style="note"), wrapped(style="note"))
        for side in self.sides:
            side.setAlignment(Qt.AlignmentFlag.AlignTop)
            side.setMinimumHeight(SIDE_PX)
        self.keep_buttons = tuple(
            button(tr("Keep this  {0}", key_of("Conflicts", name))) for name in ("Keep the first decision", "Keep the second decision")
        )
        both = QHBoxLayout()
        for i, (side, keep) in enumerate(zip(self.sides, self.keep_buttons, strict=True)):
            keep.clicked.connect(lambda _=False, which=i: self.keep(which))
            column = QVBoxLayout()
            column.addWidget(label(tr("Later, stands now") if i else tr("Earlier"), "faint"))
            column.addWidget(side)
            column.addWidget(keep)
            both.addLayout(column, 1)
        back = button(tr("Back"))
        back.clicked.connect(self.accept)
        column, foot = QVBoxLayout(self), QHBoxLayout()
        foot.addStretch(1)
        foot.addWidget(back)
        column.setContentsMargins(28, 22, 28, 20)
        column.addWidget(self.heading)
        column.addWidget(wrapped(tr("The later one stands until you choose; undo takes a choice back."), "faint"))
        column.addWidget(self.list, 1)
        column.addLayout(both)
        column.addWidget(self.fault)
        column.addLayout(foot)
        FieldKeys("Conflicts", self.list, self)
        self.refresh()

    def refresh(self) -> None:
        """Lists what is not settled."""
        self._conflicts = self.stage.book.conflicts
        left = len(self._conflicts)
        words = tr_counted("1 decision to choose", "{0} decisions to choose", left) if left else tr("Nothing is left to choose")
        self.heading.setText(words)
        self.list.clear()
        for one in self._conflicts:
            place, _, _ = decision_words(self.stage, one.later).partition(":")
            note = " ".join(one.later.notes.text.split()) if one.later.notes is not None else ""
            self.list.addItem(f"{place}     {note}")
        self.list.setCurrentRow(0 if self._conflicts else -1)
        self._show_both()
        self.list.setFocus()

    @property
    def chosen(self) -> Conflict | None:
        """The conflict that is chosen."""
        at = self.list.currentRow()
        return self._conflicts[at] if 0 <= at < len(self._conflicts) else None

    def _show_both(self) -> None:
        here = self.chosen
        for side, keep, decision in zip(self.sides, self.keep_buttons, (here.earlier, here.later) if here else (None, None), strict=True):
            side.setText(decision_words(self.stage, decision).partition(": ")[2] if decision is not None else "")
            keep.setEnabled(decision is not None)

    def keep(self, which: int) -> None:
        """Keeps one of the two decisions: 0 is the first, 1 the one that stands."""
        here = self.chosen
        if here is None:
            return
        if done(lambda: self.stage.book.settle(here, (here.earlier, here.later)[which]), self.fault):
            self.refresh()
