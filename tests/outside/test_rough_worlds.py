"""Rough worlds, made by code that shares nothing with the core: what the recorder saw, held against the truth.

They are worlds that no number was fitted on; the figures that are reported come from ``bench/trust.py``.
"""

from __future__ import annotations

import sys
from functools import cache
from pathlib import Path

import numpy as np
import pytest
from scipy.signal import correlate, correlation_lags
from scipy.spatial.transform import Rotation

from mirkle.core.constants import GRAVITY_MPS2
from mirkle.core.motion.bends import bend_between
from mirkle.core.motion.driven_line import smooth_path
from mirkle.core.motion.profile import profile_of
from mirkle.core.recording.model import Floats, Recording, repair_times
from mirkle.core.recording.mounting import AXES, mount_of
from mirkle.core.recording.ranges import drop_impossible
from mirkle.core.review import measure_run
from mirkle.files.recordings.csv_table import parse_csv_run
from mirkle.files.recordings.readers import parse_run

sys.path.insert(0, str(Path(__file__).parents[2] / "bench"))

from rough.recorders import BOXES, Recorded
from rough.roads import even
from rough.worlds import World, recorded, world

NUMBERS = (8101, 8102)
INERTIAL = [name for name, box in BOXES.items() if box.inertial_hz]


# One box on one world is looked at from several sides.
@cache
def seen_of(number: int, box: str) -> Recorded:
    return recorded(world(number, held_out=True), box)


@cache
def put_right(number: int, box: str) -> Recording:
    """The recording as it is taken in."""
    return parse_run(seen_of(number, box).csv.encode(), name="run.csv")


def as_written(seen: Recorded) -> Recording:
    """The recording before anything is put right."""
    return repair_times(drop_impossible(parse_csv_run(seen.csv.encode(), name="run.csv")))


def positions_alone(seen: Recorded) -> bytes:
    """Positions with their speed and course, without any motion channel."""
    rows = (line.split(",") for line in seen.csv.splitlines())
    return "\n".join(",".join(cells[:7]) for cells in rows if cells[1]).encode()


def errors(w: World, recording: Recording, late_s: float) -> tuple[Floats, Floats]:
    """Of the corners' tightest radii (log) and of the way over 150 m (metres), each (n,)."""
    path = smooth_path(recording)
    true_m = np.interp(path.time_s - late_s, w.run.time_s, w.run.distance_m)
    grid = np.arange(int(w.run.distance_m[-1]))
    truth = even(np.interp(grid, w.run.distance_m, w.run.curvature_per_m), 2.6)
    met = even(np.interp(grid, true_m, path.curvature_per_m), 2.6)
    driven = np.interp(np.arange(len(w.road.curvature_per_m)), w.run.road_m, w.run.distance_m)
    radii = []
    for c in w.book.corners:
        if c.turn_deg > 20:
            inside = slice(int(driven[int(c.from_m)]) - 6, int(driven[int(c.to_m)]) + 6)
            radii.append(np.log((c.side * truth[inside]).max() / max((c.side * met[inside]).max(), 1e-4)))
    at = np.arange(200.0, true_m[-1] - 200.0, 25.0)
    off = path.distance_m - true_m
    return np.array(radii), np.interp(at + 150.0, true_m, off) - np.interp(at, true_m, off)


@pytest.mark.parametrize("box", INERTIAL)
def test_motion_channels_are_never_worse_than_none(box: str) -> None:
    """Over some hundred and fifty corners, since the medians of one world's sixty scatter by a tenth by themselves."""
    pooled: list[list[Floats]] = [[], [], [], []]
    for number in (*NUMBERS, 8103, 8104):
        w = world(number, held_out=True)
        seen, taken_in = seen_of(number, box), put_right(number, box)
        first_s, moved_to_s = (r.channels["lat_rad"].time_s[0] for r in (as_written(seen), taken_in))
        # How late they stay is tested below: a hundredth of a second is a foot where the car brakes.
        with_it = errors(w, taken_in, seen.late_s - (first_s - moved_to_s))
        without = errors(w, parse_run(positions_alone(seen), name="run.csv"), seen.late_s)
        for column, values in zip(pooled, (*with_it, *without), strict=True):
            column.append(np.abs(values))
    radii, way, bare_radii, bare_way = (np.concatenate(column) for column in pooled)
    assert np.median(radii) <= np.median(bare_radii)
    assert np.percentile(radii, 75) <= np.percentile(bare_radii, 75)
    # The way is carried by the speed, which both have: they are equal to within what the 90th percentile scatters.
    assert np.percentile(way, 90) <= 1.07 * np.percentile(bare_way, 90)
    assert np.percentile(way, 90) < 1.0  # metres over 150, with trees: 1.4 when a receiver's steps went into the way
    assert np.median(radii) < 0.03


