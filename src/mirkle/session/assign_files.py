"""Files that come to a stage that is open: what each is taken for, to which pass it belongs, and what can't be told.

Nothing of the stage is changed before the crew has seen this, and nothing that was there goes: a pass that gets other words keeps its
old ones in the file, and undo brings them back.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np

from mirkle.core.errors import MirkleError
from mirkle.core.joint.same_road import road_of
from mirkle.core.messages import Message, message
from mirkle.core.motion.geodesy import degrees_of, local_metres_about
from mirkle.core.notebook.passes import Pass
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.progress import silent
from mirkle.core.recording.model import Floats
from mirkle.core.review import Measured
from mirkle.files.project.format import CALL_KINDS
from mirkle.files.project.project import Project, SourceFile
from mirkle.files.speech.tapped_json import tapped_json
from mirkle.session.decision_log import change_pass
from mirkle.session.described_files import ImportedFile
from mirkle.session.open_pass import OpenPass
from mirkle.session.pass_list import SaidOf, best_read, driven, edition_numbers, next_edition, said_of
from mirkle.session.playback_clock import has_picture
from mirkle.session.reviewed_pass import ReviewedPass

# The fewest tapped calls that tie two clocks.
LEAST_TAPPED = 8
# Two starts this near are one place.
SAME_PLACE_M = 100.0
NEW, NEXT, NOT_IN, STAGE, CREW = "new", "next", "not-in", "stage", "crew"


@dataclass(frozen=True)
class AssignOption:
    """One thing that a file may be taken for; ``pass`` choices carry the pass's number in ``key``."""

    key: str
    words: Message


ANOTHER_STAGE = AssignOption(STAGE, message("of another stage: begin a new one"))
LEAVE_OUT = AssignOption(NOT_IN, message("leave it out"))


@dataclass(frozen=True)
class AssignRow:
    """A file, what was read from it, what it may be taken for and what it is taken for; ``sure`` where that can be told.

    ``warning`` is what the crew has to see before it is taken in; ``roads`` are the lines of the open stage and of this recording from
    above, where they are not of one road: each (2, n), metres to the east and north.
    """

    material: SourceFile
    sentence: Message
    choices: tuple[AssignOption, ...]
    chosen: str
    sure: bool
    warning: Message | None = None
    roads: tuple[Floats, Floats] | None = None


@dataclass(frozen=True)
class Intake:
    """The files, and which book was read on the new pass (a number of material, or :data:`NEXT`), where one comes."""

    rows: tuple[AssignRow, ...]
    books: tuple[AssignOption, ...]
    read: str
    read_sure: bool

    @property
    def has_pass(self) -> bool:
        """Whether a new pass comes."""
        return any(r.material.kind in ("run", "media") and r.chosen == NEW for r in self.rows)

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


def intake_of(stage: OpenPass, files: Sequence[ImportedFile]) -> Intake:
    """What files that came to an open stage are taken for.

    Raises
    ------
    MirkleError
    """
    crew = stage.crew
    # The positions in a video are no new pass where its sound is what a pass still lacks.
    lacking = any(p.made.media is None for p in driven(stage.project))
    runs = [f for f in files if f.material.kind == "run" and not (f.from_video and lacking)]
    books = [f for f in files if f.material.kind == "notes"]
    known = _hashes(stage)
    rows = []
    for one in files:
        if one.material.kind != "crew" and _hash(one.material) in known:
            there = (LEAVE_OUT,)
            rows.append(AssignRow(one.material, one.sentence, there, NOT_IN, True, message("This file is in the stage already.")))
        elif one.material.kind == "run":
            rows.append(_recording(stage, one, runs))
        elif one.material.kind == "notes":
            rows.append(_book(one, with_run=bool(runs)))
        elif one.material.role in ("calls", "media"):
            rows.append(_of_a_pass(stage, one, crew, with_run=len(runs) == 1, comes_with=[b.material for b in books]))
        else:
            choices = (AssignOption(CREW, message("the crew's file from now on")), LEAVE_OUT)
            rows.append(AssignRow(one.material, one.sentence, choices, CREW, stage.crew_file is None))
    if any(r.roads is not None for r in rows):
        rows = [_of_another_stage(r) for r in rows]
    calls = next((r.material for r in rows if r.material.role == "calls" and r.chosen == NEW), None)
    read_choices, read, sure = _books_read(stage, crew, calls)
    if books and runs:
        read, sure = NEW, True
    return Intake(tuple(rows), read_choices, read, sure)


def take_in_all(stage: OpenPass, intake: Intake) -> int:
    """Takes the files in as they are chosen; returns the pass to be shown.

    Raises
    ------
    MirkleError
    """
    with stage.project.together():
        return _take_in_all(stage, intake)


