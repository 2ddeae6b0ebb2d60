"""Forms that crews use, each read as the trade means it, in both languages and both orders."""

from __future__ import annotations

import pytest

from mirkle.core.notebook.decisions import NoteChange, NotePlace
from mirkle.core.notebook.edition import Edition
from mirkle.core.notes.model import Direction, Note, Reading
from mirkle.core.notes.reading import read_notes
from mirkle.core.notes.rewording import NoteWriter, Rewording
from mirkle.files.notes.languages import shipped_languages
from mirkle.files.speech.timed_text import parse_calls

# What each note calls, as a line: side, grade, then what it is, in the contract's words.
FORMS = [
    ("left 6. Caution, right 3, rocks inside", ["left 6", "right 3 caution rocks inside"]),
    ("left 6 60. Caution right 3", ["left 6 60", "right 3 caution"]),
    ("caution. right 3 60\nleft 5", ["right 3 caution 60", "left 5"]),
    ("6 right minus, care, 2 left\n4 left 60", ["right 6-", "left 2 care", "left 4 60"]),
    (
        "very long 4 left\nlong 3 right 60\nshort 5 left\n6 right minus, very long 2 left",
        ["left 4 very long", "right 3 long 60", "left 5 short", "right 6-", "left 2 very long"],
    ),
    (
        "left 4 long caution\nright 3 caution\nleft 2 caution right 5",
        ["left 4 long caution", "right 3 caution", "left 2 caution", "right 5"],
    ),
    ("L 4 + 50\nR 3 - 60\nR 3 - L 5\nL 2 -R 4 60", ["left 4+ 50", "right 3- 60", "right 3-", "left 5", "left 2", "right 4 60"]),
    ("L4+ 50\nR3 - L5\nR2 - 60\n4 L + 50", ["left 4+ 50", "right 3", "left 5", "right 2 60", "left 4+ 50"]),
    ("R6 / L5 60\nR3/br 40\nL4/R3 lng", ["right 6", "left 5 60", "right 3 over bridge 40", "left 4", "right 3 long"]),
    ("Co: L4 50\nCo: R3 into\nMo: L5 60\nCo: R2 tightens", ["left 4 50", "right 3 into", "left 5 60", "right 2 tightens"]),
    ("> L4 50\n> R3 tightens\n>\n> L5 60", ["left 4 50", "right 3 tightens", "left 5 60"]),
    ("L4 50\nR4 + L3 60\nR3 - L5\n80 < L2", ["left 4 50", "right 4", "left 3 60", "right 3", "left 5 80", "left 2"]),
    ("L4-80-R3-50-L5\nR3+-60-hpR-into-L4--40", ["left 4 80", "right 3 50", "left 5", "right 3+ 60", "right hairpin into", "left 4- 40"]),
    ("L4- 80 R3-50\nL2- 60\nL4 80-R5", ["left 4- 80", "right 3- 50", "left 2- 60", "left 4 80", "right 5"]),
    ("←4 50 →3-\n→5 80\n← hairpin 40", ["left 4 50", "right 3-", "right 5 80", "left hairpin 40"]),
    ("0:04 L4 50\n0:09 R3 into\n1:12.5 L5 80\n1:30 R2", ["left 4 50", "right 3 into", "left 5 80", "right 2"]),
    (
        "R4(50)L3(into)\nL5(30)R2(80)\nL6 (40) R3\nR4(60)",
        ["right 4 50", "left 3 into", "left 5 30", "right 2 80", "left 6 40", "right 3", "right 4 60"],
    ),
    ("L4 1/2 50\nR3 60\nL5 1/2", ["left 4½ 50", "right 3 60", "left 5½"]),
    ("right 4 opens 6 long", ["right 4 opens long 6"]),
    ("right 4 opens very long", ["right 4 opens very long"]),
    ("right 4 long opens 6", ["right 4 long opens 6"]),
    ("left 3 80 past junction", ["left 3 80", "past junction"]),
    ("left 3 80 under rails\nright 4", ["left 3 80", "under barrier", "right 4"]),
    ("left 3 60 over bridge\nright 4 into tunnel", ["left 3 60", "over bridge", "right 4 into", "tunnel"]),
    ("left 3 100 over crest", ["left 3 over crest 100"]),
    ("left 5 tightens to square", ["left 5 tightens square"]),
    ("left 5 tightens hairpin right 60", ["left 5 tightens", "right hairpin 60"]),
    ("right 5 to tight 2", ["right 5 tightens 2-"]),
    ("right 5 tightens to tight 2", ["right 5 tightens 2-"]),
    ("right 6 tight 3", ["right 6 tightens 3"]),
    ("left 6 continue 5", ["left 6 continues 5"]),
    ("left 5 continues over crest 200", ["left 5 continues over crest 200"]),
    ("left 5 continues 200", ["left 5 continues 200"]),
    ("keep right over brow. Left 5 short", ["over crest keep right", "left 5 short"]),
    ("left 3 long 50 bumpy. Right 2", ["left 3 long bumpy 50", "right 2"]),
    ("into right left 3\nleft 4", ["right 3", "left 3", "left 4"]),
    ("left 4 keep in the middle", ["left 4 keep middle"]),
    ("left 4 keep on the tarmac 60", ["left 4 keep on tarmac 60"]),
    ("left 4 full ice\nmore ice 60\nright 3 standing water", ["left 4 ice: full", "ice: more 60", "right 3 water: standing"]),
    ("left 4 extra, extra long 60", ["left 4 extra extra long 60"]),
    ("left\n4 60\nright 5 40", ["left 4 60", "right 5 40"]),
    ("4\nleft 60\n3 right 40\n5 left 30", ["left 4 60", "right 3 40", "left 5 30"]),
    ("left 5 look at this one again 60\nright 3 40", ["left 5 60", "right 3 40"]),
    ("left 4 2 60\nright 3", ["left 4 60", "right 3"]),
    ("double right 2 60\nleft 4 40\nover double crest", ["right 2", "right 2 60", "left 4 40", "over double crest"]),
    ("double left 4 right 5 40\ndouble caution right 3", ["left 4", "left 4", "right 5 40", "right 3 double caution"]),
    ("double 2 right 60\n4 left 40", ["right 2", "right 2 60", "left 4 40"]),
    (
        "very slow left 60\nslow right long 80\nmedium left tightens to slow 40\nvery fast right\nhairpin left",
        ["left very slow 60", "right slow long 80", "left medium tightens slow 40", "right very fast", "left hairpin"],
    ),
    ("left slow 60\nright very slow into\nleft medium", ["left slow 60", "right very slow into", "left medium"]),
    ("slow left 3 60\nmedium right 4\nright 5 medium", ["left 3 slow 60", "right 4 medium", "right 5 medium"]),
    ("left tight 4 60\nright 5 tight 40", ["left 4- 60", "right 5- 40"]),
    ("left 4 40 and right 5\nstart. 150 to crest", ["left 4 40", "right 5", "150", "crest"]),
    ("R4LT 80\nL3L 50\nR3\nL4R5 60\nR2Lhp", ["right 4 80", "left 3 50", "right 3", "left 4", "right 5 60", "right 2", "left hairpin"]),
    (
        "L4 60\nR3 L\nL5 80\nsquare right at farm 120m\nR6 fl K.R",
        ["left 4 60", "right 3", "left 5 80", "right square at house 120", "right 6 flat keep right"],
    ),
    ("E4 100 mt D\nD2 fecha mto 40", ["left 4 100", "keep right", "right 2 tightens more 40"]),
    ("slow for chicane: left-right-left, 60\nchicane L R4", ["slow chicane 60", "right 4 chicane"]),
    ("Caution! left 3\nL5! 60", ["left 3 caution", "left 5 caution 60"]),
    ("right 5 twenty five left four\nleft 3 thirty five", ["right 5 25", "left 4", "left 3 35"]),
    ("four left twenty five right\nthree left thirty, five right", ["left 4 20", "right 5", "left 3 30", "right 5"]),
    ("L4: 60\nR3: tightens", ["left 4 60", "right 3 tightens"]),
    ("L5 100-120\nR4 40/50 L3 80-60", ["left 5 110", "right 4 45", "left 3 80", "60"]),
    ("start\n100-120 L5\n80 R4 150", ["110", "left 5 80", "right 4 150"]),
    ("R4 60, don't cut\nL3 60 don't cut R4", ["right 4 don't cut 60", "left 3 60", "right 4 don't cut"]),
    ("R3 / 30 / L4\nL5 /cr", ["right 3 30", "left 4", "left 5 over crest"]),
    ("E5 abre p/ 6, 80\nD1 p/ E2\nE4 vinte e cinco D3", ["left 5 opens 6 80", "right 1 into", "left 2", "left 4 25", "right 3"]),
    ("left 4 lift over crest 60\nleft 5 near house", ["left 4 lift over crest 60", "left 5 by house"]),
    (
        "esquerda lenta 60\ndireita muito lenta\nesquerda rápida fecha para média 60",
        ["left slow 60", "right very slow", "left fast tightens medium 60"],
    ),
    ("direita 3 perto da casa 60\nesquerda 4 junto ao muro", ["right 3 by house 60", "left 4 by wall"]),
    ("gancho direito 60\nesquerdo 4 longo\ndireito 3 curto", ["right hairpin 60", "left 4 long", "right 3 short"]),
    ("dupla direita 2 60\nesquerda 4", ["right 2", "right 2 60", "left 4"]),
    ("esquerda 6. Cautela, direita 3, pedras por dentro", ["left 6", "right 3 caution keep in rocks"]),
    ("direita 4 abre 6 longa", ["right 4 opens long 6"]),
    ("esquerda 3 80 debaixo da ponte", ["left 3 80", "under bridge"]),
    ("esquerda 5 fecha para gancho", ["left 5 tightens hairpin"]),
    ("esquerda 6 continua como 5", ["left 6 continues 5"]),
    ("esquerda 5 continua sobre alto 200", ["left 5 continues over crest 200"]),
    ("esquerda 4 muito muito longa 60", ["left 4 extra extra long 60"]),
    ("esquerda\n4 60\ndireita 5 40", ["left 4 60", "right 5 40"]),
    ("esquerda 4 gelo total\nmais gelo 60\ndireita 3 água parada", ["left 4 ice: full", "ice: more 60", "right 3 water: standing"]),
    ("esquerda 4 manter no meio 60", ["left 4 keep middle 60"]),
]


