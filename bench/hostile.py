"""Files made to hurt a reader: each has to be read or refused in one sentence, in bounded time and memory.

``python bench/hostile.py`` takes in over two hundred, each in a separate process, and prints what took longest and most. It ends with 1
where one breaks the program, takes more than 20 s of CPU, or more than 1 GB.
"""

from __future__ import annotations

import argparse
import gzip
import io
import json
import os
import resource
import struct
import sys
import tempfile
import time
import traceback
import zipfile
from collections.abc import Callable, Iterator
from pathlib import Path

from mirkle.core.errors import MirkleError
from mirkle.session.import_files import take_in

MOST_CPU_S, MOST_BYTES = 20.0, 1_000_000_000
SIZES = (100, 2_000, 20_000, 200_000)
GPX = '<gpx version="1.1" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>{0}</trkseg></trk></gpx>'
POINT = '<trkpt lat="44.2" lon="-33.{0:06d}"><time>2026-11-30T10:00:{1:06.3f}Z</time></trkpt>'
DOC = '<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>{0}</w:body></w:document>'
Made = Callable[[int], bytes]


def zipped(**parts: bytes) -> bytes:
    """A zip archive."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in parts.items():
            archive.writestr(name, content)
    return out.getvalue()


def lying(content: bytes, size: int) -> bytes:
    """An archive whose directory gives its members another size."""
    out = bytearray(content)
    for mark, at in ((b"PK\x01\x02", 24), (b"PK\x03\x04", 22)):
        start = 0
        while (start := out.find(mark, start)) >= 0:
            out[start + at : start + at + 4] = struct.pack("<I", size)
            start += 4
    return bytes(out)


def track(n: int, point: str = POINT) -> bytes:
    """A track of n points."""
    return GPX.format("".join(point.format(i % 1_000_000, i % 60) for i in range(n))).encode()


def table(n: int, head: str, row: Callable[[int], str]) -> bytes:
    """A table of n rows."""
    return "\n".join([head, *(row(i) for i in range(n))]).encode()


def bombs(n: int) -> bytes:
    """Entities in entities behind a comment."""
    inside = "".join(f'<!ENTITY e{i} "{f"&e{i - 1};" * 10 if i else "x"}">' for i in range(9))
    return f"<?xml version='1.0'?><!--{'-x' * n}--><!DOCTYPE gpx [{inside}]><gpx>&e8;</gpx>".encode()


HEAD = "time_s,lat_deg,lon_deg,speed_kmh"
# How each file ends, and what makes it; each is made small and large.
FAMILIES: dict[str, tuple[str, Made]] = {
    "one line that never ends": ("csv", lambda n: HEAD.encode() + b"\n" + b"1," * (50 * n)),
    "no line at all": ("txt", lambda n: b"a" * (50 * n)),
    "blanks": ("txt", lambda n: b" " * (50 * n)),
    "line ends": ("csv", lambda n: b"\n" * (50 * n)),
    "as many columns": (
        "csv",
        lambda n: table(8, ",".join(["time_s", *(f"c{i}" for i in range(n))]), lambda i: ",".join([str(i)] * (n + 1))),
    ),
    "a head of blanks": ("csv", lambda n: (f"time_s{' ' * n},lat_deg,lon_deg\n" + "1,44,-33\n" * 20).encode()),
    "a head of brackets": ("csv", lambda n: (f"time_s{'(' * n},lat_deg,lon_deg\n" + "1,44,-33\n" * 20).encode()),
    "times that stand": ("csv", lambda n: table(n, HEAD, lambda i: f"1,44.2,-33.4,{i % 90}")),
    "times that run back": ("csv", lambda n: table(n, HEAD, lambda i: f"{n - i},44.2,-33.4,50")),
    "times without an end": ("csv", lambda n: table(min(n, 20_000), HEAD, lambda i: f"{10.0 ** (i % 308)},44.2,-33.4,50")),
    "nothing but nan": ("csv", lambda n: table(n, HEAD, lambda i: f"{i},nan,inf,-inf")),
    "jumps round the world": ("csv", lambda n: table(n, HEAD, lambda i: f"{i / 10},{(i * 37) % 180 - 90},{(i * 91) % 360 - 180},50")),
    "the poles": ("csv", lambda n: table(n, HEAD, lambda i: f"{i / 10},{90 - i % 2 * 1e-9},{i % 360},50")),
    "digits": ("csv", lambda n: table(40, HEAD, lambda i: f"{i},{'9' * n},-33,50")),
    "quotes that never close": ("csv", lambda n: (HEAD + '\n1,"' + "x\n" * n).encode()),
    "a preamble": ("csv", lambda n: ("# remark\n" * n + HEAD + "\n" + "1,44,-33,50\n" * 9).encode()),
    "separators": ("csv", lambda n: (b"sep=;\n" * n) + b";;;;\n" * n),
    "sides without an end": ("txt", lambda n: b"L4 60 " * n),
    "unknown words": ("txt", lambda n: " ".join(f"w{i:x}rk" for i in range(min(n, 20_000))).encode() + b" L4 60 R3 40"),
    "figures": ("txt", lambda n: ("4" * n + " L4 60\nR3 " + "8" * n).encode()),
    "marks on one letter": ("txt", lambda n: ("L4 60\na" + "\u0301" * n).encode()),
    "text from right to left": ("txt", lambda n: ("\u202e\u2066" * n + "L4 60\nR3 40").encode()),
    "brackets": ("txt", lambda n: ("(" * n + "L4 60" + ")" * n + "\nR3 40").encode()),
    "slashes": ("txt", lambda n: ("L4" + "/" * n + "R3\nL4 60").encode()),
    "dashes": ("txt", lambda n: ("L4 60 " + "-" * n + "\nR3 " + "- " * n).encode()),
    "pages": ("txt", lambda n: "".join(f"page {i}\nL4 60\n" for i in range(min(n, 20_000))).encode()),
    "cues": (
        "vtt",
        lambda n: (
            "WEBVTT\n\n"
            + "".join(
                f"{i // 3600:02d}:{i // 60 % 60:02d}:{i % 60:02d}.000 --> {i // 3600:02d}:{i // 60 % 60:02d}:{i % 60:02d}.900\nleft 4\n\n"
                for i in range(min(n, 20_000))
            )
        ).encode(),
    ),
    "a cue that never ends": ("vtt", lambda n: ("WEBVTT\n\n00:00.000 --> 00:01.000\n" + "left 4 " * n).encode()),
    "arrows": ("vtt", lambda n: ("WEBVTT\n\n" + "00:00.000 --> " * n).encode()),
    "tags": ("vtt", lambda n: ("WEBVTT\n\n00:00.000 --> 00:01.000\n" + "<" * n + "left 4").encode()),
    "unknown words in cues": (
        "vtt",
        lambda n: (
            "WEBVTT\n\n"
            + "".join(
                f"00:{i // 60 % 60:02d}:{i % 60:02d}.000 --> 00:{i // 60 % 60:02d}:{i % 60:02d}.900\n{' '.join(f'z{i * 7 + k:x}ork' for k in range(6))}\n\n"
                for i in range(min(n // 6, 3_300))
            )
        ).encode(),
    ),
    "stamps": ("txt", lambda n: ("[0:01] " * n + "left 4").encode()),
    "an attached font": (
        "ass",
        lambda n: (
            "[Fonts]\nfontname: a.ttf\n" + "!" * (20 * n) + "\n[Events]\nDialogue: 0,0:00:01.00,0:00:02.00,x,,0,0,0,,left 4 60\n"
        ).encode(),
    ),
    "dialogue": ("ass", lambda n: ("[Events]\n" + "Dialogue: " + "," * n + "left 4\n").encode()),
    "deep json": ("json", lambda n: b'{"text":"left 4","start":1,"x":' + b"[" * n + b"]" * n + b"}"),
    "wide json": ("json", lambda n: json.dumps([{"start": i, "end": i + 1, "word": "left"} for i in range(min(n, 50_000))]).encode()),
    "json figures": ("json", lambda n: b'{"segments":[{"start":' + b"9" * n + b',"end":2,"text":"left 4"}]}'),
    "entities": ("gpx", bombs),
    "deep xml": ("gpx", lambda n: b"<gpx>" + b"<a>" * n + b"</a>" * n + b"</gpx>"),
    "attributes": ("gpx", lambda n: ("<gpx " + " ".join(f'a{i}="1"' for i in range(n)) + "/>").encode()),
    "a comment in front": ("gpx", lambda n: ("<!--" + "x" * (20 * n) + "-->").encode() + track(20)),
    "points": ("gpx", track),
    "points of one moment": ("gpx", lambda n: track(n, '<trkpt lat="44.2" lon="-33.{0:06d}"><time>2026-11-30T10:00:00Z</time></trkpt>')),
    "text in a point": ("gpx", lambda n: GPX.format('<trkpt lat="' + "4" * n + '" lon="1"><time>' + "2" * n + "</time></trkpt>").encode()),
    "coordinates": (
        "kml",
        lambda n: (
            f"<kml xmlns='http://www.opengis.net/kml/2.2'><Placemark><LineString><coordinates>{'-33,44 ' * n}</coordinates></LineString></Placemark></kml>".encode()
        ),
    ),
    "positions": ("geojson", lambda n: json.dumps({"type": "LineString", "coordinates": [[-33, 44]] * n}).encode()),
    "sentences": ("nmea", lambda n: b"$GPGGA,,,,,,,,,,,,,,*00\n" * n),
    "a sentence that never ends": ("nmea", lambda n: b"$GPRMC," + b"1," * n),
    "groups": ("rtf", lambda n: b"{\\rtf1 " + b"{" * n + b"L4 60" + b"}" * n + b"}"),
    "control words": ("rtf", lambda n: b"{\\rtf1 " + b"\\b" * n + b" L4 60\\par R3 40}"),
    "figures of control words": ("rtf", lambda n: b"{\\rtf1 \\u" + b"9" * n + b" L4 60}"),
    "packed noughts": ("csv.gz", lambda n: gzip.compress(b"0" * (1_500 * n))),
    "packed twice": ("csv.gz", lambda n: gzip.compress(gzip.compress(b"0" * (1_500 * n)))),
    "a document of one word": (
        "docx",
        lambda n: zipped(**{"word/document.xml": DOC.format("<w:p><w:r><w:t>" + "L4 60 " * (10 * n) + "</w:t></w:r></w:p>").encode()}),
    ),
    "a document of paragraphs": (
        "docx",
        lambda n: zipped(**{"word/document.xml": DOC.format("<w:p><w:r><w:t>L4 60</w:t></w:r></w:p>" * n).encode()}),
    ),
    "a document that lies about its size": (
        "docx",
        lambda n: lying(zipped(**{"word/document.xml": DOC.format("x" * (10 * n)).encode()}), 2_000_000_000),
    ),
    "a telephone's archive that lies": (
        "zip",
        lambda n: lying(zipped(**{"Location.csv": table(n, "time,latitude,longitude", lambda i: f"{i},44.2,-33.4")}), 10),
    ),
    "as many members": ("zip", lambda n: zipped(**{f"{i}.csv": b"time,x\n1,2\n" for i in range(min(n, 5_000))})),
    "archives in archives": ("zip", lambda n: zipped(**{"inner.zip": zipped(**{"a.csv": b"0" * (500 * n)})})),
    "a crew's words": ("toml", lambda n: ("[words]\n" + "".join(f'"w{i}" = "feature crest"\n' for i in range(min(n, 20_000)))).encode()),
    "a crew's tables": ("toml", lambda n: ("[" + "a." * min(n, 5_000) + "b]\n").encode()),
    "boxes in boxes": (
        "mp4",
        lambda n: (
            b"\0\0\0\x18ftypisom\0\0\0\0isomiso2"
            + b"".join(struct.pack(">I4s", 8 * (min(n, 5_000) - i), b"moov") for i in range(min(n, 5_000)))
        ),
    ),
    "a box without an end": ("mp4", lambda n: b"\0\0\0\x18ftypisom\0\0\0\0isomiso2" + struct.pack(">I4sQ", 1, b"mdat", 2**62) + b"\0" * n),
}


def cases() -> Iterator[tuple[str, str, bytes]]:
    """Each family at each size: what it is, how its file ends, its content."""
    for what, (ending, make) in FAMILIES.items():
        for size in SIZES:
            yield f"{what}, {size}", ending, make(size)


def taken_in(path: Path) -> tuple[str, float, int]:
    """Takes a file in, in a separate process: what went wrong, seconds of CPU, and the process's peak memory in bytes."""
    read, write = os.pipe()
    child = os.fork()
    if child == 0:
        os.close(read)
        resource.setrlimit(resource.RLIMIT_CPU, (3 * int(MOST_CPU_S), 3 * int(MOST_CPU_S) + 1))
        wrong = ""
        try:
            take_in(path)
        except MirkleError as fault:
            wrong = f"more than one line: {fault.sentence[:80]!r}" if "\n" in fault.sentence or len(fault.sentence) > 600 else ""
        except BaseException:
            wrong = traceback.format_exc(limit=-2)
        os.write(write, wrong.encode()[:60_000])
        os._exit(0)
    os.close(write)
    with os.fdopen(read, "rb") as pipe:
        wrong = pipe.read().decode("utf-8", "replace")
    _, status, used = os.wait4(child, 0)
    if status:
        wrong = wrong or f"it ended with {status}"
    return wrong, used.ru_utime + used.ru_stime, used.ru_maxrss * 1024


