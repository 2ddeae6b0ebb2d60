"""What is said of a few worlds stays as it is until somebody changes it on purpose (``bench/golden.py --renew``).

No figure is right because it was so before; what is right is asked elsewhere. Here a change that was meant to change nothing is noticed.
"""

from __future__ import annotations

import importlib
from pathlib import Path

import pytest

BENCH = Path(__file__).parents[2] / "bench"


@pytest.mark.parametrize("name", ["demo", "rough-1", "rough-3", "third-1", "third-3"])
def test_what_is_said_of_a_world_stays_as_it_is(name: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.syspath_prepend(str(BENCH))
    monkeypatch.setenv("QT_QPA_PLATFORM", "offscreen")
    for folder in ("XDG_DATA_HOME", "XDG_CONFIG_HOME"):
        monkeypatch.setenv(folder, str(tmp_path))
    golden = importlib.import_module("golden")
    kept, stage = golden.kept_for(name), golden.marked_stage(name, tmp_path)
    assert list(golden.differences(kept["review"], golden.review_of(stage, tmp_path), name)) == []
    assert list(golden.differences(kept["figures"], golden.figures_of(stage), f"{name}.figures")) == []
    if name == "demo":
        assert list(golden.differences(kept["passes"], golden.passes_of(stage), f"{name}.passes")) == []


@pytest.mark.parametrize("name", ["said", "listened", "mended", "changed-books", "changed-runs", "set-by-hand"])
def test_what_is_made_of_voices_faults_and_half_a_book_stays_as_it_is(name: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.syspath_prepend(str(BENCH))
    golden = importlib.import_module("golden")
    now = golden.figures(golden.golden_parts.KEPT[name]())
    assert list(golden.differences(golden.kept_for(name)["figures"], now, f"{name}.figures")) == []
