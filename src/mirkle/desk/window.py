"""The main window: the header with the places, and the stage that is open."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QAction, QCloseEvent, QKeySequence, QResizeEvent
from PyQt6.QtWidgets import (
    QApplication,
    QButtonGroup,
    QComboBox,
    QHBoxLayout,
    QLabel,
    QMainWindow,
    QMenu,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from mirkle.core.by_hand import ByHand
from mirkle.core.errors import Cancelled, MirkleError
from mirkle.core.verdict.parts import Part
from mirkle.desk import theme as themes
from mirkle.desk.book_view import Book
from mirkle.desk.commands import COMMANDS, Command, use
from mirkle.desk.compare import Compare
from mirkle.desk.dialogs import About, Cautions, Keys, Marks
from mirkle.desk.find_view import FindDialog
from mirkle.desk.gather import Gather
from mirkle.desk.intake_view import IntakeDialog
from mirkle.desk.lineup_view import LineUp
from mirkle.desk.parts_view import PartsDialog
from mirkle.desk.passes_view import Passes
from mirkle.desk.speak import say, say_clause, say_fault
from mirkle.desk.typing_view import TypingView
from mirkle.desk.worker import Job
from mirkle.files.project import SUFFIX, Material, Project
from mirkle.session import places
from mirkle.session.followed import Step, follow
from mirkle.session.intake import Intake, come_to, intake_of, take_in_all
from mirkle.session.material import Sorted, crew_of, described, inputs_of, take_in
from mirkle.session.passes import driven
from mirkle.session.said_against import SaidAgainst, said_against
from mirkle.session.stage import Stage

PLACES = ("Gather", "Line up", "Compare", "Book", "Passes")


# What a desktop's frame takes of the height; from what width on there is room for how much is decided.
FRAME_PX, ROOM_FOR_PROGRESS_PX = 36, 1130


class Window(QMainWindow):
    """Opens stages and shows one of the places. ``opened`` is emitted when a stage is on the screen."""

    opened = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.setWindowTitle("Mirkle")
        self.resize(*_kept_size())
        self.theme = themes.NIGHT if places.setting("theme", "paper") == "night" else themes.PAPER
        self.stage: Stage | None = None
        self.line_up: LineUp | None = None
        self.compare: Compare | None = None
        self.book: Book | None = None
        self.followed: Passes | None = None
        self._job: Job | None = None
        self._waiting: list[Sorted] = []
        # A stage that has no recording yet: its book and its words are kept all the same.
        self._beginning: Project | None = None
        # The passes that are held against each other in Passes.
        self._followed_at: tuple[object, ...] = ()
        self.gather = Gather()
        self.gather.files_given.connect(self.take_files)
        self.gather.demo_wanted.connect(self.open_demo)
        self.gather.cancelled.connect(self._cancel)
        self.gather.typing_wanted.connect(self.type_notes)
        self.gather.settled.connect(self._settle)
        self.gather.limits_wanted.connect(self._set_limits)
        self.gather.about_pass_typed.connect(self._tell_of_pass)
        self.gather.stage_wanted.connect(self.open_project)
        self.gather.hear_wanted.connect(self._hear)
        self.stack = QStackedWidget()
        self.stack.addWidget(self.gather)
        desk = QWidget()
        desk.setObjectName("desk")
        column = QVBoxLayout(desk)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.misfit = QLabel()
        self.misfit.setObjectName("misfit")
        self.misfit.setWordWrap(True)
        self.misfit.setTextFormat(Qt.TextFormat.PlainText)
        self.misfit.hide()
        column.addWidget(self._header())
        column.addWidget(self.misfit)
        column.addWidget(self.stack, 1)
        self.setCentralWidget(desk)
        self._actions()
        self._show_header()

    # The header

    def _header(self) -> QWidget:
        header = QWidget()
        header.setObjectName("header")
        header.setFixedHeight(48)
        self.stage_name, self.progress, self.dangers = QLabel("Mirkle"), QLabel(), QPushButton()
        self.stage_name.setTextFormat(Qt.TextFormat.PlainText)
        self.stage_name.setObjectName("stageName")
        self.progress.setObjectName("faint")
        self.progress.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self.dangers.setObjectName("dangersLeft")
        self.dangers.setToolTip(say("Go to the next danger that is left (D in Compare)"))
        self.dangers.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.dangers.clicked.connect(self.go_to_danger)
        self.dangers.hide()
        self.passes = QComboBox()
        self.passes.setAccessibleName(say("Which pass"))
        self.passes.setMinimumContentsLength(10)
        self.passes.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self.passes.setMinimumWidth(120)
        self.passes.activated.connect(self._change_pass)
        self.menu = QMenu(self)
        self.menu_button = QPushButton("☰")
        self.menu_button.setObjectName("place")
        self.menu_button.setAccessibleName(say("All commands"))
        self.menu_button.setToolTip(say("All commands, with their keys (Alt+M)"))
        self.menu_button.setShortcut(QKeySequence("Alt+M"))
        self.menu_button.setMenu(self.menu)
        self.commands: dict[str, QAction] = {}
        self.place_buttons: dict[str, QPushButton] = {}
        group = QButtonGroup(self)
        row = QHBoxLayout(header)
        row.setContentsMargins(18, 0, 14, 0)
        row.setSpacing(8)
        row.addWidget(self.menu_button)
        row.addWidget(self.stage_name)
        row.addWidget(self.passes)
        row.addStretch(1)
        for number, name in enumerate(PLACES, start=1):
            button = QPushButton(say(name))
            button.setObjectName("place")
            button.setCheckable(True)
            button.setToolTip(f"{say(name)} (Ctrl+{number})")
            button.clicked.connect(lambda _=False, n=name: self.go_to(n))
            group.addButton(button)
            self.place_buttons[name] = button
            row.addWidget(button)
        row.addWidget(self.progress, 1)
        row.addWidget(self.dangers)
        return header

    def _actions(self) -> None:
        """The commands: those of the window by their keys, and all of them in the menu."""
        menus: dict[str, QMenu] = {}
        for command in COMMANDS:
            if command.group not in menus:
                menus[command.group] = self.menu.addMenu(say(command.group))  # type: ignore[assignment]
            action = QAction(say(command.name), self)
            if command.run is not None and command.keys:
                action.setShortcut(QKeySequence(command.keys))
                self.addAction(action)
            elif command.keys:
                # The key is the place's own: it is shown, and pressed there.
                action.setText(f"{say(command.name)}\t{command.keys}")
            action.triggered.connect(lambda _=False, c=command: self._use(c))
            menus[command.group].addAction(action)
            self.commands[command.name] = action

    def _use(self, command: Command) -> None:
        if self.stage is not None or not command.needs_stage:
            use(command, self)

    def undo(self) -> None:
        """Takes the last decision back."""
        self._on_stage(lambda s: s.undo())

    def redo(self) -> None:
        """Makes the decision that was last taken back again."""
        self._on_stage(lambda s: s.redo())

    def show_keys(self) -> None:
        """Every key."""
        Keys(self).exec()

    def show_marks(self) -> None:
        """What every mark means."""
        Marks(self.theme, self).exec()

    def show_cautions(self) -> None:
        """What a crew must know before it trusts a number."""
        Cautions(self).exec()

    def show_about(self) -> None:
        """Version, licence, and where the work is kept."""
        About(self).exec()

    def _show_header(self) -> None:
        stage = self.stage
        self.passes.setVisible(self.passes.count() > 1)
        for name, button in self.place_buttons.items():
            button.setEnabled(stage is not None or name == "Gather")
        for command in COMMANDS:
            self.commands[command.name].setEnabled(stage is not None or not command.needs_stage)
        if stage is None:
            self.place_buttons["Gather"].setChecked(True)
            return
        self.stage_name.setText(stage.project.name)
        decided = len(stage.book.decisions)
        self.progress.setText(say("{0} of {1} decided", decided, len(stage.findings)))
        left = stage.book.dangers_left
        self.dangers.setText(
            "" if not left else say("▼ 1 danger left") if left == 1 else say("▼ {0} dangers left", left)
        )
        self.dangers.setVisible(left > 0)

    def go_to_danger(self) -> None:
        """Shows the next danger that nobody has decided on."""
        if self.stage is not None:
            self.go_to("Compare")
            self.stage.next_danger()

    def find(self) -> None:
        """Opens the page on which findings and notes are found."""
        if self.stage is not None:
            dialog = FindDialog(self.stage, self)
            dialog.went.connect(lambda: self.go_to("Compare"))
            dialog.exec()

    def go_to(self, name: str) -> None:
        """Shows one of the places."""
        if self.stage is None and name != "Gather":
            return
        self.place_buttons[name].setChecked(True)
        views = (self.gather, self.line_up, self.compare, self.book, self.followed)
        widget = dict(zip(PLACES, views, strict=True))[name]
        assert widget is not None
        self.stack.setCurrentWidget(widget)
        widget.setFocus()
        if name == "Passes":
            self._follow()

    def _follow(self) -> None:
        """Holds the passes against each other, beside the interface: it is seldom wanted, and takes a moment the first time."""
        stage = self.stage
        if stage is None or self._followed_at == _passes_of(stage) or self._job is not None:
            return
        known = _passes_of(stage)

        def show(steps: list[Step]) -> None:
            if self.stage is stage and self.followed is not None:
                self._followed_at = known
                counts = sum((step.counts() for step in steps), Counter())
                self.followed.show_steps(steps, places.count_verdicts(stage.project.path, counts))
                for step in steps:
                    step.book.changed.connect(stage.book.again)

        self._start(lambda progress: follow(stage.project, stage.measurements, progress), then=show)

    def _look_at(self, pass_id: int, note: int) -> None:
        """Shows a note of a pass in Compare."""
        stage = self.stage
        if stage is None:
            return
        if stage.this_pass.id == pass_id:
            stage.choose_note(note)
            self.go_to("Compare")
            return

        def show(other: Stage) -> None:
            self.show_stage(other)
            other.choose_note(note)

        self._start(
            lambda progress: Stage.of_project(
                stage.project, pass_id=pass_id, measurements=stage.measurements, progress=progress
            ),
            then=show,
        )

    def change_theme(self) -> None:
        """From light to night and back."""
        night = self.theme is themes.PAPER
        self.theme = themes.NIGHT if night else themes.PAPER
        places.keep_setting("theme", "night" if night else "paper")
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        themes.apply(app, self.theme)
        for part in (self.line_up, self.compare, self.book, self.followed):
            if part is not None:
                part.set_theme(self.theme)

    def show_cautions_once(self) -> None:
        """Shows the cautions at the first start."""
        if not places.setting("cautions_read", default=False):
            Cautions(self).exec()
            places.keep_setting("cautions_read", value=True)

    # Opening

    def open_demo(self) -> None:
        """Opens the demo stage."""
        self._start(lambda progress: Stage.of_project(places.demo_project(), progress=progress))

    def open_project(self, path: Path) -> None:
        """Opens a saved stage."""
        if self.stage is not None and _same_file(path, self.stage.project.path):
            # It is open: opened again it would be in its own way.
            self.go_to("Compare")
            return
        if self._beginning is not None and _same_file(path, self._beginning.path):
            self.go_to("Gather")
            return
        self._start(lambda progress: _opened(path, progress), then=self._show_opened)

    def take_files(self, paths: list[Path]) -> None:
        """Takes dropped or chosen files in: a saved stage is opened, notes and runs are put together to a new one."""
        saved = [p for p in paths if p.suffix == SUFFIX]
        if saved:
            self.open_project(saved[0])
        elif paths:
            waiting = list(self._waiting)
            # Files that wait for the rest of a new stage are joined; else they may belong to the one that is open.
            stage = self.stage if not waiting else None
            beginning = self._beginning
            self._start(lambda progress: _taken(paths, waiting, stage, beginning, progress), then=self._took)

    def _show_opened(self, found: Stage | Taken) -> None:
        if isinstance(found, Stage):
            self.show_stage(found)
        else:
            self._took(found)

    def type_notes(self) -> None:
        """Shows the page on which a paper book is typed in."""
        typing = TypingView(self.theme)
        typing.finished.connect(self._take_typed)
        typing.given_up.connect(lambda: self.go_to("Gather"))
        self.stack.addWidget(typing)
        self.stack.setCurrentWidget(typing)
        typing.setFocus()

    def _take_typed(self, text: str) -> None:
        typed = Material("notes", "typed-notes.txt", text.encode())
        waiting = [s for s in self._waiting if s.material.kind != "notes"]
        beginning = self._beginning
        self._start(lambda progress: _put_together([*waiting, described(typed)], progress, beginning), then=self._took)

    def set_parts(self, dragged: Part | None) -> None:
        """Asks which parts of this pass don't count, and reviews it again."""
        stage = self.stage
        if stage is None:
            return
        parts = [*stage.review.parts, *([dragged] if dragged is not None else [])]
        dialog = PartsDialog(parts, stage.review.finish_m, self)
        if dialog.exec():
            self._review_by_hand(stage, replace(stage.by_hand, parts=tuple(dialog.parts)))

    def _set_limits(self, start_s: float | None, finish_s: float | None) -> None:
        stage = self.stage
        if stage is not None:
            self._review_by_hand(stage, replace(stage.by_hand, start_s=start_s, finish_s=finish_s))

    def _tell_of_pass(self, kind: str, day: str) -> None:
        """Keeps what kind of pass this was, and its day; nothing that is judged rests on it."""
        if self.stage is not None:
            self.stage.tell_of_pass(kind, day)

    def _set_clock(self, calls_minus_run_s: float | None) -> None:
        stage = self.stage
        if stage is not None:
            self._review_by_hand(stage, replace(stage.by_hand, calls_minus_run_s=calls_minus_run_s))

    def _review_by_hand(self, stage: Stage, by_hand: ByHand) -> None:
        """Keeps what was set by hand, and reviews the pass again with it."""
        self._again(stage, lambda: stage.set_by_hand(by_hand))

    def _settle(self, crew: Material) -> None:
        """Takes a settled word into the crew's own file, and reads and reviews again."""
        stage = self.stage
        if stage is not None:
            self._again(stage, lambda: stage.project.add(crew))

    def _hear(self, sound_s: float) -> None:
        if self.compare is not None:
            self.compare.hear(sound_s)

    def _again(self, stage: Stage, first: Callable[[], None]) -> None:
        """Does something to the stage's material, and reviews the pass again with it."""
        place = next((name for name, button in self.place_buttons.items() if button.isChecked()), None)

        if self._job is not None:
            return
        try:
            # Here and not beside the interface: it tells the views, and they are this thread's.
            first()
        except MirkleError as fault:
            self._failed(fault)
            return

        def work(progress: Callable[[str, float], None]) -> Stage:
            return Stage.of_project(
                stage.project, pass_id=stage.this_pass.id, measurements=stage.measurements, progress=progress
            )

        def show(stage: Stage) -> None:
            self.show_stage(stage)
            if place is not None:
                self.go_to(place)

        self._start(work, then=show)

    def _took(self, taken: Taken) -> None:
        if taken.intake is not None:
            self._ask(taken.intake, list(taken.files))
            return
        self._waiting, stage = list(taken.files), taken.stage
        if self._beginning is not None and self._beginning not in (taken.beginning, stage.project if stage else None):
            self._beginning.close()
        self._beginning = taken.beginning
        if taken.beginning is not None:
            places.remember(taken.beginning.path)
        if stage is not None:
            self._waiting = []
            self.show_stage(stage)
            return
        rows = [(s.material.name, say_clause(s.sentence)) for s in self._waiting]
        try:
            inputs_of([s.material for s in self._waiting])
        except MirkleError as missing:
            rows.append((say("Next"), say_fault(missing)))
        self.gather.show_empty(rows, taken.against)
        self.go_to("Gather")

    def _ask(self, intake: Intake, files: list[Sorted]) -> None:
        """Takes files in that came to the open stage; what can't be told is asked first."""
        stage = self.stage
        if stage is None:
            return
        if intake.has_to_ask:
            dialog = IntakeDialog(intake, self)
            if not dialog.exec():
                return
            intake = dialog.intake
        self._take_in(stage, intake, files)

    def _take_in(self, stage: Stage, intake: Intake, files: list[Sorted]) -> None:
        if self._job is not None:
            # The job that read the files is about to end.
            QTimer.singleShot(10, lambda: self._take_in(stage, intake, files))
            return
        if any(r.chosen == "stage" for r in intake.rows):
            mine = [f for f, r in zip(files, intake.rows, strict=True) if r.chosen != "not-in"]
            self._start(lambda progress: _put_together(mine, progress), then=self._took)
            return

        def work(progress: Callable[[str, float], None]) -> Stage:
            shown = take_in_all(stage, intake)
            return Stage.of_project(stage.project, pass_id=shown, measurements=stage.measurements, progress=progress)

        self._start(work)

    def _change_pass(self, index: int) -> None:
        stage = self.stage
        wanted = self.passes.itemData(index)
        if stage is not None and wanted != stage.this_pass.id:
            # The file stays open and locked; only another of its passes is reviewed.
            project = stage.project
            known = stage.measurements
            self._start(
                lambda progress: Stage.of_project(project, pass_id=wanted, measurements=known, progress=progress)
            )

    def _start(self, work: Callable[[Any], Any], then: Callable[[Any], None] | None = None) -> None:
        """Does long work beside the interface; what was open stays until it has succeeded."""
        if self._job is not None:
            return
        self.gather.say_fault("")
        job = Job(work, self)
        self._job = job
        job.progressed.connect(self._progressed)
        job.done.connect(then or self.show_stage)
        job.failed.connect(self._failed)
        job.finished.connect(self._finished)
        job.begin()

    def _progressed(self, words: str, share: float) -> None:
        self.gather.show_progress(words, share)
        self.progress.setText(f"{words} …")

    def _finished(self) -> None:
        self.gather.show_progress("", 1.0)
        self._job = None
        self._show_header()

    def _failed(self, fault: MirkleError) -> None:
        self.gather.say_fault("" if isinstance(fault, Cancelled) else say_fault(fault))
        self.go_to("Gather")

    def _cancel(self) -> None:
        if self._job is not None:
            self._job.cancel()

    def show_stage(self, stage: Stage) -> None:
        """Puts an open stage on the screen, in Compare, or in Gather where something has to be asked first."""
        old = self.stage
        for part in (self.line_up, self.compare, self.book, self.followed):
            if part is not None:
                self.stack.removeWidget(part)
                part.deleteLater()
        if old is not None and old.project is not stage.project:
            old.project.close()
        self.stage = stage
        # Decisions may have been taken while it was reviewed.
        stage.book.again()
        places.remember(stage.project.path)
        self.line_up = LineUp(stage, self.theme)
        self.compare, self.book = Compare(stage, self.theme), Book(stage, self.theme)
        self.line_up.clock_wanted.connect(self._set_clock)
        self.line_up.opened.connect(lambda _: self.go_to("Compare"))
        self.stack.addWidget(self.line_up)
        self.compare.parts_wanted.connect(self.set_parts)
        self.stack.addWidget(self.compare)
        self.stack.addWidget(self.book)
        self.followed, self._followed_at = Passes(self.theme), ()
        self.followed.looked_at.connect(self._look_at)
        self.stack.addWidget(self.followed)
        self.gather.show_stage(stage, self.theme, can_hear=self.compare.has_sound)
        stage.book.changed.connect(self._show_header)
        stage.reviewed.connect(self._show_header)
        stage.stale.connect(lambda: self._again(stage, lambda: None))
        self.passes.clear()
        for one in driven(stage.project):
            self.passes.addItem(f"{one.name}  ▾", one.made.id)
        self.passes.setCurrentIndex(self.passes.findData(stage.this_pass.id))
        self._show_header()
        # Which of several drives is the stage has to be asked before anything is judged.
        asked = len(stage.review.measured.drives) > 1 and stage.by_hand.start_s is None
        fit = stage.review.fit
        large = [say_clause(fit.sentence)] if fit.sentence else []
        if stage.inputs.notes is None:
            large.append(say("There is no written book: what was said stands for it."))
        self.misfit.setText(" ".join(large))
        self.misfit.setVisible(bool(large))
        self.go_to("Gather" if asked else "Compare" if fit.belongs else "Line up")
        self.opened.emit()

    def _on_stage(self, work: Callable[[Stage], None]) -> None:
        if self.stage is None or self.compare is None:
            return
        try:
            work(self.stage)
        except MirkleError as fault:
            self.compare.evidence.say(say_fault(fault), fault=True)

    def resizeEvent(self, event: QResizeEvent) -> None:
        # On a narrow screen it gives way first: the dangers beside it never do.
        self.progress.setVisible(self.width() >= ROOM_FOR_PROGRESS_PX)
        super().resizeEvent(event)

    def closeEvent(self, event: QCloseEvent) -> None:
        if self._job is not None:
            self._job.cancel()
            self._job.wait()
        if not self.isFullScreen() and not self.isMaximized():
            places.keep_setting("window", [self.width(), self.height()])
        for project in (self.stage.project if self.stage is not None else None, self._beginning):
            if project is not None:
                project.close()
        super().closeEvent(event)


