"""Sixty ways to write one drive, each read to within a metre and a hundredth of the plain one."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest

from mirkle.core.errors import MirkleError
from mirkle.core.recording.model import Recording
from mirkle.files.recordings.columns import look_at, with_columns
from mirkle.files.recordings.readers import looks_like_run, parse_run
from tests.files.styles import PLAIN, ROWS, STYLES, Row, table

EARTH_M = 6.371e6
PLAIN_RUN = parse_run(PLAIN, name="plain.csv")


def apart(run: Recording) -> tuple[float, float]:
    """How far a run is from the plain one: metres, and the speed as a share of the fastest."""
    plain, own = PLAIN_RUN.channels, run.channels
    time_s = plain["lat_rad"].time_s
    begins = min(c.time_s[0] for c in own.values()) - time_s[0]

    def at(name: str) -> np.ndarray:
        return np.interp(time_s, own[name].time_s - begins, own[name].value)

    north = at("lat_rad") - plain["lat_rad"].value
    east = (at("lon_rad") - plain["lon_rad"].value) * np.cos(plain["lat_rad"].value)
    speed = np.abs(at("speed_mps") - plain["speed_mps"].value) / plain["speed_mps"].value.max()
    inside = slice(5, -5)
    return float(np.hypot(north, east)[inside].max()) * EARTH_M, float(speed[inside].max())


@pytest.mark.parametrize("style", STYLES)
def test_sixty_styles_are_read_alike(style: str) -> None:
    assert len(STYLES) >= 60
    assert looks_like_run(STYLES[style])
    metres, speed = apart(parse_run(STYLES[style], name="run.csv"))
    assert metres < 1.0
    assert speed < 0.01


SAID = {
    "whole seconds at ten a second": "Times are whole seconds, 10 samples in each",
    "minutes that nobody names": "Its times make sense as minutes",
    "hours that nobody names": "Its times make sense as hours",
    "hundredths of a second that nobody names": "Its times make sense as hundredths of a second",
    "days of a spreadsheet with a comma": "Its times make sense as days",
    "ten millionths of a degree": "make sense as ten millionths of a degree",
    "radians that nobody names": "make sense as radians",
    "a speed ten times too large": "Its speeds make sense as tenths",
    "a footer": "2 lines at the end are no data",
    "one latitude of 91": "1 position outside the globe",
}


@pytest.mark.parametrize("style", SAID)
def test_what_was_put_right_is_said(style: str) -> None:
    assert any(SAID[style] in str(d) for d in parse_run(STYLES[style], name="run.csv").doubts)


def test_what_makes_sense_as_it_is_is_left_alone() -> None:
    assert PLAIN_RUN.doubts == ()


def test_a_table_without_a_head_is_asked_about() -> None:
    bare = table("", lambda r: f"{r.t:.2f};{r.lat:.7f};{r.lon:.7f};{r.kmh:.3f}")
    assert not looks_like_run(bare)
    look = look_at(bare)
    assert look is not None
    assert look.names == ("", "", "", "")
    said = with_columns(bare, look, ["time (s)", "lat (deg)", "lon (deg)", "speed (km/h)"])
    assert max(apart(parse_run(said, name="run.csv"))) < 0.01


def changed(first: int, end: int, place: Callable[[int, Row], tuple[float, float]]) -> bytes:
    """The plain drive with other places over some rows."""
    lines = []
    for i, r in enumerate(ROWS):
        lat, lon = place(i, r) if first <= i < end else (r.lat, r.lon)
        lines.append(f"{r.t:.2f},{lat:.8f},{lon:.8f},{r.kmh:.3f}")
    return "\n".join(["time_s,lat_deg,lon_deg,speed_kmh", *lines]).encode()


def test_a_place_that_stays_while_the_car_goes_on_is_a_hole() -> None:
    stays = ROWS[200]
    run = parse_run(changed(200, 400, lambda _i, _r: (stays.lat, stays.lon)), name="run.csv")
    assert any("The position stays the same for 20 s while the car goes on" in str(d) for d in run.doubts)
    assert np.diff(run.channels["lat_rad"].time_s).max() > 19.0
    # A car that stands says one place as well, and goes on from there.
    stands = parse_run(changed(0, 40, lambda _i, _r: (ROWS[0].lat, ROWS[0].lon)), name="run.csv")
    assert not any("stays the same" in str(d) for d in stands.doubts)


def test_many_places_off_the_globe_are_no_slip() -> None:
    """Then the columns are others than their names say, and that is not guessed."""
    with pytest.raises(MirkleError, match=r"latitudes beyond 90|leap about"):
        parse_run(changed(50, 400, lambda i, r: (91.0 + 0.01 * (i % 7), r.lon)), name="run.csv")
