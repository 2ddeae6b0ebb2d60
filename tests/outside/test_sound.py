"""Distances between words against reference implementations."""

import jellyfish
import pytest
from rapidfuzz.distance import Levenshtein

from mirkle.core.notes.phonetics import sound_of, unlikeness
from mirkle.files.notes.languages import shipped_languages

ENGLISH, PORTUGUESE = (la.sound_rules for la in shipped_languages())


def test_the_edit_distance_underneath_is_the_textbooks() -> None:
    """kitten to sitting takes 3 edits (any textbook; jellyfish agrees on every pair tried)."""
    assert Levenshtein.distance("kitten", "sitting") == 3
    words = ["crest", "chest", "tightens", "titans", "hairpin", "airpin", "left", "lift"]
    for a in words:
        for b in words:
            assert Levenshtein.distance(a, b) == jellyfish.levenshtein_distance(a, b)


@pytest.mark.parametrize(("a", "b"), [("right", "write"), ("night", "knight"), ("phone", "fone"), ("rock", "rok")])
def test_words_that_metaphone_takes_for_one_sound_alike_here(a: str, b: str) -> None:
    """Metaphone, as jellyfish has it, is the reference for English homophones."""
    assert jellyfish.metaphone(a) == jellyfish.metaphone(b)
    assert unlikeness(a, b, ENGLISH) < 0.42


def test_unlikeness_is_a_distance_in_all_but_the_triangle() -> None:
    words = ["crest", "chest", "tightens", "titans", "hairpin", "gate", "esquerda", "direita"]
    for rules in (ENGLISH, PORTUGUESE):
        for a in words:
            assert unlikeness(a, a, rules) == 0.0
            for b in words:
                assert unlikeness(a, b, rules) == pytest.approx(unlikeness(b, a, rules))
                assert 0.0 <= unlikeness(a, b, rules) <= 1.0


@pytest.mark.parametrize(
    ("said", "nearest", "farther"), [("titans", "tightens", "dip"), ("cushion", "caution", "crest"), ("airpin", "hairpin", "into")]
)
def test_what_was_misheard_is_nearer_to_what_was_meant(said: str, nearest: str, farther: str) -> None:
    assert unlikeness(said, nearest, ENGLISH) < 0.42 < unlikeness(said, farther, ENGLISH)


def test_accents_and_doubled_letters_make_no_sound() -> None:
    assert sound_of("não", PORTUGUESE) == sound_of("nau", PORTUGUESE)
    assert sound_of("cress", ENGLISH) == sound_of("cres", ENGLISH)


def test_codes_of_languages_are_bcp_47() -> None:
    """RFC 5646: a primary subtag is two or three letters in lower case."""
    for language in shipped_languages():
        assert 2 <= len(language.code) <= 3
        assert language.code.islower()
        assert language.code.isascii()
