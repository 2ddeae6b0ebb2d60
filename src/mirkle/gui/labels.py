"""What the window says: titles of findings, the cautions, the keys."""

from __future__ import annotations

from mirkle.core.judging.finding_kinds import KINDS
from mirkle.core.judging.findings import Finding
from mirkle.core.messages import gettext_noop
from mirkle.gui.translation import tr, tr_counted

SEVERITY_WORDS = {
    "danger": gettext_noop("danger"),
    "change": gettext_noop("worth changing"),
    "check": gettext_noop("worth a second look"),
    "remark": gettext_noop("a remark"),
}
BY_WORDS = {
    "": gettext_noop("who agreed?"),
    "driver": gettext_noop("the driver"),
    "co-driver": gettext_noop("the co-driver"),
    "both": gettext_noop("both of us"),
}
BY_SAID = {"driver": gettext_noop("the driver"), "co-driver": gettext_noop("the co-driver"), "both": gettext_noop("both")}


def title_of(finding: Finding) -> str:
    """The plain heading of a finding."""
    return tr(finding.title)


def sure_words(finding: Finding) -> str:
    """How sure a finding is, and of what."""
    # Nothing that rests on measurements is certain.
    sure = min(finding.confidence, 0.99)
    kind = KINDS[finding.kind]
    if finding.cause or kind.of_the_pass or kind.of_a_place:
        return tr("{0:.0%} sure of this", sure)
    return tr("{0:.0%} sure the note is wrong", sure)


# Grades that are words, where there is little room.
SHORT_GRADES = {"hairpin": "hp", "square": "sq"}


def short_grade(grade: str) -> str:
    """A grade in as few letters as it is known by."""
    return SHORT_GRADES.get(grade, grade)


def conflict_words(count: int) -> str:
    """How many decisions two copies disagree on; empty where none."""
    return tr_counted("1 to choose", "{0} to choose", count) if count else ""


def lost_words(count: int) -> str:
    """How many decisions have no place; empty where every one has."""
    if not count:
        return ""
    return tr_counted("1 decision lost its place", "{0} decisions lost their place", count)
