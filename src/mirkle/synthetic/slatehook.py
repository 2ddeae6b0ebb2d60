"""The demo stage "Slatehook", car 27: quarry roads on an invented island. Run this module to make its files again."""

from __future__ import annotations

import gzip
import json
from dataclasses import asdict, replace
from pathlib import Path

import numpy as np

from mirkle.files.demo_files import AFTERNOON, AFTERNOON_CALLS, BLOCKS, CALLS, CORRECTED, MORNING, NOTES, PLANTED, demo_folder
from mirkle.files.speech.timed_text import timed_blocks, webvtt_time
from mirkle.synthetic.car import Drive, drive
from mirkle.synthetic.crew import SyntheticNotes, plant_slips, spoken, write_book
from mirkle.synthetic.recorder import Recorder, record
from mirkle.synthetic.road import TrueRoad, make_road

SEED = 7005
LENGTH_M = 14_200.0
# The grades that were changed over lunch, in grades off the honest ones: two are right, one went too far, one not far enough. What
# else was planted stays as it was.
CHANGED = {"grade-two-too-fast": (0, 1), "grade-one-too-fast": (-1, 0), "grade-two-too-slow": (0, None)}
OFF = {"grade-two-too-fast": 2, "grade-one-too-fast": 1, "grade-two-too-slow": -2}
WORDY_EACH, ROOM_M = 3, 80
WORDY = (
    "dc stones inside keep in",
    "past barn rocks outside",
    "over bridge slippery dc",
    "past gate keep in rocks inside",
    "caut logs outside dc keep in",
    "dc stones inside ditch outside",
    "past house keep out",
    "slippery past wall dc",
)
# Seconds of one block of the morning's words.
BLOCK_S = 30.0


def make_demo(seed: int = SEED) -> dict[str, bytes]:
    """Every file of the demo by name, the same bytes each time."""
    rng = np.random.default_rng(seed)
    road = make_road(rng, length_m=LENGTH_M)
    flat_tyre = (12_050.0, 12_650.0)
    morning = drive(rng, road, pace=1.0, stands_s=21.0, slow_part=flat_tyre)
    afternoon = drive(rng, road, pace=1.07, stands_s=14.0)
    book = wordy(plant_slips(rng, write_book(rng, road), morning.jumps))
    runs = {
        MORNING: record(rng, morning, Recorder(outages_s=((212.0, 216.5),))),
        AFTERNOON: record(rng, afternoon, Recorder(outages_s=((301.0, 307.0),), yaw_bias_dps=-0.2, tilt_g=(0.03, -0.04))),
    }
    planted = {
        "format": "slatehook-planted/1",
        "stage": {"finish_m": LENGTH_M, "start_s": morning.start_s, "finish_s": round(morning.finish_s, 3)},
        "does_not_count": [{"from_m": flat_tyre[0], "to_m": flat_tyre[1], "reason": "flat tyre"}],
        "jumps": [{k: round(v, 3) for k, v in asdict(j).items()} for j in morning.jumps],
        "calls_minus_run_s": 11.4,
        "slips": [asdict(p) for p in book.planted],
    }
    files = {name: gzip.compress(text.encode(), mtime=0) for name, text in runs.items()}
    files[NOTES] = book.lines().encode()
    files[CALLS] = spoken(rng, book, morning, clock_s=11.4, damage=0.05).encode()
    files[BLOCKS] = in_blocks(files[CALLS].decode(), BLOCK_S).encode()
    files[PLANTED] = (json.dumps(planted, indent=1) + "\n").encode()
    lunch = corrected(book)
    files[CORRECTED] = lunch.lines().encode()
    files[AFTERNOON_CALLS] = spoken(np.random.default_rng(seed + 1), lunch, afternoon, clock_s=7.9, damage=0.05).encode()
    return files


def third_pass(seed: int = SEED) -> tuple[TrueRoad, Drive, str]:
    """The road, the third drive on it, and what was called on it, on its own clock: by the book that was read in the afternoon."""
    rng = np.random.default_rng(seed)
    road = make_road(rng, length_m=LENGTH_M)
    morning = drive(rng, road, pace=1.0, stands_s=21.0, slow_part=(12_050.0, 12_650.0))
    drive(rng, road, pace=1.07, stands_s=14.0)
    lunch = corrected(wordy(plant_slips(rng, write_book(rng, road), morning.jumps)))
    fresh = np.random.default_rng(seed + 2)
    third = drive(fresh, road, pace=1.04, stands_s=12.0)
    return road, third, spoken(fresh, lunch, third, clock_s=0.0, damage=0.0)


def wordy(book: SyntheticNotes) -> SyntheticNotes:
    """The book with as many words on some of its notes as most crews write: where the road leaves time to say them."""
    plain = [n for n in book.notes if n.corner is not None and not n.extra and n.gap.isdigit() and int(n.gap) >= ROOM_M]
    for note, words in zip(plain[1::WORDY_EACH], WORDY, strict=False):
        note.after = words
    return book


def corrected(book: SyntheticNotes) -> SyntheticNotes:
    """The book after lunch: the first and the second grade that was planted wrong of each kind, as :data:`CHANGED` has it."""
    notes = [replace(note) for note in book.notes]
    left = {slip: list(to) for slip, to in CHANGED.items()}
    for slip in book.planted:
        to = left[slip.slip].pop(0) if left.get(slip.slip) else None
        if to is not None:
            notes[slip.note].grade = str(int(notes[slip.note].grade) - OFF[slip.slip] + to)
    for slip in book.planted:
        if slip.slip == "wrong-direction":
            notes[slip.note].side = -notes[slip.note].side
        # The afternoon's words come as they are written, and in time.
        notes[slip.note].said, notes[slip.note].lead_s = "", None
    return SyntheticNotes(notes)


def in_blocks(timed_text: str, seconds: float) -> str:
    """The same words in cues of a given number of seconds each."""
    text, cues = timed_blocks(timed_text, name="calls")
    blocks: dict[int, list[str]] = {}
    for cue in cues:
        words = " ".join(text[cue.span.start : cue.span.end].split())
        blocks.setdefault(int(cue.start_s // seconds), []).append(words)
    lines = [f"{webvtt_time(n * seconds)} --> {webvtt_time((n + 1) * seconds)}\n{' '.join(w)}\n" for n, w in blocks.items()]
    return "WEBVTT\n\n" + "\n".join(lines)


def write_demo(folder: Path) -> None:
    """Writes every file of the demo into a folder."""
    folder.mkdir(parents=True, exist_ok=True)
    for name, content in make_demo().items():
        (folder / name).write_bytes(content)


if __name__ == "__main__":
    write_demo(demo_folder())
