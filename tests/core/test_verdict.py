"""The judges one by one: shape, timing, parts, other passes, and what a car does that believes a note."""

import ast
from dataclasses import replace
from pathlib import Path
from typing import get_args

import numpy as np
import pytest

from mirkle.core import judging
from mirkle.core.joint.agreement import with_other_passes
from mirkle.core.judging import finding_kinds
from mirkle.core.judging.call_timing import judge_timing
from mirkle.core.judging.crew_habits import merge_crew_habits
from mirkle.core.judging.finding_kinds import KINDS, Group
from mirkle.core.judging.findings import Finding, JudgingContext, surely_off
from mirkle.core.judging.other_pass import Witness
from mirkle.core.judging.pace import pace_of
from mirkle.core.judging.parts import propose_parts
from mirkle.core.judging.shape import begins_tighter, judge_lengths, judge_shapes
from mirkle.core.lineup.call_clock import Clock
from mirkle.core.lineup.call_records import CallRecord, with_leads
from mirkle.core.lineup.called_notes import calls_of
from mirkle.core.lineup.pairing import line_up
from mirkle.core.lineup.road import road_of
from mirkle.core.messages import message
from mirkle.core.motion.bends import road_radius
from mirkle.core.motion.profile import Profile
from mirkle.core.notes.called import CalledFeature
from mirkle.core.notes.grading import school_of
from mirkle.core.notes.language import Language
from mirkle.core.notes.reading import read_notes
from mirkle.core.notes.rewording import NoteWriter
from mirkle.core.speech.delivery import Spoken
from mirkle.files.notes.languages import shipped_languages
from tests.core.test_bends import profile
from tests.core.test_pairing import radius

ENGLISH: Language = shipped_languages()[0]
GRIP = 6.0


