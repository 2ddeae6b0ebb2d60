"""The rough worlds are what they say: what figures are reported on must not be wrong itself."""

from __future__ import annotations

import sys
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from scipy.spatial.transform import Rotation

sys.path.insert(0, str(Path(__file__).parents[2] / "bench"))

from rough.crews import Book, Crew, leave_out, position_written, write, write_book
from rough.driving import GRAVITY_MPS2
from rough.recorders import BOXES, recorded_rotation
from rough.roads import held_out_road, training_road
from rough.worlds import reconnaissance, recorded, world

NUMBER = 8201


@pytest.mark.parametrize("make", [training_road, held_out_road])
def test_a_road_bends_to_both_sides_and_ends_where_it_says(make) -> None:  # type: ignore[no-untyped-def]
    road = make(np.random.default_rng(4), 5000.0)
    assert len(road.curvature_per_m) == 5300
    assert np.abs(road.curvature_per_m).max() < 1 / 6.0
    left = float((road.curvature_per_m > 1 / 300).mean())
    right = float((road.curvature_per_m < -1 / 300).mean())
    assert 0.1 < left < 0.6
    assert 0.1 < right < 0.6
    assert np.abs(road.slope).max() < 0.45


def test_the_two_generators_and_the_numbers_share_no_road() -> None:
    roads = [world(n, held_out=h).road.curvature_per_m for n in (NUMBER, NUMBER + 1) for h in (False, True)]
    for i, one in enumerate(roads):
        assert all(abs(np.corrcoef(one, other)[0, 1]) < 0.2 for other in roads[i + 1 :])
    assert np.array_equal(world(NUMBER).road.curvature_per_m, world.__wrapped__(NUMBER).road.curvature_per_m)


def test_the_car_stays_by_the_road_at_a_speed_that_grip_allows() -> None:
    w = world(NUMBER)
    run = w.run
    grip = np.interp(run.road_m, np.arange(len(w.road.grip_mps2)), w.road.grip_mps2)
    moving = (run.time_s > run.start_s + 5) & (run.time_s < run.finish_s)
    used = np.abs(run.speed_mps**2 * run.curvature_per_m)[moving] / grip[moving]
    assert np.percentile(used, 90) < 1.3
    assert run.speed_mps[run.time_s < run.start_s - 0.2].max() == 0.0
    assert run.road_m[np.searchsorted(run.time_s, run.finish_s)] == pytest.approx(w.road.finish_m, abs=1.0)
    # In the air nothing pushes; the upright push averages to gravity elsewhere.
    flying = run.airborne > 0
    assert not flying.any() or run.up_mps2[flying].max() == 0.0
    assert run.up_mps2[moving & ~flying].mean() == pytest.approx(GRAVITY_MPS2, rel=0.06)


def test_a_reconnaissance_is_slow_and_near_the_middle() -> None:
    w = world(NUMBER)
    calm = reconnaissance(w)
    assert calm.speed_mps.max() < 19.0
    assert calm.finish_s - calm.start_s > 1.1 * (w.run.finish_s - w.run.start_s)
    assert np.abs(calm.slip_rad).max() < 0.5 * np.abs(w.run.slip_rad).max()


def test_all_passes_of_a_road_lie_on_it() -> None:
    w = world(6012)
    slow = reconnaissance(w)
    at = np.arange(0.0, w.road.finish_m, 50.0)
    places = [[np.interp(at, run.road_m, axis) for axis in (run.east_m, run.north_m)] for run in (w.run, slow)]
    assert np.hypot(*np.subtract(*places)).max() < 8.0
    # Nor does the line part from its own curvature.
    turned = np.cumsum(w.run.speed_mps * w.run.curvature_per_m) * 0.01
    assert np.abs(turned - (w.run.heading_rad - w.run.heading_rad[0])).max() < 0.1


def test_a_box_is_late_and_turned_by_what_it_says() -> None:
    """The body's upright as the box sees it, standing, against SciPy's rotation; positions against the drive."""
    w = world(NUMBER)
    seen = recorded(w, "usual logger")
    rows = [line.split(",") for line in seen.csv.splitlines()[1:]]
    standing = np.array([[float(v) for v in r[7:10]] for r in rows if r[7] and float(r[0]) < w.run.start_s - 1])
    assert standing.mean(axis=0) == pytest.approx(seen.up, abs=0.08)
    speeds = np.array([(float(r[0]), float(r[4]) / 3.6) for r in rows if r[4]])
    behind = np.interp(speeds[:, 0] - seen.late_s, w.run.time_s, w.run.speed_mps)
    assert np.abs(speeds[:, 1] - behind).std() < 0.12
    assert np.abs(speeds[:, 1] - np.interp(speeds[:, 0], w.run.time_s, w.run.speed_mps)).std() > 0.3
    assert BOXES["10 Hz alone"].inertial_hz == 0.0
    assert not any(line.split(",")[7] for line in recorded(w, "10 Hz alone").csv.splitlines()[1:])
    angles = np.array([0.3, -0.2, 0.4])
    assert recorded_rotation(angles) == pytest.approx(Rotation.from_euler("xyz", angles).as_matrix())


def honest() -> Book:
    road = training_road(np.random.default_rng(6), 6000.0)
    return write_book(np.random.default_rng(1), road, Crew(scatter=0.0, halves=True, descending=True, omits=6.0))


def test_a_crew_writes_what_it_sees_and_a_plus_is_faster_whichever_way_its_numbers_run() -> None:
    book = honest()
    for note in book.notes:
        if note.corner is not None and note.grade[0].isdigit() and 1.2 < note.corner.position < 5.8:
            assert position_written(book.crew, note.grade) == pytest.approx(note.corner.position, abs=0.2)
    assert position_written(book.crew, "3+") > position_written(book.crew, "3") > position_written(book.crew, "3-")
    up = replace(book.crew, descending=False)
    assert position_written(up, "3+") > position_written(up, "3") > position_written(up, "3-")
    assert write(book.crew, book.notes[1]).split()[0] in ("left", "right")


def test_a_corner_left_out_leaves_its_road_to_the_distance_before_it() -> None:
    book = honest()
    thinned = leave_out(np.random.default_rng(3), book, 6)
    assert len(thinned.notes) == len(book.notes) - len(thinned.slips) < len(book.notes)
    for slip in thinned.slips:
        before = max((n for n in thinned.notes if n.place_to_m <= slip.from_m), key=lambda n: n.place_to_m)
        after = min((n for n in thinned.notes if n.place_from_m >= slip.to_m), key=lambda n: n.place_from_m)
        metres = after.place_from_m - before.place_to_m
        assert before.gap == "into" if metres < 14 else abs(np.log(int(before.gap) / metres)) < 0.3
