"""Two copies of a stage that were worked on apart, merged in either direction."""

from __future__ import annotations

import shutil
from dataclasses import replace
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mirkle.core.notebook.decisions import (
    Addition,
    CallTap,
    Decision,
    Entry,
    FindingAnswer,
    Ledger,
    NoteChange,
    NotePlace,
    PassChange,
    RoadPlace,
)
from mirkle.core.notebook.passes import Pass
from mirkle.files.project.project import Project, SourceFile, UnusableProject

BOOK, RUN = SourceFile("notes", "slatehook.txt", b"R4 50"), SourceFile("run", "morning.csv", b"1")


def place(note: int) -> NotePlace:
    return NotePlace(note, note, f"R{note} 50", note * 6)


def marked(key: str, note: int, text: str, kind: str = "grade", on: int = 1) -> Decision:
    return NoteChange(key=key, notes=place(note), road=RoadPlace(on, note * 100.0, note * 100.0 + 40.0), text=text, finding_kind=kind)


def kept(key: str, note: int, kind: str = "grade") -> Decision:
    return FindingAnswer(key=key, notes=place(note), answer="keep", finding_kind=kind)


@pytest.fixture
def pair(tmp_path: Path):
    """Two copies of one stage with one decision in both."""
    first = Project.create(tmp_path / "a.mirkle", [BOOK, RUN], name="Slatehook")
    first.append(Entry("decide", marked("common", 0, "R3 50")), 1)
    first.copy_to(tmp_path / "b.mirkle")
    second = Project.open(tmp_path / "b.mirkle")
    yield first, second
    first.close()
    second.close()


def standing(project: Project) -> list[Decision]:
    ledger = Ledger.of(project.entries())
    return [ledger.decisions[n] for n in ledger.standing.values()]


def decide(project: Project, decision: Decision, on: int = 1) -> Entry:
    return project.append(Entry("decide", decision), on)


def test_what_both_decided_apart_is_in_both_and_merging_again_brings_nothing(pair: tuple[Project, Project]) -> None:
    a, b = pair
    decide(a, marked("a1", 1, "R2 50"))
    decide(b, kept("b1", 2))
    assert (a.merge(b).decisions, b.merge(a).decisions) == (1, 1)
    assert {d.key for d in standing(a)} == {d.key for d in standing(b)} == {"common", "a1", "b1"}
    assert a.merge(b).is_nothing
    assert b.merge(a).is_nothing


def test_two_answers_to_one_finding_stand_once_and_a_difference_is_left_to_people(pair: tuple[Project, Project]) -> None:
    a, b = pair
    decide(a, marked("a1", 1, "R2 50"))
    decide(b, kept("b1", 1))
    decide(a, kept("a2", 2))
    decide(b, kept("b2", 2))
    decide(a, kept("a3", 3))
    decide(b, kept("b3", 3, kind="length"))
    assert a.merge(b).conflicts == 1
    b.merge(a)
    ledgers = [Ledger.of(project.entries()) for project in pair]
    for ledger in ledgers:
        (conflict,) = ledger.open_conflicts
        assert {type(ledger.decisions[n]) for n in conflict} == {NoteChange, FindingAnswer}
        # One answer to each question: the two on note 2 agree, those on note 3 are about different things.
        assert [d.key for n in ledger.standing.values() if (d := ledger.decisions[n])].count("a1") == 1
        assert sorted(d.key for d in map(ledger.decisions.__getitem__, ledger.standing.values())) == ["a1", "a2", "a3", "b3", "common"]
    # Deciding again settles it, in both copies.
    decide(b, marked("a1", 1, "R2 50"))
    a.merge(b)
    assert [Ledger.of(project.entries()).open_conflicts for project in pair] == [[], []]


def test_two_changes_that_write_over_each_other_are_left_to_people(pair: tuple[Project, Project]) -> None:
    a, b = pair
    decide(a, marked("a1", 1, "R2 50", kind="grade"))
    decide(b, marked("b1", 1, "R4 long 50", kind="length"))
    assert a.merge(b).conflicts == 1
    assert {d.key for d in standing(a)} == {"common", "a1", "b1"}


def test_an_undo_in_one_copy_and_a_new_answer_in_the_other_leave_the_new_answer(pair: tuple[Project, Project]) -> None:
    a, b = pair
    a.append(Entry("undo", of=a.entries()[0].number), 1)
    decide(b, marked("common", 0, "R2 50"))
    a.merge(b)
    b.merge(a)
    for project in pair:
        assert [d.text for d in standing(project) if isinstance(d, NoteChange)] == ["R2 50"]


