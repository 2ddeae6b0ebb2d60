"""The alignment: against trying everything on small roads, and against slips of every kind on larger ones."""

from dataclasses import replace

import numpy as np
import pytest
from numpy.typing import NDArray

from mirkle.core.lineup import marginals as marginals_
from mirkle.core.lineup import road as roads
from mirkle.core.lineup.alignment import COST_OF_NOTE_WITHOUT_ROAD, USUAL_SPREAD_M, Fit, Search, align, fit_of, swept
from mirkle.core.lineup.called_notes import CalledNotes, Pin, calls_of, expected_gaps
from mirkle.core.lineup.crew_scale import PLAIN_GAPS, plain_yardstick
from mirkle.core.lineup.marginals import marginals
from mirkle.core.lineup.pairing import line_up, pin_down
from mirkle.core.lineup.road import road_of
from mirkle.core.motion.profile import Profile
from mirkle.core.notes.grading import GradingScheme
from mirkle.core.notes.model import Direction, Note, Span
from mirkle.core.recording.model import Floats
from tests.core.test_bends import profile

SCHOOL = GradingScheme()


def radius(grade: int) -> float:
    return 18.0 * 1.62 ** (grade - 1)


def corner(index: int, side: int, grade: int, metres: int | None) -> Note:
    way = Direction.LEFT if side > 0 else Direction.RIGHT
    return Note(index, 1, index + 1, f"{way.value} {grade}", Span(index, index + 1), way, str(grade), distance_m=metres)


def world(seed: int, count: int) -> tuple[Profile, list[Note], list[float]]:
    """A road of arcs with gaps, honest notes for it, and where each bend's middle lies."""
    rng = np.random.default_rng(seed)
    parts, notes, middles = [np.zeros(100)], [], []
    at, last = 100, 1
    for i in range(count):
        side = -last if rng.random() < 0.7 else last
        grade, last = int(rng.integers(1, 7)), side
        length = max(14, int(radius(grade) * np.radians(np.clip(rng.normal(70 - 9 * grade, 12), 16, 120))))
        gap = int(rng.choice([20, 30, 40, 60, 80, 120]))
        parts += [np.full(length, side / radius(grade)), np.zeros(gap)]
        notes.append(corner(i, side, grade, gap))
        middles.append(at + length / 2)
        at += length + gap
    curvature = np.convolve(np.concatenate([*parts, np.zeros(150)]), np.ones(7) / 7, mode="same")
    return profile(curvature + rng.normal(0, 4e-4, len(curvature))), notes, middles


def numbered(notes: list[Note]) -> tuple[Note, ...]:
    return tuple(replace(n, index=i) for i, n in enumerate(notes))


def right_ones(profile_: Profile, notes: list[Note], middles: list[float | None]) -> float:
    lineup = line_up(calls_of(numbered(notes), SCHOOL), road_of(profile_))
    hits = [
        (tie.bend is None) if middle is None else tie.bend is not None and tie.bend.from_m - 8 < middle < tie.bend.to_m + 8
        for tie, middle in zip(lineup.ties, middles, strict=True)
    ]
    return float(np.mean(hits))


@pytest.mark.parametrize("seed", range(4))
def test_honest_notes_find_their_bends(seed: int) -> None:
    assert right_ones(*world(seed, 60)) >= 0.98


@pytest.mark.parametrize("seed", range(4))
def test_slips_do_not_drag_their_neighbours(seed: int) -> None:
    profile_, notes, middles = world(seed, 60)
    assert notes[12].direction is not None
    notes[12] = replace(notes[12], direction=notes[12].direction.other)
    notes[22] = replace(notes[22], grade=str(1 + int(notes[22].grade or 1) % 6))
    notes[33] = replace(notes[33], distance_m=(notes[33].distance_m or 0) + 150)
    places: list[float | None] = list(middles)
    gone = next(i for i in range(40, 48) if notes[i - 1].direction != notes[i].direction != notes[i + 1].direction)
    del notes[gone], places[gone]  # a corner that no note calls
    phantom = corner(0, 1, 3, 40)
    notes.insert(50, phantom)
    places.insert(50, None)
    lineup = line_up(calls_of(numbered(notes), SCHOOL), road_of(profile_))
    assert right_ones(profile_, notes, places) >= 0.95
    assert any(abs(0.5 * (b.from_m + b.to_m) - middles[gone]) < 15 for b in (u.bend for u in lineup.uncalled))


