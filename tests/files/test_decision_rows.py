"""Decisions in the log of a project file: every kind comes back as it was, and what nobody knows yet is kept."""

from __future__ import annotations

import json
from typing import Any

import pytest

from mirkle.core.notebook.decisions import (
    Addition,
    CallTap,
    ChangeAnswer,
    CopyTick,
    Decision,
    FindingAnswer,
    NoteChange,
    NotePlace,
    Observation,
    PassChange,
    Removal,
    RoadPlace,
    UnknownDecision,
)
from mirkle.core.notebook.passes import Pass
from mirkle.files.project.decision_rows import TYPES, decision_of, row_of, row_of_format_4

NOTES, ROAD = NotePlace(4, 5, "L4 80\nR3 /cr", 31), RoadPlace(2, 900.0, 940.5, 61.2, 63.9)
OF_EVERY_KIND: list[Decision] = [
    NoteChange(key="a", notes=NOTES, road=ROAD, text="L3 80", finding_kind="grade-tighter", by="both", remark="at the gate"),
    NoteChange(key="b", notes=NOTES, text="", seen="tighter"),
    FindingAnswer(key="c", notes=NOTES, road=ROAD, answer="video", finding_kind="crest-unmet", extra={"mood": ["new", 1]}),
    Observation(key="d", notes=NotePlace(3, 3), seen="longer", answer="talk"),
    ChangeAnswer(key="e", notes=NOTES, about="kept", answer="keep"),
    Addition(key="f", road=RoadPlace(1, 10.0, 20.0), kind="condition", words="ice in the shade"),
    Addition(key="g", notes=NOTES, kind="hazard", words="stone", seen="hazard"),
    CallTap(key="h", notes=NOTES, of_pass=2, sound_s=61.25),
    CopyTick(key="i", notes=NOTES, copied=True, text="L3 80"),
    PassChange(key="j", before=Pass(1, 2, 3), after=Pass(1, 2, 3, calls=7, day="Friday", extra={"since": "noon"})),
    Removal(key="k", road=ROAD, words="stone"),
]


def test_every_kind_comes_back_as_it_was() -> None:
    assert {type(d) for d in OF_EVERY_KIND} == set(TYPES.values())
    for decision in OF_EVERY_KIND:
        assert decision_of(json.loads(json.dumps(row_of(decision)))) == decision


@pytest.mark.parametrize(
    "row",
    [
        {"type": "weather", "key": "x", "rain": True, "notes": {"page": 3}},
        {"type": "finding-answer", "key": "x", "answer": "sleep-on-it"},
        {"type": "addition", "key": "x", "kind": "parking", "words": "behind the barn"},
    ],
)
def test_what_only_a_newer_program_knows_is_kept_as_it_came(row: dict[str, Any]) -> None:
    decision = decision_of(row)
    assert isinstance(decision, UnknownDecision)
    assert row_of(decision) == row


@pytest.mark.parametrize(
    "change",
    [
        {"text": 3},
        {"notes": {"first": 1.5, "last": 2}},
        {"notes": None},
        {"notes": [4, 5]},
        {"remark": None},
        {"key": None},
        {"road": {"of_pass": 1, "from_m": float("nan"), "to_m": 3.0}},
        {"road": {"of_pass": True, "from_m": 2.0, "to_m": 3.0}},
        {"road": {"of_pass": 1, "from_m": "2", "to_m": 3.0}},
    ],
)
def test_what_is_of_another_kind_is_refused(change: dict[str, Any]) -> None:
    with pytest.raises(ValueError, match=r"is no |no object|unexpected|missing|no key"):
        decision_of(row_of(OF_EVERY_KIND[0]) | change)


OLD = {"first_note": -1, "last_note": -1, "text": "", "by": "", "remark": "", "from_m": -1.0, "to_m": -1.0, "seen": ""}
PLACED = {"first_note": 4, "last_note": 5, "old": "L4 80\nR3 /cr", "at": 31}
STRETCH = {"from_m": 900.0, "to_m": 940.5, "of_pass": 2, "from_s": 61.2, "to_s": 63.9}
PASS_WAS, PASS_IS = (
    '{"run": 2, "notes": 3, "calls": null, "kind": "first", "day": ""}',
    '{"run": 2, "notes": 3, "calls": 7, "since": "noon", "day": "Friday"}',
)


@pytest.mark.parametrize(
    ("old", "now"),
    [
        (
            {
                "finding": "a",
                "answer": "mark",
                "text": "L3 80",
                "kind": "grade-tighter",
                "by": "both",
                "remark": "at the gate",
                **PLACED,
                **STRETCH,
            },
            OF_EVERY_KIND[0],
        ),
        ({"finding": "c", "answer": "video", "kind": "crest-unmet", "mood": ["new", 1], **PLACED, **STRETCH}, OF_EVERY_KIND[2]),
        ({"finding": "jump@99", "answer": "keep"}, FindingAnswer(key="jump@99", answer="keep")),
        (
            {"finding": "seen@3", "answer": "talk", "first_note": 3, "last_note": 3, "seen": "longer"},
            Observation(key="seen@3", notes=NotePlace(3, 3), seen="longer", answer="talk"),
        ),
        ({"finding": "kept@40", "answer": "talk"}, ChangeAnswer(key="kept@40", notes=NotePlace(40, 40), about="kept", answer="talk")),
        (
            {"finding": "hazard@9-1", "answer": "hazard", "text": "stones", "from_m": 9.0, "to_m": 9.0},
            Addition(key="hazard@9-1", road=RoadPlace(0, 9.0, 9.0), kind="hazard", words="stones"),
        ),
        (
            {"finding": "moment@2-7", "answer": "moment", "first_note": 7, "last_note": 7, "text": "61.25"},
            CallTap(key="moment@2-7", notes=NotePlace(7, 7), of_pass=2, sound_s=61.25),
        ),
        (
            {"finding": "copied@4-5", "answer": "not-copied", "text": "L3 80"},
            CopyTick(key="copied@4-5", notes=NotePlace(4, 5), copied=False, text="L3 80"),
        ),
        (
            {"finding": "pass@1", "answer": "pass", "text": PASS_IS, "remark": PASS_WAS},
            PassChange(key="pass@1", before=OF_EVERY_KIND[9].before, after=OF_EVERY_KIND[9].after),
        ),
        ({"finding": "k", "answer": "gone", "text": "stone", **STRETCH}, OF_EVERY_KIND[10]),
        ({"finding": "z", "answer": "postpone"}, UnknownDecision(key="z", type="postpone")),
    ],
)
def test_a_decision_of_an_old_format_says_the_same(old: dict[str, Any], now: Decision) -> None:
    assert decision_of(row_of_format_4(OLD | old)) == now
