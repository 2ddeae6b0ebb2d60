"""A book that is dictated: words that were recognised elsewhere become lines to read over, a sound is written down call by call."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import groupby
from pathlib import Path

import numpy as np

from mirkle.core.messages import gettext_noop, message
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.notes.writing import written_out
from mirkle.core.progress import Progress, silent
from mirkle.core.speech.reading import Speech, SpokenWord
from mirkle.files.audio.voice import FRAME_S, SPEAKS, Voice, voice_in
from mirkle.files.detect import read_bytes
from mirkle.files.notes.text import language_of
from mirkle.files.speech.timed_text import parse_calls
from mirkle.session.crew_records import languages_as_heard

# The words of a stage, not of a season (bytes).
LARGEST_DICTATION = 5_000_000
# A shorter silence parts no two calls, and a shorter sound is none (s). # common practice
PAUSE_S, LEAST_S = 0.45, 0.25
# A call is played with this much before and behind it (s).
AROUND_S = 0.15
# Who dictates says where a page of the paper book ends.
_NEW_PAGE = re.compile(r"^(?:(?:new|next) page|(?:nova|próxima) página|página nova)$", re.IGNORECASE)


@dataclass(frozen=True)
class Utterance:
    """Something that was said in one go, seconds into a sound."""

    from_s: float
    to_s: float


def dictated_lines(path: Path, first_page: int = 1) -> str:
    """Recognised words with their times as lines of a book: a note a line in the words of the crew's language, in the order in which it
    says side and grade; what is no note is a remark (``// …``), and a spoken "new page" begins one. What the crew's recogniser writes for a
    word again and again is known from its profile.

    Raises
    ------
    MirkleError
        The file can't be read, or there is no note in it.
    """
    content = read_bytes(path, largest=LARGEST_DICTATION, wanted=gettext_noop("timed text: WebVTT, SRT, or lines that begin with [m:ss]"))
    crew = CrewProfile(languages=languages_as_heard())
    speech = parse_calls(content, name=path.name, crew=crew)
    language = language_of(speech.reading, crew)
    page, lines = first_page, []
    for note, words in _runs(speech):
        said = " ".join(w.text for w in words)
        if note is not None:
            lines.append(written_out(speech.reading.notes[note], language, order=speech.reading.order).text)
        elif _NEW_PAGE.match(said):
            page += 1
            lines.append(f"page {page}")
        else:
            lines.append(f"// {said}")
    return "\n".join(lines) + "\n"


def _runs(speech: Speech) -> Iterator[tuple[int | None, list[SpokenWord]]]:
    """The words of each note together, and what was said between two notes."""
    for note, words in groupby(speech.words, key=lambda w: w.note):
        yield note, list(words)


def utterances_in(path: Path, progress: Progress = silent) -> list[Utterance]:
    """Everything that was said in a sound, one call after the other.

    Raises
    ------
    UnusableFile
        It can't be decoded, or there is no sound in it.
    """
    progress(message("Looking for the calls"), 0.0)
    return utterances(voice_in(path, progress=lambda seconds: progress(message("Looking for the calls: {0:.0f} s", seconds), 0.0)))


def utterances(voice: Voice) -> list[Utterance]:
    """The stretches in which somebody speaks, parted by silences of :data:`PAUSE_S` and more."""
    speaks = np.flatnonzero(voice.sure > SPEAKS)
    if len(speaks) == 0:
        return []
    parts = np.split(speaks, np.flatnonzero(np.diff(speaks) * FRAME_S > PAUSE_S) + 1)
    found = (Utterance(float(p[0]) * FRAME_S, float(p[-1] + 1) * FRAME_S) for p in parts)
    return [u for u in found if u.to_s - u.from_s >= LEAST_S]
