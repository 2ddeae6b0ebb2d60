"""A table whose columns are not known: its head and first rows, and a box for each column to say what it holds."""

from __future__ import annotations

from PyQt6.QtWidgets import QDialog, QGridLayout, QHBoxLayout, QPushButton, QScrollArea, QVBoxLayout, QWidget

from mirkle.core.messages import gettext_noop
from mirkle.core.recording.channels import CHANNELS
from mirkle.files.recordings.columns import UnknownColumns, missing_of, twice_in
from mirkle.files.recordings.quantities import column_of, quantities, shown_unit, units_of
from mirkle.gui.controls import ChoiceBox, label, wrapped
from mirkle.gui.translation import tr, tr_fault

# What a column may hold besides a channel.
_OTHERS = {
    "time": gettext_noop("time"),
    "date": gettext_noop("day and time of a spreadsheet"),
    "position": gettext_noop("both latitude and longitude in one cell"),
}
QUANTITY_WORDS = _OTHERS | {kind.quantity: kind.words for kind in CHANNELS.values()}


class ColumnsDialog(QDialog):
    """Stays until the columns make a run; ``names`` is then what each holds, as a name that is understood."""

    def __init__(self, fault: UnknownColumns, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        look = fault.look
        self.setWindowTitle(tr("What do the columns hold?"))
        self.resize(880, 640)
        column = QVBoxLayout(self)
        column.setContentsMargins(28, 22, 28, 20)
        column.setSpacing(8)
        column.addWidget(wrapped(tr("What do the columns of {0} hold?", fault.file), "title"))
        column.addWidget(wrapped(tr_fault(fault), "fault"))
        column.addWidget(
            wrapped(
                tr(
                    "You say it once: files with the same columns are read the same way from then on. Columns left open are not "
                    "used. Tab moves on, the first letters choose."
                ),
                "why",
            )
        )
        grid_of, area = QWidget(), QScrollArea()
        grid = QGridLayout(grid_of)
        grid.setContentsMargins(0, 6, 10, 6)
        grid.setHorizontalSpacing(16)
        grid.setColumnStretch(1, 1)
        for at, words in enumerate((gettext_noop("Column"), gettext_noop("Its first rows"), gettext_noop("Holds"), gettext_noop("In"))):
            grid.addWidget(label(tr(words), "faint"), 0, at)
        self.boxes: list[tuple[ChoiceBox, ChoiceBox]] = []
        for at, (name, taken) in enumerate(zip(look.names, fault.names, strict=True)):
            values = ["…" if len(row[at]) > 20 else row[at] for row in look.rows if at < len(row) and row[at]]
            called = name or tr("column {0}", at + 1)
            grid.addWidget(wrapped(called), at + 1, 0)
            grid.addWidget(wrapped("   ".join(values), "why"), at + 1, 1)
            self.boxes.append(self._boxes_for(called, taken))
            for n, box in enumerate(self.boxes[-1]):
                grid.addWidget(box, at + 1, 2 + n)
        grid.setRowStretch(len(look.names) + 1, 1)
        area.setWidget(grid_of)
        area.setWidgetResizable(True)
        area.setFrameShape(QScrollArea.Shape.NoFrame)
        column.addWidget(area, 1)
        self.hint = wrapped(style="why")
        column.addWidget(self.hint)
        row, back = QHBoxLayout(), QPushButton(tr("Back: leave the file out"))
        self.take = QPushButton(tr("Read it so"))
        self.take.setObjectName("primary")
        self.take.setDefault(True)
        back.clicked.connect(self.reject)
        self.take.clicked.connect(self.accept)
        row.addStretch(1)
        row.addWidget(back)
        row.addWidget(self.take)
        column.addLayout(row)
        self._changed()

    @property
    def names(self) -> list[str]:
        """A name that is understood for each column, empty where it is not used."""
        out = []
        for holds, unit in self.boxes:
            quantity, chosen = holds.currentData(), unit.currentData()
            out.append(f"{quantity} ({chosen})" if quantity and chosen else quantity or "")
        return out

    def _boxes_for(self, called: str, taken: str) -> tuple[ChoiceBox, ChoiceBox]:
        """What one column holds and in what unit, as it is taken for so far."""
        holds, unit = ChoiceBox(), ChoiceBox()
        holds.addItem(tr("not used") + "  ▾", "")
        for quantity in quantities():
            holds.addItem(f"{tr(QUANTITY_WORDS[quantity])}  ▾", quantity)
        holds.setAccessibleName(tr("What {0} holds", called))
        unit.setAccessibleName(tr("The unit of {0}", called))
        unit.setMinimumContentsLength(10)
        column = column_of(taken) if taken else None
        known = next((q for q in quantities() if column is not None and _channel(q) == column.channel), "")
        holds.setCurrentIndex(max(holds.findData(known), 0))
        self._offer_units(holds, unit)
        if column is not None:
            same = next((u for u, f in units_of(column.channel).items() if f == column.factor), "")
            unit.setCurrentIndex(max(unit.findData(same), 0))
        holds.currentIndexChanged.connect(lambda _: self._offer_units(holds, unit))
        holds.currentIndexChanged.connect(lambda _: self._changed())
        unit.currentIndexChanged.connect(lambda _: self._changed())
        return holds, unit

    def _offer_units(self, holds: ChoiceBox, unit: ChoiceBox) -> None:
        quantity = holds.currentData()
        unit.blockSignals(True)
        unit.clear()
        units = quantities().get(quantity, ())
        for one in units:
            unit.addItem(tr("as a part of one") if one == "1" else shown_unit(one), one)
        if quantity == "time":
            unit.addItem(tr("as a clock shows it"), "")
        unit.setEnabled(unit.count() > 1)
        unit.blockSignals(False)

    def _changed(self) -> None:
        missing, twice = missing_of(self.names), twice_in(self.names)
        self.take.setEnabled(not missing and twice is None)
        if twice is not None:
            self.hint.setText(tr("Two columns are said to hold the same: {0}.", tr(QUANTITY_WORDS[twice])))
        elif missing:
            self.hint.setText(tr("Still missing: {0}.", "; ".join(tr(m) for m in missing)))
        else:
            self.hint.setText(tr("That is enough for a run."))


def _channel(quantity: str) -> str:
    column = column_of(quantity)
    return column.channel if column is not None else ""
