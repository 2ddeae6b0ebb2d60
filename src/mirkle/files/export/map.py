"""Findings as places on a map with the driven line: GPX 1.1, KML 2.2 (OGC 07-147r2) and GeoJSON (RFC 7946).

The line begins at the start line and ends at the finish. Heights are left out where none were recorded.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import TYPE_CHECKING, Any

import numpy as np

from mirkle.core.errors import MirkleError
from mirkle.core.messages import Message
from mirkle.core.motion.geodesy import degrees_of
from mirkle.core.recording.model import Floats
from mirkle.files.export.content import Content
from mirkle.files.export.table import printable

if TYPE_CHECKING:
    from lxml import etree

EVERY_M = 2.0
# A recording may count its seconds from any moment: exported times begin here.
EPOCH = datetime(1970, 1, 1, tzinfo=UTC)
_GPX, _KML = "http://www.topografix.com/GPX/1/1", "http://www.opengis.net/kml/2.2"


@dataclass(frozen=True)
class Placemark:
    """A finding or an addition on the map; ``facts`` are what a program may want of it."""

    lat_deg: float
    lon_deg: float
    height_m: float
    at_m: float
    title: str
    words: str
    facts: dict[str, str | float | None]


@dataclass(frozen=True)
class Line:
    """The driven line from start to finish, all (n,); ``height_m`` is nan where none was recorded."""

    lat_deg: Floats
    lon_deg: Floats
    height_m: Floats
    time_s: Floats


def line_of(content: Content) -> tuple[Line, list[Placemark]]:
    """The driven line, and the places on it in the order of the road.

    Raises
    ------
    MirkleError
        No position was recorded.
    """
    review = content.review
    plan, profile = review.measured.plan, review.profile
    if plan.middle_deg is None:
        raise MirkleError("this recording has no positions", mend="write the findings as a table instead")
    at_m = np.append(np.arange(0.0, review.finish_m, EVERY_M), review.finish_m)

    def on_line(at: Floats) -> tuple[Floats, Floats, Floats]:
        east, north, height = (np.interp(at, profile.distance_m, v) for v in (plan.east_m, plan.north_m, plan.height_m))
        return *degrees_of(east + plan.start_m[0], north + plan.start_m[1], plan.middle_deg or (0.0, 0.0)), height

    lat, lon, height = on_line(at_m)
    line = Line(lat, lon, height, np.interp(at_m, profile.distance_m, profile.time_s))
    tell = content.tell
    spots: list[tuple[float, str, str, dict[str, str | float | None]]] = []
    for f in review.findings:
        facts: dict[str, str | float | None] = {
            "id": f.id,
            "kind": f.kind,
            "severity": f.severity,
            "from_m": f.from_m,
            "to_m": f.to_m,
            "confidence": f.confidence,
        }
        words = f"{tell(Message(f.severity))}: {content.why(f)}"
        spots.append((0.5 * (f.from_m + f.to_m), review.notes[f.note].text, words, facts))
    for a in content.additions:
        if a.road is not None:
            own: dict[str, str | float | None] = {"kind": a.kind, "from_m": a.road.from_m, "to_m": a.road.to_m}
            spots.append((a.road.from_m, tell(Message(a.kind)), a.words, own))
    spots.sort(key=lambda spot: spot[0])
    where = on_line(np.clip(np.array([spot[0] for spot in spots]), 0.0, review.finish_m))
    return line, [Placemark(float(lat), float(lon), float(height), *spot) for lat, lon, height, spot in zip(*where, spots, strict=True)]


def gpx_of(content: Content) -> bytes:
    """Way-points and a track with times and heights.

    Raises
    ------
    MirkleError
        No position was recorded.
    """
    line, places = line_of(content)
    gpx = _root(_GPX, "gpx", version="1.1", creator="Mirkle")
    _put(_put(gpx, "metadata"), "name", content.name)
    for place in places:
        point = _gpx_point(gpx, "wpt", place.lat_deg, place.lon_deg, place.height_m)
        _put(point, "name", place.title)
        _put(point, "desc", place.words)
    track = _put(gpx, "trk")
    _put(track, "name", content.name)
    segment = _put(track, "trkseg")
    for lat, lon, height, time_s in zip(line.lat_deg, line.lon_deg, line.height_m, line.time_s, strict=True):
        point = _gpx_point(segment, "trkpt", lat, lon, height)
        moment = EPOCH + timedelta(seconds=float(time_s))
        _put(point, "time", moment.isoformat(timespec="milliseconds").replace("+00:00", "Z"))
    return _written(gpx)


def _gpx_point(parent: etree._Element, tag: str, lat: float, lon: float, height_m: float) -> etree._Element:
    point = _put(parent, tag, lat=f"{lat:.7f}", lon=f"{lon:.7f}")
    if np.isfinite(height_m):
        _put(point, "ele", f"{height_m:.2f}")
    return point


def kml_of(content: Content) -> bytes:
    """Placemarks and the driven line.

    Raises
    ------
    MirkleError
        No position was recorded.
    """
    line, places = line_of(content)
    kml = _root(_KML, "kml")
    document = _put(kml, "Document")
    _put(document, "name", content.name)
    for place in places:
        mark = _put(document, "Placemark")
        _put(mark, "name", place.title)
        _put(mark, "description", place.words)
        _put(_put(mark, "Point"), "coordinates", _kml_place(place.lon_deg, place.lat_deg, place.height_m))
    mark = _put(document, "Placemark")
    _put(mark, "name", content.name)
    driven = _put(mark, "LineString")
    _put(driven, "tessellate", "1")
    _put(driven, "coordinates", " ".join(map(_kml_place, line.lon_deg, line.lat_deg, line.height_m)))
    return _written(kml)


def _kml_place(lon: float, lat: float, height_m: float) -> str:
    return f"{lon:.7f},{lat:.7f}" + (f",{height_m:.2f}" if np.isfinite(height_m) else "")


def geojson_of(content: Content) -> bytes:
    """A collection of the driven line and a point a finding, with what a program may want of each.

    Raises
    ------
    MirkleError
        No position was recorded.
    """
    line, places = line_of(content)

    def position(lon: float, lat: float, height_m: float) -> list[float]:
        return [round(lon, 7), round(lat, 7), *([round(height_m, 2)] if np.isfinite(height_m) else [])]

    def feature(kind: str, coordinates: list[Any], properties: dict[str, Any]) -> dict[str, Any]:
        return {"type": "Feature", "geometry": {"type": kind, "coordinates": coordinates}, "properties": properties}

    driven = [position(*map(float, at)) for at in zip(line.lon_deg, line.lat_deg, line.height_m, strict=True)]
    features = [feature("LineString", driven, {"name": content.name, "times_s": [round(float(s), 3) for s in line.time_s]})]
    features += [
        feature("Point", position(p.lon_deg, p.lat_deg, p.height_m), {"name": p.title, "description": p.words, **p.facts}) for p in places
    ]
    return (json.dumps({"type": "FeatureCollection", "features": features}, ensure_ascii=False, allow_nan=False) + "\n").encode()


def _root(space: str, tag: str, **attributes: str) -> etree._Element:
    from lxml import etree

    nsmap: Any = {None: space}
    return etree.Element(f"{{{space}}}{tag}", attributes, nsmap=nsmap)


def _put(parent: etree._Element, tag: str, text: str | None = None, **attributes: str) -> etree._Element:
    """An element in another, in the same name space."""
    from lxml import etree

    made = etree.SubElement(parent, f"{{{etree.QName(parent).namespace}}}{tag}", attributes)
    made.text = printable(text) if text is not None else None
    return made


def _written(root: etree._Element) -> bytes:
    from lxml import etree

    return bytes(etree.tostring(root, xml_declaration=True, encoding="UTF-8", pretty_print=True))
