"""What the window says: titles of findings, the cautions, the keys."""

from __future__ import annotations

from mirkle.core.verdict.findings import Finding
from mirkle.desk.speak import say

TITLES = {
    "direction": "The road goes the other way",
    "grade-tighter": "The road is tighter than the note",
    "grade-easier": "The road is more open than the note",
    "corner-uncalled": "A corner that no note calls",
    "corner-unmet": "A note without a corner",
    "distance-longer": "It is further than called",
    "distance-shorter": "It is nearer than called",
    "tightens-uncalled": "It tightens, and the note does not say so",
    "tightens-unmet": "Called to tighten, and it did not",
    "opens-uncalled": "It opens, and the note does not say so",
    "opens-unmet": "Called to open, and it did not",
    "length-longer": "It goes on for longer than called",
    "length-shorter": "It is shorter than called",
    "jump-uncalled": "A jump that no note calls",
    "jump-unmet": "Called a jump; the car did not fly",
    "crest-uncalled": "A crest that no note calls",
    "crest-unmet": "Called a crest, and none was felt",
    "bump-uncalled": "A bump that no note calls",
    "bump-unmet": "Called a bump, and none was felt",
    "dip-uncalled": "A dip that no note calls",
    "dip-unmet": "Called a dip, and none was felt",
    "maybe-settled": "The maybe is settled",
    "surprise": "Something here surprised the driver",
    "spare": "Speed was left here",
    "call-late": "The call came too late",
    "call-early": "The call came early",
    "cut-at-dont-cut": "Not to be cut, and driven wider",
    "said-otherwise": "It was said otherwise than it is written",
}
SEVERITY_WORDS = {
    "danger": "danger",
    "change": "worth changing",
    "check": "check it on the video",
    "remark": "a remark",
}
ANSWER_WORDS = {
    "mark": "marked", "keep": "kept as written", "talk": "to talk over", "video": "to look at on the video",
}  # fmt: skip
BY_WORDS = {"": "who says so?", "driver": "the driver says", "co-driver": "the co-driver says", "both": "we both say"}
BY_SAID = {"driver": "the driver", "co-driver": "the co-driver", "both": "both"}

KEYS = {
    "N  /  P": "next finding, finding before",
    "↓  /  ↑": "next note, note before",
    "Enter": "mark it: write the change into the book",
    "K": "keep the note as it is written",
    "T": "talk it over later",
    "V": "look at it on the video first",
    "B,  R": "who says so;  a remark on it",
    "E": "edit what to write, on any note;  Esc leaves the field",
    "H": "add a hazard that no sensor saw, or a condition for the next pass",
    "Space,  S": "hear it from before the call, stop;  half speed",
    "X": "parts that don't count; or drag over the stage with Shift held",
    "Ctrl+Z  /  Ctrl+Shift+Z": "undo, redo",
    "U": "Line up: the next unsure note",
    "←  /  →": "Line up: put the note on the bend before, on the next bend",
    "0,  Backspace": "Line up: no bend answers it; let go of the pin",
    "Ctrl+1, 2, 3, 4": "Gather, Line up, Compare, Book",
    "Ctrl+O": "open files",
    "Ctrl+L": "light or night",
    "F1": "this page",
}


def title_of(finding: Finding) -> str:
    """The plain heading of a finding."""
    return say(TITLES.get(finding.kind, finding.kind.replace("-", " ")))
