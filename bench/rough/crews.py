"""Crews with habits: how they read a road, how they grade, what they leave out, and the slips they make."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from itertools import pairwise

import numpy as np

from rough.driving import Drive
from rough.roads import CALLED_RAD, Floats, Road, Thing, even

GAPS = [20, 30, 40, 50, 60, 70, 80, 100, 120, 150, 180, 200, 250, 300, 350, 400, 500]
EXTRAS = [
    "don't cut",
    "keep in",
    "keep out",
    "caution",
    "at junction",
    "past house",
    "rocks inside",
    "ditch outside",
    "narrows",
    "slippery",
]


@dataclass(frozen=True)
class Crew:
    """Habits. ``angle``: how much the angle turned counts in a grade; ``omits``: bends more open than that position are left
    out as often as ``omits_share``; ``extras``: how many notes carry a word more."""

    top: int = 6
    tightest_m: float = 15.0
    per_grade: float = 1.62
    angle: float = 0.0
    scatter: float = 0.25
    halves: bool = False
    descending: bool = False
    odometer: float = 1.0
    omits: float = 6.4
    omits_share: float = 1.0
    extras: float = 0.2
    grade_first: bool = False
    lead_s: float = 3.2
    one_side: float = 0.0
    words_for_tight: bool = True


@dataclass
class Corner:
    """A corner as the road has it and as this crew sees it."""

    from_m: float
    to_m: float
    side: int
    radius_m: float
    turn_deg: float
    position: float
    later: float | None
    written: bool = True


@dataclass
class Note:
    """One note of the book: what it says, and the truth behind it."""

    side: int = 0
    grade: str = ""
    change: str = ""
    length: str = ""
    extra: str = ""
    feature: str = ""
    gap: str = ""
    place_from_m: float = 0.0
    place_to_m: float = 0.0
    corner: Corner | None = None
    thing: Thing | None = None
    lead_s: float | None = None


@dataclass(frozen=True)
class Slip:
    """A planted slip: its kind, the kinds of finding that are right for it, and where."""

    kind: str
    finds: tuple[str, ...]
    from_m: float
    to_m: float


@dataclass
class Book:
    """Notes, slips, and for the driver what they promise wrongly: (from, to, factor on the radius)."""

    crew: Crew
    notes: list[Note]
    slips: list[Slip] = field(default_factory=list)
    corners: list[Corner] = field(default_factory=list)

    def believed(self) -> tuple[tuple[float, float, float], ...]:
        """Where the notes promise more than the road has."""
        out = []
        for n in self.notes:
            if n.corner is not None and n.grade.rstrip("+-").isdigit():
                over = position_written(self.crew, n.grade) - n.corner.position
                if over > 1.2:
                    out.append((n.corner.from_m, n.corner.to_m, self.crew.per_grade ** (over * 0.8)))
        return tuple(out)

    def text(self) -> str:
        """The book, a note a line."""
        return "\n".join(write(self.crew, n) for n in self.notes) + "\n"


def position_written(crew: Crew, grade: str) -> float:
    """The position on the scale from tight to open that a written grade stands for."""
    word = {"hairpin": -0.7, "square": 0.25, "flat": crew.top + 1.0}
    if grade in word:
        return word[grade]
    number = float(grade.rstrip("+-"))
    # A plus is faster, whichever way the numbers run.
    faster = 0.34 if grade.endswith("+") else -0.34 if grade.endswith("-") else 0.0
    return (crew.top + 1 - number if crew.descending else number) + faster


def write(crew: Crew, note: Note) -> str:
    """A note in this crew's words."""
    if not note.side:
        return " ".join(p for p in (note.feature, note.gap) if p)
    way = "left" if note.side > 0 else "right"
    head = f"{note.grade} {way}" if crew.grade_first else f"{way} {note.grade}"
    return " ".join(p for p in (head, note.length, note.change, note.feature, note.extra, note.gap) if p)


