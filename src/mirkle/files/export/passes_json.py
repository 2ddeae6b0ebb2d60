"""The passes as JSON: the contract ``mirkle-passes/1``; places are along the first pass."""

from __future__ import annotations

import json
import math
from collections.abc import Callable, Sequence
from typing import Any

from mirkle import __version__
from mirkle.core.followup.changes import Changed, ChangeReview, Kept
from mirkle.core.followup.gained import Gain


def passes_json(steps: Sequence[ChangeReview]) -> str:
    """The contract's file as text; each of ``steps`` holds a pass against the one before it, in the order driven."""
    changes: list[dict[str, Any]] = []
    kept: list[dict[str, Any]] = []
    along: Callable[[float], float] = _itself
    for step in steps:
        changes += [_changed(c, along) for c in step.changes]
        # What was kept counts by the last pass that speaks of it.
        kept_here = [_kept(k, along) for k in step.kept]
        kept = [
            k for k in kept if all((k["page"], k["line"], k["text"]) != (t["page"], t["line"], t["text"]) for t in kept_here)
        ] + kept_here
        along = _through(step, along)
    table = {"format": "mirkle-passes/1", "program": {"version": __version__}, "changes": changes, "kept": kept}
    return json.dumps(table, ensure_ascii=False, indent=1, allow_nan=False) + "\n"


def _itself(at_m: float) -> float:
    return at_m


def _through(step: ChangeReview, along: Callable[[float], float]) -> Callable[[float], float]:
    """From a place of the later pass to one of the first: through the earlier one, as far as they lie on one road."""
    road = step.road
    return along if road is None else lambda at_m: along(road.here(at_m))


def _changed(change: Changed, along: Callable[[float], float]) -> dict[str, Any]:
    return {
        "old": " ".join(change.old.split()),
        "new": " ".join(change.new.split()),
        "page": change.page,
        "line": change.line,
        "from_m": _r(along(change.from_m), 1),
        "to_m": _r(along(change.to_m), 1),
        "verdict": change.verdict,
        "confidence": _r(change.confidence, 3),
        "said": change.said,
        **_seconds(change.gain),
        "why": change.why,
    }


def _kept(kept: Kept, along: Callable[[float], float]) -> dict[str, Any]:
    return {
        "text": " ".join(kept.text.split()),
        "page": kept.page,
        "line": kept.line,
        "from_m": _r(along(kept.from_m), 1),
        "to_m": _r(along(kept.to_m), 1),
        "verdict": kept.verdict,
        "confidence": _r(kept.confidence, 3),
        **_seconds(kept.gain),
        "why": kept.why,
    }


def _seconds(gain: Gain | None) -> dict[str, float | None]:
    """What was gained beyond the rest of the pass; null where the passes don't compare by the clock."""
    if gain is None or gain.beyond is None or gain.beyond_sd is None:
        return {"seconds_gained": None, "seconds_sd": None}
    return {"seconds_gained": _r(gain.beyond, 3), "seconds_sd": _r(gain.beyond_sd, 3)}


def _r(value: float, digits: int) -> float | None:
    return round(float(value), digits) if math.isfinite(value) else None
