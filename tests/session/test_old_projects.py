"""Project files as every earlier program wrote them open, with everything that was decided in them."""

from __future__ import annotations

import shutil
import sqlite3
from contextlib import closing
from pathlib import Path

import pytest

from mirkle.core.notebook.decisions import NoteChange
from mirkle.files.project.project import VERSION, Project
from mirkle.session.reviewed_pass import ReviewedPass

KEPT = Path(__file__).parents[2] / "bench" / "golden"


@pytest.mark.parametrize("version", range(1, VERSION + 1))
def test_a_file_of_any_format_opens_with_its_decisions(version: int, tmp_path: Path) -> None:
    path = Path(shutil.copy(KEPT / f"format-{version}.mirkle", tmp_path))
    with sqlite3.connect(path) as connection:
        assert connection.execute("PRAGMA user_version").fetchone() == (version,)
    stage = ReviewedPass.of_project(Project.open(path))
    book = stage.book
    assert {d.text for d in book.decisions.values() if isinstance(d, NoteChange)} == {"L2 long 30", "L4 long dc stones inside keep in 350"}
    assert {d.remark for d in book.decisions.values() if isinstance(d, NoteChange)} == {"after the cattle grid"}
    assert "keep" in {d.answer for d in book.decisions.values()}
    assert [d.words for d in book.road.additions] == ["rock on the line", "ice in the shade"]
    assert [d.from_m for d in book.road.additions] == pytest.approx([900.0, 1200.0], abs=2.0)
    lines = book.edition.text.splitlines()
    assert {"L2 long 30", "L4 long dc stones inside keep in 350"} <= set(lines)
    assert stage.project.lost_entries == 0


def columns_of(path: Path) -> dict[str, set[tuple[str, str]]]:
    """The tables of a file with the names and types of their columns."""
    with closing(sqlite3.connect(path)) as connection:
        tables = [name for (name,) in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%'")]
        return {table: {(row[1], row[2]) for row in connection.execute(f"PRAGMA table_info({table})")} for table in tables}


@pytest.mark.parametrize("version", range(1, VERSION + 1))
def test_a_file_of_any_format_is_brought_to_the_columns_of_a_new_one(version: int, tmp_path: Path) -> None:
    path = Path(shutil.copy(KEPT / f"format-{version}.mirkle", tmp_path))
    Project.open(path).close()
    Project.create(tmp_path / "new.mirkle", [], name="new").close()
    new, old = columns_of(tmp_path / "new.mirkle"), columns_of(path)
    lacking = {f"{table}.{name}" for table, columns in new.items() for name, _ in columns - old.get(table, set())}
    assert lacking == set(), f"format {version} lacks them: raise VERSION in format.py, and bring older files up to date in migration.py"
    assert old == new
