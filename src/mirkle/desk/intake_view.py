"""Files that came to an open stage: what each is taken for, and a choice where that can't be told."""

from __future__ import annotations

from PyQt6.QtWidgets import QComboBox, QDialog, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from mirkle.desk.controls import ChoiceBox, wrapped
from mirkle.desk.speak import say, say_clause
from mirkle.session.intake import Choice, Intake


class IntakeDialog(QDialog):
    """Stays until it is right; ``intake`` is how the crew left it."""

    def __init__(self, intake: Intake, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.intake = intake
        self.setWindowTitle(say("What are these files?"))
        self.setMinimumWidth(760)
        column = QVBoxLayout(self)
        column.setContentsMargins(28, 22, 28, 20)
        column.setSpacing(6)
        column.addWidget(wrapped(say("What are these files?"), "title"))
        column.addWidget(
            wrapped(say("Nothing of the stage is changed before you take them in; what was there stays in it."), "why")
        )
        self.boxes: list[QComboBox] = []
        for at, row in enumerate(intake.rows):
            column.addSpacing(10)
            head = QHBoxLayout()
            name = wrapped(row.material.name, "title")
            head.addWidget(name, 1)
            box = _choice_box(row.choices, row.chosen)
            box.setAccessibleName(say("What {0} is", row.material.name))
            box.activated.connect(lambda _, n=at, b=box: self._choose(n, b.currentData()))
            self.boxes.append(box)
            head.addWidget(box)
            column.addLayout(head)
            column.addWidget(wrapped(say_clause(row.sentence), "faint"))
            if row.warning is not None:
                column.addWidget(wrapped(say_clause(row.warning), "fault"))
        self.read = QWidget()
        asked = QHBoxLayout(self.read)
        asked.setContentsMargins(0, 14, 0, 0)
        self.read_box = _choice_box(intake.books, intake.read)
        self.read_box.setAccessibleName(say("Which book was read on the new pass"))
        asked.addWidget(wrapped(say("Which book was read on the new pass?"), "title"), 1)
        asked.addWidget(self.read_box)
        column.addWidget(self.read)
        buttons = QHBoxLayout()
        back, take = QPushButton(say("Back: leave the stage as it is")), QPushButton(say("Take them in"))
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


def _choice_box(choices: tuple[Choice, ...], chosen: str) -> QComboBox:
    box = ChoiceBox()
    for choice in choices:
        box.addItem(f"{say_clause(choice.words)}  ▾", choice.key)
    box.setCurrentIndex(max(box.findData(chosen), 0))
    return box
