"""Parts that don't count, as JSON: ``[{"from_m": 0.0, "to_m": 0.0, "reason": "…"}]``."""

from __future__ import annotations

import json
from collections.abc import Sequence

from mirkle.core.errors import MirkleError
from mirkle.core.verdict.parts import Part


def parts_json(parts: Sequence[Part]) -> bytes:
    """The parts as bytes; all of them count as set by hand from then on."""
    rows = [{"from_m": round(p.from_m, 1), "to_m": round(p.to_m, 1), "reason": p.reason} for p in parts]
    return (json.dumps(rows, ensure_ascii=False, indent=1) + "\n").encode()


def parse_parts(content: bytes, *, name: str) -> tuple[Part, ...]:
    """The parts in a file's bytes.

    Raises
    ------
    MirkleError
    """
    try:
        rows = json.loads(content)
        return tuple(Part(float(r["from_m"]), float(r["to_m"]), str(r["reason"])) for r in rows)
    except (ValueError, KeyError, TypeError):
        raise MirkleError("it holds no parts that don't count", mend="set them again", where=name) from None
