"""Call times from the sound, as they are kept: JSON with where there was a voice, so that they are solved again in a moment, and the calls.

The file begins with ``{"heard": 1``; its members are those of ``_Kept``. Text for other programs is in
:mod:`mirkle.files.speech.listen_json`.
"""

from __future__ import annotations

import json
import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from mirkle.core.audio.calls import ByWords, HeardCall, Listening, NotePriors, listen
from mirkle.core.audio.clock import SoundClock
from mirkle.core.audio.lengths import Rate
from mirkle.core.notes.model import Note, Reading
from mirkle.core.recording.model import Floats
from mirkle.core.speech.delivery import Spoken
from mirkle.core.speech.reading import CallTime, Speech, SpokenWord
from mirkle.files.structured import call_times, converter

KEY = "heard"
# How uncertain a call's time is; nothing is said against a co-driver on a doubtful one.
SURE_S, DOUBTFUL_S = 0.1, 2.0
# Times this close are the same (s); about how long a word of a remark takes (s).
SAME_S, WORD_S = 0.5, 0.25
# Up to this many notes in a row may have been changed in the book since.
CHANGED_SINCE = 6


@dataclass(frozen=True)
class HeardCalls:
    """What was heard in a sound: the voice's sureness by frames of ``frame_s``, the notes' ``texts``, syllables and places on the
    sound's clock, what a hand set, and the calls. ``clock`` is ``None`` without a recording.

    ``left_out`` are notes that somebody listened for and that were not said; ``remarks`` what somebody wrote down of other speech, empty
    words where there was nothing to write. ``signal_to_noise_db`` is how much louder the voice is than what is between the calls, nan where
    an older program kept it. ``timed_text`` is the text that tells what was said where there is one, ``by_words`` what it says of the
    notes.
    """

    sound: str
    frame_s: float
    sure: Floats
    texts: tuple[str, ...]
    syllables: Floats
    place_s: Floats
    by_hand: dict[int, float]
    listening: Listening
    clock: SoundClock | None
    place_sd_s: Floats
    timed_text: bytes = b""
    by_words: ByWords = field(default_factory=ByWords)
    left_out: frozenset[int] = frozenset()
    remarks: tuple[tuple[float, str], ...] = ()
    signal_to_noise_db: float = math.nan

    @property
    def tied(self) -> tuple[float, float] | None:
        """What the sound's clock reads more than the recording's and how uncertain that is, where the noise of the car told it."""
        clock = self.clock
        return (clock.sound_minus_run_s, clock.uncertainty_s) if clock is not None and clock.by == "noise" else None

    def is_sure(self, call: HeardCall) -> bool:
        """Whether a call's time can be rested on: set by hand, or beyond doubt by itself and tied to a recording or to what a text says.
        By the order of the notes alone one call of ten that seems sure is wrong."""
        tied = self.clock is not None or bool(self.by_words.said_s)
        return call.note in self.by_hand or (tied and not call.doubtful)

    def calls_of(self, book: Reading) -> dict[int, HeardCall]:
        """The calls by the notes of a book, which may have changed since."""
        return {note: self.listening.calls[of] for note, of in same_notes(self.texts, book.notes).items()}

    def solved_with(self, note: int, from_s: float | None) -> HeardCalls:
        """With a note's beginning set by hand, or let go where ``from_s`` is ``None``: the rest is solved again around it."""
        by_hand = {n: s for n, s in self.by_hand.items() if n != note} | ({note: from_s} if from_s is not None else {})
        notes = NotePriors(self.syllables, self.place_s, self.place_sd_s, by_hand, self.by_words)
        again = listen(self.sure, self.frame_s, notes, like=self.listening)
        # The sound itself is not kept: what was told of its repeats stays.
        repeats = {o: n for o in again.others for n, s in self.listening.again if abs(o[0] - s) <= SAME_S}
        again = replace(
            again,
            again=tuple(sorted({*again.again, *((n, o[0]) for o, n in repeats.items())}, key=lambda a: a[1])),
            others=tuple(o for o in again.others if o not in repeats),
        )
        return replace(self, by_hand=by_hand, listening=again, left_out=self.left_out - {note})

    def with_remark(self, from_s: float, words: str) -> HeardCalls:
        """With what was said at a moment written down; empty words say that somebody listened, and that it is nothing to keep."""
        others = tuple(r for r in self.remarks if abs(r[0] - from_s) > SAME_S)
        return replace(self, remarks=tuple(sorted((*others, (from_s, " ".join(words.split()))))))

    def without(self, note: int) -> HeardCalls:
        """With a note that somebody listened for and that was not said."""
        return replace(self, left_out=self.left_out | {note})

    def listened_at(self, from_s: float) -> bool:
        """Whether somebody wrote down what is said at a moment."""
        return any(abs(at - from_s) <= SAME_S for at, _ in self.remarks)


