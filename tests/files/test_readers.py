"""What crews' loggers, receivers, telephones and watches write: read alike, or refused in its own terms; never taken for notes."""

from __future__ import annotations

import io
import json
import os
import struct
import threading
import zipfile
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from pathlib import Path

import fitdecode
import numpy as np
import pynmea2
import pytest

from mirkle.core.errors import MirkleError
from mirkle.core.recording.model import Recording
from mirkle.files.recordings.phone import parse_phone_run
from mirkle.files.recordings.quantities import column_of
from mirkle.files.recordings.readers import READERS, parse_run, reader_of
from mirkle.files.recordings.timestamps import moment_s
from mirkle.session.import_files import take_in
from tests.files.test_runs import CSV

PLAIN = parse_run(CSV.encode(), name="plain.csv")
HEAD, *BODY = [r.split(",") for r in CSV.strip().split("\n")]
ROWS = [tuple(float(c) for c in r) for r in BODY]
BEGAN = datetime(2031, 5, 17, 23, 59, 40, tzinfo=UTC)
Line = Callable[[tuple[float, ...]], str]


def table(head: str, line: Line, *, before: str = "", units: str = "") -> bytes:
    return "\n".join([*([before] if before else []), head, *([units] if units else []), *map(line, ROWS)]).encode() + b"\n"


def clock(t: float, form: str) -> str:
    return (BEGAN + timedelta(seconds=t)).strftime(form)


def comma(text: str) -> str:
    return text.replace(".", ",")


def sixths(degrees: float, letters: str) -> str:
    """An angle in degrees, minutes and seconds with the letter of its half of the earth."""
    minutes = abs(degrees) * 60
    return f"{int(minutes // 60)}°{int(minutes % 60):02d}'{minutes % 1 * 60:.5f}\"{letters[degrees < 0]}"