def corners_of(road: Road, crew: Crew) -> list[Corner]:
    """The corners of a road as an eye parts them: one side, parted where the road eases clearly between two tight places."""
    bent = even(road.curvature_per_m, 3.0)
    out: list[Corner] = []
    left, right = ([(run, side) for run in _runs(side * bent > 1 / 330.0)] for side in (1, -1))
    # One side may follow the other without any easing between.
    for (first, last), side in sorted(left + right):
        for a, b in _parted(np.abs(bent[first:last]), first):
            turn = float(np.degrees(np.abs(bent[a:b]).sum()))
            if turn < 9.0 or b > road.finish_m - 5 or a < 20:
                continue
            tight = np.convolve(np.abs(bent[a:b]), np.ones(9) / 9, mode="same") if b - a > 9 else np.abs(bent[a:b])
            half = _halves(tight)
            radius = float(1 / tight[:half].max()) if half else float(1 / tight.max())
            later = _position(crew, float(1 / tight[half:].max()), turn) if half else None
            position = _position(crew, radius, turn)
            if later is not None and abs(later - position) < 0.9:
                radius, later = float(1 / tight.max()), None
                position = _position(crew, radius, turn)
            out.append(Corner(float(a), float(b), side, radius, turn, position, later))
    return out


def _position(crew: Crew, radius_m: float, turn_deg: float) -> float:
    plain = 1.0 + np.log(radius_m / crew.tightest_m) / np.log(crew.per_grade)
    return float(plain - crew.angle * np.log(turn_deg / 50.0))


def _runs(mask: np.ndarray) -> list[tuple[int, int]]:
    edges = np.flatnonzero(np.diff(np.concatenate([[0], mask.astype(int), [0]])))
    return list(zip(edges[0::2].tolist(), edges[1::2].tolist(), strict=True))


def _parted(bent: Floats, offset: int) -> list[tuple[int, int]]:
    """One run of one side cut where it eases to under 0.45 of the gentler of its neighbours' peaks, 25 m apart or more."""
    cuts, low = [0], None
    peak = 0
    for i in range(1, len(bent)):
        if low is None or bent[i] < bent[low]:
            low = i
        if low is not None and bent[i] > bent[low] / 0.45 and bent[peak : low + 1].max() > bent[low] / 0.45:
            ahead = bent[low:].max()
            if ahead > bent[low] / 0.45 and i - peak > 12:
                cuts.append(low)
                peak, low = i, None
        if bent[i] > bent[peak]:
            peak, low = i, None
    cuts.append(len(bent))
    return [(offset + a, offset + b) for a, b in pairwise(cuts) if b - a > 3]


def _halves(tight: Floats) -> int | None:
    """Where a long corner changes its tightness, if its two halves may differ."""
    return len(tight) // 2 if len(tight) > 34 else None


def no_habit(_corner: Corner) -> float:
    """Every corner is graded alike."""
    return 0.0


def write_book(rng: np.random.Generator, road: Road, crew: Crew, habit: Callable[[Corner], float] = no_habit) -> Book:
    """An honest book: this crew's own scatter, rounding and habits. ``habit`` is by how many grades it writes a corner easier besides."""
    corners = corners_of(road, crew)
    notes: list[Note] = []
    for c in corners:
        off = c.position + rng.normal(0, crew.scatter) + (crew.one_side if c.side > 0 else 0.0) + habit(c)
        # Where a bend becomes too gentle to write is no sharp line.
        if off > crew.omits + rng.normal(0, 0.4) and rng.random() < crew.omits_share:
            c.written = False
            continue
        note = Note(c.side, grade_of(crew, off), place_from_m=c.from_m, place_to_m=c.to_m, corner=c)
        if c.later is not None and note.grade.rstrip("+-").isdigit():
            later = c.later + rng.normal(0, crew.scatter)
            number = int(np.clip(round(later), 1, crew.top))
            named = crew.top + 1 - number if crew.descending else number
            if later < off - 0.75 and number < round(off):
                note.change = f"tightens {named}"
            elif later > off + 0.75:
                note.change = "opens"
        usual = 24.0 * crew.per_grade ** (0.35 * c.position)
        size = (c.to_m - c.from_m) / usual
        note.length = "very long" if size > 2.6 else "long" if size > 1.75 else "short" if size < 0.55 else ""
        if rng.random() < crew.extras:
            note.extra = str(rng.choice(EXTRAS))
        notes.append(note)
    for t in road.things:
        inside = next((n for n in notes if n.corner and n.place_from_m - 5 <= t.at_m <= n.place_to_m + 5), None)
        if t.kind != "bump" and t.turns_rad < CALLED_RAD:
            continue
        if inside is not None:
            inside.feature, inside.thing = f"over {t.kind}" if t.kind in ("crest", "bump") else t.kind, t
        else:
            notes.append(Note(feature=t.kind, place_from_m=t.at_m - 5, place_to_m=t.at_m + 5, thing=t))
    notes.sort(key=lambda n: n.place_from_m)
    notes = [Note(feature="start"), *notes, Note(feature="finish", place_from_m=road.finish_m, place_to_m=road.finish_m)]
    book = Book(crew, notes, corners=corners)
    call_gaps(rng, book)
    return book


