"""The project file: what was decided is on the disk, whatever happens."""

import fcntl
import hashlib
import json
import os
import signal
import sqlite3
import subprocess
import sys
import textwrap
import time
import zlib
from contextlib import closing
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from mirkle.core.habits.pooled import at_large
from mirkle.core.lineup.result import Turned
from mirkle.core.notebook.decisions import Entry, FindingAnswer, NoteChange, NotePlace
from mirkle.core.notebook.passes import Pass
from mirkle.core.notes.grading import known_school
from mirkle.core.review import Review
from mirkle.files.atomic_write import clear_parts, part_of
from mirkle.files.project.held_file import glance
from mirkle.files.project.packing import pack, unpack
from mirkle.files.project.project import VERSION, Project, SourceFile, UnusableProject
from mirkle.files.project.review_cache import pack_review, unpack_review

MATERIAL = [SourceFile("notes", "n.txt", b"L4 80\nR3 60\n"), SourceFile("run", "r.csv", bytes(range(256)) * 50)]


def made(folder: Path) -> Project:
    return Project.create(folder / "stage.mirkle", MATERIAL, name="Slatehook")


def entry(i: int) -> Entry:
    return Entry("decide", NoteChange(key=f"f{i}", notes=NotePlace(i, i), text=f"L{i % 6 + 1} 40 “é”"))


def test_material_and_decisions_come_back_as_they_were(tmp_path: Path) -> None:
    project = made(tmp_path)
    for i in range(5):
        project.append(entry(i), 1)
    project.append(Entry("undo"), 1)
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
        from mirkle.files.project.project import Project
        from mirkle.core.notebook.decisions import Entry, FindingAnswer
        project = Project.open(Path({str(path)!r}))
        start = len(project.entries())
        for i in range(start, start + 100000):
            project.append(Entry("decide", FindingAnswer(key=f"f{{i}}", answer="keep")), 1)
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
        kept = [e.decision.key for e in project.entries() if e.decision]
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
        second.append(entry(1), 1)
    second.close()
    first.append(entry(1), 1)
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


def test_what_seldom_stands_in_a_review_survives_as_well(demo_review: Review) -> None:
    """Notes that are turned, and what was known of the crew: no class of what a review may hold is left out."""
    turned = Turned(3, 4, 7.5, (100.0, 140.0), (150.0, 190.0))
    scale = replace(at_large(), school=known_school(0, 2, 6))
    seldom = replace(demo_review, lineup=replace(demo_review.lineup, turned=(turned,)), scale=scale)
    again = unpack_review(pack_review(seldom))
    assert again.lineup.turned == (turned,)
    assert again.scale is not None
    assert again.scale.school == scale.school


def test_a_cache_builds_nothing_but_the_classes_it_knows() -> None:
    with pytest.raises(ValueError, match="not a packed value"):
        unpack(pack(FindingAnswer(key="a", answer="keep")), Review)
    with pytest.raises(ValueError, match="not a packed value"):
        unpack(b"cos\nsystem\n(S'echo'\ntR.", Review)


def of_old(i: int) -> str:
    """A decision as the first formats kept it."""
    told = {
        "finding": f"f{i}",
        "answer": "mark",
        "first_note": i,
        "last_note": i,
        "text": f"L{i % 6 + 1} 40 “é”",
        "by": "",
        "remark": "",
        "from_m": -1.0,
        "to_m": -1.0,
    }
    return json.dumps(told)


def of_format_1(path: Path) -> None:
    """A stage as the first version wrote it: two runs, words, a hand's setting, and a log that knew no passes."""
    contents = [
        ("notes", "n.txt", b"L4 80\nR3 60\n"),
        ("run", "a.csv", b"a"),
        ("run", "b.csv", b"b"),
        ("calls", "c.vtt", b"c"),
        ("by-hand", "b.csv-by-hand.json", b"{}"),
    ]
    connection = sqlite3.connect(path)
    connection.executescript("""
        CREATE TABLE about (key TEXT PRIMARY KEY, value TEXT NOT NULL);
        CREATE TABLE material (id INTEGER PRIMARY KEY, kind TEXT NOT NULL, name TEXT NOT NULL, sha256 TEXT NOT NULL,
                               content BLOB NOT NULL);
        CREATE TABLE log (seq INTEGER PRIMARY KEY, kind TEXT NOT NULL, body TEXT NOT NULL);
        CREATE TABLE cache (key TEXT PRIMARY KEY, body BLOB NOT NULL);
        INSERT INTO about VALUES ('name', 'Slatehook');
        PRAGMA application_id = 1297238860;
        PRAGMA user_version = 1;
    """)
    for kind, name, content in contents:
        row = (kind, name, hashlib.sha256(content).hexdigest(), zlib.compress(content))
        connection.execute("INSERT INTO material (kind, name, sha256, content) VALUES (?, ?, ?, ?)", row)
    for i in range(2):
        connection.execute("INSERT INTO log (kind, body) VALUES ('decide', ?)", (of_old(i),))
    connection.execute("INSERT INTO log (kind, body) VALUES ('undo', '')")
    connection.commit()
    connection.close()


