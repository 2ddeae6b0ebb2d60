"""What is wrong with a recorder, found from how its channels contradict each other: noticed, said, and mended if it can be.

A mount may be turned, a sign or an axis swapped, a unit wrong, a channel dead, a sensor clipped. Each check holds one
channel against what others say of the same thing; nothing is changed silently.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace

import numpy as np

from mirkle.core.constants import EARTH_M, GRAVITY_MPS2, KMH_PER_MPS, KNOT_MPS, LEAST_STEP_S, MPH_MPS
from mirkle.core.messages import Message, in_a_row, message
from mirkle.core.recording.channels import CHANNELS
from mirkle.core.recording.model import OUTAGE_S, Channel, Floats, Recording, samples_in
from mirkle.core.stats import robust_sd

# Two channels that measure one thing agree this well even on gravel; a swapped one does not, whatever the noise.
AGREES, CONTRADICTS = 0.35, -0.35
# The fewest samples to compare two channels; below this correlation they are unrelated, where the course turns this much (rad/s). A
# rate that is too large by a factor between these is in degrees. # common practice
LEAST_SAMPLES, UNRELATED, TURNING_RADPS, DEGREES = 200, 0.15, 0.02, (35.0, 95.0)
# What a yaw rate is of what the course shows, at least and at most: a receiver's course comes smoothed. # common practice
YAW_WITHIN = (0.5, 2.5)
STEP_S = 0.1
# A channel is compared with a speed while the car is faster than this (m/s), from this many samples on; the fewest known speeds or
# courses.
MOVES_MPS, LEAST_MOVING, LEAST_KNOWN = 5.0, 50, 20
# Below this it stands, m/s.
STANDS_MPS = 0.3
# A wheel goes with the car to within this but when it spins or locks; no speed is read farther than this from a measured one.
WHEELS_SCATTER, NEAR_S = 0.12, 1.6
# Sampling wanders where a tenth of the samples are off their time by this share of the step; samples are missing from this share on.
WANDERS, MISSING = 0.35, 0.005
# The steepest road (share of its length), and the time over which a climb is measured (s). # common practice
STEEPEST, CLIMBS_OVER_S = 0.3, 20.0
# The least road over which a climb is measured (m); heights are dropped where more than this share of it is too steep; percentiles
# between which heights are described.
CLIMBS_OVER_M, TOO_STEEP, HEIGHTS = 100.0, 0.1, (1, 99)
# Two channels share a clock where this many of their first times are equal; a sample is missing where the next comes this many steps
# later; percentiles between which the steps are described.
ONE_CLOCK, NEXT_IS_MISSING, USUALLY = 50, 1.5, (5, 95)
# Wheels further from the speed than this share are said to be.
WHEELS_OFF = (0.97, 1.03)
# The fewest samples that show how often values repeat; the most repeats; the share of runs that has to agree.
LEAST_REPEATING, MOST_REPEATS, IN_RUNS = 400, 5, 0.9
# A channel is clipped where its largest value occurs this often, and at least once in this many samples; the fewest samples that tell
# it.
CLIPPED, CLIPPED_IN, LEAST_CLIPPED = 20, 2000, 500
# The units that a speed may be in, and how near to one's factor it has to be; a speed within the last is none the less a speed.
SPEED_UNITS = ((KMH_PER_MPS, "km/h"), (1 / KMH_PER_MPS, "m/s"), (1 / KNOT_MPS, "knots"), (1 / MPH_MPS, "mph"))
UNIT_WITHIN, SPEED_WITHIN = 0.06, (0.8, 1.25)
# How near to it a level has to be that is gravity in its unit (m/s²), in g, and in m/s² times g.
GRAVITY_WITHIN_MPS2, IN_G_WITHIN, TWICE_G_WITHIN = 2.5, 0.25, 20.0
# A forward acceleration that agrees less with the speed's change has nothing to do with it, where that changes by more, m/s2.
FORWARD_UNRELATED, CHANGING_MPS2 = 0.1, 0.5
# What an acceleration is of what speed and turning show, at least and at most, since sensors and ground lean; and in which unit it is.
# common practice
ACCELERATION_WITHIN, IN_ITS_UNIT = (0.4, 2.5), (0.6, 1.7)
SAY_NOTHING = {"brake": "brake", "throttle": "throttle", "steer_rad": "steering"}
EVENED_S = 1.0
# A level that moves by this (m/s²) is 9 degrees of tilt: more than start and stop lines slope. # common practice
MOUNT_MOVED_MPS2 = 1.5


def check_channels(recording: Recording) -> Recording:
    """The recording without channels that can't be right, signs and units mended, and a sentence for each."""
    doubts = list(recording.doubts)
    channels = dict(recording.channels)
    for name in list(channels):
        reason = _dead(channels[name], name)
        if reason:
            doubts.append(reason)
            del channels[name]
    _set_aside(channels, doubts)
    _clocks(channels, doubts)
    _heights(channels, doubts)
    _doubled(channels, doubts)
    _wheels(channels, doubts)
    _speed_unit(channels, doubts)
    _gravity(channels, doubts)
    _lateral(channels, doubts)
    _forward(channels, doubts)
    _mount(channels, doubts)
    for name in ("acc_x_mps2", "acc_y_mps2", "acc_z_mps2"):
        if name in channels and _clipped(channels[name]):
            most = float(np.abs(channels[name].value).max()) / GRAVITY_MPS2
            doubts.append(message("{0} is clipped at {1:.1f} g: peaks are not to be trusted.", CHANNELS[name].sentence, most))
    return replace(recording, channels=channels, doubts=tuple(doubts))


