"""A rally with its stages on the shelf: which file is which stage, what is left to do, and what comes back from another laptop."""

from __future__ import annotations

import zipfile
from collections.abc import Callable
from datetime import date, datetime, timedelta
from pathlib import Path

import pytest

from mirkle.core.errors import MirkleError
from mirkle.core.rally.itinerary import cancelled, delayed
from mirkle.core.rally.written_itinerary import read_itinerary
from mirkle.files.project.project import Project
from mirkle.session.paths import data_folder
from mirkle.session.rally import Rally, day_shown, neighbour, typed, with_what_stood, works_of
from mirkle.session.rally_copies import is_packed_rally, pack, take_folder, unpack
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.shelf import shelf
from mirkle.session.stage_summary import keep_summary

NOW = datetime(2026, 12, 4, 8, 30)
TEXT = (
    "2026-12-04\n08:40 Service A 20 min\n09:12 SS1 Tarn Moor 4.6 km\n10:05 SS2 Cray Bank 5.2 km\n11:00 SS3 Nowhere\n13:00 SS4 Tarn Moor 2"
)


@pytest.fixture
def rally(rally_home: Path) -> Rally:
    return Rally.open(rally_home / "isle.mirkle-rally")


def itinerary(text: str) -> list:
    return [line.item for line in read_itinerary(text, date(2026, 12, 1)) if line.item is not None]


def test_the_demo_rally_begins_soon_and_knows_its_stages(rally: Rally) -> None:
    assert [(i.kind, i.name) for i in rally.itinerary] == [
        ("stage", "Tarn Moor"),
        ("stage", "Cray Bank"),
        ("service", "Service A"),
        ("stage", "Harbour Road"),
    ]
    assert NOW < rally.itinerary[0].start <= NOW + timedelta(minutes=40)
    for stage in rally.stages(NOW):
        assert stage.shelf is not None
        assert stage.shelf.work.times_s
        assert stage.expected is not None
        assert stage.expected.expected_s == pytest.approx(stage.shelf.work.times_s[-1], rel=0.05)
    again = next(stage for stage in rally.stages(NOW) if stage.name == "Tarn Moor")
    assert again.shelf is not None
    assert len(again.shelf.work.times_s) == 2
    assert again.shelf.work.times_s[1] < again.shelf.work.times_s[0]


def test_what_is_left_to_do_follows_the_decisions_and_the_clock(rally: Rally) -> None:
    rally.set_itinerary(itinerary(TEXT))
    stages = {stage.name: stage for stage in rally.stages(NOW)}
    assert stages["Nowhere"].shelf is None
    assert works_of(stages["Nowhere"]) == []
    cray = stages["Cray Bank"]
    assert cray.shelf is not None
    dangers = next(w.count for w in works_of(cray) if w.kind == "danger")
    assert dangers == cray.shelf.dangers_left > 0
    stage = ReviewedPass.of_project(Project.open(cray.shelf.path))
    finding = next(f for f in stage.findings if f.severity == "danger")
    stage.book.mark(finding, finding.note, stage.book.proposal(finding).text)
    keep_summary(stage)
    stage.project.close()
    counts = {w.kind: w.count for w in works_of({s.name: s for s in rally.stages(NOW)}["Cray Bank"])}
    assert (counts.get("danger", 0), counts["copy"], counts["rehearse"]) == (dangers - 1, 1, 1)
    # Behind its last start nothing has to be done any more.
    assert works_of({s.name: s for s in rally.stages(datetime(2026, 12, 4, 10, 6))}["Cray Bank"]) == []
    plan = rally.plan(datetime(2026, 12, 4, 10, 4), rally.stages(datetime(2026, 12, 4, 10, 4)))
    assert {(w.stage, w.kind) for w in plan.left} >= {("Cray Bank", "copy")}


def test_a_stage_is_found_by_its_name_and_by_what_was_said(rally: Rally) -> None:
    rally.set_itinerary(itinerary("2026-12-04\n09:12 SS1 TARN MOOR\n10:00 SS2 The long one"))
    assert [stage.shelf is not None for stage in rally.stages(NOW)] == [True, False]
    cray = next(one for one in shelf() if one.name == "Cray Bank")
    rally.assign("The long one", cray)
    again = Rally.open(rally.path)
    assert [stage.shelf.name for stage in again.stages(NOW) if stage.shelf] == ["Tarn Moor", "Cray Bank"]
    # Two stages of one name on the shelf: nobody knows which, until somebody says.
    project = Project.create(data_folder() / "other.mirkle", [], name="Tarn Moor")
    project.close()
    assert again.stages(NOW)[0].shelf is None