def _take_in_all(stage: OpenPass, intake: Intake) -> int:
    project = stage.project
    chosen = [r for r in intake.rows if r.chosen != NOT_IN]
    for row in chosen:
        if row.chosen == CREW:
            project.add(row.material)
    for row in chosen:
        if row.material.role in ("run", "calls", "media") and row.chosen.isdecimal():
            before = next(p for p in project.passes() if p.id == int(row.chosen))
            files = {row.material.role: row.material}
            if row.material.kind == "run" and before.calls is None and (tapped := tapped_calls(stage, before)):
                files["calls"] = tapped
            # In a background thread, and so without telling the window: the stage is opened anew with it.
            change_pass(project, before, files, stage.this_pass.id)
    shown = stage.this_pass.id
    came = {r.material.role: r.material for r in chosen if r.chosen == NEW and r.material.kind != "run"}
    for row in chosen:
        if row.material.kind == "run" and row.chosen == NEW:
            shown = _new_pass(stage, intake.read, row.material, came).id
            # What came along belongs to one pass.
            came = {}
    if (video := came.pop("media", None)) is not None:
        shown = _new_pass(stage, intake.read, video, came).id
    return shown


def tapped_calls(stage: OpenPass, of_pass: Pass) -> SourceFile | None:
    """The calls that somebody tapped while watching a pass, for the recording that joins it; ``None`` where there are fewer than
    :data:`LEAST_TAPPED`."""
    taps = stage.book.taps if stage.this_pass.id == of_pass.id else {}
    if len(taps) < LEAST_TAPPED:
        return None
    return SourceFile("tapped", "tapped-calls.json", tapped_json(taps, stage.reading))


def come_to(project: Project, materials: Sequence[SourceFile]) -> None:
    """Adds to a stage that had no recording what has come since: to its first pass, and passes for more recordings."""
    with project.together():
        (first, *_) = project.passes()
        fresh = [m for m in materials if not m.id]
        runs = [m for m in fresh if m.kind == "run"]
        project.set_pass(
            first,
            {m.role: m for m in [*runs[:1], *fresh] if m.role in ("run", "notes", "calls", "media") and (m.kind != "run" or m is runs[0])},
        )
        for crew in (m for m in fresh if m.kind == "crew"):
            project.add(crew)
        for run in runs[1:]:
            now = project.passes()[0]
            project.add_pass(Pass(0, None, now.notes, kind="later"), {"run": run})


def _new_pass(stage: OpenPass, read: str, first: SourceFile, came: dict[str, SourceFile]) -> Pass:
    files = {first.kind: first, **came}
    notes: int | None = stage.this_pass.notes
    if read == NEXT:
        number = len(edition_numbers(stage.project)) + 1
        files["notes"] = next_edition(stage.book.edition, stage.crew, number)
    elif read.isdecimal():
        notes = int(read)
    return stage.project.add_pass(Pass(0, None, notes, kind="later"), files)


def _recording(stage: OpenPass, one: ImportedFile, runs: Sequence[ImportedFile]) -> AssignRow:
    """One recording more is one pass more, unless a pass has had nothing but a video until now."""
    filmed = [p for p in driven(stage.project) if p.made.run is None]
    choices = [AssignOption(NEW, message("a new pass")), *(AssignOption(str(p.made.id), message("of pass {0}", p.name)) for p in filmed)]
    choices += [ANOTHER_STAGE, LEAVE_OUT]
    # Where every pass has a camera and nothing else, it is of that; beside passes that were recorded it may as well be a new one.
    joins = len(filmed) == len(runs) == len(stage.project.passes()) == 1
    chosen = str(filmed[0].made.id) if joins else NEW if one in runs else NOT_IN
    sure = not one.from_video and (joins or not filmed)
    row = AssignRow(one.material, one.sentence, tuple(choices), chosen, sure)
    return row if chosen == NOT_IN else _on_its_road(stage, row)


def _on_its_road(stage: OpenPass, row: AssignRow) -> AssignRow:
    """A recording, asked about where it is not of the stage's road, or that can't be told."""
    here = _measured(stage)
    if here is None:
        return row
    there = stage.measurements.of(row.material, None, silent)
    road = road_of((here.profile, here.plan), (there.profile, there.plan))
    if road == "same":
        return row
    if road == "unknown":
        return replace(row, sure=False, warning=message("Nothing tells whether this recording is of the same road."))
    return replace(row, chosen=STAGE, sure=False, warning=_apart(here, there), roads=(_from_above(here, here), _from_above(there, here)))


def _measured(stage: OpenPass) -> Measured | None:
    """The road of the open stage, as one of its passes was measured."""
    if isinstance(stage, ReviewedPass):
        return stage.review.measured
    recorded = next((p for p in stage.project.passes() if p.run is not None), None)
    run = stage.project.material(recorded.run) if recorded is not None else None
    return stage.measurements.of(run, None, silent) if run is not None else None


def _apart(here: Measured, there: Measured) -> Message:
    """That a recording is of another road, and how far apart the two are."""
    lengths = here.profile.length_m / 1000, there.profile.length_m / 1000
    if here.plan.middle_deg is None or there.plan.middle_deg is None:
        return message(
            "This recording is of another road: it turns otherwise. The stage is {0:.1f} km long, the recording {1:.1f} km.", *lengths
        )
    east, north = _from_above(there, here)[:, 0] - _from_above(here, here)[:, 0]
    if np.hypot(east, north) < SAME_PLACE_M:
        return message(
            "This recording is of another road: it starts at the same place and goes elsewhere. "
            "The stage is {0:.1f} km long, the recording {1:.1f} km.",
            *lengths,
        )
    return message(
        "This recording is of another road: it starts {0:.1f} km from this stage's start. "
        "The stage is {1:.1f} km long, the recording {2:.1f} km.",
        float(np.hypot(east, north)) / 1000,
        *lengths,
    )


