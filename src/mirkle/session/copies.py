"""Copies of a stage on another computer or stick: found by the stage's identity, and merged into the one that is here."""

from __future__ import annotations

from contextlib import closing
from pathlib import Path

from mirkle.core.messages import Message, counted, in_a_row, message
from mirkle.files.project.held_file import glance
from mirkle.files.project.merge import Merged
from mirkle.files.project.project import SUFFIX, Project, UnusableProject
from mirkle.session.paths import data_folder


def copied_stage(path: Path, open_path: Path | None) -> Path | None:
    """The stage of this crew that a file is a copy of: the open one, or one on the shelf. ``None`` where it is none, or is on the shelf
    itself."""
    wanted = _identity(path)
    shelf = sorted(data_folder().glob(f"*{SUFFIX}"))
    if not wanted or any(path.samefile(kept) for kept in shelf):
        return None
    candidates = [open_path, *shelf] if open_path is not None else shelf
    return next((kept for kept in candidates if _identity(kept) == wanted and not path.samefile(kept)), None)


def _identity(path: Path) -> str:
    """Which stage a file holds; empty where that can't be told without opening it."""
    try:
        return glance(path)[0].get("id", "")
    except UnusableProject:
        return ""


def merge_copy(project: Project, path: Path) -> Merged:
    """Merges a copy of a stage into it; the copy stays as it is.

    Raises
    ------
    UnusableProject
        The copy can't be read, or is none; the stage can't be written. Nothing was changed.
    """
    with closing(Project.open(path, only_read=True)) as copy:
        return project.merge(copy)


def merged_words(merged: Merged) -> Message:
    """What came, in a sentence."""
    if merged.is_nothing:
        return message("The copy holds nothing new.")
    parts = [
        counted("1 decision", "{0} decisions", merged.decisions) if merged.decisions else None,
        counted("1 pass", "{0} passes", merged.passes) if merged.passes else None,
        counted("1 file", "{0} files", merged.files) if merged.files else None,
    ]
    came = message("From the copy: {0}.", in_a_row([p for p in parts if p is not None], ", "))
    if not merged.conflicts:
        return came
    return in_a_row([came, message("Decided differently in both: {0}. Choose in ☰, Decide.", merged.conflicts)], " ")
