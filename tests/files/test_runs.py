"""Recordings as CSV and GPX: what is read, and the sentence for everything that can't be."""

import gc
import gzip
import re
import tracemalloc
from datetime import UTC, datetime, timedelta
from pathlib import Path

import gpxpy
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mirkle.core.errors import MirkleError
from mirkle.files.detect import UnusableFile
from mirkle.files.recordings import table
from mirkle.files.recordings.readers import parse_run, read_run
from mirkle.session.import_files import take_in
from tests.core.test_path import _arcs
from tests.worlds import csv_of, recording_of_curvature

WORLD = recording_of_curvature(_arcs((60.0, 80), (-40.0, 90)), inertial=False)
CSV = csv_of(WORLD)


def lines(n: int) -> list[str]:
    return CSV.split("\n")[:n]


def test_units_are_taken_from_the_suffix_and_columns_in_any_order() -> None:
    rows = [r.split(",") for r in CSV.strip().split("\n")]
    body = [
        f"{float(r[3]) * 3.6:.4f},{np.radians(float(r[2])):.10f},{float(r[0]) * 1000:.0f},{np.radians(float(r[1])):.10f},x{i}"
        for i, r in enumerate(rows[1:])
    ]
    other = parse_run(("SPEED_kmh,lon_rad,time_ms,lat_rad,remark\n" + "\n".join(body)).encode(), name="b.csv")
    plain = parse_run(CSV.encode(), name="a.csv")
    for name in ("lat_rad", "lon_rad", "speed_mps"):
        np.testing.assert_allclose(other.channels[name].value, plain.channels[name].value, atol=1e-4)
        np.testing.assert_allclose(other.channels[name].time_s, plain.channels[name].time_s, atol=2e-3)
    assert any("remark" in str(d) for d in other.doubts)


@pytest.mark.parametrize(
    ("head", "factor"),
    [
        ("Time,Latitude,Longitude,Speed (km/h),Heading", 3.6),
        ("timestamp [s];LAT;LNG;Velocity [m/s];course [°]", 1.0),
        ("t,latitude_deg,lon (deg),ground speed (knots),Bearing", 3600 / 1852),
    ],
)
def test_names_and_units_are_known_however_they_are_written(head: str, factor: float) -> None:
    mark = ";" if ";" in head else ","
    rows = [r.split(",") for r in CSV.strip().split("\n")[1:]]
    body = [mark.join([*r[:3], f"{float(r[3]) * factor:.4f}", r[4]]) for r in rows]
    run = parse_run("\n".join([head, *body]).encode(), name="b.csv")
    plain = parse_run(CSV.encode(), name="a.csv")
    assert run.channels.keys() == plain.channels.keys()
    for name, channel in plain.channels.items():
        np.testing.assert_allclose(run.channels[name].value, channel.value, atol=1e-4)
    assert not run.doubts


@pytest.mark.parametrize("form", ["%Y-%m-%dT%H:%M:%S.%fZ", "%Y-%m-%d %H:%M:%S.%f", "%H:%M:%S.%f"])
def test_times_of_day_are_read_over_midnight(form: str) -> None:
    rows = [r.split(",") for r in CSV.strip().split("\n")]
    began = datetime(2026, 5, 9, 23, 59, 50, tzinfo=UTC)
    body = [",".join([(began + timedelta(seconds=float(r[0]))).strftime(form), *r[1:]]) for r in rows[1:]]
    run = parse_run("\n".join([",".join(rows[0]), *body]).encode(), name="b.csv")
    plain = parse_run(CSV.encode(), name="a.csv").channels["speed_mps"]
    own = run.channels["speed_mps"]
    np.testing.assert_allclose(own.time_s - own.time_s[0], plain.time_s - plain.time_s[0], atol=1e-4)
    body[30] = body[30].replace(":", "h", 1)
    with pytest.raises(MirkleError, match="line 32: time_s holds"):
        parse_run("\n".join([",".join(rows[0]), *body]).encode(), name="b.csv")


@pytest.mark.filterwarnings("ignore::pytest.PytestUnraisableExceptionWarning")  # the library's, on a damaged file
def test_a_measurement_file_is_read_as_a_table_is(tmp_path: Path) -> None:
    """Written with the library that stands for the format; signals with rates and units of their own."""
    mdf = pytest.importorskip("asammdf")
    plain = parse_run(CSV.encode(), name="a.csv")
    names = {
        "lat_rad": ("Latitude", "deg", np.degrees(1)),
        "lon_rad": ("Longitude", "deg", np.degrees(1)),
        "speed_mps": ("Speed", "km/h", 3.6),
        "course_rad": ("heading", "°", np.degrees(1)),
    }
    with mdf.MDF(version="4.10") as file:
        for name, (shown, unit, factor) in names.items():
            c = plain.channels[name]
            file.append([mdf.Signal(c.value * factor, c.time_s, name=shown, unit=unit)])
        file.append([mdf.Signal(np.arange(5.0), np.arange(5.0), name="oil", unit="bar")])
        file.save(tmp_path / "run.mf4")
    taken = take_in(tmp_path / "run.mf4")
    assert "Signals not used: oil." in str(taken.sentence)
    run = parse_run(taken.material.content, name="run.mf4")
    assert run.channels.keys() == plain.channels.keys()
    for name, channel in plain.channels.items():
        np.testing.assert_allclose(run.channels[name].value, channel.value, atol=1e-6)
    with pytest.raises(MirkleError, match=r"run.mf4: the measurement file can't be read"):
        parse_run(taken.material.content[:300], name="run.mf4")
    gc.collect()


