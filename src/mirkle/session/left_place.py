"""Where a crew left a stage: the page, and what was chosen there. It is opened there again."""

from __future__ import annotations

from mirkle.session.open_pass import OpenPass
from mirkle.session.recent_stages import LeftAt, leave_at, left_at
from mirkle.session.reviewed_pass import ReviewedPass


def leave(stage: OpenPass, page: str) -> None:
    """Keeps where a stage is left."""
    finding = stage.finding if isinstance(stage, ReviewedPass) else None
    leave_at(stage.project.path, LeftAt(page, stage.note, finding.id if finding else ""))


def resume(stage: OpenPass) -> str:
    """Chooses what was chosen when a stage was left; the page where that was, empty where nobody knows."""
    left = left_at(stage.project.path)
    if left is None:
        return ""
    finding = next((f for f in stage.findings if f.id == left.finding), None)
    if isinstance(stage, ReviewedPass) and finding is not None:
        stage.choose(finding)
    elif left.note < len(stage.notes):
        stage.choose_note(left.note)
    return left.page
