"""What a project file holds, table by table: how each row is written and checked when it is read, and how old files are brought up to
date."""

from __future__ import annotations

import hashlib
import json
import re
import sqlite3
import zlib
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Literal

from mirkle.core.errors import MirkleError
from mirkle.core.messages import message
from mirkle.core.notebook.decisions import ENTRIES, Entry
from mirkle.core.notebook.passes import Pass
from mirkle.files.atomic_write import flush_folder, part_of
from mirkle.files.project.decision_rows import decision_of, row_of, row_of_format_4
from mirkle.files.project.records import from_json, to_json

APPLICATION_ID = 0x4D52_4B4C
VERSION = 5
# No file that was ever taken in is larger; today's are smaller (mirkle.files.detect.LARGEST_RUN_BYTES).
LARGEST_BYTES = 400_000_000
# A crew makes some hundred decisions on a stage; as many as this are read in two seconds.
MOST_ENTRIES = 50_000

SCHEMA = """
CREATE TABLE about (key TEXT PRIMARY KEY, value TEXT NOT NULL);
CREATE TABLE material (
    id INTEGER PRIMARY KEY, kind TEXT NOT NULL, name TEXT NOT NULL, sha256 TEXT NOT NULL, content BLOB NOT NULL
);
CREATE TABLE pass (id INTEGER PRIMARY KEY, body TEXT NOT NULL);
CREATE TABLE log (seq INTEGER PRIMARY KEY, pass INTEGER NOT NULL, kind TEXT NOT NULL, body TEXT NOT NULL);
CREATE TABLE practice (id INTEGER PRIMARY KEY, run INTEGER NOT NULL, body TEXT NOT NULL);
CREATE TABLE cache (key TEXT PRIMARY KEY, body BLOB NOT NULL);
"""
# The tables that older formats had not.
FRESH: dict[int, set[str]] = {1: {"pass", "practice"}, 2: {"practice"}}
TABLE = re.compile(r"CREATE TABLE (\w+)")
# What makes a table drop or change rows by itself.
ACTS = re.compile(r"\bON\s+(CONFLICT|DELETE|UPDATE)\b|\bGENERATED\b|\bAS\s*\(|\bCHECK\b|\bVIRTUAL\b|\bUNIQUE\b", re.IGNORECASE)


class UnusableProject(MirkleError):
    """A project file that is missing, damaged, another program's, newer, or can't be written."""


# The kinds of files that tell when and what was called: timed text, and call times that were found in the sound, that another program
# found there, or that somebody tapped.
CALL_KINDS = ("calls", "heard", "listened", "tapped")


def role_of(kind: str) -> str:
    """What a kind of file is to a pass: its ``calls``, whatever kind they are, else the kind itself."""
    return "calls" if kind in CALL_KINDS else kind


class SourceFile:
    """A file as it came: ``kind`` is ``notes``, ``run``, ``crew``, ``media``, ``by-hand`` or one of :data:`CALL_KINDS`; ``id`` is its
    number in the project, 0 outside of one.

    In a project its content is unpacked when it is first wanted: a saved stage opens without.
    """

    def __init__(self, kind: str, name: str, content: bytes | Callable[[], bytes], id: int = 0, sha256: str = "") -> None:
        self.kind, self.name, self.id = kind, name, id
        self._content, self._sha256 = content, sha256

    @property
    def role(self) -> str:
        """What it is to a pass, as :func:`role_of`."""
        return role_of(self.kind)

    @property
    def content(self) -> bytes:
        """The file's bytes.

        Raises
        ------
        UnusableProject
            They are damaged.
        """
        if not isinstance(self._content, bytes):
            self._content = self._content()
        return self._content

    @property
    def sha256(self) -> str:
        """The hash of the content, in hexadecimal figures."""
        self._sha256 = self._sha256 or hashlib.sha256(self.content).hexdigest()
        return self._sha256

    def __eq__(self, other: object) -> bool:
        return isinstance(other, SourceFile) and (self.kind, self.name, self.sha256) == (other.kind, other.name, other.sha256)

    def __hash__(self) -> int:
        return hash((self.kind, self.name, self.sha256))

    def __repr__(self) -> str:
        return f"SourceFile({self.kind!r}, {self.name!r}, id={self.id})"


