"""The contract for other programs against its schema, way-points against the format's own order, and the names for notebooks."""

from __future__ import annotations

import doctest
import json
from importlib import resources
from pathlib import Path

import gpxpy
import jsonschema
import pytest

import mirkle
from mirkle import api
from mirkle.core.review import Review
from mirkle.files.review_json import review_json, review_table
from tests.conftest import CALLS, MORNING, NOTES

SCHEMA = json.loads((resources.files("mirkle") / "share" / "review.schema.json").read_text())


def test_the_schema_is_one_and_says_what_every_member_is() -> None:
    jsonschema.Draft202012Validator.check_schema(SCHEMA)
    assert set(SCHEMA["required"]) == set(SCHEMA["properties"])


def test_the_demos_review_is_as_the_schema_says(demo_review: Review) -> None:
    told = json.loads(review_json(demo_review, (MORNING, NOTES, CALLS)))
    check = jsonschema.Draft202012Validator(SCHEMA)
    assert list(check.iter_errors(told)) == []
    assert [i["sha256"] for i in told["inputs"]] == [MORNING.sha256, NOTES.sha256, CALLS.sha256]
    # Every member that is written is described, and a wrong one is seen.
    assert set(told) == set(SCHEMA["properties"])
    for part in ("notes", "findings"):
        assert set(told[part][0]) == set(SCHEMA["properties"][part]["items"]["properties"])
    told["findings"][0]["severity"] = "grave"
    told["notes"][3]["called"]["direction"] = "up"
    assert len(list(check.iter_errors(told))) == 2


def test_findings_lie_on_the_driven_line(demo_review: Review) -> None:
    plan = demo_review.measured.plan
    for finding in review_table(demo_review)["findings"]:
        assert abs(finding["lat_deg"] - plan.middle_deg[0]) < 0.2
        assert abs(finding["lon_deg"] - plan.middle_deg[1]) < 0.3


def test_without_positions_there_are_none(demo_review: Review) -> None:
    from dataclasses import replace

    nowhere = replace(
        demo_review, measured=replace(demo_review.measured, plan=replace(demo_review.measured.plan, middle_deg=None))
    )
    assert {f["lat_deg"] for f in review_table(nowhere)["findings"]} == {None}


def test_the_examples_for_notebooks_run() -> None:
    assert doctest.testmod(api).failed == 0
    assert doctest.testmod(api).attempted >= 6


def test_a_review_is_written_by_its_ending(demo_review: Review, tmp_path: Path) -> None:
    for ending in ("json", "csv", "html", "gpx"):
        path = mirkle.write(demo_review, tmp_path / f"out.{ending}")
        assert path.stat().st_size > 1000
    points = gpxpy.parse((tmp_path / "out.gpx").read_text())
    assert len(points.waypoints) == len(demo_review.findings)
    assert points.version == "1.1"
    assert json.loads((tmp_path / "out.json").read_text()) == mirkle.table(demo_review)
    with pytest.raises(mirkle.MirkleError, match="ending"):
        mirkle.write(demo_review, tmp_path / "out.xyz")
    with pytest.raises(mirkle.MirkleError, match="no notes"):
        mirkle.review(mirkle.demo_files()["run"])


def test_the_package_names_what_it_has_and_nothing_else() -> None:
    assert set(mirkle.__all__) <= set(api.__all__)
    for name in mirkle.__all__:
        assert getattr(mirkle, name) is getattr(api, name)
    with pytest.raises(AttributeError, match="no attribute"):
        _ = mirkle.lap_times
