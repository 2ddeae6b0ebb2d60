"""Stages whose files were damaged or forged, row by row and byte by byte; what a program has to do with each, and what it may cost."""

from __future__ import annotations

import json
import os
import random
import resource
import shutil
import sqlite3
import time
import traceback
import zlib
from collections.abc import Callable
from contextlib import closing, suppress
from dataclasses import replace
from pathlib import Path

import numpy as np

from mirkle.core.errors import MirkleError
from mirkle.core.judging.parts import Part
from mirkle.core.notebook.passes import Pass
from mirkle.core.overrides import hand_parts
from mirkle.core.progress import silent
from mirkle.files.audio.media import media_path
from mirkle.files.project.project import Project, SourceFile
from mirkle.session.change_review import follow
from mirkle.session.editions import editions
from mirkle.session.open_files import opened
from mirkle.session.rehearsal import history
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.shelf import shelved
from mirkle.session.stage_summary import keep_summary
from tests.core.test_passes import winding
from tests.worlds import csv_of, recording_of_curvature

# What one file may cost: seconds of CPU and bytes of memory.
MOST_CPU_S, MOST_BYTES = 20.0, 1_000_000_000
NOTES = "L4 150\nR2 150\nL6 150\nR1 150\nL3 150\nR5 to finish\n"
DEEP = "[" * 100_000 + "]" * 100_000
NASTY_TEXTS = (
    "",
    "null",
    "[]",
    "{}",
    "3",
    '"x"',
    "NaN",
    "Infinity",
    "{" * 50,
    DEEP,
    '{"a":' * 5000,
    "9" * 400,
    '{"finding": 1}',
    '{"of": "x"}',
    '{"run": "x"}',
    '{"run": 99999, "notes": 99999}',
    '{"length_m": 1e999, "passes": 1}',
    '{"length_m": ' + "9" * 400 + ', "log": 1}',
    '{"lines_a_page": -5, "begins": [1e300]}',
    '{"lines_a_page": 1' + "0" * 30 + ', "begins": []}',
    '{"begins": null, "lines_a_page": "x"}',
    "\x00\x01",
    "é" * 3000,
    "x" * 2_000_000,
    '{"path": 3}',
    '{"path": "/dev/zero", "bytes": 0}',
    '{"path": "shipped:../../../../etc/passwd"}',
    '{"start_s": "x"}',
    '{"parts": [[]]}',
    '{"parts": [{"from_s": 1e400, "to_s": 2, "reason": 3}]}',
    '{"pins": {"note": 1}}',
    '{"when": 1e999, "pace": -1}',
    '{"change": {}, "verdict": []}',
)
NASTY = (None, 0, -1, 2**62, 1.5, float("inf"), b"", b"\x78\x9c", os.urandom(500), zlib.compress(b"x" * 2_000_000))


def good_stage(path: Path) -> Path:
    """A short stage with everything in it that a crew can put there."""
    road = winding((60.0, 80), (-30.0, 100), (150.0, 45), (-12.0, 150), (45.0, 60), (-80.0, 70))
    runs = [SourceFile("run", f"run-{i}.csv", csv_of(recording_of_curvature(road, seed=i)).encode()) for i in (4, 5)]
    project = Project.create(path, [SourceFile("notes", "notes.txt", NOTES.encode()), *runs[:1]], name="Short")
    project.add_pass(Pass(0, None, 1, kind="later"), {"run": runs[1]})
    project.set_pass(project.passes()[0], {"media": SourceFile("media", "in-car.opus", b'{"path": "/nowhere", "bytes": 3}')})
    stage = ReviewedPass.of_project(project)
    for finding in stage.findings[:3]:
        stage.book.answer(finding, "talk")
    stage.choose_note(2)
    stage.mark("L5 150")
    stage.book.road.add("hazard", 300.0, 320.0, "stones")
    stage.set_overrides(replace(stage.overrides, parts=hand_parts([Part(100.0, 200.0, "dust")], stage.review.profile)))
    stage = ReviewedPass.of_project(project)
    run = project.add_practice(None, json.dumps({"when": "now", "way": "read", "pace": 1.0, "both": True, "notes": 1}))
    project.add_practice(run, json.dumps({"change": "x", "verdict": "in-time"}))
    project.set_info("pages", json.dumps({"lines_a_page": 3, "begins": []}))
    keep_summary(stage)
    project.close()
    return path


