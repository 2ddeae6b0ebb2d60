"""A book against itself: each slip that needs no recording is doubted on its note, and a good book is left alone."""

from __future__ import annotations

import pytest

from mirkle.core.notes.doubts import doubts_of
from mirkle.core.notes.grading import school_of
from mirkle.core.notes.reading import read_notes
from mirkle.files import demo_files
from mirkle.files.notes.languages import shipped_languages

GOOD = [
    "page 1",
    "L4 60",
    "R3 long >2 into",
    "L5 >4 80",
    "R6 over cr 100",
    "! L3 40",
    "page 2",
    "R2 30",
    "L4 <5 50",
    "R5 150",
    "L6 >4 40",
    "R4 >3 60",
]


def doubts(lines: list[str]) -> list[tuple[str, str]]:
    reading = read_notes("\n".join(lines), shipped_languages())
    return [(d.kind, str(d.sentence)) for d in doubts_of(reading)]


def test_a_good_book_is_not_doubted() -> None:
    assert doubts(GOOD) == []
    for name in (demo_files.NOTES, demo_files.CORRECTED):
        reading = read_notes(demo_files.demo_file(name).decode(), shipped_languages())
        assert doubts_of(reading) == []


@pytest.mark.parametrize(
    ("at", "line", "kind", "words"),
    [
        (1, "L4 5 60", "two-readings", "“L4 5 60”: 4 or 5?"),
        (3, "L 80", "half-corner", "has a side and no grade"),
        (2, "R3 long >5 into", "change", "tightens to a 5, but 5 is not tighter than 3"),
        (8, "L4 <2 50", "change", "opens to a 2, but 2 is not wider than 4"),
        (9, "R5 1500", "distance", "1500 m is far more than any other distance here, of which 100 m is the longest"),
        (10, "L10 40", "grade", "no other note has a grade above 6"),
        (4, "L5 80", "", ""),
        (6, "page 4", "page-missing", "Page 4 follows page 1"),
        (5, "! 40", "alert", "is a warning with nothing behind it"),
        (10, "L6 zorbl 40", "word", "“zorbl” is not understood"),
    ],
)
def test_a_slip_is_doubted_on_its_note(at: int, line: str, kind: str, words: str) -> None:
    lines = list(GOOD)
    lines[at] = line
    found = doubts(lines)
    assert [k for k, _ in found] == ([kind] if kind else [])
    assert all(words in sentence for _, sentence in found)


def test_a_line_and_a_page_that_stand_there_twice_are_doubted() -> None:
    assert ("twice", "“R3 long >2 into” is there twice in a row.") in doubts([*GOOD[:3], GOOD[2], *GOOD[3:]])
    page = GOOD[7:]
    assert [k for k, _ in doubts([*GOOD, "page 3", *page])] == ["page-twice"]
    # Two plain bends alike follow each other on many roads.
    assert doubts([*GOOD[:2], "L4 60", *GOOD[2:]]) == []


def test_more_words_than_there_is_time_for_are_doubted_once() -> None:
    wordy = "caution slow L3 >2 over small cr keep right don't cut rocks inside into"
    found = doubts([*GOOD[:5], *[wordy] * 1, wordy.replace("L3", "R3"), wordy.replace("L3", "L4"), *GOOD[5:]])
    assert [k for k, _ in found] == ["crowded"]
    assert "s of words in" in found[0][1]
    spaced = [line.replace("into", "150") for line in (wordy, wordy.replace("L3", "R3"), wordy.replace("L3", "L4"))]
    assert doubts([*GOOD[:5], *spaced, *GOOD[5:]]) == []


def test_one_stray_number_makes_no_longer_scale() -> None:
    lines = [*GOOD, "R10 40"]
    school = school_of(read_notes("\n".join(lines), shipped_languages()).notes)
    assert (school.top, school.stray) == (6, 10)
    # Whoever reads it believes that it is flat out.
    assert school.position("10") == school.position("flat")
    with pytest.raises(ValueError, match="no grade from 1 to 6"):
        school.position("9")
    longer = school_of(read_notes("\n".join([*lines, "L9 40", "L10 60"]), shipped_languages()).notes)
    assert (longer.top, longer.stray) == (10, 0)
