"""The file of a crew's profile: JSON that people can read, with what each reviewed pass showed. Nothing of it leaves the machine.

{"format": "mirkle-crew/1", "driver": "...", "co_driver": "...", "car": "27", "gathers": true, "used": true,
 "passes": [{"stage": "...", "pass": "...", "day": 9834.0, "book": "...", "top": 6, "odometer": 0.98, "usual_lead_s": 3.1,
             "conditions": ["night"], "meant": [["into", 12.0], …], "misheard": [["en", "cautious", "caution", "!", 4], …],
             "corners": [[note, called, trust, lead_s or null, ln radius, …], …]}]}

A corner's columns are those of :class:`mirkle.core.habits.evidence.PassEvidence`. Whoever deletes the file has deleted the profile.
"""

from __future__ import annotations

import json
import math
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import numpy as np

from mirkle.core.errors import MirkleError
from mirkle.core.habits.evidence import COLUMNS, PassEvidence
from mirkle.core.habits.misheard import Misheard
from mirkle.files.atomic_write import write_whole
from mirkle.files.detect import read_bytes

FORMAT = "mirkle-crew/1"
SUFFIX = ".mirkle-crew"
LARGEST_BYTES = 50_000_000
# What stands before the columns in a corner's row.
HEAD = 4


class UnusableCrewRecord(MirkleError):
    """A crew's profile that can't be read or written."""


@dataclass(frozen=True)
class CrewRecord:
    """A crew by the names it chose, whether its profile ``gathers`` what reviewed passes show, whether it is ``used`` for the next review,
    and its ``passes``."""

    driver: str = ""
    co_driver: str = ""
    car: str = ""
    gathers: bool = True
    used: bool = True
    passes: tuple[PassEvidence, ...] = ()

    @property
    def name(self) -> str:
        """What it is called."""
        names = " / ".join(n for n in (self.driver, self.co_driver) if n)
        return f"{names} ({self.car})" if self.car and names else names or self.car

    def with_pass(self, shown: PassEvidence) -> CrewRecord:
        """The record with what a pass showed, in place of what it showed before."""
        others = [p for p in self.passes if (p.stage, p.pass_id) != (shown.stage, shown.pass_id)]
        return replace(self, passes=(*others, shown))


def parse_crew_record(content: bytes, *, name: str) -> CrewRecord:
    """A crew's profile from the bytes of its file.

    Raises
    ------
    UnusableCrewRecord
        It is none.
    """
    try:
        data = json.loads(content)
        if data["format"] != FORMAT:
            raise ValueError("another format")
        passes = tuple(map(_pass_of, data["passes"]))
        driver, co_driver, car = (str(data.get(key, "")) for key in ("driver", "co_driver", "car"))
        return CrewRecord(driver, co_driver, car, bool(data.get("gathers", True)), bool(data.get("used", True)), passes)
    except (AttributeError, KeyError, TypeError, ValueError, IndexError, RecursionError):
        raise UnusableCrewRecord(
            "it is damaged or not a crew's profile", mend="open a copy of it, or begin a new one", where=name
        ) from None


def _pass_of(row: dict[str, Any]) -> PassEvidence:
    corners = row["corners"]
    table = np.array([[float("nan") if v is None else float(v) for v in corner] for corner in corners]).reshape(-1, HEAD + COLUMNS)
    if not (np.isfinite(table[:, [0, 1, 2, *range(HEAD, HEAD + COLUMNS)]]).all() and 2 <= int(row["top"]) <= 20):
        raise ValueError("figures that no pass has")
    notes = tuple(int(n) for n in table[:, 0])
    odometer, lead_s, day = (float(row.get(key, 0.0)) for key in ("odometer", "usual_lead_s", "day"))
    if not all(map(math.isfinite, (odometer, lead_s, day))):
        raise ValueError("figures that no pass has")
    identity = (str(row["stage"]), str(row["pass"]), day, str(row["book"]), int(row["top"]), notes)
    told = (table[:, HEAD:], table[:, 1], table[:, 2], table[:, 3])
    meant = tuple((str(word), float(length_m)) for word, length_m in row.get("meant", ()))
    if not all(math.isfinite(length_m) for _, length_m in meant):
        raise ValueError("figures that no pass has")
    misheard = tuple(
        Misheard(str(language), str(heard), str(kind), str(key), int(places))
        for language, heard, kind, key, places in row.get("misheard", ())
    )
    conditions = frozenset(map(str, row.get("conditions", ())))
    return PassEvidence(*identity, *told, odometer, lead_s, bool(row.get("descending", False)), conditions, meant, misheard)


def crew_record_text(record: CrewRecord) -> bytes:
    """A crew's profile as the bytes of its file, a line for each corner."""
    head: dict[str, Any] = {"format": FORMAT, "driver": record.driver, "co_driver": record.co_driver, "car": record.car}
    head |= {"gathers": record.gathers, "used": record.used}
    lines = [json.dumps(head, ensure_ascii=False, indent=1)[:-2] + ',\n "passes": [']
    lines.append(",\n".join(map(_pass_text, record.passes)))
    return ("\n".join(lines) + "\n ]\n}\n").encode()


def _pass_text(shown: PassEvidence) -> str:
    head: dict[str, Any] = {"stage": shown.stage, "pass": shown.pass_id, "day": shown.day, "book": shown.book, "top": shown.top}
    head |= {"odometer": round(shown.odometer, 4), "usual_lead_s": round(shown.usual_lead_s, 2), "descending": shown.descending}
    head |= {"conditions": sorted(shown.conditions), "meant": [[word, round(length_m, 1)] for word, length_m in shown.meant]}
    head |= {"misheard": [[m.language, m.heard, m.kind, m.key, m.places] for m in shown.misheard]}
    rows = [
        json.dumps([note, round(float(called), 2), round(float(trust), 3), _number(lead), *(round(float(v), 3) for v in row)])
        for note, called, trust, lead, row in zip(shown.notes, shown.called, shown.trust, shown.lead_s, shown.rows, strict=True)
    ]
    return f'  {json.dumps(head, ensure_ascii=False)[:-1]}, "corners": [\n   ' + ",\n   ".join(rows) + "]}"


def _number(value: float) -> float | None:
    return round(float(value), 2) if math.isfinite(value) else None


def read_crew_record(path: Path) -> CrewRecord:
    """The profile in a file.

    Raises
    ------
    MirkleError
        It is missing, damaged or none.
    """
    return parse_crew_record(read_bytes(path, largest=LARGEST_BYTES, wanted="a crew's profile"), name=path.name)


def keep_crew_record(path: Path, record: CrewRecord) -> None:
    """Writes a profile.

    Raises
    ------
    MirkleError
        It can't be written; what was there stays.
    """
    write_whole(path, crew_record_text(record))
