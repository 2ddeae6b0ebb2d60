"""Project files of older formats, brought up to date on a copy that then takes the file's place, or in memory."""

from __future__ import annotations

import json
import sqlite3
from contextlib import suppress
from dataclasses import replace
from pathlib import Path

from mirkle.core.messages import message
from mirkle.core.notebook.decisions import Ledger
from mirkle.files.atomic_write import flush_folder, part_of
from mirkle.files.project.decision_rows import decision_of, row_of_format_4
from mirkle.files.project.format import (
    CLOCKED,
    VERSION,
    UnusableProject,
    connected,
    entry_of,
    entry_text,
    first_passes,
    pass_from,
    pass_text,
    reason_of,
    transaction,
    uid_from,
    unpacked,
)

# Formats of older versions, which are brought up to date.
OLDER = (1, 2, 3, 4, 5)


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
    places when their pass is opened (:class:`mirkle.session.decision_book.DecisionBook`), for which a review is needed. Format 4 had one
    record for every kind of decision, and one kind for timed text and call times. Format 5 had numbers and no identities."""
    version = connection.execute("PRAGMA user_version").fetchone()[0]
    if version == 1:
        _from_1(connection)
    if version < 3:
        connection.execute("CREATE TABLE practice (id INTEGER PRIMARY KEY, run INTEGER NOT NULL, body TEXT NOT NULL)")
    if version < 5:
        _from_4(connection)
        _name_call_times(connection)
    _add_identities(connection)
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
    for made in first_passes(connection):
        connection.execute("INSERT INTO pass (id, body) VALUES (?, ?)", (made.id, pass_text(made)))
    connection.execute("ALTER TABLE log RENAME TO log_of_1")
    connection.execute("CREATE TABLE log (seq INTEGER PRIMARY KEY, pass INTEGER NOT NULL, kind TEXT NOT NULL, body TEXT NOT NULL)")
    connection.execute("INSERT INTO log (seq, pass, kind, body) SELECT seq, 1, kind, body FROM log_of_1")
    connection.execute("DROP TABLE log_of_1")


def _add_identities(connection: sqlite3.Connection) -> None:
    """Gives every row an identity made from what it holds: two copies of one old file, brought up to date apart, get the same ones."""
    for table in ("pass", "log", "practice"):
        _add_column(connection, table, "uid TEXT NOT NULL DEFAULT ''")
    for table in CLOCKED:
        _add_column(connection, table, "clock INTEGER NOT NULL DEFAULT 0")
    hashes = dict(connection.execute("SELECT id, sha256 FROM material"))
    for number, body in connection.execute("SELECT id, body FROM pass").fetchall():
        made = pass_from(number, body)
        run = hashes.get(made.run if made is not None else None, "")
        connection.execute("UPDATE pass SET uid = ?, clock = id WHERE id = ?", (uid_from("pass", number, run), number))
    _add_identities_of_entries(connection)
    firsts = connection.execute("SELECT run, body FROM practice GROUP BY run HAVING id = MIN(id)").fetchall()
    for run, body in firsts:
        connection.execute("UPDATE practice SET uid = ? WHERE run = ?", (uid_from("practice", run, body), run))
    connection.execute("INSERT OR IGNORE INTO about (key, value) VALUES ('id', ?)", (uid_from("stage", *list(hashes.values())[:2]),))


def _add_column(connection: sqlite3.Connection, table: str, column: str) -> None:
    names = {name for _, name, *_ in connection.execute(f"PRAGMA table_info({table})")}
    if column.split()[0] not in names:
        connection.execute(f"ALTER TABLE {table} ADD COLUMN {column}")


def _add_identities_of_entries(connection: sqlite3.Connection) -> None:
    """An undo or redo of format 1 and 2 meant the last decision: it gets the number of the one that was the last then."""
    ledger = Ledger()
    for number, made_on, kind, body in connection.execute("SELECT seq, pass, kind, body FROM log ORDER BY seq").fetchall():
        entry = entry_of(number, kind, body)
        if entry is not None:
            if kind in ("undo", "redo") and not entry.of:
                entry = replace(entry, of=(*(ledger.done if kind == "undo" else ledger.undone), 0)[-2:][0])
                connection.execute("UPDATE log SET body = ? WHERE seq = ?", (entry_text(entry), number))
            ledger.apply(entry)
        uid = uid_from("log", number, made_on, kind, body)
        connection.execute("UPDATE log SET uid = ?, clock = seq WHERE seq = ?", (uid, number))