# Ways in which loggers and telephone applications write the same drive, in seven languages. # made up after common practice
STYLES: dict[str, bytes] = {
    "bracketed units": table(
        "Time [s],GPS Latitude [deg],GPS Longitude [deg],GPS Speed [km/h],GPS Heading [deg]",
        lambda r: f"{r[0]},{r[1]:.8f},{r[2]:.8f},{r[3] * 3.6:.4f},{r[4]}",
    ),
    "a preamble and a row of units": table(
        "Elapsed Time;Latitude;Longitude;Ground Speed;Course over ground",
        lambda r: f"{r[0]};{r[1]:.8f};{r[2]:.8f};{r[3]:.4f};{r[4]}",
        before="Logger export\nDevice: box 7\n\nDate: 17.05.2031",
        units="s;deg;deg;m/s;deg",
    ),
    "sep": table(
        "timestamp;lat;lon;speed_kmh;bearing",
        lambda r: ";".join(comma(c) for c in (f"{r[0]}", f"{r[1]:.8f}", f"{r[2]:.8f}", f"{r[3] * 3.6:.4f}", f"{r[4]}")),
        before="sep=;",
    ),
    "comments and a commented head": table(
        "# time_s,lat_deg,lon_deg,speed_mps,course_deg", lambda r: ",".join(map(str, r)), before="# recorded by a box\n# rate 10 Hz"
    ),
    "a comma at the end": table(
        "Time (ms),Latitude,Longitude,Speed (m/s),Heading (deg),", lambda r: f"{r[0] * 1000:.1f},{r[1]:.8f},{r[2]:.8f},{r[3]:.4f},{r[4]},"
    ),
    "utf-16": table(
        "Time\tLatitude\tLongitude\tVelocity (km/h)\tDirection (°)", lambda r: f"{r[0]}\t{r[1]:.8f}\t{r[2]:.8f}\t{r[3] * 3.6:.4f}\t{r[4]}"
    )
    .decode()
    .encode("utf-16"),
    "latin-1": table(
        "Zeit;Breitengrad (°);Längengrad (°);Geschwindigkeit (km/h);Richtung (°)",
        lambda r: comma(f"{r[0]};{r[1]:.8f};{r[2]:.8f};{r[3] * 3.6:.4f};{r[4]}"),
    )
    .decode()
    .encode("latin-1"),
    "portuguese": table(
        "Tempo (s);Latitude;Longitude;Velocidade (km/h);Rumo", lambda r: comma(f"{r[0]};{r[1]:.8f};{r[2]:.8f};{r[3] * 3.6:.4f};{r[4]}")
    ),
    "spanish": table("Tiempo,Latitud,Longitud,Velocidad (m/s),Rumbo", lambda r: ",".join(map(str, r))),
    "french": table(
        "Temps;Latitude;Longitude;Vitesse (km/h);Cap", lambda r: comma(f"{r[0]};{r[1]:.8f};{r[2]:.8f};{r[3] * 3.6:.4f};{r[4]}")
    ),
    "italian": table(
        "Tempo,Latitudine,Longitudine,Velocità (km/h),Direzione", lambda r: f"{r[0]},{r[1]:.8f},{r[2]:.8f},{r[3] * 3.6:.4f},{r[4]}"
    ),
    "finnish": table(
        "Aika;Leveysaste;Pituusaste;Nopeus (km/h);Suunta", lambda r: comma(f"{r[0]};{r[1]:.8f};{r[2]:.8f};{r[3] * 3.6:.4f};{r[4]}")
    ),
    "day.month.year": table(
        "Timestamp,Latitude,Longitude,Speed (m/s),Course",
        lambda r: f"{clock(r[0], '%d.%m.%Y %H:%M:%S.%f')},{r[1]:.8f},{r[2]:.8f},{r[3]:.4f},{r[4]}",
    ),
    "am and pm": table(
        "DateTime,Latitude,Longitude,Speed (mph),Heading",
        lambda r: f"{clock(r[0], '%m/%d/%Y %I:%M:%S.%f %p')},{r[1]:.8f},{r[2]:.8f},{r[3] / 0.44704:.4f},{r[4]}",
    ),
    "seconds of the day, over midnight": table(
        "Time of day (s),lat,lng,Speed (knots),track",
        lambda r: f"{(86380 + r[0]) % 86400:.3f},{r[1]:.8f},{r[2]:.8f},{r[3] * 3600 / 1852:.4f},{r[4]}",
    ),
    "milliseconds since 1970": table(
        "timestamp,locationLatitude(°),locationLongitude(°),locationSpeed(m/s),locationCourse(°)",
        lambda r: f"{BEGAN.timestamp() * 1000 + r[0] * 1000:.0f},{r[1]:.8f},{r[2]:.8f},{r[3]:.4f},{r[4]}",
    ),
    "nanoseconds and camel case": table(
        "time,secondsElapsed,GpsLatitude,GpsLongitude,GpsSpeed (m/s),GpsBearing",
        lambda r: f"{int((BEGAN.timestamp() + r[0]) * 1e9)},{r[0]},{r[1]:.8f},{r[2]:.8f},{r[3]:.4f},{r[4]}",
    ),
    "no unit, told by the positions": table(
        "Time,Latitude,Longitude,Speed,Heading", lambda r: f"{r[0]},{r[1]:.8f},{r[2]:.8f},{r[3] * 3.6:.4f},{r[4]}"
    ),
    "quoted, with words": table(
        '"Time","Lap","Latitude","Longitude","Speed (km/h)","Heading"',
        lambda r: f'"{r[0]}","out lap","{r[1]:.8f}","{r[2]:.8f}","{r[3] * 3.6:.4f}","{r[4]}"',
    ),
    "iso with a zone": table(
        "UTC Time,Latitude (deg),Longitude (deg),Vehicle Speed (kph),True Course (deg),Horizontal Accuracy (m)",
        lambda r: f"{clock(r[0], '%Y-%m-%dT%H:%M:%S.%f+00:00')},{r[1]:.8f},{r[2]:.8f},{r[3] * 3.6:.4f},{r[4]},1.5",
    ),
    "both angles in one cell, in sixtieths": table(
        "Time\tPosition\tSpeed (m/s)\tCourse", lambda r: f"{r[0]}\t{sixths(r[1], 'NS')} {sixths(r[2], 'EW')}\t{r[3]:.4f}\t{r[4]}"
    ),
    "ten millionths and centimetres": table(
        "timestamp_ms,latE7,lonE7,gSpeed_cms,course",
        lambda r: f"{r[0] * 1000:.1f},{r[1] * 1e7:.0f},{r[2] * 1e7:.0f},{r[3] * 100:.2f},{r[4]}",
    ),
    "a month in letters": table(
        "Date/Time,Latitude (deg),Longitude (deg),GPS Speed (knots),Heading",
        lambda r: f"{clock(r[0], '%d-%b-%Y %H:%M:%S.%f')},{r[1]:.8f},{r[2]:.8f},{r[3] * 3600 / 1852:.4f},{r[4]}",
    ),
}