@pytest.mark.parametrize("at", [0, 15, 45])
def test_a_distance_ten_times_too_long_moves_no_other_note(at: int) -> None:
    profile_, notes, _ = world(2, 60)
    places = [t.bend for t in line_up(calls_of(numbered(notes), SCHOOL), road_of(profile_)).ties]
    notes[at] = replace(notes[at], distance_m=1500)
    lineup = line_up(calls_of(numbered(notes), SCHOOL), road_of(profile_))
    assert [t.bend for t in lineup.ties] == places
    (gap,) = [g for g in lineup.gaps if g.note == at]
    assert gap.met_m is not None
    assert gap.met_m < 200


def test_a_slip_in_the_grade_does_not_hide_itself() -> None:
    """How sure a note is of its bend is asked without its own grade as well: a slip would lower it, and so what is said of the slip."""
    sure = []
    for seed in range(3):
        profile_, notes, middles = world(seed, 60)
        at = [i for i in range(8, 56, 6) if int(notes[i].grade or 0) <= 3]
        for i in at:
            notes[i] = replace(notes[i], grade=str(int(notes[i].grade or 0) + 3))
        # Without distances only grades and sides tell where a note belongs.
        bare = [replace(n, distance_m=None) for n in notes]
        ties = line_up(calls_of(numbered(bare), SCHOOL), road_of(profile_)).ties
        sure += [ties[i].sure for i in at if (bend := ties[i].bend) is not None and bend.from_m - 8 < middles[i] < bend.to_m + 8]
    assert len(sure) >= 12
    assert min(sure) > 0.9


def test_a_crew_whose_odometer_is_out_is_found_out() -> None:
    profile_, notes, _ = world(3, 70)
    stretched = [replace(n, distance_m=round((n.distance_m or 0) / 0.93)) for n in notes]
    assert line_up(calls_of(numbered(stretched), SCHOOL), road_of(profile_)).distances.factor == pytest.approx(0.93, abs=0.03)


def test_gaps_are_measured_and_not_echoed_from_the_note() -> None:
    profile_, notes, _ = world(5, 50)
    true = notes[20].distance_m
    notes[20] = replace(notes[20], distance_m=(true or 0) + 100)
    gap = next(g for g in line_up(calls_of(numbered(notes), SCHOOL), road_of(profile_)).gaps if g.note == 20)
    assert gap.met_m == pytest.approx(true, abs=12)


def test_a_pin_holds_and_its_neighbours_follow() -> None:
    """A note that was put one bend too far, and its followers with it, is set right by one pin."""
    profile_, notes, middles = world(11, 60)
    road, book = road_of(profile_), numbered(notes)
    honest = line_up(calls_of(book, SCHOOL), road)
    # Pin note 30 on the bend of note 31: it goes there, and note 31 gives way and finds the next, or none.
    pin = Pin(30, middles[31])
    near = pin_down(calls_of(book, SCHOOL, [pin]), road, honest, pin)
    whole = line_up(calls_of(book, SCHOOL, [pin]), road, before=honest)
    for lineup in (near, whole):
        bend = lineup.ties[30].bend
        assert bend is not None
        assert bend.from_m - 8 < middles[31] < bend.to_m + 8
        behind = lineup.ties[31].bend
        assert behind is None or behind.apex_m > middles[31]
    # Only what lies about the pin is looked at again, and elsewhere nothing moves.
    assert [t.bend for t in near.ties[:10]] == [t.bend for t in honest.ties[:10]]
    assert [t.bend for t in near.ties[50:]] == [t.bend for t in honest.ties[50:]]
    assert [t.bend for t in near.ties] == [t.bend for t in whole.ties]
    # Taken out again, all is as it was.
    back = pin_down(calls_of(book, SCHOOL), road, near, Pin(30, middles[30]))
    assert [t.bend for t in back.ties] == [t.bend for t in honest.ties]


