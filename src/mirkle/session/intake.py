"""Files that come to a stage that is open: what each is taken for, to which pass it belongs, and what can't be told.

Nothing of the stage is changed before the crew has seen this, and nothing that was there goes: a pass that gets other words keeps its
old ones in the file, and undo brings them back.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from mirkle.core.clauses import Clause, clause
from mirkle.core.errors import MirkleError
from mirkle.core.notes.crew import Crew
from mirkle.files.project import Material, Pass, Project
from mirkle.session.book import pass_entry
from mirkle.session.material import Sorted, crew_of
from mirkle.session.passes import SaidOf, best_read, driven, edition_numbers, next_edition, said_of
from mirkle.session.stage import Stage

NEW, NEXT, NOT_IN, STAGE, CREW = "new", "next", "not-in", "stage", "crew"


@dataclass(frozen=True)
class Choice:
    """One thing that a file may be taken for; ``pass`` choices carry the pass's number in ``key``."""

    key: str
    words: Clause


@dataclass(frozen=True)
class Row:
    """A file, what was read from it, what it may be taken for and what it is taken for; ``sure`` where that can be told.

    ``warning`` is what the crew has to see before it is taken in.
    """

    material: Material
    sentence: Clause
    choices: tuple[Choice, ...]
    chosen: str
    sure: bool
    warning: Clause | None = None


@dataclass(frozen=True)
class Intake:
    """The files, and which book was read on the new pass (a number of material, or :data:`NEXT`), where one comes."""

    rows: tuple[Row, ...]
    books: tuple[Choice, ...]
    read: str
    read_sure: bool

    @property
    def has_pass(self) -> bool:
        """Whether a new pass comes."""
        return any(r.material.kind == "run" and r.chosen == NEW for r in self.rows)

    @property
    def has_to_ask(self) -> bool:
        """Whether anything can't be told, or has to be seen first."""
        return any(not r.sure or r.warning is not None for r in self.rows) or (self.has_pass and not self.read_sure)

    def with_choice(self, at: int, key: str) -> Intake:
        """The intake with a file taken for something else."""
        return replace(self, rows=(*self.rows[:at], replace(self.rows[at], chosen=key), *self.rows[at + 1 :]))

    def reading(self, key: str) -> Intake:
        """The intake with another book read on the new pass."""
        return replace(self, read=key, read_sure=True)


def intake_of(stage: Stage, files: Sequence[Sorted]) -> Intake:
    """What files that came to an open stage are taken for.

    Raises
    ------
    MirkleError
    """
    crew = crew_of(stage.inputs.crew)
    # The positions in a video are no new pass where its sound is what a pass still lacks.
    lacking = any(p.made.media is None for p in driven(stage.project))
    runs = [f for f in files if f.material.kind == "run" and not (f.from_video and lacking)]
    books = [f for f in files if f.material.kind == "notes"]
    known = _hashes(stage)
    rows = []
    for one in files:
        if one.material.kind != "crew" and _hash(one.material) in known:
            there = (Choice(NOT_IN, clause("leave it out")),)
            rows.append(
                Row(one.material, one.sentence, there, NOT_IN, True, clause("This file is in the stage already."))
            )
        elif one.material.kind == "run":
            choices = (Choice(NEW, clause("a new pass")), Choice(NOT_IN, clause("leave it out")))
            # One recording more is one pass more; of two at once nobody knows which the words are of.
            chosen = NEW if one in runs else NOT_IN
            rows.append(Row(one.material, one.sentence, choices, chosen, sure=not one.from_video))
        elif one.material.kind == "notes":
            rows.append(_book(one, with_run=bool(runs)))
        elif one.material.kind in ("calls", "media"):
            rows.append(_of_a_pass(stage, one, crew, with_run=len(runs) == 1, comes_with=[b.material for b in books]))
        else:
            choices = (Choice(CREW, clause("the crew's file from now on")), Choice(NOT_IN, clause("leave it out")))
            rows.append(Row(one.material, one.sentence, choices, CREW, stage.inputs.crew is None))
    calls = next((r.material for r in rows if r.material.kind == "calls" and r.chosen == NEW), None)
    read_choices, read, sure = _books_read(stage, crew, calls)
    if books and runs:
        read, sure = NEW, True
    return Intake(tuple(rows), read_choices, read, sure)


def take_in_all(stage: Stage, intake: Intake) -> int:
    """Takes the files in as they are chosen; returns the pass to be shown.

    Raises
    ------
    MirkleError
    """
    project = stage.project
    chosen = [r for r in intake.rows if r.chosen != NOT_IN]
    for row in chosen:
        if row.chosen == CREW:
            project.add(row.material)
    for row in chosen:
        if row.material.kind in ("calls", "media") and row.chosen.isdecimal():
            before = next(p for p in project.passes() if p.id == int(row.chosen))
            now = project.set_pass(before, {row.material.kind: row.material})
            # Beside the window, and so without telling it: the stage is opened anew with it.
            project.append(pass_entry(before, now), stage.this_pass.id)
    shown = stage.this_pass.id
    came = {r.material.kind: r.material for r in chosen if r.chosen == NEW and r.material.kind != "run"}
    for row in chosen:
        if row.material.kind == "run":
            shown = _new_pass(stage, intake.read, row.material, came).id
            # What came along belongs to one pass.
            came = {}
    return shown


