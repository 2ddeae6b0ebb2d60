"""Notes that held on every pass are proven, those that some pass speaks against are doubtful, and nothing else is either."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace

from mirkle.core.followup.belief import Belief, beliefs
from mirkle.core.judging.parts import Part
from tests.core.test_followup import DRY, driven


def states(found: list[Belief]) -> Counter[str]:
    return Counter(b.state for b in found)


def test_two_passes_prove_most_notes_and_doubt_those_with_findings() -> None:
    _, earlier, later, _ = driven(DRY)
    found = {b.note.index: b for b in beliefs([earlier, later])}
    corners = [n for n in later.notes if n.is_corner]
    assert found.keys() == {n.index for n in corners}
    assert states(list(found.values()))["proven"] > 0.3 * len(corners)
    # A danger on the note itself makes it doubtful, whatever the other pass says.
    for f in later.findings:
        if f.kind in ("grade-tighter", "direction") and f.severity == "danger" and later.lineup.tie_of[f.note].sure > 0.9:
            assert found[f.note].state == "doubtful"
            assert "wrong" in str(found[f.note].sentence)
    for one in found.values():
        assert one.right + one.wrong <= 2
        assert one.in_time + one.late <= one.right + one.wrong


def test_one_pass_proves_nothing_and_what_does_not_count_says_nothing() -> None:
    _, earlier, later, _ = driven(DRY)
    assert states(beliefs([later]))["proven"] == 0
    out = replace(earlier, parts=(Part(0.0, earlier.finish_m + 500.0, "puncture"),))
    assert [(b.right, b.wrong) for b in beliefs([out, later])] == [(b.right, b.wrong) for b in beliefs([later])]


def test_a_note_that_was_changed_begins_anew() -> None:
    _, earlier, later, _ = driven(DRY)
    proven = next(b for b in beliefs([earlier, later]) if b.state == "proven")

    def with_note(**changed: object) -> Belief:
        notes = tuple(replace(n, **changed) if n.index == proven.note.index else n for n in later.notes)
        again = replace(later, reading=replace(later.reading, notes=notes))
        return next(b for b in beliefs([earlier, again]) if b.note.index == proven.note.index)

    now = with_note(length="long" if proven.note.length != "long" else "short")
    assert (now.right, now.state) == (1, "not-enough")
    # The same call in another hand is the same note.
    assert with_note(text=f"{proven.note.text} // look again").state == "proven"


def test_a_late_call_keeps_a_note_from_being_proven() -> None:
    one = Belief(driven(DRY)[2].notes[3], right=3, wrong=0, in_time=2, late=1)
    assert one.state == "not-enough"
    assert str(one.sentence) == "right 3 times, in time 2 times, late once"
    assert replace(one, late=0).state == "proven"
    assert str(replace(one, right=0, in_time=0, late=0).sentence) == "no pass shows it"
