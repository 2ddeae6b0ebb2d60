"""Everything that is written goes through here: whole or not at all, and never instead of something that is no plain file."""

from __future__ import annotations

import contextlib
import os
import stat
import tempfile
from pathlib import Path

from mirkle.core.clauses import clause
from mirkle.core.errors import MirkleError


def write_whole(path: Path, content: bytes) -> None:
    """Writes a file beside its place and moves it there when it is on the disk, so that there is never half a file.

    A link is followed: what it leads to is written, and it stays a link. Who may read the file stays as it was.

    Raises
    ------
    MirkleError
        It can't be written, or what stands there is no plain file; it is as it was.
    """
    fresh: Path | None = None
    try:
        target = path.resolve()
        there = target.stat() if target.exists() else None
        if there is not None and not stat.S_ISREG(there.st_mode):
            raise MirkleError(
                "there is something there that is no plain file", mend="choose another name", where=str(path)
            )
        handle, name = tempfile.mkstemp(prefix=f".{target.name}.", suffix=".part", dir=target.parent)
        fresh = Path(name)
        with os.fdopen(handle, "wb") as file:
            file.write(content)
            file.flush()
            os.fsync(file.fileno())
        fresh.chmod(stat.S_IMODE(there.st_mode) if there is not None else 0o666 & ~_umask())
        fresh.replace(target)
    except (OSError, MirkleError) as error:
        if fresh is not None:
            with contextlib.suppress(OSError):
                fresh.unlink()
        if isinstance(error, MirkleError):
            raise
        raise MirkleError(
            clause("it can't be written ({0})", error.strerror), mend="choose another folder", where=str(path)
        ) from None


def _umask() -> int:
    mask = os.umask(0o022)
    os.umask(mask)
    return mask
