"""What is worth listening to where the calls' times come from the sound: a list in order of worth, and two keys."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QInputDialog, QListWidget, QListWidgetItem, QPushButton, QVBoxLayout, QWidget

from mirkle.files.speech.heard_json import HeardCalls
from mirkle.gui.controls import button, show_rows, wrap_items, wrapped
from mirkle.gui.translation import tr, tr_message
from mirkle.gui.views.status_line import clock
from mirkle.session.listening import BEFORE_S, ToHear, accepted, to_hear
from mirkle.session.reviewed_pass import ReviewedPass

ROW_PX, LEAST_ROWS, MOST_ROWS = 30, 2, 5


class ListenView(QWidget):
    """``hear_wanted`` carries the moment of the sound to be played from; ``changed`` what was heard with a moment taken for right."""

    hear_wanted = pyqtSignal(float)
    changed = pyqtSignal(object)

    def __init__(self, stage: ReviewedPass, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.stage = stage
        self.heard: HeardCalls | None = None
        self.items: list[ToHear] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 4, 0, 4)
        column.setSpacing(6)
        self.hint = wrapped(style="why")
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Moments to listen to"))
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        wrap_items(self.list)
        self.list.itemClicked.connect(lambda _: self._show_note())
        row = QHBoxLayout()
        self.play = button(tr("play  Space"), tr("Play from two seconds before (Space)"), "small")
        self.right = button(tr("as shown  A"), tr("It is as shown; Mirkle works out the other calls again (A)"), "small")
        self.note = button(tr("write it down  R"), tr("Write down what is said; it is kept as a remark (R)"), "small")
        self.next = button(tr("the next  L"), tr("The next moment to listen to (L)"), "small")
        works: tuple[tuple[QPushButton, Callable[[], None]], ...] = (
            (self.play, self.hear),
            (self.right, self.accept),
            (self.note, self.write_down),
            (self.next, lambda: self.step(1)),
        )
        for one, work in works:
            one.setFocusPolicy(Qt.FocusPolicy.NoFocus)
            one.clicked.connect(lambda _=False, w=work: w())
            row.addWidget(one)
        row.addStretch(1)
        column.addWidget(self.hint)
        column.addWidget(self.list, 1)
        column.addLayout(row)

    def show_heard(self, heard: HeardCalls | None) -> None:
        """The moments of what was heard; hidden where the words came from elsewhere."""
        self.heard = heard
        self.setVisible(heard is not None)
        self.list.clear()
        if heard is None:
            return
        self.items = to_hear(heard)
        found = heard.listening.calls
        self.hint.setText(
            tr(
                "{0} of {1} calls found, {2} for sure (solid; the others hatched). Listen before you trust a gap.",
                sum(c.was_heard for c in found),
                len(found),
                sum(c.was_heard and not c.doubtful for c in found),
            )
        )
        self.hint.setToolTip(heard.sound)
        for item in self.items:
            of = f"{self._text_of(item)}: " if item.note is not None else ""
            self.list.addItem(QListWidgetItem(f"{clock(item.from_s)}  {of}{tr_message(item.why)}"))
        show_rows(self.list, max(len(self.items), 1), LEAST_ROWS, MOST_ROWS, ROW_PX)
        if self.items:
            self.list.setCurrentRow(0)
        for one in (self.play, self.right, self.note, self.next):
            one.setEnabled(bool(self.items))

    def _text_of(self, item: ToHear) -> str:
        assert self.heard is not None
        assert item.note is not None
        return self.heard.texts[item.note]

    @property
    def item(self) -> ToHear | None:
        """The moment that is chosen."""
        at = self.list.currentRow()
        return self.items[at] if 0 <= at < len(self.items) else None

    def hear(self) -> None:
        """Plays the chosen moment from before it."""
        if self.item is not None:
            self.hear_wanted.emit(max(self.item.from_s - BEFORE_S, 0.0))

    def accept(self) -> None:
        """Takes the chosen moment for what it is said to be."""
        if self.heard is not None and self.item is not None:
            heard, item = self.heard, self.item
            self.changed.emit(lambda: accepted(heard, item))

    def write_down(self) -> None:
        """Asks what is said at the chosen moment, and keeps it as a remark."""
        if self.heard is None or self.item is None:
            return
        heard, from_s = self.heard, self.item.from_s
        words, given = QInputDialog.getText(self, "Mirkle", tr("What is said at {0}?", clock(from_s)))
        if given and words.strip():
            self.changed.emit(lambda: heard.with_remark(from_s, words))

    def step(self, by: int) -> None:
        """Goes to the next moment, round and round."""
        if self.items:
            self.list.setCurrentRow((self.list.currentRow() + by) % len(self.items))
            self._show_note()

    def _show_note(self) -> None:
        if self.item is not None and self.item.note is not None:
            self.stage.choose_note(min(self.item.note, len(self.stage.review.notes) - 1))
