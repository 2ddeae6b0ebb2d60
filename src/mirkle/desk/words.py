"""What the window says: titles of findings, the cautions, the keys."""

from __future__ import annotations

from mirkle.core.verdict.findings import Finding
from mirkle.core.verdict.kinds import KINDS
from mirkle.desk.speak import say

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
    "Home  /  End,  D": "first finding, last one;  the next danger that is left",
    "Ctrl+F": "find: all findings as a list, any note by words, page and line, or number",
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
    "Ctrl+1, 2, 3, 4, 5": "Gather, Line up, Compare, Book, Passes",
    "K,  O,  E,  T": "Passes: keep the change, put back what stood, correct further, talk it over",
    "Ctrl+O": "open files",
    "Ctrl+L": "light or night",
    "F1": "this page",
}


def title_of(finding: Finding) -> str:
    """The plain heading of a finding."""
    return say(KINDS[finding.kind].title)
