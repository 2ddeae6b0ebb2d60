"""Recordings of hardly a road: each is reviewed, or refused in a sentence."""

import numpy as np
import pytest

from mirkle.core.errors import MirkleError
from mirkle.files.project.project import SourceFile
from mirkle.session.reviewing import Inputs, review_material
from tests.session.odd_recordings import NOTES, tried


@pytest.mark.parametrize("first", range(0, 90, 30))
def test_odd_recordings_are_reviewed_or_refused_in_a_sentence(first: int) -> None:
    with np.errstate(all="ignore"):
        assert [fault for seed in range(first, first + 30) if (fault := tried(seed)) is not None] == []


@pytest.mark.parametrize("seed", [0, 23, 497, 717])
def test_those_that_once_broke_it(seed: int) -> None:
    """No note with a bend, a channel that spoke against the others, a drive of a metre, a bend longer than any note's."""
    assert tried(seed) is None


def test_a_road_without_a_bend_says_so() -> None:
    rows = (f"{t / 2},{44 + t * 1e-4:.6f},-33.5" for t in range(1200))
    run = SourceFile("run", "north.csv", "\n".join(["time_s,lat_deg,lon_deg", *rows]).encode())
    with pytest.raises(MirkleError, match=r"north.csv: no bend was found in it"):
        review_material(Inputs(run, NOTES))


def test_a_recording_of_a_moment_says_so() -> None:
    rows = (f"{t * 1e-6},{44 + t * 1e-4:.6f},-33.5" for t in range(800))
    run = SourceFile("run", "short.csv", "\n".join(["time_s,lat_deg,lon_deg", *rows]).encode())
    with pytest.raises(MirkleError, match="it lasts only"):
        review_material(Inputs(run, NOTES))
