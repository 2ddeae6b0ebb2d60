"""What all tests share. With MIRKLE_TESTS_WITHOUT_QT set, PyQt6 can't be imported, as if it were not installed."""

from __future__ import annotations

import importlib.abc
import json
import os
import sys
from pathlib import Path

import pytest
from hypothesis import settings


class _NoQt(importlib.abc.MetaPathFinder):
    def find_spec(self, fullname: str, path: object = None, target: object = None) -> None:  # noqa: ARG002
        if fullname.split(".")[0] == "PyQt6":
            raise ImportError("PyQt6 is not installed here")


if os.environ.get("MIRKLE_TESTS_WITHOUT_QT"):
    sys.meta_path.insert(0, _NoQt())

from mirkle.core.review import Review  # noqa: E402
from mirkle.files import demo_files  # noqa: E402
from mirkle.files.project.project import SourceFile  # noqa: E402
from mirkle.session.reviewing import Inputs, review_material  # noqa: E402

# How long an example takes says nothing on a machine that does other things meanwhile.
settings.register_profile("mirkle", deadline=None)
settings.load_profile("mirkle")

NOTES = SourceFile("notes", demo_files.NOTES, demo_files.demo_file(demo_files.NOTES))
MORNING = SourceFile("run", demo_files.MORNING, demo_files.demo_file(demo_files.MORNING))
AFTERNOON = SourceFile("run", demo_files.AFTERNOON, demo_files.demo_file(demo_files.AFTERNOON))
CALLS = SourceFile("calls", demo_files.CALLS, demo_files.demo_file(demo_files.CALLS))
# The same words by their blocks, with the times from the sound: what the demo opens with.
HEARD = SourceFile("heard", demo_files.MORNING_HEARD, demo_files.demo_file(demo_files.MORNING_HEARD))


@pytest.fixture(autouse=True)
def _own_home(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Every test has a home of its own."""
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "config"))


@pytest.fixture(scope="session")
def demo_review() -> Review:
    """The morning pass of the demo, reviewed."""
    return review_material(Inputs(MORNING, NOTES, CALLS, others=(AFTERNOON,)))


@pytest.fixture(scope="session")
def planted() -> dict:
    """What was planted in the demo."""
    return json.loads(demo_files.demo_file(demo_files.PLANTED))
