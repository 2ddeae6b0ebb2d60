"""A stand-in for the crew: notes written for a road with its own scatter and rounding, slips planted, calls spoken."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from mirkle.files.speech.timed_text import webvtt_time
from mirkle.synthetic.car import Drive, Jump
from mirkle.synthetic.recogniser import MISHEARD
from mirkle.synthetic.road import PER_GRADE, TIGHTEST_M, TrueCorner, TrueFeature, TrueRoad

CALLED_M = [20, 30, 40, 50, 60, 70, 80, 100, 120, 150, 180, 200, 250, 300, 350, 400]
ODOMETER = 0.985
SAID = {
    "R": "right",
    "L": "left",
    "hp": "hairpin",
    "sq": "square",
    ">": "tightens",
    "<": "opens",
    "cr": "crest",
    "/": "over",
    "caut": "caution",
    "dc": "don't cut",
    "jn": "junction",
}


@dataclass
class WrittenNote:
    """One note of the stand-in crew; ``after`` is what a wordy one writes behind the rest; ``corner`` or ``feature`` is what it stands for,
    ``None`` for a slip."""

    side: int = 0
    grade: str = ""
    length: str = ""
    change: str = ""
    extra: str = ""
    after: str = ""
    feature: str = ""
    gap: str = ""
    corner: TrueCorner | None = None
    seen: TrueFeature | None = None
    said: str = ""
    lead_s: float | None = None

    @property
    def text(self) -> str:
        """The note in this crew's short-hand."""
        if self.side:
            way = "L" if self.side > 0 else "R"
            head = f"{way}{self.grade}" if self.grade.isdigit() else f"{way} {self.grade}"
            return " ".join(p for p in (head, self.length, self.change, self.extra, self.after, self.feature, self.gap) if p)
        return " ".join(p for p in (self.feature, self.gap) if p)


@dataclass(frozen=True)
class Planted:
    """A slip put into the notes or the calls: the kinds of finding it should raise, and where."""

    slip: str
    kinds: tuple[str, ...]
    note: int
    from_m: float
    to_m: float


@dataclass
class SyntheticNotes:
    """The stand-in crew's notes and what was planted in them."""

    notes: list[WrittenNote]
    planted: list[Planted] = field(default_factory=list)

    def lines(self, *, lines_a_page: int = 14) -> str:
        """The notes as text, a note a line, with a line that names each page."""
        out = []
        for i, note in enumerate(self.notes):
            if i % lines_a_page == 0:
                out.append(f"page {i // lines_a_page + 1}")
            out.append(note.text)
        return "\n".join(out) + "\n"


def position_of(corner: TrueCorner) -> float:
    """Where a corner lies on the crew's scale, without its noise."""
    return float(1.0 + np.log(corner.radius_m / TIGHTEST_M) / np.log(PER_GRADE))


def write_book(rng: np.random.Generator, road: TrueRoad, *, scatter: float = 0.16, lefts: float = 0.0) -> SyntheticNotes:
    """Honest notes for the whole road: grades with a ``scatter`` in grades, distances rounded to the crew's own numbers. ``lefts`` is a
    habit: by how many grades left corners are written easier than they are."""
    notes = [WrittenNote(feature="start", gap=_called(rng, road.corners[0].from_m))]
    features = list(road.features)
    for corner, following in zip(road.corners, [*road.corners[1:], None], strict=True):
        note = _corner_note(rng, corner, scatter, lefts if corner.side > 0 else 0.0)
        end = following.from_m if following else road.finish_m
        inside = [f for f in features if corner.to_m < f.at_m < end]
        notes.append(note)
        last_at = corner.to_m
        for feature in inside:
            notes[-1].gap = _called(rng, feature.at_m - last_at)
            notes.append(WrittenNote(feature={"crest": "crest"}.get(feature.kind, feature.kind), seen=feature))
            last_at = feature.at_m
        notes[-1].gap = _called(rng, end - last_at)
    notes.append(WrittenNote(feature="finish"))
    return SyntheticNotes(notes)


def _called(rng: np.random.Generator, metres: float) -> str:
    if metres < 14:
        return "into"
    by_odometer = metres * ODOMETER * rng.normal(1.0, 0.03)
    return str(min(CALLED_M, key=lambda c: abs(c - by_odometer)))


