"""When a voice begins, beside an engine: another synthesiser's syllables are not at hand here, so that the demo's own voice has to do."""

from itertools import islice, pairwise

import numpy as np
import pytest

from mirkle.files import demo_files
from mirkle.files.audio.media import media_path, shipped_reference
from mirkle.files.audio.onset import VoiceOnsets
from mirkle.files.audio.voice import PIECE, RATE_HZ, samples_of
from mirkle.files.speech.timed_text import parse_calls

FIRST_S, LAST_S = 60.0, 125.0


def engine(rng: np.random.Generator, count: int) -> np.ndarray:
    """Harmonics that rise and fall, and gravel."""
    t = np.arange(count) / RATE_HZ
    knots = np.arange(0, t[-1] + 2, 0.7)
    phase = 2 * np.pi * np.cumsum(np.interp(t, knots, rng.uniform(70, 170, len(knots)))) / RATE_HZ
    hum = sum(np.sin(k * phase + rng.uniform(0, 6.28)) / k for k in range(1, 14))
    gravel = np.convolve(rng.normal(0, 1, count), np.ones(6) / 6, "same")
    return hum / hum.std() + 0.8 * gravel / gravel.std()


def spoken() -> tuple[np.ndarray, np.ndarray]:
    """A stretch of the demo's sound, and where each voice begins after a pause, from the text that it was spoken from."""
    pieces = samples_of(media_path(shipped_reference(demo_files.SOUND)))
    sound = np.concatenate(list(islice(pieces, 1 + int(LAST_S * RATE_HZ / PIECE)))).astype(float)
    calls = parse_calls(demo_files.demo_file(demo_files.CALLS), name="calls")
    times = sorted((s.from_s, s.to_s) for s in calls.said)
    begins = [b[0] for a, b in pairwise(times) if b[0] - a[1] > 0.5]
    piece = sound[int(FIRST_S * RATE_HZ) : int(LAST_S * RATE_HZ)]
    out = []
    for at in begins:
        if FIRST_S + 2 < at < LAST_S - 2:
            # The synthesiser is silent for a moment before its first sound.
            first = int((at - FIRST_S) * RATE_HZ)
            loud = np.abs(piece[first : first + RATE_HZ]) > 0.04 * np.abs(piece).max()
            out.append((first + int(np.argmax(loud))) / RATE_HZ)
    return piece, np.array(out)


@pytest.fixture(scope="module")
def stretch() -> tuple[np.ndarray, np.ndarray]:
    return spoken()


def heard(sound: np.ndarray, piece: int) -> np.ndarray:
    onsets, out = VoiceOnsets(), []
    pcm = (sound / np.abs(sound).max() * 26_000).astype(np.int16)
    for at in range(0, len(pcm), piece):
        out += onsets.feed(pcm[at : at + piece])
    return np.array(out)


def test_beginnings_are_found_within_fifty_milliseconds_beside_an_engine(stretch: tuple[np.ndarray, np.ndarray]) -> None:
    voice, begins = stretch
    assert len(begins) >= 8
    level = np.sqrt(np.mean(voice[np.abs(voice) > 0.05 * np.abs(voice).max()] ** 2))
    noise = engine(np.random.default_rng(3), len(voice))
    found = heard(voice + noise * level / 10 ** (10 / 20) / noise.std(), 480)
    off = np.array([np.abs(found - at).min() for at in begins])
    assert np.mean(off <= 0.05) >= 0.94
    assert off.max() < 0.2


def test_it_does_not_matter_in_which_pieces_the_sound_comes(stretch: tuple[np.ndarray, np.ndarray]) -> None:
    voice = stretch[0][: 20 * RATE_HZ]
    assert len(heard(voice, 480)) > 3
    assert heard(voice, 480) == pytest.approx(heard(voice, 4096))


def test_an_engine_alone_says_nothing() -> None:
    assert len(heard(engine(np.random.default_rng(4), 30 * RATE_HZ), 480)) == 0
