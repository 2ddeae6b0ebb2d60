"""Rehearsing the changed stage at its coming pace: what is called when, what was practised and what is left."""

from __future__ import annotations

import json
import math
import time
from collections.abc import Callable, Sequence
from dataclasses import asdict, dataclass, replace
from datetime import datetime
from typing import Any, Literal

import numpy as np

from mirkle.core.audio.lengths import syllables_of
from mirkle.core.constants import KMH_PER_MPS
from mirkle.core.errors import MirkleError
from mirkle.core.judging.wording import left_out_by_habit
from mirkle.core.messages import Message, counted
from mirkle.core.notebook.decisions import Addition
from mirkle.core.notes.model import Reading
from mirkle.core.notes.reading import read_notes
from mirkle.core.notes.writing import written_out
from mirkle.core.recording.model import Floats
from mirkle.core.rehearsal.breath import NoBreath, PageTime, TooLittleTime, crowded, dense, page_times, rate_of
from mirkle.core.rehearsal.lines import Line, lines_of, stretches
from mirkle.core.rehearsal.pacing import Pacing, from_book, from_calls, from_review
from mirkle.core.rehearsal.timing import Practised, judged, rehearsed
from mirkle.core.review import Review
from mirkle.session import settings
from mirkle.session.kept_reviews import kept_review
from mirkle.session.open_pass import OpenPass
from mirkle.session.pass_list import driven, inputs_of_pass
from mirkle.session.playback_clock import sound_s
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.signal import Signal
from mirkle.session.video_pass import VideoPass
from mirkle.session.video_watching import moments_of

Way = Literal["read", "call", "listen"]
# A stretch begins this long before its first line is due, and ends this long after its last corner (s).
LEAD_IN_S, RUN_OUT_S = 3.0, 1.5
# The page turns this long before a line is due (s), since a line is read before it is said.
READ_AHEAD_S = 1.0
# A line whose corner came this long ago was not called (s).
GONE_S = 0.5
AVERAGE_KMH, USUAL_KMH = "average_kmh", 80


def pacing_of(stage: OpenPass, kmh: float | None = None) -> Pacing:
    """The coming pace of a stage: by the quickest pass on which this book was read, by the calls of a video, else a set average."""
    lines = lines_of(stage.book.edition)
    if isinstance(stage, ReviewedPass) and kmh is None:
        return from_review(_quickest(stage), lines)
    if kmh is None and not needs_average(stage):
        called_s = np.array([m.from_s for m in moments_of(stage) if m is not None])
        return from_calls(stage.notes, lines, called_s)
    return from_book(stage.notes, lines, (kmh or average_kmh()) / KMH_PER_MPS)


def needs_average(stage: OpenPass) -> bool:
    """Whether neither a recording nor the calls of a video tell how fast the car was."""
    return not isinstance(stage, ReviewedPass) and any(m is None for m in moments_of(stage))


def average_kmh() -> float:
    """The average that the crew set for stages that nobody recorded."""
    kept = settings.setting(AVERAGE_KMH, USUAL_KMH)
    return float(kept) if isinstance(kept, int) and 20 <= kept <= 160 else float(USUAL_KMH)


def _quickest(stage: ReviewedPass) -> Review:
    """The review of the quickest pass that read the same book: this one, or another that was reviewed before."""
    found = [stage.review]
    for one in driven(stage.project):
        same = one.made.notes == stage.this_pass.notes and one.made.id != stage.this_pass.id
        if same and one.made.run is not None:
            kept = kept_review(stage.project, inputs_of_pass(stage.project, one.made))
            found += [kept] if kept is not None else []
    return min(found, key=lambda r: r.finish_s - r.measured.drive.start_s)


class Pacer:
    """Where on the stage's clock one is: seconds from the launch, in step with a clock that never goes back."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock, self._at_s, self._since = clock, 0.0, math.nan

    @property
    def running(self) -> bool:
        """Whether it goes on by itself."""
        return math.isfinite(self._since)

    @property
    def now_s(self) -> float:
        """The moment on the stage's clock."""
        return self.at(self._clock())

    def at(self, clock_s: float) -> float:
        """What the stage's clock read, or will, when the clock beneath it reads a given time."""
        return self._at_s + (clock_s - self._since if self.running else 0.0)

    def go(self, at_s: float | None = None) -> None:
        """Goes on, from a moment if one is given."""
        self._at_s = self.now_s if at_s is None else at_s
        self._since = self._clock()

    def stop(self) -> None:
        """Stays where it is."""
        self._at_s, self._since = self.now_s, math.nan


