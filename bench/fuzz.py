"""Harmed files of every kind that is read, for as long as one likes: each has to be read or refused in one sentence.

``make fuzz`` or ``python bench/fuzz.py --seconds 600``. What breaks is kept beside the list of seeds that is printed, and ends with 1.
"""

from __future__ import annotations

import argparse
import sys
import tempfile
import time
import traceback
from pathlib import Path

import numpy as np

from mirkle.core.errors import MirkleError
from mirkle.session.material import take_in

sys.path.insert(0, str(Path(__file__).parents[1]))
from tests.files.harm import corpus, harmed


def main() -> int:
    """Harms and takes in until the time is over."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--seconds", type=float, default=60.0)
    options.add_argument("--first", type=int, default=0, help="the first seed")
    options.add_argument("--keep", type=Path, default=None, help="a folder for what breaks")
    told = options.parse_args()
    files = corpus()
    names = list(files)
    began, seed, broken, slowest = time.monotonic(), told.first, 0, (0.0, "")
    with tempfile.TemporaryDirectory() as folder:
        while time.monotonic() - began < told.seconds:
            rng = np.random.default_rng(seed)
            name = names[int(rng.integers(0, len(names)))]
            content = harmed(rng, files[name], files[names[int(rng.integers(0, len(names)))]])
            path = Path(folder) / name
            path.write_bytes(content)
            start = time.perf_counter()
            try:
                take_in(path)
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
            slowest = max(slowest, (time.perf_counter() - start, f"seed {seed}, {name}"))
            seed += 1
    print(
        f"{seed - told.first} harmed files, {broken} broke the program; the slowest took {slowest[0]:.1f} s ({slowest[1]})"
    )
    return 1 if broken else 0


if __name__ == "__main__":
    sys.exit(main())
