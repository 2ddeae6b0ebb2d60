"""The metadata track of a camera's video: its positions become a recording on the video's own clock."""

from __future__ import annotations

import importlib.util
import struct
import sys
from pathlib import Path

import numpy as np
import pytest

from mirkle.core.progress import silent
from mirkle.files.recordings.readers import parse_run
from mirkle.files.recordings.video import positions_in
from mirkle.session.open_files import taken
from tests.files.mp4 import camm, klv, mp4_with_track, nested
from tests.outside import shipped

SECONDS, RATE = 40, 10
LAT, LON = 44.2, -33.5
# The camera lies on its side and leans: which of its axes is up is nobody's to know.
UP = np.array([0.6, 0.0, 0.8])
# A drive at a millisecond a step: clockwise, tighter and wider, faster and slower.
FINE_S = np.arange(0, SECONDS, 0.001)
CLOCKWISE_RADPS, SPEEDS_MPS = 0.12 + 0.06 * np.sin(0.5 * FINE_S), 14.0 + 3.0 * np.sin(0.3 * FINE_S)
COURSE_RAD = np.cumsum(CLOCKWISE_RADPS) * 0.001
NORTH_M, EAST_M = np.cumsum(SPEEDS_MPS * np.cos(COURSE_RAD)) * 0.001, np.cumsum(SPEEDS_MPS * np.sin(COURSE_RAD)) * 0.001


def place(t: float) -> tuple[float, float]:
    """Where the car is, degrees."""
    at = round(t * 1000)
    return LAT + NORTH_M[at] / 111_100, LON + EAST_M[at] / (111_100 * np.cos(np.radians(LAT)))


def at(values: np.ndarray, t: float) -> float:
    return float(values[round(t * 1000)])


def packets(fixed: bool = True, nine: bool = False) -> list[bytes]:
    out = []
    for second in range(SECONDS):
        times = [second + i / RATE for i in range(RATE)]
        rows = [(*(round(c * 1e7) for c in place(t)), 182_600, at(SPEEDS_MPS, t) * 1000, at(SPEEDS_MPS, t) * 100) for t in times]
        if nine:
            body = b"".join(struct.pack(">7i2H", *map(int, r), 9500, 1000 * 36_000, 120, 3 if fixed else 0) for r in rows)
            gps = [
                klv(b"TYPE", "c", b"lllllllSS"),
                klv(b"SCAL", "l", [(s,) for s in (10_000_000, 10_000_000, 1000, 1000, 100, 1, 1000, 100, 1)]),
                b"GPS9" + struct.pack(">cBH", b"?", 32, len(rows)) + body,
            ]
        else:
            gps = [
                klv(b"GPSF", "L", [(3 if fixed else 0,)]),
                klv(b"GPSU", "U", b"260926100000.000"),
                klv(b"SCAL", "l", [(s,) for s in (10_000_000, 10_000_000, 1000, 1000, 100)]),
                klv(b"GPS5", "l", rows),
            ]
        # The course runs clockwise, so the turning about an axis that points up is negative.
        turning = [tuple((-at(CLOCKWISE_RADPS, second + i / 50) * UP * 1000).round()) for i in range(50)]
        weight = [tuple((9.81 * UP * 100).round())] * 50
        out.append(
            nested(
                b"DEVC",
                klv(b"DVNM", "c", b"Camera"),
                nested(b"STRM", *gps),
                nested(b"STRM", klv(b"SCAL", "s", [(1000,)]), klv(b"GYRO", "s", turning)),
                nested(b"STRM", klv(b"SCAL", "s", [(100,)]), klv(b"ACCL", "s", weight)),
            )
        )
    return out


def camm_packets() -> list[bytes]:
    out = []
    for i in range(SECONDS * RATE):
        t = i / RATE
        east, north = (at(SPEEDS_MPS, t) * f(at(COURSE_RAD, t)) for f in (np.sin, np.cos))
        out += [camm(2, *(-at(CLOCKWISE_RADPS, t) * UP)), camm(3, *(9.81 * UP))]
        out += [camm(6, 1e9 + t, 3, *place(t), 182.6, 3.0, 5.0, east, north, 0.0, 0.1)]
    return out


