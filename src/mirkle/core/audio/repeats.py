"""Whether speech that no note explains is the note before it said again: by how alike the two sound, in any language and any words.

A voice that says the same words again says nearly the same sounds, quicker or slower. So the two stretches are laid on each other by
dynamic time warping over their cepstra (Sakoe and Chiba, IEEE Transactions on Acoustics, Speech and Signal Processing 26, 1978), and what
that costs is held against what it costs to lay the speech on other calls of this stage: the same voice in the same noise, other words.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from mirkle.core.audio.calls import HeardCall, Listening
from mirkle.core.audio.segments import AGAIN_WITHIN_S
from mirkle.core.recording.model import Floats
from mirkle.core.stats import robust_sd

# A repeat is nearer to its note than to all but this many other calls (the same words stand elsewhere in a book), by this many spreads;
# how many calls it is compared with, and the fewest.
NEARER_THAN_ALL_BUT, NEARER_BY, OTHER_CALLS, LEAST_CALLS = 1, 1.7, 40, 8
# Only calls that are so sure tell what others sound like.
TELLS = 0.8


def repeats_told(found: Listening, cepstra: Floats, step_s: float) -> Listening:
    """What was heard, with speech that is the note before it said again taken for that; ``cepstra`` are (steps, k), one every
    ``step_s``."""
    sure = [c for c in found.calls if c.was_heard and c.sure > TELLS]
    if len(sure) < LEAST_CALLS + 1:
        return found
    sounds = {c.note: _stretch(cepstra, c.from_s, c.to_s, step_s) for c in sure}
    again, others = list(found.again), []
    for from_s, to_s in found.others:
        speech = _stretch(cepstra, from_s, to_s, step_s)
        before = _before(found.calls, from_s)
        if before is not None and _is_alike(speech, before, sounds, cepstra, step_s):
            again.append((before.note, from_s))
        else:
            others.append((from_s, to_s))
    return replace(found, again=tuple(sorted(again, key=lambda a: a[1])), others=tuple(others))


def _before(calls: Sequence[HeardCall], from_s: float) -> HeardCall | None:
    """The last call before a moment, where it is not too long ago to be said again."""
    before = [c for c in calls if c.was_heard and c.from_s < from_s and from_s - c.to_s < AGAIN_WITHIN_S]
    return before[-1] if before else None


def _is_alike(speech: Floats, call: HeardCall, sounds: dict[int, Floats], cepstra: Floats, step_s: float) -> bool:
    own = warped(speech, _stretch(cepstra, call.from_s, call.to_s, step_s))
    # The nearest in the book are said by the same voice at the same pace.
    near = sorted((n for n in sounds if n != call.note), key=lambda n: abs(n - call.note))[:OTHER_CALLS]
    rest = np.array([warped(speech, sounds[n]) for n in near])
    spread = robust_sd(rest)
    nearest = int((rest < own).sum()) <= NEARER_THAN_ALL_BUT
    return nearest and float(np.median(rest)) - own > NEARER_BY * max(spread, 1e-9)


def _stretch(cepstra: Floats, from_s: float, to_s: float, step_s: float) -> Floats:
    """A stretch of sound without what is the same all through it: the noise, and the way of the microphone."""
    first = int(from_s / step_s)
    piece: Floats = cepstra[first : max(int(to_s / step_s), first + 4)]
    if not len(piece):
        return np.zeros((1, cepstra.shape[1]))
    level: Floats = piece.mean(axis=0)
    return piece - level


def warped(a: Floats, b: Floats) -> float:
    """What it costs to lay one stretch on another, (n, k) on (m, k): the least sum of distances along a way that goes on in both, a step of
    both at a time or of one, by the length of both."""
    apart = np.sqrt(((a[:, None, :] - b[None, :, :]) ** 2).sum(axis=2))
    n, m = apart.shape
    # By diagonals: what lies on one depends on the two before it only.
    before, last = np.full(n + 1, np.inf), np.full(n + 1, np.inf)
    last[0] = 0.0
    for diagonal in range(n + m - 1):
        rows = np.arange(max(0, diagonal - m + 1), min(n, diagonal + 1))
        now = np.full(n + 1, np.inf)
        best = np.minimum(np.minimum(last[rows], last[rows + 1]), before[rows])
        now[rows + 1] = apart[rows, diagonal - rows] + best
        before, last = last, now
        if diagonal == 0:
            before = np.full(n + 1, np.inf)
    return float(last[n] / (n + m))
