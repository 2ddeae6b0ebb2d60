"""Two copies of a stage are worked on at random and merged in one direction or the other, again and again: nothing may be lost, and both
have to end with the same.

    python bench/merges.py [--merges 1000] [--seed 1]
"""

from __future__ import annotations

import argparse
import random
import shutil
import sqlite3
import sys
import tempfile
import time
from contextlib import closing
from dataclasses import replace
from pathlib import Path

from mirkle.core.notebook.decisions import (
    Addition,
    CopyTick,
    Decision,
    Entry,
    FindingAnswer,
    Ledger,
    NoteChange,
    NotePlace,
    PassChange,
    RoadPlace,
)
from mirkle.core.notebook.passes import Pass
from mirkle.files.project.project import Project, SourceFile

# How many notes the made-up book has, and how many things are done between two merges at most.
NOTES, MOST_ACTIONS = 12, 6
# Merges after which a new pair of copies is begun: a stage lives through about as many.
MERGES_A_STAGE = 10


def place(note: int) -> NotePlace:
    return NotePlace(note, note, f"R{note} 50", note * 6)


def act(project: Project, chance: random.Random, done: set[str]) -> None:
    """One thing that a crew does; the identities of what was acknowledged go to ``done``."""
    passes = project.passes()
    on = chance.choice(passes).id
    ledger = Ledger.of(project.entries())
    action = chance.choices(("decide", "undo", "redo", "pass", "set pass", "name", "practice"), (10, 3, 2, 0.4, 1, 0.5, 1))[0]
    if action in ("undo", "redo"):
        numbers = ledger.done if action == "undo" else ledger.undone
        if numbers:
            project.append(Entry(action, of=numbers[-1]), on)
    elif action == "pass":
        name = f"run-{chance.getrandbits(30)}.csv"
        made = project.add_pass(Pass(0, None, passes[0].notes, kind="later"), {"run": SourceFile("run", name, name.encode())})
        done.add(f"pass {name} {made.kind}")
    elif action == "set pass":
        before = next(p for p in passes if p.id == on)
        after = project.set_pass(replace(before, day=f"day {chance.getrandbits(20)}"))
        project.append(Entry("decide", PassChange(key=f"pass-{on}", before=before, after=after)), on)
        done.add(f"change {after.day}")
    elif action == "name":
        project.set_info("event", f"Event {chance.getrandbits(20)}")
    elif action == "practice":
        body = f"practised {chance.getrandbits(30)}"
        project.add_practice(None, body)
        done.add(body)
    else:
        project.append(Entry("decide", decision(chance, on, ledger)), on)
        done.add(f"decision {last_key_and_words(project)}")


def last_key_and_words(project: Project) -> str:
    return words_of(max(project.entries(), key=lambda e: e.number).decision)


def words_of(decision: Decision | None) -> str:
    """What makes a decision recognisable whatever its numbers are: each gets a remark that no other has."""
    return decision.remark if decision is not None else ""


def decision(chance: random.Random, on: int, ledger: Ledger) -> Decision:
    note, remark = chance.randrange(NOTES), f"said {chance.getrandbits(40)}"
    kind = chance.choice(("grade", "length"))
    road = RoadPlace(on, note * 100.0, note * 100.0 + 40.0, note * 5.0, note * 5.0 + 2.0)
    standing = [ledger.decisions[n] for n in ledger.standing.values()]
    before = [d for d in standing if isinstance(d, NoteChange | FindingAnswer) and d.notes == place(note) and d.finding_kind == kind]
    key = before[-1].key if before else f"{chance.getrandbits(48):012x}"
    made: Decision = chance.choice(
        (
            NoteChange(key=key, notes=place(note), road=road, text=f"R{chance.randrange(1, 7)} 50", finding_kind=kind, remark=remark),
            FindingAnswer(key=key, notes=place(note), road=road, answer=chance.choice(("keep", "talk")), finding_kind=kind, remark=remark),
            Addition(key=f"{chance.getrandbits(48):012x}", road=road, kind="hazard", words="stones", remark=remark),
            CopyTick(key=f"{chance.getrandbits(48):012x}", notes=place(note), copied=True, text="R4", remark=remark),
        )
    )
    return made


