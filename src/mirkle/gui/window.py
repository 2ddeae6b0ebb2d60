"""The main window: the header with the places, and the stage that is open."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtGui import QAction, QCloseEvent, QDragEnterEvent, QDragLeaveEvent, QDropEvent, QKeySequence
from PyQt6.QtWidgets import QApplication, QMainWindow, QMenu, QStackedWidget, QVBoxLayout, QWidget

from mirkle.core.errors import Cancelled, MirkleError
from mirkle.core.judging.parts import Part
from mirkle.core.messages import Message
from mirkle.core.overrides import ManualOverrides, hand_parts
from mirkle.core.progress import Progress
from mirkle.files.project.project import SUFFIX, Project, SourceFile
from mirkle.files.recordings.columns import UnknownColumns
from mirkle.files.speech.heard_json import HeardCalls
from mirkle.gui import theme as themes
from mirkle.gui import window_place
from mirkle.gui.commands import COMMANDS, Command
from mirkle.gui.controls import ask, label
from mirkle.gui.dialogs.cautions_and_keys import About, Cautions, Keys, Marks
from mirkle.gui.pages.compare import Compare
from mirkle.gui.pages.gather import Gather
from mirkle.gui.pages.lazy_pages import MadePlaces
from mirkle.gui.pages.settings import SettingsDialog
from mirkle.gui.pages.shelf import ShelfDialog
from mirkle.gui.translation import tr, tr_fault, tr_message
from mirkle.gui.views.drop_overlay import DropOverlay, local_files
from mirkle.gui.views.header import Header
from mirkle.gui.views.status_line import StatusLine, place_words
from mirkle.gui.worker import Job
from mirkle.session import demo, draft, recent_stages, season, settings
from mirkle.session.assign_files import Intake, take_in_all
from mirkle.session.command_queue import Command as Waiting
from mirkle.session.command_queue import Turns
from mirkle.session.described_files import ImportedFile, described
from mirkle.session.import_files import UnlikeNotes
from mirkle.session.open_files import ImportResult, book_alone, open_pass, opened, put_together, taken
from mirkle.session.open_pass import OpenPass
from mirkle.session.playback_clock import has_video, recording_s, sound_of, sound_s
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.reviewing import inputs_of
from mirkle.session.shelf import keep_summary

if TYPE_CHECKING:
    from mirkle.gui.pages.by_eye import WatchView
    from mirkle.gui.pages.followup import Passes
    from mirkle.gui.pages.lineup import LineUp
    from mirkle.gui.pages.notebook import NotebookPage
    from mirkle.gui.pages.rehearse import RehearseView
    from mirkle.gui.pages.typing import TypingView
    from mirkle.session.change_review import PassPair

# Places and pages that come later are read in when they are first wanted: the window is to stand there sooner.


class Window(QMainWindow):
    """Opens stages and shows one of the places. ``opened`` is emitted when a stage is on the screen, ``again_wanted`` when
    the window has to be made anew."""

    opened = pyqtSignal()
    again_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.setWindowTitle("Mirkle")
        window_place.put_back(self)
        self.theme = themes.NIGHT if settings.setting("theme", "paper") == "night" else themes.PAPER
        self.stage: OpenPass | None = None
        self.has_video = False
        self.typing: TypingView | None = None
        self._job: Job | None = None
        self._turns = Turns(refused=self._was_refused)
        self._waiting: list[ImportedFile] = []
        # The files that are being read.
        self._taking: list[Path] = []
        self._agreed: frozenset[Path] = frozenset()
        # A stage that has no recording yet: its book and its words are kept all the same.
        self._beginning: Project | None = None
        # Its book can be rehearsed without one.
        self._book_alone: OpenPass | None = None
        # The passes that are held against each other in Passes.
        self._followed_at: tuple[object, ...] = ()
        self.gather = Gather()
        self.gather.files_given.connect(self.take_files)
        self.gather.demo_wanted.connect(self.open_demo)
        self.gather.typing_wanted.connect(self.type_notes)
        self.gather.settled.connect(self._settle)
        self.gather.limits_wanted.connect(self._set_limits)
        self.gather.about_pass_typed.connect(self._tell_of_pass)
        self.gather.stage_wanted.connect(self.open_project)
        self.gather.shelf.new_wanted.connect(self.new_stage)
        self.gather.new_stage_wanted.connect(self.take_files_as_new)
        self.gather.hear_wanted.connect(self._hear)
        self.gather.compare_wanted.connect(lambda: self.go_to("Compare"))
        self.gather.change_wanted.connect(self._change_note)
        self.stack = QStackedWidget()
        self.stack.addWidget(self.gather)
        self.made = MadePlaces(self.stack)
        self.menu = QMenu(self)
        self.commands: dict[str, QAction] = {}
        self.header = Header(self.menu)
        self.header.place_wanted.connect(self.go_to)
        self.header.pass_wanted.connect(self._change_pass)
        self.header.danger_wanted.connect(self.go_to_danger)
        self.header.lost_wanted.connect(self.show_lost_decisions)
        self.status = StatusLine()
        self.status.stopped.connect(self._cancel)
        desk = QWidget()
        desk.setObjectName("desk")
        column = QVBoxLayout(desk)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.misfit = label()
        self.misfit.setObjectName("misfit")
        self.misfit.setWordWrap(True)
        self.misfit.hide()
        column.addWidget(self.header)
        column.addWidget(self.misfit)
        column.addWidget(self.stack, 1)
        column.addWidget(self.status)
        self.setCentralWidget(desk)
        self.setAcceptDrops(True)
        self.overlay = DropOverlay(self.theme, self)
        self._actions()
        self._show_header()
        self.gather.setFocus()

    # Commands

    def _actions(self) -> None:
        """The commands: those of the window by their keys, and all of them in the menu."""
        menus: dict[str, QMenu] = {}
        for command in COMMANDS:
            if not command.in_menu:
                continue
            if command.group not in menus:
                menus[command.group] = self.menu.addMenu(tr(command.group))  # type: ignore[assignment]
                menus[command.group].setToolTipsVisible(True)
            action = QAction(tr(command.name), self)
            if command.place == "window" and command.keys:
                action.setShortcuts([QKeySequence(key) for key in command.keys])
                self.addAction(action)
            elif command.keys:
                # The key is the page's: it is shown here, and pressed there.
                action.setText(f"{tr(command.name)}\t{command.shown_keys}")
            action.triggered.connect(lambda _=False, c=command: self.use(c))
            menus[command.group].addAction(action)
            self.commands[command.name] = action

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

    @property
    def has_book(self) -> bool:
        """Whether there is a book, with or without a recording."""
        return self.stage is not None or self._book_alone is not None

    @property
    def reviewed(self) -> ReviewedPass | None:
        """The open pass, where a recording was reviewed."""
        return self.stage if isinstance(self.stage, ReviewedPass) else None

    def undo(self) -> None:
        """Takes the last decision back."""
        self._on_stage(lambda s: s.undo())

    def redo(self) -> None:
        """Makes the decision that was last taken back again."""
        self._on_stage(lambda s: s.redo())

    def preview(self, what: str) -> None:
        """Shows the ``card`` or the ``book`` as it will be printed."""
        if self.book is not None:
            self.book.preview(what)

    def show_keys(self) -> None:
        """Every key."""
        Keys(self).exec()

    def show_marks(self) -> None:
        """What every mark means."""
        Marks(self.theme, self).exec()

    def show_guide(self) -> None:
        """The whole job in order."""
        from mirkle.gui.pages.guide import Guide

        Guide(self).exec()

    def show_cautions(self) -> None:
        """What a crew must know before it trusts a number."""
        Cautions(self).exec()

    def show_about(self) -> None:
        """Version, licence, and where the work is kept."""
        About(self).exec()

    def _show_header(self) -> None:
        self.header.show_stage(self.stage, book_alone=self._book_alone is not None)
        for command in COMMANDS:
            if command.in_menu:
                hindrance = command.hindrance(self)
                self.commands[command.name].setEnabled(not hindrance)
                self.commands[command.name].setToolTip(tr(hindrance) if hindrance else tr(command.name))
        if self.stage is not None and not self.status.busy:
            decided, of = len(self.stage.book.decisions), len(self.stage.findings)
            if self.reviewed is not None:
                self.status.tell(tr("{0} of {1} findings decided", decided, of))
            else:
                self.status.tell(tr("Nothing was measured on this pass: what stands here is what you saw."))

    def go_to_danger(self) -> None:
        """Shows the next danger that nobody has decided on."""
        if self.reviewed is not None:
            self.go_to("Compare")
            self.reviewed.next_danger()

    def show_lost_decisions(self) -> None:
        """Decisions that have no place any more, to be put back by hand."""
        if self.reviewed is not None:
            from mirkle.gui.pages.lost_decisions import LostDecisionsDialog

            LostDecisionsDialog(self.reviewed, self).exec()

    def show_season(self) -> None:
        """How the changes of each stage turned out, and which stages count."""
        from mirkle.gui.pages.season import SeasonDialog

        SeasonDialog(self).exec()
        self._followed_at = ()
        self._follow_if_looked_at()

    def find(self) -> None:
        """Opens the page on which findings and notes are found."""
        if self.reviewed is not None:
            from mirkle.gui.pages.find import FindDialog

            dialog = FindDialog(self.reviewed, self)
            dialog.went.connect(lambda: self.go_to("Compare"))
            dialog.exec()

    def go_to(self, name: str) -> None:
        """Shows one of the places."""
        if self.stage is None and name != "Gather" and not (name == "Rehearse" and self._book_alone is not None):
            return
        widget = {
            "Gather": lambda: self.gather,
            "Line up": lambda: self.line_up,
            "By eye": lambda: self.watch,
            "Compare": lambda: self.compare or self.watch,
            "Book": lambda: self.book,
            "Rehearse": lambda: self.rehearse,
            "Passes": lambda: self.followed,
        }[name]()
        if widget is None:
            return
        # By eye is what Compare is where nothing was measured, and a page beside it where something was.
        self.header.place_buttons["Compare" if name == "By eye" else name].setChecked(True)
        if name == "Gather":
            self.gather.fill()
        self.stack.setCurrentWidget(widget)
        widget.setFocus()
        if name == "Passes":
            self._follow()

    # Places that are made when they are first gone to: a stage stands on the screen the sooner.

    @property
    def compare(self) -> Compare | None:
        """Compare, where a recording was reviewed."""
        return self.made.get("Compare", self._make_compare) if self.reviewed is not None else None

    def _make_compare(self) -> Compare:
        made = Compare(self.reviewed, self.theme)
        made.parts_wanted.connect(self.set_parts)
        made.moved.connect(self._tell_place)
        return made

    @property
    def line_up(self) -> LineUp | None:
        """Line up, where a recording was reviewed."""
        return self.made.get("Line up", self._make_line_up) if self.reviewed is not None else None

    def _make_line_up(self) -> LineUp:
        from mirkle.gui.pages.lineup import LineUp

        made = LineUp(self.reviewed, self.theme)
        made.clock_wanted.connect(self._set_clock)
        made.hear_wanted.connect(self._hear_from)
        made.heard_wanted.connect(self._hear_again)
        made.opened.connect(lambda _: self.go_to("Compare"))
        return made

    @property
    def watch(self) -> WatchView | None:
        """The page on which the video is watched note by note, where there is one."""
        return self.made.get("By eye", self._make_watch) if self.has_video else None

    def _make_watch(self) -> WatchView:
        from mirkle.gui.pages.by_eye import WatchView

        return WatchView(self.stage, self.theme, *self._video())

    def _video(self) -> tuple[Path | None, str]:
        """Where the video of the open pass lies, and what is wrong where it does not."""
        try:
            return (sound_of(self.stage) if self.stage is not None and self.has_video else None), ""
        except MirkleError as fault:
            return None, tr_fault(fault)

    @property
    def book(self) -> NotebookPage | None:
        """Book, where a stage is open."""
        return self.made.get("Book", self._make_book) if self.stage is not None else None

    def _make_book(self) -> NotebookPage:
        from mirkle.gui.pages.notebook import NotebookPage

        return NotebookPage(self.stage, self.theme)

    @property
    def rehearse(self) -> RehearseView | None:
        """Rehearse, where a stage is open, or its book is there already."""
        there = self.stage is not None or self._book_alone is not None
        return self.made.get("Rehearse", self._make_rehearse) if there else None

    def _make_rehearse(self) -> RehearseView:
        from mirkle.gui.pages.rehearse import RehearseView

        made = RehearseView(self.stage or self._book_alone, self.theme, self._video()[0])
        made.moved.connect(self._tell_place)
        return made

    @property
    def followed(self) -> Passes | None:
        """Passes, where a stage is open."""
        return self.made.get("Passes", self._make_followed) if self.stage is not None else None

    def _make_followed(self) -> Passes:
        from mirkle.gui.pages.followup import Passes

        made = Passes(self.theme)
        made.looked_at.connect(self._look_at)
        return made

    def _follow(self) -> None:
        """Holds the passes against each other, beside the interface: it is seldom wanted, and takes a moment the first time."""
        stage = self.stage
        if stage is None or self._followed_at == _passes_of(stage):
            return
        if self._turns.busy:
            self._when_free(tr("Passes"), self._follow_if_looked_at, key="Passes")
            return
        known = _passes_of(stage)

        def show(steps: list[PassPair]) -> None:
            if self.stage is stage and self.followed is not None:
                self._followed_at = known
                counts = sum((step.counts() for step in steps if step.counts_in_the_season), Counter())
                self.followed.show_steps(steps, season.count_verdicts(stage.project.path, counts))
                for step in steps:
                    step.book.changed.connect(stage.book.again)

        from mirkle.session.change_review import follow

        self._start(lambda progress: follow(stage.project, stage.measurements, progress), then=show)

    def _follow_if_looked_at(self) -> None:
        if self.header.place == "Passes":
            self._follow()

    def _look_at(self, pass_id: int, note: int) -> None:
        """Shows a note of a pass in Compare."""
        stage = self.stage
        if stage is None:
            return
        if stage.this_pass.id == pass_id:
            stage.choose_note(note)
            self.go_to("Compare")
            return

        def show(other: OpenPass) -> None:
            self.show_stage(other)
            other.choose_note(note)

        self._when_free(
            tr("See it in Compare"),
            lambda: self._start(lambda progress: open_pass(stage.project, pass_id, stage.measurements, progress), then=show),
            fits=self._still(stage),
        )

    def listen(self) -> None:
        """Finds when each note was called, from the sound of the pass."""
        stage = self.stage
        if stage is None:
            return
        from mirkle.session.listening import can_listen, listened

        if not can_listen(stage):
            self._failed(
                MirkleError(
                    "there is nothing to listen to",
                    mend="this takes a book and the pass's sound or video; timed text that knows its times as well is not listened for",
                )
            )
            return
        self._when_free(
            tr("Find when each note was called, from the sound"),
            lambda: self._start(lambda progress: listened(stage, progress), then=self._heard),
            fits=lambda: self.stage is stage,
        )

    def _hear_again(self, make: Callable[[], HeardCalls]) -> None:
        """Solves the call times again, beside the interface, after one was set right."""
        stage = self.stage
        self._when_free(
            tr("Set a call right"), lambda: self._start(lambda _progress: make(), then=self._heard), fits=lambda: self.stage is stage
        )

    def _heard(self, heard: HeardCalls) -> None:
        stage = self.stage
        if stage is None:
            return
        from mirkle.session.listening import keep_heard

        self.go_to("Line up" if self.reviewed is not None else "By eye")
        self._again(stage, lambda: keep_heard(stage, heard))

    def change_settings(self) -> None:
        """Shows the settings, and does what was set."""
        dialog = SettingsDialog(self)
        if not dialog.exec():
            return
        if (settings.setting("theme", "paper") == "night") is not (self.theme is themes.NIGHT):
            self.change_theme()
        if self.compare is not None:
            self.compare.bar.usual()
        if self.stage is not None:
            self.stage.pages_set()
        if dialog.again:
            self.again_wanted.emit()

    def show_shelf(self) -> None:
        """The crew's stages, to open another."""
        if self.stage is not None:
            # What is left is counted as of now.
            keep_summary(self.stage)
        dialog = ShelfDialog(self.stage.project.path if self.stage is not None else None, self)
        dialog.exec()
        if dialog.new:
            self.new_stage()
        elif dialog.chosen is not None:
            self.open_project(dialog.chosen)

    def change_theme(self) -> None:
        """From light to night and back."""
        night = self.theme is themes.PAPER
        self.theme = themes.NIGHT if night else themes.PAPER
        settings.keep_setting("theme", "night" if night else "paper")
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        themes.apply(app, self.theme)
        self.overlay.theme = self.theme
        for part in self.made:
            part.set_theme(self.theme)

    def show_cautions_once(self) -> None:
        """Shows the cautions at the first start."""
        if not settings.setting("cautions_read", default=False):
            Cautions(self).exec()
            settings.keep_setting("cautions_read", value=True)

    # Opening

    def open_demo(self) -> None:
        """Opens the demo stage."""
        self._when_free(
            tr("Show the demo stage"), lambda: self._start(lambda progress: ReviewedPass.of_project(demo.demo_project(), progress=progress))
        )

    def new_stage(self) -> None:
        """Puts away what is open, which is kept in its file, and waits for the files of another stage."""
        self._when_free(tr("New stage"), self._begin_anew, key="new")

    def _begin_anew(self) -> None:
        self._put_away()
        if self._beginning is not None:
            self._beginning.close()
        self.stage = self._beginning = self._book_alone = None
        self._waiting, self.has_video, self._followed_at = [], False, ()
        self.header.show_passes(None)
        self.misfit.hide()
        self.status.place.setText("")
        self.status.tell("")
        self.gather.tr_fault("")
        self.gather.show_empty([])
        self.go_to("Gather")
        self._show_header()

    def _put_away(self) -> None:
        """Closes the stage that is open."""
        self.made.leave()
        if self.stage is not None:
            keep_summary(self.stage)
            self.stage.project.close()

    def open_project(self, path: Path) -> None:
        """Opens a saved stage."""
        if self.stage is not None and _same_file(path, self.stage.project.path):
            # It is open: opened again it would be in its own way.
            self.go_to("Compare")
            return
        if self._beginning is not None and _same_file(path, self._beginning.path):
            self.go_to("Gather")
            return
        if self._turns.busy:
            self._when_free(path.stem, lambda: self.open_project(path), key=f"open {path}")
            return
        self._start(lambda progress: opened(path, progress), then=self._show_opened)

    def take_files(self, paths: list[Path]) -> None:
        """Takes dropped or chosen files in: a saved stage is opened, notes and runs are put together to a new one."""
        saved = [p for p in paths if p.suffix == SUFFIX]
        if saved:
            self.open_project(saved[0])
            left = [p.name for p in paths if p != saved[0]]
            if left:
                self.gather.tr_fault(
                    tr("{0} is opened first. Drop the others again when it is there: {1}.", saved[0].name, ", ".join(left))
                )
        elif paths and self._turns.busy:
            self._when_free(", ".join(p.name for p in paths), lambda: self.take_files(paths))
        elif paths:
            waiting = list(self._waiting)
            # Files that wait for the rest of a new stage are joined; else they may belong to the one that is open.
            stage = self.stage if not waiting else None
            beginning = self._beginning
            self._taking, agreed = paths, self._agreed
            self._start(lambda progress: taken(paths, waiting, stage, beginning, progress, agreed), then=self._took)

    def take_files_as_new(self, paths: list[Path]) -> None:
        """Takes files in as a new stage, whatever is open."""
        self._when_free(tr("New stage"), lambda: (self._begin_anew(), self.take_files(paths)))

    def _show_opened(self, found: OpenPass | ImportResult) -> None:
        if isinstance(found, ImportResult):
            self._took(found)
        else:
            self.show_stage(found)

    def type_notes(self) -> None:
        """Shows the page on which a paper book is typed in."""
        if self.typing is None:
            from mirkle.gui.pages.typing import TypingView

            self.typing = TypingView(self.theme)
            self.typing.finished.connect(self._take_typed)
            self.typing.given_up.connect(lambda: self.go_to("Gather"))
            self.stack.addWidget(self.typing)
        self.stack.setCurrentWidget(self.typing)
        self.typing.setFocus()

    def _take_typed(self, text: str) -> None:
        typed = SourceFile("notes", "typed-notes.txt", text.encode())

        def put() -> None:
            waiting = [s for s in self._waiting if s.material.kind != "notes"]
            beginning = self._beginning
            self._start(
                lambda progress: put_together([*waiting, described(typed)], progress, beginning),
                then=lambda taken: self._took_typed(text, taken),
            )

        self._when_free(tr("Use these notes"), put, key="typed")

    def _took_typed(self, text: str, taken: ImportResult) -> None:
        """The typed notes are in a stage's file by now; until then they were kept as they were typed."""
        if taken.stage is None and taken.beginning is None:
            self._took(taken)
            return
        if draft.typed_draft() == text:
            draft.keep_typed_draft("")
        if self.typing is not None and self.typing.text == text:
            self.stack.removeWidget(self.typing)
            self.typing.deleteLater()
            self.typing = None
        self._took(taken)

    def set_parts(self, dragged: Part | None) -> None:
        """Asks which parts of this pass don't count, and reviews it again."""
        stage = self.reviewed
        if stage is None:
            return
        # Those that are set by now, whether or not the pass has been reviewed with them.
        by_crew = stage.by_hand.parts_on(stage.review.profile)
        parts = [*(stage.review.parts if by_crew is None else by_crew), *([dragged] if dragged is not None else [])]
        from mirkle.gui.dialogs.excluded_parts import PartsDialog

        dialog = PartsDialog(parts, stage.review.finish_m, self)
        if dialog.exec():
            parts = hand_parts(dialog.parts, stage.review.profile)
            self._review_by_hand(stage, replace(stage.by_hand, parts=parts))

    def _set_limits(self, start_s: float | None, finish_s: float | None) -> None:
        stage = self.reviewed
        if stage is not None:
            self._review_by_hand(stage, replace(stage.by_hand, start_s=start_s, finish_s=finish_s))

    def _tell_of_pass(self, kind: str, day: str) -> None:
        """Keeps what kind of pass this was, and its day; nothing that is judged rests on it."""
        if self.stage is not None:
            self.stage.tell_of_pass(kind, day)

    def _set_clock(self, calls_minus_run_s: float | None) -> None:
        stage = self.reviewed
        if stage is not None:
            self._review_by_hand(stage, replace(stage.by_hand, calls_minus_run_s=calls_minus_run_s))

    def _review_by_hand(self, stage: ReviewedPass, by_hand: ManualOverrides) -> None:
        """Keeps what was set by hand, and reviews the pass again with it."""
        self._again(stage, lambda: stage.set_by_hand(by_hand))

    def _change_note(self, note: int) -> None:
        """Goes to a note to change it."""
        if self.stage is None:
            return
        self.stage.choose_note(note)
        self.go_to("Compare")
        if self.compare is not None:
            self.compare.edit_note()

    def _settle(self, crew: SourceFile) -> None:
        """Takes a settled word into the crew's own file, and reads and reviews again."""
        stage = self.stage
        if stage is not None:
            self._again(stage, lambda: stage.project.add(crew))

    def _hear(self, sound_s: float) -> None:
        if self.compare is not None:
            self.compare.hear(sound_s)

    def _hear_from(self, sound_s: float) -> None:
        if self.compare is not None:
            self.compare.play_from(sound_s)

    def _again(self, stage: OpenPass, first: Callable[[], None]) -> None:
        """Does something to the stage's material at once, and reviews the pass again with it as soon as nothing else is being done."""
        try:
            # Here and not in a background thread: it tells the views, and they are this thread's.
            first()
        except MirkleError as fault:
            self._failed(fault)
            return
        place = self.header.place
        self._when_free(tr("Review again"), lambda: self._open_again(stage, place), fits=self._still(stage), key="again")

    # Taking turns

    def _when_free(
        self, name: str, run: Callable[[], None], *, fits: Callable[[], bool] = lambda: True, key: str = "", first: bool = False
    ) -> None:
        """Does something now, or when what is being worked out is done; which is said."""
        if not self._turns.ask(Waiting(name, run, fits, key), first=first):
            self.status.tell_next(tr("then: {0}", ", ".join(self._turns.waiting)))

    def _still(self, stage: OpenPass) -> Callable[[], bool]:
        """Whether the same pass of the same stage is open, whenever that is asked."""
        project, number = stage.project, stage.this_pass.id
        return lambda: self.stage is not None and self.stage.project is project and self.stage.this_pass.id == number

    def _was_refused(self, name: str) -> None:
        words = tr("“{0}” was not done: another stage or pass was opened meanwhile. Do it again there.", name)
        self.gather.tr_fault(words)
        self.status.tell(words)

    def _took(self, taken: ImportResult) -> None:
        if taken.intake is not None:
            self._ask(taken.intake, list(taken.files))
            return
        self._waiting, stage = list(taken.files), taken.stage
        if self._beginning is not None and self._beginning not in (taken.beginning, stage.project if stage else None):
            self._beginning.close()
        self._beginning, self._book_alone = taken.beginning, None
        self.made.leave("Rehearse")
        if taken.beginning is not None and stage is None:
            self._book_alone = book_alone(taken.beginning)
        if taken.beginning is not None:
            recent_stages.remember(taken.beginning.path)
        if stage is not None:
            self._waiting = []
            self.show_stage(stage)
            # First what each file was taken for; Enter goes on.
            self.go_to("Gather" if not isinstance(stage, ReviewedPass) or stage.review.fit.belongs else "Line up")
            return
        rows = [(s.material.name, tr_message(s.sentence)) for s in self._waiting]
        try:
            inputs_of([s.material for s in self._waiting])
        except MirkleError as missing:
            rows.append((tr("Next"), tr_fault(missing)))
        self.gather.show_empty(rows, taken.against)
        self.go_to("Gather")
        self._show_header()

    def _ask(self, intake: Intake, files: list[ImportedFile]) -> None:
        """Takes files in that came to the open stage; what can't be told is asked first."""
        stage = self.stage
        if stage is None:
            return
        if intake.has_to_ask:
            from mirkle.gui.dialogs.assign_files import IntakeDialog

            dialog = IntakeDialog(intake, self.theme, self)
            if not dialog.exec():
                return
            intake = dialog.intake
        self._take_in(stage, intake, files)

    def _ask_columns(self, fault: UnknownColumns) -> bool:
        """Asks what a table's columns hold, and takes its file in again with that; whether it was said."""
        from mirkle.gui.dialogs.columns import ColumnsDialog

        paths, dialog = self._taking, ColumnsDialog(fault, self)
        if not dialog.exec():
            return False
        settings.keep_columns(fault.look.shape, dialog.names)
        # The job that met the table is about to end.
        self._when_free(", ".join(p.name for p in paths), lambda: self.take_files(paths), first=True)
        return True

    def _ask_whether_notes(self, fault: UnlikeNotes) -> bool:
        """Asks whether a text of which much is not understood is the book. Takes the files in again, with it or without; whether any are
        left."""
        question = f"{fault.path.name}: {tr_message(fault.doubt)}"
        if ask(self, question, {"yes": tr("It is the book"), "no": tr("Leave it out")}) == "yes":
            self._agreed |= {fault.path}
        paths = [p for p in self._taking if p != fault.path or p in self._agreed]
        if not paths:
            return False
        # The job that met the text is about to end.
        self._when_free(fault.path.name, lambda: self.take_files(paths), first=True)
        return True

    def _take_in(self, stage: OpenPass, intake: Intake, files: list[ImportedFile]) -> None:
        if self._turns.busy:
            # The job that read the files is about to end.
            names = ", ".join(f.material.name for f in files)
            self._when_free(names, lambda: self._take_in(stage, intake, files), fits=self._still(stage), first=True)
            return
        if any(r.chosen == "stage" for r in intake.rows):
            mine = [f for f, r in zip(files, intake.rows, strict=True) if r.chosen != "not-in"]
            self._start(lambda progress: put_together(mine, progress), then=self._took_as_new)
            return

        def work(progress: Progress) -> OpenPass:
            return open_pass(stage.project, take_in_all(stage, intake), stage.measurements, progress)

        self._start(work)

    def _took_as_new(self, taken: ImportResult) -> None:
        """Files of another stage: the one that was open is put away first, unless they make a whole one."""
        if taken.stage is None:
            self._begin_anew()
        self._took(taken)

    def _change_pass(self, wanted: int) -> None:
        stage = self.stage
        if stage is not None and wanted != stage.this_pass.id:
            # The file stays open and locked; only another of its passes is reviewed.
            project = stage.project
            known = stage.measurements
            self._when_free(
                tr("Another pass"),
                lambda: self._start(lambda progress: open_pass(project, wanted, known, progress)),
                fits=lambda: self.stage is not None and self.stage.project is project,
                key="pass",
            )

    def _start(self, work: Callable[[Any], Any], then: Callable[[Any], None] | None = None) -> None:
        """Does long work in a background thread; what was open stays until it has succeeded."""
        self._turns.begin()
        self.gather.tr_fault("")
        job = Job(work, self)
        self._job = job
        job.progressed.connect(self._progressed)
        job.done.connect(then or self.show_stage)
        job.failed.connect(self._failed)
        job.finished.connect(self._finished)
        job.begin()

    def _progressed(self, doing: Message, share: float) -> None:
        self.status.show_progress(tr_message(doing), share)

    def _finished(self) -> None:
        self.status.end()
        self._job = None
        self._show_header()
        self._turns.end()

    def _failed(self, fault: MirkleError) -> None:
        if isinstance(fault, UnknownColumns) and self._ask_columns(fault):
            return
        if isinstance(fault, UnlikeNotes) and self._ask_whether_notes(fault):
            return
        self.gather.tr_fault("" if isinstance(fault, Cancelled) else tr_fault(fault))
        self.go_to("Gather")

    def _cancel(self) -> None:
        if self._job is not None:
            self._job.cancel()

    def show_stage(self, stage: OpenPass) -> bool:
        """Puts an open stage on the screen, in Compare, or in Gather where something has to be asked first. Returns whether it did: not
        where its pass was changed while it was being reviewed, which is then done again."""
        if not stage.is_of_today:
            place = self.header.place
            self._when_free(tr("Review again"), lambda: self._open_again(stage, place), key="again", first=True)
            return False
        old = self.stage
        if old is not None:
            keep_summary(old)
        self.made.leave()
        if old is not None and old.project is not stage.project:
            old.project.close()
        self.stage, self._book_alone = stage, None
        self.has_video = has_video(stage.project, stage.pass_now())
        # Decisions may have been taken while it was reviewed.
        stage.book.again()
        recent_stages.remember(stage.project.path)
        keep_summary(stage)
        self._followed_at = ()
        stage.book.changed.connect(self._show_header)
        stage.reviewed.connect(self._show_header)
        stage.stale.connect(lambda: self._again(stage, lambda: None))
        self.header.show_passes(stage)
        self._show_header()
        if isinstance(stage, ReviewedPass):
            self._show_reviewed(stage)
        else:
            self.misfit.hide()
            self.status.place.setText("")
            self.gather.show_filmed(stage)
            self.go_to("By eye")
        self.opened.emit()
        return True

    def _open_again(self, stage: OpenPass, place: str | None) -> None:
        """Reviews a pass again that was changed while it was being reviewed."""

        def show(again: OpenPass) -> None:
            if self.show_stage(again) and place is not None:
                self.go_to(place)

        self._start(lambda progress: open_pass(stage.project, stage.this_pass.id, stage.measurements, progress), then=show)

    def _show_reviewed(self, stage: ReviewedPass) -> None:
        """Puts a pass with a recording on the screen."""
        assert self.compare is not None
        self.gather.show_stage(stage, self.theme, can_hear=self.compare.has_sound)
        # Which of several drives is the stage has to be asked before anything is judged.
        asked = len(stage.review.measured.drives) > 1 and stage.by_hand.start_s is None
        fit = stage.review.fit
        large = [tr_message(fit.sentence)] if fit.sentence else []
        if stage.inputs.notes is None:
            large.append(tr("There is no written book: what was said stands for it."))
        self.misfit.setText(" ".join(large))
        self.misfit.setVisible(bool(large))
        self.go_to("Gather" if asked else "Compare" if fit.belongs else "Line up")

    def _tell_place(self, at_m: float) -> None:
        """Where one is on the stage, in the line at the bottom."""
        stage = self.reviewed
        if stage is not None:
            at_m = min(max(at_m, 0.0), stage.review.finish_m)
            self.status.place.setText(place_words(at_m, recording_s(stage, at_m), sound_s(stage, at_m)))

    def _on_stage(self, work: Callable[[OpenPass], None]) -> None:
        if self.stage is None:
            return
        try:
            work(self.stage)
        except MirkleError as fault:
            if self.compare is not None:
                self.compare.evidence.tell(tr_fault(fault), fault=True)
            elif self.watch is not None:
                self.watch.said.setText(tr_fault(fault))

    # Files dragged over the window

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        files = local_files(event.mimeData())
        if files:
            event.acceptProposedAction()
            self.overlay.show_files(files)

    def dragLeaveEvent(self, event: QDragLeaveEvent) -> None:
        self.overlay.hide()
        super().dragLeaveEvent(event)

    def dropEvent(self, event: QDropEvent) -> None:
        self.overlay.hide()
        event.acceptProposedAction()
        self.take_files(local_files(event.mimeData()))

    def closeEvent(self, event: QCloseEvent) -> None:
        if self._job is not None:
            self._job.cancel()
            self._job.wait()
            # What it found is for a window that is there.
            self._job.done.disconnect()
            self._job.failed.disconnect()
            self._job.finished.disconnect(self._finished)
        self._turns.give_up()
        if self.typing is not None:
            self.typing.keep()
        window_place.keep(self)
        if self.stage is not None:
            keep_summary(self.stage)
        for project in (self.stage.project if self.stage is not None else None, self._beginning):
            if project is not None:
                project.close()
        super().closeEvent(event)


def _passes_of(stage: OpenPass) -> tuple[object, ...]:
    """The passes of a stage as they are now."""
    return tuple(stage.project.passes())


def _same_file(a: Path, b: Path) -> bool:
    """Whether two paths lead to one file."""
    return a.exists() and b.exists() and a.samefile(b)
