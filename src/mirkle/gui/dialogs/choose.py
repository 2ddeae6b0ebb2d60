"""One of several, or a new one by its name."""

from __future__ import annotations

from collections.abc import Mapping

from PyQt6.QtWidgets import QDialog, QHBoxLayout, QLineEdit, QListWidget, QVBoxLayout, QWidget

from mirkle.gui.controls import button, label, wrap_items
from mirkle.gui.translation import tr


def choose_or_name(parent: QWidget, title: str, fresh_words: str, choices: Mapping[str, str]) -> tuple[str, str]:
    """The key of the one that is chosen, or the name of a new one where ``fresh_words`` ask for it; both empty where neither."""
    dialog = ChooseDialog(title, fresh_words, choices, parent)
    return (dialog.chosen, dialog.fresh) if dialog.exec() else ("", "")


class ChooseDialog(QDialog):
    """A list, and a field for a new name below it."""

    def __init__(self, title: str, fresh_words: str, choices: Mapping[str, str], parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Mirkle")
        self.setMinimumWidth(520)
        self._keys = list(choices)
        self.list, self.field = QListWidget(), QLineEdit()
        self.list.setAccessibleName(title)
        self.list.addItems(list(choices.values()))
        wrap_items(self.list)
        self.list.setCurrentRow(0 if choices else -1)
        self.list.setVisible(bool(choices))
        self.list.itemActivated.connect(lambda _: self.accept())
        self.field.setAccessibleName(fresh_words)
        back, go = button(tr("Back")), button(tr("Open"), name="primary")
        back.clicked.connect(self.reject)
        go.clicked.connect(self.accept)
        go.setDefault(True)
        row, column = QHBoxLayout(), QVBoxLayout(self)
        row.addStretch(1)
        row.addWidget(back)
        row.addWidget(go)
        column.setContentsMargins(28, 22, 28, 20)
        column.addWidget(label(title, "title"))
        column.addWidget(self.list, 1)
        if fresh_words:
            column.addWidget(label(fresh_words, "faint"))
            column.addWidget(self.field)
        column.addLayout(row)

    @property
    def fresh(self) -> str:
        """The name of a new one."""
        return self.field.text().strip()

    @property
    def chosen(self) -> str:
        """The key of the chosen one; empty where a new one is named."""
        at = self.list.currentRow()
        return self._keys[at] if 0 <= at < len(self._keys) and not self.fresh else ""