@pytest.mark.parametrize("dip", [0.0, 0.5])
def test_a_second_apex_is_a_corner_of_its_own_only_where_the_road_eases_before_it(dip: float) -> None:
    """One note for a left of two apexes: with a clear easing between them, and a distance called from before the second, that
    one answers to no note.
    """
    profile_, notes, middles = world(14, 40)
    at = int(middles[20])
    bent = profile_.curvature_per_m.copy()
    side, size = notes[20].direction.sign, abs(bent[at])  # type: ignore[union-attr]
    length, gap = 60, 16
    both = np.concatenate([np.full(length, size), np.full(gap, size * dip), np.full(length, size)]) * side
    first = at - length // 2
    bent = np.concatenate([bent[:first], np.convolve(both, np.ones(5) / 5, mode="same"), np.zeros(60), bent[at + 40 :]])
    if dip == 0.0:
        notes[20] = replace(notes[20], distance_m=(notes[20].distance_m or 0) + gap + length + 60)
    lineup = line_up(calls_of(numbered(notes), SCHOOL), road_of(profile(bent)))
    second = first + length + gap + length / 2
    own = lineup.ties[20].bend
    assert own is not None
    beside = [u for u in lineup.uncalled if u.bend.from_m - 10 < second < u.bend.to_m + 10]
    answered = [t for t in lineup.ties if t.bend is not None and t.bend.from_m - 10 < second < t.bend.to_m + 10]
    assert bool(beside) != bool(answered), "each apex answers to one note or to none"
    if dip == 0.0:
        assert beside
        assert own.to_m < second


@pytest.mark.parametrize("ahead", [True, False])
@pytest.mark.parametrize("book", ["leaves the other out", "calls both as one"])
def test_the_distance_tells_a_corner_left_out_from_a_long_one_where_the_line_never_straightens(ahead: bool, book: str) -> None:
    """Two lefts with hardly an easing between and one note: its distances say whether the note means both or one of them."""
    profile_, notes, middles = world(14, 40)
    side, size = notes[20].direction.sign, 1 / radius(int(notes[20].grade or 0))  # type: ignore[union-attr]
    before, behind = int(middles[19]), int(middles[21])
    gone = np.full(46, 0.8 * size)
    lobes = [gone, np.full(12, 0.64 * size), np.full(50, size)]
    both = np.concatenate(lobes if ahead else lobes[::-1]) * side
    bent = profile_.curvature_per_m
    ends_m = before + int(np.flatnonzero(np.abs(bent[before:]) < 1e-3)[0])
    begins_m = behind - int(np.flatnonzero(np.abs(bent[:behind][::-1]) < 1e-3)[0])
    both = np.convolve(both, np.ones(5) / 5, mode="same")
    road = np.concatenate([bent[:ends_m], np.zeros(60), both, np.zeros(60), bent[begins_m:]])
    whole = book == "calls both as one"
    missing = 0 if whole else len(gone) + 12
    notes[19] = replace(notes[19], distance_m=60 + (missing if ahead else 0))
    notes[20] = replace(notes[20], distance_m=60 + (0 if ahead else missing), length="extra long" if whole else None)
    lineup = line_up(calls_of(numbered(notes), SCHOOL), road_of(profile(road)))
    middle = ends_m + 60 + (23 if ahead else 62 + 23)
    alone = [u for u in lineup.uncalled if u.bend.from_m - 5 < middle < u.bend.to_m + 5]
    assert bool(alone) != whole


def test_a_note_can_be_said_to_have_no_bend() -> None:
    profile_, notes, _ = world(12, 40)
    road, book = road_of(profile_), numbered(notes)
    honest, nowhere = line_up(calls_of(book, SCHOOL), road), Pin(20, None)
    lineup = pin_down(calls_of(book, SCHOOL, [nowhere]), road, honest, nowhere)
    assert lineup.ties[20].bend is None
    before = honest.ties[20].bend
    assert before is not None
    assert any(abs(b.apex_m - before.apex_m) < 10 for b in (u.bend for u in lineup.uncalled))
    assert [t.bend for t in lineup.ties[:19]] == [t.bend for t in honest.ties[:19]]


