"""The demo as an open stage without a window."""

import shutil
from pathlib import Path

import pytest

from mirkle.core.review import Review
from mirkle.files.project.project import Project
from mirkle.session.kept_reviews import keep_review
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.reviewing import Inputs
from tests.conftest import AFTERNOON, CALLS, MORNING, NOTES


@pytest.fixture(scope="session")
def reviewed_demo(demo_review: Review, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The demo's file with its review in it."""
    path = tmp_path_factory.mktemp("demo") / "demo.mirkle"
    project = Project.create(path, [NOTES, MORNING, AFTERNOON, CALLS], name="Slatehook")
    keep_review(project, Inputs(MORNING, NOTES, CALLS, others=(AFTERNOON,)), demo_review)
    project.close()
    return path


@pytest.fixture
def stage(reviewed_demo: Path, tmp_path: Path) -> ReviewedPass:
    """The demo, with its review kept already."""
    return ReviewedPass.of_project(Project.open(Path(shutil.copy(reviewed_demo, tmp_path))))
