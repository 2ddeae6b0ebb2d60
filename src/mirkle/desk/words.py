"""What the window says: titles of findings, the cautions, the keys."""

from __future__ import annotations

from mirkle.core.verdict.findings import Finding
from mirkle.core.verdict.kinds import KINDS
from mirkle.desk.speak import say

SEVERITY_WORDS = {"danger": "danger", "change": "worth changing", "check": "worth a second look", "remark": "a remark"}
ANSWER_WORDS = {
    "mark": "marked", "keep": "kept as written", "talk": "to talk over", "video": "to look at on the video",
    "copied": "copied into the book", "not-copied": "not copied into the book",
}  # fmt: skip
BY_WORDS = {"": "who says so?", "driver": "the driver says", "co-driver": "the co-driver says", "both": "we both say"}
BY_SAID = {"driver": "the driver", "co-driver": "the co-driver", "both": "both"}


def title_of(finding: Finding) -> str:
    """The plain heading of a finding."""
    return say(KINDS[finding.kind].title)
