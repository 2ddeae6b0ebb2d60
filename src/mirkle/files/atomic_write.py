"""Atomic file writes: everything that is written goes through here, whole or not at all, and never in place of something that is no
plain file."""

from __future__ import annotations

import contextlib
import errno
import os
import re
import secrets
import stat
from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.core.messages import message


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
            raise MirkleError("something there is not a plain file", mend="choose another name", where=str(path))
        fresh = part_of(target)
        with fresh.open("xb") as file:
            file.write(content)
            file.flush()
            os.fsync(file.fileno())
        fresh.chmod(stat.S_IMODE(there.st_mode) if there is not None else 0o666 & ~_umask())
        fresh.replace(target)
        flush_folder(target.parent)
    except (OSError, MirkleError) as error:
        if fresh is not None:
            with contextlib.suppress(OSError):
                fresh.unlink()
        if isinstance(error, MirkleError):
            raise
        raise MirkleError(message("it can't be written ({0})", error.strerror), mend="choose another folder", where=str(path)) from None


def part_of(target: Path) -> Path:
    """A hidden name in a file's folder under which it is written before it takes its place. What killed programs left there of the same
    file is taken away."""
    clear_parts(target.parent, target.name)
    return target.with_name(f".{target.name}.{os.getpid()}-{secrets.token_hex(4)}{_PART}")


def clear_parts(folder: Path, name: str | None = None) -> None:
    """Takes away the hidden parts (of one file, or of all) in a folder whose program runs no longer."""
    with contextlib.suppress(OSError):
        for part in folder.iterdir():
            found = _NAME.match(part.name)
            if found is not None and name in (None, found["name"]) and not _runs(int(found["pid"])):
                with contextlib.suppress(OSError):
                    part.unlink()


_PART = ".part"
# A part, and what SQLite may leave beside one.
_NAME = re.compile(r"\.(?P<name>.+)\.(?P<pid>[0-9]{1,9})-[0-9a-f]{8}\.part(-journal|-wal|-shm)?$")


def _runs(pid: int) -> bool:
    """Whether a process of this number runs, whoever's it is."""
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    except OSError:
        return True
    return True


def put_in_place(fresh: Path, target: Path) -> None:
    """Gives a finished part its name, on which there must be no file yet; both are on the disk when this returns.

    Raises
    ------
    OSError
        There is one, or it can't be done.
    """
    try:
        os.link(fresh, target)
    except FileExistsError:
        raise
    except OSError:
        # A file system without links: a file that came there meanwhile is looked for just before.
        if target.exists():
            raise FileExistsError(errno.EEXIST, os.strerror(errno.EEXIST), str(target)) from None
        fresh.rename(target)
    else:
        fresh.unlink()
    flush_folder(target.parent)


def flush_folder(folder: Path) -> None:
    """Puts a folder's list of names on the disk, where the file system can."""
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def _umask() -> int:
    mask = os.umask(0o022)
    os.umask(mask)
    return mask