def harmed(chance: random.Random, path: Path) -> str:
    """Damages a stage's file in one way; returns which."""
    how = chance.choice((_a_row, _a_row, _a_row, _a_row, _bytes, _schema, _json, _json, _cache))
    return how(chance, path)


def _sql(path: Path, work: Callable[[sqlite3.Connection], str]) -> str:
    with closing(sqlite3.connect(path)) as connection:
        told = work(connection)
        connection.commit()
    return told


COLUMNS = {
    "about": ("key", "value"),
    "material": ("kind", "name", "sha256", "content"),
    "pass": ("id", "body"),
    "log": ("seq", "pass", "kind", "body"),
    "practice": ("run", "body"),
    "cache": ("key", "body"),
}


def _a_row(chance: random.Random, path: Path) -> str:
    """One field of one row holds something else."""

    def work(connection: sqlite3.Connection) -> str:
        table = chance.choice(list(COLUMNS))
        column = chance.choice(COLUMNS[table])
        value = chance.choice((*NASTY, *NASTY_TEXTS))
        rows = [r for (r,) in connection.execute(f"SELECT rowid FROM {table}")]
        with suppress(sqlite3.IntegrityError, OverflowError):
            connection.execute(f"UPDATE OR IGNORE {table} SET {column} = ? WHERE rowid = ?", (value, chance.choice(rows)))
        return f"{table}.{column} = {value!r:.60}"

    return _sql(path, work)


def _json(chance: random.Random, path: Path) -> str:
    """One value in the JSON of one row is something else, or is not there."""

    def work(connection: sqlite3.Connection) -> str:
        table, key, column = chance.choice(
            [("pass", "id", "body"), ("log", "seq", "body"), ("about", "rowid", "value"), ("practice", "id", "body")]
        )
        rows = [(n, b) for n, b in connection.execute(f"SELECT {key}, {column} FROM {table}") if str(b).startswith("{")]
        if not rows:
            return "nothing"
        number, body = chance.choice(rows)
        told = json.loads(body)
        name = chance.choice(list(told))
        nasty = chance.choice((None, -1, 10**30, 1e308, float("nan"), float("inf"), "", "x" * 300, [], {}, [[[]]], True, "9" * 400))
        if chance.random() < 0.2:
            del told[name]
        else:
            told[name] = nasty
        connection.execute(f"UPDATE {table} SET {column} = ? WHERE {key} = ?", (json.dumps(told), number))
        return f"{table} {name} = {nasty!r:.60}"

    return _sql(path, work)


def _bytes(chance: random.Random, path: Path) -> str:
    """Bytes are others, are missing, or are there twice."""
    content = bytearray(path.read_bytes())
    at = chance.randrange(len(content))
    what = chance.randrange(4)
    if what == 0:
        del content[at:]
    elif what == 1:
        for _ in range(chance.randint(1, 40)):
            content[chance.randrange(len(content))] = chance.randrange(256)
    elif what == 2:
        content[at : at + 4096] = bytes(4096)
    else:
        content[at:at] = content[at : at + chance.randint(1, 9000)]
    path.write_bytes(content)
    return f"bytes {what} at {at}"