def hand_of(book: str) -> tuple[Reading, NoteWriter]:
    """An English book as it is read, and its crew's hand."""
    reading = read_notes(book, shipped_languages())
    return reading, NoteWriter(reading, next(la for la in shipped_languages() if la.code == "en"))


def called(note: Note) -> str:
    """What a note calls, in the contract's words and its order."""
    head = [note.direction.value] if note.direction else []
    head += [note.grade] if note.grade else []
    gap = [note.link] if note.link else []
    gap += [str(note.distance_m)] if note.distance_m is not None else []
    valued = (*note.features, *note.line_on_road, *note.objects)
    parts = [*head, *note.length_terms, *map(str, note.changes), *note.cautions, *map(str, valued)]
    return " ".join([*parts, *gap])


@pytest.mark.parametrize(("text", "calls"), FORMS)
def test_a_form_is_read_as_the_trade_means_it(text: str, calls: list[str]) -> None:
    reading = read_notes(text, shipped_languages())
    assert [called(n) for n in reading.notes] == calls
    assert "".join(t.text for t in reading.tokens) == reading.source


START = {"en": "five four three two one go left 5 80 right 6 60", "pt": "cinco quatro três dois um partida esquerda 5 80 direita 6 60"}
SPOKEN = [
    ("en", "left 3 60. That one was a four. Right 4, 80. left 5 40", ["left 3 60", "right 4 80", "left 5 40"]),
    ("en", "right 5, 80, no, right 4, 60. left 3 40", ["right 4 60", "left 3 40"]),
    ("en", "right 5, 80, no, left 5, 60. left 3 40", ["left 5 60", "left 3 40"]),
    ("en", "right 5, 80, no left 3, 60. right 4 40", ["right 5 80", "left 3 60", "right 4 40"]),
    ("en", "left 3, sorry, 2, 60. right 4 80", ["left 2 60", "right 4 80"]),
    ("en", "left 4, actually right 4 60. left 5 40", ["right 4 60", "left 5 40"]),
    ("en", "right 3, I mean left 3, 50. right 5 40", ["left 3 50", "right 5 40"]),
    ("en", "left 4, no, four minus, 60. right 3 40", ["left 4- 60", "right 3 40"]),
    ("en", "left 5 100, correction, 80. right 3 40", ["left 5 80", "right 3 40"]),
    ("en", "left 6. caution, right 3, rocks inside 60. left 4 40", ["left 6", "right 3 caution rocks inside 60", "left 4 40"]),
    ("en", "red flag red flag. left 4 60 right 3 40", ["left 4 60", "right 3 40"]),
    ("en", "left 5 80. I think the left front is going. right 4 60 left 3 40", ["left 5 80", "right 4 60", "left 3 40"]),
    ("en", "left 5 80. it pulls to the right. caution right 2 30 left 4 40", ["left 5 80", "right 2 caution 30", "left 4 40"]),
    ("en", "double right 2, 60. left 4 40", ["right 2", "right 2 60", "left 4 40"]),
    ("en", "left 5 lift 60. right 3 40", ["left 5 lift 60", "right 3 40"]),
    ("pt", "esquerda 4, não, direita 4, 60. esquerda 3 40", ["right 4 60", "left 3 40"]),
    ("pt", "esquerda 3, desculpa, 2, 60. direita 4 40", ["left 2 60", "right 4 40"]),
    ("pt", "esquerda 3 60. essa era uma quatro. direita 4 80 esquerda 3 40", ["left 3 60", "right 4 80", "left 3 40"]),
]