class Rehearsal:
    """One crew at one stage. The window calls :meth:`tick` as often as it paints; what it paints is asked of here.

    Signals: ``turned`` (another line is to be called now, its number), ``spoken`` (a line is due and read aloud, its number), ``practised``
    (a line was called or missed), ``ended`` (the last stretch is over).
    """

    def __init__(self, stage: OpenPass, *, pacing: Pacing | None = None, clock: Callable[[], float] = time.monotonic) -> None:
        self.stage, self.pacer = stage, Pacer(clock)
        first = moments_of(stage)[0] if isinstance(stage, VideoPass) else None
        self._called_from_s = first.from_s if first is not None else None
        self.pacing = pacing or pacing_of(stage)
        self.turned, self.spoken, self.practised, self.ended = (Signal() for _ in range(4))
        self.way: Way = "read"
        self.pace, self.both = 1.0, False
        self.results: list[Practised] = []
        self.line = 0
        self._changed: dict[str, Reading] = {}
        self._parts: list[range] = []
        self._part = 0
        self._run: int | None = None
        self._next_spoken = 0
        self._measure()
        self.only_changes = any(line.changed for line in self.lines)
        self.line = self.parts[0].start

    @property
    def lines(self) -> Sequence[Line]:
        """The lines of the edition as it stands."""
        return self.pacing.lines

    def _measure(self) -> None:
        """How long each line takes to say, how many words it has, and how it is said in full."""
        stage = self.stage
        spoken = stage.review.spoken if isinstance(stage, ReviewedPass) else stage.spoken if isinstance(stage, VideoPass) else ()
        of_note = syllables_of(stage.reading, stage.language)
        rate = rate_of(spoken, of_note) if spoken else rate_of((), np.zeros(0))
        self._in_full, self._read, syllables = [], [], []
        for line in self.lines:
            if line.changed:
                reading = self._reading_of(line.text)
                notes, count = reading.notes, float(syllables_of(reading, stage.language).sum())
            else:
                # As it stands in the book, which was read already.
                notes, count = stage.reading.notes[slice(*line.notes)], float(of_note[slice(*line.notes)].sum())
            self._read.append(notes)
            said = (written_out(n, stage.language, order=stage.reading.order).text for n in notes)
            self._in_full.append(" ".join(said) or line.text)
            syllables.append(count)
        self.takes_s: Floats = rate.seconds(np.array(syllables))
        self._words = np.array([float(len(t.split())) for t in self._in_full])

    def page_times(self) -> list[PageTime]:
        """What there is to say on each page against the seconds there are, at full pace."""
        review = self.stage.review if isinstance(self.stage, ReviewedPass) else None
        habits = left_out_by_habit(review.notes, review.calls, review.lineup) if review is not None else ()
        pages = {note.index: note.page for note in self.stage.notes}
        # A changed line is read by itself: its page is that of the note that it replaces.
        read = [[replace(note, page=pages[line.notes[0]]) for note in notes] for line, notes in zip(self.lines, self._read, strict=True)]
        return page_times(self.pacing, self.takes_s, self._words, read, habits)

    def condition_of(self, line: int) -> Addition | None:
        """The worst that those ahead reported where a line is called, for this pass; ``None`` where nothing was."""
        found = [self.stage.condition_on_note(note) for note in range(*self.lines[line].notes)]
        return max((one for one in found if one is not None), key=lambda one: one.level, default=None)

    def _reading_of(self, text: str) -> Reading:
        """A changed line as it is read; each is read once, however often something is marked."""
        if text not in self._changed:
            self._changed[text] = read_notes(text, (self.stage.language,), like=self.stage.reading, corners_needed=False)
        return self._changed[text]

    def reload(self) -> None:
        """Takes in what was marked since."""
        self.stop()
        self.pacing = pacing_of(self.stage)
        self._measure()
        self.only_changes = self.only_changes and any(line.changed for line in self.lines)
        self._parts, self.line = [], self.parts[0].start

    @property
    def part_now(self) -> range:
        """The lines of the part that runs."""
        return self._parts[self._part]

    def choose_parts(self, *, only_changes: bool) -> None:
        """The changed places only, or the whole stage."""
        self.stop()
        self.only_changes = only_changes
        self._parts, self.line = [], self.parts[0].start

    def in_full(self, line: int) -> str:
        """A line in full words, as a voice reads it."""
        return self._in_full[line]

    # Going

    @property
    def running(self) -> bool:
        """Whether the stage runs."""
        return self.pacer.running

    @property
    def place_m(self) -> float:
        """Where the car is, or would begin."""
        if not self.lines:
            return 0.0
        if not self._parts:
            return float(self.pacing.at_m[self.line])
        return self.pacing.place_m(self.pacer.now_s, self.pace)

    @property
    def video_s(self) -> float | None:
        """Where the video of this pass is in step with that, seconds into it; ``None`` where nobody knows."""
        stage = self.stage
        if isinstance(stage, ReviewedPass):
            return sound_s(stage, self.place_m)
        if self._called_from_s is None:
            return None
        return self._called_from_s + self.pacer.now_s * self.pace

    @property
    def parts(self) -> list[range]:
        """The lines that are gone through: all, or those about the changes."""
        return (stretches(self.lines) if self.only_changes else []) or [range(len(self.lines))]

    def begin(self, lines: range | None = None) -> None:
        """Begins anew: all parts, or one stretch of lines that is done again.

        Raises
        ------
        MirkleError
            Every note is struck out, or what is practised can't be kept.
        """
        if not self.lines:
            raise MirkleError("there is nothing to call: every note is struck out", mend="undo one of the changes")
        data = {
            "when": datetime.now().astimezone().isoformat(timespec="seconds"),
            "way": self.way,
            "pace": self.pace,
            "both": self.both,
            "notes": self.stage.this_pass.notes,
            "whole": lines is None and not self.only_changes,
        }
        self._run = self.stage.project.add_practice(None, json.dumps(data))
        self._parts, self._part, self.results = [lines] if lines is not None else self.parts, 0, []
        self._enter()

    def _enter(self) -> None:
        part = self.part_now
        self.line = self._next_spoken = part.start
        begins = float(self.pacing.due_s(self.pace)[part.start]) - LEAD_IN_S
        self.pacer.go(begins)
        self.turned.emit(self.line)

    def set_pace(self, pace: float) -> None:
        """Another pace, from this place on."""
        at_s, running = self.pacer.now_s * self.pace / pace, self.running
        self.pace = pace
        if running:
            self.pacer.go(at_s)

    def go_on(self) -> None:
        """Goes on where it was stopped, or begins."""
        if self._run is None or not self._parts:
            self.begin()
        else:
            self.pacer.go()

    def stop(self) -> None:
        """Stops where it is."""
        self.pacer.stop()

    def tick(self) -> None:
        """Does what is due by now: turns the page, speaks, and notes what was not called."""
        if not self.running:
            return
        now, part = self.pacer.now_s, self.part_now
        due = self.pacing.due_s(self.pace)
        if self.way == "call":
            while self.line < part.stop and now > self.pacing.corner_s[self.line] / self.pace + GONE_S:
                self._note(math.nan)
        else:
            self._turn(part, due, now)
        while self._next_spoken < part.stop and now >= due[self._next_spoken]:
            self._next_spoken += 1
            if self.way == "listen":
                self.spoken.emit(self._next_spoken - 1)
        if now >= self.pacing.corner_s[part.stop - 1] / self.pace + RUN_OUT_S:
            self._leave()

    @property
    def next_due_s(self) -> float:
        """Seconds until the next line is to be spoken or the page turns; infinite where neither comes any more."""
        if not self.running:
            return math.inf
        due, end = self.pacing.due_s(self.pace), self.part_now.stop
        comes = [due[self._next_spoken]] if self._next_spoken < end else []
        if self.way != "call" and self.line + 1 < end:
            comes.append(due[self.line + 1] - READ_AHEAD_S)
        return float(min(comes) - self.pacer.now_s) if comes else math.inf

    def _turn(self, part: range, due: Floats, now: float) -> None:
        line = self.line
        while line + 1 < part.stop and now >= due[line + 1] - READ_AHEAD_S:
            line += 1
        if line != self.line:
            self.line = line
            self.turned.emit(line)

    def _leave(self) -> None:
        if self._part + 1 < len(self._parts):
            self._part += 1
            self._enter()
            return
        self.stop()
        self._parts = []
        self.ended.emit()

    def call(self, clock_s: float | None = None) -> None:
        """The co-driver calls the next line; ``clock_s`` is when, on the clock beneath the stage's, where that was not now."""
        if self.running and self.way == "call" and self.line < self.part_now.stop:
            self._note(self.pacer.now_s if clock_s is None else self.pacer.at(clock_s))

    def _note(self, at_s: float) -> None:
        one = judged(self.pacing, self.line, at_s, self.pace)
        self.results.append(one)
        try:
            data = asdict(one) | {"late_s": _or_none(one.late_s), "late_m": _or_none(one.late_m)}
            self.stage.project.add_practice(self._run, json.dumps(data))
        except MirkleError:
            # Read only, or no room: it is practised all the same.
            pass
        self.line += 1
        self.practised.emit(one)
        self.turned.emit(min(self.line, self.part_now.stop - 1))

    # What it comes to

    @property
    def crowded(self) -> list[TooLittleTime]:
        """The lines that can't be said before the next is due."""
        return crowded(self.pacing, self.takes_s, self._read, self.pace)

    @property
    def dense(self) -> list[NoBreath]:
        """The stretches with hardly time to breathe."""
        return dense(self.pacing, self.takes_s, self._words, self.pace)


