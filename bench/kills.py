"""Kills a writer of a project file at random moments, and looks whether anything that it said was kept is lost.

    python bench/kills.py [--kills N]

The writer decides, takes in passes with their files, changes what belongs to a pass, keeps reviews, and brings old files up to date.
"""

from __future__ import annotations

import argparse
import hashlib
import json
import os
import random
import signal
import sqlite3
import subprocess
import sys
import tempfile
import time
import zlib
from pathlib import Path

from mirkle.files.project import Material, Project
from mirkle.files.project_format import APPLICATION_ID

WRITER = """
import sys
from pathlib import Path
from mirkle.core.book.decisions import Decision, Entry
from mirkle.files.project import Material, Pass, Project
print("began", flush=True)
project = Project.open(Path(sys.argv[1]))
n = len(project.entries())
while True:
    project.append(Entry("decide", Decision(f"f{n}", "keep")), 1)
    print("decided", n, flush=True)
    n += 1
    if n % 7 == 0:
        made = project.add_pass(Pass(0, None, 1, kind="later"), {"run": Material("run", f"r{n}.csv", bytes(20000))})
        print("pass", made.id, flush=True)
        made = project.set_pass(made, {"by_hand": Material("by-hand", "b.json", b"{}")})
        print("set", made.id, flush=True)
    if n % 5 == 0:
        project.keep(f"k{n % 3}", bytes(300000))
"""


def old_file(path: Path, decisions: int) -> None:
    """A stage of the first format."""
    connection = sqlite3.connect(path)
    connection.executescript(f"""
        CREATE TABLE about (key TEXT PRIMARY KEY, value TEXT NOT NULL);
        CREATE TABLE material (id INTEGER PRIMARY KEY, kind TEXT NOT NULL, name TEXT NOT NULL, sha256 TEXT NOT NULL, content BLOB NOT NULL);
        CREATE TABLE log (seq INTEGER PRIMARY KEY, kind TEXT NOT NULL, body TEXT NOT NULL);
        CREATE TABLE cache (key TEXT PRIMARY KEY, body BLOB NOT NULL);
        PRAGMA application_id = {APPLICATION_ID};
        PRAGMA user_version = 1;
    """)
    for kind, name, content in (("notes", "n.txt", b"L4 80"), ("run", "r.csv", bytes(4_000_000))):
        row = (kind, name, hashlib.sha256(content).hexdigest(), zlib.compress(content, 0))
        connection.execute("INSERT INTO material (kind, name, sha256, content) VALUES (?, ?, ?, ?)", row)
    for n in range(decisions):
        body = json.dumps({"finding": f"f{n}", "answer": "keep"})
        connection.execute("INSERT INTO log (kind, body) VALUES ('decide', ?)", (body,))
    connection.commit()
    connection.close()


def main() -> int:
    """Prints how many kills there were and what was lost."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--kills", type=int, default=200)
    kills = options.parse_args().kills
    chance, lost, migrating = random.Random(11), 0, 0
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "stage.mirkle"
        for number in range(kills):
            if number % 2:
                path.unlink(missing_ok=True)
                old_file(path, 300)
            else:
                path.unlink(missing_ok=True)
                Project.create(
                    path, [Material("notes", "n.txt", b"L4 80"), Material("run", "r.csv", b"x")], name="s"
                ).close()
            # An old file is brought up to date within some tens of milliseconds.
            kept, amid = survived(path, chance, within_s=0.05 if number % 2 else 0.2, of_old=bool(number % 2))
            lost, migrating = lost + (not kept), migrating + amid
    print(f"{kills} kills, {migrating} of them while an old file was brought up to date: {lost} lost something")
    return 1 if lost else 0


def survived(path: Path, chance: random.Random, *, within_s: float, of_old: bool) -> tuple[bool, bool]:
    """Whether all that a killed writer had said is in the file, and whether it was killed while an old file was brought up to date."""
    writer = subprocess.Popen([sys.executable, "-c", WRITER, str(path)], stdout=subprocess.PIPE, text=True)
    assert writer.stdout is not None
    writer.stdout.readline()
    time.sleep(chance.uniform(0.0, within_s))
    os.kill(writer.pid, signal.SIGKILL)
    told = [line.split() for line in writer.stdout.read().split("\n")[:-1]]
    writer.wait()
    amid = path.with_name(path.name + ".migrating").exists()
    project = Project.open(path)
    kept = {e.decision.finding for e in project.entries() if e.decision}
    passes = {p.id: p for p in project.passes()}
    for p in passes.values():
        project.material(p.run)
        project.material(p.by_hand)
    project.close()
    for what, *number in told:
        if what == "decided" and f"f{number[0]}" not in kept:
            return False, amid
        if what == "pass" and int(number[0]) not in passes:
            return False, amid
        if what == "set" and passes[int(number[0])].by_hand is None:
            return False, amid
    return len(kept) >= 300 if of_old else True, amid


if __name__ == "__main__":
    sys.exit(main())
