"""Paths: where a Linux desktop keeps things (XDG base directories)."""

from __future__ import annotations

import re
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
    stem = re.sub(r"[^\w-]+", "-", name).strip("-.") or "stage"
    folder = data_folder()
    number = 1
    while True:
        path = folder / f"{stem}{'' if number == 1 else f'-{number}'}{SUFFIX}"
        if not path.exists():
            return path
        number += 1
