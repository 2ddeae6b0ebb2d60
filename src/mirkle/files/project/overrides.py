"""What a crew set by hand about a pass, as JSON; every part may be missing and is then found.

``{"start_s": 0.0, "finish_s": 0.0, "calls_minus_run_s": 0.0,
"parts": [{"from_s": 0.0, "to_s": 0.0, "reason": "…"}], "pins": [{"note": 0, "text": "as written", "at_s": 0.0}],
"remarks": [{"words": "what was said", "note": 0, "text": "as written"}]}``, all on the recording's clock. A pin whose ``at_s`` is ``null``
puts its note on no bend; a remark without ``note`` waits for its place. An older program wrote metres from the start: ``from_m``, ``to_m``,
``at_m``.
"""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from math import isfinite
from typing import Any

from mirkle.core.errors import MirkleError
from mirkle.core.lineup.remarks import HandRemark
from mirkle.core.notes.model import Note
from mirkle.core.overrides import HandPart, HandPin, HandPlace, ManualOverrides

_KEYS = ("start_s", "finish_s", "calls_minus_run_s", "parts", "pins", "remarks")


def overrides_json(overrides: ManualOverrides, notes: Sequence[Note]) -> bytes:
    """What was set by hand as bytes; its parts count as set by hand from then on."""
    out: dict[str, Any] = dict(overrides.extra)
    for name in ("start_s", "finish_s", "calls_minus_run_s"):
        if (value := getattr(overrides, name)) is not None:
            out[name] = round(value, 3)
    if overrides.parts is not None:
        out["parts"] = [_told("from", p.start) | _told("to", p.end) | {"reason": p.reason} for p in overrides.parts]
    pins = [{"note": p.note, "text": notes[p.note].text} | _told("at", p.place) for p in overrides.pins]
    out["pins"] = [*pins, *overrides.homeless]
    if overrides.remarks:
        out["remarks"] = [
            {"words": r.text} | ({"note": r.note, "text": notes[r.note].text} if r.note is not None else {}) for r in overrides.remarks
        ]
    return (json.dumps(out, ensure_ascii=False, indent=1) + "\n").encode()


def _told(name: str, place: HandPlace | None) -> dict[str, float | None]:
    if place is None:
        return {f"{name}_s": None}
    return {f"{name}_s": round(place.at_s, 4)} if place.at_s is not None else {f"{name}_m": round(place.at_m, 1)}


def parse_overrides(content: bytes, notes: Sequence[Note], *, name: str) -> ManualOverrides:
    """What was set by hand. A pin or a remark belongs to the note that reads as it did, the nearest if there are several; a pin whose note
    is not in the book now is left aside, and such a remark waits for another place.

    Raises
    ------
    MirkleError
    """
    try:
        data = json.loads(content)
        parts = data.get("parts")
        pins = [(pin, _note_of(pin, notes)) for pin in data.get("pins", ())]
        return ManualOverrides(
            start_s=_number(data.get("start_s")),
            finish_s=_number(data.get("finish_s")),
            calls_minus_run_s=_number(data.get("calls_minus_run_s")),
            parts=None if parts is None else tuple(HandPart(_there(p, "from"), _there(p, "to"), str(p["reason"])) for p in parts),
            pins=tuple(sorted((HandPin(n, _place(pin, "at")) for pin, n in pins if n is not None), key=lambda p: p.note)),
            remarks=tuple(HandRemark(str(r["words"]), _note_of(r, notes) if "note" in r else None) for r in data.get("remarks", ())),
            homeless=tuple(pin for pin, note in pins if note is None),
            extra={key: value for key, value in data.items() if key not in _KEYS},
        )
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError, OverflowError):
        raise MirkleError("it does not hold what was set by hand", mend="set it again", where=name) from None


def _note_of(pin: Mapping[str, Any], notes: Sequence[Note]) -> int | None:
    """The note that a pin is on."""
    at, text = int(pin["note"]), str(pin["text"])
    alike = [n.index for n in notes if n.text == text]
    return min(alike, key=lambda n: abs(n - at), default=None)


def _there(data: Mapping[str, Any], name: str) -> HandPlace:
    place = _place(data, name)
    if place is None:
        raise ValueError("a part has no place")
    return place


def _place(data: Mapping[str, Any], name: str) -> HandPlace | None:
    if f"{name}_s" in data:
        at_s = _number(data[f"{name}_s"])
        return HandPlace(at_s) if at_s is not None else None
    at_m = _number(data[f"{name}_m"])
    return HandPlace(None, at_m) if at_m is not None else None


def _number(value: object) -> float | None:
    if value is None:
        return None
    number = float(value)  # type: ignore[arg-type]
    if not isfinite(number):
        raise ValueError("no number")
    return number
