"""Pages that turn where there is breath: on sixty books of other crews never between linked corners, and as cheaply as can be."""

from __future__ import annotations

from itertools import combinations, pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mirkle.core.notebook.paging import LINKED_COST, PAGE_COST, _turn_cost, lines_of, paged, with_breath
from mirkle.core.notes.reading import read_notes
from mirkle.files.notes.languages import shipped_languages

LINES = 12


def book(rng: np.random.Generator, notes: int) -> str:
    """A book with links, distances, crests between corners, and two notes on a line here and there."""
    lines: list[str] = []
    linked = 0
    for _ in range(notes):
        may = linked < LINES - 3 and rng.random() < 0.35
        linked = linked + 1 if may else 0
        gap = str(rng.choice(["into", "and"])) if may else str(int(rng.choice([20, 40, 60, 100, 200, 350])))
        note = f"{rng.choice(['left', 'right'])} {rng.integers(1, 7)} {gap}" if rng.random() < 0.85 or may else f"crest {gap}"
        if lines and rng.random() < 0.1:
            lines[-1] += f" {note}"
        else:
            lines.append(note)
    return "\n".join(lines) + "\nleft 4\n"


@pytest.mark.parametrize("number", range(60))
def test_no_page_turns_between_linked_corners(number: int) -> None:
    rng = np.random.default_rng([number, 71])
    reading = read_notes(book(rng, int(rng.integers(30, 150))), shipped_languages())
    breath = [float(rng.uniform(2.0, 9.0)) if n.distance_m else 0.3 for n in reading.notes]
    pages = paged(reading, with_breath(reading, LINES, breath)).notes
    assert max(n.line for n in pages) <= LINES
    turns = [a for a, b in pairwise(pages) if a.page != b.page]
    assert turns
    assert [n.text for n in turns if n.link is not None] == []


@settings(max_examples=60, deadline=None)
@given(st.lists(st.tuples(st.booleans(), st.floats(0.5, 12.0)), min_size=2, max_size=9), st.integers(1, 5))
def test_no_other_pages_are_cheaper(gaps: list[tuple[bool, float]], lines_a_page: int) -> None:
    """Against every way to part the book."""
    text = "".join(f"left {n % 6 + 1} {'into' if linked else '60'}\n" for n, (linked, _) in enumerate(gaps)) + "right 4\n"
    reading = read_notes(text, shipped_languages())
    breath = [seconds for _, seconds in gaps] + [0.0]
    rows = len(lines_of(reading))

    def cost(begins: tuple[int, ...]) -> float:
        ends = (*begins[1:], rows)
        if any(b - a > lines_a_page for a, b in zip(begins, ends, strict=True)):
            return np.inf
        return sum(_turn_cost(reading.notes[b - 1], breath[b - 1]) for b in begins[1:]) + PAGE_COST * len(begins)

    ways = [(0, *more) for size in range(rows) for more in combinations(range(1, rows), size)]
    assert cost(with_breath(reading, lines_a_page, breath).begins) == pytest.approx(min(map(cost, ways)))


def test_a_chain_that_no_page_holds_is_parted_once() -> None:
    reading = read_notes("left 4 into\n" * 7 + "left 4 60\nright 3 60\n", shipped_languages())
    pages = with_breath(reading, 4, [0.2] * 7 + [3.0, 3.0])
    linked = [reading.notes[b - 1].link is not None for b in pages.begins[1:]]
    assert sum(linked) == 1
    assert LINKED_COST > 1000 * PAGE_COST
    with pytest.raises(ValueError, match="one line"):
        with_breath(reading, 0, [0.0] * 9)
