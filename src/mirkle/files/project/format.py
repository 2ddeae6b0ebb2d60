"""What a project file holds, table by table: how each row is written, and checked when it is read.

Rows have numbers in their file, and identities that are the same in every copy of it (``uid``): by them two copies that were worked on
apart are merged (:mod:`mirkle.files.project.merge`). ``clock`` counts what was written, and goes on from the highest count that a copy
has seen (a logical clock; Lamport 1978), so that all copies put the same entries in the same order.
"""

from __future__ import annotations

import hashlib
import json
import re
import secrets
import sqlite3
import zlib
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Literal

from mirkle.core.errors import MirkleError
from mirkle.core.notebook.decisions import ENTRIES, Entry
from mirkle.core.notebook.passes import Pass
from mirkle.files.project.decision_rows import decision_of, row_of
from mirkle.files.project.records import from_json, to_json

APPLICATION_ID = 0x4D52_4B4C
VERSION = 6
# No file that was ever taken in is larger; today's are smaller (mirkle.files.detect.LARGEST_RUN_BYTES).
LARGEST_BYTES = 400_000_000
# A crew makes some hundred decisions on a stage; as many as this are read in two seconds.
MOST_ENTRIES = 50_000

SCHEMA = """
CREATE TABLE about (key TEXT PRIMARY KEY, value TEXT NOT NULL, clock INTEGER NOT NULL DEFAULT 0);
CREATE TABLE material (
    id INTEGER PRIMARY KEY, kind TEXT NOT NULL, name TEXT NOT NULL, sha256 TEXT NOT NULL, content BLOB NOT NULL
);
CREATE TABLE pass (
    id INTEGER PRIMARY KEY, body TEXT NOT NULL, uid TEXT NOT NULL DEFAULT '', clock INTEGER NOT NULL DEFAULT 0
);
CREATE TABLE log (
    seq INTEGER PRIMARY KEY, pass INTEGER NOT NULL, kind TEXT NOT NULL, body TEXT NOT NULL,
    uid TEXT NOT NULL DEFAULT '', clock INTEGER NOT NULL DEFAULT 0
);
CREATE TABLE practice (id INTEGER PRIMARY KEY, run INTEGER NOT NULL, body TEXT NOT NULL, uid TEXT NOT NULL DEFAULT '');
CREATE TABLE cache (key TEXT PRIMARY KEY, body BLOB NOT NULL);
"""
# The tables that older formats had not.
FRESH: dict[int, set[str]] = {1: {"pass", "practice"}, 2: {"practice"}}
TABLE = re.compile(r"CREATE TABLE (\w+)")
# The tables whose rows are counted by the logical clock.
CLOCKED = ("log", "pass", "about")
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
        of, against = (data.pop(name, 0) if kind != "decide" else 0 for name in ("of", "against"))
        if type(of) is not int or type(against) is not int:
            return None
        decision = decision_of(data) if kind in ("decide", "anchor") else None
    except (AttributeError, TypeError, ValueError, RecursionError):
        return None
    return Entry(kind, decision, of=of, against=against, number=number)


def entry_text(entry: Entry) -> str:
    """What is kept of an entry besides its kind."""
    data = row_of(entry.decision) if entry.decision is not None else {}
    data |= {name: number for name, number in (("of", entry.of), ("against", entry.against)) if number}
    return json.dumps(data) if data else ""


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


def new_uid() -> str:
    """A new identity; no two programs make the same."""
    return secrets.token_hex(8)


def uid_from(*parts: object) -> str:
    """An identity made from what a row holds: the same wherever it is worked out."""
    return hashlib.sha256("\0".join(map(str, parts)).encode()).hexdigest()[:16]


def next_clock(connection: sqlite3.Connection) -> int:
    """The count of what is written next."""
    counts = (connection.execute(f"SELECT COALESCE(MAX(clock), 0) FROM {table}").fetchone()[0] for table in CLOCKED)
    return int(max(counts)) + 1


def insert_pass(connection: sqlite3.Connection, made: Pass) -> None:
    """Puts a new pass in."""
    row = (made.id, pass_text(made), new_uid(), next_clock(connection))
    connection.execute("INSERT INTO pass (id, body, uid, clock) VALUES (?, ?, ?, ?)", row)


def first_passes(connection: sqlite3.Connection) -> list[Pass]:
    """The passes of a stage whose files are all there: one a run, with the newest book; words and sound belong to the first."""
    rows = connection.execute("SELECT id, kind, name FROM material ORDER BY id").fetchall()
    newest = {role_of(kind): int(number) for number, kind, _ in rows}
    overrides = {name: int(number) for number, kind, name in rows if kind == "by-hand"}
    runs: list[tuple[int | None, str]] = [(int(number), name) for number, kind, name in rows if kind == "run"]
    # A stage without a recording has a pass, too: its book is there, and what was said.
    return [
        Pass(
            i + 1,
            number,
            newest.get("notes"),
            newest.get("calls") if i == 0 or "notes" not in newest else None,
            newest.get("media") if i == 0 else None,
            overrides.get(f"{name}-by-hand.json"),
            "later" if i else "first",
        )
        for i, (number, name) in enumerate(runs or [(None, "")])
    ]


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


def reason_of(error: Exception) -> str:
    """Why something could not be written, in a few words."""
    return str(getattr(error, "strerror", None) or error)
