"""The passes of a stage and the editions of its book: which pass read which, and what the next one will read."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from mirkle.core.errors import MirkleError
from mirkle.core.judging.parts import Part
from mirkle.core.notebook.conditions import AS_IT_IS, SLIPPERY
from mirkle.core.notebook.decisions import Addition, Ledger
from mirkle.core.notebook.edition import Edition
from mirkle.core.notebook.passes import Pass
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.notes.model import Reading
from mirkle.core.notes.reading import read_notes
from mirkle.files.project.project import Project, SourceFile
from mirkle.session.crew_records import scale_for
from mirkle.session.parsed_files import reading_of, speech_of
from mirkle.session.reviewing import Inputs

# Where fewer of a book's notes were said than this, the words are hardly of it.
HARDLY_SAID = 0.5


@dataclass(frozen=True)
class PassInfo:
    """A pass with its number in the order driven, its name, and the number of the edition that was read, ``None`` without a book."""

    made: Pass
    number: int
    name: str
    edition: int | None


def driven(project: Project) -> list[PassInfo]:
    """The passes of a stage in the order driven."""
    passes, editions = project.passes(), edition_numbers(project)
    names = dict([*project.listed("run"), *project.listed("media")])

    def name_of(made: Pass) -> str:
        number = made.run if made.run is not None else made.media
        return names.get(number or 0, "pass").split(".")[0]

    return [PassInfo(p, i, f"{i}. {name_of(p)}", editions.get(p.notes or 0)) for i, p in enumerate(passes, start=1)]


def edition_numbers(project: Project) -> dict[int, int]:
    """The editions of the book by their number of material: 1 as it came, in the order in which they came."""
    return {number: i for i, (number, _) in enumerate(project.listed("notes"), start=1)}


def chosen_pass(project: Project, wanted: int | None = None) -> Pass:
    """The pass of a number, else the first that has a recording.

    Raises
    ------
    MirkleError
        There is none.
    """
    passes = [p for p in project.passes() if p.run is not None]
    found = next((p for p in passes if p.id == wanted), passes[0] if passes else None)
    if found is None:
        raise MirkleError("the recording is still missing", mend="add the run as CSV or GPX")
    return found


def inputs_of_pass(project: Project, made: Pass) -> Inputs:
    """What the review of a pass is made from; the other passes' recordings stand beside it.

    Raises
    ------
    MirkleError
        The recording, or both the book and the words, are missing or damaged.
    """
    run, notes, calls = (project.material(number) for number in (made.run, made.notes, made.calls))
    if run is None:
        raise MirkleError("the recording is still missing", mend="add the run as CSV or GPX")
    if notes is None and calls is None:
        raise MirkleError("the notes are still missing", mend="add the notes as text, or what was said as timed text")
    others = [project.material(p.run) for p in project.passes() if p.id != made.id]
    beside = tuple(o for o in others if o is not None)
    reported = slippery_for(project, made.id)
    return Inputs(run, notes, calls, project.newest("crew"), project.material(made.overrides), beside, scale_for(project), reported)


def slippery_for(project: Project, of_pass: int) -> tuple[Part, ...]:
    """Where those ahead found the road slippery for a pass: what stands of the reports of the pass before it, and more than a little.

    Places are metres from the start of the pass before; passes of one stage differ by less than a report is exact.
    """
    order = [p.id for p in project.passes()]
    before = order[order.index(of_pass) - 1] if of_pass in order[1:] else None
    ledger = Ledger.of(project.entries()) if before is not None else Ledger()
    standing = (ledger.decisions[number] for number in ledger.standing.values())
    reported = [a for a in standing if isinstance(a, Addition) and a.kind == "condition" and a.what in SLIPPERY and a.level >= AS_IT_IS]
    places = ((a.road, a.what) for a in reported if a.road is not None and a.road.of_pass == before)
    return tuple(sorted((Part(road.from_m, road.to_m, what) for road, what in places), key=lambda part: part.from_m))


def same_edition(project: Project, of_pass: int) -> frozenset[int]:
    """The passes on which the same edition was read as on one; decisions taken on any of them are about that edition."""
    passes = project.passes()
    about = next((p.notes for p in passes if p.id == of_pass), None)
    return frozenset(p.id for p in passes if p.notes == about) | {of_pass}


def next_edition(edition: Edition, crew: CrewProfile, number: int) -> SourceFile:
    """The book with the crew's decisions in it, as the next pass will read it; pages and lines stay those of the paper book.

    A note that was put in stands behind the one before it, on its line, where it reads the same there.
    """
    text = edition.on_paper
    if not _reads_alike(text, edition.text, edition.reading, crew):
        text = edition.text
    return SourceFile("notes", f"edition-{number}.txt", text.encode())


def _reads_alike(a: str, b: str, reading: Reading, crew: CrewProfile) -> bool:
    """Whether two texts hold the same notes, wherever their lines end."""
    first, second = (read_notes(text, crew.languages, like=reading) for text in (a, b))
    return [(n.direction, n.grade, n.distance_m, n.features) for n in first.notes] == [
        (n.direction, n.grade, n.distance_m, n.features) for n in second.notes
    ]


@dataclass(frozen=True)
class SaidOf:
    """How many of a book's notes some words say, as they are written and at all, of how many; ``hardly`` where they are not of it."""

    written: int
    said: int
    of: int

    @property
    def hardly(self) -> bool:
        """Whether the words are hardly of this book."""
        return self.said < HARDLY_SAID * self.of


def said_of(notes: SourceFile, calls: SourceFile, crew: CrewProfile) -> SaidOf:
    """How well words fit a book.

    Raises
    ------
    MirkleError
    """
    spoken = speech_of(calls, crew, reading_of(notes, crew)).spoken
    return SaidOf(sum(s.said_as in ("written", "heard", "perhaps") for s in spoken), sum(s.was_said for s in spoken), len(spoken))


def best_read(editions: Sequence[SourceFile], calls: SourceFile, crew: CrewProfile) -> int | None:
    """Which of some editions the words say as it is written more than any other; ``None`` where that can't be told."""
    counts = [said_of(e, calls, crew).written for e in editions]
    if not counts:
        return None
    order = sorted(range(len(counts)), key=lambda i: -counts[i])
    return order[0] if len(order) == 1 or counts[order[0]] > counts[order[1]] else None