@dataclass(frozen=True)
class Run:
    """A practised run: when, how, at which pace, whether both were there, and how many lines were called how."""

    when: str
    way: str
    pace: float
    both: bool
    notes: int | None
    calls: tuple[tuple[str, str], ...]

    def count(self, verdict: str) -> int:
        """How many lines were called so."""
        return sum(v == verdict for _, v in self.calls)


def history(stage: OpenPass) -> list[Run]:
    """What was practised on a stage, the latest first; what can't be read is left out."""
    heads: dict[int, dict[str, Any]] = {}
    calls: dict[int, list[tuple[str, str]]] = {}
    for run, body in stage.project.practised():
        try:
            data = json.loads(body)
        except (ValueError, RecursionError):
            continue
        if not isinstance(data, dict):
            continue
        if "when" in data:
            heads[run] = data
        elif "change" in data and "verdict" in data:
            calls.setdefault(run, []).append((str(data["change"]), str(data["verdict"])))
    out = []
    for run, data in heads.items():
        pace, notes = data.get("pace"), data.get("notes")
        out.append(
            Run(
                str(data["when"]),
                str(data.get("way", "")),
                float(pace) if isinstance(pace, int | float) and 0.1 <= pace <= 10.0 else 1.0,
                data.get("both") is True,
                notes if isinstance(notes, int) else None,
                tuple(calls.get(run, ())),
            )
        )
    return out[::-1]