@pytest.mark.parametrize(("code", "text", "calls"), SPOKEN)
def test_talk_and_corrections_in_the_car_are_heard_as_meant(code: str, text: str, calls: list[str]) -> None:
    """The second counts where a call is corrected; what a corner was is no call."""
    speech = parse_calls(f"WEBVTT\n\n00:00.000 --> 00:30.000\n{START[code]} {text}\n".encode(), name="said.vtt")
    assert [called(n) for n in speech.reading.notes][2:] == calls
    assert all(w.role == "incident" for w in speech.words if w.text in ("red", "flag"))


def test_each_line_is_read_in_its_own_language() -> None:
    lines = [
        "left 4 long 60",
        "right 3 into",
        "esquerda 5 longa sobre alto 40",
        "direita 2 não cortar 80",
        "left 6 over crest 100",
        "L3 40",
    ]
    reading = read_notes("\n".join(lines), shipped_languages())
    assert [called(n) for n in reading.notes] == [
        "left 4 long 60",
        "right 3 into",
        "left 5 long over crest 40",
        "right 2 don't cut 80",
        "left 6 over crest 100",
        "left 3 40",
    ]
    assert [str(d) for d in reading.doubts] == ["Lines read in Português: 2."]


BORROWED = "left 5 40\ndouble right 2 60\nleft 4\nright left 3 50\n"


