"""The dialogs that commands open over the window; each is imported when it is first wanted, so that the window is there sooner."""

from __future__ import annotations

from datetime import date
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QFileDialog

from mirkle.gui.controls import ask
from mirkle.gui.translation import tr
from mirkle.session import crew_records
from mirkle.session.shelf import shelf, shelved
from mirkle.session.stage_summary import keep_summary

if TYPE_CHECKING:
    from mirkle.gui.window import Window


def show_keys(window: Window) -> None:
    """Every key."""
    from mirkle.gui.dialogs.cautions_and_keys import Keys

    Keys(window.theme, window).exec()


def show_marks(window: Window) -> None:
    """What every mark means."""
    from mirkle.gui.dialogs.cautions_and_keys import Marks

    Marks(window.theme, window).exec()


def show_guide(window: Window) -> None:
    """The guide, at the page of the screen that is shown."""
    from mirkle.gui.pages.guide import Guide

    place = getattr(window.stack.currentWidget(), "place", "")
    Guide(place if window.stage is not None else "", window).exec()


def show_cautions(window: Window) -> None:
    """What a crew must know before it trusts a number."""
    from mirkle.gui.dialogs.cautions_and_keys import Cautions

    Cautions(window).exec()


def show_about(window: Window) -> None:
    """Version, licence, and where the work is kept."""
    from mirkle.gui.dialogs.cautions_and_keys import About

    About(window).exec()


def show_lost_decisions(window: Window) -> None:
    """Decisions that have no place any more, to be put back by hand."""
    if window.reviewed is not None:
        from mirkle.gui.pages.lost_decisions import LostDecisionsDialog

        LostDecisionsDialog(window.reviewed, window).exec()


def show_debrief(window: Window) -> None:
    """What the crew said that is no note."""
    if window.reviewed is not None:
        from mirkle.gui.pages.debrief import DebriefDialog

        dialog = DebriefDialog(window.reviewed, window.theme, window)
        dialog.exec()
        # Its page listens to the stage.
        dialog.deleteLater()


def show_conflicts(window: Window) -> None:
    """Decisions of two copies of the stage that disagree, to choose between."""
    if window.stage is not None:
        from mirkle.gui.pages.conflicts import ConflictsDialog

        ConflictsDialog(window.stage, window).exec()


def show_rally(window: Window) -> None:
    """The rally that is open, the last one, or a new one."""
    if window.workspace.rally is None and not window.workspace.rallies.open_last():
        choose_rally(window)
    if window.workspace.rally is not None:
        window.go_to("Rally")


def choose_rally(window: Window) -> None:
    """Another rally, or a new one."""
    from mirkle.gui.dialogs.choose import choose_or_name

    rallies = {str(path): name for path, name in window.workspace.rallies.known()}
    words = (tr("Your rallies"), tr("Or a new one, by its name")) if rallies else (tr("Begin a rally"), tr("Its name"))
    chosen, fresh = choose_or_name(window, *words, rallies)
    if chosen:
        window.workspace.rallies.open(Path(chosen))
    elif fresh:
        window.workspace.rallies.begin(fresh)
    if (chosen or fresh) and window.workspace.rally is not None:
        window.go_to("Rally")
    if fresh and not chosen:
        type_itinerary(window)


def type_itinerary(window: Window) -> None:
    """The itinerary of the rally, to be typed."""
    from mirkle.gui.dialogs.itinerary import ItineraryDialog

    if window.workspace.rally is not None:
        ItineraryDialog(window.workspace.rally, date.today(), window).exec()


def name_stage(window: Window) -> None:
    """A stage of which nothing is there but its name: its book is typed next."""
    from mirkle.gui.dialogs.choose import choose_or_name

    _, name = choose_or_name(window, tr("New stage"), tr("Its name; then type in its notes"), {})
    if name:
        window.begin_titled(name)


