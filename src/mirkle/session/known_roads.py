"""A road that was driven before: the stage on the shelf that a new recording belongs to."""

from __future__ import annotations

from mirkle.core.joint.same_road import apart_m
from mirkle.session.reviewed_pass import ReviewedPass
from mirkle.session.shelf import Shelved, shelf
from mirkle.session.stage_summary import course_of

# Two drives of one stage: start and finish may be set otherwise by some tens of metres, and receivers are out by some.
SAME_STAGE_M = 60.0


def driven_before(stage: ReviewedPass) -> Shelved | None:
    """Another stage on the shelf whose road this one is, the nearest; ``None`` where there is none."""
    course = course_of(stage)
    if not course:
        return None
    mine = stage.project.info("id")
    others = [(apart_m(course, one.course), one) for one in shelf() if one.course and one.identity != mine]
    near = min(others, key=lambda found: found[0], default=None)
    return near[1] if near is not None and near[0] < SAME_STAGE_M else None
