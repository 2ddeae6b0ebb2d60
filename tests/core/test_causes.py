"""What one slip of the pen explains is one finding: pages missing, twice or not driven, notes the wrong way round, a zero too many."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
import pytest

from mirkle.core.judging.common_causes import with_causes
from mirkle.core.judging.corners import judge_corners
from mirkle.core.judging.findings import Finding, JudgingContext
from mirkle.core.judging.gaps import judge_gaps
from mirkle.core.lineup.called_notes import written_again
from mirkle.core.notes.reading import read_notes
from tests.core.test_verdict import ENGLISH, case_of, stage

HONEST = stage()
LINES = [n.text for n in HONEST.notes]
FIRST, LAST = 16, 24


def judged(lines: Sequence[str]) -> tuple[JudgingContext, list[Finding]]:
    """The corners and gaps of a book, judged against the honest road, with the causes."""
    case = case_of("\n".join(lines), HONEST.profile)
    return case, with_causes(case, [*judge_corners(case), *judge_gaps(case, frozenset())])


def test_an_honest_book_has_no_cause() -> None:
    assert judged(LINES)[1] == []


def test_a_page_that_is_missing_is_one_finding_that_writes_its_corners() -> None:
    case, found = judged([*LINES[:FIRST], *LINES[LAST:]])
    (page,) = [f for f in found if f.kind == "corner-uncalled"]
    assert page.id.startswith("page@")
    assert page.severity == "danger"
    assert abs(page.note - (FIRST - 1)) <= 2
    missing = [HONEST.lineup.bend_of(i) for i in range(FIRST, LAST)]
    inside = [b for b in missing if b is not None and page.from_m - 5 < b.apex_m < page.to_m + 5]
    assert len(inside) >= 6
    assert page.proposal is not None
    written = read_notes(page.proposal.text, (ENGLISH,)).corners
    assert len(written) == page.facts["of"] + 1
    assert len([f for f in found if f.severity == "danger"]) == 1
    assert case.notes[page.note].text.rsplit(" ", 1)[0] in page.proposal.text


def test_the_last_page_is_missed_up_to_the_finish() -> None:
    case, found = judged(LINES[:-8])
    (page,) = [f for f in found if f.kind == "corner-uncalled"]
    assert page.id == f"page@{len(case.notes) - 1}"
    assert page.to_m < case.finish_m
    assert page.proposal is not None
    written = read_notes(page.proposal.text, (ENGLISH,)).corners
    assert len(written) == page.facts["of"] + 1
    last = max(u.bend.to_m for u in case.lineup.uncalled if page.from_m < u.bend.apex_m < page.to_m)
    assert written[-1].distance_m == pytest.approx(case.finish_m - last, abs=15)
    # With notes behind that have no corner it can't be told whose corners these are: nothing is written.
    more = case_of("\n".join([*LINES[:-8], "left hairpin 30", "right hairpin 30"]), HONEST.profile)
    lineup = replace(more.lineup, ties=more.lineup.ties[:-2], uncalled=case.lineup.uncalled)
    (page,) = [f for f in with_causes(replace(more, lineup=lineup), list(judge_corners(case))) if f.id.startswith("page@")]
    assert page.proposal is None
    assert page.severity == "change"


def test_a_page_is_missed_beside_other_corners_without_a_note() -> None:
    """Fifteen corners lost their notes for another reason, one has its note, and behind it four are on no page: called metres that go with
    the fifteen are no reason to doubt the four."""
    case = case_of("\n".join([*LINES[:FIRST], *LINES[FIRST + 4 :]]), HONEST.profile)
    unpaired, (some, *_) = range(1, FIRST), case.lineup.uncalled
    bends = {t.note: t.bend for t in case.lineup.ties if t.bend is not None and t.note in unpaired}
    ties = tuple(replace(t, bend=None, position=None) if t.note in bends else t for t in case.lineup.ties)
    without = tuple(replace(some, bend=bend) for bend in bends.values())
    # They are called as long as their road is.
    notes = tuple(replace(n, distance_m=(n.distance_m or 0) + 30) if n.index in bends else n for n in case.notes)
    case = replace(case, notes=notes, lineup=replace(case.lineup, ties=ties, uncalled=(*without, *case.lineup.uncalled)))
    (page,) = [f for f in with_causes(case, list(judge_corners(case))) if f.id.startswith("page@")]
    assert abs(page.note - (FIRST - 1)) <= 2
    assert page.facts["of"] == 4


def test_a_missing_page_is_a_danger_only_where_a_corner_on_it_is_tight_and_the_recording_shows_it() -> None:
    lines = [*LINES[:FIRST], *LINES[LAST:]]
    case = case_of("\n".join(lines), HONEST.profile)

    def page(of: JudgingContext) -> Finding:
        found = with_causes(of, [*judge_corners(of), *judge_gaps(of, frozenset())])
        return next(f for f in found if f.id.startswith("page@"))

    assert page(case).severity == "danger"
    assert page(replace(case, coarse=True)).severity == "check"
    # As open as the most open corners of the scale: nobody is caught out by them.
    gentle = tuple(replace(u, position=float(case.school.top)) for u in case.lineup.uncalled)
    assert page(replace(case, lineup=replace(case.lineup, uncalled=gentle))).severity == "change"


def test_a_page_that_stands_there_twice_moves_nothing_and_is_one_finding() -> None:
    case, found = judged([*LINES[:LAST], *LINES[FIRST:]])
    (twice,) = found
    assert (twice.id, twice.kind, twice.severity) == (f"twice@{LAST}", "corner-unmet", "check")
    assert "these 8 corners are in the book twice in a row" in twice.why
    bends = [t.bend for t in case.lineup.ties if t.bend is not None]
    assert bends == [t.bend for t in HONEST.lineup.ties]


def test_a_page_of_another_road_is_one_finding() -> None:
    other = [f"{('left', 'right')[n % 2]} hairpin {150 + 50 * (n % 3)}" for n in range(8)]
    _, found = judged([*LINES[:FIRST], *other, *LINES[FIRST:]])
    (page,) = [f for f in found if f.id.startswith("page-unmet")]
    assert "corners was there" in page.why
    assert FIRST <= page.note < FIRST + 4


@pytest.mark.parametrize("at", [10, 21, 33])
def test_two_notes_the_wrong_way_round_are_one_finding_that_turns_them(at: int) -> None:
    texts = [LINES[at + 1].rsplit(" ", 1), LINES[at].rsplit(" ", 1)]
    gaps = [LINES[at].rsplit(" ", 1)[1], LINES[at + 1].rsplit(" ", 1)[1]]
    turned = [f"{text[0]} {gap}" for text, gap in zip(texts, gaps, strict=True)]
    _, found = judged([*LINES[:at], *turned, *LINES[at + 2 :]])
    (swapped,) = found
    assert (swapped.id, swapped.kind) == (f"swapped@{at}", "direction")
    assert "are the wrong way round" in swapped.why
    assert swapped.proposal is not None
    assert swapped.proposal.text.split("\n") == LINES[at : at + 2]


@pytest.mark.parametrize(("zero", "sentence"), [("0", "a zero too many"), ("", "")])
def test_a_zero_too_many_is_said(zero: str, sentence: str) -> None:
    lines = [*LINES]
    lines[20] = lines[20] + zero if zero else lines[20].rsplit(" ", 1)[0] + " 200"
    (distance,) = judged(lines)[1]
    assert distance.kind == "distance-shorter"
    assert ("a zero too many" in distance.why) is bool(sentence)


def test_a_page_is_twice_only_where_its_notes_differ() -> None:
    notes = read_notes("\n".join(["left 4 60", "right 4 60"] * 10), (ENGLISH,)).corners
    assert not written_again(notes).any()
    page = [f"left {1 + n % 5} {40 + 10 * n}" for n in range(6)]
    again = written_again(read_notes("\n".join(["right 3 20", *page, *page, "left 2 20"]), (ENGLISH,)).corners)
    assert list(np.flatnonzero(again)) == list(range(7, 13))


def test_a_zero_too_many_is_found_across_a_crest() -> None:
    """Two distances stand between the corners then: the one that is ten times too long is named, and written right."""
    at, crest = next(
        (i, f"crest {metres}")
        for i, n in enumerate(HONEST.notes)
        if 10 < i < 30 and (metres := (n.distance_m or 0) - 50) in (20, 30, 40, 50)
    )
    head = LINES[at].rpartition(" ")[0]
    _, found = judged([*LINES[:at], f"{head} 500", crest, *LINES[at + 1 :]])
    (distance,) = found
    assert (distance.kind, distance.severity, distance.note) == ("distance-shorter", "change", at)
    assert "a zero too many" in distance.why
    assert distance.proposal is not None
    assert distance.proposal.text == f"{head} 50"
    assert judged([*LINES[:at], f"{head} 50", crest, *LINES[at + 1 :]])[1] == []


def test_two_notes_turned_are_found_where_one_of_them_takes_a_bend_that_suits_it_as_well() -> None:
    """A missing corner beside a pair makes one look; a right book has no such pair."""
    assert HONEST.lineup.turned == ()
    for at in range(8, 30):
        a, b = HONEST.notes[at], HONEST.notes[at + 1]
        if a.direction == b.direction or a.grade == b.grade:
            continue
        texts = (LINES[at + 1].rpartition(" ")[0], LINES[at].rpartition(" ")[0])
        gaps = (LINES[at].rpartition(" ")[2], LINES[at + 1].rpartition(" ")[2])
        lines = [*LINES[:at], *(f"{t} {g}" for t, g in zip(texts, gaps, strict=True)), *LINES[at + 2 :]]
        (turned,) = case_of("\n".join(lines), HONEST.profile).lineup.turned
        assert (turned.note, turned.next_note) == (at, at + 1)
        assert turned.nats > 5.5
