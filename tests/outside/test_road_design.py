"""Speeds, radii and flights against the tables of road design handbooks and school physics."""

from dataclasses import replace

import numpy as np
import pytest

from mirkle.core.motion.bends import bend_between
from mirkle.core.motion.path import GRAVITY_MPS2
from mirkle.core.verdict.pace import Pace
from mirkle.standins.car import _vertical
from mirkle.standins.road import TrueFeature, TrueRoad
from tests.core.test_bends import profile

BEND = bend_between(profile(np.concatenate([np.zeros(50), np.full(60, 1 / 50.0), np.zeros(50)])), 45, 115)


@pytest.mark.parametrize(
    ("kmh", "friction", "radii"),
    [(50, 0.19, {4: 86, 6: 79, 8: 73}), (80, 0.14, {4: 280, 6: 252, 8: 229}), (100, 0.12, {4: 492, 6: 437, 8: 394})],
)
def test_speed_that_a_radius_allows_is_that_of_the_minimum_radius_tables(
    kmh: int, friction: float, radii: dict[int, int]
) -> None:
    """AASHTO Green Book, R = V^2 / (127 (e + f)), radii rounded to metres (from memory, arithmetic checked)."""
    for superelevation, radius in radii.items():
        grip = (superelevation / 100 + friction) * GRAVITY_MPS2
        pace = Pace(np.array([0.0, 1e4]), np.array([grip, grip]), 5.0, ((0.0, 8.0), (6.0, 40.0)))
        allowed = pace.allowed_mps(replace(BEND, radius_m=float(radius)))
        assert allowed * 3.6 == pytest.approx(kmh, rel=0.005)


@pytest.mark.parametrize(("radius", "kmh"), [(50.0, 79.72), (100.0, 112.74), (200.0, 159.43)])
def test_the_stand_in_car_leaves_the_ground_where_physics_says(radius: float, kmh: float) -> None:
    """Take-off at v = sqrt(g R): 79.72, 112.74 and 159.43 km/h (from memory, arithmetic checked)."""

    def flies(speed_kmh: float) -> bool:
        crest = TrueFeature("jump", 100.0, radius, 14.0)
        road = TrueRoad(np.zeros(300), np.zeros(300), (), (crest,), 300.0, ())
        place = np.arange(0.0, 250.0, 0.1)
        _, jumps = _vertical(road, place, np.full(len(place), speed_kmh / 3.6))
        return bool(jumps)

    assert not flies(0.99 * kmh)
    assert flies(1.35 * kmh)


def test_flight_lasts_as_long_as_a_thrown_stones() -> None:
    """Level take-off over ground that falls away by an angle a: t = 2 v tan(a) / g; at 25 m/s and 4 degrees 0.3565 s."""
    speed, fall = 25.0, np.tan(np.radians(4.0))
    assert 2 * speed * fall / GRAVITY_MPS2 == pytest.approx(0.3565, abs=2e-4)
    crest = TrueFeature("jump", 100.0, 20.0, 8.0)
    road = TrueRoad(np.zeros(300), np.zeros(300), (), (crest,), 300.0, ())
    place = np.arange(0.0, 250.0, 0.1)
    _, (jump,) = _vertical(road, place, np.full(len(place), speed))
    left = 8.0 / 20.0 * (1 - GRAVITY_MPS2 * 20.0 / speed**2)
    assert jump.air_s == pytest.approx(2 * speed * left / GRAVITY_MPS2)
    assert jump.to_m - jump.from_m == pytest.approx(speed * jump.air_s, abs=0.3)
