"""An itinerary as somebody typed or pasted it, or as organisers publish it, read line by line.

A line is one item: a time, what it is, its name, and where known its length and how long it takes, in any order and with any separator
("09:12  SS1 Slatehook  12.4 km", "Service A; 10:05; 30 min"). A line with a date and nothing else begins a day. What a line lacks is said.

An organiser's table has two times in a line: how long the way there takes, and when the first car is due. A time that can't be one of this
day's, because it is hours ahead of all others, is how long something takes.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, time, timedelta
from itertools import pairwise

from mirkle.core.messages import Message, message
from mirkle.core.rally.itinerary import Item, Kind

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
_NUMBERED = re.compile(r"^(ss|pe|pec|es|tc|ch|stage|classificativa|especial)\s*\.?\s*(\d+\w?)\b[.:]?", re.IGNORECASE)
# What may stand beside a stage's time and is no part of its name.
_START = re.compile(r"\b(?:start|starts|partida)\b", re.IGNORECASE)
_IS_CONTROL = ("tc", "ch")
# In a table whose stages have a sign, the controls may have their number alone.
_BARE_NUMBER = re.compile(r"^(\d{1,2}[A-Za-z]?)\s+(?=\D)")
# The controls on the way into a service and out of it.
_IN_OR_OUT = re.compile(r"\b(?:in|out|entrada|saída|saida)$", re.IGNORECASE)
# What is no item: the sums under a part of the day.
_SUM = re.compile(r"^(?:section |leg |day )?totals?\b|^tota(?:l|is)\b", re.IGNORECASE)
_CLOCK = re.compile(r"(?<![\d.,:])([01]?\d|2[0-3])[:h]([0-5]\d)(?::[0-5]\d)?(?!\d)(?:\s*([ap])\.?m\b\.?)?", re.IGNORECASE)
# Where no time has a colon, it has a point.
_DOTTED = re.compile(r"(?<![\d.,:/])([01]?\d|2[0-3])\.([0-5]\d)(?![\d.,/]|\s*km)(?:\s*([ap])\.?m\b\.?)?", re.IGNORECASE)
_UNTIL = re.compile(r"\s*(?:[-–—]|to|until|a|às|até)\s*", re.IGNORECASE)
_MINUTES = re.compile(r"(\d{1,3})\s*(?:mins?\b|minutes\b|minutos\b|')", re.IGNORECASE)
_KM = re.compile(r"(\d{1,3}(?:[.,]\d+)?)\s*km\b", re.IGNORECASE)
# In a table the unit stands in the head of its column.
_BARE_KM = re.compile(r"(?<![\w.,:])(\d{1,2}[.,]\d{1,3})(?![\w.,:])")
_DATES = ((re.compile(r"\b(\d{4})-(\d{1,2})-(\d{1,2})\b"), (1, 2, 3)), (re.compile(r"\b(\d{1,2})[./](\d{1,2})[./](\d{4})\b"), (3, 2, 1)))
_MONTHS = (
    ("january", "janeiro"),
    ("february", "fevereiro"),
    ("march", "março"),
    ("april", "abril"),
    ("may", "maio"),
    ("june", "junho"),
    ("july", "julho"),
    ("august", "agosto"),
    ("september", "setembro"),
    ("october", "outubro"),
    ("november", "novembro"),
    ("december", "dezembro"),
)
_MONTH_WORDS = "|".join(sorted({w for names in _MONTHS for name in names for w in (name, name[:3])}, key=len, reverse=True))
# "27 November 2026", "27 de novembro", "Nov 27".
_IN_WORDS = re.compile(
    rf"\b(?:(\d{{1,2}})(?:st|nd|rd|th|º)?\s+(?:de\s+)?({_MONTH_WORDS})|({_MONTH_WORDS})\s+(\d{{1,2}})(?:st|nd|rd|th)?)\b(?![:h.]\d)\.?,?"
    r"(?:\s+(?:de\s+)?(\d{4})\b)?",
    re.IGNORECASE,
)
_DAYS = (
    ("monday", "segunda-feira", "segunda"),
    ("tuesday", "terça-feira", "terça"),
    ("wednesday", "quarta-feira", "quarta"),
    ("thursday", "quinta-feira", "quinta"),
    ("friday", "sexta-feira", "sexta"),
    ("saturday", "sábado", "sabado"),
    ("sunday", "domingo"),
)
_DAY_NAMES = frozenset(name for names in _DAYS for name in names)
# A cell of a spreadsheet may hold a time as a share of a day, or a day and a time as days from this one.
_SHARE_OF_DAY = re.compile(r"^0\.\d{3,}$")
_SERIAL = re.compile(r"^(4\d{4}|5\d{4})(\.\d+)?$")
_SERIAL_BEGINS = datetime(1899, 12, 30)
# The second drive of a stage is written as a figure or as a Roman numeral behind its name.
_SECOND_DRIVE = re.compile(r"^(.*\S)\s+\(?(\d|I{1,3}|IV)$")
# A time up to the first, ahead of another of its line by the second, is how long something takes (minutes). So is one that stands alone and
# is so far ahead of the item before, where that is by the third at the latest: later on it may be one behind midnight.
LONGEST_WAY_MIN, APART_MIN, EVENING_MIN = 180, 180, 18 * 60


@dataclass(frozen=True)
class ReadLine:
    """A line of an itinerary: its ``item``, the ``day`` that it begins, or what it lacks (``fault``)."""

    text: str
    item: Item | None = None
    day: date | None = None
    fault: Message | None = None


def read_itinerary(text: str, today: date) -> list[ReadLine]:
    """An itinerary, a line an item; empty lines, the head of a table and its sums are left out.

    Parameters
    ----------
    today : the day of what stands before any date, and from which “Friday” is the next one
    """
    lines = [(line.strip(), _cells_joined(line)) for line in text.splitlines()]
    clock = _CLOCK if any(_CLOCK.search(cells) or _has_share(cells) for _, cells in lines) else _DOTTED
    reader = _Reader(today, clock, counted=any(_has_stage_sign(cells) for _, cells in lines))
    for line, cells in lines:
        reader.take(line, cells)
    return _with_drives(_with_others(reader.found))


def _cells_joined(line: str) -> str:
    return " ".join(c.strip().strip('"') for c in re.split(r"[\t;|]|,(?!\d)", line) if c.strip())


def _has_stage_sign(cells: str) -> bool:
    sign = _NUMBERED.match(cells)
    return sign is not None and sign[1].lower() not in _IS_CONTROL


def _has_share(cells: str) -> bool:
    return any(_SHARE_OF_DAY.match(word) or _SERIAL.match(word) for word in cells.split())


def _is_head(cells: str, today: date, clock: re.Pattern[str]) -> bool:
    """Whether a line is a title or the head of a table: no item's number, no time and no day; a figure only beside three words."""
    if clock.search(cells) or _has_share(cells) or _NUMBERED.match(cells) or _KM.search(cells) or _day_in(cells, today) is not None:
        return False
    return re.search(r"\d", cells) is None or len(cells.split()) > 3


