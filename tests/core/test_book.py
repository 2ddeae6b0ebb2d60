"""Decisions and editions."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mirkle.core.errors import UnusableNotes
from mirkle.core.notebook.decisions import Entry, FindingAnswer, Ledger, NoteChange, NotePlace
from mirkle.core.notebook.edition import Edition
from tests.core.test_notes import read

SOURCE = "page 1\nL4  80\nR3 /cr 60\n\nL5 into   # ask\nR2 100\n"


def mark(key: str, first: int, last: int, text: str) -> NoteChange:
    return NoteChange(key=key, notes=NotePlace(first, last), text=text)


def keep(key: str) -> FindingAnswer:
    return FindingAnswer(key=key, answer="keep")


def test_an_edition_changes_only_what_was_marked() -> None:
    reading = read(SOURCE)
    edition = Edition(reading, [mark("a", 1, 1, "R2 /cr 60"), keep("b"), keep("c")])
    assert edition.text == SOURCE.replace("R3 /cr 60", "R2 /cr 60")
    (change,) = edition.changes
    assert (change.page, change.line, change.old, change.new) == (1, 2, "R3 /cr 60", "R2 /cr 60")
    assert Edition(reading, []).text == SOURCE


def test_a_mark_over_two_notes_takes_the_second_up_into_the_first() -> None:
    reading = read("L4 80\nR3 60\nL5 40\n")
    edition = Edition(reading, [mark("a", 0, 1, "L4 150")])
    assert edition.text == "L4 150\nL5 40\n"
    assert edition.text_of(reading.notes[0]) == "L4 150"
    assert edition.text_of(reading.notes[1]) == ""
    with pytest.raises(UnusableNotes, match="already part of"):
        edition.check_can_take(mark("b", 1, 1, "R2 60"))
    edition.check_can_take(mark("b", 0, 2, "L4 200"))


@given(st.lists(st.tuples(st.integers(0, 3), st.sampled_from(["L1 10", "R6 into", "L2 30\nR3 40"])), max_size=8))
def test_the_last_mark_on_a_note_stands_and_the_rest_is_to_the_letter(marks: list[tuple[int, str]]) -> None:
    reading = read(SOURCE)
    edition = Edition(reading, [mark(f"f{n}", n, n, text) for n, text in marks])
    last = dict(marks)
    expected = SOURCE
    for note in reversed(reading.notes):
        if note.index in last:
            expected = expected[: note.span.start] + last[note.index] + expected[note.span.end :]
    assert edition.text == expected


@given(st.lists(st.sampled_from(["a", "b", "c", "undo", "redo"]), max_size=30))
def test_the_ledger_is_a_stack_with_a_memory(moves: list[str]) -> None:
    done, undone = [], []
    entries = []
    for i, move in enumerate(moves):
        if move == "undo":
            entries.append(Entry("undo"))
            if done:
                undone.append(done.pop())
        elif move == "redo":
            entries.append(Entry("redo"))
            if undone:
                done.append(undone.pop())
        else:
            decision = mark(move, i, i, str(i))
            entries.append(Entry("decide", decision))
            done.append(decision)
            undone = []
    ledger = Ledger.of(entries)
    assert [ledger.decisions[n] for n in ledger.done] == done
    assert {name: ledger.decisions[n] for name, n in ledger.standing.items()} == {d.key: d for d in done}


@given(st.lists(st.sampled_from(["decide", "elsewhere", "undo", "redo"]), max_size=30))
def test_an_undo_takes_back_what_was_seen_whatever_came_meanwhile(moves: list[str]) -> None:
    """What another window or a background thread put into the log since is not what somebody who presses undo sees last."""
    log: list[Entry] = []
    seen = Ledger()
    for number, move in enumerate(moves, start=1):
        if move in ("decide", "elsewhere"):
            entry = Entry("decide", keep(f"{move} {number}"), number=number)
        else:
            numbers = seen.done if move == "undo" else seen.undone
            if not numbers:
                continue
            entry = Entry(move, of=numbers[-1], number=number)
        log.append(entry)
        if move != "elsewhere":
            seen.apply(entry)
    again = Ledger.of(log)
    mine = [n for n in again.done if again.decisions[n].key.startswith("decide")]
    assert mine == seen.done
    assert [n for n in again.done if n not in mine] == [
        e.number for e in log if e.decision is not None and e.decision.key.startswith("elsewhere")
    ]
