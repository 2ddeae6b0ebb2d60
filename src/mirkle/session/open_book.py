"""A pass that is open on the desk, as far as its book goes: what needs no recording. :class:`~mirkle.session.stage.Stage` has one, and a
review; :class:`~mirkle.session.filmed.Filmed` has a video."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from mirkle.core.book.decisions import Decision
from mirkle.core.book.paging import Pages
from mirkle.core.notes.crew import Crew
from mirkle.core.notes.model import Note, Reading
from mirkle.core.notes.school import School
from mirkle.core.notes.speech import Said
from mirkle.core.verdict.findings import Finding
from mirkle.files.notes_text import language_of
from mirkle.files.project import Material, Pass, Project, pass_from
from mirkle.session.book import ON_PASS, Book, Judged
from mirkle.session.material import Measurements, crew_of
from mirkle.session.paging import set_pages
from mirkle.session.signal import Signal


class OpenBook:
    """A pass with its book, the chosen note, and what the crew decided.

    Signals: ``stale`` (something of the pass was undone: it has to be opened again), ``chosen`` (a finding or note was chosen),
    ``reviewed`` (what the pages show changed).
    """

    def __init__(
        self,
        project: Project,
        judged: Judged,
        this_pass: Pass,
        crew: Material | None,
        measurements: Measurements | None,
    ) -> None:
        self.project, self.this_pass, self.crew_file = project, this_pass, crew
        self.measurements = measurements or Measurements()
        self.chosen, self.reviewed, self.stale = Signal(), Signal(), Signal()
        self.crew: Crew = crew_of(crew)
        self.language = language_of(judged.reading, self.crew)
        self.book = Book(project, judged, self.language, this_pass.id)
        self.finding: Finding | None = None
        self.note = 0

    @property
    def judged(self) -> Judged:
        """What the decisions are about."""
        return self.book.judged

    @property
    def reading(self) -> Reading:
        """The book on the pages of the paper book."""
        return self.judged.reading

    @property
    def calls(self) -> Material | None:
        """What was said on this pass, or when."""
        raise NotImplementedError

    @property
    def said(self) -> Sequence[Said]:
        """When notes were said, in any order."""
        raise NotImplementedError

    @property
    def notes(self) -> tuple[Note, ...]:
        """The notes in the order of the book."""
        return self.judged.reading.notes

    @property
    def school(self) -> School:
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
        self.book.over(self._laid_out())
        self.reviewed.emit()
        self.book.changed.emit()

    def _laid_out(self) -> Judged:
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

    def tell_of_pass(self, kind: str, day: str) -> None:
        """Keeps what kind of pass this was (``reconnaissance``, ``first`` or ``later``), and its day in the crew's own words.

        Raises
        ------
        UnusableProject
            It can't be kept.
        """
        before = self.pass_now()
        if (before.kind, before.day) != (kind, day):
            self.this_pass = self.project.set_pass(replace(before, kind=kind, day=day))
            self.book.note_pass(before, self.this_pass)

    def set_calls(self, calls: Material) -> None:
        """Keeps other words for this pass; opening it again takes them in.

        Raises
        ------
        UnusableProject
            They can't be kept.
        """
        before = self.pass_now()
        self.this_pass = self.project.set_pass(before, {"calls": calls})
        self.book.note_pass(before, self.this_pass)

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
        decision = self.book.undo()
        self._pass_again(decision, decision.remark if decision else "")
        self._show(decision)

    def redo(self) -> None:
        """Takes the decision that was last taken back again."""
        decision = self.book.redo()
        self._pass_again(decision, decision.text if decision else "")
        self._show(decision)

    def _pass_again(self, decision: Decision | None, shall_be: str) -> None:
        """Where what became of a pass was undone or made again: puts it so, and says that the pass has to be opened again."""
        if decision is None or decision.answer != ON_PASS:
            return
        number = next((p.id for p in self.project.passes() if decision.finding == f"{ON_PASS}@{p.id}"), None)
        made = pass_from(number, shall_be) if number is not None else None
        if made is not None:
            self.project.set_pass(made)
            self.stale.emit()

    def _show(self, decision: Decision | None) -> None:
        """Goes to the note that a decision is about."""
        if decision is not None and decision.first_note >= 0:
            self.choose_note(decision.first_note)
