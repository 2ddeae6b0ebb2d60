"""Each fault of a recorder is noticed, said, and mended where it can be; a sound recording is left as it is."""

from collections.abc import Callable

import numpy as np
import pytest

from mirkle.core.motion.faults import checked
from mirkle.core.motion.path import smooth_path
from mirkle.core.motion.recording import Channel, Recording
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
    result = checked(sound)
    assert result.doubts == ()
    assert set(result.channels) == set(sound.channels)
    for name, channel in result.channels.items():
        assert channel is sound.channels[name]


MENDED = {
    "acc_y_mps2": (lambda v: -v, "lateral acceleration has the wrong sign"),
    "yaw_rate_radps": (lambda v: -v, "yaw rate has the wrong sign"),
    "acc_x_mps2": (lambda v: -v, "forward acceleration has the wrong sign"),
    "acc_z_mps2": (lambda v: -v, "upside down"),
    "speed_mps": (lambda v: v * 3.6, "taken as km/h"),
}


@pytest.mark.parametrize("name", MENDED)
def test_wrong_signs_and_units_are_said_and_mended(sound: Recording, name: str) -> None:
    spoil, sentence = MENDED[name]
    result = checked(changed(sound, **{name: spoil}))
    assert any(sentence in doubt for doubt in result.doubts), result.doubts
    assert result.channels[name].value == pytest.approx(sound.channels[name].value)


def test_units_that_no_column_says(sound: Recording) -> None:
    in_degrees = checked(changed(sound, yaw_rate_radps=np.degrees))
    assert any("degrees a second" in d for d in in_degrees.doubts)
    assert in_degrees.channels["yaw_rate_radps"].value == pytest.approx(sound.channels["yaw_rate_radps"].value)
    in_g = checked(changed(sound, acc_z_mps2=lambda v: v / 9.80665))
    assert any("taken as g" in d for d in in_g.doubts)
    assert in_g.channels["acc_z_mps2"].value == pytest.approx(sound.channels["acc_z_mps2"].value)


def test_a_recorder_mounted_across_is_put_right(sound: Recording) -> None:
    channels = dict(sound.channels)
    channels["acc_x_mps2"], channels["acc_y_mps2"] = channels["acc_y_mps2"], channels["acc_x_mps2"]
    result = checked(Recording("run", channels))
    assert any("swapped" in d for d in result.doubts)
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
    result = checked(changed(sound, **{name: spoil}))
    assert any(sentence in doubt for doubt in result.doubts), result.doubts
    assert name not in result.channels
    if name != "speed_mps":
        assert len(smooth_path(result).distance_m) > 100


def test_clipping_is_said(sound: Recording) -> None:
    result = checked(changed(sound, acc_z_mps2=lambda v: np.clip(v, None, 10.2)))
    assert any("clipped" in d for d in result.doubts)


@pytest.mark.parametrize("times", [2, 3])
def test_a_doubled_sample_rate_is_said_and_undone(sound: Recording, times: int) -> None:
    """Every value written again at once, on the finer clock of a recorder that polls more often than it measures."""
    channels = {}
    for name, c in sound.channels.items():
        step = float(np.median(np.diff(c.time_s))) / times
        fine = (c.time_s[:, None] + step * np.arange(times)[None, :]).ravel()
        channels[name] = Channel(fine, np.repeat(c.value, times))
    result = checked(Recording("run", channels))
    assert any(f"stands {times} times in a row" in d for d in result.doubts), result.doubts
    for name, channel in result.channels.items():
        np.testing.assert_array_equal(channel.value[5:-5], sound.channels[name].value[5:-5])
        np.testing.assert_allclose(channel.time_s[5:-5], sound.channels[name].time_s[5:-5], atol=1e-9)


def test_a_mount_that_turns_is_noticed(sound: Recording) -> None:
    lateral = sound.channels["acc_y_mps2"]
    turned = np.where(lateral.time_s > lateral.time_s.mean(), 2.4, 0.0)
    result = checked(changed(sound, acc_y_mps2=lambda v: v + turned))
    assert any("the mount has turned" in d for d in result.doubts)
    assert "acc_y_mps2" in result.channels
    # The line hardly suffers: the level of the lateral acceleration is a state of its own.
    before, after = smooth_path(sound), smooth_path(result)
    moving = before.speed_mps > 8.0
    assert np.abs(after.curvature_per_m - before.curvature_per_m)[moving].max() < 0.004
