"""A stand-in for the sound in the car: the demo's calls spoken by a synthesiser over a quiet engine.

``make demo-sound`` writes the shipped file again, with the packages of ``requirements/sound.in``: the synthesiser as a library, and
an encoder.
"""

from __future__ import annotations

import ctypes
import io
import sys

import numpy as np

from mirkle.core.recording.model import Floats
from mirkle.files import demo_files
from mirkle.files.speech.timed_text import timed_blocks

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
    voice = Voice()
    for at, words in cues:
        said = voice.say(words)
        first = int(at * RATE_HZ)
        end = min(len(sound), first + len(said))
        sound[first:end] += 0.8 * said[: end - first]
    return np.clip(sound, -1.0, 1.0)


class Voice:
    """The synthesiser, by its own C interface (speak_lib.h): it hands the samples over as it makes them."""

    RETRIEVAL, RATE, UTF8 = 2, 1, 1

    def __init__(self, name: str = "en-gb", words_a_minute: int = WORDS_A_MINUTE) -> None:
        import espeakng_loader

        self._library = ctypes.CDLL(espeakng_loader.get_library_path())
        data = espeakng_loader.get_data_path().encode()
        self._rate_hz = self._library.espeak_Initialize(self.RETRIEVAL, 0, data, 0)
        self._parts: list[Floats] = []
        kind = ctypes.CFUNCTYPE(ctypes.c_int, ctypes.POINTER(ctypes.c_short), ctypes.c_int, ctypes.c_void_p)
        # The library calls it for as long as it lives.
        self._take = kind(self._taken)
        self._library.espeak_SetSynthCallback(self._take)
        self._library.espeak_SetVoiceByName(name.encode())
        self._library.espeak_SetParameter(self.RATE, words_a_minute, 0)

    def _taken(self, samples: ctypes.Array[ctypes.c_short], count: int, _events: object) -> int:
        if count > 0:
            self._parts.append(np.ctypeslib.as_array(samples, (count,)).astype(float) / 32768.0)
        return 0

    def say(self, words: str) -> Floats:
        """Words as sound at :data:`RATE_HZ`, -1 to 1; (n,)."""
        self._parts.clear()
        text = words.encode()
        self._library.espeak_Synth(text, len(text) + 1, 0, 0, 0, self.UTF8, None, None)
        self._library.espeak_Synchronize()
        samples = np.concatenate(self._parts) if self._parts else np.zeros(0)
        at = np.arange(0, len(samples), self._rate_hz / RATE_HZ)
        return np.interp(at, np.arange(len(samples)), samples)


def opus(sound: Floats, bits_a_second: int = 12_000) -> bytes:
    """Sound at :data:`RATE_HZ` as Ogg Opus, mono."""
    import av

    out = io.BytesIO()
    with av.open(out, "w", format="ogg") as file:
        stream = file.add_stream("libopus", rate=RATE_HZ)
        stream.bit_rate, stream.layout = bits_a_second, "mono"
        stream.options = {"application": "voip"}
        for first in range(0, len(sound), 960):
            samples = (sound[first : first + 960] * 32767).astype("<i2").reshape(1, -1)
            frame = av.AudioFrame.from_ndarray(samples, format="s16", layout="mono")
            frame.rate, frame.pts = RATE_HZ, first
            file.mux(stream.encode(frame))
        file.mux(stream.encode(None))
    return out.getvalue()


def main() -> int:
    """Writes the demo's sound as Opus."""
    sound = spoken_calls(demo_files.demo_file(demo_files.CALLS).decode())
    (demo_files.demo_folder() / demo_files.SOUND).write_bytes(opus(sound))
    return 0


if __name__ == "__main__":
    sys.exit(main())