@dataclass(frozen=True)
class _KeptCall:
    """A call as it is kept; ``None`` stands for what was not heard or is not known."""

    note: int
    text: str
    from_s: float | None
    to_s: float | None
    sure: float
    heard: float
    due_s: float | None
    other_s: float | None


@dataclass(frozen=True)
class _Kept:
    """What is kept, member by member as it stands in the file."""

    heard: int
    sound: str
    frame_s: float
    voice: bytes
    syllables: list[float]
    place_s: list[float | None]
    place_sd_s: list[float]
    by_hand: dict[int, float]
    left_out: list[int]
    remarks: list[tuple[float, str]]
    timed_text: bytes
    said_between: dict[int, tuple[float, float]]
    not_said: list[int]
    calls: list[_KeptCall]
    again: list[tuple[int, float]]
    others: list[tuple[float, float]]
    rate: tuple[float, float, float]
    lead_s: float
    lead_spread_s: float
    clear: float
    clock: tuple[float, float, str] | None
    signal_to_noise_db: float | None = None


def looks_like_heard(text: str) -> bool:
    """Whether a text is call times from a sound, as Mirkle keeps them for itself."""
    return text.lstrip()[:40].startswith(f'{{"{KEY}":')


def heard_json(heard: HeardCalls) -> bytes:
    """What was heard as bytes, with all that solving it again needs."""
    found, clock = heard.listening, heard.clock
    calls = [
        _KeptCall(
            c.note, text, _or_none(c.from_s), _or_none(c.to_s), round(c.sure, 4), round(c.heard, 4), _or_none(c.due_s), _or_none(c.other_s)
        )
        for c, text in zip(found.calls, heard.texts, strict=True)
    ]
    kept = _Kept(
        heard=1,
        sound=heard.sound,
        frame_s=heard.frame_s,
        voice=np.round(heard.sure * 255).astype(np.uint8).tobytes(),
        syllables=heard.syllables.tolist(),
        place_s=[_or_none(s) for s in heard.place_s],
        place_sd_s=heard.place_sd_s.round(3).tolist(),
        by_hand={n: round(s, 3) for n, s in heard.by_hand.items()},
        left_out=sorted(heard.left_out),
        remarks=[(round(at, 3), words) for at, words in heard.remarks],
        timed_text=heard.timed_text,
        said_between={n: (round(a, 3), round(b, 3)) for n, (a, b) in heard.by_words.said_s.items()},
        not_said=sorted(heard.by_words.not_said),
        calls=calls,
        again=[(n, round(s, 3)) for n, s in found.again],
        others=[(round(a, 3), round(b, 3)) for a, b in found.others],
        rate=(round(found.rate.syl_s, 4), round(found.rate.edge_s, 4), round(found.rate.spread, 4)),
        lead_s=round(found.lead_s, 3),
        lead_spread_s=round(found.lead_spread_s, 3),
        clear=round(found.clear, 3),
        clock=None if clock is None else (round(clock.sound_minus_run_s, 3), clock.uncertainty_s, clock.by),
        signal_to_noise_db=_or_none(heard.signal_to_noise_db),
    )
    return (json.dumps(converter().unstructure(kept), ensure_ascii=False) + "\n").encode()


def parse_heard(content: bytes, *, name: str) -> HeardCalls:
    """What was heard.

    Raises
    ------
    MirkleError
    """
    return _heard_of(call_times(content, _Kept, name=name))


