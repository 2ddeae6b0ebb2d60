"""The itinerary of a rally: stages, services, time controls and liaisons with their times, read from a table that somebody typed or pasted.

A line is one item: a time, what it is, its name, and where known its length and how long it takes, in any order and with any separator
("09:12  SS1 Slatehook  12.4 km", "Service A; 10:05; 30 min"). A line with a date and nothing else begins a day. What a line lacks is said.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta
from typing import Literal

from mirkle.core.messages import Message, gettext_noop, message

Kind = Literal["stage", "service", "control", "liaison", "other"]
KIND_WORDS: dict[Kind, str] = {
    "stage": gettext_noop("stage"),
    "service": gettext_noop("service"),
    "control": gettext_noop("time control"),
    "liaison": gettext_noop("liaison"),
    "other": gettext_noop("other"),
}
# The words that name a kind, in English and Portuguese; a stage may also be named by its number (SS3, PE3, ES3).
WORDS: dict[Kind, tuple[str, ...]] = {
    "service": ("service", "assistência", "assistencia", "regroup", "reagrupamento", "refuel", "reabastecimento", "remote service"),
    "control": (
        "time control",
        "controlo horário",
        "controlo horario",
        "controle horário",
        "passage control",
        "parc fermé",
        "parque fechado",
    ),
    "liaison": ("liaison", "road section", "ligação", "ligacao", "transport section"),
    "stage": ("special stage", "stage", "prova especial", "classificativa", "especial"),
}
_NUMBERED = re.compile(r"^(ss|pe|pec|es|tc|ch)\s*\.?\s*(\d+\w?)\b\.?", re.IGNORECASE)
_IS_CONTROL = ("tc", "ch")
_CLOCK = re.compile(r"(?<![\d.,:])([01]?\d|2[0-3])[:h]([0-5]\d)(?::[0-5]\d)?(?![\d])")
_MINUTES = re.compile(r"(\d{1,3})\s*(?:min\b|minutes\b|minutos\b|')", re.IGNORECASE)
_KM = re.compile(r"(\d{1,3}(?:[.,]\d+)?)\s*km\b", re.IGNORECASE)
# In a table the unit stands in the head of its column.
_BARE_KM = re.compile(r"(?<![\w.,:])(\d{1,2}[.,]\d{1,3})(?![\w.,:])")
_DATES = ((re.compile(r"\b(\d{4})-(\d{1,2})-(\d{1,2})\b"), (1, 2, 3)), (re.compile(r"\b(\d{1,2})[./](\d{1,2})[./](\d{4})\b"), (3, 2, 1)))
_DAYS = (
    ("monday", "segunda-feira", "segunda"),
    ("tuesday", "terça-feira", "terça"),
    ("wednesday", "quarta-feira", "quarta"),
    ("thursday", "quinta-feira", "quinta"),
    ("friday", "sexta-feira", "sexta"),
    ("saturday", "sábado", "sabado"),
    ("sunday", "domingo"),
)
# A cell of a spreadsheet may hold a time as a share of a day, or a day and a time as days from this one.
_SHARE_OF_DAY = re.compile(r"^0\.\d{3,}$")
_SERIAL = re.compile(r"^(4\d{4}|5\d{4})(\.\d+)?$")
_SERIAL_BEGINS = datetime(1899, 12, 30)
# The second drive of a stage is written as a figure or as a Roman numeral behind its name.
_SECOND_DRIVE = re.compile(r"^(.*\S)\s+(\d|I{1,3}|IV)$")
# What an item takes where nothing says it: a stage from its start to the end of its road, in minutes. # common practice
LONGEST_ITEM_MIN = 24 * 60
STAGE_KMH, STAGE_MIN = 80.0, 15.0


@dataclass(frozen=True)
class Item:
    """One item of an itinerary. ``number`` is the organiser's (“3” of SS3), ``drive`` counts the drives of one stage from 1; ``minutes`` is
    how long it takes and ``length_m`` how long it is, 0 where nobody says. ``uid`` is the same in every copy of the rally."""

    kind: Kind
    name: str
    start: datetime
    minutes: float = 0.0
    length_m: float = 0.0
    number: str = ""
    drive: int = 1
    cancelled: bool = False
    uid: str = ""

    @property
    def end(self) -> datetime:
        """When it is over; of a stage without a length or minutes, a common time later."""
        minutes = self.minutes
        if not minutes and self.kind == "stage":
            minutes = 60.0 * self.length_m / 1000.0 / STAGE_KMH if self.length_m else STAGE_MIN
        return self.start + timedelta(minutes=minutes)


@dataclass(frozen=True)
class ReadLine:
    """A line of an itinerary: its ``item``, the ``day`` that it begins, or what it lacks (``fault``)."""

    text: str
    item: Item | None = None
    day: date | None = None
    fault: Message | None = None


def read_itinerary(text: str, today: date) -> list[ReadLine]:
    """An itinerary, a line an item; empty lines and the head of a table are left out.

    Parameters
    ----------
    today : the day of what stands before any date, and from which “Friday” is the next one
    """
    reader = _Reader(today)
    for line in text.splitlines():
        cells = " ".join(c.strip().strip('"') for c in re.split(r"[\t;|]|,(?!\d)", line) if c.strip())
        if cells and not (reader.found == [] and _is_head(cells, today)):
            reader.take(line.strip(), cells)
    return _with_drives(_with_others(reader.found))


def _is_head(cells: str, today: date) -> bool:
    """Whether a line is the head of a table: no figure and no day."""
    return re.search(r"\d", cells) is None and _day_in(cells, today) is None


class _Reader:
    """Reads an itinerary line by line, and knows which day it is."""

    def __init__(self, today: date) -> None:
        self.found: list[ReadLine] = []
        self._today, self._day, self._before = today, today, time(0)

    def take(self, line: str, cells: str) -> None:
        """Takes one line in."""
        began = _day_in(cells, self._today)
        if began is not None:
            self._day, self._before = began, time(0)
            cells = _without_day(cells)
        if began is not None and not re.search(r"\w", cells):
            self.found.append(ReadLine(line, day=began))
            return
        read = _item(line, cells, self._day)
        self.found.append(self._on_its_day(read) if read.item is not None else read)

    def _on_its_day(self, read: ReadLine) -> ReadLine:
        """Behind midnight another day begins."""
        assert read.item is not None
        clock = read.item.start.time()
        if clock < self._before and self._before > time(12):
            self._day += timedelta(days=1)
            read = replace(read, item=replace(read.item, start=datetime.combine(self._day, clock)))
        self._before = clock
        return read


def _day_in(text: str, today: date) -> date | None:
    """The day that a text names; ``None`` where it names none."""
    words = text.split()
    written = next((_date_of(match, order) for pattern, order in _DATES if (match := pattern.search(text))), None)
    serial = next((s for word in words if (s := _SERIAL.match(word))), None)
    if written is not None or serial is None:
        return written or _weekday(words[0] if words else "", today)
    return (_SERIAL_BEGINS + timedelta(days=float(serial[0]))).date()


def _date_of(match: re.Match[str], order: tuple[int, int, int]) -> date | None:
    try:
        return date(*(int(match[i]) for i in order))
    except ValueError:
        return None


def _weekday(word: str, today: date) -> date | None:
    """The next day of that name; ``None`` where it is none."""
    name = word.lower().strip(",.:")
    ahead = next((i for i, names in enumerate(_DAYS) if name in names), None)
    return today + timedelta(days=(ahead - today.weekday()) % 7) if ahead is not None else None


def _without_day(text: str) -> str:
    """A line without the day that it names; the time of a spreadsheet's date stays."""
    for pattern, _ in _DATES:
        text = pattern.sub(" ", text, count=1)
    words = text.split()
    kept = [_time_of_serial(w) if _SERIAL.match(w) else w for w in words]
    if kept and kept[0].lower().strip(",.:") in {name for names in _DAYS for name in names}:
        kept = kept[1:]
    return " ".join(k for k in kept if k)


