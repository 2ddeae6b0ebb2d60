"""How right the call times from a sound are: voices over cars, by a generator that no fit has opened.

``python bench/listening.py [--open]`` makes the scenes (with the Debian packages espeak-ng and flite), finds the sound's clock and the calls, and
prints a table: starts within 0.3 and 0.2 s, false placements (also among the sure ones), late calls, notes left out, repeats, remarks,
how right the sureness is, and what it cost. With ``--open`` the scenes that were looked at while it was built.
"""

from __future__ import annotations

import sys
import time
from collections import defaultdict
from dataclasses import dataclass, field

import numpy as np

from mirkle.core.audio.calls import Listening, NotePriors, evidence_for, listen
from mirkle.core.audio.clock import sound_clock
from mirkle.core.audio.lengths import syllables_of
from mirkle.core.audio.repeats import repeats_told
from mirkle.core.audio.segments import Activity
from mirkle.files.audio.voice import FRAME_S, STEP_S, voice_of
from mirkle.files.notes.crew_profile import shipped_crew
from mirkle.files.notes.text import parse_notes
from rough.sound import Scene, scene

SCENES = (
    *(("English, 10 dB", {"number": n}) for n in range(500, 516)),
    *(("Portuguese, 10 dB", {"number": n, "language": "pt"}) for n in range(500, 512)),
    *(("English, 5 dB", {"number": n, "snr_db": 5.0}) for n in range(520, 526)),
    *(("cabin microphone, 10 dB", {"number": n, "cabin": True}) for n in range(530, 534)),
    *(("clipped", {"number": n, "clipped": True}) for n in range(540, 542)),
    *(("telephone, 8 dB", {"number": n, "codec": "opus", "snr_db": 8.0}) for n in range(550, 552)),
)


@dataclass
class Tally:
    """What was counted over the scenes of one kind."""

    off_s: list[float] = field(default_factory=list)
    placed: int = 0
    false: int = 0
    sure: int = 0
    sure_false: int = 0
    late: list[float] = field(default_factory=list)
    left_out: int = 0
    left_out_found: int = 0
    missed: int = 0
    again: int = 0
    again_found: int = 0
    talk: int = 0
    talk_found: int = 0
    sureness: list[tuple[float, bool]] = field(default_factory=list)
    clock_off_s: list[float] = field(default_factory=list)
    cpu_s: float = 0.0
    minutes: float = 0.0


def main() -> int:
    """Makes, listens, counts, prints."""
    held_out = "--open" not in sys.argv
    for without_road in (False, True):
        tallies: dict[str, Tally] = defaultdict(Tally)
        for kind, how in SCENES:
            _count(tallies[kind], scene(held_out=held_out, **how), without_road=without_road)  # type: ignore[arg-type]
        print("\nBy the order of the notes alone, without a road" if without_road else "\nWith a recording beside the sound")
        print(
            f"{'':24} notes  ≤0.3s  ≤0.2s  false  sure  of them false  late ≤0.5s  early  left out  said, missed  again  talk  clock s  CPU s/min"
        )
        for kind, t in tallies.items():
            off, late = np.array(t.off_s), np.array(t.late)
            clock = f"{np.max(np.abs(t.clock_off_s)):.2f}" if t.clock_off_s else "-"
            print(
                f"{kind:24} {len(off):5} {np.mean(off <= 0.3):6.1%} {np.mean(off <= 0.2):6.1%} {t.false / t.placed:6.1%} "
                f"{t.sure / t.placed:5.0%} {t.sure_false / max(t.sure, 1):14.1%} {np.sum(np.abs(late) <= 0.5):6}/{len(late):<3} "
                f"{np.sum(late < -0.5):5} {t.left_out_found:6}/{t.left_out:<3} {t.missed / len(off):12.1%} "
                f"{t.again_found:3}/{t.again:<3} {t.talk_found:2}/{t.talk:<2} {clock:>8} {t.cpu_s / t.minutes:9.2f}"
            )
        every = np.array([s for t in tallies.values() for s in t.sureness], float)
        for low, high in ((0, 0.5), (0.5, 0.8), (0.8, 0.95), (0.95, 1.01)):
            inside = (every[:, 0] >= low) & (every[:, 0] < high)
            if inside.any():
                print(f"sure {low:.2f} to {min(high, 1):.2f}: {inside.sum():4} calls, right {every[inside, 1].mean():.1%}")
    return 0


def _count(t: Tally, s: Scene, *, without_road: bool) -> None:
    crew = shipped_crew()
    book = parse_notes(s.book.encode(), name="book", crew=crew)
    syllables = syllables_of(book, next(la for la in crew.languages if la.code == book.language))
    began = time.process_time()
    voice = voice_of(iter([s.sound]))
    place_s = np.full(len(syllables), np.nan)
    if not without_road:
        # The recording's own clock: nobody tells how far the sound's is from it.
        true = s.start_s - s.run.start_s
        activity = Activity(evidence_for(voice.sure, FRAME_S, syllables)[0], FRAME_S)
        clock = sound_clock(activity, voice.loud_db, syllables, s.place_s - true, s.run.time_s, s.run.speed_mps)
        if clock is not None:
            t.clock_off_s.append(clock.sound_minus_run_s - true)
            place_s = s.place_s - true + clock.sound_minus_run_s
    found = repeats_told(listen(voice.sure, FRAME_S, NotePriors(syllables, place_s)), voice.cepstra, STEP_S)
    t.cpu_s += time.process_time() - began
    t.minutes += len(voice.sure) * FRAME_S / 60
    _score(t, s, found)


def _score(t: Tally, s: Scene, found: Listening) -> None:
    said = {i.note: i for i in s.items if i.kind == "note"}
    for call in found.calls:
        true = said.get(call.note)
        off = call.from_s - true.from_s if true is not None and call.was_heard else np.inf
        if true is not None:
            t.off_s.append(abs(off))
            t.missed += not call.was_heard
            if true.late:
                t.late.append(off)
        if call.was_heard:
            wrong = abs(off) > 1.0
            t.placed += 1
            t.false += wrong
            t.sure += not call.doubtful
            t.sure_false += wrong and not call.doubtful
            t.sureness.append((call.sure, abs(off) <= 0.3))
    t.left_out += len(s.left_out)
    t.left_out_found += sum(not found.calls[i].was_heard for i in s.left_out)
    for item in s.items:
        if item.kind == "again":
            t.again += 1
            t.again_found += any(abs(at - item.from_s) < 1.0 for _, at in found.again)
        elif item.kind == "talk" and item.from_s > s.start_s:
            t.talk += 1
            t.talk_found += any(abs(at - item.from_s) < 1.0 for at, _ in found.others)


if __name__ == "__main__":
    sys.exit(main())
