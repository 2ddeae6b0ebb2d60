"""The project file ``.mirkle``: an SQLite database with the material as it came, the passes, and every decision as it was taken.

Each write is one transaction that is on the disk when the call returns, so that killing the program loses nothing.
The log of decisions only grows. Who opens a file first may write; later ones read.
"""

from __future__ import annotations

import hashlib
import sqlite3
from collections.abc import Callable, Collection, Mapping, Sequence
from contextlib import AbstractContextManager, closing, suppress
from dataclasses import replace
from pathlib import Path

from mirkle.core.messages import message
from mirkle.core.notebook.decisions import Entry
from mirkle.core.notebook.passes import Pass
from mirkle.files.atomic_write import part_of, put_in_place
from mirkle.files.project.format import (
    APPLICATION_ID,
    SCHEMA,
    VERSION,
    SourceFile,
    UnusableProject,
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
)
from mirkle.files.project.held_file import HeldFile
from mirkle.files.project.merge import Merged, merge

SUFFIX = ".mirkle"


class Project:
    """An open project file. ``read_only`` where somebody else has it open or the folder can't be written."""

    def __init__(self, file: HeldFile) -> None:
        self.path, self._file = file.path, file

    @property
    def read_only(self) -> bool:
        """Whether decisions can't be kept in this file now."""
        return self._file.read_only

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
                _begin(connection, materials, name)
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
        return cls(HeldFile.opened(path, only_read=only_read))

    def close(self) -> None:
        """Lets the file go."""
        self._file.close()

    @property
    def name(self) -> str:
        """The stage's name."""
        return self.info("name") or self.path.stem

    def info(self, key: str) -> str:
        """What is kept about the stage under a key (``name``, ``event``, ``summary``); empty where nothing is."""
        rows = self._file.read("SELECT value FROM about WHERE key = ?", key)
        return str(rows[0][0]) if rows else ""

    def set_info(self, key: str, value: str) -> None:
        """Keeps something about the stage under a key.

        Raises
        ------
        UnusableProject
            It can't be kept.
        """
        with self._file.writing() as connection:
            connection.execute(
                "INSERT INTO about (key, value, clock) VALUES (?, ?, ?) "
                "ON CONFLICT (key) DO UPDATE SET value = excluded.value, clock = excluded.clock",
                (key, value, next_clock(connection)),
            )

    @property
    def last_entry(self) -> int:
        """The number of the last entry in the log, 0 without any."""
        return int(self._file.read("SELECT COALESCE(MAX(seq), 0) FROM log")[0][0])

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
                self._file.connection.backup(other)
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
        with self._file.writing() as connection:
            return merge(connection, other._file.connection)

    def materials(self) -> list[SourceFile]:
        """Every file of the stage, as it came and whole, in the order in which they came.

        Raises
        ------
        UnusableProject
            One is damaged.
        """
        found = [self._kept(*row) for row in self._file.read("SELECT id, kind, name, sha256 FROM material ORDER BY id")]
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
        rows = self._file.read("SELECT id, kind, name, sha256 FROM material WHERE id = ?", number)
        if not rows:
            raise UnusableProject("a file that a pass needs is missing in it", mend="add that file again", where=self.path.name)
        return self._kept(*rows[0])

    def listed(self, kind: str) -> list[tuple[int, str]]:
        """Number and name of the files of one kind, in the order in which they came; nothing is unpacked for it."""
        rows = self._file.read("SELECT id, name FROM material WHERE kind = ? ORDER BY id", kind)
        return [(int(number), str(name)) for number, name in rows]

    def newest(self, kind: str) -> SourceFile | None:
        """The file of one kind that came last."""
        numbers = [number for number, _ in self.listed(kind)]
        return self.material(numbers[-1]) if numbers else None

    def _kept(self, number: int, kind: str, name: str, sha256: str) -> SourceFile:
        """A file of the project, unpacked when it is wanted."""

        def content() -> bytes:
            (row, *_) = self._file.read("SELECT content FROM material WHERE id = ?", number)
            found = unpacked(row[0])
            if found is None or hashlib.sha256(found).hexdigest() != sha256:
                raise UnusableProject(message("{0} in it is damaged", name), mend="add that file again", where=self.path.name)
            return found

        return SourceFile(str(kind), str(name), content, int(number), str(sha256))

    def add(self, material: SourceFile) -> int:
        """Takes one more file in; returns its number."""
        with self._file.writing() as connection:
            return insert(connection, material)

    # Passes

    def passes(self) -> list[Pass]:
        """The passes in the order in which they were driven."""
        rows = self._file.read("SELECT id, body FROM pass ORDER BY clock, uid")
        found = [pass_from(int(number), body) for number, body in rows]
        return [p for p in found if p is not None]

    def add_pass(self, new: Pass, materials: Mapping[str, SourceFile] | None = None) -> Pass:
        """Takes a pass in, together with the files that came with it, by what they are to it (``run``, ``notes``, ``calls``, ``media``)."""
        with self._file.writing() as connection:
            numbers = {what: insert(connection, m) for what, m in (materials or {}).items()}
            (last,) = connection.execute("SELECT COALESCE(MAX(id), 0) FROM pass").fetchone()
            made = replace(new, id=int(last) + 1, **numbers)  # type: ignore[arg-type]
            insert_pass(connection, made)
        return made

    def set_pass(self, changed: Pass, materials: Mapping[str, SourceFile] | None = None) -> Pass:
        """Puts a pass as it is now, together with files that came for it. What it had before stays in the file."""
        with self._file.writing() as connection:
            numbers = {what: insert(connection, m) for what, m in (materials or {}).items()}
            made = replace(changed, **numbers)  # type: ignore[arg-type]
            connection.execute("UPDATE pass SET body = ? WHERE id = ?", (pass_text(made), made.id))
        return made

    @property
    def lost_passes(self) -> int:
        """How many passes can't be read; they stay in the file."""
        return sum(pass_from(int(number), body) is None for number, body in self._file.read("SELECT id, body FROM pass"))

    def entries(self, of_passes: Collection[int] | None = None) -> list[Entry]:
        """The log of decisions, of some passes or of all. An entry that can't be read is left out: what can be saved is opened."""
        return [e for e in self._log(of_passes) if e is not None]

    def _log(self, of_passes: Collection[int] | None = None) -> list[Entry | None]:
        rows = self._file.read("SELECT seq, pass, kind, body FROM log ORDER BY clock, uid, seq")
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
        with self._file.writing() as connection:
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
        with self._file.writing() as connection:
            if run is None:
                (last,) = connection.execute("SELECT COALESCE(MAX(run), 0) FROM practice").fetchone()
                run = int(last) + 1
            uid = connection.execute("SELECT COALESCE(MAX(uid), ?) FROM practice WHERE run = ?", (new_uid(), run)).fetchone()[0]
            connection.execute("INSERT INTO practice (run, body, uid) VALUES (?, ?, ?)", (run, body, uid))
        return run

    def practised(self) -> list[tuple[int, str]]:
        """Everything that was kept of practised runs, with their numbers, in the order in which it came; what is damaged is left out."""
        rows = self._file.read("SELECT run, body FROM practice ORDER BY id")
        return [(run, body) for run, body in rows if isinstance(run, int) and isinstance(body, str)]

    def cached(self, key: str) -> bytes | None:
        """What was kept under a key, or ``None``."""
        try:
            row = self._file.connection.execute("SELECT body FROM cache WHERE key = ?", (key,)).fetchone()
        except sqlite3.DatabaseError:
            return None  # what can be worked out again may be damaged
        return bytes(row[0]) if row and isinstance(row[0], bytes) else None

    def keep(self, key: str, body: bytes) -> None:
        """Keeps something that can be worked out again; where it can't be kept, nothing is lost."""
        if self.read_only:
            return
        with self._file.writing() as connection:
            connection.execute("INSERT OR REPLACE INTO cache (key, body) VALUES (?, ?)", (key, body))

    def together(self) -> AbstractContextManager[object]:
        """Everything that is written inside is one transaction: all of it is kept, or nothing.

        Raises
        ------
        UnusableProject
            It can't be kept; nothing was changed.
        """
        return self._file.writing()


def _begin(connection: sqlite3.Connection, materials: Sequence[SourceFile], name: str) -> None:
    """Puts the tables, the marks of the format and the first material into an empty file."""
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


__all__ = ["SUFFIX", "VERSION", "Project", "SourceFile", "UnusableProject"]