def assert_alike(run: Recording, *, channels: tuple[str, ...] = ("lat_rad", "lon_rad", "speed_mps", "course_rad")) -> None:
    for name in channels:
        own, plain = run.channels[name], PLAIN.channels[name]
        np.testing.assert_allclose(own.value, plain.value, atol=2e-3 if name == "speed_mps" else 1e-6)
        np.testing.assert_allclose(own.time_s - own.time_s[0], plain.time_s - plain.time_s[0], atol=2e-3)


@pytest.mark.parametrize("style", STYLES)
def test_each_style_is_read_alike(style: str, tmp_path: Path) -> None:
    path = tmp_path / "run.csv"
    path.write_bytes(STYLES[style])
    taken = take_in(path)
    assert taken.material.kind == "run"
    assert_alike(parse_run(taken.material.content, name="run.csv"))


def test_axes_of_boxes_and_telephones_are_known_by_their_words() -> None:
    for header, channel in (
        ("Accel X (g)", "acc_x_mps2"),
        ("LateralAcc (g)", "acc_y_mps2"),
        ("Gyro Z (deg/s)", "yaw_rate_radps"),
        ("Longitudinal acceleration [m/s²]", "acc_x_mps2"),
        ("accelerometerAccelerationZ(G)", None),
        ("gForceY (g)", "acc_y_mps2"),
        ("Kiihtyvyys X (m/s²)", "acc_x_mps2"),
        ("Beschleunigung_z (g)", "acc_z_mps2"),
        ("Horizontal Accuracy", "hacc_m"),
        ("Comments", None),
        ("Oil temperature (°C)", None),
        ("Speed (bar)", None),
    ):
        found = column_of(header)
        assert (found.channel if found else None) == channel, header


@pytest.mark.parametrize(
    ("text", "seconds"),
    [
        ("2031-05-17T10:00:00Z", 1936778400.0),
        ("17.05.2031 10:00:00,5", 1936778400.5),
        ("05/17/2031 10:00:00 AM", 1936778400.0),
        ("17/05/2031 10:00:00", 1936778400.0),
        ("2031/05/17 10:00:00.25", 1936778400.25),
        ("17-May-2031 10:00:00", 1936778400.0),
        ("May 17, 2031 10:00:00 AM", 1936778400.0),
        ("17 de maio de 2031, 10:00:00", 1936778400.0),
        ("17-Mot-2031 10:00:00", None),
        ("31-Feb-2031 10:00:00", None),
        ("12:30:00 AM", 1800.0),
        ("12:30:00 pm", 45000.0),
        ("01:02.5", 62.5),
        ("1:02:03:500", 3723.5),
        ("32.13.2031 10:00:00", None),
        ("noon", None),
        ("", None),
        ("9" * 5000, None),
    ],
)
def test_times_are_read_as_people_write_them(text: str, seconds: float | None) -> None:
    assert moment_s(text) == (pytest.approx(seconds) if seconds is not None else None)


# Formats of tracks


