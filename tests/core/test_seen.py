"""What would be written for what was seen on the video, in the crew's own hand."""

import pytest

from mirkle.core.notebook.observed import SEEN, to_write, with_grade
from mirkle.core.notes.grading import school_of
from mirkle.core.notes.reading import read_notes
from mirkle.core.notes.rewording import NoteWriter
from mirkle.files.notes.languages import shipped_languages

BOOK = "start 80\nL4 long 60\nR2 >1 into\nL hp 40\nR6 cr 120\nL5+ 30\nR1 50\ncaut L sq 30\nL4 >3 50\nR3 <4 50"


def written(seen: str, line: int, steps: int = 1, book: str = BOOK) -> str:
    language = next(la for la in shipped_languages() if la.code == "en")
    reading = read_notes(book, (language,))
    note = reading.notes[line - 1]
    return to_write(seen, note, NoteWriter(reading, language), school_of(reading.notes), steps)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("seen", "line", "steps", "instead"),
    [
        ("tighter", 2, 1, "L3 long 60"),
        ("tighter", 2, 3, "L1 long 60"),
        ("tighter", 7, 1, "Rsq 50"),
        ("opener", 4, 1, "L sq 40"),
        ("opener", 6, 1, "L6 30"),
        ("other-side", 2, 1, "R4 long 60"),
        ("longer", 2, 1, "L4 very long 60"),
        ("shorter", 2, 1, "L4 60"),
        ("longer", 5, 1, "R6 long cr 120"),
    ],
)
def test_the_rest_of_the_note_stays_to_the_letter(seen: str, line: int, steps: int, instead: str) -> None:
    assert written(seen, line, steps).replace("R sq", "Rsq") == instead


@pytest.mark.parametrize(
    ("seen", "line", "steps", "why"),
    [
        ("tighter", 4, 1, "there is none tighter than a hairpin"),
        ("opener", 5, 1, "this crew writes no flat"),
        ("tighter", 9, 1, "a three that tightens to three is no note"),
        ("opener", 10, 1, "a four that opens to four is none, either"),
        ("other-side", 1, 1, "a start has no side"),
        ("shorter", 2, 3, "there is no shorter word than short"),
        ("missing", 2, 1, "nobody but the crew knows what is missing"),
        ("hazard", 2, 1, "nor what lies there"),
    ],
)
def test_what_only_the_crew_can_say_is_left_to_it(seen: str, line: int, steps: int, why: str) -> None:
    assert written(seen, line, steps) == "", why


def test_a_crew_that_counts_down_goes_the_other_way() -> None:
    """Where 1 is nearly flat, tighter is a higher number."""
    book = "L4 <2 60\nR3 >5 50\nL2 >4 40\nR1 30\nL6 <4 50\nR3 40"
    assert written("tighter", 6, book=book) == "R4 40"
    assert written("opener", 6, book=book) == "R2 40"


def test_a_grade_that_is_typed_is_taken_if_it_is_one() -> None:
    language = next(la for la in shipped_languages() if la.code == "en")
    reading = read_notes(BOOK, (language,))
    hand, school = NoteWriter(reading, language), school_of(reading.notes)
    assert with_grade(reading.notes[1], hand, school, "2") == "L2 long 60"
    assert with_grade(reading.notes[1], hand, school, "9") == ""
    assert with_grade(reading.notes[0], hand, school, "2") == "", "a start has no grade"


def test_only_what_lets_the_car_go_faster_takes_both() -> None:
    assert {seen for seen, kind in SEEN.items() if kind.faster} == {"opener", "shorter"}
