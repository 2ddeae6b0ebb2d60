"""Watching the video note by note: when each note has its moment, and how the pass stands.

A note's moment is when it was called: as a hand tapped it, as timed text or the sound tells it, else about where it lies between those that
are known. With a recording beside the video it ends where the car has left the corner; without one nobody knows where that is, and it
ends a while behind the next call.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from mirkle.core.recording.model import Floats
from mirkle.session.open_pass import OpenPass
from mirkle.session.playback_clock import sound_s
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.video_pass import VideoPass

# The picture begins this long before the call, goes on this long after the next call, and lasts at least this long (s): a call leads
# its corner by about three seconds, and a corner takes as long. # common practice
BEFORE_S, BEHIND_NEXT_S, LEAST_S = 2.0, 4.0, 8.0
BEHIND_CORNER_S = 1.0


@dataclass(frozen=True)
class Moment:
    """When a note was called and until when to watch, seconds of the sound; ``known`` by ``tap``, ``text``, ``sound``, ``road`` or, where
    it only lies between others, ``between``."""

    from_s: float
    until_s: float
    known: str


def moments_of(stage: OpenPass) -> list[Moment | None]:
    """Each note's moment; ``None`` for all where nothing tells any."""
    at_s, known = _called(stage)
    some = np.flatnonzero(np.isfinite(at_s))
    if not len(some):
        return [None] * len(at_s)
    between = np.interp(np.arange(len(at_s)), some, at_s[some])
    left_s = _left(stage)
    out: list[Moment | None] = []
    for note, when in enumerate(between):
        following = between[note + 1] if note + 1 < len(between) else when
        until = max(following + BEHIND_NEXT_S, when + LEAST_S)
        if math.isfinite(left_s[note]):
            until = max(left_s[note] + BEHIND_CORNER_S, when + BEHIND_CORNER_S)
        out.append(Moment(float(when), float(until), known[note] or "between"))
    return out


def _called(stage: OpenPass) -> tuple[Floats, list[str]]:
    """When each note was called, nan where nobody knows, (notes,), and by what that is known."""
    at_s, known = np.full(len(stage.notes), np.nan), [""] * len(stage.notes)
    for note, when, by in (*_by_road(stage), *_by_words(stage), *((n, s, "tap") for n, s in stage.book.taps.items())):
        at_s[note], known[note] = when, by
    # The book is read in order: what a sound puts behind a later note is no more than that.
    last = math.inf
    for note in reversed(range(len(at_s))):
        if at_s[note] > last and known[note] != "tap":
            at_s[note], known[note] = math.nan, ""
        elif math.isfinite(at_s[note]):
            last = at_s[note]
    return at_s, known


def _by_road(stage: OpenPass) -> Iterator[tuple[int, float, str]]:
    """When the car came to each note's corner, a little before, and that the road tells it."""
    if not isinstance(stage, ReviewedPass):
        return
    for tie in stage.review.lineup.ties:
        there = _on_video(stage, tie.bend.from_m) if tie.bend is not None else None
        if there is not None:
            yield tie.note, there - BEHIND_NEXT_S, "road"


def _by_words(stage: OpenPass) -> Iterator[tuple[int, float, str]]:
    """When each note was said, and by what that is known."""
    if isinstance(stage, ReviewedPass):
        calls = stage.review.calls
        timed = [(c.time.from_s if c.time is not None else math.nan, c.how.said_as) for c in calls if c.how is not None]
    else:
        timed = [(s.from_s, s.said_as) for s in stage.spoken] if isinstance(stage, VideoPass) else []
    yield from ((note, from_s, _by(said_as)) for note, (from_s, said_as) in enumerate(timed) if math.isfinite(from_s))


def _by(said_as: str) -> str:
    return "sound" if said_as in ("heard", "perhaps") else "text"


def _left(stage: OpenPass) -> Floats:
    """When the car had left each note's corner, nan where no recording tells, (notes,)."""
    out = np.full(len(stage.notes), np.nan)
    if isinstance(stage, ReviewedPass):
        for tie in stage.review.lineup.ties:
            if tie.bend is not None and (there := _on_video(stage, tie.bend.to_m)) is not None:
                out[tie.note] = there
    return out


def _on_video(stage: ReviewedPass, metres: float) -> float | None:
    """The video's time when the car came to a place; without words its clock is taken for the recording's."""
    if stage.review.clock is None:
        return stage.review.profile.seconds_at(metres)
    return sound_s(stage, metres)


def answered(stage: OpenPass) -> int:
    """How many notes were answered by eye."""
    return sum(stage.book.seen(note) is not None for note in range(len(stage.notes)))


def next_unanswered(stage: OpenPass) -> int | None:
    """The next note behind the chosen one that nobody has answered by eye, else the first of the book; ``None`` where all are."""
    left = [n for n in range(len(stage.notes)) if stage.book.seen(n) is None]
    return next((n for n in left if n > stage.note), left[0] if left else None)
