"""What is said behind the finish is found at its note, or left unplaced: a made set over the demo's book and over others."""

from __future__ import annotations

from collections import Counter

import numpy as np
import pytest

from mirkle.core.notes.language import Language
from mirkle.core.notes.model import Note
from mirkle.core.notes.reading import read_notes
from mirkle.core.speech.debrief import wish_in
from mirkle.files.notes.languages import shipped_languages

ENGLISH: Language = next(la for la in shipped_languages() if la.code == "en")
PORTUGUESE: Language = next(la for la in shipped_languages() if la.code == "pt")
NUMBERS = ["one", "two", "three", "four", "five", "six"]
ORDINALS = ["first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth"]
# Talk that is of no note, with sides, figures and features in it.
TALK = [
    "that was brilliant",
    "the tyres are gone",
    "we lost the rear twice in the middle",
    "what was our time",
    "eight minutes forty three",
    "I need some water",
    "the brakes were soft after the long straight",
    "left a bit on the table there",
    "we were third through the split",
    "right let's go to service",
    "one more like that and we are second",
    "six seconds to the car in front",
    "was the intercom ok",
    "the dust was hanging everywhere",
    "it is getting dark",
]


def book(seed: int) -> tuple[Note, ...]:
    """A book with some features, few of them alike."""
    rng = np.random.default_rng([seed, 17])
    features = ["over crest", "over jump", "dip", "at junction", "over bridge"]
    lines = ["page 1"]
    for n in range(60):
        if n and n % 12 == 0:
            lines.append(f"page {n // 12 + 1}")
        grade = str(rng.integers(1, 7)) if rng.random() < 0.94 else "hairpin"
        feature = f" {features.pop()}" if features and rng.random() < 0.12 else ""
        lines.append(f"{rng.choice(['left', 'right'])} {grade}{feature} {int(rng.choice([20, 40, 60, 100]))}")
    return read_notes("\n".join(lines) + "\n", [ENGLISH]).notes


def sentences(notes: tuple[Note, ...], rng: np.random.Generator) -> list[tuple[str, int | None, str]]:
    """Sentences with the note that each is about (``None``: nobody could tell), and the grade that it wants."""
    out: list[tuple[str, int | None, str]] = [(talk, None, "") for talk in TALK]
    for _ in range(40):
        side = str(rng.choice(["left", "right"]))
        of_side = [n.index for n in notes if n.direction is not None and n.direction.value == side]
        nth, grade = int(rng.integers(0, 8)), int(rng.integers(1, 7))
        verb = str(rng.choice(["wants a", "should be a", "needs to be a", "was more like a", "is a"]))
        out.append((f"the {ORDINALS[nth]} {side} {verb} {NUMBERS[grade - 1]}", of_side[nth], str(grade)))
        out.append((f"the last {side} wants a {NUMBERS[grade - 1]} not a five", of_side[-1], str(grade)))
        note = notes[int(rng.integers(len(notes)))]
        out.append((f"page {note.page} line {note.line} should be a {NUMBERS[grade - 1]}", note.index, str(grade)))
        assert note.direction is not None
        alike = [n.index for n in notes if n.direction is note.direction and n.grade == note.grade]
        named = note.grade if not str(note.grade).isdigit() else NUMBERS[int(str(note.grade)) - 1]
        out.append((f"the {note.direction.value} {named} was a {NUMBERS[grade - 1]}", alike[0] if len(alike) == 1 else None, str(grade)))
    for note in notes:
        words = [f.name for f in note.features]
        if words and sum(words == [f.name for f in n.features] for n in notes) == 1:
            out.append((f"that {words[0]} was nothing", note.index, ""))
            behind = next(n for n in notes[note.index + 1 :] if n.direction is not None)
            assert behind.direction is not None
            out.append((f"the {behind.direction.value} after the {words[0]} is a two", behind.index, "2"))
    return out


@pytest.mark.parametrize("seed", range(6))
def test_a_sentence_is_placed_right_or_not_at_all(seed: int) -> None:
    notes = book(seed)
    told = Counter[str]()
    for text, truth, grade in sentences(notes, np.random.default_rng([seed, 5])):
        wish = wish_in(text, notes, ENGLISH)
        told["all"] += 1
        told["meant"] += truth is not None
        told["placed"] += wish is not None and wish.note == truth
        told["wrong"] += wish is not None and wish.note != truth
        told["graded"] += wish is not None and wish.note == truth and wish.grade == grade
    assert told["wrong"] <= 0.02 * told["all"], told
    assert told["placed"] >= 0.9 * told["meant"], told
    assert told["graded"] >= 0.98 * told["placed"], told


def test_that_one_is_the_corner_that_was_driven() -> None:
    notes = book(1)
    wish = wish_in("that one was a four not a five", notes, ENGLISH, driven=7)
    assert wish is not None
    assert (wish.note, wish.grade) == (7, "4")
    assert wish_in("that was brilliant", notes, ENGLISH, driven=7) is None
    assert wish_in("that one was a four", notes, ENGLISH) is None, "behind the finish nobody knows which"


@pytest.mark.parametrize(
    ("text", "note", "grade"),
    [
        ("a segunda direita quer um três", 3, "3"),
        ("a última esquerda devia ser um dois", 4, "2"),
        ("a direita depois do salto é um quatro, não um cinco", 3, "4"),
        ("página 1 linha 1 era um seis", 0, "6"),
        ("perdemos a traseira duas vezes", None, ""),
    ],
)
def test_the_same_in_portuguese(text: str, note: int | None, grade: str) -> None:
    notes = read_notes(
        "página 1\nesquerda 4 60\ndireita 5 40\nesquerda 3 sobre salto 30\ndireita 5 80\nesquerda 2 30\n", [PORTUGUESE]
    ).notes
    wish = wish_in(text, notes, PORTUGUESE)
    assert (wish.note if wish else None, wish.grade if wish else "") == (note, grade)
