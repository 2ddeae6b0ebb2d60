"""Every command once: its name, its keys, where they work, what it needs and what it does. Menu, keys, help and guide are made from here.

A page's commands run on the page, those of the window on the window. No other module handles a key: :mod:`mirkle.gui.keys` looks a pressed
key up in this table.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, Literal

from mirkle.core.messages import gettext_noop
from mirkle.gui.dialogs import show

if TYPE_CHECKING:
    from mirkle.gui.window import Window

Group = Literal["Stage", "Rally", "Go", "Decide", "Hear", "Line up", "By eye", "Book", "Rehearse", "Passes", "View", "Help"]
# Where a command's keys work: in the whole window, on a page, in a part of one, or in a field.
Place = Literal[
    "window",
    "Rally",
    "Gather",
    "Words to settle",
    "Compare",
    "Line up",
    "By eye",
    "Book",
    "Rehearse",
    "Passes",
    "Typing",
    "Find",
    "Conflicts",
    "Debrief",
    "Debrief field",
    "Video window",
    "Note field",
    "Remark field",
    "By eye field",
    "Book field",
]
PAGES: tuple[Place, ...] = ("Rally", "Gather", "Line up", "Compare", "Book", "Rehearse", "Passes", "By eye")


@dataclass(frozen=True)
class Need:
    """What has to be there before a command can run, and the sentence that says so where it is not."""

    there: Callable[[Window], bool]
    otherwise: str


NOTHING = Need(lambda _: True, "")
A_STAGE = Need(lambda w: w.stage is not None, gettext_noop("Open a stage first."))
A_BOOK = Need(lambda w: w.workspace.has_book, gettext_noop("Open your notes first."))
A_RECORDING = Need(lambda w: w.reviewed is not None, gettext_noop("This needs a recording of the pass."))
A_VIDEO = Need(lambda w: w.workspace.has_video, gettext_noop("This needs a video of the pass."))
A_RALLY = Need(lambda w: w.workspace.rally is not None, gettext_noop("Begin a rally first."))
SOMETHING_DONE = Need(lambda w: bool((stage := w.workspace.with_book) and stage.book.history), gettext_noop("There is nothing to undo."))
SOMETHING_UNDONE = Need(lambda w: bool((stage := w.workspace.with_book) and stage.book.undone), gettext_noop("There is nothing to redo."))
# What each page needs; parts and fields belong to pages that are shown.
NEEDS: dict[Place, Need] = {
    "Compare": A_RECORDING,
    "Line up": A_RECORDING,
    "By eye": A_VIDEO,
    "Rehearse": A_BOOK,
    "Book": A_BOOK,
    "Passes": A_STAGE,
    "Rally": A_RALLY,
}
SHOWN_KEYS = {
    "Return": "Enter",
    "Up": "↑",
    "Down": "↓",
    "Left": "←",
    "Right": "→",
    "-": "−",
    "Shift+Down": "Shift+↓",
    "Shift+Up": "Shift+↑",
    "Ctrl+Down": "Ctrl+↓",
    "Ctrl+Up": "Ctrl+↑",
    "PgDown": "Page ↓",
    "PgUp": "Page ↑",
    "Ctrl+Return": "Ctrl+Enter",
}


@dataclass(frozen=True)
class Command:
    """A command. ``keys`` are written as Qt writes them, the first is the one that is shown. ``run`` gets the window, or the page (part,
    field) that it belongs to; ``ready`` tells of that page whether it can run now, and ``otherwise`` says why not. One with a menu entry
    goes to its page first. ``need`` is what the window must have, by default what its page needs. A
    key that is held down ``repeats`` it, unless it decides something.
    """

    name: str
    group: Group
    keys: tuple[str, ...]
    place: Place
    run: Callable[[Any], object]
    ready: Callable[[Any], bool] = lambda _: True
    otherwise: str = ""
    need: Need | None = None
    in_menu: bool = True
    repeats: bool = True

    @property
    def shown_keys(self) -> str:
        """The key as it is printed on a keyboard; empty where it has none."""
        return SHOWN_KEYS.get(self.keys[0], self.keys[0]) if self.keys else ""

    def hindrance(self, window: Window) -> str:
        """Why it can't run now; empty where it can."""
        need = self.need or NEEDS.get(self.place, NOTHING)
        return "" if need.there(window) else need.otherwise


def _stage(name: str, keys: str, run: Callable[[Window], object], group: Group = "Stage") -> Command:
    """A command of the window that needs no stage."""
    return Command(name, group, (keys,) if keys else (), "window", run, need=NOTHING)


