"""How alike two words sound, by the rules of a language: the measure that repairs go by (phonetic edit distance)."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray
from rapidfuzz.distance import Levenshtein
from rapidfuzz.process import cdist

_VOWELS = re.compile(r"[aeiouy]+")
_DOUBLED = re.compile(r"(.)\1+")
# Letters matter less than sounds, and vowels are what a recogniser gets wrong first.
SOUND_SHARE, SKELETON_SHARE = 0.45, 0.35
LETTER_SHARE = 1 - SOUND_SHARE - SKELETON_SHARE


def plain(text: str) -> str:
    """Lower case without accents."""
    if text.isascii():
        return text.lower()
    return "".join(c for c in unicodedata.normalize("NFKD", text.lower()) if not unicodedata.combining(c))


def sound_of(word: str, rules: Sequence[tuple[str, str]]) -> str:
    """A word as it sounds: the rules applied in order, accents and doubled letters dropped; ``_`` stands at both its ends."""
    word = f"_{word.lower()}_"
    for written, sounded in rules:
        word = word.replace(written, sounded)
    return _DOUBLED.sub(r"\1", plain(word.strip("_")))


def unlikeness(a: str, b: str, rules: Sequence[tuple[str, str]]) -> float:
    """From 0 (the same) to 1 (nothing in common): normalised edit distances of sound, of consonants, and of letters."""
    return float(Lexicon([b], rules).unlike([a])[0, 0])


class Lexicon:
    """Forms of words, ready to be held against others by their sound.

    Parameters
    ----------
    forms : the words, each run together where it is several
    rules : how spelling becomes sound, one rule after the other
    """

    def __init__(self, forms: Sequence[str], rules: Sequence[tuple[str, str]]) -> None:
        self.forms, self.rules = tuple(forms), rules
        self._sides = self._sides_of(self.forms)

    def _sides_of(self, words: Sequence[str]) -> list[tuple[float, list[str]]]:
        sounds = [sound_of(w, self.rules) for w in words]
        return [(SOUND_SHARE, sounds), (SKELETON_SHARE, [_VOWELS.sub("a", s) for s in sounds]), (LETTER_SHARE, [plain(w) for w in words])]

    def unlike(self, words: Sequence[str]) -> NDArray[np.float32]:
        """How unlike each word and each form sound, as :func:`unlikeness` has it, (words, forms)."""
        out = np.zeros((len(words), len(self.forms)), dtype=np.float32)
        for (share, said), (_, forms) in zip(self._sides_of(words), self._sides, strict=True):
            out += share * cdist(said, forms, scorer=Levenshtein.normalized_distance, dtype=np.float32)
        return out