def _time_of_serial(word: str) -> str:
    moment = _SERIAL_BEGINS + timedelta(seconds=round(float(word) * 86_400))
    return f"{moment:%H:%M}" if "." in word else ""


def _item(line: str, text: str, day: date) -> ReadLine:
    text = " ".join(_clock_of_share(w) if _SHARE_OF_DAY.match(w) else w for w in text.split())
    clock = _CLOCK.search(text)
    if clock is None:
        return ReadLine(line, fault=message("no time, such as 09:12"))
    start = datetime.combine(day, time(int(clock[1]), int(clock[2])))
    # A second time in a line is when the next control is due, or what it takes: only one stands.
    text = _CLOCK.sub(" ", text)
    text, km = _taken(text, _KM if _KM.search(text) else _BARE_KM)
    text, minutes = _taken(text, _MINUTES)
    kind, number, name = _named(" ".join(text.split()))
    if not name and not number and kind == "stage":
        return ReadLine(line, fault=message("no name"))
    return ReadLine(line, item=Item(kind, name or number, start, minutes, 1000.0 * km, number))


def _taken(text: str, pattern: re.Pattern[str]) -> tuple[str, float]:
    """A text without the first thing that a pattern finds, and its number; 0 where there is none."""
    match = pattern.search(text)
    return (text.replace(match[0], " ", 1), float(match[1].replace(",", "."))) if match is not None else (text, 0.0)


