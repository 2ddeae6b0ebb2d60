"""How right the review is on invented worlds at three sensor levels: road, pairing, findings, and how sure it should be.

    python bench/accuracy.py [--worlds N]

The worlds are our own stand-ins, with roads, crews and slips from other seeds than the demo's: the driver opens every bend
as far as the road has room, and the crew scatters by a quarter of a grade.
"""

from __future__ import annotations

import argparse
import sys
from collections import Counter, defaultdict
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from mirkle.core.review import Review
from mirkle.files.project.project import SourceFile
from mirkle.session.reviewing import Inputs, review_material
from mirkle.synthetic.car import Drive, Driver, drive
from mirkle.synthetic.crew import SyntheticNotes, plant_slips, position_of, spoken, write_book
from mirkle.synthetic.recorder import Recorder, record
from mirkle.synthetic.road import PER_GRADE, TrueRoad, make_road

NEAR_M = 45.0
# How far a driver goes to either side to open a bend, and by how much of a grade a crew scatters. # common practice
ROOM_M, CREW_SCATTER = 1.0, 0.25
DANGERS = ("grade-two-too-fast", "wrong-direction", "corner-left-out", "jump-left-out", "tightens-left-out")


@dataclass(frozen=True)
class World:
    """One stage with its truth."""

    road: TrueRoad
    run: Drive
    book: SyntheticNotes
    csv: str
    calls: str


LEVELS = {
    "good": {"position_hz": 20.0, "inertial_hz": 100.0},
    "usual": {"position_hz": 10.0, "inertial_hz": 50.0},
    "5 Hz": {"position_hz": 5.0, "inertial_hz": 10.0},
    "poor": {"position_hz": 1.0, "inertial_hz": 10.0},
}
POSITIONS_ALONE = ("5 Hz", "poor")
# A note is off where the road says so by more than rounding does, or this pass by nearly a grade.
OFF_THE_ROAD, OFF_AS_DRIVEN = 0.6, 0.9
# A note that turns less is no clear bend, whose length nobody could tell.
CLEAR_DEG = 15.0


def worlds(count: int) -> list[World]:
    """The first worlds, from a seed onwards, in which every slip finds a place."""
    out: list[World] = []
    seed = 90_000
    while len(out) < count:
        seed += 1
        rng = np.random.default_rng(seed)
        road = make_road(rng, length_m=20_000.0, run_out_m=240.0)
        run = drive(rng, road, pace=1.0, stands_s=20.0, driver=Driver(ROOM_M, lifts=True))
        try:
            book = plant_slips(rng, write_book(rng, road, scatter=CREW_SCATTER), run.jumps)
        except ValueError:
            continue
        out.append(World(road, run, book, "", spoken(rng, book, run, clock_s=7.0, damage=0.02)))
    return out


def recorded(world: World, level: str) -> World:
    """The world as a recorder of that level saw it."""
    rates: dict[str, Any] = LEVELS[level]
    csv = record(np.random.default_rng(5), world.run, Recorder(**rates))
    if level in POSITIONS_ALONE:
        lines = [line.split(",") for line in csv.splitlines()]
        csv = "\n".join(",".join(cells[:4]) for cells in lines if cells[1]) + "\n"
    return replace(world, csv=csv)


def reviewed(world: World) -> Review:
    """The review of a world."""
    return review_material(
        Inputs(
            SourceFile("run", "run.csv", world.csv.encode()),
            SourceFile("notes", "notes.txt", world.book.lines().encode()),
            SourceFile("calls", "calls.vtt", world.calls.encode()),
        )
    )