def test_mixed_rates_share_a_table_with_empty_cells() -> None:
    rows = ["time_s,lat_deg,lon_deg,yaw_rate_dps"]
    for i in range(200):
        rows.append(f"{i * 0.1:.2f},{44.2 + i * 1e-4:.6f},-33.5,")
        rows += [f"{i * 0.1 + 0.02 * k:.2f},,,{10 * np.sin((5 * i + k) / 45):.3f}" for k in range(1, 5)]
    run = parse_run("\n".join(rows).encode(), name="r.csv")
    assert run.channels["lat_rad"].rate_hz == pytest.approx(10, rel=0.01)
    assert len(run.channels["yaw_rate_radps"].time_s) == 800


@pytest.mark.parametrize(
    "change",
    [
        lambda t: "\ufeff" + t,
        lambda t: t.replace("\n", "\r\n"),
        lambda t: t.replace(",", ";").replace(".", ","),
        lambda t: t.replace(",", "\t"),
    ],
)
def test_spreadsheets_and_loggers_of_every_habit_are_read_alike(change) -> None:  # type: ignore[no-untyped-def]
    run = parse_run(change(CSV).encode(), name="r.csv")
    plain = parse_run(CSV.encode(), name="r.csv")
    np.testing.assert_allclose(run.channels["speed_mps"].value, plain.channels["speed_mps"].value)
    assert run.channels.keys() == plain.channels.keys()


def test_packed_files_are_read_as_they_are() -> None:
    run = parse_run(gzip.compress(CSV.encode()), name="r.csv.gz")
    assert len(run.channels["lat_rad"].time_s) == len(WORLD.channels["lat_rad"].time_s)


def gpx(points: int = 60, *, step: float = 2e-4) -> str:
    body = "".join(
        f'<trkpt lat="{44.2 + i * step:.7f}" lon="-33.5"><ele>{100 + i}</ele>'
        f"<time>2031-05-17T09:{i // 60:02d}:{i % 60:02d}Z</time></trkpt>\n"
        for i in range(points)
    )
    return f'<gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>\n{body}</trkseg></trk></gpx>'


def test_gpx_agrees_with_a_general_purpose_reader() -> None:
    # Reference: gpxpy.
    text = gpx()
    run = parse_run(text.encode(), name="r.gpx")
    points = gpxpy.parse(text).tracks[0].segments[0].points
    np.testing.assert_allclose(np.degrees(run.channels["lat_rad"].value), [p.latitude for p in points])
    np.testing.assert_allclose(run.channels["alt_m"].value, [p.elevation for p in points])
    seconds = [(p.time - points[0].time).total_seconds() for p in points]
    np.testing.assert_allclose(run.channels["lat_rad"].time_s, seconds)