def _clock_of_share(word: str) -> str:
    minutes = round(float(word) * 24 * 60)
    return f"{minutes // 60:02d}:{minutes % 60:02d}"


def _named(text: str) -> tuple[Kind, str, str]:
    """What a text names: its kind, its number and the name that is left."""
    numbered = next((m for m in (_NUMBERED.match(text[i:]) for i in _word_starts(text)) if m), None)
    number = numbered[2] if numbered is not None else ""
    kind = _kind_of(text, numbered[1].lower() if numbered is not None else "")
    text = text.replace(numbered[0], " ", 1) if numbered is not None else text
    if kind == "stage":
        # “Stage” is what it is and no part of its name; “Service A” is a name.
        text = re.sub(_any_of(WORDS["stage"]), " ", text, flags=re.IGNORECASE)
    return kind, number, " ".join(text.split()).strip(" -–—:,.()")


def _kind_of(text: str, sign: str) -> Kind:
    """What an item is, by the words of a kind, else by the letters before its number; a stage where nothing says it."""
    said: Kind | None = next((kind for kind, words in WORDS.items() if re.search(_any_of(words), text, re.IGNORECASE)), None)
    by_number: Kind | None = None if not sign else "control" if sign in _IS_CONTROL else "stage"
    return said if said in ("service", "liaison") else by_number or said or "stage"


def _any_of(words: Sequence[str]) -> str:
    return rf"\b(?:{'|'.join(map(re.escape, words))})\b"


def _word_starts(text: str) -> list[int]:
    return [m.start() for m in re.finditer(r"\S+", text)]


def _with_others(lines: Sequence[ReadLine]) -> list[ReadLine]:
    """Where stages have numbers, what has no number, no length and no word for a kind is no stage: a lunch, a photograph."""
    items = [read.item for read in lines if read.item is not None]
    if not any(item.kind == "stage" and item.number for item in items):
        return list(lines)

    def is_other(item: Item) -> bool:
        return item.kind == "stage" and not item.number and not item.length_m

    return [replace(r, item=replace(r.item, kind="other")) if r.item is not None and is_other(r.item) else r for r in lines]


def _with_drives(lines: Sequence[ReadLine]) -> list[ReadLine]:
    """Counts the drives of each stage: “Slatehook 2” is the second of Slatehook where there is a Slatehook, or a “Slatehook 1”."""
    often = Counter(_base(read.item.name) for read in lines if read.item is not None and read.item.kind == "stage")
    counted: Counter[str] = Counter()
    out = []
    for read in lines:
        item = read.item
        if item is not None and item.kind == "stage":
            base = _base(item.name)
            name = base if often[base] > 1 else item.name
            counted[name] += 1
            read = replace(read, item=replace(item, name=name, drive=counted[name]))
        out.append(read)
    return out


def _base(name: str) -> str:
    match = _SECOND_DRIVE.match(name)
    return match[1] if match is not None else name


# One change, and all follows


def delayed(items: Iterable[Item], uid: str, minutes: float) -> list[Item]:
    """The itinerary with an item later (or earlier) by ``minutes``, and everything behind it on that day with it."""
    items = in_order(items)
    at = next(i for i, item in enumerate(items) if item.uid == uid)
    day, by = items[at].start.date(), timedelta(minutes=minutes)
    return [replace(item, start=item.start + by) if i >= at and item.start.date() == day else item for i, item in enumerate(items)]


def lasting(items: Iterable[Item], uid: str, minutes: float) -> list[Item]:
    """The itinerary with an item that takes ``minutes``: what comes behind it on that day moves by the difference."""
    items = in_order(items)
    at = next(i for i, item in enumerate(items) if item.uid == uid)
    by = minutes - (items[at].end - items[at].start).total_seconds() / 60.0
    items[at] = replace(items[at], minutes=minutes)
    behind = next((item for item in items[at + 1 :] if item.start.date() == items[at].start.date()), None)
    return delayed(items, behind.uid, by) if behind is not None else items


def cancelled(items: Iterable[Item], uid: str, *, is_cancelled: bool = True) -> list[Item]:
    """The itinerary with a stage that is not driven; the times of the others stay, as organisers keep them."""
    return [replace(item, cancelled=is_cancelled) if item.uid == uid else item for item in items]


def in_order(items: Iterable[Item]) -> list[Item]:
    """The items by their time."""
    return sorted(items, key=lambda item: (item.start, item.uid))


def next_start(items: Iterable[Item], now: datetime, stage: str | None = None) -> Item | None:
    """The stage that is driven next, or the next drive of one ``stage``; ``None`` where none is left."""
    coming = (i for i in in_order(items) if i.kind == "stage" and not i.cancelled and i.start > now)
    return next((i for i in coming if stage is None or i.name == stage), None)
