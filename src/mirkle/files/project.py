"""The project file ``.mirkle``: an SQLite database with the material as it came and every decision as it was taken.

Each write is one transaction that is on the disk when the call returns, so that killing the program loses nothing.
The log of decisions only grows. Who opens a file first may write; later ones read.
"""

from __future__ import annotations

import fcntl
import hashlib
import json
import sqlite3
import threading
import zlib
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import IO

from mirkle.core.book.decisions import Decision, Entry
from mirkle.core.clauses import clause
from mirkle.core.errors import MirkleError

APPLICATION_ID = 0x4D52_4B4C
VERSION = 1
SUFFIX = ".mirkle"

_SCHEMA = """
CREATE TABLE about (key TEXT PRIMARY KEY, value TEXT NOT NULL);
CREATE TABLE material (
    id INTEGER PRIMARY KEY, kind TEXT NOT NULL, name TEXT NOT NULL, sha256 TEXT NOT NULL, content BLOB NOT NULL
);
CREATE TABLE log (seq INTEGER PRIMARY KEY, kind TEXT NOT NULL, body TEXT NOT NULL);
CREATE TABLE cache (key TEXT PRIMARY KEY, body BLOB NOT NULL);
"""


class UnusableProject(MirkleError):
    """A project file that is missing, damaged, another program's, newer, or can't be written."""


@dataclass(frozen=True)
class Material:
    """A file as it came: ``kind`` is ``notes`` or ``run``."""

    kind: str
    name: str
    content: bytes


