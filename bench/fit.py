"""Fits the weights of what a bend that no note claimed may be (mirkle.core.lineup.unclaimed) on training worlds; with
``--judging`` what the judging weighs by (fit_judging.py).

    python bench/fit.py [--worlds N] [--judging [--only NAME...]]

Opens the numbers below 1000 of the training generator and of the third worlds, and nothing else. Prints the weights to be written into the module, the log
loss under the old and the new ones, and how often each probability was right, by leaving worlds out in turn.
"""

from __future__ import annotations

import argparse
import sys
from collections import Counter
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace
from typing import Any

import numpy as np
from scipy.optimize import minimize

import fit_judging
from mirkle.core.lineup import pairing, unclaimed
from mirkle.core.lineup.result import Uncalled
from mirkle.core.lineup.unclaimed import CATCH, HYPOTHESES, WEIGHTS, Claimed, Evidence, weighed
from mirkle.core.motion.bends import Bend
from mirkle.core.review import Review
from rough.crews import leave_out, spoken
from rough.recorders import BOXES
from rough.worlds import CLOCK_S, World, reviewed, world
from third import worlds as third_worlds

LEFT_OVER = pairing._uncalled
# Weights are held near the old ones as if by so many cases each.
RIDGE = 0.15
# Corners left out of half of the books.
LEFT_OUT = 9
# What theory says is not fitted: log odds, and the nats of the distances and the calls, count once.
FIXED = {("habit", "alike"): 1.0, ("before", "distance"): -1.0, ("behind", "distance"): -1.0, ("behind", "call"): -1.0}


def cases_of(job: tuple[int, str]) -> tuple[str, list[tuple[Evidence, str]]]:
    """The left-over bends of one world with one recorder (or a third world, which has its own): the evidence and the truth of each."""
    number, box = job
    w = world(number) if box else third_worlds.world(number, structural="none")
    rng = np.random.default_rng([number, 31])
    # Half of the worlds have slips of every kind, half have many corners left out of an honest book.
    book = leave_out(rng, w.honest, LEFT_OUT) if number % 2 else w.book
    w = replace(w, book=book, calls=spoken(rng, book, w.run, clock_s=CLOCK_S))
    seen: dict[int, Evidence] = {}
    last: list[tuple[Sequence[Claimed], Sequence[Uncalled]]] = []

    def recorded(evidence: Evidence) -> unclaimed.UnclaimedOdds:
        whose = weighed(evidence)
        seen[id(whose)] = evidence
        return whose

    def all_of_them(*of: Any) -> tuple[Uncalled, ...]:
        # Those too that are then taken into a noted corner.
        found = LEFT_OVER(*of)
        last.append((of[5], found))
        return found

    seam: Any = pairing
    seam.weighed, seam._uncalled = recorded, all_of_them
    review, _ = reviewed(w, box, book=book) if box else third_worlds.reviewed(w)
    paired, found = last[-1]
    out = []
    for left in found:
        truth = _truth(w, review, left.bend, paired)
        if truth in seen[id(left.whose)]:
            out.append((seen[id(left.whose)], truth))
    return f"{'rough' if box else 'third'} {number}", out


def _truth(w: World, review: Review, bend: Bend, paired: Sequence[Claimed]) -> str | None:
    def road_m(at_m: float) -> float:
        return float(np.interp(review.profile.seconds_at(at_m), w.run.time_s, w.run.road_m))

    a, b = road_m(bend.eased_from_m), road_m(bend.eased_to_m)
    if b > w.road.finish_m:
        return None
    over = [(min(b, c.to_m + 5) - max(a, c.from_m - 5), c) for c in w.book.corners if c.side == bend.side]
    most, corner = max(over, key=lambda o: o[0], default=(0.0, None))
    if corner is None or most < 0.35 * (b - a):
        return "swerve" if most <= 0 else None
    if not corner.written:
        return "habit"
    note = next((n for n in w.book.notes if n.corner is corner), None)
    if note is None:
        return "missing"
    number = [n is note for n in w.book.notes if n.side].index(True)
    own = next((c.bend for c in paired if c.corner == number), None)
    if own is None or own.side != bend.side:
        # Its note has no bend, or lies on one the other way: to a crew this one is called by nothing.
        return "missing"
    return "before" if own.apex_m < bend.apex_m else "behind"


Columns = list[tuple[str, str]]


def _columns() -> Columns:
    return [(name, k) for name, values in WEIGHTS.items() for k in values]


