"""Nonsense in a recording, noticed before anything is computed from it: times, places and values that no car's can be.

What is plainly a slip (milliseconds called seconds, latitude and longitude swapped, a lost minus, a receiver that says 0°, 0°
until it knows better) is put right and said; what can't be a drive is refused with a sentence.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from mirkle.core.constants import EARTH_M, LEAST_STEP_S, km
from mirkle.core.errors import UnusableRecording
from mirkle.core.messages import Message, counted, message
from mirkle.core.recording.channels import CHANNELS, FASTEST_MPS
from mirkle.core.recording.model import Channel, Floats, Recording, samples_in
from mirkle.core.recording.units import in_sense

# No run takes longer, and no clock of one leaps by more.
LONGEST_S, LEAP_S = 6 * 3600.0, 3600.0
# The longest step of a recording (s); where it is longer, the unit of time is another.
SLOWEST_S = 5.0
TIME_UNITS = (("milliseconds", 1e-3), ("microseconds", 1e-6), ("nanoseconds", 1e-9))
# A receiver's noise of some metres may look like a leap between close samples. # common practice
NOISE_M = 30.0
# From this share of leaps on, it is not the receiver.
MOST_LEAPS = 0.02
# A receiver that repeats one place for longer (s), and then jumps this far (m), did not know the places between.
FROZEN_S, WENT_ON_M = 3.0, 15.0
# Slower than this on the mean nobody moves whose positions are recorded.
STROLL_MPS = 0.3
# A mirrored line is told from the driven one where its sum of squares is larger by this factor.
CLEARLY = 2.0
# Speeds that differ by less are the same.
FITS = 0.05
# A course further from the line than this, in radians, is not its own.
TURNED = 0.35
# The fewest positions, and steps of a moving car; the speed above which a car moves, and above which its course is compared (m/s); a
# step of this many times the usual one is a hole.
LEAST_POSITIONS, LEAST_MOVING, MOVES_MPS, TURNS_ABOVE_MPS, USUAL_STEPS = 20, 30, 3.0, 5.0, 2.5
# What positions usually step leaves the longest twentieth aside.
USUALLY = 95
# How often leaps are removed, since removing one shows others; up to this many are no fault of the recording as a whole.
LEAP_ROUNDS, FEW_LEAPS = 4, 3
# A course called radians that passes the first bound (rad) is in degrees; one called degrees that never passes 2 pi times the second, on
# a drive that turned by more than a radian, is in radians.
RADIANS_WITHIN, A_LITTLE_OVER = 2.2 * np.pi, 1.01


def drop_impossible(recording: Recording) -> Recording:
    """The recording without what no car's can be, and a sentence for each thing that was left out or put right.

    Raises
    ------
    UnusableRecording
        It can't be one drive of a car, whatever is left out.
    """
    doubts = list(recording.doubts)
    channels = {name: _finite(c) for name, c in recording.channels.items()}
    channels = {name: c for name, c in channels.items() if len(c.time_s)}
    for step in (
        in_sense,
        _unit_of_time,
        _one_clock,
        _bounded,
        _at_nought,
        _on_the_globe,
        _swapped,
        _frozen,
        _leaps,
        _course_unit,
        _mirrored,
    ):
        channels = step(channels, doubts, recording.name)
    return replace(recording, channels=channels, doubts=tuple(doubts))


Channels = dict[str, Channel]
Step = Callable[[Channels, list[str], str], Channels]


def _finite(channel: Channel) -> Channel:
    good = np.isfinite(channel.time_s) & np.isfinite(channel.value)
    return channel if good.all() else Channel(channel.time_s[good], channel.value[good])


def _only(channel: Channel, kept: NDArray[np.bool_]) -> Channel:
    return Channel(channel.time_s[kept], channel.value[kept])


def _unit_of_time(channels: Channels, doubts: list[Message], _name: str) -> Channels:
    """The unit of time, told by how far apart the samples of the fastest channel are."""
    steps = [float(np.median(np.diff(c.time_s))) for c in channels.values() if len(c.time_s) > 3]
    step_s = min((s for s in steps if s > 0), default=1.0)
    if step_s <= SLOWEST_S or _mean_speed(channels) > STROLL_MPS:
        return channels
    unit, factor = next((u for u in TIME_UNITS if step_s * u[1] <= SLOWEST_S), TIME_UNITS[-1])
    doubts.append(message("Times are {0:.0f} apart, so they are read as {1}. The column does not say so.", step_s, unit))
    return {n: Channel(c.time_s * factor, c.value) for n, c in channels.items()}


def _mean_speed(channels: Channels) -> float:
    """The mean speed that the positions show, m/s, 0 where there are none."""
    if not _has_positions(channels):
        return 0.0
    lat, lon = channels["lat_rad"], channels["lon_rad"]
    return float(np.hypot(*_steps(lat.value, lon.value)).sum() / max(float(np.ptp(lat.time_s)), 1e-9))


def _longest_part(channels: Channels, time_s: Floats, leaps: NDArray[np.intp]) -> Channels:
    """What lies in the longest part between two ``leaps`` of a clock, with a second on either side."""
    ends = np.concatenate([[-1], leaps, [len(time_s) - 1]])
    longest = int(np.argmax(np.diff(ends)))
    part = time_s[ends[longest] + 1 : ends[longest + 1] + 1]
    first, last = float(part.min()) - 1.0, float(part.max()) + 1.0
    within = {n: _only(c, (c.time_s >= first) & (c.time_s <= last)) for n, c in channels.items()}
    return {n: c for n, c in within.items() if len(c.time_s)}


def _one_clock(channels: Channels, doubts: list[Message], name: str) -> Channels:
    """What lies between two leaps of the clock, the longest such part; bounded, so that no grid outgrows the machine."""
    main = channels.get("lat_rad") or channels.get("speed_mps")
    if main is None or len(main.time_s) < 2:
        return channels
    leaps = np.flatnonzero(np.abs(np.diff(main.time_s)) > LEAP_S)
    if len(leaps):
        channels = _longest_part(channels, main.time_s, leaps)
        doubts.append(
            counted(
                "The clock leaps once by more than an hour; the longer part was used.",
                "The clock leaps {0} times by more than an hour; the longest part between two leaps was used.",
                len(leaps),
            )
        )
    first = min(float(c.time_s.min()) for c in channels.values())
    last = max(float(c.time_s.max()) for c in channels.values())
    if last - first > LONGEST_S:
        raise UnusableRecording(
            message("it runs over {0:.0f} hours", (last - first) / 3600),
            mend="export the run alone, and check the unit of the time column",
            where=name,
        )
    return channels


def _bounded(channels: Channels, doubts: list[Message], _name: str) -> Channels:
    """The channels without values that nothing in a car can have."""
    out = dict(channels)
    for name, kind in CHANNELS.items():
        most = kind.most
        if name not in out or most is None:
            continue
        good = np.abs(out[name].value) <= most
        if good.all():
            continue
        lost = int(np.count_nonzero(~good))
        doubts.append(message("{0} values are beyond all measure and were left out: {1}.", lost, kind.words))
        out[name] = _only(out[name], good)
        if len(out[name].time_s) < 4:
            del out[name]
    return out


def _with_positions(channels: Channels, kept: NDArray[np.bool_]) -> Channels:
    return {n: _only(c, kept) if n in ("lat_rad", "lon_rad") else c for n, c in channels.items()}


def _has_positions(channels: Channels) -> bool:
    lat, lon = channels.get("lat_rad"), channels.get("lon_rad")
    return lat is not None and lon is not None and len(lat.time_s) == len(lon.time_s) >= LEAST_POSITIONS


def _at_nought(channels: Channels, doubts: list[Message], _name: str) -> Channels:
    """The positions without those at 0°, 0°: a receiver that does not know where it is."""
    if not _has_positions(channels):
        return channels
    nought = (np.abs(channels["lat_rad"].value) < 1e-6) & (np.abs(channels["lon_rad"].value) < 1e-6)
    if not nought.any():
        return channels
    doubts.append(counted("1 position at 0°, 0° was left out.", "{0} positions at 0°, 0° were left out.", int(np.count_nonzero(nought))))
    return _with_positions(channels, ~nought)


def _on_the_globe(channels: Channels, doubts: list[Message], _name: str) -> Channels:
    """The positions without a few that are nowhere on the globe: one such says nothing of the others. Where most are, their columns are
    others than their names say."""
    if not _has_positions(channels):
        return channels
    wild = (np.abs(channels["lat_rad"].value) > np.pi / 2) | (np.abs(channels["lon_rad"].value) > 2 * np.pi)
    if not wild.any() or wild.mean() > MOST_LEAPS:
        return channels
    doubts.append(
        counted("1 position outside the globe was left out.", "{0} positions outside the globe were left out.", int(np.count_nonzero(wild)))
    )
    return _with_positions(channels, ~wild)


def _frozen(channels: Channels, doubts: list[Message], _name: str) -> Channels:
    """The positions without those that a receiver says again and again while it knows no better: it goes on somewhere else, which a car
    that stands does not. What is left is a hole."""
    if not _has_positions(channels):
        return channels
    lat, lon = channels["lat_rad"], channels["lon_rad"]
    same = (np.diff(lat.value) == 0) & (np.diff(lon.value) == 0)
    edges = np.flatnonzero(np.diff(np.concatenate([[0], same.astype(np.int8), [0]])))
    metres = np.hypot(*_steps(lat.value, lon.value))
    usual_m = float(np.percentile(metres[~same], USUALLY)) if (~same).any() else 0.0
    kept = np.ones(len(lat.value), dtype=bool)
    frozen_s = 0.0
    for first, end in zip(edges[::2], edges[1::2], strict=True):
        seconds = float(lat.time_s[end] - lat.time_s[first])
        on_m = float(metres[end]) if end < len(metres) else 0.0
        if seconds > FROZEN_S and on_m > WENT_ON_M + 2.0 * usual_m:
            kept[first + 1 : end + 1] = False
            frozen_s += seconds
    if kept.all():
        return channels
    doubts.append(message("The position stays the same for {0:.0f} s while the car goes on; it was left out there.", frozen_s))
    return _with_positions(channels, kept)


def _steps(lat: Floats, lon: Floats) -> tuple[Floats, Floats]:
    """East and north from each position to the next, metres, (n - 1,)."""
    turn = np.diff(lon)
    turn = (turn + np.pi) % (2 * np.pi) - np.pi
    return turn * np.cos(0.5 * (lat[1:] + lat[:-1])) * EARTH_M, np.diff(lat) * EARTH_M


def _swapped(channels: Channels, doubts: list[Message], _name: str) -> Channels:
    """Latitude and longitude in each other's place, told by the speed, or since no latitude is beyond 90°."""
    if not _has_positions(channels):
        return channels
    lat, lon = channels["lat_rad"], channels["lon_rad"]
    beyond = bool(np.median(np.abs(lat.value)) > np.pi / 2) and bool(np.all(np.abs(lon.value) <= np.pi / 2))
    speed = channels.get("speed_mps")
    if not beyond and speed is not None and np.all(np.abs(lon.value) < np.pi / 2):
        off = [_speeds_apart(speed, lat.time_s, a, b) for a, b in ((lat.value, lon.value), (lon.value, lat.value))]
        # Units of a speed are checked elsewhere; here one of the two readings must fit, and the other not.
        beyond = off[1] < FITS < off[0] and off[0] > CLEARLY * off[1]
    if not beyond:
        return channels
    doubts.append(message("Latitude and longitude are swapped; they were put right."))
    return {**channels, "lat_rad": lon, "lon_rad": lat}


