"""Jumps, crests, dips and bumps on a road whose load is known exactly."""

import numpy as np
import pytest

from mirkle.core.constants import GRAVITY_MPS2
from mirkle.core.motion.driven_line import smooth_path
from mirkle.core.motion.vertical import Feature, low_passed, vertical_of
from mirkle.core.recording.model import Channel, Recording
from tests.worlds import recording_of_curvature

SPEED = 25.0
START_M = 0.0


def ride(*things: tuple[str, float, float], rate_hz: float = 100.0, shake: float = 0.1, seed: int = 4) -> tuple[Recording, list[float]]:
    """A straight road driven at one speed with (kind, metre, vertical radius or air time) on it, gravel under the wheels."""
    recording = recording_of_curvature(np.zeros(3000), speed_mps=SPEED, inertial=False)
    speed = recording.channels["speed_mps"]
    t = np.arange(0.0, speed.time_s[-1], 1 / rate_hz)
    v = np.interp(t, speed.time_s, speed.value)
    s = np.concatenate([[0.0], np.cumsum(v[:-1]) / rate_hz])
    rng = np.random.default_rng(seed)
    load = 1.0 + rng.normal(0, 1, len(t)) * np.where(v > 1, shake, 0.01)
    for kind, at, size in things:
        if kind == "jump":
            first = np.searchsorted(s, at)
            end = first + round(size * rate_hz)
            load[first:end] = rng.normal(0.0, 0.01, end - first)
            load[end : end + round(0.12 * rate_hz)] = 2.4
        elif kind == "bump":
            inside = np.abs(s - at) < 3.0
            load[inside] += 0.9 * np.sin((s[inside] - at) / 3.0 * np.pi)
        else:
            sign = -1.0 if kind == "crest" else 1.0
            inside = np.abs(s - at) < 9.0
            load[inside] += sign * v[inside] ** 2 / size / GRAVITY_MPS2
    channels = dict(recording.channels)
    channels["acc_z_mps2"] = Channel(t, load * GRAVITY_MPS2)
    return Recording("ride", channels), [at for _, at, _ in things]


def found(recording: Recording) -> list[Feature]:
    path = smooth_path(recording)
    found = vertical_of(recording, path, START_M, path.distance_m[-1])
    assert found is not None
    return list(found.features)


@pytest.mark.parametrize("rate_hz", [50.0, 100.0])
def test_each_thing_is_found_once_as_what_it_is(rate_hz: float) -> None:
    things = (("crest", 400.0, 120.0), ("jump", 800.0, 0.4), ("dip", 1200.0, 90.0), ("bump", 1600.0, 0.0), ("crest", 2000.0, 180.0))
    recording, places = ride(*things, rate_hz=rate_hz)
    features = found(recording)
    assert [f.kind for f in features] == [kind for kind, *_ in things]
    assert [f.at_m for f in features] == pytest.approx(places, abs=6.0)


@pytest.mark.parametrize("air_s", [0.18, 0.35, 0.6])
def test_air_time_within_three_hundredths(air_s: float) -> None:
    recording, _ = ride(("jump", 900.0, air_s))
    (jump,) = found(recording)
    assert jump.air_s == pytest.approx(air_s, abs=0.03)
    assert jump.speed_mps == pytest.approx(SPEED, abs=0.5)


def test_the_speed_at_which_a_crest_would_throw_the_car() -> None:
    """Take-off v = sqrt(g R): for R 100 m 112.74 km/h (from memory, arithmetic checked)."""
    recording, _ = ride(("crest", 900.0, 100.0), shake=0.03)
    (crest,) = found(recording)
    assert crest.takeoff_mps is not None
    assert crest.takeoff_mps * 3.6 == pytest.approx(112.74, rel=0.04)
    assert crest.radius_m == pytest.approx(100.0, rel=0.15)


@pytest.mark.parametrize("seed", range(5))
def test_gravel_alone_is_nothing(seed: int) -> None:
    recording, _ = ride(shake=0.15, seed=seed)
    assert found(recording) == []


def test_free_fall_without_a_landing_or_full_of_shake_is_no_jump() -> None:
    recording, _ = ride(("jump", 900.0, 0.4))
    channel = recording.channels["acc_z_mps2"]
    value = channel.value.copy()
    hit = value > 2.0 * GRAVITY_MPS2
    value[hit] = GRAVITY_MPS2
    no_landing = Recording("r", dict(recording.channels) | {"acc_z_mps2": Channel(channel.time_s, value)})
    assert not [f for f in found(no_landing) if f.kind == "jump"]
    rng = np.random.default_rng(1)
    shaken = channel.value + np.where(channel.value < 1.0, rng.normal(0, 2.5, len(value)), 0.0)
    loud = Recording("r", dict(recording.channels) | {"acc_z_mps2": Channel(channel.time_s, shaken)})
    assert not [f for f in found(loud) if f.kind == "jump"]


def test_without_a_vertical_accelerometer_nothing_is_judged() -> None:
    recording, _ = ride(("jump", 900.0, 0.4))
    blind = Recording("r", {k: v for k, v in recording.channels.items() if k != "acc_z_mps2"})
    assert vertical_of(blind, smooth_path(blind), START_M, 1000.0) is None


def test_the_low_pass_has_no_delay_and_half_power_at_its_corner() -> None:
    t = np.arange(0.0, 10.0, 0.01)
    for hz in (2.5, 10.0):
        wave = np.sin(2 * np.pi * hz * t)
        out = low_passed(wave, hz, 0.01)[200:-200]
        assert np.std(out) / np.std(wave[200:-200]) == pytest.approx(np.sqrt(0.5), abs=0.02)
        assert np.corrcoef(out, wave[200:-200])[0, 1] > 0.999
