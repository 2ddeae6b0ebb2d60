"""Where notes lie: at their bends, and by the book between them."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from mirkle.core.lineup.note_positions import NotePositions
from mirkle.core.notes.book_metres import CORNER_M, LINKED_M, laid_out_m
from mirkle.core.review import Review
from tests.core.test_notes import read


def test_a_book_is_laid_out_by_its_distances_and_words_of_length() -> None:
    row = laid_out_m(read("L4 80\nR3 long into\nL2 60\n").notes, 1.1, {2: 24.0})
    # A corner of a usual length, one called long, one that was met.
    third = CORNER_M + 88.0 + 60.0 + LINKED_M
    assert row.ravel() == pytest.approx([0.0, CORNER_M, CORNER_M + 88.0, third - LINKED_M, third, third + 24.0, third + 90.0, third + 90.0])


def test_notes_lie_at_their_bends_and_in_order_between_them(demo_review: Review) -> None:
    positions, lineup = demo_review.positions, demo_review.lineup
    place_m = positions.note_m
    assert np.all(np.diff(place_m) >= 0.0)
    assert place_m[0] >= 0.0
    assert place_m[-1] <= demo_review.finish_m
    known = np.isfinite(positions.corner_m)
    assert place_m[known] == pytest.approx(np.maximum.accumulate(positions.corner_m[known]))
    for tie in lineup.ties:
        if tie.bend is not None:
            assert positions.shown_m(tie.note) == tie.bend.apex_m
            assert positions.behind_m(tie.note) == tie.bend.to_m
            assert positions.last_before(tie.bend.from_m) is not None
    assert positions.last_before(-1.0) is None


def test_a_note_without_a_bend_lies_where_its_distance_puts_it(demo_review: Review) -> None:
    """Taken off the road, a corner is looked for where the book has it, to within what distances are off."""
    notes, lineup = demo_review.notes, demo_review.lineup
    off = []
    for tie in lineup.ties[5:-5:7]:
        if tie.bend is None:
            continue
        ties = tuple(replace(t, bend=None) if t is tie else t for t in lineup.ties)
        blind = NotePositions(notes, replace(lineup, ties=ties), demo_review.finish_m)
        off.append(blind.note_m[tie.note] - demo_review.positions.corner_m[tie.note])
    assert len(off) > 10
    assert float(np.median(np.abs(off))) < 15.0


def test_features_are_looked_for_around_their_corner_and_no_farther_than_the_next(demo_review: Review) -> None:
    positions = demo_review.positions
    for note in demo_review.notes:
        found = positions.range_m(note)
        own, behind = demo_review.lineup.bend_of(note.index), positions.bend_behind(note.index)
        if found is None:
            assert note.is_corner or own is None
            continue
        assert found[0] < found[1]
        if own is not None:
            assert found[0] < own.from_m
            assert found[1] > own.to_m
            if behind is not None:
                assert found[1] <= max(behind.from_m + 10.0, own.to_m + 20.0, own.eased_to_m)
