"""Writing notes out, and carrying them over to another language and school."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from mirkle.core.notes.grading import GradingScheme, school_of
from mirkle.core.notes.model import Note, Reading
from mirkle.core.notes.reading import read_notes
from mirkle.core.notes.writing import carried_over, written_out
from mirkle.files.notes.languages import shipped_languages

ENGLISH, PORTUGUESE = (next(la for la in shipped_languages() if la.code == code) for code in ("en", "pt"))
SHAPES = [
    "",
    "long",
    "extra long",
    "tightens 3",
    "opens 5",
    "tightens late",
    "over crest",
    "over big jump",
    "don't cut",
    "keep right",
    "rocks inside",
    "at junction",
    "caution",
    "narrow",
    "past gate",
    "jump maybe",
]


def read(text: str) -> Reading:
    return read_notes(text, (ENGLISH,))


def called(note: Note) -> tuple:
    return (
        note.direction,
        note.grade,
        note.length,
        note.changes,
        note.cautions,
        note.features,
        note.line_on_road,
        note.objects,
        note.link,
        note.distance_m,
    )


@given(
    st.sampled_from(["left", "right"]),
    st.sampled_from(["4", "hairpin", "2 minus", "6 plus", "square"]),
    st.lists(st.sampled_from(SHAPES), max_size=3, unique=True),
    st.sampled_from(["into", "80", "150", ""]),
    st.sampled_from(["direction-first", "grade-first"]),
)
def test_what_is_written_out_reads_the_same(side: str, grade: str, shapes: list[str], gap: str, order: str) -> None:
    """For both languages: a note written out in full words and read again calls the same."""
    # "Tightens late tightens 3" can be cut in two ways; nobody says both in one breath.
    assume(sum(s.startswith(("tightens", "opens")) for s in shapes) < 2)
    rest = "\nright 3 80\nleft 5 60\nright 2 100\n"
    note = read(f"{side} {grade} {' '.join(shapes)} {gap}{rest}").notes[0]
    for language in (ENGLISH, PORTUGUESE):
        written = written_out(note, language, order=order)
        assert written.lost == ()
        again = read_notes(written.text, (language,), order=order).notes[0]
        assert called(again) == called(note)


@given(
    st.lists(st.sampled_from(["left 4 80", "R3 >2 into", "5 left  /cr 60", "caut R2  dc 40", "page 2", "L hp 40", "🙂 L4 30"]), min_size=1)
)
def test_a_books_text_comes_back_to_the_letter(lines: list[str]) -> None:
    text = "\n".join(lines)
    reading = read_notes(text, (ENGLISH,), corners_needed=False)
    assert "".join(t.text for t in reading.tokens) == text
    for note in reading.notes:
        assert note.text == text[note.span.start : note.span.end]


@pytest.mark.parametrize("grade", ["1", "3+", "6", "4-", "hairpin", "square", "flat"])
def test_there_and_back_again_between_schools(grade: str) -> None:
    up, down = GradingScheme(half_grades=True), GradingScheme(sense="descending", half_grades=True)
    note = (
        read("left 4 80\nright 3 60\n")
        .notes[0]
        .__class__(**{f: getattr(read("left 4 80").notes[0], f) for f in Note.__dataclass_fields__} | {"grade": grade})
    )
    there, lost = carried_over(note, up, down)
    back, lost_again = carried_over(there, down, up)
    assert back.grade == grade
    assert not lost
    assert not lost_again
    assert up.position(grade) == pytest.approx(down.position(there.grade or ""))


def test_what_lies_between_two_grades_of_the_other_school_is_said() -> None:
    note = read("left 4 tightens 3 80").notes[0]
    carried, lost = carried_over(note, GradingScheme(top=6), GradingScheme(top=9))
    assert carried.grade == "6"
    assert any("4 lies between" in what for what in lost)


@pytest.mark.parametrize(
    ("text", "sense", "surely"),
    [
        ("left 4 tightens 3 80\nright 2 opens 4 60\nleft 5 tightens 4 into", "ascending", True),
        ("left 4 tightens 5 80\nright 4 opens 2 60\nleft 2 tightens 3 into", "descending", True),
        ("left 8 80\nright 3 60", "ascending", True),
        ("left 4 80\nright 3 60", "ascending", False),
    ],
)
def test_which_way_a_crew_counts_is_found_from_its_changes(text: str, sense: str, surely: bool) -> None:
    school = school_of(read(text).notes)
    found, sure = school.sense, school.sense_sure
    assert found == sense
    assert (sure > 0.95) == surely


def test_one_slip_does_not_turn_a_school_round() -> None:
    text = "left 4 tightens 3 80\n" * 4 + "left 4 tightens 5 80\n"
    assert school_of(read(text).notes).sense == "ascending"
