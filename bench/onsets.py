"""How near a spoken call's beginning is found, beside an engine: what Rehearse hears instead of a key.

``python bench/onsets.py [--open]`` makes scenes with the Debian packages espeak-ng and flite, from a generator and numbers that no fit has
opened (with ``--open``: those that were looked at), feeds them in as a microphone does, and prints how many beginnings after a pause
were found within 50 ms, missed, and invented.
"""

from __future__ import annotations

import sys

import numpy as np

from mirkle.files.audio.onset import VoiceOnsets
from rough.sound import Scene, scene

# A voice that begins so long after the last one ended is a call that begins; what comes sooner is its next word.
PAUSE_S = 0.6
MISSED_S = 0.4
# Samples that come in at a time, 30 ms.
PIECE = 480


def main() -> int:
    """Makes, hears, counts, prints."""
    held_out = "--open" not in sys.argv
    for language, numbers in (("en", range(500, 508)), ("pt", range(500, 504))):
        off, missed, invented, count = [], 0, 0, 0
        for number in numbers:
            one = scene(number, language=language, held_out=held_out, codec="none", length_m=1800.0)
            true, found = begins(one), heard(one.sound)
            nearest = np.array([found[np.argmin(np.abs(found - at))] - at for at in true])
            count += len(true)
            missed += int(np.sum(np.abs(nearest) > MISSED_S))
            off += nearest[np.abs(nearest) <= MISSED_S].tolist()
            invented += sum(not any(s.from_s - 0.3 <= at <= s.to_s + 0.3 for s in one.items) for at in found)
        away = np.abs(off)
        print(
            f"{language}: {np.sum(away <= 0.05)}/{count} within 50 ms ({np.sum(away <= 0.05) / count:.0%}), 90th percentile "
            f"{1000 * np.percentile(away, 90):.0f} ms, middle {1000 * np.median(off):+.0f} ms, missed {missed}, invented {invented}"
        )
    return 0


def begins(one: Scene) -> np.ndarray:
    """Where a voice begins after a pause, seconds of the sound."""
    items = sorted(one.items, key=lambda i: i.from_s)
    before = [-1.0, *np.maximum.accumulate([i.to_s for i in items])]
    return np.array([i.from_s for i, end in zip(items, before, strict=False) if i.from_s - end > PAUSE_S and i.from_s > 2.5])


def heard(sound: np.ndarray) -> np.ndarray:
    """What is heard while the sound comes in by and by."""
    onsets, out = VoiceOnsets(), []
    for at in range(0, len(sound), PIECE):
        out += onsets.feed(sound[at : at + PIECE])
    return np.array(out)


if __name__ == "__main__":
    sys.exit(main())