def test_a_note_that_surely_has_no_bend_holds_nothing_about_it() -> None:
    """A pin beside notes that were surely put on no bend: they bound no stretch of road."""
    profile_, notes, middles = world(12, 40)
    road, book = road_of(profile_), numbered(notes)
    pins = [Pin(8, None), Pin(32, None)]
    lineup = line_up(calls_of(book, SCHOOL, pins), road)
    surely = replace(lineup, ties=tuple(replace(t, sure=1.0) if t.note in (8, 32) else t for t in lineup.ties))
    pin = Pin(20, middles[20])
    assert pin_down(calls_of(book, SCHOOL, [*pins, pin]), road, surely, pin).ties[20].bend is not None


def test_a_pin_far_off_leads_the_rest_along() -> None:
    """A book whose distances are a third too short goes astray on a long stage; two pins bring it back."""
    profile_, notes, middles = world(13, 90)
    road = road_of(profile_)
    book = numbered([replace(n, distance_m=round((n.distance_m or 0) * 0.66)) for n in notes])
    pins = [Pin(30, middles[30]), Pin(60, middles[60])]
    lineup = line_up(calls_of(book, SCHOOL, pins), road)
    hits = [t.bend is not None and t.bend.from_m - 8 < m < t.bend.to_m + 8 for t, m in zip(lineup.ties, middles, strict=True)]
    assert np.mean(hits) >= 0.97


def test_a_distance_of_more_than_any_page_is_survived() -> None:
    """One that reaches back over the whole road leaves nothing further back to look at."""
    profile_, notes, middles = world(31, 80)
    notes[40] = replace(notes[40], distance_m=9000)
    lineup = line_up(calls_of(numbered(notes), SCHOOL), road_of(profile_))
    right = [t.bend is not None and t.bend.from_m - 8 < m < t.bend.to_m + 8 for t, m in zip(lineup.ties, middles, strict=True)]
    assert np.mean(right) >= 0.97


@pytest.mark.parametrize("out", [(0, 7), (35, 42), (73, 80)])
@pytest.mark.parametrize("seed", [31, 34])
def test_a_page_that_is_missing_leaves_the_others_sure_of_their_place(seed: int, out: tuple[int, int]) -> None:
    """At the beginning, in the middle and at the end: more road than any called distance lies between two notes then."""
    profile_, notes, middles = world(seed, 80)
    kept = [i for i in range(80) if not out[0] <= i < out[1]]
    lineup = line_up(calls_of(numbered([notes[i] for i in kept]), SCHOOL), road_of(profile_))
    right = [t.bend is not None and t.bend.from_m - 8 < middles[i] < t.bend.to_m + 8 for t, i in zip(lineup.ties, kept, strict=True)]
    assert np.mean(right) >= 0.98
    assert np.mean([t.sure > 0.9 for t in lineup.ties]) >= 0.98


def test_the_programme_finds_what_trying_everything_finds(monkeypatch: pytest.MonkeyPatch) -> None:
    """On a road short enough, every way of giving three notes to runs of pieces or to nothing is tried."""
    monkeypatch.setattr(roads, "MOST_PIECES", 5)
    for seed in range(3):
        profile_, notes, _ = world(seed + 20, 3)
        calls = calls_of(numbered(notes), SCHOOL)
        road = road_of(profile_)
        fit = fit_of(calls, road, plain_yardstick(SCHOOL))
        everywhere = Search(PLAIN_GAPS, [(0, len(road.pieces))] * 3)
        chosen, _ = align(road, fit, everywhere)
        found = _costs(calls, road, fit)[1](chosen)
        assert found <= min(cost for _, cost in _every(calls, road, fit)) + 1e-6


