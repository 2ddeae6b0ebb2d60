"""Files that an itinerary comes in: text, CSV, spreadsheets, and calendars (iCalendar, RFC 5545), each as lines of text."""

from __future__ import annotations

import re
from datetime import UTC, datetime
from pathlib import Path

from mirkle.files.detect import decoded, read_bytes
from mirkle.files.notes.documents import is_document, text_of

LARGEST_BYTES = 5_000_000
_FIELD = re.compile(r"^(DTSTART|DTEND|SUMMARY|LOCATION)(?:;[^:]*)?:(.*)$")
_IS_WORK = re.compile(r"service|assist|liaison|liga|regroup|reagrup", re.IGNORECASE)


def itinerary_text(path: Path) -> str:
    """The itinerary in a file as text, a line an item.

    Raises
    ------
    UnusableFile
        It is missing, damaged, or no text.
    """
    content = read_bytes(path, largest=LARGEST_BYTES, wanted="an itinerary")
    if is_document(content) or content.startswith(b"PK"):
        return text_of(content, name=path.name)
    text = decoded(content, name=path.name)
    return _from_calendar(text) if text.lstrip().startswith("BEGIN:VCALENDAR") else text


def _from_calendar(text: str) -> str:
    """The events of a calendar by their time, a line each with its date in front."""
    # A long line goes on behind a break and a space (3.1).
    unfolded = re.sub(r"\r?\n[ \t]", "", text)
    events: list[dict[str, str]] = []
    inside = False
    for line in unfolded.splitlines():
        if line == "BEGIN:VEVENT":
            events.append({})
            inside = True
        elif line == "END:VEVENT":
            inside = False
        elif inside and (match := _FIELD.match(line)):
            events[-1].setdefault(match[1], match[2])
    lines = []
    for event in events:
        start, end = (_moment(event.get(key, "")) for key in ("DTSTART", "DTEND"))
        words = re.sub(r"\\([,;\\n])", lambda m: " " if m[1] == "n" else m[1], event.get("SUMMARY", ""))
        if start is not None:
            takes = (end - start).total_seconds() / 60.0 if end is not None else 0.0
            # A stage's end in a calendar is when it closes, not when the car is there: only what is no stage has minutes.
            minutes = (
                f" {takes:.0f} min"
                if 0 < takes < 24 * 60 and re.search(r"service|assist|liaison|liga|regroup", words, re.IGNORECASE)
                else ""
            )
            lines.append(f"{start:%Y-%m-%d %H:%M} {words}{minutes}")
    return "\n".join(sorted(lines))


def _moment(text: str) -> datetime | None:
    """A date and time; one in UTC as this computer's clock shows it (3.3.5)."""
    match = re.match(r"^(\d{8}T\d{6})(Z?)$", text.strip())
    if match is None:
        return None
    try:
        moment = datetime.strptime(match[1], "%Y%m%dT%H%M%S")
    except ValueError:
        return None
    return moment.replace(tzinfo=UTC).astimezone().replace(tzinfo=None) if match[2] else moment
