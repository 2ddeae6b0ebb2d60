"""What is taken away: tables, way-points and a report in which nothing can run; editions against each other."""

import csv
import io
import json
import re
from dataclasses import replace
from pathlib import Path

import geojson
import gpxpy
import numpy as np
import openpyxl
import pytest
import webvtt
from fastkml import KML, Placemark
from fastkml.utils import find_all
from lxml import etree, html
from python_calamine import CalamineWorkbook

import mirkle
from mirkle.core.cautions import CAUTIONS
from mirkle.core.errors import MirkleError
from mirkle.core.motion.geodesy import degrees_of
from mirkle.files.export.content import Content
from mirkle.files.export.report import report_of
from mirkle.files.export.report_html import report_html
from mirkle.files.export.table import COLUMNS, csv_of
from mirkle.files.recordings.readers import read_run
from mirkle.files.speech.timed_text import parse_calls
from mirkle.session.decision_book import BOTH
from mirkle.session.editions import differences, editions
from mirkle.session.export import content_of, write_export
from mirkle.session.reviewed_pass import ReviewedPass

EVIL = '=HYPERLINK("http://x.invalid";"L4") <script>alert(1)</script> & <img src=x onerror=y>'


def decided(stage: ReviewedPass) -> ReviewedPass:
    """Two marked, one to talk over, a hazard and a condition with what no file should run."""
    for finding in stage.findings[:2]:
        stage.choose(finding)
        stage.mark(stage.book.proposal(finding).text, by=BOTH, remark="@SUM(A1)")
    stage.choose(stage.findings[2])
    stage.answer("talk", by="driver")
    stage.book.road.add("hazard", 900.0, 900.0, EVIL)
    stage.book.road.add("condition", 3000.0, 3200.0, "ice in the shade")
    return stage


@pytest.mark.parametrize("text", ["=1", " =1", "＝1", "＋1", "－1", "＠x", "\t=1"])
def test_a_cell_that_a_spreadsheet_could_run_is_quoted(text: str, stage: ReviewedPass) -> None:
    stage.book.road.add("hazard", 900.0, 900.0, text)
    rows = list(csv.DictReader(io.StringIO(csv_of(content_of(stage)).decode("utf-8-sig"))))
    assert rows[-1]["why"] == f"'{stage.book.road.additions[-1].words}"


def test_workbooks_read_elsewhere_hold_figures_as_figures_and_text_as_text(stage: ReviewedPass, tmp_path: Path) -> None:
    """Read back by openpyxl and by calamine, a reader of both formats."""
    wanted = [[getattr(entry, name) for name in COLUMNS] for entry in report_of(content_of(decided(stage))).entries]
    for ending in ("xlsx", "ods"):
        write_export(stage, tmp_path / f"f.{ending}")
        heads, *rows = CalamineWorkbook.from_path(tmp_path / f"f.{ending}").get_sheet_by_name("findings").to_python()
        assert tuple(heads) == COLUMNS
        assert len(rows) == len(wanted)
        for row, told in zip(rows, wanted, strict=True):
            for cell, value in zip(row, told, strict=True):
                assert cell == (pytest.approx(value) if isinstance(value, int | float) else value or ""), (ending, value)
    sheet = openpyxl.load_workbook(tmp_path / "f.xlsx")["findings"]
    assert {cell.data_type for row in sheet.iter_rows() for cell in row} <= {"s", "n"}
    assert sheet.freeze_panes == "A2"


def test_maps_read_elsewhere_hold_the_same_places_and_end_at_the_finish(stage: ReviewedPass, tmp_path: Path) -> None:
    """Read back by gpxpy, fastkml and geojson."""
    for ending in ("gpx", "kml", "geojson"):
        write_export(decided(stage) if ending == "gpx" else stage, tmp_path / f"p.{ending}")
    gpx = gpxpy.parse((tmp_path / "p.gpx").read_text())
    ways = [(w.longitude, w.latitude, w.name) for w in gpx.waypoints]
    points = gpx.tracks[0].segments[0].points
    assert gpx.tracks[0].length_2d() == pytest.approx(stage.review.finish_m, rel=2e-3)
    marks = list(find_all(KML.parse(tmp_path / "p.kml"), of_type=Placemark))
    assert [(*m.geometry.coords[0][:2], m.name) for m in marks[:-1]] == ways
    collection = geojson.loads((tmp_path / "p.geojson").read_text())
    assert collection.is_valid
    line, *spots = collection.features
    assert [s.properties["name"] for s in spots] == [name for _, _, name in ways]
    np.testing.assert_allclose([s.geometry.coordinates[:2] for s in spots], [w[:2] for w in ways], atol=1e-6)
    assert {s.properties["id"] for s in spots if "id" in s.properties} == {f.id for f in stage.findings}
    for end in (0, -1):
        here = points[end].longitude, points[end].latitude
        assert marks[-1].geometry.coords[end][:2] == here
        assert line.geometry.coordinates[end] == pytest.approx([*here, points[end].elevation], abs=1e-6)


