"""Pieces and bends."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mirkle.core.motion.bends import Profile, bend_between, cut_in_pieces, grown, measure


def profile(curvature: np.ndarray) -> Profile:
    n = len(curvature)
    s = np.arange(n, dtype=float)
    return Profile(s, np.cumsum(curvature), curvature, curvature, np.full(n, 2e-4), np.full(n, 20.0), s / 20.0)


def arc(radius: float, degrees: float, straight: int = 60) -> np.ndarray:
    return np.concatenate(
        [np.zeros(straight), np.full(int(abs(radius) * np.radians(degrees)), 1 / radius), np.zeros(straight)]
    )


@settings(max_examples=40, deadline=None)
@given(st.lists(st.tuples(st.floats(12, 300), st.booleans(), st.floats(15, 140)), min_size=1, max_size=6))
def test_pieces_cover_the_road_once_and_lose_no_turn(corners: list[tuple[float, bool, float]]) -> None:
    curvature = np.concatenate([arc(r if left else -r, d) for r, left, d in corners])
    pieces = cut_in_pieces(profile(curvature))
    assert pieces.first[0] == 0
    assert pieces.last[-1] == len(curvature) - 1
    assert np.all(pieces.first[1:] == pieces.last[:-1] + 1)
    assert pieces.turn_rad.sum() == pytest.approx(curvature.sum(), abs=1e-9)
    for i in range(len(pieces)):
        inside = curvature[pieces.first[i] : pieces.last[i] + 1]
        assert set(np.sign(inside[np.abs(inside) > 1 / 800])) <= {pieces.side[i]}


@pytest.mark.parametrize("radius", [11.0, -18.0, 60.0, -250.0])
def test_a_bend_is_measured_as_it_was_made(radius: float) -> None:
    curvature = arc(radius, 50)
    bend = bend_between(profile(curvature), 0, len(curvature) - 1)
    assert bend.radius_m == pytest.approx(abs(radius), rel=0.01)
    assert bend.turn_deg == pytest.approx(50, abs=360 / (2 * np.pi) / abs(radius) * 1.5)
    assert bend.length_m == pytest.approx(abs(radius) * np.radians(50), abs=2)
    assert bend.from_m == pytest.approx(60, abs=2)
    assert bend.direction == ("left" if radius > 0 else "right")


def test_borders_come_from_the_curvature_and_not_from_what_was_claimed() -> None:
    curvature = np.concatenate([arc(50, 55), arc(140, 40)])
    p = profile(curvature)
    second = 60 + int(50 * np.radians(55)) + 120
    # The first claim runs far into the second bend, the second has only its last third.
    first, last = grown(p, np.array([60, second + 70]), np.array([second + 60, second + 95]))
    runs = measure(p, first, last)
    assert runs.to_m[0] == pytest.approx(60 + 50 * np.radians(55), abs=3)
    assert runs.from_m[1] == pytest.approx(second, abs=3)


def test_a_tight_bend_beside_a_gentle_one_of_its_side_keeps_to_itself() -> None:
    # No straight between: the tight one must stop where the gentle one begins.
    curvature = np.concatenate([np.zeros(50), np.full(40, 1 / 30), np.full(80, 1 / 150), np.zeros(50)])
    first, last = grown(profile(curvature), np.array([50, 110]), np.array([80, 160]))
    runs = measure(profile(curvature), first, last)
    assert runs.to_m[0] == pytest.approx(90, abs=3)
    assert runs.radius_m[1] == pytest.approx(150, rel=0.05)
