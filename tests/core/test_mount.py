"""How the box sits in the car and how late positions come; and what three axes show of a flight whatever the mount."""

import numpy as np
import pytest
from scipy.spatial.transform import Rotation

from mirkle.core.constants import GRAVITY_MPS2
from mirkle.core.motion import vertical
from mirkle.core.motion.driven_line import smooth_path
from mirkle.core.motion.vertical import noise_rad, vertical_of
from mirkle.core.recording.model import Channel, Floats, Recording, repair_times
from mirkle.core.recording.mounting import MOST_SD_S, RECEIVED, align_axes, mount_of

FAST_S, FIX_S = 0.01, 0.05
LENGTH_S = 240.0


def drive(
    *,
    angles_deg: tuple[float, float, float] = (0, 0, 0),
    late_s: float = 0.0,
    shake_mps2: float = 0.0,
    flights_s: tuple[float, ...] = (),
    seed: int = 1,
) -> Recording:
    """A car that brakes, pulls away and turns, its box turned by yaw, pitch and roll, its positions late."""
    rng = np.random.default_rng(seed)
    time_s = np.arange(0.0, LENGTH_S, FAST_S)
    speed = 17.0 + 6.0 * np.sin(time_s / 5.0) + 2.0 * np.sin(time_s / 1.7)
    rate = 0.35 * np.sin(time_s / 3.1) * np.cos(time_s / 11.0)
    heading = np.cumsum(rate) * FAST_S
    force = np.stack([np.gradient(speed, FAST_S), speed * rate, np.full(len(time_s), GRAVITY_MPS2)])
    force = force + rng.normal(0, max(shake_mps2, 0.05), force.shape)
    for at in flights_s:
        falling = (time_s >= at) & (time_s < at + 0.3)
        force[:, falling] = rng.normal(0, 0.15, (3, int(falling.sum())))
        landing = (time_s >= at + 0.3) & (time_s < at + 0.4)
        force[2, landing] += 2.0 * GRAVITY_MPS2
    # The box's axes see the car's vector turned back.
    box = Rotation.from_euler("zyx", angles_deg, degrees=True).inv().apply(force.T).T
    east, north = (np.cumsum(speed * f(heading)) * FAST_S for f in (np.cos, np.sin))
    fix = slice(None, None, round(FIX_S / FAST_S))
    received = {
        "lat_rad": 0.7 + north / 6.371e6,
        "lon_rad": 0.1 + east / (6.371e6 * np.cos(0.7)),
        "speed_mps": speed + rng.normal(0, 0.1, len(speed)),
        "course_rad": np.pi / 2 - heading + rng.normal(0, 0.006, len(speed)),
    }
    channels = {n: Channel(time_s[fix] + late_s, v[fix]) for n, v in received.items()}
    channels |= {n: Channel(time_s, box[k]) for k, n in enumerate(("acc_x_mps2", "acc_y_mps2", "acc_z_mps2"))}
    return repair_times(Recording("run", channels))


@pytest.mark.parametrize("late_s", [0.0, 0.15, 0.35])
@pytest.mark.parametrize("angles_deg", [(0, 0, 0), (6, 9, -4), (-12, 18, 22)])
@pytest.mark.parametrize("shake_mps2", [0.5, 10.0])
def test_mount_and_lag_are_found_together(late_s: float, angles_deg: tuple, shake_mps2: float) -> None:
    """SciPy's rotations are the reference; errors lie within 35 ms and 2 degrees, and mostly within what is stated."""
    found = mount_of(drive(angles_deg=angles_deg, late_s=late_s, shake_mps2=shake_mps2))
    assert found is not None
    assert abs(found.lag_s - late_s) < 3.0 * found.lag_sd_s
    if found.lag_sd_s < 0.04:
        assert abs(found.lag_s - late_s) < 0.035
    else:
        # So gently driven and so much shaken, it can't be told, and is not used.
        assert shake_mps2 > 5.0
        assert found.lag_sd_s > MOST_SD_S
    truth = Rotation.from_euler("zyx", angles_deg, degrees=True)
    off = np.degrees((Rotation.from_matrix(found.rotation) * truth.inv()).magnitude())
    assert off < 2.0
    assert np.allclose(found.rotation @ found.rotation.T, np.eye(3), atol=1e-9)
    assert np.linalg.det(found.rotation) == pytest.approx(1.0)