@pytest.mark.parametrize(
    ("note", "rewording", "text"),
    [
        (1, Rewording(grade="3"), "left 5 40\nright 3 right 2 60\nleft 4\nright left 3 50\n"),
        (1, Rewording(caution="care"), "left 5 40\ncare right 2 right 2 60\nleft 4\nright left 3 50\n"),
        (2, Rewording(grade="3"), "left 5 40\nright 2 right 3 60\nleft 4\nright left 3 50\n"),
        (2, Rewording(distance_m=80), "left 5 40\ndouble right 2 80\nleft 4\nright left 3 50\n"),
        (4, Rewording(grade="1"), "left 5 40\ndouble right 2 60\nleft 4\nright 1 left 3 50\n"),
        (5, Rewording(direction=Direction.RIGHT), "left 5 40\ndouble right 2 60\nleft 4\nright 3 right 3 50\n"),
    ],
)
def test_a_change_of_one_of_two_corners_called_together_leaves_the_other(note: int, rewording: Rewording, text: str) -> None:
    reading = read_notes(BORROWED, shipped_languages())
    hand = NoteWriter(reading, next(la for la in shipped_languages() if la.code == "en"))
    new = hand.reworded(reading.notes[note], rewording)
    edition = Edition(reading, [NoteChange(key="f", notes=NotePlace(note, note), text=new)])
    assert edition.text == text
    before, after = ([called(n) for n in read_notes(t, shipped_languages()).notes] for t in (BORROWED, text))
    assert [n for n, (a, b) in enumerate(zip(before, after, strict=True)) if a != b] == [note]


