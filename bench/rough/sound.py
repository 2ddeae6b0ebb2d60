"""In-car sound with its truth: a synthesised co-driver over a synthetic car, and what was said when.

Two generators: one to look at and to fit to, one that no fit has opened, with other voices (another synthesiser among them), another
engine and another way of calling. Voices breathe and shout less than people do; expect less there.
"""

from __future__ import annotations

import io
import shutil
import subprocess
import tempfile
import wave
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

import numpy as np

from mirkle.core.notes.language import Language
from mirkle.files.notes.languages import shipped_languages
from mirkle.synthetic.car import Drive, drive
from mirkle.synthetic.road import make_road

RATE_HZ = 16_000
# Voices as (synthesiser, name, words a minute, pitch 0-99): to look at, and kept.
OPEN = {
    "en": (
        ("espeak", "en-gb", 230, 45),
        ("espeak", "en-us+f3", 210, 60),
        ("espeak", "en-gb-scotland+m4", 250, 35),
        ("espeak", "en-gb-x-rp+m2", 220, 50),
    ),
    "pt": (("espeak", "pt", 220, 45), ("espeak", "pt-br+f2", 205, 60), ("espeak", "pt+m5", 240, 35)),
}
KEPT = {
    "en": (
        ("flite", "rms", 100, 50),
        ("flite", "slt", 100, 50),
        ("flite", "awb", 100, 50),
        ("espeak", "en-gb-x-gbclan+m7", 225, 40),
        ("espeak", "en-029+f5", 215, 55),
    ),
    "pt": (("espeak", "pt+f5", 215, 55), ("espeak", "pt-br+m7", 230, 40), ("espeak", "pt+m1", 225, 50)),
}
TALK = {
    "en": ("keep pushing", "that was wide", "careful with the tyres", "what was that", "we are losing time here", "easy now", "good good"),
    "pt": ("vamos embora", "essa foi larga", "cuidado com os pneus", "o que foi isto", "estamos a perder tempo", "calma agora", "boa boa"),
}
COUNTDOWN = {"en": "five four three two one go", "pt": "cinco quatro três dois um vai"}


@dataclass(frozen=True)
class Item:
    """Something that was said: ``note`` or ``again`` (with the note's number), ``talk``; from and to in seconds of the sound."""

    kind: str
    note: int | None
    from_s: float
    to_s: float
    words: str
    late: bool = False


@dataclass(frozen=True)
class Scene:
    """Sound at :data:`RATE_HZ`, the book, when the car came to each note's place on the sound's clock, and the truth."""

    sound: np.ndarray
    book: str
    place_s: np.ndarray
    start_s: float
    finish_s: float
    items: tuple[Item, ...]
    left_out: tuple[int, ...]
    language: str
    run: Drive