def test_passes_of_both_get_numbers_and_their_decisions_go_with_them(pair: tuple[Project, Project]) -> None:
    a, b = pair
    for project, name in ((a, "noon.csv"), (b, "evening.csv")):
        made = project.add_pass(Pass(0, None, project.passes()[0].notes, kind="later"), {"run": SourceFile("run", name, name.encode())})
        decide(project, Addition(key=f"ice {name}", road=RoadPlace(made.id, 10.0, 20.0, 1.0, 2.0), kind="condition", words="ice"), made.id)
        decide(project, CallTap(key=f"tap {name}", notes=place(1), of_pass=made.id, sound_s=3.0), made.id)
        after = project.set_pass(replace(made, day=name))
        decide(project, PassChange(key=f"pass-{made.id}", before=made, after=after), made.id)
    merged = a.merge(b)
    assert (merged.passes, merged.files) == (1, 1)
    b.merge(a)
    for project in pair:
        names = {p.id: project.material(p.run).name for p in project.passes()}
        assert sorted(names.values()) == ["evening.csv", "morning.csv", "noon.csv"]
        assert {p.day for p in project.passes() if names[p.id] != "morning.csv"} == {"noon.csv", "evening.csv"}
        for decision in standing(project):
            if isinstance(decision, Addition):
                assert names[decision.road.of_pass] == decision.key.removeprefix("ice ")
            if isinstance(decision, CallTap):
                assert names[decision.of_pass] == decision.key.removeprefix("tap ")
        assert {names[d.after.id] for d in standing(project) if isinstance(d, PassChange)} == {"noon.csv", "evening.csv"}
    # Both copies tell the passes in the same order.
    orders = [[project.material(p.run).name for p in project.passes()] for project in pair]
    assert orders[0] == orders[1]


def test_practice_and_what_is_said_of_the_stage_come_once(pair: tuple[Project, Project]) -> None:
    a, b = pair
    run = a.add_practice(None, "one")
    a.add_practice(run, "two")
    b.add_practice(None, "other")
    a.set_info("event", "First name")
    b.set_info("car", "27")
    decide(b, kept("later", 5))
    b.set_info("event", "Later name")
    settled = a.merge(b).settled
    b.merge(a)
    assert settled == (("event", "Later name", "First name"),)
    for project in pair:
        bodies: dict[int, list[str]] = {}
        for number, body in project.practised():
            bodies.setdefault(number, []).append(body)
        assert sorted(bodies.values()) == [["one", "two"], ["other"]]
        assert (project.info("event"), project.info("car")) == ("Later name", "27")


def test_another_stage_is_no_copy_and_nothing_is_changed(pair: tuple[Project, Project], tmp_path: Path) -> None:
    a, _ = pair
    other = Project.create(tmp_path / "c.mirkle", [BOOK], name="Tarn")
    before = a.path.read_bytes()
    with pytest.raises(UnusableProject, match="another stage"):
        a.merge(other)
    other.close()
    assert a.path.read_bytes() == before


def test_copies_of_an_old_file_that_were_brought_up_to_date_apart_are_one(tmp_path: Path) -> None:
    kept_file = Path(__file__).parents[2] / "bench" / "golden" / "format-5.mirkle"
    copies = [Project.open(Path(shutil.copy(kept_file, tmp_path / f"{name}.mirkle"))) for name in "ab"]
    decide(copies[1], kept("new", 4))
    assert copies[0].merge(copies[1]).decisions == 1
    assert len(copies[0].entries()) == len(copies[1].entries())
    # Only read, an old file that is a copy is merged and stays as it is.
    old = Path(shutil.copy(kept_file, tmp_path / "old.mirkle"))
    with_old = Project.open(old, only_read=True)
    assert copies[0].merge(with_old).is_nothing
    for project in (*copies, with_old):
        project.close()
    assert old.read_bytes() == kept_file.read_bytes()


ACTIONS = st.lists(st.tuples(st.booleans(), st.sampled_from(["mark", "keep", "undo", "redo", "merge"]), st.integers(0, 3)), max_size=30)


@settings(max_examples=25, deadline=None)
@given(ACTIONS)
def test_both_orders_end_with_the_same(tmp_path_factory: pytest.TempPathFactory, actions: list[tuple[bool, str, int]]) -> None:
    """Whatever is done in two copies, and whenever one takes in the other."""
    folder = tmp_path_factory.mktemp("pair")
    first = Project.create(folder / "a.mirkle", [BOOK, RUN], name="Slatehook")
    first.copy_to(folder / "b.mirkle")
    copies = [first, Project.open(folder / "b.mirkle")]
    made = 0
    for i, (which, action, note) in enumerate(actions):
        mine, other = copies[which], copies[not which]
        ledger = Ledger.of(mine.entries())
        if action == "merge":
            mine.merge(other)
        elif action in ("undo", "redo"):
            numbers = ledger.done if action == "undo" else ledger.undone
            if numbers:
                mine.append(Entry(action, of=numbers[-1]), 1)
        else:
            made += 1
            before = [d.key for d in standing(mine) if d.notes == place(note)]
            key = before[-1] if before else f"{i}"
            decide(mine, marked(key, note, f"R{i} 50") if action == "mark" else kept(key, note))
    copies[0].merge(copies[1])
    copies[1].merge(copies[0])
    ledgers = [Ledger.of(project.entries()) for project in copies]
    for ledger in ledgers:
        assert len(ledger.decisions) == made
    said = [[[ledger.decisions[n] for n in numbers] for numbers in (ledger.done, ledger.undone)] for ledger in ledgers]
    assert said[0] == said[1]
    pairs = [[(ledger.decisions[a], ledger.decisions[b]) for a, b in ledger.open_conflicts] for ledger in ledgers]
    assert pairs[0] == pairs[1]
    for project in copies:
        project.close()
