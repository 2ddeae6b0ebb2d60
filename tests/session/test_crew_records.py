"""A crew's profile on this machine: gathered with its say-so, readable, used for other stages' reviews, and deleted when it says so."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest

from mirkle.core.errors import MirkleError
from mirkle.core.habits.evidence import shows_its_crew
from mirkle.core.habits.findings import habits_of
from mirkle.core.habits.pooled import at_large
from mirkle.core.notes.grading import SENSE_KNOWN, known_school
from mirkle.files.crew_record import CrewRecord, UnusableCrewRecord, crew_record_text, keep_crew_record, parse_crew_record, read_crew_record
from mirkle.files.project.project import Project, SourceFile
from mirkle.session import crew_records
from mirkle.session.crew_gathering import gather
from mirkle.session.kept_reviews import kept_review
from mirkle.session.open_files import open_pass
from mirkle.session.pass_list import inputs_of_pass
from mirkle.session.reviewing import Inputs, review_material
from tests.conftest import MORNING
from tests.regraded import as_written, book_of


@pytest.mark.usefixtures("rally_home")
def test_a_profile_is_kept_as_it_is_and_can_be_read_by_people() -> None:
    (path,) = crew_records.known_crews()
    record = read_crew_record(path)
    again = parse_crew_record(crew_record_text(record), name="r")
    assert (again.name, len(again.passes)) == ("Isle / Slate (27)", 4)
    for one, other in zip(record.passes, again.passes, strict=True):
        assert (one.stage, one.pass_id, one.notes, one.book) == (other.stage, other.pass_id, other.notes, other.book)
        for name in ("rows", "called", "trust", "lead_s"):
            assert np.allclose(getattr(one, name), getattr(other, name), atol=1e-3, equal_nan=True)
    data = json.loads(path.read_text())
    assert (data["format"], data["driver"], data["gathers"]) == ("mirkle-crew/1", "Isle", True)


@pytest.mark.usefixtures("rally_home")
def test_the_demo_crews_lefts_are_found() -> None:
    (path,) = crew_records.known_crews()
    (habit,) = habits_of(read_crew_record(path).passes, crew_records.today())
    assert habit.kind == "side"
    assert 0.3 < habit.size < 0.7


def test_nothing_is_gathered_and_nothing_is_used_before_a_crew_says_so(rally_home: Path) -> None:
    with_stage = open_pass(Project.open(rally_home / "tarn-moor.mirkle"))
    assert crew_records.chosen_crew() is None
    assert not gather(with_stage)
    assert with_stage.inputs.scale is None
    with_stage.project.close()
    with pytest.raises(MirkleError, match="needs a name"):
        crew_records.begin_crew(CrewRecord())
    path = crew_records.begin_crew(CrewRecord("A", "B", gathers=False, used=False))
    with_stage = open_pass(Project.open(rally_home / "tarn-moor.mirkle"))
    assert not gather(with_stage)
    assert with_stage.inputs.scale is None
    keep_crew_record(path, replace(read_crew_record(path), gathers=True))
    assert gather(with_stage)
    assert not gather(with_stage), "the same again is nothing new"
    assert [p.stage for p in read_crew_record(path).passes] == [with_stage.project.info("id")]
    with_stage.project.close()


def test_a_stage_is_judged_by_what_other_stages_show_and_stays_so(rally_home: Path) -> None:
    (path,) = crew_records.known_crews()
    project = Project.open(rally_home / "cray-bank.mirkle")
    plain = open_pass(project)
    assert plain.review.scale is None
    crew_records.choose_crew(path)
    inputs = inputs_of_pass(project, project.passes()[0])
    assert inputs.scale is not None
    assert inputs.scale.stages == 2, "a stage is no evidence for itself"
    assert inputs.scale.school == known_school(2, 0, 6)
    known = open_pass(project)
    assert known.review.scale is not None
    assert known.review.lineup.claims == plain.review.lineup.claims, "pair first, then the prior"
    assert not np.allclose(known.review.lineup.grades.weights, plain.review.lineup.grades.weights)
    kept = kept_review(project, inputs)
    assert kept is not None, "it is not made again when it is opened again"
    assert kept.scale is not None
    assert kept.scale.school == inputs.scale.school
    assert kept_review(project, replace(inputs, scale=replace(inputs.scale, school=known_school(0, 2, 6)))) is None
    # What is gathered later doesn't move the findings of this stage, until somebody asks for it.
    record = read_crew_record(path)
    keep_crew_record(path, replace(record, passes=record.passes[:1]))
    assert np.allclose(inputs_of_pass(project, project.passes()[0]).scale.mean, inputs.scale.mean)
    crew_records.forget_scale(project)
    assert inputs_of_pass(project, project.passes()[0]).scale.stages == 1
    # Switched off, it is as it was.
    keep_crew_record(path, replace(record, used=False))
    assert inputs_of_pass(project, project.passes()[0]).scale is None
    project.close()


def test_a_book_that_does_not_tell_which_way_it_counts_is_read_as_the_crews_others_and_shows_nothing_by_itself() -> None:
    """Nine notes of a crew that counts downwards: too few for the road to tell."""
    lines = book_of(as_written(), "wheel").decode().splitlines()[:9]
    inputs = Inputs(MORNING, SourceFile("notes", "short.txt", "\n".join(lines).encode()))
    alone = review_material(inputs)
    assert (alone.school.sense, shows_its_crew(alone)) == ("ascending", False)
    known = review_material(replace(inputs, scale=replace(at_large(), school=known_school(0, 3, 6))))
    assert (known.school.sense, known.school.sense_sure >= SENSE_KNOWN) == ("descending", True)
    assert not any("is tight or nearly flat out" in str(doubt) for doubt in known.doubts)


def test_delete_means_delete(rally_home: Path) -> None:
    (path,) = crew_records.known_crews()
    crew_records.choose_crew(path)
    assert crew_records.chosen_crew() is not None
    crew_records.delete_crew(path)
    assert crew_records.chosen_crew() is None
    assert crew_records.known_crews() == []
    assert not [p for p in rally_home.rglob("*") if "crew" in p.suffix]


@pytest.mark.parametrize(
    "content",
    [
        b"",
        b"[]",
        b'{"format": "mirkle-crew/2", "passes": []}',
        b'{"format": "mirkle-crew/1"}',
        b'{"format": "mirkle-crew/1", "passes": [{"stage": "s", "pass": "1", "book": "", "top": 6, "corners": [[1, 2]]}]}',
        b'{"format": "mirkle-crew/1", "passes": [{"stage": "s", "pass": "1", "book": "", "top": 0, "corners": []}]}',
        b'{"format": "mirkle-crew/1", "passes": [{"stage": "s", "pass": "1", "book": "", "top": 6, "day": 1e999, "corners": []}]}',
    ],
)
def test_what_is_no_profile_is_refused_and_stops_nothing(content: bytes, rally_home: Path) -> None:
    with pytest.raises(UnusableCrewRecord, match="damaged or not a crew's profile"):
        parse_crew_record(content, name="r")
    path = crew_records.begin_crew(CrewRecord("A"))
    path.write_bytes(content)
    assert crew_records.chosen_crew() is None
    project = Project.open(rally_home / "cray-bank.mirkle")
    assert inputs_of_pass(project, project.passes()[0]).scale is None
    # A stage whose kept scale is damaged is judged by what is known now.
    keep_crew_record(path, CrewRecord("A"))
    project.set_info("scale", '{"crew": 3, "mean": "x"}')
    assert inputs_of_pass(project, project.passes()[0]).scale is not None
    project.close()
