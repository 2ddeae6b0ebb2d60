"""The contract for other programs against its schema, way-points against the format's own order, and the names for notebooks."""

from __future__ import annotations

import csv
import doctest
import gzip
import io
import json
from dataclasses import replace
from importlib import resources
from pathlib import Path
from typing import Any

import gpxpy
import jsonschema
import numpy as np
import pytest

import mirkle
from mirkle import api
from mirkle.cli import main
from mirkle.core.review import Review
from mirkle.files import demo_files
from mirkle.files.export.by_ending import BY_ENDING
from mirkle.files.export.passes_json import passes_json
from mirkle.files.export.review_json import review_json, review_table
from mirkle.files.project.project import SourceFile
from mirkle.files.speech.call_files import speech_in
from mirkle.files.speech.heard_json import speech_of
from mirkle.files.speech.listen_json import listen_json, looks_like_listened
from mirkle.session.change_review import followed
from mirkle.session.listening import believable
from mirkle.session.reviewing import Inputs
from tests.conftest import AFTERNOON, CALLS, MORNING, NOTES
from tests.heard import heard_by

SCHEMAS = {
    name: json.loads((resources.files("mirkle") / "share" / f"{name}.schema.json").read_text())
    for name in ("review", "reading", "listen", "passes")
}
SCHEMA = SCHEMAS["review"]


@pytest.mark.parametrize("name", SCHEMAS)
def test_each_schema_is_one_and_has_a_name(name: str) -> None:
    jsonschema.Draft202012Validator.check_schema(SCHEMAS[name])
    assert SCHEMAS[name]["$id"] == f"urn:mirkle:{name}:1"
    assert SCHEMAS[name]["$schema"].endswith("2020-12/schema")


def test_the_reviews_schema_says_what_every_member_is() -> None:
    assert set(SCHEMA["required"]) == set(SCHEMA["properties"])
    called = SCHEMA["properties"]["notes"]["items"]["properties"]["called"]
    assert SCHEMAS["reading"]["properties"]["notes"]["items"]["properties"]["called"] == called


def described(told: object, schema: dict[str, object]) -> None:
    """What is written is as the schema says, and nothing is written that it does not describe."""
    assert list(jsonschema.Draft202012Validator(schema).iter_errors(told)) == []

    def walk(value: object, part: dict[str, Any]) -> None:
        if isinstance(value, dict) and "properties" in part:
            assert value.keys() <= part["properties"].keys()
            for name, inner in value.items():
                walk(inner, part["properties"][name])
        if isinstance(value, list):
            for inner in value:
                walk(inner, part["items"])

    walk(told, schema)


