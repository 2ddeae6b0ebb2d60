"""How much of damaged speech is read right, on calls of our own invention; and how fast notes and words are read.

python bench/reading.py

Two recognisers harm the calls: the table of slips in ``synthetic/recogniser.py``, and ``hearing.py``, which goes by sound and
tears, joins, loses and doubles words. No fit has opened the numbers used here (``fit_repairs.py`` uses those below 1000), nor
the third way of harming, which mostly tears and joins.
"""

from __future__ import annotations

import sys
import time
from collections import Counter, defaultdict
from collections.abc import Iterator

import numpy as np

from fit_repairs import WAYS, repaired_right
from hearing import Call, Text, Way, make_text
from mirkle.core.notes.grading import school_of
from mirkle.core.notes.lattice import Choice
from mirkle.core.notes.model import Token
from mirkle.core.notes.repairs import STEERING
from mirkle.core.speech.reading import Speech
from mirkle.files.notes.text import parse_notes
from mirkle.files.speech.timed_text import parse_calls
from mirkle.synthetic.crew import write_book
from mirkle.synthetic.recogniser import Called, Voice, calls_of, recognised
from mirkle.synthetic.road import make_road

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
# Mostly words run together and torn apart: a way of harming that no fit has seen.
TORN = (0.1, 0.1, 0.35, 0.35, 0.05, 0.05)
SAID_AS = ("written", "otherwise", "not-said", "twice")


# Side, grade and distance of a call as it was read.
Read = tuple[str | None, str | None, int | None]


def aligned(meant: list[Called], read: list[Read]) -> Iterator[tuple[Called | None, Read | None]]:
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


def _unlike(a: Called, b: Read) -> float:
    return 0.4 * bool(a.direction != b[0]) + 0.7 * bool(a.grade != b[1]) + 0.3 * bool(a.distance_m != b[2])


def _read(speech: Speech) -> list[Read]:
    return [(n.direction.value if n.direction else None, n.grade, n.distance_m) for n in speech.reading.notes]


def _count(tally: Counter[str], meant: list[Called], speech: Speech) -> None:
    """Adds what of one text was read right."""
    for wanted, got in aligned(meant, _read(speech)):
        if wanted is None:
            tally["invented"] += 1
            continue
        if wanted.direction:
            tally["corners"] += 1
            tally["corners right"] += got is not None and got[:2] == (wanted.direction, wanted.grade)
            whole = got is not None and None not in got[:2]
            tally["corners wrong"] += whole and got is not None and got[:2] != (wanted.direction, wanted.grade)
        if wanted.distance_m is not None:
            tally["distances"] += 1
            tally["distances right"] += got is not None and got[2] == wanted.distance_m
    tally["notes"] += len(meant)
    roles = Counter(w.role for w in speech.words)
    tally["between"] += sum(v for k, v in roles.items() if k not in ("before", "countdown", "after"))
    tally["unread"] += roles["unread"]


def _shares(tally: Counter[str]) -> dict[str, float]:
    return {
        "corners right": tally["corners right"] / tally["corners"],
        "corners wrong": tally["corners wrong"] / tally["corners"],
        "distances right": tally["distances right"] / tally["distances"],
        "unread words": tally["unread"] / tally["between"],
        "invented notes": tally["invented"] / tally["notes"],
    }


def table_of_slips(damage: float, seeds: range, count: int = 120) -> dict[str, float]:
    """Shares over all voices at one rate of damage, read without a book; and the schools found."""
    tally: Counter[str] = Counter()
    for seed in seeds:
        for number, voice in enumerate(VOICES):
            for block_s in (None, 25.0):
                rng = np.random.default_rng([seed, number])
                spoken = Voice(**{**voice.__dict__, "damage": damage, "block_s": block_s})
                calls = calls_of(rng, spoken, count)
                speech = parse_calls(recognised(rng, spoken, calls).encode(), name="calls")
                tally["schools"] += 1
                tally["order right"] += (speech.reading.order == "grade-first") == voice.grade_first
                tally["language right"] += speech.reading.language == voice.language
                school = school_of(speech.reading.notes)
                tally["sense right"] += (school.sense == "descending") == voice.descending
                tally["halves right"] += school.half_grades == bool(voice.halves)
                _count(tally, calls, speech)
    schools = ("order right", "language right", "sense right", "halves right")
    return _shares(tally) | {name: tally[name] / tally["schools"] for name in schools}


def _meant(call: Call) -> Called:
    """A call of the second recogniser as one of the first."""
    found = {p.kind: p.key for p in reversed(call.spoken)}
    half = {"plus": "+", "minus": "-"}.get(found.get("half", ""), "")
    grade = found.get("grade")
    metres = found.get("distance")
    return Called(found.get("direction"), grade + half if grade else None, int(metres) if metres else None)


