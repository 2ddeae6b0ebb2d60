"""The corner notes as numbers, as an alignment sees them."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, fields, replace

import numpy as np
from numpy.typing import NDArray

from mirkle.core.lineup.crew_scale import PLAIN_LINK_M, GapYardstick
from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.model import Note
from mirkle.core.recording.model import Floats
from mirkle.core.stats import student_cost

# Runs are chosen to suit the distances, so what is left of those says too little of how far eased ends wander: metres, and
# a share of the distance, that they do at least; and a distance written wrong must not tear an alignment apart.
WANDER_M, WANDER_SHARE, FORGIVING = 6.0, 0.08, 1.1
# Metres of a bend with no word of length, and how the words stretch it. # common practice
PLAIN_LENGTH_M, LENGTHENS_BY_GRADE = 30.0, 0.13
# A corner without a grade is as long as one of this grade; the lengths and turns here are for grades to six.
UNGRADED, GRADES = 4.0, 6.0
# Metres called over several notes: what a link word between two of them stands for, how much less sure each note more makes them, and how
# sure a link word is at best. # common practice
LINK_M, EACH_NOTE_M, LINK_SD_M = 8.0, 5.0, 6.0
# Degrees of freedom of Student's tails: of a distance, and of what is known less well.
DISTANCE_FREEDOM, LONG_TAILS = 3.0, 2.0
# How far the logarithm of a bend's length scatters about what the note says of it, and a call's place in its own scatters.
LENGTH_SCALE, CALL_SCALE = 0.551, 1.2247
# A square turns at least this much (°), each grade wider by this factor less, on a scale to six; scale of the lower tail (ln). From
# training worlds and those of pairing.md: 97 of 100 turn more.
SQUARE_TURNS_DEG, TURNS_LESS_BY_GRADE, TURN_SCALE = 40.0, 0.42, 0.1768
LENGTH_WORDS = {"short": 0.6, "medium": 1.2, "half long": 1.3, "long": 1.6, "very long": 2.3, "extra long": 3.2, "extra extra long": 4.2}


@dataclass(frozen=True)
class CalledNotes:
    """The corner notes as numbers, by a crew's ``school``: side, position (nan: unknown), called distance before each; all (n,).

    ``heard_m`` is where the calls put a note, nan where unsaid; ``pinned_m`` where a hand put it, nan where none did, and
    infinite where a hand said that no bend answers it. ``again`` are the notes of a page that stands in the book a second time.
    """

    notes: tuple[Note, ...]
    school: GradingScheme
    side: Floats
    position: Floats
    length_m: Floats
    least_turn_deg: Floats
    gap_m: Floats
    gap_word: NDArray[np.str_]
    gap_parts: NDArray[np.intp]
    heard_m: Floats
    heard_sigma_m: Floats
    pinned_m: Floats
    again: NDArray[np.bool_]

    def between(self, first: int, end: int) -> CalledNotes:
        """The corner notes from ``first`` up to ``end``."""
        return replace(self, **{name: getattr(self, name)[first:end] for name in OF_EACH_NOTE})

    def reversed(self) -> CalledNotes:
        """The same seen from the far end, where the gap before a note is the one that stood after it."""
        turned = {name: getattr(self, name)[::-1] for name in OF_EACH_NOTE}
        nothing: dict[str, float | str | int] = {"gap_m": np.nan, "gap_word": "", "gap_parts": 1}
        for name, value in nothing.items():
            turned[name] = np.concatenate([getattr(self, name)[1:], [value]])[::-1]
        return replace(self, **turned)


OF_EACH_NOTE = tuple(f.name for f in fields(CalledNotes) if f.name != "school")


@dataclass(frozen=True)
class CallPlaces:
    """Where the calls put each corner note: metres from the start line and their spread, nan where unsaid; (corners,)."""

    place_m: Floats
    sigma_m: Floats


@dataclass(frozen=True)
class Pin:
    """A corner note put on its place by hand: ``note`` in the book, metres from the start line; ``None``: no bend."""

    note: int
    at_m: float | None

    @property
    def place_m(self) -> float:
        """Where it is, in numbers: infinitely far for no bend."""
        return np.inf if self.at_m is None else self.at_m


def calls_of(notes: tuple[Note, ...], school: GradingScheme, pins: Sequence[Pin] = (), heard: CallPlaces | None = None) -> CalledNotes:
    """The corners of a book in numbers, with what was put in its place by hand, and where the calls put them."""
    corners = tuple(n for n in notes if n.is_corner)
    position = [school.tightest_position(n) for n in corners]
    gaps = [_called_gap(before) for before in _between_corners(notes)]
    metres, words, parts = zip(*gaps, strict=True) if gaps else ((), (), ())
    pinned_m = {p.note: p.place_m for p in pins}
    heard = heard or CallPlaces(np.full(len(corners), np.nan), np.ones(len(corners)))
    return CalledNotes(
        notes=corners,
        school=school,
        side=np.array([n.direction.sign for n in corners if n.direction], dtype=float),
        position=np.array(position),
        length_m=np.array([_usual_length_m(n, p) for n, p in zip(corners, position, strict=True)]),
        least_turn_deg=_least_turn_deg(np.array(position), school.top),
        gap_m=np.array(metres),
        gap_word=np.array(words, dtype=np.str_),
        gap_parts=np.array(parts, dtype=np.intp),
        heard_m=heard.place_m,
        heard_sigma_m=heard.sigma_m,
        pinned_m=np.array([pinned_m.get(n.index, np.nan) for n in corners], dtype=float),
        again=written_again(corners),
    )


def _between_corners(notes: Sequence[Note]) -> Iterator[list[Note]]:
    """For each corner note the notes from the corner before it, or from the start line, up to it."""
    before: list[Note] = []
    for note in notes:
        if note.is_corner:
            yield before
            before = []
        before.append(note)


# A page counts as copied twice from this many corners on, if at least this share of them is the same to the letter and it has at least
# this many different ones.
PAGE, ALIKE, DIFFERENT, LONGEST_PAGE = 4, 0.9, 4, 40


def written_again(corners: Sequence[Note]) -> NDArray[np.bool_]:
    """The corners of a page that stands in the book twice running, the second time, (n,)."""
    texts = [" ".join(n.called_text.lower().split()) for n in corners]
    again = np.zeros(len(texts), dtype=bool)
    for long in range(PAGE, min(LONGEST_PAGE, len(texts) // 2) + 1):
        same = np.array([a == b for a, b in zip(texts, texts[long:], strict=False)], dtype=float)
        alike = np.convolve(same, np.ones(long), mode="valid")
        for first in np.flatnonzero(alike >= ALIKE * long):
            second = slice(first + long, first + 2 * long)
            if not again[first : second.stop].any() and len(set(texts[second])) >= DIFFERENT:
                again[second] = True
    return again


def _usual_length_m(note: Note, position: float) -> float:
    grade = position if np.isfinite(position) else UNGRADED
    plain = PLAIN_LENGTH_M * np.exp(LENGTHENS_BY_GRADE * max(grade, 0.0))
    return float(plain * LENGTH_WORDS.get(note.length or "", 1.0))


def _least_turn_deg(position: Floats, top: int) -> Floats:
    """What a bend of a grade turns at least, but for three in a hundred, (n,); nan where the grade is not known."""
    in_six = np.where(position > 0.0, position * GRADES / max(top, 1), position)
    return np.asarray(SQUARE_TURNS_DEG * np.exp(-TURNS_LESS_BY_GRADE * in_six))


def _called_gap(before: list[Note]) -> tuple[float, str, int]:
    """Metres called over the given notes, or nan and the link word; and how many notes the metres add up over."""
    numbers = [n.distance_m for n in before if n.distance_m is not None]
    links = [n.link for n in before if n.link]
    if not before or len(numbers) + len(links) < len(before):
        return np.nan, "", len(before)
    if not numbers:
        return np.nan, links[0] or "", len(before)
    return float(sum(numbers)) + LINK_M * len(links), "", len(before)


def expected_gaps(calls: CalledNotes, distances: GapYardstick) -> tuple[Floats, Floats]:
    """Metres expected before each note and their scatter, (n,); nan where nothing was called."""
    expected = distances.expected_m(calls.gap_m)
    wander_m = np.maximum(distances.scatter_m(calls.gap_m), WANDER_M + WANDER_SHARE * calls.gap_m)
    scatter = FORGIVING * wander_m + EACH_NOTE_M * np.maximum(calls.gap_parts - 1, 0)
    for at, word in enumerate(calls.gap_word):
        if word:
            low, middle, high, _ = distances.links.get(str(word), (*PLAIN_LINK_M, 0))
            expected[at], scatter[at] = middle, max(LINK_SD_M, 0.5 * (high - low))
    return expected, scatter


def grade_cost(off: Floats) -> Floats:
    """-ln of the likelihood of grades that lie ``off`` scatters from the called one, with Student's tails, (n,)."""
    return student_cost(off)


def distance_cost(off: Floats) -> Floats:
    """-ln of how likely a distance is, by how many scatters it lies from the called one, with Student's tails, (n,)."""
    return student_cost(off, DISTANCE_FREEDOM)


def length_cost(log_ratio: Floats) -> Floats:
    """-ln of how likely a bend's length is, by the logarithm of its ratio to the note's, with Student's tails, (n,)."""
    return student_cost(log_ratio / LENGTH_SCALE, LONG_TAILS)


def turn_cost(log_short: Floats) -> Floats:
    """-ln of how likely it is that a bend turns less than its grade's do, by the logarithm of how much less, (n,)."""
    return student_cost(np.maximum(log_short, 0.0) / TURN_SCALE, LONG_TAILS)


def call_cost(off: Floats) -> Floats:
    """-ln of how likely a place is, by how many scatters it lies from where the call puts it, (n,)."""
    return student_cost(off / CALL_SCALE, LONG_TAILS)
