"""A project file that is held: by whoever opened it first, written in transactions, read by all others.

Each transaction is on the disk when it ends. A file that another program moved or overwrote meanwhile is not written.
"""

from __future__ import annotations

import fcntl
import os
import sqlite3
import threading
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from typing import IO, Any

from mirkle.core.messages import message
from mirkle.files.project.format import (
    ACTS,
    APPLICATION_ID,
    FRESH,
    MOST_ENTRIES,
    SCHEMA,
    TABLE,
    VERSION,
    UnusableProject,
    connected,
    reason_of,
    transaction,
    version_of,
)
from mirkle.files.project.migration import OLDER, in_memory, migrate


class HeldFile:
    """An open file and its ``connection``; written only where it is held."""

    def __init__(self, path: Path, connection: sqlite3.Connection, lock: IO[bytes] | None) -> None:
        self.path, self.connection, self._lock = path, connection, lock
        # A pass may be reviewed in a background thread: one transaction at a time, which may have several steps.
        self._turn = threading.RLock()
        self._steps = 0
        self._written = _count_of_writes(lock)

    @property
    def read_only(self) -> bool:
        """Whether nothing can be written in this file now."""
        return self._lock is None

    @classmethod
    def opened(cls, path: Path, *, only_read: bool = False) -> HeldFile:
        """A file, migrated where its format is older. ``only_read`` leaves it as it is, whatever its format, and doesn't hold it.

        Raises
        ------
        UnusableProject
            It is missing, damaged, another program's, or written by a newer version.
        """
        if not path.is_file():
            raise UnusableProject("there is no such file", mend="check its name and folder", where=str(path))
        lock = _locked(path) if not only_read else None
        if lock is not None and version_of(path) in OLDER:
            migrate(path)
            # The new file is another one: it has to be held itself.
            lock.close()
            lock = _locked(path)
        connection = connected(path, "rw" if lock else "ro")
        try:
            connection.execute("PRAGMA synchronous = FULL")
            (application,) = connection.execute("PRAGMA application_id").fetchone()
            (version,) = connection.execute("PRAGMA user_version").fetchone()
            (health,) = connection.execute("PRAGMA quick_check(1)").fetchone()
            fault = _fault(path, application, version, health)
            if fault is None and not _holds_our_tables(connection, version):
                # No stage that was written here has a view or a trigger in it, or lacks a table.
                fault = UnusableProject("it is damaged or not a Mirkle stage", mend="open a copy of it", where=path.name)
            if fault is None:
                fault = _too_long(connection, path)
        except sqlite3.DatabaseError:
            fault = UnusableProject("it is damaged or not a Mirkle stage", mend="open a copy of it", where=path.name)
        if fault is not None:
            connection.close()
            if lock is not None:
                lock.close()
            raise fault
        if version in OLDER:
            # An old file that can't be written is migrated in memory.
            connection = in_memory(connection)
        return cls(path, connection, lock)

    def close(self) -> None:
        """Lets the file go."""
        self.connection.close()
        if self._lock is not None:
            self._lock.close()
            self._lock = None

    def read(self, query: str, *values: object) -> list[tuple[Any, ...]]:
        """What a query finds.

        Raises
        ------
        UnusableProject
            The file is damaged there.
        """
        try:
            return self.connection.execute(query, values).fetchall()
        except (sqlite3.Error, OverflowError):
            raise UnusableProject(
                "a part of it is damaged", mend="open a copy of it, or add the files to a new stage", where=self.path.name
            ) from None

    @contextmanager
    def writing(self) -> Iterator[sqlite3.Connection]:
        """A transaction, or a step of one: all that is written inside the outermost is kept, or nothing.

        Raises
        ------
        UnusableProject
            It can't be kept; nothing was changed.
        """
        if self.read_only:
            raise UnusableProject(
                "it is open in another window, so nothing can be changed here",
                mend="close it there and open it again",
                where=self.path.name,
            )
        try:
            with self._turn, self._step():
                yield self.connection
        except sqlite3.Error as error:
            raise UnusableProject(
                message("it can't be written ({0}); nothing was changed", reason_of(error)),
                mend="make room or free the folder",
                where=self.path.name,
            ) from None

    @contextmanager
    def _step(self) -> Iterator[None]:
        """One step of a transaction: the first begins it, and ends it for all."""
        if self._steps:
            yield
            return
        self._check_it_is_ours()
        self._steps += 1
        try:
            with transaction(self.connection):
                yield
        finally:
            self._steps -= 1
            self._written = _count_of_writes(self._lock)

    def _check_it_is_ours(self) -> None:
        """Raises :class:`UnusableProject` if another file has been put in this one's place, or has overwritten it."""
        assert self._lock is not None, "only what is held for writing is written"
        held = os.fstat(self._lock.fileno())
        try:
            here = self.path.stat()
            there = (here.st_dev, here.st_ino) == (held.st_dev, held.st_ino)
        except OSError:
            there = False
        if not there or _count_of_writes(self._lock) != self._written:
            raise UnusableProject(
                "another program moved or overwrote this stage while it was open; nothing was changed",
                mend="open it again and look at what was decided last",
                where=self.path.name,
            )


