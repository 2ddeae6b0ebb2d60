"""The driven line on worlds whose curvature is known exactly."""

from dataclasses import replace

import numpy as np
import pytest

from mirkle.core.errors import UnusableRecording
from mirkle.core.motion.driven_line import DrivenLine, smooth_path
from mirkle.core.motion.profile import profile_of
from mirkle.core.motion.segments import longest_segment, trimmed_to_start
from mirkle.core.recording.model import Channel, Recording, repair_times
from tests.worlds import recording_of_curvature


def _arcs(*arcs: tuple[float, float]) -> np.ndarray:
    """Curvature each metre: straights of 80 m between arcs of (radius, degrees), eased over 8 m."""
    parts = [np.zeros(80)]
    for radius, degrees in arcs:
        parts += [np.full(int(abs(radius) * np.radians(degrees)), 1 / radius), np.zeros(80)]
    return np.convolve(np.concatenate(parts), np.ones(8) / 8, mode="same")


ARCS = ((60.0, 80), (-30.0, 100), (150.0, 45), (-12.0, 150), (45.0, 60))


def _radius_errors(path: DrivenLine) -> list[float]:
    """How far out, as a share, the tightest radius of each of :data:`ARCS` is."""
    drive = longest_segment(path)
    profile = profile_of(path, drive.start_m, drive.stop_m)
    at, errors = 80, []
    for radius, degrees in ARCS:
        length = int(abs(radius) * np.radians(degrees))
        inside = profile.curvature_per_m[at - 8 : at + length + 8] * np.sign(radius)
        errors.append(abs(1 / inside.max() / abs(radius) - 1))
        at += length + 80
    return errors


@pytest.mark.parametrize(("rate_hz", "inertial", "allowed"), [(20.0, True, 0.025), (10.0, True, 0.03), (10.0, False, 0.05)])
def test_tightest_radius_of_known_arcs(rate_hz: float, inertial: bool, allowed: float) -> None:
    path = smooth_path(recording_of_curvature(_arcs(*ARCS), speed_mps=14.0, rate_hz=rate_hz, inertial=inertial))
    errors = _radius_errors(path)
    assert np.median(errors) < allowed
    assert max(errors) < 4 * allowed


@pytest.mark.parametrize("rate_hz", [2.5, 5.0, 10.0])
def test_close_positions_alone_show_how_the_car_was_steered(rate_hz: float) -> None:
    """No speed, no course: radii from positions a fifth of a second apart, and a spread that knows how far they are out."""
    whole = recording_of_curvature(_arcs(*ARCS), speed_mps=16.0, rate_hz=rate_hz, inertial=False, seed=9)
    alone = Recording("p", {name: whole.channels[name] for name in ("lat_rad", "lon_rad")})
    path = smooth_path(alone)
    assert path.sources == ("position",)
    drive = longest_segment(path)
    errors = _radius_errors(path)
    assert np.median(errors) < 0.1
    assert drive.stop_m - drive.start_m == pytest.approx(len(_arcs(*ARCS)) - 1, rel=0.01)
    assert np.isnan(path.slip_rad).all()


@pytest.mark.parametrize("names", [("lat_rad", "lon_rad"), ("lat_rad", "lon_rad", "speed_mps", "course_rad")])
def test_what_trees_do_to_positions_is_neither_way_nor_bend(names: tuple[str, ...]) -> None:
    """They step by 6 m along a straight and across it, stay for ten seconds and step back."""
    whole = recording_of_curvature(_arcs((60.0, 60), (-70.0, 60)), speed_mps=10.0, inertial=False, noise=0.3)
    time_s = whole.channels["lat_rad"].time_s
    under = ((time_s > 7.5) & (time_s < 17.5)) * 6.0 / 6.37e6
    stepped = {n: whole.channels[n] for n in names}
    for axis in names[:2]:
        stepped[axis] = Channel(time_s, whole.channels[axis].value + under)
    clear, seen = (smooth_path(Recording("p", {n: whole.channels[n] for n in names})), smooth_path(Recording("p", stepped)))
    way = [np.interp(at, p.time_s, p.distance_m) for p in (clear, seen) for at in (6.5, 8.5, 16.5, 18.5)]
    assert np.abs(np.diff(way[:4]) - np.diff(way[4:])).max() < (0.7 if "speed_mps" in names else 2.0)
    straight = (seen.time_s > 6.5) & (seen.time_s < 9.0)
    assert np.abs(seen.curvature_per_m[straight]).max() < 1 / 120


def test_a_speed_without_a_course_sharpens_slow_positions() -> None:
    """One position a second tells little of a hairpin; the Doppler speed beside it tells how far the car went in it."""
    errors = {}
    for names in (("lat_rad", "lon_rad"), ("lat_rad", "lon_rad", "speed_mps")):
        of_seeds = []
        for seed in range(4):
            whole = recording_of_curvature(_arcs(*ARCS), speed_mps=16.0, rate_hz=1.0, inertial=False, seed=seed)
            path = smooth_path(Recording("p", {name: whole.channels[name] for name in names}))
            of_seeds += _radius_errors(path)
        errors[names] = np.median(of_seeds)
        assert ("Doppler speed" in path.sources) == ("speed_mps" in names)
    without, beside = errors.values()
    assert beside < 0.8 * without


