"""Set-up killed at random moments: the next run has to leave an environment that is whole.

``python3 bench/set_up_kills.py [--kills 20] [--seed 1]`` works on a copy of the tree in a temporary folder.
Each round kills the set-up with all that it started, sometimes takes a file away as well, runs it again, and then holds
every file against what a set-up that nobody killed leaves.
"""

from __future__ import annotations

import argparse
import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent


def files(venv: Path) -> dict[str, int]:
    """Size of each file, byte code and the record aside."""
    return {
        str(path.relative_to(venv)): path.stat().st_size
        for path in venv.rglob("*")
        if path.is_file() and "__pycache__" not in path.parts and not path.name.startswith(".set-up")
    }


def begin(folder: Path) -> subprocess.Popen[bytes]:
    """A set-up in a process group, so that a kill reaches what it started."""
    command = [sys.executable, "tools/set_up.py", "run"]
    return subprocess.Popen(command, cwd=folder, start_new_session=True, stdout=subprocess.DEVNULL)


def main() -> int:
    """Prints a line a round; returns 1 where one did not heal."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--kills", type=int, default=20)
    parser.add_argument("--seed", type=int, default=1)
    asked = parser.parse_args()
    rng = random.Random(asked.seed)
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name) / "mirkle"
        for part in ("src", "tools", "requirements", "pyproject.toml", "README.md", "LICENSE"):
            source = ROOT / part
            shutil.copytree(source, folder / part) if source.is_dir() else shutil.copy(source, folder / part)
        start = time.monotonic()
        if begin(folder).wait() != 0:
            return 1
        took = time.monotonic() - start
        whole = files(folder / ".venv")
        print(f"a set-up takes {took:.0f} s and leaves {len(whole)} files, {sum(whole.values()) / 1e6:.0f} MB")
        broken = 0
        for number in range(asked.kills):
            shutil.rmtree(folder / ".venv")
            killed = begin(folder)
            moment = rng.uniform(0, took)
            try:
                killed.wait(moment)
            except subprocess.TimeoutExpired:
                os.killpg(killed.pid, signal.SIGKILL)
                killed.wait()
            left = sorted(files(folder / ".venv")) if (folder / ".venv").exists() else []
            if number % 4 == 3 and left:
                (folder / ".venv" / rng.choice(left)).unlink()
            again = begin(folder).wait()
            healed = again == 0 and files(folder / ".venv") == whole
            broken += not healed
            print(f"{number + 1:3} killed after {moment:5.1f} s with {len(left):5} files: {'healed' if healed else 'BROKEN'}", flush=True)
    return int(broken > 0)


if __name__ == "__main__":
    sys.exit(main())