def _heard_of(kept: _Kept) -> HeardCalls:
    calls = tuple(
        HeardCall(c.note, _number(c.from_s), _number(c.to_s), c.sure, c.heard, _number(c.due_s), _number(c.other_s)) for c in kept.calls
    )
    found = Listening(calls, tuple(kept.again), tuple(kept.others), Rate(*kept.rate), kept.lead_s, kept.lead_spread_s, kept.clear)
    return HeardCalls(
        sound=kept.sound,
        frame_s=kept.frame_s,
        sure=np.frombuffer(kept.voice, np.uint8) / 255.0,
        texts=tuple(c.text for c in kept.calls),
        syllables=np.array(kept.syllables, float),
        place_s=np.array([_number(s) for s in kept.place_s]),
        by_hand=kept.by_hand,
        listening=found,
        clock=None if kept.clock is None else SoundClock(*kept.clock),
        place_sd_s=np.array(kept.place_sd_s, float),
        timed_text=kept.timed_text,
        by_words=ByWords(kept.said_between, frozenset(kept.not_said)),
        left_out=frozenset(kept.left_out),
        remarks=tuple(kept.remarks),
        signal_to_noise_db=_number(kept.signal_to_noise_db),
    )


def speech_of(heard: HeardCalls, book: Reading) -> Speech:
    """The calls as speech beside a book: its own words stand for what was said, since a sound tells when and not what.

    A note that reads otherwise than when Mirkle listened is taken for the one with its words nearest by, if there is one. What was not
    heard is not said to be left out: nobody has listened yet.
    """
    calls = heard.calls_of(book)
    said, spoken = [], []
    for note in book.notes:
        call = calls.get(note.index)
        if call is None or not call.was_heard or heard.listening.too_noisy:
            said.append(CallTime(math.nan, math.nan, math.nan))
            by_ear = call is not None and call.note in heard.left_out
            spoken.append(Spoken("not-said" if by_ear else "not-heard", 1.0 - call.heard if call is not None and not by_ear else 1.0))
            continue
        kind, blur = ("heard", SURE_S) if heard.is_sure(call) else ("perhaps", DOUBTFUL_S)
        said.append(CallTime(call.from_s, call.to_s, blur))
        spoken.append(Spoken(kind, call.sure, note.index, "", call.from_s, call.to_s, blur))
    return Speech(book, tuple(said), _written_down(heard), None, tuple(spoken), tied=heard.tied)


def _written_down(heard: HeardCalls) -> tuple[SpokenWord, ...]:
    """What somebody wrote down of other speech, as remarks at its moment."""
    return tuple(
        SpokenWord(word, at + WORD_S * k, SURE_S, "remark", None, None, 1.0, 0)
        for at, words in heard.remarks
        for k, word in enumerate(words.split())
    )


def with_times(speech: Speech, heard: HeardCalls, book: Reading) -> Speech:
    """What a text says was said, with the sound's times where they are sure: the words say what, the sound says when."""
    spoken = list(speech.spoken)
    for note, call in heard.calls_of(book).items():
        if call.was_heard and spoken[note].was_said and heard.is_sure(call):
            spoken[note] = replace(spoken[note], from_s=call.from_s, to_s=call.to_s, uncertainty_s=SURE_S)
    words = tuple(sorted((*speech.words, *_written_down(heard)), key=lambda w: w.at_s))
    return replace(speech, spoken=tuple(spoken), words=words, tied=heard.tied)


def same_notes(texts: Sequence[str], notes: Sequence[Note], *, skips: int = CHANGED_SINCE) -> dict[int, int]:
    """For each note of a book, as an index, the one that a time is kept of: of the same words, in the same order, and at most ``skips`` of
    the kept ones left out at a time."""
    out: dict[int, int] = {}
    at = 0
    for note in notes:
        words = note.text.split()
        # What was changed in the book since stands between two that were not.
        for ahead in range(at, min(at + skips, len(texts))):
            if texts[ahead].split() == words:
                out[note.index], at = ahead, ahead + 1
                break
    return out


def _or_none(value: float) -> float | None:
    return round(float(value), 3) if math.isfinite(value) else None


def _number(value: float | None) -> float:
    return math.nan if value is None else value
