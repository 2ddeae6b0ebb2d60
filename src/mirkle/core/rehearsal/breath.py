"""Whether there is time to say it: the seconds that words take, at this crew's own rate, against the seconds there are."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise

import numpy as np

from mirkle.core.audio.lengths import Rate
from mirkle.core.judging.wording import LeftOut, things_of
from mirkle.core.messages import Called, Message
from mirkle.core.notes.model import Note
from mirkle.core.recording.model import Floats
from mirkle.core.rehearsal.pacing import Pacing
from mirkle.core.speech.delivery import Spoken

# Fewer calls than this tell no rate; a call of more than this has a pause in it.
LEAST_CALLS, LONGEST_S, CERTAIN_S = 12, 6.0, 0.6
# A stretch is full where speaking takes this share of its time, over at least this long (s).
FULL, OVER_S = 0.85, 8.0


def rate_of(spoken: Sequence[Spoken], syllables: Floats) -> Rate:
    """This crew's own rate of speaking: the median of what its calls took, or what is usual where too few are known."""
    usual = Rate()
    pairs = [
        (s.to_s - s.from_s, n)
        for s, n in zip(spoken, syllables, strict=True)
        if s.was_said and s.uncertainty_s <= CERTAIN_S and 0.2 < s.to_s - s.from_s < LONGEST_S
    ]
    if len(pairs) < LEAST_CALLS:
        return usual
    rates = [n / max(seconds - usual.edge_s, 0.1) for seconds, n in pairs]
    return Rate(syl_s=float(np.clip(np.median(rates), 3.0, 10.0)))


@dataclass(frozen=True)
class TooLittleTime:
    """A line that can't be said before the next one is due: what it takes and what there is, and words of it that could go."""

    line: int
    takes_s: float
    there_is_s: float
    could_go: tuple[str, ...]


def crowded(pacing: Pacing, takes_s: Floats, read: Sequence[Sequence[Note]], pace: float) -> list[TooLittleTime]:
    """The lines that came too close to one another to be said; ``takes_s`` is what each takes, ``read`` the notes in each, both
    (lines,)."""
    due = pacing.due_s(pace)
    latest = np.array([pacing.corner_s[n] / pace - pacing.needed_s(n, pace) for n in range(len(due))])
    out: list[TooLittleTime] = []
    free = -np.inf
    for line in range(len(due)):
        begins = max(float(due[line]), free)
        free = begins + float(takes_s[line])
        if line + 1 == len(due):
            break
        # Nobody brakes for a finish board: only what the driver has to know before it is there is held against the seconds.
        tells = any(n.is_corner or n.features for n in read[line + 1])
        if tells and free > latest[line + 1] > due[line]:
            out.append(TooLittleTime(line, float(takes_s[line]), float(latest[line + 1] - begins), _could_go(read[line])))
            # He breaks off, and the next one is called at the last moment.
            free = float(latest[line + 1])
    return out


def _could_go(read: Sequence[Note]) -> tuple[str, ...]:
    """Objects that are no reason to be outside: a landmark says only where."""
    return tuple(str(thing) for note in read for thing in note.objects if not thing.is_outside)


@dataclass(frozen=True)
class NoBreath:
    """A stretch in which there is hardly time to breathe: words a second from where to where."""

    from_m: float
    to_m: float
    words_a_second: float
    share: float


def dense(pacing: Pacing, takes_s: Floats, words: Floats, pace: float) -> list[NoBreath]:
    """The stretches where speaking takes more than :data:`FULL` of the seconds, the fullest first; ``words`` are each line's, (lines,)."""
    due = pacing.due_s(pace)
    full: list[range] = []
    for first in range(len(due)):
        last = int(np.searchsorted(due, due[first] + OVER_S))
        if last >= len(due) or last - first < 2:
            continue
        if takes_s[first:last].sum() > FULL * (due[last] - due[first]):
            if full and first <= full[-1].stop:
                full[-1] = range(full[-1].start, last)
            else:
                full.append(range(first, last))
    out = []
    for r in full:
        seconds = float(due[r.stop] - due[r.start])
        share, rate = float(takes_s[r.start : r.stop].sum()) / seconds, float(words[r.start : r.stop].sum()) / seconds
        out.append(NoBreath(float(pacing.at_m[r.start]), float(pacing.at_m[r.stop]), rate, share))
    return sorted(out, key=lambda d: -d.share)


@dataclass(frozen=True)
class PageTime:
    """What there is to say on a page of the book, and the seconds in which it is driven; ``could_go`` are words that could be left out
    where that is too much."""

    page: int
    words: int
    takes_s: float
    there_is_s: float
    could_go: tuple[Message | Called, ...]

    @property
    def is_full(self) -> bool:
        """Whether speaking takes more than :data:`FULL` of the seconds."""
        return self.takes_s > FULL * self.there_is_s


def page_times(
    pacing: Pacing, takes_s: Floats, words: Floats, read: Sequence[Sequence[Note]], left_out: Sequence[LeftOut] = ()
) -> list[PageTime]:
    """Each page of the book at full pace, from where its first line is due to where the next page's is.

    Parameters
    ----------
    takes_s, words, read : what each line takes, its words, and its notes, (lines,)
    left_out : what this crew writes and does not call
    """
    due_s = [*pacing.due_s(), pacing.length_s()]
    pages = [notes[0].page for notes in read]
    begins = [line for line, page in enumerate(pages) if not line or page != pages[line - 1]]
    out = []
    for first, end in pairwise([*begins, len(pages)]):
        lines = slice(first, end)
        time = PageTime(pages[first], int(words[lines].sum()), float(takes_s[lines].sum()), float(due_s[end] - due_s[first]), ())
        out.append(replace(time, could_go=_spare_on([n for line in read[lines] for n in line], left_out)) if time.is_full else time)
    return out


def _spare_on(notes: Sequence[Note], left_out: Sequence[LeftOut]) -> tuple[Message | Called, ...]:
    """What some notes call and could leave out: what this crew never calls anyway, then objects that are no reason to be outside."""
    habits = [one.words for one in left_out if any(one.thing in things_of(note) for note in notes)]
    things = [Called(thing.terms) for note in notes for thing in note.objects if not thing.is_outside]
    return tuple(dict.fromkeys([*habits, *things]))
