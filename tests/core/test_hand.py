"""Proposals in the crew's own hand: its short-hand, its order, its numbers, and everything else to the letter."""

from __future__ import annotations

import pytest

from mirkle.core.errors import UnusableNotes
from mirkle.core.notes.called import CalledChange, CalledThing
from mirkle.core.notes.model import Direction, Note
from mirkle.core.notes.reading import read_notes
from mirkle.core.notes.rewording import NoteWriter, Rewording
from mirkle.core.notes.writing import written_out
from mirkle.files.notes.languages import shipped_languages

ENGLISH, PORTUGUESE = (next(la for la in shipped_languages() if la.code == code) for code in ("en", "pt"))
# One crew each: short-hand, full words, the grade first with halves, and Portuguese with the distance ahead.
BOOKS = {
    "short": "L4 80\nR3 >2 /cr 60\nL5 lg into\nR2 dc 100\nL6 30\n",
    "words": "left 4 80\nright 3 tightens 2 over crest 60\nleft 5 long into\nright 2 don't cut 100\nleft 6 30\n",
    "grade-first": "4 left 80\n3 right plus tightens 2 60\n5 left long into\n2 right 100\n6 left minus 30\n",
    "ahead": "80 esquerda 4\n60 direita 3 fecha 2\n50 esquerda 5 longa\n100 direita 2\n30 esquerda 6\n",
}


def hand_of(book: str) -> NoteWriter:
    reading = read_notes(BOOKS[book], (ENGLISH, PORTUGUESE))
    return NoteWriter(reading, PORTUGUESE if reading.language == "pt" else ENGLISH)


def note(hand: NoteWriter, index: int) -> Note:
    return hand.reading.notes[index]


@pytest.mark.parametrize(
    ("book", "index", "rewording", "text"),
    [
        ("short", 0, Rewording(grade="2"), "L2 80"),
        ("short", 0, Rewording(direction=Direction.RIGHT), "R4 80"),
        ("short", 0, Rewording(distance_m=60), "L4 60"),
        ("short", 0, Rewording(direction=Direction.RIGHT, grade="5", distance_m=100), "R5 100"),
        ("short", 0, Rewording(length="long"), "L4 lg 80"),
        ("short", 2, Rewording(length=""), "L5 into"),
        ("short", 2, Rewording(length="very long"), "L5 vlong into"),
        ("short", 0, Rewording(tightens="3"), "L4 >3 80"),
        ("short", 2, Rewording(tightens="4"), "L5 lg >4 into"),
        ("short", 1, Rewording(feature="jump"), "R3 >2 /jp 60"),
        ("words", 0, Rewording(grade="hairpin"), "left hairpin 80"),
        ("words", 0, Rewording(length="long"), "left 4 long 80"),
        ("words", 2, Rewording(length=""), "left 5 into"),
        ("words", 0, Rewording(tightens="3"), "left 4 tightens 3 80"),
        ("words", 1, Rewording(feature="jump"), "right 3 tightens 2 over jump 60"),
        ("grade-first", 0, Rewording(grade="2"), "2 left 80"),
        # A half that stands apart from its grade goes with it.
        ("grade-first", 1, Rewording(grade="2"), "2 right tightens 2 60"),
        ("ahead", 0, Rewording(grade="2"), "80 esquerda 2"),
        ("ahead", 0, Rewording(direction=Direction.RIGHT), "80 direita 4"),
        ("ahead", 0, Rewording(length="long"), "80 esquerda 4 longa"),
        ("ahead", 2, Rewording(length=""), "50 esquerda 5"),
        ("ahead", 0, Rewording(tightens="3"), "80 esquerda 4 fecha 3"),
        ("grade-first", 4, Rewording(tightens="3"), "6 left minus tightens 3 30"),
        ("grade-first", 4, Rewording(length="long"), "6 left minus long 30"),
        # A link gives way to metres; a plain corner has no crest that could become a jump.
        ("short", 2, Rewording(distance_m=60), "L5 lg 60"),
        ("short", 0, Rewording(feature="jump"), "L4 80"),
        ("short", 0, Rewording(), "L4 80"),
    ],
)
def test_a_note_is_reworded_to_the_letter(book: str, index: int, rewording: Rewording, text: str) -> None:
    hand = hand_of(book)
    assert hand.reworded(note(hand, index), rewording) == text


@pytest.mark.parametrize("book", BOOKS)
def test_whatever_is_reworded_reads_as_it_was_meant(book: str) -> None:
    hand = hand_of(book)
    for old in hand.reading.notes:
        (graded,) = hand.read_back(hand.reworded(old, Rewording(grade="1")))
        assert (graded.grade, graded.direction, graded.changes) == ("1", old.direction, old.changes)
        (turned,) = hand.read_back(hand.reworded(old, Rewording(direction=Direction.LEFT)))
        assert (turned.grade, turned.direction, turned.changes) == (old.grade, Direction.LEFT, old.changes)
        if not old.changes:
            (tightening,) = hand.read_back(hand.reworded(old, Rewording(tightens="1")))
            assert (tightening.grade, tightening.changes) == (old.grade, (CalledChange("tightens", to="1"),))
            assert tightening.length == old.length
            (opening,) = hand.read_back(hand.reworded(old, Rewording(opens=True)))
            assert (opening.grade, opening.changes, opening.length) == (old.grade, (CalledChange("opens"),), old.length)


