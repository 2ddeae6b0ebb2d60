"""What is kept of speech and sound besides whole worlds: crews who say their notes, and calls in a voice that was made.

The texts stand in bench/golden/said-texts.json.gz, so that a language may grow; ``python bench/golden_voices.py`` makes them anew.
"""

from __future__ import annotations

import gzip
import json
import random
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np

from mirkle.core.audio.calls import ByWords, NotePriors, listen
from mirkle.core.audio.clock import sound_clock
from mirkle.core.audio.repeats import repeats_told
from mirkle.core.audio.segments import Activity
from mirkle.core.notes.reading import read_notes
from mirkle.core.speech.as_book import book_of
from mirkle.files.notes.languages import shipped_languages
from mirkle.files.speech.timed_text import parse_calls
from rough.voice import STEP, stretch
from spoken import crew_of, spoken, stream_of, timed_text

TEXTS = Path(__file__).parent / "golden/said-texts.json.gz"
CREWS, NOTES, VOICES = 6, 40, 3


def make_texts() -> None:
    """Makes the speech and the books anew, from the forms that the languages have today."""
    rng, out = random.Random(4711), []
    for number in range(CREWS):
        hand = crew_of(rng, shipped_languages()[number % 2])
        made = [hand.note() for _ in range(NOTES)]
        calls = [spoken(rng, hand, called, text, words=number % 3 > 0) for called, text in made]
        source, _ = timed_text(rng, stream_of(rng, hand, calls))
        out.append((source, "\n".join(text for _, text in made) + "\n"))
    TEXTS.write_bytes(gzip.compress(json.dumps(out, ensure_ascii=False).encode(), 9, mtime=0))


def said() -> Any:
    """What is read in the speech of a few crews in both languages, without their book and against it."""
    out: list[Any] = []
    for source, text in json.loads(gzip.decompress(TEXTS.read_bytes())):
        book = read_notes(text, shipped_languages())
        for against in (None, book):
            speech = parse_calls(source.encode(), name="said.vtt", book=against)
            out.append((speech.said, speech.words, speech.spoken, speech.go_s, [note.read_back for note in speech.reading.notes]))
        out.append(book_of(speech, next(la for la in shipped_languages() if la.code == book.language)))
    return out


def listened() -> Any:
    """Calls in made voices: with the road and without it, late ones and some that were left out, one set by hand, some known by their words,
    repeats told by how they sound, and the clock."""
    out: list[Any] = []
    for seed in range(VOICES):
        rng = np.random.default_rng(seed)
        syllables, place_s, said_s, sure = stretch(seed + 20, late={5: 2.0, 12: 1.5}, left_out=(8, 19))
        priors = NotePriors(syllables, place_s)
        found = listen(sure, STEP, priors)
        words = ByWords({3: (float(said_s[3]) - 0.4, float(said_s[3]) + 0.4)}, frozenset({8}))
        out += [
            found,
            listen(sure, STEP, NotePriors(syllables, np.full(len(place_s), np.nan))),
            listen(sure, STEP, replace(priors, pinned_s={10: float(said_s[10]) + 2.0}), like=found),
            listen(sure, STEP, replace(priors, words=words, place_sd_s=rng.uniform(0.0, 0.5, len(place_s)))),
            repeats_told(found, rng.normal(size=(int(place_s[-1] / 0.016), 12)), 0.016),
        ]
        time_s = np.arange(0.0, place_s[-1] + 20.0, 0.1)
        speed = 20.0 + 8.0 * np.sin(time_s / 7.0)
        activity = Activity(np.log(sure / (1.0 - sure)), STEP)
        loud = np.interp(np.arange(len(sure)) * STEP - 3.0, time_s, speed) + rng.normal(0, 1.0, len(sure))
        out.append(sound_clock(activity, loud, syllables, place_s - 3.0, time_s, speed))
    return out


KEPT = {"said": said, "listened": listened}


if __name__ == "__main__":
    make_texts()
