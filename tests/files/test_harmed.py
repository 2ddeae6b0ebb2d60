"""A little of what ``make fuzz`` does at length: harmed files of every kind are read or refused in one sentence."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from mirkle.core.errors import MirkleError
from mirkle.session.import_files import take_in
from tests.files.harm import corpus, harmed

FILES = corpus()


@pytest.mark.parametrize("name", FILES)
def test_a_harmed_file_gets_one_sentence(name: str, tmp_path: Path) -> None:
    others = list(FILES.values())
    for seed in range(8):
        rng = np.random.default_rng([seed, len(name)])
        path = tmp_path / name
        path.write_bytes(harmed(rng, FILES[name], others[seed % len(others)]))
        sentence = _refused(path)
        assert "\n" not in sentence
        assert not sentence or name in sentence


def _refused(path: Path) -> str:
    """The sentence in which a file is refused; empty where it is read."""
    try:
        take_in(path)
    except MirkleError as fault:
        return fault.sentence
    return ""