def connected(path: Path, mode: Literal["ro", "rw"]) -> sqlite3.Connection:
    """A file as a database, for any thread; nothing in it is taken that is larger than a file may be, and a text that is none is read with
    its damaged letters replaced."""
    uri = f"{path.resolve().as_uri()}?mode={mode}"
    connection = sqlite3.connect(uri, uri=True, isolation_level=None, check_same_thread=False)
    connection.setlimit(sqlite3.SQLITE_LIMIT_LENGTH, LARGEST_BYTES)
    connection.text_factory = lambda text: text.decode("utf-8", "replace")
    return connection


@contextmanager
def transaction(connection: sqlite3.Connection) -> Iterator[None]:
    """All or nothing of what is written inside."""
    connection.execute("BEGIN IMMEDIATE")
    try:
        yield
        connection.execute("COMMIT")
    except BaseException:
        # On a full disk the transaction may be gone already: the reason is what is told, not that.
        with suppress(sqlite3.Error):
            connection.execute("ROLLBACK")
        raise


def insert(connection: sqlite3.Connection, material: SourceFile) -> int:
    """Puts a file in; returns its number."""
    cursor = connection.execute(
        "INSERT INTO material (kind, name, sha256, content) VALUES (?, ?, ?, ?)",
        (material.kind, material.name, material.sha256, zlib.compress(material.content, 6)),
    )
    assert cursor.lastrowid is not None
    return int(cursor.lastrowid)


def unpacked(packed: object) -> bytes | None:
    """What was packed, ``None`` where it is damaged or larger than any file that is taken in."""
    if not isinstance(packed, bytes):
        return None
    unpacker = zlib.decompressobj()
    try:
        content = unpacker.decompress(packed, LARGEST_BYTES)
    except zlib.error:
        return None
    return None if unpacker.unconsumed_tail else content


def entry_of(number: int, kind: object, body: object) -> Entry | None:
    """An entry of the log, ``None`` where it can't be read. One of a kind that only a newer program knows has nothing but its kind."""
    if not isinstance(kind, str) or not isinstance(body, str):
        return None
    if kind not in ENTRIES:
        return Entry(kind, number=number)
    try:
        data = json.loads(body) if body else {}
        of = data.pop("of", 0) if kind != "decide" else 0
        if type(of) is not int:
            return None
        decision = decision_of(data) if kind not in ("undo", "redo") else None
    except (AttributeError, TypeError, ValueError, RecursionError):
        return None
    return Entry(kind, decision, of=of, number=number)


def entry_text(entry: Entry) -> str:
    """What is kept of an entry besides its kind."""
    data = row_of(entry.decision) if entry.decision is not None else {}
    return json.dumps(data | ({"of": entry.of} if entry.of else {})) if data or entry.of else ""


def pass_text(made: Pass) -> str:
    """A pass as it is kept, without its number."""
    return json.dumps({name: value for name, value in to_json(made).items() if name != "id"})


def pass_from(number: int, body: object) -> Pass | None:
    """A pass as it was kept, ``None`` where it can't be read."""
    try:
        data = json.loads(body) if isinstance(body, str) else {}
        return from_json(Pass, data | {"id": number})
    except (TypeError, ValueError, RecursionError):
        return None


def make_passes(connection: sqlite3.Connection) -> None:
    """The passes of a stage whose files are all there: one a run, with the newest book; words and sound belong to the first."""
    rows = connection.execute("SELECT id, kind, name FROM material ORDER BY id").fetchall()
    newest = {role_of(kind): int(number) for number, kind, _ in rows}
    overrides = {name: int(number) for number, kind, name in rows if kind == "by-hand"}
    runs: list[tuple[int | None, str]] = [(int(number), name) for number, kind, name in rows if kind == "run"]
    # A stage without a recording has a pass, too: its book is there, and what was said.
    for i, (number, name) in enumerate(runs or [(None, "")]):
        made = Pass(
            i + 1,
            number,
            newest.get("notes"),
            newest.get("calls") if i == 0 or "notes" not in newest else None,
            newest.get("media") if i == 0 else None,
            overrides.get(f"{name}-by-hand.json"),
            "later" if i else "first",
        )
        connection.execute("INSERT INTO pass (id, body) VALUES (?, ?)", (made.id, pass_text(made)))


# Formats of older versions, which are brought up to date.
OLDER = (1, 2, 3, 4)