def begin_or_choose_stage(window: Window, name: str) -> None:
    """What a stage of the itinerary without a file is: one of the shelf, or a new one, whose notes are typed in."""
    question = tr("Nothing of “{0}” is here yet. Drop its notes and recording on the window, or:", name)
    answers = {"type": tr("Type in its notes"), "choose": tr("It is one of your stages…"), "back": tr("Back")}
    answer = ask(window, question, answers)
    if answer == "type":
        window.begin_titled(name)
    elif answer == "choose":
        choose_stage(window, name)


def choose_stage(window: Window, name: str) -> None:
    """Which stage of the shelf a stage of the itinerary is."""
    from mirkle.gui.dialogs.choose import choose_or_name

    rally = window.workspace.rally
    stages = {str(one.path): one.name for one in shelf() if one.identity}
    chosen, _ = choose_or_name(window, tr("Which of your stages is “{0}”?", name), "", stages)
    if rally is not None and chosen:
        rally.assign(name, shelved(Path(chosen)))


def open_neighbour(window: Window, by: int) -> None:
    """Opens the next stage of the rally that has a file, or the one before."""
    path = window.workspace.rallies.neighbour(by)
    if path is not None:
        window.workspace.opening.open_project(path)
    else:
        window.status.tell(tr("There is no other stage in that direction."))


def write_rally(window: Window) -> None:
    """The rally with all its stages as one file, for another computer."""
    rally = window.workspace.rally
    if rally is not None:
        name, _ = QFileDialog.getSaveFileName(window, tr("The rally as one file"), f"{rally.name}.zip", "(*.zip)")
        if name:
            window.workspace.rallies.write(Path(name))


def show_season(window: Window) -> None:
    """How the changes of each stage turned out, and which stages count."""
    from mirkle.gui.pages.season import SeasonDialog

    SeasonDialog(window).exec()
    window.workspace.forget_passes()
    if window.header.place == "Passes":
        window.workspace.follow()


def show_habits(window: Window) -> None:
    """Where the crew's notes differ from the road systematically, and its profile."""
    from mirkle.gui.pages.habits import HabitsDialog

    dialog = HabitsDialog(window.theme, window)
    dialog.place_wanted.connect(window.workspace.look_at_note)
    dialog.judging_wanted.connect(window.workspace.judge_by_profile)
    dialog.book_wanted.connect(window.fill_in_book)
    dialog.judge_button.setVisible(window.reviewed is not None)
    before = crew_records.chosen_crew()
    dialog.exec()
    window.workspace.crew_chosen(before)


def find(window: Window) -> None:
    """The dialog in which findings and notes are found."""
    if window.reviewed is not None:
        from mirkle.gui.pages.find import FindDialog

        dialog = FindDialog(window.reviewed, window)
        dialog.went.connect(lambda: window.go_to("Compare"))
        dialog.exec()


def show_shelf(window: Window) -> None:
    """The crew's stages, to open another."""
    from mirkle.gui.pages.shelf import ShelfDialog

    stage, opening = window.stage, window.workspace.opening
    if stage is not None:
        # What is left is counted as of now.
        keep_summary(stage)
    dialog = ShelfDialog(stage.project.path if stage is not None else None, window)
    dialog.exec()
    if dialog.new:
        opening.new_stage()
    elif dialog.chosen is not None:
        opening.open_project(dialog.chosen)


def change_settings(window: Window) -> None:
    """The settings; what was set is done."""
    from mirkle.gui.pages.settings import SettingsDialog

    dialog = SettingsDialog(window)
    if dialog.exec():
        window.take_settings()
        if dialog.again:
            window.again_wanted.emit()


def set_parts(window: Window, dragged: object = None) -> None:
    """Asks which parts of the pass don't count; one of them may have been dragged."""
    stage = window.reviewed
    if stage is None:
        return
    from mirkle.core.judging.parts import Part
    from mirkle.gui.dialogs.excluded_parts import PartsDialog

    parts = window.workspace.parts()
    dialog = PartsDialog([*parts, dragged] if isinstance(dragged, Part) else parts, stage.review.finish_m, window)
    if dialog.exec():
        window.workspace.set_parts(dialog.parts)
