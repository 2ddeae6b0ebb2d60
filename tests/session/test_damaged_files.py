"""Whatever is done to a file, taking it in gives a reading or one sentence with where, what and how to mend."""

from __future__ import annotations

import gzip
import json
import random
from pathlib import Path

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from mirkle.core.errors import MirkleError
from mirkle.session.import_files import take_in
from tests.conftest import CALLS, MORNING, NOTES

ROWS = gzip.decompress(MORNING.content).decode().splitlines()


def _gpx() -> str:
    points = "".join(
        f'<trkpt lat="{44 + i * 1e-4:.5f}" lon="-33.5"><ele>{i}</ele><time>2026-05-02T10:00:{i % 60:02d}Z</time></trkpt>' for i in range(60)
    )
    return f'<gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>{points}</trkseg></trk></gpx>'


def _nmea() -> str:
    lines = []
    for i in range(60):
        body = f"GPRMC,1000{i:02d}.00,A,44{i * 0.01:07.4f},N,03330.0000,W,36.0,0.0,020526,,"
        check = 0
        for letter in body.encode():
            check ^= letter
        lines.append(f"${body}*{check:02X}")
    return "\r\n".join(lines)


WORDS = ["left", "4", "long", "80", "right", "3", "tightens", "into", "left", "5"]
WHISPERED = {
    "start": 1.0,
    "end": 6.0,
    "text": " ".join(WORDS),
    "words": [{"word": word, "start": 1.0 + 0.5 * i, "end": 1.4 + 0.5 * i} for i, word in enumerate(WORDS)],
}
SOUND = {
    "run.csv": "\n".join([ROWS[0], *ROWS[4000:4400]]),
    "run.gpx": _gpx(),
    "run.nmea": _nmea(),
    "notes.txt": NOTES.content.decode(),
    "calls.vtt": "\n\n".join(CALLS.content.decode().split("\n\n")[:50]),
    "calls.srt": "1\n00:00:01,000 --> 00:00:03,500\nleft 4 long 80\n\n2\n00:00:05,000 --> 00:00:07,000\nright 3 into\n",
    "calls.json": json.dumps({"segments": [WHISPERED]}),
    "crew.toml": 'language = "en"\norder = "grade-first"\nleave = ["marker"]\n\n[words.feature]\ncrest = ["brow", "br"]\n',
}
NASTY = ("\x00", "nan", "inf", "1e999", "-", ",", ";", '"', "<", "&x;", "{", "[", "\\", "é", "\ufeff", "99:99:99", "9" * 40, "\n")


def damaged(content: bytes, seed: int) -> bytes:
    """A file with one to six of the things that happen to files."""
    rng = random.Random(seed)
    for _ in range(rng.randint(1, 6)):
        at, end = sorted(rng.randrange(len(content) + 1) for _ in range(2))
        what = rng.randrange(7)
        if what == 0:
            content = content[:at]
        elif what == 1:
            content = content[:at] + content[min(end, at + 400) :]
        elif what == 2:
            content = content[:at] + rng.choice(NASTY).encode() + content[at:]
        elif what == 3 and content:
            content = content[:at] + bytes([rng.randrange(256)]) + content[at + 1 :]
        elif what == 4:
            lines = content.splitlines(keepends=True)
            rng.shuffle(lines)
            content = b"".join(lines)
        elif what == 5:
            content = content[:at] + content[at:end][:2000] * 2 + content[end:]
        else:
            content = content.decode("utf-8", "replace").encode(rng.choice(["utf-16", "latin-1", "utf-8-sig"]), "replace")
    return content


@pytest.mark.parametrize("name", SOUND)
def test_the_sound_file_is_taken_in(name: str, tmp_path: Path) -> None:
    """So that the test below damages something that would have been read."""
    path = tmp_path / name
    path.write_text(SOUND[name])
    assert take_in(path).sentence


@pytest.mark.parametrize("name", SOUND)
@settings(max_examples=40, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(seed=st.integers(0, 10**9))
def test_damaged_it_is_read_or_refused_with_a_sentence(name: str, seed: int, tmp_path: Path) -> None:
    path = tmp_path / name
    path.write_bytes(damaged(SOUND[name].encode(), seed))
    with np.errstate(all="raise", under="ignore"):
        try:
            assert take_in(path).sentence
        except MirkleError as error:
            said = error.sentence
            assert name in said
            assert len(said) > len(name) + 15
            assert "\n" not in said
            assert "Traceback" not in said
