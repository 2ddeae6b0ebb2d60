"""Every command once: its name, its key, its help, and when it can be used. The menu, the list of keys and the window's own shortcuts come
from here."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QApplication

from mirkle.core.messages import gettext_noop

if TYPE_CHECKING:
    from mirkle.gui.window import Window

Group = Literal["Stage", "Go", "Decide", "Hear", "Line up", "By eye", "Book", "Rehearse", "Passes", "View", "Help"]
# Where a command's key is a key of the place itself, it is pressed there.
Where = Literal["window", "Compare", "Line up", "By eye", "Book", "Rehearse", "Passes"]


@dataclass(frozen=True)
class Command:
    """``keys`` is what is shown; ``key`` what Qt is told, or the place is pressed with. ``needs_stage`` where there has to be an open
    stage. ``run`` is given where the window itself does it."""

    name: str
    group: Group
    keys: str = ""
    where: Where = "window"
    needs_stage: bool = True
    run: Callable[[Window], object] | None = None
    key: Qt.Key | None = None


GROUPS: tuple[Group, ...] = (
    gettext_noop("Stage"),
    gettext_noop("Go"),
    gettext_noop("Decide"),
    gettext_noop("Hear"),
    gettext_noop("Line up"),
    gettext_noop("By eye"),
    gettext_noop("Book"),
    gettext_noop("Rehearse"),
    gettext_noop("Passes"),
    gettext_noop("View"),
    gettext_noop("Help"),
)
COMMANDS: tuple[Command, ...] = (
    Command("Open files…", "Stage", "Ctrl+O", needs_stage=False, run=lambda w: w.gather.choose_files()),
    Command("New stage", "Stage", "Ctrl+N", needs_stage=False, run=lambda w: w.new_stage()),
    Command("Your stages…", "Stage", "Ctrl+Shift+O", needs_stage=False, run=lambda w: w.show_shelf()),
    Command("Type the notes in…", "Stage", needs_stage=False, run=lambda w: w.type_notes()),
    Command("Show the demo stage", "Stage", needs_stage=False, run=lambda w: w.open_demo()),
    Command("Quit", "Stage", "Ctrl+Q", needs_stage=False, run=lambda w: w.close()),
    Command("Next finding", "Go", "N", "Compare", key=Qt.Key.Key_N),
    Command("Finding before", "Go", "P", "Compare", key=Qt.Key.Key_P),
    Command("First finding", "Go", "Home", "Compare", key=Qt.Key.Key_Home),
    Command("Last finding", "Go", "End", "Compare", key=Qt.Key.Key_End),
    Command("Next danger that is left", "Go", "D", "Compare", key=Qt.Key.Key_D),
    Command("Next note", "Go", "↓", "Compare", key=Qt.Key.Key_Down),
    Command("Note before", "Go", "↑", "Compare", key=Qt.Key.Key_Up),
    Command("Find a finding or a note…", "Go", "Ctrl+F", run=lambda w: w.find()),
    Command("Gather", "Go", "Ctrl+1", needs_stage=False, run=lambda w: w.go_to("Gather")),
    Command("Line up", "Go", "Ctrl+2", run=lambda w: w.go_to("Line up")),
    Command("Compare", "Go", "Ctrl+3", run=lambda w: w.go_to("Compare")),
    Command("Book", "Go", "Ctrl+4", run=lambda w: w.go_to("Book")),
    Command("Rehearse", "Go", "Ctrl+5", "Rehearse", run=lambda w: w.go_to("Rehearse")),
    Command("Passes", "Go", "Ctrl+6", run=lambda w: w.go_to("Passes")),
    Command("Mark it: write the change into the book", "Decide", "Enter", "Compare", key=Qt.Key.Key_Return),
    Command("Keep the note as it is written", "Decide", "K", "Compare", key=Qt.Key.Key_K),
    Command("Talk it over later", "Decide", "T", "Compare", key=Qt.Key.Key_T),
    Command("Look at it on the video: plays it where there is one", "Decide", "V", "Compare", key=Qt.Key.Key_V),
    Command("Edit what to write, on any note", "Decide", "E", "Compare", key=Qt.Key.Key_E),
    Command("Who says so", "Decide", "B", "Compare", key=Qt.Key.Key_B),
    Command("A word on it", "Decide", "R", "Compare", key=Qt.Key.Key_R),
    Command("Add a hazard, or a condition for the next pass…", "Decide", "H", "Compare", key=Qt.Key.Key_H),
    Command("Parts that don't count…", "Decide", "X", "Compare", key=Qt.Key.Key_X),
    Command("Decisions without a place…", "Decide", run=lambda w: w.show_lost_decisions()),
    Command("Undo", "Decide", "Ctrl+Z", run=lambda w: w.undo()),
    Command("Redo", "Decide", "Ctrl+Shift+Z", run=lambda w: w.redo()),
    Command("Hear it from before the call, or stop", "Hear", "Space", "Compare", key=Qt.Key.Key_Space),
    Command("One picture on", "Hear", ".", "Compare", key=Qt.Key.Key_Period),
    Command("One picture back", "Hear", ",", "Compare", key=Qt.Key.Key_Comma),
    Command("The video in a window of its own, or back", "Hear", "W", "Compare", key=Qt.Key.Key_W),
    Command("Find when each note was called, from the sound", "Hear", run=lambda w: w.listen()),
    Command("Half speed", "Hear", "S", "Compare", key=Qt.Key.Key_S),
    Command("The note is right as it is, and on to the next unsure one", "Line up", "Enter", "Line up", key=Qt.Key.Key_Return),
    Command("Hear a call that was found in the sound", "Line up", "Space", "Line up", key=Qt.Key.Key_Space),
    Command("It is as it says: a call, left out, or nothing to keep", "Line up", "A", "Line up", key=Qt.Key.Key_A),
    Command("Write down what is said there", "Line up", "R", "Line up", key=Qt.Key.Key_R),
    Command("The next call worth listening to", "Line up", "L", "Line up", key=Qt.Key.Key_L),
    Command("See the note in Compare", "Line up", "C", "Line up", key=Qt.Key.Key_C),
    Command("The next unsure note", "Line up", "U", "Line up", key=Qt.Key.Key_U),
    Command("Put the note on the bend before", "Line up", "←", "Line up", key=Qt.Key.Key_Left),
    Command("Put the note on the next bend", "Line up", "→", "Line up", key=Qt.Key.Key_Right),
    Command("No bend answers it", "Line up", "0", "Line up", key=Qt.Key.Key_0),
    Command("Take the pin out: Mirkle places the note again", "Line up", "Backspace", "Line up", key=Qt.Key.Key_Backspace),
    Command("Watch the video, note by note", "By eye", "Ctrl+E", "By eye", run=lambda w: w.go_to("By eye")),
    Command("As it was called", "By eye", "A", "By eye", key=Qt.Key.Key_A),
    Command("Tighter, one grade for each press", "By eye", "T", "By eye", key=Qt.Key.Key_T),
    Command("More open", "By eye", "O", "By eye", key=Qt.Key.Key_O),
    Command("To the other side", "By eye", "S", "By eye", key=Qt.Key.Key_S),
    Command("Longer", "By eye", "L", "By eye", key=Qt.Key.Key_L),
    Command("Shorter", "By eye", "K", "By eye", key=Qt.Key.Key_K),
    Command("A note is missing", "By eye", "M", "By eye", key=Qt.Key.Key_M),
    Command("A hazard is there", "By eye", "H", "By eye", key=Qt.Key.Key_H),
    Command("The note is called now", "By eye", "C", "By eye", key=Qt.Key.Key_C),
    Command("The next note that is open", "By eye", "N", "By eye", key=Qt.Key.Key_N),
    Command("Faster, or slower", "By eye", "F", "By eye", key=Qt.Key.Key_F),
    Command("A page of the paper book begins at the note, or no longer", "Book", "G", "Book", key=Qt.Key.Key_G),
    Command("See the change card, and print it…", "Book", run=lambda w: w.preview("card")),
    Command("See the new book, and print it…", "Book", run=lambda w: w.preview("book")),
    Command("Start, or stop", "Rehearse", "Enter", "Rehearse", key=Qt.Key.Key_Return),
    Command("It is called now", "Rehearse", "Space", "Rehearse", key=Qt.Key.Key_Space),
    Command("Read along", "Rehearse", "R", "Rehearse", key=Qt.Key.Key_R),
    Command("Call it", "Rehearse", "C", "Rehearse", key=Qt.Key.Key_C),
    Command("Listen", "Rehearse", "L", "Rehearse", key=Qt.Key.Key_L),
    Command("The whole stage, or the changed places", "Rehearse", "X", "Rehearse", key=Qt.Key.Key_X),
    Command("We are both here", "Rehearse", "B", "Rehearse", key=Qt.Key.Key_B),
    Command("Calls are heard instead of pressed", "Rehearse", "V", "Rehearse", key=Qt.Key.Key_V),
    Command("Half speed, or not", "Rehearse", "H", "Rehearse", key=Qt.Key.Key_H),
    Command("The worst place again", "Rehearse", "1", "Rehearse", key=Qt.Key.Key_1),
    Command("Keep the change", "Passes", "K", "Passes", key=Qt.Key.Key_K),
    Command("Put back what stood", "Passes", "O", "Passes", key=Qt.Key.Key_O),
    Command("Correct further", "Passes", "E", "Passes", key=Qt.Key.Key_E),
    Command("Talk it over", "Passes", "T", "Passes", key=Qt.Key.Key_T),
    Command("See it in Compare", "Passes", "C", "Passes", key=Qt.Key.Key_C),
    Command("The season's counts…", "Passes", needs_stage=False, run=lambda w: w.show_season()),
    Command("Road, plan or video", "View", "M", "Compare", key=Qt.Key.Key_M),
    Command("Nearer", "View", "+", "Compare", key=Qt.Key.Key_Plus),
    Command("Farther", "View", "−", "Compare", key=Qt.Key.Key_Minus),
    Command("Light or night", "View", "Ctrl+L", needs_stage=False, run=lambda w: w.change_theme()),
    Command("Settings…", "View", "Ctrl+,", needs_stage=False, run=lambda w: w.change_settings()),
    Command("All keys", "Help", "F1", needs_stage=False, run=lambda w: w.show_keys()),
    Command("The job in order", "Help", "Shift+F1", needs_stage=False, run=lambda w: w.show_guide()),
    Command("What the marks mean", "Help", needs_stage=False, run=lambda w: w.show_marks()),
    Command("Before you trust a number", "Help", needs_stage=False, run=lambda w: w.show_cautions()),
    Command("About Mirkle", "Help", needs_stage=False, run=lambda w: w.show_about()),
)


def use(command: Command, window: Window) -> None:
    """Does a command: by the window, or by its key pressed in its place."""
    if command.run is not None:
        command.run(window)
        return
    assert command.key is not None
    window.go_to(command.where)
    place = window.stack.currentWidget()
    for kind in (QKeyEvent.Type.KeyPress, QKeyEvent.Type.KeyRelease):
        QApplication.sendEvent(place, QKeyEvent(kind, command.key, Qt.KeyboardModifier.NoModifier))
