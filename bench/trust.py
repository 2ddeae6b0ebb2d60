"""How far a review can be trusted on rough worlds: slides, erring drivers, recorders with faults, crews with habits.

    python bench/trust.py [--worlds N] [--training] [--recce] [--third] [--first N]

Reports on worlds of the generator that no fit opens; ``--training`` on those that may be opened. With
``--recce`` a reconnaissance pass stands beside each run. With ``--third`` the worlds are those of ``bench/third``, one receiver each.
"""

from __future__ import annotations

import argparse
import re
import sys
from collections import defaultdict
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field
from itertools import pairwise

import numpy as np

from mirkle.core.judging.findings import Finding
from mirkle.core.review import Review
from rough.crews import Corner, Slip, position_written
from rough.recorders import BOXES
from rough.roads import CALLED_RAD, even
from rough.worlds import CLOCK_S, REPORTED_FROM, World, reviewed, world
from third import worlds as third_worlds
from third.receivers import RECEIVERS

NEAR_M = 45.0
# A note is off where the road says so by more than rounding does, or this pass by a grade.
OFF_THE_ROAD, OFF_AS_DRIVEN = 0.6, 0.9
TOLD = 0.25
# A corner tightens by half a grade of most crews and more; a distance is wrong by these metres and by this share of it.
TIGHTENS, WRONG_M, WRONG_SHARE = 1.3, 12.0, 0.3
# Less than this before its corner a call is late; the calls as they stand in their file, behind "five" to "go".
LATE_S = 1.6
CUE, COUNTED_DOWN = r"(\d+):(\d+):([\d.]+) -->", 6
# The heading of the one finding for a slip that touches several notes.
NAMES = {
    "page-out": "A page seems to be missing",
    "page-twice": "A page is in the book twice",
    "turned": "Two notes the wrong way round",
    "tenfold": "a zero too many",
}
# The groups of kinds whose sureness is held against the truth.
SURE_GROUPS = ("grade", "direction", "corner", "tightens", "distance", "call")


@dataclass
class Score:
    """Counts and errors of some reviews, pooled."""

    tally: defaultdict[str, float] = field(default_factory=lambda: defaultdict(float))
    errors: dict[str, list[float]] = field(default_factory=lambda: defaultdict(list))
    sure: list[tuple[float, bool, str]] = field(default_factory=list)
    paired: list[tuple[float, bool]] = field(default_factory=list)

    def add(self, other: Score) -> None:
        """Pools another score into this one."""
        for name, count in other.tally.items():
            self.tally[name] += count
        for name, values in other.errors.items():
            self.errors[name] += values
        self.sure += other.sure
        self.paired += other.paired


def score_of(w: World, review: Review) -> Score:
    """One review held against the truth of its world."""
    score = Score()
    score.tally["km10"] += w.road.finish_m / 10_000
    profile = review.profile

    def road_m(at_m: float) -> float:
        return float(np.interp(profile.seconds_at(at_m), w.run.time_s, w.run.road_m))

    score.errors["start"].append(abs(review.measured.drive.start_s - w.run.start_s))
    score.errors["finish"].append(abs(review.finish_s - w.run.finish_s))
    if review.clock is not None:
        off = abs(review.clock.calls_minus_run_s - CLOCK_S)
        score.errors["clock"].append(off)
        score.errors["clock z"].append(off / review.clock.uncertainty_s)
    _ties(w, review, score, road_m)
    _vertical(w, review, score, road_m)
    _judged(w, review, score)
    return score


