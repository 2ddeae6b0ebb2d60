"""The stages that were open last."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from types import ModuleType

from mirkle.files.atomic_write import clear_parts
from mirkle.session.paths import data_folder, settings_file
from mirkle.session.settings import keep_setting, setting

MOST_RECENT = 40


def remember(path: Path) -> None:
    """Puts a stage at the head of the recent ones, and into the desktop's own list."""
    others = [p for p in _recent_names() if p != str(path)]
    keep_setting("recent", [str(path), *others][:MOST_RECENT])
    _desktop().add_to_desktop(path)


def remember_last(path: Path) -> None:
    """Puts a stage at the end of the recent ones."""
    others = [p for p in _recent_names() if p != str(path)]
    keep_setting("recent", [*others[: MOST_RECENT - 1], str(path)])


def forget(path: Path) -> None:
    """Takes a stage out of the recent ones, and out of the desktop's own list."""
    keep_setting("recent", [p for p in _recent_names() if p != str(path)])
    _desktop().remove_from_desktop(path)


def recent() -> list[Path]:
    """The stages that were open last and are still there, the latest first."""
    return [Path(p) for p in _recent_names() if Path(p).is_file()]


def _desktop() -> ModuleType:
    # Its XML reader is loaded when a stage is open, not before the window stands.
    from mirkle.session import desktop_recent

    return desktop_recent


def _recent_names() -> list[str]:
    kept = setting("recent", [])
    return [p for p in kept if isinstance(p, str)] if isinstance(kept, list) else []


@dataclass(frozen=True)
class LeftAt:
    """Where a crew left a stage: the page, and the finding or else the note that was chosen."""

    page: str
    note: int
    finding: str = ""


def leave_at(path: Path, left: LeftAt) -> None:
    """Keeps where a stage was left, for the recent stages."""
    kept = setting("left", {})
    others = {p: v for p, v in kept.items() if p in _recent_names()} if isinstance(kept, dict) else {}
    keep_setting("left", others | {str(path): [left.page, left.note, left.finding]})


def left_at(path: Path) -> LeftAt | None:
    """Where a stage was left, if that is known."""
    kept = setting("left", {})
    match kept.get(str(path)) if isinstance(kept, dict) else None:
        case [str(page), int(note), str(finding)]:
            return LeftAt(page, note, finding)
    return None


def clear_up() -> None:
    """Takes away what killed programs left half-written in the folders of stages and settings."""
    for folder in {data_folder(), settings_file().parent, *(path.parent for path in recent())}:
        clear_parts(folder)
