"""Damaged and forged stages, used as a crew uses them: none may end in a traceback, hang, or take a gigabyte.

python bench/harmed_projects.py [--count N] [--first SEED]
"""

from __future__ import annotations

import argparse
import os
import sys
import tempfile
from concurrent.futures import ProcessPoolExecutor
from functools import partial
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))
from tests.session.harmed_projects import good_stage, tried


def main() -> int:
    """Prints how many there were and what broke."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--count", type=int, default=3000)
    options.add_argument("--first", type=int, default=0)
    told = options.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        os.environ["XDG_DATA_HOME"] = os.environ["XDG_CONFIG_HOME"] = folder
        good = good_stage(Path(folder) / "good.mirkle")
        # Each process does a hundred: what one file leaves in memory is not counted against many.
        with ProcessPoolExecutor(max_workers=2, max_tasks_per_child=100) as pool:
            seeds = range(told.first, told.first + told.count)
            faults = [f for f in pool.map(partial(tried, good, Path(folder)), seeds, chunksize=10) if f is not None]
    for fault in faults:
        print(fault)
    print(f"{told.count} damaged stages from seed {told.first} on: {len(faults)} broke something")
    return 1 if faults else 0


if __name__ == "__main__":
    sys.exit(main())
