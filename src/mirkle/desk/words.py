"""What the window says: titles of findings, the cautions, the keys."""

from __future__ import annotations

from mirkle.core.verdict.findings import Finding

TITLES = {
    "direction": "The road goes the other way",
    "grade-tighter": "The road is tighter than the note",
    "grade-easier": "The road is more open than the note",
    "corner-uncalled": "A corner that no note calls",
    "corner-unmet": "A note without a corner",
    "distance-longer": "It is further than called",
    "distance-shorter": "It is nearer than called",
    "said-otherwise": "It was said otherwise than it is written",
}
SEVERITY_WORDS = {
    "danger": "danger",
    "change": "worth changing",
    "check": "check on the video, both of you",
    "remark": "a remark",
}
ANSWER_WORDS = {"mark": "marked", "keep": "kept as written", "talk": "to talk over"}

CAUTIONS = (
    "What Mirkle measures is the line that one car took on one pass. By the next pass ruts, stones pulled onto the "
    "road, water or ice may have changed it.",
    "Both of you agree on every change, and look at the recording before you do. A note is made faster only by two "
    "people, never by a number.",
    "The organisers' rules on reconnaissance, note-making, recording and safety notices come before anything here.",
    "Never try notes out on a road that is open to others.",
    "Mirkle does not stand in for the official road book, the safety crews or what the stewards say.",
)

KEYS = (
    ("N  /  P", "next finding, finding before"),
    ("↓  /  ↑", "next note, note before"),
    ("Enter", "mark it: write the change into the book"),
    ("K", "keep the note as it is written"),
    ("T", "talk it over later"),
    ("E", "edit what to write;  Esc leaves the field"),
    ("Ctrl+Z  /  Ctrl+Shift+Z", "undo, redo"),
    ("Ctrl+1, 2, 3", "Gather, Compare, Book"),
    ("Ctrl+O", "open files"),
    ("Ctrl+L", "light or night"),
    ("F1", "this page"),
)


def title_of(finding: Finding) -> str:
    """The plain heading of a finding."""
    return TITLES.get(finding.kind, finding.kind.replace("-", " "))
