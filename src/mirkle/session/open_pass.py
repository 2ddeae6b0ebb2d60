"""A pass that is open, as far as its book goes: what needs no recording. :class:`~mirkle.session.reviewed_pass.ReviewedPass` has one,
and a review; :class:`~mirkle.session.video_pass.VideoPass` has a video."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from mirkle.core.judging.findings import Finding
from mirkle.core.notebook.decisions import Addition, Decision, PassChange
from mirkle.core.notebook.paging import Pages
from mirkle.core.notebook.passes import Pass
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.model import Note, Reading
from mirkle.core.notes.writing import written_out
from mirkle.core.speech.reading import CallTime
from mirkle.files.notes.text import language_of
from mirkle.files.project.project import Project, SourceFile
from mirkle.session.decision_book import DecisionBook
from mirkle.session.decision_places import DecisionSubject, Elsewhere, nowhere_else
from mirkle.session.paging import set_pages
from mirkle.session.parsed_files import crew_of
from mirkle.session.reviewing import Measurements
from mirkle.session.signal import Signal


class OpenPass:
    """A pass with its book, the chosen note, and what the crew decided.

    Signals: ``stale`` (something of the pass was undone: it has to be opened again), ``chosen`` (a finding or note was chosen),
    ``reviewed`` (what the pages show changed).
    """

    def __init__(
        self,
        project: Project,
        judged: DecisionSubject,
        this_pass: Pass,
        crew: SourceFile | None,
        measurements: Measurements | None,
        elsewhere: Elsewhere = nowhere_else,
    ) -> None:
        self.project, self.this_pass, self.crew_file = project, this_pass, crew
        self.measurements = measurements or Measurements()
        self.chosen, self.reviewed, self.stale = Signal(), Signal(), Signal()
        self.crew: CrewProfile = crew_of(crew)
        self.language = language_of(judged.reading, self.crew)
        self.book = DecisionBook(project, judged, self.language, this_pass.id, elsewhere)
        self.finding: Finding | None = None
        self.note = 0

    @property
    def judged(self) -> DecisionSubject:
        """What the decisions are about."""
        return self.book.judged

    @property
    def reading(self) -> Reading:
        """The book on the pages of the paper book."""
        return self.judged.reading

    @property
    def calls(self) -> SourceFile | None:
        """What was said on this pass, or when."""
        raise NotImplementedError

    @property
    def said(self) -> Sequence[CallTime]:
        """When notes were said, in any order."""
        raise NotImplementedError

    @property
    def notes(self) -> tuple[Note, ...]:
        """The notes in the order of the book."""
        return self.judged.reading.notes

    def said_out(self, note: int) -> str:
        """A note in the words in which it is called."""
        return written_out(self.notes[note], self.language, order=self.reading.order).text

    @property
    def school(self) -> GradingScheme:
        """How this crew counts its grades."""
        return self.judged.school

    def set_pages(self, pages: Pages) -> None:
        """Lays the notes on other pages and lines, here and on everything that is printed or taken away.

        Raises
        ------
        UnusableProject
            It can't be kept.
        """
        set_pages(self.project, pages)
        self.pages_set()

    def pages_set(self) -> None:
        """Takes in other pages, as the settings or somebody set them."""
        self.book.rebase(self._laid_out())
        self.reviewed.emit()
        self.book.changed.emit()

    def _laid_out(self) -> DecisionSubject:
        """What the decisions are about, on the pages as they are set now."""
        raise NotImplementedError

    # Choosing

    @property
    def findings(self) -> tuple[Finding, ...]:
        """What was found by measuring, most risk first."""
        return tuple(self.judged.findings)

    def findings_on(self, note: int) -> list[Finding]:
        """What was found on a note by measuring, most risk first."""
        return [f for f in self.findings if f.note == note]

    def condition_on_note(self, _note: int) -> Addition | None:
        """The worst that those ahead reported where a note's corner lies and that still holds; ``None`` where nothing was, or where nobody
        knows where the corner lies."""
        return None

    def choose_note(self, note: int) -> None:
        """Makes a note the one that is looked at, with its first finding if it has one."""
        self.note = max(0, min(note, len(self.notes) - 1))
        on_it = self.findings_on(self.note)
        self.finding = on_it[0] if on_it else None
        self.chosen.emit()

    # The pass

    def pass_now(self) -> Pass:
        """This pass as the project has it now."""
        return next((p for p in self.project.passes() if p.id == self.this_pass.id), self.this_pass)

    @property
    def is_of_today(self) -> bool:
        """Whether the pass still has the files and settings with which it was opened."""
        now, then = self.pass_now(), self.this_pass
        files = [(p.run, p.notes, p.calls, p.media, p.overrides) for p in (now, then)]
        return files[0] == files[1] and self._has_the_newest_crew

    @property
    def _has_the_newest_crew(self) -> bool:
        newest = self.project.listed("crew")[-1:]
        return [number for number, _ in newest] == ([self.crew_file.id] if self.crew_file is not None else [])

    def tell_of_pass(self, kind: str, day: str, *, tyres: str = "", fuel: str = "", setup: str = "") -> None:
        """Keeps what kind of pass this was (``reconnaissance``, ``first`` or ``later``), its day, and what the car was like, in the crew's
        own words.

        Raises
        ------
        UnusableProject
            It can't be kept.
        """
        before = self.pass_now()
        now = replace(before, kind=kind, day=day, tyres=tyres, fuel=fuel, setup=setup)
        if now != before:
            self.this_pass = self.book.set_pass(now)

    def set_calls(self, calls: SourceFile) -> None:
        """Keeps other words for this pass; opening it again takes them in.

        Raises
        ------
        UnusableProject
            They can't be kept.
        """
        self.this_pass = self.book.set_pass(self.pass_now(), {"calls": calls})

    # Deciding about what is chosen

    def wants_both(self, text: str) -> bool:
        """As :meth:`Book.wants_both`, for the chosen finding or note."""
        return self.book.wants_both(self.finding, self.note, text)

    def can_be_marked(self, text: str) -> bool:
        """As :meth:`Book.can_be_marked`, for the chosen finding or note."""
        return self.book.can_be_marked(self.finding, self.note, text)

    def mark(self, text: str, *, by: str = "", remark: str = "") -> None:
        """As :meth:`Book.mark`, for the chosen finding, or the chosen note where it has none."""
        self.book.mark(self.finding, self.note, text, by=by, remark=remark)

    def undo(self) -> None:
        """Takes the last decision back and goes to its note."""
        self._stepped(self.book.undo())

    def redo(self) -> None:
        """Takes the decision that was last taken back again."""
        self._stepped(self.book.redo())

    def _stepped(self, decision: Decision | None) -> None:
        if isinstance(decision, PassChange):
            # The pass has to be opened again.
            self.stale.emit()
        self._show(decision)

    def _show(self, decision: Decision | None) -> None:
        """Goes to the note that a decision is about."""
        if decision is not None and decision.notes is not None:
            self.choose_note(decision.notes.first)