def _costs(calls, road, fit):  # type: ignore[no-untyped-def]
    """What each run costs each note, and what gives the cost of an alignment, added up note by note straight from its definition."""
    expected, scatter = (list(map(float, of)) for of in expected_gaps(calls, PLAIN_GAPS))
    own, _ = fit.costs(*_every_run(calls, road))

    def cost_of(chosen) -> float:  # type: ignore[no-untyped-def]
        total, ended, piece, owed, loose = 0.0, 0.0, 0, 0.0, 0.0
        for i, run in enumerate(chosen):
            if run < 0:
                total += COST_OF_NOTE_WITHOUT_ROAD
                owed += (expected[i] if np.isfinite(expected[i]) else 0.0) + 25.0
                loose = float(np.hypot(loose, np.hypot(scatter[i], 20.0))) if np.isfinite(expected[i]) else np.inf
                continue
            a, b = road.a[run], road.b[run]
            met = road.pieces.from_m[a] - ended - owed
            spread = float(np.hypot(scatter[i], loose))
            # A distance of which a part was not called says nothing.
            gap = (
                0.3 + 0.004 * abs(met)
                if np.isnan(expected[i]) or np.isinf(spread)
                else 2.0 * np.log1p(((met - expected[i]) / spread) ** 2 / 3.0) + np.log(spread / USUAL_SPREAD_M)
            )
            total += gap + road.left_over[a] - road.left_over[piece] + float(own[i][run])
            ended, piece, owed, loose = road.runs.to_m[run], b + 1, 0.0, 0.0
        return total + road.left_over[-1] - road.left_over[piece]

    return own, cost_of


def _every(calls, road, fit, most: float = 6.0) -> list[tuple[list[int], float]]:  # type: ignore[no-untyped-def]
    """All alignments that are not hopeless with their costs, by a walk that shares nothing with the programme but the costs."""
    found = []
    own, cost_of = _costs(calls, road, fit)

    def walk(chosen: list[int]) -> None:
        i = len(chosen)
        if i == len(calls.notes):
            found.append((chosen, cost_of(chosen)))
            return
        last = max((road.b[r] for r in chosen if r >= 0), default=-1)
        # A run that costs more than leaving every note and bend aside can't be part of the best.
        for run in np.flatnonzero((road.a > last) & (own[i] < most)):
            walk([*chosen, int(run)])
        walk([*chosen, -1])

    walk([])
    return found


def test_sums_over_all_alignments_are_those_of_trying_everything(monkeypatch: pytest.MonkeyPatch) -> None:
    """How sure each note is of its bend, and of each piece of road that no note claims it: the shares of all alignments."""
    monkeypatch.setattr(roads, "MOST_PIECES", 5)
    monkeypatch.setattr(marginals_, "MOST_PIECES", 5)
    unsure = 0
    for seed, graded in ((20, 0), (21, 0), (22, 0), (20, 2), (21, 3)):
        profile_, notes, _ = world(seed, 3)
        # A note two or three grades off, or that calls the other side, may belong nowhere.
        if graded:
            notes[1] = corner(1, -notes[1].direction.sign, graded, 30)
        calls, road = calls_of(numbered(notes), SCHOOL), road_of(profile_)
        fit = fit_of(calls, road, plain_yardstick(SCHOOL))
        everywhere = Search(PLAIN_GAPS, [(0, len(road.pieces))] * 3)
        chosen, _ = align(road, fit, everywhere)
        sums = marginals(road, fit, everywhere, chosen)
        every = _every(calls, road, fit, most=14.0)
        likely = np.exp(min(cost for _, cost in every) - np.array([cost for _, cost in every]))
        likely /= likely.sum()
        # All alignments together, with the way to the end of the road, which costs what that from the start does. (Where alignments that owe
        # different metres come together the likelier one's stand for both: that is what is missing to the exact sum.)
        whole = swept(road, fit, everywhere).whole
        closed = [cost + 0.3 + 0.004 * abs(_left_m(calls, road, c)) for c, cost in every]
        assert whole == pytest.approx(min(closed) - np.log(np.exp(min(closed) - np.array(closed)).sum()), abs=0.2)
        free = np.ones(len(road.pieces))
        for i, run in enumerate(chosen):
            same = np.array([_shared(road, c[i], run) for c, _ in every])
            assert sums.sure[i] == pytest.approx(likely[same].sum(), abs=0.08)
            unsure += 0.02 < sums.sure[i] < 0.98
        for (c, _), share in zip(every, likely, strict=True):
            for run in c:
                if run >= 0:
                    free[road.a[run] : road.b[run] + 1] -= share
        assert sums.free == pytest.approx(free, abs=0.1)
    assert unsure >= 2


