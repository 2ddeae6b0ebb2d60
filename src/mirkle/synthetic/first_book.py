"""The demo of a first book: the short stage "Kiln Lane" from a slow pass to a corrected book, by the crew of car 27, which writes two
grades a grade too fast and says so behind the finish. Run this module to make its files again."""

from __future__ import annotations

import gzip
from dataclasses import replace
from pathlib import Path

import numpy as np

from mirkle.files.demo_files import (
    FIRST_BOOK,
    FIRST_BOOK_CALLS,
    FIRST_BOOK_CORRECTED,
    FIRST_BOOK_REPORTS,
    FIRST_BOOK_RUN,
    FIRST_BOOK_SECOND,
    FIRST_BOOK_SECOND_CALLS,
    FIRST_BOOK_SLOW,
    demo_folder,
)
from mirkle.files.speech.timed_text import webvtt_time
from mirkle.synthetic.car import Drive, drive
from mirkle.synthetic.crew import SyntheticNotes, position_of, spoken, write_book
from mirkle.synthetic.recorder import Recorder, record
from mirkle.synthetic.road import make_road

SEED, LENGTH_M, ORIGIN = 4132, 3_300.0, (44.205, -33.602)
LINES_A_PAGE = 14
# The words' clock reads this much more than the recording's (s), on either pass.
CLOCKS_S = (6.2, 9.1)
# Which corners are written a grade too fast: clear bends, by how far they turn (degrees), in the middle of the stage.
CLEAR_DEG, FASTEST_WRITTEN = 35.0, 4
# And where rounding did not hide half of it (grades).
ROUNDED_UP = -0.2
REPORTS = "km 1.1 to 1.4, mud, a little\nkm 2.3 to 2.6, ice, more than this morning\n"


def make_first_book() -> dict[str, bytes]:
    """Every file of the stage by name, the same bytes each time."""
    rng = np.random.default_rng(SEED)
    road = make_road(rng, length_m=LENGTH_M)
    slow = drive(rng, road, pace=0.55, stands_s=15.0)
    first = drive(rng, road, pace=1.0, stands_s=18.0)
    second = drive(rng, road, pace=1.04, stands_s=14.0)
    honest = write_book(rng, road)
    wrong = two_too_fast(honest)
    written = SyntheticNotes([replace(n, grade=str(int(n.grade) + 1)) if i in wrong else n for i, n in enumerate(honest.notes)])
    runs = {FIRST_BOOK_SLOW: slow, FIRST_BOOK_RUN: first, FIRST_BOOK_SECOND: second}
    files = {name: gzip.compress(record(rng, run, Recorder(origin=ORIGIN)).encode(), mtime=0) for name, run in runs.items()}
    files[FIRST_BOOK] = written.lines(lines_a_page=LINES_A_PAGE).encode()
    files[FIRST_BOOK_CORRECTED] = honest.lines(lines_a_page=LINES_A_PAGE).encode()
    files[FIRST_BOOK_REPORTS] = REPORTS.encode()
    calls = spoken(rng, written, first, clock_s=CLOCKS_S[0], damage=0.0)
    files[FIRST_BOOK_CALLS] = (calls + debrief(honest, wrong, first)).encode()
    files[FIRST_BOOK_SECOND_CALLS] = spoken(rng, honest, second, clock_s=CLOCKS_S[1], damage=0.0).encode()
    return files


def two_too_fast(book: SyntheticNotes) -> list[int]:
    """The notes that the crew writes a grade too fast: the first and the last clear bend of the middle of the stage."""
    middle = range(len(book.notes) // 5, 4 * len(book.notes) // 5)
    clear = []
    for i in middle:
        note = book.notes[i]
        corner = note.corner
        plain = corner is not None and note.grade.isdigit() and not note.change and corner.turn_deg > CLEAR_DEG
        if corner is not None and plain and int(note.grade) <= FASTEST_WRITTEN and int(note.grade) - position_of(corner) > ROUNDED_UP:
            clear.append(i)
    return [clear[0], clear[-1]]


def debrief(honest: SyntheticNotes, wrong: list[int], run: Drive) -> str:
    """What both say behind the finish: what the two notes should be, and what names no note."""
    said = [f"page {i // LINES_A_PAGE + 1} line {i % LINES_A_PAGE + 1} should be a {honest.notes[i].grade}" for i in wrong]
    lines, at_s = [], run.finish_s + CLOCKS_S[0] + 4.0
    for words in (*said, "the tyres were cold and it was slower than it felt"):
        lines.append(f"\n{webvtt_time(at_s)} --> {webvtt_time(at_s + 3.0)}\n{words}\n")
        at_s += 6.0
    return "".join(lines)


def write_first_book(folder: Path) -> None:
    """Writes every file of the stage into a folder."""
    for name, content in make_first_book().items():
        (folder / name).write_bytes(content)


if __name__ == "__main__":
    write_first_book(demo_folder())
