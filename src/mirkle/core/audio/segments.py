"""Where each note of the book was said, given only where in the sound there is a voice: a semi-Markov model, summed over all its ways.

A way through the sound takes the notes in the book's order. Between two notes it waits, and a stretch of voice may be a remark (at most
two between two notes, however long) or the note before said again. A note may be left out. What a way is worth is, in nats:

* for each frame within a note, a repeat or a remark, the evidence of a voice there (`Activity.evidence`, positive where there is one);
* for each note, the logarithm of the probability of its duration, log-normal about the one that its syllables take (`lengths.py`), and of
  its beginning, where something is known of that;
* a cost for each note left out, each repeat, each remark.

The sum over all ways, by the forward-backward recursions, gives for each note the probability that it began at each moment, and that it was
not said (Yu, Hidden semi-Markov models, Artificial Intelligence 174, 2010). Waiting costs nothing, so that a way idle at a moment is
one that became so at any time before: a running sum. That makes every step linear in the number of frames but the durations: what may end
at a moment is a convolution of what may have begun with how long it lasts.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from mirkle.core.audio.lengths import Rate
from mirkle.core.recording.model import Floats

# Cost of a note left out, a note said again and a remark (nats); mean length of a remark (s).
LEFT_OUT, AGAIN, REMARK = 7.0, 4.0, 5.0
REMARK_S = 1.0
# A repeat comes soon after the note, or it would help nobody.
AGAIN_WITHIN_S = 6.0
MOST_REMARKS = 2
# Before the first note the book is read over, counted down, and wished well.
BEFORE_IT, MOST_BEFORE_IT = 2.0, 4
# Durations further out than this many standard deviations are not tried.
SPREADS = 2.5
# Remarks are looked for up to this far outside the windows of the notes (s).
BESIDE_S = 4.0
NEVER = -1e9
# Block length of the running sums (frames): short enough that the likelihoods in a block don't underflow.
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


def place(activity: Activity, syllables: Floats, rate: Rate, begins: list[Begins], *, notes_only: bool = False) -> Placed:
    """Sums over all ways; ``begins`` and ``syllables`` run beside the notes. With ``notes_only`` where repeats and remarks lie is not kept:
    where a note may lie anywhere in the sound each of them is as long as that."""
    return _Ways(activity, syllables, rate, begins).placed(notes_only=notes_only)


def log_probability(activity: Activity, syllables: Floats, rate: Rate, begins: list[Begins]) -> float:
    """How probable the sound is over all ways, in nats: :attr:`Placed.log_total` at half the cost."""
    return _Ways(activity, syllables, rate, begins).forward(notes=False, remarks=False).log_total


@dataclass
class _Forward:
    """The sums from the front: what begins where of each note and of its repeat, the weight within remarks, and all together."""

    log_total: float
    starts: list[Floats]
    again: list[Floats]
    remarked: list[list[Floats]]


class _Ways:
    """All ways through a sound.

    Behind each note only the stretch is looked at in which something may happen: from where the note before it may begin to where the one
    after the next may, and :data:`BESIDE_S` on either side. Outside of that weight waits.
    """

    def __init__(self, activity: Activity, syllables: Floats, rate: Rate, begins: list[Begins]) -> None:
        self.begins, self.step, self.frames = begins, activity.frame_s, len(activity.evidence)
        self.total = np.concatenate([[0.0], np.cumsum(activity.evidence)])
        # A remark's evidence less its cost a frame, so that it lasts a second or so.
        self.flowing = self.total - np.arange(self.frames + 1) * (self.step / REMARK_S)
        self.enter = -REMARK + np.log(self.step / REMARK_S)
        self.before_it = -BEFORE_IT + np.log(self.step / REMARK_S)
        self.again_cost = -AGAIN + np.log(self.step / AGAIN_WITHIN_S)
        self.spans = [_durations(u, rate.spread, self.step) for u in np.log(rate.seconds(syllables))]
        self.bands = _bands(begins, self.frames, self.step)
        # Where the repeat of each note may begin.
        self.again_first = [max(b.first, lo) for b, (lo, _) in zip(begins, self.bands[1:], strict=True)]

    def forward(self, *, notes: bool, remarks: bool) -> _Forward:
        """How much weight is idle at each boundary between frames, behind each note; what begins where, and what lies within remarks, is
        kept if wanted."""
        total = self.total
        lo, hi = self.bands[0]
        before, within = _with_remarks(np.zeros(hi - lo + 1), self.flowing[lo : hi + 1], self.before_it, MOST_BEFORE_IT)
        idle = _Banded(lo, before)
        out = _Forward(np.nan, [], [], [within] if remarks else [])
        for (first, last, log), span, begun, (lo, hi) in zip(self._begins(), self.spans, self.again_first, self.bands[1:], strict=True):
            inner = idle.within(first, last) + log - total[first:last]
            here = total[lo : hi + 1]
            waited = np.logaddexp.accumulate(_ended(inner, first, span, lo, hi) + here)
            until = min(last + span[0] + len(span[1]) + round(AGAIN_WITHIN_S / self.step), hi + 1)
            again = waited[begun - lo : until - lo] - total[begun:until] + self.again_cost
            waited = np.logaddexp(waited, np.logaddexp.accumulate(_ended(again, begun, span, lo, hi) + here))
            waited, within = _with_remarks(waited, self.flowing[lo : hi + 1], self.enter, MOST_REMARKS)
            idle = _Banded(lo, np.logaddexp(waited, idle.within(lo, hi + 1) - LEFT_OUT))
            if notes:
                out.starts.append(inner)
                out.again.append(again)
            if remarks:
                out.remarked.append(within)
        out.log_total = float(idle.values[-1])
        return out

    def _begins(self) -> Iterator[tuple[int, int, Floats]]:
        return ((b.first, b.first + len(b.log), b.log) for b in self.begins)

    def placed(self, *, notes_only: bool) -> Placed:
        """Both ways together: what all that may follow is worth, from being idle behind each note on, is laid on the sums from the
        front."""
        total, count, front = self.total, len(self.begins), self.forward(notes=True, remarks=not notes_only)
        log_total = front.log_total
        lo, hi = self.bands[count]
        follows = _Banded(lo, np.zeros(hi - lo + 1))
        begins: list[Floats] = [np.zeros(0)] * count
        agains: list[Floats] = [np.zeros(0)] * count
        ends_s = np.full(count, np.nan)
        other = np.zeros(self.frames + 1)
        for i, (first, last, log) in reversed(list(enumerate(self._begins()))):
            # What is summed up is not needed any more.
            starts, again, span, begun = front.starts.pop(), front.again.pop(), self.spans[i], self.again_first[i]
            lo, hi = self.bands[i + 1]
            here = total[lo : hi + 1]
            rest, within = _remarks_then(follows.values, self.flowing[lo : hi + 1], self.enter, MOST_REMARKS)
            back_again = _gather(rest + here, lo, begun, len(again), span)
            if not notes_only:
                other[lo : hi + 1] += _both(front.remarked.pop(), within, log_total)
                agains[i] = np.exp(np.minimum(again + back_again - log_total, 0.0))
            # From the end of the note: nothing more, or said again.
            begun_again = np.full(hi - lo + 1, NEVER)
            begun_again[begun - lo : begun - lo + len(again)] = back_again - total[begun : begun + len(again)] + self.again_cost
            after = np.logaddexp(rest, _backwards(begun_again))
            back = _gather(after + here, lo, first, len(log), span)
            begins[i] = np.exp(np.minimum(starts + back - log_total, 0.0))
            ends_s[i] = _mean_end(_ended(starts, first, span, lo, hi), after + here, lo, log_total, self.step)
            left, right = self.bands[i]
            worth = np.full(right - left + 1, NEVER)
            worth[first - left : last - left] = back + log - total[first:last]
            follows = _Banded(left, np.logaddexp(_backwards(worth), follows.within(left, right + 1) - LEFT_OUT))
        if not notes_only:
            lo, hi = self.bands[0]
            _, within = _remarks_then(follows.values, self.flowing[lo : hi + 1], self.before_it, MOST_BEFORE_IT)
            other[lo : hi + 1] += _both(front.remarked.pop(), within, log_total)
        return Placed([b.first for b in self.begins], begins, ends_s, self.again_first, agains, other, log_total)


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

    A sum of weights is a convolution. Block by block it is taken over the largest of a block, so that nothing that counts is too small for
    a number; all blocks at once are a product of matrices.
    """
    window = len(logs)
    count = len(values) - window + 1
    blocks = -(-count // BLOCK)
    padded = np.concatenate([values, np.full(blocks * BLOCK - count, NEVER)])
    rows = np.lib.stride_tricks.sliding_window_view(padded, BLOCK + window - 1)[::BLOCK]
    top = rows.max(axis=1, keepdims=True)
    edge = np.zeros(BLOCK - 1)
    weights = np.lib.stride_tricks.sliding_window_view(np.concatenate([edge, np.exp(logs), edge]), BLOCK)[:, ::-1]
    with np.errstate(divide="ignore"):
        summed: Floats = np.maximum(np.log(np.exp(rows - top) @ weights) + top, NEVER).ravel()[:count]
    return summed


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
