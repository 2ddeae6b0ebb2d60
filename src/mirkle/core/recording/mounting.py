"""How the recorder's box sits in the car, and by how much its positions come late: both from the accelerations alone.

Between two fixes the mean force on the box, in the car's axes, is what the velocity changed by: forward the change of speed
plus gravity's part of the slope, to the left speed times the turn of the course, upwards gravity. So the three box axes,
read at the time of the motion rather than of its late report, are linear in [dv/dt + g sin(slope), v · dψ/dt, g]; the columns of
that regression are the car's axes in the box, made orthonormal beginning with up. The lag is the one at which the regression
leaves least in the horizontal. Course against yaw rate would be biased by sideslip and is not used.

The errors come from a jackknife over blocks of the drive, times 2, since what is left is coloured.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from mirkle.core.constants import GRAVITY_MPS2, LEAST_STEP_S
from mirkle.core.messages import message
from mirkle.core.recording.model import Channel, Floats, Recording

AXES = ("acc_x_mps2", "acc_y_mps2", "acc_z_mps2")
# What comes from the receiver, and with its delay.
RECEIVED = ("lat_rad", "lon_rad", "alt_m", "speed_mps", "course_rad", "hacc_m")
SLOWEST_MPS = 4.0
WINDOW_S, WINDOW_1HZ_S = 1.0, 2.0
LAGS_S = np.arange(-0.12, 0.6001, 0.04)
# Receivers with longer steps (s) are compared over the longer window; a stretch is whole up to this many times its length; two lags
# agree within this (s).
SLOW_S, WHOLE, ALIKE_S = 0.6, 1.5, 0.1
# Heights are smoothed over this many samples (Hann window); the steepest road (share of its length).
HEIGHTS_EVENED, STEEPEST = 13, 0.3
# Rounds of the fit of the axes; no length is taken for shorter.
AXES_ROUNDS, NOTHING = 4, 1e-9
# Residuals beyond this many of their median count for less (Huber weights).
HUBER = 2.0
BLOCKS, JACKKNIFE_IS_SMALL, LEAST_SD_S = 8, 2.0, 0.012
# An estimate less sure than this is not used; one smaller is not worth a word, and may be the sensors' own filters.
MOST_SD_S, MOST_TILT_SD_DEG, SMALL_LAG_S, SMALL_TILT_DEG = 0.06, 1.5, 0.03, 1.0
ROUGHLY = 0.25
LEAST_WINDOWS = 120
# No car pulls more than this; fixes farther apart than this are too slow to show how a course went between them.
MOST_MPS2, BETWEEN_S = 15.0, 0.2
# A sideslip that stays longer than this is the gyro's bias; one larger than this is no slide but a mistake.
SLIP_OVER_S, MOST_SLIP_RAD, ROUNDS = 120.0, 0.7, 3
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
    windows = _windows_of(recording)
    if windows is None:
        return None
    lag, upright = USUAL_LAG_S, 1.0
    for turn in range(ROUNDS):
        near = LAGS_S[np.abs(LAGS_S - lag) < ALIKE_S] if turn else LAGS_S
        known, force = windows.did(lag, upright), windows.force
        # One scale for all lags, from the one that was thought of so far.
        scale = _fit(force(lag), known).turn
        costs = np.stack([_fit(force(at), known, scale).cost for at in near])
        lag = _lowest(costs.mean(axis=1), near)
        fit = _fit(force(lag), known)
        rotation = _rotation(fit.axes, known)
        upright = max(float(rotation[2, 2]), 0.5)
    # Another unit, a lost sign or a dead axis leaves no rotation: that is another fault, and told elsewhere.
    if float(np.abs(fit.axes - rotation).max()) > NO_ROTATION:
        return None
    lags, ups = [], []
    block = np.arange(len(known)) * BLOCKS // len(known)
    for left_out in range(BLOCKS):
        kept = block != left_out
        # The axes are where the cost is least, so that leaving a block out moves the cost by its own windows, and by their new axes only
        # in the second order.
        lags.append(_lowest(costs[:, kept].mean(axis=1), near))
        turned = _rotation(_weighted_axes(force(lag)[kept], known[kept], fit.weight[kept]), known[kept])
        ups.append(_angle_deg(turned[2], rotation[2]))
    spread = np.sqrt((BLOCKS - 1) / BLOCKS * np.sum((np.array(lags) - np.mean(lags)) ** 2))
    tilt_sd = np.sqrt((BLOCKS - 1) / BLOCKS * np.sum(np.square(ups)))
    return Mount(
        rotation,
        lag,
        float(np.hypot(JACKKNIFE_IS_SMALL * spread, LEAST_SD_S)),
        _angle_deg(rotation[2], np.array([0.0, 0.0, 1.0])),
        float(JACKKNIFE_IS_SMALL * tilt_sd),
    )


class _Windows:
    """Windows of time between fixes: the mean of the box's axes in each, and what the car did in it along its body."""

    def __init__(self, recording: Recording, apart: int, step_s: float) -> None:
        self.recording = recording
        speed, course = recording.channels["speed_mps"], recording.channels["course_rad"]
        self.time_s, self.speed = speed.time_s, speed.value
        self.heading = -np.interp(self.time_s, course.time_s, np.unwrap(course.value))
        self.slope = _slope(recording, self.time_s)
        # Between slow fixes the body's turn tells how the course went.
        self.fine_s = self.time_s if step_s < BETWEEN_S else np.arange(self.time_s[0], self.time_s[-1], 0.5 * BETWEEN_S)
        first = np.arange(0, len(self.time_s) - apart, max(1, apart // 2))
        last = first + apart
        over_s = self.time_s[last] - self.time_s[first]
        good = (np.minimum(self.speed[first], self.speed[last]) > SLOWEST_MPS) & (over_s < WHOLE * apart * step_s)
        mean = 0.5 * (self.speed[first] + self.speed[last])
        good &= np.abs(self.speed[last] - self.speed[first]) < MOST_MPS2 * over_s
        good &= np.abs(mean * (self.heading[last] - self.heading[first])) < MOST_MPS2 * over_s
        self.begin_s, self.end_s = self.time_s[first][good], self.time_s[last][good]
        self._totals = [_total(recording.channels[name]) for name in AXES]
        self._forces: dict[float, Floats] = {}

    def did(self, lag_s: float, upright: float) -> Floats:
        """Forward, left and gravity in each window, along the body, whose gyro is read earlier by a lag; (m, 3)."""
        slip, heading = _sideslip(self.recording, self.time_s, self.heading, self.speed, (lag_s, upright), self.fine_s)
        seconds = np.maximum(np.diff(self.fine_s), LEAST_STEP_S)
        speed = np.interp(self.fine_s, self.time_s, self.speed)
        slope = np.interp(self.fine_s, self.time_s, self.slope)
        along = np.diff(speed) / seconds + GRAVITY_MPS2 * 0.5 * (slope[1:] + slope[:-1])
        across = 0.5 * (speed[1:] + speed[:-1]) * np.diff(heading) / seconds
        slip = 0.5 * (slip[1:] + slip[:-1])
        means = []
        for value in (along * np.cos(slip) + across * np.sin(slip), across * np.cos(slip) - along * np.sin(slip)):
            total = np.concatenate([[0.0], np.cumsum(value * seconds)])
            gained = np.interp(self.end_s, self.fine_s, total) - np.interp(self.begin_s, self.fine_s, total)
            means.append(gained / (self.end_s - self.begin_s))
        return np.stack([*means, np.full(len(self.begin_s), GRAVITY_MPS2)], axis=1)

    def force(self, lag_s: float) -> Floats:
        """The mean of the three box axes in each window, read earlier by a lag, (m, 3)."""
        if lag_s not in self._forces:
            begin, end = self.begin_s - lag_s, self.end_s - lag_s
            means = [(np.interp(end, t, total) - np.interp(begin, t, total)) / (end - begin) for t, total in self._totals]
            self._forces[lag_s] = np.asarray(np.stack(means, axis=1), dtype=float)
        return self._forces[lag_s]


def _total(channel: Channel) -> tuple[Floats, Floats]:
    """A channel's times and its integral up to each, both (n,)."""
    steps = 0.5 * (channel.value[1:] + channel.value[:-1]) * np.diff(channel.time_s)
    return channel.time_s, np.concatenate([[0.0], np.cumsum(steps)])


def _windows_of(recording: Recording) -> _Windows | None:
    """The windows of a recording, ``None`` where there are too few."""
    time_s = recording.channels["speed_mps"].time_s
    if len(time_s) < 2:
        return None
    step_s = float(np.median(np.diff(time_s)))
    apart = max(1, round((WINDOW_S if step_s < SLOW_S else WINDOW_1HZ_S) / step_s))
    if len(time_s) < LEAST_WINDOWS + apart:
        return None
    windows = _Windows(recording, apart, step_s)
    return windows if len(windows.begin_s) >= LEAST_WINDOWS else None


def _sideslip(
    recording: Recording, time_s: Floats, heading: Floats, speed: Floats, body: tuple[float, float], fine_s: Floats
) -> tuple[Floats, Floats]:
    """How far the body points to the left of the path, and the path's heading, at the times ``fine_s``; both (n,).

    The turn of the body, read when the motion was, less that of the path; a slide comes and goes within seconds, and to both
    sides, so what stays over :data:`SLIP_OVER_S` is bias and is taken off. ``body`` is by how much earlier its gyro is read, and
    how upright that stands. Without a yaw rate there is no slip, and the heading goes straight from fix to fix.
    """
    if not recording.has("yaw_rate_radps"):
        return np.zeros(len(fine_s)), np.interp(fine_s, time_s, heading)
    lag_s, upright = body
    yaw_s, total = _total(recording.channels["yaw_rate_radps"])
    off = np.interp(time_s - lag_s, yaw_s, total / upright) - heading
    moving = speed > SLOWEST_MPS
    even_s = np.arange(time_s[0], time_s[-1], SLIP_OVER_S / 2)
    blocks = np.searchsorted(even_s, time_s, side="right") - 1
    known = np.unique(blocks[moving])
    if not len(known):
        return np.zeros(len(fine_s)), np.interp(fine_s, time_s, heading)
    middle = np.array([np.median(off[moving & (blocks == block)]) for block in known])
    slow = np.interp(time_s, even_s[known] + SLIP_OVER_S / 4, middle)
    slip = np.where(moving, np.clip(off - slow, -MOST_SLIP_RAD, MOST_SLIP_RAD), 0.0)
    turned = np.interp(fine_s - lag_s, yaw_s, total / upright)
    return np.interp(fine_s, time_s, slip), turned - np.interp(fine_s, time_s, off)


def _slope(recording: Recording, time_s: Floats) -> Floats:
    """How steeply the road rises, from heights smoothed over some ten seconds, 0 where none were recorded; (n,)."""
    if not recording.has("alt_m"):
        return np.zeros(len(time_s))
    alt = recording.channels["alt_m"]
    even_s = np.arange(time_s[0], time_s[-1] + 1.0, 1.0)
    height = np.interp(even_s, alt.time_s, alt.value)
    window = np.hanning(HEIGHTS_EVENED)[1:-1]
    smooth: Floats = np.convolve(np.pad(height, HEIGHTS_EVENED // 2 - 1, mode="edge"), window / window.sum(), mode="valid")
    speed = recording.channels["speed_mps"]
    metres = np.maximum(np.interp(even_s, speed.time_s, speed.value), SLOWEST_MPS)
    return np.asarray(np.clip(np.interp(time_s, even_s, np.gradient(smooth) / metres), -STEEPEST, STEEPEST), dtype=float)


@dataclass(frozen=True)
class _Fit:
    """``axes`` are the columns of the box's axes by robust least squares, (3, 3); ``cost`` is what is left in the horizontal in each window
    by Huber's cost, (m,), which turns from square to straight at ``turn``; ``weight`` what each window counts, (m,)."""

    axes: Floats
    cost: Floats
    turn: float
    weight: Floats


def _fit(force: Floats, known: Floats, scale: float | None = None) -> _Fit:
    """The box's axes in robust least squares of the mean forces, (m, 3), by what the car did, (m, 3).

    Crests and bumps stand in the vertical and say nothing of the lag. ``scale`` is where Huber's cost turns from square to
    straight; costs are comparable only where it is given.
    """
    weight = np.ones(len(known))
    for _ in range(AXES_ROUNDS):
        axes = _weighted_axes(force, known, weight)
        up = axes[2] / max(float(np.linalg.norm(axes[2])), NOTHING)
        left = force - known @ axes
        left -= np.outer(left @ up, up)
        rest = np.sqrt(np.einsum("ij,ij->i", left, left))
        turn = scale or max(HUBER * float(np.median(rest)), NOTHING)
        weight = np.minimum(1.0, turn / np.maximum(rest, NOTHING))
    return _Fit(axes, np.where(rest < turn, 0.5 * rest**2, turn * (rest - 0.5 * turn)), turn, weight)


def _weighted_axes(force: Floats, known: Floats, weight: Floats) -> Floats:
    """The columns of the box's axes by weighted least squares, (3, 3)."""
    # Three unknowns a column, of like size: the normal equations are good enough, and much quicker than a factor of all rows.
    weighted = weight[:, None] * known
    return np.asarray(np.linalg.lstsq(weighted.T @ known, weighted.T @ force, rcond=None)[0], dtype=float)


def _lowest(costs: Floats, lags: Floats) -> float:
    """The lag of least cost, between the steps by a parabola."""
    at = int(np.clip(np.argmin(costs), 1, len(costs) - 2))
    before, here, after = costs[at - 1 : at + 2]
    bend = before - 2.0 * here + after
    shift = 0.5 * (before - after) / bend if bend > 0 else 0.0
    return float(lags[at] + np.clip(shift, -1.0, 1.0) * (lags[1] - lags[0]))


def _rotation(axes: Floats, known: Floats) -> Floats:
    """The rotation nearest to a regression's columns: its rows are forward, left and up in the box, (3, 3).

    Gravity is by far the surest, so the car's up is the constant's column; forward lies square to it, where the other two
    columns put it, each weighed by how much the car did along it.
    """
    up = axes[2] / max(float(np.linalg.norm(axes[2])), NOTHING)
    braked, turned = known[:, 0].var(), known[:, 1].var()
    forward = braked * axes[0] + turned * np.cross(axes[1], up)
    forward -= (forward @ up) * up
    forward /= max(float(np.linalg.norm(forward)), NOTHING)
    return np.stack([forward, np.cross(up, forward), up])


def _angle_deg(a: Floats, b: Floats) -> float:
    return float(np.degrees(np.arccos(np.clip(a @ b / np.linalg.norm(a) / np.linalg.norm(b), -1.0, 1.0))))


def align_axes(recording: Recording) -> Recording:
    """The recording with its accelerations turned into the car's axes and its positions moved to when they were true.

    Each only where it is sure enough and large enough to matter, and said in a sentence.
    """
    mount = mount_of(recording)
    if mount is None:
        return recording
    doubts = list(recording.doubts)
    channels = dict(recording.channels)
    # Nothing is reported before it happens. What is large is better taken out roughly than left.
    if mount.lag_s > SMALL_LAG_S and mount.lag_sd_s < max(MOST_SD_S, ROUGHLY * mount.lag_s):
        for name in RECEIVED:
            if name in channels:
                channels[name] = Channel(channels[name].time_s - mount.lag_s, channels[name].value)
        doubts.append(
            message("Positions come {0:.2f} s late (±{1:.2f} s). They were moved to their right times.", mount.lag_s, mount.lag_sd_s)
        )
    turned = _angle_deg(mount.rotation[0], np.array([1.0, 0.0, 0.0]))
    sure = mount.tilt_sd_deg < max(MOST_TILT_SD_DEG, ROUGHLY * mount.tilt_deg)
    if max(mount.tilt_deg, turned) > SMALL_TILT_DEG and sure:
        channels |= _turned(channels, mount)
        doubts.append(
            message(
                "The recorder sits {0:.0f}° from upright and {1:.0f}° from straight ahead in the car: its "
                "channels were turned into the car's axes.",
                mount.tilt_deg,
                turned,
            )
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
