"""Each fault of a recorder is noticed, said, and mended where it can be; a sound recording is left as it is."""

from collections.abc import Callable

import numpy as np
import pytest

from mirkle.core.motion.driven_line import smooth_path
from mirkle.core.recording.consistency import check_channels
from mirkle.core.recording.model import Channel, Recording
from tests.worlds import recording_of_curvature

RNG = np.random.default_rng(7)


@pytest.fixture(scope="module")
def sound() -> Recording:
    """A drive with every channel, as it should be."""
    arcs = [np.zeros(60)]
    for i in range(14):
        radius = (40.0, 70.0, 120.0)[i % 3] * (-1) ** i
        arcs += [np.full(int(abs(radius) * 0.9), 1 / radius), np.zeros(50)]
    recording = recording_of_curvature(np.convolve(np.concatenate(arcs), np.ones(8) / 8, mode="same"), speed_mps=22.0)
    speed, lateral = recording.channels["speed_mps"], recording.channels["acc_y_mps2"]
    pull = np.gradient(np.interp(lateral.time_s, speed.time_s, speed.value), lateral.time_s)
    pull = np.convolve(pull, np.ones(25) / 25, mode="same")
    channels = dict(recording.channels)
    channels["acc_x_mps2"] = Channel(lateral.time_s, pull + RNG.normal(0, 0.4, len(pull)))
    channels["acc_z_mps2"] = Channel(lateral.time_s, 9.80665 + RNG.normal(0, 0.8, len(pull)))
    return Recording("run", channels)


def changed(recording: Recording, **by: Callable[[np.ndarray], np.ndarray]) -> Recording:
    channels = {n: Channel(c.time_s, by[n](c.value)) if n in by else c for n, c in recording.channels.items()}
    return Recording("run", channels)


def test_a_sound_recording_is_left_as_it_is(sound: Recording) -> None:
    result = check_channels(sound)
    assert result.doubts == ()
    assert set(result.channels) == set(sound.channels)
    for name, channel in result.channels.items():
        assert channel is sound.channels[name]


MENDED = {
    "acc_y_mps2": (lambda v: -v, "lateral acceleration has the wrong sign"),
    "yaw_rate_radps": (lambda v: -v, "yaw rate has the wrong sign"),
    "acc_x_mps2": (lambda v: -v, "forward acceleration has the wrong sign"),
    "acc_z_mps2": (lambda v: -v, "upside down"),
    "speed_mps": (lambda v: v * 3.6, "read as km/h"),
}


@pytest.mark.parametrize("name", MENDED)
def test_wrong_signs_and_units_are_said_and_mended(sound: Recording, name: str) -> None:
    spoil, sentence = MENDED[name]
    result = check_channels(changed(sound, **{name: spoil}))
    assert any(sentence in str(doubt) for doubt in result.doubts), result.doubts
    assert result.channels[name].value == pytest.approx(sound.channels[name].value)


def test_units_that_no_column_says(sound: Recording) -> None:
    in_degrees = check_channels(changed(sound, yaw_rate_radps=np.degrees))
    assert any("degrees a second" in str(d) for d in in_degrees.doubts)
    assert in_degrees.channels["yaw_rate_radps"].value == pytest.approx(sound.channels["yaw_rate_radps"].value)
    in_g = check_channels(changed(sound, acc_z_mps2=lambda v: v / 9.80665))
    assert any("read as g" in str(d) for d in in_g.doubts)
    assert in_g.channels["acc_z_mps2"].value == pytest.approx(sound.channels["acc_z_mps2"].value)
    # Taken for g by whoever wrote the column, and multiplied once too often.
    twice = check_channels(changed(sound, acc_z_mps2=lambda v: v * 9.80665))
    assert any("read as m/s²" in str(d) for d in twice.doubts)
    assert twice.channels["acc_z_mps2"].value == pytest.approx(sound.channels["acc_z_mps2"].value)


@pytest.mark.parametrize("factor", [1 / 9.80665, 9.80665])
def test_all_axes_of_a_box_are_read_in_the_unit_that_they_have(sound: Recording, factor: float) -> None:
    axes = ("acc_x_mps2", "acc_y_mps2", "acc_z_mps2")
    found = check_channels(changed(sound, **dict.fromkeys(axes, lambda v: v * factor)))
    assert len(found.doubts) == 3
    for name in axes:
        assert found.channels[name].value == pytest.approx(sound.channels[name].value)