def test_what_is_found_is_set_right_and_said() -> None:
    right = align_axes(drive(angles_deg=(6, 9, -4), late_s=0.25))
    assert "Positions come 0.2" in str(right.doubts[0])
    assert "sits 10° from upright" in str(right.doubts[1])
    assert right.channels["lat_rad"].time_s[0] == pytest.approx(0.0, abs=0.035)
    straight = drive()
    for name in ("acc_x_mps2", "acc_y_mps2", "acc_z_mps2"):
        assert np.abs(right.channels[name].value - straight.channels[name].value).mean() < 0.25
    assert all(right.channels[n].value is not None for n in RECEIVED if n in right.channels)


def test_a_straight_box_with_prompt_positions_is_left_alone() -> None:
    good = drive()
    assert align_axes(good) is not good
    assert align_axes(good).doubts == ()
    assert all(align_axes(good).channels[n] is c for n, c in good.channels.items())


def test_another_fault_is_no_mount() -> None:
    """A lateral axis with its sign lost is a mirror, which no turning of the box makes."""
    good = drive()
    lateral = good.channels["acc_y_mps2"]
    mirrored = Recording("run", {**good.channels, "acc_y_mps2": Channel(lateral.time_s, -lateral.value)})
    assert mount_of(mirrored) is None
    assert mount_of(Recording("run", {n: c for n, c in good.channels.items() if n != "acc_y_mps2"})) is None


@pytest.mark.parametrize("angles_deg", [(0, 0, 0), (6, 20, -25)])
def test_free_fall_is_seen_however_the_box_is_turned_and_shaken(angles_deg: tuple) -> None:
    at = (40.0, 90.0, 150.0, 200.0)
    record = drive(angles_deg=angles_deg, shake_mps2=10.0, flights_s=at)
    path = smooth_path(record)
    found = vertical_of(record, path, 0.0, float(path.distance_m[-1]))
    assert found is not None
    jumps = [f for f in found.features if f.kind == "jump"]
    assert [path.time_at(j.from_m) for j in jumps] == pytest.approx(at, abs=0.1)
    assert [j.air_s for j in jumps] == pytest.approx([0.3] * 4, abs=0.05)
    none = drive(angles_deg=angles_deg, shake_mps2=10.0)
    quiet = vertical_of(none, smooth_path(none), 0.0, 4000.0)
    assert quiet is not None
    assert not [f for f in quiet.features if f.kind == "jump"]


def test_the_noise_of_a_slope_follows_from_its_density() -> None:
    """White noise of the density N, over T = L / v: sqrt(N T) / v, by the variance of its integral."""
    shake_mps2, speed_mps, step_s = 3.0, 20.0, 0.01
    rng = np.random.default_rng(3)
    load: Floats = 1.0 + rng.normal(0, shake_mps2, 60_000) / GRAVITY_MPS2
    count = len(load)
    felt = vertical._Felt(step_s, load, load, np.full(count, speed_mps), speed_mps * step_s * np.arange(count), None)
    density = shake_mps2**2 * step_s
    expected = np.sqrt(density * vertical.OVER_M / speed_mps) / speed_mps
    assert np.median(noise_rad(felt)) == pytest.approx(expected, rel=0.1)
    turned = vertical._over(felt, vertical._turned(felt), vertical.OVER_M)
    assert turned[1000:-1000].std() == pytest.approx(expected, rel=0.15)