def by_sound(
    harm: float, seeds: range, *, with_book: bool, departs: bool = False, kinds: tuple[float, ...] | None = None
) -> tuple[dict[str, float], Counter[tuple[str, str]], dict[int, list[int]]]:
    """Shares over all ways of calling, harmed by sound; how notes were said (truth, found); and repairs by sureness."""
    tally: Counter[str] = Counter()
    said_as: Counter[tuple[str, str]] = Counter()
    reliability: dict[int, list[int]] = defaultdict(lambda: [0, 0])
    for seed in seeds:
        for number, way in enumerate(WAYS):
            departing = {"otherwise": 0.06, "left_out": 0.04, "twice": 0.03} if departs else {}
            changed = {**way.__dict__, "harm": harm, **departing, **({"kinds": kinds} if kinds else {})}
            text = make_text(np.random.default_rng([seed, number]), Way(**changed))
            book = parse_notes(text.book.encode(), name="book")
            speech = parse_calls(text.vtt.encode(), name="calls", book=book if with_book else None)
            _count(tally, [_meant(c) for c in text.calls if c.as_ != "not-said"], speech)
            for token, right in _repairs(text, speech):
                tally["repairs"] += 1
                tally["repairs right"] += right
                tally["steered wrong"] += token.kind in STEERING and not right
                reliability[min(9, int(10 * token.sure))][0] += 1
                reliability[min(9, int(10 * token.sure))][1] += right
            if with_book and len(book.notes) == len(text.calls):
                for call, spoken in zip(text.calls, speech.spoken, strict=True):
                    said_as[call.as_, spoken.said_as] += 1
                    meant = _meant(call)
                    if call.as_ == "not-said" or not meant.direction:
                        continue
                    tally["corners by the book"] += 1
                    taken = (
                        _meant(Call(call.written, call.written))
                        if spoken.said_as != "otherwise"
                        else speech.reading.notes[spoken.note]
                        if spoken.note is not None
                        else None
                    )
                    side = getattr(taken, "direction", None)
                    tally["corners by the book right"] += taken is not None and (getattr(side, "value", side), taken.grade) == (
                        meant.direction,
                        meant.grade,
                    )
    shares = _shares(tally) | {
        "repairs made": tally["repairs"],
        "repairs right": tally["repairs right"] / max(tally["repairs"], 1),
        "steered wrong": tally["steered wrong"],
    }
    if with_book:
        shares["corners by the book"] = tally["corners by the book right"] / tally["corners by the book"]
    return shares, said_as, reliability


def _repairs(text: Text, speech: Speech) -> Iterator[tuple[Token, bool]]:
    """Every repair that was made, and whether it says what was said."""
    at, starts = text.vtt.index("\n") + 1, {}
    for number, heard in enumerate(text.heard):
        at = text.vtt.index(heard.text, at)
        starts[at] = number
        at += len(heard.text)
    for token in speech.reading.repairs:
        there = starts.get(token.span.start)
        if there is not None:
            key = token.key.rstrip("+-")
            words = token.text.split()
            # "two plus": the grade is the first of them.
            taken = 1 if token.key != key and len(words) > 1 else len(words)
            yield token, repaired_right(Choice(taken, ((token.kind, key),), 0.0), text, number)


def seconds_for_a_stage() -> float:
    """40 minutes of words, a tenth of them harmed, read against 400 notes; the best of three."""
    text = make_text(np.random.default_rng(7000), Way(figures=False, wordy=1.3, harm=0.1), 400)
    book = parse_notes(text.book.encode(), name="book")
    best = np.inf
    for _ in range(3):
        began = time.perf_counter()
        parse_calls(text.vtt.encode(), name="calls", book=book)
        best = min(best, time.perf_counter() - began)
    return best


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


def _print(title: str, columns: list[str], rows: list[dict[str, float]]) -> None:
    print(f"\n{title}")
    print(f"{'share of words harmed':24}" + "".join(f"{c:>9}" for c in columns))
    for name in rows[-1]:
        whole = name in ("repairs made", "steered wrong")
        cells = (f"{r[name]:>9.0f}" if whole else f"{r[name]:>9.2%}" for r in rows)
        print(f"{name:24}" + "".join(cells))


def main() -> int:
    """Prints the tables."""
    print(f"written notes a second: {notes_a_second():,.0f} in books, {lines_a_second():,.0f} where no line repeats")
    print(f"40 minutes of words against 400 notes: {seconds_for_a_stage():.2f} s")
    rates = [f"{d:.0%}" for d in DAMAGE]
    _print("A table of slips, without a book", rates, [table_of_slips(d, range(3)) for d in DAMAGE])
    seeds = range(5000, 5002)
    free = [by_sound(d, seeds, with_book=False) for d in (0.0, 0.1)]
    _print("Harmed by sound, without a book", ["0%", "10%"], [f[0] for f in free])
    beside = [by_sound(d, seeds, with_book=True) for d in (0.0, 0.1, 0.2)]
    torn = by_sound(0.1, seeds, with_book=True, kinds=TORN)
    _print("Harmed by sound, with the book", ["0%", "10%", "20%", "10% torn"], [b[0] for b in (*beside, torn)])
    said_as = by_sound(0.1, seeds, with_book=True, departs=True)[1]
    print("\nHow notes were said at 10 % harmed words: truth, and what was found")
    print(f"{'':12}" + "".join(f"{s:>11}" for s in SAID_AS))
    for truth in SAID_AS:
        print(f"{truth:12}" + "".join(f"{said_as[truth, found]:>11}" for found in SAID_AS))
    print("\nRepairs by how sure they were said to be, without a book and with it: how many, share right")
    for sure in range(4, 10):
        cells = [t[2].get(sure, [0, 0]) for t in (free[1], beside[1], torn)]
        print(f"{sure / 10:.1f}-{(sure + 1) / 10:.1f}" + "".join(f"{n:>8}{(r / n if n else 0):>8.1%}" for n, r in cells))
    return 0


if __name__ == "__main__":
    sys.exit(main())
