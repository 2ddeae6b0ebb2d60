"""What is said in the car beside the notes is pinned to its place on the road."""

from __future__ import annotations

import re
from itertools import pairwise

import numpy as np
import pytest

from mirkle.core.lineup.call_clock import Clock
from mirkle.core.lineup.remarks import remarks_of
from mirkle.core.review import Review
from mirkle.core.speech.reading import SpokenWord
from mirkle.files.project.project import SourceFile
from mirkle.files.project.review_cache import pack_review, unpack_review
from mirkle.session.reviewing import Inputs, review_material
from tests.conftest import CALLS, MORNING, NOTES
from tests.core.test_bends import profile

ROAD = profile(np.zeros(1000))


def said(text: str, at_s: float, role: str) -> list[SpokenWord]:
    """Words a third of a second apart."""
    return [SpokenWord(w, at_s + 0.3 * i, 0.1, role, None, None, 1.0, i) for i, w in enumerate(text.split())]


def test_words_of_one_breath_stand_at_one_place_by_the_tied_clock() -> None:
    clock = Clock(100.0, 0.2, "go")
    at_300, at_500 = (100.0 + float(np.interp(m, ROAD.distance_m, ROAD.time_s)) for m in (300.0, 500.0))
    words = [
        *said("good luck", 60.0, "before"),
        *said("that was close", at_300, "remark"),
        *said("left 4", at_300 + 3.0, "note"),
        *said("mind the stones", at_300 + 4.0, "remark"),
        *said("puncture", at_500, "incident"),
        *said("slowly now", at_500 + 0.4, "remark"),
        *said("the second right wants a three", 100.0 + float(ROAD.time_s[-1]) + 30.0, "after"),
    ]
    found = remarks_of(words, clock, ROAD)
    assert [(r.text, r.incident, r.debrief) for r in found] == [
        ("that was close", False, False),
        ("mind the stones", False, False),
        ("puncture", True, False),
        ("slowly now", False, False),
        ("the second right wants a three", False, True),
    ]
    assert (found[0].at_s, found[-1].at_m) == (at_300, pytest.approx(ROAD.distance_m[-1], abs=0.5))
    assert found[0].at_m == pytest.approx(300.0, abs=0.5)
    assert found[2].at_m == pytest.approx(500.0, abs=0.5)
    assert remarks_of(said("left 4", at_300, "note"), clock, ROAD) == ()


def _begins(cue: str) -> str:
    return re.search(r"[\d:.]+(?= -->)", cue)[0]  # type: ignore[index]


def _stamp(seconds: float) -> str:
    return f"{int(seconds // 3600):02d}:{int(seconds // 60) % 60:02d}:{seconds % 60:06.3f}"


def test_a_remark_in_the_recording_of_the_words_is_found_on_the_road(demo_review: Review) -> None:
    """Put between two calls of the demo, at the moment when the car was in a certain bend; kept with the review."""
    clock, road = demo_review.clock, demo_review.profile
    assert clock is not None
    taken = [c.time for c in demo_review.calls if c.time is not None]
    # A silence of three seconds and more.
    before = next(a for a, b in pairwise(taken[40:]) if b.from_s - a.to_s > 3.0)
    at_s = before.to_s + 0.8
    cue = f"{_stamp(at_s)} --> {_stamp(at_s + 1.4)}\nthat was really close my friend"
    head, *cues = [*CALLS.content.decode().strip().split("\n\n"), cue]
    calls = SourceFile("calls", CALLS.name, "\n\n".join([head, *sorted(cues, key=_begins)]).encode())
    assert demo_review.remarks == () or all("really close" not in r.text for r in demo_review.remarks)
    review = review_material(Inputs(MORNING, NOTES, calls))
    (remark,) = [r for r in review.remarks if "close" in r.text]
    there_m = float(np.interp(at_s - clock.calls_minus_run_s, road.time_s, road.distance_m))
    assert remark.at_m == pytest.approx(there_m, abs=15.0)
    assert not remark.incident
    assert unpack_review(pack_review(review)).remarks == review.remarks