@dataclass(frozen=True)
class Taken:
    """Files that were taken in: those that wait, the stage they make, or the words against the notes until there is one."""

    files: tuple[Sorted, ...]
    stage: Stage | None
    against: SaidAgainst | None = None
    intake: Intake | None = None
    beginning: Project | None = None


def _taken(
    paths: list[Path],
    waiting: list[Sorted],
    stage: Stage | None,
    beginning: Project | None,
    progress: Callable[[str, float], None],
) -> Taken:
    """The files sorted out, and the stage they make.

    Where a stage is open they may belong to it: then nothing is done before it is known how.
    """
    taken = []
    for i, path in enumerate(paths):
        progress(say("Reading {0}", path.name), 0.1 * i / len(paths))
        taken.append(take_in(path))
    if stage is not None:
        return Taken(tuple(taken), None, intake=intake_of(stage, taken))
    found = list(waiting)
    for sorted_ in taken:
        # There may be several runs, but only one book, one text of words, one crew.
        found = [s for s in found if s.material.kind == "run" or s.material.kind != sorted_.material.kind] + [sorted_]
    return _put_together(found, progress, beginning)


def _put_together(
    found: list[Sorted], progress: Callable[[str, float], None], beginning: Project | None = None
) -> Taken:
    """The new stage that the files make; while the recording is missing the stage's beginning, which is kept as well."""
    materials: list[Material] = [s.material for s in found]
    newest = {m.kind: m for m in materials}
    name = Path((newest.get("notes") or materials[-1]).name).stem
    try:
        inputs_of(materials)
    except MirkleError:
        against = _against(newest)
        if "notes" not in newest:
            return Taken(tuple(found), None, against)
        if beginning is None:
            beginning = Project.create(places.fresh_project_path(name), materials, name=name)
        else:
            come_to(beginning, materials)
        # From here on each file has its number in the project.
        kept = {(m.kind, m.name, m.content): m for m in beginning.materials()}
        found = [replace(s, material=kept[s.material.kind, s.material.name, s.material.content]) for s in found]
        return Taken(tuple(found), None, against, beginning=beginning)
    if beginning is not None:
        come_to(beginning, materials)
        return Taken(tuple(found), Stage.of_project(beginning, progress=progress))
    path = places.fresh_project_path(name)
    project = Project.create(path, materials, name=name)
    try:
        return Taken(tuple(found), Stage.of_project(project, progress=progress))
    except BaseException:
        # A stage that can't be reviewed, or was stopped, leaves nothing behind.
        project.close()
        path.unlink(missing_ok=True)
        raise