def test_a_track_taken_in_again_is_the_drive_and_calls_taken_in_again_are_the_calls(stage: ReviewedPass, tmp_path: Path) -> None:
    for ending in ("gpx", "vtt", "txt"):
        write_export(stage, tmp_path / f"p.{ending}")
    review = stage.review
    run = read_run(tmp_path / "p.gpx")
    profile, lat = review.profile, run.channels["lat_rad"]
    assert lat.time_s[-1] - lat.time_s[0] == pytest.approx(review.finish_s - profile.time_s[0], abs=2e-3)
    assert run.channels["alt_m"].value.shape == lat.value.shape
    again_driven = mirkle.review(tmp_path / "p.gpx", notes=tmp_path / "p.txt")
    assert again_driven.finish_m == pytest.approx(review.finish_m, rel=5e-3)
    at_s = lat.time_s - lat.time_s[0] + profile.time_s[0]
    assert review.measured.plan.middle_deg is not None
    plan = review.measured.plan
    east, north = (np.interp(at_s, profile.time_s, v) for v in (plan.east_m + plan.start_m[0], plan.north_m + plan.start_m[1]))
    lat_deg, lon_deg = degrees_of(east, north, plan.middle_deg)
    np.testing.assert_allclose(np.degrees(lat.value), lat_deg, atol=3e-6)
    np.testing.assert_allclose(np.degrees(run.channels["lon_rad"].value), lon_deg, atol=3e-6)
    again = parse_calls((tmp_path / "p.vtt").read_bytes(), name="p.vtt", book=review.reading)
    for note, (said, told) in enumerate(zip(review.calls, again.spoken, strict=True)):
        if said.time is not None:
            assert told.from_s == pytest.approx(said.time.from_s, abs=2e-3), note
    assert len(webvtt.read(tmp_path / "p.vtt")) == sum(c.time is not None for c in review.calls)
    assert (tmp_path / "p.txt").read_text() == stage.book.edition.text


def test_no_cell_of_the_table_begins_a_formula(stage: ReviewedPass, tmp_path: Path) -> None:
    write_export(decided(stage), tmp_path / "f.csv")
    rows = list(csv.DictReader(io.StringIO((tmp_path / "f.csv").read_bytes().decode("utf-8-sig"))))
    assert len(rows) == len(stage.findings) + 2
    assert tuple(rows[0]) == COLUMNS
    assert not [v for row in rows for v in row.values() if re.match(r"[=+\-@\t\r]", v)]
    assert rows[0]["decision"] == "mark"
    assert rows[0]["remark"] == "'@SUM(A1)"
    assert rows[-2]["why"] == "'" + EVIL
    assert float(rows[0]["from_m"]) == pytest.approx(stage.findings[0].from_m, abs=0.05)


def test_the_report_holds_what_was_written_and_nothing_that_runs_or_is_fetched(stage: ReviewedPass) -> None:
    decided(stage)
    page = report_html(replace(content_of(stage), name=EVIL))
    tree = html.fromstring(page)
    assert tree.xpath("//h1/text()") == [EVIL]
    assert not tree.xpath("//script|//img|//iframe|//link|//object|//*[@src]|//*[@href]")
    assert not [a for element in tree.iter() for a in getattr(element, "attrib", {}) if a.startswith("on")]
    assert "default-src 'none'" in tree.xpath("//meta/@content")[0]
    words = tree.text_content()
    assert all(caution in words for caution in CAUTIONS)
    assert len(tree.xpath("//section")) == len(stage.findings)
    assert len(tree.xpath("//svg")) == len(stage.findings) + 1
    assert EVIL in words


def test_page_and_table_say_of_each_finding_what_the_report_says(stage: ReviewedPass) -> None:
    report = report_of(content_of(decided(stage)))
    rows = list(csv.DictReader(io.StringIO(csv_of(content_of(stage)).decode("utf-8-sig"))))
    sections = [section.text_content() for section in html.fromstring(report_html(content_of(stage))).xpath("//section")]
    assert len(report.of("finding")) == len(sections) == len(stage.findings)
    for entry, row, section in zip(report.of("finding"), rows, sections, strict=False):
        assert (row["note"], row["why"], row["proposal"]) == (entry.note, entry.why, entry.proposal or "")
        assert all(part in section for part in (entry.title, entry.place, entry.why or "", *(entry.proposal or "").split("\n")))
        assert entry.decided in section
    first, second, third = report.of("finding")[:3]
    assert (first.decided, second.answered, third.decided) == ("marked, both, @SUM(A1)", "marked", "to talk about, driver")
    assert [entry.title for entry in report.of("added")] == ["hazard", "next pass only"]