def _ties(w: World, review: Review, score: Score, road_m) -> None:  # type: ignore[no-untyped-def]
    notes = [n for n in w.book.notes if n.side]
    curvature = even(np.interp(np.arange(int(w.run.distance_m[-1])), w.run.distance_m, w.run.curvature_per_m), 3.0)
    driven = np.interp(np.arange(len(w.road.curvature_per_m)), w.run.road_m, w.run.distance_m)
    if len(notes) != len(review.lineup.ties):
        score.tally["books misread"] += 1
        return
    of = {}
    for note, tie in zip(notes, review.lineup.ties, strict=True):
        if note.corner is None:
            score.tally["phantoms"] += 1
            score.tally["phantoms left"] += tie.bend is None
            continue
        of[tie.note] = note
        score.tally["notes"] += 1
        bend = tie.bend
        if bend is None:
            continue
        right = note.place_from_m - 15 <= road_m(bend.apex_m) <= note.place_to_m + 15
        score.paired.append((tie.sure, right))
        if not right:
            continue
        score.tally["paired"] += 1
        inside = curvature[int(driven[int(note.place_from_m)]) : int(driven[int(note.place_to_m)]) + 1]
        if note.corner.turn_deg > 20 and len(inside) > 3:
            error = float(np.log(bend.radius_m * np.abs(inside).max()))
            score.errors["radius"].append(abs(error))
            score.errors["radius z"].append(error / (bend.radius_sd_m / bend.radius_m))
            high = np.flatnonzero(np.abs(inside) >= 0.5 * np.abs(inside).max())
            first, last = int(bend.from_m), int(bend.to_m)
            bent = np.abs(review.profile.curvature_per_m[first : last + 1])
            met = np.flatnonzero(bent >= 0.5 * bent.max())
            off = (met[-1] - met[0]) - (high[-1] - high[0])
            score.errors["length z"].append(off / max(bend.length_sd_m, 0.1))
    for gap in review.lineup.gaps:
        if gap.met_m is not None and gap.note in of and gap.next_note in of:
            true = driven[int(of[gap.next_note].place_from_m)] - driven[int(of[gap.note].place_to_m)]
            score.errors["gap"].append(abs(gap.met_m - true))


def _vertical(w: World, review: Review, score: Score, road_m) -> None:  # type: ignore[no-untyped-def]
    found = review.measured.vertical
    if found is None:
        return
    jumps = [road_m(f.from_m) for f in found if f.kind == "jump"]
    for flight in w.run.flights:
        near = [f for f in found if f.kind == "jump" and abs(road_m(f.from_m) - flight.from_m) < 30]
        if flight.air_s >= TOLD:
            score.tally["flights"] += 1
            score.tally["flights found"] += bool(near)
            score.errors["air"] += [abs(f.air_s - flight.air_s) for f in near[:1] if f.air_s]
    score.tally["false flights"] += sum(all(abs(at - f.from_m) > 35 for f in w.run.flights) for at in jumps)
    shaken = review.measured.shaken
    things = [t for t in w.road.things if all(abs(t.at_m - f.from_m) > 40 for f in w.run.flights)]
    for thing in things:
        if thing.kind not in ("crest", "jump", "dip") or thing.turns_rad < 0.055:
            continue
        at = profile_m(w, review, thing.at_m)
        if shaken is not None and at < len(shaken) and shaken[max(0, int(at) - 10) : int(at) + 10].mean() > 0.3:
            score.tally["curves hidden"] += 1
            continue
        score.tally["curves"] += 1
        kind = "dip" if thing.kind == "dip" else "crest"
        score.tally["curves found"] += any(f.kind in (kind, "jump") and abs(f.at_m - at) < 22 for f in found)
    for f in found:
        if f.kind in ("crest", "dip"):
            here = road_m(f.at_m)
            score.tally["false curves"] += all(abs(t.at_m - here) > 40 for t in w.road.things)


def profile_m(w: World, review: Review, road_at_m: float) -> float:
    """Where a place on the road lies in the review."""
    return float(review.profile.metres_at(float(np.interp(road_at_m, w.run.road_m, w.run.time_s))))


@dataclass(frozen=True)
class Held:
    """The findings of a review held against the truth: each with whether it is right, and each planted slip with those that tell it."""

    findings: list[tuple[Finding, bool]]
    slips: list[tuple[Slip, list[Finding]]]


