"""When each note was called, from where there is a voice in the sound and from the book; and how sure that is.

The rate at which this co-driver speaks, and how long before its place he calls a note, are his own: the rate is the one under which the
sound is most probable, the lead is what the notes that are placed surely show. Both are found before the notes are placed for good.

The road must not hide a late call. So all is solved twice: with what is known of when each note was due, and with nothing but the order of
the notes. Where the two differ the call is doubtful, and the time that stands is the one that the sound alone is surer of.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace

import numpy as np

from mirkle.core.audio.lengths import Rate, rate_of
from mirkle.core.audio.segments import Activity, Begins, Placed, log_probability, place
from mirkle.core.recording.model import Floats
from mirkle.core.stats import robust_sd, student_cost

# The voice's evidence in one frame counts for less than its own: neighbours say the same thing again.
FRAMES_ALIKE = 0.3
MOST_EVIDENCE = 4.0
# Rates that are tried, syllables a second.
RATES = (4.0, 4.7, 5.5, 6.4, 7.5, 8.7)
# Search window around the moment when a note was due (s); the first notes may be read early, before the start (s, number of notes).
LOOK_S, AT_LEISURE_S, AT_LEISURE = 12.0, 15.0, 3
USUAL_LEAD_S, LEAD_SPREAD_S = 3.4, 1.3
LEAD_SPREADS_S = (0.5, 2.0)
# A place less sure than this says nothing of the crew's lead.
TELLS_S = 1.0
# Share of calls that come at any time; among the first ones, which may be read before the start, the second share.
WHENEVER, FIRST_WHENEVER = 0.1, 0.5
# A time is right within the first bound (s); two solutions differ beyond the second (s).
WITHIN_S, DIFFER_S = 0.3, 0.6
SURE, HEARD = 0.9, 0.5
# Beside the notes there is other speech; and no sound is all voice or none.
SPEECH_BESIDE, SPEECH_SHARE = 1.15, (0.05, 0.6)
# In bare noise one note of ten is sure by chance, and as many where the clock was wrong; in the noisiest sound in which most calls were
# found, one of two. (How far the two heaps of logits lie apart does not tell: bare noise is parted as well.)
LEAST_SURE = 0.25
# Nats by which a beginning set by hand outweighs all that could speak against it.
BY_HAND = 100.0
ROUNDS = 2
# Fit of the two normal distributions of logits, voice and noise: rounds, least standard deviation, and first one as a share of their
# distance. Probabilities stay this far from 0 and 1; log odds stay within this many nats.
HEAP_ROUNDS, NARROWEST, FIRST_WIDTH, CUT_OFF, MOST_NATS = 40, 0.3, 0.25, 1e-5, 60
# The co-driver's rate and lead are learnt from calls whose beginning has this probability, if there are at least this many.
TEACHES, LEAST_TAUGHT = 0.7, 6
# Shortest and longest call, as shares of its usual length. Shortest remark, s: speech that no note explains.
LASTS, REMARK_S = (0.6, 1.6), 0.25
# Standard deviation of a beginning set by hand, and how far around it we search, s.
HAND_SD_S, HAND_WITHIN_S = 0.05, 0.5
# Progress: the share of the first alignment, and of each later round.
FIRST_SHARE, ROUND_SHARE = 0.3, 0.2
# Without a road, notes are first looked for on frames this many times longer.
COARSE = 4


@dataclass(frozen=True)
class HeardCall:
    """A note in the sound. ``from_s`` is nan where it was not heard; ``sure`` is the probability that it began within
    :data:`WITHIN_S` of that, ``heard`` that it was said at all.

    ``due_s`` is when it would have come by the crew's habit, nan without a road; ``other_s`` where the second solution has it, where
    the two differ.
    """

    note: int
    from_s: float
    to_s: float
    sure: float
    heard: float
    due_s: float = np.nan
    other_s: float = np.nan

    @property
    def was_heard(self) -> bool:
        """Whether it is in the sound at all."""
        return bool(np.isfinite(self.from_s))

    @property
    def doubtful(self) -> bool:
        """Whether somebody should listen before anything rests on it."""
        return self.sure < SURE or bool(np.isfinite(self.other_s))


@dataclass(frozen=True)
class Listening:
    """What was heard: ``calls`` beside the notes, moments at which a note was said ``again`` as (note, s), speech that no note explains as
    ``others`` (from, to) in seconds, the co-driver's ``rate``, his ``lead_s`` and its spread; ``clear`` is how far voice and noise lie
    apart, in spreads.
    """

    calls: tuple[HeardCall, ...]
    again: tuple[tuple[int, float], ...]
    others: tuple[tuple[float, float], ...]
    rate: Rate
    lead_s: float
    lead_spread_s: float
    clear: float

    @property
    def too_noisy(self) -> bool:
        """Whether the noise hides the voice, so that nothing here should be believed: hardly a note is sure."""
        return sum(c.was_heard and not c.doubtful for c in self.calls) < LEAST_SURE * len(self.calls)


def listen(
    sure: Floats, frame_s: float, notes: NotePriors, *, like: Listening | None = None, progress: Callable[[float], None] = lambda _: None
) -> Listening:
    """The calls in a sound.

    Parameters
    ----------
    sure : how sure it is that somebody speaks, 0 to 1, (frames,), each ``frame_s`` long
    notes : what is known of each note before anybody listens
    like : what was heard before: rate and lead are taken from it
    progress : is told the share done, 0 to 1
    """
    syllables, place_s = notes.syllables, notes.place_s
    evidence, clear = evidence_for(sure, frame_s, syllables)
    activity = Activity(evidence, frame_s)
    sd_s = notes.place_sd_s if notes.place_sd_s is not None else np.zeros(len(place_s))
    due = Due(place_s, sd_s, len(evidence), frame_s, pinned_s=notes.pinned_s, words=notes.words)
    if not np.isfinite(place_s).any():
        due = _about(activity, syllables, due)
    rate = like.rate if like is not None else _likeliest_rate(activity, syllables, due)
    if like is not None:
        due = replace(due, lead_s=like.lead_s, spread_s=like.lead_spread_s)
    progress(FIRST_SHARE)
    placed = place(activity, syllables, rate, due.begins())
    for turn in range(ROUNDS if like is None else 0):
        rate, due = _learnt(placed, syllables, rate, due)
        placed = place(activity, syllables, rate, due.begins())
        progress(FIRST_SHARE + ROUND_SHARE * (turn + 1))
    free = placed if due.flat else place(activity, syllables, rate, replace(due, flat=True).begins())
    progress(1.0)
    if due.flat:
        due = replace(due, place_s=np.full(len(place_s), np.nan))
    usual_s = rate.seconds(syllables)
    calls = tuple(_call(i, placed, free, due, frame_s, float(usual_s[i])) for i in range(len(syllables)))
    return Listening(calls, _again(placed, frame_s), _others(placed.other, frame_s), rate, due.lead_s, due.spread_s, clear)


def evidence_for(sure: Floats, frame_s: float, syllables: Floats) -> tuple[Floats, float]:
    """As :func:`voice_evidence`, the share of the voice being as long as the notes take to say, and a little more."""
    speaking = float(Rate().seconds(syllables).sum()) / (len(sure) * frame_s)
    return voice_evidence(sure, float(np.clip(SPEECH_BESIDE * speaking, *SPEECH_SHARE)))


def voice_evidence(sure: Floats, share: float) -> tuple[Floats, float]:
    """Evidence of a voice in each frame, in nats, and how far apart voice and noise lie, in spreads.

    The network's own sureness is not to be believed beside an engine, but its logits still fall into two heaps of about one width: two
    normal distributions of one spread are fitted to them (expectation-maximisation), the voice's ``share`` of the time being known from the
    book, and the logarithm of their ratio is the evidence.
    """
    within = np.clip(sure, CUT_OFF, 1 - CUT_OFF)
    logit = np.log(within / (1 - within))
    noise, voice = np.quantile(logit, [0.5 * (1 - share), 1 - 0.5 * share])
    spread = max(FIRST_WIDTH * float(voice - noise), NARROWEST)
    odds = np.log(share / (1 - share))
    for _ in range(HEAP_ROUNDS):
        evidence = (voice - noise) / spread**2 * (logit - 0.5 * (voice + noise))
        of = 1 / (1 + np.exp(-np.clip(evidence + odds, -MOST_NATS, MOST_NATS)))
        voice, noise = float((of * logit).sum() / of.sum()), float(((1 - of) * logit).sum() / (1 - of).sum())
        left = of * (logit - voice) ** 2 + (1 - of) * (logit - noise) ** 2
        spread = max(float(np.sqrt(left.mean())), NARROWEST)
    evidence = (voice - noise) / spread**2 * (logit - 0.5 * (voice + noise))
    return FRAMES_ALIKE * np.clip(evidence, -MOST_EVIDENCE, MOST_EVIDENCE), (voice - noise) / spread


@dataclass(frozen=True)
class ByWords:
    """What timed text says of the notes: between which moments of the sound each was said, and which were not."""

    said_s: dict[int, tuple[float, float]] = field(default_factory=dict)
    not_said: frozenset[int] = frozenset()


@dataclass(frozen=True)
class NotePriors:
    """What is known of each note before anybody listens, all (notes,): how many ``syllables`` it has, when the car came to its place on the
    sound's clock (``place_s``, nan where unknown) and how uncertain that is (``place_sd_s``; nought where it is not given).

    ``pinned_s`` are the beginnings that a hand set, by note; ``words`` what timed text says.
    """

    syllables: Floats
    place_s: Floats
    place_sd_s: Floats | None = None
    pinned_s: dict[int, float] = field(default_factory=dict)
    words: ByWords = field(default_factory=ByWords)


@dataclass(frozen=True)
class Due:
    """When each note was due: its place less the crew's lead, give or take ``spread_s`` and the place's own ``place_sd_s``; ``flat`` says
    no more than about when."""

    place_s: Floats
    place_sd_s: Floats
    frames: int
    frame_s: float
    lead_s: float = USUAL_LEAD_S
    spread_s: float = LEAD_SPREAD_S
    pinned_s: dict[int, float] = field(default_factory=dict)
    words: ByWords = field(default_factory=ByWords)
    flat: bool = False

    def begins(self) -> list[Begins]:
        """What is known of each note's beginning."""
        return [self._of(i) for i in range(len(self.place_s))]

    def at(self, i: int) -> float:
        """When a note was due, seconds."""
        return float(self.place_s[i]) - self.lead_s

    def _of(self, i: int) -> Begins:
        if i in self.pinned_s:
            first, last = self._frames(self.pinned_s[i] - HAND_WITHIN_S, self.pinned_s[i] + HAND_WITHIN_S)
            off = (np.arange(first, last) + 0.5) * self.frame_s - self.pinned_s[i]
            log = -0.5 * (off / HAND_SD_S) ** 2
            # A hand says that it was said there, whatever the sound does.
            return Begins(first, log - np.logaddexp.reduce(log) + BY_HAND)
        begins = self._by_habit(i)
        if i in self.words.not_said:
            return Begins(begins.first, begins.log - BY_HAND)
        if i in self.words.said_s:
            # The words' own moments are the limits: habit only weighs within them.
            first, last = self._frames(*self.words.said_s[i])
            at = np.arange(first, last) - begins.first
            known = (at >= 0) & (at < len(begins.log))
            log = np.full(last - first, float(begins.log.min()) if len(begins.log) else 0.0)
            log[known] = begins.log[at[known]]
            return Begins(first, log - np.logaddexp.reduce(log))
        return begins

    def _by_habit(self, i: int) -> Begins:
        due = self.at(i)
        if not np.isfinite(due):
            first, last = self._frames(0.0, self.frames * self.frame_s)
            return Begins(first, np.full(last - first, -np.log(last - first)))
        first, last = self._frames(due - LOOK_S - (AT_LEISURE_S if i < AT_LEISURE else 0.0), due + LOOK_S)
        even = np.full(last - first, -np.log(last - first))
        if self.flat:
            return Begins(first, even)
        # Student's t of four degrees of freedom: habit has long tails.
        spread_s = float(np.hypot(self.spread_s, self.place_sd_s[i]))
        off = ((np.arange(first, last) + 0.5) * self.frame_s - due) / spread_s
        log = -student_cost(np.asarray(off, dtype=float))
        log -= np.logaddexp.reduce(log)
        whenever = FIRST_WHENEVER if i < AT_LEISURE else WHENEVER
        return Begins(first, np.logaddexp(log + np.log(1 - whenever), even + np.log(whenever)))

    def _frames(self, from_s: float, to_s: float) -> tuple[int, int]:
        first = int(np.clip(from_s / self.frame_s, 0, self.frames - 2))
        return first, int(np.clip(to_s / self.frame_s, first + 1, self.frames - 1))

    def coarser(self, times: int) -> Due:
        """The same by longer frames."""
        return replace(self, frames=self.frames // times, frame_s=self.frame_s * times)


def _about(activity: Activity, syllables: Floats, due: Due) -> Due:
    """Without a road: about when each note was called, by its order and length alone, on frames four times as long."""
    coarse = coarser(activity, COARSE)
    wide = due.coarser(COARSE)
    rate = _likeliest_rate(coarse, syllables, wide)
    placed = place(coarse, syllables, rate, wide.begins(), notes_only=True)
    about = np.array([_mode(placed, i, coarse.frame_s)[0] for i in range(len(syllables))])
    known = np.flatnonzero(np.isfinite(about))
    about = np.interp(np.arange(len(about)), known, about[known]) if len(known) else about
    return replace(due, place_s=np.maximum.accumulate(about) + due.lead_s, flat=True)


def coarser(activity: Activity, times: int) -> Activity:
    """The same evidence on frames that are a number of times longer."""
    count = len(activity.evidence) // times
    return Activity(activity.evidence[: count * times].reshape(count, times).sum(axis=1), times * activity.frame_s)


def _likeliest_rate(activity: Activity, syllables: Floats, due: Due) -> Rate:
    """The rate under which the sound is most probable, on frames twice as long, which tells it as well."""
    coarse = coarser(activity, 2)
    begins = due.coarser(2).begins()
    probable = [log_probability(coarse, syllables, Rate(r), begins) for r in RATES]
    return Rate(RATES[int(np.argmax(probable))])


def _learnt(placed: Placed, syllables: Floats, rate: Rate, due: Due) -> tuple[Rate, Due]:
    """Rate, lead and its spread as the surely placed notes show them."""
    from_s, mass = np.array([_mode(placed, i, due.frame_s) for i in range(len(syllables))]).T
    sure = mass > TEACHES
    rate = rate_of(syllables[sure], (placed.ends_s - from_s)[sure], before=rate)
    tells = (np.arange(len(sure)) >= AT_LEISURE) & np.isfinite(due.place_s) & (due.place_sd_s < TELLS_S)
    early = (due.place_s - from_s)[sure & tells]
    if len(early) < LEAST_TAUGHT:
        return rate, due
    lead = float(np.median(early))
    spread = robust_sd(early, lead)
    return rate, replace(due, lead_s=lead, spread_s=float(np.clip(spread, *LEAD_SPREADS_S)))


def _mode(placed: Placed, i: int, frame_s: float) -> tuple[float, float]:
    """Where most of a note's probability lies within :data:`WITHIN_S` either way, the mean there, and how much that is."""
    begins = placed.begins[i]
    within = np.ones(2 * round(WITHIN_S / frame_s) + 1)
    if not len(begins) or begins.sum() < 1e-9:
        return np.nan, 0.0
    mass = np.convolve(begins, within, "same") if len(begins) >= len(within) else np.full(len(begins), begins.sum())
    best = int(np.argmax(mass))
    near = slice(max(best - len(within) // 2, 0), best + len(within) // 2 + 1)
    at = placed.first[i] + np.arange(len(begins))[near]
    return float(np.sum(begins[near] * at) / begins[near].sum()) * frame_s, float(min(mass[best], 1.0))


def _call(i: int, placed: Placed, free: Placed, due: Due, frame_s: float, usual_s: float) -> HeardCall:
    at, sure = _mode(placed, i, frame_s)
    other, other_sure = _mode(free, i, frame_s)
    said = float(placed.begins[i].sum())
    due_s, chosen = due.at(i), placed
    if said < HEARD:
        return HeardCall(i, np.nan, np.nan, 0.0, said, due_s)
    differ = abs(at - other) > DIFFER_S and other_sure > 0.5 * sure
    if differ and other_sure > sure:
        at, sure, other, chosen = other, other_sure, at, free
    # The mean end is of all ways on which it is said; where they part it lies behind none of them.
    lasts_s = float(np.clip((chosen.ends_s[i] - at) / usual_s, *LASTS) * usual_s)
    return HeardCall(i, at, at + lasts_s, sure, said, due_s, other if differ else np.nan)


def _again(placed: Placed, frame_s: float) -> tuple[tuple[int, float], ...]:
    out = []
    for i, (first, again) in enumerate(zip(placed.again_first, placed.again, strict=True)):
        if again.sum() > HEARD:
            out.append((i, float((first + int(np.argmax(again))) * frame_s)))
    return tuple(out)


def _others(other: Floats, frame_s: float) -> tuple[tuple[float, float], ...]:
    """Stretches that are likelier a remark than not, a quarter of a second and longer."""
    inside = np.concatenate([[0], (other > HEARD).astype(int), [0]])
    edges = np.flatnonzero(np.diff(inside)).reshape(-1, 2) * frame_s
    return tuple((float(a), float(b)) for a, b in edges if b - a > REMARK_S)
