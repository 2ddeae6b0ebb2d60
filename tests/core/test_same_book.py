"""Books are known by their sketches: changed, cut short or read aloud, and never one for another."""

from __future__ import annotations

import numpy as np
import pytest

from mirkle.core.notes.model import Note, Span
from mirkle.core.notes.same_book import LEAST_SAME, MOST, RUN, nearest_book, share_in_common, sketch_of

GRADES = ("1", "2", "3", "4", "4+", "5", "6", "hairpin")


def book_of(rng: np.random.Generator, corners: int) -> list[tuple[str, str]]:
    """Corners as crews call them: most of them open."""
    sides, grades = rng.choice(["left", "right"], corners), rng.choice(GRADES, corners, p=[0.02, 0.06, 0.15, 0.2, 0.1, 0.25, 0.2, 0.02])
    return [(str(side), str(grade)) for side, grade in zip(sides, grades, strict=True)]


def notes_of(corners: list[tuple[str, str]]) -> list[Note]:
    """Notes of corners, with one of no corner between every two."""
    found: list[Note] = []
    for side, grade in corners:
        for direction, called in ((side, grade), (None, None)):
            found.append(Note(len(found), 1, 1, "", Span(0, 0), direction=direction, grade=called))  # type: ignore[arg-type]
    return found


def changed(rng: np.random.Generator, corners: list[tuple[str, str]], share: float) -> list[tuple[str, str]]:
    """A book in which a share of the corners is called otherwise, or was misheard."""
    return [book_of(rng, 1)[0] if rng.random() < share else corner for corner in corners]


def exact_share(one: list[tuple[str, str]], other: list[tuple[str, str]]) -> float:
    """The share of the smaller book's runs that the other has."""
    sets = [{tuple((s, g.rstrip("+")) for s, g in book[at : at + RUN]) for at in range(len(book) - RUN + 1)} for book in (one, other)]
    return len(sets[0] & sets[1]) / min(map(len, sets))


@pytest.mark.parametrize("corners", [20, 120, 900])
def test_a_book_is_found_changed_and_misheard_and_no_other_is(corners: int) -> None:
    rng = np.random.default_rng(corners)
    books = [book_of(rng, corners) for _ in range(30)]
    sketches = [sketch_of(notes_of(book)) for book in books]
    for share, least in ((0.0, 30), (0.1, 29), (0.25, 27 if corners > 20 else 15)):
        found = [nearest_book(sketch_of(notes_of(changed(rng, book, share))), sketches) for book in books]
        assert sum(at == number for number, at in enumerate(found)) >= least
        assert all(at in (number, None) for number, at in enumerate(found))
    strangers = [sketch_of(notes_of(book_of(rng, corners))) for _ in range(60)]
    assert [nearest_book(s, sketches) for s in strangers] == [None] * 60


def test_a_sketch_tells_the_share_that_is_in_common() -> None:
    rng = np.random.default_rng(5)
    for _ in range(20):
        book = book_of(rng, 1500)
        other = changed(rng, book[: int(rng.integers(300, 1500))], rng.uniform(0, 0.3))
        here, there = sketch_of(notes_of(book)), sketch_of(notes_of(other))
        assert len(here) == MOST
        assert share_in_common(here, there) == pytest.approx(exact_share(book, other), abs=0.13)
        assert share_in_common(there, here) == share_in_common(here, there)


def test_what_is_of_two_books_or_too_short_is_of_none() -> None:
    rng = np.random.default_rng(6)
    book = book_of(rng, 60)
    sketch = sketch_of(notes_of(book))
    again = sketch_of(notes_of(changed(rng, book, 0.05)))
    assert nearest_book(sketch, [again]) == 0
    assert nearest_book(sketch, [sketch, again]) is None
    assert nearest_book(sketch, [sketch, sketch_of(notes_of(book_of(rng, 60)))]) == 0
    assert nearest_book(sketch, []) is None
    assert sketch_of(notes_of(book[: RUN - 1])) == ()
    short = sketch_of(notes_of(book[: RUN + LEAST_SAME - 2]))
    assert len(short) == LEAST_SAME - 1
    assert share_in_common(short, sketch) == 0.0
    assert share_in_common(sketch_of(notes_of(book[: RUN + LEAST_SAME - 1])), sketch) == 1.0
    # Half a grade more or less, and where nothing is called, make no difference.
    assert sketch_of(notes_of([(side, grade.rstrip("+") + "-") for side, grade in book])) == sketch
