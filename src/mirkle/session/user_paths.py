"""Where a Linux desktop keeps things: the XDG base directories."""

from __future__ import annotations

import fcntl
import json
import re
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

import platformdirs

from mirkle.core.errors import MirkleError
from mirkle.core.notebook.passes import Pass
from mirkle.files import demo_files
from mirkle.files.atomic_write import clear_parts, write_whole
from mirkle.files.audio.media import shipped_reference
from mirkle.files.project.project import SUFFIX, Project, SourceFile

MOST_RECENT = 40
MOST_SHAPES = 60
LARGEST_LOG_BYTES = 1_000_000


def data_folder() -> Path:
    """Where stages are kept unless the user chose another place."""
    return Path(platformdirs.user_data_dir("mirkle"))


def settings_file() -> Path:
    """The user's settings."""
    return Path(platformdirs.user_config_dir("mirkle")) / "settings.json"


def log_file() -> Path:
    """Where what broke is written down."""
    return Path(platformdirs.user_state_dir("mirkle")) / "mirkle.log"


def write_down(words: str) -> Path | None:
    """Adds something that broke to the log, which is begun anew when it grows large; ``None`` where it can't be written."""
    file = log_file()
    try:
        file.parent.mkdir(parents=True, exist_ok=True)
        grown = file.is_file() and file.stat().st_size > LARGEST_LOG_BYTES
        with file.open("w" if grown else "a", encoding="utf-8") as log:
            log.write(words.rstrip() + "\n\n")
    except OSError:
        return None
    return file


def clear_up() -> None:
    """Takes away what killed programs left half-written in the folders of stages and settings."""
    for folder in {data_folder(), settings_file().parent, *(path.parent for path in recent())}:
        clear_parts(folder)


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


def _draft_file() -> Path:
    return data_folder() / "typed-notes-draft.txt"


def typed_draft() -> str:
    """What was typed in and not used yet."""
    try:
        return _draft_file().read_text(encoding="utf-8")
    except (OSError, ValueError):
        return ""


def keep_typed_draft(text: str) -> None:
    """Keeps what is typed in, or forgets it where nothing is left; where it can't be kept the program goes on without."""
    try:
        if text.strip():
            _draft_file().parent.mkdir(parents=True, exist_ok=True)
            write_whole(_draft_file(), text.encode())
        else:
            _draft_file().unlink(missing_ok=True)
    except (OSError, MirkleError):
        return


def remember(path: Path) -> None:
    """Puts a stage at the head of the recent ones."""
    others = [p for p in _recent_names() if p != str(path)]
    keep_setting("recent", [str(path), *others][:MOST_RECENT])


def remember_last(path: Path) -> None:
    """Puts a stage at the end of the recent ones."""
    others = [p for p in _recent_names() if p != str(path)]
    keep_setting("recent", [*others[: MOST_RECENT - 1], str(path)])


def forget(path: Path) -> None:
    """Takes a stage out of the recent ones."""
    keep_setting("recent", [p for p in _recent_names() if p != str(path)])


def recent() -> list[Path]:
    """The stages that were open last and are still there, the latest first."""
    return [Path(p) for p in _recent_names() if Path(p).is_file()]


def _recent_names() -> list[str]:
    kept = setting("recent", [])
    return [p for p in kept if isinstance(p, str)] if isinstance(kept, list) else []


@dataclass(frozen=True)
class CountedStage:
    """How the changes of a stage turned out, by verdict, and whether it counts in the season."""

    path: str
    verdicts: Mapping[str, int]
    counts: bool


def counted_stages() -> list[CountedStage]:
    """Every stage whose changes were looked at on a later pass."""
    kept, left_out = setting("verdicts", {}), setting("not-counted", [])
    without = left_out if isinstance(left_out, list) else []
    return [
        CountedStage(path, {v: n for v, n in told.items() if type(n) is int}, counts=path not in without)
        for path, told in (kept.items() if isinstance(kept, dict) else ())
        if isinstance(told, dict)
    ]


def count_stage(path: str, *, counts: bool) -> None:
    """Counts a stage in the season, or leaves it out."""
    left_out = [s.path for s in counted_stages() if not s.counts and s.path != path]
    keep_setting("not-counted", left_out if counts else [*left_out, path])


def count_verdicts(path: Path, counts: Mapping[str, int]) -> dict[str, int]:
    """Keeps how the changes of a stage turned out, and returns how those of all stages that count did."""
    kept = setting("verdicts", {})
    keep_setting("verdicts", (kept if isinstance(kept, dict) else {}) | {str(path): dict(counts)})
    total: Counter[str] = Counter()
    for stage in counted_stages():
        if stage.counts:
            total.update(stage.verdicts)
    return dict(total)


def demo_project() -> Project:
    """The demo stage, with what was decided on it before; made on the first call."""
    path = data_folder() / f"slatehook{SUFFIX}"
    if path.exists():
        return Project.open(path)
    morning = [
        SourceFile("notes", demo_files.NOTES, demo_files.demo_file(demo_files.NOTES)),
        SourceFile("run", demo_files.MORNING, demo_files.demo_file(demo_files.MORNING)),
        SourceFile("heard", demo_files.MORNING_HEARD, demo_files.demo_file(demo_files.MORNING_HEARD)),
        shipped_reference(demo_files.SOUND),
    ]
    afternoon = {
        "run": SourceFile("run", demo_files.AFTERNOON, demo_files.demo_file(demo_files.AFTERNOON)),
        "notes": SourceFile("notes", demo_files.CORRECTED, demo_files.demo_file(demo_files.CORRECTED)),
        "calls": SourceFile("calls", demo_files.AFTERNOON_CALLS, demo_files.demo_file(demo_files.AFTERNOON_CALLS)),
    }
    filmed = {
        "media": shipped_reference(demo_files.VIDEO),
        "calls": SourceFile("heard", demo_files.HEARD, demo_files.demo_file(demo_files.HEARD)),
    }

    def first(project: Project) -> None:
        project.tell("car", "27")
        driven = project.add_pass(Pass(0, None, None, kind="later"), afternoon)
        project.add_pass(Pass(0, None, driven.notes, kind="later"), filmed)

    return Project.create(path, morning, name="Slatehook", first=first)


def fresh_project_path(name: str) -> Path:
    """A file for a new stage that does not exist yet, named after its notes."""
    stem = re.sub(r"[^\w-]+", "-", name).strip("-.") or "stage"
    folder = data_folder()
    number = 1
    while True:
        path = folder / f"{stem}{'' if number == 1 else f'-{number}'}{SUFFIX}"
        if not path.exists():
            return path
        number += 1
