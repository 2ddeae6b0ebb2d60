"""When each note was called, as JSON for other programs: the contract ``mirkle-listen/1``, and back.

Times are seconds of the sound file, ``null`` where a note was not heard; calls stand in the order of the book. ``text`` is the note as it
was written, so that times given back with a later edition of the book find their notes.
"""

from __future__ import annotations

import json
import math
from dataclasses import dataclass

from mirkle.core.errors import MirkleError
from mirkle.core.notes.model import Reading
from mirkle.core.speech.delivery import Spoken
from mirkle.core.speech.reading import CallTime, Speech
from mirkle.files.speech.heard_json import DOUBTFUL_S, SURE_S, HeardCalls, same_notes
from mirkle.files.structured import call_times, converter

FORMAT = "mirkle-listen/1"


@dataclass(frozen=True)
class Sound:
    """A sound's length, how much louder the voice is than what is between the calls, and whether its calls can be believed."""

    length_s: float
    signal_to_noise_db: float | None
    usable: bool


@dataclass(frozen=True)
class Clock:
    """What the sound's clock reads more than the recording's."""

    sound_minus_run_s: float
    uncertainty_s: float


@dataclass(frozen=True)
class Call:
    """When a note was called; ``sure`` where its time can be rested on."""

    index: int
    start_s: float | None
    end_s: float | None
    probability: float
    sure: bool
    text: str | None = None


@dataclass(frozen=True)
class Remark:
    """Speech that no note explains."""

    start_s: float
    end_s: float


@dataclass(frozen=True)
class Listened:
    """The file, member by member."""

    format: str
    sound: Sound
    clock: Clock | None
    calls: list[Call]
    repeats: list[float]
    remarks: list[Remark]


def listen_json(heard: HeardCalls) -> str:
    """The contract's file as text. In noise that hides the voice no call has a time."""
    found, clock = heard.listening, heard.clock
    usable = not found.too_noisy

    def moment(at_s: float) -> float | None:
        return round(at_s, 3) if usable and math.isfinite(at_s) else None

    table = Listened(
        FORMAT,
        Sound(
            round(len(heard.sure) * heard.frame_s, 3),
            round(heard.signal_to_noise_db, 1) if math.isfinite(heard.signal_to_noise_db) else None,
            usable,
        ),
        None if clock is None else Clock(round(clock.sound_minus_run_s, 3), round(clock.uncertainty_s, 3)),
        [
            Call(c.note, moment(c.from_s), moment(c.to_s), round(c.sure, 4), usable and heard.is_sure(c) and c.was_heard, text)
            for c, text in zip(found.calls, heard.texts, strict=True)
        ],
        [round(s, 3) for _, s in found.again if usable],
        [Remark(round(a, 3), round(b, 3)) for a, b in found.others if usable],
    )
    return json.dumps(converter().unstructure(table), ensure_ascii=False, indent=1, allow_nan=False) + "\n"


def looks_like_listened(text: str) -> bool:
    """Whether a text is this contract's file."""
    head = text.lstrip()[:200]
    return head.startswith("{") and f'"{FORMAT}"' in head


def parse_listened(content: bytes, *, name: str) -> Listened:
    """The file's members.

    Raises
    ------
    MirkleError
    """
    return call_times(content, Listened, name=name)


def speech_of_listened(listened: Listened, book: Reading, *, name: str) -> Speech:
    """The times as speech with a book: its own words stand for what was said, since a sound tells when and not what.

    Raises
    ------
    MirkleError
        The calls name no notes and are not as many as the book has.
    """
    calls = {c.index: c for c in listened.calls}
    if all(c.text is not None for c in listened.calls):
        ordered = sorted(listened.calls, key=lambda c: c.index)
        found = {n: ordered[at] for n, at in same_notes([c.text or "" for c in ordered], book.notes).items()}
    elif sorted(calls) == list(range(len(book.notes))):
        found = calls
    else:
        raise MirkleError("its calls are not as many as the notes", mend="give the book that was listened with", where=name)
    said, spoken = [], []
    for note in book.notes:
        call = found.get(note.index)
        if call is None or call.start_s is None:
            said.append(CallTime(math.nan, math.nan, math.nan))
            spoken.append(Spoken("not-heard", 1.0))
            continue
        end_s = call.end_s if call.end_s is not None else call.start_s
        kind, blur = ("heard", SURE_S) if call.sure else ("perhaps", DOUBTFUL_S)
        said.append(CallTime(call.start_s, end_s, blur))
        spoken.append(Spoken(kind, call.probability, note.index, "", call.start_s, end_s, blur))
    clock = listened.clock
    tied = None if clock is None else (clock.sound_minus_run_s, clock.uncertainty_s)
    return Speech(book, tuple(said), (), None, tuple(spoken), tied=tied)
