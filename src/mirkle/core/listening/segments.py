"""Where each note of the book was said, given only where in the sound there is a voice: a semi-Markov model, summed over all its ways.

A way through the sound takes the notes in the book's order. Between two notes it waits, and a stretch of voice may be a remark (at most
two between two notes, however long) or the note before said again. A note may be left out. What a way is worth is, in nats:

* for each frame within a note, a repeat or a remark, the evidence of a voice there (`Activity.evidence`, positive where there is one);
* for each note, the logarithm of the probability of its duration, log-normal about the one that its syllables take (`lengths.py`), and of
  its beginning, where something is known of that;
* a cost for each note left out, each repeat, each remark.

The sum over all ways, by the forward-backward recursions, gives for each note the probability that it began at each moment, and that it was
not said (Yu, Hidden semi-Markov models, Artificial Intelligence 174, 2010). Waiting costs nothing, so that a way idle at a moment is
one that became so at any time before: a running sum. That makes every step linear in the number of frames but the durations, which are tried
one by one.
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
# Durations farther out than so many spreads are not tried.
SPREADS = 2.5
NEVER = -1e9


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
    """Sums over all ways; ``begins`` and ``syllables`` run beside the notes."""
    frames, step = len(activity.evidence), activity.frame_s
    total = np.concatenate([[0.0], np.cumsum(activity.evidence)])
    # A remark's evidence less its cost a frame, so that it lasts a second or so.
    flowing = total - np.arange(frames + 1) * (step / REMARK_S)
    enter = -REMARK + np.log(step / REMARK_S)
    count = len(begins)
    usual = np.log(rate.seconds(syllables))
    spans = [_durations(u, rate.spread, step) for u in usual]

    # Forward: how much weight is idle at each boundary between frames, behind note i; and what begins where.
    before, within = _with_remarks(np.zeros(frames + 1), flowing, enter)
    idle, remarked = [before], [within]
    starts: list[Floats] = []
    again_at: list[tuple[int, Floats]] = []
    for i in range(count):
        first, log = begins[i].first, begins[i].log
        inner = idle[-1][first : first + len(log)] + log - total[first : first + len(log)]
        starts.append(inner)
        ended = _spread(inner, first, spans[i], frames) + total
        waited = np.logaddexp.accumulate(ended)
        lo, hi = (
            first,
            min(first + len(log) + spans[i][0] + len(spans[i][1]) + round(AGAIN_WITHIN_S / step), frames + 1),
        )
        again = waited[lo:hi] - total[lo:hi] - AGAIN + np.log(step / AGAIN_WITHIN_S)
        again_at.append((lo, again))
        waited = np.logaddexp(waited, np.logaddexp.accumulate(_spread(again, lo, spans[i], frames) + total))
        waited, within = _with_remarks(waited, flowing, enter)
        idle.append(np.logaddexp(waited, idle[-1] - LEFT_OUT))
        remarked.append(within)

    # Backward: what all that may follow is worth, from being idle behind note i on; `after` from its end on, with repeat and remarks.
    follows = np.zeros(frames + 1)
    log_total = float(idle[-1][-1])
    placed_begins: list[Floats] = [np.zeros(0)] * count
    placed_again: list[Floats] = [np.zeros(0)] * count
    ends_s = np.full(count, np.nan)
    other = np.zeros(frames + 1)
    for i in range(count - 1, -1, -1):
        first, log = begins[i].first, begins[i].log
        rest, within = _remarks_then(follows, flowing, enter)
        other += _both(remarked[i + 1], within, log_total)
        lo, again = again_at[i]
        back_again = _gather(rest + total, lo, len(again), spans[i])
        placed_again[i] = np.exp(np.minimum(again + back_again - log_total, 0.0))
        # From the end of the note: nothing more, or said again.
        begun_again = np.full(frames + 1, NEVER)
        begun_again[lo : lo + len(again)] = (
            back_again - total[lo : lo + len(again)] - AGAIN + np.log(step / AGAIN_WITHIN_S)
        )
        after = np.logaddexp(rest, _backwards(begun_again))
        back = _gather(after + total, first, len(log), spans[i])
        placed_begins[i] = np.exp(np.minimum(starts[i] + back - log_total, 0.0))
        ends_s[i] = _mean_end(starts[i], after + total, first, spans[i], log_total, step)
        worth = np.full(frames + 1, NEVER)
        worth[first : first + len(log)] = back + log - total[first : first + len(log)]
        follows = np.logaddexp(_backwards(worth), follows - LEFT_OUT)
    other += _both(remarked[0], _remarks_then(follows, flowing, enter)[1], log_total)
    return Placed(
        [b.first for b in begins], placed_begins, ends_s, [lo for lo, _ in again_at], placed_again, other, log_total
    )


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


def _spread(inner: Floats, first: int, span: tuple[int, Floats], frames: int) -> Floats:
    """What begins in the frames from ``first`` on, at each boundary where it may end."""
    shortest, logs = span
    ended = np.full(frames + 1, NEVER)
    for d, log in enumerate(logs, start=shortest):
        lo = first + d
        hi = min(lo + len(inner), frames + 1)
        if lo < hi:
            ended[lo:hi] = np.logaddexp(ended[lo:hi], inner[: hi - lo] + log)
    return ended


def _gather(ends: Floats, first: int, length: int, span: tuple[int, Floats]) -> Floats:
    """What the boundaries where it may end are worth, for each frame from ``first`` on in which it may begin."""
    shortest, logs = span
    out = np.full(length, NEVER)
    for d, log in enumerate(logs, start=shortest):
        lo = first + d
        hi = min(lo + length, len(ends))
        if lo < hi:
            out[: hi - lo] = np.logaddexp(out[: hi - lo], ends[lo:hi] + log)
    return out


def _mean_end(
    starts: Floats, ends: Floats, first: int, span: tuple[int, Floats], log_total: float, step: float
) -> float:
    """The mean of where a note ends, over all ways on which it is said, in seconds."""
    shortest, logs = span
    weight = moment = 0.0
    for d, log in enumerate(logs, start=shortest):
        lo = first + d
        hi = min(lo + len(starts), len(ends))
        if lo < hi:
            p = np.exp(np.minimum(starts[: hi - lo] + ends[lo:hi] + log - log_total, 0.0))
            weight += float(p.sum())
            moment += float((p * np.arange(lo, hi)).sum()) * step
    return moment / weight if weight > 1e-12 else np.nan


def _with_remarks(waited: Floats, flowing: Floats, enter: float) -> tuple[Floats, list[Floats]]:
    """Weight that is idle, with the ways on which remarks were made meanwhile; and the weight within the first, the second remark."""
    out, last, within = waited, waited, []
    for _ in range(MOST_REMARKS):
        within.append(flowing + enter + np.logaddexp.accumulate(last - flowing))
        last = np.logaddexp.accumulate(within[-1])
        out = np.logaddexp(out, last)
    return out, within


def _remarks_then(follows: Floats, flowing: Floats, enter: float) -> tuple[Floats, list[Floats]]:
    """What being idle is worth where remarks may be made before what follows; and what being within the last, the last but one is."""
    out, within = follows, []
    for _ in range(MOST_REMARKS):
        within.append(_backwards(out + flowing) - flowing)
        out = np.logaddexp(follows, _backwards(within[-1] + enter))
    return out, within


def _backwards(worth: Floats) -> Floats:
    """The sum over all that is still to come at each boundary."""
    return np.logaddexp.accumulate(worth[::-1])[::-1]
