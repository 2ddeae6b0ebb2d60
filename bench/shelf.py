"""How long a shelf of many stages takes, and the habits over all of them.

python bench/shelf.py [--stages 200]
"""

from __future__ import annotations

import argparse
import os
import sys
import tempfile
import time
from dataclasses import replace
from datetime import datetime
from pathlib import Path

WANTED_SHELF_S, WANTED_HABITS_S = 1.0, 3.0


def main() -> int:
    arguments = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    arguments.add_argument("--stages", type=int, default=200)
    asked = arguments.parse_args()
    with tempfile.TemporaryDirectory() as home:
        for name in ("XDG_DATA_HOME", "XDG_CONFIG_HOME", "XDG_STATE_HOME"):
            os.environ[name] = home
        return measured(asked.stages)


def measured(count: int) -> int:
    """Times a shelf of ``count`` stages, which are copies of the demo rally's."""
    from mirkle.core.habits.findings import habits_of
    from mirkle.files.crew_record import read_crew_record
    from mirkle.files.project.project import Project
    from mirkle.session import crew_records
    from mirkle.session.demo import demo_rally
    from mirkle.session.paths import data_folder
    from mirkle.session.shelf import shelf

    demo_rally(datetime(2026, 12, 4, 8))
    (path,) = crew_records.known_crews()
    record = read_crew_record(path)
    made = sorted(data_folder().glob("*.mirkle"))
    for i in range(count - len(made)):
        copy = Path(data_folder() / f"stage-{i}.mirkle")
        copy.write_bytes(made[i % len(made)].read_bytes())
        project = Project.open(copy)
        project.set_info("id", f"{i:016x}")
        project.close()
    began = time.perf_counter()
    stages = shelf()
    shelf_s = time.perf_counter() - began
    passes = [replace(record.passes[i % len(record.passes)], stage=f"{i:016x}", book=f"{i}") for i in range(count)]
    began = time.perf_counter()
    habits = habits_of(passes, crew_records.today())
    habits_s = time.perf_counter() - began
    print(f"{len(stages)} stages on the shelf: {shelf_s:.2f} s (wanted: {WANTED_SHELF_S:g} s at most)")
    print(f"{len(habits)} habits over {len(passes)} passes: {habits_s:.2f} s (wanted: {WANTED_HABITS_S:g} s at most)")
    return 0 if shelf_s <= WANTED_SHELF_S and habits_s <= WANTED_HABITS_S else 1


if __name__ == "__main__":
    sys.exit(main())
