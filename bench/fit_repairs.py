"""Fits the weights by which repairs are believed, and those by which a note counts as said otherwise.

python bench/fit_repairs.py

Prints the tables that stand in ``core/notes/repairs.py`` and ``core/notes/said.py``. It opens the numbers below 1000 of
``hearing.py`` only; ``bench/reading.py`` reports on others, and on ways of harming that no fit has seen.
"""

from __future__ import annotations

import sys
from collections.abc import Iterator

import numpy as np
from sklearn.linear_model import LogisticRegression

from hearing import Text, Way, make_text
from mirkle.core.notes import repairs
from mirkle.core.notes.lattice import Choice, Reader
from mirkle.core.notes.tokens import split_words
from mirkle.core.speech.book_alignment import align
from mirkle.core.speech.delivery import OTHERWISE, otherwise_features
from mirkle.files.notes.text import parse_notes

WAYS = [
    Way(),
    Way(grade_first=True, figures=False),
    Way(top=9, halves=True),
    Way(figures=False, wordy=1.6, halves=True),
    Way(language="pt"),
    Way(language="pt", grade_first=True, figures=False, wordy=1.5),
    Way(harm=0.2, figures=False),
    Way(language="pt", harm=0.2, top=8, halves=True),
    Way(harm=0.04),
]
# Recognisers that always make the same of a term.
HABITS = [
    Way(harm=0.04, habits=0.4),
    Way(harm=0.04, habits=0.4, wordy=1.6, figures=False, talk=0.15),
    Way(language="pt", harm=0.04, habits=0.4, wordy=1.5),
]


def repaired_right(choice: Choice, text: Text, first: int) -> bool:
    """Whether a repair of the heard words from ``first`` on says what was said."""
    heard = text.heard[first : first + choice.taken]
    said: list[str] = []
    for number, h in enumerate(heard):
        # Torn words carry what was said each; run together they carry it once.
        if number == 0 or h.said != heard[number - 1].said:
            said.append(h.said)
    words = " ".join(said)
    keys = [k for _, k in choice.parts]
    if text.heard[first].said != text.heard[first].text and len(words.split()) > len(keys):
        # Run together with its neighbour, a term is right if it is one of the words.
        spoken = words.split()
        return any(m.term.key == keys[0] for at in range(len(spoken)) for m in text.language.matches(spoken[at:], 0)) or keys[0] in spoken
    if all(k.isdecimal() for k in keys):
        return words == " ".join(keys) or _value(text, words) == " ".join(keys)
    return any(m.taken == len(words.split()) and m.term.key == keys[0] for m in text.language.matches(words.split(), 0))


def _value(text: Text, words: str) -> str:
    found = [m for m in text.language.matches(words.split(), 0) if m.term.kind == "number"]
    return found[-1].term.key if found and found[-1].taken == len(words.split()) else ""


def examples(seeds: range, ways: list[Way]) -> Iterator[tuple[dict[str, float], bool]]:
    """The evidence for each repair that the cheapest path makes, and whether it is right."""
    for seed in seeds:
        for number, way in enumerate(ways):
            text = make_text(np.random.default_rng([seed, number]), way)
            words = [h.text for h in text.heard]
            reader = Reader(text.language, way.grade_first, spoken=True)
            touches = [False] * len(words)
            path = reader.path(words, touches)
            by_word = {s.at: s.choice for s in path}
            for at, evidence in repairs.evidence_of(reader, words, touches, path).items():
                yield evidence.features, repaired_right(by_word[at], text, at)


def departures(seeds: range) -> Iterator[tuple[dict[str, float], bool]]:
    """What speaks for a note having been said otherwise, and whether it was."""
    for seed in seeds:
        for number, way in enumerate(WAYS):
            harmed = Way(**{**way.__dict__, "otherwise": 0.08, "left_out": 0.04, "twice": 0.03})
            text = make_text(np.random.default_rng([seed, 50 + number]), harmed)
            book = parse_notes(text.book.encode(), name="book")
            words = [w for h in text.heard for w in split_words(h.text)]
            order = "grade-first" if way.grade_first else "direction-first"
            against = align([w.text for w in words], book, text.language, order=order)
            if len(book.notes) != len(text.calls):
                continue
            for visit in against.visits:
                call = text.calls[visit.note]
                if visit.heard and call.as_ in ("written", "otherwise", "twice"):
                    yield otherwise_features(visit, against), call.as_ == "otherwise"


def fitted(pairs: list[tuple[dict[str, float], bool]], names: list[str], *, constant: bool) -> dict[str, float]:
    """Weights of a logistic model by their names."""
    rows = np.array([[f.get(n, 0.0) for n in names] for f, _ in pairs])
    right = np.array([r for _, r in pairs])
    model = LogisticRegression(C=3.0, fit_intercept=constant, max_iter=2000).fit(rows, right)
    print(f"{len(pairs)} examples, {right.mean():.1%} right")
    return dict(zip(names, np.round(model.coef_[0], 2), strict=True))


def main() -> int:
    """Prints the tables."""
    # Habits are of listed mishearings only: of all else those texts hold the same again.
    pairs = [p for p in examples(range(100, 124), WAYS) if "heard" not in p[0]]
    pairs += [p for p in examples(range(100, 124), WAYS + HABITS) if "heard" in p[0]]
    print(fitted(pairs, list(repairs.WEIGHTS), constant=False))
    pairs = list(departures(range(100, 108)))
    print(fitted(pairs, list(OTHERWISE), constant=False))
    return 0


if __name__ == "__main__":
    sys.exit(main())
