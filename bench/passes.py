"""Was the change right? How far the verdicts on changed notes can be trusted, on made pairs of passes.

    python bench/passes.py [--pairs N] [--training] [--fit]

Reports on pairs of the generator that no fit opens; ``--training`` on those that may be opened. ``--fit`` prints the weights of a
multinomial logistic regression on training pairs for mirkle.core.followup.changes.
"""

from __future__ import annotations

import argparse
import sys
from collections import Counter, defaultdict
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field

import numpy as np
from scipy.optimize import minimize

from mirkle.core.followup import changes
from mirkle.core.followup.changes import ChangeReview, compare_passes
from mirkle.core.notes.model import Note
from rough.pairs import Pair, pair, reviews_of
from rough.recorders import BOXES

VERDICTS = ("fits", "too-fast", "too-slow")
TRAINING_FROM, REPORTED_FROM = 201, 5000
NEAR_M = 40.0
# Weights are held near nought as if by so little of a case each.
RIDGE = 0.05


@dataclass
class Score:
    """Counts and errors of some pairs of passes, pooled."""

    tally: Counter[str] = field(default_factory=Counter)
    told: list[tuple[float, bool]] = field(default_factory=list)
    errors: dict[str, list[float]] = field(default_factory=lambda: defaultdict(list))
    cases: list[tuple[int, float, float, str]] = field(default_factory=list)

    def add(self, other: Score) -> None:
        """Pools another score into this one."""
        self.tally.update(other.tally)
        self.told += other.told
        self.cases += other.cases
        for name, values in other.errors.items():
            self.errors[name] += values


def one(job: tuple[int, bool, str]) -> tuple[str, Score]:
    """One pair of passes with one recorder."""
    number, held_out, box = job
    p = pair(number, held_out=held_out)
    earlier, later = reviews_of(p, number, box)
    score = Score()
    score.cases = _cases(number, p, earlier, later)
    found = compare_passes(earlier, later)
    _verdicts(p, earlier, found, score)
    _places(p, earlier, later, found, score)
    return box, score


def _verdicts(p: Pair, earlier, found: ChangeReview, score: Score) -> None:  # type: ignore[no-untyped-def]
    run = p.runs[0]

    def road_m(at_m: float) -> float:
        return float(np.interp(earlier.profile.seconds_at(at_m), run.time_s, run.road_m))

    rows = [(c, road_m(c.from_m), road_m(c.to_m)) for c in found.changes]
    kept = [(k, road_m(k.from_m), road_m(k.to_m)) for k in found.kept]
    for c in p.changed:
        near = rows if c.old != c.new else kept
        mine = [r for r, a, b in near if a - NEAR_M < c.to_m and b + NEAR_M > c.from_m]
        kind = "changes" if c.old != c.new else "kept"
        score.tally[kind] += 1
        if not mine:
            score.tally[f"{kind} not shown"] += 1
            continue
        told = min(mine, key=lambda r: abs(r.from_m - c.from_m))
        if told.verdict == "cant-tell":
            score.tally[f"{kind} can't tell"] += 1
            continue
        right = told.verdict == c.verdict
        score.tally[f"{kind} said"] += 1
        score.tally[f"{kind} right"] += right
        score.tally[f"{c.verdict} taken for {told.verdict}"] += not right
        if kind == "changes":
            score.told.append((told.confidence, right))


def _places(p: Pair, earlier, later, found: ChangeReview, score: Score) -> None:  # type: ignore[no-untyped-def]
    """The passes laid on each other, and the seconds, against the truth."""
    if found.road is None or found.gained is None:
        score.tally["not laid on each other"] += 1
        return
    first, second = p.runs
    places = np.arange(60.0, p.road.finish_m - 60.0, 25.0)
    here = np.interp(np.interp(places, first.road_m, first.time_s), earlier.profile.time_s, earlier.profile.distance_m)
    there = np.interp(np.interp(places, second.road_m, second.time_s), later.profile.time_s, later.profile.distance_m)
    off = np.array([found.road.there(h) for h in here]) - there
    score.errors["laid"] += list(np.abs(off))
    for c in p.changed:
        a, b = c.from_m - 80.0, c.to_m + 70.0
        truth = [float(np.diff(np.interp([a, b], r.road_m, r.time_s))[0]) for r in p.runs]
        at = np.interp(np.interp([a, b], first.road_m, first.time_s), earlier.profile.time_s, earlier.profile.distance_m)
        score.errors["seconds"].append(abs(found.gained.between(*at) - (truth[0] - truth[1])))