class _Reader:
    """Reads an itinerary line by line, and knows which day it is, and how late it was at the item before.

    ``clock`` is the pattern of its times; ``counted`` where its stages have numbers with a sign.
    """

    def __init__(self, today: date, clock: re.Pattern[str], *, counted: bool) -> None:
        self.found: list[ReadLine] = []
        self._today, self._day, self._before = today, today, time(0)
        self._clock, self._counted = clock, counted

    def take(self, line: str, cells: str) -> None:
        """Takes one line in, unless it is none of an itinerary."""
        is_head = not self.found and _is_head(cells, self._today, self._clock)
        if not cells or is_head or _SUM.match(cells):
            return
        began = _day_in(cells, self._today)
        if began is not None:
            self._day, self._before = began, time(0)
            cells = _without_day(cells)
        if began is not None and not re.search(r"\w", cells):
            self.found.append(ReadLine(line, day=began))
            return
        read = self._item(line, cells)
        self.found.append(self._on_its_day(read) if read.item is not None else read)

    def _item(self, line: str, text: str) -> ReadLine:
        text = " ".join(_clock_of_share(w) if _SHARE_OF_DAY.match(w) else w for w in text.split())
        start, lasts_min, text = _times_in(text, self._clock, self._before)
        if start is None:
            return ReadLine(line, fault=message("no time, such as 09:12"))
        text, km, minutes = _measures_in(text)
        kind, number, name = _named(" ".join(text.split()), counted=self._counted)
        called = name or number
        if kind == "stage" and not called:
            return ReadLine(line, fault=message("no name"))
        if kind == "control":
            # The way there is none of its own.
            km = minutes = 0.0
        elif kind != "stage":
            minutes = minutes or lasts_min
        return ReadLine(line, item=Item(kind, called, datetime.combine(self._day, start), minutes, 1000.0 * km, number))

    def _on_its_day(self, read: ReadLine) -> ReadLine:
        """Behind midnight another day begins."""
        assert read.item is not None
        clock = read.item.start.time()
        if clock < self._before and self._before > time(12):
            self._day += timedelta(days=1)
            read = replace(read, item=replace(read.item, start=datetime.combine(self._day, clock)))
        self._before = clock
        return read