@pytest.mark.parametrize("number", NUMBERS)
@pytest.mark.parametrize("box", INERTIAL)
def test_lag_and_upright_of_a_sliding_car(number: int, box: str) -> None:
    """A body that leads its path by ten degrees would be taken for a late receiver and a tilted box, if it were not looked at."""
    seen = seen_of(number, box)
    found = mount_of(as_written(seen))
    assert found is not None
    assert abs(found.lag_s - seen.late_s) < max(0.05, 2.0 * found.lag_sd_s)
    assert np.degrees(np.arccos(min(1.0, float(found.rotation[2] @ seen.up)))) < max(2.0, 2.0 * found.tilt_sd_deg)


@pytest.mark.parametrize("number", NUMBERS)
def test_the_launch_is_when_the_car_is_pushed(number: int) -> None:
    w = world(number, held_out=True)
    for box in INERTIAL:
        start_s = measure_run(put_right(number, box)).drive.start_s
        assert abs(start_s - w.run.start_s) < 0.15


def test_the_lag_is_where_scipys_correlation_has_its_peak() -> None:
    """On a straight and on tarmac, where no slip blurs it: the forward axis against the change of the received speed."""
    number = next(n for n in range(8100, 8200) if world(n, held_out=True).road.surface == "tarmac")
    recording = as_written(seen_of(number, "usual logger"))
    found = mount_of(recording)
    assert found is not None
    step_s = 0.01
    speed, axes = recording.channels["speed_mps"], [recording.channels[n] for n in AXES]
    at = np.arange(speed.time_s[0] + 1.0, speed.time_s[-1] - 1.0, step_s)
    force = found.rotation @ np.stack([np.interp(at, c.time_s, c.value) for c in axes])
    gains = np.gradient(np.interp(at, speed.time_s, speed.value), step_s)
    smooth = [even(v - even(v, 400.0), 25.0) for v in (force[0], gains)]
    peak = correlation_lags(len(at), len(at))[np.argmax(correlate(smooth[1], smooth[0]))] * step_s
    assert abs(found.lag_s - peak) < 0.05


def test_the_rotation_is_that_of_scipys_least_squares() -> None:
    """Kabsch's rotation over the same windows: what the box felt against what the car did, gravity in it."""
    seen = seen_of(NUMBERS[0], "usual logger")
    recording = as_written(seen)
    found = mount_of(recording)
    assert found is not None
    speed, course = recording.channels["speed_mps"], recording.channels["course_rad"]
    begin = speed.time_s[100:-110:10]
    heading = -np.interp(speed.time_s, course.time_s, np.unwrap(course.value))
    v = [np.interp(begin + d, speed.time_s, speed.value) for d in (0.0, 1.0)]
    psi = [np.interp(begin + d, speed.time_s, heading) for d in (0.0, 1.0)]
    moving = np.minimum(*v) > 8.0
    did = np.stack([v[1] - v[0], 0.5 * (v[0] + v[1]) * (psi[1] - psi[0]), np.full(len(begin), GRAVITY_MPS2)], axis=1)[moving]
    felt = []
    for name in AXES:
        c = recording.channels[name]
        total = np.concatenate([[0.0], np.cumsum(0.5 * (c.value[1:] + c.value[:-1]) * np.diff(c.time_s))])
        felt.append(np.interp(begin + 1.0 - found.lag_s, c.time_s, total) - np.interp(begin - found.lag_s, c.time_s, total))
    reference, _ = Rotation.align_vectors(did, np.stack(felt, axis=1)[moving])
    # It knows nothing of slip and of slopes, so it is good to a few degrees only.
    assert np.degrees((Rotation.from_matrix(found.rotation) * reference.inv()).magnitude()) < 4.0


def test_the_spread_of_a_bends_radius_covers_its_error() -> None:
    normalised = []
    for number in NUMBERS:
        w = world(number, held_out=True)
        path = smooth_path(put_right(number, "usual logger"))
        profile = profile_of(path, float(path.distance_m[0]), float(path.distance_m[-1]))
        place = np.interp(w.run.time_s, path.time_s, path.distance_m)
        truth = np.interp(np.arange(int(place[-1])), place, w.run.curvature_per_m)
        for c in w.book.corners:
            first, last = (int(np.interp(m, w.run.road_m, place)) for m in (c.from_m, c.to_m))
            bend = bend_between(profile, first, last)
            true = np.convolve(c.side * truth[first - 4 : last + 5], np.ones(9) / 9, mode="valid").max()
            if c.turn_deg > 20:
                normalised.append(np.log(bend.radius_m * true) * bend.radius_m / bend.radius_sd_m)
    low, high = np.percentile(normalised, [16, 84])
    assert 0.6 < (high - low) / 2 < 1.5
