"""The file of a rally: JSON with its itinerary, a record an item, and which stage's file each stage of it is.

{"format": "mirkle-rally/1", "id": "...", "name": {"value": "...", "clock": 3},
 "items": [{"uid": "...", "clock": 4, "kind": "stage", "name": "Slatehook", "start": "2026-12-04T09:12", "length_m": 12400.0, ...}],
 "stages": {"Slatehook": {"id": "...", "clock": 5}}}

Each record has a logical clock, and an item that was taken away stays as one that is ``gone``: two copies are merged record by record, and
the later stands. Keys that a newer program wrote are kept.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime
from pathlib import Path
from typing import Any

from mirkle.core.errors import MirkleError
from mirkle.core.messages import message
from mirkle.core.rally.itinerary import KIND_WORDS, Item, in_order
from mirkle.files.atomic_write import write_whole
from mirkle.files.detect import read_bytes
from mirkle.files.project.format import new_uid

FORMAT = "mirkle-rally/1"
SUFFIX = ".mirkle-rally"
LARGEST_BYTES = 2_000_000


class UnusableRally(MirkleError):
    """A rally's file that can't be read or written."""


Record = Mapping[str, Any]


@dataclass(frozen=True)
class RallyFile:
    """A rally as it is kept: records by their identities (``items``) and by the names of stages (``stages``), and its ``name``;
    ``identity`` is the same in every copy."""

    identity: str
    name: Record
    items: Mapping[str, Record] = field(default_factory=dict)
    stages: Mapping[str, Record] = field(default_factory=dict)
    extra: Mapping[str, Any] = field(default_factory=dict)

    @classmethod
    def new(cls, name: str) -> RallyFile:
        """A rally with nothing but a name."""
        return cls(new_uid(), {"value": name, "clock": 1})

    @property
    def title(self) -> str:
        """The rally's name."""
        return str(self.name["value"])

    @property
    def itinerary(self) -> list[Item]:
        """The items that stand, by their time."""
        return in_order(item for uid, record in self.items.items() if (item := _item_of(uid, record)) is not None)

    def stage_id(self, name: str) -> str:
        """The identity of the stage's file that a stage of the itinerary is; empty where nobody said."""
        return str(self.stages.get(name, {}).get("id", ""))

    @property
    def _clock(self) -> int:
        records = (self.name, *self.items.values(), *self.stages.values())
        return 1 + max(int(r["clock"]) for r in records)

    def with_itinerary(self, items: Iterable[Item]) -> RallyFile:
        """The rally with these items and no others: one that is as it was keeps its record, a new one gets an identity."""
        clock, records, kept = self._clock, dict(self.items), set()
        for item in items:
            uid = item.uid or new_uid()
            kept.add(uid)
            if _item_of(uid, records.get(uid, {"gone": True})) != replace(item, uid=uid):
                records[uid] = {"clock": clock} | _record_of(item)
        for uid in records.keys() - kept:
            if not records[uid].get("gone"):
                records[uid] = {"clock": clock, "gone": True}
        return replace(self, items=records)

    def with_name(self, name: str) -> RallyFile:
        """The rally under another name."""
        return replace(self, name={"value": name, "clock": self._clock}) if name != self.title else self

    def with_stage(self, name: str, identity: str) -> RallyFile:
        """The rally with a stage of its itinerary known to be a stage's file, by its identity."""
        if self.stage_id(name) == identity:
            return self
        return replace(self, stages={**self.stages, name: {"id": identity, "clock": self._clock}})

    def merged(self, other: RallyFile) -> RallyFile:
        """Both together: of each record the later one, and of two that were written at once the larger as text."""
        items, stages = (_later(a, b) for a, b in ((self.items, other.items), (self.stages, other.stages)))
        return RallyFile(self.identity, max(self.name, other.name, key=_rank), items, stages, {**other.extra, **self.extra})


def _later(one: Mapping[str, Record], other: Mapping[str, Record]) -> dict[str, Record]:
    both = {}
    for key in one.keys() | other.keys():
        both[key] = max((r for r in (one.get(key), other.get(key)) if r is not None), key=_rank)
    return both


def _rank(record: Record) -> tuple[int, str]:
    return int(record["clock"]), json.dumps(record, sort_keys=True)


def _record_of(item: Item) -> dict[str, Any]:
    values = {
        "kind": item.kind,
        "name": item.name,
        "start": item.start.isoformat(timespec="minutes"),
        "minutes": item.minutes,
        "length_m": item.length_m,
        "number": item.number,
        "drive": item.drive,
        "cancelled": item.cancelled,
    }
    return {key: value for key, value in values.items() if value or key in ("kind", "name", "start")}


def _item_of(uid: str, record: Record) -> Item | None:
    """The item that a record holds; ``None`` where it is gone, or only a newer program knows it."""
    if record.get("gone") or record.get("kind") not in KIND_WORDS:
        return None
    try:
        return Item(
            record["kind"],
            str(record["name"]),
            datetime.fromisoformat(str(record["start"])).replace(tzinfo=None),
            float(record.get("minutes", 0.0)),
            float(record.get("length_m", 0.0)),
            str(record.get("number", "")),
            int(record.get("drive", 1)),
            bool(record.get("cancelled", False)),
            uid,
        )
    except (KeyError, TypeError, ValueError):
        return None


def parse_rally(content: bytes, *, name: str) -> RallyFile:
    """A rally from the bytes of its file.

    Raises
    ------
    UnusableRally
        It is none.
    """
    try:
        data = json.loads(content)
        if data["format"] != FORMAT:
            raise UnusableRally(message("it was written by a newer Mirkle"), mend="open it with the newer Mirkle", where=name)
        items = {str(record["uid"]): {k: v for k, v in record.items() if k != "uid"} for record in data.pop("items")}
        stages = {str(key): dict(record) for key, record in data.pop("stages").items()}
        title, identity = dict(data.pop("name")), str(data.pop("id"))
        for record in (title, *items.values(), *stages.values()):
            if type(record["clock"]) is not int:
                raise ValueError("a clock counts")
        str(title["value"])
    except (AttributeError, KeyError, TypeError, ValueError, RecursionError):
        raise UnusableRally("it is damaged or not a rally of Mirkle", mend="open a copy of it", where=name) from None
    return RallyFile(identity, title, items, stages, {k: v for k, v in data.items() if k != "format"})


def rally_text(rally: RallyFile) -> bytes:
    """A rally as the bytes of its file."""
    items = [{"uid": uid, **record} for uid, record in sorted(rally.items.items())]
    data = {"format": FORMAT, "id": rally.identity, "name": rally.name, "items": items, "stages": rally.stages, **rally.extra}
    return (json.dumps(data, indent=1, ensure_ascii=False, sort_keys=True) + "\n").encode()


def read_rally(path: Path) -> RallyFile:
    """The rally in a file.

    Raises
    ------
    MirkleError
        It is missing, damaged or none.
    """
    return parse_rally(read_bytes(path, largest=LARGEST_BYTES, wanted="a rally"), name=path.name)


def keep_rally(path: Path, rally: RallyFile) -> RallyFile:
    """Writes a rally, together with what another window wrote meanwhile; returns what stands now.

    Raises
    ------
    MirkleError
        It can't be written; what was there stays.
    """
    if path.exists():
        rally = rally.merged(read_rally(path))
    write_whole(path, rally_text(rally))
    return rally