def _table(cases: list[tuple[Evidence, str]], columns: Columns) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Evidence (cases, hypotheses, columns), which hypotheses stand and which are true, each (cases, hypotheses): a bend of the driver's may
    be either of his two kinds."""
    x = np.zeros((len(cases), len(HYPOTHESES), len(columns)))
    stands = np.zeros((len(cases), len(HYPOTHESES)), dtype=bool)
    for i, (evidence, _) in enumerate(cases):
        for h, name in enumerate(HYPOTHESES):
            if name in evidence:
                stands[i, h] = True
                for c, (owner, k) in enumerate(columns):
                    if owner == name:
                        x[i, h, c] = evidence[name][k]
    true = np.array([[name == t or (name == CATCH and t == "swerve") for name in HYPOTHESES] for _, t in cases])
    return x, stands, true


def _loss(theta: np.ndarray, x: np.ndarray, stands: np.ndarray, true: np.ndarray) -> tuple[float, np.ndarray]:
    score = np.where(stands, x @ theta, -np.inf)
    score -= score.max(axis=1, keepdims=True)
    p = np.exp(score)
    p /= p.sum(axis=1, keepdims=True)
    right = np.where(true, p, 0.0)
    likely = right.sum(axis=1, keepdims=True)
    gradient = ((p - right / likely)[:, :, None] * x).sum(axis=1)
    return float(-np.log(likely).sum()), gradient.sum(axis=0)


def fitted(cases: list[tuple[Evidence, str]], columns: Columns) -> np.ndarray:
    """The weights of least log loss, held near the ones that stand in the module, (columns,)."""
    x, stands, true = _table(cases, columns)
    start = np.array([FIXED.get((name, k), WEIGHTS[name][k]) for name, k in columns])
    free = np.array([column not in FIXED for column in columns], dtype=float)

    def penalised(theta: np.ndarray) -> tuple[float, np.ndarray]:
        value, gradient = _loss(theta, x, stands, true)
        return value + RIDGE * ((theta - start) ** 2).sum(), free * (gradient + 2 * RIDGE * (theta - start))

    return minimize(penalised, start, jac=True, method="L-BFGS-B").x


def main() -> int:
    """Prints the weights and how well they do."""
    options = argparse.ArgumentParser(description=__doc__)
    options.add_argument("--worlds", type=int, default=40)
    options.add_argument("--judging", action="store_true", help="what the judging weighs by, instead")
    options.add_argument("--only", nargs="*", default=(), help="of what the judging weighs by, the numbers with these names")
    chosen = options.parse_args()
    count = chosen.worlds
    if chosen.judging:
        fit_judging.fit(count, tuple(chosen.only))
        return 0
    jobs = [(n, box) for n in range(101, 101 + count) for box in BOXES]
    jobs += [(n, "") for n in (*range(201, 201 + 2 * count), *range(third_worlds.OTHER_FROM, third_worlds.OTHER_FROM + count))]
    by_world: dict[str, list[tuple[Evidence, str]]] = {}
    with ProcessPoolExecutor() as pool:
        for number, cases in pool.map(cases_of, jobs):
            by_world.setdefault(number, []).extend(cases)
    everything = [c for cases in by_world.values() for c in cases]
    print(len(everything), "left-over bends:", dict(Counter(t for _, t in everything)))
    columns = _columns()
    numbers = sorted(by_world)
    told: list[tuple[float, bool]] = []
    losses = np.zeros(2)
    for fold in range(4):
        held = [c for i, n in enumerate(numbers) if i % 4 == fold for c in by_world[n]]
        rest = [c for i, n in enumerate(numbers) if i % 4 != fold for c in by_world[n]]
        theta = fitted(rest, columns)
        x, stands, true = _table(held, columns)
        score = np.where(stands, x @ theta, -np.inf)
        p = np.exp(score - score.max(axis=1, keepdims=True))
        p /= p.sum(axis=1, keepdims=True)
        told += list(zip(p[:, 0].tolist(), true[:, 0].tolist(), strict=True))
        start = np.array([WEIGHTS[name][k] for name, k in columns])
        losses += [_loss(start, x, stands, true)[0], _loss(theta, x, stands, true)[0]]
    print(f"log loss a bend, worlds left out in turn: {losses[0] / len(everything):.3f} -> {losses[1] / len(everything):.3f}")
    for low in np.arange(0.0, 1.0, 0.1):
        part = [right for p, right in told if low <= p < low + 0.1 or (low > 0.85 and p == 1.0)]
        if part:
            print(f"  missing {low:.1f} to {low + 0.1:.1f}: right {np.mean(part):5.0%} of {len(part)}")
    best = fitted(everything, columns)
    for name in HYPOTHESES:
        print(f'    "{name}": {{', end="")
        print(", ".join(f'"{k}": {v:.2f}' for (owner, k), v in zip(columns, best, strict=True) if owner == name) + "},")
    return 0


if __name__ == "__main__":
    sys.exit(main())