@pytest.mark.parametrize(("seed", "missing_s"), [(1, 35.0), (2, 38.0), (3, 14.0), (3, 17.0)])
def test_positions_alone_do_not_wander_off_where_they_are_missing(seed: int, missing_s: float) -> None:
    """Over six seconds without a position, in bends: the line between is no longer than one that a car drives."""
    bends = _arcs((60.0, 60), (-70.0, 60), (80.0, 70), (-60.0, 50), (70.0, 60), (-60.0, 60))
    whole = recording_of_curvature(bends, speed_mps=25.0, rate_hz=5.0, inertial=False, seed=seed, noise=2.5)
    time_s = whole.channels["lat_rad"].time_s
    there = (time_s < missing_s) | (time_s > missing_s + 6.5)
    seen = {n: Channel(time_s[there], whole.channels[n].value[there]) for n in ("lat_rad", "lon_rad")}
    drive = longest_segment(smooth_path(Recording("p", seen)))
    assert drive.stop_m - drive.start_m == pytest.approx(len(bends) - 1, abs=14.0)


def test_positions_closer_than_they_can_tell_do_no_harm() -> None:
    """Ten a second share their error: they are no worse than five."""
    errors = []
    for rate_hz in (5.0, 10.0):
        whole = recording_of_curvature(_arcs((40.0, 90)), speed_mps=14.0, rate_hz=rate_hz, inertial=False)
        alone = Recording("p", {name: whole.channels[name] for name in ("lat_rad", "lon_rad")})
        path = smooth_path(alone)
        moving = path.speed_mps > 6.0
        errors.append(abs(1 / path.curvature_per_m[moving].max() / 40.0 - 1))
    assert errors[1] < max(2.0 * errors[0], 0.12)


def test_the_body_yaws_before_the_path_turns_and_that_is_slip() -> None:
    """Sideslip put into the gyro alone comes out as slip, and the path keeps its radius."""
    curvature = _arcs((50.0, 90), (-50.0, 90))
    plain = recording_of_curvature(curvature, speed_mps=15.0, seed=5)
    yaw, acc = plain.channels["yaw_rate_radps"], plain.channels["acc_y_mps2"]
    slip = 0.02 * np.convolve(acc.value, np.ones(15) / 15, mode="same")
    yawing = Channel(yaw.time_s, yaw.value + np.gradient(slip, yaw.time_s))
    path = smooth_path(Recording("s", plain.channels | {"yaw_rate_radps": yawing}))
    there = np.interp(path.time_s, yaw.time_s, slip)
    moving = path.speed_mps > 8.0
    assert np.corrcoef(path.slip_rad[moving], there[moving])[0, 1] > 0.85
    assert 1 / np.abs(path.curvature_per_m[moving]).max() == pytest.approx(50.0, rel=0.1)


def test_the_start_is_where_a_hand_put_it() -> None:
    path = smooth_path(recording_of_curvature(_arcs(*ARCS)))
    found = longest_segment(path)
    later = trimmed_to_start(found, path, found.start_s + 4.0)
    assert later.start_s == found.start_s + 4.0
    assert later.start_m == pytest.approx(float(np.interp(later.start_s, path.time_s, path.distance_m)))
    assert later.stop_m == found.stop_m
    assert trimmed_to_start(found, path, None) is found
    assert trimmed_to_start(found, path, 1e9).start_s < found.stop_s


def test_turned_angle_survives_a_biased_gyro_and_sideways_tilt() -> None:
    lever = {"yaw_rate_radps": 0.02, "acc_y_mps2": 0.5}
    path = smooth_path(recording_of_curvature(_arcs((40.0, 90)), speed_mps=14.0, lever=lever))
    rolling = np.flatnonzero(path.speed_mps > 6.0)
    assert np.degrees(path.heading_rad[rolling[-1]] - path.heading_rad[rolling[0]]) == pytest.approx(90.0, abs=2.0)


def test_distance_and_positions_agree_with_the_line_driven() -> None:
    curvature = _arcs(*ARCS)
    path = smooth_path(recording_of_curvature(curvature))
    drive = longest_segment(path)
    assert drive.stop_m - drive.start_m == pytest.approx(len(curvature) - 1, rel=2e-3)
    assert drive.start_s == pytest.approx(5.0, abs=0.3)


