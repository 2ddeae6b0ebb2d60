"""The demo as an open stage without a window."""

from pathlib import Path

import pytest

from mirkle.core.review import Review
from mirkle.files.project import Project
from mirkle.files.review_cache import cache_key, pack_review
from mirkle.session.stage import Stage
from tests.conftest import AFTERNOON, CALLS, MORNING, NOTES


@pytest.fixture
def stage(tmp_path: Path, demo_review: Review) -> Stage:
    """The demo, with its review kept already."""
    project = Project.create(tmp_path / "demo.mirkle", [NOTES, MORNING, AFTERNOON, CALLS], name="Slatehook")
    project.keep(cache_key((MORNING, NOTES, CALLS, AFTERNOON)), pack_review(demo_review))
    return Stage.of_project(project)
