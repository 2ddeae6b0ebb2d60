"""A run recording from a file of any kind that is known: a table of readers, each told by the file's content."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol

from mirkle.core.messages import gettext_noop
from mirkle.core.recording.consistency import check_channels
from mirkle.core.recording.model import Recording, check_it_can_be_reviewed, repair_times
from mirkle.core.recording.mounting import align_axes
from mirkle.core.recording.ranges import drop_impossible
from mirkle.files.detect import LARGEST_RUN_BYTES, read_bytes, unpacked
from mirkle.files.recordings.csv_table import channel_known, parse_csv_run
from mirkle.files.recordings.fit import looks_like_fit, parse_fit_run
from mirkle.files.recordings.gpx import parse_gpx_run
from mirkle.files.recordings.mdf import looks_like_mdf, parse_mdf_run
from mirkle.files.recordings.nmea import looks_like_nmea, parse_nmea_run
from mirkle.files.recordings.phone import is_packed, parse_phone_run
from mirkle.files.recordings.table import table_of
from mirkle.files.recordings.tracks import parse_geojson_run, parse_kml_run, parse_tcx_run

WANTED = gettext_noop("the run: CSV with time and position, GPX, NMEA, FIT, TCX, KML, GeoJSON or MDF4")


class Parse(Protocol):
    """Reads a file's bytes."""

    def __call__(self, content: bytes, *, name: str) -> Recording: ...


@dataclass(frozen=True)
class Reader:
    """A kind of file: what it is called, how its bytes look, and what reads it."""

    what: str
    looks_so: Callable[[bytes], bool]
    parse: Parse


def _begins(*words: bytes) -> Callable[[bytes], bool]:
    """Whether an XML text has one of these elements near its beginning."""
    return lambda content: _is_xml(content) and any(w in content[:20_000] for w in words)


def _is_xml(content: bytes) -> bool:
    return content[:200].lstrip(b"\xef\xbb\xbf \t\r\n").startswith(b"<")


def _is_kmz(content: bytes) -> bool:
    return content.startswith(b"PK") and b".kml" in content[:2000] + content[-4000:]


def _is_geojson(content: bytes) -> bool:
    start = content[:4000].lstrip(b"\xef\xbb\xbf \t\r\n")
    return (
        start.startswith(b"{")
        and b'"type"' in start
        and any(w in content[:4000] for w in (b"FeatureCollection", b'"Feature"', b"LineString"))
    )


def _is_table(content: bytes) -> bool:
    """Whether there is the head of a table with a time column in it, and what a car's recording holds beside it."""
    table = table_of(content[:400_000], channel_known, "time_s")
    if table is None:
        return False
    return len({channel_known(h, u) for h, u in zip(table.header, table.units, strict=True)} - {None}) > 1


# In this order: what is told by its first bytes comes before what is told by its words.
READERS = (
    Reader("MDF4", looks_like_mdf, parse_mdf_run),
    Reader("FIT", looks_like_fit, parse_fit_run),
    Reader("KMZ", _is_kmz, parse_kml_run),
    Reader("a telephone's tables", is_packed, parse_phone_run),
    Reader("NMEA 0183", looks_like_nmea, parse_nmea_run),
    Reader("TCX", _begins(b"<TrainingCenterDatabase", b"<Trackpoint", b":TrainingCenterDatabase"), parse_tcx_run),
    Reader("KML", _begins(b"<kml", b":kml"), parse_kml_run),
    Reader("GPX", _begins(b"<gpx", b":gpx", b"<trkpt"), parse_gpx_run),
    Reader("GeoJSON", _is_geojson, parse_geojson_run),
    Reader("a table", _is_table, parse_csv_run),
)


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
    reader = reader_of(content)
    parse: Parse = reader.parse if reader is not None else parse_gpx_run if _is_xml(content) else parse_csv_run
    recording = check_channels(align_axes(repair_times(drop_impossible(parse(content, name=name)))))
    # A channel that speaks against the others is gone by now.
    check_it_can_be_reviewed(recording)
    return recording


def reader_of(content: bytes) -> Reader | None:
    """What reads a run's bytes, ``None`` where they look like none."""
    return next((r for r in READERS if r.looks_so(content)), None)


def looks_like_run(content: bytes) -> bool:
    """Whether the bytes are a run rather than notes."""
    return reader_of(content) is not None
