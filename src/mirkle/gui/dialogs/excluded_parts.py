"""Parts that don't count, typed by keyboard: from, to, and why."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtWidgets import QDialog, QDoubleSpinBox, QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from mirkle.core.judging.parts import Part
from mirkle.core.messages import gettext_noop
from mirkle.gui.controls import DecimalBox, label
from mirkle.gui.translation import tr


class PartsDialog(QDialog):
    """Shows the parts as rows that can be changed, added and taken away."""

    def __init__(self, parts: Sequence[Part], finish_m: float, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Parts that don't count"))
        self.setMinimumWidth(640)
        self._finish_km = finish_m / 1000
        self.rows: list[tuple[QWidget, QDoubleSpinBox, QDoubleSpinBox, QLineEdit]] = []
        title = label(tr("Parts that don't count"))
        title.setObjectName("title")
        why = label(
            tr(
                "A puncture, a warning lamp, dust from the car ahead: the pace there says nothing about the notes. The shape "
                "of the road is still compared."
            )
        )
        why.setObjectName("why")
        why.setWordWrap(True)
        self._column = QVBoxLayout()
        add = QPushButton(tr("Add a part"))
        add.clicked.connect(lambda: self.add(Part(0.0, min(500.0, finish_m), "")))
        done = QPushButton(tr("Use this list"))
        done.setObjectName("primary")
        done.setDefault(True)
        done.clicked.connect(self.accept)
        back = QPushButton(tr("Back"))
        back.clicked.connect(self.reject)
        buttons = QHBoxLayout()
        buttons.addWidget(add)
        buttons.addStretch(1)
        buttons.addWidget(back)
        buttons.addWidget(done)
        column = QVBoxLayout(self)
        column.setContentsMargins(28, 22, 28, 20)
        column.addWidget(title)
        column.addWidget(why)
        column.addLayout(self._column)
        column.addLayout(buttons)
        for part in parts:
            self.add(part)

    def add(self, part: Part) -> None:
        """One more row."""
        row = QWidget(self)
        line = QHBoxLayout(row)
        line.setContentsMargins(0, 0, 0, 0)
        boxes = []
        for words, metres in ((gettext_noop("from"), part.from_m), (gettext_noop("to"), part.to_m)):
            box = DecimalBox()
            box.setDecimals(2)
            box.setRange(0.0, self._finish_km)
            box.setSingleStep(0.05)
            box.setSuffix(" km")
            box.setValue(metres / 1000)
            box.setButtonSymbols(QDoubleSpinBox.ButtonSymbols.NoButtons)
            box.setAccessibleName(tr("{0} kilometre", tr(words)))
            line.addWidget(label(tr(words)))
            line.addWidget(box)
            boxes.append(box)
        reason = QLineEdit(part.reason)
        reason.setPlaceholderText(tr("why: puncture, dust, …"))
        reason.setAccessibleName(tr("why it does not count"))
        line.addWidget(reason, 1)
        away = QPushButton(tr("Take away"))
        away.clicked.connect(lambda: self._remove(row))
        line.addWidget(away)
        self._column.addWidget(row)
        self.rows.append((row, boxes[0], boxes[1], reason))

    def _remove(self, row: QWidget) -> None:
        self.rows = [r for r in self.rows if r[0] is not row]
        row.deleteLater()

    @property
    def parts(self) -> list[Part]:
        """The parts as the rows say, the wrong way round put right, those without length left out."""
        out = []
        for _, first, last, reason in self.rows:
            low, high = sorted((first.value() * 1000, last.value() * 1000))
            if high - low >= 10.0:
                out.append(Part(low, high, reason.text().strip() or gettext_noop("does not count")))
        return sorted(out, key=lambda p: p.from_m)
