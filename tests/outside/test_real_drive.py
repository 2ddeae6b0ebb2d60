"""One real recorded drive: a car through 3.7 km of town streets.

The data files ship in the PyPI package gtsam 4.3.0 as examples: positions at 1 Hz and an inertial unit at 100 Hz. Only
those files are read, from where the package was put; nothing of them is copied here.
"""

import numpy as np
import pytest
from geographiclib.geodesic import Geodesic
from scipy.interpolate import CubicSpline
from scipy.spatial.transform import Rotation

from mirkle.core.motion.driven_line import smooth_path
from mirkle.core.motion.profile import profile_of
from mirkle.core.motion.segments import longest_segment
from mirkle.core.recording.model import Channel, Recording, repair_times
from mirkle.core.recording.mounting import mount_of
from tests.outside import shipped
from tests.worlds import degrees_of


@pytest.fixture(scope="module")
def drive() -> tuple[Recording, np.ndarray, np.ndarray]:
    """The drive with its positions and yaw rate; the positions' east and north, (n,) metres."""
    fixes = np.loadtxt(shipped("gtsam", "KittiGps_converted.txt"), delimiter=",", skiprows=1)[2:]
    unit = np.loadtxt(shipped("gtsam", "KittiEquivBiasedImu.txt"), skiprows=1)
    east, north = fixes[:, 1] - fixes[0, 1], fixes[:, 2] - fixes[0, 2]
    lat, lon = degrees_of(east, north)
    speed = np.hypot(np.gradient(east, fixes[:, 0]), np.gradient(north, fixes[:, 0]))
    channels = {
        "lat_rad": Channel(fixes[:, 0], np.radians(lat)),
        "lon_rad": Channel(fixes[:, 0], np.radians(lon)),
        "speed_mps": Channel(fixes[:, 0], speed),
        "yaw_rate_radps": Channel(unit[:, 0], unit[:, 7]),
        "acc_y_mps2": Channel(unit[:, 0], unit[:, 3]),
    }
    return repair_times(Recording("town", channels)), east, north


def test_its_length_is_that_of_the_geodesics_between_its_positions(drive) -> None:  # type: ignore[no-untyped-def]
    recording, east, north = drive
    path = smooth_path(recording)
    lat, lon = degrees_of(east, north)
    hops = [Geodesic.WGS84.Inverse(a, b, c, d)["s12"] for a, b, c, d in zip(lat, lon, lat[1:], lon[1:], strict=False)]
    # Chords of one second cut corners by about a per cent.
    assert path.distance_m[-1] == pytest.approx(sum(hops), rel=0.02)


def test_it_turns_as_its_gyro_turned(drive) -> None:  # type: ignore[no-untyped-def]
    recording, *_ = drive
    path = smooth_path(recording)
    gyro = recording.channels["yaw_rate_radps"]
    inside = (gyro.time_s > path.time_s[0]) & (gyro.time_s < path.time_s[-1])
    by_gyro = float(np.sum(gyro.value[inside]) * np.median(np.diff(gyro.time_s)))
    assert np.degrees(path.heading_rad[-1] - path.heading_rad[0]) == pytest.approx(np.degrees(by_gyro), abs=8.0)


def test_curvature_from_positions_alone_agrees_with_the_inertial_unit(drive) -> None:  # type: ignore[no-untyped-def]
    """Two independent instruments on one road: r over 0.9 with the gyro's own yaw rate over speed."""
    recording, *_ = drive
    alone = Recording("town", {k: v for k, v in recording.channels.items() if k in ("lat_rad", "lon_rad")})
    blurred = smooth_path(repair_times(alone))
    stage = longest_segment(blurred)
    profile = profile_of(blurred, stage.start_m, stage.stop_m)
    gyro = recording.channels["yaw_rate_radps"]
    rate = np.convolve(gyro.value, np.ones(100) / 100, mode="same")
    at = np.interp(profile.time_s, gyro.time_s, rate) / np.maximum(profile.speed_mps, 3.0)
    rolling = profile.speed_mps > 5.0
    assert np.corrcoef(profile.curvature_per_m[rolling], at[rolling])[0, 1] > 0.9


def test_lateral_acceleration_is_speed_times_yaw_rate(drive) -> None:  # type: ignore[no-untyped-def]
    recording, *_ = drive
    path = smooth_path(recording)
    felt = recording.channels["acc_y_mps2"]
    smooth = np.convolve(felt.value, np.ones(50) / 50, mode="same")
    measured = np.interp(path.time_s, felt.time_s, smooth)
    rolling = path.speed_mps > 4.0
    assert np.corrcoef(path.lateral_mps2[rolling], measured[rolling])[0, 1] > 0.93


@pytest.mark.parametrize(("angles_deg", "late_s"), [((0, 0, 0), 0.0), ((20, -12, 16), 0.25), ((-25, 15, -20), 0.35)])
def test_a_real_box_that_was_turned_and_late_is_found_out(angles_deg: tuple[int, int, int], late_s: float) -> None:
    """The real shake, slopes and streets; only the turn of the box and the lateness are added. The unit's own axes lie within
    a degree or so of the car's, as its makers say of their car."""
    fixes = np.loadtxt(shipped("gtsam", "KittiGps_converted.txt"), delimiter=",", skiprows=1)[2:]
    unit = np.loadtxt(shipped("gtsam", "KittiEquivBiasedImu.txt"), skiprows=1)
    time_s = fixes[:, 0]
    lat, lon = degrees_of(fixes[:, 1] - fixes[0, 1], fixes[:, 2] - fixes[0, 2])
    going = [CubicSpline(time_s, fixes[:, axis])(time_s, 1) for axis in (1, 2)]
    turned = Rotation.from_euler("xyz", angles_deg, degrees=True).as_matrix()
    force, turning = unit[:, 2:5] @ turned.T, unit[:, 5:8] @ turned.T
    fixed = {
        "lat_rad": np.radians(lat),
        "lon_rad": np.radians(lon),
        "alt_m": fixes[:, 3],
        "speed_mps": np.hypot(*going),
        "course_rad": np.arctan2(*going) % (2 * np.pi),
    }
    channels = {name: Channel(time_s + late_s, values) for name, values in fixed.items()}
    channels |= {f"acc_{axis}_mps2": Channel(unit[:, 0], force[:, k]) for k, axis in enumerate("xyz")}
    channels["yaw_rate_radps"] = Channel(unit[:, 0], turning[:, 2])
    mount = mount_of(repair_times(Recording("town", channels)))
    assert mount is not None
    assert mount.lag_s == pytest.approx(late_s, abs=0.05)
    left = Rotation.from_matrix(mount.rotation @ turned)
    assert np.degrees(left.magnitude()) < 2.0
