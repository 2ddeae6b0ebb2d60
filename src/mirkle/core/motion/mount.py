"""How the recorder's box sits in the car, and by how much its positions come late: both from the accelerations alone.

Between two fixes the mean force on the box, in the car's axes, is what the velocity changed by: forward the change of speed
plus gravity's part of the slope, to the left speed times the turn of the course, upwards gravity. So the three box axes,
read at the time of the motion rather than of its late report, are linear in [dv/dt + g sin(slope), v · dψ/dt, g]; the columns of
that regression are the car's axes in the box, made orthonormal beginning with up. The lag is the one at which the regression
leaves least in the horizontal. Course against yaw rate would be biased by sideslip and is not used.

The errors come from a jackknife over blocks of the drive, times 2, since what is left is coloured.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from mirkle.core.motion.path import GRAVITY_MPS2
from mirkle.core.motion.recording import Channel, Floats, Recording

AXES = ("acc_x_mps2", "acc_y_mps2", "acc_z_mps2")
# What comes from the receiver, and with its delay.
RECEIVED = ("lat_rad", "lon_rad", "alt_m", "speed_mps", "course_rad", "hacc_m")
SLOWEST_MPS = 4.0
WINDOW_S, WINDOW_1HZ_S = 1.0, 2.0
LAGS_S = np.arange(-0.12, 0.6001, 0.04)
# Residuals beyond so many of their median count for less (Huber's weights).
HUBER = 2.0
BLOCKS, JACKKNIFE_IS_SMALL, LEAST_SD_S = 8, 2.0, 0.012
# An estimate less sure than this is not used; one smaller is not worth a word, and may be the sensors' own filters.
MOST_SD_S, MOST_TILT_SD_DEG, SMALL_LAG_S, SMALL_TILT_DEG = 0.06, 1.5, 0.03, 1.0
LEAST_WINDOWS = 120
# A sideslip that stays longer than this is the gyro's bias; one larger than this is no slide but a mistake.
SLIP_OVER_S, MOST_SLIP_RAD, ROUNDS = 20.0, 0.7, 3
USUAL_LAG_S = 0.2
NO_ROTATION = 0.35


@dataclass(frozen=True)
class Mount:
    """``rotation`` turns vectors of the box into the car's (forward, left, up), (3, 3); ``lag_s`` is how late positions come."""

    rotation: Floats
    lag_s: float
    lag_sd_s: float
    tilt_deg: float
    tilt_sd_deg: float


def mount_of(recording: Recording) -> Mount | None:
    """The mount and the lag, ``None`` where the recording can't tell: three accelerations, a speed and a course are needed."""
    if not recording.has(*AXES, "speed_mps", "course_rad"):
        return None
    lag, upright = USUAL_LAG_S, 1.0
    for _ in range(ROUNDS):
        windows = _windows(recording, lag, upright)
        if windows is None:
            return None
        begin_s, end_s, known = windows
        force = _forces(recording, begin_s, end_s)
        # One scale for all lags, from the one that was thought of so far.
        _, scale = _fit(force(lag), known)
        lag = _lowest([_fit(force(at), known, scale)[1] for at in LAGS_S])
        rotation = _rotation(_fit(force(lag), known)[0], known)
        if rotation is None:
            return None
        upright = max(float(rotation[2, 2]), 0.5)
    lags, ups = [], []
    block = np.arange(len(known)) * BLOCKS // len(known)
    for left_out in range(BLOCKS):
        kept = block != left_out
        part = _forces(recording, begin_s[kept], end_s[kept])
        near = LAGS_S[np.abs(LAGS_S - lag) < 0.1]
        lags.append(_lowest([_fit(part(at), known[kept], scale)[1] for at in near], near))
        turned = _rotation(_fit(part(lag), known[kept])[0], known[kept])
        if turned is not None:
            ups.append(_angle_deg(turned[2], rotation[2]))
    spread = np.sqrt((BLOCKS - 1) / BLOCKS * np.sum((np.array(lags) - np.mean(lags)) ** 2))
    tilt_sd = np.sqrt((BLOCKS - 1) / BLOCKS * np.sum(np.square(ups))) if ups else np.inf
    return Mount(
        rotation,
        lag,
        float(np.hypot(JACKKNIFE_IS_SMALL * spread, LEAST_SD_S)),
        _angle_deg(rotation[2], np.array([0.0, 0.0, 1.0])),
        float(JACKKNIFE_IS_SMALL * tilt_sd),
    )


