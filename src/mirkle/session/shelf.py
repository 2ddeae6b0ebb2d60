"""The stages of this crew: what each is and how far it has come, without opening any."""

from __future__ import annotations

import json
from contextlib import closing, suppress
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from mirkle.core.errors import MirkleError
from mirkle.files.project.held_file import glance
from mirkle.files.project.project import SUFFIX, Project
from mirkle.session import recent_stages
from mirkle.session.kept_reviews import kept_review
from mirkle.session.pass_list import chosen_pass, inputs_of_pass
from mirkle.session.paths import data_folder
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.stage_summary import (
    LONGEST_LINE,
    LONGEST_M,
    MOST,
    NOT_KNOWN,
    SHAPE,
    SHAPE_POINTS,
    SUMMARY,
    StageWork,
    book_in,
    course_in,
    keep_summary,
    summary_of,
    work_in,
)


@dataclass(frozen=True)
class Shelved:
    """A stage on the shelf. ``opened`` is false where it was never reviewed, and only its name is known; ``readable`` where its file says
    nothing that can be read. ``length_m`` is nought and ``dangers_left`` :data:`NOT_MEASURED` where nothing of it was measured,
    :data:`NOT_KNOWN` where it would have to be reviewed to tell."""

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
    readable: bool = True
    # The line from above in a box of SHAPE by SHAPE, right and down; empty where none was measured.
    shape: tuple[tuple[int, int], ...] = ()
    # Which stage it is, in every copy of its file.
    identity: str = ""
    # Places along its road, degrees; empty where none is known.
    course: tuple[tuple[float, float], ...] = ()
    # A sketch of its book (mirkle.core.notes.same_book).
    book: tuple[int, ...] = ()
    work: StageWork = field(default_factory=StageWork)


def shelf() -> list[Shelved]:
    """Every stage in the folder of stages, and those that were opened elsewhere and are still there; the latest first."""
    kept = sorted(data_folder().glob(f"*{SUFFIX}"), key=_changed, reverse=True)
    found: dict[Path, Path] = {}
    for path in [*recent_stages.recent(), *kept]:
        with suppress(OSError, RuntimeError):
            if path.is_file():
                found.setdefault(path.resolve(), path)
    return [shelved(path) for path in found.values()]


def _changed(path: Path) -> float:
    try:
        return path.stat().st_mtime
    except OSError:
        return 0.0


def names() -> set[str]:
    """The names of all stages on the shelf."""
    return {shelved(path).name for path in data_folder().glob(f"*{SUFFIX}")}


def shelved(path: Path) -> Shelved:
    """What a file says of its stage; its file's name where it says nothing that can be read. Where something was decided since that was
    counted, it is counted again."""
    try:
        about, last = glance(path)
        summary = json.loads(about.get(SUMMARY, "{}"))
        if summary and summary.get("log", last) != last:
            summary = _counted_again(path) or summary | {"dangers_left": NOT_KNOWN, "to_copy": 0}
        return _of_summary(path, about, summary)
    except Exception:
        # Damaged, not a stage, or worse: whatever one file holds, the rest of the shelf is there. Opening it says what is wrong.
        return Shelved(path, path.stem, readable=False)


def _of_summary(path: Path, about: dict[str, str], summary: dict[str, Any]) -> Shelved:
    length_m = float(summary.get("length_m", 0.0))
    passes, dangers_left, to_copy = (int(summary.get(key, 0)) for key in ("passes", "dangers_left", "to_copy"))
    if not 0.0 <= length_m < LONGEST_M or not all(NOT_KNOWN <= n < MOST for n in (passes, dangers_left, to_copy)):
        raise ValueError("figures that no stage has")
    name, event, car = (_line(about.get(key, "")) for key in ("name", "event", "car"))
    day = _line(summary.get("day", ""))
    shape = _shape_in(summary.get("shape", ()))
    identity = _line(about.get("id", ""))
    known = (name or path.stem, event, car, day, length_m, passes, dangers_left, to_copy)
    course, book = course_in(summary), book_in(summary)
    return Shelved(path, *known, "passes" in summary, shape=shape, identity=identity, course=course, book=book, work=work_in(summary))


def _shape_in(kept: Any) -> tuple[tuple[int, int], ...]:
    """The small map that a file holds; none where that is no line in its box."""
    points = [(int(x), int(y)) for x, y in kept] if isinstance(kept, list) and len(kept) <= SHAPE_POINTS else []
    return tuple(points) if all(0 <= x <= SHAPE and 0 <= y <= SHAPE for x, y in points) else ()


def _line(text: object) -> str:
    """A text on one line."""
    return " ".join(str(text).split())[:LONGEST_LINE]


def _counted_again(path: Path) -> dict[str, Any] | None:
    """How far a stage has come, from its file: the program was killed before it kept that, or it is open in another window. ``None``
    where it would have to be reviewed for it."""
    with closing(Project.open(path)) as project:
        made = chosen_pass(project)
        inputs = inputs_of_pass(project, made)
        review = kept_review(project, inputs)
        if review is None:
            return None
        stage = ReviewedPass(project, review, inputs, made)
        keep_summary(stage)
        return summary_of(stage)


def rename(path: Path, name: str, event: str, car: str = "") -> None:
    """Gives a stage another name, event and car; its file stays where it is.

    Raises
    ------
    MirkleError
        There is no name, or it is open elsewhere or can't be written.
    """
    if not name.strip():
        raise MirkleError("a stage needs a name", mend="write one")
    with closing(Project.open(path)) as project, project.together():
        project.set_info("name", name.strip())
        project.set_info("event", event.strip())
        project.set_info("car", car.strip())


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
        number = fresh.stem.rsplit("-", 1)[-1]
        project.copy_to(fresh, name=f"{project.name} ({'2' if number == 'copy' else number})")
    return fresh
