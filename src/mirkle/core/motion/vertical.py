"""What the car met in the vertical: jumps, crests, dips and bumps, from the vertical accelerometer.

A road of vertical curvature k felt at speed v gives a_z = g + k v^2, so the ground's change of slope over a stretch is
the integral of (a_z - g)/v over time: shake averages out of it, and speed drops out. Sixteen metres is about the length
of a crest that a crew calls. In the air the accelerometer reads nothing, and quietly: there is no gravel under the wheels.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mirkle.core.constants import GRAVITY_MPS2
from mirkle.core.messages import gettext_noop
from mirkle.core.motion.driven_line import DrivenLine
from mirkle.core.recording.model import Floats, Recording
from mirkle.core.stats import NORMAL_MAD

# Below this the car is in the air; the threshold that leaves no bias in air time is 0.4 g, and 0.3 g must be reached.
AIRBORNE_G, SURELY_AIRBORNE_G, LANDING_G = 0.4, 0.3, 1.25
# A hop of an eighth of a second lifts the wheels by two centimetres: a bump to a crew.
SHORTEST_FLIGHT_S, LANDING_WITHIN_S = 0.14, 0.3
# Falling freely the three axes together read less than this, and this on the mean.
FALLING_G, SURELY_FALLING_G = 0.5, 0.31
# Shake alone never gives a fall this long (s), nor a load this small (g).
LONG_FALL_S, NEARLY_NOTHING_G = 0.3, 0.15
# On the ground gravel shakes the car; in the air only the sensor's own noise is left.
QUIET_SHARE = 0.55
# A crest or dip turns the ground by this much over the length. # common practice: about a 300 m vertical radius
OVER_M, CREST_RAD, DIP_RAD = 16.0, 0.05, 0.05
# Slowly driven, shake turns the ground by more: its error goes with speed to the power -3/2.
SHAKE_RAD, AT_MPS = 0.022, 25.0
LIP_M = 6.0
# The noise of the vertical is read between these frequencies (Hz): above a crest, below the wheels; over this time (s).
NOISE_FROM_HZ, NOISE_TO_HZ, NOISE_OVER_S = 4.0, 10.0, 2.0
# How wide the band between two Gaussian low-passes is: the integral of the square of their difference, which is
# sqrt(pi / ln 2) / 2 * (10 + 4) - sqrt(pi) / sqrt(ln 2 / 2 * (1 / 10^2 + 1 / 4^2)).
BAND_HZ = 3.72
# A crest stands out by this many deviations of what noise alone, and this offset (m/s²), would turn the ground by.
OUT_OF_NOISE, OFFSET_MPS2 = 4.0, 0.2
# Where noise alone turns the ground by this much over the length of a crest, none can be told from it.
MOST_NOISE_RAD = 0.016
# A bump goes up and down within this length (m), by these loads (g), and by this many times the shake around it. It leaves the slope
# nearly as it was: its largest turn (rad).
MOST_OF_A_BUMP_RAD = 0.075
BUMP_WITHIN_M, BUMP_UP_G, BUMP_DOWN_G, BUMP_OVER_SHAKE = 6.0, 0.42, 0.3, 5.0
ROLLING_MPS = 6.0
# Mounting, temperature and long slopes move the sensor's 1 g: the level is averaged over this time (s).
LEVEL_OVER_S = 8.0
# Cut-off of the load (Hz): the springs and not the wheels. The rest is shake, averaged over this time to either side (s).
LOAD_HZ, SHAKE_HALF_S = 10.0, 0.17
# A Gaussian of this width (seconds times hertz) halves the power at its frequency, sqrt(ln 2) / (2 pi); it is cut off after this many
# widths.
GAUSSIAN_HALF_POWER, CUT_OFF_WIDTHS = 0.1325, 4
# What a sensor reads with no ground under the wheels, g. # from memory
SENSOR_NOISE_G = 0.03
# The drop of a bump stands out of the shake by this share of its rise; half its length (m); the distance within which its neighbours
# lie (samples).
DROP_SHARE, BUMP_HALF_M, BUMP_SAMPLES = 0.6, 3.0, 100
# Shake turns the ground with this power of the speed; a landing or a crest is no noise, and lasts less than half of this many windows.
SHAKE_POWER, WINDOWS = 1.5, 3
# Slower samples than this show no flight.
SLOWEST_HZ = 20.0
APART_M, AFTER_LANDING_M = 18.0, 30.0
# A fall is quiet except at its ends (s); a crest or dip is felt over this share of its length, with shake above this frequency removed
# (Hz); what unloads a car to no less than this (g) is none. # from training worlds
EDGE_S, THROUGHOUT, SHAKE_HZ, UNLOADED_G = 0.03, 0.7, 4.0, 0.95


@dataclass(frozen=True)
class Feature:
    """One thing in the vertical, by metres from the start line.

    ``kind`` is ``jump``, ``crest``, ``dip`` or ``bump``. ``air_s`` is the flight of a jump. ``radius_m`` is the vertical
    radius of a crest or dip. ``least_g`` is the least load felt (1 standing still), and ``takeoff_mps`` the speed above
    which this car would leave the ground on this crest: v / sqrt(1 - load), from a_z = g (1 - v^2 / (g R)).
    """

    kind: str
    from_m: float
    to_m: float
    at_m: float
    speed_mps: float
    air_s: float | None
    radius_m: float | None
    least_g: float
    takeoff_mps: float | None
    turned_rad: float | None = None
    turned_sd_rad: float = 0.0


@dataclass(frozen=True)
class Vertical:
    """What the vertical accelerometer shows: the features in order, and for each metre the load felt, in g, and whether shake
    hides crests and dips there; both (n,)."""

    features: tuple[Feature, ...]
    load_g: Floats
    shaken: NDArray[np.bool_]


@dataclass(frozen=True)
class _Felt:
    """The vertical accelerometer on an even grid, in g, with speed and place; all (n,).

    ``norm_g`` is the length of all three axes, ``None`` where one was not recorded.
    """

    step_s: float
    load_g: Floats
    smooth_g: Floats
    speed_mps: Floats
    place_m: Floats
    norm_g: Floats | None


def vertical_of(recording: Recording, path: DrivenLine, start_m: float, end_m: float) -> Vertical | None:
    """What is in the vertical between two places on the path; places count from ``start_m``. ``None`` where nothing shows it."""
    if not recording.has("acc_z_mps2") or recording.channels["acc_z_mps2"].rate_hz < SLOWEST_HZ:
        return None
    felt = _felt(recording, path, start_m)
    place, metres = np.maximum.accumulate(felt.place_m), np.arange(0.0, end_m - start_m, 1.0)
    noise = noise_rad(felt)
    features = tuple(f for f in _features(felt, place, noise) if 0.0 <= f.at_m <= end_m - start_m)
    load = np.interp(metres, place, felt.smooth_g)
    return Vertical(features, load, np.interp(metres, place, noise) > MOST_NOISE_RAD)


def _features(felt: _Felt, place_m: Floats, noise: Floats) -> list[Feature]:
    """Everything in the vertical, in order."""
    jumps = _with_free_falls(felt, _jumps(felt))
    taken = [(j.from_m - APART_M, j.to_m + AFTER_LANDING_M) for j in jumps]
    turned = _turned(felt)
    bent = _over(felt, turned, OVER_M)
    bumps = [b for b in _bumps(felt, taken) if abs(np.interp(b.at_m, place_m, bent)) < MOST_OF_A_BUMP_RAD]
    taken += [(b.at_m - OVER_M, b.at_m + OVER_M) for b in bumps]
    curves = [c for kind in (gettext_noop("crest"), gettext_noop("dip")) for c in _curves(felt, turned, noise, kind, taken)]
    return sorted([*jumps, *curves, *bumps], key=lambda f: f.at_m)


def _felt(recording: Recording, path: DrivenLine, start_m: float) -> _Felt:
    channel = recording.channels["acc_z_mps2"]
    step_s = float(np.median(np.diff(channel.time_s)))
    time_s = np.arange(max(channel.time_s[0], path.time_s[0]), min(channel.time_s[-1], path.time_s[-1]), step_s)
    load = np.interp(time_s, channel.time_s, channel.value) / GRAVITY_MPS2
    speed = np.interp(time_s, path.time_s, path.speed_mps)
    load = load - (_slowly(load, max(1, round(LEVEL_OVER_S / step_s))) - 1.0)
    place = np.interp(time_s, path.time_s, path.distance_m) - start_m
    norm = None
    if recording.has("acc_x_mps2", "acc_y_mps2"):
        axes = [recording.channels[n] for n in ("acc_x_mps2", "acc_y_mps2", "acc_z_mps2")]
        norm = np.sqrt(sum(np.interp(time_s, c.time_s, c.value) ** 2 for c in axes)) / GRAVITY_MPS2
    return _Felt(step_s, load, low_passed(load, LOAD_HZ, step_s), speed, place, norm)


def low_passed(values: Floats, cut_hz: float, step_s: float) -> Floats:
    """A Gaussian low-pass with no delay, half its power gone at ``cut_hz``, (n,)."""
    sigma = GAUSSIAN_HALF_POWER / cut_hz / step_s
    half = int(CUT_OFF_WIDTHS * sigma) + 1
    kernel = np.exp(-0.5 * (np.arange(-half, half + 1) / sigma) ** 2)
    padded = np.pad(values, half, mode="edge")
    return np.convolve(padded, kernel / kernel.sum(), mode="valid")


def _slowly(values: Floats, half: int) -> Floats:
    """The median of blocks, joined by straight lines: what the values are on the whole, (n,)."""
    size = min(2 * half, max(1, len(values) // 2))
    count = len(values) // size
    middles = np.median(values[: count * size].reshape(count, size), axis=1)
    centres = (np.arange(count) + 0.5) * size
    return np.asarray(np.interp(np.arange(len(values)), centres, middles))


def _runs(mask: NDArray[np.bool_]) -> list[tuple[int, int]]:
    edges = np.flatnonzero(np.diff(np.concatenate([[0], mask.astype(np.int8), [0]])))
    return [(int(a), int(b)) for a, b in zip(edges[0::2], edges[1::2], strict=True)]


def _shake(felt: _Felt) -> Floats:
    """The root mean square of what the low-pass takes away, over a third of a second, (n,)."""
    rough = (felt.load_g - felt.smooth_g) ** 2
    half = max(1, round(SHAKE_HALF_S / felt.step_s))
    return np.sqrt(np.convolve(np.pad(rough, half, mode="edge"), np.ones(2 * half + 1) / (2 * half + 1), mode="valid"))


def _jumps(felt: _Felt) -> list[Feature]:
    rolling = felt.speed_mps > ROLLING_MPS
    usual_shake = _usual_shake(felt)
    found = []
    for first, end in _runs((felt.smooth_g < AIRBORNE_G) & rolling):
        air_s = _crossing(felt.smooth_g, end - 1, end) - _crossing(felt.smooth_g, first - 1, first)
        air_s *= felt.step_s
        edge = max(1, round(EDGE_S / felt.step_s))
        landing = felt.smooth_g[end : end + round(LANDING_WITHIN_S / felt.step_s)]
        quiet = _quiet(felt, first + edge, end - edge, usual_shake)
        if air_s < SHORTEST_FLIGHT_S or felt.smooth_g[first:end].min() > SURELY_AIRBORNE_G:
            continue
        if not quiet or not len(landing) or landing.max() < LANDING_G:
            continue
        if felt.norm_g is not None and float(np.median(felt.norm_g[first + edge : end - edge])) > FALLING_G:
            # Light, but not falling: the sideways axes still feel the road.
            continue
        speed = float(felt.speed_mps[first])
        found.append(
            Feature(
                "jump",
                float(felt.place_m[first]),
                float(felt.place_m[end]),
                float(felt.place_m[first]),
                speed,
                float(air_s),
                None,
                float(felt.smooth_g[first:end].min()),
                None,
            )
        )
    return found


def _usual_shake(felt: _Felt) -> float:
    """What this car is usually shaken by on this stage while it rolls, in g."""
    rolling = felt.speed_mps > ROLLING_MPS
    return float(np.median(_shake(felt)[rolling])) if rolling.any() else 0.0


def _quiet(felt: _Felt, first: int, end: int, usual_shake: float) -> bool:
    """Whether the sensor is as still as it is with no ground under the wheels."""
    inside = felt.load_g[first:end]
    return len(inside) > 1 and float(np.std(inside)) < max(QUIET_SHARE * usual_shake, SENSOR_NOISE_G)


def _with_free_falls(felt: _Felt, jumps: list[Feature]) -> list[Feature]:
    """The jumps with those that only all three axes show.

    In free fall an accelerometer reads nothing, however its box is turned: the length of the three axes stands near nought
    from the lip to the landing. On the ground gravity is in it, and shake adds to it.
    """
    if felt.norm_g is None:
        return jumps
    found, usual_shake = list(jumps), _usual_shake(felt)
    low = felt.norm_g < FALLING_G
    # One sample that a sensor rings does not end a flight.
    low[1:-1] |= low[:-2] & low[2:] & (felt.norm_g[1:-1] < 2.0 * FALLING_G)
    for first, end in _runs(low & (felt.speed_mps > ROLLING_MPS)):
        from_m, to_m = float(felt.place_m[first]), float(felt.place_m[min(end, len(felt.place_m) - 1)])
        new = not any(j.from_m < to_m and j.to_m > from_m for j in found)
        if new and _falls(felt, felt.norm_g, first, end, usual_shake) and _lands(felt, end):
            air_s, least_g = float((end - first) * felt.step_s), float(felt.smooth_g[first:end].min())
            speed_mps = float(felt.speed_mps[first])
            found.append(Feature(gettext_noop("jump"), from_m, to_m, from_m, speed_mps, air_s, None, least_g, None))
    return sorted(found, key=lambda j: j.from_m)


def _falls(felt: _Felt, norm_g: Floats, first: int, end: int, usual_shake: float) -> bool:
    """Whether a stretch with hardly any load is a fall.

    Stillness speaks for a fall and does not decide it: a long one, or one that is nearly nothing, may ring.
    """
    air_s, mean_g = (end - first) * felt.step_s, float(norm_g[first:end].mean())
    if air_s < SHORTEST_FLIGHT_S or mean_g > SURELY_FALLING_G:
        return False
    if air_s > LONG_FALL_S or mean_g < NEARLY_NOTHING_G:
        return True
    edge = max(1, round(EDGE_S / felt.step_s))
    return _quiet(felt, first + edge, end - edge, usual_shake)


def _lands(felt: _Felt, end: int) -> bool:
    """Whether a landing is felt behind a fall; hard cornering is none: that is felt upright."""
    landing = felt.smooth_g[end : end + round(LANDING_WITHIN_S / felt.step_s)]
    return len(landing) > 0 and bool(landing.max() >= LANDING_G)


def _crossing(values: Floats, before: int, after: int) -> float:
    """Where between two samples the load passes :data:`AIRBORNE_G`, in samples."""
    if before < 0 or after >= len(values):
        return float(max(before, 0))
    step = values[after] - values[before]
    return before + (float((AIRBORNE_G - values[before]) / step) if step else 0.5)


def _turned(felt: _Felt) -> Floats:
    """The ground's change of slope since the start, in radians, (n,)."""
    rate = (felt.load_g - 1.0) * GRAVITY_MPS2 / np.maximum(felt.speed_mps, ROLLING_MPS)
    return np.concatenate([[0.0], np.cumsum(np.where(felt.speed_mps > ROLLING_MPS, rate, 0.0))[:-1]]) * felt.step_s


