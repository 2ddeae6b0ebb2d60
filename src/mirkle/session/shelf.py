"""The stages of this crew: what each is and how far it has come, without opening any."""

from __future__ import annotations

import json
from contextlib import closing, suppress
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from mirkle.core.errors import MirkleError
from mirkle.files.project.project import SUFFIX, Project, glance
from mirkle.session import recent_stages
from mirkle.session.kept_reviews import kept_review
from mirkle.session.open_pass import OpenPass
from mirkle.session.pass_list import chosen_pass, inputs_of_pass
from mirkle.session.paths import data_folder
from mirkle.session.reviewed_pass import ReviewedPass

_SUMMARY = "summary"
# How large the box of a stage's small map is, and of how many points it is made.
SHAPE, SHAPE_POINTS = 100, 60
NOT_MEASURED, NOT_KNOWN = -1, -2


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
        summary = json.loads(about.get(_SUMMARY, "{}"))
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
    return Shelved(path, name or path.stem, event, car, day, length_m, passes, dangers_left, to_copy, opened=bool(summary), shape=shape)


def _shape_in(kept: Any) -> tuple[tuple[int, int], ...]:
    """The small map that a file holds; none where that is no line in its box."""
    points = [(int(x), int(y)) for x, y in kept] if isinstance(kept, list) and len(kept) <= SHAPE_POINTS else []
    return tuple(points) if all(0 <= x <= SHAPE and 0 <= y <= SHAPE for x, y in points) else ()


def _shape_of(stage: ReviewedPass) -> list[tuple[int, int]]:
    """The driven line from above, evenly thinned out, north up."""
    plan, last = stage.review.measured.plan, int(stage.review.finish_m)
    at = np.linspace(0, min(last, len(plan.east_m) - 1), SHAPE_POINTS).astype(int)
    right, down = plan.east_m[at], -plan.north_m[at]
    size = max(float(np.ptp(right)), float(np.ptp(down)), 1.0)
    x, y = (np.rint(SHAPE * (0.5 + (v - 0.5 * (v.min() + v.max())) / size)).astype(int) for v in (right, down))
    return list(zip(x.tolist(), y.tolist(), strict=True))


# No stage is longer, has as many of anything, or a name as long.
LONGEST_M, MOST, LONGEST_LINE = 1_000_000.0, 100_000, 200


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
        return _summary_of(stage)


def _summary_of(stage: OpenPass) -> dict[str, Any]:
    passes = stage.project.passes()
    measured: dict[str, Any] = {"length_m": 0.0, "dangers_left": NOT_MEASURED, "shape": []}
    if isinstance(stage, ReviewedPass):
        measured = {"length_m": round(stage.review.finish_m, 1), "dangers_left": stage.book.dangers_left, "shape": _shape_of(stage)}
    elif any(p.run is not None for p in passes):
        # A pass with a camera only says nothing of what the recorded ones found.
        before = _before(stage.project)
        measured = {key: before.get(key, [] if key == "shape" else NOT_KNOWN) for key in measured}
    return {
        "day": next((p.day for p in reversed(passes) if p.day), ""),
        "passes": sum(p.run is not None or p.media is not None for p in passes),
        "to_copy": len(stage.book.to_copy),
        "log": stage.project.last_entry,
        **measured,
    }


def keep_summary(stage: OpenPass) -> None:
    """Keeps how far a stage has come, for the shelf; where it can't be kept, the shelf shows what it was before."""
    try:
        # What a newer program keeps there besides stays.
        summary = json.dumps(_before(stage.project) | _summary_of(stage))
        if not stage.project.read_only and stage.project.info(_SUMMARY) != summary:
            stage.project.set_info(_SUMMARY, summary)
    except MirkleError:
        return


def _before(project: Project) -> dict[str, Any]:
    """The summary that is kept by now."""
    try:
        kept = json.loads(project.info(_SUMMARY) or "{}")
        return kept if isinstance(kept, dict) else {}
    except (ValueError, RecursionError):
        return {}


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