def main() -> int:
    """Prints the tables."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--worlds", type=int, default=3)
    count = options.parse_args().worlds
    sure: dict[int, list[bool]] = defaultdict(list)
    print(f"{'':48}" + "".join(f"{level:>14}" for level in LEVELS))
    stages = worlds(count)
    columns = [figures([recorded(w, level) for w in stages], sure) for level in LEVELS]
    for name in columns[0]:
        print(f"{name:48}" + "".join(f"{c[name]:>14}" for c in columns))
    print("\nhow sure a finding says it is, and how many are right")
    for tenth in sorted(sure):
        right = sure[tenth]
        print(f"  {tenth / 10:.1f} to {tenth / 10 + 0.1:.1f}: {np.mean(right):5.0%} of {len(right)}")
    return 0


def figures(stages: list[World], sure: dict[int, list[bool]]) -> dict[str, str]:
    """The shares and errors over all stages of one level."""
    errors: dict[str, list[float]] = defaultdict(list)
    tally: Counter[str] = Counter()
    starts: list[float] = []
    for world in stages:
        review = reviewed(world)
        starts += [abs(review.measured.drive.start_s - world.run.start_s), abs(review.finish_s - world.run.finish_s)]
        _pairs(world, review, errors, tally)
        _findings(world, review, tally, sure)

    def share(part: str, whole: str) -> str:
        return f"{tally[part] / tally[whole]:.1%}" if tally[whole] else "-"

    return {
        "radius, median error": f"{np.median(errors['radius']):.1%}",
        "length of bends over 15 degrees, median error": f"{np.median(errors['length']):.1%}",
        "gap to the next, median error (m)": f"{np.median(errors['gap']):.1f}",
        "jumps found, and true": f"{share('flown found', 'flown')} {share('jumps true', 'jumps said')}",
        "time in the air, median error (s)": f"{np.median(errors['air']):.3f}" if errors["air"] else "-",
        "notes on their bend": share("paired", "notes"),
        "planted dangers found": share("dangers found", "dangers"),
        "all planted slips found": share("found", "planted"),
        "danger and change that are true": share("true", "hard"),
        "start and finish, worst error (s)": f"{max(starts):.2f}",
        "false dangers a stage": f"{tally['false dangers'] / len(stages):.2f}",
    }


def _pairs(world: World, review: Review, errors: dict[str, list[float]], tally: Counter[str]) -> None:
    corners = [n for n in world.book.notes if n.side]
    for note, tie in zip(corners, review.lineup.ties, strict=True):
        if note.corner is None:
            continue
        tally["notes"] += 1
        if tie.bend is None or not note.corner.from_m - 15 <= tie.bend.apex_m <= note.corner.to_m + 15:
            continue
        tally["paired"] += 1
        inside = (world.run.distance_m > note.corner.from_m) & (world.run.distance_m < note.corner.to_m)
        true = 1 / np.abs(world.run.curvature_per_m[inside]).max()
        if note.corner.end_radius_m == note.corner.radius_m:
            errors["radius"].append(abs(tie.bend.radius_m / true - 1))
        if note.corner.turn_deg > CLEAR_DEG:
            errors["length"].append(abs(tie.bend.length_m / (note.corner.to_m - note.corner.from_m) - 1))
    of = {t.note: n.corner for n, t in zip(corners, review.lineup.ties, strict=True)}
    for gap in review.lineup.gaps:
        before, after = of[gap.note], of[gap.next_note]
        if gap.met_m is not None and before is not None and after is not None:
            errors["gap"].append(abs(gap.met_m - (after.from_m - before.to_m)))
    said = [f for f in review.measured.vertical or () if f.kind == "jump"]
    if review.measured.vertical is not None:
        for jump in world.run.jumps:
            near = [f for f in said if abs(f.from_m - jump.from_m) < 30.0]
            tally["flown"] += 1
            tally["flown found"] += bool(near)
            errors["air"] += [abs(f.air_s - jump.air_s) for f in near[:1] if f.air_s is not None]
        tally["jumps said"] += len(said)
        tally["jumps true"] += sum(any(abs(f.from_m - j.from_m) < 30.0 for j in world.run.jumps) for f in said)


def _findings(world: World, review: Review, tally: Counter[str], sure: dict[int, list[bool]]) -> None:
    def meets(finding, slip) -> bool:  # type: ignore[no-untyped-def]
        near = finding.from_m - NEAR_M < slip.to_m and finding.to_m + NEAR_M > slip.from_m
        return near and finding.kind in slip.kinds

    for slip in world.book.planted:
        found = any(meets(f, slip) for f in review.findings)
        tally["planted"] += 1
        tally["found"] += found
        if slip.slip in DANGERS:
            tally["dangers"] += 1
            tally["dangers found"] += found
    shifts = _shifts(world)
    for finding in review.findings:
        planted = any(meets(finding, slip) for slip in world.book.planted)
        right = planted or finding.kind in shifts.get(finding.note, ())
        if finding.severity in ("danger", "change"):
            tally["hard"] += 1
            tally["true"] += right
            tally["false dangers"] += finding.severity == "danger" and not right
        if finding.kind.startswith(("grade", "direction", "corner")) or planted:
            sure[min(9, int(finding.confidence * 10))].append(right)


def _shifts(world: World) -> dict[int, frozenset[str]]:
    """For each note what its own scatter makes of it without any slip: the kinds of finding that are true."""
    corners = [(i, n) for i, n in enumerate(world.book.notes) if n.corner is not None and n.grade.isdigit()]
    bent, at = np.abs(world.run.curvature_per_m), world.run.distance_m
    driven = np.array([bent[(at > n.corner.from_m) & (at < n.corner.to_m)].max() for _, n in corners])  # type: ignore[union-attr]
    opened = -np.log(driven * [n.corner.radius_m for _, n in corners])  # type: ignore[union-attr]
    as_driven = (opened - np.median(opened)) / np.log(PER_GRADE)
    true: dict[int, frozenset[str]] = {}
    for (i, note), more in zip(corners, as_driven, strict=True):
        assert note.corner is not None
        off = int(note.grade) - position_of(note.corner)
        tighter = off > OFF_THE_ROAD or off - more > OFF_AS_DRIVEN
        easier = off < -OFF_THE_ROAD or off - more < -OFF_AS_DRIVEN
        true[i] = frozenset(k for k, is_so in (("grade-tighter", tighter), ("grade-easier", easier)) if is_so)
    return true


if __name__ == "__main__":
    sys.exit(main())
