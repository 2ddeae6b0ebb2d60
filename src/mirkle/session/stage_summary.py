"""What a stage's file says of it without being opened: how long it is, how far its work has come, and what its next drive can count on."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from mirkle.core.errors import MirkleError
from mirkle.core.motion.geodesy import degrees_of
from mirkle.core.notes import same_book
from mirkle.files.project.project import Project
from mirkle.session.open_pass import OpenPass
from mirkle.session.rehearsal import Practice
from mirkle.session.reviewed_pass import ReviewedPass

SUMMARY = "summary"
# How large the box of a stage's small map is, and of how many points it is made.
SHAPE, SHAPE_POINTS = 100, 60
NOT_MEASURED, NOT_KNOWN = -1, -2
# No stage is longer, has as many of anything, or a name as long.
LONGEST_M, LONGEST_S, MOST, LONGEST_LINE = 1_000_000.0, 100_000.0, 100_000, 200
SEVERITIES = ("danger", "change", "check", "remark")


@dataclass(frozen=True)
class StageWork:
    """What is left to do on a stage and what its next drive can count on, as it was when it was last open: findings that nobody decided on
    by their severity, changes not rehearsed, the conditions that still hold (the share of the road and how bad), and the times of its
    drives (s) in their order."""

    findings: Mapping[str, int] = field(default_factory=dict)
    to_rehearse: int = 0
    conditions: tuple[tuple[float, int], ...] = ()
    times_s: tuple[float, ...] = ()


def work_in(summary: Mapping[str, Any]) -> StageWork:
    """What is left to do, as a file says it; nothing where an older program wrote it."""
    findings = {s: int(n) for s, n in summary.get("findings", {}).items() if s in SEVERITIES and 0 <= int(n) < MOST}
    conditions = tuple((float(share), int(level)) for share, level in summary.get("conditions", ()))
    times_s = tuple(float(t) for t in summary.get("times_s", {}).values() if 0 < float(t) < LONGEST_S)
    return StageWork(findings, max(0, min(MOST, int(summary.get("to_rehearse", 0)))), conditions, times_s)


def _shape_of(stage: ReviewedPass) -> list[tuple[int, int]]:
    """The driven line from above, evenly thinned out, north up."""
    plan, last = stage.review.measured.plan, int(stage.review.finish_m)
    at = np.linspace(0, min(last, len(plan.east_m) - 1), SHAPE_POINTS).astype(int)
    right, down = plan.east_m[at], -plan.north_m[at]
    size = max(float(np.ptp(right)), float(np.ptp(down)), 1.0)
    x, y = (np.rint(SHAPE * (0.5 + (v - 0.5 * (v.min() + v.max())) / size)).astype(int) for v in (right, down))
    return list(zip(x.tolist(), y.tolist(), strict=True))


def summary_of(stage: OpenPass) -> dict[str, Any]:
    """How far a stage has come."""
    passes = stage.project.passes()
    measured: dict[str, Any] = {"length_m": 0.0, "dangers_left": NOT_MEASURED, "shape": []}
    if isinstance(stage, ReviewedPass):
        measured = {
            "length_m": round(stage.review.finish_m, 1),
            "dangers_left": stage.book.dangers_left,
            "shape": _shape_of(stage),
            "course": course_of(stage),
            "findings": _findings_left(stage),
            "conditions": _conditions_of(stage),
            "times_s": _times_of(stage),
        }
    elif any(p.run is not None for p in passes):
        # A pass with a camera only says nothing of what the recorded ones found.
        before = _before(stage.project)
        measured = {key: before.get(key, [] if key == "shape" else NOT_KNOWN) for key in measured}
    return {
        "day": next((p.day for p in reversed(passes) if p.day), ""),
        "passes": sum(p.run is not None or p.media is not None for p in passes),
        "to_copy": len(stage.book.to_copy),
        "to_rehearse": Practice(stage).left(),
        "log": stage.project.last_entry,
        "book": same_book.sketch_of(stage.notes),
        **measured,
    }


def course_of(stage: ReviewedPass) -> list[tuple[float, float]]:
    """Latitude and longitude of places that part the driven road evenly, in degrees; empty where the recording doesn't know them."""
    plan, last = stage.review.measured.plan, int(stage.review.finish_m)
    if plan.middle_deg is None:
        return []
    at = np.linspace(0, min(last, len(plan.east_m) - 1), SHAPE_POINTS).astype(int)
    lat, lon = degrees_of(plan.east_m[at] + plan.start_m[0], plan.north_m[at] + plan.start_m[1], plan.middle_deg)
    return list(zip(np.round(lat, 6).tolist(), np.round(lon, 6).tolist(), strict=True))


def course_in(summary: Mapping[str, Any]) -> tuple[tuple[float, float], ...]:
    """The course that a file holds; none where that is no course."""
    kept = summary.get("course", [])
    points = [(float(lat), float(lon)) for lat, lon in kept] if isinstance(kept, list) and len(kept) == SHAPE_POINTS else []
    return tuple(points) if all(abs(lat) <= 90 and abs(lon) <= 360 for lat, lon in points) else ()


def book_in(summary: Mapping[str, Any]) -> tuple[int, ...]:
    """The sketch of the book that a file holds; none where that is no sketch."""
    kept = summary.get("book", [])
    hashes = tuple(int(h) for h in kept) if isinstance(kept, list) and len(kept) <= same_book.MOST else ()
    return hashes if list(hashes) == sorted(set(hashes)) else ()


def _findings_left(stage: ReviewedPass) -> dict[str, int]:
    decided = stage.book.decisions
    return dict(Counter(f.severity for f in stage.findings if f.id not in decided))


def _conditions_of(stage: ReviewedPass) -> list[tuple[float, int]]:
    """The share of the road of each condition that still holds, and how bad it is."""
    book, length_m = stage.book, max(stage.review.finish_m, 1.0)
    held = [(a, road) for a, road in book.road.additions_on_road if a.kind == "condition" and not book.road.is_over(a)]
    return [(round((road.to_m - road.from_m) / length_m, 4), a.level) for a, road in held]


def _times_of(stage: ReviewedPass) -> dict[str, float]:
    """The time of each drive by its pass's number, in their order: of those that were open."""
    before = _before(stage.project).get("times_s")
    kept = dict(before) if isinstance(before, dict) else {}
    kept[str(stage.this_pass.id)] = round(stage.review.finish_s - stage.review.profile.seconds_at(0.0), 1)
    return {str(p.id): kept[str(p.id)] for p in stage.project.passes() if str(p.id) in kept and p.kind != "reconnaissance"}


def keep_book(stage: OpenPass) -> None:
    """Keeps of a stage that has only a book which book that is, for the shelf."""
    _keep(stage, lambda: {"book": same_book.sketch_of(stage.notes)})


def keep_summary(stage: OpenPass) -> None:
    """Keeps how far a stage has come, for the shelf; where it can't be kept, the shelf shows what it was before."""
    _keep(stage, lambda: summary_of(stage))


def _keep(stage: OpenPass, fresh: Callable[[], dict[str, Any]]) -> None:
    try:
        # What a newer program keeps there besides stays.
        summary = json.dumps(_before(stage.project) | fresh())
        if not stage.project.read_only and stage.project.info(SUMMARY) != summary:
            stage.project.set_info(SUMMARY, summary)
    except MirkleError:
        return


def _before(project: Project) -> dict[str, Any]:
    """The summary that is kept by now."""
    try:
        kept = json.loads(project.info(SUMMARY) or "{}")
        return kept if isinstance(kept, dict) else {}
    except (ValueError, RecursionError):
        return {}