def test_the_next_and_the_previous_stage_by_the_itinerary(rally: Rally) -> None:
    paths = [stage.shelf.path.resolve() for stage in rally.stages(NOW) if stage.shelf]
    assert [neighbour(rally, paths[0], 1), neighbour(rally, paths[1], -1), neighbour(rally, paths[2], 1)] == [paths[1], paths[0], None]
    assert neighbour(rally, None, 1) == paths[0]


def test_an_itinerary_is_typed_back_as_the_same_and_keeps_what_was_said_of_its_items(rally: Rally) -> None:
    rally.set_itinerary(itinerary(f"{TEXT}\n22:00 TC8 Harbour 0:40\n22:10 TC9"))
    items = rally.itinerary
    rally.set_itinerary(cancelled(items, items[2].uid))
    text = typed(rally.itinerary)
    again = with_what_stood(read_itinerary(text, date(2026, 12, 1)), rally.itinerary)
    assert again == rally.itinerary
    later = with_what_stood(read_itinerary(text.replace("09:12", "09:30"), date(2026, 12, 1)), rally.itinerary)
    assert {i.uid for i in later} == {i.uid for i in items}
    assert [i.name for i in later if i.cancelled] == ["Cray Bank"]


def test_the_day_that_is_shown() -> None:
    items = itinerary("2026-12-04\n22:00 SS1 A\n2026-12-05\n09:00 SS2 B")
    at: Callable[[str], datetime] = datetime.fromisoformat
    assert day_shown(items, at("2026-12-01T20:00")) == date(2026, 12, 4)
    assert day_shown(items, at("2026-12-05T02:00")) == date(2026, 12, 4), "a night that is not over"
    assert day_shown(items, at("2026-12-05T07:00")) == date(2026, 12, 5)
    assert day_shown(items, at("2027-01-01T07:00")) == date(2026, 12, 5)
    assert day_shown([], NOW) is None


def decide(folder: Path, name: str, answer: str, *, which: int = 0) -> None:
    project = Project.open(next(folder.glob(f"{name}*.mirkle")))
    stage = ReviewedPass.of_project(project)
    stage.book.answer(stage.findings[which], answer)
    keep_summary(stage)
    project.close()


def test_a_rally_that_was_worked_on_elsewhere_comes_back_whole(rally: Rally, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Packed, unpacked on a second laptop, worked on by both, and back again: nothing is lost, and both laptops end with the same."""
    first, second = data_folder(), tmp_path / "second"
    packed = tmp_path / "isle.zip"
    pack(rally, packed)
    assert is_packed_rally(packed)
    monkeypatch.setenv("XDG_DATA_HOME", str(second))
    came = unpack(packed)
    assert sorted(came.new) == ["Cray Bank", "Harbour Road", "Tarn Moor"]
    there = Rally.open(came.rally)
    assert there.itinerary == rally.itinerary
    assert all(stage.shelf is not None for stage in there.stages(NOW))
    there.set_itinerary(delayed(there.itinerary, there.itinerary[2].uid, 10))
    decide(data_folder(), "Cray-Bank", "keep")
    decide(data_folder(), "Harbour-Road", "talk")
    back = tmp_path / "back.zip"
    pack(there, back)
    monkeypatch.setenv("XDG_DATA_HOME", str(first.parent))
    decide(data_folder(), "harbour-road", "keep")
    rally.set_itinerary(cancelled(rally.itinerary, rally.itinerary[0].uid))
    came = unpack(back)
    assert came.rally == rally.path
    assert {name: (m.decisions, m.conflicts) for name, m in came.merged.items()} == {
        "Cray Bank": (1, 0),
        "Harbour Road": (1, 1),
        "Tarn Moor": (0, 0),
    }
    assert str(came.words) == "From the copy: 2 decisions, decided differently in both: 1."
    rally.reload()
    assert [i.cancelled for i in rally.itinerary] == [True, False, False, False]
    assert rally.itinerary[2].start == there.itinerary[2].start
    # Again brings nothing.
    assert all(m.is_nothing for m in unpack(back).merged.values())


def test_a_packed_file_without_a_rally_is_refused(tmp_path: Path) -> None:
    path = tmp_path / "other.zip"
    with zipfile.ZipFile(path, "w") as archive:
        archive.writestr("notes.txt", "R4 50")
    assert not is_packed_rally(path)
    with pytest.raises(MirkleError, match="no rally in it"):
        unpack(path)
    with pytest.raises(MirkleError, match="no rally in it"):
        take_folder(tmp_path)
    huge = tmp_path / "huge.zip"
    with zipfile.ZipFile(huge, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("../isle.mirkle-rally", bytes(600_000_000))
    with pytest.raises(MirkleError, match="larger than any rally"):
        unpack(huge)
    path.write_bytes(b"PK\x03\x04damaged")
    with pytest.raises(MirkleError, match="damaged"):
        unpack(path)