def scene(
    number: int,
    *,
    language: str = "en",
    held_out: bool = False,
    snr_db: float = 10.0,
    cabin: bool = False,
    codec: str = "aac",
    clipped: bool = False,
    late: float = 0.08,
    length_m: float = 3600.0,
) -> Scene:
    """One stretch of road called over a car."""
    rng = np.random.default_rng(91_000 + number + (500_000 if held_out else 0))
    spoken = next(la for la in shipped_languages() if la.code == language)
    road = make_road(rng, length_m=length_m, run_out_m=120.0)
    run = drive(rng, road, pace=float(rng.uniform(0.85, 1.05)), stands_s=14.0)
    voices = (KEPT if held_out else OPEN)[language]
    voice, driver = voices[number % len(voices)], voices[(number + 1) % len(voices)]
    offset = float(rng.uniform(-1.5, 1.5)) - float(run.time_s[0])
    at = [float(np.interp(c.from_m, run.distance_m, run.time_s)) + offset for c in road.corners]
    texts = _book(rng, [c.side for c in road.corners], [c.from_m for c in road.corners], [c.to_m for c in road.corners], spoken)
    start_s, finish_s = run.start_s + offset, run.finish_s + offset
    items, left_out = _called(rng, texts, np.array(at), start_s, voice, driver, language, late, held_out)
    total = int((finish_s + 8.0) * RATE_HZ)
    voiced = np.zeros(total)
    for item in items:
        said = _say(item.words, _speaker(item.kind, voice, driver))
        first = int(item.from_s * RATE_HZ)
        said = said[: max(total - first, 0)]
        loud = float(rng.uniform(0.8, 1.2)) * (0.6 if item.kind == "talk" else 1.0)
        voiced[first : first + len(said)] += loud * said
    noise = (_harsh if held_out else _plain)(rng, run, offset, total)
    if cabin:
        voiced = _echoing(rng, voiced)
    else:
        voiced, noise = _band(voiced, 300, 3400), _band(noise, 250, 3600)
    speaking = np.abs(voiced) > 1e-4
    gain = np.sqrt(np.mean(voiced[speaking] ** 2) / np.mean(noise**2)) * 10 ** (-snr_db / 20)
    mixed = voiced + gain * noise
    mixed *= (1.6 if clipped else 0.7) / np.percentile(np.abs(mixed), 99.9)
    sound = _coded((np.clip(mixed, -1, 1) * 32767).astype(np.int16), codec)
    return Scene(sound, "\n".join(t for t, _ in texts), np.array(at), start_s, finish_s, tuple(items), tuple(left_out), language, run)


def _book(rng: np.random.Generator, sides: list[int], from_m: list[float], to_m: list[float], language: Language) -> list[tuple[str, str]]:
    """The notes as they are written, numbers in figures, and as they are said."""

    def term(kind: str, key: str) -> str:
        return next(t for t in language.terms if t.kind == kind and t.key == key).said[0]

    out = []
    for i, side in enumerate(sides):
        grade = str(rng.integers(1, 7))
        words = [term("direction", "left" if side > 0 else "right"), grade]
        if rng.random() < 0.3:
            words.append(term("length", str(rng.choice(["long", "short"]))))
        if rng.random() < 0.15:
            words.append(term("change", str(rng.choice(["tightens", "opens"]))))
        if rng.random() < 0.12:
            words.append(term("line", "dont-cut") if any(t.key == "dont-cut" for t in language.terms) else term("caution", "caution"))
        if rng.random() < 0.1:
            words.append(term("caution", "caution"))
        gap = from_m[i + 1] - to_m[i] if i + 1 < len(sides) else 100
        words.append(term("link", "into") if gap < 18 else str(max(round(gap / 10) * 10, 20)))
        said = " ".join(language.number_forms.get(w, (w,))[0] if w.isdecimal() else w for w in words)
        out.append((" ".join(words), said))
    return out


def _called(
    rng: np.random.Generator,
    texts: list[tuple[str, str]],
    at: np.ndarray,
    start_s: float,
    voice: tuple[Any, ...],
    driver: tuple[Any, ...],
    language: str,
    late: float,
    held_out: bool,
) -> tuple[list[Item], list[int]]:
    lead, scatter = float(rng.uniform(2.8, 4.0)), 0.3 if not held_out else 0.45
    items: list[Item] = []
    left_out: list[int] = []
    free = 0.5

    def put(kind: str, note: int | None, when: float, words: str, *, is_late: bool = False) -> None:
        nonlocal free
        length = _length_s(words, _speaker(kind, voice, driver))
        begin = max(when, free)
        items.append(Item(kind, note, begin, begin + length, words, is_late))
        free = begin + length + float(rng.uniform(0.02, 0.25))

    if rng.random() < 0.7:
        for _, said in texts[:2]:
            put("talk", None, free, said)
    put("talk", None, max(start_s - 5.4, free), COUNTDOWN[language])
    for i, (_, said) in enumerate(texts):
        if i > 2 and rng.random() < 0.05:
            left_out.append(i)
            continue
        is_late = i > 3 and rng.random() < late
        when = at[i] - (float(rng.uniform(-0.3, 1.2)) if is_late else lead + float(rng.normal(0, scatter)))
        begun = max(when, free)
        put("note", i, when, said, is_late=is_late and at[i] - begun < lead - 1.0)
        room = (at[i + 1] - lead - free) if i + 1 < len(at) else 9.0
        if room > 1.3 and rng.random() < 0.06:
            put("again", i, free + float(rng.uniform(0.25, 0.7)), said)
        elif room > 2.2 and rng.random() < 0.12:
            put("talk", None, free + float(rng.uniform(0.3, max(room - 1.8, 0.4))), str(rng.choice(TALK[language])))
    return items, left_out


