"""What Mirkle costs, as one table: medians of runs, the ratio to a named baseline of the same run, peak memory.

    make bench

Limits are those that the project promises; a figure over its limit is marked and ends the command with 1.
"""

from __future__ import annotations

import argparse
import json
import os
import resource
import statistics
import subprocess
import sys
import tempfile
import time
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from mirkle.files.project.project import Project, SourceFile
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.synthetic.car import drive
from mirkle.synthetic.crew import plant_slips, write_book
from mirkle.synthetic.recorder import Recorder, record
from mirkle.synthetic.road import make_road

RUNS = 5


@dataclass(frozen=True)
class Row:
    """One line of the table; times in seconds, memory in megabytes, ``limit_s`` and ``limit_mb`` as promised."""

    what: str
    seconds: float
    baseline: str
    ratio: float | None
    memory_mb: float | None = None
    limit_s: float | None = None
    limit_mb: float | None = None

    @property
    def kept(self) -> bool:
        """Whether the promise is kept."""
        slow = self.limit_s is not None and self.seconds > self.limit_s
        large = self.limit_mb is not None and self.memory_mb is not None and self.memory_mb > self.limit_mb
        return not (slow or large)


def main() -> int:
    """Measures and prints; 1 if a promise is broken."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--runs", type=int, default=RUNS)
    runs = options.parse_args().runs
    with tempfile.TemporaryDirectory() as name:
        rows = measured(Path(name), runs)
    print_table(rows)
    return 0 if all(r.kept for r in rows) else 1


def measured(folder: Path, runs: int) -> list[Row]:
    """All rows."""
    notes, run, *later = make_stage(folder, length_m=38_000.0)
    start, _ = timed([sys.executable, "-c", "pass"], runs)
    parse, parse_mb = timed([sys.executable, "-c", PARSE, str(run)], runs)
    review = [sys.executable, "-m", "mirkle", "review", str(run), "--notes", str(notes), "--json", str(folder / "o.json")]
    seconds, memory = timed(review, runs)
    size = f"{run.stat().st_size / 1e6:.0f} MB, {sum(1 for _ in run.open()) - 1} rows"
    three = passes_figure(folder, notes, [run, *later], runs)
    window = window_figures(saved(folder, notes, run), folder, runs)
    return [
        Row("start Python", start, "", None),
        Row(f"parse the 38 km recording ({size})", parse, "start Python", parse / start, parse_mb),
        Row("review it, with start-up", seconds, "parse", seconds / parse, memory, limit_s=4.0, limit_mb=600.0),
        Row("three passes of it, saved, held against each other", three, "start Python", three / start, limit_s=2.0),
        Row(
            "open it, saved, to a painted window",
            window["open_s"],
            "start Python",
            window["open_s"] / start,
            window["memory_mb"],
            limit_s=1.2,
            limit_mb=350.0,
        ),
        Row("paint an empty window of that size", window["empty_s"], "", None),
        Row("go to the next finding and repaint", window["next_s"], "empty window", window["next_s"] / window["empty_s"], limit_s=0.016),
        Row(
            "scroll by a frame: road, page and strip",
            window["frame_s"],
            "empty window",
            window["frame_s"] / window["empty_s"],
            limit_s=1 / 60,
        ),
        Row(
            "zoom the road by a frame, the slowest", window["zoom_s"], "empty window", window["zoom_s"] / window["empty_s"], limit_s=1 / 60
        ),
        Row(
            "Rehearse by a picture, the slowest",
            window["rehearse_s"],
            "empty window",
            window["rehearse_s"] / window["empty_s"],
            limit_s=1 / 60,
        ),
        Row(
            "zoom the plan by a frame, the slowest", window["plan_s"], "empty window", window["plan_s"] / window["empty_s"], limit_s=1 / 60
        ),
    ]


PARSE = """
import sys
from mirkle.files.recordings.readers import parse_csv_run
parse_csv_run(open(sys.argv[1], "rb").read(), name="run")
"""


def make_stage(folder: Path, *, length_m: float) -> tuple[Path, ...]:
    """Notes and recordings of three passes with 20 Hz positions and 100 Hz channels, from the stand-ins."""
    rng = np.random.default_rng(38)
    road = make_road(rng, length_m=length_m)
    pass_ = drive(rng, road, pace=1.0, stands_s=20.0)
    book = plant_slips(rng, write_book(rng, road), pass_.jumps)
    notes, run = folder / "notes.txt", folder / "run.csv"
    notes.write_text(book.lines())
    run.write_text(record(rng, pass_, Recorder(position_hz=20.0, inertial_hz=100.0)))
    later = []
    for number, pace in ((2, 1.03), (3, 0.98)):
        later.append(folder / f"run-{number}.csv")
        driven = drive(rng, road, pace=pace, stands_s=20.0)
        later[-1].write_text(record(rng, driven, Recorder(position_hz=20.0, inertial_hz=100.0)))
    return notes, run, *later


FOLLOW = """
import sys
from pathlib import Path
from mirkle.files.project.project import Project
from mirkle.session.change_review import follow
assert len(follow(Project.open(Path(sys.argv[1])))) == 2
"""


def passes_figure(folder: Path, notes: Path, runs_of: list[Path], runs: int) -> float:
    """Median seconds to hold three saved passes against each other, start-up included."""
    materials = [SourceFile("notes", notes.name, notes.read_bytes()), *(SourceFile("run", r.name, r.read_bytes()) for r in runs_of)]
    project = Project.create(folder / "three.mirkle", materials, name="Slatehook thrice")
    project.close()
    command = [sys.executable, "-c", FOLLOW, str(project.path)]
    subprocess.run(command, check=True)
    return timed(command, runs)[0]


def timed(command: list[str], runs: int) -> tuple[float, float]:
    """Median wall-clock seconds of a command, and the largest memory it took in megabytes."""
    seconds = []
    for _ in range(runs):
        began = time.perf_counter()
        subprocess.run(command, check=True, stdout=subprocess.DEVNULL)
        seconds.append(time.perf_counter() - began)
    program = (
        "import resource, subprocess, sys; subprocess.run(sys.argv[1:], check=True, stdout=subprocess.DEVNULL);"
        "print(resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss)"
    )
    done = subprocess.run([sys.executable, "-c", program, *command], check=True, capture_output=True, text=True)
    return statistics.median(seconds), int(done.stdout.splitlines()[-1]) / 1024


def saved(folder: Path, notes: Path, run: Path) -> Path:
    """The stage as a project with its review kept, as it is the second time that it is opened."""
    materials = [SourceFile("notes", notes.name, notes.read_bytes()), SourceFile("run", run.name, run.read_bytes())]
    project = Project.create(folder / "long.mirkle", materials, name="Slatehook long")
    ReviewedPass.of_project(project)
    project.close()
    return project.path


def window_figures(stage: Path, folder: Path, runs: int) -> dict[str, float]:
    """Opening, stepping and scrolling, each in a process of its own, on a stage that was opened before."""
    environment = os.environ | {"XDG_DATA_HOME": str(folder), "XDG_CONFIG_HOME": str(folder)}
    command = [sys.executable, __file__.replace("bench.py", "window.py"), str(stage)]
    subprocess.run(command, check=True, env=environment, capture_output=True)
    opened, figures = [], {}
    for _ in range(runs):
        began = time.time()
        done = subprocess.run(command, check=True, env=environment, capture_output=True, text=True)
        figures = json.loads(done.stdout.splitlines()[-1])
        opened.append(figures["painted_at"] - began)
    return {**figures, "open_s": statistics.median(opened)}


def print_table(rows: list[Row]) -> None:
    """The table in plain text."""
    print(f"{'what':58} {'median':>9} {'ratio':>7}  {'to':14} {'memory':>8}  promise")
    for r in rows:
        ratio = f"{r.ratio:.1f}" if r.ratio is not None else ""
        memory = f"{r.memory_mb:.0f} MB" if r.memory_mb is not None else ""
        limits = [f"{limit:g} {unit}" for limit, unit in ((r.limit_s, "s"), (r.limit_mb, "MB")) if limit is not None]
        promise = f"{', '.join(limits)} {'kept' if r.kept else 'BROKEN'}" if limits else ""
        shown = f"{r.seconds * 1000:.1f} ms" if r.seconds < 0.2 else f"{r.seconds:.2f} s"
        print(f"{r.what:58} {shown:>9} {ratio:>7}  {r.baseline:14} {memory:>8}  {promise}")


if __name__ == "__main__":
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    sys.exit(main())
