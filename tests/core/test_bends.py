"""Pieces and bends."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mirkle.core.motion.bends import KnownBends, bend_between, gaps_before, grown
from mirkle.core.motion.profile import Profile
from mirkle.core.motion.spans import cut_in_pieces, measure


def profile(curvature: np.ndarray) -> Profile:
    n = len(curvature)
    s = np.arange(n, dtype=float)
    return Profile(s, np.cumsum(curvature), curvature, curvature, np.full(n, 2e-4), np.full(n, 20.0), s / 20.0, np.zeros(n))


def arc(radius: float, degrees: float, straight: int = 60) -> np.ndarray:
    return np.concatenate([np.zeros(straight), np.full(int(abs(radius) * np.radians(degrees)), 1 / radius), np.zeros(straight)])


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
    stretches = grown(p, np.array([60, second + 70]), np.array([second + 60, second + 95]))
    first, last = stretches.first, stretches.last
    runs = measure(p, first, last)
    assert runs.to_m[0] == pytest.approx(60 + 50 * np.radians(55), abs=3)
    assert runs.from_m[1] == pytest.approx(second, abs=3)


def test_a_tight_bend_beside_a_gentle_one_of_its_side_keeps_to_itself() -> None:
    # No straight between: the tight one must stop where the gentle one begins.
    curvature = np.concatenate([np.zeros(50), np.full(40, 1 / 30), np.full(80, 1 / 150), np.zeros(50)])
    stretches = grown(profile(curvature), np.array([50, 110]), np.array([80, 160]))
    runs = measure(profile(curvature), stretches.first, stretches.last)
    assert runs.to_m[0] == pytest.approx(90, abs=3)
    assert runs.radius_m[1] == pytest.approx(150, rel=0.05)


def eased(curvature: np.ndarray, metres: int) -> np.ndarray:
    """The same road with every change of curvature spread over some metres, as a driver's line does."""
    return np.convolve(curvature, np.ones(metres) / metres, mode="same")


@pytest.mark.parametrize("easing_m", [1, 9, 21])
def test_an_arc_ends_where_it_did_before_its_ends_were_eased(easing_m: int) -> None:
    p = profile(eased(arc(60, 50), easing_m))
    bend = bend_between(p, 0, len(p.distance_m) - 1)
    assert bend.from_m == pytest.approx(60, abs=2)
    assert bend.to_m == pytest.approx(60 + 60 * np.radians(50), abs=2)


def test_an_arc_of_two_radii_is_measured_from_its_gentle_beginning() -> None:
    p = profile(eased(np.concatenate([np.zeros(60), np.full(50, 1 / 110), np.full(35, 1 / 55), np.zeros(60)]), 9))
    bend = bend_between(p, 0, len(p.distance_m) - 1)
    assert (bend.from_m, bend.to_m) == (pytest.approx(60, abs=3), pytest.approx(145, abs=3))


def test_a_gap_is_measured_only_where_the_line_straightened() -> None:
    def gap(second: float, straight: int, easing: int) -> float:
        line = eased(np.concatenate([np.zeros(60), np.full(60, 1 / 50), np.zeros(straight), np.full(60, 1 / second), np.zeros(60)]), easing)
        p = profile(line)
        stretches = grown(p, np.array([60, 120 + straight]), np.array([120, 180 + straight]))
        side = np.array([1, 1 if second > 0 else -1])
        return float(gaps_before(p, side, stretches, KnownBends(p).arcs(side, stretches))[1])

    assert gap(50.0, 40, 9) == pytest.approx(40, abs=2)
    assert gap(-50.0, 20, 31) == pytest.approx(20, abs=4)
    assert np.isnan(gap(50.0, 20, 31))


def test_an_arc_ends_where_the_line_is_straightest_before_the_next_bend_of_its_side() -> None:
    """A line that never leaves a gentle left before it turns into a tight one: nothing of that counts to the gentle one."""
    gentle, between, tight = 1 / 200, 1 / 600, 1 / 40
    bent = np.concatenate(
        [
            np.zeros(60),
            np.full(50, gentle),
            np.linspace(gentle, between, 15),
            np.linspace(between, tight, 30),
            np.full(50, tight),
            np.zeros(60),
        ]
    )
    for curvature, first, last in ((bent, [60, 156], [115, 204]), (bent[::-1], [60, 149], [108, 204])):
        p = profile(np.ascontiguousarray(curvature))
        stretches = grown(p, np.array(first), np.array(last))
        runs = measure(p, stretches.first, stretches.last)
        known = KnownBends(p)
        arcs = known.arcs(runs.side, stretches)
        bends = known.bends(stretches, runs, arcs)
        which = 0 if curvature is bent else 1
        straightest = 125 if which == 0 else len(bent) - 125
        away = (straightest - bends[which].to_m) if which == 0 else (bends[which].from_m - straightest)
        assert away >= -2.0
        assert bends[which].apex_m == pytest.approx(88 if which == 0 else len(bent) - 88, abs=8)
        assert bends[which].radius_m == pytest.approx(200, rel=0.05)