def _corner_note(rng: np.random.Generator, corner: TrueCorner, scatter: float, easier: float) -> WrittenNote:
    note = WrittenNote(side=corner.side, corner=corner)
    number = int(np.clip(np.rint(position_of(corner) + easier + rng.normal(0, scatter)), 1, 6))
    note.grade = {"hairpin": "hp", "square": "sq"}.get(corner.word, str(number))
    if corner.end_radius_m != corner.radius_m:
        step = -1 if corner.end_radius_m < corner.radius_m else 1
        note.change = f"{'>' if step < 0 else '<'}{int(np.clip(number + step, 1, 6))}"
    length = corner.to_m - corner.from_m
    usual = 26.0 * 1.16 ** position_of(corner)
    if length > 1.9 * usual:
        note.length = "very long"
    elif length > 1.35 * usual:
        note.length = "long"
    elif length < 0.5 * usual and not corner.word:
        note.length = "short"
    if corner.word == "square":
        note.extra = "at jn"
    elif rng.random() < 0.05:
        note.extra = str(rng.choice(["dc", "rocks inside", "ditch outside", "caut", "keep in"]))
    return note


def spoken(rng: np.random.Generator, book: SyntheticNotes, run: Drive, *, clock_s: float, damage: float) -> str:
    """The calls of one pass as WebVTT, on a clock that reads ``clock_s`` more than the recorder's.

    ``damage`` is the share of words that the recogniser mishears.
    """
    cues = []
    at = run.start_s - 9.0
    for number in ("five", "four", "three", "two", "one", "go"):
        cues.append((at + 4.0, at + 4.6, number))
        at += 1.0
    free = run.start_s - 3.0
    for note in book.notes:
        place = _place(note, run)
        lead = note.lead_s if note.lead_s is not None else float(np.clip(rng.normal(3.1, 0.35), 2.2, 4.2))
        words = _with_after(note, _misheard(rng, note.said or say(replace(note, after="")), damage))
        said = max(place - lead, free)
        length = 0.26 * len(words.split()) + 0.2
        cues.append((said, said + length, words))
        free = said + length + 0.05
    out = ["WEBVTT", ""]
    for first, last, words in cues:
        out += [f"{webvtt_time(first + clock_s)} --> {webvtt_time(last + clock_s)}", words, ""]
    return "\n".join(out)


def _with_after(note: WrittenNote, words: str) -> str:
    """What is said of a note with the words behind it in their place, ahead of its distance."""
    if not note.after:
        return words
    head, _, gap = words.rpartition(" ")
    return f"{head} {_said_in_full(note.after)} {gap}"


def _misheard(rng: np.random.Generator, words: str, damage: float) -> str:
    heard = MISHEARD["en"]
    return " ".join(str(rng.choice(heard[w])) if w in heard and rng.random() < damage else w for w in words.split())


def _place(note: WrittenNote, run: Drive) -> float:
    metres = note.corner.from_m if note.corner else note.seen.at_m if note.seen else None
    if metres is None:
        return run.finish_s if note.feature == "finish" else run.start_s + 1.0
    return float(np.interp(metres, run.distance_m, run.time_s))


def say(note: WrittenNote) -> str:
    """A note as it is spoken."""
    text = note.text.replace("R", "R ").replace("L", "L ").replace(">", "> ").replace("<", "< ").replace("/", "/ ")
    return _said_in_full(text)


def _said_in_full(text: str) -> str:
    return " ".join(SAID.get(word, word) for word in text.split())


def plant_slips(rng: np.random.Generator, book: SyntheticNotes, jumps: Sequence[Jump] = ()) -> SyntheticNotes:
    """The book with slips of every kind the trade knows, far enough apart to be told from each other.

    ``jumps`` are the flights of the pass: only what flew can be a jump that the book leaves out.
    """
    return _Planter(rng, book, jumps).plant()


def plant_few_slips(rng: np.random.Generator, book: SyntheticNotes) -> SyntheticNotes:
    """The book of a short stage with two slips: a grade two too fast and a wrong side."""
    return _Planter(rng, book, ()).plant_few()


