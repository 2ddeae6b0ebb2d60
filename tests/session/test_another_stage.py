"""A recording of another road, a second stage, and the season's counts."""

import gzip
import json
from pathlib import Path

import numpy as np
import pytest

from mirkle import cli
from mirkle.core.joint.same_road import road_of
from mirkle.core.recording.model import Channel, Recording
from mirkle.files.project.project import Project, SourceFile
from mirkle.session import season
from mirkle.session.assign_files import NEW, STAGE, intake_of, take_in_all
from mirkle.session.described_files import described
from mirkle.session.open_files import put_together
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.shelf import shelf
from tests.conftest import AFTERNOON, CALLS, MORNING, NOTES
from tests.core.test_passes import driven, winding
from tests.worlds import csv_of, recording_of_curvature

ROAD = winding((60.0, 80), (-30.0, 100), (150.0, 45), (-12.0, 150), (45.0, 60), (-80.0, 70), (25.0, 90), (-50.0, 40))
OTHER = winding((-25.0, 140), (90.0, 30), (40.0, 100), (-60.0, 60), (30.0, 120), (20.0, 60), (-100.0, 50), (35.0, 75))


def test_roads_are_told_apart_by_where_they_go() -> None:
    once, again, other = driven(ROAD, seed=4), driven(ROAD, seed=5), driven(OTHER, seed=6)
    here, same, elsewhere = ((m.profile, m.plan) for m in (once, again, other))
    assert road_of(here, same) == "same"
    assert road_of(here, elsewhere) == "another"
    # The other way round, and a part of it.
    back, half = driven(-ROAD[::-1], seed=7), driven(ROAD[: len(ROAD) // 2], seed=8)
    assert road_of(here, (back.profile, back.plan)) == "another"
    assert road_of(here, (half.profile, half.plan)) == "same"
    assert road_of((half.profile, half.plan), here) == "same"


def without_positions(recording: Recording) -> Recording:
    """Speed and yaw rate alone."""
    yaw = recording.channels["yaw_rate_radps"]
    speed = recording.channels.get("speed_mps", Channel(yaw.time_s, np.full(len(yaw.time_s), 20.0)))
    return Recording(recording.name, {"yaw_rate_radps": yaw, "speed_mps": speed})


def test_without_positions_by_how_they_turn() -> None:
    from mirkle.core.review import measure_run

    def measured(road: np.ndarray, seed: int):  # type: ignore[no-untyped-def]
        return measure_run(without_positions(recording_of_curvature(road, seed=seed)))

    long, other = np.concatenate([ROAD, OTHER]), np.concatenate([OTHER, ROAD])
    once, again, elsewhere = measured(long, 4), measured(long, 5), measured(other, 6)
    assert once.plan.middle_deg is None
    here, same, there = ((m.profile, m.plan) for m in (once, again, elsewhere))
    assert road_of(here, same) == "same"
    assert road_of(here, there) == "another"
    short = measured(ROAD[:500], 7)
    assert road_of(here, (short.profile, short.plan)) == "unknown"


def elsewhere(tmp_path: Path) -> Path:
    path = tmp_path / "elsewhere.csv"
    path.write_text(csv_of(recording_of_curvature(np.concatenate([OTHER, ROAD, OTHER]), seed=9)))
    return path


def test_a_recording_of_another_road_is_asked_about_as_another_stage(stage: ReviewedPass, tmp_path: Path) -> None:
    path = elsewhere(tmp_path)
    other = described(SourceFile("run", path.name, path.read_bytes()))
    asked = intake_of(stage, [other])
    (row,) = asked.rows
    assert asked.has_to_ask
    assert row.chosen == STAGE
    assert "another road" in str(row.warning)
    assert row.roads is not None
    assert [r.shape[0] for r in row.roads] == [2, 2]
    # What comes along goes with it; a third drive of the same road is a pass like any other.
    book = described(SourceFile("notes", "other.txt", b"L4 80\nR3 60\nL5 40\n"))
    assert {r.chosen for r in intake_of(stage, [other, book]).rows} == {STAGE}
    same = intake_of(stage, [described(SourceFile("run", "third.csv", gzip.decompress(AFTERNOON.content)))])
    assert [(r.chosen, r.warning) for r in same.rows] == [(NEW, None)]
    # Who is sure takes it in all the same.
    shown = take_in_all(stage, asked.with_choice(0, NEW))
    assert len(stage.project.passes()) == shown == 3


def test_the_command_line_refuses_passes_of_two_roads_unless_it_is_told(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    for one in (NOTES, MORNING, CALLS):
        (tmp_path / one.name).write_bytes(one.content)
    run, notes, other = tmp_path / MORNING.name, tmp_path / NOTES.name, elsewhere(tmp_path)
    out = tmp_path / "out.json"
    command = ["review", str(run), str(other), "--notes", str(notes), "--json", str(out)]
    assert cli.main(command) == 2
    assert "elsewhere.csv: this is not the road of" in capsys.readouterr().err
    assert not out.exists()
    assert cli.main([*command, "--any-road"]) == 0
    assert json.loads(out.read_text())["findings"]
    passes = ["passes", "--pass", str(run), str(notes), "-", "--pass", str(other), str(notes), "-"]
    assert cli.main(passes) == 2
    assert "--any-road" in capsys.readouterr().err


def test_a_stage_has_the_name_that_its_notes_or_its_recording_give_it() -> None:
    def made(notes: str, content: bytes, run: str = "run.csv.gz") -> str:
        found = [described(SourceFile("notes", notes, content)), described(SourceFile("run", run, MORNING.content))]
        stage = put_together(found, lambda *_: None).stage
        assert stage is not None
        name = stage.project.name
        stage.project.close()
        return name

    titled = b"Slatehook Quarry Road\n\n" + NOTES.content
    assert made("notes.txt", titled) == "Slatehook Quarry Road"
    assert made("notes.txt", titled) == "Slatehook Quarry Road (2)"
    assert made("ss4 blackpit.txt", NOTES.content) == "ss4 blackpit"
    by_place = made("notes.txt", NOTES.content)
    assert by_place.count(" ") == 3
    assert made("typed-notes.txt", NOTES.content) == f"{by_place} (2)"
    assert made("notes.txt", NOTES.content, "slatehook-morning.csv.gz") == "slatehook-morning"
    assert sorted(s.name for s in shelf()) == sorted(
        ["slatehook-morning", "Slatehook Quarry Road", "Slatehook Quarry Road (2)", "ss4 blackpit", by_place, f"{by_place} (2)"]
    )


def test_the_seasons_counts_can_be_put_right() -> None:
    season.count_verdicts(Path("a.mirkle"), {"fits": 3, "too-fast": 1})
    assert season.count_verdicts(Path("b.mirkle"), {"fits": 2}) == {"fits": 5, "too-fast": 1}
    season.count_stage("a.mirkle", counts=False)
    assert season.count_verdicts(Path("b.mirkle"), {"fits": 2}) == {"fits": 2}
    assert [(s.path, s.counts) for s in season.counted_stages()] == [("a.mirkle", False), ("b.mirkle", True)]
    season.count_stage("a.mirkle", counts=True)
    assert season.count_verdicts(Path("b.mirkle"), {"fits": 2}) == {"fits": 5, "too-fast": 1}


def test_the_shelf_counts_again_what_was_decided_since(stage: ReviewedPass, tmp_path: Path) -> None:
    from mirkle.session.shelf import shelved
    from mirkle.session.stage_summary import keep_summary

    keep_summary(stage)
    path, dangers = stage.project.path, stage.book.dangers_left
    assert shelved(path).dangers_left == dangers
    # Killed before it was counted.
    for finding in [f for f in stage.findings if f.severity == "danger"][:3]:
        stage.book.answer(finding, "keep")
    stage.project.close()
    assert shelved(path).dangers_left == dangers - 3
    with_notes_only = Project.create(tmp_path / "book.mirkle", [NOTES], name="Book")
    with_notes_only.close()
    assert not shelved(tmp_path / "book.mirkle").opened