def _over(felt: _Felt, turned: Floats, metres: float) -> Floats:
    """The change of slope over a length about each place, (n,)."""
    place = np.maximum.accumulate(felt.place_m)
    ahead = np.interp(place + metres / 2, place, turned)
    return ahead - np.interp(place - metres / 2, place, turned)


def noise_rad(felt: _Felt) -> Floats:
    """What noise alone turns the ground by over the length of a crest: one standard deviation, in radians, (n,).

    With a (two-sided) density N of the vertical acceleration, its integral over the time T = L / v that a length L takes has
    the variance N T; divided by the speed it is the slope: sqrt(N L / v^3).
    """
    band = low_passed(felt.load_g, NOISE_TO_HZ, felt.step_s) - low_passed(felt.load_g, NOISE_FROM_HZ, felt.step_s)
    half = max(1, round(0.5 * NOISE_OVER_S / felt.step_s))
    padded = np.pad((band * GRAVITY_MPS2) ** 2, half, mode="edge")
    power = np.convolve(padded, np.ones(2 * half + 1) / (2 * half + 1), mode="valid")
    density = _slowly(power, WINDOWS * half) / (2.0 * BAND_HZ)
    return np.asarray(np.sqrt(density * OVER_M / np.maximum(felt.speed_mps, ROLLING_MPS) ** 3), dtype=float)