@pytest.mark.parametrize("noise_mps", [0.8, 1.5, 2.5])
def test_a_receiver_that_wanders_while_the_car_stands_does_not_begin_the_stage(noise_mps: float) -> None:
    whole = recording_of_curvature(_arcs(*ARCS), inertial=False, stands_s=30.0)
    speed = whole.channels["speed_mps"]
    rng = np.random.default_rng(4)
    wandering = np.convolve(np.abs(rng.normal(0.0, noise_mps, len(speed.value))), np.ones(20) / 20, mode="same")
    noisy = replace(speed, value=np.maximum(speed.value, np.where(speed.time_s < 30.0, wandering, 0.0)))
    found = longest_segment(smooth_path(Recording("p", {**whole.channels, "speed_mps": noisy})))
    assert found.start_s == pytest.approx(30.0, abs=0.4)


def test_an_outage_of_eight_seconds_is_bridged_by_the_inertial_channels() -> None:
    curvature = _arcs(*ARCS)
    whole = recording_of_curvature(curvature, speed_mps=14.0)
    cut = {}
    for name, channel in whole.channels.items():
        from_satellites = name in ("lat_rad", "lon_rad", "speed_mps", "course_rad")
        keep = (channel.time_s < 20.0) | (channel.time_s > 28.0) if from_satellites else np.ones(len(channel.time_s), bool)
        cut[name] = Channel(channel.time_s[keep], channel.value[keep])
    path, bridged = smooth_path(whole), smooth_path(Recording("cut", cut))
    assert abs(path.distance_m[-1] - bridged.distance_m[-1]) < 4.0
    turned = np.degrees(path.heading_rad[-1] - bridged.heading_rad[-1])
    assert abs(turned) < 2.0
    assert any("The line there is a guess" in str(doubt) for doubt in bridged.doubts)


def test_stated_spread_of_the_curvature_covers_the_error() -> None:
    curvature = _arcs(*ARCS)
    normalised = []
    for seed in range(4):
        path = smooth_path(recording_of_curvature(curvature, speed_mps=14.0, seed=seed))
        drive = longest_segment(path)
        s = path.distance_m - drive.start_m
        inside = (s > 40) & (s < len(curvature) - 40)
        truth = np.interp(s, np.arange(len(curvature)), curvature)
        normalised.append(((path.curvature_per_m - truth) / path.curvature_sd_per_m)[inside])
    spread = 1.483 * np.median(np.abs(np.concatenate(normalised)))
    assert 0.3 < spread < 1.6


def test_positions_alone_find_the_bends_and_say_that_they_are_blurred() -> None:
    whole = recording_of_curvature(_arcs((60.0, 80), (-45.0, 90)), rate_hz=1.0, speed_mps=14.0)
    only = {k: v for k, v in whole.channels.items() if k in ("lat_rad", "lon_rad")}
    path = smooth_path(Recording("gpx", only))
    assert path.sources == ("position",)
    profile = profile_of(path, longest_segment(path).start_m, longest_segment(path).stop_m)
    second = 80 + int(60 * np.radians(80)) + 80
    left, right = profile.curvature_per_m[70 : second - 10], -profile.curvature_per_m[second - 10 : second + 90]
    assert 1 / left.max() == pytest.approx(60.0, rel=0.25)
    assert 1 / right.max() == pytest.approx(45.0, rel=0.25)
    assert any("blurred" in str(doubt) for doubt in path.doubts)


def _channel(times: list[float], values: list[float]) -> Channel:
    return Channel(np.array(times), np.array(values))


def test_repeated_and_swapped_times_are_mended_and_said() -> None:
    good = recording_of_curvature(_arcs((60.0, 80), (-60.0, 80)))
    speed = good.channels["speed_mps"]
    times = speed.time_s.copy()
    times[[50, 51]] = times[[51, 50]]
    times[80] = times[79]
    shuffled = Recording("r", {**good.channels, "speed_mps": Channel(times, speed.value)})
    result = repair_times(shuffled)
    assert np.all(np.diff(result.channels["speed_mps"].time_s) > 0)
    assert any("stepped back" in str(d) for d in result.doubts)
    assert any("repeat" in str(d) for d in result.doubts)


@pytest.mark.parametrize(
    ("channels", "sentence"),
    [
        ({"speed_mps": _channel([0, 1, 2, 3, 4], [1] * 5)}, "neither a position nor a speed"),
        ({"lat_rad": _channel([0, 1, 2, 3], [0.7] * 4), "lon_rad": _channel([0, 1, 2, 3], [0.1] * 4)}, "moves only 0 m"),
        ({"lat_rad": _channel([0, 1, 2, 3], [2.7] * 4), "lon_rad": _channel([0, 1, 2, 3], [0.1] * 4)}, "beyond 90"),
        ({"lat_rad": _channel([500, 501, 2, 3, 4], [0.7] * 5), "lon_rad": _channel([0, 1, 2, 3], [0.1] * 4)}, "goes back"),
    ],
)
def test_recordings_without_a_drive_are_refused_with_a_sentence(channels: dict, sentence: str) -> None:
    with pytest.raises(UnusableRecording, match=sentence) as fault:
        repair_times(Recording("run.csv", channels))
    assert fault.value.sentence.startswith("run.csv: ")
    assert fault.value.mend
