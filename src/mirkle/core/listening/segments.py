"""Where each note of the book was said, given only where in the sound there is a voice: a semi-Markov model, summed over all its ways.

A way through the sound takes the notes in the book's order. Between two notes it waits, and a stretch of voice may be a remark (at most
two between two notes, however long) or the note before said again. A note may be left out. What a way is worth is, in nats:

* for each frame within a note, a repeat or a remark, the evidence of a voice there (`Activity.evidence`, positive where there is one);
* for each note, the logarithm of the probability of its duration, log-normal about the one that its syllables take (`lengths.py`), and of
  its beginning, where something is known of that;
* a cost for each note left out, each repeat, each remark.

The sum over all ways, by the forward-backward recursions, gives for each note the probability that it began at each moment, and that it was
not said (Yu, Hidden semi-Markov models, Artificial Intelligence 174, 2010). Waiting costs nothing, so that a way idle at a moment is
one that became so at any time before: a running sum. That makes every step linear in the number of frames but the durations: what may end at a
moment is a convolution of what may have begun with how long it lasts.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from mirkle.core.listening.lengths import Rate
from mirkle.core.motion.recording import Floats

# What is left out, said again and remarked costs so many nats; a remark lasts so long on the mean.
LEFT_OUT, AGAIN, REMARK = 7.0, 4.0, 5.0
REMARK_S = 1.0
# A repeat comes soon after the note, or it would help nobody.
AGAIN_WITHIN_S = 6.0
MOST_REMARKS = 2
# Before the first note the book is read over, counted down, and wished well.
BEFORE_IT, MOST_BEFORE_IT = 2.0, 4
# Durations farther out than so many spreads are not tried.
SPREADS = 2.5
# So far beside where notes may begin remarks are still looked for.
BESIDE_S = 4.0
NEVER = -1e9
# Sums are taken over so many frames at a time: what is said within them differs by less than a number holds.
BLOCK = 64


@dataclass(frozen=True)
class Activity:
    """Evidence of a voice in each frame, in nats, positive where there is one: ``evidence`` (frames,), each ``frame_s`` long."""

    evidence: Floats
    frame_s: float


@dataclass(frozen=True)
class Begins:
    """What is known of a note's beginning: its log probability in each frame from ``first`` on; elsewhere it does not begin."""

    first: int
    log: Floats


@dataclass(frozen=True)
class Placed:
    """What all ways together say. ``begins[i]`` is the probability that note i began in each frame from ``first[i]`` on, the sum of which
    is that it was said at all; ``ends[i]`` likewise. ``again[i]`` is the probability that it was said again, in each frame from
    ``again_first[i]`` on; ``other`` that a frame belongs to a remark, (frames,)."""

    first: list[int]
    begins: list[Floats]
    ends_s: Floats
    again_first: list[int]
    again: list[Floats]
    other: Floats
    log_total: float

    @property
    def said(self) -> Floats:
        """The probability that each note was said, (notes,)."""
        return np.array([float(b.sum()) for b in self.begins])


