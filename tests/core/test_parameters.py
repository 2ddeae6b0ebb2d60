"""What the judging weighs by: written down once, inside its interval, and none of it idle."""

from __future__ import annotations

import re
import sys
from dataclasses import fields, replace
from functools import cache
from pathlib import Path

import pytest

from mirkle.core.judging.parameters import PARAMETERS, Parameters, rows
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.review import Review, judged_again
from mirkle.files.notes.languages import shipped_languages

ROOT = Path(__file__).parents[2]
sys.path.insert(0, str(ROOT / "bench"))

# Numbers of the training generator.
WORLDS = (6, 10)


@cache
def reviews() -> tuple[Review, ...]:
    from rough.worlds import reviewed, world

    return tuple(reviewed(world(n), "usual logger")[0] for n in WORLDS)


def told(review: Review, given: Parameters) -> list[tuple[str, str, float]]:
    """What is shown of a pass that is judged by other numbers."""
    r, crew = review, CrewProfile(languages=shipped_languages())
    again = judged_again(r, crew, given)
    return [(f.id, f.severity, round(f.confidence, 6)) for f in again.findings]


@cache
def told_now() -> tuple[list[tuple[str, str, float]], ...]:
    return tuple(told(r, PARAMETERS) for r in reviews())


@pytest.mark.parametrize("name", [f.name for f in fields(Parameters) if f.name != "coarse_widens"])
def test_no_number_is_idle(name: str) -> None:
    """Half or twice of it changes what is shown on some world; a number that does nothing should not be there."""
    value = getattr(PARAMETERS, name)
    moved = [replace(PARAMETERS, **{name: value * factor}) for factor in (0.5, 2.0)]
    assert any(now != told(r, m) for now, r in zip(told_now(), reviews(), strict=True) for m in moved)


def test_judging_again_by_the_same_numbers_says_the_same() -> None:
    for now, review in zip(told_now(), reviews(), strict=True):
        assert now == [(f.id, f.severity, round(f.confidence, 6)) for f in review.findings]


def test_the_numbers_stand_in_their_intervals_and_in_the_docs() -> None:
    table = dict(re.findall(r"^\| `(\w+)` \| ([^|]+ \| [^|]+ \| [^|]+) \|", (ROOT / "docs/verdict.md").read_text(), re.M))
    assert table.keys() == {name for name, *_ in rows()}
    for name, value, unit, low, high, source in rows():
        assert low < value < high
        assert source
        assert table[name] == f"{value:g} | {low:g} to {high:g} | {unit}"