def _speeds_apart(speed: Channel, time_s: Floats, lat: Floats, lon: Floats) -> float:
    """How far the speeds that positions show, step by step, are from the recorded ones: the median, as a share."""
    seconds = np.maximum(np.diff(time_s), LEAST_STEP_S)
    shown = np.hypot(*_steps(lat, lon)) / seconds
    said = np.interp(0.5 * (time_s[1:] + time_s[:-1]), speed.time_s, speed.value)
    moving = (said > MOVES_MPS) & (seconds < USUAL_STEPS * np.median(seconds))
    return float(np.median(np.abs(shown[moving] / said[moving] - 1.0))) if moving.sum() > LEAST_POSITIONS else 0.0


def _leaps(channels: Channels, doubts: list[Message], name: str) -> Channels:
    """The positions without those that no car could have come to; refused where there are many."""
    if not _has_positions(channels) or np.any(np.diff(channels["lat_rad"].time_s) < 0):
        # A clock that goes back is another fault, and told elsewhere.
        return channels
    count = len(channels["lat_rad"].time_s)
    left_out = 0
    for _ in range(LEAP_ROUNDS):
        lat, lon = channels["lat_rad"], channels["lon_rad"]
        far = np.hypot(*_steps(lat.value, lon.value)) > FASTEST_MPS * np.maximum(np.diff(lat.time_s), 0.0) + NOISE_M
        alone = np.concatenate([[False], far[:-1] & far[1:], [False]])
        alone[0], alone[-1] = far[0] and not far[1:2].any(), far[-1] and not far[-2:-1].any()
        if not alone.any():
            break
        left_out += int(np.count_nonzero(alone))
        channels = _with_positions(channels, ~alone)
        if not _has_positions(channels):
            break
    lat, lon = channels["lat_rad"], channels["lon_rad"]
    metres = np.hypot(*_steps(lat.value, lon.value))
    far = metres > FASTEST_MPS * np.maximum(np.diff(lat.time_s), 0.0) + NOISE_M
    if left_out + np.count_nonzero(far) > max(FEW_LEAPS, MOST_LEAPS * count):
        raise UnusableRecording(
            message("its positions leap about, by up to {0:.1f} km at once", km(max(metres.max(initial=0.0), 1.0))),
            mend="check the latitude and longitude columns and the unit of time",
            where=name,
        )
    if left_out:
        doubts.append(
            counted(
                "1 position that no car could have reached was left out.",
                "{0} positions that no car could have reached were left out.",
                left_out,
            )
        )
    return channels