def state(project: Project) -> tuple[object, ...]:
    """All that a copy holds, without the numbers that rows have in this file."""
    with closing(sqlite3.connect(f"file:{project.path}?mode=ro", uri=True)) as connection:
        uids = dict(connection.execute("SELECT seq, uid FROM log"))
        log = connection.execute("SELECT kind, uid, clock FROM log ORDER BY clock, uid").fetchall()
        practice = sorted(connection.execute("SELECT uid, body FROM practice"))
        about = sorted(connection.execute("SELECT key, value FROM about WHERE key != 'summary'"))
    ledger = Ledger.of(project.entries())
    files = {m.id: m.name for m in project.materials()}
    passes = [(p.day, p.kind, *(files.get(n or 0) for n in (p.run, p.notes))) for p in project.passes()]
    order = {p.id: i for i, p in enumerate(project.passes())}
    standing = [
        (uids[n], words_of(d := ledger.decisions[n]), order.get(d.road.of_pass) if d.road else None) for n in ledger.standing.values()
    ]
    conflicts = [(uids[a], uids[b]) for a, b in ledger.open_conflicts]
    undone = [uids[n] for n in ledger.undone]
    return log, practice, about, sorted(files.values()), passes, standing, conflicts, undone


def held(project: Project) -> set[str]:
    """What was acknowledged and is still in a copy, decided or taken back."""
    files = {m.id: m.name for m in project.materials()}
    found = {f"pass {files[p.run]} {p.kind}" for p in project.passes() if p.run is not None}
    for entry in project.entries():
        if isinstance(entry.decision, PassChange):
            found.add(f"change {entry.decision.after.day}")
        elif entry.decision is not None:
            found.add(f"decision {words_of(entry.decision)}")
    return found | {body for _, body in project.practised()}


def stage(folder: Path, chance: random.Random, merges: int) -> tuple[int, int, int]:
    """Works on two copies of one stage with ``merges`` merges; how much was lost, how often the copies differed, and open conflicts."""
    book = SourceFile("notes", "slatehook.txt", b"R4 50")
    runs = [SourceFile("run", f"pass-{i}.csv", f"{i}".encode()) for i in range(2)]
    original = Project.create(folder / "a.mirkle", [book, *runs], name="Slatehook")
    done: set[str] = set()
    for _ in range(chance.randrange(4)):
        act(original, chance, done)
    original.close()
    shutil.copy(folder / "a.mirkle", folder / "b.mirkle")
    copies = [Project.open(folder / f"{name}.mirkle") for name in "ab"]
    lost = differ = 0
    for _ in range(merges):
        for project in copies:
            for _ in range(chance.randrange(MOST_ACTIONS)):
                act(project, chance, done)
        into = chance.randrange(2)
        if chance.random() < 0.5:
            # Both take in what the other was before: neither knows what the other made of it.
            for i, project in enumerate(copies):
                shutil.copy(project.path, folder / f"before-{i}.mirkle")
            for i, project in enumerate(copies):
                with closing(Project.open(folder / f"before-{1 - i}.mirkle", only_read=True)) as before:
                    project.merge(before)
        else:
            copies[into].merge(copies[1 - into])
            lost += len(done - held(copies[into]))
            copies[1 - into].merge(copies[into])
        lost += sum(len(done - held(project)) for project in copies)
        differ += state(copies[0]) != state(copies[1])
    conflicts = len(Ledger.of(copies[0].entries()).open_conflicts)
    for project in copies:
        project.close()
    return lost, differ, conflicts


def main() -> int:
    arguments = argparse.ArgumentParser(description=__doc__)
    arguments.add_argument("--merges", type=int, default=1000)
    arguments.add_argument("--seed", type=int, default=1)
    asked = arguments.parse_args()
    began = time.monotonic()
    totals = [0, 0, 0]
    for i in range(-(-asked.merges // MERGES_A_STAGE)):
        with tempfile.TemporaryDirectory() as folder:
            counts = stage(Path(folder), random.Random(f"{asked.seed}-{i}"), min(MERGES_A_STAGE, asked.merges))
        totals = [a + b for a, b in zip(totals, counts, strict=True)]
    lost, differ, conflicts = totals
    print(
        f"{asked.merges} merges in {time.monotonic() - began:.0f} s: {lost} lost, {differ} copies differ, {conflicts} conflicts left to people"
    )
    return 1 if lost or differ else 0


if __name__ == "__main__":
    sys.exit(main())
