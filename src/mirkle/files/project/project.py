"""The project file ``.mirkle``: an SQLite database with the material as it came, the passes, and every decision as it was taken.

Each write is one transaction that is on the disk when the call returns, so that killing the program loses nothing.
The log of decisions only grows. Who opens a file first may write; later ones read.
"""

from __future__ import annotations

import fcntl
import hashlib
import os
import sqlite3
import threading
from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from contextlib import closing, contextmanager, suppress
from dataclasses import replace
from pathlib import Path
from typing import IO, Any

from mirkle.core.messages import message
from mirkle.core.notebook.decisions import Entry
from mirkle.core.notebook.passes import Pass
from mirkle.files.atomic_write import part_of, put_in_place
from mirkle.files.project.format import (
    ACTS,
    APPLICATION_ID,
    FRESH,
    MOST_ENTRIES,
    SCHEMA,
    TABLE,
    VERSION,
    SourceFile,
    UnusableProject,
    connected,
    entry_of,
    entry_text,
    first_passes,
    insert,
    insert_pass,
    new_uid,
    next_clock,
    pass_from,
    pass_text,
    reason_of,
    transaction,
    unpacked,
    version_of,
)
from mirkle.files.project.merge import Merged, merge
from mirkle.files.project.migration import OLDER, in_memory, migrate

SUFFIX = ".mirkle"


