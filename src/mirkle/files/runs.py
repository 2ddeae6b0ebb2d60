"""A run recording from a file of any kind that is known, told by its content."""

from __future__ import annotations

from pathlib import Path

from mirkle.core.motion.faults import checked
from mirkle.core.motion.mount import set_right
from mirkle.core.motion.plausible import plausible
from mirkle.core.motion.recording import Recording, mended
from mirkle.files.csv_run import parse_csv_run
from mirkle.files.gpx import parse_gpx_run
from mirkle.files.mdf_run import looks_like_mdf, parse_mdf_run
from mirkle.files.nmea import looks_like_nmea, parse_nmea_run
from mirkle.files.quantities import column_of
from mirkle.files.sniff import LARGEST_RUN_BYTES, read_bytes, unpacked

WANTED = "the run: CSV with time and position, GPX, NMEA or MDF4"


def read_run(path: Path) -> Recording:
    """The mended recording in a file of any of these kinds.

    Raises
    ------
    UnusableFile, UnusableRecording
    """
    return parse_run(read_bytes(path, largest=LARGEST_RUN_BYTES, wanted=WANTED), name=path.name)


def parse_run(content: bytes, *, name: str) -> Recording:
    """As :func:`read_run`, from the file's bytes."""
    content = unpacked(content, name=name, largest=LARGEST_RUN_BYTES, wanted=WANTED)
    start = content[:200].lstrip(b"\xef\xbb\xbf \t\r\n")
    if looks_like_mdf(content):
        parse = parse_mdf_run
    elif looks_like_nmea(content):
        parse = parse_nmea_run
    else:
        parse = parse_gpx_run if start.startswith(b"<") else parse_csv_run
    return checked(set_right(mended(plausible(parse(content, name=name)))))


def looks_like_run(content: bytes) -> bool:
    """Whether the bytes are a run rather than notes: XML, or a first line that names a time column."""
    start = content[:4000].lstrip(b"\xef\xbb\xbf \t\r\n")
    first_line = start.split(b"\n", 1)[0].lower()
    return looks_like_mdf(content) or looks_like_nmea(content) or start.startswith(b"<") or _names_a_time(first_line)


def _names_a_time(first_line: bytes) -> bool:
    """Whether a line is the head of a table with a time column."""
    for delimiter in (",", ";", "\t"):
        cells = first_line.decode("utf-8", "replace").split(delimiter)
        columns = [column_of(cell.strip(' "\r')) for cell in cells]
        if len(cells) > 1 and any(c is not None and c.channel == "time_s" for c in columns):
            return True
    return False
