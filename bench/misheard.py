"""What it is worth to know what a crew's speech recogniser makes of its words: words of a stage read without a book, before and after.

    python bench/misheard.py [--crews 12] [--seed 1]

Each crew has a recogniser that makes always the same other word of a word, by exchanging vowels, and of half of its places; sides and
figures are heard well. Five stages with their books are read first, and a sixth without one.
"""

from __future__ import annotations

import argparse
from collections import Counter

import numpy as np

from mirkle.core.habits.misheard import Misheard, misheard_in, usual_mishearings, with_mishearings
from mirkle.core.notes.crew_profile import CrewProfile
from mirkle.core.notes.model import Reading
from mirkle.core.notes.reading import read_notes
from mirkle.files.notes.languages import shipped_languages
from mirkle.files.speech.timed_text import parse_calls
from mirkle.synthetic.recogniser import EN, Called, Voice, calls_of, recognised

STAGES, NOTES, LAST_NOTES, HARMED, EXCHANGED = 5, 45, 80, 0.5, 0.6
# Of shorter words too little is left.
LEAST_LETTERS = 4
VOWELS = "aeiou"


def harmed_word(rng: np.random.Generator, word: str) -> str:
    """Another word that begins and sounds a little like it."""
    other = "".join(str(rng.choice(list(VOWELS))) if c in VOWELS and rng.random() < EXCHANGED else c for c in word)
    return other if other != word else word[:-1] + str(rng.choice(list(VOWELS))) + word[-1]


def said_by(rng: np.random.Generator, table: dict[str, str], calls: list[Called]) -> bytes:
    """The calls as they are recognised."""
    clean = recognised(rng, Voice(), calls).splitlines()
    return "\n".join(" ".join(table.get(w, w) if rng.random() < HARMED else w for w in line.split()) for line in clean).encode()


def written(calls: list[Called]) -> Reading:
    """The calls as their book."""
    return read_notes("\n".join(" ".join(c.words) for c in calls), shipped_languages())


def things_in(reading: Reading) -> int:
    """How many words beside corners, distances and links were read."""
    lists = (n.cautions + n.features + n.changes + n.line_on_road + n.objects + ((n.length,) if n.length else ()) for n in reading.notes)
    return sum(map(len, lists))


def counted(seed: int) -> Counter[str]:
    """What one crew's last stage comes to."""
    rng = np.random.default_rng([seed, 42])
    words = sorted({w for phrase in EN.values() for w in phrase.split() if len(w) >= LEAST_LETTERS} - {"left", "right", "start", "finish"})
    table = {word: harmed_word(rng, word) for word in words}
    seen: list[Misheard] = []
    for _ in range(STAGES):
        calls = calls_of(rng, Voice(), NOTES)
        book = written(calls)
        seen += misheard_in(parse_calls(said_by(rng, table, calls), name="said", crew=CrewProfile(shipped_languages()), book=book), book)
    usual = usual_mishearings(seen)
    calls = calls_of(rng, Voice(), LAST_NOTES)
    said, found = said_by(rng, table, calls), Counter(crews=1, learnt=len(usual), meant=things_in(written(calls)))
    for name, languages in (("before", shipped_languages()), ("after", with_mishearings(shipped_languages(), usual))):
        reading = parse_calls(said, name="said", crew=CrewProfile(languages)).reading
        found[f"read {name}"] += things_in(reading)
        found[f"not understood {name}"] += sum(len(n.unread) for n in reading.notes)
    return found


def main() -> None:
    """Prints the counts of all crews."""
    options = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    options.add_argument("--crews", type=int, default=12)
    options.add_argument("--seed", type=int, default=1)
    asked = options.parse_args()
    total: Counter[str] = Counter()
    for crew in range(asked.crews):
        total += counted(asked.seed + crew)
    for what, count in total.items():
        print(f"{what:24} {count:5}")


if __name__ == "__main__":
    main()