def place(activity: Activity, syllables: Floats, rate: Rate, begins: list[Begins]) -> Placed:
    """Sums over all ways; ``begins`` and ``syllables`` run beside the notes.

    Behind each note only the stretch is looked at in which something may happen: from where the note before it may begin to where the one
    after the next may, and :data:`BESIDE_S` on either side. Outside of that weight waits.
    """
    frames, step = len(activity.evidence), activity.frame_s
    total = np.concatenate([[0.0], np.cumsum(activity.evidence)])
    # A remark's evidence less its cost a frame, so that it lasts a second or so.
    flowing = total - np.arange(frames + 1) * (step / REMARK_S)
    enter = -REMARK + np.log(step / REMARK_S)
    before_it = -BEFORE_IT + np.log(step / REMARK_S)
    again_cost = -AGAIN + np.log(step / AGAIN_WITHIN_S)
    count = len(begins)
    spans = [_durations(u, rate.spread, step) for u in np.log(rate.seconds(syllables))]
    bands = _bands(begins, frames, step)

    # Forward: how much weight is idle at each boundary between frames, behind note i; and what begins where.
    lo, hi = bands[0]
    before, within = _with_remarks(np.zeros(hi - lo + 1), flowing[lo : hi + 1], before_it, MOST_BEFORE_IT)
    idle, remarked = _Banded(lo, before), [within]
    starts: list[Floats] = []
    again_at: list[tuple[int, Floats]] = []
    for i in range(count):
        first, log = begins[i].first, begins[i].log
        last = first + len(log)
        inner = idle.within(first, last) + log - total[first:last]
        starts.append(inner)
        lo, hi = bands[i + 1]
        here, flows = total[lo : hi + 1], flowing[lo : hi + 1]
        waited = np.logaddexp.accumulate(_ended(inner, first, spans[i], lo, hi) + here)
        until = min(last + spans[i][0] + len(spans[i][1]) + round(AGAIN_WITHIN_S / step), hi + 1)
        begun = max(first, lo)
        again = waited[begun - lo : until - lo] - total[begun:until] + again_cost
        again_at.append((begun, again))
        waited = np.logaddexp(waited, np.logaddexp.accumulate(_ended(again, begun, spans[i], lo, hi) + here))
        waited, within = _with_remarks(waited, flows, enter, MOST_REMARKS)
        idle = _Banded(lo, np.logaddexp(waited, idle.within(lo, hi + 1) - LEFT_OUT))
        remarked.append(within)

    # Backward: what all that may follow is worth, from being idle behind note i on; `after` from its end on, with repeat and remarks.
    log_total = float(idle.values[-1])
    lo, hi = bands[count]
    follows = _Banded(lo, np.zeros(hi - lo + 1))
    placed_begins: list[Floats] = [np.zeros(0)] * count
    placed_again: list[Floats] = [np.zeros(0)] * count
    ends_s = np.full(count, np.nan)
    other = np.zeros(frames + 1)
    for i in range(count - 1, -1, -1):
        lo, hi = bands[i + 1]
        here = total[lo : hi + 1]
        rest, within = _remarks_then(follows.values, flowing[lo : hi + 1], enter, MOST_REMARKS)
        other[lo : hi + 1] += _both(remarked[i + 1], within, log_total)
        begun, again = again_at[i]
        back_again = _gather(rest + here, lo, begun, len(again), spans[i])
        placed_again[i] = np.exp(np.minimum(again + back_again - log_total, 0.0))
        # From the end of the note: nothing more, or said again.
        begun_again = np.full(hi - lo + 1, NEVER)
        begun_again[begun - lo : begun - lo + len(again)] = back_again - total[begun : begun + len(again)] + again_cost
        after = np.logaddexp(rest, _backwards(begun_again))
        first, log = begins[i].first, begins[i].log
        back = _gather(after + here, lo, first, len(log), spans[i])
        placed_begins[i] = np.exp(np.minimum(starts[i] + back - log_total, 0.0))
        ended = _ended(starts[i], first, spans[i], lo, hi)
        ends_s[i] = _mean_end(ended, after + here, lo, log_total, step)
        # What was summed up is not needed any more: without a road each is as long as the sound.
        remarked[i + 1], starts[i], again_at[i] = [], np.zeros(0), (begun, np.zeros(0))
        left, right = bands[i]
        worth = np.full(right - left + 1, NEVER)
        worth[first - left : first - left + len(log)] = back + log - total[first : first + len(log)]
        follows = _Banded(left, np.logaddexp(_backwards(worth), follows.within(left, right + 1) - LEFT_OUT))
    lo, hi = bands[0]
    _, within = _remarks_then(follows.values, flowing[lo : hi + 1], before_it, MOST_BEFORE_IT)
    other[lo : hi + 1] += _both(remarked[0], within, log_total)
    return Placed(
        [b.first for b in begins], placed_begins, ends_s, [at for at, _ in again_at], placed_again, other, log_total
    )


@dataclass(frozen=True)
class _Banded:
    """Values at the boundaries from ``first`` on; before and behind them they stay what they are at the ends."""

    first: int
    values: Floats

    def within(self, lo: int, hi: int) -> Floats:
        """The values at the boundaries from ``lo`` to before ``hi``."""
        return self.values[np.clip(np.arange(lo, hi) - self.first, 0, len(self.values) - 1)]


def _bands(begins: list[Begins], frames: int, step: float) -> list[tuple[int, int]]:
    """For each place between two notes, before the first and behind the last, the boundaries that are looked at, both included."""
    beside = round(BESIDE_S / step)
    first = np.minimum.accumulate(np.array([b.first for b in begins])[::-1])[::-1]
    last = np.maximum.accumulate(np.array([b.first + len(b.log) for b in begins]))
    out = []
    for i in range(len(begins) + 1):
        lo = 0 if i == 0 else max(int(first[i - 1]) - beside, 0)
        hi = frames if i >= len(begins) - 1 else min(int(last[i + 1]) + beside, frames)
        out.append((lo, hi))
    return out