def _from_above(measured: Measured, about: Measured) -> Floats:
    """A pass's line on the map of another, (2, n) metres to the east and north."""
    plan, middle_deg = measured.plan, about.plan.middle_deg
    if plan.middle_deg is None or middle_deg is None:
        return np.stack([plan.east_m, plan.north_m])
    lat, lon = degrees_of(plan.east_m + plan.start_m[0], plan.north_m + plan.start_m[1], plan.middle_deg)
    return np.stack(local_metres_about(np.radians(lat), np.radians(lon), middle_deg))


def _of_another_stage(row: AssignRow) -> AssignRow:
    """What comes with a recording of another stage is of that stage, too."""
    if row.chosen == NOT_IN or row.material.kind == "crew":
        return row
    choices = row.choices if ANOTHER_STAGE in row.choices else (ANOTHER_STAGE, *row.choices)
    return replace(row, choices=choices, chosen=STAGE, sure=False)


def _book(one: ImportedFile, *, with_run: bool) -> AssignRow:
    choices = [ANOTHER_STAGE, LEAVE_OUT]
    if with_run:
        choices.insert(0, AssignOption(NEW, message("the book that was read on the new pass")))
    return AssignRow(one.material, one.sentence, tuple(choices), choices[0].key, sure=False)


def _of_a_pass(stage: OpenPass, one: ImportedFile, crew: CrewProfile, *, with_run: bool, comes_with: Sequence[SourceFile]) -> AssignRow:
    """Words or sound: of the pass that comes along, else of one that has none; words are held against its book first."""
    material = one.material
    passes = driven(stage.project)
    had = {p.made.id: getattr(p.made, material.kind) for p in passes}
    choices = [AssignOption(NEW, message("of the new pass"))] if with_run else []
    if not with_run and material.kind == "media" and has_picture(Path(material.name)):
        choices.append(AssignOption(NEW, message("a new pass that nothing recorded but the camera")))
    for p in passes:
        if had[p.made.id] is None:
            choices.append(AssignOption(str(p.made.id), message("of pass {0}", p.name)))
        else:
            choices.append(AssignOption(str(p.made.id), message("of pass {0}, instead of what it has", p.name)))
    choices.append(LEAVE_OUT)
    free = [p for p in passes if had[p.made.id] is None]
    chosen = NEW if with_run else str(free[0].made.id) if len(free) == 1 else NOT_IN
    sure, warning = chosen != NOT_IN, None
    if material.role == "calls":
        fit = _fit(stage, material, chosen, crew, comes_with)
        if fit is not None and fit.hardly:
            sure, warning = (False, message("These words don't fit the book: {0} of its {1} notes were said.", fit.said, fit.of))
    return AssignRow(material, one.sentence, tuple(choices), chosen, sure, warning)


def _fit(stage: OpenPass, calls: SourceFile, chosen: str, crew: CrewProfile, comes_with: Sequence[SourceFile]) -> SaidOf | None:
    """How well words fit the book of the pass that they are taken for."""
    book = comes_with[0] if chosen == NEW and comes_with else None
    if book is None:
        of_pass = next((p.notes for p in stage.project.passes() if chosen == str(p.id)), stage.this_pass.notes)
        book = stage.project.material(of_pass)
    try:
        return said_of(book, calls, crew) if book is not None else None
    except MirkleError:
        return None


def _books_read(stage: OpenPass, crew: CrewProfile, calls: SourceFile | None) -> tuple[tuple[AssignOption, ...], str, bool]:
    """Which books may have been read on a new pass, the likeliest, and whether that can be told."""
    numbers = edition_numbers(stage.project)
    choices = [AssignOption(str(n), message("edition {0}", at)) for n, at in numbers.items()]
    texts = [stage.project.material(n) for n in numbers]
    changes = len(stage.book.edition.changes)
    if changes:
        choices.append(AssignOption(NEXT, message("the book with what is marked here ({0})", changes)))
        texts.append(next_edition(stage.book.edition, crew, len(numbers) + 1))
    if not choices:
        return (), "", True
    likeliest = len(choices) - 1 if changes else next((i for i, n in enumerate(numbers) if n == stage.this_pass.notes), len(choices) - 1)
    if calls is not None:
        best = best_read([t for t in texts if t is not None], calls, crew)
        if best is not None:
            return tuple(choices), choices[best].key, True
    return tuple(choices), choices[likeliest].key, len(choices) == 1


def _hash(material: SourceFile) -> str:
    return material.kind + material.sha256


def _hashes(stage: OpenPass) -> set[str]:
    kinds = ("run", "notes", *CALL_KINDS, "media")
    numbers = [n for kind in kinds for n, _ in stage.project.listed(kind)]
    return {_hash(m) for n in numbers if (m := stage.project.material(n)) is not None}
