"""A hole in a recording is named in everything that leaves the program."""

import json

import numpy as np
import pytest

from mirkle.core.review import Review
from mirkle.files.export.content import Content
from mirkle.files.export.report_html import report_html
from mirkle.files.export.review_json import review_json
from mirkle.files.export.table import csv_of
from mirkle.files.project.project import SourceFile
from mirkle.files.recordings.readers import parse_run
from mirkle.session.reviewing import Inputs, review_material
from tests.conftest import MORNING, NOTES


@pytest.fixture(scope="module")
def holed() -> Review:
    """The demo's run as positions once a second, with half a minute of them missing."""
    whole = parse_run(MORNING.content, name=MORNING.name)
    lat, lon = whole.channels["lat_rad"], whole.channels["lon_rad"]
    at = np.arange(lat.time_s[0], lat.time_s[-1], 1.0)
    at = at[(at < 200.0) | (at > 230.0)]
    rows = zip(at, np.degrees(np.interp(at, lat.time_s, lat.value)), np.degrees(np.interp(at, lon.time_s, lon.value)), strict=True)
    table = "time_s,lat_deg,lon_deg\n" + "".join(f"{t:.1f},{a:.7f},{b:.7f}\n" for t, a, b in rows)
    return review_material(Inputs(SourceFile("run", "run.csv", table.encode()), NOTES))


def test_no_finding_rests_on_it(holed: Review, demo_review: Review) -> None:
    (stretch,) = holed.measured.unmeasured
    whole_m = np.interp([200.0, 230.0], demo_review.profile.time_s, demo_review.profile.distance_m)
    assert stretch.least_m <= np.ptp(whole_m) <= stretch.most_m
    assert stretch.from_m == pytest.approx(whole_m[0], abs=40.0)
    assert not [f for f in holed.findings if stretch.touches(f.from_m, f.to_m)]
    # What lies beside it is judged all the same.
    assert len([f for f in holed.findings if f.severity == "danger"]) >= 3
    assert not [t for t in holed.lineup.ties if t.bend and stretch.from_m + 10 < t.bend.apex_m < stretch.to_m - 10]


def test_it_stands_in_every_export(holed: Review) -> None:
    (stretch,) = holed.measured.unmeasured
    (told,) = json.loads(review_json(holed))["unmeasured"]
    assert (told["from_m"], told["to_m"]) == (round(stretch.from_m, 1), round(stretch.to_m, 1))
    assert "no positions for 3" in told["why"]
    assert str(stretch.sentence) in csv_of(Content("n", holed)).decode()
    report = report_html(Content("n", holed))
    assert str(stretch.sentence) in report
    assert all(str(d) in report for d in holed.measured.doubts)