def main() -> int:
    """Takes them all in."""
    argparse.ArgumentParser(description=__doc__).parse_args()
    sys.setrecursionlimit(1000)
    broken, results = 0, []
    began = time.monotonic()
    with tempfile.TemporaryDirectory() as folder:
        for number, (what, ending, content) in enumerate(cases()):
            path = Path(folder) / f"{number}.{ending}"
            path.write_bytes(content)
            wrong, cpu_s, peak = taken_in(path)
            path.unlink()
            if cpu_s > MOST_CPU_S or peak > MOST_BYTES:
                wrong = wrong or "too slow or too large"
            if wrong:
                broken += 1
                print(f"{what} ({ending}, {len(content) / 1e6:.1f} MB): {cpu_s:.1f} s, {peak / 1e6:.0f} MB: {wrong}", flush=True)
            results.append((cpu_s, peak, what))
    print(f"{len(results)} hostile files, {broken} broke the program, in {time.monotonic() - began:.0f} s")
    print("longest:", *(f"\n  {s:5.1f} s of CPU, {what}" for s, _, what in sorted(results, reverse=True)[:5]))
    print("largest:", *(f"\n  {m / 1e6:5.0f} MB, {what}" for _, m, what in sorted(results, key=lambda r: -r[1])[:5]))
    return int(broken > 0)


if __name__ == "__main__":
    sys.exit(main())
