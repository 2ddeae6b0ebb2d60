"""From latitude and longitude to metres on a flat map of the stage."""

from __future__ import annotations

from typing import Any

import numpy as np

from mirkle.core.recording.model import Floats


def local_metres(lat_rad: Floats, lon_rad: Floats) -> tuple[Floats, Floats]:
    """East and north in metres from the middle of the points, on the WGS84 ellipsoid.

    A transverse Mercator map through the middle: over a 40 km stage its scale is off by less than 5e-6,
    and it needs no zone.

    Parameters
    ----------
    lat_rad, lon_rad : (n,) radians

    Returns
    -------
    east_m, north_m : (n,) metres
    """
    return local_metres_about(lat_rad, lon_rad, map_middle(lat_rad, lon_rad))


def local_metres_about(lat_rad: Floats, lon_rad: Floats, middle: tuple[float, float]) -> tuple[Floats, Floats]:
    """East and north in metres on the map about a middle in degrees, both (n,); see :func:`local_metres`."""
    east_m, north_m = _map(middle).transform(*_one_side(lat_rad, lon_rad))
    return np.asarray(east_m, dtype=float), np.asarray(north_m, dtype=float)


def map_middle(lat_rad: Floats, lon_rad: Floats) -> tuple[float, float]:
    """Latitude and longitude in degrees of the middle that :func:`local_metres` maps about."""
    lon, lat = _one_side(lat_rad, lon_rad)
    return float(np.median(lat)), float(np.median(lon))


def degrees_of(east_m: Floats, north_m: Floats, middle: tuple[float, float]) -> tuple[Floats, Floats]:
    """Latitudes and longitudes in degrees of points on the map about a middle, both (n,)."""
    lon, lat = _map(middle).transform(east_m, north_m, direction="INVERSE")
    return np.asarray(lat, dtype=float), (np.asarray(lon, dtype=float) + 180.0) % 360.0 - 180.0


def _one_side(lat_rad: Floats, lon_rad: Floats) -> tuple[Floats, Floats]:
    """Longitude and latitude in degrees, those on both sides of the date line brought to one side."""
    lon = np.degrees(lon_rad)
    return lon[0] + (lon - lon[0] + 180.0) % 360.0 - 180.0, np.degrees(lat_rad)


def _map(middle: tuple[float, float]) -> Any:
    from pyproj import Transformer

    here = f"+proj=tmerc +lat_0={middle[0]:.9f} +lon_0={middle[1]:.9f} +k=1 +ellps=WGS84"
    return Transformer.from_crs("+proj=longlat +ellps=WGS84", here, always_xy=True)
