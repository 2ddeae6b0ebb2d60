"""The demo stage: the same bytes each time, small, our own, and with a slip of every kind."""

import gzip
import json

import numpy as np
import pytest

from mirkle.core.constants import GRAVITY_MPS2
from mirkle.files import demo_files
from mirkle.files.notes.text import parse_notes
from mirkle.synthetic import slatehook
from mirkle.synthetic.road import make_road


@pytest.fixture(scope="module")
def made() -> dict[str, bytes]:
    return slatehook.make_demo()


def test_the_shipped_files_are_what_the_command_makes(made: dict[str, bytes]) -> None:
    # Each zlib packs in its own way: what is packed counts.
    def plain(name: str, content: bytes) -> bytes:
        return gzip.decompress(content) if name.endswith(".gz") else content

    same = {name: plain(name, demo_files.demo_file(name)) == plain(name, content) for name, content in made.items()}
    assert same == dict.fromkeys(made, True)


def test_it_is_small_and_in_mid_ocean(made: dict[str, bytes], planted: dict) -> None:
    sizes = [len(demo_files.demo_file(n)) for n in made]
    assert sum(sizes) < 4_000_000
    assert planted["stage"]["finish_m"] == 14_200


def test_slips_of_every_kind_of_the_trade_are_planted(planted: dict) -> None:
    kinds = {k for s in planted["slips"] for k in s["kinds"]}
    assert kinds >= {
        "direction",
        "grade-tighter",
        "grade-easier",
        "corner-uncalled",
        "corner-unmet",
        "tightens-uncalled",
        "tightens-unmet",
        "opens-uncalled",
        "length-longer",
        "length-shorter",
        "distance-longer",
        "distance-shorter",
        "jump-uncalled",
        "crest-uncalled",
        "bump-uncalled",
        "dip-uncalled",
        "maybe-settled",
        "call-late",
        "call-early",
        "said-otherwise",
    }


def test_jumps_leave_the_ground_only_above_the_speed_that_a_crest_holds_down(planted: dict) -> None:
    """v^2 / R > g at take-off, R the crest's vertical radius (common practice)."""
    road = make_road(np.random.default_rng(slatehook.SEED), length_m=slatehook.LENGTH_M)
    for jump in planted["jumps"]:
        crest = next(f for f in road.features if abs(f.at_m - f.length_m / 2 - jump["from_m"]) < 0.1)
        assert jump["speed_mps"] ** 2 / crest.radius_m > GRAVITY_MPS2
        assert jump["to_m"] - jump["from_m"] > 0.5 * jump["speed_mps"] * jump["air_s"]


def test_its_notes_are_read_whole() -> None:
    reading = parse_notes(demo_files.demo_file(demo_files.NOTES), name="notes")
    assert reading.order == "direction-first"
    assert not [w for n in reading.notes for w in n.unread]
    assert {n.grade for n in reading.corners} >= {"1", "2", "3", "4", "5", "6", "hairpin", "square"}
    assert json.loads(demo_files.demo_file(demo_files.PLANTED))["format"] == "slatehook-planted/1"