def _both(forward: list[Floats], back: list[Floats], log_total: float) -> Floats:
    """The probability that each boundary lies within a remark between two notes: the first has one more to come, the second none."""
    out = np.zeros(len(forward[0]))
    for f, b in zip(forward, reversed(back), strict=True):
        out += np.exp(np.minimum(f + b - log_total, 0.0))
    return out


def _durations(usual: float, spread: float, step: float) -> tuple[int, Floats]:
    """The shortest duration that is tried, in frames, and the log probability of it and each longer one."""
    shortest = max(round(np.exp(usual - SPREADS * spread) / step), 1)
    longest = max(round(np.exp(usual + SPREADS * spread) / step), shortest + 1)
    lasts = np.arange(shortest, longest + 1)
    log = -0.5 * ((np.log(lasts * step) - usual) / spread) ** 2
    return shortest, log - np.logaddexp.reduce(log)


def _ended(inner: Floats, first: int, span: tuple[int, Floats], lo: int, hi: int) -> Floats:
    """What begins in the frames from ``first`` on, at each boundary from ``lo`` to ``hi`` at which it may end."""
    shortest, logs = span
    longest = shortest + len(logs) - 1
    return _summed(_cut(inner, lo - first - longest, hi + 1 - first - shortest), logs[::-1])


def _gather(ends: Floats, lo: int, first: int, length: int, span: tuple[int, Floats]) -> Floats:
    """What the boundaries from ``lo`` on at which it may end are worth, for each frame from ``first`` on in which it may begin."""
    shortest, logs = span
    begin = first + shortest - lo
    return _summed(_cut(ends, begin, begin + length + len(logs) - 1), logs)


def _cut(values: Floats, begin: int, end: int) -> Floats:
    """The values from ``begin`` to before ``end``, and what never happens where there are none."""
    out = np.full(end - begin, NEVER)
    a, b = max(begin, 0), min(end, len(values))
    if a < b:
        out[a - begin : b - begin] = values[a:b]
    return out


def _summed(values: Floats, logs: Floats) -> Floats:
    """The log of the sum of what lies under a window of log weights, for each place of it, (values - window + 1,).

    Sums of weights are products of polynomials; block by block they are taken over the largest of a block, so that nothing that counts
    is too small for a number.
    """
    weights = np.exp(logs[::-1])
    out = np.full(len(values) - len(logs) + 1, NEVER)
    for a in range(0, len(out), BLOCK):
        piece = values[a : a + BLOCK + len(logs) - 1]
        top = float(piece.max())
        if top > NEVER:
            sums = np.convolve(np.exp(piece - top), weights, "valid")
            there = sums > 0.0
            out[a : a + BLOCK][there] = top + np.log(sums[there])
    return out


def _mean_end(ended: Floats, ends: Floats, lo: int, log_total: float, step: float) -> float:
    """The mean of where a note ends, over all ways on which it is said, in seconds; ``ended`` and ``ends`` from boundary ``lo`` on."""
    p = np.exp(np.minimum(ended + ends - log_total, 0.0))
    weight = float(p.sum())
    return float((p * np.arange(lo, lo + len(p))).sum()) * step / weight if weight > 1e-12 else np.nan


def _with_remarks(waited: Floats, flowing: Floats, enter: float, most: int) -> tuple[Floats, list[Floats]]:
    """Weight that is idle, with the ways on which remarks were made meanwhile; and the weight within the first, the second remark."""
    out, last, within = waited, waited, []
    for _ in range(most):
        within.append(flowing + enter + np.logaddexp.accumulate(last - flowing))
        last = np.logaddexp.accumulate(within[-1])
        out = np.logaddexp(out, last)
    return out, within


def _remarks_then(follows: Floats, flowing: Floats, enter: float, most: int) -> tuple[Floats, list[Floats]]:
    """What being idle is worth where remarks may be made before what follows; and what being within the last, the last but one is."""
    out, within = follows, []
    for _ in range(most):
        within.append(_backwards(out + flowing) - flowing)
        out = np.logaddexp(follows, _backwards(within[-1] + enter))
    return out, within


def _backwards(worth: Floats) -> Floats:
    """The sum over all that is still to come at each boundary."""
    return np.logaddexp.accumulate(worth[::-1])[::-1]
