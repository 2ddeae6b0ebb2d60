"""How the changes of all stages turned out."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path

from mirkle.session.settings import keep_setting, setting


@dataclass(frozen=True)
class CountedStage:
    """How the changes of a stage turned out, by verdict, and whether it counts in the season."""

    path: str
    verdicts: Mapping[str, int]
    counts: bool


def counted_stages() -> list[CountedStage]:
    """Every stage whose changes were looked at on a later pass."""
    kept, left_out = setting("verdicts", {}), setting("not-counted", [])
    without = left_out if isinstance(left_out, list) else []
    return [
        CountedStage(path, {v: n for v, n in counted.items() if type(n) is int}, counts=path not in without)
        for path, counted in (kept.items() if isinstance(kept, dict) else ())
        if isinstance(counted, dict)
    ]


def verdicts_of_season() -> dict[str, int]:
    """How the changes of all stages that count turned out, by verdict."""
    total: Counter[str] = Counter()
    for stage in counted_stages():
        if stage.counts:
            total.update(stage.verdicts)
    return dict(total)


def count_stage(path: str, *, counts: bool) -> None:
    """Counts a stage in the season, or leaves it out."""
    left_out = [s.path for s in counted_stages() if not s.counts and s.path != path]
    keep_setting("not-counted", left_out if counts else [*left_out, path])


def count_verdicts(path: Path, counts: Mapping[str, int]) -> dict[str, int]:
    """Keeps how the changes of a stage turned out, and returns how those of all stages that count did."""
    kept = setting("verdicts", {})
    keep_setting("verdicts", (kept if isinstance(kept, dict) else {}) | {str(path): dict(counts)})
    return verdicts_of_season()