def _speaker(kind: str, voice: tuple[str, str, int, int], driver: tuple[str, str, int, int]) -> tuple[str, str, int, int]:
    """Who says it and how: nobody says a thing again as he said it before, but quicker and higher."""
    if kind == "talk":
        return driver
    return voice if kind != "again" else (voice[0], voice[1], round(voice[2] * 1.12), min(voice[3] + 7, 99))


@cache
def _say(words: str, voice: tuple[str, str, int, int]) -> np.ndarray:
    """Words as a voice says them, without the silence around them, at an even loudness."""
    synthesiser, name, rate, pitch = voice
    if synthesiser == "flite":
        with tempfile.TemporaryDirectory() as folder:
            out = Path(folder) / "said.wav"
            subprocess.run(
                ["flite", "-voice", name, "--setf", f"duration_stretch={0.72 * 100 / rate:.3f}", "-t", words, "-o", str(out)],
                check=True,
                capture_output=True,
            )
            said, hz = _wave(out.read_bytes())
    else:
        with tempfile.TemporaryDirectory() as folder:
            out = Path(folder) / "said.wav"
            subprocess.run(
                [_espeak(), "-v", name, "-s", str(rate), "-p", str(pitch), "-w", str(out), words], check=True, capture_output=True
            )
            said, hz = _wave(out.read_bytes())
    at = np.arange(0, len(said), hz / RATE_HZ)
    said = np.interp(at, np.arange(len(said)), said)
    there = np.flatnonzero(np.abs(said) > 0.02 * np.abs(said).max())
    said = said[there[0] : there[-1] + 1]
    return np.asarray(said / np.sqrt(np.mean(said**2)) * 0.1)


def _espeak() -> str:
    found = shutil.which("espeak-ng")
    if found is None:
        raise RuntimeError("espeak-ng and flite are needed to make these voices")
    return found


def _wave(content: bytes) -> tuple[np.ndarray, int]:
    with wave.open(io.BytesIO(content)) as file:
        return np.frombuffer(file.readframes(file.getnframes()), "<i2").astype(float) / 32768, file.getframerate()


def _length_s(words: str, voice: tuple[str, str, int, int]) -> float:
    return len(_say(words, voice)) / RATE_HZ


def _speed(run: Drive, offset: float, total: int) -> np.ndarray:
    return np.interp(np.arange(total) / RATE_HZ - offset, run.time_s, run.speed_mps)


def _plain(rng: np.random.Generator, run: Drive, offset: float, total: int) -> np.ndarray:
    """An engine of even orders through six gears, and gravel that grows with speed."""
    v = _speed(run, offset, total)
    gear = np.clip((v / 8).astype(int), 0, 5)
    turning_hz = np.where(v < 1, 20.0, 45.0 + 75.0 * (v - 8 * gear) / 8)
    phase = 2 * np.pi * np.cumsum(turning_hz) / RATE_HZ
    engine = sum(a * np.sin(k * phase + rng.uniform(0, 6)) for k, a in ((1, 0.5), (2, 1.0), (4, 0.6), (6, 0.4), (8, 0.2)))
    gravel = _band(rng.normal(0, 1, total), 400, 5000)
    return np.asarray((0.3 + 0.7 * np.minimum(v / 15, 1)) * engine + (v / 25) ** 1.5 * 1.2 * gravel)