@pytest.mark.parametrize(
    ("book", "corner", "bare", "feature", "with_feature"),
    [
        ("short", "R3 60", "R3", "jp 40", "L4 /jp 80"),
        ("words", "right 3 60", "right 3", "jump 40", "left 4 over jump 80"),
        ("grade-first", "3 right 60", "3 right", "jump 40", "4 left over jump 80"),
        ("ahead", "60 direita 3", "direita 3", "40 salto", "80 esquerda 4 sobre salto"),
    ],
)
def test_new_notes_look_like_the_crews_own(book: str, corner: str, bare: str, feature: str, with_feature: str) -> None:
    hand = hand_of(book)
    assert hand.corner(Direction.RIGHT, "3", distance_m=60) == corner
    assert hand.corner(Direction.RIGHT, "3", distance_m=None) == bare
    assert hand.feature("jump", distance_m=40) == feature
    assert hand.feature("jump", distance_m=None) == feature.replace("40", "").strip()
    assert hand.with_feature(note(hand, 0), "jump") == with_feature
    for text in (corner, feature, with_feature):
        assert not any(n.unread for n in hand.read_back(text))


@pytest.mark.parametrize(
    ("metres", "called"), [(4.0, 10), (27.0, 30), (63.0, 60), (78.0, 80), (94.0, 90), (112.0, 120), (171.0, 180), (260.0, 250)]
)
def test_distances_are_called_as_finely_as_this_crew_calls_them(metres: float, called: int) -> None:
    """Tens below a hundred, twenties below two hundred, then fifties (common practice), unless the crew has a number."""
    assert hand_of("short").nearest_distance(metres) == called


def test_a_number_of_the_crews_own_comes_first() -> None:
    own = NoteWriter(read_notes("L4 75\nR3 75\nL2 75\nR5 40", (ENGLISH,)), ENGLISH)
    assert own.nearest_distance(76.0) == 75
    assert own.nearest_distance(62.0) == 60


@pytest.mark.parametrize(("metres", "called"), [(118.0, 100), (131.0, 150), (68.0, 60), (12.0, 20), (170.0, 150), (400.0, 400)])
def test_a_crew_with_a_list_of_its_own_gets_no_other_number(metres: float, called: int) -> None:
    """Eight numbers are a list; what lies far beyond its end is rounded."""
    book = "\n".join(f"left 4 {m}" for m in (20, 30, 40, 50, 60, 80, 100, 150))
    assert NoteWriter(read_notes(book, (ENGLISH,)), ENGLISH).nearest_distance(metres) == called


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "nothing written"),
        ("  \n ", "nothing written"),
        ("left 4 5", "“5” is neither the grade nor the distance"),
        ("left 80", "the left has no grade"),
        ("4", "“4” is neither the grade nor the distance"),
        ("# only a remark", "not a note|no word"),
    ],
)
def test_what_is_no_note_is_refused(text: str, words: str) -> None:
    with pytest.raises(UnusableNotes, match=words) as fault:
        hand_of("words").read_back(text)
    assert fault.value.mend


def test_a_side_that_shares_a_grade_gets_its_own() -> None:
    reading = read_notes("left 5 60\ninto right left 3 40\nright 4 80", (ENGLISH,))
    shared = reading.notes[1]
    assert (shared.grade, shared.grade_span) == ("3", None)
    assert NoteWriter(reading, ENGLISH).reworded(shared, Rewording(grade="2")) == "into right 2"


def test_a_word_that_is_not_known_is_not_refused() -> None:
    """It may be the crew's own: it stays in the note, and nothing else is read otherwise for it."""
    (note,) = hand_of("words").read_back("left 4 holds 60 (look again)")
    assert (note.grade, note.distance_m, note.unread, note.remarks) == ("4", 60, ("holds",), ("(look again)",))


@pytest.mark.parametrize(
    ("english", "portuguese"),
    [
        ("left 4 rocks inside 80", "esquerda 4 pedras dentro 80"),
        ("right hairpin over crest into", "direita gancho sobre alto para"),
        ("left 3 tightens 2 don't cut 60", "esquerda 3 fecha 2 não cortar 60"),
        ("caution right 5 very long 100", "cautela direita 5 muito longa 100"),
    ],
)
def test_a_note_in_full_words_of_another_language(english: str, portuguese: str) -> None:
    (read, *_) = read_notes(f"{english}\nright 3 80\nleft 5 60", (ENGLISH,)).notes
    written = written_out(read, PORTUGUESE, order="direction-first")
    assert written.lost == ()
    assert sorted(written.text.split()) == sorted(portuguese.split())


def test_what_the_other_language_has_no_word_for_is_said() -> None:
    (read, *_) = read_notes("left 4 over crest 80\nright 3 80\nleft 5 60", (ENGLISH,)).notes
    strange = Note(
        **{f: getattr(read, f) for f in Note.__dataclass_fields__} | {"objects": (CalledThing("llama", "object", sides=("inside",)),)}
    )
    written = written_out(strange, PORTUGUESE, order="direction-first")
    assert written.lost == ("llama inside",)
    assert "llama" not in written.text
