"""Real files that nobody here wrote: each is read, or refused in its own terms, as the list of the bench says."""

from __future__ import annotations

import tomllib
from pathlib import Path

import pytest

from mirkle.core.errors import MirkleError
from mirkle.session.import_files import take_in

HERE = Path(__file__).parent / "tracks"
LIST = tomllib.loads((Path(__file__).parents[2] / "bench" / "real_files.toml").read_text())["package"]
EXPECTED = {Path(member).name: told for package in LIST for member, told in package["files"].items()}
FILES = sorted(p.name for p in HERE.iterdir() if p.suffix in (".gpx", ".vtt", ".log", ".geojson"))


@pytest.mark.parametrize("name", FILES)
def test_a_real_file_is_taken_for_what_it_is(name: str) -> None:
    wanted = EXPECTED[name]
    try:
        told = take_in(HERE / name).material.kind
    except MirkleError as refused:
        told = refused.sentence
    assert told == wanted if wanted in ("run", "notes", "calls") else wanted in told
