"""Harmed files of every kind that is read: each has to be read or refused in one sentence, within 20 s of CPU.

``make fuzz`` or ``python bench/fuzz.py --count 10000``. What breaks is printed with its seed and kept in a folder if one is given; then it
ends with 1.
"""

from __future__ import annotations

import argparse
import resource
import sys
import tempfile
import time
import traceback
from pathlib import Path

import numpy as np

from mirkle.core.errors import MirkleError
from mirkle.session.import_files import recorded_in, take_in

sys.path.insert(0, str(Path(__file__).parents[1]))
from tests.files.harm import corpus, harmed
from tests.files.styles import STYLES

MOST_CPU_S = 20.0


def main() -> int:
    """Harms and takes in."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--count", type=int, default=1000)
    options.add_argument("--first", type=int, default=0, help="the first seed")
    options.add_argument("--keep", type=Path, default=None, help="a folder for what breaks")
    told = options.parse_args()
    files = corpus() | {f"drive-{i}.csv": content[:20_000] for i, content in enumerate(STYLES.values())}
    names = list(files)
    seed, broken, slowest = told.first, 0, (0.0, "")
    with tempfile.TemporaryDirectory() as folder:
        while seed < told.first + told.count:
            rng = np.random.default_rng(seed)
            name = names[int(rng.integers(0, len(names)))]
            content = harmed(rng, files[name], files[names[int(rng.integers(0, len(names)))]])
            path = Path(folder) / name
            path.write_bytes(content)
            start = time.process_time()
            try:
                if take_in(path).material.kind == "media":
                    recorded_in(path)
            except MirkleError as fault:
                if "\n" in fault.sentence:
                    broken += 1
                    print(f"seed {seed}, {name}: more than a line: {fault.sentence[:200]!r}")
            except Exception:
                broken += 1
                print(f"seed {seed}, {name}:\n{traceback.format_exc(limit=-2)}")
                if told.keep is not None:
                    told.keep.mkdir(parents=True, exist_ok=True)
                    (told.keep / f"{seed}-{name}").write_bytes(content)
            took_s = time.process_time() - start
            if took_s > MOST_CPU_S:
                broken += 1
                print(f"seed {seed}, {name}: {took_s:.1f} s of CPU")
            slowest = max(slowest, (took_s, f"seed {seed}, {name}"))
            seed += 1
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(
        f"{seed - told.first} harmed files of {len(names)} kinds, {broken} broke the program; the slowest took {slowest[0]:.1f} s of CPU "
        f"({slowest[1]}); {peak:.0f} MB at most"
    )
    return 1 if broken else 0


if __name__ == "__main__":
    sys.exit(main())