class Project:
    """An open project file. ``read_only`` where somebody else has it open or the folder can't be written."""

    def __init__(self, path: Path, connection: sqlite3.Connection, lock: IO[bytes] | None) -> None:
        self.path = path
        self._connection, self._lock = connection, lock
        # A pass may be reviewed in a background thread: one transaction at a time, which may have several steps.
        self._turn = threading.RLock()
        self._steps = 0
        self._written = _count_of_writes(lock)

    @property
    def read_only(self) -> bool:
        """Whether decisions can't be kept in this file now."""
        return self._lock is None

    @classmethod
    def create(cls, path: Path, materials: list[SourceFile], *, name: str, first: Callable[[Project], None] | None = None) -> Project:
        """A new project file with its material; an existing file of that name is left alone. ``first`` puts more into it before it takes
        its place.

        Raises
        ------
        UnusableProject
            There is a file already, or it can't be written.
        """
        if path.exists():
            raise UnusableProject("there is a file of this name already", mend="choose another name", where=path.name)
        fresh: Path | None = None
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            fresh = part_of(path)
            connection = sqlite3.connect(fresh, isolation_level=None)
            with transaction(connection):
                # executescript would end the transaction: the schema, the material and the marks are one.
                for statement in SCHEMA.split(";"):
                    connection.execute(statement)
                connection.execute(f"PRAGMA application_id = {APPLICATION_ID}")
                connection.execute(f"PRAGMA user_version = {VERSION}")
                connection.executemany("INSERT INTO about (key, value) VALUES (?, ?)", [("name", name), ("id", new_uid())])
                for material in materials:
                    insert(connection, material)
                for made in first_passes(connection):
                    insert_pass(connection, made)
            connection.close()
            if first is not None:
                with closing(cls.open(fresh)) as project:
                    first(project)
            put_in_place(fresh, path)
        except (OSError, sqlite3.Error) as error:
            # No half-made file is left behind.
            if fresh is not None:
                with suppress(OSError):
                    fresh.unlink(missing_ok=True)
            raise UnusableProject(
                message("the project can't be written there ({0})", reason_of(error)), mend="choose another folder", where=str(path)
            ) from None
        return cls.open(path)

    @classmethod
    def open(cls, path: Path, *, only_read: bool = False) -> Project:
        """An existing project file. ``only_read`` leaves it as it is, whatever its format, and doesn't hold it.

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
        self._connection.close()
        if self._lock is not None:
            self._lock.close()
            self._lock = None

    @property
    def name(self) -> str:
        """The stage's name."""
        return self.info("name") or self.path.stem

    def info(self, key: str) -> str:
        """What is kept about the stage under a key (``name``, ``event``, ``summary``); empty where nothing is."""
        rows = self._read("SELECT value FROM about WHERE key = ?", key)
        return str(rows[0][0]) if rows else ""

    def set_info(self, key: str, value: str) -> None:
        """Keeps something about the stage under a key.

        Raises
        ------
        UnusableProject
            It can't be kept.
        """
        with self._writing() as connection:
            connection.execute(
                "INSERT INTO about (key, value, clock) VALUES (?, ?, ?) "
                "ON CONFLICT (key) DO UPDATE SET value = excluded.value, clock = excluded.clock",
                (key, value, next_clock(connection)),
            )

    @property
    def last_entry(self) -> int:
        """The number of the last entry in the log, 0 without any."""
        return int(self._read("SELECT COALESCE(MAX(seq), 0) FROM log")[0][0])

    def copy_to(self, path: Path, *, name: str | None = None) -> None:
        """Writes a copy of the whole file, which has to be new; the stage may have another name in it.

        Raises
        ------
        UnusableProject
            There is a file of that name, or it can't be written.
        """
        if path.exists():
            raise UnusableProject("there is a file of this name already", mend="choose another name", where=path.name)
        fresh = part_of(path)
        try:
            other = sqlite3.connect(fresh)
            with closing(other):
                other.execute("PRAGMA journal_mode = MEMORY")
                self._connection.backup(other)
                if name is not None:
                    other.execute("UPDATE about SET value = ? WHERE key = 'name'", (name,))
                    other.commit()
            put_in_place(fresh, path)
        except (OSError, sqlite3.Error) as error:
            with suppress(OSError):
                fresh.unlink(missing_ok=True)
            raise UnusableProject(
                message("the copy can't be written ({0})", reason_of(error)), mend="make room or choose another folder", where=str(path)
            ) from None

    def merge(self, other: Project) -> Merged:
        """Takes in what another copy of this stage holds, all of it or nothing; the other stays as it is.

        Raises
        ------
        UnusableProject
            It is no copy of this stage, it is damaged, or this file can't be written; nothing was changed.
        """
        if self.info("id") != other.info("id"):
            raise UnusableProject(
                message("it is another stage than {0}, not a copy of it", self.name), mend="open it as a stage", where=other.path.name
            )
        with self._writing() as connection:
            return merge(connection, other._connection)

    def materials(self) -> list[SourceFile]:
        """Every file of the stage, as it came and whole, in the order in which they came.

        Raises
        ------
        UnusableProject
            One is damaged.
        """
        found = [self._kept(*row) for row in self._read("SELECT id, kind, name, sha256 FROM material ORDER BY id")]
        for material in found:
            material.content  # noqa: B018
        return found

    def material(self, number: int | None) -> SourceFile | None:
        """The file of a number, unpacked when it is wanted; ``None`` for ``None``.

        Raises
        ------
        UnusableProject
            It is not there.
        """
        if number is None:
            return None
        rows = self._read("SELECT id, kind, name, sha256 FROM material WHERE id = ?", number)
        if not rows:
            raise UnusableProject("a file that a pass needs is missing in it", mend="add that file again", where=self.path.name)
        return self._kept(*rows[0])

    def listed(self, kind: str) -> list[tuple[int, str]]:
        """Number and name of the files of one kind, in the order in which they came; nothing is unpacked for it."""
        rows = self._read("SELECT id, name FROM material WHERE kind = ? ORDER BY id", kind)
        return [(int(number), str(name)) for number, name in rows]

    def newest(self, kind: str) -> SourceFile | None:
        """The file of one kind that came last."""
        numbers = [number for number, _ in self.listed(kind)]
        return self.material(numbers[-1]) if numbers else None

    def _read(self, query: str, *values: object) -> list[tuple[Any, ...]]:
        """What a query finds.

        Raises
        ------
        UnusableProject
            The file is damaged there.
        """
        try:
            return self._connection.execute(query, values).fetchall()
        except (sqlite3.Error, OverflowError):
            raise UnusableProject(
                "a part of it is damaged", mend="open a copy of it, or add the files to a new stage", where=self.path.name
            ) from None

    def _kept(self, number: int, kind: str, name: str, sha256: str) -> SourceFile:
        """A file of the project, unpacked when it is wanted."""

        def content() -> bytes:
            (row, *_) = self._read("SELECT content FROM material WHERE id = ?", number)
            found = unpacked(row[0])
            if found is None or hashlib.sha256(found).hexdigest() != sha256:
                raise UnusableProject(message("{0} in it is damaged", name), mend="add that file again", where=self.path.name)
            return found

        return SourceFile(str(kind), str(name), content, int(number), str(sha256))

    def add(self, material: SourceFile) -> int:
        """Takes one more file in; returns its number."""
        with self._writing() as connection:
            return insert(connection, material)

    # Passes

    def passes(self) -> list[Pass]:
        """The passes in the order in which they were driven."""
        rows = self._read("SELECT id, body FROM pass ORDER BY clock, uid")
        found = [pass_from(int(number), body) for number, body in rows]
        return [p for p in found if p is not None]

    def add_pass(self, new: Pass, materials: Mapping[str, SourceFile] | None = None) -> Pass:
        """Takes a pass in, together with the files that came with it, by what they are to it (``run``, ``notes``, ``calls``, ``media``)."""
        with self._writing() as connection:
            numbers = {what: insert(connection, m) for what, m in (materials or {}).items()}
            (last,) = connection.execute("SELECT COALESCE(MAX(id), 0) FROM pass").fetchone()
            made = replace(new, id=int(last) + 1, **numbers)  # type: ignore[arg-type]
            insert_pass(connection, made)
        return made

    def set_pass(self, changed: Pass, materials: Mapping[str, SourceFile] | None = None) -> Pass:
        """Puts a pass as it is now, together with files that came for it. What it had before stays in the file."""
        with self._writing() as connection:
            numbers = {what: insert(connection, m) for what, m in (materials or {}).items()}
            made = replace(changed, **numbers)  # type: ignore[arg-type]
            connection.execute("UPDATE pass SET body = ? WHERE id = ?", (pass_text(made), made.id))
        return made

    @property
    def lost_passes(self) -> int:
        """How many passes can't be read; they stay in the file."""
        return sum(pass_from(int(number), body) is None for number, body in self._read("SELECT id, body FROM pass"))

    def entries(self, of_passes: Collection[int] | None = None) -> list[Entry]:
        """The log of decisions, of some passes or of all. An entry that can't be read is left out: what can be saved is opened."""
        return [e for e in self._log(of_passes) if e is not None]

    def _log(self, of_passes: Collection[int] | None = None) -> list[Entry | None]:
        rows = self._read("SELECT seq, pass, kind, body FROM log ORDER BY clock, uid, seq")
        return [entry_of(int(number), kind, body) for number, made_on, kind, body in rows if of_passes is None or made_on in of_passes]

    @property
    def lost_entries(self) -> int:
        """How many entries of the log can't be read."""
        return sum(entry is None for entry in self._log())

    @property
    def unknown_entries(self) -> int:
        """How many entries of the log are of a kind that only a newer program knows; they stay in the file."""
        return sum(entry is not None and entry.is_unknown for entry in self._log())

    def append(self, entry: Entry, of_pass: int) -> Entry:
        """Puts one entry, made on a pass, on the disk, and returns it with its number; it is there when this returns.

        Raises
        ------
        UnusableProject
            The file is read-only or the disk is full; nothing was changed.
        """
        with self._writing() as connection:
            row = (of_pass, entry.kind, entry_text(entry), new_uid(), next_clock(connection))
            cursor = connection.execute("INSERT INTO log (pass, kind, body, uid, clock) VALUES (?, ?, ?, ?, ?)", row)
        return replace(entry, number=int(cursor.lastrowid or 0))

    def append_all(self, entries: Sequence[Entry], of_pass: int) -> list[Entry]:
        """As :meth:`append`, all of them or none."""
        with self.together():
            return [self.append(entry, of_pass) for entry in entries]

    # Practice

    def add_practice(self, run: int | None, body: str) -> int:
        """Keeps something of a practised run, or begins one where ``run`` is ``None``; returns its number.

        Raises
        ------
        UnusableProject
            It can't be kept.
        """
        with self._writing() as connection:
            if run is None:
                (last,) = connection.execute("SELECT COALESCE(MAX(run), 0) FROM practice").fetchone()
                run = int(last) + 1
            uid = connection.execute("SELECT COALESCE(MAX(uid), ?) FROM practice WHERE run = ?", (new_uid(), run)).fetchone()[0]
            connection.execute("INSERT INTO practice (run, body, uid) VALUES (?, ?, ?)", (run, body, uid))
        return run

    def practised(self) -> list[tuple[int, str]]:
        """Everything that was kept of practised runs, with their numbers, in the order in which it came; what is damaged is left out."""
        rows = self._read("SELECT run, body FROM practice ORDER BY id")
        return [(run, body) for run, body in rows if isinstance(run, int) and isinstance(body, str)]

    def cached(self, key: str) -> bytes | None:
        """What was kept under a key, or ``None``."""
        try:
            row = self._connection.execute("SELECT body FROM cache WHERE key = ?", (key,)).fetchone()
        except sqlite3.DatabaseError:
            return None  # what can be worked out again may be damaged
        return bytes(row[0]) if row and isinstance(row[0], bytes) else None

    def keep(self, key: str, body: bytes) -> None:
        """Keeps something that can be worked out again; where it can't be kept, nothing is lost."""
        if self.read_only:
            return
        with self._writing() as connection:
            connection.execute(
                "INSERT INTO cache (key, body) VALUES (?, ?) ON CONFLICT (key) DO UPDATE SET body = excluded.body", (key, body)
            )

    @contextmanager
    def together(self) -> Iterator[None]:
        """Everything that is written inside is one transaction: all of it is kept, or nothing.

        Raises
        ------
        UnusableProject
            It can't be kept; nothing was changed.
        """
        with self._writing():
            yield

    @contextmanager
    def _writing(self) -> Iterator[sqlite3.Connection]:
        if self.read_only:
            raise UnusableProject(
                "it is open in another window, so nothing can be changed here",
                mend="close it there and open it again",
                where=self.path.name,
            )
        try:
            with self._turn, self._step():
                yield self._connection
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
            with transaction(self._connection):
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


__all__ = ["SUFFIX", "VERSION", "Project", "SourceFile", "UnusableProject"]
