"""How alike two words sound, by the rules of a language: the measure that repairs go by."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence

from rapidfuzz.distance import Levenshtein

_VOWELS = re.compile(r"[aeiouy]+")
_DOUBLED = re.compile(r"(.)\1+")
# Letters matter less than sounds, and vowels are what a recogniser gets wrong first.
SOUND_SHARE, SKELETON_SHARE = 0.45, 0.35


def plain(text: str) -> str:
    """Lower case without accents."""
    return "".join(c for c in unicodedata.normalize("NFKD", text.lower()) if not unicodedata.combining(c))


def sound_of(word: str, rules: Sequence[tuple[str, str]]) -> str:
    """A word as it sounds: the rules applied in order, accents and doubled letters dropped."""
    word = word.lower()
    for written, sounded in rules:
        word = word.replace(written, sounded)
    return _DOUBLED.sub(r"\1", plain(word))


def unlikeness(a: str, b: str, rules: Sequence[tuple[str, str]]) -> float:
    """From 0 (the same) to 1 (nothing in common): normalised edit distances of sound, of consonants, and of letters."""
    sound_a, sound_b = sound_of(a, rules), sound_of(b, rules)
    skeleton = Levenshtein.normalized_distance(_VOWELS.sub("a", sound_a), _VOWELS.sub("a", sound_b))
    sound = Levenshtein.normalized_distance(sound_a, sound_b)
    letters = Levenshtein.normalized_distance(plain(a), plain(b))
    return float(SOUND_SHARE * sound + SKELETON_SHARE * skeleton + (1 - SOUND_SHARE - SKELETON_SHARE) * letters)