ENDLESS = "WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n) SELECT 'name', i FROM n"
SCHEMAS = (
    "DROP TABLE log",
    "DROP TABLE about",
    "DROP TABLE pass",
    "DROP TABLE cache",
    "ALTER TABLE log ADD COLUMN mood TEXT",
    f"DROP TABLE about; CREATE VIEW about (key, value) AS {ENDLESS}",
    f"DROP TABLE log; CREATE VIEW log (seq, pass, kind, body) AS SELECT i, 1, 'decide', '' FROM ({ENDLESS.replace(chr(39) + 'name' + chr(39) + ', i', 'i')})",
    "CREATE TRIGGER t AFTER INSERT ON log BEGIN DELETE FROM log; END",
    "DROP TABLE log; CREATE TABLE log (seq INTEGER PRIMARY KEY ON CONFLICT IGNORE, pass INTEGER UNIQUE ON CONFLICT IGNORE, kind TEXT, body TEXT)",
    "CREATE UNIQUE INDEX one ON about (value)",
    "PRAGMA user_version = 1",
    "PRAGMA user_version = 2",
    "PRAGMA user_version = 3",
    "PRAGMA user_version = 99",
    "PRAGMA application_id = 7",
    "DELETE FROM material",
    "DELETE FROM pass",
    "UPDATE pass SET id = id + 1000000",
)


def _schema(chance: random.Random, path: Path) -> str:
    """The tables are others than ours."""
    statements = chance.choice(SCHEMAS)

    def work(connection: sqlite3.Connection) -> str:
        connection.executescript(statements)
        return statements[:60]

    return _sql(path, work)


def _cache(chance: random.Random, path: Path) -> str:
    """What is kept of a review is cut, changed, or a bomb."""

    def work(connection: sqlite3.Connection) -> str:
        for key, body in connection.execute("SELECT key, body FROM cache").fetchall():
            content = bytearray(body)
            what = chance.randrange(4)
            if what == 0:
                del content[chance.randrange(len(content)) :]
            elif what == 1:
                for _ in range(chance.randint(1, 200)):
                    content[chance.randrange(len(content))] = chance.randrange(256)
            elif what == 2:
                content[:] = b"PK\x05\x06" + bytes(18)
            else:
                content[:] = _packed(DEEP.encode())
            connection.execute("UPDATE cache SET body = ? WHERE key = ?", (bytes(content), key))
        return "cache"

    return _sql(path, work)


def _packed(tree: bytes) -> bytes:
    import io

    file = io.BytesIO()
    np.savez(file, tree=np.frombuffer(tree, np.uint8))
    return file.getvalue()


def used(path: Path) -> str:
    """Does with a stage what a crew does; returns what was said where it can't be opened, "" where it was."""
    shelved(path)
    try:
        found = opened(path, silent)
    except MirkleError as fault:
        if "\n" in fault.sentence:
            raise ValueError("more than one line") from fault
        return fault.sentence
    if not isinstance(found, ReviewedPass):
        return "begun"
    with closing(found.project):
        faults = []
        for work in (
            lambda: (found.book.decisions, found.book.road.additions, found.book.history, found.book.without_place),
            lambda: found.book.edition.text,
            lambda: history(found),
            lambda: editions(found),
            lambda: (found.project.lost_entries, found.project.lost_passes, found.project.unknown_entries),
            lambda: [media_path(m) for p in found.project.passes() if (m := found.project.material(p.media)) is not None],
            lambda: found.book.road.add("hazard", 10.0, 20.0, "mud"),
            lambda: found.undo(),
            lambda: keep_summary(found),
            lambda: follow(found.project),
        ):
            try:
                work()
            except MirkleError as fault:
                faults.append(fault.sentence)
        return " ".join(faults)


def tried(good: Path, folder: Path, seed: int) -> str | None:
    """Damages a copy of a good stage and uses it; returns what went wrong, ``None`` where nothing did."""
    chance = random.Random(seed)
    path = Path(shutil.copy(good, folder / f"harmed-{seed}.mirkle"))
    how = harmed(chance, path)
    began = time.process_time()
    try:
        used(path)
    except Exception:
        return f"{seed}, {how}:\n{traceback.format_exc(limit=-3)}"
    finally:
        for left in folder.glob(f"*harmed-{seed}.mirkle*"):
            left.unlink()
    took_s, peak = time.process_time() - began, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss * 1024
    if took_s > MOST_CPU_S or peak > MOST_BYTES:
        return f"{seed}, {how}: {took_s:.1f} s of CPU, {peak / 1e6:.0f} MB"
    return None
