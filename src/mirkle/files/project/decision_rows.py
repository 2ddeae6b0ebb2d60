"""Decisions as they stand in the log of a project file: a JSON object with its ``type``; and those of the formats before 5."""

from __future__ import annotations

import json
from contextlib import suppress
from typing import Any

from mirkle.core.notebook.decisions import (
    Addition,
    CallTap,
    ChangeAnswer,
    CopyTick,
    Decision,
    FindingAnswer,
    NoteChange,
    Observation,
    PassChange,
    Removal,
    UnknownDecision,
)
from mirkle.files.project.records import UnknownChoice, from_json, to_json

TYPES: dict[str, type[Decision]] = {
    "note-change": NoteChange,
    "finding-answer": FindingAnswer,
    "observation": Observation,
    "change-answer": ChangeAnswer,
    "addition": Addition,
    "call-tap": CallTap,
    "copy-tick": CopyTick,
    "pass-change": PassChange,
    "removal": Removal,
}
_NAMES = {cls: name for name, cls in TYPES.items()}


def row_of(decision: Decision) -> dict[str, Any]:
    """A decision as it is kept."""
    if isinstance(decision, UnknownDecision):
        return to_json(decision)
    return {"type": _NAMES[type(decision)]} | to_json(decision)


def decision_of(row: dict[str, Any]) -> Decision:
    """A decision as it was kept; of a type or with an answer that this program doesn't know, an :class:`UnknownDecision`.

    Raises
    ------
    ValueError
        Something in it is of the wrong kind.
    """
    cls = TYPES.get(str(row.get("type")))
    if cls is not None:
        with suppress(UnknownChoice):
            return from_json(cls, {name: value for name, value in row.items() if name != "type"})
    # Nothing is known of it but that it is one.
    rest = {name: value for name, value in row.items() if name not in ("key", "type")}
    return UnknownDecision(key=_text(row, "key"), type=_text(row, "type"), extra=rest)


def _text(row: dict[str, Any], name: str) -> str:
    value = row.get(name)
    if not isinstance(value, str):
        raise ValueError(f"no {name}")
    return value


# Formats before 5: one record for all, whose name said what it was about ("grade@12", "moment@1-7", "note@1f…x").

_WITH_NOTES = ("mark", "copied", "not-copied", "moment")
_OLD_FIELDS = {
    "finding",
    "answer",
    "first_note",
    "last_note",
    "text",
    "by",
    "remark",
    "from_m",
    "to_m",
    "seen",
    "kind",
    "of_pass",
    "from_s",
    "to_s",
    "old",
    "at",
}


def row_of_format_4(old: dict[str, Any]) -> dict[str, Any]:
    """A decision of a format before 5 as it is kept today.

    Raises
    ------
    ValueError
        Something in it is missing.
    """
    name, answer = _text(old, "finding"), _text(old, "answer")
    topic, _, rest = name.partition("@")
    row = {key: value for key, value in old.items() if key not in _OLD_FIELDS} | {"key": name}
    row |= {key: old[key] for key in ("by", "remark") if old.get(key)}
    notes, road = _old_notes(old, topic, rest), _old_road(old)
    row |= {"notes": notes} if notes is not None else {}
    row |= {"road": road} if road is not None else {}
    kind = {"finding_kind": old["kind"]} if old.get("kind") else {}
    seen = {"seen": old["seen"]} if old.get("seen") else {}
    text = old.get("text", "")
    if answer == "mark":
        return row | {"type": "note-change", "text": text} | kind | seen
    if answer in ("keep", "talk", "video"):
        if topic == "seen":
            return row | {"type": "observation", "answer": answer} | seen
        if topic in ("change", "kept"):
            return row | {"type": "change-answer", "about": topic, "answer": answer}
        return row | {"type": "finding-answer", "answer": answer} | kind
    if answer in ("hazard", "condition"):
        return row | {"type": "addition", "kind": answer, "words": text} | seen
    if answer == "moment":
        return row | {"type": "call-tap", "of_pass": _old_pass(old, rest), "sound_s": float(text)}
    if answer in ("copied", "not-copied"):
        return row | {"type": "copy-tick", "copied": answer == "copied", "text": text}
    if answer == "pass":
        number = _old_pass(old, rest)
        before, after = ({"id": number} | json.loads(old.get(key, "")) for key in ("remark", "text"))
        row.pop("remark", None)
        return row | {"type": "pass-change", "before": before, "after": after}
    if answer == "gone":
        return row | {"type": "removal", "words": text}
    return row | {"type": answer}


def _old_notes(old: dict[str, Any], topic: str, rest: str) -> dict[str, Any] | None:
    """The notes that a decision is about; a tick and an answer to a change had them in their names."""
    first, last = old.get("first_note", -1), old.get("last_note", -1)
    if first < 0 and topic in ("copied", "change", "kept"):
        numbers = rest.partition("-") if topic == "copied" else (rest, "-", rest)
        if numbers[0].isdecimal() and numbers[2].isdecimal():
            first, last = int(numbers[0]), int(numbers[2])
    if first < 0 and old.get("answer") not in _WITH_NOTES:
        return None
    place = {"text": old["old"], "at": old.get("at", -1)} if old.get("old") else {}
    return {"first": first, "last": last} | place


def _old_road(old: dict[str, Any]) -> dict[str, Any] | None:
    if old.get("from_m", -1.0) < 0 and old.get("from_s") is None:
        return None
    road = {"of_pass": old.get("of_pass", 0), "from_m": old.get("from_m", -1.0), "to_m": old.get("to_m", -1.0)}
    return road | {key: old[key] for key in ("from_s", "to_s") if old.get(key) is not None}


def _old_pass(old: dict[str, Any], rest: str) -> int:
    """Of which pass a call or a change is: the first formats had it in the name."""
    return int(old.get("of_pass") or rest.partition("-")[0])
