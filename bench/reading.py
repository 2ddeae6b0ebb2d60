"""How much of damaged speech is read right, on calls of our own invention; and how fast written notes are read.

python bench/reading.py
"""

from __future__ import annotations

import sys
import time
from collections import Counter
from collections.abc import Iterator

import numpy as np

from mirkle.core.notes.school import school_of
from mirkle.files.notes_text import parse_notes
from mirkle.files.timed_text import parse_calls
from mirkle.standins.crew import write_book
from mirkle.standins.recogniser import Called, Voice, calls_of, recognised
from mirkle.standins.road import make_road

VOICES = [
    Voice(),
    Voice(grade_first=True, figures=False),
    Voice(top=9, halves="+-"),
    Voice(grade_first=True, descending=True, halves="+"),
    Voice(language="pt"),
    Voice(language="pt", figures=False, halves="+-", top=8),
    Voice(language="pt", grade_first=True),
    Voice(figures=False),
]
DAMAGE = (0.0, 0.04, 0.1, 0.2)


def aligned(meant: list[Called], read: list[tuple]) -> Iterator[tuple[Called | None, tuple | None]]:
    """Pairs of meant and read calls in order, by least cost; ``None`` where the other side has nothing."""
    n, m = len(meant), len(read)
    cost = np.zeros((n + 1, m + 1))
    cost[:, 0], cost[0, :] = np.arange(n + 1), np.arange(m + 1)
    unlike = [[_unlike(a, b) for b in read] for a in meant]
    for i in range(1, n + 1):
        for j in range(1, m + 1):
            cost[i, j] = min(cost[i - 1, j] + 1, cost[i, j - 1] + 1, cost[i - 1, j - 1] + unlike[i - 1][j - 1])
    i, j = n, m
    while i or j:
        if i and j and cost[i, j] == cost[i - 1, j - 1] + unlike[i - 1][j - 1]:
            yield meant[i - 1], read[j - 1]
            i, j = i - 1, j - 1
        elif i and cost[i, j] == cost[i - 1, j] + 1:
            yield meant[i - 1], None
            i -= 1
        else:
            yield None, read[j - 1]
            j -= 1


def _unlike(a: Called, b: tuple) -> float:
    return 0.4 * (a.direction != b[0]) + 0.7 * (a.grade != b[1]) + 0.3 * (a.distance_m != b[2])


def figures(damage: float, seeds: range, count: int = 120) -> dict[str, float]:
    """Shares over all voices at one rate of damage."""
    tally: Counter[str] = Counter()
    for seed in seeds:
        for number, voice in enumerate(VOICES):
            for block_s in (None, 25.0):
                rng = np.random.default_rng([seed, number])
                spoken = Voice(**{**voice.__dict__, "damage": damage, "block_s": block_s})
                calls = calls_of(rng, spoken, count)
                speech = parse_calls(recognised(rng, spoken, calls).encode(), name="calls")
                notes = speech.reading.notes
                read = [(n.direction.value if n.direction else None, n.grade, n.distance_m) for n in notes]
                tally["schools"] += 1
                tally["order right"] += (speech.reading.order == "grade-first") == voice.grade_first
                tally["language right"] += speech.reading.language == voice.language
                tally["sense right"] += (school_of(notes).sense == "descending") == voice.descending
                for meant, got in aligned(calls, read):
                    if meant is None:
                        tally["invented"] += 1
                        continue
                    if meant.direction:
                        tally["corners"] += 1
                        tally["corners right"] += got is not None and got[:2] == (meant.direction, meant.grade)
                    if meant.distance_m is not None:
                        tally["distances"] += 1
                        tally["distances right"] += got is not None and got[2] == meant.distance_m
                tally["notes"] += len(calls)
                roles = Counter(w.role for w in speech.words)
                tally["between"] += sum(v for k, v in roles.items() if k not in ("before", "countdown", "after"))
                tally["unread"] += roles["unread"]
    return {
        "corners right": tally["corners right"] / tally["corners"],
        "distances right": tally["distances right"] / tally["distances"],
        "unread words": tally["unread"] / tally["between"],
        "invented notes": tally["invented"] / tally["notes"],
        "order right": tally["order right"] / tally["schools"],
        "language right": tally["language right"] / tally["schools"],
        "sense right": tally["sense right"] / tally["schools"],
    }


def notes_a_second() -> float:
    """Written notes read in a second, the best of three: some forty books of the stand-in crew, a season's worth."""
    rng = np.random.default_rng(1)
    books = [write_book(rng, make_road(rng, length_m=15_000.0)).lines() for _ in range(40)]
    text = "".join(books).encode()
    parse_notes(books[0].encode(), name="warm")
    best = 0.0
    for _ in range(3):
        began = time.perf_counter()
        count = len(parse_notes(text, name="notes").notes)
        best = max(best, count / (time.perf_counter() - began))
    return best


def lines_a_second(count: int = 5_000) -> float:
    """The same with lines that hardly ever repeat, which no book is made of."""
    return max(_lines_a_second(count) for _ in range(3))


def _lines_a_second(count: int) -> float:
    rng = np.random.default_rng(1)
    lines = [f"left {rng.integers(1, 7)} long {10 * rng.integers(2, 40)}" for _ in range(count)]
    text = "\n".join(lines).encode()
    parse_notes(text[:400], name="warm")
    began = time.perf_counter()
    parse_notes(text, name="notes")
    return count / (time.perf_counter() - began)


def main() -> int:
    """Prints the table."""
    print(f"written notes a second: {notes_a_second():,.0f} in books, {lines_a_second():,.0f} where no line repeats")
    print(f"{'share of words harmed':24}" + "".join(f"{d:>9.0%}" for d in DAMAGE))
    rows = [figures(d, range(3)) for d in DAMAGE]
    for name in rows[0]:
        print(f"{name:24}" + "".join(f"{r[name]:>9.2%}" for r in rows))
    return 0


if __name__ == "__main__":
    sys.exit(main())
