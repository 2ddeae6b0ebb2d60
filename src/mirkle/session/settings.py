"""The user's settings, by name, in one JSON file."""

from __future__ import annotations

import fcntl
import json
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.files.atomic_write import write_whole
from mirkle.session.paths import settings_file

MOST_SHAPES = 60


def setting(name: str, default: object) -> object:
    """A setting, or its default where there is none or the file can't be read."""
    try:
        return json.loads(settings_file().read_text(encoding="utf-8")).get(name, default)
    except (OSError, ValueError, AttributeError, RecursionError):
        return default


def keep_setting(name: str, value: object) -> None:
    """Keeps a setting; where it can't be kept the program goes on without."""
    file = settings_file()
    try:
        file.parent.mkdir(parents=True, exist_ok=True)
        with _alone(file):
            try:
                settings = json.loads(file.read_text(encoding="utf-8"))
            except (OSError, ValueError, RecursionError):
                settings = {}
            known = settings if isinstance(settings, dict) else {}
            write_whole(file, json.dumps(known | {name: value}, indent=1).encode())
    except (OSError, MirkleError):
        return


@contextmanager
def _alone(file: Path) -> Iterator[None]:
    """One program at a time reads a file and writes it again."""
    with file.with_name(f".{file.name}.lock").open("a") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield


def columns_of(shape: str) -> list[str] | None:
    """What was said of the columns of tables of a shape; ``None`` where nothing was."""
    kept = setting("columns", {})
    names = kept.get(shape) if isinstance(kept, dict) else None
    return [str(n) for n in names] if isinstance(names, list) else None


def keep_columns(shape: str, names: Sequence[str]) -> None:
    """Keeps what the columns of tables of a shape hold, for the next file like it."""
    kept = setting("columns", {})
    others = {k: v for k, v in kept.items() if k != shape} if isinstance(kept, dict) else {}
    keep_setting("columns", dict([*others.items(), (shape, list(names))][-MOST_SHAPES:]))
