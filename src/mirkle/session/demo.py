"""The demo stage."""

from __future__ import annotations

from mirkle.core.notebook.passes import Pass
from mirkle.files import demo_files
from mirkle.files.audio.media import shipped_reference
from mirkle.files.project.project import SUFFIX, Project, SourceFile
from mirkle.session.paths import data_folder


def demo_project() -> Project:
    """The demo stage, with what was decided on it before; made on the first call."""
    path = data_folder() / f"slatehook{SUFFIX}"
    if path.exists():
        return Project.open(path)
    morning = [
        SourceFile("notes", demo_files.NOTES, demo_files.demo_file(demo_files.NOTES)),
        SourceFile("run", demo_files.MORNING, demo_files.demo_file(demo_files.MORNING)),
        SourceFile("heard", demo_files.MORNING_HEARD, demo_files.demo_file(demo_files.MORNING_HEARD)),
        shipped_reference(demo_files.SOUND),
    ]
    afternoon = {
        "run": SourceFile("run", demo_files.AFTERNOON, demo_files.demo_file(demo_files.AFTERNOON)),
        "notes": SourceFile("notes", demo_files.CORRECTED, demo_files.demo_file(demo_files.CORRECTED)),
        "calls": SourceFile("calls", demo_files.AFTERNOON_CALLS, demo_files.demo_file(demo_files.AFTERNOON_CALLS)),
    }
    filmed = {
        "media": shipped_reference(demo_files.VIDEO),
        "calls": SourceFile("heard", demo_files.HEARD, demo_files.demo_file(demo_files.HEARD)),
    }

    def first(project: Project) -> None:
        project.set_info("car", "27")
        driven = project.add_pass(Pass(0, None, None, kind="later"), afternoon)
        project.add_pass(Pass(0, None, driven.notes, kind="later"), filmed)

    return Project.create(path, morning, name="Slatehook", first=first)
