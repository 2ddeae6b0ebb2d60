"""Killed at any moment, the program has lost no decision that it has said was taken."""

import random
import signal
import subprocess
import sys
import time
from pathlib import Path

from mirkle.files.project import Material, Project

DECIDES = """
import sys
from pathlib import Path
from mirkle.core.book.decisions import Decision, Entry
from mirkle.files.project import Project
project = Project.open(Path(sys.argv[1]))
for i in range(10_000):
    project.append(Entry("decide", Decision(f"f{i}", "mark", i, i, f"L4 {i}", by="both")))
    print(i, flush=True)
"""


def test_a_hundred_decisions_and_a_kill_at_a_random_moment(tmp_path: Path) -> None:
    path = tmp_path / "s.mirkle"
    Project.create(path, [Material("notes", "n.txt", b"L4 80\nR3 60")], name="Slatehook").close()
    rng, taken = random.Random(27), 0
    for _ in range(6):
        program = subprocess.Popen([sys.executable, "-c", DECIDES, str(path)], stdout=subprocess.PIPE, text=True)
        assert program.stdout is not None
        said = [program.stdout.readline() for _ in range(rng.randint(1, 40))]
        time.sleep(rng.random() * 0.01)
        program.send_signal(signal.SIGKILL)
        said += program.stdout.readlines()
        program.wait()
        whole = [line for line in said if line.endswith("\n")]
        project = Project.open(path)
        entries = project.entries()
        # Each that was said is there; one more may be on the disk, its word cut off by the kill.
        assert len(whole) <= len(entries) - taken <= len(whole) + 1
        assert [e.decision.first_note for e in entries[taken:] if e.decision] == list(range(len(entries) - taken))
        assert not project.read_only, "the lock of a killed program is free"
        taken = len(entries)
        project.close()
    assert taken > 40
