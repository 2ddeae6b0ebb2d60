"""Was the change right? On a made pair of passes whose truth is known, and on books that differ in known ways."""

from __future__ import annotations

import sys
from dataclasses import replace
from functools import cache
from pathlib import Path

import numpy as np
import pytest

from mirkle.core.followup.changes import ChangeReview, aspects_of, changed_blocks, compare_passes
from mirkle.core.followup.gained import AHEAD_M, BEHIND_M, Gained, gained
from mirkle.core.joint.same_road import SameRoad
from mirkle.core.lineup.call_records import CallRecord
from mirkle.core.notes.reading import read_notes
from mirkle.core.review import Review
from mirkle.files.export.passes_json import passes_json
from mirkle.files.notes.languages import shipped_languages

sys.path.insert(0, str(Path(__file__).parents[2] / "bench"))

# A dry pair and a wet one, of the numbers that may be opened.
DRY, WET = 204, 203
NEAR_M = 40.0


@cache
def driven(number: int) -> tuple[object, Review, Review, ChangeReview]:
    from rough.pairs import pair, reviews_of

    p = pair(number)
    earlier, later = reviews_of(p, number, "usual logger")
    return p, earlier, later, compare_passes(earlier, later)


def notes_of(text: str):  # type: ignore[no-untyped-def]
    return read_notes(text, shipped_languages()).notes


def test_verdicts_are_mostly_right_and_say_when_they_can_t_tell() -> None:
    told = []
    for number in (DRY, WET):
        p, earlier, _, found = driven(number)
        run = p.runs[0]  # type: ignore[attr-defined]
        for change in p.changed:  # type: ignore[attr-defined]
            rows = found.changes if change.old != change.new else found.kept
            lies = [float(np.interp(earlier.profile.seconds_at(r.from_m), run.time_s, run.road_m)) for r in rows]
            off, row = min(zip((abs(at - change.from_m) for at in lies), rows, strict=True), key=lambda o: o[0])
            if change.old != change.new:
                assert off < NEAR_M
                assert change.old in row.old.split()
                assert change.new in row.new.split()
            if off < NEAR_M:
                told.append((row.verdict, change.verdict))
    said = [(a, b) for a, b in told if a != "cant-tell"]
    assert len(said) > 0.7 * len(told)
    assert sum(a == b for a, b in said) >= 0.85 * len(said)
    assert {a for a, _ in said} == {"fits", "too-fast", "too-slow"}


def test_wet_and_dry_do_not_compare_by_the_clock() -> None:
    *_, dry = driven(DRY)
    *_, wet = driven(WET)
    assert dry.comparable
    assert sum(c.gain is not None for c in dry.changes) > 0.8 * len(dry.changes)
    assert not wet.comparable
    assert all(c.gain is None and "don't compare by the clock" in c.why for c in wet.changes)


def test_a_pass_against_itself_changed_nothing_and_gained_nothing() -> None:
    _, earlier, _, _ = driven(DRY)
    same = compare_passes(earlier, earlier)
    assert same.changes == ()
    assert same.gained is not None
    assert np.abs(same.gained.seconds).max() < 0.1
    # What was kept although it was found wrong is found wrong again.
    grave = {f.note for f in earlier.findings if f.kind == "grade-tighter" and f.severity == "danger"}
    assert grave
    assert {k.note: k.verdict for k in same.kept if k.note in grave} == dict.fromkeys(grave, "too-fast")


def test_what_was_said_of_a_change_is_told() -> None:
    _, earlier, later, found = driven(DRY)
    assert {c.said for c in found.changes} <= {"new", "otherwise", "not-said"}
    assert sum(c.said == "new" for c in found.changes) > 0.8 * len(found.changes)
    # The words of the earlier pass, which read the old book, on the later one.
    old = [call.said for call in earlier.calls]
    said = [old[min(n, len(old) - 1)] for n in range(len(later.calls))]
    calls = (replace(c, how=replace(c.how, said_as="otherwise"), said=s) for c, s in zip(later.calls, said, strict=True))
    parroted = replace(later, calls=tuple(calls))
    olds = compare_passes(earlier, parroted).changes
    assert sum(c.said == "old" for c in olds) > 0.8 * len(olds)
    assert {c.said for c in compare_passes(earlier, replace(later, calls=(CallRecord(),) * len(later.notes))).changes} == {None}


