"""The dialogs that commands open over the window; each is imported when it is first wanted, so that the window is there sooner."""

from __future__ import annotations

from typing import TYPE_CHECKING

from mirkle.session.shelf import keep_summary

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


def show_season(window: Window) -> None:
    """How the changes of each stage turned out, and which stages count."""
    from mirkle.gui.pages.season import SeasonDialog

    SeasonDialog(window).exec()
    window.workspace.forget_passes()
    if window.header.place == "Passes":
        window.workspace.follow()


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
