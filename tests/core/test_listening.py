"""When each note was called, from where there is a voice: the sums against trying everything, and what must not be hidden or invented."""

from __future__ import annotations

import sys
from itertools import product
from pathlib import Path

import numpy as np
import pytest

from mirkle.core.audio import segments
from mirkle.core.audio.calls import HeardCall, Listening, NotePriors, listen, voice_evidence
from mirkle.core.audio.clock import sound_clock
from mirkle.core.audio.lengths import Rate, rate_of, syllables_of
from mirkle.core.audio.repeats import repeats_told, warped
from mirkle.core.audio.segments import Activity, Begins, log_probability, place
from mirkle.core.notes.reading import read_notes
from mirkle.files.notes.languages import shipped_languages

sys.path.insert(0, str(Path(__file__).parents[2] / "bench"))

from rough.voice import STEP, stretch

# The sums


def tried_everything(
    evidence: np.ndarray, step: float, syllables: np.ndarray, rate: Rate, begins: list[Begins]
) -> tuple[float, list[dict[int, float]], np.ndarray]:
    """Every way through a few frames: the logarithm of their sum, where each note begins, and where remarks lie."""
    frames, total = len(evidence), np.concatenate([[0.0], np.cumsum(evidence)])
    spans = [segments._durations(float(u), rate.spread, step) for u in np.log(rate.seconds(syllables))]
    enter = -segments.REMARK + np.log(step / segments.REMARK_S)
    again_cost = -segments.AGAIN + np.log(step / segments.AGAIN_WITHIN_S)
    starts: list[dict[int, float]] = [{} for _ in begins]
    remarks = np.zeros(frames + 1)
    weights = []

    def lasting(i: int, s: int) -> list[tuple[int, float]]:
        first, logs = spans[i]
        return [(s + first + k, float(log) + total[s + first + k] - total[s]) for k, log in enumerate(logs) if s + first + k <= frames]

    def remarked(at: int, left: int, enter: float = enter) -> list[tuple[int, float, list[tuple[int, int]]]]:
        ways = [(at, 0.0, [])]
        if left:
            for s in range(at, frames + 1):
                for u in range(s, frames + 1):
                    log = enter + total[u] - total[s] - (u - s) * step / segments.REMARK_S
                    ways += [(end, log + more, [(s, u), *rest]) for end, more, rest in remarked(u, left - 1, enter)]
        return ways

    def go(i: int, at: int, log: float, chosen: list[tuple[int, int]], spoken: list[tuple[int, int]]) -> None:
        if i == len(begins):
            weights.append((log, list(chosen), list(spoken)))
            return
        go(i + 1, at, log - segments.LEFT_OUT, chosen, spoken)
        for s in range(max(at, begins[i].first), begins[i].first + len(begins[i].log)):
            for end, worth in lasting(i, s):
                here = log + worth + float(begins[i].log[s - begins[i].first])
                ends = [(end, 0.0)]
                ends += [(u, again_cost + w) for a in range(end, frames + 1) if again_fits(i, a) for u, w in lasting(i, a)]
                for after, more in ends:
                    for done, talk, where in remarked(after, segments.MOST_REMARKS):
                        go(i + 1, done, here + more + talk, [*chosen, (i, s)], [*spoken, *where])

    def again_fits(i: int, a: int) -> bool:
        first, logs = spans[i]
        last = min(begins[i].first + len(begins[i].log) + first + len(logs) + round(segments.AGAIN_WITHIN_S / step), frames + 1)
        return begins[i].first <= a < last

    before_it = -segments.BEFORE_IT + np.log(step / segments.REMARK_S)
    for at, log, where in remarked(0, segments.MOST_BEFORE_IT, before_it):
        go(0, at, log, [], where)
    log_total = float(np.logaddexp.reduce([w for w, _, _ in weights]))
    for log, chosen, spoken in weights:
        for i, s in chosen:
            starts[i][s] = starts[i].get(s, 0.0) + float(np.exp(log - log_total))
        for s, u in spoken:
            remarks[s : u + 1] += float(np.exp(log - log_total))
    return log_total, starts, remarks