class Practice:
    """What was practised of a stage's changes, read once: ``runs``, the latest first, and what they add up to."""

    def __init__(self, stage: OpenPass) -> None:
        self.runs = history(stage)
        self._notes = stage.this_pass.notes
        self._changed = [line for line in lines_of(stage.book.edition) if line.changed]

    def rehearsed(self, *, both: bool = False) -> frozenset[str]:
        """The changes to this book that were called in time often enough, on runs at which ``both`` were there if wanted."""
        runs = [r for r in self.runs if r.notes == self._notes and (r.both or not both)]
        return rehearsed(call for run in runs for call in run.calls)  # type: ignore[misc]

    def left(self, *, both: bool = False) -> int:
        """How many changes have a line that is not rehearsed yet, or not with ``both`` there."""
        done = self.rehearsed(both=both)
        return len({x.notes for x in self._changed if x.change not in done})

    @property
    def notes_done(self) -> frozenset[int]:
        """The first notes of the changes that are rehearsed, every line of them."""
        done = self.rehearsed()
        return frozenset(x.note for x in self._changed) - {x.note for x in self._changed if x.change not in done}


def left_words(count: int) -> Message:
    """A warning that changes are not rehearsed yet."""
    return counted("1 change is not rehearsed yet", "{0} changes are not rehearsed yet", count)


def _or_none(value: float) -> float | None:
    return round(value, 3) if math.isfinite(value) else None
