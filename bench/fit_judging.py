"""Estimates what the judging weighs by (mirkle.core.judging.parameters) on training worlds: ``python bench/fit.py --judging``.

Each parameter in turn takes values over and beyond its interval while the others stay; every review is judged again with each. What a
judging is worth is counted in minutes of a crew: what it has to read, what a false alarm and a slip that was not told cost it, and how
far what it says of its own sureness is from the truth. The interval holds the values whose cost is not worse than the best one's by
more than twice the standard error of the difference over worlds.
"""

from __future__ import annotations

from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace

import numpy as np

from mirkle.core.judging.parameters import FITTED, PARAMETERS, Parameters, rows
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.review import Review, judged_again
from mirkle.files.notes.languages import shipped_languages
from rough.recorders import BOXES
from rough.worlds import World, reviewed, world
from third import worlds as third_worlds
from trust import SURE_GROUPS, held

# In minutes of a crew. # from memory: what a finding takes to judge, and what a stage's run costs when it goes wrong, by guess
READING = {"danger": 0.4, "change": 0.4, "check": 0.25, "remark": 0.1}
FALSE = {"danger": 5.0, "change": 3.0}
GRAVE = ("two-too-fast", "direction", "corner-left-out", "tightens-left-out")
UNSEEN, UNSEEN_GRAVE, AS_A_CHECK, AS_A_CHANGE = 3.0, 10.0, 4.0, 2.0
OF_SURENESS = 0.5
STEPS = 7


def cost_of(w: World, review: Review) -> float:
    """What a judging costs a crew, in minutes."""
    truth = held(w, review)
    cost = 0.0
    for finding, right in truth.findings:
        cost += READING[finding.severity] + (0.0 if right else FALSE.get(finding.severity, 0.0))
        if finding.kind.split("-")[0] in SURE_GROUPS:
            sure = float(np.clip(finding.confidence, 0.02, 0.98))
            cost -= OF_SURENESS * np.log(sure if right else 1.0 - sure)
    for slip, near in truth.slips:
        if slip.kind in GRAVE:
            told = {f.severity for f in near}
            best = [("danger", 0.0), ("change", AS_A_CHANGE), ("check", AS_A_CHECK), ("remark", AS_A_CHECK)]
            cost += next((minutes for severity, minutes in best if severity in told), UNSEEN_GRAVE)
        elif not near:
            cost += UNSEEN
    return cost


def values_of(low: float, high: float) -> np.ndarray:
    """The values that a parameter is tried at: half an interval beyond both ends and never at nought, (STEPS,)."""
    margin = 0.5 * (high - low)
    return np.linspace(max(low - margin, 0.25 * low), high + margin, STEPS)


def tried(only: tuple[str, ...]) -> list[tuple[str, float, str, float, float, str]]:
    """The parameters that are moved: all of them, or some by name."""
    return [row for row in rows() if not only or row[0] in only]


def costs(job: tuple[int, str, tuple[str, ...]]) -> tuple[tuple[int, bool], np.ndarray]:
    """The cost of one world with one recorder for every parameter at every value, (parameters, STEPS); without a recorder it is one of
    the third worlds, each of which has its own."""
    number, box, only = job
    if box:
        w = world(number)
        review, _ = reviewed(w, box)
    else:
        w = third_worlds.world(number)
        review, _ = third_worlds.reviewed(w)
    crew = CrewProfile(languages=shipped_languages())

    def again(parameters: Parameters) -> float:
        return cost_of(w, judged_again(review, crew, parameters))

    table = [
        [again(replace(PARAMETERS, **{name: float(value)})) for value in values_of(low, high)] for name, _, _, low, high, _ in tried(only)
    ]
    # Of the boxes of one world, a share each.
    return (number, bool(box)), np.array(table) / (len(BOXES) if box else 1)


def fit(count: int, only: tuple[str, ...] = ()) -> None:
    """Prints, for each parameter, the value of least cost and its interval beside what stands in the module: over as many worlds of the
    training generator with every box, and twice as many of the third."""
    jobs = [(n, box, only) for n in range(101, 101 + count) for box in BOXES]
    jobs += [(n, "", only) for n in range(101, 101 + 2 * count)]
    by_world: dict[tuple[int, bool], np.ndarray] = {}
    with ProcessPoolExecutor() as pool:
        for of, table in pool.map(costs, jobs):
            by_world[of] = by_world.get(of, 0.0) + table
    tables = np.stack(list(by_world.values()))
    print(f"{'':18}{'stands':>8}{'least cost at':>15}{'interval':>18}   cost at each value tried, minutes a review more than the least")
    for i, (name, stands, unit, low, high, source) in enumerate(tried(only)):
        values, cost = values_of(low, high), tables[:, i]
        best = int(np.argmin(cost.mean(axis=0)))
        worse = cost - cost[:, best : best + 1]
        error = worse.std(axis=0) / np.sqrt(len(cost))
        good = values[worse.mean(axis=0) <= 2 * error + 1e-9]
        told = " ".join(f"{v:.2f}" for v in worse.mean(axis=0))
        mark = "" if source == FITTED else f"  ({source})"
        print(f"{name:18}{stands:8.3g}{values[best]:15.3g}{good.min():9.3g} to {good.max():.3g}   {told}  {unit}{mark}")
