"""The stand-in camera shows the road that is there: nothing that rests on its pictures would be worth anything else."""

import numpy as np
import pytest

from mirkle.synthetic.camera import FOCAL_PX, HIGH, TRACK, WIDE, Scene, View, picture_of

STRAIGHT_M = 30


def scene(curvature: float, *, slope: float = 0.0, things: object = ()) -> Scene:
    """A road that bends, or climbs, from 30 m on."""
    at = np.arange(400.0)
    bend = np.maximum(at - STRAIGHT_M, 0.0)
    heading = curvature * bend
    flat = np.zeros(3600)
    beside = np.array(things, float).reshape(-1, 5)
    return Scene(np.cumsum(np.cos(heading)), np.cumsum(np.sin(heading)), slope * bend, heading, beside, flat + 0.01)


def looking(yaw: float = 0.0) -> View:
    return View(1.0, 0.0, 0.0, yaw, 0.0)


def middle_of_road(picture: np.ndarray, row: int) -> float:
    return float(np.flatnonzero(picture[row, :, 0] > TRACK[0] - 12).mean()) - WIDE / 2


@pytest.mark.parametrize("side", [1, -1])
def test_a_bend_goes_its_way_and_a_nearer_one_farther(side: int) -> None:
    far = HIGH // 2 + 2
    gentle, tight = (middle_of_road(picture_of(scene(side / r), looking(), 0.0), far) for r in (200.0, 80.0))
    assert np.sign(gentle) == np.sign(tight) == -side, "to the left is left in the picture"
    assert abs(tight) > abs(gentle) > 1.0


def test_a_turn_of_the_camera_moves_what_is_far_by_the_focal_length() -> None:
    far = HIGH // 2 + 4
    straight = scene(0.0)
    moved = middle_of_road(picture_of(straight, looking(0.05), 0.0), far) - middle_of_road(picture_of(straight, looking(0.0), 0.0), far)
    assert moved == pytest.approx(FOCAL_PX * np.tan(0.05), abs=1.5)


def test_behind_a_crest_there_is_no_road() -> None:
    def highest(slope: float) -> int:
        return int(np.flatnonzero((picture_of(scene(0.0, slope=slope), looking(), 0.0) == TRACK).all(2).any(1)).min())

    assert highest(-0.2) > highest(0.0) > highest(0.1)


def test_a_post_grows_as_it_comes_near_and_stands_on_its_side() -> None:
    post = scene(0.0, things=[(60.0, 3.5, 2.0, 0.5, 1.0)])
    sizes = []
    for at in (10.0, 40.0):
        picture = picture_of(post, View(1.0 + at, 0.0, 0.0, 0.0, 0.0), at)
        white = (picture == (232, 228, 214)).all(2)
        assert np.flatnonzero(white.any(0)).min() > WIDE / 2, "to the right of the road"
        sizes.append(int(white.any(1).sum()))
    assert sizes[1] > 2 * sizes[0]
