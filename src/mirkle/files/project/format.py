"""What a project file holds, table by table: how each row is written and checked when it is read, and how old files are brought up to
date."""

from __future__ import annotations

import hashlib
import json
import re
import sqlite3
import zlib
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager, suppress
from dataclasses import asdict, dataclass, field, fields
from math import isfinite
from pathlib import Path
from typing import Any, Literal

from mirkle.core.errors import MirkleError
from mirkle.core.messages import clause
from mirkle.core.notebook.decisions import ENTRIES, Decision, Entry, in_todays_form
from mirkle.files.atomic_write import flush_folder, part_of

APPLICATION_ID = 0x4D52_4B4C
VERSION = 4
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
ACTS = re.compile(
    r"\bON\s+(CONFLICT|DELETE|UPDATE)\b|\bGENERATED\b|\bAS\s*\(|\bCHECK\b|\bVIRTUAL\b|\bUNIQUE\b", re.IGNORECASE
)


class UnusableProject(MirkleError):
    """A project file that is missing, damaged, another program's, newer, or can't be written."""


class SourceFile:
    """A file as it came: ``kind`` is ``notes``, ``run``, ``calls``, ``crew``, ``media`` or ``by-hand``; ``id`` is its number in the
    project, 0 outside of one.

    In a project its content is unpacked when it is first wanted: a saved stage opens without.
    """

    def __init__(
        self, kind: str, name: str, content: bytes | Callable[[], bytes], id: int = 0, sha256: str = ""
    ) -> None:
        self.kind, self.name, self.id = kind, name, id
        self._content, self._sha256 = content, sha256

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
        return isinstance(other, SourceFile) and (self.kind, self.name, self.sha256) == (
            other.kind,
            other.name,
            other.sha256,
        )

    def __hash__(self) -> int:
        return hash((self.kind, self.name, self.sha256))

    def __repr__(self) -> str:
        return f"SourceFile({self.kind!r}, {self.name!r}, id={self.id})"


@dataclass(frozen=True)
class Pass:
    """One drive of the stage: what was recorded of it, and which edition of the book was read; all are numbers of material, ``None``
    where there is none.

    ``kind`` is ``reconnaissance``, ``first`` or ``later``; ``day`` is free text, such as a date. ``extra`` holds keys that a newer program
    wrote: they are written back as they came.
    """

    id: int
    run: int | None
    notes: int | None
    calls: int | None = None
    media: int | None = None
    by_hand: int | None = None
    kind: str = "first"
    day: str = ""
    extra: Mapping[str, Any] = field(default_factory=dict, hash=False)


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
        told = json.loads(body) if body else {}
        of = told.pop("of", 0) if kind != "decide" else 0
        if type(of) is not int:
            return None
        if kind in ("undo", "redo"):
            return Entry(kind, of=of, number=number)
        decision = _decision_of(told)
    except (AttributeError, TypeError, ValueError, RecursionError):
        return None
    return Entry(kind, decision, of=of, number=number) if decision is not None else None


def entry_text(entry: Entry) -> str:
    """What is kept of an entry besides its kind."""
    told = _decision_told(entry.decision) if entry.decision is not None else {}
    return json.dumps(told | ({"of": entry.of} if entry.of else {})) if told or entry.of else ""


_DECISION = {f.name: f for f in fields(Decision) if f.name != "extra"}
_KINDS: dict[str, tuple[type, ...]] = {
    "str": (str,), "int": (int,), "float": (int, float), "float | None": (int, float, type(None)),
}  # fmt: skip
# What each field of a decision may hold.
_MAY_HOLD = {name: _KINDS[str(f.type)] for name, f in _DECISION.items()}


def _decision_of(told: dict[str, Any]) -> Decision | None:
    """A decision as it was kept, ``None`` where something in it is of the wrong kind."""
    known: dict[str, Any] = {}
    extra: dict[str, Any] = {}
    for name, value in told.items():
        if name not in _MAY_HOLD:
            extra[name] = value
        elif not isinstance(value, _MAY_HOLD[name]) or (isinstance(value, float) and not isfinite(value)):
            return None
        else:
            known[name] = value
    return in_todays_form(Decision(**known, extra=extra))


def _decision_told(decision: Decision) -> dict[str, Any]:
    """A decision as it is kept: what differs from what it would be anyway, and what a newer program wrote."""
    own = {
        name: value
        for name, f in _DECISION.items()
        if (value := getattr(decision, name)) != f.default or name in ("finding", "answer")
    }
    return dict(decision.extra) | own


