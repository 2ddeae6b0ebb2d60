"""The header of the window: the menu, the stage and its pass, the places, and the dangers that are left."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeySequence
from PyQt6.QtWidgets import QButtonGroup, QComboBox, QHBoxLayout, QMenu, QPushButton, QWidget

from mirkle.core.messages import gettext_noop
from mirkle.gui.commands import COMMANDS
from mirkle.gui.controls import ChoiceBox, button, label
from mirkle.gui.labels import conflict_words, lost_words
from mirkle.gui.translation import tr, tr_counted
from mirkle.session.open_pass import OpenPass
from mirkle.session.pass_list import driven
from mirkle.session.reviewed_pass import ReviewedPass

PLACES = (
    gettext_noop("Rally"),
    gettext_noop("Gather"),
    gettext_noop("Line up"),
    gettext_noop("Compare"),
    gettext_noop("Book"),
    gettext_noop("Rehearse"),
    gettext_noop("Passes"),
)


class Header(QWidget):
    """``place_wanted`` carries a place's name, ``pass_wanted`` a pass's number, ``danger_wanted`` asks for the next danger left,
    ``lost_wanted`` for the decisions that have no place, ``conflicts_wanted`` for those that two copies disagree on."""

    place_wanted = pyqtSignal(str)
    pass_wanted = pyqtSignal(int)
    danger_wanted = pyqtSignal()
    lost_wanted = pyqtSignal()
    conflicts_wanted = pyqtSignal()

    def __init__(self, menu: QMenu, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("header")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedHeight(44)
        self.stage_name = label("Mirkle", "stageName")
        self.dangers = button("", tr("Go to the next danger (D in Compare)"), "dangersLeft")
        self.dangers.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.dangers.clicked.connect(self.danger_wanted)
        self.dangers.hide()
        self.lost = button("", tr("See them and put them back (☰, Decide)"), "small")
        self.lost.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.lost.clicked.connect(self.lost_wanted)
        self.lost.hide()
        self.conflicts = button("", tr("Two copies of this stage disagree: choose (☰, Decide)"), "small")
        self.conflicts.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.conflicts.clicked.connect(self.conflicts_wanted)
        self.conflicts.hide()
        self.passes = ChoiceBox()
        self.passes.setAccessibleName(tr("Which pass"))
        self.passes.setMinimumContentsLength(10)
        self.passes.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self.passes.setMinimumWidth(108)
        self.passes.activated.connect(lambda at: self.pass_wanted.emit(self.passes.itemData(at)))
        self.passes.hide()
        menu_button = button("☰", tr("All commands, with their keys (Alt+M)"), "place")
        menu_button.setShortcut(QKeySequence("Alt+M"))
        menu_button.setMenu(menu)
        self.place_buttons: dict[str, QPushButton] = {}
        group = QButtonGroup(self)
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 0, 12, 0)
        row.setSpacing(6)
        for widget in (menu_button, self.stage_name, self.passes):
            row.addWidget(widget)
        row.addStretch(1)
        for name in PLACES:
            # What it says on hovering is the command's: its key, or why it can't be gone to.
            place = button(tr(name), tr(name), "place")
            place.setCheckable(True)
            place.clicked.connect(lambda _=False, n=name: self.place_wanted.emit(n))
            group.addButton(place)
            self.place_buttons[name] = place
            row.addWidget(place)
        row.addStretch(1)
        row.addWidget(self.conflicts)
        row.addWidget(self.lost)
        row.addWidget(self.dangers)

    @property
    def place(self) -> str | None:
        """The place that is shown."""
        return next((name for name, button in self.place_buttons.items() if button.isChecked()), None)

    def show_passes(self, stage: OpenPass | None) -> None:
        """The passes of a stage, this one chosen."""
        self.passes.clear()
        if stage is None:
            self.passes.hide()
            return
        for one in driven(stage.project):
            self.passes.addItem(f"{one.name}  ▾", one.made.id)
        self.passes.setCurrentIndex(self.passes.findData(stage.this_pass.id))
        self.passes.setVisible(self.passes.count() > 1)

    def say_hindrance(self, name: str, hindrance: str) -> None:
        """Says on a page's button why the page is closed, or its key."""
        if name in self.place_buttons:
            command = next(c for c in COMMANDS if c.name == name)
            self.place_buttons[name].setToolTip(tr(hindrance) or f"{tr(name)} ({command.shown_keys})")

    def show_stage(self, stage: OpenPass | None, book_alone: OpenPass | None = None) -> None:
        """The stage's name, the dangers left, and which places can be gone to; ``book_alone`` where a book waits for its recording."""
        there = {"Rally", "Gather"} | ({"Book", "Rehearse"} if book_alone else set())
        if stage is not None:
            # Without a recording there is nothing to line up.
            there = set(PLACES) - (set() if isinstance(stage, ReviewedPass) else {"Line up"})
        for name, place in self.place_buttons.items():
            place.setEnabled(name in there)
        if stage is None:
            if self.place not in there:
                self.place_buttons["Gather"].setChecked(True)
            self.stage_name.setText(book_alone.project.name if book_alone is not None else "Mirkle")
            self.dangers.hide()
            self.lost.hide()
            self.conflicts.hide()
            return
        self.stage_name.setText(stage.project.name)
        left = stage.book.dangers_left
        self.dangers.setText(tr_counted("▼ 1 danger left", "▼ {0} dangers left", left) if left else "")
        self.dangers.setVisible(left > 0)
        differ = conflict_words(len(stage.book.conflicts))
        self.conflicts.setText(differ)
        self.conflicts.setVisible(bool(differ))
        # One thing at a time: there is no room for both on a small screen.
        lost = lost_words(len(stage.book.without_place)) if not differ else ""
        self.lost.setText(lost)
        self.lost.setVisible(bool(lost))
