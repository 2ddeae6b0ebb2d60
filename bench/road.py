"""From a recording's file to its road, and from notes to findings, by the length of the stage.

    make bench        (or: python bench/road.py [KILOMETRES …])

Each length runs in a process of its own, start-up left out: the best of five rounds, since what else a machine does only
ever adds. The last column says how much dearer a kilometre is than on the first length: 1.0 is linear growth.
"""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import numpy as np

from memory import peak_mb
from mirkle.synthetic.car import drive
from mirkle.synthetic.crew import write_book
from mirkle.synthetic.recorder import Recorder, record
from mirkle.synthetic.road import make_road

ROUNDS = 5
KILOMETRES = (5, 10, 20, 40, 80)
# What is promised for 38 km at 100 Hz, and for 400 notes against 40 km.
ROAD_S, PAIRING_S, PIN_S, MEMORY_MB = 1.5, 0.5, 0.15, 400.0
# A kilometre of a long stage may cost so much of one of a short stage and still be called linear.
LINEAR = 1.5


def main() -> int:
    """Prints the table; 1 if a promise is broken."""
    if len(sys.argv) == 3 and sys.argv[1] == "one":
        print(json.dumps(measured(Path(sys.argv[2]))))
        return 0
    lengths = [int(a) for a in sys.argv[1:]] or list(KILOMETRES)
    print(f"{'km':>4} {'rows':>8} {'notes':>6} {'parse':>8} {'to road':>8} {'ratio':>6} {'review':>8} {'pin':>8} {'memory':>8} {'a km':>6}")
    kept, first = True, 0.0
    with tempfile.TemporaryDirectory() as name:
        for km in lengths:
            r = _of_length(Path(name) / str(km), km)
            each = r["road_s"] / km
            first = first or each
            print(
                f"{km:4d} {r['rows']:8.0f} {r['notes']:6.0f} {r['parse_s']:6.2f} s {r['road_s']:6.2f} s "
                f"{r['road_s'] / r['parse_s']:6.1f} {r['review_s']:6.2f} s {r['pin_s'] * 1000:5.0f} ms "
                f"{r['memory_mb']:5.0f} MB {each / first:6.2f}"
            )
            kept &= each / first < LINEAR
            if km == 40:
                promises = {
                    "road": (r["road_s"], ROAD_S * 40 / 38),
                    "review": (r["review_s"], PAIRING_S),
                    "pin": (r["pin_s"], PIN_S),
                    "memory": (r["memory_mb"], MEMORY_MB * 40 / 38),
                }
                for what, (value, limit) in promises.items():
                    kept &= value <= limit
                    print(f"     {what}: {value:.3g} of {limit:.3g} {'kept' if value <= limit else 'BROKEN'}")
    return 0 if kept else 1


def _of_length(folder: Path, km: int) -> dict[str, float]:
    rng = np.random.default_rng(km)
    road = make_road(rng, length_m=1000.0 * km)
    run = drive(rng, road, pace=1.0, stands_s=20.0)
    folder.mkdir()
    (folder / "notes.txt").write_text(write_book(rng, road).lines())
    (folder / "run.csv").write_text(record(rng, run, Recorder(position_hz=20.0, inertial_hz=100.0)))
    done = subprocess.run([sys.executable, __file__, "one", str(folder)], check=True, capture_output=True, text=True)
    return dict(json.loads(done.stdout.splitlines()[-1]))


def measured(folder: Path) -> dict[str, float]:
    """The best of the rounds on the stage in a folder, in seconds and megabytes."""
    from mirkle.core.lineup.called_notes import Pin
    from mirkle.core.overrides import HandPin, HandPlace, ManualOverrides
    from mirkle.core.review import CrewNotes, measure_run, review_again, review_run
    from mirkle.files.notes.crew_profile import shipped_crew
    from mirkle.files.notes.text import parse_notes
    from mirkle.files.recordings.readers import parse_run

    content, crew = (folder / "run.csv").read_bytes(), shipped_crew()
    reading = parse_notes((folder / "notes.txt").read_bytes(), name="notes")
    times: dict[str, list[float]] = {"parse_s": [], "road_s": [], "review_s": [], "pin_s": []}
    for _ in range(ROUNDS):
        began = time.perf_counter()
        recording = parse_run(content, name="run")
        parsed = time.perf_counter()
        measured_run = measure_run(recording)
        road = measured_run.road
        there = time.perf_counter()
        review = review_run(measured_run, CrewNotes(reading, crew))
        reviewed = time.perf_counter()
        a, b = review.lineup.ties[len(road.pieces) % 20 + 4], review.lineup.ties[len(road.pieces) % 20 + 5]
        pin = Pin(a.note, b.bend.apex_m if b.bend else None)
        place = HandPlace(review.seconds_at(pin.at_m)) if pin.at_m is not None else None
        review_again(review, crew, pin, ManualOverrides(pins=(HandPin(pin.note, place),)))
        pinned = time.perf_counter()
        steps = (parsed - began, there - began, reviewed - there, pinned - reviewed)
        for name, value in zip(times, steps, strict=True):
            times[name].append(value)
    memory = peak_mb()
    best = {name: min(values) for name, values in times.items()}
    return {**best, "memory_mb": memory, "rows": content.count(b"\n") - 1, "notes": len(reading.notes)}


if __name__ == "__main__":
    sys.exit(main())
