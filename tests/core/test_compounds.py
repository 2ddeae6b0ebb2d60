"""Words that call two corners at once: asked about where nobody explained them, and believed where they are known."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from mirkle.core.judging.compounds import call_nothing, with_compounds
from mirkle.core.judging.corners import judge_corners
from mirkle.core.judging.findings import Finding, JudgingContext
from tests.core.test_bends import profile
from tests.core.test_pairing import radius
from tests.core.test_verdict import GRIP, case_of, kinds

EVERY, COUNT = 5, 40
DOUBLED = [i for i in range(COUNT) if i % EVERY == 2]


def case(word: str, *, at: list[int] = DOUBLED) -> JudgingContext:
    """A road on which every fifth bend is followed by one the other way that the book has no corner for, with a word there."""
    rng = np.random.default_rng(5)
    parts, lines, side = [np.zeros(80)], [], 1
    for i in range(COUNT):
        side = -side
        grade, gap = int(rng.integers(2, 6)), int(rng.choice([60, 80, 100]))
        parts.append(np.full(60, side / radius(grade)))
        called = f" {word}" if i in at else ""
        lines.append(f"{'left' if side > 0 else 'right'} {grade}{called} {gap}")
        if i in DOUBLED:
            parts += [np.zeros(15), np.full(50, -side / radius(3))]
            side = -side
        parts.append(np.zeros(gap))
    bent = np.convolve(np.concatenate([*parts, np.zeros(60)]), np.ones(9) / 9, mode="same")
    speed = np.clip(np.sqrt(GRIP / np.maximum(np.abs(bent), 1e-3)), 5.0, 25.0)
    road = profile(bent)
    time_s = np.concatenate([[0.0], np.cumsum(2 / (speed[1:] + speed[:-1]))])
    return case_of("\n".join(lines), replace(road, speed_mps=speed, time_s=time_s))


def found_in(on: JudgingContext) -> list[Finding]:
    return with_compounds(on, list(judge_corners(on)))


def test_a_word_ahead_of_bends_that_no_note_calls_is_one_question() -> None:
    assert kinds(found_in(case(""))) == [("corner-uncalled", i) for i in DOUBLED]
    (asked,) = found_in(case("flick"))
    assert (asked.id, asked.note, asked.severity, asked.proposal) == ("compound@flick", DOUBLED[0], "check", None)
    assert "At 8 of 8 places a bend the other way without a note follows “flick”." in asked.why
    assert len(found_in(case("wibble wobble"))) == 1


@pytest.mark.parametrize("at", [list(range(COUNT)), DOUBLED[:2]])
def test_a_word_that_stands_elsewhere_too_or_seldom_is_not_asked_about(at: list[int]) -> None:
    assert [f.kind for f in found_in(case("flick", at=at))] == ["corner-uncalled"] * len(DOUBLED)


def test_a_change_over_calls_the_bend_behind_it() -> None:
    assert found_in(case("change over")) == []


ELSEWHERE = [i for i in range(COUNT) if i not in DOUBLED and i - 1 not in DOUBLED]


@pytest.mark.parametrize(
    ("ahead", "elsewhere", "calls_nothing"),
    [(0, 6, True), (1, 0, False), (1, 1, False), (1, 2, True), (2, 2, False), (2, 5, True), (len(DOUBLED), 0, False)],
)
def test_a_word_calls_nothing_where_it_stands_at_enough_corners_with_nothing_behind(
    ahead: int, elsewhere: int, calls_nothing: bool
) -> None:
    on = case("wibble", at=sorted(DOUBLED[:ahead] + ELSEWHERE[:elsewhere]))
    assert call_nothing(on, list(judge_corners(on))) == ({"wibble"} if calls_nothing else frozenset())
