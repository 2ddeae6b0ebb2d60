"""Files taken in: what they make together, a new stage or the beginning of one, or what they could be to the stage that is open."""

from __future__ import annotations

from dataclasses import dataclass, replace
from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.core.messages import message
from mirkle.core.progress import Progress, silent
from mirkle.files.project.merge import Merged
from mirkle.files.project.project import Project, SourceFile
from mirkle.session.assign_files import Intake, come_to, intake_of
from mirkle.session.copies import merge_copy
from mirkle.session.described_files import ImportedFile, described
from mirkle.session.import_files import checked, material_of, recorded_in
from mirkle.session.naming import distinct_name, name_by_recording, name_in
from mirkle.session.open_pass import OpenPass
from mirkle.session.parsed_files import crew_of
from mirkle.session.paths import fresh_project_path
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.reviewing import Measurements, inputs_of
from mirkle.session.said_against import SaidAgainst, said_against
from mirkle.session.shelf import names
from mirkle.session.video_pass import VideoPass, filmed_in


@dataclass(frozen=True)
class ImportResult:
    """Files that were taken in: those that wait, the stage they make, or the words against the notes until there is one."""

    files: tuple[ImportedFile, ...]
    stage: OpenPass | None
    against: SaidAgainst | None = None
    intake: Intake | None = None
    beginning: Project | None = None

    @property
    def made(self) -> Project | None:
        """The file of the stage that they make or begin; ``None`` where they wait without one."""
        return self.stage.project if self.stage is not None else self.beginning


def taken(
    paths: list[Path],
    waiting: list[ImportedFile],
    stage: OpenPass | None,
    beginning: Project | None,
    progress: Progress,
    agreed: frozenset[Path] = frozenset(),
) -> ImportResult:
    """The files sorted out, and the stage they make; of those ``agreed`` somebody said that they are the book.

    Where a stage is open they may belong to it: then nothing is done before it is known how.
    """
    came = []
    for i, path in enumerate(paths):
        progress(message("Reading {0}", path.name), 0.1 * i / len(paths))
        came.append(material_of(path))
    others = [*(s.material for s in waiting), *came]
    read = [checked(path, material, others, agreed=path in agreed) for path, material in zip(paths, came, strict=True)]
    if not any(s.material.kind == "run" for s in [*waiting, *read]):
        # A video alone may be the recording as well; beside a logger's it is only a worse one.
        own = [recorded_in(path) for path, s in zip(paths, read, strict=True) if s.material.kind == "media"]
        read += [s for s in own if s is not None]
    if stage is not None:
        return ImportResult(tuple(read), None, intake=intake_of(stage, read))
    found = list(waiting)
    for sorted_ in read:
        # There may be several runs, but only one book, one text of words, one crew.
        found = [s for s in found if s.material.kind == "run" or s.material.kind != sorted_.material.kind] + [sorted_]
    return put_together(found, progress, beginning)


def put_together(found: list[ImportedFile], progress: Progress, beginning: Project | None = None) -> ImportResult:
    """The new stage that the files make; while the recording is missing the stage's beginning, which is kept as well."""
    materials: list[SourceFile] = [s.material for s in found]
    newest = {m.role: m for m in materials}
    found_name = name_in(materials)
    name = distinct_name(found_name or Path((newest.get("notes") or materials[-1]).name).stem, names())
    try:
        inputs_of(materials)
    except MirkleError:
        against = _against(newest)
        if "notes" not in newest:
            return ImportResult(tuple(found), None, against)
        if beginning is None:
            beginning = Project.create(fresh_project_path(name), materials, name=name)
        else:
            come_to(beginning, materials)
        # From here on each file has its number in the project.
        kept = {(m.kind, m.name, m.content): m for m in beginning.materials()}
        found = [replace(s, material=kept[s.material.kind, s.material.name, s.material.content]) for s in found]
        if filmed_in(beginning) is not None:
            return ImportResult(tuple(found), open_pass(beginning))
        return ImportResult(tuple(found), None, against, beginning=beginning)
    if beginning is not None:
        come_to(beginning, materials)
        return ImportResult(tuple(found), ReviewedPass.of_project(beginning, progress=progress))
    path = fresh_project_path(name)
    project = Project.create(path, materials, name=name)
    try:
        stage = ReviewedPass.of_project(project, progress=progress)
        if not found_name and (by_recording := name_by_recording(stage.run, stage.review)):
            project.set_info("name", distinct_name(by_recording, names()))
        return ImportResult(tuple(found), stage)
    except BaseException:
        # A stage that can't be reviewed, or was stopped, leaves nothing behind.
        project.close()
        path.unlink(missing_ok=True)
        raise


def _against(newest: dict[str, SourceFile]) -> SaidAgainst | None:
    """The words against the notes, where both are there."""
    notes, calls = newest.get("notes"), newest.get("calls")
    return said_against(notes, calls, crew_of(newest.get("crew"))) if notes and calls else None


def open_pass(
    project: Project, pass_id: int | None = None, measurements: Measurements | None = None, progress: Progress = silent
) -> ReviewedPass | VideoPass:
    """A pass of a stage, the first that has a recording unless another is wanted; the first with a video where none has.

    Raises
    ------
    MirkleError
    """
    filmed = filmed_in(project, pass_id)
    if filmed is not None and (pass_id is not None or all(p.run is None for p in project.passes())):
        return VideoPass.of_project(project, filmed, measurements)
    return ReviewedPass.of_project(project, pass_id=pass_id, measurements=measurements, progress=progress)


def book_alone(project: Project) -> VideoPass | None:
    """The book of a stage that has no recording and no video yet, to be looked at and rehearsed; ``None`` where it can't be read."""
    made = next((p for p in project.passes() if p.notes is not None), None)
    try:
        return VideoPass.of_project(project, made) if made is not None else None
    except MirkleError:
        return None


def merged_with(
    project: Project, copy: Path, pass_id: int | None, known: Measurements | None, progress: Progress
) -> tuple[OpenPass, Merged]:
    """A stage's pass with a copy merged into it, and what came. A stage that was not open before (nothing is ``known`` of it) is closed
    where that fails."""
    try:
        came = merge_copy(project, copy)
        return open_pass(project, pass_id, known, progress), came
    except BaseException:
        if known is None:
            project.close()
        raise


def opened(path: Path, progress: Progress) -> OpenPass | ImportResult:
    """The stage of a file, or its beginning where it has neither a recording nor a book with a video yet."""
    project = Project.open(path)
    if any(p.run is not None for p in project.passes()) or filmed_in(project) is not None:
        return open_pass(project, progress=progress)
    found = [described(m) for m in project.materials()]
    return ImportResult(tuple(found), None, _against({s.material.kind: s.material for s in found}), beginning=project)
