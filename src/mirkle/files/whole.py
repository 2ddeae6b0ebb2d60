"""Files written whole or not at all."""

from __future__ import annotations

import contextlib
import os
from pathlib import Path

from mirkle.core.clauses import clause
from mirkle.core.errors import MirkleError


def write_whole(path: Path, content: bytes) -> None:
    """Writes a file beside its place and moves it there, so that there is never half a file.

    Raises
    ------
    MirkleError
    """
    fresh = path.with_name(path.name + ".part")
    try:
        with fresh.open("wb") as file:
            file.write(content)
            file.flush()
            os.fsync(file.fileno())
        fresh.replace(path)
    except OSError as error:
        with contextlib.suppress(OSError):
            fresh.unlink()
        raise MirkleError(
            clause("it can't be written ({0})", error.strerror), mend="choose another folder", where=str(path)
        ) from None