def _left_m(calls, road, chosen: list[int]) -> float:  # type: ignore[no-untyped-def]
    """From the end of the last note's bend, and what the notes behind it owe, to the end of the road."""
    expected, _ = expected_gaps(calls, PLAIN_GAPS)
    last = max((i for i, run in enumerate(chosen) if run >= 0), default=-1)
    owed = sum((e if np.isfinite(e) else 0.0) + 25.0 for e in expected[last + 1 :])
    return float(road.profile.length_m - (road.runs.to_m[chosen[last]] if last >= 0 else 0.0) - owed)


def _shared(road, run: int, own: int) -> bool:  # type: ignore[no-untyped-def]
    """Whether two runs share road, or both are none."""
    if run < 0 or own < 0:
        return run < 0 and own < 0
    return bool(road.runs.to_m[run] > road.runs.from_m[own] and road.runs.from_m[run] < road.runs.to_m[own])


def test_a_yardstick_that_fits_closely_is_worth_its_width_to_each_note() -> None:
    """A density twice as wide is half as high: ln 2 nats for a note that lies in its middle."""
    profile_, notes, _ = world(3, 12)
    calls, road = calls_of(numbered(notes), SCHOOL), road_of(profile_)
    fit = fit_of(calls, road, plain_yardstick(SCHOOL))
    on_it = replace(fit, position=np.full(len(road.a), calls.position[4]))

    def costs(fit: Fit, scatter: float) -> Floats:
        own, _ = replace(fit, scatter=scatter).costs(*_every_run(calls, road))
        return own[4]

    assert costs(on_it, 0.8) - costs(on_it, 0.4) == pytest.approx(np.full(len(road.a), np.log(2.0)))
    off = replace(fit, position=np.full(len(road.a), calls.position[4] + 2.0))
    assert (costs(off, 0.4) > costs(off, 0.8)).all()


def _every_run(calls: CalledNotes, road: roads.Road) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """For each note the first run that it may be on, and behind the last: all of them."""
    first = np.zeros(len(calls.notes), dtype=np.intp)
    return first, first + len(road.a)


def test_a_book_of_few_notes_finds_its_bends_over_long_distances() -> None:
    """Six hundred metres of a road that weaves hold more pieces than corners; the predecessor is looked for by metres."""
    weave = np.sin(np.arange(600) * 2 * np.pi / 20.0) / 150.0
    parts, notes, middles, at = [np.zeros(100)], [], [], 100
    for i in range(9):
        side, grade = (-1) ** i, 2 + i % 3
        length = int(radius(grade) * np.radians(75))
        parts += [np.full(length, side / radius(grade)), weave]
        notes.append(corner(i, side, grade, 600))
        middles.append(at + length / 2)
        at += length + 600
    curvature = np.convolve(np.concatenate([*parts, np.zeros(100)]), np.ones(5) / 5, mode="same")
    assert right_ones(profile(curvature), notes, middles) == 1.0


def test_a_gap_between_unsure_neighbours_is_not_used() -> None:
    profile_, notes, _ = world(6, 30)
    lineup = line_up(calls_of(numbered(notes), SCHOOL), road_of(profile_))
    sure = {t.note: t.sure for t in lineup.ties}
    for gap in lineup.gaps:
        expected = gap.met_m is not None and min(sure[gap.note], sure[gap.next_note]) > 0.8
        assert gap.usable == expected
    assert sum(g.usable for g in lineup.gaps) > 20