def _curves(felt: _Felt, turned: Floats, noise: Floats, kind: str, taken: list[tuple[float, float]]) -> list[Feature]:
    """The crests or the dips: where the ground turns by more than noise, shake and the least that counts, over the length of one."""
    sign, least = (-1.0, CREST_RAD) if kind == "crest" else (1.0, DIP_RAD)
    bent, lip = sign * _over(felt, turned, OVER_M), sign * _over(felt, turned, LIP_M)
    speed_mps = np.maximum(felt.speed_mps, ROLLING_MPS)
    by_noise = OUT_OF_NOISE * np.hypot(noise, OFFSET_MPS2 * OVER_M / speed_mps**2)
    clear = np.maximum.reduce([np.full(len(noise), least), SHAKE_RAD * (AT_MPS / speed_mps) ** SHAKE_POWER, by_noise])
    shown = (bent > clear) & (felt.speed_mps > ROLLING_MPS) & (noise <= MOST_NOISE_RAD)
    found: list[Feature] = []
    for first, end in _runs(shown):
        top = first + int(np.argmax(bent[first:end]))
        at_m = float(felt.place_m[top])
        near = any(a <= at_m <= b for a, b in taken) or (found and at_m - found[-1].at_m < APART_M)
        felt_g = _felt_about(felt, top)
        # Over a crest the load is low throughout; a bump beside it is not.
        if near or not len(felt_g) or float(np.mean(sign * (felt_g - 1.0) > 0)) < THROUGHOUT:
            continue
        radius = LIP_M / max(float(lip[top]), float(bent[top]) * LIP_M / OVER_M)
        speed, least_g = float(felt.speed_mps[top]), float(felt_g.min())
        takeoff = float(speed / np.sqrt(1.0 - least_g)) if kind == "crest" and least_g < UNLOADED_G else None
        turned_sd = float(by_noise[top]) / OUT_OF_NOISE
        found.append(
            Feature(
                kind, at_m - OVER_M / 2, at_m + OVER_M / 2, at_m, speed, None, float(radius), least_g, takeoff, float(bent[top]), turned_sd
            )
        )
    return found


