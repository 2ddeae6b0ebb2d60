"""Files that came to an open stage: what each is taken for, and a choice where that can't be told."""

from __future__ import annotations

import numpy as np
from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QComboBox, QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from mirkle.core.recording.model import Floats
from mirkle.gui.controls import ChoiceBox, wrapped
from mirkle.gui.shapes import polygon
from mirkle.gui.theme import Theme, font
from mirkle.gui.translation import tr, tr_message
from mirkle.session.assign_files import AssignOption, Intake


class IntakeDialog(QDialog):
    """Stays until it is right; ``intake`` is how the crew left it."""

    def __init__(self, intake: Intake, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.intake = intake
        self.setWindowTitle(tr("What are these files?"))
        self.setMinimumWidth(760)
        column = QVBoxLayout(self)
        column.setContentsMargins(28, 22, 28, 20)
        column.setSpacing(6)
        column.addWidget(wrapped(tr("What are these files?"), "title"))
        column.addWidget(wrapped(tr("Nothing is changed before you agree. What is in the stage stays."), "why"))
        self.boxes: list[QComboBox] = []
        for at, row in enumerate(intake.rows):
            column.addSpacing(10)
            head = QHBoxLayout()
            name = wrapped(row.material.name, "title")
            head.addWidget(name, 1)
            box = _choice_box(row.choices, row.chosen)
            box.setAccessibleName(tr("What {0} is", row.material.name))
            box.activated.connect(lambda _, n=at, b=box: self._choose(n, b.currentData()))
            self.boxes.append(box)
            head.addWidget(box)
            column.addLayout(head)
            column.addWidget(wrapped(tr_message(row.sentence), "faint"))
            if row.warning is not None:
                column.addWidget(wrapped(tr_message(row.warning), "fault"))
            if row.roads is not None:
                column.addWidget(TwoRoads(row.roads, row.material.name, theme))
        self.read = QWidget()
        asked = QHBoxLayout(self.read)
        asked.setContentsMargins(0, 14, 0, 0)
        self.read_box = _choice_box(intake.books, intake.read)
        self.read_box.setAccessibleName(tr("Which book was read on the new pass"))
        asked.addWidget(wrapped(tr("Which book was read on the new pass?"), "title"), 1)
        asked.addWidget(self.read_box)
        column.addWidget(self.read)
        buttons = QHBoxLayout()
        back, take = QPushButton(tr("Back: leave the stage as it is")), QPushButton(tr("Take them in"))
        take.setObjectName("primary")
        take.setDefault(True)
        back.clicked.connect(self.reject)
        take.clicked.connect(self._take)
        buttons.addStretch(1)
        buttons.addWidget(back)
        buttons.addWidget(take)
        column.addSpacing(14)
        column.addLayout(buttons)
        self._show_read()

    def _choose(self, at: int, key: str) -> None:
        self.intake = self.intake.with_choice(at, key)
        self._show_read()

    def _show_read(self) -> None:
        """The book is asked for where a new pass comes and none came with it."""
        own = any(r.material.kind == "notes" and r.chosen == "new" for r in self.intake.rows)
        self.read.setVisible(self.intake.has_pass and not own and self.read_box.count() > 0)

    def _take(self) -> None:
        if self.read.isVisibleTo(self):
            self.intake = self.intake.reading(self.read_box.currentData())
        self.accept()


class TwoRoads(QWidget):
    """The open stage and a recording that is of another road, from above, on one map."""

    def __init__(self, roads: tuple[Floats, Floats], name: str, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._roads, self._name, self._theme = roads, name, theme
        self.setFixedHeight(MAP_PX)
        self.setAccessibleName(tr("The stage and {0} on one map", name))

    def paintEvent(self, event: QPaintEvent) -> None:  # noqa: ARG002
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(font(14))
        every = np.concatenate(self._roads, axis=1)
        low, high = every.min(axis=1), every.max(axis=1)
        room = QRectF(self.rect()).adjusted(12.0, 2.0 * ROW_PX + 8.0, -12.0, -12.0)
        scale = min(room.width() / max(high[0] - low[0], 1.0), room.height() / max(high[1] - low[1], 1.0))
        middle = 0.5 * (low + high)
        for row, (road, words, colour, dash) in enumerate(
            ((self._roads[0], tr("this stage"), "ink", Qt.PenStyle.SolidLine), (self._roads[1], self._name, "pencil", Qt.PenStyle.DashLine))
        ):
            painter.setPen(QPen(self._theme.colour(colour), 2.0, dash))
            x = room.center().x() + scale * (road[0, ::5] - middle[0])
            y = room.center().y() - scale * (road[1, ::5] - middle[1])
            painter.drawPolyline(polygon(x, y))
            # The names stand above with a piece of their line: at the lines they would run into each other where both begin.
            at = ROW_PX * (row + 0.5)
            painter.drawLine(QPointF(0.0, at), QPointF(SAMPLE_PX, at))
            painter.drawText(QPointF(SAMPLE_PX + 8.0, at + 5.0), words)
        painter.end()


# How high the map of two roads is and each row of names above it, and how long a sample of a line.
MAP_PX, ROW_PX, SAMPLE_PX = 260, 20.0, 34.0


def _choice_box(choices: tuple[AssignOption, ...], chosen: str) -> QComboBox:
    box = ChoiceBox()
    for choice in choices:
        box.addItem(f"{tr_message(choice.words)}  ▾", choice.key)
    box.setCurrentIndex(max(box.findData(chosen), 0))
    return box
