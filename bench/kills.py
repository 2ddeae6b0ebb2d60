"""Kills the program at random moments of everything that it writes, and looks whether anything is lost or half there.

    python bench/kills.py [--kills N] [--first SEED]

Each round starts a writer as a separate process, kills it, and opens what it left: what it had said was kept has to be there, every file
has to be whole, and what was half-written has to be gone after the next start.
"""

from __future__ import annotations

import argparse
import os
import random
import shutil
import signal
import sqlite3
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Callable
from contextlib import closing
from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.core.notebook.decisions import PassChange
from mirkle.files.project.project import Project
from mirkle.files.rally_file import read_rally

sys.path.insert(0, str(Path(__file__).parents[1]))
from tests.session.harmed_projects import good_stage

BEGIN = """
import itertools, json, os, sys
from pathlib import Path
from mirkle.core.notebook.decisions import Entry, FindingAnswer
from mirkle.core.progress import silent
from mirkle.core.notebook.passes import Pass
from mirkle.files.project.project import Project, SourceFile
from mirkle.session import draft, recent_stages, settings
path = Path(sys.argv[1])
def say(*what):
    print(*what, flush=True)
"""
# Each writer does one thing over and over, and says what is kept as soon as it is.
WRITERS = {
    "decide": """
project = Project.open(path)
say("began")
for n in itertools.count():
    say("kept", project.append(Entry("decide", FindingAnswer(key=f"keep@{n}x", answer="keep")), 1).number)
""",
    "undo": """
from mirkle.session.reviewed_pass import ReviewedPass
stage = ReviewedPass.of_project(Project.open(path))
say("began")
for n in itertools.count():
    stage.book.road.add("hazard", 100.0, 110.0, f"stones {n}")
    say("there", f"stones {n}")
    if n % 3 == 0:
        stage.undo()
        say("gone", f"stones {n}")
""",
    "passes": """
project = Project.open(path)
run = project.material(2).content
say("began")
for n in itertools.count():
    made = project.add_pass(Pass(0, None, 1, kind="later"), {"run": SourceFile("run", f"r{n}.csv", run)})
    say("pass", made.id)
    project.set_pass(made, {"overrides": SourceFile("by-hand", "b.json", b"{}")})
    say("set", made.id)
    project.keep(f"k{n % 3}", bytes(300000))
""",
    "by hand": """
from dataclasses import replace
from mirkle.session.reviewed_pass import ReviewedPass
stage = ReviewedPass.of_project(Project.open(path))
say("began")
for n in itertools.count():
    stage.set_overrides(replace(stage.overrides, finish_s=20.0 + n))
    say("finish", 20.0 + n)
    if n % 2:
        stage.undo()
        say("finish", 20.0 + n - 1)
""",
    "import": """
from mirkle.session.open_files import put_together
from mirkle.session.described_files import described
run = Project.open(path)
notes, csv = run.material(1).content, run.material(2).content
run.close()
say("began")
for n in itertools.count():
    found = [described(SourceFile("notes", f"stage {n} brook.txt", notes)), described(SourceFile("run", "r.csv", csv))]
    stage = put_together(found, silent).stage
    say("stage", stage.project.path)
    stage.project.close()
""",
    "take in": """
from mirkle.session.assign_files import intake_of, take_in_all
from mirkle.session.described_files import described
from mirkle.session.reviewed_pass import ReviewedPass
stage = ReviewedPass.of_project(Project.open(path))
say("began")
for n in itertools.count():
    words = f"WEBVTT\\n\\n00:0{n % 10}.000 --> 00:09.900\\nleft 4 150 right 2 150 {n}\\n"
    asked = intake_of(stage, [described(SourceFile("calls", f"c{n}.vtt", words.encode()))])
    take_in_all(stage, asked.with_choice(0, "1"))
    say("calls", f"c{n}.vtt")
""",
    "merge": """
copy = path.with_name("copy")
mine = Project.open(path)
mine.copy_to(copy)
run = mine.material(2).content
other = Project.open(copy)
say("began")
for n in itertools.count():
    other.append(Entry("decide", FindingAnswer(key=f"there@{n}x", answer="keep", remark=f"there {n}")), 1)
    other.add_pass(Pass(0, None, 1, kind="later"), {"run": SourceFile("run", f"there-{n}.csv", run + b"\\n" * n)})
    mine.append(Entry("decide", FindingAnswer(key=f"here@{n}x", answer="talk", remark=f"here {n}")), 1)
    say("merged", f"here {n}")
    mine.merge(other)
    say("merged", f"there {n}")
""",
    "rally": """
from datetime import datetime, timedelta
from mirkle.core.rally.itinerary import Item
from mirkle.files.rally_file import RallyFile, keep_rally
rally = RallyFile.new("Isle")
file = path.with_name("isle.mirkle-rally")
say("began")
for n in itertools.count():
    items = [*rally.itinerary, Item("stage", f"S{n}", datetime(2040, 1, 1) + timedelta(minutes=n))]
    rally = keep_rally(file, rally.with_itinerary(items))
    say("item", f"S{n}")
""",
    "migrate": """
say("began")
for n in itertools.count():
    old = path.with_name(f"old-{n}.mirkle")
    half = path.with_name("half")
    half.write_bytes(path.with_name("old").read_bytes())
    half.rename(old)
    Project.open(old).close()
    say("migrated", old)
""",
    "export": """
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.export import write_export
stage = ReviewedPass.of_project(Project.open(path))
target = path.with_name("taken.txt")
say("began")
for n in itertools.count():
    stage.choose_note(0)
    stage.mark(f"L{1 + n % 3} 150", by="both")
    write_export(stage, target)
    say("export", stage.book.edition.text.splitlines()[0])
""",
    "copy": """
from mirkle.session import shelf
say("began")
for n in itertools.count():
    say("stage", shelf.copy(path))
""",
    "settings": """
say("began")
for n in itertools.count():
    settings.keep_setting(f"s{n % 5}", n)
    say("setting", n)
    if n % 7 == 0:
        draft.keep_typed_draft(f"R5 80 {n}\\n" * 200)
        say("draft", n)
""",
}


