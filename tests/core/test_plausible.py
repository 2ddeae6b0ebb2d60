"""Nonsense in a recording is noticed, said, and put right or refused; and quickly, however absurd it is."""

from dataclasses import replace

import numpy as np
import pytest

from mirkle.core.errors import UnusableRecording
from mirkle.core.judging.all_judges import with_doubt
from mirkle.core.judging.findings import Finding
from mirkle.core.motion.driven_line import smooth_path
from mirkle.core.motion.gaps import PositionGap, holes_of, length_bounds
from mirkle.core.motion.segments import A_DRIVE_M, BridgedGap, drives_of, trimmed_to_launch
from mirkle.core.recording.model import Channel, Floats, Recording, repair_times
from mirkle.core.recording.ranges import drop_impossible
from mirkle.core.review import measure_run

COUNT = 300
TIME_S = np.arange(COUNT, dtype=float)


def winding() -> tuple[Floats, Floats, Floats, Floats]:
    """Latitude, longitude, speed and course of a car that goes left and right at 15 m/s or so, (n,) each."""
    heading = 0.9 * np.sin(TIME_S / 20.0)
    speed = 15.0 + 3.0 * np.cos(TIME_S / 15.0)
    north, east = np.cumsum(speed * np.cos(heading)), np.cumsum(speed * np.sin(heading))
    lat = np.radians(41.0) + north / 6.371e6
    lon = np.radians(-8.0) + east / (6.371e6 * np.cos(np.radians(41.0)))
    return lat, lon, speed, heading


def recording(time_s: Floats = TIME_S, **changed: Floats) -> Recording:
    lat, lon, speed, course = winding()
    values = {"lat_rad": lat, "lon_rad": lon, "speed_mps": speed, "course_rad": course} | changed
    return Recording("run.csv", {name: Channel(time_s, value) for name, value in values.items()})


def length_m(record: Recording) -> float:
    return measure_run(repair_times(drop_impossible(record))).profile.length_m


TRUE_M = length_m(recording())


@pytest.mark.parametrize(
    ("changed", "said"),
    [
        ({"time_s": 1000.0 * TIME_S}, "make sense as milliseconds"),
        ({"time_s": 1.7e18 + 1e9 * TIME_S}, "make sense as nanoseconds"),
        ({"lat_rad": winding()[1], "lon_rad": winding()[0]}, "swapped"),
        ({"lon_rad": -winding()[1]}, "longitude has lost its minus"),
        ({"lat_rad": -winding()[0]}, "latitude has lost its minus"),
        ({"course_rad": np.degrees(winding()[3]) + 360.0}, "read as degrees"),
        ({"course_rad": np.radians(winding()[3])}, "read as radians"),
        ({"speed_mps": np.where(TIME_S == 60, 1e200, winding()[2])}, "1 values are beyond all measure and were left out: speed"),
        ({"lat_rad": np.where(TIME_S == 70, 0.9, winding()[0])}, "1 position that no car could have reached"),
        ({"lat_rad": np.where(TIME_S == 70, np.nan, winding()[0]), "lon_rad": np.where(TIME_S == 70, np.nan, winding()[1])}, ""),
    ],
)
def test_a_slip_is_put_right_and_said(changed: dict, said: str) -> None:
    found = drop_impossible(recording(**changed))
    assert said in " ".join(map(str, found.doubts))
    assert bool(said) == bool(found.doubts)
    assert length_m(recording(**changed)) == pytest.approx(TRUE_M, rel=0.01)


@pytest.mark.parametrize("step_rad", [0.0, 1e-9])
def test_positions_that_hardly_move_say_nothing_of_the_courses_unit(step_rad: float) -> None:
    lat, lon, _, course = winding()
    crept = recording(lat_rad=lat[0] + step_rad * TIME_S, lon_rad=np.full(COUNT, lon[0]), course_rad=course)
    assert "read as" not in " ".join(map(str, drop_impossible(crept).doubts))


def test_a_good_recording_is_left_as_it_is() -> None:
    good = recording()
    found = drop_impossible(good)
    assert found.doubts == ()
    assert all(np.array_equal(found.channels[n].value, c.value) for n, c in good.channels.items())


