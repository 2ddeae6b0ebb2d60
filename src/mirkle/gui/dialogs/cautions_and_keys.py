"""The cautions at first start, and the page of keys."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QDialog, QGridLayout, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from mirkle import __version__
from mirkle.core.cautions import CAUTIONS
from mirkle.core.messages import gettext_noop
from mirkle.gui.commands import COMMANDS
from mirkle.gui.controls import label, wrapped
from mirkle.gui.shapes import draw_mark
from mirkle.gui.theme import Theme
from mirkle.gui.translation import tr
from mirkle.session.paths import data_folder, settings_file

NAME_PX = 144


class Cautions(QDialog):
    """What the crew must have read once."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Before you trust a number"))
        self.setMinimumWidth(620)
        column = QVBoxLayout(self)
        column.setContentsMargins(32, 26, 32, 22)
        column.setSpacing(14)
        column.addWidget(wrapped(tr("Before you trust a number"), "title"))
        for caution in CAUTIONS:
            column.addWidget(wrapped(tr(caution), "why"))
        button = QPushButton(tr("We have read this"))
        button.setObjectName("primary")
        button.clicked.connect(self.accept)
        column.addWidget(button, alignment=Qt.AlignmentFlag.AlignRight)


class Keys(QDialog):
    """Every key by group, in columns."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Keys"))
        column = QVBoxLayout(self)
        column.setContentsMargins(32, 22, 32, 20)
        column.addWidget(wrapped(tr("Keys"), "title"))
        columns = QHBoxLayout()
        columns.setSpacing(14)
        groups = {c.group: [d for d in COMMANDS if d.group == c.group and d.keys and d.in_menu] for c in COMMANDS}
        parts: list[list[str]] = [
            ["Stage", "By eye", "Passes"],
            ["Go", "Hear", "Help"],
            ["Decide", "Book"],
            ["Line up", "View"],
            ["Rehearse", "Rally"],
        ]
        for names in parts:
            grid = QGridLayout()
            grid.setHorizontalSpacing(10)
            grid.setVerticalSpacing(4)
            for name in names:
                grid.addWidget(wrapped(tr(name), "faint"), grid.rowCount(), 0, 1, 2)
                for command in groups[name]:  # type: ignore[index]
                    at = grid.rowCount()
                    grid.addWidget(label(command.shown_keys), at, 0)
                    name_label = wrapped(tr(command.name))
                    # As high as its words take at its width: a grid does not ask for that.
                    name_label.setFixedWidth(NAME_PX)
                    name_label.setMinimumHeight(name_label.heightForWidth(NAME_PX))
                    grid.addWidget(name_label, at, 1)
            grid.setRowStretch(grid.rowCount(), 1)
            columns.addLayout(grid)
        column.addLayout(columns)
        hint = tr("Esc leaves a field. Drag over the whole stage: with Shift a part that does not count, with Ctrl a condition.")
        column.addWidget(wrapped(hint, "faint"))
        foot = QHBoxLayout()
        marks, back = QPushButton(tr("What the marks mean")), QPushButton(tr("Back to work"))
        marks.clicked.connect(lambda: Marks(theme, self).exec())
        back.clicked.connect(self.accept)
        back.setDefault(True)
        foot.addWidget(marks)
        foot.addStretch(1)
        foot.addWidget(back)
        column.addLayout(foot)


MARKS = {
    "triangle": gettext_noop("danger: tighter than the note, the other way, or a jump that is not called"),
    "diamond": gettext_noop("worth changing"),
    "square": gettext_noop("worth a second look"),
    "span": gettext_noop("a distance"),
    "ring": gettext_noop("time to gain, for both of you to decide"),
    "dot": gettext_noop("a remark"),
    "tick": gettext_noop("marked"),
    "dash": gettext_noop("kept as written"),
    "speech": gettext_noop("to talk about, or said in the car"),
    "eye": gettext_noop("to look at on the video, or seen there"),
    "hazard": gettext_noop("a hazard that you added"),
    "condition": gettext_noop("a condition for the next pass only"),
}


class Marks(QDialog):
    """What every mark means: each has a shape of its own, so that none rests on colour alone."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("What the marks mean"))
        column = QVBoxLayout(self)
        column.setContentsMargins(32, 22, 32, 20)
        column.addWidget(wrapped(tr("What the marks mean"), "title"))
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        for row, (name, words) in enumerate(MARKS.items()):
            grid.addWidget(_Mark(name, theme), row, 0)
            grid.addWidget(label(tr(words)), row, 1)
        column.addLayout(grid)
        hint = tr(
            "On the road: fill beyond the bracket, the note is too fast. Room inside it, too slow. Hatched: not "
            "measured, or it does not count."
        )
        column.addWidget(wrapped(hint, "why"))
        button = QPushButton(tr("Back to work"))
        button.clicked.connect(self.accept)
        column.addWidget(button, alignment=Qt.AlignmentFlag.AlignRight)


class _Mark(QWidget):
    """One mark, drawn as it stands everywhere."""

    def __init__(self, name: str, theme: Theme) -> None:
        super().__init__()
        self._name, self._theme = name, theme
        self.setFixedSize(32, 24)

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        draw_mark(painter, self._theme, self._name, QPointF(16.0, 12.0), 17)
        painter.end()


class About(QDialog):
    """The version, the licence, and where the crew's work is kept."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("About Mirkle"))
        self.setMinimumWidth(560)
        column = QVBoxLayout(self)
        column.setContentsMargins(32, 22, 32, 20)
        column.addWidget(wrapped(f"Mirkle {__version__}", "title"))
        column.addWidget(wrapped(tr("GPL-3.0-or-later. Nothing is fetched while it runs."), "why"))
        column.addWidget(wrapped(tr("Your stages are kept in {0}, your settings in {1}.", data_folder(), settings_file()), "why"))
        button = QPushButton(tr("Back to work"))
        button.clicked.connect(self.accept)
        column.addWidget(button, alignment=Qt.AlignmentFlag.AlignRight)