def _windows(recording: Recording, lag_s: float, upright: float) -> tuple[Floats, Floats, Floats] | None:
    """Begin and end of each window between fixes, and what the car did in it, along its body: (m,), (m,) and (m, 3)."""
    speed, course = recording.channels["speed_mps"], recording.channels["course_rad"]
    time_s = speed.time_s
    step_s = float(np.median(np.diff(time_s)))
    apart = max(1, round((WINDOW_S if step_s < 0.6 else WINDOW_1HZ_S) / step_s))
    if len(time_s) < LEAST_WINDOWS + apart:
        return None
    heading = -np.interp(time_s, course.time_s, np.unwrap(course.value))
    seconds = np.maximum(np.diff(time_s), 1e-3)
    mean = 0.5 * (speed.value[1:] + speed.value[:-1])
    along = np.diff(speed.value) / seconds + GRAVITY_MPS2 * 0.5 * np.convolve(
        _slope(recording, time_s), [1, 1], "valid"
    )
    across = mean * np.diff(heading) / seconds
    slip = _sideslip(recording, time_s, heading, speed.value, lag_s, upright)
    turned = [
        np.concatenate([[0.0], np.cumsum(a * seconds)])
        for a in (along * np.cos(slip) + across * np.sin(slip), across * np.cos(slip) - along * np.sin(slip))
    ]
    first = np.arange(0, len(time_s) - apart, max(1, apart // 2))
    last = first + apart
    over_s = time_s[last] - time_s[first]
    forward, left = ((total[last] - total[first]) / over_s for total in turned)
    good = (np.minimum(speed.value[first], speed.value[last]) > SLOWEST_MPS) & (over_s < 1.5 * apart * step_s)
    good &= (np.abs(forward) < 15.0) & (np.abs(left) < 15.0)
    if np.count_nonzero(good) < LEAST_WINDOWS:
        return None
    known = np.stack([forward[good], left[good], np.full(np.count_nonzero(good), GRAVITY_MPS2)], axis=1)
    return time_s[first][good], time_s[last][good], known


def _sideslip(
    recording: Recording, time_s: Floats, heading: Floats, speed: Floats, lag_s: float, upright: float
) -> Floats:
    """How far the body points to the left of the path between fixes, (m - 1,); nought without a yaw rate.

    The turn of the body, read when the motion was, less that of the path; a slide comes and goes within seconds, and to both
    sides, so what stays over :data:`SLIP_OVER_S` is bias and is taken off.
    """
    if not recording.has("yaw_rate_radps"):
        return np.zeros(len(time_s) - 1)
    yaw = recording.channels["yaw_rate_radps"]
    total = np.concatenate([[0.0], np.cumsum(0.5 * (yaw.value[1:] + yaw.value[:-1]) * np.diff(yaw.time_s))]) / upright
    body = np.interp(time_s - lag_s, yaw.time_s, total)
    off = np.where(speed > SLOWEST_MPS, body - heading, np.nan)
    even_s = np.arange(time_s[0], time_s[-1], SLIP_OVER_S / 2)
    blocks = np.searchsorted(even_s, time_s, side="right") - 1
    middle = np.full(len(even_s), np.nan)
    for block in np.unique(blocks[np.isfinite(off)]):
        middle[block] = np.nanmedian(off[blocks == block])
    known = np.isfinite(middle)
    if not known.any():
        return np.zeros(len(time_s) - 1)
    slow = np.interp(time_s, even_s[known] + SLIP_OVER_S / 4, middle[known])
    slip = np.clip(np.nan_to_num(off - slow), -MOST_SLIP_RAD, MOST_SLIP_RAD)
    return np.asarray(0.5 * (slip[1:] + slip[:-1]), dtype=float)


def _slope(recording: Recording, time_s: Floats) -> Floats:
    """How steeply the road rises, from heights smoothed over some ten seconds, 0 where none were recorded; (n,)."""
    if not recording.has("alt_m"):
        return np.zeros(len(time_s))
    alt = recording.channels["alt_m"]
    even_s = np.arange(time_s[0], time_s[-1] + 1.0, 1.0)
    height = np.interp(even_s, alt.time_s, alt.value)
    window = np.hanning(13)[1:-1]
    smooth: Floats = np.convolve(np.pad(height, 5, mode="edge"), window / window.sum(), mode="valid")
    speed = recording.channels["speed_mps"]
    metres = np.maximum(np.interp(even_s, speed.time_s, speed.value), SLOWEST_MPS)
    return np.asarray(np.clip(np.interp(time_s, even_s, np.gradient(smooth) / metres), -0.3, 0.3), dtype=float)


def _forces(recording: Recording, begin_s: Floats, end_s: Floats) -> Callable[[float], Floats]:
    """A function of the lag: the mean of the three box axes in each window, read so much earlier, (m, 3)."""
    totals = []
    for name in AXES:
        c = recording.channels[name]
        total = np.concatenate([[0.0], np.cumsum(0.5 * (c.value[1:] + c.value[:-1]) * np.diff(c.time_s))])
        totals.append((c.time_s, total))

    def at(lag: float) -> Floats:
        means: list[Floats] = [
            (np.interp(end_s - lag, t, total) - np.interp(begin_s - lag, t, total)) / (end_s - begin_s)
            for t, total in totals
        ]
        return np.asarray(np.stack(means, axis=1), dtype=float)

    return at


def _fit(force: Floats, known: Floats, scale: float | None = None) -> tuple[Floats, float]:
    """The columns of the box's axes by robust least squares, (3, 3), and the mean cost of what is left in the horizontal.

    Crests and bumps stand in the vertical and say nothing of the lag. ``scale`` is where Huber's cost turns from square to
    straight; costs are comparable only where it is given.
    """
    weight = np.ones(len(known))
    axes: Floats = np.zeros((3, 3))
    rest: Floats = np.zeros(len(known))
    turn = scale or 1.0
    for _ in range(4):
        root = np.sqrt(weight)[:, None]
        axes = np.asarray(np.linalg.lstsq(root * known, root * force, rcond=None)[0], dtype=float)
        up = axes[2] / max(float(np.linalg.norm(axes[2])), 1e-9)
        left = force - known @ axes
        rest = np.asarray(np.linalg.norm(left - np.outer(left @ up, up), axis=1), dtype=float)
        turn = scale or max(HUBER * float(np.median(rest)), 1e-9)
        weight = np.minimum(1.0, turn / np.maximum(rest, 1e-9))
    cost = np.where(rest < turn, 0.5 * rest**2, turn * (rest - 0.5 * turn))
    return axes, turn if scale is None else float(cost.mean())


def _lowest(costs: list[float], lags: Floats = LAGS_S) -> float:
    """The lag of least cost, between the steps by a parabola."""
    at = int(np.clip(np.argmin(costs), 1, len(costs) - 2))
    before, here, after = costs[at - 1 : at + 2]
    bend = before - 2.0 * here + after
    shift = 0.5 * (before - after) / bend if bend > 0 else 0.0
    return float(lags[at] + np.clip(shift, -1.0, 1.0) * (lags[1] - lags[0]))


def _rotation(axes: Floats, known: Floats) -> Floats | None:
    """The rotation whose rows are forward, left and up in the box; ``None`` where the regression found no such.

    Gravity is by far the surest, so the car's up is the constant's column; forward lies square to it, where the other two
    columns put it, each weighed by how much the car did along it.
    """
    up = axes[2] / max(float(np.linalg.norm(axes[2])), 1e-9)
    braked, turned = known[:, 0].var(), known[:, 1].var()
    forward = braked * axes[0] + turned * np.cross(axes[1], up)
    forward -= (forward @ up) * up
    forward /= max(float(np.linalg.norm(forward)), 1e-9)
    rotation = np.stack([forward, np.cross(up, forward), up])
    # Another unit, a lost sign or a dead axis leaves no rotation: that is another fault, and told elsewhere.
    return rotation if float(np.abs(axes - rotation).max()) < NO_ROTATION else None


def _angle_deg(a: Floats, b: Floats) -> float:
    return float(np.degrees(np.arccos(np.clip(a @ b / np.linalg.norm(a) / np.linalg.norm(b), -1.0, 1.0))))


def set_right(recording: Recording) -> Recording:
    """The recording with its accelerations turned into the car's axes and its positions moved to when they were true.

    Each only where it is sure enough and large enough to matter, and said in a sentence.
    """
    mount = mount_of(recording)
    if mount is None:
        return recording
    doubts = list(recording.doubts)
    channels = dict(recording.channels)
    if abs(mount.lag_s) > SMALL_LAG_S and mount.lag_sd_s < MOST_SD_S:
        for name in RECEIVED:
            if name in channels:
                channels[name] = Channel(channels[name].time_s - mount.lag_s, channels[name].value)
        doubts.append(
            f"Positions come {mount.lag_s:.2f} s late, give or take {mount.lag_sd_s:.2f} s: they were moved to when they were true."
        )
    turned = _angle_deg(mount.rotation[0], np.array([1.0, 0.0, 0.0]))
    if max(mount.tilt_deg, turned) > SMALL_TILT_DEG and mount.tilt_sd_deg < MOST_TILT_SD_DEG:
        channels |= _turned(channels, mount)
        doubts.append(
            f"The recorder sits {mount.tilt_deg:.0f}° from upright and {turned:.0f}° from straight ahead in the car: its channels "
            "were turned into the car's axes."
        )
    return replace(recording, channels=channels, doubts=tuple(doubts))


def _turned(channels: dict[str, Channel], mount: Mount) -> dict[str, Channel]:
    """The three accelerations in the car's axes; the yaw rate about the car's upright rather than the box's."""
    time_s = channels["acc_z_mps2"].time_s
    box = np.stack([np.interp(time_s, channels[n].time_s, channels[n].value) for n in AXES])
    car = mount.rotation @ box
    out = {name: Channel(time_s, car[n]) for n, name in enumerate(AXES)}
    if "yaw_rate_radps" in channels:
        yaw = channels["yaw_rate_radps"]
        out["yaw_rate_radps"] = Channel(yaw.time_s, yaw.value / max(float(mount.rotation[2, 2]), 0.5))
    return out
