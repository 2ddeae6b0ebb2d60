"""The stages of this crew: what each is and how far it has come, without opening any."""

from __future__ import annotations

import json
import sqlite3
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.files.project import SUFFIX, Project
from mirkle.session import places
from mirkle.session.open_book import OpenBook
from mirkle.session.stage import Stage

_SUMMARY = "summary"
NOT_MEASURED = -1


@dataclass(frozen=True)
class Shelved:
    """A stage on the shelf. ``opened`` is false where it was never reviewed, and only its name is known. ``length_m`` is nought and
    ``dangers_left`` :data:`NOT_MEASURED` where nothing of it was measured."""

    path: Path
    name: str
    event: str = ""
    car: str = ""
    day: str = ""
    length_m: float = 0.0
    passes: int = 0
    dangers_left: int = 0
    to_copy: int = 0
    opened: bool = False


def shelf() -> list[Shelved]:
    """Every stage in the folder of stages, and those that were opened elsewhere and are still there; the latest first."""
    folder = places.data_folder()
    found = {p.resolve(): p for p in [*places.recent(), *sorted(folder.glob(f"*{SUFFIX}"))] if p.is_file()}
    order = {p.resolve(): at for at, p in enumerate(places.recent())}
    latest = sorted(found, key=lambda p: (order.get(p, len(order)), -p.stat().st_mtime))
    return [shelved(found[p]) for p in latest]


def shelved(path: Path) -> Shelved:
    """What a file says of its stage; its file's name where it says nothing."""
    try:
        with closing(sqlite3.connect(f"{path.resolve().as_uri()}?mode=ro", uri=True)) as connection:
            told = dict(connection.execute("SELECT key, value FROM about"))
            summary = json.loads(told.get(_SUMMARY, "{}"))
            return Shelved(
                path,
                str(told.get("name") or path.stem),
                str(told.get("event", "")),
                str(told.get("car", "")),
                str(summary.get("day", "")),
                float(summary.get("length_m", 0.0)),
                int(summary.get("passes", 0)),
                int(summary.get("dangers_left", 0)),
                int(summary.get("to_copy", 0)),
                opened=bool(summary),
            )
    except (sqlite3.Error, ValueError, TypeError, AttributeError):
        # Damaged, or not a stage: opening it says so.
        return Shelved(path, path.stem)


def keep_summary(stage: OpenBook) -> None:
    """Keeps how far a stage has come, for the shelf; where it can't be kept, the shelf shows what it was before."""
    try:
        passes = stage.project.passes()
        measured = {"length_m": 0.0, "dangers_left": NOT_MEASURED}
        if isinstance(stage, Stage):
            measured = {"length_m": round(stage.review.finish_m, 1), "dangers_left": stage.book.dangers_left}
        elif any(p.run is not None for p in passes):
            # A pass with a camera only says nothing of what the recorded ones found.
            before = shelved(stage.project.path)
            measured = {"length_m": before.length_m, "dangers_left": before.dangers_left}
        summary = {
            "day": next((p.day for p in reversed(passes) if p.day), ""),
            "passes": sum(p.run is not None or p.media is not None for p in passes),
            "to_copy": len(stage.book.to_copy),
            **measured,
        }
        told = json.dumps(summary)
        if not stage.project.read_only and stage.project.told(_SUMMARY) != told:
            stage.project.tell(_SUMMARY, told)
    except MirkleError:
        return


def rename(path: Path, name: str, event: str, car: str = "") -> None:
    """Gives a stage another name, event and car; its file stays where it is.

    Raises
    ------
    MirkleError
        There is no name, or it is open elsewhere or can't be written.
    """
    if not name.strip():
        raise MirkleError("a stage needs a name", mend="write one")
    with closing(Project.open(path)) as project:
        project.tell("name", name.strip())
        project.tell("event", event.strip())
        project.tell("car", car.strip())


def copy(path: Path) -> Path:
    """A copy of a stage beside it, under a name that says so; returns where it is.

    Raises
    ------
    MirkleError
        It can't be read or written.
    """
    numbered = (path.with_name(f"{path.stem}-copy{'' if n == 1 else f'-{n}'}{SUFFIX}") for n in range(1, 1000))
    fresh = next(p for p in numbered if not p.exists())
    with closing(Project.open(path)) as project:
        project.copy_to(fresh)
        name = project.name
    try:
        with closing(Project.open(fresh)) as made:
            made.tell(
                "name", f"{name} (2)" if fresh.stem.endswith("-copy") else f"{name} ({fresh.stem.rsplit('-', 1)[-1]})"
            )
    except MirkleError:
        fresh.unlink(missing_ok=True)
        raise
    return fresh
