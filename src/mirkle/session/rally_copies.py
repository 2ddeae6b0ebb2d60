"""A rally with its stages as one file, and what comes back from another computer: merged, stage by stage, into what is here."""

from __future__ import annotations

import shutil
import tempfile
import zipfile
from contextlib import closing
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.core.messages import Message, counted, in_a_row, message
from mirkle.files.atomic_write import flush_folder, part_of
from mirkle.files.project.merge import Merged
from mirkle.files.project.project import SUFFIX as STAGE_SUFFIX
from mirkle.files.project.project import Project
from mirkle.files.rally_file import SUFFIX, keep_rally, rally_text, read_rally
from mirkle.session.copies import copied_stage, merge_copy
from mirkle.session.paths import data_folder, fresh_project_path
from mirkle.session.rally import Rally, fresh_rally_path, known_rallies

# No rally with its stages is larger, and no stage's file.
LARGEST_BYTES, LARGEST_STAGE_BYTES = 4_000_000_000, 500_000_000


@dataclass(frozen=True)
class CameBack:
    """What a packed rally brought: where the ``rally`` is here, what each stage that was ``merged`` got, and the ``new`` ones."""

    rally: Path
    merged: dict[str, Merged]
    new: tuple[str, ...]

    @property
    def words(self) -> Message:
        """What came, in a sentence."""
        decisions, conflicts = (sum(getattr(m, what) for m in self.merged.values()) for what in ("decisions", "conflicts"))
        parts = [
            counted("1 decision", "{0} decisions", decisions) if decisions else None,
            message("new stages: {0}", ", ".join(self.new)) if self.new else None,
            message("decided differently in both: {0}", conflicts) if conflicts else None,
        ]
        said = [p for p in parts if p is not None]
        return message("From the copy: {0}.", in_a_row(said, ", ")) if said else message("The copy holds nothing new.")


def pack(rally: Rally, path: Path) -> None:
    """Writes a rally and the files of its stages into one zip file.

    Raises
    ------
    MirkleError
        A stage can't be read, or the file can't be written; what was there stays.
    """
    fresh = part_of(path)
    try:
        with tempfile.TemporaryDirectory() as folder, zipfile.ZipFile(fresh, "w", zipfile.ZIP_STORED) as archive:
            archive.writestr(rally.path.name, rally_text(read_rally(rally.path)))
            for stage in rally.stages(datetime.min):
                if stage.shelf is None:
                    continue
                # A copy as the database gives it: the file itself may be in the middle of a write.
                copy = Path(folder) / stage.shelf.path.name
                with closing(Project.open(stage.shelf.path, only_read=True)) as project:
                    project.copy_to(copy)
                archive.write(copy, copy.name)
        fresh.replace(path)
        flush_folder(path.parent)
    except OSError as error:
        fresh.unlink(missing_ok=True)
        raise MirkleError(message("it can't be written ({0})", error.strerror), mend="choose another folder", where=path.name) from None


def is_packed_rally(path: Path) -> bool:
    """Whether a file is a zip with a rally in it."""
    try:
        with zipfile.ZipFile(path) as archive:
            return any(name.endswith(SUFFIX) for name in archive.namelist())
    except (OSError, zipfile.BadZipFile):
        return False


def unpack(path: Path) -> CameBack:
    """Takes a packed rally in: the itinerary is merged record by record, each stage that is here with its copy, and the others come new.

    Raises
    ------
    MirkleError
        It is damaged or too large.
    """
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        try:
            with zipfile.ZipFile(path) as archive:
                wanted = [i for i in archive.infolist() if Path(i.filename).suffix in (SUFFIX, STAGE_SUFFIX)]
                if sum(i.file_size for i in wanted) > LARGEST_BYTES or any(i.file_size > LARGEST_STAGE_BYTES for i in wanted):
                    raise MirkleError("it is larger than any rally", mend="unpack it and open the stages", where=path.name)
                for info in wanted:
                    # By its name alone: nothing is written outside the folder. A file ends where its entry says, whatever follows.
                    with archive.open(info) as packed, (folder / Path(info.filename).name).open("wb") as unpacked:
                        shutil.copyfileobj(packed, unpacked)
        except (zipfile.BadZipFile, OSError, RuntimeError, NotImplementedError):
            raise MirkleError("it is damaged", mend="copy it again", where=path.name) from None
        return take_folder(folder)


def take_folder(folder: Path, rally: Path | None = None) -> CameBack:
    """As :func:`unpack`, from a folder with a ``rally`` (its only one, where none is named) and its stages, which stays as it is.

    Raises
    ------
    MirkleError
        There is no rally in it, or something in it can't be read or written.
    """
    rallies = [rally] if rally is not None else sorted(folder.glob(f"*{SUFFIX}"))
    if not rallies:
        raise MirkleError("there is no rally in it", mend="choose the file that Mirkle wrote", where=folder.name)
    came = read_rally(rallies[0])
    merged: dict[str, Merged] = {}
    new = []
    data_folder().mkdir(parents=True, exist_ok=True)
    for copy in sorted(folder.glob(f"*{STAGE_SUFFIX}")):
        mine = copied_stage(copy, None)
        if mine is None:
            with closing(Project.open(copy, only_read=True)) as project:
                project.copy_to(fresh_project_path(project.name))
                new.append(project.name)
        else:
            with closing(Project.open(mine)) as project:
                merged[project.name] = merge_copy(project, copy)
    here = next((p for p, _ in known_rallies() if _identity(p) == came.identity), None) or fresh_rally_path(came.title)
    keep_rally(here, came)
    return CameBack(here, merged, tuple(new))


def _identity(path: Path) -> str:
    try:
        return read_rally(path).identity
    except MirkleError:
        return ""