@pytest.mark.parametrize("writable", [True, False])
def test_a_file_of_the_first_format_is_brought_up_to_date(tmp_path: Path, writable: bool) -> None:
    """Passes are its runs, words belong to the first, what was set by hand to its own, and no decision is lost."""
    path = tmp_path / "old.mirkle"
    of_format_1(path)
    before = path.read_bytes()
    holder = path.open("r+b")
    if not writable:
        # Somebody else has it open.
        fcntl.flock(holder, fcntl.LOCK_EX)
    project = Project.open(path)
    assert project.read_only is not writable
    assert (path.read_bytes() == before) is not writable
    first, second = project.passes()
    name = {number: m.name for number in range(1, 6) if (m := project.material(number)) is not None}
    assert [name.get(n or 0) for n in (first.run, first.notes, first.calls, first.overrides)] == ["a.csv", "n.txt", "c.vtt", None]
    assert [name.get(n or 0) for n in (second.run, second.notes, second.calls, second.overrides)] == [
        "b.csv",
        "n.txt",
        None,
        "b.csv-by-hand.json",
    ]
    assert project.entries() == project.entries({1}) == [entry(0), entry(1), Entry("undo", of=2)]
    assert project.entries({2}) == []
    project.close()
    holder.close()
    assert not [p for p in tmp_path.iterdir() if p.suffix == ".part"]
    if writable:
        again = Project.open(path)
        assert again.passes() == [first, second]
        again.close()


@pytest.mark.parametrize("writable", [True, False])
def test_a_file_of_the_second_format_gets_a_place_for_practice(tmp_path: Path, writable: bool) -> None:
    """It had passes already; its decisions knew nothing of what is seen on a video."""
    project = made(tmp_path)
    project.append(entry(0), 1)
    passes, path = project.passes(), project.path
    project.close()
    with closing(sqlite3.connect(path)) as connection:
        connection.executescript("DROP TABLE practice; PRAGMA user_version = 2")
        connection.execute("UPDATE log SET body = ?", (of_old(0),))
        connection.commit()
    with path.open("r+b") as holder:
        if not writable:
            fcntl.flock(holder, fcntl.LOCK_EX)
        project = Project.open(path)
        assert project.passes() == passes
        assert project.entries() == [entry(0)]
        assert project.practised() == []
        if writable:
            run = project.add_practice(None, "a")
            assert project.add_practice(run, "b") == run
            assert project.add_practice(None, "c") == run + 1
            assert project.practised() == [(run, "a"), (run, "b"), (run + 1, "c")]
        else:
            with pytest.raises(UnusableProject, match="open in another window"):
                project.add_practice(None, "a")
        project.close()