def come_to(project: Project, materials: Sequence[Material]) -> None:
    """Adds to a stage that had no recording what has come since: to its first pass, and passes for more recordings."""
    (first, *_) = project.passes()
    fresh = [m for m in materials if not m.id]
    runs = [m for m in fresh if m.kind == "run"]
    project.set_pass(first, {m.kind: m for m in [*runs[:1], *fresh] if m.kind in ("run", "notes", "calls", "media")
                             and (m.kind != "run" or m is runs[0])})  # fmt: skip
    for crew in (m for m in fresh if m.kind == "crew"):
        project.add(crew)
    for run in runs[1:]:
        now = project.passes()[0]
        project.add_pass(Pass(0, None, now.notes, kind="later"), {"run": run})


def _new_pass(stage: Stage, read: str, run: Material, came: dict[str, Material]) -> Pass:
    files = {"run": run, **came}
    notes: int | None = stage.this_pass.notes
    if read == NEXT:
        number = len(edition_numbers(stage.project)) + 1
        files["notes"] = next_edition(stage.book.edition, crew_of(stage.inputs.crew), number)
    elif read.isdecimal():
        notes = int(read)
    return stage.project.add_pass(Pass(0, None, notes, kind="later"), files)


def _book(one: Sorted, *, with_run: bool) -> Row:
    choices = [
        Choice(STAGE, clause("the book of another stage: begin a new one")),
        Choice(NOT_IN, clause("leave it out")),
    ]
    if with_run:
        choices.insert(0, Choice(NEW, clause("the book that was read on the new pass")))
    return Row(one.material, one.sentence, tuple(choices), choices[0].key, sure=False)


def _of_a_pass(stage: Stage, one: Sorted, crew: Crew, *, with_run: bool, comes_with: Sequence[Material]) -> Row:
    """Words or sound: of the pass that comes along, else of one that has none; words are held against its book first."""
    material = one.material
    passes = driven(stage.project)
    had = {p.made.id: getattr(p.made, material.kind) for p in passes}
    choices = [Choice(NEW, clause("of the new pass"))] if with_run else []
    for p in passes:
        if had[p.made.id] is None:
            choices.append(Choice(str(p.made.id), clause("of pass {0}", p.name)))
        else:
            choices.append(Choice(str(p.made.id), clause("of pass {0}, instead of what it has", p.name)))
    choices.append(Choice(NOT_IN, clause("leave it out")))
    free = [p for p in passes if had[p.made.id] is None]
    chosen = NEW if with_run else str(free[0].made.id) if len(free) == 1 else NOT_IN
    sure, warning = chosen != NOT_IN, None
    if material.kind == "calls":
        fit = _fit(stage, material, chosen, crew, comes_with)
        if fit is not None and fit.hardly:
            sure, warning = (
                False,
                clause("These words don't fit the book: {0} of its {1} notes were said.", fit.said, fit.of),
            )
    return Row(material, one.sentence, tuple(choices), chosen, sure, warning)


def _fit(stage: Stage, calls: Material, chosen: str, crew: Crew, comes_with: Sequence[Material]) -> SaidOf | None:
    """How well words fit the book of the pass that they are taken for."""
    book = comes_with[0] if chosen == NEW and comes_with else None
    if book is None:
        of_pass = next((p.notes for p in stage.project.passes() if chosen == str(p.id)), stage.this_pass.notes)
        book = stage.project.material(of_pass)
    try:
        return said_of(book, calls, crew) if book is not None else None
    except MirkleError:
        return None


def _books_read(stage: Stage, crew: Crew, calls: Material | None) -> tuple[tuple[Choice, ...], str, bool]:
    """Which books may have been read on a new pass, the likeliest, and whether that can be told."""
    numbers = edition_numbers(stage.project)
    choices = [Choice(str(n), clause("edition {0}", at)) for n, at in numbers.items()]
    texts = [stage.project.material(n) for n in numbers]
    changes = len(stage.book.edition.changes)
    if changes:
        choices.append(Choice(NEXT, clause("the book with what is marked here ({0})", changes)))
        texts.append(next_edition(stage.book.edition, crew, len(numbers) + 1))
    if not choices:
        return (), "", True
    likeliest = len(choices) - 1 if changes else next(
        (i for i, n in enumerate(numbers) if n == stage.this_pass.notes), len(choices) - 1
    )  # fmt: skip
    if calls is not None:
        told = best_read([t for t in texts if t is not None], calls, crew)
        if told is not None:
            return tuple(choices), choices[told].key, True
    return tuple(choices), choices[likeliest].key, len(choices) == 1


def _hash(material: Material) -> str:
    return material.kind + material.sha256


def _hashes(stage: Stage) -> set[str]:
    kinds = ("run", "notes", "calls", "media")
    numbers = [n for kind in kinds for n, _ in stage.project.listed(kind)]
    return {_hash(m) for n in numbers if (m := stage.project.material(n)) is not None}
