"""Terms of a language that sound like words which it doesn't have."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

import numpy as np

from mirkle.core.notes.language import Language, Term

# No further apart may a word and a term sound, 0 to 1; and no more words are run together.
MOST_UNLIKE, LONGEST_REPAIR = 0.42, 3
# A word of two or three letters sounds like too many others; one of more than this is none.
FEWEST_LETTERS, MOST_LETTERS = 4, 24
NEAREST = 3
# How many words are held against the language at a time: enough to be quick, few enough to stay small.
AT_ONCE = 512


class SoundsAlike:
    """What was found is kept; ``leave`` are words that shall stay as they are."""

    def __init__(self, language: Language, leave: frozenset[str]) -> None:
        self.language, self.leave = language, leave
        self._alike: dict[str, list[tuple[Term, int, float]]] = {}

    def spans(self, words: Sequence[str], at: int, plainly: bool) -> Iterator[tuple[int, str]]:
        """The next one to three words, of which at least one is no word of the language, run together: (words taken, joined)."""
        for taken in range(1, LONGEST_REPAIR + 1):
            span = words[at : at + taken]
            # No word was torn apart to make one that means something by itself.
            if len(span) < taken or not all(map(self._may_be_repaired, span)):
                return
            if (taken == 1 and plainly) or all(map(self._is_word, span)):
                continue
            if taken > 1 and any(map(self._stands_alone, span)):
                return
            yield taken, "".join(span)

    def _may_be_repaired(self, word: str) -> bool:
        return word[0].isalpha() and word not in self.leave

    def _is_word(self, word: str) -> bool:
        return any(m.taken == 1 and m.way != "heard" for m in self.language.matches([word], 0))

    def _stands_alone(self, word: str) -> bool:
        """Whether a word means something by itself, so that no other word was torn apart to make it."""
        return any(m.taken == 1 and m.term.kind not in ("half", "filler", "link", "over") for m in self.language.matches([word], 0))

    def nearest(self, joined: str) -> list[tuple[Term, int, float]]:
        """The terms that sound most like some words run together: (term, words of its form, unlikeness), nearest first."""
        if joined not in self._alike:
            self.hear([joined])
        return self._alike[joined]

    def hear(self, heard: Iterable[str]) -> None:
        """Finds the nearest terms of many words at once, which takes a fraction of the time that they take one by one."""
        new = [joined for joined in dict.fromkeys(heard) if joined not in self._alike]
        self._alike.update((joined, []) for joined in new)
        new = [joined for joined in new if FEWEST_LETTERS <= len(joined) <= MOST_LETTERS]
        lexicon = self.language.lexicon
        for first in range(0, len(new), AT_ONCE):
            some = new[first : first + AT_ONCE]
            for joined, unlike in zip(some, lexicon.unlike(some), strict=True):
                self._alike[joined] = [
                    (*self.language.vocabulary[lexicon.forms[at]], float(unlike[at]))
                    for at in np.argsort(unlike, kind="stable")[:NEAREST]
                    if unlike[at] <= MOST_UNLIKE
                ]
