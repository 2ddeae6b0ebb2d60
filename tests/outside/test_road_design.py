"""Speeds, radii and flights against the tables of road design handbooks and school physics."""

from dataclasses import replace

import numpy as np
import pytest

from mirkle.core.constants import GRAVITY_MPS2
from mirkle.core.judging.pace import Pace
from mirkle.core.motion.bends import bend_between
from mirkle.synthetic.car import _vertical, flight_s
from mirkle.synthetic.road import TrueFeature, TrueRoad
from tests.core.test_bends import profile

BEND = bend_between(profile(np.concatenate([np.zeros(50), np.full(60, 1 / 50.0), np.zeros(50)])), 45, 115)


@pytest.mark.parametrize(
    ("kmh", "friction", "radii"),
    [(50, 0.19, {4: 86, 6: 79, 8: 73}), (80, 0.14, {4: 280, 6: 252, 8: 229}), (100, 0.12, {4: 492, 6: 437, 8: 394})],
)
def test_speed_that_a_radius_allows_is_that_of_the_minimum_radius_tables(kmh: int, friction: float, radii: dict[int, int]) -> None:
    """AASHTO Green Book, R = V^2 / (127 (e + f)), radii rounded to metres (from memory, arithmetic checked)."""
    for superelevation, radius in radii.items():
        grip = (superelevation / 100 + friction) * GRAVITY_MPS2
        pace = Pace(np.array([0.0, 1e4]), np.array([grip, grip]), 5.0, ((0.0, 8.0), (6.0, 40.0)))
        allowed = pace.allowed_mps(replace(BEND, radius_m=float(radius)))
        assert allowed * 3.6 == pytest.approx(kmh, rel=0.005)


def crest_of(radius: float, length: float) -> TrueRoad:
    """A level road that bends over a crest of a vertical radius and stays on the slope that it ends with."""
    slope = -np.clip((np.arange(300.0) - 100.0) / radius, 0.0, length / radius)
    return TrueRoad(np.zeros(300), slope, (), (TrueFeature("jump", 100.0 + length / 2, radius, length),), 300.0, ())


@pytest.mark.parametrize(("radius", "kmh"), [(50.0, 79.72), (100.0, 112.74), (200.0, 159.43)])
def test_the_stand_in_car_leaves_the_ground_where_physics_says(radius: float, kmh: float) -> None:
    """Take-off at v = sqrt(g R): 79.72, 112.74 and 159.43 km/h (from memory, arithmetic checked)."""

    def flies(speed_kmh: float) -> bool:
        place = np.arange(0.0, 250.0, 0.1)
        _, jumps = _vertical(crest_of(radius, 14.0), place, np.full(len(place), speed_kmh / 3.6))
        return bool(jumps)

    assert not flies(0.99 * kmh)
    assert flies(1.2 * kmh)


@pytest.mark.parametrize(("up_deg", "down_deg", "seconds", "metres"), [(3.0, 0.0, 0.2668, 6.662), (0.0, 4.0, 0.3565, 8.913)])
def test_flight_lasts_as_long_as_a_thrown_stones(up_deg: float, down_deg: float, seconds: float, metres: float) -> None:
    """At 25 m/s off a ramp of 3 degrees to the flat, and level on to a fall of 4 (from memory, arithmetic checked)."""
    at = np.arange(300.0)
    slope = np.where(at <= 100, np.tan(np.radians(up_deg)), -np.tan(np.radians(down_deg)))
    # The lip is a metre long on this grid: the stone is thrown from its beginning.
    air = flight_s(slope, 100.0, 25.0)
    assert air == pytest.approx(seconds, abs=0.025)
    assert 25.0 * air == pytest.approx(metres, abs=0.6)


@pytest.mark.parametrize(("kmh", "k"), list(zip(range(20, 140, 10), (1, 2, 4, 7, 11, 17, 26, 39, 52, 74, 95, 124), strict=True)))
def test_no_crest_of_a_public_road_throws_a_car_at_its_design_speed(kmh: int, k: int) -> None:
    """AASHTO's crests, K metres a per cent, apex radius 100 K m (from memory): what a road engineer builds is no jump."""
    place = np.arange(0.0, 250.0, 0.1)
    load, jumps = _vertical(crest_of(100.0 * k, 14.0), place, np.full(len(place), kmh / 3.6))
    assert not jumps
    # The load felt on the crest is g less v^2/R.
    at_crest = load[(place > 104) & (place < 110)]
    assert at_crest == pytest.approx(1 - (kmh / 3.6) ** 2 / (100.0 * k * GRAVITY_MPS2), abs=1e-6)