@pytest.mark.parametrize(
    ("book", "rewording", "text"),
    [
        ("left 4- 60\nright 3+ 40", Rewording(grade="3+"), "left 3+ 60"),
        ("left 4 minus 60\nright 3 40", Rewording(grade="2+"), "left 2 plus 60"),
        ("left tight 4 60\nright 3 40", Rewording(grade="3"), "left 3 60"),
        ("left tight 4 60\nright 3 40", Rewording(grade="3-"), "left tight 3 60"),
        ("5 right plus 60\n3 left 40", Rewording(grade="4-"), "4 right minus 60"),
        ("5 right plus 60\n3 left 40", Rewording(grade="4"), "4 right 60"),
        ("left four minus sixty\nright three forty", Rewording(grade="2"), "left two sixty"),
        ("left four sixty\nright three forty", Rewording(distance_m=50), "left four fifty"),
        ("left 4 60\nright 5 tightens to 3", Rewording(tightens="2"), "left 4 tightens to 2 60"),
        ("left 4 60\nright 5 tightens", Rewording(tightens="2"), "left 4 tightens 60"),
        ("L4 60\nR5 >3", Rewording(tightens="2"), "L4 >2 60"),
    ],
)
def test_a_correction_is_written_in_the_crews_own_forms(book: str, rewording: Rewording, text: str) -> None:
    """Halves as words or signs and where this crew puts them, numbers as figures or words, targets named only by who names them."""
    reading, hand = hand_of(book)
    assert hand.reworded(reading.notes[0], rewording) == text


SIGNS = [
    ("L4-80-R3-50-L5-30\nR4-50-L3-30", Rewording(grade="4-"), "L4--80"),
    ("L4-80-R3-50-L5-30\nR4-50-L3-30", Rewording(grade="2"), "L2-80"),
    ("L4-80-R3-50-L5-30\nR4-50-L3-30", Rewording(tightens="3"), "L4 >3-80"),
    ("→4 50 ←3- 60\n→5 80", Rewording(grade="3-"), "→3- 50"),
    ("R 3 50\nL 4 + 60\nL 5 80", Rewording(grade="3-"), "R 3 - 50"),
    ("R4 + L3 60\nL5 80", Rewording(grade="3-"), "R3-"),
]


@pytest.mark.parametrize(("book", "rewording", "text"), SIGNS)
def test_a_correction_is_read_back_as_its_book_uses_its_signs(book: str, rewording: Rewording, text: str) -> None:
    reading, hand = hand_of(book)
    assert hand.reworded(reading.notes[0], rewording) == text
    (back,) = hand.read_back(text)
    assert back.grade == (rewording.grade or reading.notes[0].grade)
    assert back.direction == reading.notes[0].direction
    assert [c.to for c in back.changes] == [rewording.tightens] * (rewording.tightens is not None)


def test_a_half_that_is_said_twice_is_one_half() -> None:
    reading = read_notes("4 left plus plus 80\n5 right tight tight 60\n3 left 40\n", shipped_languages())
    assert [n.grade for n in reading.notes] == ["4+", "5-", "3"]
