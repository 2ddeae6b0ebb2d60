"""A rally: its itinerary with the stages on the shelf, what fits before the next start, and how long the next drive will take."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from itertools import pairwise
from pathlib import Path

from rapidfuzz import fuzz

from mirkle.core.errors import MirkleError
from mirkle.core.rally.itinerary import Item, next_start
from mirkle.core.rally.plan import Plan, Work, WorkKind, plan_work
from mirkle.core.rally.stage_time import StageTime, expected_time
from mirkle.core.rally.written_itinerary import ReadLine
from mirkle.files.rally_file import SUFFIX, RallyFile, keep_rally, read_rally
from mirkle.session.paths import data_folder, fresh_path
from mirkle.session.shelf import Shelved, shelf
from mirkle.session.signal import Signal

# From how alike on a stage's name is the name of its file (0 to 100).
SAME_NAME = 90.0
# How long behind the last item of a rally the page still shows its last day.
AFTER = timedelta(hours=6)


@dataclass(frozen=True)
class RallyStage:
    """A stage of the rally: its ``drives`` in the itinerary, its file on the ``shelf`` where there is one, and its next drive."""

    name: str
    drives: tuple[Item, ...]
    shelf: Shelved | None
    next_drive: Item | None
    expected: StageTime | None

    @property
    def length_m(self) -> float:
        """As measured, or as the itinerary says; 0 where nobody knows."""
        measured = self.shelf.length_m if self.shelf is not None else 0.0
        return measured or max((item.length_m for item in self.drives), default=0.0)


class Rally:
    """A rally that is open. Every change is in its file before anybody is told of it.

    Signal: ``changed``.
    """

    def __init__(self, path: Path, kept: RallyFile) -> None:
        self.path, self._file = path, kept
        self.changed = Signal()

    @classmethod
    def create(cls, name: str) -> Rally:
        """A rally without an itinerary yet, in the folder of stages.

        Raises
        ------
        MirkleError
            It has no name, or can't be written.
        """
        if not name.strip():
            raise MirkleError("a rally needs a name", mend="write one")
        path = fresh_rally_path(name)
        return cls(path, keep_rally(path, RallyFile.new(name.strip())))

    @classmethod
    def open(cls, path: Path) -> Rally:
        """The rally in a file.

        Raises
        ------
        MirkleError
            It can't be read.
        """
        return cls(path, read_rally(path))

    @property
    def name(self) -> str:
        """What it is called."""
        return self._file.title

    @property
    def itinerary(self) -> list[Item]:
        """Its items by their time."""
        return self._file.itinerary

    def _change(self, change: Callable[[RallyFile], RallyFile]) -> None:
        now = change(self._file)
        if now != self._file:
            self._file = keep_rally(self.path, now)
            self.changed.emit()

    def set_itinerary(self, items: Sequence[Item]) -> None:
        """Puts other items in place of those that are there.

        Raises
        ------
        MirkleError
            They can't be kept.
        """
        self._change(lambda kept: kept.with_itinerary(items))

    def rename(self, name: str) -> None:
        """Gives it another name; an empty one is none.

        Raises
        ------
        MirkleError
            It can't be kept.
        """
        if name.strip():
            self._change(lambda kept: kept.with_name(name.strip()))

    def assign(self, stage: str, to: Shelved) -> None:
        """Says which stage of the shelf a stage of the itinerary is.

        Raises
        ------
        MirkleError
            It can't be kept.
        """
        self._change(lambda kept: kept.with_stage(stage, to.identity))

    def reload(self) -> None:
        """Reads its file anew.

        Raises
        ------
        MirkleError
            It can't be read.
        """
        self._file = read_rally(self.path)
        self.changed.emit()

    def stages(self, now: datetime, on_shelf: Sequence[Shelved] | None = None) -> list[RallyStage]:
        """The stages of the itinerary, by their first drive."""
        on_shelf = shelf() if on_shelf is None else on_shelf
        items = self.itinerary
        names = list(dict.fromkeys(item.name for item in items if item.kind == "stage"))
        files = {name: self._on_shelf(name, on_shelf) for name in names}
        # What was gained from drive to drive, on every stage of the rally.
        times = [file.work.times_s for file in files.values() if file is not None]
        pairs = [pair for t in times for pair in pairwise(t)]
        found = []
        for name in names:
            drives = tuple(item for item in items if item.kind == "stage" and item.name == name)
            file = files[name]
            expected = expected_time(file.work.times_s, pairs, file.work.conditions) if file is not None else None
            found.append(RallyStage(name, drives, file, next_start(drives, now), expected))
        return found

    def _on_shelf(self, name: str, on_shelf: Sequence[Shelved]) -> Shelved | None:
        """The file of a stage: the one that was said, or one of the same name; ``None`` where two have that name."""
        identity = self._file.stage_id(name)
        if identity:
            return next((one for one in on_shelf if one.identity == identity), None)
        alike = [one for one in on_shelf if fuzz.ratio(one.name.casefold(), name.casefold()) >= SAME_NAME]
        return alike[0] if len({one.identity for one in alike}) == 1 else None

    def plan(self, now: datetime, stages: Sequence[RallyStage]) -> Plan:
        """What fits before the coming starts."""
        works = [work for stage in stages for work in works_of(stage)]
        return plan_work(works, self.itinerary, now)


def works_of(stage: RallyStage) -> list[Work]:
    """What is left to do on a stage before its next drive."""
    if stage.shelf is None or stage.next_drive is None:
        return []
    left, due = stage.shelf.work, stage.next_drive.start
    counts: dict[WorkKind, int] = {
        "danger": left.findings.get("danger", 0),
        "change": left.findings.get("change", 0),
        "copy": stage.shelf.to_copy,
        "rehearse": left.to_rehearse,
        "check": left.findings.get("check", 0),
    }
    return [Work(stage.name, kind, count, due) for kind, count in counts.items() if count > 0]


def day_shown(items: Sequence[Item], now: datetime) -> date | None:
    """The day that the page of a rally shows: today, while it is driven; else the next day with an item, or the last one."""
    days = sorted({item.start.date() for item in items})
    return next((day for day in days if day >= (now - AFTER).date()), days[-1] if days else None)


def typed(items: Sequence[Item]) -> str:
    """An itinerary as text that is read back as the same."""
    lines: list[str] = []
    day: date | None = None
    for item in items:
        if item.start.date() != day:
            day = item.start.date()
            lines += [""] * bool(lines) + [f"{day:%Y-%m-%d}"]
        lines.append(_typed(item))
    return "\n".join(lines)


def _typed(item: Item) -> str:
    parts = [f"{item.start:%H:%M}"]
    if item.kind == "stage":
        parts += [f"SS{item.number}" if item.number else "stage", f"{item.name} {item.drive}" if item.drive > 1 else item.name]
    elif item.kind == "control" and item.number:
        parts += [f"TC{item.number}", item.own_name]
    else:
        parts.append(item.name)
    parts += [f"{item.length_m / 1000:g} km"] * bool(item.length_m) + [f"{item.minutes:g} min"] * bool(item.minutes)
    return "  ".join(filter(None, parts))


def with_what_stood(lines: Sequence[ReadLine], before: Sequence[Item]) -> list[Item]:
    """The items of an edited text: one that stood before, by what it is, its name and drive, stays the same item, cancelled or not."""
    left = list(before)
    items = []
    for read in lines:
        item = read.item
        if item is None:
            continue
        same = next((old for old in left if (old.kind, old.name, old.drive) == (item.kind, item.name, item.drive)), None)
        if same is not None:
            left.remove(same)
            item = replace(item, uid=same.uid, cancelled=same.cancelled)
        items.append(item)
    return items


def known_rallies() -> list[tuple[Path, str]]:
    """The rallies in the folder of stages with their names, the latest first; one that can't be read by its file's name."""
    found = sorted(data_folder().glob(f"*{SUFFIX}"), key=lambda path: path.stat().st_mtime, reverse=True)
    return [(path, _name_of(path)) for path in found]


def _name_of(path: Path) -> str:
    try:
        return read_rally(path).title
    except MirkleError:
        return path.stem


def neighbour(rally: Rally, open_path: Path | None, by: int) -> Path | None:
    """The file of the next stage of a rally that has one, or of the one before: from the stage that is open, or the first."""
    paths = [stage.shelf.path.resolve() for stage in rally.stages(datetime.min) if stage.shelf is not None]
    here = open_path.resolve() if open_path is not None else None
    if here not in paths:
        return paths[0] if paths else None
    at = paths.index(here) + by
    return paths[at] if 0 <= at < len(paths) else None


def fresh_rally_path(name: str) -> Path:
    """A file for a new rally that does not exist yet, named after it, in the folder of stages."""
    data_folder().mkdir(parents=True, exist_ok=True)
    return fresh_path(data_folder(), name, SUFFIX, otherwise="rally")
