"""What only the crew can answer about its files, asked in dialogs."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from mirkle.files.recordings.columns import UnknownColumns
from mirkle.gui.controls import ask
from mirkle.gui.theme import Theme
from mirkle.gui.translation import tr, tr_message
from mirkle.session.assign_files import Intake
from mirkle.session.import_files import UnlikeNotes


class DialogQuestions:
    """The questions of a :class:`mirkle.session.workspace.Workspace`, over a window."""

    def __init__(self, window: QWidget, theme: Theme) -> None:
        self._window, self.theme = window, theme

    def columns(self, fault: UnknownColumns) -> list[str] | None:
        """What the columns of a table hold; ``None`` where nobody says."""
        from mirkle.gui.dialogs.columns import ColumnsDialog

        dialog = ColumnsDialog(fault, self._window)
        return dialog.names if dialog.exec() else None

    def is_the_book(self, fault: UnlikeNotes) -> bool:
        """Whether a text of which much is not understood is the book."""
        question = f"{fault.path.name}: {tr_message(fault.doubt)}"
        return ask(self._window, question, {"yes": tr("It is the book"), "no": tr("Leave it out")}) == "yes"

    def files(self, intake: Intake) -> Intake | None:
        """Where each file belongs; ``None`` where they are not taken in."""
        from mirkle.gui.dialogs.assign_files import IntakeDialog

        dialog = IntakeDialog(intake, self.theme, self._window)
        return dialog.intake if dialog.exec() else None

    def joins(self, stage: str) -> bool:
        """Whether a new recording of the road of a stage on the shelf becomes a pass of that stage, rather than a new one."""
        question = tr("This is the road of your stage “{0}”. Its notes, decisions and conditions are there.", stage)
        return ask(self._window, question, {"yes": tr("Add it as a pass of “{0}”", stage), "no": tr("Begin a new stage")}) == "yes"

    def was_due(self, stage: str) -> bool:
        """Whether a recording is of the stage that was due when it was made."""
        question = tr("“{0}” was due when this was recorded. Its notes and decisions are there.", stage)
        return ask(self._window, question, {"yes": tr("Add it as a pass of “{0}”", stage), "no": tr("It is another stage")}) == "yes"

    def has_this_book(self, stage: str) -> bool:
        """Whether new files are of the stage on the shelf that has their book."""
        question = tr("Your stage “{0}” has this book. Its passes and decisions are there.", stage)
        return ask(self._window, question, {"yes": tr("Add it to “{0}”", stage), "no": tr("Begin a new stage")}) == "yes"

    def merge(self, copy: str, stage: str) -> bool | None:
        """Whether a file that is a copy of a stage is merged into it, or opened as it is; ``None`` where neither."""
        question = tr("“{0}” is a copy of your stage “{1}”. Merging adds what was decided in the copy; nothing is lost.", copy, stage)
        answers = {"merge": tr("Merge it"), "open": tr("Open the copy"), "back": tr("Back")}
        return {"merge": True, "open": False}.get(ask(self._window, question, answers))
