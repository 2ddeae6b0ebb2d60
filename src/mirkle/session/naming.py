"""What a new stage is called: by the title in its notes, by a file name that says something, or by the recording's day and place."""

from __future__ import annotations

import re
from collections.abc import Collection

from mirkle.core.errors import MirkleError
from mirkle.core.review import Review
from mirkle.files.project.project import SourceFile
from mirkle.session.parsed_files import crew_of, reading_of

# File names that say nothing of a stage, without figures and signs between.
SAYS_NOTHING = frozenset(
    [
        "notes",
        "note",
        "book",
        "notebook",
        "typed",
        "typednotes",
        "pacenotes",
        "pace",
        "stage",
        "stagenotes",
        "text",
        "untitled",
        "document",
        "doc",
        "new",
        "copy",
        "run",
        "recording",
        "log",
        "words",
        "calls",
        "said",
        "notas",
        "nota",
        "caderno",
        "texto",
        "documento",
        "sem",
        "titulo",
        "especial",
        "troco",
    ]
)
# A title longer than this is a sentence.
LONGEST = 60
_DAY = re.compile(rb"\b(20\d\d)-([01]\d)-([0-3]\d)\b")
# Where a file says its day, if it does.
_HEAD_BYTES = 20_000


def name_in(materials: Collection[SourceFile]) -> str:
    """The title in the notes, else the name of their file, else of the recording's; empty where none of them says anything."""
    newest = {m.role: m for m in materials}
    notes = newest.get("notes")
    title = _title_of(notes, newest.get("crew")) if notes is not None else ""
    stems = (newest[kind].name.split(".")[0] for kind in ("notes", "run") if kind in newest)
    return title or next((stem for stem in stems if _says_something(stem)), "")


def _title_of(notes: SourceFile, crew: SourceFile | None) -> str:
    try:
        title = reading_of(notes, crew_of(crew)).title
    except MirkleError:
        return ""
    return title if len(title) <= LONGEST else ""


def _says_something(stem: str) -> bool:
    words = re.findall(r"[^\W\d_]+", stem.lower())
    return any(word not in SAYS_NOTHING for word in words)


def name_by_recording(run: SourceFile, review: Review) -> str:
    """The day and place of a recording, such as “2026-05-03, 41.18 N 8.61 W”; empty where it knows neither."""
    day = _DAY.search(run.content[:_HEAD_BYTES])
    parts = [day[0].decode()] if day is not None else []
    if review.measured.plan.middle_deg is not None:
        lat, lon = review.measured.plan.middle_deg
        parts.append(f"{abs(lat):.2f} {'N' if lat >= 0 else 'S'} {abs(lon):.2f} {'E' if lon >= 0 else 'W'}")
    return ", ".join(parts)


def distinct_name(name: str, others: Collection[str]) -> str:
    """The name, with a number behind it where there is another stage of that name."""
    number = 1
    while (candidate := name if number == 1 else f"{name} ({number})") in others:
        number += 1
    return candidate
