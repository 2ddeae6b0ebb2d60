"""What must not depend on how the world is looked at: mirrored, turned, another day, another school of notes.

Each test changes the input by something whose effect on the answer is known exactly, so that no truth of ours is needed.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import numpy as np
import pytest

from mirkle.core.judging.findings import Finding
from mirkle.core.recording.model import Channel, Recording
from mirkle.core.review import CrewNotes, Review, measure_run, review_run
from mirkle.files.notes.crew_profile import shipped_crew
from mirkle.files.notes.text import parse_notes
from mirkle.files.recordings.readers import parse_run
from mirkle.session.convert_notes import in_another_hand
from tests.conftest import MORNING, NOTES

BOOK = NOTES.content.decode()
EARTH_M = 6_371_000.0


def reviewed(recording: Recording, book: str) -> Review:
    crew = shipped_crew()
    return review_run(measure_run(recording), CrewNotes(parse_notes(book.encode(), name="notes.txt", crew=crew), crew))


@pytest.fixture(scope="module")
def recording() -> Recording:
    return parse_run(MORNING.content, name=MORNING.name)


@pytest.fixture(scope="module")
def plain(recording: Recording) -> Review:
    return reviewed(recording, BOOK)


def changed(recording: Recording, **by: Callable[[np.ndarray], np.ndarray]) -> Recording:
    """The recording with some channels' values put through a function."""
    channels = dict(recording.channels)
    for name, function in by.items():
        channels[name] = Channel(channels[name].time_s, function(channels[name].value))
    return replace(recording, channels=channels)


def weighty(review: Review) -> list[tuple[str, int, str]]:
    """The findings that a crew must see: what, on which note, how grave."""
    return sorted((f.kind, f.note, f.severity) for f in review.findings if f.severity in ("danger", "change"))


def assert_same(before: Review, after: Review, *, metres: float = 3.0, checks: float = 0.9) -> None:
    """The same weighty findings at the same places; a share of the checks, which lie at a threshold, may differ."""
    assert weighty(after) == weighty(before)
    at: dict[tuple[str, int], Finding] = {(f.kind, f.note): f for f in after.findings}
    for finding in before.findings:
        if finding.severity in ("danger", "change"):
            assert at[finding.kind, finding.note].from_m == pytest.approx(finding.from_m, abs=metres)
    had, has = {(f.kind, f.note) for f in before.findings}, set(at)
    assert len(had & has) >= checks * len(had | has)


def test_a_mirrored_stage_with_mirrored_notes_is_judged_the_same(recording: Recording, plain: Review) -> None:
    """Left for right in the world and in the book; a bias towards one side anywhere in the chain is seen here."""
    west = float(recording.channels["lon_rad"].value[0])
    mirrored = changed(
        recording,
        lon_rad=lambda lon: 2 * west - lon,
        course_rad=lambda course: -course % (2 * np.pi),
        yaw_rate_radps=np.negative,
        acc_y_mps2=np.negative,
    )
    book = BOOK.translate(str.maketrans({"L": "R", "R": "L"}))
    after = reviewed(mirrored, book)
    assert_same(plain, after)
    other = {"left": "right", "right": "left"}
    for finding in plain.findings:
        if finding.kind == "direction":
            match = next(f for f in after.findings if f.kind == "direction" and f.note == finding.note)
            assert match.met == other[finding.met or ""]
    bends = [(t.bend.radius_m, -t.bend.side) for t in after.lineup.ties if t.bend is not None]
    wanted = [(t.bend.radius_m, t.bend.side) for t in plain.lineup.ties if t.bend is not None]
    assert [side for _, side in bends] == [side for _, side in wanted]
    assert [r for r, _ in bends] == pytest.approx([r for r, _ in wanted], rel=0.02)


@pytest.mark.parametrize("degrees", [90.0, 217.0])
def test_north_is_a_direction_like_any_other(recording: Recording, plain: Review, degrees: float) -> None:
    """The stage turned about its start; on some heading the course steps from 360 to 0 in every corner."""
    c = recording.channels
    angle, lat0, lon0 = np.radians(degrees), c["lat_rad"].value[0], c["lon_rad"].value[0]
    east, north = (c["lon_rad"].value - lon0) * np.cos(lat0), c["lat_rad"].value - lat0
    turned = changed(
        recording,
        lat_rad=lambda _: lat0 + north * np.cos(angle) - east * np.sin(angle),
        lon_rad=lambda _: lon0 + (east * np.cos(angle) + north * np.sin(angle)) / np.cos(lat0),
        course_rad=lambda course: (course + angle) % (2 * np.pi),
    )
    # Over 14 km the small-angle turn stretches the map by up to a thousandth.
    assert_same(plain, reviewed(turned, BOOK), metres=15.0)


@pytest.mark.parametrize("seconds", [-3_000.0, 1.7e9])
def test_the_recorders_clock_may_say_what_it_likes(recording: Recording, plain: Review, seconds: float) -> None:
    later = replace(recording, channels={n: Channel(c.time_s + seconds, c.value) for n, c in recording.channels.items()})
    after = reviewed(later, BOOK)
    assert_same(plain, after, metres=1.01, checks=1.0)  # places lie on a grid of a metre
    assert after.measured.drive.start_s == pytest.approx(plain.measured.drive.start_s + seconds, abs=0.01)
    assert after.finish_s == pytest.approx(plain.finish_s + seconds, abs=0.02)


@pytest.mark.parametrize("language", ["en", "pt"])
@pytest.mark.parametrize("order", ["direction-first", "grade-first"])
@pytest.mark.parametrize("sense", ["ascending", "descending"])
def test_the_school_of_notes_changes_no_verdict(recording: Recording, plain: Review, language: str, order: str, sense: str) -> None:
    """The same book as another co-driver would write it: other words, the grade first, 1 as the fastest."""
    other = in_another_hand(plain.reading, plain.school, language=language, order=order, other=replace(plain.school, sense=sense))
    after = reviewed(recording, other.text)
    assert (after.reading.language, after.school.sense) == (language, sense)
    assert_same(plain, after)
    # Proposals are written in the crew's own hand, and mean the same grade.
    position = {(f.kind, f.note): plain.school.position(f.met or "") for f in plain.findings if f.kind == "grade-tighter"}
    for finding in after.findings:
        if (finding.kind, finding.note) in position:
            assert after.school.position(finding.met or "") == position[finding.kind, finding.note]


def test_one_wrong_note_is_one_finding_on_that_note(recording: Recording, plain: Review) -> None:
    """An honest corner made three grades faster is a danger there, and nowhere else."""
    quiet = {f.note for f in plain.findings}
    tie = next(
        t
        for t in plain.lineup.ties
        if t.note > 40
        and t.bend is not None
        and plain.notes[t.note].grade == "3"
        and t.sure > 0.95
        and not plain.notes[t.note].changes
        and not quiet & {t.note - 1, t.note, t.note + 1}
    )
    note = plain.notes[tie.note]
    lines = BOOK.splitlines()
    at = [i for i, line in enumerate(lines) if line.strip() == note.text]
    same = [n.index for n in plain.notes if n.text == note.text]
    assert len(at) == len(same), "each note stands on a line of its own"
    row = at[same.index(note.index)]
    lines[row] = lines[row].replace("3", "6", 1)
    after = reviewed(recording, "\n".join(lines))
    new = set(weighty(after)) - set(weighty(plain))
    assert ("grade-tighter", note.index, "danger") in new
    assert set(weighty(plain)) <= set(weighty(after))
    assert {n for _, n, _ in new} == {note.index}