def _listed(names: Iterable[str]) -> Message:
    """Channels in a row, each sort once."""
    return in_a_row(tuple(dict.fromkeys(CHANNELS[n].words for n in names)), ", ")


def _dead(channel: Channel, name: str) -> Message | None:
    if CHANNELS[name].moves and len(channel.value) > LEAST_MOVING and float(np.ptp(channel.value)) == 0.0:
        return message("{0} never changes: a dead channel, left out.", CHANNELS[name].sentence)
    return None


def _set_aside(channels: dict[str, Channel], doubts: list[Message]) -> None:
    """What is read and says nothing here is named rather than shown as if it counted."""
    aside = [word for name, word in SAY_NOTHING.items() if channels.pop(name, None) is not None]
    if aside:
        doubts.append(message("Recorded, but nothing here rests on it: {0}.", ", ".join(aside)))


def _clocks(channels: Mapping[str, Channel], doubts: list[Message]) -> None:
    """Samples that come at uneven times, and samples that never came, each said once for the channels of one clock."""
    seen: dict[bytes, list[str]] = {}
    for name, channel in channels.items():
        if len(channel.time_s) > LEAST_SAMPLES:
            seen.setdefault(channel.time_s[:ONE_CLOCK].tobytes(), []).append(name)
    for names in seen.values():
        gaps = np.diff(channels[names[0]].time_s)
        usual = float(np.median(gaps))
        usual_ms = 1000 * usual
        short, long = 1000 * np.percentile(gaps[gaps < NEXT_IS_MISSING * usual], USUALLY)
        words = _listed(names)
        if long - short > WANDERS * usual_ms:
            doubts.append(message("Samples come {0:.0f} to {1:.0f} ms apart where {2:.0f} are usual ({3}).", short, long, usual_ms, words))
        lost = np.rint(gaps[(gaps > NEXT_IS_MISSING * usual) & (gaps < OUTAGE_S)] / usual) - 1.0
        if lost.sum() > MISSING * len(gaps):
            doubts.append(message("{0:.0f} of {1:.0f} samples are missing ({2}).", lost.sum(), len(gaps) + lost.sum(), words))


def _heights(channels: dict[str, Channel], doubts: list[Message]) -> None:
    """Heights that no road has are left out."""
    by_position, height = _position_speed(channels), channels.get("alt_m")
    if by_position is None or height is None:
        return
    at = np.arange(by_position.time_s[0], by_position.time_s[-1], CLIMBS_OVER_S)
    gone = np.concatenate([[0.0], np.cumsum(by_position.value[1:] * np.diff(by_position.time_s))])
    metres = np.diff(np.interp(at, by_position.time_s, gone))
    climbs = np.abs(np.diff(np.interp(at, height.time_s, height.value)))
    driven = metres > CLIMBS_OVER_M
    if driven.any() and float(np.mean(climbs[driven] > STEEPEST * metres[driven])) > TOO_STEEP:
        low, high = np.percentile(height.value, HEIGHTS)
        doubts.append(message("Heights from {0:.0f} to {1:.0f} m can't be this road's: they were left out.", low, high))
        del channels["alt_m"]


