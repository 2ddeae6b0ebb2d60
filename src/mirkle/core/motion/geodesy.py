"""From latitude and longitude to metres on a flat map of the stage."""

from __future__ import annotations

import numpy as np

from mirkle.core.motion.recording import Floats


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
    from pyproj import Transformer

    lat, lon = np.degrees(lat_rad), np.degrees(lon_rad)
    # Longitudes on both sides of the date line are brought to one side before their middle is taken.
    lon = lon[0] + (lon - lon[0] + 180.0) % 360.0 - 180.0
    here = f"+proj=tmerc +lat_0={np.median(lat):.9f} +lon_0={np.median(lon):.9f} +k=1 +ellps=WGS84"
    there = Transformer.from_crs("+proj=longlat +ellps=WGS84", here, always_xy=True)
    east_m, north_m = there.transform(lon, lat)
    return np.asarray(east_m, dtype=float), np.asarray(north_m, dtype=float)
