"""From which size on a crew calls a thing, learnt from what it called: against another minimiser, and by what it keeps quiet about."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy.optimize import minimize

from mirkle.core.judging.crew_habits import AT_LARGE_SD, GROWS, calling, merge_crew_habits
from mirkle.core.judging.findings import Finding, JudgingContext
from mirkle.core.judging.vertical import judge_vertical
from mirkle.core.motion.vertical import Feature
from tests.core.test_verdict import stage

USUAL = 0.06


def test_the_crews_threshold_is_found() -> None:
    """A crew that calls what turns the road by 0.08 and more; one that calls nothing; one of which nothing is known."""
    sizes = np.geomspace(0.05, 0.13, 40)
    likely = np.array(calling(list(sizes), list(sizes > 0.08), usual=USUAL, at_large=1.0))
    assert (np.diff(likely) > 0).all()
    assert sizes[np.argmin(np.abs(likely - 0.5))] == pytest.approx(0.08, rel=0.08)
    assert max(calling(list(sizes[:20]), [False] * 20, usual=USUAL, at_large=1.0)) < 0.3
    (unknown,) = calling([USUAL], [True], usual=USUAL, at_large=1.0)
    assert 1 / (1 + np.exp(-1.0)) < unknown < 0.85


def test_it_is_what_scipys_minimiser_finds() -> None:
    """The mode of the posterior, written down from its definition and found by another method."""
    rng = np.random.default_rng(8)
    sizes = rng.uniform(0.05, 0.12, 60)
    called = rng.random(60) < 1 / (1 + np.exp(-6 * np.log(sizes / 0.075)))
    at, prior = np.log(sizes / USUAL), np.array([-0.5, GROWS])

    def unlikely(found: np.ndarray) -> float:
        odds = found[0] + found[1] * at
        return float(np.logaddexp(0.0, np.where(called, -odds, odds)).sum() + 0.5 * (((found - prior) / AT_LARGE_SD) ** 2).sum())

    best = minimize(unlikely, prior, method="Nelder-Mead", options={"xatol": 1e-8, "fatol": 1e-10}).x
    likely = 1 / (1 + np.exp(-(best[0] + best[1] * at)))
    assert calling(list(sizes), list(called), usual=USUAL, at_large=-0.5) == pytest.approx(likely, abs=1e-5)


def crests(turned: dict[float, float]) -> JudgingContext:
    """The stage with crests of these sizes where these metres are, and nothing called."""
    felt = tuple(Feature("crest", at - 8.0, at + 8.0, at, 25.0, None, 200.0, 0.7, None, size, 0.01) for at, size in turned.items())
    return replace(stage(), vertical=felt)


def found_in(case: JudgingContext) -> list[Finding]:
    return merge_crew_habits(list(judge_vertical(case)), case.notes)


def test_a_crest_of_a_size_that_the_crew_calls_is_missed_and_a_smaller_one_is_not() -> None:
    plain = stage()
    notes = range(4, 36, 4)
    places = {n: bend.to_m + 5.0 for n in notes if (bend := plain.lineup.tie_of[n].bend) is not None}
    heads = {n: plain.notes[n].text.rpartition(" ") for n in notes}
    called = stage(texts={n: f"{head} over crest {gap}" for n, (head, _, gap) in heads.items()})
    other = [plain.lineup.tie_of[n].bend for n in (6, 10, 14, 18, 22, 26)]
    small = {bend.to_m + 5.0: 0.051 for bend in other if bend is not None}
    large = plain.lineup.tie_of[30].bend
    assert large is not None
    sizes = {**dict.fromkeys(places.values(), 0.09), **small, large.to_m + 5.0: 0.1}
    found = found_in(replace(crests(sizes), notes=called.notes, lineup=called.lineup, hand=called.hand))
    assert [round(f.from_m + 12.0) for f in found] == [round(large.to_m + 5.0)]
    assert found[0].confidence > 0.7