@pytest.mark.parametrize(("seed", "between", "ahead"), [(0, 1, 2), (1, 2, 1), (2, 1, 1)])
def test_the_sums_are_those_over_all_ways(seed: int, between: int, ahead: int, monkeypatch: pytest.MonkeyPatch) -> None:
    """With costs so small that every kind of way weighs something, and so few frames that all can be tried."""
    for name, value in (
        ("LEFT_OUT", 0.7),
        ("AGAIN", 0.2),
        ("REMARK", 0.1),
        ("MOST_REMARKS", between),
        ("BEFORE_IT", 0.05),
        ("MOST_BEFORE_IT", ahead),
        ("AGAIN_WITHIN_S", 1.0),
    ):
        monkeypatch.setattr(segments, name, value)
    rng = np.random.default_rng(seed)
    step, frames = 0.3, 6
    evidence = rng.normal(0, 1.0, frames)
    begins = [Begins(0, np.log(rng.dirichlet(np.ones(3)))), Begins(2, np.log(rng.dirichlet(np.ones(3))))]
    syllables, rate = np.array([2.0, 3.0]), Rate(5.0, 0.1, 0.3)
    placed = place(Activity(evidence, step), syllables, rate, begins)
    log_total, starts, remarks = tried_everything(evidence, step, syllables, rate, begins)
    assert placed.log_total == pytest.approx(log_total)
    for i, at in enumerate(starts):
        wanted = [at.get(placed.first[i] + k, 0.0) for k in range(len(placed.begins[i]))]
        np.testing.assert_allclose(placed.begins[i], wanted, atol=1e-9)
    np.testing.assert_allclose(placed.other, remarks, atol=1e-9)
    assert log_probability(Activity(evidence, step), syllables, rate, begins) == placed.log_total
    lean = place(Activity(evidence, step), syllables, rate, begins, notes_only=True)
    np.testing.assert_array_equal(np.concatenate(lean.begins), np.concatenate(placed.begins))


def test_sums_hold_where_the_evidence_runs_over_hundreds_of_nats() -> None:
    """A minute of sound speaks for one thing and against the next: each moment's sum is still that of its own window."""
    rng = np.random.default_rng(8)
    values, logs = (np.cumsum(rng.normal(0, 4.0, 900)) + 300 * np.sin(np.arange(900) / 90), np.log(rng.dirichlet(np.ones(30))))
    values[200:260] = segments.NEVER
    wanted = [np.logaddexp.reduce(values[j : j + 30] + logs) for j in range(871)]
    np.testing.assert_allclose(segments._summed(values, logs), np.maximum(wanted, segments.NEVER), rtol=1e-9)


# Lengths


@pytest.mark.parametrize(
    ("text", "code", "wanted"),
    [
        # Counted from a dictionary of each language's hyphenation, from memory.
        ("L4 long 150", "en", [1 + 1 + 1 + 1 + 2 + 2]),
        ("right 3 tightens into", "en", [1 + 1 + 2 + 2]),
        ("esquerda 4 50\ndireita gancho 100", "pt", [3 + 2 + 3, 3 + 2 + 1]),
    ],
)
def test_syllables_are_those_that_are_said_not_written(text: str, code: str, wanted: list[int]) -> None:
    language = next(la for la in shipped_languages() if la.code == code)
    reading = read_notes(text, [language])
    found = syllables_of(reading, language)
    assert np.all(np.abs(found - wanted) <= 1)


def test_a_co_drivers_rate_is_learnt_beside_wrong_durations() -> None:
    rng = np.random.default_rng(1)
    syllables = rng.integers(3, 12, 60).astype(float)
    took = (0.2 + syllables / 7.0) * np.exp(rng.normal(0, 0.08, 60))
    took[::7] = rng.uniform(0.3, 3.0, len(took[::7]))
    found = rate_of(syllables, took, before=Rate())
    assert found.syl_s == pytest.approx(7.0, rel=0.08)
    assert found.edge_s == pytest.approx(0.2, abs=0.08)
    few = rate_of(syllables[:5], took[:5], before=Rate(4.0))
    assert few == Rate(4.0)