def _against(newest: dict[str, Material]) -> SaidAgainst | None:
    """The words against the notes, where both are there."""
    notes, calls = newest.get("notes"), newest.get("calls")
    return said_against(notes, calls, crew_of(newest.get("crew"))) if notes and calls else None


def _opened(path: Path, progress: Callable[[str, float], None]) -> Stage | Taken:
    """The stage of a file, or its beginning where it has no recording yet."""
    project = Project.open(path)
    if any(p.run is not None for p in project.passes()):
        return Stage.of_project(project, progress=progress)
    found = [described(m) for m in project.materials()]
    return Taken(tuple(found), None, _against({s.material.kind: s.material for s in found}), beginning=project)


def _passes_of(stage: Stage) -> tuple[object, ...]:
    """The passes of a stage as they are now."""
    return tuple(stage.project.passes())


def _kept_size() -> tuple[int, int]:
    """The size that the window had last, on this screen with its frame around it."""
    kept = places.setting("window", [1280, 800])
    wide, high = (
        kept if isinstance(kept, list) and len(kept) == 2 and all(isinstance(n, int) for n in kept) else (1280, 800)
    )
    screen = QApplication.primaryScreen()
    if screen is not None:
        room = screen.availableGeometry()
        wide, high = min(wide, room.width()), min(high, room.height() - FRAME_PX)
    return max(wide, 640), max(high, 480)


def _same_file(a: Path, b: Path) -> bool:
    """Whether two paths lead to one file."""
    return a.exists() and b.exists() and a.samefile(b)