def stage(
    count: int = 48,
    *,
    change: dict[int, float] | None = None,
    stretch: dict[int, float] | None = None,
    texts: dict[int, str] | None = None,
    slow: tuple[int, int] | None = None,
) -> JudgingContext:
    """Arcs with honest notes; ``change`` makes the second half of a bend tighter by a factor, ``stretch`` lengthens it."""
    rng = np.random.default_rng(8)
    parts, lines, speeds, at = [np.zeros(80)], [], [np.full(80, 25.0)], 80
    side = 1
    for i in range(count):
        side = -side
        grade = int(rng.integers(2, 6))
        long = i % 4 == 3
        length = int((96 if long else 60) * (stretch or {}).get(i, 1.0))
        arc = np.full(length, side / radius(grade))
        if i in (change or {}):
            arc[length // 2 :] *= (change or {})[i]
        gap = int(rng.choice([40, 60, 80]))
        lines.append((texts or {}).get(i, f"{'left' if side > 0 else 'right'} {grade}{' long' * long} {gap}"))
        parts += [arc, np.zeros(gap)]
        share = 0.6 if slow and slow[0] <= i < slow[1] else 1.0
        speeds += [np.full(length, share * np.sqrt(GRIP / np.abs(arc).max())), np.full(gap, 25.0 * share)]
        at += length + gap
    curvature = np.convolve(np.concatenate([*parts, np.zeros(60)]), np.ones(9) / 9, mode="same")
    speed = np.convolve(np.concatenate([*speeds, np.full(60, 25.0)]), np.ones(15) / 15, mode="same")
    base = profile(curvature)
    road = replace(base, speed_mps=speed, time_s=np.concatenate([[0.0], np.cumsum(2 / (speed[1:] + speed[:-1]))]))
    return case_of("\n".join(lines), road)


def case_of(text: str, road: Profile) -> JudgingContext:
    reading = read_notes(text, (ENGLISH,))
    school = school_of(reading.notes)
    lineup = line_up(calls_of(reading.notes, school), road_of(road))
    notes = {n.index: n for n in reading.notes}
    return JudgingContext(
        notes=reading.notes,
        lineup=lineup,
        school=school,
        profile=road,
        hand=NoteWriter(reading, ENGLISH),
        finish_m=road.length_m,
        coarse=False,
        pace=pace_of(lineup, road, notes, school),
        vertical=None,
    )


def kinds(findings) -> list[tuple[str, int]]:  # type: ignore[no-untyped-def]
    return [(f.kind, f.note) for f in findings]


def test_honest_notes_on_steady_bends_have_no_shape_to_speak_of() -> None:
    case = stage()
    assert kinds(judge_shapes(case)) == []
    assert kinds(judge_lengths(case)) == []


def test_a_tightening_that_the_note_leaves_out_is_found_and_written_in() -> None:
    case = stage(change={20: 1.8})
    (finding,) = [f for f in judge_shapes(case) if f.kind == "tightens-uncalled"]
    assert finding.note == 20
    assert finding.severity in ("danger", "change")
    assert finding.proposal is not None
    assert "tightens" in finding.proposal.text
    (again,) = case.hand.read_back(finding.proposal.text)
    assert again.changes
    assert again.distance_m == case.notes[20].distance_m


def test_a_hairpin_that_tightens_is_no_more_than_a_check() -> None:
    """Its note says already that nothing is tighter, however tight it is at last."""
    head, _, gap = stage().notes[20].text.rpartition(" ")
    for grade, severities in (("2", ("danger", "change")), ("hairpin", ("check",))):
        case = stage(change={20: 1.8}, texts={20: f"{head.split()[0]} {grade} {gap}"})
        ties = tuple(replace(t, position=-0.9) if t.note == 20 else t for t in case.lineup.ties)
        (finding,) = [
            f for f in judge_shapes(replace(case, lineup=replace(case.lineup, ties=ties))) if (f.kind, f.note) == ("tightens-uncalled", 20)
        ]
        assert finding.severity in severities


def test_a_corner_that_begins_two_grades_tighter_is_no_mere_tightening() -> None:
    honest = stage()
    written = next(n for n in honest.notes[8:] if n.grade in ("2", "3") and not n.length).index
    text = honest.notes[written].text
    opened = text.replace(f" {honest.notes[written].grade} ", f" {int(honest.notes[written].grade or 0) + 3} ")
    for texts, begins in (({}, False), ({written: opened}, True)):
        case = stage(change={written: 1.8}, texts=texts)
        (finding,) = [f for f in judge_shapes(case) if f.kind == "tightens-uncalled" and f.note == written]
        assert begins_tighter(case, finding) is begins


def test_a_called_tightening_that_is_not_there_and_an_opening() -> None:
    honest = stage()
    head, _, gap = honest.notes[20].text.rpartition(" ")
    called = stage(texts={20: f"{head} tightens {max(1, int(head[-1]) - 1)} {gap}"})
    assert ("tightens-unmet", 20) in kinds(judge_shapes(called))
    assert ("opens-uncalled", 12) in kinds(judge_shapes(stage(change={12: 0.5})))
    opens = {20: f"{head} opens {gap}"}
    assert ("opens-unmet", 20) in kinds(judge_shapes(stage(change={20: 1.8}, texts=opens)))
    assert ("opens-unmet", 20) not in kinds(judge_shapes(stage(change={20: 0.5}, texts=opens)))


def test_a_bend_twice_as_long_as_called_is_longer() -> None:
    case = stage(stretch={14: 2.6})
    found = list(judge_lengths(case))
    assert kinds(found) == [("length-longer", 14)]
    assert found[0].proposal is not None
    assert "long" in found[0].proposal.text


def test_pace_lost_for_a_while_is_proposed_not_to_count() -> None:
    case = stage(slow=(20, 33))
    (part,) = propose_parts(case.lineup, case.profile, case.pace, case.finish_m)
    first, last = case.lineup.tie_of[20].bend, case.lineup.tie_of[32].bend
    assert first is not None
    assert last is not None
    assert part.from_m == pytest.approx(first.from_m, abs=150)
    assert part.to_m == pytest.approx(last.to_m, abs=200)
    assert propose_parts(stage().lineup, stage().profile, stage().pace, stage().finish_m) == ()


def test_a_note_that_is_believed_two_grades_too_fast_is_arrived_at_too_fast() -> None:
    case = stage()
    tie = next(t for t in case.lineup.ties if case.notes[t.note].grade == "3")
    honest = case.notes[tie.note]
    assert case.overspeed(honest, tie) < 1.1
    assert case.overspeed(replace(honest, grade="5"), tie) > 1.25


def said_notes(case: JudgingContext, lead_s: dict[int, float]) -> list[CallRecord]:
    out: list[CallRecord] = []
    for note in case.notes:
        bend = case.lineup.tie_of[note.index].bend
        if bend is None:
            out.append(CallRecord())
            continue
        at = float(np.interp(bend.from_m, case.profile.distance_m, case.profile.time_s)) - lead_s.get(note.index, 3.2) + 100.0
        out.append(CallRecord(Spoken("written", 1.0, note.index, note.text, at, at + 1.0, 0.2), note))
    return out


def timed(case: JudgingContext, said: list[CallRecord], clock: Clock | None) -> list[Finding]:
    calls, usual = with_leads(said, case.lineup, case.positions, case.profile, clock)
    return list(judge_timing(replace(case, calls=calls, clock=clock, usual_lead=usual)))


def test_late_and_early_calls_against_the_crews_own_habit() -> None:
    """A lead of about 2 to 4 s is usual (common practice)."""
    case = stage()
    said = said_notes(case, {12: 0.4, 30: 9.0})
    found = timed(case, said, Clock(100.0, 0.2, "go"))
    assert kinds(found) == [("call-late", 12), ("call-early", 30)]
    assert "0.4 s before" in found[0].why
    assert "You need 3.2 s" in found[0].why
    assert (found[0].facts["lead_s"], found[0].facts["habit_s"]) == (pytest.approx(0.4, abs=0.05), pytest.approx(3.2, abs=0.05))
    # This crew never wrote "early": it knows no note that would ask for it.
    assert [f.proposal for f in found] == [None, None]
    source = f"{case.hand.reading.source}\nearly left 4 60\n"
    english = next(la for la in shipped_languages() if la.code == "en")
    case = replace(case, hand=NoteWriter(read_notes(source, [english]), english))
    (late, _) = timed(case, said, Clock(100.0, 0.2, "go"))
    assert late.proposal is not None
    assert case.hand.read_back(late.proposal.text)[0].cautions[-1] == "early"
    assert timed(case, said, None) == []
    # Perhaps the note belongs to a corner further on, and was called in time for it.
    (sure, _), ties = found, case.lineup.ties
    doubtful = replace(case.lineup, ties=tuple(replace(t, sure=0.8) if t.note == 12 else t for t in ties))
    assert sure.severity == "change"
    assert [f.kind for f in timed(replace(case, lineup=doubtful), said, Clock(100.0, 0.2, "go"))] == ["call-early"]


def test_other_passes_strengthen_or_speak_against_a_finding() -> None:
    base = Finding("a", "grade-tighter", 3, 100.0, 140.0, "5", "4", "change", 0.7, 1.0, "It was 1 m.", None)
    near = replace(base, from_m=120.0, to_m=160.0)
    (agreed,) = with_other_passes([base], [Witness((near,))])
    assert agreed.confidence > base.confidence
    assert agreed.severity == "change"
    assert agreed.why.endswith("The other pass agrees.")
    (doubted,) = with_other_passes([base], [Witness(())])
    assert doubted.confidence < base.confidence
    assert doubted.severity == "check"
    assert "does not show it" in doubted.why
    danger = replace(base, severity="danger")
    assert with_other_passes([danger], [Witness(())])[0].severity == "danger"
    assert with_other_passes([base], []) == (base,)


@pytest.mark.parametrize(
    ("passes", "confidence", "severity", "words"),
    [
        # 1 - 0.3 x 0.5^agree, then x 0.75^against
        ("++", 0.925, "change", "2 other passes agree."),
        ("+-", 0.85 * 0.75, "change", "Of 2 other passes, 1 agree with it."),
        ("--", 0.7 * 0.75**2, "check", "2 other passes do not show it."),
        ("+--", 0.85 * 0.75**2, "check", "Of 3 other passes, 1 agree with it."),
    ],
)
def test_several_passes_are_counted(passes: str, confidence: float, severity: str, words: str) -> None:
    base = Finding("a", "grade-tighter", 3, 100.0, 140.0, "5", "4", "change", 0.7, 1.0, (), None)
    tightens = replace(base, kind="tightens-uncalled")  # the same trouble in other words
    elsewhere = replace(base, from_m=300.0, to_m=340.0)
    (told,) = with_other_passes([base], [Witness((tightens,) if p == "+" else (elsewhere,)) for p in passes])
    assert told.confidence == pytest.approx(confidence)
    assert (told.severity, told.why) == (severity, words)


def test_what_rests_on_this_pass_alone_is_not_asked_of_others() -> None:
    late = Finding("a", "call-late", 3, 100.0, 140.0, "1", "3", "change", 0.7, 1.0, (), None)
    assert with_other_passes([late], [Witness(())]) == (late,)


def test_the_road_behind_the_line_is_the_geometry_of_the_sagitta() -> None:
    """An arc with both ends on the outside and its middle on the inside of a road with room w: R + w c / (1 - c)."""
    for road, turn in ((40.0, 60.0), (15.0, 120.0), (80.0, 45.0)):
        cosine = np.cos(np.radians(turn) / 2)
        driven = road + 0.8 * cosine / (1 - cosine)
        estimate, spread = road_radius(driven, turn)
        assert estimate == pytest.approx(road, rel=1e-6)
        assert spread > 0
    assert road_radius(60.0, 20.0)[0] >= 0.35 * 60.0


def test_surer_the_farther_off_and_the_steadier_the_crew() -> None:
    assert surely_off(0.7, 0.5) == pytest.approx(0.5)
    assert surely_off(-2.0, 0.5) > 0.98 > surely_off(-1.2, 0.5) > surely_off(-1.2, 0.8) > 0.5


def test_a_pass_says_nothing_against_what_it_cant_show() -> None:
    """A slow pass does not fly, positions alone show no tightening, and neither makes a finding less sure."""
    jump = Finding("a", "jump-uncalled", 3, 100.0, 140.0, None, "jump", "danger", 0.9, 1.0, (), None)
    tightens = replace(jump, kind="tightens-uncalled")
    for finding, mute in ((jump, Witness((), pace=0.6)), (jump, Witness((), vertical=False)), (tightens, Witness((), coarse=True))):
        assert with_other_passes([finding], [mute]) == (finding,)
        (heard,) = with_other_passes([finding], [mute, Witness((finding,))])
        assert heard.confidence == pytest.approx(1 - 0.1 * 0.5)
    assert with_other_passes([jump], [Witness((), pace=0.95)])[0].confidence == pytest.approx(0.9 * 0.75)


def test_every_kind_has_a_row_and_every_row_a_judge() -> None:
    """What is not in the table can't be said; a row that no judge can say is a row too many."""
    with pytest.raises(ValueError, match="no kind of finding"):
        Finding("a", "corner-imagined", 3, 100.0, 140.0, None, None, "check", 0.9, 1.0, (), None)
    assert set(get_args(Group)) == {k.group for k in KINDS.values()}
    # What the judges name, their table of kinds left aside; some are put together: f"{way}-uncalled", f"distance-{way}".
    table = Path(finding_kinds.__file__).name
    trees = [ast.parse(p.read_text()) for p in Path(judging.__path__[0]).glob("*.py") if p.name != table]
    named = {str(n.value) for tree in trees for n in ast.walk(tree) if isinstance(n, ast.Constant)}
    unsaid = {k for k in KINDS if k not in named and k.partition("-")[0] + "-" not in named and "-" + k.partition("-")[2] not in named}
    assert unsaid == set(), "a kind without a judge: call one in all_judges.py, or take the row out of finding_kinds.py"
    assert not {k for k, row in KINDS.items() if row.time and not row.by_pace}, "time is a matter of pace"
    assert not {k for k, row in KINDS.items() for other in row.akin if k not in KINDS[other].akin}, "kin is mutual"
    assert not {k for k, row in KINDS.items() if row.too_much and row.too_little}
    told_nothing_later = {"maybe-settled", "call-late", "call-early", "cut-at-dont-cut", "said-otherwise", "said-by-you"}
    without = {k for k, row in KINDS.items() if row.aspect is None}
    assert without == told_nothing_later, "a kind with neither too_much nor too_little: no later pass can tell of it"


def test_what_a_crew_leaves_out_by_habit_is_one_remark() -> None:
    case = stage()
    place = 100.0
    crests = [finding_of("crest-uncalled", f"crest@{n}", place + 90.0 * n, risk=0.3) for n in range(6)]
    flying = finding_of("crest-uncalled", "crest@99", 40.0, risk=1.0)
    other = finding_of("dip-uncalled", "dip@3", 60.0, risk=0.3)
    plain = [replace(n, features=()) for n in case.notes]
    (alone, apart, habit) = sorted(merge_crew_habits([*crests, flying, other], plain), key=lambda f: f.from_m)
    assert (alone, apart) == (flying, other)
    assert (habit.id, habit.severity, habit.from_m, habit.facts["left_out"], habit.facts["called"]) == (
        "habit@crest",
        "remark",
        place,
        6,
        0,
    )
    assert "first of 6 like it" in habit.why
    # Whoever calls two of eight leaves none out by habit, nor does anybody by four.
    calling = [replace(n, features=(CalledFeature("crest"),)) if n.index < 2 else n for n in plain]
    assert merge_crew_habits([*crests, other], calling) == [*crests, other]
    assert merge_crew_habits(crests[:4], plain) == crests[:4]


def finding_of(kind: str, name: str, from_m: float, *, risk: float) -> Finding:
    return Finding(
        id=name,
        kind=kind,
        note=0,
        from_m=from_m,
        to_m=from_m + 20.0,
        called=None,
        met=None,
        severity="check",
        confidence=0.5,
        risk=risk,
        because=(message("No note calls a crest here."),),
        proposal=None,
    )