def tcx() -> bytes:
    points = "".join(
        f"<Trackpoint><Time>{clock(r[0], '%Y-%m-%dT%H:%M:%S.%fZ')}</Time><Position><LatitudeDegrees>{r[1]:.8f}</LatitudeDegrees>"
        f"<LongitudeDegrees>{r[2]:.8f}</LongitudeDegrees></Position><AltitudeMeters>101</AltitudeMeters>"
        f"<Extensions><TPX><Speed>{r[3]:.4f}</Speed></TPX></Extensions></Trackpoint>"
        for r in ROWS
    )
    return f'<?xml version="1.0"?><TrainingCenterDatabase xmlns="http://x.invalid/v2"><Track>{points}</Track></TrainingCenterDatabase>'.encode()


def kml() -> bytes:
    whens = "".join(f"<when>{clock(r[0], '%Y-%m-%dT%H:%M:%S.%fZ')}</when>" for r in ROWS)
    coords = "".join(f"<g:coord>{r[2]:.8f} {r[1]:.8f} 101</g:coord>" for r in ROWS)
    space = 'xmlns="http://www.opengis.net/kml/2.2" xmlns:g="http://x.invalid/ext"'
    return f'<?xml version="1.0"?><kml {space}><Placemark><g:Track>{whens}{coords}</g:Track></Placemark></kml>'.encode()


