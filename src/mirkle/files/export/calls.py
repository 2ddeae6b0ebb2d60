"""When each note was called, as WebVTT: a cue a call, on the clock of the words or the sound."""

from __future__ import annotations

import math
from collections.abc import Iterable
from html import escape

from mirkle.core.errors import MirkleError
from mirkle.core.speech.reading import CallTime
from mirkle.files.speech.timed_text import webvtt_time

# A call whose end is not known lasts this long.
SHORTEST_S = 0.3


def calls_vtt(calls: Iterable[tuple[int, CallTime, str]]) -> bytes:
    """The calls in the order they were made. Each is a note's index, when it was said, and the words; those without a time are left out.

    Raises
    ------
    MirkleError
        None has a time.
    """
    cues = sorted(
        (said.from_s, max(said.to_s, said.from_s + SHORTEST_S), note, words) for note, said, words in calls if math.isfinite(said.from_s)
    )
    if not cues:
        raise MirkleError("no call has a time", mend="give what was said as timed text, or have Mirkle listen")
    parts = [
        f"note {note + 1}\n{webvtt_time(a)} --> {webvtt_time(b)}\n{escape(' '.join(words.split()), quote=False)}\n"
        for a, b, note, words in cues
    ]
    return "\n".join(["WEBVTT\n", *parts]).encode()
