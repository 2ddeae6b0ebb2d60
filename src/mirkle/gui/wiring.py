"""What is pressed in the window goes to the workspace, and what the workspace says is shown."""

from __future__ import annotations

from typing import TYPE_CHECKING

from mirkle.gui.dialogs import show

if TYPE_CHECKING:
    from mirkle.gui.window import Window


def join(window: Window) -> None:
    """Joins what is pressed to the workspace, and what the workspace says to what is shown."""
    gather, header, workspace, opening = window.gather, window.header, window.workspace, window.workspace.opening
    window.files_dropped.connect(opening.take_files)
    gather.files_given.connect(opening.take_files)
    gather.demo_wanted.connect(opening.open_demo)
    gather.typing_wanted.connect(window.type_notes)
    gather.blanks_wanted.connect(window.begin_book)
    gather.settled.connect(workspace.add_crew)
    gather.limits_wanted.connect(workspace.set_limits)
    gather.about_pass_typed.connect(lambda told: workspace.on_stage(lambda s: s.tell_of_pass(**told)))
    gather.stage_wanted.connect(opening.open_project)
    gather.shelf.new_wanted.connect(opening.new_stage)
    gather.new_stage_wanted.connect(opening.take_files_as_new)
    gather.hear_wanted.connect(lambda sound_s: window.pages.compare.hear(sound_s) if window.pages.compare is not None else None)
    gather.compare_wanted.connect(lambda: window.go_to("Compare"))
    gather.change_wanted.connect(window.change_note)
    header.place_wanted.connect(window.go_to)
    header.pass_wanted.connect(workspace.change_pass)
    header.danger_wanted.connect(window.go_to_danger)
    header.lost_wanted.connect(lambda: show.show_lost_decisions(window))
    header.conflicts_wanted.connect(lambda: show.show_conflicts(window))
    window.status.stopped.connect(workspace.work.cancel)
    workspace.shown.connect(window.show_pass)
    workspace.cleared.connect(window.show_nothing)
    workspace.gathered.connect(window.show_gathered)
    workspace.rallies.opened.connect(lambda: window.pages.leave("Rally"))
    workspace.rallies.shown.connect(lambda: window.go_to("Rally"))
    workspace.failed.connect(window.show_fault)
    workspace.notice.connect(window.tell)
    workspace.changed.connect(window.show_header)
    workspace.followed.connect(window.show_followed)
    workspace.work.began.connect(window.begin_work)
    workspace.work.progressed.connect(window.show_progress)
    workspace.work.ended.connect(window.end_work)
    workspace.work.queued.connect(window.show_queued)
