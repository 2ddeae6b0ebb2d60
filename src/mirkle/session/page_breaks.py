"""Where the pages of the paper book turn: on straights, by the time that there is at the pace of the pass."""

from __future__ import annotations

from collections import Counter
from itertools import pairwise

from mirkle.core.constants import kmh
from mirkle.core.notebook.paging import Pages, with_breath
from mirkle.session.open_pass import OpenPass
from mirkle.session.paging import MOST_LINES, pages_of
from mirkle.session.rehearsal import average_kmh
from mirkle.session.reviewed_pass import ReviewedPass


def pages_with_breath(stage: OpenPass) -> Pages:
    """The pages of a stage's book, as long as they are now, turned where there is time at the pace of the pass; without a recording at a
    usual pace."""
    now = pages_of(stage.project, stage.reading)
    counts = Counter(note.page for note in stage.notes)
    lines = now.lines_a_page or max(max(note.line for note in stage.notes), min(counts.values(), default=1))
    return with_breath(stage.reading, min(lines, MOST_LINES), breath_s(stage))


def breath_s(stage: OpenPass) -> list[float]:
    """Seconds between each note's end and the next note's corner, (notes,): as driven where both have a bend, else by what is called at a
    usual pace."""
    out = [(note.distance_m or 0) / (average_kmh() / kmh(1.0)) for note in stage.notes]
    if isinstance(stage, ReviewedPass):
        profile, paired = stage.review.profile, [t for t in stage.review.lineup.ties if t.bend is not None]
        for before, behind in pairwise(paired):
            assert before.bend is not None
            assert behind.bend is not None
            if behind.note == before.note + 1:
                out[before.note] = profile.seconds_at(behind.bend.from_m) - profile.seconds_at(before.bend.to_m)
    return out