def held(w: World, review: Review) -> Held:
    """A review's findings held against the truth of its world."""

    def road_m(at_m: float) -> float:
        return float(np.interp(review.profile.seconds_at(at_m), w.run.time_s, w.run.road_m))

    spans = [(f, road_m(f.from_m), road_m(f.to_m)) for f in review.findings]

    # The lead of each note's own call, where the book was read note for note.
    sides = [n for n in w.book.notes if n.side]
    own = leads(w)
    lead_of = {t.note: s for t, (_, s) in zip(review.lineup.ties, own, strict=True)} if len(sides) == len(review.lineup.ties) else {}

    def tells(f: Finding, a: float, b: float, slip: Slip) -> bool:
        return a - NEAR_M < slip.to_m and b + NEAR_M > slip.from_m and (f.kind in slip.finds or f.cause in slip.finds)

    return Held(
        [
            (
                f,
                any(tells(f, a, b, s) for s in w.book.slips)
                or bool(lead_of.get(f.note, LATE_S) < LATE_S if f.kind == "call-late" else _true(w, f, a, b)),
            )
            for f, a, b in spans
        ],
        [(slip, [f for f, a, b in spans if tells(f, a, b, slip)]) for slip in w.book.slips],
    )


def _judged(w: World, review: Review, score: Score) -> None:
    truth = held(w, review)
    score.tally["findings"] += len(truth.findings)
    for slip, near in truth.slips:
        score.tally[f"planted {slip.kind}"] += 1
        score.tally[f"found {slip.kind}"] += bool(near)
        score.tally[f"named {slip.kind}"] += any(NAMES.get(slip.kind, "-") in f"{f.cause} {f.why}" for f in near)
        score.tally[f"danger {slip.kind}"] += any(f.severity == "danger" for f in near)
    for f, right in truth.findings:
        if f.severity in ("danger", "change"):
            score.tally[f"{f.severity}s"] += 1
            score.tally[f"true {f.severity}s"] += right
            if not right:
                score.tally[f"false: {f.severity} {f.kind}"] += 1
        if f.kind == "call-late":
            score.tally["late"] += 1
            score.tally["true late"] += right
        group = f.kind.split("-")[0]
        if group in SURE_GROUPS:
            score.sure.append((f.confidence, right, group))


def _true(w: World, f, a: float, b: float) -> bool:  # type: ignore[no-untyped-def]
    """Whether what a finding says is so although nobody planted it."""
    if f.kind == "direction":
        # A note that calls no corner of the road may lie on one that was left out.
        return any(s.kind == "corner-left-out" and s.from_m < b + 10 and s.to_m > a - 10 for s in w.book.slips)
    if f.kind == "corner-uncalled":
        here = [c for c in w.book.corners if c.from_m < b + 10 and c.to_m > a - 10]
        called = {id(n.corner): n.side for n in w.book.notes if n.corner is not None}
        # Not written, or written with the other side: no note calls what the road does there.
        return any(not c.written or called.get(id(c), c.side) != c.side for c in here)
    near = [n for n in w.book.notes if n.corner is not None and n.place_from_m < b + 15 and n.place_to_m > a - 15]
    if f.kind in ("grade-tighter", "grade-easier"):
        sign = 1.0 if f.kind == "grade-tighter" else -1.0
        return any(sign * off > limit for n in near for off, limit in _off(w, n))
    if f.kind in ("jump-uncalled", "maybe-settled"):
        return any(abs(flight.from_m - 0.5 * (a + b)) < NEAR_M for flight in w.run.flights)
    if f.kind in ("crest-uncalled", "dip-uncalled"):
        return _turns(w, 0.5 * (a + b), f.kind) and not any(
            n.thing is not None and abs(n.thing.at_m - 0.5 * (a + b)) < NEAR_M for n in w.book.notes
        )
    if f.kind == "opens-uncalled":
        return any(c.later is not None and c.later > c.position + 0.6 and not n.change for n in near if (c := n.corner))
    if f.kind == "tightens-uncalled":
        return any(not n.change.startswith("tightens") and _tightens(w, n.corner) > TIGHTENS for n in near if n.corner)
    if f.kind.startswith("distance"):
        return _wrong_distance(w, a, longer=f.kind == "distance-longer")
    return False


def _tightens(w: World, corner: Corner) -> float:
    """How many times tighter the road is in the second half of a corner than in its first."""
    bent = np.abs(even(w.road.curvature_per_m, 3.0)[int(corner.from_m) : int(corner.to_m) + 1])
    half = len(bent) // 2
    return float(bent[half:].max() / max(bent[:half].max(), 1e-4)) if half else 1.0