def call_gaps(rng: np.random.Generator, book: Book) -> None:
    """The distances called, from the end of each to the beginning of the next, rounded to the crew's own numbers."""
    for note, following in pairwise(book.notes):
        metres = (following.place_from_m - note.place_to_m) * book.crew.odometer * rng.normal(1.0, 0.04)
        note.gap = "into" if metres < 14 else str(min(GAPS, key=lambda g: abs(np.log(g / metres))))


def grade_of(crew: Crew, position: float) -> str:
    if crew.words_for_tight and position < -0.2:
        return "hairpin"
    if crew.words_for_tight and position < 0.5:
        return "square"
    if crew.halves:
        thirds = round(position * 3)
        number, rest = (thirds + 1) // 3, thirds - 3 * ((thirds + 1) // 3)
        number, rest = (number, rest) if 1 <= number <= crew.top else (int(np.clip(number, 1, crew.top)), 0)
        return f"{crew.top + 1 - number if crew.descending else number}{'+' if rest > 0 else '-' if rest < 0 else ''}"
    number = int(np.clip(round(position), 1, crew.top))
    return str(crew.top + 1 - number if crew.descending else number)


def plant(rng: np.random.Generator, book: Book, count: int) -> Book:
    """The book with slips, at least three notes apart."""
    crew = book.crew
    notes, slips = [replace(n) for n in book.notes], list[Slip]()
    taken: list[float] = []
    kinds = ["two-too-fast", "one-too-fast", "two-too-slow", "direction", "corner-left-out", "corner-put-in", "tightens-left-out"]
    kinds += ["gap-long", "gap-short", "call-late"]

    def free(fits: list[int]) -> int | None:
        left = [i for i in fits if 3 < i < len(notes) - 3 and all(abs(notes[i].place_from_m - t) > 150 for t in taken)]
        return int(rng.choice(left)) if left else None

    def plain(i: int) -> bool:
        n = notes[i]
        return n.corner is not None and n.grade.rstrip("+-").isdigit() and not n.change and n.corner.turn_deg > 25

    for turn in range(count):
        kind = kinds[turn % len(kinds)]
        fits = [i for i in range(len(notes)) if plain(i)]
        if kind.startswith(("two", "one")):
            step = {"two-too-fast": 2, "one-too-fast": 1, "two-too-slow": -2}[kind]
            # What is honest already too fast or slow isn't made more so.
            fits = [i for i in fits if 1 <= round(position_written(crew, notes[i].grade)) + step <= crew.top]
            fits = [i for i in fits if step < 0 or notes[i].corner.position < crew.top - 1.6]  # type: ignore[union-attr]
            at = free(fits)
            if at is None:
                continue
            n = notes[at]
            number = int(n.grade.rstrip("+-")) + (-step if crew.descending else step)
            n.grade = str(number) + n.grade.lstrip("0123456789")
            slips.append(Slip(kind, ("grade-tighter",) if step > 0 else ("grade-easier",), n.place_from_m, n.place_to_m))
        elif kind == "direction":
            at = free(fits)
            if at is None:
                continue
            n = notes[at]
            n.side = -n.side
            slips.append(Slip(kind, ("direction",), n.place_from_m, n.place_to_m))
        elif kind == "corner-left-out":
            at = free([i for i in fits if notes[i].corner.turn_deg > 32 and notes[i].corner.position < crew.omits - 1.2])  # type: ignore[union-attr]
            if at is None:
                continue
            n, before = notes[at], notes[at - 1]
            metres = (notes[at + 1].place_from_m - before.place_to_m) * crew.odometer
            before.gap = "into" if metres < 14 else str(min(GAPS, key=lambda g: abs(np.log(g / metres))))
            slips.append(Slip(kind, ("corner-uncalled",), n.place_from_m, n.place_to_m))
            del notes[at]
            at -= 1
        elif kind == "corner-put-in":
            at = free([i for i in range(len(notes)) if notes[i].gap.isdigit() and int(notes[i].gap) >= 100])
            if at is None:
                continue
            n = notes[at]
            half = str(min(GAPS, key=lambda g: abs(g - int(n.gap) // 2)))
            middle = 0.5 * (n.place_to_m + notes[at + 1].place_from_m)
            side = int(rng.choice([-1, 1]))
            n.gap = half
            phantom = Note(side, str(int(rng.integers(2, 5))), gap=half, place_from_m=middle - 10, place_to_m=middle + 10)
            notes.insert(at + 1, phantom)
            slips.append(Slip(kind, ("corner-unmet",), middle - 10, middle + 10))
        elif kind == "tightens-left-out":
            at = free([i for i, n in enumerate(notes) if n.change.startswith("tightens")])
            if at is None:
                continue
            n = notes[at]
            n.change = ""
            slips.append(Slip(kind, ("tightens-uncalled", "grade-tighter"), n.place_from_m, n.place_to_m))
        elif kind.startswith("gap"):
            factor = 2.2 if kind == "gap-long" else 0.45
            at = free([i for i in fits if notes[i].gap.isdigit() and 50 <= int(notes[i].gap) <= 180 and notes[i + 1].corner])
            if at is None:
                continue
            n = notes[at]
            n.gap = str(min(GAPS, key=lambda g: abs(g - factor * int(n.gap))))
            name = "distance-shorter" if factor > 1 else "distance-longer"
            slips.append(Slip(kind, (name,), n.place_to_m, notes[at + 1].place_from_m))
        else:
            at = free(fits)
            if at is None:
                continue
            n = notes[at]
            n.lead_s = 0.3
            slips.append(Slip(kind, ("call-late",), n.place_from_m, n.place_to_m))
        taken.append(slips[-1].from_m)
    return Book(crew, notes, sorted(slips, key=lambda s: s.from_m), book.corners)


def spoken(rng: np.random.Generator, book: Book, run: Drive, *, clock_s: float) -> str:
    """The calls as WebVTT on a clock that reads ``clock_s`` more than the recorder's, each as long before its place as this
    co-driver is used to."""
    # A driver leaves a moment behind the word.
    go = run.start_s - float(np.clip(rng.normal(0.3, 0.12), 0.05, 0.7))
    cues, free = [], go + 1.0
    for i, word in enumerate(("five", "four", "three", "two", "one", "go")):
        cues.append((go - 5.0 + i, go - 4.6 + i, word))
    for n in book.notes:
        place = float(np.interp(n.place_from_m, run.road_m, run.time_s)) if n.place_from_m else run.start_s + 1.5
        lead = n.lead_s if n.lead_s is not None else float(np.clip(rng.normal(book.crew.lead_s, 0.45), 1.8, 5.5))
        words = write(book.crew, n)
        begin = max(place - lead, free)
        end = begin + 0.22 * len(words.split()) + 0.15
        cues.append((begin, end, words))
        free = end + 0.03
    out = ["WEBVTT", ""]
    for begin, end, words in cues:
        out += [f"{_stamp(begin + clock_s)} --> {_stamp(end + clock_s)}", words, ""]
    return "\n".join(out)


def _stamp(seconds: float) -> str:
    minutes, rest = divmod(max(seconds, 0.0), 60.0)
    return f"{int(minutes) // 60:02d}:{int(minutes) % 60:02d}:{rest:06.3f}"


def leave_out(rng: np.random.Generator, book: Book, count: int) -> Book:
    """The book without some of its corners, no two of them neighbours; the distances lead over the gap."""
    notes = [replace(n) for n in book.notes]
    slips: list[Slip] = []
    for _ in range(count):
        fits = [
            i
            for i in range(3, len(notes) - 3)
            if (c := notes[i].corner) is not None
            and c.turn_deg > 25
            and c.position < book.crew.omits - 1.0
            and all(abs(notes[i].place_from_m - s.from_m) > 120 for s in slips)
        ]
        if not fits:
            break
        at = int(rng.choice(fits))
        gone, before = notes.pop(at), notes[at - 1]
        metres = (notes[at].place_from_m - before.place_to_m) * book.crew.odometer
        before.gap = "into" if metres < 14 else str(min(GAPS, key=lambda g: abs(np.log(g / metres))))
        slips.append(Slip("corner-left-out", ("corner-uncalled",), gone.place_from_m, gone.place_to_m))
    return Book(book.crew, notes, slips, book.corners)
