"""Call times as the demo's sound would give them, without decoding it."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from mirkle.core.audio.calls import HeardCall, Listening
from mirkle.core.audio.clock import SoundClock
from mirkle.core.audio.lengths import Rate, syllables_of
from mirkle.core.review import Review
from mirkle.files.speech.heard_json import HeardCalls
from mirkle.session.parsed_files import crew_of

STEP = 0.032


def heard_by(review: Review) -> HeardCalls:
    """As the demo's sound would give it, but for one call that is late, one that is not there and one that is doubtful."""
    reading = review.reading
    syllables = syllables_of(reading, next(la for la in crew_of(None).languages if la.code == "en"))
    sure = np.full(int(660 / STEP), 0.002)
    calls = []
    for note, call in enumerate(review.calls):
        time = call.time
        assert time is not None
        lasts = float(Rate().seconds(syllables)[note])
        sure[int(time.from_s / STEP) : int((time.from_s + lasts) / STEP)] = 0.998
        calls.append(HeardCall(note, time.from_s, time.from_s + lasts, 0.98, 1.0, time.from_s))
    calls[30] = replace(calls[30], due_s=calls[30].from_s - 1.7)
    calls[40] = replace(calls[40], from_s=math.nan, to_s=math.nan, sure=0.0, heard=0.1)
    calls[50] = replace(calls[50], sure=0.6)
    assert review.clock is not None
    clock = SoundClock(review.clock.calls_minus_run_s, 0.2, "noise")
    found = Listening(tuple(calls), (), ((300.0, 300.6),), Rate(), 3.4, 0.6, 5.0)
    places = np.array([c.due_s + 3.4 for c in calls])
    return HeardCalls(
        "slatehook-morning.opus", STEP, sure, tuple(n.text for n in reading.notes), syllables, places, {}, found, clock, 0 * places
    )