@pytest.mark.parametrize(
    ("changed", "sentence"),
    [
        ({"lat_rad": winding()[0] + 0.02 * np.random.default_rng(1).normal(size=COUNT)}, "leap about"),
        ({"lon_rad": np.radians((173.0 * TIME_S) % 360.0 - 180.0)}, "leap about"),
        ({"time_s": 100.0 * TIME_S, "lat_rad": 0.7 + 100.0 * (winding()[0] - 0.7)}, "over 8 hours"),
    ],
)
def test_what_can_be_no_drive_is_refused(changed: dict, sentence: str) -> None:
    with pytest.raises(UnusableRecording, match=sentence) as fault:
        drop_impossible(recording(**changed))
    assert fault.value.mend


@pytest.mark.parametrize("leap_s", [86_400.0, 1e9])
def test_a_clock_that_leaps_costs_no_memory(leap_s: float) -> None:
    time_s = TIME_S + leap_s * (TIME_S > 200)
    found = repair_times(drop_impossible(recording(time_s)))
    assert "leaps once by more than an hour" in str(found.doubts[0])
    assert len(smooth_path(found).time_s) < 5000


def test_positions_too_far_apart_show_no_bend() -> None:
    lat, lon, *_ = winding()
    sparse = Recording("run.gpx", {"lat_rad": Channel(TIME_S[::4], lat[::4]), "lon_rad": Channel(TIME_S[::4], lon[::4])})
    with pytest.raises(UnusableRecording, match="4 s apart"):
        repair_times(drop_impossible(sparse))


def with_hole(seconds: float, *, only_positions: bool) -> Recording:
    whole = recording()
    kept = (TIME_S <= 100.0) | (100.0 + seconds <= TIME_S)
    names = ("lat_rad", "lon_rad") if only_positions else tuple(whole.channels)
    return Recording("run", {n: Channel(TIME_S[kept], whole.channels[n].value[kept]) for n in names})


@pytest.mark.parametrize("only_positions", [True, False])
@pytest.mark.parametrize("seconds", [5.0, 12.0, 30.0, 90.0])
def test_where_nothing_was_measured_there_is_no_road(seconds: float, only_positions: bool) -> None:
    record = repair_times(drop_impossible(with_hole(seconds, only_positions=only_positions)))
    (hole,) = holes_of(record)
    assert (hole.from_s, hole.to_s) == (100.0, 100.0 + seconds)
    assert hole.length_known == (seconds <= 10.0)
    measured = measure_run(record)
    (stretch,) = measured.unmeasured
    profile = measured.profile
    inside = (profile.time_s > 100.5) & (profile.time_s < 99.5 + seconds)
    # No bend lies in it, the car is no faster there than it was beside it, and its true length lies within the bounds.
    assert np.abs(profile.curvature_per_m[inside]).max() < 1e-9
    assert profile.speed_mps[inside].max() < 1.05 * winding()[2].max()
    true_m = float(np.trapezoid(winding()[2][100 : 101 + int(seconds)], TIME_S[100 : 101 + int(seconds)]))
    slack = 1.02 if seconds > 10.0 else 1.15
    assert stretch.least_m / slack <= true_m <= stretch.most_m * slack
    assert measured.profile.length_m == pytest.approx(TRUE_M, abs=0.3 * true_m)
    assert "not measured" in " ".join(map(str, measured.doubts))


def test_the_length_of_a_hole_lies_between_chord_and_pace() -> None:
    """200 m of chord in 20 s: at 20 m/s beside it no more than 1.4 times 400 m."""
    assert length_bounds(PositionGap(0.0, 20.0, False, 20.0, 20.0), 200.0) == (200.0, pytest.approx(560.0))
    assert length_bounds(PositionGap(0.0, 20.0, False, 20.0, 20.0), 900.0) == (900.0, 900.0)


def test_a_yaw_rate_and_a_speed_that_go_on_carry_the_shape_through() -> None:
    whole = with_hole(12.0, only_positions=False)
    fine_s = np.arange(0.0, COUNT - 1, 0.02)
    rate = -np.gradient(np.interp(fine_s, TIME_S, winding()[3]), fine_s)
    channels = {**whole.channels, "yaw_rate_radps": Channel(fine_s, rate), "acc_x_mps2": Channel(fine_s, 0.0 * fine_s)}
    assert holes_of(Recording("run", channels)) == ()
    assert len(holes_of(Recording("run", {**channels, "yaw_rate_radps": Channel(TIME_S, 0.0 * TIME_S)}))) == 0
    longer = with_hole(17.0, only_positions=False)
    assert len(holes_of(Recording("run", {**channels, **longer.channels}))) == 1