class _Planter:
    """Puts slips into a book, each on a note of its own with two honest notes between."""

    def __init__(self, rng: np.random.Generator, book: SyntheticNotes, jumps: Sequence[Jump]) -> None:
        self.rng, self.jumps = rng, jumps
        self.notes = [replace(n) for n in book.notes]
        self.planted: list[tuple[str, tuple[str, ...], WrittenNote]] = []
        self.taken: set[int] = set()

    def plant(self) -> SyntheticNotes:
        # The rarest first, while there is room for them.
        for kind in ("crest", "jump", "bump", "dip"):
            self._feature_left_out(kind)
        self._feature_maybe()
        self._call_early()
        self._length_left_out()
        self._left_out("tightens-left-out", ">", "tightens-uncalled")
        self._left_out("opens-left-out", "<", "opens-uncalled")
        for _ in range(2):
            self._corner_put_in()
            self._corner_left_out()
            self._direction()
            self._distance("distance-too-long", 2.3, "distance-shorter")
            self._distance("distance-too-short", 0.42, "distance-longer")
            self._grade("grade-two-too-fast", 2, "grade-tighter")
            self._grade("grade-one-too-fast", 1, "grade-tighter", exact=True)
            self._grade("grade-two-too-slow", -2, "grade-easier")
        self._put_in("tightens-that-does-not", "change", "tightens-unmet")
        self._put_in("length-that-is-not", "length", "length-shorter")
        self._words()
        return self._book()

    def plant_few(self) -> SyntheticNotes:
        """Two slips, for a book that has no room for more."""
        self._grade("grade-two-too-fast", 2, "grade-tighter")
        self._direction()
        return self._book()

    def _met(self, feature: TrueFeature) -> bool:
        """Whether the car met a feature as what it is; a jump that nobody flew is none."""
        return feature.kind != "jump" or any(abs(j.from_m - feature.at_m) < 5 for j in self.jumps)

    def _free(self, fits: list[int]) -> int:
        """A note among those that fit, away from slips already there."""
        left = [i for i in fits if all(abs(i - t) > 2 for t in self.taken) and 6 < i < len(self.notes) - 6]
        pick = int(self.rng.choice(left))
        self.taken.add(pick)
        return pick

    def _corners(self) -> list[int]:
        return [i for i, n in enumerate(self.notes) if n.corner is not None and n.side]

    def _plain(self) -> list[int]:
        """Corners with a number, one radius, and clear turn, between gaps that are numbers."""
        out = []
        for i in self._corners():
            n, before = self.notes[i], self.notes[i - 1]
            c = n.corner
            assert c is not None
            if n.grade.isdigit() and not n.change and c.turn_deg > 26 and n.gap.isdigit() and before.gap.isdigit():
                out.append(i)
        return out

    def _note(self, slip: str, kinds: tuple[str, ...], note: WrittenNote) -> None:
        self.planted.append((slip, kinds, note))

    def _grade(self, slip: str, step: int, kind: str, *, exact: bool = False) -> None:
        fits = []
        for i in self._plain():
            n = self.notes[i]
            c = n.corner
            assert c is not None
            honest = position_of(c)
            # A slip of one grade is a whole grade only where rounding did not hide half of it.
            close = not exact or int(n.grade) - honest > 0.0
            if 1 <= int(n.grade) + step <= 6 and close and (step < 0 or honest < 4.2):
                fits.append(i)
        note = self.notes[self._free(fits)]
        note.grade = str(int(note.grade) + step)
        self._note(slip, (kind,), note)

    def _direction(self) -> None:
        note = self.notes[self._free([i for i in self._plain() if int(self.notes[i].grade) < 6])]
        note.side = -note.side
        self._note("wrong-direction", ("direction",), note)

    def _distance(self, slip: str, factor: float, kind: str) -> None:
        fits = []
        for i in self._corners():
            n = self.notes[i]
            both = self.notes[i + 1].corner is not None
            if both and n.gap.isdigit() and (60 <= int(n.gap) <= 180 if factor < 1 else 50 <= int(n.gap) <= 120):
                fits.append(i)
        note = self.notes[self._free(fits)]
        note.gap = str(min(CALLED_M, key=lambda c: abs(c - factor * int(note.gap))))
        self._note(slip, (kind,), note)

    def _left_out(self, slip: str, sign: str, kind: str) -> None:
        note = self.notes[self._free([i for i in self._corners() if self.notes[i].change.startswith(sign)])]
        note.change = ""
        self._note(slip, (kind, "grade-tighter") if sign == ">" else (kind,), note)

    def _put_in(self, slip: str, what: str, kind: str) -> None:
        note = self.notes[self._free([i for i in self._plain() if int(self.notes[i].grade) > 2 and not self.notes[i].length])]
        setattr(note, what, f">{int(note.grade) - 1}" if what == "change" else "very long")
        self._note(slip, (kind,), note)

    def _length_left_out(self) -> None:
        note = self.notes[self._free([i for i in self._corners() if self.notes[i].length == "very long"])]
        note.length = ""
        self._note("length-left-out", ("length-longer",), note)

    def _feature_left_out(self, kind: str) -> None:
        fits = [i for i, n in enumerate(self.notes) if n.seen is not None and n.seen.kind == kind and self._met(n.seen)]
        at = self._free(fits)
        gone, before = self.notes[at], self.notes[at - 1]
        before.gap = _summed(before.gap, gone.gap)
        self.taken = {t - (t > at) for t in self.taken}
        del self.notes[at]
        self._note(f"{kind}-left-out", (f"{kind}-uncalled",), gone)

    def _feature_maybe(self) -> None:
        note = self.notes[self._free([i for i, n in enumerate(self.notes) if n.seen is not None and n.seen.kind == "jump"])]
        note.feature = "jump maybe"
        self._note("jump-maybe", ("maybe-settled",), note)

    def _call_early(self) -> None:
        # Only where nothing else has to be said before can a call come much too early.
        note = self.notes[self._free([i for i in self._plain() if int(self.notes[i - 1].gap) >= 180])]
        note.lead_s = 9.0
        self._note("call-early", ("call-early",), note)

    def _words(self) -> None:
        for _ in range(2):
            note = self.notes[self._free(self._plain())]
            note.lead_s = 0.7
            self._note("call-late", ("call-late",), note)
        note = self.notes[self._free([i for i in self._plain() if self.notes[i].grade in "345"])]
        note.said = say(replace(note, grade=str(int(note.grade) + 1)))
        self._note("said-otherwise", ("said-otherwise",), note)

    def _corner_left_out(self) -> None:
        fits = []
        for i in self._plain():
            before, c, after = self.notes[i - 1].corner, self.notes[i].corner, self.notes[i + 1].corner
            assert c is not None
            alone = before is not None and after is not None and before.side != c.side != after.side
            if alone and c.turn_deg > 34 and int(self.notes[i].grade) <= 4:
                fits.append(i)
        at = self._free(fits)
        gone, before_note = self.notes[at], self.notes[at - 1]
        corner = gone.corner
        assert corner is not None
        before_note.gap = _summed(before_note.gap, gone.gap, corner.to_m - corner.from_m)
        self.taken = {t - (t > at) for t in self.taken}
        del self.notes[at]
        self._note("corner-left-out", ("corner-uncalled",), gone)

    def _corner_put_in(self) -> None:
        fits = [
            i
            for i in self._corners()
            if self.notes[i].gap.isdigit() and int(self.notes[i].gap) >= 150 and self.notes[i + 1].corner is not None
        ]
        at = self._free(fits)
        before = self.notes[at]
        half = int(before.gap) // 2
        near = min(CALLED_M, key=lambda c: abs(c - half + 15))
        before.gap = str(near)
        corner = before.corner
        assert corner is not None
        place = corner.to_m + half
        phantom = WrittenNote(side=-before.side, grade="3", gap=str(near))
        phantom.corner = TrueCorner(place - 10, place + 10, phantom.side, 40.0, 40.0, 0.0, "")
        self.taken = {t + (t > at) for t in self.taken} | {at + 1}
        self.notes.insert(at + 1, phantom)
        self._note("corner-put-in", ("corner-unmet",), phantom)

    def _book(self) -> SyntheticNotes:
        planted = []
        for slip, kinds, note in self.planted:
            index = next((i for i, n in enumerate(self.notes) if n is note), None)
            first, last = _extent(note)
            if index is None:
                places = [(i, _extent(n)[0]) for i, n in enumerate(self.notes) if n.corner or n.seen]
                index = max((i for i, at in places if at < first), default=0)
            elif slip.startswith("distance"):
                first, last = last, _extent(self.notes[index + 1])[0]
            planted.append(Planted(slip, kinds, index, round(first, 1), round(last, 1)))
        return SyntheticNotes(self.notes, sorted(planted, key=lambda p: p.from_m))


def _extent(note: WrittenNote) -> tuple[float, float]:
    if note.corner is not None:
        return note.corner.from_m, note.corner.to_m
    if note.seen is not None:
        return note.seen.at_m - 5.0, note.seen.at_m + 5.0
    return 0.0, 1.0


def _summed(first: str, second: str, between_m: float = 0.0) -> str:
    metres = between_m + sum(int(g) if g.isdigit() else 10 for g in (first, second))
    return str(min(CALLED_M, key=lambda c: abs(c - metres)))