def _wrong_distance(w: World, a: float, *, longer: bool) -> bool:
    """Whether a distance called about there is wrong by what this crew's own metres come to, however that came about."""
    for n, following in pairwise(w.book.notes):
        if n.gap.isdigit() and n.side and following.side and abs(n.place_to_m - a) < NEAR_M:
            metres, called = (following.place_from_m - n.place_to_m) * w.book.crew.odometer, float(n.gap)
            if (metres - called if longer else called - metres) > max(WRONG_M, WRONG_SHARE * called):
                return True
    return False


def leads(w: World) -> list[tuple[float, float]]:
    """For each note its place on the road and how many seconds before it its call began."""
    begins = [float(h) * 3600 + float(m) * 60 + float(s) - CLOCK_S for h, m, s in re.findall(CUE, w.calls)]
    return [
        (n.place_from_m, float(np.interp(n.place_from_m, w.run.road_m, w.run.time_s)) - begin)
        for n, begin in zip(w.book.notes, begins[COUNTED_DOWN:], strict=True)
        if n.side
    ]


def _turns(w: World, at_m: float, kind: str) -> bool:
    """Whether the road turns over a crest or through a dip about a place, by what a crew may call."""
    sign = 1.0 if kind.startswith("dip") else -1.0
    slope, at = even(w.road.slope, 1.0), int(at_m)
    over = [slope[min(i + 8, len(slope) - 1)] - slope[max(i - 8, 0)] for i in range(max(at - 15, 0), at + 16)]
    return bool((sign * np.array(over)).max() > CALLED_RAD)


def _off(w: World, note) -> list[tuple[float, float]]:  # type: ignore[no-untyped-def]
    """By how many grades a note promises more than the road has, and than this pass met, each with its limit."""
    corner: Corner = note.corner
    written = position_written(w.book.crew, note.grade)
    tightest = corner.position if corner.later is None or note.change else min(corner.position, corner.later)
    inside = (w.run.road_m >= corner.from_m) & (w.run.road_m <= corner.to_m)
    bent = np.abs(w.run.curvature_per_m[inside])
    out = [(written - tightest, OFF_THE_ROAD)]
    if inside.sum() > 20:
        met = 1 / max(float(np.percentile(bent, 97)), 1e-4)
        as_driven = corner.position + np.log(met / corner.radius_m) / np.log(w.book.crew.per_grade)
        out.append((written - as_driven - 0.45, OFF_AS_DRIVEN))
    return out


def one(job: tuple[int, bool, str, bool]) -> tuple[str, Score]:
    """One world with one recorder, reviewed and scored."""
    number, held_out, box, recce = job
    w = world(number, held_out=held_out)
    review, seen = reviewed(w, box, recce=recce)
    score = score_of(w, review)
    late = [d for d in map(str, review.measured.doubts) if d.startswith("Positions come")]
    moved = float(late[0].split()[2]) if late else 0.0
    score.errors["lag"].append(abs(moved - seen.late_s))
    return box, score


def one_third(number: int) -> tuple[str, Score]:
    """One third world, reviewed and scored."""
    w = third_worlds.world(number)
    return RECEIVERS[number % len(RECEIVERS)].name, score_of(w, third_worlds.reviewed(w)[0])


def _spread(values: list[float]) -> str:
    """Half of what the middle 68 % cover, and the 95th percentile of the size over 1.96."""
    if not values:
        return "-"
    low, high = np.percentile(values, [16, 84])
    return f"{(high - low) / 2:.2f} {np.percentile(np.abs(values), 95) / 1.96:.2f}"


