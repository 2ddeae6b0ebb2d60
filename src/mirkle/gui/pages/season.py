"""The season's counts: how the changes of each stage turned out, and which stages count."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QDialog, QHBoxLayout, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from mirkle.gui.controls import button, label, wrap_items, wrapped
from mirkle.gui.translation import tr
from mirkle.session import season
from mirkle.session.shelf import shelved


class SeasonDialog(QDialog):
    """A tick for each stage that counts."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("The season's counts"))
        self.resize(640, 420)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Stages, and whether each counts"))
        wrap_items(self.list)
        for stage in season.counted_stages():
            item = QListWidgetItem(_sentence(stage))
            item.setData(Qt.ItemDataRole.UserRole, stage.path)
            item.setFlags(item.flags() | Qt.ItemFlag.ItemIsUserCheckable)
            item.setCheckState(Qt.CheckState.Checked if stage.counts else Qt.CheckState.Unchecked)
            self.list.addItem(item)
        self.list.itemChanged.connect(self._changed)
        back = button(tr("Back"))
        back.clicked.connect(self.accept)
        row, column = QHBoxLayout(), QVBoxLayout(self)
        row.addStretch(1)
        row.addWidget(back)
        column.setContentsMargins(28, 22, 28, 20)
        column.addWidget(label(tr("The season's counts"), "title"))
        column.addWidget(wrapped(tr("How your changes turned out, stage by stage. A stage without its tick is not counted."), "why"))
        column.addWidget(self.list, 1)
        column.addLayout(row)

    def _changed(self, item: QListWidgetItem) -> None:
        season.count_stage(item.data(Qt.ItemDataRole.UserRole), counts=item.checkState() == Qt.CheckState.Checked)


def _sentence(stage: season.CountedStage) -> str:
    path = Path(stage.path)
    name = shelved(path).name if path.is_file() else path.stem
    fits, fast, slow = (stage.verdicts.get(v, 0) for v in ("fits", "too-fast", "too-slow"))
    return tr("{0}: {1} right, {2} not far enough, {3} too far", name, fits, fast, slow)