def test_seconds_at_a_place_are_those_beyond_what_the_pass_gained_elsewhere() -> None:
    """A pass that is a tenth quicker everywhere, and two seconds more at one place."""
    _, earlier, _, _ = driven(DRY)
    profile = earlier.profile
    at_m = np.arange(0.0, 8900.0, 10.0)
    road = SameRoad(at_m, at_m)
    ramp = np.clip((profile.distance_m - 3000.0) / 60.0, 0.0, 1.0)
    later = replace(profile, time_s=profile.time_s[0] + 0.9 * (profile.time_s - profile.time_s[0]) - 2.0 * ramp)
    all_over = gained(profile, later, road, 8900.0)
    place = all_over.at(3000.0, 3060.0)
    assert (place.from_m, place.to_m) == (3000.0 - AHEAD_M, 3060.0 + BEHIND_M)
    assert place.beyond == pytest.approx(2.0, abs=0.15)
    assert place.seconds == pytest.approx(2.0 + 0.1 * (profile.seconds_at(3130.0) - profile.seconds_at(2920.0)), abs=0.1)
    assert place.beyond_sd is not None
    elsewhere = all_over.at(1500.0, 1560.0, [(2900.0, 3200.0)])
    assert elsewhere.beyond == pytest.approx(0.0, abs=0.1)
    # Where all the rest is spoilt there is no control, and none is made up.
    assert all_over.at(3000.0, 3060.0, [(0.0, 2800.0), (3200.0, 8900.0)]).beyond is None
    assert isinstance(all_over, Gained)
    assert all_over.share == pytest.approx(
        (0.1 * (profile.seconds_at(5890.0) - profile.time_s[0]) + 2.0) / (profile.seconds_at(5890.0) - profile.time_s[0]), abs=0.005
    )


@pytest.mark.parametrize(
    ("old", "new", "rows"),
    [
        ("L4 80\nR3 60\nL5 40\n", "L4 80\nR2 60\nL5 40\n", [("R3 60", "R2 60", (1, 2), (1, 2))]),
        ("L4 80\nR3 60\nL5 40\n", "L4 80\nL5 40\n", [("R3 60", "", (1, 2), (1, 1))]),
        ("L4 80\nL5 40\n", "L4 80\nR3 60\nL5 40\n", [("", "R3 60", (1, 1), (1, 2))]),
        ("L4 80\nR3 60\nL5 40\n", "L4  80\nR3 60\nL5 40\n", []),
        ("L4 80\nR3 60\nL5 40\n", "L3 80\nR2 60\nL5 40\n", [("L4 80", "L3 80", (0, 1), (0, 1)), ("R3 60", "R2 60", (1, 2), (1, 2))]),
    ],
)
def test_what_was_changed_is_found_note_by_note(old: str, new: str, rows: list[tuple[object, ...]]) -> None:
    assert list(changed_blocks(notes_of(old), notes_of(new))) == rows


@pytest.mark.parametrize(
    ("new", "aspects"),
    [
        ("R2 60", {"grade"}),
        ("L3 60", {"direction"}),
        ("R3 long 60", {"length"}),
        ("R3 tightens 60", {"shape"}),
        ("R3 80", {"distance"}),
        ("R3 over crest 60", {"vertical"}),
        ("R3 care 60", {"words"}),
        ("R2 over crest 80", {"grade", "vertical", "distance"}),
    ],
)
def test_what_of_a_note_was_changed(new: str, aspects: set[str]) -> None:
    assert aspects_of(*notes_of(f"R3 60\n{new}\n")) == aspects


def test_the_contract_has_changes_and_kept_along_the_first_pass() -> None:
    import json

    _, earlier, later, found = driven(DRY)
    out = json.loads(passes_json([found, compare_passes(later, later)]))
    assert out["format"] == "mirkle-passes/1"
    assert [c["from_m"] for c in out["changes"]] == [round(c.from_m, 1) for c in found.changes]
    # What is told of a note twice is told by the last pass, and once.
    assert len({(k["page"], k["line"], k["text"]) for k in out["kept"]}) == len(out["kept"])
    first = list(compare_passes(later, later).kept)
    assert len(out["kept"]) >= len(first)
    lies = {k["text"]: k["from_m"] for k in out["kept"]}
    assert found.road is not None
    for kept in first:
        if sum(k.text == kept.text for k in first) == 1:
            assert lies[" ".join(kept.text.split())] == pytest.approx(found.road.here(kept.from_m), abs=0.1)
    assert earlier.finish_m > max(lies.values())