@pytest.mark.parametrize("layout", ["five", "nine", "one to a packet"])
def test_a_video_alone_is_a_recording(layout: str, tmp_path: Path) -> None:
    path = tmp_path / "in the car.mp4"
    if layout == "one to a packet":
        three = camm_packets()
        # Three measurements stand on one time; the track's clock goes by samples.
        path.write_bytes(mp4_with_track(b"camm", three, round(1000 / RATE / 3 + 1e-9)))
        every_s = 3 * round(1000 / RATE / 3) / 1000
    else:
        path.write_bytes(mp4_with_track(b"gpmd", packets(nine=layout == "nine"), 1000))
        every_s = 1 / RATE
    table = positions_in(path)
    assert table is not None
    run = parse_run(table, name="v")
    lat, yaw = run.channels["lat_rad"], run.channels["yaw_rate_radps"]
    assert len(lat.value) == SECONDS * RATE
    np.testing.assert_allclose(np.diff(lat.time_s), every_s, atol=2e-3)
    wanted = [place(i / RATE)[0] for i in range(SECONDS * RATE)]
    np.testing.assert_allclose(np.degrees(lat.value), wanted, atol=2e-7)
    np.testing.assert_allclose(run.channels["speed_mps"].value, SPEEDS_MPS[:: 1000 // RATE], atol=0.02)
    np.testing.assert_allclose(run.channels["alt_m"].value, 182.6, atol=0.06)
    np.testing.assert_allclose(yaw.value, -CLOCKWISE_RADPS[:: len(FINE_S) // len(yaw.value)], atol=3e-3)


def test_the_layout_is_read_as_another_reader_reads_it() -> None:
    """Against the parser of the package gpmf 0.1, which was written from the layout's own description."""
    where = shipped("gpmf", "gpmf/parse.py")
    spec = importlib.util.spec_from_file_location("reference", str(where))
    assert spec is not None
    assert spec.loader is not None
    reference = importlib.util.module_from_spec(spec)
    sys.modules["reference"] = reference
    spec.loader.exec_module(reference)
    (packet, *_) = packets()
    ((_, _, raw),) = list(reference.filter_klv(packet, ["GPS5"]))
    np.testing.assert_allclose(raw[:, 0] / 1e7, [place(i / RATE)[0] for i in range(RATE)], atol=1e-7)


def test_without_a_fix_or_a_track_there_are_no_positions(tmp_path: Path) -> None:
    path = tmp_path / "v.mp4"
    path.write_bytes(mp4_with_track(b"gpmd", packets(fixed=False), 1000))
    assert positions_in(path) is None
    path.write_bytes(mp4_with_track(b"gpmd", packets(fixed=False, nine=True), 1000))
    assert positions_in(path) is None
    path.write_bytes(mp4_with_track(b"text", [b"words"] * 40, 1000))
    assert positions_in(path) is None
    path.write_bytes(b"no video at all" * 99)
    assert positions_in(path) is None


@pytest.mark.parametrize("seed", range(40))
def test_harmed_packets_are_left_out_without_a_fault(seed: int, tmp_path: Path) -> None:
    rng = np.random.default_rng(seed)
    harmed = []
    for packet in packets(nine=seed % 2 == 0):
        body = bytearray(packet)
        for _ in range(6):
            body[rng.integers(len(body))] = rng.integers(256)
        harmed.append(bytes(body[: rng.integers(20, len(body))] if rng.random() < 0.2 else body))
    path = tmp_path / "v.mp4"
    path.write_bytes(mp4_with_track(b"gpmd", harmed, 1000))
    table = positions_in(path)
    assert table is None or table.startswith(b"time_s,")


def test_beside_another_recording_its_positions_are_not_used(tmp_path: Path) -> None:
    video, logger = tmp_path / "in the car.mp4", tmp_path / "logger.csv"
    video.write_bytes(mp4_with_track(b"gpmd", packets(), 1000))
    alone = taken([video], [], None, None, silent)
    assert [s.material.kind for s in alone.files] == ["media", "run"]
    assert "in the car.mp4" in str(alone.files[1].sentence)
    table = positions_in(video)
    assert table is not None
    logger.write_bytes(table)
    both = taken([video, logger], [], None, None, silent)
    assert [s.material.kind for s in both.files] == ["media", "run"]
    assert both.files[1].material.name == "logger.csv"