def test_evidence_tells_voice_from_noise_however_unsure_the_network_is() -> None:
    rng = np.random.default_rng(2)
    speaks = rng.random(6000) < 0.2
    for off in (0.0, -5.0):
        logit = np.where(speaks, 4.0, -6.0) + rng.normal(0, 2.5, 6000) + off
        evidence, clear = voice_evidence(1 / (1 + np.exp(-logit)), 0.2)
        right = np.mean((evidence > 0) == speaks)
        assert right > 0.95
        # What the network is surest of is cut off at the bottom, which only narrows the noise.
        assert 3.5 < clear < 6.0


# Whole stretches, made of evidence alone


@pytest.mark.parametrize("seed", range(3))
def test_calls_are_found_with_the_road_and_without(seed: int) -> None:
    syllables, place_s, said, sure = stretch(seed)
    for places in (place_s, np.full(len(place_s), np.nan)):
        found = listen(sure, STEP, NotePriors(syllables, places))
        off = np.array([c.from_s for c in found.calls]) - said
        assert np.mean(np.abs(off) < 0.3) > 0.9
        assert np.mean([c.sure for c in found.calls]) == pytest.approx(np.mean(np.abs(off) < 0.3), abs=0.1)


@pytest.mark.parametrize("by_s", [1.5, 2.5])
def test_the_road_does_not_hide_a_late_call(by_s: float) -> None:
    late = dict.fromkeys((8, 15, 22), by_s)
    syllables, place_s, said, sure = stretch(7, late=late)
    found = listen(sure, STEP, NotePriors(syllables, place_s))
    for i in late:
        call = found.calls[i]
        assert abs(call.from_s - said[i]) < 0.5 or call.doubtful
        assert call.from_s - said[i] > -0.5, "never reported early"
    assert sum(abs(found.calls[i].from_s - said[i]) < 0.5 for i in late) >= 2
    assert found.lead_s == pytest.approx(3.3, abs=0.2)


def test_what_was_left_out_is_not_heard_and_talk_is_a_remark() -> None:
    syllables, place_s, said, sure = stretch(3, left_out=(6, 17))
    # Somebody speaks where no note is due.
    gap = int(np.argmax(np.diff(said[np.isfinite(said)])))
    begun = said[np.isfinite(said)][gap] + 0.15 + syllables[np.isfinite(said)][gap] / 5.8 + 0.7
    sure = sure.copy()
    sure[int(begun / STEP) : int((begun + 0.5) / STEP)] = 0.999
    found = listen(sure, STEP, NotePriors(syllables, place_s))
    assert [c.note for c in found.calls if not c.was_heard] == [6, 17]
    assert any(abs(a - begun) < 0.3 for a, _ in found.others)


def test_a_call_set_by_hand_stays_and_its_neighbours_give_way() -> None:
    syllables, place_s, said, sure = stretch(4)
    before = listen(sure, STEP, NotePriors(syllables, place_s))
    after = listen(sure, STEP, NotePriors(syllables, place_s, pinned_s={10: said[10] + 2.0}), like=before)
    assert after.calls[10].from_s == pytest.approx(said[10] + 2.0, abs=0.1)
    assert all(a.from_s < b.from_s for a, b in product(after.calls[8:10], after.calls[10:12]) if a.was_heard and b.was_heard)
    assert after.calls[20].from_s == pytest.approx(before.calls[20].from_s, abs=0.1)


def test_in_mere_noise_it_says_so() -> None:
    syllables, place_s, _, _ = stretch(5)
    noise = np.random.default_rng(5).normal(-3, 2.0, 4000)
    assert listen(1 / (1 + np.exp(-noise)), STEP, NotePriors(syllables, place_s)).too_noisy


