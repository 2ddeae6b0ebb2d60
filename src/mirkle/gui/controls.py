"""Texts, buttons, boxes and lists of the window: words are shown as they are and whole, never taken for markup."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QModelIndex, QSize, Qt
from PyQt6.QtGui import QFontMetrics, QWheelEvent
from PyQt6.QtWidgets import (
    QButtonGroup,
    QComboBox,
    QDialog,
    QDoubleSpinBox,
    QHBoxLayout,
    QLabel,
    QLayout,
    QListWidget,
    QPushButton,
    QSlider,
    QSpinBox,
    QStackedWidget,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from mirkle.core.errors import MirkleError
from mirkle.gui.translation import tr_fault

# What a tick and the padding take of an item's width.
TICK_PX, PAD_PX = 26, 22


def label(words: str = "", style: str = "") -> QLabel:
    """A text on one line, in the style of a name in the theme's sheet."""
    made = QLabel(words)
    made.setObjectName(style)
    # A stage's name or a note may hold anything.
    made.setTextFormat(Qt.TextFormat.PlainText)
    return made


def wrapped(words: str = "", style: str = "") -> QLabel:
    """A text of as many lines as it takes."""
    made = label(words, style)
    made.setWordWrap(True)
    return made


def button(words: str, tip: str = "", name: str = "") -> QPushButton:
    """A button; ``tip`` says what happens when it is pressed, to the eye and to a screen reader."""
    made = QPushButton(words)
    if name:
        made.setObjectName(name)
    if tip:
        made.setToolTip(tip)
        made.setAccessibleName(tip)
    return made


def empty(layout: QLayout) -> None:
    """Takes everything out of a layout. It is gone from the screen at once, and not only when Qt comes to delete it: nothing old shines
    through what is put there next."""
    while layout.count():
        item = layout.takeAt(0)
        if item is not None and (old := item.widget()) is not None:
            old.hide()
            old.deleteLater()


class Wrapped(QStyledItemDelegate):
    """Items of a list as high as their words are long: the list's own reckoning forgets ticks and cuts what is a little too wide."""

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        """A whole item's size, wrapped to the width of its list."""
        view = option.widget
        assert isinstance(view, QListWidget)
        shown = view.viewport()
        assert shown is not None
        tick = TICK_PX if index.data(Qt.ItemDataRole.CheckStateRole) is not None else 0
        icon = 0 if index.data(Qt.ItemDataRole.DecorationRole) is None else view.iconSize().width() + PAD_PX
        width = shown.width() - PAD_PX - tick - icon
        words = str(index.data())
        box = QFontMetrics(index.data(Qt.ItemDataRole.FontRole) or view.font()).boundingRect(
            0, 0, max(width, 40), 10_000, int(Qt.TextFlag.TextWordWrap), words
        )
        return QSize(width, max(box.height() + 11, icon and view.iconSize().height() + 4))


def show_rows(box: QListWidget, rows: int, least: int, most: int, row_px: int) -> None:
    """Gives a list room for its rows, up to the most; on a small screen for the least, and it scrolls."""
    box.setMinimumHeight(min(rows, least) * row_px + 6)
    box.setMaximumHeight(min(rows, most) * row_px + 6)


def wrap_items(view: QListWidget) -> None:
    """Lets every item of a list stand whole, wrapped where it is long."""
    view.setWordWrap(True)
    view.setTextElideMode(Qt.TextElideMode.ElideNone)
    view.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    view.setResizeMode(QListWidget.ResizeMode.Adjust)
    view.setItemDelegate(Wrapped(view))


class ChoiceBox(QComboBox):
    """A box of choices. The wheel over it sets nothing: it is for scrolling what is under it."""

    def wheelEvent(self, event: QWheelEvent) -> None:
        event.ignore()


class NumberBox(QSpinBox):
    """A whole number that is typed or stepped by keys; the wheel sets nothing."""

    def wheelEvent(self, event: QWheelEvent) -> None:
        event.ignore()


class Slider(QSlider):
    """Something between two ends, set by a drag or by keys; the wheel sets nothing."""

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(Qt.Orientation.Horizontal, parent)

    def wheelEvent(self, event: QWheelEvent) -> None:
        event.ignore()


class DecimalBox(QDoubleSpinBox):
    """A number that is typed or stepped by keys; the wheel sets nothing."""

    def wheelEvent(self, event: QWheelEvent) -> None:
        event.ignore()


class OneAtATime(QWidget):
    """Pages of which one is in front, each with its heading as a button; a single page needs none."""

    def __init__(self, pages: list[tuple[str, QWidget]], in_front: int = 0) -> None:
        super().__init__()
        column, heads, stack = QVBoxLayout(self), QWidget(), QStackedWidget()
        column.setContentsMargins(0, 0, 0, 0)
        row, group = QHBoxLayout(heads), QButtonGroup(heads)
        row.setContentsMargins(0, 0, 0, 0)
        for number, (words, page) in enumerate(pages):
            stack.addWidget(page)
            head = button(words)
            head.setCheckable(True)
            head.setChecked(number == in_front)
            head.clicked.connect(lambda _=False, n=number: stack.setCurrentIndex(n))
            group.addButton(head)
            row.addWidget(head, 1)
        stack.setCurrentIndex(in_front)
        heads.setVisible(len(pages) > 1)
        column.addWidget(heads)
        column.addWidget(stack, 1)


def ask(parent: QWidget, question: str, answers: dict[str, str]) -> str:
    """A question with a button for each answer; returns the key of the one pressed, the last where the question is left by Esc."""
    dialog = QDialog(parent)
    dialog.setWindowTitle("Mirkle")
    column, row = QVBoxLayout(dialog), QHBoxLayout()
    column.setContentsMargins(28, 22, 28, 18)
    column.setSpacing(16)
    text_label = wrapped(question, "why")
    text_label.setMinimumWidth(420)
    column.addWidget(text_label)
    row.addStretch(1)
    pressed = [list(answers)[-1]]
    for key, words in answers.items():
        one = button(words)
        one.clicked.connect(lambda _=False, k=key: pressed.append(k))
        one.clicked.connect(dialog.accept)
        row.addWidget(one)
    column.addLayout(row)
    dialog.exec()
    return pressed[-1]


def done(work: Callable[[], object], fault: QLabel) -> bool:
    """Does something and says its fault in a label, which is empty where it was done; whether it was."""
    try:
        work()
    except MirkleError as why:
        fault.setText(tr_fault(why))
        return False
    fault.setText("")
    return True
