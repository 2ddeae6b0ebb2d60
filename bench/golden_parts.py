"""What is kept besides whole worlds: crews who say their notes, calls in a voice that was made, and a recording with one fault after another.

The texts stand in bench/golden/said-texts.json.gz, so that a language may grow; ``python bench/golden_parts.py`` makes them anew.
"""

from __future__ import annotations

import gzip
import json
import random
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np

from golden_stages import changed_books, changed_runs, set_by_hand
from mirkle.core.audio.calls import ByWords, NotePriors, listen
from mirkle.core.audio.clock import sound_clock
from mirkle.core.audio.repeats import repeats_told
from mirkle.core.audio.segments import Activity
from mirkle.core.errors import UnusableRecording
from mirkle.core.notes.reading import read_notes
from mirkle.core.recording.consistency import check_channels
from mirkle.core.recording.model import Channel, Recording, repair_times
from mirkle.core.recording.mounting import align_axes
from mirkle.core.recording.ranges import drop_impossible
from mirkle.core.speech.as_book import book_of
from mirkle.files import demo_files
from mirkle.files.notes.languages import shipped_languages
from mirkle.files.recordings.readers import parse_run
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


def mended() -> Any:
    """What is found, put right or refused in a recording with one fault at a time, each from hardly to much."""
    good = parse_run(demo_files.demo_file(demo_files.MORNING), name="run.csv")
    return [_mended(good, name, fault, size) for name, (fault, sizes) in FAULTS.items() for size in sizes]


def _mended(good: Recording, name: str, fault: Fault, size: float) -> Any:
    channels = {n: Channel(c.time_s.copy(), c.value.copy()) for n, c in good.channels.items()}
    fault(channels, size)
    try:
        found = check_channels(align_axes(repair_times(drop_impossible(replace(good, channels=channels)))))
    except UnusableRecording as refused:
        return name, size, str(refused)
    left = {n: (c.time_s.mean(), c.time_s[-1], c.value.mean(), c.value.std()) for n, c in found.channels.items()}
    return name, size, found.doubts, left


Fault = Callable[[dict[str, Channel], float], None]


def _times(*names: str) -> Fault:
    """Some channels too large by a factor."""

    def fault(channels: dict[str, Channel], size: float) -> None:
        for name in names:
            channels[name].value[:] *= size

    return fault


def _clock(channels: dict[str, Channel], size: float) -> None:
    for channel in channels.values():
        channel.time_s[:] *= size


def _clock_leaps(channels: dict[str, Channel], size: float) -> None:
    for channel in channels.values():
        channel.time_s[len(channel.time_s) // 3 :] += size


def _stands_still(channels: dict[str, Channel], size: float) -> None:
    """One place is repeated for some seconds."""
    for name in ("lat_rad", "lon_rad"):
        channels[name].value[3000 : 3000 + int(10 * size)] = channels[name].value[3000]


def _leaps(channels: dict[str, Channel], size: float) -> None:
    """One position in ``size`` lies half a kilometre off."""
    channels["lat_rad"].value[:: int(size)] += 8e-5


def _swapped(channels: dict[str, Channel], _size: float) -> None:
    channels["lat_rad"], channels["lon_rad"] = channels["lon_rad"], channels["lat_rad"]


def _lost_minus(channels: dict[str, Channel], size: float) -> None:
    for name in ("lat_rad", "lon_rad")[: int(size)]:
        channels[name].value[:] *= -1.0


def _late(channels: dict[str, Channel], size: float) -> None:
    for name in ("lat_rad", "lon_rad", "speed_mps", "course_rad"):
        channels[name].time_s[:] += size


def _clipped(channels: dict[str, Channel], size: float) -> None:
    for name in ("acc_x_mps2", "acc_y_mps2"):
        np.clip(channels[name].value, -size, size, out=channels[name].value)


def _dead(channels: dict[str, Channel], size: float) -> None:
    for name in ("yaw_rate_radps", "acc_y_mps2")[: int(size)]:
        channels[name].value[:] = 0.02


def _steep(channels: dict[str, Channel], size: float) -> None:
    channels["alt_m"].value[:] *= size


def _repeats(channels: dict[str, Channel], size: float) -> None:
    """Each value of the speed stands there some times."""
    value = channels["speed_mps"].value
    value[:] = np.repeat(value[:: int(size)], int(size))[: len(value)]


def _thinned(channels: dict[str, Channel], size: float) -> None:
    """Samples are missing here and there."""
    rng = np.random.default_rng(3)
    for name in ("acc_x_mps2", "acc_y_mps2", "acc_z_mps2", "yaw_rate_radps"):
        there = rng.random(len(channels[name].time_s)) >= size
        channels[name] = Channel(channels[name].time_s[there], channels[name].value[there])


def _turned(channels: dict[str, Channel], size: float) -> None:
    """The box is turned about its upright axis, by degrees."""
    ahead, left = channels["acc_x_mps2"].value.copy(), channels["acc_y_mps2"].value.copy()
    by = np.radians(size)
    channels["acc_x_mps2"].value[:] = ahead * np.cos(by) - left * np.sin(by)
    channels["acc_y_mps2"].value[:] = ahead * np.sin(by) + left * np.cos(by)


FAULTS: dict[str, tuple[Fault, tuple[float, ...]]] = {
    "clock": (_clock, (1e3, 1e6, 1e9, 60.0, 0.2)),
    "clock leaps": (_clock_leaps, (-30.0, 4.0, 600.0, 3500.0, 3700.0)),
    "stands still": (_stands_still, (2.0, 2.8, 3.2, 5.0, 20.0, 90.0)),
    "leaps": (_leaps, (2000.0, 400.0, 60.0, 45.0, 10.0)),
    "swapped": (_swapped, (1.0,)),
    "lost minus": (_lost_minus, (1.0, 2.0)),
    "speed": (_times("speed_mps"), (3.6, 1 / 3.6, 1.944, 2.237, 0.92, 0.955, 1.05, 1.3)),
    "course": (_times("course_rad"), (57.3, 1 / 57.3, -1.0, 0.5)),
    "yaw rate": (_times("yaw_rate_radps"), (57.3, -1.0, 30.0, 0.3)),
    "forward": (_times("acc_x_mps2"), (-1.0, 1 / 9.81, 9.81, 0.2)),
    "sideways": (_times("acc_y_mps2"), (-1.0, 1 / 9.81, 0.2)),
    "upright": (_times("acc_z_mps2"), (-1.0, 1 / 9.81, 9.81, 0.7, 1.3)),
    "all axes": (_times("acc_x_mps2", "acc_y_mps2", "acc_z_mps2"), (1 / 9.81, 9.81, 1e-3)),
    "late": (_late, (0.1, 0.3, 1.0, -0.4)),
    "clipped": (_clipped, (2.0, 5.0, 9.0)),
    "dead": (_dead, (1.0, 2.0)),
    "steep": (_steep, (3.0, 8.0, 30.0)),
    "repeats": (_repeats, (2.0, 4.0, 5.0, 8.0)),
    "thinned": (_thinned, (0.003, 0.007, 0.2, 0.6)),
    "turned": (_turned, (3.0, 8.0, 15.0, 90.0, 180.0)),
}

KEPT = {
    "said": said,
    "listened": listened,
    "mended": mended,
    "changed-books": changed_books,
    "changed-runs": changed_runs,
    "set-by-hand": set_by_hand,
}


if __name__ == "__main__":
    make_texts()