@pytest.mark.parametrize("asked", [["NOTES"], ["CALLS"], ["NOTES", "--calls", "CALLS"]])
def test_readings_are_as_their_schema_says(asked: list[str], tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    files = {"NOTES": tmp_path / NOTES.name, "CALLS": tmp_path / CALLS.name}
    files["NOTES"].write_bytes(NOTES.content)
    files["CALLS"].write_bytes(CALLS.content)
    assert main(["read", *(str(files.get(a, a)) for a in asked)]) == 0
    described(json.loads(capsys.readouterr().out), SCHEMAS["reading"])


def test_call_times_are_as_their_schema_says_and_come_back_as_calls(demo_review: Review) -> None:
    """Times alone, without what Mirkle keeps for itself, give the review the same calls; in a later edition each finds its note."""
    heard = heard_by(demo_review)
    text = listen_json(heard)
    told = json.loads(text)
    described(told, SCHEMAS["listen"])
    assert [c["index"] for c in told["calls"]] == list(range(len(heard.texts)))
    assert told["sound"]["usable"]
    assert looks_like_listened(text)
    book = demo_review.reading
    by_kept, by_told = (speech_of(heard, book), speech_in(SourceFile("listened", "listen.json", text.encode()), book=book))
    assert [s.said_as for s in by_told.spoken] == [s.said_as for s in by_kept.spoken]
    np.testing.assert_allclose([s.from_s for s in by_told.said], [s.from_s for s in by_kept.said], atol=1e-3)
    assert by_told.tied == pytest.approx(by_kept.tied, abs=1e-3)
    shorter = replace(book, notes=tuple(replace(n, index=i) for i, n in enumerate(book.notes[4:])))
    np.testing.assert_allclose(
        [s.from_s for s in speech_in(SourceFile("listened", "l", text.encode()), book=shorter).said],
        [s.from_s for s in by_kept.said][4:],
        atol=1e-3,
    )
    for call in told["calls"]:
        del call["text"]
    bare = json.dumps(told).encode()
    assert speech_in(SourceFile("listened", "l", bare), book=book).said[7] == by_told.said[7]
    with pytest.raises(mirkle.MirkleError, match="not as many as the notes"):
        speech_in(SourceFile("listened", "l", bare), book=shorter)


def test_in_noise_that_hides_the_voice_no_call_has_a_time(demo_review: Review) -> None:
    heard = heard_by(demo_review)
    calls = tuple(replace(c, sure=0.2) for c in heard.listening.calls)
    told = json.loads(listen_json(replace(heard, listening=replace(heard.listening, calls=calls))))
    described(told, SCHEMAS["listen"])
    assert not told["sound"]["usable"]
    assert {c["start_s"] for c in told["calls"]} == {None}
    assert not any(c["sure"] for c in told["calls"])
    with pytest.raises(mirkle.MirkleError, match="hides the voice"):
        believable(replace(heard, listening=replace(heard.listening, calls=calls)))


def test_passes_are_as_their_schema_says() -> None:
    corrected = SourceFile("notes", demo_files.CORRECTED, demo_files.demo_file(demo_files.CORRECTED))
    told = json.loads(passes_json(followed([Inputs(MORNING, NOTES), Inputs(AFTERNOON, corrected)])))
    assert told["changes"]
    described(told, SCHEMAS["passes"])


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
    nowhere = replace(demo_review, measured=replace(demo_review.measured, plan=replace(demo_review.measured.plan, middle_deg=None)))
    assert {f["lat_deg"] for f in review_table(nowhere)["findings"]} == {None}


def test_the_examples_for_notebooks_run() -> None:
    assert doctest.testmod(api).failed == 0
    assert doctest.testmod(api).attempted >= 6


def test_a_review_is_written_by_its_ending(demo_review: Review, tmp_path: Path) -> None:
    for ending in (*BY_ENDING, ".json"):
        path = mirkle.write(demo_review, tmp_path / f"out{ending}")
        assert path.stat().st_size > 1000
    points = gpxpy.parse((tmp_path / "out.gpx").read_text())
    assert len(points.waypoints) == len(demo_review.findings)
    assert json.loads((tmp_path / "out.json").read_text()) == mirkle.table(demo_review)
    with pytest.raises(mirkle.MirkleError, match="ending"):
        mirkle.write(demo_review, tmp_path / "out.xyz")
    with pytest.raises(mirkle.MirkleError, match="no notes"):
        mirkle.review(mirkle.demo_files()["run"])


def test_paths_open_files_and_columns_give_the_same_review() -> None:
    files = mirkle.demo_files()
    by_path = mirkle.review(files["run"], notes=files["notes"])
    with files["run"].open("rb") as run, files["notes"].open() as notes:
        opened = mirkle.review(run, notes=notes)
    with gzip.open(files["run"], "rt") as file:
        heads, *rows = csv.reader(file)
    columns = {head: np.array([float(row[k] or "nan") for row in rows]) for k, head in enumerate(heads)}
    named = np.rec.fromarrays(list(columns.values()), names=heads)
    for found in (opened, mirkle.review(columns, notes=files["notes"]), mirkle.review(np.asarray(named), notes=files["notes"])):
        assert [f.id for f in found.findings] == [f.id for f in by_path.findings]
    assert [i["kind"] for i in mirkle.table(by_path)["inputs"]] == ["run", "notes"]
    assert [i["sha256"] for i in mirkle.table(by_path)["inputs"]] == [MORNING.sha256, NOTES.sha256]
    with pytest.raises(mirkle.MirkleError, match="one length"):
        mirkle.review({"time_s": np.arange(5.0), "lat_deg": np.arange(4.0)}, notes=files["notes"])
    with pytest.raises(mirkle.MirkleError, match="no names"):
        mirkle.review(np.zeros((5, 2)), notes=files["notes"])
    with pytest.raises(mirkle.MirkleError, match="empty"):
        mirkle.review(io.BytesIO(b""), notes=files["notes"])


def test_results_are_short_to_look_at_and_whole_as_arrays_and_data_frames() -> None:
    files = mirkle.demo_files()
    found = mirkle.review(files["run"], notes=files["notes"])
    for shown in (found, found.findings[0], found.notes[0], found.reading):
        assert len(repr(shown)) < 100
    told = mirkle.table(found)
    for what in ("findings", "notes"):
        arrays = found.arrays(what)
        assert {len(column) for column in arrays.values()} == {len(told[what])}
    assert list(arrays["called_grade"]) == [n["called"]["grade"] for n in told["notes"]]
    radius = [n["met"]["radius_m"] if n["met"] else np.nan for n in told["notes"]]
    np.testing.assert_array_equal(arrays["met_radius_m"], radius)
    assert "met" not in arrays
    road = found.arrays("road")
    np.testing.assert_array_equal(road["curvature_per_m"], found.profile.curvature_per_m)
    assert {column.shape for column in road.values()} == {(len(found.profile.distance_m),)}
    with pytest.raises(mirkle.MirkleError, match="no such arrays"):
        found.arrays("tyres")
    pandas = pytest.importorskip("pandas")
    frame = found.to_dataframe()
    assert isinstance(frame, pandas.DataFrame)
    assert list(frame["id"]) == [f.id for f in found.findings]
    assert list(mirkle.read("L4 60\nR3").to_dataframe()["direction"]) == ["left", "right"]
    run = pandas.read_csv(files["run"])
    assert [f.id for f in mirkle.review(run, notes=files["notes"]).findings] == list(frame["id"])


def test_the_package_names_what_it_has_and_nothing_else() -> None:
    assert set(mirkle.__all__) <= set(api.__all__)
    for name in mirkle.__all__:
        assert getattr(mirkle, name) is getattr(api, name)
    assert set(dir(mirkle)) == {"__version__", *mirkle.__all__}
    with pytest.raises(AttributeError, match="no attribute"):
        _ = mirkle.lap_times
