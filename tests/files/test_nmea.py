"""NMEA 0183 against its published sentences, and through a whole log with faults in it."""

import numpy as np
import pytest

from mirkle.core.errors import MirkleError
from mirkle.files.recordings.nmea import KNOT_MPS, looks_like_nmea, parse_nmea_run
from mirkle.files.recordings.readers import parse_run
from tests.worlds import degrees_of

# The example sentences that every description of the format carries (from memory, checksums verified).
RMC = "$GPRMC,123519,A,4807.038,N,01131.000,E,022.4,084.4,230394,003.1,W*6A"
GGA = "$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*47"
VTG = "$GPVTG,054.7,T,034.4,M,005.5,N,010.2,K*48"


def checksum(body: str) -> str:
    value = 0
    for c in body:
        value ^= ord(c)
    return f"${body}*{value:02X}"


def angle(degrees: float, digits: int, marks: str) -> str:
    size = abs(degrees)
    return f"{int(size):0{digits}d}{(size % 1) * 60:010.7f},{marks[degrees < 0]}"


def log(*, seconds: int = 60, start: float = 43_200.0) -> list[str]:
    """A car that goes east at about 20 m/s, ten fixes a second."""
    out = []
    for i in range(seconds * 10):
        t = start + i / 10
        lat, lon = (float(v[0]) for v in degrees_of(np.array([2.0 * i]), np.array([0.0])))
        day = t % 86_400
        stamp = f"{int(day // 3600):02d}{int(day // 60 % 60):02d}{day % 60:06.3f}"
        place = f"{angle(lat, 2, 'NS')},{angle(lon, 3, 'EW')}"
        out.append(checksum(f"GPRMC,{stamp},A,{place},{(20 + np.sin(t)) / KNOT_MPS:.3f},{90 + np.sin(t):.1f},230394,,"))
        out.append(checksum(f"GPGGA,{stamp},{place},1,08,0.9,{100 + i / 100:.1f},M,46.9,M,,"))
    return out


def test_the_published_sentences_have_the_published_values() -> None:
    for sentence in (RMC, GGA, VTG):
        assert checksum(sentence[1:].split("*")[0]) == sentence
    run = parse_nmea_run("\n".join([RMC, GGA, VTG, *log()]).encode(), name="run.nmea")
    assert np.degrees(run.channels["lat_rad"].value[0]) == pytest.approx(48 + 7.038 / 60)
    assert np.degrees(run.channels["lon_rad"].value[0]) == pytest.approx(11 + 31.0 / 60)
    assert run.channels["speed_mps"].value[0] == pytest.approx(11.5236, abs=1e-3)  # 22.4 knots
    assert np.degrees(run.channels["course_rad"].value[0]) == pytest.approx(84.4)
    assert run.channels["alt_m"].value[0] == pytest.approx(545.4)


def test_a_log_is_a_recording() -> None:
    text = "\n".join(log()).encode()
    assert looks_like_nmea(text)
    run = parse_run(text, name="run.nmea")
    assert run.channels["lat_rad"].rate_hz == pytest.approx(10.0)
    assert run.channels["speed_mps"].value == pytest.approx(20.0, abs=1.01)
    assert run.doubts == ()


def test_broken_sentences_are_skipped_and_counted() -> None:
    lines = log()
    lines[10] = lines[10].replace("A,", "A,9", 1)
    lines[20] = lines[20][:30]
    lines[31] = "noise from the port"
    run = parse_run("\r\n".join(lines).encode(), name="run.nmea")
    assert list(map(str, run.doubts)) == ["2 broken sentences were skipped."]
    assert len(run.channels["lat_rad"].time_s) == 600


def test_midnight_is_leapt_over() -> None:
    run = parse_run("\n".join(log(start=86_370.0)).encode(), name="run.nmea")
    assert run.channels["lat_rad"].time_s[-1] == pytest.approx(59.9)
    assert np.all(np.diff(run.channels["lat_rad"].time_s) > 0)


def test_a_log_without_fixes_is_refused() -> None:
    with pytest.raises(MirkleError, match="only 0 fixes"):
        parse_nmea_run("\n".join([VTG] * 40).encode(), name="run.nmea")