def _count_of_writes(file: IO[bytes] | None) -> bytes:
    """SQLite's count of the transactions that were written to a file, as its header has it (https://sqlite.org/fileformat.html, 1.3.7
    and 1.3.15); nothing where the file isn't held."""
    return os.pread(file.fileno(), 100, 0)[24:28] if file is not None else b""


def _holds_our_tables(connection: sqlite3.Connection, version: int) -> bool:
    """Whether a file has the tables of its format, and nothing that acts by itself: no view, no trigger, no index that we did not ask for,
    and no table that drops a row in silence."""
    rows = connection.execute("SELECT type, name, sql FROM sqlite_master").fetchall()
    tables = {name: str(sql) for kind, name, sql in rows if kind == "table"}
    wanted = set(TABLE.findall(SCHEMA)) - FRESH.get(version, set())
    if any(kind not in ("table", "index") or (kind == "index" and sql is not None) for kind, _, sql in rows):
        return False
    return wanted <= tables.keys() and not any(ACTS.search(tables[name]) for name in wanted)


def _too_long(connection: sqlite3.Connection, path: Path) -> UnusableProject | None:
    """A sentence where a file holds more decisions than any crew makes."""
    (last,) = connection.execute("SELECT COALESCE(MAX(seq), 0) FROM log").fetchone()
    if last <= MOST_ENTRIES:
        return None
    (count,) = connection.execute("SELECT COUNT(*) FROM log").fetchone()
    if count <= MOST_ENTRIES:
        return None
    return UnusableProject(
        message("it holds {0} decisions; no more than {1} can be opened", count, MOST_ENTRIES),
        mend="open an older copy of it",
        where=path.name,
    )


# What is read of a stage without opening it: no name and no summary is longer, and no file takes more of SQLite's steps.
_GLANCE_BYTES, _GLANCE_STEPS = 1_000_000, 200_000


def glance(path: Path) -> tuple[dict[str, str], int]:
    """The facts that a file keeps about its stage, and the number of its last decision, without opening it. Nothing in the file can make it
    long.

    Raises
    ------
    UnusableProject
        It is no stage that is whole.
    """
    fault = UnusableProject("it is damaged or not a Mirkle stage", mend="open a copy of it", where=path.name)
    try:
        with closing(connected(path, "ro")) as connection:
            connection.setlimit(sqlite3.SQLITE_LIMIT_LENGTH, _GLANCE_BYTES)
            connection.set_progress_handler(lambda: 1, _GLANCE_STEPS)
            (application,) = connection.execute("PRAGMA application_id").fetchone()
            kinds = connection.execute("SELECT type FROM sqlite_master WHERE name IN ('about', 'log')").fetchall()
            if application != APPLICATION_ID or kinds != [("table",), ("table",)]:
                raise fault
            about = {str(k): str(v) for k, v in connection.execute("SELECT key, value FROM about")}
            (last,) = connection.execute("SELECT COALESCE(MAX(seq), 0) FROM log").fetchone()
            return about, int(last)
    except (sqlite3.Error, OSError, ValueError) as error:
        raise fault from error


def _locked(path: Path) -> IO[bytes] | None:
    """The file held for writing, or ``None`` if somebody else holds it or it can't be written."""
    try:
        file = path.open("r+b")
    except OSError:
        return None
    try:
        fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        file.close()
        return None
    return file


def _fault(path: Path, application: int, version: int, health: str) -> UnusableProject | None:
    if application != APPLICATION_ID:
        return UnusableProject("this is not a Mirkle stage", mend="choose a .mirkle file", where=path.name)
    if version > VERSION:
        return UnusableProject(
            message("it was written by a newer Mirkle (format {0}; this one knows {1})", version, VERSION),
            mend="open it with the newer Mirkle",
            where=path.name,
        )
    if health != "ok":
        return UnusableProject("it is damaged", mend="open a copy of it", where=path.name)
    return None
