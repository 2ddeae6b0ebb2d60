"""What the sound's clock reads more than the recording's: found roughly by the calls, and to a tenth of a second by the noise of the car.

The calls alone can't part the clock from the crew's lead: all said half a second earlier looks like a clock half a second off. The noise
can: engine, gravel and wind rise with speed, so the loudness of what is no voice follows the recorded speed, and fits it best at the true
offset.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from mirkle.core.audio.calls import COARSE, USUAL_LEAD_S, Due, coarser
from mirkle.core.audio.lengths import Rate
from mirkle.core.audio.segments import Activity, log_probability
from mirkle.core.recording.model import Floats

# Largest offset between the sound and the recording (s).
MOST_APART_S = 3600.0
# How many candidate offsets are tried, and how far apart they have to be (s).
CANDIDATES, APART_S = 12, 1.5
# Right ones led by 17 to 70 nats, save for one of 12; the one that was wrong, at 5 dB, by 13.
AHEAD = 15.0
# Two that lie no further apart than this are one, with the crew's lead between them.
NEARLY_S = 2.5
# About the offset that the calls show, this far either way, in such steps.
LOOK_S, STEP_S = 4.0, 0.05
# Between two words the noise is bare: the quieter third of half a second.
BARE_FRAMES, BARE_PERCENT = 15, 30
# The noise tells the clock where its residual at the best offset is below this share of the usual one.
TELLS = 0.8
BY_NOISE_S, BY_CALLS_S = 0.2, 0.5


@dataclass(frozen=True)
class SoundClock:
    """``sound_minus_run_s`` give or take ``uncertainty_s``, told by the ``noise`` or only by the ``calls``."""

    sound_minus_run_s: float
    uncertainty_s: float
    by: str


def sound_clock(
    activity: Activity, loud_db: Floats, syllables: Floats, place_s: Floats, time_s: Floats, speed_mps: Floats
) -> SoundClock | None:
    """The offset between sound and recording; ``None`` where another would do nearly as well, since then nothing may rest on it.

    Parameters
    ----------
    loud_db : the loudness of the sound in each frame of ``activity``, (frames,)
    place_s : when the car came to each note's place, on the recording's clock, nan where unknown, (notes,)
    time_s, speed_mps : the drive on the recording's clock, (samples,)
    """
    # Here and not above: only a sound needs it, and importing it takes a third of a second.
    from scipy.ndimage import percentile_filter

    (probable, rough), *others = _by_calls(activity, syllables, place_s)
    ahead, other = next(((probable - log, at) for log, at in others if abs(at - rough) > NEARLY_S), (np.inf, rough))
    bare = percentile_filter(loud_db, BARE_PERCENT, size=BARE_FRAMES)
    offset, left, usual = _by_noise(bare, activity.frame_s, rough, time_s, speed_mps)
    clear = np.isfinite(offset) and left < TELLS * usual
    if ahead < AHEAD:
        # The calls leave two: the noise has to speak for the first and for no other moment near the second.
        there, left_there, _ = _by_noise(bare, activity.frame_s, other, time_s, speed_mps)
        clear = clear and (np.isnan(there) or abs(there - offset) < 2 * BY_NOISE_S or left < TELLS * left_there)
        if not clear:
            return None
    return SoundClock(offset, BY_NOISE_S, "noise") if clear else SoundClock(rough, BY_CALLS_S, "calls")


def _by_noise(bare: Floats, frame_s: float, about: float, time_s: Floats, speed_mps: Floats) -> tuple[float, float, float]:
    """The offset near another at which speed explains the loudness best, nan where that is at the edge; what it leaves unexplained there,
    and usually."""
    at = (np.arange(len(bare)) + 0.5) * frame_s
    offsets = about + np.arange(-LOOK_S, LOOK_S + STEP_S / 2, STEP_S)
    left = np.array([_unexplained(bare, at - o, time_s, speed_mps) for o in offsets])
    best = int(np.argmin(left))
    inside = 0 < best < len(left) - 1
    return float(offsets[best]) if inside else np.nan, float(left[best]), float(np.median(left))


def _by_calls(activity: Activity, syllables: Floats, place_s: Floats) -> list[tuple[float, float]]:
    """The offsets at which the stretches that should be calls, were the crew's lead the usual one, lie best on those with a voice, each
    with the logarithm of how probable the whole sound is under it, the most probable first.

    Calls come at so even a pace that they may lie nearly as well on their neighbours' places: that alone would choose wrongly.
    """
    from scipy.fft import irfft, next_fast_len, rfft

    seconds = Rate().seconds(syllables)
    halved = coarser(activity, 2)
    step, half = halved.frame_s, len(halved.evidence)
    heard = halved.evidence - halved.evidence.mean()
    known = np.isfinite(place_s)
    begin = place_s[known] - USUAL_LEAD_S
    base = float(begin.min()) - 60.0
    calls = np.zeros(int((float(begin.max()) - base + 60.0) / step))
    for first, lasts in zip(((begin - base) / step).astype(int), np.maximum(seconds[known] / step, 1).astype(int), strict=True):
        calls[first : first + lasts] = 1.0
    size = next_fast_len(half + len(calls))
    fit = irfft(rfft(heard, size) * np.conj(rfft(calls, size)), size)
    shift = np.arange(size)
    shift = np.where(shift > half, shift - size, shift)
    offset = shift * step - base
    fit[np.abs(offset) >= MOST_APART_S] = -np.inf
    coarse = coarser(activity, COARSE)
    tried: list[tuple[float, float]] = []
    for _ in range(CANDIDATES):
        at = float(offset[int(np.argmax(fit))])
        due = Due(place_s + at, np.zeros(len(place_s)), len(coarse.evidence), coarse.frame_s)
        tried.append((log_probability(coarse, syllables, Rate(), due.begins()), at))
        fit[np.abs(offset - at) < APART_S] = -np.inf
    return sorted(tried, reverse=True)


def _unexplained(bare: Floats, run_s: Floats, time_s: Floats, speed_mps: Floats) -> float:
    """The mean square of the loudness that speed does not explain, by a line in it and in its logarithm."""
    inside = (run_s > time_s[0]) & (run_s < time_s[-1])
    if inside.sum() < 200:
        return np.inf
    speed = np.interp(run_s[inside], time_s, speed_mps)
    by = np.stack([np.ones(len(speed)), np.log1p(np.maximum(speed, 0.0)), speed], axis=1)
    loud = bare[inside]
    fitted, *_ = np.linalg.lstsq(by, loud, rcond=None)
    return float(np.mean((loud - by @ fitted) ** 2))