@pytest.mark.parametrize("name", ["acc_x_mps2", "acc_y_mps2", "yaw_rate_radps"])
@pytest.mark.parametrize("factor", [0.2, 5.0])
def test_a_channel_in_no_unit_at_all_is_left_out(sound: Recording, name: str, factor: float) -> None:
    found = check_channels(changed(sound, **{name: lambda v: v * factor}))
    assert name not in found.channels
    assert "it was left out" in str(found.doubts[0])


def test_a_recorder_mounted_across_is_put_right(sound: Recording) -> None:
    channels = dict(sound.channels)
    channels["acc_x_mps2"], channels["acc_y_mps2"] = channels["acc_y_mps2"], channels["acc_x_mps2"]
    result = check_channels(Recording("run", channels))
    assert any("swapped" in str(d) for d in result.doubts)
    assert result.channels["acc_y_mps2"].value == pytest.approx(sound.channels["acc_y_mps2"].value)


@pytest.mark.parametrize(
    ("name", "spoil", "sentence"),
    [
        ("acc_y_mps2", lambda v: RNG.normal(0, 2, len(v)), "nothing to do with the turning"),
        ("yaw_rate_radps", lambda v: RNG.normal(0, 0.3, len(v)), "nothing to do with the course"),
        ("acc_y_mps2", lambda v: v * 0 + 1.7, "never changes"),
        ("acc_z_mps2", lambda v: v - 9.8, "crests and jumps are not judged"),
        ("speed_mps", lambda v: v * 0.5, "times what the positions show"),
    ],
)
def test_what_can_t_be_right_is_left_out_and_said(
    sound: Recording, name: str, spoil: Callable[[np.ndarray], np.ndarray], sentence: str
) -> None:
    result = check_channels(changed(sound, **{name: spoil}))
    assert any(sentence in str(doubt) for doubt in result.doubts), result.doubts
    assert name not in result.channels
    if name != "speed_mps":
        assert len(smooth_path(result).distance_m) > 100


def test_clipping_is_said(sound: Recording) -> None:
    result = check_channels(changed(sound, acc_z_mps2=lambda v: np.clip(v, None, 10.2)))
    assert any("clipped" in str(d) for d in result.doubts)


@pytest.mark.parametrize("times", [2, 3])
def test_a_doubled_sample_rate_is_said_and_undone(sound: Recording, times: int) -> None:
    """Every value written again at once, on the finer clock of a recorder that polls more often than it measures."""
    channels = {}
    for name, c in sound.channels.items():
        step = float(np.median(np.diff(c.time_s))) / times
        fine = (c.time_s[:, None] + step * np.arange(times)[None, :]).ravel()
        channels[name] = Channel(fine, np.repeat(c.value, times))
    result = check_channels(Recording("run", channels))
    assert any(f"comes {times} times in a row" in str(d) for d in result.doubts), result.doubts
    for name, channel in result.channels.items():
        np.testing.assert_array_equal(channel.value[5:-5], sound.channels[name].value[5:-5])
        np.testing.assert_allclose(channel.time_s[5:-5], sound.channels[name].time_s[5:-5], atol=1e-9)


def test_a_mount_that_turns_is_noticed(sound: Recording) -> None:
    lateral = sound.channels["acc_y_mps2"]
    turned = np.where(lateral.time_s > lateral.time_s.mean(), 2.4, 0.0)
    result = check_channels(changed(sound, acc_y_mps2=lambda v: v + turned))
    assert any("the mount has turned" in str(d) for d in result.doubts)
    assert "acc_y_mps2" in result.channels
    # The line hardly suffers: the level of the lateral acceleration is a state of its own.
    before, after = smooth_path(sound), smooth_path(result)
    moving = before.speed_mps > 8.0
    assert np.abs(after.curvature_per_m - before.curvature_per_m)[moving].max() < 0.004


