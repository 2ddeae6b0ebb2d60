"""A stand-in for the sound in the car: the demo's calls spoken by a synthesiser over a quiet engine.

``make demo-sound`` writes the shipped file again; it needs the programs ``espeak-ng`` and ``opusenc``.
"""

from __future__ import annotations

import subprocess
import sys
import tempfile
import wave
from pathlib import Path

import numpy as np

from mirkle.core.motion.recording import Floats
from mirkle.files.timed_text import timed_blocks
from mirkle.standins import slatehook

RATE_HZ = 16_000
WORDS_A_MINUTE = 215


def spoken_calls(text: str) -> Floats:
    """The calls of a timed text as sound at :data:`RATE_HZ`, each from its own time on, -1 to 1; (n,)."""
    text, blocks = timed_blocks(text, name="calls")
    cues = [(b.start_s, " ".join(text[b.span.start : b.span.end].split())) for b in blocks]
    rng = np.random.default_rng(27)
    sound = np.zeros(int((max(at for at, _ in cues) + 8.0) * RATE_HZ))
    # An engine and gravel, far off: a rumble that comes and goes.
    rumble = np.convolve(rng.normal(0, 1, len(sound)), np.ones(160) / 160, mode="same")
    sound += 0.02 * rumble / max(float(np.abs(rumble).max()), 1e-9)
    with tempfile.TemporaryDirectory() as folder:
        for at, words in cues:
            said = _said(words, Path(folder) / "w.wav")
            first = int(at * RATE_HZ)
            end = min(len(sound), first + len(said))
            sound[first:end] += 0.8 * said[: end - first]
    return np.clip(sound, -1.0, 1.0)


def _said(words: str, file: Path) -> Floats:
    command = ["espeak-ng", "-v", "en-gb", "-s", str(WORDS_A_MINUTE), "-w", str(file), words]
    subprocess.run(command, check=True, capture_output=True)
    with wave.open(str(file)) as wav:
        rate = wav.getframerate()
        samples = np.frombuffer(wav.readframes(wav.getnframes()), dtype="<i2") / 32768.0
    at = np.arange(0, len(samples), rate / RATE_HZ)
    return np.interp(at, np.arange(len(samples)), samples)


def main() -> int:
    """Writes the demo's sound as Opus."""
    target = Path(__file__).parent / "demo" / slatehook.SOUND
    sound = spoken_calls(slatehook.demo_file(slatehook.CALLS).decode())
    with tempfile.TemporaryDirectory() as folder:
        plain = Path(folder) / "calls.wav"
        with wave.open(str(plain), "wb") as wav:
            wav.setnchannels(1)
            wav.setsampwidth(2)
            wav.setframerate(RATE_HZ)
            wav.writeframes((sound * 32767).astype("<i2").tobytes())
        encode = ["opusenc", "--quiet", "--speech", "--bitrate", "12", "--discard-comments", str(plain), str(target)]
        subprocess.run(encode, check=True)
    return 0


if __name__ == "__main__":
    sys.exit(main())
