"""From a pressed key to its command: the only place where keys are looked at."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QKeyCombination, QObject, Qt
from PyQt6.QtGui import QKeyEvent, QKeySequence
from PyQt6.QtWidgets import QAbstractButton, QApplication, QWidget

from mirkle.gui.commands import COMMANDS, Command, Place

# A key of the number pad is the same key; Shift is needed for some signs on some keyboards.
_PAD, _SHIFT = Qt.KeyboardModifier.KeypadModifier, Qt.KeyboardModifier.ShiftModifier
_BY_KEY = {(command.place, key): command for command in COMMANDS for key in command.keys}


def command_for(place: Place, event: QKeyEvent) -> Command | None:
    """The command of a place that a pressed key means; with Shift it may be one without."""
    key, modifiers = Qt.Key(event.key()), event.modifiers() & ~_PAD
    # Shift+Enter is no Enter, but a plus sign may need Shift.
    as_typed = modifiers & ~_SHIFT if event.text().isprintable() and event.text() else modifiers
    for held in (modifiers, as_typed):
        written = QKeySequence(QKeyCombination(held, key)).toString(QKeySequence.SequenceFormat.PortableText)
        if (place, written) in _BY_KEY:
            return _BY_KEY[place, written]
    return None


def press(place: Place, target: QObject, event: QKeyEvent) -> bool:
    """Does what a key means in a place, and accepts the event; whether it means anything there."""
    command = command_for(place, event)
    if command is None:
        return False
    event.accept()
    if command.ready(target) and (command.repeats or not event.isAutoRepeat()):
        command.run(target)
    return True


class CommandWidget(QWidget):
    """A page, or a part of one, whose keys are those of its commands."""

    place: Place

    def keyPressEvent(self, event: QKeyEvent) -> None:
        focused = QApplication.focusWidget()
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and isinstance(focused, QAbstractButton) and self.isAncestorOf(focused):
            # Enter presses the button that has the keyboard, and decides nothing else.
            focused.click()
        elif not press(self.place, self, event):
            event.ignore()


class FieldKeys(QObject):
    """The keys of a field: given to it as an event filter, they come before what is typed."""

    def __init__(self, place: Place, field: QWidget, target: QWidget) -> None:
        super().__init__(field)
        self._place, self._target = place, target
        field.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress and self._takes(event):
            return press(self._place, self._target, event)
        return super().eventFilter(watched, event)

    def _takes(self, event: QKeyEvent) -> bool:
        """Whether a key may be one of its commands."""
        return command_for(self._place, event) is not None


class ListKeys(FieldKeys):
    """The letters and figures of a page while one of its lists has the keyboard: a list would look for a row that begins with them. Arrows
    stay the list's."""

    def _takes(self, event: QKeyEvent) -> bool:
        return bool(event.text()) and event.text().isprintable() and super()._takes(event)
