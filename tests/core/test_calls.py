"""One clock for words and recording: the offset, and a rate that is not the recorder's."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from scipy.stats import theilslopes

from mirkle.core.lineup.call_clock import Clock, clock_of, gains_of, heard_places, places_s
from mirkle.core.motion.segments import Segment
from mirkle.core.speech.reading import CallTime, Speech
from mirkle.files.speech.timed_text import parse_calls
from tests.core.test_bends import profile

START_S, OFFSET_S = 60.0, 17.5


def calls(rate: float, *, seed: int = 0, count: int = 100, scatter_s: float = 0.8) -> tuple[list[CallTime | None], np.ndarray]:
    """Calls over 400 s by a crew that likes 3.4 s, on a clock of some rate; and when the car came to each place."""
    rng = np.random.default_rng(seed)
    place_s = START_S + np.sort(rng.uniform(5, 400, count))
    at_s = place_s - rng.normal(3.4, scatter_s, count)
    on_words = START_S + OFFSET_S + (at_s - START_S) * rate
    return [CallTime(float(t), float(t) + 1.0, 0.1) for t in on_words], place_s


@pytest.mark.parametrize("seed", range(3))
@pytest.mark.parametrize("rate", [25 / 24, 44.1 / 48, 1.01])
def test_sound_at_another_rate_is_found_out(rate: float, seed: int) -> None:
    said, place_s = calls(rate, seed=seed)
    clock = clock_of(silence(), said, place_s, drive())
    assert clock is not None
    assert clock.gains == pytest.approx(rate - 1, abs=0.002)
    for t in (START_S, START_S + 200, START_S + 400):
        true = START_S + OFFSET_S + (t - START_S) * rate
        assert clock.calls_s(t) == pytest.approx(true, abs=0.8)
        assert clock.run_s(clock.calls_s(t)) == pytest.approx(t)


@pytest.mark.parametrize("seed", range(12))
def test_a_crews_uneven_lead_is_no_drift(seed: int) -> None:
    said, place_s = calls(1.0, seed=seed)
    # Some calls are a catch-up, far too late: they pull no slope.
    for i in range(60, 100, 9):
        late = said[i]
        assert late is not None
        said[i] = CallTime(late.from_s + 5.0, late.to_s + 5.0, 0.1)
    clock = clock_of(silence(), said, place_s, drive())
    assert clock is not None
    assert clock.gains == 0.0
    assert clock.calls_minus_run_s == pytest.approx(OFFSET_S, abs=2 * clock.uncertainty_s)


def test_a_hand_sets_the_offset_and_the_rate_stays() -> None:
    said, place_s = calls(25 / 24)
    clock = clock_of(silence(), said, place_s, drive(), set_offset_s=12.0)
    assert clock is not None
    assert (clock.by, clock.calls_minus_run_s) == ("hand", 12.0)
    assert clock.calls_s(START_S) == START_S + 12.0
    assert clock.gains == pytest.approx(1 / 24, abs=0.002)


def test_the_slope_is_scipys_theil_sen() -> None:
    """``scipy.stats.theilslopes`` (SciPy) gives the same slope where the times lie well apart."""
    rng = np.random.default_rng(4)
    driven = np.arange(40) * 9.0
    early = 14.0 + 0.03 * driven + rng.normal(0, 0.7, 40)
    assert gains_of(early, driven) == pytest.approx(float(theilslopes(early, driven)[0]))


def test_few_calls_tell_of_no_rate() -> None:
    said, place_s = calls(25 / 24, count=12)
    clock = clock_of(silence(), said, place_s, drive())
    assert clock is None or clock.gains == 0.0
    assert Clock(3.0, 0.2, "go").run_s(10.0) == 7.0


def silence() -> Speech:
    """Words without a countdown."""
    return parse_calls(b"WEBVTT\n\n00:01.000 --> 00:02.000\nleft four fifty\n", name="c.vtt")


def drive() -> Segment:
    return Segment(start_m=0.0, start_s=START_S, stop_m=9000.0, stop_s=START_S + 410.0)


def test_go_is_said_a_reaction_before_the_car_moves() -> None:
    """A third of a second (common practice); without it the clock rests on the lead, by the median's own error."""
    said, place_s = calls(1.0, scatter_s=0.01)
    begun = replace(silence(), go_s=77.0)
    by_go = clock_of(begun, said, place_s, drive())
    assert by_go is not None
    assert (by_go.by, by_go.calls_minus_run_s) == ("go", pytest.approx(77.0 + 0.35 - START_S))
    # "Go" says 17.35 s, the usual lead 17.5 s: a reaction's own uncertainty covers that. Where they are 2 s apart neither is known.
    assert by_go.uncertainty_s == 0.25
    apart = clock_of(replace(silence(), go_s=75.0), said, place_s, drive())
    assert apart is not None
    assert apart.calls_minus_run_s == pytest.approx(75.35 - START_S)
    assert apart.uncertainty_s == pytest.approx(0.5 * (OFFSET_S + 0.15 - 15.35), abs=0.02)
    errors = []
    for scatter_s, count in ((0.01, 100), (2.0, 100), (2.0, 25)):
        said, place_s = calls(1.0, scatter_s=scatter_s, count=count)
        clock = clock_of(silence(), said, place_s, drive())
        assert clock is not None
        errors.append(clock.uncertainty_s)
    assert errors[0] < errors[1] < errors[2] < 1.0
    # Blocks of many words blur the whole by a quarter of themselves.
    said, place_s = calls(1.0, scatter_s=0.01)
    blocks = [replace(s, uncertainty_s=8.0) for s in said if s is not None]
    coarse = clock_of(silence(), blocks, place_s, drive())
    assert coarse is not None
    assert coarse.uncertainty_s == pytest.approx(np.hypot(errors[0], 2.0), abs=0.01)


def test_where_the_calls_put_a_note_goes_by_the_habitual_lead() -> None:
    """Said two seconds before each place at 20 m/s: the note that was said late is put so much later on the road."""
    at = np.arange(0.0, 4000.0)
    road = profile(np.zeros(4000))
    road = replace(road, speed_mps=np.full(4000, 20.0), time_s=100.0 + at / 20.0)
    places_m = np.arange(300.0, 3300.0, 150.0)
    place_s = places_s(places_m, road)
    said = [CallTime(float(t) - 2.0, float(t) - 1.5, 0.1) for t in place_s]
    said[10] = CallTime(float(place_s[10]), float(place_s[10]) + 0.5, 0.1)
    heard_m, sigma_m = heard_places(said, Clock(0.0, 0.2, "go", 0.0, 100.0), place_s, road)
    off = heard_m - places_m
    assert np.delete(off, 10) == pytest.approx(0.0, abs=0.5)
    assert off[10] == pytest.approx(40.0, abs=0.5)
    assert sigma_m == pytest.approx(8.0 + np.hypot(0.6, 0.1) * 20.0, abs=0.1)
    early = [CallTime(50.0, 51.0, 0.1), *said[1:]]
    assert np.isnan(heard_places(early, Clock(0.0, 0.2, "go", 0.0, 100.0), place_s, road)[0][0])