def test_wheels_are_taken_at_the_speeds_scale_and_bridge_an_outage_of_everything_else(sound: Recording) -> None:
    """A wrong tyre size and spinning wheels don't bend the speed; without wheels a corner in the outage is driven through flat."""
    rng = np.random.default_rng(3)
    speed, at = sound.channels["speed_mps"], sound.channels["acc_x_mps2"].time_s
    driven = (speed.time_s > 12.0) & (speed.time_s < speed.time_s[-1] - 12.0)
    slowest_s = float(speed.time_s[driven][np.argmin(speed.value[driven])])
    truth = np.interp(at, speed.time_s, speed.value)
    wheels = Channel(at, 1.08 * truth * (1.0 + 0.25 * (rng.random(len(at)) < 0.05)) + rng.normal(0, 0.2, len(at)))

    def received(name: str) -> Channel:
        channel = sound.channels[name]
        kept = np.abs(channel.time_s - slowest_s) > 2.5
        return Channel(channel.time_s[kept], channel.value[kept])

    channels = {n: received(n) for n in ("lat_rad", "lon_rad", "speed_mps", "course_rad")}
    channels["yaw_rate_radps"] = sound.channels["yaw_rate_radps"]
    about_s = np.arange(slowest_s - 1.5, slowest_s + 1.5, 0.25)
    met = np.interp(about_s, speed.time_s, speed.value)

    def off(recording: Recording) -> float:
        path = smooth_path(check_channels(recording))
        return float(np.abs(np.interp(about_s, path.time_s, path.speed_mps) - met).max())

    with_wheels = Recording("run", channels | {"wheel_speed_mps": wheels})
    assert "The wheels read 1.08 times the speed; they were scaled to it." in map(str, check_channels(with_wheels).doubts)
    assert off(with_wheels) < 0.8
    assert off(Recording("run", channels)) > 2.0


def test_wheels_stand_in_for_a_speed_that_was_not_recorded(sound: Recording) -> None:
    speed = sound.channels["speed_mps"]
    channels = {n: c for n, c in sound.channels.items() if n != "speed_mps"}
    result = check_channels(Recording("run", channels | {"wheel_speed_mps": Channel(speed.time_s, 3.6 * speed.value)}))
    moving = speed.value > 5.0
    assert result.channels["speed_mps"].value[moving] == pytest.approx(speed.value[moving], rel=0.03)


def test_what_is_read_and_says_nothing_is_named(sound: Recording) -> None:
    pedal = Channel(sound.channels["acc_y_mps2"].time_s, RNG.random(len(sound.channels["acc_y_mps2"].time_s)))
    result = check_channels(Recording("run", dict(sound.channels) | {"brake": pedal, "throttle": pedal}))
    assert "Recorded, but nothing here rests on it: brake, throttle." in map(str, result.doubts)
    assert not {"brake", "throttle"} & set(result.channels)


def test_uneven_and_missing_samples_are_said_with_numbers(sound: Recording) -> None:
    yaw = sound.channels["yaw_rate_radps"]
    usual = float(np.median(np.diff(yaw.time_s)))
    wandering = yaw.time_s + RNG.uniform(-0.3, 0.3, len(yaw.time_s)) * usual
    doubts = check_channels(Recording("run", dict(sound.channels) | {"yaw_rate_radps": Channel(wandering, yaw.value)})).doubts
    assert any(d.startswith("Samples come") and "yaw rate" in d for d in map(str, doubts)), doubts
    kept = RNG.random(len(yaw.time_s)) > 0.03
    lost = int((~kept).sum())
    doubts = check_channels(Recording("run", dict(sound.channels) | {"yaw_rate_radps": Channel(yaw.time_s[kept], yaw.value[kept])})).doubts
    (said,) = [d for d in map(str, doubts) if "samples are missing" in d]
    assert abs(int(said.split()[0]) - lost) <= 3


def test_heights_that_no_road_has_are_left_out_and_a_steep_road_is_not(sound: Recording) -> None:
    lat = sound.channels["lat_rad"]
    metres = np.linspace(0.0, 22.0 * (lat.time_s[-1] - lat.time_s[0]), len(lat.time_s))
    wild = Channel(lat.time_s, 400.0 + 800.0 * np.sin(metres / 260.0))
    steep = Channel(lat.time_s, 400.0 + 0.15 * metres)
    assert "alt_m" not in check_channels(Recording("run", dict(sound.channels) | {"alt_m": wild})).channels
    assert "alt_m" in check_channels(Recording("run", dict(sound.channels) | {"alt_m": steep})).channels