def test_half_a_gpx_file_is_read_as_far_as_it_goes_and_says_so() -> None:
    text = gpx()
    run = parse_run(text[: len(text) * 2 // 3].encode(), name="r.gpx")
    assert 30 < len(run.channels["lat_rad"].time_s) < 60
    assert any("breaks off at line" in str(d) for d in run.doubts)


def test_half_a_csv_file_is_read_as_far_as_it_goes_and_says_so() -> None:
    run = parse_run(CSV[: len(CSV) - 20].encode(), name="r.csv")
    assert any("middle of a line" in str(d) for d in run.doubts)


BILLION_LAUGHS = (
    '<?xml version="1.0"?><!DOCTYPE l [<!ENTITY a "ha">'
    + "".join(f'<!ENTITY {b} "{("&" + a + ";") * 10}">' for a, b in zip("abcdefgh", "bcdefghi", strict=True))
    + "]><gpx><trk><name>&i;</name></trk></gpx>"
)

BAD = {
    "empty": (b"", "the file is empty"),
    "no time": (b"lat_deg,lon_deg\n1,2\n" * 30, "line 1: there is no time column"),
    "no position": (b"time_s,alt_m\n" + b"1,2\n" * 30, "line 1: there is neither a position"),
    "no unit": (b"time_s,speed,yaw_rate\n" + b"1,2,3\n" * 30, "speed has no unit; write it behind the name"),
    "text": ("\n".join([*lines(40), "4.1,44.2,oops,3,4", *lines(60)[41:]]).encode(), "line 41: lon_deg holds “oops”"),
    "ragged": ("\n".join([*lines(30), "4.1,44.2", *lines(60)[31:]]).encode(), "line 31: this line has not as many cells"),
    "twice": (b"time_s,lat_deg,Latitude,lon_deg\n" + b"1,2,2,3\n" * 30, "Latitude stands there twice"),
    "standing": (b"time_s,lat_deg,lon_deg\n" + b"".join(b"%d,44.2,-33.5\n" % i for i in range(50)), "moves only 0 m"),
    "backwards": ("\n".join([*lines(300), *(f"{9 - i},44.{i},-33,1,2" for i in range(9))]).encode(), "time goes back by"),
    "picture": (b"\x89PNG\r\n\x1a\n" + bytes(50), "this is a PNG picture"),
    "binary": (bytes(4096), "binary data"),
    "expanding": (BILLION_LAUGHS.encode(), "document type"),
    "xml": (b"<gpx><trk><trkpt lat='1'", "line 1: it can't be read as GPX"),
    "no times": (gpx().replace("time>", "when>").encode(), "carry no time"),
    "bad place": (gpx().replace("44.2002000", "north").encode(), "line 3: a track point's latitude"),
    "damaged gz": (gzip.compress(CSV.encode())[:-200], "packed file is damaged"),
    "few": ("\n".join(lines(5)).encode(), "only 4 lines of data"),
}


@pytest.mark.parametrize("name", BAD)
def test_bad_input_gets_one_sentence_that_says_where_what_and_how_to_mend(tmp_path: Path, name: str) -> None:
    content, sentence = BAD[name]
    path = tmp_path / "run.csv"
    path.write_bytes(content)
    with pytest.raises(MirkleError) as fault:
        read_run(path)
    text = fault.value.sentence
    assert sentence in text
    assert text.startswith("run.csv")
    assert str(fault.value.mend) in text
    assert fault.value.mend
    assert "\n" not in text


def test_two_gigabytes_are_refused_without_being_read(tmp_path: Path) -> None:
    path = tmp_path / "zeros.csv"
    with path.open("wb") as file:
        file.truncate(2_000_000_000)
    tracemalloc.start()
    with pytest.raises(MirkleError, match="binary data"):
        take_in(path)
    text = tmp_path / "endless.csv"
    with text.open("wb") as file:
        file.write(b"time_s,lat_deg,lon_deg\n" * 400)
        file.truncate(2_000_000_000)
    with pytest.raises(MirkleError, match="2000 MB"):
        take_in(text)
    _, most_bytes = tracemalloc.get_traced_memory()
    tracemalloc.stop()
    assert most_bytes < 50e6


@settings(max_examples=60, deadline=None)
@given(st.binary(max_size=400), st.integers(0, 2000))
def test_no_bytes_break_the_reader(noise: bytes, at: int) -> None:
    for base in (CSV[:6000].encode(), gpx(30).encode()):
        broken = base[:at] + noise + base[at:]
        sentence = "r"
        try:
            parse_run(broken, name="r")
        except MirkleError as fault:
            sentence = fault.sentence
        assert re.match(r"r\b", sentence)


def test_two_million_track_points_are_refused_before_they_are_read() -> None:
    point = b'<trkpt lat="44" lon="-33"><time>2026-11-01T00:00:00Z</time></trkpt>'
    content = b'<gpx version="1.1"><trk><trkseg>' + point * 2_000_000 + b"</trkseg></trk></gpx>"
    tracemalloc.start()
    with pytest.raises(UnusableFile, match="more than any run has"):
        parse_run(content, name="year.gpx")
    assert tracemalloc.get_traced_memory()[1] < 10_000_000
    tracemalloc.stop()


def test_a_table_is_read_in_pieces_to_the_same_numbers(monkeypatch: pytest.MonkeyPatch) -> None:
    """Reading a piece holds the interpreter, and a window that shows how far it is would stand still."""
    whole = parse_run(CSV.encode(), name="a.csv")
    read, sizes = np.fromstring, []
    monkeypatch.setattr(table, "PIECE_BYTES", 1_000)
    monkeypatch.setattr(np, "fromstring", lambda text, sep: sizes.append(len(text)) or read(text, sep=sep))
    in_pieces = parse_run(CSV.encode(), name="a.csv")
    assert len(sizes) > 10
    assert max(sizes) <= 1_000
    for name, channel in whole.channels.items():
        np.testing.assert_array_equal(in_pieces.channels[name].value, channel.value)
    odd = CSV.splitlines()
    odd[-5] = odd[-5] + ",7"
    with pytest.raises(MirkleError, match=f"line {len(odd) - 4}"):
        parse_run("\n".join(odd).encode(), name="a.csv")
