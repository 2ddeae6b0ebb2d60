"""Autosave of notes that are typed in and not used yet."""

from __future__ import annotations

from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.files.atomic_write import write_whole
from mirkle.session.paths import data_folder


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
