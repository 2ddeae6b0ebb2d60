"""What all tests share. With MIRKLE_TESTS_WITHOUT_QT set, PyQt6 can't be imported, as if it were not installed."""

from __future__ import annotations

import importlib.abc
import json
import os
import shutil
import sys
from datetime import datetime
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
from mirkle.session.demo import demo_rally  # noqa: E402
from mirkle.session.paths import data_folder  # noqa: E402
from mirkle.session.reviewing import Inputs, review_material  # noqa: E402

# How long an example takes says nothing on a machine that does other things meanwhile.
# The same examples each time, so that no change is refused for what it did not touch; `make nightly` looks for new ones.
settings.register_profile("mirkle", deadline=None, derandomize="MIRKLE_NEW_EXAMPLES" not in os.environ)
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


# When the demo rally is looked at in tests.
RALLY_MORNING = datetime(2026, 12, 4, 8, 30)


@pytest.fixture(scope="session")
def made_rally(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A folder of stages with the demo rally in it, to be copied by each test that wants it."""
    home = tmp_path_factory.mktemp("rally")
    with pytest.MonkeyPatch.context() as patch:
        patch.setenv("XDG_DATA_HOME", str(home))
        demo_rally(RALLY_MORNING)
        return Path(shutil.copytree(data_folder(), home / "kept"))


@pytest.fixture
def rally_home(made_rally: Path) -> Path:
    """This test's folder of stages, with the demo rally in it."""
    return Path(shutil.copytree(made_rally, data_folder(), dirs_exist_ok=True))