def _felt_about(felt: _Felt, top: int) -> Floats:
    """The load over the length of a crest about a place, without shake, in g."""
    half = slice(max(0, top - round(0.5 / felt.step_s)), top + round(0.5 / felt.step_s))
    inside = np.abs(felt.place_m[half] - felt.place_m[top]) <= OVER_M / 2
    return np.asarray(low_passed(felt.load_g[half], SHAKE_HZ, felt.step_s)[inside])


def _bumps(felt: _Felt, taken: list[tuple[float, float]]) -> list[Feature]:
    rolling = felt.speed_mps > ROLLING_MPS
    away = felt.smooth_g - _slowly(felt.smooth_g, max(1, round(1.0 / felt.step_s)))
    spread = NORMAL_MAD * _slowly(np.abs(away), max(1, round(2.0 / felt.step_s)))
    found: list[Feature] = []
    for first, end in _runs((away > np.maximum(BUMP_UP_G, BUMP_OVER_SHAKE * spread)) & rolling):
        top = first + int(np.argmax(away[first:end]))
        at_m = float(felt.place_m[top])
        about = slice(max(0, top - BUMP_SAMPLES), top + BUMP_SAMPLES)
        near = np.abs(felt.place_m[about] - at_m) <= BUMP_WITHIN_M
        drop = -float(away[about][near].min())
        if drop < max(BUMP_DOWN_G, DROP_SHARE * BUMP_OVER_SHAKE * float(spread[top])) or any(a <= at_m <= b for a, b in taken):
            continue
        if found and at_m - found[-1].at_m < APART_M:
            continue
        found.append(
            Feature(
                gettext_noop("bump"), at_m - BUMP_HALF_M, at_m + BUMP_HALF_M, at_m, float(felt.speed_mps[top]), None, None, 1.0 - drop, None
            )
        )
    return found