def test_a_migration_that_has_no_room_leaves_the_old_file(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "old.mirkle"
    of_format_1(path)
    before = path.read_bytes()

    def full(*_: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(Path, "replace", full)
    with pytest.raises(UnusableProject, match="No space left on device"):
        Project.open(path)
    assert path.read_bytes() == before
    assert [p.name for p in tmp_path.iterdir()] == ["old.mirkle"]


def test_decisions_and_passes_are_kept_apart(tmp_path: Path) -> None:
    project = made(tmp_path)
    (first,) = project.passes()
    second = project.add_pass(
        Pass(0, None, first.notes, kind="later"), {"run": SourceFile("run", "s.csv", b"s"), "calls": SourceFile("calls", "c.vtt", b"c")}
    )
    project.append(entry(0), first.id)
    project.append(entry(1), second.id)
    moved = project.set_pass(second, {"notes": SourceFile("notes", "edition-2.txt", b"L4 80\n")})
    project.close()
    again = Project.open(tmp_path / "stage.mirkle")
    assert again.passes() == [first, moved]
    assert again.entries({second.id}) == [entry(1)]
    assert again.material(moved.notes) == SourceFile("notes", "edition-2.txt", b"L4 80\n")
    assert [name for _, name in again.listed("notes")] == ["n.txt", "edition-2.txt"]
    again.close()


def forge(path: Path, *statements: str) -> None:
    connection = sqlite3.connect(path)
    for statement in statements:
        connection.execute(statement)
    connection.commit()
    connection.close()


@pytest.mark.parametrize(
    "statements",
    [
        ("DROP TABLE log", "CREATE VIEW log AS SELECT 1 AS seq, 1 AS pass, 'undo' AS kind, '' AS body"),
        ("CREATE TRIGGER t AFTER INSERT ON log BEGIN DELETE FROM log; END",),
        ("DROP TABLE pass",),
    ],
)
def test_a_forged_file_is_refused(tmp_path: Path, statements: tuple[str, ...]) -> None:
    made(tmp_path).close()
    forge(tmp_path / "stage.mirkle", *statements)
    with pytest.raises(UnusableProject, match="damaged or not a Mirkle stage"):
        Project.open(tmp_path / "stage.mirkle")


def test_what_can_be_saved_of_a_log_is_opened(tmp_path: Path) -> None:
    project = made(tmp_path)
    project.append(entry(0), 1)
    project.close()
    bodies = (
        "'no json'",
        "'[1, 2]'",
        '\'{"type": "finding-answer", "key": 3, "answer": "keep"}\'',
        "'{\"odd\": 1}'",
        "x'00'",
        f"'{'[' * 5000}'",
    )
    forge(
        tmp_path / "stage.mirkle",
        *(f"INSERT INTO log (pass, kind, body) VALUES (1, 'decide', {b})" for b in bodies),
        'INSERT INTO pass (body) VALUES (\'{"run": "x"}\')',
        "INSERT INTO pass (body) VALUES (x'01')",
    )
    again = Project.open(tmp_path / "stage.mirkle")
    assert again.entries() == [entry(0)]
    assert again.lost_entries == len(bodies)
    assert len(again.passes()) == 1
    again.close()


def test_a_blob_that_unpacks_to_more_than_any_file_is_damaged(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    project = made(tmp_path)
    monkeypatch.setattr("mirkle.files.project.format.LARGEST_BYTES", 1000)
    with pytest.raises(UnusableProject, match=r"r\.csv in it is damaged"):
        project.materials()
    project.close()


def test_a_flipped_bit_is_a_sentence_or_changes_nothing(tmp_path: Path) -> None:
    """Anywhere in the file: what can't be read is said, and never a traceback."""
    project = made(tmp_path)
    for i in range(30):
        project.append(entry(i), 1)
    project.keep("key", b"x" * 3000)
    project.close()
    whole = (tmp_path / "stage.mirkle").read_bytes()
    spoilt = tmp_path / "spoilt.mirkle"
    mends = []
    for at in np.random.default_rng(5).integers(0, len(whole), 250):
        spoilt.write_bytes(whole[:at] + bytes([whole[at] ^ 0x41]) + whole[at + 1 :])
        try:
            opened = Project.open(spoilt)
            try:
                opened.materials(), opened.passes(), opened.entries(), opened.cached("key"), opened.name
            finally:
                opened.close()
        except UnusableProject as fault:
            mends.append(fault.mend)
    assert all(mends)
    assert 3 < len(mends) < 250


def test_a_full_disk_is_the_reason_given_and_leaves_no_half_made_file(tmp_path: Path) -> None:
    """Files of this process may not grow beyond 60 kB, as on a disk with so much left."""
    program = textwrap.dedent(f"""
        import random, resource, signal
        from pathlib import Path
        from mirkle.core.errors import MirkleError
        from mirkle.files.project.project import SourceFile, Project
        signal.signal(signal.SIGXFSZ, signal.SIG_IGN)
        resource.setrlimit(resource.RLIMIT_FSIZE, (60_000, 60_000))
        big = SourceFile("run", "r.csv", random.Random(1).randbytes(400_000))
        folder = Path({str(tmp_path)!r})
        for make in (lambda: Project.create(folder / "a.mirkle", [big], name="a"),
                     lambda: Project.create(folder / "b.mirkle", [], name="b").add(big)):
            try:
                make()
            except MirkleError as fault:
                print(fault.sentence)
    """)
    done = subprocess.run([sys.executable, "-c", program], capture_output=True, text=True, check=True)
    told = done.stdout.splitlines()
    assert len(told) == 2
    assert not [line for line in told if "rollback" in line or "transaction" in line]
    assert "make room" in told[1]
    assert sorted(p.name for p in tmp_path.iterdir()) == ["b.mirkle"]
    assert Project.open(tmp_path / "b.mirkle").materials() == []


def test_a_stage_that_was_overwritten_from_outside_is_not_written_to(tmp_path: Path) -> None:
    """By a copy in its place, or by a copy over it: the next decision says so instead of vanishing with the file."""
    for put in (lambda old, path: old.replace(path), lambda old, path: path.write_bytes(old.read_bytes())):
        project = made(tmp_path)
        older = tmp_path / "older"
        older.write_bytes(project.path.read_bytes())
        project.append(entry(0), 1)
        project.append(entry(1), 1)
        put(older, project.path)
        before = project.path.read_bytes()
        with pytest.raises(UnusableProject, match="moved or overwrote"):
            project.append(entry(2), 1)
        assert project.path.read_bytes() == before
        project.close()
        again = Project.open(project.path)
        again.append(entry(2), 1)
        again.close()
        project.path.unlink()


def test_several_steps_are_kept_together_or_not_at_all(tmp_path: Path) -> None:
    project = made(tmp_path)

    def half() -> None:
        with project.together():
            project.append(entry(0), 1)
            project.add_pass(Pass(0, None, 1), {"run": MATERIAL[1]})
            raise KeyError

    with pytest.raises(KeyError):
        half()
    assert project.entries() == []
    assert len(project.passes()) == 1
    with project.together():
        project.append(entry(0), 1)
        project.set_info("event", "x")
    assert (project.entries(), project.info("event")) == ([entry(0)], "x")
    project.close()


def test_what_killed_programs_left_is_cleared_and_what_runs_is_left_alone(tmp_path: Path) -> None:
    process = subprocess.run([sys.executable, "-c", "import os; print(os.getpid())"], capture_output=True, text=True, check=True)
    gone = int(process.stdout)
    left = [f".a.mirkle.{gone}-0123abcd.part", f".a.mirkle.{gone}-0123abcd.part-journal", f".settings.json.{gone}-00000000.part"]
    mine = [part_of(tmp_path / "a.mirkle").name, "a.mirkle", ".hidden", f"a.{gone}-0123abcd.part", ".settings.json.lock"]
    for name in (*left, *mine):
        (tmp_path / name).write_text("x")
    clear_parts(tmp_path)
    assert sorted(p.name for p in tmp_path.iterdir()) == sorted(mine)


def test_a_copy_is_whole_or_not_there(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    project = made(tmp_path)
    copy = tmp_path / "copy.mirkle"

    def full(*_: object) -> None:
        raise OSError(28, "No space left on device")

    with monkeypatch.context() as patch:
        patch.setattr("mirkle.files.project.project.put_in_place", full)
        with pytest.raises(UnusableProject, match="No space left"):
            project.copy_to(copy)
    assert [p.name for p in tmp_path.iterdir()] == ["stage.mirkle"]
    project.copy_to(copy, name="Slatehook (2)")
    with pytest.raises(UnusableProject, match="already"):
        project.copy_to(copy)
    other = Project.open(copy)
    assert (other.name, other.materials()) == ("Slatehook (2)", MATERIAL)
    other.close()
    project.close()


def test_more_decisions_than_any_crew_makes_are_refused_in_a_sentence(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    project = made(tmp_path)
    for i in range(4):
        project.append(entry(i), 1)
    project.close()
    monkeypatch.setattr("mirkle.files.project.held_file.MOST_ENTRIES", 3)
    with pytest.raises(UnusableProject, match="it holds 4 decisions; no more than 3 can be opened"):
        Project.open(tmp_path / "stage.mirkle")


def test_a_file_of_a_stage_is_looked_at_without_opening_it(tmp_path: Path) -> None:
    project = made(tmp_path)
    project.append(entry(0), 1)
    about, last = glance(project.path)
    assert (about["name"], last) == ("Slatehook", 1)
    project.close()
    with closing(sqlite3.connect(project.path)) as connection:
        connection.executescript(
            "DROP TABLE about; CREATE VIEW about (key, value) AS "
            "WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n) SELECT 'name', i FROM n"
        )
    with pytest.raises(UnusableProject):
        glance(project.path)


def test_call_times_of_an_old_format_become_a_kind_of_their_own(tmp_path: Path) -> None:
    project = made(tmp_path)
    path = project.path
    for content in (b'{"heard": 1, "sound": "s"}', b'{"format": "mirkle-listen/1"}', b"WEBVTT\n"):
        project.add(SourceFile("calls", "c", content))
    project.close()
    with closing(sqlite3.connect(path)) as connection:
        connection.executescript("PRAGMA user_version = 4")
    again = Project.open(path)
    assert [kind for kind in ("heard", "listened", "calls") for _ in again.listed(kind)] == ["heard", "listened", "calls"]
    again.close()