def packed(**files: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name, content in files.items():
            archive.writestr(name.replace("__", "/").replace("_", "."), content)
    return out.getvalue()


def geojson() -> bytes:
    line = [[r[2], r[1], 101.0] for r in ROWS]
    told = {"coordTimes": [clock(r[0], "%Y-%m-%dT%H:%M:%S.%fZ") for r in ROWS]}
    feature = {"type": "Feature", "geometry": {"type": "LineString", "coordinates": line}, "properties": told}
    return json.dumps({"type": "FeatureCollection", "features": [feature]}).encode()


def fit(*, places: bool = True) -> bytes:
    """Records with a time, a place and a speed, as the format's own description lays them out."""
    fields = [(253, 4, 0x86), (0, 4, 0x85), (1, 4, 0x85), (6, 2, 0x84)]
    body = bytes([0x40, 0, 0]) + struct.pack("<HB", 20, len(fields)) + b"".join(bytes(f) for f in fields)
    for r in ROWS[::10]:
        at = int((BEGAN + timedelta(seconds=r[0]) - datetime(1989, 12, 31, tzinfo=UTC)).total_seconds())
        half = 2**31 / 180.0
        lat, lon = (int(r[1] * half), int(r[2] * half)) if places else (0x7FFFFFFF, 0x7FFFFFFF)
        body += b"\0" + struct.pack("<IiiH", at, lat, lon, int(r[3] * 1000))
    head = struct.pack("<BBHI4s", 14, 0x20, 2132, len(body), b".FIT")
    head += struct.pack("<H", fitdecode.utils.compute_crc(head))
    return head + body + struct.pack("<H", fitdecode.utils.compute_crc(head + body))


def sentences(*, talker: str = "GN", check: bool = True) -> list[str]:
    out = []
    for r in ROWS:

        def angle(value: float, width: int) -> str:
            return f"{int(abs(value)):0{width}d}{abs(value) % 1 * 60:09.6f}"

        told = (
            "RMC",
            (
                clock(r[0], "%H%M%S.%f"),
                "A",
                angle(r[1], 2),
                "N" if r[1] > 0 else "S",
                angle(r[2], 3),
                "E" if r[2] > 0 else "W",
                f"{r[3] * 3600 / 1852:.4f}",
                f"{r[4]:.3f}",
                "170531",
                "",
                "",
                "A",
            ),
        )
        text = str(pynmea2.RMC(talker, *told))
        out.append(text if check else text.partition("*")[0])
    return out


NMEA = {
    "behind time stamps": "\n".join(f"2031-05-17 10:00:00.1 [rx] {s}" for s in sentences()).encode(),
    "among binary messages": b"".join(b"\xb5b\x01\x07\0\x93\xff" + s.encode() + b"\r\n\xd3\0\x13" for s in sentences(talker="GQ")),
    "with a tag in front": "\n".join(rf"\s:rx,c:1936778400*1A\{s}" for s in sentences(talker="BD")).encode(),
    "without checksums": "\n".join(sentences(check=False)).encode(),
}


@pytest.mark.parametrize("where", NMEA)
def test_sentences_are_found_anywhere(where: str, tmp_path: Path) -> None:
    (tmp_path / "log.txt").write_bytes(NMEA[where])
    taken = take_in(tmp_path / "log.txt")
    assert taken.material.kind == "run"
    run = parse_run(taken.material.content, name="log.txt")
    assert_alike(run)
    assert ("no checksum" in str(taken.sentence)) is (where == "without checksums")


TRACKS = {"run.tcx": tcx(), "run.kml": kml(), "run.kmz": packed(doc_kml=kml()), "run.geojson": geojson()}


@pytest.mark.parametrize("name", TRACKS)
def test_tracks_of_every_form_are_read_alike(name: str, tmp_path: Path) -> None:
    (tmp_path / name).write_bytes(TRACKS[name])
    taken = take_in(tmp_path / name)
    assert taken.material.kind == "run"
    assert_alike(parse_run(TRACKS[name], name=name), channels=("lat_rad", "lon_rad"))
    assert parse_run(TRACKS[name], name=name).channels["alt_m"].value[0] == 101 if name != "run.geojson" else True
    # Cut in two it says so in a sentence, whatever is left of it.
    for cut in (len(TRACKS[name]) // 2, 200):
        (tmp_path / name).write_bytes(TRACKS[name][:cut])
        with pytest.raises(MirkleError) as fault:
            take_in(tmp_path / name)
        assert name in fault.value.sentence


def test_a_watch_is_read_and_one_without_positions_is_called_what_it_is(tmp_path: Path) -> None:
    run = parse_run(fit(), name="run.fit")
    np.testing.assert_allclose(run.channels["lat_rad"].value, PLAIN.channels["lat_rad"].value[::10], atol=1e-8)
    np.testing.assert_allclose(run.channels["speed_mps"].value, PLAIN.channels["speed_mps"].value[::10], atol=2e-3)
    (tmp_path / "a.fit").write_bytes(fit(places=False))
    with pytest.raises(MirkleError, match="a watch's activity without positions"):
        take_in(tmp_path / "a.fit")
    (tmp_path / "a.tcx").write_bytes(tcx().replace(b"Position>", b"HeartRateBpm>"))
    with pytest.raises(MirkleError, match="a watch's activity without positions"):
        take_in(tmp_path / "a.tcx")
    assert reader_of(fit()[:300]).what == "FIT"
    with pytest.raises(MirkleError):
        parse_run(fit()[:300], name="a.fit")


def test_a_telephones_tables_are_put_together() -> None:
    """A table for each sensor, in an archive with a folder; linear accelerations are left out, since they have no weight in them."""
    since = BEGAN.timestamp() * 1e9

    def sensor(values: Callable[[float], tuple[float, float, float]]) -> bytes:
        rows = [f"{since + 1e7 * k:.0f},{k / 100:.2f}," + ",".join(f"{v:.5f}" for v in values(k / 100)) for k in range(9000)]
        return ("time,seconds_elapsed,z,y,x\n" + "\n".join(rows)).encode()

    where = [f"{since + r[0] * 1e9:.0f},{r[0]},{r[4]},{r[3]},{r[2]:.8f},{r[1]:.8f}" for r in ROWS]
    archive = packed(
        drive__Location_csv=("time,seconds_elapsed,bearing,speed,longitude,latitude\n" + "\n".join(where)).encode(),
        drive__Accelerometer_csv=sensor(lambda t: (9.81, 0.2 * np.sin(t), 0.1)),
        drive__Gyroscope_csv=sensor(lambda t: (0.1 * np.sin(t), 0.0, 0.0)),
        drive__LinearAcceleration_csv=sensor(lambda _: (0.0, 0.0, 5.0)),
        drive__Metadata_csv=b"device,version\nphone,1\n",
    )
    assert_alike(parse_run(archive, name="drive.zip"))
    run = parse_phone_run(archive, name="drive.zip")
    assert {"lat_rad", "speed_mps", "course_rad", "acc_z_mps2", "yaw_rate_radps"} <= set(run.channels)
    assert np.median(run.channels["acc_z_mps2"].value) == pytest.approx(9.81, abs=0.05)
    assert "Metadata" in str(run.doubts[0])
    with pytest.raises(MirkleError, match="no table with positions"):
        parse_run(packed(Gyroscope_csv=sensor(lambda t: (t, t, t))), name="drive.zip")


# What is none


NONE_OF_OURS = {
    "prose": (b"The weather was fine and the road was dry.\nWe had lunch at noon.\n" * 30, "no corner could be read"),
    "a list to buy": (b"2 l milk\n6 eggs\n3 bread\n500 g flour\n" * 20, ""),
    "a program": (Path(__file__).read_bytes(), ""),
    "a table of laps": (b"lap,driver,seconds\n" + b"1,27,93.2\n2,27,92.8\n" * 40, ""),
    "an archive": (packed(readme_txt=b"hello"), "an archive without a recording or notes"),
    "weights of a watch": (json.dumps({"heartRate": [{"bpm": 90, "t": n} for n in range(400)]}).encode(), ""),
    "numbers of 5,000 digits": (b"time_s,lat_deg,lon_deg\n" + (b"9" * 5000 + b",1,2\n") * 40, ""),
    "json with no number": (b'{"type": "Feature", "geometry": {"type": "LineString", "coordinates": [[NaN, Infinity]]}}', ""),
    "deep json": (b'{"type":"Feature","a":' + b"[" * 50_000 + b"]" * 50_000 + b"}", ""),
    "words with a time that is none": (b'[{"word": "left", "start": NaN}, {"word": "four", "start": 1e400}]', ""),
}


@pytest.mark.parametrize("what", NONE_OF_OURS)
def test_what_is_none_is_refused_in_one_sentence(what: str, tmp_path: Path) -> None:
    content, wanted = NONE_OF_OURS[what]
    (tmp_path / "file.dat").write_bytes(content)
    with pytest.raises(MirkleError) as fault:
        take_in(tmp_path / "file.dat")
    assert wanted in fault.value.sentence
    assert "file.dat" in fault.value.sentence
    assert "\n" not in fault.value.sentence


def test_a_crews_file_nested_without_end_is_refused(tmp_path: Path) -> None:
    for content in (b"a = " + b"[" * 50_000, b"a = " + b"{b=" * 50_000, b"a = " + b"9" * 5000):
        (tmp_path / "crew.toml").write_bytes(content)
        with pytest.raises(MirkleError):
            take_in(tmp_path / "crew.toml")


def test_pipes_and_devices_are_no_files(tmp_path: Path) -> None:
    pipe = tmp_path / "pipe.csv"
    os.mkfifo(pipe)
    done: list[str] = []

    def ask() -> None:
        for path in (pipe, Path("/dev/zero")):
            with pytest.raises(MirkleError, match="a pipe or a device"):
                take_in(path)
        done.append("both")

    thread = threading.Thread(target=ask, daemon=True)
    thread.start()
    thread.join(20.0)
    assert done == ["both"], "it hangs"


def test_every_reader_is_told_apart_by_its_content() -> None:
    """Each kind's own bytes are its own and no other's before it in the table."""
    mine = {
        "FIT": fit(),
        "KMZ": TRACKS["run.kmz"],
        "TCX": tcx(),
        "KML": kml(),
        "GeoJSON": geojson(),
        "a table": CSV.encode(),
        "NMEA 0183": NMEA["behind time stamps"],
    }
    for what, content in mine.items():
        assert reader_of(content).what == what
    assert len({r.what for r in READERS}) == len(READERS)
    assert reader_of(b"L4 60\nR3 into\n") is None
