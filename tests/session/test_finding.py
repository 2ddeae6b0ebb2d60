"""Looking for findings and notes by words, by place, by number, and by what was decided."""

from __future__ import annotations

import pytest

from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.search import found


def test_findings_are_found_by_what_they_say_and_by_what_was_decided(stage: ReviewedPass) -> None:
    everything = found(stage, "")
    assert [h.finding for h in everything] == list(stage.findings)
    assert [h.finding for h in found(stage, "", order="stage")] == sorted(stage.findings, key=lambda f: f.from_m)
    by_page = [h.note for h in found(stage, "", order="page")]
    assert by_page == sorted(by_page)
    jumps = [
        h.finding
        for h in found(
            stage, "JUMP that no note", said=lambda f: f"{f.kind} a jump that no note calls" if f.kind == "jump-uncalled" else ""
        )
    ]
    assert jumps
    assert {f.kind for f in jumps if f is not None} == {"jump-uncalled"}
    first, second = stage.findings[:2]
    stage.choose(first)
    stage.answer("talk")
    assert [h.finding for h in found(stage, "", state="talk")] == [first]
    assert first not in [h.finding for h in found(stage, "", state="undecided")]
    assert second in [h.finding for h in found(stage, "", state="undecided")]
    assert {h.finding.severity for h in found(stage, "", shown="danger") if h.finding} == {"danger"}


@pytest.mark.parametrize("how", ["{page}.{line}", "p{page} l{line}", "page {page}, line {line}", "#{number}"])
def test_a_note_is_found_by_its_place_and_by_its_number(stage: ReviewedPass, how: str) -> None:
    note = next(n for n in stage.review.notes if n.index > 60 and not stage.findings_on(n.index))
    (hit,) = found(stage, how.format(page=note.page, line=note.line, number=note.index + 1))
    assert (hit.note, hit.finding) == (note.index, None)


def test_a_note_is_found_by_what_stands_for_it_now(stage: ReviewedPass) -> None:
    note = next(n for n in stage.review.notes if n.is_corner and n.index > 20 and not stage.findings_on(n.index))
    assert found(stage, "caution keep in rocks") == []
    stage.choose_note(note.index)
    stage.mark(f"{note.direction.value[0].upper()}1 caut keep in rocks 30", by="both")  # type: ignore[union-attr]
    assert [h.note for h in found(stage, "caut keep in rocks")] == [note.index]
    assert note.index in [h.note for h in found(stage, note.text)]
    assert found(stage, "nothing of the kind") == []
