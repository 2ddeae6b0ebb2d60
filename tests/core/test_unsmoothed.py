"""A receiver's smoothing is undone: positions and course made by a filter of the test's own from positions that are known."""

from __future__ import annotations

from functools import cache

import numpy as np
import pytest

from mirkle.core.motion.driven_line import smooth_path
from mirkle.core.motion.geodesy import degrees_of, local_metres, map_middle
from mirkle.core.motion.receiver_filter import unsmoothed
from mirkle.core.recording.model import Channel, Recording
from tests.core import test_path
from tests.worlds import recording_of_curvature

ARCS = test_path.ARCS * 8


@cache
def plain(rate_hz: float, *, inertial: bool) -> Recording:
    return recording_of_curvature(test_path._arcs(*ARCS), speed_mps=14.0, rate_hz=rate_hz, inertial=inertial)


def metres(recording: Recording) -> np.ndarray:
    lat, lon = recording.channels["lat_rad"], recording.channels["lon_rad"]
    return np.stack(local_metres(lat.value, lon.value), axis=1)


def model(dt: float, order: int) -> tuple[np.ndarray, np.ndarray]:
    """Transition and noise of a constant velocity or a constant acceleration, as textbooks print them."""
    if order == 2:
        return np.array([[1.0, dt], [0.0, 1.0]]), np.array([[dt**3 / 3, dt**2 / 2], [dt**2 / 2, dt]])
    return np.array([[1.0, dt, dt**2 / 2], [0.0, 1.0, dt], [0.0, 0.0, 1.0]]), np.array(
        [[dt**5 / 20, dt**4 / 8, dt**3 / 6], [dt**4 / 8, dt**3 / 3, dt**2 / 2], [dt**3 / 6, dt**2 / 2, dt]]
    )


def filtered(recording: Recording, ratio: float, order: int = 2) -> Recording:
    """What a receiver gives out that runs its positions through a filter of constant velocity or acceleration, in its textbook form."""
    lat, lon = recording.channels["lat_rad"], recording.channels["lon_rad"]
    fed, time_s = metres(recording), lat.time_s
    state, spread = np.zeros((order, 2)), np.diag([1.0, *[100.0] * (order - 1)])
    state[0] = fed[0]
    out = [state]
    for k in range(1, len(time_s)):
        dt = float(time_s[k] - time_s[k - 1])
        step, noise = model(dt, order)
        state = step @ state
        spread = step @ spread @ step.T + ratio * noise
        gain = spread[:, 0] / (spread[0, 0] + 1.0)
        state = state + np.outer(gain, fed[k] - state[0])
        spread = spread - np.outer(gain, spread[0])
        out.append(state)
    place, velocity = np.array(out)[:, 0], np.array(out)[:, 1]
    north, east = degrees_of(place[:, 0], place[:, 1], map_middle(lat.value, lon.value))
    made = {
        "lat_rad": np.radians(north),
        "lon_rad": np.radians(east),
        "course_rad": np.pi / 2 - np.arctan2(velocity[:, 1], velocity[:, 0]),
        "speed_mps": np.hypot(*velocity.T),
    }
    return Recording("r", {**recording.channels, **{name: Channel(time_s, value) for name, value in made.items()}})


@pytest.mark.parametrize("rate_hz", [5.0, 10.0])
@pytest.mark.parametrize(("ratio", "order"), [(3.0, 2), (30.0, 2), (300.0, 2), (30.0, 3), (300.0, 3)])
def test_the_positions_that_were_fed_come_back(ratio: float, order: int, rate_hz: float) -> None:
    recording = plain(rate_hz, inertial=True)
    back = unsmoothed(filtered(recording, ratio, order))
    assert not back.has("course_rad")
    assert "smoothed its positions" in str(back.doubts[-1])
    off = metres(back) - metres(recording)
    off -= np.median(off, axis=0)
    # From the launch on, five seconds behind the beginning of the filter, nearly to the centimetre.
    assert np.abs(off[round(5.0 * rate_hz) :]).max() < 0.03


@pytest.mark.parametrize("inertial", [True, False])
def test_bends_are_measured_better(inertial: bool, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(test_path, "ARCS", ARCS)
    seen = filtered(plain(10.0, inertial=inertial), 30.0)
    before, after = (float(np.median(test_path._radius_errors(smooth_path(r)))) for r in (seen, unsmoothed(seen)))
    assert after < 0.6 * before
    assert after < 0.08


@pytest.mark.parametrize("rate_hz", [1.0, 5.0, 10.0, 20.0])
def test_a_receiver_that_smooths_nothing_is_left_alone(rate_hz: float) -> None:
    recording = plain(rate_hz, inertial=True)
    assert unsmoothed(recording) is recording
    bare = Recording("r", {n: c for n, c in recording.channels.items() if n != "course_rad"})
    assert unsmoothed(bare) is bare
