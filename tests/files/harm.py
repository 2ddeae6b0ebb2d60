"""Whole files of every kind that is read, and ways to harm them."""

from __future__ import annotations

import gzip

import numpy as np

from mirkle.files import demo_files
from tests.files.mp4 import camm, mp4_with_track
from tests.files.test_documents import OTHERS, ROLLING, RTF, docx, odt, xlsx
from tests.files.test_readers import NMEA, STYLES, TRACKS, fit, packed
from tests.files.test_runs import gpx

# Pieces that readers have stumbled over, anywhere.
NASTY = (
    b"\0",
    b"\xff" * 9,
    b"9" * 600,
    b"-" * 40,
    b"[" * 300,
    b"{" * 300,
    b'"',
    b"\n" * 50,
    b"nan",
    b"1e999",
    b",,,,",
    b"<!--",
    b"]]>",
    b"--> ",
    b"PK\x03\x04",
    b"$GPGGA,",
    b"NaN",
    "\u202e".encode(),
    b"&amp;" * 30,
)


def corpus() -> dict[str, bytes]:
    """A whole file of each kind, short ones."""
    short = {f"style-{i}.csv": content[:60_000] for i, content in enumerate(STYLES.values())}
    notes = {name: demo_files.demo_file(name) for name in (demo_files.NOTES, demo_files.CALLS)}
    words = {f"words-{k}.txt": v.encode() for k, v in OTHERS.items()} | {"rolling.vtt": ROLLING.encode()}
    telephone = packed(**{"Location_csv": b"time,latitude,longitude\n" + b"".join(b"%d,44.2%03d,-33.4\n" % (i, i) for i in range(200))})
    camera = mp4_with_track(
        b"camm", [camm(6, 1e9 + i, 3, 44.2 + i * 1e-4, -33.4, 180.0, 1.0, 1.0, 9.0, 9.0, 0.0, 0.2) for i in range(60)], 1000
    )
    return {
        **short,
        "run.gpx": gpx().encode(),
        "run.csv.gz": gzip.compress(next(iter(short.values()))),
        "book.docx": docx(),
        "book.xlsx": xlsx(),
        "phone.zip": telephone,
        "filmed.mp4": camera,
        **notes,
        **words,
        **{f"{i}.nmea": c[:40_000] for i, c in enumerate(NMEA.values())},
        **TRACKS,
        "run.fit": fit(),
        "book.odt": odt(),
        "book.rtf": RTF,
        "crew.toml": b'order = "grade-first"\nsense = "ascending"\n[words]\n"K" = "feature kinks"\n',
    }


def harmed(rng: np.random.Generator, content: bytes, other: bytes) -> bytes:
    """A file with a few of its bytes changed, cut out, doubled, put in, or taken from another."""
    out = bytearray(content)
    for _ in range(int(rng.integers(1, 6))):
        at = int(rng.integers(0, len(out) + 1))
        size = int(rng.integers(1, 200))
        what = int(rng.integers(0, 6))
        if what == 0 and out:
            out[min(at, len(out) - 1)] ^= 1 << int(rng.integers(0, 8))
        elif what == 1:
            del out[at : at + size]
        elif what == 2:
            out[at:at] = out[at : at + size]
        elif what == 3:
            out[at:at] = NASTY[int(rng.integers(0, len(NASTY)))]
        elif what == 4:
            start = int(rng.integers(0, max(len(other) - size, 1)))
            out[at:at] = other[start : start + size]
        else:
            del out[at:]
    return bytes(out)