def main() -> int:
    """Prints how many kills there were and what was lost."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--kills", type=int, default=1000)
    options.add_argument("--first", type=int, default=0)
    told = options.parse_args()
    tally: Counter[str] = Counter()
    faults: list[str] = []
    with tempfile.TemporaryDirectory() as folder:
        base = Path(folder)
        os.environ["XDG_DATA_HOME"], os.environ["XDG_CONFIG_HOME"] = str(base / "data"), str(base / "config")
        good = good_stage(base / "good.mirkle")
        old = base / "old"
        shutil.copy(good, old)
        with closing(sqlite3.connect(old)) as connection:
            connection.executescript("DROP TABLE practice; DELETE FROM log; PRAGMA user_version = 2")
        for seed in range(told.first, told.first + told.kills):
            what = list(WRITERS)[seed % len(WRITERS)]
            tally[what] += 1
            try:
                killed(what, base / "work", good, old, random.Random(seed))
            except (AssertionError, MirkleError, ValueError, KeyError) as fault:
                faults.append(f"{seed}, {what}: {type(fault).__name__} {fault}")
    for line in faults:
        print(line)
    print(f"{told.kills} kills ({', '.join(f'{what} {n}' for what, n in tally.items())}): {len(faults)} lost something")
    return 1 if faults else 0


def killed(what: str, work: Path, good: Path, old: Path, chance: random.Random) -> None:
    """One writer killed at a random moment, and what it left looked at."""
    shutil.rmtree(work, ignore_errors=True)
    home = work / "data" / "mirkle"
    home.mkdir(parents=True)
    path = Path(shutil.copy(good, home / "stage.mirkle"))
    shutil.copy(old, home / "old")
    environment = os.environ | {"XDG_DATA_HOME": str(work / "data"), "XDG_CONFIG_HOME": str(work / "config")}
    command = [sys.executable, "-c", BEGIN + WRITERS[what], str(path)]
    writer = subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True, env=environment)
    assert writer.stdout is not None
    assert writer.stderr is not None
    assert writer.stdout.readline() == "began\n", writer.stderr.read()
    time.sleep(chance.uniform(0.0, 0.25))
    os.kill(writer.pid, signal.SIGKILL)
    said = [line.split(" ", 1) for line in writer.stdout.read().split("\n")[:-1]]
    ended = writer.stderr.read()
    assert not ended, ended[-300:]
    writer.wait()
    for name in ("XDG_DATA_HOME", "XDG_CONFIG_HOME"):
        os.environ[name] = environment[name]
    _look(path, said)
    _nothing_is_half(home)


def _look(path: Path, said: list[list[str]]) -> None:
    """Whether all that was said to be kept is there."""
    from mirkle.session import draft, settings
    from mirkle.session.reviewed_pass import ReviewedPass

    by_topic: dict[str, list[str]] = {}
    for topic, value in said:
        by_topic.setdefault(topic, []).append(value)
    stage = ReviewedPass.of_project(Project.open(path))
    numbers = {e.number for e in stage.project.entries()}
    passes = {p.id: p for p in stage.project.passes()}
    hazards = {a.words for a in stage.book.road.additions}
    looks: dict[str, Callable[[list[str]], bool]] = {
        "kept": lambda told: {int(n) for n in told} <= numbers,
        # The very last one may have been taken back before that was said, or the other way round.
        "there": lambda told: set(told) - set(by_topic.get("gone", ())) - {told[-1]} <= hazards,
        "gone": lambda told: not set(told) & hazards,
        "pass": lambda told: {int(n) for n in told} <= passes.keys(),
        "set": lambda told: all(passes[int(n)].overrides is not None for n in told),
        "finish": lambda told: stage.overrides.finish_s is not None and abs(stage.overrides.finish_s - float(told[-1])) <= 2.0,
        "stage": lambda told: all(Path(p).is_file() for p in told),
        "calls": lambda told: {told[-1]} <= {name for _, name in stage.project.listed("calls")} and _logged(stage.project),
        "merged": lambda told: set(told) <= {e.decision.remark for e in stage.project.entries() if e.decision is not None},
        "item": lambda told: set(told) <= {i.name for i in read_rally(path.with_name("isle.mirkle-rally")).itinerary},
        "migrated": lambda told: all(Path(p).is_file() for p in told),
        "export": lambda _: _whole(path.with_name("taken.txt")),
        "setting": lambda told: all(isinstance(settings.setting(f"s{int(n) % 5}", None), int) for n in told[-5:]),
        "draft": lambda _: len(set(draft.typed_draft().splitlines())) == 1 and len(draft.typed_draft().splitlines()) == 200,
    }
    for topic, values in by_topic.items():
        assert looks[topic](values), f"{topic} {values[-3:]}"
    stage.project.close()


def _logged(project: Project) -> bool:
    """Whether what became of a pass and the log of it agree."""
    last = next(e.decision for e in reversed(project.entries()) if isinstance(e.decision, PassChange))
    return last.after.calls == project.passes()[0].calls


def _whole(path: Path) -> bool:
    return len(path.read_text().splitlines()) == 6


def _nothing_is_half(home: Path) -> None:
    """Every stage in the folder opens, and after the next start nothing hidden is left."""
    from mirkle.session import recent_stages

    recent_stages.clear_up()
    for left in home.iterdir():
        assert not left.name.startswith(".") or left.suffix == ".lock", f"left: {left.name}"
        if left.suffix == ".mirkle":
            with closing(Project.open(left)) as project:
                project.materials()
                assert project.passes()
                assert not project.lost_entries


if __name__ == "__main__":
    sys.exit(main())
