"""Runs as activities (TCX), as tracks of a globe viewer (KML, KMZ) and as GeoJSON, each as far as it carries times."""

from __future__ import annotations

import io
import json
import math
from collections.abc import Iterator
from typing import Any

from mirkle.core.errors import at_line
from mirkle.core.messages import gettext_noop
from mirkle.core.recording.model import Recording
from mirkle.files.archive import members
from mirkle.files.detect import UnusableFile
from mirkle.files.recordings.position_fixes import MOST_FIXES, Fix, number, recording_of
from mirkle.files.recordings.timestamps import moment_s

_ACTIVITY = gettext_noop("a watch's activity")
_TRACK = gettext_noop("a track of places")
_GEOJSON = gettext_noop("a map of shapes")


def parse_tcx_run(content: bytes, *, name: str) -> Recording:
    """The track points of an activity.

    Raises
    ------
    UnusableFile
    """
    fixes: list[Fix] = []
    placeless = untimed = 0
    for point in _elements(content, "{*}Trackpoint", name=name):
        time_s = moment_s(point.findtext("{*}Time") or "")
        lat = number(point.findtext("{*}Position/{*}LatitudeDegrees"))
        lon = number(point.findtext("{*}Position/{*}LongitudeDegrees"))
        if time_s is None:
            untimed += 1
        elif not (math.isfinite(lat) and math.isfinite(lon)):
            placeless += 1
        else:
            speed = next((e.text for e in point.iter("{*}Speed")), None)
            fixes.append(Fix(time_s, lat, lon, number(point.findtext("{*}AltitudeMeters")), number(speed)))
    return recording_of(fixes, name=name, what=_ACTIVITY, placeless=placeless, untimed=untimed)


def parse_kml_run(content: bytes, *, name: str) -> Recording:
    """The tracks with times in a KML text, or in a KMZ archive.

    Raises
    ------
    UnusableFile
    """
    if content.startswith(b"PK"):
        inside = members(content, lambda path: path.lower().endswith(".kml"), most=1, name=name)
        if not inside:
            raise UnusableFile("there is no track in this archive", mend="choose the track itself", where=name)
        content = inside[0][1]
    fixes: list[Fix] = []
    untimed = 0
    for track in _elements(content, "{*}Track", name=name):
        whens = [moment_s(e.text or "") for e in track.iterfind("{*}when")]
        coords = [(e.text or "").split() for e in track.iterfind("{*}coord")]
        for when, coord in zip(whens, coords, strict=False):
            place = [number(c) for c in coord[:3]] + [math.nan] * 3
            if when is None or not (math.isfinite(place[0]) and math.isfinite(place[1])):
                untimed += 1
            else:
                fixes.append(Fix(when, place[1], place[0], place[2]))
    if not fixes and b"<coordinates>" in content:
        untimed = max(untimed, 1)
    return recording_of(fixes, name=name, what=_TRACK, untimed=untimed)


def parse_geojson_run(content: bytes, *, name: str) -> Recording:
    """Lines whose features carry a time for each coordinate, or points that carry one each.

    Raises
    ------
    UnusableFile
    """
    try:
        tree = json.loads(content.decode("utf-8-sig", "replace"))
    except (ValueError, RecursionError):
        raise UnusableFile("it is not valid JSON", mend="export it again", where=name) from None
    fixes: list[Fix] = []
    untimed = 0
    for feature in _features(tree):
        geometry, properties = feature.get("geometry") or {}, feature.get("properties") or {}
        if not isinstance(geometry, dict) or not isinstance(properties, dict):
            continue
        for place, time in _timed(geometry, properties):
            time_s = moment_s(time) if isinstance(time, str) else float(time) if _is_number(time) else None
            if time_s is None:
                untimed += 1
            elif len(place) > 1 and all(_is_number(p) for p in place[:3]):
                fixes.append(Fix(time_s, float(place[1]), float(place[0]), float(place[2]) if len(place) > 2 else math.nan))
        if len(fixes) > MOST_FIXES:
            break
    return recording_of(fixes, name=name, what=_GEOJSON, untimed=untimed)


def _features(tree: Any) -> Iterator[dict[str, Any]]:
    if isinstance(tree, dict):
        members = tree.get("features") if tree.get("type") == "FeatureCollection" else [tree]
        for member in members if isinstance(members, list) else []:
            if isinstance(member, dict):
                yield member


def _timed(geometry: dict[str, Any], properties: dict[str, Any]) -> Iterator[tuple[list[Any], Any]]:
    """Each place of a feature with its time, ``None`` where it carries none."""
    inner = properties.get("coordinateProperties")
    times = properties.get("coordTimes") or (inner.get("times") if isinstance(inner, dict) else None) or properties.get("times")
    kind, places = geometry.get("type"), geometry.get("coordinates")
    if not isinstance(places, list):
        return
    if kind == "Point":
        yield places, properties.get("time", properties.get("timestamp"))
        return
    lines = places if kind == "MultiLineString" else [places]
    parts = times if kind == "MultiLineString" and isinstance(times, list) else [times]
    for line, stamps in zip(lines, [*parts, *[None] * len(lines)], strict=False):
        for at, place in enumerate(line if isinstance(line, list) else []):
            if isinstance(place, list):
                stamped = isinstance(stamps, list) and at < len(stamps)
                yield place, stamps[at] if stamped else None


def _is_number(value: object) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool) and abs(value) < 1e18 and math.isfinite(value)


def _elements(content: bytes, tag: str, *, name: str) -> Iterator[Any]:
    """The elements of a name, each let go of when the next is asked for; nothing outside the text is ever read.

    Raises
    ------
    UnusableFile
    """
    from lxml import etree

    if b"<!DOCTYPE" in content[:100_000] or b"<!ENTITY" in content[:100_000]:
        raise UnusableFile("it carries a document type, which no track has", mend="export the track again", where=name)
    try:
        events = etree.iterparse(
            io.BytesIO(content), events=("end",), tag=tag, resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False
        )
        for _, element in events:
            yield element
            element.clear()
    except etree.XMLSyntaxError as error:
        raise UnusableFile("it can't be read as XML", mend="export the track again", where=at_line(name, error.lineno or 1)) from None
