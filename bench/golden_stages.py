"""One stage, reviewed again and again with one thing changed: its book, its recording, or what a hand has set.

Whole worlds are driven once and written once; what the pairing and the judging do with half a book, an old receiver or a pin is seen here.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import numpy as np

from mirkle.core.overrides import HandPart, HandPin, HandPlace, ManualOverrides
from mirkle.core.recording.model import Channel, Recording
from mirkle.core.review import CrewNotes, Measured, measure_run, review_run
from mirkle.files import demo_files
from mirkle.files.notes.crew_profile import shipped_crew
from mirkle.files.notes.text import parse_notes
from mirkle.files.recordings.readers import parse_run
from mirkle.files.speech.timed_text import parse_calls

Lines = list[str]
Channels = dict[str, Channel]
# The lines of the book that are changed: some that are paired beyond doubt, in the middle of a page.
FIRST, PAGE = 14, 9


def changed_books() -> Any:
    """The pairs, the scale and the findings where the book is another."""
    stage = _Stage()
    measured = measure_run(stage.run)
    return [_figures(name, change(stage.lines), measured, None, ManualOverrides()) for name, change in BOOKS.items()]


def changed_runs() -> Any:
    """The same, and the clock, where the recording is another."""
    stage = _Stage()
    return [
        _figures(name, stage.lines, measure_run(_with(stage.run, change)), stage.calls, ManualOverrides()) for name, change in RUNS.items()
    ]


def set_by_hand() -> Any:
    """The same where a hand has set something."""
    stage = _Stage()
    measured = {start_s: measure_run(stage.run, start_s=start_s) for start_s in {hand.start_s for hand in HANDS.values()}}
    return [_figures(name, stage.lines, measured[hand.start_s], stage.calls, hand) for name, hand in HANDS.items()]


class _Stage:
    """The stage as it is: a short one from the demo."""

    def __init__(self) -> None:
        text = demo_files.demo_file(demo_files.FIRST_BOOK).decode()
        self.lines = [line for line in text.split("\n") if line and not line.startswith("page")]
        self.run = parse_run(demo_files.demo_file(demo_files.FIRST_BOOK_RUN), name="run.csv")
        self.calls = demo_files.demo_file(demo_files.FIRST_BOOK_CALLS)


def _with(run: Recording, change: Callable[[Channels], Channels]) -> Recording:
    return replace(run, channels=change(dict(run.channels)))


def _figures(name: str, lines: Lines, measured: Measured, calls: bytes | None, overrides: ManualOverrides) -> Any:
    book = parse_notes("\n".join(lines).encode(), name="notes.txt")
    speech = parse_calls(calls, name="calls.vtt", book=book) if calls is not None else None
    found = review_run(measured, CrewNotes(book, shipped_crew(), speech), overrides=overrides)
    lineup = found.lineup
    ties = [(t.note, t.bend.apex_m if t.bend else None, t.sure, t.position, t.parts) for t in lineup.ties]
    uncalled = [(u.bend.apex_m, u.position, u.missing, u.whose) for u in lineup.uncalled]
    findings = [(f.id, f.kind, f.severity, f.confidence, f.risk, f.met, f.proposal) for f in found.findings]
    scale = (lineup.grades, lineup.distances, lineup.eased_distances, lineup.gaps, lineup.turned, lineup.cost)
    return name, found.school, found.finish_m, found.clock, found.fit, ties, uncalled, scale, findings


def _numbers_out(lines: Lines) -> Lines:
    return [re.sub(r" \d\d+$", "", line) for line in lines]


def _grades_out(lines: Lines) -> Lines:
    return [re.sub(r"^([LR])\d", r"\1", line) if number % 3 == 0 else line for number, line in enumerate(lines)]


def _turned_over(lines: Lines) -> Lines:
    return [line.translate(str.maketrans("LR", "RL")) for line in lines]


def _exchanged(lines: Lines) -> Lines:
    return [*lines[:FIRST], lines[FIRST + 1], lines[FIRST], *lines[FIRST + 2 :]]


def _tenfold(lines: Lines) -> Lines:
    """Every ninth distance with a zero too many."""
    return [f"{line}0" if number % 9 == 0 and line[-1] == "0" else line for number, line in enumerate(lines)]


def _downwards(lines: Lines) -> Lines:
    """The same book by a crew whose grades count downwards."""
    return [re.sub(r"(\b[LR] ?|[<>])(\d)\b", lambda m: f"{m[1]}{7 - int(m[2])}", line) for line in lines]


BOOKS: dict[str, Callable[[Lines], Lines]] = {
    "no distances": _numbers_out,
    "a third of the grades left out": _grades_out,
    "its second half": lambda lines: lines[len(lines) // 2 :],
    "a page": lambda lines: lines[FIRST : FIRST + 2 * PAGE],
    "a page left out": lambda lines: lines[:FIRST] + lines[FIRST + PAGE :],
    "a page twice": lambda lines: lines[: FIRST + PAGE] + lines[FIRST:],
    "a line left out": lambda lines: lines[:FIRST] + lines[FIRST + 1 :],
    "two lines exchanged": _exchanged,
    "distances tenfold": _tenfold,
    "the other way round": _turned_over,
    "from the end": lambda lines: lines[::-1],
    "counted downwards": _downwards,
}


def _only(*names: str, each: int = 1) -> Callable[[Channels], Channels]:
    def change(channels: Channels) -> Channels:
        return {n: Channel(c.time_s[::each], c.value[::each]) for n, c in channels.items() if n in names}

    return change


def _without(*names: str) -> Callable[[Channels], Channels]:
    return lambda channels: {n: c for n, c in channels.items() if n not in names}


def _lost(first_s: float, last_s: float, *names: str) -> Callable[[Channels], Channels]:
    """Some channels stop for a while."""

    def change(channels: Channels) -> Channels:
        out = dict(channels)
        for name in names:
            kept = (channels[name].time_s < first_s) | (channels[name].time_s > last_s)
            out[name] = Channel(channels[name].time_s[kept], channels[name].value[kept])
        return out

    return change


def _shaken(channels: Channels) -> Channels:
    rng = np.random.default_rng(8)
    upright = channels["acc_z_mps2"]
    return {**channels, "acc_z_mps2": Channel(upright.time_s, upright.value + rng.normal(0.0, 8.0, len(upright.value)))}


PLACE = ("lat_rad", "lon_rad")
RUNS: dict[str, Callable[[Channels], Channels]] = {
    "positions alone": _only(*PLACE),
    "positions, one a second": _only(*PLACE, each=10),
    "positions and speed": _only(*PLACE, "speed_mps"),
    "speed and yaw rate alone": _only("speed_mps", "yaw_rate_radps", "acc_x_mps2"),
    "no vertical": _without("acc_z_mps2"),
    "no yaw rate": _without("yaw_rate_radps", "acc_y_mps2"),
    "ten seconds without a receiver": _lost(100.0, 110.0, *PLACE, "speed_mps", "course_rad"),
    "a minute without anything": _lost(140.0, 200.0, *PLACE, "speed_mps", "course_rad", "yaw_rate_radps", "acc_y_mps2", "acc_x_mps2"),
    "shaken": _shaken,
}
HANDS: dict[str, ManualOverrides] = {
    "nothing": ManualOverrides(),
    "the start": ManualOverrides(start_s=60.0),
    "the finish": ManualOverrides(finish_s=120.0),
    "the clock": ManualOverrides(calls_minus_run_s=4.0),
    "a note on another bend": ManualOverrides(pins=(HandPin(FIRST, HandPlace(None, 1_100.0)),)),
    "a note on no bend": ManualOverrides(pins=(HandPin(FIRST, None), HandPin(FIRST + 6, None))),
    "a part that does not count": ManualOverrides(parts=(HandPart(HandPlace(None, 900.0), HandPlace(None, 1_500.0), "spin"),)),
}
