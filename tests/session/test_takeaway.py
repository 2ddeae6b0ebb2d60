"""What is taken away: tables, way-points and a report in which nothing can run; editions against each other."""

import csv
import io
import json
import re
from dataclasses import replace
from pathlib import Path

import gpxpy
import pytest
from lxml import etree, html

from mirkle.core.cautions import CAUTIONS
from mirkle.core.errors import MirkleError
from mirkle.files.exports import COLUMNS, findings_csv, report_html
from mirkle.session.book import BOTH
from mirkle.session.editions import differences, editions
from mirkle.session.stage import Stage
from mirkle.session.takeaway import write_export

EVIL = '=HYPERLINK("http://x.invalid";"L4") <script>alert(1)</script> & <img src=x onerror=y>'


def decided(stage: Stage) -> Stage:
    """Two marked, one to talk over, a hazard and a condition with what no file should run."""
    for finding in stage.findings[:2]:
        stage.choose(finding)
        stage.mark(stage.book.proposal(finding).text, by=BOTH, remark="@SUM(A1)")
    stage.choose(stage.findings[2])
    stage.answer("talk", by="driver")
    stage.book.add("hazard", 900.0, 900.0, EVIL)
    stage.book.add("condition", 3000.0, 3200.0, "ice in the shade")
    return stage


def test_no_cell_of_the_table_begins_a_formula(stage: Stage, tmp_path: Path) -> None:
    write_export(decided(stage), "csv", tmp_path / "f.csv")
    rows = list(csv.DictReader(io.StringIO((tmp_path / "f.csv").read_bytes().decode("utf-8-sig"))))
    assert len(rows) == len(stage.findings) + 2
    assert tuple(rows[0]) == COLUMNS
    assert not [v for row in rows for v in row.values() if re.match(r"[=+\-@\t\r]", v)]
    assert rows[0]["decision"] == "mark"
    assert rows[0]["remark"] == "'@SUM(A1)"
    assert rows[-2]["why"] == "'" + EVIL
    assert float(rows[0]["from_km"]) == pytest.approx(stage.findings[0].from_m / 1000, abs=1e-3)


def test_the_report_holds_what_was_written_and_nothing_that_runs_or_is_fetched(stage: Stage) -> None:
    decided(stage)
    page = report_html(EVIL, stage.review, stage.book.edition.changes, stage.book.decisions, stage.book.additions)
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


def test_way_points_lie_on_the_driven_line_and_read_elsewhere(stage: Stage, tmp_path: Path) -> None:
    write_export(decided(stage), "gpx", tmp_path / "p.gpx")
    gpx = gpxpy.parse((tmp_path / "p.gpx").read_text())
    assert len(gpx.waypoints) == len(stage.findings) + 2
    track = [p for t in gpx.tracks for s in t.segments for p in s.points]
    assert gpx.tracks[0].length_2d() == pytest.approx(stage.review.profile.length_m, rel=0.01)
    for way in gpx.waypoints:
        assert min(way.distance_2d(p) for p in track) < 6.0
    assert track[0].latitude == pytest.approx(44.2, abs=0.2)
    assert EVIL in [w.description for w in gpx.waypoints]
    # In the order of the schema of GPX 1.1: metadata, then way-points, then tracks.
    schema = etree.XMLSchema(etree.parse(Path(__file__).parents[1] / "outside" / "gpx-1.1.xsd"))
    schema.assertValid(etree.fromstring((tmp_path / "p.gpx").read_bytes()))


def test_the_review_for_other_programs_is_the_contract(stage: Stage, tmp_path: Path) -> None:
    write_export(stage, "json", tmp_path / "r.json")
    assert json.loads((tmp_path / "r.json").read_text())["format"] == "mirkle-review/1"


def test_what_was_seen_on_the_video_stands_apart_from_what_was_measured(stage: Stage, tmp_path: Path) -> None:
    stage.book.see("tighter", 20, "L3 20", by=BOTH)
    stage.book.see("longer", 30)
    stage.book.see("hazard", 40, "=stone inside")
    for what in ("csv", "html"):
        write_export(stage, what, tmp_path / what)
    rows = list(csv.DictReader(io.StringIO((tmp_path / "csv").read_text("utf-8-sig"))))
    seen = [(r["note"], r["met"], r["decision"], r["written"]) for r in rows if r["kind"] == "seen on the video"]
    assert seen == [
        (stage.notes[20].text, "tighter than it was called", "mark", "L3 20"),
        (stage.notes[30].text, "longer than it was called", "talk", ""),
    ]
    assert all(r["severity"] == "" and r["confidence"] == "" for r in rows if r["kind"] == "seen on the video")
    page = (tmp_path / "html").read_text()
    at, findings = page.index("<h2>Seen on the video</h2>"), page.index("<h2>Findings</h2>")
    assert "tighter than it was called → <b>L3 20</b>" in page[at:findings]
    assert "=stone inside" in page


def test_without_positions_there_are_no_way_points(stage: Stage, tmp_path: Path) -> None:
    measured = stage.review.measured
    plan = replace(measured.plan, middle_deg=None)
    stage.book.over(replace(stage.review, measured=replace(measured, plan=plan)))
    with pytest.raises(MirkleError, match="no positions"):
        write_export(stage, "gpx", tmp_path / "p.gpx")
    assert not (tmp_path / "p.gpx").exists()


def test_a_table_of_nothing_decided_has_every_finding(stage: Stage) -> None:
    rows = list(csv.reader(io.StringIO(findings_csv(stage.review, {}, []))))
    assert [r[0] for r in rows[1:]] == [f.severity for f in stage.findings]


def test_editions_show_what_changed_between_any_two(stage: Stage) -> None:
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
