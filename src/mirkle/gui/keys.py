"""From a pressed key to its command: the only place where keys are looked at."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QKeyCombination, QObject, Qt
from PyQt6.QtGui import QKeyEvent, QKeySequence
from PyQt6.QtWidgets import QWidget

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
        if not press(self.place, self, event):
            event.ignore()


class FieldKeys(QObject):
    """The keys of a field: given to it as an event filter, they come before what is typed."""

    def __init__(self, place: Place, field: QWidget, target: QWidget) -> None:
        super().__init__(field)
        self._place, self._target = place, target
        field.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress and press(self._place, self._target, event):
            return True
        return super().eventFilter(watched, event)
