"""Paths: where a Linux desktop keeps things (XDG base directories)."""

from __future__ import annotations

import re
from itertools import count
from pathlib import Path

import platformdirs

from mirkle.files.project.project import SUFFIX


def data_folder() -> Path:
    """Where stages are kept unless the user chose another place."""
    return Path(platformdirs.user_data_dir("mirkle"))


def settings_file() -> Path:
    """The user's settings."""
    return Path(platformdirs.user_config_dir("mirkle")) / "settings.json"


def log_file() -> Path:
    """Where what broke is written down."""
    return Path(platformdirs.user_state_dir("mirkle")) / "mirkle.log"


def fresh_project_path(name: str) -> Path:
    """A file for a new stage that does not exist yet, named after its notes."""
    return fresh_path(data_folder(), name, SUFFIX, otherwise="stage")


def fresh_path(folder: Path, name: str, suffix: str, *, otherwise: str) -> Path:
    """A file in a folder that does not exist yet, named after what it is for, or ``otherwise`` where no letter of that can stand in a
    file's name."""
    stem = re.sub(r"[^\w-]+", "-", name).strip("-.") or otherwise
    return next(path for n in count(1) if not (path := folder / f"{stem}{'' if n == 1 else f'-{n}'}{suffix}").exists())