def _cases(number: int, p: Pair, earlier, later) -> list[tuple[int, float, float, str]]:  # type: ignore[no-untyped-def]
    """Shift and entry of every planted note that both passes show, with the truth."""
    judge = changes._Comparison(earlier, later)
    written: list[Note] = list(later.notes)
    out = []
    if len(written) != len(p.books[1].notes):
        return []
    for c in p.changed:
        at = next(i for i, n in enumerate(p.books[1].notes) if n.corner is not None and n.place_from_m == c.from_m)
        shifts = [s for r in (earlier, later) if (s := judge._shift(r, at, written[at])) is not None]
        if len(shifts) == 2:
            out.append((number, float(np.mean(shifts)), judge._entry(at), c.verdict))
    return out


def fit(cases: list[tuple[int, float, float, str]]) -> np.ndarray:
    """Weights of the second and third hypothesis against the first, (2, 3)."""
    x = np.array([[1.0, shift, entry] for _, shift, entry, _ in cases])
    y = np.array([VERDICTS.index(v) for *_, v in cases])

    def loss(theta: np.ndarray) -> tuple[float, np.ndarray]:
        weights = np.vstack([np.zeros(3), theta.reshape(2, 3)])
        score = x @ weights.T
        score -= score.max(axis=1, keepdims=True)
        p = np.exp(score)
        p /= p.sum(axis=1, keepdims=True)
        gradient = p.copy()
        gradient[np.arange(len(y)), y] -= 1.0
        value = -np.log(p[np.arange(len(y)), y]).sum() + RIDGE * (theta**2).sum()
        return value, (gradient.T @ x)[1:].ravel() + 2 * RIDGE * theta

    return minimize(loss, np.zeros(6), jac=True, method="L-BFGS-B").x.reshape(2, 3)


def main() -> int:
    """Prints the table, or the weights."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--pairs", type=int, default=12)
    options.add_argument("--training", action="store_true")
    options.add_argument("--fit", action="store_true")
    chosen = options.parse_args()
    opened = chosen.training or chosen.fit
    first = TRAINING_FROM if opened else REPORTED_FROM
    jobs = [(first + n, not opened, box) for n in range(chosen.pairs) for box in BOXES]
    scores: dict[str, Score] = {box: Score() for box in BOXES}
    with ProcessPoolExecutor() as pool:
        for box, score in pool.map(one, jobs):
            scores[box].add(score)
    pooled = Score()
    for score in scores.values():
        pooled.add(score)
    if chosen.fit:
        for name, weights in zip(("TOO_FAST", "TOO_SLOW"), fit(pooled.cases), strict=True):
            print(f"{name} = ({', '.join(f'{w:.2f}' for w in weights)})")
        return 0
    columns = {**scores, "all": pooled}
    print(f"{'':34}" + "".join(f"{name:>16}" for name in columns))
    for kind in ("changes", "kept"):
        print(
            f"{kind + ' said right':34}"
            + "".join(f"{s.tally[kind + ' right']}/{s.tally[kind + ' said']}".rjust(16) for s in columns.values())
        )
        for what in ("can't tell", "not shown"):
            print(f"{kind + ' ' + what:34}" + "".join(f"{s.tally[f'{kind} {what}']}/{s.tally[kind]}".rjust(16) for s in columns.values()))
    for name, q, unit in (("laid", 50, "m"), ("laid", 99, "m"), ("laid", 100, "m"), ("seconds", 50, "s"), ("seconds", 95, "s")):
        print(f"{f'{name}, error at {q} % ({unit})':34}" + "".join(f"{np.percentile(s.errors[name], q):16.3f}" for s in columns.values()))
    for kind, count in sorted(pooled.tally.items()):
        if "taken for" in kind or kind.startswith("not laid"):
            print(f"  {kind}: {count}")
    for low in np.arange(0.6, 1.0, 0.1):
        part = [right for sure, right in pooled.told if low <= sure < low + 0.1 or (low > 0.85 and sure == 1.0)]
        if part:
            print(f"  said with {low:.1f} to {low + 0.1:.1f}: right {np.mean(part):5.0%} of {len(part)}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