def _times_in(text: str, clock: re.Pattern[str], before: time) -> tuple[time | None, float, str]:
    """When a line's item starts, ``None`` where no time stands there; the minutes that it says it takes, 0 for none; and the line without
    its times. ``before`` is when the item before it starts."""
    found = list(clock.finditer(text))
    until = next(((a, b) for a, b in pairwise(found) if _UNTIL.fullmatch(text, a.end(), b.start())), None)
    if until is not None:
        start, end = map(_minute_of, until)
        between = text[until[0].end() : until[1].start()]
        return _at(start), float((end - start) % (24 * 60)), clock.sub(" ", text.replace(between, " ", 1))
    if found and clock is _DOTTED:
        # A length with a point is none of the times: the first thing in the line is one, else the last.
        chosen = found[0] if found[0].start() == 0 else found[-1]
        return _at(_minute_of(chosen)), 0.0, text.replace(chosen[0], " ", 1)
    start_at, lasts_min = _start_of([_minute_of(f) for f in found], before)
    return start_at, lasts_min, clock.sub(" ", text)


def _start_of(minutes: Sequence[int], before: time) -> tuple[time | None, float]:
    """Which of a line's times its item starts at, and how many minutes it takes by another one."""
    lasts = [m for m in minutes if _is_how_long(m, minutes, 60 * before.hour + before.minute)]
    # Of two times of the day the second is when the next control is due.
    start = next((_at(m) for m in minutes if m not in lasts), before if lasts else None)
    return start, float(lasts[0]) if lasts else 0.0


def _is_how_long(minute: int, line: Sequence[int], before: int) -> bool:
    """Whether a time of a line is how long something takes, by the other times there, or by the item before where it stands alone."""
    others = [m for m in line if m != minute] or ([before] if before <= EVENING_MIN else [])
    return minute <= LONGEST_WAY_MIN and any(other - minute >= APART_MIN for other in others)


def _minute_of(clock: re.Match[str]) -> int:
    hour = int(clock[1])
    if clock[3]:
        hour = hour % 12 + 12 * (clock[3].lower() == "p")
    return 60 * hour + int(clock[2])


