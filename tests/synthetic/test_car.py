"""The stand-in's driver: his line keeps to the road, opens the bends, and leads where the road leads."""

import subprocess
import sys

import numpy as np
import pytest

from mirkle.synthetic.car import Driver, drive
from mirkle.synthetic.road import make_road

ROOM_M = 1.0


def test_a_drivers_line_keeps_to_the_road_and_opens_its_bends() -> None:
    road = make_road(np.random.default_rng(7), length_m=4_000.0)
    plain, opened = (drive(np.random.default_rng(1), road, pace=1.0, stands_s=5.0, driver=d) for d in (Driver(), Driver(ROOM_M)))
    assert opened.heading_rad[-1] == pytest.approx(plain.heading_rad[-1], abs=0.05)
    metres = np.arange(0.0, 4_000.0)
    line, eased = (np.interp(metres, d.distance_m, d.curvature_per_m) for d in (opened, plain))
    # What the line bends less than the road, summed twice, is how far aside of it the car was.
    aside = np.cumsum(np.cumsum(line - eased))
    aside -= np.interp(metres, [0.0, metres[-1]], [aside[0], aside[-1]])
    assert np.percentile(np.abs(aside), 95) < 2.5 * ROOM_M
    tightest = [[np.abs(c[int(b.from_m) : int(b.to_m)]).max() for b in road.corners if b.turn_deg < 60] for c in (line, eased)]
    assert np.median(np.array(tightest[0]) / np.array(tightest[1])) < 0.95
    assert (line**2).sum() < 0.95 * (eased**2).sum()


def test_a_driver_who_lifts_is_slower_from_the_finish_on() -> None:
    road = make_road(np.random.default_rng(7), length_m=4_000.0)
    lifted, held = (drive(np.random.default_rng(1), road, pace=1.0, stands_s=5.0, driver=Driver(lifts=is_so)) for is_so in (True, False))
    for metres, slower in ((3_990.0, False), (4_060.0, True)):
        speeds = [float(np.interp(metres, d.distance_m, d.speed_mps)) for d in (lifted, held)]
        assert (speeds[0] < speeds[1] - 1.0) == slower


def test_a_window_does_not_wait_for_what_only_the_stand_in_needs() -> None:
    asked = "import sys, mirkle.session.demo; print('scipy.sparse' in sys.modules)"
    assert subprocess.run([sys.executable, "-c", asked], check=True, capture_output=True, text=True).stdout == "False\n"