@pytest.mark.parametrize("offset_s", [-41.3, 0.0, 312.6])
def test_the_noise_of_the_car_ties_the_clocks_whatever_the_crews_lead(offset_s: float) -> None:
    syllables, place_s, _, sure = stretch(6, late=dict.fromkeys(range(30), 1.0))
    rng = np.random.default_rng(6)
    time_s = np.arange(0, 200, 0.1)
    speed = np.where(time_s < 10, 0.0, 18 + 8 * np.sin(time_s / 7) + 4 * np.sin(time_s / 2.3))
    at = (np.arange(len(sure)) + 0.5) * STEP
    loud = 20 * np.log10(1 + np.interp(at, time_s, speed)) + rng.normal(0, 3, len(at)) + 12 * (sure > 0.5)
    evidence, _ = voice_evidence(sure, 0.3)
    run_s = place_s - offset_s
    found = sound_clock(Activity(evidence, STEP), loud, syllables, run_s, time_s - offset_s, speed)
    assert found is not None
    assert found.by == "noise"
    assert found.sound_minus_run_s == pytest.approx(offset_s, abs=0.2)
    silent = sound_clock(Activity(evidence, STEP), np.zeros(len(at)), syllables, run_s, time_s - offset_s, speed)
    assert silent is not None
    assert silent.by == "calls"
    mere_noise = np.random.default_rng(6).normal(0, 0.5, len(sure))
    assert sound_clock(Activity(mere_noise, STEP), loud, syllables, run_s, time_s - offset_s, speed) is None
    assert silent.sound_minus_run_s == pytest.approx(offset_s + 1.0, abs=0.6), "a lead a second short looks like a clock a second off"


# Said again


def warped_plainly(a: np.ndarray, b: np.ndarray) -> float:
    """Dynamic time warping as it is written down."""
    apart = np.sqrt(((a[:, None] - b[None]) ** 2).sum(axis=2))
    n, m = apart.shape
    least = np.full((n + 1, m + 1), np.inf)
    least[0, 0] = 0.0
    for i in range(1, n + 1):
        for j in range(1, m + 1):
            least[i, j] = apart[i - 1, j - 1] + min(least[i - 1, j - 1], least[i - 1, j], least[i, j - 1])
    return float(least[n, m]) / (n + m)


def test_warping_by_diagonals_is_warping_cell_by_cell() -> None:
    rng = np.random.default_rng(4)
    for n, m in ((1, 1), (1, 6), (5, 1), (4, 9), (17, 12), (30, 31)):
        a, b = rng.normal(size=(n, 12)), rng.normal(size=(m, 12))
        assert warped(a, b) == pytest.approx(warped_plainly(a, b))


CEPSTRUM = 0.016


def voice_of_notes(rng: np.random.Generator, count: int) -> list[np.ndarray]:
    """What each of some notes sounds like: cepstra that wander."""
    return [np.cumsum(rng.normal(size=(60, 12)), axis=0) / 3.0 for _ in range(count)]


def heard_with(speech: np.ndarray, at_s: float) -> Listening:
    """Twelve calls, one every five seconds, and speech behind or ahead of one of them."""
    rng = np.random.default_rng(8)
    notes = voice_of_notes(rng, 12)
    cepstra = rng.normal(size=(int(70 / CEPSTRUM), 12)) * 0.1
    for k, sound in enumerate(notes):
        cepstra[int(5 * k / CEPSTRUM) :][: len(sound)] += sound
    cepstra[int(at_s / CEPSTRUM) :][: len(speech)] += speech
    calls = tuple(HeardCall(k, 5.0 * k, 5.0 * k + 0.96, 0.95, 1.0) for k in range(12))
    found = Listening(calls, (), ((at_s, at_s + len(speech) * CEPSTRUM),), Rate(), 3.0, 0.5, 4.0)
    return repeats_told(found, cepstra, CEPSTRUM)


def quicker(sound: np.ndarray) -> np.ndarray:
    """The same, said in five sixths of the time."""
    at = np.linspace(0, len(sound) - 1, len(sound) * 5 // 6)
    return np.stack([np.interp(at, np.arange(len(sound)), sound[:, k]) for k in range(sound.shape[1])], axis=1)


def test_a_note_said_again_is_told_from_other_speech_by_how_it_sounds() -> None:
    notes = voice_of_notes(np.random.default_rng(8), 12)
    again = heard_with(quicker(notes[4]), 22.0)
    assert again.again == ((4, 22.0),)
    assert again.others == ()
    assert [c.from_s for c in again.calls] == [5.0 * k for k in range(12)]
    talk = heard_with(voice_of_notes(np.random.default_rng(99), 1)[0], 22.0)
    assert talk.again == ()
    assert len(talk.others) == 1
    far = heard_with(quicker(notes[2]), 22.0)
    assert far.again == (), "what another note sounds like is no repeat of this one"
