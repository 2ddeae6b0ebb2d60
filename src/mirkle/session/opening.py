"""Opening stages and taking files in: what they make together, what is asked about them, and what waits for the rest of a stage."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Protocol

from mirkle.core.errors import Cancelled, MirkleError
from mirkle.core.lineup.blanks import BlankBook, blank_book
from mirkle.core.messages import message
from mirkle.core.progress import Progress
from mirkle.files.notes.languages import shipped_languages
from mirkle.files.project.merge import Merged
from mirkle.files.project.project import SUFFIX, Project, SourceFile
from mirkle.files.rally_file import SUFFIX as RALLY_SUFFIX
from mirkle.files.recordings.columns import UnknownColumns
from mirkle.session import demo, draft, recent_stages, settings
from mirkle.session.assign_files import LEAVE_OUT, Intake, take_in_all
from mirkle.session.copies import copied_stage, merged_words
from mirkle.session.crew_records import scale_now
from mirkle.session.described_files import ImportedFile, described
from mirkle.session.import_files import UnlikeNotes
from mirkle.session.known_stages import driven_before, due_then, with_this_book
from mirkle.session.naming import distinct_name
from mirkle.session.open_files import ImportResult, book_alone, merged_with, open_pass, opened, put_together, taken
from mirkle.session.open_pass import OpenPass
from mirkle.session.rally_copies import is_packed_rally
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.reviewing import Measurements, inputs_of
from mirkle.session.shelf import Shelved, names
from mirkle.session.stage_summary import course_of, keep_book

if TYPE_CHECKING:
    from mirkle.session.workspace import Workspace


class Questions(Protocol):
    """What only the crew can answer."""

    def columns(self, fault: UnknownColumns) -> Sequence[str] | None:
        """What the columns of a table hold; ``None`` where nobody says."""

    def is_the_book(self, fault: UnlikeNotes) -> bool:
        """Whether a text of which much is not understood is the book."""

    def files(self, intake: Intake) -> Intake | None:
        """Where each file belongs; ``None`` where they are not taken in."""

    def was_due(self, stage: str) -> bool:
        """Whether a recording is of the stage that was due when it was made."""

    def has_this_book(self, stage: str) -> bool:
        """Whether new files are of the stage on the shelf that has their book."""

    def joins(self, stage: str) -> bool:
        """Whether a new recording of the road of a stage on the shelf becomes a pass of that stage, rather than a new one."""

    def merge(self, copy: str, stage: str) -> bool | None:
        """Whether a file that is a copy of a stage is merged into it, or opened as it is; ``None`` where neither."""


class Opening:
    """What is being opened in a workspace.

    ``waiting`` are files that wait for the rest of a stage; ``beginning`` is the stage that they are kept in as soon as there is a book,
    and ``book_alone`` that book, which can be rehearsed without a recording. ``title`` is the name that somebody gave to a stage of which
    nothing else is there yet.
    """

    def __init__(self, workspace: Workspace, questions: Questions) -> None:
        self.workspace, self._work = workspace, workspace.work
        self.beginning: Project | None = None
        self.book_alone: OpenPass | None = None
        self.waiting: list[ImportedFile] = []
        self._questions = questions
        self._taking: list[Path] = []
        # The files of all that waits, where it came from files.
        self._files: list[Path] = []
        self._agreed: frozenset[Path] = frozenset()
        self.title = ""
        workspace.work.failed.connect(self._failed)

    def put_away(self) -> None:
        """Closes the stage that is begun, which is kept in its file, and forgets what waits."""
        if self.beginning is not None:
            self.beginning.close()
        self.beginning, self.book_alone, self.waiting, self.title = None, None, [], ""

    def open_demo(self) -> None:
        """Opens the demo stage."""
        self._work.when_free(
            message("Show the demo stage"),
            lambda: self._work.start(lambda progress: ReviewedPass.of_project(demo.demo_project(), progress=progress), self.workspace.show),
        )

    def new_stage(self) -> None:
        """Puts away what is open, which is kept in its file, and waits for the files of another stage."""
        self._work.when_free(message("New stage"), self.begin_anew, key="new")

    def begin_anew(self) -> None:
        """Puts away what is open or begun, which is kept in its file."""
        self.workspace.put_away()
        self.put_away()
        self.workspace.cleared.emit()
        self.workspace.changed.emit()

    def open_project(self, path: Path) -> None:
        """Opens a saved stage; one that is open already is shown."""
        if self.workspace.stage is not None and _same_file(path, self.workspace.stage.project.path):
            self.workspace.shown.emit(self.workspace.stage, "Compare")
        elif self.beginning is not None and _same_file(path, self.beginning.path):
            self.workspace.gathered.emit(ImportResult(tuple(self.waiting), None, beginning=self.beginning), None)
        else:
            self._work.when_free(
                path.stem, lambda: self._work.start(lambda progress: opened(path, progress), self._show_opened), key=f"open {path}"
            )

    def _open_or_merge(self, path: Path) -> None:
        """Opens a saved stage; a copy of one that is here may be merged into it."""
        open_stage = self.workspace.stage
        mine = copied_stage(path, open_stage.project.path if open_stage is not None else None) if path.is_file() else None
        answer = self._questions.merge(path.name, mine.stem) if mine is not None else False
        if mine is None or answer is False:
            self.open_project(path)
        elif answer:
            self._work.when_free(message("Merge"), lambda: self._merge(mine, path), key=f"merge {path}")

    def _merge(self, mine: Path, copy: Path) -> None:
        """Merges a copy, and opens the stage with what came; the one that is open is kept until then."""
        stage = self.workspace.stage
        if stage is not None and _same_file(mine, stage.project.path):
            project, pass_id, known = stage.project, stage.this_pass.id, stage.measurements
        else:
            project, pass_id, known = Project.open(mine), None, None

        def show(done: tuple[OpenPass, Merged]) -> None:
            self.workspace.show(done[0])
            self.workspace.tell_after(merged_words(done[1]))

        self._work.start(lambda progress: merged_with(project, copy, pass_id, known, progress), show)

    def _show_opened(self, found: OpenPass | ImportResult) -> None:
        if isinstance(found, ImportResult):
            self._took(found)
        else:
            self.workspace.show(found)

    def take_files(self, paths: list[Path]) -> None:
        """Takes files in: a saved stage is opened, notes and recordings are put together to a new one, or join the one that is open."""
        rallies = [p for p in paths if p.suffix == RALLY_SUFFIX or (p.suffix == ".zip" and is_packed_rally(p))]
        if rallies:
            self.workspace.rallies.merge_in(rallies[0])
            paths = [p for p in paths if p not in rallies]
        saved = [p for p in paths if p.suffix == SUFFIX]
        if saved:
            self._open_or_merge(saved[0])
            left = [p.name for p in paths if p != saved[0]]
            if left:
                self.workspace.notice.emit(
                    message("{0} is opened first. Drop the others again when it is open: {1}.", saved[0].name, ", ".join(left))
                )
        elif paths:
            self._work.when_free(", ".join(p.name for p in paths), lambda: self._take(paths))

    def _take(self, paths: list[Path]) -> None:
        waiting, beginning, agreed = list(self.waiting), self.beginning, self._agreed
        # Files that wait for the rest of a new stage are joined; else they may belong to the one that is open.
        stage = self.workspace.stage if not waiting else None
        self._taking = paths
        files = [*self._files, *paths] if waiting else paths
        self._work.start(lambda progress: taken(paths, waiting, stage, beginning, progress, agreed), lambda made: self._took(made, files))

    def take_files_as_new(self, paths: list[Path]) -> None:
        """Takes files in as a new stage, whatever is open."""

        def anew() -> None:
            self.begin_anew()
            self.take_files(paths)

        self._work.when_free(message("New stage"), anew)

    def begin_titled(self, title: str) -> None:
        """Puts away what is open, and begins a stage of which nothing is there but its title: what is typed next is its book."""

        def begin() -> None:
            self.begin_anew()
            self.title = title.strip()

        self._work.when_free(message("New stage"), begin, key="new")

    def take_typed(self, text: str, then: Callable[[], None]) -> None:
        """Takes in a book that was typed; ``then`` is called when a stage's file holds it."""
        typed = SourceFile("notes", "typed-notes.txt", text.encode())

        def took(result: ImportResult) -> None:
            if result.stage is not None or result.beginning is not None:
                if draft.typed_draft() == text:
                    draft.keep_typed_draft("")
                then()
            self._took(result)

        def put() -> None:
            waiting = [s for s in self.waiting if s.material.kind != "notes"]
            beginning = self.beginning
            self._work.start(lambda progress: put_together([*waiting, described(typed)], progress, beginning), took)

        self._work.when_free(message("Use these notes"), put, key="typed")

    @property
    def can_begin_a_book(self) -> bool:
        """Whether a recording waits, and no book."""
        kinds = {s.material.kind for s in self.waiting}
        return "run" in kinds and "notes" not in kinds

    def begin_book(self, code: str, then: Callable[[BlankBook], None]) -> None:
        """Makes a book to be filled in from the recording that waits, in the language of a ``code``, and hands it to ``then``: blanks, and
        what the road is like, by the scale of the crew where its profile is used."""
        run = next(s.material for s in self.waiting if s.material.kind == "run")
        work = message("Begin the book")
        self._work.when_free(work, lambda: self._work.start(lambda progress: _blanks_of(run, code, progress), then), key="blanks")

    def _took(self, result: ImportResult, files: Sequence[Path] = ()) -> None:
        """Shows what was made of what came; ``files`` where all of it came from files, which another stage may take instead."""
        if result.intake is not None:
            self._ask_where(result.intake, list(result.files))
            return
        self._files = list(files)
        # A stage that was begun before holds more than these files.
        is_new = self.beginning is None and not self.title
        stage, made = result.stage, result.made
        self.waiting = list(result.files) if stage is None else []
        if made is not None and self.title:
            made.set_info("name", distinct_name(self.title, names()))
            self.title = ""
        if self.beginning is not None and self.beginning not in (result.beginning, stage.project if stage else None):
            self.beginning.close()
        self.beginning, self.book_alone = result.beginning, None
        if result.beginning is not None:
            recent_stages.remember(result.beginning.path)
            self.book_alone = book_alone(result.beginning) if stage is None else None
            if self.book_alone is not None:
                keep_book(self.book_alone)
                self.book_alone.book.changed.connect(self.workspace.changed.emit)
        if files and self._joins_another_stage(result, is_new=is_new):
            return
        if stage is not None:
            # First what each file was taken for; Enter goes on.
            self.workspace.show(stage, "Line up" if isinstance(stage, ReviewedPass) and not stage.review.fit.belongs else "Gather")
            return
        try:
            inputs_of([s.material for s in self.waiting])
            missing = None
        except MirkleError as fault:
            missing = fault
        self.workspace.gathered.emit(result, missing)
        self.workspace.changed.emit()

    def _joins_another_stage(self, result: ImportResult, *, is_new: bool) -> bool:
        """Asks whether what came belongs to a stage on the shelf, by its road, else by its book, else by its hour, and opens that one with
        the files instead; whether it does."""
        stage = result.stage
        return (
            (isinstance(stage, ReviewedPass) and self._joins_a_known_stage(stage, is_new=is_new))
            or (is_new and not _knows_its_road(stage) and self._joins_the_stage_with_this_book(result))
            or (stage is None and self._joins_the_stage_that_was_due())
        )

    def _joins_a_known_stage(self, stage: ReviewedPass, *, is_new: bool) -> bool:
        """Asks whether a drive is a pass of a stage that was driven before, and opens that one with the files instead; whether it does."""
        before = driven_before(stage)
        if before is None or not self._questions.joins(before.name):
            return False
        return self._open_with_files(before, stage.project, holds_more=not is_new)

    def _joins_the_stage_with_this_book(self, result: ImportResult) -> bool:
        """Asks whether new files are of a stage whose book they hold or were read from, and opens that one with them; whether it does."""
        made = result.made
        known = with_this_book([f.material for f in result.files], made.info("id") if made is not None else "")
        if known is None or not self._questions.has_this_book(known.name):
            return False
        return self._open_with_files(known, made)

    def _joins_the_stage_that_was_due(self) -> bool:
        """Asks whether a recording without a book is of the stage that the rally had then, and opens that one with it; whether it does."""
        rally, alone = self.workspace.rally, self.beginning is None and self.can_begin_a_book
        due = due_then(rally, [f.material for f in self.waiting if f.material.kind == "run"]) if rally and alone else None
        if due is None or not self._questions.was_due(due.name):
            return False
        return self._open_with_files(due)

    def _open_with_files(self, known: Shelved, made: Project | None = None, *, holds_more: bool = False) -> bool:
        """Opens a stage of the shelf with the files; what was ``made`` of them is closed, and deleted unless it ``holds_more``."""
        files = self._files
        self.waiting, self.beginning, self.book_alone = [], None, None
        if made is not None:
            made.close()
            if not holds_more:
                made.path.unlink(missing_ok=True)

        def show(found: OpenPass | ImportResult) -> None:
            self._show_opened(found)
            self._work.when_free(", ".join(p.name for p in files), lambda: self._take(files))

        self._work.when_free(known.name, lambda: self._work.start(lambda progress: opened(known.path, progress), show), first=True)
        return True

    def _ask_where(self, intake: Intake, files: list[ImportedFile]) -> None:
        """Takes files in that came to the open stage; what can't be told is asked first."""
        if all(row.choices == (LEAVE_OUT,) for row in intake.rows):
            self.workspace.tell_after(message("The stage has this already: {0}.", ", ".join(row.material.name for row in intake.rows)))
            return
        answered = self._questions.files(intake) if intake.has_to_ask else intake
        stage = self.workspace.stage
        if stage is None or answered is None:
            return
        # The task that read the files is about to end.
        names = ", ".join(f.material.name for f in files)
        self._work.when_free(names, lambda: self._take_in(stage, answered, files), fits=self.workspace.still(stage), first=True)

    def _take_in(self, stage: OpenPass, intake: Intake, files: list[ImportedFile]) -> None:
        if any(r.chosen == "stage" for r in intake.rows):
            mine = [f for f, r in zip(files, intake.rows, strict=True) if r.chosen != "not-in"]
            self._work.start(lambda progress: put_together(mine, progress), self._took_as_new)
        else:
            self._work.start(
                lambda progress: open_pass(stage.project, take_in_all(stage, intake), stage.measurements, progress), self.workspace.show
            )

    def _took_as_new(self, result: ImportResult) -> None:
        """Files of another stage: the one that was open is put away first, unless they make a whole one."""
        if result.stage is None:
            self.begin_anew()
        self._took(result)

    def _failed(self, fault: MirkleError) -> None:
        if isinstance(fault, UnknownColumns) and self._columns_said(fault):
            return
        if isinstance(fault, UnlikeNotes) and self._book_said(fault):
            return
        self.workspace.failed.emit(None if isinstance(fault, Cancelled) else fault)

    def _columns_said(self, fault: UnknownColumns) -> bool:
        """Asks what a table's columns hold, and takes its file in again with that; whether it was said."""
        names, paths = self._questions.columns(fault), self._taking
        if names is None:
            return False
        settings.keep_columns(fault.look.shape, names)
        # The task that met the table is about to end.
        self._work.when_free(", ".join(p.name for p in paths), lambda: self.take_files(paths), first=True)
        return True

    def _book_said(self, fault: UnlikeNotes) -> bool:
        """Asks whether a text of which much is not understood is the book. Takes the files in again, with it or without; whether any are
        left."""
        if self._questions.is_the_book(fault):
            self._agreed |= {fault.path}
        paths = [p for p in self._taking if p != fault.path or p in self._agreed]
        if paths:
            self._work.when_free(fault.path.name, lambda: self.take_files(paths), first=True)
        return bool(paths)


def _knows_its_road(stage: OpenPass | None) -> bool:
    """Whether a stage has a recording that knows its places."""
    return isinstance(stage, ReviewedPass) and bool(course_of(stage))


def _same_file(a: Path, b: Path) -> bool:
    """Whether two paths lead to one file."""
    return a.exists() and b.exists() and a.samefile(b)


def _blanks_of(run: SourceFile, code: str, progress: Progress) -> BlankBook:
    """A book to be filled in from a recording, in the language of a code, by the scale of the crew."""
    measured = Measurements().of(run, None, progress)
    language = next((la for la in shipped_languages() if la.code == code), shipped_languages()[0])
    return blank_book(measured.road, measured.vertical, language, scale_now())