def test_several_drives_are_listed_and_one_can_be_chosen() -> None:
    lat, lon, *_ = winding()
    stand = np.full(60, lat[-1]), np.full(60, lon[-1])
    back = lat[::-1][:200], lon[::-1][:200]
    lats, lons = np.concatenate([lat, stand[0], back[0]]), np.concatenate([lon, stand[1], back[1]])
    time_s = np.arange(len(lats), dtype=float)
    record = Recording("day.gpx", {"lat_rad": Channel(time_s, lats), "lon_rad": Channel(time_s, lons)})
    measured = measure_run(repair_times(record))
    assert any("has 2 drives" in str(d) for d in measured.doubts)
    assert measured.profile.length_m == pytest.approx(TRUE_M, rel=0.02)
    second = measure_run(repair_times(record), start_s=360.0)
    assert second.drive.start_s == pytest.approx(360.0, abs=2.0)
    assert second.profile.length_m < 0.75 * TRUE_M
    assert len(drives_of(smooth_path(repair_times(record)))) == 2


def test_a_way_between_two_stages_that_was_not_recorded_parts_them() -> None:
    """The recorder slept on the liaison: standing, five minutes and some kilometres without positions, standing."""
    lat, lon, *_ = winding()
    stood = 15
    first = np.concatenate([np.full(stood, lat[0]), lat, np.full(stood, lat[-1])])
    lons = np.concatenate([np.full(stood, lon[0]), lon, np.full(stood, lon[-1])])
    away = 4000.0 / 6.371e6
    lats, lons = np.concatenate([first, first + away]), np.concatenate([lons, lons])
    at = np.arange(len(first), dtype=float)
    time_s = np.concatenate([at, at + len(first) + 300.0])
    path = smooth_path(repair_times(Recording("day.gpx", {"lat_rad": Channel(time_s, lats), "lon_rad": Channel(time_s, lons)})))
    found = [d for d in drives_of(path) if d.length_m > A_DRIVE_M]
    assert len(found) == 2
    assert all(d.length_m == pytest.approx(TRUE_M, rel=0.03) for d in found)


def test_a_finding_on_a_bridged_stretch_says_so() -> None:
    base = Finding("a", "grade-tighter", 3, 300.0, 340.0, "5", "4", "change", 0.7, 1.0, (), None)
    bridged = (BridgedGap(330.0, 420.0, 4.2), BridgedGap(900.0, 950.0, 6.0))
    assert with_doubt(base, bridged).why == "Positions are missing here for 4 s. The line there is a guess."
    assert with_doubt(replace(base, from_m=500.0, to_m=540.0), bridged).because == ()


@pytest.mark.parametrize("late_s", [0.0, 0.4])
def test_the_push_tells_when_the_car_left(late_s: float) -> None:
    """A speed that comes late, or rises slowly out of its noise, does not move the launch; without a push it stands as it was."""
    time_s = np.arange(0.0, 60.0, 0.02)
    pull = np.where((time_s > 20.0) & (time_s < 24.0), 4.0, 0.0)
    speed = np.cumsum(pull) * 0.02
    rng = np.random.default_rng(2)
    fix = slice(None, None, 5)
    received = Channel(time_s[fix] + late_s, speed[fix] + rng.normal(0, 0.05, len(time_s[fix])))
    yaw = Channel(time_s, rng.normal(0, 0.01, len(time_s)))
    bare = Recording("run", {"speed_mps": received, "yaw_rate_radps": yaw})
    path = smooth_path(bare)
    (drive,) = drives_of(path)
    pushed = Recording("run", {**bare.channels, "acc_x_mps2": Channel(time_s, pull + rng.normal(0, 0.1, len(time_s)))})
    assert trimmed_to_launch(drive, path, pushed).start_s == pytest.approx(20.0, abs=0.08)
    assert trimmed_to_launch(drive, path, bare) == drive
    quiet = Recording("run", {**bare.channels, "acc_x_mps2": Channel(time_s, rng.normal(0, 0.1, len(time_s)))})
    assert trimmed_to_launch(drive, path, quiet) == drive
