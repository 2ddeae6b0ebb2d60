"""The demo rally: three short stages on the invented island, one of them driven twice, by the crew of car 27, which writes its lefts half a
grade too easy. Run this module to make its files again."""

from __future__ import annotations

import gzip
import zlib
from pathlib import Path

import numpy as np

from mirkle.files.demo_files import DRIVEN_AGAIN, RALLY_NOTES, RALLY_RUN, RALLY_SECOND, RALLY_STAGES, demo_folder
from mirkle.synthetic.car import drive
from mirkle.synthetic.crew import plant_few_slips, write_book
from mirkle.synthetic.recorder import Recorder, record
from mirkle.synthetic.road import make_road

LENGTHS_M = (4_600.0, 5_200.0, 4_200.0)
# By how many grades this crew's lefts are written easier than they are.
LEFTS = 0.5
# The stages lie apart on the island (latitude, longitude).
ORIGINS = ((44.262, -33.541), (44.231, -33.447), (44.174, -33.561))


def make_rally() -> dict[str, bytes]:
    """Every file of the rally by name, the same bytes each time."""
    files: dict[str, bytes] = {}
    for (name, stem), length_m, origin in zip(RALLY_STAGES.items(), LENGTHS_M, ORIGINS, strict=True):
        rng = np.random.default_rng(zlib.crc32(stem.encode()))
        road = make_road(rng, length_m=length_m)
        first = drive(rng, road, pace=1.0, stands_s=18.0)
        book = write_book(rng, road, lefts=LEFTS)
        if name != DRIVEN_AGAIN:
            book = plant_few_slips(rng, book)
        files[RALLY_NOTES.format(stem)] = book.lines().encode()
        runs = {RALLY_RUN: first}
        if name == DRIVEN_AGAIN:
            runs[RALLY_SECOND] = drive(rng, road, pace=1.05, stands_s=15.0)
        for file, run in runs.items():
            files[file.format(stem)] = gzip.compress(record(rng, run, Recorder(origin=origin)).encode(), mtime=0)
    return files


def write_rally(folder: Path) -> None:
    """Writes every file of the rally into a folder."""
    for name, content in make_rally().items():
        (folder / name).write_bytes(content)


if __name__ == "__main__":
    write_rally(demo_folder())
