"""What is open, what waits to be opened, and every use case of it; without a window.

States: nothing is open; a stage is begun (files wait for a recording); a pass is open. Whatever takes long is done by :class:`Work`, one
piece at a time: a command that comes meanwhile waits for its turn, and is refused with a sentence where what it was meant for is gone.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.core.judging.parts import Part
from mirkle.core.messages import Message, message
from mirkle.core.overrides import ManualOverrides, hand_parts
from mirkle.core.progress import Progress
from mirkle.files.crew_record import CrewRecord
from mirkle.files.project.project import SourceFile
from mirkle.files.speech.heard_json import HeardCalls
from mirkle.session import recent_stages, season
from mirkle.session.crew_gathering import gather
from mirkle.session.crew_records import chosen_crew, forget_scale
from mirkle.session.open_files import ImportResult, open_pass, opened
from mirkle.session.open_pass import OpenPass
from mirkle.session.opening import Opening, Questions
from mirkle.session.playback_clock import has_video
from mirkle.session.rallies import Rallies
from mirkle.session.rally import Rally
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.signal import Signal
from mirkle.session.stage_summary import keep_summary
from mirkle.session.work import Runner, Work

# Where one is already.
HERE = "here"


class Workspace:
    """Opens and changes stages. ``shown`` carries the pass that is open now and the page to show it on (``""``: the page that fits);
    ``cleared`` says that nothing is open; ``gathered`` carries the :class:`ImportResult` of files that wait and what is still missing;
    ``failed`` a fault, and ``notice`` a sentence; ``changed`` says that other commands can be done now; ``followed`` carries the pairs
    of passes that were compared, with their counts.
    """

    def __init__(self, run: Runner, questions: Questions) -> None:
        self.shown, self.cleared, self.gathered = Signal(), Signal(), Signal()
        self.failed, self.notice, self.changed, self.followed = Signal(), Signal(), Signal(), Signal()
        self.work = Work(run)
        self.work.refused.connect(self._refused)
        self.stage: OpenPass | None = None
        self.has_video = False
        self.opening, self.rallies = Opening(self, questions), Rallies(self)
        self._followed_at: tuple[object, ...] = ()

    @property
    def reviewed(self) -> ReviewedPass | None:
        """The open pass, where a recording was reviewed."""
        return self.stage if isinstance(self.stage, ReviewedPass) else None

    @property
    def rally(self) -> Rally | None:
        """The rally that is open."""
        return self.rallies.rally

    @property
    def with_book(self) -> OpenPass | None:
        """The pass whose book is open, with or without a recording."""
        return self.stage or self.opening.book_alone

    @property
    def has_book(self) -> bool:
        """Whether there is a book, with or without a recording."""
        return self.with_book is not None

    # Opening

    def open_first_book(self) -> None:
        """Opens the demo of a first book, made on the first call."""
        from mirkle.session.demo_first_book import first_book_demo

        name = message("Show the demo of a first book")
        self.work.when_free(name, lambda: self.work.start(first_book_demo, self.opening.open_project))

    def change_pass(self, wanted: int, then: Callable[[OpenPass], object] | None = None) -> None:
        """Opens another pass of the stage; the file stays open and locked."""
        stage = self.stage
        if stage is not None and wanted != stage.this_pass.id:
            project, known = stage.project, stage.measurements
            self.work.when_free(
                message("Another pass"),
                lambda: self.work.start(lambda progress: open_pass(project, wanted, known, progress), then or self.show),
                fits=lambda: self.stage is not None and self.stage.project is project,
                key="pass",
            )

    def show(self, stage: OpenPass, place: str = "") -> bool:
        """Makes a pass the one that is open. Returns whether it did: not where it was changed while it was being reviewed, which is then
        done again."""
        if not stage.is_of_today:
            self.work.when_free(message("Review again"), lambda: self._open_again(stage, place), key="again", first=True)
            return False
        old = self.stage
        if old is not None:
            keep_summary(old)
            if old.project is not stage.project:
                old.project.close()
        self.stage, self.opening.book_alone = stage, None
        self.has_video = has_video(stage.project, stage.pass_now())
        # Decisions may have been taken while it was reviewed.
        stage.book.reload()
        recent_stages.remember(stage.project.path)
        keep_summary(stage)
        if isinstance(stage, ReviewedPass):
            gather(stage)
        self._followed_at = ()
        stage.book.changed.connect(self.changed.emit)
        stage.reviewed.connect(self.changed.emit)
        stage.stale.connect(lambda: self.redo_review(stage))
        self.shown.emit(stage, place)
        self.changed.emit()
        return True

    # Changing what is open

    def set_overrides(self, change: Callable[[ManualOverrides], ManualOverrides]) -> None:
        """Keeps what is set by hand, and reviews the pass again with it."""
        stage = self.reviewed
        if stage is not None:
            self.redo_review(stage, lambda: stage.set_overrides(change(stage.overrides)))

    def set_limits(self, start_s: float | None, finish_s: float | None) -> None:
        """Sets the start and the finish of the drive, in seconds of the recording."""
        self.set_overrides(lambda overrides: replace(overrides, start_s=start_s, finish_s=finish_s))

    def set_clock(self, calls_minus_run_s: float | None) -> None:
        """Sets how far the clock of the calls is ahead of the recording's."""
        self.set_overrides(lambda overrides: replace(overrides, calls_minus_run_s=calls_minus_run_s))

    def parts(self) -> list[Part]:
        """The parts of the pass that don't count, as they are set by now, whether or not it was reviewed with them."""
        stage = self.reviewed
        if stage is None:
            return []
        by_crew = stage.overrides.parts_on(stage.review.profile)
        return list(stage.review.parts if by_crew is None else by_crew)

    def set_parts(self, parts: list[Part]) -> None:
        """Sets the parts of the pass that don't count."""
        stage = self.reviewed
        if stage is not None:
            held = hand_parts(parts, stage.review.profile)
            self.set_overrides(lambda overrides: replace(overrides, parts=held))

    def add_crew(self, crew: SourceFile) -> None:
        """Takes what was settled into the crew's own file, and reads and reviews again."""
        stage = self.stage
        if stage is not None:
            self.redo_review(stage, lambda: stage.project.add(crew))

    def redo_review(
        self,
        stage: OpenPass,
        change: Callable[[], object] = lambda: None,
        place: str = HERE,
        then: Callable[[OpenPass], object] = lambda _: None,
    ) -> None:
        """Changes the stage's material at once, and reviews the pass again as soon as nothing else is being done; then shown where one
        was, or on ``place``, and handed to ``then``."""
        try:
            # Here and not in the background: it tells the views, and they are this thread's.
            change()
        except MirkleError as fault:
            self.failed.emit(fault)
            return
        self.work.when_free(message("Review again"), lambda: self._open_again(stage, place, then), fits=self.still(stage), key="again")

    def _open_again(self, stage: OpenPass, place: str, then: Callable[[OpenPass], object] = lambda _: None) -> None:
        def show(again: OpenPass) -> None:
            self.show(again, place)
            then(again)

        self.work.start(lambda progress: open_pass(stage.project, stage.this_pass.id, stage.measurements, progress), show)

    def on_stage(self, change: Callable[[OpenPass], object]) -> MirkleError | None:
        """Does something with the stage that is open, or with the book that waits for one; the fault where it could not."""
        stage = self.with_book
        if stage is None:
            return None
        try:
            change(stage)
        except MirkleError as fault:
            return fault
        return None

    # The sound

    def listen(self) -> None:
        """Finds when each note was called, from the sound of the pass."""
        from mirkle.session.listening import can_listen, listened

        stage = self.stage
        if stage is None:
            return
        if not can_listen(stage):
            self.failed.emit(
                MirkleError(
                    "there is nothing to listen to",
                    mend="this takes a book and the pass's sound or video; timed text that knows its times as well is not listened for",
                )
            )
            return
        self._hear(message("Find the calls in the sound"), lambda progress: listened(stage, progress))

    def solve_calls_again(self, make: Callable[[], HeardCalls]) -> None:
        """Solves the call times again after one was set right."""
        self._hear(message("Set a call right"), lambda _: make())

    def _hear(self, name: Message, task: Callable[[Progress], HeardCalls]) -> None:
        stage = self.stage
        self.work.when_free(name, lambda: self.work.start(task, self._heard), fits=lambda: self.stage is stage)

    def _heard(self, heard: HeardCalls) -> None:
        from mirkle.session.listening import keep_heard

        stage = self.stage
        if stage is not None:
            place = "Line up" if self.reviewed is not None else "By eye"
            self.redo_review(stage, lambda: keep_heard(stage, heard), place)

    # Passes

    def forget_passes(self) -> None:
        """Lets :meth:`follow` compare the passes anew."""
        self._followed_at = ()

    def follow(self) -> None:
        """Compares the passes of the stage with each other, where they have changed since."""
        stage = self.stage
        if stage is not None and self._followed_at != _passes_of(stage):
            self.work.when_free(message("Passes"), lambda: self._follow(stage), fits=self.still(stage), key="Passes")

    def _follow(self, stage: OpenPass) -> None:
        from mirkle.session.change_review import PassPair, follow

        known = _passes_of(stage)

        def show(steps: list[PassPair]) -> None:
            if self.stage is stage:
                self._followed_at = known
                counts = sum((step.counts() for step in steps if step.counts_in_the_season), Counter())
                for step in steps:
                    step.book.changed.connect(stage.book.reload)
                self.followed.emit(steps, season.count_verdicts(stage.project.path, counts))

        self.work.start(lambda progress: follow(stage.project, stage.measurements, progress), show)

    def look_at(self, pass_id: int, note: int) -> None:
        """Shows a note of a pass in Compare."""
        stage = self.stage
        if stage is None:
            return
        if stage.this_pass.id == pass_id:
            stage.choose_note(note)
            self.shown.emit(stage, "Compare")
            return

        def show(other: OpenPass) -> None:
            if self.show(other):
                other.choose_note(note)

        self.change_pass(pass_id, show)

    def look_at_note(self, path: Path, note: int) -> None:
        """Shows a note of a saved stage in Compare."""
        stage = self.stage
        if stage is not None and stage.project.path == path:
            stage.choose_note(min(note, len(stage.notes) - 1))
            self.shown.emit(stage, "Compare")
            return

        def show(found: OpenPass | ImportResult) -> None:
            if isinstance(found, OpenPass) and self.show(found):
                found.choose_note(min(note, len(found.notes) - 1))

        self.work.when_free(path.stem, lambda: self.work.start(lambda progress: opened(path, progress), show), key=f"open {path}")

    def crew_chosen(self, before: CrewRecord | None) -> None:
        """Reviews the open pass again where another crew was chosen, or its profile is used now or no longer; and gathers from it."""
        stage, now = self.reviewed, chosen_crew()
        if stage is None:
            return
        if _judged_by(before) != _judged_by(now):
            self.redo_review(stage)
        elif now is not None:
            gather(stage)

    def judge_by_profile(self) -> None:
        """Reviews the open pass again with what the crew's profile knows by now, and says what that changed."""
        stage = self.reviewed
        if stage is None:
            return
        before = len(stage.findings)

        def say(again: OpenPass) -> None:
            self.tell_after(message("Judged by your profile of now: {0} findings, {1} before.", len(again.findings), before))

        self.redo_review(stage, lambda: forget_scale(stage.project), then=say)

    def tell_after(self, words: Message) -> None:
        """Says something when what is being worked out is done: the line that says what is going on is free then."""
        self.work.when_free(words, lambda: self.notice.emit(words), first=True)

    # What goes wrong

    def still(self, stage: OpenPass) -> Callable[[], bool]:
        """Whether the same pass of the same stage is open, whenever that is asked."""
        project, number = stage.project, stage.this_pass.id
        return lambda: self.stage is not None and self.stage.project is project and self.stage.this_pass.id == number

    def _refused(self, name: Message | str) -> None:
        self.notice.emit(message("“{0}” was not done: another stage or pass was opened meanwhile. Do it again there.", name))

    def close(self) -> None:
        """Ends all work, and closes what is open, which is kept."""
        self.work.give_up()
        self.put_away()
        self.opening.put_away()

    def put_away(self) -> None:
        """Closes the stage that is open, which is kept in its file."""
        if self.stage is not None:
            keep_summary(self.stage)
            self.stage.project.close()
        self.stage, self.has_video, self._followed_at = None, False, ()


def _judged_by(record: CrewRecord | None) -> str:
    """The crew whose profile reviews use; empty where none."""
    return record.name if record is not None and record.used else ""


def _passes_of(stage: OpenPass) -> tuple[object, ...]:
    """The passes of a stage as they are now."""
    return tuple(stage.project.passes())