def table(scores: dict[str, Score]) -> None:
    """Prints the figures, a column a recorder and one for all."""
    pooled = Score()
    for s in scores.values():
        pooled.add(s)
    columns = {**scores, "all": pooled}

    def row(name: str, of) -> None:  # type: ignore[no-untyped-def]
        print(f"{name:44}" + "".join(f"{of(s):>16}" for s in columns.values()))

    def error(name: str, scale: float = 1.0, unit: str = "", q: float = 50):  # type: ignore[no-untyped-def]
        return lambda s: f"{scale * np.percentile(s.errors[name], q):.3g}{unit}" if s.errors.get(name) else "-"

    def share(part: str, whole: str):  # type: ignore[no-untyped-def]
        return lambda s: f"{s.tally[part]:.0f}/{s.tally[whole]:.0f}"

    def rate(name: str):  # type: ignore[no-untyped-def]
        return lambda s: f"{s.tally[name] / max(s.tally['km10'], 1e-9):.2f}"

    print(f"{'':44}" + "".join(f"{name:>16}" for name in columns))
    for name in ("lag", "start", "finish", "clock"):
        row(f"{name}, median error (s)", error(name))
        row(f"{name}, worst (s)", error(name, q=100))
    row("clock within twice its error", lambda s: f"{np.mean(np.array(s.errors['clock z']) <= 2):.0%}" if s.errors.get("clock z") else "-")
    row("tightest driven radius, median error", error("radius", 100, "%"))
    for name in ("radius", "length"):
        row(f"{name}, spread of error over its own spread", lambda s, n=name: _spread(s.errors[f"{n} z"]))
    row("gap, median error (m)", error("gap"))
    row("air time, median error (s)", error("air"))
    row("flights of 0.25 s found", share("flights found", "flights"))
    row("false flights per 10 km", rate("false flights"))
    row("crests and dips found where measurable", share("curves found", "curves"))
    row("crests and dips hidden by shake", lambda s: f"{s.tally['curves hidden']:.0f}")
    row("false crests and dips per 10 km", rate("false curves"))
    row("notes on their bend", share("paired", "notes"))
    row("phantoms left alone", share("phantoms left", "phantoms"))
    row("findings per 10 km", rate("findings"))
    row("dangers true", share("true dangers", "dangers"))
    row("changes true", share("true changes", "changes"))

    def false(s: Score) -> str:
        return f"{(s.tally['dangers'] + s.tally['changes'] - s.tally['true dangers'] - s.tally['true changes']) / s.tally['km10']:.2f}"

    row("false dangers and changes per 10 km", false)
    for kind in sorted(k[8:] for k in pooled.tally if k.startswith("planted ")):
        row(f"found: {kind}", share(f"found {kind}", f"planted {kind}"))
    for kind in ("two-too-fast", "direction", "corner-left-out"):
        row(f"as danger: {kind}", share(f"danger {kind}", f"planted {kind}"))
    for kind in NAMES:
        if pooled.tally[f"planted {kind}"]:
            row(f"named: {kind}", share(f"named {kind}", f"planted {kind}"))
    row("late calls true", share("true late", "late"))
    row("books misread", lambda s: f"{s.tally['books misread']:.0f}")
    for kind, count in sorted(pooled.tally.items()):
        if kind.startswith("false: "):
            print(f"  {kind}: {count:.0f}")
    for words, pairs in (("finding", [(p, right) for p, right, _ in pooled.sure]), ("pair", pooled.paired)):
        print(f"how sure a {words} says it is, and how many are right")
        for low in np.arange(0.0, 1.0, 0.1):
            part = [right for sure, right in pairs if low <= sure < low + 0.1 or (low > 0.85 and sure == 1.0)]
            if part:
                print(f"  {low:.1f} to {low + 0.1:.1f}: {np.mean(part):5.0%} of {len(part)}")


def main() -> int:
    """Prints the table."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--worlds", type=int, default=12)
    options.add_argument("--training", action="store_true")
    options.add_argument("--recce", action="store_true")
    options.add_argument("--third", action="store_true")
    options.add_argument("--first", type=int, help="the number of the first world")
    chosen = options.parse_args()
    usual = 1 if chosen.training else third_worlds.KEPT_FROM if chosen.third else REPORTED_FROM
    first = chosen.first if chosen.first is not None else usual
    numbers = range(first, first + chosen.worlds)
    jobs = [(n, not chosen.training, box, chosen.recce) for n in numbers for box in BOXES]
    scores = {name: Score() for name in ([r.name for r in RECEIVERS] if chosen.third else BOXES)}
    with ProcessPoolExecutor() as pool:
        for name, score in pool.map(one_third, numbers) if chosen.third else pool.map(one, jobs):
            scores[name].add(score)
    table(scores)
    return 0


if __name__ == "__main__":
    sys.exit(main())