def test_way_points_lie_on_the_driven_line_and_read_elsewhere(stage: ReviewedPass, tmp_path: Path) -> None:
    write_export(decided(stage), tmp_path / "p.gpx")
    gpx = gpxpy.parse((tmp_path / "p.gpx").read_text())
    assert len(gpx.waypoints) == len(stage.findings) + 2
    track = [p for t in gpx.tracks for s in t.segments for p in s.points]
    assert gpx.tracks[0].length_2d() == pytest.approx(stage.review.finish_m, rel=0.01)
    for way in gpx.waypoints:
        assert min(way.distance_2d(p) for p in track) < 6.0
    assert track[0].latitude == pytest.approx(44.2, abs=0.2)
    assert EVIL in [w.description for w in gpx.waypoints]
    # In the order of the schema of GPX 1.1: metadata, then way-points, then tracks.
    schema = etree.XMLSchema(etree.parse(Path(__file__).parents[1] / "outside" / "gpx-1.1.xsd"))
    schema.assertValid(etree.fromstring((tmp_path / "p.gpx").read_bytes()))


def test_the_review_for_other_programs_is_the_contract(stage: ReviewedPass, tmp_path: Path) -> None:
    write_export(stage, tmp_path / "r.json")
    assert json.loads((tmp_path / "r.json").read_text())["format"] == "mirkle-review/1"


def test_what_was_seen_on_the_video_stands_apart_from_what_was_measured(stage: ReviewedPass, tmp_path: Path) -> None:
    stage.book.see("tighter", 20, "L3 20", by=BOTH)
    stage.book.see("longer", 30)
    stage.book.see("hazard", 40, "=stone inside")
    for ending in ("csv", "html"):
        write_export(stage, tmp_path / f"out.{ending}")
    rows = list(csv.DictReader(io.StringIO((tmp_path / "out.csv").read_text("utf-8-sig"))))
    seen = [(r["note"], r["met"], r["decision"], r["written"]) for r in rows if r["kind"] == "seen on the video"]
    assert seen == [
        (stage.notes[20].text, "tighter than it was called", "mark", "L3 20"),
        (stage.notes[30].text, "longer than it was called", "talk", ""),
    ]
    assert all(r["severity"] == "" and r["confidence"] == "" for r in rows if r["kind"] == "seen on the video")
    page = (tmp_path / "out.html").read_text()
    at, findings = page.index("<h2>Seen on the video</h2>"), page.index("<h2>Findings</h2>")
    assert "tighter than it was called → <b>L3 20</b>" in page[at:findings]
    assert "=stone inside" in page


def test_without_positions_there_are_no_way_points(stage: ReviewedPass, tmp_path: Path) -> None:
    measured = stage.review.measured
    plan = replace(measured.plan, middle_deg=None)
    stage.book.rebase(replace(stage.review, measured=replace(measured, plan=plan)))
    with pytest.raises(MirkleError, match="no positions"):
        write_export(stage, tmp_path / "p.gpx")
    assert not (tmp_path / "p.gpx").exists()


def test_a_table_of_nothing_decided_has_every_finding(stage: ReviewedPass) -> None:
    rows = list(csv.reader(io.StringIO(csv_of(Content("s", stage.review)).decode("utf-8-sig"))))
    assert [r[0] for r in rows[1:]] == [f.severity for f in stage.findings]


def test_editions_show_what_changed_between_any_two(stage: ReviewedPass) -> None:
    assert [str(e.name) for e in editions(stage)] == ["as written"]
    marked = [f for f in stage.findings if f.proposal is not None and f.kind == "grade-tighter"][:3]
    for finding in marked:
        stage.choose(finding)
        stage.mark(stage.book.proposal(finding).text)
    found = editions(stage)
    assert [str(e.name) for e in found] == ["as written", "after 1 change", "after 2 changes", "as it stands now"]
    assert found[-1].text == stage.book.edition.text
    for count, edition in enumerate(found):
        assert len(differences(found[0].text, edition.text)) == count
    (last,) = differences(found[2].text, found[3].text)
    note = stage.review.notes[marked[2].note]
    assert note.text in last.old
    assert last.new == last.old.replace(note.text, stage.book.decisions[marked[2].id].text)
    assert differences(found[3].text, found[3].text) == []