def _of_finding(name: str, keys: tuple[str, ...], run: Callable[[Any], object]) -> Command:
    """A command of Compare on the chosen finding."""
    return Command(name, "Decide", keys, "Compare", run, lambda c: c.stage.finding is not None, NO_FINDING, repeats=False)


def _hidden(name: str, group: Group, keys: tuple[str, ...], place: Place, run: Callable[[Any], object]) -> Command:
    """A key that needs no menu entry."""
    return Command(name, group, keys, place, run, in_menu=False)


NO_FINDING = gettext_noop("No finding is chosen.")
NO_PICTURE = gettext_noop("This pass has no video.")
NOT_HEARD = gettext_noop("No calls were found in the sound of this pass.")
NO_ITEM = gettext_noop("Nothing of the itinerary is chosen.")
NO_ROW = gettext_noop("No change is chosen.")
# How many notes a page up or down is.
PAGE_OF_NOTES = 12

GROUPS: tuple[Group, ...] = (
    gettext_noop("Stage"),
    gettext_noop("Rally"),
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


def _has_item(page: Any) -> bool:
    """Whether an item of the itinerary is chosen."""
    return page.chosen is not None


def _with(run: Callable[[Any, Any], object], value: object) -> Callable[[Any], object]:
    """What is run of a page with a value."""
    return lambda page: run(page, value)


def _note_steps(place: Place, step: Callable[[Any, int], object]) -> tuple[Command, ...]:
    """Up and down the notes of a page, one by one or twelve at a time."""
    rows = (
        (gettext_noop("Next note"), "Down", 1),
        (gettext_noop("Previous note"), "Up", -1),
        (gettext_noop("Twelve notes on"), "PgDown", PAGE_OF_NOTES),
        (gettext_noop("Twelve notes back"), "PgUp", -PAGE_OF_NOTES),
    )
    return tuple(Command(name, "Go", (key,), place, _with(step, by), in_menu=place == "Compare" and abs(by) == 1) for name, key, by in rows)


COMMANDS: tuple[Command, ...] = (
    _stage("Open files…", "Ctrl+O", lambda w: w.gather.choose_files()),
    _stage("New stage", "Ctrl+N", lambda w: w.workspace.opening.new_stage()),
    _stage("New stage by its name…", "", lambda w: show.name_stage(w)),
    _stage("Your stages…", "Ctrl+Shift+O", lambda w: show.show_shelf(w)),
    _stage("Type in your notes…", "", lambda w: w.type_notes()),
    _stage("Show the demo stage", "", lambda w: w.workspace.opening.open_demo()),
    _stage("Show the demo of a first book", "", lambda w: w.workspace.open_first_book()),
    _stage("Quit", "Ctrl+Q", lambda w: w.close()),
    _hidden("Go on to the next page", "Stage", ("Return", "Enter"), "Gather", lambda g: g.go_on()),
    _hidden("Answer 1 for the word", "Stage", ("1",), "Words to settle", lambda p: p.choose(0)),
    _hidden("Answer 2 for the word", "Stage", ("2",), "Words to settle", lambda p: p.choose(1)),
    _hidden("Answer 3 for the word", "Stage", ("3",), "Words to settle", lambda p: p.choose(2)),
    _hidden("Answer 4 for the word", "Stage", ("4",), "Words to settle", lambda p: p.choose(3)),
    _hidden("Answer 5 for the word", "Stage", ("5",), "Words to settle", lambda p: p.choose(4)),
    _hidden("It is as it was read", "Stage", ("Return", "Enter"), "Words to settle", lambda p: p.accept()),
    _hidden("Leave the word as it is", "Stage", ("L",), "Words to settle", lambda p: p.leave_word()),
    _hidden("Change the note", "Stage", ("E",), "Words to settle", lambda p: p.change_note()),
    _hidden("Hear the word", "Stage", ("Space",), "Words to settle", lambda p: p.hear_word()),
    _hidden("Use these notes", "Stage", ("Ctrl+S",), "Typing", lambda t: t.finish()),
    _hidden("A new page begins here", "Stage", ("Ctrl+Return", "Ctrl+Enter"), "Typing", lambda t: t.begin_page()),
    _hidden("The next blank", "Stage", ("Ctrl+B",), "Typing", lambda t: t.next_blank()),
    _hidden("Grade the rest by our scale", "Stage", ("Ctrl+G",), "Typing", lambda t: t.grade_the_rest()),
    _hidden("A new line, and the next call", "Stage", ("Return", "Enter"), "Typing", lambda t: t.next_line()),
    _hidden("Play the call again", "Stage", ("Ctrl+Space",), "Typing", lambda t: t.play_call(0)),
    _hidden("Play the next call", "Stage", ("Ctrl+Down",), "Typing", lambda t: t.play_call(1)),
    _hidden("Play the call before", "Stage", ("Ctrl+Up",), "Typing", lambda t: t.play_call(-1)),
    Command("Next finding", "Go", ("N",), "Compare", lambda c: c.stage.step(1)),
    Command("Previous finding", "Go", ("P",), "Compare", lambda c: c.stage.step(-1)),
    Command("First finding", "Go", ("Home",), "Compare", lambda c: c.choose_listed(0)),
    Command("Last finding", "Go", ("End",), "Compare", lambda c: c.choose_listed(-1)),
    Command("Next danger", "Go", ("D",), "Compare", lambda c: c.stage.next_danger()),
    *_note_steps("Compare", lambda c, by: c.page.step(by)),
    Command("Find…", "Go", ("Ctrl+F",), "window", lambda w: show.find(w), need=A_RECORDING),
    _hidden("Next one found", "Go", ("Down",), "Find", lambda f: f.step(1)),
    _hidden("Previous one found", "Go", ("Up",), "Find", lambda f: f.step(-1)),
    _hidden("Ten found ones on", "Go", ("PgDown",), "Find", lambda f: f.step(10)),
    _hidden("Ten found ones back", "Go", ("PgUp",), "Find", lambda f: f.step(-10)),
    _stage("Rally", "Ctrl+0", lambda w: show.show_rally(w), "Rally"),
    _stage("Show the demo rally", "", lambda w: w.workspace.rallies.open_demo(), "Rally"),
    _stage("Another rally…", "", lambda w: show.choose_rally(w), "Rally"),
    Command("Open the stage", "Rally", ("Return", "Enter"), "Rally", lambda p: p.open_stage(), _has_item, NO_ITEM),
    Command("Edit the itinerary…", "Rally", ("E",), "Rally", lambda p: p.edit()),
    Command("Later by 5 minutes", "Rally", ("+", "="), "Rally", lambda p: p.move(5), _has_item, NO_ITEM),
    Command("Earlier by 5 minutes", "Rally", ("-",), "Rally", lambda p: p.move(-5), _has_item, NO_ITEM),
    Command("Longer by 5 minutes", "Rally", ("L",), "Rally", lambda p: p.stretch(5), _has_item, NO_ITEM),
    Command("Shorter by 5 minutes", "Rally", ("J",), "Rally", lambda p: p.stretch(-5), _has_item, NO_ITEM),
    Command(
        "Cancelled, or driven after all", "Rally", ("X",), "Rally", lambda p: p.turn_cancelled(), lambda p: p.chosen is not None, NO_ITEM
    ),
    Command("Which stage it is…", "Rally", ("W",), "Rally", lambda p: p.ask_which(), _has_item, NO_ITEM),
    _hidden("Next item", "Rally", ("Down", "N"), "Rally", lambda p: p.step(1)),
    _hidden("Previous item", "Rally", ("Up", "P"), "Rally", lambda p: p.step(-1)),
    Command("Next stage of the rally", "Rally", ("Ctrl+PgDown",), "window", lambda w: show.open_neighbour(w, 1), need=A_RALLY),
    Command("Previous stage of the rally", "Rally", ("Ctrl+PgUp",), "window", lambda w: show.open_neighbour(w, -1), need=A_RALLY),
    Command("The rally as one file…", "Rally", (), "window", lambda w: show.write_rally(w), need=A_RALLY),
    _stage("Gather", "Ctrl+1", lambda w: w.go_to("Gather"), "Go"),
    Command("Line up", "Go", ("Ctrl+2",), "window", lambda w: w.go_to("Line up"), need=A_RECORDING),
    Command("Compare", "Go", ("Ctrl+3",), "window", lambda w: w.go_to("Compare"), need=A_STAGE),
    Command("Book", "Go", ("Ctrl+4",), "window", lambda w: w.go_to("Book"), need=A_BOOK),
    Command("Rehearse", "Go", ("Ctrl+5",), "window", lambda w: w.go_to("Rehearse"), need=A_BOOK),
    Command("Passes", "Go", ("Ctrl+6",), "window", lambda w: w.go_to("Passes"), need=A_STAGE),
    _of_finding("Write the change into the book", ("Return", "Enter"), lambda c: c.answer("mark")),
    _of_finding("Keep the note", ("K",), lambda c: c.answer("keep")),
    _of_finding("Talk about it later", ("T",), lambda c: c.answer("talk")),
    Command("Look at it on the video", "Decide", ("V",), "Compare", lambda c: c.look_at_video()),
    _of_finding("Mark it to be looked at on the video", ("Shift+V",), lambda c: c.answer("video")),
    Command("Edit the note", "Decide", ("E",), "Compare", lambda c: c.edit_note()),
    _of_finding("Who agreed", ("B",), lambda c: c.evidence.next_by()),
    _of_finding("Remark", ("R",), lambda c: c.evidence.remark.setFocus()),
    Command("Add a hazard or a condition…", "Decide", ("H",), "Compare", lambda c: c.add_hazard()),
    Command("Parts that don't count…", "Decide", ("X",), "Compare", lambda c: c.parts_wanted.emit(None)),
    Command("What you said…", "Decide", ("Q",), "Compare", lambda c: show.show_debrief(c.window())),
    _hidden("Put the words on the note", "Decide", ("Return", "Enter"), "Debrief", lambda d: d.put_chosen()),
    _hidden("These words are about no note", "Decide", ("0",), "Debrief", lambda d: d.take_off()),
    _hidden("The next note", "Decide", ("Right",), "Debrief", lambda d: d.step_note(1)),
    _hidden("The note before", "Decide", ("Left",), "Debrief", lambda d: d.step_note(-1)),
    _hidden("Add what you remember", "Decide", ("Return", "Enter"), "Debrief field", lambda d: d.add_typed()),
    _hidden("Leave the field", "Decide", ("Esc",), "Debrief field", lambda d: d.leave_field()),
    Command("Decisions without a place…", "Decide", (), "window", lambda w: show.show_lost_decisions(w), need=A_RECORDING),
    Command("Decided differently in two copies…", "Decide", (), "window", lambda w: show.show_conflicts(w), need=A_STAGE),
    _hidden("Keep the first decision", "Decide", ("1",), "Conflicts", lambda d: d.keep(0)),
    _hidden("Keep the second decision", "Decide", ("2",), "Conflicts", lambda d: d.keep(1)),
    Command("Undo", "Decide", ("Ctrl+Z",), "window", lambda w: w.undo(), need=SOMETHING_DONE),
    Command("Redo", "Decide", ("Ctrl+Shift+Z",), "window", lambda w: w.redo(), need=SOMETHING_UNDONE),
    _hidden("Write the change from the field", "Decide", ("Return", "Enter"), "Note field", lambda e: e.mark_from_field()),
    _hidden("Leave the field, and what was typed", "Decide", ("Esc",), "Note field", lambda e: e.leave_field()),
    _hidden("Leave the remark", "Decide", ("Return", "Enter", "Esc"), "Remark field", lambda e: e.leave_remark()),
    Command("Play from before the call, or stop", "Hear", ("Space",), "Compare", lambda c: c.play_or_stop()),
    Command("One frame forward", "Hear", (".",), "Compare", lambda c: c.step_picture(1), lambda c: c.has_picture, NO_PICTURE),
    Command("One frame back", "Hear", (",",), "Compare", lambda c: c.step_picture(-1), lambda c: c.has_picture, NO_PICTURE),
    Command("Video in a separate window, or back", "Hear", ("W",), "Compare", lambda c: c.turn_video_out()),
    _hidden("Video on the whole screen", "Hear", ("F11",), "Video window", lambda v: v.turn_full_screen()),
    _hidden("Close the video's window", "Hear", ("Esc",), "Video window", lambda v: v.close()),
    Command("Find the calls in the sound", "Hear", (), "window", lambda w: w.workspace.listen(), need=A_STAGE),
    Command("Half speed", "Hear", ("S",), "Compare", lambda c: c.bar.half_button.toggle()),
    Command("This note is right: on to the next unsure one", "Line up", ("Return", "Enter"), "Line up", lambda p: p.confirm()),
    Command(
        "Play a call found in the sound",
        "Line up",
        ("Space",),
        "Line up",
        lambda p: p.listen.hear(),
        lambda p: p.listen.heard is not None,
        NOT_HEARD,
    ),
    Command("It is as shown", "Line up", ("A",), "Line up", lambda p: p.listen.accept(), lambda p: p.listen.heard is not None, NOT_HEARD),
    Command(
        "Write down what is said",
        "Line up",
        ("R",),
        "Line up",
        lambda p: p.listen.write_down(),
        lambda p: p.listen.heard is not None,
        NOT_HEARD,
    ),
    Command(
        "Next call to listen to", "Line up", ("L",), "Line up", lambda p: p.listen.step(1), lambda p: p.listen.heard is not None, NOT_HEARD
    ),
    Command("See the note in Compare", "Line up", ("C",), "Line up", lambda p: p.open_chosen()),
    Command("Next unsure note", "Line up", ("U",), "Line up", lambda p: p.next_unsure()),
    Command("Move the note to the bend before", "Line up", ("Left",), "Line up", lambda p: p.step(-1)),
    Command("Move the note to the next bend", "Line up", ("Right",), "Line up", lambda p: p.step(1)),
    Command("This note has no bend", "Line up", ("0",), "Line up", lambda p: p.pin_nowhere()),
    Command("Remove the pin: Mirkle places the note", "Line up", ("Backspace", "Del"), "Line up", lambda p: p.let_go()),
    *_note_steps("Line up", lambda p, by: p.step_notes(by)),
    Command("Watch the video, note by note", "By eye", ("Ctrl+E",), "window", lambda w: w.go_to("By eye"), need=A_VIDEO),
    Command("As called", "By eye", ("K",), "By eye", lambda p: p.answer("as-called")),
    Command("Tighter, one grade a press", "By eye", ("I",), "By eye", lambda p: p.answer("tighter")),
    Command("More open, one grade a press", "By eye", ("O",), "By eye", lambda p: p.answer("opener")),
    Command("Other side", "By eye", ("Y",), "By eye", lambda p: p.answer("other-side")),
    Command("Longer", "By eye", ("L",), "By eye", lambda p: p.answer("longer")),
    Command("Shorter", "By eye", ("J",), "By eye", lambda p: p.answer("shorter")),
    Command("A note is missing", "By eye", ("M",), "By eye", lambda p: p.answer("missing")),
    Command("A hazard here", "By eye", ("H",), "By eye", lambda p: p.answer("hazard")),
    Command("Called now", "By eye", ("C",), "By eye", lambda p: p.tap()),
    Command("Next open note", "By eye", ("N",), "By eye", lambda p: p.next_open()),
    Command("Playback speed", "By eye", ("S",), "By eye", lambda p: p.video.next_speed()),
    _hidden("Play this note, or stop", "By eye", ("Space",), "By eye", lambda p: p.play_or_stop()),
    _hidden("One frame back in the video", "By eye", (",",), "By eye", lambda p: p.video.step(-1)),
    _hidden("One frame forward in the video", "By eye", (".",), "By eye", lambda p: p.video.step(1)),
    _hidden("Write down what was seen", "By eye", ("Return", "Enter"), "By eye", lambda p: p.write()),
    _hidden("Talk about it later", "By eye", ("T",), "By eye", lambda p: p.talk_over()),
    _hidden("Leave what was begun", "By eye", ("Esc",), "By eye", lambda p: p.leave()),
    _hidden("Edit what was seen", "By eye", ("E",), "By eye", lambda p: p.edit()),
    _hidden("Who saw it", "By eye", ("B",), "By eye", lambda p: p.next_by()),
    _hidden("Write from the field what was seen", "By eye", ("Return", "Enter"), "By eye field", lambda p: p.write()),
    _hidden("Leave the field, and what was typed", "By eye", ("Esc",), "By eye field", lambda p: p.leave()),
    *_note_steps("By eye", lambda p, by: p.page.step(by)),
    *(_hidden(f"Grade {digit}", "By eye", (digit,), "By eye", _with(lambda p, d: p.type_grade(d), digit)) for digit in "0123456789"),
    Command("A page begins at this note, or no longer", "Book", ("G",), "Book", lambda p: p.turn()),
    Command("Pages turn on straights", "Book", ("Shift+G",), "Book", lambda p: p.turn_on_straights()),
    *_note_steps("Book", lambda p, by: p.page.step(by)),
    Command("Edit the note in the book", "Book", ("E",), "Book", lambda p: p.edit_note()),
    Command("Join it to the next note", "Book", ("Ctrl+J",), "Book", lambda p: p.join()),
    Command("Move it down", "Book", ("Shift+Down",), "Book", lambda p: p.move(1)),
    Command("Move it up", "Book", ("Shift+Up",), "Book", lambda p: p.move(-1)),
    _hidden("Write the note into the book", "Book", ("Return", "Enter"), "Book field", lambda p: p.write_note()),
    _hidden("Leave the note as it was", "Book", ("Esc",), "Book field", lambda p: p.leave_note()),
    Command("Change card…", "Book", (), "window", lambda w: w.preview("card"), need=A_BOOK),
    Command("New book…", "Book", (), "window", lambda w: w.preview("book"), need=A_BOOK),
    Command("Print all findings…", "Book", (), "window", lambda w: w.preview("findings"), need=A_RECORDING),
    Command("Start or stop", "Rehearse", ("Return", "Enter"), "Rehearse", lambda p: p.go_or_stop()),
    Command("Call now", "Rehearse", ("Space",), "Rehearse", lambda p: p.call_now(), repeats=False),
    Command("Read along", "Rehearse", ("R",), "Rehearse", lambda p: p.choose_way("read")),
    Command("Call it", "Rehearse", ("C",), "Rehearse", lambda p: p.choose_way("call")),
    Command("Listen", "Rehearse", ("L",), "Rehearse", lambda p: p.choose_way("listen")),
    Command("Whole stage, or only changed places", "Rehearse", ("X",), "Rehearse", lambda p: p.turn_whole()),
    Command("We are both here", "Rehearse", ("B",), "Rehearse", lambda p: p.both_box.toggle()),
    Command("Hear the calls instead of pressing a key", "Rehearse", ("V",), "Rehearse", lambda p: p.turn_voice()),
    Command("Half speed, or full", "Rehearse", ("S",), "Rehearse", lambda p: p.turn_half()),
    _hidden("Faster by 5 %", "Rehearse", ("+", "="), "Rehearse", lambda p: p.change_pace(5)),
    _hidden("Slower by 5 %", "Rehearse", ("-",), "Rehearse", lambda p: p.change_pace(-5)),
    Command("Repeat the worst place", "Rehearse", ("1",), "Rehearse", lambda p: p.do_again(0)),
    _hidden("Repeat the second worst place", "Rehearse", ("2",), "Rehearse", lambda p: p.do_again(1)),
    _hidden("Repeat the third worst place", "Rehearse", ("3",), "Rehearse", lambda p: p.do_again(2)),
    Command("Keep the change", "Passes", ("K",), "Passes", lambda p: p.keep(), lambda p: p.step is not None, NO_ROW),
    Command("Put the old note back", "Passes", ("O",), "Passes", lambda p: p.put_back(), lambda p: p.step is not None, NO_ROW),
    Command("Correct it further", "Passes", ("E",), "Passes", lambda p: p.correct(), lambda p: p.step is not None, NO_ROW),
    Command("Talk about it", "Passes", ("T",), "Passes", lambda p: p.talk(), lambda p: p.step is not None, NO_ROW),
    Command("See it in Compare", "Passes", ("C",), "Passes", lambda p: p.look(), lambda p: p.step is not None, NO_ROW),
    Command("Which notes hold", "Passes", ("B",), "Passes", lambda p: p.believe(), lambda p: p.step is not None, NO_ROW),
    _hidden("Leave the correction", "Passes", ("Esc",), "Passes", lambda p: p.leave_field()),
    _stage("Habits…", "", lambda w: show.show_habits(w), "Passes"),
    _stage("Season…", "", lambda w: show.show_season(w), "Passes"),
    Command("All figures of a finding, or only the answer", "View", ("F",), "Compare", lambda c: c.evidence.turn_more()),
    Command("Road, map or video", "View", ("M",), "Compare", lambda c: c.middle.next_view()),
    Command("Zoom in", "View", ("+", "="), "Compare", lambda c: c.middle.zoom(1)),
    Command("Zoom out", "View", ("-",), "Compare", lambda c: c.middle.zoom(-1)),
    _stage("Light or night", "Ctrl+L", lambda w: w.change_theme(), "View"),
    _stage("Settings…", "Ctrl+,", lambda w: show.change_settings(w), "View"),
    _stage("Keys", "F1", lambda w: show.show_keys(w), "Help"),
    _stage("Guide", "Shift+F1", lambda w: show.show_guide(w), "Help"),
    _stage("What the marks mean", "F2", lambda w: show.show_marks(w), "Help"),
    _stage("Cautions", "", lambda w: show.show_cautions(w), "Help"),
    _stage("About Mirkle", "", lambda w: show.show_about(w), "Help"),
)


def key_of(place: Place, name: str) -> str:
    """The key of a command as it is shown on its button."""
    return next(command.shown_keys for command in COMMANDS if (command.place, command.name) == (place, name))