class Project:
    """An open project file. ``read_only`` where somebody else has it open or the folder can't be written."""

    def __init__(self, path: Path, connection: sqlite3.Connection, lock: IO[bytes] | None) -> None:
        self.path = path
        self._connection, self._lock = connection, lock
        # A pass may be reviewed beside the window: one transaction at a time.
        self._turn = threading.Lock()

    @property
    def read_only(self) -> bool:
        """Whether decisions can't be kept in this file now."""
        return self._lock is None

    @classmethod
    def create(cls, path: Path, materials: list[Material], *, name: str) -> Project:
        """A new project file with its material; an existing file of that name is left alone.

        Raises
        ------
        UnusableProject
            There is a file already, or it can't be written.
        """
        if path.exists():
            raise UnusableProject("there is a file of this name already", mend="choose another name", where=path.name)
        fresh = path.with_name(path.name + ".new")
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            fresh.unlink(missing_ok=True)
            connection = sqlite3.connect(fresh, isolation_level=None)
            with _transaction(connection):
                # executescript would end the transaction: the schema, the material and the marks are one.
                for statement in _SCHEMA.split(";"):
                    connection.execute(statement)
                connection.execute(f"PRAGMA application_id = {APPLICATION_ID}")
                connection.execute(f"PRAGMA user_version = {VERSION}")
                connection.execute("INSERT INTO about VALUES ('name', ?)", (name,))
                for material in materials:
                    _insert(connection, material)
            connection.close()
            fresh.rename(path)
        except (OSError, sqlite3.Error) as error:
            raise UnusableProject(
                clause("the project can't be written there ({0})", _reason(error)),
                mend="choose another folder",
                where=str(path),
            ) from None
        return cls.open(path)

    @classmethod
    def open(cls, path: Path) -> Project:
        """An existing project file.

        Raises
        ------
        UnusableProject
            It is missing, damaged, another program's, or written by a newer version.
        """
        if not path.is_file():
            raise UnusableProject("there is no such file", mend="check its name and folder", where=str(path))
        lock = _locked(path)
        mode = "rw" if lock else "ro"
        connection = sqlite3.connect(
            f"{path.resolve().as_uri()}?mode={mode}", uri=True, isolation_level=None, check_same_thread=False
        )
        try:
            connection.execute("PRAGMA synchronous = FULL")
            (application,) = connection.execute("PRAGMA application_id").fetchone()
            (version,) = connection.execute("PRAGMA user_version").fetchone()
            (health,) = connection.execute("PRAGMA quick_check(1)").fetchone()
            fault = _fault(path, application, version, health)
        except sqlite3.DatabaseError:
            fault = UnusableProject("it is damaged or not a Mirkle stage", mend="open a copy of it", where=path.name)
        if fault is not None:
            connection.close()
            if lock is not None:
                lock.close()
            raise fault
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
        row = self._connection.execute("SELECT value FROM about WHERE key = 'name'").fetchone()
        return str(row[0]) if row else self.path.stem

    def materials(self) -> list[Material]:
        """Every file of the stage, as it came, in the order in which they came."""
        rows = self._connection.execute("SELECT kind, name, sha256, content FROM material ORDER BY id")
        return [self._material(*row) for row in rows]

    def names(self, kind: str) -> list[str]:
        """The names of the files of one kind, in the order in which they came; nothing is unpacked for it."""
        rows = self._connection.execute("SELECT name FROM material WHERE kind = ? ORDER BY id", (kind,))
        return [str(name) for (name,) in rows]

    def newest(self, kind: str) -> Material | None:
        """The file of one kind that came last."""
        row = self._connection.execute(
            "SELECT kind, name, sha256, content FROM material WHERE kind = ? ORDER BY id DESC LIMIT 1", (kind,)
        ).fetchone()
        return self._material(*row) if row else None

    def _material(self, kind: str, name: str, sha256: str, packed: bytes) -> Material:
        content = zlib.decompress(packed)
        if hashlib.sha256(content).hexdigest() != sha256:
            raise UnusableProject(
                clause("{0} in it is damaged", name), mend="add that file again", where=self.path.name
            )
        return Material(kind, name, content)

    def add(self, material: Material) -> None:
        """Takes one more file in."""
        with self._writing() as connection:
            _insert(connection, material)

    def entries(self) -> list[Entry]:
        """The whole log of decisions."""
        rows = self._connection.execute("SELECT kind, body FROM log ORDER BY seq")
        return [Entry(kind, Decision(**json.loads(body)) if body else None) for kind, body in rows]

    def append(self, entry: Entry) -> None:
        """Puts one entry on the disk; it is there when this returns.

        Raises
        ------
        UnusableProject
            The file is read-only or the disk is full; nothing was changed.
        """
        body = json.dumps(asdict(entry.decision)) if entry.decision else ""
        with self._writing() as connection:
            connection.execute("INSERT INTO log (kind, body) VALUES (?, ?)", (entry.kind, body))

    def cached(self, key: str) -> bytes | None:
        """What was kept under a key, or ``None``."""
        row = self._connection.execute("SELECT body FROM cache WHERE key = ?", (key,)).fetchone()
        return bytes(row[0]) if row else None

    def keep(self, key: str, body: bytes) -> None:
        """Keeps something that can be worked out again; where it can't be kept, nothing is lost."""
        if self.read_only:
            return
        with self._writing() as connection:
            connection.execute("INSERT OR REPLACE INTO cache VALUES (?, ?)", (key, body))

    @contextmanager
    def _writing(self) -> Iterator[sqlite3.Connection]:
        if self.read_only:
            raise UnusableProject(
                "it is open in another window, so nothing can be changed here", mend="close it there and open it again",
                where=self.path.name,
            )  # fmt: skip
        try:
            with self._turn, _transaction(self._connection):
                yield self._connection
        except sqlite3.Error as error:
            raise UnusableProject(
                clause("it can't be written ({0}); nothing was changed", _reason(error)), mend="make room or free the folder",
                where=self.path.name,
            ) from None  # fmt: skip


@contextmanager
def _transaction(connection: sqlite3.Connection) -> Iterator[None]:
    connection.execute("BEGIN IMMEDIATE")
    try:
        yield
    except BaseException:
        connection.execute("ROLLBACK")
        raise
    connection.execute("COMMIT")


def _insert(connection: sqlite3.Connection, material: Material) -> None:
    connection.execute(
        "INSERT INTO material (kind, name, sha256, content) VALUES (?, ?, ?, ?)",
        (
            material.kind,
            material.name,
            hashlib.sha256(material.content).hexdigest(),
            zlib.compress(material.content, 6),
        ),
    )


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
            clause("it was written by a newer Mirkle (format {0}; this one knows {1})", version, VERSION),
            mend="open it with the newer Mirkle", where=path.name,
        )  # fmt: skip
    if health != "ok":
        return UnusableProject("it is damaged", mend="open a copy of it", where=path.name)
    return None


def _reason(error: Exception) -> str:
    return str(getattr(error, "strerror", None) or error)
