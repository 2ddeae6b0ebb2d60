"""The driven line against published geometry and reference libraries; each source stands beside its check."""

import numpy as np
import pyclothoids
import pytest
from geographiclib.geodesic import Geodesic
from scipy.special import fresnel

from mirkle.core.constants import GRAVITY_MPS2
from mirkle.core.motion.bends import bend_between
from mirkle.core.motion.driven_line import DrivenLine
from mirkle.core.motion.geodesy import local_metres
from mirkle.core.motion.profile import profile_of
from tests.core.test_bends import profile


def test_map_distances_are_geodesic_distances() -> None:
    """Karney's algorithm in GeographicLib, over the corners and middles of a stage of 30 km by 20 km."""
    lat, lon = np.meshgrid(np.linspace(44.1, 44.3, 5), np.linspace(-33.7, -33.3, 5))
    lat, lon = lat.ravel(), lon.ravel()
    east, north = local_metres(np.radians(lat), np.radians(lon))
    for i in range(0, len(lat), 3):
        for j in range(1, len(lat), 4):
            true = Geodesic.WGS84.Inverse(lat[i], lon[i], lat[j], lon[j])["s12"]
            assert np.hypot(east[i] - east[j], north[i] - north[j]) == pytest.approx(true, abs=0.02, rel=5e-6)


def test_a_degree_at_forty_five() -> None:
    """WGS84: a degree of latitude at 45 degrees is 111 131.777 m, of longitude 78 846.835 m (from memory)."""
    lat, lon = np.radians([44.5, 45.5, 45.0, 45.0]), np.radians([0.0, 0.0, -0.5, 0.5])
    east, north = local_metres(lat, lon)
    assert north[1] - north[0] == pytest.approx(111_131.777, rel=3e-5)
    assert east[3] - east[2] == pytest.approx(78_846.835, rel=3e-5)


def test_a_stage_across_the_date_line_is_in_one_piece() -> None:
    true = Geodesic.WGS84.Inverse(-17.0, 179.98, -17.0, -179.98)["s12"]
    east, _ = local_metres(np.radians([-17.0, -17.0]), np.radians([179.98, -179.98]))
    assert east[1] - east[0] == pytest.approx(true, rel=1e-4)


def _path_of(east: np.ndarray, north: np.ndarray) -> DrivenLine:
    """A path through given points, with heading and curvature left to :func:`profile_of`."""
    step = np.hypot(np.diff(east), np.diff(north))
    distance = np.concatenate([[0.0], np.cumsum(step)])
    heading = np.unwrap(np.arctan2(np.gradient(north), np.gradient(east)))
    zeros = np.zeros_like(distance)
    return DrivenLine(
        time_s=distance / 20.0,
        distance_m=distance,
        east_m=east,
        north_m=north,
        height_m=zeros,
        speed_mps=zeros + 20.0,
        heading_rad=heading,
        curvature_per_m=zeros,
        curvature_sd_per_m=zeros + 1e-5,
        forward_mps2=zeros,
        lateral_mps2=zeros,
        slip_rad=zeros,
        sources=("position",),
    )


@pytest.mark.parametrize(
    ("radius", "degrees", "tangent", "length", "external", "middle", "chord"),
    [
        # Elements of a circular curve as in any surveying handbook (values from memory, arithmetic checked).
        (200.0, 60.0, 115.470, 209.440, 30.940, 26.795, 200.000),
        # D = 4 degrees, 24 degrees turned, in feet: R 1432.394 (5729.578 / 4).
        (1432.394 * 0.3048, 24.0, 304.465 * 0.3048, 600 * 0.3048, 32.001 * 0.3048, 31.301 * 0.3048, 595.623 * 0.3048),
    ],
)
def test_elements_of_a_circular_curve(
    radius: float, degrees: float, tangent: float, length: float, external: float, middle: float, chord: float
) -> None:
    arc = round(np.radians(degrees) * radius)
    curvature = np.concatenate([np.zeros(200), np.full(arc, 1 / radius), np.zeros(200)])
    bend = bend_between(profile(curvature), 190, 210 + arc)
    assert bend.radius_m == pytest.approx(radius, rel=2e-3)
    assert bend.turn_deg == pytest.approx(degrees, abs=0.4)
    assert bend.length_m == pytest.approx(length, abs=2.0)
    half = np.radians(bend.turn_deg) / 2
    assert bend.radius_m * np.tan(half) == pytest.approx(tangent, rel=0.01)
    assert bend.radius_m * (1 / np.cos(half) - 1) == pytest.approx(external, rel=0.02)
    assert bend.radius_m * (1 - np.cos(half)) == pytest.approx(middle, rel=0.02)
    assert 2 * bend.radius_m * np.sin(half) == pytest.approx(chord, rel=0.01)


def test_curvature_along_a_clothoid_is_that_of_the_fresnel_integrals() -> None:
    """A clothoid of parameter A has curvature s / A^2; its points are SciPy's Fresnel integrals."""
    parameter = 100.0
    s = np.arange(0.0, 150.0, 0.1)
    scale = parameter * np.sqrt(np.pi)
    sine, cosine = fresnel(s / scale)
    # Surveying handbooks tabulate A 100, L 50: x 49.921931, y 2.081009 (from memory, arithmetic checked).
    assert scale * cosine[500] == pytest.approx(49.921931, abs=1e-5)
    assert scale * sine[500] == pytest.approx(2.081009, abs=1e-5)
    measured = profile_of(_path_of(scale * cosine, scale * sine), 0.0, 149.0)
    inside = slice(10, 138)
    true = measured.distance_m[inside] / parameter**2
    assert measured.curvature_per_m[inside] == pytest.approx(true, abs=2e-6 + 2e-4)


def test_curvature_of_a_curve_that_another_library_made() -> None:
    """pyclothoids: a G1 Hermite clothoid between two poses, with its own curvature at every station."""
    curve = pyclothoids.Clothoid.G1Hermite(0.0, 0.0, 0.1, 120.0, 60.0, 1.2)
    s = np.arange(0.0, curve.length, 0.1)
    east, north = np.array([curve.X(v) for v in s]), np.array([curve.Y(v) for v in s])
    measured = profile_of(_path_of(east, north), 0.0, curve.length - 1)
    inside = slice(8, len(measured.distance_m) - 8)
    true = np.array([curve.KappaStart + curve.dk * v for v in measured.distance_m[inside]])
    assert measured.curvature_per_m[inside] == pytest.approx(true, rel=0.01, abs=1e-4)


def test_curvature_round_an_ellipse_runs_between_its_known_radii() -> None:
    """Ellipse 80 x 30: radius from b^2/a = 11.25 to a^2/b = 213.333, perimeter 363.668628 (checked with sympy)."""
    t = np.linspace(0, 2 * np.pi, 20_001)
    path = _path_of(80.0 * np.cos(t), 30.0 * np.sin(t))
    assert path.distance_m[-1] == pytest.approx(363.668628, abs=1e-3)
    measured = profile_of(path, 1.0, 362.0)
    # The tightest radius is a mean over nine metres, and the ellipse is that tight at one point only.
    inside = measured.curvature_per_m[30:-30]
    assert 11.25 < 1 / inside.max() < 13.0
    assert 1 / inside.min() == pytest.approx(213.333, rel=0.02)


def test_standard_gravity_is_the_conventional_one() -> None:
    """CGPM 1901: 9.80665 m/s2."""
    assert GRAVITY_MPS2 == 9.80665