def _harsh(rng: np.random.Generator, run: Drive, offset: float, total: int) -> np.ndarray:
    """A hoarse engine of odd and half orders with bangs on the overrun, a whining gearbox, stones against the floor."""
    v = _speed(run, offset, total)
    gear = np.clip((v / 6.5).astype(int), 0, 6)
    turning_hz = np.where(v < 1, 25.0, 55.0 + 60.0 * (v - 6.5 * gear) / 6.5) * (
        1 + 0.01 * np.interp(np.arange(total), np.arange(0, total, 800), rng.normal(0, 1, -(-total // 800)))
    )
    phase = 2 * np.pi * np.cumsum(turning_hz) / RATE_HZ
    engine = np.tanh(
        1.5 * sum(a * np.sin(k * phase + rng.uniform(0, 6)) for k, a in ((0.5, 0.4), (1.5, 0.8), (2, 0.8), (3, 0.5), (4.5, 0.4)))
    )
    whine = 0.25 * np.sin(23.0 * phase) * np.minimum(v / 10, 1)
    slower = np.gradient(v) * RATE_HZ < -2.0
    stones = np.zeros(total)
    for at in rng.integers(0, total - 400, int(total / RATE_HZ * 5)):
        stones[at : at + 400] += (3.0 if slower[at] else 1.0) * min(v[at] / 15, 1.5) * rng.normal(0, 1, 400) * np.exp(-np.arange(400) / 60)
    rough = np.cumsum(rng.normal(0, 1, total))
    rough = _band(rough - np.mean(rough), 120, 4500)
    return (
        (0.4 + 0.6 * np.minimum(v / 12, 1)) * engine
        + whine
        + 1.2 * stones
        + np.minimum(v / 20, 1.5) * 4.0 * rough / (np.std(rough) + 1e-9) * 0.25
    )


def _band(sound: np.ndarray, low_hz: float, high_hz: float) -> np.ndarray:
    spectrum = np.fft.rfft(sound)
    hz = np.fft.rfftfreq(len(sound), 1 / RATE_HZ)
    spectrum *= 1 / (1 + (low_hz / np.maximum(hz, 1e-3)) ** 4) / (1 + (hz / high_hz) ** 8)
    return np.fft.irfft(spectrum, len(sound))


def _echoing(rng: np.random.Generator, voiced: np.ndarray) -> np.ndarray:
    """A voice as a microphone in the cabin hears it, off the windscreen and the roof."""
    tail = rng.normal(0, 1, int(0.12 * RATE_HZ)) * np.exp(-np.arange(int(0.12 * RATE_HZ)) / (0.03 * RATE_HZ))
    tail[0] = 3.0
    count = len(voiced) + len(tail)
    return _band(np.fft.irfft(np.fft.rfft(voiced, count) * np.fft.rfft(tail, count), count)[: len(voiced)], 150, 6000)


def _coded(sound: np.ndarray, codec: str) -> np.ndarray:
    """The sound through a telephone's or a camera's codec and back."""
    if codec == "none":
        return sound
    import av

    from mirkle.files.audio.voice import samples_of

    name, suffix, rate = {"aac": ("aac", "mp4", 48_000), "opus": ("libopus", "ogg", 14_000)}[codec]
    with tempfile.TemporaryDirectory() as folder:
        out = str(Path(folder) / f"sound.{suffix}")
        with av.open(out, "w") as file:
            stream: Any = file.add_stream(name, rate=RATE_HZ, layout="mono")
            stream.bit_rate = rate
            for first in range(0, len(sound), 1024):
                frame = av.AudioFrame.from_ndarray(sound[first : first + 1024].reshape(1, -1), format="s16", layout="mono")
                frame.rate, frame.pts = RATE_HZ, first
                file.mux(stream.encode(frame))
            file.mux(stream.encode(None))
        return np.concatenate(list(samples_of(Path(out))))
