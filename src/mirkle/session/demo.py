"""The demo stage and the demo rally."""

from __future__ import annotations

from contextlib import closing
from datetime import datetime, timedelta
from pathlib import Path

from mirkle.core.habits.evidence import PassEvidence
from mirkle.core.notebook.passes import Pass
from mirkle.core.progress import Progress, silent
from mirkle.core.rally.itinerary import Item, Kind
from mirkle.files import demo_files
from mirkle.files.audio.media import shipped_reference
from mirkle.files.crew_record import SUFFIX as CREW_SUFFIX
from mirkle.files.crew_record import CrewRecord, keep_crew_record
from mirkle.files.project.project import SUFFIX, Project, SourceFile
from mirkle.files.rally_file import SUFFIX as RALLY_SUFFIX
from mirkle.files.rally_file import RallyFile, keep_rally
from mirkle.session.crew_gathering import shown_by
from mirkle.session.crew_records import folder as crew_folder
from mirkle.session.crew_records import today
from mirkle.session.paths import data_folder
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.stage_summary import keep_summary


def demo_source(kind: str, name: str) -> SourceFile:
    """A file of the demo, as a stage takes it."""
    return SourceFile(kind, name, demo_files.demo_file(name))


def demo_project() -> Project:
    """The demo stage, with what was decided on it before; made on the first call."""
    path = data_folder() / f"slatehook{SUFFIX}"
    if path.exists():
        return Project.open(path)
    morning = [
        demo_source("notes", demo_files.NOTES),
        demo_source("run", demo_files.MORNING),
        demo_source("heard", demo_files.MORNING_HEARD),
        shipped_reference(demo_files.SOUND),
    ]
    afternoon = {
        "run": demo_source("run", demo_files.AFTERNOON),
        "notes": demo_source("notes", demo_files.CORRECTED),
        "calls": demo_source("calls", demo_files.AFTERNOON_CALLS),
    }
    filmed = {"media": shipped_reference(demo_files.VIDEO), "calls": demo_source("heard", demo_files.HEARD)}

    def first(project: Project) -> None:
        project.set_info("car", "27")
        driven = project.add_pass(Pass(0, None, None, kind="later"), afternoon)
        project.add_pass(Pass(0, None, driven.notes, kind="later"), filmed)

    return Project.create(path, morning, name="Slatehook", first=first)


# The demo's first stage starts this long from when it is first opened, to the next five minutes; the others follow.
STARTS_IN, GRID_MIN = timedelta(minutes=35), 5
# Each was driven before, the one that was driven again twice.
DRIVES = dict.fromkeys(demo_files.RALLY_STAGES, 2) | {demo_files.DRIVEN_AGAIN: 3}
FOLLOW: tuple[tuple[str, Kind, str, int, float], ...] = (
    ("1", "stage", "Tarn Moor", 0, 0.0),
    ("2", "stage", "Cray Bank", 38, 0.0),
    ("", "service", "Service A", 70, 30.0),
    ("3", "stage", "Harbour Road", 125, 0.0),
)


def demo_rally(now: datetime, progress: Progress = silent) -> Path:
    """The file of the demo rally, its three stages reviewed and on the shelf; made on the first call.

    Raises
    ------
    MirkleError
        It can't be written.
    """
    path = data_folder() / f"isle{RALLY_SUFFIX}"
    if path.exists():
        return path
    shown: list[PassEvidence] = []
    stages = [_rally_stage(name, stem, progress, shown) for name, stem in demo_files.RALLY_STAGES.items()]
    _demo_crew(shown)
    late = (now + STARTS_IN).replace(second=0, microsecond=0)
    first = late + timedelta(minutes=-late.minute % GRID_MIN)
    items = [
        Item(kind, name, first + timedelta(minutes=minutes), takes, number=number, drive=DRIVES.get(name, 1))
        for number, kind, name, minutes, takes in FOLLOW
    ]
    rally = RallyFile.new("Isle Rally").with_itinerary(items)
    for name, identity in stages:
        rally = rally.with_stage(name, identity)
    keep_rally(path, rally)
    return path


def _demo_crew(shown: list[PassEvidence]) -> None:
    """The profile of the demo's crew, to be chosen under Habits."""
    crew_folder().mkdir(parents=True, exist_ok=True)
    path = crew_folder() / f"isle{CREW_SUFFIX}"
    if not path.exists():
        keep_crew_record(path, CrewRecord("Isle", "Slate", "27", passes=tuple(shown)))


def _rally_stage(name: str, stem: str, progress: Progress, shown: list[PassEvidence]) -> tuple[str, str]:
    """A stage of the demo rally, reviewed; its name and identity. What its passes show of the crew goes to ``shown``."""
    path = data_folder() / f"{stem}{SUFFIX}"
    if not path.exists():
        book, run = demo_files.RALLY_NOTES.format(stem), demo_files.RALLY_RUN.format(stem)
        files = [demo_source("notes", book), demo_source("run", run)]

        def first(project: Project) -> None:
            project.set_info("car", "27")
            if name == demo_files.DRIVEN_AGAIN:
                second = demo_files.RALLY_SECOND.format(stem)
                run_again = demo_source("run", second)
                project.add_pass(Pass(0, None, project.passes()[0].notes, kind="later"), {"run": run_again})

        Project.create(path, files, name=name, first=first).close()
    with closing(Project.open(path)) as project:
        for made in project.passes():
            stage = ReviewedPass.of_project(project, pass_id=made.id, progress=progress)
            keep_summary(stage)
            shown.append(shown_by(stage, today()))
        return name, project.info("id")
