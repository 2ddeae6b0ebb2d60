"""What a crew set by hand about a pass, as JSON; every part may be missing and is then found.

``{"start_s": 0.0, "finish_s": 0.0, "calls_minus_run_s": 0.0,
"parts": [{"from_m": 0.0, "to_m": 0.0, "reason": "…"}], "pins": [{"note": 0, "text": "as written", "at_m": 0.0}]}``
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any

from mirkle.core.by_hand import ByHand
from mirkle.core.errors import MirkleError
from mirkle.core.lineup.called import Pin
from mirkle.core.notes.model import Note
from mirkle.core.verdict.parts import Part


def by_hand_json(by_hand: ByHand, notes: Sequence[Note]) -> bytes:
    """What was set by hand as bytes; its parts count as set by hand from then on."""
    out: dict[str, Any] = {}
    for name in ("start_s", "finish_s", "calls_minus_run_s"):
        if (value := getattr(by_hand, name)) is not None:
            out[name] = round(value, 3)
    if by_hand.parts is not None:
        out["parts"] = [
            {"from_m": round(p.from_m, 1), "to_m": round(p.to_m, 1), "reason": p.reason} for p in by_hand.parts
        ]
    out["pins"] = [{"note": p.note, "text": notes[p.note].text, "at_m": p.at_m} for p in by_hand.pins]
    return (json.dumps(out, ensure_ascii=False, indent=1) + "\n").encode()


def parse_by_hand(content: bytes, notes: Sequence[Note], *, name: str) -> ByHand:
    """What was set by hand. A pin whose note reads otherwise by now is left out: it was put on another note.

    Raises
    ------
    MirkleError
    """
    try:
        told = json.loads(content)
        parts = told.get("parts")
        pins = [(int(p["note"]), str(p["text"]), p["at_m"]) for p in told.get("pins", ())]
        return ByHand(
            start_s=_number(told.get("start_s")),
            finish_s=_number(told.get("finish_s")),
            calls_minus_run_s=_number(told.get("calls_minus_run_s")),
            parts=None
            if parts is None
            else tuple(Part(float(p["from_m"]), float(p["to_m"]), str(p["reason"])) for p in parts),
            pins=tuple(
                Pin(at, _number(place)) for at, text, place in pins if at < len(notes) and notes[at].text == text
            ),
        )
    except (ValueError, KeyError, TypeError, AttributeError):
        raise MirkleError("it does not hold what was set by hand", mend="set it again", where=name) from None


def _number(value: object) -> float | None:
    return None if value is None else float(value)  # type: ignore[arg-type]