def pass_text(made: Pass) -> str:
    """A pass as it is kept, without its number."""
    own = {name: value for name, value in asdict(made).items() if name not in ("id", "extra")}
    return json.dumps(dict(made.extra) | own)


_PASS = {f.name for f in fields(Pass)} - {"id", "extra"}


def pass_from(number: int, body: object) -> Pass | None:
    """A pass as it was kept, ``None`` where it can't be read."""
    try:
        told = json.loads(body) if isinstance(body, str) else None
        if not isinstance(told, dict):
            return None
        known = {name: value for name, value in told.items() if name in _PASS}
        made = Pass(number, **known, extra={name: value for name, value in told.items() if name not in _PASS})
    except (TypeError, ValueError, RecursionError):
        return None
    numbers = (made.run, made.notes, made.calls, made.media, made.by_hand)
    texts = (made.kind, made.day)
    fits = all(n is None or type(n) is int for n in numbers) and all(isinstance(t, str) for t in texts)
    return made if fits else None


def make_passes(connection: sqlite3.Connection) -> None:
    """The passes of a stage whose files are all there: one a run, with the newest book; words and sound belong to the first."""
    rows = connection.execute("SELECT id, kind, name FROM material ORDER BY id").fetchall()
    newest = {kind: int(number) for number, kind, _ in rows}
    by_hand = {name: int(number) for number, kind, name in rows if kind == "by-hand"}
    runs: list[tuple[int | None, str]] = [(int(number), name) for number, kind, name in rows if kind == "run"]
    # A stage without a recording has a pass, too: its book is there, and what was said.
    for i, (number, name) in enumerate(runs or [(None, "")]):
        made = Pass(
            i + 1, number, newest.get("notes"), newest.get("calls") if i == 0 or "notes" not in newest else None,
            newest.get("media") if i == 0 else None, by_hand.get(f"{name}-by-hand.json"), "later" if i else "first",
        )  # fmt: skip
        connection.execute("INSERT INTO pass (id, body) VALUES (?, ?)", (made.id, pass_text(made)))


# Formats of older versions, which are brought up to date.
OLDER = (1, 2, 3)


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
            clause("it is of an older Mirkle and can't be brought up to date there ({0})", reason_of(error)),
            mend="copy it to a folder with room", where=path.name,
        ) from None  # fmt: skip


def in_memory(connection: sqlite3.Connection) -> sqlite3.Connection:
    """An old file that can\'t be written, brought up to date in memory; the connection given is closed."""
    fresh = sqlite3.connect(":memory:", isolation_level=None, check_same_thread=False)
    connection.backup(fresh)
    connection.close()
    with transaction(fresh):
        _bring_up_to_date(fresh)
    return fresh


def _bring_up_to_date(connection: sqlite3.Connection) -> None:
    """From format 1: passes were runs, all with the newest book, and every decision was on it. Format 2 knew no practice, and no answers
    by eye, which an older program would take for damage. Format 3 knew decisions by metres and numbers of notes alone: they get their
    places when their pass is opened (:class:`mirkle.session.decision_book.Book`), for which a review is needed."""
    version = connection.execute("PRAGMA user_version").fetchone()[0]
    if version == 1:
        _from_1(connection)
    if version < 3:
        connection.execute("CREATE TABLE practice (id INTEGER PRIMARY KEY, run INTEGER NOT NULL, body TEXT NOT NULL)")
    connection.execute(f"PRAGMA user_version = {VERSION}")


def _from_1(connection: sqlite3.Connection) -> None:
    connection.execute("CREATE TABLE pass (id INTEGER PRIMARY KEY, body TEXT NOT NULL)")
    make_passes(connection)
    connection.execute("ALTER TABLE log RENAME TO log_of_1")
    connection.execute(
        "CREATE TABLE log (seq INTEGER PRIMARY KEY, pass INTEGER NOT NULL, kind TEXT NOT NULL, body TEXT NOT NULL)"
    )
    connection.execute("INSERT INTO log (seq, pass, kind, body) SELECT seq, 1, kind, body FROM log_of_1")
    connection.execute("DROP TABLE log_of_1")


def reason_of(error: Exception) -> str:
    """Why something could not be written, in a few words."""
    return str(getattr(error, "strerror", None) or error)