def _wheels(channels: dict[str, Channel], doubts: list[Message]) -> None:
    """The wheel speed to the scale of the Doppler speed; in its place where there is none.

    A tyre's size, a unit and a gear are one factor, the median of the ratio: spinning and locked wheels are the exception.
    """
    wheels = channels.get("wheel_speed_mps")
    if wheels is None:
        return
    known = channels.get("speed_mps") or _position_speed(channels)
    if known is None or len(known.value) < LEAST_KNOWN:
        return
    truth = np.interp(wheels.time_s, known.time_s, known.value)
    # Beside a hole nothing is known of the speed.
    near = np.searchsorted(known.time_s, wheels.time_s).clip(1, len(known.time_s) - 1)
    moving = (truth > MOVES_MPS) & (known.time_s[near] - known.time_s[near - 1] < NEAR_S)
    if np.count_nonzero(moving) < LEAST_MOVING:
        return
    ratio = wheels.value[moving] / truth[moving]
    scale = float(np.median(ratio))
    scatter = robust_sd(ratio / scale, 1.0) if scale > 0.0 else np.inf
    if scatter > WHEELS_SCATTER:
        doubts.append(message("The wheel speed has nothing to do with the speed; it was left out."))
        del channels["wheel_speed_mps"]
        return
    channels["wheel_speed_mps"] = replace(wheels, value=wheels.value / scale)
    if not WHEELS_OFF[0] < scale < WHEELS_OFF[1]:
        doubts.append(message("The wheels read {0:.2f} times the speed; they were scaled to it.", scale))
    if "speed_mps" not in channels:
        channels["speed_mps"] = channels["wheel_speed_mps"]
        doubts.append(message("No speed was recorded. The wheel speed is used, scaled to the positions."))


def _doubled(channels: dict[str, Channel], doubts: list[Message]) -> None:
    """Channels in which every value stands two to five times: written more often than they were measured."""
    found: dict[int, list[str]] = {}
    for name in list(channels):
        times = _repeats(channels[name].value)
        if times > 1:
            first = _first_of_group(channels[name].value, times)
            channels[name] = Channel(channels[name].time_s[first::times], channels[name].value[first::times])
            found.setdefault(times, []).append(name)
    for times, names in found.items():
        words = _listed(names)
        doubts.append(message("Each value comes {0} times in a row ({1}); it counts once.", times, words))


def _repeats(value: Floats) -> int:
    """How often each value of a channel stands in a row; 1 where it changes at every sample, or hardly ever."""
    if len(value) < LEAST_REPEATING:
        return 1
    lengths = np.diff(np.flatnonzero(np.concatenate([[True], np.diff(value) != 0.0, [True]])))
    times = round(float(np.median(lengths)))
    # A car at rest repeats its values without end: what counts is that hardly any run is shorter.
    return times if 2 <= times <= MOST_REPEATS and np.mean(lengths % times == 0) > IN_RUNS else 1


def _first_of_group(value: Floats, times: int) -> int:
    """The sample with which the first whole group begins."""
    changes = np.flatnonzero(np.diff(value) != 0.0) + 1
    return int(np.bincount(changes % times, minlength=times).argmax())


