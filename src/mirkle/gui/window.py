"""The main window: the header with the pages, and what the workspace has open. Wiring: what is done is done by
:mod:`mirkle.session.workspace`, and shown by the pages."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import TYPE_CHECKING

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QCloseEvent
from PyQt6.QtWidgets import QApplication, QStackedWidget, QVBoxLayout, QWidget

from mirkle.core.errors import MirkleError
from mirkle.core.messages import Message, gettext_noop
from mirkle.gui import theme as themes
from mirkle.gui import window_place
from mirkle.gui.command_menu import CommandMenu
from mirkle.gui.commands import PAGES, Command
from mirkle.gui.controls import label
from mirkle.gui.dialogs import show
from mirkle.gui.dialogs.cautions_and_keys import Cautions
from mirkle.gui.dialogs.questions import DialogQuestions
from mirkle.gui.pages.compare import Compare
from mirkle.gui.pages.gather import Gather
from mirkle.gui.pages.lazy_pages import Pages
from mirkle.gui.translation import spoken, text_of, tr, tr_fault, tr_message
from mirkle.gui.views.drop_overlay import DropWindow
from mirkle.gui.views.header import Header
from mirkle.gui.views.status_line import StatusLine, place_words
from mirkle.gui.wiring import join
from mirkle.gui.worker import run_in_background
from mirkle.session import settings
from mirkle.session.left_place import leave, resume
from mirkle.session.open_files import ImportResult
from mirkle.session.open_pass import OpenPass
from mirkle.session.playback_clock import recording_s, sound_s
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.video_pass import VideoPass
from mirkle.session.workspace import HERE, Workspace

# Pages that a book without a recording has.
WITH_A_BOOK = ("Rehearse", "Book")

if TYPE_CHECKING:
    from mirkle.core.lineup.blanks import BlankBook
    from mirkle.core.notebook.decisions import Decision
    from mirkle.session.change_review import PassPair


class Window(DropWindow):
    """Shows what the workspace has open. ``opened`` is emitted when a stage is on the screen, ``again_wanted`` when the window has to be
    made anew."""

    opened = pyqtSignal()
    again_wanted = pyqtSignal()

    def __init__(self) -> None:
        self.theme = themes.NIGHT if settings.setting("theme", "paper") == "night" else themes.PAPER
        super().__init__(self.theme)
        self.setWindowTitle("Mirkle")
        window_place.put_back(self)
        self._questions = DialogQuestions(self, self.theme)
        self.workspace: Workspace = Workspace(run_in_background, self._questions)
        self.gather: Gather = Gather()
        self.stack, self.menu = QStackedWidget(), CommandMenu(self)
        self.stack.addWidget(self.gather)
        self.pages = Pages(self, self.stack)
        self.header, self.status, self.misfit = Header(self.menu), StatusLine(), label()
        self._shown: OpenPass | None = None
        self._lay_out()
        join(self)
        self.menu.fill(self.use)
        self.show_header()
        self.gather.setFocus()

    def _lay_out(self) -> None:
        desk = QWidget()
        desk.setObjectName("desk")
        column = QVBoxLayout(desk)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.misfit.setObjectName("misfit")
        self.misfit.setWordWrap(True)
        self.misfit.hide()
        column.addWidget(self.header)
        column.addWidget(self.misfit)
        column.addWidget(self.stack, 1)
        column.addWidget(self.status)
        self.setCentralWidget(desk)

    @property
    def stage(self) -> OpenPass | None:
        """The pass that is open."""
        return self.workspace.stage

    @property
    def reviewed(self) -> ReviewedPass | None:
        """The open pass, where a recording was reviewed."""
        return self.workspace.reviewed

    # Commands

    def use(self, command: Command) -> None:
        """Does a command where it can be done, on its page; else says why not."""
        hindrance = command.hindrance(self)
        if hindrance:
            self.status.tell(tr(hindrance))
            return
        if command.place == "window":
            command.run(self)
            return
        self.go_to(command.place)
        page = self.stack.currentWidget()
        if command.ready(page):
            command.run(page)
        else:
            self.status.tell(tr(command.otherwise))

    def undo(self) -> None:
        """Takes the last decision back, and says which."""
        self._step(OpenPass.undo, lambda stage: stage.book.history, gettext_noop("Undone: {0}"))

    def redo(self) -> None:
        """Makes the decision that was last taken back again, and says which."""
        self._step(OpenPass.redo, lambda stage: stage.book.undone, gettext_noop("Done again: {0}"))

    def _step(self, step: Callable[[OpenPass], None], of: Callable[[OpenPass], Sequence[Decision]], said: str) -> None:
        from mirkle.gui.pages.editions import decision_words

        stage = self.workspace.with_book
        if stage is None:
            return
        words = [decision_words(stage, decision) for decision in of(stage)[:1]]
        fault = self.workspace.on_stage(step)
        page = self.stack.currentWidget()
        if fault is None and words:
            self.status.tell(tr(said, words[0]))
        if fault is not None and isinstance(page, Compare):
            page.evidence.tell(tr_fault(fault), fault=True)
        elif fault is not None:
            self.status.tell(tr_fault(fault))

    def preview(self, what: str) -> None:
        """Shows the ``card``, the ``book`` or the ``findings`` as they will be printed."""
        if self.pages.book is not None:
            self.pages.book.preview(what)

    def type_notes(self) -> None:
        """Shows the page on which a paper book is typed in."""
        typing = self.pages.begin_typing()
        self.stack.setCurrentWidget(typing)
        typing.setFocus()

    def begin_titled(self, title: str) -> None:
        """Begins a stage with a title only, and shows the page on which its book is typed."""
        self.workspace.opening.begin_titled(title)
        self.type_notes()

    def begin_book(self) -> None:
        self.workspace.opening.begin_book(spoken(), self._fill_in)

    def _fill_in(self, blanks: BlankBook) -> None:
        """Shows a book to be filled in."""
        self.type_notes()
        self.pages.begin_typing().add_blanks(blanks)

    def fill_in_book(self, book: str) -> None:
        """Shows a text with blanks to be filled in."""
        self.type_notes()
        self.pages.begin_typing().add_book(book)

    def go_to_danger(self) -> None:
        """Shows the next danger that nobody has decided on."""
        if self.reviewed is not None:
            self.go_to("Compare")
            self.reviewed.next_danger()

    def go_to(self, name: str) -> None:
        """Shows one of the pages, where what it needs is there."""
        if name == "Rally" and self.workspace.rally is None:
            show.show_rally(self)
            return
        if self.stage is None and name not in ("Rally", "Gather") and not (name in WITH_A_BOOK and self.workspace.has_book):
            return
        page = self.pages.page(name)
        if page is None:
            return
        # By eye is what Compare is where nothing was measured, and a page beside it where something was.
        self.header.place_buttons["Compare" if name == "By eye" else name].setChecked(True)
        if name == "Gather":
            self.gather.fill()
        self.stack.setCurrentWidget(page)
        page.setFocus()
        if name == "Passes":
            self.workspace.follow()

    def change_theme(self) -> None:
        """From light to night and back."""
        night = self.theme is themes.PAPER
        self.theme = themes.NIGHT if night else themes.PAPER
        settings.keep_setting("theme", "night" if night else "paper")
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        themes.apply(app, self.theme)
        for part in (self.overlay, self._questions):
            part.theme = self.theme
        self.pages.set_theme(self.theme)

    def take_settings(self) -> None:
        """Does what was set."""
        if (settings.setting("theme", "paper") == "night") is not (self.theme is themes.NIGHT):
            self.change_theme()
        if self.pages.compare is not None:
            self.pages.compare.bar.usual()
        self.workspace.on_stage(lambda stage: stage.pages_set())

    def show_cautions_once(self) -> None:
        """Shows the cautions at the first start."""
        if not settings.setting("cautions_read", default=False):
            Cautions(self).exec()
            settings.keep_setting("cautions_read", value=True)

    def change_note(self, note: int) -> None:
        """Goes to a note to change it."""
        if self.stage is None:
            return
        self.stage.choose_note(note)
        self.go_to("Compare")
        if self.pages.compare is not None:
            self.pages.compare.edit_note()

    # What the workspace says

    def show_pass(self, stage: OpenPass, place: str) -> None:
        """Puts a pass on the screen, on the page that is wanted, where one was, or that fits."""
        where = self.header.place or ""
        if stage is not self._shown:
            self.pages.leave()
            self._shown = stage
            self.header.show_passes(stage)
            self.show_header()
            self._show_misfit(stage)
            if isinstance(stage, ReviewedPass):
                assert self.pages.compare is not None
                self.gather.show_stage(stage, self.theme, can_hear=self.pages.compare.has_sound)
            elif isinstance(stage, VideoPass):
                self.status.place.setText("")
                self.gather.show_filmed(stage)
            self.go_to(_first_page(stage))
        if place:
            self.go_to(where if place == HERE else place)
        self.opened.emit()

    def _keep_place(self) -> None:
        """Keeps where the open stage is left."""
        if self.stage is not None and self.header.place:
            leave(self.stage, "By eye" if self.stack.currentWidget() is self.pages.watch else self.header.place)

    def _show_misfit(self, stage: OpenPass) -> None:
        """Says above everything what is wrong with a pass as a whole."""
        large = []
        if isinstance(stage, ReviewedPass):
            large += [tr_message(stage.review.fit.sentence)] if stage.review.fit.sentence else []
            large += [] if stage.inputs.notes is not None else [tr("No written notes: what was said is used instead.")]
        self.misfit.setText(" ".join(large))
        self.misfit.setVisible(bool(large))

    def show_nothing(self) -> None:
        """Shows that nothing is open."""
        self.pages.leave()
        self._shown = None
        self.header.show_passes(None)
        self.misfit.hide()
        self.status.place.setText("")
        self.status.tell("")
        self.gather.tr_fault("")
        self.gather.show_empty([])
        self.go_to("Gather")

    def show_gathered(self, result: ImportResult, missing: MirkleError | None) -> None:
        """Shows the files that wait for the rest of a stage."""
        self.pages.leave(*WITH_A_BOOK)
        rows = [(s.material.name, tr_message(s.sentence)) for s in self.workspace.opening.waiting]
        if missing is not None:
            said = tr_fault(missing)
            rows.append((tr("Next"), said[:1].upper() + said[1:]))
        can_begin = self.workspace.opening.can_begin_a_book
        if can_begin:
            rows.append(("", tr("No notes yet? Begin the book from this recording: a blank for each bend, and you write the grades.")))
        self.gather.show_empty(rows, result.against, can_begin=can_begin)
        self.go_to("Gather")

    def show_followed(self, steps: list[PassPair], season: Mapping[str, int]) -> None:
        if self.pages.followed is not None:
            self.pages.followed.show_steps(steps, season)

    def show_fault(self, fault: MirkleError | None) -> None:
        """Says in Gather what went wrong; nothing where the crew stopped it."""
        self.gather.tr_fault(tr_fault(fault) if fault is not None else "")
        self.go_to("Gather")

    def tell(self, words: Message) -> None:
        self.gather.tr_fault(tr_message(words))
        self.status.tell(tr_message(words))

    def show_header(self) -> None:
        stage, workspace = self.stage, self.workspace
        self.header.show_stage(stage, workspace.opening.book_alone)
        for name, hindrance in self.menu.refresh().items():
            self.header.say_hindrance(name, hindrance)
        if stage is not None and not self.status.busy:
            decided, of = len(stage.book.decisions), len(stage.findings)
            measured = tr("{0} of {1} findings decided", decided, of)
            self.status.tell(measured if self.reviewed else tr("Nothing was measured on this pass. This is what you saw."))

    # Long work

    def begin_work(self) -> None:
        self.gather.tr_fault("")

    def show_progress(self, doing: Message, share: float) -> None:
        self.status.show_progress(tr_message(doing), share)

    def show_queued(self, names: Sequence[Message | str]) -> None:
        self.status.tell_next(tr("next: {0}", ", ".join(map(text_of, names))))

    def end_work(self) -> None:
        self.status.end()
        self.show_header()
        if not self.isActiveWindow():
            # The desktop marks the window: what took long is done.
            QApplication.alert(self)

    def show_place_on_stage(self, at_m: float) -> None:
        """Where one is on the stage, in the line at the bottom."""
        stage = self.reviewed
        if stage is not None:
            at_m = min(max(at_m, 0.0), stage.review.finish_m)
            self.status.place.setText(place_words(at_m, recording_s(stage, at_m), sound_s(stage, at_m)))

    def closeEvent(self, event: QCloseEvent) -> None:
        if self.pages.typing is not None:
            self.pages.typing.keep()
        window_place.keep(self)
        self._keep_place()
        self.workspace.close()
        super().closeEvent(event)


def _first_page(stage: OpenPass) -> str:
    """The page on which a stage was left, unless something has to be asked first or it is new."""
    usual = _usual_page(stage)
    left = resume(stage) if usual in ("Compare", "By eye") else ""
    return left if left in PAGES else usual


def _usual_page(stage: OpenPass) -> str:
    """The page on which a pass is shown first: where something has to be asked or looked at before it is judged, there."""
    if not isinstance(stage, ReviewedPass):
        return "By eye"
    # Which of several drives is the stage has to be asked before anything is judged.
    if len(stage.review.measured.drives) > 1 and stage.overrides.start_s is None:
        return "Gather"
    return "Compare" if stage.review.fit.belongs else "Line up"