def _at(minute: int) -> time:
    return time(minute // 60, minute % 60)


def _day_in(text: str, today: date) -> date | None:
    """The day that a text names; ``None`` where it names none."""
    words = text.split()
    written = next((_date_of(match, order) for pattern, order in _DATES if (match := pattern.search(text))), None)
    written = written or _date_in_words(text, today)
    serial = next((s for word in words if (s := _SERIAL.match(word))), None)
    if written is not None or serial is None:
        return written or _weekday(words[0] if words else "", today)
    return (_SERIAL_BEGINS + timedelta(days=float(serial[0]))).date()


def _date_of(match: re.Match[str], order: tuple[int, int, int]) -> date | None:
    try:
        return date(*(int(match[i]) for i in order))
    except ValueError:
        return None


def _date_in_words(text: str, today: date) -> date | None:
    """A day with its month in letters; without its year the one nearest to this day."""
    match = _IN_WORDS.search(text)
    if match is None:
        return None
    name, day = (match[2] or match[3]).lower(), int(match[1] or match[4])
    month = next(n for n, names in enumerate(_MONTHS, start=1) if any(known.startswith(name) for known in names))
    years = [int(match[5])] if match[5] else [today.year - 1, today.year, today.year + 1]
    return min(_days(years, month, day), key=lambda d: abs(d - today), default=None)


def _days(years: Sequence[int], month: int, day: int) -> Iterator[date]:
    for year in years:
        try:
            yield date(year, month, day)
        except ValueError:
            continue


def _weekday(word: str, today: date) -> date | None:
    """The next day of that name; ``None`` where it is none."""
    name = word.lower().strip(",.:")
    ahead = next((i for i, names in enumerate(_DAYS) if name in names), None)
    return today + timedelta(days=(ahead - today.weekday()) % 7) if ahead is not None else None


def _without_day(text: str) -> str:
    """A line without the day that it names; the time of a spreadsheet's date stays."""
    for pattern in (*(pattern for pattern, _ in _DATES), _IN_WORDS):
        text = pattern.sub(" ", text, count=1)
    words = text.split()
    kept = [_time_of_serial(w) if _SERIAL.match(w) else w for w in words]
    if kept and kept[0].lower().strip(",.:") in _DAY_NAMES:
        kept = kept[1:]
    return " ".join(k for k in kept if k)


def _time_of_serial(word: str) -> str:
    moment = _SERIAL_BEGINS + timedelta(seconds=round(float(word) * 86_400))
    return f"{moment:%H:%M}" if "." in word else ""


def _taken(text: str, pattern: re.Pattern[str]) -> tuple[str, float]:
    """A text without the first thing that a pattern finds, and its number; 0 where there is none."""
    match = pattern.search(text)
    return (text.replace(match[0], " ", 1), float(match[1].replace(",", "."))) if match is not None else (text, 0.0)


def _measures_in(text: str) -> tuple[str, float, float]:
    """A text without its lengths and minutes, the first length in km and the first minutes; 0 where there is none."""
    pattern = _KM if _KM.search(text) else _BARE_KM
    text, km = _taken(text, pattern)
    text, minutes = _taken(pattern.sub(" ", text), _MINUTES)
    return text, km, minutes


def _clock_of_share(word: str) -> str:
    minutes = round(float(word) * 24 * 60)
    return f"{minutes // 60:02d}:{minutes % 60:02d}"


def _named(text: str, *, counted: bool) -> tuple[Kind, str, str]:
    """What a text names: its kind, its number and the name that is left."""
    bare = _BARE_NUMBER.match(text) if counted else None
    if bare is not None:
        return "control", bare[1], text[bare.end() :].strip(" -–—:,.()")
    numbered = next((m for m in (_NUMBERED.match(text[i:]) for i in _word_starts(text)) if m), None)
    number = numbered[2] if numbered is not None else ""
    kind = _kind_of(text, numbered[1].lower() if numbered is not None else "")
    text = text.replace(numbered[0], " ", 1) if numbered is not None else text
    if kind == "stage":
        # “Stage” is what it is and no part of its name; “Service A” is a name.
        text = _START.sub(" ", re.sub(_any_of(WORDS["stage"]), " ", text, flags=re.IGNORECASE))
    return kind, number, " ".join(text.split()).strip(" -–—:,.()")


def _kind_of(text: str, sign: str) -> Kind:
    """What an item is, by the words of a kind, else by the letters before its number; a stage where nothing says it."""
    said: Kind | None = next((kind for kind, words in WORDS.items() if re.search(_any_of(words), text, re.IGNORECASE)), None)
    by_number: Kind | None = None if not sign else "control" if sign in _IS_CONTROL else "stage"
    if by_number == "control" and _IN_OR_OUT.search(text.strip(" -–—:,.()")):
        return "control"
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
