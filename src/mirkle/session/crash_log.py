"""Logging: what broke is written down."""

from __future__ import annotations

from pathlib import Path

from mirkle.session.paths import log_file

LARGEST_LOG_BYTES = 1_000_000


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
