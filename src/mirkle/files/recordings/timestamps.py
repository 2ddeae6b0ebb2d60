"""Times as loggers and telephones write them: of day, with a date in any order, with am and pm, elapsed, since 1970."""

from __future__ import annotations

import re
from datetime import UTC, date, datetime

import numpy as np
from numpy.typing import NDArray

DAY_S = 86_400.0
_DAY = re.compile(r"^(\d{1,4})[-./](\d{1,2})[-./](\d{1,4})[T ,;]+")
# A day with its month in letters: "27-Nov-2026", "27 Nov 2026", "Nov 27, 2026".
_DAY_IN_WORDS = re.compile(r"^(?:(\d{1,2})[-. ](?:de )?([^\W\d_]{3,10})\.?[-. ,](?:de )?|([^\W\d_]{3,10})\.? (\d{1,2}),? )(\d{4})[T ,;]+")
_MONTHS = (
    ("jan",), ("feb", "fev"), ("mar",), ("apr", "abr"), ("may", "mai"), ("jun",),
    ("jul",), ("aug", "ago"), ("sep", "set"), ("oct", "out"), ("nov",), ("dec", "dez"),
)  # fmt: skip
_CLOCK = re.compile(
    r"^(?:(\d{1,3}):)?(\d{1,2}):(\d{1,2})(?:[.,:](\d{1,9}))?\s*([ap])?\.?m?\.?\s*(Z|UTC|GMT|[+-]\d\d:?\d\d)?$", re.IGNORECASE
)
# Numbers above these are milliseconds, microseconds or nanoseconds since 1970.
_SINCE_1970 = ((1e17, 1e-9), (1e14, 1e-6), (1e11, 1e-3))


def looks_like_moment(text: str) -> bool:
    """Whether a cell is a time that is written with colons."""
    return ":" in text and moment_s(text) is not None


def moment_s(text: str) -> float | None:
    """Seconds since 1970 of a written time, or since midnight, or since the beginning, where it has no date; ``None`` where it is none.

    Of two figures that may both be the month the first is the day, unless am or pm stand behind: whoever writes those, writes
    the month first. # common practice
    """
    text = text.strip().strip('"')
    if not text or len(text) > 60:
        return None
    try:
        moment = datetime.fromisoformat(text)
    except ValueError:
        pass
    else:
        if len(text) > 10:
            return (moment if moment.tzinfo else moment.replace(tzinfo=UTC)).timestamp()
    days, rest = 0.0, text
    dated = _DAY.match(text) or _DAY_IN_WORDS.match(text)
    if dated:
        rest = text[dated.end() :]
        day = _day_of(dated, month_first=rest.rstrip(". ").lower().endswith("m"))
        if day is None:
            return None
        days = (day - date(1970, 1, 1)).days * DAY_S
    clock = _CLOCK.match(rest.strip())
    if clock is None:
        return None
    hours, minutes, seconds = int(clock[1] or 0), int(clock[2]), int(clock[3])
    if clock[1] is None and dated:
        # With a date in front two figures are hours and minutes.
        hours, minutes, seconds = minutes, seconds, 0
    if clock[5]:
        hours = hours % 12 + 12 * (clock[5].lower() == "p")
    part = float(f"0.{clock[4]}") if clock[4] else 0.0
    return days + 3600.0 * hours + 60.0 * minutes + seconds + part


def _day_of(dated: re.Match[str], *, month_first: bool) -> date | None:
    """The day that a match of a date says, ``None`` where there is no such day."""
    if dated.re is _DAY:
        return _day(int(dated[1]), int(dated[2]), int(dated[3]), month_first=month_first)
    name = (dated[2] or dated[3]).lower()[:3]
    month = next((n for n, names in enumerate(_MONTHS, start=1) if name in names), None)
    return _day(int(dated[5]), month, int(dated[1] or dated[4]), month_first=False) if month is not None else None


def _day(a: int, b: int, c: int, *, month_first: bool) -> date | None:
    if a > 31:
        year, month, day = a, b, c
    else:
        year, (day, month) = c + 2000 * (c < 100), (a, b)
        if (month_first and a <= 12) or b > 12:
            day, month = month, day
    try:
        return date(year, month, day)
    except ValueError:
        return None


def out_of_hhmmss(seconds: NDArray[np.float64]) -> NDArray[np.float64]:
    """Times of day that are written without colons, such as 235959.25, in seconds; others as they are, (n,).

    They are told by their leaps: from 59 seconds to the next minute by 41, and by nothing else.
    """
    known = seconds[np.isfinite(seconds)]
    if len(known) < 3 or known.min() < 0 or known.max() >= 240_000 or np.any(known % 100 >= 60) or np.any(known // 100 % 100 >= 60):
        return seconds
    leaps = np.diff(known)[np.abs(np.diff(known)) > 30.0]
    by_minute = (
        (leaps > 40.0) & (leaps <= 41.0 + np.median(np.diff(known)) + 0.5) | (leaps > 4040.0) & (leaps < 4042.0) | (leaps < -235_000)
    )
    if not len(leaps) or not by_minute.all():
        return seconds
    return seconds // 10_000 * 3600.0 + seconds // 100 % 100 * 60.0 + seconds % 100


def since_begin(seconds: NDArray[np.float64]) -> NDArray[np.float64]:
    """Times that count on over midnight, in seconds whatever they count; (n,), nan where one is missing."""
    out = np.array(seconds, dtype=float)
    known = np.flatnonzero(np.isfinite(out))
    if not len(known):
        return out
    size = float(np.nanmedian(np.abs(out[known])))
    out *= next((factor for least, factor in _SINCE_1970 if size > least), 1.0)
    # A clock without a date leaps back by a day at midnight.
    leaps = np.concatenate([[0.0], np.cumsum(np.diff(out[known]) < -DAY_S / 2)])
    out[known] += DAY_S * leaps
    return out
