"""Reading notes and writing them back."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mirkle.core.errors import UnusableLanguage, UnusableNotes
from mirkle.core.notes.crew_profile import taught
from mirkle.core.notes.grading import GradingScheme, school_of
from mirkle.core.notes.language import language_from_table
from mirkle.core.notes.model import Direction, Note, Reading
from mirkle.core.notes.reading import read_notes
from mirkle.core.notes.rewording import NoteWriter, Rewording
from mirkle.core.notes.suggestions import meanings_of
from mirkle.files.notes.languages import shipped_languages

ENGLISH = shipped_languages()[0]


def read(text: str) -> Reading:
    return read_notes(text, shipped_languages())


def only(text: str) -> Note:
    (note,) = read(text).notes
    return note


def plain(value: object) -> object:
    """A part of a note as the contract spells it."""
    return tuple(map(str, value)) if isinstance(value, tuple) else value


@pytest.mark.parametrize(
    ("text", "direction", "grade", "rest"),
    [
        ("left 4 long 80", "left", "4", {"length": "long", "distance_m": 80}),
        ("L4+ 150", "left", "4+", {"distance_m": 150}),
        ("R5 /cr 30", "right", "5", {"features": ("over crest",), "distance_m": 30}),
        ("caut R3 dc 40", "right", "3", {"cautions": ("caution",), "line_on_road": ("don't cut",), "distance_m": 40}),
        ("L4 >3 into", "left", "4", {"changes": ("tightens 3",), "link": "into"}),
        ("L4 > 3 <5 &", "left", "4", {"changes": ("tightens 3", "opens 5"), "link": "and"}),
        ("square L at jn 120", "left", "square", {"objects": ("at junction",), "distance_m": 120}),
        ("L hp 100 over crest", "left", "hairpin", {"features": ("over crest",), "distance_m": 100}),
        (
            "right 2 extra long tightens late rocks inside 30",
            "right",
            "2",
            {"length": "extra long", "changes": ("tightens late",), "objects": ("rocks inside",), "distance_m": 30},
        ),
        ("R6 thru dip dcaut 40", "right", "6", {"features": ("through dip",), "cautions": ("double caution",)}),
        ("R5 over crest keep mid 80", "right", "5", {"features": ("over crest",), "line_on_road": ("keep middle",)}),
        ("L6 over 2 crests don't 100", "left", "6", {"features": ("over 2 crests",), "line_on_road": ("don't cut",)}),
        ("R4 crest? 60", "right", "4", {"features": ("crest maybe",)}),
        ("L3 cut maybe, round bale, pass gate 50", "left", "3", {"line_on_road": ("cut maybe",), "objects": ("round bale", "past gate")}),
        (
            "careful R4 slowing fresh air outside drive 70",
            "right",
            "4",
            {"cautions": ("care", "slow"), "objects": ("drop outside",), "line_on_road": ("drive",)},
        ),
        ("L5 tight 60", "left", "5", {"changes": ("tight",)}),
        ("left flat 200", "left", "flat", {"distance_m": 200}),
    ],
)
def test_a_corner_is_read_with_everything_on_it(text: str, direction: str, grade: str, rest: dict) -> None:
    note = only(text)
    assert (note.direction.value if note.direction else None, note.grade) == (direction, grade)
    assert {k: plain(getattr(note, k)) for k in rest} == rest
    assert note.unread == ()
    assert note.text == text


@pytest.mark.parametrize(
    ("text", "order", "grades"),
    [
        ("left 4 80\nright 3 60\nleft 2 into", "direction-first", ["4", "3", "2"]),
        ("4 left 80\n3 right 60\n2 left into", "grade-first", ["4", "3", "2"]),
        (
            "5 right 20 3 left 20 2 right 40 5 left caution 20\n4 right bump 20 2 left long 50",
            "grade-first",
            ["5", "3", "2", "5", "4", "2"],
        ),
        ("3 right tightens 1 20 3 left opens 4 60", "grade-first", ["3", "3"]),
    ],
)
def test_the_order_is_found_from_the_text(text: str, order: str, grades: list[str]) -> None:
    reading = read(text)
    assert reading.order == order
    assert [n.grade for n in reading.corners] == grades


@pytest.mark.parametrize("mark", ["page 4", "--- page 4 ---", "p.4", "pg 4"])
def test_a_page_is_marked_in_many_hands(mark: str) -> None:
    reading = read(f"page 3\nL4 80\n{mark}\nR3 60")
    assert [(n.text, n.page) for n in reading.notes] == [("L4 80", 3), ("R3 60", 4)]


@pytest.mark.parametrize("half", [".5", ",5", "½", " and a half"])
def test_half_way_between_two_grades(half: str) -> None:
    book = read(f"L3{half} tightens 2{half} 60\nR4 50\nL2{half} into R5{half} 80\nL3, 5 right long 50")
    assert [n.grade for n in book.corners] == ["3½", "4", "2½", "5½", "3", "5"]
    assert str(book.corners[0].changes[0]) == "tightens 2½"
    school = school_of(book.notes)
    assert (school.between, school.half_grades) == (True, True)
    assert [school.position(g) for g in ("3", "3½", "4-")] == pytest.approx([3.0, 3.5, 4 - 1 / 3])
    assert [GradingScheme("descending").position(g) for g in ("3", "3½", "4")] == [4.0, 3.5, 3.0]
    assert [school.grade_at(p) for p in (2.8, 3.3, 3.7, 3.8, 6.4)] == ["3", "3½", "3½", "4", "6"]
    assert GradingScheme("descending", between=True).grade_at(3.6) == "3½"
    assert [GradingScheme(sense).grade_at(2.5) for sense in ("ascending", "descending")] == ["2", "5"], "the tighter of two"
    # A correction is written in the crew's own way, and says what it is meant to.
    hand = NoteWriter(book, ENGLISH)
    written = hand.reworded(book.notes[1], Rewording(grade="3½"))
    assert written == f"R3{half} 50"
    assert read(f"L2 40\n{written}").corners[1].grade == "3½"


@pytest.mark.parametrize("text", ["R4 at 3.5 m wide gate 60", "width 2.5 R4 60", "R4 60.5", "R4, 5 L 60", "0.5 R4 60", "R4 2.50"])
def test_decimals_that_are_no_grades(text: str) -> None:
    assert read(f"{text}\nL5 40").corners[0].grade == "4"


def test_grades_with_decimals_ahead_of_their_side() -> None:
    assert [n.grade for n in read("3.5L 60\n4,5 R 50\n2L tightens 1.5 40").corners] == ["3½", "4½", "2"]


def test_a_hyphen_within_a_word_parts_it() -> None:
    note = only("L6 half-long flat-out over x-roads 300")
    assert (note.length, plain(note.line_on_road), plain(note.objects)) == ("half long", ("flat",), ("over junction",))
    assert [(n.grade, n.unread) for n in read("R sq-ish 40\nL4- 50").corners] == [("square", ("ish",)), ("4-", ())]
    assert "".join(p.text for p in read("L6 flat-out 300").pieces) == "L6flat-out300"


def test_a_plus_at_the_head_of_a_line_makes_no_grade_more_open() -> None:
    assert [n.grade for n in read("+ R6 flat 200\n+ 4 L 60\nR3 + long 40\nL5+").corners] == ["6", "4", "3+", "5+"]


def test_a_hand_that_opens_the_line_with_the_distance() -> None:
    reading = read("100 left 2 caution\n60 right 3\ninto left 4 long\n30 right 5")
    assert reading.distance_first
    assert [n.distance_m for n in reading.notes if n.is_corner] == [60, None, 30, None]
    assert reading.corners[1].link == "into"
    assert reading.corners[1].text == "60 right 3"


@pytest.mark.parametrize(
    ("text", "pages"),
    [
        ("page 1 L4 60\nR3 50\npage 2: R5 60\nL2", [(1, "L4 60"), (1, "R3 50"), (2, "R5 60"), (2, "L2")]),
        ("L4 60\nSLATEHOOK  Page 2/6\nR3 50\nQuarry day - p. 3 of 6\nL2", [(1, "L4 60"), (2, "R3 50"), (3, "L2")]),
        ("L4 60\n- 1 -\nR3 50\nL5\n- 2 -\nL2", [(1, "L4 60"), (2, "R3 50"), (2, "L5"), (3, "L2")]),
        ("1\nL4 60\nL5\n2\nR3 50\n3\nL2", [(1, "L4 60"), (1, "L5"), (2, "R3 50"), (3, "L2")]),
    ],
)
def test_a_page_begins_where_its_line_says_so_and_a_note_on_that_line_stays(text: str, pages: list[tuple[int, str]]) -> None:
    reading = read(text)
    assert [(note.page, note.text) for note in reading.notes] == pages
    assert not [piece for piece in reading.pieces if piece.kind == "unread" and piece.text.lower() == "slatehook"]


def test_pages_and_lines_are_those_of_the_paper_book() -> None:
    reading = read("page 3\nL4 80\nR3 60\npage 4\nL2 into\n\nR5 50\n")
    assert [(n.page, n.line) for n in reading.notes] == [(3, 1), (3, 2), (4, 1), (4, 3)]


@pytest.mark.parametrize(
    ("text", "grades", "doubt"),
    [
        ("Forest Road\nL4 80\nR3 60\nL5 40", ["4", "3", "5"], "“Forest Road” at the top was read as the title."),
        ("31. L4 80\n32. R3 60\n33. L5 40\n34. R2 30", ["4", "3", "5", "2"], "list numbers of 4 lines"),
        ("• L4 80\n• R3 60\n• L5 40", ["4", "3", "5"], "bullets at 3 lines"),
        ("L4 long\n80\nR3\n60\nL5 over crest\n40\nR2 dc", ["4", "3", "5", "2"], "Distances on separate lines"),
        ("L4\t80\nR3\t60\nL5\t40", ["4", "3", "5"], ""),
    ],
)
def test_what_a_word_processor_puts_around_notes_is_no_note(text: str, grades: list[str], doubt: str) -> None:
    reading = read(text)
    assert [n.grade for n in reading.notes] == grades
    assert [n.distance_m for n in reading.notes[:3]] == [80, 60, 40]
    assert doubt in " ".join(map(str, reading.doubts))
    assert bool(doubt) == bool(reading.doubts)


@pytest.mark.parametrize(
    "heads",
    [
        ["0.12", "0.23", "0.41", "0.52", "0.60", "0.85", "1.02"],
        ["0,120", "0,230", "0,410", "0,520", "0,520", "0,850", "1,020"],
        ["0.1 km", "0.2 km", "0.4 km", "0.5 km", "0.6 km", "0.9 km", "1.1 km"],
        ["120", "230", "410", "520", "600", "850", "1020"],
    ],
)
def test_a_distance_from_the_start_is_no_distance_to_the_next_note(heads: list[str]) -> None:
    called = ["R4 50", "L3 tightens", "R5 60", "L2", "R6 over crest", "L4 80", "R3"]
    reading = read("\n".join(f"{head} {note}" for head, note in zip(heads, called, strict=True)))
    assert [n.distance_m for n in reading.notes] == [50, None, 60, None, None, 80, None]
    assert [n.grade for n in reading.notes] == ["4", "3", "5", "2", "6", "4", "3"]
    assert "at the head of 7 lines are distances from the start" in " ".join(map(str, reading.doubts))
    # The words of the book stay whole.
    assert "".join(p.text for p in reading.pieces) == "".join(f"{h}{n}" for h, n in zip(heads, called, strict=True)).replace(" ", "")


@pytest.mark.parametrize("heads", [["50", "60", "70", "80", "90", "100", "120"], ["120", "230", "90", "520", "600", "850", "1020"]])
def test_distances_to_the_next_note_stay_where_they_are_few_or_fall(heads: list[str]) -> None:
    reading = read("\n".join(f"{head} R4" for head in heads))
    assert [str(n.distance_m) for n in reading.corners[:-1]] == heads[1:]


def test_a_sign_that_may_lead_on_to_the_next_corner_is_asked_about() -> None:
    """ "R4 > L3" is one crew's right four into left three, and another's right four that tightens."""
    asked = read("L5 > R4 > L3 > 100\nR4 > 3 60\nR5>4 long\nL6 tightens 5 -> R3")
    assert [[c.to for c in n.changes] for n in asked.corners] == [[], [], [], ["3"], ["4"], ["5"], []]
    assert [n.unread for n in asked.corners if n.unread] == [(">",)] * 4
    assert [m.kind for m in meanings_of(">", ENGLISH)] == ["link", "change"]
    into = read_notes("L5 > R4 > L3 100", [taught(ENGLISH, "link", "into", ">")])
    assert [n.link for n in into.corners] == ["into", "into", None]
    tightens = read_notes("L5 > R4 > L3 100", [taught(ENGLISH, "change", "tightens", ">")])
    assert [bool(n.changes) for n in tightens.corners] == [True, True, False]
    assert read("L5 -> 80\nR4 -> 3 60").corners[0].unread == (">",)
    assert not read("L5 > 80\nR4 > 60").corners[0].unread, "in this book it tightens"


@pytest.mark.parametrize(
    ("text", "called"),
    [
        ("dta 6 / esq 5\nesq 4 > dta 3 50", ["right 6", "left 5", "left 4", "right 3"]),
        ("gancho dta 40\nesq 90º no cruzamento 70", ["right hairpin", "left square"]),
        ("L 90° at junction 70\nR4 50", ["left square", "right 4"]),
        ("HPL 50\nRSQ 40\nOHPR dc\nL4", ["left hairpin", "right square", "right open hairpin", "left 4"]),
        ("gchD 50\nEquad 40\nE4", ["right hairpin", "left square", "left 4"]),
        ("4Rdc 5L 40\n3Llg 6R", ["right 4", "left 5", "left 3", "right 6"]),
    ],
)
def test_short_forms_of_sides_and_square_corners(text: str, called: list[str]) -> None:
    assert [f"{n.direction.value if n.direction else '-'} {n.grade}" for n in read(text).corners] == called


@pytest.mark.parametrize("written", ["n/ cortar", "n/cortar", "ñ cortar", "n/ cort", "nc", "não cortar"])
def test_what_must_not_be_cut_is_never_read_as_a_cut(written: str) -> None:
    note = read(f"E4 {written} 40\nD3 fch 2 60\nD5 s/ lomba 100").corners[0]
    assert plain(note.line_on_road) == ("don't cut",)


def test_a_side_in_one_word_with_its_short_form_is_rewritten_where_it_stands() -> None:
    book = read("HPL dc 50")
    assert [f"{p.kind} {p.text}" for p in book.pieces[:2]] == ["grade HP", "direction L"]
    assert NoteWriter(book, ENGLISH).reworded(book.notes[0], Rewording(grade="2")) == "2L dc 50"


def test_a_grade_at_the_head_of_each_line_is_no_list_number() -> None:
    reading = read("1 left 80\n2 right 60\n3 left 40\n4 right 50")
    assert [n.grade for n in reading.notes] == ["1", "2", "3", "4"]


@settings(max_examples=100, deadline=None)
@given(st.lists(st.sampled_from(["L4", "right", "3", "titans", "chest", "zorbl", "keep", "mid", "80", "happen", "\n"]), max_size=30))
def test_nothing_in_a_written_book_is_repaired(words: list[str]) -> None:
    reading = read_notes("start 80\n" + " ".join(words), shipped_languages(), corners_needed=False)
    assert reading.repairs == () == reading.offers
    unread = [w for n in reading.notes for w in n.unread]
    for word in ("titans", "chest", "zorbl", "happen"):
        assert unread.count(word) == words.count(word)


def test_what_is_not_understood_stays_in_its_note() -> None:
    reading = read("L4 zorbl 80\nR3 60")
    assert reading.notes[0].unread == ("zorbl",)
    assert reading.notes[0].distance_m == 80


@pytest.mark.parametrize(
    ("text", "unknown"),
    [
        ("left 6 over crest by the white gate 250", ()),
        ("right 4 at the old chapel 80", ()),
        ("left 3 past blue barn 50", ()),
        ("esquerda 4 junto ao portão branco 80", ()),
        ("left 4 sting house 60", ("sting",)),
        ("left 4 over sting 60", ("sting",)),
        ("left 4 at junction tightens sting 60", ("sting",)),
        ("sting left 4 by the mill 60", ("sting",)),
    ],
)
def test_what_names_a_place_is_no_unknown_word(text: str, unknown: tuple[str, ...]) -> None:
    """It stays among what is not read, so that it may be explained; but it leaves no corner unsure."""
    (note,) = read_notes(text, shipped_languages()).notes
    assert note.unknown_words == unknown
    assert set(note.named) | set(unknown) == set(note.unread)


@settings(max_examples=150, deadline=None)
@given(st.text(max_size=200))
def test_every_character_belongs_to_exactly_one_token(text: str) -> None:
    reading = read_notes(text, shipped_languages(), corners_needed=False)
    assert "".join(t.text for t in reading.tokens) == text
    assert all(text[t.span.start : t.span.end] == t.text for t in reading.tokens)


WORDS = [
    "left",
    "right",
    "L4",
    "R3+",
    "hairpin",
    "square",
    "long",
    "very",
    "tightens",
    ">",
    "3",
    "crest",
    "over",
    "into",
    "40",
    "150",
    "caution",
    "don't",
    "cut",
    "rocks",
    "inside",
    "\n",
    "start",
    "finish",
    "page 2\n",
]


@settings(max_examples=150, deadline=None)
@given(st.lists(st.sampled_from(WORDS), max_size=40))
def test_notes_hold_their_own_text_in_order(words: list[str]) -> None:
    text = " ".join(words)
    reading = read_notes(text, shipped_languages(), corners_needed=False)
    end = 0
    for i, note in enumerate(reading.notes):
        assert note.index == i
        assert note.text == text[note.span.start : note.span.end]
        assert note.span.start >= end
        end = note.span.end


def test_a_text_without_a_corner_is_refused_with_an_example() -> None:
    with pytest.raises(UnusableNotes, match="no corner") as fault:
        read("dear diary, nothing happened")
    assert "left 4 long 80" in fault.value.sentence


@pytest.mark.parametrize(
    ("text", "rewording", "expected"),
    [
        ("L4  >3 dc   into", Rewording(grade="2"), "L2  >3 dc   into"),
        ("left four long 80", Rewording(direction=Direction.RIGHT), "right four long 80"),
        ("R5 /cr 30", Rewording(distance_m=60), "R5 /cr 60"),
        ("square L at jn 120", Rewording(grade="1"), "1 L at jn 120"),
        ("3 right plus drop outside 20", Rewording(grade="2"), "2 right drop outside 20"),
        ("3 right drop outside 20", Rewording(grade="2", direction=Direction.LEFT), "2 left drop outside 20"),
    ],
)
def test_rewording_touches_nothing_else(text: str, rewording: Rewording, expected: str) -> None:
    rest = "2 left 50\n5 right 40\n" if text[0] == "3" else "left 4 50\nright 3 40\n" if "left" in text else "L4 50\nR3 40\n"
    book = read(f"{text}\n{rest}")
    assert NoteWriter(book, ENGLISH).reworded(book.notes[0], rewording) == expected


def test_the_hand_uses_the_crews_own_forms_and_numbers() -> None:
    hand = NoteWriter(read("L4 60\nR3 60\nL2 100\nR hp 40\n"), ENGLISH)
    assert hand.corner(Direction.RIGHT, "5", distance_m=60) == "R5 60"
    assert hand.corner(Direction.LEFT, "hairpin", distance_m=None) == "L hp"
    assert hand.nearest_distance(57.0) == 60
    spoken = NoteWriter(read("4 left 60\n3 right 60\n"), ENGLISH)
    assert spoken.corner(Direction.LEFT, "2", distance_m=30) == "2 left 30"


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ("", "nothing written"),
        ("L4 7 60", "“7” is neither the grade nor the distance"),
        ("left 60", "the left has no grade"),
        ("hairpin 30", "the hairpin has no direction"),
        ("...", "this is not a note"),
    ],
)
def test_a_replacement_that_is_no_note_is_refused_with_the_reason(text: str, sentence: str) -> None:
    hand = NoteWriter(read("L4 60\nR3 60\n"), ENGLISH)
    with pytest.raises(UnusableNotes, match=sentence):
        hand.read_back(text)


def test_positions_run_from_tightest_to_most_open_in_every_school() -> None:
    for school in (GradingScheme(), GradingScheme(sense="descending"), GradingScheme(top=9, half_grades=True)):
        positions = [school.position(g) for g in school.grades]
        assert positions == sorted(positions)
        for n in range(1, school.top + 1):
            assert school.grade_at(school.position(str(n))) == str(n)
        assert school.position("3+") > school.position("3") > school.position("3-")
    assert GradingScheme(sense="descending").position("1") == 6
    found = school_of(read("L4+ 40\nR8 40\nL hp 30").notes)
    assert (found.top, found.half_grades, found.sense) == (8, True, "ascending")
    with pytest.raises(ValueError, match="no grade"):
        GradingScheme().position("7")


def test_what_a_note_says_it_tightens_to_is_its_tightest() -> None:
    school = GradingScheme()
    assert school.tightest_position(only("L4 >2 40")) == 2
    assert school.tightest_position(only("L4 > 40")) == 3
    assert school.tightest_position(only("L3 <5 40")) == 3


@pytest.mark.parametrize(
    ("table", "sentence"),
    [
        ({"name": "X"}, "'code' is missing"),
        ({"code": "x", "name": "X", "colour": {"red": ["red"]}}, r"\[colour\] is not a kind"),
        ({"code": "x", "name": "X", "length": {"long": {"written": ["lg"]}}}, "“long” has no spoken form"),
    ],
)
def test_a_language_that_breaks_its_rules_is_refused(table: dict, sentence: str) -> None:
    with pytest.raises(UnusableLanguage, match=sentence):
        language_from_table(table, where="own.toml")