def version_of(path: Path) -> int | None:
    """The format of a file, ``None`` where it is no stage that is whole."""
    connection = connected(path, "ro")
    try:
        (application,) = connection.execute("PRAGMA application_id").fetchone()
        (version,) = connection.execute("PRAGMA user_version").fetchone()
        (health,) = connection.execute("PRAGMA quick_check(1)").fetchone()
    except sqlite3.DatabaseError:
        return None
    finally:
        connection.close()
    return int(version) if application == APPLICATION_ID and health == "ok" else None


def migrate(path: Path) -> None:
    """Brings an old file up to date on a copy, which then takes its place: stopped at any moment, one of the two is whole."""
    copy = part_of(path)
    try:
        old = connected(path, "ro")
        new = sqlite3.connect(copy, isolation_level=None)
        # Stopped half-way the copy is thrown away: a journal beside it would only outlive it.
        new.execute("PRAGMA journal_mode = MEMORY")
        new.execute("PRAGMA synchronous = FULL")
        old.backup(new)
        old.close()
        with transaction(new):
            _bring_up_to_date(new)
        new.close()
        copy.replace(path)
        flush_folder(path.parent)
    except (OSError, sqlite3.Error) as error:
        with suppress(OSError):
            copy.unlink(missing_ok=True)
        raise UnusableProject(
            message("it is of an older Mirkle and can't be brought up to date there ({0})", reason_of(error)),
            mend="copy it to a folder with room",
            where=path.name,
        ) from None


def in_memory(connection: sqlite3.Connection) -> sqlite3.Connection:
    """An old file that can't be written, brought up to date in memory; the connection given is closed."""
    fresh = sqlite3.connect(":memory:", isolation_level=None, check_same_thread=False)
    connection.backup(fresh)
    connection.close()
    with transaction(fresh):
        _bring_up_to_date(fresh)
    return fresh


def _bring_up_to_date(connection: sqlite3.Connection) -> None:
    """From format 1: passes were runs, all with the newest book, and every decision was on it. Format 2 knew no practice, and no answers
    by eye, which an older program would take for damage. Format 3 knew decisions by metres and numbers of notes alone: they get their
    places when their pass is opened (:class:`mirkle.session.decision_book.Book`), for which a review is needed. Format 4 had one record for
    every kind of decision, and one kind for timed text and call times."""
    version = connection.execute("PRAGMA user_version").fetchone()[0]
    if version == 1:
        _from_1(connection)
    if version < 3:
        connection.execute("CREATE TABLE practice (id INTEGER PRIMARY KEY, run INTEGER NOT NULL, body TEXT NOT NULL)")
    _from_4(connection)
    _name_call_times(connection)
    connection.execute(f"PRAGMA user_version = {VERSION}")


def _from_4(connection: sqlite3.Connection) -> None:
    """Writes every decision by its type; a row that can't be read stays as it is."""
    rows = connection.execute("SELECT seq, body FROM log WHERE kind IN ('decide', 'anchor')").fetchall()
    for number, body in rows:
        with suppress(AttributeError, KeyError, TypeError, ValueError, RecursionError):
            data = json.loads(body)
            of = {"of": data.pop("of")} if "of" in data else {}
            row = row_of_format_4(data)
            decision_of(row)
            connection.execute("UPDATE log SET body = ? WHERE seq = ?", (json.dumps(row | of), number))


def _name_call_times(connection: sqlite3.Connection) -> None:
    """Call times from a sound were kept as calls, and known by how they begin."""
    from mirkle.files.speech.call_files import kind_of_calls

    for number, packed in connection.execute("SELECT id, content FROM material WHERE kind = 'calls'").fetchall():
        kind = kind_of_calls((unpacked(packed) or b"")[:300].decode("utf-8", "replace"))
        if kind in ("heard", "listened"):
            connection.execute("UPDATE material SET kind = ? WHERE id = ?", (kind, number))


def _from_1(connection: sqlite3.Connection) -> None:
    connection.execute("CREATE TABLE pass (id INTEGER PRIMARY KEY, body TEXT NOT NULL)")
    make_passes(connection)
    connection.execute("ALTER TABLE log RENAME TO log_of_1")
    connection.execute("CREATE TABLE log (seq INTEGER PRIMARY KEY, pass INTEGER NOT NULL, kind TEXT NOT NULL, body TEXT NOT NULL)")
    connection.execute("INSERT INTO log (seq, pass, kind, body) SELECT seq, 1, kind, body FROM log_of_1")
    connection.execute("DROP TABLE log_of_1")


def reason_of(error: Exception) -> str:
    """Why something could not be written, in a few words."""
    return str(getattr(error, "strerror", None) or error)
