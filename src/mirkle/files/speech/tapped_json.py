"""Calls that somebody pressed a key for while watching a pass, as they are kept: JSON with each note's words and its moment."""

from __future__ import annotations

import json
import math
from collections.abc import Mapping
from dataclasses import dataclass

from mirkle.core.notes.model import Reading
from mirkle.core.speech.delivery import Spoken
from mirkle.core.speech.reading import CallTime, Speech
from mirkle.files.speech.heard_json import same_notes
from mirkle.files.structured import call_times, converter

# How late and how unevenly a key is pressed after a voice begins, seconds. # common practice: simple reaction time
TAP_S = 0.3


@dataclass(frozen=True)
class _TappedCall:
    text: str
    from_s: float


@dataclass(frozen=True)
class _Tapped:
    tapped: int
    calls: list[_TappedCall]


def tapped_json(taps: Mapping[int, float], book: Reading) -> bytes:
    """When notes of a book were called, seconds of the sound."""
    calls = [_TappedCall(book.notes[n].text, round(s, 3)) for n, s in sorted(taps.items())]
    return (json.dumps(converter().unstructure(_Tapped(1, calls)), ensure_ascii=False) + "\n").encode()


def speech_of_tapped(content: bytes, book: Reading, *, name: str) -> Speech:
    """The taps as speech beside a book; of a note without one nothing is known.

    Raises
    ------
    MirkleError
        The bytes hold something else.
    """
    calls = call_times(content, _Tapped, name=name).calls
    moments = {n: calls[at].from_s for n, at in same_notes([c.text for c in calls], book.notes).items()}
    said, spoken = [], []
    for note in book.notes:
        at_s = moments.get(note.index, math.nan)
        tapped = note.index in moments
        said.append(CallTime(at_s, at_s, TAP_S if tapped else math.nan))
        spoken.append(Spoken("heard", 1.0, note.index, "", at_s, at_s, TAP_S) if tapped else Spoken("not-heard", 1.0))
    return Speech(book, tuple(said), (), None, tuple(spoken))