def _mount(channels: Mapping[str, Channel], doubts: list[Message]) -> None:
    """Whether a level has moved between standing at the start and standing at the stop."""
    speed = channels.get("speed_mps")
    for name in ("acc_x_mps2", "acc_y_mps2"):
        channel = channels.get(name)
        if speed is None or channel is None:
            continue
        still = np.interp(channel.time_s, speed.time_s, speed.value) < STANDS_MPS
        middle = 0.5 * (channel.time_s[0] + channel.time_s[-1])
        before, after = (channel.value[still & side] for side in (channel.time_s < middle, channel.time_s >= middle))
        if min(len(before), len(after)) < LEAST_MOVING:
            continue
        moved = float(np.median(after) - np.median(before))
        if abs(moved) > MOUNT_MOVED_MPS2:
            doubts.append(
                message(
                    "{0} stands {1:.1f} m/s² off at the stop from where it stood at the start: the mount has "
                    "turned, or the ground slopes much there. Its level is followed slowly.",
                    CHANNELS[name].sentence,
                    abs(moved),
                )
            )


def _clipped(channel: Channel) -> bool:
    value = channel.value
    if len(value) < LEAST_CLIPPED:
        return False
    return any(np.count_nonzero(value == edge) > max(CLIPPED, len(value) // CLIPPED_IN) for edge in (value.max(), value.min()))


def _on(channel: Channel, at: Floats) -> Floats:
    """A channel's running mean over the step, read at even times, (n,)."""
    total = np.concatenate([[0.0], np.cumsum(0.5 * (channel.value[1:] + channel.value[:-1]) * np.diff(channel.time_s))])
    ends = np.interp(at + STEP_S / 2, channel.time_s, total) - np.interp(at - STEP_S / 2, channel.time_s, total)
    return np.asarray(ends / STEP_S)


def _evened(values: Floats) -> Floats:
    """Running means over a second, (n,)."""
    count = round(EVENED_S / STEP_S)
    return np.asarray(np.convolve(values, np.ones(count) / count, mode="same"), dtype=float)


def _grid(*channels: Channel) -> Floats:
    first, last = max(c.time_s[0] for c in channels) + 1.0, min(c.time_s[-1] for c in channels) - 1.0
    return np.arange(first, last, STEP_S)


def _position_speed(channels: Mapping[str, Channel]) -> Channel | None:
    if "lat_rad" not in channels or "lon_rad" not in channels:
        return None
    lat, lon = channels["lat_rad"], channels["lon_rad"]
    if len(lat.time_s) != len(lon.time_s) or len(lat.time_s) < LEAST_KNOWN:
        return None
    apart = samples_in(lat.time_s, 1.0)
    north = (lat.value[apart:] - lat.value[:-apart]) * EARTH_M
    east = (lon.value[apart:] - lon.value[:-apart]) * EARTH_M * np.cos(lat.value[apart:])
    seconds = np.maximum(lat.time_s[apart:] - lat.time_s[:-apart], LEAST_STEP_S)
    return Channel(0.5 * (lat.time_s[apart:] + lat.time_s[:-apart]), np.hypot(north, east) / seconds)


def _speed_unit(channels: dict[str, Channel], doubts: list[Message]) -> None:
    by_position = _position_speed(channels)
    if by_position is None or "speed_mps" not in channels:
        return
    speed = channels["speed_mps"]
    at = _grid(by_position, speed)
    truth, said = np.interp(at, by_position.time_s, by_position.value), np.interp(at, speed.time_s, speed.value)
    moving = truth > MOVES_MPS
    if np.count_nonzero(moving) < LEAST_MOVING:
        return
    ratio = float(np.median(said[moving] / truth[moving]))
    for factor, unit in SPEED_UNITS:
        if abs(ratio / factor - 1) < UNIT_WITHIN:
            channels["speed_mps"] = replace(speed, value=speed.value / factor)
            doubts.append(
                message(
                    "The speed is {0:.1f} times what the positions show, so it is read as {1}. Its column does not say so.", ratio, unit
                )
            )
            return
    if not SPEED_WITHIN[0] < ratio < SPEED_WITHIN[1]:
        doubts.append(message("The speed is {0:.2f} times what the positions show; it was left out.", ratio))
        del channels["speed_mps"]


def _gravity(channels: dict[str, Channel], doubts: list[Message]) -> None:
    if "acc_z_mps2" not in channels:
        return
    vertical = channels["acc_z_mps2"]
    level = float(np.median(vertical.value))
    if abs(level - 1.0) < IN_G_WITHIN:
        channels["acc_z_mps2"] = replace(vertical, value=vertical.value * GRAVITY_MPS2)
        doubts.append(message("The vertical acceleration rests at 1 and not at 9.8, so it is read as g. Its column does not say so."))
    elif abs(level - GRAVITY_MPS2 * GRAVITY_MPS2) < TWICE_G_WITHIN:
        channels["acc_z_mps2"] = replace(vertical, value=vertical.value / GRAVITY_MPS2)
        doubts.append(message("The vertical acceleration rests at 96 and not at 9.8, so it is read as m/s². Its column does not say so."))
    elif abs(level + GRAVITY_MPS2) < GRAVITY_WITHIN_MPS2:
        channels["acc_z_mps2"] = replace(vertical, value=-vertical.value)
        doubts.append(message("The vertical acceleration is upside down; its sign was turned."))
    elif abs(level) < GRAVITY_WITHIN_MPS2:
        others = [
            n
            for n in ("acc_x_mps2", "acc_y_mps2")
            if n in channels and abs(abs(np.median(channels[n].value)) - GRAVITY_MPS2) < GRAVITY_WITHIN_MPS2
        ]
        why = message("gravity stands in the {0}", CHANNELS[others[0]].words) if others else message("it does not hold gravity")
        doubts.append(message("The vertical acceleration can't be used, since {0}: crests and jumps are not judged.", why))
        del channels["acc_z_mps2"]


def _heading_rate(channels: Mapping[str, Channel], at: Floats) -> Floats | None:
    """How fast the course turns to the left, from the recorder's course, (n,)."""
    course, speed = channels.get("course_rad"), channels.get("speed_mps")
    if course is None or speed is None or len(course.value) < LEAST_KNOWN:
        return None
    heading = np.unwrap(-course.value)
    rate = np.gradient(heading, course.time_s)
    rate[np.interp(course.time_s, speed.time_s, speed.value) < MOVES_MPS] = 0.0
    return np.interp(at, course.time_s, np.clip(rate, -2.0, 2.0))


def _agreement(a: Floats, b: Floats) -> float:
    if np.std(a) == 0 or np.std(b) == 0:
        return 0.0
    return float(np.corrcoef(a, b)[0, 1])


def _lateral(channels: dict[str, Channel], doubts: list[Message]) -> None:
    """The yaw rate against the course, then the lateral acceleration against speed times yaw rate; axes too."""
    speed = channels.get("speed_mps")
    if speed is None:
        return
    _check_yaw_rate(channels, speed, doubts)
    yaw, lateral = channels.get("yaw_rate_radps"), channels.get("acc_y_mps2")
    at = _grid(yaw, speed, lateral) if yaw is not None and lateral is not None else np.empty(0)
    if yaw is None or lateral is None or len(at) < LEAST_SAMPLES:
        return
    # Gravel shakes more in a tenth of a second than a corner pulls; over a second it doesn't.
    expected = _evened(np.interp(at, speed.time_s, speed.value) * _on(yaw, at))
    measured = _evened(_on(lateral, at))
    agreement = _agreement(measured, expected)
    if agreement < CONTRADICTS:
        channels["acc_y_mps2"] = replace(lateral, value=-lateral.value)
        doubts.append(message("The lateral acceleration has the wrong sign; it was turned."))
        return
    if agreement >= AGREES:
        _read_in_its_unit(channels, "acc_y_mps2", measured, expected, doubts)
        return
    forward = channels.get("acc_x_mps2")
    swapped = _agreement(_evened(_on(forward, at)), expected) if forward is not None else 0.0
    if forward is not None and abs(swapped) > 2 * AGREES:
        channels["acc_y_mps2"] = replace(forward, value=np.sign(swapped) * forward.value)
        channels["acc_x_mps2"] = lateral
        doubts.append(message("Forward and lateral acceleration are swapped: the recorder is mounted across; they were put right."))
    else:
        doubts.append(message("The lateral acceleration has nothing to do with the turning; it was left out."))
        del channels["acc_y_mps2"]


def _check_yaw_rate(channels: dict[str, Channel], speed: Channel, doubts: list[Message]) -> None:
    """The yaw rate against the course: its sign, its unit, and whether it has anything to do with it; in place."""
    yaw = channels.get("yaw_rate_radps")
    at = _grid(yaw, speed) if yaw is not None else np.empty(0)
    turned = _heading_rate(channels, at) if len(at) > LEAST_SAMPLES else None
    if yaw is None or turned is None:
        return
    measured = _on(yaw, at)
    agreement = _agreement(measured, turned)
    size = float(np.std(measured)) / max(float(np.std(turned)), 1e-6)
    if agreement < CONTRADICTS:
        yaw = channels["yaw_rate_radps"] = replace(yaw, value=-yaw.value)
        doubts.append(message("The yaw rate has the wrong sign; it was turned."))
    if abs(agreement) > AGREES:
        _read_yaw_in_its_unit(channels, yaw, size, agreement, doubts)
    elif abs(agreement) < UNRELATED and np.std(turned) > TURNING_RADPS:
        doubts.append(message("The yaw rate has nothing to do with the course; it was left out."))
        del channels["yaw_rate_radps"]


def _may_be_within(size: float, agreement: float, within: tuple[float, float]) -> bool:
    """Whether one channel may be a factor within some bounds of what another says.

    With their spreads in this ratio and their correlation, the factor lies between the two lines of regression, that of the first on the
    second and that of the second on the first: all noise may be in the one or in the other.
    """
    return size / abs(agreement) > within[0] and size * abs(agreement) < within[1]


def _read_yaw_in_its_unit(channels: dict[str, Channel], yaw: Channel, size: float, agreement: float, doubts: list[Message]) -> None:
    """Reads a yaw rate in degrees where it is as many times what the course shows, or leaves it out where it is in no unit; in place."""
    if DEGREES[0] < size < DEGREES[1]:
        channels["yaw_rate_radps"] = replace(yaw, value=np.radians(yaw.value))
        doubts.append(
            message("The yaw rate is 57 times what the course shows, so it is read as degrees a second. Its column does not say so.")
        )
    elif not _may_be_within(size, agreement, YAW_WITHIN):
        doubts.append(message("The yaw rate is {0:.2f} times what the course shows; it was left out.", size))
        del channels["yaw_rate_radps"]


def _forward(channels: dict[str, Channel], doubts: list[Message]) -> None:
    speed, forward = channels.get("speed_mps"), channels.get("acc_x_mps2")
    if speed is None or forward is None:
        return
    at = _grid(speed, forward)
    if len(at) < LEAST_SAMPLES:
        return
    smooth = np.interp(at, speed.time_s, speed.value)
    expected, measured = np.gradient(smooth, STEP_S), _on(forward, at)
    agreement = _agreement(measured, expected)
    if agreement < CONTRADICTS:
        channels["acc_x_mps2"] = replace(forward, value=-forward.value)
        doubts.append(message("The forward acceleration has the wrong sign; it was turned."))
    elif agreement < FORWARD_UNRELATED and np.std(expected) > CHANGING_MPS2:
        doubts.append(message("The forward acceleration has nothing to do with the speed; it was left out."))
        del channels["acc_x_mps2"]
    elif agreement >= AGREES:
        _read_in_its_unit(channels, "acc_x_mps2", _evened(measured), _evened(expected), doubts)


def _read_in_its_unit(channels: dict[str, Channel], name: str, measured: Floats, expected: Floats, doubts: list[Message]) -> None:
    """Reads an acceleration in the unit that speed and turning show, or leaves it out where they show none; in place."""
    size, agreement = float(np.std(measured) / np.std(expected)), _agreement(measured, expected)
    if _may_be_within(size, agreement, ACCELERATION_WITHIN):
        return
    words = CHANNELS[name].sentence
    for factor, unit in ((1.0 / GRAVITY_MPS2, "g"), (GRAVITY_MPS2, "m/s²")):
        if IN_ITS_UNIT[0] < size / factor < IN_ITS_UNIT[1]:
            channels[name] = replace(channels[name], value=channels[name].value / factor)
            doubts.append(
                message("{0} is {1:.1f} times what the speed shows, so it is read as {2}. Its column does not say so.", words, size, unit)
            )
            return
    doubts.append(message("{0} is {1:.2f} times what the speed shows; it was left out.", words, size))
    del channels[name]