def _course_unit(channels: Channels, doubts: list[Message], _name: str) -> Channels:
    """A course in degrees that is called radians, or the other way round: a whole turn tells."""
    course = channels.get("course_rad")
    if course is None or not _has_positions(channels):
        return channels
    most = float(np.abs(course.value).max())
    if most > RADIANS_WITHIN:
        doubts.append(message("The course runs to {0:.0f}, so it is read as degrees. Its column does not say so.", most))
        return {**channels, "course_rad": replace(course, value=np.radians(course.value))}
    east, north = _steps(channels["lat_rad"].value, channels["lon_rad"].value)
    moves = np.hypot(east, north) > 1.0
    turned = float(np.ptp(np.unwrap(np.arctan2(east, north)[moves]))) if moves.any() else 0.0
    if most < np.radians(2.0 * np.pi) * A_LITTLE_OVER and turned > 1.0 and float(np.ptp(course.value)) > 0.0:
        doubts.append(message("The course never passes 6.3, so it is read as radians. Its column does not say so."))
        return {**channels, "course_rad": replace(course, value=np.degrees(course.value))}
    return channels


def _mirrored(channels: Channels, doubts: list[Message], _name: str) -> Channels:
    """A minus lost from latitude or longitude mirrors the road: told by the course or the yaw rate, and put right."""
    if not _has_positions(channels):
        return channels
    lat, lon = channels["lat_rad"], channels["lon_rad"]
    apart = samples_in(lat.time_s, 1.0)
    east, north = _steps(lat.value[::apart], lon.value[::apart])
    middle_s = 0.5 * (lat.time_s[::apart][1:] + lat.time_s[::apart][:-1])
    moving = np.hypot(east, north) > TURNS_ABOVE_MPS * np.maximum(np.diff(lat.time_s[::apart]), LEAST_STEP_S)
    if np.count_nonzero(moving) < LEAST_MOVING or "course_rad" not in channels:
        return channels
    course = channels["course_rad"]
    said = np.interp(middle_s[moving], course.time_s, np.unwrap(course.value))

    def off(east_sign: float, north_sign: float) -> float:
        shown = np.arctan2(east_sign * east[moving], north_sign * north[moving])
        return float(np.median(np.abs((said - shown + np.pi) % (2 * np.pi) - np.pi)))

    as_is, lost = off(1, 1), {"longitude": off(-1, 1), "latitude": off(1, -1)}
    best = min(lost, key=lambda which: lost[which])
    if as_is < max(CLEARLY * lost[best], TURNED) or lost[best] > TURNED:
        return channels
    doubts.append(message("The {0} has lost its minus, by the recorded course; it was put back.", best))
    wrong = "lon_rad" if best == "longitude" else "lat_rad"
    return {**channels, wrong: replace(channels[wrong], value=-channels[wrong].value)}
