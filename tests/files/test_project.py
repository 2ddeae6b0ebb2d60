"""The project file: what was decided is on the disk, whatever happens."""

import os
import signal
import sqlite3
import subprocess
import sys
import textwrap
import time
from pathlib import Path

import numpy as np
import pytest

from mirkle.core.book.decisions import Decision, Entry
from mirkle.core.review import Review
from mirkle.files.packing import pack, unpack
from mirkle.files.project import VERSION, Material, Project, UnusableProject
from mirkle.files.review_cache import pack_review, unpack_review

MATERIAL = [Material("notes", "n.txt", b"L4 80\nR3 60\n"), Material("run", "r.csv", bytes(range(256)) * 50)]


def made(folder: Path) -> Project:
    return Project.create(folder / "stage.mirkle", MATERIAL, name="Slatehook")


def entry(i: int) -> Entry:
    return Entry("decide", Decision(f"f{i}", "mark", i, i, f"L{i % 6 + 1} 40 “é”"))


def test_material_and_decisions_come_back_as_they_were(tmp_path: Path) -> None:
    project = made(tmp_path)
    for i in range(5):
        project.append(entry(i))
    project.append(Entry("undo"))
    project.close()
    again = Project.open(tmp_path / "stage.mirkle")
    assert again.materials() == MATERIAL
    assert again.entries() == [*(entry(i) for i in range(5)), Entry("undo")]
    assert again.name == "Slatehook"
    again.close()


def test_killed_at_any_moment_it_loses_no_decision(tmp_path: Path) -> None:
    made(tmp_path).close()
    path = tmp_path / "stage.mirkle"
    writer = textwrap.dedent(f"""
        from pathlib import Path
        from mirkle.files.project import Project
        from mirkle.core.book.decisions import Decision, Entry
        project = Project.open(Path({str(path)!r}))
        start = len(project.entries())
        for i in range(start, start + 100000):
            project.append(Entry("decide", Decision(f"f{{i}}", "keep")))
            print(i, flush=True)
    """)
    for round_ in range(4):
        process = subprocess.Popen([sys.executable, "-c", writer], stdout=subprocess.PIPE, text=True)
        assert process.stdout is not None
        last = int(process.stdout.readline())
        time.sleep(0.02 + 0.013 * round_)
        os.kill(process.pid, signal.SIGKILL)
        rest = process.stdout.read().split("\n")
        process.wait()
        # The pipe may have been cut in the middle of the last number.
        last = max([last, *(int(line) for line in rest[:-1])])
        project = Project.open(path)
        kept = [e.decision.finding for e in project.entries() if e.decision]
        assert not project.read_only
        project.close()
        assert kept[: last + 1] == [f"f{i}" for i in range(last + 1)]
        assert len(kept) <= last + 2


def test_opened_twice_the_second_reads_only_and_says_so(tmp_path: Path) -> None:
    first = made(tmp_path)
    second = Project.open(tmp_path / "stage.mirkle")
    assert second.read_only
    assert second.materials() == MATERIAL
    with pytest.raises(UnusableProject, match="open in another window"):
        second.append(entry(1))
    second.close()
    first.append(entry(1))
    first.close()


def _other_program(path: Path) -> None:
    sqlite3.connect(path).execute("CREATE TABLE t (x)").connection.close()


def _newer(path: Path) -> None:
    with sqlite3.connect(path) as connection:
        connection.execute(f"PRAGMA user_version = {VERSION + 1}")
    connection.close()


def _cut_short(path: Path) -> None:
    os.truncate(path, path.stat().st_size // 2)


@pytest.mark.parametrize(
    ("spoil", "sentence"),
    [
        (lambda p: (p.unlink(), _other_program(p)), "not a Mirkle stage"),
        (_newer, "newer Mirkle"),
        (_cut_short, "damaged"),
        (lambda p: p.write_bytes(b"\x89PNG" + bytes(5000)), "damaged or not a Mirkle stage"),
        (lambda p: p.unlink(), "no such file"),
    ],
)
def test_what_is_no_project_is_refused_and_left_alone(tmp_path: Path, spoil, sentence: str) -> None:  # type: ignore[no-untyped-def]
    made(tmp_path).close()
    path = tmp_path / "stage.mirkle"
    spoil(path)
    before = path.read_bytes() if path.exists() else None
    with pytest.raises(UnusableProject, match=sentence):
        Project.open(path)
    assert (path.read_bytes() if path.exists() else None) == before


def test_an_existing_file_is_never_overwritten(tmp_path: Path) -> None:
    made(tmp_path).close()
    before = (tmp_path / "stage.mirkle").read_bytes()
    with pytest.raises(UnusableProject, match="already"):
        made(tmp_path)
    assert (tmp_path / "stage.mirkle").read_bytes() == before


def test_a_folder_that_can_t_be_written_is_said(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("x")
    with pytest.raises(UnusableProject, match="can't be written there"):
        Project.create(tmp_path / "file" / "stage.mirkle", MATERIAL, name="x")


def test_a_review_survives_its_cache_to_the_last_number(demo_review: Review) -> None:
    again = unpack_review(pack_review(demo_review))
    assert again.findings == demo_review.findings
    assert again.reading == demo_review.reading
    assert again.lineup.ties == demo_review.lineup.ties
    np.testing.assert_array_equal(again.profile.curvature_per_m, demo_review.profile.curvature_per_m)


def test_a_cache_builds_nothing_but_the_classes_it_knows() -> None:
    with pytest.raises(ValueError, match="not a packed value"):
        unpack(pack(Decision("a", "keep")), (Entry,))
    with pytest.raises(ValueError, match="not a packed value"):
        unpack(b"cos\nsystem\n(S'echo'\ntR.", (Entry,))
